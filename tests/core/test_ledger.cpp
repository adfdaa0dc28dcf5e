#include "core/project/solved_sheet.h"
#include "support/samples.h"

#include <fmt/format.h>
#include <fstream>

// What a driven number moves, which of its ends, and which values are refused with what words.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress g_quiet;

/// Front and top view of a stepped block, third angle: 80 x 50 x 30, with a step at x = 50 down to z = 12.
/// The front view's lower left corner is at (0, 0), the top view's at (0, 60).
DxfText stepped(int unit = 4) {
    DxfText t(unit);
    t.entities();
    t.line(0, 0, 80, 0).line(80, 0, 80, 12).line(80, 12, 50, 12).line(50, 12, 50, 30);
    t.line(50, 30, 0, 30).line(0, 30, 0, 0);
    t.box(0, 60, 80, 110).line(50, 60, 50, 110).circle(25, 85, 8);
    t.text(0, -60, "THIRD ANGLE PROJECTION");
    return t;
}

DxfText& special(DxfText& t, int type, Vec2 p10, Vec2 p13, Vec2 p14, const std::string& words = "") {
    t.group(0, "DIMENSION").group(8, "OUTLINE").group(70, type).group(10, p10.x).group(20, p10.y);
    t.group(13, p13.x).group(23, p13.y).group(14, p14.x).group(24, p14.y);
    if (!words.empty()) t.group(1, words);
    return t;
}

Document from(const DxfText& t) {
    const std::string path = temporary("ledger.dxf");
    std::ofstream(path) << t.done();
    return opened(path);
}

/// Where the lower and the higher end of a linear number now are.
std::pair<double, double> ends(const Document& d, const std::string& name) {
    const Figure& f = d.model().figure;
    const LedgerEntry* e = d.model().ledger.named(name);
    REQUIRE(e);
    return {f.value(e->low, f.now), f.value(e->high, f.now)};
}

std::string refused(Document& d, const NumberChoices& numbers) {
    Choices c = d.choices();
    c.numbers = numbers;
    const auto r = d.apply("Drive", c, g_quiet);
    return r ? "" : r.error().message;
}

NumberChoice valued(double v, MovingSide side = MovingSide::either) {
    NumberChoice c;
    c.value = v, c.moving_side = side;
    return c;
}

NumberChoice formula(const std::string& f) {
    NumberChoice c;
    c.formula = f;
    return c;
}

} // namespace

TEST_CASE("a number moves the end it is told to move, and the other stays, whichever was picked first") {
    for (const bool swapped : {false, true}) {
        DxfText t = stepped();
        swapped ? t.dimension(80, 0, 50, 12, 0, -12, 0) : t.dimension(50, 12, 80, 0, 0, -12, 0);
        Document d = from(t);
        REQUIRE(d.model().ledger.entries.size() == 1);
        CHECK(ends(d, "x1").first == Approx(50));
        // "First" and "second" are the lower and the higher end along the axis.
        REQUIRE(refused(d, {{"x1", valued(36, MovingSide::second)}}).empty());
        CHECK(ends(d, "x1").first == Approx(50));
        CHECK(ends(d, "x1").second == Approx(86));
        REQUIRE(refused(d, {{"x1", valued(36, MovingSide::first)}}).empty());
        CHECK(ends(d, "x1").first == Approx(44));
        CHECK(ends(d, "x1").second == Approx(80));
        REQUIRE(refused(d, {{"x1", valued(24, MovingSide::first)}}).empty());
        CHECK(ends(d, "x1").first == Approx(56));
        CHECK(ends(d, "x1").second == Approx(80));
    }
}

TEST_CASE("the overall length moves the end that is told, also the one that is held at the datum otherwise") {
    DxfText t = stepped();
    t.dimension(0, 0, 80, 0, 0, -12, 0);
    Document d = from(t);
    REQUIRE(refused(d, {{"x1", valued(90)}}).empty());
    CHECK(ends(d, "x1").first == Approx(0).margin(1e-9)); // the datum stays
    CHECK(ends(d, "x1").second == Approx(90));
    REQUIRE(refused(d, {{"x1", valued(90, MovingSide::first)}}).empty());
    CHECK(ends(d, "x1").first == Approx(-10));
    CHECK(ends(d, "x1").second == Approx(80));
}

