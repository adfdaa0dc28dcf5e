#pragma once
#include "core/ledger/ledger.h"

namespace prism {

/// Finds what the definition points of a dimension stand on and writes the entry's equation, or why it is
/// loose.
void bindDimension(double extent, const ViewSet& set, const Figure& f, const Dimension& dim, LedgerEntry& e);

} // namespace prism
