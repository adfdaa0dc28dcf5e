#include "core/figure/areas.h"

#include "core/base/crossings.h"

namespace prism {
namespace {

struct Edge {
    int curve;
    double t0, t1;
    Curve shape;
    int from, to; ///< vertices
};

/// The lines of one view, split where they meet, as a planar graph. Half-edge 2e runs along edge e, 2e + 1
/// back.
class Arrangement {
  public:
    Arrangement(const Figure& f, int view, const std::vector<double>& x);
    void areas(std::vector<ClosedArea>& out) const;
    void openEnds(std::vector<OpenEnd>& out) const;

  private:
    void split(int curve, const std::vector<int>& curves);
    int vertex(Vec2 p);
    void addEdge(int curve, double t0, double t1);
    void prune();
    Curve shapeOf(int half) const {
        return half % 2 ? reversed(edges_[half / 2].shape) : edges_[half / 2].shape;
    }
    int origin(int half) const { return half % 2 ? edges_[half / 2].to : edges_[half / 2].from; }
    std::vector<std::vector<int>> sortedStar() const;
    std::vector<std::vector<int>> loops() const;
    Loop loopOf(const std::vector<int>& halves) const;

    int view_;
    double tol_;
    std::vector<Vec2> vertices_;
    std::vector<Edge> edges_;
    std::vector<int> pruned_;
    std::map<int, Curve> shapes_;
    std::map<int, Box2> boxes_;
};

Arrangement::Arrangement(const Figure& f, int view, const std::vector<double>& x)
    : view_(view), tol_(f.tolerances.same_model) {
    std::vector<int> curves;
    for (size_t i = 0; i < f.curves.size(); ++i)
        if (f.curves[i].view == view) {
            const int k = static_cast<int>(i);
            curves.push_back(k);
            shapes_[k] = f.curve(k, x);
            boxes_[k] = boxOf(shapes_[k]).grown(tol_);
        }
    for (int c : curves) split(c, curves);
    prune();
}

int Arrangement::vertex(Vec2 p) {
    for (size_t i = 0; i < vertices_.size(); ++i)
        if (distance(vertices_[i], p) <= tol_) return static_cast<int>(i);
    vertices_.push_back(p);
    return static_cast<int>(vertices_.size()) - 1;
}

void Arrangement::split(int c, const std::vector<int>& curves) {
    const Curve& shape = shapes_[c];
    const double len = lengthOf(shape);
    if (len <= tol_) return;
    std::vector<double> cuts{0, 1};
    auto cutAt = [&](Vec2 p) {
        const double t = nearestParameter(shape, p);
        if (distance(pointAt(shape, t), p) <= tol_) cuts.push_back(t);
    };
    for (int o : curves) {
        if (o == c || !boxes_[c].overlaps(boxes_[o])) continue;
        const Curve& other = shapes_[o];
        if (!isClosed(other, tol_)) cutAt(startOf(other)), cutAt(endOf(other));
        for (Vec2 p : crossings(shape, other, tol_)) cutAt(p);
    }
    std::sort(cuts.begin(), cuts.end());
    const double gap = tol_ / len;
    cuts.erase(std::unique(cuts.begin(), cuts.end(), [&](double a, double b) { return b - a <= gap; }),
               cuts.end());
    if (cuts.size() > 1 && 1 - cuts.back() <= gap) cuts.back() = 1;
    if (cuts.size() == 2 && isClosed(shape, tol_)) cuts = {0, 0.5, 1}; // a free circle needs two edges
    for (size_t i = 1; i < cuts.size(); ++i) addEdge(c, cuts[i - 1], cuts[i]);
}

void Arrangement::addEdge(int curve, double t0, double t1) {
    Edge e{curve, t0, t1, part(shapes_[curve], t0, t1), 0, 0};
    e.from = vertex(startOf(e.shape));
    e.to = vertex(endOf(e.shape));
    if (e.from == e.to && lengthOf(e.shape) <= 2 * tol_) return;
    const Vec2 mid = pointAt(e.shape, 0.5);
    for (const Edge& o : edges_) { // the same piece drawn visible and hidden counts once
        const bool ends = (o.from == e.from && o.to == e.to) || (o.from == e.to && o.to == e.from);
        if (ends && distance(pointAt(o.shape, 0.5), mid) <= 4 * tol_) return;
    }
    edges_.push_back(std::move(e));
}

void Arrangement::prune() {
    std::vector<int> degree(vertices_.size(), 0);
    std::vector<bool> gone(edges_.size(), false);
    for (const Edge& e : edges_) ++degree[e.from], ++degree[e.to];
    for (size_t i = 0; i < vertices_.size(); ++i)
        if (degree[i] == 1) pruned_.push_back(static_cast<int>(i));
    for (bool again = true; again;) {
        again = false;
        for (size_t i = 0; i < edges_.size(); ++i)
            if (!gone[i] && (degree[edges_[i].from] == 1 || degree[edges_[i].to] == 1)) {
                --degree[edges_[i].from], --degree[edges_[i].to];
                gone[i] = again = true;
            }
    }
    std::vector<Edge> kept;
    for (size_t i = 0; i < edges_.size(); ++i)
        if (!gone[i]) kept.push_back(std::move(edges_[i]));
    edges_ = std::move(kept);
}

/// Half-edges leaving each vertex, counter-clockwise by the direction a little way along (tangents may
/// coincide).
std::vector<std::vector<int>> Arrangement::sortedStar() const {
    std::vector<std::vector<int>> star(vertices_.size());
    std::vector<double> lengths;
    for (const Edge& e : edges_) lengths.push_back(lengthOf(e.shape));
    for (int h = 0; h < static_cast<int>(2 * edges_.size()); ++h) star[origin(h)].push_back(h);
    for (auto& s : star) {
        double shortest = std::numeric_limits<double>::infinity();
        for (int h : s) shortest = std::min(shortest, lengths[h / 2]);
        std::vector<std::pair<double, int>> byAngle;
        for (int h : s) {
            const Curve c = shapeOf(h);
            const double t = std::min(0.5, 0.05 * shortest / lengths[h / 2]);
            byAngle.emplace_back(angleOf(pointAt(c, t) - startOf(c)), h);
        }
        std::sort(byAngle.begin(), byAngle.end());
        for (size_t i = 0; i < s.size(); ++i) s[i] = byAngle[i].second;
    }
    return star;
}

std::vector<std::vector<int>> Arrangement::loops() const {
    const auto star = sortedStar();
    std::vector<int> next(2 * edges_.size());
    for (const auto& s : star)
        for (size_t i = 0; i < s.size();
             ++i) // arriving along the twin of s[i], leave by the one clockwise before it
            next[s[i] ^ 1] = s[(i + s.size() - 1) % s.size()];
    std::vector<bool> used(next.size(), false);
    std::vector<std::vector<int>> r;
    for (size_t h = 0; h < next.size(); ++h) {
        if (used[h]) continue;
        std::vector<int> loop;
        for (int k = static_cast<int>(h); !used[k]; k = next[k]) used[k] = true, loop.push_back(k);
        r.push_back(std::move(loop));
    }
    return r;
}

Loop Arrangement::loopOf(const std::vector<int>& halves) const {
    Loop l;
    for (int h : halves) {
        const Edge& e = edges_[h / 2];
        l.push_back({e.curve, e.t0, e.t1, h % 2 == 1, shapeOf(h)});
    }
    return l;
}

Vec2 seedOf(const ClosedArea& a) {
    for (double depth : {0.2, 0.05, 0.01, 0.002})
        for (const AreaEdge& e : a.outer) {
            const Vec2 t = tangentAt(e.shape, 0.5);
            const Vec2 p =
                pointAt(e.shape, 0.5) + Vec2{-t.y, t.x} * (depth * std::sqrt(std::max(a.area, 1e-12)));
            if (a.contains(p)) return p;
        }
    return a.box.centre();
}

Box2 boxOfLoop(const Loop& l) {
    Box2 b;
    for (const AreaEdge& e : l) b.add(boxOf(e.shape));
    return b;
}

void Arrangement::areas(std::vector<ClosedArea>& out) const {
    std::vector<ClosedArea> found;
    std::vector<std::pair<Loop, double>> holes;
    for (const auto& halves : loops()) {
        Loop l = loopOf(halves);
        const double s = signedArea(l);
        if (s > tol_ * tol_) {
            ClosedArea a;
            a.view = view_, a.outer = std::move(l), a.area = s, a.box = boxOfLoop(a.outer);
            found.push_back(std::move(a));
        } else if (s < -tol_ * tol_)
            holes.emplace_back(std::move(l), s);
    }
    std::sort(found.begin(), found.end(),
              [](const ClosedArea& a, const ClosedArea& b) { return a.area < b.area; });
    std::vector<double> outerArea;
    for (const ClosedArea& a : found) outerArea.push_back(a.area);
    for (auto& [loop, s] : holes) {
        const Vec2 p = pointAt(loop.front().shape, 0.37);
        for (size_t i = 0; i < found.size();
             ++i) { // the smallest area round it that is not the loop itself turned over
            if (outerArea[i] <= -s * (1 + 1e-9) || !found[i].box.contains(p) ||
                !insideLoop(found[i].outer, p))
                continue;
            found[i].area += s;
            found[i].holes.push_back(std::move(loop));
            break;
        }
    }
    for (ClosedArea& a : found) {
        for (const AreaEdge& e : a.outer) a.bounds.push_back(e.curve);
        for (const Loop& h : a.holes)
            for (const AreaEdge& e : h) a.bounds.push_back(e.curve);
        std::sort(a.bounds.begin(), a.bounds.end());
        a.bounds.erase(std::unique(a.bounds.begin(), a.bounds.end()), a.bounds.end());
        a.seed = seedOf(a);
        out.push_back(std::move(a));
    }
}

void Arrangement::openEnds(std::vector<OpenEnd>& out) const {
    for (const auto& [c, shape] : shapes_) {
        if (isClosed(shape, tol_)) continue;
        for (Vec2 p : {startOf(shape), endOf(shape)}) {
            const bool loose = std::any_of(pruned_.begin(), pruned_.end(),
                                           [&](int v) { return distance(vertices_[v], p) <= tol_; });
            if (!loose) continue;
            double gap = std::numeric_limits<double>::infinity();
            for (const auto& [o, other] : shapes_)
                if (o != c) gap = std::min(gap, distanceTo(other, p));
            out.push_back({view_, c, p, gap});
        }
    }
}

} // namespace

double signedArea(const Loop& loop) {
    double sum = 0;
    for (const AreaEdge& e : loop) {
        if (auto* a = std::get_if<Arc>(&e.shape)) {
            const Vec2 p = startOf(e.shape), q = endOf(e.shape);
            sum += 0.5 *
                   (a->radius * a->radius * a->sweep + a->centre.x * (q.y - p.y) - a->centre.y * (q.x - p.x));
            continue;
        }
        const auto pts = sampled(e.shape, 1e-4);
        for (size_t i = 1; i < pts.size(); ++i) sum += 0.5 * cross(pts[i - 1], pts[i]);
    }
    return sum;
}

bool insideLoop(const Loop& loop, Vec2 p) {
    bool in = false;
    for (const AreaEdge& e : loop) {
        const auto pts = sampled(e.shape, 1e-4);
        for (size_t i = 1; i < pts.size(); ++i) {
            const Vec2 a = pts[i - 1], b = pts[i];
            if ((a.y > p.y) != (b.y > p.y) && p.x < a.x + (b.x - a.x) * (p.y - a.y) / (b.y - a.y)) in = !in;
        }
    }
    return in;
}

bool ClosedArea::contains(Vec2 p) const {
    if (!box.contains(p) || !insideLoop(outer, p)) return false;
    return std::none_of(holes.begin(), holes.end(), [&](const Loop& h) { return insideLoop(h, p); });
}

std::vector<ClosedArea> closedAreas(const Figure& f, const std::vector<double>& x,
                                    std::vector<OpenEnd>* open) {
    std::vector<ClosedArea> r;
    for (const FigureView& v : f.views) {
        const Arrangement a(f, v.view, x);
        const size_t first = r.size();
        a.areas(r);
        std::sort(r.begin() + static_cast<long>(first), r.end(),
                  [](const ClosedArea& p, const ClosedArea& q) { return p.bounds < q.bounds; });
        if (open) a.openEnds(*open);
    }
    return r;
}

namespace {

/// One edge for two that follow each other on the same line or arc; nothing when they do not.
std::optional<AreaEdge> asOne(const AreaEdge& a, const AreaEdge& b) {
    const bool follows = a.curve == b.curve && a.backwards == b.backwards &&
                         std::abs(a.backwards ? a.t0 - b.t1 : a.t1 - b.t0) < 1e-9;
    if (!follows) return std::nullopt;
    AreaEdge r = a;
    r.t0 = std::min(a.t0, b.t0), r.t1 = std::max(a.t1, b.t1);
    if (auto* s = std::get_if<Segment>(&r.shape)) {
        s->b = endOf(b.shape);
        return r;
    }
    auto* arc = std::get_if<Arc>(&r.shape);
    if (!arc) return std::nullopt;
    arc->sweep += std::get<Arc>(b.shape).sweep;
    return arc->full() ? std::nullopt : std::optional(r); // a whole circle stays in two halves
}

/// A border without the joints that other lines made in its edges: fewer faces for the modeller to combine.
Loop withoutJoints(const Loop& loop) {
    Loop r;
    for (const AreaEdge& e : loop) {
        if (const auto one = r.empty() ? std::nullopt : asOne(r.back(), e))
            r.back() = *one;
        else
            r.push_back(e);
    }
    if (r.size() > 2)
        if (const auto one = asOne(r.back(), r.front())) r.front() = *one, r.pop_back();
    return r;
}

} // namespace

std::vector<Loop> unionLoops(const std::vector<const ClosedArea*>& areas, double tol) {
    std::vector<AreaEdge> edges;
    auto take = [&](const Loop& l) {
        for (const AreaEdge& e : l) {
            const auto twin = std::find_if(edges.begin(), edges.end(), [&](const AreaEdge& o) {
                return o.curve == e.curve && o.backwards != e.backwards && std::abs(o.t0 - e.t0) < 1e-9 &&
                       std::abs(o.t1 - e.t1) < 1e-9;
            });
            if (twin != edges.end())
                edges.erase(twin);
            else
                edges.push_back(e);
        }
    };
    for (const ClosedArea* a : areas) {
        take(a->outer);
        for (const Loop& h : a->holes) take(h);
    }
    std::vector<Loop> r;
    while (!edges.empty()) {
        Loop l{edges.back()};
        edges.pop_back();
        for (bool found = true;
             found && distance(endOf(l.back().shape), startOf(l.front().shape)) > 2 * tol;) {
            const Vec2 at = endOf(l.back().shape);
            const auto next = std::find_if(edges.begin(), edges.end(), [&](const AreaEdge& e) {
                return distance(startOf(e.shape), at) <= 2 * tol;
            });
            found = next != edges.end();
            if (found) l.push_back(*next), edges.erase(next);
        }
        r.push_back(withoutJoints(l));
    }
    std::stable_sort(r.begin(), r.end(),
                     [](const Loop& a, const Loop& b) { return (signedArea(a) > 0) > (signedArea(b) > 0); });
    return r;
}

} // namespace prism
