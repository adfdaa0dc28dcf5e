#pragma once
#include "core/building/step_number.h"
#include "core/figure/areas.h"

#include <string>

// The build list. A step refers to places of the figure as drawn, never to copied numbers, so new values
// reach the solid by themselves. docs/steps.md says how each kind is written in a file.
namespace prism {

enum class StepKind {
    extrude, ///< areas pushed square to their view
    revolve, ///< areas turned round a line
    hole,    ///< round holes of all kinds, any number of them at once
    fillet,  ///< edges made round
    chamfer, ///< edges cut off
    shell,   ///< the solid hollowed out, or coated
    thicken, ///< a layer on faces, or off them
    lip,     ///< a rim along the border of a plane face, raised or cut in
    flange,  ///< a collar round the border of a plane face
    wall,    ///< an open chain of lines with a thickness, pushed square to its view
    rib,     ///< an open chain of lines with a thickness, filled up to what it meets
    slope,   ///< what lies on one side of a chain of lines, through the part
    tilt,    ///< plane faces laid into the plane of a line of a view
    facet,   ///< what lies beyond a plane through three corners
    mirror,  ///< steps or the whole, once more at the other side of a plane
    pattern  ///< steps once more along lines, round a centre, or along a curve
};
inline constexpr StepKind kLastStepKind = StepKind::pattern;
enum class Operation { add, cut, intersect };
const char* nameOf(StepKind k);
const char* nameOf(Operation o);

/// A place in a view, in that view's model coordinates as drawn. Stands for the coordinate nearest to it.
struct MarkRef {
    ViewName view;
    Vec2 at;
    bool picked() const { return view.role != Role::unassigned; }
    friend bool operator==(const MarkRef&, const MarkRef&) = default;
};

/// One end of an extrusion along the view's depth axis.
struct Bound {
    enum class Kind {
        outermost, ///< the part's own end on that side
        mark,      ///< a line or point picked in another view
        value,     ///< a distance from the other end, or from the middle for both sides
        place,     ///< as deep as a place in the box, as of a picked face
        level      ///< at a level (levels.h)
    };
    Kind kind = Kind::outermost;
    MarkRef mark;
    StepNumber value = 0.0;  ///< mm
    Vec3 place{};            ///< model coordinates as drawn
    StepNumber beyond = 0.0; ///< mm past where it would be, along the depth axis; below zero before it
    std::string level{};     ///< its name
    friend bool operator==(const Bound&, const Bound&) = default;
};

/// How the reach of an extrusion is said.
enum class Reach {
    between, ///< from one bound to another
    through, ///< past the part on both sides
    both,    ///< the value of `to`, half on each side of `from`
    unequal  ///< `below` before and the value of `to` past `from`
};
inline constexpr Reach kLastReach = Reach::unequal;
const char* nameOf(Reach r);

enum class HoleKind { plain, counterbore, countersink, spot_face, tapered };
const char* nameOf(HoleKind k);

/// A round hole. Sizes that are zero are those of the circles about its centre as they now stand: the
/// smallest is the hole's, the next one that of its counterbore or countersink.
struct HoleShape {
    HoleKind kind = HoleKind::plain;
    StepNumber diameter = 0.0;
    StepNumber depth = 0.0; ///< mm of full diameter from where it begins; zero: as far as the reach says
    double point = 118 * kPi / 180;     ///< angle of the drill's point, radians; pi for a flat end
    StepNumber wide = 0.0;              ///< diameter of counterbore, countersink or spot face, mm
    StepNumber wide_depth = 0.0;        ///< depth of counterbore or spot face, mm; or else
    MarkRef wide_to;                    ///< where its bottom stands, seen in another view
    double sink_angle = 90 * kPi / 180; ///< of the countersink, radians
    double taper = 0;                   ///< of a tapered hole: angle between its sides, radians
    std::string thread;                 ///< "M8": shown and noted, not cut
    StepNumber pitch = 0.0;             ///< of the thread, mm
    bool from_far = false;              ///< begins at the side away from the viewer
    friend bool operator==(const HoleShape&, const HoleShape&) = default;
};

/// Edges or faces of the solid as it is when a step begins.
struct PartPick {
    /// A place on it, in model coordinates as drawn; or else
    std::optional<Vec3> place;
    /// the corner of a view where it is seen end on; the one that an arc stands for as well.
    MarkRef corner;
    friend bool operator==(const PartPick&, const PartPick&) = default;
};

/// Which edges a fillet or chamfer is made on.
struct EdgeChoice {
    enum class Which { picked, all, convex, concave };
    Which which = Which::picked;
    std::vector<PartPick> picks;
    std::optional<Vec3> face; ///< only edges of the face at this place, model coordinates as drawn
    std::string step;         ///< only edges of faces that the step of this name made
    friend bool operator==(const EdgeChoice&, const EdgeChoice&) = default;
};
const char* nameOf(EdgeChoice::Which w);

/// Where the copies of a pattern stand.
struct Repetition {
    enum class Kind { line, grid, circle, curve };
    Kind kind = Kind::line;
    Axis axis = Axis::x, second_axis = Axis::y; ///< of a line and of a grid
    int count = 2, second_count = 1;            ///< the first one included
    StepNumber pitch = 0.0, second_pitch = 0.0; ///< mm, signed
    /// Of a circle: its centre, in the view that looks along its axis. Of a curve: a place on it.
    MarkRef at;
    double angle = 2 * kPi; ///< of a circle: from the first to where the one after the last would be, radians
    std::vector<int> left_out; ///< numbers of copies that are not made, the original being 1
    friend bool operator==(const Repetition&, const Repetition&) = default;
};
const char* nameOf(Repetition::Kind k);

struct Step {
    StepKind kind = StepKind::extrude;
    Operation operation = Operation::add;
    ViewName view = Role::front;
    std::vector<Vec2> areas; ///< a point inside each picked area, as drawn
    Reach reach = Reach::between;
    Bound from, to;          ///< extrude: low and high end along the depth axis
    StepNumber below = 0.0;  ///< extrude, unequal: mm
    std::vector<Bound> tops; ///< extrude: in the place of `to`, one for each area
    /// Extrude, revolve: a place on each arc of the border whose corner is left sharp, to be rounded by a
    /// fillet, and on each curve that breaks a straight line of it, which goes straight on.
    std::vector<Vec2> sharp;
    double draft = 0; ///< extrude: angle by which the sides lean inward from `from` on, radians
    /// revolve: a place on the centre line; mirror: a place on the plane; hole: of one that no view looks
    /// along, and `view` shows from the side, a place on its axis in another view that does
    MarkRef axis;
    bool axis_upright = false; ///< revolve, hole: the axis runs along the view's up axis
    bool axis_along_line =
        false;              ///< revolve: round the line of the figure nearest to `axis`, however it lies
    double angle = 2 * kPi; ///< revolve, radians
    /// wall, rib, slope: a place on each line of the chain; tilt: one on the line; hole: the centres; as
    /// drawn.
    std::vector<Vec2> places;
    /// wall, rib, shell, thicken, flange; of a lip how wide it is along the face; mm
    StepNumber thickness = 0.0;
    Vec2 side; ///< rib, slope: a place on the side that is filled or taken; wall: on which it lies
    /// facet: three places on the plane, and one on the side that is taken; model coordinates as drawn.
    std::vector<Vec3> corners;
    Vec3 taken{};
    HoleShape hole;
    EdgeChoice edges;
    /// fillet: radius, zero for that of the arcs drawn at the corners picked; chamfer: distance on both
    /// faces; lip: how far it rises; flange: how far it stands out; mm.
    StepNumber size = 0.0;
    StepNumber second_size = 0.0; ///< fillet: radius at the other end; chamfer: distance on the other face
    std::vector<PartPick> faces;  ///< shell: faces left open; thicken, lip, flange, tilt: those meant
    bool outward = false;         ///< shell: the wall lies outside
    bool inner = false;           ///< lip, flange: along the openings in the face, not along its outer border
    Axis across = Axis::x;        ///< mirror: the axis that the plane is square to
    Repetition repeat;
    std::vector<std::string> of; ///< mirror, pattern: names of the steps; none for the whole solid
    std::string name, note, group;
    bool off = false;
    bool stop = false; ///< the list is built up to here for now, and goes on from here
    friend bool operator==(const Step&, const Step&) = default;
};

/// Whether the holes of a step lie in the plane of its view.
inline bool lies(const Step& s) {
    return s.kind == StepKind::hole && s.axis.picked();
}

/// What a step still lacks before it can be tried, in words; none when it is complete.
std::optional<std::string> missingIn(const Step& s);

/// "2 areas of the front view, through": what a step does, in words.
std::string describe(const Step& s);

/// All numbers of a step that may be a formula.
std::vector<StepNumber*> numbersOf(Step& s);
/// All marks of a step that are picked, and what each is, in words.
std::vector<std::pair<MarkRef*, const char*>> marksOf(Step& s);
/// All places in space of a step, model coordinates as drawn.
std::vector<Vec3*> spacesOf(Step& s);

} // namespace prism
