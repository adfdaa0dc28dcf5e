#include "core/tracing/pieces.h"

#include "core/base/groups.h"
#include "core/base/simpler_curve.h"
#include "core/tracing/fits.h"

namespace prism {
namespace {

class Cutter {
  public:
    Cutter(const Stroke& s, const Affine2& to_sheet, double pixel, TracePieces& out)
        : stroke_(s), pixel_(pixel), out_(out) {
        for (Vec2 p : s.points) at_.push_back(to_sheet(p));
        sure_ = s.sure;
    }

    void cut(int component) {
        const int n = static_cast<int>(at_.size());
        if (stroke_.closed) {
            if (const auto f = arcFit(at_, true); f && f->most < 1.6 * pixel_ + tolerance()) {
                add(0, n - 1, f->shape, -1, -1, component, at_);
                return;
            }
            turnToCorner();
        }
        std::vector<int> corners = simplified(0, n - 1);
        const std::vector<std::pair<int, bool>> best = cheapest(corners); // where from, and whether an arc
        std::vector<int> ends;
        for (int i = static_cast<int>(corners.size()) - 1; i > 0; i = best[i].first) ends.push_back(i);
        std::ranges::reverse(ends);
        int from = 0, joint = stroke_.from;
        const int first = stroke_.closed ? addJoint(at_[0]) : -1;
        if (stroke_.closed) joint = first;
        for (int i : ends) {
            const bool last = i == ends.back();
            const int next = last ? (stroke_.closed ? first : stroke_.to) : addJoint(at_[corners[i]]);
            const std::vector<Vec2> inner = within(corners[from], corners[i]);
            const Curve shape = best[i].second ? arcFit(inner, false)->shape : lineFit(inner).shape;
            add(corners[from], corners[i], shape, joint, next, component, inner);
            from = i, joint = next;
        }
    }

  private:
    double tolerance() const { return 0.9 * pixel_; }
    int addJoint(Vec2 p) {
        out_.joints.push_back(p);
        return static_cast<int>(out_.joints.size()) - 1;
    }

    /// A closed stroke begins where it turns most.
    void turnToCorner() {
        const int n = static_cast<int>(at_.size()), k = std::min(8, n / 4);
        int best = 0;
        double most = -1;
        for (int i = 0; i < n; ++i) {
            const Vec2 a = normalized(at_[i] - at_[(i - k + n) % n]),
                       b = normalized(at_[(i + k) % n] - at_[i]);
            if (const double turn = std::abs(cross(a, b)) + (dot(a, b) < 0 ? 1 : 0); turn > most)
                most = turn, best = i;
        }
        std::rotate(at_.begin(), at_.begin() + best, at_.end());
        std::rotate(sure_.begin(), sure_.begin() + best, sure_.end());
        at_.push_back(at_.front());
        sure_.push_back(sure_.front());
    }

    /// Douglas & Peucker 1973; indices kept, ends included.
    std::vector<int> simplified(int first, int last) const {
        std::vector<int> keep{first, last};
        std::vector<std::pair<int, int>> open{{first, last}};
        while (!open.empty()) {
            const auto [a, b] = open.back();
            open.pop_back();
            double most = 0.7 * pixel_;
            int at = -1;
            const Segment chord{at_[a], at_[b]};
            const bool loop = distance(chord.a, chord.b) < 2 * pixel_;
            for (int i = a + 1; i < b; ++i) {
                const double d = loop ? distance(at_[i], chord.a) : distanceTo(chord, at_[i]);
                if (d > most) most = d, at = i;
            }
            if (at < 0) continue;
            keep.push_back(at);
            open.emplace_back(a, at), open.emplace_back(at, b);
        }
        std::ranges::sort(keep);
        return keep;
    }

    /// The sure points of a part, without those at its ends, where ink of two pieces runs together; all
    /// points when that leaves too few.
    std::vector<Vec2> within(int a, int b) const {
        std::vector<Vec2> r;
        const int trim = std::min(static_cast<int>(0.7 * stroke_.width + 1), (b - a) / 5);
        for (int i = a + trim; i <= b - trim; ++i)
            if (sure_[i]) r.push_back(at_[i]);
        if (r.size() >= 4) return r;
        r.assign(at_.begin() + a, at_.begin() + b + 1);
        return r;
    }

