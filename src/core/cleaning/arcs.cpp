#include "core/cleaning/circle_fit.h"
#include "core/cleaning/workbench.h"

// Arcs and circles that came as chains of short chords, and splines that follow an arc or a line.
namespace prism::repairing {
namespace {

constexpr int kFewestChords = 8;
constexpr double kSharpest = 25 * kPi / 180; ///< turn from one chord to the next
constexpr double kLeastSweep = kPi / 6;      ///< flatter bows fit too many curves

/// A chain of straight pieces, vertex by vertex; closed chains repeat no vertex.
struct Chain {
    std::vector<int> pieces; ///< pieces[i] runs from points[i] to points[i + 1]
    std::vector<Vec2> points;
    bool closed = false;
};

/// Walks along straight pieces through nodes where just two of them meet.
class Chains {
  public:
    Chains(const Workbench& w, const std::vector<Piece>& pieces)
        : w_(w), pieces_(pieces), nodes_(w, pieces), used_(pieces.size(), false) {}

    /// The next chain; empty when there are no more.
    Chain next() {
        for (; at_ < pieces_.size(); ++at_)
            if (!used_[at_] && straight(static_cast<int>(at_))) return from(static_cast<int>(at_));
        return {};
    }

  private:
    bool straight(int piece) const { return std::holds_alternative<Segment>(w_.curve(pieces_[piece])); }

    /// The straight piece that goes on from this end, -1 for none.
    End onwards(End e) const {
        const int node = nodes_.node(e);
        if (node < 0 || nodes_.ends(node).size() != 2) return {-1, 0};
        const auto& both = nodes_.ends(node);
        const End other = both[0].piece == e.piece && both[0].side == e.side ? both[1] : both[0];
        if (other.piece == e.piece || !straight(other.piece) ||
            w_.role(pieces_[other.piece]) != w_.role(pieces_[e.piece]))
            return {-1, 0};
        return {other.piece, 1 - other.side}; // the far end of the next piece
    }

    Chain from(int start) {
        End back{start, 0};
        for (End e = onwards(back); e.piece >= 0 && e.piece != start; e = onwards(e)) back = e;
        Chain c;
        End e{back.piece, back.piece == start && back.side == 0 ? 1 : 1 - back.side};
        c.points.push_back(nodes_.at(nodes_.node({e.piece, 1 - e.side})));
        while (e.piece >= 0 && !used_[e.piece]) {
            used_[e.piece] = true;
            c.pieces.push_back(e.piece);
            c.points.push_back(nodes_.at(nodes_.node(e)));
            e = onwards(e);
        }
        c.closed = e.piece >= 0 && e.piece == c.pieces.front() && c.pieces.size() > 2;
        if (c.closed) c.points.pop_back();
        return c;
    }

