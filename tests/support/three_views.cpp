#include "support/three_views.h"

#include <fstream>

namespace prism::test {
namespace {

constexpr double kGap = 30; // between views

} // namespace

Vec2 ThreeViews::on(Axis along, Vec3 p) const {
    if (along == Axis::y) return {p.x, p.z};
    return along == Axis::z ? Vec2{p.x, height + kGap + p.y} : Vec2{width + kGap + p.y, p.z};
}

void ThreeViews::line(Axis along, Vec3 a, Vec3 b, const char* layer) {
    const Vec2 from = on(along, a), to = on(along, b);
    sheet.line(from.x, from.y, to.x, to.y, layer);
}

void ThreeViews::circle(Axis along, Vec3 centre, double radius, const char* layer) {
    const Vec2 at = on(along, centre);
    sheet.circle(at.x, at.y, radius, layer);
}

void ThreeViews::box() {
    for (const Axis along : {Axis::x, Axis::y, Axis::z}) {
        const Vec2 lo = on(along, {0, 0, 0}), hi = on(along, {width, depth, height});
        sheet.box(lo.x, lo.y, hi.x, hi.y);
    }
}

ThreeViews threeViews(double width, double depth, double height) {
    ThreeViews t{width, depth, height};
    t.sheet.layer("OUTLINE").layer("HIDDEN", "HIDDEN").layer("CENTER", "CENTER");
    t.sheet.entities().text(0, -60, "THIRD ANGLE");
    return t;
}

Document inViews(const DxfText& t) {
    const std::string path = temporary("three-views.dxf");
    std::ofstream(path) << t.done();
    return opened(path);
}

std::vector<ViewMap> mapsOf(const Document& d) {
    std::vector<ViewMap> r;
    for (const FigureView& v : d.model().figure.views)
        r.emplace_back(d.model().figure, v, d.model().areas.drawn);
    return r;
}

} // namespace prism::test
