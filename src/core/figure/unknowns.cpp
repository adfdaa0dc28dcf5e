#include "core/base/groups.h"
#include "core/base/point_merger.h"
#include "core/figure/builder.h"

namespace prism::figure {
void makeUnknowns(const Drawing& d, const CleanSheet& s, const ViewSet& set, Figure& f) {
    f.tolerances = s.tolerances;
    // What the repairs call touching on the sheet is one place here as well.
    for (const View& v : set.views)
        if (v.in_figure) f.tolerances = f.tolerances.atScale(v.mm_per_sheet);
    const double tol = f.tolerances.same_model;
    std::vector<Vec2> places;
    std::vector<int> viewOfPlace;
    for (const View& v : set.views) {
        if (!v.in_figure) continue;
        const Affine2 m = v.toModel();
        FigureView fv{v.id, v.role, axesOf(v.role), m, {}};
        PointMerger grid(tol); // numbers of this view begin where those of the one before end
        const int first = static_cast<int>(places.size());
        auto placeAt = [&](Vec2 p) { return first + grid.add(p); };
        for (int e : v.entities)
            for (size_t k = 0; k < d.entities[e].curves.size(); ++k) {
                FigureCurve c{e, static_cast<int>(k), v.id, s.entity_roles[e],
                              transformed(d.entities[e].curves[k], m)};
                fv.box.add(boxOf(c.drawn));
                if (!isClosed(c.drawn, tol)) c.p0 = placeAt(startOf(c.drawn)), c.p1 = placeAt(endOf(c.drawn));
                if (auto* a = std::get_if<Arc>(&c.drawn)) c.centre = placeAt(a->centre);
                f.curves.push_back(std::move(c));
            }
        places.insert(places.end(), grid.places().begin(), grid.places().end());
        viewOfPlace.resize(places.size(), v.id);
        f.views.push_back(fv);
    }
    // Unknowns 2i and 2i+1 are the place's coordinates until the merged ones are numbered densely.
    Groups merge(2 * places.size());
    for (const FigureCurve& c : f.curves) {
        if (!std::holds_alternative<Segment>(c.drawn) || c.p0 < 0) continue;
        const Vec2 u = places[c.p1] - places[c.p0];
        if (std::abs(u.x) <= tol && std::abs(u.y) > tol) merge.join(2 * c.p0, 2 * c.p1);
        if (std::abs(u.y) <= tol && std::abs(u.x) > tol) merge.join(2 * c.p0 + 1, 2 * c.p1 + 1);
    }
    std::vector<int> dense(2 * places.size(), -1);
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
    f.now = f.drawn;
}

} // namespace prism::figure
