#include "core/reporting/picture_drawer.h"

namespace prism {

std::optional<ReportPicture> solidPicture(const Model& m, double width, double most_height) {
    if (!m.build.ok()) return std::nullopt;
    // Isometric (ISO 5456-3), from before, above and the right.
    const ViewFrame frame{Vec3{1, 1, 0} * std::sqrt(1 / 2.0),
                          Vec3{-1, 1, 2} * std::sqrt(1 / 6.0),
                          Vec3{-1, 1, -1} * std::sqrt(1 / 3.0),
                          {}};
    const auto lines = projected(m.build.shape, frame, NoProgress{});
    if (!lines) return std::nullopt;
    Box2 reach;
    for (const ProjectedLine& l : *lines) reach.add(boxOf(l.shape));
    if (!reach.valid()) return std::nullopt;
    reporting::Drawer d(reach, width, most_height);
    for (const ProjectedLine& l : *lines) {
        if (l.kind == ProjectedLine::Kind::visible) d.line(l.shape, Pen::outline);
        if (l.kind == ProjectedLine::Kind::smooth) d.line(l.shape, Pen::thin);
    }
    return d.done();
}

} // namespace prism
