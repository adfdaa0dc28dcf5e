#include "core/figure/builder.h"

#include <numeric>
#include <unordered_map>

namespace prism::figuring {
namespace {

/// Points of one view found again by place, through a grid of cells of the tolerance's size.
class PointGrid {
  public:
    PointGrid(double cell, std::vector<Vec2>& places) : cell_(cell), places_(places) {}

    int at(Vec2 p) {
        const long long i = std::llround(p.x / cell_), j = std::llround(p.y / cell_);
        for (long long a = i - 1; a <= i + 1; ++a)
            for (long long b = j - 1; b <= j + 1; ++b)
                if (auto it = cells_.find(key(a, b)); it != cells_.end())
                    for (int k : it->second)
                        if (distance(places_[k], p) <= cell_) return k;
        places_.push_back(p);
        cells_[key(i, j)].push_back(static_cast<int>(places_.size()) - 1);
        return static_cast<int>(places_.size()) - 1;
    }

  private:
    static unsigned long long key(long long a, long long b) {
        return static_cast<unsigned long long>(a) * 0x9E3779B97F4A7C15ULL ^
               static_cast<unsigned long long>(b);
    }
    double cell_;
    std::vector<Vec2>& places_;
    std::unordered_map<unsigned long long, std::vector<int>> cells_;
};

struct Merge {
    std::vector<int> parent;
    int find(int i) {
        while (parent[i] != i) i = parent[i] = parent[parent[i]];
        return i;
    }
    void join(int a, int b) {
        a = find(a), b = find(b);
        if (a != b) parent[std::max(a, b)] = std::min(a, b);
    }
};

} // namespace

void makeUnknowns(const Drawing& d, const CleanSheet& s, const ViewSet& set, Figure& f) {
    const double tol = s.tolerances.same_model;
    std::vector<Vec2> places;
    std::vector<int> viewOfPlace;
    for (const View& v : set.views) {
        if (!v.in_figure) continue;
        const Affine2 m = v.toModel();
        FigureView fv{v.id, v.role, axesOf(v.role), m, {}};
        PointGrid grid(tol, places);
        for (int e : v.entities)
            for (size_t k = 0; k < d.entities[e].curves.size(); ++k) {
                FigureCurve c{e, static_cast<int>(k), v.id, s.entity_roles[e],
                              transformed(d.entities[e].curves[k], m)};
                fv.box.add(boxOf(c.drawn));
                if (!isClosed(c.drawn, tol)) c.p0 = grid.at(startOf(c.drawn)), c.p1 = grid.at(endOf(c.drawn));
                if (auto* a = std::get_if<Arc>(&c.drawn)) c.centre = grid.at(a->centre);
                f.curves.push_back(std::move(c));
            }
        viewOfPlace.resize(places.size(), v.id);
        f.views.push_back(fv);
    }
    // Unknowns 2i and 2i+1 are the place's coordinates until the merged ones are numbered densely.
    Merge merge;
    merge.parent.resize(2 * places.size());
    std::iota(merge.parent.begin(), merge.parent.end(), 0);
    for (const FigureCurve& c : f.curves) {
        if (!std::holds_alternative<Segment>(c.drawn) || c.p0 < 0) continue;
        const Vec2 u = places[c.p1] - places[c.p0];
        if (std::abs(u.x) <= tol && std::abs(u.y) > tol) merge.join(2 * c.p0, 2 * c.p1);
        if (std::abs(u.y) <= tol && std::abs(u.x) > tol) merge.join(2 * c.p0 + 1, 2 * c.p1 + 1);
    }
    std::vector<int> dense(merge.parent.size(), -1);
    auto variable = [&](int raw, double value, Axis axis) {
        const int root = merge.find(raw);
        if (dense[root] < 0) {
            dense[root] = static_cast<int>(f.drawn.size());
            f.drawn.push_back(value);
            f.axis_of.push_back(static_cast<int>(axis));
        }
        return dense[root];
    };
    for (size_t i = 0; i < places.size(); ++i) {
        const ViewAxes& ax = f.viewById(viewOfPlace[i])->axes;
        const int u = variable(static_cast<int>(2 * i), places[i].x, ax.right);
        f.points.push_back({viewOfPlace[i], u, variable(static_cast<int>(2 * i + 1), places[i].y, ax.up)});
    }
    for (FigureCurve& c : f.curves)
        if (auto* a = std::get_if<Arc>(&c.drawn)) {
            c.radius = static_cast<int>(f.drawn.size());
            f.drawn.push_back(a->radius);
            f.axis_of.push_back(-1);
        }
    for (const FigureView& v : f.views) f.size = std::max({f.size, v.box.width(), v.box.height()});
    f.tolerances = s.tolerances;
    f.now = f.drawn;
}

} // namespace prism::figuring
