#include "core/views/by_hand.h"

#include "core/marking/mark_up.h"
#include "core/views/fold_lines.h"

namespace prism {

bool shows(Role r, Axis axis) {
    return isPrincipal(r) && axesOf(r).depth != axis;
}

int viewAt(const ViewSet& set, Vec2 place, int line) {
    constexpr double kRound = 0.05; // share of a view by which a place beside it is still its own
    if (line >= 0 && set.view_of_entity[static_cast<size_t>(line)] >= 0)
        return set.view_of_entity[static_cast<size_t>(line)];
    for (const View& v : set.views)
        if (v.box_sheet.grown(kRound * v.box_sheet.diagonal()).contains(place)) return v.id;
    return -1;
}

Result<std::vector<HandTie>> tiesBetween(const ViewSet& set, const TieSide& a, const TieSide& b) {
    const View *va = set.withKey(a.view), *vb = set.withKey(b.view);
    if (!va || !vb) return failure(ErrorCode::impossible, "a view of the tie is not there");
    if (va == vb) return failure(ErrorCode::impossible, "a tie joins two different views");
    std::vector<HandTie> r;
    for (Axis axis : {Axis::x, Axis::y, Axis::z})
        if (shows(va->role, axis) && shows(vb->role, axis)) r.push_back({axis, a, b});
    if (r.empty()) return failure(ErrorCode::impossible, "these two views share no axis");
    return r;
}

void setZero(ViewChoices& choices, const View& view, Vec2 in_file) {
    const ViewAxes axes = axesOf(view.role);
    choices.zero[axes.right] = choices.zero[axes.up] = {view.key, {in_file}};
}

Result<HungByHand> hungAlong(const ViewSet& set, const CleanSheet& s, const View& view, Vec2 from, Vec2 to) {
    if (distance(from, to) <= s.tolerances.touch_sheet)
        return failure(ErrorCode::usage, "the line of a view needs two different places");
    const Vec2 middle = (from + to) * 0.5;
    const View* on = nullptr;
    double nearest = std::numeric_limits<double>::infinity();
    for (const View& v : set.views) {
        if (!isPrincipal(v.role)) continue;
        const Box2& b = v.box_sheet;
        const double away =
            distance(middle, {std::clamp(middle.x, b.lo.x, b.hi.x), std::clamp(middle.y, b.lo.y, b.hi.y)});
        if (away < nearest) nearest = away, on = &v;
    }
    if (!on) return failure(ErrorCode::impossible, "no principal view is there to draw the line on");
    // In third angle a view lies on the side from which it is seen, in first angle on the other.
    const Vec2 u = normalized(to - from), left{-u.y, u.x};
    const bool third = set.projection.laid_out == Convention::third;
    const bool lies_left = dot(view.box_sheet.centre() - from, left) > 0;
    return HungByHand{on->key, s.to_file(from), s.to_file(to), lies_left == third};
}

HungByHand hungFromOtherSide(const ViewSet& set, const CleanSheet& s, const ViewChoices& choices,
                             const View& view) {
    if (const auto by_hand = choices.hung.find(view.key); by_hand != choices.hung.end()) {
        HungByHand now = by_hand->second;
        now.turned = !now.turned;
        return now;
    }
    const Hanging& h = *view.hanging;
    const Affine2 back = set.views[h.on].toModel().inverse();
    const Vec2 a = back(h.from), b = back(h.to), look = back.linear(h.look);
    return {set.views[h.on].key, s.to_file(a), s.to_file(b), cross(b - a, look) > 0};
}

void moveFoldLine(ViewChoices& choices, const ViewSet& set, const CleanSheet& s, const FoldLine& line,
                  double by) {
    const std::string& key = set.views[line.view].key;
    if (const auto h = choices.hung.find(key); h != choices.hung.end()) {
        const Vec2 shift = s.to_file.linear(line.away * by);
        h->second.from = h->second.from + shift, h->second.to = h->second.to + shift;
    } else
        choices.fold_gap[key] = line.gap() + by * line.mm_per_sheet;
}

MovableLines movableLines(const Drawing& d, const ViewSet& set, const ViewChoices& choices,
                          const std::set<int>& lines) {
    MovableLines r;
    for (int e : lines) {
        const int v = set.view_of_entity[static_cast<size_t>(e)];
        if (v >= 0 && choices.locked.contains(set.views[v].key))
            ++r.held;
        else
            r.keys.push_back(keyOf(d.entities[static_cast<size_t>(e)]));
    }
    return r;
}

Result<void> moveLines(ViewChoices& choices, const std::vector<std::string>& lines,
                       const std::string& view_key) {
    if (choices.locked.contains(view_key)) return failure(ErrorCode::usage, "that view is locked");
    for (const std::string& l : lines) choices.moved[l] = view_key;
    return {};
}

std::string gatherView(ViewChoices& choices, const std::vector<std::string>& lines) {
    int n = 1;
    while (choices.made.contains("made-" + std::to_string(n))) ++n;
    std::string key = "made-" + std::to_string(n);
    choices.made.insert(key);
    for (const std::string& l : lines) choices.moved[l] = key;
    return key;
}

double lengthOnSheet(const Drawing& d, const std::set<int>& lines) {
    double r = 0;
    for (int e : lines)
        for (const Curve& c : d.entities[static_cast<size_t>(e)].curves) r += lengthOf(c);
    return r;
}

Result<double> scaleByLength(double on_sheet, const UnitEvidence& unit, double true_mm) {
    if (!(on_sheet > 0) || !(true_mm > 0))
        return failure(ErrorCode::usage, "a length greater than zero is needed");
    return on_sheet * unit.mm / true_mm;
}

} // namespace prism
