#include "app/places/fact_panel.h"

namespace prism::app {
namespace {

enum Column { name, said, what };

/// "2 areas of the top view, through", without the operation.
QString reachInWords(const Step& s) {
    return QString::fromStdString(describe(s));
}

} // namespace

FactPanel::FactPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(5);
    table_ = new RowTable("factTable", {tr("Name"), tr("There is"), tr("Where")}, {150, 110}, this);
    table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    table_->setEmptyText(
        tr("No facts yet. Where the views leave something open, pick areas, say how far they "
           "reach, and press \"Say as a fact\": every proposal keeps it."));
    all->addWidget(table_, 1);
    auto* tools = new QHBoxLayout;
    remove_ = new QPushButton(tr("Remove"), this);
    remove_->setObjectName("removeFact");
    remove_->setEnabled(false);
    tools->addWidget(remove_);
    tools->addStretch(1);
    all->addLayout(tools);
    connect(remove_, &QPushButton::clicked, this, &FactPanel::remove);
    // Once the cell has been left: the rows are set anew.
    connect(&table_->rows(), &RowModel::edited, this, &FactPanel::edited, Qt::QueuedConnection);
    connect(table_, &RowTable::rowChosen, this, [this](int row) {
        remove_->setEnabled(row >= 0);
        emit shown(factAt(row));
    });
}

std::optional<Step> FactPanel::factAt(int row) const {
    if (row < 0 || row >= count()) return std::nullopt;
    return session_.choices().facts[static_cast<size_t>(row)];
}

void FactPanel::refresh() {
    std::vector<std::vector<Cell>> rows;
    for (const Step& s : session_.choices().facts) {
        Cell called = Cell::of(QString::fromStdString(s.name));
        called.editable = true;
        called.tip = tr("Double click or F2 renames it");
        Cell there = Cell::of(s.operation == Operation::add ? tr("material") : tr("air"));
        there.choices = {tr("material"), tr("air")};
        there.editable = true;
        Cell where = Cell::of(reachInWords(s));
        where.tag = s.view.role;
        rows.push_back({called, there, where});
    }
    table_->setRows(std::move(rows));
    remove_->setEnabled(table_->currentRow() >= 0);
}

void FactPanel::add(Step areas, bool material) {
    areas.operation = material ? Operation::add : Operation::cut;
    session_.change(tr("Say a fact"), [areas](Choices& c) {
        Step fact = areas;
        fact.group.clear(), fact.off = fact.stop = false;
        for (int n = 1;; ++n) { // a name of its own
            fact.name = "fact " + std::to_string(n);
            if (std::ranges::find(c.facts, fact.name, &Step::name) == c.facts.end()) break;
        }
        c.facts.push_back(fact);
    });
}

void FactPanel::edited(int row, int column, const QString& text) {
    const auto was = factAt(row);
    if (!was) return;
    Step now = *was;
    if (column == name) {
        now.name = text.trimmed().toStdString();
        const auto& all = session_.choices().facts;
        if (now.name == was->name) return;
        if (now.name.empty() || std::ranges::find(all, now.name, &Step::name) != all.end()) {
            refresh();
            emit session_.failed(tr("The fact keeps its name"),
                                 tr("Another fact is called so, or it is empty"));
            return;
        }
    } else
        now.operation = text == tr("air") ? Operation::cut : Operation::add;
    session_.change(tr("Change a fact"),
                    [was = *was, now](Choices& c) { std::ranges::replace(c.facts, was, now); });
}

void FactPanel::remove() {
    if (const auto fact = factAt(table_->currentRow()))
        session_.change(tr("Remove a fact"), [fact](Choices& c) { std::erase(c.facts, *fact); });
}

} // namespace prism::app
