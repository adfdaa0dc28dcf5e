#include "support/samples.h"

#include <fmt/format.h>
#include <random>

// Lines are drawn as somebody's plotter or digitiser would leave them; what they were made from is known.

using namespace prism;
using namespace prism::test;

namespace {

struct Chance {
    std::mt19937 random;
    double in(double lo, double hi) { return std::uniform_real_distribution(lo, hi)(random); }
    bool coin() { return random() % 2 == 0; }
};

std::map<std::string, int> kinds(const CleanSheet& s) {
    std::map<std::string, int> n;
    for (const Repair& r : s.repairs) n[r.kind] += r.on;
    return n;
}

/// Lines in use of a role.
std::vector<Curve> curvesOf(const CleanSheet& s, LineRole role) {
    std::vector<Curve> r;
    for (const Entity& e : s.drawing->entities)
        if (s.in_use[e.id] && s.entity_roles[e.id] == role)
            r.insert(r.end(), e.curves.begin(), e.curves.end());
    return r;
}

Drawing of(const std::vector<Curve>& curves) {
    Drawing d = drawn(DxfText().entities().done());
    d.layers.resize(1);
    d.layers[0].name = "OUTLINE";
    d.layers[0].hint = {LineRole::outline, "its name"};
    for (const Curve& c : curves) {
        Entity e;
        e.id = static_cast<int>(d.entities.size());
        e.handle = fmt::format("{:X}", 100 + e.id);
        e.line_type = "CONTINUOUS";
        e.curves = {c};
        d.entities.push_back(e);
    }
    return d;
}

std::vector<Curve> box(Vec2 lo, Vec2 hi) {
    return {Segment{lo, {hi.x, lo.y}}, Segment{{hi.x, lo.y}, hi}, Segment{hi, {lo.x, hi.y}},
            Segment{{lo.x, hi.y}, lo}};
}

void shuffled(std::vector<Curve>& v, Chance& chance) {
    for (Curve& c : v)
        if (chance.coin()) c = reversed(c);
    std::shuffle(v.begin(), v.end(), chance.random);
}

} // namespace

TEST_CASE("dashes of random circles and arcs become the circle, or the arc from its first to its last dash") {
    Chance chance{std::mt19937(21)};
    for (int round = 0; round < 60; ++round) {
        const Vec2 centre{chance.in(-50, 300), chance.in(-50, 200)};
        const double radius = chance.in(6, 40), dash = chance.in(2.5, 4), gap = chance.in(0.8, 1.6);
        const bool full = round % 2;
        const double begin = chance.in(0, 2 * kPi);
        std::vector<Curve> dashes;
        double end = begin, step = (dash + gap) / radius;
        if (full) {
            const int n = static_cast<int>(std::round(2 * kPi / step));
            step = 2 * kPi / n;
            for (int i = 0; i < n; ++i)
                dashes.push_back(Arc{centre, radius, begin + i * step, step * dash / (dash + gap)});
        } else {
            const int n = std::max(5, static_cast<int>(chance.in(1.2, 4.5) / step));
            for (int i = 0; i < n; ++i) {
                dashes.push_back(Arc{centre, radius, begin + i * step, dash / radius});
                end = begin + i * step + dash / radius;
            }
        }
        if (dashes.size() < 5 || end - begin > 5.2) continue;
        shuffled(dashes, chance);
        const CleanSheet s = clean(of(dashes), {});
        REQUIRE(kinds(s)["dashes_joined"] == 1);
        const std::vector<Curve> hidden = curvesOf(s, LineRole::hidden);
        REQUIRE(hidden.size() == 1);
        const Arc& a = std::get<Arc>(hidden[0]);
        CHECK(distance(a.centre, centre) < 1e-9);
        CHECK(a.radius == Approx(radius));
        CHECK(a.full() == full);
        if (!full) {
            const Curve whole = Arc{centre, radius, begin, end - begin};
            CHECK(lengthOf(hidden[0]) == Approx(radius * (end - begin)));
            CHECK(distance(pointAt(hidden[0], 0.5), pointAt(whole, 0.5)) < 1e-6);
        }
        CHECK(curvesOf(s, LineRole::outline).empty());
    }
}