TEST_CASE("ordinate, aligned and skew dimensions measure what their points lie on") {
    DxfText t = stepped();
    // Ordinates count from the corner: type 6, with 64 along x.
    special(t, 6 + 64, {0, 0}, {50, 12}, {50, 40});
    special(t, 6, {0, 0}, {50, 12}, {-20, 12});
    // Aligned along a level line far from the origin, and from corner to corner.
    special(t, 1, {80, 120}, {50, 110}, {80, 110});
    special(t, 1, {60, 25}, {50, 12}, {80, 0});
    Document d = from(t);
    const auto& entries = d.model().ledger.entries;
    REQUIRE(entries.size() == 4);
    CHECK(entries[0].name == "x1");
    CHECK(entries[0].value == Approx(50));
    CHECK(entries[1].name == "z1");
    CHECK(entries[1].value == Approx(12));
    CHECK(entries[2].name == "x2");
    CHECK(entries[2].along_axis);
    CHECK(entries[2].value == Approx(30));
    CHECK(ends(d, "x2").first == Approx(50));
    CHECK(entries[3].name == "length1");
    CHECK(entries[3].value == Approx(std::hypot(30, 12)));
    for (const char* name : {"x1", "z1", "x2"})
        CHECK(d.model().ledger.named(name)->state == EntryState::drives);
    CHECK(entries[3].state == EntryState::reports); // its legs are what the others measure
    REQUIRE(refused(d, {{"x1", valued(44)}}).empty());
    CHECK(ends(d, "x1").second == Approx(44));
    REQUIRE(refused(d, {{"z1", valued(15)}}).empty());
    CHECK(ends(d, "z1").second == Approx(15));
}

TEST_CASE("a dimension beside the view's lines is loose and cannot drive, with the reason") {
    DxfText t = stepped();
    t.dimension(3, 0, 80, 0, 0, -12, 0);
    special(t, 1, {60, 25}, {51, 14}, {80, 0});
    Document d = from(t);
    for (const LedgerEntry& e : d.model().ledger.entries) CHECK(e.state == EntryState::loose);
    CHECK(d.model().ledger.entries[0].why.find("meets no line") != std::string::npos);
    CHECK(d.model().ledger.entries[1].why.find("no corner or centre") != std::string::npos);
    CHECK(refused(d, {{"x1", valued(70)}}).find("x1 is loose") != std::string::npos);
    CHECK(refused(d, {{"x9", valued(70)}}).find("no number named x9") != std::string::npos);
}

TEST_CASE(
    "values that turn lines round, make them vanish or take an arc's radius are refused with the place") {
    DxfText t = stepped();
    t.dimension(0, 0, 50, 30, 0, -12, 0).dimension(0, 0, 80, 0, 0, -20, 0);
    t.dimension(80, 0, 80, 12, 95, 0, 90);
    t.group(0, "DIMENSION").group(8, "OUTLINE").group(70, 3).group(10, 17.0).group(20, 85.0);
    t.group(15, 33.0).group(25, 85.0);
    Document d = from(t);
    REQUIRE(d.model().ledger.entries.size() == 4);
    CHECK(refused(d, {{"x1", valued(50)}}).empty());
    CHECK(refused(d, {{"x1", valued(79)}}).empty());
    const std::string round = refused(d, {{"x1", valued(85)}});
    CHECK(round.find("turn round the line") != std::string::npos);
    CHECK(round.find("Nothing was changed") != std::string::npos);
    CHECK(refused(d, {{"x1", valued(80)}}).find("shrink to nothing the line") != std::string::npos);
    CHECK(refused(d, {{"z1", valued(31)}}).find("turn round the line") != std::string::npos);
    CHECK(refused(d, {{"dia1", valued(1e-5)}}).find("leave no radius") != std::string::npos);
    CHECK(refused(d, {{"x1", valued(0)}}).find("x1 must be greater than zero") != std::string::npos);
    CHECK(refused(d, {{"x1", valued(-4)}}).find("greater than zero") != std::string::npos);
    CHECK(ends(d, "x1").second == Approx(79)); // as it was before the refusals
}

TEST_CASE("formulas follow each other in whatever order they are given, and a circle of them is refused") {
    DxfText t = stepped();
    t.dimension(0, 0, 50, 30, 0, -12, 0).dimension(0, 0, 80, 0, 0, -20, 0);  // x1 50, x2 80
    t.dimension(80, 0, 80, 12, 95, 0, 90).dimension(0, 0, 0, 30, -9, 0, 90); // z1 12, z2 30
    Document d = from(t);
    REQUIRE(refused(d, {{"x1", formula("z1 * 3")}, {"z1", formula("z2 / 2")}, {"z2", valued(32)}}).empty());
    CHECK(ends(d, "z2").second == Approx(32));
    CHECK(ends(d, "z1").second == Approx(16));
    CHECK(ends(d, "x1").second == Approx(48));
    CHECK(refused(d, {{"x1", formula("x2 - 30")}, {"x2", formula("x1 + 30")}}).find("in a circle") !=
          std::string::npos);
    CHECK(refused(d, {{"x1", formula("x2 - nothing")}}).find("x1:") == 0);
    CHECK(ends(d, "x1").second == Approx(48));
}

TEST_CASE("numbers that cannot hold together are named, and nothing is changed") {
    DxfText t = stepped();
    t.dimension(0, 0, 50, 30, 0, -12, 0)
        .dimension(50, 12, 80, 0, 0, -12, 0)
        .dimension(0, 0, 80, 0, 0, -20, 0);
    Document d = from(t); // x1 50, x2 30, x3 80 which reports
    CHECK(d.model().ledger.named("x3")->state == EntryState::reports);
    const std::string why = refused(d, {{"x1", valued(52)}, {"x2", valued(31)}, {"x3", valued(90)}});
    for (const char* name : {"x1", "x2", "x3"}) CHECK(why.find(name) != std::string::npos);
    // A total alone fits neither part: a person says which of them gives way.
    CHECK(refused(d, {{"x3", valued(90)}}).find("cannot hold together") != std::string::npos);
    NumberChoice held;
    held.held = true;
    REQUIRE(refused(d, {{"x3", valued(90)}, {"x1", held}, {"x2", valued(40)}}).empty());
    CHECK(ends(d, "x3").second == Approx(90));
    CHECK(ends(d, "x1").second == Approx(50));
    CHECK(d.model().ledger.named("x1")->state == EntryState::held);
    CHECK(d.model().ledger.named("x3")->state == EntryState::drives);
}

