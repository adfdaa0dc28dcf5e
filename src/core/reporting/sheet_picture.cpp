#include "core/drawing/dimension_picture.h"
#include "core/project/solved_sheet.h"
#include "core/reporting/report.h"

#include <fmt/format.h>

namespace prism {
namespace {

constexpr double kRing = 2.6; ///< mm, radius of a mark round a place

Pen penOf(LineRole r) {
    return r == LineRole::outline ? Pen::outline : r == LineRole::hidden ? Pen::hidden : Pen::thin;
}

/// Writes what lies on the sheet in mm of paper.
class Drawer {
  public:
    Drawer(const Box2& sheet, double width, double most_height) {
        const double edge = 2 * kRing;
        scale_ = std::min((width - 2 * edge) / std::max(sheet.width(), 1e-9),
                          (most_height - 2 * edge) / std::max(sheet.height(), 1e-9));
        origin_ = sheet.lo - Vec2{edge, edge} * (1 / scale_);
        picture_.size = {width, sheet.height() * scale_ + 2 * edge};
    }
    void line(const Curve& c, Pen pen) {
        ReportPicture::Stroke s{{}, pen};
        for (Vec2 p : sampled(c, 0.02 / scale_)) s.points.push_back(at(p));
        picture_.strokes.push_back(std::move(s));
    }
    void word(const std::string& text, Vec2 middle, double height, double rotation) {
        picture_.words.push_back({at(middle), height * scale_, rotation, text, Pen::thin});
    }
    /// A ring with a number beside it.
    void mark(Vec2 place, int number) {
        const Vec2 centre = at(place);
        ReportPicture::Stroke ring{{}, Pen::marked};
        for (Vec2 p : sampled(Arc{centre, kRing, 0, 2 * kPi}, 0.02)) ring.points.push_back(p);
        picture_.strokes.push_back(std::move(ring));
        picture_.words.push_back(
            {centre + Vec2{1.5 * kRing, 1.2 * kRing}, 3, 0, fmt::format("{}", number), Pen::marked});
    }
    ReportPicture done() { return std::move(picture_); }

  private:
    Vec2 at(Vec2 p) const { return scale_ * (p - origin_); }
    double scale_ = 1;
    Vec2 origin_;
    ReportPicture picture_;
};

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
    Drawer d(reach, width, most_height);
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
