#include "core/proposing/usual_choices.h"

#include "core/building/line_meets.h"
#include "core/proposing/chamfers_seen.h"
#include "core/proposing/mark_bounds.h"

#include <BRepAdaptor_Surface.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <fmt/format.h>

#include <span>

namespace prism {
namespace {

/// The circle that an area fills; null where its border is another.
const Arc* circleOf(const ClosedArea& a, double tol) {
    const auto* first = std::get_if<Arc>(&a.outer.front().shape);
    const bool round = first && std::ranges::all_of(a.outer, [&](const AreaEdge& e) {
                           const auto* arc = std::get_if<Arc>(&e.shape);
                           return arc && distance(arc->centre, first->centre) <= tol &&
                                  std::abs(arc->radius - first->radius) <= tol;
                       });
    return round ? first : nullptr;
}

/// Whether a step cuts nothing but full circles of a view.
bool cutsCircles(const Figure& f, const AreaSets& areas, const Step& s) {
    const FigureView* v = f.viewNamed(s.view);
    if (!v || s.kind != StepKind::extrude || s.operation != Operation::cut || !s.tops.empty()) return false;
    const auto isCircle = [&](Vec2 seed) {
        return std::ranges::any_of(areas.drawn, [&](const ClosedArea& a) {
            return a.view == v->view && circleOf(a, f.tolerances.proof) && a.contains(seed);
        });
    };
    return !s.areas.empty() && std::ranges::all_of(s.areas, isCircle);
}

/// The same steps with one of them through, as one step with another such cut where there is one.
std::vector<Step> withThrough(const Figure& f, const AreaSets& areas, std::vector<Step> steps, size_t i) {
    Step s = steps[i];
    s.reach = Reach::through, s.from = {}, s.to = {};
    const auto other = std::ranges::find_if(steps, [&](const Step& o) {
        return o.reach == Reach::through && o.view == s.view && cutsCircles(f, areas, o);
    });
    if (other == steps.end()) {
        steps[i] = std::move(s);
        return steps;
    }
    other->areas.insert(other->areas.end(), s.areas.begin(), s.areas.end());
    steps.erase(steps.begin() + static_cast<long>(i));
    return steps;
}

void preferThrough(const Figure& f, const AreaSets& areas, Judge& best) {
    for (size_t i = 0; i < best.steps.size(); ++i) {
        const Step& s = best.steps[i];
        if (s.reach != Reach::between || !cutsCircles(f, areas, s)) continue;
        const size_t n = s.areas.size(), before = best.steps.size();
        best.prefer(withThrough(f, areas, best.steps, i),
                    fmt::format("{} round cut{} to a depth in place of through", n, n == 1 ? "" : "s"));
        if (best.steps.size() < before) --i;
    }
}

/// Whether the solid has a hollow round wall about an axis.
bool hasWall(const TopoDS_Shape& solid, const gp_Lin& axis, double radius, double tol) {
    for (TopExp_Explorer x(solid, TopAbs_FACE); x.More(); x.Next()) {
        const BRepAdaptor_Surface s(TopoDS::Face(x.Current()), false);
        if (s.GetType() != GeomAbs_Cylinder) continue;
        const gp_Cylinder c = s.Cylinder();
        if (c.Direct() == (x.Current().Orientation() == TopAbs_REVERSED) &&
            std::abs(c.Radius() - radius) <= tol && c.Axis().Direction().IsParallel(axis.Direction(), 1e-9) &&
            axis.Distance(c.Location()) <= tol)
            return true;
    }
    return false;
}

struct Stretch {
    double low, high; ///< mm along a depth axis
};

/// Along the axis of a circle that bounds a hole in one place, the stretches of material that have none, with
/// space between the two.
std::vector<Stretch> withoutTheHole(const FigureView& v, const Arc& circle, const TopoDS_Shape& solid,
                                    double tol) {
    const Vec3 right = unitOf(v.axes.right), up = unitOf(v.axes.up), along = unitOf(v.axes.depth);
    const auto lineAt = [&](Vec2 p) {
        const Vec3 at = p.x * right + p.y * up;
        return gp_Lin({at.x, at.y, at.z}, {along.x, along.y, along.z});
    };
    const gp_Lin axis = lineAt(circle.centre);
    if (!hasWall(solid, axis, circle.radius, tol)) return {};
    constexpr double kEndless = 1e9, kBeside = 1.01;
    LineMeets meets(solid);
    const auto within = meets(axis, -kEndless, kEndless);
    const auto beside = meets(lineAt(circle.centre + Vec2{kBeside * circle.radius, 0}), -kEndless, kEndless);
    std::vector<double> places = within;
    places.insert(places.end(), beside.begin(), beside.end());
    std::ranges::sort(places);
    const auto solidAt = [](const std::vector<double>& of, double at) {
        return std::ranges::count_if(of, [&](double x) { return x < at; }) % 2 == 1;
    };
    struct Piece {
        bool full; ///< material on the axis; beside it only where not
        Stretch along;
    };
    std::vector<Piece> pieces; // with space between them
    for (size_t i = 0; i + 1 < places.size(); ++i) {
        if (places[i + 1] - places[i] <= tol) continue;
        const double at = 0.5 * (places[i] + places[i + 1]);
        const bool full = solidAt(within, at);
        if (!full && !solidAt(beside, at)) continue;
        if (!pieces.empty() && places[i] - pieces.back().along.high <= tol) {
            pieces.back().full = pieces.back().full || full;
            pieces.back().along.high = places[i + 1];
        } else
            pieces.push_back({full, {places[i], places[i + 1]}});
    }
    std::vector<Stretch> r;
    if (std::ranges::any_of(pieces, [](const Piece& p) { return !p.full; }))
        for (const Piece& p : pieces)
            if (p.full) r.push_back(p.along);
    return r;
}

/// Seeds of the areas that a circle is made of.
std::vector<Vec2> within(const Arc& circle, const FigureView& v, const AreaSets& areas, double tol) {
    std::vector<Vec2> r;
    const Box2 box = boxOf(Curve(circle));
    for (const ClosedArea& a : areas.drawn)
        if (a.view == v.view && distance(a.seed, circle.centre) < circle.radius &&
            a.box.lo.x >= box.lo.x - tol && a.box.lo.y >= box.lo.y - tol && a.box.hi.x <= box.hi.x + tol &&
            a.box.hi.y <= box.hi.y + tol)
            r.push_back(a.seed);
    return r;
}

/// Holes of one axis in several places of the part, as in the flanges at both ends of a pipe, where in one
/// place the lines of others stand for theirs: there as well.
void preferAlike(const Figure& f, const AreaSets& areas, Judge& best) {
    const double tol = f.tolerances.proof;
    for (const FigureView& v : f.views) {
        if (!v.principal()) continue;
        std::vector<Stretch> stretches;
        std::vector<std::pair<Bound, Bound>> bounds;      // of each stretch
        std::vector<std::vector<std::vector<Vec2>>> cuts; // of each: its holes, by seeds of their areas
        for (const FigureCurve& c : f.curves) {
            const auto* circle = c.view == v.view && c.p0 < 0 ? std::get_if<Arc>(&c.drawn) : nullptr;
            const std::vector<Vec2> seeds = circle ? within(*circle, v, areas, tol) : std::vector<Vec2>{};
            if (seeds.empty()) continue;
            for (const Stretch& s : withoutTheHole(v, *circle, best.build.shape, tol)) {
                const auto same = std::ranges::find_if(stretches, [&](const Stretch& o) {
                    return std::abs(o.low - s.low) <= tol && std::abs(o.high - s.high) <= tol;
                });
                if (same != stretches.end()) {
                    cuts[static_cast<size_t>(same - stretches.begin())].push_back(seeds);
                    continue;
                }
                const Box2 near = boxOf(Curve(*circle));
                const auto low = markAtDepth(f, v, s.low, 2 * tol, near),
                           high = markAtDepth(f, v, s.high, 2 * tol, near);
                if (!low || !high) continue;
                cuts.push_back({seeds}), bounds.push_back({*low, *high}), stretches.push_back(s);
            }
        }
        const auto taken = [&](size_t stretch, std::span<const std::vector<Vec2>> holes) {
            Step cut;
            cut.kind = StepKind::extrude, cut.operation = Operation::cut, cut.view = v.name;
            for (const auto& seeds : holes) cut.areas.insert(cut.areas.end(), seeds.begin(), seeds.end());
            cut.reach = Reach::between, cut.from = bounds[stretch].first, cut.to = bounds[stretch].second;
            std::vector<Step> steps = best.steps;
            steps.push_back(std::move(cut));
            const size_t kept = best.others.size();
            best.prefer(std::move(steps), fmt::format("{} hole{} fewer behind others of the same axis",
                                                      holes.size(), holes.size() == 1 ? "" : "s"));
            return best.others.size() > kept;
        };
        for (size_t i = 0; i < cuts.size(); ++i)
            if (!taken(i, cuts[i]) && cuts[i].size() > 1)
                for (const auto& seeds : cuts[i]) taken(i, {&seeds, 1});
    }
}

void preferChamfers(const Figure& f, const AreaSets& areas, Judge& best) {
    for (const ChamferForStep& c : chamfersForSteps(f, areas, best.build.shape)) {
        std::vector<Step> steps = best.steps;
        steps.insert(steps.end(), {c.fill, c.cut});
        best.prefer(std::move(steps),
                    fmt::format("a step of {0:g} mm in place of the chamfer of {0:g} mm at the "
                                "radius of {1:g} mm",
                                c.width, c.radius));
    }
}

/// Two holes that face each other from both sides of the part, as in the arms of a fork, as one that runs
/// through both, where that takes away nothing else.
void joinFacingHoles(Judge& best) {
    const auto facing = [](const Step& a, const Step& b) {
        Step o = b;
        o.hole.from_far = !o.hole.from_far, o.to = a.to, o.name = a.name;
        return a.kind == StepKind::hole && a.reach == Reach::between && a.hole.kind == HoleKind::plain &&
               a == o;
    };
    for (size_t i = 0; i < best.steps.size(); ++i)
        for (size_t k = i + 1; k < best.steps.size(); ++k) {
            if (!facing(best.steps[i], best.steps[k])) continue;
            std::vector<Step> steps = best.steps;
            Step& one = steps[i];
            one.reach = Reach::through, one.from = one.to = {}, one.name = {};
            one.hole.from_far = false, one.hole.point = HoleShape{}.point;
            steps.erase(steps.begin() + static_cast<std::ptrdiff_t>(k));
            best.restate(std::move(steps));
        }
}

} // namespace

void preferUsual(const Figure& f, const AreaSets& areas, Judge& best) {
    preferThrough(f, areas, best);
    preferAlike(f, areas, best);
    preferChamfers(f, areas, best);
    joinFacingHoles(best);
}

} // namespace prism
