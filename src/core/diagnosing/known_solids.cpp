#include "core/diagnosing/known_solids.h"

#include "core/project/same_figure.h"

namespace prism {

const KnownSolids::Outcome* KnownSolids::of(const Search& s) const {
    ++asked_;
    const auto it = std::ranges::find_if(kept_, [&](const auto& k) {
        const Search& was = k.first;
        return was.effort == s.effort && was.kinds == s.kinds && was.limit == s.limit &&
               sameFigure(was.choices, s.choices);
    });
    if (it == kept_.end()) return nullptr;
    ++known_;
    return &it->second;
}

const KnownSolids::Outcome& KnownSolids::keep(Search s, Outcome o) {
    constexpr size_t kMost = 48;
    if (kept_.size() == kMost) kept_.pop_back();
    return kept_.emplace_front(std::move(s), std::move(o)).second;
}

} // namespace prism
