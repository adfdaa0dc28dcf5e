#pragma once
#include "app/places/place.h"

#include <QComboBox>

namespace prism::app {

/// The levels of the part: named places along an axis that steps reach to.
class LevelPanel final : public QWidget {
    Q_OBJECT
  public:
    LevelPanel(Session& session, QWidget* parent);
    void refresh();
    /// A new level at a mark of the axis that was asked for.
    void add(const MarkRef& mark);
    void setPicking(bool on) { new_->setChecked(on); }

  signals:
    /// A mark along an axis is wanted for a new level.
    void pickAsked(prism::Axis axis);

  private:
    const PartLevels& levels() const { return session_.choices().levels; }
    std::vector<Cell> cellsOf(const PartLevel& level) const;
    void edited(int row, int column, const QString& text);
    void rename(const std::string& from, const std::string& to);
    void setHeight(const std::string& name, const QString& text);
    void remove();

    Session& session_;
    RowTable* table_;
    QPushButton *new_, *remove_;
    QComboBox* axis_;
};

} // namespace prism::app
