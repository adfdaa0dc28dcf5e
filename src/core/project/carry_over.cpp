#include "core/project/carry_over.h"

#include "core/base/between.h"
#include "core/project/carry_views.h"

#include <fmt/format.h>

namespace prism {
namespace {

/// What a line or dimension has become. Those added by hand follow those of the sheet, in the same order.
int counterpart(const std::vector<int>& after_of, int id, size_t afterSize) {
    if (id < static_cast<int>(after_of.size())) return after_of[static_cast<size_t>(id)];
    return static_cast<int>(afterSize + static_cast<size_t>(id) - after_of.size());
}

Names keysOf(const Drawing& before, const Drawing& after, const SheetDifference& d) {
    Names r;
    for (const Entity& e : before.entities)
        if (const int a = d.after_of[e.id]; a >= 0) r[keyOf(e)] = keyOf(after.entities[a]);
    return r;
}

/// Ledger names, old to new, by the dimensions they come from.
Names numbersOf(const Model& before, const Model& after, const SheetDifference& d) {
    Names r;
    for (const LedgerEntry& e : before.ledger.entries)
        for (const LedgerEntry& n : after.drawn_ledger.entries)
            if (e.dimension >= 0 && counterpart(d.dimension_after_of, e.dimension,
                                                after.source->dimensions.size()) == n.dimension)
                r[e.name] = n.name;
    return r;
}

/// Corrections of dimensions in the names of another reading. One whose text has been revised since is
/// dropped: the sheet speaks for itself again.
std::vector<MarkedDimension> correctedIn(const MarkUp& m, const Drawing& before, const Drawing& after,
                                         const SheetDifference& d, std::vector<std::string>& misfits) {
    std::vector<MarkedDimension> r;
    for (MarkedDimension x : m.corrected) {
        const auto was =
            std::ranges::find_if(before.dimensions, [&](const Dimension& o) { return keyOf(o) == x.target; });
        const int now = was == before.dimensions.end()
                            ? -1
                            : counterpart(d.dimension_after_of, was->id, after.dimensions.size());
        if (now < 0) {
            misfits.push_back(fmt::format("The dimension {} that was corrected is gone", x.target));
            continue;
        }
        const Dimension& is = after.dimensions[static_cast<size_t>(now)];
        if (x.text && is.text != was->text) {
            misfits.push_back(fmt::format("The text {} that was corrected reads {} now; it is taken as it is",
                                          was->text, is.text));
            x.text.reset();
        }
        x.target = keyOf(is);
        if (x.text || x.lies) r.push_back(std::move(x));
    }
    return r;
}

void carryNumbers(const NumberChoices& was, const Names& names, NumberChoices& now,
                  std::vector<std::string>& misfits) {
    now.clear();
    for (const auto& [name, choice] : was) {
        if (choice == NumberChoice{}) continue;
        const auto it = names.find(name);
        if (it == names.end()) {
            misfits.push_back(
                fmt::format("{} has no dimension any more; its value or formula is dropped", name));
            continue;
        }
        NumberChoice c = choice;
        bool whole = true;
        for (const std::string& used : namesIn(c.formula)) whole = whole && names.contains(used);
        if (!whole) {
            misfits.push_back(
                fmt::format("The formula of {} uses a number that is gone: {}", name, c.formula));
            continue;
        }
        c.formula = withNames(c.formula, names);
        now[it->second] = c;
    }
}

/// Moves the places of steps along with the lines they were picked by.
class Places {
  public:
    Places(const Model& before, const Model& after, const SheetDifference& d)
        : before_(before), after_(after), d_(d), areas_before_(before.areas.drawn),
          areas_after_(after.areas.drawn) {
        for (size_t i = 0; i < after.drawn.curves.size(); ++i)
            curve_after_[after.drawn.curves[i].entity].push_back(static_cast<int>(i));
        for (const FigureView& v : before.drawn.views)
            if (v.square) gatherStops(v);
    }

