#pragma once
#include "app/places/sheet/page.h"
#include "app/sheet/sheet_canvas.h"

namespace prism::app {

/// Lines seen in a scan, for a person to take: by kind in the table, one by one and by box on the sheet.
class TracePanel final : public QWidget {
    Q_OBJECT
  public:
    TracePanel(Desk desk, QWidget* parent);
    void refresh();
    /// Shows the lines on the sheet while the page is open.
    void enter();
    void leave();
    /// Lines can be clicked on the sheet now.
    void usePicking();
    bool any() const { return !lines_.empty(); }

  signals:
    void found();

  private:
    void take(const std::vector<TracedPicture>& seen);
    void accept();
    void drop();
    void show();
    void flip(const std::vector<int>& lines);

    Desk desk_;
    bool here_ = false;
    std::vector<TracedLine> lines_;
    std::vector<bool> taken_;
    std::vector<int> kind_of_; ///< by line: its row in the table
    int lettering_ = 0;
    std::vector<Picture> placed_; ///< the pictures as they lay when the lines were found
    QPushButton *find_, *accept_, *drop_;
    QLabel* told_;
    RowTable* kinds_;
};

} // namespace prism::app
