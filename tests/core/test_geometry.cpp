#include "support/samples.h"

#include "core/base/box_tree.h"
#include "core/base/circle_fit.h"
#include "core/base/crossings.h"
#include "core/base/curve_cells.h"
#include "core/base/curve_ends.h"
#include "core/base/groups.h"
#include "core/base/point_merger.h"
#include "core/base/polygon.h"
#include "core/base/polygon_bands.h"
#include "core/base/simpler_curve.h"
#include "core/base/tolerances.h"
#include "core/drawing/drawing.h"

#include <random>

// Plane geometry against brute force: samples, all pairs, closed forms.
using namespace prism;
using namespace prism::test;

namespace {

class AnyCurve {
  public:
    explicit AnyCurve(unsigned seed) : random_(seed) {}
    double in(double lo, double hi) { return std::uniform_real_distribution<double>(lo, hi)(random_); }
    Vec2 point(double reach = 20) { return {in(-reach, reach), in(-reach, reach)}; }
    double sweep() { return in(0.3, 2 * kPi) * (in(0, 1) < 0.5 ? -1 : 1); }
    Segment segment() { return {point(), point()}; }
    Arc arc() { return {point(10), in(1, 15), in(-4, 4), sweep()}; }
    EllipseArc ellipse() { return {point(10), point(12), in(0.2, 1), in(-4, 4), sweep()}; }
    Spline spline() {
        std::vector<Vec2> through;
        const int n = 3 + static_cast<int>(in(0, 5));
        for (int i = 0; i < n; ++i) through.push_back(point());
        return splineThrough(through);
    }
    Curve any(int kind) {
        switch (kind % 4) {
        case 0:
            return segment();
        case 1:
            return arc();
        case 2:
            return ellipse();
        default:
            return spline();
        }
    }

  private:
    std::mt19937 random_;
};

std::vector<Vec2> dense(const Curve& c, int n) {
    std::vector<Vec2> r;
    for (int i = 0; i <= n; ++i) r.push_back(pointAt(c, double(i) / n));
    return r;
}

/// Sign changes of the side on which the points of one curve lie of a line.
int timesAcross(const Curve& c, const Segment& line, int n) {
    int times = 0;
    const Vec2 u = line.b - line.a;
    double before = 0;
    for (const Vec2 p : dense(c, n)) {
        const double side = cross(u, p - line.a), along = dot(u, p - line.a) / dot(u, u);
        if (before != 0 && side * before < 0 && along > 0 && along < 1) ++times;
        before = side;
    }
    return times;
}

} // namespace

TEST_CASE("lengths, boxes and tangents agree with a fine polygon along the curve") {
    AnyCurve make(11);
    for (int i = 0; i < 120; ++i) {
        const Curve c = make.any(i);
        INFO(i);
        constexpr int n = 4000;
        const auto points = dense(c, n);
        double sum = 0;
        Box2 box;
        for (int k = 0; k < n; ++k) sum += distance(points[k], points[k + 1]);
        for (Vec2 p : points) box.add(p);
        CHECK(lengthOf(c) == Approx(sum).epsilon(2e-4));
        const Box2 told = boxOf(c);
        CHECK(told.lo.x == Approx(box.lo.x).margin(2e-2));
        CHECK(told.lo.y == Approx(box.lo.y).margin(2e-2));
        CHECK(told.hi.x == Approx(box.hi.x).margin(2e-2));
        CHECK(told.hi.y == Approx(box.hi.y).margin(2e-2));
        for (double t : {0.1, 0.37, 0.5, 0.81}) {
            const Vec2 d = normalized(pointAt(c, t + 1e-6) - pointAt(c, t - 1e-6));
            CHECK(distance(d, tangentAt(c, t)) < 1e-3);
            CHECK(length(tangentAt(c, t)) == Approx(1));
        }
    }
}