    const Workbench& w_;
    const std::vector<Piece>& pieces_;
    Nodes nodes_;
    std::vector<bool> used_;
    size_t at_ = 0;
};

struct Span {
    size_t from, chords; ///< first vertex and number of chords
    Arc arc;
};

/// Signed turn at vertex b.
double turnAt(Vec2 a, Vec2 b, Vec2 c) {
    return std::atan2(cross(b - a, c - b), dot(b - a, c - b));
}

/// Whether going on from the chord a-b to c still looks like the same arc.
bool goesOn(Vec2 a, Vec2 b, Vec2 c, double turn) {
    const double t = turnAt(a, b, c);
    if (std::abs(t) > kSharpest || std::abs(t) < 1e-5 || (t > 0) != (turn > 0)) return false;
    return true;
}

/// Chords of one arc have one length, the cut-off first and last excepted.
bool evenChords(const std::vector<Vec2>& p, size_t from, size_t chords) {
    double least = std::numeric_limits<double>::infinity(), most = 0;
    for (size_t i = from + 1; i + 1 < from + chords; ++i) {
        const double l = distance(p[i % p.size()], p[(i + 1) % p.size()]);
        least = std::min(least, l), most = std::max(most, l);
    }
    return most <= 1.5 * least;
}

/// The arc of a circle along points that lie on it within the tolerance; none when one does not.
std::optional<Arc> arcOn(const Circle& circle, const std::vector<Vec2>& v, double tolerance, bool closed) {
    for (Vec2 p : v)
        if (std::abs(distance(p, circle.centre) - circle.radius) > tolerance) return std::nullopt;
    Arc a{circle.centre, circle.radius, 0, 2 * kPi};
    if (closed) return a;
    a.start = angleOf(v.front() - a.centre);
    a.sweep = 0;
    for (size_t i = 1; i < v.size(); ++i)
        a.sweep += std::atan2(cross(v[i - 1] - a.centre, v[i] - a.centre),
                              dot(v[i - 1] - a.centre, v[i] - a.centre));
    return a;
}

/// Longest arc that starts at vertex `from`; its chords grow while the fit holds.
std::optional<Span> spanFrom(const Chain& c, size_t from, double tolerance) {
    const size_t n = c.points.size(), last = c.closed ? from + n : n - 1;
    auto at = [&](size_t i) { return c.points[i % n]; };
    if (from + 2 > last) return std::nullopt;
    const double turn = turnAt(at(from), at(from + 1), at(from + 2));
    size_t to = from + 1;
    while (to < last && goesOn(at(to - 1), at(to), at(to + 1), turn)) ++to;
    const size_t reach = to;
    auto fitted = [&]() -> std::optional<Arc> {
        std::vector<Vec2> v;
        for (size_t i = from; i <= to; ++i) v.push_back(at(i));
        const bool whole = c.closed && to - from == n;
        if (whole) v.pop_back();
        const auto circle = evenChords(c.points, from, to - from) ? fitCircle(v) : std::nullopt;
        const auto arc = circle ? arcOn(*circle, v, tolerance, whole) : std::nullopt;
        return arc && std::abs(arc->sweep) >= kLeastSweep ? arc : std::nullopt;
    };
    // A fit over too much fails: shorten by steps, then win back vertex by vertex what still fits.
    for (; to - from >= kFewestChords; to -= std::max<size_t>(1, (to - from) / 8)) {
        auto best = fitted();
        if (!best) continue;
        size_t end = to;
        for (++to; to <= reach; ++to)
            if (const auto more = fitted())
                best = more, end = to;
            else
                break;
        return Span{from, end - from, *best};
    }
    return std::nullopt;
}

/// What is to change in one entity.
struct Edit {
    std::set<int> gone; ///< curve indices
    std::vector<Curve> added;
};
using Edits = std::map<int, Edit>;

void plan(Workbench& w, const std::vector<Piece>& pieces, const Chain& c, const Span& s, Edits& edits) {
    std::map<int, std::set<int>> gone;
    for (size_t i = s.from; i < s.from + s.chords; ++i) {
        const Piece& p = pieces[c.pieces[i % c.pieces.size()]];
        gone[p.entity].insert(p.index);
    }
    std::vector<int> entities;
    for (const auto& [entity, indices] : gone) entities.push_back(entity);
    if (!w.record("arc_recovered", entities, pointAt(s.arc, 0.5), s.arc.radius)) return;
    for (const auto& [entity, indices] : gone) edits[entity].gone.insert(indices.begin(), indices.end());
    edits[entities.front()].added.push_back(s.arc);
}

void carryOut(Workbench& w, const Edits& edits) {
    for (const auto& [entity, edit] : edits) {
        std::vector<Curve> kept;
        const auto& curves = w.drawing().entities[entity].curves;
        for (size_t i = 0; i < curves.size(); ++i)
            if (!edit.gone.contains(static_cast<int>(i))) kept.push_back(curves[i]);
        kept.insert(kept.end(), edit.added.begin(), edit.added.end());
        if (kept.empty())
            w.setAside(entity);
        else
            w.setCurves(entity, std::move(kept));
    }
}

void chordArcs(Workbench& w) {
    const std::vector<Piece> pieces = w.pieces();
    Chains chains(w, pieces);
    Edits edits;
    const double tolerance = w.touch();
    for (Chain c = chains.next(); !c.pieces.empty(); c = chains.next()) {
        if (c.pieces.size() < kFewestChords) continue;
        for (size_t i = 0; i + 1 < c.points.size();) {
            const auto s = spanFrom(c, i, tolerance);
            if (s) plan(w, pieces, c, *s, edits);
            i += s ? s->chords : 1;
        }
    }
    carryOut(w, edits);
}

std::vector<Vec2> alongSpline(const Spline& s) {
    std::vector<Vec2> v;
    for (int i = 0; i <= 48; ++i) v.push_back(pointAt(s, i / 48.0));
    return v;
}

/// Parameters in [0, 1] where the spans of a spline meet, its ends included.
std::vector<double> spanEnds(const Spline& s) {
    const double from = s.knots[s.degree], to = s.knots[s.poles.size()];
    std::vector<double> r;
    for (size_t i = s.degree; i <= s.poles.size(); ++i)
        if (const double t = (s.knots[i] - from) / (to - from); r.empty() || t > r.back() + 1e-9)
            r.push_back(t);
    return r;
}

/// Cubics drawn for an arc lie on it where their spans meet, and stray from it by up to 2.7e-4 of the radius
/// between, if no span turns more than a quarter. A single span has its end tangents along the arc.
std::optional<Circle> circleThroughSpans(const Spline& s, double touch) {
    std::vector<Vec2> joints;
    for (double t : spanEnds(s)) joints.push_back(pointAt(s, t));
    if (joints.size() > 2 && distance(joints.front(), joints.back()) <= touch) joints.pop_back();
    if (joints.size() > 2) return fitCircle(joints);
    const Vec2 p = joints.front(), q = joints.back(), u = normalized(s.poles[1] - s.poles[0]),
               v = normalized(s.poles.back() - s.poles[s.poles.size() - 2]), n{-u.y, u.x};
    if (std::abs(cross(u, v)) < 1e-3) return std::nullopt;
    const Vec2 c = p + n * (dot(q - p, v) / dot(n, v)); // the normals at both ends cross in the centre
    if (std::abs(distance(c, p) - distance(c, q)) > touch) return std::nullopt;
    return Circle{c, distance(c, p)};
}

/// The arc, circle or line that a spline follows.
std::optional<Curve> simpler(const Spline& s, double touch) {
    std::vector<Vec2> v = alongSpline(s);
    const bool closed = distance(v.front(), v.back()) <= touch;
    const Segment chord{v.front(), v.back()};
    if (!closed && std::all_of(v.begin(), v.end(), [&](Vec2 p) { return distanceTo(chord, p) <= touch; }))
        return chord;
    if (closed) v.pop_back();
    auto bowed = [&](const Circle& c) { return c.radius < 20 * lengthOf(s); }; // flatter ones are left alone
    if (const auto c = fitCircle(v); c && bowed(*c))
        if (const auto arc = arcOn(*c, v, touch, closed)) return *arc;
    // Elsewhere than at its joints another curve strays to either side; these cubics only outwards.
    if (const auto c = circleThroughSpans(s, touch);
        c && bowed(*c) &&
        std::all_of(v.begin(), v.end(), [&](Vec2 p) { return distance(p, c->centre) > c->radius - touch; }))
        if (const auto arc = arcOn(*c, v, 3e-4 * c->radius, closed)) return *arc;
    return std::nullopt;
}

void splineArcs(Workbench& w) {
    for (const Piece& p : w.pieces()) {
        const auto* s = std::get_if<Spline>(&w.curve(p));
        if (!s) continue;
        const auto c = simpler(*s, w.touch());
        if (c && w.record("spline_arc", {p.entity}, pointAt(*c, 0.5), lengthOf(*c))) w.setCurve(p, *c);
    }
}

} // namespace

void recoverArcs(Workbench& w) {
    splineArcs(w);
    chordArcs(w);
}

} // namespace prism::repairing
