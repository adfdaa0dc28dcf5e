#include "core/base/geometry.h"
#include "core/building/soundness.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Wire.hxx>
#include <catch2/catch.hpp>
#include <gp_Ax2.hxx>
#include <gp_Circ.hxx>
#include <gp_Pln.hxx>

using namespace prism;

namespace {

TopoDS_Wire polygon(const std::vector<Vec2>& at) {
    BRepBuilderAPI_MakePolygon p;
    for (Vec2 c : at) p.Add(gp_Pnt(c.x, c.y, 0));
    p.Close();
    return p.Wire();
}

TopoDS_Wire square(Vec2 centre, double half) {
    return polygon({centre + Vec2{-half, -half}, centre + Vec2{half, -half}, centre + Vec2{half, half},
                    centre + Vec2{-half, half}});
}

TopoDS_Wire circle(Vec2 centre, double radius) {
    return BRepBuilderAPI_MakeWire(
               BRepBuilderAPI_MakeEdge(
                   gp_Circ(gp_Ax2(gp_Pnt(centre.x, centre.y, 0), gp_Dir(0, 0, 1)), radius))
                   .Edge())
        .Wire();
}

/// A plate of 200 x 100 and thickness 5 with sixteen square holes in two rows, and another one.
TopoDS_Shape plateWith(const TopoDS_Wire& more, bool turned = true) {
    BRepBuilderAPI_MakeFace face(gp_Pln(gp_Ax3()), polygon({{0, 0}, {200, 0}, {200, 100}, {0, 100}}));
    for (int i = 0; i < 16; ++i) {
        const Vec2 at{20.0 + 22 * (i % 8), 15.0 + 70 * (i / 8)};
        face.Add(TopoDS::Wire((i % 2 ? square(at, 5) : circle(at, 5)).Reversed()));
    }
    if (!more.IsNull()) face.Add(turned ? TopoDS::Wire(more.Reversed()) : more);
    return BRepPrimAPI_MakePrism(face.Face(), gp_Vec(0, 0, 5)).Shape();
}

} // namespace

TEST_CASE("a plate with many holes is sound when they lie within it, apart, and run the other way") {
    CHECK(isSound(plateWith({})));
    CHECK(isSound(plateWith(square({100, 50}, 12))));
    CHECK(isSound(plateWith(circle({100, 50}, 12))));
    CHECK(isSound(plateWith(square({100, 50}, 29))));       // just between the rows
    CHECK(isSound(plateWith(circle({185, 50}, 14.9))));     // just within the plate
    CHECK_FALSE(isSound(plateWith(square({100, 50}, 31)))); // cuts into the rows
    CHECK_FALSE(isSound(plateWith(square({100, 50}, 45)))); // round some of the others
    CHECK_FALSE(isSound(plateWith(circle({20, 15}, 2))));   // within another
    CHECK_FALSE(isSound(plateWith(circle({42, 15}, 2))));
    CHECK_FALSE(isSound(plateWith(circle({48.5, 15}, 3)))); // across the side of another
    for (double x : {46., 47.2, 49., 49.9})
        for (double y : {15., 17.3, 13.1}) CHECK_FALSE(isSound(plateWith(circle({x, y}, 3))));
    CHECK_FALSE(isSound(plateWith(square({195, 50}, 12)))); // across the border

    CHECK_FALSE(isSound(plateWith(circle({195, 50}, 12))));
    CHECK_FALSE(isSound(plateWith(square({260, 50}, 12)))); // beside the plate
    CHECK_FALSE(isSound(plateWith(square({100, 50}, 12), false)));
}
