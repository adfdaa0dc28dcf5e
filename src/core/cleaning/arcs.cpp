#include "core/base/ellipse_fit.h"
#include "core/base/simpler_curve.h"
#include "core/cleaning/workbench.h"

// Arcs, circles and ellipses that came as chains of short chords, and free-form curves that follow one.
namespace prism::cleaning {
namespace {

constexpr int kFewestChords = 8;
constexpr int kFewestOfEllipse = 12;         ///< five numbers make an ellipse: few chords fit one by chance
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
    Chains(const Workbench& w, const Web& web)
        : w_(w), pieces_(web.pieces), nodes_(web.nodes), used_(web.pieces.size(), false) {}

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
        const auto both = nodes_.ends(node);
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
    const Nodes& nodes_;
    std::vector<bool> used_;
    size_t at_ = 0;
};

struct Span {
    size_t from, chords; ///< first vertex and number of chords
    Curve curve;
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

/// The smooth run of chords of much the same length that starts at vertex `from`: how many.
size_t smoothRun(const Chain& c, size_t from) {
    constexpr double kMostUneven = 1.6; ///< from one chord to the next
    const size_t n = c.points.size(), last = c.closed ? from + n : n - 1;
    const auto at = [&](size_t i) { return c.points[i % n]; };
    if (from + 2 > last) return 0;
    const double turn = turnAt(at(from), at(from + 1), at(from + 2));
    size_t to = from + 1;
    while (to < last && goesOn(at(to - 1), at(to), at(to + 1), turn)) {
        const double before = distance(at(to - 1), at(to)), next = distance(at(to), at(to + 1));
        if (std::max(before, next) > kMostUneven * std::min(before, next)) break;
        ++to;
    }
    return to - from;
}

/// The ellipse that a smooth run of chords stands for.
std::optional<Span> ellipseFrom(const Chain& c, size_t from, size_t chords, double tolerance) {
    if (chords < kFewestOfEllipse) return std::nullopt;
    std::vector<Vec2> v;
    for (size_t i = from; i <= from + chords; ++i) v.push_back(c.points[i % c.points.size()]);
    auto e = ellipseOn(v, tolerance);
    if (!e || std::abs(e->sweep) < kLeastSweep) return std::nullopt;
    if (c.closed && chords == c.points.size()) e->sweep = std::copysign(2 * kPi, e->sweep);
    return Span{from, chords, *e};
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
    const auto* arc = std::get_if<Arc>(&s.curve);
    const double size = arc ? arc->radius : length(std::get<EllipseArc>(s.curve).major);
    if (!w.record("arc_recovered", entities, pointAt(s.curve, 0.5), size)) return;
    for (const auto& [entity, indices] : gone) edits[entity].gone.insert(indices.begin(), indices.end());
    edits[entities.front()].added.push_back(s.curve);
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
    const auto web = w.web();
    const std::vector<Piece>& pieces = web->pieces;
    Chains chains(w, *web);
    Edits edits;
    const double tolerance = w.touch();
    for (Chain c = chains.next(); !c.pieces.empty(); c = chains.next()) {
        if (c.pieces.size() < kFewestChords) continue;
        size_t smooth_to = 0; // a run is tried as an ellipse once
        for (size_t i = 0; i + 1 < c.points.size();) {
            auto s = spanFrom(c, i, tolerance);
            if (const size_t run = s || i < smooth_to ? 0 : smoothRun(c, i)) {
                s = ellipseFrom(c, i, run, tolerance);
                smooth_to = i + run;
            }
            if (s) plan(w, pieces, c, *s, edits);
            i += s ? s->chords : 1;
        }
    }
    carryOut(w, edits);
}

/// What a free-form curve, or an ellipse as wide as it is long, is drawn for.
std::optional<Curve> plainer(const Curve& c, double touch) {
    if (const auto* s = std::get_if<Spline>(&c)) return simplerCurve(*s, touch);
    if (const auto* e = std::get_if<EllipseArc>(&c)) return roundOf(*e, touch);
    return std::nullopt;
}

void plainCurves(Workbench& w) {
    for (const Piece& p : w.pieces()) {
        const auto c = plainer(w.curve(p), w.touch());
        if (c && w.record("spline_arc", {p.entity}, pointAt(*c, 0.5), lengthOf(*c))) w.setCurve(p, *c);
    }
}

} // namespace

void recoverArcs(Workbench& w) {
    plainCurves(w);
    chordArcs(w);
}

} // namespace prism::cleaning
