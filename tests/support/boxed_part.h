#pragma once
#include "core/views/view_set.h"

// Sheets of a made-up stepped block with all its views, whose places in space are known.
namespace prism::test {

/// One drawn line and the two places in space that it shows.
struct KnownLine {
    int entity;
    Vec3 a, b;
};

/// The sizes of such a block, mm.
struct BoxSizes {
    double width, height;           ///< overall, X and Z
    double front_depth, back_depth; ///< of its higher and its lower part, Y
    double slope_x, slope_z;        ///< where the slope begins at the top, and ends at the side
    double step;                    ///< height of the lower part
    double slopeLength() const;
};

/// A sheet of a random part, its edges drawn whether seen or hidden: the six principal views, an auxiliary
/// view square to its sloped face and two hatched sections, A-A at an X and B-B at a Z.
struct BoxedPart {
    Convention convention;
    Drawing drawing;
    BoxSizes sizes;
    Vec3 lo, hi;
    double cut_x = 0, cut_z = 0;
    double upper_cut_x = 0, steps_at_z = 0; ///< of a stepped A-A: where it goes on above
    double volume = 0;                      ///< mm^3
    std::map<Role, std::vector<KnownLine>> principal;
    /// The places of a section's lines are those on its plane, whatever lies how far behind it.
    std::vector<KnownLine> auxiliary, section_x, section_z;
};

/// How the sheet of a block is laid out.
struct BoxLayout {
    Convention convention = Convention::third;
    bool moved = false;   ///< the sections lie away from their place and the second is turned upright
    bool stepped = false; ///< the plane of A-A goes on at another X above the middle
};

/// `seed` fixes everything. `changed`: one size is another, and all else as it was.
BoxedPart boxedPart(unsigned seed, const BoxLayout& layout,
                    std::optional<std::pair<double BoxSizes::*, double>> changed = {});

} // namespace prism::test
