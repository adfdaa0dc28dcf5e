#include "support/samples.h"

#include "core/base/circle_fit.h"
#include "core/reading/read.h"

#include <fmt/format.h>
#include <fstream>
#include <random>

using namespace prism;
using namespace prism::test;

namespace {

std::map<std::string, int> kinds(const CleanSheet& s) {
    std::map<std::string, int> n;
    for (const Repair& r : s.repairs) n[r.kind] += r.on;
    return n;
}

const Segment& segment(const CleanSheet& s, int entity) {
    return std::get<Segment>(s.drawing->entities[entity].curves.at(0));
}

/// Areas of all closed areas of a sheet, sorted.
std::vector<double> areasOf(const std::string& dxf) {
    const std::string path = temporary("repairs.dxf");
    std::ofstream(path) << dxf;
    const Document d = opened(path);
    std::vector<double> r;
    for (const ClosedArea& a : d.model().areas.now) r.push_back(a.area);
    std::sort(r.begin(), r.end());
    return r;
}

/// A plate with steps along its top, rounded corners below and holes; drawn whole or damaged.
class Plate {
  public:
    explicit Plate(unsigned seed) : random_(seed) {
        double x = 0;
        const int steps = 2 + static_cast<int>(random_() % 4);
        std::vector<Vec2> top;
        for (int i = 0; i < steps; ++i) {
            const double h = uniform(40, 80), w = uniform(15, 40);
            top.push_back({x, h});
            top.push_back({x + w, h});
            x += w;
        }
        const double r = uniform(4, 10);
        for (size_t i = 0; i + 1 < top.size(); ++i) lines_.push_back({top[i], top[i + 1]});
        lines_.push_back({top.back(), {x, r}});
        lines_.push_back({{x - r, 0}, {r, 0}});
        lines_.push_back({{0, r}, top.front()});
        arcs_.push_back({{x - r, r}, r, -kPi / 2, kPi / 2});
        arcs_.push_back({{r, r}, r, kPi, kPi / 2});
        for (int i = 0; i < steps; ++i) holes_.push_back({{top[2 * i].x + 7, 20}, uniform(2, 5), 0, 2 * kPi});
    }

    std::string whole() const { return write(lines_, {}); }

    std::string damaged() {
        std::vector<Segment> lines;
        std::vector<bool> chords;
        for (const Segment& s : lines_) damage(s, lines);
        for (size_t i = 0; i < holes_.size(); ++i) chords.push_back(random_() % 2 == 0);
        std::shuffle(lines.begin(), lines.end(), random_);
        return write(lines, chords);
    }

  private:
    double uniform(double a, double b) { return std::uniform_real_distribution<double>(a, b)(random_); }

    void damage(const Segment& s, std::vector<Segment>& out) {
        const Vec2 u = normalized(s.b - s.a);
        switch (distance(s.a, s.b) > 8 ? random_() % 6 : 5) {
        case 0: // a gap at the end
            out.push_back({s.a, s.b - u * uniform(0.02, 0.3)});
            break;
        case 1: { // a gap in the middle
            const Vec2 m = s.a + (s.b - s.a) * uniform(0.3, 0.7);
            out.push_back({s.a, m});
            out.push_back({m + u * uniform(0.05, 0.5), s.b});
            break;
        }
        case 2: { // in pieces, one of them drawn twice
            const Vec2 m = s.a + (s.b - s.a) * uniform(0.2, 0.4), n = s.a + (s.b - s.a) * uniform(0.5, 0.8);
            out.push_back({s.a, m}), out.push_back({n, m}), out.push_back({m, n}), out.push_back({n, s.b});
            break;
        }
        case 3: // drawn twice, the second over part of it only
            out.push_back(s);
            out.push_back({s.a + u * 2, s.b - u * 3});
            break;
        case 4: // in two pieces that overlap
            out.push_back({s.a, s.b - u * 3});
            out.push_back({s.b, s.a + u * 2});
            break;
        default:
            out.push_back(s);
        }
    }

