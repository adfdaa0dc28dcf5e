#pragma once
#include "core/base/geometry.h"

#include <gp_XYZ.hxx>

namespace prism {

/// A vector as the modeller has it.
inline gp_XYZ packed(Vec3 v) {
    return {v.x, v.y, v.z};
}

} // namespace prism
