#include "core/proposing/single_cuts.h"
#include "support/grid_part.h"

#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>

using namespace prism;
using namespace prism::test;

// Cuts that are tried one by one: each is kept only when it comes closer to the sheet.

namespace {

NoProgress g_quiet;

/// A block on a grid of 2 x 2 x 3 boxes off which one box or a row of them is taken.
Grid lacking(std::array<int, 3> from, std::array<int, 3> to) {
    Grid g;
    g.at = {std::vector<double>{0, 30, 80}, {0, 20, 50}, {0, 12, 26, 45}};
    g.full.assign(12, true);
    g.each([&](std::array<int, 3> c) {
        bool in = true;
        for (size_t a : {0u, 1u, 2u}) in = in && c[a] >= from[a] && c[a] < to[a];
        if (in) g.full[g.index(c)] = false;
    });
    return g;
}

} // namespace

TEST_CASE("what costs little to be projected back is planes and cylinders, free forms cost many times that") {
    CHECK(weightOf(BRepPrimAPI_MakeBox(1, 2, 3).Shape()) == 6);
    CHECK(weightOf(BRepPrimAPI_MakeCylinder(1, 2).Shape()) == 3);
    const int ball = weightOf(BRepPrimAPI_MakeSphere(1).Shape());
    CHECK(ball >= 40);
    CHECK(weightOf(BRepPrimAPI_MakeCone(2, 1, 3).Shape()) == ball + 2); // and two plane ends
}

TEST_CASE("a block that lacks boxes at its edge is cut from the outlines, as deep as the views show") {
    // Corners and edges, near the viewer of some view and away from that of another.
    using Boxes = std::pair<std::array<int, 3>, std::array<int, 3>>;
    for (const auto& [from, to] : {Boxes{{0, 0, 2}, {1, 1, 3}}, // a corner at the top and the front
                                   {{0, 0, 2}, {1, 2, 3}},      // a step across
                                   {{0, 0, 1}, {2, 1, 3}},      // a step along
                                   {{1, 0, 0}, {2, 2, 1}}}) {   // under it
        CAPTURE(from[0], from[1], from[2], to[0], to[1], to[2]);
        const Grid g = lacking(from, to);
        const Document d = inViews(sheetOf(g, linesOf(g)).sheet);
        const Figure& f = d.model().figure;
        REQUIRE(f.views.size() == 3);
        const CutsFound found = bySingleCuts(f, d.model().areas, {}, g_quiet);
        CHECK(found.off < 10 * f.tolerances.proof);
        CHECK_FALSE(found.ended);
        const BuildResult built = build(f, d.model().areas, found.steps, g_quiet);
        for (const StepReport& s : built.steps) CHECK(s.ok);
        CHECK(built.measure.volume == Approx(g.volume()));
        const auto proof = prove(f, built.shape, g_quiet);
        REQUIRE(proof);
        CHECK(proof->clean());
        CHECK(distanceFromSheet(*proof) == Approx(0).margin(1e-6));
    }
}

TEST_CASE("a first cut that comes closer may be one that leads nowhere") {
    // Corners at the right: a cut of the areas beside them, from end to end, comes closer to the sheet, and
    // none that follows takes it back. Of the searches this is the last one.
    for (const auto& [from, to] :
         {std::pair{std::array{1, 0, 2}, std::array{2, 1, 3}}, {{1, 1, 1}, {2, 2, 3}}}) {
        const Grid g = lacking(from, to);
        const Document d = inViews(sheetOf(g, linesOf(g)).sheet);
        const CutsFound found = bySingleCuts(d.model().figure, d.model().areas, {}, g_quiet);
        CHECK(found.off > 1);
        CHECK(found.off < 200);
    }
}

TEST_CASE("cuts never lead away from the sheet") {
    int cut = 0;
    for (unsigned seed = 601; seed < 608; ++seed) {
        CAPTURE(seed);
        const Grid g = carved(seed, true);
        const Document d = inViews(sheetOf(g, linesOf(g)).sheet);
        const Figure& f = d.model().figure;
        if (f.views.size() != 3) continue;
        // From the whole box.
        Step box;
        box.kind = StepKind::extrude, box.reach = Reach::through;
        for (const FigureView& v : f.views)
            if (v.axes.depth == Axis::z) {
                box.view = v.name;
                for (const ClosedArea& a : d.model().areas.drawn)
                    if (a.view == v.view) box.areas.push_back(a.seed);
            }
        const auto before = prove(f, build(f, d.model().areas, {box}, g_quiet).shape, g_quiet);
        REQUIRE(before);
        const CutsFound found = bySingleCuts(f, d.model().areas, {box}, g_quiet);
        REQUIRE_FALSE(found.steps.empty());
        CHECK(found.steps.front() == box);
        CHECK(found.off <= distanceFromSheet(*before) + 1e-9);
        CHECK(found.tried <= 100);
        cut += found.steps.size() > 1;
        const BuildResult built = build(f, d.model().areas, found.steps, g_quiet);
        REQUIRE(built.ok());
    }
    CHECK(cut >= 3);
}
