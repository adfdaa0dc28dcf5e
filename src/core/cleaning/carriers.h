#pragma once
#include "core/base/curve.h"

#include <vector>

// Straight lines that run one way, and those of them that lie on one infinite line (their carrier). Grouped
// by what follows closely, not by rounded numbers: two lines that differ by a hair are together wherever they
// lie.
namespace prism::cleaning {

/// A line of a group of parallel ones, in the group's own axes.
struct Lying {
    size_t line;     ///< index among those given
    double offset;   ///< across the common direction
    double from, to; ///< along it, from < to
    double length() const { return to - from; }
};

/// Groups of lines whose directions, either way round, differ by at most `same_angle` (radians) from one to
/// the next and by twice that in all; each sorted by offset, then by where they begin. Lines without length
/// are in no group.
std::vector<std::vector<Lying>> parallels(const std::vector<Segment>& lines, double same_angle);

/// The lines of one group by carrier: offsets differ by at most `same_offset` from one to the next and by
/// twice that in all; each sorted by where they begin.
std::vector<std::vector<Lying>> carriers(const std::vector<Lying>& group, double same_offset);

} // namespace prism::cleaning