TEST_CASE("arcs on a circle that are no dashes stay what they are") {
    auto joined = [](const std::vector<Curve>& c) { return kinds(clean(of(c), {}))["dashes_joined"]; };
    auto arcs = [](std::vector<double> from, double sweep, double radius) {
        std::vector<Curve> r;
        for (double a : from) r.push_back(Arc{{0, 0}, radius, a, sweep});
        return r;
    };
    CHECK(joined(arcs({0, 0.3, 0.6, 0.9}, 0.2, 10)) == 1);
    CHECK(joined(arcs({0, 0.3, 0.6}, 0.2, 10)) == 0);             // too few
    CHECK(joined(arcs({0, 0.3, 0.6, 0.9}, 0.2, 60)) == 0);        // gaps of 6 mm
    CHECK(joined(arcs({0, 0.25, 0.8, 0.98, 1.9}, 0.1, 10)) == 0); // gaps of all sizes
    std::vector<Curve> uneven = arcs({0, 0.5, 1.0, 1.5, 2.0}, 0.1, 10);
    std::get<Arc>(uneven[0]).sweep = 0.3, std::get<Arc>(uneven[2]).sweep = 0.4,
    std::get<Arc>(uneven[4]).sweep = 0.2;
    CHECK(joined(uneven) == 0);
    // Two circles about one centre are two lines.
    std::vector<Curve> two = arcs({0, 0.3, 0.6, 0.9, 1.2}, 0.2, 10);
    for (const Curve& c : arcs({0, 0.3, 0.6, 0.9, 1.2}, 0.2, 13)) two.push_back(c);
    CHECK(joined(two) == 2);
}

TEST_CASE("random dashed lines run from the first dash to the last, or on to the outline they end before") {
    Chance chance{std::mt19937(22)};
    for (int round = 0; round < 60; ++round) {
        const double angle = chance.in(0, 2 * kPi), dash = chance.in(2, 6), gap = chance.in(0.6, 2);
        const Vec2 from{chance.in(0, 200), chance.in(0, 200)}, u = direction(angle);
        const int n = 4 + round % 9;
        std::vector<Curve> lines;
        double at = 0;
        for (int i = 0; i < n; ++i) {
            const double l = dash * (i == 0 || i == n - 1 ? chance.in(0.5, 1) : chance.in(0.9, 1.1));
            lines.push_back(Segment{from + u * at, from + u * (at + l)});
            at += l + gap * (i == n - 1 ? 0 : 1);
        }
        const bool wall = round % 3 == 0; // the pattern ends in a gap before an edge
        const Vec2 across{-u.y, u.x}, foot = from + u * (at + gap);
        if (wall) lines.push_back(Segment{foot - across * 7, foot + across * 11});
        shuffled(lines, chance);
        for (const Curve& c : box({-300, -300}, {500, 500})) lines.push_back(c); // the sheet lies upright
        const CleanSheet s = clean(of(lines), {});
        std::string told;
        for (const Repair& r : s.repairs) told += r.kind + " ";
        CAPTURE(round, n, angle, dash, gap, wall, told);
        REQUIRE(kinds(s)["dashes_joined"] == 1);
        const std::vector<Curve> hidden = curvesOf(s, LineRole::hidden);
        REQUIRE(hidden.size() == 1);
        const Segment& h = std::get<Segment>(hidden[0]);
        const Vec2 last = wall ? foot : from + u * at;
        CHECK(std::min(distance(h.a, from) + distance(h.b, last), distance(h.b, from) + distance(h.a, last)) <
              1e-6);
        CHECK(curvesOf(s, LineRole::outline).size() == 4 + static_cast<size_t>(wall));
    }
}

