#include "core/figure/arrangement.h"

#include "core/base/crossings.h"

namespace prism::figure {

Arrangement::Arrangement(const Figure& f, int view, const std::vector<double>& x, Progress& progress)
    : tol_(f.tolerances.same_model), vertices_(tol_) {
    std::vector<Box2> boxes;
    std::map<int, int> vertex_of; // by point of the figure: what was one place on the sheet is one vertex
    const auto vertexAt = [&](int point) {
        if (point < 0) return -1;
        const auto [it, fresh] = vertex_of.emplace(point, 0);
        if (fresh) it->second = vertices_.add(f.at(f.points[static_cast<size_t>(point)], x));
        return it->second;
    };
    for (size_t i = 0; i < f.curves.size(); ++i)
        if (const FigureCurve& c = f.curves[i]; c.view == view) {
            lines_.push_back(
                {static_cast<int>(i), f.curve(static_cast<int>(i), x), vertexAt(c.p0), vertexAt(c.p1)});
            boxes.push_back(boxOf(lines_.back().shape).grown(tol_));
        }
    const BoxTree tree(boxes);
    for (size_t i = 0; i < lines_.size() && !progress.cancelled(); ++i) split(i, tree, boxes);
    prune();
}

void Arrangement::split(size_t line, const BoxTree& tree, const std::vector<Box2>& boxes) {
    const Curve& shape = lines_[line].shape;
    const double len = lengthOf(shape);
    if (len <= tol_) return;
    std::vector<double> cuts{0, 1};
    auto cutAt = [&](Vec2 p) {
        const double t = nearestParameter(shape, p);
        if (distance(pointAt(shape, t), p) <= tol_) cuts.push_back(t);
    };
    for (int o : tree.overlapping(boxes[line])) {
        if (static_cast<size_t>(o) == line) continue;
        const Curve& other = lines_[o].shape;
        if (!isClosed(other, tol_)) cutAt(startOf(other)), cutAt(endOf(other));
        for (Vec2 p : crossings(shape, other, tol_)) cutAt(p);
    }
    std::sort(cuts.begin(), cuts.end());
    const double gap = tol_ / len;
    cuts.erase(std::unique(cuts.begin(), cuts.end(), [&](double a, double b) { return b - a <= gap; }),
               cuts.end());
    if (cuts.size() > 1 && 1 - cuts.back() <= gap) cuts.back() = 1;
    if (cuts.size() == 2 && isClosed(shape, tol_)) cuts = {0, 0.5, 1}; // a free circle needs two edges
    for (size_t i = 1; i < cuts.size(); ++i) addEdge(lines_[line], cuts[i - 1], cuts[i]);
}

void Arrangement::addEdge(const Line& l, double t0, double t1) {
    Edge e{l.curve, t0, t1, part(l.shape, t0, t1), 0, 0};
    e.from = t0 > 0 || l.from < 0 ? vertices_.add(startOf(e.shape)) : l.from;
    e.to = t1 < 1 || l.to < 0 ? vertices_.add(endOf(e.shape)) : l.to;
    if (e.from == e.to && lengthOf(e.shape) <= 2 * tol_) return;
    const Vec2 mid = pointAt(e.shape, 0.5);
    auto& twins = between_[std::minmax(e.from, e.to)];
    for (int o : twins) // the same piece drawn visible and hidden counts once
        if (distance(pointAt(edges_[o].shape, 0.5), mid) <= 4 * tol_) return;
    twins.push_back(static_cast<int>(edges_.size()));
    edges_.push_back(std::move(e));
}

void Arrangement::prune() {
    std::vector<std::vector<int>> at(vertices_.places().size());
    for (size_t i = 0; i < edges_.size(); ++i) {
        at[edges_[i].from].push_back(static_cast<int>(i));
        at[edges_[i].to].push_back(static_cast<int>(i));
    }
    std::vector<size_t> degree;
    std::vector<int> loose;
    for (size_t v = 0; v < at.size(); ++v) {
        degree.push_back(at[v].size());
        if (at[v].size() == 1) loose.push_back(static_cast<int>(v));
    }
    std::vector<bool> gone(edges_.size(), false);
    while (!loose.empty()) {
        const int v = loose.back();
        loose.pop_back();
        for (int e : at[v]) {
            if (gone[e]) continue;
            gone[e] = true;
            for (int end : {edges_[e].from, edges_[e].to})
                if (--degree[end] == 1) loose.push_back(end);
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
    std::vector<std::vector<int>> star(vertices_.places().size());
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

std::vector<Loop> Arrangement::loops() const {
    const auto star = sortedStar();
    std::vector<int> next(2 * edges_.size());
    for (const auto& s : star)
        for (size_t i = 0; i < s.size();
             ++i) // arriving along the twin of s[i], leave by the one clockwise before it
            next[s[i] ^ 1] = s[(i + s.size() - 1) % s.size()];
    std::vector<bool> used(next.size(), false);
    std::vector<Loop> r;
    for (size_t h = 0; h < next.size(); ++h) {
        if (used[h]) continue;
        std::vector<int> loop;
        for (int k = static_cast<int>(h); !used[k]; k = next[k]) used[k] = true, loop.push_back(k);
        r.push_back(loopOf(loop));
    }
    return r;
}

Loop Arrangement::loopOf(const std::vector<int>& halves) const {
    Loop l;
    for (int h : halves) {
        const Edge& e = edges_[h / 2];
        const bool back = h % 2 == 1;
        l.push_back({e.curve, e.t0, e.t1, back, shapeOf(h), back ? e.to : e.from, back ? e.from : e.to});
    }
    return l;
}

} // namespace prism::figure
