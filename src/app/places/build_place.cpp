#include "app/places/build_place.h"

#include "app/sheet/sheet_canvas.h"
#include "core/building/places.h"
#include "core/project/part_links.h"
#include "core/project/picking.h"

namespace prism::app {

BuildPlace::BuildPlace(Desk desk, QWidget* parent) : Place(desk, parent) {
    propose_ = action("proposeSolid", tr("Propose the whole solid"),
                      tr("Look for steps that make exactly what the views show; replaces the build list"));
    auto* row = new QHBoxLayout;
    row->setSpacing(14);
    auto* left = new QVBoxLayout;
    left->setSpacing(5);
    steps_ = new StepListPanel(desk.session, this);
    parts_ = new RowTable("partTable", {tr("What"), tr("Size"), tr("Where from")}, {116, 190}, this);
    parts_->setEmptyText(tr("There is no solid yet."));
    lists_ = new QStackedWidget(this);
    lists_->addWidget(steps_), lists_->addWidget(parts_);
    auto* pages = new QHBoxLayout;
    auto page = [&](const char* name, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setToolTip(tip);
        b->setCheckable(true);
        pages->addWidget(b);
        return b;
    };
    steps_page_ = page("stepsPage", tr("Steps"), tr("The build list"));
    parts_page_ =
        page("partsPage", tr("Faces and edges"), tr("What the solid is bounded by, and where it comes from"));
    pages->addStretch(1);
    left->addLayout(pages);
    left->addWidget(lists_, 1);
    row->addLayout(left, 7);
    editor_ = new StepEditor(this);
    row->addWidget(editor_, 4);
    body()->addLayout(row, 1);

    connect(propose_, &QPushButton::clicked, &desk_.session, &Session::propose);
    connect(editor_, &StepEditor::wants, this, &BuildPlace::want);
    connect(editor_, &StepEditor::changed, this, &BuildPlace::draftChanged);
    connect(editor_, &StepEditor::accepted, this, &BuildPlace::accept);
    connect(editor_, &StepEditor::dropped, this, &BuildPlace::startOver);
    connect(steps_, &StepListPanel::editAsked, this, &BuildPlace::edit);
    connect(steps_, &StepListPanel::removed, this, [this](int step) {
        if (editing_ == step) startOver();
    });
    connect(steps_page_, &QPushButton::clicked, this, [this] { showParts(false); });
    connect(parts_page_, &QPushButton::clicked, this, [this] { showParts(true); });
    const auto part = [this](int row) {
        return row >= 0 && row < static_cast<int>(part_of_row_.size()) && ready()
                   ? desk_.session.markedOf(part_of_row_[static_cast<size_t>(row)])
                   : Marked{};
    };
    connect(parts_, &RowTable::rowPointed, this,
            [this, part](int row) { desk_.session.setPointed(part(row)); });
    connect(parts_, &RowTable::rowChosen, this, [this, part](int row) {
        if (row >= 0) desk_.session.setChosen(part(row));
    });
    connect(&desk_.session, &Session::chosenChanged, this, &BuildPlace::chooseMarked);
    connect(&desk_.session, &Session::chosenChanged, this, &BuildPlace::takeChosenPart);
    connect(&desk_.sheet, &SheetCanvas::areaPicked, this, &BuildPlace::areaPicked);
    connect(&desk_.sheet, &SheetCanvas::areasPicked, this, [this](const PickedAreas& areas) {
        if (here_) editor_->takeAreas(areas);
    });
    connect(editor_, &StepEditor::moreAreas, this, [this](AreaLikeness how) {
        if (!ready()) return;
        const Step& s = editor_->step();
        const std::vector<Vec2> more = areasLike(model(), s.view, s.areas, how);
        if (more.size() == s.areas.size())
            return editor_->setMessage(tr("There is no other such area in the view"));
        editor_->takeAreas({s.view, more});
    });
    connect(&desk_.sheet, &SheetCanvas::markPicked, this, &BuildPlace::markPicked);
    connect(&desk_.sheet, &SheetCanvas::axisPicked, this, [this](const MarkRef& mark, bool upright) {
        if (!here_) return;
        editor_->takeMark(StepEditor::Wants::second, mark, upright);
        want(StepEditor::Wants::what);
    });
    connect(&desk_.sheet, &SheetCanvas::stepPlacePicked, this, &BuildPlace::placePicked);
    connect(&desk_.sheet, &SheetCanvas::placesDone, this, [this] {
        if (here_ && editor_->complete()) accept();
    });
    connect(&desk_.sheet, &SheetCanvas::pickingLeft, this, [this] {
        if (here_) want(StepEditor::Wants::what);
    });
    connect(&desk_.session, &Session::opened, this, &BuildPlace::startOver);
    connect(&desk_.session, &Session::previewReady, this,
            [this](const Mesh&, const Mesh&, const QString& told) { editor_->setMessage(told); });
    showParts(false);
    setLead(tr("Open a drawing to build its solid"));
}

void BuildPlace::showParts(bool on) {
    lists_->setCurrentIndex(on ? 1 : 0);
    steps_page_->setChecked(!on), parts_page_->setChecked(on);
    if (on) fillParts();
}

/// Faces first, then edges; measured only once somebody looks.
void BuildPlace::fillParts() {
    if (!std::exchange(parts_stale_, false)) return;
    part_of_row_.clear();
    std::vector<std::vector<Cell>> rows;
    if (ready())
        for (SolidPart::Kind kind : {SolidPart::Kind::face, SolidPart::Kind::edge})
            for (const PartRow& r : rowsOf(model(), kind)) {
                part_of_row_.push_back(r.part);
                rows.push_back({Cell::of(sentence(r.kind)), Cell::of(QString::fromStdString(r.size)),
                                Cell::of(sentence(r.from))});
            }
    parts_->setRows(std::move(rows));
    chooseMarked();
}

/// A part chosen in the box is chosen in the list, too.
void BuildPlace::chooseMarked() {
    const auto& parts = desk_.session.chosen().parts;
    if (parts.size() != 1 || lists_->currentIndex() == 0) return;
    const auto at = std::ranges::find(part_of_row_, *parts.begin());
    const int row = static_cast<int>(at - part_of_row_.begin());
    if (at != part_of_row_.end() && parts_->currentRow() != row) parts_->chooseRow(row);
}

void BuildPlace::enter() {
    here_ = true;
    want(StepEditor::Wants::what);
    draftChanged();
}

void BuildPlace::leave() {
    here_ = false;
    desk_.sheet.setPicking(SheetCanvas::Picking::lines);
    desk_.sheet.setHint({});
    desk_.sheet.setAreas(Role::front, {});
    desk_.sheet.setReachMarks({});
    desk_.sheet.setGhost({});
    desk_.session.clearPreview();
}

/// What the pointer picks for the step as it is, and what to do next.
void BuildPlace::want(StepEditor::Wants what) {
    wanted_ = what;
    editor_->setActive(what);
    if (what == StepEditor::Wants::what)
        wantWhat();
    else if (what == StepEditor::Wants::second)
        wantSecond();
    else
        wantEnd();
    desk_.sheet.setFocus();
}

void BuildPlace::wantWhat() {
    using Picking = SheetCanvas::Picking;
    const Step& s = editor_->step();
    switch (s.kind) {
    case StepKind::extrude:
    case StepKind::revolve:
        desk_.sheet.setPicking(Picking::areas);
        return desk_.sheet.setHint(areasHint());
    case StepKind::hole:
        desk_.sheet.setPicking(Picking::circle);
        return desk_.sheet.setHint(s.places.empty() ? tr("Click inside the circles of the holes")
                                                    : tr("Enter adds the step"));
    case StepKind::wall:
    case StepKind::rib:
    case StepKind::slope:
        desk_.sheet.setPicking(Picking::part_line);
        return desk_.sheet.setHint(
            s.places.empty() ? tr("Click the lines of an open chain, one after another") : QString());
    case StepKind::fillet:
    case StepKind::chamfer:
        desk_.sheet.setPicking(Picking::lines);
        return desk_.sheet.setHint(s.edges.which == EdgeChoice::Which::picked
                                       ? tr("Click edges of the solid in the box")
                                       : QString());
    case StepKind::facet:
        desk_.sheet.setPicking(Picking::lines);
        return desk_.sheet.setHint(s.corners.size() < 3
                                       ? tr("Click three corners or edges of the solid in the box")
                                       : tr("Click a corner of the solid on the side that is taken"));
    case StepKind::shell:
        desk_.sheet.setPicking(Picking::lines);
        return desk_.sheet.setHint(tr("Click faces of the solid in the box that are to be open"));
    case StepKind::mirror:
    case StepKind::pattern:
        desk_.sheet.setPicking(Picking::lines);
        return desk_.sheet.setHint({});
    }
}

QString BuildPlace::areasHint() const {
    const Step& s = editor_->step();
    if (s.areas.empty())
        return tr("Click the closed areas to build from; drag a box round several, with Alt a lasso");
    if (s.kind != StepKind::extrude || s.reach == Reach::through) return tr("Enter adds the step");
    return tr("Click a line of another view to say how far; Enter adds the step");
}

void BuildPlace::wantSecond() {
    using Picking = SheetCanvas::Picking;
    const Step& s = editor_->step();
    const QString view = QString::fromStdString(nameOf(s.view));
    if (s.kind == StepKind::revolve) {
        desk_.sheet.setAxisView(s.view);
        desk_.sheet.setPicking(Picking::axis);
        desk_.sheet.setHint(tr("Click the centre line in the %1 view").arg(view));
    } else if (s.kind == StepKind::mirror) {
        desk_.sheet.setMarkFilter({s.across, {}});
        desk_.sheet.setPicking(Picking::mark);
        desk_.sheet.setHint(
            tr("Click a line or point: its %1 is where the mirror stands").arg(nameOf(s.across)));
    } else if (s.kind == StepKind::pattern) {
        const bool circle = s.repeat.kind == Repetition::Kind::circle;
        desk_.sheet.setPicking(circle ? Picking::circle : Picking::part_line);
        desk_.sheet.setHint(circle ? tr("Click inside a circle about the centre")
                                   : tr("Click the curve near where the copies begin"));
    } else {
        desk_.sheet.setPicking(Picking::view_place);
        desk_.sheet.setHint(tr("Click in the %1 view on the side that is meant").arg(view));
    }
}

/// The marks along which a step of the view reaches. An auxiliary view looks along no model axis: any point
/// of the view that it hangs on tells a depth.
MarkFilter BuildPlace::depthMarks() const {
    const ViewName view = editor_->step().view;
    const FigureView* v = ready() ? model().figure.viewNamed(view) : nullptr;
    return {v && v->square ? std::optional(v->axes.depth) : std::nullopt, view};
}

void BuildPlace::wantEnd() {
    const MarkFilter marks = depthMarks();
    desk_.sheet.setMarkFilter(marks);
    desk_.sheet.setPicking(SheetCanvas::Picking::mark);
    desk_.sheet.setHint(marks.axis
                            ? tr("Click a line or point in another view: its %1 is where the step ends")
                                  .arg(nameOf(*marks.axis))
                            : tr("Click a corner in the view that this one hangs on: the step ends there"));
}

/// A mark for what was asked for; or, while areas are picked, for the end of the reach that has none yet.
void BuildPlace::markPicked(const MarkRef& mark, double /*value*/) {
    if (!here_) return;
    StepEditor::Wants end = wanted_;
    const Step& s = editor_->step();
    if (end == StepEditor::Wants::what)
        end = s.to.kind == Bound::Kind::mark && s.from.kind != Bound::Kind::mark
                  ? StepEditor::Wants::from_mark
                  : StepEditor::Wants::to_mark;
    editor_->takeMark(end, mark, false);
    want(StepEditor::Wants::what);
}

void BuildPlace::placePicked(const MarkRef& place) {
    if (!here_) return;
    if (wanted_ == StepEditor::Wants::what) return editor_->togglePlace(place);
    if (editor_->step().kind != StepKind::pattern && place.view != editor_->step().view)
        return; // a stray click
    editor_->takeMark(StepEditor::Wants::second, place, false);
    want(StepEditor::Wants::what);
}

/// An edge or a face chosen in the box goes to the step that asks for one.
void BuildPlace::takeChosenPart() {
    const auto& parts = desk_.session.chosen().parts;
    if (!here_ || !ready() || parts.size() != 1) return;
    const SolidPart part = *parts.begin();
    const bool face = part.kind == SolidPart::Kind::face;
    const StepKind kind = editor_->step().kind;
    const auto pick = pickOf(model(), part);
    if (!pick) return;
    if (face && editor_->takeFace(*pick)) return;
    if (kind == StepKind::facet && !face && pick->place) return editor_->takeCorner(*pick->place);
    if ((kind == StepKind::shell && face) ||
        (editor_->takesParts() && kind != StepKind::shell && part.kind == SolidPart::Kind::edge))
        editor_->togglePart(*pick, face);
}

/// What is picked of lines and circles, where it now stands on the sheet.
std::vector<Curve> BuildPlace::pickedCurves() const {
    const Step& s = editor_->step();
    std::vector<Curve> r;
    const FigureView* v = model().figure.viewNamed(s.view);
    if (!v) return r;
    const Affine2 onto = ontoSheet(model().figure, *v, model().figure.now);
    for (Vec2 p : s.places)
        if (s.kind == StepKind::hole) {
            const building::Concentric c = building::circlesAt(model().figure, *v, p);
            for (int i : c.circles) r.push_back(transformed(model().figure.curve(i), onto));
        } else if (const int i = building::curveNear(model().figure, *v, p); i >= 0)
            r.push_back(transformed(model().figure.curve(i), onto));
    return r;
}

void BuildPlace::areaPicked(const ViewName& view, Vec2 seed) {
    if (!here_) return;
    const Step& s = editor_->step();
    const bool already = s.view == view && std::find(s.areas.begin(), s.areas.end(), seed) != s.areas.end();
    editor_->toggleArea(view, seed, already);
}

void BuildPlace::draftChanged() {
    if (!here_ || !ready()) return;
    const Step& s = editor_->step();
    desk_.sheet.setAreas(s.view, s.areas);
    desk_.sheet.setGhost(pickedCurves());
    desk_.sheet.setReachMarks(s.kind == StepKind::extrude && !s.areas.empty() && s.reach != Reach::through
                                  ? std::optional(depthMarks())
                                  : std::nullopt);
    if (wanted_ == StepEditor::Wants::what) wantWhat();
    const auto& steps = desk_.session.choices().steps;
    if (editor_->complete())
        desk_.session.preview(s, editing_ >= 0 ? static_cast<size_t>(editing_) : builtSteps(steps));
    else {
        desk_.session.clearPreview();
        const bool begun =
            !s.areas.empty() || !s.places.empty() || !s.edges.picks.empty() || !s.corners.empty();
        if (const auto missing = missingIn(s); missing && begun) editor_->setMessage(sentence(*missing));
    }
}

void BuildPlace::accept() {
    if (!ready() || !editor_->complete()) return;
    Step s = editor_->step();
    if (s.name.empty()) s.name = freshName(desk_.session.choices().steps, s.kind);
    const auto& steps = desk_.session.choices().steps;
    const bool changes = editing_ >= 0 && editing_ < static_cast<int>(steps.size());
    if (changes)
        steps_->changeStep(editing_, tr("Change a step"), [s](Choices& c, int now) { c.steps[now] = s; });
    else
        desk_.session.change(tr("Add a step"), [s](Choices& c) { goOnWith(c.steps, s); });
    startOver();
}

void BuildPlace::edit(int row) {
    if (row < 0 || row >= static_cast<int>(desk_.session.choices().steps.size())) return;
    editing_ = row;
    editor_->setNames(stepNames());
    editor_->setStep(desk_.session.choices().steps[row], false);
    want(StepEditor::Wants::what);
    draftChanged();
}

void BuildPlace::startOver() {
    editing_ = -1;
    Step fresh;
    if (ready() && !desk_.session.choices().steps.empty()) fresh.operation = editor_->step().operation;
    editor_->setNames(stepNames());
    editor_->setStep(fresh, true);
    draftChanged();
}

/// Names of the steps that stand before the one being made.
std::vector<std::string> BuildPlace::stepNames() const {
    std::vector<std::string> r;
    if (!ready()) return r;
    const auto& steps = desk_.session.choices().steps;
    const size_t before = editing_ >= 0 ? static_cast<size_t>(editing_) : builtSteps(steps);
    for (size_t i = 0; i < before && i < steps.size(); ++i)
        if (!steps[i].name.empty() && std::ranges::find(r, steps[i].name) == r.end())
            r.push_back(steps[i].name);
    return r;
}

void BuildPlace::refresh() {
    parts_stale_ = true;
    editor_->setNames(stepNames());
    if (lists_->currentIndex() == 1) fillParts();
    steps_->refresh();
    const std::vector<Step>& steps = desk_.session.choices().steps;
    const auto failed = std::ranges::count(model().build.steps, false, &StepReport::ok);
    if (here_) draftChanged();
    if (steps.empty()) return setLead(tr("Click closed areas on the sheet and say how far they reach"));
    if (failed)
        return setLead(tr("%1 could not be done: see the state")
                           .arg(counted(static_cast<int>(failed), tr("step"), tr("steps"))));
    const auto& proof = model().proof;
    const int n = static_cast<int>(builtSteps(steps)), all = static_cast<int>(steps.size());
    const QString made = n < all ? tr("%1 of %2 steps").arg(n).arg(all) : counted(n, tr("step"), tr("steps"));
    setLead(proof ? QString("%1; %2").arg(made, QString::fromStdString(inWords(*proof))) : made);
}

PlaceState BuildPlace::state() const {
    if (!ready()) return {};
    if (!has(Stage::solid)) return notYet();
    const auto& steps = desk_.session.choices().steps;
    if (steps.empty()) return {theme::Glyph::idle, tr("no steps yet")};
    for (const StepReport& r : model().build.steps)
        if (!r.ok) return {theme::Glyph::error, tr("a step failed")};
    if (const size_t n = builtSteps(steps); n < steps.size())
        return {theme::Glyph::warning, tr("stopped at step %1").arg(n)};
    return {theme::Glyph::good, counted(static_cast<int>(steps.size()), tr("step"), tr("steps"))};
}

} // namespace prism::app
