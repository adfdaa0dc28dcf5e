#include "core/proofing/proof.h"

#include "core/base/cover.h"
#include "core/base/crossings.h"
#include "core/building/kernel.h"
#include "core/figure/areas.h"
#include "core/proofing/falsely_seen.h"

#include <fmt/format.h>

namespace prism {
namespace {

using Kind = ProjectedLine::Kind;

struct Lines {
    std::vector<const Curve*> curves;
    std::vector<Box2> boxes;
    void add(const Curve& c, double tol) {
        curves.push_back(&c);
        boxes.push_back(boxOf(c).grown(2 * tol));
    }
    std::vector<const Curve*> near(const Curve& c, double tol) const {
        const Box2 b = boxOf(c).grown(2 * tol);
        std::vector<const Curve*> r;
        for (size_t i = 0; i < curves.size(); ++i)
            if (boxes[i].overlaps(b)) r.push_back(curves[i]);
        return r;
    }
};

/// The border of a broken-out section.
struct Region {
    std::vector<Loop> loops;
    bool contains(Vec2 p) const {
        return std::ranges::count_if(loops, [&](const Loop& l) { return insideLoop(l, p); }) % 2 == 1;
    }
};

/// Where a view shows the part: everywhere, or within a circle and a box; within a region, or but for some.
struct Window {
    std::optional<Arc> circle;
    std::optional<Box2> box;
    std::vector<Region> regions;
    bool within = false; ///< in the regions rather than outside them

