#include "app/places/sheet/layers_page.h"

namespace prism::app {
namespace {

QStringList roleNames() {
    QStringList r;
    for (int i = 0; i <= static_cast<int>(LineRole::unknown); ++i) r << nameOf(static_cast<LineRole>(i));
    return r;
}

} // namespace

LayersPage::LayersPage(Desk desk, QWidget* parent) : Page(desk, parent) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    auto* head = new QHBoxLayout;
    filter_ = new QLineEdit(this);
    filter_->setObjectName("layerFilter");
    filter_->setPlaceholderText(tr("Show layers whose name has…"));
    filter_->setClearButtonEnabled(true);
    role_ = new QComboBox(this);
    role_->setObjectName("layerRoleFilter");
    role_->addItem(tr("of any role"));
    for (const QString& r : roleNames()) role_->addItem(r);
    auto* on = button("allLayersOn", tr("All shown on"), tr("Switch on every layer in the list below"));
    auto* off = button("allLayersOff", tr("All shown off"), tr("Switch off every layer in the list below"));
    auto* part = button("partLayersOnly", tr("Part lines only"),
                        tr("Switch off every layer that holds no outline, hidden or centre lines"));
    head->addWidget(filter_, 1);
    head->addWidget(role_);
    for (QPushButton* b : {on, off, part}) head->addWidget(b);
    all->addLayout(head);
    layers_ = new RowTable("layerTable",
                           {tr("Layer"), tr("Stands for"), tr("Because of"), tr("Lines"), tr("Dimensions"),
                            tr("Texts"), tr("Line type")},
                           {180, 110, 200, 60, 90, 60, 110}, this);
    layers_->setStretch(2);
    layers_->setEmptyText(tr("No layer fits the filter."));
    all->addWidget(layers_, 1);
    connect(filter_, &QLineEdit::textChanged, this, [this] { showRows(); });
    connect(role_, &QComboBox::currentIndexChanged, this, [this] { showRows(); });
    connect(on, &QPushButton::clicked, this, [this] { switchShown(true); });
    connect(off, &QPushButton::clicked, this, [this] { switchShown(false); });
    connect(part, &QPushButton::clicked, this, &LayersPage::partLinesOnly);
    connectTable();
}

void LayersPage::connectTable() {
    connect(&layers_->rows(), &RowModel::ticked, this, [this](int row, int, bool on) {
        const std::string name = model().drawing->layers[rows_[row]].name;
        desk_.session.change(on ? tr("Layer on") : tr("Layer off"),
                             [name, on](Choices& c) { c.layers.on[name] = on; });
    });
    connect(&layers_->rows(), &RowModel::edited, this, [this](int row, int, const QString& text) {
        const std::string name = model().drawing->layers[rows_[row]].name;
        if (const auto role = lineRoleNamed(text.toStdString()))
            desk_.session.change(tr("Role of a layer"),
                                 [name, role](Choices& c) { c.layers.role[name] = *role; });
    });
    connect(layers_, &RowTable::rowPointed, this, [this](int row) {
        Marked m;
        if (row >= 0 && ready())
            for (const Entity& e : model().drawing->entities)
                if (e.layer == rows_[row]) m.entities.insert(e.id);
        desk_.session.setPointed(std::move(m));
    });
}

bool LayersPage::shows(size_t layer) const {
    const QString name = QString::fromStdString(model().drawing->layers[layer].name);
    const bool role =
        role_->currentIndex() == 0 || role_->currentText() == nameOf(model().sheet.layer_roles[layer]);
    return role && name.contains(filter_->text().trimmed(), Qt::CaseInsensitive);
}

void LayersPage::switchShown(bool on) {
    std::vector<std::string> names;
    for (int l : rows_) names.push_back(model().drawing->layers[l].name);
    desk_.session.change(on ? tr("Layers on") : tr("Layers off"), [names, on](Choices& c) {
        for (const std::string& n : names) c.layers.on[n] = on;
    });
}

void LayersPage::partLinesOnly() {
    desk_.session.change(tr("Part lines only"), [on = partLayersOnly(*model().drawing, model().sheet)](
                                                    Choices& c) { c.layers.on = on; });
}

void LayersPage::showRows() {
    if (!ready()) return;
    const Model& m = model();
    const size_t n = m.drawing->layers.size();
    std::vector<int> lines(n), dims(n), texts(n);
    for (const Entity& e : m.drawing->entities) ++lines[e.layer];
    for (const Dimension& d : m.drawing->dimensions) ++dims[d.layer];
    for (const SheetText& t : m.drawing->texts) ++texts[t.layer];
    std::vector<std::vector<Cell>> rows;
    rows_.clear();
    for (size_t i = 0; i < n; ++i) {
        if (!shows(i)) continue;
        const Layer& l = m.drawing->layers[i];
        Cell name = Cell::of(QString::fromStdString(l.name));
        name.checked = m.sheet.layer_on[i];
        name.tip = m.sheet.layer_on[i] ? tr("On. Untick to leave the layer out")
                   : l.visible         ? tr("Switched off here. Tick to use it")
                                       : tr("Switched off in the file. Tick to use it all the same");
        Cell role = Cell::of(nameOf(m.sheet.layer_roles[i]));
        role.editable = true, role.choices = roleNames();
        role.tip = tr("Double-click to say what the layer stands for");
        Cell why = Cell::of(sentence(m.sheet.layer_reasons[i]));
        if (!m.sheet.layer_on[i])
            why.text += l.visible ? tr("; switched off by hand") : tr("; off in the file");
        rows.push_back({name, role, why, Cell::number(QString::number(lines[i])),
                        Cell::number(QString::number(dims[i])), Cell::number(QString::number(texts[i])),
                        Cell::of(QString::fromStdString(l.line_type).toLower())});
        rows_.push_back(static_cast<int>(i));
    }
    layers_->setRows(std::move(rows));
}

void LayersPage::refresh() {
    showRows();
}

QString LayersPage::label() const {
    return ready() ? tr("Layers  %1").arg(model().drawing->layers.size()) : tr("Layers");
}

} // namespace prism::app
