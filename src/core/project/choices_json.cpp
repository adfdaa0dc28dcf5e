#include "core/project/project_file.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace prism {
namespace {

using Json = nlohmann::ordered_json;

/// A member that is an object; an empty one when it is missing. A reference, so that its items outlive the
/// loop head.
const Json& objectOf(const Json& j, const char* key) {
    static const Json none = Json::object();
    const auto it = j.find(key);
    return it == j.end() ? none : *it;
}

Json pointJson(Vec2 p) {
    return Json::array({p.x, p.y});
}

Vec2 pointFrom(const Json& j) {
    return {j.at(0).get<double>(), j.at(1).get<double>()};
}

[[noreturn]] void unknownWord(const std::string& what, const std::string& word) {
    throw Json::other_error::create(501, fmt::format("unknown {} \"{}\"", what, word),
                                    static_cast<const Json*>(nullptr));
}

Role roleFrom(const Json& j) {
    const auto r = roleNamed(j.get<std::string>());
    if (!r) unknownWord("role", j.get<std::string>());
    return *r;
}

Json markJson(const MarkRef& m) {
    return {{"view", nameOf(m.view)}, {"at", pointJson(m.at)}};
}

MarkRef markFrom(const Json& j) {
    return {roleFrom(j.at("view")), pointFrom(j.at("at"))};
}

Json boundJson(const Bound& b) {
    switch (b.kind) {
    case Bound::Kind::mark:
        return {{"mark", markJson(b.mark)}};
    case Bound::Kind::value:
        return {{"value", b.value}};
    case Bound::Kind::outermost:
        break;
    }
    return "outermost";
}

Bound boundFrom(const Json& j) {
    Bound b;
    if (j.is_string()) return b;
    if (j.contains("mark"))
        b.kind = Bound::Kind::mark, b.mark = markFrom(j.at("mark"));
    else
        b.kind = Bound::Kind::value, b.value = j.at("value").get<double>();
    return b;
}

constexpr std::array kReaches{"between", "through", "both"};

template <class Names> int indexOf(const Names& names, const Json& j, const char* what) {
    const auto word = j.get<std::string>();
    for (size_t i = 0; i < names.size(); ++i)
        if (word == names[i]) return static_cast<int>(i);
    unknownWord(what, word);
}

Json stepJson(const Step& s) {
    Json j{{"kind", nameOf(s.kind)},
           {"operation", nameOf(s.operation)},
           {"view", nameOf(s.view)},
           {"name", s.name}};
    j["areas"] = Json::array();
    for (Vec2 p : s.areas) j["areas"].push_back(pointJson(p));
    if (s.kind == StepKind::extrude) {
        j["reach"] = kReaches[static_cast<size_t>(s.reach)];
        j["from"] = boundJson(s.from);
        j["to"] = boundJson(s.to);
    } else {
        j["axis"] = markJson(s.axis);
        j["upright"] = s.axis_upright;
        j["angle_deg"] = s.angle * 180 / kPi;
    }
    if (s.off) j["off"] = true;
    return j;
}

Step stepFrom(const Json& j) {
    constexpr std::array kinds{"extrude", "revolve"};
    constexpr std::array operations{"add", "cut", "intersect"};
    Step s;
    s.kind = static_cast<StepKind>(indexOf(kinds, j.at("kind"), "kind of step"));
    s.operation = static_cast<Operation>(indexOf(operations, j.at("operation"), "operation"));
    s.view = roleFrom(j.at("view"));
    s.name = j.value("name", "");
    for (const Json& p : j.at("areas")) s.areas.push_back(pointFrom(p));
    if (s.kind == StepKind::extrude) {
        s.reach = static_cast<Reach>(indexOf(kReaches, j.at("reach"), "reach"));
        if (j.contains("from")) s.from = boundFrom(j.at("from"));
        if (j.contains("to")) s.to = boundFrom(j.at("to"));
    } else {
        s.axis = markFrom(j.at("axis"));
        s.axis_upright = j.value("upright", false);
        s.angle = j.value("angle_deg", 360.0) * kPi / 180;
    }
    s.off = j.value("off", false);
    return s;
}

Json viewsJson(const ViewChoices& v) {
    Json j = Json::object();
    if (v.convention) j["convention"] = nameOf(*v.convention);
    if (v.scale) j["scale"] = *v.scale;
    if (v.unit) j["unit"] = *v.unit;
    j["roles"] = Json::object();
    for (const auto& [key, role] : v.roles) j["roles"][key] = nameOf(role);
    j["moved"] = v.moved;
    return j;
}

ViewChoices viewsFrom(const Json& j) {
    ViewChoices v;
    if (j.contains("convention"))
        v.convention = j["convention"] == "first" ? Convention::first : Convention::third;
    if (j.contains("scale")) v.scale = j["scale"].get<double>();
    if (j.contains("unit")) v.unit = j["unit"].get<std::string>();
    if (v.unit && millimetresIn(*v.unit) == 0) unknownWord("unit", *v.unit);
    for (const auto& [key, role] : objectOf(j, "roles").items()) v.roles[key] = roleFrom(role);
    v.moved = j.value("moved", std::map<std::string, std::string>{});
    return v;
}

Json readingJson(const ReadingChoices& r) {
    Json j = Json::object();
    if (r.layout) j["layout"] = *r.layout;
    if (r.page != 1) j["page"] = r.page;
    return j;
}

ReadingChoices readingFrom(const Json& j) {
    ReadingChoices r;
    if (j.contains("layout")) r.layout = j["layout"].get<std::string>();
    r.page = j.value("page", 1);
    return r;
}

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
    constexpr std::array sides{"either", "first", "second"};
    NumberChoices n;
    for (const auto& [name, e] : j.items()) {
        NumberChoice c;
        if (e.contains("value")) c.value = e["value"].get<double>();
        c.formula = e.value("formula", "");
        c.held = e.value("held", false);
        if (e.contains("moving_side"))
            c.moving_side = static_cast<MovingSide>(indexOf(sides, e["moving_side"], "moving side"));
        n[name] = c;
    }
    return n;
}

} // namespace

