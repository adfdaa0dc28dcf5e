#include "core/base/curve.h"
#include "core/base/ellipse_fit.h"
#include "core/base/nearest_place.h"
#include "core/base/polygon_bands.h"

#include <random>

using namespace prism;

namespace {

Spline quarterCircle(double r) { // the exact quarter circle as a rational quadratic
    Spline s;
    s.degree = 2;
    s.knots = {0, 0, 0, 1, 1, 1};
    s.poles = {{r, 0}, {r, r}, {0, r}};
    s.weights = {1, std::sqrt(0.5), 1};
    return s;
}

std::vector<Curve> someCurves() {
    return {Segment{{1, 2}, {7, -3}},   Arc{{2, 1}, 5, 0.3, 2.1},
            Arc{{-4, 0}, 2, 1.0, -3.0}, EllipseArc{{0, 0}, {6, 2}, 0.4, 0.2, 4.0},
            quarterCircle(8),           splineThrough({{0, 0}, {3, 4}, {8, 2}, {11, 7}})};
}

} // namespace

TEST_CASE("a bulge of one is a half circle on the right of its chord") {
    const Curve c = fromBulge({0, 0}, {10, 0}, 1);
    const Arc& a = std::get<Arc>(c);
    CHECK(a.radius == Approx(5));
    CHECK(a.centre.x == Approx(5));
    CHECK(a.centre.y == Approx(0).margin(1e-12));
    CHECK(pointAt(c, 0.5).y == Approx(-5)); // counter-clockwise from the first point: below the chord
    CHECK(lengthOf(c) == Approx(kPi * 5));
}

TEST_CASE("a bulge's arc ends where its chord ends, for either sign and any size") {
    for (double bulge : {-3.0, -1.0, -0.2, 1e-9, 0.2, 0.7, 5.0}) {
        const Curve c = fromBulge({1, 1}, {4, 5}, bulge);
        CHECK(distance(startOf(c), {1, 1}) < 1e-9);
        CHECK(distance(endOf(c), {4, 5}) < 1e-9);
        if (std::abs(bulge) > 1e-6)
            CHECK(std::abs(std::get<Arc>(c).sweep) == Approx(4 * std::atan(std::abs(bulge))));
    }
}

TEST_CASE("points of a curve survive the map of the curve") {
    const Affine2 m = Affine2::shift({3, -8}) * Affine2::rotation(0.7) * Affine2::scale(-2, 2);
    for (const Curve& c : someCurves()) {
        const Curve d = transformed(c, m);
        for (double t : {0.0, 0.25, 0.6, 1.0}) CHECK(distance(pointAt(d, t), m(pointAt(c, t))) < 1e-9);
    }
}

TEST_CASE("an arc under unequal scale becomes the ellipse through the same points") {
    const Curve c = Arc{{2, 1}, 5, 0.3, 2.1};
    const Affine2 m = Affine2::scale(3, 0.5);
    const Curve d = transformed(c, m);
    REQUIRE(std::holds_alternative<EllipseArc>(d));
    CHECK(distance(startOf(d), m(startOf(c))) < 1e-9);
    CHECK(distance(endOf(d), m(endOf(c))) < 1e-9);
    for (double t : {0.2, 0.5, 0.8}) CHECK(distanceTo(d, m(pointAt(c, t))) < 1e-6);
}

TEST_CASE("a part of a curve runs through the curve's own points") {
    for (const Curve& c : someCurves()) {
        const Curve p = part(c, 0.2, 0.65);
        CHECK(distance(startOf(p), pointAt(c, 0.2)) < 1e-9);
        CHECK(distance(endOf(p), pointAt(c, 0.65)) < 1e-9);
        for (double t : {0.1, 0.5, 0.9}) CHECK(distanceTo(c, pointAt(p, t)) < 1e-6);
    }
}

TEST_CASE("turned over, a curve keeps its points and runs the other way") {
    for (const Curve& c : someCurves()) {
        const Curve r = reversed(c);
        CHECK(distance(startOf(r), endOf(c)) < 1e-12);
        CHECK(distance(endOf(r), startOf(c)) < 1e-12);
        const Vec2 sum = tangentAt(c, 0) + tangentAt(r, 1);
        CHECK(length(sum) < 1e-6);
    }
}

TEST_CASE("the box of an arc touches its quadrants and no more") {
    const Box2 b = boxOf(Arc{{0, 0}, 10, -kPi / 4, kPi});
    CHECK(b.hi.x == Approx(10));
    CHECK(b.hi.y == Approx(10));
    CHECK(b.lo.x == Approx(-10 * std::sqrt(0.5)));
    CHECK(b.lo.y == Approx(-10 * std::sqrt(0.5)));
}

TEST_CASE("the rational quarter circle has the circle's length and distance") {
    const Curve c = quarterCircle(8);
    CHECK(lengthOf(c) == Approx(kPi * 4).epsilon(1e-4));
    for (double t : {0.0, 0.1, 0.4, 0.77, 1.0}) CHECK(length(pointAt(c, t)) == Approx(8).epsilon(1e-12));
}

TEST_CASE("a spline through points passes through every one of them") {
    const std::vector<Vec2> q{{0, 0}, {2, 5}, {6, 4}, {9, -1}, {12, 3}};
    const Curve c = splineThrough(q);
    for (Vec2 p : q) CHECK(distanceTo(c, p) < 1e-6);
}

