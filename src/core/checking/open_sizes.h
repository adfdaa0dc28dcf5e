#pragma once
#include "core/checking/finding.h"

// Completeness of the dimensions: the degrees of freedom that they leave to the figure, and what they say
// twice. What merely agrees as drawn (equal radii, symmetry, lines at one height) is taken to be meant so.
namespace prism {

/// How dimensions that are added count (ISO 129-1): all from one place, each from the nearest place that is
/// known, or as coordinates of one place.
enum class Laying { baseline, chain, ordinate };
inline constexpr Laying kLastLaying = Laying::ordinate;
const char* nameOf(Laying l);

/// The end of the part that sizes are counted from, along each axis.
enum class Datum { low, high, middle };
inline constexpr Datum kLastDatum = Datum::middle;
const char* nameOf(Datum d);

struct LayingChoice {
    Laying laying = Laying::baseline;
    std::array<Datum, 3> datum{Datum::low, Datum::low, Datum::low}; ///< by axis
};

/// A size that nothing determines.
struct OpenSize {
    bool radius = false; ///< of an arc or circle; else where something stands along an axis
    int view = 0;        ///< that shows it
    Axis axis = Axis::x;
    double at = 0;            ///< the radius, or the place on its axis as drawn, mm
    int variable = -1;        ///< unknown of the figure
    std::vector<int> lines;   ///< figure curves that change with it in that view
    std::vector<Vec2> places; ///< on the sheet
    std::string what;         ///< "the radius of the circle", "the line at 20"
    /// The dimension that would close it, and what it would say: mm.
    AddedDimension closes;
    double value = 0;
    std::string from;  ///< where it counts from, in words; empty for a radius
    bool round = true; ///< its number has no more than one digit after the point in the sheet's unit
};

/// A dimension that follows from others.
struct GivenTwice {
    std::string name;
    std::vector<std::string> from; ///< numbers that it follows from; none when the figure alone gives it
};

struct Completeness {
    std::vector<OpenSize> open;
    std::vector<GivenTwice> twice;
    std::string left_undone; ///< why nothing was looked for; empty when all was
    bool complete() const { return open.empty() && left_undone.empty(); }
};

/// Looks at the figure as drawn. The open sizes are told in an order in which each dimension closes one of
/// them, so there are as many as degrees of freedom. Not whole when it was stopped.
Completeness completenessOf(const CheckInput& in, const LayingChoice& how, Progress& progress);

/// All that closes the sizes that are open.
Change closingAll(const Completeness& c);

/// The unknowns of the figure when an open size is another by so much, mm, and all that is determined stays;
/// none where no shape has that.
std::optional<std::vector<double>> movedBy(const Figure& f, const Ledger& l, const OpenSize& o, double by);

} // namespace prism
