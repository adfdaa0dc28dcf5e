#include "app/places/step_editor.h"

#include "app/places/step_traits.h"
#include "core/building/hole_note.h"
#include "core/proposing/facts.h"

namespace prism::app {
namespace {

QString asText(const ViewName& v) {
    return QString::fromStdString(nameOf(v));
}

} // namespace

StepEditor::StepEditor(QWidget* parent) : QWidget(parent) {
    setObjectName("stepEditor");
    layOut();
    connectAll();
    setStep({}, true);
}

void StepEditor::layOut() {
    grid_ = new QGridLayout(this);
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setHorizontalSpacing(8);
    grid_->setVerticalSpacing(5);
    grid_->setColumnStretch(4, 1);
    const auto combo = [this](const char* name, const QStringList& items) {
        auto* c = new QComboBox(this);
        c->setObjectName(name);
        c->addItems(items);
        return c;
    };
    kind_ = combo("stepKind", {tr("Extrude"), tr("Revolve"), tr("Hole"), tr("Fillet"), tr("Chamfer"),
                               tr("Shell"), tr("Thicken"), tr("Lip"), tr("Flange"), tr("Wall"), tr("Rib"),
                               tr("Slope"), tr("Tilt"), tr("Facet"), tr("Mirror"), tr("Pattern")});
    kind_->setMaxVisibleItems(16);
    operation_ = combo("stepOperation", {tr("add"), tr("cut"), tr("intersect")});
    grid_->addWidget(new QLabel(tr("Step"), this), 0, 0);
    grid_->addWidget(kind_, 0, 1);
    grid_->addWidget(operation_, 0, 2);

    what_name_ = new QLabel(this), what_text_ = new QLabel(this);
    what_ = new QPushButton(this);
    what_->setObjectName("pickAreas");
    what_->setCheckable(true);
    which_ = combo("stepEdges", {tr("chosen in the box"), tr("all edges"), tr("all convex edges"),
                                 tr("all concave edges")});
    of_ = new QPushButton(this);
    of_->setObjectName("stepOf");
    names_ = new QMenu(of_);
    grid_->addWidget(what_name_, 1, 0);
    grid_->addWidget(what_, 1, 1);
    grid_->addWidget(which_, 1, 1);
    grid_->addWidget(of_, 1, 1);
    more_ = new QPushButton(tr("And more…"), this);
    more_->setObjectName("moreAreas");
    more_->setToolTip(tr("Pick further areas of the view that are like these"));
    auto* ways = new QMenu(more_);
    for (auto [words, how] : {std::pair{tr("All of the same shape"), AreaLikeness::shape},
                              std::pair{tr("All bordered by the same layers"), AreaLikeness::layer},
                              std::pair{tr("All that are joined to these"), AreaLikeness::neighbours},
                              std::pair{tr("All of the view"), AreaLikeness::view}})
        ways->addAction(words, this, [this, h = how] { emit moreAreas(h); });
    connect(more_, &QPushButton::clicked, this,
            [this, ways] { ways->popup(more_->mapToGlobal(QPoint(0, more_->height()))); });
    grid_->addWidget(what_text_, 1, 2, 1, 2);
    grid_->addWidget(more_, 1, 4, Qt::AlignLeft);

    kind_name_ = new QLabel(this);
    reach_ = combo("stepReach", {tr("from one end to the other"), tr("through the part"),
                                 tr("both sides of a middle"), tr("unequal on both sides")});
    hole_ = combo("holeKind",
                  {tr("plain"), tr("counterbore"), tr("countersink"), tr("spot face"), tr("tapered")});
    outward_ = combo("shellSide", {tr("inside the faces"), tr("outside the faces")});
    inner_ = combo("rimBorder", {tr("the outer border"), tr("the openings")});
    axis_of_ = combo("stepAxis", {"X", "Y", "Z"});
    along_ = combo("patternAlong",
                   {tr("along a line"), tr("on a grid"), tr("round a centre"), tr("along a curve")});
    count_ = new QSpinBox(this);
    count_->setObjectName("patternCount");
    count_->setRange(2, 1000);
    count_->setPrefix(tr("count "));
    note_ = new QLineEdit(this);
    note_->setObjectName("holeNote");
    note_->setPlaceholderText(tr("or type the note: dia 9 counterbore dia 14 deep 5"));
    grid_->addWidget(kind_name_, 2, 0);
    grid_->addWidget(reach_, 2, 1, 1, 2);
    grid_->addWidget(hole_, 2, 1);
    grid_->addWidget(note_, 2, 2, 1, 3);
    grid_->addWidget(outward_, 2, 1);
    grid_->addWidget(inner_, 2, 1);
    grid_->addWidget(along_, 2, 1);
    grid_->addWidget(axis_of_, 2, 2);
    grid_->addWidget(count_, 2, 3);

    from_ = new BoundRow(grid_, 3, "from", this);
    to_ = new BoundRow(grid_, 4, "to", this);

    second_name_ = new QLabel(this);
    second_ = new QPushButton(this);
    second_->setObjectName("pickAxis");
    second_->setCheckable(true);
    constexpr int kNumbers = 4;
    for (int i = 0; i < kNumbers; ++i)
        numbers_.push_back({new QLabel(this), new NumberField(QString("stepNumber%1").arg(i), this)});
    angle_name_ = new QLabel(this);
    angle_ = new QDoubleSpinBox(this);
    angle_->setObjectName("stepAngle");
    angle_->setSuffix("°");
    angle_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    angle_->setMaximumWidth(110);
    grid_->addWidget(angle_name_, 0, 3, Qt::AlignRight);
    grid_->addWidget(angle_, 0, 4, Qt::AlignLeft);

    auto* end = new QHBoxLayout;
    end->setSpacing(8);
    accept_ = new QPushButton(this), drop_ = new QPushButton(this);
    accept_->setObjectName("acceptStep"), drop_->setObjectName("dropStep");
    accept_->setProperty("main", true);
    fact_ = new QPushButton(tr("Say as a fact…"), this);
    fact_->setObjectName("sayFact");
    fact_->setToolTip(tr("Not a step: what is known of the part beforehand. Every proposal keeps it"));
    auto* facts = new QMenu(fact_);
    for (auto [words, material] :
         {std::pair{tr("There is material"), true}, std::pair{tr("There is air"), false}})
        facts->addAction(words, this, [this, m = material] { emit said(m); });
    connect(fact_, &QPushButton::clicked, this,
            [this, facts] { facts->popup(fact_->mapToGlobal(QPoint(0, fact_->height()))); });
    message_ = new QLabel(this);
    message_->setObjectName("quiet");
    message_->setWordWrap(true);
    end->addWidget(accept_);
    end->addWidget(drop_);
    end->addWidget(fact_);
    end->addWidget(message_, 1);
    grid_->addLayout(end, 7, 0, 1, 5);
    grid_->setRowStretch(8, 1);
}

void StepEditor::connectAll() {
    const auto edited = [this] {
        if (quiet_) return;
        read();
        show();
        emit changed();
    };
    connect(kind_, &QComboBox::currentIndexChanged, this, [this](int k) {
        if (quiet_) return;
        const StepKind kind = static_cast<StepKind>(k);
        Step next = usualStep(kind);
        const bool areas = hasReach(kind) || kind == StepKind::revolve;
        if (areas && (hasReach(step_.kind) || step_.kind == StepKind::revolve))
            next = step_, next.kind = kind; // what was picked stays
        else if (onFaces(kind) && onFaces(step_.kind))
            next.faces = step_.faces;
        next.name = step_.name;
        step_ = next;
        show();
        emit wants(Wants::what);
        emit changed();
    });
    for (QComboBox* b : {operation_, reach_, hole_, which_, axis_of_, along_, outward_, inner_})
        connect(b, &QComboBox::currentIndexChanged, this, edited);
    for (BoundRow* b : {from_, to_}) connect(b, &BoundRow::edited, this, edited);
    for (const Number& n : numbers_) connect(n.field, &NumberField::edited, this, edited);
    connect(angle_, &QDoubleSpinBox::valueChanged, this, edited);
    connect(count_, &QSpinBox::valueChanged, this, edited);
    connect(note_, &QLineEdit::editingFinished, this, [this] {
        if (quiet_ || !note_->isModified() || note_->text().trimmed().isEmpty()) return;
        note_->setModified(false);
        const auto note = readHoleNote(note_->text().toStdString());
        if (!note) return setMessage(tr("That is no note of a hole that can be read"));
        step_.hole = note->shape;
        step_.reach = note->through || !note->shape.depth.given() ? Reach::through : Reach::between;
        show();
        emit changed();
    });
    for (auto [button, what] : {std::pair{what_, Wants::what}, std::pair{from_->pick(), Wants::from_mark},
                                std::pair{to_->pick(), Wants::to_mark}, std::pair{second_, Wants::second}})
        connect(button, &QPushButton::clicked, this, [this, w = what] { emit wants(w); });
    connect(of_, &QPushButton::clicked, this,
            [this] { names_->popup(of_->mapToGlobal(QPoint(0, of_->height()))); });
    connect(accept_, &QPushButton::clicked, this, &StepEditor::accepted);
    connect(drop_, &QPushButton::clicked, this, &StepEditor::dropped);
}

void StepEditor::setNames(const std::vector<std::string>& names) {
    names_->clear();
    connect(names_->addAction(tr("the whole solid")), &QAction::triggered, this, [this] {
        step_.of.clear();
        show();
        emit changed();
    });
    names_->addSeparator();
    for (const std::string& name : names) {
        QAction* a = names_->addAction(QString::fromStdString(name));
        a->setCheckable(true);
        a->setChecked(std::ranges::find(step_.of, name) != step_.of.end());
        connect(a, &QAction::triggered, this, [this, name](bool on) {
            std::erase(step_.of, name);
            if (on) step_.of.push_back(name);
            show();
            emit changed();
        });
    }
}

void StepEditor::readHole() {
    HoleShape& h = step_.hole;
    h.kind = static_cast<HoleKind>(hole_->currentIndex());
    if (h.kind == HoleKind::countersink) h.sink_angle = angle_->value() * kPi / 180;
    if (h.kind == HoleKind::tapered) h.taper = angle_->value() * kPi / 180;
    const bool ends = h.depth.given() || step_.to.kind != Bound::Kind::outermost;
    step_.reach = ends ? Reach::between : Reach::through;
}

void StepEditor::readRepeat() {
    Repetition& r = step_.repeat;
    r.kind = static_cast<Repetition::Kind>(along_->currentIndex());
    r.axis = static_cast<Axis>(axis_of_->currentIndex());
    r.second_axis = r.axis == Axis::x ? Axis::y : Axis::x;
    r.count = count_->value();
    if (r.kind == Repetition::Kind::grid && r.second_count < 2) r.second_count = 2;
    if (r.kind == Repetition::Kind::grid && !r.second_pitch.given()) r.second_pitch = r.pitch;
}

void StepEditor::read() {
    Step& s = step_;
    s.operation = static_cast<Operation>(operation_->currentIndex());
    if (hasReach(s.kind)) s.reach = static_cast<Reach>(reach_->currentIndex());
    from_->read(s.from), to_->read(s.to);
    const auto shown = shownNumbers(step_);
    for (size_t i = 0; i < shown.size(); ++i)
        if (numbers_[i].field->isVisibleTo(this)) *shown[i].second = numbers_[i].field->number();
    if (hasReach(s.kind) && s.reach == Reach::unequal) s.to.kind = Bound::Kind::value;
    if (s.kind == StepKind::revolve) s.angle = angle_->value() * kPi / 180;
    if (s.kind == StepKind::extrude) s.draft = angle_->value() * kPi / 180;
    if (s.kind == StepKind::hole) readHole();
    s.edges.which = static_cast<EdgeChoice::Which>(which_->currentIndex());
    s.outward = outward_->currentIndex() == 1, s.inner = inner_->currentIndex() == 1;
    if (s.kind == StepKind::mirror) s.across = static_cast<Axis>(axis_of_->currentIndex());
    if (s.kind == StepKind::pattern) readRepeat();
}

void StepEditor::showWhat() {
    const Step& s = step_;
    const bool edges = s.kind == StepKind::fillet || s.kind == StepKind::chamfer, repeat = repeats(s.kind);
    what_->setVisible(!edges && !repeat && !onFaces(s.kind) && s.kind != StepKind::facet);
    which_->setVisible(edges), of_->setVisible(repeat);
    // Where nothing is picked by a button, its place is free for the text.
    const bool button = what_->isVisibleTo(this) || edges || repeat;
    grid_->addWidget(what_text_, 1, button ? 2 : 1, 1, button ? 2 : 4);
    more_->setVisible((s.kind == StepKind::extrude || s.kind == StepKind::revolve) && !s.areas.empty());
    const auto picked = [&](size_t n) {
        return n == 0 ? tr("none picked") : tr("%1 in the %2 view").arg(n).arg(asText(s.view));
    };
    switch (s.kind) {
    case StepKind::extrude:
    case StepKind::revolve:
        what_name_->setText(tr("Areas")), what_->setText(tr("Pick areas")),
            what_text_->setText(picked(s.areas.size()));
        return;
    case StepKind::hole:
        what_name_->setText(tr("Circles")), what_->setText(tr("Pick circles"));
        return what_text_->setText(picked(s.places.size()));
    case StepKind::wall:
    case StepKind::rib:
    case StepKind::slope:
        what_name_->setText(tr("Lines")), what_->setText(tr("Pick lines")),
            what_text_->setText(picked(s.places.size()));
        return;
    case StepKind::facet:
        what_name_->setText(tr("Plane"));
        return what_text_->setText(s.corners.size() < 3
                                       ? tr("%1 of 3 corners; click them in the box").arg(s.corners.size())
                                       : tr("through 3 corners"));
    case StepKind::fillet:
    case StepKind::chamfer:
        what_name_->setText(tr("Edges"));
        which_->setCurrentIndex(static_cast<int>(s.edges.which));
        return what_text_->setText(s.edges.which != EdgeChoice::Which::picked ? QString()
                                   : s.edges.picks.empty()                    ? tr("click edges in the box")
                                                           : tr("%1 chosen").arg(s.edges.picks.size()));
    case StepKind::shell:
        what_name_->setText(tr("Open"));
        return what_text_->setText(s.faces.empty() ? tr("click faces in the box; none: closed")
                                                   : tr("%1 faces left open").arg(s.faces.size()));
    case StepKind::thicken:
    case StepKind::lip:
    case StepKind::flange:
    case StepKind::tilt:
        what_name_->setText(tr("Faces"));
        return what_text_->setText(s.faces.empty() ? tr("click faces in the box")
                                                   : tr("%1 chosen").arg(s.faces.size()));
    case StepKind::mirror:
    case StepKind::pattern: {
        what_name_->setText(tr("Of"));
        QStringList names;
        for (const std::string& n : s.of) names << QString::fromStdString(n);
        of_->setText(names.empty()       ? tr("the whole solid")
                     : names.size() == 1 ? tr("1 step")
                                         : tr("%1 steps").arg(names.size()));
        return what_text_->setText(names.join(", "));
    }
    }
}

void StepEditor::showKindRow() {
    const Step& s = step_;
    const bool hole = s.kind == StepKind::hole, pattern = s.kind == StepKind::pattern,
               mirror = s.kind == StepKind::mirror;
    reach_->setVisible(hasReach(s.kind)), hole_->setVisible(hole), note_->setVisible(hole);
    const bool rim = s.kind == StepKind::lip || s.kind == StepKind::flange;
    outward_->setVisible(s.kind == StepKind::shell), inner_->setVisible(rim);
    along_->setVisible(pattern), count_->setVisible(pattern);
    axis_of_->setVisible(mirror || (pattern && onLines(s.repeat)));
    kind_name_->setVisible(hasReach(s.kind) || hole || pattern || mirror || rim || s.kind == StepKind::shell);
    kind_name_->setText(hasReach(s.kind)            ? tr("Reach")
                        : hole                      ? tr("Kind")
                        : s.kind == StepKind::shell ? tr("Wall")
                        : mirror || rim             ? tr("Along")
                                                    : tr("Copies"));
    if (hasReach(s.kind)) reach_->setCurrentIndex(static_cast<int>(s.reach));
    hole_->setCurrentIndex(static_cast<int>(s.hole.kind));
    outward_->setCurrentIndex(s.outward ? 1 : 0), inner_->setCurrentIndex(s.inner ? 1 : 0);
    along_->setCurrentIndex(static_cast<int>(s.repeat.kind));
    axis_of_->setCurrentIndex(static_cast<int>(mirror ? s.across : s.repeat.axis));
    count_->setValue(s.repeat.count);
}

void StepEditor::showSecond() {
    const Step& s = step_;
    const bool side = s.kind == StepKind::wall || s.kind == StepKind::rib || s.kind == StepKind::slope;
    const bool centre = s.kind == StepKind::pattern && !onLines(s.repeat);
    const bool tilt = s.kind == StepKind::tilt;
    const bool on = s.kind == StepKind::revolve || s.kind == StepKind::mirror || side || centre || tilt;
    second_name_->setVisible(on), second_->setVisible(on);
    if (!on) return;
    // Once it is picked, the button says what it is.
    const auto say = [this](const QString& name, bool picked, const QString& ask, const QString& what) {
        second_name_->setText(name);
        second_->setText(picked ? what : ask);
    };
    const auto in = [](const MarkRef& m) { return tr("in the %1 view").arg(asText(m.view)); };
    if (s.kind == StepKind::revolve)
        say(tr("Round"), s.axis.picked(), tr("Pick a centre line"),
            s.axis_upright ? tr("an upright line") : tr("a level line"));
    else if (s.kind == StepKind::mirror)
        say(tr("At"), s.axis.picked(), tr("Pick a line or point"), in(s.axis));
    else if (tilt)
        say(tr("Into"), !s.places.empty(), tr("Pick a line"),
            tr("a line of the %1 view").arg(asText(s.view)));
    else if (centre)
        say(tr("At"), s.repeat.at.picked(),
            s.repeat.kind == Repetition::Kind::circle ? tr("Pick the centre") : tr("Pick the curve"),
            in(s.repeat.at));
    else if (s.kind == StepKind::wall)
        say(tr("Side"), s.side != Vec2{}, tr("in the middle"), tr("the side picked"));
    else
        say(tr("Side"), s.side != Vec2{}, tr("Pick the side"), tr("the side picked"));
}

/// Numbers and the second thing to pick stand two in a row, in what order they come.
void StepEditor::placePairs() {
    constexpr int kFirstRow = 5;
    int at = 0;
    const auto place = [&](QWidget* name, QWidget* field) {
        if (!field->isVisibleTo(this)) return;
        grid_->addWidget(name, kFirstRow + at / 2, at % 2 ? 2 : 0, at % 2 ? Qt::AlignRight : Qt::Alignment());
        grid_->addWidget(field, kFirstRow + at / 2, at % 2 ? 3 : 1, 1, at % 2 ? 2 : 1, Qt::AlignLeft);
        ++at;
    };
    place(second_name_, second_);
    for (const Number& n : numbers_) place(n.name, n.field);
}

void StepEditor::showNumbers() {
    const auto shown = shownNumbers(step_);
    for (size_t i = 0; i < numbers_.size(); ++i) {
        const bool on = i < shown.size();
        numbers_[i].name->setVisible(on), numbers_[i].field->setVisible(on);
        if (!on) continue;
        numbers_[i].name->setText(shown[i].first);
        numbers_[i].field->setNumber(*shown[i].second);
        const StepNumber* n = shown[i].second;
        numbers_[i].field->setPlaceholderText(n == &step_.hole.diameter || n == &step_.hole.wide
                                                  ? lies(step_) ? tr("as its walls") : tr("as the circle")
                                              : n == &step_.hole.depth  ? tr("through")
                                              : n == &step_.second_size ? tr("the same")
                                                                        : QString());
    }
    const Step& s = step_;
    const bool sink = s.kind == StepKind::hole && s.hole.kind == HoleKind::countersink,
               taper = s.kind == StepKind::hole && s.hole.kind == HoleKind::tapered;
    const bool on = s.kind == StepKind::revolve || s.kind == StepKind::extrude || sink || taper;
    angle_name_->setVisible(on), angle_->setVisible(on);
    angle_name_->setText(s.kind == StepKind::extrude   ? tr("Sides lean")
                         : s.kind == StepKind::revolve ? tr("By")
                                                       : tr("Angle"));
    if (s.kind == StepKind::extrude)
        angle_->setRange(-80, 80), angle_->setValue(s.draft * 180 / kPi);
    else if (s.kind == StepKind::revolve)
        angle_->setRange(0.01, 360), angle_->setValue(s.angle * 180 / kPi);
    else
        angle_->setRange(taper ? 0 : 1, 179),
            angle_->setValue((taper ? s.hole.taper : s.hole.sink_angle) * 180 / kPi);
}

void StepEditor::show() {
    quiet_ = true;
    const Step& s = step_;
    kind_->setCurrentIndex(static_cast<int>(s.kind));
    operation_->setCurrentIndex(static_cast<int>(s.operation));
    operation_->setVisible(hasOperation(s.kind));
    const bool both = s.reach == Reach::both, unequal = s.reach == Reach::unequal;
    const bool ends = hasReach(s.kind) && s.reach != Reach::through;
    from_->show(both || unequal           ? tr("Middle")
                : s.kind == StepKind::rib ? tr("Middle")
                                          : tr("From"),
                s.from, ends || s.kind == StepKind::rib);
    to_->show(both ? tr("Over") : tr("To"), s.to,
              (ends && !unequal && s.tops.empty()) || (s.kind == StepKind::hole && !s.hole.depth.given()));
    showWhat(), showKindRow(), showSecond(), showNumbers(), placePairs();
    accept_->setText(fresh_ ? tr("Add the step") : tr("Change the step"));
    drop_->setText(fresh_ ? tr("Start over") : tr("Leave as it was"));
    accept_->setEnabled(complete());
    fact_->setVisible(fresh_ && !s.areas.empty() && !wrongAsFact(s));
    quiet_ = false;
}

void StepEditor::setStep(const Step& s, bool fresh) {
    step_ = s;
    fresh_ = fresh;
    note_->clear();
    message_->clear();
    show();
}

void StepEditor::toggleArea(const ViewName& view, Vec2 seed, bool already) {
    if (step_.areas.empty()) step_.view = view;
    if (view != step_.view) return; // a stray click loses nothing
    if (already)
        dropArea(seed);
    else
        addArea(seed);
    show();
    emit changed();
}

/// Where areas have a reach each, a new one reaches as far as the last.
void StepEditor::addArea(Vec2 seed) {
    step_.areas.push_back(seed);
    if (!step_.tops.empty()) step_.tops.push_back(step_.tops.back());
}

void StepEditor::dropArea(Vec2 seed) {
    const auto at = std::ranges::find(step_.areas, seed);
    if (at == step_.areas.end()) return;
    if (!step_.tops.empty()) step_.tops.erase(step_.tops.begin() + (at - step_.areas.begin()));
    step_.areas.erase(at);
}

void StepEditor::takeAreas(const PickedAreas& areas) {
    if (step_.areas.empty()) step_.view = areas.view;
    if (areas.view != step_.view) return;
    const auto picked = [&](Vec2 p) { return std::ranges::find(step_.areas, p) != step_.areas.end(); };
    const bool all = std::ranges::all_of(areas.seeds, picked);
    for (Vec2 p : areas.seeds)
        if (all)
            dropArea(p);
        else if (!picked(p))
            addArea(p);
    show();
    emit changed();
}

void StepEditor::togglePlace(const MarkRef& place) {
    if (step_.places.empty()) step_.view = place.view, step_.axis = {};
    if (place.view != step_.view) return; // a stray click loses nothing
    if (!std::erase(step_.places, place.at)) step_.places.push_back(place.at);
    show();
    emit changed();
}

void StepEditor::togglePart(const PartPick& pick, bool face) {
    std::vector<PartPick>& picks = face ? step_.faces : step_.edges.picks;
    if (!std::erase(picks, pick)) picks.push_back(pick);
    if (!face) step_.edges.which = EdgeChoice::Which::picked;
    show();
    emit changed();
}

void StepEditor::takeMark(Wants what, const MarkRef& mark, bool upright) {
    if (what != Wants::second) {
        Bound& b = what == Wants::from_mark ? step_.from : step_.to;
        b.kind = Bound::Kind::mark, b.mark = mark;
    } else if (step_.kind == StepKind::revolve || step_.kind == StepKind::mirror)
        step_.axis = mark, step_.axis_upright = upright;
    else if (step_.kind == StepKind::pattern)
        step_.repeat.at = mark;
    else if (step_.kind == StepKind::tilt)
        step_.view = mark.view, step_.places = {mark.at};
    else
        step_.side = mark.at;
    show();
    emit changed();
}

void StepEditor::takeCorner(Vec3 place) {
    if (!std::erase(step_.corners, place)) {
        if (step_.corners.size() < 3)
            step_.corners.push_back(place);
        else
            step_.taken = place;
    }
    show();
    emit changed();
}

bool StepEditor::takeFace(const PartPick& pick) {
    for (Bound* b : {&step_.from, &step_.to}) {
        if (b->kind != Bound::Kind::place || !pick.place) continue;
        b->place = *pick.place;
        show();
        emit changed();
        return true;
    }
    return false;
}

bool StepEditor::takesParts() const {
    return onFaces(step_.kind) || step_.kind == StepKind::fillet || step_.kind == StepKind::chamfer;
}

bool StepEditor::takesFaces() const {
    return onFaces(step_.kind);
}

void StepEditor::setLevels(const QStringList& names) {
    from_->setLevels(names), to_->setLevels(names);
    quiet_ = true;
    show();
}

void StepEditor::setTops(std::vector<Bound> tops) {
    step_.tops = std::move(tops);
    show();
    emit changed();
}

bool StepEditor::complete() const {
    return !missingIn(step_);
}

void StepEditor::setMessage(const QString& m) {
    message_->setText(m);
}

void StepEditor::setActive(Wants w) {
    what_->setChecked(w == Wants::what);
    from_->pick()->setChecked(w == Wants::from_mark);
    to_->pick()->setChecked(w == Wants::to_mark);
    second_->setChecked(w == Wants::second);
}

} // namespace prism::app