    /// A point in the area that the most of the old area's border has become; none when less than half has.
    std::optional<Vec2> area(const ViewName& view, Vec2 seed) const {
        const FigureView *v = before_.drawn.viewNamed(view), *w = after_.drawn.viewNamed(view);
        if (!v || !w) return std::nullopt;
        for (const ClosedArea& a : areas_before_)
            if (a.view == v->view && a.contains(seed)) return areaAfter(a, w->view);
        return std::nullopt;
    }

    /// The place of the line that the mark was picked on: the same end, middle or centre of its counterpart.
    std::optional<Vec2> mark(const ViewName& view, Vec2 at) const {
        const FigureView *v = before_.drawn.viewNamed(view), *w = after_.drawn.viewNamed(view);
        if (!v || !w) return std::nullopt;
        double nearest = std::numeric_limits<double>::infinity();
        std::optional<Vec2> found;
        for (const FigureCurve& c : before_.drawn.curves) {
            const FigureCurve* n = c.view == v->view ? curveAfter(c) : nullptr;
            if (!n) continue;
            const auto from = anchorsOf(c.drawn), to = anchorsOf(n->drawn);
            for (size_t k = 0; k < std::min(from.size(), to.size()); ++k)
                if (const double far = distance(from[k], at); far < nearest)
                    nearest = far, found = at + (to[k] - from[k]);
        }
        return found;
    }

    /// A place beside lines of a view goes with those on both sides of it.
    Vec2 beside(const ViewName& view, Vec2 at) const {
        const FigureView* v = before_.drawn.viewNamed(view);
        return v && v->square ? Vec2{carried(v->axes.right, at.x), carried(v->axes.up, at.y)} : at;
    }

    /// A place in space goes with the lines beside it along each axis.
    Vec3 space(Vec3 at) const {
        return {carried(Axis::x, at.x), carried(Axis::y, at.y), carried(Axis::z, at.z)};
    }

  private:
    /// Where the ends and centres of a view's lines have gone along its axes.
    void gatherStops(const FigureView& v) {
        for (const FigureCurve& c : before_.drawn.curves) {
            const FigureCurve* n = c.view == v.view ? curveAfter(c) : nullptr;
            if (!n) continue;
            const auto from = anchorsOf(c.drawn), to = anchorsOf(n->drawn);
            for (size_t k = 0; k < std::min(from.size(), to.size()); ++k) {
                ++stops_[v.axes.right][from[k].x][to[k].x];
                ++stops_[v.axes.up][from[k].y][to[k].y];
            }
        }
    }

    double carried(Axis axis, double at) const {
        const auto stops = stops_.find(axis);
        if (stops == stops_.end()) return at;
        Between r(at);
        for (const auto& [from, to] : stops->second)
            r.stop(from, std::ranges::max_element(to, {}, [](const auto& t) { return t.second; })->first);
        return r.carried();
    }

    /// What a line has become; null when it is gone.
    const FigureCurve* curveAfter(const FigureCurve& c) const {
        const int a = after(c.entity);
        const auto it = a < 0 ? curve_after_.end() : curve_after_.find(a);
        return it == curve_after_.end() ? nullptr
                                        : &after_.drawn.curves[static_cast<size_t>(it->second.front())];
    }

    int after(int entity) const { return counterpart(d_.after_of, entity, after_.source->entities.size()); }

    std::set<int> entitiesOf(const ClosedArea& a, const Figure& f) const {
        std::set<int> r;
        for (int c : a.bounds) r.insert(f.curves[c].entity);
        return r;
    }

    std::optional<Vec2> areaAfter(const ClosedArea& old, int view) const {
        std::set<int> wanted;
        for (int e : entitiesOf(old, before_.drawn))
            if (after(e) >= 0) wanted.insert(after(e));
        double best = 0.5;
        std::optional<Vec2> seed;
        for (const ClosedArea& a : areas_after_) {
            if (a.view != view) continue;
            const std::set<int> have = entitiesOf(a, after_.drawn);
            std::vector<int> common;
            std::set_intersection(wanted.begin(), wanted.end(), have.begin(), have.end(),
                                  std::back_inserter(common));
            const double all = static_cast<double>(wanted.size() + have.size() - common.size());
            if (all > 0 && static_cast<double>(common.size()) / all > best)
                best = static_cast<double>(common.size()) / all, seed = a.seed;
        }
        return seed;
    }

