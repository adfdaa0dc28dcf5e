#pragma once
#include "core/proofing/proof.h"

namespace prism {

/// How much a solid costs to be projected back: its faces, free-form ones and edges counting for several.
int weightOf(const TopoDS_Shape& shape);
/// More than that is not projected back at all, neither at once nor in a search taken together.
inline constexpr int kMostWeight = 1500;
/// How far a solid is from the sheet: mm of missing and extra line, and of the sides of areas cut otherwise.
double distanceFromSheet(const Proof& p);

struct CutsFound {
    std::vector<Step> steps;
    double off = 0; ///< distance from the sheet, seams that are left between faces counted as lines
    int tried = 0;
    bool ended = false; ///< a budget ended the search
};
/// Cuts by single areas, through and then to the depths that other views show, each kept when the solid
/// projected back comes closer to the sheet. Begins with the steps given, or else with the outlines of all
/// principal views intersected.
CutsFound bySingleCuts(const Figure& f, const AreaSets& areas, const std::vector<Step>& from,
                       Progress& progress);

} // namespace prism
