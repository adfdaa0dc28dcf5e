#include "core/views/levels.h"
#include "core/views/stages.h"

#include <fmt/format.h>

// Scales told by how the views match each other, where labels and dimensions do not tell.
namespace prism::views {
namespace {

/// Foreshortening of the axes in an isometric projection (ISO 5456-3): the square root of 2/3.
const double kIsometric = std::sqrt(2.0 / 3.0);
constexpr double kAlike = 2e-4; ///< relative

/// Lengths along the model axes that the principal views show, and radii, mm; sorted.
struct ModelLengths {
    std::vector<double> flat, upright, radii;
};

ModelLengths lengthsOf(const Drawing& d, const ViewSet& set) {
    ModelLengths r;
    for (const View& v : set.views) {
        if (!isPrincipal(v.role)) continue;
        const ViewAxes axes = axesOf(v.role);
        for (int e : v.entities)
            for (const Curve& c : d.entities[e].curves) {
                if (const auto* a = std::get_if<Arc>(&c)) r.radii.push_back(a->radius * v.mm_per_sheet);
                const auto* s = std::get_if<Segment>(&c);
                if (!s) continue;
                const Vec2 w = s->b - s->a;
                const double l = length(w);
                const bool level = std::abs(w.y) < 1e-6 * l, up = std::abs(w.x) < 1e-6 * l;
                if (!level && !up) continue;
                const Axis axis = level ? axes.right : axes.up;
                (axis == Axis::z ? r.upright : r.flat).push_back(l * v.mm_per_sheet);
            }
        // A round silhouette is as long as the view is wide; so are edges that the view shows in pieces.
        for (int k : {0, 1}) {
            const double l = (k == 0 ? v.box_sheet.width() : v.box_sheet.height()) * v.mm_per_sheet;
            ((k == 0 ? axes.right : axes.up) == Axis::z ? r.upright : r.flat).push_back(l);
        }
    }
    for (auto* list : {&r.flat, &r.upright, &r.radii}) {
        std::ranges::sort(*list);
        const auto same =
            std::unique(list->begin(), list->end(), [](double a, double b) { return b - a <= kAlike * b; });
        list->erase(same, list->end());
    }
    return r;
}

/// What a line of the pictorial may be, as paper mm for a scale of 1, and which lengths it is to be found
/// among.
struct Clue {
    double paper;
    const std::vector<double>* among;
};

std::vector<Clue> cluesOf(const Drawing& d, const View& v, const ModelLengths& m, double unit) {
    std::vector<Clue> r;
    constexpr size_t chords = 12; ///< a chain of so many lines is a curve drawn in pieces
    for (int e : v.entities)
        for (const Curve& c : d.entities[e].curves) {
            if (d.entities[e].curves.size() >= chords) break;
            if (const auto* x =
                    std::get_if<EllipseArc>(&c)) // a circle keeps its diameter along the major axis
                r.push_back({length(x->major) * std::max(1.0, x->ratio) * unit, &m.radii});
            const auto* s = std::get_if<Segment>(&c);
            if (!s) continue;
            const double a = std::remainder(angleOf(s->b - s->a), kPi), l = lengthOf(c) * unit / kIsometric;
            if (std::abs(std::abs(a) - kPi / 2) < 0.01)
                r.push_back({l, &m.upright});
            else if (std::abs(std::abs(a) - kPi / 6) < 0.01)
                r.push_back({l, &m.flat});
        }
    return r;
}

bool holds(const std::vector<double>& sorted, double x) {
    const auto it = std::ranges::lower_bound(sorted, x * (1 - kAlike));
    return it != sorted.end() && *it <= x * (1 + kAlike);
}

/// The scale at which most lines of an isometric view are lengths of the others.
void scalePictorial(const Drawing& d, const ViewSet& set, const ModelLengths& m, View& v) {
    const std::vector<Clue> clues = cluesOf(d, v, m, set.unit.mm);
    int most = 0;
    double best = 0;
    for (const Clue& c : clues)
        for (double l : *c.among) {
            const double s = c.paper / l;
            const auto n = static_cast<int>(
                std::ranges::count_if(clues, [&](const Clue& o) { return holds(*o.among, o.paper / s); }));
            // Among equals the larger one: lengths are then found among the fewer long ones.
            if (n > most || (n == most && s > best * (1 + kAlike))) most = n, best = s;
        }
    if (most < 3 || 2 * most < static_cast<int>(clues.size())) return;
    v.scale = best;
    v.scale_reason = fmt::format("{} of {} lines are lengths of the other views in isometric projection",
                                 most, clues.size());
    v.mm_per_sheet = set.unit.mm / v.scale;
}

/// Shares of the coordinates, from the low end, that both views have, with one of them enlarged.
int common(const std::vector<double>& a, const std::vector<double>& b, double factor, double tol) {
    int n = 0;
    for (double x : a) {
        const double at = (x - a.front()) * factor + b.front();
        const auto it = std::ranges::lower_bound(b, at - tol);
        n += it != b.end() && *it <= at + tol;
    }
    return n;
}

/// A view most of whose coordinates fit a neighbour's once it is enlarged, and hardly any as it is, is drawn
/// at a scale of its own.
void scaleByNeighbour(const Drawing& d, const CleanSheet& s, const View& from, View& v) {
    const ViewAxes a = axesOf(from.role), b = axesOf(v.role);
    for (int i : {0, 1})
        for (int j : {0, 1}) {
            if ((i == 0 ? a.right : a.up) != (j == 0 ? b.right : b.up)) continue;
            std::vector<double> base = levelsOf(d, from, i, s.tolerances.touch_sheet),
                                own = levelsOf(d, v, j, s.tolerances.touch_sheet);
            if (base.size() < 4 || own.size() < 4) continue;
            const bool turned = (i == 0 ? a.right_sign : a.up_sign) != (j == 0 ? b.right_sign : b.up_sign);
            if (turned) {
                for (double& x : own) x = -x;
                std::ranges::reverse(own);
            }
            for (double& x : base) x *= from.mm_per_sheet;
            for (double& x : own) x *= v.mm_per_sheet;
            const double factor = (base.back() - base.front()) / (own.back() - own.front());
            const double tol = std::max(20 * s.tolerances.same_model, 1e-4 * (base.back() - base.front()));
            if (std::abs(factor - 1) < 2e-3 || factor < 0.3 || factor > 3) continue;
            const auto most = static_cast<int>(std::min(base.size(), own.size()));
            const int scaled = common(own, base, factor, tol), plain = common(own, base, 1, tol);
            // The ends agree by themselves; what else does lies within a ten thousandth of the size.
            const bool nearly_all = scaled >= most - 1 && 2 * plain <= most,
                       more_than_by_chance = scaled >= 4 && 5 * scaled >= 3 * most && 2 * plain <= scaled;
            if (!nearly_all && !more_than_by_chance) continue;
            v.scale /= factor;
            v.mm_per_sheet *= factor;
            v.scale_reason =
                fmt::format("{} coordinates match the {} view at this scale", scaled, nameOf(from.role));
            return;
        }
}

} // namespace

void matchScales(const Drawing& d, const CleanSheet& s, ViewSet& set) {
    const View* front = set.withRole(Role::front);
    if (!front) return;
    for (View& v : set.views)
        if (isPrincipal(v.role) && v.id != front->id && v.scale == front->scale)
            scaleByNeighbour(d, s, *front, v);
    const ModelLengths lengths = lengthsOf(d, set);
    for (View& v : set.views)
        if (v.role == Role::pictorial) scalePictorial(d, set, lengths, v);
}

} // namespace prism::views
