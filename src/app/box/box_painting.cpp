#include "app/box/box_canvas.h"

#include "app/theme/theme.h"

#include <QPaintEvent>
#include <QPainter>

// How the box canvas paints itself; what it answers to is in box_canvas.cpp.
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

/// The parts that are lit, anew when they are others.
void BoxCanvas::uploadLit() {
    const Mesh& mesh = session_.shown().solid;
    for (auto [marked, lit] :
         {std::pair{&session_.chosen(), &lit_chosen_}, {&session_.pointed(), &lit_pointed_}}) {
        std::set<SolidPart> now = session_.partsOf(*marked);
        if (now == lit->parts && !lit_stale_) continue;
        std::vector<float> faces, edges, corners;
        for (size_t t = 0; t < mesh.face_of.size(); ++t)
            if (now.contains(faceNumber(mesh.face_of[t])))
                for (size_t k = 3 * t; k < 3 * t + 3; ++k)
                    push(faces, mesh.corners[k].at, mesh.corners[k].normal);
        for (size_t k = 0; k < mesh.edges.size(); ++k)
            if (now.contains({SolidPart::Kind::edge, mesh.edge_of[k]}))
                for (size_t i = 1; i < mesh.edges[k].size(); ++i)
                    push(edges, mesh.edges[k][i - 1], {0, 0, 1}), push(edges, mesh.edges[k][i], {0, 0, 1});
        for (const auto& [p, index] : mesh.points)
            if (now.contains({SolidPart::Kind::corner, index}))
                push(corners, {static_cast<float>(p.x), static_cast<float>(p.y), static_cast<float>(p.z)},
                     {0, 0, 1});
        upload(lit->faces, faces), upload(lit->edges, edges), upload(lit->corners, corners);
        lit->parts = std::move(now);
    }
    lit_stale_ = false;
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
        const double strength = strengthOf(p);
        if (strength <= 0) continue;
        QColor tint = theme::tintOf(p.role), edge = tint.darker(125);
        tint.setAlphaF(0.23 * strength), edge.setAlphaF(std::min(1.0, 0.3 + 0.7 * strength));
        for (const auto& f : p.faces) {
            drawNow({f.begin(), f.end()}, GL_TRIANGLE_FAN, tint);
            drawNow({f.begin(), f.end()}, GL_LINE_LOOP, edge, 1.5f);
        }
    }
    glDepthMask(GL_TRUE);
}

bool BoxCanvas::inFront(const BoxScene::Pane& p) const {
    constexpr float kSquareOn = 0.998f; // cosine
    constexpr double kFolded = 0.5;     // further open, the panes are beside the solid
    if (!show_solid_ || session_.shown().solid.empty() || hinge_ < kFolded) return false;
    const QVector3D into = camera_.into(), normal = p.facing.normalized();
    if (std::abs(QVector3D::dotProduct(normal, into)) > kSquareOn) return false;
    const QVector3D middle = (p.corners[0] + p.corners[2]) / 2,
                    part = (scene_.part.first + scene_.part.second) / 2;
    return QVector3D::dotProduct(middle - part, into) < 0;
}

double BoxCanvas::strengthOf(const BoxScene::Pane& p) const {
    constexpr double kAside = 0.22;
    if (!p.show.on) return 0;
    const bool from_outside = QVector3D::dotProduct(p.facing, camera_.into()) < 0.02f;
    if (p.show.side == PaneSide::outside && !from_outside) return 0;
    return p.show.opacity * (p.show.side == PaneSide::ghost ? 0.3 : 1) * (inFront(p) ? kAside : 1);
}

