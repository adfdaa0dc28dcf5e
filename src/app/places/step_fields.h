#pragma once
#include "core/building/steps.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

class QGridLayout;

// The pieces that the step editor is put together from.
namespace prism::app {

/// A number in mm, or a formula over names of the ledger.
class NumberField final : public QLineEdit {
    Q_OBJECT
  public:
    NumberField(const QString& name, QWidget* parent);
    StepNumber number() const;
    void setNumber(const StepNumber& n);

  signals:
    void edited();
};

/// One end of a reach: the part's end, a mark, a distance, a place in the box.
class BoundRow final : public QObject {
    Q_OBJECT
  public:
    BoundRow(QGridLayout* grid, int row, const QString& object, QWidget* parent);
    void show(const QString& name, const Bound& b, bool visible);
    void read(Bound& b) const;
    void setLevels(const QStringList& names);
    QPushButton* pick() const { return pick_; }

  signals:
    void edited();

  private:
    QLabel *name_, *text_;
    QComboBox* kind_;
    NumberField* value_;
    QPushButton* pick_;
};

} // namespace prism::app
