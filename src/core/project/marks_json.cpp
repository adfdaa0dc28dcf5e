#include "core/project/json_parts.h"

namespace prism::choices_json {
namespace {

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
        return Arc{pointFrom(a.at(0)), positiveFrom(a.at(1), "radius"), a.at(2).get<double>(),
                   a.at(3).get<double>()};
    }
    if (j.contains("ellipse")) {
        const Json& e = j["ellipse"];
        return EllipseArc{pointFrom(e.at(0)), pointFrom(e.at(1)),
                          positiveFrom(e.at(2), "ratio of an ellipse"), e.at(3).get<double>(),
                          e.at(4).get<double>()};
    }
    const Json& s = j.at("spline");
    Spline r;
    r.degree = s.at(0).get<int>();
    r.knots = s.at(1).get<std::vector<double>>();
    for (const Json& p : s.at(2)) r.poles.push_back(pointFrom(p));
    r.weights = s.at(3).get<std::vector<double>>();
    const bool sound = r.degree >= 1 && r.degree <= 25 && r.poles.size() > static_cast<size_t>(r.degree) &&
                       r.knots.size() == r.poles.size() + static_cast<size_t>(r.degree) + 1 &&
                       (r.weights.empty() || r.weights.size() == r.poles.size()) &&
                       std::is_sorted(r.knots.begin(), r.knots.end()) &&
                       r.knots[static_cast<size_t>(r.degree)] < r.knots[r.poles.size()] &&
                       std::all_of(r.weights.begin(), r.weights.end(), [](double w) { return w > 0; });
    if (!sound) unknownWord("spline", "with numbers that do not fit together");
    return r;
}

constexpr std::array kMarkKinds{"add", "remove", "reshape"};

Json dimensionJson(const AddedDimension& d) {
    Json j{{"kind", nameOf(d.kind)}, {"angle", d.angle}};
    for (const auto& [name, p] : {std::pair{"p10", d.p10},
                                  {"p13", d.p13},
                                  {"p14", d.p14},
                                  {"p15", d.p15},
                                  {"p16", d.p16},
                                  {"text_at", d.text_at}})
        j[name] = pointJson(p);
    if (d.says) j["says"] = *d.says;
    return j;
}

AddedDimension dimensionFrom(const Json& d) {
    AddedDimension x;
    x.kind = named(d.at("kind"), DimensionKind::ordinate, "kind of dimension");
    x.angle = d.value("angle", 0.0);
    for (const auto& [name, p] : {std::pair{"p10", &x.p10},
                                  {"p13", &x.p13},
                                  {"p14", &x.p14},
                                  {"p15", &x.p15},
                                  {"p16", &x.p16},
                                  {"text_at", &x.text_at}})
        *p = pointFrom(d.at(name));
    if (d.contains("says")) x.says = d["says"].get<double>();
    return x;
}

} // namespace

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
    for (const AddedDimension& d : m.dimensions) dimensions.push_back(dimensionJson(d));
    Json j{{"lines", lines}, {"dimensions", dimensions}};
    for (const MarkedDimension& d : m.corrected) {
        Json x{{"target", d.target}};
        if (d.text) x["text"] = *d.text;
        if (d.lies) x["lies"] = dimensionJson(*d.lies);
        j["corrected"].push_back(std::move(x));
    }
    return j;
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
    for (const Json& d : j.at("dimensions")) m.dimensions.push_back(dimensionFrom(d));
    if (j.contains("corrected"))
        for (const Json& d : j["corrected"]) {
            MarkedDimension x;
            x.target = d.at("target").get<std::string>();
            if (d.contains("text")) x.text = d["text"].get<std::string>();
            if (d.contains("lies")) x.lies = dimensionFrom(d["lies"]);
            m.corrected.push_back(std::move(x));
        }
    return m;
}

} // namespace prism::choices_json
