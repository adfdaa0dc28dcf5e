#pragma once
#include "app/places/finding_panel.h"

namespace prism::app {

/// What is wrong with the sheet; a chosen finding shows its evidence on both canvases, and its repairs.
class CheckPlace final : public Place {
    Q_OBJECT
  public:
    CheckPlace(Desk desk, QWidget* parent);
    void leave() override;
    PlaceState state() const override;

  protected:
    void refresh() override;

  private:
    /// The causes once they are known, till then what was found at first sight.
    const std::vector<Finding>& findings() const;
    int count(Severity s) const;
    void choose(int row);
    void repairAll();
    RowTable* table_;
    FindingPanel* panel_;
    QPushButton* all_;
};

} // namespace prism::app
