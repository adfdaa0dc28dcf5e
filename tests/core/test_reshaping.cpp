#include "support/samples.h"

#include "core/base/crossings.h"
#include "core/marking/choosing.h"
#include "core/marking/line_edits.h"
#include "core/marking/measure.h"
#include "core/marking/reshape.h"
#include "core/marking/snaps.h"

#include <random>

using namespace prism;
using namespace prism::test;

namespace {

constexpr double kTight = 1e-7;

struct Chance {
    std::mt19937 random;
    double in(double lo, double hi) { return std::uniform_real_distribution(lo, hi)(random); }
    Vec2 place(double r) { return {in(-r, r), in(-r, r)}; }
};

/// A drawing of these curves, one a line, all in use.
Drawing of(const std::vector<Curve>& curves) {
    Drawing d;
    d.layers.emplace_back();
    for (const Curve& c : curves) {
        Entity e;
        e.id = static_cast<int>(d.entities.size());
        e.curves = {c};
        d.entities.push_back(e);
    }
    return d;
}

std::vector<int> ids(size_t n) {
    std::vector<int> r(n);
    for (size_t i = 0; i < n; ++i) r[i] = static_cast<int>(i);
    return r;
}

/// The parts of a curve between crossings, by walking it in small steps: from the picked place as far as no
/// other is met.
std::pair<double, double> walked(const Curve& c, const std::vector<Curve>& others, double t) {
    std::vector<double> cuts;
    for (const Curve& o : others)
        for (Vec2 x : crossings(c, o, kTight)) cuts.push_back(nearestParameter(c, x));
    double lo = 0, hi = 1;
    for (double x : cuts) {
        if (x <= t) lo = std::max(lo, x);
        if (x > t) hi = std::min(hi, x);
    }
    return {lo, hi};
}

} // namespace

TEST_CASE("of random lines and arcs, trimming takes just the part between the nearest crossings") {
    Chance chance{std::mt19937(5)};
    int cut = 0;
    for (int round = 0; round < 200; ++round) {
        const Curve c = round % 2 ? Curve(Segment{chance.place(50), chance.place(50)})
                                  : Curve(Arc{chance.place(20), chance.in(10, 40), chance.in(-3, 3),
                                              (round % 4 ? 1 : -1) * chance.in(1, 5)});
        std::vector<Curve> others;
        for (int i = 0; i < 4; ++i)
            others.push_back(i % 2 ? Curve(Segment{chance.place(60), chance.place(60)})
                                   : Curve(Arc{chance.place(40), chance.in(5, 40), 0, 2 * kPi}));
        const double t = chance.in(0.05, 0.95);
        const auto left = trimmed(c, others, pointAt(c, t), kTight);
        REQUIRE(left);
        const auto [lo, hi] = walked(c, others, t);
        double sum = 0;
        for (const Curve& p : *left) {
            sum += lengthOf(p);
            for (double s : {0.1, 0.5, 0.9}) {
                CHECK(distanceTo(c, pointAt(p, s)) < 1e-6);
                const double at = nearestParameter(c, pointAt(p, s));
                CHECK((at < lo + 1e-6 || at > hi - 1e-6));
            }
        }
        CHECK(sum == Approx(lengthOf(c) * (1 - (hi - lo))).margin(1e-5));
        CHECK(left->size() == static_cast<size_t>(lo > 1e-6) + static_cast<size_t>(hi < 1 - 1e-6));
        cut += lo > 0 || hi < 1;
    }
    CHECK(cut > 100);
}

TEST_CASE("a circle trimmed between any two of many lines keeps the rest of it, whichever way it runs") {
    Chance chance{std::mt19937(6)};
    for (int round = 0; round < 60; ++round) {
        const double start = chance.in(-3, 3);
        const Arc circle{chance.place(30), chance.in(5, 30), start, round % 2 ? 2 * kPi : -2 * kPi};
        std::vector<double> angles;
        std::vector<Curve> spokes;
        for (int i = 0; i < 3 + round % 3; ++i) {
            angles.push_back(chance.in(0, 2 * kPi));
            spokes.push_back(Segment{circle.centre, circle.centre + direction(angles.back()) * 40});
        }
        std::sort(angles.begin(), angles.end());
        const size_t k = static_cast<size_t>(round) % angles.size();
        const double from = angles[k], to = k + 1 < angles.size() ? angles[k + 1] : angles[0] + 2 * kPi;
        const Vec2 middle = circle.centre + direction(0.5 * (from + to)) * circle.radius;
        const auto left = trimmed(circle, spokes, middle, kTight);
        REQUIRE(left);
        REQUIRE(left->size() == 1);
        CHECK(lengthOf((*left)[0]) == Approx(circle.radius * (2 * kPi - (to - from))));
        CHECK(distanceTo((*left)[0], middle) >
              circle.radius * std::abs(std::sin(std::min(0.5 * (to - from), kPi / 2))) - 1e-6);
        const Vec2 opposite = circle.centre + direction(0.5 * (from + to) + kPi) * circle.radius;
        if (to - from < kPi) CHECK(distanceTo((*left)[0], opposite) < 1e-6);
    }
}

