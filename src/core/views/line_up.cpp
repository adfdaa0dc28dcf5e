#include "core/views/adjust.h"
#include "core/views/levels.h"
#include "core/views/stages.h"

namespace prism::views {
namespace {

/// One view's coordinates along a model axis, without its offset.
struct Line {
    View* view;
    int sheet_axis; ///< 0 right, 1 up
    std::vector<double> levels;
    double lo() const { return levels.front(); }
    double hi() const { return levels.back(); }
    double& offset() const { return sheet_axis == 0 ? view->offset.x : view->offset.y; }
};

std::vector<Line> linesAlong(const Drawing& d, const CleanSheet& s, ViewSet& set, Axis axis) {
    std::vector<Line> r;
    for (View& v : set.views) {
        if (!isPrincipal(v.role)) continue;
        const ViewAxes ax = axesOf(v.role);
        for (int k : {0, 1}) {
            if ((k == 0 ? ax.right : ax.up) != axis) continue;
            Line l{&v, k, levelsOf(d, v, k, s.tolerances.touch_sheet)};
            const double f = (k == 0 ? ax.right_sign : ax.up_sign) * v.mm_per_sheet;
            for (double& x : l.levels) x *= f;
            std::sort(l.levels.begin(), l.levels.end());
            if (!l.levels.empty()) r.push_back(std::move(l));
        }
    }
    return r;
}

/// The views that show one axis, and how they are brought together.
class AxisLines {
  public:
    AxisLines(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, ViewSet& set, Axis axis)
        : s_(s), choices_(choices), set_(set), axis_(axis), lines_(linesAlong(d, s, set, axis)) {
        std::stable_sort(lines_.begin(), lines_.end(),
                         [](const Line& a, const Line& b) { return a.view->role < b.view->role; });
        if (const auto g = choices.governing.find(axis); g != choices.governing.end())
            std::stable_partition(lines_.begin(), lines_.end(),
                                  [&](const Line& l) { return l.view->key == g->second; });
    }

    void lineUp() {
        if (lines_.empty()) return;
        set_.governing[axis_] = lines_.front().view->id;
        std::vector<double> offset;
        for (const Line& l : lines_)
            offset.push_back(
                offset.empty() ? -l.lo()
                               : bestShift(l.levels, shifted(lines_.front(), offset.front()), tolerance(l)));
        const std::vector<TieEquation> matched = matchedEquations(offset), hand = handEquations();
        const std::vector<double> by_itself = adjusted(matched, 0, offset);
        if (hand.empty())
            offset = by_itself;
        else {
            std::vector<TieEquation> all = matched;
            std::erase_if(all, [&](const TieEquation& e) { return tiedByHand(e.a, e.b, hand); });
            all.insert(all.end(), hand.begin(), hand.end());
            offset = adjusted(all, 0, offset);
        }
        tellHandTies(offset, by_itself);
        const double zero = zeroAt(offset);
        for (size_t i = 0; i < lines_.size(); ++i) {
            lines_[i].offset() = offset[i] - zero;
            for (double& x : lines_[i].levels) x += offset[i] - zero;
        }
        for (size_t i = 0; i < lines_.size(); ++i)
            for (size_t j = i + 1; j < lines_.size(); ++j)
                set_.ties.push_back(
                    tieOf(lines_[i], lines_[j], tiedByHand(static_cast<int>(i), static_cast<int>(j), hand)));
    }

  private:
    double tolerance(const Line& l) const {
        return std::max(s_.tolerances.same_model, s_.tolerances.touch_sheet * l.view->mm_per_sheet);
    }
    static std::vector<double> shifted(const Line& l, double by) {
        std::vector<double> r = l.levels;
        for (double& x : r) x += by;
        return r;
    }

