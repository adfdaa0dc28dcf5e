#pragma once
#include "core/proofing/proof.h"
#include "core/proposing/telling_apart.h"
#include "core/proposing/work.h"

namespace prism {

/// Another solid that shows every line of the views as well.
struct Alternative {
    std::vector<Step> steps;
    double volume = 0;   ///< mm^3
    std::string differs; ///< from the one proposed, in words
    TopoDS_Shape shape;
    Difference difference; ///< of its solid from the one proposed
};

/// A solid suggested from the views, as the steps that make it.
struct Proposal {
    std::vector<Step> steps;
    std::string how; ///< in words
    int tried = 0;   ///< candidate steps tried against the proof
    /// Whether the solid shows every line of the principal views, and none besides; else in how many it
    /// differs.
    bool clean = false;
    int missing = 0, extra = 0;
    std::string left_undone; ///< what a budget kept from being looked at; empty for nothing
    /// Name of a fact without which a solid would show every line; empty for none.
    std::string denied;
    std::vector<Alternative> alternatives;
    BuildResult build; ///< the solid itself
    Proof proof;       ///< how it compares with the views of the figure
};

/// How far a proposal goes when the views do not agree on one solid.
enum class Effort {
    exact,   ///< only what shows every line
    quick,   ///< what the views agree on most, as it is
    thorough ///< then also single cuts tried against the proof; may take a minute
};

/// Suggests steps. Holes are told by their lines and taken out of the figure first. Then half profiles turned
/// round the axis of an end view, whole or with areas of the views cut from them; else cells of material that
/// all views and sections agree on, made by extruded areas; else cuts tried one by one, each kept only when
/// the solid projected back comes closer to the sheet. Every suggestion is built and proved before it is
/// made. Ends when the work is exhausted. `kinds` alike: which lines are hidden counts for nothing. `said`:
/// the facts (facts.h), which every suggestion keeps. Impossible, in words, when there is none.
Result<Proposal> propose(const Figure& f, Work& work, Progress& progress, Effort effort = Effort::thorough,
                         LineKinds kinds = LineKinds::told, const std::vector<Step>& said = {});
inline Result<Proposal> propose(const Figure& f, Progress& progress, Effort effort = Effort::thorough) {
    Work unlimited;
    return propose(f, unlimited, progress, effort);
}

} // namespace prism
