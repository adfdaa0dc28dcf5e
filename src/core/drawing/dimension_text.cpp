#include "core/base/text_encoding.h"
#include "core/base/text_scanner.h"
#include "core/drawing/drawing.h"

namespace prism {
namespace {

void appendUtf8(std::string& out, unsigned code) {
    if (code < 0x80)
        out += static_cast<char>(code);
    else if (code < 0x800) {
        out += static_cast<char>(0xC0 | (code >> 6));
        out += static_cast<char>(0x80 | (code & 0x3F));
    } else {
        out += static_cast<char>(0xE0 | (code >> 12));
        out += static_cast<char>(0x80 | ((code >> 6) & 0x3F));
        out += static_cast<char>(0x80 | (code & 0x3F));
    }
}

/// %%c, %%d, %%p, %%% and %%nnn. Returns how many characters were used, 0 when it is none of them.
size_t percentCode(const std::string& s, size_t i, std::string& out) {
    if (s.compare(i, 2, "%%") != 0 || i + 2 >= s.size()) return 0;
    switch (s[i + 2]) {
    case 'c':
    case 'C':
        out += "Ø";
        return 3;
    case 'd':
    case 'D':
        out += "°";
        return 3;
    case 'p':
    case 'P':
        out += "±";
        return 3;
    case 'u':
    case 'U':
    case 'o':
    case 'O':
    case 'k':
    case 'K':
        return 3;
    case '%':
        out += '%';
        return 3;
    default:
        break;
    }
    if (i + 4 < s.size() && isdigit(s[i + 2]) && isdigit(s[i + 3]) && isdigit(s[i + 4])) {
        appendUtf8(out, static_cast<unsigned>(*TextScanner(s.substr(i + 2, 3)).whole()));
        return 5;
    }
    return 0;
}

/// \U+XXXX in any text; for formatted text also the one-letter codes. Returns characters used, 0 when none.
size_t backslashCode(const std::string& s, size_t i, bool formatted, std::string& out) {
    if (s[i] != '\\' || i + 1 >= s.size()) return 0;
    const char c = s[i + 1];
    if ((c == 'U' || c == 'u') && i + 6 < s.size() && s[i + 2] == '+') {
        char* end = nullptr;
        const std::string hex = s.substr(i + 3, 4);
        const unsigned long code = std::strtoul(hex.c_str(), &end, 16);
        if (end == hex.c_str() + 4) {
            appendUtf8(out, static_cast<unsigned>(code));
            return 7;
        }
    }
    if (c == 'M' && i + 7 < s.size() && s[i + 2] == '+') { // two bytes of an East Asian code page
        static const char* const pages[] = {"CP932", "CP950", "CP949", "JOHAB", "CP936"};
        char* end = nullptr;
        const std::string hex = s.substr(i + 4, 4);
        const unsigned long code = std::strtoul(hex.c_str(), &end, 16);
        if (const int page = s[i + 3] - '1'; page >= 0 && page < 5 && end == hex.c_str() + 4) {
            const char bytes[2] = {static_cast<char>(code >> 8), static_cast<char>(code & 0xFF)};
            out += utf8From({bytes, 2}, pages[page]);
            return 8;
        }
    }
    if (!formatted) return 0;
    if (c == 'P' || c == 'N') return out += '\n', 2;
    if (c == '~') return out += ' ', 2;
    if (c == '\\' || c == '{' || c == '}') return out += c, 2;
    if (std::string("LlOoKk").find(c) != std::string::npos) return 2;
    if (c == 'S') { // stacked: upper ^ lower, or a fraction
        const size_t end = s.find(';', i);
        std::string body = s.substr(i + 2, end == std::string::npos ? end : end - i - 2);
        for (char& ch : body)
            if (ch == '^' || ch == '#') ch = '/';
        out += ' ' + body;
        return end == std::string::npos ? s.size() - i : end - i + 1;
    }
    if (std::string("AaCcFfHhQqTtWwpi").find(c) != std::string::npos) {
        const size_t end = s.find(';', i);
        if (end != std::string::npos) return end - i + 1;
    }
    return 0;
}

} // namespace

std::string plainText(const std::string& raw, bool formatted) {
    std::string out;
    for (size_t i = 0; i < raw.size();) {
        if (size_t n = percentCode(raw, i, out))
            i += n;
        else if (size_t m = backslashCode(raw, i, formatted, out))
            i += m;
        else if (formatted && (raw[i] == '{' || raw[i] == '}'))
            ++i;
        else
            out += raw[i++];
    }
    return out;
}

namespace {

/// "6x", "(6X)", "2 ×" at the front: how many there are of what follows. Nothing is taken when it is none.
std::optional<int> countIn(TextScanner& s) {
    const size_t start = s.position();
    s.skipSpaces();
    const bool inside = s.take("(");
    const auto n = s.whole();
    s.skipSpaces();
    const bool times = n && (s.take("x") || s.take("X") || s.take("×")) && !TextScanner::isLetter(s.peek());
    if (times && (!inside || s.take(")"))) {
        s.skipSpaces();
        return static_cast<int>(std::clamp(*n, 1ll, 10000ll));
    }
    s.moveTo(start);
    return std::nullopt;
}

/// ±0.05, +0.2/-0.1, +0.2 -0.1 or +0.2/0.1 from here.
std::optional<std::pair<double, double>> toleranceAt(TextScanner s) {
    if (s.take("±")) {
        s.skipSpaces();
        const auto v = s.number();
        return v ? std::optional(std::pair(*v, *v)) : std::nullopt;
    }
    if (!s.take("+")) return std::nullopt;
    s.skipSpaces();
    const auto plus = s.number();
    s.skipSpaces();
    const bool slash = plus && s.take("/");
    s.skipSpaces();
    const bool minus = s.take("-");
    s.skipSpaces();
    const auto low = plus && (slash || minus) ? s.number() : std::nullopt;
    return low ? std::optional(std::pair(*plus, *low)) : std::nullopt;
}

/// Numerator and denominator with nothing but a stroke between.
std::optional<double> fractionAt(TextScanner& s) {
    const auto over = s.whole();
    const auto under = over && s.take("/") ? s.whole() : std::nullopt;
    if (!under) return std::nullopt;
    return static_cast<double>(*over) / static_cast<double>(std::max(1ll, *under));
}

/// 1 3/8 or 1-3/8.
std::optional<double> mixedAt(TextScanner s) {
    const auto whole = s.whole();
    if (!whole || !(s.take(" ") || s.take("-"))) return std::nullopt;
    const auto f = fractionAt(s);
    return f ? std::optional(static_cast<double>(*whole) + *f) : std::nullopt;
}

/// The first place at which something can be read, with what is read there. Tried at the front of every
/// number.
template <class Read> auto firstOf(std::string_view text, Read read) -> decltype(read(TextScanner(text))) {
    TextScanner s(text);
    bool before = false; // within a run of digits
    for (; !s.atEnd(); s.moveTo(s.position() + 1)) {
        const bool here = s.atDigit();
        if (here && !before)
            if (auto v = read(s)) return v;
        before = here;
    }
    return {};
}

/// Feet in front of the inches; what follows them is left in `text`.
std::optional<double> takeFeet(std::string_view& text) {
    struct Feet {
        double feet;
        size_t end;
    };
    const auto f = firstOf(text, [](TextScanner s) -> std::optional<Feet> {
        const auto n = s.whole();
        s.skipSpaces();
        if (!n || !s.take("'")) return std::nullopt;
        s.skipSpaces(), s.take("-"), s.skipSpaces();
        return Feet{static_cast<double>(*n), s.position()};
    });
    if (!f) return std::nullopt;
    text.remove_prefix(f->end);
    return f->feet;
}

/// A plain number; one that begins with its separator, too.
std::optional<double> plainIn(std::string_view text) {
    for (TextScanner s(text); !s.atEnd(); s.moveTo(s.position() + 1)) {
        const bool separator = s.peek() == '.' || s.peek() == ',';
        if (!s.atDigit() && !separator) continue;
        if (const auto v = s.number()) return v;
        while (s.atDigit()) s.moveTo(s.position() + 1); // digits that are no finite number
    }
    return std::nullopt;
}

/// Whether the number itself stands in parentheses, or is marked as a reference (ISO 129-1, auxiliary
/// dimension). Words in parentheses behind or before it mean something else.
bool isReference(std::string_view t) {
    const size_t open = t.find('('), close = t.find(')', open), digit = t.find_first_of("0123456789");
    if (open < digit && digit < close && close != std::string_view::npos) return true;
    return findWord(capitals(t), "REF") != std::string::npos;
}

} // namespace

void readDimensionText(Dimension& d) {
    d.value = d.measured;
    std::string_view t = std::string_view(d.text).substr(0, TextScanner::kLongest);
    TextScanner front(t);
    if (const auto n = countIn(front)) d.count = *n, t = front.rest();
    for (TextScanner s(t); !s.atEnd(); s.moveTo(s.position() + 1))
        if (const auto tolerance = toleranceAt(s)) {
            std::tie(d.plus, d.minus) = *tolerance;
            d.has_tolerance = true;
            t = t.substr(0, s.position());
            break;
        }
    d.reference = isReference(t);
    double inches = 0; // from whole feet before
    if (d.kind != DimensionKind::angular)
        if (const auto feet = takeFeet(t)) d.value = inches = 12 * *feet;
    std::optional<double> v = firstOf(t, mixedAt);
    if (!v) v = firstOf(t, [](TextScanner s) { return fractionAt(s); });
    if (!v) v = plainIn(t);
    if (v) d.value = inches + *v;
}

} // namespace prism