    std::vector<std::pair<int, bool>> cheapest(const std::vector<int>& corners) const {
        const int n = static_cast<int>(corners.size());
        std::vector<double> cost(static_cast<size_t>(n), std::numeric_limits<double>::infinity());
        std::vector<std::pair<int, bool>> from(static_cast<size_t>(n), {0, false});
        cost[0] = 0;
        for (int i = 0; i + 1 < n; ++i)
            for (int j = i + 1, misses = 0; j < n && misses < 6; ++j) {
                const std::vector<Vec2> inner = within(corners[i], corners[j]);
                const Fit line = lineFit(inner);
                const auto arc = j > i + 1 ? arcFit(inner, false) : std::nullopt;
                const bool straight = j == i + 1 || line.most < tolerance();
                const bool round =
                    arc && arc->most < tolerance() && bowOf(std::get<Arc>(arc->shape)) > tolerance();
                if (!straight && !round) {
                    ++misses;
                    continue;
                }
                misses = 0;
                auto offer = [&](double c, bool is_arc) {
                    if (cost[i] + c < cost[j]) cost[j] = cost[i] + c, from[j] = {i, is_arc};
                };
                if (straight) offer(1 + 0.3 * line.rms / tolerance(), false);
                if (round) offer(1.4 + 0.3 * arc->rms / tolerance(), true);
            }
        return from;
    }

    void add(int a, int b, Curve shape, int from, int to, int component, std::vector<Vec2> points) {
        TracePiece p;
        if (auto* s = std::get_if<Segment>(&shape)) { // as far as the stroke goes, not only its sure part
            const Vec2 u = normalized(s->b - s->a);
            const double t0 = dot(at_[a] - s->a, u), t1 = dot(at_[b] - s->a, u);
            *s = {s->a + u * t0, s->a + u * t1};
        } else if (auto& c = std::get<Arc>(shape); !c.full()) {
            std::vector<Vec2> all{at_[a]};
            all.insert(all.end(), points.begin(), points.end());
            all.push_back(at_[b]);
            if (const auto whole = arcOn({c.centre, c.radius}, all, 1e30, false)) c = *whole;
        }
        p.points = std::move(points);
        p.rms = fitOf(shape, p.points).rms;
        p.shape = shape, p.from = from, p.to = to, p.component = component;
        p.width = stroke_.width * pixel_;
        out_.pieces.push_back(std::move(p));
    }

    const Stroke& stroke_;
    double pixel_;
    TracePieces& out_;
    std::vector<Vec2> at_;
    std::vector<bool> sure_;
};

/// Joins pieces that go on in each other across a joint.
class Joiner {
  public:
    Joiner(TracePieces& t, double pixel) : t_(t), pixel_(pixel), gone_(t.pieces.size(), false) {
        ends_.resize(t.joints.size());
        for (int i = 0; i < static_cast<int>(t.pieces.size()); ++i) hang(i);
    }
    void join(Progress& progress) {
        for (bool again = true; again && !progress.cancelled();) {
            again = false;
            for (int j = 0; j < static_cast<int>(ends_.size()); ++j)
                while (joinAt(j)) again = true;
        }
        std::vector<TracePiece> left;
        for (size_t i = 0; i < t_.pieces.size(); ++i)
            if (!gone_[i]) left.push_back(std::move(t_.pieces[i]));
        t_.pieces = std::move(left);
    }

  private:
    void hang(int i) {
        const TracePiece& p = t_.pieces[i];
        if (p.from >= 0) ends_[p.from].push_back(i);
        if (p.to >= 0) ends_[p.to].push_back(i);
    }

    /// The points with the joint's end last.
    std::vector<Vec2> towards(const TracePiece& p, int joint) const {
        std::vector<Vec2> v = p.points;
        if (p.to != joint) std::ranges::reverse(v);
        return v;
    }
    Vec2 directionAt(const TracePiece& p, int joint) const {
        return p.to == joint ? tangentAt(p.shape, 1) : -tangentAt(p.shape, 0);
    }

