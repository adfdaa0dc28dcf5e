#pragma once
#include <optional>
#include <string>

namespace prism {

/// A length as the trade writes it in inches.
struct WrittenLength {
    double value = 0;    ///< inches, or plain units when not marked
    bool marked = false; ///< carried a foot or inch mark
};

/// Reads 1 3/8", 5'-4", 5' 4 1/2", 3/8, 2.5" when that is the whole of the text; none for anything else,
/// plain numbers included.
std::optional<WrittenLength> readWrittenLength(const std::string& text);

/// Inches, or feet and inches, with a fraction of the finest 2^-`halvings` (at most 8): "1 3/8", "5'-4
/// 1/2\"".
std::string writeFraction(double inches, int halvings, bool feet);

} // namespace prism
