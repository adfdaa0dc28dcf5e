#include "core/proposing/propose.h"

#include "core/building/kernel.h"
#include "core/proposing/bosses_seen.h"
#include "core/proposing/cell_steps.h"
#include "core/proposing/consistency.h"
#include "core/proposing/fillets_seen.h"
#include "core/proposing/holes_seen.h"
#include "core/proposing/oblique_planes.h"
#include "core/proposing/single_cuts.h"
#include "core/proposing/slanted_features.h"
#include "core/proposing/turning.h"
#include "core/proposing/usual_choices.h"
#include "core/proposing/without_features.h"

#include <fmt/format.h>

namespace prism {
namespace {

constexpr int kChoices = 8; ///< consistent choices of cells that are built and proved, at most

std::vector<ViewMap> mapsOf(const Figure& f, const std::vector<ClosedArea>& areas,
                            const std::vector<KnownRegion>& known) {
    std::vector<ViewMap> maps;
    for (const FigureView& v : f.views)
        if (v.principal() || cutsSquare(v)) maps.emplace_back(f, v, areas, known);
    return maps;
}

/// Steps for a choice of cells, built and proved; whether they were. What areas added to each other cannot
/// make is cut from the outlines.
bool considerCells(const Figure& f, const AreaSets& areas, ProductCells& model, ProductCells& fine,
                   bool gridded, const CellChoice& choice, const char* how, Progress& progress, Judge& best) {
    const auto fill = [&](int cell) {
        const int c = gridded ? cell : model.find(fine.areasOf(cell));
        if (c < 0 || c >= static_cast<int>(choice.material.size())) return gridded ? Fill::either : Fill::air;
        if (choice.material[static_cast<size_t>(c)])
            return choice.looked_at[static_cast<size_t>(c)] ? Fill::material : Fill::either;
        return Fill::air;
    };
    StepsFound found = stepsFor(f, gridded ? model : fine, fill, progress);
    if (found.steps.empty() && found.left_undone.empty() && best.effort() != Effort::exact) {
        found = cutsFor(f, gridded ? model : fine, fill, progress);
        std::vector<Step> outlines = outlinesIntersected(f, areas.drawn);
        found.steps.insert(found.steps.begin(), outlines.begin(), outlines.end());
    }
    if (!found.left_undone.empty()) { // further choices have as many cells
        best.left_undone = found.left_undone;
        return false;
    }
    best.consider(found.steps, how);
    return true;
}

/// Where one or two lines are in the way of all others: the solids of the rest of the sheet.
void withoutSuspects(const Figure& f, const AreaSets& areas, const std::vector<ViewMap>& maps, bool gridded,
                     Progress& progress, Judge& best) {
    constexpr size_t kMostSuspects = 10;
    constexpr int kMostLooks = 3;  ///< for each: the places where its solid is off are looked at then
    constexpr int kMostRounds = 3; ///< with all that was looked at, other lines may be in the way
    ProductCells model(maps, gridded), fine(maps, true);
    ConsistentCells solver(model, f.tolerances, f.size, Lines::all, best.work(), progress, best.kinds());
    for (int round = 0; round < kMostRounds && !best.clean && !best.near(); ++round) {
        bool looked = false;
        for (const auto& lines : solver.suspects(kMostSuspects, progress))
            for (int look = 0; look < kMostLooks && !best.clean && !progress.cancelled(); ++look) {
                const auto choice = solver.without(lines, progress);
                if (!choice ||
                    !considerCells(f, areas, model, fine, gridded, *choice,
                                   "material that all lines but one or two agree on", progress, best))
                    break;
                const auto places = best.placesOff(maps);
                looked = looked || !places.empty();
                solver.lookAt(places, progress);
            }
        if (!looked) break;
    }
}

void fromCells(const Figure& f, const AreaSets& areas, const std::vector<ViewMap>& maps, bool gridded,
               Lines lines, LineKinds kinds, Progress& progress, Judge& best) {
    ProductCells model(maps, gridded), fine(maps, true);
    ConsistentCells solver(model, f.tolerances, f.size, lines, best.work(), progress, kinds);
    best.begin();
    for (int i = 0; i < kChoices && !best.stuck();
         ++i) { // goes on when a solid is found: there may be others that fit as well
        progress.report(0.2 + 0.15 * i, "Looking for material that all views agree on");
        const auto choice = solver.next(progress);
        if (!choice || !considerCells(f, areas, model, fine, gridded, *choice,
                                      "material that all views agree on", progress, best))
            break;
        if (!best.clean) solver.lookAt(best.placesOff(maps), progress);
    }
    if (!solver.leftUndone().empty()) best.left_undone = solver.leftUndone();
}

/// Takes over what single cuts found; the last cuts are dropped when they leave a solid that is not valid.
void takeCuts(std::vector<Step> steps, Progress& progress, Judge& best) {
    constexpr int kMostDropped = 10;
    for (int dropped = 0; dropped <= kMostDropped && !steps.empty() && !progress.cancelled(); ++dropped) {
        const int before = best.tried;
        const bool kept = best.consider(steps, "outlines intersected, then cut");
        best.tried = before; // each was counted when it was cut
        if (kept) return;
        steps.pop_back();
    }
}

/// The surfaces that cut space into cells: areas drawn through and turned profiles; or cones on other bodies
/// and oblique planes as well.
enum class Surfaces { plain, all };

/// The ways to a solid, one after another until one shows every line of the sheet.
void look(const Figure& f, const AreaSets& areas, Lines lines, Surfaces surfaces, Progress& progress,
          Judge& best) {
    const auto maps = mapsOf(f, areas.drawn, best.known());
    const auto goesOn = [&] { return !best.clean && !progress.cancelled() && !best.exhausted(); };
    if (!goesOn()) return;
    const auto profiles = halfProfiles(f, maps);
    fromTurning(f, maps, profiles, lines, progress, best);
    if (goesOn()) fromSections(f, areas, maps, profiles, best);
    if (maps.size() < 2) return;
    for (bool gridded : {false, true})
        for (const HalfProfile& p : profiles)
            for (int side : sidesOf(maps[static_cast<size_t>(p.map)], p, 2 * f.tolerances.proof))
                if (goesOn()) fromTurningAndCuts(f, maps, p, side, gridded, lines, progress, best);
    for (bool gridded : {false, true}) {
        if (goesOn() && lines == Lines::most) withoutSuspects(f, areas, maps, gridded, progress, best);
        if (goesOn() && !best.near()) fromCells(f, areas, maps, gridded, lines, best.kinds(), progress, best);
    }
    for (bool gridded : {false, true}) // where no line is hidden, all may be drawn alike
        if (goesOn() && !f.drawsHidden())
            fromCells(f, areas, maps, gridded, lines, LineKinds::alike, progress, best);
    // Surfaces of other kinds are worth their cells only where all lines are explained by them; corners that
    // are cut off leave cells as few as they were.
    if (!goesOn() || surfaces != Surfaces::all) return;
    if (lines != Lines::all) {
        if (!best.near()) fromFacets(f, maps, obliquePlanes(f, maps), false, lines, progress, best);
        return;
    }
    const auto bosses = bossProfiles(f, maps);
    for (bool gridded : {false, true})
        for (const HalfProfile& p : bosses)
            for (int side : sidesOf(maps[static_cast<size_t>(p.map)], p, 2 * f.tolerances.proof))
                if (goesOn()) fromTurnedPieces(f, maps, p, side, gridded, lines, progress, best);
    if (!goesOn()) return;
    if (const auto planes = obliquePlanes(f, maps); !planes.empty()) {
        if (goesOn()) fromFacets(f, maps, planes, false, lines, progress, best);
        for (bool gridded : {false, true})
            if (goesOn()) fromObliquePlanes(f, maps, planes, gridded, lines, progress, best);
    }
}

/// Whether a hole ends in the point of a drill.
bool endsInPoint(const Step& hole) {
    constexpr double kFlat = 1e-6;
    return hole.reach != Reach::through && hole.hole.point < kPi - kFlat;
}

/// Looks in the figure without its holes, which are told by their lines alone; what is left of the sheet is
/// simpler. `rounds`: corners that are made sharp as well, to be rounded by fillets. A bore along the axis of
/// a turned part is mostly turned with it, unless it ends in a drill's point; `bores`: it is a hole.
void lookBesideFeatures(const Figure& f, const AreaSets& areas, const std::vector<Round>& rounds, bool bores,
                        Lines lines, Progress& progress, Judge& best) {
    // No area is drawn through space from an auxiliary view: corners that it shows round are always fillets.
    const std::vector<Round> slanted = slantedRounds(f);
    std::vector<Round> fillets = rounds;
    fillets.insert(fillets.end(), slanted.begin(), slanted.end());
    const Figure sharp = slantsSharpened(rounds.empty() ? f : sharpened(f, rounds), f, slanted);
    const AreaSets sharp_areas = fillets.empty() ? areas : AreaSets(sharp, progress);
    const auto maps = mapsOf(sharp, sharp_areas.drawn, best.known());
    auto holes = holesSeen(sharp, maps, best.kinds());
    std::ranges::move(slantedHoles(sharp, progress), std::back_inserter(holes));
    if (const auto profiles = halfProfiles(sharp, maps); !profiles.empty()) {
        const EndView& end = profiles.front().end;
        const auto along = [&](const HoleSeen& h) {
            return h.step.view == end.view->name && !lies(h.step) && !endsInPoint(h.step) &&
                   distance(h.step.places.front(), end.centre) <= 2 * f.tolerances.proof;
        };
        if (!bores) {
            const auto rest = std::stable_partition(holes.begin(), holes.end(), std::not_fn(along));
            const std::vector<HoleSeen> turned(rest, holes.end());
            holes.erase(rest, holes.end());
            closeBores(sharp, turned, holes);
        } else if (std::ranges::none_of(holes, along))
            return; // that was looked at
    } else if (bores)
        return;
    const Figure bare = withoutHoles(sharp, holes);
    const AreaSets reduced(bare, progress);
    const std::vector<Step> drilled = holeSteps(holes, 2 * f.tolerances.proof);
    const auto lookIn = [&](const Figure& rest, const AreaSets& of_rest,
                            const std::vector<BossSeen>& bosses) {
        best.search(of_rest, [&](std::vector<Step> steps) {
            straightPast(sharp, areas, holes, steps);
            for (const BossSeen& b : bosses) steps.push_back(b.step);
            if (!fillets.empty()) steps = withFillets(f, areas, std::move(steps), fillets, progress);
            steps.insert(steps.end(), drilled.begin(), drilled.end());
            return steps;
        });
        look(rest, of_rest, lines, rounds.empty() ? Surfaces::all : Surfaces::plain, progress, best);
        best.searchWhole();
    };
    // Bosses that grow out of a round body, or stand on a slanted face; what is left is mostly turned or
    // drawn through.
    const auto maps_left = mapsOf(bare, reduced.drawn, best.known());
    auto bosses = bossesSeen(bare, maps_left, areas);
    std::ranges::move(slantedBosses(bare, areas, progress), std::back_inserter(bosses));
    if (!bosses.empty()) {
        const Figure rest = withoutBosses(bare, bosses);
        lookIn(rest, AreaSets(rest, progress), bosses);
    }
    if (best.clean || progress.cancelled() || (holes.empty() && fillets.empty())) return;
    lookIn(bare, reduced, {});
}

/// Says how each of the other solids that fit differs from the one that is proposed, and what would tell.
void tellApart(const Figure& f, Proposal& p, const Progress& progress) {
    for (Alternative& a : p.alternatives) {
        if (progress.cancelled()) return;
        if (const auto trouble =
                thrownBy([&] { a.difference = differenceOf(f, p.build.shape, a.shape, progress); }))
            a.differs += (a.differs.empty() ? "" : "; ") + trouble->message;
        else
            a.differs += (a.differs.empty() ? "" : ": ") + inWords(a.difference);
    }
}

/// What a judge keeps, as a proposal without its measures and alternatives.
Proposal keptBy(const Judge& best) {
    Proposal r;
    r.how = fmt::format("{}, {} candidate{} tried", best.how, best.tried, best.tried == 1 ? "" : "s");
    r.steps = best.steps, r.tried = best.tried, r.clean = best.clean;
    r.missing = best.missing, r.extra = best.extra, r.left_undone = best.left_undone;
    r.build = best.build, r.proof = best.proof;
    return r;
}

Result<Proposal> searched(const Figure& f, const AreaSets& areas, std::vector<Fact> facts, const Search& how,
                          Work& work, Progress& progress) {
    const Effort effort = how.effort;
    Judge best(f, areas, std::move(facts), how.kinds, effort, work, progress);
    if (how.better) best.setBetter([&](const Judge& b) { how.better(keptBy(b)); });
    for (const Lines demanded : {Lines::all, Lines::most}) { // what fits every line before what fits most
        if (demanded == Lines::most && effort == Effort::exact) break;
        // Once all lines but one or two agree on a solid, a quick look has its answer.
        const auto goesOn = [&] {
            return !best.clean && !progress.cancelled() && !best.exhausted() &&
                   !(demanded == Lines::most && effort == Effort::quick && best.near());
        };
        if (goesOn()) lookBesideFeatures(f, areas, {}, false, demanded, progress, best);
        if (goesOn()) joinFacingCuts(f, areas, best);
        if (goesOn()) look(f, areas, demanded, Surfaces::all, progress, best);
        if (goesOn()) joinFacingCuts(f, areas, best);
        if (goesOn()) lookBesideFeatures(f, areas, {}, true, demanded, progress, best);
        for (const std::vector<Round>& rounds : filletChoices(f))
            if (goesOn()) lookBesideFeatures(f, areas, rounds, false, demanded, progress, best);
    }
    if (best.clean && effort != Effort::exact) preferUsual(f, areas, best);
    if (!best.clean && effort == Effort::thorough &&
        !progress.cancelled()) { // cuts tried one by one against the proof
        const CutsFound cuts = bySingleCuts(f, areas, best.steps, progress);
        best.tried += cuts.tried;
        if (cuts.off < best.off) takeCuts(cuts.steps, progress, best);
        if (cuts.ended && !best.clean)
            best.left_undone = fmt::format("the search by single cuts ended after {} of them", cuts.tried);
    }
    const auto stopped = [] {
        return failure(ErrorCode::cancelled, "the proposal was stopped; nothing was changed");
    };
    if (progress.cancelled()) return stopped();
    if (best.exhausted() && !best.clean)
        best.left_undone = fmt::format("the search for a solid ended after {} candidates", best.tried);
    if (best.exhausted() && best.steps.empty()) return failure(ErrorCode::impossible, best.left_undone);
    if (best.steps.empty())
        return failure(ErrorCode::impossible,
                       "no view has a closed outline to start from; see the open outlines under Check");
    Proposal r = keptBy(best);
    r.build.measure = measured(r.build.shape, Measuring::fine, progress); // candidates are measured coarsely
    r.alternatives = std::move(best.others);
    tellApart(f, r, progress);
    if (progress.cancelled()) return stopped();
    return r;
}

} // namespace

Result<Proposal> propose(const Figure& f, const Search& how, Work& work, Progress& progress) {
    if (f.principalViews().empty() || f.views.size() < 2)
        return failure(ErrorCode::impossible, "one view alone does not say how deep the part is");
    const AreaSets areas(f, progress);
    if (progress.cancelled())
        return failure(ErrorCode::cancelled, "the proposal was stopped; nothing was changed");
    const auto facts = factsIn(f, areas, how.facts);
    if (!facts) return tl::make_unexpected(facts.error());
    auto r = searched(f, areas, *facts, how, work, progress);
    if (facts->empty() || (r && r->clean) || progress.cancelled()) return r;
    // Whether the lines alone would have given a solid: then a fact stands against them.
    const auto alone = searched(f, areas, {}, {Effort::exact, how.kinds, {}, {}}, work, progress);
    const Fact* denied = alone && alone->clean ? notKept(*facts, alone->build.shape) : nullptr;
    if (r && denied) r->denied = denied->name;
    if (!r && denied)
        return failure(
            ErrorCode::impossible,
            fmt::format("no solid keeps the fact \"{}\": the lines show it otherwise", denied->name));
    return r;
}

} // namespace prism
