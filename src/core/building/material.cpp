#include "core/building/material.h"

#include "core/base/text_scanner.h"
#include "core/building/kernel.h"

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <gp_Mat.hxx>

#include <algorithm>

namespace prism {

const std::vector<Material>& materials() {
    static const std::vector<Material> all{
        {"Steel S235JR", "EN 10025-2", 7850},
        {"Steel C45", "EN ISO 683-1", 7850},
        {"Stainless steel X5CrNi18-10", "EN 10088-1", 7900},
        {"Cast steel GE240", "EN 10293", 7850},
        {"Grey cast iron EN-GJL-250", "EN 1561", 7200},
        {"Ductile cast iron EN-GJS-400-15", "EN 1563", 7100},
        {"Tin bronze CuSn12-C", "EN 1982", 8700},
        {"Brass CuZn39Pb3", "EN 12164", 8460},
        {"Copper Cu-ETP", "EN 1652", 8940},
        {"Aluminium EN AW-6082", "EN 573-3", 2700},
        {"Cast aluminium EN AC-43000", "EN 1706", 2650},
        {"Zinc ZL0410", "EN 1774", 6700},
        {"Lead", "EN 12659", 11340},
        {"Polyamide PA 6", "EN ISO 16396-1", 1140},
        {"Polyoxymethylene POM", "EN ISO 29988-1", 1410},
    };
    return all;
}

std::optional<Material> materialNamed(const std::string& text) {
    if (const size_t sign = text.rfind('='); sign != std::string::npos) {
        constexpr double kDensest = 30000;
        const auto density = numberIn(std::string_view(text).substr(sign + 1));
        std::string name = text.substr(0, sign);
        while (!name.empty() && name.back() == ' ') name.pop_back();
        if (name.empty() || !density || !(*density > 0 && *density < kDensest)) return std::nullopt;
        return Material{name, "", *density};
    }
    const auto same = std::ranges::find_if(
        materials(), [name = capitals(text)](const Material& m) { return capitals(m.name) == name; });
    return same == materials().end() ? std::nullopt : std::optional(*same);
}

std::optional<Weight> weightOf(const TopoDS_Shape& shape, const Material& m) {
    if (shape.IsNull()) return std::nullopt;
    std::optional<Weight> r;
    (void)thrownBy([&] {
        GProp_GProps g;
        BRepGProp::VolumeProperties(shape, g, 1e-6);
        if (!(g.Mass() > 0)) return;
        const double per_mm3 = m.density * 1e-9;
        const gp_Pnt c = g.CentreOfMass();
        const gp_Mat about = g.MatrixOfInertia();
        Weight w{g.Mass() * per_mm3, {c.X(), c.Y(), c.Z()}, {}};
        for (int i = 0; i < 3; ++i)
            for (int k = 0; k < 3; ++k)
                w.inertia[static_cast<size_t>(i)][static_cast<size_t>(k)] =
                    about.Value(i + 1, k + 1) * per_mm3;
        r = w;
    });
    return r;
}

} // namespace prism
