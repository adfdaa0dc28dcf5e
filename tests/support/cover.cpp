#include "support/cover.h"

namespace prism::test {
namespace {

/// The areas of a view whose point inside fits.
template <class Fits> std::vector<Vec2> areasOf(const Model& m, const ViewName& view, Fits fits) {
    std::vector<Vec2> r;
    for (const ClosedArea& a : m.areas.drawn)
        if (a.view == m.drawn.viewNamed(view)->view && fits(a.seed)) r.push_back(a.seed);
    return r;
}

Bound mark(const ViewName& view, Vec2 at) {
    return {Bound::Kind::mark, {view, at}, 0};
}

} // namespace

std::vector<Step> coverSteps(const Model& m) {
    const Cover c;
    const Vec2 up = c.onSlope(1) - c.onSlope(0), out = c.onSlope(0, 1) - c.onSlope(0);
    const auto inPart = [&](Vec2 p) { return dot(p - c.onSlope(0), out) < 0; };
    Step body;
    body.view = Role::front, body.reach = Reach::through, body.name = "body";
    body.areas = areasOf(m, Role::front, inPart);
    Step pocket;
    pocket.operation = Operation::cut, pocket.view = Role::top, pocket.name = "pocket";
    pocket.areas = areasOf(m, Role::top, [](Vec2 p) { return p.x > 15 && p.x < 45 && p.y > 10 && p.y < 40; });
    pocket.from = mark(Role::front, {15, c.pocket_floor});
    Step bore;
    bore.operation = Operation::cut, bore.view = Role::front, bore.reach = Reach::through, bore.name = "bore";
    bore.areas = areasOf(m, Role::front, [&](Vec2 p) {
        return distance(p, {c.bore_x, c.bore_z}) < c.bore / 2;
    });
    // The auxiliary view counts down the slope.
    const auto onSlope = [&](Vec2 p) { return Vec2{-dot(c.onSlope(0), up) - p.x, p.y}; };
    Step boss;
    boss.view = Role::auxiliary, boss.name = "lubricator boss";
    boss.areas = areasOf(m, Role::auxiliary, [&](Vec2 p) {
        const double along = onSlope(p).x;
        return along > c.pad_from && along < c.pad_from + c.pad_length && p.y > c.pad_y &&
               p.y < c.pad_y + c.pad_width;
    });
    boss.from = mark(Role::front, c.onSlope(c.pad_from, c.pad_height));
    boss.to = mark(Role::front, c.onSlope(c.pad_from));
    Step oil;
    oil.operation = Operation::cut, oil.view = Role::auxiliary, oil.name = "lubricator bore";
    oil.areas = areasOf(m, Role::auxiliary, [&](Vec2 p) {
        return distance(onSlope(p), {c.oil_from, c.oil_y}) < c.oil / 2;
    });
    oil.from = mark(Role::front, c.onSlope(c.oil_from - c.oil / 2, c.pad_height));
    oil.to = mark(Role::front, c.onSlope(c.oil_from - c.oil / 2, c.pad_height - c.oil_depth));
    return {body, pocket, bore, boss, oil};
}

} // namespace prism::test
