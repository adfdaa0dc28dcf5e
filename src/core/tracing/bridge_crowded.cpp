#include "core/tracing/fits.h"
#include "core/tracing/pieces.h"

namespace prism {
namespace {

constexpr double kFarthest = 10; ///< widths of the ink between the ends that are joined
constexpr double kLong = 4;      ///< widths that a piece is long at least, to tell where it goes

struct Tip {
    int piece;
    bool at_start;
    Vec2 at, out;
};

class Bridger {
  public:
    Bridger(TracePieces& t, double pixel, const std::function<bool(Vec2)>& inked)
        : t_(t), pixel_(pixel), inked_(inked), gone_(t.pieces.size(), false) {}

    void bridge() {
        while (joinOne()) {
        }
        reachCorners();
        for (int i = 0; i < static_cast<int>(t_.pieces.size()); ++i)
            if (!gone_[i]) closeRound(i);
        reachRounds();
        std::vector<TracePiece> left;
        for (size_t i = 0; i < t_.pieces.size(); ++i)
            if (!gone_[i]) left.push_back(std::move(t_.pieces[i]));
        t_.pieces = std::move(left);
    }

  private:
    std::vector<Tip> tips() const {
        std::vector<Tip> r;
        for (int i = 0; i < static_cast<int>(t_.pieces.size()); ++i) {
            const TracePiece& p = t_.pieces[i];
            if (gone_[i] || lengthOf(p.shape) < kLong * p.width) continue;
            if (p.from >= 0) r.push_back({i, true, startOf(p.shape), -tangentAt(p.shape, 0)});
            if (p.to >= 0) r.push_back({i, false, endOf(p.shape), tangentAt(p.shape, 1)});
        }
        std::ranges::sort(r, {}, [](const Tip& t) { return t.at.x; });
        return r;
    }

    bool joinOne() {
        const std::vector<Tip> all = tips();
        bool any = false;
        for (size_t a = 0; a < all.size(); ++a) {
            const double reach = farthest(t_.pieces[all[a].piece]);
            for (size_t b = a + 1; b < all.size() && all[b].at.x - all[a].at.x < reach; ++b)
                if (std::abs(all[b].at.y - all[a].at.y) < reach && !stale(all[a]) && !stale(all[b]) &&
                    tryJoin(all[a], all[b]))
                    any = true;
        }
        return any;
    }

    /// Changed by a joining since the tips were gathered.
    bool stale(const Tip& t) const {
        if (gone_[t.piece]) return true;
        const Curve& c = t_.pieces[t.piece].shape;
        return distance(t.at_start ? startOf(c) : endOf(c), t.at) > 1e-9;
    }

    bool tryJoin(const Tip& a, const Tip& b) {
        const TracePiece &p = t_.pieces[a.piece], &q = t_.pieces[b.piece];
        if (a.piece == b.piece || p.component != q.component) return false;
        if (dot(a.out, b.out) > -0.7 || std::max(p.width, q.width) > 1.4 * std::min(p.width, q.width))
            return false;
        if (distance(a.at, b.at) > farthest(p)) return false;
        std::vector<Vec2> both = p.points, more = q.points;
        if (a.at_start) std::ranges::reverse(both);
        if (!b.at_start) std::ranges::reverse(more);
        const size_t first = both.size();
        both.insert(both.end(), more.begin(), more.end());
        const bool lines =
            std::holds_alternative<Segment>(p.shape) && std::holds_alternative<Segment>(q.shape);
        const auto f = fitJoined(both, false, lines, pixel_);
        if (!f) return false;
        // There must be ink all the way from one to the other.
        if (!inkedAlong(alongShape(f->shape, both[first - 1], {}, both[first]))) return false;
        TracePiece r;
        r.from = a.at_start ? p.to : p.from, r.to = b.at_start ? q.to : q.from;
        const Vec2 start = a.at_start ? endOf(p.shape) : startOf(p.shape),
                   end = b.at_start ? endOf(q.shape) : startOf(q.shape);
        r.points = std::move(both);
        r.shape = alongShape(f->shape, start, r.points, end);
        r.passes = p.passes;
        r.passes.insert(r.passes.end(), q.passes.begin(), q.passes.end());
        r.passes.push_back(a.at_start ? p.from : p.to);
        if (const int j = b.at_start ? q.from : q.to; j != r.passes.back()) r.passes.push_back(j);
        r.width = (p.width + q.width) / 2, r.rms = f->rms, r.component = p.component;
        gone_[b.piece] = true;
        t_.pieces[a.piece] = std::move(r);
        dropCovered(a.piece);
        return true;
    }

