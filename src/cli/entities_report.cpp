#include "cli/report.h"

namespace prism::cli {
namespace {

Json point(Vec2 p) {
    return Json::array({p.x, p.y});
}

Json curveJson(const Curve& c) {
    if (const auto* s = std::get_if<Segment>(&c))
        return {{"kind", "segment"}, {"a", point(s->a)}, {"b", point(s->b)}};
    if (const auto* a = std::get_if<Arc>(&c))
        return {{"kind", a->full() ? "circle" : "arc"},
                {"centre", point(a->centre)},
                {"radius", a->radius},
                {"start", a->start},
                {"sweep", a->sweep}};
    if (const auto* e = std::get_if<EllipseArc>(&c))
        return {{"kind", "ellipse"}, {"centre", point(e->centre)}, {"major", point(e->major)},
                {"ratio", e->ratio}, {"start", e->start},          {"sweep", e->sweep}};
    const Spline& s = std::get<Spline>(c);
    Json poles = Json::array();
    for (Vec2 p : s.poles) poles.push_back(point(p));
    return {{"kind", "spline"},
            {"degree", s.degree},
            {"knots", s.knots},
            {"poles", poles},
            {"weights", s.weights}};
}

Json curvesJson(const std::vector<Curve>& curves, const Affine2& m) {
    Json r = Json::array();
    for (const Curve& c : curves) r.push_back(curveJson(transformed(c, m)));
    return r;
}

} // namespace

Json entitiesReport(const Model& m) {
    const Drawing &read = *m.source, &now = *m.drawing;
    const bool turned = !(m.sheet.to_file(Vec2{0, 0}) == Vec2{0, 0});
    Json entities = Json::array(), texts = Json::array();
    for (const Entity& e : now.entities) { // those that were added stand behind those of the file
        const bool added = e.id >= static_cast<int>(read.entities.size());
        const std::vector<Curve> curves = added ? e.curves : read.entities[e.id].curves;
        Json j{{"id", e.id},
               {"type", e.type},
               {"handle", e.handle},
               {"block_path", e.block_path},
               {"layer", now.layers[e.layer].name},
               {"line_type", e.line_type},
               {"color", e.color},
               {"role", nameOf(m.sheet.entity_roles[e.id])},
               {"in_use", static_cast<bool>(m.sheet.in_use[e.id])},
               {"curves", curvesJson(curves, added ? m.sheet.to_file : Affine2{})}};
        if (added) j["added"] = true;
        if (e.point) j["point"] = point(*e.point);
        if (!turned && e.curves != curves) j["repaired"] = curvesJson(e.curves, m.sheet.to_file);
        entities.push_back(std::move(j));
    }
    for (const SheetText& t : read.texts)
        texts.push_back({{"handle", t.handle},
                         {"layer", read.layers[t.layer].name},
                         {"at", point(t.position)},
                         {"height", t.height},
                         {"rotation", t.rotation},
                         {"content", t.content}});
    return {{"entities", entities}, {"texts", texts}};
}

Json rereadReport(const Reread& r, const Drawing& before, const Drawing& after) {
    Json lines = Json::array(), dimensions = Json::array();
    for (const LineChange& c : r.difference.lines) {
        const char* const kinds[] = {"added", "removed", "moved"};
        const Entity& e = c.after >= 0 ? after.entities[c.after] : before.entities[c.before];
        Json j{{"change", kinds[static_cast<int>(c.kind)]}, {"type", e.type}, {"handle", e.handle}};
        if (c.kind == LineChange::Kind::moved) j["by_sheet"] = c.by;
        lines.push_back(std::move(j));
    }
    for (const DimensionChange& c : r.difference.dimensions)
        dimensions.push_back({{"handle", c.handle},
                              {"change", c.before < 0  ? "added"
                                         : c.after < 0 ? "removed"
                                                       : "text"},
                              {"text_before", c.text_before},
                              {"text_after", c.text_after}});
    return {{"lines", lines}, {"dimensions", dimensions}, {"misfits", r.misfits}};
}

} // namespace prism::cli
