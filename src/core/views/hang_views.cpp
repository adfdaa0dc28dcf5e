#include "core/views/levels.h"
#include "core/views/stages.h"
#include "core/views/traces.h"
#include "core/views/viewing_marks.h"

#include <fmt/format.h>

// Where sections, auxiliary views and details stand.
namespace prism::views {
namespace {

Affine2 rotationAbout(Vec2 centre, double angle) {
    return Affine2::shift(centre) * Affine2::rotation(angle) * Affine2::shift(-centre);
}

class Hanger {
  public:
    Hanger(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, ViewSet& set)
        : d_(d), s_(s), choices_(choices), set_(set) {}

    void run() {
        std::map<Role, Letters> wanted;
        bool any = false;
        for (const View& v : set_.views) {
            if (isPrincipal(v.role) || v.role == Role::pictorial || v.role == Role::unassigned) continue;
            any = true;
            if (!v.letter.empty()) wanted[v.role].insert(v.letter);
        }
        if (!any) return;
        traces_.emplace(d_, s_, choices_, set_, wanted);
        circles_ = detailCircles(d_, s_, wanted[Role::detail]);
        for (View& v : set_.views) {
            if (v.role == Role::detail)
                hangDetail(v);
            else if (v.role == Role::section || v.role == Role::auxiliary)
                if (const auto t = traces_->of(v)) hang(v, *t);
        }
        Letters known;
        bool unplaced = false;
        for (const View& v : set_.views) {
            if (v.hanging) known.insert(v.letter);
            unplaced = unplaced || (v.role == Role::section && !v.hanging && !v.letter.empty());
        }
        if (unplaced) set_.stray_planes = strayPlanes(d_, s_, known);
    }

  private:
    double tolerance(const View& v) const {
        return std::max(s_.tolerances.same_model, s_.tolerances.touch_sheet * v.mm_per_sheet);
    }
    bool third() const { return set_.projection.laid_out == Convention::third; }

    /// How well a view fits when its sheet is turned by an angle about its middle.
    struct Fit {
        Affine2 own;
        int matched = 0, levels = 0;
        double residual = 0;
    };
    Fit fit(const View& v, const Trace& t, double angle) const {
        const View& on = set_.views[t.on];
        const Affine2 m = on.toModel();
        const Vec2 look = normalized(m.linear(t.look)), along{-look.y, look.x};
        const Vec2 along_sheet = normalized(Affine2{m.a, m.b, m.c, m.d, 0, 0}.inverse().linear(along));
        const Vec2 away = third() ? -t.look : t.look;
        const ViewAxes axes = axesOf(on.role);
        // Away from the view that shows it means deeper in third angle, nearer in first.
        const double deeper = dot(lookOf(on.role), unitOf(axes.depth)) * (third() ? 1 : -1);
        const double k = v.mm_per_sheet;
        Affine2 own{along_sheet.x * k, deeper * away.x * k, along_sheet.y * k, deeper * away.y * k, 0, 0};
        own = own * rotationAbout(v.box_sheet.centre(), angle);
        const double tol = tolerance(v);
        const std::vector<Curve> curves = curvesOf(d_, v, own);
        const auto s = levelsAlong(curves, {1, 0}, tol), w = levelsAlong(curves, {0, 1}, tol);
        const auto on_line = levelsAlong(curvesOf(d_, on, m), along, tol),
                   depths = levelsOnAxis(axes.depth, tol);
        if (s.empty() || on_line.empty()) return {own, 0, 0, 0};
        Fit r{own, 0, static_cast<int>(s.size() + w.size()), 0};
        // Where it lies opposite its source the position along the line is what the sheet shows.
        double shift = dot(m(v.box_sheet.centre()), along) - own(v.box_sheet.centre()).x;
        const int most = static_cast<int>(std::min(s.size(), on_line.size()));
        const bool opposite = ends(s, shift, on_line) <= tol || 2 * matches(s, shift, on_line, tol) >= most;
        if (angle != 0 || !opposite) shift = bestShift(s, on_line, tol);
        r.own.e += shift;
        r.matched = matches(s, shift, on_line, tol);
        r.residual = ends(s, shift, on_line);
        if (!depths.empty()) {
            const double deep = bestShift(w, depths, tol);
            r.own.f += deep;
            r.matched += matches(w, deep, depths, tol);
            r.residual = std::max(r.residual, ends(w, deep, depths));
        }
        return r;
    }
    /// How far the ends of a view are from the nearest coordinates of the others: it may show the part only
    /// in part.
    static double ends(const std::vector<double>& a, double shift, const std::vector<double>& b) {
        double worst = 0;
        for (double x : {a.front() + shift, a.back() + shift}) {
            const auto above = std::ranges::lower_bound(b, x);
            double nearest = std::numeric_limits<double>::infinity();
            if (above != b.end()) nearest = *above - x;
            if (above != b.begin()) nearest = std::min(nearest, x - *std::prev(above));
            worst = std::max(worst, nearest);
        }
        return worst;
    }

    std::vector<double> levelsOnAxis(Axis axis, double tol) const {
        std::vector<double> r;
        for (const View& v : set_.views) {
            if (!isPrincipal(v.role)) continue;
            const ViewAxes a = axesOf(v.role);
            if (a.right != axis && a.up != axis) continue;
            const auto more =
                levelsAlong(curvesOf(d_, v, v.toModel()), a.right == axis ? Vec2{1, 0} : Vec2{0, 1}, tol);
            r.insert(r.end(), more.begin(), more.end());
        }
        std::sort(r.begin(), r.end());
        r.erase(std::unique(r.begin(), r.end(), [&](double a, double b) { return b - a <= tol; }), r.end());
        return r;
    }

