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
    float roll = 0;     ///< about the direction into the picture
    float height = 100; ///< mm seen over the canvas' height

    QMatrix4x4 view() const {
        QMatrix4x4 m;
        m.rotate(roll, 0, 0, 1);
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
        roll = 0; // turning by hand keeps the part upright
        azimuth = std::remainder(azimuth - dx, 360.0f);
        elevation = std::clamp(elevation + dy, -90.0f, 90.0f);
    }
    /// Turns so that a direction points at the viewer, and another one up.
    void face(const QVector3D& facing, const QVector3D& up) {
        roll = 0;
        const QVector3D d = -facing.normalized();
        elevation = std::clamp(std::asin(std::clamp(-d.z(), -1.0f, 1.0f)) * 180 / 3.14159265f, -90.0f, 90.0f);
        azimuth = std::hypot(d.x(), d.y()) < 1e-4f ? 0 : std::atan2(-d.x(), d.y()) * 180 / 3.14159265f;
        const QVector3D seen = view().mapVector(up);
        roll = std::atan2(seen.x(), seen.y()) * 180 / 3.14159265f;
    }
    /// The direction from the viewer into the picture.
    QVector3D into() const { return view().inverted().mapVector(QVector3D(0, 0, -1)).normalized(); }
    /// Moves what is seen by pixels.
    void pan(float dx, float dy, float pixelsHigh) {
        const QMatrix4x4 inverse = view().inverted();
        const float f = height / std::max(1.0f, pixelsHigh);
        centre -= inverse.mapVector(QVector3D(dx * f, -dy * f, 0));
    }
};

} // namespace prism::app
