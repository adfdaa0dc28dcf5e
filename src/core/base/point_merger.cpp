#include "core/base/point_merger.h"

namespace prism {

int PointMerger::find(Vec2 p) const {
    for (long long i = cell(p.x - tolerance_), last = cell(p.x + tolerance_); i <= last; ++i)
        for (long long j = cell(p.y - tolerance_), end = cell(p.y + tolerance_); j <= end; ++j)
            if (const auto c = newest_.find({i, j}); c != newest_.end())
                for (int n = c->second; n >= 0; n = next_[n])
                    if (distance(places_[n], p) <= tolerance_) return n;
    return -1;
}

int PointMerger::add(Vec2 p) {
    if (const int n = find(p); n >= 0) return n;
    const int fresh = static_cast<int>(places_.size());
    places_.push_back(p);
    const auto [it, first] = newest_.emplace(Cell{cell(p.x), cell(p.y)}, fresh);
    next_.push_back(first ? -1 : it->second);
    it->second = fresh;
    return fresh;
}

} // namespace prism
