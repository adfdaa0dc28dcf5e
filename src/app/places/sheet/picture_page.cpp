#include "app/places/sheet/picture_page.h"

#include "core/tracing/placing.h"

namespace prism::app {
namespace {

QString degrees(double radians) {
    return QString::number(radians * 180 / kPi, 'f', 2) + "°";
}

QLabel* heading(const QString& text, QWidget* parent) {
    auto* l = new QLabel(text, parent);
    l->setObjectName("heading");
    return l;
}

/// A column of the page.
std::pair<QWidget*, QVBoxLayout*> column(const QString& what, QWidget* parent) {
    auto* w = new QWidget(parent);
    auto* v = new QVBoxLayout(w);
    v->setContentsMargins(0, 0, 0, 0);
    v->setSpacing(5);
    v->addWidget(heading(what, w));
    return {w, v};
}

QHBoxLayout* rowOf(std::initializer_list<QWidget*> widgets, bool stretch = true) {
    auto* row = new QHBoxLayout;
    row->setSpacing(5);
    for (QWidget* w : widgets) row->addWidget(w);
    if (stretch) row->addStretch(1);
    return row;
}

} // namespace

PicturePage::PicturePage(Desk desk, QWidget* parent) : Page(desk, parent) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(16);
    row->addWidget(makeLie(), 20);
    row->addWidget(makeLengths(), 33);
    row->addWidget(makeCuts(), 21);
    auto [lines, box] = column(tr("4  Lines in the scan"), this);
    trace_ = new TracePanel(desk, lines);
    box->addWidget(trace_, 1);
    row->addWidget(lines, 26);
    connect(trace_, &TracePanel::found, this, [this] {
        if (here_) start(Tool::none);
    });
    connect(&desk_.sheet, &SheetCanvas::placePicked, this, [this](Vec2 at, int) {
        if (here_) picked(at);
    });
    connect(&desk_.sheet, &SheetCanvas::placeHovered, this, [this](Vec2 at) {
        if (here_ && picks_.size() == 1) desk_.sheet.setGhost({Segment{first_, at}});
    });
    connect(&desk_.sheet, &SheetCanvas::boxDrawn, this, [this](const Box2& b) {
        if (here_ && tool_ == Tool::cut) addCut(b);
    });
    connect(&desk_.sheet, &SheetCanvas::pickingLeft, this, [this] {
        if (here_) start(Tool::none);
    });
}

QWidget* PicturePage::makeLie() {
    auto [w, v] = column(tr("1  Lay it straight"), this);
    lie_ = quietLabel();
    v->addWidget(lie_);
    as_measured_ = button("asMeasured", tr("As measured"), tr("By the lines found in the scan"));
    as_scanned_ = button("asScanned", tr("As scanned"), tr("Do not turn it"));
    level_ = button("levelLine", tr("A level line…"), tr("Pick two places of a line that should be level"));
    upright_ =
        button("uprightLine", tr("An upright line…"), tr("Pick two places of a line that should be upright"));
    v->addLayout(rowOf({as_measured_, as_scanned_}));
    v->addLayout(rowOf({level_, upright_}));
    light_ = new QCheckBox(tr("Light lines on dark"), this);
    light_->setObjectName("lightOnDark");
    v->addWidget(light_);
    strength_ = new QSlider(Qt::Horizontal, this);
    strength_->setObjectName("backdropStrength");
    strength_->setRange(0, 100);
    strength_->setValue(70);
    strength_->setToolTip(tr("How strongly the scan shows"));
    v->addLayout(rowOf({new QLabel(tr("Backdrop"), this), strength_}, false));
    v->addStretch(1);
    connect(as_measured_, &QPushButton::clicked, this,
            [this] { change(tr("Laid as measured"), [](PictureChoices& p) { p.straighten.reset(); }); });
    connect(as_scanned_, &QPushButton::clicked, this, [this] {
        change(tr("Laid as scanned"), [](PictureChoices& p) { p.straighten = Straightening{}; });
    });
    connect(level_, &QPushButton::clicked, this, [this] { start(Tool::level); });
    connect(upright_, &QPushButton::clicked, this, [this] { start(Tool::upright); });
    connect(light_, &QCheckBox::clicked, this, [this](bool on) {
        change(tr("Light lines on dark"), [on](PictureChoices& p) { p.light_on_dark = on; });
    });
    connect(strength_, &QSlider::valueChanged, this,
            [this](int v) { desk_.sheet.setBackdropStrength(v / 100.0); });
    return w;
}

