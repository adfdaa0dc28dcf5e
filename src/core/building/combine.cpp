#include "core/building/combine.h"

#include "core/base/smooth.h"
#include "core/building/kernel.h"
#include "core/building/openings.h"
#include "core/building/soundness.h"
#include "core/building/unify.h"

#include <BOPTools_AlgoTools3D.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBndLib.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepLib.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <IntTools_Context.hxx>
#include <Message_ProgressIndicator.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>

namespace prism::building {
namespace {

/// The ladder: tolerances that are tried one after another, as shares of the part's size; the first is the
/// modeller's own.
constexpr std::array kRungs{0.0, 1e-7, 1e-6, 1e-5};

int count(const TopoDS_Shape& s, TopAbs_ShapeEnum kind) {
    TopTools_IndexedMapOfShape m;
    TopExp::MapShapes(s, kind, m);
    return m.Extent();
}

Bnd_Box boxOf(const TopoDS_Shape& s) {
    Bnd_Box b;
    BRepBndLib::Add(s, b, false);
    return b;
}

/// Whether corners are drawn together by far more than the bodies left between them: what then comes out,
/// without an error, is no body.
bool drawnTogether(const TopoDS_Shape& s, double size) {
    constexpr double kMost = 1e-3; // of the part's size
    for (TopExp_Explorer x(s, TopAbs_VERTEX); x.More(); x.Next())
        if (BRep_Tool::Tolerance(TopoDS::Vertex(x.Current())) > kMost * size) return true;
    return false;
}

/// Tools in as few groups as a greedy choice finds, so that those of one group lie apart. The modeller
/// combines the tools with each other as well, and where two of them share a face it has been seen to cut
/// nothing at all, without an error.
std::vector<std::vector<TopoDS_Shape>> apart(const std::vector<TopoDS_Shape>& tools) {
    std::vector<std::vector<TopoDS_Shape>> groups;
    std::vector<std::vector<Bnd_Box>> boxes;
    for (const TopoDS_Shape& t : tools) {
        const Bnd_Box box = boxOf(t);
        size_t g = 0;
        while (g < groups.size() &&
               std::ranges::any_of(boxes[g], [&](const Bnd_Box& other) { return !box.IsOut(other); }))
            ++g;
        if (g == groups.size()) groups.emplace_back(), boxes.emplace_back();
        groups[g].push_back(t), boxes[g].push_back(box);
    }
    return groups;
}

/// Lets the modeller ask whether to go on.
class StopIndicator final : public Message_ProgressIndicator {
  public:
    explicit StopIndicator(const Progress& progress) : progress_(progress) {}
    Standard_Boolean UserBreak() override { return progress_.cancelled(); }