TEST_CASE("the nearest place of a curve is as near as that of its fine polygon") {
    AnyCurve make(12);
    for (int i = 0; i < 200; ++i) {
        const Curve c = make.any(i);
        const Vec2 p = make.point(30);
        double best = 1e9;
        for (Vec2 q : dense(c, 3000)) best = std::min(best, distance(p, q));
        INFO(i);
        CHECK(distanceTo(c, p) <= best + 1e-9);
        CHECK(distanceTo(c, p) >= best - 0.05);
        const double t = nearestParameter(c, p);
        CHECK(t >= 0);
        CHECK(t <= 1);
    }
}

TEST_CASE("parts, the other way round and maps keep to the same points") {
    AnyCurve make(13);
    for (int i = 0; i < 80; ++i) {
        const Curve c = make.any(i);
        INFO(i);
        const double a = make.in(0, 0.45), b = make.in(0.55, 1);
        const Curve some = part(c, a, b), back = reversed(c);
        CHECK(distance(startOf(some), pointAt(c, a)) < 1e-6);
        CHECK(distance(endOf(some), pointAt(c, b)) < 1e-6);
        CHECK(distance(startOf(back), endOf(c)) < 1e-9);
        CHECK(distance(endOf(back), startOf(c)) < 1e-9);
        CHECK(lengthOf(part(c, 0, a + 0.01)) + lengthOf(part(c, a + 0.01, 1)) ==
              Approx(lengthOf(c)).epsilon(1e-4));
        const Affine2 m = Affine2::shift({3, -7}) * Affine2::rotation(0.6) * Affine2::scale(1.7, 1.7);
        CHECK(lengthOf(transformed(c, m)) == Approx(1.7 * lengthOf(c)).epsilon(1e-4));
        for (double t : {0.0, 0.3, 1.0})
            CHECK(distance(pointAt(transformed(c, m), t), m(pointAt(c, t))) < 1e-6);
        CHECK(distance(m.inverse()(m({4, 5})), {4, 5}) < 1e-9);
    }
}

