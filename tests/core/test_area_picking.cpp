#include "support/samples.h"

#include "core/project/area_picking.h"

#include <fstream>

using namespace prism;
using namespace prism::test;

namespace {

/// A plate of 200 x 100 with a row of four holes, a larger one, two equal pockets (one turned a quarter) on a
/// layer of their own, and beside it its front view.
Document plate() {
    DxfText t;
    t.layer("POCKETS").entities().box(0, 0, 200, 100).box(0, -60, 200, -40);
    for (int i = 0; i < 4; ++i) t.circle(20 + 30 * i, 20, 5);
    t.circle(150, 20, 9);
    const auto pocket = [&](double x, double y, double w, double h) {
        const Vec2 p[] = {{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}};
        for (int k = 0; k < 4; ++k) t.line(p[k].x, p[k].y, p[(k + 1) % 4].x, p[(k + 1) % 4].y, "POCKETS");
    };
    pocket(20, 50, 30, 12);
    pocket(100, 50, 12, 30);
    t.line(160, 0, 160, 100); // the plate is in two areas, and both are joined
    t.text(0, -90, "THIRD ANGLE PROJECTION");
    const std::string path = temporary("areas.dxf");
    std::ofstream(path) << t.done();
    return opened(path);
}

std::vector<double> sizesOf(const Model& m, const std::vector<Vec2>& seeds, int view) {
    std::vector<double> r;
    for (Vec2 p : seeds)
        for (const ClosedArea& a : m.areas.drawn)
            if (a.view == view && a.contains(p)) r.push_back(a.area);
    std::ranges::sort(r);
    return r;
}

} // namespace

TEST_CASE("areas of one shape are picked together, however they lie") {
    const Document d = plate();
    const Model& m = d.model();
    const FigureView* top = m.figure.viewNamed(Role::top);
    REQUIRE(top);
    const auto like = [&](std::vector<Vec2> picked, AreaLikeness how) {
        return areasLike(m, Role::top, picked, how);
    };
    const auto holes = like({{20, 20}}, AreaLikeness::shape);
    CHECK(holes.size() == 4);
    CHECK(holes[0] == Vec2{20, 20});
    for (double a : sizesOf(m, holes, top->view)) CHECK(a == Approx(25 * kPi));
    CHECK(like({{150, 20}}, AreaLikeness::shape).size() == 1);
    const auto pockets = like({{30, 55}}, AreaLikeness::shape);
    REQUIRE(pockets.size() == 2);
    for (double a : sizesOf(m, pockets, top->view)) CHECK(a == Approx(360));
    CHECK(like({{30, 55}, {20, 20}}, AreaLikeness::shape).size() == 6);
    CHECK(like({{30, 55}}, AreaLikeness::layer).size() == 2);
    CHECK(like({{30, 55}}, AreaLikeness::view).size() == 9);
    // The two parts of the plate touch along the line between them, and each hole its part.
    CHECK(like({{180, 50}}, AreaLikeness::neighbours).size() == 9);
    CHECK(areasLike(m, ViewName(Role::section, "Q"), {{1, 1}}, AreaLikeness::view).size() == 1);
}

TEST_CASE("a box or a lasso picks the areas within it, of one view") {
    const Document d = plate();
    const Model& m = d.model();
    const auto box = [&](Vec2 lo, Vec2 hi, bool touching, std::optional<ViewName> view = {}) {
        return areasWithin(m, {lo, {hi.x, lo.y}, hi, {lo.x, hi.y}}, touching, view);
    };
    const PickedAreas holes = box({5, 5}, {155, 30}, false);
    CHECK(holes.view == ViewName(Role::top));
    CHECK(holes.seeds.size() == 4);
    CHECK(box({5, 5}, {155, 30}, true).seeds.size() == 6); // the larger hole and the plate as well
    CHECK(box({5, 5}, {116, 85}, false).seeds.size() == 6);
    CHECK(box({-5, -65}, {205, 105}, false).view == ViewName(Role::top)); // it has most
    CHECK(box({-5, -65}, {205, 105}, false, ViewName(Role::front)).view == ViewName(Role::front));
    CHECK(box({300, 300}, {400, 400}, true).empty());
    CHECK(areasWithin(m, {{0, 0}, {10, 10}}, true, {}).empty());
    // A lasso round the first two holes alone.
    CHECK(areasWithin(m, {{10, 10}, {60, 10}, {60, 30}, {35, 35}, {10, 30}}, false, {}).seeds.size() == 2);
}
