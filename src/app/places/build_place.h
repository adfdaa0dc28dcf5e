#pragma once
#include "app/places/fact_panel.h"
#include "app/places/level_panel.h"
#include "app/places/missing_panel.h"
#include "app/places/place.h"
#include "app/places/reach_panel.h"
#include "app/places/step_editor.h"
#include "app/places/step_list_panel.h"
#include "core/project/picking.h"

#include <QShortcut>
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
    void wantLevel(Axis axis);
    QString areasHint() const;
    MarkFilter depthMarks() const;
    void markPicked(const MarkRef& mark, double value);
    void placePicked(const MarkRef& place);
    void takePart(SolidPart part);
    void lightParts();
    std::vector<Curve> pickedCurves() const;
    std::vector<std::string> stepNames() const;
    void areaPicked(const ViewName& view, Vec2 seed);
    void draftChanged();
    void takeSuggestion(const Suggestion& s);
    void offer(const Suggestion& s);
    void accept();
    void say(bool material);
    void edit(int row);
    void startOver();

    /// What the left side lists.
    enum class Page { steps, parts, levels, reaches, facts, missing };
    void showPage(Page page);
    void fillParts();
    void chooseMarked();

    StepListPanel* steps_;
    RowTable* parts_;
    LevelPanel* levels_;
    ReachPanel* reaches_;
    MissingPanel* missing_;
    FactPanel* facts_;
    QStackedWidget* lists_;
    std::vector<QPushButton*> pages_; ///< by Page
    bool level_wanted_ = false;       ///< the next mark picked is a new level
    std::vector<SolidPart> part_of_row_;
    bool parts_stale_ = true;
    std::vector<std::pair<PartPick, SolidPart>> taken_; ///< parts of the box that went to the step being made
    StepEditor* editor_;
    QPushButton *propose_, *complete_, *suggest_;
    QShortcut* take_offer_;
    std::optional<Suggestion> offer_; ///< what the areas picked most likely do
    StepEditor::Wants wanted_ = StepEditor::Wants::what;
    int editing_ = -1; ///< row being edited; -1 for a new step
    bool here_ = false;
};

} // namespace prism::app
