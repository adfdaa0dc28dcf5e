#pragma once
#include "core/drawing/picture.h"

// Scans made for the tests: lines of known place and width, turned, stretched and grainy.
namespace prism::test {

struct ScanSetting {
    double width = 150, height = 110; ///< of the paper, mm
    double dpi = 200;
    double degrees = 0; ///< counter-clockwise
    double stretch = 1; ///< upright against level
    double grain = 0;   ///< standard deviation of grey values
    unsigned seed = 1;
};

class PaperScan {
  public:
    explicit PaperScan(const ScanSetting& s);
    /// Coordinates in mm from the lower left corner of the paper, y up.
    void line(Vec2 a, Vec2 b, double pen = 0.5);
    void dashed(Vec2 a, Vec2 b, double dash, double gap, double pen = 0.35);
    void arc(Vec2 centre, double radius, double from, double sweep, double pen = 0.5);
    void circle(Vec2 centre, double radius, double pen = 0.5) { arc(centre, radius, 0, 2 * kPi, pen); }
    void box(Vec2 lo, Vec2 hi, double pen = 0.5);
    /// The pixel coordinates of a place.
    Vec2 at(Vec2 mm) const;
    ScanPixels pixels() const;

  private:
    ScanSetting s_;
    int width_, height_;
    std::vector<double> ink_;
};

} // namespace prism::test
