#include "app/places/fold_place.h"

#include "app/box/box_canvas.h"
#include "app/places/navigation_dialog.h"
#include "app/sheet/sheet_canvas.h"

#include <QButtonGroup>

namespace prism::app {

FoldPlace::FoldPlace(Desk desk, QWidget* parent) : Place(desk, parent) {
    auto* row = new QHBoxLayout;
    row->setSpacing(14);
    row->addWidget(makeHinge(), 3);
    row->addWidget(makePages(), 10);
    body()->addLayout(row, 1);
    setLead(tr("Open a drawing to fold its views"));
}

QWidget* FoldPlace::makeHinge() {
    auto* w = new QWidget(this);
    auto* side = new QVBoxLayout(w);
    side->setContentsMargins(0, 0, 0, 0);
    side->setSpacing(7);
    auto* line = new QHBoxLayout;
    line->addWidget(new QLabel(tr("Flat"), w));
    hinge_ = new QSlider(Qt::Horizontal, w);
    hinge_->setObjectName("hingeSlider");
    hinge_->setAccessibleName(tr("Hinge"));
    hinge_->setRange(0, 1000);
    hinge_->setPageStep(100);
    hinge_->setSingleStep(20);
    hinge_->setValue(1000);
    line->addWidget(hinge_, 1);
    line->addWidget(new QLabel(tr("Box"), w));
    side->addLayout(line);
    hinge_text_ = new QLabel(w);
    hinge_text_->setObjectName("quiet");
    side->addWidget(hinge_text_);
    const auto rowOf = [&](const QString& label) {
        auto* r = new QHBoxLayout;
        r->setSpacing(5);
        auto* l = new QLabel(label, w);
        l->setMinimumWidth(38);
        r->addWidget(l);
        side->addLayout(r);
        return r;
    };
    const auto button = [&](QHBoxLayout* r, const char* name, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, w);
        b->setObjectName(name);
        b->setToolTip(tip);
        b->setStyleSheet("padding-left: 7px; padding-right: 7px;");
        r->addWidget(b);
        return b;
    };
    auto* looks = rowOf(tr("Look"));
    for (auto [name, text, look] : {std::tuple{"lookCorner", tr("Corner"), BoxCanvas::Look::corner},
                                    std::tuple{"lookFront", tr("Front"), BoxCanvas::Look::front},
                                    std::tuple{"lookTop", tr("Top"), BoxCanvas::Look::top},
                                    std::tuple{"lookRight", tr("Right"), BoxCanvas::Look::right}})
        connect(button(looks, name, text, {}), &QPushButton::clicked, this,
                [this, l = look] { desk_.box.setLook(l); });
    looks->addStretch(1);
    auto* shown = rowOf(tr("Show"));
    for (auto [name, text, show, shown_now] :
         {std::tuple{"showPanes", tr("Panes"), &BoxCanvas::setShowPanes, &BoxCanvas::panesShown},
          std::tuple{"showSolid", tr("Solid"), &BoxCanvas::setShowSolid, &BoxCanvas::solidShown}}) {
        auto* b = button(shown, name, text, {});
        b->setCheckable(true);
        b->setChecked(true);
        connect(b, &QPushButton::toggled, &desk_.box, show);
        connect(&desk_.box, shown_now, b, &QPushButton::setChecked);
    }
    projectors_ =
        button(shown, "showProjectors", tr("Projectors"),
               tr("Point at a line: where the other views show its ends is joined through the box"));
    projectors_->setCheckable(true);
    projectors_->setChecked(true);
    connect(projectors_, &QPushButton::toggled, this, [this](bool on) {
        desk_.box.setShowProjectors(on);
        desk_.sheet.setShowProjectors(on);
    });
    shown->addStretch(1);
    auto* how = rowOf(tr("Fold"));
    one_by_one_ = button(how, "oneByOne", tr("One by one"), tr("The slider folds one pane after another"));
    one_by_one_->setCheckable(true);
    auto* keys =
        button(how, "navigationKeys", tr("Mouse and keys…"), tr("Which drags and keys turn, move and zoom"));
    how->addStretch(1);
    side->addStretch(1);
    connect(keys, &QPushButton::clicked, this, [this] { NavigationDialog(window()).exec(); });
    connect(one_by_one_, &QPushButton::toggled, this, [this](bool on) {
        desk_.box.setOneByOne(on);
        tellHinge();
    });
    connect(hinge_, &QSlider::valueChanged, this, [this](int v) { desk_.box.setHinge(v / 1000.0); });
    connect(&desk_.box, &BoxCanvas::hingeChanged, this, [this](double h) {
        hinge_->setValue(static_cast<int>(std::lround(h * 1000)));
        tellHinge();
    });
    tellHinge();
    return w;
}

