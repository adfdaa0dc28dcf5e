#include "core/project/propose_for.h"
#include "core/project/solved_sheet.h"
#include "core/proofing/proof.h"
#include "support/samples.h"

#include <catch2/catch.hpp>
#include <fstream>
#include <random>

using namespace prism;
using namespace prism::test;

namespace {

/// A block with a blind hole from the top, shown broken out in the front view, and a through hole behind
/// hidden lines; with top and side view.
struct Block {
    double length = 120, width = 50, height = 40;
    double x = 30, y = 20, radius = 10, floor = 15; ///< the blind hole
    double bolt_x = 90, bolt_y = 25, bolt_radius = 8;
    std::string freehand = "OUTLINE"; ///< layer of the line round what is broken out
    bool hole_hatched = false;        ///< the hatching lies in the hole, where there is air

    double volume() const {
        return length * width * height - kPi * radius * radius * (height - floor) -
               kPi * bolt_radius * bolt_radius * height;
    }
};

/// The freehand line from the top edge round the hole and back, wavering.
std::vector<Vec2> freehand(const Block& b) {
    const double below = 0.5 * b.floor, out = b.radius + 5;
    const Vec2 c{b.x, b.height};
    std::vector<Vec2> r;
    constexpr int n = 24;
    for (int i = 0; i <= n; ++i) {
        const double a = kPi + kPi * i / n, waver = i % 4 < 2 ? 0.97 : 1.03;
        const double k = i == 0 || i == n ? 1 : waver;
        const auto squarer = [](double x) { return std::copysign(std::pow(std::abs(x), 0.35), x); };
        r.push_back(
            {c.x + k * out * squarer(std::cos(a)), c.y + k * (b.height - below) * squarer(std::sin(a))});
    }
    return r;
}

std::string sheet(const Block& b) {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").layer("DIMENSION", "CONTINUOUS", 4).layer("HATCHING");
    const double h = b.height, top = h + 40, side = b.length + 60;
    t.entities().box(0, 0, b.length, h);
    for (double s : {-1.0, 1.0}) {
        t.line(b.x + s * b.radius, b.floor, b.x + s * b.radius, h);
        t.line(b.bolt_x + s * b.bolt_radius, 0, b.bolt_x + s * b.bolt_radius, h, "HIDDEN");
        t.line(side + b.y + s * b.radius, b.floor, side + b.y + s * b.radius, h, "HIDDEN");
        t.line(side + b.bolt_y + s * b.bolt_radius, 0, side + b.bolt_y + s * b.bolt_radius, h, "HIDDEN");
    }
    t.line(b.x - b.radius, b.floor, b.x + b.radius, b.floor);
    t.line(side + b.y - b.radius, b.floor, side + b.y + b.radius, b.floor, "HIDDEN");
    t.box(side, 0, side + b.width, h).box(0, top, b.length, top + b.width);
    t.circle(b.x, top + b.y, b.radius).circle(b.bolt_x, top + b.bolt_y, b.bolt_radius);
    const std::vector<Vec2> edge = freehand(b);
    t.group(0, "LWPOLYLINE").group(8, b.freehand).group(90, std::to_string(edge.size())).group(70, "0");
    for (Vec2 p : edge) t.group(10, p.x).group(20, p.y);
    std::vector<Vec2> border = edge;
    const double lo = b.x - b.radius, hi = b.x + b.radius;
    for (Vec2 p : {Vec2{hi, h}, {hi, b.floor}, {lo, b.floor}, {lo, h}}) border.push_back(p);
    if (b.hole_hatched) border = {{lo, b.floor}, {hi, b.floor}, {hi, h}, {lo, h}};
    t.group(0, "HATCH").group(8, "HATCHING").group(10, 0.0).group(20, 0.0).group(30, 0.0).group(2, "LINES");
    t.group(70, "0").group(71, "0").group(91, "1");
    t.group(92, "2").group(72, "0").group(73, "1").group(93, std::to_string(border.size()));
    for (Vec2 p : border) t.group(10, p.x).group(20, p.y);
    t.group(97, "0").group(75, "0").group(76, "1").group(52, 45.0).group(41, 1.0).group(77, "0");
    t.group(78, "0").group(98, "0");
    t.text(side, top, "THIRD ANGLE PROJECTION");
    t.dimension(0, top, b.x, top + b.y, -15, top + 5, 90).dimension(0, top, b.length, top, 5, top - 12, 0);
    t.dimension(0, 0, 0, h, -15, 5, 90).dimension(0, top, b.x, top + b.y, 5, top + b.width + 12, 0);
    return t.done();
}

Document document(const Block& b) {
    const std::string path = temporary("broken-out.dxf");
    std::ofstream(path) << sheet(b);
    return opened(path);
}

/// The block as proposed from the sheet.
Document proposed(Document d) {
    NoProgress quiet;
    const auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    Choices c = d.choices();
    c.steps = p->steps;
    REQUIRE(d.apply("Propose", c, quiet));
    REQUIRE(d.model().build.ok());
    REQUIRE(d.model().proof);
    return d;
}

const ViewProof& front(const Model& m) {
    for (const ViewProof& v : m.proof->views)
        if (v.name.role == Role::front) return v;
    FAIL("there is no front view");
    return m.proof->views.front();
}

} // namespace

