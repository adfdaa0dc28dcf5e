#include "core/figure/projectors.h"

#include <algorithm>

namespace prism {
namespace {

constexpr size_t kMostPlaces = 6; ///< of one point: more would hide what they are to show

/// The points of all views, to be asked for by one coordinate.
class ViewPoints {
  public:
    explicit ViewPoints(const Figure& f) : f_(f), tol_(10 * f.tolerances.same_model) {
        for (const FigureCurve& c : f.curves)
            for (int p : {c.p0, c.p1, c.centre})
                if (p >= 0) by_view_[c.view].push_back(f.at(f.points[p], f.now));
        for (auto& [view, points] : by_view_)
            std::sort(points.begin(), points.end(),
                      [](Vec2 a, Vec2 b) { return std::tie(a.x, a.y) < std::tie(b.x, b.y); });
    }

    bool shows(int view, Vec2 p) const {
        const auto& points = by_view_.at(view);
        auto it = std::lower_bound(points.begin(), points.end(), p.x - tol_,
                                   [](Vec2 a, double x) { return a.x < x; });
        for (; it != points.end() && it->x <= p.x + tol_; ++it)
            if (std::abs(it->y - p.y) <= tol_) return true;
        return false;
    }

    /// Values along `wanted` of points whose coordinate along `known` is `at`, in views that show both axes.
    std::vector<double> depths(Axis known, double at, Axis wanted) const {
        std::vector<double> r;
        for (const FigureView& v : f_.views) {
            const bool across = v.axes.right == known && v.axes.up == wanted,
                       up = v.axes.up == known && v.axes.right == wanted;
            const auto it = by_view_.find(v.view);
            if ((!across && !up) || it == by_view_.end()) continue;
            for (Vec2 p : it->second)
                if (std::abs((across ? p.x : p.y) - at) <= tol_) r.push_back(across ? p.y : p.x);
        }
        return r;
    }

    /// The views that have a point where a place in space would be seen.
    std::vector<std::pair<int, Vec2>> shown(Vec3 at) const {
        std::vector<std::pair<int, Vec2>> r;
        for (const FigureView& v : f_.views) {
            const Vec2 p = frameOf(f_, v, f_.now)(at);
            if (by_view_.contains(v.view) && shows(v.view, p)) r.push_back({v.view, p});
        }
        return r;
    }
    double tolerance() const { return tol_; }

  private:
    const Figure& f_;
    double tol_;
    std::map<int, std::vector<Vec2>> by_view_;
};

std::vector<Projector> placesOf(const ViewPoints& points, const FigureView& v, Vec2 p) {
    std::vector<double> depths = points.depths(v.axes.right, p.x, v.axes.depth);
    const auto more = points.depths(v.axes.up, p.y, v.axes.depth);
    depths.insert(depths.end(), more.begin(), more.end());
    std::sort(depths.begin(), depths.end());
    depths.erase(std::unique(depths.begin(), depths.end(),
                             [&](double a, double b) { return b - a <= points.tolerance(); }),
                 depths.end());
    std::vector<Projector> all;
    size_t most = 2;
    for (double depth : depths) {
        const Vec3 at = p.x * unitOf(v.axes.right) + p.y * unitOf(v.axes.up) + depth * unitOf(v.axes.depth);
        all.push_back({at, points.shown(at)});
        most = std::max(most, all.back().shown.size());
    }
    std::erase_if(all, [&](const Projector& q) { return q.shown.size() < most; });
    if (all.size() > kMostPlaces) all.resize(kMostPlaces);
    return all;
}

} // namespace

std::vector<Projector> projectorsOf(const Figure& f, int curve) {
    const FigureCurve& c = f.curves[curve];
    const FigureView& v = *f.viewById(c.view);
    std::vector<Projector> r;
    if (!v.square) return r; // how deep a place of an auxiliary view lies no line at a right angle tells
    const ViewPoints points(f);
    for (int i : c.centre >= 0 ? std::vector{c.centre} : std::vector{c.p0, c.p1})
        if (i >= 0)
            for (Projector& p : placesOf(points, v, f.at(f.points[i], f.now))) r.push_back(std::move(p));
    return r;
}

} // namespace prism
