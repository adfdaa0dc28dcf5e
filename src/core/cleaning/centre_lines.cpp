#include "core/base/box_tree.h"
#include "core/base/crossings.h"
#include "core/cleaning/workbench.h"

// Centre lines on a sheet that draws all its lines alike. A line of the part ends where it meets another; a
// centre line runs out beyond what it halves, by the same length on both sides (ISO 128-2).
namespace prism::cleaning {
namespace {

constexpr double kLeastOut = 0.8, kMostOut = 20; ///< mm on the sheet beyond the outermost line it crosses
constexpr size_t kMostPairs = 200'000;           ///< of a line and another near it

struct Crossed {
    double before = 0, after = 0; ///< lengths beyond the outermost crossings
    bool halves = false;          ///< runs through the middle of a round or of a line square to it
};

std::optional<Crossed> crossed(const Workbench& w, const Segment& s,
                               const std::vector<const Curve*>& others) {
    const double length = distance(s.a, s.b);
    const Vec2 along = (s.b - s.a) * (1 / length);
    double first = length, last = 0;
    Crossed r;
    const auto onIt = [&](Vec2 p) { return std::abs(cross(p - s.a, along)) <= 2 * w.touch(); };
    for (const Curve* c : others)
        for (Vec2 p : crossings(s, *c, w.touch())) {
            const double t = dot(p - s.a, along);
            first = std::min(first, t), last = std::max(last, t);
            if (const auto* a = std::get_if<Arc>(c)) r.halves = r.halves || onIt(a->centre);
            if (const auto* l = std::get_if<Segment>(c))
                r.halves = r.halves || (onIt((l->a + l->b) * 0.5) &&
                                        std::abs(dot(normalized(l->b - l->a), along)) < 1e-3);
        }
    if (last <= first) return std::nullopt;
    r.before = first, r.after = length - last;
    return r;
}

bool isCentre(const Workbench& w, const Crossed& c) {
    const double least = std::min(c.before, c.after), most = std::max(c.before, c.after);
    if (least <= 2 * w.touch() || most < w.paper(kLeastOut)) return false;
    if (c.halves) return true; // it may end within a solid part
    return least >= w.paper(kLeastOut) && most <= w.paper(kMostOut) &&
           most - least <= 0.02 * most + 2 * w.touch();
}

} // namespace

void recogniseCentres(Workbench& w) {
    for (const Entity& e : w.drawing().entities)
        if (w.sheet().in_use[e.id] && w.sheet().entity_roles[e.id] == LineRole::centre) return;
    const auto web = w.web();
    std::vector<int> candidates;
    size_t straight = 0;
    for (size_t i = 0; i < web->pieces.size(); ++i) {
        const Piece p = web->pieces[i];
        if (!std::holds_alternative<Segment>(w.curve(p)) || w.role(p) != LineRole::outline) continue;
        ++straight;
        const auto alone = [&](int side) {
            const int node = web->nodes.node({static_cast<int>(i), side});
            return node >= 0 && web->nodes.ends(node).size() == 1;
        };
        if (w.drawing().entities[p.entity].curves.size() == 1 && alone(0) && alone(1))
            candidates.push_back(static_cast<int>(i));
    }
    if (candidates.empty()) return;
    std::vector<int> found;
    size_t pairs = 0;
    std::vector<Box2> boxes;
    for (const Piece& p : web->pieces) boxes.push_back(boxOf(w.curve(p)));
    const BoxTree tree(boxes);
    for (int i : candidates) {
        const auto& s = std::get<Segment>(w.curve(web->pieces[i]));
        std::vector<const Curve*> others;
        for (int k : tree.overlapping(boxes[i]))
            if (k != i) others.push_back(&w.curve(web->pieces[k]));
        pairs += others.size();
        if (pairs > kMostPairs) return w.leaveUndone("centre lines among lines that are all drawn alike");
        if (const auto c = crossed(w, s, others); c && isCentre(w, *c)) found.push_back(i);
    }
    if (3 * found.size() > 2 * straight) return; // everything runs out: that is how this sheet is drawn
    for (int i : found) {
        const Segment s = std::get<Segment>(w.curve(web->pieces[i]));
        const int entity = web->pieces[i].entity;
        if (w.record("centre_recognised", {entity}, (s.a + s.b) * 0.5, distance(s.a, s.b)))
            w.setRole(entity, LineRole::centre);
    }
}

} // namespace prism::cleaning
