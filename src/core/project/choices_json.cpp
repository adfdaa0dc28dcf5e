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
    return static_cast<Axis>(indexOf(std::array{"X", "Y", "Z"}, j, "axis"));
}

Json viewsJson(const ViewChoices& v) {
    Json j = Json::object();
    if (v.convention) j["convention"] = nameOf(*v.convention);
    if (v.scale) j["scale"] = *v.scale;
    if (v.unit) j["unit"] = *v.unit;
    j["roles"] = Json::object();
    for (const auto& [key, role] : v.roles) j["roles"][key] = nameOf(role);
    j["moved"] = v.moved;
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
    if (j.contains("scale")) v.scale = j["scale"].get<double>();
    if (j.contains("unit")) v.unit = j["unit"].get<std::string>();
    if (v.unit && millimetresIn(*v.unit) == 0) unknownWord("unit", *v.unit);
    for (const auto& [key, role] : objectOf(j, "roles").items()) v.roles[key] = roleFrom(role);
    v.moved = j.value("moved", std::map<std::string, std::string>{});
    if (j.contains("ties"))
        for (const Json& t : j["ties"])
            v.ties.push_back({axisFrom(t.at("axis")), sideFrom(t.at("a")), sideFrom(t.at("b")),
                              std::clamp(t.value("weight", 1.0), 1e-3, 1e3)});
    for (const auto& [axis, key] : objectOf(j, "governing").items())
        v.governing[axisFrom(axis)] = key.get<std::string>();
    for (const auto& [axis, side] : objectOf(j, "zero").items()) v.zero[axisFrom(axis)] = sideFrom(side);
    return v;
}

constexpr std::array kAlong{"aligned", "level", "upright"};

Json pictureJson(const PictureChoices& p) {
    Json j = Json::object();
    if (p.straighten) j["straighten"] = {p.straighten->level, p.straighten->upright};
    if (!p.correct_stretch) j["correct_stretch"] = false;
    if (p.light_on_dark) j["light_on_dark"] = *p.light_on_dark;
    for (const KnownLength& l : p.lengths)
        j["lengths"].push_back({{"a", pointJson(l.a)},
                                {"b", pointJson(l.b)},
                                {"mm", l.mm},
                                {"along", kAlong[static_cast<size_t>(l.along)]}});
    for (const PictureCut& c : p.cuts)
        j["cuts"].push_back({{"name", c.name}, {"lo", pointJson(c.lo)}, {"hi", pointJson(c.hi)}});
    return j;
}

/// Level and upright lines of a scan are nearly at right angles; placing it needs them to be apart.
constexpr double kMostAskew = kPi / 4;

PictureChoices pictureFrom(const Json& j) {
    PictureChoices p;
    if (j.contains("straighten")) {
        p.straighten = {j["straighten"].at(0).get<double>(), j["straighten"].at(1).get<double>()};
        if (!(std::abs(p.straighten->level - p.straighten->upright) < kMostAskew))
            unknownWord("straightening", "with directions that are no right angle");
    }
    p.correct_stretch = j.value("correct_stretch", true);
    if (j.contains("light_on_dark")) p.light_on_dark = j["light_on_dark"].get<bool>();
    if (j.contains("lengths"))
        for (const Json& l : j["lengths"])
            p.lengths.push_back(
                {pointFrom(l.at("a")), pointFrom(l.at("b")), l.at("mm").get<double>(),
                 static_cast<KnownLength::Along>(indexOf(kAlong, l.at("along"), "direction of a length"))});
    if (j.contains("cuts"))
        for (const Json& c : j["cuts"])
            p.cuts.push_back({c.at("name").get<std::string>(), pointFrom(c.at("lo")), pointFrom(c.at("hi"))});
    return p;
}

Json readingJson(const ReadingChoices& r) {
    Json j = Json::object();
    if (r.layout) j["layout"] = *r.layout;
    if (r.page != 1) j["page"] = r.page;
    if (r.page_as_picture) j["page_as_picture"] = true;
    if (r.picture != PictureChoices{}) j["picture"] = pictureJson(r.picture);
    return j;
}

ReadingChoices readingFrom(const Json& j) {
    ReadingChoices r;
    if (j.contains("layout")) r.layout = j["layout"].get<std::string>();
    r.page = j.value("page", 1);
    r.page_as_picture = j.value("page_as_picture", false);
    if (j.contains("picture")) r.picture = pictureFrom(j["picture"]);
    return r;
}

