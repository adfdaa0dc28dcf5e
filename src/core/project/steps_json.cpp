#include "core/building/hole_note.h"
#include "core/project/json_fields.h"
#include "core/proposing/facts.h"

// The build list as it stands in a project and in a file of steps; docs/steps.md says what every field means.
namespace prism {

using namespace choices_json;

namespace {

// Writing.

Json numberJson(const StepNumber& n) {
    return n.formula.empty() ? Json(n.value) : Json(n.formula);
}
void put(Json& j, const char* key, const StepNumber& n) {
    if (n.given()) j[key] = numberJson(n);
}
Json placeJson(Vec3 p) {
    return Json::array({p.x, p.y, p.z});
}
Json pointsJson(const std::vector<Vec2>& points) {
    Json j = Json::array();
    for (Vec2 p : points) j.push_back(pointJson(p));
    return j;
}
Json markJson(const MarkRef& m) {
    return {{"view", nameOf(m.view)}, {"at", pointJson(m.at)}};
}
Json boundJson(const Bound& b) {
    Json j = Json::object();
    if (b.kind == Bound::Kind::mark) j["mark"] = markJson(b.mark);
    if (b.kind == Bound::Kind::value) j["value"] = numberJson(b.value);
    if (b.kind == Bound::Kind::place) j["place"] = placeJson(b.place);
    if (b.kind == Bound::Kind::level) j["level"] = b.level;
    put(j, "beyond", b.beyond);
    return j.empty() ? Json("outermost") : j;
}

// Each kind is written and read side by side.

void writeReach(Json& j, const Step& s) {
    j["reach"] = nameOf(s.reach);
    j["from"] = boundJson(s.from);
    j["to"] = boundJson(s.to);
    put(j, "below", s.below);
}
void readReach(Fields& f, Step& s) {
    s.reach = f.word("reach", kLastReach, Reach::between);
    s.from = f.bound("from"), s.to = f.bound("to"), s.below = f.size("below");
}

void writeHole(Json& j, const Step& s) {
    const HoleShape &h = s.hole, plain;
    Json o{{"kind", nameOf(h.kind)}};
    put(o, "diameter", h.diameter), put(o, "depth", h.depth);
    if (h.point != plain.point) o["point_deg"] = h.point / kDegree;
    put(o, "wide", h.wide), put(o, "wide_depth", h.wide_depth);
    if (h.wide_to.picked()) o["wide_to"] = markJson(h.wide_to);
    if (h.kind == HoleKind::countersink) o["sink_deg"] = h.sink_angle / kDegree;
    if (h.taper != 0) o["taper_deg"] = h.taper / kDegree;
    if (!h.thread.empty()) o["thread"] = h.thread;
    put(o, "pitch", h.pitch);
    if (h.from_far) o["from_far"] = true;
    j["hole"] = o;
    j["reach"] = nameOf(s.reach == Reach::through ? Reach::through : Reach::between);
    j["from"] = boundJson(s.from), j["to"] = boundJson(s.to);
}
void readHole(Fields& f, Step& s) {
    HoleShape& r = s.hole;
    bool through = false;
    if (const std::string says = f.text("says", ""); !says.empty()) {
        const auto note = readHoleNote(says);
        if (!note) f.wrong("says", "is no note of a hole that can be read");
        r = note->shape, through = note->through;
    }
    Fields h(f.object("hole"), f.at("hole"));
    const auto size = [&](const char* key, StepNumber& n) {
        if (h.has(key)) n = h.size(key);
    };
    r.kind = h.word("kind", HoleKind::tapered, r.kind);
    size("diameter", r.diameter), size("depth", r.depth), size("wide", r.wide),
        size("wide_depth", r.wide_depth);
    if (h.has("wide_to")) r.wide_to = h.mark("wide_to");
    size("pitch", r.pitch);
    r.point = h.angle("point_deg", r.point, 1, 180);
    r.sink_angle = h.angle("sink_deg", r.sink_angle, 1, 179);
    r.taper = h.angle("taper_deg", r.taper, 0, 179);
    r.thread = h.text("thread", r.thread), r.from_far = h.flag("from_far");
    h.done();
    const bool deep = !through && (r.depth.given() || f.has("to"));
    s.reach = f.word("reach", Reach::through, deep ? Reach::between : Reach::through);
    s.from = f.bound("from"), s.to = f.bound("to");
}

void writeEdges(Json& j, const Step& s) {
    Json e{{"which", nameOf(s.edges.which)}};
    for (const PartPick& p : s.edges.picks)
        e["picks"].push_back(p.place ? Json{{"place", placeJson(*p.place)}}
                                     : Json{{"corner", markJson(p.corner)}});
    if (s.edges.face) e["face"] = placeJson(*s.edges.face);
    if (!s.edges.step.empty()) e["step"] = s.edges.step;
    j["edges"] = e;
    const bool fillet = s.kind == StepKind::fillet;
    put(j, fillet ? "radius" : "distance", s.size);
    put(j, fillet ? "end_radius" : "second_distance", s.second_size);
}
void readEdges(Fields& f, Step& s) {
    Fields e(f.object("edges"), f.at("edges"));
    const Json& picks = e.list("picks");
    for (const Json& p : picks) {
        Fields pick(p, e.at("picks"));
        PartPick r;
        if (pick.has("place")) r.place = pick.place("place");
        r.corner = pick.mark("corner");
        if (!r.place && !r.corner.picked()) pick.wrong("", "needs \"place\" or \"corner\"");
        pick.done();
        s.edges.picks.push_back(r);
    }
    s.edges.which = e.word("which", EdgeChoice::Which::concave,
                           picks.empty() ? EdgeChoice::Which::all : EdgeChoice::Which::picked);
    if (e.has("face")) s.edges.face = e.place("face");
    s.edges.step = e.text("step", "");
    e.done();
    const bool fillet = s.kind == StepKind::fillet;
    s.size = f.size(fillet ? "radius" : "distance");
    s.second_size = f.size(fillet ? "end_radius" : "second_distance");
}

Json facesJson(const Step& s) {
    Json j = Json::array();
    for (const PartPick& p : s.faces) j.push_back(placeJson(p.place.value_or(Vec3{})));
    return j;
}
void readFaces(Fields& f, const char* key, Step& s) {
    for (const Json& p : f.list(key)) s.faces.push_back({f.placeOf(p, key), {}});
}

void writeShell(Json& j, const Step& s) {
    put(j, "thickness", s.thickness);
    j["open"] = facesJson(s);
    if (s.outward) j["outward"] = true;
}
void readShell(Fields& f, Step& s) {
    s.thickness = f.size("thickness"), s.outward = f.flag("outward");
    readFaces(f, "open", s);
}

/// What a lip's and a flange's two sizes are called: along the face and square to it.
struct RimKeys {
    const char *thickness, *size;
};
RimKeys rimKeys(StepKind k) {
    return k == StepKind::lip ? RimKeys{"width", "height"} : RimKeys{"thickness", "width"};
}
void writeOnFaces(Json& j, const Step& s) {
    j["faces"] = facesJson(s);
    put(j, rimKeys(s.kind).thickness, s.thickness);
    if (s.kind == StepKind::thicken) return;
    put(j, rimKeys(s.kind).size, s.size);
    if (s.inner) j["inner"] = true;
}
void readOnFaces(Fields& f, Step& s) {
    readFaces(f, "faces", s);
    s.thickness = f.size(rimKeys(s.kind).thickness);
    if (s.kind == StepKind::thicken) return;
    s.size = f.size(rimKeys(s.kind).size), s.inner = f.flag("inner");
}

void writeChain(Json& j, const Step& s) {
    j["lines"] = pointsJson(s.places);
    put(j, "thickness", s.thickness);
    if (s.side != Vec2{}) j["side"] = pointJson(s.side);
    writeReach(j, s);
}
void readChain(Fields& f, Step& s) {
    s.places = f.points("lines"), s.thickness = f.size("thickness"), s.side = f.point("side");
    if (s.kind != StepKind::wall && !f.has("side"))
        f.wrong("side", "is needed: a place on the side that is meant");
    readReach(f, s);
}

void writeRepeat(Json& j, const Step& s) {
    const Repetition& r = s.repeat;
    j["of"] = s.of;
    j["along"] = nameOf(r.kind);
    j["count"] = r.count;
    if (r.kind == Repetition::Kind::line || r.kind == Repetition::Kind::grid)
        j["axis"] = nameOf(r.axis), put(j, "pitch", r.pitch);
    else
        j["at"] = markJson(r.at);
    if (r.kind == Repetition::Kind::grid)
        j["second_axis"] = nameOf(r.second_axis), j["second_count"] = r.second_count,
        put(j, "second_pitch", r.second_pitch);
    if (r.kind == Repetition::Kind::circle) j["angle_deg"] = r.angle / kDegree;
    if (!r.left_out.empty()) j["left_out"] = r.left_out;
}
void readRepeat(Fields& f, Step& s) {
    Repetition& r = s.repeat;
    s.of = f.texts("of");
    r.kind = f.word("along", Repetition::Kind::curve, Repetition::Kind::line);
    r.axis = f.word("axis", Axis::z, Axis::x), r.second_axis = f.word("second_axis", Axis::z, Axis::y);
    r.count = f.whole("count", 2), r.second_count = f.whole("second_count", 1);
    r.pitch = f.number("pitch"), r.second_pitch = f.number("second_pitch");
    r.at = f.mark("at"), r.angle = f.angle("angle_deg", r.angle, -360, 360);
    for (const Json& n : f.list("left_out")) {
        if (!n.is_number_integer()) f.wrong("left_out", "must be a list of whole numbers");
        r.left_out.push_back(n.get<int>());
    }
}

void writeKind(Json& j, const Step& s) {
    switch (s.kind) {
    case StepKind::extrude:
        j["areas"] = pointsJson(s.areas);
        writeReach(j, s);
        if (!s.tops.empty()) j["tops"] = Json::array();
        for (const Bound& b : s.tops) j["tops"].push_back(boundJson(b));
        if (!s.sharp.empty()) j["sharp"] = pointsJson(s.sharp);
        if (s.draft != 0) j["draft_deg"] = s.draft / kDegree;
        return;
    case StepKind::revolve:
        j["areas"] = pointsJson(s.areas);
        j["axis"] = markJson(s.axis);
        j["upright"] = s.axis_upright;
        if (s.axis_along_line) j["along_line"] = true;
        if (!s.sharp.empty()) j["sharp"] = pointsJson(s.sharp);
        j["angle_deg"] = s.angle / kDegree;
        return;
    case StepKind::hole:
        j["centres"] = pointsJson(s.places);
        if (lies(s)) j["axis"] = markJson(s.axis), j["upright"] = s.axis_upright;
        writeHole(j, s);
        return;
    case StepKind::fillet:
    case StepKind::chamfer:
        return writeEdges(j, s);
    case StepKind::shell:
        return writeShell(j, s);
    case StepKind::thicken:
    case StepKind::lip:
    case StepKind::flange:
        return writeOnFaces(j, s);
    case StepKind::tilt:
        j["faces"] = facesJson(s), j["lines"] = pointsJson(s.places);
        return;
    case StepKind::wall:
    case StepKind::rib:
    case StepKind::slope:
        return writeChain(j, s);
    case StepKind::facet:
        j["corners"] = Json::array();
        for (Vec3 p : s.corners) j["corners"].push_back(placeJson(p));
        j["side"] = placeJson(s.taken);
        return;
    case StepKind::mirror:
        j["of"] = s.of, j["across"] = nameOf(s.across), j["at"] = markJson(s.axis);
        return;
    case StepKind::pattern:
        return writeRepeat(j, s);
    }
}

void readKind(Fields& f, Step& s) {
    switch (s.kind) {
    case StepKind::extrude:
        s.areas = f.points("areas");
        readReach(f, s);
        s.tops = f.bounds("tops"), s.draft = f.angle("draft_deg", 0, -80, 80);
        if (f.has("sharp")) s.sharp = f.points("sharp");
        return;
    case StepKind::revolve:
        s.areas = f.points("areas");
        s.axis = f.mark("axis"), s.axis_upright = f.flag("upright"), s.axis_along_line = f.flag("along_line");
        s.angle = f.angle("angle_deg", s.angle, 0.001, 360);
        if (f.has("sharp")) s.sharp = f.points("sharp");
        return;
    case StepKind::hole:
        s.places = f.points("centres");
        if (f.has("axis")) s.axis = f.mark("axis"), s.axis_upright = f.flag("upright");
        return readHole(f, s);
    case StepKind::fillet:
    case StepKind::chamfer:
        return readEdges(f, s);
    case StepKind::shell:
        return readShell(f, s);
    case StepKind::thicken:
    case StepKind::lip:
    case StepKind::flange:
        return readOnFaces(f, s);
    case StepKind::tilt:
        readFaces(f, "faces", s), s.places = f.points("lines");
        if (s.places.size() > 1) f.wrong("lines", "must be one place on one line");
        return;
    case StepKind::wall:
    case StepKind::rib:
    case StepKind::slope:
        return readChain(f, s);
    case StepKind::facet:
        for (const Json& p : f.list("corners")) s.corners.push_back(f.placeOf(p, "corners"));
        if (s.corners.size() != 3) f.wrong("corners", "must be three places in space");
        if (!f.has("side")) f.wrong("side", "is needed: a place in space on the side that is taken");
        s.taken = f.place("side");
        return;
    case StepKind::mirror:
        s.of = f.texts("of"), s.across = f.word("across", Axis::z, Axis::x), s.axis = f.mark("at");
        return;
    case StepKind::pattern:
        return readRepeat(f, s);
    }
}

Json stepJson(const Step& s) {
    Json j{{"kind", nameOf(s.kind)},
           {"operation", nameOf(s.operation)},
           {"view", nameOf(s.view)},
           {"name", s.name}};
    writeKind(j, s);
    if (!s.note.empty()) j["note"] = s.note;
    if (!s.group.empty()) j["group"] = s.group;
    if (s.off) j["off"] = true;
    if (s.stop) j["stop"] = true;
    return j;
}

Step stepFrom(const Json& j, size_t number) {
    Fields f(j, fmt::format("step {}", number));
    Step s;
    if (!f.has("kind")) f.wrong("kind", "is missing");
    s.kind = f.word("kind", kLastStepKind, StepKind::extrude);
    const bool cuts = s.kind == StepKind::hole || s.kind == StepKind::slope || s.kind == StepKind::facet;
    s.operation = f.word("operation", Operation::intersect, cuts ? Operation::cut : Operation::add);
    s.view = f.view("view", Role::front);
    s.name = f.text("name", ""), s.note = f.text("note", ""), s.group = f.text("group", "");
    s.off = f.flag("off"), s.stop = f.flag("stop");
    readKind(f, s);
    f.done();
    return s;
}

} // namespace

Json toJson(const std::vector<Step>& steps) {
    Json j = Json::array();
    for (const Step& s : steps) j.push_back(stepJson(s));
    return j;
}

std::vector<Step> stepsFromJson(const Json& j) {
    if (!j.is_array()) unknownWord("shape of a build list", "not a list");
    std::vector<Step> r;
    for (const Json& s : j) r.push_back(stepFrom(s, r.size() + 1));
    return r;
}

Json toJson(const PartLevels& levels) {
    Json j = Json::array();
    for (const PartLevel& l : levels)
        j.push_back({{"name", l.name}, {"axis", nameOf(l.axis)}, {"at", markJson(l.mark)}});
    return j;
}

PartLevels levelsFromJson(const Json& j) {
    if (!j.is_array()) unknownWord("shape of the levels", "not a list");
    PartLevels r;
    for (const Json& level : j) {
        Fields f(level, fmt::format("level {}", r.size() + 1));
        PartLevel l{f.text("name", ""), f.word("axis", Axis::z, Axis::z), f.mark("at")};
        if (const auto wrong = wrongInName(l.name, {})) f.wrong("name", wrong->c_str());
        if (std::ranges::find(r, l.name, &PartLevel::name) != r.end())
            f.wrong("name", "is that of another level");
        if (!l.mark.picked()) f.wrong("at", "is needed: a mark");
        f.done();
        r.push_back(std::move(l));
    }
    return r;
}

Result<BuildList> readBuildList(const std::string& text) {
    try {
        const Json j = Json::parse(text);
        if (!j.is_object()) return BuildList{{}, stepsFromJson(j), {}};
        Fields f(j, "build list");
        if (!f.has("steps") && !f.has("facts")) f.wrong("steps", "is missing");
        BuildList r;
        r.levels = levelsFromJson(f.list("levels")), r.steps = stepsFromJson(f.list("steps")),
        r.facts = stepsFromJson(f.list("facts"));
        for (const Step& s : r.facts)
            if (const auto why = wrongAsFact(s)) f.wrong("facts", why->c_str());
        f.done();
        return r;
    } catch (const nlohmann::json::exception& e) {
        std::string why = e.what(); // the library puts its own number before the words
        if (const size_t words = why.find("] "); why.starts_with("[") && words != std::string::npos)
            why.erase(0, words + 2);
        return failure(ErrorCode::usage, fmt::format("not a list of steps: {}", why));
    }
}

} // namespace prism
