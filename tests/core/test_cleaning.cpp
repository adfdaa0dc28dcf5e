#include "support/samples.h"

#include <random>

#include "core/cleaning/clean_sheet.h"

using namespace prism;
using namespace prism::test;

namespace {

int inUse(const CleanSheet& s) {
    return static_cast<int>(std::count(s.in_use.begin(), s.in_use.end(), true));
}

std::map<std::string, int> kinds(const CleanSheet& s) {
    std::map<std::string, int> n;
    for (const Repair& r : s.repairs) ++n[r.kind];
    return n;
}

} // namespace

TEST_CASE("a line drawn twice is used once, in either direction") {
    const Drawing d = drawn(
        DxfText().entities().line(0, 0, 50, 0).line(0, 0, 50, 0).line(50, 0, 0, 0).line(0, 5, 50, 5).done());
    const CleanSheet s = clean(d, {});
    CHECK(inUse(s) == 2);
    CHECK(kinds(s)["duplicate"] == 2);
}

TEST_CASE("a line within a longer one of the same kind is set aside") {
    const Drawing d =
        drawn(DxfText().entities().line(0, 0, 50, 0).line(10, 0, 20, 0).line(30, 0, 40, 0, "HIDDEN").done());
    const CleanSheet s = clean(d, {});
    CHECK(kinds(s)["contained"] == 1);
    CHECK_FALSE(s.in_use[1]);
    CHECK(s.in_use[2]); // a hidden line under a visible one is the drawing's business
}

TEST_CASE("circles and arcs drawn twice are found however their arcs are said") {
    const Drawing d = drawn(DxfText()
                                .entities()
                                .circle(5, 5, 3)
                                .circle(5, 5, 3)
                                .arc(0, 0, 7, 10, 80)
                                .arc(0, 0, 7, 10, 80)
                                .arc(0, 0, 7, 10, 81)
                                .done());
    const CleanSheet s = clean(d, {});
    CHECK(kinds(s)["duplicate"] == 1);
    CHECK(kinds(s)["contained"] == 2); // in the longest of the arcs
    CHECK(s.in_use[4]);
}

TEST_CASE("a clean drawing is left as it is") {
    const Drawing d = drawn(DxfText().entities().box(0, 0, 40, 30).circle(20, 15, 5).done());
    const CleanSheet s = clean(d, {});
    CHECK(s.repairs.empty());
    CHECK(inUse(s) == 5);
}

TEST_CASE("roles come from telling layer names, else from the line type") {
    DxfText t;
    t.layer("1", "HIDDEN").layer("Mittellinien").layer("RAHMEN");
    const Drawing d = drawn(t.entities()
                                .line(0, 0, 9, 0, "1")
                                .line(0, 1, 9, 1, "Mittellinien")
                                .line(0, 2, 9, 2, "RAHMEN")
                                .line(0, 3, 9, 3)
                                .done());
    const CleanSheet s = clean(d, {});
    CHECK(s.entity_roles[0] == LineRole::hidden);
    CHECK(s.entity_roles[1] == LineRole::centre);
    CHECK(s.entity_roles[2] == LineRole::border);
    CHECK(s.entity_roles[3] == LineRole::outline);
}

TEST_CASE("a person's word on a layer wins over its name") {
    const Drawing d = drawn(DxfText().entities().line(0, 0, 9, 0, "HIDDEN").done());
    LayerChoices c;
    c.role["HIDDEN"] = LineRole::outline;
    c.on["HIDDEN"] = false;
    const CleanSheet s = clean(d, c);
    CHECK(s.entity_roles[0] == LineRole::outline);
    CHECK_FALSE(s.in_use[0]);
}

TEST_CASE("far from the origin, tolerances grow with the digits that are lost") {
    const Tolerances near = Tolerances::forSheet(100, 100), far = Tolerances::forSheet(100, 1e9);
    CHECK(far.same_sheet > near.same_sheet);
    CHECK(far.touch_sheet > near.touch_sheet);
}

TEST_CASE(
    "a line type tells its role by its dashes: one length hidden, a dot centre, two dots construction") {
    const auto role = [](const char* name, std::vector<double> pattern) {
        DxfText t;
        t.layer("1", "CONTINUOUS");
        Drawing d = drawn(t.entities().line(0, 0, 50, 0, "1").done());
        d.line_types.push_back({name, "", std::move(pattern)});
        d.layers[static_cast<size_t>(d.entities[0].layer)].line_type = name;
        return clean(d, {}).entity_roles[0];
    };
    CHECK(role("L1", {}) == LineRole::outline);
    CHECK(role("L2", {3, -1.5}) == LineRole::hidden);
    CHECK(role("L3", {12, -1, 1, -1}) == LineRole::centre);
    CHECK(role("L4", {12, -1, 0, -1}) == LineRole::centre);
    CHECK(role("L5", {12, -1, 1, -1, 1, -1}) == LineRole::construction);
    CHECK(role("L6", {12, -1, 12, -1, 1, -1}) == LineRole::centre);
}

TEST_CASE("lines and circles drawn twice a hair apart are found wherever they lie, slanted ones too") {
    // The digits of a file leave a copy a little off: never may it depend on the place whether it is seen.
    std::mt19937 random(31);
    const auto in = [&](double lo, double hi) { return std::uniform_real_distribution(lo, hi)(random); };
    for (int round = 0; round < 300; ++round) {
        const Vec2 a{in(0, 300), in(0, 200)}, b = a + direction(in(0, 2 * kPi)) * in(20, 60);
        const auto near = [&](Vec2 p) { return p + Vec2{in(-1e-4, 1e-4), in(-1e-4, 1e-4)}; };
        const Vec2 c = near(b), d = near(a), e{in(0, 300), in(0, 200)}, f = near(e);
        DxfText t;
        t.entities()
            .line(a.x, a.y, b.x, b.y)
            .line(c.x, c.y, d.x, d.y)
            .circle(e.x, e.y, 7)
            .circle(f.x, f.y, 7);
        t.arc(e.x, e.y, 12, 359.99999, 80).arc(f.x, f.y, 12, 0.00001, 80);
        const CleanSheet s = clean(drawn(t.done()), {});
        CHECK((s.in_use[0] && !s.in_use[1]) != (s.in_use[1] && !s.in_use[0]));
        CHECK(s.in_use[2]);
        CHECK_FALSE(s.in_use[3]);
        CHECK(s.in_use[4] != s.in_use[5]);
    }
}

TEST_CASE("a line over the end of another of a different role hides neither, whatever lies between them") {
    DxfText t;
    t.layer("HIDDEN", "HIDDEN");
    t.entities().line(0, 0, 50, 0).line(10, 0, 60, 0, "HIDDEN").line(20, 0, 40, 0).line(70, 0, 90, 0);
    const CleanSheet s = clean(drawn(t.done()), {});
    CHECK(s.in_use[0]);
    CHECK(s.in_use[1]);
    CHECK_FALSE(s.in_use[2]);
    CHECK(s.in_use[3]);
}
