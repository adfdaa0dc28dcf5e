#include "core/proposing/chamfers_seen.h"

#include "core/building/kernel.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <fmt/format.h>

namespace prism {
namespace {

constexpr double kWidest = 0.25; ///< of the wall's radius; more than that is no chamfer

/// An arc or circle of the border of a level face.
struct Border {
    Vec3 centre, middle; ///< middle of the arc
    double radius;
};

/// The plane faces at one place of a model axis, square to it and turned the same way.
struct Level {
    int axis;    ///< 0 to 2
    double at;   ///< along it
    bool upward; ///< material below
    std::vector<Border> arcs;
};

double part(Vec3 p, int axis) {
    return axis == 0 ? p.x : axis == 1 ? p.y : p.z;
}

std::vector<Level> levelsOf(const TopoDS_Shape& solid, double tol) {
    std::vector<Level> r;
    for (TopExp_Explorer x(solid, TopAbs_FACE); x.More(); x.Next()) {
        const TopoDS_Face face = TopoDS::Face(x.Current());
        const BRepAdaptor_Surface s(face, false);
        if (s.GetType() != GeomAbs_Plane) continue;
        gp_Dir n = s.Plane().Axis().Direction();
        if (!s.Plane().Direct()) n.Reverse();
        if (face.Orientation() == TopAbs_REVERSED) n.Reverse();
        const Vec3 normal{n.X(), n.Y(), n.Z()};
        for (int axis : {0, 1, 2}) {
            if (std::abs(std::abs(part(normal, axis)) - 1) > 1e-9) continue;
            const gp_Pnt at = s.Plane().Location();
            Level l{axis, part({at.X(), at.Y(), at.Z()}, axis), part(normal, axis) > 0, {}};
            for (TopExp_Explorer e(face, TopAbs_EDGE); e.More(); e.Next()) {
                const BRepAdaptor_Curve c(TopoDS::Edge(e.Current()));
                if (c.GetType() != GeomAbs_Circle) continue;
                const gp_Pnt o = c.Circle().Location(),
                             m = c.Value(0.5 * (c.FirstParameter() + c.LastParameter()));
                l.arcs.push_back({{o.X(), o.Y(), o.Z()}, {m.X(), m.Y(), m.Z()}, c.Circle().Radius()});
            }
            const auto same = std::ranges::find_if(r, [&](const Level& o) {
                return o.axis == l.axis && o.upward == l.upward && std::abs(o.at - l.at) <= tol;
            });
            if (same == r.end())
                r.push_back(std::move(l));
            else
                same->arcs.insert(same->arcs.end(), l.arcs.begin(), l.arcs.end());
        }
    }
    return r;
}

/// A place of another view where a mark stands at this value of the axis.
std::optional<Bound> markAt(const Figure& f, const FigureView& v, double value) {
    for (const Mark& m : f.marks) {
        if (m.axis != v.axes.depth || m.view == v.view || m.others.empty()) continue;
        const FigureView& o = *f.viewById(m.view);
        if (!o.principal() || std::abs(m.value - value) > 2 * f.tolerances.proof) continue;
        const bool right = o.axes.right == m.axis;
        return Bound{Bound::Kind::mark,
                     {o.name, right ? Vec2{m.value, m.others.front()} : Vec2{m.others.front(), m.value}},
                     0};
    }
    return std::nullopt;
}

/// A step round a wall: the floor between two radii, and the end of the smaller one above it.
struct SquareStep {
    Level floor;
    double end, inner, outer;
    Vec3 centre;
    std::vector<Vec3> edges; ///< middles of the arcs of the outer wall, on the floor
};

std::vector<SquareStep> squareSteps(const std::vector<Level>& levels, double tol) {
    std::vector<SquareStep> r;
    const auto concentric = [&](const Border& a, const Border& b, int axis) {
        const Vec3 d = a.centre - b.centre;
        return std::hypot(part(d, (axis + 1) % 3), part(d, (axis + 2) % 3)) <= tol;
    };
    for (const Level& floor : levels)
        for (const Level& end : levels) {
            const double height = end.at - floor.at;
            if (end.axis != floor.axis || end.upward != floor.upward || (height > 0) != floor.upward ||
                std::abs(height) <= tol)
                continue;
            for (const Border& in : floor.arcs) {
                const double outer = in.radius + std::abs(height);
                if (std::abs(height) > kWidest * outer) continue;
                const bool goes_on = std::ranges::any_of(end.arcs, [&](const Border& b) {
                    return concentric(in, b, floor.axis) && std::abs(b.radius - in.radius) <= tol;
                });
                if (!goes_on) continue;
                SquareStep s{floor, end.at, in.radius, outer, in.centre, {}};
                for (const Border& b : floor.arcs)
                    if (concentric(in, b, floor.axis) && std::abs(b.radius - outer) <= tol)
                        s.edges.push_back(b.middle);
                const bool known = std::ranges::any_of(r, [&](const SquareStep& o) {
                    return o.floor.axis == floor.axis && std::abs(o.floor.at - floor.at) <= tol &&
                           std::abs(o.inner - s.inner) <= tol &&
                           concentric(in, {o.centre, {}, 0}, floor.axis);
                });
                if (!s.edges.empty() && !known) r.push_back(std::move(s));
            }
        }
    return r;
}

std::optional<ChamferForStep> chamferFor(const Figure& f, const AreaSets& areas, const TopoDS_Shape& solid,
                                         const SquareStep& s) {
    const double tol = 2 * f.tolerances.proof, width = s.outer - s.inner;
    for (const FigureView& v : f.views) {
        if (!v.principal() || static_cast<int>(v.axes.depth) != s.floor.axis) continue;
        const auto low = markAt(f, v, std::min(s.floor.at, s.end)),
                   high = markAt(f, v, std::max(s.floor.at, s.end));
        if (!low || !high) continue;
        const auto on = [&](Vec3 p) {
            return Vec2{part(p, static_cast<int>(v.axes.right)), part(p, static_cast<int>(v.axes.up))};
        };
        Step fill;
        fill.kind = StepKind::extrude, fill.operation = Operation::add, fill.view = v.name;
        fill.reach = Reach::between, fill.from = *low, fill.to = *high, fill.name = "end to be chamfered";
        for (const ClosedArea& a : areas.drawn) {
            const double away = distance(a.seed, on(s.centre));
            if (a.view != v.view || away <= s.inner + tol || away >= s.outer - tol) continue;
            double below[3];
            below[static_cast<int>(v.axes.right)] = a.seed.x, below[static_cast<int>(v.axes.up)] = a.seed.y;
            below[s.floor.axis] = s.floor.at + (s.floor.upward ? -0.01 : 0.01) * width;
            const BRepClass3d_SolidClassifier there(solid, gp_Pnt(below[0], below[1], below[2]), 1e-7);
            if (there.State() == TopAbs_IN) fill.areas.push_back(a.seed);
        }
        if (fill.areas.empty()) continue;
        Step cut;
        cut.kind = StepKind::chamfer, cut.size = width, cut.name = fmt::format("chamfer {:g}", width);
        for (Vec3 p : s.edges) {
            (s.floor.axis == 0 ? p.x : s.floor.axis == 1 ? p.y : p.z) = s.end;
            PartPick pick;
            pick.place = p;
            cut.edges.picks.push_back(pick);
        }
        return ChamferForStep{std::move(fill), std::move(cut), width, s.outer};
    }
    return std::nullopt;
}

} // namespace

std::vector<ChamferForStep> chamfersForSteps(const Figure& f, const AreaSets& areas,
                                             const TopoDS_Shape& solid) {
    const auto made = guarded<std::vector<ChamferForStep>>([&] {
        std::vector<ChamferForStep> r;
        const double tol = 2 * f.tolerances.proof;
        for (const SquareStep& s : squareSteps(levelsOf(solid, tol), tol))
            if (auto c = chamferFor(f, areas, solid, s)) r.push_back(std::move(*c));
        return r;
    });
    return made ? *made : std::vector<ChamferForStep>{};
}

} // namespace prism