TEST_CASE("long and short dashes in turn are a centre line; rows with odd gaps or lengths are none") {
    auto row = [](const std::vector<double>& lengths, const std::vector<double>& gaps) {
        std::vector<Curve> r;
        double x = 0;
        for (size_t i = 0; i < lengths.size(); ++i) {
            r.push_back(Segment{{x, 5}, {x + lengths[i], 5}});
            x += lengths[i] + gaps[i % gaps.size()];
        }
        return clean(of(r), {});
    };
    CHECK(curvesOf(row({8, 1, 8, 1, 8, 1, 8}, {1}), LineRole::centre).size() == 1);
    CHECK(curvesOf(row({3, 1, 8, 1, 8, 1, 2}, {1}), LineRole::centre).size() == 1); // cut off at both ends
    CHECK(curvesOf(row({8, 8, 1, 8, 8, 1, 8}, {1}), LineRole::centre).empty());     // not in turn
    CHECK(curvesOf(row({8, 5, 8, 5, 8, 5, 8}, {1}), LineRole::centre).empty());     // hardly shorter
    CHECK(curvesOf(row({4, 4, 4, 4, 4}, {1}), LineRole::hidden).size() == 1);
    CHECK(curvesOf(row({4, 4, 4, 4}, {1}), LineRole::hidden).size() == 1);
    CHECK(curvesOf(row({4, 4, 4}, {1}), LineRole::hidden).empty());
    CHECK(curvesOf(row({9, 4, 4, 4, 4}, {1}), LineRole::hidden).empty()); // the first is longer than all
    CHECK(curvesOf(row({4, 4, 4, 4, 9}, {1}), LineRole::hidden).empty());
    CHECK(curvesOf(row({4, 4, 4, 4, 4}, {3.9}), LineRole::hidden).size() == 1);
    CHECK(curvesOf(row({4, 4, 4, 4, 4}, {4.1}), LineRole::hidden).empty()); // as wide as that is no gap
    CHECK(curvesOf(row({50, 50, 50, 50, 50}, {1}), LineRole::hidden).empty());
    // Two runs on one line, with other gaps: each is one.
    CHECK(curvesOf(row({4, 4, 4, 4, 4, 4, 4, 4}, {1, 1, 1, 3, 1, 1, 1}), LineRole::hidden).size() == 2);
}

TEST_CASE("on sheets that draw all lines alike, what runs out evenly beyond a part is a centre line") {
    auto centres = [](std::vector<Curve> extra) {
        std::vector<Curve> c = box({0, 0}, {60, 40});
        for (const Curve& k : box({100, 0}, {130, 40})) c.push_back(k);
        c.insert(c.end(), extra.begin(), extra.end());
        return curvesOf(clean(of(c), {}), LineRole::centre);
    };
    const Arc hole{{20, 25}, 6, 0, 2 * kPi};
    CHECK(centres({hole, Segment{{11, 25}, {29, 25}}}).size() == 1);
    CHECK(centres({hole, Segment{{11, 25}, {27, 25}}}).size() == 1); // through the middle: unevenly as well
    CHECK(centres({hole, Segment{{11, 26}, {29, 26}}}).size() == 1); // evenly, if not through the middle
    CHECK(centres({hole, Segment{{11, 27}, {27.5, 27}}}).empty());   // neither
    CHECK(centres({hole, Segment{{13.7, 25}, {26.3, 25}}}).empty()); // hardly out
    CHECK(centres({Segment{{30, -5}, {30, 45}}}).size() == 1);       // halves the plate
    CHECK(centres({Segment{{20, -5}, {20, 45}}}).size() == 1);
    CHECK(centres({Segment{{20, -5}, {20, 46}}}).empty());
    CHECK(centres({Segment{{20, -25}, {20, 65}}}).empty()); // farther out than any centre line
    CHECK(centres({Segment{{20, 0}, {20, 40}}}).empty());   // an edge
    CHECK(centres({Segment{{20, -5}, {20, 20}}}).empty());  // ends within
    // When nearly all runs out, that is how the sheet is drawn.
    std::vector<Curve> crossed;
    for (double x : {0.0, 60.0}) crossed.push_back(Segment{{x, -4}, {x, 44}});
    for (double y : {0.0, 40.0}) crossed.push_back(Segment{{-4, y}, {64, y}});
    CHECK(curvesOf(clean(of(crossed), {}), LineRole::centre).empty());
}