TEST_CASE("random lines and arcs are extended at the end pointed to, to the nearest line ahead") {
    Chance chance{std::mt19937(7)};
    int lines = 0, arcs = 0;
    for (int round = 0; round < 300; ++round) {
        const bool straight = round % 2;
        const double sweep = (round % 4 < 2 ? 1 : -1) * chance.in(0.3, 2);
        const Curve c = straight ? Curve(Segment{chance.place(10), chance.place(10)})
                                 : Curve(Arc{chance.place(10), chance.in(10, 30), chance.in(-3, 3), sweep});
        if (lengthOf(c) < 2) continue;
        const std::vector<Curve> others{Segment{chance.place(60), chance.place(60)},
                                        Segment{chance.place(60), chance.place(60)}};
        const bool atEnd = round % 3 != 0;
        const auto longer = extended(c, others, atEnd ? pointAt(c, 0.9) : pointAt(c, 0.1), kTight);
        // The carrier beyond the end, walked along.
        const Vec2 end = atEnd ? endOf(c) : startOf(c);
        double nearest = 1e9;
        for (const Curve& o : others) {
            if (straight) {
                const auto& s = std::get<Segment>(c);
                const Vec2 u = normalized(s.b - s.a) * (atEnd ? 1.0 : -1.0);
                for (Vec2 x : crossings(Segment{end, end + u * 500}, o, kTight))
                    if (distance(x, end) > 1e-6) nearest = std::min(nearest, distance(x, end));
            } else {
                const auto& a = std::get<Arc>(c);
                const double on = atEnd ? a.start + a.sweep : a.start;
                const double way = (a.sweep > 0) == atEnd ? 1 : -1;
                const Arc rest{a.centre, a.radius, on, way * 2 * kPi};
                for (Vec2 x : crossings(rest, o, kTight)) {
                    const double l = nearestParameter(rest, x) * lengthOf(rest);
                    if (l > 1e-5) nearest = std::min(nearest, l);
                }
            }
        }
        REQUIRE(static_cast<bool>(longer) == (nearest < 1e9));
        if (!longer) continue;
        ++(straight ? lines : arcs);
        CHECK(distance(atEnd ? startOf(*longer) : endOf(*longer), atEnd ? startOf(c) : endOf(c)) < 1e-9);
        const Vec2 reached = atEnd ? endOf(*longer) : startOf(*longer);
        CHECK(std::min(distanceTo(others[0], reached), distanceTo(others[1], reached)) < 1e-6);
        if (straight) CHECK(lengthOf(*longer) == Approx(lengthOf(c) + nearest));
        // An arc that goes round past its own other end stays one turn at most.
        if (!straight && lengthOf(c) + nearest < lengthOf(Arc{{}, std::get<Arc>(c).radius, 0, 2 * kPi}))
            CHECK(lengthOf(*longer) == Approx(lengthOf(c) + nearest));
    }
    CHECK(lines > 30);
    CHECK(arcs > 30);
}

TEST_CASE("corners of random lines keep the side that was picked, right up to the common place") {
    Chance chance{std::mt19937(8)};
    for (int round = 0; round < 100; ++round) {
        const Vec2 x = chance.place(30);
        const double a = chance.in(0, 2 * kPi), b = a + chance.in(0.3, 2.8);
        auto line = [&](double angle, double near, double far) {
            return Segment{x + direction(angle) * near, x + direction(angle) * far};
        };
        // One runs through the crossing, the other stops short of it.
        const Segment through = line(a, -chance.in(5, 20), chance.in(5, 20)), off = line(b, 4, 25);
        const bool high = round % 2;
        const Vec2 picked = x + direction(a) * (high ? 3.0 : -3.0);
        const auto r = cornered(through, picked, off, x + direction(b) * 20);
        REQUIRE(r);
        for (const auto& [now, kept] :
             {std::pair{r->first, high ? through.b : through.a}, std::pair{r->second, off.b}}) {
            CHECK(std::min(distance(now.a, kept), distance(now.b, kept)) < 1e-9);
            CHECK(std::min(distance(now.a, x), distance(now.b, x)) < 1e-9);
            CHECK(lengthOf(now) == Approx(distance(kept, x)));
        }
    }
}

