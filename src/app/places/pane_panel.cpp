#include "app/places/pane_panel.h"

#include "app/box/box_canvas.h"
#include "app/sheet/sheet_canvas.h"
#include "core/base/text_scanner.h"
#include "core/views/by_hand.h"

namespace prism::app {
namespace {

enum Column { kView, kStands, kShown, kSide, kStrength, kLocked };

QStringList sideNames() {
    return {PanePanel::tr("outside only"), PanePanel::tr("both sides"), PanePanel::tr("faint")};
}

bool mayHang(Role r) {
    return r == Role::section || r == Role::auxiliary || r == Role::detail;
}

} // namespace

PanePanel::PanePanel(Desk desk, QWidget* parent) : QWidget(parent), desk_(desk) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(6);
    auto* row = new QHBoxLayout;
    row->setSpacing(5);
    auto make = [&](const char* name, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setAccessibleName(text);
        b->setToolTip(tip);
        row->addWidget(b);
        return b;
    };
    square_ =
        make("lookOnto", tr("Look square on"), tr("Look square onto the chosen pane (double-click on it)"));
    only_ = make("showOnlyPane", tr("Only this one"), tr("Hide all other panes"));
    group_ = new QComboBox(this);
    group_->setObjectName("paneGroup");
    group_->setAccessibleName(tr("Show a group of panes"));
    group_->setToolTip(tr("Show a group of panes and hide the others"));
    group_->addItems(
        {tr("All panes"), tr("The sides of the box"), tr("Sections and details"), tr("No pane")});
    row->addWidget(group_);
    use_ = make("useView", tr("Use this view"), tr("Of two views with one role, build with this one"));
    line_ = make("drawItsLine", tr("Draw its line…"),
                 tr("Draw on the sheet where this section is cut, or about which line this view folds"));
    round_ = make("turnItRound", tr("From the other side"), tr("This view looks the other way at its line"));
    row->addStretch(1);
    all->addLayout(row);
    table_ = new RowTable(
        "paneTable",
        {tr("Pane"), tr("Where it stands"), tr("Shown"), tr("Seen from"), tr("Strength, %"), tr("Locked")},
        {150, 260, 54, 100, 86, 58}, this);
    table_->setEmptyText(tr("Panes are listed here once views are found."));
    table_->setStretch(kStands);
    all->addWidget(table_, 1);
    all->addWidget(makeReferenceBox());
    connect(square_, &QPushButton::clicked, this, [this] {
        if (const View* v = chosen()) desk_.box.lookOnto(v->id);
    });
    connect(only_, &QPushButton::clicked, this, &PanePanel::showOnly);
    connect(group_, &QComboBox::activated, this, &PanePanel::showGroup);
    connect(use_, &QPushButton::clicked, this, &PanePanel::useChosen);
    connect(line_, &QPushButton::clicked, this, &PanePanel::startLine);
    connect(round_, &QPushButton::clicked, this, &PanePanel::turnRound);
    connect(table_, &RowTable::rowChosen, this, [this](int) { fill(); });
    connect(table_, &RowTable::rowActivated, this, [this](int row) {
        if (row >= 0) desk_.box.lookOnto(views_[static_cast<size_t>(row)]);
    });
    connect(table_, &RowTable::rowPointed, this, [this](int row) {
        Marked m;
        if (row >= 0 && desk_.session.hasSheet()) {
            const View& v = model().views.views[views_[static_cast<size_t>(row)]];
            m.entities.insert(v.entities.begin(), v.entities.end());
        }
        desk_.session.setPointed(std::move(m));
    });
    connect(&table_->rows(), &RowModel::edited, this, &PanePanel::edited);
    connect(&table_->rows(), &RowModel::ticked, this, &PanePanel::ticked);
    connect(&desk_.box, &BoxCanvas::showsChanged, this, &PanePanel::refresh);
    connect(&desk_.sheet, &SheetCanvas::placePicked, this, [this](Vec2 at, int) {
        if (drawing_) picked(at);
    });
    connect(&desk_.sheet, &SheetCanvas::placeHovered, this, [this](Vec2 at) {
        if (drawing_ && ends_.size() == 1) desk_.sheet.setGhost({Segment{ends_[0], at}});
    });
    connect(&desk_.sheet, &SheetCanvas::pickingLeft, this, &PanePanel::stopLine);
    connect(&desk_.sheet, &SheetCanvas::foldLineMoved, this, &PanePanel::moveFoldLine);
}

