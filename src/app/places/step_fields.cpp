#include "app/places/step_fields.h"

#include "core/base/text_scanner.h"

#include <QGridLayout>

namespace prism::app {
namespace {

constexpr int kWithoutLevels = static_cast<int>(Bound::Kind::level); ///< kinds of ends before the levels

} // namespace

NumberField::NumberField(const QString& name, QWidget* parent) : QLineEdit(parent) {
    setObjectName(name);
    setMaximumWidth(110);
    setToolTip(tr("A number in mm, or a formula with names of the ledger"));
    connect(this, &QLineEdit::editingFinished, this, [this] {
        if (isModified()) setModified(false), emit edited();
    });
}

StepNumber NumberField::number() const {
    const std::string typed = text().trimmed().toStdString();
    if (typed.empty()) return 0;
    if (const auto n = numberIn(typed)) return *n;
    return {0, typed};
}

void NumberField::setNumber(const StepNumber& n) {
    if (hasFocus() && isModified()) return;
    setText(!n.given()           ? QString()
            : !n.formula.empty() ? QString::fromStdString(n.formula)
                                 : QString::number(n.value, 'g', 10));
}

BoundRow::BoundRow(QGridLayout* grid, int row, const QString& object, QWidget* parent)
    : QObject(parent), name_(new QLabel(parent)), text_(new QLabel(parent)), kind_(new QComboBox(parent)),
      value_(new NumberField(object + "Value", parent)),
      pick_(new QPushButton(tr("Pick a line or point"), parent)) {
    kind_->setObjectName(object + "Kind");
    kind_->addItems(
        {tr("the part's end"), tr("a mark in another view"), tr("a distance"), tr("a face in the box")});
    pick_->setObjectName(object + "Pick");
    pick_->setCheckable(true);
    grid->addWidget(name_, row, 0);
    grid->addWidget(kind_, row, 1);
    grid->addWidget(value_, row, 2);
    grid->addWidget(pick_, row, 2);
    grid->addWidget(text_, row, 3, 1, 2);
    connect(kind_, &QComboBox::activated, this, &BoundRow::edited);
    connect(value_, &NumberField::edited, this, &BoundRow::edited);
}

void BoundRow::setLevels(const QStringList& names) {
    const int at = kind_->currentIndex();
    while (kind_->count() > kWithoutLevels) kind_->removeItem(kind_->count() - 1);
    for (const QString& name : names) kind_->addItem(tr("level %1").arg(name), name);
    kind_->setCurrentIndex(at < kind_->count() ? at : -1);
}

void BoundRow::read(Bound& b) const {
    const int at = kind_->currentIndex();
    b.kind = at < 0 || at >= kWithoutLevels ? Bound::Kind::level : static_cast<Bound::Kind>(at);
    if (at >= kWithoutLevels) b.level = kind_->currentData().toString().toStdString();
    if (b.kind == Bound::Kind::value) b.value = value_->number();
}

void BoundRow::show(const QString& name, const Bound& b, bool visible) {
    const bool value = b.kind == Bound::Kind::value, mark = b.kind == Bound::Kind::mark,
               place = b.kind == Bound::Kind::place, level = b.kind == Bound::Kind::level;
    name_->setText(name);
    name_->setVisible(visible), kind_->setVisible(visible);
    // One that is gone is told beside an empty field.
    kind_->setCurrentIndex(level ? kind_->findData(QString::fromStdString(b.level))
                                 : static_cast<int>(b.kind));
    value_->setNumber(b.value);
    value_->setVisible(visible && value);
    pick_->setVisible(visible && mark);
    const bool gone = level && kind_->currentIndex() < 0;
    text_->setVisible(visible && (mark || place || gone));
    text_->setText(place             ? tr("choose one in the box")
                   : b.mark.picked() ? tr("in the %1 view").arg(QString::fromStdString(nameOf(b.mark.view)))
                                     : tr("not picked yet"));
    if (gone) text_->setText(tr("level %1 is gone").arg(QString::fromStdString(b.level)));
    if (place && b.place != Vec3{}) text_->setText(tr("chosen in the box"));
}

} // namespace prism::app
