#pragma once
#include "core/proofing/proof.h"

#include <TopoDS_Shape.hxx>

namespace prism {

/// Makes those lines hidden which the search for hidden lines calls seen, now and then, though they lie
/// behind something: where `pieces` that no line of the sheet stands for are said to be seen, but a viewer
/// meets one and the same face on both sides of them, no deeper on one than on the other. `beside`: how far
/// to the sides he looks, mm. Says whether there were any.
bool hideFalselySeen(const TopoDS_Shape& shape, const ViewFrame& frame, const std::vector<ProofPiece>& pieces,
                     double beside, std::vector<ProjectedLine>& lines);

} // namespace prism
