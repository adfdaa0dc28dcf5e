#include "core/proposing/cell_model.h"
#include "support/three_views.h"

using namespace prism;
using namespace prism::test;

// Lines of sight through a turned part, whose surfaces they meet at places that circles tell.

namespace {

/// A shaft along X, its axis at Y 18 and Z 18: radius 10 from 0 to 30, radius 18 from 30 to 50, and a bore of
/// radius 4 from 20 on.
Document shaft(bool from_its_end = true) {
    ThreeViews t = threeViews(50, 36, 36);
    for (const Axis look : {Axis::y, Axis::z}) {
        const auto at = [&](double x, double r) {
            return look == Axis::y ? Vec3{x, 0, 18 + r} : Vec3{x, 18 + r, 0};
        };
        for (const double side : {-1.0, 1.0}) {
            t.line(look, at(0, side * 10), at(30, side * 10));
            t.line(look, at(30, side * 10), at(30, side * 18));
            t.line(look, at(30, side * 18), at(50, side * 18));
            t.line(look, at(20, side * 4), at(50, side * 4), "HIDDEN");
        }
        t.line(look, at(0, -10), at(0, 10)), t.line(look, at(50, -18), at(50, 18));
        t.line(look, at(30, -10), at(30, 10), "HIDDEN"), t.line(look, at(20, -4), at(20, 4), "HIDDEN");
    }
    if (!from_its_end) return inViews(t.sheet);
    t.circle(Axis::x, {0, 18, 18}, 4), t.circle(Axis::x, {0, 18, 18}, 18);
    t.circle(Axis::x, {0, 18, 18}, 10, "HIDDEN");
    return inViews(t.sheet);
}

int mapAlong(const std::vector<ViewMap>& maps, Axis depth) {
    for (size_t i = 0; i < maps.size(); ++i)
        if (maps[i].view().axes.depth == depth) return static_cast<int>(i);
    FAIL("no such view");
    return -1;
}

void checkRay(const Ray& r, const std::vector<double>& breaks) {
    REQUIRE(r.breaks.size() == breaks.size());
    REQUIRE(r.cells.size() == breaks.size() + 1);
    for (size_t i = 0; i < breaks.size(); ++i) CHECK(r.breaks[i] == Approx(breaks[i]).margin(1e-6));
    CHECK(r.cells.front() == -1);
    CHECK(r.cells.back() == -1);
}

double chord(double radius, double off) {
    return std::sqrt(radius * radius - off * off);
}

} // namespace

TEST_CASE("a line of sight passes a turned part's areas where circles about its axis tell") {
    const Document d = shaft();
    REQUIRE(d.model().figure.views.size() == 3);
    const auto maps = mapsOf(d);
    const int front = mapAlong(maps, Axis::y), top = mapAlong(maps, Axis::z), right = mapAlong(maps, Axis::x);
    const int side = GENERATE(-1, 1);
    // The front view or the top one may be the profile.
    const int profile = GENERATE(0, 1) ? front : mapAlong(mapsOf(d), Axis::z);
    CAPTURE(side, profile);
    TurnedCells cells(maps, profile, false, 18, 18, side);
    CHECK(cells.cells() == static_cast<int>(maps[static_cast<size_t>(profile)].areas().size()));
    for (const int look : {front, top}) {
        CAPTURE(look);
        for (const double off : {-7.0, 7.0}) { // beside the bore
            checkRay(cells.ray(look, {10, 18 + off}), {18 - chord(10, off), 18 + chord(10, off)});
            checkRay(cells.ray(look, {40, 18 + off}), {18 - chord(18, off), 18 + chord(18, off)});
        }
        for (const double off : {-2.5, 2.5}) { // through it
            const Ray through = cells.ray(look, {40, 18 + off});
            checkRay(through,
                     {18 - chord(18, off), 18 - chord(4, off), 18 + chord(4, off), 18 + chord(18, off)});
            CHECK(through.cells[1] == through.cells[3]);
            CHECK(through.cells[1] != through.cells[2]);
            // The area of the bore is not that of the shaft before it.
            CHECK(through.cells[2] != cells.ray(look, {10, 18 + off}).cells[1]);
        }
        checkRay(cells.ray(look, {10, 18 + 14}), {});
    }
    for (const double turn : {0.3, 1.9, 4.0}) {
        const auto at = [&](double r) { return Vec2{18 + r * std::cos(turn), 18 + r * std::sin(turn)}; };
        checkRay(cells.ray(right, at(14)), {30, 50});
        checkRay(cells.ray(right, at(7)), {0, 30, 50});
        checkRay(cells.ray(right, at(2)), {0, 20, 30, 50});
        checkRay(cells.ray(right, at(19)), {});
    }
}

TEST_CASE("of two models that meet, a cell is where both have one, and what the second calls air is air") {
    const Document d = shaft(false);
    const auto maps = mapsOf(d);
    const int front = mapAlong(maps, Axis::y);
    TurnedCells turned(maps, front, false, 18, 18);
    ProductCells product(maps, true);
    MetCells met(product, turned);
    // The areas of the views drawn through space leave corners that the turned part does not have.
    const Vec2 corner{40, 18 + 16};
    const Ray both = met.ray(front, corner), boxes = product.ray(front, corner),
              round = turned.ray(front, corner);
    std::vector<double> breaks{18 - chord(18, 16)};
    for (const double at : boxes.breaks)
        if (std::abs(at - 18) < chord(18, 16)) breaks.push_back(at);
    breaks.push_back(18 + chord(18, 16));
    checkRay(both, breaks);
    CHECK(boxes.breaks.front() < breaks.front());
    std::set<int> cells;
    for (size_t i = 1; i + 1 < both.cells.size(); ++i) {
        const double at = 0.5 * (breaks[i - 1] + breaks[i]);
        const auto [first, second] = met.of(both.cells[i]);
        CHECK(second == round.cells[1]);
        CHECK(first == boxes.cells[static_cast<size_t>(std::ranges::upper_bound(boxes.breaks, at) -
                                                       boxes.breaks.begin())]);
        cells.insert(both.cells[i]);
    }
    CHECK(met.cells() == static_cast<int>(cells.size()));
    // The first of the boxes goes on where the turned part has ended; one in the middle does not.
    CHECK(met.reachesOut(boxes.cells[1]));
    CHECK_FALSE(met.reachesOut(met.of(both.cells[both.cells.size() / 2]).first));
    // What only divides leaves what the second model has beyond the first one.
    Ray none = MetCells(turned, product).ray(front, {10, 18 + 5});
    CHECK(none.cells.size() == MetCells(product, turned).ray(front, {10, 18 + 5}).cells.size());
    MetCells divided(turned, product, MetCells::First::divides);
    CHECK(divided.ray(front, corner).breaks.size() == boxes.breaks.size() + 2);
}
