#include "core/base/box_tree.h"
#include "core/base/crossings.h"
#include "core/base/curve_ends.h"
#include "core/base/groups.h"
#include "core/cleaning/workbench.h"

// Ends that miss: gaps, lines too short for their corner, and overshoots. Only ends that meet nothing are
// touched, so a sound sheet stays as it is.
namespace prism::cleaning {
namespace {

constexpr double kHair = 4;    ///< ends pass a corner by so many times what counts as touching
constexpr double kAside = 0.4; ///< how far aside, for what it misses, a free-form curve may end
constexpr double kFarLook = 6; ///< loose ends are told up to this many times the gap

Vec2 endPoint(const Curve& c, int side) {
    return side == 0 ? startOf(c) : endOf(c);
}

/// Free ends of one round, and what is near them.
class Corners {
  public:
    explicit Corners(Workbench& w) : w_(w), web_(w.web()) {
        if (tooCrowded()) return;
        for (size_t n = 0; n < nodes_.size(); ++n) {
            const auto ends = nodes_.ends(static_cast<int>(n));
            if (ends.size() == 1 && !touchesBody(ends[0])) free_.push_back(ends[0]);
        }
        if (!free_.empty()) leavePictorials();
    }

    /// Pairs of free ends within the gap, nearest first; then ends near the body of a line.
    void close() {
        for (const Pair& p : pairs()) closePair(p);
        for (const End& e : free_)
            if (isFree(e)) closeToBody(e);
    }

    void listLoose() {
        for (const End& e : free_) {
            if (w_.role(pieces_[e.piece]) != LineRole::outline) continue;
            const double d = nearestOther(e);
            if (d <= kFarLook * w_.gap())
                w_.sheet().loose_ends.push_back({pieces_[e.piece].entity, point(e), d});
        }
    }

  private:
    /// On a large sheet where most ends meet nothing, or where lines lie closer together than gaps are wide,
    /// no end can be said to miss another; looking would cost the square of the number of lines.
    bool tooCrowded() {
        constexpr double kMostLooks = 2e6, kManyFree = 5000, kMostFree = 0.6;
        double total = 0, single = 0;
        Box2 box;
        for (size_t i = 0; i < pieces_.size(); ++i) {
            total += lengthOf(curve(static_cast<int>(i)));
            box.add(boxOf(curve(static_cast<int>(i))));
        }
        for (size_t n = 0; n < nodes_.size(); ++n) single += nodes_.ends(static_cast<int>(n)).size() == 1;
        if (single > kManyFree && single > kMostFree * 2 * static_cast<double>(pieces_.size())) {
            w_.leaveUndone("gaps and corners were not looked for: most of very many lines end in nothing");
            return true;
        }
        if (!box.valid() || !(box.width() * box.height() > 0)) return false;
        const double looks = single * 4 * w_.gap() * total / (box.width() * box.height());
        if (looks <= kMostLooks) return false;
        w_.leaveUndone("gaps and corners were not looked for: lines lie closer together than gaps are wide");
        return true;
    }

    struct Pair {
        double distance;
        End a, b;
    };

    std::vector<int> near(Vec2 p, double reach) const {
        if (!near_) near_.emplace(w_, pieces_, w_.gap());
        return near_->near(p, reach);
    }

    const Curve& curve(int piece) const { return w_.curve(pieces_[piece]); }
    Vec2 point(End e) const { return endPoint(curve(e.piece), e.side); }
    bool isFree(End e) const { return !done_.contains({e.piece, e.side}); }
    void settle(End e) { done_.insert({e.piece, e.side}); }

