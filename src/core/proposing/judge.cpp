#include "core/proposing/judge.h"

#include "core/proposing/single_cuts.h"
#include "core/proposing/step_names.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <fmt/format.h>

namespace prism {
namespace {

constexpr int kMostRound = 14; ///< steps of one candidate

/// What building a solid with so many steps and projecting it back takes. Measured on some hundred solids:
/// joining goes by steps and faces, projecting by the poles of the curves in which faces meet.
int workOf(const TopoDS_Shape& shape, size_t steps) {
    int faces = 0, poles = 0;
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next()) ++faces;
    for (TopExp_Explorer x(shape, TopAbs_EDGE); x.More(); x.Next()) {
        const TopoDS_Edge& e = TopoDS::Edge(x.Current());
        if (BRep_Tool::Degenerated(e)) continue;
        const BRepAdaptor_Curve c(e);
        if (c.GetType() == GeomAbs_BSplineCurve) poles += c.NbPoles();
    }
    return static_cast<int>(40 + 0.6 * faces + 0.85 * poles +
                            static_cast<double>(steps) * (1.1 * faces + 0.08 * poles));
}

const ClosedArea* areaOver(const std::vector<ClosedArea>& areas, int view, Vec2 place) {
    for (const ClosedArea& a : areas)
        if (a.view == view && a.contains(place)) return &a;
    return nullptr;
}

/// How many steps draw an area with a round border through the part: joining as many of them, each of which
/// meets most others in curves, takes minutes, and nobody builds a part so.
int roundSteps(const Figure& f, const std::vector<ClosedArea>& areas, const std::vector<Step>& steps) {
    const auto isRound = [&](const ClosedArea* a) {
        return a && std::ranges::any_of(a->bounds, [&](int c) {
                   return !std::holds_alternative<Segment>(f.curves[static_cast<size_t>(c)].drawn);
               });
    };
    return static_cast<int>(std::ranges::count_if(steps, [&](const Step& s) {
        const FigureView* v = f.viewNamed(s.view);
        return v && std::ranges::any_of(s.areas,
                                        [&](Vec2 seed) { return isRound(areaOver(areas, v->view, seed)); });
    }));
}

/// Whether an area lies within another one but for a little of it: a boss that grows out of a body has its
/// middle within that, too, where it is large.
bool mostlyWithin(const ClosedArea& a, const ClosedArea& over) {
    constexpr double kMostly = 0.9;
    const double w = std::min(a.box.hi.x, over.box.hi.x) - std::max(a.box.lo.x, over.box.lo.x),
                 h = std::min(a.box.hi.y, over.box.hi.y) - std::max(a.box.lo.y, over.box.lo.y);
    return over.contains(a.seed) && w >= kMostly * a.box.width() && h >= kMostly * a.box.height();
}

} // namespace

void Judge::search(const AreaSets& reduced, Finish finish) {
    reduced_ = &reduced, finish_ = std::move(finish);
}

void Judge::searchWhole() {
    reduced_ = nullptr;
}

/// An area of the reduced figure is made of several areas of the whole one.
std::vector<Step> Judge::whole(std::vector<Step> steps) const {
    if (!reduced_) return steps;
    for (Step& s : steps) {
        const FigureView* v = f_.viewNamed(s.view);
        std::vector<Vec2> seeds;
        for (const Vec2 seed : s.areas)
            if (const ClosedArea* over = v ? areaOver(reduced_->drawn, v->view, seed) : nullptr)
                for (const ClosedArea& a : areas_.drawn)
                    if (a.view == v->view && mostlyWithin(a, *over)) seeds.push_back(a.seed);
        s.areas = std::move(seeds);
    }
    return finish_(std::move(steps));
}

