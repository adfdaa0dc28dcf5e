#include "app/places/sheet/repairs_page.h"

#include "app/sheet/sheet_canvas.h"
#include "core/drawing/kind_words.h"

namespace prism::app {

RepairsPage::RepairsPage(Desk desk, QWidget* parent) : Page(desk, parent) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    auto* head = new QHBoxLayout;
    head->addWidget(new QLabel(tr("Close gaps up to"), this));
    gap_ = new QDoubleSpinBox(this);
    gap_->setObjectName("gapWidth");
    gap_->setRange(0, 50);
    gap_->setDecimals(2);
    gap_->setSingleStep(0.1);
    gap_->setSuffix(tr(" mm on the sheet"));
    gap_->setKeyboardTracking(false);
    gap_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    head->addWidget(gap_);
    head->addWidget(
        quietLabel(tr("Untick a kind, or a single repair, to take it back. Click one to see it.")), 1);
    all->addLayout(head);
    auto* row = new QHBoxLayout;
    row->setSpacing(14);
    kinds_ =
        new RowTable("repairKinds", {tr("Kind"), tr("Count"), tr("What was done")}, {190, 56, 250}, this);
    kinds_->setEmptyText(tr("Nothing needed repair."));
    singles_ =
        new RowTable("repairList", {tr("Lines"), tr("Size, mm on the sheet"), tr("Where, sheet units")},
                     {190, 150, 150}, this);
    singles_->setEmptyText(tr("Choose a kind on the left."));
    row->addWidget(kinds_, 1);
    row->addWidget(singles_, 1);
    all->addLayout(row, 1);
    connect(gap_, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        if (ready()) desk_.session.change(tr("Widest gap closed"), [mm](Choices& c) { c.repairs.gap = mm; });
    });
    connect(&kinds_->rows(), &RowModel::ticked, this, [this](int row, int, bool on) {
        const std::string kind = rows_[row];
        desk_.session.change(on ? tr("Repairs on") : tr("Repairs off"), [kind, on](Choices& c) {
            c.repairs.kinds[kind] = on;
            if (on)
                std::erase_if(c.repairs.off, [&](const std::string& k) { return k.starts_with(kind + ":"); });
        });
    });
    connect(&singles_->rows(), &RowModel::ticked, this, [this](int row, int, bool on) {
        const std::string key = model().sheet.repairs[repair_of_[row]].key;
        desk_.session.change(on ? tr("Repair on") : tr("Repair off"), [key, on](Choices& c) {
            if (on)
                c.repairs.off.erase(key);
            else
                c.repairs.off.insert(key);
        });
    });
    connect(kinds_, &RowTable::rowChosen, this, [this] {
        showSingles();
        markAll();
    });
    connect(singles_, &RowTable::rowPointed, this, [this](int r) { look(r, false); });
    connect(singles_, &RowTable::rowChosen, this, [this](int r) { look(r, true); });
}

void RepairsPage::showKinds() {
    const Model& m = model();
    std::map<std::string, std::pair<int, int>> count; // done, switched off
    for (const Repair& r : m.sheet.repairs) ++(r.on ? count[r.kind].first : count[r.kind].second);
    std::vector<std::vector<Cell>> rows;
    rows_.clear();
    if (!m.sheet.loose_ends.empty()) {
        rows.push_back({Cell::state(theme::Glyph::warning, tr("Loose ends")),
                        Cell::number(QString::number(m.sheet.loose_ends.size())),
                        Cell::of(tr("Meet nothing within the gap; see each one on the right"))});
        rows_.push_back({});
    }
    for (const RepairKind& k : repairKinds()) {
        const auto it = count.find(k.kind);
        if (it == count.end()) continue;
        Cell label = Cell::of(tr(k.label));
        label.checked = it->second.first > 0;
        const int off = it->second.second;
        Cell what =
            Cell::of(off ? tr("%1 taken back. %2").arg(off).arg(tr(k.consequence)) : tr(k.consequence));
        what.tip = what.text;
        rows.push_back({label, Cell::number(QString::number(it->second.first)), what});
        rows_.push_back(k.kind);
    }
    kinds_->setRows(std::move(rows));
    if (!rows_.empty() && kinds_->currentRow() < 0) kinds_->chooseRow(0);
}