Json toJson(const std::vector<Step>& steps) {
    Json j = Json::array();
    for (const Step& s : steps) j.push_back(stepJson(s));
    return j;
}

Json toJson(const Choices& c) {
    Json layers = Json::object();
    layers["on"] = c.layers.on;
    layers["role"] = Json::object();
    for (const auto& [name, role] : c.layers.role) layers["role"][name] = nameOf(role);
    return {{"reading", readingJson(c.reading)}, {"layers", layers},
            {"repairs", repairsJson(c.repairs)}, {"views", viewsJson(c.views)},
            {"numbers", numbersJson(c.numbers)}, {"steps", toJson(c.steps)}};
}

std::vector<Step> stepsFromJson(const Json& j) {
    std::vector<Step> r;
    for (const Json& s : j) r.push_back(stepFrom(s));
    return r;
}

Choices choicesFromJson(const Json& j) {
    Choices c;
    if (j.contains("reading")) c.reading = readingFrom(j["reading"]);
    if (j.contains("repairs")) c.repairs = repairsFrom(j["repairs"]);
    if (j.contains("layers")) {
        c.layers.on = j["layers"].value("on", std::map<std::string, bool>{});
        for (const auto& [name, role] : objectOf(j["layers"], "role").items())
            if (const auto r = lineRoleNamed(role.get<std::string>())) c.layers.role[name] = *r;
    }
    if (j.contains("views")) c.views = viewsFrom(j["views"]);
    if (j.contains("numbers")) c.numbers = numbersFrom(j["numbers"]);
    if (j.contains("steps")) c.steps = stepsFromJson(j["steps"]);
    return c;
}

Result<std::vector<Step>> readSteps(const std::string& text) {
    try {
        return stepsFromJson(Json::parse(text));
    } catch (const nlohmann::json::exception& e) {
        return failure(ErrorCode::unreadable, fmt::format("not a list of steps: {}", e.what()));
    }
}

} // namespace prism
