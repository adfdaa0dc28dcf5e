#include "core/project/scan_work.h"
#include "core/reading/read.h"
#include "core/tracing/placing.h"
#include "support/paper_scan.h"

#include <cairo-pdf.h>
#include <catch2/catch.hpp>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <gdk-pixbuf/gdk-pixbuf.h>
#include <set>

using namespace prism;
using test::PaperScan;

namespace {

NoProgress g_quiet;

PaperScan plate() {
    PaperScan p({});
    p.box({20, 20}, {120, 80});
    p.circle({50, 50}, 12);
    return p;
}

/// The scan as a file, written by the system's picture library.
std::string encoded(const ScanPixels& s, const char* format,
                    std::vector<std::pair<std::string, std::string>> options = {}) {
    GdkPixbuf* p = gdk_pixbuf_new(GDK_COLORSPACE_RGB, FALSE, 8, s.width, s.height);
    for (int y = 0; y < s.height; ++y)
        for (int x = 0; x < s.width; ++x)
            std::memset(gdk_pixbuf_get_pixels(p) + y * gdk_pixbuf_get_rowstride(p) + 3 * x, s.at(x, y), 3);
    std::vector<char*> keys, values;
    for (auto& [k, v] : options) keys.push_back(k.data()), values.push_back(v.data());
    keys.push_back(nullptr), values.push_back(nullptr);
    gchar* data = nullptr;
    gsize size = 0;
    REQUIRE(gdk_pixbuf_save_to_bufferv(p, &data, &size, format, keys.data(), values.data(), nullptr));
    std::string bytes(data, size);
    g_free(data);
    g_object_unref(p);
    return bytes;
}

std::string written(const std::string& bytes, const char* name) {
    const auto path = std::filesystem::temp_directory_path() / name;
    std::ofstream(path, std::ios::binary) << bytes;
    return path.string();
}

/// A page that holds nothing but a picture, as a scanner writes it.
std::string scannedPdf(const ScanPixels& s) {
    std::string bytes;
    const double w = s.width * 72 / s.dpi_x, h = s.height * 72 / s.dpi_y;
    cairo_surface_t* pdf = cairo_pdf_surface_create_for_stream(
        [](void* out, const unsigned char* data, unsigned n) {
            static_cast<std::string*>(out)->append(reinterpret_cast<const char*>(data), n);
            return CAIRO_STATUS_SUCCESS;
        },
        &bytes, w, h);
    cairo_surface_t* image = cairo_image_surface_create(CAIRO_FORMAT_RGB24, s.width, s.height);
    for (int y = 0; y < s.height; ++y)
        for (int x = 0; x < s.width; ++x) {
            const std::uint32_t v = static_cast<std::uint32_t>(s.at(x, y)) * 0x10101u;
            std::memcpy(cairo_image_surface_get_data(image) + y * cairo_image_surface_get_stride(image) +
                            4 * x,
                        &v, 4);
        }
    cairo_surface_mark_dirty(image);
    cairo_t* c = cairo_create(pdf);
    cairo_scale(c, w / s.width, h / s.height);
    cairo_set_source_surface(c, image, 0, 0);
    cairo_paint(c);
    cairo_destroy(c);
    cairo_surface_destroy(image);
    cairo_surface_finish(pdf);
    cairo_surface_destroy(pdf);
    return bytes;
}

} // namespace

TEST_CASE("PNG, JPEG and TIFF are read with their resolution", "[scan][reading]") {
    const ScanPixels s = plate().pixels();
    const std::tuple<const char*, const char*, std::vector<std::pair<std::string, std::string>>> formats[] = {
        {"png", "PNG", {{"x-dpi", "200"}, {"y-dpi", "200"}}},
        {"jpeg", "JPEG", {{"x-dpi", "200"}, {"y-dpi", "200"}, {"quality", "95"}}},
        {"tiff", "TIFF", {{"x-dpi", "200"}, {"y-dpi", "200"}}}};
    for (const auto& [kind, name, options] : formats) {
        const auto d = readDrawing(encoded(s, kind, options), g_quiet);
        REQUIRE(d);
        CHECK(d->format == name);
        REQUIRE(d->pictures.size() == 1);
        const ScanPixels& r = *d->pictures[0].scan;
        CHECK(r.width == s.width);
        CHECK(r.height == s.height);
        CHECK(r.dpi_x == Approx(200).margin(0.1));
        CHECK(d->pictures[0].pixel == Approx(0.127).epsilon(1e-3));
        double off = 0;
        for (size_t i = 0; i < s.grey.size(); ++i) off += std::abs(int(s.grey[i]) - int(r.grey[i]));
        CHECK(off / double(s.grey.size()) < 2);
    }
}

