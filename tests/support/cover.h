#pragma once
#include "core/project/model.h"

// The worm-housing cover of the demo in closed form, and steps to build it as a person would.
namespace prism::test {

/// The numbers of the sheet, mm; as on it unless changed.
struct Cover {
    double width = 100, depth = 50, height = 60, slope_x = 60, slope_z = 30;
    double pocket_from = 15, pocket_length = 30, pocket_floor = 20, wall_front = 10, wall_back = 10;
    double bore_x = 30, bore_z = 34, bore = 16;
    double groove_x = 78, groove_width = 6, groove_depth = 4;
    double pad_from = 12, pad_length = 26, pad_y = 13, pad_width = 24, pad_height = 3;
    double oil = 12, oil_from = 25, oil_y = 25, oil_depth = 9;

    double volume() const {
        constexpr double pi = 3.14159265358979323846;
        const double outline = width * height - (width - slope_x) * (height - slope_z) / 2;
        const double pocket = pocket_length * (depth - wall_front - wall_back) * (height - pocket_floor);
        return outline * depth - pocket - pi * bore * bore / 4 * (wall_front + wall_back) -
               groove_width * groove_depth * depth + pad_length * pad_width * pad_height -
               pi * oil * oil / 4 * oil_depth;
    }
    /// A place (X, Z) of the front view by its distance up the slope from its lower end, and out of it.
    Vec2 onSlope(double along, double out = 0) const {
        const Vec2 up = normalized(Vec2{slope_x - width, height - slope_z});
        return Vec2{width, slope_z} + up * along + Vec2{up.y, -up.x} * out;
    }
};

/// Body, pocket and bore from the front and top views, the boss and its bore from the auxiliary view.
std::vector<Step> coverSteps(const Model& m);

} // namespace prism::test
