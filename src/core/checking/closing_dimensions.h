#pragma once
#include "core/checking/open_sizes.h"

#include <functional>

// Dimensions that close open sizes: where they count from, and where they stand on the sheet.
namespace prism {

/// Radius of an arc, diameter of a circle.
void closeRound(const CheckInput& in, OpenSize& o, const FigureCurve& c);

class ClosingDimensions {
  public:
    ClosingDimensions(const CheckInput& in, const LayingChoice& how);

    /// Writes the dimension of an open place into it. `known` tells which unknowns a dimension may count
    /// from. A round number from another place wins over one with many digits from the place asked for.
    void close(OpenSize& o, bool right, Vec2 point, const std::function<bool(int)>& known);

  private:
    struct Place {
        Vec2 at;
        double value; ///< along the axis
        double cost;
    };
    std::vector<Place> placesToCountFrom(const OpenSize& o, bool right,
                                         const std::function<bool(int)>& known) const;
    double datumOf(const OpenSize& o, bool right) const;
    std::string wordsFor(const OpenSize& o, bool right, double value) const;

    /// Lines of dimensions along one way beside a view: how far out the first one stands, and what of each is
    /// taken, sheet units.
    struct Beside {
        Vec2 along, out;
        double first = 0;
        std::vector<std::vector<std::pair<double, double>>> taken;
    };
    Beside& beside(int view, bool right);

    const CheckInput& in_;
    const LayingChoice& how_;
    double letter_ = 2.5; ///< height of the sheet's numbers, sheet units
    std::map<std::pair<int, bool>, Beside> beside_;
};

} // namespace prism
