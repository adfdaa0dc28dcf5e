#pragma once
#include "app/places/sheet/page.h"

#include <QDoubleSpinBox>

namespace prism::app {

/// What was repaired, kind by kind and one by one, with the gaps that stay open.
class RepairsPage final : public Page {
    Q_OBJECT
  public:
    RepairsPage(Desk desk, QWidget* parent);
    void refresh() override;
    QString label() const override;
    void enter() override {
        if (ready()) markAll();
    }
    void leave() override { desk_.session.setChosen({}); }

  private:
    void showKinds();
    void showSingles();
    void markAll(); ///< a sign on the canvases at every place of the kind
    void look(int row, bool choose);

    RowTable *kinds_, *singles_;
    QDoubleSpinBox* gap_;
    std::vector<std::string> rows_; ///< kind of each row; empty for the loose ends
    std::vector<size_t> repair_of_; ///< of each single row; index of a repair or of a loose end
};

} // namespace prism::app
