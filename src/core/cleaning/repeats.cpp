#include "core/cleaning/repeats.h"

#include <tuple>

namespace prism {
namespace {

/// A straight line as an interval on its carrier, quantised so that equal carriers sort together.
struct OnCarrier {
    long long angle, offset;
    double from, to;
    int entity;
    auto key() const { return std::tie(angle, offset); }
};

/// Only the part's own lines are repaired; border, notes and the like stay as drawn.
bool isPartLine(const CleanSheet& s, const Entity& e) {
    const LineRole r = s.entity_roles[e.id];
    return s.in_use[e.id] && (r == LineRole::outline || r == LineRole::hidden || r == LineRole::centre);
}

OnCarrier onCarrier(const Segment& s, int entity, double tolerance) {
    Vec2 dir = normalized(s.b - s.a);
    if (dir.x < -1e-12 || (std::abs(dir.x) <= 1e-12 && dir.y < 0)) dir = -dir;
    const Vec2 n{-dir.y, dir.x};
    const double t0 = dot(s.a, dir), t1 = dot(s.b, dir);
    return {std::llround(angleOf(dir) * 1e6), std::llround(dot(s.a, n) / (tolerance * 20)), std::min(t0, t1),
            std::max(t0, t1), entity};
}

void repeatedLines(const Drawing& d, CleanSheet& s) {
    const double tol = s.tolerances.touch_sheet;
    std::vector<OnCarrier> lines;
    for (const Entity& e : d.entities)
        if (isPartLine(s, e) && e.curves.size() == 1)
            if (auto* seg = std::get_if<Segment>(&e.curves[0])) lines.push_back(onCarrier(*seg, e.id, tol));
    std::sort(lines.begin(), lines.end(), [](const OnCarrier& a, const OnCarrier& b) {
        return std::make_tuple(a.angle, a.offset, a.from, -a.to, a.entity) <
               std::make_tuple(b.angle, b.offset, b.from, -b.to, b.entity);
    });
    for (size_t i = 0, keep = 0; i < lines.size(); ++i) {
        const OnCarrier &k = lines[keep], &l = lines[i];
        const bool same = i > 0 && k.key() == l.key() && i != keep;
        if (!same) {
            keep = i;
            continue;
        }
        if (l.to <= k.to + tol && s.entity_roles[l.entity] == s.entity_roles[k.entity]) {
            const bool exact = std::abs(l.from - k.from) <= tol && std::abs(l.to - k.to) <= tol;
            s.in_use[l.entity] = false;
            s.repairs.push_back(
                {exact ? "duplicate" : "contained", {l.entity}, startOf(d.entities[l.entity].curves[0])});
        } else if (l.to > k.to)
            keep = i;
    }
}

void repeatedArcs(const Drawing& d, CleanSheet& s) {
    const double tol = s.tolerances.touch_sheet;
    auto q = [&](double v) { return std::llround(v / (tol * 20)); };
    std::map<std::tuple<long long, long long, long long, long long, long long, int>, int> seen;
    for (const Entity& e : d.entities) {
        if (!isPartLine(s, e) || e.curves.size() != 1) continue;
        const auto* a = std::get_if<Arc>(&e.curves[0]);
        if (!a) continue;
        const long long start =
            a->full() ? 0 : std::llround(positiveAngle(a->sweep > 0 ? a->start : a->start + a->sweep) * 1e6);
        const auto key =
            std::make_tuple(q(a->centre.x), q(a->centre.y), q(a->radius), start,
                            std::llround(std::abs(a->sweep) * 1e6), static_cast<int>(s.entity_roles[e.id]));
        if (seen.emplace(key, e.id).second) continue;
        s.in_use[e.id] = false;
        s.repairs.push_back({"duplicate", {e.id}, a->centre});
    }
}

void specks(const Drawing& d, CleanSheet& s) {
    for (const Entity& e : d.entities) {
        if (!isPartLine(s, e) || e.curves.empty()) continue;
        double sum = 0;
        for (const Curve& c : e.curves) sum += lengthOf(c);
        if (sum > s.tolerances.touch_sheet) continue;
        s.in_use[e.id] = false;
        s.repairs.push_back({"speck", {e.id}, startOf(e.curves[0])});
    }
}

} // namespace

void setAsideRepeats(const Drawing& d, CleanSheet& s) {
    specks(d, s);
    repeatedLines(d, s);
    repeatedArcs(d, s);
}

} // namespace prism
