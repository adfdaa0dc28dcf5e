#pragma once
#include <string>

namespace prism {

/// What the trade calls a kind of drawn thing that a file has a name of its own for: "chain of lines" for a
/// polyline of whatever sort, "note with leader". The file's own name, in small letters, when there is none.
std::string inWords(const std::string& type);

} // namespace prism
