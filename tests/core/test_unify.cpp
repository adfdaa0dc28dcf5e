#include "core/base/geometry.h"
#include "core/building/unify.h"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepGProp.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <catch2/catch.hpp>
#include <gp_Ax3.hxx>
#include <gp_Cylinder.hxx>
#include <unistd.h>

using namespace prism;
using namespace prism::building;

namespace {

int facesOf(const TopoDS_Shape& s) {
    TopTools_IndexedMapOfShape m;
    TopExp::MapShapes(s, TopAbs_FACE, m);
    return m.Extent();
}

double areaOf(const TopoDS_Shape& s) {
    GProp_GProps p;
    BRepGProp::SurfaceProperties(s, p);
    return p.Mass();
}

/// Pieces of a wall of radius 10 by angles and heights, joined where they meet.
TopoDS_Shape wall(const std::vector<std::array<double, 4>>& pieces) {
    BRepBuilderAPI_Sewing sew(1e-6);
    for (const auto& [from, to, low, high] : pieces)
        sew.Add(BRepBuilderAPI_MakeFace(gp_Cylinder(gp_Ax3(), 10), from, to, low, high).Face());
    sew.Perform();
    return sew.SewedShape();
}

/// What comes of a shape; the work of the modeller cannot be stopped, so the whole test ends if it never
/// does.
TopoDS_Shape oneOf(const TopoDS_Shape& shape) {
    alarm(60);
    const TopoDS_Shape r = unified(shape, new BRepTools_History);
    alarm(0);
    return r;
}

} // namespace

TEST_CASE("pieces of a round wall that go on in each other become one face of the same area") {
    const double turn = 2 * kPi;
    for (const auto& pieces : std::vector<std::vector<std::array<double, 4>>>{
             {{0, kPi, 0, 8}, {kPi, turn, 0, 8}},
             {{0, 1, 0, 8}, {1, 2, 0, 8}, {0, 2, 8, 20}},
             {{turn, turn + 1, 0, 8}, {turn + 1, turn + 3, 0, 8}}}) {
        const TopoDS_Shape before = wall(pieces);
        double area = 0;
        for (const auto& [from, to, low, high] : pieces) area += 10 * (to - from) * (high - low);
        CHECK(facesOf(before) == static_cast<int>(pieces.size()));
        const TopoDS_Shape after = oneOf(before);
        CHECK(facesOf(after) == 1);
        CHECK(areaOf(after) == Approx(area).epsilon(1e-9));
    }
}

TEST_CASE("pieces of a round wall whose angles are a turn apart in places are left as they are") {
    BRep_Builder b;
    TopoDS_Shape pieces; // of a shaft with keyways that was joined of many bodies
    REQUIRE(BRepTools::Read(pieces, PRISM_TEST_DATA "/solids/round_faces.brep", b));
    const int faces = facesOf(pieces);
    const double area = areaOf(pieces);
    const TopoDS_Shape after = oneOf(pieces);
    CHECK(facesOf(after) == faces);
    CHECK(areaOf(after) == Approx(area).epsilon(1e-9));
}
