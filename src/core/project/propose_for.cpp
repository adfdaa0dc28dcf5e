#include "core/project/propose_for.h"

#include "core/building/kernel.h"

namespace prism {

Result<Proposal> proposeFor(const Model& m, Work& work, Progress& progress, Effort effort) {
    return guarded<Proposal>([&] { return propose(m.figure, work, progress, effort); });
}

} // namespace prism
