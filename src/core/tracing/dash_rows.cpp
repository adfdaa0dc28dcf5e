#include "core/tracing/dash_rows.h"

#include "core/base/crossings.h"
#include "core/base/simpler_curve.h"
#include "core/tracing/fits.h"

namespace prism {
namespace {

constexpr double kLongestGap = 12; ///< in widths of the ink
constexpr double kLongestDash = 40;
constexpr double kTurn = 0.45; ///< radians between a dash and the gap that follows it

struct DashEnd {
    int piece;
    bool at_start;
    Vec2 at, out;
};

struct Row {
    std::vector<int> pieces;    ///< in order
    std::vector<bool> backward; ///< runs against the row
};

class Rows {
  public:
    Rows(TracePieces& t, double pixel) : t_(t), pixel_(pixel), roles_(t.pieces.size(), LineRole::unknown) {
        for (int i = 0; i < static_cast<int>(t.pieces.size()); ++i) {
            const Curve& c = t.pieces[i].shape;
            if (isClosed(c, 1e-9)) continue;
            // A dash may end on a line that it crosses.
            const bool dash = lengthOf(c) < kLongestDash * t.pieces[i].width;
            if (t.pieces[i].from < 0 || dash) ends_.push_back({i, true, startOf(c), -tangentAt(c, 0)});
            if (t.pieces[i].to < 0 || dash) ends_.push_back({i, false, endOf(c), tangentAt(c, 1)});
        }
        link();
    }

    std::vector<LineRole> join() {
        std::vector<std::pair<int, double>> hidden;
        std::vector<bool> gone(t_.pieces.size(), false), seen(t_.pieces.size(), false);
        for (int i = 0; i < static_cast<int>(t_.pieces.size()); ++i) {
            if (seen[i]) continue;
            const Row row = rowFrom(i);
            for (int p : row.pieces) seen[p] = true;
            if (row.pieces.size() < 3) continue;
            const LineRole role = roleOf(row);
            const double reach = lastGap(row);
            if (role == LineRole::unknown || !merge(row)) continue;
            for (size_t k = 1; k < row.pieces.size(); ++k) gone[row.pieces[k]] = true;
            roles_[row.pieces[0]] = role;
            if (role == LineRole::hidden) hidden.emplace_back(row.pieces[0], reach);
        }
        for (const auto& [piece, reach] : hidden) reachLines(piece, reach, gone);
        std::vector<TracePiece> left;
        std::vector<LineRole> roles;
        for (size_t i = 0; i < t_.pieces.size(); ++i)
            if (!gone[i]) left.push_back(std::move(t_.pieces[i])), roles.push_back(roles_[i]);
        t_.pieces = std::move(left);
        return roles;
    }

  private:
    /// Each free end to the best one ahead, where both choose each other.
    void link() {
        const int n = static_cast<int>(ends_.size());
        std::vector<int> order(static_cast<size_t>(n)), best(static_cast<size_t>(n), -1);
        std::vector<double> cost(static_cast<size_t>(n), std::numeric_limits<double>::infinity());
        for (int i = 0; i < n; ++i) order[i] = i;
        std::ranges::sort(order, [&](int a, int b) { return ends_[a].at.x < ends_[b].at.x; });
        double widest = 0;
        for (const TracePiece& p : t_.pieces) widest = std::max(widest, p.width);
        for (int a = 0; a < n; ++a)
            for (int b = a + 1; b < n && ends_[order[b]].at.x - ends_[order[a]].at.x < kLongestGap * widest;
                 ++b) {
                const int i = order[a], j = order[b];
                const double c = costOf(ends_[i], ends_[j]);
                if (c < cost[i]) cost[i] = c, best[i] = j;
                if (c < cost[j]) cost[j] = c, best[j] = i;
            }
        next_.assign(t_.pieces.size(), {-1, -1});
        for (int i = 0; i < n; ++i)
            if (best[i] >= 0 && best[best[i]] == i)
                next_[ends_[i].piece][ends_[i].at_start ? 0 : 1] =
                    ends_[best[i]].piece * 2 + !ends_[best[i]].at_start;
    }