    std::string write(const std::vector<Segment>& lines, const std::vector<bool>& chords) const {
        DxfText t;
        t.entities();
        for (const Segment& s : lines) t.line(s.a.x, s.a.y, s.b.x, s.b.y);
        for (const Arc& a : arcs_)
            t.arc(a.centre.x, a.centre.y, a.radius, a.start * 180 / kPi, (a.start + a.sweep) * 180 / kPi);
        for (size_t i = 0; i < holes_.size(); ++i) {
            const Arc& h = holes_[i];
            if (i >= chords.size() || !chords[i]) {
                t.circle(h.centre.x, h.centre.y, h.radius);
                continue;
            }
            const int n = 24 + 4 * static_cast<int>(i);
            for (int k = 0; k < n; ++k) {
                const Vec2 p = h.centre + direction(2 * kPi * k / n) * h.radius,
                           q = h.centre + direction(2 * kPi * (k + 1) / n) * h.radius;
                t.line(p.x, p.y, q.x, q.y);
            }
        }
        return t.done();
    }

    std::mt19937 random_;
    std::vector<Segment> lines_;
    std::vector<Arc> arcs_, holes_;
};

} // namespace

TEST_CASE("damaged plates get back the areas of the undamaged ones, which are left as they are") {
    for (unsigned seed = 1; seed <= 60; ++seed) {
        INFO("plate " << seed);
        Plate plate(seed);
        CHECK(clean(drawn(plate.whole()), {}).repairs.empty());
        const std::vector<double> want = areasOf(plate.whole()), got = areasOf(plate.damaged());
        REQUIRE(got.size() == want.size());
        for (size_t i = 0; i < want.size(); ++i) CHECK(got[i] == Approx(want[i]).epsilon(1e-6));
    }
}

TEST_CASE("sample sheets without a fault keep every line of their orthographic views") {
    for (const Sample& s : samples()) {
        if (!s.clean()) continue;
        INFO(s.name);
        const Document d = opened(s.path);
        const Model& m = d.model();
        for (const Entity& e : m.source->entities) {
            const int v = m.views.view_of_entity[e.id];
            if (v < 0 || m.views.views[v].role == Role::pictorial) continue;
            const std::vector<Curve>& now = m.drawing->entities[e.id].curves;
            // A free-form curve that stops just short of its corner is led there, and nothing else of it
            // moves.
            if (e.curves.size() == 1 && std::holds_alternative<Spline>(e.curves[0]) && now != e.curves) {
                REQUIRE(now.size() == 1);
                for (double t : {0.0, 0.25, 0.5, 0.75, 1.0})
                    CHECK(distance(pointAt(now[0], t), pointAt(e.curves[0], t)) < 0.1);
                continue;
            }
            CHECK(now == e.curves);
        }
    }
}

TEST_CASE("two lines that stop short of their corner meet where they point") {
    const CleanSheet s = clean(drawn(DxfText()
                                         .entities()
                                         .line(0, 0, 49.8, 0)
                                         .line(50, 0.3, 50, 40)
                                         .line(50, 40, 0, 40)
                                         .line(0, 40, 0, 0)
                                         .done()),
                               {});
    CHECK(kinds(s)["gap_closed"] == 1);
    CHECK(distance(segment(s, 0).b, {50, 0}) < 1e-12);
    CHECK(distance(segment(s, 1).a, {50, 0}) < 1e-12);
    CHECK(s.loose_ends.empty());
}

TEST_CASE("two lines beside each other that end apart meet half way") {
    const CleanSheet s = clean(drawn(DxfText()
                                         .entities()
                                         .line(0, 0, 40, 0)
                                         .line(40.1, 0.3, 0, 0.3)
                                         .line(0, 0.3, 0, 30)
                                         .line(0, 0, 0, -30)
                                         .done()),
                               {});
    CHECK(kinds(s)["gap_closed"] == 1);
    CHECK(distance(segment(s, 0).b, {40.05, 0.15}) < 1e-12);
    CHECK(distance(segment(s, 1).a, {40.05, 0.15}) < 1e-12);
}

