#include "core/building/repeats.h"

#include "core/building/places.h"
#include "core/building/to_kernel.h"

#include <BRepBuilderAPI_Transform.hxx>
#include <TopExp_Explorer.hxx>
#include <fmt/format.h>
#include <gp_Ax1.hxx>
#include <gp_Ax2.hxx>

namespace prism::building {
namespace {

gp_Trsf moved(Vec3 by) {
    gp_Trsf t;
    t.SetTranslation(gp_Vec(packed(by)));
    return t;
}

/// Places at equal lengths along a curve, from the end nearer to a place on it; along a closed one from that
/// place on.
std::vector<Vec2> spread(Curve c, int count, Vec2 from, double tolerance) {
    const double t = nearestParameter(c, from);
    if (const auto* circle = std::get_if<Arc>(&c); circle && circle->full())
        c = Arc{circle->centre, circle->radius, circle->start + t * circle->sweep, circle->sweep};
    else if (t > 0.5)
        c = reversed(c);
    const auto fine = sampled(c, 1e-4);
    std::vector<double> at{0};
    for (size_t i = 1; i < fine.size(); ++i) at.push_back(at.back() + distance(fine[i - 1], fine[i]));
    const double step = at.back() / (isClosed(c, tolerance) ? count : count - 1);
    std::vector<Vec2> r;
    for (int k = 0; k < count; ++k) {
        const double want = k * step;
        const auto past = std::min<size_t>(
            static_cast<size_t>(std::ranges::lower_bound(at, want) - at.begin()), at.size() - 1);
        if (past == 0) {
            r.push_back(fine.front());
            continue;
        }
        const double share = (want - at[past - 1]) / (at[past] - at[past - 1]);
        r.push_back(
            pointAt(c, (static_cast<double>(past - 1) + share) / static_cast<double>(fine.size() - 1)));
    }
    return r;
}

Result<std::vector<gp_Trsf>> mirrored(const Figure& f, const Step& s) {
    const FigureView* v = f.viewNamed(s.axis.view);
    if (!v || !v->square || (v->axes.right != s.across && v->axes.up != s.across))
        return failure(ErrorCode::impossible,
                       fmt::format("the {} view does not show {}", nameOf(s.axis.view), nameOf(s.across)));
    const Vec3 way = unitOf(s.across);
    gp_Trsf t;
    t.SetMirror(gp_Ax2(gp_Pnt(packed(way * resolveCentre(f, *v, s.axis.at, s.across))), gp_Dir(packed(way))));
    return std::vector{t};
}

Result<std::vector<gp_Trsf>> alongCurve(const Figure& f, const Repetition& r) {
    const FigureView* v = f.viewNamed(r.at.view);
    const int c = v ? curveNear(f, *v, r.at.at) : -1;
    if (c < 0) return failure(ErrorCode::impossible, "no curve stands where the pattern should run");
    const ViewFrame frame = frameOf(f, *v, f.now);
    const auto places = spread(f.curve(c), r.count, Warp(f, v->view)(r.at.at), f.tolerances.same_model);
    std::vector<gp_Trsf> all;
    for (size_t k = 1; k < places.size(); ++k)
        all.push_back(moved(frame.inSpace(places[k], 0) - frame.inSpace(places[0], 0)));
    return all;
}

Result<std::vector<gp_Trsf>> roundCentre(const Figure& f, const Repetition& r) {
    const FigureView* v = f.viewNamed(r.at.view);
    if (!v)
        return failure(ErrorCode::impossible,
                       fmt::format("there is no {} view on the sheet", nameOf(r.at.view)));
    const ViewFrame frame = frameOf(f, *v, f.now);
    const gp_Ax1 axis(gp_Pnt(packed(frame.inSpace(circlesAt(f, *v, r.at.at).centre, 0))),
                      gp_Dir(packed(cross(frame.right, frame.up))));
    std::vector<gp_Trsf> all;
    for (int k = 1; k < r.count; ++k) {
        gp_Trsf t;
        t.SetRotation(axis, k * r.angle / r.count);
        all.push_back(t);
    }
    return all;
}

std::vector<gp_Trsf> onGrid(const Repetition& r) {
    const int rows = r.kind == Repetition::Kind::grid ? r.second_count : 1;
    std::vector<gp_Trsf> all;
    for (int j = 0; j < rows; ++j)
        for (int i = 0; i < r.count; ++i)
            if (i > 0 || j > 0)
                all.push_back(moved(unitOf(r.axis) * (i * double(r.pitch)) +
                                    unitOf(r.second_axis) * (j * double(r.second_pitch))));
    return all;
}

} // namespace

Result<std::vector<gp_Trsf>> copiesOf(const Figure& f, const Step& s) {
    if (s.kind == StepKind::mirror) return mirrored(f, s);
    auto all = s.repeat.kind == Repetition::Kind::circle  ? roundCentre(f, s.repeat)
               : s.repeat.kind == Repetition::Kind::curve ? alongCurve(f, s.repeat)
                                                          : Result<std::vector<gp_Trsf>>(onGrid(s.repeat));
    if (!all) return all;
    std::vector<gp_Trsf> kept;
    for (size_t k = 0; k < all->size(); ++k) // the original is number 1
        if (std::ranges::find(s.repeat.left_out, static_cast<int>(k) + 2) == s.repeat.left_out.end())
            kept.push_back((*all)[k]);
    return kept;
}

StepBody copied(const TopoDS_Shape& shape, const FaceNames& names, const gp_Trsf& to, int index) {
    BRepBuilderAPI_Transform t(shape, to, true);
    StepBody r;
    r.shape = t.Shape();
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next())
        for (const FaceName& n : names.of(x.Current()))
            r.names.add(t.ModifiedShape(x.Current()), {index, n.part, n.curve});
    return r;
}

} // namespace prism::building