    /// How far apart two ends of this piece's line may be: the ink of a line that touches a round runs along
    /// it for a while.
    static double farthest(const TracePiece& p) {
        const auto* a = std::get_if<Arc>(&p.shape);
        return std::max(kFarthest * p.width, a ? grazing(*a, p.width) : 0);
    }
    /// Length on which two lines that touch have their ink in one.
    static double grazing(const Arc& a, double width) { return 2.5 * std::sqrt(2 * a.radius * width); }

    bool inkedAlong(const Curve& c) const {
        for (double s = 0; s <= 1; s += 0.05)
            if (!inked_(pointAt(c, s))) return false;
        return true;
    }

    /// A round of which only what other ink runs along is missing is whole.
    void closeRound(int i) {
        TracePiece& p = t_.pieces[i];
        const auto* a = std::get_if<Arc>(&p.shape);
        if (!a || a->full() || std::abs(a->sweep) < kPi || p.from < 0 || p.to < 0) return;
        if ((2 * kPi - std::abs(a->sweep)) * a->radius > farthest(p)) return;
        const double turn = a->sweep < 0 ? -1 : 1;
        const auto f = fitJoined(p.points, true, false, pixel_);
        if (!f || !inkedAlong(Arc{a->centre, a->radius, a->start + a->sweep, turn * 2 * kPi - a->sweep}))
            return;
        p.shape = f->shape, p.rms = f->rms;
        p.passes.push_back(p.from), p.passes.push_back(p.to);
        p.from = p.to = -1;
        dropCovered(i);
    }

    /// Where other ink runs over a line just before its corner, what is left of it up to there is too short
    /// to tell where it goes: it is the line's own.
    void reachCorners() {
        std::vector<std::vector<int>> at(t_.joints.size());
        for (int i = 0; i < static_cast<int>(t_.pieces.size()); ++i)
            for (int j : {t_.pieces[i].from, t_.pieces[i].to})
                if (j >= 0) at[j].push_back(i);
        for (const Tip& tip : tips()) {
            auto* s = std::get_if<Segment>(&t_.pieces[tip.piece].shape);
            if (!s || stale(tip)) continue;
            TracePiece& p = t_.pieces[tip.piece];
            int& own = tip.at_start ? p.from : p.to;
            for (const Way& w : waysFrom(own, tip, at)) {
                const Vec2 on = t_.joints[w.joint] - tip.at, foot = tip.at + tip.out * dot(tip.out, on);
                if (dot(tip.out, on) <= 0 || std::abs(cross(tip.out, on)) > p.width) continue;
                if (!cornerAt(at[w.joint], w.joint, tip) || !inkedAlong(Segment{tip.at, foot})) continue;
                (tip.at_start ? s->a : s->b) = foot;
                p.passes.push_back(own);
                own = w.joint;
                for (int k : w.pieces) gone_[k] = true;
                dropCovered(tip.piece);
                break;
            }
        }
    }

    struct Way {
        int joint;
        std::vector<int> pieces;
    };

