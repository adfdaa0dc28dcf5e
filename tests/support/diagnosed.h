#pragma once
#include "core/diagnosing/diagnose.h"
#include "support/samples.h"

// Sheets as they are checked, and what is found on them.
namespace prism::test {

Diagnosis diagnosed(const Document& d);
/// Opened as far as the checks need it.
Document checked(const std::string& path);
/// The same of DXF text.
Document drawnSheet(const std::string& dxf);
/// Errors and warnings.
std::vector<const Finding*> serious(const Diagnosis& d);
/// All that is found, a line each.
std::string told(const Diagnosis& d);

} // namespace prism::test
