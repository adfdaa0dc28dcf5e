#pragma once
#include "core/base/circle_fit.h"
#include "core/base/curve.h"
#include "core/tracing/strokes.h"

namespace prism {

/// A line or an arc along part of a stroke, or across several that go on in each other. Sheet coordinates.
struct TracePiece {
    std::vector<Vec2> points; ///< sure ones, in order; what the shape is fitted to
    Curve shape = Segment{};
    int from = -1, to = -1; ///< joints at its ends; -1 where it ends free
    std::vector<int> passes; ///< joints that lie along it
    double width = 0;        ///< of the ink, sheet units
    double rms = 0;          ///< of the points from the shape
    int component = 0;       ///< of the ink
};

struct TracePieces {
    std::vector<TracePiece> pieces;
    std::vector<Vec2> joints;
};

/// Least-squares line through points (orthogonal distances), as far as they reach along it.
Segment fitLine(const std::vector<Vec2>& points);
/// Least-squares circle by distances (Gauss-Newton from the linear fit); none for points on a line.
std::optional<Circle> fitCircleByDistance(const std::vector<Vec2>& points);

/// Cuts strokes into the fewest lines and arcs that stay within the tolerance (dynamic programming over the
/// corners of a Douglas-Peucker simplification), and joins those that go on in each other.
TracePieces piecesOf(const Strokes& strokes, const Affine2& to_sheet, double pixel, Progress& progress);

/// Lets ends meet where their lines cross, rounds meet their lines tangentially, and lays lines that are level
/// or upright to half a pixel quite so.
void settleJoints(TracePieces& t, double pixel);

} // namespace prism
