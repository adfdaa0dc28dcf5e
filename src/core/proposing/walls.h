#pragma once
#include "core/proposing/view_map.h"

// What a view shows of a body of revolution that is looked at from the side: lines in mirrored pairs.
namespace prism {

/// A part of a figure curve, from one parameter to another.
struct CurvePart {
    int curve;
    double from = 0, to = 1;
};

/// The lines of a view beside an axis that runs along one of its own axes. Places are told by how far from
/// the axis they are and by their depth along it, mm.
class Walls {
  public:
    /// `depth`: the axis along which it runs; `centre`: where it stands on the other one; what is farther
    /// from it than `reach` is left out.
    Walls(const ViewMap& m, Axis depth, double centre, double reach);

    /// Stretches in which the wall of a round hole stands on both sides, so far from the axis: hidden on one
    /// side at least, or between hatched areas and one that is not. Where it comes out of a sloping face, up
    /// to where that is farthest.
    std::vector<std::pair<double, double>> along(double radius) const;
    struct Corner {
        double radius, at;
    };
    /// Where the wall that leans from a corner ends, upwards (+1) or downwards; seen on both sides.
    std::optional<Corner> slantFrom(Corner from, double sign) const;
    /// Whether a line across closes the hole there, and goes no farther than its walls.
    bool closedAt(double radius, double at) const;
    /// Whether a hole may end there, upwards (+1) or downwards, with a floor or a drill's point.
    bool endsAt(double radius, double at, double sign) const {
        return closedAt(radius, at) || slantFrom({radius, at}, sign);
    }
    /// Where lines begin, end or lie, along the axis; sorted.
    std::vector<double> levels() const;

  private:
    struct Line {
        Vec2 a, b;  ///< (from the axis, along it)
        bool tells; ///< hidden, or of a section
    };
    const ViewMap& map_;
    bool depth_right_;
    double centre_, tol_;
    std::pair<double, double> toSlope(std::pair<double, double> both, const std::pair<double, double>& low,
                                      const std::pair<double, double>& high, double radius) const;
    std::vector<Line> lines_;
    std::vector<std::pair<Vec2, Vec2>> slopes_; ///< sloping lines right across it, as in `lines_`
};

/// The outline of a round hole from its axis outwards.
struct HoleProfile {
    struct Wall {
        double radius, at, end_radius, end; ///< a cylinder or cone
    };
    struct Level {
        double radius, at; ///< a floor, or where the wall bends
    };
    struct Mouth {
        double radius, at, out; ///< where it leaves the part; out: +1 or -1 along the depth axis
    };
    std::vector<Wall> walls;
    std::vector<Level> levels;
    std::vector<Mouth> mouths;
};

/// What a hole leaves of a view's lines.
struct Explained {
    std::vector<CurvePart> lines;
    /// Where the outline was open to the hole: the line that closes it, and the curves that it stands for.
    struct Closed {
        Segment line;
        std::vector<int> over;
    };
    std::vector<Closed> closing;
};
/// `drawn_seen`: its walls may be drawn visible, as in a section whose plane the axis lies in.
Explained explainedBy(const HoleProfile& p, const Figure& f, const ViewMap& m, Axis depth, double centre,
                      bool drawn_seen);

} // namespace prism
