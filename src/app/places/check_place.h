#pragma once
#include "app/places/finding_panel.h"
#include "app/places/size_panel.h"

class QStackedWidget;

namespace prism::app {

/// What is wrong with the sheet, a chosen finding shows its evidence on both canvases, and its repairs; or
/// what its dimensions leave open.
class CheckPlace final : public Place {
    Q_OBJECT
  public:
    CheckPlace(Desk desk, QWidget* parent);
    void enter() override;
    void leave() override;
    PlaceState state() const override;

  signals:
    void reportWanted();

  protected:
    void refresh() override;

  private:
    /// The causes once they are known, till then what was found at first sight.
    const std::vector<Finding>& findings() const;
    int count(Severity s) const;
    void choose(int row);
    void repairAll();
    /// Open sizes rather than findings.
    void showSizes(bool on);
    void refreshSizes();
    QString leadOfFindings() const;
    RowTable* table_;
    FindingPanel* panel_;
    SizePanel* sizes_;
    QStackedWidget* pages_;
    QPushButton *all_, *report_, *findings_button_, *sizes_button_;
};

} // namespace prism::app
