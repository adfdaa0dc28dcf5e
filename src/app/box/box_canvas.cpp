#include "app/box/box_canvas.h"

#include "app/theme/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPaintEvent>
#include <QPainter>

namespace prism::app {
namespace {

constexpr char kVertex[] = R"(
attribute vec3 position;
attribute vec3 normal;
uniform mat4 matrix;
uniform mat4 view;
varying vec3 turned;
void main() {
    gl_Position = matrix * vec4(position, 1.0);
    turned = (view * vec4(normal, 0.0)).xyz;
}
)";
// Light from the upper left, as on drawings; `light` 0 gives the plain colour.
constexpr char kFragment[] = R"(
uniform vec4 color;
uniform float light;
varying vec3 turned;
void main() {
    vec3 n = normalize(turned + vec3(0.0, 0.0, 1e-6));
    float a = 0.62 + 0.30 * max(0.0, dot(n, normalize(vec3(-0.45, 0.6, 0.66)))) + 0.10 * n.z;
    gl_FragColor = vec4(color.rgb * mix(1.0, a, light), color.a);
}
)";

void push(std::vector<float>& out, const std::array<float, 3>& p, const std::array<float, 3>& n) {
    out.insert(out.end(), p.begin(), p.end());
    out.insert(out.end(), n.begin(), n.end());
}

} // namespace

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
    connect(&session, &Session::opened, this, [this] { fitted_ = false; });
    connect(&session, &Session::changed, this, &BoxCanvas::refresh);
    connect(&session, &Session::pointedChanged, this, qOverload<>(&QWidget::update));
    connect(&session, &Session::chosenChanged, this, qOverload<>(&QWidget::update));
    connect(&session, &Session::previewReady, this, [this](const Mesh& m, const QString&) { setPreview(m); });
}

BoxCanvas::~BoxCanvas() {
    releaseGl();
}

void BoxCanvas::releaseGl() {
    if (!stage_.makeCurrent()) return;
    for (Batch* b : {&faces_, &edges_, &preview_faces_, &preview_edges_}) b->buffer.destroy();
    program_.reset();
}

void BoxCanvas::refresh() {
    scene_.rebuild(session_.shown());
    scene_.fold(hinge_);
    solid_stale_ = true;
    if (!fitted_) fit();
    update();
}

void BoxCanvas::setHinge(double hinge) {
    hinge = std::clamp(hinge, 0.0, 1.0);
    if (hinge == hinge_) return;
    hinge_ = hinge;
    scene_.fold(hinge_);
    emit hingeChanged(hinge_);
    moves();
}

void BoxCanvas::setPreview(const Mesh& mesh) {
    preview_ = mesh;
    preview_stale_ = true;
    update();
}

void BoxCanvas::setShowSolid(bool on) {
    show_solid_ = on;
    update();
}

void BoxCanvas::setShowPanes(bool on) {
    show_panes_ = on;
    update();
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
        for (const QVector3D& c : p.corners) add(c);
    add(scene_.part.first), add(scene_.part.second);
    camera_.centre = v.inverted().map(0.5f * (lo + hi));
    camera_.height = 1.1f * std::max(hi.y() - lo.y(), (hi.x() - lo.x()) / aspect());
    fitted_ = true;
    update();
}

void BoxCanvas::initializeGl() {
    initializeOpenGLFunctions();
    program_ = std::make_unique<QOpenGLShaderProgram>();
    program_->addShaderFromSourceCode(QOpenGLShader::Vertex, kVertex);
    program_->addShaderFromSourceCode(QOpenGLShader::Fragment, kFragment);
    program_->bindAttributeLocation("position", 0);
    program_->bindAttributeLocation("normal", 1);
    program_->link();
    solid_stale_ = preview_stale_ = true;
}

void BoxCanvas::upload(Batch& b, const std::vector<float>& data) {
    if (!b.buffer.isCreated()) b.buffer.create();
    b.buffer.bind();
    b.buffer.allocate(data.data(), static_cast<int>(data.size() * sizeof(float)));
    b.buffer.release();
    b.count = static_cast<int>(data.size() / 6);
}

