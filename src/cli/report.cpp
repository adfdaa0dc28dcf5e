#include "cli/report.h"

#include "core/project/project_file.h"
#include "core/tracing/placing.h"
#include "core/views/panes.h"

namespace prism::cli {
namespace {

Json point(Vec2 p) {
    return Json::array({p.x, p.y});
}

Json unitReport(const Model& m) {
    Json hints = Json::array();
    for (const UnitHint& h : m.views.unit.hints)
        hints.push_back({{"unit", h.unit}, {"weight", h.weight}, {"seen", h.words}, {"agrees", h.agrees}});
    return {{"declared", m.views.unit.declared},
            {"used", m.views.unit.used},
            {"reason", m.views.unit.reason},
            {"evidence", hints}};
}

Json viewIds(const Model& m, const std::vector<int>& ids) {
    Json j = Json::array();
    for (int i : ids) j.push_back(nameOf(m.views.views[i].role));
    return j;
}

Json dimensionReport(const Model& m, const Dimension& d) {
    const double mm = d.kind == DimensionKind::angular ? 1 : m.views.unit.mm;
    return {{"id", d.id},
            {"handle", d.handle},
            {"kind", nameOf(d.kind)},
            {"layer", m.drawing->layers[d.layer].name},
            {"text", d.text},
            {"measured", d.measured},
            {"value", d.value * mm},
            {"count", d.count},
            {"plus", d.plus * mm},
            {"minus", d.minus * mm},
            {"overridden", d.overridden}};
}

/// The scan's pictures: size, how they lie, and how well the known lengths hold.
Json picturesReport(const Model& m, const PictureChoices& choices) {
    Json r = Json::array();
    for (size_t i = 0; i < m.source->pictures.size(); ++i) {
        const Picture& p = m.source->pictures[i];
        const Calibration c = calibrate(*p.scan, choices, choices.cuts.empty() ? -1 : static_cast<int>(i));
        const Straightening s = straighteningOf(*p.scan, choices);
        Json lengths = Json::array();
        for (const LengthFit& f : c.fits)
            lengths.push_back({{"said", choices.lengths[f.length].mm},
                               {"found", f.found_mm},
                               {"expected_error", f.expected_mm}});
        Json j{{"name", p.name},
               {"pixels", {p.region.width(), p.region.height()}},
               {"mm_per_pixel", {c.mm_x, c.mm_y}},
               {"askew_degrees", {s.level * 180 / kPi, s.upright * 180 / kPi}},
               {"askew_from_lines", {p.scan->level_lines, p.scan->upright_lines}},
               {"relative_error", c.relative_error},
               {"stretch", nullptr},
               {"corrected", c.corrected},
               {"lengths", lengths}};
        if (c.stretch) j["stretch"] = *c.stretch, j["stretch_error"] = c.stretch_error;
        r.push_back(std::move(j));
    }
    return r;
}

Json viewProofReport(const ViewProof& v) {
    Json j{{"view", nameOf(v.name)},
           {"matched", v.matched},
           {"missing", v.missing},
           {"extra", v.extra},
           {"matched_length", v.matched_length},
           {"missing_length", v.missing_length},
           {"extra_length", v.extra_length}};
    if (v.in_part) j["in_part"] = true;
    if (!v.broken_out.empty()) j["broken_out_at"] = v.broken_out;
    if (v.areas > 0) j["areas"] = v.areas, j["areas_off"] = v.areas_off.size(), j["area_off"] = v.areaOff();
    return j;
}

Json proofSummary(const Model& m) {
    if (!m.proof) return nullptr;
    Json views = Json::array(), notCompared = Json::array();
    for (const ViewProof& v : m.proof->views) views.push_back(viewProofReport(v));
    for (const NotCompared& n : m.proof->not_compared)
        notCompared.push_back({{"view", nameOf(m.views.views[n.view].role)},
                               {"name", m.views.views[n.view].name},
                               {"reason", n.reason},
                               {"counts", n.counts}});
    return {{"matched", m.proof->matched},     {"missing", m.proof->missing},
            {"extra", m.proof->extra},         {"areas_off", m.proof->areas_off},
            {"compared", m.proof->compared()}, {"views_total", m.proof->total()},
            {"proved", m.proof->proved()},     {"views", views},
            {"not_compared", notCompared}};
}

/// A box as it lies in the file.
Box2 inFile(const Model& m, const Box2& box) {
    Box2 b;
    if (box.valid())
        for (Vec2 p : {box.lo, Vec2{box.hi.x, box.lo.y}, box.hi, Vec2{box.lo.x, box.hi.y}})
            b.add(m.sheet.to_file(p));
    return b;
}

Json vectorJson(Vec3 v) {
    return {v.x, v.y, v.z};
}

/// Where a section, an auxiliary or a detail view stands: a point (x, y) of the sheet is at
/// origin + x * right + y * up, model mm per sheet unit.
Json standsReport(const Model& m, const View& v) {
    if (!v.hanging) return nullptr;
    const Hanging& h = *v.hanging;
    const View& on = m.views.views[h.on];
    const Affine2 file = h.own * m.sheet.to_file.inverse(), back = on.toModel().inverse();
    const auto at = [&](Vec2 p) { return standing(h, on.role, file(p)); };
    Json j{{"on", h.on},
           {"by", nameOf(h.by)},
           {"reason", h.reason},
           {"matched", h.matched},
           {"levels", h.levels},
           {"residual", h.residual},
           {"origin", vectorJson(at({0, 0}))},
           {"right", vectorJson(at({1, 0}) - at({0, 0}))},
           {"up", vectorJson(at({0, 1}) - at({0, 0}))}};
    if (!h.flat()) {
        j["line_sheet"] =
            Json::array({point(m.sheet.to_file(back(h.from))), point(m.sheet.to_file(back(h.to)))});
        const ViewAxes a = axesOf(on.role);
        j["look"] = vectorJson(h.look.x * unitOf(a.right) + h.look.y * unitOf(a.up));
    }
    return j;
}

} // namespace

Json readReport(const Model& m, const Choices& choices) {
    const Drawing& d = *m.drawing;
    Json layers = Json::array(), notRead = Json::array(), dimensions = Json::array(),
         cleaning = Json::array();
    std::vector<int> count(d.layers.size(), 0);
    for (const Entity& e : d.entities) ++count[e.layer];
    for (const SheetText& t : d.texts) ++count[t.layer];
    for (const Dimension& x : d.dimensions) ++count[x.layer];
    for (size_t i = 0; i < d.layers.size(); ++i)
        layers.push_back({{"name", d.layers[i].name},
                          {"entities", count[i]},
                          {"role", nameOf(m.sheet.layer_roles[i])},
                          {"on", static_cast<bool>(m.sheet.layer_on[i])}});
    for (const NotRead& n : d.not_read)
        notRead.push_back({{"type", n.type}, {"count", n.count}, {"reason", n.reason}});
    for (const Dimension& x : d.dimensions) dimensions.push_back(dimensionReport(m, x));
    std::map<std::string, std::vector<Vec2>> kinds;
    for (const Repair& r : m.sheet.repairs)
        if (r.on) kinds[r.kind].push_back(r.at);
    for (const auto& [kind, at] : kinds) {
        Json places = Json::array();
        for (Vec2 p : at) places.push_back(point(m.sheet.to_file(p)));
        cleaning.push_back({{"kind", kind}, {"count", at.size()}, {"at", places}});
    }
    Json loose = Json::array();
    for (const LooseEnd& e : m.sheet.loose_ends)
        loose.push_back({{"handle", d.entities[e.entity].handle},
                         {"at", point(m.sheet.to_file(e.at))},
                         {"gap_sheet", e.gap}});
    Json j{{"format", d.format},       {"version", d.version}, {"layouts", d.layouts}, {"layout", d.layout},
           {"unit", unitReport(m)},    {"layers", layers},     {"counts", d.counts},   {"not_read", notRead},
           {"dimensions", dimensions}, {"cleaning", cleaning}, {"loose_ends", loose}};
    if (!m.sheet.left_undone.empty()) j["left_undone"] = m.sheet.left_undone;
    if (!d.pictures.empty()) j["pictures"] = picturesReport(m, choices.reading.picture);
    return j;
}

Json viewsReport(const Model& m) {
    const ViewSet& s = m.views;
    Json views = Json::array(), left = Json::array(), ties = Json::array();
    for (const View& v : s.views) {
        const Box2 b = inFile(m, v.box_sheet);
        const Vec2 size = sizeOf(*m.drawing, v);
        views.push_back({{"id", v.id},
                         {"role", nameOf(v.role)},
                         {"name", v.name},
                         {"letter", v.letter},
                         {"scale", v.scale},
                         {"scale_reason", v.scale_reason},
                         {"box_sheet", {b.lo.x, b.lo.y, b.hi.x, b.hi.y}},
                         {"size", {size.x, size.y}},
                         {"entities", v.entities.size()},
                         {"centre_lines", v.centre_lines.size()},
                         {"dimensions", v.dimensions.size()},
                         {"in_figure", v.in_figure},
                         {"stands", standsReport(m, v)}});
    }
    for (const LeftOut& l : s.left_out) left.push_back({{"what", l.what}, {"entities", l.entities.size()}});
    for (const Tie& t : s.ties)
        ties.push_back({{"by_hand", t.by_hand},
                        {"a", t.a},
                        {"b", t.b},
                        {"axis", nameOf(t.axis)},
                        {"matched", t.matched},
                        {"unmatched", t.unmatched},
                        {"residual", t.residual}});
    Json parts = Json::array();
    for (const PartOnSheet& p : s.parts) {
        const Box2 b = inFile(m, p.box);
        parts.push_back({{"box_sheet", {b.lo.x, b.lo.y, b.hi.x, b.hi.y}}, {"views", p.views}});
    }
    const ProjectionEvidence& p = s.projection;
    return {{"unit", unitReport(m)},
            {"projection",
             {{"convention", nameOf(p.convention)},
              {"confidence", p.confidence},
              {"reason", p.reason},
              {"laid_out", nameOf(p.laid_out)}}},
            {"views", views},
            {"left_out", left},
            {"ties", ties},
            {"part", s.part + 1},
            {"parts", parts}};
}

namespace {

Json findingReport(const Model& m, const Finding& f) {
    Json at = Json::array(), repairs = Json::array();
    for (Vec2 p : f.at_sheet) at.push_back(point(m.sheet.to_file(p)));
    for (const Remedy& r : f.remedies)
        repairs.push_back({{"kind", r.kind}, {"words", r.words}, {"reason", r.reason}});
    const std::string first = f.remedies.empty() ? f.repair : f.remedies.front().kind;
    Json j{{"kind", f.kind},       {"severity", nameOf(f.severity)},
           {"message", f.message}, {"views", viewIds(m, f.views)},
           {"handles", f.handles}, {"at_sheet", at},
           {"numbers", f.numbers}, {"repair", first.empty() ? Json(nullptr) : Json(first)},
           {"repairs", repairs},   {"symptoms", f.symptoms}};
    if (f.accepted) j["accepted"] = *f.accepted;
    if (m.views.parts.size() > 1) j["part"] = m.views.part + 1;
    return j;
}

Json openSizeReport(const Model& m, const OpenSize& o) {
    Json at = Json::array();
    for (Vec2 p : o.places) at.push_back(point(m.sheet.to_file(p)));
    Json j{{"what", o.what},   {"view", nameOf(m.views.views[static_cast<size_t>(o.view)].role)},
           {"at_mm", o.at},    {"value_mm", o.value},
           {"round", o.round}, {"at_sheet", at}};
    if (!o.radius) j["axis"] = nameOf(o.axis), j["from"] = o.from;
    if (m.views.parts.size() > 1) j["part"] = m.views.part + 1;
    return j;
}

/// What the dimensions leave open, and what they say twice.
Json completenessReport(const std::vector<Checked>& parts) {
    Json open = Json::array(), twice = Json::array(), undone = Json::array();
    for (const Checked& c : parts) {
        for (const OpenSize& o : c.sizes.open) open.push_back(openSizeReport(*c.model, o));
        for (const GivenTwice& g : c.sizes.twice)
            twice.push_back({{"name", g.name}, {"follows_from", g.from}});
        if (!c.sizes.left_undone.empty()) undone.push_back(c.sizes.left_undone);
    }
    Json j{{"open", open}, {"twice", twice}};
    if (!undone.empty()) j["left_undone"] = undone;
    return j;
}

} // namespace

Json checkReport(const std::vector<Checked>& parts, const std::vector<Repaired>& repaired) {
    Json findings = Json::array(), done = Json::array(), undone = Json::array();
    bool sound = true;
    for (const Checked& c : parts) {
        for (const Finding& f : c.found.findings) findings.push_back(findingReport(*c.model, f));
        sound = sound && c.found.sound;
        if (!c.found.left_undone.empty()) undone.push_back(c.found.left_undone);
    }
    for (const Repaired& r : repaired)
        done.push_back({{"kind", r.kind}, {"words", r.words}, {"finding", r.finding}});
    Json j{{"findings", findings}, {"sound", sound}, {"repaired", done}};
    if (!undone.empty()) j["left_undone"] = undone;
    j["completeness"] = completenessReport(parts);
    return j;
}

Json ledgerReport(const Model& m) {
    Json j = Json::array();
    for (const LedgerEntry& e : m.ledger.entries) {
        Json x{{"name", e.name},           {"value", e.value},          {"unit", e.unit()},
               {"state", nameOf(e.state)}, {"source_handle", e.handle}, {"text", e.text}};
        if (!e.formula.empty()) x["formula"] = e.formula;
        if (!e.why.empty()) x["why"] = e.why;
        j.push_back(x);
    }
    return j;
}

namespace {

Json boxReport(Vec3 lo, Vec3 hi) {
    return Json::array({lo.x, lo.y, lo.z, hi.x, hi.y, hi.z});
}

Json weightReport(const Model& m, const std::optional<Material>& material) {
    const auto w = material ? weightOf(m.build.shape, *material) : std::nullopt;
    if (!w) return nullptr;
    return {{"material", material->name},
            {"standard", material->standard},
            {"density_kg_m3", material->density},
            {"mass_kg", w->mass},
            {"centre", {w->centre.x, w->centre.y, w->centre.z}},
            {"inertia_kg_mm2", w->inertia}};
}

} // namespace

Json buildReport(const Model& m, const std::optional<Material>& material,
                 const std::optional<Proposal>& proposal, const std::optional<Finding>& would_fit) {
    Json steps = Json::array();
    for (const StepReport& s : m.build.steps)
        steps.push_back({{"name", s.name}, {"what", s.what}, {"ok", s.ok}, {"message", s.message}});
    const SolidMeasure& s = m.build.measure;
    Json j{{"volume", s.volume},       {"area", s.area},           {"box", boxReport(s.lo, s.hi)},
           {"valid", s.valid},         {"faces", s.faces},         {"steps", steps},
           {"proof", proofSummary(m)}, {"ledger", ledgerReport(m)}};
    if (proposal) j["how"] = proposal->how;
    if (would_fit) j["would_fit"] = findingReport(m, *would_fit);
    j["weight"] = weightReport(m, material);
    if (!proposal) return j;
    j["proposal"] = {
        {"how", proposal->how}, {"clean", proposal->clean}, {"left_undone", proposal->left_undone}};
    for (const Alternative& a : proposal->alternatives)
        j["alternatives"].push_back({{"volume", a.volume},
                                     {"steps", toJson(a.steps)},
                                     {"differs", a.differs},
                                     {"where", boxReport(a.difference.lo, a.difference.hi)},
                                     {"settled_by", a.difference.settled_by}});
    return j;
}

Json suggestionReport(const Result<Suggestion>& s) {
    if (!s) return {{"step", nullptr}, {"reason", s.error().message}};
    return {{"step", toJson(std::vector{s->step}).front()}, {"missing", s->missing}, {"sure", s->sure}};
}

Json proofReport(const Model& m) {
    Json j = proofSummary(m);
    if (j.is_null()) return {{"proof", nullptr}};
    for (size_t i = 0; i < m.proof->views.size(); ++i) {
        Json lines = Json::array();
        for (const ProofPiece& p : m.proof->views[i].pieces) {
            if (p.state == LineState::matched) continue;
            Json l{{"state", nameOf(p.state)},
                   {"hidden", p.hidden},
                   {"from", point(startOf(p.shape))},
                   {"to", point(endOf(p.shape))},
                   {"length", p.length}};
            if (p.curve >= 0) l["handle"] = m.drawing->entities[m.figure.curves[p.curve].entity].handle;
            lines.push_back(l);
        }
        j["views"][i]["unmatched"] = lines;
    }
    return {{"proof", j}};
}

} // namespace prism::cli
