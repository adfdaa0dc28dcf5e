#include "app/places/reach_panel.h"

#include "core/base/text_scanner.h"
#include "core/drawing/length_text.h"
#include "core/project/area_picking.h"

namespace prism::app {
namespace {

enum Column { number, where, size, reach };

QString textOf(const Bound& b, const UnitEvidence& unit) {
    switch (b.kind) {
    case Bound::Kind::mark:
        return QObject::tr("a mark in the %1 view").arg(QString::fromStdString(nameOf(b.mark.view)));
    case Bound::Kind::value:
        return QString::fromStdString(b.value.formula.empty() ? lengthText(b.value, unit, 4)
                                                              : b.value.formula);
    case Bound::Kind::level:
        return QString::fromStdString(b.level);
    case Bound::Kind::place:
        return QObject::tr("a face in the box");
    case Bound::Kind::outermost:
        break;
    }
    return QObject::tr("the part's end");
}

} // namespace

ReachPanel::ReachPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(5);
    table_ = new RowTable("reachTable", {tr("#"), tr("Inside of it"), tr("Size"), tr("Reaches to")},
                          {40, 150, 120}, this);
    table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                            QAbstractItemView::AnyKeyPressed);
    table_->setEmptyText(tr("Pick the areas of an extrusion; then each may be given a reach of its own."));
    all->addWidget(table_, 1);
    auto* tools = new QHBoxLayout;
    own_ = new QPushButton(tr("A reach for each area"), this);
    own_->setObjectName("ownReaches");
    own_->setCheckable(true);
    own_->setToolTip(tr("Type distances, formulas or names of levels; or choose a row and click a line of "
                        "another view"));
    layer_ = new QPushButton(tr("Same for its layers"), this);
    layer_->setObjectName("sameForLayer");
    layer_->setToolTip(tr("All areas that are bordered by the same layers reach as far as this one"));
    tools->addWidget(own_), tools->addWidget(layer_);
    tools->addStretch(1);
    all->addLayout(tools);
    connect(own_, &QPushButton::clicked, this, &ReachPanel::toggled);
    connect(layer_, &QPushButton::clicked, this, &ReachPanel::sameForLayer);
    // Once the cell has been left: the rows are set anew.
    connect(
        &table_->rows(), &RowModel::edited, this,
        [this](int row, int, const QString& text) { edited(row, text); }, Qt::QueuedConnection);
}

std::vector<Cell> ReachPanel::cellsOf(size_t i) const {
    const Model& m = session_.model();
    const FigureView* v = m.drawn.viewNamed(step_.view);
    const Vec2 seed = step_.areas[i];
    Cell n = Cell::number(QString::number(i + 1)), at, size, to;
    n.tag = step_.view.role;
    at = Cell::of(QString("%1, %2").arg(QString::fromStdString(lengthText(seed.x, m.views.unit, 1)),
                                        QString::fromStdString(lengthText(seed.y, m.views.unit, 1))));
    for (const ClosedArea& a : m.areas.drawn)
        if (v && a.view == v->view && a.contains(seed))
            size = Cell::number(tr("%1 mm²").arg(a.area, 0, 'f', 1));
    to = Cell::of(step_.tops.empty() ? tr("as all") : textOf(step_.tops[i], m.views.unit));
    to.editable = !step_.tops.empty();
    return {n, at, size, to};
}

void ReachPanel::show(const Step& s) {
    step_ = s;
    const bool extrusion = s.kind == StepKind::extrude && s.reach == Reach::between;
    std::vector<std::vector<Cell>> rows;
    if (extrusion && session_.hasSheet() && session_.model().has(Stage::solid))
        for (size_t i = 0; i < s.areas.size(); ++i) rows.push_back(cellsOf(i));
    own_->setEnabled(!rows.empty());
    own_->setChecked(!s.tops.empty());
    layer_->setEnabled(!s.tops.empty() && s.tops.size() > 1);
    table_->setRows(std::move(rows));
    if (!s.tops.empty() && table_->currentRow() < 0) table_->chooseRow(0);
}

void ReachPanel::toggled(bool on) {
    // All begin with what they shared.
    emit changed(on ? std::vector<Bound>(step_.areas.size(), step_.to) : std::vector<Bound>{});
}

void ReachPanel::takeMark(const MarkRef& mark) {
    const int row = std::max(table_->currentRow(), 0);
    std::vector<Bound> tops = step_.tops;
    if (row >= static_cast<int>(tops.size())) return;
    Bound& b = tops[static_cast<size_t>(row)];
    b = {}, b.kind = Bound::Kind::mark, b.mark = mark;
    emit changed(tops);
    if (row + 1 < static_cast<int>(tops.size())) table_->chooseRow(row + 1);
}

void ReachPanel::edited(int row, const QString& text) {
    std::vector<Bound> tops = step_.tops;
    if (row < 0 || row >= static_cast<int>(tops.size())) return;
    const std::string said = text.trimmed().toStdString();
    const PartLevels& levels = session_.choices().levels;
    Bound b;
    if (std::ranges::find(levels, said, &PartLevel::name) != levels.end())
        b.kind = Bound::Kind::level, b.level = said;
    else if (const auto n = numberIn(said))
        b.kind = Bound::Kind::value, b.value = *n * session_.model().views.unit.mm;
    else if (!said.empty() && text.trimmed() != tr("the part's end"))
        b.kind = Bound::Kind::value, b.value = {0, said};
    if (text.trimmed() == textOf(tops[static_cast<size_t>(row)], session_.model().views.unit)) return;
    tops[static_cast<size_t>(row)] = b;
    emit changed(tops);
}

void ReachPanel::sameForLayer() {
    std::vector<Bound> tops = step_.tops;
    const int row = table_->currentRow();
    if (row < 0 || row >= static_cast<int>(tops.size())) return;
    const auto chosen = static_cast<size_t>(row);
    const std::vector<Vec2> like =
        areasLike(session_.model(), step_.view, {step_.areas[chosen]}, AreaLikeness::layer);
    const FigureView* v = session_.model().drawn.viewNamed(step_.view);
    for (size_t i = 0; i < tops.size(); ++i)
        for (const ClosedArea& a : session_.model().areas.drawn)
            if (v && a.view == v->view && a.contains(step_.areas[i]) &&
                std::ranges::any_of(like, [&](Vec2 p) { return a.contains(p); }))
                tops[i] = tops[chosen];
    emit changed(tops);
}

} // namespace prism::app
