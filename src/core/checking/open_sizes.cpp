#include "core/checking/open_sizes.h"

#include "core/checking/closing_dimensions.h"
#include "core/figure/usual_arcs.h"
#include "core/solving/elimination.h"

#include <fmt/format.h>
#include <set>

namespace prism {
namespace {

constexpr size_t kMostEquations = 30000; ///< of figures that are looked at
constexpr double kLeast = 1e-6; ///< factors that are a smaller share of their row's largest are noise
constexpr int kDatumRow = -1;

bool drives(const LedgerEntry& e) {
    return e.state == EntryState::drives || e.state == EntryState::held;
}

/// What equations determine.
class Determined {
  public:
    /// By the structure of the figure alone; with a ledger also by its numbers and by what agrees as drawn.
    Determined(const Figure& f, const Ledger* l) : f_(f) {
        std::vector<const Equation*> rows;
        for (const Equation& e : f.equations)
            if (e.level != Level::weak || (l && agrees(e))) rows.push_back(&e);
        if (l)
            for (const LedgerEntry& e : l->entries)
                if (drives(e)) rows.push_back(&e.equation);
        std::ranges::stable_sort(rows, [](const Equation* a, const Equation* b) {
            return a->level != b->level ? a->level < b->level : a->score > b->score;
        });
        for (const Equation* e : rows) add(*e, next_++);
    }
    void add(const Equation& e, int id) { elimination_.add(id, gradientOf(e), 0, 1, nullptr, kLeast); }
    void fix(int variable) { elimination_.add(next_++, {{variable, 1}}, 0, 1, nullptr, kLeast); }
    bool has(int variable) const { return elimination_.remainder({{variable, 1}}).empty(); }
    /// The earlier rows that an equation follows from, by id; none when it does not follow.
    std::optional<std::vector<int>> follows(const Equation& e) {
        const auto row = gradientOf(e);
        if (!elimination_.remainder(row).empty()) return std::nullopt;
        std::vector<int> involved; // told of a contradiction alone, so one is made
        elimination_.add(kDatumRow, row, 1, 1e-12, &involved, kLeast);
        return involved;
    }

  private:
    /// Whether a weak equation says that something agrees as drawn; others only keep things where they are.
    bool agrees(const Equation& e) const {
        return e.owner >= 0 && f_.relations[static_cast<size_t>(e.owner)].kind != RelationKind::datum;
    }
    std::vector<Term> gradientOf(const Equation& e) const {
        std::vector<Term> r;
        evaluate(e, f_.drawn, &r);
        return r;
    }
    const Figure& f_;
    Elimination elimination_;
    int next_ = 0;
};

/// A coordinate that lines of a view have, in the order in which sizes are looked for.
struct Candidate {
    int rank; ///< the ends of the part, then centres of circles, lines across, corners, centres of arcs
    bool hidden;
    double away; ///< from the datum
    const FigureView* view;
    bool right; ///< along the view's right axis
    Vec2 point;
    int variable;
};

class Looker {
  public:
    Looker(const CheckInput& in, const LayingChoice& how)
        : in_(in), f_(in.figure), how_(how), known_(in.figure, &in.ledger) {}

    Completeness all(Progress& progress) {
        Completeness r;
        if (f_.equations.size() > kMostEquations) {
            r.left_undone = fmt::format("the figure has {} equations; no more than {} are looked at for "
                                        "open sizes",
                                        f_.equations.size(), kMostEquations);
            return r;
        }
        radii(r);
        takeDatums();
        ClosingDimensions closing(in_, how_);
        std::vector<Candidate> places = candidates();
        for (const Candidate& c : places) {
            if (progress.cancelled()) break;
            if (known_.has(c.variable)) continue;
            OpenSize o = openAt(c);
            o.variable = c.variable;
            closing.close(o, r.open.size(), c.right, c.point,
                          [&](int variable) { return known_.has(variable); });
            known_.fix(c.variable);
            r.open.push_back(std::move(o));
        }
        closing.lay(r.open);
        twice(r);
        return r;
    }

