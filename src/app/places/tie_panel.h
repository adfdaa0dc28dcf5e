#pragma once
#include "app/places/place.h"

#include <QComboBox>

namespace prism::app {

/// Ties by hand, the views that govern, and where zero is. Places are picked on the sheet.
class TiePanel final : public QWidget {
    Q_OBJECT
  public:
    TiePanel(Desk desk, QWidget* parent);
    void refresh();
    void leave();

  private:
    enum class Tool { none, places, middles, zero };
    struct Pick {
        int view;
        Vec2 in_file;
    };
    void start(Tool t);
    void picked(Vec2 at, int line);
    void finish();
    void showHint();
    const Model& model() const { return desk_.session.model(); }

    Desk desk_;
    Tool tool_ = Tool::none;
    std::vector<Pick> picks_;
    RowTable* ties_;
    std::map<Axis, QComboBox*> governing_;
    QPushButton *places_, *middles_, *zero_, *remove_;
};

} // namespace prism::app