TEST_CASE("overshoots are trimmed and short lines reach the line they missed") {
    const CleanSheet s = clean(drawn(DxfText()
                                         .entities()
                                         .box(0, 0, 60, 40)
                                         .line(20, -0.3, 20, 40) // runs past the bottom line
                                         .line(40, 0, 40, 39.7)  // stops before the top line
                                         .done()),
                               {});
    CHECK(kinds(s)["overshoot_trimmed"] == 1);
    CHECK(kinds(s)["corner_extended"] == 1);
    CHECK(distance(segment(s, 4).a, {20, 0}) < 1e-12);
    CHECK(distance(segment(s, 5).b, {40, 40}) < 1e-12);
}

TEST_CASE("a gap wider than allowed stays, is listed with its size, and a person may allow it") {
    const Drawing d = drawn(DxfText()
                                .entities()
                                .line(0, 0, 60, 0)
                                .line(60, 0, 60, 40)
                                .line(60, 40, 0, 40)
                                .line(0, 40, 0, 1.2)
                                .done());
    const CleanSheet s = clean(d, {});
    CHECK(kinds(s)["gap_closed"] == 0);
    REQUIRE(s.loose_ends.size() == 2);
    CHECK(s.loose_ends[0].gap == Approx(1.2));
    RepairChoices wide;
    wide.gap = 1.5;
    const CleanSheet t = clean(d, {}, wide);
    CHECK(kinds(t)["gap_closed"] == 1);
    CHECK(t.loose_ends.empty());
    // Where a scan lies under the lines a corner may be open by a few of its pixels, unless a person says how
    // wide.
    Drawing traced = d;
    Picture scan;
    scan.pixel = 0.2;
    traced.pictures.push_back(scan);
    CHECK(clean(traced, {}).loose_ends.empty());
    RepairChoices narrow;
    narrow.gap = 0.5;
    CHECK(clean(traced, {}, narrow).loose_ends.size() == 2);
}

TEST_CASE("inch sheets close gaps of the same width on paper") {
    auto sheet = [](double gap) {
        DxfText t(1);
        t.entities().line(0, 0, 4, 0).line(4, 0, 4, 3).line(4, 3, 0, 3).line(0, 3, 0, gap);
        return clean(drawn(t.done()), {});
    };
    CHECK(kinds(sheet(0.4 / 25.4))["gap_closed"] == 1);
    CHECK(kinds(sheet(0.7 / 25.4))["gap_closed"] == 0);
}

TEST_CASE("a repair is switched off by its kind or alone, and stays recorded") {
    const std::string dxf =
        DxfText().entities().line(0, 0, 60, 0).line(0, 0, 60, 0).line(0, 9, 60, 9).line(0, 9, 60, 9).done();
    const Drawing d = drawn(dxf);
    RepairChoices off;
    off.kinds["duplicate"] = false;
    const CleanSheet none = clean(d, {}, off);
    CHECK(none.repairs.size() == 2);
    CHECK(std::count(none.in_use.begin(), none.in_use.end(), true) == 4);
    RepairChoices one;
    one.off.insert(clean(d, {}).repairs.at(1).key);
    const CleanSheet s = clean(drawn(dxf), {}, one); // read again: the key still names the same repair
    CHECK(s.repairs[0].on);
    CHECK_FALSE(s.repairs[1].on);
    CHECK(std::count(s.in_use.begin(), s.in_use.end(), true) == 3);
}

TEST_CASE("chords in a polyline become the arc, the straight part stays") {
    DxfText t;
    t.entities().group(0, "LWPOLYLINE").group(5, "AA").group(8, "OUTLINE").group(70, "1");
    std::vector<Vec2> v{{0, 0}, {60, 0}};
    for (int i = 0; i <= 20; ++i) v.push_back(Vec2{60, 20} + direction(-kPi / 2 + kPi * i / 20) * 20);
    v.push_back({0, 40});
    v.erase(v.begin() + 1); // the arc starts where the line ends
    for (Vec2 p : v) t.group(10, p.x).group(20, p.y);
    const CleanSheet s = clean(drawn(t.done()), {});
    CHECK(kinds(s)["arc_recovered"] == 1);
    const auto& curves = s.drawing->entities[0].curves;
    REQUIRE(curves.size() == 4);
    const Arc& a = std::get<Arc>(curves.back());
    CHECK(distance(a.centre, {60, 20}) < 1e-9);
    CHECK(a.radius == Approx(20));
    CHECK(std::abs(a.sweep) == Approx(kPi));
}

