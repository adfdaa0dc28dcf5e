#pragma once
#include "app/session/session.h"
#include "app/tables/row_table.h"
#include "app/theme/theme.h"

#include <QBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QWidget>

namespace prism::app {

class SheetCanvas;
class BoxCanvas;

/// What a place of work may use.
struct Desk {
    Session& session;
    SheetCanvas& sheet;
    BoxCanvas& box;
};

/// "1 error", "2 errors".
QString counted(int n, const QString& one, const QString& many);

/// Where a thing that was seen in a row of a list is now: in that row if it still is, else wherever it has
/// gone; -1 when it is gone. Edits wait in a queue: by their turn the rows may have moved.
template <class T> int whereIs(const std::vector<T>& list, const T& what, int row) {
    if (row >= 0 && row < static_cast<int>(list.size()) && list[row] == what) return row;
    const auto it = std::find(list.begin(), list.end(), what);
    return it == list.end() ? -1 : static_cast<int>(it - list.begin());
}

/// The state of a place as the path bar tells it.
struct PlaceState {
    theme::Glyph glyph = theme::Glyph::idle;
    QString words;
};

/// What a place says whose stage is still being computed.
inline PlaceState notYet() {
    return {theme::Glyph::idle, QObject::tr("not computed yet")};
}

/// One of the seven places of work: a lead that says what to do next, actions, and a table.
class Place : public QWidget {
    Q_OBJECT
  public:
    Place(Desk desk, QWidget* parent);
    /// Shown or left; canvases are set up for the place's picking here.
    virtual void enter() {}
    virtual void leave() {}
    virtual PlaceState state() const = 0;

  protected:
    /// Called with a sheet open, after every change.
    virtual void refresh() = 0;
    bool ready() const { return desk_.session.hasSheet(); }
    /// Whether the model is computed so far; right after opening only the sheet and its views are.
    bool has(Stage s) const { return ready() && model().has(s); }
    const Model& model() const { return desk_.session.model(); }
    void setLead(const QString& text) { lead_->setText(text); }
    /// A button of the head. `name` is for tests; what is read on the screen is what assistive programs hear.
    QPushButton* action(const QString& name, const QString& text, const QString& tip, bool main = false);
    QHBoxLayout* actions() { return actions_; }
    QVBoxLayout* body() { return body_; }

    Desk desk_;

  private:
    QLabel* lead_;
    QHBoxLayout* actions_;
    QVBoxLayout* body_;
};

} // namespace prism::app