TEST_CASE("samples lie within the tolerance of arcs of any size") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> radius(0.01, 500), angle(-3, 3);
    for (int i = 0; i < 50; ++i) {
        const Arc a{{radius(random), 0}, radius(random), angle(random), angle(random)};
        const auto pts = sampled(a, 1e-3);
        for (size_t k = 1; k < pts.size(); ++k)
            CHECK(std::abs(distance((pts[k - 1] + pts[k]) * 0.5, a.centre) - a.radius) < 1.5e-3);
    }
}

TEST_CASE("an ellipse is found again from places on it, and nothing else is one") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> size(2, 60), share(0.05, 0.98), turn(0, 2 * kPi), far(-500, 500);
    for (int i = 0; i < 40; ++i) {
        EllipseArc e;
        e.centre = {far(random), far(random)};
        e.major = size(random) * direction(turn(random));
        e.ratio = share(random), e.start = turn(random);
        e.sweep = (i % 2 == 0 ? 1 : -1) * (0.8 + share(random) * 2.2);
        std::vector<Vec2> places;
        for (int k = 0; k < 15; ++k) places.push_back(pointAt(e, k / 14.0));
        const auto found = ellipseOn(places, 1e-6);
        REQUIRE(found);
        for (double t : {0.0, 0.11, 0.37, 0.5, 0.93, 1.0})
            CHECK(distanceTo(Curve(*found), pointAt(e, t)) < 1e-6);
        CHECK(distance(startOf(*found), startOf(e)) < 1e-6);
        CHECK(distance(endOf(*found), endOf(e)) < 1e-6);
        places[7] = places[7] + Vec2{0.01, 0.01};
        CHECK_FALSE(ellipseOn(places, 1e-6));
    }
    std::vector<Vec2> line, parabola;
    for (int k = 0; k < 15; ++k)
        line.push_back({1.0 * k, 2.0 * k}), parabola.push_back({1.0 * k, 0.1 * k * k});
    CHECK_FALSE(ellipseOn(line, 1e-6));
    CHECK_FALSE(ellipseOn(parabola, 1e-6));
    CHECK_FALSE(ellipseOn({{0, 0}, {1, 0}, {1, 1}}, 1e-6));
}

TEST_CASE("pieces of a spline that hardly have a length, or end a hair from its ends, lie on it") {
    std::vector<Vec2> points;
    for (int i = 0; i <= 9; ++i) points.push_back({i * 7.0, 5 * std::sin(i * 0.9)});
    const Curve whole = splineThrough(points);
    for (double hair : {1e-17, 1e-15, 1e-14, 1e-13, 1e-12, 3e-12, 1e-11, 1e-9})
        for (double at : {0.0, 0.3, 1.0 / 3, 4.0 / 9, 0.7, 1.0})
            for (auto [from, to] :
                 {std::pair{at, at + hair}, {at - hair, at}, {at, at}, {hair, at}, {at, 1 - hair}}) {
                from = std::clamp(from, 0.0, 1.0), to = std::clamp(to, 0.0, 1.0);
                if (from > to) continue;
                INFO(from << " to " << to);
                const Curve piece = part(whole, from, to);
                CHECK(distance(startOf(piece), pointAt(whole, from)) < 1e-8);
                CHECK(distance(endOf(piece), pointAt(whole, to)) < 1e-8);
                CHECK(distance(pointAt(piece, 0.5), pointAt(whole, 0.5 * (from + to))) < 1e-6);
                CHECK(lengthOf(piece) <= lengthOf(whole) + 1e-9);
            }
}

TEST_CASE("no place tried on a curve is nearer than the one found, and what is surely farther is") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> at(-12, 12);
    int far = 0;
    for (const Curve& c : someCurves()) {
        const NearestPlace nearest(c);
        for (int k = 0; k < 60; ++k) {
            const Vec2 p{at(random), at(random)};
            const double found = distance(pointAt(c, nearest(p)), p);
            double tried = std::numeric_limits<double>::infinity();
            for (int i = 0; i <= 4000; ++i) tried = std::min(tried, distance(pointAt(c, i / 4000.0), p));
            CHECK(found <= tried + 1e-9);
            CHECK(found >= tried - 0.01); // as far as those tried stand from each other
            for (double than : {0.1, 2.0, 9.0}) {
                if (!nearest.farther(p, than)) continue;
                CHECK(tried > than);
                ++far;
            }
        }
    }
    CHECK(far > 100);
}

TEST_CASE("a polygon with bands holds the same places as edge by edge") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> at(-10, 10);
    for (size_t corners : {3, 4, 9, 200}) {
        std::vector<Vec2> star;
        for (size_t i = 0; i < corners; ++i)
            star.push_back(direction(2 * kPi * static_cast<double>(i) / static_cast<double>(corners)) *
                           (i % 2 ? 4.0 : 9.0));
        const PolygonBands bands(star);
        int in = 0;
        for (int k = 0; k < 500; ++k) {
            const Vec2 p{at(random), k % 5 ? at(random) : star[static_cast<size_t>(k) % corners].y};
            CHECK(bands.contains(p) == insidePolygon(star, p));
            in += bands.contains(p);
        }
        CHECK(in > 20);
        CHECK(in < 480);
    }
}
