#include "core/proposing/bosses_seen.h"

#include "core/proposing/without_features.h"

#include <utility>

namespace prism {
namespace {

/// A circle that may be the end of a boss, and the view that shows it.
struct Ring {
    const FigureView* view;
    int curve;
    Vec2 centre;
    double radius;
};

/// A view beside a boss: places as (from its axis, along it).
struct Side {
    const FigureView* view;
    bool depth_right; ///< the boss runs along the view's right axis
    double centre;    ///< where its axis stands on the other one
    Vec2 operator()(Vec2 p) const { return depth_right ? Vec2{p.y - centre, p.x} : Vec2{p.x - centre, p.y}; }
    Vec2 inView(Vec2 p) const { return depth_right ? Vec2{p.y, p.x + centre} : Vec2{p.x + centre, p.y}; }
};

/// What one view beside it shows of a boss.
struct Shown {
    Side side;
    double top, base;   ///< its free end; where its walls reach into the body, the farther of both
    bool meets = false; ///< a curve is drawn in which it meets the body
    SeenLines lines;
};

class Seer {
  public:
    Seer(const Figure& f, const std::vector<ViewMap>& maps, const AreaSets& areas, StandsOn on)
        : f_(f), maps_(maps), areas_(areas), on_(on), tol_(2 * f.tolerances.proof) {}

    std::vector<BossSeen> all() const {
        std::vector<BossSeen> r;
        for (size_t i = 0; i < f_.curves.size(); ++i) {
            const FigureCurve& c = f_.curves[i];
            const auto* a = std::get_if<Arc>(&c.drawn);
            const FigureView& v = *f_.viewById(c.view);
            const bool drawn = c.role == LineRole::outline || c.role == LineRole::hidden;
            if (!a || !a->full() || !drawn || !v.principal()) continue;
            if (auto b = bossOf({&v, static_cast<int>(i), a->centre, a->radius})) r.push_back(std::move(*b));
        }
        return r;
    }

  private:
    std::optional<BossSeen> bossOf(const Ring& ring) const {
        // The body hides a boss on its far side.
        const bool behind = f_.curves[static_cast<size_t>(ring.curve)].role == LineRole::hidden;
        const double out = viewerAtLowEnd(*ring.view) != behind ? -1 : 1;
        std::vector<Shown> shown;
        for (const ViewMap& m : maps_) {
            const FigureView& o = m.view();
            const Axis depth = ring.view->axes.depth;
            if (m.cut() || (o.axes.right != depth && o.axes.up != depth)) continue;
            const bool right = o.axes.right == depth;
            const bool across_right = ring.view->axes.right == (right ? o.axes.up : o.axes.right);
            const auto s =
                shownIn({&o, right, across_right ? ring.centre.x : ring.centre.y}, m, ring.radius, out);
            if (!s) return std::nullopt;
            shown.push_back(*s);
        }
        const bool meets = std::ranges::any_of(shown, &Shown::meets);
        if (shown.empty() || meets != (on_ == StandsOn::round_body)) return std::nullopt;
        const auto deepest =
            std::ranges::min_element(shown, {}, [&](const Shown& s) { return s.base * out; });
        BossSeen b;
        b.centre = ring.centre, b.wall = {ring.radius, deepest->top, ring.radius, deepest->base};
        b.seen.lines.push_back({ring.curve});
        for (const Shown& s : shown) {
            std::ranges::copy(s.lines.lines, std::back_inserter(b.seen.lines));
            std::ranges::copy(s.lines.closing, std::back_inserter(b.seen.closing));
        }
        Step& s = b.step;
        s.kind = StepKind::extrude, s.operation = Operation::add, s.view = ring.view->name, s.name = "boss";
        for (const ClosedArea& a : areas_.drawn)
            if (a.view == ring.view->view && distance(a.seed, ring.centre) < ring.radius &&
                distance(a.box.centre(), ring.centre) + 0.5 * std::min(a.box.width(), a.box.height()) <=
                    ring.radius + tol_)
                s.areas.push_back(a.seed);
        if (s.areas.empty()) return std::nullopt;
        const auto bound = [&](const Shown& at, double y) {
            return Bound{Bound::Kind::mark, {at.side.view->name, at.side.inView({ring.radius, y})}};
        };
        const Bound top = bound(*deepest, deepest->top);
        Bound base = bound(*deepest, deepest->base);
        // It begins a little within the body: where its rim only touches it, nothing says where both are one.
        const auto shallowest =
            std::ranges::max_element(shown, {}, [&](const Shown& s) { return s.base * out; });
        base.beyond = -0.25 * (shallowest->base - deepest->base);
        s.from = out > 0 ? base : top, s.to = out > 0 ? top : base;
        return b;
    }

    /// `out`: the way along the depth axis in which the free end faces.
    std::optional<Shown> shownIn(const Side& side, const ViewMap& m, double radius, double out) const {
        const auto is = [&](double a, double b) { return std::abs(a - b) <= tol_; };
        Shown r{side, 0, 0, false, {}};
        // The free end: a line right across from wall to wall, and nothing of the part beyond it.
        std::optional<double> top;
        forEachLine(side, [&](int, const FigureCurve&, Vec2 a, Vec2 b) {
            if (is(a.y, b.y) && is(std::min(a.x, b.x), -radius) && is(std::max(a.x, b.x), radius) &&
                m.areaAt(side.inView({0, a.y + out * 4 * tol_})) < 0 && (!top || a.y * out > *top * out))
                top = a.y;
        });
        if (!top) return std::nullopt;
        r.top = *top;
        // The walls, from there inwards.
        double base[2] = {*top, *top};
        for (bool further = true; std::exchange(further, false);)
            forEachLine(side, [&](int, const FigureCurve&, Vec2 a, Vec2 b) {
                if (!is(a.x, b.x) || !is(std::abs(a.x), radius)) return;
                double& end = base[a.x > 0];
                const double near = std::max(a.y * out, b.y * out), far = std::min(a.y * out, b.y * out);
                if (near < end * out - tol_ || near > r.top * out + tol_ || far > end * out - tol_) return;
                end = far * out, further = true;
            });
        // A body that another one grows out of has one wall broken by that.
        if (is(base[0], r.top) || !is(base[0], base[1])) return std::nullopt;
        r.base = std::min(base[0] * out, base[1] * out) * out;
        collect(side, radius, out, base, r);
        return r;
    }

