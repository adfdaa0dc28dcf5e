#include "app/places/missing_panel.h"

#include "core/drawing/length_text.h"

namespace prism::app {

MissingPanel::MissingPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(5);
    table_ =
        new RowTable("missingTable", {tr("View"), tr("Line"), tr("Missing"), tr("At")}, {60, 150, 130}, this);
    table_->setEmptyText(tr("The solid shows every line that was compared."));
    all->addWidget(table_, 1);
    auto* tools = new QHBoxLayout;
    suggest_ = new QPushButton(tr("Suggest a step that makes it"), this);
    suggest_->setObjectName("suggestForLine");
    suggest_->setToolTip(tr("Look for one step after which more of this line is there"));
    suggest_->setEnabled(false);
    tools->addWidget(suggest_);
    tools->addStretch(1);
    all->addLayout(tools);
    connect(table_, &RowTable::rowPointed, this, [this](int row) {
        Marked m;
        if (const auto e = entityAt(row)) m.entities.insert(*e);
        session_.setPointed(std::move(m));
    });
    connect(table_, &RowTable::rowChosen, this, [this](int row) {
        suggest_->setEnabled(row >= 0);
        if (const auto e = entityAt(row)) {
            Marked m;
            m.entities.insert(*e);
            session_.setChosen(std::move(m));
        }
    });
    const auto ask = [this] {
        if (const auto e = entityAt(table_->currentRow())) session_.suggest(e);
    };
    connect(suggest_, &QPushButton::clicked, this, ask);
    connect(table_, &RowTable::rowActivated, this, ask);
}

std::optional<int> MissingPanel::entityAt(int row) const {
    if (row < 0 || row >= count()) return std::nullopt;
    return lines_[static_cast<size_t>(row)].entity;
}

void MissingPanel::refresh() {
    lines_.clear();
    if (session_.hasSheet() && session_.model().has(Stage::solid)) lines_ = missingLines(session_.model());
    std::vector<std::vector<Cell>> rows;
    for (const MissingLine& l : lines_) {
        const UnitEvidence& unit = session_.model().views.unit;
        Cell view;
        view.tag = session_.model().views.views[static_cast<size_t>(l.view)].role;
        const auto text = [&](double v) { return QString::fromStdString(lengthText(v, unit, 3)); };
        rows.push_back({view, Cell::of(l.hidden ? tr("hidden line") : tr("outline")),
                        Cell::number(QString("%1 %2").arg(text(l.length), QString::fromStdString(unit.used))),
                        Cell::of(QString("%1, %2").arg(text(l.at.x), text(l.at.y)))});
    }
    table_->setRows(std::move(rows));
    suggest_->setEnabled(table_->currentRow() >= 0);
}

} // namespace prism::app
