#include "core/reading/dxf_file.h"

#include <fmt/format.h>

// Viewports: model content as it is seen on a paper layout.
namespace prism::dxf {
namespace {

struct Seen {
    Vec2 paper, centre, target;
    double width = 0, height = 0, view_height = 0, twist = 0;
    double direction[3] = {0, 0, 1};
};

/// From release 13 on the values are groups of the record.
Seen seenByGroups(const Record& r) {
    Seen s;
    s.centre = r.point(12);
    s.target = r.point(17);
    s.view_height = r.number(45);
    s.twist = r.number(51) * kPi / 180;
    s.direction[0] = r.number(16), s.direction[1] = r.number(26), s.direction[2] = r.number(36, 1);
    return s;
}

/// Before that they stand in the extended data: target, direction, then twist, height, centre x, centre y.
Seen seenByExtendedData(const Record& r) {
    Seen s;
    std::vector<const Tag*> points;
    std::vector<double> reals;
    for (size_t i = 0; i < r.tags.size(); ++i) {
        if (r.tags[i].code == 1010) points.push_back(&r.tags[i]);
        if (r.tags[i].code == 1040) reals.push_back(toNumber(r.tags[i].value));
    }
    const Tag* end = r.tags.data() + r.tags.size();
    if (points.size() < 2 || reals.size() < 4 || points[1] + 2 >= end) return s;
    s.target = {toNumber(points[0]->value), toNumber(points[0][1].value)};
    for (int k = 0; k < 3; ++k) s.direction[k] = toNumber(points[1][k].value);
    s.twist = reals[0] * kPi / 180;
    s.view_height = reals[1];
    s.centre = {reals[2], reals[3]};
    return s;
}

} // namespace

bool showsModel(const Record& r) {
    return r.type == "VIEWPORT" && r.integer(69) != 1 && r.integer(68, 1) != 0 &&
           (r.integer(90) & 0x20000) == 0;
}

Viewport viewportOf(const Record& r, const File& file) {
    Seen s = r.has(45) ? seenByGroups(r) : seenByExtendedData(r);
    s.paper = r.point(10);
    s.width = r.number(40);
    s.height = r.number(41);
    Viewport v;
    if (s.view_height <= 0 || s.height <= 0 || s.width <= 0) {
        v.trouble = "a viewport without a size";
        return v;
    }
    if (std::abs(s.direction[0]) > 1e-9 || std::abs(s.direction[1]) > 1e-9 || s.direction[2] <= 0) {
        v.trouble = "a viewport that does not look straight at the drawing";
        return v;
    }
    const double scale = s.height / s.view_height;
    v.map = Affine2::shift(s.paper) * Affine2::scale(scale, scale) * Affine2::shift(-s.centre) *
            Affine2::rotation(s.twist) * Affine2::shift(-s.target);
    const Vec2 half{s.width / 2, s.height / 2};
    v.window.add(s.paper - half);
    v.window.add(s.paper + half);
    for (const Tag& t : r.tags)
        if (t.code == 331 || t.code == 341)
            if (const auto l = file.layer_by_handle.find(std::string(t.value));
                l != file.layer_by_handle.end())
                v.frozen.push_back(l->second);
    return v;
}

std::vector<Curve> clipped(const Curve& c, const Box2& window) {
    const Box2 b = boxOf(c);
    if (window.contains(b.lo) && window.contains(b.hi)) return {c};
    if (b.hi.x < window.lo.x || b.lo.x > window.hi.x || b.hi.y < window.lo.y || b.lo.y > window.hi.y)
        return {};
    auto inside = [&](double t) { return window.contains(pointAt(c, t)); };
    constexpr int kSamples = 256;
    std::vector<Curve> parts;
    double from = 0;
    for (int i = 0; i < kSamples; ++i) {
        double in = static_cast<double>(i) / kSamples, out = static_cast<double>(i + 1) / kSamples;
        const bool before = inside(in), after = inside(out);
        if (before != after) {
            for (int k = 0; k < 60; ++k) { // bisect to the border
                const double mid = (in + out) / 2;
                (inside(mid) == before ? in : out) = mid;
            }
            if (before && in > from) parts.push_back(part(c, from, in));
            from = out;
        }
        if (i + 1 == kSamples && after && from < 1) parts.push_back(from == 0 ? c : part(c, from, 1));
    }
    return parts;
}

} // namespace prism::dxf
