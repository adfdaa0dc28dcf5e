#include "core/proposing/oblique_planes.h"
#include "core/proposing/telling_apart.h"
#include "core/proposing/walls.h"
#include "support/ran.h"
#include "support/three_views.h"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <gp_Pnt.hxx>

using namespace prism;
using namespace prism::test;

// What a proposal reads off the views before it looks for a solid, and how it tells two solids apart.

namespace {

/// Front and top view of a block of 60 x 40 x 30; lines are added to the front view with it at (0, 0), to the
/// top view at (0, 60).
DxfText block() {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN");
    t.entities().text(0, -60, "THIRD ANGLE");
    t.box(0, 0, 60, 30).box(0, 60, 60, 100);
    return t;
}

using Stretches = std::vector<std::pair<double, double>>;

void checkSame(const Stretches& found, const Stretches& wanted) {
    REQUIRE(found.size() == wanted.size());
    for (size_t i = 0; i < wanted.size(); ++i) {
        CHECK(found[i].first == Approx(wanted[i].first).margin(1e-6));
        CHECK(found[i].second == Approx(wanted[i].second).margin(1e-6));
    }
}

/// A counterbored hole that ends in the point of a drill, at X 20: its lines in the front view, each side on
/// a layer of its own.
Document drilled(const char* left, const char* right) {
    DxfText t = block();
    t.circle(20, 80, 8).circle(20, 80, 5);
    t.line(12, 22, 12, 30, left).line(15, 10, 15, 22, left).line(15, 10, 20, 7, left);
    t.line(28, 22, 28, 30, right).line(25, 10, 25, 22, right).line(25, 10, 20, 7, right);
    t.line(12, 22, 28, 22, "HIDDEN").line(15, 10, 25, 10, "HIDDEN");
    return inViews(t);
}

} // namespace

TEST_CASE("the walls of a hole are those that stand on both sides of its axis, one of them hidden at least") {
    for (const auto& [left, right] :
         {std::pair{"HIDDEN", "HIDDEN"}, {"OUTLINE", "HIDDEN"}, {"HIDDEN", "OUTLINE"}}) {
        CAPTURE(left, right);
        const Document d = drilled(left, right);
        const auto maps = mapsOf(d);
        REQUIRE(maps[0].view().name.role == Role::front);
        const Walls w(maps[0], Axis::z, 20, 12);
        checkSame(w.along(8), {{22, 30}});
        checkSame(w.along(5), {{10, 22}});
        CHECK(w.along(6).empty());
        CHECK(w.closedAt(8, 22));
        CHECK(w.closedAt(5, 10));
        CHECK_FALSE(w.closedAt(5, 22)); // the line there goes farther
        CHECK_FALSE(w.closedAt(5, 11));
        const auto point = w.slantFrom({5, 10}, -1);
        REQUIRE(point);
        CHECK(point->radius == Approx(0).margin(1e-6));
        CHECK(point->at == Approx(7));
        CHECK_FALSE(w.slantFrom({5, 10}, 1));
        CHECK_FALSE(w.slantFrom({8, 22}, -1));
        CHECK(w.endsAt(5, 10, -1));
        CHECK_FALSE(w.endsAt(5, 22, 1));
        const auto levels = w.levels();
        REQUIRE(levels.size() == 5);
        for (const auto& [at, wanted] : {std::pair{0, 0.0}, {1, 7.0}, {2, 10.0}, {3, 22.0}, {4, 30.0}})
            CHECK(levels[static_cast<size_t>(at)] == Approx(wanted).margin(1e-6));
        // Beside another axis nothing stands on both sides.
        CHECK(Walls(maps[0], Axis::z, 22, 12).along(5).empty());
    }
    // Both seen: a groove's or a boss's.
    const Document open = drilled("OUTLINE", "OUTLINE");
    const auto maps = mapsOf(open);
    CHECK(Walls(maps[0], Axis::z, 20, 12).along(5).empty());
}

