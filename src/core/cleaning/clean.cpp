#include "core/cleaning/workbench.h"

namespace prism {

CleanSheet clean(std::shared_ptr<const Drawing> d, const LayerChoices& layers, const RepairChoices& repairs) {
    CleanSheet s;
    const Box2 box = d->box();
    const double reach =
        box.valid()
            ? std::max({std::abs(box.lo.x), std::abs(box.lo.y), std::abs(box.hi.x), std::abs(box.hi.y)})
            : 1;
    s.tolerances = Tolerances::forSheet(box.valid() ? box.diagonal() : 1, reach);
    for (const Picture& p : d->pictures) s.tolerances = s.tolerances.forTracing(p.pixel);
    s.drawing = d;
    s.repair_choices = repairs;
    assignRoles(*d, layers, s);
    repairing::Workbench w(std::move(d), repairs, s);
    repairing::turnSheet(w);
    repairing::moveOrigin(w);
    repairing::setSpecksAside(w);
    repairing::setRepeatsAside(w);
    repairing::setHatchingAside(w);
    repairing::joinDashes(w);
    repairing::recoverArcs(w);
    repairing::straighten(w);
    repairing::closeCorners(w);
    repairing::closeBreaks(w);
    repairing::joinPieces(w);
    repairing::listLooseEnds(w);
    return s;
}

} // namespace prism
