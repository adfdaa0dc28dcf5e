#pragma once
#include "core/base/progress.h"
#include "core/base/tolerances.h"
#include "core/cleaning/repair.h"
#include "core/cleaning/sheet_nodes.h"
#include "core/marking/mark_up.h"

#include <memory>

namespace prism {

/// What a person decided about the layers; layers not named keep the guess.
struct LayerChoices {
    std::map<std::string, bool> on;
    std::map<std::string, LineRole> role;
    friend bool operator==(const LayerChoices&, const LayerChoices&) = default;
};

/// The drawing with roles and recorded repairs on top.
struct CleanSheet {
    /// What the later stages work on: the drawing as read when no repair changed a line, else a copy with the
    /// same entities under the same ids.
    std::shared_ptr<const Drawing> drawing;
    /// The same before halves that are not drawn were added; what was added has ids beyond its own. None
    /// where nothing was.
    std::shared_ptr<const Drawing> without_halves;
    std::vector<LineRole> layer_roles;      ///< by layer index
    std::vector<std::string> layer_reasons; ///< by layer index: what the role was guessed from
    std::vector<bool> layer_on;             ///< by layer index
    std::vector<LineRole> entity_roles;     ///< by entity id
    std::vector<bool> in_use;               ///< by entity id: layer on and not set aside by a repair
    std::vector<Repair> repairs;
    std::vector<LooseEnd> loose_ends;
    SheetNodes nodes;                     ///< which ends of the repaired lines are one place
    std::vector<std::string> left_undone; ///< what was too much to be looked for, in words
    double gap = 0;                       ///< widest gap that is closed, sheet units
    Affine2 to_file; ///< from the repaired drawing to the coordinates of the file; other than unity only for
                     ///< a turned sheet
    Tolerances tolerances;
    RepairChoices repair_choices; ///< as decided, for repairs that need to know the views
};

/// Role of a line type from its dash pattern (ISO 128-2): equal dashes hidden, long and short or dotted
/// centre.
LineRole roleOfLineType(const Drawing& d, const std::string& name);
/// Role of a layer from the words in its name; unknown when none is telling.
LineRole roleOfLayerName(const std::string& name);

/// Which layers are on when only lines of the part are wanted: those with outline, hidden or centre lines,
/// and those with dimensions.
std::map<std::string, bool> partLayersOnly(const Drawing& d, const CleanSheet& s);

/// Whether hatching reaches up to a line all along it, within a tolerance.
bool hatchedUpTo(const Entity& hatching, const Entity& line, double tolerance);

/// Gives every layer and entity a role.
void assignRoles(const Drawing& d, const LayerChoices& choices, CleanSheet& s);

/// Roles, then repairs; an undamaged sheet is left as it is. When it is stopped, the repairs still to come
/// are left out.
CleanSheet clean(std::shared_ptr<const Drawing> d, const LayerChoices& layers, const RepairChoices& repairs,
                 Progress& progress);
inline CleanSheet clean(std::shared_ptr<const Drawing> d, const LayerChoices& layers,
                        const RepairChoices& repairs = {}) {
    NoProgress quiet;
    return clean(std::move(d), layers, repairs, quiet);
}

} // namespace prism
