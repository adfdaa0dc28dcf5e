#include "core/cleaning/workbench.h"

#include <tuple>

// Hatching drawn as single lines, as old sheets have it.
namespace prism::cleaning {
namespace {

constexpr size_t kFewest = 6;     ///< lines that make a hatch
constexpr double kWidest = 8;     ///< mm on the sheet from line to line
constexpr double kUneven = 0.15;  ///< how far the distances may differ, relative
constexpr double kOblique = 0.14; ///< radians off level and upright; hatching stands askew to the outline
constexpr double kSharedEnds =
    0.2; ///< share of ends that may meet another line's end; edges meet, hatching does not

struct Stroke {
    int layer;
    long long angle;
    double offset, from, to;
    int entity;
    int shared; ///< ends that meet another end
};

bool oblique(double angle) {
    const double a = std::fmod(positiveAngle(angle), kPi / 2);
    return a > kOblique && a < kPi / 2 - kOblique;
}

std::vector<Stroke> strokesOf(const Workbench& w) {
    const std::vector<Piece> pieces = w.pieces();
    std::vector<Stroke> r;
    std::vector<size_t> piece;
    for (size_t i = 0; i < pieces.size(); ++i) {
        const Entity& e = w.drawing().entities[pieces[i].entity];
        const auto* s = std::get_if<Segment>(&w.curve(pieces[i]));
        if (!s || e.curves.size() != 1) continue;
        Vec2 d = normalized(s->b - s->a);
        if (!oblique(angleOf(d))) continue;
        if (d.x < 0) d = -d;
        const double t0 = dot(s->a, d), t1 = dot(s->b, d);
        r.push_back({e.layer, std::llround(angleOf(d) * 1e4), dot(s->a, {-d.y, d.x}), std::min(t0, t1),
                     std::max(t0, t1), e.id, 0});
        piece.push_back(i);
    }
    if (r.size() < kFewest) return {};
    const Nodes nodes(w, pieces);
    for (size_t k = 0; k < r.size(); ++k)
        for (int side : {0, 1})
            r[k].shared += nodes.ends(nodes.node({static_cast<int>(piece[k]), side})).size() > 1;
    std::sort(r.begin(), r.end(), [](const Stroke& a, const Stroke& b) {
        return std::tie(a.layer, a.angle, a.offset, a.from, a.entity) <
               std::tie(b.layer, b.angle, b.offset, b.from, b.entity);
    });
    return r;
}

bool beside(const Stroke& a, const Stroke& b) {
    return a.from <= b.to && b.from <= a.to;
}

/// The strokes from `from` on that follow each other at one distance; strokes in one line count as one.
std::vector<int> runFrom(const std::vector<Stroke>& s, size_t from, const std::vector<bool>& used,
                         double widest, double same) {
    std::vector<int> run{static_cast<int>(from)};
    double step = 0;
    for (size_t i = from + 1; i < s.size(); ++i) {
        const Stroke& last = s[run.back()];
        if (s[i].layer != last.layer || std::abs(s[i].angle - last.angle) > 2) break;
        const double d = s[i].offset - last.offset;
        if (d > widest) break;
        if (used[i]) continue;
        if (d <= same) {
            if (!beside(s[i], last)) run.push_back(static_cast<int>(i)); // the same line beyond a hole
            continue;
        }
        if (step == 0) {
            if (!beside(s[i], last)) continue;
            step = d;
        }
        if (d < step * (1 - kUneven)) continue;
        if (d > step * (1 + kUneven)) break;
        run.push_back(static_cast<int>(i));
    }
    return run;
}

} // namespace

void setHatchingAside(Workbench& w) {
    const std::vector<Stroke> strokes = strokesOf(w);
    std::vector<bool> used(strokes.size(), false);
    for (size_t i = 0; i < strokes.size(); ++i) {
        if (used[i]) continue;
        const std::vector<int> run = runFrom(strokes, i, used, w.paper(kWidest), w.touch() * 10);
        int shared = 0;
        std::vector<int> entities;
        for (int k : run) shared += strokes[k].shared, entities.push_back(strokes[k].entity);
        if (run.size() < kFewest || shared > kSharedEnds * 2 * static_cast<double>(run.size())) continue;
        for (int k : run) used[k] = true;
        const Stroke& s = strokes[run[run.size() / 2]];
        if (!w.record("hatching", entities, pointAt(w.drawing().entities[s.entity].curves[0], 0.5))) continue;
        for (int e : entities) w.sheet().entity_roles[e] = LineRole::hatch;
    }
}

} // namespace prism::cleaning