    double costOf(const DashEnd& a, const DashEnd& b) const {
        constexpr double never = std::numeric_limits<double>::infinity();
        if (a.piece == b.piece) return never;
        const double wide = std::max(t_.pieces[a.piece].width, t_.pieces[b.piece].width);
        const double narrow = std::min(t_.pieces[a.piece].width, t_.pieces[b.piece].width);
        const Vec2 gap = b.at - a.at;
        const double l = length(gap);
        if (l > kLongestGap * wide || l == 0 || wide > 2 * narrow) return never;
        const double turn = std::max(std::abs(std::atan2(cross(a.out, gap), dot(a.out, gap))),
                                     std::abs(std::atan2(cross(b.out, -gap), dot(b.out, -gap))));
        return turn > kTurn ? never : l * (1 + 4 * turn);
    }

    /// The whole row that a piece is in, from one of its ends.
    Row rowFrom(int piece) const {
        int at = piece, side = 0;
        for (size_t steps = 0; steps < t_.pieces.size(); ++steps) { // back to the beginning
            const int n = next_[at][side];
            if (n < 0 || n / 2 == piece) break;
            at = n / 2, side = n % 2 ? 0 : 1;
        }
        Row r;
        int enter = side;
        for (int p = at; std::ranges::find(r.pieces, p) == r.pieces.end();) {
            r.pieces.push_back(p), r.backward.push_back(enter == 1);
            const int n = next_[p][1 - enter];
            if (n < 0) break;
            p = n / 2, enter = n % 2;
        }
        return r;
    }

    Vec2 end(const Row& r, size_t k, bool last) const {
        const Curve& c = t_.pieces[r.pieces[k]].shape;
        return last != r.backward[k] ? endOf(c) : startOf(c);
    }

    LineRole roleOf(const Row& r) const {
        std::vector<double> gaps, lengths;
        for (size_t k = 0; k + 1 < r.pieces.size(); ++k)
            gaps.push_back(distance(end(r, k, true), end(r, k + 1, false)));
        for (size_t k = 0; k < r.pieces.size(); ++k)
            lengths.push_back(lengthOf(t_.pieces[r.pieces[k]].shape));
        const auto [least, most] = std::ranges::minmax_element(gaps);
        if (*most > 1.8 * *least + 3 * pixel_) return LineRole::unknown;
        // First and last are cut off anywhere.
        std::vector<double> inner(lengths.begin() + 1, lengths.end() - 1);
        std::ranges::sort(inner);
        const double low = inner.front(), high = inner.back();
        // A few odd ones in a long row are dashes that other lines cut, or the first and the last of a ring
        // in one. The marks of a centre line are at most two thirds of its dashes (ISO 128-2).
        const double usual = inner[inner.size() / 2];
        const auto alike = std::ranges::count_if(
            inner, [&](double l) { return l <= 1.6 * usual + 2 * pixel_ && usual <= 1.6 * l + 2 * pixel_; });
        if (inner.size() >= 6 && alike >= 0.75 * static_cast<double>(inner.size())) return LineRole::hidden;
        if (high <= 1.6 * low + 2 * pixel_) {
            // A short dash between two long ones is the shortest centre line.
            if (inner.size() == 1 && lengths.front() > 2.2 * high && lengths.back() > 2.2 * high)
                return LineRole::centre;
            return std::max(lengths.front(), lengths.back()) <= 1.6 * high ? LineRole::hidden
                                                                           : LineRole::unknown;
        }
        const double split = std::sqrt(low * high);
        for (size_t k = 1; k + 2 < lengths.size(); ++k)
            if ((lengths[k] > split) && (lengths[k + 1] > split)) return LineRole::unknown;
        return LineRole::centre;
    }

    /// How far from its end a row may stop short of the line it runs up to: a gap and part of a dash that ran
    /// into that line's ink.
    double lastGap(const Row& r) const {
        double gap = 0, dash = 0;
        for (size_t k = 0; k + 1 < r.pieces.size(); ++k)
            gap = std::max(gap, distance(end(r, k, true), end(r, k + 1, false)));
        for (int p : r.pieces) dash = std::max(dash, lengthOf(t_.pieces[p].shape));
        return 1.1 * gap + std::min(0.5 * dash, gap);
    }

