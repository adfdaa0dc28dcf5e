#include "core/building/kernel.h"
#include "core/building/places.h"
#include "core/building/plane_faces.h"
#include "core/building/step_bodies.h"

// Plane faces that lie askew to all views.
namespace prism::building {
namespace {

double length(Vec3 a) {
    return std::sqrt(dot(a, a));
}

} // namespace

Result<StepBody> facetted(const Figure& f, const Step& s, int index) {
    std::vector<Vec3> at;
    for (Vec3 drawn : s.corners) at.push_back(placeNow(f, drawn));
    const Vec3 a = at[1] - at[0], b = at[2] - at[0], across = cross(a, b);
    if (length(across) <= 1e-6 * length(a) * length(b))
        return failure(ErrorCode::impossible, "the three corners of the plane lie on one line");
    const Vec3 normal = across * (1 / length(across));
    const double off = dot(placeNow(f, s.taken) - at[0], normal);
    if (std::abs(off) <= f.tolerances.same_model)
        return failure(ErrorCode::impossible,
                       "the place that says which side is taken lies in the plane itself");
    const Vec3 out = off > 0 ? normal : -normal;
    BRepPrimAPI_MakePrism prism =
        beyondPlane((at[0] + at[1] + at[2]) * (1.0 / 3), a * (1 / length(a)), out, f.size);
    StepBody r;
    r.shape = prism.Shape();
    r.names.add(prism.FirstShape(), {index, FaceName::Part::low_end, -1});
    return r;
}

} // namespace prism::building
