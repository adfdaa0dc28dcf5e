#include "core/tracing/fits.h"
#include "core/tracing/pieces.h"

#include <catch2/catch.hpp>
#include <random>

using namespace prism;

// What is done to traced lines and arcs before they are a drawing, one thing at a time.

namespace {

constexpr double kPixel = 0.1; // sheet units; the ink is five of them wide

TracePiece piece(Curve shape, int from = -1, int to = -1, double width = 0.5) {
    TracePiece p;
    p.shape = std::move(shape), p.from = from, p.to = to, p.width = width;
    return p;
}

Segment lineOf(const TracePieces& t, size_t i) {
    return std::get<Segment>(t.pieces[i].shape);
}

Arc arcOf(const TracePieces& t, size_t i) {
    return std::get<Arc>(t.pieces[i].shape);
}

void checkAt(Vec2 p, Vec2 q, double off = 1e-9) {
    CAPTURE(p.x, p.y, q.x, q.y);
    CHECK(distance(p, q) <= off);
}

} // namespace

TEST_CASE("lines that are level or upright to a pixel are laid so, at one height where they nearly are") {
    TracePieces t;
    t.pieces = {piece(Segment{{0, 10.02}, {50, 9.98}}),     // level, at 10
                piece(Segment{{60, 10.03}, {80, 10.03}}),   // 0.3 pixels higher: one height, by their lengths
                piece(Segment{{0, 20.05}, {50, 19.93}}),    // 1.2 pixels of rise: it leans
                piece(Segment{{30.02, 0}, {29.98, 40}}),    // upright
                piece(Segment{{100, 40}, {103, 40.05}}),    // half a pixel, but one in sixty: it leans
                piece(Arc{{30.03, 60}, 8, 0, 2 * kPi}),     // its centre stands over the upright line
                piece(Segment{{90, 10.12}, {120, 10.12}})}; // 1.2 pixels off the height: one of its own
    layLevel(t, kPixel);
    const double height = (50 * 10 + 20 * 10.03) / 70;
    checkAt(lineOf(t, 0).a, {0, height}), checkAt(lineOf(t, 0).b, {50, height});
    checkAt(lineOf(t, 1).a, {60, height}), checkAt(lineOf(t, 1).b, {80, height});
    checkAt(lineOf(t, 2).a, {0, 20.05}), checkAt(lineOf(t, 2).b, {50, 19.93});
    CHECK(lineOf(t, 3).a.x == lineOf(t, 3).b.x);
    CHECK(arcOf(t, 5).centre.x == Approx(lineOf(t, 3).a.x));
    CHECK(lineOf(t, 3).a.x == Approx((30 * 40 + 30.03 * 4 * kPi) / (40 + 4 * kPi)).margin(1e-6));
    CHECK(arcOf(t, 5).centre.y == Approx(60));
    checkAt(lineOf(t, 4).b, {103, 40.05});
    CHECK(lineOf(t, 6).a.y == Approx(10.12));
}

TEST_CASE("lines that meet end where they cross, one that ends on another ends on it") {
    TracePieces t;
    t.joints = {{40.3, 0.2}, {20.1, -0.2}};
    t.pieces = {piece(Segment{{0, 0}, {39.7, 0}}, -1, 0), piece(Segment{{40, 0.4}, {40, 30}}, 0, -1),
                piece(Segment{{20, 30}, {20, 0.3}}, -1, 1),
                // A thin leader runs into the corner: it ends there, and moves nothing.
                piece(Segment{{60, -21}, {40.4, -0.5}}, -1, 0, 0.2)};
    t.pieces[0].passes = {1};
    settleJoints(t, kPixel);
    checkAt(lineOf(t, 0).b, {40, 0});
    checkAt(lineOf(t, 1).a, {40, 0});
    checkAt(lineOf(t, 2).b, {20, 0});
    CHECK(distance(lineOf(t, 3).b, {40, 0}) < 0.3);
    checkAt(lineOf(t, 0).a, {0, 0}), checkAt(lineOf(t, 1).b, {40, 30}), checkAt(lineOf(t, 2).a, {20, 30});
    checkAt(lineOf(t, 3).a, {60, -21});
}

TEST_CASE("a slanted line keeps its direction at both joints") {
    TracePieces t;
    t.joints = {{0.2, 0.1}, {40.1, 29.8}};
    t.pieces = {piece(Segment{{0.4, 0.3}, {39.6, 29.7}}, 0, 1), piece(Segment{{0, 0.5}, {0, 50}}, 0, -1),
                piece(Segment{{39.5, 30}, {80, 30}}, 1, -1)};
    settleJoints(t, kPixel);
    checkAt(lineOf(t, 0).a, {0, 0}), checkAt(lineOf(t, 1).a, {0, 0});
    checkAt(lineOf(t, 0).b, {40, 30}), checkAt(lineOf(t, 2).a, {40, 30});
}

