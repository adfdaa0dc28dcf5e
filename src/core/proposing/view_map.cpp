#include "core/proposing/view_map.h"

namespace prism {
namespace {

/// Where a curve meets the line on which coordinate `fixed` (0 right, 1 up) has the value `at`. `pts`: places
/// on it, of one that is no arc.
void meet(const Curve& c, const std::vector<Vec2>& pts, int fixed, double at, double tolerance,
          std::vector<double>& out) {
    if (const auto* a = std::get_if<Arc>(&c)) {
        const double off = at - a->centre[fixed], h2 = a->radius * a->radius - off * off;
        if (h2 < 0) return;
        for (double s : {-std::sqrt(h2), std::sqrt(h2)}) {
            const Vec2 p = fixed == 0 ? Vec2{at, a->centre.y + s} : Vec2{a->centre.x + s, at};
            if (a->full() || distanceTo(c, p) <= tolerance) out.push_back(p[1 - fixed]);
        }
        return;
    }
    for (size_t i = 1; i < pts.size(); ++i) {
        const double u = pts[i - 1][fixed], v = pts[i][fixed];
        if ((u > at) == (v > at)) continue;
        const double t = (at - u) / (v - u);
        out.push_back(pts[i - 1][1 - fixed] + t * (pts[i][1 - fixed] - pts[i - 1][1 - fixed]));
    }
}

/// Where the straight plane of a section stands on its depth axis, as drawn.
std::optional<double> planeOf(const Figure& f, const FigureView& v) {
    const FigureView* on = v.shows == Shows::cut ? f.viewById(v.on) : nullptr;
    if (!on) return std::nullopt;
    return on->axes.right == v.axes.depth ? v.line.a.x : v.line.a.y;
}

/// The middle of the part along an axis, as the views that show all of it have it.
std::optional<double> middleOf(const Figure& f, Axis axis) {
    for (const FigureView* v : f.principalViews()) {
        if (v->axes.right == axis) return v->box.centre().x;
        if (v->axes.up == axis) return v->box.centre().y;
    }
    return std::nullopt;
}

} // namespace

bool cutsSquare(const FigureView& v) {
    return v.shows == Shows::cut && v.square && v.legs.size() < 2;
}

ViewMap::ViewMap(const Figure& f, const FigureView& v, const std::vector<ClosedArea>& all,
                 const std::vector<KnownRegion>& known)
    : view_(&v), tolerance_(f.tolerances.same_model), proof_(f.tolerances.proof), cut_(planeOf(f, v)) {
    std::ranges::copy_if(known, std::back_inserter(known_),
                         [&](const KnownRegion& k) { return k.view == v.view; });
    if (const auto middle = middleOf(f, v.axes.depth); cut_ && middle)
        in_middle_ = std::abs(*cut_ - *middle) <= f.tolerances.proof;
    const auto cuts = localCutsIn(f, v.view);
    for (const ClosedArea& a : all) {
        if (a.view != v.view) continue;
        const auto broken =
            std::ranges::find_if(cuts, [&](const LocalCut* c) { return c->contains(a.seed); });
        broken_out_.push_back(broken != cuts.end());
        // Of a figure without its holes the areas are others than those that are hatched.
        const bool told = broken_out_.back() && !(*broken)->planes.empty() &&
                          std::ranges::find((*broken)->areas, a.bounds) != (*broken)->areas.end();
        local_.push_back(told ? std::optional(f.value((*broken)->planes.front(), f.drawn)) : std::nullopt);
        areas_.push_back(a);
        hatched_.push_back((cut_ || told) && isHatched(f, a));
        outlines_.emplace_back(polygonOf(a.outer, f.size * 2e-6));
        around_.push_back(signedArea(a.outer));
    }
    for (const FigureCurve& c : f.curves) {
        if (c.view != v.view || c.freehand) continue;
        curves_.emplace_back(c.role, c.drawn);
        places_.emplace_back(c.drawn);
        chords_.push_back(std::holds_alternative<Arc>(c.drawn) ? std::vector<Vec2>{}
                                                               : sampled(c.drawn, tolerance_));
        boxes_.push_back(boxOf(c.drawn).grown(tolerance_));
        has_hidden_ = has_hidden_ || c.role == LineRole::hidden;
    }
    std::vector<Box2> areas;
    for (const ClosedArea& a : areas_) areas.push_back(a.box);
    area_tree_.emplace(areas), curve_tree_.emplace(boxes_);
}

int ViewMap::areaAt(Vec2 p) const {
    // Of the areas whose outer border goes round the place it is the smallest: what lies in a hole lies
    // within another area as well.
    int best = -1;
    for (int i : area_tree_->overlapping({p, p}))
        if ((best < 0 || around_[i] < around_[best]) && outlines_[i].contains(p)) best = i;
    return best;
}

void ViewMap::crossings(int fixed, double at, std::vector<double>& out) const {
    for (size_t i = 0; i < curves_.size(); ++i)
        if (at >= boxes_[i].lo[fixed] && at <= boxes_[i].hi[fixed])
            meet(curves_[i].second, chords_[i], fixed, at, tolerance_, out);
    std::sort(out.begin(), out.end());
    out.erase(
        std::unique(out.begin(), out.end(), [&](double a, double b) { return b - a <= 4 * tolerance_; }),
        out.end());
}

const Scan& ViewMap::scan(Axis axis, double at) const {
    const int fixed = view_->axes.right == axis ? 0 : 1;
    const auto [it, fresh] = scans_.try_emplace({fixed, at});
    if (!fresh) return it->second;
    std::vector<double> all;
    crossings(fixed, at, all);
    Scan& s = it->second;
    s.regions.push_back(-1);
    for (size_t i = 0; i < all.size(); ++i) {
        const double mid = i + 1 < all.size() ? 0.5 * (all[i] + all[i + 1]) : all[i] + 1;
        const int region = i + 1 < all.size() ? areaAt(fixed == 0 ? Vec2{at, mid} : Vec2{mid, at}) : -1;
        if (region == s.regions.back()) continue;
        s.breaks.push_back(all[i]);
        s.regions.push_back(region);
    }
    return s;
}

bool ViewMap::showsCut(const Curve& c) const {
    if (cut_) return true;
    const Vec2 at = pointAt(c, 0.5), t = tangentAt(c, 0.5), beside = Vec2{-t.y, t.x} * (10 * proof_);
    return brokenOut(areaAt(at + beside)) || brokenOut(areaAt(at - beside));
}

int ViewMap::curveAt(Vec2 p) const {
    int best = -1;
    for (int i : curve_tree_->overlapping({p, p})) {
        const NearestPlace& on = places_[static_cast<size_t>(i)];
        if (on.farther(p, 2 * tolerance_) ||
            distance(pointAt(curves_[static_cast<size_t>(i)].second, on(p)), p) > 2 * tolerance_)
            continue;
        if (curves_[i].first == LineRole::outline) return i;
        best = i;
    }
    return best;
}

} // namespace prism