    /// A section moved from its place is often turned upright, too: the way up that fits best, the one in
    /// which it would lie opposite its source among equals.
    void hang(View& v, Trace t) const {
        const Vec2 line{-t.look.y, t.look.x};
        Fit best = fit(v, t, 0);
        // An auxiliary view is drawn opposite its edge; a section may lie elsewhere, where any way up may
        // fit.
        const bool fits =
            t.by == Hanging::By::edge ||
            (t.by == Hanging::By::arrow ? best.residual <= tolerance(v) : best.matched == best.levels);
        for (int quarter = 0; quarter < 4 && !fits; ++quarter) {
            const double angle = angleOf(line) - quarter * kPi / 2;
            if (std::abs(std::remainder(angle, 2 * kPi)) < 1e-9) continue;
            if (const Fit f = fit(v, t, angle); f.matched > best.matched) best = f;
        }
        std::optional<int> by_arrows;
        const bool cut = t.by == Hanging::By::cutting_plane || t.by == Hanging::By::centre_line;
        if (cut && best.matched < best.levels) {
            Trace behind = t;
            behind.look = -t.look;
            for (double angle : {kPi, 0.0}) // upright as it lies beside its source, or folded over
                if (const Fit f = fit(v, behind, angle); f.matched == f.levels) {
                    if (t.arrows) by_arrows = best.matched;
                    best = f, t.look = behind.look;
                    break;
                }
        }
        const Affine2 m = set_.views[t.on].toModel();
        Hanging& h = v.hanging.emplace();
        h.on = t.on, h.by = t.by, h.reason = t.reason;
        h.from = m(t.from), h.to = m(t.to), h.look = normalized(m.linear(t.look));
        h.own = best.own, h.matched = best.matched, h.levels = best.levels, h.residual = best.residual;
        h.gap = t.gap * set_.views[t.on].mm_per_sheet;
        h.cuts = v.role == Role::section;
        h.matched_by_arrows = by_arrows;
        for (const Segment& l : t.legs) h.legs.push_back({m(l.a), m(l.b)});
    }

    void hangDetail(View& v) const {
        for (const DetailCircle& c : circles_) {
            const int on = traces_->viewUnder(c.circle.centre - Vec2{c.circle.radius, 0},
                                              c.circle.centre + Vec2{c.circle.radius, 0});
            if (c.letter != v.letter || on < 0) continue;
            const View& source = set_.views[on];
            const Affine2 m = source.toModel();
            const double k = v.mm_per_sheet / source.mm_per_sheet, r = c.circle.radius * source.mm_per_sheet;
            Affine2 own{m.a * k, m.b * k, m.c * k, m.d * k, 0, 0};
            const Vec2 middle = m(c.circle.centre);
            const auto [shift, matched, levels] = overSource(v, source, own, middle, r);
            own.e += shift.x, own.f += shift.y;
            Hanging& h = v.hanging.emplace();
            h.on = on, h.by = Hanging::By::area;
            h.from = middle - Vec2{r, r}, h.to = middle + Vec2{r, r};
            h.own = own, h.matched = matched, h.levels = levels;
            h.reason = fmt::format("circle {} in the {} view", c.letter, nameOf(source.role));
            return;
        }
    }

    struct Over {
        Vec2 shift;
        int matched, levels;
    };
    /// The shift that brings most ends and centres of a detail onto those of its source within the circle.
    Over overSource(const View& v, const View& source, const Affine2& own, Vec2 middle, double radius) const {
        const auto points = [](const std::vector<Curve>& curves) {
            std::vector<Vec2> r;
            for (const Curve& c : curves) {
                if (const auto* a = std::get_if<Arc>(&c)) r.push_back(a->centre);
                if (!isClosed(c, 0)) r.push_back(startOf(c)), r.push_back(endOf(c));
            }
            return r;
        };
        const std::vector<Vec2> mine = points(curvesOf(d_, v, own));
        std::vector<Vec2> there = points(curvesOf(d_, source, source.toModel()));
        std::erase_if(there, [&](Vec2 p) { return distance(p, middle) > 1.05 * radius; });
        std::sort(there.begin(), there.end(),
                  [](Vec2 a, Vec2 b) { return std::tie(a.x, a.y) < std::tie(b.x, b.y); });
        const double tol = 4 * tolerance(v);
        const auto count = [&](Vec2 shift) {
            int n = 0;
            for (Vec2 p : mine) {
                const Vec2 at = p + shift;
                auto it = std::lower_bound(there.begin(), there.end(), at.x - tol,
                                           [](Vec2 a, double x) { return a.x < x; });
                for (; it != there.end() && it->x <= at.x + tol; ++it)
                    if (std::abs(it->y - at.y) <= tol) {
                        ++n;
                        break;
                    }
            }
            return n;
        };
        Box2 box;
        for (const Curve& c : curvesOf(d_, v, own)) box.add(boxOf(c));
        Over best{middle - box.centre(), 0, static_cast<int>(mine.size())};
        best.matched = count(best.shift);
        if (mine.size() * there.size() > 40000) return best;
        for (Vec2 p : mine)
            for (Vec2 q : there)
                if (const int n = count(q - p); n > best.matched) best.matched = n, best.shift = q - p;
        return best;
    }

    const Drawing& d_;
    const CleanSheet& s_;
    const ViewChoices& choices_;
    ViewSet& set_;
    std::optional<Traces> traces_;
    std::vector<DetailCircle> circles_;
};

} // namespace

void hangViews(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, ViewSet& set) {
    Hanger(d, s, choices, set).run();
}

} // namespace prism::views
