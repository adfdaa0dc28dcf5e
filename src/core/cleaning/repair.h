#pragma once
#include "core/base/geometry.h"

#include <array>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

namespace prism {

/// One recorded repair. Nothing is deleted: lines are set aside, or stand changed in the repaired drawing.
struct Repair {
    std::string kind;          ///< one of repairKinds()
    std::vector<int> entities; ///< the ones set aside or changed; ids of the drawing as read
    Vec2 at;                   ///< a place to look at, in the repaired drawing
    double size = 0;           ///< how much it moves or closes, sheet units (radians for a turned sheet)
    std::string key;           ///< survives reading the same file again; names it in RepairChoices
    bool on = true;            ///< false: seen, but switched off by a person
};

/// A kind of repair in words.
struct RepairKind {
    const char* kind;
    const char* label;       ///< what it is, for tables
    const char* consequence; ///< what was done, for a person
};
/// All kinds, in the order in which they are done.
const std::vector<RepairKind>& repairKinds();
const RepairKind& repairKind(const std::string& kind);

/// Whether a repair of this kind and key is to be done.
struct RepairChoices;
bool isOn(const RepairChoices& choices, const std::string& kind, const std::string& key);

/// What a person decided about the repairs.
struct RepairChoices {
    std::map<std::string, bool> kinds; ///< switched on or off as a whole; on when not named
    std::set<std::string> off;         ///< keys of single repairs switched off
    std::optional<double> gap;         ///< widest gap that is closed, mm on the sheet; 0.5 when not chosen
    friend bool operator==(const RepairChoices&, const RepairChoices&) = default;
};

/// An end of an outline that meets nothing, once all repairs are done.
struct LooseEnd {
    int entity = 0;
    Vec2 at;
    double gap = 0; ///< to the nearest line it might have met, sheet units
};

} // namespace prism
