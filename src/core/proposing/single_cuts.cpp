#include "core/proposing/single_cuts.h"

#include "core/building/kernel.h"
#include "core/proposing/cell_steps.h"
#include "core/proposing/view_map.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <fmt/format.h>

namespace prism {
namespace {

constexpr int kMostTrials = 100;
/// Of one solid: more are not projected back on mere suspicion.
constexpr int kMostFacesOfOne = 400;

} // namespace

int weightOf(const TopoDS_Shape& shape) {
    constexpr int kFreeForm = 40, kFreeEdge = 10;
    int n = 0;
    for (TopExp_Explorer x(shape, TopAbs_EDGE); x.More(); x.Next()) {
        if (BRep_Tool::Degenerated(TopoDS::Edge(x.Current()))) continue;
        const auto kind = BRepAdaptor_Curve(TopoDS::Edge(x.Current())).GetType();
        n += kind == GeomAbs_Line || kind == GeomAbs_Circle ? 0 : kFreeEdge;
    }
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next()) {
        const auto kind = BRepAdaptor_Surface(TopoDS::Face(x.Current()), false).GetType();
        n += kind == GeomAbs_Plane || kind == GeomAbs_Cylinder ? 1 : kFreeForm;
    }
    return n;
}

/// How far a solid is from the sheet: mm of missing and extra line.
double distanceFromSheet(const Proof& p) {
    double sum = 0;
    for (const ViewProof& v : p.views) sum += v.off();
    return sum;
}

namespace {

struct State {
    std::vector<Step> steps;
    TopoDS_Shape shape;
    double off = std::numeric_limits<double>::infinity();
    int missing = 0, extra = 0;
};

class Proposer {
  public:
    Proposer(const Figure& f, const AreaSets& areas, Progress& p) : f_(f), progress_(p), sets_(areas) {}

    /// Where the cuts begin; nothing is cut from a solid that cannot be built.
    void start(const std::vector<Step>& steps) {
        BuildResult b = build(f_, sets_, steps, progress_);
        if (!b.ok()) return;
        State s{steps, b.shape, 0};
        if (score(s) && s.off < best_.off) best_ = std::move(s);
    }
    /// Tries a cut and keeps it when it brings the solid closer to the sheet.
    bool attempt(const Step& cut) {
        if (ended() || progress_.cancelled() || best_.off < f_.tolerances.proof * 10) return false;
        ++tried_;
        progress_.report(static_cast<double>(tried_) / kMostTrials, "Proposing a solid");
        const auto body = stepBody(f_, sets_, cut);
        if (!body) return false;
        State s{best_.steps, {}, 0};
        s.steps.push_back(cut);
        // As the modeller leaves it: seams between its faces stand for lines of the sheet that a later cut
        // makes edges. With faces made one, as they are built, fewer parts come out.
        const auto shape = guarded<TopoDS_Shape>(
            [&]() -> TopoDS_Shape { return BRepAlgoAPI_Cut(best_.shape, body->shape).Shape(); });
        if (!shape || shape->IsNull()) return false;
        s.shape = *shape;
        if (!score(s) || s.off > best_.off - 10 * f_.tolerances.proof) return false;
        best_ = std::move(s);
        return true;
    }
    const std::vector<ClosedArea>& areas() const { return sets_.drawn; }
    const State& best() const { return best_; }
    int tried() const { return tried_; }
    /// Whether a budget ended the search.
    bool ended() const { return tried_ >= kMostTrials || faces_ >= kMostWeight; }

  private:
    bool score(State& s) {
        const int faces = weightOf(s.shape);
        faces_ += faces;
        if (faces > kMostFacesOfOne) return false;
        const auto proof = prove(f_, s.shape, progress_);
        if (!proof) return false;
        s.off = distanceFromSheet(*proof), s.missing = proof->missing, s.extra = proof->extra;
        return true;
    }

    const Figure& f_;
    Progress& progress_;
    const AreaSets& sets_;
    State best_;
    int tried_ = 0, faces_ = 0;
};

ViewName nameOf(const Figure& f, int view) {
    return f.viewById(view)->name;
}

/// Values along the depth axis at which a face of this area may lie: lines of the neighbour views that run
/// along the whole width of the area.
std::vector<MarkRef> depthsOf(const Figure& f, const ClosedArea& a) {
    const FigureView& v = *f.viewById(a.view);
    std::vector<MarkRef> r;
    std::vector<double> known;
    for (const FigureCurve& c : f.curves) {
        const FigureView& o = *f.viewById(c.view);
        const auto* s = std::get_if<Segment>(&c.drawn);
        if (!s || o.view == v.view || !o.principal()) continue;
        const bool depthUp = o.axes.up == v.axes.depth;
        if (!depthUp && o.axes.right != v.axes.depth) continue;
        const Axis shared = depthUp ? o.axes.right : o.axes.up;
        const double d0 = depthUp ? s->a.y : s->a.x, d1 = depthUp ? s->b.y : s->b.x;
        if (std::abs(d0 - d1) > f.tolerances.same_model) continue;
        const double w0 = depthUp ? s->a.x : s->a.y, w1 = depthUp ? s->b.x : s->b.y;
        const double lo = shared == v.axes.right ? a.box.lo.x : a.box.lo.y,
                     hi = shared == v.axes.right ? a.box.hi.x : a.box.hi.y;
        if (std::max(w0, w1) <= lo || std::min(w0, w1) >= hi) continue;
        if (std::any_of(known.begin(), known.end(),
                        [&](double k) { return std::abs(k - d0) < f.tolerances.same_model; }))
            continue;
        known.push_back(d0);
        r.push_back({o.name, pointAt(c.drawn, 0.5)});
    }
    return r;
}

Step cutOf(const Figure& f, const ClosedArea& a) {
    Step s;
    s.view = nameOf(f, a.view);
    s.operation = Operation::cut;
    s.areas = {a.seed};
    s.reach = Reach::through;
    return s;
}

void cutThrough(const Figure& f, Proposer& p) {
    for (const ClosedArea& a : p.areas()) p.attempt(cutOf(f, a));
}

/// A visible area is a face: what lies between it and the viewer is air.
void cutDown(const Figure& f, Proposer& p) {
    for (const ClosedArea& a : p.areas()) {
        Step s = cutOf(f, a);
        s.reach = Reach::between;
        const bool low = viewerAtLowEnd(*f.viewById(a.view));
        for (const MarkRef& m : depthsOf(f, a)) {
            Bound& inner = low ? s.to : s.from;
            inner.kind = Bound::Kind::mark;
            inner.mark = m;
            if (p.attempt(s)) break;
        }
    }
}

} // namespace

CutsFound bySingleCuts(const Figure& f, const AreaSets& areas, const std::vector<Step>& from,
                       Progress& progress) {
    Proposer p(f, areas, progress);
    p.start(from.empty() ? outlinesIntersected(f, p.areas()) : from);
    cutThrough(f, p);
    cutDown(f, p);
    return {p.best().steps, p.best().off, p.tried(), p.ended()};
}

} // namespace prism
