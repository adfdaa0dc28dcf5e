#pragma once
#include "app/places/sheet/page.h"

#include <QComboBox>
#include <QLineEdit>

namespace prism::app {

/// Layers with their roles, a filter for many of them, and the reading presets.
class LayersPage final : public Page {
    Q_OBJECT
  public:
    LayersPage(Desk desk, QWidget* parent);
    void refresh() override;
    QString label() const override;

  private:
    void showRows();
    bool shows(size_t layer) const;
    void switchShown(bool on);
    void partLinesOnly();
    void connectTable();

    RowTable* layers_;
    QLineEdit* filter_;
    QComboBox* role_;
    std::vector<int> rows_; ///< layer of each row shown
};

} // namespace prism::app
