#pragma once
#include "app/session/navigation.h"

#include <QComboBox>
#include <QDialog>
#include <QKeySequenceEdit>

class QLabel;
class QPushButton;

namespace prism::app {

/// Where a person says which drags and keys move about in the canvases.
class NavigationDialog final : public QDialog {
    Q_OBJECT
  public:
    explicit NavigationDialog(QWidget* parent);

  private:
    void show(const Navigation::Habits& h);
    Navigation::Habits said() const;
    /// Two things on one key or one drag cannot both be: says so and keeps the dialog open.
    void check();

    QComboBox *turn_, *move_, *fingers_, *wheel_;
    std::array<QKeySequenceEdit*, Navigation::kActs> keys_;
    QLabel* trouble_;
    QPushButton* take_;
};

} // namespace prism::app
