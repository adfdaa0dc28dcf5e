#include "core/base/geometry.h"
#include "core/building/openings.h"
#include "core/building/overlap.h"
#include "core/building/soundness.h"
#include "core/building/straight_tools.h"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <catch2/catch.hpp>
#include <gp_Ax2.hxx>
#include <random>

using namespace prism;
using namespace prism::building;

namespace {

constexpr double kSize = 120;

TopoDS_Shape box(double x, double y, double z, double w, double d, double h) {
    return BRepPrimAPI_MakeBox(gp_Pnt(x, y, z), w, d, h).Shape();
}
TopoDS_Shape round(gp_Pnt at, gp_Dir along, double radius, double length) {
    return BRepPrimAPI_MakeCylinder(gp_Ax2(at, along), radius, length).Shape();
}
const gp_Dir kUp(0, 0, 1);

double areaOf(const TopoDS_Shape& s) {
    GProp_GProps p;
    BRepGProp::SurfaceProperties(s, p);
    return p.Mass();
}
int facesOf(const TopoDS_Shape& s) {
    TopTools_IndexedMapOfShape m;
    TopExp::MapShapes(s, TopAbs_FACE, m);
    return m.Extent();
}

Opened cutFrom(const TopoDS_Shape& body, const std::vector<TopoDS_Shape>& tools) {
    FaceNames names;
    return opened(body, tools, kSize, names);
}

/// A block of 100 x 60 x 30 with a step of 40 x 60 down to 10: two floors.
TopoDS_Shape stepped() {
    return BRepAlgoAPI_Cut(box(0, 0, 0, 100, 60, 30), box(60, -1, 10, 41, 62, 21)).Shape();
}
constexpr double kStepped = 100.0 * 60 * 30 - 40.0 * 60 * 20;

} // namespace

TEST_CASE("straight cuts well inside plane faces take away what they hold, through or to a floor") {
    const struct {
        TopoDS_Shape tool;
        double taken, area; ///< mm^3; mm^2 by which the surface grows
        int faces;          ///< more than before
    } cuts[] = {
        {round({20, 30, -5}, kUp, 8, 50), kPi * 64 * 30, 2 * kPi * 8 * 30 - 2 * kPi * 64, 1},
        {round({20, 30, 40}, kUp.Reversed(), 8, 50), kPi * 64 * 30, 2 * kPi * 8 * 30 - 2 * kPi * 64, 1},
        {round({80, 30, -5}, kUp, 8, 50), kPi * 64 * 10, 2 * kPi * 8 * 10 - 2 * kPi * 64, 1},
        {round({20, 30, 12}, kUp, 8, 50), kPi * 64 * 18, 2 * kPi * 8 * 18, 2}, // from above to a floor
        {round({80, 30, -5}, kUp, 8, 11), kPi * 64 * 6, 2 * kPi * 8 * 6, 2},   // from below
        {box(10, 10, -5, 30, 20, 50), 30 * 20 * 30, 2 * 50 * 30 - 2 * 600, 4}, // a window
        {box(10, 10, 18, 30, 20, 50), 30 * 20 * 12, 2 * 50 * 12, 5},           // a pocket
        {round({-5, 30, 5}, {1, 0, 0}, 3, 120), kPi * 9 * 100, 2 * kPi * 300 - 2 * kPi * 9, 1},
        {round({50, -5, 20}, {0, 1, 0}, 4, 70), kPi * 16 * 60, 2 * kPi * 240 - 2 * kPi * 16, 1},
    };
    const TopoDS_Shape body = stepped();
    for (const auto& c : cuts) {
        CAPTURE(&c - cuts);
        const Opened r = cutFrom(body, {c.tool});
        CHECK(r.left.empty());
        CHECK(isSound(r.body));
        CHECK(volumeOf(r.body) == Approx(kStepped - c.taken).epsilon(1e-12));
        CHECK(areaOf(r.body) == Approx(areaOf(body) + c.area).epsilon(1e-12));
        CHECK(facesOf(r.body) == facesOf(body) + c.faces);
    }
}