TEST_CASE("Damaged and oversized pictures are told as such", "[scan][reading]") {
    const std::string png = encoded(plate().pixels(), "png");
    for (const size_t keep : {size_t{8}, size_t{40}, png.size() / 2}) {
        const auto d = readDrawing(std::string_view(png).substr(0, keep), g_quiet);
        REQUIRE_FALSE(d);
        CHECK(d.error().code == ErrorCode::unreadable);
        CHECK(d.error().message.starts_with("PNG"));
        if (keep > 1000) CHECK_THAT(d.error().message, Catch::Contains("of 866 rows"));
    }
    // A head that announces 60,000 by 60,000 pixels.
    std::string huge = png.substr(0, 16);
    huge += std::string("\0\0\xEA\x60\0\0\xEA\x60\x08\0\0\0\0", 13);
    huge += std::string("\x22\xB1\x96\x5E", 4) + png.substr(33);
    const auto d = readDrawing(huge, g_quiet);
    REQUIRE_FALSE(d);
    CHECK(d.error().code == ErrorCode::unreadable);
}

TEST_CASE("Further pages of a TIFF file are counted as not read", "[scan][reading]") {
    std::string tiff = encoded(plate().pixels(), "tiff");
    CHECK(readDrawing(tiff, g_quiet)->not_read.empty());
    // Chain the only directory to a copy of itself that ends the chain.
    auto number = [&](size_t at, int size) {
        size_t v = 0;
        for (int i = 0; i < size; ++i) v |= size_t{static_cast<unsigned char>(tiff[at + i])} << 8 * i;
        return v;
    };
    REQUIRE(tiff.starts_with("II"));
    const size_t at = number(4, 4), size = 2 + 12 * number(at, 2) + 4;
    if (tiff.size() % 2) tiff += '\0';
    const size_t copy = tiff.size();
    tiff += tiff.substr(at, size);
    for (int i = 0; i < 4; ++i) tiff[at + size - 4 + i] = static_cast<char>(copy >> 8 * i);
    const auto d = readDrawing(tiff, g_quiet);
    REQUIRE(d);
    REQUIRE(d->not_read.size() == 1);
    CHECK(d->not_read[0].count == 1);
}

TEST_CASE("A PDF page that is only a picture is read as a scan", "[scan][reading]") {
    const PaperScan paper = plate();
    const auto d = readDrawing(scannedPdf(paper.pixels()), g_quiet);
    REQUIRE(d);
    CHECK(d->format == "PDF");
    CHECK(d->entities.empty());
    REQUIRE(d->pictures.size() == 1);
    CHECK(d->pictures[0].scan->dpi_x == Approx(300));
    const auto t = trace(d->pictures[0], g_quiet);
    REQUIRE(t);
    int lines = 0;
    for (const TracedLine& l : t->lines)
        if (const auto* s = std::get_if<Segment>(&l.shape)) {
            ++lines;
            const double size = distance(s->a, s->b);
            CHECK(std::min(std::abs(size - 100), std::abs(size - 60)) < 0.2);
        }
    CHECK(lines == 4);
}

TEST_CASE("A vector page can be taken as a scan", "[scan][reading]") {
    std::string bytes;
    cairo_surface_t* pdf = cairo_pdf_surface_create_for_stream(
        [](void* out, const unsigned char* data, unsigned n) {
            static_cast<std::string*>(out)->append(reinterpret_cast<const char*>(data), n);
            return CAIRO_STATUS_SUCCESS;
        },
        &bytes, 300, 200);
    cairo_t* c = cairo_create(pdf);
    cairo_rectangle(c, 50, 50, 200, 100);
    cairo_stroke(c);
    cairo_destroy(c);
    cairo_surface_finish(pdf);
    cairo_surface_destroy(pdf);
    CHECK(readDrawing(bytes, g_quiet)->pictures.empty());
    ReadingChoices r;
    r.page_as_picture = true;
    const auto d = readDrawing(bytes, r, g_quiet);
    REQUIRE(d);
    CHECK(d->pictures.size() == 1);
    CHECK(d->entities.empty());
}