QWidget* PicturePage::makeLengths() {
    auto [w, v] = column(tr("2  Known lengths"), this);
    two_places_ = button("twoPlaces", tr("Pick two places…"), tr("The longest known length tells best"));
    length_ = new QLineEdit(this);
    length_->setObjectName("knownLength");
    length_->setPlaceholderText(tr("its true length"));
    length_->setFixedWidth(110);
    add_length_ = button("addLength", tr("Add"), tr("Size the scan by this length"));
    no_length_ = button("dropLength", tr("Remove"), tr("The chosen length no longer counts"));
    v->addLayout(rowOf({two_places_, length_, add_length_, no_length_}));
    told_ = quietLabel();
    v->addWidget(told_);
    lengths_ = new RowTable("knownLengths",
                            {tr("True, mm"), tr("Along"), tr("Found, mm"), tr("Off, mm"), tr("Expected")},
                            {70, 64, 76, 62, 66}, this);
    lengths_->setEmptyText(tr("The resolution in the file gives the size of the paper."));
    v->addWidget(lengths_, 1);
    stretch_ = new QCheckBox(tr("Give each axis its own scale when they differ"), this);
    stretch_->setObjectName("correctStretch");
    v->addWidget(stretch_);
    connect(two_places_, &QPushButton::clicked, this, [this] { start(Tool::length); });
    connect(add_length_, &QPushButton::clicked, this, &PicturePage::addLength);
    connect(length_, &QLineEdit::returnPressed, this, &PicturePage::addLength);
    connect(lengths_, &RowTable::rowChosen, this, [this](int row) { no_length_->setEnabled(row >= 0); });
    connect(no_length_, &QPushButton::clicked, this, [this] {
        const int row = lengths_->currentRow();
        if (row < 0) return;
        if (row >= static_cast<int>(chosen().lengths.size())) return;
        change(tr("Known length removed"), [row, length = chosen().lengths[row]](PictureChoices& p) {
            if (const int now = whereIs(p.lengths, length, row); now >= 0)
                p.lengths.erase(p.lengths.begin() + now);
        });
    });
    connect(stretch_, &QCheckBox::clicked, this, [this](bool on) {
        change(tr("Stretch of the scan"), [on](PictureChoices& p) { p.correct_stretch = on; });
    });
    return w;
}

QWidget* PicturePage::makeCuts() {
    auto [w, v] = column(tr("3  Views in the scan"), this);
    cut_name_ = new QComboBox(this);
    cut_name_->setObjectName("cutName");
    cut_name_->setEditable(true);
    cut_name_->addItems({tr("front"), tr("top"), tr("right"), tr("left"), tr("bottom"), tr("rear"),
                         tr("section"), tr("detail")});
    cut_ = button("cutOut", tr("Cut out…"), tr("Draw a box round a view; it can have a scale of its own"));
    no_cut_ = button("dropCut", tr("Remove"), tr("The chosen view is not cut out any more"));
    v->addLayout(rowOf({cut_name_, cut_, no_cut_}));
    cuts_ = new RowTable("pictureCuts", {tr("View"), tr("mm a pixel"), tr("Size, mm")}, {70, 76, 80}, this);
    cuts_->setEmptyText(tr("The whole scan is one picture."));
    v->addWidget(cuts_, 1);
    v->addWidget(quietLabel(tr("A length within a view sizes that view alone.")));
    connect(cut_, &QPushButton::clicked, this, [this] { start(Tool::cut); });
    connect(cuts_, &RowTable::rowChosen, this, [this](int row) { no_cut_->setEnabled(row >= 0); });
    connect(no_cut_, &QPushButton::clicked, this, [this] {
        const int row = cuts_->currentRow();
        if (row < 0) return;
        if (row >= static_cast<int>(chosen().cuts.size())) return;
        change(tr("View not cut out"), [row, cut = chosen().cuts[row]](PictureChoices& p) {
            if (const int now = whereIs(p.cuts, cut, row); now >= 0) p.cuts.erase(p.cuts.begin() + now);
        });
    });
    return w;
}

void PicturePage::change(const QString& label, std::function<void(PictureChoices&)> edit) {
    desk_.session.change(label, [edit = std::move(edit), session = &desk_.session](Choices& c) {
        PictureChoices next = c.reading.picture;
        edit(next);
        c = withPicturePlaced(session->model(), c, next);
    });
}

void PicturePage::start(Tool t) {
    if (!ready()) return;
    tool_ = t;
    picks_.clear();
    desk_.sheet.setGhost({});
    desk_.sheet.setSnapFrom({});
    const bool place = t == Tool::level || t == Tool::upright || t == Tool::length;
    if (place)
        desk_.sheet.setPicking(SheetCanvas::Picking::place);
    else if (t == Tool::cut)
        desk_.sheet.setPicking(SheetCanvas::Picking::box);
    else
        trace_->usePicking();
    showWhole(t == Tool::cut);
    desk_.sheet.setHint(place            ? tr("Pick the first place, on the ink (Esc leaves)")
                        : t == Tool::cut ? tr("Draw a box round the view (Esc leaves)")
                                         : QString());
    showLengths();
}

