#include "core/drawing/drawing.h"

#include <array>

namespace prism {
namespace {
constexpr std::array kLineRoles{"outline", "hidden",       "centre", "dimension", "hatch",
                                "border",  "construction", "note",   "unknown"};
constexpr std::array kDimensionKinds{"linear", "aligned", "radius", "diameter", "angular", "ordinate"};
} // namespace

const char* nameOf(LineRole r) {
    return kLineRoles[static_cast<size_t>(r)];
}

std::optional<LineRole> lineRoleNamed(const std::string& name) {
    for (size_t i = 0; i < kLineRoles.size(); ++i)
        if (name == kLineRoles[i]) return static_cast<LineRole>(i);
    return std::nullopt;
}

const char* nameOf(DimensionKind k) {
    return kDimensionKinds[static_cast<size_t>(k)];
}

Box2 Drawing::box() const {
    Box2 b;
    for (const Entity& e : entities)
        for (const Curve& c : e.curves) b.add(boxOf(c));
    return b;
}

const LineType* Drawing::lineType(const std::string& name) const {
    for (const LineType& t : line_types)
        if (t.name == name) return &t;
    return nullptr;
}

} // namespace prism
