#include "app/sheet/pickers.h"

#include "app/sheet/sheet_canvas.h"
#include "app/theme/theme.h"
#include "core/drawing/kind_words.h"
#include "core/marking/choosing.h"

#include <QPainter>

namespace prism::app {
namespace {

constexpr double kReach = 7; ///< pixels within which a thing is pointed at

QString inDescription(const Model& m, int line, int dimension) {
    if (dimension >= 0) {
        for (const LedgerEntry& e : m.ledger.entries)
            if (e.dimension == dimension)
                return SheetCanvas::tr("%1 = %2 (%3). Double-click to change it.")
                    .arg(QString::fromStdString(e.name),
                         QString::fromStdString(m.drawing->dimensions[dimension].text), nameOf(e.state));
        return {};
    }
    if (line < 0) return {};
    const Entity& e = m.drawing->entities[line];
    const int v = m.views.view_of_entity[line];
    const QString view = v >= 0 ? SheetCanvas::tr("%1 view").arg(nameOf(m.views.views[v].role))
                                : SheetCanvas::tr("in no view");
    return SheetCanvas::tr("%1 on layer %2, %3, %4")
        .arg(sentence(inWords(e.type)), QString::fromStdString(m.drawing->layers[e.layer].name),
             nameOf(m.sheet.entity_roles[line]), view);
}

} // namespace

const Session& Picker::session() const {
    return canvas_.session();
}

double Picker::reach() const {
    return kReach / canvas_.scale();
}

void Picker::leave() {
    emit canvas_.pickingLeft();
}

std::vector<Vec2> Picker::outlineOf(const QRectF& box, const QPolygonF& lasso) const {
    std::vector<Vec2> r;
    const QPolygonF corners(
        QVector<QPointF>{box.topLeft(), box.topRight(), box.bottomRight(), box.bottomLeft()});
    for (const QPointF& p : lasso.isEmpty() ? corners : lasso) r.push_back(canvas_.toSheet(p));
    return r;
}

void Picker::pointAt(Vec2 sheet) {
    const SheetPicture& picture = canvas_.picture();
    Marked m;
    const int d = picture.dimensionAt(sheet, reach());
    const int l = d >= 0 ? -1 : picture.lineAt(sheet, reach());
    if (d >= 0) {
        for (const LedgerEntry& e : model().ledger.entries)
            if (e.dimension == d) m = session().markedOf(e);
        m.dimensions.insert(d);
    }
    if (l >= 0) m.entities.insert(l);
    emit canvas_.pointedAt(inDescription(model(), l, d));
    canvas_.session().setPointed(std::move(m));
}

void LinePicker::hover(QPointF at) {
    canvas_.hoverFoldLine(at);
    if (const FoldLine* f = canvas_.foldLineUnderPointer()) {
        emit canvas_.pointedAt(
            SheetCanvas::tr("Fold line, %1 mm from the part. Drag to move it.").arg(f->gap(), 0, 'f', 2));
        return canvas_.session().setPointed({});
    }
    pointAt(canvas_.toSheet(at));
}

void LinePicker::click(QPointF at, Qt::KeyboardModifiers keys) {
    const bool add = keys & (Qt::ControlModifier | Qt::ShiftModifier);
    Marked m = add ? session().chosen() : Marked{};
    const auto flip = [](std::set<int>& s, int i) {
        if (!s.erase(i)) s.insert(i);
    };
    const Vec2 s = canvas_.toSheet(at);
    if (const int d = canvas_.picture().dimensionAt(s, reach()); d >= 0)
        flip(m.dimensions, d);
    else if (const int l = canvas_.picture().lineAt(s, reach()); l >= 0)
        flip(m.entities, l);
    canvas_.session().setChosen(std::move(m));
}

bool LinePicker::isOpen(const QPolygonF& lasso) {
    if (lasso.size() < 2) return false;
    double way = 0;
    for (qsizetype i = 1; i < lasso.size(); ++i) way += QLineF(lasso[i - 1], lasso[i]).length();
    return QLineF(lasso.first(), lasso.last()).length() > way / 3;
}

void LinePicker::boxed(const QRectF& box, const QPolygonF& lasso, Qt::KeyboardModifiers keys) {
    const bool crossing = keys & Qt::ShiftModifier, more = keys & Qt::ControlModifier;
    const std::vector<Vec2> places = outlineOf(box, isOpen(lasso) || lasso.size() > 2 ? lasso : QPolygonF());
    const Drawing& d = canvas_.drawingShown();
    Marked m = more ? session().chosen() : Marked{};
    m.entities.merge(isOpen(lasso) ? chooseCrossed(d, model().sheet.in_use, places)
                                   : chooseWithin(d, model().sheet.in_use, places, crossing));
    canvas_.session().setChosen(std::move(m));
}

void LinePicker::doubleClick(QPointF at) {
    if (const int d = canvas_.picture().dimensionAt(canvas_.toSheet(at), reach()); d >= 0)
        emit canvas_.dimensionActivated(d);
}

void LinePicker::leave() {
    canvas_.session().setChosen({});
}

void AreaPicker::setReach(const std::optional<MarkFilter>& marks) {
    reach_marks_ = marks;
    marks_.forget();
    if (marks) marks_.setFilter(*marks);
}

bool AreaPicker::enough() {
    emit canvas_.placesDone();
    return true;
}

namespace {

bool isOpenOutline(const Finding& f) {
    return f.kind == "outline_open" && f.severity != Severity::warning && !f.accepted && !f.at_sheet.empty();
}

} // namespace

const Finding* AreaPicker::gapAt(QPointF at) const {
    const Vec2 place = canvas_.toSheet(at);
    for (const Finding& f : model().findings)
        if (isOpenOutline(f) &&
            std::ranges::any_of(f.at_sheet, [&](Vec2 p) { return distance(p, place) <= 2 * reach(); }))
            return &f;
    return nullptr;
}

void AreaPicker::hover(QPointF at) {
    hover_ = prism::areaAt(model(), canvas_.toSheet(at));
    marks_.forget();
    gap_ = gapAt(at);
    if (gap_) {
        hover_ = nullptr;
        const QString what = sentence(gap_->message);
        emit canvas_.pointedAt(gap_->remedies.empty() ? what
                                                      : SheetCanvas::tr("%1. A click closes it").arg(what));
        return canvas_.update();
    }
    if (reach_marks_) {
        const ViewName& own = *reach_marks_->not_in;
        if (hover_ && model().figure.viewById(hover_->view)->name != own) hover_ = nullptr;
        if (!hover_ && isOnPart(model(), canvas_.toSheet(at), reach())) marks_.hover(at);
        if (marks_.found()) return;
    }
    emit canvas_.pointedAt(hover_ ? SheetCanvas::tr("Area of %1 mm²").arg(hover_->area, 0, 'f', 2)
                                  : QString());
    canvas_.update();
}

void AreaPicker::click(QPointF at, Qt::KeyboardModifiers keys) {
    if (gap_ && !gap_->remedies.empty()) return emit canvas_.gapPicked(gap_->remedies.front());
    if (marks_.found()) return marks_.click(at, keys);
    if (hover_)
        emit canvas_.areaPicked(model().figure.viewById(hover_->view)->name, seedAsDrawn(model(), *hover_));
}

void AreaPicker::boxed(const QRectF& box, const QPolygonF& lasso, Qt::KeyboardModifiers keys) {
    const std::vector<Vec2> places = outlineOf(box, lasso.size() > 2 ? lasso : QPolygonF());
    const auto own = reach_marks_ ? reach_marks_->not_in : std::nullopt;
    const PickedAreas found = areasWithin(model(), places, keys & Qt::ShiftModifier, own);
    if (!found.empty()) emit canvas_.areasPicked(found);
}

void AreaPicker::paintOnSheet(QPainter& p) const {
    if (!hover_) return;
    QColor fill = theme::point();
    fill.setAlpha(60);
    const QPainterPath path = canvas_.areaPath(*hover_);
    p.fillPath(path, QBrush(fill));
    QPen pen(theme::point(), 2);
    pen.setCosmetic(true);
    p.strokePath(path, pen);
}

void AreaPicker::paintOver(QPainter& p) const {
    marks_.paintOver(p);
    constexpr double kRing = 7; // pixels
    p.setBrush(Qt::NoBrush);
    for (const Finding& f : model().findings) {
        if (!isOpenOutline(f)) continue;
        p.setPen(QPen(theme::signal(), &f == gap_ ? 2.5 : 1.5));
        for (Vec2 at : f.at_sheet) p.drawEllipse(canvas_.toScreen(at), kRing, kRing);
    }
}

void MarkPicker::hover(QPointF at) {
    hover_ = markNear(model(), canvas_.toSheet(at), 2 * reach(), filter_);
    emit canvas_.pointedAt(hover_ ? SheetCanvas::tr("%1 = %2 mm").arg(nameOf(hover_->axis)).arg(hover_->value)
                                  : QString());
    canvas_.update();
}

void MarkPicker::click(QPointF /*at*/, Qt::KeyboardModifiers /*keys*/) {
    if (!hover_) return;
    const PickedMark m = *hover_;
    emit canvas_.markPicked(m.ref, m.value);
}

void MarkPicker::paintOver(QPainter& p) const {
    if (!hover_) return;
    const FigureView& v = *model().figure.viewNamed(hover_->ref.view);
    const bool upright = v.axes.right == hover_->axis;
    const QPointF c = canvas_.toScreen(hover_->sheet);
    p.setPen(QPen(theme::point(), 1.6, Qt::DashLine));
    p.drawLine(upright ? QPointF(c.x(), 0) : QPointF(0, c.y()),
               upright ? QPointF(c.x(), canvas_.height()) : QPointF(canvas_.width(), c.y()));
    const QString text = QString("%1 = %2").arg(nameOf(hover_->axis)).arg(hover_->value);
    p.setFont(theme::lettering(15));
    const QRectF box(c + QPointF(8, -26), QSizeF(QFontMetrics(p.font()).horizontalAdvance(text) + 12, 20));
    p.fillRect(box, theme::point());
    p.setPen(theme::film());
    p.drawText(box, Qt::AlignCenter, text);
}

void AxisPicker::hover(QPointF at) {
    hover_ = axisNear(model(), session().shown().sheet, view_, canvas_.toSheet(at), 2 * reach());
    Marked lit;
    if (hover_) lit.entities.insert(hover_->entity);
    emit canvas_.pointedAt(hover_ ? SheetCanvas::tr("Turn round this line") : QString());
    canvas_.session().setPointed(std::move(lit));
}

void AxisPicker::click(QPointF /*at*/, Qt::KeyboardModifiers /*keys*/) {
    if (hover_) emit canvas_.axisPicked(hover_->ref, hover_->upright);
}

void PlacePicker::hover(QPointF at) {
    const Vec2 s = canvas_.toSheet(at);
    hover_ = snaps_ ? canvas_.snapAt(s) : Snapped{s, Snap::none, -1};
    if (!snaps_) {
        Marked lit;
        if (const int l = canvas_.picture().lineAt(s, reach()); l >= 0) lit.entities.insert(l);
        canvas_.session().setPointed(std::move(lit));
    }
    const Vec2 f = model().sheet.to_file(hover_->at);
    emit canvas_.pointedAt(
        SheetCanvas::tr("%1, %2   %3").arg(f.x, 0, 'f', 3).arg(f.y, 0, 'f', 3).arg(nameOf(hover_->kind)));
    emit canvas_.placeHovered(hover_->at);
    canvas_.update();
}

void PlacePicker::click(QPointF at, Qt::KeyboardModifiers /*keys*/) {
    emit canvas_.placePicked(hover_->at, canvas_.picture().lineAt(canvas_.toSheet(at), reach()));
}

bool PlacePicker::enough() {
    if (snaps_) emit canvas_.placesDone();
    return snaps_;
}

/// A pin prick at the place, and in words what place it is.
void PlacePicker::paintOver(QPainter& p) const {
    if (!hover_ || !snaps_) return;
    const QPointF c = canvas_.toScreen(hover_->at);
    p.setPen(QPen(theme::point(), 1.6));
    p.drawLine(c - QPointF(9, 0), c - QPointF(3, 0));
    p.drawLine(c + QPointF(3, 0), c + QPointF(9, 0));
    p.drawLine(c - QPointF(0, 9), c - QPointF(0, 3));
    p.drawLine(c + QPointF(0, 3), c + QPointF(0, 9));
    if (hover_->kind == Snap::none) return;
    p.setBrush(theme::point());
    p.drawEllipse(c, 2.4, 2.4);
    p.setFont(theme::lettering(14));
    const QString word = nameOf(hover_->kind);
    const QRectF box(c + QPointF(10, 6), QSizeF(QFontMetrics(p.font()).horizontalAdvance(word) + 10, 18));
    p.fillRect(box, theme::point());
    p.setPen(theme::film());
    p.drawText(box, Qt::AlignCenter, word);
}

void StepPlacePicker::hover(QPointF at) {
    const Vec2 s = canvas_.toSheet(at);
    Marked lit;
    hover_.reset();
    switch (of_) {
    case Of::line:
        if (const auto line = lineNear(model(), s, 2 * reach()))
            hover_ = line->ref, lit.entities.insert(line->entity);
        break;
    case Of::circle:
        hover_ = circleRound(model(), s);
        break;
    case Of::place:
        hover_ = placeIn(model(), s);
        break;
    }
    emit canvas_.pointedAt(hover_ ? SheetCanvas::tr("%1, %2 in the %3 view")
                                        .arg(hover_->at.x, 0, 'f', 2)
                                        .arg(hover_->at.y, 0, 'f', 2)
                                        .arg(QString::fromStdString(nameOf(hover_->view)))
                                  : QString());
    canvas_.session().setPointed(std::move(lit));
}

void StepPlacePicker::click(QPointF /*at*/, Qt::KeyboardModifiers /*keys*/) {
    if (hover_) emit canvas_.stepPlacePicked(*hover_);
}

bool StepPlacePicker::enough() {
    emit canvas_.placesDone();
    return true;
}

void BoxPicker::hover(QPointF at) {
    pointAt(canvas_.toSheet(at));
}

void BoxPicker::boxed(const QRectF& box, const QPolygonF& /*lasso*/, Qt::KeyboardModifiers /*keys*/) {
    emit canvas_.boxDrawn({canvas_.toSheet(box.bottomLeft()), canvas_.toSheet(box.topRight())});
}

void ProposedPicker::hover(QPointF at) {
    pointAt(canvas_.toSheet(at));
}

void ProposedPicker::click(QPointF at, Qt::KeyboardModifiers /*keys*/) {
    const Vec2 s = canvas_.toSheet(at);
    const auto& lines = canvas_.proposed();
    int nearest = -1;
    double within = reach();
    for (size_t i = 0; i < lines.size(); ++i)
        if (const double d = distanceTo(lines[i].shape, s); d < within)
            within = d, nearest = static_cast<int>(i);
    if (nearest >= 0) emit canvas_.proposedPicked({nearest});
}

void ProposedPicker::boxed(const QRectF& box, const QPolygonF& /*lasso*/, Qt::KeyboardModifiers /*keys*/) {
    const Box2 b{canvas_.toSheet(box.bottomLeft()), canvas_.toSheet(box.topRight())};
    const auto& lines = canvas_.proposed();
    std::vector<int> picked;
    for (size_t i = 0; i < lines.size(); ++i)
        if (b.contains(boxOf(lines[i].shape))) picked.push_back(static_cast<int>(i));
    if (!picked.empty()) emit canvas_.proposedPicked(picked);
}

} // namespace prism::app
