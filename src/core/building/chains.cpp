#include "core/base/crossings.h"
#include "core/base/curve_ends.h"
#include "core/building/kernel.h"
#include "core/building/places.h"
#include "core/building/step_bodies.h"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <Bnd_Box.hxx>
#include <TopoDS.hxx>
#include <fmt/format.h>

// Steps that begin with an open chain of lines: walls along it, ribs up to what they meet, and all that lies
// on one side of it.
namespace prism::building {
namespace {

using Chain = std::vector<std::pair<int, Curve>>;

struct Picked {
    const FigureView* view;
    Chain chain;
};

Result<Picked> picked(const Figure& f, const Step& s) {
    const FigureView* v = f.viewNamed(s.view);
    if (!v)
        return failure(ErrorCode::impossible,
                       fmt::format("there is no {} view on the sheet", nameOf(s.view)));
    auto chain = chainAt(f, *v, s.places);
    if (!chain) return tl::make_unexpected(chain.error());
    if (distance(startOf(chain->front().second), endOf(chain->back().second)) <= 4 * f.tolerances.same_model)
        return failure(ErrorCode::impossible, "the lines close: pick the area inside instead");
    return Picked{v, std::move(*chain)};
}

/// Whether a place lies left of a chain, seen along it: left of the piece that it is nearest to.
bool isLeft(const Chain& chain, Vec2 p) {
    double least = std::numeric_limits<double>::infinity();
    bool left = false;
    for (const auto& [id, c] : chain) {
        const double t = nearestParameter(c, p), d = distance(pointAt(c, t), p);
        if (d < least) least = d, left = cross(tangentAt(c, t), p - pointAt(c, t)) > 0;
    }
    return left;
}

/// A border put together edge by edge.
class Border {
  public:
    void add(int curve, const Curve& c) {
        AreaEdge e;
        e.curve = curve, e.shape = c, e.from = static_cast<int>(loop_.size()), e.to = e.from + 1;
        loop_.push_back(e);
    }
    /// Counter-clockwise.
    Loop closed() {
        loop_.back().to = 0;
        if (signedArea(loop_) > 0) return std::move(loop_);
        std::ranges::reverse(loop_);
        for (AreaEdge& e : loop_) e.shape = reversed(e.shape), std::swap(e.from, e.to);
        return std::move(loop_);
    }