TEST_CASE("every place of an offset line is as far off as asked, on the side pointed to") {
    Chance chance{std::mt19937(9)};
    for (int round = 0; round < 100; ++round) {
        const Curve c =
            round % 2 ? Curve(Segment{chance.place(30), chance.place(30)})
                      : Curve(Arc{chance.place(30), chance.in(8, 30), chance.in(-3, 3), chance.in(-5, 5)});
        const double by = chance.in(0.5, 6);
        const Vec2 t = tangentAt(c, 0.5), across = normalized(Vec2{-t.y, t.x}) * (round % 4 < 2 ? 1.0 : -1.0);
        const auto o = offsetBy(c, by, pointAt(c, 0.5) + across * 0.1);
        REQUIRE(o);
        for (double s : {0.0, 0.3, 1.0}) CHECK(distance(pointAt(*o, s), pointAt(c, s)) == Approx(by));
        CHECK(dot(pointAt(*o, 0.5) - pointAt(c, 0.5), across) == Approx(by));
    }
    CHECK_FALSE(offsetBy(EllipseArc{{0, 0}, {4, 0}, 0.5, 0, 3}, 1, {0, 0}));
    CHECK_FALSE(offsetBy(Arc{{0, 0}, 3, 0, 2}, 3, {0, 0})); // nothing would be left
}

TEST_CASE("the area within a random ring of lines and arcs, drawn in any order and direction") {
    Chance chance{std::mt19937(10)};
    for (int round = 0; round < 40; ++round) {
        std::vector<Vec2> corners;
        const int n = 4 + round % 5;
        for (int i = 0; i < n; ++i)
            corners.push_back(Vec2{100, -40} +
                              direction(2 * kPi * i / n + chance.in(0, 0.5)) * chance.in(20, 30));
        double area = 0, around = 0;
        std::vector<Curve> ring;
        for (int i = 0; i < n; ++i) {
            const Vec2 a = corners[static_cast<size_t>(i)], b = corners[static_cast<size_t>((i + 1) % n)];
            area += 0.5 * cross(a, b); // shoelace
            if (i % 2) {
                ring.push_back(Segment{a, b}), around += distance(a, b);
                continue;
            }
            // A circular segment beyond the chord: r^2 (w - sin w) / 2.
            const double w = chance.in(0.5, 1.5), r = distance(a, b) / (2 * std::sin(w / 2));
            const Vec2 m = (a + b) * 0.5, u = normalized(b - a), out{u.y, -u.x};
            const Vec2 centre = m - out * (r * std::cos(w / 2));
            ring.push_back(Arc{centre, r, angleOf(a - centre), w});
            area += 0.5 * r * r * (w - std::sin(w)), around += r * w;
        }
        for (size_t i = 0; i < ring.size(); ++i)
            if (chance.in(0, 1) < 0.5) {
                if (auto* s = std::get_if<Segment>(&ring[i])) std::swap(s->a, s->b);
                if (auto* k = std::get_if<Arc>(&ring[i])) k->start += k->sweep, k->sweep = -k->sweep;
            }
        std::shuffle(ring.begin(), ring.end(), chance.random);
        const Measured m = measured(of(ring), ids(ring.size()), 1e-4);
        REQUIRE(m.area);
        CHECK(*m.area == Approx(area).epsilon(1e-4));
        CHECK(m.length == Approx(around));
        CHECK(m.lines == n);
        ring.pop_back();
        CHECK_FALSE(measured(of(ring), ids(ring.size()), 1e-4).area);
    }
    // Two rings are not one area; nor is a figure of eight lines that meet four at a place.
    const std::vector<Curve> two{Arc{{0, 0}, 5, 0, kPi}, Arc{{0, 0}, 5, kPi, kPi}, Arc{{50, 0}, 5, 0, kPi},
                                 Arc{{50, 0}, 5, kPi, kPi}};
    CHECK_FALSE(measured(of(two), ids(4), 1e-4).area);
    CHECK(measured(of({two[0], two[1]}), ids(2), 1e-4).area.value() == Approx(25 * kPi).epsilon(1e-4));
}

