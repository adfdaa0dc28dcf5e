#pragma once
#include "app/places/place.h"
#include "app/places/step_editor.h"
#include "app/places/step_list_panel.h"
#include "core/project/picking.h"

#include <QStackedWidget>

namespace prism::app {

/// The build list and the step being made, with its live preview.
class BuildPlace final : public Place {
    Q_OBJECT
  public:
    BuildPlace(Desk desk, QWidget* parent);
    void enter() override;
    void leave() override;
    PlaceState state() const override;

  protected:
    void refresh() override;

  private:
    void want(StepEditor::Wants what);
    void wantWhat();
    void wantSecond();
    void wantEnd();
    QString areasHint() const;
    MarkFilter depthMarks() const;
    void markPicked(const MarkRef& mark, double value);
    void placePicked(const MarkRef& place);
    void takeChosenPart();
    std::vector<Curve> pickedCurves() const;
    std::vector<std::string> stepNames() const;
    void areaPicked(const ViewName& view, Vec2 seed);
    void draftChanged();
    void accept();
    void edit(int row);
    void startOver();

    void showParts(bool on);
    void fillParts();
    void chooseMarked();

    StepListPanel* steps_;
    RowTable* parts_;
    QStackedWidget* lists_;
    QPushButton *steps_page_, *parts_page_;
    std::vector<SolidPart> part_of_row_;
    bool parts_stale_ = true;
    StepEditor* editor_;
    QPushButton* propose_;
    StepEditor::Wants wanted_ = StepEditor::Wants::what;
    int editing_ = -1; ///< row being edited; -1 for a new step
    bool here_ = false;
};

} // namespace prism::app
