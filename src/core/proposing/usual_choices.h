#pragma once
#include "core/proposing/judge.h"

namespace prism {

/// Of what the views leave open, what is by far more usual: round cuts through rather than to a depth that no
/// line tells, chamfered ends rather than stepped ones. What stood there becomes an alternative. Steps that
/// are images of others are written as mirrors. Only once something fits the sheet.
void preferUsual(const Figure& f, const AreaSets& areas, Judge& best);

} // namespace prism
