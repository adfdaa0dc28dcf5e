#include "core/proposing/cell_steps.h"

#include "core/proposing/mark_bounds.h"

#include <fmt/format.h>
#include <set>

namespace prism {
namespace {

/// What air that has to be cut away again costs against material gained: a cut is one more step, no more.
constexpr double kSurplusPrice = 0.2;

/// Share of a column, and of the solid, that may have come out either way.
constexpr double kNegligible = 2e-3;

/// A column: one area of a view, drawn through space. What its cells are along the depth axis.
struct Column {
    int map, area;
    std::vector<double> cuts;         ///< depths at which something changes, sorted
    std::vector<std::set<int>> cells; ///< by slab between cuts
    std::vector<bool> outside;        ///< slab reaches where another view shows nothing
};

/// A run of slabs of a column, to be added or cut away.
struct Run {
    const Column* column;
    size_t from, to; ///< slabs, inclusive
    double lo() const { return column->cuts[from]; }
    double hi() const { return column->cuts[to + 1]; }
};

class Cover {
  public:
    Cover(const Figure& f, ProductCells& model, const CellFill& fill, Progress& progress)
        : f_(f), model_(model), fill_(fill), progress_(progress) {
        for (size_t k = 0; k < model.maps().size(); ++k)
            for (size_t a = 0; a < model.maps()[k].areas().size() && goesOn(); ++a)
                columns_.push_back(columnOf(static_cast<int>(k), static_cast<int>(a)));
        if (goesOn()) complete();
    }
    /// Whether everything was looked at.
    bool whole() const { return work_ < kMostWork; }

    std::vector<Step> steps() {
        constexpr int kAttempts = 3;
        std::vector<Step> r;
        for (int i = 0; i < kAttempts; ++i) {
            std::vector<Run> adds, cuts;
            std::set<int> surplus;
            if (!goesOn() || !addUp(adds, surplus)) return r;
            const bool whole = cutAway(surplus, cuts);
            if (!whole && !negligible(surplus)) return r;
            r.clear();
            write(adds, Operation::add, r);
            write(cuts, Operation::cut, r);
            if (whole) return r;
            // What no cut can take away must not be added.
            uncuttable_.insert(surplus.begin(), surplus.end());
        }
        return r;
    }

    /// Cuts alone, which take away what is air.
    std::vector<Step> cuts() {
        std::set<int> surplus;
        for (const auto& [c, w] : weight_)
            if (air(c)) surplus.insert(c);
        std::vector<Run> cuts;
        std::vector<Step> r;
        if (goesOn() && (cutAway(surplus, cuts) || negligible(surplus))) write(cuts, Operation::cut, r);
        return r;
    }

  private:
    /// Lines of sight and cells looked at, in all. Counted, so that the outcome does not hang on the machine.
    static constexpr long kMostWork = 12'000'000;
    bool goesOn() const { return work_ < kMostWork && !progress_.cancelled(); }

    Fill fill(int c) const {
        const auto [it, fresh] = known_.try_emplace(c, Fill::either);
        if (fresh) it->second = fill_(c);
        return it->second;
    }
    bool solid(int c) const { return fill(c) == Fill::material; }
    bool air(int c) const { return fill(c) == Fill::air; }
    double weight(int c) const { return weight_.at(c); }
    /// Of cells so small that hardly a line of sight meets them either is as good to the views; whether the
    /// solid is right without them is for the proof to say.
    bool negligible(const std::set<int>& cells) const {
        double sum = 0, all = 0;
        for (int c : cells) sum += weight(c);
        for (const auto& [c, w] : weight_) all += solid(c) ? w : 0;
        return sum <= kNegligible * all;
    }

    template <class F> void forEachCell(const Run& r, F f) const {
        for (size_t s = r.from; s <= r.to; ++s) {
            work_ += static_cast<long>(r.column->cells[s].size());
            for (int c : r.column->cells[s]) f(c);
        }
    }

