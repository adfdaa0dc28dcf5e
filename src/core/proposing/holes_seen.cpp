#include "core/proposing/holes_seen.h"

#include "core/proposing/lying_holes.h"

#include <fmt/format.h>

namespace prism {
namespace {

constexpr double kSameAngle = 1e-3; ///< radians

/// Circles of a view about one centre.
struct Ring {
    Vec2 centre;
    struct Circle {
        double radius;
        bool seen; ///< drawn as an outline
        bool full; ///< not an arc only, as where something else cuts into a countersink
    };
    std::vector<Circle> circles; ///< by radius
    const Circle* of(double radius, double tol) const {
        for (const Circle& c : circles)
            if (std::abs(c.radius - radius) <= tol) return &c;
        return nullptr;
    }
};

std::vector<Ring> ringsOf(const Figure& f, const FigureView& v) {
    std::vector<Ring> r;
    for (const FigureCurve& c : f.curves) {
        const auto* a = std::get_if<Arc>(&c.drawn);
        if (!a || c.view != v.view || !a->full()) continue;
        auto ring = std::ranges::find_if(
            r, [&](const Ring& k) { return distance(k.centre, a->centre) <= f.tolerances.proof; });
        if (ring == r.end()) ring = r.insert(r.end(), Ring{a->centre, {}});
        const bool seen = c.role == LineRole::outline;
        const auto same = std::ranges::find_if(ring->circles, [&](const Ring::Circle& k) {
            return std::abs(k.radius - a->radius) <= f.tolerances.proof;
        });
        if (same != ring->circles.end()) // seen, and hidden below
            same->seen = same->seen || seen;
        else
            ring->circles.push_back({a->radius, seen, true});
    }
    for (const FigureCurve& c : f.curves) {
        const auto* a = std::get_if<Arc>(&c.drawn);
        if (!a || c.view != v.view || a->full()) continue;
        for (Ring& k : r)
            if (distance(k.centre, a->centre) <= f.tolerances.proof && !k.of(a->radius, f.tolerances.proof))
                k.circles.push_back({a->radius, c.role == LineRole::outline, false});
    }
    for (Ring& k : r) std::ranges::sort(k.circles, {}, &Ring::Circle::radius);
    return r;
}

/// Where the axis of a ring stands in a neighbour view, which shows it from the side.
struct FromSide {
    Axis across;   ///< the axis of the neighbour view that it is square to
    double centre; ///< where it stands on that
    double deep;   ///< and in the depth of the neighbour view
};

/// None for a view that looks along the axis as well.
std::optional<FromSide> fromSide(const FigureView& v, const Ring& ring, const FigureView& o) {
    if (o.axes.right != v.axes.depth && o.axes.up != v.axes.depth) return std::nullopt;
    const Axis across = o.axes.right == v.axes.depth ? o.axes.up : o.axes.right;
    const bool right = v.axes.right == across;
    return FromSide{across, right ? ring.centre.x : ring.centre.y, right ? ring.centre.y : ring.centre.x};
}

/// How a cylinder of a hole goes on at one end.
struct End {
    enum class Kind { open, flat, pointed, widened, flared } kind = Kind::open;
    double at = 0;     ///< where the full diameter ends
    double out = 0;    ///< of widened and flared: where that begins
    double radius = 0; ///< of widened and flared: the other one
};

class Seer {
  public:
    Seer(const Figure& f, const std::vector<ViewMap>& maps, LineKinds kinds)
        : f_(f), maps_(maps), kinds_(kinds), tol_(2 * f.tolerances.proof) {}

    std::vector<HoleSeen> all() {
        for (const ViewMap& m : maps_) {
            if (!m.view().principal()) continue;
            const auto rings = ringsOf(f_, m.view());
            const size_t before = found_.size();
            std::vector<const Ring*> untold;
            for (const Ring& ring : rings)
                if (!holesOf(m.view(), ring)) untold.push_back(&ring);
            const std::vector<HoleSeen> told(found_.begin() + static_cast<long>(before), found_.end());
            for (const Ring* ring : untold) likeAnother(m.view(), *ring, told);
        }
        for (const LyingAxis& axis : lyingAxes(f_, maps_)) lyingHoles(axis);
        const std::vector<Bore> bores = boresOf();
        runInto(bores);
        explainCrossings(bores);
        joinOpposite();
        return std::move(found_);
    }

