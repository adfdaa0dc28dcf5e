#pragma once
#include "core/proofing/proof.h"
#include "core/proposing/telling_apart.h"
#include "core/proposing/work.h"

#include <functional>

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

/// How a solid is looked for.
struct Search {
    Effort effort = Effort::thorough;
    LineKinds kinds = LineKinds::told; ///< alike: which lines are hidden counts for nothing
    std::vector<Step> facts;           ///< what every suggestion keeps (facts.h)
    /// Told of every solid that comes nearer to the sheet than those before it, while the search goes on.
    std::function<void(const Proposal&)> better;
};

/// Suggests steps. Holes are told by their lines and taken out of the figure first. Then half profiles turned
/// round the axis of an end view, whole or with areas of the views cut from them; else cells of material that
/// all views and sections agree on, made by extruded areas; else cuts tried one by one, each kept only when
/// the solid projected back comes closer to the sheet. Every suggestion is built and proved before it is
/// made. Ends when the work is exhausted. Impossible, in words, when there is none.
Result<Proposal> propose(const Figure& f, const Search& how, Work& work, Progress& progress);
inline Result<Proposal> propose(const Figure& f, Progress& progress, Effort effort = Effort::thorough) {
    Work unlimited;
    return propose(f, {effort, LineKinds::told, {}, {}}, unlimited, progress);
}

} // namespace prism
