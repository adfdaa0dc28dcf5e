#pragma once
#include "core/building/solid.h"
#include "core/proposing/view_map.h"

// What a person has said of the part beforehand. A fact is kept like a step: areas pushed square to their
// view from one bound to another; one that adds says that they are material there, one that cuts that they
// are air.
namespace prism {

struct Fact {
    std::string name;
    KnownRegion region; ///< in the figure as drawn
    TopoDS_Shape body;  ///< in the figure as it now stands
};

/// Why a step cannot be a fact, in words; none when it can.
std::optional<std::string> wrongAsFact(const Step& s);

/// The facts as the lines of sight and the judge take them. Impossible, with the name of the fact, where one
/// is none or its areas or bounds are not there.
Result<std::vector<Fact>> factsIn(const Figure& f, const AreaSets& areas, const std::vector<Step>& said);

/// The first fact that a solid does not keep; null when it keeps all.
const Fact* notKept(const std::vector<Fact>& facts, const TopoDS_Shape& solid);

} // namespace prism
