#pragma once
#include <QMatrix4x4>
#include <QVector3D>

#include <cmath>

namespace prism::app {

/// A parallel camera that turns round a point. Angles in degrees: azimuth 0 looks along +Y (onto the front
/// pane), elevation 90 looks down.
class Camera {
  public:
    QVector3D centre;
    float azimuth = 32, elevation = 24;
    float height = 100; ///< mm seen over the canvas' height

    QMatrix4x4 view() const {
        QMatrix4x4 m;
        m.rotate(elevation - 90, 1, 0, 0);
        m.rotate(-azimuth, 0, 0, 1);
        m.translate(-centre);
        return m;
    }
    QMatrix4x4 projection(float aspect) const {
        QMatrix4x4 m;
        m.ortho(-height * aspect / 2, height * aspect / 2, -height / 2, height / 2, -50 * height,
                50 * height);
        return m;
    }
    QMatrix4x4 whole(float aspect) const { return projection(aspect) * view(); }
    void orbit(float dx, float dy) {
        azimuth = std::remainder(azimuth - dx, 360.0f);
        elevation = std::clamp(elevation + dy, -90.0f, 90.0f);
    }
    /// Moves what is seen by pixels.
    void pan(float dx, float dy, float pixelsHigh) {
        const QMatrix4x4 inverse = view().inverted();
        const float f = height / std::max(1.0f, pixelsHigh);
        centre -= inverse.mapVector(QVector3D(dx * f, -dy * f, 0));
    }
};

} // namespace prism::app
