#include "core/project/carry_views.h"

#include <fmt/format.h>

namespace prism {
namespace {

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

} // namespace

std::vector<Vec2> anchorsOf(const Curve& c) {
    std::vector<Vec2> r{startOf(c), endOf(c), pointAt(c, 0.5)};
    if (const auto* a = std::get_if<Arc>(&c)) r.push_back(a->centre);
    return r;
}

void carryViews(const ViewChoices& was, const Names& keys, const Model& before, const Model& after,
                const SheetDifference& d, ViewChoices& now, std::vector<std::string>& misfits) {
    const MovedPlaces moved(*before.source, *after.source, d);
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

} // namespace prism
