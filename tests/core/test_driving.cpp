#include "support/bracket.h"
#include "support/samples.h"

#include "core/project/solved_sheet.h"

#include <fstream>
#include <set>

using namespace prism;
using namespace prism::test;

namespace {

Document bracket() {
    NoProgress quiet;
    Document d = opened(demo("roller-bracket.dxf"));
    Choices c = d.choices();
    c.steps = bracketSteps();
    REQUIRE(d.apply("Build", c, quiet));
    return d;
}

Result<void> set(Document& d, const std::string& name, double value) {
    NoProgress quiet;
    Choices c = d.choices();
    c.numbers[name].value = value;
    return d.apply("Change " + name, c, quiet);
}

/// The entry that says this on the sheet, in this view.
std::string named(const Document& d, const std::string& text, Role view, double nearX = -1) {
    std::string found;
    double best = 1e300;
    for (const LedgerEntry& e : d.model().ledger.entries) {
        if (e.text != text || d.model().views.views[e.view].role != view) continue;
        const double off =
            nearX < 0 ? 0 : std::abs(d.model().drawing->dimensions[e.dimension].text_at.x - nearX);
        if (off < best) best = off, found = e.name;
    }
    INFO(text);
    REQUIRE_FALSE(found.empty());
    return found;
}

void requireProved(const Document& d, double volume) {
    CHECK(d.model().build.measure.valid);
    CHECK(d.model().build.measure.volume == Approx(volume).epsilon(1e-8).margin(1e-6));
    REQUIRE(d.model().proof);
    CHECK(d.model().proof->missing == 0);
    CHECK(d.model().proof->extra == 0);
}

} // namespace

TEST_CASE("the roller bracket has the volume of its closed form and a clean proof") {
    requireProved(bracket(), Bracket{}.volume());
}

TEST_CASE("three dimensions changed one after another give the closed form each time") {
    Document d = bracket();
    Bracket b;
    REQUIRE(set(d, named(d, "120", Role::front), b.length = 131));
    requireProved(d, b.volume());
    REQUIRE(set(d, named(d, "R20", Role::front), b.radius = 17.5));
    requireProved(d, b.volume());
    REQUIRE(set(d, named(d, "2x Ø9", Role::top), b.hole = 11));
    requireProved(d, b.volume());
}

TEST_CASE("two features at the same height by chance stay two numbers") {
    Document d = bracket();
    Bracket b;
    const double left = 40, right = 205; // where the two texts stand on the sheet
    const std::string block = named(d, "30", Role::front, left), pad = named(d, "30", Role::front, right);
    REQUIRE(block != pad);
    REQUIRE(set(d, block, b.block_z = 36));
    CHECK(d.model().ledger.named(pad)->value == Approx(30));
    requireProved(d, b.volume());
    REQUIRE(set(d, pad, b.pad_z = 25));
    CHECK(d.model().ledger.named(block)->value == Approx(36));
    requireProved(d, b.volume());
}

TEST_CASE("one number moves a feature in all three views") {
    Document d = bracket();
    const std::string hole = named(d, "2x Ø9", Role::top);
    REQUIRE(set(d, hole, 12));
    const Figure& f = d.model().figure;
    // The hole at X = 78, Y = 14: a circle in the top view, hidden lines in the front and the right view.
    auto hasLine = [&](Role view, bool upright, double at) {
        const FigureView& v = *f.viewNamed(view);
        for (size_t i = 0; i < f.curves.size(); ++i) {
            if (f.curves[i].view != v.view) continue;
            const Curve c = f.curve(static_cast<int>(i));
            const auto* s = std::get_if<Segment>(&c);
            if (!s) continue;
            const double a = upright ? s->a.x : s->a.y, b = upright ? s->b.x : s->b.y;
            if (std::abs(a - at) < 1e-6 && std::abs(b - at) < 1e-6) return true;
        }
        return false;
    };
    for (double side : {-6.0, 6.0}) {
        CHECK(hasLine(Role::front, true, 78 + side));
        CHECK(hasLine(Role::right, true, 14 + side));
        CHECK(hasLine(Role::right, true, 46 + side));
    }
    Bracket b;
    b.hole = 12;
    requireProved(d, b.volume());
}

