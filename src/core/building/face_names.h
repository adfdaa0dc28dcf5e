#pragma once
#include <NCollection_DataMap.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopTools_ShapeMapHasher.hxx>
#include <TopoDS_Shape.hxx>
#include <compare>
#include <vector>

namespace prism {

/// Where a face of the solid comes from: the step that made it, and within it the curve of the figure that
/// was pushed or turned, or one of the two ends. It stays the same when the numbers change.
struct FaceName {
    enum class Part {
        side,    ///< a curve pushed along or turned
        low_end, ///< where the body begins along the view's depth, or where it begins to turn
        high_end,
        blend ///< made in the place of an edge, within a shell, or as the floor of a hole
    };
    int step = 0; ///< index in the build list
    Part part = Part::side;
    int curve = -1; ///< of a side: index in Figure::curves
    friend auto operator<=>(const FaceName&, const FaceName&) = default;
};

/// The names of faces while a solid is being made, carried on by what the modeller tells of each operation. A
/// face that was split gives its names to all its pieces; one that was merged has those of all it was made
/// of.
class FaceNames {
  public:
    void add(const TopoDS_Shape& face, FaceName name);
    /// Sorted; empty for a face that nothing is known of.
    std::vector<FaceName> of(const TopoDS_Shape& face) const;
    /// Takes over the names of a body that is now part of the solid.
    void take(const FaceNames& other);
    /// Follows the faces of `arguments` through an operation: anything with Modified(face).
    template <class Operation> void follow(Operation& done, const TopoDS_Shape& argument) {
        for (const TopoDS_Shape& face : facesOf(argument))
            if (const auto names = of(face); !names.empty())
                for (const TopoDS_Shape& now : done.Modified(face))
                    for (const FaceName& n : names) add(now, n);
    }
    /// By face of a shape, in the modeller's order of its faces.
    std::vector<std::vector<FaceName>> ofAll(const TopoDS_Shape& shape) const;

  private:
    static std::vector<TopoDS_Shape> facesOf(const TopoDS_Shape& shape);
    NCollection_DataMap<TopoDS_Shape, std::vector<FaceName>, TopTools_ShapeMapHasher> names_;
};

} // namespace prism
