#pragma once
#include "app/places/place.h"

#include <QSlider>

namespace prism::app {

/// The hinge and how well the views line up.
class FoldPlace final : public Place {
    Q_OBJECT
  public:
    FoldPlace(Desk desk, QWidget* parent);
    PlaceState state() const override;

  protected:
    void refresh() override;

  private:
    double worst() const;

    RowTable* ties_;
    QSlider* hinge_;
    QLabel* hinge_text_;
};

} // namespace prism::app
