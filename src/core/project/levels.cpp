#include "core/project/levels.h"

#include "core/building/reaches.h"
#include "core/building/solid.h"

#include <fmt/format.h>

namespace prism {
namespace {

/// Every bound of a step.
std::vector<Bound*> boundsOf(Step& s) {
    std::vector<Bound*> r{&s.from, &s.to};
    for (Bound& b : s.tops) r.push_back(&b);
    return r;
}

/// The low end of the part along an axis, in unknowns; nothing where no mark stands there.
std::vector<Term> lowEnd(const Figure& f, Axis axis) {
    const auto range = building::partRange(f, axis);
    if (range)
        for (const Mark& m : f.marks)
            if (m.axis == axis && std::abs(f.value(m.terms, f.now) - range->lo) <= f.tolerances.same_model)
                return m.terms;
    return {};
}

LedgerEntry entryOf(const Figure& f, const PartLevel& level) {
    LedgerEntry e;
    e.name = level.name, e.axis = level.axis, e.along_axis = true;
    const auto mark = markAt(f, level.mark, level.axis);
    if (!mark) {
        e.why = mark.error().message;
        return e;
    }
    e.view = (*mark)->view;
    e.low = lowEnd(f, level.axis), e.high = (*mark)->terms;
    std::vector<Term> terms = e.high;
    for (Term t : e.low) t.factor = -t.factor, terms.push_back(t);
    e.equation = Equation::linearOf(Level::strong, terms, 0);
    e.drawn = evaluate(e.equation, f.drawn, nullptr);
    e.value = e.equation.value = evaluate(e.equation, f.now, nullptr);
    e.state = EntryState::reports, e.why = "a level of the build list";
    return e;
}

} // namespace

std::optional<std::string> wrongInName(const std::string& name, const Ledger& ledger) {
    if (ledger.named(name)) return fmt::format("another number is called {}", name);
    // A later dimension could come to be called so.
    const std::string stem = name.substr(0, name.find_last_not_of("0123456789") + 1);
    for (const char* own : {"x", "y", "z", "length", "radius", "dia", "angle"})
        if (stem == own && stem != name) return fmt::format("names like {} are those of dimensions", name);
    if (namesIn(name) != std::vector{name})
        return fmt::format("\"{}\" is no name: letters, digits and underscores are", name);
    return std::nullopt;
}

std::string freshLevelName(const Ledger& ledger) {
    for (int n = 1;; ++n)
        if (std::string name = fmt::format("level{}", n); !ledger.named(name)) return name;
}

void addLevels(Ledger& ledger, const Figure& f, const PartLevels& levels) {
    for (const PartLevel& level : levels)
        if (!ledger.named(level.name)) ledger.entries.push_back(entryOf(f, level));
}

std::vector<Step> withLevels(std::vector<Step> steps, const PartLevels& levels) {
    for (const PartLevel& level : levels) dropLevel(steps, level);
    return steps;
}

void dropLevel(std::vector<Step>& steps, const PartLevel& level) {
    for (Step& s : steps)
        for (Bound* b : boundsOf(s))
            if (b->kind == Bound::Kind::level && b->level == level.name)
                b->kind = Bound::Kind::mark, b->mark = level.mark, b->level.clear();
}

void renameLevelIn(std::vector<Step>& steps, const std::string& from, const std::string& to) {
    for (Step& s : steps) {
        for (Bound* b : boundsOf(s))
            if (b->level == from) b->level = to;
        for (StepNumber* n : numbersOf(s)) n->formula = withNames(n->formula, {{from, to}});
    }
}

void renameLevel(PartLevels& levels, std::vector<Step>& steps, NumberChoices& numbers,
                 const std::string& from, const std::string& to) {
    const std::map<std::string, std::string> names{{from, to}};
    for (PartLevel& l : levels)
        if (l.name == from) l.name = to;
    renameLevelIn(steps, from, to);
    if (auto own = numbers.extract(from); !own.empty()) {
        own.key() = to;
        numbers.insert(std::move(own));
    }
    for (auto& [name, choice] : numbers) choice.formula = withNames(choice.formula, names);
}

} // namespace prism
