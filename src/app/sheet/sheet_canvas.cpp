#include "app/sheet/sheet_canvas.h"

#include "app/session/navigation.h"
#include "app/theme/theme.h"
#include "core/drawing/kind_words.h"
#include "core/marking/choosing.h"
#include "core/tracing/follow_ink.h"
#include "core/tracing/placing.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QNativeGestureEvent>
#include <QPainter>

namespace prism::app {
namespace {
constexpr double kReach = 7; ///< pixels within which a thing is pointed at
constexpr double kDrag = 5;  ///< pixels before a press becomes a drag
constexpr double kTags = 52; ///< pixels above and below the views for their tags

} // namespace

SheetCanvas::SheetCanvas(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("sheetCanvas");
    setAccessibleName(tr("Sheet canvas"));
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(240, 160);
    rest_.setSingleShot(true);
    rest_.setInterval(140);
    connect(&rest_, &QTimer::timeout, this, qOverload<>(&QWidget::update));
    connect(&session, &Session::opened, this, [this] { fitted_ = moved_ = false; });
    connect(&session, &Session::changed, this, &SheetCanvas::refresh);
    connect(&session, &Session::pointedChanged, this, qOverload<>(&QWidget::update));
    connect(&session, &Session::chosenChanged, this, qOverload<>(&QWidget::update));
}

void SheetCanvas::refresh() {
    hover_area_ = nullptr, hover_mark_.reset(), hover_axis_.reset(), hover_snap_.reset();
    const Model& m = session_.model();
    const SolvedSheet drawn = as_drawn_ ? sheetAsDrawn(m) : SolvedSheet{};
    const SolvedSheet& sheet = as_drawn_ ? drawn : session_.shown().sheet;
    drawing_shown_ = drawingAsShown(m, sheet);
    picture_.rebuild(m, sheet);
    backdrop_.rebuild(m.drawing->pictures);
    fold_lines_.rebuild(session_.shown(), session_.choices().views);
    hover_fold_ = -1;
    film_.pixels = {};
    findPickedAreas();
    if (!fitted_) fit();
    update();
}

void SheetCanvas::showAsDrawn(bool on) {
    if (std::exchange(as_drawn_, on) != on && session_.hasSheet()) refresh();
}

void SheetCanvas::setPicking(Picking p) {
    picking_ = p;
    hover_area_ = nullptr, hover_mark_.reset(), hover_axis_.reset(), hover_snap_.reset();
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
    if (const auto found = resolveAreas(session_.model().figure, session_.model().areas, picked))
        for (const ClosedArea& a : found->areas) picked_paths_.push_back(areaPath(a));
}

void SheetCanvas::setHint(const QString& hint) {
    hint_ = hint;
    update();
}

void SheetCanvas::setShowProof(bool on) {
    show_proof_ = on;
    update();
}

void SheetCanvas::setShowFoldLines(bool on) {
    show_fold_lines_ = on;
    hover_fold_ = -1;
    update();
}

void SheetCanvas::setShowProjectors(bool on) {
    show_projectors_ = on;
    update();
}

void SheetCanvas::setDarkPaper(bool on) {
    if (std::exchange(dark_, on) == on) return;
    film_.pixels = {};
    update();
}

/// A fold line under the pointer may be taken hold of.
void SheetCanvas::hoverFoldLine(QPointF at) {
    const int now = show_fold_lines_ && picking_ == Picking::lines ? fold_lines_.at(at, world()) : -1;
    if (now == std::exchange(hover_fold_, now)) return;
    if (picking_ == Picking::lines) setCursor(now >= 0 ? Qt::OpenHandCursor : Qt::ArrowCursor);
    update();
}

void SheetCanvas::fit() {
    const Box2 views = whole_sheet_ ? Box2{} : picture_.viewsBox();
    Box2 b = views.valid() ? views : picture_.box();
    if (!views.valid() && session_.hasSheet())
        for (const Picture& p : session_.model().drawing->pictures)
            for (Vec2 c : p.corners()) b.add(c);
    if (!b.valid() || width() < 10) return;
    centre_ = b.centre();
    scale_ =
        std::min((width() - 24) / std::max(b.width(), 1e-9), (height() - kTags) / std::max(b.height(), 1e-9));
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

void SheetCanvas::lookClose(Vec2 place) {
    centre_ = place;
    scale_ = std::max(scale_, 60 / std::max(1e-9, session_.model().sheet.gap * 2));
    moved_ = true;
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

void SheetCanvas::viewMoves() {
    rest_.start();
    update();
}

void SheetCanvas::zoomAt(QPointF at, double factor) {
    moved_ = true;
    const Vec2 keep = toSheet(at);
    scale_ = std::clamp(scale_ * factor, 1e-6, 1e7);
    const Vec2 now = toSheet(at);
    centre_ = centre_ + keep - now;
    viewMoves();
}

void SheetCanvas::describe(int line, int dimension) {
    const Model& m = session_.model();
    if (dimension >= 0) {
        for (const LedgerEntry& e : m.ledger.entries)
            if (e.dimension == dimension)
                return emit pointedAt(tr("%1 = %2 (%3). Double-click to change it.")
                                          .arg(QString::fromStdString(e.name),
                                               QString::fromStdString(m.drawing->dimensions[dimension].text),
                                               nameOf(e.state)));
        return;
    }
    if (line < 0) return emit pointedAt({});
    const Entity& e = m.drawing->entities[line];
    const int v = m.views.view_of_entity[line];
    const QString view = v >= 0 ? tr("%1 view").arg(nameOf(m.views.views[v].role)) : tr("in no view");
    emit pointedAt(tr("%1 on layer %2, %3, %4")
                       .arg(sentence(inWords(e.type)),
                            QString::fromStdString(m.drawing->layers[e.layer].name),
                            nameOf(m.sheet.entity_roles[line]), view));
}

void SheetCanvas::hover(QPointF at) {
    if (!session_.hasSheet()) return;
    const Vec2 s = toSheet(at);
    if (picking_ == Picking::place || picking_ == Picking::line) return hoverPlace(s);
    if (picking_ == Picking::areas) {
        hover_area_ = prism::areaAt(session_.model(), s);
        emit pointedAt(hover_area_ ? tr("Area of %1 mm²").arg(hover_area_->area, 0, 'f', 2) : QString());
        return update();
    }
    if (picking_ == Picking::mark) {
        hover_mark_ = markNear(session_.model(), s, 2 * kReach / scale_, mark_filter_);
        emit pointedAt(hover_mark_ ? tr("%1 = %2 mm").arg(nameOf(hover_mark_->axis)).arg(hover_mark_->value)
                                   : QString());
        return update();
    }
    if (picking_ == Picking::axis) {
        hover_axis_ = axisNear(session_.model(), session_.shown().sheet, axis_view_, s, 2 * kReach / scale_);
        Marked lit;
        if (hover_axis_) lit.entities.insert(hover_axis_->entity);
        emit pointedAt(hover_axis_ ? tr("Turn round this line") : QString());
        return session_.setPointed(std::move(lit));
    }
    hoverFoldLine(at);
    if (hover_fold_ >= 0) {
        const FoldLine& f = fold_lines_.lines()[hover_fold_];
        emit pointedAt(tr("Fold line, %1 mm from the part. Drag to move it.").arg(f.gap(), 0, 'f', 2));
        return session_.setPointed({});
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

void SheetCanvas::chooseWithin(const QPolygonF& outline, bool crossing, bool add) {
    Marked m = add ? session_.chosen() : Marked{};
    std::vector<Vec2> polygon;
    for (const QPointF& p : outline) polygon.push_back(toSheet(p));
    const Model& model = session_.model();
    m.entities.merge(prism::chooseWithin(*drawing_shown_, model.sheet.in_use, polygon, crossing));
    session_.setChosen(std::move(m));
}

bool SheetCanvas::isFence(const QPolygonF& lasso) {
    if (lasso.size() < 2) return false;
    double way = 0;
    for (qsizetype i = 1; i < lasso.size(); ++i) way += QLineF(lasso[i - 1], lasso[i]).length();
    return QLineF(lasso.first(), lasso.last()).length() > way / 3;
}

void SheetCanvas::chooseCrossed(const QPolygonF& fence, bool add) {
    Marked m = add ? session_.chosen() : Marked{};
    std::vector<Vec2> chain;
    for (const QPointF& p : fence) chain.push_back(toSheet(p));
    m.entities.merge(prism::chooseCrossed(*drawing_shown_, session_.model().sheet.in_use, chain));
    session_.setChosen(std::move(m));
}

void SheetCanvas::setGhost(std::vector<Curve> curves) {
    ghost_ = std::move(curves);
    update();
}

Snapped SheetCanvas::snapAt(Vec2 at) const {
    const Model& m = session_.model();
    const double reach = 1.6 * kReach / scale_;
    const Snapped s = snapNear(*drawing_shown_, m.sheet.in_use, at, reach, snap_from_);
    if (s.kind != Snap::none) return s;
    const int picture = pictureAt(m.drawing->pictures, at);
    if (picture < 0) return s;
    const auto ink = inkNear(m.drawing->pictures[picture], at, reach);
    return ink ? Snapped{*ink, Snap::ink, -1} : s;
}

void SheetCanvas::setProposed(std::vector<Proposed> lines) {
    proposed_ = std::move(lines);
    update();
}

void SheetCanvas::setBackdrop(const std::vector<Picture>& pictures) {
    backdrop_.rebuild(pictures);
    film_.pixels = {};
    update();
}

void SheetCanvas::setBackdropStrength(double strength) {
    backdrop_.setStrength(strength);
    film_.pixels = {};
    update();
}

/// Those that lie within a box, or the nearest to a click.
void SheetCanvas::pickProposed(const QRectF& screen) {
    const Vec2 a = toSheet(screen.bottomLeft()), b = toSheet(screen.topRight());
    std::vector<int> picked;
    double nearest = kReach / scale_;
    for (int i = 0; i < static_cast<int>(proposed_.size()); ++i) {
        const Curve& c = proposed_[i].shape;
        if (!screen.isNull()) {
            if (Box2{a, b}.contains(boxOf(c))) picked.push_back(i);
        } else if (const double d = distanceTo(c, a); d < nearest)
            nearest = d, picked = {i};
    }
    if (!picked.empty()) emit proposedPicked(picked);
}

void SheetCanvas::hoverPlace(Vec2 at) {
    const Model& m = session_.model();
    hover_snap_ = picking_ == Picking::line ? Snapped{at, Snap::none, -1} : snapAt(at);
    if (picking_ == Picking::line) {
        Marked lit;
        if (const int l = picture_.lineAt(at, kReach / scale_); l >= 0) lit.entities.insert(l);
        session_.setPointed(std::move(lit));
    }
    const Vec2 f = m.sheet.to_file(hover_snap_->at);
    emit pointedAt(tr("%1, %2   %3").arg(f.x, 0, 'f', 3).arg(f.y, 0, 'f', 3).arg(nameOf(hover_snap_->kind)));
    emit placeHovered(hover_snap_->at);
    update();
}

void SheetCanvas::mousePressEvent(QMouseEvent* e) {
    const bool moves = e->button() == Qt::RightButton || Navigation::mine().moves(e);
    // The left button chooses; it moves the sheet only with the key that a person set for it.
    if (moves && (e->button() != Qt::LeftButton || e->modifiers() != Qt::NoModifier))
        return pan_ = e->position(), void();
    if (e->button() != Qt::LeftButton) return;
    press_ = e->position();
    if (session_.hasSheet()) hoverFoldLine(e->position());
    if (hover_fold_ >= 0) fold_lines_.grab(hover_fold_, toSheet(e->position()));
}

void SheetCanvas::mouseMoveEvent(QMouseEvent* e) {
    if (pan_) {
        const QPointF d = e->position() - *pan_;
        centre_ = centre_ + Vec2{-d.x() / scale_, d.y() / scale_};
        pan_ = e->position();
        moved_ = true;
        return viewMoves();
    }
    if (fold_lines_.held() >= 0) return fold_lines_.drag(toSheet(e->position())), update();
    const bool boxes =
        picking_ == Picking::lines || picking_ == Picking::box || picking_ == Picking::proposed;
    if (press_ && boxes && (!rubber_.isNull() || QLineF(*press_, e->position()).length() > kDrag)) {
        rubber_ = QRectF(*press_, e->position()).normalized();
        if (picking_ == Picking::lines && e->modifiers() & Qt::AltModifier) {
            if (lasso_.isEmpty()) lasso_ << *press_;
            lasso_ << e->position();
        }
        return update();
    }
    hover(e->position());
}

void SheetCanvas::mouseReleaseEvent(QMouseEvent* e) {
    pan_.reset();
    if (e->button() != Qt::LeftButton || !press_ || !session_.hasSheet()) return;
    press_.reset();
    if (const int line = fold_lines_.held(); line >= 0) {
        if (const double by = fold_lines_.release(); std::abs(by) * scale_ > 1) emit foldLineMoved(line, by);
        return update();
    }
    const bool add = e->modifiers() & (Qt::ControlModifier | Qt::ShiftModifier);
    // A lasso may end where it began, which leaves no box.
    if (!rubber_.isNull() || !lasso_.isEmpty()) {
        const QRectF box = std::exchange(rubber_, {});
        const QPolygonF lasso = std::exchange(lasso_, {});
        if (picking_ == Picking::box) emit boxDrawn({toSheet(box.bottomLeft()), toSheet(box.topRight())});
        if (picking_ == Picking::proposed) pickProposed(box);
        if (picking_ != Picking::lines) return update();
        const bool crossing = e->modifiers() & Qt::ShiftModifier, more = e->modifiers() & Qt::ControlModifier;
        if (isFence(lasso))
            chooseCrossed(lasso, more);
        else if (lasso.size() > 2)
            chooseWithin(lasso, crossing, more);
        else
            chooseWithin(QPolygonF(QVector<QPointF>{box.topLeft(), box.topRight(), box.bottomRight(),
                                                    box.bottomLeft()}),
                         crossing, more);
        return update();
    }
    hover(e->position());
    if (picking_ == Picking::areas) {
        if (!hover_area_) return;
        emit areaPicked(session_.model().figure.viewById(hover_area_->view)->role,
                        seedAsDrawn(session_.model(), *hover_area_));
    } else if (picking_ == Picking::mark) {
        if (!hover_mark_) return;
        const PickedMark m = *hover_mark_;
        emit markPicked(m.ref, m.value);
    } else if (picking_ == Picking::place || picking_ == Picking::line) {
        const Vec2 at = toSheet(e->position());
        emit placePicked(hover_snap_->at, picture_.lineAt(at, kReach / scale_));
    } else if (picking_ == Picking::axis) {
        if (hover_axis_) emit axisPicked(hover_axis_->ref, hover_axis_->upright);
    } else if (picking_ == Picking::proposed) {
        pickProposed(QRectF(e->position(), QSizeF(0, 0)));
    } else if (picking_ != Picking::box)
        chooseAt(e->position(), add);
}

void SheetCanvas::mouseDoubleClickEvent(QMouseEvent* e) {
    if (picking_ == Picking::place || picking_ == Picking::proposed)
        press_ = e->position(); // the same once more
    if (!session_.hasSheet() || picking_ != Picking::lines) return;
    if (const int d = picture_.dimensionAt(toSheet(e->position()), kReach / scale_); d >= 0)
        emit dimensionActivated(d);
}

void SheetCanvas::wheelEvent(QWheelEvent* e) {
    const Navigation::Habits& h = Navigation::mine().habits();
    const bool fingers = !e->pixelDelta().isNull() && e->source() != Qt::MouseEventNotSynthesized;
    if (!fingers || h.fingers == Navigation::Fingers::zoom)
        zoomAt(e->position(), std::pow(1.0015, e->angleDelta().y() * (h.wheel_forward_is_nearer ? 1 : -1)));
    else { // two fingers on a touchpad move the sheet
        centre_ = centre_ + Vec2{-e->pixelDelta().x() / scale_, e->pixelDelta().y() / scale_};
        viewMoves();
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
    using Act = Navigation::Act;
    const double step = 40 / scale_;
    switch (Navigation::mine().actOf(e)) {
    case Act::turn_left: // a sheet does not turn: the same keys move it
    case Act::move_left:
        centre_.x -= step;
        return viewMoves();
    case Act::turn_right:
    case Act::move_right:
        centre_.x += step;
        return viewMoves();
    case Act::turn_up:
    case Act::move_up:
        centre_.y += step;
        return viewMoves();
    case Act::turn_down:
    case Act::move_down:
        centre_.y -= step;
        return viewMoves();
    case Act::nearer:
        return zoomAt(rect().center(), 1.25);
    case Act::farther:
        return zoomAt(rect().center(), 0.8);
    case Act::all:
        return fit();
    default:
        break;
    }
    switch (e->key()) {
    case Qt::Key_Return:
    case Qt::Key_Enter:
        return picking_ == Picking::place ? emit placesDone() : QWidget::keyPressEvent(e);
    case Qt::Key_Escape:
        if (picking_ != Picking::lines) return emit pickingLeft();
        return session_.setChosen({});
    default:
        return QWidget::keyPressEvent(e);
    }
}

void SheetCanvas::leaveEvent(QEvent*) {
    hover_area_ = nullptr, hover_mark_.reset(), hover_axis_.reset(), hover_snap_.reset();
    session_.setPointed({});
    emit pointedAt({});
    update();
}

} // namespace prism::app
