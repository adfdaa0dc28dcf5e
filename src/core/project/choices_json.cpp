#include "core/project/json_parts.h"

namespace prism {

using namespace choices_json;

namespace {

Json repairsJson(const RepairChoices& r) {
    Json j = Json::object();
    j["kinds"] = r.kinds;
    j["off"] = r.off;
    if (r.gap) j["gap_mm"] = *r.gap;
    return j;
}

RepairChoices repairsFrom(const Json& j) {
    RepairChoices r;
    r.kinds = j.value("kinds", std::map<std::string, bool>{});
    r.off = j.value("off", std::set<std::string>{});
    if (j.contains("gap_mm")) r.gap = std::clamp(j["gap_mm"].get<double>(), 0.0, 1000.0);
    return r;
}

Json numbersJson(const NumberChoices& n) {
    Json j = Json::object();
    for (const auto& [name, c] : n) {
        Json e = Json::object();
        if (c.value) e["value"] = *c.value;
        if (!c.formula.empty()) e["formula"] = c.formula;
        if (c.held) e["held"] = true;
        if (c.moving_side != MovingSide::either) e["moving_side"] = nameOf(c.moving_side);
        j[name] = e;
    }
    return j;
}

NumberChoices numbersFrom(const Json& j) {
    NumberChoices n;
    for (const auto& [name, e] : j.items()) {
        NumberChoice c;
        if (e.contains("value")) c.value = e["value"].get<double>();
        c.formula = e.value("formula", "");
        c.held = e.value("held", false);
        if (e.contains("moving_side"))
            c.moving_side = named(e["moving_side"], MovingSide::second, "moving side");
        n[name] = c;
    }
    return n;
}

Json materialJson(const std::optional<Material>& m) {
    if (!m) return nullptr;
    return {{"name", m->name}, {"standard", m->standard}, {"density_kg_m3", m->density}};
}

Material materialFrom(const Json& j) {
    return {j.at("name").get<std::string>(), j.value("standard", ""),
            positiveFrom(j.at("density_kg_m3"), "density")};
}

} // namespace

Json toJson(const Choices& c) {
    Json layers = Json::object();
    layers["on"] = c.layers.on;
    layers["role"] = Json::object();
    for (const auto& [name, role] : c.layers.role) layers["role"][name] = nameOf(role);
    return {{"reading", readingJson(c.reading)},
            {"layers", layers},
            {"marks", marksJson(c.marks)},
            {"repairs", repairsJson(c.repairs)},
            {"views", viewsJson(c.views)},
            {"numbers", numbersJson(c.numbers)},
            {"levels", toJson(c.levels)},
            {"steps", toJson(c.steps)},
            {"facts", toJson(c.facts)},
            {"material", materialJson(c.material)},
            {"accepted", c.accepted}};
}

Choices choicesFromJson(const Json& j) {
    Choices c;
    if (j.contains("reading")) c.reading = readingFrom(j["reading"]);
    if (j.contains("marks")) c.marks = marksFrom(j["marks"]);
    if (j.contains("repairs")) c.repairs = repairsFrom(j["repairs"]);
    if (j.contains("layers")) {
        c.layers.on = j["layers"].value("on", std::map<std::string, bool>{});
        for (const auto& [name, role] : objectOf(j["layers"], "role").items())
            if (const auto r = lineRoleNamed(role.get<std::string>())) c.layers.role[name] = *r;
    }
    if (j.contains("views")) c.views = viewsFrom(j["views"]);
    if (j.contains("numbers")) c.numbers = numbersFrom(j["numbers"]);
    if (j.contains("levels")) c.levels = levelsFromJson(j["levels"]);
    if (j.contains("steps")) c.steps = stepsFromJson(j["steps"]);
    if (j.contains("facts")) c.facts = stepsFromJson(j["facts"]);
    if (j.contains("material") && !j["material"].is_null()) c.material = materialFrom(j["material"]);
    c.accepted = j.value("accepted", std::map<std::string, std::string>{});
    return c;
}

} // namespace prism