TEST_CASE("rows of slanted strokes of one distance are hatching, wherever a hole interrupts them") {
    Chance chance{std::mt19937(23)};
    for (int round = 0; round < 40; ++round) {
        const double slope = round % 2 ? chance.in(0.3, 1.2) : kPi - chance.in(0.3, 1.2);
        const double apart = chance.in(1.5, 6);
        const Vec2 u = direction(slope), n{-u.y, u.x}, hole{30, 20};
        std::vector<Curve> strokes;
        for (int i = 0; i < 12; ++i) {
            const Vec2 p = Vec2{30, 20} + n * (apart * (i - 5.5));
            const double off = std::abs(cross(u, hole - p));
            if (off < 5) { // a hole of radius 5 in the middle
                const double half = std::sqrt(25 - off * off), m = dot(hole - p, u);
                strokes.push_back(Segment{p - u * 15, p + u * (m - half)});
                strokes.push_back(Segment{p + u * (m + half), p + u * 14});
            } else
                strokes.push_back(Segment{p - u * 15, p + u * 14});
        }
        const size_t many = strokes.size();
        shuffled(strokes, chance);
        for (const Curve& c : box({-60, -60}, {120, 100})) strokes.push_back(c);
        const CleanSheet s = clean(of(strokes), {});
        CHECK(kinds(s)["hatching"] == 1);
        CHECK(curvesOf(s, LineRole::hatch).size() == many);
        CHECK(curvesOf(s, LineRole::outline).size() == 4);
    }
}

TEST_CASE("few, wide, uneven, upright and joined strokes are no hatching") {
    auto hatch = [](int n, double apart, double slope, double uneven = 0, bool layers = false) {
        const Vec2 u = direction(slope), across{-u.y, u.x};
        std::vector<Curve> r;
        for (int i = 0; i < n; ++i) {
            const Vec2 p = across * (apart * i + (i % 2 ? uneven : 0));
            r.push_back(Segment{p, p + u * 20});
        }
        Drawing d = of(r);
        if (layers) {
            d.layers.push_back(d.layers[0]);
            for (Entity& e : d.entities) e.layer = e.id % 2;
        }
        return curvesOf(clean(d, {}), LineRole::hatch).size();
    };
    CHECK(hatch(6, 3, 0.8) == 6);
    CHECK(hatch(5, 3, 0.8) == 0);
    CHECK(hatch(6, 7.9, 0.8) == 6);
    CHECK(hatch(6, 8.1, 0.8) == 0);
    CHECK(hatch(8, 3, 0.1) == 0);
    CHECK(hatch(8, 3, kPi / 2 - 0.1) == 0);
    CHECK(hatch(8, 3, kPi / 2 + 0.1) == 0);
    CHECK(hatch(8, 3, 2.5) == 8);
    CHECK(hatch(8, 3, 0.8, 0.2) == 8); // within what a draughtsman's eye allows
    CHECK(hatch(8, 3, 0.8, 0.9) < 8);
    CHECK(hatch(12, 3, 0.8, 0, true) == 12); // two layers, each evenly spaced
    CHECK(hatch(10, 3, 0.8, 0, true) == 0);  // five on either
}

TEST_CASE("sheets turned by any angle come upright, and every place is told where the file has it") {
    Chance chance{std::mt19937(24)};
    for (int round = 0; round < 40; ++round) {
        const double by =
            (round % 2 ? 1 : -1) * (round % 4 < 2 ? chance.in(0.002, 0.05) : chance.in(0.1, 0.7));
        const Affine2 askew = Affine2::rotation(by);
        std::vector<Curve> straight = box({0, 0}, {chance.in(100, 200), chance.in(60, 90)});
        for (const Curve& c : box({20, 10}, {chance.in(50, 90), chance.in(30, 50)})) straight.push_back(c);
        straight.push_back(Segment{{40, 20}, {60, 27}}); // one that is slanted on purpose
        straight.push_back(Arc{{30, 20}, 4, 0, 2 * kPi});
        std::vector<Curve> turned;
        for (const Curve& c : straight) turned.push_back(transformed(c, askew));
        const CleanSheet s = clean(of(turned), {});
        REQUIRE(kinds(s)["sheet_turned"] == 1);
        for (size_t i = 0; i < straight.size(); ++i) {
            const Curve& now = s.drawing->entities[i].curves.at(0);
            CHECK(distance(s.to_file(startOf(now)), startOf(turned[i])) < 1e-6);
            CHECK(distance(s.to_file(endOf(now)), endOf(turned[i])) < 1e-6);
            const auto* l = std::get_if<Segment>(&now);
            if (l && i < 8) CHECK((l->a.x == l->b.x || l->a.y == l->b.y));
            const Vec2 was = tangentAt(straight[i], 0), is = tangentAt(now, 0);
            CHECK(std::abs(cross(normalized(was), normalized(is))) < 1e-6); // turned as drawn
        }
    }
    // Slanted lines of one direction only, and an upright part with much hatching, are not askew.
    std::vector<Curve> slanted, hatched = box({0, 0}, {100, 60});
    for (int i = 0; i < 9; ++i) slanted.push_back(Segment{{10.0 * i, 0}, {10.0 * i + 20, 31}});
    for (int i = 0; i < 20; ++i) hatched.push_back(Segment{{4.0 * i, 0}, {4.0 * i + 20, 20}});
    CHECK(kinds(clean(of(slanted), {}))["sheet_turned"] == 0);
    CHECK(kinds(clean(of(hatched), {}))["sheet_turned"] == 0);
}