Json curveJson(const Curve& c) {
    if (const auto* s = std::get_if<Segment>(&c)) return {{"segment", {pointJson(s->a), pointJson(s->b)}}};
    if (const auto* a = std::get_if<Arc>(&c))
        return {{"arc", {pointJson(a->centre), a->radius, a->start, a->sweep}}};
    if (const auto* e = std::get_if<EllipseArc>(&c))
        return {{"ellipse", {pointJson(e->centre), pointJson(e->major), e->ratio, e->start, e->sweep}}};
    const Spline& s = std::get<Spline>(c);
    Json poles = Json::array();
    for (Vec2 p : s.poles) poles.push_back(pointJson(p));
    return {{"spline", {s.degree, s.knots, poles, s.weights}}};
}

Curve curveFrom(const Json& j) {
    if (j.contains("segment")) return Segment{pointFrom(j["segment"].at(0)), pointFrom(j["segment"].at(1))};
    if (j.contains("arc")) {
        const Json& a = j["arc"];
        return Arc{pointFrom(a.at(0)), a.at(1).get<double>(), a.at(2).get<double>(), a.at(3).get<double>()};
    }
    if (j.contains("ellipse")) {
        const Json& e = j["ellipse"];
        return EllipseArc{pointFrom(e.at(0)), pointFrom(e.at(1)), e.at(2).get<double>(),
                          e.at(3).get<double>(), e.at(4).get<double>()};
    }
    const Json& s = j.at("spline");
    Spline r;
    r.degree = s.at(0).get<int>();
    r.knots = s.at(1).get<std::vector<double>>();
    for (const Json& p : s.at(2)) r.poles.push_back(pointFrom(p));
    r.weights = s.at(3).get<std::vector<double>>();
    const bool sound = r.degree >= 1 && r.degree <= 25 && r.poles.size() > static_cast<size_t>(r.degree) &&
                       r.knots.size() == r.poles.size() + static_cast<size_t>(r.degree) + 1 &&
                       (r.weights.empty() || r.weights.size() == r.poles.size());
    if (!sound) unknownWord("spline", "with numbers that do not fit together");
    return r;
}

constexpr std::array kMarkKinds{"add", "remove", "reshape"};
constexpr std::array kDimensionKinds{"linear", "aligned", "radius", "diameter", "angular", "ordinate"};

Json marksJson(const MarkUp& m) {
    Json lines = Json::array(), dimensions = Json::array();
    for (const MarkedLine& l : m.lines) {
        Json curves = Json::array();
        for (const Curve& c : l.curves) curves.push_back(curveJson(c));
        lines.push_back({{"kind", kMarkKinds[static_cast<size_t>(l.kind)]},
                         {"target", l.target},
                         {"curves", curves},
                         {"role", nameOf(l.role)}});
    }
    for (const AddedDimension& d : m.dimensions) {
        Json j{{"kind", nameOf(d.kind)}, {"angle", d.angle}};
        for (const auto& [name, p] : {std::pair{"p10", d.p10},
                                      {"p13", d.p13},
                                      {"p14", d.p14},
                                      {"p15", d.p15},
                                      {"p16", d.p16},
                                      {"text_at", d.text_at}})
            j[name] = pointJson(p);
        if (d.says) j["says"] = *d.says;
        dimensions.push_back(std::move(j));
    }
    return {{"lines", lines}, {"dimensions", dimensions}};
}

MarkUp marksFrom(const Json& j) {
    MarkUp m;
    for (const Json& l : j.at("lines")) {
        MarkedLine x;
        x.kind = static_cast<MarkedLine::Kind>(indexOf(kMarkKinds, l.at("kind"), "kind of mark"));
        x.target = l.at("target").get<std::string>();
        for (const Json& c : l.at("curves")) x.curves.push_back(curveFrom(c));
        x.role = lineRoleNamed(l.at("role").get<std::string>()).value_or(LineRole::outline);
        m.lines.push_back(std::move(x));
    }
    for (const Json& d : j.at("dimensions")) {
        AddedDimension x;
        x.kind = static_cast<DimensionKind>(indexOf(kDimensionKinds, d.at("kind"), "kind of dimension"));
        x.angle = d.value("angle", 0.0);
        for (const auto& [name, p] : {std::pair{"p10", &x.p10},
                                      {"p13", &x.p13},
                                      {"p14", &x.p14},
                                      {"p15", &x.p15},
                                      {"p16", &x.p16},
                                      {"text_at", &x.text_at}})
            *p = pointFrom(d.at(name));
        if (d.contains("says")) x.says = d["says"].get<double>();
        m.dimensions.push_back(x);
    }
    return m;
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
        return failure(ErrorCode::unreadable, fmt::format("not a list of steps: {}", e.what()));
    }
}

} // namespace prism