    /// Hidden lines that stop short of a line by no more than a gap of the pattern reach it.
    void reachLines(int piece, double reach, const std::vector<bool>& gone) {
        auto* s = std::get_if<Segment>(&t_.pieces[piece].shape);
        if (!s) return;
        for (bool at_start : {true, false}) {
            if ((at_start ? t_.pieces[piece].from : t_.pieces[piece].to) >= 0) continue;
            Vec2& tip = at_start ? s->a : s->b;
            const Vec2 out = normalized(at_start ? s->a - s->b : s->b - s->a);
            const Segment ahead{tip - out * (0.5 * pixel_), tip + out * reach};
            const Box2 box = boxOf(ahead).grown(pixel_);
            std::optional<Vec2> nearest;
            for (int i = 0; i < static_cast<int>(t_.pieces.size()); ++i) {
                const TracePiece& p = t_.pieces[i];
                if (i == piece || gone[i] || lengthOf(p.shape) < 2 * reach || !box.overlaps(boxOf(p.shape)))
                    continue;
                for (Vec2 x : crossings(ahead, p.shape, 1e-9))
                    if (!nearest || distance(x, tip) < distance(*nearest, tip)) nearest = x;
            }
            if (nearest) tip = *nearest;
        }
    }

    bool merge(const Row& r) {
        std::vector<Vec2> all;
        for (size_t k = 0; k < r.pieces.size(); ++k) {
            std::vector<Vec2> v = t_.pieces[r.pieces[k]].points;
            if (r.backward[k]) std::ranges::reverse(v);
            all.insert(all.end(), v.begin(), v.end());
        }
        const double tol = 1.3 * pixel_;
        const Segment line = fitLine(all);
        const Vec2 u = normalized(line.b - line.a);
        const Vec2 first = end(r, 0, false), last = end(r, r.pieces.size() - 1, true);
        double square = 0;
        bool straight = true, ring = false;
        for (Vec2 p : all) {
            const double d = std::abs(cross(u, p - line.a));
            straight = straight && d < tol, square += d * d;
        }
        std::optional<Arc> arc;
        if (!straight) {
            const auto c = fitCircleByDistance(all);
            if (!c) return false;
            ring = r.pieces.size() > 5 && distance(first, last) < kLongestGap * t_.pieces[r.pieces[0]].width;
            std::vector<Vec2> whole{first};
            whole.insert(whole.end(), all.begin(), all.end());
            whole.push_back(last);
            if (arcOn(*c, all, tol, ring)) arc = arcOn(*c, whole, 4 * tol, ring);
            if (!arc) return false;
            square = 0;
            for (Vec2 p : all) square += std::pow(distance(p, c->centre) - c->radius, 2);
        }
        TracePiece& p = t_.pieces[r.pieces.front()];
        const TracePiece& q = t_.pieces[r.pieces.back()];
        const int from = r.backward.front() ? p.to : p.from, to = r.backward.back() ? q.from : q.to;
        for (size_t k = 0; k < r.pieces.size(); ++k) {
            const TracePiece& s = t_.pieces[r.pieces[k]];
            if (k > 0)
                for (int j : s.passes) p.passes.push_back(j);
            const int first = r.backward[k] ? s.to : s.from, last = r.backward[k] ? s.from : s.to;
            if (k > 0 && first >= 0) p.passes.push_back(first);
            if (k + 1 < r.pieces.size() && last >= 0) p.passes.push_back(last);
        }
        p.from = ring ? -1 : from, p.to = ring ? -1 : to;
        if (arc)
            p.shape = *arc;
        else
            p.shape = Segment{line.a + u * dot(first - line.a, u), line.a + u * dot(last - line.a, u)};
        p.rms = std::sqrt(square / static_cast<double>(all.size()));
        p.points = std::move(all);
        return true;
    }

    TracePieces& t_;
    double pixel_;
    std::vector<LineRole> roles_;
    std::vector<DashEnd> ends_;
    std::vector<std::array<int, 2>>
        next_; ///< by piece, beyond its start and its end: piece * 2 + (by its end)
};

} // namespace

std::vector<LineRole> joinDashRows(TracePieces& t, double pixel) {
    return Rows(t, pixel).join();
}

} // namespace prism