TEST_CASE("straight cuts askew to the axes of space end where they end") {
    gp_Trsf askew;
    askew.SetRotation(gp_Ax1({3, 4, 5}, {1, 2, 0.5}), 0.6);
    const auto turned = [&](const TopoDS_Shape& s) {
        return BRepBuilderAPI_Transform(s, askew, true).Shape();
    };
    const TopoDS_Shape body = turned(stepped());
    for (const auto& [tool, taken] : {std::pair{round({20, 30, 12}, kUp, 8, 50), kPi * 64 * 18},
                                      {round({80, 30, -5}, kUp, 8, 11), kPi * 64 * 6},
                                      {round({20, 30, -5}, kUp, 8, 50), kPi * 64 * 30},
                                      {box(10, 10, 18, 30, 20, 50), 30.0 * 20 * 12}}) {
        const Opened r = cutFrom(body, {turned(tool)});
        CHECK(r.left.empty());
        CHECK(isSound(r.body));
        CHECK(volumeOf(r.body) == Approx(kStepped - taken).epsilon(1e-9));
    }
}

TEST_CASE("what touches more than a plane face square to it is left to be cut in the general way") {
    const TopoDS_Shape pin = round({20, 30, -5}, kUp, 5, 50);
    const TopoDS_Shape tools[] = {
        round({60, 30, -5}, kUp, 8, 50),          // across the step's edge
        round({92, 30, -5}, kUp, 8, 50),          // just to the end of the body
        round({20, 30, 0}, kUp, 8, 50),           // begins in a face
        round({80, 30, 2}, kUp, 8, 8),            // ends in a face
        round({20, 30, 5}, kUp, 8, 10),           // a void
        round({20, 30, -5}, {0.01, 0, 1}, 8, 50), // askew
        round({200, 30, -5}, kUp, 8, 50),         // nowhere near
        BRepPrimAPI_MakeCone(gp_Ax2({20, 30, -5}, kUp), 8, 6, 50).Shape(),
        BRepAlgoAPI_Cut(round({20, 30, -5}, kUp, 8, 50), pin).Shape(), // leaves a pin
        box(10, 10, -5, 30, 50, 50),                                   // to the edge of the body
    };
    const TopoDS_Shape body = stepped();
    for (const TopoDS_Shape& t : tools) {
        CAPTURE(&t - tools);
        const Opened r = cutFrom(body, {t});
        CHECK(r.left.size() == 1);
        CHECK(r.body.IsSame(body));
    }
}

TEST_CASE(
    "a hole through both arms of a fork opens four faces, and one in a tube's end leaves its bore alone") {
    const TopoDS_Shape fork = BRepAlgoAPI_Cut(box(0, 0, 0, 60, 40, 50), box(20, -1, 10, 20, 42, 50)).Shape();
    const Opened through = cutFrom(fork, {round({-5, 20, 30}, {1, 0, 0}, 6, 80)});
    CHECK(through.left.empty());
    CHECK(isSound(through.body));
    CHECK(facesOf(through.body) == facesOf(fork) + 2);
    CHECK(volumeOf(through.body) == Approx(60 * 40 * 50 - 20 * 40 * 40 - kPi * 36 * 40).epsilon(1e-12));

    const TopoDS_Shape tube =
        BRepAlgoAPI_Cut(round({0, 0, 0}, kUp, 40, 20), round({0, 0, -1}, kUp, 20, 22)).Shape();
    std::vector<TopoDS_Shape> bolts;
    for (int i = 0; i < 6; ++i)
        bolts.push_back(round({30 * std::cos(i * kPi / 3), 30 * std::sin(i * kPi / 3), -1}, kUp, 4, 30));
    const Opened r = cutFrom(tube, bolts);
    CHECK(r.left.empty());
    CHECK(isSound(r.body));
    CHECK(volumeOf(r.body) == Approx(kPi * 20 * (1600 - 400 - 6 * 16)).epsilon(1e-12));
}