QWidget* FoldPlace::makePages() {
    auto* w = new QWidget(this);
    auto* row = new QHBoxLayout(w);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(10);
    auto* names = new QVBoxLayout;
    names->setSpacing(4);
    auto* stack = new QStackedWidget(w);
    auto* tied = new QWidget(w);
    auto* both = new QHBoxLayout(tied);
    both->setContentsMargins(0, 0, 0, 0);
    both->setSpacing(14);
    ties_ = new RowTable(
        "tieTable",
        {tr("View"), tr("Tied to"), tr("Axis"), tr("Matched"), tr("In one only"), tr("Residual, mm")},
        {80, 80, 44, 64, 82, 94}, tied);
    ties_->setEmptyText(tr("Two views that share an axis are tied here."));
    ties_->setStretch(1);
    both->addWidget(ties_, 5);
    hand_ = new TiePanel(desk_, tied);
    both->addWidget(hand_, 5);
    panes_ = new PanePanel(desk_, w);
    stack->addWidget(tied);
    stack->addWidget(panes_);
    auto* group = new QButtonGroup(w);
    const std::pair<const char*, QString> pages[] = {{"tiesPage", tr("Ties")}, {"panesPage", tr("Panes")}};
    for (int i = 0; i < 2; ++i) {
        auto* b = new QPushButton(pages[i].second, w);
        b->setObjectName(pages[i].first);
        b->setCheckable(true);
        b->setChecked(i == 0);
        b->setMinimumWidth(70);
        b->setStyleSheet("text-align: left;");
        group->addButton(b, i);
        names->addWidget(b);
    }
    names->addStretch(1);
    connect(group, &QButtonGroup::idClicked, this, [this, stack](int i) {
        hand_->leave(), panes_->leave();
        stack->setCurrentIndex(i);
    });
    row->addLayout(names);
    row->addWidget(stack, 1);
    return w;
}

void FoldPlace::tellHinge() {
    const double h = desk_.box.hinge();
    hinge_text_->setText(
        one_by_one_ && one_by_one_->isChecked()
            ? tr("Hinge %1: the panes fold one after another").arg(h, 0, 'f', 2)
            : tr("Hinge %1: the panes are turned by %2°").arg(h, 0, 'f', 2).arg(h * 90, 0, 'f', 0));
}

void FoldPlace::enter() {
    desk_.sheet.setShowFoldLines(true);
    desk_.sheet.setShowProjectors(projectors_->isChecked());
    desk_.box.setShowProjectors(projectors_->isChecked());
}

void FoldPlace::leave() {
    hand_->leave(), panes_->leave();
    desk_.sheet.setShowFoldLines(false);
    desk_.sheet.setShowProjectors(false);
    desk_.box.setShowProjectors(false);
}

double FoldPlace::worst() const {
    double w = 0;
    for (const Tie& t : model().views.ties) w = std::max(w, t.residual);
    return w;
}

void FoldPlace::refresh() {
    const ViewSet& set = model().views;
    std::vector<std::vector<Cell>> rows;
    for (const Tie& t : set.ties) {
        Cell a = Cell::of(nameOf(set.views[t.a].role)), b = Cell::of(nameOf(set.views[t.b].role));
        a.tag = set.views[t.a].role, b.tag = set.views[t.b].role;
        Cell residual = Cell::number(QString::number(t.residual, 'f', 4));
        if (t.residual > 10 * model().figure.tolerances.same_model) residual.glyph = theme::Glyph::error;
        rows.push_back({a, b, Cell::of(nameOf(t.axis)),
                        t.by_hand ? Cell::number(tr("by hand")) : Cell::number(QString::number(t.matched)),
                        Cell::number(QString::number(t.unmatched)), residual});
    }
    ties_->setRows(std::move(rows));
    hand_->refresh(), panes_->refresh();
    const double w = worst();
    setLead(set.ties.empty() ? tr("One view alone cannot be folded into a box")
            : w > 10 * model().figure.tolerances.same_model
                ? tr("The views do not agree by up to %1 mm: see Check").arg(w, 0, 'f', 3)
                : tr("The views line up; drag the hinge to fold them round the part"));
}

PlaceState FoldPlace::state() const {
    if (!ready()) return {};
    if (model().views.ties.empty()) return {theme::Glyph::idle, tr("nothing to tie")};
    const double w = worst();
    if (w > 10 * model().figure.tolerances.same_model)
        return {theme::Glyph::error, tr("off by %1 mm").arg(w, 0, 'f', 2)};
    return {theme::Glyph::good,
            counted(static_cast<int>(model().views.ties.size()), tr("tie agrees"), tr("ties agree"))};
}

} // namespace prism::app
