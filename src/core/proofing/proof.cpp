#include "core/proofing/proof.h"

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

/// Writes the pieces of one line: what is covered as matched, the rest with the state given.
void take(ViewProof& v, const Curve& c, int curve, bool hidden, LineState off,
          const std::vector<Interval>& gaps) {
    const double len = lengthOf(c);
    double at = 0;
    auto piece = [&](LineState s, double t0, double t1) {
        if (t1 <= t0) return;
        if (s == LineState::matched && off == LineState::extra) return; // the sheet's own line stands for it
        v.pieces.push_back({s, hidden, curve, part(c, t0, t1), len * (t1 - t0)});
        (s == LineState::matched   ? v.matched_length
         : s == LineState::missing ? v.missing_length
                                   : v.extra_length) += len * (t1 - t0);
    };
    for (const Interval& g : gaps) {
        piece(LineState::matched, at, g.from);
        piece(off, g.from, g.to);
        at = g.to;
    }
    piece(LineState::matched, at, 1);
    if (off == LineState::missing)
        ++(gaps.empty() ? v.matched : v.missing);
    else if (!gaps.empty())
        ++v.extra;
}

} // namespace

const char* nameOf(LineState s) {
    constexpr std::array names{"matched", "missing", "extra"};
    return names[static_cast<size_t>(s)];
}

ViewProof compare(const Figure& f, const FigureView& view, const std::vector<double>& x,
                  const std::vector<ProjectedLine>& lines, LineKinds kinds) {
    const double tol = f.tolerances.proof;
    ViewProof v;
    v.view = view.view;
    v.role = view.role;
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
             uncovered(c, (hidden || alike ? any : seen).near(c, tol), tol));
        if (!hidden) drawnSeen.add(c, tol);
        drawnAny.add(c, tol);
    }
    for (const ProjectedLine& l : lines) {
        if (l.kind == Kind::smooth || (l.kind == Kind::hidden && !anyHidden)) continue;
        const bool hidden = l.kind == Kind::hidden;
        take(v, l.shape, -1, hidden, LineState::extra,
             uncovered(l.shape, (hidden ? drawnAny : drawnSeen).near(l.shape, tol), tol));
    }
    return v;
}

namespace {

Proof compared(const Figure& f, const std::vector<std::vector<ProjectedLine>>& lines, LineKinds kinds) {
    Proof p;
    p.kinds = kinds;
    for (size_t i = 0; i < lines.size(); ++i) {
        p.views.push_back(compare(f, f.views[i], f.now, lines[i], kinds));
        p.matched += p.views.back().matched;
        p.missing += p.views.back().missing;
        p.extra += p.views.back().extra;
    }
    return p;
}

} // namespace

Result<Proof> prove(const Figure& f, const TopoDS_Shape& shape, Progress& progress) {
    if (shape.IsNull()) return failure(ErrorCode::impossible, "there is no solid to compare");
    std::vector<std::vector<ProjectedLine>> lines;
    for (const FigureView& v : f.views) {
        progress.report(static_cast<double>(lines.size()) / static_cast<double>(f.views.size()),
                        "Projecting the solid back");
        if (progress.cancelled()) return failure(ErrorCode::cancelled, "the proof was cancelled");
        auto seen = projected(shape, v.role);
        if (!seen) return tl::make_unexpected(seen.error());
        lines.push_back(std::move(*seen));
    }
    Proof p = compared(f, lines, LineKinds::told);
    if (!p.clean() && !f.drawsHidden())
        if (Proof alike = compared(f, lines, LineKinds::alike); alike.clean()) return alike;
    return p;
}

namespace {

NotCompared whyNot(const View& v) {
    NotCompared n{v.id, {}, true};
    switch (v.role) {
    case Role::section:
    case Role::auxiliary:
    case Role::detail:
        n.reason = fmt::format("{} views are not held against the solid", nameOf(v.role));
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
    return fmt::format("{} of the sheet missing, {} too many{}", counted(p.missing, "line", "lines"), p.extra,
                       all ? "" : fmt::format("; {} of {} views were compared", p.compared(), p.total()));
}

} // namespace prism
