#include "core/reading/dxf_binary.h"

#include <bit>
#include <cstdint>
#include <cstring>
#include <fmt/format.h>
#include <iterator>

namespace prism::dxf {
namespace {

static_assert(std::endian::native == std::endian::little, "values are stored little-endian");

constexpr size_t kSentinel = 22;

enum class Value { text, real, bool8, int16, int32, int64, chunk };

struct Range {
    int from, to;
    Value value;
};

// Source: the published DXF reference, "Group Code Value Types".
constexpr Range kRanges[] = {
    {10, 59, Value::real},      {60, 79, Value::int16},    {90, 99, Value::int32},
    {110, 149, Value::real},    {160, 169, Value::int64},  {170, 179, Value::int16},
    {210, 239, Value::real},    {270, 289, Value::int16},  {290, 299, Value::bool8},
    {310, 319, Value::chunk},   {370, 389, Value::int16},  {400, 409, Value::int16},
    {420, 429, Value::int32},   {440, 459, Value::int32},  {460, 469, Value::real},
    {1004, 1004, Value::chunk}, {1010, 1059, Value::real}, {1060, 1070, Value::int16},
    {1071, 1071, Value::int32}};

Value valueOf(int code) {
    for (const Range& r : kRanges)
        if (code >= r.from && code <= r.to) return r.value;
    return Value::text;
}

/// The bytes after the sentinel, taken from the front.
class Source {
  public:
    Source(std::string_view bytes, size_t at) : bytes_(bytes), at_(at) {
        // Group 0 "SECTION" comes first: a one-byte code is followed by the S, a two-byte one by a zero.
        wide_ = at + 1 < bytes.size() && bytes[at] == '\0' && bytes[at + 1] == '\0';
    }
    size_t at() const { return at_; }
    bool atEnd() const { return at_ >= bytes_.size(); }
    bool broken() const { return broken_; }

    template <class T> T take() {
        T v{};
        if (bytes_.size() - at_ < sizeof v) return broken_ = true, v;
        std::memcpy(&v, bytes_.data() + at_, sizeof v);
        at_ += sizeof v;
        return v;
    }
    int code() {
        if (wide_) return take<std::int16_t>();
        const int c = take<std::uint8_t>();
        return c == 255 ? take<std::int16_t>() : c;
    }
    std::string_view text() {
        const size_t end = bytes_.find('\0', at_);
        if (end == std::string_view::npos) return broken_ = true, std::string_view{};
        const auto s = bytes_.substr(at_, end - at_);
        at_ = end + 1;
        return s;
    }
    std::string_view chunk() {
        const size_t n = take<std::uint8_t>();
        if (bytes_.size() - at_ < n) return broken_ = true, std::string_view{};
        at_ += n;
        return bytes_.substr(at_ - n, n);
    }

  private:
    std::string_view bytes_;
    size_t at_;
    bool wide_ = false, broken_ = false;
};

void writeText(std::string_view s, std::string& out) {
    for (char c : s) out += c == '\n' || c == '\r' ? ' ' : c; // a line break would tear the group apart
}

void writeValue(int code, Source& s, std::string& out) {
    auto to = std::back_inserter(out);
    switch (valueOf(code)) {
    case Value::text:
        writeText(s.text(), out);
        break;
    case Value::real:
        fmt::format_to(to, "{}", s.take<double>());
        break;
    case Value::bool8:
        fmt::format_to(to, "{}", s.take<std::uint8_t>());
        break;
    case Value::int16:
        fmt::format_to(to, "{}", s.take<std::int16_t>());
        break;
    case Value::int32:
        fmt::format_to(to, "{}", s.take<std::int32_t>());
        break;
    case Value::int64:
        fmt::format_to(to, "{}", s.take<std::int64_t>());
        break;
    case Value::chunk:
        for (char c : s.chunk()) fmt::format_to(to, "{:02X}", static_cast<unsigned char>(c));
        break;
    }
}

} // namespace

bool isBinary(std::string_view bytes) {
    return bytes.substr(0, kSentinel).find(" Binary DXF") != std::string_view::npos;
}

Result<std::string> asciiFromBinary(std::string_view bytes) {
    if (bytes.size() <= kSentinel)
        return failure(ErrorCode::unreadable, "binary DXF: the file ends after its first line");
    std::string out;
    out.reserve(bytes.size() * 2);
    Source s(bytes, kSentinel);
    while (!s.atEnd()) {
        const size_t at = s.at();
        const int code = s.code();
        fmt::format_to(std::back_inserter(out), "{}\n", code);
        const size_t value = out.size();
        writeValue(code, s, out);
        if (s.broken() || code < -10 || code > 1071)
            return failure(ErrorCode::unreadable,
                           fmt::format("binary DXF: the file is cut off or broken at byte {} (group code {})",
                                       at, code));
        const bool end = code == 0 && std::string_view(out).substr(value) == "EOF";
        out += '\n';
        if (end) return out;
    }
    return failure(
        ErrorCode::unreadable,
        fmt::format("binary DXF: the file is cut off: it ends at byte {} without the end marker (EOF)",
                    bytes.size()));
}

} // namespace prism::dxf
