#include "core/project/project_file.h"
#include "core/project/solved_sheet.h"
#include "support/samples.h"

#include <catch2/catch.hpp>
#include <fstream>

// A circle drawn as a centre line carries the holes on it, and its dimension drives them.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

Document ring() {
    Document d = opened(demo("vent-ring.dxf"));
    const auto list = readBuildList(bytesOf(demo("vent-ring.steps.json")));
    REQUIRE(list);
    Choices c = d.choices();
    c.steps = list->steps;
    REQUIRE(d.apply("Build", c, quiet));
    return d;
}

} // namespace

TEST_CASE("the dimension of a pitch circle moves the holes along their own radii") {
    Document d = ring();
    REQUIRE(d.model().figure.pitch_circles.size() == 1);
    CHECK(d.model().figure.pitch_circles[0].drawn.radius == Approx(42.5));
    const LedgerEntry* e = d.model().ledger.named("dia3");
    REQUIRE(e);
    CHECK(e->state == EntryState::drives);
    const double volume = d.model().build.measure.volume;
    Choices c = d.choices();
    c.numbers["dia3"].value = 84;
    REQUIRE(d.apply("Smaller", c, quiet));
    const Figure& f = d.model().figure;
    int holes = 0;
    for (const FigureCurve& h : f.curves) {
        if (h.radius < 0 || std::abs(f.now[h.radius] - 4.5) > 1e-9) continue;
        const Vec2 at = f.at(f.points[h.centre], f.now) - Vec2{50, 50};
        CHECK(length(at) == Approx(42));
        CHECK(std::remainder(angleOf(at), kPi / 3) == Approx(0).margin(1e-6));
        ++holes;
    }
    CHECK(holes == 6);
    CHECK(d.model().build.measure.volume == Approx(volume));
    CHECK(d.model().proof->proved());

    // On the sheet as it now stands the circle has gone along, and its dimension with it.
    const SolvedSheet now = solvedSheet(d.model());
    const PitchCircle& p = f.pitch_circles[0];
    CHECK(std::get<Arc>(now.curves[p.entity][p.index]).radius == Approx(42));
    const Dimension& dim = now.dimensions[d.model().ledger.named("dia3")->dimension];
    CHECK(distance(dim.p10, dim.p15) == Approx(84));
}

TEST_CASE("a centre line round a single hole is no pitch circle") {
    DxfText t;
    t.layer("CENTRE", "CENTER").layer("HIDDEN", "HIDDEN").entities();
    t.box(0, 0, 80, 20).box(0, 60, 80, 110).circle(40, 85, 10).circle(60, 85, 3).circle(40, 85, 20, "CENTRE");
    t.text(120, 0, "THIRD ANGLE PROJECTION");
    const std::string path = temporary("single.dxf");
    std::ofstream(path) << t.done();
    CHECK(opened(path).model().figure.pitch_circles.empty());
}
