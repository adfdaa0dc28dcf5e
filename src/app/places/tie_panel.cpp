#include "app/places/tie_panel.h"

#include "app/sheet/sheet_canvas.h"
#include "core/base/text_scanner.h"
#include "core/views/by_hand.h"

namespace prism::app {
namespace {

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

void TiePanel::picked(Vec2 at, int line) {
    const int view = viewAt(model().views, at, line);
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
    if (tool == Tool::zero)
        return desk_.session.change(tr("Zero"), [v = views[picks[0].view], at = picks[0].in_file](
                                                    Choices& c) { setZero(c.views, v, at); });
    TieSide a{views[picks.front().view].key, {}}, b{views[picks.back().view].key, {}};
    for (size_t i = 0; i < picks.size(); ++i)
        (i < picks.size() / 2 ? a : b).places.push_back(picks[i].in_file);
    const auto made = tiesBetween(model().views, a, b);
    if (!made) return desk_.sheet.setHint(sentence(made.error().message));
    desk_.session.change(tr("Tie by hand"), [ties = *made](Choices& c) {
        c.views.ties.insert(c.views.ties.end(), ties.begin(), ties.end());
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
            if (shows(v.role, axis))
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
