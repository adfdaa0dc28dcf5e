#include "app/box/pane_skins.h"

#include "app/theme/theme.h"

#include <QImage>

namespace prism::app {
namespace {

constexpr int kLargest = 3000; ///< pixels of the texture's longer side

constexpr char kVertex[] = R"(
attribute vec3 position;
attribute vec2 place;
uniform mat4 matrix;
varying vec2 at;
void main() {
    gl_Position = matrix * vec4(position, 1.0);
    at = place;
}
)";
// Ink shows, paper lets the pane through.
constexpr char kFragment[] = R"(
uniform sampler2D scan;
uniform vec4 ink;
uniform float dark;
varying vec2 at;
void main() {
    float g = mix(texture2D(scan, at).r, 1.0 - texture2D(scan, at).r, dark);
    gl_FragColor = vec4(ink.rgb, ink.a * clamp((0.82 - g) / 0.6, 0.0, 1.0));
}
)";

QVector3D q(const Vec3& v) {
    return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
}

} // namespace

void PaneSkins::prepare(const ScanPixels& scan) {
    if (!program_) {
        program_ = std::make_unique<QOpenGLShaderProgram>();
        program_->addShaderFromSourceCode(QOpenGLShader::Vertex, kVertex);
        program_->addShaderFromSourceCode(QOpenGLShader::Fragment, kFragment);
        program_->bindAttributeLocation("position", 0);
        program_->bindAttributeLocation("place", 1);
        program_->link();
    }
    if (of_ == &scan && texture_) return;
    QImage image(scan.grey.data(), scan.width, scan.height, scan.width, QImage::Format_Grayscale8);
    if (std::max(scan.width, scan.height) > kLargest)
        image = image.scaled(kLargest, kLargest, Qt::KeepAspectRatio, Qt::SmoothTransformation);
    texture_ = std::make_unique<QOpenGLTexture>(image.convertToFormat(QImage::Format_RGBA8888));
    texture_->setMinMagFilters(QOpenGLTexture::LinearMipMapLinear, QOpenGLTexture::Linear);
    texture_->setWrapMode(QOpenGLTexture::ClampToEdge);
    of_ = &scan;
}

void PaneSkins::draw(QOpenGLFunctions& gl, const Drawing& d, const BoxScene& scene,
                     const std::function<double(const BoxScene::Pane&)>& strength, const QMatrix4x4& matrix) {
    if (d.pictures.empty()) return;
    prepare(*d.pictures.front().scan);
    program_->bind();
    texture_->bind();
    program_->setUniformValue("matrix", matrix);
    program_->setUniformValue("scan", 0);
    gl.glDepthMask(GL_FALSE);
    for (const BoxScene::Pane& pane : scene.panes) {
        const double shows = strength(pane);
        if (shows <= 0) continue;
        for (const Picture& picture : d.pictures) {
            const Affine2 back = picture.to_sheet.inverse();
            if (!picture.region.contains(back(pane.on_sheet.centre()))) continue;
            const Box2 b = pane.on_sheet.grown(0.06 * pane.on_sheet.diagonal());
            Box2 own;
            for (Vec2 corner : {b.lo, {b.hi.x, b.lo.y}, b.hi, {b.lo.x, b.hi.y}}) own.add(pane.to_own(corner));
            QColor ink = theme::ink();
            ink.setAlphaF(0.55 * shows);
            program_->setUniformValue("ink", ink);
            program_->setUniformValue("dark", picture.light_on_dark ? 1.0f : 0.0f);
            program_->enableAttributeArray(0);
            program_->enableAttributeArray(1);
            const Affine2 onto_picture = back * pane.to_own.inverse();
            for (const PaneFrame::Face& face : pane.frame.faces(own)) {
                if (face.own[0].x == face.own[1].x)
                    continue; // where the pane steps, the picture shows nothing
                std::array<QVector3D, 4> corners;
                std::array<QVector2D, 4> places;
                for (size_t k = 0; k < 4; ++k) {
                    corners[k] = q(face.at[k]);
                    const Vec2 pixel = onto_picture(face.own[k]);
                    places[k] = {static_cast<float>(pixel.x / picture.scan->width),
                                 static_cast<float>(pixel.y / picture.scan->height)};
                }
                program_->setAttributeArray(0, corners.data());
                program_->setAttributeArray(1, places.data());
                gl.glDrawArrays(GL_TRIANGLE_FAN, 0, 4);
            }
            break;
        }
    }
    gl.glDepthMask(GL_TRUE);
    program_->disableAttributeArray(0);
    program_->disableAttributeArray(1);
    texture_->release();
    program_->release();
}

void PaneSkins::release() {
    program_.reset();
    texture_.reset();
    of_ = nullptr;
}

} // namespace prism::app
