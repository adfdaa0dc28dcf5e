#include "core/reading/dxf_tags.h"

#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace prism::dxf {
namespace {

std::string_view trimmed(std::string_view s) {
    while (!s.empty() && (s.front() == ' ' || s.front() == '\t')) s.remove_prefix(1);
    while (!s.empty() && (s.back() == ' ' || s.back() == '\t' || s.back() == '\r')) s.remove_suffix(1);
    return s;
}

} // namespace

std::string wrongFormat(std::string_view b) {
    if (b.empty()) return "the file is empty (0 bytes)";
    if (b.size() >= 6 && b.starts_with("AC10") && isdigit(b[4]) && isdigit(b[5]))
        return fmt::format(
            "this is a closed binary drawing format (signature {}). Ask for the drawing as DXF",
            b.substr(0, 6));
    const size_t nul = b.find('\0');
    if (nul != std::string_view::npos) return fmt::format("not a text file: a zero byte at offset {}", nul);
    return {};
}

double toNumber(std::string_view s) {
    s = trimmed(s);
    if (!s.empty() && s.front() == '+') s.remove_prefix(1);
    double v = 0;
    const auto r = std::from_chars(s.data(), s.data() + s.size(), v);
    return r.ec == std::errc{} && std::isfinite(v) ? v : 0;
}

int toInteger(std::string_view s) {
    return static_cast<int>(std::clamp(toNumber(s), -2147483000.0, 2147483000.0));
}

Result<std::vector<Tag>> readTags(std::string_view bytes) {
    if (bytes.starts_with("\xEF\xBB\xBF")) bytes.remove_prefix(3);
    std::vector<Tag> tags;
    tags.reserve(bytes.size() / 14);
    size_t at = 0;
    int line = 0;
    auto nextLine = [&](std::string_view& out) {
        if (at >= bytes.size()) return false;
        size_t end = bytes.find('\n', at);
        if (end == std::string_view::npos) end = bytes.size();
        out = bytes.substr(at, end - at);
        at = end + 1;
        ++line;
        if (!out.empty() && out.back() == '\r') out.remove_suffix(1);
        return true;
    };
    std::string_view section = "the file's head";
    std::string_view code, value;
    while (nextLine(code)) {
        const std::string_view c = trimmed(code);
        int n = 0;
        const auto r = std::from_chars(c.data(), c.data() + c.size(), n);
        if (c.empty() && at >= bytes.size()) break; // trailing blank line
        if (r.ec != std::errc{} || r.ptr != c.data() + c.size())
            return failure(ErrorCode::unreadable,
                           fmt::format("line {}: a group code (a whole number) was expected, found \"{}\"",
                                       line, c.substr(0, 24)));
        if (!nextLine(value))
            return failure(ErrorCode::unreadable,
                           fmt::format("the file ends at line {} in {}, after a group code without its value",
                                       line, section));
        if (n == 2 && !tags.empty() && tags.back().code == 0 && tags.back().value == "SECTION")
            section = value;
        tags.push_back(
            {n, n == 0 || n == 2 || n == 8 || n == 6 || n == 5 ? trimmed(value) : value, line - 1});
        if (n == 0 && tags.back().value == "EOF") return tags;
    }
    if (tags.empty() || tags.front().code != 0)
        if (tags.empty() || tags.front().code != 999)
            return failure(ErrorCode::unreadable, "line 1: no DXF section starts here");
    return failure(
        ErrorCode::unreadable,
        fmt::format("the file is cut off: it ends at line {} in section {}, without the end marker (EOF)",
                    line, section));
}

} // namespace prism::dxf