void BoxCanvas::uploadSolid(const Mesh& mesh, Batch& faces, Batch& edges) {
    std::vector<float> data;
    data.reserve(mesh.corners.size() * 6);
    for (const Mesh::Corner& c : mesh.corners) push(data, c.at, c.normal);
    upload(faces, data);
    data.clear();
    for (const auto& chain : mesh.edges)
        for (size_t i = 1; i < chain.size(); ++i)
            push(data, chain[i - 1], {0, 0, 1}), push(data, chain[i], {0, 0, 1});
    upload(edges, data);
}

void BoxCanvas::drawBatch(Batch& b, GLenum mode, const QColor& color, float light) {
    if (b.count == 0) return;
    b.buffer.bind();
    program_->setUniformValue("color", color);
    program_->setUniformValue("light", light);
    program_->enableAttributeArray(0);
    program_->enableAttributeArray(1);
    program_->setAttributeBuffer(0, GL_FLOAT, 0, 3, 6 * sizeof(float));
    program_->setAttributeBuffer(1, GL_FLOAT, 3 * sizeof(float), 3, 6 * sizeof(float));
    glDrawArrays(mode, 0, b.count);
    b.buffer.release();
}

void BoxCanvas::drawNow(const std::vector<QVector3D>& points, GLenum mode, const QColor& color, float width) {
    if (points.empty()) return;
    program_->setUniformValue("color", color);
    program_->setUniformValue("light", 0.0f);
    program_->enableAttributeArray(0);
    program_->disableAttributeArray(1);
    program_->setAttributeValue(1, QVector3D(0, 0, 1));
    program_->setAttributeArray(0, points.data());
    glLineWidth(width);
    glDrawArrays(mode, 0, static_cast<int>(points.size()));
}

/// The canvas itself stays opaque, whatever is laid over it.
void BoxCanvas::blendOver() {
    glEnable(GL_BLEND);
    glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ZERO, GL_ONE);
}

void BoxCanvas::drawPanes() {
    glDepthMask(GL_FALSE);
    blendOver();
    for (const BoxScene::Pane& p : scene_.panes) {
        QColor tint = theme::tintOf(p.role);
        tint.setAlpha(58);
        drawNow({p.corners.begin(), p.corners.end()}, GL_TRIANGLE_FAN, tint);
        drawNow({p.corners.begin(), p.corners.end()}, GL_LINE_LOOP, theme::tintOf(p.role).darker(125), 1.5f);
    }
    glDepthMask(GL_TRUE);
}

void BoxCanvas::drawPaneLines() {
    const Marked &chosen = session_.chosen(), &pointed = session_.pointed();
    std::vector<QVector3D> outline, hidden, marked;
    for (const BoxScene::Pane& p : scene_.panes)
        for (const BoxScene::Line& l : p.lines) {
            const bool lit = chosen.entities.contains(l.entity) || pointed.entities.contains(l.entity);
            std::vector<QVector3D>& to = lit ? marked : l.role == LineRole::hidden ? hidden : outline;
            if (l.role == LineRole::hidden && l.points.size() == 2) { // dashes, as on the sheet
                const QVector3D d = l.points[1] - l.points[0];
                const int n = std::max(1, static_cast<int>(d.length() / (camera_.height * 0.012f)));
                for (int i = 0; i < n; ++i)
                    to.push_back(l.points[0] + d * (static_cast<float>(i) / n)),
                        to.push_back(l.points[0] + d * ((static_cast<float>(i) + 0.62f) / n));
                continue;
            }
            for (size_t i = 1; i < l.points.size(); ++i)
                to.push_back(l.points[i - 1]), to.push_back(l.points[i]);
        }
    drawNow(hidden, GL_LINES, QColor(0x55, 0x58, 0x5c), 1.0f);
    drawNow(outline, GL_LINES, theme::ink(), 1.8f);
    glDepthFunc(GL_ALWAYS);
    drawNow(marked, GL_LINES, theme::point(), 4.0f);
    glDepthFunc(GL_LEQUAL);
}

