#include "support/samples.h"

#include "core/figure/projectors.h"
#include "core/project/solved_sheet.h"

#include <fstream>

// Which places of the figure a dimension means, what it drives, and what is said of its text.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress g_quiet;

DxfText& radial(DxfText& t, bool diameter, Vec2 a, Vec2 onIt, const std::string& words = "") {
    t.group(0, "DIMENSION").group(8, "OUTLINE").group(70, diameter ? 3 : 4).group(10, a.x).group(20, a.y);
    t.group(15, onIt.x).group(25, onIt.y);
    if (!words.empty()) t.group(1, words);
    return t;
}

DxfText& angular(DxfText& t, Vec2 p13, Vec2 p14, Vec2 p15, Vec2 p10, Vec2 p16,
                 const std::string& words = "") {
    t.group(0, "DIMENSION").group(8, "OUTLINE").group(70, 2).group(10, p10.x).group(20, p10.y);
    t.group(13, p13.x).group(23, p13.y).group(14, p14.x).group(24, p14.y);
    t.group(15, p15.x).group(25, p15.y).group(16, p16.x).group(26, p16.y);
    if (!words.empty()) t.group(1, words);
    return t;
}

/// Front and top view of a block 80 x 50 x 30 with a hole of 20 and a sloped end, third angle. The front
/// view's right side leans from (80, 0) to (70, 30).
DxfText leaning() {
    DxfText t;
    t.layer("HIDDEN", "HIDDEN").entities();
    t.line(0, 0, 80, 0).line(80, 0, 70, 30).line(70, 30, 0, 30).line(0, 30, 0, 0);
    t.line(20, 0, 20, 30, "HIDDEN").line(40, 0, 40, 30, "HIDDEN");
    t.box(0, 60, 80, 110).line(70, 60, 70, 110).circle(30, 85, 10);
    t.text(0, -40, "THIRD ANGLE PROJECTION");
    return t;
}

/// The same with its depth and height dimensioned, which also tell the scale.
DxfText sized() {
    return leaning().dimension(0, 60, 0, 110, -10, 60, 90).dimension(0, 0, 0, 30, -10, 0, 90);
}

Document from(const DxfText& t, const std::string& name = "binding.dxf") {
    const std::string path = temporary(name);
    std::ofstream(path) << t.done();
    return opened(path);
}

const LedgerEntry& only(const Document& d) {
    REQUIRE(d.model().ledger.entries.size() == 1);
    return d.model().ledger.entries[0];
}

Result<void> set(Document& d, const std::string& name, double value) {
    Choices c = d.choices();
    c.numbers[name].value = value;
    return d.apply("Drive", c, g_quiet);
}

int findings(const Document& d, const std::string& kind) {
    return static_cast<int>(
        std::ranges::count_if(d.model().findings, [&](const Finding& f) { return f.kind == kind; }));
}

} // namespace

TEST_CASE("a level dimension drives the axis along it, named for it, from its lower to its higher end") {
    for (const bool turned : {false, true}) {
        DxfText t = leaning();
        turned ? t.dimension(80, 60, 0, 60, 0, 50, 0) : t.dimension(0, 60, 80, 60, 0, 50, 0);
        Document d = from(t);
        const LedgerEntry& e = only(d);
        CHECK(e.name == "x1");
        CHECK(e.axis == Axis::x);
        CHECK(e.along_axis);
        CHECK(e.state == EntryState::drives);
        CHECK(e.value == Approx(80));
        CHECK(d.model().figure.value(e.high, d.model().figure.now) -
                  d.model().figure.value(e.low, d.model().figure.now) ==
              Approx(80));
        REQUIRE(set(d, "x1", 100));
        const Figure& f = d.model().figure;
        CHECK(f.value(d.model().ledger.named("x1")->high, f.now) == Approx(100));
        CHECK(f.value(d.model().ledger.named("x1")->low, f.now) == Approx(0).margin(1e-9));
    }
}