    /// Places well inside the area, one for every patch between the sheet's coordinates.
    std::vector<std::pair<Vec2, double>> places(int map, int area) const {
        const ViewMap& m = model_.maps()[map];
        const Box2 box = m.areas()[area].box;
        auto within = [&](Axis axis, double lo, double hi) {
            std::vector<double> v{lo};
            for (double x : model_.levels(axis))
                if (x > lo + 1e-3 && x < hi - 1e-3) v.push_back(x);
            v.push_back(hi);
            return v;
        };
        const auto u = within(m.view().axes.right, box.lo.x, box.hi.x),
                   w = within(m.view().axes.up, box.lo.y, box.hi.y);
        std::vector<std::pair<Vec2, double>> r;
        for (size_t i = 0; i + 1 < u.size(); ++i)
            for (size_t j = 0; j + 1 < w.size(); ++j)
                for (Vec2 t : {Vec2{0.5, 0.5}, Vec2{0.07, 0.11}, Vec2{0.92, 0.08}, Vec2{0.06, 0.94},
                               Vec2{0.93, 0.91}}) {
                    const Vec2 p{u[i] + t.x * (u[i + 1] - u[i]), w[j] + t.y * (w[j + 1] - w[j])};
                    if (m.areaAt(p) == area) r.emplace_back(p, (u[i + 1] - u[i]) * (w[j + 1] - w[j]) / 5);
                }
        r.emplace_back(m.areas()[area].seed, 1e-6);
        return r;
    }

    /// A small cell may be met by the lines of sight of one view alone; it lies in the columns of the others'
    /// areas all the same.
    void complete() {
        std::map<std::pair<int, int>, Column*> by_area;
        for (Column& c : columns_) by_area[{c.map, c.area}] = &c;
        for (const auto& [cell, w] : weight_) {
            const std::vector<int> areas = model_.areasOf(cell);
            for (size_t k = 0; k < areas.size(); ++k) {
                const auto it = by_area.find({static_cast<int>(k), areas[k]});
                if (it == by_area.end()) continue;
                Column& c = *it->second;
                const int slab = model_.intervalOf(cell, model_.maps()[k].view().axes.depth);
                if (slab >= 0 && slab < static_cast<int>(c.cells.size()))
                    c.cells[static_cast<size_t>(slab)].insert(cell);
            }
        }
    }

    Column columnOf(int map, int area) {
        Column c{map, area, {}, {}, {}};
        std::vector<std::pair<Ray, double>> rays;
        for (const auto& [p, patch] : places(map, area)) {
            if (!goesOn()) return c;
            work_ += kWorkOfRay;
            rays.emplace_back(model_.ray(map, p), patch);
        }
        // Depths at which material may begin or end: the sheet's coordinates. Curved ends lie between them.
        const Axis depth = model_.maps()[map].view().axes.depth;
        c.cuts = model_.levels(depth);
        if (c.cuts.size() < 2) return c;
        c.cells.resize(c.cuts.size() - 1);
        c.outside.resize(c.cuts.size() - 1, false);
        for (const auto& [ray, patch] : rays) {
            if (!goesOn()) return c;
            for (size_t i = 0; i < ray.cells.size(); ++i) {
                const double a = i == 0 ? c.cuts.front() : ray.breaks[i - 1],
                             b = i < ray.breaks.size() ? ray.breaks[i] : c.cuts.back();
                pass(c, ray.cells[i], a, b, patch);
            }
        }
        return c;
    }

    /// A line of sight of a column runs through a cell from one depth to another.
    void pass(Column& c, int cell, double from, double to, double patch) {
        const auto first = std::ranges::upper_bound(c.cuts, from);
        for (auto s = static_cast<size_t>(std::max<long>(0, first - c.cuts.begin() - 1));
             s + 1 < c.cuts.size() && c.cuts[s] < to; ++s) {
            ++work_;
            const double lo = c.cuts[s], hi = c.cuts[s + 1], through = std::min(hi, to) - std::max(lo, from);
            if (through <= 1e-3 * (hi - lo)) continue;
            if (cell < 0) {
                c.outside[s] = true;
                continue;
            }
            c.cells[s].insert(cell);
            weight_[cell] += patch * through;
        }
    }

    /// Runs of slabs in which every slab satisfies `fits`.
    template <class Fits> std::vector<Run> runs(Fits fits) const {
        std::vector<Run> r;
        for (const Column& c : columns_)
            for (size_t s = 0; s < c.cells.size(); ++s) {
                if (!fits(c, s)) continue;
                size_t e = s;
                while (e + 1 < c.cells.size() && fits(c, e + 1)) ++e;
                r.push_back({&c, s, e});
                s = e;
            }
        return r;
    }