TEST_CASE(
    "every driving number of the demo sheets, changed by two per cent, gives a valid and proved solid") {
    for (const char* file : {"roller-bracket.dxf", "weight-pulley.dxf"}) {
        Document base = file[0] == 'r' ? bracket() : opened(demo(file));
        NoProgress quiet;
        if (base.choices().steps.empty()) {
            Step s; // the half profile of the pulley, turned round its centre line
            s.kind = StepKind::revolve, s.areas = {{6, 70}, {17, 85}, {28, 85}, {39, 85}, {48, 70}, {56, 72}};
            s.axis = {Role::front, {30, 55}};
            Choices c = base.choices();
            c.steps = {s};
            REQUIRE(base.apply("Build", c, quiet));
        }
        REQUIRE(base.model().proof->clean());
        for (const LedgerEntry& e : base.model().ledger.entries) {
            INFO(file << " " << e.name << " " << e.text);
            CHECK(e.state == EntryState::drives);
            for (double factor : {0.98, 1.02}) {
                Choices c = base.choices();
                c.numbers[e.name].value = e.value * factor;
                const auto m = computeModel(base.source(), c, base.sharedModel(), base.choices(), quiet);
                REQUIRE(m);
                CHECK((*m)->build.measure.valid);
                CHECK((*m)->proof->clean());
                CHECK((*m)->ledger.named(e.name)->value == Approx(e.value * factor));
            }
        }
    }
}

TEST_CASE("a number that clashes is refused by name and nothing changes") {
    Document d = bracket();
    NoProgress quiet;
    Choices c = d.choices();
    const std::string total = named(d, "92", Role::front);
    c.numbers[named(d, "R20", Role::front)].value = -3;
    const auto r = d.apply("Change", c, quiet);
    REQUIRE_FALSE(r);
    CHECK(r.error().message.find("greater than zero") != std::string::npos);
    c = d.choices();
    c.numbers[total].held = true;
    c.numbers["nosuch"].value = 4;
    const auto unknown = d.apply("Change", c, quiet);
    REQUIRE_FALSE(unknown);
    CHECK(unknown.error().message.find("nosuch") != std::string::npos);
    CHECK(d.model().build.measure.volume == Approx(Bracket{}.volume()));
    CHECK_FALSE(d.choices().numbers.contains(total));
}

TEST_CASE("a chain with its total over-driven names the numbers that clash") {
    // 30 + 50 = 80 with all three dimensioned: the total reports; said to be 90 while the links are held, it
    // clashes.
    DxfText t;
    t.entities().box(0, 0, 80, 40).line(30, 0, 30, 40).box(0, 60, 80, 100).line(30, 60, 30, 100);
    t.dimension(0, 0, 30, 0, 0, -10, 0).dimension(30, 0, 80, 0, 30, -10, 0).dimension(0, 0, 80, 0, 0, -20, 0);
    const std::string path = temporary("chain.dxf");
    REQUIRE(std::ofstream(path) << t.done());
    Document d = opened(path);
    NoProgress quiet;
    const auto& entries = d.model().ledger.entries;
    REQUIRE(entries.size() == 3);
    CHECK(entries[2].state == EntryState::reports);
    Choices c = d.choices();
    c.numbers[entries[0].name].held = c.numbers[entries[1].name].held = true;
    c.numbers[entries[2].name].value = 90;
    const auto r = d.apply("Change", c, quiet);
    REQUIRE_FALSE(r);
    for (const LedgerEntry& e : entries) CHECK(r.error().message.find(e.name) != std::string::npos);
    CHECK(d.choices() == Choices{});
}

TEST_CASE("formulas follow other numbers, in any order, and circles of them are told") {
    Document d = bracket();
    NoProgress quiet;
    Choices c = d.choices();
    const std::string bore = named(d, "Ø16", Role::front), radius = named(d, "R20", Role::front),
                      hole = named(d, "2x Ø9", Role::top);
    c.numbers[radius].formula = bore + " + 6 mm";
    c.numbers[hole].formula = "(" + radius + " - 2) / 2";
    REQUIRE(d.apply("Formulas", c, quiet));
    Bracket b;
    b.radius = 22, b.hole = 10;
    requireProved(d, b.volume());
    REQUIRE(set(d, bore, 12));
    b.bore = 12, b.radius = 18, b.hole = 8;
    requireProved(d, b.volume());
    c = d.choices();
    c.numbers[bore].formula = hole + "*2";
    const auto circle = d.apply("Circle", c, quiet);
    REQUIRE_FALSE(circle);
    CHECK(circle.error().message.find("circle") != std::string::npos);
}

