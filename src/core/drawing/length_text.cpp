#include "core/drawing/length_text.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>
#include <regex>

namespace prism {

std::optional<WrittenLength> readWrittenLength(const std::string& text) {
    static const std::regex form(
        R"(\s*(?:(\d+)\s*'\s*-?\s*)?(?:(\d*\.?\d+)(?:\s*"|(?=\s+\d+\s*/)|(?=\s*$)))?\s*-?\s*(?:(\d+)\s*/\s*(\d+)\s*)?(")?\s*)");
    std::smatch m;
    if (text.find_first_of("'\"/") == std::string::npos || !std::regex_match(text, m, form))
        return std::nullopt;
    const bool feet = m[1].matched, whole = m[2].matched, fraction = m[3].matched;
    if (!feet && !whole && !fraction) return std::nullopt;
    WrittenLength l;
    l.marked = text.find_first_of("'\"") != std::string::npos;
    auto number = [&](int i) { return std::strtod(m[i].str().c_str(), nullptr); };
    if (feet) l.value += 12 * number(1);
    if (whole) l.value += number(2);
    if (fraction) {
        if (number(4) == 0) return std::nullopt;
        l.value += number(3) / number(4);
    }
    return l;
}

std::string writeFraction(double inches, int halvings, bool feet) {
    const long long parts = 1ll << std::clamp(halvings, 0, 8);
    long long n = std::llround(std::abs(inches) * static_cast<double>(parts));
    std::string s = inches < 0 && n > 0 ? "-" : "";
    if (feet) {
        const long long whole = n / (12 * parts);
        if (whole > 0) s += fmt::format("{}'-", whole);
        n -= whole * 12 * parts;
    }
    const long long in = n / parts, over = n % parts, g = std::gcd(over, parts);
    if (over == 0)
        s += fmt::format("{}", in);
    else if (in > 0)
        s += fmt::format("{} {}/{}", in, over / g, parts / g);
    else
        s += fmt::format("{}/{}", over / g, parts / g);
    return feet ? s + "\"" : s;
}

} // namespace prism
