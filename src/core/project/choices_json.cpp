#include "core/project/json_parts.h"

namespace prism {

using namespace choices_json;

namespace {

Json markJson(const MarkRef& m) {
    return {{"view", nameOf(m.view)}, {"at", pointJson(m.at)}};
}

MarkRef markFrom(const Json& j) {
    return {viewNameFrom(j.at("view")), pointFrom(j.at("at"))};
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
    Step s;
    s.kind = named(j.at("kind"), StepKind::revolve, "kind of step");
    s.operation = named(j.at("operation"), Operation::intersect, "operation");
    s.view = viewNameFrom(j.at("view"));
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
        if (!(s.angle > 0 && s.angle <= 2 * kPi * (1 + 1e-12)))
            unknownWord("angle of a step", j["angle_deg"].dump());
    }
    s.off = j.value("off", false);
    return s;
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
            {"marks", marksJson(c.marks)},       {"repairs", repairsJson(c.repairs)},
            {"views", viewsJson(c.views)},       {"numbers", numbersJson(c.numbers)},
            {"steps", toJson(c.steps)}};
}

std::vector<Step> stepsFromJson(const Json& j) {
    std::vector<Step> r;
    for (const Json& s : j) r.push_back(stepFrom(s));
    return r;
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
    if (j.contains("steps")) c.steps = stepsFromJson(j["steps"]);
    return c;
}

Result<std::vector<Step>> readSteps(const std::string& text) {
    try {
        return stepsFromJson(Json::parse(text));
    } catch (const nlohmann::json::exception& e) {
        return failure(ErrorCode::usage, fmt::format("not a list of steps: {}", e.what()));
    }
}

} // namespace prism
