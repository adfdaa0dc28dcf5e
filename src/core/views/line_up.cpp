#include "core/views/stages.h"

namespace prism::finding {
namespace {

/// One view's coordinates along a model axis, without its offset.
struct Line {
    View* view;
    int sheet_axis; ///< 0 right, 1 up
    std::vector<double> levels;
    double lo() const { return levels.front(); }
    double hi() const { return levels.back(); }
    double& offset() const { return sheet_axis == 0 ? view->offset.x : view->offset.y; }
};

std::vector<Line> linesAlong(const Drawing& d, const CleanSheet& s, ViewSet& set, Axis axis) {
    std::vector<Line> r;
    for (View& v : set.views) {
        if (!isPrincipal(v.role)) continue;
        const ViewAxes ax = axesOf(v.role);
        for (int k : {0, 1}) {
            if ((k == 0 ? ax.right : ax.up) != axis) continue;
            Line l{&v, k, levelsOf(d, v, k, s.tolerances.touch_sheet)};
            const double f = (k == 0 ? ax.right_sign : ax.up_sign) * v.mm_per_sheet;
            for (double& x : l.levels) x *= f;
            std::sort(l.levels.begin(), l.levels.end());
            if (!l.levels.empty()) r.push_back(std::move(l));
        }
    }
    return r;
}

int matches(const std::vector<double>& a, double shift, const std::vector<double>& b, double tol) {
    int n = 0;
    for (double x : a) {
        const auto it = std::lower_bound(b.begin(), b.end(), x + shift - tol);
        n += it != b.end() && *it <= x + shift + tol;
    }
    return n;
}

/// The shift of `l` onto the levels `base` that brings most coordinates together; ends first, then any pair.
double bestShift(const Line& l, const std::vector<double>& base, double tol) {
    double best = base.front() - l.lo();
    int most = matches(l.levels, best, base, tol);
    auto attempt = [&](double shift) {
        const int n = matches(l.levels, shift, base, tol);
        if (n > most) most = n, best = shift;
    };
    attempt(base.back() - l.hi());
    if (l.levels.size() * base.size() < 4000 &&
        most < static_cast<int>(std::min(l.levels.size(), base.size())))
        for (double x : l.levels)
            for (double y : base)
                if (std::abs(y - x - best) < 0.2 * (base.back() - base.front())) attempt(y - x);
    return best;
}

} // namespace

std::vector<double> levelsOf(const Drawing& d, const View& v, int axis, double tolerance) {
    std::vector<double> r;
    auto at = [&](Vec2 p) { r.push_back(p[axis]); };
    for (int e : v.entities)
        for (const Curve& c : d.entities[e].curves) {
            if (auto* a = std::get_if<Arc>(&c); a && a->full()) {
                const Vec2 out{a->radius, a->radius};
                at(a->centre - out), at(a->centre), at(a->centre + out);
            } else {
                const Box2 b = boxOf(c);
                at(startOf(c)), at(endOf(c)), at(b.lo), at(b.hi);
            }
        }
    std::sort(r.begin(), r.end());
    r.erase(std::unique(r.begin(), r.end(), [&](double a, double b) { return b - a <= tolerance; }), r.end());
    return r;
}

void lineUp(const Drawing& d, const CleanSheet& s, ViewSet& set) {
    for (Axis axis : {Axis::x, Axis::y, Axis::z}) {
        auto lines = linesAlong(d, s, set, axis);
        std::stable_sort(lines.begin(), lines.end(),
                         [](const Line& a, const Line& b) { return a.view->role < b.view->role; });
        std::vector<double> base;
        for (Line& l : lines) {
            const double tol =
                std::max(s.tolerances.same_model, s.tolerances.touch_sheet * l.view->mm_per_sheet);
            const double shift = base.empty() ? -l.lo() : bestShift(l, base, tol);
            l.offset() = shift;
            for (double& x : l.levels) x += shift;
            if (base.empty()) base = l.levels;
        }
        for (size_t i = 0; i < lines.size(); ++i)
            for (size_t j = i + 1; j < lines.size(); ++j) {
                const Line &a = lines[i], &b = lines[j];
                const double tol =
                    std::max(s.tolerances.same_model, s.tolerances.touch_sheet * a.view->mm_per_sheet);
                Tie t{a.view->id, b.view->id, axis, 0, 0, 0};
                t.matched = matches(a.levels, 0, b.levels, tol);
                t.unmatched = static_cast<int>(a.levels.size() + b.levels.size()) - t.matched -
                              matches(b.levels, 0, a.levels, tol);
                t.residual = std::max(std::abs(a.lo() - b.lo()), std::abs(a.hi() - b.hi()));
                set.ties.push_back(t);
            }
    }
}

} // namespace prism::finding
