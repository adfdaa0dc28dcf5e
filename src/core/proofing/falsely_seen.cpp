#include "core/proofing/falsely_seen.h"

#include "core/base/cover.h"
#include "core/building/line_meets.h"
#include "core/building/to_kernel.h"

namespace prism {
namespace {

using Kind = ProjectedLine::Kind;

/// What a viewer meets first.
class Sighting {
  public:
    Sighting(const TopoDS_Shape& shape, const ViewFrame& frame) : meets_(shape), frame_(frame) {}

    /// Whether one face runs on below a line of the view: at most of its places, for other lines may touch or
    /// cross it at some.
    bool runsOnBelow(const Curve& c, double beside) {
        constexpr std::array kPlaces{0.13, 0.29, 0.47, 0.64, 0.87};
        const auto runs_on = std::ranges::count_if(kPlaces, [&](double t) {
            const Vec2 p = pointAt(c, t), along = normalized(tangentAt(c, t)),
                       across = Vec2{-along.y, along.x} * beside;
            const auto a = first(p - across), b = first(p + across);
            // A face that is not seen too steeply gains little depth over that; where it folds back over
            // itself it gains much.
            return a && b && a->face == b->face && std::abs(a->at - b->at) <= kSteepest * beside;
        });
        return runs_on + 1 >= std::ssize(kPlaces);
    }

  private:
    static constexpr double kSteepest = 20;
    std::optional<LineMeets::Place> first(Vec2 p) {
        const Vec3 from = frame_.inSpace(p, 0);
        return meets_.first(gp_Lin(gp_Pnt(from.x, from.y, from.z), gp_Dir(packed(frame_.look))));
    }
    LineMeets meets_;
    const ViewFrame& frame_;
};

} // namespace

bool hideFalselySeen(const TopoDS_Shape& shape, const ViewFrame& frame, const std::vector<ProofPiece>& pieces,
                     double beside, std::vector<ProjectedLine>& lines) {
    std::optional<Sighting> sighting;
    std::vector<const Curve*> hidden;
    for (const ProofPiece& p : pieces) {
        if (p.state != LineState::extra || p.hidden) continue;
        if (!sighting) sighting.emplace(shape, frame);
        if (sighting->runsOnBelow(p.shape, beside)) hidden.push_back(&p.shape);
    }
    if (hidden.empty()) return false;
    std::vector<ProjectedLine> told;
    for (const ProjectedLine& l : lines) {
        if (l.kind != Kind::visible) {
            told.push_back(l);
            continue;
        }
        double at = 0;
        for (const Interval& seen : uncovered(l.shape, hidden, beside)) {
            if (seen.from > at) told.push_back({Kind::hidden, part(l.shape, at, seen.from)});
            told.push_back({Kind::visible, part(l.shape, seen.from, seen.to)});
            at = seen.to;
        }
        if (at < 1) told.push_back({Kind::hidden, part(l.shape, at, 1)});
    }
    lines = std::move(told);
    return true;
}

} // namespace prism
