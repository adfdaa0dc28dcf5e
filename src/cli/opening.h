#pragma once
#include "cli/verbs.h"
#include "core/project/document.h"
#include "core/project/propose_for.h"
#include "core/project/suggestion.h"

// What every verb begins and ends with.
namespace prism::cli {

/// A verb's document, and where its steps came from.
struct Opened {
    Document document;
    std::optional<Proposal> proposal;     ///< when the steps were proposed
    std::optional<Completion> completion; ///< when some were added to those that were there
};

/// The document as the request asks for it, computed as far as needed: preset, scan and part applied.
Result<Document> openedSheet(const Request& q, Stage up_to);
/// The same with a build list: of a file, of the project, or proposed.
Result<Opened> openedSolid(const Request& q);

/// Whether the request's outputs may be written: none over what is read, no two to one place. Usage error.
Result<void> outputsApart(const Request& q);
/// Solid and project, as far as asked for.
Result<void> writeOutputs(const Request& q, Document& d);
Result<void> writeSolid(const Model& m, const std::string& path);

} // namespace prism::cli
