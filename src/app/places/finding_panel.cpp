#include "app/places/finding_panel.h"

#include "app/sheet/sheet_canvas.h"

#include <QEvent>
#include <QLineEdit>

namespace prism::app {

FindingPanel::FindingPanel(Desk desk, QWidget* parent) : QFrame(parent), desk_(desk) {
    setObjectName("findingPanel");
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(12, 8, 12, 8);
    all->setSpacing(6);
    message_ = new QLabel(this);
    message_->setObjectName("findingMessage");
    message_->setWordWrap(true);
    reason_ = new QLabel(this);
    reason_->setObjectName("findingReason");
    reason_->setWordWrap(true);
    all->addWidget(message_);
    all->addWidget(reason_);
    buttons_ = new QVBoxLayout;
    buttons_->setSpacing(5);
    all->addLayout(buttons_);
    all->addStretch(1);
    setFixedWidth(470);
    show(nullptr);
}

QPushButton* FindingPanel::button(const QString& name, const QString& text, const QString& tip) {
    auto* b = new QPushButton(text, this);
    b->setObjectName(name);
    b->setToolTip(tip);
    b->installEventFilter(this);
    buttons_->addWidget(b);
    return b;
}

void FindingPanel::clearButtons() {
    desk_.sheet.setGhost({});
    previews_.clear();
    note_ = nullptr;
    while (QLayoutItem* i = buttons_->takeAt(0)) {
        if (i->widget()) i->widget()->deleteLater();
        delete i;
    }
}

void FindingPanel::show(const Finding* f) {
    clearButtons();
    finding_ = f ? std::optional(*f) : std::nullopt;
    message_->setText(f ? sentence(f->message)
                        : tr("Choose a finding to see where it is, and what mends it."));
    reason_->setVisible(false);
    if (!f) return;
    QStringList why;
    if (!f->accepted && !f->remedies.empty() && !f->remedies.front().reason.empty())
        why << (f->remedies.size() > 1 ? tr("The first repair is the likeliest: %1.")
                                       : tr("The repair is likely: %1."))
                   .arg(QString::fromStdString(f->remedies.front().reason));
    if (!f->symptoms.empty())
        why << tr("It also explains %1.")
                   .arg(counted(static_cast<int>(f->symptoms.size()), tr("other finding"),
                                tr("other findings")));
    if (f->accepted)
        why << (f->accepted->empty() ? tr("Left as it is.")
                                     : tr("Left as it is: %1").arg(QString::fromStdString(*f->accepted)));
    if (why.isEmpty() && !f->repair.empty()) why << sentence(f->repair);
    reason_->setText(why.join(" "));
    reason_->setVisible(!why.isEmpty());
    QStringList others;
    for (const std::string& s : f->symptoms) others << sentence(s);
    reason_->setToolTip(others.join("\n"));
    if (f->accepted) {
        connect(button("takeUpAgain", tr("Take it up again"), tr("It counts as a finding again")),
                &QPushButton::clicked, this, [this, f = *f] { desk_.session.acceptNoLonger(f); });
    } else {
        for (size_t i = 0; i < f->remedies.size(); ++i) {
            const Remedy& r = f->remedies[i];
            QPushButton* b =
                button(QString("repair%1").arg(i + 1), QString::fromStdString(r.words), sentence(r.reason));
            b->setProperty("main", i == 0);
            previews_.emplace_back(b, i);
            connect(b, &QPushButton::clicked, this, [this, r] { desk_.session.repair(r); });
        }
        auto* leave = new QPushButton(tr("Leave it as it is"), this);
        leave->setObjectName("acceptFinding");
        leave->setToolTip(tr("It stays in the list as a note, with what you write, and is not told again"));
        auto* row = new QWidget(this);
        auto* side = new QHBoxLayout(row);
        side->setContentsMargins(0, 0, 0, 0);
        note_ = new QLineEdit(row);
        note_->setObjectName("findingNote");
        note_->setPlaceholderText(tr("Why it may stay as it is"));
        note_->setAccessibleName(note_->placeholderText());
        side->addWidget(note_, 1);
        side->addWidget(leave);
        buttons_->addWidget(row);
        connect(leave, &QPushButton::clicked, this,
                [this, f = *f] { desk_.session.accept(f, note_->text()); });
    }
}

void FindingPanel::preview(const Remedy& r) {
    const Affine2 toSheet = desk_.session.model().sheet.to_file.inverse();
    std::vector<Curve> ghost;
    std::vector<Vec2> places;
    for (const MarkedLine& l : r.change.lines)
        for (const Curve& c : l.curves) {
            ghost.push_back(transformed(c, toSheet));
            places.push_back(boxOf(ghost.back()).centre());
        }
    desk_.sheet.setGhost(std::move(ghost));
    if (!places.empty()) desk_.sheet.lookAt(places);
}

bool FindingPanel::eventFilter(QObject* o, QEvent* e) {
    const auto it = std::ranges::find(previews_, o, [](const auto& p) { return p.first; });
    if (it != previews_.end() && finding_) {
        if (e->type() == QEvent::Enter || e->type() == QEvent::FocusIn)
            preview(finding_->remedies[it->second]);
        else if (e->type() == QEvent::Leave || e->type() == QEvent::FocusOut)
            desk_.sheet.setGhost({});
    }
    return QFrame::eventFilter(o, e);
}

} // namespace prism::app