void BoxCanvas::moves() {
    rest_.start();
    update();
}

void BoxCanvas::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const qreal ratio = devicePixelRatioF();
    if (session_.hasSheet() && stage_.begin(size() * ratio, !rest_.isActive())) {
        if (!program_) initializeGl();
        paintGl();
        QImage image = stage_.end();
        image.setDevicePixelRatio(ratio);
        p.drawImage(0, 0, image);
    } else
        p.fillRect(rect(), theme::film());
    drawLabels(p);
}

void BoxCanvas::paintGl() {
    const QColor ground = theme::film();
    glClearColor(ground.redF(), ground.greenF(), ground.blueF(), 1);
    glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    if (std::exchange(solid_stale_, false)) uploadSolid(session_.shown().solid, faces_, edges_);
    if (std::exchange(preview_stale_, false)) uploadSolid(preview_, preview_faces_, preview_edges_);
    glEnable(GL_DEPTH_TEST);
    glDepthFunc(GL_LEQUAL);
    program_->bind();
    program_->setUniformValue("matrix", camera_.whole(aspect()));
    program_->setUniformValue("view", camera_.view());
    if (show_solid_) {
        glEnable(GL_POLYGON_OFFSET_FILL);
        glPolygonOffset(1.5f, 1.5f);
        drawBatch(faces_, GL_TRIANGLES, QColor(0xee, 0xe9, 0xdd), 1);
        glDisable(GL_POLYGON_OFFSET_FILL);
        glLineWidth(1.6f);
        drawBatch(edges_, GL_LINES, theme::ink(), 0);
    }
    if (show_panes_) drawPaneLines();
    blendOver();
    QColor body = theme::point();
    body.setAlpha(110);
    glDepthMask(GL_FALSE);
    drawBatch(preview_faces_, GL_TRIANGLES, body, 0.6f);
    glDepthMask(GL_TRUE);
    glLineWidth(1.8f);
    drawBatch(preview_edges_, GL_LINES, theme::point(), 0);
    if (show_panes_) drawPanes();
    program_->release();
    glDisable(GL_DEPTH_TEST);
    glDisable(GL_BLEND);
}

QPointF BoxCanvas::toScreen(const QVector3D& p) const {
    const QVector3D n = camera_.whole(aspect()).map(p);
    return {(n.x() + 1) * 0.5 * width(), (1 - n.y()) * 0.5 * height()};
}

void BoxCanvas::drawLabels(QPainter& p) const {
    if (!session_.hasSheet())
        return theme::drawWelcome(p, rect(), tr("The box"), tr("Its views will fold round the part here"));
    p.setRenderHint(QPainter::Antialiasing);
    if (show_panes_)
        for (const BoxScene::Pane& pane : scene_.panes) {
            QPointF best = toScreen(pane.corners[0]);
            for (const QVector3D& c : pane.corners) // the corner that is highest on the canvas
                if (const QPointF s = toScreen(c); s.y() < best.y()) best = s;
            QPointF middle;
            for (const QVector3D& c : pane.corners) middle += toScreen(c) / 4;
            const QPointF in = best + (middle - best) * 0.09;
            theme::drawTag(p, pane.role, QRectF(in - QPointF(10, 9), QSizeF(20, 18)));
        }
    for (const Marked* k : {&session_.chosen(), &session_.pointed()})
        for (Vec2 place : k->places)
            if (const auto at = scene_.onPane(place)) theme::drawEvidence(p, toScreen(*at));
    // The model axes, in ink and letters only.
    const QPointF at(34, height() - 34);
    const QMatrix4x4 v = camera_.view();
    p.setFont(theme::lettering(14));
    for (int k = 0; k < 3; ++k) {
        QVector3D axis;
        axis[k] = 1;
        const QVector3D d = v.mapVector(axis);
        if (std::hypot(d.x(), d.y()) < 0.15) continue;
        const QPointF tip = at + QPointF(d.x(), -d.y()) * 22;
        p.setPen(QPen(theme::ink(), 1.4));
        p.drawLine(at, tip);
        p.drawText(QRectF(at + QPointF(d.x(), -d.y()) * 31 - QPointF(8, 8), QSizeF(16, 16)), Qt::AlignCenter,
                   QString("XYZ").mid(k, 1));
    }
}