TEST_CASE("a line crosses lines, arcs and ellipses as often as their points change sides") {
    AnyCurve make(14);
    int met = 0;
    for (int i = 0; i < 300; ++i) {
        const Segment line = make.segment();
        const Curve other = i % 3 == 0   ? Curve(make.segment())
                            : i % 3 == 1 ? Curve(make.arc())
                                         : Curve(make.ellipse());
        const auto found = crossings(line, other, 1e-9), turned = crossings(other, line, 1e-9);
        INFO(i);
        CHECK(static_cast<int>(found.size()) == timesAcross(other, line, 20'000));
        CHECK(turned.size() == found.size());
        for (Vec2 p : found) {
            CHECK(distanceTo(line, p) < 1e-6);
            CHECK(distanceTo(other, p) < 1e-6);
        }
        met += static_cast<int>(found.size());
    }
    CHECK(met > 90);
}

TEST_CASE("splines are crossed as often as their points change sides") {
    AnyCurve make(19);
    int met = 0;
    for (int i = 0; i < 60; ++i) {
        const Segment line = make.segment();
        const Spline curve = make.spline();
        const auto found = crossings(line, curve, 1e-7), turned = crossings(curve, line, 1e-7);
        INFO(i);
        CHECK(static_cast<int>(found.size()) == timesAcross(curve, line, 20'000));
        CHECK(turned.size() == found.size());
        for (Vec2 p : found) CHECK(std::max(distanceTo(line, p), distanceTo(curve, p)) < 1e-6);
        met += static_cast<int>(found.size());
    }
    CHECK(met > 30);
}

TEST_CASE("two circles cross in the two points of the closed form, on either side of the line of centres") {
    AnyCurve make(15);
    int two = 0;
    for (int i = 0; i < 200; ++i) {
        const Arc a{make.point(8), make.in(2, 12), 0, 2 * kPi}, b{make.point(8), make.in(2, 12), 0, 2 * kPi};
        const double d = distance(a.centre, b.centre);
        const auto found = crossings(a, b, 1e-9);
        INFO(i);
        if (d > a.radius + b.radius || d < std::abs(a.radius - b.radius)) {
            CHECK(found.empty());
            continue;
        }
        REQUIRE(found.size() == 2);
        ++two;
        for (Vec2 p : found) {
            CHECK(distance(p, a.centre) == Approx(a.radius));
            CHECK(distance(p, b.centre) == Approx(b.radius));
        }
        const Vec2 u = b.centre - a.centre;
        CHECK(cross(u, found[0] - a.centre) * cross(u, found[1] - a.centre) < 0);
        CHECK(distance((found[0] + found[1]) * 0.5,
                       a.centre + u * (dot(u, found[0] - a.centre) / dot(u, u))) < 1e-9);
    }
    CHECK(two > 40);
}

TEST_CASE("lines and circles that just touch have one place, those that just miss have none") {
    const Arc circle{{0, 0}, 5, 0, 2 * kPi};
    CHECK(crossings(Segment{{-9, 5}, {9, 5}}, circle, 1e-6).size() == 1);
    CHECK(crossings(Segment{{-9, 5.0001}, {9, 5.0001}}, circle, 1e-6).empty());
    CHECK(crossings(Segment{{-9, 4.99}, {9, 4.99}}, circle, 1e-6).size() == 2);
    CHECK(crossings(Arc{{10, 0}, 5, 0, 2 * kPi}, circle, 1e-6).size() == 1);
    CHECK(crossings(Arc{{10.001, 0}, 5, 0, 2 * kPi}, circle, 1e-6).empty());
    CHECK(crossings(Arc{{2, 0}, 3, 0, 2 * kPi}, circle, 1e-6).size() == 1); // within
    CHECK(crossings(Segment{{0, 0}, {4, 0}}, Segment{{4, 0}, {4, 3}}, 1e-9).size() == 1);
    CHECK(crossings(Segment{{0, 0}, {4, 0}}, Segment{{0, 1}, {4, 1}}, 1e-9).empty());
    CHECK(crossings(Segment{{0, 0}, {4, 0}}, Segment{{1, 0}, {9, 0}}, 1e-9).empty()); // they overlap
}

TEST_CASE("half arcs are crossed only where they run") {
    const Arc upper{{0, 0}, 5, 0, kPi}, clockwise{{0, 0}, 5, kPi, -kPi};
    for (const Arc& a : {upper, clockwise}) {
        CHECK(crossings(Segment{{0, -9}, {0, 9}}, a, 1e-9).size() == 1);
        CHECK(crossings(Segment{{-9, -1}, {9, -1}}, a, 1e-9).empty());
        CHECK(crossings(Segment{{-9, 3}, {9, 3}}, a, 1e-9).size() == 2);
    }
    CHECK(upper.full() == false);
    CHECK(Arc{{0, 0}, 1, 2, -2 * kPi}.full());
}

TEST_CASE("boxes are found as a look at every one of them finds them") {
    AnyCurve make(16);
    std::vector<Box2> boxes;
    for (int i = 0; i < 400; ++i) {
        Box2 b;
        b.add(make.point()), b.add(b.lo + Vec2{make.in(0, 4), make.in(0, 4)});
        boxes.push_back(i % 50 == 7 ? Box2{} : b); // some are empty
    }
    const BoxTree tree(boxes);
    for (int i = 0; i < 60; ++i) {
        Box2 asked;
        asked.add(make.point()), asked.add(make.point());
        std::vector<int> expected;
        for (int k = 0; k < static_cast<int>(boxes.size()); ++k)
            if (boxes[k].valid() && boxes[k].overlaps(asked)) expected.push_back(k);
        CHECK(tree.overlapping(asked) == expected);
    }
    CHECK(tree.overlapping(Box2{}).empty());
}

TEST_CASE("curves that come close share a cell") {
    AnyCurve make(17);
    std::vector<Curve> curves;
    for (int i = 0; i < 60; ++i) curves.push_back(make.any(i));
    std::vector<const Curve*> all;
    for (const Curve& c : curves) all.push_back(&c);
    std::set<std::pair<int, int>> together;
    CurveCells(all, 0.2).forEachCell([&](const std::vector<int>& cell) {
        CHECK(std::ranges::is_sorted(cell));
        for (int a : cell)
            for (int b : cell) together.insert({a, b});
    });
    int close = 0;
    for (int a = 0; a < 60; ++a)
        for (int b = a + 1; b < 60; ++b) {
            bool near = false;
            for (Vec2 p : dense(curves[a], 200)) near = near || distanceTo(curves[b], p) < 0.15;
            if (!near) continue;
            ++close;
            CHECK(together.contains({a, b}));
        }
    CHECK(close > 50);
}

TEST_CASE("places within the tolerance are one, in the order they are seen") {
    PointMerger m(0.01);
    CHECK(m.add({1, 1}) == 0);
    CHECK(m.add({2, 1}) == 1);
    CHECK(m.add({1.006, 1.006}) == 0);
    CHECK(m.add({1.02, 1}) == 2);
    CHECK(m.find({2, 1.009}) == 1);
    CHECK(m.find({2, 1.011}) == -1);
    CHECK(m.find({50, 50}) == -1);
    CHECK(m.places() == std::vector<Vec2>{{1, 1}, {2, 1}, {1.02, 1}});
    // On both sides of every border between cells.
    for (int i = -40; i < 40; ++i) {
        PointMerger edge(0.01);
        const double x = i * 0.16;
        const int number = edge.add({x - 0.004, x - 0.004});
        CHECK(edge.find({x + 0.003, x + 0.003}) == number);
        CHECK(edge.find({x - 0.004 + 0.02, x}) == -1);
    }
}

TEST_CASE("sets that were joined have their smallest member for a name") {
    Groups g(6);
    g.join(4, 2), g.join(5, 4), g.join(1, 0);
    CHECK(g.find(5) == 2);
    CHECK(g.find(4) == 2);
    CHECK(g.find(1) == 0);
    CHECK(g.find(3) == 3);
    g.join(5, 1);
    CHECK(g.find(2) == 0);
}

TEST_CASE("the even-odd rule tells inside from outside for any polygon without doubled edges") {
    const std::vector<Vec2> letter{{0, 0}, {10, 0}, {10, 2}, {2, 2}, {2, 8}, {10, 8}, {10, 10}, {0, 10}};
    CHECK(insidePolygon(letter, {1, 5}));
    CHECK(insidePolygon(letter, {9, 1}));
    CHECK(insidePolygon(letter, {9, 9}));
    CHECK_FALSE(insidePolygon(letter, {6, 5}));
    CHECK_FALSE(insidePolygon(letter, {-1, 5}));
    CHECK_FALSE(insidePolygon(letter, {11, 1}));
    CHECK_FALSE(insidePolygon(letter, {5, 10.5}));
    AnyCurve make(18);
    for (int i = 0; i < 300; ++i) { // against the winding of a triangle by areas
        const Vec2 a = make.point(), b = make.point(), c = make.point(), p = make.point();
        const double whole = std::abs(cross(b - a, c - a));
        const double parts =
            std::abs(cross(a - p, b - p)) + std::abs(cross(b - p, c - p)) + std::abs(cross(c - p, a - p));
        if (std::abs(parts - whole) < 1e-6) continue;
        if (parts > whole * (1 + 1e-9) || parts < whole)
            CHECK(insidePolygon({a, b, c}, p) == (parts < whole * (1 + 1e-9)));
    }
}

TEST_CASE("arcs along points of a circle run from the first to the last, the way the points do") {
    const Circle circle{{3, -2}, 7};
    for (double sweep : {1.0, -1.0, 3.5, -5.5}) {
        std::vector<Vec2> points;
        for (int i = 0; i <= 30; ++i)
            points.push_back(circle.centre + direction(0.4 + sweep * i / 30) * circle.radius);
        const auto arc = arcOn(circle, points, 1e-6, false);
        REQUIRE(arc);
        CHECK(arc->sweep == Approx(sweep));
        CHECK(distance(startOf(*arc), points.front()) < 1e-9);
        CHECK(distance(endOf(*arc), points.back()) < 1e-9);
        points[12] = points[12] + Vec2{0.01, 0.01};
        CHECK_FALSE(arcOn(circle, points, 1e-6, false));
        const auto fitted = fitCircle(points);
        REQUIRE(fitted);
        CHECK(fitted->radius == Approx(7).margin(0.02));
    }
    std::vector<Vec2> round;
    for (int i = 0; i < 24; ++i) round.push_back(circle.centre + direction(2 * kPi * i / 24) * circle.radius);
    const auto whole = arcOn(circle, round, 1e-6, true);
    REQUIRE(whole);
    CHECK(whole->full());
}

TEST_CASE("tolerances grow with what is lost, and never shrink") {
    const Tolerances near = Tolerances::forSheet(400, 400), far = Tolerances::forSheet(400, 4e9);
    CHECK(near.same_sheet == Approx(4e-5));
    CHECK(near.touch_sheet == Approx(8e-4));
    CHECK(far.same_sheet == Approx(4e-3));
    CHECK(far.touch_sheet == Approx(0.016));
    const Tolerances large = near.atScale(10);
    CHECK(large.same_model == Approx(8e-3));
    CHECK(large.proof == Approx(0.016));
    CHECK(near.atScale(1e-3).same_model == Approx(1e-4));
    const Tolerances steps = near.forSteps(0.01);
    CHECK(steps.touch_sheet == Approx(0.03));
    CHECK(steps.proof == Approx(0.03));
    CHECK(near.forSteps(1e-9).touch_sheet == Approx(near.touch_sheet));
    const Tolerances traced = near.forTracing(0.1);
    CHECK(traced.same_model == Approx(0.025));
    CHECK(traced.proof == Approx(0.075));
}

TEST_CASE("an arc through three random places of a circle runs through the middle one, either way round") {
    std::mt19937 rng(17);
    const auto in = [&](double lo, double hi) { return std::uniform_real_distribution(lo, hi)(rng); };
    for (int round = 0; round < 200; ++round) {
        const Vec2 centre{in(-50, 50), in(-50, 50)};
        const double radius = in(1, 40), start = in(-kPi, kPi), sweep = in(0.3, 6) * (round % 2 ? 1 : -1);
        const auto at = [&](double t) { return centre + direction(start + t * sweep) * radius; };
        const auto arc = arcThrough(at(0), at(in(0.2, 0.8)), at(1));
        REQUIRE(arc);
        CHECK(distance(arc->centre, centre) < 1e-6);
        CHECK(arc->sweep == Approx(sweep).epsilon(1e-6));
        CHECK(distance(startOf(*arc), at(0)) < 1e-6);
        CHECK(distance(endOf(*arc), at(1)) < 1e-6);
    }
}

TEST_CASE("an arc prolonged goes on along its circle by the length asked for, at either end") {
    std::mt19937 rng(18);
    const auto in = [&](double lo, double hi) { return std::uniform_real_distribution(lo, hi)(rng); };
    for (int round = 0; round < 100; ++round) {
        const Arc a{{in(-20, 20), in(-20, 20)}, in(2, 30), in(-3, 3), in(0.5, 3) * (round % 2 ? 1 : -1)};
        const double by = in(0.05, 0.8) * a.radius;
        for (const int side : {0, 1}) {
            const Curve longer = prolonged(a, side, by);
            CHECK(lengthOf(longer) == Approx(lengthOf(a) + by));
            CHECK(distance(side ? startOf(longer) : endOf(longer), side ? startOf(a) : endOf(a)) < 1e-9);
            CHECK(distanceTo(longer, side ? endOf(a) : startOf(a)) < 1e-9); // it goes on from there
            // A place on what was added becomes the end again, and so does one on the arc itself.
            for (const double t : {0.02, 0.5, 0.98}) {
                const Vec2 p = pointAt(longer, t);
                const Curve ended = endedAt(a, side, p);
                CHECK(distance(side ? endOf(ended) : startOf(ended), p) < 1e-6);
                CHECK(distance(side ? startOf(ended) : endOf(ended), side ? startOf(a) : endOf(a)) < 1e-6);
            }
        }
    }
}

TEST_CASE("a free-form curve that is asked to begin where it ends stays as it is") {
    const Curve c = splineThrough({{0, 0}, {10, 5}, {20, 0}});
    CHECK(lengthOf(endedAt(c, 0, {20, 0})) == Approx(lengthOf(c)));
    CHECK(lengthOf(endedAt(c, 1, {0, 0})) == Approx(lengthOf(c)));
    const Vec2 on = pointAt(c, 0.25);
    CHECK(distance(startOf(endedAt(c, 0, on)), on) < 1e-6);
    CHECK(distance(endOf(endedAt(c, 0, on)), {20, 0}) < 1e-9);
    CHECK(distance(endOf(endedAt(c, 1, on)), on) < 1e-6);
    CHECK(distance(startOf(endedAt(c, 1, on)), {0, 0}) < 1e-9);
}

TEST_CASE("one line far off, level or upright, does not stretch the extent of a drawing") {
    for (const Vec2 far : {Vec2{1e6, 20}, Vec2{-1e6, 20}, Vec2{30, 1e6}, Vec2{30, -1e6}}) {
        Drawing d;
        for (int i = 0; i < 20; ++i) {
            Entity e;
            e.id = i;
            const double x = 10.0 * (i % 5), y = 5.0 * (i / 5);
            e.curves = {Segment{{x, y}, {x + 8, y + 4}}};
            d.entities.push_back(e);
        }
        Entity stray;
        stray.id = 20, stray.curves = {Segment{far, far + Vec2{1, 1}}};
        d.entities.push_back(stray);
        const Box2 b = extentOf(d);
        CHECK(b.lo == Vec2{0, 0});
        CHECK(b.hi == Vec2{48, 19});
    }
}

TEST_CASE("what lies within four times the size of the middle of a drawing belongs to its extent") {
    // Lines spread 1000 wide and 100 high, or the other way round; the middle nine tenths of them 900.
    for (const bool upright : {false, true})
        for (const Vec2 way : {Vec2{1, 0}, Vec2{-1, 0}, Vec2{0, 1}, Vec2{0, -1}}) {
            Drawing d;
            const auto put = [&](Vec2 at) {
                Entity e;
                e.id = static_cast<int>(d.entities.size());
                if (upright) at = {at.y, at.x};
                e.curves = {Segment{at - Vec2{0.5, 0.5}, at + Vec2{0.5, 0.5}}};
                d.entities.push_back(e);
            };
            for (int i = 0; i < 100; ++i) put({10.0 * i - 495, 1.0 * ((37 * i) % 100) - 49.5});
            const Vec2 along = upright ? Vec2{way.y, way.x} : way;
            // Of 101 the five farthest at either end do not count; the stray one is one of them.
            const double edge = way.x != 0 ? 455 : 45.5, size = way.x != 0 ? 900 : 890;
            put((edge + 4 * size - 20) * way);
            INFO(along.x << ", " << along.y << (upright ? " upright" : ""));
            CHECK(extentOf(d).diagonal() > 3500);
            d.entities.pop_back();
            put((edge + 4 * size + 20) * way);
            CHECK(extentOf(d).diagonal() < 1100);
        }
}

TEST_CASE("an ellipse crosses its own quarter turn in four places of the closed form") {
    std::mt19937 rng(77);
    const auto some = [&](double lo, double hi) { return std::uniform_real_distribution<>(lo, hi)(rng); };
    for (int round = 0; round < 60; ++round) {
        const double a = some(8, 40), b = a * some(0.2, 0.85), turn = some(0, 6);
        const Vec2 centre{some(-50, 50), some(-50, 50)};
        const Curve first = EllipseArc{centre, a * direction(turn), b / a, some(0, 6), 2 * kPi},
                    second = EllipseArc{centre, a * direction(turn + kPi / 2), b / a, some(0, 6), -2 * kPi};
        const double x = a * b / std::sqrt(a * a + b * b); // where x = y on both
        const auto found = crossings(first, second, 1e-6);
        REQUIRE(found.size() == 4);
        for (int k = 0; k < 4; ++k) {
            const Vec2 p = centre + std::sqrt(2.0) * x * direction(turn + kPi / 4 + k * kPi / 2);
            CHECK(std::ranges::count_if(found, [&](Vec2 q) { return distance(p, q) < 1e-6; }) == 1);
        }
        // Of an arc of one only those that lie on it.
        const Curve half = EllipseArc{centre, a * direction(turn), b / a, 0, kPi};
        for (Vec2 q : crossings(half, second, 1e-6)) CHECK(cross(direction(turn), q - centre) > -1e-6);
        CHECK(crossings(half, second, 1e-6).size() == 2);
    }
}

TEST_CASE("what lies within a polygon in bands is what winds round it") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> part(0, 1);
    for (const int corners : {3, 4, 5, 9, 40, 200}) {
        // Star-shaped about a place off the middle, its first corner anywhere.
        std::vector<Vec2> p;
        const double turn = 2 * kPi * part(random);
        for (int i = 0; i < corners; ++i)
            p.push_back(Vec2{3, -2} + (4 + 6 * part(random)) * direction(turn + 2 * kPi * i / corners));
        const PolygonBands bands(p);
        for (int k = 0; k < 400; ++k) {
            const Vec2 q{3 + 24 * (part(random) - 0.5), -2 + 24 * (part(random) - 0.5)};
            double around = 0; // the angles under which its edges are seen
            for (size_t i = 0; i < p.size(); ++i) {
                const Vec2 a = p[i] - q, b = p[(i + 1) % p.size()] - q;
                around += std::atan2(cross(a, b), dot(a, b));
            }
            CHECK(bands.contains(q) == (std::abs(around) > kPi));
        }
    }
}

TEST_CASE(
    "a line wavers when it bends both ways, and is drawn by hand unless most of it is level or upright") {
    const auto chain = [](const std::vector<Vec2>& at) {
        std::vector<Curve> r;
        for (size_t i = 0; i + 1 < at.size(); ++i) r.emplace_back(Segment{at[i], at[i + 1]});
        return r;
    };
    const auto stairs = [&](double tread, double rise) {
        std::vector<Vec2> at{{0, 0}};
        for (int i = 0; i < 5; ++i) {
            at.push_back(at.back() + Vec2{tread, 0});
            at.push_back(at.back() + Vec2{0, rise});
        }
        return chain(at);
    };
    for (const auto& [tread, rise] : {std::pair{1.0, 5.0}, {5.0, 1.0}, {2.0, 2.0}}) {
        CHECK(wavers(stairs(tread, rise)));
        CHECK_FALSE(drawnByHand(stairs(tread, rise)));
    }
    const auto zigzag = chain({{0, 0}, {3, 1}, {4, 4}, {7, 5}, {8, 8}});
    CHECK(wavers(zigzag));
    CHECK(drawnByHand(zigzag));
    CHECK_FALSE(wavers(chain({{0, 0}, {3, 1}, {5, 3}, {6, 6}}))); // bends one way only
    CHECK_FALSE(drawnByHand(chain({{0, 0}, {3, 1}, {5, 3}, {6, 6}})));
    // Half of it level is too much, a little less is not.
    CHECK_FALSE(drawnByHand(chain({{0, 0}, {3, 4}, {13, 4}, {16, 8}})));
    CHECK_FALSE(drawnByHand(chain({{0, 0}, {3, 4}, {13.1, 4}, {16, 8}})));
    CHECK(drawnByHand(chain({{0, 0}, {3, 4}, {12.9, 4}, {15.9, 8}})));
    // Arcs that turn both ways, and one that does not.
    const Curve left = Arc{{0, 0}, 5, 0, kPi / 2}, right = Arc{{0, 10}, 5, -kPi / 2, -kPi / 2};
    CHECK(wavers({left, right}));
    CHECK(drawnByHand({left, right}));
    CHECK_FALSE(wavers({left}));
}
