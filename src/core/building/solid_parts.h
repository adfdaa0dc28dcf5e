#pragma once
#include "core/building/solid.h"

namespace prism {

/// A face, an edge or a corner of a solid, numbered from 0 in the modeller's order of its kind.
struct SolidPart {
    enum class Kind { face, edge, corner };
    Kind kind = Kind::face;
    int index = 0;
    friend auto operator<=>(const SolidPart&, const SolidPart&) = default;
};
inline SolidPart faceNumber(int index) {
    return {SolidPart::Kind::face, index};
}

/// The modeller's shape of a part; null when the solid has none of that number.
TopoDS_Shape shapeOf(const TopoDS_Shape& solid, SolidPart p);
/// Numbers of the faces that meet in an edge or a corner, in order; of a face its own.
std::vector<int> facesAt(const TopoDS_Shape& solid, SolidPart p);
/// A place on a part: the middle of an edge, a place inside a face; none for a part that is not there.
std::optional<Vec3> placeOn(const TopoDS_Shape& solid, SolidPart p);
/// A part with the modeller's shape of it and the faces that meet there.
struct PartAt {
    SolidPart part;
    TopoDS_Shape shape;
    std::vector<int> faces;
};
/// All parts of a kind, in order. Edges that are none to see, where a round face meets itself, and corners
/// where fewer than three faces meet are no parts.
std::vector<PartAt> partsOf(const TopoDS_Shape& solid, SolidPart::Kind kind);

/// What a part is called, whatever the numbers are: an edge and a corner by the faces that meet there. Where
/// the same faces meet more than once, the order of the places along X, then Y, then Z tells them apart.
struct PartName {
    SolidPart::Kind kind = SolidPart::Kind::face;
    std::vector<std::vector<FaceName>> faces; ///< sorted
    int nth = 0;
    friend bool operator==(const PartName&, const PartName&) = default;
};
/// None for a part that is not there, or one of whose faces nothing is known.
std::optional<PartName> nameOf(const BuildResult& b, SolidPart p);
std::optional<SolidPart> partNamed(const BuildResult& b, const PartName& n);

} // namespace prism