/// All of the scan as it would lie uncut, with the parts cut out of it so far, to cut out another.
void PicturePage::showWhole(bool on) {
    whole_.clear();
    if (on) {
        PictureChoices uncut = chosen();
        uncut.cuts.clear();
        whole_ = placed(model().drawing->pictures[0].scan, "", uncut);
        std::vector<Curve> frames;
        for (const PictureCut& c : chosen().cuts) {
            const Picture part{c.name, nullptr, c.box(), false, whole_[0].to_sheet, 1};
            const std::vector<Vec2> corner = part.corners();
            for (size_t i = 0; i < 4; ++i) frames.push_back(Segment{corner[i], corner[(i + 1) % 4]});
        }
        desk_.sheet.setGhost(frames);
    }
    desk_.sheet.setBackdrop(on ? whole_ : model().drawing->pictures);
}

std::optional<Vec2> PicturePage::pixelAt(Vec2 sheet) const {
    const auto& pictures = whole_.empty() ? model().drawing->pictures : whole_;
    const int i = pictureAt(pictures, sheet);
    return i < 0 ? std::nullopt : std::optional(pictures[i].to_sheet.inverse()(sheet));
}

void PicturePage::picked(Vec2 at) {
    if (tool_ == Tool::none || tool_ == Tool::cut) return;
    const auto pixel = pixelAt(at);
    if (!pixel) return desk_.sheet.setHint(tr("That place is beside the scan"));
    if (picks_.size() == 1 && distance(picks_[0], *pixel) < 1) return;
    if (picks_.size() >= 2) picks_.clear();
    picks_.push_back(*pixel);
    if (picks_.size() == 1) {
        first_ = at;
        return desk_.sheet.setHint(tr("Pick the second place, far from the first (Esc leaves)"));
    }
    desk_.sheet.setGhost({Segment{first_, at}});
    if (tool_ == Tool::length) {
        desk_.sheet.setHint(tr("Type the true length below"));
        showLengths();
        return length_->setFocus();
    }
    const bool level = tool_ == Tool::level;
    const auto next =
        straightenedBy(*model().drawing->pictures[0].scan, chosen(), picks_[0], picks_[1], level);
    start(Tool::none);
    if (!next) return desk_.sheet.setHint(sentence(next.error().message));
    change(level ? tr("A line made level") : tr("A line made upright"),
           [s = *next](PictureChoices& p) { p.straighten = s; });
}

void PicturePage::addLength() {
    if (!ready()) return;
    NumberChoice typed;
    const auto r = takeTyped(typed, length_->text().toStdString(), 1);
    if (picks_.size() < 2) return told_->setText(tr("Pick two places on the scan first."));
    if (!r || !typed.value || !(*typed.value > 0))
        return told_->setText(tr("A length greater than zero is needed, as 120, 12 cm or 4 3/4\""));
    const KnownLength k =
        lengthBetween(*model().drawing->pictures[0].scan, chosen(), picks_[0], picks_[1], *typed.value);
    length_->clear();
    start(Tool::none);
    change(tr("Known length"), [k](PictureChoices& p) { p.lengths.push_back(k); });
}

void PicturePage::addCut(const Box2& sheet) {
    Box2 box;
    for (Vec2 p : {sheet.lo, Vec2{sheet.hi.x, sheet.lo.y}, sheet.hi, Vec2{sheet.lo.x, sheet.hi.y}})
        if (const auto pixel = pixelAt(p)) box.add(*pixel);
    if (!box.valid() || box.width() < 20 || box.height() < 20)
        return desk_.sheet.setHint(tr("The box must lie on the scan"));
    const PictureCut cut{cut_name_->currentText().trimmed().toStdString(), box.lo, box.hi};
    cut_name_->setCurrentIndex((cut_name_->currentIndex() + 1) % cut_name_->count());
    start(Tool::none);
    change(tr("View cut out"), [cut](PictureChoices& p) { p.cuts.push_back(cut); });
}

