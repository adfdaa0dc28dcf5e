#include "core/reading/read.h"

#include "core/base/text_encoding.h"
#include "core/reading/dxf_binary.h"
#include "core/reading/dxf_file.h"
#include "core/reading/pdf_read.h"
#include "core/reading/picture_read.h"
#include "core/reading/svg_read.h"

#include <fmt/format.h>
#include <zlib.h>

namespace prism {

namespace {

/// Value of a header variable that stands once near the head of a file; empty when it is not there.
std::string_view headValue(std::string_view bytes, std::string_view name) {
    size_t at = bytes.substr(0, 1 << 16).find(name);
    for (int lines = 0; lines < 2 && at != std::string_view::npos; ++lines) {
        at = bytes.find('\n', at);
        if (at != std::string_view::npos) ++at;
    }
    return at == std::string_view::npos ? std::string_view{}
                                        : bytes.substr(at, bytes.find_first_of("\r\n", at) - at);
}

/// Old files are written in the code page that their head names, later ones in UTF-8 (from AC1021 on); stray
/// lines of those that are not are mended one by one.
std::string withUtf8Texts(std::string_view bytes) {
    const std::string page = codePageNamed(headValue(bytes, "$DWGCODEPAGE"));
    if (headValue(bytes, "$ACADVER") < "AC1021") return utf8From(bytes, page);
    std::string out;
    out.reserve(bytes.size());
    while (!bytes.empty()) {
        const size_t end = std::min(bytes.find('\n'), bytes.size() - 1) + 1;
        const std::string_view line = bytes.substr(0, end);
        out += isUtf8(line) ? std::string(line) : utf8From(line, page);
        bytes.remove_prefix(end);
    }
    return out;
}

/// Farther from the origin than any sheet lies, in whatever unit; sums and squares of such numbers overflow.
constexpr double kFarthest = 1e12;

bool within(Vec2 p) {
    return std::abs(p.x) < kFarthest && std::abs(p.y) < kFarthest; // false for what is no number
}

bool within(const Curve& c) {
    const Box2 b = boxOf(c);
    const auto* a = std::get_if<Arc>(&c);
    // A box does not grow by what is no number; a length does not hide it.
    return within(b.lo) && within(b.hi) && std::isfinite(lengthOf(c)) &&
           (!a || (within(a->centre) && a->radius < kFarthest));
}

/// What lies out of all bounds is told as not read; entities keep their ids.
void leaveOutBeyond(Drawing& d) {
    std::map<std::string, int> beyond;
    for (Entity& e : d.entities)
        if (!std::ranges::all_of(e.curves, [](const Curve& c) { return within(c); }) ||
            (e.point && !within(*e.point))) {
            ++beyond[e.type];
            e.curves.clear(), e.point.reset();
        }
    beyond["TEXT"] += static_cast<int>(std::erase_if(d.texts, [](const SheetText& t) {
        return !within(t.position) || !(t.height < kFarthest) || !std::isfinite(t.rotation);
    }));
    beyond["DIMENSION"] += static_cast<int>(std::erase_if(d.dimensions, [](const Dimension& x) {
        return !std::ranges::all_of(std::array{x.p10, x.p13, x.p14, x.p15, x.p16, x.text_at},
                                    [](Vec2 p) { return within(p); });
    }));
    for (size_t i = 0; i < d.dimensions.size(); ++i) d.dimensions[i].id = static_cast<int>(i);
    for (const auto& [type, n] : beyond)
        if (n > 0) d.not_read.push_back({type, n, "its coordinates lie out of all bounds"});
}

/// The step to which the coordinates of a page were rounded: a power of ten of the units that pages are
/// written in, or the 256th of a point that some writers calculate in. Places are taken from the first one,
/// since the page's own height is seldom round.
double resolutionOf(const Drawing& d) {
    std::array<std::vector<double>, 2> values;
    for (const Entity& e : d.entities)
        for (const Curve& c : e.curves)
            if (const auto* s = std::get_if<Segment>(&c))
                for (Vec2 p : {s->a, s->b}) values[0].push_back(p.x), values[1].push_back(p.y);
    if (values[0].size() < 20) return 0;
    const auto fits = [&](double grid, double slack) {
        size_t on = 0;
        for (const auto& along : values)
            for (double v : along) on += std::abs(std::remainder(v - along[0], grid)) <= slack;
        return static_cast<double>(on) > 0.97 * static_cast<double>(2 * values[0].size());
    };
    constexpr double kPoint = 25.4 / 72, kPixel = 25.4 / 96;
    for (double step : {0.1, 0.01, 0.001, 0.0001}) {
        if (step < 1.0 / 256 && step > 1e-4 && fits(kPoint / 256, 0.0011 * kPoint)) return kPoint / 256;
        for (double unit : {kPoint, kPixel, 1.0})
            if (fits(step * unit, 0.02 * step * unit)) return step * unit;
    }
    return 0;
}

Result<Drawing> readDxf(std::string_view bytes, const ReadingChoices& choices, Progress& progress) {
    std::string ascii, encoded;
    if (dxf::isBinary(bytes)) {
        auto r = dxf::asciiFromBinary(bytes);
        if (!r) return tl::make_unexpected(r.error());
        ascii = std::move(*r);
        bytes = ascii;
    }
    if (const std::string why = dxf::wrongFormat(bytes); !why.empty())
        return failure(ErrorCode::unreadable, why);
    if (!isUtf8(bytes)) {
        encoded = withUtf8Texts(bytes);
        bytes = encoded;
    }
    auto tags = dxf::readTags(bytes);
    if (!tags) return tl::make_unexpected(tags.error());
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "reading was cancelled");
    return dxf::interpret(*tags, choices, progress);
}

} // namespace

