#include "support/bracket.h"

namespace prism::test {
namespace {

Step extrude(Operation o, Role view, std::vector<Vec2> areas) {
    Step s;
    s.operation = o, s.view = view, s.areas = std::move(areas);
    return s;
}

Step between(Step s, MarkRef from, MarkRef to) {
    s.reach = Reach::between;
    s.from = {Bound::Kind::mark, from, 0};
    s.to = {Bound::Kind::mark, to, 0};
    return s;
}

Step through(Step s) {
    s.reach = Reach::through;
    return s;
}

} // namespace

std::vector<Step> bracketSteps() {
    const Role f = Role::front, t = Role::top;
    std::vector<Step> r;
    // The base is one profile in the front view, split by the hidden lines of the holes and the slot.
    r.push_back(through(extrude(Operation::add, f, {{5, 7}, {40, 7}, {64, 7}, {78, 7}, {86, 7}})));
    // Upright with its rounded end, bore included: from the front face at Y = 10 to the back at Y = 30.
    r.push_back(between(extrude(Operation::add, f, {{30, 30}, {42, 62}}), {t, {42, 10}}, {t, {42, 30}}));
    r.push_back(between(extrude(Operation::add, t, {{6, 50}}), {f, {6, 14}}, {f, {6, 30}}));
    r.push_back(between(extrude(Operation::add, t, {{113, 17}}), {f, {113, 8}}, {f, {113, 30}}));
    r.push_back(through(extrude(Operation::cut, f, {{42, 62}})));
    r.push_back(through(extrude(Operation::cut, t, {{78, 14}, {78, 46}})));
    r.push_back(through(extrude(Operation::cut, t, {{38, 44}})));
    return r;
}

} // namespace prism::test
