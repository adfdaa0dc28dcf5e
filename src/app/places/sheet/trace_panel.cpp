#include "app/places/sheet/trace_panel.h"

namespace prism::app {
namespace {

struct Kind {
    LineRole role;
    size_t shape; ///< 0 straight, 1 arc, 2 circle
    friend auto operator<=>(const Kind&, const Kind&) = default;
};

Kind kindOf(const TracedLine& l) {
    const auto* a = std::get_if<Arc>(&l.shape);
    return {l.role, a ? (a->full() ? size_t{2} : size_t{1}) : size_t{0}};
}

QString words(const Kind& k) {
    const QStringList shapes{TracePanel::tr("lines"), TracePanel::tr("arcs"), TracePanel::tr("circles")};
    const QString role = k.role == LineRole::dimension ? TracePanel::tr("Thin") : sentence(nameOf(k.role));
    return role + " " + shapes[static_cast<qsizetype>(k.shape)];
}

bool same(const std::vector<Picture>& a, const std::vector<Picture>& b) {
    return std::ranges::equal(a, b, [](const Picture& p, const Picture& q) {
        return p.scan == q.scan && p.to_sheet(p.region.lo) == q.to_sheet(q.region.lo) &&
               p.to_sheet(p.region.hi) == q.to_sheet(q.region.hi) && p.region.lo == q.region.lo;
    });
}

} // namespace

TracePanel::TracePanel(Desk desk, QWidget* parent) : QWidget(parent), desk_(desk) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(5);
    auto* row = new QHBoxLayout;
    auto make = [&](const char* name, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setToolTip(tip);
        row->addWidget(b);
        return b;
    };
    find_ = make("findTraced", tr("Find lines"), tr("Look for lines, arcs and circles in the scan"));
    accept_ = make("acceptTraced", tr("Accept"), tr("Add the ticked ones to the sheet"));
    drop_ = make("dropTraced", tr("Drop"), tr("Forget what was found"));
    row->addStretch(1);
    all->addLayout(row);
    told_ = new QLabel(this);
    told_->setObjectName("quiet");
    told_->setWordWrap(true);
    all->addWidget(told_);
    kinds_ = new RowTable("tracedKinds", {tr("Seen"), tr("Taken")}, {150, 80}, this);
    kinds_->setEmptyText(tr("Nothing was looked for yet."));
    all->addWidget(kinds_, 1);
    connect(find_, &QPushButton::clicked, this, [this] { desk_.session.traceScans(); });
    connect(accept_, &QPushButton::clicked, this, &TracePanel::accept);
    connect(drop_, &QPushButton::clicked, this, &TracePanel::drop);
    connect(&desk_.session, &Session::traced, this, &TracePanel::take);
    connect(&desk_.sheet, &SheetCanvas::proposedPicked, this, &TracePanel::flip);
    connect(&kinds_->rows(), &RowModel::ticked, this, [this](int kind, int, bool on) {
        for (size_t i = 0; i < lines_.size(); ++i)
            if (kind_of_[i] == kind) taken_[i] = on;
        show();
    });
}

void TracePanel::take(const std::vector<TracedPicture>& seen) {
    lines_.clear(), lettering_ = 0;
    for (const TracedPicture& p : seen) {
        lines_.insert(lines_.end(), p.traced.lines.begin(), p.traced.lines.end());
        lettering_ += p.traced.lettering;
    }
    // Thin lines are seldom part of the solid: dimension, extension and hatching lines.
    taken_.clear();
    for (const TracedLine& l : lines_) taken_.push_back(l.role != LineRole::dimension);
    placed_ = desk_.session.model().drawing->pictures;
    show();
    emit found();
}

void TracePanel::accept() {
    std::vector<TracedLine> taken;
    for (size_t i = 0; i < lines_.size(); ++i)
        if (taken_[i]) taken.push_back(lines_[i]);
    if (taken.empty()) return;
    lines_.clear();
    desk_.session.change(tr("Lines of the scan"), [taken, session = &desk_.session](Choices& c) {
        c = withAccepted(session->model(), c, taken);
    });
}

void TracePanel::drop() {
    lines_.clear();
    show();
    emit found();
}

void TracePanel::flip(const std::vector<int>& lines) {
    // A box takes all of them, unless all are taken already.
    const bool on = !std::ranges::all_of(lines, [&](int i) { return taken_[i]; });
    for (int i : lines) taken_[i] = on;
    show();
}

void TracePanel::show() {
    std::map<Kind, std::pair<int, int>> count; // seen, taken
    for (size_t i = 0; i < lines_.size(); ++i) {
        auto& [seen, taken] = count[kindOf(lines_[i])];
        ++seen, taken += taken_[i];
    }
    std::vector<std::vector<Cell>> rows;
    std::map<Kind, int> row;
    int all = 0;
    for (const auto& [kind, n] : count) {
        row[kind] = static_cast<int>(rows.size());
        Cell name = Cell::of(words(kind));
        name.checked = n.second > 0;
        rows.push_back({name, Cell::number(tr("%1 of %2").arg(n.second).arg(n.first))});
        all += n.second;
    }
    kind_of_.clear();
    std::vector<SheetCanvas::Proposed> shown;
    for (size_t i = 0; i < lines_.size(); ++i) {
        kind_of_.push_back(row[kindOf(lines_[i])]);
        shown.push_back({lines_[i].shape, taken_[i]});
    }
    kinds_->setRows(std::move(rows));
    accept_->setText(all ? tr("Accept %1").arg(all) : tr("Accept"));
    accept_->setEnabled(all > 0);
    drop_->setEnabled(any());
    told_->setText(any()
                       ? tr("Click lines on the sheet, or draw a box, to take them or not. %1.")
                             .arg(counted(lettering_, tr("stroke is lettering"), tr("strokes are lettering")))
                       : tr("Straighten and calibrate first; cutting out the views leaves the frame and the "
                            "title block aside."));
    if (here_) desk_.sheet.setProposed(std::move(shown));
}

void TracePanel::refresh() {
    if (any() && !same(placed_, desk_.session.model().drawing->pictures)) lines_.clear();
    show();
}

void TracePanel::usePicking() {
    desk_.sheet.setPicking(any() ? SheetCanvas::Picking::proposed : SheetCanvas::Picking::lines);
}

void TracePanel::enter() {
    here_ = true;
    if (desk_.session.hasSheet()) show();
}

void TracePanel::leave() {
    here_ = false;
    desk_.sheet.setProposed({});
}

} // namespace prism::app
