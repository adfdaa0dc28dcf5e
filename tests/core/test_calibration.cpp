#include "core/tracing/placing.h"
#include "core/tracing/trace.h"
#include "support/paper_scan.h"

#include <catch2/catch.hpp>

using namespace prism;

namespace {

/// A scan without content: only its size matters for the arithmetic.
ScanPixels blank(double dpi_x, double dpi_y) {
    ScanPixels s;
    s.width = 2000, s.height = 1500;
    s.dpi_x = dpi_x, s.dpi_y = dpi_y;
    return s;
}

KnownLength level(double pixels, double mm) {
    return {{100, 200}, {100 + pixels, 200}, mm, KnownLength::Along::level};
}
KnownLength upright(double pixels, double mm) {
    return {{100, 200}, {100, 200 + pixels}, mm, KnownLength::Along::upright};
}

} // namespace

TEST_CASE("Without a known length a scan has the size of its paper", "[scan]") {
    const Calibration c = calibrate(blank(254, 127), {}, -1);
    CHECK(c.mm_x == Approx(0.1));
    CHECK(c.mm_y == Approx(0.2)); // a coarse fax line feed
    CHECK(c.fits.empty());
    CHECK_FALSE(c.stretch);
    // A file that says nothing, or nonsense, is taken at 300 dots an inch.
    CHECK(calibrate(blank(0, 1e9), {}, -1).mm_x == Approx(25.4 / 300));
    CHECK(calibrate(blank(0, 1e9), {}, -1).mm_y == Approx(25.4 / 300));
}

TEST_CASE("One known length sizes both axes and tells how sure that is", "[scan]") {
    PictureChoices p;
    p.lengths = {level(800, 120)};
    const Calibration c = calibrate(blank(200, 200), p, -1);
    CHECK(c.mm_x == Approx(0.15));
    CHECK(c.mm_y == Approx(0.15));
    CHECK_FALSE(c.stretch);
    // Half a pixel at both ends: 0.7071 pixels of 800.
    CHECK(c.relative_error == Approx(0.70711 / 800).epsilon(1e-4));
    REQUIRE(c.fits.size() == 1);
    CHECK(c.fits[0].found_mm == Approx(120));
    CHECK(c.fits[0].expected_mm == Approx(0.70711 * 0.15).epsilon(1e-4));
}

TEST_CASE("Several lengths give the least-squares scale, and the longest weighs most", "[scan]") {
    PictureChoices p;
    p.lengths = {level(100, 10.2), level(1000, 100), level(300, 30.1)};
    const Calibration c = calibrate(blank(254, 254), p, -1);
    // Sum of l m over sum of l squared.
    const double expected = (100 * 10.2 + 1000 * 100 + 300 * 30.1) / (100. * 100 + 1000. * 1000 + 300. * 300);
    CHECK(c.mm_x == Approx(expected).epsilon(1e-12));
    CHECK(c.fits[0].found_mm == Approx(100 * expected));
    CHECK_FALSE(c.stretch); // all of them are level
}

TEST_CASE("Lengths on both axes tell a stretched scan and correct it when asked", "[scan]") {
    PictureChoices p;
    p.lengths = {level(1000, 100), upright(1010, 100)};
    Calibration c = calibrate(blank(254, 254), p, -1);
    REQUIRE(c.stretch);
    CHECK(*c.stretch == Approx(1000. / 1010).epsilon(1e-9));
    CHECK(c.stretched());
    CHECK(c.corrected);
    CHECK(c.mm_x == Approx(0.1));
    CHECK(c.mm_y == Approx(100. / 1010));
    CHECK(c.stretch_error == Approx(0.0007).epsilon(0.6));
    p.correct_stretch = false;
    c = calibrate(blank(254, 254), p, -1);
    CHECK_FALSE(c.corrected);
    CHECK(c.mm_x == Approx(c.mm_y));
    CHECK(c.fits[0].found_mm != Approx(100).epsilon(1e-3));
    // A difference that picking explains is none.
    p.correct_stretch = true;
    p.lengths = {level(1000, 100), upright(1000.4, 100)};
    c = calibrate(blank(254, 254), p, -1);
    CHECK_FALSE(c.stretched());
    CHECK_FALSE(c.corrected);
}

TEST_CASE("A slanted length counts along both axes", "[scan]") {
    PictureChoices p;
    p.lengths = {{{0, 0}, {300, 400}, 50, {}}, {{0, 0}, {400, 300}, 50, {}}, {{0, 0}, {500, 0}, 50, {}}};
    const Calibration c = calibrate(blank(200, 200), p, -1);
    REQUIRE(c.stretch);
    CHECK(*c.stretch == Approx(1).epsilon(1e-9));
    CHECK(c.mm_x == Approx(0.1).epsilon(1e-9));
}

