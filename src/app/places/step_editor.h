#pragma once
#include "app/places/place.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QGridLayout>

namespace prism::app {

/// Puts one step together: areas, operation, reach or centre line. Announces every change, for the preview.
class StepEditor : public QWidget {
    Q_OBJECT
  public:
    enum class Wants { areas, from_mark, to_mark, axis };

    explicit StepEditor(QWidget* parent);
    const Step& step() const { return step_; }
    /// Takes a step to edit; `fresh`: a new one, not yet in the list.
    void setStep(const Step& s, bool fresh);
    void toggleArea(const ViewName& view, Vec2 seed, bool already);
    void takeMark(Wants what, const MarkRef& mark, bool upright);
    bool complete() const;
    void setMessage(const QString& m);
    void setActive(Wants w);

  signals:
    void changed();
    void wants(prism::app::StepEditor::Wants what);
    void accepted();
    void dropped();

  private:
    struct BoundRow {
        QLabel* name;
        QComboBox* kind;
        QDoubleSpinBox* value;
        QPushButton* pick;
        QLabel* text;
    };
    BoundRow boundRow(QGridLayout* grid, int row, const QString& object, const QString& name, Wants wants);
    void showBound(const BoundRow& r, const Bound& b, bool visible);
    void readBound(const BoundRow& r, Bound& b);
    void show();

    Step step_;
    bool fresh_ = true, quiet_ = false;
    QComboBox *kind_, *operation_, *reach_;
    QPushButton *areas_, *axis_, *accept_, *drop_;
    QLabel *area_text_, *axis_text_, *message_, *reach_name_, *axis_name_, *angle_name_;
    QDoubleSpinBox* angle_;
    BoundRow from_, to_;
};

} // namespace prism::app
