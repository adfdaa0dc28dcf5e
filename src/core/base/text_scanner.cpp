#include "core/base/text_scanner.h"

#include <charconv>
#include <cmath>

namespace prism {
namespace {

bool isSpace(char c) {
    return c == ' ' || (c >= '\t' && c <= '\r');
}

char capital(char c) {
    return c >= 'a' && c <= 'z' ? static_cast<char>(c - 'a' + 'A') : c;
}

bool isWordPart(char c) {
    return TextScanner::isDigit(c) || TextScanner::isLetter(c);
}

std::optional<double> finite(const std::string& digits) {
    double v = 0;
    const auto r = std::from_chars(digits.data(), digits.data() + digits.size(), v);
    if (r.ec != std::errc{} || r.ptr != digits.data() + digits.size() || !std::isfinite(v))
        return std::nullopt;
    return v;
}

/// Digits and separators from the front, as from_chars wants them. A separator that stands before just three
/// digits and the other separator groups thousands.
std::string plainDigits(std::string_view s, size_t& used) {
    std::string r;
    size_t i = 0;
    auto digits = [&](size_t from) {
        size_t n = 0;
        while (from + n < s.size() && TextScanner::isDigit(s[from + n])) ++n;
        return n;
    };
    auto separator = [&](size_t at) { return at < s.size() && (s[at] == '.' || s[at] == ','); };
    size_t n = digits(0);
    r += s.substr(0, n), i = n;
    while (n > 0 && n <= 3 && separator(i) && digits(i + 1) == 3 && separator(i + 4) && digits(i + 5) > 0) {
        r += s.substr(i + 1, 3);
        const bool last = s[i + 4] != s[i];
        i += 4;
        if (last) break;
    }
    if (separator(i) && digits(i + 1) > 0) {
        const size_t d = digits(i + 1);
        r += (r.empty() ? "0." : "."), r += s.substr(i + 1, d), i += 1 + d;
    }
    used = i;
    return r;
}

} // namespace

void TextScanner::skipSpaces() {
    while (!atEnd() && isSpace(text_[at_])) ++at_;
}

bool TextScanner::take(std::string_view what) {
    if (!rest().starts_with(what)) return false;
    at_ += what.size();
    return true;
}

bool TextScanner::takeWord(std::string_view word) {
    const std::string_view r = rest();
    if (r.size() < word.size() || (r.size() > word.size() && isWordPart(r[word.size()]))) return false;
    for (size_t i = 0; i < word.size(); ++i)
        if (capital(r[i]) != capital(word[i])) return false;
    at_ += word.size();
    return true;
}

std::optional<long long> TextScanner::whole() {
    constexpr size_t kMostDigits = 15;
    size_t end = at_;
    long long v = 0;
    for (; end < text_.size() && isDigit(text_[end]); ++end)
        if (end - at_ < kMostDigits) v = 10 * v + (text_[end] - '0');
    if (end == at_ || end - at_ > kMostDigits) return std::nullopt;
    at_ = end;
    return v;
}

std::optional<double> TextScanner::number() {
    size_t used = 0;
    const auto v = finite(plainDigits(rest(), used));
    if (v) at_ += used;
    return v;
}

std::optional<double> TextScanner::signedNumber() {
    const size_t start = at_;
    const bool minus = take("-");
    if (!minus) take("+");
    size_t used = 0;
    std::string digits = plainDigits(rest(), used);
    const size_t mantissa = at_ + used;
    size_t e = mantissa;
    if (e < text_.size() && (text_[e] == 'e' || text_[e] == 'E')) {
        ++e;
        if (e < text_.size() && (text_[e] == '-' || text_[e] == '+')) ++e;
        const size_t first = e;
        while (e < text_.size() && isDigit(text_[e])) ++e;
        if (e > first) {
            std::string exponent(text_.substr(mantissa, e - mantissa));
            std::erase(exponent, '+');
            digits += exponent;
        } else
            e = mantissa;
    }
    const auto v = used > 0 ? finite(digits) : std::nullopt;
    at_ = v ? e : start;
    return v && minus ? -*v : v;
}

std::optional<double> numberIn(std::string_view text) {
    if (text.size() > TextScanner::kLongest) return std::nullopt;
    TextScanner s(text);
    s.skipSpaces();
    const auto v = s.signedNumber();
    s.skipSpaces();
    return s.atEnd() ? v : std::nullopt;
}

std::optional<double> ratioIn(std::string_view text, std::string_view signs) {
    TextScanner s(text);
    while (!s.atEnd()) {
        const auto over = s.number();
        if (!over) {
            s.moveTo(s.position() + 1);
            continue;
        }
        const size_t behind = s.position();
        s.skipSpaces();
        if (signs.find(s.peek()) != std::string_view::npos && !s.atEnd()) {
            s.moveTo(s.position() + 1);
            s.skipSpaces();
            if (const auto under = s.number(); under && *over > 0 && *under > 0) return *over / *under;
        }
        s.moveTo(behind);
    }
    return std::nullopt;
}

std::string capitals(std::string_view text) {
    std::string r(text);
    for (char& c : r) c = capital(c);
    return r;
}

size_t findWord(std::string_view text, std::string_view word) {
    for (size_t at = text.find(word); at != std::string_view::npos; at = text.find(word, at + 1)) {
        const size_t end = at + word.size();
        if ((at == 0 || !isWordPart(text[at - 1])) && (end == text.size() || !isWordPart(text[end])))
            return at;
    }
    return std::string_view::npos;
}

} // namespace prism
