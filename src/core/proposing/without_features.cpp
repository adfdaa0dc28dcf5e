#include "core/proposing/without_features.h"

#include "core/building/places.h"
#include "core/figure/rounds.h"

namespace prism {
namespace {

/// The line that goes on from one place to another, with the kind of the two that end there along it; nothing
/// where they do not.
std::optional<Closing> goneOn(const Figure& f, int view, Vec2 a, Vec2 b, double tol) {
    constexpr double kOneWay = 1e-3; // radians
    const FigureCurve *before = nullptr, *after = nullptr;
    for (const FigureCurve& c : f.curves) {
        if (c.view != view || !std::holds_alternative<Segment>(c.drawn)) continue;
        const Vec2 p = startOf(c.drawn), q = endOf(c.drawn);
        if (std::abs(cross(normalized(q - p), normalized(b - a))) > kOneWay) continue;
        if (distance(p, a) <= tol || distance(q, a) <= tol) before = &c;
        if (distance(p, b) <= tol || distance(q, b) <= tol) after = &c;
    }
    if (!before || !after || before->role != after->role) return std::nullopt;
    return Closing{view, {a, b}, before->role, {}};
}

} // namespace

void closeBores(const Figure& f, const std::vector<HoleSeen>& bores, std::vector<HoleSeen>& holes) {
    const double tol = 2 * f.tolerances.proof;
    const auto centreOn = [&](const building::HolePlane& of, Axis a) {
        return of.view.axes.right == a ? of.centres.front().x : of.centres.front().y;
    };
    for (const HoleSeen& bore : bores)
        for (HoleSeen& hole : holes) {
            const building::HolePlane own = *building::holePlane(f, bore.step),
                                      other = *building::holePlane(f, hole.step);
            if (own.along() == other.along()) continue;
            const double middle = centreOn(other, own.along()), axis = centreOn(own, other.along());
            for (const FigureView* o : f.principalViews()) { // that show both from the side
                if (o->axes.depth == own.along() || o->axes.depth == other.along()) continue;
                const auto place = [&](double at, double from_axis) {
                    return o->axes.right == own.along() ? Vec2{at, axis + from_axis}
                                                        : Vec2{axis + from_axis, at};
                };
                for (const double wall : {-bore.sizes[0], bore.sizes[0]})
                    if (auto c = goneOn(f, o->view, place(middle - hole.sizes[0], wall),
                                        place(middle + hole.sizes[0], wall), tol))
                        hole.closing.push_back(std::move(*c));
            }
        }
}

void straightPast(const Figure& f, const AreaSets& whole, const std::vector<HoleSeen>& holes,
                  std::vector<Step>& steps) {
    const double tol = 2 * f.tolerances.proof;
    for (const HoleSeen& h : holes)
        for (const Closing& c : h.closing)
            for (const int over : c.over) {
                const Vec2 at = pointAt(f.curves[static_cast<size_t>(over)].drawn, 0.5);
                for (Step& s : steps) {
                    const FigureView* v = f.viewNamed(s.view);
                    if (!v || v->view != c.view || s.areas.empty()) continue;
                    const bool borders = std::ranges::any_of(whole.drawn, [&](const ClosedArea& a) {
                        return a.view == v->view &&
                               std::ranges::any_of(s.areas, [&](Vec2 seed) { return a.contains(seed); }) &&
                               std::ranges::any_of(a.outer, [&](const AreaEdge& e) {
                                   return distanceTo(e.shape, at) <= tol;
                               });
                    });
                    if (borders) s.sharp.push_back(at);
                }
            }
}

Figure without(const Figure& f, const std::vector<SeenLines>& features) {
    std::map<int, std::vector<std::pair<double, double>>> gone;
    for (const SeenLines& h : features)
        for (const CurvePart& p : h.lines) gone[p.curve].emplace_back(p.from, p.to);
    Figure r = f;
    r.curves.clear();
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        const auto it = gone.find(static_cast<int>(i));
        if (it == gone.end()) {
            r.curves.push_back(c);
            continue;
        }
        std::ranges::sort(it->second);
        double kept = 0; // up to here the curve is dealt with
        it->second.emplace_back(1, 1);
        for (const auto& [from, to] : it->second) {
            if (from > kept && c.p0 >= 0) {
                FigureCurve rest = c;
                rest.drawn = part(c.drawn, kept, from);
                if (kept > 0) rest.p0 = addPoint(r, c.view, startOf(rest.drawn));
                if (from < 1) rest.p1 = addPoint(r, c.view, endOf(rest.drawn));
                r.curves.push_back(std::move(rest));
            }
            kept = std::max(kept, to);
        }
    }
    for (const SeenLines& h : features)
        for (const Closing& s : h.closing) {
            FigureCurve c;
            c.view = s.view, c.drawn = s.line, c.role = s.role;
            c.p0 = addPoint(r, s.view, s.line.a), c.p1 = addPoint(r, s.view, s.line.b);
            r.curves.push_back(std::move(c));
        }
    return r;
}

} // namespace prism
