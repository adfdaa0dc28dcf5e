#include "core/cleaning/stood_for.h"

#include "core/base/box_tree.h"

namespace prism {
namespace {

/// Whether a line that was set aside runs along one of these curves.
bool runsAlong(const Entity& e, const Curve& c, double touch) {
    return std::ranges::all_of(e.curves, [&](const Curve& piece) {
        return std::ranges::all_of(std::array{0.0, 0.5, 1.0},
                                   [&](double t) { return distanceTo(c, pointAt(piece, t)) <= touch; });
    });
}

} // namespace

std::vector<int> stoodForBy(const CleanSheet& s, const std::vector<int>& lines) {
    const std::set<int> changed(lines.begin(), lines.end());
    const auto isAside = [&](int e) { return !s.in_use[static_cast<size_t>(e)] && !changed.contains(e); };
    std::set<int> r, others; // others: set aside by themselves
    for (const Repair& repair : s.repairs) {
        if (!repair.on || std::ranges::none_of(repair.entities, isAside)) continue;
        const bool with = std::ranges::any_of(repair.entities, [&](int e) { return changed.contains(e); });
        std::ranges::copy_if(repair.entities,
                             with ? std::inserter(r, r.end()) : std::inserter(others, others.end()), isAside);
    }
    if (others.empty()) return {r.begin(), r.end()};
    std::vector<const Curve*> curves;
    std::vector<Box2> boxes;
    const double touch = s.tolerances.touch_sheet;
    for (const int line : lines)
        for (const Curve& c : s.drawing->entities[static_cast<size_t>(line)].curves)
            curves.push_back(&c), boxes.push_back(boxOf(c).grown(touch));
    const BoxTree tree(boxes);
    for (const int e : others) {
        const Entity& x = s.drawing->entities[static_cast<size_t>(e)];
        if (x.curves.empty()) continue;
        for (const int k : tree.overlapping(boxOf(x.curves.front())))
            if (runsAlong(x, *curves[static_cast<size_t>(k)], touch)) r.insert(e);
    }
    return {r.begin(), r.end()};
}

void takeOffStoodFor(const CleanSheet& s, const std::vector<int>& lines, std::vector<MarkedLine>& marks) {
    for (const int e : stoodForBy(s, lines))
        marks.push_back({MarkedLine::Kind::remove, keyOf(s.drawing->entities[static_cast<size_t>(e)]), {}});
}

std::vector<MarkedLine> marksOn(const CleanSheet& s, const LineEdits& edits) {
    std::vector<MarkedLine> r = marksOf(*s.drawing, edits, s.to_file);
    std::vector<int> lines;
    for (const auto& [line, curves] : edits) lines.push_back(line);
    takeOffStoodFor(s, lines, r);
    return r;
}

} // namespace prism
