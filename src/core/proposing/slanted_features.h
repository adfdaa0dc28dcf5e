#pragma once
#include "core/figure/rounds.h"
#include "core/proposing/bosses_seen.h"

// What an auxiliary view tells of a slanted face: round holes and bosses square to it, and corners of it that
// are rounded. The other views show them as ellipses, or edge on.
namespace prism {

/// Corners that auxiliary views show rounded.
std::vector<Round> slantedRounds(const Figure& f);

/// A figure in whose principal views these corners are sharp: the ellipses that they show of them give way to
/// the lines that meet there. `whole` is the figure of the rounds.
Figure slantsSharpened(Figure f, const Figure& whole, const std::vector<Round>& rounds);

/// The round holes that auxiliary views show as circles, and a view beside them by their walls.
std::vector<HoleSeen> slantedHoles(const Figure& f, Progress& progress);

/// The round bosses that auxiliary views show as circles, likewise. `areas`: of the whole sheet.
std::vector<BossSeen> slantedBosses(const Figure& f, const AreaSets& areas, Progress& progress);

} // namespace prism
