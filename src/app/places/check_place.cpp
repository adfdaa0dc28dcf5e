#include "app/places/check_place.h"

#include "app/sheet/sheet_canvas.h"

namespace prism::app {
namespace {

theme::Glyph glyphOf(Severity s) {
    return s == Severity::error     ? theme::Glyph::error
           : s == Severity::warning ? theme::Glyph::warning
                                    : theme::Glyph::note;
}

} // namespace

CheckPlace::CheckPlace(Desk desk, QWidget* parent) : Place(desk, parent) {
    findings_ = new RowTable("findingTable", {tr("Severity"), tr("View"), tr("Finding"), tr("Repair")},
                             {100, 90, 600, 260}, this);
    findings_->setEmptyText(tr("Nothing found: sizes, features, texts, chains and outlines agree."));
    findings_->setStretch(2);
    body()->addWidget(findings_, 1);
    connect(findings_, &RowTable::rowChosen, this, [this](int row) {
        if (row < 0) return;
        const Finding& f = model().findings[row];
        desk_.session.setChosen(desk_.session.markedOf(f));
        desk_.sheet.lookAt(f.at_sheet);
    });
    connect(findings_, &RowTable::rowPointed, this, [this](int row) {
        desk_.session.setPointed(row < 0 || !ready() ? Marked{}
                                                     : desk_.session.markedOf(model().findings[row]));
    });
    setLead(tr("Open a drawing to check it"));
}

void CheckPlace::leave() {
    desk_.session.setChosen({});
}

int CheckPlace::count(Severity s) const {
    return static_cast<int>(std::count_if(model().findings.begin(), model().findings.end(),
                                          [s](const Finding& f) { return f.severity == s; }));
}

void CheckPlace::refresh() {
    if (!has(Stage::checks)) {
        findings_->setRows({});
        findings_->setEmptyText(tr("The checks are not computed yet."));
        return setLead(tr("The views are still being put together"));
    }
    findings_->setEmptyText(tr("Nothing found: sizes, features, texts, chains and outlines agree."));
    std::vector<std::vector<Cell>> rows;
    for (const Finding& f : model().findings) {
        Cell view;
        if (!f.views.empty()) view.tag = model().views.views[f.views.front()].role;
        QString tags;
        for (size_t i = 1; i < f.views.size(); ++i)
            if (const char t = model().views.views[f.views[i]].tag();
                !tags.contains(QChar(t)) && f.views[i] != f.views.front())
                tags += QString(", %1").arg(QChar(t));
        view.text = tags.mid(2);
        rows.push_back({Cell::state(glyphOf(f.severity), nameOf(f.severity)), view,
                        Cell::of(sentence(f.message)), Cell::of(sentence(f.repair))});
    }
    findings_->setRows(std::move(rows));
    const int e = count(Severity::error), w = count(Severity::warning);
    setLead(e ? tr("%1 make the solid wrong: choose one to see where")
                    .arg(counted(e, tr("error would"), tr("errors would")))
            : w ? tr("%1: choose one to see where").arg(counted(w, tr("warning"), tr("warnings")))
                : tr("The views and dimensions agree with each other"));
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
