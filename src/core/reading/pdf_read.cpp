#include "core/reading/pdf_read.h"

#include "core/reading/picture_read.h"
#include "core/reading/released.h"
#include "core/reading/svg_read.h"

#include <cairo-svg.h>
#include <cstring>
#include <fmt/format.h>
#include <poppler.h>

namespace prism {
namespace {

constexpr double kMmPerPoint = 25.4 / 72;
constexpr double kPictureDpi = 300;
constexpr double kMostPagePixels = 1.5e8;

using Document = Released<PopplerDocument, g_object_unref>;
using Page = Released<PopplerPage, g_object_unref>;
using Surface = Released<cairo_surface_t, cairo_surface_destroy>;
using Context = Released<cairo_t, cairo_destroy>;

cairo_status_t append(void* out, const unsigned char* data, unsigned int length) {
    static_cast<std::string*>(out)->append(reinterpret_cast<const char*>(data), length);
    return CAIRO_STATUS_SUCCESS;
}

/// The library that draws pages keeps 1/256 of a unit: pages are drawn so much larger, to lose nothing.
constexpr double kEnlarged = 256;

/// The page's paths, as the library that draws it would write them to an SVG file, enlarged.
std::string drawnAsSvg(PopplerPage* page, double width, double height) {
    std::string svg;
    const Surface surface(
        cairo_svg_surface_create_for_stream(append, &svg, width * kEnlarged, height * kEnlarged));
    {
        const Context context(cairo_create(surface.get()));
        cairo_scale(context.get(), kEnlarged, kEnlarged);
        poppler_page_render_for_printing(page, context.get());
    }
    cairo_surface_finish(surface.get());
    return svg;
}

/// The page as a picture, at the resolution of a good scan or as fine as a very large page allows.
Result<ScanPixels> drawnAsPicture(PopplerPage* page, double width, double height) {
    const double scale = std::min(kPictureDpi / 72, std::sqrt(kMostPagePixels / (width * height)));
    const int w = static_cast<int>(std::ceil(width * scale)), h = static_cast<int>(std::ceil(height * scale));
    const Surface surface(cairo_image_surface_create(CAIRO_FORMAT_RGB24, w, h));
    if (cairo_surface_status(surface.get()) != CAIRO_STATUS_SUCCESS)
        return failure(ErrorCode::unreadable, "PDF: the page is too large to be drawn as a picture");
    {
        const Context context(cairo_create(surface.get()));
        cairo_set_source_rgb(context.get(), 1, 1, 1);
        cairo_paint(context.get());
        cairo_scale(context.get(), scale, scale);
        poppler_page_render(page, context.get());
    }
    cairo_surface_flush(surface.get());
    ScanPixels s;
    s.width = w, s.height = h;
    s.dpi_x = s.dpi_y = 72 * scale;
    s.grey.resize(static_cast<size_t>(w) * h);
    const unsigned char* rows = cairo_image_surface_get_data(surface.get());
    const int stride = cairo_image_surface_get_stride(surface.get());
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            std::uint32_t c;
            std::memcpy(&c, rows + static_cast<size_t>(y) * stride + 4 * static_cast<size_t>(x), 4);
            s.grey[static_cast<size_t>(y) * w + x] = static_cast<std::uint8_t>(
                (299 * (c >> 16 & 255) + 587 * (c >> 8 & 255) + 114 * (c & 255) + 500) / 1000);
        }
    return s;
}

struct Glyph {
    PopplerRectangle box;
    std::string utf8;
};

/// Characters with their boxes, gathered into runs that stand in one line.
void addTexts(PopplerPage* page, double height, Drawing& d) {
    PopplerRectangle* boxes = nullptr;
    guint n = 0;
    const Released<char, g_free> words(poppler_page_get_text(page));
    if (!words || !poppler_page_get_text_layout(page, &boxes, &n)) return;
    const Released<PopplerRectangle, g_free> owned(boxes);
    std::vector<Glyph> glyphs;
    const char* at = words.get();
    for (guint i = 0; i < n && *at; ++i) {
        const char* next = g_utf8_next_char(at);
        glyphs.push_back({boxes[i], std::string(at, next)});
        at = next;
    }
    Layer layer;
    layer.name = "texts";
    const int index = static_cast<int>(d.layers.size());
    SheetText t;
    double right = 0;
    auto finish = [&] {
        const size_t last = t.content.find_last_not_of(" \n");
        t.content.resize(last == std::string::npos ? 0 : last + 1);
        if (!t.content.empty()) d.texts.push_back(t);
        t = {};
    };
    for (const Glyph& g : glyphs) {
        const double size = g.box.y2 - g.box.y1;
        const double bottom = (height - g.box.y2) * kMmPerPoint;
        const bool breaks =
            g.utf8 == "\n" || (!t.content.empty() && (std::abs(bottom - t.position.y) > 0.5 * t.height ||
                                                      g.box.x1 - right > 2.5 * size));
        if (breaks) finish();
        if (g.utf8 == "\n" || (t.content.empty() && g.utf8 == " ")) continue;
        if (t.content.empty())
            t.position = {g.box.x1 * kMmPerPoint, bottom}, t.height = 0.7 * size * kMmPerPoint,
            t.layer = index;
        t.content += g.utf8;
        right = g.box.x2;
    }
    finish();
    if (!d.texts.empty()) d.layers.push_back(layer);
}

} // namespace

