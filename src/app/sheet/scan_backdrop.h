#pragma once
#include "core/drawing/picture.h"

#include <QPainter>

namespace prism::app {

/// Scans under the lines of a sheet, painted as ink without paper. Keeps smaller copies, so that looking at
/// the whole of a large scan takes no longer than at a part.
class ScanBackdrop {
  public:
    void rebuild(const std::vector<Picture>& pictures);
    bool empty() const { return pictures_.empty(); }
    /// How strongly the ink shows, 0 to 1.
    void setStrength(double s) { strength_ = s; }
    /// Painter in sheet coordinates, y up.
    void paint(QPainter& p, double pixelsPerUnit, const Box2& visible) const;

  private:
    struct Level {
        int width, height;
        std::vector<std::uint8_t> grey;
    };
    void paintPicture(QPainter& p, const Picture& picture, double pixelsPerUnit, const Box2& visible) const;
    void measurePaper(const ScanPixels& s);

    std::vector<Picture> pictures_;
    std::shared_ptr<const ScanPixels> scan_; ///< the one the copies were made of
    std::vector<Level> smaller_;             ///< each half of the one before
    int paper_ = 255, ink_ = 0;              ///< grey values of bare paper and of full ink
    double strength_ = 0.7;
};

} // namespace prism::app
