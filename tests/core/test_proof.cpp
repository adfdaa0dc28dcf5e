#include "support/bracket.h"
#include "support/samples.h"

#include "core/base/cover.h"
#include "core/base/crossings.h"

using namespace prism;
using namespace prism::test;

TEST_CASE("a gap of 10 mm in a spline of a metre is told, to its length") {
    std::vector<Vec2> points;
    for (int i = 0; i <= 20; ++i) points.push_back({i * 50.0, 40 * std::sin(i * 0.5)});
    const Curve whole = splineThrough(points);
    const double length = lengthOf(whole);
    for (double gap : {10.0, 1.0, 0.1, 0.02}) {
        INFO(gap);
        const double at = 0.4321, half = 0.5 * gap / length;
        const Curve before = part(whole, 0, at - half), behind = part(whole, at + half, 1);
        const double really = length - lengthOf(before) - lengthOf(behind);
        const auto gaps = uncovered(whole, {&before, &behind}, 2e-3);
        REQUIRE(gaps.size() == 1);
        CHECK(lengthOf(part(whole, gaps[0].from, gaps[0].to)) == Approx(really).margin(0.015));
    }
    CHECK(uncovered(whole, {&whole}, 2e-3).empty());
    const Curve before = part(whole, 0, 0.5), behind = part(whole, 0.5, 1);
    CHECK(uncovered(whole, {&before, &behind}, 2e-3).empty());
    const Curve aside = transformed(whole, Affine2::shift({0, 1}));
    const auto all = uncovered(whole, {&aside}, 2e-3);
    REQUIRE(all.size() == 1);
    CHECK(all[0].from == 0);
    CHECK(all[0].to == 1);
}

TEST_CASE("gaps in lines and arcs are told in mm, whatever their length") {
    const Curve line = Segment{{0, 0}, {5000, 0}}, a = Segment{{0, 0}, {1000, 0}},
                b = Segment{{1000.1, 0}, {5000, 0}};
    REQUIRE(uncovered(line, {&a, &b}, 2e-3).size() == 1);
    CHECK(uncovered(line, {&a, &b}, 2e-3)[0].from == Approx(0.2));
    const Curve arc = Arc{{0, 0}, 100, 0, kPi}, half = Arc{{0, 0}, 100, 0, kPi / 2},
                rest = Arc{{0, 0}, 100, kPi / 2 + 0.001, kPi / 2 - 0.001};
    CHECK(uncovered(arc, {&half, &rest}, 2e-3).size() == 1); // 0.1 mm
    const Curve off = Segment{{0, 0.01}, {5000, 0.01}};
    CHECK(uncovered(line, {&off}, 2e-3).size() == 1);
}

TEST_CASE("the proof says which views it compared, and only a whole one proves") {
    NoProgress quiet;
    Document d = opened(demo("roller-bracket.dxf"));
    Choices c = d.choices();
    c.steps = bracketSteps();
    REQUIRE(d.apply("Build", c, quiet));
    const Proof& whole = *d.model().proof;
    CHECK(whole.compared() == 3);
    CHECK(whole.total() == 3);
    CHECK(whole.proved());
    CHECK(inWords(whole) == "the solid shows every line of the sheet");
    const auto right =
        std::ranges::find_if(d.model().views.views, [](const View& v) { return v.role == Role::right; });
    REQUIRE(right != d.model().views.views.end());
    c.views.roles[right->key] = Role::section;
    REQUIRE(d.apply("A section", c, quiet));
    const Proof& part = *d.model().proof;
    CHECK(part.compared() == 2);
    CHECK(part.total() == 3);
    CHECK_FALSE(part.proved());
    REQUIRE(part.not_compared.size() == 1);
    CHECK(part.not_compared[0].reason.find("section") != std::string::npos);
    CHECK(inWords(part).find(", of 3") != std::string::npos);
    c.views.roles[right->key] = Role::pictorial;
    REQUIRE(d.apply("A pictorial", c, quiet));
    CHECK(d.model().proof->total() == 2); // it says nothing of sizes
}

TEST_CASE("two circles cross where both equations hold") {
    const Arc a{{0, 0}, 5, 0, 2 * kPi}, b{{6, 0}, 5, 0, 2 * kPi}; // 3-4-5 triangles
    auto p = crossings(a, b, 1e-6);
    REQUIRE(p.size() == 2);
    std::sort(p.begin(), p.end(), [](Vec2 u, Vec2 v) { return u.y < v.y; });
    CHECK(distance(p[0], {3, -4}) < 1e-12);
    CHECK(distance(p[1], {3, 4}) < 1e-12);
    const Arc c{{5, 1}, 3, 0, 2 * kPi}, d{{2, 3}, 2, 0, 2 * kPi};
    for (Vec2 q : crossings(c, d, 1e-6)) {
        CHECK(distance(q, c.centre) == Approx(3));
        CHECK(distance(q, d.centre) == Approx(2));
    }
    CHECK(crossings(c, d, 1e-6).size() == 2);
    CHECK(crossings(a, Arc{{20, 0}, 5, 0, 2 * kPi}, 1e-6).empty());
}

