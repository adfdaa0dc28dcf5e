#pragma once
#include "core/project/document.h"

namespace prism {

/// The sheet as it now stands: the drawing with the solved figure in its place. What is not part of the
/// figure (dimensions, centre lines) is carried along with its view; everything else stays as read.
struct SolvedSheet {
    std::vector<std::vector<Curve>> curves; ///< by entity id, sheet coordinates
    std::vector<Dimension> dimensions;      ///< by dimension id, with the present value as text
    /// Hatching of sections by view, drawn anew in the areas that are hatched; sheet coordinates.
    std::map<int, std::vector<Segment>> hatching;
    /// Lines by entity id that go round what is broken out: drawn thin (ISO 128-2).
    std::set<int> freehand;
};

SolvedSheet solvedSheet(const Model& m);
/// The sheet as drawn, whatever is driven.
SolvedSheet sheetAsDrawn(const Model& m);
/// The drawing with its lines as they are shown; the drawing itself where nothing has moved.
std::shared_ptr<const Drawing> drawingAsShown(const Model& m, const SolvedSheet& shown);

/// A length as shown to people: in the sheet's unit, with as many decimals as it needs, at most `decimals`.
std::string lengthText(double mm, const UnitEvidence& unit, int decimals = 3);

} // namespace prism
