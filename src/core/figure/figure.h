#pragma once
#include "core/solving/system.h"
#include "core/views/view_plane.h"

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
    Curve drawn;                  ///< as drawn, in model coordinates of the view
    int p0 = -1, p1 = -1;         ///< points of its ends; -1 for a full circle
    int centre = -1;              ///< point, for arcs and circles, and ellipses along the view's axes
    int radius = -1;              ///< variable, for arcs and circles
    int half_u = -1, half_v = -1; ///< variables, for such ellipses: half their extent along right and up
    bool freehand = false;        ///< it goes round what is broken out (LocalCut) and is no edge of the part
    bool onEllipse() const { return half_u >= 0; }
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
    parallel,
    perpendicular,
    half_square, ///< a line at 45 degrees
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

/// What a view shows of the part.
enum class Shows {
    all,       ///< all of it, from one side
    cut,       ///< what lies behind a cutting plane
    close_up,  ///< what another view shows within a circle
    from_askew ///< all or some of it, along a direction that is no model axis
};

/// One view's share of the figure. Its coordinates count along model axes; an auxiliary view's first one runs
/// along an axis of its own, which follows the edge that the view is drawn square to.
struct FigureView : ViewPlane {
    int view = 0;  ///< id in the ViewSet
    ViewName name; ///< what steps call it
    Shows shows = Shows::all;
    Box2 box;                  ///< own coordinates as drawn
    int on = -1;               ///< the view it hangs on; -1 for a principal one
    Segment line;              ///< the cutting plane or fold line, in the coordinates of `on` as drawn
    std::vector<Segment> legs; ///< of a stepped cutting plane its parts, likewise
    Box2 within;               ///< of a close-up: the square round its circle, own coordinates as drawn
    /// Of an auxiliary view: the point where its own axis begins, and the one that its direction leads to;
    /// -1 where no edge of the figure has that direction, and it never turns.
    int from = -1, to = -1;

    Role role() const { return name.role; }
    bool principal() const { return shows == Shows::all; }
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

/// Hatching of a section: its border, or one of the single lines that it is made of; as drawn, in the
/// section's own coordinates.
struct Hatch {
    int view = 0, entity = 0; ///< entity: of the drawing
    bool border = false;
    std::vector<Curve> curves;
};

/// A region of a principal view that shows the part cut open without a cutting line, within a freehand line
/// (broken-out section, ISO 128-3).
struct LocalCut {
    int view = 0;
    std::vector<std::vector<int>> areas;   ///< its closed areas, by their bounds
    std::vector<std::vector<Vec2>> border; ///< of the region as drawn, as polygons: inside of an odd number
    bool contains(Vec2 drawn) const;
    /// Where the plane may stand on the depth axis of the view, the likeliest first: through a centre that
    /// another view shows there, or in the middle of the part. The sheet does not say which.
    std::vector<std::vector<Term>> planes;
};

/// A circle drawn as a centre line, on which the centres of holes lie.
struct PitchCircle {
    int view = 0, entity = 0, index = 0; ///< drawing entity and which of its curves
    Arc drawn;                           ///< model coordinates of the view
    int centre = 0, radius = 0;          ///< point and variable
};

struct Figure {
    std::vector<FigureView> views; ///< those that stand in the box, principal ones first
    std::vector<FigurePoint> points;
    std::vector<FigureCurve> curves;
    std::vector<Equation> equations; ///< structure, strong and weak
    std::vector<Relation> relations;
    std::vector<Mark> marks;
    std::vector<Hatch> hatching;
    std::vector<LocalCut> local_cuts;
    std::vector<PitchCircle> pitch_circles;
    /// Where a point of the view that an auxiliary view hangs on stands on the own axis of that view:
    /// unknowns by (auxiliary view, point).
    std::map<std::pair<int, int>, int> shadows;
    std::vector<double> drawn; ///< unknowns as drawn
    std::vector<double> now;   ///< unknowns as solved
    std::vector<double> weights;
    std::vector<int> axis_of; ///< by unknown: its axis, -1 for a radius
    double size = 1;          ///< largest extent, mm
    Tolerances tolerances;

    const FigureView* viewById(int view) const;
    const FigureView* viewNamed(const ViewName& n) const;
    std::vector<const FigureView*> principalViews() const;
    Vec2 at(const FigurePoint& p, const std::vector<double>& x) const { return {x[p.u], x[p.v]}; }
    /// A curve with the given unknowns, in model coordinates of its view.
    Curve curve(int i, const std::vector<double>& x) const;
    Curve curve(int i) const { return curve(i, now); }
    Curve ellipse(const FigureCurve& c, const std::vector<double>& x) const;
    double value(const std::vector<Term>& terms, const std::vector<double>& x) const;
    double tolerance() const { return tolerances.solved * size; }
    /// Whether any line is drawn as hidden.
    bool drawsHidden() const;
};

/// Builds the unknowns, recognises relations and joins the views that stand in the box. Not whole when it was
/// stopped.
Figure buildFigure(const Drawing& d, const CleanSheet& s, const ViewSet& set, Progress& progress);
inline Figure buildFigure(const Drawing& d, const CleanSheet& s, const ViewSet& set) {
    NoProgress quiet;
    return buildFigure(d, s, set, quiet);
}

/// The stations as they now stand, sorted by axis and value.
std::vector<Station> stationsOf(const Figure& f);

/// Where a view's coordinates stand in space as its figure now stands: p = dot(P, right) + shift.x and so on.
struct ViewFrame {
    Vec3 right, up, look;
    Vec2 shift;
    Vec2 operator()(Vec3 p) const { return {dot(p, right) + shift.x, dot(p, up) + shift.y}; }
    /// The place in space, as deep as a plane square to `look` with that distance from the origin.
    Vec3 inSpace(Vec2 p, double depth) const {
        return (p.x - shift.x) * right + (p.y - shift.y) * up + depth * look;
    }
};
ViewFrame frameOf(const Figure& f, const FigureView& v, const std::vector<double>& x);
/// Where a section is cut, as the figure now stands. A stepped plane has several parts, each between two
/// places along the line; a straight one has one without end.
struct Cut {
    struct Part {
        double from, to; ///< along `along`, mm; infinite at the ends
        double depth;    ///< from the origin along the way in which the section looks, mm
        friend bool operator==(const Part&, const Part&) = default;
    };
    Vec3 along; ///< unit
    std::vector<Part> parts;

    const Part& at(double along_it) const;
    /// Whether a place along the line is where the plane steps from one part to the next.
    bool steps(double along_it, double tolerance) const;
};
Cut cutOf(const Figure& f, const FigureView& v);
/// Where the part of the plane stands that shows a place of a section: the coordinate on its depth axis, or
/// for an oblique plane the distance from the origin along its look.
double cutAt(const Figure& f, const FigureView& v, Vec2 place);
/// From a view's coordinates, as they now stand, to the sheet; an auxiliary view turns with its edge.
Affine2 ontoSheet(const Figure& f, const FigureView& v, const std::vector<double>& x);

/// How a view hangs as the figure now stands: its plane moves with the lines beside it and turns with its
/// edge. `own` takes the sheet as it now stands.
Hanging hangingNow(const Figure& f, const View& v);

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