bool Judge::consider(std::vector<Step> candidate, const char* found) {
    last_.clear();
    ++not_nearer_;
    if (candidate.empty()) return false;
    candidate = whole(std::move(candidate));
    nameSteps(f_, areas_.drawn, candidate);
    if (std::ranges::find(considered_, candidate) != considered_.end()) return false;
    considered_.push_back(candidate);
    if (exhausted()) return false;
    if (roundSteps(f_, areas_.drawn, candidate) > kMostRound) {
        left_undone = "a solid of many round areas was not held against the sheet";
        return false;
    }
    ++tried;
    BuildResult b = prism::build(f_, areas_, candidate, progress_, {}, nullptr, Measuring::coarse);
    work_.spend(workOf(b.shape, candidate.size()));
    if (b.shape.IsNull()) return false;
    const int weight = weightOf(b.shape);
    if (!b.ok() || notKept(facts_, b.shape)) return false;
    if (weight > kMostWeight) {
        left_undone = "a solid with many free-form faces was not held against the sheet";
        return false;
    }
    auto proof = prove(f_, b.shape, progress_, kinds_);
    if (!proof) return false;
    last_ = proof->views;
    const bool fits = proof->clean() && b.measure.solids == 1;
    if (fits && clean) {
        const bool known =
            sameVolume(b.measure.volume, volume) || std::ranges::any_of(others, [&](const Alternative& a) {
                return sameVolume(b.measure.volume, a.volume);
            });
        if (!known) others.push_back({std::move(candidate), b.measure.volume, {}, b.shape, {}});
        return false;
    }
    const double away = distanceFromSheet(*proof) + (b.measure.solids > 1 ? 1e-3 : 0);
    double shown = 0, not_shown = 0;
    for (const ViewProof& v : proof->views) shown += v.matched_length, not_shown += v.missing_length;
    if (shown < not_shown) return false; // less than half of the sheet: nothing to go on from
    if (away < nearest_) nearest_ = away, not_nearer_ = 0;
    if (away >= off) return false;
    steps = std::move(candidate), off = away, how = found, volume = b.measure.volume;
    missing = proof->missing, extra = proof->extra;
    clean = fits;
    build = std::move(b), this->proof = std::move(*proof);
    if (better_) better_(*this);
    return true;
}

bool Judge::sameVolume(double a, double b) {
    return std::abs(a - b) <= 1e-6 * std::max(a, b);
}

std::optional<Judge::Fitting> Judge::fitting(const std::vector<Step>& candidate) {
    ++tried;
    BuildResult b = prism::build(f_, areas_, candidate, progress_, {}, nullptr, Measuring::coarse);
    if (!b.ok() || b.measure.solids != 1 || notKept(facts_, b.shape)) return {};
    auto proof = prove(f_, b.shape, progress_, kinds_);
    if (!proof || !proof->clean()) return {};
    return Fitting{std::move(b), std::move(*proof)};
}

void Judge::prefer(std::vector<Step> candidate, const std::string& differs) {
    nameSteps(f_, areas_.drawn, candidate);
    auto fits = fitting(candidate);
    if (!fits) return;
    others.insert(others.begin(), {std::move(steps), volume, differs, build.shape, {}});
    steps = std::move(candidate), volume = fits->build.measure.volume;
    build = std::move(fits->build), proof = std::move(fits->proof);
}

void Judge::restate(std::vector<Step> candidate) {
    nameSteps(f_, areas_.drawn, candidate);
    auto fits = fitting(candidate);
    if (!fits || !sameVolume(fits->build.measure.volume, volume)) return;
    steps = std::move(candidate);
    build = std::move(fits->build), proof = std::move(fits->proof);
}

std::vector<SightPlace> Judge::placesOff(const std::vector<ViewMap>& maps) const {
    std::vector<SightPlace> r;
    for (const ViewProof& v : last_)
        for (size_t k = 0; k < maps.size(); ++k)
            for (const ProofPiece& p : v.pieces) {
                if (maps[k].view().view != v.view || p.state == LineState::matched) continue;
                for (double t : {0.21, 0.5, 0.77}) {
                    const Vec2 along = tangentAt(p.shape, t);
                    r.push_back(
                        {static_cast<int>(k), pointAt(p.shape, t), {-along.y, along.x}, p.length / 3});
                }
            }
    return r;
}

} // namespace prism
