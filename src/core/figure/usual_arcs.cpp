#include "core/figure/usual_arcs.h"

namespace prism {

bool standsForAnother(const Figure& f, const FigureCurve& c) {
    constexpr double kFlat = kPi / 3, kExact = 2e-7; // kExact: of the size of the part
    const auto* a = std::get_if<Arc>(&c.drawn);
    if (!a || c.p0 < 0 || std::abs(a->sweep) > kFlat) return false;
    return std::ranges::any_of(std::array{c.p0, c.p1}, [&](int p) {
        const double off = distance(f.at(f.points[p], f.drawn), a->centre) - a->radius;
        return std::abs(off) > kExact * f.size;
    });
}

} // namespace prism
