#pragma once
#include "core/solving/system.h"
#include "core/views/view_set.h"

// All views' geometry in model coordinates (mm) as one system of unknowns. A view's curves use its own two
// axes: (right axis value, up axis value), so a left view runs mirrored against its drawing.
namespace prism {

/// A point of a view: its two coordinates as unknowns.
struct FigurePoint {
    int view = 0;
    int u = 0, v = 0; ///< variables of the right and the up axis
};

struct FigureCurve {
    int entity = 0, index = 0; ///< drawing entity and which of its curves
    int view = 0;
    LineRole role = LineRole::outline;
    Curve drawn;          ///< as drawn, in model coordinates of the view
    int p0 = -1, p1 = -1; ///< points of its ends; -1 for a full circle
    int centre = -1;      ///< point, for arcs and circles
    int radius = -1;      ///< variable, for arcs and circles
};

enum class RelationKind {
    coincident,
    horizontal,
    vertical,
    concentric,
    tangent,
    on_line,
    on_circle,
    equal,
    symmetric,
    station,
    centred,
    datum ///< where an axis is counted from stays put
};
const char* nameOf(RelationKind k);

/// A recognised relation, for people to see. The equations carry its index as owner.
struct Relation {
    RelationKind kind;
    std::vector<int> curves; ///< figure curves concerned
    Axis axis = Axis::x;     ///< of a station
    double at = 0;           ///< of a station, mm
};

/// A datum gives way last of all that is weak.
inline constexpr double kDatumScore = 1e6;

/// One coordinate value along an axis and who stands on it.
struct Station {
    Axis axis;
    double value = 0;
    std::vector<int> variables;
    std::vector<int> views;
};

/// One view's share of the figure.
struct FigureView {
    int view = 0; ///< id in the ViewSet
    Role role = Role::front;
    ViewAxes axes{};
    Affine2 to_model;
    Box2 box; ///< model coordinates as drawn
};

/// A place on an axis written with unknowns: one coordinate, or a centre plus or minus a radius.
struct Mark {
    std::vector<Term> terms;
    Axis axis = Axis::x;
    int view = 0;
    double value = 0;           ///< as drawn
    std::vector<double> others; ///< the other coordinate of the points that stand here
    int curve = -1;             ///< a figure curve it belongs to
    /// Where a line runs smoothly on into another, no view sees an edge.
    bool smooth = false;
};

/// Whether lines say if they are seen or hidden. A sheet whose lines are all drawn alike tells only where
/// edges are.
enum class LineKinds { told, alike };

struct Figure {
    std::vector<FigureView> views; ///< the principal views only
    std::vector<FigurePoint> points;
    std::vector<FigureCurve> curves;
    std::vector<Equation> equations; ///< structure, strong and weak
    std::vector<Relation> relations;
    std::vector<Mark> marks;
    std::vector<double> drawn; ///< unknowns as drawn
    std::vector<double> now;   ///< unknowns as solved
    std::vector<double> weights;
    std::vector<int> axis_of; ///< by unknown: 0 X, 1 Y, 2 Z, -1 radius
    double size = 1;          ///< largest extent, mm
    Tolerances tolerances;

    const FigureView* viewById(int view) const;
    const FigureView* viewWithRole(Role r) const;
    Vec2 at(const FigurePoint& p, const std::vector<double>& x) const { return {x[p.u], x[p.v]}; }
    /// A curve with the given unknowns, in model coordinates of its view.
    Curve curve(int i, const std::vector<double>& x) const;
    Curve curve(int i) const { return curve(i, now); }
    double value(const std::vector<Term>& terms, const std::vector<double>& x) const;
    double tolerance() const { return tolerances.solved * size; }
    /// Whether any line is drawn as hidden.
    bool drawsHidden() const;
};

/// Builds the unknowns, recognises relations and joins the views. Principal views only. Not whole when it was
/// stopped.
Figure buildFigure(const Drawing& d, const CleanSheet& s, const ViewSet& set, Progress& progress);
inline Figure buildFigure(const Drawing& d, const CleanSheet& s, const ViewSet& set) {
    NoProgress quiet;
    return buildFigure(d, s, set, quiet);
}

/// The stations as they now stand, sorted by axis and value.
std::vector<Station> stationsOf(const Figure& f);

/// Where the plane of a view goes when its figure moves: piecewise linear between the view's coordinates.
/// Carries along what is drawn but not part of the figure (dimension lines, texts, ends of centre lines).
class Warp {
  public:
    Warp(const Figure& f, int view);
    Vec2 operator()(Vec2 model) const;

  private:
    std::vector<std::pair<double, double>> u_, v_; ///< drawn value -> value now, sorted
};

} // namespace prism
