#include "core/project/carry_over.h"

#include <fmt/format.h>
#include <regex>

namespace prism {
namespace {

using Names = std::map<std::string, std::string>; ///< old to new; only what has a counterpart

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

std::vector<Vec2> anchorsOf(const Curve& c) {
    std::vector<Vec2> r{startOf(c), endOf(c), pointAt(c, 0.5)};
    if (const auto* a = std::get_if<Arc>(&c)) r.push_back(a->centre);
    return r;
}

/// Places of the sheet that were picked on lines: they go where their lines went. Coordinates of the file.
class MovedPlaces {
  public:
    MovedPlaces(const Drawing& before, const Drawing& after, const SheetDifference& d)
        : tolerance_(2e-6 * before.box().diagonal()) {
        for (const Entity& e : before.entities) {
            const int a = d.after_of[e.id];
            if (a < 0 || after.entities[a].curves.size() != e.curves.size()) continue;
            for (size_t k = 0; k < e.curves.size(); ++k) {
                const auto from = anchorsOf(e.curves[k]), to = anchorsOf(after.entities[a].curves[k]);
                for (size_t i = 0; i < std::min(from.size(), to.size()); ++i)
                    places_.push_back({from[i], to[i]});
            }
        }
    }
    Vec2 operator()(Vec2 p) const {
        double nearest = tolerance_;
        Vec2 now = p;
        for (const auto& [from, to] : places_)
            if (const double away = distance(from, p); away <= nearest) nearest = away, now = to;
        return now;
    }
    void move(TieSide& side) const {
        for (Vec2& p : side.places) p = (*this)(p);
    }

  private:
    double tolerance_;
    std::vector<std::pair<Vec2, Vec2>> places_; ///< before, after
};

/// Turns the key of a view into the one it has now; false when the view is not there any more.
struct FoundViews {
    const Names& keys;
    const Model& after;
    const std::set<std::string>& made; ///< keys of views gathered by hand, which stay
    bool operator()(std::string& key) const {
        if (made.contains(key)) return after.views.withKey(key) != nullptr;
        const auto it = keys.find(key);
        if (it == keys.end() || !after.views.withKey(it->second)) return false;
        key = it->second;
        return true;
    }
};

/// What is said of single views, by their keys: kept where the view is found again.
template <class Value>
std::map<std::string, Value> carried(const std::map<std::string, Value>& was, const FoundViews& found,
                                     const char* what, std::vector<std::string>& misfits) {
    std::map<std::string, Value> now;
    for (const auto& [before, value] : was) {
        std::string key = before;
        if (found(key))
            now[key] = value;
        else
            misfits.push_back(fmt::format("{}: the view is not found", what));
    }
    return now;
}

/// Names, fold lines, locks and which view is used.
void carryStanding(const ViewChoices& was, const FoundViews& found, const MovedPlaces& moved,
                   ViewChoices& now, std::vector<std::string>& misfits) {
    now.names = carried(was.names, found, "A view's name", misfits);
    now.fold_gap = carried(was.fold_gap, found, "A fold line that was moved", misfits);
    now.hung.clear(), now.used.clear(), now.locked.clear();
    for (auto [key, h] : carried(was.hung, found, "A view hung by hand", misfits)) {
        h.from = moved(h.from), h.to = moved(h.to);
        if (found(h.on))
            now.hung[key] = h;
        else
            misfits.push_back("A view hung by hand: the view it hangs on is not found");
    }
    for (auto [role, key] : was.used)
        if (found(key)) now.used[role] = key;
    for (std::string key : was.locked)
        if (found(key)) now.locked.insert(key);
}

/// Ties, governing views and zeros whose views are found again; their places go with the lines
/// that they were picked on.
void carryTies(const ViewChoices& was, const FoundViews& found, const MovedPlaces& moved, ViewChoices& now,
               std::vector<std::string>& misfits) {
    now.ties.clear(), now.governing.clear(), now.zero.clear();
    for (HandTie t : was.ties) {
        moved.move(t.a), moved.move(t.b);
        if (found(t.a.view) && found(t.b.view))
            now.ties.push_back(std::move(t));
        else
            misfits.push_back(
                fmt::format("A tie by hand along {}: a view of it is not found", nameOf(t.axis)));
    }
    for (auto [axis, key] : was.governing)
        if (found(key))
            now.governing[axis] = key;
        else
            misfits.push_back(fmt::format("The view that governs {} is not found", nameOf(axis)));
    for (auto [axis, side] : was.zero) {
        moved.move(side);
        if (found(side.view))
            now.zero[axis] = side;
        else
            misfits.push_back(fmt::format("The view with the zero of {} is not found", nameOf(axis)));
    }
}

void carryViews(const ViewChoices& was, const Names& keys, const MovedPlaces& moved, const Model& after,
                ViewChoices& now, std::vector<std::string>& misfits) {
    now.roles.clear();
    now.moved.clear();
    const FoundViews found{keys, after, was.made};
    for (const auto& [before, role] : was.roles) {
        std::string key = before;
        if (found(key))
            now.roles[key] = role;
        else
            misfits.push_back(
                fmt::format("The view that was said to be the {} view is not found", nameOf(role)));
    }
    int lost = 0;
    for (const auto& [line, view] : was.moved) {
        const auto l = keys.find(line), v = keys.find(view);
        const bool stays = view.empty() || was.made.contains(view);
        if (l == keys.end() || (!stays && v == keys.end()))
            ++lost;
        else
            now.moved[l->second] = stays ? view : v->second;
    }
    if (lost > 0) misfits.push_back(fmt::format("{} lines that were moved between views are gone", lost));
    carryTies(was, found, moved, now, misfits);
    carryStanding(was, found, moved, now, misfits);
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

/// A formula with its names exchanged all at once.
std::string renamed(const std::string& formula, const Names& names) {
    static const std::regex word(R"([A-Za-z_][A-Za-z0-9_]*)");
    std::string r;
    size_t at = 0;
    for (std::sregex_iterator it(formula.begin(), formula.end(), word), end; it != end; ++it) {
        r += formula.substr(at, static_cast<size_t>(it->position()) - at);
        const auto n = names.find(it->str());
        r += n == names.end() ? it->str() : n->second;
        at = static_cast<size_t>(it->position() + it->length());
    }
    return r + formula.substr(at);
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
        c.formula = renamed(c.formula, names);
        now[it->second] = c;
    }
}

/// Moves the places of steps along with the lines they were picked by.
class Places {
  public:
    Places(const Model& before, const Model& after, const SheetDifference& d)
        : before_(before), after_(after), d_(d), areas_before_(closedAreas(before.drawn, before.drawn.drawn)),
          areas_after_(closedAreas(after.drawn, after.drawn.drawn)) {
        for (size_t i = 0; i < after.drawn.curves.size(); ++i)
            curve_after_[after.drawn.curves[i].entity].push_back(static_cast<int>(i));
    }

