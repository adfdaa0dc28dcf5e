#include "app/sheet/sheet_canvas.h"

#include "app/session/navigation.h"
#include "app/theme/theme.h"
#include "core/tracing/follow_ink.h"
#include "core/tracing/placing.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QNativeGestureEvent>
#include <QPainter>

namespace prism::app {
namespace {
constexpr double kReach = 11; ///< pixels within which a place snaps
constexpr double kDrag = 5;   ///< pixels before a press becomes a drag
constexpr double kTags = 52;  ///< pixels above and below the views for their tags

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
    picker_->forget();
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
    picker_->forget();
    const std::pair<Picking, Picker*> pickers[] = {{Picking::lines, &lines_},
                                                   {Picking::areas, &areas_},
                                                   {Picking::mark, &marks_},
                                                   {Picking::axis, &axes_},
                                                   {Picking::place, &places_},
                                                   {Picking::line, &on_lines_},
                                                   {Picking::part_line, &part_lines_},
                                                   {Picking::circle, &circles_},
                                                   {Picking::view_place, &view_places_},
                                                   {Picking::box, &boxes_},
                                                   {Picking::proposed, &proposals_}};
    for (const auto& [picking, picker] : pickers)
        if (picking == p) picker_ = picker;
    setCursor(p == Picking::lines ? Qt::ArrowCursor : Qt::CrossCursor);
    update();
}

void SheetCanvas::setAreas(const ViewName& view, const std::vector<Vec2>& seeds) {
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

void SheetCanvas::hoverFoldLine(QPointF at) {
    const int now = show_fold_lines_ && picker_ == &lines_ ? fold_lines_.at(at, world()) : -1;
    if (now == std::exchange(hover_fold_, now)) return;
    if (picker_ == &lines_) setCursor(now >= 0 ? Qt::OpenHandCursor : Qt::ArrowCursor);
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

void SheetCanvas::setGhost(std::vector<Curve> curves) {
    ghost_ = std::move(curves);
    update();
}

Snapped SheetCanvas::snapAt(Vec2 at) const {
    const Model& m = session_.model();
    const double reach = kReach / scale_;
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
    if (press_ && picker_->drawsBoxes() &&
        (!rubber_.isNull() || QLineF(*press_, e->position()).length() > kDrag)) {
        rubber_ = QRectF(*press_, e->position()).normalized();
        if (picker_->drawsLassos() && e->modifiers() & Qt::AltModifier) {
            if (lasso_.isEmpty()) lasso_ << *press_;
            lasso_ << e->position();
        }
        return update();
    }
    if (session_.hasSheet()) picker_->hover(e->position());
}

void SheetCanvas::mouseReleaseEvent(QMouseEvent* e) {
    pan_.reset();
    if (e->button() != Qt::LeftButton || !press_ || !session_.hasSheet()) return;
    press_.reset();
    if (const int line = fold_lines_.held(); line >= 0) {
        if (const double by = fold_lines_.release(); std::abs(by) * scale_ > 1) emit foldLineMoved(line, by);
        return update();
    }
    // A lasso may end where it began, which leaves no box.
    if (!rubber_.isNull() || !lasso_.isEmpty()) {
        picker_->boxed(std::exchange(rubber_, {}), std::exchange(lasso_, {}), e->modifiers());
        return update();
    }
    picker_->hover(e->position());
    picker_->click(e->position(), e->modifiers());
}

void SheetCanvas::mouseDoubleClickEvent(QMouseEvent* e) {
    if (picker_->clicksTwice()) press_ = e->position(); // the same once more
    if (session_.hasSheet()) picker_->doubleClick(e->position());
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
        return picker_->enough() ? void() : QWidget::keyPressEvent(e);
    case Qt::Key_Escape:
        return picker_->leave();
    default:
        return QWidget::keyPressEvent(e);
    }
}

void SheetCanvas::leaveEvent(QEvent*) {
    picker_->forget();
    session_.setPointed({});
    emit pointedAt({});
    update();
}

} // namespace prism::app
