#pragma once
#include "app/places/place.h"

namespace prism::app {

/// What the checks say; a chosen finding shows its evidence on both canvases.
class CheckPlace final : public Place {
    Q_OBJECT
  public:
    CheckPlace(Desk desk, QWidget* parent);
    void leave() override;
    PlaceState state() const override;

  protected:
    void refresh() override;

  private:
    int count(Severity s) const;
    RowTable* findings_;
};

} // namespace prism::app
