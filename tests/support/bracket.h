#pragma once
#include "core/building/steps.h"

// The roller bracket of the demo in closed form, and steps to build it as a person would.
namespace prism::test {

/// The numbers of the sheet, mm; as on it unless changed.
struct Bracket {
    double length = 120, depth = 60, thickness = 14, step_x = 92, step_z = 8;
    double upright_y = 20, bore_z = 62, radius = 20, bore = 16;
    double block_x = 12, block_y = 20, block_z = 30;
    double pad_x = 14, pad_y = 18, pad_z = 30;
    double hole = 9, slot_length = 20, slot_radius = 5.5;

    double volume() const {
        constexpr double pi = 3.14159265358979323846;
        const double base = depth * (step_x * thickness + (length - step_x) * step_z);
        const double holes = 2 * pi * hole * hole / 4 * thickness;
        const double slot = (2 * slot_radius * slot_length + pi * slot_radius * slot_radius) * thickness;
        const double upright =
            upright_y * (2 * radius * (bore_z - thickness) + pi * radius * radius / 2 - pi * bore * bore / 4);
        const double block = block_x * block_y * (block_z - thickness);
        const double pad = pad_x * pad_y * (pad_z - step_z);
        return base - holes - slot + upright + block + pad;
    }
};

/// Base, upright, block and pad added, then bore, holes and slot cut. Points are places on the sheet's views
/// in model coordinates.
std::vector<Step> bracketSteps();

} // namespace prism::test
