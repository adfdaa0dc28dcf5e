#pragma once
#include "core/base/progress.h"
#include "core/base/tolerances.h"
#include "core/drawing/drawing.h"

namespace prism {

/// What a person decided about the layers; layers not named keep the guess.
struct LayerChoices {
    std::map<std::string, bool> on;
    std::map<std::string, LineRole> role;
    friend bool operator==(const LayerChoices&, const LayerChoices&) = default;
};

/// One recorded repair: nothing is deleted, entities are only set aside.
struct Repair {
    std::string kind;          ///< "duplicate", "contained" or "speck"
    std::vector<int> entities; ///< the ones set aside
    Vec2 at;                   ///< a place to look at
};

/// The drawing with roles and recorded repairs on top.
struct CleanSheet {
    std::vector<LineRole> layer_roles;  ///< by layer index
    std::vector<bool> layer_on;         ///< by layer index
    std::vector<LineRole> entity_roles; ///< by entity id
    std::vector<bool> in_use;           ///< by entity id: layer on and not set aside by a repair
    std::vector<Repair> repairs;
    Tolerances tolerances;
};

/// A name for an entity that survives reading the same file again.
std::string keyOf(const Entity& e);

/// Role of a line type from its dash pattern (ISO 128-2): equal dashes hidden, long and short or dotted
/// centre.
LineRole roleOfLineType(const Drawing& d, const std::string& name);
/// Role of a layer from the words in its name; unknown when none is telling.
LineRole roleOfLayerName(const std::string& name);

/// Gives every entity a role, sets aside exact duplicates, lines contained in longer ones, and specks.
CleanSheet clean(const Drawing& d, const LayerChoices& choices);

} // namespace prism