TEST_CASE("a sheet whose texts all read from the side is turned by a quarter, with everything on it") {
    for (int quarter : {1, 2, 3}) {
        const Affine2 m = Affine2::rotation(quarter * kPi / 2);
        Drawing d = of(box({0, 0}, {120, 50}));
        for (Entity& e : d.entities) e.curves[0] = transformed(e.curves[0], m);
        auto write = [&](int n, double rotation) {
            for (int i = 0; i < n; ++i) {
                SheetText t;
                t.content = "NOTE", t.position = m(Vec2{10.0 * i, -20}), t.rotation = rotation;
                d.texts.push_back(t);
            }
        };
        write(4, quarter * kPi / 2);
        Dimension x;
        x.p13 = m(Vec2{0, 0}), x.p14 = m(Vec2{120, 0}), x.p10 = m(Vec2{120, -10}),
        x.angle = quarter * kPi / 2;
        d.dimensions.push_back(x);
        const CleanSheet s = clean(d, {});
        REQUIRE(kinds(s)["sheet_turned"] == 1);
        CHECK(std::abs(std::sin(s.drawing->texts[0].rotation)) < 1e-9);
        CHECK(std::cos(s.drawing->texts[0].rotation) == Approx(1));
        CHECK(std::cos(s.drawing->dimensions[0].angle) == Approx(1));
        const Dimension& now = s.drawing->dimensions[0];
        CHECK(distance(now.p14 - now.p13, {120, 0}) < 1e-9);
        CHECK(distance(s.to_file(now.p10), x.p10) < 1e-9);
        CHECK(distance(s.drawing->texts[1].position - s.drawing->texts[0].position, {10, 0}) < 1e-9);
        write(1, 0); // one that reads from below: the sheet lies as it should
        CHECK(kinds(clean(d, {}))["sheet_turned"] == 0);
    }
    Drawing few = of(box({0, 0}, {120, 50}));
    few.texts.resize(3);
    for (SheetText& t : few.texts) t.rotation = kPi / 2;
    CHECK(kinds(clean(few, {}))["sheet_turned"] == 0); // three texts tell too little
}

TEST_CASE("random arcs drawn as chords are found, with the lines beside them left as they are") {
    Chance chance{std::mt19937(25)};
    for (int round = 0; round < 60; ++round) {
        const double radius = chance.in(5, 40), start = chance.in(-3, 3),
                     sweep = (round % 2 ? 1 : -1) * chance.in(0.8, 5);
        const Arc a{{chance.in(0, 100), chance.in(0, 100)}, radius, start, sweep};
        const int n = 8 + static_cast<int>(std::abs(sweep) / 0.35) + round % 5;
        std::vector<Curve> lines;
        for (int i = 0; i < n; ++i)
            lines.push_back(Segment{pointAt(a, double(i) / n), pointAt(a, double(i + 1) / n)});
        const Vec2 before = tangentAt(a, 0), after = tangentAt(a, 1);
        // Straight on at one end, a corner at the other.
        const Segment on{endOf(a), endOf(a) + normalized(after) * 60},
            corner{startOf(a), startOf(a) + normalized(Vec2{-before.y, before.x}) * 50};
        lines.push_back(on), lines.push_back(corner);
        shuffled(lines, chance);
        const CleanSheet s = clean(of(lines), {});
        REQUIRE(kinds(s)["arc_recovered"] == 1);
        std::vector<Curve> left = curvesOf(s, LineRole::outline);
        REQUIRE(left.size() == 3);
        for (const Curve& c : left) {
            if (const auto* k = std::get_if<Arc>(&c)) {
                CHECK(distance(k->centre, a.centre) < 1e-6);
                CHECK(k->radius == Approx(radius));
                CHECK(std::abs(k->sweep) == Approx(std::abs(sweep)));
                CHECK(distance(pointAt(c, 0.5), pointAt(a, 0.5)) < 1e-6);
            } else
                CHECK((lengthOf(c) == Approx(60) || lengthOf(c) == Approx(50)));
        }
    }
}

