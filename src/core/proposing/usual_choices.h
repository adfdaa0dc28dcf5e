#pragma once
#include "core/proposing/judge.h"

namespace prism {

/// Of what the views leave open, what is by far more usual: round cuts through rather than to a depth that no
/// line tells, holes in all the places behind each other where one of their axis is, chamfered ends rather
/// than stepped ones. What stood there becomes an alternative. Holes that face each other become one, where
/// the solid stays the same. Only once something fits the sheet.
void preferUsual(const Figure& f, const AreaSets& areas, Judge& best);

/// Where nothing fits: round cuts from both sides that leave a piece between them are tried as one through
/// the part. Lines of a keyway beside a cross hole as wide as it may stand for the ends of such a piece.
void joinFacingCuts(const Figure& f, const AreaSets& areas, Judge& best);

} // namespace prism