    bool addsUncuttable(const Column& c, size_t s) const {
        return std::ranges::any_of(c.cells[s], [&](int k) { return uncuttable_.contains(k); });
    }

    std::optional<Run> bestAdd(const std::set<int>& missing, const std::set<int>& surplus) const {
        auto pure = [&](const Column& c, size_t s) {
            return !c.outside[s] && !c.cells[s].empty() &&
                   std::none_of(c.cells[s].begin(), c.cells[s].end(), [&](int k) { return air(k); });
        };
        auto mixed = [&](const Column& c, size_t s) {
            return !c.outside[s] && !addsUncuttable(c, s) &&
                   std::any_of(c.cells[s].begin(), c.cells[s].end(), [&](int k) { return solid(k); });
        };
        std::optional<Run> best;
        double most = 0;
        auto consider = [&](const Run& r) {
            double wanted = 0, over = 0;
            std::set<int> once;
            forEachCell(r, [&](int c) {
                if (!once.insert(c).second) return;
                if (missing.contains(c)) wanted += weight(c);
                if (air(c) && !surplus.contains(c)) over += weight(c);
            });
            const double gain = wanted - kSurplusPrice * over;
            if (wanted > 0 && (!best || gain > most + 1e-9 * std::abs(most))) most = gain, best = r;
        };
        for (const Run& r : runs(pure)) consider(r);
        for (const Run& r : runs(mixed)) consider(r);
        return best;
    }

    std::optional<Run> bestCut(const std::set<int>& surplus) const {
        auto airOnly = [&](const Column& c, size_t s) {
            double kept = 0, all = 0;
            for (int k : c.cells[s]) (solid(k) ? kept : all) += weight(k);
            return kept <= kNegligible * all;
        };
        std::optional<Run> best;
        double most = 0;
        for (const Run& r : runs(airOnly)) {
            double gain = 0;
            std::set<int> once;
            forEachCell(r, [&](int c) {
                if (once.insert(c).second && surplus.contains(c)) gain += weight(c) + 1e-9;
            });
            if (gain > most * (1 + 1e-9)) most = gain, best = r;
        }
        return best;
    }

    /// Runs that hold all the material, and the air that they add with it.
    bool addUp(std::vector<Run>& adds, std::set<int>& surplus) const {
        std::set<int> missing;
        for (const auto& [c, w] : weight_)
            if (solid(c)) missing.insert(c);
        while (!missing.empty()) {
            if (!goesOn()) return false;
            const auto best = bestAdd(missing, surplus);
            if (!best) return negligible(missing);
            forEachCell(*best, [&](int c) {
                missing.erase(c);
                if (air(c)) surplus.insert(c);
            });
            adds.push_back(*best);
        }
        return true;
    }

    /// Whether all of them can be cut away; else those are left that cannot.
    bool cutAway(std::set<int>& surplus, std::vector<Run>& cuts) const {
        while (!surplus.empty()) {
            if (!goesOn()) return false;
            const auto best = bestCut(surplus);
            if (!best) return false;
            forEachCell(*best, [&](int c) { surplus.erase(c); });
            cuts.push_back(*best);
        }
        return true;
    }

    std::optional<Bound> boundAt(const Run& r, double depth) const {
        const ViewMap& map = model_.maps()[r.column->map];
        return markAtDepth(f_, map.view(), depth, 2 * oneLevel(model_.maps()),
                           map.areas()[r.column->area].box);
    }

    void write(const std::vector<Run>& runs, Operation o, std::vector<Step>& out) const {
        std::map<std::tuple<int, double, double>, size_t> known;
        for (const Run& r : runs) {
            const ViewMap& m = model_.maps()[r.column->map];
            const Vec2 seed = m.areas()[r.column->area].seed;
            const auto [it, fresh] =
                known.emplace(std::make_tuple(r.column->map, r.lo(), r.hi()), out.size());
            if (!fresh) {
                out[it->second].areas.push_back(seed);
                continue;
            }
            Step s;
            s.operation = o, s.view = m.view().name, s.areas = {seed};
            const bool low = r.from == 0, high = r.to + 2 == r.column->cuts.size();
            s.reach = low && high ? Reach::through : Reach::between;
            if (s.reach == Reach::between) {
                if (const auto b = low ? std::nullopt : boundAt(r, r.lo())) s.from = *b;
                if (const auto b = high ? std::nullopt : boundAt(r, r.hi())) s.to = *b;
            }
            out.push_back(std::move(s));
        }
    }

