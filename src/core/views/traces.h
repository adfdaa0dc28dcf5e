#pragma once
#include "core/views/viewing_marks.h"

namespace prism::views {

/// A line on a view across which another view is taken; sheet coordinates.
struct Trace {
    int on;
    Vec2 from, to;
    Vec2 look; ///< unit
    Hanging::By by;
    std::string reason;
    double gap = 0;            ///< from the part, sheet units
    std::vector<Segment> legs; ///< of a stepped cutting plane
    bool arrows = true; ///< arrows say the way it looks; else it is taken from how the view is laid out
};

/// Finds where sections and auxiliary views are taken: by what a person drew, by cutting planes and arrows
/// with their letters, and by oblique edges. The principal views are lined up by then.
class Traces {
  public:
    /// `wanted`: the letters of the labelled views, by role.
    Traces(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, const ViewSet& set,
           std::map<Role, Letters>& wanted);

    std::optional<Trace> of(const View& v) const;
    /// The principal view that a line runs over for the longest way; -1 when it runs over none.
    int viewUnder(Vec2 a, Vec2 b) const;

  private:
    bool third() const { return set_.projection.laid_out == Convention::third; }
    int principalNear(Vec2 p) const;
    std::optional<Trace> byHand(const HungByHand& h) const;
    std::optional<Trace> byPlane(const View& v) const;
    std::optional<Trace> byArrow(const View& v) const;
    std::optional<Trace> byEdge(const View& v) const;
    Trace lineAcross(const View& v, int on, Vec2 look, Hanging::By by, std::string reason) const;

    const Drawing& d_;
    const CleanSheet& s_;
    const ViewChoices& choices_;
    const ViewSet& set_;
    std::vector<CuttingPlane> planes_;
    std::vector<ViewingArrow> arrows_;
};

} // namespace prism::views
