#include "core/base/cover.h"
#include "core/base/simpler_curve.h"
#include "core/reading/svg_path.h"

#include <random>

// What pages make of arcs, and how much of a curve others cover, held against arcs known beforehand.
using namespace prism;

namespace {

double within(std::mt19937& rng, double lo, double hi) {
    return std::uniform_real_distribution<>(lo, hi)(rng);
}

/// Cubics for an arc, one span for at most a quarter turn or as many as asked for.
Spline asCubics(const Arc& a, int spans) {
    Spline s;
    s.degree = 3;
    const double step = a.sweep / spans, reach = 4.0 / 3 * std::tan(step / 4) * a.radius;
    const auto at = [&](double t) { return a.centre + a.radius * direction(t); };
    const auto along = [&](double t) { return reach * direction(t + kPi / 2); };
    s.poles.push_back(at(a.start));
    s.knots = {0, 0, 0, 0};
    for (int k = 0; k < spans; ++k) {
        const double from = a.start + k * step, to = from + step;
        s.poles.push_back(at(from) + along(from));
        s.poles.push_back(at(to) - along(to));
        s.poles.push_back(at(to));
        for (int i = 0; i < (k + 1 == spans ? 4 : 3); ++i) s.knots.push_back(k + 1);
    }
    return s;
}

std::vector<Curve> kinds(std::mt19937& rng) {
    const Vec2 at{within(rng, -50, 50), within(rng, -50, 50)};
    const double turn = within(rng, 0, 2 * kPi);
    return {Segment{at, at + within(rng, 20, 60) * direction(turn)},
            Arc{at, within(rng, 5, 30), turn, within(rng, 1, 6)},
            Arc{at, within(rng, 5, 30), turn, -within(rng, 1, 6)},
            EllipseArc{at, within(rng, 10, 30) * direction(turn), within(rng, 0.3, 0.9), within(rng, 0, 3),
                       within(rng, 1, 3)},
            splineThrough({at, at + Vec2{8, 5}, at + Vec2{18, -3}, at + Vec2{30, 4}})};
}

} // namespace

TEST_CASE("cubics drawn for an arc are that arc again, in one span or in several, either way round") {
    std::mt19937 rng(41);
    for (int round = 0; round < 300; ++round) {
        const int spans = 1 + round % 4;
        const double most = spans * kPi / 2, sweep = within(rng, 0.2, 0.98 * most) * (round % 2 ? 1 : -1);
        const Arc a{
            {within(rng, -200, 200), within(rng, -200, 200)}, within(rng, 2, 60), within(rng, 0, 6), sweep};
        const auto found = simplerCurve(asCubics(a, spans), 1e-3);
        INFO(spans << " spans of " << sweep);
        REQUIRE(found);
        REQUIRE(std::holds_alternative<Arc>(*found));
        const Arc& b = std::get<Arc>(*found);
        CHECK(distance(b.centre, a.centre) < 1e-3 * a.radius);
        CHECK(b.radius == Approx(a.radius).epsilon(1e-3));
        CHECK(b.sweep == Approx(a.sweep).margin(2e-3));
        CHECK(distance(startOf(*found), startOf(Curve(a))) < 2e-3);
    }
}

TEST_CASE("four cubics round a circle are the circle, those of a line are the line, others stay") {
    std::mt19937 rng(42);
    for (int round = 0; round < 50; ++round) {
        const Arc a{{within(rng, -200, 200), within(rng, -200, 200)},
                    within(rng, 2, 60),
                    within(rng, 0, 6),
                    round % 2 ? 2 * kPi : -2 * kPi};
        const auto circle = simplerCurve(asCubics(a, 4), 1e-3);
        REQUIRE(circle);
        REQUIRE(std::holds_alternative<Arc>(*circle));
        CHECK(std::get<Arc>(*circle).full());
        CHECK(std::get<Arc>(*circle).radius == Approx(a.radius).epsilon(1e-3));
        Spline bowed = asCubics({a.centre, a.radius, 0, 1.2}, 1);
        bowed.poles[1] = bowed.poles[1] + Vec2{0.3 * a.radius, 0}; // leans to one side: no arc
        const auto other = simplerCurve(bowed, 1e-4 * a.radius);
        CHECK((!other || !std::holds_alternative<Arc>(*other)));
        Spline straight = bowed;
        for (size_t i = 0; i < 4; ++i)
            straight.poles[i] = a.centre + (0.4 * double(i) * a.radius) * direction(a.start);
        const auto line = simplerCurve(straight, 1e-3);
        REQUIRE(line);
        REQUIRE(std::holds_alternative<Segment>(*line));
        CHECK(distance(endOf(*line), straight.poles[3]) < 1e-9);
    }
}

