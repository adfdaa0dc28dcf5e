#pragma once
#include "core/base/progress.h"
#include "core/proposing/cell_model.h"

// What the views say of the material along lines of sight.
namespace prism {

/// edge: a boundary on one side only, in front or behind; no_step: the same in front, whatever is behind;
/// filled, empty: what the plane of a section goes through; material, air: what a person has said, which
/// holds whatever the lines say.
enum class Seen { step, edge, nothing, no_step, filled, empty, material, air };

/// Maybe: several boundaries lie there so close together that which of them is a surface decides.
enum class Bend { no, maybe, yes };

/// What two lines of sight side by side must show. Cells front to back, the same intervals for both.
struct Sight {
    Seen seen = Seen::nothing;
    std::vector<int> a, b;
    /// By boundary, the first before the first interval: whether a surface there would have a crease between
    /// the two lines of sight, level depth but another slope.
    std::vector<Bend> crease;
    friend bool operator<(const Sight& x, const Sight& y) {
        return std::tie(x.seen, x.a, x.b, x.crease) < std::tie(y.seen, y.a, y.b, y.crease);
    }
};

/// A line of the sheet, or a level of a view where none is drawn.
struct SightLineKey {
    int map = 0;
    enum class Kind { drawn, level_upright, level_across, hatching } kind = Kind::drawn;
    int index = 0; ///< of the curve in its map, or of the level; 0 for all hatching
    friend auto operator<=>(const SightLineKey&, const SightLineKey&) = default;
};

/// Who demands a sight.
struct Demand {
    double weight = 0;            ///< mm
    std::set<SightLineKey> lines; ///< those whose places demand it
};

/// What all places of all views demand.
struct SightsSeen {
    std::map<Sight, Demand> all;
    bool whole = true; ///< whether all places were looked at
};
/// About how many places of the views these are.
size_t placesOf(const std::vector<ViewMap>& maps);
SightsSeen sightsOf(CellModel& model, const Tolerances& t, double size, LineKinds kinds, Progress& progress);

/// A place of a view, on a line or where one would be: its lines of sight pass on both sides of it.
struct SightPlace {
    int map;
    Vec2 at, side;     ///< side: unit, across the line
    double weight = 0; ///< mm of line that it stands for
};
/// What single places demand.
std::map<Sight, Demand> sightsAt(CellModel& model, const Tolerances& t, double size, LineKinds kinds,
                                 const std::vector<SightPlace>& places, Progress& progress);

} // namespace prism
