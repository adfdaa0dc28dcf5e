#include "app/theme/theme.h"

#include <QApplication>
#include <QFontDatabase>
#include <QPainter>
#include <QPainterPath>
#include <QPalette>
#include <QStyleFactory>

/// Resources of a static library must be asked for by name, outside any namespace.
static void loadResources() {
    Q_INIT_RESOURCE(app);
}

namespace prism::app::theme {
namespace {

QString g_lettering = "osifont";

constexpr char kStyle[] = R"(
* { font-size: 13px; }
QMainWindow, QWidget#desk { background: #d8d4ca; }
QWidget#card, QStackedWidget#tray { background: #f7f5f0; }
QLabel#lead { font-size: 15px; font-weight: bold; color: #23272c; }
QLabel#quiet { color: #6b6a65; }
QLabel#heading { font-weight: 600; }
QLabel#figure { font-size: 20px; font-weight: bold; color: #23272c; }
QPushButton, QToolButton { background: #ffffff; border: 1px solid #b9b4a8; border-radius: 3px;
    padding: 4px 11px; color: #23272c; min-height: 18px; }
QPushButton:hover, QToolButton:hover { border-color: #1c667e; background: #eef4f5; }
QPushButton:pressed, QPushButton:checked, QToolButton:checked { background: #d5e5e9; border-color: #1c667e; }
QPushButton:disabled, QToolButton:disabled { color: #8b887f; background: #efece5; border-color: #d2cdc1; }
QPushButton[main="true"] { background: #23272c; color: #f7f5f0; border-color: #23272c; font-weight: bold; }
QPushButton[main="true"]:hover { background: #1c667e; border-color: #1c667e; }
QPushButton[main="true"]:disabled { background: #b9b4a8; border-color: #b9b4a8; color: #efece5; }
QPushButton:focus, QToolButton:focus, QComboBox:focus, QLineEdit:focus, QDoubleSpinBox:focus, QTableView:focus {
    border: 1px solid #1c667e; }
QLineEdit, QComboBox, QDoubleSpinBox { background: #ffffff; border: 1px solid #b9b4a8; border-radius: 3px;
    padding: 3px 6px; color: #23272c; selection-background-color: #1c667e; min-height: 18px; }
QComboBox::drop-down { border: none; width: 20px; }
QComboBox::down-arrow { image: url(:/icons/down.png); width: 9px; height: 6px; }
QTableView { background: #fdfcf9; alternate-background-color: #f7f5f0; border: 1px solid #cfcabd;
    gridline-color: #e6e2d8; selection-background-color: #d5e5e9; selection-color: #23272c; }
QTableView::item { padding: 0 6px; }
QHeaderView::section { background: #eae6dc; color: #55544f; border: none; border-right: 1px solid #d8d4ca;
    border-bottom: 1px solid #cfcabd; padding: 3px 6px; font-weight: bold; }
QSplitter::handle { background: #d8d4ca; }
QToolTip { background: #23272c; color: #f7f5f0; border: none; padding: 4px; }
QSlider::groove:horizontal { height: 4px; background: #cfcabd; border-radius: 2px; }
QSlider::sub-page:horizontal { background: #1c667e; border-radius: 2px; }
QSlider::handle:horizontal { width: 12px; height: 20px; margin: -8px 0; background: #23272c; border-radius: 2px; }
QSlider::handle:horizontal:focus { background: #1c667e; }
QProgressBar { border: 1px solid #b9b4a8; border-radius: 3px; background: #ffffff; text-align: center; }
QProgressBar::chunk { background: #9cc1cc; }
QScrollBar:vertical { width: 11px; background: #eeebe3; }
QScrollBar:horizontal { height: 11px; background: #eeebe3; }
QScrollBar::handle { background: #bdb8ab; border-radius: 4px; min-height: 24px; min-width: 24px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
)";

} // namespace

QColor desk() {
    return {0xd8, 0xd4, 0xca};
}
QColor film() {
    return {0xfb, 0xf9, 0xf4};
}
QColor card() {
    return {0xf7, 0xf5, 0xf0};
}
QColor ink() {
    return {0x23, 0x27, 0x2c};
}
QColor faint() {
    return {0x6b, 0x6a, 0x65};
}
const Paper& paper(bool dark) {
    static const Paper light{
        film(), ink(), faint(), {0x7a, 0x55, 0x2e}, {0x9a, 0x97, 0x8e}, {0x4a, 0x62, 0x6e}, point()};
    static const Paper night{{0x2a, 0x2d, 0x30}, {0xee, 0xea, 0xe0}, {0xa5, 0xa2, 0x99}, {0xd0, 0xa8, 0x6e},
                             {0x7d, 0x7c, 0x77}, {0x9c, 0xb8, 0xc4}, {0x62, 0xbb, 0xd6}};
    return dark ? night : light;
}
QColor rule() {
    return {0xb9, 0xb4, 0xa8};
}
QColor signal() {
    return {0xc2, 0x3f, 0x1d};
}
QColor point() {
    return {0x1c, 0x66, 0x7e};
}

QColor tintOf(Role r) {
    switch (r) {
    case Role::front:
        return {0xe3, 0xb5, 0x5b}; // ochre
    case Role::top:
        return {0x9d, 0xb8, 0x7f}; // sage
    case Role::right:
        return {0x8f, 0xae, 0xc9}; // slate
    case Role::left:
        return {0xb7, 0x9c, 0xc4}; // heather
    case Role::bottom:
        return {0xd0, 0x98, 0x82}; // clay
    case Role::rear:
        return {0x8e, 0xbd, 0xb4}; // verdigris
    case Role::section:
        return {0xd6, 0xc8, 0x8a}; // straw
    case Role::auxiliary:
        return {0xd8, 0xa6, 0xb2}; // thrift
    case Role::detail:
        return {0xbf, 0xab, 0x96}; // buff
    default:
        return {0xc2, 0xbf, 0xb6}; // stone
    }
}

QFont lettering(double pixels) {
    QFont f(g_lettering);
    f.setPixelSize(std::max(1, static_cast<int>(std::lround(pixels))));
    return f;
}

QColor colorOf(Glyph g) {
    switch (g) {
    case Glyph::clashes:
    case Glyph::error:
    case Glyph::warning:
        return signal();
    case Glyph::drives:
    case Glyph::held:
    case Glyph::good:
        return ink();
    default:
        return faint();
    }
}

void drawGlyph(QPainter& p, Glyph g, const QRectF& box, const QColor& color) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const double s = std::min(box.width(), box.height());
    const QRectF r(box.center().x() - s / 2, box.center().y() - s / 2, s, s);
    const QRectF in = r.adjusted(s * 0.16, s * 0.16, -s * 0.16, -s * 0.16);
    const QPen pen(color, std::max(1.3, s * 0.11), Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
    p.setPen(pen);
    p.setBrush(Qt::NoBrush);
    const QPointF c = in.center();
    const double h = in.width() / 2;
    switch (g) {
    case Glyph::drives: // an arrow that pushes a wall
        p.drawLine(QPointF(in.left(), c.y()), QPointF(c.x() + h * 0.5, c.y()));
        p.drawPolyline(QPolygonF({{c.x() - h * 0.1, c.y() - h * 0.6},
                                  {c.x() + h * 0.5, c.y()},
                                  {c.x() - h * 0.1, c.y() + h * 0.6}}));
        p.drawLine(QPointF(in.right(), in.top()), QPointF(in.right(), in.bottom()));
        break;
    case Glyph::reports: // a reading line under a number
        p.drawLine(QPointF(in.left(), in.bottom()), in.bottomRight());
        p.drawEllipse(c - QPointF(0, h * 0.25), h * 0.45, h * 0.45);
        break;
    case Glyph::loose: // a line with a loose end
        p.drawLine(QPointF(in.left(), c.y()), QPointF(c.x() - h * 0.1, c.y()));
        p.drawEllipse(QPointF(in.right() - h * 0.3, c.y()), h * 0.3, h * 0.3);
        break;
    case Glyph::held: // clamped from both sides
        p.setBrush(color);
        p.drawRect(QRectF(c.x() - h * 0.4, c.y() - h * 0.4, h * 0.8, h * 0.8));
        p.drawLine(in.topLeft(), in.bottomLeft());
        p.drawLine(in.topRight(), in.bottomRight());
        break;
    case Glyph::clashes: // two arrows against each other
        p.drawLine(in.topLeft(), in.bottomRight());
        p.drawLine(in.bottomLeft(), in.topRight());
        break;
    case Glyph::error: // a filled lozenge
        p.setBrush(color);
        p.drawPolygon(
            QPolygonF({{c.x(), in.top()}, {in.right(), c.y()}, {c.x(), in.bottom()}, {in.left(), c.y()}}));
        break;
    case Glyph::warning: // an open lozenge
        p.drawPolygon(
            QPolygonF({{c.x(), in.top()}, {in.right(), c.y()}, {c.x(), in.bottom()}, {in.left(), c.y()}}));
        break;
    case Glyph::note:
        p.drawLine(QPointF(in.left() + h * 0.3, c.y()), QPointF(in.right() - h * 0.3, c.y()));
        break;
    case Glyph::good:
        p.drawPolyline(QPolygonF({{in.left(), c.y()}, {c.x() - h * 0.2, in.bottom()}, in.topRight()}));
        break;
    case Glyph::idle:
        p.drawEllipse(c, h * 0.35, h * 0.35);
        break;
    case Glyph::none:
        break;
    }
    p.restore();
}

QIcon icon(Glyph g) {
    QPixmap m(32, 32);
    m.fill(Qt::transparent);
    QPainter p(&m);
    drawGlyph(p, g, QRectF(0, 0, 32, 32), colorOf(g));
    return QIcon(m);
}

void drawTag(QPainter& p, Role r, const QRectF& box) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(ink(), 1));
    p.setBrush(tintOf(r));
    p.drawRoundedRect(box, 2, 2);
    QFont f = lettering(box.height() * 0.78);
    p.setFont(f);
    p.drawText(box, Qt::AlignCenter, QString(QChar(tagOf(r))));
    p.restore();
}

QIcon tagIcon(Role r) {
    QPixmap m(34, 34);
    m.fill(Qt::transparent);
    QPainter p(&m);
    drawTag(p, r, QRectF(2, 2, 30, 30));
    return QIcon(m);
}

void drawEvidence(QPainter& p, QPointF at) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(signal(), 2));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(at, 13, 13);
    for (double a : {0.25, 0.75, 1.25, 1.75}) { // four short strokes that point at the middle
        const QPointF d(std::cos(a * kPi), std::sin(a * kPi));
        p.drawLine(at + d * 13, at + d * 18);
    }
    p.restore();
}

void drawWelcome(QPainter& p, const QRectF& canvas, const QString& what, const QString& todo) {
    p.save();
    p.setPen(faint());
    p.setFont(lettering(26));
    p.drawText(canvas.translated(0, -16), Qt::AlignCenter, what);
    QFont f = QApplication::font();
    f.setPixelSize(13);
    p.setFont(f);
    p.drawText(canvas.translated(0, 16), Qt::AlignCenter, todo);
    p.restore();
}

void apply(QApplication& app) {
    loadResources();
    for (const char* name : {"osifont.ttf", "Lato-Regular.ttf", "Lato-Bold.ttf"}) {
        const int id = QFontDatabase::addApplicationFont(QString(":/fonts/") + name);
        if (id >= 0 && QString(name).startsWith("osifont"))
            g_lettering = QFontDatabase::applicationFontFamilies(id).value(0, g_lettering);
    }
    app.setStyle(QStyleFactory::create("Fusion"));
    QFont f("Lato");
    f.setPixelSize(13);
    app.setFont(f);
    QPalette pal;
    pal.setColor(QPalette::Window, card());
    pal.setColor(QPalette::WindowText, ink());
    pal.setColor(QPalette::Base, QColor(0xfd, 0xfc, 0xf9));
    pal.setColor(QPalette::AlternateBase, card());
    pal.setColor(QPalette::Text, ink());
    pal.setColor(QPalette::Button, QColor(0xff, 0xff, 0xff));
    pal.setColor(QPalette::ButtonText, ink());
    pal.setColor(QPalette::Highlight, point());
    pal.setColor(QPalette::HighlightedText, film());
    app.setPalette(pal);
    app.setStyleSheet(kStyle);
}

} // namespace prism::app::theme