TEST_CASE("upright dimensions drive the depth in the top view and the height in the front view") {
    Document top = from(leaning().dimension(0, 60, 0, 110, -10, 60, 90));
    CHECK(only(top).name == "y1");
    CHECK(only(top).value == Approx(50));
    Document front = from(leaning().dimension(0, 0, 0, 30, -10, 0, 90));
    CHECK(only(front).name == "z1");
    CHECK(only(front).value == Approx(30));
}

TEST_CASE("a dimension between two corners that is along no axis holds their distance") {
    Document d = from([] {
        DxfText t = leaning();
        t.group(0, "DIMENSION").group(8, "OUTLINE").group(70, 1).group(10, 90.0).group(20, 5.0);
        t.group(13, 80.0).group(23, 0.0).group(14, 70.0).group(24, 30.0);
        return t;
    }());
    const LedgerEntry& e = only(d);
    CHECK(e.name == "length1");
    CHECK_FALSE(e.along_axis);
    CHECK(e.equation.kind == EquationKind::distance);
    CHECK(e.value == Approx(std::hypot(10, 30)));
    REQUIRE(set(d, "length1", 34));
    const Figure& f = d.model().figure;
    CHECK(evaluate(d.model().ledger.entries[0].equation, f.now, nullptr) == Approx(0).margin(1e-6));
}

TEST_CASE("radii and diameters bind to the circle of their size, not to a concentric one") {
    DxfText t = leaning();
    t.circle(30, 85, 14); // a counterbore round the hole
    radial(t, true, {20, 85}, {40, 85});
    radial(t, false, {30, 85}, {44, 85});
    Document d = from(t);
    REQUIRE(d.model().ledger.entries.size() == 2);
    const LedgerEntry &dia = d.model().ledger.entries[0], &radius = d.model().ledger.entries[1];
    CHECK(dia.name == "dia1");
    CHECK(dia.value == Approx(20));
    CHECK(radius.name == "radius1");
    CHECK(radius.value == Approx(14));
    REQUIRE(set(d, "dia1", 22));
    REQUIRE(set(d, "radius1", 15));
    std::vector<double> sizes;
    for (const FigureCurve& c : d.model().figure.curves)
        if (c.radius >= 0) sizes.push_back(d.model().figure.now[c.radius]);
    std::ranges::sort(sizes);
    REQUIRE(sizes.size() == 2);
    CHECK(sizes[0] == Approx(11));
    CHECK(sizes[1] == Approx(15));
    // The solved sheet draws both from the circle as it is now, and says the new value.
    const SolvedSheet s = solvedSheet(d.model());
    CHECK(distance(s.dimensions[0].p10, {19, 85}) < 1e-6);
    CHECK(distance(s.dimensions[0].p15, {41, 85}) < 1e-6);
    CHECK(distance(s.dimensions[1].p10, {30, 85}) < 1e-6);
    CHECK(distance(s.dimensions[1].p15, {45, 85}) < 1e-6);
    CHECK(s.dimensions[0].text.find("22") != std::string::npos);
    CHECK(s.dimensions[1].text.find("15") != std::string::npos);
}

TEST_CASE("a radius of no circle there is loose, and says so") {
    DxfText t = leaning();
    radial(t, false, {30, 85}, {36, 85});
    const Document d = from(t);
    CHECK(only(d).state == EntryState::loose);
    CHECK(only(d).why == "no circle or arc of this size lies there");
    CHECK(findings(d, "dimension_loose") == 1);
}

