#pragma once
#include "core/building/steps.h"
#include "core/ledger/ledger.h"

// Places along an axis that have names, as the floors and shoulders of a part: several steps reach to one of
// them, and where it stands is a number of the ledger.
namespace prism {

struct PartLevel {
    std::string name; ///< letters, digits, underscore; no other number has it
    Axis axis = Axis::z;
    MarkRef mark; ///< where it was picked; its view shows the axis
    friend bool operator==(const PartLevel&, const PartLevel&) = default;
};
using PartLevels = std::vector<PartLevel>;

/// Whether a level may be called so: why not, in words; none when it may.
std::optional<std::string> wrongInName(const std::string& name, const Ledger& ledger);
/// "level1": a name that no number has yet.
std::string freshLevelName(const Ledger& ledger);

/// Adds the levels to the numbers: how far each stands above the low end of the part along its axis, mm. They
/// report, until a person gives one a value. One that no view shows is loose.
void addLevels(Ledger& ledger, const Figure& f, const PartLevels& levels);

/// The steps with marks in the place of the levels that they reach to. Where there is no level of the name
/// the bound stays, and its step fails.
std::vector<Step> withLevels(std::vector<Step> steps, const PartLevels& levels);

/// A step that reaches to a level reaches to its mark from now on, as when the level is removed.
void dropLevel(std::vector<Step>& steps, const PartLevel& level);
/// Steps speak of the level by another name from now on.
void renameLevelIn(std::vector<Step>& steps, const std::string& from, const std::string& to);
/// The level has another name for all that speak of it: steps, and formulas of steps and numbers.
void renameLevel(PartLevels& levels, std::vector<Step>& steps, NumberChoices& numbers,
                 const std::string& from, const std::string& to);

} // namespace prism
