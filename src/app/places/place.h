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

/// The state of a place as the path bar tells it.
struct PlaceState {
    theme::Glyph glyph = theme::Glyph::idle;
    QString words;
};

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
    const Model& model() const { return desk_.session.model(); }
    void setLead(const QString& text) { lead_->setText(text); }
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
