#include "core/project/propose_for.h"

#include "core/building/kernel.h"

namespace prism {

Result<Proposal> proposeFor(const Model& m, Work& work, Progress& progress, Effort effort, LineKinds kinds) {
    return guarded<Proposal>([&] { return propose(m.figure, work, progress, effort, kinds); });
}

} // namespace prism
