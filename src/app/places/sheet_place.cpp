#include "app/places/sheet_place.h"

namespace prism::app {
namespace {

QStringList roleNames() {
    QStringList r;
    for (LineRole x :
         {LineRole::outline, LineRole::hidden, LineRole::centre, LineRole::dimension, LineRole::hatch,
          LineRole::border, LineRole::construction, LineRole::note, LineRole::unknown})
        r << nameOf(x);
    return r;
}

} // namespace

SheetPlace::SheetPlace(Desk desk, QWidget* parent) : Place(desk, parent) {
    QPushButton* all = action("allLayersOn", tr("All layers on"), tr("Switch every layer on"));
    QPushButton* part = action("partLayersOnly", tr("Part lines only"),
                               tr("Switch off every layer that holds no outline, hidden or centre lines"));
    auto* row = new QHBoxLayout;
    row->setSpacing(14);
    layers_ = new RowTable("layerTable",
                           {tr("Layer"), tr("Stands for"), tr("Lines"), tr("Dimensions"), tr("Line type")},
                           {190, 120, 60, 90, 110}, this);
    layers_->setStretch(0);
    row->addWidget(layers_, 3);
    auto* side = new QVBoxLayout;
    auto* unitRow = new QHBoxLayout;
    unitRow->addWidget(new QLabel(tr("Unit of the sheet"), this));
    unit_ = new QComboBox(this);
    unit_->setObjectName("unitBox");
    unit_->addItems({"mm", "cm", "m", "inch", "foot"});
    unitRow->addWidget(unit_);
    reason_ = new QLabel(this);
    reason_->setObjectName("quiet");
    reason_->setWordWrap(true);
    unitRow->addWidget(reason_, 1);
    side->addLayout(unitRow);
    left_out_ =
        new RowTable("leftOutTable", {tr("Set aside or not read"), tr("Count"), tr("Why")}, {170, 56}, this);
    side->addWidget(left_out_, 1);
    row->addLayout(side, 2);
    body()->addLayout(row, 1);

    connect(&layers_->rows(), &RowModel::ticked, this, [this](int row, int, bool on) {
        const std::string name = model().drawing->layers[row].name;
        desk_.session.change(on ? tr("Layer on") : tr("Layer off"),
                             [name, on](Choices& c) { c.layers.on[name] = on; });
    });
    connect(&layers_->rows(), &RowModel::edited, this, [this](int row, int, const QString& text) {
        const std::string name = model().drawing->layers[row].name;
        if (const auto role = lineRoleNamed(text.toStdString()))
            desk_.session.change(tr("Role of a layer"),
                                 [name, role](Choices& c) { c.layers.role[name] = *role; });
    });
    connect(layers_, &RowTable::rowPointed, this, [this](int row) {
        Marked m;
        if (row >= 0 && ready())
            for (const Entity& e : model().drawing->entities)
                if (e.layer == row) m.entities.insert(e.id);
        desk_.session.setPointed(std::move(m));
    });
    connect(all, &QPushButton::clicked, this, [this] {
        desk_.session.change(tr("All layers on"), [names = model().drawing->layers](Choices& c) {
            for (const Layer& l : names) c.layers.on[l.name] = true;
        });
    });
    connect(part, &QPushButton::clicked, this, [this] {
        std::set<int> keep;
        for (const Entity& e : model().drawing->entities) {
            const LineRole r = model().sheet.entity_roles[e.id];
            if (r == LineRole::outline || r == LineRole::hidden || r == LineRole::centre)
                keep.insert(e.layer);
        }
        for (const Dimension& d : model().drawing->dimensions) keep.insert(d.layer);
        desk_.session.change(tr("Part lines only"), [names = model().drawing->layers, keep](Choices& c) {
            for (size_t i = 0; i < names.size(); ++i)
                c.layers.on[names[i].name] = keep.contains(static_cast<int>(i));
        });
    });
    connect(unit_, &QComboBox::activated, this, [this] {
        desk_.session.change(tr("Unit"),
                             [u = unit_->currentText().toStdString()](Choices& c) { c.views.unit = u; });
    });
    setLead(tr("Open a drawing to begin"));
}

void SheetPlace::layersInto(RowTable& t) {
    const Model& m = model();
    std::vector<int> lines(m.drawing->layers.size()), dims(m.drawing->layers.size());
    for (const Entity& e : m.drawing->entities) ++lines[e.layer];
    for (const Dimension& d : m.drawing->dimensions) ++dims[d.layer];
    std::vector<std::vector<Cell>> rows;
    for (size_t i = 0; i < m.drawing->layers.size(); ++i) {
        const Layer& l = m.drawing->layers[i];
        Cell name = Cell::of(QString::fromStdString(l.name));
        name.checked = m.sheet.layer_on[i];
        name.tip = tr("Tick to show and use the layer");
        Cell role = Cell::of(nameOf(m.sheet.layer_roles[i]));
        role.editable = true, role.choices = roleNames();
        role.tip = m.sheet.layer_roles[i] == LineRole::unknown
                       ? tr("The name does not tell; each line goes by its line type. Double-click to say")
                       : tr("Double-click to change");
        rows.push_back({name, role, Cell::number(QString::number(lines[i])),
                        Cell::number(QString::number(dims[i])),
                        Cell::of(QString::fromStdString(l.line_type).toLower())});
    }
    t.setRows(std::move(rows));
}

void SheetPlace::leftOutInto(RowTable& t) {
    const Model& m = model();
    std::vector<std::vector<Cell>> rows;
    for (const NotRead& n : m.drawing->not_read)
        rows.push_back({Cell::state(theme::Glyph::warning, QString::fromStdString(n.type)),
                        Cell::number(QString::number(n.count)), Cell::of(sentence(n.reason))});
    std::map<std::string, int> repairs;
    for (const Repair& r : m.sheet.repairs) ++repairs[r.kind];
    for (const auto& [kind, n] : repairs)
        rows.push_back({Cell::of(sentence(kind)), Cell::number(QString::number(n)),
                        Cell::of(kind == "duplicate"   ? tr("Drawn twice; one copy is used")
                                 : kind == "contained" ? tr("Lies within a longer line")
                                                       : tr("Too short to be a line"))});
    for (const LeftOut& l : m.views.left_out)
        rows.push_back({Cell::of(sentence(l.what).replace('_', ' ')),
                        Cell::number(QString::number(l.entities.size())),
                        Cell::of(tr("Not part of a view"))});
    t.setRows(std::move(rows));
}

void SheetPlace::refresh() {
    const Model& m = model();
    left_out_->setEmptyText(tr("Everything in the file is used."));
    layersInto(*layers_);
    leftOutInto(*left_out_);
    unit_->setCurrentText(QString::fromStdString(m.views.unit.used));
    reason_->setText(sentence(m.views.unit.reason));
    int off = 0, lost = 0;
    for (bool on : m.sheet.layer_on) off += !on;
    for (const NotRead& n : m.drawing->not_read) lost += n.count;
    QString lead =
        tr("%1 read").arg(counted(static_cast<int>(m.drawing->entities.size()), tr("line"), tr("lines")));
    lead += lost ? tr(", %1 not read: see the list").arg(counted(lost, tr("thing"), tr("things")))
                 : tr("; everything in the file was read");
    if (off) lead += tr(". %1 off").arg(counted(off, tr("layer is"), tr("layers are")));
    setLead(lead);
}

PlaceState SheetPlace::state() const {
    if (!ready()) return {theme::Glyph::idle, tr("nothing open")};
    const bool lost = !model().drawing->not_read.empty();
    return {lost ? theme::Glyph::warning : theme::Glyph::good,
            tr("%1 lines").arg(model().drawing->entities.size())};
}

} // namespace prism::app
