#include "core/proposing/usual_choices.h"

#include "core/proposing/chamfers_seen.h"
#include "core/proposing/lacking_holes.h"

#include <fmt/format.h>

#include <span>

namespace prism {
namespace {

/// Whether a step cuts nothing but full circles of a view.
bool cutsCircles(const Figure& f, const AreaSets& areas, const Step& s) {
    const FigureView* v = f.viewNamed(s.view);
    if (!v || s.kind != StepKind::extrude || s.operation != Operation::cut || !s.tops.empty()) return false;
    const double tol = f.tolerances.proof;
    const auto isRound = [&](const ClosedArea& a) {
        const auto* first = std::get_if<Arc>(&a.outer.front().shape);
        return first && std::ranges::all_of(a.outer, [&](const AreaEdge& e) {
                   const auto* arc = std::get_if<Arc>(&e.shape);
                   return arc && distance(arc->centre, first->centre) <= tol &&
                          std::abs(arc->radius - first->radius) <= tol;
               });
    };
    const auto isCircle = [&](Vec2 seed) {
        return std::ranges::any_of(areas.drawn, [&](const ClosedArea& a) {
            return a.view == v->view && isRound(a) && a.contains(seed);
        });
    };
    return !s.areas.empty() && std::ranges::all_of(s.areas, isCircle);
}

/// The same steps with one of them through, as one step with another such cut where there is one.
std::vector<Step> withThrough(const Figure& f, const AreaSets& areas, std::vector<Step> steps, size_t i) {
    Step s = steps[i];
    s.reach = Reach::through, s.from = {}, s.to = {};
    const auto other = std::ranges::find_if(steps, [&](const Step& o) {
        return o.reach == Reach::through && o.view == s.view && cutsCircles(f, areas, o);
    });
    if (other == steps.end()) {
        steps[i] = std::move(s);
        return steps;
    }
    other->areas.insert(other->areas.end(), s.areas.begin(), s.areas.end());
    steps.erase(steps.begin() + static_cast<long>(i));
    return steps;
}

/// Whether two steps cut the same circles, one from each side.
bool faceEachOther(const Figure& f, const AreaSets& areas, const Step& a, const Step& b) {
    return a.view == b.view && a.reach == Reach::between && b.reach == Reach::between &&
           (a.from.kind == Bound::Kind::outermost) != (b.from.kind == Bound::Kind::outermost) &&
           (a.to.kind == Bound::Kind::outermost) != (b.to.kind == Bound::Kind::outermost) &&
           cutsCircles(f, areas, a) && cutsCircles(f, areas, b) &&
           std::ranges::is_permutation(a.areas, b.areas);
}

void preferThrough(const Figure& f, const AreaSets& areas, Judge& best) {
    for (size_t i = 0; i < best.steps.size(); ++i) {
        const Step& s = best.steps[i];
        if (s.reach != Reach::between || !cutsCircles(f, areas, s)) continue;
        const size_t n = s.areas.size(), before = best.steps.size();
        best.prefer(withThrough(f, areas, best.steps, i),
                    fmt::format("{} round cut{} to a depth in place of through", n, n == 1 ? "" : "s"));
        if (best.steps.size() < before) --i;
    }
}

/// Holes of one axis in several places of the part, as in the flanges at both ends of a pipe, where in one
/// place the lines of others stand for theirs: there as well.
void preferAlike(const Figure& f, const AreaSets& areas, Judge& best) {
    constexpr int kMostTries = 16; // each builds a solid and proves it
    int tries = 0;
    const auto taken = [&](const FigureView& v, const LackingHoles& l,
                           std::span<const std::vector<Vec2>> holes) {
        if (++tries > kMostTries) {
            best.left_undone = "not every hole behind others of its axis was tried";
            return false;
        }
        Step cut;
        cut.kind = StepKind::extrude, cut.operation = Operation::cut, cut.view = v.name;
        for (const auto& seeds : holes) cut.areas.insert(cut.areas.end(), seeds.begin(), seeds.end());
        cut.reach = Reach::between, cut.from = l.from, cut.to = l.to;
        std::vector<Step> steps = best.steps;
        steps.push_back(std::move(cut));
        const size_t kept = best.others.size();
        best.prefer(std::move(steps), fmt::format("{} hole{} fewer behind others of the same axis",
                                                  holes.size(), holes.size() == 1 ? "" : "s"));
        return best.others.size() > kept;
    };
    for (const FigureView& v : f.views) {
        if (!v.principal()) continue;
        for (const LackingHoles& l : lackingHoles(f, v, areas, best.build))
            if (!taken(v, l, l.holes) && l.holes.size() > 1)
                for (const auto& seeds : l.holes) taken(v, l, {&seeds, 1});
    }
}

void preferChamfers(const Figure& f, const AreaSets& areas, Judge& best) {
    for (const ChamferForStep& c : chamfersForSteps(f, areas, best.build.shape)) {
        std::vector<Step> steps = best.steps;
        steps.insert(steps.end(), {c.fill, c.cut});
        best.prefer(std::move(steps),
                    fmt::format("a step of {0:g} mm in place of the chamfer of {0:g} mm at the "
                                "radius of {1:g} mm",
                                c.width, c.radius));
    }
}

/// Two holes that face each other from both sides of the part, as in the arms of a fork, as one that runs
/// through both, where that takes away nothing else.
void joinFacingHoles(Judge& best) {
    const auto facing = [](const Step& a, const Step& b) {
        Step o = b;
        o.hole.from_far = !o.hole.from_far, o.to = a.to, o.name = a.name;
        return a.kind == StepKind::hole && a.reach == Reach::between && a.hole.kind == HoleKind::plain &&
               a == o;
    };
    for (size_t i = 0; i < best.steps.size(); ++i)
        for (size_t k = i + 1; k < best.steps.size(); ++k) {
            if (!facing(best.steps[i], best.steps[k])) continue;
            std::vector<Step> steps = best.steps;
            Step& one = steps[i];
            one.reach = Reach::through, one.from = one.to = {}, one.name = {};
            one.hole.from_far = false, one.hole.point = HoleShape{}.point;
            steps.erase(steps.begin() + static_cast<std::ptrdiff_t>(k));
            best.restate(std::move(steps));
        }
}

} // namespace

void joinFacingCuts(const Figure& f, const AreaSets& areas, Judge& best) {
    const auto joined = [&] {
        const std::vector<Step> kept = best.steps;
        for (size_t i = 0; i < kept.size(); ++i)
            for (size_t k = i + 1; k < kept.size(); ++k) {
                if (!faceEachOther(f, areas, kept[i], kept[k])) continue;
                std::vector<Step> steps = withThrough(f, areas, kept, k);
                steps.erase(steps.begin() + static_cast<std::ptrdiff_t>(i));
                if (best.consider(std::move(steps), "round cuts from both sides made one")) return true;
            }
        return false;
    };
    while (!best.clean && joined()) {
    } // a part may have several; each join leaves a step less
}

void preferUsual(const Figure& f, const AreaSets& areas, Judge& best) {
    preferThrough(f, areas, best);
    preferAlike(f, areas, best);
    preferChamfers(f, areas, best);
    joinFacingHoles(best);
}

} // namespace prism
