#pragma once
#include "core/base/curve.h"
#include "core/base/result.h"

#include <optional>

namespace prism {

/// The curve prolonged beyond one end (0 its start, 1 its end) by a length, mm. An arc never goes on for more
/// than about half of what it lacks to a circle; free-form curves stay as they are.
Curve prolonged(const Curve& c, int side, double by);

/// The curve with one end moved to p, a point of it or of its prolongation.
Curve endedAt(const Curve& c, int side, Vec2 p);

/// Whether a chain of curves wavers or zigzags as lines do that are drawn to show a break: one free-form
/// curve, or left and right turns in a chain that is hardly longer than it is wide.
bool wavers(const std::vector<Curve>& chain);
/// Whether a chain wavers as by hand: an outline turns left and right as well, but runs level or upright.
bool drawnByHand(const std::vector<Curve>& chain);

/// Where two lines cross when they are prolonged without end; none for parallel ones.
std::optional<Vec2> carrierCrossing(const Segment& a, const Segment& b);

/// Arc through three places; impossible when they lie on a line.
Result<Arc> arcThrough(Vec2 a, Vec2 b, Vec2 c);

} // namespace prism
