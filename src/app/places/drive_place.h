#pragma once
#include "app/places/place.h"

namespace prism::app {

/// The ledger: every number of the sheet, to be changed here.
class DrivePlace final : public Place {
    Q_OBJECT
  public:
    DrivePlace(Desk desk, QWidget* parent);
    void leave() override;
    PlaceState state() const override;
    /// Opens the value of a dimension for typing.
    void editDimension(int dimension);

  protected:
    void refresh() override;

  private:
    enum Column { view, name, sheet, value, unit, state_, held, moves, tolerance, why };
    void edited(int row, int column, const QString& text);
    std::vector<Cell> rowOf(const LedgerEntry& e) const;

    RowTable* ledger_;
};

} // namespace prism::app
