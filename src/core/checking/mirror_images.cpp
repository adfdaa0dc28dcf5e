#include "core/checking/mirror_images.h"

namespace prism::checking {
namespace {

constexpr size_t kMostAxes = 8;    ///< about which a view may be its own mirror image
constexpr size_t kImagesOfOne = 2; ///< lines that have their image, for each that has none

std::vector<MirrorLine> axesOf(const FigureView& v, const ViewLines& lines, double tolerance) {
    std::vector<MirrorLine> r{{true, v.box.centre().x, {}}, {false, v.box.centre().y, {}}};
    const auto take = [&](bool upright, double at) {
        if (r.size() < kMostAxes && std::ranges::none_of(r, [&](const MirrorLine& m) {
                return m.upright == upright && std::abs(m.at - at) <= tolerance;
            }))
            r.push_back({upright, at, {}});
    };
    for (const FigureCurve* c : lines.curves())
        if (const auto* a = std::get_if<Arc>(&c->drawn)) take(true, a->centre.x), take(false, a->centre.y);
    return r;
}

} // namespace

std::vector<MirrorLine> nearlyMirrored(const FigureView& v, const ViewLines& lines, double tolerance,
                                       size_t most) {
    std::vector<MirrorLine> r;
    for (MirrorLine& m : axesOf(v, lines, tolerance)) {
        const Affine2 over =
            m.upright ? Affine2{-1, 0, 0, 1, 2 * m.at, 0} : Affine2{1, 0, 0, -1, 0, 2 * m.at};
        size_t there = 0;
        for (const FigureCurve* c : lines.curves()) {
            const Curve image = transformed(c->drawn, over);
            const bool drawn = std::ranges::any_of(lines.curves(), [&](const FigureCurve* o) {
                return o->role == c->role && std::ranges::all_of(std::array{0.2, 0.5, 0.8}, [&](double t) {
                           return lines.touches(pointAt(image, t), *o);
                       });
            });
            if (drawn)
                ++there;
            else
                m.lines.push_back({c, image});
            if (m.lines.size() > most) break;
        }
        if (!m.lines.empty() && m.lines.size() <= most && there >= kImagesOfOne * m.lines.size())
            r.push_back(std::move(m));
    }
    return r;
}

} // namespace prism::checking
