#include "core/reading/picture_read.h"

#include "core/base/text_scanner.h"
#include "core/reading/released.h"
#include "core/tracing/placing.h"
#include "core/tracing/trace.h"

#include <fmt/format.h>
#include <gdk-pixbuf/gdk-pixbuf.h>

namespace prism {
namespace {

constexpr double kMostPixels = 4e8;
constexpr size_t kBite = 1 << 20; ///< bytes decoded between two looks at whether to go on

/// What the loader tells before it decodes.
struct Announced {
    int width = 0, height = 0;
    int rows = 0; ///< decoded so far
    bool tooLarge() const { return double(width) * height > kMostPixels; }
};

void announced(GdkPixbufLoader* loader, int width, int height, gpointer out) {
    auto* a = static_cast<Announced*>(out);
    *a = {width, height, 0};
    if (a->tooLarge()) gdk_pixbuf_loader_set_size(loader, 1, 1);
}

void decodedTo(GdkPixbufLoader*, int, int y, int, int height, gpointer out) {
    auto* a = static_cast<Announced*>(out);
    a->rows = std::max(a->rows, y + height);
}

double resolution(GdkPixbuf* p, const char* key) {
    const char* v = gdk_pixbuf_get_option(p, key);
    return v ? numberIn(v).value_or(0) : 0;
}

/// Grey values by the luma weights of ITU-R BT.601; what is transparent is paper.
std::vector<std::uint8_t> greyOf(const GdkPixbuf* p) {
    const int w = gdk_pixbuf_get_width(p), h = gdk_pixbuf_get_height(p), n = gdk_pixbuf_get_n_channels(p);
    const int stride = gdk_pixbuf_get_rowstride(p);
    const std::uint8_t* rows = gdk_pixbuf_read_pixels(p);
    std::vector<std::uint8_t> grey(static_cast<size_t>(w) * h);
    auto out = grey.begin();
    for (int y = 0; y < h; ++y) {
        const std::uint8_t* c = rows + static_cast<size_t>(y) * stride;
        for (int x = 0; x < w; ++x, c += n) {
            const int v = (299 * c[0] + 587 * c[1] + 114 * c[2] + 500) / 1000, a = n == 4 ? c[3] : 255;
            *out++ = static_cast<std::uint8_t>((v * a + 255 * (255 - a)) / 255);
        }
    }
    return grey;
}

Result<ScanPixels> decoded(std::string_view bytes, const std::string& format, Progress& progress) {
    GError* error = nullptr;
    const Released<GdkPixbufLoader, g_object_unref> loader(gdk_pixbuf_loader_new());
    Announced size;
    g_signal_connect(loader.get(), "size-prepared", G_CALLBACK(announced), &size);
    g_signal_connect(loader.get(), "area-updated", G_CALLBACK(decodedTo), &size);
    bool good = true;
    for (size_t at = 0; good && at < bytes.size() && !size.tooLarge() && !progress.cancelled(); at += kBite) {
        const std::string_view bite = bytes.substr(at, kBite);
        good = gdk_pixbuf_loader_write(loader.get(), reinterpret_cast<const guchar*>(bite.data()),
                                       bite.size(), &error);
        progress.report(0.4 * double(at) / double(bytes.size()), "Decoding the picture");
    }
    // The loader must be closed in any case; only the first trouble is told.
    good = gdk_pixbuf_loader_close(loader.get(), error ? nullptr : &error) && good;
    const std::string why = error ? error->message : "it is not complete";
    g_clear_error(&error);
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "reading was cancelled");
    if (size.tooLarge())
        return failure(
            ErrorCode::unreadable,
            fmt::format("{} of {} × {} pixels: pictures of more than {:.0f} million pixels are not "
                        "read. Scan at a lower resolution, or cut the sheet in parts",
                        format, size.width, size.height, kMostPixels / 1e6));
    GdkPixbuf* whole = good ? gdk_pixbuf_loader_get_pixbuf(loader.get()) : nullptr;
    if (!whole) return failure(ErrorCode::unreadable, fmt::format("{}: {}", format, why));
    if (size.rows < size.height)
        return failure(ErrorCode::unreadable, fmt::format("{}: the file ends after {} of {} rows of pixels",
                                                          format, size.rows, size.height));
    const Released<GdkPixbuf, g_object_unref> upright(gdk_pixbuf_apply_embedded_orientation(whole));
    ScanPixels s;
    s.width = gdk_pixbuf_get_width(upright.get()), s.height = gdk_pixbuf_get_height(upright.get());
    s.grey = greyOf(upright.get());
    s.dpi_x = resolution(whole, "x-dpi"), s.dpi_y = resolution(whole, "y-dpi");
    if (s.width != gdk_pixbuf_get_width(whole)) std::swap(s.dpi_x, s.dpi_y); // it was turned by a quarter
    return s;
}

/// Pages of a TIFF file after the first, counted along its chain of directories (TIFF 6.0, section 2).
int furtherPages(std::string_view b) {
    if (b.size() < 8 || b[2] == '+' || b[3] == '+') return 0; // the large form is not counted
    const bool little = b.starts_with("II");
    auto number = [&](size_t at, int size) -> size_t {
        size_t v = 0;
        for (int i = 0; i < size && at + i < b.size(); ++i)
            v |= size_t{static_cast<unsigned char>(b[at + i])} << 8 * (little ? i : size - 1 - i);
        return v;
    };
    int pages = -1;
    for (size_t at = number(4, 4); at > 0 && at + 2 < b.size() && pages < 9999; ++pages)
        at = number(at + 2 + 12 * number(at, 2), 4);
    return std::max(0, pages);
}

bool mostlyDark(const ScanPixels& s) {
    size_t dark = 0;
    for (std::uint8_t v : s.grey) dark += v < 110;
    return dark > s.grey.size() / 2;
}

} // namespace

