#pragma once
#include "app/box/box_scene.h"

#include <QMatrix4x4>
#include <QOpenGLFunctions>
#include <QOpenGLShaderProgram>
#include <QOpenGLTexture>

#include <memory>

namespace prism::app {

/// The scan on the panes: each pane shows the part of the scan that its view was traced from.
class PaneSkins {
  public:
    /// Draws over the panes that show, by the strength with which each does. The GL context is current.
    void draw(QOpenGLFunctions& gl, const Drawing& d, const BoxScene& scene,
              const std::function<double(const BoxScene::Pane&)>& strength, const QMatrix4x4& matrix);
    /// Gives back what lives on the card; the context is current.
    void release();

  private:
    void prepare(const ScanPixels& scan);
    std::unique_ptr<QOpenGLShaderProgram> program_;
    std::unique_ptr<QOpenGLTexture> texture_;
    const ScanPixels* of_ = nullptr; ///< what the texture shows
};

} // namespace prism::app