TEST_CASE("a wall out of a sloping face reaches to where that is farthest; where only one side ends there, "
          "to the nearer") {
    // The face rises by a fifth; the wall of a hole at X 20 of radius 5 is 15 and 25 off its low corner.
    for (const auto& [left, right, end] :
         {std::tuple{23.0, 25.0, 25.0}, {23.0, 24.0, 23.0}, {20.0, 25.0, 20.0}})
        for (const auto& [below, top] : {std::pair{false, 60.0}, {true, 60.0}, {false, 25.0}, {true, 25.0}}) {
            CAPTURE(left, right, below, top); // the slope ends far off, or at the wall itself
            const auto at = [&, below = below](double y) { return below ? 40 - y : y; };
            DxfText t;
            t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").entities().text(0, -60, "THIRD ANGLE");
            const double high = 20 + top / 5;
            t.line(0, at(0), 60, at(0)).line(60, at(0), 60, at(high)).line(top, at(high), 0, at(20));
            if (top < 60) t.line(60, at(high), top, at(high));
            t.line(0, at(20), 0, at(0)).line(15, at(0), 15, at(left), "HIDDEN");
            t.line(25, at(0), 25, at(right), "HIDDEN").box(0, 80, 60, 120).circle(20, 100, 5);
            const Document d = inViews(t);
            const auto maps = mapsOf(d);
            REQUIRE(maps[0].view().name.role == Role::front);
            // Heights count from the lowest line of the view.
            const double zero = below ? 40 - high : 0, far = at(end) - zero, near = at(0) - zero;
            checkSame(Walls(maps[0], Axis::z, 20, 12).along(5), {std::minmax(near, far)});
        }
}

TEST_CASE("a plane that only two views show is not confirmed") {
    DxfText two = block();
    two.line(40, 30, 60, 10).line(40, 60, 60, 75);
    const Document less = inViews(two);
    const auto planes = obliquePlanes(less.model().figure, mapsOf(less));
    CHECK_FALSE(planes.empty());
    for (const ObliquePlane& p : planes) CHECK_FALSE(p.confirmed);
}

TEST_CASE("two solids are told apart by what the one has more, where, and what view would tell") {
    const Document d = inViews(block());
    const auto pocket = [](double from) {
        return BRepAlgoAPI_Cut(BRepPrimAPI_MakeBox(60, 40, 30).Shape(),
                               BRepPrimAPI_MakeBox(gp_Pnt(20, 10, from), gp_Pnt(40, 30, 31)).Shape())
            .Shape();
    };
    NoProgress quiet;
    const Difference deeper = differenceOf(d.model().figure, pocket(20), pocket(10), quiet);
    CHECK(deeper.more_volume == Approx(0).margin(1e-6));
    CHECK(deeper.less_volume == Approx(20 * 20 * 10));
    for (const auto& [found, wanted] :
         {std::pair{deeper.lo, Vec3{20, 10, 10}}, {deeper.hi, Vec3{40, 30, 20}}})
        CHECK(dot(found - wanted, found - wanted) < 1e-10);
    CHECK(deeper.settled_by == std::vector<std::string>{"a right view", "a section at Z 15"});
    CHECK(inWords(deeper) ==
          "4000 mm³ less material at X 20 to 40, Y 10 to 30, Z 10 to 20 mm; a right view or "
          "a section at Z 15 would tell");
    const Difference shallower = differenceOf(d.model().figure, pocket(10), pocket(20), quiet);
    CHECK(shallower.more_volume == Approx(4000));
    CHECK(shallower.less_volume == Approx(0).margin(1e-6));
    CHECK(inWords(shallower).starts_with("4000 mm³ more material"));
    // A slot through along X is seen from the right, one through along Y is not.
    const auto slot = [](double x0, double y0, double x1, double y1) {
        return BRepAlgoAPI_Cut(BRepPrimAPI_MakeBox(60, 40, 30).Shape(),
                               BRepPrimAPI_MakeBox(gp_Pnt(x0, y0, 24), gp_Pnt(x1, y1, 31)).Shape())
            .Shape();
    };
    const TopoDS_Shape whole = BRepPrimAPI_MakeBox(60, 40, 30).Shape();
    CHECK(differenceOf(d.model().figure, whole, slot(-1, 10, 61, 20), quiet).settled_by.front() ==
          "a right view");
    const Difference same = differenceOf(d.model().figure, whole, whole, quiet);
    CHECK(same.settled_by.empty());
    CHECK(inWords(same) == "nothing more and nothing less");
}