TEST_CASE("two lines tell their angle, two parallel ones their distance, a line and a circle theirs") {
    Chance chance{std::mt19937(11)};
    for (int round = 0; round < 50; ++round) {
        const double w = chance.in(0, kPi), between = chance.in(0.01, kPi / 2);
        const Vec2 p = chance.place(50), q = chance.place(50);
        const Segment a{p, p + direction(w) * 30}, b{q, q + direction(w + between) * 12};
        const Measured m = measured(of({a, b}), {0, 1}, 1e-6);
        CHECK(m.angle.value() == Approx(between));
        CHECK_FALSE(m.apart);
        CHECK_FALSE(m.radius);
        const Measured back = measured(of({Segment{b.b, b.a}, a}), {0, 1}, 1e-6);
        CHECK(back.angle.value() == Approx(between));
        const Vec2 across{-direction(w).y, direction(w).x};
        const Segment beside{p + across * 7.5 + direction(w) * 3, p + across * 7.5 - direction(w) * 20};
        CHECK(measured(of({a, beside}), {0, 1}, 1e-6).apart.value() == Approx(7.5));
        const Arc hole{p + across * 9 + direction(w) * 4, 2, 0, 2 * kPi};
        CHECK(measured(of({a, hole}), {0, 1}, 1e-6).apart.value() == Approx(9));
        CHECK(measured(of({hole, a}), {0, 1}, 1e-6).apart.value() == Approx(9));
        const Measured holes = measured(of({hole, Arc{q, 5, 0, 1}}), {0, 1}, 1e-6);
        CHECK(holes.apart.value() == Approx(distance(hole.centre, q)));
        CHECK_FALSE(holes.radius);
        const Measured open = measured(of({Arc{q, 5, 0, 1}}), {0}, 1e-6);
        CHECK(open.radius.value() == 5);
        CHECK_FALSE(open.area);
    }
}

TEST_CASE("lines are chosen by chain, layer, kind of line and size, and only where they are in use") {
    Drawing d = of({Segment{{0, 0}, {10, 0}}, Segment{{10, 0}, {10, 8}}, Segment{{10, 8}, {0, 0}},
                    Segment{{30, 0}, {40, 0}}, Arc{{60, 0}, 3, 0, 2 * kPi}, Arc{{80, 0}, 3, 0, 2 * kPi},
                    Arc{{90, 0}, 4, 0, 1.5 * kPi}, Segment{{0, 0}, {-5, -5}}});
    d.layers.emplace_back();
    d.entities[3].layer = 1, d.entities[5].layer = 1;
    d.entities[1].line_type = d.entities[4].line_type = "DASHED";
    std::vector<bool> use(8, true);
    auto like = [&](int line, Likeness how) { return chooseLike(d, use, {line}, how, 1e-6); };
    CHECK(like(0, Likeness::chain) == std::set<int>{0, 1, 2, 7});
    CHECK(like(3, Likeness::chain) == std::set<int>{3});
    CHECK(like(3, Likeness::layer) == std::set<int>{3, 5});
    CHECK(like(1, Likeness::line_type) == std::set<int>{1, 4});
    CHECK(like(0, Likeness::size) == std::set<int>{0, 3});
    CHECK(like(4, Likeness::size) == std::set<int>{4, 5}); // as long an arc of another radius is none
    use[5] = use[2] = false;
    CHECK(like(3, Likeness::layer) == std::set<int>{3});
    CHECK(like(4, Likeness::size) == std::set<int>{4});
    CHECK(like(1, Likeness::chain) == std::set<int>{0, 1, 7});
}

TEST_CASE("a box or a lasso chooses what lies within, and what it cuts where asked, however long the line") {
    const Drawing d = of({Segment{{1, 1}, {4, 4}}, Segment{{-5000, 2}, {5000, 2}}, Arc{{5, 5}, 3, 0, 2 * kPi},
                          Segment{{20, 0}, {20, 9}}, Segment{{8, -4}, {16, 4}}, Arc{{5, 5}, 40, 0, 2 * kPi}});
    const std::vector<Vec2> box{{0, 0}, {10, 0}, {10, 10}, {0, 10}};
    std::vector<bool> use(6, true);
    CHECK(chooseWithin(d, use, box, false) == std::set<int>{0, 2});
    // The long line and the slanted one cross the box between any places a few units apart.
    CHECK(chooseWithin(d, use, {{0, 0}, {13, 0}, {13, 10}, {0, 10}}, true) == std::set<int>{0, 1, 2, 4});
    use[0] = false;
    CHECK(chooseWithin(d, use, box, true) == std::set<int>{1, 2});
    CHECK(chooseWithin(d, use, {{0, 0}, {10, 0}}, true).empty());
    // A lasso with a bay: what lies in the bay is not within it.
    const std::vector<Vec2> bay{{0, 0}, {10, 0}, {10, 10}, {6, 10}, {6, 1}, {5, 1}, {5, 10}, {0, 10}};
    const Drawing e = of({Segment{{5.5, 5}, {5.5, 9}}, Segment{{8, 5}, {8, 9}}, Segment{{4, 5}, {8, 5}}});
    CHECK(chooseWithin(e, {true, true, true}, bay, false) == std::set<int>{1});
    CHECK(chooseWithin(e, {true, true, true}, bay, true) == std::set<int>{1, 2});
}

