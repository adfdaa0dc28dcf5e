#include "core/building/overlap.h"
#include "core/proofing/proof.h"
#include "support/grid_part.h"
#include "support/integral.h"

#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <gp_Ax2.hxx>
#include <random>

using namespace prism;
using namespace prism::test;

// Solids seen from any side: which lines are drawn, and which of them something hides, told by lines of sight
// through boxes and by the formulas of circles that are looked at askew.

namespace {

NoProgress g_quiet;

/// A frame that looks in a random direction, its axes mirrored at times.
ViewFrame randomFrame(std::mt19937& random) {
    std::uniform_real_distribution<double> in(-1, 1);
    const auto unit = [](Vec3 v) { return (1 / std::sqrt(dot(v, v))) * v; };
    ViewFrame f;
    f.look = unit({in(random), in(random), in(random)});
    f.right = unit(cross(f.look, Vec3{in(random), in(random), in(random)}));
    f.up = cross(f.right, f.look);
    if (random() % 2) f.right = -1.0 * f.right;
    f.shift = {100 * in(random), 100 * in(random)};
    return f;
}

/// An edge of the part: where boxes about it are not flat.
struct Edge {
    Vec3 a, b;
};

std::vector<Edge> edgesOf(const Grid& g) {
    std::vector<Edge> r;
    for (int axis : {0, 1, 2}) {
        const int u = (axis + 1) % 3, v = (axis + 2) % 3;
        for (int i = 0; i < g.count(axis); ++i)
            for (int j = 0; j <= g.count(u); ++j)
                for (int k = 0; k <= g.count(v); ++k) {
                    const auto full = [&](int dj, int dk) {
                        std::array<int, 3> c{};
                        c[static_cast<size_t>(axis)] = i;
                        c[static_cast<size_t>(u)] = j - dj, c[static_cast<size_t>(v)] = k - dk;
                        return g.is(c);
                    };
                    const int n = full(0, 0) + full(0, 1) + full(1, 0) + full(1, 1);
                    const bool across = full(0, 0) == full(1, 1); // of two: at opposite corners
                    if (n == 0 || n == 4 || (n == 2 && !across)) continue;
                    const auto place = [&](int at) {
                        std::array<double, 3> p{};
                        p[static_cast<size_t>(axis)] =
                            g.at[static_cast<size_t>(axis)][static_cast<size_t>(at)];
                        p[static_cast<size_t>(u)] = g.at[static_cast<size_t>(u)][static_cast<size_t>(j)];
                        p[static_cast<size_t>(v)] = g.at[static_cast<size_t>(v)][static_cast<size_t>(k)];
                        return Vec3{p[0], p[1], p[2]};
                    };
                    r.push_back({place(i), place(i + 1)});
                }
    }
    return r;
}

/// How deep in a box a line of sight runs before it comes to a place on it, mm.
double hiddenBy(const Grid& g, Vec3 place, Vec3 look) {
    double most = 0;
    g.each([&](std::array<int, 3> c) {
        if (!g.is(c)) return;
        double from = -1e9, to = 0; // along the look, up to the place
        for (int axis : {0, 1, 2}) {
            const auto i = static_cast<size_t>(c[static_cast<size_t>(axis)]);
            const auto& on = g.at[static_cast<size_t>(axis)];
            const double d = along(look, axis), p = along(place, axis);
            const double s = (on[i] - p) / d, t = (on[i + 1] - p) / d;
            from = std::max(from, std::min(s, t)), to = std::min(to, std::max(s, t));
        }
        most = std::max(most, to - from);
    });
    return most;
}

} // namespace

TEST_CASE(
    "of a part of boxes, seen from anywhere, every edge is drawn and hidden where a box lies before it") {
    const unsigned seed = GENERATE(range(401u, 411u));
    CAPTURE(seed);
    std::mt19937 random(seed);
    const Grid g = carved(seed);
    const TopoDS_Shape solid = solidOf(g);
    const std::vector<Edge> edges = edgesOf(g);
    for (int n = 0; n < 3; ++n) {
        const ViewFrame frame = randomFrame(random);
        const auto lines = projected(solid, frame, g_quiet);
        REQUIRE(lines);
        for (const Edge& e : edges)
            for (const double t : {0.13, 0.37, 0.62, 0.91}) {
                const Vec3 place = e.a + t * (e.b - e.a);
                const double before = hiddenBy(g, place, frame.look);
                if (before > 1e-6 && before < 0.05) continue; // just beside what hides it
                const bool hidden = before >= 0.05;
                const Vec2 p = frame(place);
                bool drawn = false;
                for (const ProjectedLine& l : *lines)
                    drawn = drawn || (distanceTo(l.shape, p) < 1e-5 &&
                                      (l.kind == ProjectedLine::Kind::hidden) == hidden);
                CAPTURE(place.x, place.y, place.z, hidden, before);
                CHECK(drawn);
            }
        // And nothing else is drawn.
        for (const ProjectedLine& l : *lines) {
            if (l.kind == ProjectedLine::Kind::smooth || l.kind == ProjectedLine::Kind::smooth_hidden)
                continue;
            for (const double t : {0.2, 0.7}) {
                const Vec2 p = pointAt(l.shape, t);
                CHECK(std::ranges::any_of(edges, [&](const Edge& e) {
                    return distanceTo(Segment{frame(e.a), frame(e.b)}, p) < 1e-5;
                }));
            }
        }
    }
}

