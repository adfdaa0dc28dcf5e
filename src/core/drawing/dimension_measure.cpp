#include "core/drawing/dimension_measure.h"

namespace prism {
namespace {

constexpr double kDegree = kPi / 180;

double angleBetweenDegrees(Vec2 a, Vec2 b) {
    return positiveAngle(std::atan2(cross(a, b), dot(a, b))) / kDegree;
}

/// Angle at the vertex, on the side where the dimension arc lies (ISO 129-1).
double angleThrough(Vec2 vertex, Vec2 d1, Vec2 d2, Vec2 arcPoint) {
    const double whole = angleBetweenDegrees(d1, d2);
    const double toArc = angleBetweenDegrees(d1, arcPoint - vertex);
    return toArc <= whole ? whole : 360 - whole;
}

double measuredAngle(const Dimension& d) {
    if (d.three_point) return angleThrough(d.p15, d.p13 - d.p15, d.p14 - d.p15, d.p10);
    const Vec2 u = d.p14 - d.p13, v = d.p10 - d.p15;
    const double det = cross(u, v);
    if (std::abs(det) < 1e-12) return 0;
    const Vec2 vertex = d.p13 + u * (cross(d.p15 - d.p13, v) / det);
    // The arc lies between the two half lines nearest to it; each line offers both of its directions.
    const Vec2 toArc = d.p16 - vertex;
    const double s = cross(toArc, v) / det, t = cross(u, toArc) / det;
    const Vec2 a = s >= 0 ? u : -u, b = t >= 0 ? v : -v;
    return std::min(angleBetweenDegrees(a, b), 360 - angleBetweenDegrees(a, b));
}

} // namespace

double measuredOf(const Dimension& d) {
    switch (d.kind) {
    case DimensionKind::linear:
        return std::abs(dot(d.p14 - d.p13, direction(d.angle))) * d.factor;
    case DimensionKind::aligned:
        return distance(d.p13, d.p14) * d.factor;
    case DimensionKind::radius:
    case DimensionKind::diameter:
        return distance(d.p10, d.p15) * d.factor;
    case DimensionKind::angular:
        return measuredAngle(d);
    case DimensionKind::ordinate:
        return std::abs(d.ordinate_x ? d.p13.x - d.p10.x : d.p13.y - d.p10.y) * d.factor;
    }
    return 0;
}

} // namespace prism
