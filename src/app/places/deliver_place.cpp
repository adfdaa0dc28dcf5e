#include "app/places/deliver_place.h"

#include "app/session/own_materials.h"

#include <QLineEdit>
#include <QSignalBlocker>

namespace prism::app {

DeliverPlace::DeliverPlace(Desk desk, QWidget* parent) : Place(desk, parent) {
    QPushButton* save =
        action("saveProject", tr("Save the project…"), tr("Source drawing and all choices in one file"));
    export_ = action("exportStep", tr("Write STEP…"), tr("The solid as STEP (ISO 10303, AP214), millimetres"),
                     true);
    auto* row = new QHBoxLayout;
    row->setSpacing(14);
    proof_ = new RowTable("proofTable",
                          {tr("View"), tr("Matched"), tr("Missing"), tr("Extra"), tr("Missing, mm"),
                           tr("Extra, mm"), tr("Cut areas")},
                          {110, 80, 80, 70, 96, 84, 84}, this);
    proof_->setEmptyText(tr("The proof appears here as soon as there is a solid."));
    proof_->setStretch(0);
    row->addWidget(proof_, 3);
    auto* right = new QVBoxLayout;
    right->setSpacing(5);
    material_ = new QComboBox(this);
    material_->setObjectName("material");
    material_->setEditable(true);
    material_->setInsertPolicy(QComboBox::NoInsert);
    material_->setToolTip(
        tr("What the part is made of, to weigh it; or one of your own: name = density in kg/m³"));
    material_->lineEdit()->setPlaceholderText(tr("Material: choose one, or type name = kg/m³"));
    for (const Material& m : materials()) listMaterial(m, QString::fromStdString(m.standard));
    for (const Material& m : own_materials::all()) listMaterial(m, tr("Your own"));
    material_->setCurrentIndex(-1);
    forget_ = new QPushButton(tr("Forget"), this);
    forget_->setObjectName("forgetMaterial");
    forget_->setToolTip(tr("Take this material of your own off the list; the part keeps it"));
    auto* made_of = new QHBoxLayout;
    made_of->addWidget(material_, 1);
    made_of->addWidget(forget_);
    right->addLayout(made_of);
    measures_ = new RowTable("measureTable", {tr("The solid"), tr("Measured")}, {150, 220}, this);
    measures_->setStretch(0);
    right->addWidget(measures_, 1);
    row->addLayout(right, 2);
    body()->addLayout(row, 1);
    connect(material_->lineEdit(), &QLineEdit::editingFinished, this, &DeliverPlace::takeMaterial);
    connect(material_, &QComboBox::activated, this, &DeliverPlace::takeMaterial);
    connect(forget_, &QPushButton::clicked, this, &DeliverPlace::forgetMaterial);
    connect(save, &QPushButton::clicked, this, &DeliverPlace::saveWanted);
    connect(export_, &QPushButton::clicked, this, &DeliverPlace::exportWanted);
    setLead(tr("Open a drawing and build its solid first"));
}

/// The list is never emptied: it is being worked on when one is added to it.
void DeliverPlace::listMaterial(const Material& m, const QString& kind) {
    const QSignalBlocker quiet(material_);
    int row = material_->findText(QString::fromStdString(m.name), Qt::MatchFixedString);
    if (row < 0) row = material_->count(), material_->addItem(QString::fromStdString(m.name));
    material_->setItemData(row, tr("%1, %2 kg/m³").arg(kind).arg(m.density), Qt::ToolTipRole);
}

void DeliverPlace::takeMaterial() {
    if (!ready()) return;
    const std::string typed = material_->currentText().trimmed().toStdString();
    const auto m = typed.empty() ? std::nullopt : own_materials::named(typed);
    if (!typed.empty() && !m)
        return setLead(tr("Not a material of the list; your own is written as: name = kg/m³"));
    if (desk_.session.choices().material == m) return;
    // Of a name that ships, another density is for this part alone.
    if (m && m->standard.empty() && !materialNamed(m->name))
        own_materials::keep(*m), listMaterial(*m, tr("Your own"));
    desk_.session.change(tr("Material"), [m](Choices& c) { c.material = m; });
}

void DeliverPlace::forgetMaterial() {
    const auto& m = desk_.session.choices().material;
    if (!m) return;
    own_materials::forget(m->name);
    const QSignalBlocker quiet(material_);
    material_->removeItem(material_->findText(QString::fromStdString(m->name), Qt::MatchFixedString));
    refresh();
}

void DeliverPlace::refresh() {
    const auto& made_of = desk_.session.choices().material;
    const QString name =
        !made_of ? QString()
        : made_of->standard.empty()
            ? QString("%1 = %2").arg(QString::fromStdString(made_of->name)).arg(made_of->density)
            : QString::fromStdString(made_of->name);
    if (material_->currentText() != name) material_->setEditText(name);
    const auto own = own_materials::all();
    forget_->setEnabled(made_of && std::ranges::find(own, *made_of) != own.end());
    const Model& m = model();
    std::vector<std::vector<Cell>> rows;
    if (m.proof)
        for (const ViewProof& v : m.proof->views) {
            const QString name = QString::fromStdString(nameOf(v.name));
            Cell view = Cell::of(v.in_part ? tr("%1, in part").arg(name) : name);
            if (v.in_part) view.tip = tr("It shows the part in part only, and was compared there");
            view.tag = v.name.role;
            auto off = [](int n) {
                Cell c = Cell::number(QString::number(n));
                if (n) c.glyph = theme::Glyph::error;
                return c;
            };
            const int areas_off = static_cast<int>(v.areas_off.size());
            Cell areas =
                Cell::number(v.areas == 0 ? "–" : tr("%1 of %2").arg(v.areas - areas_off).arg(v.areas));
            if (areas_off) areas.glyph = theme::Glyph::error;
            areas.tip = tr("Closed areas that are hatched where the solid is cut, and only there");
            rows.push_back({view, Cell::number(QString::number(v.matched)), off(v.missing), off(v.extra),
                            Cell::number(QString::number(v.missing_length, 'f', 3)),
                            Cell::number(QString::number(v.extra_length, 'f', 3)), areas});
        }
    if (m.proof)
        for (const NotCompared& n : m.proof->not_compared) {
            Cell view = Cell::of(tr("%1, not compared").arg(nameOf(m.views.views[n.view].role)));
            view.tag = m.views.views[n.view].role;
            view.tip = sentence(n.reason);
            rows.push_back({view, Cell::number("–"), Cell::number("–"), Cell::number("–"), Cell::number("–"),
                            Cell::number("–"), Cell::number("–")});
        }
    proof_->setRows(std::move(rows));
    const SolidMeasure& s = m.build.measure;
    rows.clear();
    if (!m.build.shape.IsNull()) {
        auto row = [&](const QString& what, const QString& value) {
            rows.push_back({Cell::of(what), Cell::number(value)});
        };
        row(tr("Volume"), QString("%1 mm³").arg(s.volume, 0, 'f', 3));
        row(tr("Surface"), QString("%1 mm²").arg(s.area, 0, 'f', 3));
        row(tr("Overall size"), QString("%1 × %2 × %3 mm")
                                    .arg(s.hi.x - s.lo.x, 0, 'f', 3)
                                    .arg(s.hi.y - s.lo.y, 0, 'f', 3)
                                    .arg(s.hi.z - s.lo.z, 0, 'f', 3));
        if (const auto w = made_of ? weightOf(m.build.shape, *made_of) : std::nullopt) {
            row(tr("Mass"), QString("%1 kg").arg(w->mass, 0, 'f', 4));
            row(tr("Centre of gravity"), QString("%1, %2, %3 mm")
                                             .arg(w->centre.x, 0, 'f', 2)
                                             .arg(w->centre.y, 0, 'f', 2)
                                             .arg(w->centre.z, 0, 'f', 2));
            row(tr("Inertia X, Y, Z"), QString("%1, %2, %3 kg mm²")
                                           .arg(w->inertia[0][0], 0, 'f', 1)
                                           .arg(w->inertia[1][1], 0, 'f', 1)
                                           .arg(w->inertia[2][2], 0, 'f', 1));
        }
        row(tr("Faces"), QString::number(s.faces));
        row(tr("Sound"), s.valid ? tr("yes, checked") : tr("no: the solid is not valid"));
    }
    measures_->setRows(std::move(rows));
    export_->setEnabled(m.build.ok());
    if (m.build.shape.IsNull()) return setLead(tr("No solid yet: build one, or let the program propose it"));
    if (!m.build.ok()) return setLead(tr("The solid is not sound: look at the steps under Build"));
    if (!m.proof) return setLead(tr("The solid could not be compared with the sheet"));
    const QString says = QString::fromStdString(inWords(*m.proof));
    setLead(m.proof->proved() ? tr("Proved: %1 and no other").arg(says) : sentence(says.toStdString()));
}

PlaceState DeliverPlace::state() const {
    if (!ready()) return {};
    if (!has(Stage::solid)) return notYet();
    if (model().build.shape.IsNull()) return {theme::Glyph::idle, tr("no solid yet")};
    if (!model().build.ok() || !model().proof) return {theme::Glyph::error, tr("not sound")};
    const Proof& p = *model().proof;
    if (p.proved()) return {theme::Glyph::good, tr("proved")};
    if (p.clean())
        return {theme::Glyph::warning, tr("%1 of %2 views proved").arg(p.compared()).arg(p.total())};
    return {theme::Glyph::error,
            tr("%1 missing, %2 extra").arg(model().proof->missing).arg(model().proof->extra)};
}

} // namespace prism::app
