#pragma once
#include "app/places/pane_panel.h"
#include "app/places/tie_panel.h"

#include <QSlider>
#include <QStackedWidget>

namespace prism::app {

/// The hinge and how well the views line up.
class FoldPlace final : public Place {
    Q_OBJECT
  public:
    FoldPlace(Desk desk, QWidget* parent);
    PlaceState state() const override;
    void enter() override;
    void leave() override;

  protected:
    void refresh() override;

  private:
    QWidget* makeHinge();
    QWidget* makePages();
    void tellHinge();
    double worst() const;

    RowTable* ties_;
    TiePanel* hand_;
    PanePanel* panes_;
    QPushButton *one_by_one_, *projectors_;
    QSlider* hinge_;
    QLabel* hinge_text_;
};

} // namespace prism::app