TEST_CASE("an angle turns its lines by as much as it is changed, from whichever side it is measured") {
    const double lean = std::atan2(30, -10) * 180 / kPi, inside = 180 - lean; // 108.4 and 71.6 degrees
    struct Case {
        Vec2 p13, p14, p15, p10, p16;
        double value;
    };
    for (const Case& c : {Case{{80, 0}, {0, 0}, {80, 0}, {70, 30}, {74, 3}, inside},
                          Case{{0, 0}, {80, 0}, {70, 30}, {80, 0}, {74, 3}, inside},
                          Case{{80, 0}, {70, 30}, {0, 0}, {80, 0}, {74, 3}, inside}}) {
        DxfText t = leaning();
        angular(t, c.p13, c.p14, c.p15, c.p10, c.p16);
        Document d = from(t);
        const LedgerEntry e = only(d);
        CHECK(e.angular());
        CHECK(e.name == "angle1");
        REQUIRE(e.state == EntryState::drives);
        const double before = e.value;
        REQUIRE(set(d, "angle1", before + 5));
        const Figure& f = d.model().figure;
        // The leaning side, by its ends.
        for (const FigureCurve& k : f.curves)
            if (const auto* s = std::get_if<Segment>(&k.drawn);
                s && std::abs(s->a.x - s->b.x) > 5 && std::abs(s->a.y - s->b.y) > 5) {
                const Vec2 a = f.at(f.points[k.p0], f.now), b = f.at(f.points[k.p1], f.now);
                const Vec2 up = a.y < b.y ? b - a : a - b;
                const double now = angleOf(up) * 180 / kPi; // was 108.4
                CHECK(std::abs(now - lean) == Approx(5).margin(1e-4));
                const bool opens = std::abs(before - inside) < 1e-6; // measured within the part
                CHECK((now < lean) == opens);
            }
    }
}

TEST_CASE("texts that differ from what is drawn are told beyond what rounding explains") {
    struct Case {
        const char* words;
        int differs;
    };
    for (const Case& c : {Case{"80", 0}, {"80.4", 1}, {"79.6", 1}, {"81", 1}, {"80.0", 0}, {"80,0", 0}}) {
        INFO(c.words);
        const Document d = from(sized().dimension(0, 60, 80, 60, 0, 50, 0, c.words));
        CHECK(findings(d, "dimension_text_differs") == c.differs);
        CHECK(d.model().ledger.named("x1")->drawn == Approx(80));
    }
    // Drawn as 80.4: one that shows no decimals rounds it, one that shows a decimal does not.
    DxfText t;
    t.entities().box(0, 0, 80.4, 30).box(0, 60, 80.4, 110).text(0, -40, "THIRD ANGLE PROJECTION");
    t.dimension(0, 60, 0, 110, -10, 60, 90).dimension(0, 0, 0, 30, -10, 0, 90);
    DxfText exact = t;
    CHECK(findings(from(t.dimension(0, 60, 80.4, 60, 0, 50, 0, "80")), "dimension_text_differs") == 0);
    CHECK(findings(from(exact.dimension(0, 60, 80.4, 60, 0, 50, 0, "80.0")), "dimension_text_differs") == 1);
}

TEST_CASE(
    "one size with two texts disagrees; a chain that does not add up is open; one that does is neither") {
    auto chain = [](const char* a, const char* b, const char* whole) {
        DxfText t = sized();
        t.dimension(0, 60, 30, 60, 0, 50, 0, a).dimension(30, 60, 80, 60, 0, 50, 0, b);
        t.dimension(0, 60, 80, 60, 0, 40, 0, whole);
        // The middle of the chain stands on the hole's centre.
        return from(t);
    };
    CHECK(findings(chain("30", "50", "80"), "dimension_chain_open") == 0);
    const Document open = chain("30", "50", "82");
    CHECK(findings(open, "dimension_chain_open") == 1);
    for (const Finding& f : open.model().findings)
        if (f.kind == "dimension_chain_open") {
            CHECK(f.handles.size() == 3);
            CHECK(f.at_sheet.size() == 3);
            CHECK(f.severity == Severity::error);
            CHECK(f.message.find("x1 (30)") != std::string::npos);
            CHECK(f.message.find("x3 (82)") != std::string::npos);
        }
    const Document twice =
        from(sized().dimension(0, 60, 80, 60, 0, 50, 0, "80").dimension(0, 0, 80, 0, 0, -10, 0, "82"));
    CHECK(findings(twice, "dimensions_disagree") == 1);
    CHECK(findings(twice, "dimension_chain_open") == 0);
    CHECK(findings(from(leaning().dimension(0, 60, 80, 60, 0, 50, 0).dimension(0, 0, 80, 0, 0, -10, 0)),
                   "dimensions_disagree") == 0);
}

