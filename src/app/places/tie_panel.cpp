#include "app/places/tie_panel.h"

#include "app/sheet/sheet_canvas.h"
#include "core/base/text_scanner.h"

namespace prism::app {
namespace {

/// The sheet axes, 0 right and 1 up, along which a view shows a model axis; -1 when it does not.
int shows(const View& v, Axis axis) {
    if (!isPrincipal(v.role)) return -1;
    const ViewAxes a = axesOf(v.role);
    return a.right == axis ? 0 : a.up == axis ? 1 : -1;
}

Cell viewCell(const View* v) {
    Cell c = Cell::of(v ? nameOf(v->role) : TiePanel::tr("gone"));
    if (v) c.tag = v->role;
    return c;
}

} // namespace

TiePanel::TiePanel(Desk desk, QWidget* parent) : QWidget(parent), desk_(desk) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(6);
    auto make = [&](const char* name, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setAccessibleName(text);
        b->setToolTip(tip);
        return b;
    };
    places_ =
        make("tiePlaces", tr("Tie two places…"), tr("A place in one view and its counterpart in another"));
    middles_ = make(
        "tieMiddles", tr("Tie two middles…"),
        tr("The middle of two places in one view and of two in another: an error is shared by both sides"));
    zero_ = make("pickZero", tr("Zero…"), tr("Pick the place whose coordinates are 0"));
    remove_ = make("dropTie", tr("Remove"), tr("The chosen tie no longer holds"));
    auto* row = new QHBoxLayout;
    row->setSpacing(5);
    for (auto* b : {places_, middles_, zero_, remove_}) row->addWidget(b);
    row->addStretch(1);
    all->addLayout(row);
    ties_ = new RowTable(
        "handTies", {tr("Tied by hand"), tr("To"), tr("Axis"), tr("Off, mm"), tr("By itself"), tr("Weight")},
        {94, 74, 44, 74, 74, 64}, this);
    ties_->setEmptyText(tr("Nothing is tied by hand; views line up where most of their coordinates match."));
    all->addWidget(ties_, 1);
    auto* governs = new QHBoxLayout;
    governs->setSpacing(6);
    governs->addWidget(new QLabel(tr("Governs"), this));
    for (Axis axis : {Axis::x, Axis::y, Axis::z}) {
        auto* box = new QComboBox(this);
        box->setObjectName(QString("governs") + nameOf(axis));
        box->setToolTip(tr("The view that stays where it is along %1; the others follow").arg(nameOf(axis)));
        governs->addWidget(new QLabel(nameOf(axis), this));
        governs->addWidget(box, 1);
        governing_[axis] = box;
        connect(box, &QComboBox::activated, this, [this, axis, box] {
            desk_.session.change(tr("Governing view"),
                                 [axis, key = box->currentData().toString().toStdString()](Choices& c) {
                                     c.views.governing[axis] = key;
                                 });
        });
    }
    all->addLayout(governs);
    connect(places_, &QPushButton::clicked, this, [this] { start(Tool::places); });
    connect(middles_, &QPushButton::clicked, this, [this] { start(Tool::middles); });
    connect(zero_, &QPushButton::clicked, this, [this] { start(Tool::zero); });
    connect(remove_, &QPushButton::clicked, this, [this] {
        const int row = ties_->currentRow();
        if (row < 0 || row >= static_cast<int>(desk_.session.choices().views.ties.size())) return;
        desk_.session.changeIfThere(tr("Tie removed"),
                                    [row, tie = desk_.session.choices().views.ties[row]](Choices& c) {
                                        const int now = whereIs(c.views.ties, tie, row);
                                        if (now >= 0) c.views.ties.erase(c.views.ties.begin() + now);
                                        return now >= 0;
                                    });
    });
    connect(ties_, &RowTable::rowChosen, this, [this](int row) {
        remove_->setEnabled(row >= 0);
        if (row < 0) return;
        Marked m;
        const HandTie& t = desk_.session.choices().views.ties[row];
        for (const TieSide* s : {&t.a, &t.b})
            for (Vec2 p : s->places) m.places.push_back(model().sheet.to_file.inverse()(p));
        desk_.session.setChosen(std::move(m));
    });
    connect(&ties_->rows(), &RowModel::edited, this, [this](int row, int, const QString& text) {
        const double weight = numberIn(text.toStdString()).value_or(0);
        if (row < 0 || row >= static_cast<int>(desk_.session.choices().views.ties.size())) return;
        desk_.session.changeIfThere(tr("Weight of a tie"),
                                    [row, weight, tie = desk_.session.choices().views.ties[row]](Choices& c) {
                                        const int now = whereIs(c.views.ties, tie, row);
                                        if (now >= 0 && weight > 0)
                                            c.views.ties[now].weight = std::clamp(weight, 1e-3, 1e3);
                                        return now >= 0;
                                    });
    });
    connect(&desk_.sheet, &SheetCanvas::placePicked, this, [this](Vec2 at, int line) {
        if (tool_ != Tool::none) picked(at, line);
    });
    connect(&desk_.sheet, &SheetCanvas::pickingLeft, this, [this] {
        if (tool_ != Tool::none) start(Tool::none);
    });
}

