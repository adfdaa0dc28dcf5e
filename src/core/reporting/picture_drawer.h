#pragma once
#include "core/reporting/report.h"

#include <fmt/format.h>

namespace prism::reporting {

constexpr double kRing = 2.6; ///< mm, radius of a mark round a place

/// Writes what lies within a box, mm, in mm of paper.
class Drawer {
  public:
    Drawer(const Box2& all, double width, double most_height) {
        const double edge = 2 * kRing;
        scale_ = std::min((width - 2 * edge) / std::max(all.width(), 1e-9),
                          (most_height - 2 * edge) / std::max(all.height(), 1e-9));
        origin_ = all.lo - Vec2{edge, edge} * (1 / scale_);
        picture_.size = {width, all.height() * scale_ + 2 * edge};
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

} // namespace prism::reporting