TEST_CASE("polygons with few corners stay polygons") {
    for (int n : {5, 6, 7}) {
        DxfText t;
        t.entities();
        for (int k = 0; k < n; ++k) {
            const Vec2 p = direction(2 * kPi * k / n) * 20, q = direction(2 * kPi * (k + 1) / n) * 20;
            t.line(p.x, p.y, q.x, q.y);
        }
        CHECK(clean(drawn(t.done()), {}).repairs.empty());
    }
}

TEST_CASE("four cubic spans drawn for a circle are the circle; a parabola is not") {
    auto spline = [](const std::vector<Vec2>& poles, int spans) {
        DxfText t;
        t.entities().group(0, "SPLINE").group(5, "B1").group(8, "OUTLINE").group(71, "3");
        for (int i = 0; i <= spans; ++i)
            for (int k = 0; k < (i == 0 || i == spans ? 4 : 3); ++k) t.group(40, static_cast<double>(i));
        for (Vec2 p : poles) t.group(10, p.x).group(20, p.y);
        return clean(drawn(t.done()), {});
    };
    const double k = 0.5522847498307936 * 10;
    const CleanSheet circle = spline({{10, 0},
                                      {10, k},
                                      {k, 10},
                                      {0, 10},
                                      {-k, 10},
                                      {-10, k},
                                      {-10, 0},
                                      {-10, -k},
                                      {-k, -10},
                                      {0, -10},
                                      {k, -10},
                                      {10, -k},
                                      {10, 0}},
                                     4);
    CHECK(kinds(circle)["spline_arc"] == 1);
    const Arc& a = std::get<Arc>(circle.drawing->entities[0].curves[0]);
    CHECK(a.full());
    CHECK(length(a.centre) < 1e-9);
    CHECK(a.radius == Approx(10).epsilon(1e-9));
    CHECK(spline({{0, 0}, {10, 15}, {20, 15}, {30, 0}}, 1).repairs.empty());
}

TEST_CASE("single dashes become one hidden line, long and short ones in turn a centre line") {
    DxfText t;
    t.entities().box(0, 0, 60, 40);
    for (int i = 0; i < 12; ++i) t.line(5 * i, 20, 5 * i + 3.5, 20);
    double x = -5;
    for (int i = 0; i < 11; ++i) {
        const double l = i % 2 == 0 ? 9 : 1.5;
        t.line(x, 10, x + l, 10);
        x += l + 1.2;
    }
    const CleanSheet s = clean(drawn(t.done()), {});
    CHECK(kinds(s)["dashes_joined"] == 2);
    CHECK(s.entity_roles[4] == LineRole::hidden);
    CHECK(segment(s, 4) == Segment{{0, 20}, {60, 20}}); // the last gap reaches the outline
    CHECK(s.entity_roles[16] == LineRole::centre);
}

TEST_CASE("the teeth of a rack are edges, not dashes") {
    DxfText t;
    t.entities().line(0, 0, 60, 0);
    for (int i = 0; i < 6; ++i) {
        const double x = 10 * i;
        t.line(x, 0, x, 12)
            .line(x, 12, x + 6, 12)
            .line(x + 6, 12, x + 6, 8)
            .line(x + 6, 8, x + 10, 8)
            .line(x + 10, 8, x + 10, 0);
    }
    const CleanSheet s = clean(drawn(t.done()), {});
    CHECK(kinds(s)["dashes_joined"] == 0);
}

