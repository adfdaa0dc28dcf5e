#include "core/project/sheet_difference.h"

#include "core/cleaning/clean_sheet.h"

#include <tuple>
#include <unordered_map>

namespace prism {
namespace {

constexpr double kSame = 1e-7; ///< of the sheet's size: a place that stayed
constexpr double kFar = 0.2;   ///< of the sheet's size: a line that went farther is another line

/// Places that tell where a line lies and how.
std::vector<Vec2> placesOf(const Entity& e) {
    std::vector<Vec2> r;
    for (const Curve& c : e.curves)
        for (double t : {0.0, 0.25, 0.5, 1.0}) r.push_back(pointAt(c, t));
    if (e.point) r.push_back(*e.point);
    return r;
}

double farthest(const Entity& a, const Entity& b) {
    const auto p = placesOf(a), q = placesOf(b);
    if (p.size() != q.size()) return std::numeric_limits<double>::infinity();
    double most = 0;
    for (size_t i = 0; i < p.size(); ++i) most = std::max(most, distance(p[i], q[i]));
    return most;
}

/// Lines that may be the same: found by a rounded first place.
class ByPlace {
  public:
    ByPlace(const Drawing& d, double same) : d_(d), side_(4 * same) {
        for (const Entity& e : d.entities)
            if (const auto p = placesOf(e); !p.empty()) cells_.emplace(cell(p.front()), e.id);
    }
    /// The first unused line in the same place on a layer of the same name.
    int find(const Drawing& other, const Entity& e, const std::vector<bool>& used, double same) const {
        const auto places = placesOf(e);
        if (places.empty()) return -1;
        int best = -1;
        const auto [x, y] = cell(places.front());
        for (long long i = x - 1; i <= x + 1; ++i)
            for (long long j = y - 1; j <= y + 1; ++j)
                for (auto [it, end] = cells_.equal_range({i, j}); it != end; ++it) {
                    const Entity& o = d_.entities[it->second];
                    if (!used[o.id] && (best < 0 || o.id < best) && farthest(o, e) <= same &&
                        d_.layers[o.layer].name == other.layers[e.layer].name)
                        best = o.id;
                }
        return best;
    }

  private:
    using Cell = std::pair<long long, long long>;
    struct Hash {
        size_t operator()(const Cell& c) const {
            return static_cast<size_t>(c.first) * 1000003u ^ static_cast<size_t>(c.second);
        }
    };
    Cell cell(Vec2 p) const { return {std::llround(p.x / side_), std::llround(p.y / side_)}; }
    const Drawing& d_;
    double side_;
    std::unordered_multimap<Cell, int, Hash> cells_;
};

void compareLines(const Drawing& before, const Drawing& after, SheetDifference& r) {
    const double size = std::max({before.box().diagonal(), after.box().diagonal(), 1e-9});
    std::vector<bool> used(after.entities.size(), false);
    const ByPlace places(after, size * kSame);
    r.after_of.assign(before.entities.size(), -1);
    auto pair = [&](int b, int a) { r.after_of[b] = a, used[a] = true; };
    for (const Entity& e : before.entities)
        if (const int a = places.find(before, e, used, size * kSame); a >= 0) pair(e.id, a);
    std::unordered_map<std::string, int> byKey;
    for (const Entity& e : after.entities)
        if (!used[e.id]) byKey.emplace(keyOf(e), e.id);
    for (const Entity& e : before.entities) {
        if (r.after_of[e.id] >= 0) continue;
        const auto it = byKey.find(keyOf(e));
        if (it == byKey.end() || used[it->second] || after.entities[it->second].type != e.type) continue;
        const double by = farthest(e, after.entities[it->second]);
        if (by > kFar * size) continue;
        pair(e.id, it->second);
        r.lines.push_back({LineChange::Kind::moved, e.id, it->second, by});
    }
    for (const Entity& e : before.entities)
        if (r.after_of[e.id] < 0) r.lines.push_back({LineChange::Kind::removed, e.id, -1, 0});
    for (const Entity& e : after.entities)
        if (!used[e.id]) r.lines.push_back({LineChange::Kind::added, -1, e.id, 0});
}

bool samePlace(const Dimension& a, const Dimension& b, double same) {
    return a.kind == b.kind && distance(a.p13, b.p13) <= same && distance(a.p14, b.p14) <= same &&
           distance(a.p10, b.p10) <= same && distance(a.p15, b.p15) <= same;
}

void compareDimensions(const Drawing& before, const Drawing& after, SheetDifference& r) {
    const double same = std::max(before.box().diagonal(), 1e-9) * kSame;
    std::vector<bool> used(after.dimensions.size(), false);
    r.dimension_after_of.assign(before.dimensions.size(), -1);
    for (const bool byHandle : {true, false}) // by name first; what is left, by place
        for (const Dimension& b : before.dimensions) {
            if (r.dimension_after_of[b.id] >= 0) continue;
            for (const Dimension& a : after.dimensions) {
                const bool named = !b.handle.empty() && a.handle == b.handle &&
                                   a.block_path == b.block_path && a.kind == b.kind;
                if (used[a.id] || !(byHandle ? named : samePlace(a, b, same))) continue;
                r.dimension_after_of[b.id] = a.id, used[a.id] = true;
                break;
            }
        }
    for (const Dimension& b : before.dimensions) {
        const int a = r.dimension_after_of[b.id];
        if (a < 0)
            r.dimensions.push_back({b.handle, b.id, -1, b.text, "", b.value, 0});
        else if (const Dimension& x = after.dimensions[a]; x.text != b.text)
            r.dimensions.push_back({b.handle, b.id, a, b.text, x.text, b.value, x.value});
    }
    for (const Dimension& a : after.dimensions)
        if (!used[a.id]) r.dimensions.push_back({a.handle, -1, a.id, "", a.text, 0, a.value});
}

} // namespace

SheetDifference compareSheets(const Drawing& before, const Drawing& after) {
    SheetDifference r;
    compareLines(before, after, r);
    compareDimensions(before, after, r);
    return r;
}

} // namespace prism
