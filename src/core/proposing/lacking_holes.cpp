#include "core/proposing/lacking_holes.h"

#include "core/building/line_meets.h"
#include "core/proposing/mark_bounds.h"

#include <BRepAdaptor_Surface.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>

namespace prism {
namespace {

struct Stretch {
    double low, high; ///< mm along a depth axis
};

/// A hollow round wall that runs along the depth of a view.
struct HoleWall {
    Vec2 centre; ///< coordinates of the view
    double radius;
    Stretch along;
};

std::vector<HoleWall> holeWalls(const TopoDS_Shape& solid, const FigureView& v) {
    const Vec3 depth = unitOf(v.axes.depth);
    const auto onto = [](Vec3 axis, const gp_Pnt& p) { return dot(axis, Vec3{p.X(), p.Y(), p.Z()}); };
    std::vector<HoleWall> r;
    for (TopExp_Explorer x(solid, TopAbs_FACE); x.More(); x.Next()) {
        const BRepAdaptor_Surface s(TopoDS::Face(x.Current()));
        if (s.GetType() != GeomAbs_Cylinder) continue;
        const gp_Cylinder c = s.Cylinder();
        if (c.Direct() != (x.Current().Orientation() == TopAbs_REVERSED) ||
            !c.Axis().Direction().IsParallel({depth.x, depth.y, depth.z}, 1e-9))
            continue;
        const double from = onto(depth, s.Value(s.FirstUParameter(), s.FirstVParameter())),
                     to = onto(depth, s.Value(s.FirstUParameter(), s.LastVParameter()));
        const gp_Pnt at = c.Location();
        r.push_back({{onto(unitOf(v.axes.right), at), onto(unitOf(v.axes.up), at)},
                     c.Radius(),
                     {std::min(from, to), std::max(from, to)}});
    }
    return r;
}

/// Looks along the axes of a view's circles through a solid.
class Columns {
  public:
    Columns(const FigureView& v, const BuildResult& build, double tol)
        : view_(v), tol_(tol), walls_(holeWalls(build.shape, v)), meets_(build.shape) {
        const Vec3 depth = unitOf(v.axes.depth);
        all_ = {dot(depth, build.measure.lo), dot(depth, build.measure.hi)};
    }

    /// Along the axis of a circle that bounds a hole in one place, the stretches of material that have none,
    /// with space between the two.
    std::vector<Stretch> withoutTheHole(const Arc& circle) {
        bool walled = false, whole = false;
        for (const HoleWall& w : walls_) {
            if (std::abs(w.radius - circle.radius) > tol_ || distance(w.centre, circle.centre) > tol_)
                continue;
            walled = true;
            whole = whole || (w.along.low <= all_.low + tol_ && w.along.high >= all_.high - tol_);
        }
        if (!walled || whole) return {};
        std::vector<Stretch> r;
        bool hole = false;
        for (const Piece& p : piecesAlong(circle)) {
            hole = hole || !p.full;
            if (p.full) r.push_back(p.along);
        }
        return hole ? r : std::vector<Stretch>{};
    }

  private:
    struct Piece {
        bool full; ///< material on the axis; just outside the circle only where not
        Stretch along;
    };
    /// With space between them.
    std::vector<Piece> piecesAlong(const Arc& circle) {
        constexpr double kBeside = 1.01; // of the radius
        const auto within = met(circle.centre),
                   beside = met(circle.centre + Vec2{kBeside * circle.radius, 0});
        std::vector<double> places = within;
        places.insert(places.end(), beside.begin(), beside.end());
        std::ranges::sort(places);
        const auto solidAt = [](const std::vector<double>& of, double at) {
            return std::ranges::count_if(of, [&](double x) { return x < at; }) % 2 == 1;
        };
        std::vector<Piece> r;
        for (size_t i = 0; i + 1 < places.size(); ++i) {
            if (places[i + 1] - places[i] <= tol_) continue;
            const double at = 0.5 * (places[i] + places[i + 1]);
            const bool full = solidAt(within, at);
            if (!full && !solidAt(beside, at)) continue;
            if (!r.empty() && places[i] - r.back().along.high <= tol_)
                r.back().full = r.back().full || full, r.back().along.high = places[i + 1];
            else
                r.push_back({full, {places[i], places[i + 1]}});
        }
        return r;
    }
    std::vector<double> met(Vec2 p) {
        constexpr double kEndless = 1e9;
        const Vec3 at = p.x * unitOf(view_.axes.right) + p.y * unitOf(view_.axes.up),
                   along = unitOf(view_.axes.depth);
        return meets_(gp_Lin({at.x, at.y, at.z}, {along.x, along.y, along.z}), -kEndless, kEndless);
    }

    const FigureView& view_;
    double tol_;
    std::vector<HoleWall> walls_;
    LineMeets meets_;
    Stretch all_{};
};

/// Seeds of the areas that a circle is made of.
std::vector<Vec2> within(const Arc& circle, const FigureView& v, const AreaSets& areas, double tol) {
    std::vector<Vec2> r;
    const Box2 box = boxOf(Curve(circle)).grown(tol);
    for (const ClosedArea& a : areas.drawn)
        if (a.view == v.view && distance(a.seed, circle.centre) < circle.radius && box.contains(a.box))
            r.push_back(a.seed);
    return r;
}

} // namespace

std::vector<LackingHoles> lackingHoles(const Figure& f, const FigureView& v, const AreaSets& areas,
                                       const BuildResult& build) {
    const double tol = f.tolerances.proof;
    Columns columns(v, build, tol);
    std::vector<LackingHoles> r;
    for (const FigureCurve& c : f.curves) {
        const auto* circle = c.view == v.view && c.p0 < 0 ? std::get_if<Arc>(&c.drawn) : nullptr;
        if (!circle) continue;
        for (const Stretch& s : columns.withoutTheHole(*circle)) {
            const auto same = std::ranges::find_if(r, [&](const LackingHoles& o) {
                return std::abs(o.low - s.low) <= tol && std::abs(o.high - s.high) <= tol;
            });
            const Box2 near = boxOf(c.drawn);
            const auto low = markAtDepth(f, v, s.low, 2 * tol, near),
                       high = markAtDepth(f, v, s.high, 2 * tol, near);
            const std::vector<Vec2> seeds = within(*circle, v, areas, tol);
            if (seeds.empty() || !low || !high) continue;
            if (same != r.end())
                same->holes.push_back(seeds);
            else
                r.push_back({s.low, s.high, *low, *high, {seeds}});
        }
    }
    return r;
}

} // namespace prism