    bool whole() const { return !circle && !box; }
    bool shows(Vec2 p) const {
        if (!regions.empty() &&
            std::ranges::any_of(regions, [&](const Region& r) { return r.contains(p); }) != within)
            return false;
        return (!circle || distance(p, circle->centre) <= circle->radius) && (!box || box->contains(p));
    }
    /// The parts of a curve that are shown.
    std::vector<Interval> partsOf(const Curve& c, double tol) const {
        if (whole() && regions.empty()) return {{0, 1}};
        std::vector<double> at{0, 1};
        const auto cutBy = [&](const Curve& border) {
            for (Vec2 p : crossings(c, border, tol)) at.push_back(nearestParameter(c, p));
        };
        for (const Region& r : regions)
            for (const Loop& l : r.loops)
                for (const AreaEdge& e : l) cutBy(e.shape);
        if (circle) cutBy(*circle);
        if (box) {
            const Vec2 a = box->lo, b{box->hi.x, box->lo.y}, d = box->hi, e{box->lo.x, box->hi.y};
            for (const auto& [p, q] : {std::pair{a, b}, {b, d}, {d, e}, {e, a}}) cutBy(Segment{p, q});
        }
        std::sort(at.begin(), at.end());
        std::vector<Interval> r;
        for (size_t i = 1; i < at.size(); ++i) {
            if (at[i] - at[i - 1] < 1e-9 || !shows(pointAt(c, 0.5 * (at[i] + at[i - 1])))) continue;
            if (!r.empty() && r.back().to == at[i - 1])
                r.back().to = at[i];
            else
                r.push_back({at[i - 1], at[i]});
        }
        return r;
    }
};

/// What a view shows the part within, when it does not show all of it. `solid`: what the solid reaches there.
Window windowOf(const Figure& f, const FigureView& v, const std::vector<double>& x, const Box2& solid) {
    constexpr double kInner = 0.97; // lines end at the circle of a close-up, more or less
    const double tol = f.tolerances.proof;
    if (v.shows == Shows::all || v.shows == Shows::cut) return {};
    Box2 sheet;
    for (size_t i = 0; i < f.curves.size(); ++i)
        if (f.curves[i].view == v.view) sheet.add(boxOf(f.curve(static_cast<int>(i), x)));
    if (v.shows == Shows::close_up) {
        const Vec2 centre = Warp(f, v.on)(v.within.centre());
        return {Arc{centre, 0.5 * v.within.width() * kInner, 0, 2 * kPi}, sheet.grown(tol), {}, false};
    }
    if (!solid.valid() || sheet.grown(4 * tol).contains(solid)) return {};
    return {{}, sheet.grown(tol), {}, false};
}

/// Writes the pieces of one line: what is covered as matched, the rest with the state given. Only the parts
/// that the view shows count, and of those no gap up to `least`, mm. Says whether any was off.
bool take(ViewProof& v, const Curve& c, int curve, bool hidden, LineState off,
          const std::vector<Interval>& gaps, const std::vector<Interval>& shown, double least) {
    const double len = lengthOf(c);
    bool any_off = false;
    auto piece = [&](LineState s, double t0, double t1) {
        if (t1 <= t0) return;
        any_off = any_off || s == off;
        if (s == LineState::matched && off == LineState::extra) return; // the sheet's own line stands for it
        v.pieces.push_back({s, hidden, curve, part(c, t0, t1), len * (t1 - t0)});
        (s == LineState::matched   ? v.matched_length
         : s == LineState::missing ? v.missing_length
                                   : v.extra_length) += len * (t1 - t0);
    };
    for (const Interval& w : shown) {
        double at = w.from;
        for (const Interval& g : gaps) {
            const double from = std::max(g.from, w.from), to = std::min(g.to, w.to);
            if (len * (to - from) <= least) continue; // the rim of what is shown
            piece(LineState::matched, at, from);
            piece(off, from, to);
            at = to;
        }
        piece(LineState::matched, at, w.to);
    }
    return any_off;
}

} // namespace

const char* nameOf(LineState s) {
    constexpr std::array names{"matched", "missing", "extra"};
    return names[static_cast<size_t>(s)];
}

namespace {

/// Tells lines of the solid that are there only because the plane of a section steps: none is drawn there
/// (ISO 128-3).
std::function<bool(const Curve&)> stepsOf(const Figure& f, const FigureView& v) {
    if (v.legs.empty()) return [](const Curve&) { return false; };
    return [cut = cutOf(f, v), frame = frameOf(f, v, f.now), tol = f.tolerances.proof](const Curve& c) {
        return std::ranges::all_of(std::array{0.0, 0.5, 1.0}, [&](double t) {
            return cut.steps(dot(frame.inSpace(pointAt(c, t), 0), cut.along), tol);
        });
    };
}

} // namespace

namespace {

/// What of the solid stands against the lines of the sheet within one window of a view.
struct Held {
    Window window;
    const std::vector<ProjectedLine>* lines;
    bool tells_hidden; ///< whether hidden lines are drawn there
    Lines seen, any, drawn_seen, drawn_any;
};

/// The windows of a view: all of it but for what is broken out, then each of the broken-out sections.
std::vector<Held> heldBy(const Figure& f, const FigureView& view, const SeenInView& seen,
                         Progress& progress) {
    Box2 reach;
    for (const ProjectedLine& l : seen.lines) reach.add(boxOf(l.shape));
    std::vector<Held> r;
    r.push_back({windowOf(f, view, f.now, reach), &seen.lines, false, {}, {}, {}, {}});
    if (seen.broken_out.empty()) return r;
    const auto areas = closedAreasOf(f, view.view, f.now, progress);
    for (const SeenInView::BrokenOut& b : seen.broken_out) {
        const auto within = areasWithin(*b.cut, areas);
        std::vector<const ClosedArea*> of;
        for (const ClosedArea& a : within) of.push_back(&a);
        Region region{unionLoops(of)};
        r.front().window.regions.push_back(region);
        r.push_back({{{}, {}, {std::move(region)}, true}, &b.lines, false, {}, {}, {}, {}});
    }
    return r;
}

/// What of a line of the sheet the solid does not show.
std::vector<Interval> gapsIn(const Curve& c, bool drawn_hidden, const Held& h, bool alike, double tol) {
    if (drawn_hidden || alike) return uncovered(c, h.any.near(c, tol), tol);
    constexpr double kBesides = 10; // of the tolerance
    auto gaps = uncovered(c, h.seen.near(c, tol), tol);
    // Where an outline parts from the edge that hides it, as that of a round wall does from the rim, both are
    // one line for a while: which of them is seen cannot be told there.
    std::erase_if(gaps, [&](const Interval& g) {
        const Curve piece = part(c, g.from, g.to);
        return uncovered(piece, h.any.near(piece, tol), tol).empty() &&
               uncovered(piece, h.seen.near(piece, kBesides * tol), kBesides * tol).empty();
    });
    return gaps;
}

} // namespace

ViewProof compare(const Figure& f, const FigureView& view, const SeenInView& seen, LineKinds kinds,
                  Progress& progress) {
    const double tol = f.tolerances.proof;
    ViewProof v;
    v.view = view.view, v.name = view.name, v.shows = view.shows;
    for (const SeenInView::BrokenOut& b : seen.broken_out) v.broken_out.push_back(b.depth);
    const bool alike = kinds == LineKinds::alike;
    std::vector<Held> held = heldBy(f, view, seen, progress);
    v.in_part = !held.front().window.whole();
    std::vector<std::pair<int, Curve>> sheet;
    for (size_t i = 0; i < f.curves.size(); ++i)
        if (f.curves[i].view == view.view && !f.curves[i].freehand)
            sheet.emplace_back(static_cast<int>(i), f.curve(static_cast<int>(i)));
    for (Held& h : held) {
        // Where hidden lines are drawn elsewhere on the sheet, a view without any leaves them out.
        h.tells_hidden = (alike && !f.drawsHidden()) || std::ranges::any_of(sheet, [&](const auto& line) {
                             return f.curves[line.first].role == LineRole::hidden &&
                                    h.window.shows(pointAt(line.second, 0.5));
                         });
        for (const ProjectedLine& l : *h.lines) {
            if (l.kind == Kind::visible || l.kind == Kind::smooth) h.seen.add(l.shape, tol);
            h.any.add(l.shape, tol);
        }
    }
    for (const auto& [i, c] : sheet) {
        if (progress.cancelled()) return v;
        const bool hidden = f.curves[i].role == LineRole::hidden;
        bool shown = false, off = false;
        for (Held& h : held) {
            const auto parts = h.window.partsOf(c, tol);
            shown = shown || !parts.empty();
            off |=
                take(v, c, i, hidden, LineState::missing, gapsIn(c, hidden, h, alike, tol), parts, 4 * tol);
            if (!hidden) h.drawn_seen.add(c, tol);
            h.drawn_any.add(c, tol);
        }
        if (shown) ++(off ? v.missing : v.matched);
    }
    // Edges behind each other are drawn as one line: what is told of the one in front is not told again.
    const auto step = stepsOf(f, view);
    for (Held& h : held)
        for (const bool hidden : {false, true})
            for (const ProjectedLine& l : *h.lines) {
                if (progress.cancelled()) return v;
                if (l.kind != (hidden ? Kind::hidden : Kind::visible)) continue;
                if ((hidden && !h.tells_hidden) || step(l.shape)) continue;
                const Lines& drawn = hidden || alike ? h.drawn_any : h.drawn_seen;
                if (!take(v, l.shape, -1, hidden, LineState::extra,
                          uncovered(l.shape, drawn.near(l.shape, tol), tol), h.window.partsOf(l.shape, tol),
                          4 * tol))
                    continue;
                ++v.extra;
                h.drawn_any.add(l.shape, tol);
            }
    return v;
}

namespace {

/// Holds the hatching of a section against what its plane cuts (hatched is material, both ways round).
void compareAreas(const Figure& f, const FigureView& view, const SeenInView& seen, Progress& progress,
                  ViewProof& v) {
    if (view.principal() && seen.broken_out.empty()) return;
    const bool hatches = std::ranges::any_of(f.hatching, [&](const Hatch& h) { return h.view == view.view; });
    if (!hatches) return;
    const auto drawn = closedAreasOf(f, view.view, f.drawn, progress);
    const auto now = f.now == f.drawn ? drawn : closedAreasOf(f, view.view, f.now, progress);
    for (const ClosedArea& a : now) {
        const auto was =
            std::ranges::find_if(drawn, [&](const ClosedArea& o) { return o.bounds == a.bounds; });
        if (was == drawn.end()) continue; // its borders say that it is another
        const ShownSolid* shown = view.principal() ? nullptr : &seen.solid;
        for (const SeenInView::BrokenOut& b : seen.broken_out)
            if (std::ranges::find(b.cut->areas, a.bounds) != b.cut->areas.end()) shown = &b.solid;
        if (!shown) continue;
        ++v.areas;
        const bool hatched = isHatched(f, *was);
        if (hatched != inCut(f, view, *shown, a.seed)) v.areas_off.push_back({a.seed, a.area, hatched});
    }
}

ViewProof compareView(const Figure& f, const FigureView& view, const SeenInView& seen, LineKinds kinds,
                      Progress& progress) {
    ViewProof v = compare(f, view, seen, kinds, progress);
    compareAreas(f, view, seen, progress, v);
    return v;
}

Proof compared(const Figure& f, const std::vector<SeenInView>& seen, LineKinds kinds, Progress& progress) {
    Proof p;
    p.kinds = kinds;
    for (size_t i = 0; i < seen.size(); ++i) {
        const ViewProof& v = p.views.emplace_back(compareView(f, f.views[i], seen[i], kinds, progress));
        p.matched += v.matched, p.missing += v.missing, p.extra += v.extra;
        p.areas_off += static_cast<int>(v.areas_off.size());
    }
    return p;
}

/// Cuts the solid where the broken-out section of a view agrees best.
Result<void> breakOut(const Figure& f, const FigureView& view, const LocalCut& cut, const TopoDS_Shape& shape,
                      SeenInView& seen, Progress& progress) {
    const ViewFrame frame = frameOf(f, view, f.now);
    constexpr double endless = std::numeric_limits<double>::infinity();
    std::optional<double> least;
    SeenInView with = seen, best = seen;
    for (const auto& plane : cut.planes) {
        if (progress.cancelled()) return failure(ErrorCode::cancelled, "the proof was cancelled");
        SeenInView::BrokenOut b{&cut, f.value(plane, f.now), {}, {}};
        const double along = b.depth * dot(unitOf(view.axes.depth), frame.look);
        auto solid =
            shownBehind({frame.right, {{-endless, endless, along}}}, frame.look, shape, f.tolerances.proof);
        if (!solid) return tl::make_unexpected(solid.error());
        auto lines = projected(solid->shape, frame, progress);
        if (!lines) return tl::make_unexpected(lines.error());
        b.solid = std::move(*solid), b.lines = std::move(*lines);
        with.broken_out = seen.broken_out;
        with.broken_out.push_back(std::move(b));
        const double off = compareView(f, view, with, LineKinds::told, progress).off();
        if (least && off >= *least) continue;
        least = off, best = with;
        if (off == 0) break;
    }
    seen = std::move(best);
    return {};
}

/// Holds lines that are too many against what a viewer meets; whether any is hidden in truth. A failure of
/// the modeller leaves them as they are.
bool hideFalselySeen(const Figure& f, const Proof& p, std::vector<SeenInView>& seen) {
    bool any = false;
    for (size_t i = 0; i < seen.size(); ++i)
        (void)thrownBy([&] {
            const ViewFrame frame = frameOf(f, f.views[i], f.now);
            const auto& pieces = p.views[i].pieces;
            const double beside = f.tolerances.proof;
            any |= hideFalselySeen(seen[i].solid.shape, frame, pieces, beside, seen[i].lines);
            for (SeenInView::BrokenOut& b : seen[i].broken_out)
                any |= hideFalselySeen(b.solid.shape, frame, pieces, beside, b.lines);
        });
    return any;
}

} // namespace

namespace {

bool same(const ViewFrame& a, const ViewFrame& b) {
    return a.right == b.right && a.up == b.up && a.look == b.look && a.shift == b.shift;
}

} // namespace

Result<SeenInView> SeenSolid::in(const Figure& f, const FigureView& v, Progress& progress) {
    const ViewFrame frame = frameOf(f, v, f.now);
    const auto cuts = localCutsIn(f, v.view);
    // What is cut hangs on lines of other views: it is looked at anew.
    const bool whole = v.principal() && cuts.empty();
    if (whole)
        for (const Known& k : known_)
            if (same(k.frame, frame)) return k.seen;
    auto shown = shownBy(f, v, shape_);
    if (!shown) return tl::make_unexpected(shown.error());
    auto lines = projected(shown->shape, frame, progress);
    if (!lines) return tl::make_unexpected(lines.error());
    SeenInView seen{std::move(*shown), std::move(*lines), {}};
    for (const LocalCut* cut : cuts)
        if (auto done = breakOut(f, v, *cut, shape_, seen, progress); !done)
            return tl::make_unexpected(done.error());
    if (whole) known_.push_back({frame, seen});
    return seen;
}

Result<Proof> SeenSolid::against(const Figure& f, Progress& progress, LineKinds kinds) {
    if (shape_.IsNull()) return failure(ErrorCode::impossible, "there is no solid to compare");
    std::vector<SeenInView> seen;
    for (const FigureView& v : f.views) {
        progress.report(static_cast<double>(seen.size()) / static_cast<double>(f.views.size()),
                        "Projecting the solid back");
        if (progress.cancelled()) return failure(ErrorCode::cancelled, "the proof was cancelled");
        auto view = in(f, v, progress);
        if (!view) return tl::make_unexpected(view.error());
        seen.push_back(std::move(*view));
    }
    Proof p = compared(f, seen, kinds, progress);
    if (p.extra > 0 && hideFalselySeen(f, p, seen)) p = compared(f, seen, kinds, progress);
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "the proof was cancelled");
    if (!p.clean() && kinds == LineKinds::told && !f.drawsHidden())
        if (Proof alike = compared(f, seen, LineKinds::alike, progress); alike.clean()) return alike;
    return p;
}