TEST_CASE("what follows from other dimensions reports, and follows them") {
    Document d = from(leaning()
                          .dimension(0, 60, 30, 60, 0, 50, 0)
                          .dimension(30, 60, 80, 60, 0, 50, 0)
                          .dimension(0, 60, 80, 60, 0, 40, 0));
    const Ledger& l = d.model().ledger;
    REQUIRE(l.entries.size() == 3);
    CHECK(l.entries[0].state == EntryState::drives);
    CHECK(l.entries[1].state == EntryState::drives);
    CHECK(l.entries[2].state == EntryState::reports);
    CHECK(l.entries[2].why == "follows from other dimensions");
    REQUIRE(set(d, "x1", 34));
    CHECK(d.model().ledger.named("x3")->value == Approx(84));
    CHECK(d.model().ledger.named("x2")->value == Approx(50));
}

TEST_CASE("a reference dimension never drives unless it is given a value") {
    Document d = from(leaning().dimension(0, 60, 80, 60, 0, 50, 0, "(80)"));
    CHECK(only(d).reference);
    CHECK(only(d).state == EntryState::reports);
    REQUIRE(set(d, "x1", 90));
    CHECK(only(d).state == EntryState::drives);
    CHECK(only(d).value == Approx(90));
}

TEST_CASE("the places of a line's ends are found again in the other view, with the depth that it shows") {
    const Document d = from(leaning());
    const Figure& f = d.model().figure;
    const FigureView* top = f.viewNamed(Role::top);
    REQUIRE(top);
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const auto* s = std::get_if<Segment>(&f.curves[i].drawn);
        if (!s || f.curves[i].view != top->view || std::abs(s->a.x - 70) > 1e-6 ||
            std::abs(s->b.x - 70) > 1e-6)
            continue;
        const auto places = projectorsOf(f, static_cast<int>(i)); // the upper edge of the leaning side
        REQUIRE(places.size() == 2);
        for (const Projector& p : places) {
            CHECK(p.at.x == Approx(70));
            CHECK(p.at.z == Approx(30));
            CHECK(p.shown.size() == 2);
        }
        CHECK(std::abs(places[0].at.y - places[1].at.y) == Approx(50));
    }
}

TEST_CASE("a hole keeps its centre when its size is driven, wherever it lies") {
    DxfText t = leaning();
    radial(t, true, {20, 85}, {40, 85});
    Document d = from(t);
    for (double size : {24.0, 12.0, 30.0}) {
        REQUIRE(set(d, "dia1", size));
        const Figure& f = d.model().figure;
        for (const FigureCurve& c : f.curves)
            if (c.radius >= 0) {
                CHECK(f.now[c.radius] == Approx(size / 2));
                CHECK(distance(f.at(f.points[c.centre], f.now), f.at(f.points[c.centre], f.drawn)) < 1e-9);
            }
        int sides = 0; // the hidden lines of the front view follow
        for (const FigureCurve& c : f.curves)
            if (c.role == LineRole::hidden) {
                const double x = f.at(f.points[c.p0], f.now).x;
                CHECK((std::abs(x - 30 - size / 2) < 1e-6 || std::abs(x - 30 + size / 2) < 1e-6));
                ++sides;
            }
        CHECK(sides == 2);
    }
}

TEST_CASE("holes of one size stay so, though one stands level with a corner's rounding by chance") {
    // A plate 100 x 60 with rounded corners of 10 and holes of 10: their tops, at 50, are level with where
    // the roundings begin. One hole's diameter and its height are dimensioned.
    DxfText t;
    t.layer("HIDDEN", "HIDDEN").entities();
    t.line(10, 0, 90, 0).line(100, 10, 100, 50).line(90, 60, 10, 60).line(0, 50, 0, 10);
    t.arc(90, 10, 10, 270, 360).arc(90, 50, 10, 0, 90).arc(10, 50, 10, 90, 180).arc(10, 10, 10, 180, 270);
    for (double x : {20.0, 80.0}) t.circle(x, 45, 5).circle(x, 15, 5);
    t.box(140, 0, 152, 60);
    for (double z : {10.0, 20.0, 40.0, 50.0}) t.line(140, z, 152, z, "HIDDEN");
    t.text(0, -40, "THIRD ANGLE PROJECTION");
    t.dimension(20, 15, 20, 45, -20, 0, 90); // z1: the distance of the rows
    radial(t, true, {15, 15}, {25, 15});
    Document d = from(t, "rounded.dxf");
    REQUIRE(d.model().ledger.named("z1"));
    REQUIRE(set(d, "z1", 33));
    const Figure& f = d.model().figure;
    std::vector<double> heights;
    for (const FigureCurve& c : f.curves)
        if (c.radius >= 0 && c.p0 < 0) {
            CHECK(f.now[c.radius] == Approx(5));
            heights.push_back(f.now[f.points[c.centre].v]);
        }
    std::ranges::sort(heights);
    REQUIRE(heights.size() == 4);
    CHECK(heights[3] - heights[0] == Approx(33));
    CHECK(heights[2] == Approx(heights[3]));
}

