#include "core/figure/figure.h"

// Where sections are cut.
namespace prism {

const Cut::Part& Cut::at(double along_it) const {
    for (const Part& p : parts)
        if (along_it <= p.to) return p;
    return parts.back();
}

bool Cut::steps(double along_it, double tolerance) const {
    return std::ranges::any_of(parts, [&](const Part& p) { return std::abs(along_it - p.to) <= tolerance; });
}

Cut cutOf(const Figure& f, const FigureView& v) {
    const FigureView& on = *f.viewById(v.on);
    const Warp now(f, v.on);
    const ViewFrame frame = frameOf(f, v, f.now);
    const auto in_space = [&](Vec2 p) { return p.x * on.right + p.y * on.up; };
    Cut r;
    r.along = in_space(normalized(v.line.b - v.line.a));
    if (!v.square) r.along = dot(frame.right, r.along) < 0 ? -frame.right : frame.right; // it may have turned
    constexpr double endless = std::numeric_limits<double>::infinity();
    const std::vector<Segment> legs = v.legs.empty() ? std::vector{v.line} : v.legs;
    for (const Segment& l : legs) {
        const double depth = dot(in_space(now((l.a + l.b) * 0.5)), frame.look);
        const bool first = r.parts.empty(), last = r.parts.size() + 1 == legs.size();
        const double from = first ? -endless : r.parts.back().to;
        r.parts.push_back({from, last ? endless : dot(in_space(now(l.b)), r.along), depth});
    }
    return r;
}

double cutAt(const Figure& f, const FigureView& v, Vec2 place) {
    const Cut cut = cutOf(f, v);
    const ViewFrame frame = frameOf(f, v, f.now);
    const double depth = cut.at(dot(frame.inSpace(place, 0), cut.along)).depth;
    return v.square ? depth * dot(unitOf(v.axes.depth), frame.look) : depth;
}

} // namespace prism
