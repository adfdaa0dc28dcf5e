#include "core/base/polygon.h"
#include "core/figure/areas.h"
#include "core/figure/builder.h"

// What the hatching of sections says of their closed areas.
namespace prism {
namespace {

constexpr double kBeside = 1e-3; ///< share of a view by which its hatching may reach out of it
constexpr int kStrokes = 2;      ///< single lines in an area that make it a hatched one

bool insideBorder(const Hatch& h, Vec2 p) {
    bool in = false;
    for (const Curve& c : h.curves) {
        const auto points = sampled(c, 1e-3 * boxOf(c).diagonal());
        for (size_t i = 1; i < points.size(); ++i)
            if (passesRightOf(p, points[i - 1], points[i])) in = !in;
    }
    return in;
}

} // namespace

bool isHatched(const Figure& f, const ClosedArea& drawn) {
    int strokes = 0;
    for (const Hatch& h : f.hatching) {
        if (h.view != drawn.view) continue;
        if (h.border) {
            if (insideBorder(h, drawn.seed)) return true;
        } else
            strokes += std::ranges::any_of(h.curves,
                                           [&](const Curve& c) { return drawn.contains(pointAt(c, 0.5)); });
    }
    return strokes >= kStrokes;
}

std::vector<Segment> hatchLines(const ClosedArea& a, double apart) {
    const Vec2 along = normalized(Vec2{1, 1}), across{-along.y, along.x};
    std::vector<std::pair<Vec2, Vec2>> border; // (along, across) of its chords
    double lo = std::numeric_limits<double>::infinity(), hi = -lo;
    const auto take = [&](const Loop& l) {
        for (const AreaEdge& e : l) {
            const auto points = sampled(e.shape, 1e-3 * a.box.diagonal());
            for (size_t i = 0; i < points.size(); ++i) {
                const Vec2 p{dot(points[i], along), dot(points[i], across)};
                lo = std::min(lo, p.y), hi = std::max(hi, p.y);
                if (i > 0)
                    border.emplace_back(Vec2{dot(points[i - 1], along), dot(points[i - 1], across)}, p);
            }
        }
    };
    take(a.outer);
    for (const Loop& h : a.holes) take(h);
    std::vector<Segment> r;
    for (double y = apart * std::ceil(lo / apart); y < hi; y += apart) {
        std::vector<double> at;
        for (const auto& [p, q] : border)
            if ((p.y > y) != (q.y > y)) at.push_back(p.x + (q.x - p.x) * (y - p.y) / (q.y - p.y));
        std::sort(at.begin(), at.end());
        for (size_t i = 1; i < at.size(); i += 2)
            r.push_back({along * at[i - 1] + across * y, along * at[i] + across * y});
    }
    return r;
}

namespace figure {

void readHatching(const Drawing& d, const CleanSheet& s, const ViewSet& set, Figure& f) {
    for (const Entity& e : d.entities) {
        if (s.entity_roles[e.id] != LineRole::hatch || !s.layer_on[e.layer] || e.curves.empty()) continue;
        Box2 b;
        for (const Curve& c : e.curves) b.add(boxOf(c));
        for (const FigureView& v : f.views) {
            const Box2& box = set.views[v.view].box_sheet;
            if ((v.shows != Shows::cut && !v.principal()) || !box.grown(kBeside * box.diagonal()).contains(b))
                continue;
            Hatch h{v.view, e.id, e.type == "HATCH", {}};
            for (const Curve& c : e.curves) h.curves.push_back(transformed(c, v.to_model));
            f.hatching.push_back(std::move(h));
            break;
        }
    }
}

} // namespace figure
} // namespace prism