    template <class F> void forEachLine(const Side& side, F f) const {
        for (size_t i = 0; i < f_.curves.size(); ++i)
            if (const auto* s = std::get_if<Segment>(&f_.curves[i].drawn);
                s && f_.curves[i].view == side.view->view)
                f(static_cast<int>(i), f_.curves[i], side(s->a), side(s->b));
    }

    /// The lines that go with the boss, and what closes the outline where it stood.
    void collect(const Side& side, double radius, double out, const double (&base)[2], Shown& r) const {
        const auto is = [&](double a, double b) { return std::abs(a - b) <= tol_; };
        std::array<std::optional<double>, 2> level; // of the outline that goes on beside the walls
        forEachLine(side, [&](int i, const FigureCurve& c, Vec2 a, Vec2 b) {
            const double lo = std::min(a.y, b.y), hi = std::max(a.y, b.y);
            if (is(a.y, b.y) && is(a.y, r.top) && std::max(std::abs(a.x), std::abs(b.x)) <= radius + tol_)
                r.lines.lines.push_back({i});
            else if (is(a.x, b.x) && is(std::abs(a.x), radius)) {
                const double end = base[a.x > 0], from = std::min(end, r.top), to = std::max(end, r.top);
                if (lo >= from - tol_ && hi <= to + tol_) r.lines.lines.push_back({i});
            } else if (is(a.y, b.y) && c.role == LineRole::outline)
                for (Vec2 p : {a, b}) {
                    const int k = p.x > 0;
                    const double other = p == a ? b.x : a.x;
                    if (is(std::abs(p.x), radius) && is(p.y, base[k]) && std::abs(other) > radius + tol_)
                        level[static_cast<size_t>(k)] = p.y;
                }
        });
        for (size_t i = 0; i < f_.curves.size(); ++i) {
            const FigureCurve& c = f_.curves[i];
            if (c.view != side.view->view || c.p0 < 0 || std::holds_alternative<Segment>(c.drawn)) continue;
            const Box2 box = boxOf(c.drawn);
            const Vec2 lo = side(box.lo), hi = side(box.hi);
            if (lo.x < -radius - tol_ || hi.x > radius + tol_) continue;
            const double inner = std::min(base[0] * out, base[1] * out) - radius;
            if (std::max(lo.y * out, hi.y * out) > r.top * out - tol_ ||
                std::min(lo.y * out, hi.y * out) < inner)
                continue;
            const auto atWall = [&](Vec2 p) { return is(std::abs(p.x), radius) && is(p.y, base[p.x > 0]); };
            if (!atWall(side(startOf(c.drawn))) && !atWall(side(endOf(c.drawn)))) continue;
            r.lines.lines.push_back({static_cast<int>(i)});
            r.meets = true;
        }
        if (level[0] && level[1] && is(*level[0], *level[1]))
            r.lines.closing.push_back(
                {side.view->view, {side.inView({-radius, *level[0]}), side.inView({radius, *level[1]})}});
    }

    const Figure& f_;
    const std::vector<ViewMap>& maps_;
    const AreaSets& areas_;
    StandsOn on_;
    double tol_;
};

/// Whether one curve goes on where the other ends, as one line, arc or circle.
bool goesOn(const Curve& a, const Curve& b, double tol) {
    const bool touch = distance(startOf(a), startOf(b)) <= tol || distance(startOf(a), endOf(b)) <= tol ||
                       distance(endOf(a), startOf(b)) <= tol || distance(endOf(a), endOf(b)) <= tol;
    if (!touch) return false;
    if (const auto* s = std::get_if<Segment>(&a), *t = std::get_if<Segment>(&b); s && t)
        return std::abs(cross(normalized(s->b - s->a), normalized(t->b - t->a))) < 1e-6;
    const auto *s = std::get_if<Arc>(&a), *t = std::get_if<Arc>(&b);
    return s && t && distance(s->centre, t->centre) <= tol && std::abs(s->radius - t->radius) <= tol;
}

} // namespace

std::vector<BossSeen> bossesSeen(const Figure& f, const std::vector<ViewMap>& maps, const AreaSets& areas,
                                 StandsOn on) {
    return Seer(f, maps, areas, on).all();
}

Figure withoutBosses(const Figure& f, const std::vector<BossSeen>& bosses) {
    std::vector<SeenLines> gone;
    for (const BossSeen& b : bosses) gone.push_back(b.seen);
    Figure r = without(f, gone);
    const double tol = 2 * f.tolerances.proof;
    for (FigureCurve& c : r.curves) {
        if (c.role != LineRole::hidden) continue;
        const bool hidden_by_them = std::ranges::any_of(r.curves, [&](const FigureCurve& o) {
            return o.view == c.view && o.role == LineRole::outline && goesOn(c.drawn, o.drawn, tol);
        });
        if (hidden_by_them) c.role = LineRole::outline;
    }
    return r;
}

} // namespace prism