TEST_CASE("level and upright lines, and rounds on one centre, are listed by what is drawn") {
    const Document d = from(leaning());
    std::map<RelationKind, int> n;
    for (const Relation& r : d.model().figure.relations) ++n[r.kind];
    // Front: 2 level, 1 upright, 2 hidden upright; top: 2 level, 2 upright and one more inside.
    CHECK(n[RelationKind::horizontal] == 4);
    CHECK(n[RelationKind::vertical] == 6);
    CHECK(n[RelationKind::tangent] == 0);
    DxfText two = leaning();
    two.circle(30, 85, 14);
    std::map<RelationKind, int> m;
    const Document concentric = from(two);
    for (const Relation& r : concentric.model().figure.relations) ++m[r.kind];
    CHECK(m[RelationKind::concentric] == n[RelationKind::concentric] + 1);
}

TEST_CASE("a dimension to the centre line of a hole seen from the side drives the hole") {
    // A plate of 80 by 40 with a hole of 10 at (30, 15); the front view shows it hidden, with its centre
    // line.
    const std::string path = temporary("side-hole.dxf");
    std::ofstream(path) << DxfText()
                               .layer("OUTLINE")
                               .layer("HIDDEN", "HIDDEN")
                               .layer("CENTRE", "CENTER")
                               .entities()
                               .box(0, 0, 80, 12)
                               .line(25, 0, 25, 12, "HIDDEN")
                               .line(35, 0, 35, 12, "HIDDEN")
                               .line(30, -3, 30, 15, "CENTRE")
                               .box(0, 40, 80, 80)
                               .circle(30, 55, 5)
                               .text(0, -30, "THIRD ANGLE")
                               .dimension(0, 0, 30, 0, 0, -12, 0)
                               .done();
    NoProgress quiet;
    Document d = opened(path);
    REQUIRE(d.model().ledger.entries.size() == 1);
    const LedgerEntry e = d.model().ledger.entries[0];
    CHECK(e.drawn == Approx(30));
    CHECK(e.state == EntryState::drives);
    Choices c = d.choices();
    c.numbers[e.name].value = 33;
    REQUIRE(d.apply("Change", c, quiet));
    const Figure& f = d.model().figure;
    int moved = 0;
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const Curve now = f.curve(static_cast<int>(i));
        if (const auto* a = std::get_if<Arc>(&now)) {
            ++moved;
            CHECK(a->centre.x == Approx(33));
            CHECK(a->radius == Approx(5));
        } else if (f.curves[i].role == LineRole::hidden) {
            ++moved;
            const double x = startOf(now).x;
            CHECK((x == Approx(28) || x == Approx(38)));
        }
    }
    CHECK(moved == 3);
}

