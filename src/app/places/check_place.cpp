#include "app/places/check_place.h"

#include "app/sheet/sheet_canvas.h"
#include "core/diagnosing/repairing.h"

#include <QStackedWidget>

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
    const auto page = [&](const QString& name, const QString& text, const QString& tip, bool sizes) {
        QPushButton* b = action(name, text, tip);
        b->setCheckable(true);
        connect(b, &QPushButton::clicked, this, [this, sizes] { showSizes(sizes); });
        return b;
    };
    report_ = action("writeReport", tr("Write a report…"),
                     tr("What was found, decided, proved and measured, as a page: HTML or PDF"));
    connect(report_, &QPushButton::clicked, this, &CheckPlace::reportWanted);
    findings_button_ = page("showFindings", tr("Findings"), tr("What is wrong with the sheet"), false);
    sizes_button_ = page("showSizes", tr("Open sizes"),
                         tr("What the dimensions leave open, and what they say twice"), true);
    table_ = new RowTable("findingTable", {tr("Severity"), tr("View"), tr("Finding")}, {100, 80, 500}, this);
    panel_ = new FindingPanel(desk, this);
    auto* found = new QWidget(this);
    auto* both = new QHBoxLayout(found);
    both->setContentsMargins(0, 0, 0, 0);
    both->setSpacing(8);
    both->addWidget(table_, 1);
    both->addWidget(panel_);
    sizes_ = new SizePanel(desk, this);
    pages_ = new QStackedWidget(this);
    pages_->addWidget(found);
    pages_->addWidget(sizes_);
    body()->addWidget(pages_, 1);
    showSizes(false);
    connect(table_, &RowTable::rowChosen, this, &CheckPlace::choose);
    connect(table_, &RowTable::rowPointed, this, [this](int row) {
        desk_.session.setPointed(row < 0 || !ready() ? Marked{} : desk_.session.markedOf(findings()[row]));
    });
    connect(&desk_.session, &Session::diagnosed, this, &CheckPlace::refresh);
    connect(&desk_.session, &Session::sized, this, &CheckPlace::refreshSizes);
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
    if (sizes_button_->isChecked()) return;
    desk_.session.setChosen(desk_.session.markedOf(f));
    desk_.sheet.lookAt(f.at_sheet);
}

void CheckPlace::enter() {
    sizes_->setPlaying(sizes_button_->isChecked());
}

void CheckPlace::showSizes(bool on) {
    pages_->setCurrentIndex(on ? 1 : 0);
    findings_button_->setChecked(!on), sizes_button_->setChecked(on);
    all_->setVisible(!on);
    desk_.session.setChosen({});
    sizes_->setPlaying(on);
    if (!ready()) return;
    setLead(on ? sizes_->lead() : leadOfFindings());
    if (!on) choose(table_->currentRow());
}

void CheckPlace::refreshSizes() {
    sizes_->refresh();
    const Completeness* c = desk_.session.sizes();
    report_->setEnabled(c && desk_.session.diagnosis());
    sizes_button_->setText(c && !c->open.empty() ? tr("Open sizes (%1)").arg(c->open.size())
                                                 : tr("Open sizes"));
    if (sizes_button_->isChecked()) setLead(sizes_->lead());
}

void CheckPlace::leave() {
    sizes_->setPlaying(false);
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
        refreshSizes();
        return setLead(leadOfFindings());
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
    refreshSizes();
    const bool known = desk_.session.diagnosis() != nullptr;
    all_->setEnabled(known && repairs > 0);
    setLead(sizes_button_->isChecked() ? sizes_->lead() : leadOfFindings());
}

QString CheckPlace::leadOfFindings() const {
    if (!has(Stage::checks)) return tr("The views are still being put together");
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
    return desk_.session.diagnosis() ? found : tr("%1. Looking for the causes …").arg(found);
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
