#include "app/places/views_place.h"

#include "app/sheet/sheet_canvas.h"
#include "core/views/by_hand.h"

namespace prism::app {
namespace {

constexpr int kName = 1; ///< column

QStringList roleNames() {
    QStringList r;
    for (int i = 0; i <= static_cast<int>(Role::unassigned); ++i) r << nameOf(static_cast<Role>(i));
    return r;
}

} // namespace

ViewsPlace::ViewsPlace(Desk desk, QWidget* parent) : Place(desk, parent) {
    auto* row = new QHBoxLayout;
    row->setSpacing(14);
    views_ = new RowTable(
        "viewTable",
        {tr("View"), tr("Name or label"), tr("Size, mm"), tr("Scale"), tr("Scale from"), tr("Lines")},
        {120, 120, 140, 60, 190, 60}, this);
    views_->setStretch(4);
    row->addWidget(views_, 3);
    auto* side = new QVBoxLayout;
    auto* angle = new QHBoxLayout;
    angle->addWidget(new QLabel(tr("Projection"), this));
    first_ = new QPushButton(tr("First angle"), this), third_ = new QPushButton(tr("Third angle"), this);
    first_->setObjectName("firstAngle"), third_->setObjectName("thirdAngle");
    for (QPushButton* b : {first_, third_}) b->setCheckable(true), angle->addWidget(b);
    angle->addStretch(1);
    side->addLayout(angle);
    reason_ = new QLabel(this);
    reason_->setObjectName("quiet");
    reason_->setWordWrap(true);
    side->addWidget(reason_);
    side->addSpacing(8);
    chosen_ = new QLabel(this);
    side->addWidget(chosen_);
    auto* moving = new QHBoxLayout;
    target_ = new QComboBox(this);
    target_->setObjectName("moveTarget");
    move_ = new QPushButton(tr("Put the chosen lines there"), this);
    move_->setObjectName("moveLines");
    moving->addWidget(target_, 1);
    moving->addWidget(move_);
    side->addLayout(moving);
    gather_ = new QPushButton(tr("Make them a view of their own"), this);
    gather_->setObjectName("gatherView");
    gather_->setToolTip(
        tr("Choose lines by a box, a loop (Alt and drag) or a stroke (a loop left open), then press"));
    side->addWidget(gather_);
    part_row_ = new QWidget(this);
    auto* parts = new QHBoxLayout(part_row_);
    parts->setContentsMargins(0, 8, 0, 0);
    parts->addWidget(new QLabel(tr("Part on the sheet"), this));
    part_ = new QComboBox(this);
    part_->setObjectName("partChoice");
    part_->setToolTip(tr("The sheet shows several parts; each has its own views and its own box"));
    parts->addWidget(part_, 1);
    side->addWidget(part_row_);
    part_row_->hide();
    side->addStretch(1);
    row->addLayout(side, 2);
    body()->addLayout(row, 1);

    connect(&views_->rows(), &RowModel::edited, this, [this](int row, int column, const QString& text) {
        if (column == kName) return rename(row, text.trimmed());
        const auto role = roleNamed(text.toStdString());
        if (!role) return;
        desk_.session.change(tr("Role of a view"), [key = model().views.views[row].key, role](Choices& c) {
            c.views.roles[key] = *role;
        });
    });
    connect(views_, &RowTable::rowPointed, this, [this](int row) {
        Marked m;
        if (row >= 0 && ready())
            m.entities.insert(model().views.views[row].entities.begin(),
                              model().views.views[row].entities.end());
        desk_.session.setPointed(std::move(m));
    });
    for (auto [button, angleValue] :
         {std::pair{first_, Convention::first}, std::pair{third_, Convention::third}})
        connect(button, &QPushButton::clicked, this, [this, a = angleValue] {
            if (ready())
                desk_.session.change(tr("Projection angle"), [a](Choices& c) { c.views.convention = a; });
        });
    connect(move_, &QPushButton::clicked, this, &ViewsPlace::moveChosen);
    connect(gather_, &QPushButton::clicked, this, &ViewsPlace::gatherChosen);
    connect(part_, &QComboBox::activated, this, [this](int part) {
        desk_.session.change(tr("Part on the sheet"), [part](Choices& c) { c.views.part = part; });
    });
    connect(&desk_.session, &Session::chosenChanged, this, [this] {
        const auto n = desk_.session.chosen().entities.size();
        chosen_->setText(
            n ? tr("%1 chosen on the sheet").arg(counted(static_cast<int>(n), tr("line"), tr("lines")))
              : tr("Choose lines on the sheet to move them between views"));
        move_->setEnabled(n > 0), gather_->setEnabled(n > 0);
    });
    chosen_->setText(tr("Choose lines on the sheet to move them between views"));
    move_->setEnabled(false), gather_->setEnabled(false);
    setLead(tr("Open a drawing to see its views"));
}

/// Keys of the chosen lines; those of locked views stay where they are, and that is said.
std::vector<std::string> ViewsPlace::chosenLines() {
    MovableLines lines = movableLines(*model().drawing, model().views, desk_.session.choices().views,
                                      desk_.session.chosen().entities);
    if (lines.held)
        setLead(tr("%1: the view is locked (see Fold, Panes)")
                    .arg(counted(lines.held, tr("line stays"), tr("lines stay"))));
    return std::move(lines.keys);
}

void ViewsPlace::moveChosen() {
    std::string key;
    if (target_->currentIndex() < static_cast<int>(model().views.views.size()))
        key = model().views.views[target_->currentIndex()].key;
    const std::vector<std::string> lines = chosenLines();
    if (lines.empty()) return;
    ViewChoices next = desk_.session.choices().views;
    if (!moveLines(next, lines, key)) return setLead(tr("That view is locked (see Fold, Panes)"));
    desk_.session.changeIfThere(tr("Lines into a view"), [lines, key](Choices& c) {
        return moveLines(c.views, lines, key).has_value();
    });
}

void ViewsPlace::gatherChosen() {
    const std::vector<std::string> lines = chosenLines();
    if (lines.empty()) return;
    desk_.session.change(tr("View gathered by hand"), [lines](Choices& c) { gatherView(c.views, lines); });
}

void ViewsPlace::rename(int row, const QString& name) {
    desk_.session.change(tr("Name of a view"),
                         [key = model().views.views[row].key, name = name.toStdString()](Choices& c) {
                             if (name.empty())
                                 c.views.names.erase(key);
                             else
                                 c.views.names[key] = name;
                         });
}

void ViewsPlace::refreshParts() {
    const ViewSet& set = model().views;
    part_row_->setVisible(set.parts.size() > 1);
    part_->clear();
    for (size_t i = 0; i < set.parts.size(); ++i)
        part_->addItem(tr("%1 of %2: %3")
                           .arg(i + 1)
                           .arg(set.parts.size())
                           .arg(counted(set.parts[i].views, tr("view"), tr("views"))));
    part_->setCurrentIndex(set.part);
}

void ViewsPlace::refresh() {
    const ViewSet& set = model().views;
    std::vector<std::vector<Cell>> rows;
    target_->clear();
    for (const View& v : set.views) {
        Cell role = Cell::of(nameOf(v.role));
        role.tag = v.role, role.editable = true, role.choices = roleNames();
        role.tip = tr("Double-click to say what this view is");
        const Vec2 mm = sizeOf(*model().drawing, v);
        const QString size = QString("%1 × %2").arg(mm.x, 0, 'f', 3).arg(mm.y, 0, 'f', 3);
        Cell name = Cell::of(v.name == nameOf(v.role) ? tr("none") : QString::fromStdString(v.name));
        name.editable = true;
        name.tip = tr("Double-click to name this view");
        rows.push_back({role, name, Cell::number(size), Cell::number(QString::number(v.scale, 'g', 5)),
                        Cell::of(sentence(v.scale_reason)),
                        Cell::number(QString::number(v.entities.size()))});
        target_->addItem(theme::tagIcon(v.role), tr("%1 view").arg(nameOf(v.role)));
    }
    target_->addItem(tr("No view: leave them out"));
    views_->setRows(std::move(rows));
    refreshParts();
    const ProjectionEvidence& p = set.projection;
    first_->setChecked(p.laid_out == Convention::first);
    third_->setChecked(p.laid_out == Convention::third);
    reason_->setText(
        tr("%1 sure: %2")
            .arg(QString::number(std::lround(p.confidence * 100)) + " %", QString::fromStdString(p.reason)));
    int open = 0;
    for (const View& v : set.views) open += v.role == Role::unassigned;
    if (set.views.empty()) return setLead(tr("No view was found: check the layers' roles under Sheet"));
    if (open)
        return setLead(tr("%1 no role yet: double-click it in the table")
                           .arg(counted(open, tr("view has"), tr("views have"))));
    setLead(
        tr("%1 found, %2 angle")
            .arg(counted(static_cast<int>(set.views.size()), tr("view"), tr("views")), nameOf(p.laid_out)));
}

PlaceState ViewsPlace::state() const {
    if (!ready()) return {};
    int open = 0;
    for (const View& v : model().views.views) open += v.role == Role::unassigned;
    const int n = static_cast<int>(model().views.views.size());
    return {open || n == 0 ? theme::Glyph::warning : theme::Glyph::good,
            tr("%1, %2 angle")
                .arg(counted(n, tr("view"), tr("views")), nameOf(model().views.projection.laid_out))};
}

} // namespace prism::app