  private:
    void radii(Completeness& r) {
        for (size_t i = 0; i < f_.curves.size(); ++i) {
            const FigureCurve& c = f_.curves[i];
            const auto* a = std::get_if<Arc>(&c.drawn);
            if (!a || c.radius < 0 || c.freehand || known_.has(c.radius) || standsForAnother(f_, c)) continue;
            known_.fix(c.radius);
            OpenSize o;
            o.radius = true, o.view = c.view, o.at = a->radius, o.variable = c.radius;
            o.what = fmt::format("the {} of the {}", a->full() ? "diameter" : "radius",
                                 a->full() ? "circle" : "arc");
            for (size_t k = 0; k < f_.curves.size(); ++k)
                if (f_.curves[k].view == c.view && f_.curves[k].radius == c.radius)
                    o.lines.push_back(static_cast<int>(k));
            closeRound(in_, o, c);
            r.open.push_back(std::move(o));
        }
    }

    double datumOf(Axis axis) const {
        double lo = std::numeric_limits<double>::infinity(), hi = -lo;
        for (const Mark& m : f_.marks)
            if (m.axis == axis) lo = std::min(lo, m.value), hi = std::max(hi, m.value);
        const Datum d = how_.datum[static_cast<size_t>(axis)];
        return d == Datum::low ? lo : d == Datum::high ? hi : 0.5 * (lo + hi);
    }

    /// One place of each axis stays where it is: all others are sizes from there.
    void takeDatums() {
        for (const Axis axis : {Axis::x, Axis::y, Axis::z}) {
            datum_[static_cast<size_t>(axis)] = datumOf(axis);
            double least = std::numeric_limits<double>::infinity();
            int nearest = -1;
            const auto offer = [&](int unknown, Axis own) {
                const double away =
                    std::abs(f_.drawn[static_cast<size_t>(unknown)] - datum_[static_cast<size_t>(axis)]);
                if (own == axis && away < least) least = away, nearest = unknown;
            };
            for (const FigurePoint& p : f_.points)
                if (const FigureView& v = *f_.viewById(p.view); v.square)
                    offer(p.u, v.axes.right), offer(p.v, v.axes.up);
            if (nearest >= 0) known_.fix(nearest);
        }
    }

    std::vector<Candidate> candidates() const {
        std::set<int> derived; // points where a curve begins that follows from the shape of the part
        for (const FigureCurve& c : f_.curves)
            if (!std::holds_alternative<Segment>(c.drawn) && !std::holds_alternative<Arc>(c.drawn))
                derived.insert({c.p0, c.p1});
        std::vector<Candidate> r;
        for (size_t i = 0; i < f_.curves.size(); ++i) {
            const FigureCurve& c = f_.curves[i];
            const FigureView& v = *f_.viewById(c.view);
            const bool line = std::holds_alternative<Segment>(c.drawn);
            if (c.freehand || !v.square || v.shows == Shows::close_up) continue;
            // Where faces meet there is no size of its own.
            if ((c.onEllipse() && c.p0 >= 0) || standsForAnother(f_, c)) continue;
            for (const int p : {line ? c.p0 : -1, line ? c.p1 : -1, line ? -1 : c.centre})
                if (p >= 0 && !derived.contains(p))
                    for (const bool right : {true, false}) {
                        const Candidate k = candidate(c, p, right, v);
                        // A hidden corner of slanted lines is the point of a drill, or seen elsewhere.
                        if (k.rank != kCorner || !k.hidden) r.push_back(k);
                    }
        }
        std::ranges::stable_sort(r, [](const Candidate& a, const Candidate& b) {
            return std::tie(a.rank, a.hidden, a.away) < std::tie(b.rank, b.hidden, b.away);
        });
        return r;
    }

    static constexpr int kEnd = 0, kCircle = 1, kLine = 2, kCorner = 3, kArc = 4;

