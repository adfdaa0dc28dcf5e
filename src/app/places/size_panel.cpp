#include "app/places/size_panel.h"

#include "app/sheet/sheet_canvas.h"

#include <QComboBox>

namespace prism::app {
namespace {

constexpr int kFrame = 40;            // ms from one picture of a play to the next
constexpr double kSwing = 2.2;        // radians a second
constexpr size_t kMostPlayed = 6000;  // equations of a figure that is moved while people watch
constexpr double kShareOfView = 0.06; // of the view's extent: how far a size swings
constexpr double kLeastMoved = 1e-6;  // mm

/// A dimension as thin lines: those that lead to it, and its own.
std::vector<Curve> sketchOf(const AddedDimension& d) {
    if (d.kind == DimensionKind::radius || d.kind == DimensionKind::diameter)
        return {Segment{d.p10, d.p15}, Segment{d.p15, d.text_at}};
    if (d.kind == DimensionKind::ordinate) return {Segment{d.p13, d.p14}};
    const Vec2 along = direction(d.angle), first = d.p10 + dot(d.p13 - d.p10, along) * along,
               second = d.p10 + dot(d.p14 - d.p10, along) * along;
    return {Segment{d.p13, first}, Segment{d.p14, second}, Segment{first, second}};
}

QString inUnit(const Model& m, double mm) {
    return QString("%1 %2")
        .arg(mm / m.views.unit.mm, 0, 'g', 7)
        .arg(QString::fromStdString(m.views.unit.used));
}

} // namespace

SizePanel::SizePanel(Desk desk, QWidget* parent) : QWidget(parent), desk_(desk) {
    table_ = new RowTable("sizeTable", {tr("View"), tr("What is open"), tr("Dimension that closes it")},
                          {70, 330, 260}, this);
    auto* side = new QWidget(this);
    side->setFixedWidth(470);
    auto* all = new QVBoxLayout(side);
    all->setContentsMargins(12, 8, 12, 8);
    all->setSpacing(8);
    message_ = new QLabel(side);
    message_->setObjectName("sizeMessage");
    message_->setWordWrap(true);
    all->addWidget(message_);
    auto* ways = new QHBoxLayout;
    ways->setSpacing(6);
    const auto combo = [&](const QString& name, const QStringList& items, const QString& heard) {
        auto* c = new QComboBox(side);
        c->setObjectName(name);
        c->addItems(items);
        c->setAccessibleName(heard);
        c->setToolTip(heard);
        connect(c, &QComboBox::activated, this, &SizePanel::changeLaying);
        ways->addWidget(c, 1);
        return c;
    };
    laying_ = combo("laying", {tr("Baseline"), tr("Chain"), tr("Ordinate")}, tr("How the dimensions count"));
    datum_ = {
        combo("datumX", {tr("X from left"), tr("X from right"), tr("X from middle")}, tr("Datum along X")),
        combo("datumY", {tr("Y from front"), tr("Y from rear"), tr("Y from middle")}, tr("Datum along Y")),
        combo("datumZ", {tr("Z from below"), tr("Z from above"), tr("Z from middle")}, tr("Datum along Z"))};
    all->addLayout(ways);
    const auto button = [&](const QString& name, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, side);
        b->setObjectName(name);
        b->setToolTip(tip);
        all->addWidget(b);
        return b;
    };
    one_ = button("addDimension", tr("Add this dimension"),
                  tr("It says what is drawn, and drives from then on"));
    one_->setProperty("main", true);
    all_ =
        button("addAllDimensions", tr("Add all dimensions that are lacking"), tr("One step of the history"));
    all->addStretch(1);
    auto* both = new QHBoxLayout(this);
    both->setContentsMargins(0, 0, 0, 0);
    both->setSpacing(8);
    both->addWidget(table_, 1);
    both->addWidget(side);
    connect(table_, &RowTable::rowChosen, this, &SizePanel::choose);
    connect(one_, &QPushButton::clicked, this, [this] {
        const Completeness* c = desk_.session.sizes();
        const int row = table_->currentRow();
        if (!c || row < 0 || row >= static_cast<int>(c->open.size())) return;
        Change change;
        change.dimensions = {c->open[static_cast<size_t>(row)].closes};
        add(std::move(change), tr("Add a dimension"));
    });
    connect(all_, &QPushButton::clicked, this, [this] {
        if (const Completeness* c = desk_.session.sizes())
            add(closingAll(*c), tr("Add the dimensions that are lacking"));
    });
    timer_.setInterval(kFrame);
    connect(&timer_, &QTimer::timeout, this, &SizePanel::tick);
}

void SizePanel::add(Change change, const QString& label) {
    desk_.session.change(label,
                         [change = std::move(change)](Choices& c) { c = changed(std::move(c), change); });
}

void SizePanel::changeLaying() {
    LayingChoice how;
    how.laying = static_cast<Laying>(laying_->currentIndex());
    for (size_t i = 0; i < datum_.size(); ++i) how.datum[i] = static_cast<Datum>(datum_[i]->currentIndex());
    desk_.session.setLaying(how);
}

QString SizePanel::lead() const {
    const Completeness* c = desk_.session.sizes();
    if (!c) return tr("Looking for what the dimensions leave open …");
    if (!c->left_undone.empty()) return tr("Not looked at: %1").arg(QString::fromStdString(c->left_undone));
    const int open = static_cast<int>(c->open.size()), twice = static_cast<int>(c->twice.size());
    const QString more = twice ? tr("; %1").arg(counted(twice, tr("dimension follows from others"),
                                                        tr("dimensions follow from others")))
                               : QString();
    if (!open) return tr("Every size is determined") + more;
    return tr("%1: choose one to see what it moves")
               .arg(counted(open, tr("size is open"), tr("sizes are open"))) +
           more;
}

