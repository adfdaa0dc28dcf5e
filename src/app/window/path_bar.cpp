#include "app/window/path_bar.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

namespace prism::app {

PathBar::PathBar(QWidget* parent) : QWidget(parent) {
    setObjectName("pathBar");
    setAccessibleName(tr("Places of work"));
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setFixedHeight(58);
}

void PathBar::setPlaces(const QStringList& names) {
    names_ = names;
    update();
}

void PathBar::setStates(const std::vector<PlaceState>& states) {
    states_ = states;
    update();
}

void PathBar::setCurrent(int place) {
    current_ = place;
    update();
}

QRect PathBar::placeRect(int i) const {
    const int n = std::max(1, static_cast<int>(names_.size())), left = 14, w = width() - 28;
    return {left + w * i / n, 0, w * (i + 1) / n - w * i / n, height()};
}

int PathBar::placeAt(QPoint p) const {
    for (int i = 0; i < names_.size(); ++i)
        if (placeRect(i).contains(p)) return i;
    return -1;
}

void PathBar::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), theme::card());
    p.setPen(QPen(theme::rule(), 1));
    p.drawLine(0, height() - 1, width(), height() - 1);
    const double y = 27.5;
    for (int i = 0; i < names_.size(); ++i) {
        const QRectF r = placeRect(i);
        const bool here = i == current_;
        if (here || i == hovered_) {
            QColor wash = here ? QColor(0xff, 0xff, 0xff) : QColor(0xef, 0xec, 0xe4);
            p.fillRect(r.adjusted(1, 0, -1, -1), wash);
        }
        const QColor color = here ? theme::ink() : theme::faint();
        p.setPen(QPen(color, here ? 2 : 1));
        p.drawLine(QPointF(r.left() + 1, y), QPointF(r.right(), y));
        for (double x : {r.left() + 1, r.right()}) { // extension line and the oblique stroke of ISO 129-1
            p.setPen(QPen(theme::rule(), 1));
            p.drawLine(QPointF(x, 9), QPointF(x, y + 6));
        }
        p.setPen(QPen(color, here ? 2.2 : 1.4));
        for (double x : {r.left() + 1, r.right()}) p.drawLine(QPointF(x - 4, y + 4), QPointF(x + 4, y - 4));
        QFont f = font();
        f.setPixelSize(14);
        f.setBold(here);
        p.setFont(f);
        p.setPen(here ? theme::ink() : QColor(0x45, 0x46, 0x45));
        p.drawText(QRectF(r.left(), 3, r.width(), 22), Qt::AlignCenter, names_[i]);
        if (i >= static_cast<int>(states_.size()) || states_[i].words.isEmpty()) continue;
        const PlaceState& s = states_[i];
        f.setPixelSize(12);
        f.setBold(false);
        p.setFont(f);
        const QString words =
            QFontMetrics(f).elidedText(s.words, Qt::ElideRight, static_cast<int>(r.width()) - 34);
        const double w = QFontMetrics(f).horizontalAdvance(words) + 17, x = r.center().x() - w / 2;
        theme::drawGlyph(p, s.glyph, QRectF(x, 35, 14, 14), theme::colorOf(s.glyph));
        p.setPen(s.glyph == theme::Glyph::error || s.glyph == theme::Glyph::clashes ? theme::signal()
                                                                                    : theme::faint());
        p.drawText(QRectF(x + 18, 32, w, 20), Qt::AlignVCenter | Qt::AlignLeft, words);
    }
    if (hasFocus()) {
        p.setPen(QPen(theme::point(), 1));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(placeRect(current_)).adjusted(3, 3, -3, -4));
    }
}

void PathBar::mousePressEvent(QMouseEvent* e) {
    if (const int i = placeAt(e->pos()); i >= 0) emit placeChosen(i);
}

void PathBar::mouseMoveEvent(QMouseEvent* e) {
    hovered_ = placeAt(e->pos());
    setToolTip(hovered_ >= 0 ? tr("%1 (Alt+%2)").arg(names_[hovered_]).arg(hovered_ + 1) : QString());
    update();
}

void PathBar::leaveEvent(QEvent*) {
    hovered_ = -1;
    update();
}

void PathBar::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Right && current_ + 1 < names_.size()) return emit placeChosen(current_ + 1);
    if (e->key() == Qt::Key_Left && current_ > 0) return emit placeChosen(current_ - 1);
    QWidget::keyPressEvent(e);
}

} // namespace prism::app
