#include "core/building/overlap.h"

#include "core/building/kernel.h"
#include "core/building/to_kernel.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBndLib.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>

namespace prism {
namespace {

constexpr const char* kNotCompared = "the modeller could not tell what is more or less in it";
constexpr double kSlack = 1e-6; ///< of a volume

template <class Operation> TopoDS_Shape madeBy(const TopoDS_Shape& a, const TopoDS_Shape& b) {
    Operation o(a, b);
    if (!o.IsDone()) throw KernelError(kNotCompared);
    return o.Shape();
}

} // namespace

double volumeOf(const TopoDS_Shape& s) {
    if (s.IsNull()) return 0;
    GProp_GProps g;
    BRepGProp::VolumeProperties(s, g);
    return g.Mass();
}

TopoDS_Shape commonOf(const TopoDS_Shape& a, const TopoDS_Shape& b) {
    return a.IsNull() || b.IsNull() ? TopoDS_Shape() : madeBy<BRepAlgoAPI_Common>(a, b);
}

TopoDS_Shape beyond(const TopoDS_Shape& a, const TopoDS_Shape& b) {
    if (a.IsNull() || b.IsNull()) return a;
    const TopoDS_Shape rest = madeBy<BRepAlgoAPI_Cut>(a, b);
    // Of two solids that share most of their faces the modeller has been seen to make nonsense, without an
    // error.
    const double all = volumeOf(a), left = volumeOf(rest), slack = kSlack * all;
    if (left > all + slack || left < all - volumeOf(b) - slack) throw KernelError(kNotCompared);
    return rest;
}

TopoDS_Shape within(const TopoDS_Shape& s, Vec3 lo, Vec3 hi) {
    return commonOf(s, BRepPrimAPI_MakeBox(gp_Pnt(packed(lo)), gp_Pnt(packed(hi))).Shape());
}

std::pair<double, double> extentAlong(const TopoDS_Shape& s, Axis axis) {
    Bnd_Box box;
    BRepBndLib::AddOptimal(s, box, false, false);
    double lo[3], hi[3];
    box.Get(lo[0], lo[1], lo[2], hi[0], hi[1], hi[2]);
    const auto i = static_cast<size_t>(axis);
    return {lo[i], hi[i]};
}

double apart(const TopoDS_Shape& a, const TopoDS_Shape& b) {
    return volumeOf(a) + volumeOf(b) - 2 * volumeOf(commonOf(a, b));
}

} // namespace prism
