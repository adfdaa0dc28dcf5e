#pragma once
#include "core/views/view_set.h"

namespace prism::views {

/// What a view is called on the sheet.
struct ViewLabel {
    Role role;
    std::string text;
    std::string letter;          ///< "A" of "SECTION A-A"
    std::optional<double> scale; ///< 2 of "DETAIL C (2:1)"
};

/// Reads a label: FRONT VIEW, SECTION A-A, A-A, DETAIL C (2:1), VIEW B, SECTION B-B SCALE 1:2 ...; none for
/// other texts.
std::optional<ViewLabel> readLabel(const std::string& text);

/// By view: the name of the part of a scan it was cut out as, or the nearest text above or below it that is
/// nearer to no other view.
std::vector<std::optional<ViewLabel>> labelsOf(const Drawing& d, const std::vector<View>& views);

} // namespace prism::views