void BoxCanvas::drawPaneLines() {
    const Marked &chosen = session_.chosen(), &pointed = session_.pointed();
    // Panes of one strength are drawn together.
    std::map<double, std::pair<std::vector<QVector3D>, std::vector<QVector3D>>> plain; // thick, thin
    std::vector<QVector3D> marked;
    for (const BoxScene::Pane& p : scene_.panes) {
        const double strength = strengthOf(p);
        if (strength <= 0) continue;
        auto& [thick, thin] = plain[strength];
        for (const BoxScene::Line& l : p.lines) {
            const bool lit = chosen.entities.contains(l.entity) || pointed.entities.contains(l.entity);
            std::vector<QVector3D>& to = lit ? marked : l.role == LineRole::hidden || l.thin ? thin : thick;
            for (const std::vector<QVector3D>& run : l.runs) {
                if (l.role == LineRole::hidden && run.size() == 2) { // dashes, as on the sheet
                    const QVector3D d = run[1] - run[0];
                    const int n = std::max(1, static_cast<int>(d.length() / (camera_.height * 0.012f)));
                    for (int i = 0; i < n; ++i)
                        to.push_back(run[0] + d * (static_cast<float>(i) / n)),
                            to.push_back(run[0] + d * ((static_cast<float>(i) + 0.62f) / n));
                    continue;
                }
                for (size_t i = 1; i < run.size(); ++i) to.push_back(run[i - 1]), to.push_back(run[i]);
            }
        }
    }
    for (const auto& [strength, lines] : plain) {
        QColor broken(0x55, 0x58, 0x5c), ink = theme::ink();
        broken.setAlphaF(strength), ink.setAlphaF(strength);
        if (strength < 1) blendOver();
        drawNow(lines.second, GL_LINES, broken, 1.0f);
        drawNow(lines.first, GL_LINES, ink, 1.8f);
        glDisable(GL_BLEND);
    }
    glDepthFunc(GL_ALWAYS);
    drawNow(marked, GL_LINES, theme::point(), 4.0f);
    glDepthFunc(GL_LEQUAL);
}

void BoxCanvas::drawReferenceBox() {
    if (reference_.x() <= 0 || reference_.y() <= 0 || reference_.z() <= 0) return;
    const QVector3D lo = scene_.part.first;
    const auto corner = [&](int k) {
        return lo +
               QVector3D(k & 1 ? reference_.x() : 0, k & 2 ? reference_.y() : 0, k & 4 ? reference_.z() : 0);
    };
    std::vector<QVector3D> lines;
    for (int k = 0; k < 8; ++k)
        for (int axis : {1, 2, 4})
            if (!(k & axis)) lines.push_back(corner(k)), lines.push_back(corner(k | axis));
    drawNow(lines, GL_LINES, theme::point(), 1.2f);
}

