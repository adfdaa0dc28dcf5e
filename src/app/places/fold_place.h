#pragma once
#include "app/places/tie_panel.h"

#include <QSlider>

namespace prism::app {

/// The hinge and how well the views line up.
class FoldPlace final : public Place {
    Q_OBJECT
  public:
    FoldPlace(Desk desk, QWidget* parent);
    PlaceState state() const override;
    void leave() override { hand_->leave(); }

  protected:
    void refresh() override;

  private:
    double worst() const;

    RowTable* ties_;
    TiePanel* hand_;
    QSlider* hinge_;
    QLabel* hinge_text_;
};

} // namespace prism::app
