#include "core/project/reading_preset.h"

#include "core/base/files.h"
#include "core/project/project_file.h"

#include <filesystem>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <set>

namespace prism {
namespace {

using Json = nlohmann::ordered_json;
namespace fs = std::filesystem;

constexpr int kFormat = 1;
constexpr double kAlike = 0.6;
constexpr const char* kEnding = ".reading.json";

std::set<std::string> tellingLayers(const std::vector<std::string>& names) {
    std::set<std::string> r;
    for (const std::string& n : names)
        if (n != "0" && n != "DEFPOINTS" && n != "Defpoints") r.insert(n);
    return r;
}

std::vector<std::string> layerNames(const Drawing& d) {
    std::vector<std::string> r;
    for (const Layer& l : d.layers) r.push_back(l.name);
    std::sort(r.begin(), r.end());
    return r;
}

} // namespace

ReadingPreset presetOf(const std::string& name, const Model& m, const Choices& c) {
    ReadingPreset p;
    p.name = name;
    p.layers = layerNames(*m.source);
    for (size_t i = 0; i < m.source->layers.size(); ++i) {
        p.layer_choices.on[m.source->layers[i].name] = m.sheet.layer_on[i];
        if (m.sheet.layer_roles[i] != LineRole::unknown)
            p.layer_choices.role[m.source->layers[i].name] = m.sheet.layer_roles[i];
    }
    p.repairs = c.repairs;
    p.repairs.off.clear();
    p.unit = c.views.unit;
    p.layout = c.reading.layout;
    return p;
}

Choices withPreset(const Choices& c, const ReadingPreset& p) {
    Choices r = c;
    for (const auto& [layer, on] : p.layer_choices.on) r.layers.on[layer] = on;
    for (const auto& [layer, role] : p.layer_choices.role) r.layers.role[layer] = role;
    r.repairs.kinds = p.repairs.kinds;
    r.repairs.gap = p.repairs.gap;
    if (p.unit) r.views.unit = p.unit;
    if (p.layout) r.reading.layout = p.layout;
    return r;
}

double likeness(const ReadingPreset& p, const Drawing& d) {
    const std::set<std::string> a = tellingLayers(p.layers), b = tellingLayers(layerNames(d));
    std::vector<std::string> common;
    std::set_intersection(a.begin(), a.end(), b.begin(), b.end(), std::back_inserter(common));
    const size_t either = a.size() + b.size() - common.size();
    return either == 0 ? 0 : static_cast<double>(common.size()) / static_cast<double>(either);
}

std::string presetText(const ReadingPreset& p) {
    Choices c;
    c.layers = p.layer_choices;
    c.repairs = p.repairs;
    c.reading.layout = p.layout;
    const Json whole = toJson(c);
    Json j{{"reading_preset", kFormat}, {"name", p.name}, {"sheet_layers", p.layers}};
    for (const char* key : {"layers", "repairs", "reading"}) j[key] = whole[key];
    if (p.unit) j["unit"] = *p.unit;
    return j.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<ReadingPreset> presetFromText(const std::string& text) {
    try {
        const Json j = Json::parse(text);
        if (j.at("reading_preset").get<int>() > kFormat)
            return failure(ErrorCode::unreadable, "the preset was kept by a newer version of the program");
        const Choices c = choicesFromJson(j);
        ReadingPreset p{j.at("name").get<std::string>(),
                        j.at("sheet_layers").get<std::vector<std::string>>(),
                        c.layers,
                        c.repairs,
                        std::nullopt,
                        c.reading.layout};
        if (p.name.empty()) return failure(ErrorCode::unreadable, "the preset has no name");
        std::sort(p.layers.begin(), p.layers.end());
        if (j.contains("unit")) p.unit = j["unit"].get<std::string>();
        if (p.unit && millimetresIn(*p.unit) == 0)
            return failure(ErrorCode::unreadable,
                           fmt::format("the preset's unit \"{}\" is not known", *p.unit));
        return p;
    } catch (const nlohmann::json::exception& e) {
        return failure(ErrorCode::unreadable, fmt::format("not a reading preset: {}", e.what()));
    }
}

std::string PresetShelf::pathOf(const std::string& name) const {
    std::string file;
    for (char c : name)
        file += std::isalnum(static_cast<unsigned char>(c)) || c == '-' || (c & 0x80) ? c : '_';
    return (fs::path(folder_) / (file + kEnding)).string();
}

std::vector<ReadingPreset> PresetShelf::all(std::vector<std::string>* troubles) const {
    std::vector<ReadingPreset> r;
    std::error_code ec;
    for (const auto& f : fs::directory_iterator(folder_, ec)) {
        const std::string path = f.path().string();
        if (!path.ends_with(kEnding)) continue;
        const auto text = fileBytes(path);
        const auto p = text ? presetFromText(*text) : tl::make_unexpected(text.error());
        if (p)
            r.push_back(*p);
        else if (troubles)
            troubles->push_back(path + ": " + p.error().message);
    }
    std::sort(r.begin(), r.end(), [](const auto& a, const auto& b) { return a.name < b.name; });
    return r;
}

std::optional<ReadingPreset> PresetShelf::best(const Drawing& d) const {
    std::optional<ReadingPreset> r;
    double most = kAlike;
    for (const ReadingPreset& p : all())
        if (const double l = likeness(p, d); l >= most && (!r || l > most)) most = l, r = p;
    return r;
}

Result<void> PresetShelf::keep(const ReadingPreset& p) const {
    std::error_code ec;
    fs::create_directories(folder_, ec);
    if (ec) return failure(ErrorCode::impossible, fmt::format("{}: {}", folder_, ec.message()));
    return writeAtomically(pathOf(p.name), presetText(p));
}

Result<void> PresetShelf::remove(const std::string& name) const {
    std::error_code ec;
    if (!fs::remove(pathOf(name), ec))
        return failure(ErrorCode::impossible, fmt::format("the preset \"{}\" cannot be removed", name));
    return {};
}

} // namespace prism
