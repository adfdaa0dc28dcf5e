#include "core/cleaning/workbench.h"

namespace prism {

CleanSheet clean(std::shared_ptr<const Drawing> d, const LayerChoices& layers, const RepairChoices& repairs,
                 Progress& progress) {
    CleanSheet s;
    const Box2 box = extentOf(*d);
    const double reach =
        box.valid()
            ? std::max({std::abs(box.lo.x), std::abs(box.lo.y), std::abs(box.hi.x), std::abs(box.hi.y)})
            : 1;
    s.tolerances = Tolerances::forSheet(box.valid() ? box.diagonal() : 1, reach);
    s.tolerances = s.tolerances.forSteps(d->resolution);
    for (const Picture& p : d->pictures) s.tolerances = s.tolerances.forTracing(p.pixel);
    s.drawing = d;
    s.repair_choices = repairs;
    assignRoles(*d, layers, s);
    cleaning::Workbench w(std::move(d), repairs, s);
    using namespace cleaning;
    for (const auto repair :
         {turnSheet, moveOrigin, setPointsAside, setRepeatedLinesAside, setRepeatedArcsAside,
          recogniseCentres, setHatchingAside, joinDashes, setSpecksAside, recoverArcs, straighten,
          closeCorners, closeBreaks, joinPieces, listLooseEnds}) {
        if (progress.cancelled()) break;
        repair(w);
    }
    s.nodes = nodesOf(*s.drawing, s.in_use, s.tolerances.placeOnSheet());
    return s;
}

} // namespace prism
