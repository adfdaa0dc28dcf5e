#include "core/tracing/pieces.h"

namespace prism {
namespace {

/// Level or upright to half a pixel at both ends is level or upright.
void layStraight(TracePiece& p, double pixel) {
    auto* s = std::get_if<Segment>(&p.shape);
    if (!s) return;
    const Vec2 d = s->b - s->a, m = (s->a + s->b) * 0.5;
    if (std::abs(d.y) < pixel && std::abs(d.y) < 0.012 * std::abs(d.x)) s->a.y = s->b.y = m.y;
    if (std::abs(d.x) < pixel && std::abs(d.x) < 0.012 * std::abs(d.y)) s->a.x = s->b.x = m.x;
}

/// Level lines at nearly one height are at one height, and so are the centres of circles there; likewise
/// upright ones side by side. Views in line with each other then agree.
void alignLevels(TracePieces& t, double Vec2::*axis, double pixel) {
    struct Level {
        double at, weight;
        Curve* shape;
    };
    std::vector<Level> levels;
    for (TracePiece& p : t.pieces) {
        if (auto* s = std::get_if<Segment>(&p.shape); s && s->a.*axis == s->b.*axis)
            levels.push_back({s->a.*axis, lengthOf(p.shape), &p.shape});
        else if (auto* a = std::get_if<Arc>(&p.shape); a && std::abs(a->sweep) > 1)
            levels.push_back({a->centre.*axis, std::abs(a->sweep) * a->radius / 4, &p.shape});
    }
    std::ranges::sort(levels, {}, &Level::at);
    for (size_t i = 0; i < levels.size();) {
        size_t j = i + 1;
        while (j < levels.size() && levels[j].at - levels[j - 1].at < 0.35 * pixel &&
               levels[j].at - levels[i].at < 0.8 * pixel)
            ++j;
        double sum = 0, weight = 0;
        for (size_t k = i; k < j; ++k) sum += levels[k].at * levels[k].weight, weight += levels[k].weight;
        for (size_t k = i; k < j; ++k) {
            if (auto* s = std::get_if<Segment>(levels[k].shape))
                s->a.*axis = s->b.*axis = sum / weight;
            else
                std::get<Arc>(*levels[k].shape).centre.*axis = sum / weight;
        }
        i = j;
    }
}

} // namespace

void layLevel(TracePieces& t, double pixel) {
    for (TracePiece& p : t.pieces) layStraight(p, pixel);
    alignLevels(t, &Vec2::x, pixel), alignLevels(t, &Vec2::y, pixel);
}

} // namespace prism
