#include "core/base/point_merger.h"

namespace prism {

int PointMerger::find(Vec2 p) const {
    const auto [x, y] = cell(p);
    for (long long i = x - 1; i <= x + 1; ++i)
        for (long long j = y - 1; j <= y + 1; ++j)
            if (const auto c = cells_.find({i, j}); c != cells_.end())
                for (int n : c->second)
                    if (distance(places_[n], p) <= tolerance_) return n;
    return -1;
}

int PointMerger::add(Vec2 p) {
    if (const int n = find(p); n >= 0) return n;
    const int fresh = static_cast<int>(places_.size());
    places_.push_back(p);
    cells_[cell(p)].push_back(fresh);
    return fresh;
}

} // namespace prism
