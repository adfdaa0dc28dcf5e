#pragma once
#include <optional>
#include <string>

namespace prism {

/// What a person may say before a file is read.
struct ReadingChoices {
    /// "Model" or the name of a paper layout. Without a choice the model is read, unless it is empty or a
    /// paper layout shows it through viewports and alone carries the dimensions.
    std::optional<std::string> layout;
    int page = 1; ///< of a file with pages, from 1
    friend bool operator==(const ReadingChoices&, const ReadingChoices&) = default;
};

} // namespace prism
