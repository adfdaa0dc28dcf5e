#pragma once
#include <TopoDS_Shape.hxx>
#include <array>
#include <optional>
#include <string>
#include <vector>

#include "core/base/geometry.h"

namespace prism {

/// What a part is made of.
struct Material {
    std::string name, standard; ///< as the standard has it; empty for one that a person added
    double density = 0;         ///< kg/m^3
    friend bool operator==(const Material&, const Material&) = default;
};

/// The materials that ship: those of mechanical drawings, with usual densities.
const std::vector<Material>& materials();
/// The material of a name, in whatever case; or "name = 7850", one of a person's own with its density in
/// kg/m^3. None for anything else.
std::optional<Material> materialNamed(const std::string& text);

/// What a solid weighs.
struct Weight {
    double mass = 0;                                ///< kg
    Vec3 centre;                                    ///< centre of gravity, mm
    std::array<std::array<double, 3>, 3> inertia{}; ///< about the centre, along the model axes, kg mm^2
};
/// None for a shape without volume.
std::optional<Weight> weightOf(const TopoDS_Shape& shape, const Material& m);

} // namespace prism
