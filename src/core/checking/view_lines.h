#pragma once
#include "core/figure/figure.h"

// The lines of one view as they meet each other.
namespace prism::checking {

class ViewLines {
  public:
    ViewLines(const Figure& f, int view, double tolerance);

    /// Outline and hidden lines.
    const std::vector<const FigureCurve*>& curves() const { return curves_; }
    /// Whether a place lies on a line, in the view's coordinates.
    bool touches(Vec2 p, const FigureCurve& c) const;
    /// Whether an end of a line meets no other line.
    bool isDead(Vec2 end, const FigureCurve& of) const;

  private:
    std::vector<const FigureCurve*> curves_;
    double tolerance_;
};

} // namespace prism::checking
