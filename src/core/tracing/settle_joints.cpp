#include "core/base/crossings.h"
#include "core/base/groups.h"
#include "core/tracing/pieces.h"

#include <Eigen/Dense>
#include <map>

namespace prism {
namespace {

constexpr double kTangent = 0.3; ///< radians within which a line runs into an arc tangentially

struct End {
    int piece;
    bool at_start;
};

class Settler {
  public:
    Settler(TracePieces& t, double pixel) : t_(t), pixel_(pixel) {
        ends_.resize(t.joints.size()), passing_.resize(t.joints.size());
        for (int i = 0; i < static_cast<int>(t.pieces.size()); ++i) {
            const TracePiece& p = t.pieces[i];
            if (p.from >= 0) ends_[p.from].push_back({i, true});
            if (p.to >= 0) ends_[p.to].push_back({i, false});
            for (int j : p.passes) passing_[j].push_back(i);
        }
    }
    void settle() {
        for (int i = 0; i < static_cast<int>(t_.pieces.size()); ++i) rollOn(i);
        for (int j = 0; j < static_cast<int>(ends_.size()); ++j) meetAt(j);
        gatherEnds();
    }

  private:
    Curve& shape(int i) { return t_.pieces[i].shape; }
    static Vec2 outward(const Curve& c, bool at_start) {
        return at_start ? -tangentAt(c, 0) : tangentAt(c, 1);
    }

    /// The line that an arc runs into tangentially at one of its ends; -1 for none.
    int tangentLine(int arc, bool at_start) {
        const int j = at_start ? t_.pieces[arc].from : t_.pieces[arc].to;
        if (j < 0 || ends_[j].size() != 2 || !passing_[j].empty()) return -1;
        for (const End& e : ends_[j]) {
            if (e.piece == arc || !std::holds_alternative<Segment>(shape(e.piece))) continue;
            const Vec2 a = outward(shape(arc), at_start), b = outward(shape(e.piece), e.at_start);
            if (dot(a, b) < 0 && std::abs(cross(a, b)) < kTangent) return e.piece;
        }
        return -1;
    }

    /// The smallest change of an arc for which it touches the lines it runs into.
    void rollOn(int i) {
        auto* a = std::get_if<Arc>(&shape(i));
        if (!a || a->full()) return;
        std::vector<Segment> lines;
        for (bool at_start : {true, false})
            if (const int l = tangentLine(i, at_start); l >= 0) lines.push_back(std::get<Segment>(shape(l)));
        if (lines.empty()) return;
        Arc now = *a;
        for (int round = 0; round < 8; ++round) {
            Eigen::MatrixXd jacobian(static_cast<long>(lines.size()), 3);
            Eigen::VectorXd rest(static_cast<long>(lines.size()));
            for (long k = 0; k < rest.size(); ++k) {
                const Vec2 u = normalized(lines[k].b - lines[k].a);
                const double d = cross(u, now.centre - lines[k].a), side = d < 0 ? -1 : 1;
                jacobian.row(k) << -u.y * side, u.x * side, -1;
                rest[k] = d * side - now.radius;
            }
            const Eigen::MatrixXd square = jacobian * jacobian.transpose();
            const Eigen::Vector3d step =
                -jacobian.transpose() * square.completeOrthogonalDecomposition().solve(rest);
            now.centre = now.centre + Vec2{step[0], step[1]}, now.radius += step[2];
        }
        const double moved = distance(now.centre, a->centre) + std::abs(now.radius - a->radius);
        if (now.radius > 0 && moved < std::max(3 * pixel_, 0.15 * a->radius)) *a = now;
    }

    void setEnd(const End& e, Vec2 p) {
        if (auto* s = std::get_if<Segment>(&shape(e.piece))) {
            // A long line keeps its direction; what then misses by a fraction of a pixel is for the repairs.
            // The ink of a short one runs into that of others at both ends, so its direction is not known.
            const Vec2 d = s->b - s->a;
            const bool lies = !isShort(t_.pieces[e.piece], pixel_);
            (e.at_start ? s->a : s->b) = lies ? s->a + d * (dot(p - s->a, d) / dot(d, d)) : p;
            return;
        }
        Arc& a = std::get<Arc>(shape(e.piece));
        const double turn = a.sweep < 0 ? -1 : 1, now = angleOf(p - a.centre);
        const double was = e.at_start ? a.start : a.start + a.sweep;
        const double by = std::remainder(now - was, 2 * kPi);
        if (e.at_start)
            a.start += by, a.sweep -= by;
        else
            a.sweep += by;
        if (a.sweep * turn <= 0) a.sweep += turn * 2 * kPi;
    }

    /// The shape prolonged as far as a joint can be off.
    Curve longer(const Curve& c) const {
        if (const auto* s = std::get_if<Segment>(&c)) {
            const Vec2 d = normalized(s->b - s->a) * (40 * pixel_);
            return Segment{s->a - d, s->b + d};
        }
        const Arc& a = std::get<Arc>(c);
        return Arc{a.centre, a.radius, 0, 2 * kPi};
    }
    std::optional<Vec2> crossing(int a, int b, Vec2 near) {
        std::optional<Vec2> best;
        const double within = 2 * std::max({t_.pieces[a].width, t_.pieces[b].width, 2 * pixel_});
        for (Vec2 p : crossings(longer(shape(a)), longer(shape(b)), 1e-9))
            if (distance(p, near) < within && (!best || distance(p, near) < distance(*best, near))) best = p;
        return best;
    }

    bool tangential(const End& a, const End& b) {
        const Vec2 u = outward(shape(a.piece), a.at_start), v = outward(shape(b.piece), b.at_start);
        return dot(u, v) < 0 && std::abs(cross(u, v)) < kTangent;
    }