    /// Lines of a pictorial meet curves that are drawn roughly; they are not part of the figure and stay as
    /// drawn.
    void leavePictorials() {
        Groups groups(pieces_.size());
        for (size_t n = 0; n < nodes_.size(); ++n)
            for (const End& e : nodes_.ends(static_cast<int>(n)))
                for (int other : near(point(e), w_.gap()))
                    if (groups.find(other) != groups.find(e.piece) &&
                        distanceTo(curve(other), point(e)) <= w_.gap())
                        groups.join(e.piece, other);
        std::map<int, std::array<double, 4>> along; // by group: level, upright, the two isometric slopes
        std::map<int, double> total;
        for (size_t i = 0; i < pieces_.size(); ++i)
            if (const auto* s = std::get_if<Segment>(&curve(static_cast<int>(i)))) {
                const int g = groups.find(static_cast<int>(i));
                const double l = distance(s->a, s->b),
                             degrees = std::fmod(positiveAngle(angleOf(s->b - s->a)) * 180 / kPi, 180);
                if (l < w_.paper(3)) continue; // chords of drawn curves run in all directions
                total[g] += l;
                const double slopes[4] = {0, 90, 30, 150};
                for (int k = 0; k < 4; ++k)
                    if (std::abs(degrees - slopes[k]) < 0.5 || std::abs(degrees - 180 - slopes[k]) < 0.5)
                        along[g][k] += l;
            }
        std::erase_if(free_, [&](const End& e) {
            const int g = groups.find(e.piece);
            const auto& a = along[g];
            return a[2] + a[3] > 0.6 * total[g] && a[0] < 0.2 * total[g];
        });
    }

    bool touchesBody(End e) const {
        for (int other : near(point(e), w_.touch()))
            if (other != e.piece && distanceTo(curve(other), point(e)) <= w_.touch()) return true;
        return false;
    }

    /// Distance to the nearest other line; infinite when there is none within the far look.
    double nearestOther(End e) const {
        const double far = kFarLook * w_.gap();
        for (double reach = 0.25 * w_.gap(); reach < 2 * far;
             reach *= 2) { // on a crowded sheet one is close by
            double best = std::numeric_limits<double>::infinity();
            for (int other : near(point(e), std::min(reach, far)))
                if (other != e.piece) best = std::min(best, distanceTo(curve(other), point(e)));
            if (best <= reach || reach >= far) return best;
        }
        return std::numeric_limits<double>::infinity();
    }

    bool sameKind(End a, End b) const { return w_.role(pieces_[a.piece]) == w_.role(pieces_[b.piece]); }

    std::vector<Pair> pairs() const {
        std::vector<Pair> r;
        std::vector<Box2> places;
        for (const End& e : free_) places.push_back({point(e), point(e)});
        const BoxTree tree(places);
        for (size_t i = 0; i < free_.size(); ++i)
            for (int k : tree.overlapping(places[i].grown(w_.cornerGap()))) {
                const End e = free_[i], f = free_[k];
                const bool once = std::tie(e.piece, e.side) < std::tie(f.piece, f.side);
                const double d = distance(point(e), point(f));
                if (once && d <= w_.cornerGap() && sameKind(e, f) &&
                    (f.piece != e.piece || d < lengthOf(curve(e.piece)) / 2))
                    r.push_back({d, e, f});
            }
        std::sort(r.begin(), r.end(), [](const Pair& x, const Pair& y) {
            return std::tie(x.distance, x.a.piece, x.a.side, x.b.piece, x.b.side) <
                   std::tie(y.distance, y.a.piece, y.a.side, y.b.piece, y.b.side);
        });
        return r;
    }

    bool onCarrier(End e, Vec2 p) const {
        return distanceTo(prolonged(curve(e.piece), e.side, 2 * w_.cornerGap()), p) <= w_.touch();
    }

    /// Where two lines with free ends should meet: at an end that lies on the other's carrier, else where the
    /// carriers cross, else half way.
    Vec2 meeting(const Pair& p) const {
        const Vec2 a = point(p.a), b = point(p.b);
        if (onCarrier(p.a, b)) return b;
        if (onCarrier(p.b, a)) return a;
        const auto x = crossings(prolonged(curve(p.a.piece), p.a.side, 3 * w_.cornerGap()),
                                 prolonged(curve(p.b.piece), p.b.side, 3 * w_.cornerGap()), w_.touch());
        Vec2 best = (a + b) * 0.5;
        double nearest = 3 * w_.cornerGap();
        for (Vec2 q : x)
            if (const double d = std::max(distance(q, a), distance(q, b)); d < nearest) nearest = d, best = q;
        return best;
    }

