#include "app/places/level_panel.h"

#include "core/drawing/length_text.h"

namespace prism::app {
namespace {

enum Column { name, axis, at, used };

/// How many steps reach to a level.
int usesOf(const std::vector<Step>& steps, const std::string& level) {
    return static_cast<int>(std::ranges::count_if(steps, [&](const Step& s) {
        const auto at = [&](const Bound& b) { return b.kind == Bound::Kind::level && b.level == level; };
        return at(s.from) || at(s.to) || std::ranges::any_of(s.tops, at);
    }));
}

} // namespace

LevelPanel::LevelPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(5);
    table_ = new RowTable("levelTable", {tr("Name"), tr("Along"), tr("Above the low end"), tr("Used by")},
                          {170, 70, 170, 120}, this);
    table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    table_->setEmptyText(tr("No levels yet. A level is a floor or shoulder with a name that several steps "
                            "reach to."));
    all->addWidget(table_, 1);
    auto* tools = new QHBoxLayout;
    axis_ = new QComboBox(this);
    axis_->setObjectName("levelAxis");
    axis_->addItems({tr("along X"), tr("along Y"), tr("along Z")});
    axis_->setCurrentIndex(static_cast<int>(Axis::z));
    new_ = new QPushButton(tr("New level: pick a line or point"), this);
    new_->setObjectName("newLevel");
    new_->setCheckable(true);
    remove_ = new QPushButton(tr("Remove"), this);
    remove_->setObjectName("removeLevel");
    remove_->setToolTip(tr("Steps that reach to it keep reaching to its line"));
    tools->addWidget(axis_), tools->addWidget(new_), tools->addWidget(remove_);
    tools->addStretch(1);
    all->addLayout(tools);
    connect(new_, &QPushButton::clicked, this,
            [this] { emit pickAsked(static_cast<Axis>(axis_->currentIndex())); });
    connect(remove_, &QPushButton::clicked, this, &LevelPanel::remove);
    // Once the cell has been left: the rows are set anew.
    connect(&table_->rows(), &RowModel::edited, this, &LevelPanel::edited, Qt::QueuedConnection);
    const auto marked = [this](int row) {
        const LedgerEntry* e = row >= 0 && row < static_cast<int>(levels().size()) && session_.hasSheet()
                                   ? session_.model().ledger.named(levels()[static_cast<size_t>(row)].name)
                                   : nullptr;
        return e ? session_.markedOf(*e) : Marked{};
    };
    connect(table_, &RowTable::rowPointed, this,
            [this, marked](int row) { session_.setPointed(marked(row)); });
    connect(table_, &RowTable::rowChosen, this, [this, marked](int row) {
        remove_->setEnabled(row >= 0);
        if (row >= 0) session_.setChosen(marked(row));
    });
    remove_->setEnabled(false);
}

std::vector<Cell> LevelPanel::cellsOf(const PartLevel& level) const {
    const LedgerEntry* e = session_.model().ledger.named(level.name);
    const UnitEvidence& unit = session_.model().views.unit;
    Cell called = Cell::of(QString::fromStdString(level.name));
    called.editable = true;
    called.tip = tr("Double click or F2 renames it, here and in all that speaks of it");
    Cell stands = e && e->state != EntryState::loose
                      ? Cell::number(QString::fromStdString(lengthText(e->value, unit, 4) + " " + unit.used))
                      : Cell::state(theme::Glyph::loose, e ? sentence(e->why) : tr("not found"));
    stands.editable = e && e->state != EntryState::loose;
    stands.tip = tr("Type a value or a formula: the level and all that reaches to it move");
    const int uses = usesOf(session_.choices().steps, level.name);
    return {called, Cell::of(QString(nameOf(level.axis)).toUpper()), stands,
            Cell::of(uses == 0 ? tr("no step") : counted(uses, tr("step"), tr("steps")))};
}

void LevelPanel::refresh() {
    std::vector<std::vector<Cell>> rows;
    if (session_.hasSheet() && session_.model().has(Stage::figure))
        for (const PartLevel& l : levels()) rows.push_back(cellsOf(l));
    table_->setRows(std::move(rows));
    remove_->setEnabled(table_->currentRow() >= 0);
}

void LevelPanel::add(const MarkRef& mark) {
    PartLevel level{freshLevelName(session_.model().ledger), static_cast<Axis>(axis_->currentIndex()), mark};
    session_.change(tr("A new level"), [level](Choices& c) {
        if (std::ranges::find(c.levels, level.name, &PartLevel::name) == c.levels.end())
            c.levels.push_back(level);
    });
}

void LevelPanel::edited(int row, int column, const QString& text) {
    if (row < 0 || row >= static_cast<int>(levels().size())) return;
    const std::string was = levels()[static_cast<size_t>(row)].name;
    if (column == name)
        rename(was, text.trimmed().toStdString());
    else if (column == at)
        setHeight(was, text);
}

void LevelPanel::rename(const std::string& from, const std::string& to) {
    if (from == to) return;
    if (const auto wrong = wrongInName(to, session_.model().ledger)) {
        refresh();
        emit session_.failed(tr("The level keeps its name"), sentence(*wrong));
        return;
    }
    session_.change(tr("Rename a level"), [from, to](Choices& c) {
        renameLevel(c.levels, c.steps, c.numbers, from, to);
        renameLevelIn(c.facts, from, to);
    });
}

void LevelPanel::setHeight(const std::string& level, const QString& text) {
    const QString label = tr("Change %1").arg(QString::fromStdString(level));
    NumberChoice n;
    if (const auto it = session_.choices().numbers.find(level); it != session_.choices().numbers.end())
        n = it->second;
    if (const auto r = takeTyped(n, text.toStdString(), session_.model().views.unit.mm); !r) {
        refresh();
        emit session_.failed(label, sentence(r.error().message));
        return;
    }
    session_.change(label, [level, n](Choices& c) { c.numbers[level] = n; });
}

void LevelPanel::remove() {
    const int row = table_->currentRow();
    if (row < 0 || row >= static_cast<int>(levels().size())) return;
    session_.change(tr("Remove a level"), [level = levels()[static_cast<size_t>(row)]](Choices& c) {
        std::erase(c.levels, level);
        dropLevel(c.steps, level), dropLevel(c.facts, level);
        c.numbers.erase(level.name);
    });
}

} // namespace prism::app
