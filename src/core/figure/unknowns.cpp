#include "core/base/groups.h"
#include "core/figure/builder.h"

namespace prism::figure {
namespace {

/// The views that stand in the box, principal ones first, without what they show.
std::vector<FigureView> standing(const ViewSet& set) {
    std::vector<FigureView> r;
    std::map<Role, int> unnamed;
    for (const View& v : set.views) {
        const auto plane = planeOf(set, v);
        if (!plane) continue;
        FigureView fv;
        static_cast<ViewPlane&>(fv) = *plane;
        fv.view = v.id, fv.name = {v.role, v.letter};
        if (v.in_figure)
            fv.name.letter.clear();
        else {
            const Hanging& h = *v.hanging;
            fv.on = h.on, fv.line = {h.from, h.to}, fv.legs = h.legs;
            fv.shows = h.flat() ? Shows::close_up : h.cuts ? Shows::cut : Shows::from_askew;
            if (fv.shows == Shows::close_up) fv.within = {h.from, h.to};
            // Of several without a letter, or with the same one, the place in the row tells them apart.
            if (std::ranges::any_of(r, [&](const FigureView& o) { return o.name == fv.name; }))
                fv.name.letter += std::to_string(++unnamed[v.role] + 1);
        }
        r.push_back(std::move(fv));
    }
    std::stable_partition(r.begin(), r.end(), [](const FigureView& v) { return v.principal(); });
    return r;
}

/// Half the extents of an ellipse that lies along the axes; none of any other curve.
std::optional<Vec2> halves(const Curve& c, double tol) {
    const auto* e = std::get_if<EllipseArc>(&c);
    if (!e || std::min(std::abs(e->major.x), std::abs(e->major.y)) > tol) return std::nullopt;
    const double major = length(e->major), minor = major * e->ratio;
    return std::abs(e->major.x) > std::abs(e->major.y) ? Vec2{major, minor} : Vec2{minor, major};
}

} // namespace

void makeUnknowns(const Drawing& d, const CleanSheet& s, const ViewSet& set, Figure& f) {
    f.tolerances = s.tolerances;
    // What the repairs call touching on the sheet is one place here as well.
    for (const View& v : set.views)
        if (v.in_figure) f.tolerances = f.tolerances.atScale(v.mm_per_sheet);
    f.views = standing(set);
    const double tol = f.tolerances.same_model;
    std::vector<Vec2> places;
    std::vector<int> viewOfPlace;
    for (FigureView& fv : f.views) {
        const View& v = set.views[fv.view];
        const Affine2 m = fv.to_model;
        std::map<int, int> own; // by node of the sheet
        const auto placeOf = [&](int node) {
            if (node < 0) return -1;
            const auto [it, fresh] = own.emplace(node, static_cast<int>(places.size()));
            if (fresh) places.push_back(m(s.nodes.at[static_cast<size_t>(node)]));
            return it->second;
        };
        for (int e : v.entities)
            for (size_t k = 0; k < d.entities[e].curves.size(); ++k) {
                FigureCurve c{e, static_cast<int>(k), v.id, s.entity_roles[e],
                              transformed(d.entities[e].curves[k], m)};
                fv.box.add(boxOf(c.drawn));
                const SheetNodes::Of& nodes = s.nodes.of(e, c.index);
                c.p0 = placeOf(nodes.start), c.p1 = placeOf(nodes.end);
                if (std::holds_alternative<Arc>(c.drawn) || halves(c.drawn, tol))
                    c.centre = placeOf(nodes.centre);
                f.curves.push_back(std::move(c));
            }
        viewOfPlace.resize(places.size(), v.id);
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
    const auto size = [&](double value) {
        f.drawn.push_back(value);
        f.axis_of.push_back(-1);
        return static_cast<int>(f.drawn.size()) - 1;
    };
    for (FigureCurve& c : f.curves)
        if (auto* a = std::get_if<Arc>(&c.drawn)) c.radius = size(a->radius);
    // Pieces of one ellipse have one size.
    std::map<int, std::vector<const FigureCurve*>> about;
    for (FigureCurve& c : f.curves) {
        const auto half = c.centre < 0 ? std::nullopt : halves(c.drawn, tol);
        if (!half) continue;
        for (const FigureCurve* o : about[c.centre])
            if (std::abs(f.drawn[o->half_u] - half->x) <= tol &&
                std::abs(f.drawn[o->half_v] - half->y) <= tol)
                c.half_u = o->half_u, c.half_v = o->half_v;
        if (!c.onEllipse()) c.half_u = size(half->x), c.half_v = size(half->y);
        about[c.centre].push_back(&c);
    }
    for (const FigureView* v : f.principalViews())
        f.size = std::max({f.size, v->box.width(), v->box.height()});
    f.now = f.drawn;
}

} // namespace prism::figure