TEST_CASE("of a chain in one entity only the line pointed at is trimmed, extended or met in a corner") {
    Drawing d = of({Segment{{0, 0}, {10, 0}}, Segment{{4, -3}, {4, 3}}, Segment{{30, -50}, {30, 50}}});
    d.entities[0].curves = {Segment{{-20, 5}, {0, 0}}, Segment{{0, 0}, {10, 0}}, Segment{{20, 8}, {25, 9}}};
    const std::vector<bool> use(3, true);
    CHECK(curveAt(d, {{24, 9}, 0}) == d.entities[0].curves[2]);
    const auto t = trimAt(d, use, {{8, 0.2}, 0}, 1e-6);
    REQUIRE(t);
    REQUIRE(t->size() == 1);
    CHECK((*t)[0].second ==
          std::vector<Curve>{Segment{{-20, 5}, {0, 0}}, Segment{{0, 0}, {4, 0}}, Segment{{20, 8}, {25, 9}}});
    const auto x = extendAt(d, use, {{9, 0.2}, 0}, 1e-6);
    REQUIRE(x);
    CHECK((*x)[0].second[1] == Curve(Segment{{0, 0}, {30, 0}}));
    CHECK_FALSE(extendAt(d, {true, true, false}, {{9, 0.2}, 0}, 1e-6)); // what is not in use is not met
    const auto k = cornerAt(d, {{5, 0}, 0}, {{30, 20}, 2});
    REQUIRE(k);
    CHECK((*k)[0].second[1] == Curve(Segment{{0, 0}, {30, 0}}));
    CHECK((*k)[1].second[0] == Curve(Segment{{30, 0}, {30, 50}}));
    CHECK_FALSE(cornerAt(d, {{5, 0}, 0}, {{-10, 3}, 0})); // one and the same line
    const auto marks = marksOf(d, movedBy(d, {1}, {1, 2}), Affine2::shift({100, 0}));
    REQUIRE(marks.size() == 1);
    CHECK(marks[0].kind == MarkedLine::Kind::reshape);
    CHECK(marks[0].curves == std::vector<Curve>{Segment{{105, -1}, {105, 5}}});
    CHECK(marksOf(d, {{1, {}}}, {})[0].kind == MarkedLine::Kind::remove);
}

TEST_CASE("of two places within reach the nearer wins, of two kinds the more telling; just at reach counts") {
    const Drawing d = of({Segment{{0, 0}, {10, 0}}, Segment{{3, 1}, {3, 9}},
                          EllipseArc{{30, 0}, {5, 0}, 0.5, 0, 2 * kPi}, Arc{{50, 0}, 6, 0, kPi}});
    const std::vector<bool> use(4, true);
    auto at = [&](Vec2 p, double reach, std::optional<Vec2> from = {}) {
        return snapNear(d, use, p, reach, from);
    };
    CHECK(at({0.5, 0}, 0.5).kind == Snap::end);
    CHECK(at({0.5, 0}, 0.49).kind == Snap::on_line);
    CHECK(at({30.2, 0.1}, 1).kind == Snap::centre);
    CHECK(at({30.2, 0.1}, 1).entity == 2);
    CHECK(at({50.1, 6.1}, 1).kind == Snap::middle);
    CHECK(at({44.3, 0.2}, 1).kind == Snap::end); // an open arc has ends, and its centre far off
    CHECK(at({49.8, -0.3}, 1).kind == Snap::centre);
    CHECK(at({3.2, 0.6}, 1).at == Vec2{3, 1}); // the end is more telling than the line that is nearer
    // From without, a foot lies on the near side of a circle, only where the arc is.
    const Snapped foot = at({50.3, 5.8}, 0.5, Vec2{50, 30});
    CHECK(foot.kind == Snap::middle); // as telling, and no farther
    CHECK(distance(at({53, 5.3}, 1, Vec2{56, 10.392304845413264}).at, Vec2{53, 5.196152422706632}) < 1e-9);
    CHECK(at({53, -5.2}, 0.5, Vec2{56, -10.392304845413264}).kind == Snap::none);
    CHECK(at({50, 5.9}, 0.5, Vec2{50, 2}).kind == Snap::middle); // from within there is no touching
}