TEST_CASE("What was drawn on a scan stays on its pixels when the scan is placed otherwise",
          "[scan][project]") {
    const PaperScan paper = plate();
    const std::string path =
        written(encoded(paper.pixels(), "png", {{"x-dpi", "200"}, {"y-dpi", "200"}}), "plate.png");
    auto d = Document::open(path, g_quiet);
    REQUIRE(d);
    const Picture before = d->model().drawing->pictures[0];
    Choices c = d->choices();
    c.marks.lines.push_back({MarkedLine::Kind::add,
                             "+1",
                             {Segment{before.to_sheet({300, 200}), before.to_sheet({900, 640})}},
                             LineRole::outline});
    c.marks.lines.push_back(
        {MarkedLine::Kind::add, "+2", {Arc{before.to_sheet({500, 400}), 5, 0, 2 * kPi}}, LineRole::outline});
    REQUIRE(d->apply("draw", c, g_quiet));
    PictureChoices next;
    next.lengths = {{{100, 100}, {1100, 100}, 250, KnownLength::Along::level},
                    {{100, 100}, {100, 700}, 151, KnownLength::Along::upright}};
    REQUIRE(d->apply("size", withPicturePlaced(d->model(), d->choices(), next), g_quiet));
    const Picture after = d->model().drawing->pictures[0];
    CHECK(after.scan == before.scan); // placed anew, not decoded again
    const auto& line = std::get<Segment>(d->choices().marks.lines[0].curves[0]);
    const Vec2 a = after.to_sheet.inverse()(line.a), b = after.to_sheet.inverse()(line.b);
    CHECK(a.x == Approx(300));
    CHECK(a.y == Approx(200));
    CHECK(b.x == Approx(900));
    CHECK(b.y == Approx(640));
    // The circle is still one, although both axes were given scales of their own.
    const auto* circle = std::get_if<Arc>(&d->choices().marks.lines[1].curves[0]);
    REQUIRE(circle);
    CHECK(circle->full());
    CHECK(circle->radius == Approx(5 / before.pixel * after.pixel));
    REQUIRE(d->undo(g_quiet));
    CHECK(std::get<Segment>(d->choices().marks.lines[0].curves[0]).a == before.to_sheet({300, 200}));
}

TEST_CASE("A project keeps the scan and all that was said of it", "[scan][project]") {
    const PaperScan paper = plate();
    const std::string path = written(encoded(paper.pixels(), "png"), "kept.png");
    auto d = Document::open(path, g_quiet);
    REQUIRE(d);
    PictureChoices p;
    p.straighten = {0.01, 0.012};
    p.lengths = {{{157, 157}, {944, 157}, 100, KnownLength::Along::level}};
    p.correct_stretch = false;
    p.light_on_dark = false;
    p.cuts = {{"front", {100, 50}, {1000, 800}}};
    REQUIRE(d->apply("say", withPicturePlaced(d->model(), d->choices(), p), g_quiet));
    const auto seen = traceAll(*d->model().drawing, g_quiet);
    REQUIRE(seen);
    REQUIRE(d->apply("take", withAccepted(d->model(), d->choices(), (*seen)[0].traced.lines), g_quiet));
    CHECK(d->model().drawing->entities.size() == (*seen)[0].traced.lines.size());
    const std::string project = (std::filesystem::temp_directory_path() / "kept.uprism").string();
    REQUIRE(d->save(project));
    const auto again = Document::open(project, g_quiet);
    REQUIRE(again);
    CHECK(again->choices() == d->choices());
    CHECK(again->model().drawing->entities.size() == d->model().drawing->entities.size());
    CHECK(again->model().drawing->pictures[0].name == "front");
}

TEST_CASE("The part's overall sizes size the scan: every view that shows one says it", "[scan]") {
    PaperScan paper({});
    paper.box({20, 20}, {80, 50}), paper.box({20, 65}, {80, 105}); // front 60 x 30, top 60 x 40 on the paper
    const std::string path =
        written(encoded(paper.pixels(), "png", {{"x-dpi", "200"}, {"y-dpi", "200"}}), "sized.png");
    auto d = Document::open(path, g_quiet);
    REQUIRE(d);
    const auto seen = traceAll(*d->model().drawing, g_quiet);
    REQUIRE(seen);
    Choices c = withAccepted(d->model(), d->choices(), (*seen)[0].traced.lines);
    c.views.convention = Convention::third;
    REQUIRE(d->apply("take", c, g_quiet));
    REQUIRE(d->model().views.withRole(Role::top));
    // The part is 120 x 80 x 60: drawn at 1:2, which the sheet does not say.
    const Choices sized = withOverallSizes(d->model(), d->choices(), {120, 80, 60});
    const auto& lengths = sized.reading.picture.lengths;
    REQUIRE(lengths.size() == 4);
    std::multiset<double> said;
    for (const KnownLength& l : lengths) {
        said.insert(l.mm);
        const Vec2 off = l.b - l.a;
        CHECK((l.along == KnownLength::Along::level ? std::abs(off.x) > 20 * std::abs(off.y)
                                                    : std::abs(off.y) > 20 * std::abs(off.x)));
    }
    CHECK(said == std::multiset<double>{60, 80, 120, 120});
    CHECK(withOverallSizes(d->model(), d->choices(), {120, 0, 0}).reading.picture.lengths.size() == 2);
    CHECK(withOverallSizes(d->model(), d->choices(), {0, 0, 60}).reading.picture.lengths.size() == 1);
    CHECK(withOverallSizes(d->model(), d->choices(), {0, 0, 0}).reading.picture.lengths.empty());
    REQUIRE(d->apply("size", sized, g_quiet));
    const Box2 front = d->model().views.withRole(Role::front)->box_sheet;
    CHECK(front.width() == Approx(120).epsilon(0.005));
    CHECK(front.height() == Approx(60).epsilon(0.01));
    // A line drawn a little beside the ink is put on it; one beside the paper stays.
    const double y = front.lo.y;
    const Segment beside{{front.lo.x + 20, y + 0.5}, {front.lo.x + 80, y + 0.7}};
    const Segment on = std::get<Segment>(ontoInk(d->model(), beside));
    CHECK(on.a.y == Approx(y).margin(0.12));
    CHECK(on.b.y == Approx(y).margin(0.12));
    const Curve far = Segment{{-500, -500}, {-400, -500}};
    CHECK(ontoInk(d->model(), far) == far);
}

