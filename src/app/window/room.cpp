#include "app/window/room.h"

#include "app/box/box_canvas.h"
#include "app/sheet/sheet_canvas.h"

#include <QEvent>
#include <QSettings>
#include <QToolButton>

namespace prism::app {

Room::Room(SheetCanvas& sheet, BoxCanvas& box, QWidget& tray, QWidget* parent)
    : QObject(parent), sheet_(sheet), box_(box), tray_(tray) {
    tray_button_ = button(parent, "showTray", tr("Tray"),
                          tr("Fold the tray below the canvases away, and back (Ctrl+3)"));
    fill_sheet_ =
        button(&sheet, "fillSheet", tr("Fill window"), tr("The sheet alone, and back (Ctrl+Shift+1)"));
    fill_box_ = button(&box, "fillBox", tr("Fill window"), tr("The box alone, and back (Ctrl+Shift+2)"));
    panes_ = button(&box, "boxPanes", tr("Panes"), tr("Show the panes (End: the solid alone, and back)"));
    solid_ = button(&box, "boxSolid", tr("Solid"), tr("Show the solid"));
    for (QToolButton* b : {tray_button_, panes_, solid_}) b->setChecked(true);
    connect(tray_button_, &QToolButton::clicked, this, &Room::showTray);
    connect(fill_sheet_, &QToolButton::clicked, this, [this] { fill(Filled::sheet); });
    connect(fill_box_, &QToolButton::clicked, this, [this] { fill(Filled::box); });
    connect(panes_, &QToolButton::clicked, &box, &BoxCanvas::setShowPanes);
    connect(solid_, &QToolButton::clicked, &box, &BoxCanvas::setShowSolid);
    connect(&box, &BoxCanvas::panesShown, panes_, &QToolButton::setChecked);
    connect(&box, &BoxCanvas::solidShown, solid_, &QToolButton::setChecked);
    sheet.installEventFilter(this), box.installEventFilter(this);
    const QSettings s("upper-prism", "room");
    const bool tray_on = s.value("tray", true).toBool();
    const int was = s.value("filled", 0).toInt();
    showTray(tray_on);
    if (was == 1 || was == 2) fill(static_cast<Filled>(was));
}

QToolButton* Room::button(QWidget* on, const char* name, const QString& text, const QString& tip) {
    auto* b = new QToolButton(on);
    b->setObjectName(name);
    b->setText(text);
    b->setAccessibleName(text);
    b->setToolTip(tip);
    b->setCheckable(true);
    b->setFocusPolicy(Qt::NoFocus); // the keys stay with the canvas
    b->setStyleSheet("padding: 0 8px; min-height: 16px;");
    return b;
}

void Room::fill(Filled f) {
    filled_ = filled_ == f ? Filled::neither : f;
    sheet_.setVisible(filled_ != Filled::box);
    box_.setVisible(filled_ != Filled::sheet);
    fill_sheet_->setChecked(filled_ == Filled::sheet);
    fill_box_->setChecked(filled_ == Filled::box);
    keep();
}

void Room::showTray(bool on) {
    tray_.setVisible(on);
    tray_button_->setChecked(on);
    keep();
}

bool Room::trayShown() const {
    return !tray_.isHidden();
}

void Room::keep() const {
    QSettings s("upper-prism", "room");
    s.setValue("tray", trayShown());
    s.setValue("filled", static_cast<int>(filled_));
}

/// In a row along the upper edge, from the right.
void Room::place(QWidget& canvas, const QList<QToolButton*>& buttons) const {
    constexpr int kMargin = 8, kGap = 4;
    int right = canvas.width() - kMargin;
    for (QToolButton* b : buttons) {
        b->adjustSize();
        right -= b->width();
        b->move(right, kMargin);
        right -= kGap;
    }
}

bool Room::eventFilter(QObject* o, QEvent* e) {
    if (e->type() == QEvent::Resize || e->type() == QEvent::Show) {
        if (o == &sheet_) place(sheet_, {fill_sheet_});
        if (o == &box_) place(box_, {fill_box_, solid_, panes_});
    }
    return QObject::eventFilter(o, e);
}

} // namespace prism::app
