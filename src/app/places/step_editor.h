#pragma once
#include "app/places/place.h"
#include "app/places/step_fields.h"
#include "core/project/area_picking.h"

#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QMenu>
#include <QSpinBox>

namespace prism::app {

/// Puts one step together, of whatever kind. Announces every change, for the preview.
class StepEditor : public QWidget {
    Q_OBJECT
  public:
    /// What is picked on the sheet or in the box.
    enum class Wants {
        what, ///< areas, circles or lines of the sheet, edges or faces of the box: whatever the kind begins
              ///< with
        from_mark, ///< where the reach begins
        to_mark,   ///< where it ends
        second     ///< centre line, side, plane or centre
    };

    explicit StepEditor(QWidget* parent);
    const Step& step() const { return step_; }
    /// Takes a step to edit; `fresh`: a new one, not yet in the list.
    void setStep(const Step& s, bool fresh);
    /// Names of the steps that a mirror or a pattern may repeat.
    void setNames(const std::vector<std::string>& names);
    void toggleArea(const ViewName& view, Vec2 seed, bool already);
    /// Adds areas; lets them go when all of them were picked.
    void takeAreas(const PickedAreas& areas);
    /// A centre or a line of the chain.
    void togglePlace(const MarkRef& place);
    void togglePart(const PartPick& pick, bool face);
    void takeMark(Wants what, const MarkRef& mark, bool upright);
    /// The end that waits for a face of the box takes it; false when none does.
    bool takeFace(const PartPick& pick);
    bool complete() const;
    void setMessage(const QString& m);
    void setActive(Wants w);
    /// Of a facet: three corners of its plane, then a place on the side that is taken; one picked again is
    /// let go.
    void takeCorner(Vec3 place);
    /// Whether the step begins with parts of the box; and whether these are faces.
    bool takesParts() const;
    bool takesFaces() const;
    /// The levels that an end may stand at.
    void setLevels(const QStringList& names);
    /// A reach for each area; none for one that all share.
    void setTops(std::vector<Bound> tops);

  signals:
    void changed();
    void wants(prism::app::StepEditor::Wants what);
    void accepted();
    void dropped();
    /// The areas, as far as they reach, are known to be material, or air.
    void said(bool material);
    /// All areas that are like those picked in one way are wanted too.
    void moreAreas(prism::AreaLikeness how);

  private:
    /// A number of the step, where it is shown.
    struct Number {
        QLabel* name;
        NumberField* field;
    };
    void layOut();
    void connectAll();
    void read();
    void readHole();
    void readRepeat();
    void show();
    void showWhat();
    void showSecond();
    void showKindRow();
    void showNumbers();
    void placePairs();
    void addArea(Vec2 seed);
    void dropArea(Vec2 seed);

    Step step_;
    bool fresh_ = true, quiet_ = false;
    QGridLayout* grid_;
    QComboBox *kind_, *operation_, *reach_, *hole_, *which_, *axis_of_, *along_, *outward_, *inner_;
    QPushButton *what_, *second_, *accept_, *drop_;
    QPushButton* of_;
    QPushButton* more_; ///< areas like those picked
    QPushButton* fact_;
    QMenu* names_; ///< of the steps that may be repeated
    QSpinBox* count_;
    QLineEdit* note_;
    QLabel *what_name_, *what_text_, *second_name_, *message_, *kind_name_, *angle_name_;
    QDoubleSpinBox* angle_;
    BoundRow *from_, *to_;
    std::vector<Number> numbers_;
};

} // namespace prism::app