void SizePanel::refresh() {
    const Completeness* c = desk_.session.sizes();
    std::vector<std::vector<Cell>> rows;
    if (c && desk_.session.hasSheet()) {
        const Model& m = desk_.session.model();
        for (const OpenSize& o : c->open) {
            Cell view;
            view.tag = m.views.views[static_cast<size_t>(o.view)].role;
            const QString what = QString::fromStdString(o.what);
            const QString value = inUnit(m, o.value);
            rows.push_back(
                {view,
                 Cell::of(
                     sentence((o.radius ? what : tr("%1 along %2").arg(what, nameOf(o.axis))).toStdString())),
                 Cell::of(o.radius ? value : tr("%1 from %2").arg(value, QString::fromStdString(o.from)))});
        }
        for (const GivenTwice& g : c->twice) {
            QStringList from;
            for (const std::string& name : g.from) from << QString::fromStdString(name);
            rows.push_back({Cell::state(theme::Glyph::note, {}),
                            Cell::of(tr("%1 is given twice").arg(QString::fromStdString(g.name))),
                            Cell::of(from.isEmpty() ? tr("follows from the lines")
                                                    : tr("follows from %1").arg(from.join(", ")))});
        }
    }
    table_->setEmptyText(c ? tr("The dimensions determine every size, and none twice.")
                           : tr("Not looked at yet."));
    table_->setRows(std::move(rows));
    all_->setEnabled(c && !c->open.empty());
    choose(table_->currentRow());
}

void SizePanel::choose(int row) {
    play_.reset();
    desk_.sheet.setGhost({});
    const Completeness* c = desk_.session.sizes();
    const bool open = c && row >= 0 && row < static_cast<int>(c->open.size());
    one_->setEnabled(open && c->open[static_cast<size_t>(row)].value > 0);
    if (open) {
        const OpenSize& o = c->open[static_cast<size_t>(row)];
        const Model& m = desk_.session.model();
        message_->setText(
            tr("Nothing says where this stands: it can move. The dimension would say %1%2.")
                .arg(inUnit(m, o.value), o.round ? QString() : tr(", which is no round number")));
        if (!playing_) return;
        Marked marked;
        for (int i : o.lines) marked.entities.insert(m.figure.curves[static_cast<size_t>(i)].entity);
        desk_.session.setChosen(marked);
        desk_.sheet.lookAt(o.places);
        setPlay(o);
    } else if (const int twice = row - (c ? static_cast<int>(c->open.size()) : 0);
               c && row >= 0 && twice < static_cast<int>(c->twice.size())) {
        const LedgerEntry* e = desk_.session.model().ledger.named(c->twice[static_cast<size_t>(twice)].name);
        message_->setText(tr(
            "Others give this size as well. It shows what follows from them; on a drawing one of the two is "
            "written in parentheses."));
        if (e && playing_) desk_.session.setChosen(desk_.session.markedOf(*e));
    } else
        message_->setText(
            tr("Choose a size to see what it moves. Sizes that merely agree as drawn count as meant so."));
}

void SizePanel::setPlay(const OpenSize& o) {
    const Model& m = desk_.session.model();
    const Figure& f = m.figure;
    Play p;
    for (const Curve& c : sketchOf(o.closes))
        p.dimension.push_back(transformed(c, m.sheet.to_file.inverse()));
    p.from = f.now;
    const FigureView* v = f.viewById(o.view);
    if (v && f.equations.size() <= kMostPlayed) {
        const double way = std::min(kShareOfView * v->box.diagonal(), 0.4 * o.value);
        for (const double by : {way, -way, 0.2 * way})
            if (auto x = movedBy(f, m.ledger, o, by)) {
                p.far = std::move(*x);
                break;
            }
        for (size_t i = 0; !p.far.empty() && i < f.curves.size(); ++i)
            if (const Curve far = f.curve(static_cast<int>(i), p.far), near = f.curve(static_cast<int>(i));
                distance(startOf(far), startOf(near)) + distance(pointAt(far, 0.4), pointAt(near, 0.4)) >
                kLeastMoved)
                p.curves.push_back(static_cast<int>(i));
    }
    play_ = std::move(p), phase_ = 0;
    timer_.start();
    tick();
}

void SizePanel::tick() {
    if (!play_ || !playing_) return timer_.stop();
    phase_ += kSwing * kFrame / 1000;
    std::vector<Curve> ghost = play_->dimension;
    if (!play_->far.empty()) {
        const Figure& f = desk_.session.model().figure;
        std::vector<double> x = play_->from;
        for (size_t i = 0; i < x.size(); ++i) x[i] += std::sin(phase_) * (play_->far[i] - x[i]);
        for (int i : play_->curves) {
            const FigureView& v = *f.viewById(f.curves[static_cast<size_t>(i)].view);
            ghost.push_back(transformed(f.curve(i, x), ontoSheet(f, v, x)));
        }
    }
    desk_.sheet.setGhost(std::move(ghost));
}

void SizePanel::setPlaying(bool on) {
    playing_ = on;
    if (on)
        choose(table_->currentRow());
    else
        timer_.stop(), play_.reset(), desk_.sheet.setGhost({});
}

} // namespace prism::app
