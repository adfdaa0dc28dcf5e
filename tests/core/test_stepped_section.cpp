#include "core/project/propose_for.h"
#include "core/proofing/proof.h"
#include "support/samples.h"

#include <catch2/catch.hpp>
#include <fstream>

using namespace prism;
using namespace prism::test;

namespace {

/// A plate of 100 x 60 x 40 with a blind hole of 16 and a through hole of 12 at different depths, in front
/// and top view, and the section A-A whose plane steps from one to the other.
struct Plate {
    double second = 40;      ///< Y of the through hole
    double leg = 40;         ///< Y of the second part of the plane
    bool one_by_one = false; ///< the cutting plane is drawn line by line
    double shift = 0;        ///< of the hatching's border between the holes
};

void hatch(DxfText& t, const std::vector<std::vector<Vec2>>& loops) {
    t.group(0, "HATCH").group(8, "HATCHING").group(10, 0.0).group(20, 0.0).group(30, 0.0).group(2, "LINES");
    t.group(70, "0").group(71, "0").group(91, std::to_string(loops.size()));
    for (const auto& l : loops) {
        t.group(92, "2").group(72, "0").group(73, "1").group(93, std::to_string(l.size()));
        for (Vec2 p : l) t.group(10, p.x).group(20, p.y);
        t.group(97, "0");
    }
    t.group(75, "0").group(76, "1").group(52, 45.0).group(41, 1.0).group(77, "0").group(78, "0").group(98,
                                                                                                       "0");
}

std::string sheet(const Plate& p) {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").layer("CENTRE", "CENTER").layer("HATCHING");
    t.entities().box(0, 0, 100, 40);
    for (double x : {17.0, 33.0}) t.line(x, 10, x, 40, "HIDDEN");
    t.line(17, 10, 33, 10, "HIDDEN");
    for (double x : {64.0, 76.0}) t.line(x, 0, x, 40, "HIDDEN");
    const double top = 80;
    t.box(0, top, 100, top + 60).circle(25, top + 20, 8).circle(70, top + p.second, 6);
    // The plane, from below the one hole to below the other, and its arrows.
    const std::vector<Vec2> plane{{-10, top + 20}, {45, top + 20}, {45, top + p.leg}, {110, top + p.leg}};
    if (p.one_by_one)
        for (size_t i = 1; i < plane.size(); ++i)
            t.line(plane[i - 1].x, plane[i - 1].y, plane[i].x, plane[i].y, "CENTRE");
    else {
        t.group(0, "LWPOLYLINE").group(8, "CENTRE").group(90, "4").group(70, "0");
        for (Vec2 q : plane) t.group(10, q.x).group(20, q.y);
    }
    for (Vec2 end : {plane.front(), plane.back()}) {
        t.line(end.x, end.y, end.x, end.y + 8, "CENTRE"); // looks away from the viewer of the front view
        t.line(end.x, end.y + 8, end.x - 1, end.y + 5, "CENTRE")
            .line(end.x, end.y + 8, end.x + 1, end.y + 5, "CENTRE");
        t.text(end.x + (end.x < 0 ? -6 : 3), end.y + 1, "A");
    }
    const double x = 160;
    t.box(x, 0, x + 100, 40).line(x + 17, 10, x + 17, 40).line(x + 33, 10, x + 33, 40);
    t.line(x + 17, 10, x + 33, 10).line(x + 64, 0, x + 64, 40).line(x + 76, 0, x + 76, 40);
    hatch(t, {{{x, 0},
               {x + 64 + p.shift, 0},
               {x + 64 + p.shift, 40},
               {x + 33, 40},
               {x + 33, 10},
               {x + 17, 10},
               {x + 17, 40},
               {x, 40}},
              {{x + 76, 0}, {x + 100, 0}, {x + 100, 40}, {x + 76, 40}}});
    t.text(x + 40, -12, "A-A").text(x, 100, "THIRD ANGLE PROJECTION");
    t.dimension(0, top, 70, top + p.second, 125, top + 10, 90);
    return t.done();
}

Document document(const Plate& p) {
    const std::string path = temporary("stepped.dxf");
    std::ofstream(path) << sheet(p);
    return opened(path);
}

/// The steps of the plate itself.
std::vector<Step> steps() {
    NoProgress quiet;
    const auto p = proposeFor(document({}).model(), quiet);
    REQUIRE(p);
    return p->steps;
}

/// The proof of the plate against a sheet.
Proof proved(Document& d) {
    NoProgress quiet;
    Choices c = d.choices();
    c.steps = steps();
    REQUIRE(d.apply("Build", c, quiet));
    REQUIRE(d.model().build.ok());
    REQUIRE(d.model().proof);
    return *d.model().proof;
}

const double kVolume = 100 * 60 * 40 - kPi * 64 * 30 - kPi * 36 * 40;

} // namespace