    /// Where a line touches the circle of an arc that it runs into.
    static Vec2 touching(const Segment& s, const Arc& a) {
        const Vec2 u = normalized(s.b - s.a);
        return s.a + u * dot(a.centre - s.a, u);
    }

    /// Ends a line on the circle that it touches there, exactly. It turns by a fraction of a pixel over its
    /// length.
    bool touchRound(const End& e, int round, Vec2 near) {
        auto* s = std::get_if<Segment>(&shape(e.piece));
        const auto* a = std::get_if<Arc>(&shape(round));
        if (!s || !a) return false;
        const Vec2 foot = touching(*s, *a), out = foot - a->centre;
        if (std::abs(length(out) - a->radius) > std::max(2 * pixel_, 0.02 * a->radius)) return false;
        if (distance(foot, near) > std::max(6 * pixel_, 0.4 * a->radius)) return false;
        (e.at_start ? s->a : s->b) = a->centre + normalized(out) * a->radius;
        return true;
    }

    void meetAt(int j) {
        const std::vector<End>& ends = ends_[j];
        if (ends.empty()) return;
        const Vec2 near = t_.joints[j];
        // Thin lines have no say where thick ones meet: a leader that runs over an outline beside its corner
        // leaves the corner where it is.
        double widest = 0;
        for (const End& e : ends) widest = std::max(widest, t_.pieces[e.piece].width);
        const auto thin = [&](int piece) { return t_.pieces[piece].width < 0.7 * widest; };
        const bool corner = std::ranges::count_if(ends, [&](const End& e) { return !thin(e.piece); }) > 1 &&
                            std::ranges::all_of(passing_[j], thin);
        if (!corner && !passing_[j].empty()) {
            for (const End& e : ends)
                for (int through : passing_[j]) {
                    if (touchRound(e, through, near)) break;
                    if (const auto p = crossing(e.piece, through, near)) {
                        setEnd(e, *p);
                        break;
                    }
                }
            return;
        }
        if (ends.size() == 2 && tangential(ends[0], ends[1])) {
            for (int k : {0, 1}) {
                const auto* s = std::get_if<Segment>(&shape(ends[k].piece));
                const auto* a = std::get_if<Arc>(&shape(ends[1 - k].piece));
                if (!s || !a) continue;
                const Vec2 p = touching(*s, *a);
                if (distance(p, near) < std::max(6 * pixel_, 0.5 * a->radius))
                    setEnd(ends[k], p), setEnd(ends[1 - k], p);
                return;
            }
        }
        meet(ends, near, widest);
    }

    /// The crossing of the two longest that do cross is the joint of all; thin ones come last.
    void meet(const std::vector<End>& ends, Vec2 near, double widest) {
        const auto rank = [&](const End& e) {
            return std::pair(t_.pieces[e.piece].width < 0.7 * widest, -lengthOf(shape(e.piece)));
        };
        std::vector<End> order = ends;
        std::ranges::sort(order, {}, rank);
        for (size_t a = 0; a < order.size(); ++a)
            for (size_t b = a + 1; b < order.size(); ++b)
                if (const auto p = crossing(order[a].piece, order[b].piece, near)) {
                    for (const End& e : order) setEnd(e, *p);
                    return;
                }
        for (const End& e : order)
            if (order.size() > 1 && std::holds_alternative<Segment>(shape(e.piece))) setEnd(e, near);
    }

    /// Where a short line runs into a corner at a slant, the ink of all three is one before they meet, and
    /// the corner falls into two. Ends nearer to each other than the ink is wide are one corner.
    void gatherEnds() {
        std::vector<End> all;
        for (int i = 0; i < static_cast<int>(t_.pieces.size()); ++i) {
            if (t_.pieces[i].from >= 0) all.push_back({i, true});
            if (t_.pieces[i].to >= 0) all.push_back({i, false});
        }
        const auto at = [&](const End& e) {
            return e.at_start ? startOf(shape(e.piece)) : endOf(shape(e.piece));
        };
        std::ranges::sort(all, {}, [&](const End& e) { return at(e).x; });
        Groups groups(all.size());
        for (size_t a = 0; a < all.size(); ++a) {
            const TracePiece& p = t_.pieces[all[a].piece];
            for (size_t b = a + 1; b < all.size() && at(all[b]).x - at(all[a]).x < p.width; ++b) {
                const TracePiece& q = t_.pieces[all[b].piece];
                if (all[a].piece == all[b].piece || p.component != q.component ||
                    std::min(p.width, q.width) < 0.7 * std::max(p.width, q.width))
                    continue;
                if (distance(at(all[a]), at(all[b])) < p.width)
                    groups.join(static_cast<int>(a), static_cast<int>(b));
            }
        }
        std::map<int, std::vector<End>> corners;
        for (size_t a = 0; a < all.size(); ++a) corners[groups.find(static_cast<int>(a))].push_back(all[a]);
        for (const auto& [first, ends] : corners) {
            Vec2 sum;
            double apart = 0, widest = 0;
            for (const End& e : ends) {
                sum = sum + at(e), apart = std::max(apart, distance(at(e), at(ends[0])));
                widest = std::max(widest, t_.pieces[e.piece].width);
            }
            if (ends.size() > 2 && apart > 1e-9)
                meet(ends, sum * (1.0 / static_cast<double>(ends.size())), widest);
        }
    }

    TracePieces& t_;
    double pixel_;
    std::vector<std::vector<End>> ends_;
    std::vector<std::vector<int>> passing_;
};

} // namespace

void settleJoints(TracePieces& t, double pixel) {
    layLevel(t, pixel);
    Settler(t, pixel).settle();
    aimShortLines(t, pixel);
}

} // namespace prism