namespace {

bool isPacked(std::string_view b) {
    return b.starts_with("\x1F\x8B");
}

/// What a gzip file holds (RFC 1952); as much as a drawing may have at most.
Result<std::string> unpacked(std::string_view bytes) {
    constexpr size_t kMost = size_t{1} << 31;
    z_stream z{};
    if (inflateInit2(&z, 15 + 16) != Z_OK)
        return failure(ErrorCode::unreadable, "the packed file cannot be unpacked");
    z.next_in = reinterpret_cast<Bytef*>(const_cast<char*>(bytes.data()));
    z.avail_in = static_cast<uInt>(bytes.size());
    std::string out;
    std::vector<char> buffer(1 << 16);
    int r = Z_OK;
    while (r == Z_OK && out.size() < kMost) {
        z.next_out = reinterpret_cast<Bytef*>(buffer.data()), z.avail_out = static_cast<uInt>(buffer.size());
        r = inflate(&z, Z_NO_FLUSH);
        out.append(buffer.data(), buffer.size() - z.avail_out);
    }
    inflateEnd(&z);
    if (r == Z_STREAM_END) return out;
    return failure(ErrorCode::unreadable, out.size() >= kMost ? "the packed file holds more than 2 GiB"
                                                              : "the packed file is damaged or cut off");
}

/// Texts in two bytes a character are told by their mark (UTF-16, RFC 2781).
std::string wideEncoding(std::string_view b) {
    return b.starts_with("\xFF\xFE") ? "UTF-16LE" : b.starts_with("\xFE\xFF") ? "UTF-16BE" : "";
}

} // namespace

Result<Drawing> readDrawing(std::string_view bytes, const ReadingChoices& choices, Progress& progress) {
    progress.report(0, "Reading the sheet");
    if (isPacked(bytes)) {
        const auto whole = unpacked(bytes);
        if (!whole) return tl::make_unexpected(whole.error());
        if (isPacked(*whole)) return failure(ErrorCode::unreadable, "the file is packed twice over");
        return readDrawing(*whole, choices, progress);
    }
    if (const std::string page = wideEncoding(bytes); !page.empty()) {
        const std::string text = utf8From(bytes.substr(2), page);
        if (!wideEncoding(text).empty())
            return failure(ErrorCode::unreadable, "not a text in any known encoding");
        return readDrawing(text, choices, progress);
    }
    Result<Drawing> d = isSvg(bytes)                    ? readSvg(bytes, progress)
                        : isPdf(bytes)                  ? readPdf(bytes, choices, progress)
                        : !pictureFormat(bytes).empty() ? readPicture(bytes, choices.picture, progress)
                                                        : readDxf(bytes, choices, progress);
    if (d) leaveOutBeyond(*d);
    if (d && d->on_paper && d->pictures.empty()) d->resolution = resolutionOf(*d);
    return d;
}

} // namespace prism
