#include "core/base/polygon_bands.h"

namespace prism {

PolygonBands::PolygonBands(std::vector<Vec2> points) : points_(std::move(points)) {
    constexpr size_t kEdgesOfBand = 4;
    Box2 box;
    for (Vec2 p : points_) box.add(p);
    const size_t bands = std::max<size_t>(1, points_.size() / kEdgesOfBand);
    ends_.resize(bands);
    if (points_.empty()) return;
    lo_ = box.lo.y;
    if (box.height() > 0) each_ = box.height() / static_cast<double>(bands);
    for (size_t i = 0; i < points_.size(); ++i) {
        const double a = points_[i > 0 ? i - 1 : points_.size() - 1].y, b = points_[i].y;
        for (size_t k = bandOf(std::min(a, b)); k <= bandOf(std::max(a, b)); ++k) ends_[k].push_back(i);
    }
}

size_t PolygonBands::bandOf(double y) const {
    const double k = (y - lo_) / each_;
    return k > 0 ? std::min(static_cast<size_t>(k), ends_.size() - 1) : 0;
}

bool PolygonBands::contains(Vec2 p) const {
    bool in = false;
    for (size_t i : ends_[bandOf(p.y)])
        if (passesRightOf(p, points_[i > 0 ? i - 1 : points_.size() - 1], points_[i])) in = !in;
    return in;
}

} // namespace prism