TEST_CASE("dimensions of another part on the sheet are none of this one's") {
    const std::string path = temporary("two-parts.dxf");
    std::ofstream(path) << DxfText()
                               .entities()
                               .box(0, 0, 80, 12)
                               .box(0, 40, 80, 80)
                               .circle(30, 55, 5)
                               .dimension(0, 0, 80, 0, 0, -12, 0)
                               .box(300, 130, 360, 150)
                               .box(300, 180, 360, 215)
                               .circle(320, 195, 6)
                               .dimension(300, 130, 360, 130, 300, 118, 0)
                               .dimension(360, 130, 360, 150, 372, 130, 90)
                               .done();
    NoProgress quiet;
    Document d = opened(path);
    REQUIRE(d.model().views.parts.size() == 2);
    for (const auto& [part, sizes] : {std::pair{0, std::vector{80.0}}, {1, std::vector{60.0, 20.0}}}) {
        Choices c = d.choices();
        c.views.part = part;
        REQUIRE(d.apply("Part", c, quiet));
        std::vector<double> drawn;
        for (const LedgerEntry& e : d.model().ledger.entries) {
            CHECK(e.state == EntryState::drives);
            drawn.push_back(e.drawn);
        }
        REQUIRE(drawn.size() == sizes.size());
        for (size_t i = 0; i < sizes.size(); ++i) CHECK(drawn[i] == Approx(sizes[i]));
    }
}

TEST_CASE("tolerances of an inch sheet are told in mm, each with its own sign") {
    DxfText t(1); // inches
    t.entities().box(0, 0, 4, 2).box(0, 3, 4, 5).text(0, -3, "THIRD ANGLE PROJECTION");
    t.dimension(0, 0, 4, 0, 0, -1, 0, "<> +0.01/-0.02");
    const Document d = from(t, "inch-tolerance.dxf");
    const LedgerEntry& e = only(d);
    CHECK(e.value == Approx(101.6));
    CHECK(e.plus == Approx(0.254));
    CHECK(std::abs(e.minus) == Approx(0.508));
}

TEST_CASE("an angle that follows from other dimensions reports what it becomes") {
    DxfText t = sized();
    t.dimension(0, 0, 80, 0, 0, -20, 0).dimension(0, 30, 70, 30, 0, 45, 0);
    angular(t, {0, 0}, {80, 0}, {80, 0}, {70, 30}, {60, 10});
    Document d = from(t);
    const LedgerEntry* e = d.model().ledger.named("angle1");
    REQUIRE(e);
    CHECK(e->state == EntryState::reports);
    const double was = e->value;
    CHECK((was == Approx(std::atan2(30, 10) * 180 / kPi) ||
           was == Approx(180 - std::atan2(30, 10) * 180 / kPi)));
    REQUIRE(set(d, "x2", 60)); // the top ends at 60: the side leans by 20 over 30
    const double now = d.model().ledger.named("angle1")->value;
    const double lean = (std::atan2(30, 20) - std::atan2(30, 10)) * 180 / kPi;
    CHECK(now - was == Approx(was < 90 ? lean : -lean));
}

TEST_CASE("a diameter may be written as a radius of half its size, and the reverse; other signs are told") {
    const auto kinds = [](bool diameter, const std::string& words) {
        DxfText t = leaning();
        const Vec2 centre{30, 85}, on_it{40, 85};
        // Of a diameter both ends lie on the circle.
        radial(t, diameter, diameter ? Vec2{20, 85} : centre, on_it, words);
        // One size alone would be taken for the scale of the view.
        t.dimension(0, 60, 80, 60, 0, 50, 0).dimension(0, 60, 0, 110, -10, 60, 90);
        const Document d = from(t);
        const auto& all = d.model().ledger.entries;
        const LedgerEntry& e = *std::ranges::find_if(all, [](const auto& x) { return !x.along_axis; });
        CHECK(e.kind == (diameter ? DimensionKind::diameter : DimensionKind::radius));
        CHECK(e.drawn == Approx(diameter ? 20 : 10));
        std::string r;
        for (const Finding& f : d.model().findings)
            if (f.kind == "dimension_sign_suspect" || f.kind == "dimension_text_differs") r += f.kind;
        return r;
    };
    CHECK(kinds(true, "R10") == "");
    CHECK(kinds(false, "\u00d820") == "");
    CHECK(kinds(true, "\u00d820") == "");
    CHECK(kinds(false, "R10") == "");
    CHECK(kinds(true, "R20") == "dimension_sign_suspect");
    CHECK(kinds(false, "\u00d810") == "dimension_sign_suspect");
    CHECK(kinds(true, "R12") == "dimension_sign_suspect");
    CHECK(kinds(true, "\u00d822") == "dimension_text_differs");
}
