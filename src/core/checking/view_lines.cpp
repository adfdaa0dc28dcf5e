#include "core/checking/view_lines.h"

#include <algorithm>

namespace prism::checking {

ViewLines::ViewLines(const Figure& f, int view, double tolerance) : tolerance_(tolerance) {
    for (const FigureCurve& c : f.curves)
        if (c.view == view && (c.role == LineRole::outline || c.role == LineRole::hidden))
            curves_.push_back(&c);
}

bool ViewLines::touches(Vec2 p, const FigureCurve& c) const {
    return boxOf(c.drawn).grown(tolerance_).contains(p) && distanceTo(c.drawn, p) <= tolerance_;
}

bool ViewLines::isDead(Vec2 end, const FigureCurve& of) const {
    return std::ranges::none_of(curves_, [&](const FigureCurve* o) { return o != &of && touches(end, *o); });
}

} // namespace prism::checking
