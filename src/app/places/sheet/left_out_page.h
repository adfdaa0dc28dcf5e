#pragma once
#include "app/places/sheet/page.h"

namespace prism::app {

/// What the file holds and the part does not: not read, set aside, switched off.
class LeftOutPage final : public Page {
    Q_OBJECT
  public:
    LeftOutPage(Desk desk, QWidget* parent);
    void refresh() override;
    QString label() const override;

  private:
    RowTable* table_;
    std::vector<std::vector<int>> entities_; ///< of each row
};

} // namespace prism::app
