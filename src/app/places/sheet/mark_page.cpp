#include "app/places/sheet/mark_page.h"

#include "app/sheet/sheet_canvas.h"
#include "core/base/text_scanner.h"
#include "core/marking/choosing.h"
#include "core/marking/measure.h"

#include <QClipboard>
#include <QGuiApplication>

namespace prism::app {

MarkPage::MarkPage(Desk desk, QWidget* parent) : Page(desk, parent), tool_(desk.session, this) {
    using K = MarkTool::Kind;
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(14);
    auto* tools = new QVBoxLayout;
    tools->setSpacing(5);
    auto group = [&](const QString& what, std::initializer_list<QWidget*> widgets) {
        auto* line = new QHBoxLayout;
        line->setSpacing(5);
        auto* name = new QLabel(what, this);
        name->setObjectName("quiet");
        name->setFixedWidth(72);
        line->addWidget(name);
        for (QWidget* w : widgets) line->addWidget(w);
        line->addStretch(1);
        tools->addLayout(line);
    };
    role_ = new QComboBox(this);
    role_->setObjectName("markRole");
    role_->addItems({nameOf(LineRole::outline), nameOf(LineRole::hidden), nameOf(LineRole::centre)});
    offset_ = new QLineEdit("10", this);
    offset_->setObjectName("markOffset");
    offset_->setFixedWidth(60);
    offset_->setToolTip(tr("Distance of an offset line on the sheet"));
    says_ = new QLineEdit(this);
    says_->setObjectName("markSays");
    says_->setPlaceholderText(tr("as measured"));
    says_->setFixedWidth(100);
    says_->setToolTip(tr("What the dimension says, if the drawing is not to size"));
    group(tr("Draw"), {toolButton("markLine", tr("Line"), tr("From place to place"), K::line),
                       toolButton("markArc", tr("Arc"), tr("Through three places"), K::arc),
                       toolButton("markCircle", tr("Circle"), tr("Centre and a place on it"), K::circle),
                       toolButton("markCurve", tr("Curve"), tr("Through any number of places"), K::curve),
                       new QLabel(tr("as"), this), role_});
    group(tr("Change"), {toolButton("markTrim", tr("Trim"), tr("Cut out a part between crossings"), K::trim),
                         toolButton("markExtend", tr("Extend"), tr("Up to the next line"), K::extend),
                         toolButton("markCorner", tr("Corner"), tr("Make two lines meet"), K::corner),
                         toolButton("markMove", tr("Move"), tr("The chosen lines, by two places"), K::move),
                         toolButton("markDelete", tr("Delete"), tr("Take a line off the sheet"), K::remove)});
    group(QString(),
          {toolButton("markOffsetTool", tr("Offset by"), tr("A line beside another"), K::offset), offset_});
    group(tr("Dimension"),
          {toolButton("markDistance", tr("Level or upright"), tr("By where its line is placed"), K::distance),
           toolButton("markAligned", tr("Aligned"), tr("Along its two places"), K::aligned),
           toolButton("markRadius", tr("Radius"), tr("Of an arc or circle"), K::radius),
           toolButton("markDiameter", tr("Diameter"), tr("Of an arc or circle"), K::diameter),
           toolButton("markAngle", tr("Angle"), tr("Vertex and two sides"), K::angle)});
    group(QString(), {new QLabel(tr("It says"), this), says_});
    tools->addStretch(1);
    row->addLayout(tools);
    auto* middle = new QVBoxLayout;
    auto* chooseRow = new QHBoxLayout;
    auto* chooseName = new QLabel(tr("Choose more"), this);
    chooseName->setObjectName("quiet");
    choose_ = new QComboBox(this);
    choose_->setObjectName("chooseMore");
    choose_->addItems({tr("like the chosen lines…"), tr("the connected chain"), tr("the same layer"),
                       tr("the same line type"), tr("the same size")});
    chooseRow->addWidget(chooseName);
    chooseRow->addWidget(choose_, 1);
    middle->addLayout(chooseRow);
    measure_ = new QLabel(this);
    measure_->setObjectName("measured");
    measure_->setWordWrap(true);
    measure_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    middle->addWidget(measure_);
    auto* copy = button("copyMeasure", tr("Copy the measures"), tr("To the clipboard, as text"));
    middle->addWidget(copy, 0, Qt::AlignLeft);
    middle->addStretch(1);
    row->addLayout(middle, 1);
    marks_ = new RowTable("markTable", {tr("Marked up"), tr("What")}, {150, 110}, this);
    marks_->setEmptyText(tr("Nothing is marked up."));
    row->addWidget(marks_, 1);
    connect(copy, &QPushButton::clicked, this,
            [this] { QGuiApplication::clipboard()->setText(measure_->text()); });
    connect(role_, &QComboBox::currentTextChanged, this, [this](const QString& r) {
        tool_.setRole(lineRoleNamed(r.toStdString()).value_or(LineRole::outline));
    });
    connect(choose_, &QComboBox::activated, this, [this](int how) {
        if (!ready() || how == 0) return;
        Marked m = desk_.session.chosen();
        m.entities = chooseLike(*model().drawing, model().sheet.in_use, m.entities,
                                static_cast<Likeness>(how - 1), model().sheet.tolerances.touch_sheet);
        desk_.session.setChosen(std::move(m));
        choose_->setCurrentIndex(0);
    });
    connect(&tool_, &MarkTool::stepped, this, &MarkPage::follow);
    connect(&tool_, &MarkTool::refused, this, [this](const QString& why) { desk_.sheet.setHint(why); });
    connect(&desk_.sheet, &SheetCanvas::placePicked, this, [this](Vec2 at, int entity) {
        if (!here_) return;
        NumberChoice typed;
        const double mm = model().views.unit.mm;
        const bool says = takeTyped(typed, says_->text().toStdString(), mm) && typed.value;
        tool_.setSays(
            says ? std::optional(tool_.kind() == MarkTool::Kind::angle ? *typed.value : *typed.value / mm)
                 : std::nullopt);
        tool_.setOffset(numberIn(offset_->text().toStdString()).value_or(0));
        tool_.pick(at, entity);
    });
    connect(&desk_.sheet, &SheetCanvas::placeHovered, this, [this](Vec2 at) {
        if (here_) desk_.sheet.setGhost(tool_.ghost(at));
    });
    connect(&desk_.sheet, &SheetCanvas::placesDone, this, [this] {
        if (here_) tool_.endCurve();
    });
    connect(&desk_.sheet, &SheetCanvas::pickingLeft, this, [this] {
        if (here_) start(MarkTool::Kind::none);
    });
    connect(&desk_.session, &Session::chosenChanged, this, &MarkPage::showMeasure);
}

QPushButton* MarkPage::toolButton(const char* name, const QString& text, const QString& tip,
                                  MarkTool::Kind k) {
    QPushButton* b = button(name, text, tip);
    b->setCheckable(true);
    buttons_[k] = b;
    connect(b, &QPushButton::clicked, this, [this, k](bool on) { start(on ? k : MarkTool::Kind::none); });
    return b;
}

void MarkPage::start(MarkTool::Kind k) {
    if (ready()) tool_.start(k);
}

void MarkPage::follow() {
    for (auto& [kind, b] : buttons_) b->setChecked(kind == tool_.kind());
    const bool any = tool_.kind() != MarkTool::Kind::none;
    desk_.sheet.setPicking(!any                 ? SheetCanvas::Picking::lines
                           : tool_.wantsPlace() ? SheetCanvas::Picking::place
                                                : SheetCanvas::Picking::line);
    desk_.sheet.setSnapFrom(tool_.from());
    desk_.sheet.setGhost({});
    const bool driven = model().figure.now != model().figure.drawn;
    desk_.sheet.setHint(any || !driven ? tool_.hint()
                                       : tr("The sheet as drawn, before any number was changed"));
}

void MarkPage::showMeasure() {
    if (!ready()) return;
    const auto& chosen = desk_.session.chosen().entities;
    const Model& m = model();
    // Lines of one view are measured at its scale; what lies in several views has none of its own.
    std::set<int> views;
    for (int e : chosen) views.insert(m.views.view_of_entity[e]);
    const bool one = views.size() == 1 && *views.begin() >= 0;
    const double mm =
        one ? m.views.views[*views.begin()].mm_per_sheet : m.views.unit.mm / m.views.sheet_scale;
    const Measured x = measured(*m.drawing, {chosen.begin(), chosen.end()}, m.sheet.tolerances.touch_sheet);
    if (x.lines == 0)
        return measure_->setText(
            tr("Choose lines on the sheet to measure them. A box takes what lies "
               "inside, with Shift also what it "
               "cuts; Alt draws a loop; left open it is a stroke, and takes what it crosses. Ctrl adds."));
    QStringList t{
        tr("%1, length %2 mm").arg(counted(x.lines, tr("line"), tr("lines"))).arg(x.length * mm, 0, 'f', 4)};
    if (x.radius)
        t << tr("Radius %1 mm, diameter %2 mm")
                 .arg(*x.radius * mm, 0, 'f', 4)
                 .arg(2 * *x.radius * mm, 0, 'f', 4);
    if (x.angle) t << tr("Angle %1°").arg(*x.angle * 180 / kPi, 0, 'f', 4);
    if (x.apart) t << tr("Apart %1 mm").arg(*x.apart * mm, 0, 'f', 4);
    if (x.area) t << tr("Area %1 mm²").arg(*x.area * mm * mm, 0, 'f', 4);
    if (x.across) t << tr("Box %1 × %2 mm").arg(x.across->x * mm, 0, 'f', 4).arg(x.across->y * mm, 0, 'f', 4);
    measure_->setText(t.join("\n"));
}

void MarkPage::enter() {
    here_ = true;
    desk_.sheet.showAsDrawn(true);
    if (ready()) follow();
}

void MarkPage::leave() {
    here_ = false;
    desk_.sheet.showAsDrawn(false);
    tool_.start(MarkTool::Kind::none);
    desk_.sheet.setPicking(SheetCanvas::Picking::lines);
    desk_.sheet.setHint({});
    desk_.sheet.setGhost({});
}

void MarkPage::refresh() {
    const MarkUp& m = desk_.session.choices().marks;
    std::vector<std::vector<Cell>> rows;
    for (const MarkedLine& l : m.lines) {
        const QString what = l.kind == MarkedLine::Kind::add      ? tr("added, %1").arg(nameOf(l.role))
                             : l.kind == MarkedLine::Kind::remove ? tr("deleted")
                                                                  : tr("changed");
        rows.push_back({Cell::of(tr("Line %1").arg(QString::fromStdString(l.target))), Cell::of(what)});
    }
    for (size_t i = 0; i < m.dimensions.size(); ++i)
        rows.push_back({Cell::of(tr("Dimension +d%1").arg(i + 1)),
                        Cell::of(tr("added, %1").arg(nameOf(m.dimensions[i].kind)))});
    marks_->setRows(std::move(rows));
    showMeasure();
    if (here_) follow();
}

QString MarkPage::label() const {
    if (!ready()) return tr("Mark up");
    const MarkUp& m = desk_.session.choices().marks;
    const auto n = m.lines.size() + m.dimensions.size();
    return n ? tr("Mark up  %1").arg(n) : tr("Mark up");
}

} // namespace prism::app
