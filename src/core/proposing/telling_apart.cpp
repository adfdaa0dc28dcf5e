#include "core/proposing/telling_apart.h"

#include "core/base/cover.h"
#include "core/building/overlap.h"
#include "core/building/stoppable.h"
#include "core/proofing/proof.h"

#include <BRepBndLib.hxx>
#include <Bnd_Box.hxx>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace prism {
namespace {

using Lines = std::vector<ProjectedLine>;

constexpr double kBeside = 0.25; ///< of the size of what differs: what is drawn round it

/// Whether every line of one view is drawn in another one as well.
bool allIn(const Lines& lines, const Lines& others, double tolerance) {
    for (const auto kind : {ProjectedLine::Kind::visible, ProjectedLine::Kind::hidden}) {
        std::vector<const Curve*> alike;
        for (const ProjectedLine& o : others)
            if (o.kind == kind) alike.push_back(&o.shape);
        for (const ProjectedLine& l : lines)
            if (l.kind == kind && lengthOf(l.shape) > tolerance &&
                !uncovered(l.shape, alike, tolerance).empty())
                return false;
    }
    return true;
}

bool looksUnlike(const Figure& f, Role role, const TopoDS_Shape& a, const TopoDS_Shape& b,
                 const Progress& progress) {
    const ViewAxes axes = axesOf(role);
    const ViewFrame frame{
        axes.right_sign * unitOf(axes.right), axes.up_sign * unitOf(axes.up), lookOf(role), {}};
    auto seen = projected(a, frame, progress), other = projected(b, frame, progress);
    if (!seen || !other) return false;
    const double tolerance = f.tolerances.proof;
    return !allIn(*seen, *other, tolerance) || !allIn(*other, *seen, tolerance);
}

/// To a thousandth of a millimetre; what the modeller leaves of nothing is nothing.
std::string told(double mm) {
    return fmt::format("{:g}", std::round(mm * 1e3) / 1e3 + 0.0);
}

std::string reachOf(const char* axis, double lo, double hi) {
    return fmt::format("{} {} to {}", axis, told(lo), told(hi));
}

/// What differs, and the surroundings of it in both solids.
struct Surroundings {
    Difference of;
    TopoDS_Shape near, other_near;
};

Surroundings surroundingsOf(const TopoDS_Shape& proposed, const TopoDS_Shape& other) {
    Difference d;
    d.more = beyond(other, proposed), d.less = beyond(proposed, other);
    d.more_volume = volumeOf(d.more), d.less_volume = volumeOf(d.less);
    Bnd_Box box;
    const double nothing = 1e-9 * volumeOf(proposed);
    if (d.more_volume > nothing) BRepBndLib::AddOptimal(d.more, box, false, false);
    if (d.less_volume > nothing) BRepBndLib::AddOptimal(d.less, box, false, false);
    if (box.IsVoid()) return {d, {}, {}};
    box.Get(d.lo.x, d.lo.y, d.lo.z, d.hi.x, d.hi.y, d.hi.z);
    // What is the same in both need not be drawn: removing hidden lines of a heavy solid takes seconds.
    const Vec3 round = kBeside * (d.hi - d.lo) + Vec3{1, 1, 1};
    return {d, within(proposed, d.lo - round, d.hi + round), within(other, d.lo - round, d.hi + round)};
}

} // namespace

Difference differenceOf(const Figure& f, const TopoDS_Shape& proposed, const TopoDS_Shape& other,
                        const Progress& progress) {
    auto found = stoppable<Surroundings>(
        progress, [a = copyOf(proposed), b = copyOf(other)] { return surroundingsOf(a, b); });
    if (!found) throw KernelError(found.error().message);
    Difference d = std::move(found->of);
    if (found->near.IsNull()) return d;
    // A view from the other side shows the same edges.
    for (const auto& [role, opposite] :
         {std::pair{Role::front, Role::rear}, {Role::top, Role::bottom}, {Role::right, Role::left}})
        if (!f.viewNamed(ViewName{role, {}}) && !f.viewNamed(ViewName{opposite, {}}) &&
            looksUnlike(f, role, found->near, found->other_near, progress))
            d.settled_by.push_back(fmt::format("a {} view", nameOf(role)));
    // A plane through the middle of what differs shows it; the one that it reaches along farthest shows most.
    const Vec3 size = d.hi - d.lo, middle = 0.5 * (d.lo + d.hi);
    const double least = std::min({size.x, size.y, size.z});
    d.settled_by.push_back(least == size.y   ? "a section at Y " + told(middle.y)
                           : least == size.x ? "a section at X " + told(middle.x)
                                             : "a section at Z " + told(middle.z));
    return d;
}

std::string inWords(const Difference& d) {
    std::vector<std::string> what;
    const double nothing = 1e-6 * (d.more_volume + d.less_volume);
    if (d.more_volume > nothing) what.push_back(fmt::format("{:.6g} mm³ more", d.more_volume));
    if (d.less_volume > nothing) what.push_back(fmt::format("{:.6g} mm³ less", d.less_volume));
    if (what.empty()) return "nothing more and nothing less";
    return fmt::format("{} material at {}, {}, {} mm; {} would tell", fmt::join(what, " and "),
                       reachOf("X", d.lo.x, d.hi.x), reachOf("Y", d.lo.y, d.hi.y),
                       reachOf("Z", d.lo.z, d.hi.z), fmt::join(d.settled_by, " or "));
}

} // namespace prism
