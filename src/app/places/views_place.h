#pragma once
#include "app/places/place.h"

#include <QComboBox>

namespace prism::app {

/// The views with their roles and scales, and the projection angle.
class ViewsPlace final : public Place {
    Q_OBJECT
  public:
    ViewsPlace(Desk desk, QWidget* parent);
    PlaceState state() const override;

  protected:
    void refresh() override;

  private:
    std::vector<std::string> chosenLines();
    void moveChosen();
    void gatherChosen();
    void rename(int row, const QString& name);
    void refreshParts();

    RowTable* views_;
    QPushButton *first_, *third_, *move_, *gather_;
    QComboBox *target_, *part_;
    QWidget* part_row_;
    QLabel* reason_;
    QLabel* chosen_;
};

} // namespace prism::app
