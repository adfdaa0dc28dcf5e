#include "core/cleaning/carriers.h"

#include <tuple>

namespace prism::cleaning {
namespace {

/// Where runs of sorted values end: the next lies farther on than `same`, or the first than twice that.
template <class Value> std::vector<size_t> endsOfRuns(size_t n, double same, const Value& value) {
    std::vector<size_t> r;
    for (size_t i = 1, first = 0; i <= n; ++i)
        if (i == n || value(i) - value(i - 1) > same || value(i) - value(first) > 2 * same)
            r.push_back(i), first = i;
    return r;
}

struct Directed {
    size_t line;
    double angle; ///< of its undirected line, counted on from the widest gap between directions
};

/// Sorted by direction. Directions close up in a ring of half a turn, which is cut where it is emptiest.
std::vector<Directed> byDirection(const std::vector<Segment>& lines) {
    std::vector<Directed> r;
    for (size_t i = 0; i < lines.size(); ++i)
        if (const Vec2 d = lines[i].b - lines[i].a; length(d) > 0)
            r.push_back({i, std::fmod(positiveAngle(angleOf(d)), kPi)});
    const auto sooner = [](const Directed& a, const Directed& b) {
        return std::tie(a.angle, a.line) < std::tie(b.angle, b.line);
    };
    std::sort(r.begin(), r.end(), sooner);
    if (r.empty()) return r;
    size_t cut = 0;
    double widest = r.front().angle + kPi - r.back().angle;
    for (size_t i = 1; i < r.size(); ++i)
        if (const double gap = r[i].angle - r[i - 1].angle; gap > widest) widest = gap, cut = i;
    for (size_t i = 0; i < cut; ++i) r[i].angle += kPi;
    std::rotate(r.begin(), r.begin() + static_cast<long>(cut), r.end());
    return r;
}

std::vector<Lying> laid(const std::vector<Segment>& lines, const Directed* from, const Directed* to) {
    // The long ones say how exactly the direction runs; offsets count from the middle, where a direction that
    // is a little off matters least.
    double weights = 0, weighted = 0;
    Box2 box;
    for (const Directed* d = from; d != to; ++d) {
        const Segment& s = lines[d->line];
        const double w = dot(s.b - s.a, s.b - s.a);
        weights += w, weighted += w * (d->angle - from->angle);
        box.add(s.a), box.add(s.b);
    }
    const Vec2 along = direction(from->angle + weighted / weights), across{-along.y, along.x},
               middle = box.centre();
    std::vector<Lying> r;
    for (const Directed* d = from; d != to; ++d) {
        const Segment& s = lines[d->line];
        const auto [lo, hi] = std::minmax({dot(s.a - middle, along), dot(s.b - middle, along)});
        r.push_back({d->line, dot((s.a + s.b) * 0.5 - middle, across), lo, hi});
    }
    std::sort(r.begin(), r.end(), [](const Lying& a, const Lying& b) {
        return std::tie(a.offset, a.from, a.line) < std::tie(b.offset, b.from, b.line);
    });
    return r;
}

} // namespace

std::vector<std::vector<Lying>> parallels(const std::vector<Segment>& lines, double same_angle) {
    const std::vector<Directed> all = byDirection(lines);
    std::vector<std::vector<Lying>> r;
    size_t from = 0;
    for (size_t to : endsOfRuns(all.size(), same_angle, [&](size_t i) { return all[i].angle; })) {
        r.push_back(laid(lines, all.data() + from, all.data() + to));
        from = to;
    }
    return r;
}

std::vector<std::vector<Lying>> carriers(const std::vector<Lying>& group, double same_offset) {
    std::vector<std::vector<Lying>> r;
    size_t from = 0;
    for (size_t to : endsOfRuns(group.size(), same_offset, [&](size_t i) { return group[i].offset; })) {
        std::vector<Lying>& c =
            r.emplace_back(group.begin() + static_cast<long>(from), group.begin() + static_cast<long>(to));
        std::sort(c.begin(), c.end(), [](const Lying& a, const Lying& b) {
            return std::tie(a.from, b.to, a.line) < std::tie(b.from, a.to, b.line);
        });
        from = to;
    }
    return r;
}

} // namespace prism::cleaning
