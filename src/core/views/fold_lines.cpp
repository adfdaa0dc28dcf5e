#include "core/views/fold_lines.h"

#include <algorithm>

namespace prism {
namespace {

constexpr double kBeyond = 0.08; ///< share of a view by which its fold line is drawn past it

const View* sourceOf(const ViewSet& set, const View& v) {
    const View* front = set.withRole(Role::front);
    if (v.role != Role::rear) return front;
    const View* side = nullptr;
    for (const View& o : set.views)
        if ((o.role == Role::left || o.role == Role::right) && o.in_figure &&
            (!side || distance(o.box_sheet.centre(), v.box_sheet.centre()) <
                          distance(side->box_sheet.centre(), v.box_sheet.centre())))
            side = &o;
    return side ? side : front;
}

FoldLine principalLine(const View& on, const View& v, const ViewChoices& choices) {
    const bool above = v.role == Role::top || v.role == Role::bottom;
    const Vec2 between = v.box_sheet.centre() - on.box_sheet.centre();
    const Vec2 away = above ? Vec2{0, between.y > 0 ? 1.0 : -1.0} : Vec2{between.x > 0 ? 1.0 : -1.0, 0};
    const auto reach = [](const Box2& b, Vec2 u) { return std::max(dot(b.lo, u), dot(b.hi, u)); };
    FoldLine r{v.id, on.id, {}, away, reach(on.box_sheet, away), on.mm_per_sheet};
    const auto gap = choices.fold_gap.find(v.key);
    const double at = gap != choices.fold_gap.end() ? r.edge + gap->second / on.mm_per_sheet
                                                    : (r.edge - reach(v.box_sheet, -away)) / 2;
    Box2 both = on.box_sheet;
    both.add(v.box_sheet);
    const double more = kBeyond * both.diagonal();
    const Vec2 along{std::abs(away.y), std::abs(away.x)};
    r.line = {along * (dot(both.lo, along) - more) + away * at,
              along * (dot(both.hi, along) + more) + away * at};
    return r;
}

FoldLine hungLine(const ViewSet& set, const View& v) {
    const Hanging& h = *v.hanging;
    const View& on = set.views[h.on];
    const Affine2 back = on.toModel().inverse();
    const Vec2 a = back(h.from), b = back(h.to), look = normalized(back.linear(h.look));
    const Vec2 away = dot(v.box_sheet.centre() - a, look) > 0 ? look : -look;
    return {v.id, on.id, {a, b}, away, dot(a, away) - h.gap / on.mm_per_sheet, on.mm_per_sheet, h.cuts};
}

} // namespace

std::vector<FoldLine> foldLinesOf(const ViewSet& set, const ViewChoices& choices) {
    std::vector<FoldLine> r;
    for (const View& v : set.views) {
        if (v.hanging && !v.hanging->flat()) r.push_back(hungLine(set, v));
        if (!v.in_figure || v.role == Role::front) continue;
        if (const View* on = sourceOf(set, v); on && on->id != v.id)
            r.push_back(principalLine(*on, v, choices));
    }
    return r;
}

} // namespace prism