    /// A point in the area that the most of the old area's border has become; none when less than half has.
    std::optional<Vec2> area(Role view, Vec2 seed) const {
        const View *v = before_.views.withRole(view), *w = after_.views.withRole(view);
        if (!v || !w) return std::nullopt;
        for (const ClosedArea& a : areas_before_)
            if (a.view == v->id && a.contains(seed)) return areaAfter(a, w->id);
        return std::nullopt;
    }

    /// The place of the line that the mark was picked on: the same end, middle or centre of its counterpart.
    std::optional<Vec2> mark(Role view, Vec2 at) const {
        const View *v = before_.views.withRole(view), *w = after_.views.withRole(view);
        if (!v || !w) return std::nullopt;
        double nearest = std::numeric_limits<double>::infinity();
        std::optional<Vec2> found;
        for (const FigureCurve& c : before_.drawn.curves) {
            const int a = c.view == v->id ? after(c.entity) : -1;
            const auto it = a < 0 ? curve_after_.end() : curve_after_.find(a);
            if (it == curve_after_.end()) continue;
            const FigureCurve& n = after_.drawn.curves[it->second.front()];
            const auto from = anchorsOf(c.drawn), to = anchorsOf(n.drawn);
            for (size_t k = 0; k < std::min(from.size(), to.size()); ++k)
                if (const double far = distance(from[k], at); far < nearest)
                    nearest = far, found = at + (to[k] - from[k]);
        }
        return found;
    }

  private:
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
    for (Bound* b : {&s.from, &s.to})
        if (b->kind == Bound::Kind::mark)
            carry(b->mark.at, places.mark(b->mark.view, b->mark.at), "the mark it reaches to");
    if (s.kind == StepKind::revolve) carry(s.axis.at, places.mark(s.axis.view, s.axis.at), "the centre line");
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
    return r;
}

Choices carriedOver(const Choices& choices, const Model& before, const Model& after, const SheetDifference& d,
                    const MarkUp& after_marks, std::vector<std::string>& misfits) {
    Choices c = choices;
    c.marks = after_marks;
    Names keys = keysOf(*before.source, *after.source, d);
    for (const MarkedLine& l : after_marks.lines)
        if (l.kind == MarkedLine::Kind::add) keys[l.target] = l.target;
    carryViews(choices.views, keys, MovedPlaces(*before.source, *after.source, d), after, c.views, misfits);
    c.repairs.off.clear();
    for (const std::string& key : choices.repairs.off) {
        const size_t colon = key.find(':');
        const auto it = colon == std::string::npos ? keys.end() : keys.find(key.substr(colon + 1));
        c.repairs.off.insert(it == keys.end() ? key : key.substr(0, colon + 1) + it->second);
    }
    carryNumbers(choices.numbers, numbersOf(before, after, d), c.numbers, misfits);
    const Places places(before, after, d);
    for (Step& s : c.steps) carryStep(s, places, misfits);
    return c;
}

} // namespace prism