  private:
    /// A cylinder of a hole in space.
    struct Bore {
        Axis along;
        double radius;
        std::array<double, 3> centre; ///< by axis; of no meaning along it
        size_t hole;
    };

    building::HolePlane planeOf(const HoleSeen& h) const { return *building::holePlane(f_, h.step); }

    /// Whether the line beside the place of a hole that lies in its view is its wall.
    bool showsWall(const Step& s, double radius) const {
        const Vec2 at = s.places.front();
        const int wall = building::wallBeside(f_, *f_.viewNamed(s.view), at, s.axis_upright);
        if (wall < 0) return false;
        const Vec2 on = startOf(f_.curves[static_cast<size_t>(wall)].drawn);
        return std::abs(std::abs(s.axis_upright ? on.x - at.x : on.y - at.y) - radius) <= tol_;
    }

    void lyingHoles(const LyingAxis& axis) {
        Ring ring{axis.centre, {}};
        for (const double radius : axis.radii) ring.circles.push_back({radius, false, true});
        std::ranges::sort(ring.circles, {}, &Ring::Circle::radius);
        const size_t before = found_.size();
        if (!holesOf(axis.across, ring)) return;
        for (size_t i = before; i < found_.size(); ++i) {
            Step& s = found_[i].step;
            axis.layDown(s);
            // No circles tell the sizes; the walls beside the place do, where they are of this hole.
            if (!showsWall(s, found_[i].sizes[0])) s.hole.diameter = 2 * found_[i].sizes[0];
            if (found_[i].sizes[1] > 0) s.hole.wide = 2 * found_[i].sizes[1];
        }
    }

    std::vector<Bore> boresOf() const {
        std::vector<Bore> bores;
        for (size_t h = 0; h < found_.size(); ++h) {
            const building::HolePlane of = planeOf(found_[h]);
            for (double radius : {found_[h].sizes[0], found_[h].sizes[1]}) {
                if (radius <= 0) continue;
                Bore b{of.along(), radius, {}, h};
                b.centre[static_cast<size_t>(of.view.axes.right)] = of.centres.front().x;
                b.centre[static_cast<size_t>(of.view.axes.up)] = of.centres.front().y;
                bores.push_back(b);
            }
        }
        return bores;
    }

    /// A hole whose wall ends open within the part, where another one's wall is, goes on to the axis of that.
    void runInto(const std::vector<Bore>& bores) {
        for (const Bore& h : bores) {
            HoleSeen& hole = found_[h.hole];
            if (!hole.open_end || std::abs(h.radius - hole.sizes[0]) > tol_) continue;
            for (const Bore& o : bores) {
                if (o.along == h.along) continue;
                const auto deep = static_cast<size_t>(h.along),
                           aside = 3 - deep - static_cast<size_t>(o.along);
                const double off = std::abs(h.centre[aside] - o.centre[aside]) + h.radius,
                             reach = std::abs(hole.sizes[4] - o.centre[deep]);
                const double least = off < o.radius ? std::sqrt(o.radius * o.radius - off * off) : 0;
                if (reach < least - tol_ || reach > o.radius + tol_) continue;
                const Step& other = found_[o.hole].step;
                const bool beside = lies(other) && f_.viewNamed(other.view)->axes.depth == h.along;
                hole.step.to = {Bound::Kind::mark,
                                beside ? other.axis : MarkRef{other.view, other.places.front()}, 0};
                explainUpTo(hole, h.radius, o.centre[deep]);
                hole.sizes[4] = o.centre[deep];
                hole.step.name = "hole";
                hole.into = static_cast<int>(o.hole);
                break;
            }
        }
    }

