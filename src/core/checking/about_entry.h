#pragma once
#include "core/checking/finding.h"

namespace prism::checking {

/// A finding about one dimension, at its text.
Finding aboutEntry(const CheckInput& in, const LedgerEntry& e, const char* kind, Severity s,
                   std::string message);
/// A value as the sheet would say it: in its unit, or in degrees for an angle.
std::string numberOf(const LedgerEntry& e, double value, const CheckInput& in);

} // namespace prism::checking
