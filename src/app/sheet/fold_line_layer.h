#pragma once
#include "app/session/session.h"
#include "core/views/fold_lines.h"

#include <QTransform>

class QPainter;

namespace prism::app {

/// The fold lines between the views, drawn over the sheet; they can be taken hold of and moved.
class FoldLineLayer {
  public:
    void rebuild(const Shown& s, const ViewChoices& choices);
    /// `dark`: drawn on dark paper.
    void paint(QPainter& p, const QTransform& world, const QColor& ink, int pointed) const;
    /// The line that may be moved near a place of the canvas, as an index; -1 when there is none.
    int at(QPointF screen, const QTransform& world) const;
    const std::vector<FoldLine>& lines() const { return lines_; }
    const std::string& keyOf(int line) const { return keys_[line]; }

    /// Begins to move a line; then follows the hand.
    void grab(int line, Vec2 from);
    void drag(Vec2 to);
    int held() const { return held_; }
    /// Ends it; the distance that the line has been moved along its way, sheet units.
    double release();

  private:
    std::vector<FoldLine> lines_;
    std::vector<std::string> keys_; ///< of the views that fold
    std::vector<Role> roles_, on_roles_;
    std::vector<bool> locked_;
    int held_ = -1;
    Vec2 from_;
    double moved_ = 0;
};

} // namespace prism::app
