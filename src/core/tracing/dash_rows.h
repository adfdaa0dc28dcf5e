#pragma once
#include "core/drawing/drawing.h"
#include "core/tracing/pieces.h"

namespace prism {

/// Makes one piece of every row of dashes. Returns the role of each piece: hidden for equal dashes, centre
/// for long and short in turn (ISO 128-2), unknown for pieces that are in no row.
std::vector<LineRole> joinDashRows(TracePieces& t, double pixel);

} // namespace prism
