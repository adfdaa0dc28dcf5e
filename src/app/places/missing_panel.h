#pragma once
#include "app/places/place.h"

namespace prism::app {

/// The lines of the sheet that the solid does not show yet: they count down while one builds.
class MissingPanel final : public QWidget {
    Q_OBJECT
  public:
    MissingPanel(Session& session, QWidget* parent);
    void refresh();
    int count() const { return static_cast<int>(lines_.size()); }

  private:
    std::optional<int> entityAt(int row) const;

    Session& session_;
    RowTable* table_;
    QPushButton* suggest_;
    std::vector<MissingLine> lines_;
};

} // namespace prism::app