TEST_CASE("typed numbers take units, decimal commas and fractions of inches") {
    auto value = [](const std::string& s, double unit = 1) {
        const auto v = evaluateFormula(s, {{"a", 4}, {"long_name", 10}}, unit);
        INFO(s);
        REQUIRE(v);
        return *v;
    };
    CHECK(value("12.5") == 12.5);
    CHECK(value("12,5") == 12.5);
    CHECK(value("2", 25.4) == 50.8);
    CHECK(value("2 mm", 25.4) == 2);
    CHECK(value("1 in + 1 mm") == Approx(26.4));
    CHECK(value("3 cm") == 30);
    CHECK(value("long_name / a") == 2.5);
    CHECK(value("sin(30)") == Approx(0.5));
    CHECK(value("sqrt(a)") == 2);
    CHECK_FALSE(evaluateFormula("1 +", {}));
    CHECK_FALSE(evaluateFormula("unknown * 2", {{"a", 1}}));
    CHECK_FALSE(evaluateFormula("1 / 0", {}));
    CHECK(namesIn("a + long_name*2 - sin(a)") == std::vector<std::string>{"a", "long_name"});
}

TEST_CASE("the side said to move moves, and the other stays where it was") {
    const Document d = bracket();
    NoProgress quiet;
    const LedgerEntry& upright = *d.model().ledger.named(named(d, "20", Role::right));
    for (MovingSide side : {MovingSide::first, MovingSide::second}) {
        Choices c = d.choices();
        c.numbers[upright.name].value = 26;
        c.numbers[upright.name].moving_side = side;
        const auto m = computeModel(d.source(), c, d.sharedModel(), d.choices(), quiet);
        REQUIRE(m);
        const Figure& f = (*m)->figure;
        CHECK(f.value(upright.low, f.now) == Approx(side == MovingSide::first ? 4 : 10).margin(1e-6));
        CHECK(f.value(upright.high, f.now) == Approx(side == MovingSide::first ? 30 : 36).margin(1e-6));
    }
}

TEST_CASE("a change leaves everything in place that does not depend on it") {
    Document d = bracket();
    REQUIRE(set(d, named(d, "R5.5", Role::top), 6.5));
    const Figure& f = d.model().figure;
    std::set<int> slot;
    for (const FigureCurve& c : f.curves)
        if (c.radius >= 0 && std::abs(f.drawn[c.radius] - 5.5) < 1e-6) slot.insert(c.radius);
    int moved = 0;
    for (size_t i = 0; i < f.now.size(); ++i) moved += std::abs(f.now[i] - f.drawn[i]) > 1e-6;
    // Two radii, the slot's four ends in the top view and its two pairs of hidden lines in the others.
    CHECK(slot.size() == 2);
    CHECK(moved <= 12);
    CHECK(moved >= 8);
}

TEST_CASE("the solved sheet shows the new value in the drawn dimension and moves its strokes") {
    Document d = bracket();
    const std::string name = named(d, "2x Ø9", Role::top), length = named(d, "120", Role::front);
    REQUIRE(set(d, name, 9.5));
    REQUIRE(set(d, length, 140));
    const SolvedSheet s = solvedSheet(d.model());
    const LedgerEntry& e = *d.model().ledger.named(name);
    CHECK(s.dimensions[e.dimension].text == "2x Ø9.5");
    CHECK(distance(s.dimensions[e.dimension].p10, s.dimensions[e.dimension].p15) == Approx(9.5));
    const Dimension& l = s.dimensions[d.model().ledger.named(length)->dimension];
    CHECK(l.text == "140");
    CHECK(std::abs(l.p14.x - l.p13.x) == Approx(140));
}

