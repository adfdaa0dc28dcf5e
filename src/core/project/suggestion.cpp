#include "core/project/suggestion.h"

#include "core/building/kernel.h"
#include "core/building/overlap.h"
#include "core/building/reaches.h"
#include "core/building/step_list.h"
#include "core/building/to_kernel.h"
#include "core/proposing/mark_bounds.h"

#include <fmt/format.h>

namespace prism {
namespace {

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

/// One of the solids that show every line, or the only one.
struct Target {
    const std::vector<Step>& steps;
    const TopoDS_Shape& shape;
};

/// How many pieces two solids have more or less, about as many steps as lead from one to the other; and their
/// volume.
std::pair<int, double> wayTo(const TopoDS_Shape& there, const TopoDS_Shape& target) {
    std::pair<int, double> r{0, 0};
    const double nothing = kNothing * volumeOf(target);
    for (const TopoDS_Shape& differs : {beyond(target, there), beyond(there, target)})
        for (TopExp_Explorer at(differs, TopAbs_SOLID); at.More(); at.Next())
            if (const double v = volumeOf(at.Current()); v > nothing) ++r.first, r.second += v;
    return r;
}

/// The one that is nearest to what is there.
Target targetFor(const Proposal& goal, const TopoDS_Shape& there) {
    Target r{goal.steps, goal.build.shape};
    if (there.IsNull() || goal.alternatives.empty()) return r;
    const Alternative* best = nullptr;
    auto least = wayTo(there, goal.build.shape);
    for (const Alternative& a : goal.alternatives)
        if (const auto way = wayTo(there, a.shape); way < least) least = way, best = &a;
    return best ? Target{best->steps, best->shape} : r;
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
    const bool taken = std::ranges::any_of(c.steps, [&](const Step& o) { return o.name == s.name; });
    if (s.name.empty() || taken) s.name = freshName(c.steps, s.kind);
    s.group.clear(), s.stop = false;
    return {std::move(s), p.missing, goal.clean};
}

/// What areas most likely do, and what that leaves.
struct Likely {
    Step step;
    BuildResult build;
    double apart = 0; ///< mm^3 by which it still differs from the goal
};

Result<Likely> likelyOf(const Model& m, const Choices& c, const Target& target, Step s, Progress& progress) {
    const FigureView* v = m.figure.viewNamed(s.view);
    if (!v || !v->square) return failure(ErrorCode::impossible, "nothing is known of areas of that view");
    const auto part = building::partRange(m.figure, *v);
    if (!part) return tl::make_unexpected(part.error());
    s.operation = Operation::add, s.reach = Reach::through, s.from = s.to = {}, s.tops.clear();
    const auto column = stepBody(m.figure, m.areas, s);
    if (!column) return tl::make_unexpected(column.error());
    const TopoDS_Shape here = commonOf(column->shape, m.build.shape),
                       wanted = commonOf(column->shape, target.shape), lacks = beyond(wanted, m.build.shape),
                       over = beyond(here, target.shape);
    const double adds = volumeOf(lacks), cuts = volumeOf(over), nothing = kNothing * volumeOf(column->shape);
    if (std::max(adds, cuts) <= nothing)
        return failure(ErrorCode::impossible, "the solid is as the views show it there");
    s.operation = adds >= cuts ? Operation::add : Operation::cut;
    const auto [from_here, to_here] = extentAlong(adds >= cuts ? lacks : over, v->axes.depth);
    const double tol = 4 * m.figure.tolerances.same_model;
    const bool low = from_here <= part->lo + tol, high = to_here >= part->hi - tol;
    if (!low || !high) {
        s.reach = Reach::between;
        Box2 near;
        for (Vec2 seed : s.areas) near.add(seed);
        const auto from = low ? Bound{} : markAtDepth(m.figure, *v, from_here, tol, near),
                   to = high ? Bound{} : markAtDepth(m.figure, *v, to_here, tol, near);
        if (!from || !to)
            return failure(ErrorCode::impossible, "no mark of another view says how far they reach");
        s.from = *from, s.to = *to;
    }
    auto built = withStep(m, listOf(c), s, progress);
    const double left = built ? apart(built->shape, target.shape) : 0;
    if (!built || left >= apart(m.build.shape, target.shape))
        return failure(ErrorCode::impossible, "no single reach of these areas brings the solid nearer");
    return Likely{std::move(s), std::move(*built), left};
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
    const Target target = targetFor(goal, m.build.shape);
    const double before = apart(m.build.shape, target.shape),
                 nothing = kNothing * std::abs(volumeOf(target.shape));
    if (before <= nothing)
        return failure(ErrorCode::impossible,
                       goal.clean ? "the solid is what the views show" : "the solid is what was proposed");
    const double lacked =
        line && m.proof ? missingByLine(m, *m.proof)[*line] : std::numeric_limits<double>::infinity();
    for (size_t i = 0; i < target.steps.size(); ++i) {
        progress.report(static_cast<double>(i) / static_cast<double>(target.steps.size()), "Trying steps");
        if (progress.cancelled()) return failure(ErrorCode::cancelled, "stopped");
        const auto built = withStep(m, list, target.steps[i], progress);
        if (!built || apart(built->shape, target.shape) >= before - nothing) continue;
        auto proof = prove(m.figure, m.views, built->shape, progress);
        if (!proof) continue;
        if (line && missingByLine(m, *proof)[*line] >= lacked - m.figure.tolerances.same_model) continue;
        return suggestionOf(c, goal, target.steps[i], *proof);
    }
    // The goal may have come by another way: then the areas at the lines that are missing tell. What brings
    // the solid nearest comes first.
    int tries = 0;
    std::vector<Likely> found;
    for (const MissingLine& missing : missingLines(m)) {
        if (line && missing.entity != *line) continue;
        for (const Step& begun : areasAt(m, missing)) {
            constexpr int kTries = 24;
            constexpr size_t kFound = 4;
            if (++tries > kTries || found.size() == kFound || progress.cancelled()) break;
            if (auto s = likelyOf(m, c, target, begun, progress)) found.push_back(std::move(*s));
        }
    }
    std::ranges::stable_sort(found, {}, &Likely::apart);
    for (Likely& s : found) {
        const auto proof = prove(m.figure, m.views, s.build.shape, progress);
        if (!proof) continue;
        if (!line || proof->missing < (m.proof ? m.proof->missing : std::numeric_limits<int>::max()))
            return suggestionOf(c, goal, std::move(s.step), *proof);
    }
    return failure(ErrorCode::impossible,
                   line ? "no single step would make that line" : "no single step brings the solid nearer");
}

/// The next step again and again. Each sees the solid and the proof that the one before it left.
Result<Completion> completionOf(const Model& m, Choices c, const Proposal& goal, Progress& progress) {
    constexpr int kMost = 200;
    Model now = m;
    Completion r;
    for (; r.added < kMost; ++r.added) {
        if (progress.cancelled()) return failure(ErrorCode::cancelled, "stopped; nothing was changed");
        const auto next = nextOf(now, c, goal, {}, progress);
        if (!next) {
            if (apart(now.build.shape, targetFor(goal, now.build.shape).shape) >
                kNothing * std::abs(volumeOf(goal.build.shape)))
                r.left_undone = next.error().message;
            if (r.added == 0) return tl::make_unexpected(next.error());
            break;
        }
        goOnWith(c.steps, next->step);
        now.build = build(now.figure, now.areas, listOf(c), progress, numbersIn(now.ledger), &now.build);
        auto proof = prove(now.figure, now.views, now.build.shape, progress);
        if (!proof) return tl::make_unexpected(proof.error());
        now.proof = std::move(*proof);
    }
    if (r.left_undone.empty() && !(now.proof && now.proof->clean()))
        r.left_undone = goal.clean ? fmt::format("{} steps did not lead there", r.added)
                                   : "no solid was found that shows every line of the sheet";
    r.missing = now.proof ? now.proof->missing : 0;
    if (builtSteps(c.steps) == c.steps.size())
        r.built = {c.steps, std::move(now.build), std::move(now.proof)};
    r.steps = std::move(c.steps);
    return r;
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

Result<Completion> completed(const Model& m, const Choices& c, const Proposal& goal, Progress& progress) {
    return guarded<Completion>([&] { return completionOf(m, c, goal, progress); });
}

Result<Suggestion> likelyStep(const Model& m, const Choices& c, const Proposal& goal, Step begun,
                              Progress& progress) {
    return guarded<Suggestion>([&]() -> Result<Suggestion> {
        auto s = likelyOf(m, c, targetFor(goal, m.build.shape), std::move(begun), progress);
        if (!s) return tl::make_unexpected(s.error());
        const auto proof = prove(m.figure, m.views, s->build.shape, progress);
        if (!proof) return tl::make_unexpected(proof.error());
        return suggestionOf(c, goal, std::move(s->step), *proof);
    });
}

} // namespace prism
