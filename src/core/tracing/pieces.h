#pragma once
#include "core/base/curve.h"
#include "core/drawing/drawing.h"
#include "core/tracing/strokes.h"

#include <functional>

namespace prism {

/// A line or an arc along part of a stroke, or across several that go on in each other. Sheet coordinates.
struct TracePiece {
    std::vector<Vec2> points; ///< sure ones, in order; what the shape is fitted to
    Curve shape = Segment{};
    int from = -1, to = -1;  ///< joints at its ends; -1 where it ends free
    std::vector<int> passes; ///< joints that lie along it
    double width = 0;        ///< of the ink, sheet units
    double rms = 0;          ///< of the points from the shape
    int component = 0;       ///< of the ink
};

struct TracePieces {
    std::vector<TracePiece> pieces;
    std::vector<Vec2> joints;
};

/// Cuts strokes into the fewest lines and arcs that stay within the tolerance (dynamic programming over the
/// corners of a Douglas-Peucker simplification), and joins those that go on in each other.
TracePieces piecesOf(const Strokes& strokes, const Affine2& to_sheet, double pixel, Progress& progress);

/// Joins pieces on both sides of a place where other ink runs over them, if they lie on one line or circle
/// and there is ink all along between them. What short pieces that leaves on top of them are dropped.
void bridgeCrowded(TracePieces& t, double pixel, const std::function<bool(Vec2)>& inked);

/// Short outline pieces that lead from a line back to it or to nothing, as arrow heads on an outline leave
/// them: they bound no area. `width`: of most of the ink.
std::vector<size_t> stubsOf(const TracePieces& t, const std::vector<LineRole>& roles, double width);

/// Lays lines that are level or upright to half a pixel quite so, and those at nearly one height at one.
void layLevel(TracePieces& t, double pixel);

/// Whether the ink of a piece runs into that of others for most of its length: it does not tell where it
/// goes.
bool isShort(const TracePiece& p, double pixel);
/// Such lines run from a corner of long lines through the middle of their own ink.
void aimShortLines(TracePieces& t, double pixel);

/// All of that, with ends meeting where their lines cross, and rounds meeting their lines tangentially.
void settleJoints(TracePieces& t, double pixel);

} // namespace prism
