#include "app/places/step_editor.h"

namespace prism::app {
namespace {

QDoubleSpinBox* lengthBox(QWidget* parent, const QString& name) {
    auto* b = new QDoubleSpinBox(parent);
    b->setObjectName(name);
    b->setRange(0.001, 1e6);
    b->setDecimals(4);
    b->setValue(10);
    b->setSuffix(" mm");
    b->setButtonSymbols(QAbstractSpinBox::NoButtons);
    b->setKeyboardTracking(false);
    return b;
}

} // namespace

StepEditor::StepEditor(QWidget* parent) : QWidget(parent) {
    setObjectName("stepEditor");
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(5);
    grid->setColumnStretch(4, 1);

    kind_ = new QComboBox(this), operation_ = new QComboBox(this), reach_ = new QComboBox(this);
    kind_->setObjectName("stepKind"), operation_->setObjectName("stepOperation"),
        reach_->setObjectName("stepReach");
    kind_->addItems({tr("Extrude"), tr("Revolve")});
    operation_->addItems({tr("add"), tr("cut"), tr("intersect")});
    reach_->addItems({tr("from one end to the other"), tr("through the part"), tr("both sides of a middle")});
    grid->addWidget(new QLabel(tr("Step"), this), 0, 0);
    grid->addWidget(kind_, 0, 1);
    grid->addWidget(operation_, 0, 2);

    areas_ = new QPushButton(tr("Pick areas"), this);
    areas_->setObjectName("pickAreas");
    areas_->setCheckable(true);
    area_text_ = new QLabel(this);
    grid->addWidget(new QLabel(tr("Areas"), this), 1, 0);
    grid->addWidget(areas_, 1, 1);
    grid->addWidget(area_text_, 1, 2, 1, 3);

    reach_name_ = new QLabel(tr("Reach"), this);
    grid->addWidget(reach_name_, 2, 0);
    grid->addWidget(reach_, 2, 1, 1, 2);
    from_ = boundRow(grid, 3, "from", tr("From"), Wants::from_mark);
    to_ = boundRow(grid, 4, "to", tr("To"), Wants::to_mark);

    axis_name_ = new QLabel(tr("Round"), this);
    axis_ = new QPushButton(tr("Pick a centre line"), this);
    axis_->setObjectName("pickAxis");
    axis_->setCheckable(true);
    axis_text_ = new QLabel(this);
    grid->addWidget(axis_name_, 5, 0);
    grid->addWidget(axis_, 5, 1);
    grid->addWidget(axis_text_, 5, 2, 1, 3);
    angle_name_ = new QLabel(tr("By"), this);
    angle_ = new QDoubleSpinBox(this);
    angle_->setObjectName("stepAngle");
    angle_->setRange(0.01, 360);
    angle_->setValue(360);
    angle_->setSuffix("°");
    angle_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    grid->addWidget(angle_name_, 6, 0);
    grid->addWidget(angle_, 6, 1);

    auto* end = new QHBoxLayout;
    end->setSpacing(8);
    accept_ = new QPushButton(this), drop_ = new QPushButton(this);
    accept_->setObjectName("acceptStep"), drop_->setObjectName("dropStep");
    accept_->setProperty("main", true);
    message_ = new QLabel(this);
    message_->setObjectName("quiet");
    message_->setWordWrap(true);
    end->addWidget(accept_);
    end->addWidget(drop_);
    end->addWidget(message_, 1);
    grid->addLayout(end, 7, 0, 1, 5);
    grid->setRowStretch(8, 1);

    auto edited = [this] {
        if (quiet_) return;
        step_.kind = static_cast<StepKind>(kind_->currentIndex());
        step_.operation = static_cast<Operation>(operation_->currentIndex());
        step_.reach = static_cast<Reach>(reach_->currentIndex());
        step_.angle = angle_->value() * kPi / 180;
        readBound(from_, step_.from), readBound(to_, step_.to);
        show();
        emit changed();
    };
    for (QComboBox* b : {kind_, operation_, reach_, from_.kind, to_.kind})
        connect(b, &QComboBox::currentIndexChanged, this, edited);
    for (QDoubleSpinBox* b : {from_.value, to_.value, angle_})
        connect(b, &QDoubleSpinBox::valueChanged, this, edited);
    for (auto [button, what] : {std::pair{areas_, Wants::areas}, std::pair{from_.pick, Wants::from_mark},
                                std::pair{to_.pick, Wants::to_mark}, std::pair{axis_, Wants::axis}})
        connect(button, &QPushButton::clicked, this, [this, w = what] { emit wants(w); });
    connect(accept_, &QPushButton::clicked, this, &StepEditor::accepted);
    connect(drop_, &QPushButton::clicked, this, &StepEditor::dropped);
    setStep({}, true);
}

StepEditor::BoundRow StepEditor::boundRow(QGridLayout* grid, int row, const QString& object,
                                          const QString& name, Wants) {
    BoundRow r{new QLabel(name, this), new QComboBox(this), lengthBox(this, object + "Value"),
               new QPushButton(tr("Pick a line or point"), this), new QLabel(this)};
    r.kind->setObjectName(object + "Kind");
    r.kind->addItems({tr("the part's end"), tr("a mark in another view"), tr("a distance")});
    r.pick->setObjectName(object + "Pick");
    r.pick->setCheckable(true);
    grid->addWidget(r.name, row, 0);
    grid->addWidget(r.kind, row, 1);
    grid->addWidget(r.value, row, 2);
    grid->addWidget(r.pick, row, 2);
    grid->addWidget(r.text, row, 3, 1, 2);
    return r;
}

void StepEditor::readBound(const BoundRow& r, Bound& b) {
    b.kind = static_cast<Bound::Kind>(r.kind->currentIndex());
    b.value = r.value->value();
}

void StepEditor::showBound(const BoundRow& r, const Bound& b, bool visible) {
    r.name->setVisible(visible), r.kind->setVisible(visible);
    r.kind->setCurrentIndex(static_cast<int>(b.kind));
    if (b.value > 0) r.value->setValue(b.value);
    r.value->setVisible(visible && b.kind == Bound::Kind::value);
    r.pick->setVisible(visible && b.kind == Bound::Kind::mark);
    r.text->setVisible(visible && b.kind == Bound::Kind::mark);
    const bool picked = b.mark.picked();
    r.text->setText(picked ? tr("in the %1 view").arg(QString::fromStdString(nameOf(b.mark.view)))
                           : tr("not picked yet"));
}

void StepEditor::show() {
    quiet_ = true;
    kind_->setCurrentIndex(static_cast<int>(step_.kind));
    operation_->setCurrentIndex(static_cast<int>(step_.operation));
    reach_->setCurrentIndex(static_cast<int>(step_.reach));
    const bool extrude = step_.kind == StepKind::extrude;
    reach_name_->setVisible(extrude), reach_->setVisible(extrude);
    const bool between = extrude && step_.reach == Reach::between,
               both = extrude && step_.reach == Reach::both;
    showBound(from_, step_.from, between || both);
    showBound(to_, step_.to, between || both);
    from_.name->setText(both ? tr("Middle") : tr("From"));
    to_.name->setText(both ? tr("Over") : tr("To"));
    axis_name_->setVisible(!extrude), axis_->setVisible(!extrude), axis_text_->setVisible(!extrude);
    angle_name_->setVisible(!extrude), angle_->setVisible(!extrude);
    axis_text_->setText(!step_.axis.picked() ? tr("not picked yet")
                        : step_.axis_upright ? tr("an upright line")
                                             : tr("a level line"));
    area_text_->setText(step_.areas.empty() ? tr("none picked")
                                            : tr("%1 in the %2 view")
                                                  .arg(step_.areas.size())
                                                  .arg(QString::fromStdString(nameOf(step_.view))));
    accept_->setText(fresh_ ? tr("Add the step") : tr("Change the step"));
    drop_->setText(fresh_ ? tr("Start over") : tr("Leave as it was"));
    accept_->setEnabled(complete());
    quiet_ = false;
}

void StepEditor::setStep(const Step& s, bool fresh) {
    step_ = s;
    fresh_ = fresh;
    message_->clear();
    show();
}

void StepEditor::toggleArea(const ViewName& view, Vec2 seed, bool already) {
    if (view != step_.view) step_.areas.clear(), step_.view = view;
    if (already)
        std::erase(step_.areas, seed);
    else
        step_.areas.push_back(seed);
    show();
    emit changed();
}

void StepEditor::takeMark(Wants what, const MarkRef& mark, bool upright) {
    if (what == Wants::axis)
        step_.axis = mark, step_.axis_upright = upright;
    else {
        Bound& b = what == Wants::from_mark ? step_.from : step_.to;
        b.kind = Bound::Kind::mark, b.mark = mark;
    }
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
    areas_->setChecked(w == Wants::areas);
    from_.pick->setChecked(w == Wants::from_mark);
    to_.pick->setChecked(w == Wants::to_mark);
    axis_->setChecked(w == Wants::axis);
}

} // namespace prism::app
