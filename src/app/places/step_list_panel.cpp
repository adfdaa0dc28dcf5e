#include "app/places/step_list_panel.h"

#include "core/project/part_links.h"

namespace prism::app {
namespace {

enum Column { number, name, operation, what, note, state };

} // namespace

StepListPanel::StepListPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(5);
    table_ =
        new RowTable("stepTable", {tr("#"), tr("Name"), tr("Operation"), tr("What"), tr("Note"), tr("State")},
                     {52, 118, 92, 200, 80, 100}, this);
    table_->setStretch(what);
    table_->setWraps();
    table_->setReorderable(true);
    table_->setReturnActivates(true);
    table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    table_->setEmptyText(
        tr("No steps yet. Pick areas on the sheet and add a step, or let the program propose them all."));
    all->addWidget(table_, 1);
    auto* tools = new QHBoxLayout;
    auto tool = [&](const char* id, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(id);
        b->setToolTip(tip);
        tools->addWidget(b);
        return b;
    };
    edit_ = tool("editStep", tr("Edit"), tr("Change the step (Return); F2 or a double click renames it"));
    up_ = tool("stepUp", tr("Move up"), tr("Rows can be dragged as well"));
    down_ = tool("stepDown", tr("Move down"), tr("Rows can be dragged as well"));
    stop_ = tool("stopBehind", tr("Stop here"), tr("Build only up to this step, and add new ones behind it"));
    stop_->setCheckable(true);
    group_ = tool("groupStep", tr("Group…"),
                  tr("Put the step in a group, which can be folded away and switched off as one"));
    groups_ = new QMenu(group_);
    remove_ = tool("removeStep", tr("Remove"), tr("Take the step out of the list"));
    tools->addStretch(1);
    all->addLayout(tools);

    connect(group_, &QPushButton::clicked, this, [this] {
        fillGroups();
        groups_->popup(group_->mapToGlobal(QPoint(0, group_->height())));
    });
    connect(edit_, &QPushButton::clicked, this, [this] { emit editAsked(current()); });
    connect(up_, &QPushButton::clicked, this, [this] { move(-1); });
    connect(down_, &QPushButton::clicked, this, [this] { move(1); });
    connect(stop_, &QPushButton::clicked, this, [this](bool on) {
        changeStep(current(), on ? tr("Stop the build behind a step") : tr("Build to the end"),
                   [](Choices& c, int now) { toggleStop(c.steps, static_cast<size_t>(now)); });
    });
    connect(remove_, &QPushButton::clicked, this, [this] {
        const int step = current();
        changeStep(step, tr("Remove a step"),
                   [](Choices& c, int now) { prism::removeStep(c.steps, static_cast<size_t>(now)); });
        if (step >= 0) emit removed(step);
    });
    connect(table_, &RowTable::rowActivated, this, [this](int row) {
        const Row* r = rowAt(row);
        if (!r) return;
        if (!r->head()) return emit editAsked(r->step);
        const std::string& group = steps()[static_cast<size_t>(r->step)].group;
        if (!folded_.erase(group)) folded_.insert(group);
        refresh();
    });
    connect(table_, &RowTable::rowPointed, this, [this](int row) { // what it made lights up
        Marked m;
        if (const Row* r = rowAt(row); r && session_.hasSheet())
            for (int step = r->step; step < std::max(r->end, r->step + 1); ++step)
                for (int face : facesOfStep(session_.model(), step)) m.parts.insert(faceNumber(face));
        session_.setPointed(std::move(m));
    });
    connect(table_, &RowTable::rowChosen, this, &StepListPanel::enableTools);
    connect(table_, &RowTable::rowDropped, this, &StepListPanel::dropped);
    connect(&table_->rows(), &RowModel::ticked, this, [this](int row, int, bool on) { ticked(row, on); });
    connect(&table_->rows(), &RowModel::edited, this, &StepListPanel::edited);
    enableTools();
}

const StepListPanel::Row* StepListPanel::rowAt(int row) const {
    return row >= 0 && row < static_cast<int>(rows_.size()) ? &rows_[static_cast<size_t>(row)] : nullptr;
}

int StepListPanel::current() const {
    const Row* r = rowAt(table_->currentRow());
    return r && !r->head() ? r->step : -1;
}

void StepListPanel::changeStep(int step, const QString& label, std::function<void(Choices&, int)> edit) {
    if (step < 0 || step >= static_cast<int>(steps().size())) return;
    session_.changeIfThere(
        label, [step, seen = steps()[static_cast<size_t>(step)], edit = std::move(edit)](Choices& c) {
            const int now = whereIs(c.steps, seen, step);
            if (now >= 0) edit(c, now);
            return now >= 0;
        });
}

