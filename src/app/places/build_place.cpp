#include "app/places/build_place.h"

#include "app/box/box_canvas.h"
#include "app/sheet/sheet_canvas.h"
#include "core/building/places.h"
#include "core/project/part_links.h"
#include "core/project/picking.h"

namespace prism::app {

namespace {

/// "cut, through": what an offered extrusion does, without its areas.
std::string inWordsOf(const Step& s) {
    const std::string all = describe(s);
    const size_t reach = all.find(", ");
    return std::string(nameOf(s.operation)) + (reach == std::string::npos ? "" : all.substr(reach));
}

} // namespace

BuildPlace::BuildPlace(Desk desk, QWidget* parent) : Place(desk, parent) {
    propose_ = action("proposeSolid", tr("Propose the whole solid"),
                      tr("Look for steps that make exactly what the views show; replaces the build list"));
    complete_ =
        action("completeSteps", tr("Complete the steps"),
               tr("Keep the build list as it is and add the steps that are lacking to the solid that the "
                  "views show"));
    suggest_ = action("suggestStep", tr("Suggest the next step"),
                      tr("Look for one step on the way to the solid that the views show"));
    auto* row = new QHBoxLayout;
    row->setSpacing(14);
    auto* left = new QVBoxLayout;
    left->setSpacing(5);
    steps_ = new StepListPanel(desk.session, this);
    parts_ = new RowTable("partTable", {tr("What"), tr("Size"), tr("Where from")}, {116, 190}, this);
    parts_->setEmptyText(tr("There is no solid yet."));
    levels_ = new LevelPanel(desk.session, this);
    reaches_ = new ReachPanel(desk.session, this);
    missing_ = new MissingPanel(desk.session, this);
    facts_ = new FactPanel(desk.session, this);
    lists_ = new QStackedWidget(this);
    for (QWidget* w : std::initializer_list<QWidget*>{steps_, parts_, levels_, reaches_, facts_, missing_})
        lists_->addWidget(w);
    auto* pages = new QHBoxLayout;
    const auto page = [&](Page which, const char* name, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setToolTip(tip);
        b->setCheckable(true);
        pages->addWidget(b);
        pages_.push_back(b);
        connect(b, &QPushButton::clicked, this, [this, which] { showPage(which); });
    };
    page(Page::steps, "stepsPage", tr("Steps"), tr("The build list"));
    page(Page::parts, "partsPage", tr("Faces and edges"),
         tr("What the solid is bounded by, and where it comes from"));
    page(Page::levels, "levelsPage", tr("Levels"), tr("Named floors and shoulders that steps reach to"));
    page(Page::reaches, "reachesPage", tr("Reaches"), tr("The areas picked, with a reach for each"));
    page(Page::facts, "factsPage", tr("Facts"), tr("What is known to be material or air; proposals keep it"));
    page(Page::missing, "missingPage", tr("Missing lines"), tr("The lines that the solid does not show yet"));
    pages->addStretch(1);
    left->addLayout(pages);
    left->addWidget(lists_, 1);
    row->addLayout(left, 7);
    editor_ = new StepEditor(this);
    row->addWidget(editor_, 4);
    body()->addLayout(row, 1);

    connect(propose_, &QPushButton::clicked, &desk_.session, &Session::propose);
    connect(complete_, &QPushButton::clicked, &desk_.session, &Session::completeSteps);
    connect(suggest_, &QPushButton::clicked, this, [this] { desk_.session.suggest(); });
    connect(&desk_.session, &Session::suggested, this, &BuildPlace::takeSuggestion);
    connect(&desk_.session, &Session::likely, this, &BuildPlace::offer);
    take_offer_ = new QShortcut(QKeySequence(Qt::SHIFT | Qt::Key_Return), this);
    take_offer_->setEnabled(false);
    connect(take_offer_, &QShortcut::activated, this, [this] {
        if (!offer_) return;
        editor_->setStep(offer_->step, true);
        accept();
    });
    connect(editor_, &StepEditor::wants, this, &BuildPlace::want);
    connect(editor_, &StepEditor::changed, this, &BuildPlace::draftChanged);
    connect(editor_, &StepEditor::accepted, this, &BuildPlace::accept);
    connect(editor_, &StepEditor::said, this, &BuildPlace::say);
    connect(facts_, &FactPanel::shown, this, [this](const std::optional<Step>& fact) {
        if (!here_ || !ready()) return;
        const Step& s = fact ? *fact : editor_->step();
        desk_.sheet.setAreas(s.view, s.areas);
    });
    connect(editor_, &StepEditor::dropped, this, &BuildPlace::startOver);
    connect(steps_, &StepListPanel::editAsked, this, &BuildPlace::edit);
    connect(steps_, &StepListPanel::removed, this, [this](int step) {
        if (editing_ == step) startOver();
    });
    connect(levels_, &LevelPanel::pickAsked, this, &BuildPlace::wantLevel);
    connect(reaches_, &ReachPanel::changed, editor_, &StepEditor::setTops);
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
    connect(parts_, &RowTable::rowActivated, this, [this](int row) {
        if (row >= 0 && row < static_cast<int>(part_of_row_.size()))
            takePart(part_of_row_[static_cast<size_t>(row)]);
    });
    connect(&desk_.session, &Session::chosenChanged, this, &BuildPlace::chooseMarked);
    connect(&desk_.box, &BoxCanvas::partTaken, this, &BuildPlace::takePart);
    connect(&desk_.sheet, &SheetCanvas::areaPicked, this, &BuildPlace::areaPicked);
    connect(&desk_.sheet, &SheetCanvas::areasPicked, this, [this](const PickedAreas& areas) {
        if (here_) editor_->takeAreas(areas);
    });
    connect(&desk_.sheet, &SheetCanvas::gapPicked, this, [this](const Remedy& r) {
        if (here_) desk_.session.repair(r);
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
    showPage(Page::steps);
    setLead(tr("Open a drawing to build its solid"));
}

void BuildPlace::showPage(Page page) {
    lists_->setCurrentIndex(static_cast<int>(page));
    for (size_t i = 0; i < pages_.size(); ++i) pages_[i]->setChecked(i == static_cast<size_t>(page));
    if (page == Page::parts) fillParts();
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
    if (parts.size() != 1 || lists_->currentIndex() != static_cast<int>(Page::parts)) return;
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
    desk_.session.lookAtAreas({});
    take_offer_->setEnabled(false);
}

/// What the pointer picks for the step as it is, and what to do next.
void BuildPlace::want(StepEditor::Wants what) {
    wanted_ = what;
    level_wanted_ = false;
    levels_->setPicking(false);
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
    case StepKind::thicken:
    case StepKind::lip:
    case StepKind::flange:
    case StepKind::tilt:
        desk_.sheet.setPicking(Picking::lines);
        return desk_.sheet.setHint(s.faces.empty() ? tr("Click faces of the solid in the box") : QString());
    case StepKind::mirror:
    case StepKind::pattern:
        desk_.sheet.setPicking(Picking::lines);
        return desk_.sheet.setHint({});
    }
}

QString BuildPlace::areasHint() const {
    const Step& s = editor_->step();
    if (offer_) {
        const QString what = QString::fromStdString(inWordsOf(offer_->step));
        return (offer_->sure ? tr("Likely: %1. Shift+Enter adds it so; or click how far")
                             : tr("A guess: %1. Shift+Enter adds it so; or click how far"))
            .arg(what);
    }
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
    } else if (s.kind == StepKind::tilt) {
        desk_.sheet.setPicking(Picking::part_line);
        desk_.sheet.setHint(tr("Click the line, seen from the side, in whose plane the faces are to lie"));
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

void BuildPlace::wantLevel(Axis axis) {
    if (!ready()) return;
    want(StepEditor::Wants::what);
    level_wanted_ = true;
    levels_->setPicking(true);
    desk_.sheet.setMarkFilter({axis, {}});
    desk_.sheet.setPicking(SheetCanvas::Picking::mark);
    desk_.sheet.setHint(tr("Click a line or point: its %1 is where the level stands").arg(nameOf(axis)));
    desk_.sheet.setFocus();
}

/// A mark for what was asked for; or, while areas are picked, for the end of the reach that has none yet.
void BuildPlace::markPicked(const MarkRef& mark, double /*value*/) {
    if (!here_) return;
    if (level_wanted_) {
        levels_->add(mark);
        return want(StepEditor::Wants::what);
    }
    StepEditor::Wants end = wanted_;
    const Step& s = editor_->step();
    if (end == StepEditor::Wants::what && !s.tops.empty()) return reaches_->takeMark(mark);
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
    const StepKind kind = editor_->step().kind;
    if (kind != StepKind::pattern && kind != StepKind::tilt && place.view != editor_->step().view)
        return; // a stray click
    editor_->takeMark(StepEditor::Wants::second, place, false);
    want(StepEditor::Wants::what);
}

/// An edge or a face taken in the box goes to the step that asks for one; taken again it is let go.
void BuildPlace::takePart(SolidPart part) {
    if (!here_ || !ready()) return;
    const bool face = part.kind == SolidPart::Kind::face;
    const auto pick = pickOf(model(), part);
    if (!pick) return;
    if (face && editor_->takeFace(*pick)) return;
    if (editor_->step().kind == StepKind::facet && !face && pick->place)
        return editor_->takeCorner(*pick->place);
    if (!editor_->takesParts() || face != editor_->takesFaces()) return;
    if (!face && part.kind != SolidPart::Kind::edge) return;
    taken_.emplace_back(*pick, part);
    editor_->togglePart(*pick, face);
    lightParts();
}

/// All parts that the step has taken stay lit together.
void BuildPlace::lightParts() {
    const Step& s = editor_->step();
    const auto held = [](const std::vector<PartPick>& picks, const PartPick& p) {
        return std::ranges::find(picks, p) != picks.end();
    };
    Marked m;
    for (const auto& [pick, part] : taken_)
        if (held(s.faces, pick) || held(s.edges.picks, pick)) m.parts.insert(part);
    desk_.session.setChosen(std::move(m));
}

/// What is picked of lines and circles, where it now stands on the sheet.
std::vector<Curve> BuildPlace::pickedCurves() const {
    const Step& s = editor_->step();
    std::vector<Curve> r;
    const FigureView* v = model().figure.viewNamed(s.view);
    if (!v) return r;
    const Affine2 onto = ontoSheet(model().figure, *v, model().figure.now);
    for (Vec2 p : s.places)
        if (lies(s)) {
            if (const int i = building::wallBeside(model().figure, *v, p, s.axis_upright); i >= 0)
                r.push_back(transformed(model().figure.curve(i), onto));
        } else if (s.kind == StepKind::hole) {
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
    reaches_->show(s);
    offer_.reset(), take_offer_->setEnabled(false);
    // Before anybody has said what the areas do: what the other views say of them.
    const bool untold = s.kind == StepKind::extrude && s.reach == Reach::between && s.tops.empty() &&
                        s.from == Bound{} && s.to == Bound{} && s.draft == 0;
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
        const bool begun = !s.areas.empty() || !s.places.empty() || !s.edges.picks.empty() ||
                           !s.corners.empty() || !s.faces.empty();
        if (const auto missing = missingIn(s); missing && begun) editor_->setMessage(sentence(*missing));
    }
    desk_.session.lookAtAreas(untold && editing_ < 0 && !s.areas.empty() ? std::optional(s) : std::nullopt);
}

void BuildPlace::takeSuggestion(const Suggestion& s) {
    if (!here_) return;
    editing_ = -1;
    editor_->setStep(s.step, true);
    want(StepEditor::Wants::what);
    draftChanged();
    const QString left = counted(s.missing, tr("line of the sheet is"), tr("lines of the sheet are"));
    desk_.sheet.setHint((s.sure
                             ? tr("%1 missing after this step. Enter adds it")
                             : tr("A guess: no solid was found that shows every line. %1 missing after this "
                                  "step. Enter adds it"))
                            .arg(left));
}

void BuildPlace::offer(const Suggestion& s) {
    if (!here_ || editing_ >= 0 || editor_->step().areas != s.step.areas) return;
    offer_ = s;
    take_offer_->setEnabled(true);
    if (wanted_ == StepEditor::Wants::what) wantWhat();
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

/// What the areas are becomes a fact, not a step.
void BuildPlace::say(bool material) {
    if (!ready() || !editor_->complete()) return;
    facts_->add(editor_->step(), material);
    startOver();
    showPage(Page::facts);
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
    taken_.clear();
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
    QStringList levels;
    for (const PartLevel& l : desk_.session.choices().levels) levels << QString::fromStdString(l.name);
    editor_->setLevels(levels);
    levels_->refresh();
    facts_->refresh();
    pages_[static_cast<size_t>(Page::facts)]->setText(facts_->count() ? tr("Facts (%1)").arg(facts_->count())
                                                                      : tr("Facts"));
    complete_->setEnabled(!desk_.session.choices().steps.empty());
    missing_->refresh();
    pages_[static_cast<size_t>(Page::missing)]->setText(
        missing_->count() ? tr("Missing lines (%1)").arg(missing_->count()) : tr("Missing lines"));
    if (lists_->currentIndex() == static_cast<int>(Page::parts)) fillParts();
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
