#include "core/building/step_list.h"

#include <fmt/format.h>

namespace prism {
namespace {

size_t stopOf(const std::vector<Step>& steps) {
    return static_cast<size_t>(std::ranges::find(steps, true, &Step::stop) - steps.begin());
}

} // namespace

std::string freshName(const std::vector<Step>& steps, StepKind kind) {
    for (size_t n = 1;; ++n) {
        std::string name = fmt::format("{} {}", nameOf(kind), n);
        if (std::ranges::none_of(steps, [&](const Step& s) { return s.name == name; })) return name;
    }
}

size_t builtSteps(const std::vector<Step>& steps) {
    return std::min(stopOf(steps) + 1, steps.size());
}

void toggleStop(std::vector<Step>& steps, size_t behind) {
    const bool again = stopOf(steps) == behind;
    for (Step& s : steps) s.stop = false;
    steps[behind].stop = !again && behind + 1 < steps.size();
}

void goOnWith(std::vector<Step>& steps, Step s) {
    const size_t stop = stopOf(steps);
    if (stop == steps.size()) return steps.push_back(std::move(s));
    steps[stop].stop = false, s.stop = true;
    steps.insert(steps.begin() + static_cast<long>(stop) + 1, std::move(s));
}

void moveStep(std::vector<Step>& steps, size_t from, size_t to) {
    const size_t stop = stopOf(steps);
    const auto at = [&](size_t k) { return steps.begin() + static_cast<long>(k); };
    if (from < to)
        std::rotate(at(from), at(from) + 1, at(to) + 1);
    else
        std::rotate(at(to), at(from), at(from) + 1);
    if (stop < steps.size()) {
        for (Step& s : steps) s.stop = false;
        steps[stop].stop = true;
    }
    const std::string before = to > 0 ? steps[to - 1].group : "",
                      behind = to + 1 < steps.size() ? steps[to + 1].group : "";
    std::string& own = steps[to].group;
    if (before == behind)
        own = before;
    else if (own != before && own != behind)
        own.clear();
}

void removeStep(std::vector<Step>& steps, size_t which) {
    if (steps[which].stop && which > 0) steps[which - 1].stop = true;
    steps.erase(steps.begin() + static_cast<long>(which));
}

Result<void> renameStep(std::vector<Step>& steps, size_t which, const std::string& name) {
    const std::string old = steps[which].name;
    if (name.find_first_not_of(' ') == std::string::npos)
        return failure(ErrorCode::usage, "a step needs a name");
    if (name == old) return {};
    if (std::ranges::find(steps, name, &Step::name) != steps.end())
        return failure(ErrorCode::usage, fmt::format("another step is called \"{}\"", name));
    steps[which].name = name;
    // Several may have had the old name; what speaks of them all now speaks of this one besides.
    const bool others = std::ranges::find(steps, old, &Step::name) != steps.end();
    if (old.empty()) return {};
    for (Step& s : steps) {
        if (s.edges.step == old && !others) s.edges.step = name;
        if (const auto at = std::ranges::find(s.of, old); at != s.of.end()) {
            if (others)
                s.of.insert(at + 1, name);
            else
                *at = name;
        }
    }
    return {};
}

} // namespace prism