void TiePanel::start(Tool t) {
    if (!desk_.session.hasSheet()) return;
    tool_ = t;
    picks_.clear();
    desk_.sheet.setPicking(t == Tool::none ? SheetCanvas::Picking::lines : SheetCanvas::Picking::place);
    desk_.sheet.setSnapFrom({});
    showHint();
}

void TiePanel::showHint() {
    const QStringList places{tr("Pick a place in one view (Esc leaves)"),
                             tr("Pick its counterpart in another view (Esc leaves)")};
    const QStringList middles{
        tr("Pick the first of two places in one view (Esc leaves)"), tr("Pick the second one in this view"),
        tr("Pick the first of two places in another view"), tr("Pick the second one in that view")};
    const auto n = static_cast<qsizetype>(picks_.size());
    desk_.sheet.setHint(tool_ == Tool::none     ? QString()
                        : tool_ == Tool::zero   ? tr("Pick the place where zero is, in any view (Esc leaves)")
                        : tool_ == Tool::places ? places[n]
                                                : middles[n]);
}

int TiePanel::viewAt(Vec2 at, int line) const {
    if (line >= 0 && model().views.view_of_entity[line] >= 0) return model().views.view_of_entity[line];
    for (const View& v : model().views.views)
        if (v.box_sheet.grown(0.05 * v.box_sheet.diagonal()).contains(at)) return v.id;
    return -1;
}

void TiePanel::picked(Vec2 at, int line) {
    const int view = viewAt(at, line);
    if (view < 0 || !isPrincipal(model().views.views[view].role))
        return desk_.sheet.setHint(tr("That place is in none of the six principal views"));
    const size_t side = tool_ == Tool::middles ? 2 : 1;
    if (picks_.size() % side != 0 && picks_.back().view != view)
        return desk_.sheet.setHint(tr("Both places of a middle must lie in one view"));
    if (picks_.size() == side && picks_.front().view == view)
        return desk_.sheet.setHint(tr("That is the same view; pick in another one"));
    picks_.push_back({view, model().sheet.to_file(at)});
    if (tool_ == Tool::zero || picks_.size() == 2 * side) return finish();
    showHint();
}

void TiePanel::finish() {
    const std::vector<View>& views = model().views.views;
    const Tool tool = tool_;
    const std::vector<Pick> picks = picks_;
    start(Tool::none);
    if (tool == Tool::zero) {
        const TieSide side{views[picks[0].view].key, {picks[0].in_file}};
        const ViewAxes axes = axesOf(views[picks[0].view].role);
        return desk_.session.change(tr("Zero"), [side, axes](Choices& c) {
            c.views.zero[axes.right] = c.views.zero[axes.up] = side;
        });
    }
    const View &a = views[picks.front().view], &b = views[picks.back().view];
    const size_t side = picks.size() / 2;
    HandTie tie;
    tie.a.view = a.key, tie.b.view = b.key;
    for (size_t i = 0; i < picks.size(); ++i) (i < side ? tie.a : tie.b).places.push_back(picks[i].in_file);
    std::vector<HandTie> made;
    for (Axis axis : {Axis::x, Axis::y, Axis::z})
        if (shows(a, axis) >= 0 && shows(b, axis) >= 0) tie.axis = axis, made.push_back(tie);
    if (made.empty()) return desk_.sheet.setHint(tr("These two views share no axis"));
    desk_.session.change(tr("Tie by hand"), [made](Choices& c) {
        c.views.ties.insert(c.views.ties.end(), made.begin(), made.end());
    });
}

void TiePanel::refresh() {
    const ViewSet& set = model().views;
    const std::vector<HandTie>& ties = desk_.session.choices().views.ties;
    std::vector<std::vector<Cell>> rows;
    for (size_t i = 0; i < ties.size(); ++i) {
        const HandTieResult& r = set.hand_ties[i];
        Cell weight = Cell::number(QString::number(ties[i].weight));
        weight.editable = true;
        rows.push_back({viewCell(set.withKey(ties[i].a.view)), viewCell(set.withKey(ties[i].b.view)),
                        Cell::of(nameOf(ties[i].axis)),
                        Cell::number(r.found ? QString::number(r.residual, 'f', 4) : "–"),
                        Cell::number(r.found ? QString::number(r.by_itself, 'f', 4) : "–"), weight});
    }
    ties_->setRows(std::move(rows));
    remove_->setEnabled(ties_->currentRow() >= 0);
    for (auto& [axis, box] : governing_) {
        box->clear();
        for (const View& v : set.views)
            if (shows(v, axis) >= 0)
                box->addItem(theme::tagIcon(v.role), nameOf(v.role), QString::fromStdString(v.key));
        box->setEnabled(box->count() > 1);
        if (const auto g = set.governing.find(axis); g != set.governing.end())
            box->setCurrentIndex(box->findData(QString::fromStdString(set.views[g->second].key)));
    }
}

void TiePanel::leave() {
    if (tool_ != Tool::none) start(Tool::none);
}

} // namespace prism::app
