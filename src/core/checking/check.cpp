#include "core/base/box_tree.h"
#include "core/base/curve_ends.h"
#include "core/checking/finding.h"
#include "core/cleaning/stood_for.h"

#include <fmt/format.h>

namespace prism {

const char* nameOf(Severity s) {
    constexpr std::array names{"error", "warning", "note"};
    return names[static_cast<size_t>(s)];
}

std::string keyOf(const Finding& f, const ViewSet& views) {
    std::vector<std::string> names = f.handles;
    for (int v : f.views) names.push_back(views.views[static_cast<size_t>(v)].key);
    std::ranges::sort(names);
    return fmt::format("{}:{}", f.kind, fmt::join(names, ","));
}

namespace {

/// What is said of the unit in two ways.
void unit(const CheckInput& in, std::vector<Finding>& out) {
    const UnitEvidence& u = in.views.unit;
    const auto against = std::find_if(u.hints.begin(), u.hints.end(),
                                      [](const UnitHint& h) { return !h.agrees && h.weight >= 3; });
    if (against == u.hints.end()) return;
    Finding f;
    f.kind = "unit_suspect";
    f.severity = Severity::warning;
    f.message = fmt::format("The sheet is taken in {}, but {}", u.used, against->words);
    f.repair = "Say the unit in Sheet";
    out.push_back(std::move(f));
}

} // namespace

std::vector<Finding> check(const CheckInput& in, Progress& progress) {
    std::vector<Finding> r;
    unit(in, r);
    progress.report(0, "Checking the views against each other");
    checking::views(in, r);
    progress.report(0.4, "Checking the dimensions");
    checking::dimensions(in, r);
    checking::written(in, r);
    checking::notes(in, r);
    progress.report(0.7, "Checking the outlines");
    checking::outlines(in, r);
    std::stable_sort(r.begin(), r.end(), [](const Finding& a, const Finding& b) {
        return std::tie(a.severity, a.kind) < std::tie(b.severity, b.kind);
    });
    return r;
}

namespace checking {

namespace {

Finding aboutLine(const CheckInput& in, const std::vector<int>& entities, Vec2 at) {
    Finding f;
    f.kind = "outline_open";
    f.entities = entities;
    for (int e : entities) {
        f.handles.push_back(in.drawing.entities[e].handle);
        if (const int v = in.views.view_of_entity[e]; v >= 0 && f.views.empty()) f.views = {v};
    }
    f.at_sheet = {at};
    return f;
}

double modelLength(const CheckInput& in, const Finding& f, double sheet) {
    return sheet * (f.views.empty() ? in.views.unit.mm : in.views.views[f.views[0]].mm_per_sheet);
}

std::string outlineOf(const CheckInput& in, const Finding& f) {
    return f.views.empty()
               ? "The outline"
               : fmt::format("The outline of the {} view", nameOf(in.views.views[f.views[0]].role));
}

bool setAside(const CheckInput& in, const Finding& f) {
    return f.views.empty() || in.views.views[f.views[0]].role == Role::pictorial;
}

/// The lines as the repair left them, for good.
Remedy closing(const CheckInput& in, const std::vector<int>& entities) {
    Change c;
    for (int e : entities) {
        const Entity& x = in.drawing.entities[static_cast<size_t>(e)];
        MarkedLine m{MarkedLine::Kind::reshape, keyOf(x), {}};
        for (const Curve& k : x.curves) m.curves.push_back(transformed(k, in.sheet.to_file));
        c.lines.push_back(std::move(m));
    }
    takeOffStoodFor(in.sheet, entities, c.lines);
    return {"close_gap", "Close the gap", "the lines meet when they are prolonged", std::move(c)};
}

/// Two ends that face each other, brought together where their lines meet when prolonged, else halfway.
Remedy joining(const CheckInput& in, const LooseEnd& a, const LooseEnd& b) {
    Change c;
    const auto ended = [&](const LooseEnd& l, Vec2 to) {
        const Entity& x = in.drawing.entities[static_cast<size_t>(l.entity)];
        MarkedLine m{MarkedLine::Kind::reshape, keyOf(x), x.curves};
        for (Curve& k : m.curves)
            for (int side : {0, 1})
                if (const Vec2 end = side == 0 ? startOf(k) : endOf(k);
                    distance(end, l.at) <= 1e-9 * (1 + l.gap))
                    k = endedAt(k, side, to);
        for (Curve& k : m.curves) k = transformed(k, in.sheet.to_file);
        c.lines.push_back(std::move(m));
    };
    const auto runs = [&](const LooseEnd& l) {
        const auto& curves = in.drawing.entities[static_cast<size_t>(l.entity)].curves;
        return curves.size() == 1 ? std::get_if<Segment>(&curves.front()) : nullptr;
    };
    const Segment *s = runs(a), *t = runs(b);
    const auto corner = s && t ? carrierCrossing(*s, *t) : std::nullopt;
    const bool near = corner && distance(*corner, a.at) <= 2 * a.gap && distance(*corner, b.at) <= 2 * b.gap;
    const Vec2 to = near ? *corner : 0.5 * (a.at + b.at);
    ended(a, to), ended(b, to);
    takeOffStoodFor(in.sheet, {a.entity, b.entity}, c.lines);
    return {"close_gap", "Close the gap", near ? "the lines meet when they are prolonged" : "", std::move(c)};
}

/// A gap that a repair closed, or left because it is switched off.
void closedGap(const CheckInput& in, const Repair& r, std::vector<Finding>& out) {
    Finding f = aboutLine(in, r.entities, r.at);
    if (setAside(in, f)) return;
    const double gap = modelLength(in, f, r.size);
    if (r.on && gap <= in.figure.tolerances.same_model) return; // one place in the figure
    f.numbers["gap"] = gap;
    f.severity = r.on ? Severity::warning : Severity::error;
    f.message = fmt::format("{} is open by {:.3f} mm{}", outlineOf(in, f), gap,
                            r.on ? "; a repair closes it" : "; its repair is switched off");
    if (r.on)
        f.remedies = {closing(in, r.entities)};
    else
        f.repair = "Switch the repair on again in Sheet";
    out.push_back(std::move(f));
}

/// Ends that meet nothing: two that face each other leave the outline open; a single one may be meant (an
/// edge that runs out into a rounding).
void looseEnds(const CheckInput& in, std::vector<Finding>& out) {
    const auto& loose = in.sheet.loose_ends;
    std::vector<bool> told(loose.size(), false);
    std::vector<Box2> places;
    for (const LooseEnd& l : loose) places.push_back({l.at, l.at});
    const BoxTree tree(places);
    for (size_t i = 0; i < loose.size(); ++i) {
        if (told[i]) continue;
        Finding f = aboutLine(in, {loose[i].entity}, loose[i].at);
        // What is one place in the figure is not open: on a traced sheet ends are known no better than that.
        if (setAside(in, f) || modelLength(in, f, loose[i].gap) <= in.figure.tolerances.same_model) continue;
        int other = -1;
        for (int k : tree.overlapping(places[i].grown(1.01 * loose[i].gap)))
            if (const size_t j = static_cast<size_t>(k);
                j > i && !told[j] &&
                distance(loose[i].at, loose[j].at) <= 1.01 * std::min(loose[i].gap, loose[j].gap)) {
                told[j] = true, other = k;
                f.entities.push_back(loose[j].entity);
                f.handles.push_back(in.drawing.entities[loose[j].entity].handle);
                f.at_sheet.push_back(loose[j].at);
                break;
            }
        const bool facing = f.at_sheet.size() > 1;
        const double gap = modelLength(in, f, loose[i].gap);
        f.severity = facing ? Severity::error : Severity::note;
        f.message = facing ? fmt::format("{} is open by {:.3f} mm, too wide to be closed unasked",
                                         outlineOf(in, f), gap)
                           : fmt::format("{} has a line that ends {:.3f} mm from the nearest other",
                                         outlineOf(in, f), gap);
        if (facing) f.remedies = {joining(in, loose[i], loose[static_cast<size_t>(other)])};
        f.numbers["gap"] = gap;
        out.push_back(std::move(f));
    }
}

/// Lines as the repair left them, for good: those set aside taken off, joined ones drawn as one.
Remedy settingAside(const CheckInput& in, const std::vector<int>& entities) {
    Change c;
    for (int e : entities) {
        const Entity& x = in.drawing.entities[static_cast<size_t>(e)];
        const bool kept = in.sheet.in_use[static_cast<size_t>(e)];
        MarkedLine m{kept ? MarkedLine::Kind::reshape : MarkedLine::Kind::remove, keyOf(x), {}};
        if (kept)
            for (const Curve& k : x.curves) m.curves.push_back(transformed(k, in.sheet.to_file));
        c.lines.push_back(std::move(m));
    }
    return {"delete_duplicate", "Take the copy off the sheet", "", std::move(c)};
}

void repeats(const CheckInput& in, const Repair& r, std::vector<Finding>& out) {
    Finding f = aboutLine(in, r.entities, r.at);
    if (f.views.empty())
        for (const View& v : in.views.views)
            if (v.box_sheet.grown(in.sheet.gap).contains(r.at)) f.views = {v.id};
    if (f.views.empty()) return; // of the border or the title block
    f.kind = "duplicate_geometry";
    f.severity = Severity::note;
    if (r.on) f.remedies = {settingAside(in, r.entities)};
    f.message = r.kind == "duplicate"   ? "A line is drawn twice; one copy is set aside"
                : r.kind == "contained" ? "A line lies within a longer one; it is set aside"
                                        : "Lines overlap; they are made into one";
    out.push_back(std::move(f));
}

} // namespace

void outlines(const CheckInput& in, std::vector<Finding>& out) {
    looseEnds(in, out);
    for (const Repair& r : in.sheet.repairs) {
        if (r.kind == "gap_closed" || r.kind == "corner_extended")
            closedGap(in, r, out);
        else if (r.kind == "duplicate" || r.kind == "contained" || r.kind == "overlapping")
            repeats(in, r, out);
    }
}

} // namespace checking
} // namespace prism