std::string pictureFormat(std::string_view b) {
    const std::pair<const char*, std::string_view> known[] = {
        {"PNG", "\x89PNG\r\n"}, {"JPEG", "\xFF\xD8\xFF"}, {"TIFF", {"II*\0", 4}}, {"TIFF", {"MM\0*", 4}},
        {"TIFF", {"II+\0", 4}}, {"TIFF", {"MM\0+", 4}}}; // + marks the form for large files
    for (const auto& [name, signature] : known)
        if (b.starts_with(signature)) return name;
    return {};
}

Drawing sheetOf(ScanPixels scan, const PictureChoices& choices, Progress& progress) {
    scan.light_on_dark = mostlyDark(scan);
    measureAskew(scan, progress);
    Drawing d;
    d.unit_code = 4, d.on_paper = true; // mm ($INSUNITS)
    d.layouts = {"Model"}, d.layout = "Model";
    d.layers.push_back({});
    d.layers[0].name = "0";
    d.pictures = placed(std::make_shared<const ScanPixels>(std::move(scan)), "scan", choices);
    return d;
}

Drawing placedAnew(const Drawing& d, const PictureChoices& choices) {
    Drawing r = d;
    if (!d.pictures.empty()) r.pictures = placed(d.pictures[0].scan, "scan", choices);
    return r;
}

Result<Drawing> readPicture(std::string_view bytes, const PictureChoices& choices, Progress& progress) {
    const std::string format = pictureFormat(bytes);
    auto scan = decoded(bytes, format, progress);
    if (!scan) return tl::make_unexpected(scan.error());
    Drawing d = sheetOf(std::move(*scan), choices, progress);
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "reading was cancelled");
    d.format = format;
    if (const int more = format == "TIFF" ? furtherPages(bytes) : 0)
        d.not_read.push_back({"page", more, "the file holds further pictures; only its first is read"});
    return d;
}

} // namespace prism