TEST_CASE("a round touches the lines it runs into, and all end where they touch") {
    for (const double turn : {1.0, -1.0}) {
        CAPTURE(turn);
        // A corner at (50, 0) rounded by 10: centre (40, 10), or its mirror image, run through either way.
        const auto m = [&](Vec2 p) { return Vec2{p.x, turn * p.y}; };
        TracePieces t;
        t.joints = {m({40.2, 0.1}), m({49.9, 10.2})};
        t.pieces = {
            piece(Segment{{0, 0}, m({39.8, 0})}, -1, 0),
            piece(Arc{m({40.05, 10.06}), 10.04, turn * (-kPi / 2 + 0.03), turn * (kPi / 2 - 0.05)}, 0, 1),
            piece(Segment{m({50, 10.3}), m({50, 60})}, 1, -1)};
        settleJoints(t, kPixel);
        const Arc a = arcOf(t, 1);
        // Of all circles that touch both lines, the nearest.
        CHECK(std::abs(a.centre.y) == Approx(a.radius).margin(1e-9));
        CHECK(50 - a.centre.x == Approx(a.radius).margin(1e-9));
        CHECK(a.radius == Approx(10).margin(0.1));
        checkAt(startOf(a), {a.centre.x, 0}), checkAt(endOf(a), {50, a.centre.y});
        checkAt(lineOf(t, 0).b, startOf(a)), checkAt(lineOf(t, 2).a, endOf(a));
        CHECK(a.sweep == Approx(turn * kPi / 2).margin(1e-9));
    }
}

TEST_CASE("an arc that ends on a line ends there, be its end short of it or past it, with the same turn") {
    for (const double off : {-0.02, 0.02})
        for (const double turn : {1.0, -1.0}) {
            CAPTURE(off, turn);
            // Half a circle of radius 10 over the level line from (-30, 0) to (30, 0), begun a little off it.
            TracePieces t;
            t.joints = {{10, 0}, {-10, 0}};
            const double first = turn > 0 ? 0 : kPi, last = turn > 0 ? kPi : 0;
            const double start = first + turn * off, end = last + turn * off;
            t.pieces = {piece(Segment{{-30, 0}, {30, 0}}),
                        piece(Arc{{0, 0}, 10, start, end - start}, turn > 0 ? 0 : 1, turn > 0 ? 1 : 0)};
            t.pieces[0].passes = {0, 1};
            settleJoints(t, kPixel);
            const Arc a = arcOf(t, 1);
            checkAt(startOf(a), {10 * turn, 0}, 1e-9), checkAt(endOf(a), {-10 * turn, 0}, 1e-9);
            CHECK(a.sweep == Approx(turn * kPi));
            checkAt(pointAt(a, 0.5), {0, 10}, 1e-6);
        }
}

TEST_CASE("short pieces that hang on one line are stubs, those that lead on are not") {
    const auto stubs = [](std::vector<TracePiece> pieces, std::vector<Vec2> joints) {
        TracePieces t;
        t.pieces = std::move(pieces), t.joints = std::move(joints);
        auto r = stubsOf(t, std::vector<LineRole>(t.pieces.size(), LineRole::outline), 0.5);
        std::ranges::sort(r);
        return r;
    };
    TracePiece line = piece(Segment{{0, 0}, {60, 0}});
    line.passes = {0, 1};
    const TracePiece up = piece(Segment{{20, 0}, {20.5, 2}}, 0, 2),
                     down = piece(Segment{{20.5, 2}, {21, 0}}, 2, 1);
    // Both sides of an arrow head, from one place of the line back to nearly the same.
    CHECK(stubs({line, up, down}, {{20, 0}, {21, 0}, {20.5, 2}}) == std::vector<size_t>{1, 2});
    // Where it comes back farther along it is a notch.
    const TracePiece far = piece(Segment{{20.5, 2}, {23, 0}}, 2, 1);
    CHECK(stubs({line, up, far}, {{20, 0}, {23, 0}, {20.5, 2}}).empty());
    // A chamfer leads from one line to another.
    TracePiece other = piece(Segment{{22, 2}, {22, 40}}, 1, -1);
    line.passes = {0};
    CHECK(stubs({line, piece(Segment{{20, 0}, {22, 2}}, 0, 1), other}, {{20, 0}, {22, 2}}).empty());
    // A free end is a stub up to seven widths of the ink, a line beyond.
    CHECK(stubs({line, piece(Segment{{20, 0}, {20, 3.4}}, 0, -1)}, {{20, 0}}) == std::vector<size_t>{1});
    CHECK(stubs({line, piece(Segment{{20, 0}, {20, 3.6}}, 0, -1)}, {{20, 0}}).empty());
    // What is no outline is not asked.
    TracePieces t;
    t.pieces = {line, up}, t.joints = {{20, 0}, {0, 0}, {20.5, 2}};
    CHECK(stubsOf(t, {LineRole::outline, LineRole::centre}, 0.5).empty());
}

