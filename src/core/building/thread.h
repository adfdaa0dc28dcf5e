#pragma once
#include <optional>
#include <string>

namespace prism {

/// A metric thread, mm.
struct Thread {
    double diameter = 0, pitch = 0;
    /// Diameter of the hole that it is cut into (D1 of ISO 724).
    double core() const { return diameter - 1.0825317547305482 * pitch; }
};

/// The thread of a designation as "M8" or "M8x1"; `pitch` where that is given apart, 0 otherwise. Without any
/// the coarse pitch of ISO 261. None for what is no such designation, or has no coarse pitch.
std::optional<Thread> threadNamed(const std::string& designation, double pitch);

} // namespace prism