    /// Coordinates that agree within the tolerance, each pair an equation.
    std::vector<TieEquation> matchedEquations(const std::vector<double>& offset) const {
        std::vector<TieEquation> r;
        for (size_t i = 0; i < lines_.size(); ++i)
            for (size_t j = i + 1; j < lines_.size(); ++j) {
                const double tol = tolerance(lines_[i]), apart = offset[i] - offset[j];
                const auto& other = lines_[j].levels;
                for (double x : lines_[i].levels) {
                    const auto it = std::lower_bound(other.begin(), other.end(), x + apart - tol);
                    if (it != other.end() && *it <= x + apart + tol)
                        r.push_back({static_cast<int>(i), static_cast<int>(j), x, *it, 1});
                }
            }
        return r;
    }

    int lineOf(const std::string& key) const {
        for (size_t i = 0; i < lines_.size(); ++i)
            if (lines_[i].view->key == key) return static_cast<int>(i);
        return -1;
    }
    /// Coordinate along the axis of a tied place, without the view's offset.
    double coordinate(const TieSide& side, const Line& l) const {
        const Affine2 here = s_.to_file.inverse();
        const ViewAxes ax = axesOf(l.view->role);
        double sum = 0;
        for (Vec2 p : side.places) sum += here(p)[l.sheet_axis];
        return sum / static_cast<double>(side.places.size()) *
               (l.sheet_axis == 0 ? ax.right_sign : ax.up_sign) * l.view->mm_per_sheet;
    }
    std::optional<TieEquation> equationOf(const HandTie& t) const {
        const int a = lineOf(t.a.view), b = lineOf(t.b.view);
        if (t.axis != axis_ || a < 0 || b < 0 || a == b || t.a.places.empty() || t.b.places.empty())
            return std::nullopt;
        // One tie by hand weighs as much as a whole view's coordinates would.
        return TieEquation{a, b, coordinate(t.a, lines_[a]), coordinate(t.b, lines_[b]), t.weight * 1000};
    }
    std::vector<TieEquation> handEquations() const {
        std::vector<TieEquation> r;
        for (const HandTie& t : choices_.ties)
            if (const auto e = equationOf(t)) r.push_back(*e);
        return r;
    }
    static bool tiedByHand(int a, int b, const std::vector<TieEquation>& hand) {
        return std::ranges::any_of(
            hand, [&](const TieEquation& e) { return (e.a == a && e.b == b) || (e.a == b && e.b == a); });
    }

    void tellHandTies(const std::vector<double>& offset, const std::vector<double>& by_itself) {
        for (size_t i = 0; i < choices_.ties.size(); ++i)
            if (const auto e = equationOf(choices_.ties[i]))
                set_.hand_ties[i] = {true, offset[e->b] + e->at_b - offset[e->a] - e->at_a,
                                     by_itself[e->b] + e->at_b - by_itself[e->a] - e->at_a};
    }

    double zeroAt(const std::vector<double>& offset) const {
        const auto z = choices_.zero.find(axis_);
        const int i = z == choices_.zero.end() || z->second.places.empty() ? -1 : lineOf(z->second.view);
        return i < 0 ? 0 : coordinate(z->second, lines_[i]) + offset[i];
    }

    Tie tieOf(const Line& a, const Line& b, bool by_hand) const {
        const double tol = tolerance(a);
        Tie t{a.view->id, b.view->id, axis_, 0, 0, 0, by_hand};
        t.matched = matches(a.levels, 0, b.levels, tol);
        t.unmatched = static_cast<int>(a.levels.size() + b.levels.size()) - t.matched -
                      matches(b.levels, 0, a.levels, tol);
        t.residual = std::max(std::abs(a.lo() - b.lo()), std::abs(a.hi() - b.hi()));
        return t;
    }

    const CleanSheet& s_;
    const ViewChoices& choices_;
    ViewSet& set_;
    Axis axis_;
    std::vector<Line> lines_;
};

} // namespace

void lineUp(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, ViewSet& set) {
    set.hand_ties.assign(choices.ties.size(), {});
    for (Axis axis : {Axis::x, Axis::y, Axis::z}) AxisLines(d, s, choices, set, axis).lineUp();
}

} // namespace prism::views
