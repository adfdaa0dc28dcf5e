#pragma once
#include "core/proposing/cell_model.h"
#include "core/proposing/consistency.h"
#include "core/proposing/judge.h"

// Plane faces that lie askew to all views.
namespace prism {

/// A plane askew to all axes, told by two lines of different views that run slanted and meet in a corner
/// (after Wesley & Markowsky 1981, with edges that lie in faces square to the axes).
struct ObliquePlane {
    std::array<Vec3, 3> corners; ///< model coordinates as drawn; the first is where the two lines meet
    Vec3 normal;                 ///< unit
    bool confirmed = false;      ///< whether a third view has a line in it, or where it meets another one
    double beyond(Vec3 p) const { return dot(p - corners[0], normal); }
};
/// Those that views tell, confirmed ones first; at most a handful.
std::vector<ObliquePlane> obliquePlanes(const Figure& f, const std::vector<ViewMap>& maps);

/// A cell is where a place lies of each of some planes.
class PlaneCells final : public CellModel {
  public:
    /// The planes must outlive it; at most 16.
    PlaneCells(const std::vector<ViewMap>& maps, const std::vector<ObliquePlane>& planes);
    Ray ray(int map, Vec2 at) override;
    int cells() const override { return static_cast<int>(masks_.size()); }
    /// By plane a bit: whether the cell lies beyond it.
    unsigned sidesOf(int cell) const { return masks_[static_cast<size_t>(cell)]; }

  private:
    const std::vector<ObliquePlane>& planes_;
    std::map<unsigned, int> index_;
    std::vector<unsigned> masks_;
};

/// One cell: what lies before all of some planes, each turned away from it on one side.
class BoundedCell final : public CellModel {
  public:
    /// `air`: by plane the side on which nothing is, +1 beyond it or -1 before it.
    BoundedCell(const std::vector<ViewMap>& maps, std::vector<std::pair<ObliquePlane, int>> planes)
        : CellModel(maps), planes_(std::move(planes)) {}
    Ray ray(int map, Vec2 at) override;
    int cells() const override { return 1; }

  private:
    std::vector<std::pair<ObliquePlane, int>> planes_;
};

/// Areas extruded, from which some of the planes cut away what lies beyond: one choice of faces after the
/// other, those with most of them first.
void fromFacets(const Figure& f, const std::vector<ViewMap>& maps, const std::vector<ObliquePlane>& planes,
                bool gridded, Lines lines, Progress& progress, Judge& best);

/// Material of cells that oblique planes cut as well: areas extruded, then all beyond the planes cut away.
void fromObliquePlanes(const Figure& f, const std::vector<ViewMap>& maps,
                       const std::vector<ObliquePlane>& planes, bool gridded, Lines lines, Progress& progress,
                       Judge& best);

} // namespace prism
