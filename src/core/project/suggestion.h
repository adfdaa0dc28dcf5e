#pragma once
#include "core/project/model.h"
#include "core/proposing/propose.h"

// What a person may do next while building by hand: told by the solid that the views determine, the goal.
namespace prism {

/// A line of the sheet that the solid does not show, or not all of it.
struct MissingLine {
    int entity = 0; ///< of the drawing
    int view = 0;   ///< id in the ViewSet
    bool hidden = false;
    double length = 0; ///< mm of it that are missing
    Vec2 at;           ///< a place on it, model coordinates of the view as it now stands
};
/// The longest first. All lines, as long as there is no solid.
std::vector<MissingLine> missingLines(const Model& m);

struct Suggestion {
    Step step;
    int missing = 0;   ///< lines of the sheet that are still missing after it
    bool sure = false; ///< whether the goal shows every line; else all of it is a guess
};

/// The first step of the goal that brings the solid nearer to it; where several solids show every line, the
/// goal is the one from which the solid that is there differs in the fewest pieces. With `line`, a drawing
/// entity, the first of them after which more of that line is there. `steps`: the build list of the model, up
/// to where it stops. Impossible, in words, when there is none.
Result<Suggestion> nextStep(const Model& m, const Choices& c, const Proposal& goal, std::optional<int> line,
                            Progress& progress);

/// The build list brought to its end.
struct Completion {
    std::vector<Step> steps; ///< those that were there, as they were, and the ones added
    int added = 0;
    int missing = 0;         ///< lines of the sheet that are still missing
    std::string left_undone; ///< why the solid does not show every line; empty when it does
    ReadyBuild built;        ///< the solid of the steps; empty where the list stops before its end
};
/// Adds steps until the solid is the goal. Impossible, in words, when not one can be added.
Result<Completion> completed(const Model& m, const Choices& c, const Proposal& goal, Progress& progress);

/// What an extrusion of the areas of `begun` most likely does: it adds what the goal has there and the solid
/// lacks, or cuts what the goal lacks and the solid has, whichever is more, as far as that goes. Impossible,
/// in words, when the goal says nothing of them.
Result<Suggestion> likelyStep(const Model& m, const Choices& c, const Proposal& goal, Step begun,
                              Progress& progress);

} // namespace prism
