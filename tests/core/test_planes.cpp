#include "support/samples.h"

// Entities that lie in planes of their own (arbitrary axis algorithm of the format's reference), by hand.
using namespace prism;
using namespace prism::test;

namespace {

/// A polyline of one span in a plane with this normal, and where its ends come to lie.
Segment span(double nx, double ny, double nz, Vec2 a, Vec2 b, double elevation = 0) {
    DxfText t;
    t.entities()
        .group(0, "LWPOLYLINE")
        .group(8, "OUTLINE")
        .group(90, "2")
        .group(70, "0")
        .group(38, elevation);
    t.group(10, a.x).group(20, a.y).group(10, b.x).group(20, b.y);
    t.group(210, nx).group(220, ny).group(230, nz);
    const Drawing d = drawn(t.done());
    REQUIRE(d.entities.size() == 1);
    REQUIRE(d.entities[0].curves.size() == 1);
    return std::get<Segment>(d.entities[0].curves[0]);
}

void checkAt(Vec2 p, double x, double y) {
    CHECK(p.x == Approx(x).margin(1e-9));
    CHECK(p.y == Approx(y).margin(1e-9));
}

} // namespace

TEST_CASE("a plane seen from behind mirrors what lies in it") {
    const Segment s = span(0, 0, -1, {10, 5}, {20, 7});
    checkAt(s.a, -10, 5);
    checkAt(s.b, -20, 7);
}

TEST_CASE("a plane leaning back has its own axes level and up the slope") {
    // N = (0, 0.6, 0.8): x' = Z x N = (-1, 0, 0), y' = N x x' = (0, -0.8, 0.6).
    const Segment s = span(0, 0.6, 0.8, {10, 5}, {20, -5});
    checkAt(s.a, -10, -4);
    checkAt(s.b, -20, 4);
    // N = (0.6, 0, 0.8): x' = (0, 1, 0), y' = (-0.8, 0, 0.6).
    const Segment t = span(0.6, 0, 0.8, {10, 5}, {20, -5});
    checkAt(t.a, -4, 10);
    checkAt(t.b, 4, 20);
}

TEST_CASE("a plane that leans by less than a 64th takes its axes from Y, one that leans more from Z") {
    const double little = 0.01, z = std::sqrt(1 - little * little);
    const Segment s = span(0, little, z, {10, 5}, {0, 0}); // x' = Y x N = (1, 0, 0) as good as level
    checkAt(s.a, 10, 5 * z);
    const double more = 0.02, w = std::sqrt(1 - more * more);
    const Segment t = span(0, more, w, {10, 5}, {0, 0}); // x' = (-1, 0, 0), y' = (0, -w, more)
    checkAt(t.a, -10, -5 * w);
    const Segment u = span(more, 0, w, {10, 5}, {0, 0}); // x' = (0, 1, 0), y' = (-w, 0, more)
    checkAt(u.a, -5 * w, 10);
}

TEST_CASE("what lies above its plane is shifted along the plane's normal") {
    const Segment s = span(0, 0.6, 0.8, {0, 0}, {1, 0}, 10);
    checkAt(s.a, 0, 6);
    const Segment level = span(0, 0, 1, {3, 4}, {5, 6}, 10);
    checkAt(level.a, 3, 4);
    const Segment longer = span(0, 1.2, 1.6, {10, 5}, {20, -5}); // a normal need not be of length one
    checkAt(longer.a, -10, -4);
}

TEST_CASE("circles in a leaning plane are ellipses, as wide as the circle and as high as it leans") {
    DxfText t;
    t.entities().group(0, "CIRCLE").group(8, "OUTLINE").group(10, 0.0).group(20, 0.0).group(40, 10.0);
    t.group(210, 0.0).group(220, 0.6).group(230, 0.8);
    const Drawing d = drawn(t.done());
    const Box2 b = boxOf(d.entities.at(0).curves.at(0));
    CHECK(b.width() == Approx(20));
    CHECK(b.height() == Approx(16));
}
