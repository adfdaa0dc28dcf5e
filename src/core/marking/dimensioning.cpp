#include "core/marking/dimensioning.h"

namespace prism {

AddedDimension distanceDimension(Vec2 a, Vec2 b, Vec2 line_at, bool aligned) {
    AddedDimension d;
    d.kind = aligned ? DimensionKind::aligned : DimensionKind::linear;
    const double above = std::max({line_at.y - std::max(a.y, b.y), std::min(a.y, b.y) - line_at.y, 0.0});
    const double beside = std::max({line_at.x - std::max(a.x, b.x), std::min(a.x, b.x) - line_at.x, 0.0});
    const bool level = above == beside ? std::abs(a.x - b.x) > std::abs(a.y - b.y) : above > beside;
    d.angle = level ? 0 : kPi / 2;
    d.p13 = a, d.p14 = b, d.text_at = line_at;
    const Vec2 u = aligned ? normalized(b - a) : direction(d.angle), across{-u.y, u.x};
    d.p10 = b + across * dot(line_at - b, across);
    return d;
}

AddedDimension angleDimension(Vec2 vertex, Vec2 on_first, Vec2 on_second, Vec2 arc_at) {
    AddedDimension d;
    d.kind = DimensionKind::angular;
    d.p15 = vertex, d.p13 = on_first, d.p14 = on_second, d.p10 = d.text_at = arc_at;
    return d;
}

Result<AddedDimension> roundDimension(const Curve& c, Vec2 text_at, bool diameter) {
    const auto* a = std::get_if<Arc>(&c);
    if (!a) return failure(ErrorCode::impossible, "an arc or a circle is needed");
    const Vec2 out = normalized(text_at - a->centre) * a->radius;
    AddedDimension d;
    d.kind = diameter ? DimensionKind::diameter : DimensionKind::radius;
    d.p15 = a->centre + out, d.p10 = diameter ? a->centre - out : a->centre, d.text_at = text_at;
    return d;
}

AddedDimension transformed(AddedDimension d, const Affine2& m) {
    for (Vec2* p : {&d.p10, &d.p13, &d.p14, &d.p15, &d.p16, &d.text_at}) *p = m(*p);
    d.angle = angleOf(m.linear(direction(d.angle)));
    return d;
}

} // namespace prism
