#include "app/places/place.h"

namespace prism::app {

QString counted(int n, const QString& one, const QString& many) {
    return QString("%1 %2").arg(n).arg(n == 1 ? one : many);
}

Place::Place(Desk desk, QWidget* parent) : QWidget(parent), desk_(desk) {
    setObjectName("card");
    setAttribute(Qt::WA_StyledBackground);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(14, 9, 14, 10);
    all->setSpacing(7);
    auto* head = new QHBoxLayout;
    head->setSpacing(7);
    lead_ = new QLabel(this);
    lead_->setObjectName("lead");
    lead_->setMinimumWidth(60);
    lead_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    head->addWidget(lead_, 1);
    actions_ = new QHBoxLayout;
    actions_->setSpacing(6);
    head->addLayout(actions_);
    all->addLayout(head);
    body_ = new QVBoxLayout;
    body_->setSpacing(6);
    all->addLayout(body_, 1);
    connect(&desk_.session, &Session::changed, this, [this] { refresh(); });
}

QPushButton* Place::action(const QString& name, const QString& text, const QString& tip, bool main) {
    auto* b = new QPushButton(text, this);
    b->setObjectName(name);
    b->setProperty("main", main);
    b->setAccessibleName(text);
    b->setToolTip(tip);
    actions_->addWidget(b);
    return b;
}

} // namespace prism::app