  private:
    Loop loop_;
};

/// The side of a chain on which a place lies, as a border: the chain runs on straight at both ends, far out,
/// and the far corners close it.
Loop sideOf(const Chain& chain, bool left, double far) {
    const Vec2 a = startOf(chain.front().second), b = endOf(chain.back().second);
    const Vec2 before = a - tangentAt(chain.front().second, 0) * far,
               beyond = b + tangentAt(chain.back().second, 1) * far;
    const Vec2 d = normalized(beyond - before),
               aside = (left ? Vec2{-d.y, d.x} : Vec2{d.y, -d.x}) * (3 * far);
    Border r;
    r.add(chain.front().first, Segment{before, a});
    for (const auto& [id, c] : chain) r.add(id, c);
    r.add(chain.back().first, Segment{b, beyond});
    r.add(-1, Segment{beyond, beyond + aside});
    r.add(-1, Segment{beyond + aside, before + aside});
    r.add(-1, Segment{before + aside, before});
    return r.closed();
}

/// One piece of a chain moved square to itself, to the left for a distance above zero; none where an arc has
/// no such radius, and for free-form lines.
std::optional<Curve> besideOf(const Curve& c, double by) {
    if (const auto* s = std::get_if<Segment>(&c)) {
        const Vec2 d = normalized(s->b - s->a), n = Vec2{-d.y, d.x} * by;
        return Segment{s->a + n, s->b + n};
    }
    const auto* a = std::get_if<Arc>(&c);
    if (!a) return std::nullopt;
    Arc r = *a;
    r.radius += a->sweep > 0 ? -by : by;
    return r.radius > 1e-9 ? std::optional<Curve>(r) : std::nullopt;
}

/// A chain moved square to itself, its pieces made longer or shorter until they meet again.
std::optional<Chain> besideOf(const Chain& chain, double by, double tol) {
    Chain r;
    for (const auto& [id, c] : chain) {
        const auto moved = by == 0 ? std::optional(c) : besideOf(c, by);
        if (!moved) return std::nullopt;
        r.emplace_back(id, *moved);
    }
    const double reach = 4 * std::abs(by);
    for (size_t i = 1; i < r.size(); ++i) {
        Curve &p = r[i - 1].second, &q = r[i].second;
        if (distance(endOf(p), startOf(q)) <= tol) continue;
        const Curve longer_p = prolonged(p, 1, reach), longer_q = prolonged(q, 0, reach);
        const Vec2 joint = startOf(chain[i].second);
        const auto meet = crossings(longer_p, longer_q, tol);
        if (meet.empty()) return std::nullopt;
        const Vec2 at = *std::ranges::min_element(meet, {}, [&](Vec2 x) { return distance(x, joint); });
        p = endedAt(p, 1, at), q = endedAt(q, 0, at);
    }
    return r;
}

StepBody pushed(const Figure& f, const FigureView& v, const Range& range, const Loop& loop, int index) {
    StepBody r;
    Plane plane(f, v, range.lo);
    plane.arcs_from = plane.commonOrigin();
    const PlaneFace face = faceOf(loop, plane);
    BRepPrimAPI_MakePrism prism(face.face, gp_Vec(packed(plane.deep) * (range.hi - range.lo)));
    nameFaces(prism, face.border, index, true, r.names);
    r.low = curvesAtMark(f, range.low, v.axes.depth), r.high = curvesAtMark(f, range.high, v.axes.depth);
    r.shape = prism.Shape();
    return r;
}

double farOf(const Figure& f) {
    return 4 * f.size + 10;
}

/// Whether a body reaches further out than any solid of the figure.
bool runsOut(const TopoDS_Shape& body, double size) {
    Bnd_Box box;
    BRepBndLib::Add(body, box, false);
    double x0, y0, z0, x1, y1, z1;
    box.Get(x0, y0, z0, x1, y1, z1);
    return std::max({x1 - x0, y1 - y0, z1 - z0}) > 2 * size + 5;
}

} // namespace

Result<StepBody> walled(const Figure& f, const Step& s, int index) {
    const auto p = picked(f, s);
    if (!p) return tl::make_unexpected(p.error());
    const auto range = reachOf(f, s, *p->view, s.to);
    if (!range) return tl::make_unexpected(range.error());
    const double t = s.thickness, tol = f.tolerances.same_model;
    // Without a side the lines run in its middle.
    const bool middle = s.side == Vec2{}, left = isLeft(p->chain, Warp(f, p->view->view)(s.side));
    const auto low = besideOf(p->chain,
                              middle ? -0.5 * t
                              : left ? 0
                                     : -t,
                              tol),
               high = besideOf(p->chain,
                               middle ? 0.5 * t
                               : left ? t
                                      : 0,
                               tol);
    if (!low || !high)
        return failure(ErrorCode::impossible,
                       fmt::format("a wall of {:g} mm does not fit round the lines of its chain", t));
    Border border;
    for (const auto& [id, c] : *low) border.add(id, c);
    border.add(-1, Segment{endOf(low->back().second), endOf(high->back().second)});
    for (auto it = high->rbegin(); it != high->rend(); ++it) border.add(it->first, reversed(it->second));
    border.add(-1, Segment{startOf(high->front().second), startOf(low->front().second)});
    return pushed(f, *p->view, *range, border.closed(), index);
}

Result<StepBody> sloped(const Figure& f, const Step& s, int index) {
    const auto p = picked(f, s);
    if (!p) return tl::make_unexpected(p.error());
    const auto range = reachOf(f, s, *p->view, s.to);
    if (!range) return tl::make_unexpected(range.error());
    const Vec2 side = Warp(f, p->view->view)(s.side);
    return pushed(f, *p->view, *range, sideOf(p->chain, isLeft(p->chain, side), farOf(f)), index);
}

Result<StepBody> ribbed(const Figure& f, const Step& s, int index, const TopoDS_Shape& solid) {
    const auto p = picked(f, s);
    if (!p) return tl::make_unexpected(p.error());
    const auto part = partRange(f, *p->view);
    const auto middle = boundValue(f, *p->view, s.from, part ? 0.5 * (part->lo + part->hi) : 0);
    if (!middle) return tl::make_unexpected(middle.error());
    const double half = 0.5 * s.thickness, far = farOf(f);
    const Vec2 side = Warp(f, p->view->view)(s.side);
    StepBody r = pushed(f, *p->view, Range{*middle - half, *middle + half, {}, {}},
                        sideOf(p->chain, isLeft(p->chain, side), far), index);
    // What the solid leaves of that side: the pieces at the chain that do not run out into the open.
    BRepAlgoAPI_Cut left(r.shape, solid);
    if (!left.IsDone()) throw KernelError("the rib could not be fitted to the solid");
    Plane plane(f, *p->view, *middle);
    plane.arcs_from = plane.commonOrigin();
    std::vector<TopoDS_Shape> pieces;
    bool open = false;
    for (TopExp_Explorer x(left.Shape(), TopAbs_SOLID); x.More(); x.Next()) {
        const auto touches = [&](const auto& c) {
            const TopoDS_Vertex on = BRepBuilderAPI_MakeVertex(plane.point(pointAt(c.second, 0.5)));
            return BRepExtrema_DistShapeShape(on, x.Current()).Value() < 10 * f.tolerances.same_model;
        };
        if (std::ranges::none_of(p->chain, touches)) continue;
        if (runsOut(x.Current(), f.size))
            open = true;
        else
            pieces.push_back(x.Current());
    }
    if (pieces.empty())
        return failure(ErrorCode::impossible,
                       open ? "the rib meets nothing on that side: it would run out into the open"
                            : "there is no room for the rib: the solid is there already");
    r.names.follow(left, r.shape);
    r.shape = together(pieces);
    return r;
}

} // namespace prism::building