/// Lines from what is pointed at to where the other views show it.
void BoxCanvas::drawProjectors() {
    std::vector<QVector3D> lines;
    for (const Projector& p : session_.projectors()) {
        const auto more = scene_.projectorLines(p, hinge_);
        lines.insert(lines.end(), more.begin(), more.end());
    }
    glDepthFunc(GL_ALWAYS);
    drawNow(lines, GL_LINES, theme::signal(), 1.3f);
    glDepthFunc(GL_LEQUAL);
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
    if (std::exchange(solid_stale_, false)) {
        uploadSolid(session_.shown().solid, faces_, edges_);
        uploadSolid(session_.shown().lost, lost_faces_, lost_edges_);
        lit_stale_ = true;
    }
    uploadLit();
    if (std::exchange(preview_stale_, false)) {
        uploadSolid(added_, added_faces_, added_edges_);
        uploadSolid(removed_, removed_faces_, removed_edges_);
    }
    glEnable(GL_DEPTH_TEST);
    glDepthFunc(GL_LEQUAL);
    program_->bind();
    program_->setUniformValue("matrix", camera_.whole(aspect()));
    program_->setUniformValue("view", camera_.view());
    if (show_solid_) {
        glEnable(GL_POLYGON_OFFSET_FILL);
        glPolygonOffset(1.5f, 1.5f);
        drawBatch(faces_, GL_TRIANGLES, QColor(0xee, 0xe9, 0xdd), 1);
        QColor chosen = theme::point(), pointed = theme::point();
        chosen.setAlpha(130), pointed.setAlpha(80);
        blendOver();
        drawBatch(lit_chosen_.faces, GL_TRIANGLES, chosen, 0.5f);
        drawBatch(lit_pointed_.faces, GL_TRIANGLES, pointed, 0.5f);
        glDisable(GL_BLEND);
        glDisable(GL_POLYGON_OFFSET_FILL);
        glLineWidth(1.6f);
        drawBatch(edges_, GL_LINES, theme::ink(), 0);
        glLineWidth(4);
        glPointSize(9);
        for (Lit* lit : {&lit_pointed_, &lit_chosen_}) {
            drawBatch(lit->edges, GL_LINES, theme::point(), 0);
            drawBatch(lit->corners, GL_POINTS, theme::point(), 0);
        }
    }
    if (show_panes_) drawPaneLines();
    if (show_panes_ && show_projectors_) drawProjectors();
    if (!session_.model().drawing->pictures.empty()) drawReferenceBox();
    blendOver();
    QColor body = theme::point();
    body.setAlpha(110);
    glDepthMask(GL_FALSE);
    drawBatch(added_faces_, GL_TRIANGLES, body, 0.6f);
    if (show_solid_) { // steps that cannot be made any more, as they were
        QColor faint = theme::faint();
        faint.setAlpha(70);
        drawBatch(lost_faces_, GL_TRIANGLES, faint, 0.6f);
        drawBatch(lost_edges_, GL_LINES, theme::faint(), 0);
    }
    // What is taken away lies within the solid and is seen through it.
    QColor gone = theme::signal();
    gone.setAlpha(70);
    glDisable(GL_DEPTH_TEST);
    drawBatch(removed_faces_, GL_TRIANGLES, gone, 0.6f);
    glLineWidth(1.8f);
    drawBatch(removed_edges_, GL_LINES, theme::signal(), 0);
    glEnable(GL_DEPTH_TEST);
    glDepthMask(GL_TRUE);
    drawBatch(added_edges_, GL_LINES, theme::point(), 0);
    if (show_panes_) drawPanes();
    program_->release();
    if (show_panes_ && show_scan_)
        skins_.draw(
            *this, *session_.model().drawing, scene_,
            [this](const BoxScene::Pane& p) { return strengthOf(p); }, camera_.whole(aspect()));
    glDisable(GL_DEPTH_TEST);
    glDisable(GL_BLEND);
}

void BoxCanvas::drawLabels(QPainter& p) const {
    if (!session_.hasSheet())
        return theme::drawWelcome(p, rect(), tr("The box"), tr("Its views will fold round the part here"));
    p.setRenderHint(QPainter::Antialiasing);
    if (show_panes_)
        for (const BoxScene::Pane& pane : scene_.panes) {
            if (strengthOf(pane) <= 0) continue;
            QPointF best = toScreen(pane.corners[0]);
            for (const QVector3D& c : pane.corners) // the corner that is highest on the canvas
                if (const QPointF s = toScreen(c); s.y() < best.y()) best = s;
            QPointF middle;
            for (const QVector3D& c : pane.corners) middle += toScreen(c) / 4;
            const QPointF in = best + (middle - best) * 0.09;
            theme::drawTag(p, pane.role, QRectF(in - QPointF(10, 9), QSizeF(20, 18)));
            if (pane.name == nameOf(pane.role) || isPrincipal(pane.role) || inFront(pane)) continue;
            p.setFont(theme::lettering(13));
            p.setPen(theme::ink());
            p.drawText(in + QPointF(14, 5), pane.name);
        }
    for (const Marked* k : {&session_.chosen(), &session_.pointed()})
        for (Vec2 place : k->places)
            if (const auto at = scene_.onPane(place)) theme::drawEvidence(p, toScreen(*at));
    if (show_panes_ && show_projectors_)
        for (const Projector& r : session_.projectors()) {
            if (hinge_ < 1) break;
            p.setPen(QPen(theme::signal(), 1.4));
            p.setBrush(theme::film());
            p.drawEllipse(toScreen(QVector3D(static_cast<float>(r.at.x), static_cast<float>(r.at.y),
                                             static_cast<float>(r.at.z))),
                          2.6, 2.6);
        }
    drawAxes(p);
}

/// The model axes, in ink and letters only.
void BoxCanvas::drawAxes(QPainter& p) const {
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

} // namespace prism::app
