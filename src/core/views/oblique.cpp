#include "core/views/oblique.h"

#include <algorithm>

namespace prism::views {
namespace {

constexpr double kSame = 0.2 * kPi / 180; ///< directions within this are one

} // namespace

std::optional<Vec2> askewDirection(const Drawing& d, const View& v) {
    std::vector<std::pair<double, double>> turns; // angle within a quarter turn, length
    double all = 0;
    for (int e : v.entities)
        for (const Curve& c : d.entities[e].curves)
            if (const auto* s = std::get_if<Segment>(&c)) {
                const double l = lengthOf(c);
                turns.push_back({std::fmod(positiveAngle(angleOf(s->b - s->a)), kPi / 2), l});
                all += l;
            }
    std::sort(turns.begin(), turns.end());
    const size_t n = turns.size();
    for (size_t i = 0; i < n; ++i) turns.push_back({turns[i].first + kPi / 2, turns[i].second});
    // The direction round which most of the length lies, by a window that runs over the sorted angles.
    double most = 0, best = 0, sum = 0;
    for (size_t from = 0, to = 0; from < n; ++from) {
        while (to < from + n && turns[to].first <= turns[from].first + kSame) sum += turns[to++].second;
        if (sum > most) most = sum, best = turns[from + (to - from) / 2].first;
        sum -= turns[from].second;
    }
    const bool upright = std::abs(std::remainder(best, kPi / 2)) < kSame;
    if (most < 0.6 * all || upright) return std::nullopt;
    return direction(best);
}

std::optional<ObliqueSource> obliqueSource(const Drawing& d, const ViewSet& set, const View& v) {
    const auto square = askewDirection(d, v);
    if (!square) return std::nullopt;
    std::optional<ObliqueSource> best;
    double longest = 0;
    for (const View& on : set.views) {
        if (on.id == v.id || on.role == Role::pictorial || on.role == Role::auxiliary) continue;
        for (int e : on.entities)
            for (const Curve& c : d.entities[e].curves) {
                const auto* s = std::get_if<Segment>(&c);
                if (!s) continue;
                const Vec2 u = normalized(s->b - s->a);
                if (std::abs(std::remainder(angleOf(u) - angleOf(*square), kPi / 2)) > kSame) continue;
                // The view lies opposite the edge: within its length, or reaching over it.
                const double lo = std::min(dot(s->a, u), dot(s->b, u)),
                             hi = std::max(dot(s->a, u), dot(s->b, u)), at = dot(v.box_sheet.centre(), u),
                             reach = 0.75 * v.box_sheet.diagonal();
                if (at < lo - reach || at > hi + reach) continue;
                if (const double l = lengthOf(c); l > longest) longest = l, best = ObliqueSource{on.id, u};
            }
    }
    return best;
}

} // namespace prism::views
