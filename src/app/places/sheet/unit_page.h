#pragma once
#include "app/places/sheet/page.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>

namespace prism::app {

/// Unit and scale as conclusions with their evidence; a person may measure and say what it should be.
class UnitPage final : public Page {
    Q_OBJECT
  public:
    UnitPage(Desk desk, QWidget* parent);
    void refresh() override;
    QString label() const override;

  private:
    void showChosen();
    void say();

    RowTable* evidence_;
    QComboBox *unit_, *layout_;
    QCheckBox* as_picture_;
    QLabel *scale_, *measured_, *layout_label_;
    QLineEdit* should_;
    QPushButton* say_;
    double chosen_length_ = 0; ///< of the chosen line, sheet units
};

} // namespace prism::app
