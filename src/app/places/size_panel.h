#pragma once
#include "app/places/place.h"

#include <QTimer>

class QComboBox;

namespace prism::app {

/// What the dimensions leave open, and what they say twice. A chosen size moves to and fro on the sheet, with
/// the dimension that would close it.
class SizePanel final : public QWidget {
    Q_OBJECT
  public:
    SizePanel(Desk desk, QWidget* parent);
    /// What the session now knows; shown or not.
    void refresh();
    /// Shown alone: the play of what is chosen goes on, or ends.
    void setPlaying(bool on);
    /// In words, for the head of the place.
    QString lead() const;

  private:
    struct Play {
        std::vector<int> curves;       ///< figure curves that move
        std::vector<double> from, far; ///< unknowns as they are, and at the end of the way
        std::vector<Curve> dimension;  ///< sheet coordinates
    };
    void choose(int row);
    void setPlay(const OpenSize& o);
    void tick();
    void changeLaying();
    void add(Change change, const QString& label);

    Desk desk_;
    RowTable* table_;
    QLabel* message_;
    QComboBox* laying_;
    std::array<QComboBox*, 3> datum_;
    QPushButton *one_, *all_;
    std::optional<Play> play_;
    QTimer timer_;
    double phase_ = 0; ///< radians
    bool playing_ = false;
};

} // namespace prism::app
