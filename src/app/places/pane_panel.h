#pragma once
#include "app/box/box_scene.h"
#include "app/places/place.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>

namespace prism::app {

/// The panes of the box one by one: which show, from where and how strongly, which are locked, and where
/// sections and auxiliary views stand. Lines for these are drawn on the sheet.
class PanePanel final : public QWidget {
    Q_OBJECT
  public:
    PanePanel(Desk desk, QWidget* parent);
    void refresh();
    void leave();

  private:
    const Model& model() const { return desk_.session.model(); }
    const View* chosen() const;
    void fill();
    void edited(int row, int column, const QString& text);
    void ticked(int row, int column, bool on);
    void showOnly();
    void showGroup(int group);
    void useChosen();
    void startLine();
    void stopLine();
    void picked(Vec2 at);
    void turnRound();
    void moveFoldLine(int line, double by);
    QWidget* makeReferenceBox();
    void fitScan();

    Desk desk_;
    RowTable* table_;
    QPushButton *square_, *only_, *use_, *line_, *round_;
    std::vector<int> views_; ///< by row
    QComboBox* group_;
    QWidget* reference_;
    std::array<QDoubleSpinBox*, 3> sizes_;
    bool drawing_ = false;
    std::vector<Vec2> ends_;
    std::string for_; ///< key of the view whose line is drawn
};

} // namespace prism::app