TEST_CASE("a section's hatching in single lines is set aside, its outline and a row of ribs are not") {
    DxfText t;
    t.entities().box(0, 0, 60, 30);
    for (int i = 1; i < 14; ++i) { // 45 degrees, 4 apart along x, ending on the outline
        const double x = 4 * i, y = std::min(30.0, 60 - x);
        t.line(x, 0, x + y, y);
    }
    const CleanSheet s = clean(drawn(t.done()), {});
    CHECK(kinds(s)["hatching"] == 1);
    CHECK(std::count(s.entity_roles.begin(), s.entity_roles.end(), LineRole::hatch) == 13);
    CHECK(std::count(s.entity_roles.begin(), s.entity_roles.end(), LineRole::outline) == 4);
    DxfText zigzag;
    zigzag.entities().line(0, 0, 60, 0);
    for (int i = 0; i < 10; ++i) zigzag.line(6 * i, 0, 6 * i + 3, 5).line(6 * i + 3, 5, 6 * i + 6, 0);
    CHECK(kinds(clean(drawn(zigzag.done()), {}))["hatching"] == 0);
}

TEST_CASE("lines a hair off level become level, and their neighbours stay with them") {
    const CleanSheet s = clean(drawn(DxfText()
                                         .entities()
                                         .line(0, 0.004, 60, -0.006)
                                         .line(60, -0.006, 60.004, 40)
                                         .line(60.004, 40, 0, 40)
                                         .line(0, 40, 0, 0.004)
                                         .done()),
                               {});
    CHECK(kinds(s)["straightened"] == 2);
    CHECK(segment(s, 0).a.y == segment(s, 0).b.y);
    CHECK(segment(s, 1).a == segment(s, 0).b);
    CHECK(segment(s, 1).a.x == segment(s, 1).b.x);
    CHECK(segment(s, 2).a == segment(s, 1).b);
    CHECK(segment(s, 3).b == segment(s, 0).a);
}

TEST_CASE("a sheet that lies askew is turned upright; places are still told in the file's coordinates") {
    const Affine2 askew = Affine2::rotation(1.3 * kPi / 180);
    DxfText t;
    t.entities();
    const std::vector<Vec2> v{{0, 0}, {200, 0}, {200, 80}, {50, 80}, {50, 120}, {0, 120}};
    for (size_t i = 0; i < v.size(); ++i) {
        const Vec2 p = askew(v[i]), q = askew(v[(i + 1) % v.size()]);
        t.line(p.x, p.y, q.x, q.y);
    }
    const CleanSheet s = clean(drawn(t.done()), {});
    REQUIRE(kinds(s)["sheet_turned"] == 1);
    for (size_t i = 0; i < v.size(); ++i) {
        const Segment& l = segment(s, static_cast<int>(i));
        CHECK((l.a.x == l.b.x || l.a.y == l.b.y));
        CHECK(length(l.b - l.a) == Approx(distance(v[i], v[(i + 1) % v.size()])).epsilon(1e-9));
        CHECK(distance(s.to_file(l.a), askew(v[i])) < 1e-6);
    }
}

TEST_CASE("the fitted circle is exact for points of one, near or far off, and none for a line") {
    std::vector<Vec2> on, line;
    for (int i = 0; i < 9; ++i) {
        on.push_back(Vec2{4.0e6, -2.0e6} + direction(0.3 * i) * 12.5);
        line.push_back({1.0 * i, 2.0 * i});
    }
    const auto c = fitCircle(on);
    REQUIRE(c);
    CHECK(distance(c->centre, {4.0e6, -2.0e6}) < 1e-6);
    CHECK(c->radius == Approx(12.5).epsilon(1e-8));
    CHECK_FALSE(fitCircle(line));
}

