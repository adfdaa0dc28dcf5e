#include "support/bracket.h"
#include "support/samples.h"

#include "core/project/propose_for.h"

#include <fstream>

// Sheets whose lines are all drawn alike, and the little marks of conversion.
using namespace prism;
using namespace prism::test;

namespace {

std::map<std::string, int> kinds(const CleanSheet& s) {
    std::map<std::string, int> n;
    for (const Repair& r : s.repairs) n[r.kind] += r.on;
    return n;
}

/// A block 60 x 40 x 30 with a hole of 16 through from above, third angle; its hidden lines as `hidden`, and
/// centre lines as `centre`; the second side of the hole may be drawn as something else.
DxfText drilledBlock(const std::string& hidden, const std::string& centre, std::string second = "") {
    if (second.empty()) second = hidden;
    DxfText t;
    if (hidden != "0" || centre != "0") t.layer("HIDDEN", "HIDDEN").layer("CENTRE", "CENTER");
    t.entities();
    t.box(0, 0, 60, 30, "0").box(0, 60, 60, 100, "0").circle(30, 80, 8, "0");
    t.line(22, 0, 22, 30, hidden).line(38, 0, 38, 30, second);
    t.line(18, 80, 42, 80, centre).line(30, 68, 30, 92, centre).line(30, -4, 30, 34, centre);
    t.text(0, -20, "THIRD ANGLE PROJECTION");
    return t;
}

Document openedText(const std::string& name, const std::string& dxf) {
    const std::string path = temporary(name);
    std::ofstream(path) << dxf;
    return opened(path);
}

constexpr double kBlock = 60.0 * 40 * 30 - kPi * 64 * 30;

} // namespace

TEST_CASE("where all lines are drawn alike, those that run out beyond what they halve are centre lines") {
    const Drawing d = drawn(drilledBlock("0", "0").done());
    const CleanSheet s = clean(d, {});
    CHECK(kinds(s)["centre_recognised"] == 3);
    CHECK(kinds(s).size() == 1);
    for (int e : {11, 12, 13}) CHECK(s.entity_roles[e] == LineRole::centre);
    CHECK(s.entity_roles[9] == LineRole::outline); // a hole's side ends on the outline
    RepairChoices off;
    off.kinds["centre_recognised"] = false;
    CHECK(clean(d, {}, off).entity_roles[11] == LineRole::outline);
}

TEST_CASE("no line is taken for a centre line where the sheet has some, or where every line runs out") {
    CHECK(kinds(clean(drawn(drilledBlock("HIDDEN", "CENTRE").done()), {}))["centre_recognised"] == 0);
    DxfText grid; // every line runs out by 2 at both ends
    grid.entities();
    for (int i = 0; i < 5; ++i) grid.line(-2, 10 * i, 42, 10 * i, "0").line(10 * i, -2, 10 * i, 42, "0");
    CHECK(kinds(clean(drawn(grid.done()), {}))["centre_recognised"] == 0);
    DxfText uneven; // runs out on both sides, but halves nothing and not by the same length
    uneven.entities().box(0, 0, 40, 30, "0").line(-3, 11, 47, 11, "0");
    CHECK(kinds(clean(drawn(uneven.done()), {}))["centre_recognised"] == 0);
    DxfText even;
    even.entities().box(0, 0, 40, 30, "0").line(-3, 11, 43, 11, "0");
    CHECK(kinds(clean(drawn(even.done()), {}))["centre_recognised"] == 1);
}

TEST_CASE("a sheet with all lines alike gives the solid whose edges it shows, and the proof says so") {
    NoProgress quiet;
    Document d = openedText("alike.dxf", drilledBlock("0", "0").done());
    CHECK_FALSE(d.model().figure.drawsHidden());
    const auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    CHECK(p->clean);
    Choices c = d.choices();
    c.steps = p->steps;
    REQUIRE(d.apply("Build", c, quiet));
    CHECK(d.model().build.measure.volume == Approx(kBlock).epsilon(1e-9));
    REQUIRE(d.model().proof);
    CHECK(d.model().proof->kinds == LineKinds::alike);
    CHECK(inWords(*d.model().proof).find("which are hidden was not compared") != std::string::npos);
}