TEST_CASE("a stepped section is cut part by part, and proves the solid") {
    for (bool one_by_one : {false, true}) {
        INFO(one_by_one);
        Plate plate;
        plate.one_by_one = one_by_one;
        Document d = document(plate);
        const auto& views = d.model().views.views;
        const auto section = std::ranges::find(views, Role::section, &View::role);
        REQUIRE(section != views.end());
        REQUIRE(section->hanging);
        REQUIRE(section->hanging->legs.size() == 2);
        CHECK(section->hanging->legs[0].a.y == Approx(20));
        CHECK(section->hanging->legs[1].a.y == Approx(40));
        CHECK(section->hanging->legs[1].a.x == Approx(45));
        const Proof p = proved(d);
        CHECK(d.model().build.measure.volume == Approx(kVolume).epsilon(1e-9));
        INFO(inWords(p));
        CHECK(p.proved());
        const FigureView* v = d.model().figure.viewById(section->id);
        REQUIRE(v);
        const Cut cut = cutOf(d.model().figure, *v);
        REQUIRE(cut.parts.size() == 2);
        CHECK(cut.parts[0].depth == Approx(20));
        CHECK(cut.parts[1].depth == Approx(40));
        CHECK(cut.parts[0].to == Approx(45));
        CHECK(cutAt(d.model().figure, *v, {10, 5}) == Approx(20));
        CHECK(cutAt(d.model().figure, *v, {80, 5}) == Approx(40));
        for (const ViewProof& w : p.views)
            if (w.name.role == Role::section) CHECK(w.areas == 4); // two of them hatched
    }
}

TEST_CASE("a plane that steps past a hole shows no hole") {
    Plate plate;
    plate.leg = 48; // beside the hole, which ends at 46
    Document d = document(plate);
    const Proof p = proved(d);
    CHECK_FALSE(p.clean());
    for (const ViewProof& v : p.views)
        if (v.name.role == Role::section) {
            CHECK(v.missing == 2); // both sides of the hole
            REQUIRE(v.areas_off.size() == 1);
            CHECK(v.areas_off[0].area == Approx(12 * 40));
            CHECK_FALSE(v.areas_off[0].hatched);
        } else
            CHECK(v.missing + v.extra == 0);
}

TEST_CASE("a stepped plane follows the hole that it is laid through") {
    NoProgress quiet;
    Document d = document({});
    Choices c = d.choices();
    c.steps = steps();
    REQUIRE(d.apply("Build", c, quiet));
    const Ledger& l = d.model().ledger;
    REQUIRE(l.entries.size() == 1);
    REQUIRE(l.entries[0].value == Approx(40));
    c.numbers[l.entries[0].name].value = 37.5;
    REQUIRE(d.apply("Drive", c, quiet));
    REQUIRE(d.model().proof);
    INFO(inWords(*d.model().proof));
    CHECK(d.model().proof->proved());
    const auto* v = d.model().figure.viewNamed({Role::section, "A"});
    REQUIRE(v);
    CHECK(cutOf(d.model().figure, *v).parts[1].depth == Approx(37.5));
    CHECK(cutOf(d.model().figure, *v).parts[0].depth == Approx(20));
}
