#pragma once
#include "app/session/session.h"
#include "core/views/panes.h"

#include <QVector3D>

namespace prism::app {

/// What the box canvas shows: the panes with their lines for a given hinge, and the extent of it all.
struct BoxScene {
    struct Line {
        int curve, entity; ///< figure curve, drawing entity
        LineRole role;
        std::vector<Vec2> flat; ///< in the view's model coordinates
        std::vector<QVector3D> points;
    };
    struct Pane {
        Role role;
        PanePlacement place;
        Affine2 to_model; ///< from the sheet
        Box2 on_sheet;
        std::array<QVector3D, 4> corners;
        std::vector<Line> lines;
    };
    std::vector<Pane> panes;
    std::pair<QVector3D, QVector3D> part; ///< corners of the part's box
    QVector3D lo, hi;                     ///< of everything at this hinge

    void rebuild(const Shown& s);
    /// Puts the panes where they stand for a hinge: 0 flat, 1 box.
    void fold(double hinge);

    /// Where a place of the sheet is in space, on the pane of the view it is in or beside.
    std::optional<QVector3D> onPane(Vec2 sheet) const;

  private:
    PartBox box_;
    Convention convention_ = Convention::third;
    double margin_ = 0;
};

} // namespace prism::app
