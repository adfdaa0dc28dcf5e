#pragma once
#include "core/proposing/judge.h"
#include "support/three_views.h"

namespace prism::test {

/// What one way of looking for a solid keeps, on the whole figure of a sheet and without a limit of work.
struct Searching {
    const Figure& figure;
    std::vector<ViewMap> maps;
    NoProgress quiet;
    Work work;
    Judge judge;
    /// The document must outlive it.
    explicit Searching(const Document& d)
        : figure(d.model().figure), maps(mapsOf(d)),
          judge(figure, d.model().areas, {}, LineKinds::told, Effort::thorough, work, quiet) {}
};

} // namespace prism::test