bool isPdf(std::string_view bytes) {
    return bytes.substr(0, 1024).find("%PDF-") != std::string_view::npos;
}

namespace {

Result<Drawing> readLines(PopplerPage* page, double width, double height, Progress& progress) {
    auto d = readSvg(drawnAsSvg(page, width, height), progress, 1 / kEnlarged);
    if (!d) return d;
    // The page lies with its lower left corner in the origin.
    const Affine2 up = Affine2::shift({0, height * kMmPerPoint});
    for (Entity& e : d->entities)
        for (Curve& c : e.curves) c = transformed(c, up);
    addTexts(page, height, *d);
    return d;
}

} // namespace

Result<Drawing> readPdf(std::string_view bytes, const ReadingChoices& choices, Progress& progress) {
    const Released<GBytes, g_bytes_unref> data(g_bytes_new_static(bytes.data(), bytes.size()));
    GError* error = nullptr;
    const Document doc(poppler_document_new_from_bytes(data.get(), nullptr, &error));
    if (!doc) {
        const std::string why = error ? error->message : "it cannot be read";
        g_clear_error(&error);
        return failure(ErrorCode::unreadable, "PDF: " + why);
    }
    const int pages = poppler_document_get_n_pages(doc.get());
    if (choices.page < 1 || choices.page > pages)
        return failure(ErrorCode::usage,
                       fmt::format("the file has {} pages; page {} was asked for", pages, choices.page));
    const Page page(poppler_document_get_page(doc.get(), choices.page - 1));
    if (!page) return failure(ErrorCode::unreadable, fmt::format("PDF: page {} is damaged", choices.page));
    double width = 0, height = 0;
    poppler_page_get_size(page.get(), &width, &height);
    progress.report(0.2, "Reading the page");
    Result<Drawing> d = Drawing{};
    if (!choices.page_as_picture) d = readLines(page.get(), width, height, progress);
    if (!d) return d;
    if (d->entities.empty()) {
        auto scan = drawnAsPicture(page.get(), width, height);
        if (!scan) return tl::make_unexpected(scan.error());
        const int texts = static_cast<int>(d->texts.size());
        *d = sheetOf(std::move(*scan), choices.picture, progress);
        if (texts > 0) d->not_read.push_back({"text", texts, "stands on a page that is read as a picture"});
    }
    d->format = "PDF";
    const Released<char, g_free> version(poppler_document_get_pdf_version_string(doc.get()));
    d->version = version ? version.get() : "";
    d->layouts.clear();
    for (int i = 1; i <= pages; ++i) d->layouts.push_back(fmt::format("Page {}", i));
    d->layout = d->layouts[choices.page - 1];
    return d;
}

} // namespace prism
