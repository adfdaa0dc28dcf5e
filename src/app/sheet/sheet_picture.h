#pragma once
#include "app/session/session.h"
#include "app/theme/theme.h"
#include "core/drawing/dimension_picture.h"

#include <QPainterPath>
#include <QPen>

namespace prism::app {

/// The sheet ready to be painted: paths in sheet coordinates (y up), grouped so that each group has one pen.
class SheetPicture {
  public:
    void rebuild(const Model& m, const SolvedSheet& sheet);

    struct Line {
        int entity, view;
        LineRole role;
        QPainterPath path;
        std::vector<Curve> curves;
        Box2 box;
        bool thin; ///< although its role is that of thick ones
    };
    const std::vector<Line>& lines() const { return lines_; }
    const std::vector<DimensionPicture>& dimensions() const { return dimensions_; }
    const Box2& box() const { return box_; }
    /// Of the views and their dimensions; not valid when there are none.
    const Box2& viewsBox() const { return views_box_; }

    void paintViews(QPainter& p, const Model& m, double pixelsPerUnit) const;
    void paintLines(QPainter& p, double pixelsPerUnit, const Box2& visible, const theme::Paper& paper) const;
    void paintDimension(QPainter& p, int id, double pixelsPerUnit, const QColor& color, double width) const;
    void paintTexts(QPainter& p, const Model& m, double pixelsPerUnit, const Box2& visible,
                    const theme::Paper& paper) const;

    /// Nearest line or dimension within a distance in sheet units; -1 when none.
    int lineAt(Vec2 p, double within) const;
    int dimensionAt(Vec2 p, double within) const;

  private:
    std::vector<Line> lines_;
    QPainterPath hatching_;
    std::vector<DimensionPicture> dimensions_;
    std::vector<Box2> dimension_boxes_;
    std::vector<bool> dimension_on_;
    std::map<LineRole, std::vector<double>> patterns_; ///< sheet units
    Box2 box_, views_box_;
};

QPainterPath pathOf(const Curve& c);
/// Pattern for a cosmetic pen from lengths in sheet units.
QPen dashed(QPen pen, const std::vector<double>& pattern, double pixelsPerUnit);

} // namespace prism::app
