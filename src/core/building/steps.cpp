#include "core/building/steps.h"

#include <fmt/format.h>

namespace prism {

const char* nameOf(StepKind k) {
    return k == StepKind::extrude ? "extrude" : "revolve";
}

const char* nameOf(Operation o) {
    constexpr std::array names{"add", "cut", "intersect"};
    return names[static_cast<size_t>(o)];
}

namespace {

std::string boundText(const Bound& b, const char* outermost) {
    switch (b.kind) {
    case Bound::Kind::mark:
        return fmt::format("a mark in the {} view", nameOf(b.mark.view));
    case Bound::Kind::value:
        return fmt::format("{:g} mm", b.value);
    case Bound::Kind::outermost:
        break;
    }
    return outermost;
}

} // namespace

std::optional<std::string> missingIn(const Step& s) {
    if (s.areas.empty()) return "no area is picked";
    if (s.kind == StepKind::revolve)
        return s.axis.picked() ? std::nullopt : std::optional<std::string>("no centre line is picked");
    if (s.reach == Reach::through) return std::nullopt;
    for (const Bound* b : {&s.from, &s.to})
        if (b->kind == Bound::Kind::mark && !b->mark.picked()) return "no mark is picked to reach to";
    if (s.reach == Reach::both && s.to.kind != Bound::Kind::value)
        return "a reach to both sides needs a distance";
    return std::nullopt;
}

std::string describe(const Step& s) {
    const std::string what = fmt::format("{} area{} of the {} view", s.areas.size(),
                                         s.areas.size() == 1 ? "" : "s", nameOf(s.view));
    if (s.kind == StepKind::revolve)
        return fmt::format("{} round a centre line by {:g}°", what, s.angle * 180 / kPi);
    if (s.reach == Reach::through) return what + ", through";
    if (s.reach == Reach::both) return fmt::format("{}, {:g} mm both sides", what, s.to.value);
    return fmt::format("{}, from {} to {}", what, boundText(s.from, "the near end"),
                       boundText(s.to, "the far end"));
}

} // namespace prism
