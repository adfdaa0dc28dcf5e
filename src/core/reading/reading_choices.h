#pragma once
#include "core/tracing/picture_choices.h"

#include <optional>
#include <string>

namespace prism {

/// The layout that stands for all paper layouts, read side by side: of parts whose views lie on several.
inline constexpr const char* kAllLayouts = "All paper layouts";

/// What a person may say before a file is read.
struct ReadingChoices {
    /// "Model", the name of a paper layout, or kAllLayouts. Without a choice the model is read, unless it is
    /// empty or a paper layout shows it through viewports and alone carries the dimensions.
    std::optional<std::string> layout;
    int page = 1;                 ///< of a file with pages, from 1
    bool page_as_picture = false; ///< draw the page and take it as a scan
    PictureChoices picture{};
    /// Whether reading the bytes again gives the same, but for how pictures are placed.
    bool sameBut(const ReadingChoices& o) const {
        return layout == o.layout && page == o.page && page_as_picture == o.page_as_picture;
    }
    friend bool operator==(const ReadingChoices&, const ReadingChoices&) = default;
};

} // namespace prism
