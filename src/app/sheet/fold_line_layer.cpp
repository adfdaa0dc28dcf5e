#include "app/sheet/fold_line_layer.h"

#include "app/theme/theme.h"

#include <QPainter>

namespace prism::app {
namespace {
constexpr double kReach = 6; ///< pixels
}

void FoldLineLayer::rebuild(const Shown& s, const ViewChoices& choices) {
    const ViewSet& set = s.model->views;
    lines_ = foldLinesOf(set, choices);
    keys_.clear(), roles_.clear(), on_roles_.clear(), locked_.clear();
    for (const FoldLine& l : lines_) {
        const View& v = set.views[l.view];
        keys_.push_back(v.key), roles_.push_back(v.role), on_roles_.push_back(set.views[l.on].role);
        // A cutting plane lies where the sheet draws it; to move it one draws another.
        locked_.push_back(choices.locked.contains(v.key) || (l.cuts && !choices.hung.contains(v.key)));
    }
    held_ = -1, moved_ = 0;
}

void FoldLineLayer::paint(QPainter& p, const QTransform& world, const QColor& ink, int pointed) const {
    for (int i = 0; i < static_cast<int>(lines_.size()); ++i) {
        const FoldLine& l = lines_[i];
        const Vec2 shift = i == held_ ? l.away * moved_ : Vec2{0, 0};
        const auto screen = [&](Vec2 v) { return world.map(QPointF(v.x + shift.x, v.y + shift.y)); };
        const QPointF a = screen(l.line.a), b = screen(l.line.b), way = screen(l.line.a + l.away) - a;
        const bool lit = i == held_ || (held_ < 0 && i == pointed);
        QPen pen(lit ? theme::point() : ink, lit ? 2.2 : 1.2);
        pen.setDashPattern({9, 3, 2, 3, 2, 3});
        p.setPen(pen);
        p.drawLine(a, b);
        // The letters of the two panes on their sides of the line: level lines have them at their right end,
        // others at their lower one, so that those that meet in a corner keep clear of each other.
        const bool level = std::abs(b.x() - a.x()) > std::abs(b.y() - a.y());
        const bool at_a = level ? a.x() > b.x() : a.y() > b.y();
        const QPointF tip = at_a ? a : b, other = at_a ? b : a;
        const double n = std::hypot(way.x(), way.y());
        const QPointF out = n > 0 ? way * (15 / n) : QPointF(0, 0),
                      end = tip + (other - tip) * (12 / std::max(12.0, QLineF(a, b).length()));
        theme::drawTag(p, roles_[i], QRectF(end + out - QPointF(9, 8), QSizeF(18, 16)));
        theme::drawTag(p, on_roles_[i], QRectF(end - out - QPointF(9, 8), QSizeF(18, 16)));
    }
}

int FoldLineLayer::at(QPointF s, const QTransform& world) const {
    for (int i = 0; i < static_cast<int>(lines_.size()); ++i) {
        if (locked_[i]) continue;
        const QPointF a = world.map(QPointF(lines_[i].line.a.x, lines_[i].line.a.y)),
                      b = world.map(QPointF(lines_[i].line.b.x, lines_[i].line.b.y));
        if (distanceTo(Segment{{a.x(), a.y()}, {b.x(), b.y()}}, {s.x(), s.y()}) < kReach) return i;
    }
    return -1;
}

void FoldLineLayer::grab(int line, Vec2 from) {
    held_ = line, from_ = from, moved_ = 0;
}

void FoldLineLayer::drag(Vec2 to) {
    const FoldLine& l = lines_[held_];
    moved_ = dot(to - from_, l.away);
    // The pane stays outside the part.
    if (!l.cuts) moved_ = std::max(moved_, (0.5 - l.gap()) / l.mm_per_sheet);
}

double FoldLineLayer::release() {
    held_ = -1;
    return std::exchange(moved_, 0);
}

} // namespace prism::app
