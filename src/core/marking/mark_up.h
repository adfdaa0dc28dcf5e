#pragma once
#include "core/drawing/drawing.h"

#include <memory>

// What a person adds to a sheet, or takes from it, before going on. Kept as choices on top of the drawing as
// read.
namespace prism {

/// One line added, removed or given another shape.
struct MarkedLine {
    enum class Kind {
        add,    ///< a new line; `target` is the name it was given
        remove, ///< the line named `target` is not part of the sheet any more
        reshape ///< the line named `target` runs along `curves` instead
    };
    Kind kind = Kind::add;
    std::string target;                ///< keyOf a line, or the name of an added one
    std::vector<Curve> curves;         ///< sheet coordinates of the file
    LineRole role = LineRole::outline; ///< of an added line
    friend bool operator==(const MarkedLine&, const MarkedLine&) = default;
};

/// A dimension that the sheet lacked. Points as in Dimension.
struct AddedDimension {
    DimensionKind kind = DimensionKind::aligned;
    Vec2 p10, p13, p14, p15, p16, text_at;
    double angle = 0; ///< of a linear one's line; the way in which an ordinate counts; radians
    std::optional<double>
        says; ///< what it should say, in the sheet's unit or degrees; the measurement when empty
    friend bool operator==(const AddedDimension&, const AddedDimension&) = default;
};

/// A dimension of the sheet that is corrected.
struct MarkedDimension {
    std::string target;                 ///< keyOf a dimension
    std::optional<std::string> text;    ///< what it says instead
    std::optional<AddedDimension> lies; ///< where it lies instead; its `says` is not looked at
    friend bool operator==(const MarkedDimension&, const MarkedDimension&) = default;
};

struct MarkUp {
    std::vector<MarkedLine> lines; ///< in the order in which they were made
    std::vector<AddedDimension> dimensions;
    std::vector<MarkedDimension> corrected; ///< in the order in which they were made
    bool empty() const { return lines.empty() && dimensions.empty() && corrected.empty(); }
    friend bool operator==(const MarkUp&, const MarkUp&) = default;
};

/// A name for an entity that survives reading the same file again.
std::string keyOf(const Entity& e);
/// Likewise for a dimension.
std::string keyOf(const Dimension& d);
/// The text of a dimension with another number in it, in the sheet's unit or degrees: its sign, count and
/// tolerance stay.
std::string textSaying(const Dimension& d, double value);
/// Where a dimension lies, as marks keep it.
AddedDimension placeOf(const Dimension& d);

/// The number of the next line to be added, and its name: none has it yet.
long long freshNumber(const MarkUp& m);
std::string nameOfAdded(long long number);
inline std::string freshName(const MarkUp& m) {
    return nameOfAdded(freshNumber(m));
}

/// The drawing with the mark-up applied: entities as read keep their ids, removed ones lose their curves,
/// added ones follow. The drawing itself when there is nothing to apply. Marks whose line is not there are
/// told in `misfits`.
std::shared_ptr<const Drawing> markedUp(std::shared_ptr<const Drawing> d, const MarkUp& m,
                                        std::vector<std::string>* misfits = nullptr);

} // namespace prism