TEST_CASE(
    "random ellipses drawn as chords or as splines are found, whole ones and pieces with lines beside them") {
    Chance chance{std::mt19937(41)};
    for (int round = 0; round < 60; ++round) {
        const double ratio = chance.in(0.35, 0.9);
        const bool whole = round % 3 == 0;
        const EllipseArc e{{chance.in(0, 100), chance.in(0, 100)},
                           direction(chance.in(-3, 3)) * chance.in(8, 40),
                           ratio,
                           chance.in(-3, 3),
                           whole ? 2 * kPi : chance.in(1, 5)};
        const int n = 40 + round % 25;
        std::vector<Curve> lines;
        for (int i = 0; i < n; ++i)
            lines.push_back(Segment{pointAt(e, double(i) / n), pointAt(e, double(i + 1) / n)});
        // A line that runs smoothly on, far longer than a chord.
        if (!whole) lines.push_back(Segment{endOf(e), endOf(e) + normalized(tangentAt(e, 1)) * 60});
        shuffled(lines, chance);
        const CleanSheet s = clean(of(lines), {});
        INFO("round " << round << ", ratio " << ratio << ", sweep " << e.sweep);
        REQUIRE(kinds(s)["arc_recovered"] == 1);
        const std::vector<Curve> left = curvesOf(s, LineRole::outline);
        REQUIRE(left.size() == (whole ? 1 : 2));
        for (const Curve& c : left) {
            const auto* k = std::get_if<EllipseArc>(&c);
            if (!k) {
                CHECK(lengthOf(c) == Approx(60));
                continue;
            }
            CHECK(distance(k->centre, e.centre) < 1e-6);
            CHECK(length(k->major) == Approx(length(e.major)));
            CHECK(k->ratio == Approx(ratio));
            CHECK(std::abs(k->sweep) == Approx(std::abs(e.sweep)));
            CHECK(distanceTo(Curve(e), pointAt(c, 0.3)) < 1e-6);
        }
    }
    // As wide as it is long to a hair: a circle. Half of one as a rational spline: an ellipse.
    const auto cleaned = [](const Curve& c) {
        const CleanSheet s = clean(of({c, Segment{{200, 0}, {300, 0}}}), {});
        CHECK(kinds(s)["spline_arc"] == 1);
        return curvesOf(s, LineRole::outline).front();
    };
    const Curve circle = cleaned(EllipseArc{{5, 6}, {0, 30}, 1 - 1e-9, 0.5, 2});
    REQUIRE(std::holds_alternative<Arc>(circle));
    CHECK(std::get<Arc>(circle).radius == Approx(30));
    CHECK(distance(startOf(circle), Vec2{5, 6} + direction(0.5 + kPi / 2) * 30) < 1e-6);
    const double w = std::sqrt(0.5);
    const Curve half = cleaned(Spline{
        2, {0, 0, 0, 1, 1, 2, 2, 2}, {{40, 0}, {40, 15}, {0, 15}, {-40, 15}, {-40, 0}}, {1, w, 1, w, 1}});
    REQUIRE(std::holds_alternative<EllipseArc>(half));
    CHECK(length(std::get<EllipseArc>(half).major) == Approx(40));
    CHECK(std::get<EllipseArc>(half).ratio == Approx(15.0 / 40));
    CHECK(std::abs(std::get<EllipseArc>(half).sweep) == Approx(kPi));
}

