#pragma once
#include "core/drawing/picture.h"

namespace prism {

/// A length that is known, between two places of a scan.
struct KnownLength {
    enum class Along { aligned, level, upright }; ///< what of the way from place to place it is
    Vec2 a, b;                                    ///< scan coordinates
    double mm = 0;
    Along along = Along::aligned;
    friend bool operator==(const KnownLength&, const KnownLength&) = default;
};

/// A part of a scan that is a view of its own.
struct PictureCut {
    std::string name;
    Vec2 lo, hi; ///< scan coordinates, upper left and lower right
    friend bool operator==(const PictureCut&, const PictureCut&) = default;
    Box2 box() const { return {lo, hi}; }
};

/// What a person says of a scan. Without choices it is straightened as measured and has the size of its
/// paper.
struct PictureChoices {
    std::optional<Straightening> straighten;
    std::vector<KnownLength> lengths; ///< one within a cut sets the scale of that cut alone
    bool correct_stretch = true;      ///< let lengths on both axes set a scale for each
    std::optional<bool> light_on_dark;
    std::vector<PictureCut> cuts;
    friend bool operator==(const PictureChoices&, const PictureChoices&) = default;
};

} // namespace prism
