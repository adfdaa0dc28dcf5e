#pragma once
#include <QImage>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFramebufferObject>

#include <memory>

namespace prism::app {

/// A place to draw with OpenGL that gives pictures. The window itself stays free of OpenGL: with one canvas
/// drawn by it the toolkit would put every part of the window together on the card, which without one costs
/// more than all the drawing.
class GlStage {
  public:
    ~GlStage();
    /// Makes the stage current at this size in pixels, with smooth edges or without; false when there is no
    /// OpenGL to be had.
    bool begin(const QSize& size, bool smooth);
    /// What was drawn since.
    QImage end();
    /// Makes it current without a size, to create and release what lives on the card.
    bool makeCurrent();

  private:
    bool ready();
    bool tried_ = false;
    std::unique_ptr<QOffscreenSurface> surface_;
    std::unique_ptr<QOpenGLContext> context_;
    std::unique_ptr<QOpenGLFramebufferObject> frames_[2]; ///< plain and smooth
};

} // namespace prism::app
