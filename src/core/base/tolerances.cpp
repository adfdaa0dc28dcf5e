#include "core/base/tolerances.h"

namespace prism {

Tolerances Tolerances::forSheet(double size, double reach) {
    Tolerances t;
    const double digits = std::max(size, reach) * 1e-12;
    t.same_sheet = std::max(size * 1e-7, digits);
    t.touch_sheet = std::max(size * 2e-6, digits * 4);
    return t;
}

Tolerances Tolerances::atScale(double mm) const {
    Tolerances t = *this;
    t.same_model = std::max(t.same_model, touch_sheet * mm);
    t.proof = std::max(t.proof, 2 * t.same_model);
    return t;
}

Tolerances Tolerances::forSteps(double step) const {
    Tolerances t = *this;
    t.touch_sheet = std::max(t.touch_sheet, 3 * step); // of both places, and of the steps that led to each
    t.proof = std::max(t.proof, 3 * step);
    return t;
}

Tolerances Tolerances::forTracing(double pixel) const {
    Tolerances t = *this;
    t.traced_sheet = std::max(t.traced_sheet, 0.25 * pixel);
    t.same_model = std::max(t.same_model, t.traced_sheet);
    t.proof = std::max(t.proof, 0.75 * pixel);
    return t;
}

} // namespace prism
