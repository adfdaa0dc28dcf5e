#pragma once
#include "app/places/place.h"

namespace prism::app {

/// The areas of an extrusion with a reach each.
class ReachPanel final : public QWidget {
    Q_OBJECT
  public:
    ReachPanel(Session& session, QWidget* parent);
    void show(const Step& s);
    /// Whether the areas have a reach each, and a mark picked goes to the row chosen.
    bool on() const { return own_->isChecked(); }
    /// The row chosen reaches to a mark; the next row is chosen.
    void takeMark(const MarkRef& mark);

  signals:
    /// The reaches are these now; none: one for all.
    void changed(const std::vector<prism::Bound>& tops);

  private:
    void toggled(bool on);
    void edited(int row, const QString& text);
    void sameForLayer();
    std::vector<Cell> cellsOf(size_t area) const;

    Session& session_;
    Step step_;
    QPushButton *own_, *layer_;
    RowTable* table_;
};

} // namespace prism::app
