#include "core/drawing/drawing.h"

#include <algorithm>
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

Box2 extentOf(const Drawing& d) {
    constexpr double kFar = 4; // times the size of the middle nine tenths
    std::vector<Box2> boxes;
    for (const Entity& e : d.entities) {
        Box2 b;
        for (const Curve& c : e.curves) b.add(boxOf(c));
        if (b.valid()) boxes.push_back(b);
    }
    Box2 all;
    for (const Box2& b : boxes) all.add(b);
    if (boxes.size() < 10) return all;
    Box2 middle;
    for (int axis = 0; axis < 2; ++axis) {
        std::vector<double> at;
        for (const Box2& b : boxes) at.push_back(b.centre()[axis]);
        std::sort(at.begin(), at.end());
        const size_t cut = at.size() / 20;
        (axis == 0 ? middle.lo.x : middle.lo.y) = at[cut];
        (axis == 0 ? middle.hi.x : middle.hi.y) = at[at.size() - 1 - cut];
    }
    const double size = std::max(middle.width(), middle.height());
    if (!(size > 0)) return all;
    const Box2 near = middle.grown(kFar * size);
    Box2 r;
    for (const Box2& b : boxes)
        if (near.contains(b)) r.add(b);
    return r.valid() ? r : all;
}

const LineType* Drawing::lineType(const std::string& name) const {
    for (const LineType& t : line_types)
        if (t.name == name) return &t;
    return nullptr;
}

} // namespace prism