TEST_CASE("Two places that lie nearly level mean the level distance", "[scan]") {
    const ScanPixels s = blank(200, 200);
    using Along = KnownLength::Along;
    CHECK(lengthBetween(s, {}, {0, 0}, {500, 20}, 1).along == Along::level);
    CHECK(lengthBetween(s, {}, {0, 0}, {-9, 500}, 1).along == Along::upright);
    CHECK(lengthBetween(s, {}, {0, 0}, {500, 200}, 1).along == Along::aligned);
    // On a turned scan it is the sheet's own level that counts.
    PictureChoices turned;
    turned.straighten = {0.2, 0.2};
    const Vec2 along = Vec2{std::cos(0.2), -std::sin(0.2)} * 500;
    CHECK(lengthBetween(s, turned, {0, 0}, along, 1).along == Along::level);
    CHECK(lengthBetween(s, {}, {0, 0}, along, 1).along == Along::aligned);
}

TEST_CASE("A scan lies with its corner in the origin, straight and to size", "[scan]") {
    auto s = std::make_shared<ScanPixels>(blank(254, 254));
    const auto p = placed(s, "scan", {});
    REQUIRE(p.size() == 1);
    CHECK(p[0].pixel == Approx(0.1));
    const Vec2 foot = p[0].to_sheet({0, 1500}), head = p[0].to_sheet({2000, 0});
    CHECK(foot.x == Approx(0).margin(1e-9));
    CHECK(foot.y == Approx(0).margin(1e-9));
    CHECK(head.x == Approx(200));
    CHECK(head.y == Approx(150));
    // Lines that rose by a tenth of a radian are level afterwards.
    PictureChoices turned;
    turned.straighten = {0.1, 0.1};
    const auto q = placed(s, "scan", turned);
    const Vec2 d = q[0].to_sheet.linear({std::cos(0.1), -std::sin(0.1)});
    CHECK(d.y == Approx(0).margin(1e-12));
    CHECK(d.x == Approx(0.1));
}

TEST_CASE("Parts of a scan have scales of their own and stand apart", "[scan]") {
    auto s = std::make_shared<ScanPixels>(blank(254, 254));
    PictureChoices p;
    p.cuts = {{"front", {0, 0}, {900, 700}}, {"detail", {1000, 100}, {1500, 600}}};
    p.lengths = {{{100, 300}, {800, 300}, 140, KnownLength::Along::level},
                 {{1100, 300}, {1400, 300}, 30, KnownLength::Along::level}};
    const auto q = placed(s, "scan", p);
    REQUIRE(q.size() == 2);
    CHECK(q[0].name == "front");
    CHECK(q[0].pixel == Approx(0.2));
    CHECK(q[1].pixel == Approx(0.1));
    Box2 a, b;
    for (Vec2 c : q[0].corners()) a.add(c);
    for (Vec2 c : q[1].corners()) b.add(c);
    CHECK_FALSE(a.overlaps(b));
    CHECK(pictureAt(q, q[1].to_sheet({1200, 200})) == 1);
    CHECK(pictureAt(q, {1e6, 0}) == -1);
}

TEST_CASE("How a scan lies is measured on its lines, level and upright apart", "[scan]") {
    for (const double degrees : {-2.4, 0.0, 1.3, 6.0}) {
        test::ScanSetting s;
        s.degrees = degrees, s.stretch = 1.01, s.grain = 6;
        test::PaperScan paper(s);
        paper.box({20, 20}, {120, 80});
        paper.box({40, 30}, {70, 60});
        paper.circle({95, 50}, 15);
        ScanPixels pixels = paper.pixels();
        NoProgress quiet;
        measureAskew(pixels, quiet);
        REQUIRE(pixels.askew);
        // The stretch turns level lines further and upright ones less.
        const Vec2 u = paper.at({120, 20}) - paper.at({20, 20}), v = paper.at({20, 80}) - paper.at({20, 20});
        CHECK(pixels.askew->level == Approx(angleOf({u.x, -u.y})).margin(2e-4));
        CHECK(pixels.askew->upright == Approx(angleOf({v.x, -v.y}) - kPi / 2).margin(2e-4));
    }
}

TEST_CASE("A scan with next to no lines does not say how it lies", "[scan]") {
    test::PaperScan paper({});
    paper.circle({70, 50}, 20);
    ScanPixels pixels = paper.pixels();
    NoProgress quiet;
    measureAskew(pixels, quiet);
    CHECK_FALSE(pixels.askew);
}
