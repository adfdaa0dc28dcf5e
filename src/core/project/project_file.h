#pragma once
#include "core/project/document.h"

#include <nlohmann/json_fwd.hpp>

namespace prism {

/// What a project file holds: the source drawing, byte for byte, and the choices.
struct ProjectContent {
    std::string source, source_name;
    Choices choices;
};

/// Whether the bytes start like a zip archive.
bool isProject(const std::string& bytes);
Result<std::string> projectBytes(const ProjectContent& p);
/// Unreadable with what and where for damaged or newer files.
Result<ProjectContent> readProject(const std::string& bytes);

/// The choices as JSON; also the form of a steps file.
nlohmann::ordered_json toJson(const Choices& c);
nlohmann::ordered_json toJson(const std::vector<Step>& steps);
/// Throws nlohmann's exceptions for a wrong shape; callers turn them into errors.
Choices choicesFromJson(const nlohmann::ordered_json& j);
std::vector<Step> stepsFromJson(const nlohmann::ordered_json& j);
nlohmann::ordered_json toJson(const PartLevels& levels);
PartLevels levelsFromJson(const nlohmann::ordered_json& j);

/// What a steps file holds.
struct BuildList {
    PartLevels levels;
    std::vector<Step> steps, facts;
};
Result<BuildList> readBuildList(const std::string& text);

} // namespace prism
