#include "core/project/json_parts.h"

namespace prism::choices_json {
namespace {

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
                {pointFrom(l.at("a")), pointFrom(l.at("b")), positiveFrom(l.at("mm"), "known length"),
                 static_cast<KnownLength::Along>(indexOf(kAlong, l.at("along"), "direction of a length"))});
    if (j.contains("cuts"))
        for (const Json& c : j["cuts"])
            p.cuts.push_back({c.at("name").get<std::string>(), pointFrom(c.at("lo")), pointFrom(c.at("hi"))});
    return p;
}

} // namespace

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

} // namespace prism::choices_json
