#pragma once
#include "core/project/document.h"

namespace prism {

/// Choices for reading sheets of one origin, kept under a name and recognised by the layers.
struct ReadingPreset {
    std::string name;
    std::vector<std::string> layers; ///< names of the sheet it was made from, sorted
    LayerChoices layer_choices;
    RepairChoices repairs; ///< kinds and gap; no single repairs
    std::optional<std::string> unit, layout;
    friend bool operator==(const ReadingPreset&, const ReadingPreset&) = default;
};

/// What the present choices say about reading, for all layers of the sheet.
ReadingPreset presetOf(const std::string& name, const Model& m, const Choices& c);
/// The choices with the preset's in place of their own; layers that the sheet lacks are not touched.
Choices withPreset(const Choices& c, const ReadingPreset& p);
/// How much the layers of a drawing and of the preset's sheet are the same: names in both over names in
/// either, 0 to 1; layers that every drawing has count for nothing.
double likeness(const ReadingPreset& p, const Drawing& d);

/// A preset as the text of a file, and back. Unreadable with what is wrong.
std::string presetText(const ReadingPreset& p);
Result<ReadingPreset> presetFromText(const std::string& text);

/// The presets of a folder, one file each, named after the preset.
class PresetShelf {
  public:
    explicit PresetShelf(std::string folder) : folder_(std::move(folder)) {}
    /// All that can be read, by name; files that cannot are told in `troubles`.
    std::vector<ReadingPreset> all(std::vector<std::string>* troubles = nullptr) const;
    /// The one most like the drawing, from 0.6 likeness on.
    std::optional<ReadingPreset> best(const Drawing& d) const;
    /// Keeps it, over one of the same name.
    Result<void> keep(const ReadingPreset& p) const;
    Result<void> remove(const std::string& name) const;

  private:
    std::string pathOf(const std::string& name) const;
    std::string folder_;
};

} // namespace prism
