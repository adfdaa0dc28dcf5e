#include "core/building/line_meets.h"
#include "core/building/places.h"
#include "core/building/step_bodies.h"
#include "core/building/thread.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <TopoDS.hxx>
#include <fmt/format.h>
#include <gp_Ax1.hxx>
#include <gp_Lin.hxx>

namespace prism::building {
namespace {

/// A corner of the half profile of a hole: how far from its axis and how far below where it begins, mm.
struct Corner {
    double radius, depth;
};

/// The sizes of one hole, all known.
struct Sizes {
    double diameter = 0, wide = 0, wide_depth = 0;
    int curve = -1, wide_curve = -1; ///< the circles of the figure that they were taken from
};

/// Where the centre of a hole now stands that lies in the view of its step; `drawn` in the plane across it.
Vec2 lyingCentre(const Figure& f, const FigureView& across, Vec2 drawn) {
    const Vec3 now = placeNow(f, drawn.x * across.right + drawn.y * across.up);
    return {dot(now, across.right), dot(now, across.up)};
}

/// Sizes of a widened hole, if they go together.
Result<Sizes> fitting(const HoleShape& h, const Sizes& s) {
    const bool widened = h.kind != HoleKind::plain && h.kind != HoleKind::tapered;
    if (widened && !(s.wide > s.diameter))
        return failure(ErrorCode::impossible,
                       fmt::format("the {} of {:g} mm is no wider than the hole of {:g} mm", nameOf(h.kind),
                                   s.wide, s.diameter));
    return s;
}

/// The sizes of a hole that lies in a view; `centre` is where it now stands in the plane across it.
Result<Sizes> sizesOfLying(const Figure& f, const Step& s, Vec2 on_axis, const FigureView& across,
                           Vec2 centre) {
    Sizes r{s.hole.diameter, s.hole.wide, s.hole.wide_depth};
    const FigureView& v = *f.viewNamed(s.view);
    r.curve = wallBeside(f, v, on_axis, s.axis_upright);
    if (r.diameter > 0) return fitting(s.hole, r);
    if (r.curve < 0)
        return failure(ErrorCode::impossible, "no line runs beside the place to take the hole's width from");
    const Vec2 wall = startOf(f.curve(r.curve));
    const double aside = s.axis_upright ? wall.x : wall.y;
    const Axis axis = s.axis_upright ? v.axes.right : v.axes.up;
    r.diameter = 2 * std::abs(aside - (across.axes.right == axis ? centre.x : centre.y));
    return fitting(s.hole, r);
}

Result<Sizes> sizesOf(const Figure& f, const HoleShape& h, const Concentric& circles) {
    Sizes r{h.diameter, h.wide, h.wide_depth};
    size_t next = 0;
    if (r.diameter == 0) {
        if (!circles.circles.empty())
            r.diameter = circles.diameter(f, 0);
        else if (const auto thread = threadNamed(h.thread, h.pitch))
            r.diameter = thread->core();
        else
            return failure(ErrorCode::impossible, "no circle stands there to take the hole's diameter from");
    }
    if (!circles.circles.empty()) r.curve = circles.circles[next++];
    if (h.kind == HoleKind::plain || h.kind == HoleKind::tapered) return r;
    if (next < circles.circles.size()) r.wide_curve = circles.circles[next];
    if (r.wide == 0) {
        if (r.wide_curve < 0)
            return failure(
                ErrorCode::impossible,
                fmt::format("no second circle stands there to take the size of the {} from", nameOf(h.kind)));
        r.wide = circles.diameter(f, next);
    }
    return fitting(h, r);
}

/// The half profile from the axis at the top round to the axis at the bottom. `top` is how far it begins
/// above the face, so that nothing is left standing there; `end` is where the full diameter ends.
std::vector<Corner> profileOf(const HoleShape& h, const Sizes& s, double top, double end, bool blind) {
    const double r = 0.5 * s.diameter, wide = 0.5 * s.wide;
    std::vector<Corner> c{{0, -top}};
    double at_end = r;
    switch (h.kind) {
    case HoleKind::plain:
        c.push_back({r, -top});
        break;
    case HoleKind::counterbore:
    case HoleKind::spot_face:
        c.push_back({wide, -top}), c.push_back({wide, s.wide_depth}), c.push_back({r, s.wide_depth});
        break;
    case HoleKind::countersink:
        c.push_back({wide, -top});
        if (top > 0) c.push_back({wide, 0});
        c.push_back({r, (wide - r) / std::tan(0.5 * h.sink_angle)});
        break;
    case HoleKind::tapered: {
        const double lean = std::tan(0.5 * h.taper);
        c.push_back({r + top * lean, -top});
        at_end = r - end * lean;
        break;
    }
    }
    c.push_back({at_end, end});
    if (blind && h.point < kPi - 1e-9)
        c.push_back({0, end + at_end / std::tan(0.5 * h.point)});
    else
        c.push_back({0, end});
    return c;
}

/// Where the holes begin, the way they go, and how far at full diameter.
struct Course {
    double start, length;
    Vec3 way;
    bool blind;
};

Result<Course> courseOf(const Figure& f, const Step& s, const FigureView& v) {
    const auto part = partRange(f, v);
    const Plane plane(f, v);
    // The viewer stands where depths begin when they count the way he looks.
    const bool from_low = (dot(plane.deep, plane.frame.look) > 0) != s.hole.from_far;
    const bool outer = s.from.kind == Bound::Kind::outermost;
    if (!part && (outer || s.reach == Reach::through)) return tl::make_unexpected(part.error());
    const double lo = part ? part->lo : 0, hi = part ? part->hi : 0;
    const auto start = boundValue(f, v, s.from, from_low ? lo : hi);
    if (!start) return start.and_then([](double) -> Result<Course> { return Course{}; });
    Course c{*start, 0, from_low ? plane.deep : -plane.deep, s.reach != Reach::through};
    if (!c.blind)
        c.length = (from_low ? hi - c.start : c.start - lo) + f.size + 1;
    else if (s.hole.depth.given())
        c.length = s.hole.depth;
    else {
        const auto end = boundValue(f, v, s.to, from_low ? hi : lo);
        if (!end) return end.and_then([](double) -> Result<Course> { return Course{}; });
        c.length = s.to.kind == Bound::Kind::value ? double(s.to.value) : std::abs(*end - c.start);
    }
    if (c.length < f.tolerances.same_model)
        return failure(ErrorCode::impossible, "the hole has no depth: it ends where it begins");
    return c;
}

/// How far from where the holes would begin the solid is met first by a hole at `foot`; zero for nowhere.
double lengthToSolid(const TopoDS_Shape& solid, const Course& course, const Plane& plane, Vec2 centre,
                     double radius) {
    constexpr int kAround = 8;
    LineMeets meet(solid);
    double first = std::numeric_limits<double>::infinity();
    for (int i = 0; i <= kAround; ++i) { // the middle, and places a little within the wall
        const Vec2 p = i == kAround ? centre : centre + direction(2 * kPi * i / kAround) * (0.999 * radius);
        const gp_Lin along(plane.point(p), gp_Dir(packed(course.way)));
        for (double at : meet(along, -RealLast(), RealLast())) first = std::min(first, at);
    }
    return std::isfinite(first) ? first : 0;
}

/// Why the plane of a hole step is not known.
std::string missingView(const Figure& f, const Step& s) {
    for (const ViewName& v : {s.view, lies(s) ? s.axis.view : s.view})
        if (!f.viewNamed(v)) return fmt::format("there is no {} view on the sheet", nameOf(v));
    return fmt::format("the {} view does not show how deep the hole lies in the {} view", nameOf(s.axis.view),
                       nameOf(s.view));
}

} // namespace

bool beginsAtSolid(const Step& s) {
    const bool deep = s.reach != Reach::through || s.hole.kind != HoleKind::plain;
    return s.kind == StepKind::hole && s.from.kind == Bound::Kind::outermost && deep;
}

Result<StepBody> holed(const Figure& f, const Step& s, int index, const TopoDS_Shape& solid) {
    const auto of = holePlane(f, s);
    if (!of) return failure(ErrorCode::impossible, missingView(f, s));
    const FigureView* v = &of->view;
    const auto course = courseOf(f, s, *v);
    if (!course) return tl::make_unexpected(course.error());
    const Plane plane(f, *v, course->start);
    // A hole that begins at the part's own end begins before it: a step may have added more there than the
    // lines of the sheet tell.
    const double top = s.from.kind == Bound::Kind::outermost ? f.size + 1 : 0;
    std::vector<TopoDS_Shape> bodies;
    StepBody r;
    for (size_t i = 0; i < s.places.size(); ++i) {
        const Concentric circles =
            lies(s) ? Concentric{lyingCentre(f, *v, of->centres[i]), {}} : circlesAt(f, *v, s.places[i]);
        auto sizes =
            lies(s) ? sizesOfLying(f, s, s.places[i], *v, circles.centre) : sizesOf(f, s.hole, circles);
        if (!sizes) return tl::make_unexpected(sizes.error());
        const double begins = solid.IsNull() ? 0
                                             : lengthToSolid(solid, *course, plane, circles.centre,
                                                             0.5 * std::max(sizes->diameter, sizes->wide));
        if (s.hole.wide_to.picked() && !s.hole.wide_depth.given()) {
            const auto bottom = depthOfMark(f, *v, s.hole.wide_to);
            if (!bottom) return tl::make_unexpected(bottom.error());
            sizes->wide_depth = std::abs(*bottom - course->start) - begins;
            if (!(sizes->wide_depth > 0))
                return failure(
                    ErrorCode::impossible,
                    fmt::format("the {} has no depth: it ends where it begins", nameOf(s.hole.kind)));
        }
        // One that ends at a mark is as long as the mark says, wherever it begins.
        const bool to_mark = course->blind && !s.hole.depth.given() && s.to.kind != Bound::Kind::value;
        const double length = course->blind && !to_mark ? course->length : course->length - begins;
        const auto corners = profileOf(s.hole, *sizes, top, length, course->blind);
        for (const Corner& c : corners)
            if (c.radius < -1e-9)
                return failure(ErrorCode::impossible, "the taper closes the hole before its end");
        for (size_t k = 1; k + 1 < corners.size(); ++k)
            if (corners[k + 1].depth < corners[k].depth - 1e-9)
                return failure(ErrorCode::impossible,
                               fmt::format("the {} is deeper than the hole", nameOf(s.hole.kind)));
        const Vec3 foot = plane.place(circles.centre) + begins * course->way;
        const Vec3 out = plane.frame.right;
        BRepBuilderAPI_MakePolygon half;
        for (const Corner& c : corners)
            half.Add(gp_Pnt(packed(foot + c.radius * out + c.depth * course->way)));
        half.Close();
        BRepPrimAPI_MakeRevol turned(BRepBuilderAPI_MakeFace(half.Wire(), true).Face(),
                                     gp_Ax1(gp_Pnt(packed(foot)), gp_Dir(packed(course->way))));
        for (TopExp_Explorer x(turned.Shape(), TopAbs_FACE); x.More(); x.Next()) {
            const BRepAdaptor_Surface wall(TopoDS::Face(x.Current()));
            const bool wide = sizes->wide > 0 && wall.GetType() == GeomAbs_Cylinder &&
                              std::abs(2 * wall.Cylinder().Radius() - sizes->wide) < 1e-9;
            // Floors, points and sinks lie on no circle of the figure: the step alone made them.
            const bool own = wall.GetType() == GeomAbs_Cylinder || s.hole.kind == HoleKind::tapered;
            r.names.add(x.Current(),
                        own ? FaceName{index, FaceName::Part::side, wide ? sizes->wide_curve : sizes->curve}
                            : FaceName{index, FaceName::Part::blend, -1});
        }
        bodies.push_back(turned.Shape());
    }
    r.shape = together(bodies), r.may_touch = true;
    return r;
}

} // namespace prism::building
