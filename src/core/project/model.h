#pragma once
#include "core/base/progress.h"
#include "core/building/material.h"
#include "core/building/solid.h"
#include "core/checking/finding.h"
#include "core/ledger/ledger.h"
#include "core/project/levels.h"
#include "core/proofing/proof.h"
#include "core/reading/reading_choices.h"

#include <memory>

// All that is computed from a source drawing and the person's choices.
namespace prism {

struct Choices {
    ReadingChoices reading;
    MarkUp marks;
    LayerChoices layers;
    RepairChoices repairs;
    ViewChoices views;
    NumberChoices numbers;
    PartLevels levels;
    std::vector<Step> steps;
    std::vector<Step> facts;                     ///< what is known to be material or air (proposing/facts.h)
    std::optional<Material> material;            ///< none: the part is not weighed
    std::map<std::string, std::string> accepted; ///< findings left as they are, by keyOf, each with a note
    friend bool operator==(const Choices&, const Choices&) = default;
};

/// The choices with what a repair changes of them.
Choices changed(Choices c, const Change& by);

/// How far a model is computed; each stage holds those before it.
enum class Stage {
    views,  ///< the sheet read, repaired and taken apart into views
    figure, ///< the figure and its numbers, as drawn and as driven
    checks, ///< what the checks say
    solid   ///< closed areas, the solid and its proof
};

/// All that the stages leave behind. A value: never changed once computed. What lies beyond `reached` is
/// empty.
struct Model {
    Stage reached = Stage::views;
    std::shared_ptr<const Drawing> source;  ///< as read
    std::shared_ptr<const Drawing> drawing; ///< as repaired: what all later stages work on
    CleanSheet sheet;
    ViewSet views;
    Figure drawn; ///< the figure as drawn
    Ledger drawn_ledger;
    Figure figure;                 ///< the figure as driven
    Ledger ledger;                 ///< the same numbers as driven, and those of levels
    std::vector<Finding> checked;  ///< by the checks alone
    std::vector<Finding> findings; ///< these, and what the solid tells of the sheet
    AreaSets areas;                ///< of the figure
    BuildResult build;
    std::optional<Proof> proof;
    std::string trouble; ///< why the proof failed; empty when all is well
    bool has(Stage s) const { return reached >= s; }
};

/// What formulas of steps give with the numbers of a ledger, which must outlive it.
NumberSource numbersIn(const Ledger& ledger);

/// A solid that has been built already for steps on the figure of these choices; empty when there is none.
struct ReadyBuild {
    std::vector<Step> steps;
    BuildResult build;
    std::optional<Proof>
        proof{}; ///< how the solid compares with the views of the figure, where that is known
};

/// Computes what the choices ask for, as far as asked. Takes over from `before` the stages that do not depend
/// on what changed (it may be null). Numbers that clash are an error (impossible), and so is cancelling; the
/// caller then keeps what it had. Nothing that a library throws leaves it.
Result<std::shared_ptr<const Model>> computeModel(const std::string& source, const Choices& choices,
                                                  const std::shared_ptr<const Model>& before,
                                                  const Choices& choices_before, Progress& progress,
                                                  Stage up_to = Stage::solid, const ReadyBuild& ready = {});

} // namespace prism
