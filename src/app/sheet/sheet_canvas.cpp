#include "app/sheet/sheet_canvas.h"

#include "app/theme/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QNativeGestureEvent>
#include <QPainter>

namespace prism::app {
namespace {
constexpr double kReach = 7; ///< pixels within which a thing is pointed at
constexpr double kDrag = 5;  ///< pixels before a press becomes a drag
} // namespace

SheetCanvas::SheetCanvas(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("sheetCanvas");
    setAccessibleName(tr("Sheet canvas"));
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(240, 160);
    connect(&session, &Session::opened, this, [this] { fitted_ = moved_ = false; });
    connect(&session, &Session::changed, this, &SheetCanvas::refresh);
    connect(&session, &Session::pointedChanged, this, qOverload<>(&QWidget::update));
    connect(&session, &Session::chosenChanged, this, qOverload<>(&QWidget::update));
}

void SheetCanvas::refresh() {
    hover_area_ = nullptr, hover_mark_.reset(), hover_axis_.reset();
    picture_.rebuild(session_.shown());
    findPickedAreas();
    if (!fitted_) fit();
    update();
}

void SheetCanvas::setPicking(Picking p) {
    picking_ = p;
    hover_area_ = nullptr, hover_mark_.reset(), hover_axis_.reset();
    setCursor(p == Picking::lines ? Qt::ArrowCursor : Qt::CrossCursor);
    update();
}

void SheetCanvas::setAreas(Role view, const std::vector<Vec2>& seeds) {
    area_view_ = view, area_seeds_ = seeds;
    findPickedAreas();
    update();
}

void SheetCanvas::findPickedAreas() {
    picked_paths_.clear();
    if (area_seeds_.empty() || !session_.hasSheet()) return;
    Step picked;
    picked.view = area_view_, picked.areas = area_seeds_;
    if (const auto areas = resolveAreas(session_.model().figure, AreaSets(session_.model().figure), picked))
        for (const ClosedArea& a : *areas) picked_paths_.push_back(areaPath(a));
}

void SheetCanvas::setMarkAxis(std::optional<Axis> axis, std::optional<Role> notIn) {
    mark_axis_ = axis, mark_not_in_ = notIn;
}

void SheetCanvas::setHint(const QString& hint) {
    hint_ = hint;
    update();
}

void SheetCanvas::setShowProof(bool on) {
    show_proof_ = on;
    update();
}

void SheetCanvas::fit() {
    const Box2 views = whole_sheet_ ? Box2{} : picture_.viewsBox();
    const Box2 b = views.valid() ? views : picture_.box();
    if (!b.valid() || width() < 10) return;
    centre_ = b.centre();
    scale_ =
        std::min((width() - 24) / std::max(b.width(), 1e-9), (height() - 24) / std::max(b.height(), 1e-9));
    fitted_ = true, moved_ = false;
    update();
}

void SheetCanvas::setFitWholeSheet(bool whole) {
    if (whole == std::exchange(whole_sheet_, whole)) return;
    if (session_.hasSheet() && !moved_) fit();
}

void SheetCanvas::lookAt(const std::vector<Vec2>& places) {
    Box2 b;
    for (Vec2 p : places) b.add(p);
    if (!b.valid()) return;
    const Box2 seen{toSheet({0.0, double(height())}), toSheet({double(width()), 0.0})};
    if (!seen.contains(b)) centre_ = b.centre();
    update();
}

QPointF SheetCanvas::toScreen(Vec2 s) const {
    return {width() / 2.0 + (s.x - centre_.x) * scale_, height() / 2.0 - (s.y - centre_.y) * scale_};
}

Vec2 SheetCanvas::toSheet(QPointF p) const {
    return {centre_.x + (p.x() - width() / 2.0) / scale_, centre_.y - (p.y() - height() / 2.0) / scale_};
}

QTransform SheetCanvas::world() const {
    return QTransform(scale_, 0, 0, -scale_, width() / 2.0 - centre_.x * scale_,
                      height() / 2.0 + centre_.y * scale_);
}

void SheetCanvas::resizeEvent(QResizeEvent*) {
    if (session_.hasSheet() && !moved_) fit();
}

void SheetCanvas::zoomAt(QPointF at, double factor) {
    moved_ = true;
    const Vec2 keep = toSheet(at);
    scale_ = std::clamp(scale_ * factor, 1e-6, 1e7);
    const Vec2 now = toSheet(at);
    centre_ = centre_ + keep - now;
    update();
}

const ClosedArea* SheetCanvas::areaAt(Vec2 sheet) const {
    const Model& m = session_.model();
    for (const FigureView& v : m.figure.views) {
        const Vec2 p = v.to_model(sheet);
        for (const ClosedArea& a : m.areas)
            if (a.view == v.view && a.contains(p)) return &a;
    }
    return nullptr;
}

std::optional<SheetCanvas::HoverMark> SheetCanvas::markAt(Vec2 sheet) const {
    const Model& m = session_.model();
    std::optional<HoverMark> best;
    double nearest = 2 * kReach / scale_;
    for (const Mark& k : m.figure.marks) {
        const FigureView& v = *m.figure.viewById(k.view);
        if (mark_axis_ && k.axis != *mark_axis_) continue;
        if (mark_not_in_ && v.role == *mark_not_in_) continue;
        const bool right = v.axes.right == k.axis;
        const double now = m.figure.value(k.terms, m.figure.now);
        const Vec2 at = v.to_model(sheet);
        const double away = std::abs((right ? at.x : at.y) - now) / m.views.views[v.view].mm_per_sheet;
        if (away >= nearest || !v.box.grown(0.15 * m.figure.size).contains(at)) continue;
        nearest = away;
        // Kept as drawn: the other coordinate says which of several marks at this value is meant.
        const double other =
            k.others.empty() ? 0
                             : *std::min_element(k.others.begin(), k.others.end(), [&](double a, double b) {
                                   const double o = right ? at.y : at.x;
                                   return std::abs(a - o) < std::abs(b - o);
                               });
        best = HoverMark{{v.role, right ? Vec2{k.value, other} : Vec2{other, k.value}},
                         now,
                         k.axis,
                         v.to_model.inverse()(right ? Vec2{now, at.y} : Vec2{at.x, now})};
    }
    return best;
}

/// The centre line (or straight line of the part) of the view nearest to the pointer that runs along an axis.
std::optional<SheetCanvas::HoverAxis> SheetCanvas::axisAt(Vec2 sheet) const {
    const Model& m = session_.model();
    const FigureView* v = m.figure.viewWithRole(axis_view_);
    if (!v) return std::nullopt;
    std::optional<HoverAxis> best;
    double nearest = 2 * kReach / scale_;
    for (const SheetPicture::Line& l : picture_.lines()) {
        const bool centre = l.role == LineRole::centre;
        if (l.view != v->view || l.curves.size() != 1) continue;
        const auto* now = std::get_if<Segment>(&l.curves[0]);
        const auto* drawn = std::get_if<Segment>(&m.drawing.entities[l.entity].curves[0]);
        if (!now || !drawn) continue;
        const double away =
            distanceTo(*now, sheet) * (centre ? 0.5 : 1); // centre lines are what is meant most often
        const Vec2 d = drawn->b - drawn->a;
        const bool upright = std::abs(d.x) < 1e-6 * length(d), level = std::abs(d.y) < 1e-6 * length(d);
        if (away >= nearest || upright == level) continue;
        nearest = away;
        best = HoverAxis{l.entity, upright, v->to_model((drawn->a + drawn->b) * 0.5)};
    }
    return best;
}

void SheetCanvas::describe(int line, int dimension) {
    const Model& m = session_.model();
    if (dimension >= 0) {
        for (const LedgerEntry& e : m.ledger.entries)
            if (e.dimension == dimension)
                return emit pointedAt(tr("%1 = %2 (%3). Double-click to change it.")
                                          .arg(QString::fromStdString(e.name),
                                               QString::fromStdString(m.drawing.dimensions[dimension].text),
                                               nameOf(e.state)));
        return;
    }
    if (line < 0) return emit pointedAt({});
    const Entity& e = m.drawing.entities[line];
    const int v = m.views.view_of_entity[line];
    const QString view = v >= 0 ? tr("%1 view").arg(nameOf(m.views.views[v].role)) : tr("in no view");
    emit pointedAt(tr("%1 on layer %2, %3, %4")
                       .arg(QString::fromStdString(e.type),
                            QString::fromStdString(m.drawing.layers[e.layer].name),
                            nameOf(m.sheet.entity_roles[line]), view));
}

void SheetCanvas::hover(QPointF at) {
    if (!session_.hasSheet()) return;
    const Vec2 s = toSheet(at);
    if (picking_ == Picking::areas) {
        hover_area_ = areaAt(s);
        emit pointedAt(hover_area_ ? tr("Area of %1 mm²").arg(hover_area_->area, 0, 'f', 2) : QString());
        return update();
    }
    if (picking_ == Picking::mark) {
        hover_mark_ = markAt(s);
        emit pointedAt(hover_mark_ ? tr("%1 = %2 mm").arg(nameOf(hover_mark_->axis)).arg(hover_mark_->value)
                                   : QString());
        return update();
    }
    if (picking_ == Picking::axis) {
        hover_axis_ = axisAt(s);
        Marked lit;
        if (hover_axis_) lit.entities.insert(hover_axis_->line);
        emit pointedAt(hover_axis_ ? tr("Turn round this line") : QString());
        return session_.setPointed(std::move(lit));
    }
    Marked m;
    const int d = picture_.dimensionAt(s, kReach / scale_);
    const int l = d >= 0 ? -1 : picture_.lineAt(s, kReach / scale_);
    if (d >= 0) {
        for (const LedgerEntry& e : session_.model().ledger.entries)
            if (e.dimension == d) m = session_.markedOf(e);
        m.dimensions.insert(d);
    }
    if (l >= 0) m.entities.insert(l);
    describe(l, d);
    session_.setPointed(std::move(m));
}

void SheetCanvas::chooseAt(QPointF at, bool add) {
    Marked m = add ? session_.chosen() : Marked{};
    auto flip = [](std::set<int>& s, int i) {
        if (!s.erase(i)) s.insert(i);
    };
    const Vec2 s = toSheet(at);
    if (const int d = picture_.dimensionAt(s, kReach / scale_); d >= 0)
        flip(m.dimensions, d);
    else if (const int l = picture_.lineAt(s, kReach / scale_); l >= 0)
        flip(m.entities, l);
    session_.setChosen(std::move(m));
}

void SheetCanvas::chooseBox(const QRectF& box, bool add) {
    Marked m = add ? session_.chosen() : Marked{};
    const Vec2 a = toSheet(box.bottomLeft()), b = toSheet(box.topRight());
    const Box2 in{{std::min(a.x, b.x), std::min(a.y, b.y)}, {std::max(a.x, b.x), std::max(a.y, b.y)}};
    for (const SheetPicture::Line& l : picture_.lines())
        if (in.contains(l.box)) m.entities.insert(l.entity);
    session_.setChosen(std::move(m));
}

void SheetCanvas::mousePressEvent(QMouseEvent* e) {
    if (e->button() == Qt::LeftButton) press_ = e->position();
    if (e->button() == Qt::RightButton || e->button() == Qt::MiddleButton) pan_ = e->position();
}

void SheetCanvas::mouseMoveEvent(QMouseEvent* e) {
    if (pan_) {
        const QPointF d = e->position() - *pan_;
        centre_ = centre_ + Vec2{-d.x() / scale_, d.y() / scale_};
        pan_ = e->position();
        moved_ = true;
        return update();
    }
    if (press_ && picking_ == Picking::lines &&
        (!rubber_.isNull() || QLineF(*press_, e->position()).length() > kDrag)) {
        rubber_ = QRectF(*press_, e->position()).normalized();
        return update();
    }
    hover(e->position());
}

void SheetCanvas::mouseReleaseEvent(QMouseEvent* e) {
    pan_.reset();
    if (e->button() != Qt::LeftButton || !press_ || !session_.hasSheet()) return;
    press_.reset();
    const bool add = e->modifiers() & (Qt::ControlModifier | Qt::ShiftModifier);
    if (!rubber_.isNull()) {
        const QRectF box = std::exchange(rubber_, {});
        chooseBox(box, add);
        return update();
    }
    hover(e->position());
    if (picking_ == Picking::areas) {
        if (!hover_area_) return;
        // The point is kept as drawn: the area is found again wherever the figure moves it.
        const Figure& f = session_.model().figure;
        Vec2 seed = hover_area_->seed;
        if (f.now != f.drawn)
            for (const ClosedArea& a : closedAreas(session_.model().drawn, f.drawn))
                if (a.view == hover_area_->view && a.bounds == hover_area_->bounds) seed = a.seed;
        emit areaPicked(f.viewById(hover_area_->view)->role, seed);
    } else if (picking_ == Picking::mark) {
        if (!hover_mark_) return;
        const HoverMark m = *hover_mark_;
        emit markPicked(m.ref, m.value);
    } else if (picking_ == Picking::axis) {
        if (hover_axis_) emit axisPicked({axis_view_, hover_axis_->at}, hover_axis_->upright);
    } else
        chooseAt(e->position(), add);
}

void SheetCanvas::mouseDoubleClickEvent(QMouseEvent* e) {
    if (!session_.hasSheet() || picking_ != Picking::lines) return;
    if (const int d = picture_.dimensionAt(toSheet(e->position()), kReach / scale_); d >= 0)
        emit dimensionActivated(d);
}

void SheetCanvas::wheelEvent(QWheelEvent* e) {
    if (e->pixelDelta().isNull() || e->source() == Qt::MouseEventNotSynthesized)
        zoomAt(e->position(), std::pow(1.0015, e->angleDelta().y()));
    else { // two fingers on a touchpad move the sheet
        centre_ = centre_ + Vec2{-e->pixelDelta().x() / scale_, e->pixelDelta().y() / scale_};
        update();
    }
}

bool SheetCanvas::event(QEvent* e) {
    if (e->type() == QEvent::NativeGesture) {
        const auto* g = static_cast<QNativeGestureEvent*>(e);
        if (g->gestureType() == Qt::ZoomNativeGesture) return zoomAt(g->position(), 1 + g->value()), true;
    }
    return QWidget::event(e);
}

void SheetCanvas::keyPressEvent(QKeyEvent* e) {
    const double step = 40 / scale_;
    switch (e->key()) {
    case Qt::Key_Left:
        centre_.x -= step;
        break;
    case Qt::Key_Right:
        centre_.x += step;
        break;
    case Qt::Key_Up:
        centre_.y += step;
        break;
    case Qt::Key_Down:
        centre_.y -= step;
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        return zoomAt(rect().center(), 1.25);
    case Qt::Key_Minus:
        return zoomAt(rect().center(), 0.8);
    case Qt::Key_Home:
        return fit();
    case Qt::Key_Escape:
        if (picking_ != Picking::lines) return emit pickingLeft();
        return session_.setChosen({});
    default:
        return QWidget::keyPressEvent(e);
    }
    update();
}

void SheetCanvas::leaveEvent(QEvent*) {
    hover_area_ = nullptr, hover_mark_.reset(), hover_axis_.reset();
    session_.setPointed({});
    emit pointedAt({});
    update();
}

QPainterPath SheetCanvas::areaPath(const ClosedArea& a) const {
    const Affine2 back = session_.model().figure.viewById(a.view)->to_model.inverse();
    QPainterPath path;
    path.setFillRule(Qt::OddEvenFill);
    auto add = [&](const Loop& l) {
        QPolygonF poly;
        for (const AreaEdge& e : l)
            for (Vec2 p : sampled(e.shape, boxOf(e.shape).diagonal() * 1e-3)) {
                const Vec2 s = back(p);
                poly.push_back({s.x, s.y});
            }
        path.addPolygon(poly);
        path.closeSubpath();
    };
    add(a.outer);
    for (const Loop& h : a.holes) add(h);
    return path;
}

void SheetCanvas::paintAreas(QPainter& p) {
    QColor fill = theme::point();
    fill.setAlpha(90);
    for (const QPainterPath& path : picked_paths_) p.fillPath(path, QBrush(fill));
    if (!hover_area_) return;
    fill.setAlpha(60);
    p.fillPath(areaPath(*hover_area_), QBrush(fill));
    QPen pen(theme::point(), 2);
    pen.setCosmetic(true);
    p.strokePath(areaPath(*hover_area_), pen);
}

void SheetCanvas::paintMarked(QPainter& p, const Marked& m, const QColor& color, double width) {
    QPen pen(color, width);
    pen.setCosmetic(true);
    pen.setCapStyle(Qt::RoundCap);
    p.setBrush(Qt::NoBrush);
    for (const SheetPicture::Line& l : picture_.lines())
        if (m.entities.contains(l.entity)) p.strokePath(l.path, pen);
    for (int d : m.dimensions) picture_.paintDimension(p, d, scale_, color, 1.8);
}

void SheetCanvas::paintProof(QPainter& p) {
    const Model& m = session_.model();
    if (!m.proof) return;
    for (const ViewProof& v : m.proof->views) {
        const Affine2 back = m.figure.viewById(v.view)->to_model.inverse();
        for (const ProofPiece& piece : v.pieces) {
            if (piece.state == LineState::matched) continue;
            const Curve c = transformed(piece.shape, back);
            QPen pen(theme::signal(), 3);
            pen.setCosmetic(true);
            if (piece.state == LineState::extra) pen.setDashPattern({2, 1.5});
            p.strokePath(pathOf(c), pen);
            // Told by shape as well: a gap mark for what is missing, a plus for what is too much.
            const Vec2 at = pointAt(c, 0.5);
            const double s = 5 / scale_;
            QPen sign(theme::signal(), 1.6);
            sign.setCosmetic(true);
            p.setPen(sign);
            p.setBrush(theme::film());
            p.drawEllipse(QPointF(at.x, at.y), s, s);
            p.drawLine(QPointF(at.x - s * 0.6, at.y), QPointF(at.x + s * 0.6, at.y));
            if (piece.state == LineState::extra)
                p.drawLine(QPointF(at.x, at.y - s * 0.6), QPointF(at.x, at.y + s * 0.6));
        }
    }
}

void SheetCanvas::paintOverlay(QPainter& p) {
    const Model& m = session_.model();
    for (const View& v : m.views.views) { // letter tags, at the upper left of every view
        Box2 b;
        for (const SheetPicture::Line& l : picture_.lines())
            if (l.view == v.id) b.add(l.box);
        if (!b.valid()) continue;
        const QPointF corner = toScreen({b.lo.x, b.hi.y}) + QPointF(-6, -26);
        theme::drawTag(p, v.role, QRectF(corner, QSizeF(20, 18)));
    }
    for (const Marked* k : {&session_.chosen(), &session_.pointed()})
        for (Vec2 place : k->places) theme::drawEvidence(p, toScreen(place));
    if (hover_mark_) {
        const Role role = hover_mark_->ref.view;
        const FigureView& v = *m.figure.viewWithRole(role);
        const bool upright = v.axes.right == hover_mark_->axis;
        const QPointF c = toScreen(hover_mark_->sheet);
        p.setPen(QPen(theme::point(), 1.6, Qt::DashLine));
        p.drawLine(upright ? QPointF(c.x(), 0) : QPointF(0, c.y()),
                   upright ? QPointF(c.x(), height()) : QPointF(width(), c.y()));
        const QString text = QString("%1 = %2").arg(nameOf(hover_mark_->axis)).arg(hover_mark_->value);
        p.setFont(theme::lettering(15));
        const QRectF box(c + QPointF(8, -26),
                         QSizeF(QFontMetrics(p.font()).horizontalAdvance(text) + 12, 20));
        p.fillRect(box, theme::point());
        p.setPen(theme::film());
        p.drawText(box, Qt::AlignCenter, text);
    }
    if (!rubber_.isNull()) {
        QColor fill = theme::point();
        p.setPen(QPen(fill, 1));
        fill.setAlpha(30);
        p.setBrush(fill);
        p.drawRect(rubber_);
    }
    if (!hint_.isEmpty()) {
        QFont f = font();
        f.setPixelSize(13);
        f.setBold(true);
        p.setFont(f);
        const QRectF box(12, height() - 36, QFontMetrics(f).horizontalAdvance(hint_) + 22, 26);
        p.fillRect(box, theme::point());
        p.setPen(theme::film());
        p.drawText(box, Qt::AlignCenter, hint_);
    }
}

void SheetCanvas::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), theme::film());
    if (!session_.hasSheet()) return;
    p.setRenderHint(QPainter::Antialiasing);
    const Box2 visible{toSheet({0.0, double(height())}), toSheet({double(width()), 0.0})};
    p.setTransform(world());
    picture_.paintViews(p, session_.shown(), scale_);
    paintAreas(p);
    picture_.paintLines(p, scale_, visible);
    for (int i = 0; i < static_cast<int>(picture_.dimensions().size()); ++i)
        picture_.paintDimension(p, i, scale_, QColor(0x4a, 0x62, 0x6e), 1);
    picture_.paintTexts(p, session_.shown(), scale_, visible);
    paintMarked(p, session_.chosen(), theme::point(), 3.4);
    paintMarked(p, session_.pointed(), theme::point(), 2.6);
    if (show_proof_) paintProof(p);
    p.resetTransform();
    paintOverlay(p);
}

} // namespace prism::app
