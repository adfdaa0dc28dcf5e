#include "core/project/json_parts.h"

namespace prism::choices_json {
namespace {

Json sideJson(const TieSide& s) {
    Json places = Json::array();
    for (Vec2 p : s.places) places.push_back(pointJson(p));
    return {{"view", s.view}, {"places", places}};
}

TieSide sideFrom(const Json& j) {
    TieSide s{j.at("view").get<std::string>(), {}};
    for (const Json& p : j.at("places")) s.places.push_back(pointFrom(p));
    return s;
}

Axis axisFrom(const Json& j) {
    return named(j, Axis::z, "axis");
}

} // namespace

Json viewsJson(const ViewChoices& v) {
    Json j = Json::object();
    if (v.convention) j["convention"] = nameOf(*v.convention);
    if (v.scale) j["scale"] = *v.scale;
    if (v.unit) j["unit"] = *v.unit;
    j["roles"] = Json::object();
    for (const auto& [key, role] : v.roles) j["roles"][key] = nameOf(role);
    j["moved"] = v.moved;
    if (!v.made.empty()) j["made"] = v.made;
    if (!v.names.empty()) j["names"] = v.names;
    for (const auto& [role, key] : v.used) j["used"][nameOf(role)] = key;
    for (const auto& [key, h] : v.hung)
        j["hung"][key] = {
            {"on", h.on}, {"from", pointJson(h.from)}, {"to", pointJson(h.to)}, {"turned", h.turned}};
    if (!v.fold_gap.empty()) j["fold_gap"] = v.fold_gap;
    if (!v.locked.empty()) j["locked"] = v.locked;
    if (v.part) j["part"] = *v.part;
    for (const HandTie& t : v.ties)
        j["ties"].push_back(
            {{"axis", nameOf(t.axis)}, {"a", sideJson(t.a)}, {"b", sideJson(t.b)}, {"weight", t.weight}});
    for (const auto& [axis, key] : v.governing) j["governing"][nameOf(axis)] = key;
    for (const auto& [axis, side] : v.zero) j["zero"][nameOf(axis)] = sideJson(side);
    return j;
}

ViewChoices viewsFrom(const Json& j) {
    ViewChoices v;
    if (j.contains("convention"))
        v.convention = j["convention"] == "first" ? Convention::first : Convention::third;
    if (j.contains("scale")) v.scale = positiveFrom(j["scale"], "scale");
    if (j.contains("unit")) v.unit = j["unit"].get<std::string>();
    if (v.unit && millimetresIn(*v.unit) == 0) unknownWord("unit", *v.unit);
    for (const auto& [key, role] : objectOf(j, "roles").items()) v.roles[key] = roleFrom(role);
    v.moved = j.value("moved", std::map<std::string, std::string>{});
    v.made = j.value("made", std::set<std::string>{});
    v.names = j.value("names", std::map<std::string, std::string>{});
    for (const auto& [role, key] : objectOf(j, "used").items())
        v.used[roleFrom(role)] = key.get<std::string>();
    for (const auto& [key, h] : objectOf(j, "hung").items())
        v.hung[key] = {h.at("on").get<std::string>(), pointFrom(h.at("from")), pointFrom(h.at("to")),
                       h.value("turned", false)};
    v.fold_gap = j.value("fold_gap", std::map<std::string, double>{});
    v.locked = j.value("locked", std::set<std::string>{});
    if (j.contains("part")) v.part = j["part"].get<int>();
    if (j.contains("ties"))
        for (const Json& t : j["ties"])
            v.ties.push_back({axisFrom(t.at("axis")), sideFrom(t.at("a")), sideFrom(t.at("b")),
                              std::clamp(t.value("weight", 1.0), 1e-3, 1e3)});
    for (const auto& [axis, key] : objectOf(j, "governing").items())
        v.governing[axisFrom(axis)] = key.get<std::string>();
    for (const auto& [axis, side] : objectOf(j, "zero").items()) v.zero[axisFrom(axis)] = sideFrom(side);
    return v;
}

} // namespace prism::choices_json
