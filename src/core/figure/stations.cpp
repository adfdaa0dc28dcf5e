#include "core/figure/builder.h"

#include <numeric>
#include <span>

// Marks of several views at one value are one place on its axis: which of them belong together, and how
// surely.
namespace prism::figure {
namespace {

/// Of two views, marks that have more of the other's beside them are tied to so many of these only, those
/// that a third view speaks for first: all with all would be the square of a row of equal features.
constexpr size_t kMostTies = 8;

/// Places of a view that a third view may show a corner at: ends, and the outermost places of arcs and
/// circles.
std::vector<Vec2> cornersOf(const Figure& f, int view) {
    std::vector<Vec2> r;
    for (const FigureCurve& c : f.curves) {
        if (c.view != view || c.freehand) continue;
        if (c.p0 >= 0) r.push_back(startOf(c.drawn)), r.push_back(endOf(c.drawn));
        const Box2 b = boxOf(c.drawn);
        if (c.radius >= 0)
            for (double x : {b.lo.x, b.centre().x, b.hi.x})
                for (double y : {b.lo.y, b.centre().y, b.hi.y}) r.push_back({x, y});
    }
    return r;
}

/// The corners of one view, to be asked for those at one coordinate.
class Corners {
  public:
    Corners(const std::vector<Vec2>& places, double tolerance) : tolerance_(tolerance) {
        for (int k : {0, 1}) {
            std::vector<Vec2> sorted = places;
            std::ranges::sort(sorted, {}, [&](Vec2 p) { return p[k]; });
            std::vector<Line>& lines = lines_[k];
            for (Vec2 p : sorted) {
                if (lines.empty() || p[k] - lines.back().at > tolerance) lines.push_back({p[k], {}});
                lines.back().others.push_back(p[1 - k]);
            }
            for (Line& l : lines) {
                std::ranges::sort(l.others);
                l.others.erase(std::unique(l.others.begin(), l.others.end(),
                                           [&](double x, double y) { return y - x <= tolerance; }),
                               l.others.end());
            }
        }
    }
    /// The other coordinates, sorted, of the corners whose right (0) or up (1) coordinate is this.
    std::span<const double> at(int k, double value) const {
        const auto it = std::ranges::lower_bound(lines_[k], value - tolerance_, {}, &Line::at);
        if (it != lines_[k].end() && it->at <= value + tolerance_) return it->others;
        return {};
    }

  private:
    struct Line {
        double at;
        std::vector<double> others;
    };
    double tolerance_;
    std::array<std::vector<Line>, 2> lines_;
};

Axis otherAxis(const FigureView& v, Axis a) {
    return v.axes.right == a ? v.axes.up : v.axes.right;
}

void joinMarks(Figure& f, const Mark& a, const Mark& b, Level level, double score) {
    std::vector<Term> terms = a.terms;
    for (const Term& t : b.terms) terms.push_back({t.variable, -t.factor});
    Equation e = Equation::linearOf(level, terms);
    if (e.terms.empty()) return;
    e.score = score;
    e.owner = static_cast<int>(f.relations.size());
    Relation r{RelationKind::station, {}, a.axis, a.value};
    for (int c : {a.curve, b.curve})
        if (c >= 0) r.curves.push_back(c);
    f.relations.push_back(std::move(r));
    f.equations.push_back(std::move(e));
}

/// Two marks of two views at one value, and how strongly a third view says that they are one feature: corners
/// where both coordinates meet.
struct Pair {
    int a, b; ///< positions in the cluster, a before b
    int votes;
};

/// The marks of one view in a cluster.
struct Side {
    const FigureView* view;
    std::vector<int> members;                   ///< positions in the cluster
    std::vector<std::pair<double, int>> beside; ///< their other coordinates and whose they are, sorted
};

class Cluster {
  public:
    Cluster(Figure& f, const std::map<int, Corners>& corners, const std::vector<int>& marks)
        : f_(f), corners_(corners), marks_(marks) {
        std::map<int, Side> sides;
        for (size_t i = 0; i < marks.size(); ++i) {
            const Mark& m = f.marks[marks[i]];
            Side& s = sides[m.view];
            s.view = f.viewById(m.view);
            s.members.push_back(static_cast<int>(i));
            for (double o : m.others) s.beside.emplace_back(o, static_cast<int>(i));
        }
        for (auto& [view, s] : sides) {
            std::ranges::sort(s.beside);
            sides_.push_back(std::move(s));
        }
    }

    void join() {
        for (size_t i = 0; i < sides_.size(); ++i)
            for (size_t j = i + 1; j < sides_.size(); ++j) pairUp(sides_[i], sides_[j]);
        std::ranges::sort(pairs_, {}, [](const Pair& p) { return std::pair(p.a, p.b); });
        std::map<int, int> edges; // by view: marks that neighbours see
        for (const Side& s : sides_)
            edges[s.view->view] =
                static_cast<int>(std::ranges::count_if(s.members, [&](int m) { return !mark(m).smooth; }));
        for (const Pair& p : pairs_) {
            const Mark &a = mark(p.a), &b = mark(p.b);
            if (a.smooth == b.smooth)
                joinMarks(f_, a, b, surely(p) ? Level::strong : Level::weak, 10 + p.votes);
            else if (edges[(a.smooth ? a : b).view] ==
                     0) // an edge of one view, where the other has none to show
                joinMarks(f_, a, b, Level::weak, 4);
        }
        joinWithinViews();
    }

  private:
    /// Most votes of one mark among those of another view, and how many reach them.
    struct Best {
        int votes = 0, ties = 0;
        void take(int v) {
            if (v > votes)
                votes = v, ties = 1;
            else if (v == votes)
                ++ties;
        }
    };

