#include "core/proposing/oblique_planes.h"

#include "core/proposing/cell_steps.h"

#include <bit>

namespace prism {
namespace {

constexpr size_t kMostPlanes = 6;
constexpr int kChoices = 12; ///< consistent choices of cells that are built and proved, at most

double length(Vec3 a) {
    return std::sqrt(dot(a, a));
}

double& along(Vec3& p, Axis a) {
    return a == Axis::x ? p.x : a == Axis::y ? p.y : p.z;
}

Vec3 inSpace(const FigureView& v, Vec2 at, double depth) {
    Vec3 p{};
    along(p, v.axes.right) = at.x, along(p, v.axes.up) = at.y, along(p, v.axes.depth) = depth;
    return p;
}

struct Slanted {
    const FigureView* view;
    Segment line;
    double on(Vec2 p, Axis a) const { return view->axes.right == a ? p.x : p.y; }
};

std::vector<Slanted> slantedLines(const std::vector<ViewMap>& maps, double tol) {
    std::vector<Slanted> r;
    for (const ViewMap& m : maps)
        for (const auto& [role, c] : m.curves())
            if (const auto* s = std::get_if<Segment>(&c);
                s && std::min(std::abs(s->a.x - s->b.x), std::abs(s->a.y - s->b.y)) > tol)
                r.push_back({&m.view(), *s});
    return r;
}

/// The plane through two lines of different views, when an end of the one and an end of the other are one
/// corner: each line lies as deep as the corner does.
std::optional<ObliquePlane> planeOf(const Slanted& s, const Slanted& t, bool s_end, bool t_end, double tol) {
    const ViewAxes &a = s.view->axes, &b = t.view->axes;
    if (a.depth == b.depth) return std::nullopt;
    const Axis shared = a.right != b.depth ? a.right : a.up;
    const Vec2 p = s_end ? s.line.b : s.line.a, q = t_end ? t.line.b : t.line.a;
    if (std::abs(s.on(p, shared) - t.on(q, shared)) > tol) return std::nullopt;
    const double s_depth = t.on(q, a.depth), t_depth = s.on(p, b.depth);
    ObliquePlane r;
    r.corners = {inSpace(*s.view, p, s_depth), inSpace(*s.view, s_end ? s.line.a : s.line.b, s_depth),
                 inSpace(*t.view, t_end ? t.line.a : t.line.b, t_depth)};
    const Vec3 n = cross(r.corners[1] - r.corners[0], r.corners[2] - r.corners[0]);
    r.normal = n * (1 / length(n));
    return r;
}

/// Whether a line of a view square to neither of the two lies in the plane, all at one depth.
bool confirms(const Slanted& l, const ObliquePlane& p, double tol) {
    const Axis depth = l.view->axes.depth;
    Vec3 n = p.normal;
    const double slope = along(n, depth);
    const auto depthAt = [&](Vec2 q) { return -p.beyond(inSpace(*l.view, q, 0)) / slope; };
    return std::abs(depthAt(l.line.a) - depthAt(l.line.b)) <= tol / std::abs(slope);
}

/// Whether a line of a view shows where two planes meet.
bool showsMeeting(const Slanted& l, const ObliquePlane& p, const ObliquePlane& o, double tol) {
    const Axis depth = l.view->axes.depth;
    Vec3 n = p.normal, m = o.normal;
    // Of the plane through their line that the view is looked along.
    const Vec3 both = n * along(m, depth) - m * along(n, depth);
    const double size = length(both);
    if (size < 1e-6) return false;
    return std::ranges::all_of(std::array{l.line.a, l.line.b}, [&](Vec2 q) {
        const Vec3 at = inSpace(*l.view, q, 0);
        return std::abs(p.beyond(at) * along(m, depth) - o.beyond(at) * along(n, depth)) <= tol * size;
    });
}

} // namespace

std::vector<ObliquePlane> obliquePlanes(const Figure& f, const std::vector<ViewMap>& maps) {
    constexpr size_t kMostLines = 40; // more of them are a drawing of something else
    const double tol = 2 * f.tolerances.proof;
    const std::vector<Slanted> lines = slantedLines(maps, 4 * tol);
    std::vector<ObliquePlane> r;
    std::vector<std::vector<const Slanted*>> thirds; // by plane, the lines of a third view
    if (lines.size() > kMostLines) return r;
    for (size_t i = 0; i < lines.size(); ++i)
        for (size_t k = i + 1; k < lines.size(); ++k)
            for (const auto& [a, b] : {std::pair{false, false}, {false, true}, {true, false}, {true, true}}) {
                auto p = planeOf(lines[i], lines[k], a, b, tol);
                if (!p) continue;
                const bool known = std::ranges::any_of(r, [&](const ObliquePlane& o) {
                    return std::abs(std::abs(dot(o.normal, p->normal)) - 1) < 1e-9 &&
                           std::abs(o.beyond(p->corners[0])) <= tol;
                });
                if (known) continue;
                r.push_back(*p);
                thirds.emplace_back();
                for (const Slanted& l : lines)
                    if (l.view->axes.depth != lines[i].view->axes.depth &&
                        l.view->axes.depth != lines[k].view->axes.depth)
                        thirds.back().push_back(&l);
            }
    for (size_t i = 0; i < r.size(); ++i)
        r[i].confirmed = std::ranges::any_of(thirds[i], [&](const Slanted* l) {
            return confirms(*l, r[i], tol) || std::ranges::any_of(r, [&](const ObliquePlane& o) {
                       return &o != &r[i] && showsMeeting(*l, r[i], o, tol);
                   });
        });
    std::ranges::stable_sort(r, {}, [](const ObliquePlane& p) { return !p.confirmed; });
    if (r.size() > kMostPlanes) r.resize(kMostPlanes);
    return r;
}

PlaneCells::PlaneCells(const std::vector<ViewMap>& maps, const std::vector<ObliquePlane>& planes)
    : CellModel(maps), planes_(planes) {}

Ray PlaneCells::ray(int map, Vec2 at) {
    const FigureView& v = (*maps_)[static_cast<size_t>(map)].view();
    std::vector<std::pair<double, unsigned>> crossed; // where, and the plane's bit
    unsigned mask = 0;                                // far out at the low end of the ray
    for (size_t k = 0; k < planes_.size(); ++k) {
        Vec3 n = planes_[k].normal;
        const double slope = along(n, v.axes.depth);
        const unsigned bit = 1U << k;
        crossed.emplace_back(-planes_[k].beyond(inSpace(v, at, 0)) / slope, bit);
        if (slope < 0) mask |= bit;
    }
    std::ranges::sort(crossed);
    const auto cellOf = [&](unsigned m) {
        const auto [it, fresh] = index_.emplace(m, static_cast<int>(masks_.size()));
        if (fresh) masks_.push_back(m);
        return it->second;
    };
    Ray r;
    r.cells.push_back(cellOf(mask));
    for (const auto& [depth, bit] : crossed) {
        mask ^= bit;
        r.breaks.push_back(depth), r.cells.push_back(cellOf(mask));
    }
    return r;
}

Ray BoundedCell::ray(int map, Vec2 at) {
    const FigureView& v = (*maps_)[static_cast<size_t>(map)].view();
    constexpr double endless = std::numeric_limits<double>::infinity();
    double lo = -endless, hi = endless;
    for (const auto& [plane, air] : planes_) {
        Vec3 n = plane.normal;
        const double slope = along(n, v.axes.depth), depth = -plane.beyond(inSpace(v, at, 0)) / slope;
        if (slope * air > 0)
            hi = std::min(hi, depth);
        else
            lo = std::max(lo, depth);
    }
    if (lo >= hi) return {{}, {-1}};
    Ray r;
    if (std::isfinite(lo)) r.cells.push_back(-1), r.breaks.push_back(lo);
    r.cells.push_back(0);
    if (std::isfinite(hi)) r.breaks.push_back(hi), r.cells.push_back(-1);
    return r;
}

namespace {

/// By plane the side that is air: +1 beyond it, -1 before it, 0 for a plane that parts nothing. Told by the
/// pieces that it cuts in two, one material and the other not.
std::vector<int> airSides(const MetCells& model, const PlaneCells& sides, const CellChoice& choice,
                          size_t planes) {
    std::map<std::pair<int, unsigned>, bool> material; // by piece and sides
    for (int c = 0; c < model.cells(); ++c)
        material[{model.of(c).second, sides.sidesOf(model.of(c).first)}] =
            choice.material[static_cast<size_t>(c)];
    std::vector<int> r;
    for (size_t k = 0; k < planes; ++k) {
        int votes = 0;
        for (const auto& [key, full] : material) {
            const auto other = material.find({key.first, key.second ^ (1U << k)});
            if (other == material.end() || other->second == full || full) continue;
            votes += key.second & (1U << k) ? 1 : -1;
        }
        r.push_back(votes > 0 ? 1 : votes < 0 ? -1 : 0);
    }
    return r;
}

Step facetOf(const ObliquePlane& p, int side) {
    Step s;
    s.kind = StepKind::facet, s.operation = Operation::cut;
    s.corners.assign(p.corners.begin(), p.corners.end());
    const double reach = length(p.corners[1] - p.corners[0]);
    s.taken = (p.corners[0] + p.corners[1] + p.corners[2]) * (1.0 / 3) + p.normal * (side * reach);
    s.name = "oblique cut";
    return s;
}

/// The side of a plane that the middle of the part does not lie on.
int awayFromMiddle(const ObliquePlane& p, const std::vector<ViewMap>& maps) {
    Vec3 middle{};
    for (const ViewMap& m : maps) {
        const Vec2 c = m.view().box.centre();
        along(middle, m.view().axes.right) = c.x, along(middle, m.view().axes.up) = c.y;
    }
    return p.beyond(middle) < 0 ? 1 : -1;
}

/// Sets of planes that may be faces together, as bits, the larger ones first: confirmed ones alone where
/// there are some, and of parallel ones one.
std::vector<unsigned> setsOf(const std::vector<ObliquePlane>& planes) {
    const bool any = std::ranges::any_of(planes, &ObliquePlane::confirmed);
    const auto mayBe = [&](unsigned set) {
        for (size_t k = 0; k < planes.size(); ++k) {
            if (!(set & (1U << k))) continue;
            if (any && !planes[k].confirmed) return false;
            for (size_t i = 0; i < k; ++i)
                if ((set & (1U << i)) && std::abs(dot(planes[i].normal, planes[k].normal)) > 1 - 1e-9)
                    return false;
        }
        return true;
    };
    std::vector<unsigned> r;
    for (unsigned s = 1; s < 1U << planes.size(); ++s)
        if (mayBe(s)) r.push_back(s);
    std::ranges::stable_sort(r, [](unsigned a, unsigned b) { return std::popcount(a) > std::popcount(b); });
    return r;
}

} // namespace

void fromFacets(const Figure& f, const std::vector<ViewMap>& maps, const std::vector<ObliquePlane>& planes,
                bool gridded, Lines lines, Progress& progress, Judge& best) {
    constexpr size_t kMostSets = 20;
    constexpr int kLooks = 3; // for each set
    std::vector<unsigned> sets = setsOf(planes);
    if (sets.size() > kMostSets) sets.resize(kMostSets);
    for (const unsigned set : sets) {
        std::vector<std::pair<ObliquePlane, int>> faces;
        for (size_t k = 0; k < planes.size(); ++k)
            if (set & (1U << k)) faces.emplace_back(planes[k], awayFromMiddle(planes[k], maps));
        BoundedCell inside(maps, faces);
        ProductCells pieces(maps, gridded), fine(maps, true);
        MetCells model(inside, pieces);
        ConsistentCells solver(model, f.tolerances, f.size, lines, best.work(), progress, best.kinds());
        for (int i = 0; i < kLooks && !best.clean && !best.exhausted(); ++i) {
            const auto choice = solver.next(progress);
            if (!choice) break;
            std::vector<Fill> fills(static_cast<size_t>(pieces.cells()), Fill::either);
            for (int c = 0; c < model.cells(); ++c)
                take(fills[static_cast<size_t>(model.of(c).second)], choice->material[static_cast<size_t>(c)],
                     choice->looked_at[static_cast<size_t>(c)]);
            StepsFound found = stepsForPieces(f, pieces, gridded, fine, fills, progress);
            if (!found.left_undone.empty()) best.left_undone = found.left_undone;
            if (found.steps.empty()) break;
            for (const auto& [plane, air] : faces) found.steps.push_back(facetOf(plane, air));
            best.consider(std::move(found.steps), "material cut by oblique planes");
            solver.lookAt(best.placesOff(maps), progress);
        }
        if (best.clean || best.exhausted() || progress.cancelled()) return;
    }
}

void fromObliquePlanes(const Figure& f, const std::vector<ViewMap>& maps,
                       const std::vector<ObliquePlane>& planes, bool gridded, Lines lines, Progress& progress,
                       Judge& best) {
    PlaneCells sides(maps, planes);
    ProductCells pieces(maps, gridded), fine(maps, true);
    MetCells model(sides, pieces);
    ConsistentCells solver(model, f.tolerances, f.size, lines, best.work(), progress, best.kinds());
    best.begin();
    for (int i = 0; i < kChoices && !best.clean && !best.stuck(); ++i) {
        progress.report(0.3, "Looking for material cut by oblique planes");
        const auto choice = solver.next(progress);
        if (!choice) break;
        const std::vector<int> air = airSides(model, sides, *choice, planes.size());
        std::vector<Fill> fills(static_cast<size_t>(pieces.cells()), Fill::either);
        for (int c = 0; c < model.cells(); ++c) {
            const auto [side, piece] = model.of(c);
            bool gone = false;
            for (size_t k = 0; k < planes.size(); ++k) {
                const bool beyond = sides.sidesOf(side) & (1U << k);
                gone = gone || (air[k] != 0 && beyond == (air[k] > 0));
            }
            if (gone) continue;
            take(fills[static_cast<size_t>(piece)], choice->material[static_cast<size_t>(c)],
                 choice->looked_at[static_cast<size_t>(c)]);
        }
        StepsFound found = stepsForPieces(f, pieces, gridded, fine, fills, progress);
        if (!found.left_undone.empty()) best.left_undone = found.left_undone;
        if (found.steps.empty()) continue;
        for (size_t k = 0; k < planes.size(); ++k)
            if (air[k] != 0) found.steps.push_back(facetOf(planes[k], air[k]));
        best.consider(std::move(found.steps), "material cut by oblique planes");
        solver.lookAt(best.placesOff(maps), progress);
        if (choice->ignored > 0) break; // others contradict the sheet as much
    }
    if (!solver.leftUndone().empty()) best.left_undone = solver.leftUndone();
}

} // namespace prism