TEST_CASE("Ends that a tracing misses by less than it can tell are no open outline", "[scan]") {
    for (double degrees : {-0.6, 0.9})
        for (double dpi : {260.0, 400.0}) {
            INFO(degrees << " degrees at " << dpi << " dpi");
            test::ScanSetting s;
            s.dpi = dpi, s.degrees = degrees, s.grain = 3;
            PaperScan paper(s);
            // A round bar with a small chamfer and a cone: the corners of short lines are known to
            // hundredths.
            paper.line({21, 80}, {60, 80}), paper.line({60, 20}, {21, 20}), paper.line({21, 20}, {21, 80});
            paper.line({20, 21}, {20, 79}), paper.line({20, 79}, {21, 80}), paper.line({20, 21}, {21, 20});
            paper.line({60, 80}, {60, 20}), paper.line({60, 80}, {120, 62}), paper.line({60, 20}, {120, 38});
            paper.line({120, 62}, {120, 38});
            auto d = Document::open(written(encoded(paper.pixels(), "png"), "chamfer.png"), g_quiet);
            REQUIRE(d);
            const auto seen = traceAll(*d->model().drawing, g_quiet);
            REQUIRE(seen);
            REQUIRE(
                d->apply("take", withAccepted(d->model(), d->choices(), (*seen)[0].traced.lines), g_quiet));
            CHECK(d->model().drawing->entities.size() == 10);
            for (const Finding& f : d->model().findings) {
                INFO(f.message);
                CHECK(f.kind != "outline_open");
            }
        }
}

TEST_CASE("Colours become grey by what the eye sees of them, and what is transparent is paper") {
    // Luma of ITU-R BT.601 worked out by hand: 0.299 R + 0.587 G + 0.114 B.
    const struct {
        guchar r, g, b, a;
        int grey;
    } colours[] = {{10, 20, 31, 255, 18}, {255, 0, 0, 255, 76},     {0, 255, 0, 255, 150},
                   {0, 0, 255, 255, 29},  {200, 100, 50, 255, 124}, {0, 0, 0, 0, 255},
                   {0, 0, 0, 128, 127}};
    constexpr int kWide = 64, kHigh = 8; // each colour fills a column of eight
    GdkPixbuf* p = gdk_pixbuf_new(GDK_COLORSPACE_RGB, TRUE, 8, kWide, kHigh);
    gdk_pixbuf_fill(p, 0xffffffff);
    for (int y = 0; y < kHigh; ++y)
        for (size_t i = 0; i < std::size(colours); ++i)
            for (int x = 0; x < 8; ++x) {
                guchar* at = gdk_pixbuf_get_pixels(p) + y * gdk_pixbuf_get_rowstride(p) +
                             4 * (8 * static_cast<int>(i) + x);
                at[0] = colours[i].r, at[1] = colours[i].g, at[2] = colours[i].b, at[3] = colours[i].a;
            }
    gchar* data = nullptr;
    gsize size = 0;
    REQUIRE(gdk_pixbuf_save_to_buffer(p, &data, &size, "png", nullptr, nullptr));
    const std::string bytes(data, size);
    g_free(data);
    g_object_unref(p);
    const auto d = readDrawing(bytes, g_quiet);
    REQUIRE(d);
    const ScanPixels& s = *d->pictures.front().scan;
    for (size_t i = 0; i < std::size(colours); ++i) {
        INFO(i);
        CHECK(s.at(8 * static_cast<int>(i) + 3, 4) == colours[i].grey);
    }
}
