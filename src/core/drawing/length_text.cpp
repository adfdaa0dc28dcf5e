#include "core/drawing/length_text.h"

#include "core/base/text_scanner.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>
#include <utility>

namespace prism {

namespace {

/// 12, 12.5, 3/8 or 12 3/8; `fraction` tells whether a stroke was in it.
std::optional<double> wholeAndFraction(TextScanner& s, bool& fraction) {
    const size_t start = s.position();
    auto stroke = [&]() -> std::optional<double> {
        const size_t here = s.position();
        const auto over = s.whole();
        s.skipSpaces();
        const auto under = over && s.take("/") ? (s.skipSpaces(), s.whole()) : std::nullopt;
        if (under && *under > 0) return static_cast<double>(*over) / static_cast<double>(*under);
        s.moveTo(here);
        return std::nullopt;
    };
    if (const auto f = stroke()) return fraction = true, f;
    const auto whole = s.number();
    if (!whole) return s.moveTo(start), std::nullopt;
    const size_t behind = s.position();
    s.skipSpaces();
    s.take("-");
    s.skipSpaces();
    if (const auto f = s.position() > behind ? stroke() : std::nullopt) return fraction = true, *whole + *f;
    s.moveTo(behind);
    return whole;
}

/// Millimetres in the unit that is written here; none when there is none.
std::optional<double> unitHere(TextScanner& s) {
    s.skipSpaces();
    if (s.take("\"")) return 25.4;
    if (s.take("'")) return 304.8;
    constexpr std::pair<const char*, double> words[] = {{"mm", 1},    {"cm", 10},     {"m", 1000},
                                                        {"in", 25.4}, {"inch", 25.4}, {"ft", 304.8}};
    for (const auto& [word, mm] : words)
        if (s.takeWord(word)) return mm;
    return std::nullopt;
}

} // namespace

std::optional<WrittenLength> readWrittenLength(const std::string& text) {
    if (text.size() > TextScanner::kLongest) return std::nullopt;
    TextScanner s(text);
    s.skipSpaces();
    bool fraction = false;
    auto v = wholeAndFraction(s, fraction);
    if (!v) return std::nullopt;
    WrittenLength l{*v, unitHere(s)};
    if (l.mm == 304.8) { // inches may follow the feet
        l = {12 * *v, 25.4};
        s.skipSpaces(), s.take("-"), s.skipSpaces();
        if (const auto inches = wholeAndFraction(s, fraction)) {
            l.value += *inches;
            if (const auto unit = unitHere(s); unit && *unit != 25.4) return std::nullopt;
        }
    }
    s.skipSpaces();
    return s.atEnd() && (l.mm || fraction) ? std::optional(l) : std::nullopt;
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
