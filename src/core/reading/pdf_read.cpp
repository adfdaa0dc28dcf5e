#include "core/reading/pdf_read.h"

#include "core/reading/svg_read.h"

#include <cairo-svg.h>
#include <fmt/format.h>
#include <memory>
#include <poppler.h>

namespace prism {
namespace {

constexpr double kMmPerPoint = 25.4 / 72;

template <auto Free> struct Release {
    template <class T> void operator()(T* p) const { Free(p); }
};
using Document = std::unique_ptr<PopplerDocument, Release<g_object_unref>>;
using Page = std::unique_ptr<PopplerPage, Release<g_object_unref>>;

cairo_status_t append(void* out, const unsigned char* data, unsigned int length) {
    static_cast<std::string*>(out)->append(reinterpret_cast<const char*>(data), length);
    return CAIRO_STATUS_SUCCESS;
}

/// The page's paths, as the library that draws it would write them to an SVG file.
std::string drawnAsSvg(PopplerPage* page, double width, double height) {
    std::string svg;
    using Surface = std::unique_ptr<cairo_surface_t, Release<cairo_surface_destroy>>;
    using Context = std::unique_ptr<cairo_t, Release<cairo_destroy>>;
    const Surface surface(cairo_svg_surface_create_for_stream(append, &svg, width, height));
    {
        const Context context(cairo_create(surface.get()));
        poppler_page_render_for_printing(page, context.get());
    }
    cairo_surface_finish(surface.get());
    return svg;
}

struct Glyph {
    PopplerRectangle box;
    std::string utf8;
};

/// Characters with their boxes, gathered into runs that stand in one line.
void addTexts(PopplerPage* page, double height, Drawing& d) {
    PopplerRectangle* boxes = nullptr;
    guint n = 0;
    const std::unique_ptr<char, Release<g_free>> words(poppler_page_get_text(page));
    if (!words || !poppler_page_get_text_layout(page, &boxes, &n)) return;
    const std::unique_ptr<PopplerRectangle, Release<g_free>> owned(boxes);
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

Result<Drawing> readPdf(std::string_view bytes, int wanted, Progress& progress) {
    const std::unique_ptr<GBytes, Release<g_bytes_unref>> data(
        g_bytes_new_static(bytes.data(), bytes.size()));
    GError* error = nullptr;
    const Document doc(poppler_document_new_from_bytes(data.get(), nullptr, &error));
    if (!doc) {
        const std::string why = error ? error->message : "it cannot be read";
        g_clear_error(&error);
        return failure(ErrorCode::unreadable, "PDF: " + why);
    }
    const int pages = poppler_document_get_n_pages(doc.get());
    if (wanted < 1 || wanted > pages)
        return failure(ErrorCode::usage,
                       fmt::format("the file has {} pages; page {} was asked for", pages, wanted));
    const Page page(poppler_document_get_page(doc.get(), wanted - 1));
    if (!page) return failure(ErrorCode::unreadable, fmt::format("PDF: page {} is damaged", wanted));
    double width = 0, height = 0;
    poppler_page_get_size(page.get(), &width, &height);
    progress.report(0.2, "Reading the page");
    auto d = readSvg(drawnAsSvg(page.get(), width, height), progress);
    if (!d) return d;
    d->format = "PDF";
    char* version = poppler_document_get_pdf_version_string(doc.get());
    d->version = version ? version : "";
    g_free(version);
    // The page lies with its lower left corner in the origin.
    const Affine2 up = Affine2::shift({0, height * kMmPerPoint});
    for (Entity& e : d->entities)
        for (Curve& c : e.curves) c = transformed(c, up);
    d->layouts.clear();
    for (int i = 1; i <= pages; ++i) d->layouts.push_back(fmt::format("Page {}", i));
    d->layout = d->layouts[wanted - 1];
    addTexts(page.get(), height, *d);
    if (d->entities.empty())
        d->not_read.push_back({"page", 1, "nothing is drawn on it in lines; it is a picture or empty"});
    return d;
}

} // namespace prism
