#pragma once
#include "core/proposing/view_map.h"
#include "support/samples.h"

// Sheets of a part in front, top and right view, drawn by places in space, and what a proposal reads off
// them.
namespace prism::test {

/// Places of a part of some width (X), depth (Y, 0 at the front) and height (Z) in the three views: the front
/// view with the part's origin at (0, 0), the others beside it in third angle.
struct ThreeViews {
    double width, depth, height;
    DxfText sheet{};

    /// Of a view along the axis: the right and the up coordinate of a place, on the sheet.
    Vec2 on(Axis along, Vec3 p) const;
    /// A line in one view.
    void line(Axis along, Vec3 a, Vec3 b, const char* layer = "OUTLINE");
    void circle(Axis along, Vec3 centre, double radius, const char* layer = "OUTLINE");
    /// The outlines of the part's whole box in all three views.
    void box();
};
/// Begins a sheet with layers for outlines and hidden lines, which says that it is in third angle.
ThreeViews threeViews(double width, double depth, double height);

/// The document of a sheet, written to a file and opened.
Document inViews(const DxfText& t);
/// Of every view of the figure.
std::vector<ViewMap> mapsOf(const Document& d);

} // namespace prism::test