    const Figure& f_;
    ProductCells& model_;
    const CellFill& fill_;
    Progress& progress_;
    mutable long work_ = 0;
    static constexpr long kWorkOfRay = 20; ///< a line of sight against a look at a cell
    mutable std::map<int, Fill> known_;
    std::map<int, double> weight_; ///< about the volume of each cell, as seen from all views
    std::vector<Column> columns_;
    std::set<int> uncuttable_;
};

} // namespace

namespace {

StepsFound found(const Cover& cover, std::vector<Step> steps) {
    StepsFound r{std::move(steps), {}};
    if (!cover.whole())
        r.left_undone = "the material that the views agree on was not turned into steps: too many cells";
    return r;
}

} // namespace

StepsFound stepsFor(const Figure& f, ProductCells& model, const CellFill& fill, Progress& progress) {
    Cover cover(f, model, fill, progress);
    std::vector<Step> steps = cover.steps();
    return found(cover, std::move(steps));
}

StepsFound stepsForPieces(const Figure& f, ProductCells& pieces, bool gridded, ProductCells& fine,
                          const std::vector<Fill>& fills, Progress& progress) {
    const auto fill = [&](int cell) {
        const int piece = gridded ? cell : pieces.find(fine.areasOf(cell));
        return piece < 0 || piece >= static_cast<int>(fills.size()) ? Fill::either
                                                                    : fills[static_cast<size_t>(piece)];
    };
    return stepsFor(f, gridded ? pieces : fine, fill, progress);
}

StepsFound cutsFor(const Figure& f, ProductCells& model, const CellFill& fill, Progress& progress) {
    Cover cover(f, model, fill, progress);
    std::vector<Step> steps = cover.cuts();
    return found(cover, std::move(steps));
}

namespace {

/// Whether areas fill their box.
bool fillBox(const std::vector<ClosedArea>& areas) {
    constexpr double kSame = 1e-9;
    Box2 box;
    double sum = 0;
    for (const ClosedArea& a : areas) box.add(a.box), sum += a.area;
    return !areas.empty() && sum >= box.width() * box.height() * (1 - kSame);
}

} // namespace

Step withinOutline(const FigureView& v, const std::vector<ClosedArea>& areas) {
    Step s;
    s.operation = Operation::intersect, s.view = v.name, s.reach = Reach::through;
    for (const ClosedArea& a : areas) s.areas.push_back(a.seed);
    s.name = fmt::format("{} outline", nameOf(v.name));
    return s;
}

std::vector<Step> outlinesIntersected(const Figure& f, const std::vector<ClosedArea>& areas) {
    std::vector<const FigureView*> kept = f.principalViews();
    const auto of = [&](const FigureView* v) {
        std::vector<ClosedArea> r;
        std::ranges::copy_if(areas, std::back_inserter(r),
                             [&](const ClosedArea& a) { return a.view == v->view; });
        return r;
    };
    std::erase_if(kept, [&](const FigureView* v) { return of(v).empty(); });
    for (size_t i = kept.size(); i-- > 0;) {
        const auto bounded = [&](Axis a) {
            return std::ranges::any_of(kept, [&](const FigureView* o) {
                return o != kept[i] && (o->axes.right == a || o->axes.up == a);
            });
        };
        if (bounded(kept[i]->axes.right) && bounded(kept[i]->axes.up) && fillBox(of(kept[i])))
            kept.erase(kept.begin() + static_cast<long>(i));
    }
    std::vector<Step> r;
    for (const FigureView* v : kept) {
        r.push_back(withinOutline(*v, of(v)));
        if (r.size() == 1) r.back().operation = Operation::add;
    }
    return r;
}

} // namespace prism
