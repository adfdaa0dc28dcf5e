#pragma once
#include "core/base/geometry.h"

#include <map>
#include <optional>
#include <pugixml.hpp>
#include <string>
#include <vector>

namespace prism::svg {

/// What is inherited down the tree.
struct Style {
    std::string stroke = "none", fill = "black";
    double width = 1; ///< user units
    std::vector<double> dashes;
    bool shown = true;
    double font_size = 16;
    std::string anchor = "start";
};

/// Rules of style sheets by their selector: ".name", "#name" or an element's name.
using Rules = std::map<std::string, std::map<std::string, std::string>>;
Rules rulesIn(const std::string& css);

/// The style of an element: inherited, then attributes, rules, and its own style attribute.
Style styleOf(const pugi::xml_node& node, const Style& inherited, const Rules& rules);

/// The transform attribute (SVG 1.1, 7.6), from the element's coordinates to its parent's.
Affine2 transformIn(std::string_view text);

/// A length with its unit in px of 1/96 inch; `whole` is what percentages refer to. None when there is no
/// number.
std::optional<double> lengthIn(std::string_view text, double whole);

} // namespace prism::svg
