#pragma once
#include "core/checking/view_lines.h"

// Views that are their own mirror image, but for a line or two.
namespace prism::checking {

/// A line of a view, and its mirror image, which is drawn nowhere.
struct WithoutImage {
    const FigureCurve* line;
    Curve image; ///< in the view's coordinates
};

/// About a level or upright line of a view: those of its lines that have no image, where most others have.
struct MirrorLine {
    bool upright;
    double at; ///< along the view's right axis if upright, else along its up axis
    std::vector<WithoutImage> lines;
};

inline constexpr size_t kFewWithoutImage = 2; ///< lines that may have strayed, or be lacking

/// The middle of the view and the centres of its round lines are looked at. At most so many lines have no
/// image, and for each of them two others have theirs.
std::vector<MirrorLine> nearlyMirrored(const FigureView& v, const ViewLines& lines, double tolerance,
                                       size_t most = kFewWithoutImage);

} // namespace prism::checking
