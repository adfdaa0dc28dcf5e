#pragma once
#include <optional>
#include <string>

namespace prism {

/// A length as people write it.
struct WrittenLength {
    double value = 0;         ///< in its own unit
    std::optional<double> mm; ///< millimetres in that unit; none when no unit is written
};

/// Reads 1 3/8", 5'-4", 5' 4 1/2", 3/8, 2.5", 4 3/4 in, 120 mm when that is the whole of the text; none for
/// anything else. Plain numbers without a unit are left to numberIn().
std::optional<WrittenLength> readWrittenLength(const std::string& text);

/// Inches, or feet and inches, with a fraction of the finest 2^-`halvings` (at most 8): "1 3/8", "5'-4
/// 1/2\"".
std::string writeFraction(double inches, int halvings, bool feet);

} // namespace prism