  private:
    void Show(const Message_ProgressScope&, const Standard_Boolean) override {}
    const Progress& progress_;
};

/// Whether a cut lost a tool: a face of it that reaches into the body left nothing behind. The modeller has
/// been seen to, without an error, where curves of several faces come close.
bool lostAny(BRepAlgoAPI_Cut& done, const std::vector<TopoDS_Shape>& tools, const TopoDS_Shape& body,
             double tolerance) {
    const Bnd_Box box = boxOf(body);
    const Handle(IntTools_Context) context = new IntTools_Context;
    std::optional<BRepClass3d_SolidClassifier> within;
    for (const TopoDS_Shape& t : tools)
        for (TopExp_Explorer x(t, TopAbs_FACE); x.More(); x.Next()) {
            gp_Pnt at; // well inside the face
            gp_Pnt2d on;
            if (!done.IsDeleted(x.Current()) || box.IsOut(boxOf(x.Current())) ||
                BOPTools_AlgoTools3D::PointInFace(TopoDS::Face(x.Current()), at, on, context) != 0)
                continue;
            if (!within) within.emplace(body);
            within->Perform(at, tolerance);
            if (within->State() == TopAbs_IN) return true;
        }
    return false;
}

} // namespace

template <class Algorithm>
TopoDS_Shape Parts::combined(const TopoDS_Shape& base, const std::vector<TopoDS_Shape>& tools,
                             const Progress& progress) {
    const Handle(Message_ProgressIndicator) stop = new StopIndicator(progress);
    TopTools_ListOfShape arguments, others;
    arguments.Append(base);
    for (const TopoDS_Shape& t : tools) others.Append(t);
    for (const double rung : kRungs) {
        Algorithm a;
        a.SetArguments(arguments);
        a.SetTools(others);
        a.SetNonDestructive(true); // the same bodies may be combined otherwise later
        a.SetCheckInverted(false); // prisms and turned bodies are never inside out
        a.SetRunParallel(false);   // threads cost more than they give on bodies of this size
        a.SetFuzzyValue(rung * size_);
        a.Build(stop->Start());
        if (progress.cancelled()) throw KernelError("the joining of bodies was stopped");
        if (a.HasErrors() || !a.IsDone() || drawnTogether(a.Shape(), size_)) continue;
        if constexpr (std::is_same_v<Algorithm, BRepAlgoAPI_Cut>)
            if (lostAny(a, tools, base, 1e-6 * size_)) continue;
        if (rung > 0 && !isSound(a.Shape())) continue;
        loosened_ = std::max(loosened_, rung * size_);
        names_.follow(a, base);
        for (const TopoDS_Shape& t : tools) names_.follow(a, t);
        return a.Shape();
    }
    throw KernelError("the bodies could not be combined");
}

void Parts::apply(Operation o, const std::vector<TopoDS_Shape>& tools, const FaceNames& names,
                  const Progress& progress) {
    names_.take(names);
    settled_ = false;
    switch (o) {
    case Operation::add:
        bodies_.insert(bodies_.end(), tools.begin(), tools.end());
        return;
    case Operation::cut:
        cut(tools, progress);
        return;
    case Operation::intersect: // what lies in each tool
        for (const TopoDS_Shape& t : tools)
            for (TopoDS_Shape& b : bodies_) b = combined<BRepAlgoAPI_Common>(b, {t}, progress);
        break;
    }
    dropEmpty();
}

void Parts::cut(const std::vector<TopoDS_Shape>& tools, const Progress& progress) {
    for (TopoDS_Shape& b : bodies_) {
        const Bnd_Box box = boxOf(b);
        std::vector<TopoDS_Shape> near;
        for (const TopoDS_Shape& t : tools)
            if (!box.IsOut(boxOf(t))) near.push_back(t);
        for (const auto& some : apart(near)) {
            Opened r{b, some};
            (void)thrownBy([&] { r = opened(b, some, size_, names_); });
            b = r.left.empty() ? r.body : combined<BRepAlgoAPI_Cut>(r.body, r.left, progress);
        }
    }
    dropEmpty();
}

void Parts::dropEmpty() {
    std::erase_if(bodies_, [](const TopoDS_Shape& b) { return count(b, TopAbs_SOLID) == 0; });
}

TopoDS_Shape Parts::whole(const Progress& progress) {
    if (bodies_.empty() || settled_) return bodies_.empty() ? TopoDS_Shape() : bodies_.front();
    TopoDS_Shape all =
        bodies_.size() == 1
            ? bodies_.front()
            : combined<BRepAlgoAPI_Fuse>(bodies_.front(), {bodies_.begin() + 1, bodies_.end()}, progress);
    // Where two round faces met whose seams lay at different places, an edge is left that bounds nothing.
    (void)thrownBy([&] { BRepTools::RemoveInternals(all); });
    // A solid whose faces cannot be made one is still a solid.
    (void)thrownBy([&] {
        const Handle(BRepTools_History) history = new BRepTools_History;
        const TopoDS_Shape one = unified(all, history);
        names_.follow(*history, all);
        all = one;
    });
    // Smooth edges are no lines of a drawing, whether or not the faces beside them could be made one.
    (void)thrownBy([&] { BRepLib::EncodeRegularity(all, kSmooth); });
    replace(all);
    return all;
}

void Parts::replace(const TopoDS_Shape& whole) {
    bodies_ = {whole};
    settled_ = true;
}

} // namespace prism::building
