#pragma once
#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/building/face_names.h"
#include "core/building/steps.h"

#include <TopoDS_Shape.hxx>
#include <functional>
#include <memory>

namespace prism {

/// What was measured of a solid: mm, mm^2, mm^3.
struct SolidMeasure {
    double volume = 0, area = 0;
    Vec3 lo, hi; ///< tight box
    int faces = 0, solids = 0;
    bool valid = false; ///< checked by the kernel, one solid or more, positive volume
};

struct StepReport {
    std::string name, what;
    bool ok = false;
    std::string message; ///< why not; or, of one that is done, what a person should know
    /// Figure curves that stand where the ends of an extrusion were picked.
    std::vector<int> low, high;
};

/// What a build left behind after each of its steps.
class KeptSteps;

struct BuildResult {
    TopoDS_Shape shape; ///< null when nothing could be built
    SolidMeasure measure;
    std::vector<StepReport> steps;
    /// By face of the shape, in the modeller's order: where it comes from. More than one where faces were
    /// merged.
    std::vector<std::vector<FaceName>> faces;
    std::shared_ptr<const KeptSteps> kept; ///< for a build that begins with the same steps
    bool ok() const { return !shape.IsNull() && measure.valid; }
};

/// What a formula of a step gives, mm.
using NumberSource = std::function<Result<double>(const std::string& formula)>;

/// The step with its formulas evaluated.
Result<Step> evaluated(Step s, const NumberSource& numbers);

/// How a solid is measured. Coarse: volumes of faces with free-form edges to some millionths only, which is
/// quick.
enum class Measuring { fine, coarse };

/// The solid of a build list on the figure as it now stands. A step that fails is reported and skipped.
/// Nothing is built when it was stopped. `before`: an earlier build on the same figure and numbers; the steps
/// with which both begin are taken over from it.
BuildResult build(const Figure& f, const AreaSets& areas, const std::vector<Step>& steps, Progress& progress,
                  const NumberSource& numbers = {}, const BuildResult* before = nullptr,
                  Measuring measuring = Measuring::fine);
inline BuildResult build(const Figure& f, const std::vector<Step>& steps, Progress& progress) {
    return build(f, AreaSets(f), steps, progress);
}

/// Whether a step makes a body of its own, whatever was built before it.
bool hasOwnBody(StepKind k);
/// Whether a step puts something on faces of the solid, or takes it off them.
bool standsOnFaces(StepKind k);

/// The body of one step alone, with the names of its faces, the step being number `index`.
struct StepBody {
    TopoDS_Shape shape;
    FaceNames names;
    bool may_touch = false;     ///< the solids that it is made of may touch or run into each other
    std::string told;           ///< what a person should know of the areas found for it
    std::vector<int> low, high; ///< as in the report
};
/// Its formulas must have been evaluated.
Result<StepBody> stepBody(const Figure& f, const AreaSets& areas, const Step& s, int index = 0);

/// Nothing when stopped.
SolidMeasure measured(const TopoDS_Shape& shape, Measuring how, const Progress& progress);
inline SolidMeasure measured(const TopoDS_Shape& shape) {
    return measured(shape, Measuring::fine, NoProgress{});
}

/// The areas that the step's points meant when it was picked, found again in the figure as it now stands.
struct ResolvedAreas {
    std::vector<ClosedArea> areas;
    std::string told; ///< where another area had to stand for one whose border has changed; empty mostly
};
Result<ResolvedAreas> resolveAreas(const Figure& f, const AreaSets& areas, const Step& s);
/// The present place of a centre line that was drawn through `ref`: a mark standing on it in its own view,
/// else in another, else the middle between the view's outermost marks, else where the view's plane has gone.
double resolveCentre(const Figure& f, const FigureView& v, Vec2 ref, Axis axis);
/// The mark nearest to a place. Impossible where its view is not there, or does not show the axis.
Result<const Mark*> markAt(const Figure& f, const MarkRef& m, Axis axis);
/// Its present coordinate along the axis.
Result<double> resolveMark(const Figure& f, const MarkRef& m, Axis axis);
/// Figure curves that stand at the mark nearest to a place; none when its view does not show the axis.
std::vector<int> curvesAtMark(const Figure& f, const MarkRef& m, Axis axis);
/// How far along a direction in space the point nearest to a place now stands; its view must show that
/// direction.
Result<double> resolvePlace(const Figure& f, const MarkRef& m, Vec3 direction);

} // namespace prism