TEST_CASE("a cylinder looked at askew shows its rims as ellipses, half of the farther one hidden") {
    std::mt19937 random(7);
    for (int n = 0; n < 6; ++n) {
        const ViewFrame frame = randomFrame(random);
        const double tilt = std::abs(frame.look.z), steep = std::sqrt(1 - tilt * tilt);
        if (tilt < 0.15 || tilt > 0.95) continue;
        CAPTURE(n, tilt);
        constexpr double radius = 12, height = 30;
        const TopoDS_Shape solid =
            BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(5, -3, 2), gp_Dir(0, 0, 1)), radius, height).Shape();
        const auto lines = projected(solid, frame, g_quiet);
        REQUIRE(lines);
        double ellipses[2] = {}, straight[2] = {};
        for (const ProjectedLine& l : *lines) {
            if (l.kind == ProjectedLine::Kind::smooth || l.kind == ProjectedLine::Kind::smooth_hidden)
                continue;
            const bool hidden = l.kind == ProjectedLine::Kind::hidden;
            const bool line = std::holds_alternative<Segment>(l.shape);
            (line ? straight : ellipses)[hidden] += lengthOf(l.shape);
            if (line) continue;
            REQUIRE(std::holds_alternative<EllipseArc>(l.shape));
            const EllipseArc& e = std::get<EllipseArc>(l.shape);
            CHECK(length(e.major) == Approx(radius));
            CHECK(e.ratio == Approx(tilt));
            const Vec2 low = frame({5, -3, 2}), high = frame({5, -3, 2 + height});
            CHECK(std::min(distance(e.centre, low), distance(e.centre, high)) < 1e-6);
            // Every place of it is a place of the rim.
            const double z = distance(e.centre, low) < 1e-6 ? 2 : 2 + height;
            for (const double t : {0.1, 0.45, 0.8}) {
                const Vec2 p = pointAt(l.shape, t);
                double nearest = 1e9;
                for (int k = 0; k < 20000; ++k) {
                    const double turn = 2 * kPi * k / 20000;
                    nearest = std::min(nearest, distance(p, frame({5 + radius * std::cos(turn),
                                                                   -3 + radius * std::sin(turn), z})));
                }
                CHECK(nearest < 0.004);
            }
        }
        const double around = integral(0, 2 * kPi, [&](double turn) {
            return radius * std::hypot(std::sin(turn), tilt * std::cos(turn));
        });
        CHECK(ellipses[0] == Approx(1.5 * around).epsilon(1e-5));
        CHECK(ellipses[1] == Approx(0.5 * around).epsilon(1e-5));
        CHECK(straight[0] == Approx(2 * height * steep).epsilon(1e-6));
    }
}

TEST_CASE("behind a stepped plane is left what lies behind each of its parts, and what it cuts is told") {
    // A block of 40 x 30 x 20, cut square to Y: at 10 up to X 15, at 22 from there on.
    const TopoDS_Shape block = BRepPrimAPI_MakeBox(gp_Pnt(0, 0, 0), gp_Pnt(40, 30, 20)).Shape();
    for (const double way : {1.0, -1.0}) {
        CAPTURE(way);
        // Depths count along the look.
        Cut cut;
        cut.along = {1, 0, 0};
        cut.parts = {{-1e9, 15, way * 10}, {15, 1e9, way * 22}};
        const auto shown = shownBehind(cut, {0, way, 0}, block, 1e-3);
        REQUIRE(shown);
        const double left = way > 0 ? 15 * 20 + 25 * 8 : 15 * 10 + 25 * 22;
        CHECK(volumeOf(shown->shape) == Approx(left * 20));
        CHECK(shown->cut.size() == 2);
    }
}
