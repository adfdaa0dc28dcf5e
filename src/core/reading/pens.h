#pragma once
#include "core/drawing/drawing.h"

namespace prism {

/// What a line was drawn with; lengths in mm.
struct Pen {
    std::string color;
    double width = 0;
    std::vector<double> dashes; ///< dash and gap in turn
    bool filled = false;        ///< an area without an outline: an arrowhead, a blot
};

/// Formats without layers are sorted by pen: the thick and the thin lines, and each dash pattern, get a layer
/// and a line type (ISO 128-2: outlines are drawn twice as thick as dimension and hatch lines).
class Pens {
  public:
    void use(const Pen& p, int entity);
    void text(int text) { texts_.push_back(text); }
    /// Gives the entities and texts their layers and line types.
    void finish(Drawing& d);

  private:
    struct Used {
        Pen pen;
        std::vector<int> entities;
    };
    std::vector<Used> used_;
    std::vector<int> texts_;
};

} // namespace prism
