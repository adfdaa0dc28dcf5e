#pragma once
#include "app/places/place.h"

namespace prism::app {

/// The strip of the seven places of work, drawn as a chain of dimensions: each place spans from one extension
/// line to the next, with its state under the line.
class PathBar : public QWidget {
    Q_OBJECT
  public:
    explicit PathBar(QWidget* parent = nullptr);
    void setPlaces(const QStringList& names);
    void setStates(const std::vector<PlaceState>& states);
    void setCurrent(int place);
    int current() const { return current_; }
    QRect placeRect(int place) const;
    QSize sizeHint() const override { return {700, 58}; }

  signals:
    void placeChosen(int place);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void leaveEvent(QEvent*) override;
    void keyPressEvent(QKeyEvent* e) override;

  private:
    int placeAt(QPoint p) const;

    QStringList names_;
    std::vector<PlaceState> states_;
    int current_ = 0, hovered_ = -1;
};

} // namespace prism::app
