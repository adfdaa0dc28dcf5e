#include "app/places/check_place.h"

#include "app/sheet/sheet_canvas.h"
#include "core/diagnosing/repairing.h"

namespace prism::app {
namespace {

theme::Glyph glyphOf(Severity s) {
    return s == Severity::error     ? theme::Glyph::error
           : s == Severity::warning ? theme::Glyph::warning
                                    : theme::Glyph::note;
}

} // namespace

CheckPlace::CheckPlace(Desk desk, QWidget* parent) : Place(desk, parent) {
    all_ =
        action("repairAll", tr("Make the first repair of each"),
               tr("Makes the likeliest repair of every finding that has one; one step of the history"), true);
    connect(all_, &QPushButton::clicked, this, &CheckPlace::repairAll);
    table_ = new RowTable("findingTable", {tr("Severity"), tr("View"), tr("Finding")}, {100, 80, 500}, this);
    panel_ = new FindingPanel(desk, this);
    auto* both = new QHBoxLayout;
    both->setSpacing(8);
    both->addWidget(table_, 1);
    both->addWidget(panel_);
    body()->addLayout(both, 1);
    connect(table_, &RowTable::rowChosen, this, &CheckPlace::choose);
    connect(table_, &RowTable::rowPointed, this, [this](int row) {
        desk_.session.setPointed(row < 0 || !ready() ? Marked{} : desk_.session.markedOf(findings()[row]));
    });
    connect(&desk_.session, &Session::diagnosed, this, &CheckPlace::refresh);
    setLead(tr("Open a drawing to check it"));
}

const std::vector<Finding>& CheckPlace::findings() const {
    const Diagnosis* d = desk_.session.diagnosis();
    return d ? d->findings : model().findings;
}

void CheckPlace::choose(int row) {
    if (row < 0 || !ready() || row >= static_cast<int>(findings().size())) return panel_->show(nullptr);
    const Finding& f = findings()[row];
    panel_->show(&f);
    desk_.session.setChosen(desk_.session.markedOf(f));
    desk_.sheet.lookAt(f.at_sheet);
}

void CheckPlace::leave() {
    desk_.session.setChosen({});
    desk_.sheet.setGhost({});
}

void CheckPlace::repairAll() {
    const Diagnosis* d = desk_.session.diagnosis();
    if (!d) return;
    std::vector<Change> changes;
    for (const auto& [finding, remedy] : firstRemedies(*d)) changes.push_back(remedy->change);
    desk_.session.change(tr("Make the first repair of each finding"), [changes](Choices& c) {
        for (const Change& x : changes) c = changed(std::move(c), x);
    });
}

int CheckPlace::count(Severity s) const {
    return static_cast<int>(std::ranges::count(findings(), s, &Finding::severity));
}

void CheckPlace::refresh() {
    if (!has(Stage::checks)) {
        table_->setRows({});
        panel_->show(nullptr);
        all_->setEnabled(false);
        table_->setEmptyText(tr("The checks are not computed yet."));
        return setLead(tr("The views are still being put together"));
    }
    table_->setEmptyText(tr("Nothing found: sizes, features, texts, chains and outlines agree."));
    std::vector<std::vector<Cell>> rows;
    int repairs = 0;
    for (const Finding& f : findings()) {
        Cell view;
        if (!f.views.empty()) view.tag = model().views.views[f.views.front()].role;
        QString tags;
        for (size_t i = 1; i < f.views.size(); ++i)
            if (const char t = model().views.views[f.views[i]].tag();
                !tags.contains(QChar(t)) && f.views[i] != f.views.front())
                tags += QString(", %1").arg(QChar(t));
        view.text = tags.mid(2);
        repairs += !f.remedies.empty() && !f.accepted;
        rows.push_back({f.accepted ? Cell::state(theme::Glyph::note, tr("left as it is"))
                                   : Cell::state(glyphOf(f.severity), nameOf(f.severity)),
                        view, Cell::of(sentence(f.message))});
    }
    table_->setRows(std::move(rows));
    choose(table_->currentRow());
    const bool known = desk_.session.diagnosis() != nullptr;
    all_->setEnabled(known && repairs > 0);
    const int e = count(Severity::error), w = count(Severity::warning),
              left = static_cast<int>(
                  std::ranges::count_if(findings(), [](const Finding&f) { return f.accepted.has_value(); }));
    const QString found = e ? tr("%1 make the solid wrong: choose one to see where, and what mends it")
                                  .arg(counted(e, tr("error would"), tr("errors would")))
                          : w ? tr("%1: choose one to see where, and what mends it")
                                    .arg(counted(w, tr("warning"), tr("warnings")))
                          : left ? tr("Nothing else was found; %1 left as it is")
                                       .arg(counted(left, tr("finding is"), tr("findings are")))
                                 : tr("The views and dimensions agree with each other");
    setLead(known ? found : tr("%1. Looking for the causes …").arg(found));
}

PlaceState CheckPlace::state() const {
    if (!ready()) return {};
    if (!has(Stage::checks)) return notYet();
    const int e = count(Severity::error), w = count(Severity::warning);
    if (e) return {theme::Glyph::error, counted(e, tr("error"), tr("errors"))};
    if (w) return {theme::Glyph::warning, counted(w, tr("warning"), tr("warnings"))};
    return {theme::Glyph::good, tr("views agree")};
}

} // namespace prism::app
