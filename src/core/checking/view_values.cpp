#include "core/checking/view_values.h"

namespace prism::checking {
namespace {

/// Coordinates of joints where lines run smoothly into arcs, along the common tangent: no edge of the part
/// ends there, so a neighbour view shows no line.
std::set<int> smoothJoints(const Figure& f) {
    std::set<int> r;
    for (const Relation& rel : f.relations) {
        if (rel.kind != RelationKind::tangent || rel.curves.size() != 2) continue;
        const FigureCurve &a = f.curves[rel.curves[0]], &b = f.curves[rel.curves[1]];
        const int joint = a.p0 == b.p0 || a.p0 == b.p1 ? a.p0 : a.p1;
        if (joint < 0 || a.centre < 0) continue;
        const FigurePoint& p = f.points[joint];
        const Vec2 radius = f.at(p, f.drawn) - f.at(f.points[a.centre], f.drawn);
        if (std::abs(radius.x) <= std::abs(radius.y)) r.insert(p.u);
        if (std::abs(radius.y) <= std::abs(radius.x)) r.insert(p.v);
    }
    return r;
}

} // namespace

std::vector<double> valuesOf(const Figure& f, int view, Axis axis) {
    const FigureView* v = f.viewById(view);
    if (!v) return {}; // of two views with one role only one is in the figure
    const int k = v->axes.right == axis ? 0 : 1;
    const double slack = f.tolerances.proof, lo = v->box.lo[k] - slack, hi = v->box.hi[k] + slack;
    std::vector<double> r;
    for (const Mark& m : f.marks)
        if (m.view == view && m.axis == axis && m.value >= lo && m.value <= hi) r.push_back(m.value);
    std::sort(r.begin(), r.end());
    r.erase(
        std::unique(r.begin(), r.end(), [&](double a, double b) { return b - a <= f.tolerances.same_model; }),
        r.end());
    return r;
}

bool has(const std::vector<double>& v, double x, double tolerance) {
    const auto it = std::lower_bound(v.begin(), v.end(), x - tolerance);
    return it != v.end() && *it <= x + tolerance;
}

std::vector<Unmatched> unmatchedIn(const CheckInput& in, int from, int to, Axis axis) {
    const Figure& f = in.figure;
    const double tolerance = sameCoordinate(f);
    const std::set<int> smooth = smoothJoints(f);
    const auto there = valuesOf(f, to, axis);
    std::vector<Unmatched> r;
    if (there.empty()) return r;
    for (const Mark& m : f.marks) {
        if (m.view != from || m.axis != axis || m.curve < 0 || has(there, m.value, tolerance)) continue;
        if (m.terms.size() == 1 && smooth.contains(m.terms[0].variable)) continue;
        const FigureCurve& c = f.curves[static_cast<size_t>(m.curve)];
        const bool straight = std::holds_alternative<Segment>(c.drawn);
        const bool round = c.radius >= 0 && c.p0 < 0 && m.terms.size() > 1;
        if (straight || round) r.push_back({m.value, m.curve, round});
    }
    std::ranges::stable_sort(r, {}, &Unmatched::value);
    const auto repeats = [&](const Unmatched& a, const Unmatched& b) {
        return b.value - a.value <= tolerance;
    };
    r.erase(std::unique(r.begin(), r.end(), repeats), r.end());
    return r;
}

} // namespace prism::checking