int BoxCanvas::curveAt(QPointF at) const {
    int best = -1;
    double nearest = 7;
    const QMatrix4x4 whole = camera_.whole(aspect());
    const auto screen = [&](const QVector3D& p) {
        const QVector3D n = whole.map(p);
        return Vec2{(n.x() + 1) * 0.5 * width(), (1 - n.y()) * 0.5 * height()};
    };
    for (const BoxScene::Pane& p : scene_.panes)
        for (const BoxScene::Line& l : p.lines) {
            Vec2 a = screen(l.points.front());
            for (size_t i = 1; i < l.points.size(); ++i) {
                const Vec2 b = screen(l.points[i]);
                const double d = distanceTo(Segment{a, b}, {at.x(), at.y()});
                if (d < nearest) nearest = d, best = l.curve;
                a = b;
            }
        }
    return best;
}

void BoxCanvas::mousePressEvent(QMouseEvent* e) {
    last_ = press_ = e->position();
    turning_ = e->button() == Qt::LeftButton && !(e->modifiers() & Qt::ShiftModifier);
    panning_ = !turning_;
}

void BoxCanvas::mouseMoveEvent(QMouseEvent* e) {
    const QPointF d = e->position() - last_;
    last_ = e->position();
    if (turning_ && (e->buttons() & Qt::LeftButton))
        camera_.orbit(static_cast<float>(d.x()) * 0.45f, static_cast<float>(d.y()) * 0.45f);
    else if (panning_ && e->buttons() != Qt::NoButton)
        camera_.pan(static_cast<float>(d.x()), static_cast<float>(d.y()), static_cast<float>(height()));
    else {
        if (!session_.hasSheet() || !show_panes_) return;
        const int c = curveAt(e->position());
        Marked m;
        if (c >= 0) m.entities.insert(session_.model().figure.curves[c].entity);
        return session_.setPointed(std::move(m));
    }
    moves();
}

void BoxCanvas::mouseReleaseEvent(QMouseEvent* e) {
    const bool click = (e->position() - press_).manhattanLength() < 4 && turning_;
    turning_ = panning_ = false;
    if (!click || !session_.hasSheet()) return;
    Marked m;
    if (const int c = curveAt(e->position()); c >= 0)
        m.entities.insert(session_.model().figure.curves[c].entity);
    session_.setChosen(std::move(m));
}

void BoxCanvas::wheelEvent(QWheelEvent* e) {
    const float factor = std::pow(1.0015f, static_cast<float>(-e->angleDelta().y()));
    const QPointF from = e->position() - QPointF(width() / 2.0, height() / 2.0);
    // What is under the pointer stays there.
    camera_.pan(static_cast<float>(-from.x() * (1 - factor)), static_cast<float>(-from.y() * (1 - factor)),
                static_cast<float>(height()));
    camera_.height = std::clamp(camera_.height * factor, 1e-4f, 1e7f);
    moves();
}

void BoxCanvas::keyPressEvent(QKeyEvent* e) {
    switch (e->key()) {
    case Qt::Key_Left:
        camera_.orbit(6, 0);
        break;
    case Qt::Key_Right:
        camera_.orbit(-6, 0);
        break;
    case Qt::Key_Up:
        camera_.orbit(0, 6);
        break;
    case Qt::Key_Down:
        camera_.orbit(0, -6);
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        camera_.height *= 0.8f;
        break;
    case Qt::Key_Minus:
        camera_.height *= 1.25f;
        break;
    case Qt::Key_Home:
        return setLook(Look::corner);
    case Qt::Key_BracketLeft:
        return setHinge(hinge_ - 0.05);
    case Qt::Key_BracketRight:
        return setHinge(hinge_ + 0.05);
    default:
        return QWidget::keyPressEvent(e);
    }
    moves();
}

void BoxCanvas::leaveEvent(QEvent*) {
    session_.setPointed({});
}

} // namespace prism::app