TEST_CASE("where hidden lines are told, they are compared as such") {
    NoProgress quiet;
    Document d = openedText("told.dxf", drilledBlock("HIDDEN", "CENTRE").done());
    CHECK(d.model().figure.drawsHidden());
    const auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    Choices c = d.choices();
    c.steps = p->steps;
    REQUIRE(d.apply("Build", c, quiet));
    CHECK(d.model().build.measure.volume == Approx(kBlock).epsilon(1e-9));
    CHECK(d.model().proof->kinds == LineKinds::told);
    CHECK(inWords(*d.model().proof) == "the solid shows every line of the sheet");
    // The same block with one hidden side drawn visible is not proved by calling all lines alike.
    Document wrong = openedText("told-wrong.dxf", drilledBlock("HIDDEN", "CENTRE", "0").done());
    Choices same = wrong.choices();
    same.steps = p->steps;
    REQUIRE(wrong.apply("Build", same, quiet));
    CHECK_FALSE(wrong.model().proof->clean());
}

TEST_CASE("where it counts for nothing which lines are hidden, a wrong one does not keep the solid from "
          "being found") {
    NoProgress quiet;
    for (const char* side : {"HIDDEN", "0"}) {
        const Document d = openedText("wrong-kind.dxf", drilledBlock("HIDDEN", "CENTRE", side).done());
        Work work(1000);
        const auto p = proposeFor(d.model(), {Effort::exact, LineKinds::alike, {}, {}}, work, quiet);
        REQUIRE(p);
        CHECK(p->clean);
        CHECK(p->build.measure.volume == Approx(kBlock).epsilon(1e-9));
    }
    // Two corners cut off by an oblique plane, which lines that only an edge makes must show.
    const Document chock = opened(demo("deck-chock.dxf"));
    Work work(4000), more(4000);
    const auto told = proposeFor(chock.model(), {Effort::exact, LineKinds::told, {}, {}}, work, quiet);
    const auto alike = proposeFor(chock.model(), {Effort::exact, LineKinds::alike, {}, {}}, more, quiet);
    REQUIRE(told);
    REQUIRE(alike);
    CHECK(alike->clean);
    CHECK(alike->build.measure.volume == Approx(told->build.measure.volume).epsilon(1e-9));
}

TEST_CASE("specks are set aside, short lines of the outline and dots of dashes are not") {
    DxfText t;
    t.entities().box(0, 0, 60, 40);
    t.line(20, 20, 20.1, 20.15).line(33, 9, 33.2, 9); // strokes that touch nothing
    t.circle(41, 22, 0.03);                           // a dot
    t.circle(15, 30, 0.5);                            // a small hole
    t.line(60, 20, 60.2, 20).line(60.2, 20, 60.2, 20.2).line(60.2, 20.2, 60, 20.2); // a tiny step on the side
    const CleanSheet s = clean(drawn(t.done()), {});
    CHECK(kinds(s)["speck"] == 3);
    for (int e : {4, 5, 6}) CHECK_FALSE(s.in_use[e]);
    for (int e : {7, 8, 9, 10}) CHECK(s.in_use[e]);
}

TEST_CASE("what is proposed for any clean sheet can be built and is valid, understood or not", "[slow]") {
    NoProgress quiet;
    for (const Sample& s : samples()) {
        if (!s.clean()) continue;
        INFO(s.name);
        Document d = opened(s.path);
        const auto p = proposeFor(d.model(), quiet);
        REQUIRE(p);
        Choices c = d.choices();
        c.steps = p->steps;
        REQUIRE(d.apply("Build", c, quiet));
        CHECK(d.model().build.ok());
    }
}
