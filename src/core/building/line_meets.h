#pragma once
#include <IntCurvesFace_Intersector.hxx>
#include <TopoDS_Shape.hxx>
#include <gp_Lin.hxx>

#include <memory>
#include <optional>
#include <vector>

namespace prism {

/// Where straight lines meet the faces of a shape. The modeller's own class for whole shapes ends the program
/// when one of the faces cannot be taken; here that is an exception like any other.
class LineMeets {
  public:
    /// The shape must outlive it. `tolerance`: mm.
    explicit LineMeets(const TopoDS_Shape& shape, double tolerance = 1e-7);
    /// Places along the line, in no order, mm from its location; between `from` and `to` only.
    std::vector<double> operator()(const gp_Lin& line, double from, double to);
    /// Where a line meets a face, by its number in the order of the shape.
    struct Place {
        size_t face;
        double at; ///< mm along the line from its location
    };
    /// The first place along a line without end; nothing where it passes by.
    std::optional<Place> first(const gp_Lin& line);

  private:
    std::vector<std::unique_ptr<IntCurvesFace_Intersector>> faces_;
};

} // namespace prism