std::vector<Cell> StepListPanel::headCells(const Row& r) const {
    const Step& first = steps()[static_cast<size_t>(r.step)];
    Cell n = Cell::of(folded(first.group) ? QString::fromUtf8("▸") : QString::fromUtf8("▾"));
    n.checked = false;
    int failed = 0;
    for (int k = r.step; k < r.end; ++k) {
        const auto i = static_cast<size_t>(k);
        if (!steps()[i].off) n.checked = true;
        const auto& reports = session_.model().build.steps;
        failed += i >= reports.size() || !reports[i].ok;
    }
    n.tip = tr("Untick to leave the whole group out; double click folds it");
    Cell name = Cell::of(QString::fromStdString(first.group));
    name.editable = true;
    name.tip = tr("Double click or F2 renames the group");
    Cell state = failed ? Cell::state(theme::Glyph::error, tr("%1 failed").arg(failed)) : Cell{};
    return {n,  name, Cell::of(tr("group")), Cell::of(counted(r.end - r.step, tr("step"), tr("steps"))),
            {}, state};
}

std::vector<Cell> StepListPanel::stepCells(int step, bool grouped) const {
    const auto i = static_cast<size_t>(step);
    const Step& s = steps()[i];
    const auto& reports = session_.model().build.steps;
    Cell n = Cell::of((grouped ? QString("  ") : QString()) + QString::number(step + 1));
    n.checked = !s.off;
    n.tip = tr("Untick to leave the step out");
    Cell called = Cell::of(QString::fromStdString(s.name));
    called.editable = true;
    called.tip = tr("%1\nDouble click or F2 renames it").arg(called.text);
    const bool body = hasOwnBody(s.kind) && s.kind != StepKind::hole && s.kind != StepKind::facet;
    Cell op = Cell::of(body ? nameOf(s.operation) : nameOf(s.kind));
    if ((hasOwnBody(s.kind) || s.kind == StepKind::rib) && s.kind != StepKind::facet) op.tag = s.view.role;
    Cell note = Cell::of(QString::fromStdString(s.note));
    note.editable = true;
    note.tip = s.note.empty() ? tr("Double click to write a note") : note.text;
    const bool ok = i < reports.size() && reports[i].ok;
    Cell does = Cell::of(sentence(describe(s)));
    const bool built = !s.off && i < builtSteps(steps()), told = built && ok && !reports[i].message.empty();
    Cell st = told ? Cell::state(theme::Glyph::warning, tr("done"))
              : ok ? Cell::state(theme::Glyph::good, tr("done"))
                   : Cell::state(theme::Glyph::error, i < reports.size() ? tr("failed") : tr("not built"));
    // What there is to say of it takes more room than a state has.
    if (told || (!ok && i < reports.size())) does.text += "\n" + sentence(reports[i].message);
    if (!ok && session_.shown().last_forms.contains(s.name))
        st.tip =
            tr("Its last form stands grey in the box. Edit the step, take back what was changed last, or "
               "untick it.");
    if (s.off)
        st = Cell::state(theme::Glyph::idle, tr("off"));
    else if (i >= builtSteps(steps()))
        st = Cell::state(theme::Glyph::idle, tr("waits"));
    else if (s.stop)
        st.text = tr("stops here");
    return {n, called, op, does, note, st};
}

void StepListPanel::refresh() {
    const int n = static_cast<int>(steps().size());
    rows_.clear();
    std::vector<std::vector<Cell>> rows;
    for (int k = 0; k < n;) {
        const std::string& group = steps()[static_cast<size_t>(k)].group;
        int end = k + 1;
        while (!group.empty() && end < n && steps()[static_cast<size_t>(end)].group == group) ++end;
        if (!group.empty()) rows_.push_back({k, end}), rows.push_back(headCells(rows_.back()));
        for (; k < end; ++k)
            if (!folded(group)) rows_.push_back({k, k}), rows.push_back(stepCells(k, !group.empty()));
    }
    table_->setRows(std::move(rows));
    enableTools();
}

void StepListPanel::enableTools() {
    const int step = current(), n = session_.hasSheet() ? static_cast<int>(steps().size()) : 0;
    for (QPushButton* b : {edit_, remove_, group_}) b->setEnabled(step >= 0);
    up_->setEnabled(step > 0), down_->setEnabled(step >= 0 && step + 1 < n);
    const bool stops = step >= 0 && step < n && steps()[static_cast<size_t>(step)].stop;
    stop_->setEnabled(stops || (step >= 0 && step + 1 < n));
    stop_->setChecked(stops);
}