TEST_CASE("lines and circles are fitted to grainy points as closely as their number allows") {
    std::mt19937 random(11);
    std::normal_distribution<double> grain(0, 0.02);
    for (int round = 0; round < 20; ++round) {
        CAPTURE(round);
        const double angle = 0.3 * round, sweep = 1.0 + 0.2 * round, radius = 6 + round;
        const Vec2 along = direction(angle), across{-along.y, along.x}, centre{3.0 * round, -2.0 * round};
        std::vector<Vec2> on_line, on_arc;
        for (int i = 0; i <= 400; ++i) {
            on_line.push_back(centre + along * (0.1 * i) + across * grain(random));
            const Vec2 out = direction(angle + sweep * i / 400);
            on_arc.push_back(centre + out * (radius + grain(random)));
        }
        const Fit line = lineFit(on_line);
        const auto s = std::get<Segment>(line.shape);
        CHECK(std::abs(cross(normalized(s.b - s.a), along)) < 5e-4);
        CHECK(dot(s.b - s.a, along) == Approx(40).margin(0.1)); // and runs as the points do
        CHECK(line.rms == Approx(0.02).epsilon(0.2));
        CHECK(line.most < 0.1);
        CHECK(line.most > line.rms);
        const auto arc = arcFit(on_arc, false);
        REQUIRE(arc);
        const auto a = std::get<Arc>(arc->shape);
        checkAt(a.centre, centre, 0.05);
        CHECK(a.radius == Approx(radius).margin(0.05));
        CHECK(a.sweep == Approx(sweep).margin(0.02));
        CHECK(arc->rms == Approx(0.02).epsilon(0.2));
        // The same points backwards turn the other way.
        std::ranges::reverse(on_arc);
        CHECK(std::get<Arc>(arcFit(on_arc, false)->shape).sweep == Approx(-sweep).margin(0.02));
    }
    CHECK_FALSE(arcFit({{0, 0}, {1, 1}, {2, 0}}, false)); // too few
    std::vector<Vec2> level;
    for (int i = 0; i < 20; ++i) level.push_back({1.0 * i, 0});
    CHECK_FALSE(arcFit(level, false));
}

TEST_CASE("pieces that go on in each other are one line or one arc, a bend is neither") {
    const auto points = [](const std::function<Vec2(double)>& at) {
        std::vector<Vec2> r;
        for (int i = 0; i <= 100; ++i) r.push_back(at(0.01 * i));
        return r;
    };
    const auto line = fitJoined(points([](double t) {
                                    return Vec2{40 * t, 0.05 * std::sin(40 * t)};
                                }),
                                false, true, kPixel);
    REQUIRE(line);
    CHECK(std::holds_alternative<Segment>(line->shape));
    const auto arc = fitJoined(points([](double t) {
                                   return Vec2{0, 0} + direction(2 * t) * 20;
                               }),
                               false, false, kPixel);
    REQUIRE(arc);
    CHECK(std::holds_alternative<Arc>(arc->shape));
    // Two lines of 20 that part by a tenth: 0.5 off the chord in the middle, five pixels.
    CHECK_FALSE(fitJoined(points([](double t) {
                              return Vec2{40 * t, std::abs(t - 0.5) * 4};
                          }),
                          false, true, kPixel));
    // A whole circle is closed.
    const auto ring =
        fitJoined(points([](double t) { return direction(2 * kPi * t) * 9; }), true, false, kPixel);
    REQUIRE(ring);
    CHECK(std::abs(std::get<Arc>(ring->shape).sweep) == Approx(2 * kPi).margin(1e-6));
}

TEST_CASE("a shape is cut or prolonged to where it is to end") {
    const Curve line = alongShape(Segment{{0, 0}, {10, 0}}, {-2, 1}, {}, {13, -1});
    checkAt(startOf(line), {-2, 0}), checkAt(endOf(line), {13, 0});
    std::vector<Vec2> between;
    for (double a : {0.5, 1.0, 2.0, 3.0}) between.push_back(direction(a) * 5);
    const Curve arc = alongShape(Arc{{0, 0}, 5, 0.4, 2}, {5, 0}, between, {0, -5});
    checkAt(startOf(arc), {5, 0}, 1e-6), checkAt(endOf(arc), {0, -5}, 1e-6);
    CHECK(std::get<Arc>(arc).sweep == Approx(1.5 * kPi));
}