    /// Two plain holes from opposite sides into one and the same bore are one that goes through.
    void joinOpposite() {
        for (size_t i = 0; i < found_.size(); ++i)
            for (size_t k = i + 1; k < found_.size(); ++k) {
                HoleSeen &a = found_[i], &b = found_[k];
                const Step &s = a.step, &t = b.step;
                if (a.into < 0 || a.into != b.into || s.view != t.view || a.sizes[1] > 0 || b.sizes[1] > 0 ||
                    s.hole.from_far == t.hole.from_far || std::abs(a.sizes[0] - b.sizes[0]) > tol_ ||
                    distance(s.places.front(), t.places.front()) > tol_ ||
                    s.from.kind != Bound::Kind::outermost || t.from.kind != Bound::Kind::outermost)
                    continue;
                a.step.reach = Reach::through, a.step.to = {}, a.step.hole.point = HoleShape{}.point;
                a.sizes[4] = 0, a.open_end = false;
                std::ranges::copy(b.lines, std::back_inserter(a.lines));
                std::ranges::copy(b.closing, std::back_inserter(a.closing));
                found_.erase(found_.begin() + static_cast<long>(k));
                break;
            }
    }

    /// The views let the wall of a hole that runs into another end at different depths: what goes on from
    /// where this one was seen to end goes with it, too.
    void explainUpTo(HoleSeen& hole, double radius, double end) const {
        const building::HolePlane of = planeOf(hole);
        const FigureView& v = of.view;
        const Ring ring{of.centres.front(), {}};
        HoleProfile rest;
        rest.walls.push_back({radius, hole.sizes[4], radius, end});
        for (const ViewMap& m : maps_) {
            const auto side = fromSide(v, ring, m.view());
            if (!side || m.cut()) continue;
            const Explained e =
                explainedBy(rest, f_, m, v.axes.depth, side->centre, kinds_ == LineKinds::alike);
            std::ranges::copy(e.lines, std::back_inserter(hole.lines));
        }
    }

    /// Curves in which holes run into each other go with the holes.
    void explainCrossings(const std::vector<Bore>& bores) {
        for (size_t i = 0; i < f_.curves.size(); ++i) {
            const FigureView& v = *f_.viewById(f_.curves[i].view);
            if (!v.principal()) continue;
            for (const Bore& a : bores)
                for (const Bore& b : bores)
                    if (a.along == v.axes.right && b.along == v.axes.up &&
                        meetIn(f_.curves[i].drawn, v, a, b))
                        found_[a.hole].lines.push_back({static_cast<int>(i)});
        }
    }

    /// Whether a curve of a view is the one in which a bore along its right axis and one along its up axis
    /// meet.
    bool meetIn(const Curve& c, const FigureView& v, const Bore& a, const Bore& b) const {
        const auto deep = static_cast<size_t>(v.axes.depth), right = static_cast<size_t>(v.axes.right),
                   up = static_cast<size_t>(v.axes.up);
        const double same = std::max(20 * tol_, 2e-3 * std::min(a.radius, b.radius));
        return std::ranges::all_of(std::array{0.15, 0.35, 0.5, 0.65, 0.85}, [&](double t) {
            const Vec2 p = pointAt(c, t);
            const double on_a = a.radius * a.radius - (p.y - a.centre[up]) * (p.y - a.centre[up]),
                         on_b = b.radius * b.radius - (p.x - b.centre[right]) * (p.x - b.centre[right]);
            if (on_a < 0 || on_b < 0) return false;
            for (double s : {-1.0, 1.0})
                for (double w : {-1.0, 1.0})
                    if (std::abs(a.centre[deep] + s * std::sqrt(on_a) - b.centre[deep] -
                                 w * std::sqrt(on_b)) <= same)
                        return true;
            return false;
        });
    }

    using Kind = End::Kind;

