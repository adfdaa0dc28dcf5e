#include "core/drawing/dimension_picture.h"
#include "core/project/solved_sheet.h"
#include "core/reporting/picture_drawer.h"

namespace prism {
namespace {

Pen penOf(LineRole r) {
    return r == LineRole::outline ? Pen::outline : r == LineRole::hidden ? Pen::hidden : Pen::thin;
}

} // namespace

ReportPicture sheetPicture(const Model& m, const std::vector<Finding>& findings, double width,
                           double most_height) {
    const SolvedSheet shown = solvedSheet(m);
    Box2 reach;
    for (const View& v : m.views.views) reach.add(v.box_sheet);
    std::vector<DimensionPicture> dimensions;
    for (const Dimension& d : shown.dimensions) {
        dimensions.push_back(pictureOf(d));
        for (const Curve& c : dimensions.back().lines) reach.add(boxOf(c));
    }
    reporting::Drawer d(reach, width, most_height);
    for (const Entity& e : m.drawing->entities) {
        const LineRole role = m.sheet.entity_roles[static_cast<size_t>(e.id)];
        const bool of_part =
            role == LineRole::outline || role == LineRole::hidden || role == LineRole::centre;
        if (of_part)
            for (const Curve& c : shown.curves[static_cast<size_t>(e.id)])
                if (reach.overlaps(boxOf(c)))
                    d.line(c, shown.freehand.contains(e.id) ? Pen::thin : penOf(role));
    }
    for (const auto& [view, lines] : shown.hatching)
        for (const Segment& s : lines) d.line(s, Pen::thin);
    for (const DimensionPicture& p : dimensions) {
        for (const Curve& c : p.lines) d.line(c, Pen::thin);
        for (const auto& [tip, a, b] : p.arrows)
            for (const auto& [from, to] : {std::pair{a, tip}, {tip, b}}) d.line(Segment{from, to}, Pen::thin);
        d.word(p.text, p.text_at, p.height, p.rotation);
    }
    for (size_t i = 0; i < findings.size(); ++i)
        for (Vec2 place : findings[i].at_sheet) d.mark(place, static_cast<int>(i) + 1);
    return d.done();
}

} // namespace prism