TEST_CASE("arcs by their ends are the arcs that the flags ask for, whatever their radii and turn") {
    std::mt19937 rng(43);
    for (int round = 0; round < 400; ++round) {
        const double rx = within(rng, 5, 30), ry = within(rng, 5, 30), turn = within(rng, -1.5, 1.5),
                     from = within(rng, 0, 6), sweep = within(rng, 0.1, 6.1) * (round % 2 ? 1 : -1);
        const Vec2 centre{within(rng, -90, 90), within(rng, -90, 90)};
        const auto on = [&](double t) {
            return centre + Affine2::rotation(turn).linear(Vec2{rx * std::cos(t), ry * std::sin(t)});
        };
        const Curve c =
            svg::arcTo(on(from), on(from + sweep), {rx, ry}, turn, std::abs(sweep) > kPi, sweep > 0);
        for (double t : {0.0, 0.3, 0.5, 0.8, 1.0})
            CHECK(distance(pointAt(c, t), on(from + t * sweep)) < 1e-6 * (rx + ry));
    }
    // Radii too small to reach are grown until they do: then the middle of the chord is the centre.
    const Curve grown = svg::arcTo({0, 0}, {40, 0}, {5, 10}, 0, false, true);
    CHECK(distance(startOf(grown), {0, 0}) < 1e-9);
    CHECK(distance(endOf(grown), {40, 0}) < 1e-9);
    CHECK(distance(pointAt(grown, 0.5), {20, -40}) < 1e-6); // half axes of 20 and 40
    CHECK(std::holds_alternative<Segment>(svg::arcTo({0, 0}, {40, 0}, {0, 10}, 0, false, true)));
    CHECK(std::holds_alternative<Segment>(svg::arcTo({0, 0}, {40, 0}, {10, 0}, 0, false, true)));
}

TEST_CASE("what pieces of a curve leave uncovered is what lies between them, whatever kind it is") {
    constexpr double kTol = 1e-3;
    std::mt19937 rng(44);
    for (int round = 0; round < 40; ++round)
        for (const Curve& c : kinds(rng)) {
            const double a = within(rng, 0.1, 0.3), b = within(rng, 0.4, 0.6), e = within(rng, 0.7, 0.9);
            const Curve first = part(c, 0, a), second = reversed(part(c, b, e));
            const Curve beside = transformed(c, Affine2::shift({0, 3}));
            INFO("kind " << c.index() << ", covered to " << a << " and from " << b << " to " << e);
            const auto gaps = uncovered(c, {&second, &first}, kTol);
            REQUIRE(gaps.size() == 2);
            const double slack = 0.05; // mm
            CHECK(lengthOf(part(c, 0, gaps[0].from)) == Approx(lengthOf(first)).margin(slack));
            CHECK(lengthOf(part(c, gaps[0].from, gaps[0].to)) ==
                  Approx(lengthOf(part(c, a, b))).margin(2 * slack));
            CHECK(lengthOf(part(c, gaps[1].from, 1)) == Approx(lengthOf(part(c, e, 1))).margin(slack));
            CHECK(gaps[1].to == Approx(1));
            CHECK(uncovered(c, {&c}, kTol).empty());
            CHECK(uncovered(c, {}, kTol).size() == 1);
            // A copy beside it may cross it, but covers no more than the crossing.
            double left = 0;
            for (const Interval& i : uncovered(c, {&beside}, kTol)) left += lengthOf(part(c, i.from, i.to));
            if (!std::holds_alternative<Segment>(c)) CHECK(left > 0.9 * lengthOf(c));
        }
}