TEST_CASE("lines and circles that touch within the tolerance touch in one place") {
    const Arc circle{{0, 0}, 12, 0, 2 * kPi};
    for (double off : {0.0, 3e-8, -3e-8, 4e-4, -4e-4}) {
        INFO(off);
        const auto p = crossings(Segment{{-20, 12 + off}, {20, 12 + off}}, circle, 6e-4);
        REQUIRE(p.size() == 1);
        CHECK(distance(p[0], {0, 12}) < 1e-3);
        const auto q = crossings(circle, Arc{{0, 20 + off}, 8, 0, 2 * kPi}, 6e-4);
        REQUIRE(q.size() == 1);
        CHECK(distance(q[0], {0, 12}) < 1e-3);
    }
    // An end that lies there says it better than the foot.
    const auto end = crossings(Segment{{0.01, 12}, {20, 12}}, circle, 6e-4);
    REQUIRE(end.size() == 1);
    CHECK(distance(end[0], {0.01, 12}) < 1e-9);
    CHECK(crossings(Segment{{-20, 11}, {20, 11}}, circle, 6e-4).size() == 2);
}

TEST_CASE("several gaps between several pieces are told one by one, in lines, arcs and splines") {
    std::vector<Vec2> points;
    for (int i = 0; i <= 12; ++i) points.push_back({i * 15.0, 12 * std::sin(i * 0.9)});
    const std::vector<Curve> wholes{Segment{{3, 4}, {120, 88}}, Arc{{5, 5}, 40, 0.7, 4.5},
                                    Arc{{5, 5}, 40, 3.0, -5.2}, EllipseArc{{0, 0}, {50, 20}, 0.5, 0.3, 5.0},
                                    splineThrough(points)};
    const std::vector<std::pair<double, double>> gaps{{0.13, 0.17}, {0.42, 0.47}, {0.8, 0.86}};
    for (const Curve& whole : wholes) {
        std::vector<Curve> pieces;
        double from = 0;
        for (const auto& [a, b] : gaps) pieces.push_back(part(whole, from, a)), from = b;
        pieces.push_back(part(whole, from, 1));
        std::swap(pieces[0], pieces[2]); // in any order, and run through either way
        pieces[1] = reversed(pieces[1]);
        std::vector<const Curve*> others;
        for (const Curve& p : pieces) others.push_back(&p);
        const auto found = uncovered(whole, others, 2e-3);
        INFO(whole.index());
        REQUIRE(found.size() == gaps.size());
        for (size_t i = 0; i < gaps.size(); ++i) {
            CHECK(distance(pointAt(whole, found[i].from), pointAt(whole, gaps[i].first)) < 0.05);
            CHECK(distance(pointAt(whole, found[i].to), pointAt(whole, gaps[i].second)) < 0.05);
        }
        const auto all = uncovered(whole, {}, 2e-3);
        REQUIRE(all.size() == 1);
        CHECK(all[0].from == 0);
        CHECK(all[0].to == 1);
    }
}

TEST_CASE(
    "lines are one within the tolerance, of unlike kinds within twice, free-form ones within ten times") {
    constexpr double tol = 2e-3;
    // A level line, a bow of 200 mm radius and half an ellipse, each moved off itself by a part of the
    // tolerance.
    const auto line = [](double off) { return Curve(Segment{{0, off}, {80, off}}); };
    const auto bow = [](double off) { return Curve(Arc{{0, 0}, 200 + off, 1, 0.5}); };
    const auto round = [](double off) { return Curve(EllipseArc{{0, 0}, {200 + off, 0}, 1, 1, 0.5}); };
    const auto freely = [](const Curve& c) {
        std::vector<Vec2> points;
        for (int i = 0; i <= 40; ++i) points.push_back(pointAt(c, i / 40.0));
        return splineThrough(points);
    };
    const auto one = [](const Curve& a, const Curve& b) { return uncovered(a, {&b}, tol).empty(); };
    const auto none = [](const Curve& a, const Curve& b) {
        const auto gaps = uncovered(a, {&b}, tol);
        return gaps.size() == 1 && gaps[0].from == 0 && gaps[0].to == 1;
    };
    const auto both = [&](const Curve& still, const std::function<Curve(double)>& moved, double most) {
        CAPTURE(still.index(), moved(0).index(), most);
        CHECK(one(still, moved(0.9 * most * tol)));
        CHECK(one(moved(0.9 * most * tol), still));
        CHECK(none(still, moved(1.1 * most * tol)));
        CHECK(none(moved(1.1 * most * tol), still));
    };
    both(line(0), line, 1);
    both(bow(0), bow, 1);
    both(bow(0), round, 2);
    both(
        line(0), [&](double off) { return freely(line(off)); }, 10);
    both(
        bow(0), [&](double off) { return freely(bow(off)); }, 10);
    both(
        freely(round(0)), [&](double off) { return freely(round(off)); }, 10);
}
