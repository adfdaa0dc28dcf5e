#include "core/base/text_encoding.h"
#include "core/drawing/drawing.h"

#include <regex>

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
        appendUtf8(out, static_cast<unsigned>(std::stoi(s.substr(i + 2, 3))));
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

double number(std::string s) {
    for (char& c : s)
        if (c == ',') c = '.';
    return std::strtod(s.c_str(), nullptr);
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

void readDimensionText(Dimension& d) {
    d.value = d.measured;
    std::string t = d.text;
    static const std::regex count(R"(^\s*(\d+)\s*[xX×]\s*)");
    static const std::regex symmetric(R"(±\s*(\d*[.,]?\d+))");
    static const std::regex stacked(R"(\+\s*(\d*[.,]?\d+)\s*/?\s*-\s*(\d*[.,]?\d+))");
    static const std::regex stackedReversed(R"(\+\s*(\d*[.,]?\d+)\s*/\s*(\d*[.,]?\d+))");
    static const std::regex feet(R"((\d+)\s*'\s*-?\s*)");
    static const std::regex mixed(R"((\d+)[ -](\d+)/(\d+))");
    static const std::regex fraction(R"((\d+)/(\d+))");
    static const std::regex plain(R"(\d+[.,]\d+|[.,]\d+|\d+)");
    std::smatch m;
    if (std::regex_search(t, m, count)) {
        d.count = std::clamp(std::atoi(m[1].str().c_str()), 1, 10000);
        t = m.suffix();
    }
    if (std::regex_search(t, m, symmetric)) {
        d.plus = d.minus = number(m[1]);
        d.has_tolerance = true;
        t = m.prefix();
    } else if (std::regex_search(t, m, stacked) || std::regex_search(t, m, stackedReversed)) {
        d.plus = number(m[1]);
        d.minus = number(m[2]);
        d.has_tolerance = true;
        t = m.prefix();
    }
    const size_t open = t.find('('), close = t.find(')');
    d.reference =
        open != std::string::npos && close != std::string::npos && t.find_first_of("0123456789") > open;
    double inches = 0; // from whole feet before
    if (d.kind != DimensionKind::angular && std::regex_search(t, m, feet)) {
        inches = 12 * number(m[1]);
        t = m.suffix();
        d.value = inches;
    }
    if (std::regex_search(t, m, mixed))
        d.value = inches + number(m[1]) + number(m[2]) / std::max(1.0, number(m[3]));
    else if (std::regex_search(t, m, fraction))
        d.value = inches + number(m[1]) / std::max(1.0, number(m[2]));
    else if (std::regex_search(t, m, plain))
        d.value = inches + number(m[0]);
}

} // namespace prism
