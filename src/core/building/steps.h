#pragma once
#include "core/figure/areas.h"

#include <string>

// The build list. A step refers to places of the figure as drawn, never to copied numbers, so new values
// reach the solid by themselves.
namespace prism {

enum class StepKind { extrude, revolve };
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
        value      ///< a distance from the other end, or from the middle for both sides
    };
    Kind kind = Kind::outermost;
    MarkRef mark;
    double value = 0; ///< mm
    friend bool operator==(const Bound&, const Bound&) = default;
};

/// How the reach of an extrusion is said.
enum class Reach {
    between, ///< from one bound to another
    through, ///< past the part on both sides
    both     ///< the value of `to`, half on each side of `from`
};

struct Step {
    StepKind kind = StepKind::extrude;
    Operation operation = Operation::add;
    ViewName view = Role::front;
    std::vector<Vec2> areas; ///< a point inside each picked area, as drawn
    Reach reach = Reach::between;
    Bound from, to;            ///< extrude: low and high end along the depth axis
    MarkRef axis;              ///< revolve: a place on the centre line
    bool axis_upright = false; ///< revolve: the centre line runs along the view's up axis
    double angle = 2 * kPi;    ///< revolve, radians
    std::string name;
    bool off = false;
    friend bool operator==(const Step&, const Step&) = default;
};

/// What a step still lacks before it can be tried, in words; none when it is complete.
std::optional<std::string> missingIn(const Step& s);

/// "Cut, from the front view, through": what a step does, in words.
std::string describe(const Step& s);

} // namespace prism
