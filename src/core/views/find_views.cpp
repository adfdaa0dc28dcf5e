#include "core/base/groups.h"
#include "core/views/stages.h"

#include <array>
#include <map>

namespace prism {
namespace {

std::vector<int> partLines(const Drawing& d, const CleanSheet& s) {
    std::vector<int> r;
    for (const Entity& e : d.entities) {
        const LineRole role = s.entity_roles[e.id];
        if (s.in_use[e.id] && !e.curves.empty() &&
            (role == LineRole::outline || role == LineRole::hidden || role == LineRole::border))
            r.push_back(e.id);
    }
    return r;
}

View viewOf(const Drawing& d, const views::Group& g) {
    View v;
    v.entities = g.entities;
    v.box_sheet = g.box;
    v.key = keyOf(d.entities[g.entities.front()]);
    return v;
}

/// A view needs lines that enclose something; a few stray lines are left out instead.
bool mayBeView(const Drawing& d, const CleanSheet& s, const views::Group& g) {
    int outline = 0;
    for (int e : g.entities) {
        if (s.entity_roles[e] != LineRole::outline) continue;
        outline += static_cast<int>(d.entities[e].curves.size());
        for (const Curve& c : d.entities[e].curves) outline += isClosed(c, 0) ? 3 : 0;
    }
    return outline >= 3 && g.box.width() > 0 && g.box.height() > 0;
}

/// Whether any lines of a group come back to where they began.
bool closes(const Drawing& d, const CleanSheet& s, const views::Group& g) {
    std::map<int, int> ends; // by node: in the order of their first line
    const auto numbered = [&](int node) {
        return ends.emplace(node, static_cast<int>(ends.size())).first->second;
    };
    size_t most = 0;
    for (int e : g.entities) most += 2 * d.entities[e].curves.size();
    Groups joined(most);
    for (int e : g.entities)
        for (size_t k = 0; k < d.entities[e].curves.size(); ++k) {
            const SheetNodes::Of& nodes = s.nodes.of(e, static_cast<int>(k));
            if (nodes.start < 0) return true;
            const int from = numbered(nodes.start), to = numbered(nodes.end);
            if (joined.find(from) == joined.find(to)) return true;
            joined.join(from, to);
        }
    return false;
}

/// Whether a group lies level with a larger one and is as high, or above or below one and as wide, as the end
/// view of a long part.
bool linesUp(const views::Group& g, const std::vector<views::Group>& groups) {
    constexpr double kSlack = 0.01;
    return std::ranges::any_of(groups, [&](const views::Group& o) {
        return o.box.diagonal() > g.box.diagonal() && std::ranges::any_of(std::array{0, 1}, [&](int k) {
                   const double slack = kSlack * (g.box.hi[k] - g.box.lo[k]);
                   return std::abs(o.box.lo[k] - g.box.lo[k]) <= slack &&
                          std::abs(o.box.hi[k] - g.box.hi[k]) <= slack;
               });
    });
}

/// A single circle, nothing written in it, within the box of another group: a hole that missed its view
/// rather than a sign.
bool strayHole(const Drawing& d, const views::Group& g, const std::vector<views::Group>& groups) {
    if (g.entities.size() != 1) return false;
    const auto& curves = d.entities[g.entities.front()].curves;
    const auto* a = curves.size() == 1 ? std::get_if<Arc>(&curves.front()) : nullptr;
    return a && a->full() &&
           std::ranges::none_of(d.texts, [&](const SheetText& t) { return g.box.contains(t.position); }) &&
           std::ranges::any_of(
               groups, [&](const views::Group& o) { return o.entities.size() > 1 && o.box.contains(g.box); });
}

/// Arrows, strokes and other signs that are drawn like the part: small beside the largest group, and either
/// without anything that comes back to where it began or a few lines only, which line up with nothing.
bool isSign(const Drawing& d, const CleanSheet& s, const views::Group& g,
            const std::vector<views::Group>& groups, double largest) {
    constexpr double kSmall = 0.15, kTiny = 0.05;
    constexpr size_t kFew = 8;
    const double size = g.box.diagonal();
    if (size > kSmall * largest || strayHole(d, g, groups)) return false;
    if (!closes(d, s, g)) return true;
    return size < kTiny * largest && g.entities.size() <= kFew && !linesUp(g, groups);
}

/// Diagonal of the smallest group that is taken for a view: a sheet of hundreds of groups is full of symbols
/// and lettering drawn in lines.
double smallestView(const std::vector<views::Group>& groups) {
    constexpr size_t kMostViews = 48;
    if (groups.size() <= kMostViews) return 0;
    std::vector<double> sizes;
    for (const views::Group& g : groups) sizes.push_back(g.box.diagonal());
    std::nth_element(sizes.begin(), sizes.begin() + kMostViews - 1, sizes.end(), std::greater<>());
    // Equal ones beyond that many are left out alike, lest their order decide.
    return std::nextafter(sizes[kMostViews - 1], std::numeric_limits<double>::infinity());
}

void applyMoves(const Drawing& d, const ViewChoices& choices, ViewSet& set, LeftOut& unknown) {
    if (choices.moved.empty()) return;
    std::map<std::string, int> byKey;
    for (const Entity& e : d.entities) byKey[keyOf(e)] = e.id;
    for (const std::string& key : choices.made) {
        set.views.emplace_back();
        set.views.back().key = key;
    }
    for (const auto& [entity, target] : choices.moved) {
        const auto it = byKey.find(entity);
        if (it == byKey.end()) continue;
        for (View& v : set.views) std::erase(v.entities, it->second);
        std::erase(unknown.entities, it->second);
        bool placed = false;
        for (View& v : set.views)
            if (v.key == target) v.entities.push_back(it->second), placed = true;
        if (!placed) unknown.entities.push_back(it->second);
    }
    for (View& v : set.views) {
        v.box_sheet = {};
        for (int e : v.entities)
            for (const Curve& c : d.entities[e].curves) v.box_sheet.add(boxOf(c));
    }
    std::erase_if(set.views, [](const View& v) { return v.entities.empty(); });
}

void leaveOutRest(const Drawing& d, const CleanSheet& s, ViewSet& set) {
    LeftOut notes{"note", {}};
    for (const Entity& e : d.entities)
        if (s.entity_roles[e.id] == LineRole::note || s.entity_roles[e.id] == LineRole::dimension)
            notes.entities.push_back(e.id);
    if (!notes.entities.empty()) set.left_out.push_back(std::move(notes));
}

} // namespace

ViewSet findViews(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, Progress& progress) {
    using namespace views;
    ViewSet set;
    set.unit = decideUnit(d, s, choices);
    set.view_of_entity.assign(d.entities.size(), -1);
    progress.report(0, "Finding the views");
    auto groups = connectedGroups(d, s, partLines(d, s));
    const auto symbol = setAsideFurniture(d, s, groups, set.left_out);
    splitBridged(d, s, groups, set.left_out);
    mergeNested(d, groups);
    LeftOut unknown{"unknown", {}};
    const double least = smallestView(groups);
    double largest = 0;
    for (const Group& g : groups) largest = std::max(largest, g.box.diagonal());
    for (const Group& g : groups) {
        if (mayBeView(d, s, g) && g.box.diagonal() >= least && !isSign(d, s, g, groups, largest))
            set.views.push_back(viewOf(d, g));
        else
            unknown.entities.insert(unknown.entities.end(), g.entities.begin(), g.entities.end());
    }
    applyMoves(d, choices, set, unknown);
    if (!unknown.entities.empty()) set.left_out.push_back(unknown);
    separateParts(d, choices, set);
    for (size_t i = 0; i < set.views.size(); ++i) {
        set.views[i].id = static_cast<int>(i);
        for (int e : set.views[i].entities) set.view_of_entity[e] = static_cast<int>(i);
    }
    progress.report(0.5, "Deciding roles and angle");
    const auto text = statedInTexts(d);
    set.projection.stated = text ? text : symbol;
    assignRoles(d, s, choices, set);
    decideScales(d, s, choices, set);
    leaveOutRest(d, s, set);
    completeHalves(d, s, set);
    const CleanSheet& whole = set.completed ? *set.completed : s;
    const Drawing& drawing = set.completed ? *whole.drawing : d;
    if (!choices.scale) matchScales(drawing, whole, set);
    lineUp(drawing, whole, choices, set);
    hangViews(drawing, whole, choices, set);
    return set;
}

} // namespace prism
