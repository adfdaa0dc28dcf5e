#include "app/places/navigation_dialog.h"

#include <QFormLayout>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>

namespace prism::app {

NavigationDialog::NavigationDialog(QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Moving about"));
    setObjectName("navigation");
    auto* all = new QVBoxLayout(this);
    all->setSpacing(10);
    auto* lead = new QLabel(tr("How the mouse, a touchpad and keys move the sheet and the box"), this);
    lead->setObjectName("lead");
    all->addWidget(lead);
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(14);
    const auto combo = [&](const char* name, const QString& label, const QStringList& items) {
        auto* c = new QComboBox(this);
        c->setObjectName(name);
        c->setAccessibleName(label);
        c->addItems(items);
        form->addRow(label, c);
        return c;
    };
    QStringList drags;
    for (int i = 0; i <= static_cast<int>(Navigation::Drag::none); ++i)
        drags << Navigation::nameOf(static_cast<Navigation::Drag>(i));
    turn_ = combo("turnDrag", tr("Turn the box"), drags);
    move_ = combo("moveDrag", tr("Move the sheet or the box"), drags);
    fingers_ = combo("twoFingers", tr("Two fingers on a touchpad"),
                     {tr("move"), tr("turn the box"), tr("come nearer or go farther")});
    wheel_ = combo("wheelWay", tr("Wheel away from you"), {tr("comes nearer"), tr("goes farther")});
    all->addLayout(form);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(14);
    for (int i = 0; i < Navigation::kActs; ++i) {
        auto* edit = keys_[static_cast<size_t>(i)] = new QKeySequenceEdit(this);
        edit->setObjectName(QString("key%1").arg(i));
        edit->setMaximumWidth(150);
        const int half = (Navigation::kActs + 1) / 2, column = i < half ? 0 : 2;
        grid->addWidget(new QLabel(Navigation::nameOf(static_cast<Navigation::Act>(i)), this), i % half,
                        column);
        grid->addWidget(edit, i % half, column + 1);
        connect(edit, &QKeySequenceEdit::keySequenceChanged, this, &NavigationDialog::check);
    }
    all->addLayout(grid);
    trouble_ = new QLabel(this);
    trouble_->setObjectName("navigationTrouble");
    trouble_->setMinimumHeight(20);
    all->addWidget(trouble_);
    auto* buttons = new QHBoxLayout;
    auto* usual = new QPushButton(tr("As it came"), this);
    usual->setObjectName("usualNavigation");
    auto* leave = new QPushButton(tr("Leave as it was"), this);
    take_ = new QPushButton(tr("Use these"), this);
    take_->setObjectName("takeNavigation");
    take_->setProperty("main", true);
    buttons->addWidget(usual);
    buttons->addStretch(1);
    buttons->addWidget(leave);
    buttons->addWidget(take_);
    all->addLayout(buttons);
    for (QPushButton* b : {usual, leave, take_}) b->setAutoDefault(false);
    connect(usual, &QPushButton::clicked, this, [this] { show({}); });
    connect(leave, &QPushButton::clicked, this, &QDialog::reject);
    connect(take_, &QPushButton::clicked, this, [this] {
        Navigation::mine().set(said());
        accept();
    });
    for (QComboBox* c : {turn_, move_})
        connect(c, &QComboBox::currentIndexChanged, this, &NavigationDialog::check);
    show(Navigation::mine().habits());
}

void NavigationDialog::show(const Navigation::Habits& h) {
    turn_->setCurrentIndex(static_cast<int>(h.turn));
    move_->setCurrentIndex(static_cast<int>(h.move));
    fingers_->setCurrentIndex(static_cast<int>(h.fingers));
    wheel_->setCurrentIndex(h.wheel_forward_is_nearer ? 0 : 1);
    for (size_t i = 0; i < keys_.size(); ++i) keys_[i]->setKeySequence(h.keys[i]);
    check();
}

Navigation::Habits NavigationDialog::said() const {
    Navigation::Habits h;
    h.turn = static_cast<Navigation::Drag>(turn_->currentIndex());
    h.move = static_cast<Navigation::Drag>(move_->currentIndex());
    h.fingers = static_cast<Navigation::Fingers>(fingers_->currentIndex());
    h.wheel_forward_is_nearer = wheel_->currentIndex() == 0;
    for (size_t i = 0; i < keys_.size(); ++i) h.keys[i] = keys_[i]->keySequence();
    return h;
}

void NavigationDialog::check() {
    const Navigation::Habits h = said();
    QString trouble;
    if (h.turn == h.move && h.turn != Navigation::Drag::none)
        trouble = tr("One drag cannot both turn and move.");
    for (int i = 0; i < Navigation::kActs; ++i)
        for (int j = i + 1; j < Navigation::kActs; ++j) {
            const QKeySequence& a = h.keys[static_cast<size_t>(i)];
            if (a.isEmpty() || a != h.keys[static_cast<size_t>(j)]) continue;
            trouble = tr("%1 is on two things: “%2” and “%3”.")
                          .arg(a.toString(QKeySequence::NativeText),
                               Navigation::nameOf(static_cast<Navigation::Act>(i)),
                               Navigation::nameOf(static_cast<Navigation::Act>(j)));
        }
    trouble_->setText(trouble);
    take_->setEnabled(trouble.isEmpty());
}

} // namespace prism::app
