#include "core/diagnosing/as_given.h"

#include <set>

namespace prism {

AsGiven::AsGiven(const Model& m) : given_(m) {
    for (const Entity& e : m.drawing->entities) entity_.emplace(keyOf(e), e.id);
}

int AsGiven::entityOf(int e, const Model& m) const {
    const auto it = entity_.find(keyOf(m.drawing->entities[static_cast<size_t>(e)]));
    return it == entity_.end() ? -1 : it->second;
}

int AsGiven::viewOf(int v, const Model& m) const {
    std::map<int, int> lines; // by view as given
    for (const int e : m.views.views[static_cast<size_t>(v)].entities)
        if (const int was = entityOf(e, m); was >= 0)
            ++lines[given_.views.view_of_entity[static_cast<size_t>(was)]];
    const auto most = std::ranges::max_element(lines, {}, [](const auto& l) { return l.second; });
    return most == lines.end() ? -1 : most->first;
}

Finding AsGiven::told(Finding f, const Model& m) const {
    if (&m == &given_) return f;
    for (int& v : f.views) v = viewOf(v, m);
    for (int& e : f.entities) e = entityOf(e, m);
    std::erase(f.views, -1);
    std::erase(f.entities, -1);
    return f;
}

bool AsGiven::samePart(const Model& was, const Model& m) const {
    std::set<int> shown;
    for (const FigureView& v : m.drawn.views) shown.insert(viewOf(v.view, m));
    return std::ranges::all_of(was.drawn.views,
                               [&](const FigureView& v) { return shown.contains(viewOf(v.view, was)); });
}

} // namespace prism