void RepairsPage::showSingles() {
    repair_of_.clear();
    std::vector<std::vector<Cell>> rows;
    const int row = kinds_->currentRow();
    if (row < 0 || row >= static_cast<int>(rows_.size())) return singles_->setRows({});
    const Model& m = model();
    auto where = [&](Vec2 p) {
        const Vec2 q = m.sheet.to_file(p);
        return Cell::number(QString("%1, %2").arg(q.x, 0, 'f', 2).arg(q.y, 0, 'f', 2));
    };
    auto size = [&](double s) {
        return Cell::number(s > 0 ? QString::number(s * m.views.unit.mm, 'f', 3) : QString());
    };
    auto lineName = [&](int e) {
        const Entity& x = m.drawing->entities[e];
        return QString::fromStdString(inWords(x.type) + (x.handle.empty() ? "" : " " + x.handle));
    };
    if (rows_[row].empty())
        for (size_t i = 0; i < m.sheet.loose_ends.size(); ++i) {
            const LooseEnd& l = m.sheet.loose_ends[i];
            rows.push_back({Cell::of(lineName(l.entity)), size(l.gap), where(l.at)});
            repair_of_.push_back(i);
        }
    for (size_t i = 0; i < m.sheet.repairs.size(); ++i) {
        const Repair& r = m.sheet.repairs[i];
        if (r.kind != rows_[row]) continue;
        Cell name = Cell::of(r.entities.empty() ? tr("The whole sheet")
                             : r.entities.size() <= 2
                                 ? lineName(r.entities.front())
                                 : counted(static_cast<int>(r.entities.size()), tr("line"), tr("lines")));
        if (r.entities.size() == 2) name.text += tr(" and ") + lineName(r.entities.back());
        name.checked = r.on;
        rows.push_back({name,
                        r.kind == "sheet_turned" ? Cell::number(tr("%1°").arg(r.size * 180 / kPi, 0, 'f', 3))
                                                 : size(r.size),
                        where(r.at)});
        repair_of_.push_back(i);
    }
    singles_->setRows(std::move(rows));
}

void RepairsPage::markAll() {
    constexpr size_t kMost = 400; // more signs would only hide the sheet
    Marked m;
    const bool loose = kinds_->currentRow() >= 0 && rows_[kinds_->currentRow()].empty();
    for (size_t i : repair_of_)
        if (m.places.size() < kMost)
            m.places.push_back(loose ? model().sheet.loose_ends[i].at : model().sheet.repairs[i].at);
    desk_.session.setChosen(std::move(m));
}

void RepairsPage::look(int row, bool choose) {
    if (!ready() || row < 0 || row >= static_cast<int>(repair_of_.size()))
        return desk_.session.setPointed({});
    const CleanSheet& s = model().sheet;
    const bool loose = rows_[kinds_->currentRow()].empty();
    Marked m;
    const Vec2 at = loose ? s.loose_ends[repair_of_[row]].at : s.repairs[repair_of_[row]].at;
    m.places = {at};
    if (loose)
        m.entities = {s.loose_ends[repair_of_[row]].entity};
    else
        m.entities.insert(s.repairs[repair_of_[row]].entities.begin(),
                          s.repairs[repair_of_[row]].entities.end());
    if (choose) {
        desk_.session.setChosen(m);
        desk_.sheet.lookClose(at);
    } else
        desk_.session.setPointed(std::move(m));
}

void RepairsPage::refresh() {
    const QSignalBlocker quiet(gap_);
    gap_->setValue(desk_.session.choices().repairs.gap.value_or(0.5));
    showKinds();
    showSingles();
}

QString RepairsPage::label() const {
    if (!ready()) return tr("Repairs");
    const auto& r = model().sheet.repairs;
    const auto done = std::count_if(r.begin(), r.end(), [](const Repair& x) { return x.on; });
    return tr("Repairs  %1").arg(done);
}

} // namespace prism::app
