#pragma once
#include "core/checking/finding.h"
#include "core/diagnosing/diagnose.h"
#include "core/diagnosing/repairing.h"
#include "support/samples.h"

// Sheets as they are checked, and what is found on them.
namespace prism::test {

/// What the checks look at; the document must outlive it.
CheckInput inputOf(const Document& d);
Diagnosis diagnosed(const Document& d);
/// Opened as far as the checks need it.
Document checked(const std::string& path);
/// The same of DXF text.
Document drawnSheet(const std::string& dxf);
/// Errors and warnings.
std::vector<const Finding*> serious(const Diagnosis& d);
/// All that is found, a line each.
std::string told(const Diagnosis& d);

/// Applies the repairs of some kinds, or of all, and tells which there were.
std::vector<Repaired> repaired(Document& d, const std::set<std::string>& kinds = {});
/// Whether two figures have the same lines in every view, each of one found on the other.
bool sameLines(const Figure& a, const Figure& b);

} // namespace prism::test
