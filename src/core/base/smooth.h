#pragma once

namespace prism {

/// Lines and faces that meet within this angle run smoothly into each other, radians: tangencies of old
/// sheets are only as good as the digits of their files, and a line that misses a circle's tangent by d meets
/// it at an angle of the root of 2 d / r. Nobody draws so slight an edge.
constexpr double kSmooth = 2e-3;

} // namespace prism
