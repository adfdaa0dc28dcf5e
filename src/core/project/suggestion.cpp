#include "core/project/suggestion.h"

#include "core/building/kernel.h"
#include "core/building/overlap.h"
#include "core/building/reaches.h"
#include "core/building/step_list.h"
#include "core/building/to_kernel.h"
#include "core/proposing/mark_bounds.h"

#include <BRepBndLib.hxx>
#include <Bnd_Box.hxx>
#include <fmt/format.h>

namespace prism {
namespace {

using building::Range;

/// Differences below this share of the goal are those of the modeller.
constexpr double kNothing = 1e-6;

/// The build list up to where it stops, as the modeller takes it.
std::vector<Step> listOf(const Choices& c) {
    std::vector<Step> r = withLevels(c.steps, c.levels);
    r.resize(builtSteps(r));
    if (!r.empty()) r.back().stop = false;
    return r;
}

/// The solid with one step more; none where that step cannot be made.
std::optional<BuildResult> withStep(const Model& m, std::vector<Step> list, const Step& s,
                                    Progress& progress) {
    list.push_back(s);
    BuildResult r =
        build(m.figure, m.areas, list, progress, numbersIn(m.ledger), &m.build, Measuring::coarse);
    if (r.steps.empty() || !r.steps.back().ok || r.shape.IsNull()) return std::nullopt;
    return r;
}

std::map<int, double> missingByLine(const Model& m, const Proof& p) {
    std::map<int, double> r;
    for (const ViewProof& v : p.views)
        for (const ProofPiece& piece : v.pieces)
            if (piece.state == LineState::missing && piece.curve >= 0)
                r[m.figure.curves[static_cast<size_t>(piece.curve)].entity] += piece.length;
    return r;
}

Suggestion suggestionOf(const Choices& c, const Proposal& goal, Step s, const Proof& p) {
    s.name = freshName(c.steps, s.kind);
    s.group.clear(), s.stop = false;
    return {std::move(s), p.missing, goal.clean};
}

/// From where to where a body reaches along the depth axis of a view.
Range reachOfBody(const TopoDS_Shape& s, Axis depth) {
    Bnd_Box box;
    BRepBndLib::AddOptimal(s, box, false, false);
    double lo[3], hi[3];
    box.Get(lo[0], lo[1], lo[2], hi[0], hi[1], hi[2]);
    const auto i = static_cast<size_t>(depth);
    return {lo[i], hi[i], {}, {}};
}

Result<Suggestion> likelyOf(const Model& m, const Choices& c, const Proposal& goal, Step s,
                            Progress& progress) {
    const FigureView* v = m.figure.viewNamed(s.view);
    if (!v || !v->square) return failure(ErrorCode::impossible, "nothing is known of areas of that view");
    const auto part = building::partRange(m.figure, *v);
    if (!part) return tl::make_unexpected(part.error());
    s.operation = Operation::add, s.reach = Reach::through, s.from = s.to = {}, s.tops.clear();
    const auto column = stepBody(m.figure, m.areas, s);
    if (!column) return tl::make_unexpected(column.error());
    const TopoDS_Shape here = commonOf(column->shape, m.build.shape),
                       wanted = commonOf(column->shape, goal.build.shape),
                       lacks = beyond(wanted, m.build.shape), over = beyond(here, goal.build.shape);
    const double adds = volumeOf(lacks), cuts = volumeOf(over), nothing = kNothing * volumeOf(column->shape);
    if (std::max(adds, cuts) <= nothing)
        return failure(ErrorCode::impossible, "the solid is as the views show it there");
    s.operation = adds >= cuts ? Operation::add : Operation::cut;
    const Range reach = reachOfBody(adds >= cuts ? lacks : over, v->axes.depth);
    const double tol = 4 * m.figure.tolerances.same_model;
    const bool low = reach.lo <= part->lo + tol, high = reach.hi >= part->hi - tol;
    if (!low || !high) {
        s.reach = Reach::between;
        Box2 near;
        for (Vec2 seed : s.areas) near.add(seed);
        const auto from = low ? Bound{} : markAtDepth(m.figure, *v, reach.lo, tol, near),
                   to = high ? Bound{} : markAtDepth(m.figure, *v, reach.hi, tol, near);
        if (!from || !to)
            return failure(ErrorCode::impossible, "no mark of another view says how far they reach");
        s.from = *from, s.to = *to;
    }
    const auto built = withStep(m, listOf(c), s, progress);
    if (!built || apart(built->shape, goal.build.shape) >= apart(m.build.shape, goal.build.shape))
        return failure(ErrorCode::impossible, "no single reach of these areas brings the solid nearer");
    const auto proof = prove(m.figure, m.views, built->shape, progress);
    if (!proof) return tl::make_unexpected(proof.error());
    return suggestionOf(c, goal, std::move(s), *proof);
}

/// Extrusions of the closed areas that a line bounds, one for each; the smallest first, since it is a feature
/// sooner than what lies round it.
std::vector<Step> areasAt(const Model& m, const MissingLine& line) {
    std::vector<const ClosedArea*> found;
    for (const ClosedArea& a : m.areas.drawn)
        if (a.view == line.view && std::ranges::any_of(a.bounds, [&](int curve) {
                return m.drawn.curves[static_cast<size_t>(curve)].entity == line.entity;
            }))
            found.push_back(&a);
    std::ranges::sort(found, {}, &ClosedArea::area);
    std::vector<Step> r;
    for (const ClosedArea* a : found) {
        r.emplace_back();
        r.back().view = m.drawn.viewById(a->view)->name, r.back().areas = {a->seed};
    }
    return r;
}

Result<Suggestion> nextOf(const Model& m, const Choices& c, const Proposal& goal, std::optional<int> line,
                          Progress& progress) {
    const std::vector<Step> list = listOf(c);
    const double before = apart(m.build.shape, goal.build.shape),
                 nothing = kNothing * std::abs(volumeOf(goal.build.shape));
    if (before <= nothing)
        return failure(ErrorCode::impossible,
                       goal.clean ? "the solid is what the views show" : "the solid is what was proposed");
    const double lacked =
        line && m.proof ? missingByLine(m, *m.proof)[*line] : std::numeric_limits<double>::infinity();
    for (size_t i = 0; i < goal.steps.size(); ++i) {
        progress.report(static_cast<double>(i) / static_cast<double>(goal.steps.size()), "Trying steps");
        if (progress.cancelled()) return failure(ErrorCode::cancelled, "stopped");
        const auto built = withStep(m, list, goal.steps[i], progress);
        if (!built || apart(built->shape, goal.build.shape) >= before - nothing) continue;
        auto proof = prove(m.figure, m.views, built->shape, progress);
        if (!proof) continue;
        if (line && missingByLine(m, *proof)[*line] >= lacked - m.figure.tolerances.same_model) continue;
        return suggestionOf(c, goal, goal.steps[i], *proof);
    }
    // The goal may have come by another way: then the areas at the lines that are missing tell.
    int tries = 0;
    for (const MissingLine& missing : missingLines(m)) {
        if (line && missing.entity != *line) continue;
        for (const Step& begun : areasAt(m, missing)) {
            constexpr int kTries = 24;
            if (++tries > kTries || progress.cancelled()) break;
            auto s = likelyOf(m, c, goal, begun, progress);
            if (s && (!line || s->missing < (m.proof ? m.proof->missing : std::numeric_limits<int>::max())))
                return s;
        }
    }
    return failure(ErrorCode::impossible,
                   line ? "no single step would make that line" : "no single step brings the solid nearer");
}

} // namespace

std::vector<MissingLine> missingLines(const Model& m) {
    std::map<std::pair<int, int>, MissingLine> found; // by view and entity
    const auto add = [&](int curve, double length, Vec2 at) {
        const FigureCurve& c = m.figure.curves[static_cast<size_t>(curve)];
        MissingLine& line = found[{c.view, c.entity}];
        line.entity = c.entity, line.view = c.view, line.hidden = c.role == LineRole::hidden;
        line.length += length, line.at = at;
    };
    if (m.proof) {
        for (const ViewProof& v : m.proof->views)
            for (const ProofPiece& p : v.pieces)
                if (p.state == LineState::missing && p.curve >= 0)
                    add(p.curve, p.length, pointAt(p.shape, 0.5));
    } else
        for (size_t i = 0; i < m.figure.curves.size(); ++i) {
            const Curve c = m.figure.curve(static_cast<int>(i));
            if (!m.figure.curves[i].freehand) add(static_cast<int>(i), lengthOf(c), pointAt(c, 0.5));
        }
    std::vector<MissingLine> r;
    for (const auto& [key, line] : found) r.push_back(line);
    std::ranges::stable_sort(r, std::greater(), &MissingLine::length);
    return r;
}

Result<Suggestion> nextStep(const Model& m, const Choices& c, const Proposal& goal, std::optional<int> line,
                            Progress& progress) {
    return guarded<Suggestion>([&] { return nextOf(m, c, goal, line, progress); });
}

Result<Suggestion> likelyStep(const Model& m, const Choices& c, const Proposal& goal, Step begun,
                              Progress& progress) {
    return guarded<Suggestion>([&] { return likelyOf(m, c, goal, std::move(begun), progress); });
}

} // namespace prism
