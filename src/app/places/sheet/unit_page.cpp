#include "app/places/sheet/unit_page.h"

#include "core/views/by_hand.h"

namespace prism::app {

UnitPage::UnitPage(Desk desk, QWidget* parent) : Page(desk, parent) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(14);
    evidence_ = new RowTable("unitEvidence", {tr("What was seen"), tr("Speaks for"), tr("Weight"), tr("")},
                             {330, 90, 60, 80}, this);
    evidence_->setStretch(0);
    evidence_->setEmptyText(tr("Nothing in the file tells the unit."));
    row->addWidget(evidence_, 3);
    auto* side = new QVBoxLayout;
    auto* unitRow = new QHBoxLayout;
    unitRow->addWidget(new QLabel(tr("Unit of the sheet"), this));
    unit_ = new QComboBox(this);
    unit_->setObjectName("unitBox");
    unit_->addItems({"mm", "cm", "m", "inch", "foot"});
    unitRow->addWidget(unit_);
    unitRow->addStretch(1);
    side->addLayout(unitRow);
    scale_ = quietLabel();
    side->addWidget(scale_);
    auto* layoutRow = new QHBoxLayout;
    layout_label_ = new QLabel(tr("Read from"), this);
    layout_ = new QComboBox(this);
    layout_->setObjectName("layoutBox");
    layoutRow->addWidget(layout_label_);
    layoutRow->addWidget(layout_, 1);
    side->addLayout(layoutRow);
    as_picture_ = new QCheckBox(tr("Take the page as a scan"), this);
    as_picture_->setObjectName("pageAsPicture");
    side->addWidget(as_picture_);
    connect(as_picture_, &QCheckBox::clicked, this, [this](bool on) {
        desk_.session.change(tr("Page as a scan"), [on](Choices& c) { c.reading.page_as_picture = on; });
    });
    side->addSpacing(6);
    measured_ = new QLabel(this);
    measured_->setWordWrap(true);
    side->addWidget(measured_);
    auto* sayRow = new QHBoxLayout;
    should_ = new QLineEdit(this);
    should_->setObjectName("shouldBe");
    should_->setPlaceholderText(tr("its true length, as 120 or 4 3/4\""));
    say_ = button("sayLength", tr("It is this long"), tr("Set the scale of the sheet by this length"));
    sayRow->addWidget(should_, 1);
    sayRow->addWidget(say_);
    side->addLayout(sayRow);
    side->addStretch(1);
    row->addLayout(side, 2);
    connect(unit_, &QComboBox::activated, this, [this] {
        desk_.session.change(tr("Unit"),
                             [u = unit_->currentText().toStdString()](Choices& c) { c.views.unit = u; });
    });
    connect(layout_, &QComboBox::activated, this, [this](int i) {
        if (model().source->format == "PDF")
            desk_.session.change(tr("Page"), [i](Choices& c) { c.reading.page = i + 1; });
        else
            desk_.session.change(tr("Layout"), [l = layout_->currentData().toString().toStdString()](
                                                   Choices& c) { c.reading.layout = l; });
    });
    connect(should_, &QLineEdit::returnPressed, this, &UnitPage::say);
    connect(say_, &QPushButton::clicked, this, &UnitPage::say);
    connect(&desk_.session, &Session::chosenChanged, this, &UnitPage::showChosen);
}

void UnitPage::say() {
    NumberChoice typed;
    if (!ready()) return;
    const UnitEvidence& unit = model().views.unit;
    const bool read = takeTyped(typed, should_->text().toStdString(), unit.mm).has_value();
    const auto scale = scaleByLength(chosen_length_, unit, read ? typed.value.value_or(0) : 0);
    if (!scale) return measured_->setText(sentence(scale.error().message) + tr(", as 120, 12 cm or 4 3/4\""));
    desk_.session.change(tr("Scale by a known length"), [s = *scale](Choices& c) { c.views.scale = s; });
    should_->clear();
}

void UnitPage::showChosen() {
    if (!ready()) return;
    chosen_length_ = lengthOnSheet(*model().drawing, desk_.session.chosen().entities);
    const bool any = chosen_length_ > 0;
    should_->setEnabled(any), say_->setEnabled(any);
    const double shown = chosen_length_ / model().views.sheet_scale;
    measured_->setText(
        any ? tr("Chosen: %1 %2 on the sheet, taken as %3 %2")
                  .arg(chosen_length_, 0, 'f', 4)
                  .arg(QString::fromStdString(model().views.unit.used))
                  .arg(shown, 0, 'f', 4)
            : tr("Choose a line on the sheet to measure it; the longest known length tells best."));
}

void UnitPage::refresh() {
    const Model& m = model();
    std::vector<std::vector<Cell>> rows;
    for (const UnitHint& h : m.views.unit.hints)
        rows.push_back({Cell::of(sentence(h.words)), Cell::of(QString::fromStdString(h.unit)),
                        Cell::number(QString::number(h.weight)),
                        h.agrees ? Cell::state(theme::Glyph::good, tr("agrees"))
                                 : Cell::state(theme::Glyph::warning, tr("differs"))});
    evidence_->setRows(std::move(rows));
    unit_->setCurrentText(QString::fromStdString(m.views.unit.used));
    QString from =
        m.views.views.empty() ? tr("no view yet") : QString::fromStdString(m.views.views[0].scale_reason);
    if (desk_.session.choices().views.unit) from += tr("; unit chosen by hand");
    scale_->setText(tr("Scale %1, from %2").arg(m.views.sheet_scale, 0, 'g', 6).arg(from));
    layout_->clear();
    for (const std::string& l : m.source->layouts) {
        const QString name = QString::fromStdString(l);
        layout_->addItem(l == "Model" ? tr("The drawing itself") : name, name);
        layout_->setItemData(layout_->count() - 1, tr("\"%1\" in the file").arg(name), Qt::ToolTipRole);
    }
    layout_->setCurrentIndex(layout_->findData(QString::fromStdString(m.source->layout)));
    const bool several = m.source->layouts.size() > 1;
    layout_->setVisible(several), layout_label_->setVisible(several);
    as_picture_->setVisible(m.source->format == "PDF");
    as_picture_->setEnabled(m.source->pictures.empty() || desk_.session.choices().reading.page_as_picture);
    as_picture_->setChecked(!m.source->pictures.empty());
    showChosen();
}

QString UnitPage::label() const {
    return ready() ? tr("Unit  %1").arg(QString::fromStdString(model().views.unit.used)) : tr("Unit");
}

} // namespace prism::app