    const Model &before_, &after_;
    const SheetDifference& d_;
    std::vector<ClosedArea> areas_before_, areas_after_;
    std::map<int, std::vector<int>> curve_after_;
    /// By axis and place before: the places after, and how many ends and centres went there.
    std::map<Axis, std::map<double, std::map<double, int>>> stops_;
};

void carryStep(Step& s, const Places& places, std::vector<std::string>& misfits) {
    auto carry = [&](Vec2& p, const std::optional<Vec2>& to, const char* what) {
        if (to)
            p = *to;
        else
            misfits.push_back(fmt::format("Step \"{}\": {} in the {} view is not found again", s.name, what,
                                          nameOf(s.view)));
    };
    for (Vec2& p : s.areas) carry(p, places.area(s.view, p), "an area picked");
    if (lies(s)) // nothing need stand on its axis
        s.axis.at = places.beside(s.axis.view, s.axis.at);
    for (Vec2& p : s.places)
        carry(p, lies(s) ? places.beside(s.view, p) : places.mark(s.view, p),
              s.kind == StepKind::hole ? "a centre" : "a line picked");
    for (Vec2& p : s.sharp) carry(p, places.mark(s.view, p), "an arc whose corner is left sharp");
    for (const auto& [mark, what] : marksOf(s)) carry(mark->at, places.mark(mark->view, mark->at), what);
    if (s.kind == StepKind::wall || s.kind == StepKind::rib || s.kind == StepKind::slope)
        s.side = places.beside(s.view, s.side);
    for (Vec3* p : spacesOf(s)) *p = places.space(*p);
}

} // namespace

MarkUp carriedMarks(const MarkUp& m, const Drawing& before, const Drawing& after, const SheetDifference& d,
                    std::vector<std::string>& misfits) {
    const Names keys = keysOf(before, after, d);
    MarkUp r;
    r.dimensions = m.dimensions;
    for (MarkedLine l : m.lines) {
        const bool own = l.target.starts_with('+');
        const auto it = keys.find(l.target);
        if (!own && it == keys.end()) {
            misfits.push_back(fmt::format("The line {} that was marked up is gone", l.target));
            continue;
        }
        if (!own) l.target = it->second;
        r.lines.push_back(std::move(l));
    }
    r.corrected = correctedIn(m, before, after, d, misfits);
    return r;
}

Choices carriedOver(const Choices& choices, const Model& before, const Model& after, const SheetDifference& d,
                    const MarkUp& after_marks, std::vector<std::string>& misfits) {
    Choices c = choices;
    c.marks = after_marks;
    Names keys = keysOf(*before.source, *after.source, d);
    for (const MarkedLine& l : after_marks.lines)
        if (l.kind == MarkedLine::Kind::add) keys[l.target] = l.target;
    carryViews(choices.views, keys, before, after, d, c.views, misfits);
    c.repairs.off.clear();
    for (const std::string& key : choices.repairs.off) {
        const size_t colon = key.find(':');
        const auto it = colon == std::string::npos ? keys.end() : keys.find(key.substr(colon + 1));
        c.repairs.off.insert(it == keys.end() ? key : key.substr(0, colon + 1) + it->second);
    }
    Names numbers = numbersOf(before, after, d);
    for (const PartLevel& l : c.levels) numbers[l.name] = l.name;
    carryNumbers(choices.numbers, numbers, c.numbers, misfits);
    const Places places(before, after, d);
    for (PartLevel& l : c.levels)
        if (const auto at = places.mark(l.mark.view, l.mark.at))
            l.mark.at = *at;
        else
            misfits.push_back(fmt::format("Level {}: what it was picked on is not found again", l.name));
    for (std::vector<Step>* list : {&c.steps, &c.facts})
        for (Step& s : *list) carryStep(s, places, misfits);
    return c;
}

} // namespace prism
