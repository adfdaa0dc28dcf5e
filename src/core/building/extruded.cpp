#include "core/building/kernel.h"
#include "core/building/places.h"
#include "core/building/step_bodies.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepOffsetAPI_DraftAngle.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <TopoDS.hxx>
#include <gp_Pln.hxx>

namespace prism::building {
namespace {

/// The body with its sides leaning inward by an angle from its low end on.
TopoDS_Shape drafted(const TopoDS_Shape& body, const Plane& low, double angle, FaceNames& names) {
    BRepOffsetAPI_DraftAngle draft(body);
    const gp_Dir along(packed(low.deep));
    const gp_Pln neutral(low.point({0, 0}), along);
    for (TopExp_Explorer x(body, TopAbs_FACE); x.More(); x.Next()) {
        const auto of = names.of(x.Current());
        if (of.empty() || of.front().part != FaceName::Part::side) continue;
        draft.Add(TopoDS::Face(x.Current()), along, angle, neutral);
        if (!draft.AddDone())
            throw KernelError("a side of the body cannot lean: it is neither plane nor round");
    }
    draft.Build();
    if (!draft.IsDone()) throw KernelError("the sides cannot lean that far over that reach");
    names.follow(draft, body);
    return draft.Shape();
}

} // namespace

Result<StepBody> extruded(const Figure& f, const Step& s, const std::vector<ClosedArea>& areas, int index) {
    const FigureView& v = *f.viewNamed(s.view); // its areas were found, so it is there
    const auto range = reachOf(f, s, v, s.to);
    if (!range) return tl::make_unexpected(range.error());
    Plane plane(f, v, range->lo);
    plane.arcs_from = plane.commonOrigin();
    const gp_Vec along(packed(plane.deep) * (range->hi - range->lo));
    std::vector<TopoDS_Shape> bodies;
    StepBody r;
    r.low = curvesAtMark(f, range->low, v.axes.depth), r.high = curvesAtMark(f, range->high, v.axes.depth);
    for (const PlaneFace& p : facesOf(areas, plane, sharpOf(f, v, s))) {
        BRepPrimAPI_MakePrism prism(p.face, along);
        nameFaces(prism, p.border, index, true, r.names);
        bodies.push_back(s.draft != 0 ? drafted(prism.Shape(), plane, s.draft, r.names) : prism.Shape());
    }
    r.shape = together(bodies);
    return r;
}

} // namespace prism::building