TEST_CASE("chains that are too few, too flat, too sharp, uneven or of other roles stay chains") {
    auto chords = [](double sweep, int n, double uneven = 0) {
        std::vector<Curve> r;
        auto at = [&](int i) { return direction(sweep * (i + (i % 2 ? uneven : 0)) / n) * 20; };
        for (int i = 0; i < n; ++i) r.push_back(Segment{at(i), at(i + 1)});
        return r;
    };
    auto found = [](const std::vector<Curve>& c) { return kinds(clean(of(c), {}))["arc_recovered"]; };
    CHECK(found(chords(2, 8)) == 1);
    CHECK(found(chords(2, 7)) == 0);
    CHECK(found(chords(0.54, 8)) == 1);
    CHECK(found(chords(0.50, 8)) == 0); // less than thirty degrees
    CHECK(found(chords(8 * 0.42, 8)) == 1);
    CHECK(found(chords(8 * 0.46, 8)) == 0); // more than 25 degrees a corner
    CHECK(found(chords(3, 12, 0.15)) == 1);
    CHECK(found(chords(3, 12, 0.35)) == 0);
    // An S of two arcs is two.
    std::vector<Curve> s;
    const Arc first{{0, 0}, 20, 0, 1.5};
    const Vec2 end = endOf(first);
    const Arc second{end * 2, 20, angleOf(end) + kPi, -1.5};
    for (const Arc& a : {first, second})
        for (int i = 0; i < 10; ++i) s.push_back(Segment{pointAt(a, i / 10.0), pointAt(a, (i + 1) / 10.0)});
    CHECK(found(s) == 2);
}

TEST_CASE(
    "strokes without length and dots far from all lines are set aside, short lines of the part are not") {
    std::vector<Curve> c = box({0, 0}, {60, 40});
    c.push_back(Segment{{10, 10}, {10, 10}});
    c.push_back(Segment{{20, 10}, {20.2, 10}});
    c.push_back(Segment{{30, 10}, {30.4, 10}}); // longer than a pen is wide
    c.push_back(Segment{{40, 0}, {40, 0.2}});   // stands on the outline
    c.push_back(Segment{{60.2, 20}, {60, 20}});
    c.push_back(Arc{{45, 30}, 0.04, 0, 2 * kPi});
    const CleanSheet s = clean(of(c), {});
    CHECK(kinds(s)["speck"] == 3);
    for (int e : {4, 5, 9}) CHECK_FALSE(s.in_use[static_cast<size_t>(e)]);
    for (int e : {6, 7, 8}) CHECK(s.in_use[static_cast<size_t>(e)]);
}

TEST_CASE("what hangs together with a line put level moves with it; arcs hold their ends") {
    std::vector<Curve> c{Segment{{0, 0.004}, {50, -0.004}}, Segment{{50, -0.004}, {50, 30}},
                         Segment{{50, 30}, {0, 30}}, Segment{{0, 30}, {0, 0.004}}};
    // A second part whose line ends on an arc.
    c.push_back(Segment{{100, 0}, {140, 0.006}});
    c.push_back(Arc{{140, 10.006}, 10, -kPi / 2, kPi});
    c.push_back(Segment{{200, 0}, {240, 0.5}});     // slanted on purpose
    c.push_back(Segment{{200, 20}, {202, 20.005}}); // too short to tell
    const CleanSheet s = clean(of(c), {});
    CHECK(kinds(s)["straightened"] == 2);
    auto line = [&](size_t i) { return std::get<Segment>(s.drawing->entities[i].curves[0]); };
    CHECK(line(0).a.y == Approx(0).margin(1e-12));
    CHECK(line(0).b == line(1).a);
    CHECK(line(3).b == line(0).a);
    CHECK(line(4).a.y == 0.006);
    CHECK(line(4).b.y == 0.006);
    CHECK(line(6).b.y == 0.5);
    CHECK(line(7).b.y == 20.005);
}

TEST_CASE("pieces of a random circle become the circle, or one arc from the gap round to the gap") {
    Chance chance{std::mt19937(26)};
    for (int round = 0; round < 60; ++round) {
        const Arc k{{chance.in(0, 100), chance.in(0, 100)}, chance.in(8, 30), 0, 2 * kPi};
        const bool whole = round % 2;
        const double gap = whole ? -chance.in(0.1, 0.4) : chance.in(0.6, 2), begin = chance.in(0, 2 * kPi);
        const int n = 2 + round % 3;
        const double step = (2 * kPi - gap) / n;
        std::vector<Curve> pieces;
        for (int i = 0; i < n; ++i) // each goes a little into the next
            pieces.push_back(
                Arc{k.centre, k.radius, begin + i * step, step + (i + 1 < n ? chance.in(0.02, 0.2) : 0)});
        shuffled(pieces, chance);
        std::string told;
        for (const Curve& c : pieces)
            told += fmt::format("{} {}; ", std::get<Arc>(c).start, std::get<Arc>(c).sweep);
        CAPTURE(round, whole, n, gap, begin, step, told);
        const CleanSheet s = clean(of(pieces), {});
        std::vector<Curve> left = curvesOf(s, LineRole::outline);
        REQUIRE(left.size() == 1);
        const Arc& a = std::get<Arc>(left[0]);
        CHECK(distance(a.centre, k.centre) < 1e-9);
        CHECK(a.full() == whole);
        if (whole) continue;
        CHECK(lengthOf(left[0]) == Approx(k.radius * (2 * kPi - gap)));
        CHECK(distance(pointAt(left[0], 0.5), k.centre + direction(begin + kPi - gap / 2) * k.radius) < 1e-6);
    }
}

