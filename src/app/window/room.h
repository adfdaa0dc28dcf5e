#pragma once
#include <QObject>

class QSplitter;
class QToolButton;
class QWidget;

namespace prism::app {

class BoxCanvas;
class SheetCanvas;

/// Which of the sheet, the box and the tray are to be seen, with the buttons in the corners of the canvases
/// that change it. Kept with the person's settings.
class Room : public QObject {
    Q_OBJECT
  public:
    enum class Filled { neither, sheet, box };

    Room(SheetCanvas& sheet, BoxCanvas& box, QWidget& tray, QWidget* parent);
    /// The button that folds the tray away, for the foot of the window.
    QToolButton* trayButton() const { return tray_button_; }

    Filled filled() const { return filled_; }
    /// One canvas in place of both; asked for again, both are there.
    void fill(Filled f);
    void showTray(bool on);
    bool trayShown() const;

  protected:
    bool eventFilter(QObject* o, QEvent* e) override;

  private:
    QToolButton* button(QWidget* on, const char* name, const QString& text, const QString& tip);
    void place(QWidget& canvas, const QList<QToolButton*>& buttons) const;
    void keep() const;

    SheetCanvas& sheet_;
    BoxCanvas& box_;
    QWidget& tray_;
    QToolButton *tray_button_, *fill_sheet_, *fill_box_, *panes_, *solid_;
    Filled filled_ = Filled::neither;
};

} // namespace prism::app
