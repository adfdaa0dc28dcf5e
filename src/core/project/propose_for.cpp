#include "core/project/propose_for.h"

#include "core/building/kernel.h"

namespace prism {

Result<Proposal> proposeFor(const Model& m, Progress& progress, Effort effort, int most_work) {
    return guarded<Proposal>([&] { return propose(m.figure, progress, effort, most_work); });
}

} // namespace prism
