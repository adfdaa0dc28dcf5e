#include "app/box/box_canvas.h"

#include "app/session/navigation.h"
#include "app/theme/theme.h"
#include "core/project/part_links.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QNativeGestureEvent>

namespace prism::app {
BoxCanvas::BoxCanvas(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("boxCanvas");
    setAccessibleName(tr("Box canvas"));
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(240, 160);
    setAttribute(Qt::WA_OpaquePaintEvent);
    rest_.setSingleShot(true);
    rest_.setInterval(140);
    connect(&rest_, &QTimer::timeout, this, qOverload<>(&QWidget::update));
    connect(&session, &Session::opened, this, [this] {
        fitted_ = false;
        shows_.clear();
    });
    connect(&session, &Session::changed, this, &BoxCanvas::refresh);
    connect(&session, &Session::pointedChanged, this, qOverload<>(&QWidget::update));
    connect(&session, &Session::chosenChanged, this, qOverload<>(&QWidget::update));
    connect(&session, &Session::previewReady, this,
            [this](const Mesh& added, const Mesh& removed, const QString&) { setPreview(added, removed); });
}

BoxCanvas::~BoxCanvas() {
    releaseGl();
}

void BoxCanvas::releaseGl() {
    if (!stage_.makeCurrent()) return;
    for (Batch* b : {&faces_, &edges_, &lost_faces_, &lost_edges_, &added_faces_, &added_edges_,
                     &removed_faces_, &removed_edges_, &lit_chosen_.faces, &lit_chosen_.edges,
                     &lit_chosen_.corners, &lit_pointed_.faces, &lit_pointed_.edges, &lit_pointed_.corners})
        b->buffer.destroy();
    program_.reset();
    skins_.release();
}

void BoxCanvas::refresh() {
    scene_.rebuild(session_.shown(), session_.choices().views, shows_);
    scene_.fold(hinge_, one_by_one_);
    solid_stale_ = true;
    // A part that became larger or smaller by more than a little is brought into the canvas again.
    const float size = (scene_.part.second - scene_.part.first).length();
    if (!fitted_ || std::abs(size - fitted_size_) > 0.2f * fitted_size_) fit();
    fitted_size_ = size;
    update();
}

PaneShow BoxCanvas::showOf(const std::string& key) const {
    for (const BoxScene::Pane& p : scene_.panes)
        if (p.key == key) return p.show;
    return {};
}

void BoxCanvas::setShow(const std::map<std::string, PaneShow>& shows) {
    for (const auto& [key, show] : shows) shows_[key] = show;
    for (BoxScene::Pane& p : scene_.panes)
        if (const auto it = shows.find(p.key); it != shows.end()) p.show = it->second;
    emit showsChanged();
    update();
}

void BoxCanvas::setShowProjectors(bool on) {
    show_projectors_ = on;
    update();
}

void BoxCanvas::setShowScan(bool on) {
    show_scan_ = on;
    update();
}

void BoxCanvas::setReferenceBox(const QVector3D& size) {
    reference_ = size;
    update();
}

void BoxCanvas::setOneByOne(bool on) {
    one_by_one_ = on;
    scene_.fold(hinge_, one_by_one_);
    moves();
}

void BoxCanvas::lookOnto(int view) {
    const BoxScene::Pane* p = scene_.paneOf(view);
    if (!p) return;
    camera_.face(p->facing, p->corners[3] - p->corners[0]);
    QVector3D middle;
    for (const QVector3D& c : p->corners) middle += 0.25f * c;
    const QMatrix4x4 v = camera_.view();
    QVector3D lo(1e30f, 1e30f, 0), hi(-1e30f, -1e30f, 0);
    for (const QVector3D& c : p->corners) {
        const QVector3D t = v.map(c);
        for (int k = 0; k < 2; ++k) lo[k] = std::min(lo[k], t[k]), hi[k] = std::max(hi[k], t[k]);
    }
    camera_.centre = middle;
    camera_.height = 1.12f * std::max(hi.y() - lo.y(), (hi.x() - lo.x()) / aspect());
    fitted_ = true;
    update();
}

void BoxCanvas::setHinge(double hinge) {
    hinge = std::clamp(hinge, 0.0, 1.0);
    if (hinge == hinge_) return;
    hinge_ = hinge;
    scene_.fold(hinge_, one_by_one_);
    emit hingeChanged(hinge_);
    moves();
}

void BoxCanvas::setPreview(const Mesh& added, const Mesh& removed) {
    added_ = added, removed_ = removed;
    preview_stale_ = true;
    update();
}

void BoxCanvas::setShowSolid(bool on) {
    if (std::exchange(show_solid_, on) == on) return;
    emit solidShown(on);
    update();
}

void BoxCanvas::setShowPanes(bool on) {
    if (std::exchange(show_panes_, on) == on) return;
    emit panesShown(on);
    update();
}

void BoxCanvas::toggleAlone() {
    const bool alone = show_solid_ && !show_panes_;
    setShowSolid(true);
    setShowPanes(alone);
}

void BoxCanvas::setLook(Look look) {
    switch (look) {
    case Look::corner:
        camera_.azimuth = 32, camera_.elevation = 24;
        break;
    case Look::front:
        camera_.azimuth = 0, camera_.elevation = 0;
        break;
    case Look::top:
        camera_.azimuth = 0, camera_.elevation = 90;
        break;
    case Look::right:
        camera_.azimuth = 90, camera_.elevation = 0;
        break;
    }
    fit();
}

void BoxCanvas::fit() {
    if (!session_.hasSheet() || scene_.panes.empty() || width() < 10) return;
    const QMatrix4x4 v = camera_.view();
    QVector3D lo(1e30f, 1e30f, 1e30f), hi(-1e30f, -1e30f, -1e30f);
    auto add = [&](const QVector3D& p) {
        const QVector3D t = v.map(p);
        for (int k = 0; k < 3; ++k) lo[k] = std::min(lo[k], t[k]), hi[k] = std::max(hi[k], t[k]);
    };
    for (const BoxScene::Pane& p : scene_.panes)
        if (p.show.on)
            for (const QVector3D& c : p.corners) add(c);
    add(scene_.part.first), add(scene_.part.second);
    camera_.centre = v.inverted().map(0.5f * (lo + hi));
    camera_.height = 1.1f * std::max(hi.y() - lo.y(), (hi.x() - lo.x()) / aspect());
    fitted_ = true;
    update();
}

void BoxCanvas::moves() {
    rest_.start();
    update();
}

QPointF BoxCanvas::toScreen(const QVector3D& p) const {
    const QVector3D n = camera_.whole(aspect()).map(p);
    return {(n.x() + 1) * 0.5 * width(), (1 - n.y()) * 0.5 * height()};
}

std::optional<SolidPart> BoxCanvas::partAt(QPointF at) const {
    return show_solid_ ? partIn(session_.shown().solid, at) : std::nullopt;
}

bool BoxCanvas::changeAt(QPointF at) const {
    return partIn(added_, at) || partIn(removed_, at);
}

std::optional<SolidPart> BoxCanvas::partIn(const Mesh& mesh, QPointF at) const {
    constexpr double kReach = 5; // pixels
    const QMatrix4x4 back = camera_.whole(aspect()).inverted();
    const QVector3D from = back.map(QVector3D(static_cast<float>(2 * at.x() / width() - 1),
                                              static_cast<float>(1 - 2 * at.y() / height()), -1)),
                    into = camera_.into();
    return partAlong(mesh, {from.x(), from.y(), from.z()}, {into.x(), into.y(), into.z()},
                     kReach * static_cast<double>(camera_.height) / std::max(1, height()));
}

Marked BoxCanvas::under(QPointF at) const {
    if (const int l = show_panes_ ? lineAt(at) : -1; l >= 0) {
        Marked m;
        m.entities.insert(l);
        return m;
    }
    const auto part = partAt(at);
    return part ? session_.markedOf(*part) : Marked{};
}

int BoxCanvas::lineAt(QPointF at) const {
    const bool on_solid = partAt(at).has_value();
    int best = -1;
    double nearest = 7;
    const QMatrix4x4 whole = camera_.whole(aspect());
    const auto screen = [&](const QVector3D& p) {
        const QVector3D n = whole.map(p);
        return Vec2{(n.x() + 1) * 0.5 * width(), (1 - n.y()) * 0.5 * height()};
    };
    for (const BoxScene::Pane& p : scene_.panes) {
        // What has stepped aside for the solid is not in the way of its faces either.
        if (strengthOf(p) <= 0 || (on_solid && inFront(p))) continue;
        for (const BoxScene::Line& l : p.lines) {
            if (l.entity < 0) continue;
            for (const std::vector<QVector3D>& run : l.runs) {
                Vec2 a = screen(run.front());
                for (size_t i = 1; i < run.size(); ++i) {
                    const Vec2 b = screen(run[i]);
                    const double d = distanceTo(Segment{a, b}, {at.x(), at.y()});
                    if (d < nearest) nearest = d, best = l.entity;
                    a = b;
                }
            }
        }
    }
    return best;
}

const BoxScene::Pane* BoxCanvas::paneAt(QPointF at) const {
    const BoxScene::Pane* best = nullptr;
    float foremost = std::numeric_limits<float>::infinity();
    const QMatrix4x4 whole = camera_.whole(aspect());
    for (const BoxScene::Pane& p : scene_.panes) {
        if (strengthOf(p) <= 0) continue;
        for (const auto& face : p.faces) {
            QPolygonF outline;
            float depth = 0;
            for (const QVector3D& c : face) outline << toScreen(c), depth += whole.map(c).z() / 4;
            if (outline.containsPoint(at, Qt::OddEvenFill) && depth < foremost) foremost = depth, best = &p;
        }
    }
    return best;
}

void BoxCanvas::mousePressEvent(QMouseEvent* e) {
    last_ = press_ = e->position();
    const Navigation& n = Navigation::mine();
    panning_ = n.moves(e);
    turning_ = !panning_ && n.turns(e);
}

void BoxCanvas::mouseMoveEvent(QMouseEvent* e) {
    const QPointF d = e->position() - last_;
    last_ = e->position();
    if (turning_ && e->buttons() != Qt::NoButton)
        camera_.orbit(static_cast<float>(d.x()) * 0.45f, static_cast<float>(d.y()) * 0.45f);
    else if (panning_ && e->buttons() != Qt::NoButton)
        camera_.pan(static_cast<float>(d.x()), static_cast<float>(d.y()), static_cast<float>(height()));
    else {
        if (!session_.hasSheet()) return;
        Marked m = under(e->position());
        if (m == session_.pointed()) return;
        emit pointedAt(m.parts.empty() ? QString() : wordsOf(*m.parts.begin()));
        return session_.setPointed(std::move(m));
    }
    moves();
}

/// A part of the solid in words; with another one chosen, also how it lies to that.
QString BoxCanvas::wordsOf(SolidPart part) const {
    QString words = sentence(describe(session_.model(), part));
    const std::set<SolidPart>& chosen = session_.chosen().parts;
    if (chosen.size() == 1 && !chosen.contains(part))
        if (const auto between = measureBetween(session_.model(), *chosen.begin(), part))
            words += tr(". To the chosen one: %1").arg(QString::fromStdString(inWords(*between)));
    return words;
}

void BoxCanvas::mouseReleaseEvent(QMouseEvent* e) {
    const bool click = (e->position() - press_).manhattanLength() < 4 && e->button() == Qt::LeftButton;
    turning_ = panning_ = false;
    if (!click || !session_.hasSheet()) return;
    if (changeAt(e->position())) emit changeTaken();
    Marked m = under(e->position());
    const std::set<SolidPart> before = session_.chosen().parts;
    if (e->modifiers() & Qt::ControlModifier && m.parts.size() == 1 && before.size() == 1) {
        emit pointedAt(wordsOf(*m.parts.begin())); // a second one: both stay lit
        m.parts.insert(*before.begin());
    }
    const std::set<SolidPart> taken = m.parts;
    session_.setChosen(std::move(m));
    if (taken.size() == 1) emit partTaken(*taken.begin());
}

void BoxCanvas::mouseDoubleClickEvent(QMouseEvent* e) {
    if (e->button() != Qt::LeftButton || !session_.hasSheet() || !show_panes_) return;
    if (const BoxScene::Pane* p = paneAt(e->position())) lookOnto(p->view);
}

/// What is under the pointer stays there.
void BoxCanvas::zoomAt(QPointF at, float factor) {
    const QPointF from = at - QPointF(width() / 2.0, height() / 2.0);
    camera_.pan(static_cast<float>(-from.x() * (1 - factor)), static_cast<float>(-from.y() * (1 - factor)),
                static_cast<float>(height()));
    camera_.height = std::clamp(camera_.height * factor, 1e-4f, 1e7f);
    moves();
}

void BoxCanvas::wheelEvent(QWheelEvent* e) {
    const Navigation::Habits& h = Navigation::mine().habits();
    const bool fingers = !e->pixelDelta().isNull() && e->source() != Qt::MouseEventNotSynthesized;
    if (!fingers || h.fingers == Navigation::Fingers::zoom) {
        const auto clicks =
            static_cast<float>(e->angleDelta().y()) * (h.wheel_forward_is_nearer ? 1.0f : -1.0f);
        return zoomAt(e->position(), std::pow(1.0015f, -clicks));
    }
    const auto dx = static_cast<float>(e->pixelDelta().x()), dy = static_cast<float>(e->pixelDelta().y());
    if (h.fingers == Navigation::Fingers::turn)
        camera_.orbit(dx * 0.45f, dy * 0.45f);
    else
        camera_.pan(dx, dy, static_cast<float>(height()));
    moves();
}

bool BoxCanvas::event(QEvent* e) {
    if (e->type() == QEvent::NativeGesture) {
        const auto* g = static_cast<QNativeGestureEvent*>(e);
        if (g->gestureType() == Qt::ZoomNativeGesture)
            return zoomAt(g->position(), 1 / (1 + static_cast<float>(g->value()))), true;
        if (g->gestureType() == Qt::RotateNativeGesture)
            return camera_.orbit(static_cast<float>(g->value()), 0), moves(), true;
    }
    return QWidget::event(e);
}

void BoxCanvas::keyPressEvent(QKeyEvent* e) {
    using Act = Navigation::Act;
    const auto high = static_cast<float>(height());
    switch (Navigation::mine().actOf(e)) {
    case Act::turn_left:
        camera_.orbit(6, 0);
        break;
    case Act::turn_right:
        camera_.orbit(-6, 0);
        break;
    case Act::turn_up:
        camera_.orbit(0, 6);
        break;
    case Act::turn_down:
        camera_.orbit(0, -6);
        break;
    case Act::move_left:
        camera_.pan(40, 0, high);
        break;
    case Act::move_right:
        camera_.pan(-40, 0, high);
        break;
    case Act::move_up:
        camera_.pan(0, 40, high);
        break;
    case Act::move_down:
        camera_.pan(0, -40, high);
        break;
    case Act::nearer:
        camera_.height *= 0.8f;
        break;
    case Act::farther:
        camera_.height *= 1.25f;
        break;
    case Act::all:
        return setLook(Look::corner);
    case Act::unfold:
        return setHinge(hinge_ - 0.05);
    case Act::fold:
        return setHinge(hinge_ + 0.05);
    case Act::alone:
        return toggleAlone();
    case Act::next_face:
        return choosePart(SolidPart::Kind::face, 1);
    case Act::previous_face:
        return choosePart(SolidPart::Kind::face, -1);
    case Act::next_edge:
        return choosePart(SolidPart::Kind::edge, 1);
    case Act::previous_edge:
        return choosePart(SolidPart::Kind::edge, -1);
    case Act::next_corner:
        return choosePart(SolidPart::Kind::corner, 1);
    case Act::previous_corner:
        return choosePart(SolidPart::Kind::corner, -1);
    case Act::count:
        if (e->key() == Qt::Key_Space && session_.chosen().parts.size() == 1)
            return emit partTaken(*session_.chosen().parts.begin());
        return QWidget::keyPressEvent(e);
    }
    moves();
}

/// From part to part of the solid, round and round.
void BoxCanvas::choosePart(SolidPart::Kind kind, int step) {
    if (!session_.hasSheet() || !show_solid_) return;
    std::vector<SolidPart> all;
    for (const PartAt& p : partsOf(session_.model().build.shape, kind)) all.push_back(p.part);
    if (all.empty()) return;
    const int n = static_cast<int>(all.size());
    const std::set<SolidPart>& chosen = session_.chosen().parts;
    const auto now = chosen.empty() ? all.end() : std::ranges::find(all, *chosen.begin());
    const int next =
        now == all.end() ? (step > 0 ? 0 : n - 1) : (static_cast<int>(now - all.begin()) + step + n) % n;
    session_.setChosen(session_.markedOf(all[static_cast<size_t>(next)]));
    emit pointedAt(sentence(describe(session_.model(), all[static_cast<size_t>(next)])));
}

void BoxCanvas::leaveEvent(QEvent*) {
    emit pointedAt({});
    session_.setPointed({});
}

} // namespace prism::app