    bool joinAt(int joint) {
        const std::vector<int> here = ends_[joint];
        double best = std::numeric_limits<double>::infinity();
        int one = -1, other = -1;
        Fit shape;
        for (size_t a = 0; a < here.size(); ++a)
            for (size_t b = a + 1; b < here.size(); ++b) {
                const TracePiece &p = t_.pieces[here[a]], &q = t_.pieces[here[b]];
                if (here[a] == here[b]) continue;
                const bool lines =
                    std::holds_alternative<Segment>(p.shape) && std::holds_alternative<Segment>(q.shape);
                // They must go straight on; short pieces have no sure direction.
                const double turn = dot(directionAt(p, joint), -directionAt(q, joint));
                const double shortest = std::min(lengthOf(p.shape), lengthOf(q.shape));
                if (turn < (shortest < 8 * std::max(p.width, pixel_) ? 0.5 : 0.9)) continue;
                if (std::max(p.width, q.width) > 1.9 * std::min(p.width, q.width)) continue;
                std::vector<Vec2> both = towards(p, joint), more = towards(q, joint);
                both.insert(both.end(), more.rbegin(), more.rend());
                const auto f = fitJoined(both, false, lines, pixel_);
                if (f && f->rms < best) best = f->rms, one = here[a], other = here[b], shape = *f;
            }
        if (one < 0) return closeAt(joint);
        TracePiece p = t_.pieces[one];
        const TracePiece q = t_.pieces[other];
        unhang(one), unhang(other);
        std::vector<Vec2> both = towards(p, joint), more = towards(q, joint);
        both.insert(both.end(), more.rbegin(), more.rend());
        const double l = lengthOf(p.shape), k = lengthOf(q.shape);
        TracePiece r;
        r.from = p.to == joint ? p.from : p.to;
        r.to = q.to == joint ? q.from : q.to;
        const Vec2 a = p.to == joint ? startOf(p.shape) : endOf(p.shape),
                   b = q.to == joint ? startOf(q.shape) : endOf(q.shape);
        r.points = std::move(both);
        r.shape = alongShape(shape.shape, a, r.points, b);
        r.width = (p.width * l + q.width * k) / (l + k);
        r.rms = shape.rms, r.component = p.component;
        r.passes = p.passes;
        r.passes.insert(r.passes.end(), q.passes.begin(), q.passes.end());
        r.passes.push_back(joint);
        t_.pieces[one] = std::move(r);
        gone_[other] = true;
        hang(one);
        return true;
    }

    /// An arc that comes back to where it began is a circle.
    bool closeAt(int joint) {
        for (int i : ends_[joint]) {
            TracePiece& p = t_.pieces[i];
            if (p.from != joint || p.to != joint || !std::holds_alternative<Arc>(p.shape)) continue;
            const auto f = fitJoined(p.points, true, false, pixel_);
            if (!f || std::abs(std::get<Arc>(p.shape).sweep) < 1.7 * kPi) continue;
            unhang(i);
            TracePiece& r = t_.pieces[i];
            r.shape = f->shape, r.rms = f->rms, r.from = r.to = -1;
            r.passes.push_back(joint);
            return true;
        }
        return false;
    }
    void unhang(int i) {
        for (int j : {t_.pieces[i].from, t_.pieces[i].to})
            if (j >= 0) std::erase(ends_[j], i);
    }

    TracePieces& t_;
    double pixel_;
    std::vector<bool> gone_;
    std::vector<std::vector<int>> ends_; ///< by joint: pieces that end there
};

} // namespace

TracePieces piecesOf(const Strokes& strokes, const Affine2& to_sheet, double pixel, Progress& progress) {
    TracePieces t;
    for (Vec2 n : strokes.nodes) t.joints.push_back(to_sheet(n));
    // What hangs together in the ink.
    const int n = static_cast<int>(strokes.strokes.size());
    Groups groups(strokes.nodes.size() + strokes.strokes.size());
    const int base = static_cast<int>(strokes.nodes.size());
    for (int i = 0; i < n; ++i)
        for (int end : {strokes.strokes[i].from, strokes.strokes[i].to})
            if (end >= 0) groups.join(end, base + i);
    for (int i = 0; i < n && !progress.cancelled(); ++i)
        if (strokes.strokes[i].points.size() >= 3)
            Cutter(strokes.strokes[i], to_sheet, pixel, t).cut(groups.find(base + i));
    Joiner(t, pixel).join(progress);
    return t;
}

} // namespace prism
