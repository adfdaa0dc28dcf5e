#pragma once
#include <string>

namespace prism {

/// Unit that a drawing file's head declares ($INSUNITS): "inch", "foot", "mm", "cm", "m"; "none" for 0 or
/// others.
std::string unitOfCode(int code);
/// Millimetres in one of the units by name; 0 when the name is not known.
double millimetresIn(const std::string& unit);

} // namespace prism
