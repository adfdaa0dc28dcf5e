#include "app/box/gl_stage.h"

#include <QOpenGLFunctions>

namespace prism::app {

GlStage::~GlStage() {
    if (!makeCurrent()) return;
    for (auto& f : frames_) f.reset();
    context_->doneCurrent();
}

bool GlStage::ready() {
    if (std::exchange(tried_, true)) return context_ != nullptr;
    QSurfaceFormat format;
    format.setDepthBufferSize(24);
    auto context = std::make_unique<QOpenGLContext>();
    context->setFormat(format);
    if (!context->create()) return false;
    surface_ = std::make_unique<QOffscreenSurface>();
    surface_->setFormat(context->format());
    surface_->create();
    if (!surface_->isValid()) return false;
    context_ = std::move(context);
    return true;
}

bool GlStage::makeCurrent() {
    return ready() && context_->makeCurrent(surface_.get());
}

bool GlStage::begin(const QSize& size, bool smooth) {
    if (size.isEmpty() || !makeCurrent()) return false;
    auto& frame = frames_[smooth];
    if (!frame || frame->size() != size) {
        QOpenGLFramebufferObjectFormat f;
        f.setAttachment(QOpenGLFramebufferObject::Depth);
        f.setSamples(smooth ? 4 : 0);
        frame = std::make_unique<QOpenGLFramebufferObject>(size, f);
    }
    if (!frame->bind()) return false;
    context_->functions()->glViewport(0, 0, size.width(), size.height());
    return true;
}

QImage GlStage::end() {
    for (auto& f : frames_)
        if (f && f->isBound()) {
            QImage image = f->toImage();
            f->release();
            return image;
        }
    return {};
}

} // namespace prism::app