TEST_CASE("on an inch sheet numbers are millimetres inside, with their tolerances") {
    DxfText t = stepped(1);
    t.dimension(0, 0, 80, 0, 0, -20, 0, "80 +.5 -.25");
    Document d = from(t);
    const LedgerEntry* e = d.model().ledger.named("x1");
    REQUIRE(e);
    CHECK(d.model().ledger.unit_mm == Approx(25.4));
    CHECK(e->value == Approx(80 * 25.4));
    CHECK(e->said == Approx(80 * 25.4));
    CHECK(e->plus == Approx(0.5 * 25.4));
    CHECK(e->minus == Approx(0.25 * 25.4)); // both are magnitudes
    CHECK(d.model().ledger.plainUnit("x1") == Approx(25.4));
    CHECK(valueOf(d.model().ledger, "x1 / 2 + 1").value() == Approx(41 * 25.4));
    CHECK(valueOf(d.model().ledger, "x1 + 10 mm").value() == Approx(80 * 25.4 + 10));
}

TEST_CASE("functions and units in formulas are the usual ones") {
    const std::map<std::string, double> v{{"x1", 40}, {"angle1", 30}};
    auto value = [&](const std::string& f) { return evaluateFormula(f, v, 1, {"angle1"}).value(); };
    CHECK(value("x1 * sin(angle1)") == Approx(20));
    CHECK(value("x1 * cos(60 deg)") == Approx(20));
    CHECK(value("x1 * tan(45)") == Approx(40));
    CHECK(value("atan(1)") == Approx(45));
    CHECK(value("2 cm + 1 in + x1") == Approx(85.4));
    CHECK(value("0.5 m - 1 ft") == Approx(500 - 304.8));
    CHECK(value("max(x1; 50)") == Approx(50));
    CHECK(value("min(x1, 50)") == Approx(40));
    CHECK(value("max(1,5; 2,5)") == Approx(2.5));
    CHECK(value("max(2,7)") == Approx(7)); // of a function that takes several numbers the comma parts them,
    CHECK(value("2 * min(8,3) + sqrt(2,25)") == Approx(7.5)); // of any other it is a decimal one
    CHECK(value("x1 - 2,5") == Approx(37.5));
    CHECK(value("sqrt(x1 + 9) * 2^2") == Approx(28));
    CHECK_FALSE(evaluateFormula("x1 / 0", v));
    CHECK_FALSE(evaluateFormula("x1, 5", v));
    CHECK_FALSE(evaluateFormula("x1 = 5", v));
    CHECK(evaluateFormula(fmt::format("{:>1000}", "x1"), v).value() == 40);
    CHECK_FALSE(evaluateFormula(fmt::format("{:>1001}", "x1"), v));
    CHECK(namesIn("x1 + max(z2; 3)") == std::vector<std::string>{"x1", "z2"});
}

TEST_CASE("a hole seen from the side is dimensioned to its centre, where that view has no line") {
    DxfText t = stepped();
    t.dimension(0, 30, 25, 30, 10, 44, 0);
    Document d = from(t);
    REQUIRE(d.model().ledger.entries.size() == 1);
    CHECK(d.model().ledger.entries[0].state == EntryState::drives);
    CHECK(ends(d, "x1").second == Approx(25));
    REQUIRE(refused(d, {{"x1", valued(28)}}).empty());
    const Figure& f = d.model().figure;
    for (const FigureCurve& c : f.curves)
        if (c.radius >= 0) CHECK(f.at(f.points[c.centre], f.now).x == Approx(28));
}

TEST_CASE("the dimension of a radius ends on its arc, wherever that goes") {
    DxfText t = stepped();
    t.group(0, "DIMENSION").group(8, "OUTLINE").group(70, 4);
    t.group(10, 25.0).group(20, 85.0).group(15, 33.0).group(25, 85.0).group(11, 50.0).group(21, 90.0);
    t.dimension(0, 110, 80, 110, 40, 124, 0);
    Document d = from(t);
    REQUIRE(d.model().ledger.named("radius1"));
    REQUIRE(refused(d, {{"radius1", valued(10)}}).empty());
    const SolvedSheet now = solvedSheet(d.model());
    const Dimension& dim = now.dimensions[d.model().ledger.named("radius1")->dimension];
    CHECK(distance(dim.p10, {25, 85}) == Approx(0).margin(1e-9));
    CHECK(distance(dim.p15, {25, 85}) == Approx(10));
}
