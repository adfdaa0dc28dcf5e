#include "core/building/reaches.h"

#include "core/building/places.h"

#include <fmt/format.h>

namespace prism::building {

namespace {

constexpr double kInfinite = std::numeric_limits<double>::infinity();

} // namespace

std::optional<Range> partRange(const Figure& f, Axis axis) {
    Range r{kInfinite, -kInfinite, {}, {}};
    // What is drawn, not the marks: the centre of an arc may stand far outside the part.
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureView& o = *f.viewById(f.curves[i].view);
        const bool right = o.axes.right == axis;
        if (!o.square || (!right && o.axes.up != axis)) continue;
        const Box2 b = boxOf(f.curve(static_cast<int>(i)));
        r.lo = std::min(r.lo, right ? b.lo.x : b.lo.y), r.hi = std::max(r.hi, right ? b.hi.x : b.hi.y);
    }
    return r.lo > r.hi ? std::nullopt : std::optional(r);
}

Result<Range> partRange(const Figure& f, const FigureView& v) {
    Range r{kInfinite, -kInfinite, {}, {}};
    if (v.square) {
        if (const auto along = partRange(f, v.axes.depth)) r = *along;
    } else { // the view it hangs on shows that direction
        const Vec3 deep = frameOf(f, v, f.now).look;
        const FigureView& on = *f.viewById(v.on);
        const Vec2 way{dot(deep, on.right), dot(deep, on.up)};
        for (size_t i = 0; i < f.curves.size(); ++i)
            if (f.curves[i].view == v.on)
                for (Vec2 p : sampled(f.curve(static_cast<int>(i)), 1e-3 * f.size))
                    r.lo = std::min(r.lo, dot(p, way)), r.hi = std::max(r.hi, dot(p, way));
    }
    if (r.lo > r.hi)
        return failure(ErrorCode::impossible,
                       fmt::format("no view shows {}: the depth is not determined", nameOf(v.axes.depth)));
    return r;
}

Result<double> depthOfMark(const Figure& f, const FigureView& v, const MarkRef& mark) {
    return v.square ? resolveMark(f, mark, v.axes.depth) : resolvePlace(f, mark, frameOf(f, v, f.now).look);
}

/// Where a bound stands along the way in which the view's depths count.
Result<double> boundValue(const Figure& f, const FigureView& v, const Bound& b, double outermost) {
    if (b.kind == Bound::Kind::place)
        return dot(placeNow(f, b.place), v.square ? unitOf(v.axes.depth) : frameOf(f, v, f.now).look) +
               b.beyond;
    if (b.kind == Bound::Kind::level)
        return failure(ErrorCode::impossible, fmt::format("there is no level named {}", b.level));
    if (b.kind != Bound::Kind::mark) return outermost + b.beyond;
    auto at = depthOfMark(f, v, b.mark);
    if (at) *at += b.beyond;
    return at;
}

Result<Range> reachOf(const Figure& f, const Step& s, const FigureView& v, const Bound& to) {
    const bool needsPart = s.reach == Reach::through || s.from.kind == Bound::Kind::outermost ||
                           to.kind == Bound::Kind::outermost;
    auto part = partRange(f, v);
    if (!part && needsPart) return part;
    const Range whole = part ? *part : Range{0, 0, {}, {}};
    if (s.reach == Reach::through) {
        // A step may have added more than the lines of the sheet tell; sides that lean begin at the part's
        // end.
        const double past = s.draft != 0 ? 0 : std::max(1.0, 0.05 * (whole.hi - whole.lo));
        return s.operation == Operation::cut ? Range{whole.lo - past, whole.hi + past, {}, {}} : whole;
    }
    if (s.reach == Reach::both) {
        const auto middle = boundValue(f, v, s.from, 0.5 * (whole.lo + whole.hi));
        if (!middle) return tl::make_unexpected(middle.error());
        return Range{*middle - 0.5 * to.value, *middle + 0.5 * to.value, {}, {}};
    }
    if (s.reach == Reach::unequal) {
        const auto plane = boundValue(f, v, s.from, 0.5 * (whole.lo + whole.hi));
        if (!plane) return tl::make_unexpected(plane.error());
        return Range{*plane - s.below, *plane + to.value, {}, {}};
    }
    auto lo = boundValue(f, v, s.from, whole.lo), hi = boundValue(f, v, to, whole.hi);
    if (!lo) return tl::make_unexpected(lo.error());
    if (!hi) return tl::make_unexpected(hi.error());
    if (to.kind == Bound::Kind::value)
        hi = *lo + to.value;
    else if (s.from.kind == Bound::Kind::value)
        lo = *hi - s.from.value;
    MarkRef low = s.from.mark, high = to.mark;
    if (*lo > *hi) std::swap(*lo, *hi), std::swap(low, high);
    if (*hi - *lo < f.tolerances.same_model)
        return failure(ErrorCode::impossible, "the reach is zero: both ends stand on the same coordinate");
    return Range{*lo, *hi, low, high};
}

} // namespace prism::building
