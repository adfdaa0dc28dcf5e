#pragma once
#include "app/places/place.h"

namespace prism::app {

/// One page of a place: part of what is done there, with a name and a count on its button.
class Page : public QWidget {
    Q_OBJECT
  public:
    Page(Desk desk, QWidget* parent) : QWidget(parent), desk_(desk) {}
    /// Called with a sheet open, after every change.
    virtual void refresh() = 0;
    virtual QString label() const = 0;
    /// Shown or left: the canvas is set up for the page's picking here.
    virtual void enter() {}
    virtual void leave() {}

  protected:
    bool ready() const { return desk_.session.hasSheet(); }
    const Model& model() const { return desk_.session.model(); }
    QLabel* quietLabel(const QString& text = {}) {
        auto* l = new QLabel(text, this);
        l->setObjectName("quiet");
        l->setWordWrap(true);
        return l;
    }
    QPushButton* button(const QString& name, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setAccessibleName(text);
        b->setToolTip(tip);
        return b;
    }
    Desk desk_;
};

} // namespace prism::app
