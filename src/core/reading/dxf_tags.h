#pragma once
#include "core/base/result.h"

#include <string>
#include <string_view>
#include <vector>

namespace prism::dxf {

/// One group of a DXF file: code line and value line. Views point into the file's bytes.
struct Tag {
    int code = 0;
    std::string_view value;
    int line = 0; ///< line of the code, 1-based
};

/// Splits an ASCII DXF into its groups. Fails with the line for anything that is not text in pairs of lines,
/// for a file without sections, and for one that ends before its end marker.
Result<std::vector<Tag>> readTags(std::string_view bytes);

/// What the first bytes say the file really is; empty when nothing speaks against ASCII DXF.
std::string wrongFormat(std::string_view bytes);

/// Trimmed number; not a number gives 0, as most programs that write DXF expect of readers.
double toNumber(std::string_view s);
int toInteger(std::string_view s);

} // namespace prism::dxf
