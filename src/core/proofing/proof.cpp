#include "core/proofing/proof.h"

#include "core/base/crossings.h"
#include "core/figure/areas.h"
#include "core/proofing/cover.h"

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

/// Where a view shows the part: everywhere, or within a circle and a box.
struct Window {
    std::optional<Arc> circle;
    std::optional<Box2> box;

    bool whole() const { return !circle && !box; }
    bool shows(Vec2 p) const {
        return (!circle || distance(p, circle->centre) <= circle->radius) && (!box || box->contains(p));
    }
    /// The parts of a curve that are shown.
    std::vector<Interval> partsOf(const Curve& c, double tol) const {
        if (whole()) return {{0, 1}};
        std::vector<double> at{0, 1};
        const auto cutBy = [&](const Curve& border) {
            for (Vec2 p : crossings(c, border, tol)) at.push_back(nearestParameter(c, p));
        };
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
        return {Arc{centre, 0.5 * v.within.width() * kInner, 0, 2 * kPi}, sheet.grown(tol)};
    }
    if (!solid.valid() || sheet.grown(4 * tol).contains(solid)) return {};
    return {{}, sheet.grown(tol)};
}

/// Writes the pieces of one line: what is covered as matched, the rest with the state given. Only the parts
/// that the view shows count, and of those no gap up to `least`, mm.
void take(ViewProof& v, const Curve& c, int curve, bool hidden, LineState off,
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
    if (shown.empty()) return;
    if (off == LineState::missing)
        ++(any_off ? v.missing : v.matched);
    else if (any_off)
        ++v.extra;
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

ViewProof compare(const Figure& f, const FigureView& view, const std::vector<double>& x,
                  const std::vector<ProjectedLine>& lines, LineKinds kinds) {
    const double tol = f.tolerances.proof;
    ViewProof v;
    v.view = view.view, v.name = view.name, v.shows = view.shows;
    Box2 reach;
    for (const ProjectedLine& l : lines) reach.add(boxOf(l.shape));
    const Window window = windowOf(f, view, x, reach);
    v.in_part = !window.whole();
    std::vector<std::pair<int, Curve>> sheet;
    const bool alike = kinds == LineKinds::alike;
    bool anyHidden = alike;
    for (size_t i = 0; i < f.curves.size(); ++i) {
        if (f.curves[i].view != view.view) continue;
        sheet.emplace_back(static_cast<int>(i), f.curve(static_cast<int>(i), x));
        anyHidden = anyHidden || f.curves[i].role == LineRole::hidden;
    }
    Lines seen, any, drawnSeen, drawnAny;
    for (const ProjectedLine& l : lines) {
        if (l.kind != Kind::hidden) seen.add(l.shape, tol);
        any.add(l.shape, tol);
    }
    for (const auto& [i, c] : sheet) {
        const bool hidden = f.curves[i].role == LineRole::hidden;
        take(v, c, i, hidden, LineState::missing,
             uncovered(c, (hidden || alike ? any : seen).near(c, tol), tol), window.partsOf(c, tol), 4 * tol);
        if (!hidden) drawnSeen.add(c, tol);
        drawnAny.add(c, tol);
    }
    const auto step = stepsOf(f, view);
    for (const ProjectedLine& l : lines) {
        if (l.kind == Kind::smooth || (l.kind == Kind::hidden && !anyHidden) || step(l.shape)) continue;
        const bool hidden = l.kind == Kind::hidden;
        take(v, l.shape, -1, hidden, LineState::extra,
             uncovered(l.shape, (hidden ? drawnAny : drawnSeen).near(l.shape, tol), tol),
             window.partsOf(l.shape, tol), 4 * tol);
    }
    return v;
}

namespace {

/// What the solid shows in one view.
struct Seen {
    ShownSolid solid;
    std::vector<ProjectedLine> lines;
};

/// Holds the hatching of a section against what its plane cuts (hatched is material, both ways round).
void compareAreas(const Figure& f, const FigureView& view, const ShownSolid& shown, Progress& progress,
                  ViewProof& v) {
    const bool hatches = std::ranges::any_of(f.hatching, [&](const Hatch& h) { return h.view == view.view; });
    if (!hatches) return;
    const auto drawn = closedAreasOf(f, view.view, f.drawn, progress);
    const auto now = f.now == f.drawn ? drawn : closedAreasOf(f, view.view, f.now, progress);
    for (const ClosedArea& a : now) {
        const auto was =
            std::ranges::find_if(drawn, [&](const ClosedArea& o) { return o.bounds == a.bounds; });
        if (was == drawn.end()) continue; // its borders say that it is another
        ++v.areas;
        const bool hatched = isHatched(f, *was);
        if (hatched != inCut(f, view, shown, a.seed)) v.areas_off.push_back({a.seed, a.area, hatched});
    }
}

Proof compared(const Figure& f, const std::vector<Seen>& seen, LineKinds kinds, Progress& progress) {
    Proof p;
    p.kinds = kinds;
    for (size_t i = 0; i < seen.size(); ++i) {
        ViewProof& v = p.views.emplace_back(compare(f, f.views[i], f.now, seen[i].lines, kinds));
        if (v.shows == Shows::cut) compareAreas(f, f.views[i], seen[i].solid, progress, v);
        p.matched += v.matched, p.missing += v.missing, p.extra += v.extra;
        p.areas_off += static_cast<int>(v.areas_off.size());
    }
    return p;
}

} // namespace

Result<Proof> prove(const Figure& f, const TopoDS_Shape& shape, Progress& progress) {
    if (shape.IsNull()) return failure(ErrorCode::impossible, "there is no solid to compare");
    std::vector<Seen> seen;
    for (const FigureView& v : f.views) {
        progress.report(static_cast<double>(seen.size()) / static_cast<double>(f.views.size()),
                        "Projecting the solid back");
        if (progress.cancelled()) return failure(ErrorCode::cancelled, "the proof was cancelled");
        auto shown = shownBy(f, v, shape);
        if (!shown) return tl::make_unexpected(shown.error());
        auto lines = projected(shown->shape, frameOf(f, v, f.now));
        if (!lines) return tl::make_unexpected(lines.error());
        seen.push_back({std::move(*shown), std::move(*lines)});
    }
    Proof p = compared(f, seen, LineKinds::told, progress);
    if (!p.clean() && !f.drawsHidden())
        if (Proof alike = compared(f, seen, LineKinds::alike, progress); alike.clean()) return alike;
    return p;
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
    if (!p) return p;
    for (const View& v : set.views)
        if (!f.viewById(v.id)) p->not_compared.push_back(whyNot(v));
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