    void closePair(const Pair& p) {
        if (!isFree(p.a) || !isFree(p.b)) return;
        const Vec2 m = meeting(p);
        const int a = pieces_[p.a.piece].entity, b = pieces_[p.b.piece].entity;
        settle(p.a), settle(p.b);
        if (!w_.record("gap_closed", a == b ? std::vector<int>{a} : std::vector<int>{a, b}, m, p.distance))
            return;
        w_.setCurve(pieces_[p.a.piece], endedAt(curve(p.a.piece), p.a.side, m));
        w_.setCurve(pieces_[p.b.piece], endedAt(curve(p.b.piece), p.b.side, m));
    }

    /// An end that just misses a line, or has just run past it.
    void closeToBody(End e) {
        const Vec2 p = point(e);
        const Curve own = curve(e.piece), longer = prolonged(own, e.side, w_.gap());
        double best = w_.gap() * (1 + 1e-9);
        std::optional<Vec2> to;
        for (int other : near(p, w_.gap())) {
            if (other == e.piece) continue;
            std::vector<Vec2> met = crossings(longer, curve(other), w_.touch());
            for (int side : {0, 1})
                if (const Vec2 end = endPoint(curve(other), side); runsTo(own, e.side, longer, end))
                    met.push_back(end);
            for (Vec2 x : met)
                if (distance(x, p) < best && distance(x, endPoint(own, 1 - e.side)) > w_.touch())
                    best = distance(x, p), to = x;
        }
        if (!to) return;
        const bool beyond = distanceTo(own, *to) <= w_.touch();
        settle(e);
        // What surfaces meet in is drawn through single places, and seldom ends quite where it should.
        const bool free_form = w_.drawing().entities[pieces_[e.piece].entity].type == "SPLINE";
        const char* what = beyond ? "overshoot_trimmed" : free_form ? "curve_led_on" : "corner_extended";
        if (w_.record(what, {pieces_[e.piece].entity}, *to, best))
            w_.setCurve(pieces_[e.piece], runInto(own, e.side, *to));
    }

    /// Whether a curve goes on to a corner: one that runs into it passes it by a hair as often as not. A
    /// free-form curve goes on straight, more or less.
    bool runsTo(const Curve& own, int side, const Curve& longer, Vec2 corner) const {
        if (distanceTo(longer, corner) <= kHair * w_.touch()) return true;
        if (!std::holds_alternative<Spline>(own)) return false;
        const Vec2 way = side == 0 ? -normalized(tangentAt(own, 0)) : normalized(tangentAt(own, 1));
        const Vec2 to = corner - endPoint(own, side);
        return dot(way, to) > 0 && std::abs(cross(way, to)) <= kAside * dot(way, to);
    }

    /// The curve ended at a place that it goes on to.
    Curve runInto(const Curve& c, int side, Vec2 to) const {
        if (const auto* spline = std::get_if<Spline>(&c)) {
            Spline r = *spline;
            (side == 0 ? r.poles.front() : r.poles.back()) = to;
            if (distance(endPoint(r, side), to) <= w_.touch()) return r;
        }
        Curve r = endedAt(c, side, to);
        if (distance(endPoint(r, side), to) <= w_.touch()) return r;
        const auto arc = arcThrough(side == 0 ? to : startOf(c), pointAt(c, 0.5), side == 0 ? endOf(c) : to);
        return arc ? Curve(*arc) : r;
    }

    Workbench& w_;
    std::shared_ptr<const Web> web_;
    const std::vector<Piece>& pieces_ = web_->pieces;
    const Nodes& nodes_ = web_->nodes;
    mutable std::optional<NearPieces> near_; ///< made when first asked: a sound sheet needs none
    std::vector<End> free_;
    std::set<std::pair<int, int>> done_;
};

} // namespace

void closeCorners(Workbench& w) {
    Corners(w).close();
}

void listLooseEnds(Workbench& w) {
    Corners(w).listLoose();
}

} // namespace prism::cleaning