    Candidate candidate(const FigureCurve& c, int point, bool right, const FigureView& v) const {
        const auto unknown = [&](int p) {
            const FigurePoint& q = f_.points[static_cast<size_t>(p)];
            return right ? q.u : q.v;
        };
        const Vec2 at = f_.at(f_.points[static_cast<size_t>(point)], f_.drawn);
        const double value = right ? at.x : at.y, lo = right ? v.box.lo.x : v.box.lo.y,
                     hi = right ? v.box.hi.x : v.box.hi.y;
        const bool end = std::min(std::abs(value - lo), std::abs(value - hi)) <= f_.tolerances.same_model;
        int rank = kCorner;
        if (c.centre >= 0)
            rank = c.p0 < 0 ? kCircle : kArc;
        else if (unknown(c.p0) == unknown(c.p1)) // a line across has one unknown for both of its ends
            rank = end ? kEnd : kLine;
        const double datum = datum_[static_cast<size_t>(right ? v.axes.right : v.axes.up)];
        return {rank, c.role != LineRole::outline, std::abs(value - datum), &v, right, at, unknown(point)};
    }

    OpenSize openAt(const Candidate& c) const {
        OpenSize o;
        o.view = c.view->view, o.axis = c.right ? c.view->axes.right : c.view->axes.up;
        o.at = c.right ? c.point.x : c.point.y;
        constexpr std::array what{"the end", "the centre of the circle", "the line", "the corner",
                                  "the centre of the arc"};
        o.what = what[static_cast<size_t>(c.rank)];
        const Affine2 back = c.view->to_model.inverse();
        for (size_t i = 0; i < f_.curves.size(); ++i) {
            const FigureCurve& k = f_.curves[i];
            if (k.view != c.view->view) continue;
            const bool on = std::ranges::any_of(std::array{k.p0, k.p1, k.centre}, [&](int p) {
                if (p < 0) return false;
                const FigurePoint& q = f_.points[static_cast<size_t>(p)];
                return (c.right ? q.u : q.v) == c.variable;
            });
            if (on) o.lines.push_back(static_cast<int>(i));
        }
        o.places = {back(c.point)};
        return o;
    }

    /// What follows from the figure and the numbers before it. References of the sheet are meant to.
    void twice(Completeness& r) const {
        Determined d(f_, nullptr);
        constexpr int kFirst = 1 << 24; // of the numbers' rows; those of the figure count from 0
        const auto& entries = in_.ledger.entries;
        for (size_t i = 0; i < entries.size(); ++i)
            if (drives(entries[i])) d.add(entries[i].equation, kFirst + static_cast<int>(i));
        for (const LedgerEntry& e : entries) {
            if (e.state != EntryState::reports || e.reference) continue;
            const auto from = d.follows(e.equation);
            if (!from) continue;
            GivenTwice g{e.name, {}};
            for (int row : *from)
                if (row >= kFirst) g.from.push_back(entries[static_cast<size_t>(row - kFirst)].name);
            r.twice.push_back(std::move(g));
        }
    }

    const CheckInput& in_;
    const Figure& f_;
    const LayingChoice& how_;
    Determined known_;
    std::array<double, 3> datum_{};
};

} // namespace

const char* nameOf(Laying l) {
    constexpr std::array names{"baseline", "chain", "ordinate"};
    return names[static_cast<size_t>(l)];
}
const char* nameOf(Datum d) {
    constexpr std::array names{"low", "high", "middle"};
    return names[static_cast<size_t>(d)];
}

Completeness completenessOf(const CheckInput& in, const LayingChoice& how, Progress& progress) {
    return Looker(in, how).all(progress);
}

Change closingAll(const Completeness& c) {
    Change r;
    for (const OpenSize& o : c.open)
        if (o.value > 0) r.dimensions.push_back(o.closes); // else its view shows nothing to count from
    return r;
}

std::optional<std::vector<double>> movedBy(const Figure& f, const Ledger& l, const OpenSize& o, double by) {
    std::vector<Equation> system = f.equations;
    for (const LedgerEntry& e : l.entries)
        if (drives(e)) system.push_back(e.equation);
    const double now = f.now[static_cast<size_t>(o.variable)];
    system.push_back(Equation::linearOf(Level::number, {{o.variable, 1}}, now + by));
    const SolveOutcome s =
        solveFrom({static_cast<int>(system.size()) - 1}, system, f.now, f.weights, f.tolerance());
    if (!s.clashes.empty() || !s.converged) return std::nullopt;
    return s.x;
}

} // namespace prism