void StepListPanel::edited(int row, int column, const QString& text) {
    const Row* r = rowAt(row);
    if (!r) return;
    const std::string said = text.trimmed().toStdString();
    if (r->head()) {
        const std::string was = steps()[static_cast<size_t>(r->step)].group;
        if (said.empty()) return;
        if (folded_.erase(was)) folded_.insert(said);
        session_.change(tr("Rename a group"), [was, said](Choices& c) {
            for (Step& s : c.steps)
                if (s.group == was) s.group = said;
        });
    } else if (column == note)
        changeStep(r->step, tr("Note on a step"), [said](Choices& c, int now) { c.steps[now].note = said; });
    else
        rename(r->step, text.trimmed());
}

void StepListPanel::rename(int step, const QString& to) {
    std::vector<Step> tried = steps();
    const std::string said = to.toStdString();
    if (const auto done = renameStep(tried, static_cast<size_t>(step), said); !done) {
        emit session_.failed(tr("The step keeps its name"), QString::fromStdString(done.error().message));
        return;
    }
    changeStep(step, tr("Rename a step"), [said](Choices& c, int now) {
        if (!renameStep(c.steps, static_cast<size_t>(now), said)) return; // taken meanwhile: nothing changes
    });
}

void StepListPanel::ticked(int row, bool on) {
    const Row* r = rowAt(row);
    if (!r) return;
    const auto set = [on](Choices& c, int now) { c.steps[now].off = !on; };
    if (!r->head()) return changeStep(r->step, on ? tr("Step on") : tr("Step off"), set);
    session_.change(on ? tr("Group on") : tr("Group off"),
                    [on, group = steps()[static_cast<size_t>(r->step)].group](Choices& c) {
                        for (Step& s : c.steps)
                            if (s.group == group) s.off = !on;
                    });
}

/// A step or a whole group is put where it was dropped.
void StepListPanel::dropped(int row, int before) {
    const Row* r = rowAt(row);
    if (!r) return;
    const Row* next = rowAt(before);
    const int at = next ? next->step : static_cast<int>(steps().size());
    if (r->head()) {
        if (at >= r->step && at <= r->end) return;
        session_.change(tr("Move a group"), [from = r->step, end = r->end, at](Choices& c) {
            if (end > static_cast<int>(c.steps.size())) return;
            const auto b = c.steps.begin();
            if (at < from)
                std::rotate(b + at, b + from, b + end);
            else
                std::rotate(b + from, b + end, b + at);
        });
        return;
    }
    const int to = at > r->step ? at - 1 : at;
    changeStep(r->step, tr("Move a step"), [to](Choices& c, int now) {
        if (to < static_cast<int>(c.steps.size()))
            moveStep(c.steps, static_cast<size_t>(now), static_cast<size_t>(to));
    });
}

void StepListPanel::move(int by) {
    const int step = current(), to = step + by;
    if (step < 0 || to < 0 || to >= static_cast<int>(steps().size())) return;
    changeStep(step, tr("Move a step"), [by](Choices& c, int now) {
        if (now + by >= 0 && now + by < static_cast<int>(c.steps.size()))
            moveStep(c.steps, static_cast<size_t>(now), static_cast<size_t>(now + by));
    });
    table_->chooseRow(table_->currentRow() + by);
}

void StepListPanel::fillGroups() {
    QMenu* m = groups_;
    m->clear();
    const int step = current();
    if (step < 0) return;
    const std::string own = steps()[static_cast<size_t>(step)].group;
    std::set<std::string> known;
    for (const Step& s : steps())
        if (!s.group.empty()) known.insert(s.group);
    QString fresh;
    for (int n = 1; fresh.isEmpty() || known.contains(fresh.toStdString()); ++n)
        fresh = tr("group %1").arg(n);
    m->addAction(tr("New: %1").arg(fresh), this, [this, fresh] { setGroup(fresh); });
    for (const std::string& g : known)
        if (g != own)
            m->addAction(QString::fromStdString(g), this, [this, g] { setGroup(QString::fromStdString(g)); });
    if (!own.empty()) m->addAction(tr("No group"), this, [this] { setGroup({}); });
}

void StepListPanel::setGroup(const QString& group) {
    const std::string g = group.toStdString();
    changeStep(current(), tr("Group a step"), [g](Choices& c, int now) { c.steps[now].group = g; });
}

} // namespace prism::app