/// For sheets that are scans: the overall sizes of the part, to which the pictures on the panes are fitted.
QWidget* PanePanel::makeReferenceBox() {
    reference_ = new QWidget(this);
    auto* row = new QHBoxLayout(reference_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    row->addWidget(new QLabel(tr("Reference box, mm"), this));
    for (size_t k = 0; k < 3; ++k) {
        const QString axis = QString("XYZ").mid(static_cast<qsizetype>(k), 1);
        auto* s = sizes_[k] = new QDoubleSpinBox(this);
        s->setObjectName("overall" + axis);
        s->setAccessibleName(tr("Overall size along %1").arg(axis));
        s->setRange(0, 1e6);
        s->setDecimals(3);
        s->setSpecialValueText(tr("not known"));
        s->setButtonSymbols(QAbstractSpinBox::NoButtons);
        s->setFixedWidth(92);
        row->addWidget(new QLabel(axis, this));
        row->addWidget(s);
        connect(s, &QDoubleSpinBox::valueChanged, this, [this] {
            desk_.box.setReferenceBox(QVector3D(static_cast<float>(sizes_[0]->value()),
                                                static_cast<float>(sizes_[1]->value()),
                                                static_cast<float>(sizes_[2]->value())));
        });
    }
    auto* fit = new QPushButton(tr("Fit the scan to it"), this);
    fit->setObjectName("fitScan");
    fit->setToolTip(
        tr("The scan is sized so that its views have these overall sizes, as well as they all can"));
    connect(fit, &QPushButton::clicked, this, &PanePanel::fitScan);
    row->addWidget(fit);
    auto* show = new QCheckBox(tr("Scan on the panes"), this);
    show->setObjectName("scanOnPanes");
    show->setChecked(true);
    connect(show, &QCheckBox::toggled, &desk_.box, &BoxCanvas::setShowScan);
    row->addWidget(show);
    row->addStretch(1);
    reference_->hide();
    return reference_;
}

void PanePanel::fitScan() {
    const Vec3 size{sizes_[0]->value(), sizes_[1]->value(), sizes_[2]->value()};
    if (size == Vec3{}) return;
    desk_.session.change(
        tr("Scan fitted to the reference box"),
        [m = desk_.session.shown().model, size](Choices& c) { c = withOverallSizes(*m, c, size); });
}

const View* PanePanel::chosen() const {
    const int row = table_->currentRow();
    return row < 0 || row >= static_cast<int>(views_.size())
               ? nullptr
               : &model().views.views[views_[static_cast<size_t>(row)]];
}

void PanePanel::refresh() {
    if (!desk_.session.hasSheet()) return;
    const ViewSet& set = model().views;
    reference_->setVisible(!model().drawing->pictures.empty());
    std::vector<std::vector<Cell>> rows;
    views_.clear();
    for (const View& v : set.views) {
        if (!isPrincipal(v.role) && !mayHang(v.role)) continue;
        views_.push_back(v.id);
        Cell name = Cell::of(v.name == nameOf(v.role) ? tr("%1 view").arg(nameOf(v.role))
                                                      : QString::fromStdString(v.name));
        name.tag = v.role;
        Cell stands = Cell::of(tr("side of the box"));
        if (isPrincipal(v.role) && !v.in_figure) stands = Cell::of(tr("shares its pane; not used"));
        if (v.hanging) {
            stands = Cell::of(sentence(v.hanging->reason));
            stands.tip =
                tr("%1 of %2 coordinates are found again in the other views; the ends differ by %3 mm")
                    .arg(v.hanging->matched)
                    .arg(v.hanging->levels)
                    .arg(v.hanging->residual, 0, 'f', 4);
        } else if (mayHang(v.role))
            stands = Cell::state(theme::Glyph::warning, v.role == Role::detail
                                                            ? tr("no circle with its letter is found")
                                                            : tr("not placed: draw its line"));
        const PaneShow show = desk_.box.showOf(v.key);
        Cell shown, side = Cell::of(sideNames()[static_cast<int>(show.side)]), locked,
                    strength = Cell::number(QString::number(std::lround(show.opacity * 100)));
        shown.checked = show.on;
        side.editable = strength.editable = true;
        side.choices = sideNames();
        locked.checked = desk_.session.choices().views.locked.contains(v.key);
        rows.push_back({name, stands, shown, side, strength, locked});
    }
    table_->setRows(std::move(rows));
    fill();
}

/// Which buttons have something to do for the chosen row.
void PanePanel::fill() {
    const View* v = chosen();
    const bool hangs = v && mayHang(v->role) && v->role != Role::detail;
    square_->setEnabled(v && (isPrincipal(v->role) || v->hanging)), only_->setEnabled(square_->isEnabled());
    use_->setEnabled(v && isPrincipal(v->role) && !v->in_figure);
    line_->setEnabled(hangs);
    round_->setEnabled(hangs && v->hanging);
}

void PanePanel::edited(int row, int column, const QString& text) {
    const std::string key = model().views.views[views_[static_cast<size_t>(row)]].key;
    PaneShow show = desk_.box.showOf(key);
    if (column == kSide) show.side = static_cast<PaneSide>(std::max<qsizetype>(0, sideNames().indexOf(text)));
    if (column == kStrength)
        if (const auto percent = numberIn(QString(text).remove('%').toStdString()))
            show.opacity = std::clamp(*percent / 100, 0.05, 1.0);
    desk_.box.setShow({{key, show}});
}

void PanePanel::ticked(int row, int column, bool on) {
    const std::string key = model().views.views[views_[static_cast<size_t>(row)]].key;
    if (column == kLocked)
        return desk_.session.change(on ? tr("View locked") : tr("View unlocked"), [key, on](Choices& c) {
            if (on)
                c.views.locked.insert(key);
            else
                c.views.locked.erase(key);
        });
    PaneShow show = desk_.box.showOf(key);
    show.on = on;
    desk_.box.setShow({{key, show}});
}

void PanePanel::showOnly() {
    const View* v = chosen();
    if (!v) return;
    std::map<std::string, PaneShow> shows;
    for (int i : views_) {
        PaneShow& s = shows[model().views.views[i].key] = desk_.box.showOf(model().views.views[i].key);
        s.on = i == v->id;
    }
    desk_.box.setShow(shows);
}

void PanePanel::showGroup(int group) {
    std::map<std::string, PaneShow> shows;
    for (int i : views_) {
        const View& v = model().views.views[i];
        (shows[v.key] = desk_.box.showOf(v.key)).on =
            (v.in_figure && (group == 0 || group == 1)) || (v.hanging && (group == 0 || group == 2));
    }
    desk_.box.setShow(shows);
}

void PanePanel::useChosen() {
    if (const View* v = chosen())
        desk_.session.change(tr("View used"),
                             [role = v->role, key = v->key](Choices& c) { c.views.used[role] = key; });
}

void PanePanel::startLine() {
    const View* v = chosen();
    if (!v) return;
    for_ = v->key, drawing_ = true;
    ends_.clear();
    desk_.sheet.setPicking(SheetCanvas::Picking::place);
    desk_.sheet.setSnapFrom({});
    desk_.sheet.setHint(
        v->role == Role::section
            ? tr("Pick where its cutting plane begins, in the view that is cut (Esc leaves)")
            : tr("Pick where its fold line begins, beside the view it is seen from (Esc leaves)"));
}

void PanePanel::stopLine() {
    if (!drawing_) return;
    drawing_ = false;
    desk_.sheet.setPicking(SheetCanvas::Picking::lines);
    desk_.sheet.setGhost({});
    desk_.sheet.setHint({});
}

void PanePanel::picked(Vec2 at) {
    ends_.push_back(at);
    if (ends_.size() == 1) {
        desk_.sheet.setSnapFrom(at);
        return desk_.sheet.setHint(tr("Pick where it ends (Esc leaves)"));
    }
    const std::vector<Vec2> ends = ends_;
    const std::string key = for_;
    stopLine();
    const View* v = model().views.withKey(key);
    if (!v) return;
    const auto h = hungAlong(model().views, model().sheet, *v, ends[0], ends[1]);
    if (!h) return desk_.sheet.setHint(sentence(h.error().message));
    desk_.session.change(tr("Line of a view"), [key, now = *h](Choices& c) { c.views.hung[key] = now; });
}

void PanePanel::turnRound() {
    const View* v = chosen();
    if (!v || !v->hanging) return;
    desk_.session.change(
        tr("View from the other side"),
        [key = v->key, now = hungFromOtherSide(model().views, model().sheet, desk_.session.choices().views,
                                               *v)](Choices& c) { c.views.hung[key] = now; });
}

void PanePanel::moveFoldLine(int line, double by) {
    const auto lines = foldLinesOf(model().views, desk_.session.choices().views);
    if (line < 0 || line >= static_cast<int>(lines.size())) return;
    desk_.session.change(tr("Fold line moved"),
                         [m = desk_.session.shown().model, l = lines[static_cast<size_t>(line)],
                          by](Choices& c) { prism::moveFoldLine(c.views, m->views, m->sheet, l, by); });
}

void PanePanel::leave() {
    stopLine();
}

} // namespace prism::app