    /// The joints that short pieces lead to from one, near the tip, and by which way; nearest first. Pieces
    /// that other lines took for their own ink lead there, too.
    std::vector<Way> waysFrom(int joint, const Tip& tip, const std::vector<std::vector<int>>& at) const {
        const double width = t_.pieces[tip.piece].width;
        std::vector<Way> r{{joint, {}}};
        for (size_t i = 0; i < r.size() && r.size() < 8; ++i)
            for (int k : at[r[i].joint]) {
                const TracePiece& p = t_.pieces[k];
                const int next = p.from == r[i].joint ? p.to : p.from;
                if (next < 0 || lengthOf(p.shape) > kLong * width ||
                    distance(t_.joints[next], tip.at) > kLong * width ||
                    std::ranges::any_of(r, [&](const Way& w) { return w.joint == next; }))
                    continue;
                Way w{next, r[i].pieces};
                w.pieces.push_back(k);
                r.push_back(std::move(w));
            }
        r.erase(r.begin());
        return r;
    }

    /// Whether a line as wide as the tip's, long enough to tell where it goes, ends there athwart.
    bool cornerAt(const std::vector<int>& pieces, int joint, const Tip& tip) const {
        return std::ranges::any_of(pieces, [&](int i) {
            const TracePiece& p = t_.pieces[i];
            if (gone_[i] || i == tip.piece || lengthOf(p.shape) < kLong * p.width ||
                p.width < 0.7 * t_.pieces[tip.piece].width)
                return false;
            const Vec2 way = p.from == joint ? tangentAt(p.shape, 0) : tangentAt(p.shape, 1);
            return std::abs(cross(way, tip.out)) > 0.3;
        });
    }

    /// A line whose ink runs into that of a round which it touches goes on to where it touches.
    void reachRounds() {
        for (const Tip& tip : tips()) {
            const auto* s = std::get_if<Segment>(&t_.pieces[tip.piece].shape);
            if (!s) continue;
            for (size_t k = 0; k < t_.pieces.size(); ++k) {
                const auto* a = std::get_if<Arc>(&t_.pieces[k].shape);
                if (gone_[k] || !a || t_.pieces[k].component != t_.pieces[tip.piece].component) continue;
                const int own = tip.at_start ? t_.pieces[tip.piece].from : t_.pieces[tip.piece].to;
                if (own == t_.pieces[k].from || own == t_.pieces[k].to) continue; // they go on in each other
                const double ahead = dot(a->centre - tip.at, tip.out);
                if (ahead <= 0 || ahead > grazing(*a, t_.pieces[k].width)) continue;
                const Vec2 foot = tip.at + tip.out * ahead;
                if (std::abs(distance(foot, a->centre) - a->radius) > 2 * pixel_) continue;
                if (distanceTo(t_.pieces[k].shape, foot) > 2 * pixel_ || !inkedAlong(Segment{tip.at, foot}))
                    continue;
                const int joint = static_cast<int>(t_.joints.size());
                t_.joints.push_back(foot);
                (tip.at_start ? t_.pieces[tip.piece].from : t_.pieces[tip.piece].to) = joint;
                t_.pieces[k].passes.push_back(joint);
                break;
            }
        }
    }

    /// Short pieces that lie on the joined one are its own ink.
    void dropCovered(int by) {
        const TracePiece& p = t_.pieces[by];
        const Box2 near = boxOf(p.shape).grown(p.width);
        for (int i = 0; i < static_cast<int>(t_.pieces.size()); ++i) {
            const TracePiece& s = t_.pieces[i];
            if (i == by || gone_[i] || s.component != p.component) continue;
            if (lengthOf(s.shape) > farthest(p) || !near.contains(boxOf(s.shape))) continue;
            bool covered = true;
            for (double t : {0.0, 0.25, 0.5, 0.75, 1.0})
                covered = covered && distanceTo(p.shape, pointAt(s.shape, t)) < 0.6 * p.width + pixel_;
            gone_[i] = covered;
        }
    }

    TracePieces& t_;
    double pixel_;
    const std::function<bool(Vec2)>& inked_;
    std::vector<bool> gone_;
};

} // namespace

void bridgeCrowded(TracePieces& t, double pixel, const std::function<bool(Vec2)>& inked) {
    Bridger(t, pixel, inked).bridge();
}

} // namespace prism