    /// Of circles that no view tells the depth of: where the same circles are holes elsewhere in the view,
    /// they are holes of that kind.
    void likeAnother(const FigureView& v, const Ring& ring, const std::vector<HoleSeen>& told) {
        if (std::ranges::any_of(ring.circles, [](const auto& c) { return !c.full; })) return;
        for (const HoleSeen& h : told) {
            const size_t circles = h.sizes[1] > 0 ? 2 : 1;
            if (ring.circles.size() != circles || !ring.of(h.sizes[0], tol_) ||
                (circles == 2 && !ring.of(h.sizes[1], tol_)))
                continue;
            if (couldBeSeen(v, ring)) return;
            HoleSeen like = h;
            like.step.places = {ring.centre};
            like.lines.clear(), like.closing.clear();
            for (size_t i = 0; i < f_.curves.size(); ++i) {
                const auto* a = std::get_if<Arc>(&f_.curves[i].drawn);
                if (a && f_.curves[i].view == v.view && distance(a->centre, ring.centre) <= tol_ &&
                    ring.of(a->radius, tol_))
                    like.lines.push_back({static_cast<int>(i)});
            }
            found_.push_back(std::move(like));
            return;
        }
    }

    /// Whether a view draws what is hidden, so that it would show the walls of a hole.
    bool couldBeSeen(const FigureView& v, const Ring& ring) const {
        return std::ranges::any_of(maps_, [&](const ViewMap& m) {
            return fromSide(v, ring, m.view()) && !m.cut() && m.hasHidden();
        });
    }

    bool holesOf(const FigureView& v, const Ring& ring) {
        for (const ViewMap& m : maps_) {
            const auto side = fromSide(v, ring, m.view());
            // A section shows the walls of holes whose axis lies in its plane.
            if (!side || (m.cut() && std::abs(*m.cut() - side->deep) > tol_)) continue;
            const Walls walls(m, v.axes.depth, side->centre, ring.circles.back().radius + tol_);
            const size_t before = found_.size();
            take(v, ring, m, walls);
            if (found_.size() > before) return true;
        }
        return false;
    }

    /// Whether the other views that show the hole's walls let it end there as well.
    bool endsInOthers(const FigureView& v, const Ring& ring, const ViewMap& m, double radius, double at,
                      double sign) const {
        return std::ranges::none_of(maps_, [&](const ViewMap& o) {
            const auto side = fromSide(v, ring, o.view());
            if (&o == &m || !side || o.cut() || !o.hasHidden()) return false;
            const Walls walls(o, v.axes.depth, side->centre, ring.circles.back().radius + tol_);
            return !walls.along(radius).empty() && !walls.endsAt(radius, at, sign);
        });
    }

    /// Holes behind each other have one wall in a view, as deep as the deepest: where the other views do not
    /// let this one end so deep, it ends at a floor on the way.
    void shorten(const FigureView& v, const Ring& ring, const ViewMap& m, const Walls& walls, double radius,
                 double& lo, double& hi) const {
        for (const double sign : {-1.0, 1.0}) {
            double& end = sign > 0 ? hi : lo;
            if (!walls.endsAt(radius, end, sign) || endsInOthers(v, ring, m, radius, end, sign)) continue;
            std::vector<double> on_the_way = walls.levels();
            std::erase_if(on_the_way, [&](double at) { return at <= lo + tol_ || at >= hi - tol_; });
            if (sign > 0) std::ranges::reverse(on_the_way);
            const auto next = std::ranges::find_if(on_the_way, [&](double at) {
                return walls.endsAt(radius, at, sign) && endsInOthers(v, ring, m, radius, at, sign);
            });
            if (next != on_the_way.end()) end = *next;
        }
    }

    /// Where a wall that ends open is seen to end last: out of a round surface, or into one, it runs unlike
    /// far in each of the views that show it.
    double farthest(const FigureView& v, const Ring& ring, const ViewMap& m, double radius, double lo,
                    double hi, bool high) const {
        double at = high ? hi : lo;
        for (const ViewMap& o : maps_) {
            const auto side = fromSide(v, ring, o.view());
            if (&o == &m || !side || o.cut()) continue;
            const Walls walls(o, v.axes.depth, side->centre, ring.circles.back().radius + tol_);
            for (const auto& [first, last] : walls.along(radius)) {
                if (first > hi + tol_ || last < lo - tol_) continue;
                if (high && last > at && last <= hi + radius) at = last;
                if (!high && first < at && first >= lo - radius) at = first;
            }
        }
        return at;
    }

