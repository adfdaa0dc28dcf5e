#include "app/places/drive_place.h"

namespace prism::app {
namespace {

theme::Glyph glyphOf(EntryState s) {
    switch (s) {
    case EntryState::drives:
        return theme::Glyph::drives;
    case EntryState::reports:
        return theme::Glyph::reports;
    case EntryState::loose:
        return theme::Glyph::loose;
    case EntryState::held:
        return theme::Glyph::held;
    case EntryState::clashes:
        return theme::Glyph::clashes;
    }
    return theme::Glyph::none;
}

QString sideText(MovingSide s, const LedgerEntry& e) {
    if (!e.along_axis) return {};
    const bool right = e.axis == Axis::x;
    switch (s) {
    case MovingSide::first:
        return right ? QObject::tr("the left end") : QObject::tr("the low end");
    case MovingSide::second:
        return right ? QObject::tr("the right end") : QObject::tr("the high end");
    case MovingSide::either:
        break;
    }
    return QObject::tr("whichever is free");
}

} // namespace

DrivePlace::DrivePlace(Desk desk, QWidget* parent) : Place(desk, parent) {
    QPushButton* reset =
        action("asDrawn", tr("All values as drawn"),
               tr("Take back every value, formula and hold; the sheet stands as it was drawn"));
    ledger_ = new RowTable("ledgerTable",
                           {tr("View"), tr("Name"), tr("On the sheet"), tr("Value or formula"), tr("Unit"),
                            tr("State"), tr("Held"), tr("What moves"), tr("Tolerance"), tr("Why")},
                           {52, 84, 96, 190, 48, 96, 50, 160, 96}, this);
    ledger_->setEmptyText(tr("The sheet has no dimensions."));
    body()->addWidget(ledger_, 1);
    connect(&ledger_->rows(), &RowModel::edited, this, &DrivePlace::edited);
    connect(&ledger_->rows(), &RowModel::ticked, this, [this](int row, int, bool on) {
        const LedgerEntry& e = model().ledger.entries[row];
        desk_.session.change(on ? tr("Hold %1").arg(QString::fromStdString(e.name))
                                : tr("Let %1 go").arg(QString::fromStdString(e.name)),
                             [name = e.name, on](Choices& c) { c.numbers[name].held = on; });
    });
    connect(ledger_, &RowTable::rowChosen, this, [this](int row) {
        if (row >= 0) desk_.session.setChosen(desk_.session.markedOf(model().ledger.entries[row]));
    });
    connect(ledger_, &RowTable::rowPointed, this, [this](int row) {
        desk_.session.setPointed(row < 0 || !ready() ? Marked{}
                                                     : desk_.session.markedOf(model().ledger.entries[row]));
    });
    connect(&desk_.session, &Session::chosenChanged, this, [this] { // a dimension chosen on a canvas
        const auto& dims = desk_.session.chosen().dimensions;
        if (dims.size() != 1 || !ready()) return;
        const auto& entries = model().ledger.entries;
        for (size_t i = 0; i < entries.size(); ++i)
            if (entries[i].dimension == *dims.begin() && ledger_->currentRow() != static_cast<int>(i))
                ledger_->chooseRow(static_cast<int>(i));
    });
    connect(reset, &QPushButton::clicked, this, [this] {
        desk_.session.change(tr("All values as drawn"), [](Choices& c) { c.numbers.clear(); });
    });
    setLead(tr("Open a drawing to see its numbers"));
}

void DrivePlace::leave() {
    desk_.session.setChosen({});
}

void DrivePlace::edited(int row, int column, const QString& text) {
    const LedgerEntry& e = model().ledger.entries[row];
    const QString label = tr("Change %1").arg(QString::fromStdString(e.name));
    if (column == moves) {
        const auto side = text == sideText(MovingSide::first, e)    ? MovingSide::first
                          : text == sideText(MovingSide::second, e) ? MovingSide::second
                                                                    : MovingSide::either;
        return desk_.session.change(
            label, [name = e.name, side](Choices& c) { c.numbers[name].moving_side = side; });
    }
    NumberChoice n;
    if (const auto it = desk_.session.choices().numbers.find(e.name);
        it != desk_.session.choices().numbers.end())
        n = it->second;
    const double unit = e.angular() ? 1 : model().views.unit.mm;
    if (auto r = takeTyped(n, text.toStdString(), unit); !r) {
        refresh();
        emit desk_.session.failed(label, sentence(r.error().message));
        return;
    }
    desk_.session.change(label, [name = e.name, n](Choices& c) { c.numbers[name] = n; });
}

std::vector<Cell> DrivePlace::rowOf(const LedgerEntry& e) const {
    const UnitEvidence& u = model().views.unit;
    Cell tag;
    if (e.view >= 0) tag.tag = model().views.views[e.view].role;
    const QString now =
        e.angular() ? QString::number(e.value, 'g', 8) : QString::fromStdString(lengthText(e.value, u, 4));
    Cell value = Cell::number(
        e.formula.empty() ? now : QString("%1 = %2").arg(QString::fromStdString(e.formula), now));
    value.editable = e.state != EntryState::loose;
    if (!e.formula.empty()) value.tip = QString::fromStdString(e.formula);
    Cell hold;
    hold.checked = e.state == EntryState::held;
    if (e.state == EntryState::loose) hold.checked.reset();
    Cell side = Cell::of(sideText(e.moving_side, e));
    if (e.along_axis) {
        side.editable = true;
        for (MovingSide s : {MovingSide::either, MovingSide::first, MovingSide::second})
            side.choices << sideText(s, e);
    }
    QString tol;
    if (e.plus != 0 || e.minus != 0)
        tol = e.plus == e.minus ? QString("± %1").arg(QString::fromStdString(lengthText(e.plus, u)))
                                : QString("+ %1 / − %2")
                                      .arg(QString::fromStdString(lengthText(e.plus, u)),
                                           QString::fromStdString(lengthText(e.minus, u)));
    return {tag,
            Cell::of(QString::fromStdString(e.name)),
            Cell::number(QString::fromStdString(e.text)),
            value,
            Cell::of(e.angular() ? "°" : QString::fromStdString(u.used)),
            Cell::state(glyphOf(e.state), nameOf(e.state)),
            hold,
            side,
            Cell::of(tol),
            Cell::of(sentence(e.why))};
}

void DrivePlace::refresh() {
    std::vector<std::vector<Cell>> rows;
    std::map<EntryState, int> count;
    for (const LedgerEntry& e : model().ledger.entries) rows.push_back(rowOf(e)), ++count[e.state];
    ledger_->setRows(std::move(rows));
    if (model().ledger.entries.empty()) return setLead(tr("The sheet has no dimensions to drive the solid"));
    QString lead = tr("%1 the solid")
                       .arg(counted(count[EntryState::drives] + count[EntryState::held], tr("number drives"),
                                    tr("numbers drive")));
    if (const int n = count[EntryState::reports])
        lead += ", " + counted(n, tr("only reports"), tr("only report"));
    if (const int n = count[EntryState::loose]) lead += ", " + counted(n, tr("is loose"), tr("are loose"));
    setLead(lead + tr(". Type a value or a formula"));
}

PlaceState DrivePlace::state() const {
    if (!ready()) return {};
    int drives = 0, loose = 0;
    for (const LedgerEntry& e : model().ledger.entries) {
        drives += e.state == EntryState::drives || e.state == EntryState::held;
        loose += e.state == EntryState::loose;
    }
    if (!model().trouble.empty()) return {theme::Glyph::clashes, tr("numbers clash")};
    return {loose                            ? theme::Glyph::warning
            : model().ledger.entries.empty() ? theme::Glyph::idle
                                             : theme::Glyph::good,
            loose ? tr("%1 drive, %2 loose").arg(drives).arg(loose) : tr("%1 drive").arg(drives)};
}

void DrivePlace::editDimension(int dimension) {
    const auto& entries = model().ledger.entries;
    for (size_t i = 0; i < entries.size(); ++i) {
        if (entries[i].dimension != dimension) continue;
        const QModelIndex cell = ledger_->rows().index(static_cast<int>(i), value);
        ledger_->setFocus();
        ledger_->setCurrentIndex(cell);
        ledger_->edit(cell);
        return;
    }
}

} // namespace prism::app