TEST_CASE("what is broken out of a view is compared behind the plane that agrees") {
    const Document d = proposed(opened(demo("hinge-block.dxf")));
    // The line round what is broken out is the only freehand one, and is shown as such.
    const SolvedSheet shown = solvedSheet(d.model());
    REQUIRE(shown.freehand.size() == 1);
    for (const Curve& c : shown.curves[static_cast<size_t>(*shown.freehand.begin())])
        CHECK_FALSE(std::holds_alternative<Arc>(c));
    CHECK(shown.hatching.size() == 1);
    const Model& m = d.model();
    REQUIRE(m.figure.local_cuts.size() == 1);
    CHECK(m.figure.local_cuts[0].areas.size() == 2);
    CHECK(std::ranges::count(m.figure.curves, true, &FigureCurve::freehand) == 1);
    CHECK(m.proof->proved());
    CHECK(m.build.measure.volume == Approx(120 * 50 * 40 - kPi * 100 * 25 - kPi * 64 * 40).epsilon(1e-9));
    const ViewProof& v = front(m);
    CHECK(v.broken_out == std::vector<double>{20});
    CHECK(v.areas == 2);
    CHECK(v.matched == 9); // the outline, the hole's three lines, the two hidden ones; not the freehand line
    for (const Finding& f : m.findings) CHECK(f.severity == Severity::note);
    // It is hatched on the sheet as it is driven, the hole left out.
    const SolvedSheet s = solvedSheet(m);
    REQUIRE(s.hatching.contains(v.view));
    for (const Segment& l : s.hatching.at(v.view)) {
        const Vec2 at = m.figure.viewById(v.view)->to_model(pointAt(l, 0.5));
        CHECK_FALSE((at.x > 20 && at.x < 40 && at.y > 15));
    }
}

TEST_CASE("random blocks that are broken open are proposed exactly and proved", "[slow]") {
    std::mt19937 random(20);
    const auto between = [&](int lo, int hi) { return std::uniform_int_distribution(lo, hi)(random) + 0.25; };
    for (int i = 0; i < 8; ++i) {
        Block b;
        b.length = between(100, 140), b.width = between(44, 70), b.height = between(25, 50);
        b.radius = between(4, 9), b.x = between(20, 34), b.floor = between(8, 16);
        b.y = between(12, static_cast<int>(b.width) - 12);
        b.bolt_radius = between(3, 8), b.bolt_x = between(70, 85), b.bolt_y = between(12, 30);
        b.freehand = i % 2 ? "DIMENSION" : "OUTLINE"; // thin lines often lie together
        INFO(i << ": " << b.length << " x " << b.width << " x " << b.height << ", hole at " << b.x << ' '
               << b.y);
        const Document d = proposed(document(b));
        CHECK(d.model().build.measure.volume == Approx(b.volume()).epsilon(1e-7));
        INFO(inWords(*d.model().proof));
        CHECK(d.model().proof->proved());
        CHECK(front(d.model()).broken_out.size() == 1);
    }
}

TEST_CASE("hatching in the hole instead of round it is told, with its area") {
    NoProgress quiet;
    const std::vector<Step> steps = proposed(document({})).choices().steps;
    Block b;
    b.hole_hatched = true;
    Document d = document(b);
    Choices c = d.choices();
    c.steps = steps;
    REQUIRE(d.apply("Build", c, quiet));
    REQUIRE(d.model().proof);
    // Without hatching up to the freehand line nothing says that the hole is broken out.
    CHECK_FALSE(d.model().proof->proved());
}

TEST_CASE("the plane of what is broken out follows the hole that it goes through") {
    NoProgress quiet;
    Document d = proposed(document({}));
    const auto entry = std::ranges::find_if(d.model().ledger.entries, [](const LedgerEntry& e) {
        return e.state == EntryState::drives && std::abs(e.value - 20) < 1e-9;
    });
    REQUIRE(entry != d.model().ledger.entries.end());
    Choices c = d.choices();
    c.numbers[entry->name].value = 22.5;
    REQUIRE(d.apply("Drive", c, quiet));
    REQUIRE(d.model().proof);
    CHECK(d.model().proof->proved());
    REQUIRE(front(d.model()).broken_out.size() == 1);
    CHECK(front(d.model()).broken_out[0] == Approx(22.5));
}
