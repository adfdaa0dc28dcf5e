#include "core/proposing/cell_model.h"

namespace prism {
namespace {

double along(const FigureView& v, Vec2 p, Axis a) {
    return v.axes.right == a ? p.x : p.y;
}

bool shows(const FigureView& v, Axis a) {
    return v.axes.right == a || v.axes.up == a;
}

void append(Ray& r, double from, int cell) {
    if (r.cells.empty())
        r.cells.push_back(cell);
    else if (cell != r.cells.back()) {
        r.breaks.push_back(from);
        r.cells.push_back(cell);
    }
}

constexpr int kOfAxis = 10000; ///< tells the intervals of the axes apart in the key of a cell
constexpr int kUnseen = -2;    ///< of a place that a view says nothing of

/// What a view says of the places along a line of sight.
struct Told {
    size_t map;
    const Scan* scan = nullptr; ///< by depth; none where the same area is seen all along
    int area = kUnseen;
    const ViewMap* section = nullptr; ///< one whose plane the line of sight passes through

    int at(double depth) const {
        if (section && section->unseen(depth)) return kUnseen;
        return scan ? scan->at(depth) : area;
    }
};

/// Index of the interval between sorted values.
int slot(const std::vector<double>& v, double x) {
    return static_cast<int>(std::upper_bound(v.begin(), v.end(), x) - v.begin());
}

} // namespace

double oneLevel(const std::vector<ViewMap>& maps) {
    double tolerance = 0;
    for (const ViewMap& m : maps) tolerance = std::max(tolerance, m.tolerance());
    return std::max(1e-3, 1.1 * tolerance);
}

namespace {

/// What is shorter on a line of sight is no cell but two breaks that are one, mm.
double leastInterval(const std::vector<ViewMap>& maps) {
    return 1e-6 + 1e-2 * oneLevel(maps);
}

} // namespace

ProductCells::ProductCells(const std::vector<ViewMap>& maps, bool gridded)
    : CellModel(maps), gridded_(gridded) {
    for (const ViewMap& m : maps)
        for (const auto& [role, c] : m.curves()) {
            std::vector<double>&r = levels_[static_cast<size_t>(m.view().axes.right)],
            &u = levels_[static_cast<size_t>(m.view().axes.up)];
            const Box2 b = boxOf(c);
            for (double x : {b.lo.x, b.hi.x}) r.push_back(x);
            for (double y : {b.lo.y, b.hi.y}) u.push_back(y);
            // A bore that ends in another one ends at its axis: where the walls meet is no place to stop.
            if (const auto* a = std::get_if<Arc>(&c); a && a->full())
                r.push_back(a->centre.x), u.push_back(a->centre.y);
            if (isClosed(c, 0)) continue;
            for (Vec2 p : {startOf(c), endOf(c)}) r.push_back(p.x), u.push_back(p.y);
        }
    const double step = oneLevel(maps);
    for (auto& l : levels_) {
        std::sort(l.begin(), l.end());
        l.erase(std::unique(l.begin(), l.end(), [&](double a, double b) { return b - a <= step; }), l.end());
    }
}

int ProductCells::intervalOf(int cell, Axis a) const {
    // After the areas a key has the intervals of the three axes, told apart by their thousands.
    return keys_[static_cast<size_t>(cell)][maps_->size() + static_cast<size_t>(a)] -
           kOfAxis * static_cast<int>(a) - 1;
}

int ProductCells::cellOf(const std::vector<int>& key) {
    const auto [it, fresh] = index_.try_emplace(key, static_cast<int>(keys_.size()));
    if (fresh) keys_.push_back(key);
    return it->second;
}

Ray ProductCells::ray(int map, Vec2 at) {
    const FigureView& v = (*maps_)[map].view();
    const Axis depth = v.axes.depth;
    const int own = (*maps_)[map].areaAt(at);
    if (own < 0) return {{}, {-1}};
    std::vector<int> key(maps_->size(), -1);
    std::vector<Told> told;
    std::vector<double> breaks;
    const auto& levels = levels_[static_cast<size_t>(depth)];
    for (size_t k = 0; k < maps_->size(); ++k) {
        const ViewMap& o = (*maps_)[k];
        if (!shows(o.view(), depth)) { // the view itself, or another one along the same axis
            const int area = static_cast<int>(k) == map ? own : o.areaAt(at);
            if (area < 0 && !o.cut()) return {{}, {-1}};
            told.push_back({k, nullptr, area, o.cut() ? &o : nullptr});
            if (o.cut()) breaks.push_back(*o.cut());
            continue;
        }
        if (o.cut() && o.unseen(along(v, at, o.view().axes.depth))) {
            told.push_back({k});
            continue;
        }
        const Axis shared = o.view().axes.right == depth ? o.view().axes.up : o.view().axes.right;
        told.push_back({k, &o.scan(shared, along(v, at, shared))});
        breaks.insert(breaks.end(), told.back().scan->breaks.begin(), told.back().scan->breaks.end());
    }
    // Where one view alone is left to tell, the part ends where its coordinates do.
    if (!levels.empty()) breaks.push_back(levels.front()), breaks.push_back(levels.back());
    if (gridded_) breaks.insert(breaks.end(), levels.begin(), levels.end());
    std::sort(breaks.begin(), breaks.end());
    if (gridded_) {
        key.push_back(slot(levels_[static_cast<size_t>(v.axes.right)], at.x) +
                      kOfAxis * static_cast<int>(v.axes.right));
        key.push_back(slot(levels_[static_cast<size_t>(v.axes.up)], at.y) +
                      kOfAxis * static_cast<int>(v.axes.up));
        key.push_back(0);
    }
    Ray r;
    append(r, 0, -1);
    std::vector<int> full;
    const double least = leastInterval(*maps_);
    for (size_t i = 0; i + 1 < breaks.size(); ++i) {
        if (breaks[i + 1] - breaks[i] < least) continue;
        const double mid = 0.5 * (breaks[i] + breaks[i + 1]);
        bool air = false;
        for (const Told& t : told) {
            key[t.map] = t.at(mid);
            air = air || key[t.map] == -1;
        }
        if (air) {
            append(r, breaks[i], -1);
            continue;
        }
        full = key;
        if (gridded_) {
            full.back() = slot(levels, mid) + kOfAxis * static_cast<int>(depth);
            std::sort(full.end() - 3, full.end());
        }
        append(r, breaks[i], cellOf(full));
    }
    if (!breaks.empty()) append(r, breaks.back(), -1);
    return r;
}

TurnedCells::TurnedCells(const std::vector<ViewMap>& maps, int profile, bool upright, double at,
                         double middle, int side)
    : CellModel(maps), profile_(profile), at_(at), middle_(middle), side_(side) {
    const ViewAxes a = maps[profile].view().axes;
    axis_ = upright ? a.up : a.right, radial_ = upright ? a.right : a.up, depth_ = a.depth;
}

Ray TurnedCells::ray(int map, Vec2 at) {
    const FigureView& v = (*maps_)[map].view();
    const ViewMap& p = (*maps_)[profile_];
    Ray r;
    append(r, 0, -1);
    if (v.axes.depth == axis_) { // an end view: the radius stays the same all along
        const double radius = std::hypot(along(v, at, depth_) - middle_, along(v, at, radial_) - at_);
        const Scan& s = p.scan(radial_, at_ + side_ * radius);
        for (size_t i = 0; i < s.breaks.size(); ++i) append(r, s.breaks[i], s.regions[i + 1]);
        return r;
    }
    const bool fromProfile = v.axes.depth == depth_;
    const double off = fromProfile ? along(v, at, radial_) - at_ : along(v, at, depth_) - middle_;
    const double middle = fromProfile ? middle_ : at_;
    const Scan& s = p.scan(axis_, along(v, at, axis_));
    // Outwards from the axis on both sides: radii at which the area changes, as places along the ray.
    std::vector<std::pair<double, int>> outwards;
    outwards.emplace_back(0, s.at(at_ + side_ * std::max(std::abs(off), 1e-9)));
    for (size_t k = 0; k < s.breaks.size(); ++k) {
        const size_t i = side_ > 0 ? k : s.breaks.size() - 1 - k;
        const double radius = side_ * (s.breaks[i] - at_);
        if (radius <= std::abs(off)) continue;
        outwards.emplace_back(std::sqrt(radius * radius - off * off), s.regions[side_ > 0 ? i + 1 : i]);
    }
    for (size_t i = outwards.size(); i-- > 1;) append(r, middle - outwards[i].first, outwards[i - 1].second);
    for (size_t i = 1; i < outwards.size(); ++i) append(r, middle + outwards[i].first, outwards[i].second);
    return r;
}

Ray MetCells::ray(int map, Vec2 at) {
    const Ray a = first_.ray(map, at), b = second_.ray(map, at);
    std::vector<double> breaks;
    std::ranges::merge(a.breaks, b.breaks, std::back_inserter(breaks));
    Ray r;
    append(r, 0, -1);
    const double least = leastInterval(*maps_);
    for (size_t i = 0; i + 1 < breaks.size(); ++i) {
        if (breaks[i + 1] - breaks[i] < least) continue;
        const double mid = 0.5 * (breaks[i] + breaks[i + 1]);
        const std::pair key{a.cells[static_cast<size_t>(slot(a.breaks, mid))],
                            b.cells[static_cast<size_t>(slot(b.breaks, mid))]};
        if (key.second < 0 || (key.first < 0 && what_ == First::bounds)) {
            if (key.first >= 0) outside_.insert(key.first);
            append(r, breaks[i], -1);
            continue;
        }
        const uint64_t both =
            uint64_t{static_cast<uint32_t>(key.first)} << 32 | static_cast<uint32_t>(key.second);
        const auto [it, fresh] = index_.try_emplace(both, static_cast<int>(keys_.size()));
        if (fresh) keys_.push_back(key);
        append(r, breaks[i], it->second);
    }
    if (!breaks.empty()) append(r, breaks.back(), -1);
    return r;
}

} // namespace prism