Result<Proof> prove(const Figure& f, const TopoDS_Shape& shape, Progress& progress, LineKinds kinds) {
    return SeenSolid(shape).against(f, progress, kinds);
}

namespace {

NotCompared whyNot(const View& v) {
    NotCompared n{v.id, {}, true};
    switch (v.role) {
    case Role::section:
    case Role::auxiliary:
    case Role::detail:
        n.reason = fmt::format("where this {} stands in the box is not known", nameOf(v.role));
        break;
    case Role::pictorial:
        n.reason = "a pictorial view says nothing of sizes", n.counts = false;
        break;
    case Role::unassigned:
        n.reason = "what it shows is not known";
        break;
    default:
        n.reason = fmt::format("another view is used as the {} view", nameOf(v.role));
    }
    return n;
}

std::string counted(int n, const char* one, const char* many) {
    return fmt::format("{} {}", n, n == 1 ? one : many);
}

} // namespace

Result<Proof> prove(const Figure& f, const ViewSet& set, const TopoDS_Shape& shape, Progress& progress) {
    auto p = prove(f, shape, progress);
    return p ? ofTheSheet(std::move(*p), f, set) : p;
}

Proof ofTheSheet(Proof p, const Figure& f, const ViewSet& set) {
    for (const View& v : set.views)
        if (!f.viewById(v.id)) p.not_compared.push_back(whyNot(v));
    return p;
}

std::string inWords(const Proof& p) {
    const bool all = p.compared() == p.total();
    const char* kinds =
        p.kinds == LineKinds::alike
            ? "; hidden lines are drawn like visible ones, so which are hidden was not compared"
            : "";
    if (p.clean())
        return all ? fmt::format("the solid shows every line of the sheet{}", kinds)
                   : fmt::format("the solid shows every line of the {} compared, of {}{}",
                                 counted(p.compared(), "view", "views"), p.total(), kinds);
    const std::string areas =
        p.areas_off == 0 ? ""
                         : fmt::format(", {} hatched otherwise than it is cut",
                                       counted(p.areas_off, "area of a section", "areas of sections"));
    return fmt::format("{} of the sheet missing, {} too many{}{}", counted(p.missing, "line", "lines"),
                       p.extra, areas,
                       all ? "" : fmt::format("; {} of {} views were compared", p.compared(), p.total()));
}

} // namespace prism