    /// The holes of one ring that one neighbour view shows.
    void take(const FigureView& v, const Ring& ring, const ViewMap& m, const Walls& walls) {
        struct Cylinder {
            double radius, lo, hi;
            bool wide = false; ///< the counterbore of another one
        };
        std::vector<Cylinder> all;
        for (const Ring::Circle& c : ring.circles)
            for (auto [lo, hi] : walls.along(c.radius)) {
                shorten(v, ring, m, walls, c.radius, lo, hi);
                all.push_back({c.radius, lo, hi});
            }
        const auto endOf = [&](const Cylinder& c, bool high) {
            End e{Kind::open, high ? c.hi : c.lo};
            const double sign = high ? 1 : -1;
            for (const Cylinder& w : all) {
                const double near = high ? w.lo : w.hi;
                if (w.radius > c.radius + tol_ && std::abs(near - e.at) <= tol_)
                    return End{Kind::widened, e.at, high ? w.hi : w.lo, w.radius};
                if (w.radius < c.radius - tol_ && std::abs(near - e.at) <= tol_) e.kind = Kind::flat;
            }
            if (const auto slant = walls.slantFrom({c.radius, e.at}, sign)) {
                if (slant->radius <= tol_) return End{Kind::pointed, e.at, slant->at, 0};
                if (slant->radius > c.radius && ring.of(slant->radius, tol_))
                    return End{Kind::flared, e.at, slant->at, slant->radius};
            }
            if (walls.closedAt(c.radius, e.at)) e.kind = Kind::flat;
            return e;
        };
        std::vector<std::pair<Cylinder, std::array<End, 2>>> made;
        for (const Cylinder& c : all) {
            made.push_back({c, {endOf(c, false), endOf(c, true)}});
            for (const bool high : {false, true})
                if (End& e = made.back().second[high]; e.kind == Kind::open)
                    e.at = farthest(v, ring, m, c.radius, c.lo, c.hi, high);
        }
        // A wider cylinder that only leads to a narrower one is its counterbore.
        std::vector<std::pair<double, double>> used; // radius and inner end of those
        for (auto& [c, ends] : made) {
            const int entry = entryOf(v, ring, c.radius, ends);
            if (entry < 0) continue;
            if (ends[entry].kind == Kind::widened) used.emplace_back(ends[entry].radius, ends[entry].at);
        }
        for (auto& [c, ends] : made) {
            const bool wide = std::ranges::any_of(used, [&, &c = c](const auto& u) {
                return std::abs(u.first - c.radius) <= tol_ &&
                       (std::abs(u.second - c.lo) <= tol_ || std::abs(u.second - c.hi) <= tol_);
            });
            const int entry = wide ? -1 : entryOf(v, ring, c.radius, ends);
            if (entry >= 0) add(v, ring, m, c.radius, ends[entry], ends[1 - entry], entry == 0);
        }
    }

    /// From which end a hole is drilled: 0 from the low one, 1 from the high one, -1 for neither.
    int entryOf(const FigureView& v, const Ring& ring, double radius, const std::array<End, 2>& ends) const {
        const auto enters = [](const End& e) {
            return e.kind == Kind::open || e.kind == Kind::widened || e.kind == Kind::flared;
        };
        const int near = viewerAtLowEnd(v) ? 0 : 1;
        const bool shaped_near = ends[near].kind != Kind::open,
                   shaped_far = ends[1 - near].kind != Kind::open;
        const Ring::Circle* own = ring.of(radius, tol_);
        if (!enters(ends[near]) && !enters(ends[1 - near])) return -1;
        if (!enters(ends[near])) return 1 - near;
        if (!enters(ends[1 - near])) return near;
        if (shaped_near != shaped_far) return shaped_near ? near : 1 - near;
        const auto outside = [&](int end) {
            return openBeyond(v, ring, radius, ends[end].at, end == 0 ? -1 : 1);
        };
        if (const bool is_near = outside(near); is_near != outside(1 - near))
            return is_near ? near : 1 - near;
        return own && !own->seen ? 1 - near : near;
    }