TEST_CASE("a sheet far from its origin is moved there; places are still told in the file's coordinates") {
    auto plate = [](double x, double y) {
        std::string t = "0\nSECTION\n2\nENTITIES\n";
        const Vec2 c[] = {{x, y}, {x + 80, y}, {x + 80, y + 50}, {x, y + 50}};
        for (int i = 0; i < 4; ++i) {
            const Vec2 a = c[i], b = c[(i + 1) % 4];
            t += fmt::format("0\nLINE\n8\nPART\n10\n{:.6f}\n20\n{:.6f}\n11\n{:.6f}\n21\n{:.6f}\n", a.x, a.y,
                             b.x, b.y);
        }
        return t + "0\nENDSEC\n0\nEOF\n";
    };
    NoProgress quiet;
    const auto read = [&](double x, double y) {
        return std::make_shared<const Drawing>(readDrawing(plate(x, y), quiet).value());
    };
    CHECK(kinds(clean(read(300, 200), {}, {})).empty());
    const CleanSheet s = clean(read(4512300.25, 5391200.5), {}, {});
    CHECK(kinds(s)["origin_moved"] == 1);
    CHECK(distance(segment(s, 0).a, {0.25, 0.5}) < 1e-6);
    CHECK(distance(s.to_file(segment(s, 0).a), {4512300.25, 5391200.5}) < 1e-6);
    RepairChoices off;
    off.kinds["origin_moved"] = false;
    const CleanSheet left = clean(read(4512300.25, 5391200.5), {}, off);
    CHECK(segment(left, 0).a == Vec2{4512300.25, 5391200.5});
}

TEST_CASE("a layer that nothing else tells about has the role of its colour's other layers") {
    Drawing d;
    auto layer = [&](const char* name, int color, const char* type = "CONTINUOUS") {
        Layer l;
        l.name = name, l.color = color, l.line_type = type;
        d.layers.push_back(l);
    };
    layer("HIDDEN", 3), layer("K17", 3), layer("CENTRE", 1), layer("DIM", 1), layer("K18", 1),
        layer("TITLE", 7), layer("K19", 7), layer("PART", 5), layer("K20", 5);
    CleanSheet s;
    assignRoles(d, {}, s);
    CHECK(s.layer_roles[1] == LineRole::hidden);
    CHECK_THAT(s.layer_reasons[1], Catch::Contains("colour of layer HIDDEN"));
    CHECK(s.layer_roles[4] == LineRole::unknown); // red stands for two things here
    CHECK(s.layer_roles[6] == LineRole::unknown); // the default colour says nothing
    CHECK(s.layer_roles[8] == LineRole::unknown); // and outlines are drawn in any
}

TEST_CASE("a span of a polyline that another line draws too is taken out of it, and needless vertices go") {
    DxfText t;
    t.entities();
    // A rectangle as one polyline, with a needless vertex half way along its lower side.
    t.group(0, "LWPOLYLINE")
        .group(8, "OUTLINE")
        .group(100, "AcDbEntity")
        .group(100, "AcDbPolyline")
        .group(90, "5")
        .group(70, "1");
    for (Vec2 p : {Vec2{0, 0}, {40, 0}, {80, 0}, {80, 30}, {0, 30}}) t.group(10, p.x).group(20, p.y);
    t.line(80, 0, 80, 30);   // drawn again, as a line by itself
    t.line(-10, 30, 90, 30); // runs over the upper side and beyond
    t.line(20, 0, 20, 30);
    const Drawing d = drawn(t.done());
    const CleanSheet s = test::clean(d, {});
    const auto n = kinds(s);
    CHECK(n.at("polyline_apart") == 1);
    CHECK(n.at("duplicate") == 1);
    CHECK(n.at("pieces_joined") == 1);
    REQUIRE(s.drawing->entities[0].curves.size() == 3); // all but the upper side
    double length = 0;
    for (const Entity& e : s.drawing->entities)
        if (s.in_use[e.id])
            for (const Curve& c : e.curves) length += lengthOf(c);
    CHECK(length == Approx(80 + 30 + 30 + 100 + 30));
    // Switched off, all stays as drawn.
    RepairChoices off;
    off.kinds["polyline_apart"] = off.kinds["pieces_joined"] = false;
    CHECK(test::clean(d, {}, off).drawing->entities[0].curves.size() == 5);
    // A vertex that a dimension is measured to, or where another line meets, was meant.
    DxfText meant;
    meant.entities();
    meant.group(0, "LWPOLYLINE")
        .group(8, "OUTLINE")
        .group(100, "AcDbEntity")
        .group(100, "AcDbPolyline")
        .group(90, "5")
        .group(70, "1");
    for (Vec2 p : {Vec2{0, 0}, {40, 0}, {80, 0}, {80, 30}, {0, 30}}) meant.group(10, p.x).group(20, p.y);
    meant.line(40, 0, 40, 30);
    CHECK(test::clean(drawn(meant.done()), {}).repairs.empty());
}