    const Mark& mark(int position) const { return f_.marks[marks_[position]]; }

    bool surely(const Pair& p) const {
        const int va = mark(p.a).view, vb = mark(p.b).view;
        if (alone_.contains({va, vb})) return true;
        if (p.votes == 0) return false;
        const Best &a = best_.at({p.a, vb}), &b = best_.at({p.b, va});
        return a.votes == p.votes && b.votes == p.votes && a.ties == 1 && b.ties == 1;
    }

    /// Who of `there` belongs to a mark of `here`, by the votes of the other views.
    std::map<int, int> votesOf(int m, const Side& here, const Side& there) const {
        std::map<int, int> votes;
        const Axis axis = mark(m).axis;
        if (!isModelAxis(axis)) return votes; // no third view shows the own axis of an auxiliary view
        const Axis mine = otherAxis(*here.view, axis), theirs = otherAxis(*there.view, axis);
        if (mine == theirs) { // opposite views: the same outline from behind
            agree(mark(m).others, there, votes);
            return votes;
        }
        for (const FigureView& v : f_.views) {
            const bool right = v.axes.right == mine && v.axes.up == theirs,
                       up = v.axes.right == theirs && v.axes.up == mine;
            if (!right && !up) continue;
            for (double o : mark(m).others) agree(corners_.at(v.view).at(right ? 0 : 1, o), there, votes);
        }
        return votes;
    }

    /// Votes for those of a side that have one of these coordinates (sorted) beside them; goes through the
    /// fewer of both.
    void agree(std::span<const double> values, const Side& side, std::map<int, int>& votes) const {
        const double tol = f_.tolerances.same_model;
        if (values.size() > side.beside.size()) {
            for (const auto& [beside, whose] : side.beside)
                if (const auto it = std::ranges::lower_bound(values, beside - tol);
                    it != values.end() && *it <= beside + tol)
                    ++votes[whose];
            return;
        }
        for (double value : values) {
            int last = -1;
            for (auto it =
                     std::ranges::lower_bound(side.beside, value - tol, {}, &std::pair<double, int>::first);
                 it != side.beside.end() && it->first <= value + tol; ++it)
                if (it->second != last) ++votes[last = it->second];
        }
    }

    void pairUp(const Side& one, const Side& other) {
        if (one.members.size() == 1 && other.members.size() == 1)
            alone_.insert({one.view->view, other.view->view}),
                alone_.insert({other.view->view, one.view->view});
        const bool few = std::max(one.members.size(), other.members.size()) <= kMostTies;
        std::map<std::pair<int, int>, int> kept;              // by members of one and of other
        std::map<int, std::vector<std::pair<int, int>>> back; // by member of the other: less votes, who
        for (int a : one.members) {
            const std::map<int, int> votes = votesOf(a, one, other);
            std::vector<std::pair<int, int>> of_a;
            for (int b : few ? other.members : std::vector<int>{}) kept[{a, b}] = 0;
            for (const auto& [b, v] : votes) {
                best_[{a, other.view->view}].take(v), best_[{b, one.view->view}].take(v);
                of_a.emplace_back(-v, b), back[b].emplace_back(-v, a);
                if (few) kept[{a, b}] = v;
            }
            if (!few) keepFew(of_a, other, [&](int b, int v) { kept[{a, b}] = v; });
        }
        if (!few)
            for (int b : other.members) keepFew(back[b], one, [&](int a, int v) { kept[{a, b}] = v; });
        for (const auto& [who, v] : kept)
            pairs_.push_back({std::min(who.first, who.second), std::max(who.first, who.second), v});
    }

    /// The first few by votes; where nobody votes, the first mark of that side stands for all.
    static void keepFew(std::vector<std::pair<int, int>>& by_votes, const Side& side,
                        const std::function<void(int, int)>& keep) {
        std::ranges::sort(by_votes);
        if (by_votes.empty()) keep(side.members.front(), 0);
        for (size_t i = 0; i < std::min(by_votes.size(), kMostTies); ++i)
            keep(by_votes[i].second, -by_votes[i].first);
    }

    /// Within a view it is mere agreement, the weakest.
    void joinWithinViews() {
        std::map<std::pair<int, bool>, int> first;
        for (int m : marks_) {
            const auto [it, fresh] = first.emplace(std::pair(f_.marks[m].view, f_.marks[m].smooth), m);
            if (!fresh) joinMarks(f_, f_.marks[it->second], f_.marks[m], Level::weak, 1);
        }
    }

    Figure& f_;
    const std::map<int, Corners>& corners_;
    const std::vector<int>& marks_;
    std::vector<Side> sides_;
    std::set<std::pair<int, int>> alone_;      ///< pairs of views that have one mark each here
    std::map<std::pair<int, int>, Best> best_; ///< by mark and other view
    std::vector<Pair> pairs_;
};

} // namespace

void joinStations(Figure& f, Progress& progress) {
    std::map<int, Corners> corners;
    for (const FigureView& v : f.views)
        corners.emplace(v.view, Corners(cornersOf(f, v.view), f.tolerances.same_model));
    std::vector<int> order(f.marks.size());
    std::iota(order.begin(), order.end(), 0);
    std::ranges::sort(order, {}, [&](int m) { return std::tuple(f.marks[m].axis, f.marks[m].value, m); });
    for (size_t i = 0; i < order.size() && !progress.cancelled();) {
        const Mark& first = f.marks[order[i]];
        std::vector<int> cluster;
        for (; i < order.size() && f.marks[order[i]].axis == first.axis &&
               f.marks[order[i]].value - first.value <= f.tolerances.same_model;
             ++i)
            cluster.push_back(order[i]);
        Cluster(f, corners, cluster).join();
    }
}

} // namespace prism::figure