TEST_CASE(
    "a line that runs smoothly up to a whole circle stays smooth when the circle or its place changes") {
    // Two circles of 20 and 8, 60 apart, and the two lines that touch both.
    const double cosine = (20.0 - 8) / 60, sine = std::sqrt(1 - cosine * cosine);
    DxfText t;
    t.entities().circle(100, 100, 20).circle(160, 100, 8);
    for (double s : {1.0, -1.0})
        t.line(100 + 20 * cosine, 100 + s * 20 * sine, 160 + 8 * cosine, 100 + s * 8 * sine);
    t.group(0, "DIMENSION").group(8, "DIM").group(70, 3);
    t.group(10, 80).group(20, 100).group(15, 120).group(25, 100);
    t.dimension(100, 100, 160, 100, 130, 60, 0);
    t.box(80, 0, 168, 12); // another view
    const std::string path = temporary("touching.dxf");
    std::ofstream(path) << t.done();
    for (const bool wider : {true, false}) {
        Document d = opened(path);
        std::string name;
        for (const LedgerEntry& e : d.model().ledger.entries)
            if ((e.kind == DimensionKind::diameter) == wider) name = e.name;
        REQUIRE_FALSE(name.empty());
        REQUIRE(set(d, name, wider ? 44 : 66));
        const Figure& f = d.model().figure;
        std::vector<Arc> circles;
        std::vector<Segment> lines;
        for (size_t i = 0; i < f.curves.size(); ++i) {
            const Curve c = f.curve(static_cast<int>(i));
            if (const auto* a = std::get_if<Arc>(&c)) circles.push_back(*a);
            if (const auto* s = std::get_if<Segment>(&c);
                s && std::abs(s->a.y - s->b.y) > 1 && std::abs(s->a.x - s->b.x) > 1)
                lines.push_back(*s);
        }
        REQUIRE(circles.size() == 2);
        REQUIRE(lines.size() == 2);
        CHECK(std::max(circles[0].radius, circles[1].radius) == Approx(wider ? 22 : 20));
        CHECK(distance(circles[0].centre, circles[1].centre) == Approx(wider ? 60 : 66));
        for (const Segment& s : lines)
            for (const Arc& a : circles) {
                const Vec2 end = distance(s.a, a.centre) < distance(s.b, a.centre) ? s.a : s.b;
                CHECK(distance(end, a.centre) == Approx(a.radius).epsilon(1e-7));
                CHECK(std::abs(dot(normalized(s.b - s.a), normalized(end - a.centre))) < 1e-6);
            }
    }
}

namespace {

/// A plate of 100 x 60 x 20 in front and top view, with what is drawn on it.
Document plate(const std::function<void(DxfText&)>& more) {
    DxfText t;
    t.layer("HIDDEN", "HIDDEN").layer("CENTER", "CENTER");
    t.entities().box(0, 0, 100, 20).box(0, 60, 100, 120).text(0, -60, "THIRD ANGLE PROJECTION");
    more(t);
    const std::string path = temporary("driven-plate.dxf");
    std::ofstream(path) << t.done();
    return opened(path);
}

} // namespace

TEST_CASE("the side of a countersink stays at 45 degrees and goes with the face it stands in") {
    Document d = plate([](DxfText& t) {
        t.line(30, 20, 36, 14, "HIDDEN").line(36, 14, 44, 14, "HIDDEN").line(44, 14, 50, 20, "HIDDEN");
        t.line(36, 14, 36, 0, "HIDDEN").line(44, 14, 44, 0, "HIDDEN").circle(40, 90, 4).circle(40, 90, 10);
        t.dimension(0, 0, 0, 20, -10, 0, 90);
    });
    REQUIRE(d.model().ledger.entries.size() == 1);
    REQUIRE(set(d, d.model().ledger.entries[0].name, 22));
    const Figure& f = d.model().figure;
    int askew = 0;
    for (size_t i = 0; i < f.curves.size(); ++i)
        if (const Curve c = f.curve(static_cast<int>(i)); const auto* s = std::get_if<Segment>(&c)) {
            const Vec2 by = s->b - s->a;
            if (std::min(std::abs(by.x), std::abs(by.y)) < 0.1) continue;
            ++askew;
            CHECK(std::abs(by.x) == Approx(6).margin(1e-6));
            CHECK(std::abs(by.y) == Approx(6).margin(1e-6));
            CHECK(std::max(s->a.y, s->b.y) == Approx(22).margin(1e-6));
        }
    CHECK(askew == 2);
}

TEST_CASE("what lies as far from a centre line by chance is no mirror image") {
    // The edge of the second hole lies as far to the right of the first one's axis as the plate's end to the
    // left.
    Document d = plate([](DxfText& t) {
        t.line(30, -5, 30, 25, "CENTER");
        for (double x : {25.0, 35.0, 52.0, 60.0}) t.line(x, 0, x, x < 40 ? 20 : 12, "HIDDEN");
        t.line(52, 12, 60, 12, "HIDDEN").circle(30, 90, 5).circle(56, 90, 4, "HIDDEN");
        t.dimension(0, 60, 56, 90, 0, 50, 0);
    });
    REQUIRE(d.model().ledger.entries.size() == 1);
    REQUIRE(set(d, d.model().ledger.entries[0].name, 59));
    const Figure& f = d.model().figure;
    bool seen = false;
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const Curve c = f.curve(static_cast<int>(i));
        const auto* a = std::get_if<Arc>(&c);
        if (!a || a->centre.x < 50) continue;
        CHECK(a->radius == Approx(4).margin(1e-6));
        CHECK(a->centre.x == Approx(59).margin(1e-6));
        seen = true;
    }
    CHECK(seen);
}