TEST_CASE(
    "a view drawn shortened between break lines is one view, and its dimension drives the true length") {
    // The governor link: a bar 400 long, drawn 140 long with a break, and its side view.
    DxfText t;
    t.layer("THIN", "CONTINUOUS", 8).layer("DIMENSION");
    t.entities();
    const auto zigzag = [&](double x) {
        t.group(0, "LWPOLYLINE")
            .group(8, "THIN")
            .group(100, "AcDbEntity")
            .group(100, "AcDbPolyline")
            .group(90, "6")
            .group(70, "0");
        for (Vec2 p : {Vec2{x, -3}, {x, 6}, {x + 2, 9}, {x - 2, 12}, {x, 15}, {x, 23}})
            t.group(10, p.x).group(20, p.y);
    };
    t.line(0, 0, 60, 0).line(0, 20, 60, 20).line(0, 0, 0, 20);
    t.line(70, 0, 140, 0).line(70, 20, 140, 20).line(140, 0, 140, 20);
    t.circle(20, 10, 4).circle(120, 10, 4);
    zigzag(60), zigzag(70);
    t.box(180, 0, 195, 20);
    t.dimension(0, 0, 140, 0, 70, -15, 0, "400")
        .dimension(0, 20, 20, 20, 10, 35, 0)
        .dimension(120, 20, 140, 20, 130, 35, 0);
    t.dimension(0, 0, 0, 20, -15, 10, 90);
    t.text(60, -30, "THIRD ANGLE");
    const std::string path = temporary("link.dxf");
    std::ofstream(path) << t.done();
    Document d = opened(path);
    CHECK(kinds(d.model().sheet).at("break_closed") == 1);
    REQUIRE(d.model().views.views.size() == 2);
    REQUIRE(d.model().views.withRole(Role::front));
    CHECK(d.model().views.withRole(Role::front)->box_sheet.width() == Approx(140));
    const Finding* told = nullptr;
    for (const Finding& f : d.model().findings) {
        CHECK(f.kind != "dimension_text_differs");
        CHECK(f.kind != "outline_open");
        if (f.kind == "drawn_shortened") told = &f;
    }
    REQUIRE(told);
    CHECK(told->numbers.at("said") == Approx(400));
    std::string name;
    for (const LedgerEntry& e : d.model().ledger.entries)
        if (e.text == "400") name = e.name;
    Choices c = d.choices();
    c.numbers[name].value = 400;
    NoProgress quiet;
    REQUIRE(d.apply("true length", c, quiet));
    double hi = 0, hole = 0;
    for (size_t i = 0; i < d.model().figure.curves.size(); ++i) {
        const Curve now = d.model().figure.curve(static_cast<int>(i));
        if (d.model().figure.curves[i].view != d.model().views.withRole(Role::front)->id) continue;
        hi = std::max(hi, boxOf(now).hi.x);
        if (const auto* a = std::get_if<Arc>(&now)) hole = std::max(hole, a->centre.x);
    }
    CHECK(hi == Approx(400));
    CHECK(hole == Approx(380)); // kept at 20 from the right end
    // Two wavy lines that nothing ends on are no break.
    DxfText plain;
    plain.layer("THIN", "CONTINUOUS", 8);
    plain.entities();
    plain.box(0, 0, 140, 20);
    for (double x : {60.0, 70.0}) {
        plain.group(0, "LWPOLYLINE")
            .group(8, "THIN")
            .group(100, "AcDbEntity")
            .group(100, "AcDbPolyline")
            .group(90, "4")
            .group(70, "0");
        for (Vec2 p : {Vec2{x, 2}, {x + 2, 9}, {x - 2, 12}, {x, 18}}) plain.group(10, p.x).group(20, p.y);
    }
    CHECK(kinds(test::clean(drawn(plain.done()), {})).count("break_closed") == 0);
}
