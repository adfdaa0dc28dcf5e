#include "core/proposing/facts.h"

#include "core/building/overlap.h"

#include <fmt/format.h>

namespace prism {

std::optional<std::string> wrongAsFact(const Step& s) {
    if (s.kind != StepKind::extrude || s.operation == Operation::intersect)
        return "a fact is areas pushed square to their view, said to be material or air";
    if (s.draft != 0) return "the sides of a fact do not lean";
    if (!s.tops.empty()) return "a fact has one reach for all its areas";
    return missingIn(s);
}

Result<std::vector<Fact>> factsIn(const Figure& f, const AreaSets& areas, const std::vector<Step>& said) {
    Figure drawn = f;
    drawn.now = f.drawn;
    std::vector<Fact> r;
    for (const Step& s : said) {
        const auto wrong = [&](const std::string& why) {
            return failure(ErrorCode::impossible, fmt::format("fact \"{}\": {}", s.name, why));
        };
        if (const auto why = wrongAsFact(s)) return wrong(*why);
        const FigureView* v = f.viewNamed(s.view);
        if (!v || !(v->principal() || cutsSquare(*v)))
            return wrong(fmt::format("the {} view does not look along an axis of the part, or is not there",
                                     nameOf(s.view)));
        const auto now = stepBody(f, areas, s);
        if (!now) return wrong(now.error().message);
        const auto before = stepBody(drawn, areas, s);
        if (!before) return wrong(before.error().message);
        Fact fact{s.name, {v->view, {}, 0, 0, s.operation == Operation::add}, now->shape};
        std::tie(fact.region.lo, fact.region.hi) = extentAlong(before->shape, v->axes.depth);
        for (const Vec2 seed : s.areas)
            for (const ClosedArea& a : areas.drawn)
                if (a.view == v->view && a.contains(seed)) fact.region.areas.push_back(a);
        r.push_back(std::move(fact));
    }
    return r;
}

const Fact* notKept(const std::vector<Fact>& facts, const TopoDS_Shape& solid) {
    constexpr double kNothing = 1e-6; ///< share of the body that may be otherwise: the modeller's own noise
    for (const Fact& f : facts) {
        const TopoDS_Shape against = f.region.material ? beyond(f.body, solid) : commonOf(f.body, solid);
        if (volumeOf(against) > kNothing * volumeOf(f.body)) return &f;
    }
    return nullptr;
}

} // namespace prism
