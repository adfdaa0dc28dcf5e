#pragma once
#include "app/places/place.h"

#include <QComboBox>

namespace prism::app {

/// Layers with their roles, what was not read, and the unit.
class SheetPlace final : public Place {
    Q_OBJECT
  public:
    SheetPlace(Desk desk, QWidget* parent);
    PlaceState state() const override;

  protected:
    void refresh() override;

  private:
    void layersInto(RowTable& t);
    void leftOutInto(RowTable& t);

    RowTable *layers_, *left_out_;
    QComboBox* unit_;
    QLabel* reason_;
};

} // namespace prism::app
