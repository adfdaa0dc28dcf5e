#include "core/base/groups.h"
#include "core/views/stages.h"

#include <tuple>

namespace prism::views {

void separateParts(const Drawing& d, const ViewChoices& choices, ViewSet& set) {
    const auto n = static_cast<int>(set.views.size());
    const auto labels = labelsOf(d, set.views);
    // Sections, details and the like lie where there was room: that two of them line up tells nothing.
    const auto anywhere = [&](int i) {
        return labels[i] && !isPrincipal(labels[i]->role) && !choices.roles.contains(set.views[i].key);
    };
    Groups groups(set.views.size());
    for (int i = 0; i < n; ++i)
        for (int j = i + 1; j < n; ++j) {
            if (anywhere(i) || anywhere(j)) continue;
            const Box2 &a = set.views[i].box_sheet, &b = set.views[j].box_sheet;
            if (alignment(a, b, 0) == 2 || alignment(a, b, 1) == 2) groups.join(i, j);
        }
    std::map<int, std::vector<int>> families;
    for (int i = 0; i < n; ++i) families[groups.find(i)].push_back(i);
    std::vector<std::vector<int>> parts;
    std::vector<int> single;
    for (auto& [first, views] : families) {
        if (views.size() > 1)
            parts.push_back(std::move(views));
        else
            single.push_back(views.front());
    }
    const auto boxOfPart = [&](const std::vector<int>& views) {
        Box2 b;
        for (int v : views) b.add(set.views[v].box_sheet);
        return b;
    };
    const auto boxesOf = [&](const std::vector<int>& views) {
        std::vector<Box2> r;
        for (int v : views) r.push_back(set.views[v].box_sheet);
        return r;
    };
    // One part may have views that line up with no other; they belong where they do at another scale or
    // turned, else to the nearest.
    for (int v : single) {
        std::vector<int>* nearest = nullptr;
        std::pair best{true, std::numeric_limits<double>::infinity()};
        for (auto& p : parts) {
            const Box2 b = boxOfPart(p);
            const Vec2 c = set.views[v].box_sheet.centre(),
                       q{std::clamp(c.x, b.lo.x, b.hi.x), std::clamp(c.y, b.lo.y, b.hi.y)};
            const std::pair away{!fitsOtherwise(boxesOf(p), set.views[v].box_sheet), distance(c, q)};
            if (away < best) best = away, nearest = &p;
        }
        if (nearest) nearest->push_back(v);
    }
    std::sort(parts.begin(), parts.end(), [&](const auto& a, const auto& b) {
        const Box2 p = boxOfPart(a), q = boxOfPart(b);
        return std::tuple(p.lo.x, -p.hi.y) < std::tuple(q.lo.x, -q.hi.y);
    });
    // Parts lie apart; views of one part that a scale or a shift keeps from lining up lie among the others.
    for (size_t i = 0; i < parts.size(); ++i)
        for (size_t j = i + 1; j < parts.size(); ++j)
            if (boxOfPart(parts[i]).overlaps(boxOfPart(parts[j]))) parts.clear();
    if (parts.size() < 2) {
        Box2 all;
        for (const View& v : set.views) all.add(v.box_sheet);
        set.parts = {{all, n, {}}};
        return;
    }
    size_t most = 0;
    for (size_t i = 0; i < parts.size(); ++i) {
        set.parts.push_back({boxOfPart(parts[i]), static_cast<int>(parts[i].size()), {}});
        for (int v : parts[i]) set.parts.back().each.push_back(set.views[v].box_sheet);
        if (parts[i].size() > parts[most].size()) most = i;
    }
    const int chosen = choices.part.value_or(static_cast<int>(most));
    set.part = std::clamp(chosen, 0, static_cast<int>(parts.size()) - 1);
    std::vector<View> kept;
    LeftOut others{"other_part", {}};
    std::sort(parts[set.part].begin(), parts[set.part].end());
    for (int v : parts[set.part]) kept.push_back(set.views[v]);
    for (size_t i = 0; i < parts.size(); ++i)
        if (static_cast<int>(i) != set.part)
            for (int v : parts[i])
                others.entities.insert(others.entities.end(), set.views[v].entities.begin(),
                                       set.views[v].entities.end());
    set.views = std::move(kept);
    set.left_out.push_back(std::move(others));
}

} // namespace prism::views
