#pragma once
#include "core/checking/remedy.h"
#include "core/figure/areas.h"

namespace prism {

enum class Severity {
    error,   ///< the model would be wrong
    warning, ///< a person should look
    note     ///< harmless
};
const char* nameOf(Severity s);

/// One thing that a check says, with its evidence.
struct Finding {
    std::string kind; ///< stable code, as in the batch door: size_mismatch, outline_open ...
    Severity severity = Severity::warning;
    std::string message;
    std::vector<int> views;
    std::vector<std::string> handles;
    std::vector<int> entities; ///< drawing entities concerned
    std::vector<Vec2> at_sheet;
    std::map<std::string, double> numbers;
    std::string repair;           ///< what a person can do about it, where no remedy is offered
    std::vector<Remedy> remedies; ///< the likeliest first
    bool from_proof = false;      ///< told by a solid that agrees with nearly all of the sheet
    /// How it was known that this is the cause: what else was found that goes away with it, in words.
    std::vector<std::string> symptoms;
    std::optional<std::string> accepted; ///< left as it is by a person, with this note
};

/// A name for a finding that survives looking again.
std::string keyOf(const Finding& f, const ViewSet& views);

/// Everything the checks look at.
struct CheckInput {
    const Drawing& drawing;
    const CleanSheet& sheet;
    const ViewSet& views;
    const Figure& figure; ///< as drawn
    const Ledger& ledger; ///< as drawn

    /// The drawing as it is changed by repairs: of a view drawn by half, that half.
    const Drawing& changeable() const { return sheet.without_halves ? *sheet.without_halves : drawing; }
};

/// All checks; the result is sorted by severity, then kind. Changes nothing.
std::vector<Finding> check(const CheckInput& in, Progress& progress);

// Suppositions: what might be the cause of what is found. They are to be tried out: held against the other
// views, the dimensions and the solid.

/// Features that stand elsewhere in one view than in another, as far as one move brings coordinates together
/// that have no counterpart as drawn; not where the sheet is `sound`, for then they need none. Circles beside
/// the place where they are dimensioned.
std::vector<Finding> displacements(const CheckInput& in, bool sound, Progress& progress);
/// Lines that a view may lack: between ends that meet nothing, and along coordinates that only a neighbour
/// shows.
std::vector<Finding> lackingLines(const CheckInput& in, Progress& progress);
/// Lines that end on nothing and, moved square to themselves, would end on others.
std::vector<Finding> strayedLines(const CheckInput& in, Progress& progress);
/// Lines square to an axis at coordinates along it that a view beside does not show.
std::vector<Finding> unmatchedLines(const CheckInput& in, Progress& progress);
/// Hidden lines that bound what is drawn of a view: nothing can lie before its outline.
std::vector<Finding> hiddenOutlines(const CheckInput& in, Progress& progress);
/// Views drawn mirrored, turned or at another scale, or laid out in the other angle.
std::vector<Finding> misdrawnViews(const CheckInput& in, Progress& progress);

namespace checking {
void views(const CheckInput& in,
           std::vector<Finding>& out); ///< sizes, counterparts, mirrored, angle, missing views
void dimensions(const CheckInput& in, std::vector<Finding>& out); ///< texts, chains, loose ones
void written(const CheckInput& in, std::vector<Finding>& out);    ///< counts and tolerances
void outlines(const CheckInput& in, std::vector<Finding>& out);   ///< open ends, duplicates
void notes(const CheckInput& in, std::vector<Finding>& out);      ///< notes that contradict each other
} // namespace checking

} // namespace prism
