#include "core/proposing/propose.h"

#include "core/proposing/cell_steps.h"
#include "core/proposing/consistency.h"
#include "core/proposing/holes_seen.h"
#include "core/proposing/judge.h"
#include "core/proposing/single_cuts.h"

#include <fmt/format.h>

namespace prism {
namespace {

/// An end view whose contour is one full circle, or nothing.
const FigureView* endView(const Figure& f) {
    for (const FigureView* v : f.principalViews())
        for (const FigureCurve& c : f.curves) {
            const Box2 b = boxOf(c.drawn);
            const auto* a = std::get_if<Arc>(&c.drawn);
            // A keyway may take a piece out of the circle.
            const bool whole = a && c.view == v->view && std::abs(a->sweep) > kPi &&
                               std::abs(b.width() - v->box.width()) < f.tolerances.proof &&
                               std::abs(b.height() - v->box.height()) < f.tolerances.proof;
            if (whole) return v;
        }
    return nullptr;
}

Step turned(const FigureView& profile, const CentreLine& line, std::vector<Vec2> areas) {
    Step s;
    s.kind = StepKind::revolve;
    s.view = profile.name;
    s.areas = std::move(areas);
    s.axis_upright = line.upright;
    const Vec2 c = profile.box.centre();
    s.axis = {profile.name, line.upright ? Vec2{line.at, c.y} : Vec2{c.x, line.at}};
    s.name = "turned body";
    return s;
}

} // namespace

std::vector<CentreLine> centreLines(const Drawing& d, const ViewSet& set, const Figure& f) {
    std::vector<CentreLine> r;
    for (const FigureView& v : f.views)
        for (int e : set.views[v.view].centre_lines)
            for (const Curve& drawn : d.entities[e].curves) {
                const Curve c = transformed(drawn, v.to_model);
                const auto* s = std::get_if<Segment>(&c);
                if (!s) continue;
                const double tol = f.tolerances.same_model;
                if (std::abs(s->a.y - s->b.y) <= tol) r.push_back({v.name, false, s->a.y});
                if (std::abs(s->a.x - s->b.x) <= tol) r.push_back({v.name, true, s->a.x});
            }
    return r;
}

namespace {

constexpr int kChoices = 4; ///< consistent choices of cells that are built and proved, at most

std::vector<ViewMap> mapsOf(const Figure& f, const std::vector<ClosedArea>& areas) {
    std::vector<ViewMap> maps;
    for (const FigureView& v : f.views)
        if (v.principal() || cutsSquare(v)) maps.emplace_back(f, v, areas);
    return maps;
}

void fromCells(const Figure& f, const std::vector<ViewMap>& maps, bool gridded, LineKinds kinds,
               Progress& progress, Judge& best) {
    ProductCells model(maps, gridded), fine(maps, true);
    ConsistentCells solver(model, f.tolerances, f.size, progress, kinds);
    for (int i = 0; i < kChoices;
         ++i) { // goes on when a solid is found: there may be others that fit as well
        progress.report(0.2 + 0.15 * i, "Looking for material that all views agree on");
        const auto choice = solver.next(progress);
        if (!choice) break;
        const auto material = [&](int cell) {
            const int c = gridded ? cell : model.find(fine.areasOf(cell));
            return c >= 0 && c < static_cast<int>(choice->material.size()) && choice->material[c];
        };
        const StepsFound found = stepsFor(f, gridded ? model : fine, material, progress);
        if (!found.left_undone.empty()) { // further choices have as many cells
            best.left_undone = found.left_undone;
            break;
        }
        best.consider(found.steps, "material that all views agree on");
    }
    if (!solver.leftUndone().empty()) best.left_undone = solver.leftUndone();
}

/// A half profile that may be turned round a centre line.
struct HalfProfile {
    int map; ///< of the view that shows it
    CentreLine line;
    double middle; ///< where the axis lies in the depth of that view
};

std::vector<HalfProfile> halfProfiles(const Figure& f, const std::vector<ViewMap>& maps,
                                      const std::vector<CentreLine>& lines) {
    std::vector<HalfProfile> r;
    const FigureView* end = endView(f);
    if (!end) return r;
    for (const CentreLine& line : lines) {
        const auto profile =
            std::ranges::find_if(maps, [&](const ViewMap& m) { return m.view().name == line.view; });
        if (profile == maps.end()) continue;
        const FigureView& v = profile->view();
        const int k = line.upright ? 0 : 1; // the coordinate that is the radius
        if ((line.upright ? v.axes.up : v.axes.right) != end->axes.depth) continue;
        // A traced line is known to a fraction of a pixel only, and so are both sides of the outline.
        if (std::abs(2 * line.at - v.box.lo[k] - v.box.hi[k]) > 2 * f.tolerances.proof) continue;
        const Vec2 c = end->box.centre();
        r.push_back(
            {static_cast<int>(profile - maps.begin()), line, end->axes.right == v.axes.depth ? c.x : c.y});
    }
    return r;
}

/// Places in the areas of a half profile that are material.
std::vector<Vec2> seedsOf(const ViewMap& m, const CentreLine& line, int side,
                          const std::vector<bool>& material) {
    std::vector<Vec2> r;
    const int k = line.upright ? 0 : 1;
    for (size_t a = 0; a < material.size(); ++a) {
        const Box2& box = m.areas()[a].box;
        if (material[a] && (side > 0 ? box.hi[k] > line.at : box.lo[k] < line.at))
            r.push_back(m.areas()[a].seed);
    }
    return r;
}

/// Half profiles turned round a centre line.
void fromTurning(const Figure& f, const std::vector<ViewMap>& maps, const std::vector<HalfProfile>& profiles,
                 Progress& progress, Judge& best) {
    for (const HalfProfile& p : profiles) {
        if (best.clean) return;
        const ViewMap& m = maps[static_cast<size_t>(p.map)];
        TurnedCells model(maps, p.map, p.line.upright, p.line.at, p.middle);
        ConsistentCells solver(model, f.tolerances, f.size, progress);
        for (int i = 0; i < kChoices && !best.clean; ++i) {
            const auto choice = solver.next(progress);
            if (!choice) break;
            const auto seeds = seedsOf(m, p.line, 1, choice->material);
            if (!seeds.empty()) best.consider({turned(m.view(), p.line, seeds)}, "turned part");
        }
    }
}

/// A turned body from which areas of the views are cut: keyways, flats, slots.
void fromTurningAndCuts(const Figure& f, const std::vector<ViewMap>& maps, const HalfProfile& p, int side,
                        bool gridded, Progress& progress, Judge& best) {
    const ViewMap& m = maps[static_cast<size_t>(p.map)];
    TurnedCells round(maps, p.map, p.line.upright, p.line.at, p.middle, side);
    ProductCells pieces(maps, gridded), fine(maps, true);
    MetCells model(round, pieces);
    ConsistentCells solver(model, f.tolerances, f.size, progress);
    for (int i = 0; i < kChoices && !best.clean; ++i) {
        const auto choice = solver.next(progress);
        if (!choice) return;
        std::vector<bool> body(static_cast<size_t>(round.cells()));
        for (int c = 0; c < model.cells(); ++c)
            if (choice->material[static_cast<size_t>(c)]) body[static_cast<size_t>(model.of(c).first)] = true;
        std::vector<bool> kept(static_cast<size_t>(pieces.cells())),
            gone = kept; // of the turned body, by piece
        for (int c = 0; c < model.cells(); ++c) {
            const auto [turn, piece] = model.of(c);
            if (!body[static_cast<size_t>(turn)]) continue;
            (choice->material[static_cast<size_t>(c)] ? kept : gone)[static_cast<size_t>(piece)] = true;
        }
        const auto seeds = seedsOf(m, p.line, side, body);
        if (seeds.empty()) continue;
        const auto pieceOf = [&](int cell) { return gridded ? cell : pieces.find(fine.areasOf(cell)); };
        const auto is = [&](const std::vector<bool>& what, int cell) {
            const int piece = pieceOf(cell);
            return piece >= 0 && piece < static_cast<int>(what.size()) && what[static_cast<size_t>(piece)];
        };
        const StepsFound cuts = cutsFor(
            f, gridded ? pieces : fine, [&](int c) { return is(kept, c); },
            [&](int c) { return is(gone, c) && !is(kept, c); }, progress);
        if (!cuts.left_undone.empty()) best.left_undone = cuts.left_undone;
        std::vector<Step> steps{turned(m.view(), p.line, seeds)};
        steps.insert(steps.end(), cuts.steps.begin(), cuts.steps.end());
        best.consider(std::move(steps), "turned part with cuts");
    }
}

/// Whether a view shows a full circle about a place, mm.
bool hasCircle(const Figure& f, const FigureView& v, Vec2 centre, double radius) {
    const double tol = 2 * f.tolerances.proof;
    return std::ranges::any_of(f.curves, [&](const FigureCurve& c) {
        const auto* a = std::get_if<Arc>(&c.drawn);
        return a && c.view == v.view && c.p0 < 0 && distance(a->centre, centre) <= tol &&
               std::abs(a->radius - radius) <= tol;
    });
}

/// The hatched areas of a section turned round its centre line: what the plane goes through is material all
/// round, unless holes were in its way. Where the end view has no circles about the axis for an area that is
/// not hatched, that is a hole and no groove, and is filled to be cut again.
void fromSections(const Figure& f, const AreaSets& areas, const std::vector<CentreLine>& lines, Judge& best) {
    const FigureView* end = endView(f);
    if (!end) return;
    for (const CentreLine& line : lines) {
        const FigureView& v = *f.viewNamed(line.view);
        if (v.shows != Shows::cut || best.clean) continue;
        if ((line.upright ? v.axes.up : v.axes.right) != end->axes.depth) continue;
        const int k = line.upright ? 0 : 1; // the coordinate that is the radius
        std::vector<Vec2> hatched, filled;
        for (const ClosedArea& a : areas.drawn) {
            if (a.view != v.view || a.box.lo[k] < line.at - f.tolerances.proof) continue;
            if (isHatched(f, a))
                hatched.push_back(a.seed);
            else if (!hasCircle(f, *end, end->box.centre(), a.box.lo[k] - line.at) &&
                     !hasCircle(f, *end, end->box.centre(), a.box.hi[k] - line.at))
                filled.push_back(a.seed);
        }
        if (hatched.empty()) continue;
        best.consider({turned(v, line, hatched)}, "turned from the section");
        if (filled.empty() || best.clean) continue;
        filled.insert(filled.end(), hatched.begin(), hatched.end());
        best.consider({turned(v, line, filled)}, "turned from the section");
    }
}

/// Takes over what single cuts found; the last cuts are dropped when they leave a solid that is not valid.
void takeCuts(std::vector<Step> steps, Progress& progress, Judge& best) {
    constexpr int kMostDropped = 10;
    for (int dropped = 0; dropped <= kMostDropped && !steps.empty() && !progress.cancelled(); ++dropped) {
        const int before = best.tried;
        best.consider(steps, "outlines intersected, then cut");
        best.tried = before; // each was counted when it was cut
        if (best.steps == steps) return;
        steps.pop_back();
    }
}

/// The ways to a solid, one after another until one shows every line of the sheet.
void look(const Figure& f, const AreaSets& areas, const std::vector<CentreLine>& lines, Progress& progress,
          Judge& best) {
    const auto maps = mapsOf(f, areas.drawn);
    const auto goesOn = [&] { return !best.clean && !progress.cancelled(); };
    const auto profiles = halfProfiles(f, maps, lines);
    fromTurning(f, maps, profiles, progress, best);
    if (goesOn()) fromSections(f, areas, lines, best);
    if (maps.size() < 2) return;
    for (bool gridded : {false, true})
        for (const HalfProfile& p : profiles)
            for (int side : {1, -1})
                if (goesOn()) fromTurningAndCuts(f, maps, p, side, gridded, progress, best);
    for (bool gridded : {false, true})
        if (goesOn()) fromCells(f, maps, gridded, LineKinds::told, progress, best);
    for (bool gridded : {false, true})
        if (goesOn() && !f.drawsHidden()) fromCells(f, maps, gridded, LineKinds::alike, progress, best);
}

/// Holes are told by their lines alone; what is left of the sheet without them is simpler.
void lookBesideHoles(const Figure& f, const AreaSets& areas, const std::vector<CentreLine>& lines,
                     Progress& progress, Judge& best) {
    const auto holes = holesSeen(f, mapsOf(f, areas.drawn));
    if (holes.empty()) return;
    const Figure filled = withoutHoles(f, holes);
    const AreaSets reduced(filled, progress);
    if (progress.cancelled()) return;
    best.search(reduced, holeSteps(holes, 2 * f.tolerances.proof));
    look(filled, reduced, lines, progress, best);
    best.searchWhole();
}

} // namespace

Result<Proposal> propose(const Figure& f, const std::vector<CentreLine>& lines, Progress& progress,
                         Effort effort) {
    if (f.principalViews().empty() || f.views.size() < 2)
        return failure(ErrorCode::impossible, "one view alone does not say how deep the part is");
    const AreaSets areas(f, progress);
    if (progress.cancelled())
        return failure(ErrorCode::cancelled, "the proposal was stopped; nothing was changed");
    Judge best(f, areas, progress);
    lookBesideHoles(f, areas, lines, progress, best);
    if (!best.clean && !progress.cancelled()) look(f, areas, lines, progress, best);
    if (!best.clean && effort == Effort::thorough &&
        !progress.cancelled()) { // cuts tried one by one against the proof
        const CutsFound cuts = bySingleCuts(f, areas, best.steps, progress);
        best.tried += cuts.tried;
        if (cuts.off < best.off) takeCuts(cuts.steps, progress, best);
        if (cuts.ended && !best.clean)
            best.left_undone = fmt::format("the search by single cuts ended after {} of them", cuts.tried);
    }
    if (progress.cancelled())
        return failure(ErrorCode::cancelled, "the proposal was stopped; nothing was changed");
    if (best.steps.empty())
        return failure(ErrorCode::impossible,
                       "no view has a closed outline to start from; see the open outlines under Check");
    const int n = static_cast<int>(best.steps.size());
    Proposal r;
    r.how = fmt::format("{}, {} steps, {} candidates tried", best.how, n, best.tried);
    r.steps = std::move(best.steps), r.tried = best.tried, r.clean = best.clean;
    r.missing = best.missing, r.extra = best.extra;
    r.build = std::move(best.build);
    r.left_undone = best.left_undone, r.alternatives = std::move(best.others);
    return r;
}

} // namespace prism
