#pragma once
#include "app/places/place.h"

namespace prism::app {

/// What a person has said to be material or air, which every proposal keeps.
class FactPanel final : public QWidget {
    Q_OBJECT
  public:
    FactPanel(Session& session, QWidget* parent);
    void refresh();
    int count() const { return static_cast<int>(session_.choices().facts.size()); }
    /// Areas with a reach, known to be material, or air.
    void add(Step areas, bool material);

  signals:
    /// The areas of this fact are to be seen on the sheet; none for no fact.
    void shown(std::optional<prism::Step> fact);

  private:
    std::optional<Step> factAt(int row) const;
    void edited(int row, int column, const QString& text);
    void remove();

    Session& session_;
    RowTable* table_;
    QPushButton* remove_;
};

} // namespace prism::app