void PicturePage::showLengths() {
    const PictureChoices& c = chosen();
    const ScanPixels& scan = *model().drawing->pictures[0].scan;
    std::vector<std::vector<Cell>> rows(c.lengths.size());
    const char* const along[] = {QT_TR_NOOP("aligned"), QT_TR_NOOP("level"), QT_TR_NOOP("upright")};
    for (size_t i = 0; i < c.lengths.size(); ++i)
        rows[i] = {Cell::number(QString::number(c.lengths[i].mm)),
                   Cell::of(tr(along[static_cast<size_t>(c.lengths[i].along)])), Cell::number("–"),
                   Cell::number("–"), Cell::number("–")};
    Calibration worst = calibrate(scan, c, -1);
    for (int k = -1; k < static_cast<int>(c.cuts.size()); ++k) {
        const Calibration fit = calibrate(scan, c, k);
        if (fit.relative_error > worst.relative_error) worst = fit;
        for (const LengthFit& f : fit.fits) {
            rows[f.length][2] = Cell::number(QString::number(f.found_mm, 'f', 3));
            rows[f.length][3] = Cell::number(QString::number(f.found_mm - c.lengths[f.length].mm, 'f', 3));
            rows[f.length][4] = Cell::number(QString("±%1").arg(f.expected_mm, 0, 'f', 3));
        }
    }
    lengths_->setRows(std::move(rows));
    no_length_->setEnabled(lengths_->currentRow() >= 0);
    const bool two = picks_.size() == 2;
    add_length_->setEnabled(two), length_->setEnabled(two);
    QString fit;
    if (!worst.fits.empty()) fit = tr("Scale to ±%1 %").arg(100 * worst.relative_error, 0, 'f', 3);
    if (worst.stretch)
        fit += worst.stretched()
                   ? tr("; upright %1 % ± %2 % against level: the scan is stretched")
                         .arg(100 * (*worst.stretch - 1), 0, 'f', 2)
                         .arg(100 * worst.stretch_error, 0, 'f', 2)
                   : tr("; both axes agree to %1 %")
                         .arg(100 * std::max(std::abs(*worst.stretch - 1), worst.stretch_error), 0, 'f', 2);
    else if (!worst.fits.empty())
        fit += tr("; a length on the other axis would tell whether the scan is stretched");
    if (two)
        fit = tr("Picked: %1 pixels. Picking puts a scale taken from it off by about ±%2 %.")
                  .arg(distance(picks_[0], picks_[1]), 0, 'f', 1)
                  .arg(100 * kPickError * std::numbers::sqrt2 / distance(picks_[0], picks_[1]), 0, 'f', 3);
    else if (fit.isEmpty())
        fit = tr("The longest known length tells best; one on each axis tells a stretched scan.");
    told_->setText(fit);
    stretch_->setChecked(c.correct_stretch);
    // A disabled widget hands the keyboard to its neighbour, a field that would keep the keys for undo to
    // itself.
    if (stretch_->hasFocus() && !worst.stretch) desk_.sheet.setFocus();
    stretch_->setEnabled(worst.stretch.has_value());
}

void PicturePage::refresh() {
    if (model().drawing->pictures.empty()) return;
    const ScanPixels& scan = *model().drawing->pictures[0].scan;
    const Straightening s = straighteningOf(scan, chosen());
    lie_->setText(chosen().straighten ? tr("Turned back by %1 (level), %2 (upright), by hand.")
                                            .arg(degrees(s.level), degrees(s.upright))
                  : scan.askew ? tr("Turned back by %1 (level), %2 (upright), measured on %3 lines.")
                                     .arg(degrees(s.level), degrees(s.upright))
                                     .arg(scan.level_lines + scan.upright_lines)
                               : tr("Too few lines to measure how it lies."));
    as_measured_->setEnabled(scan.askew && chosen().straighten);
    light_->setChecked(chosen().light_on_dark.value_or(scan.light_on_dark));
    showLengths();
    std::vector<std::vector<Cell>> rows;
    for (const Picture& p : model().drawing->pictures)
        if (!chosen().cuts.empty())
            rows.push_back({Cell::of(QString::fromStdString(p.name)),
                            Cell::number(QString::number(p.pixel, 'f', 4)),
                            Cell::number(QString("%1 × %2")
                                             .arg(p.region.width() * p.pixel, 0, 'f', 0)
                                             .arg(p.region.height() * p.pixel, 0, 'f', 0))});
    cuts_->setRows(std::move(rows));
    no_cut_->setEnabled(cuts_->currentRow() >= 0);
    trace_->refresh();
    if (here_) start(Tool::none);
}

void PicturePage::enter() {
    here_ = true;
    trace_->enter();
    if (ready() && !model().drawing->pictures.empty()) start(Tool::none);
}

void PicturePage::leave() {
    here_ = false;
    trace_->leave();
    tool_ = Tool::none;
    picks_.clear();
    if (ready()) showWhole(false);
    desk_.sheet.setPicking(SheetCanvas::Picking::lines);
    desk_.sheet.setHint({});
    desk_.sheet.setGhost({});
}

QString PicturePage::label() const {
    return tr("Picture");
}

} // namespace prism::app