TEST_CASE("arcs drawn over a circle or over part of each other are one; those of other circles are not") {
    const Vec2 c{50, 40};
    auto left = [&](std::vector<Curve> arcs, std::map<std::string, int>* told = nullptr) {
        const CleanSheet s = clean(of(arcs), {});
        if (told) *told = kinds(s);
        return curvesOf(s, LineRole::outline);
    };
    std::map<std::string, int> told;
    CHECK(left({Arc{c, 20, 1, 2}, Arc{c, 20, 0, 2 * kPi}, Arc{c, 20, 4, -1}}, &told).size() == 1);
    CHECK(told["contained"] == 2);
    CHECK(left({Arc{c, 20, 0, 2 * kPi}, Arc{c, 20, 2, -2 * kPi}}, &told).size() == 1);
    CHECK(told["duplicate"] == 1);
    CHECK(left({Arc{c, 20, 0, 2 * kPi}, Arc{c, 20.1, 2, 1}}).size() == 2);
    CHECK(left({Arc{c, 20, 0, 2 * kPi}, Arc{c + Vec2{0.1, 0}, 20, 2, 1}}).size() == 2);
    const auto longer = left({Arc{c, 20, 0.5, 1}, Arc{c, 20, 2, -0.8}}, &told);
    CHECK(told["overlapping"] == 1);
    REQUIRE(longer.size() == 1);
    CHECK(lengthOf(longer[0]) == Approx(30));
    CHECK(distance(pointAt(longer[0], 0.5), c + direction(1.25) * 20.0) < 1e-9);
    // Over the place where angles begin anew.
    const auto over = left({Arc{c, 20, 5.5, 1.5}, Arc{c, 20, 0.3, 1}}, &told);
    REQUIRE(over.size() == 1);
    CHECK(lengthOf(over[0]) == Approx(20 * (1.3 + 2 * kPi - 5.5)));
    const auto round = left({Arc{c, 20, 0, 3}, Arc{c, 20, 2.5, 2}, Arc{c, 20, 4, 3}}, &told);
    REQUIRE(round.size() == 1);
    CHECK(std::get<Arc>(round[0]).full());
    // Two that only touch are joined by what joins pieces, not as repeats.
    CHECK(left({Arc{c, 20, 0, 1}, Arc{c, 20, 1, 1}}, &told).size() == 1);
    CHECK(told["overlapping"] == 0);
}

TEST_CASE("needless vertices of a chain go, on lines and arcs, unless something else meets there") {
    const Arc a{{40, 20}, 20, -kPi / 2, kPi / 2};
    for (const bool met : {false, true}) {
        Drawing d = of({Segment{}, Segment{{0, -30}, {0, 60}}});
        d.entities[0].curves = {
            Segment{{0, 0}, {15, 0}}, Segment{{15, 0}, {40, 0}},   part(a, 0, 0.3),
            part(a, 0.3, 1),          Segment{{60, 20}, {60, 30}}, Segment{{60, 30}, {60, 50}}};
        if (met) d.entities[1].curves = {Segment{{15, 0}, {15, 30}}};
        const CleanSheet s = clean(d, {});
        const auto& now = s.drawing->entities[0].curves;
        REQUIRE(now.size() == (met ? 4u : 3u));
        CHECK(now.back() == Curve(Segment{{60, 20}, {60, 50}}));
        const Arc& joined = std::get<Arc>(now[now.size() - 2]);
        CHECK(joined.start == Approx(-kPi / 2));
        CHECK(joined.sweep == Approx(kPi / 2));
    }
}
