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

    /// Says where the dimension of an open place counts from. `known` tells which unknowns it may count from.
    /// A round number from another place wins over one with many digits from the place asked for. `index`: of
    /// the open size among all.
    void close(OpenSize& o, size_t index, bool right, Vec2 point, const std::function<bool(int)>& known);
    /// Puts the dimensions of all that were closed beside their views, the shortest next to the view.
    void lay(std::vector<OpenSize>& all);

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
    /// How far it is to the next view on that side, sheet units.
    double room(int view, Vec2 out) const;
    AddedDimension placed(const OpenSize& o, Beside& b, Vec2 start, Vec2 to) const;

    struct Closed {
        size_t index;
        bool right;
        Vec2 start, to; ///< on the sheet
    };
    std::vector<Closed> closed_;

    const CheckInput& in_;
    const LayingChoice& how_;
    double letter_ = 2.5; ///< height of the sheet's numbers, sheet units
    std::map<std::pair<int, bool>, Beside> beside_;
};

} // namespace prism
