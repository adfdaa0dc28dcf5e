#include "app/places/fold_place.h"

#include "app/box/box_canvas.h"

namespace prism::app {

FoldPlace::FoldPlace(Desk desk, QWidget* parent) : Place(desk, parent) {
    auto* row = new QHBoxLayout;
    row->setSpacing(14);
    auto* side = new QVBoxLayout;
    side->setSpacing(8);
    auto* line = new QHBoxLayout;
    line->addWidget(new QLabel(tr("Flat"), this));
    hinge_ = new QSlider(Qt::Horizontal, this);
    hinge_->setObjectName("hingeSlider");
    hinge_->setAccessibleName(tr("Hinge"));
    hinge_->setRange(0, 1000);
    hinge_->setPageStep(100);
    hinge_->setSingleStep(20);
    line->addWidget(hinge_, 1);
    line->addWidget(new QLabel(tr("Box"), this));
    side->addLayout(line);
    hinge_text_ = new QLabel(this);
    hinge_text_->setObjectName("quiet");
    side->addWidget(hinge_text_);
    auto* looks = new QHBoxLayout;
    looks->addWidget(new QLabel(tr("Look"), this));
    for (auto [name, text, look] : {std::tuple{"lookCorner", tr("Corner"), BoxCanvas::Look::corner},
                                    std::tuple{"lookFront", tr("Front"), BoxCanvas::Look::front},
                                    std::tuple{"lookTop", tr("Top"), BoxCanvas::Look::top},
                                    std::tuple{"lookRight", tr("Right"), BoxCanvas::Look::right}}) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        connect(b, &QPushButton::clicked, this, [this, l = look] { desk_.box.setLook(l); });
        looks->addWidget(b);
    }
    looks->addStretch(1);
    side->addLayout(looks);
    auto* shown = new QHBoxLayout;
    shown->addWidget(new QLabel(tr("Show"), this));
    for (auto [name, text, show] : {std::tuple{"showPanes", tr("Panes"), &BoxCanvas::setShowPanes},
                                    std::tuple{"showSolid", tr("Solid"), &BoxCanvas::setShowSolid}}) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setCheckable(true);
        b->setChecked(true);
        connect(b, &QPushButton::toggled, &desk_.box, show);
        shown->addWidget(b);
    }
    shown->addStretch(1);
    side->addLayout(shown);
    side->addStretch(1);
    row->addLayout(side, 3);
    ties_ = new RowTable(
        "tieTable",
        {tr("View"), tr("Tied to"), tr("Axis"), tr("Matched"), tr("In one only"), tr("Residual, mm")},
        {80, 80, 44, 70, 88, 100}, this);
    ties_->setEmptyText(tr("Two views that share an axis are tied here."));
    ties_->setStretch(1);
    row->addWidget(ties_, 5);
    hand_ = new TiePanel(desk, this);
    row->addWidget(hand_, 5);
    body()->addLayout(row, 1);
    connect(hinge_, &QSlider::valueChanged, this, [this](int v) { desk_.box.setHinge(v / 1000.0); });
    connect(&desk_.box, &BoxCanvas::hingeChanged, this, [this](double h) {
        hinge_->setValue(static_cast<int>(std::lround(h * 1000)));
        hinge_text_->setText(
            tr("Hinge %1: the panes are turned by %2°").arg(h, 0, 'f', 2).arg(h * 90, 0, 'f', 0));
    });
    hinge_->setValue(1000);
    hinge_text_->setText(tr("Hinge 1.00: the panes are turned by 90°"));
    setLead(tr("Open a drawing to fold its views"));
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
    hand_->refresh();
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
    return {theme::Glyph::good, tr("%1 ties agree").arg(model().views.ties.size())};
}

} // namespace prism::app