    /// Whether some view shows nothing of the part from a place on, outwards along the hole.
    bool openBeyond(const FigureView& v, const Ring& ring, double radius, double at, double sign) const {
        for (const ViewMap& m : maps_) {
            const auto seen = fromSide(v, ring, m.view());
            if (!seen || m.cut()) continue;
            // Close by its walls, where a round part ends as early as they do.
            const double slack = 2 * tol_ + 0.01 * radius;
            const auto open = [&](double side) {
                const Scan& s = m.scan(seen->across, seen->centre + side * 0.999 * radius);
                return s.breaks.empty() ||
                       (sign > 0 ? s.breaks.back() <= at + slack : s.breaks.front() >= at - slack);
            };
            if (open(1) && open(-1)) return true;
        }
        return false;
    }

    /// A mark of the neighbour view where a wall stands.
    static MarkRef markOf(const ViewMap& m, const FigureView& v, const Ring& ring, double radius, double at) {
        const FigureView& o = m.view();
        const double c = fromSide(v, ring, o)->centre + radius;
        return {o.name, o.axes.right == v.axes.depth ? Vec2{at, c} : Vec2{c, at}};
    }

    void add(const FigureView& v, const Ring& ring, const ViewMap& m, double radius, const End& top,
             const End& bottom, bool from_low) {
        const double way = from_low ? 1 : -1;
        HoleSeen h;
        Step& s = h.step;
        s.kind = StepKind::hole, s.operation = Operation::cut, s.view = v.name, s.places = {ring.centre};
        s.hole.from_far = from_low != viewerAtLowEnd(v);
        s.hole.kind = top.kind == Kind::widened  ? HoleKind::counterbore
                      : top.kind == Kind::flared ? HoleKind::countersink
                                                 : HoleKind::plain;
        const bool shaped = s.hole.kind != HoleKind::plain;
        if (top.kind == Kind::widened) s.hole.wide_to = markOf(m, v, ring, top.radius, top.at);
        if (top.kind == Kind::flared)
            s.hole.sink_angle = 2 * std::atan2(top.radius - radius, std::abs(top.at - top.out));
        // The sizes are those of the smallest circles, unless others stand in between.
        const auto rank = [&](double r) {
            return std::ranges::count_if(ring.circles,
                                         [&](const auto& c) { return c.full && c.radius < r - tol_; });
        };
        if (rank(radius) > 0) s.hole.diameter = 2 * radius;
        if (shaped && (rank(radius) > 0 || rank(top.radius) != 1 || !ring.of(top.radius, tol_)->full))
            s.hole.wide = 2 * top.radius;
        const double begin = shaped ? top.out : top.at;
        if (!openBeyond(v, ring, std::max(radius, top.radius), begin, -way))
            s.from = {Bound::Kind::mark, markOf(m, v, ring, std::max(radius, top.radius), begin)};
        const bool runs_out = bottom.kind == Kind::widened || bottom.kind == Kind::flared;
        const bool through = bottom.kind == Kind::open && openBeyond(v, ring, radius, bottom.at, way);
        s.reach = through ? Reach::through : Reach::between;
        if (!through) s.to = {Bound::Kind::mark, markOf(m, v, ring, radius, bottom.at)};
        s.hole.point =
            bottom.kind == Kind::pointed ? 2 * std::atan2(radius, std::abs(bottom.out - bottom.at)) : kPi;
        if (through) s.hole.point = HoleShape{}.point;
        s.name = fmt::format("{}{}", through || runs_out ? "" : "blind ",
                             shaped ? fmt::format("{} hole", nameOf(s.hole.kind)) : "hole");
        h.open_end = bottom.kind == Kind::open && !through;
        h.sizes = {radius, shaped ? top.radius : 0, begin, top.at, through ? 0 : bottom.at};
        explain(v, ring, radius, top, bottom, way, h);
        found_.push_back(std::move(h));
    }

