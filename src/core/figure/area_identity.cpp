#include "core/figure/area_identity.h"

#include <set>

namespace prism {
namespace {

/// A piece of a curve, the same from both of its sides.
using Piece = std::tuple<int, double, double>;

Piece pieceOf(const AreaEdge& e) {
    return {e.curve, e.t0, e.t1};
}

template <class F> void forEachEdge(const ClosedArea& a, F f) {
    for (const AreaEdge& e : a.outer) f(e);
    for (const Loop& h : a.holes)
        for (const AreaEdge& e : h) f(e);
}

/// Curves on the border of the union of areas, without those that only run between two of them.
std::set<int> borderOf(const std::vector<ClosedArea>& all, const std::vector<int>& which) {
    std::map<Piece, int> times;
    for (int i : which) forEachEdge(all[i], [&](const AreaEdge& e) { ++times[pieceOf(e)]; });
    std::set<int> r;
    for (const auto& [piece, n] : times)
        if (n == 1) r.insert(std::get<0>(piece));
    return r;
}

/// The areas of one view with who lies on the other side of their edges.
class Neighbours {
  public:
    Neighbours(const std::vector<ClosedArea>& all, int view) : all_(all) {
        for (size_t i = 0; i < all.size(); ++i)
            if (all[i].view == view)
                forEachEdge(all[i],
                            [&](const AreaEdge& e) { by_piece_[pieceOf(e)].push_back(static_cast<int>(i)); });
    }
    /// All that is reached from an area without crossing one of these curves. Empty when it runs out of what
    /// they enclose: to an outer border that is none of them.
    std::vector<int> within(int start, const std::set<int>& border) const {
        std::set<int> seen{start};
        std::vector<int> open{start};
        bool leaks = false;
        while (!open.empty() && !leaks) {
            const int i = open.back();
            open.pop_back();
            forEachEdge(all_[i], [&](const AreaEdge& e) {
                if (border.contains(e.curve)) return;
                const auto& both = by_piece_.at(pieceOf(e));
                leaks = leaks || both.size() < 2;
                for (int o : both)
                    if (seen.insert(o).second) open.push_back(o);
            });
        }
        return leaks ? std::vector<int>{} : std::vector<int>(seen.begin(), seen.end());
    }

  private:
    const std::vector<ClosedArea>& all_;
    std::map<Piece, std::vector<int>> by_piece_;
};

/// The area with the same curves round it; of several the one nearest to where the area was.
int sameBorder(const std::vector<ClosedArea>& now, const ClosedArea& was, Vec2 went) {
    int best = -1;
    double nearest = std::numeric_limits<double>::infinity();
    for (size_t i = 0; i < now.size(); ++i) {
        if (now[i].view != was.view || now[i].bounds != was.bounds) continue;
        const double d = now[i].contains(went) ? 0 : distance(now[i].seed, went);
        if (d < nearest) nearest = d, best = static_cast<int>(i);
    }
    return best;
}

int areaAround(const std::vector<ClosedArea>& now, int view, Vec2 p) {
    for (size_t i = 0; i < now.size(); ++i)
        if (now[i].view == view && now[i].contains(p)) return static_cast<int>(i);
    return -1;
}

} // namespace

Successors successorsOf(const Figure& f, const AreaSets& areas, const std::vector<int>& drawn) {
    Successors r;
    if (drawn.empty()) return r;
    if (f.now == f.drawn) {
        r.now = drawn;
        std::sort(r.now.begin(), r.now.end());
        return r;
    }
    const int view = areas.drawn[drawn.front()].view;
    const Warp warp(f, view);
    const std::set<int> border = borderOf(areas.drawn, drawn);
    const Neighbours neighbours(areas.now, view);
    std::set<int> found;
    std::vector<int> open;
    for (int i : drawn) {
        const ClosedArea& was = areas.drawn[i];
        const int same = sameBorder(areas.now, was, warp(was.seed));
        if (same < 0) {
            open.push_back(i);
            continue;
        }
        // What is found already was found with all that is reached from it.
        if (!found.insert(same).second) continue;
        const auto whole = neighbours.within(same, border);
        found.insert(whole.begin(), whole.end());
    }
    for (int i :
         open) { // its border was cut otherwise: the area where its middle went, as far as its curves reach
        const ClosedArea& was = areas.drawn[i];
        const int there = areaAround(areas.now, view, warp(was.seed));
        if (there < 0) {
            r.vanished.push_back(i);
            continue;
        }
        if (found.contains(there)) continue; // it lies within what the others enclose
        const auto whole = neighbours.within(there, border);
        found.insert(there);
        found.insert(whole.begin(), whole.end());
        if (whole.empty()) r.nearest.push_back(i);
    }
    // An area between the others that shrank to nothing took nothing away from what they enclose together.
    const std::set<int> now = borderOf(areas.now, {found.begin(), found.end()});
    if (!found.empty() && std::includes(border.begin(), border.end(), now.begin(), now.end())) {
        std::erase_if(r.vanished, [&](int i) {
            bool inner = true;
            forEachEdge(areas.drawn[i], [&](const AreaEdge& e) { inner = inner && !now.contains(e.curve); });
            return inner && drawn.size() > 1;
        });
    }
    r.now.assign(found.begin(), found.end());
    return r;
}

} // namespace prism
