#include "core/cleaning/workbench.h"

#include <tuple>

namespace prism::repairing {
namespace {

/// A straight line as an interval on its carrier, quantised so that equal carriers sort together.
struct OnCarrier {
    long long angle, offset;
    double from, to;
    int entity;
    auto key() const { return std::tie(angle, offset); }
};

OnCarrier onCarrier(const Segment& s, int entity, double tolerance) {
    Vec2 dir = normalized(s.b - s.a);
    if (dir.x < -1e-12 || (std::abs(dir.x) <= 1e-12 && dir.y < 0)) dir = -dir;
    const Vec2 n{-dir.y, dir.x};
    const double t0 = dot(s.a, dir), t1 = dot(s.b, dir);
    return {std::llround(angleOf(dir) * 1e6), std::llround(dot(s.a, n) / (tolerance * 20)), std::min(t0, t1),
            std::max(t0, t1), entity};
}

/// The line that stands for a run of overlapping ones, and whether a piece lies within it.
struct Run {
    OnCarrier line;
    double to;
};

void overlap(Workbench& w, Run& keep, const OnCarrier& l) {
    const Segment& s = std::get<Segment>(w.drawing().entities[keep.line.entity].curves[0]);
    const Segment& other = std::get<Segment>(w.drawing().entities[l.entity].curves[0]);
    if (!w.record("overlapping", {keep.line.entity, l.entity}, other.a, keep.to - l.from)) return;
    const Vec2 dir = normalized(s.b - s.a);
    auto beyond = [&](Vec2 p, Vec2 than) { return dot(p - than, dir) > 0; };
    Segment whole = s;
    for (Vec2 p : {other.a, other.b}) {
        if (beyond(whole.a, p)) whole.a = p;
        if (beyond(p, whole.b)) whole.b = p;
    }
    w.setCurves(keep.line.entity, {whole});
    w.setAside(l.entity);
    keep.to = l.to;
}

void repeatedLines(Workbench& w) {
    const double tol = w.touch();
    std::vector<OnCarrier> lines;
    for (const Entity& e : w.drawing().entities)
        if (w.isPartLine(e.id) && e.curves.size() == 1)
            if (auto* seg = std::get_if<Segment>(&e.curves[0])) lines.push_back(onCarrier(*seg, e.id, tol));
    std::sort(lines.begin(), lines.end(), [](const OnCarrier& a, const OnCarrier& b) {
        return std::make_tuple(a.angle, a.offset, a.from, -a.to, a.entity) <
               std::make_tuple(b.angle, b.offset, b.from, -b.to, b.entity);
    });
    auto role = [&](const OnCarrier& l) { return w.sheet().entity_roles[l.entity]; };
    Run keep{};
    for (size_t i = 0; i < lines.size(); ++i) {
        const OnCarrier& l = lines[i];
        if (i == 0 || keep.line.key() != l.key() || role(keep.line) != role(l) || l.from > keep.to - tol) {
            keep = {l, l.to};
            continue;
        }
        if (l.to > keep.to + tol) {
            overlap(w, keep, l);
            continue;
        }
        const bool exact = std::abs(l.from - keep.line.from) <= tol && std::abs(l.to - keep.to) <= tol;
        if (w.record(exact ? "duplicate" : "contained", {l.entity},
                     startOf(w.drawing().entities[l.entity].curves[0])))
            w.setAside(l.entity);
    }
}

void repeatedArcs(Workbench& w) {
    const double tol = w.touch();
    auto q = [&](double v) { return std::llround(v / (tol * 20)); };
    std::map<std::tuple<long long, long long, long long, long long, long long, int>, int> seen;
    for (const Entity& e : w.drawing().entities) {
        if (!w.isPartLine(e.id) || e.curves.size() != 1) continue;
        const auto* a = std::get_if<Arc>(&e.curves[0]);
        if (!a) continue;
        const long long start =
            a->full() ? 0 : std::llround(positiveAngle(a->sweep > 0 ? a->start : a->start + a->sweep) * 1e6);
        const auto key = std::make_tuple(q(a->centre.x), q(a->centre.y), q(a->radius), start,
                                         std::llround(std::abs(a->sweep) * 1e6),
                                         static_cast<int>(w.sheet().entity_roles[e.id]));
        if (seen.emplace(key, e.id).second) continue;
        if (w.record("duplicate", {e.id}, a->centre)) w.setAside(e.id);
    }
}

} // namespace

void setSpecksAside(Workbench& w) {
    for (const Entity& e : w.drawing().entities) {
        if (!w.isPartLine(e.id) || e.curves.empty()) continue;
        double sum = 0;
        for (const Curve& c : e.curves) sum += lengthOf(c);
        if (sum <= w.touch() && w.record("speck", {e.id}, startOf(e.curves[0]), sum)) w.setAside(e.id);
    }
}

void setRepeatsAside(Workbench& w) {
    repeatedLines(w);
    repeatedArcs(w);
}

} // namespace prism::repairing