    /// What of the sheet's lines the hole explains, in all views.
    void explain(const FigureView& v, const Ring& ring, double radius, const End& top, const End& bottom,
                 double way, HoleSeen& h) const {
        const bool wider = top.kind == Kind::widened || top.kind == Kind::flared;
        HoleProfile& p = h.profile;
        p.walls.push_back({radius, top.at, radius, bottom.at});
        if (top.kind == Kind::widened) p.walls.push_back({top.radius, top.out, top.radius, top.at});
        if (top.kind == Kind::flared) p.walls.push_back({radius, top.at, top.radius, top.out});
        if (bottom.kind == Kind::pointed) p.walls.push_back({radius, bottom.at, 0, bottom.out});
        if (wider) p.levels.push_back({top.kind == Kind::widened ? top.radius : radius, top.at});
        if (bottom.kind == Kind::pointed || bottom.kind == Kind::flat)
            p.levels.push_back({radius, bottom.at});
        p.mouths.push_back(wider ? HoleProfile::Mouth{top.radius, top.out, -way}
                                 : HoleProfile::Mouth{radius, top.at, -way});
        if (bottom.kind == Kind::open) p.mouths.push_back({radius, bottom.at, way});
        for (size_t i = 0; i < f_.curves.size(); ++i) {
            const auto* a = std::get_if<Arc>(&f_.curves[i].drawn);
            const FigureView& o = *f_.viewById(f_.curves[i].view);
            if (!a || !o.principal() || o.axes.depth != v.axes.depth) continue;
            const Vec2 at = o.axes.right == v.axes.right ? ring.centre : Vec2{ring.centre.y, ring.centre.x};
            const bool of_hole =
                std::abs(a->radius - radius) <= tol_ || (wider && std::abs(a->radius - top.radius) <= tol_);
            if (of_hole && distance(a->centre, at) <= tol_) h.lines.push_back({static_cast<int>(i)});
        }
        for (const ViewMap& m : maps_) {
            const auto side = fromSide(v, ring, m.view());
            if (!side) continue;
            const bool in_plane = m.cut() && std::abs(*m.cut() - side->deep) <= tol_;
            const Explained e =
                explainedBy(p, f_, m, v.axes.depth, side->centre, in_plane || kinds_ == LineKinds::alike);
            std::ranges::copy(e.lines, std::back_inserter(h.lines));
            for (const Explained::Closed& c : e.closing)
                h.closing.push_back({m.view().view, c.line, LineRole::outline, c.over});
        }
    }

    const Figure& f_;
    const std::vector<ViewMap>& maps_;
    LineKinds kinds_;
    double tol_;
    std::vector<HoleSeen> found_;
};

} // namespace

std::vector<HoleSeen> holesSeen(const Figure& f, const std::vector<ViewMap>& maps, LineKinds kinds) {
    return Seer(f, maps, kinds).all();
}

std::vector<Step> holeSteps(const std::vector<HoleSeen>& holes, double tol) {
    std::vector<Step> r;
    std::vector<const HoleSeen*> first; // by step
    for (const HoleSeen& h : holes) {
        const auto alike = [&](const HoleSeen* o) {
            const Step &s = o->step, &t = h.step;
            for (size_t i = 0; i < h.sizes.size(); ++i)
                if (std::abs(o->sizes[i] - h.sizes[i]) > tol) return false;
            return s.view == t.view && s.axis == t.axis && s.reach == t.reach && s.name == t.name &&
                   s.from.kind == t.from.kind && s.hole.from_far == t.hole.from_far &&
                   s.hole.diameter == t.hole.diameter && s.hole.wide == t.hole.wide &&
                   std::abs(s.hole.sink_angle - t.hole.sink_angle) < kSameAngle &&
                   std::abs(s.hole.point - t.hole.point) < kSameAngle;
        };
        const auto same = std::ranges::find_if(first, alike);
        if (same != first.end())
            r[static_cast<size_t>(same - first.begin())].places.push_back(h.step.places.front());
        else
            r.push_back(h.step), first.push_back(&h);
    }
    return r;
}

} // namespace prism
