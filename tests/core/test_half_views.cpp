#include "support/diagnosed.h"
#include "support/three_views.h"

using namespace prism;
using namespace prism::test;

// Views that are drawn to their symmetry line only, either half of them, in either direction.

namespace {

/// A block of 80 x 50 x 30 with a hole of radius 6 in its middle from above and four of radius 4 at its
/// corners. Of the top view only what lies on one side of a symmetry line is drawn: `axis` that it is square
/// to, `keep` -1 for the lower side, +1 for the upper one, 0 for all. `signs`: two strokes across each end of
/// the line.
DxfText sheet(Axis axis, int keep, bool signs, bool along_the_line = false) {
    ThreeViews t = threeViews(80, 50, 30);
    const double middle = axis == Axis::x ? 40 : 25;
    const auto kept = [&](Vec3 p) {
        return keep == 0 || ((axis == Axis::x ? p.x : p.y) - middle) * keep > -1e-9;
    };
    // A line of the top view as far as it is kept.
    const auto top = [&](Vec3 a, Vec3 b) {
        double &u = axis == Axis::x ? a.x : a.y, &v = axis == Axis::x ? b.x : b.y;
        for (double* p : {&u, &v})
            if (keep != 0 && (*p - middle) * keep < 0) *p = middle;
        if (keep == 0 || u != middle || v != middle) t.line(Axis::z, a, b);
    };
    for (const Axis look : {Axis::x, Axis::y}) {
        const Vec2 lo = t.on(look, {0, 0, 0}), hi = t.on(look, {80, 50, 30});
        t.sheet.box(lo.x, lo.y, hi.x, hi.y);
        const double across = look == Axis::y ? 40 : 25, ends[] = {12, 2 * across - 12};
        const auto wall = [&](double at) {
            const Vec3 from = look == Axis::y ? Vec3{at, 0, 0} : Vec3{0, at, 0};
            t.line(look, from, {from.x, from.y, 30}, "HIDDEN");
        };
        for (const double side : {-6.0, 6.0}) wall(across + side);
        for (const double at : ends)
            for (const double side : {-4.0, 4.0}) wall(at + side);
    }
    top({0, 0, 0}, {80, 0, 0}), top({80, 0, 0}, {80, 50, 0});
    top({80, 50, 0}, {0, 50, 0}), top({0, 50, 0}, {0, 0, 0});
    for (const double x : {12.0, 68.0})
        for (const double y : {12.0, 38.0})
            if (kept({x, y, 0})) t.circle(Axis::z, {x, y, 0}, 4);
    const Vec2 centre = t.on(Axis::z, {40, 25, 0});
    if (keep == 0)
        t.sheet.circle(centre.x, centre.y, 6);
    else {
        const double from = axis == Axis::x ? (keep > 0 ? 270 : 90) : (keep > 0 ? 0 : 180);
        t.sheet.arc(centre.x, centre.y, 6, from, from + 180);
        const Vec3 a = axis == Axis::x ? Vec3{40, -6, 0} : Vec3{-6, 25, 0},
                   b = axis == Axis::x ? Vec3{40, 56, 0} : Vec3{86, 25, 0};
        t.line(Axis::z, a, b, "CENTER");
        if (along_the_line)
            t.line(Axis::z, axis == Axis::x ? Vec3{40, 0, 0} : Vec3{0, 25, 0},
                   axis == Axis::x ? Vec3{40, 50, 0} : Vec3{80, 25, 0});
        if (signs)
            for (const Vec3 end : {a, b})
                for (const double off : {-1.0, 1.0}) {
                    const Vec3 at = axis == Axis::x ? Vec3{40, end.y + off, 0} : Vec3{end.x + off, 25, 0};
                    const Vec3 half = axis == Axis::x ? Vec3{3, 0, 0} : Vec3{0, 3, 0};
                    t.line(Axis::z, at - half, at + half, "CENTER");
                }
    }
    return t.sheet;
}

} // namespace

TEST_CASE("a half view is completed to the view that it is half of, whichever half it is") {
    const Axis axis = GENERATE(Axis::x, Axis::y);
    const int keep = GENERATE(-1, 1);
    const bool signs = GENERATE(false, true);
    CAPTURE(axis, keep, signs);
    const Document whole = inViews(sheet(axis, 0, false)), half = inViews(sheet(axis, keep, signs));
    CHECK_FALSE(whole.model().views.completed);
    REQUIRE(half.model().views.completed);
    REQUIRE(half.model().figure.views.size() == 3);
    CHECK(sameLines(half.model().figure, whole.model().figure));
    CHECK(half.model().findings.empty());
    const auto& repairs = half.model().sheet.repairs;
    CHECK(std::ranges::count_if(repairs,
                                [](const Repair& r) { return r.kind == "half_completed" && r.on; }) == 1);
}

TEST_CASE("a view with an edge along its symmetry line is whole, and so is one whose centre line is short") {
    CHECK_FALSE(inViews(sheet(Axis::y, 1, false, true)).model().views.completed);
    // Its outline is open where a centre line of a hole stands, which reaches over half of it.
    const auto open = [](double reach) {
        ThreeViews t = threeViews(80, 50, 30);
        for (const Axis look : {Axis::x, Axis::y}) {
            const Vec2 lo = t.on(look, {0, 0, 0}), hi = t.on(look, {80, 50, 30});
            t.sheet.box(lo.x, lo.y, hi.x, hi.y);
        }
        t.line(Axis::z, {0, 25, 0}, {0, 50, 0}), t.line(Axis::z, {0, 50, 0}, {80, 50, 0});
        t.line(Axis::z, {80, 50, 0}, {80, 25, 0});
        t.line(Axis::z, {40 - reach, 25, 0}, {40 + reach, 25, 0}, "CENTER");
        return inViews(t.sheet).model().views.completed != nullptr;
    };
    CHECK(open(46));
    CHECK(open(37)); // 74 of 80
    CHECK_FALSE(open(35));
    CHECK_FALSE(open(20));
}