TEST_CASE(
    "walls and floors of straight cuts are called by the tool they come from, faces stay what they were") {
    const TopoDS_Shape body = box(0, 0, 0, 50, 50, 20), tool = round({25, 25, 8}, kUp, 5, 50);
    FaceNames names;
    TopTools_IndexedMapOfShape old, of_tool;
    TopExp::MapShapes(body, TopAbs_FACE, old), TopExp::MapShapes(tool, TopAbs_FACE, of_tool);
    for (int i = 1; i <= old.Extent(); ++i) names.add(old(i), {0, FaceName::Part::side, i});
    for (int i = 1; i <= of_tool.Extent(); ++i) names.add(of_tool(i), {1, FaceName::Part::side, i});
    const Opened r = opened(body, {tool}, kSize, names);
    std::multiset<std::pair<int, int>> seen;
    for (const auto& of : names.ofAll(r.body))
        for (const FaceName& n : of) seen.insert({n.step, n.curve});
    CHECK(seen.size() == 8); // six faces, a wall and a floor
    for (int i = 1; i <= 6; ++i) CHECK(seen.count({0, i}) == 1);
    CHECK(std::ranges::count(seen, 1, &std::pair<int, int>::first) == 2);
}

TEST_CASE("random straight cuts leave what the general way leaves") {
    std::mt19937 random(4711);
    const auto any = [&](double lo, double hi) {
        return std::uniform_real_distribution<double>(lo, hi)(random);
    };
    int done = 0, tried = 0;
    for (int round_of = 0; round_of < 60; ++round_of) {
        CAPTURE(round_of);
        TopoDS_Shape body = box(0, 0, 0, any(60, 100), any(40, 80), any(20, 40));
        if (round_of % 2)
            body = BRepAlgoAPI_Cut(body, box(any(10, 50), -1, any(5, 15), 200, 200, 200)).Shape();
        if (round_of % 3 == 0)
            body = BRepAlgoAPI_Fuse(body, round({any(10, 40), any(10, 30), 5}, kUp, any(6, 10), any(40, 60)))
                       .Shape();
        for (int i = 0; i < 4; ++i) {
            const gp_Dir along[] = {kUp, {1, 0, 0}, {0, -1, 0}};
            const gp_Dir d = along[random() % 3];
            const gp_Pnt at(any(0, 90), any(0, 60), any(-10, 40));
            const TopoDS_Shape tool =
                random() % 2 ? round(at.Translated(gp_Vec(d) * -any(0, 60)), d, any(1, 8), any(20, 160))
                             : box(at.X(), at.Y(), at.Z(), any(3, 30), any(3, 30), any(3, 120));
            gp_Trsf askew;
            if (round_of % 4 == 3) askew.SetRotation(gp_Ax1({0, 0, 0}, {1, 1, 0.3}), any(0, 3));
            const auto turned = [&](const TopoDS_Shape& s) {
                return BRepBuilderAPI_Transform(s, askew, true).Shape();
            };
            const Opened r = cutFrom(turned(body), {turned(tool)});
            const TopoDS_Shape other = BRepAlgoAPI_Cut(body, tool).Shape();
            ++tried;
            if (!r.left.empty()) continue;
            ++done;
            CHECK(isSound(r.body));
            CHECK(volumeOf(r.body) == Approx(volumeOf(other)).epsilon(1e-9));
            CHECK(areaOf(r.body) == Approx(areaOf(other)).epsilon(1e-9));
            CHECK(facesOf(r.body) == facesOf(other));
            body = other;
        }
    }
    CAPTURE(tried);
    CHECK(done > 40);
}

TEST_CASE("a block can be seen as pushed straight in three ways, a cylinder in one, a cone in none") {
    CHECK(straightTools(box(0, 0, 0, 1, 2, 3)).size() == 3);
    CHECK(straightTools(round({0, 0, 0}, {0, 1, 1}, 2, 5)).size() == 1);
    CHECK(straightTools(BRepPrimAPI_MakeCone(3, 2, 5).Shape()).empty());
    CHECK(straightTools(stepped()).size() == 1); // along the step
}
