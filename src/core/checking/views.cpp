#include "core/checking/bolt_circles.h"
#include "core/checking/moving.h"
#include "core/checking/view_values.h"
#include "core/cleaning/stood_for.h"

#include <fmt/format.h>
#include <set>

namespace prism::checking {
namespace {

int matches(const std::vector<double>& a, const std::vector<double>& b, double tol) {
    return static_cast<int>(std::count_if(a.begin(), a.end(), [&](double x) { return has(b, x, tol); }));
}

/// Sheet place of a line end of a view at a value of one of its axes.
Vec2 endOf(const Figure& f, const View& v, Axis axis, double value) {
    const FigureView& fv = *f.viewById(v.id);
    Vec2 c = fv.box.centre();
    for (const Mark& m : f.marks)
        if (m.view == v.id && m.axis == axis && m.value == value && !m.others.empty())
            c = {m.others.front(), m.others.front()};
    return fv.to_model.inverse()(fv.axes.right == axis ? Vec2{value, c.y} : Vec2{c.x, value});
}

Remedy removal(const CheckInput& in, int entity) {
    Change c;
    c.lines = {{MarkedLine::Kind::remove, keyOf(in.drawing.entities[static_cast<size_t>(entity)]), {}}};
    takeOffStoodFor(in.sheet, {entity}, c.lines);
    return {"delete_line", "Take the line off the sheet", "", std::move(c)};
}

void sizes(const CheckInput& in, std::vector<Finding>& out) {
    for (const Tie& t : in.views.ties) {
        const View &a = in.views.views[t.a], &b = in.views.views[t.b];
        const auto va = valuesOf(in.figure, t.a, t.axis), vb = valuesOf(in.figure, t.b, t.axis);
        if (va.empty() || vb.empty()) continue;
        const double wa = va.back() - va.front(), wb = vb.back() - vb.front();
        const double difference = std::abs(wa - wb);
        if (difference <= 10 * in.figure.tolerances.same_model) continue;
        Finding f;
        f.kind = "size_mismatch";
        f.severity = Severity::error;
        f.message = fmt::format("The {} view is {:.2f} mm {} along {} than the {} view", nameOf(b.role),
                                difference, wb > wa ? "larger" : "smaller", nameOf(t.axis), nameOf(a.role));
        f.views = {t.a, t.b};
        const bool highDiffers = std::abs(va.back() - vb.back()) >= std::abs(va.front() - vb.front());
        f.at_sheet = {endOf(in.figure, a, t.axis, highDiffers ? va.back() : va.front()),
                      endOf(in.figure, b, t.axis, highDiffers ? vb.back() : vb.front())};
        f.numbers = {{"first", wa}, {"second", wb}, {"difference", difference}, {"ratio", wb / wa}};
        out.push_back(std::move(f));
    }
}

/// A view that fits its neighbours only at a scale of its own: right in the box, but hardly meant.
void scales(const CheckInput& in, std::vector<Finding>& out) {
    const View* front = in.views.withRole(Role::front);
    if (!front) return;
    for (const View& v : in.views.views) {
        const double ratio = v.scale / front->scale;
        if (!isPrincipal(v.role) || std::abs(ratio - 1) < 1e-3) continue;
        Finding f;
        f.kind = "scale_mismatch";
        f.severity = Severity::error;
        f.message = fmt::format(
            "The {} view is drawn at a scale of {:.4g}, {:.4g} times that of the front view; it is taken at "
            "its own scale",
            nameOf(v.role), v.scale, ratio);
        f.views = {front->id, v.id};
        f.at_sheet = {v.box_sheet.centre()};
        f.numbers = {{"first", front->scale}, {"second", v.scale}, {"ratio", ratio}};
        f.remedies = {
            {"scale_view",
             fmt::format("Draw the {} view {:.6g} times as large, as the others", nameOf(v.role), 1 / ratio),
             "the other views have one scale", viewMoved(in, v, scaledInPlace(in, v, 1 / ratio))}};
        out.push_back(std::move(f));
    }
}

/// A full circle is an edge: a view that looks along its plane, and draws what is hidden, shows it from end
/// to end. Of any other coordinate no more can be said without a solid: what ends there may be a tangent, a
/// silhouette, the end of an intersection, or be covered.
bool mustShow(const CheckInput& in, int to, const std::vector<Unmatched>& all, const Unmatched& u) {
    if (!u.round || !in.figure.drawsHidden()) return false;
    const bool drawsHidden = std::ranges::any_of(
        in.figure.curves, [&](const FigureCurve& c) { return c.view == to && c.role == LineRole::hidden; });
    if (!drawsHidden) return false;
    const auto& arc = std::get<Arc>(in.figure.curves[static_cast<size_t>(u.curve)].drawn);
    return std::ranges::count_if(all, [&](const Unmatched& o) {
               return std::abs(std::abs(o.value - u.value) - 2 * arc.radius) <= sameCoordinate(in.figure);
           }) > 0;
}

void unmatched(const CheckInput& in, const Tie& t, std::vector<Finding>& out) {
    for (auto [from, to] : {std::pair{t.a, t.b}, std::pair{t.b, t.a}}) {
        const auto all = unmatchedIn(in, from, to, t.axis);
        std::set<int> told;
        for (const Unmatched& u : all) {
            const FigureCurve& c = in.figure.curves[static_cast<size_t>(u.curve)];
            const View &v = in.views.views[static_cast<size_t>(from)],
                       &w = in.views.views[static_cast<size_t>(to)];
            const bool certain = mustShow(in, to, all, u);
            if (certain && !told.insert(u.curve).second) continue; // its other end
            Finding f;
            f.kind = "feature_unmatched";
            f.severity = certain ? Severity::warning : Severity::note;
            f.views = {from, to};
            f.entities = {c.entity};
            f.handles = {in.drawing.entities[static_cast<size_t>(c.entity)].handle};
            f.at_sheet = {v.toModel().inverse()(pointAt(c.drawn, 0.5))};
            f.numbers["at"] = u.value;
            if (certain) {
                const auto& arc = std::get<Arc>(c.drawn);
                f.at_sheet = {v.toModel().inverse()(arc.centre)};
                f.numbers["radius"] = arc.radius;
                f.message =
                    fmt::format("The circle of Ø{:.6g} mm in the {} view has no counterpart in the {} "
                                "view, which would show it from {} = {:.2f} mm on",
                                2 * arc.radius, nameOf(v.role), nameOf(w.role), nameOf(t.axis), u.value);
                f.remedies = {removal(in, c.entity)};
            } else
                f.message = fmt::format("{} {} = {:.2f} mm of the {} view has no counterpart in the {} view",
                                        u.round ? "The edge of a circle at" : "A line end at", nameOf(t.axis),
                                        u.value, nameOf(v.role), nameOf(w.role));
            out.push_back(std::move(f));
        }
    }
}

void mirrored(const CheckInput& in, std::vector<Finding>& out) {
    const double tol = 4 * in.figure.tolerances.same_model;
    for (const FigureView& v : in.figure.views) {
        if (v.role() == Role::front || !v.principal()) continue;
        for (Axis axis : {v.axes.right, v.axes.up}) {
            int asIs = 0, turned = 0, all = 0;
            const auto own = valuesOf(in.figure, v.view, axis);
            if (own.empty()) continue;
            std::vector<double> flipped;
            for (double x : own) flipped.push_back(own.front() + own.back() - x);
            for (const FigureView& o : in.figure.views) {
                if (o.view == v.view || !o.principal() || (o.axes.right != axis && o.axes.up != axis))
                    continue;
                const auto other = valuesOf(in.figure, o.view, axis);
                asIs += matches(own, other, tol), turned += matches(flipped, other, tol),
                    all += static_cast<int>(own.size());
            }
            if (turned < asIs + 2 || turned * 10 < all * 8) continue;
            Finding f;
            f.kind = "view_mirrored";
            f.severity = Severity::error;
            f.message = fmt::format("The {} view fits its neighbours better mirrored along {}: {} "
                                    "coordinates agree instead of {}",
                                    nameOf(v.name), nameOf(axis), turned, asIs);
            f.views = {v.view};
            f.at_sheet = {in.views.views[v.view].box_sheet.centre()};
            f.numbers = {{"as_drawn", asIs}, {"mirrored", turned}};
            const View& w = in.views.views[static_cast<size_t>(v.view)];
            const bool level = v.axes.right == axis;
            f.remedies = {{"mirror_view",
                           fmt::format("Mirror the {} view {}", nameOf(v.name),
                                       level ? "left to right" : "top to bottom"),
                           "", viewMoved(in, w, mirroredInPlace(w, level))}};
            out.push_back(std::move(f));
        }
    }
}

void angle(const CheckInput& in, std::vector<Finding>& out) {
    const ProjectionEvidence& p = in.views.projection;
    const bool decided = p.by_geometry && p.convention == *p.by_geometry; // whatever the sheet states
    if (decided || !p.stated || !p.by_geometry || *p.stated == *p.by_geometry ||
        p.votes_first + p.votes_third < 3)
        return;
    if (std::min(p.votes_first, p.votes_third) > 0) return;
    Finding f;
    f.kind = "convention_suspect";
    f.severity = Severity::error;
    f.message = fmt::format(
        "The sheet states {} angle, but {} hidden and inner lines fit {} angle and none the other",
        nameOf(*p.stated), std::max(p.votes_first, p.votes_third), nameOf(*p.by_geometry));
    f.numbers = {{"votes_first", p.votes_first}, {"votes_third", p.votes_third}};
    Change turned;
    turned.convention = *p.by_geometry;
    f.remedies = {{"take_angle", fmt::format("Take the views as {} angle", nameOf(*p.by_geometry)),
                   "the lines that tell the angle agree on it", std::move(turned)}};
    out.push_back(std::move(f));
}

void depth(const CheckInput& in, std::vector<Finding>& out) {
    std::set<Axis> shown;
    for (const FigureView& v : in.figure.views) shown.insert({v.axes.right, v.axes.up});
    if (shown.size() >= kModelAxes) return;
    Finding f;
    const bool none = in.figure.views.empty();
    f.kind = none ? "view_missing" : "depth_undetermined";
    f.severity = Severity::error;
    f.message =
        none ? "No orthographic view was found on the sheet"
             : fmt::format("Only the {} view is given: nothing says how deep the part is along {}",
                           nameOf(in.figure.views.front().name), nameOf(in.figure.views.front().axes.depth));
    if (!none) f.views = {in.figure.views.front().view};
    out.push_back(std::move(f));
}

/// Sections that show the part as it is only when looked at against their arrows.
void fromBehind(const CheckInput& in, std::vector<Finding>& out) {
    for (const View& v : in.views.views) {
        if (!v.hanging || !v.hanging->matched_by_arrows) continue;
        Finding f;
        f.kind = "view_mirrored";
        f.severity = Severity::error;
        f.message = fmt::format(
            "Section {0} is drawn as seen from the other side than its arrows say: {1} of its {2} "
            "coordinates are found again in the other views so, {3} as the arrows say",
            v.letter, v.hanging->matched, v.hanging->levels, *v.hanging->matched_by_arrows);
        f.views = {v.id};
        f.at_sheet = {v.box_sheet.centre()};
        f.numbers = {{"as_drawn", *v.hanging->matched_by_arrows}, {"mirrored", v.hanging->matched}};
        f.repair = "turn the arrows round, or the section under Fold";
        out.push_back(std::move(f));
    }
}

/// A section whose letter stands at no cutting line, where another line has letters that no section has.
void letters(const View& v, const std::vector<StrayPlane>& lines, std::vector<Finding>& out) {
    Finding f;
    f.kind = "section_letters";
    f.severity = Severity::warning;
    std::string other;
    f.views = {v.id}, f.at_sheet = {v.box_sheet.centre()};
    for (const StrayPlane& l : lines) {
        other += fmt::format("{}{}-{}", other.empty() ? "" : ", ", l.from_letter, l.to_letter);
        f.at_sheet.push_back(l.from), f.at_sheet.push_back(l.to);
    }
    f.message =
        fmt::format("No cutting line has the letter {0} of section {0}-{0} at both ends, and no section "
                    "has the letters of the line {1}",
                    v.letter, other);
    f.repair = "Mend the letter under Mark up, or draw the section's line under Fold";
    out.push_back(std::move(f));
}

/// A section that stands where a centre line does, for want of a line that reaches its letters.
void assumedLine(const CheckInput& in, std::vector<Finding>& out) {
    for (const View& v : in.views.views) {
        if (!v.hanging || v.hanging->by != Hanging::By::centre_line) continue;
        const View& on = in.views.views[static_cast<size_t>(v.hanging->on)];
        Finding f;
        f.kind = "section_letters";
        f.severity = Severity::warning;
        f.message =
            fmt::format("No cutting line is drawn between the letters {} in the {} view: the centre line "
                        "there is taken for it",
                        v.letter, nameOf(on.role));
        f.views = {v.id, on.id};
        const Affine2 back = on.toModel().inverse();
        f.at_sheet = {v.box_sheet.centre(), back(v.hanging->from), back(v.hanging->to)};
        f.repair = "Draw it from letter to letter under Mark up";
        out.push_back(std::move(f));
    }
}

/// A section, auxiliary view or detail that nothing places: it neither drives nor is built from.
void unplaced(const CheckInput& in, std::vector<Finding>& out) {
    for (const View& v : in.views.views) {
        const char* what = v.role == Role::section ? "no cutting line with its letter"
                           : v.role == Role::auxiliary
                               ? "no arrow with its letter and no oblique edge that it is square to"
                           : v.role == Role::detail ? "no circle with its letter"
                                                    : nullptr;
        if (!what || v.hanging) continue;
        if (v.role == Role::section && !in.views.stray_planes.empty()) {
            letters(v, in.views.stray_planes, out);
            continue;
        }
        Finding f;
        f.kind = "view_unplaced";
        // A section without a letter may lie where everybody expects it; one with a letter has a line.
        f.severity = v.role == Role::section && !v.letter.empty() ? Severity::warning : Severity::note;
        f.message =
            fmt::format("{} is found for {}: it is neither driven, built from nor proved", what, v.name);
        f.message[0] = static_cast<char>(std::toupper(f.message[0]));
        f.views = {v.id};
        f.at_sheet = {v.box_sheet.centre()};
        f.repair = v.role == Role::detail ? "Add the circle and its letter under Mark up"
                                          : "Draw its line under Fold";
        out.push_back(std::move(f));
    }
}

/// What was drawn beside all views, or is a view that lines up with none: nothing is done with it.
void unassigned(const CheckInput& in, std::vector<Finding>& out) {
    constexpr size_t kMostOfFeature = 2;
    for (const View& v : in.views.views) {
        if (v.role != Role::unassigned) continue;
        Finding f;
        f.severity = Severity::warning;
        f.views = {v.id}, f.at_sheet = {v.box_sheet.centre()};
        const bool feature = v.entities.size() <= kMostOfFeature;
        f.kind = feature ? "feature_unmatched" : "view_unplaced";
        const bool one = v.entities.size() == 1;
        const Entity& first = in.drawing.entities[static_cast<size_t>(v.entities.front())];
        const auto* arc = one && first.curves.size() == 1 ? std::get_if<Arc>(&first.curves.front()) : nullptr;
        const std::string what =
            arc && arc->full()
                ? fmt::format("A circle of Ø{:.6g} mm", 2 * arc->radius * v.mm_per_sheet)
                : fmt::format("{} line{}, {:.6g} x {:.6g} mm in all,", v.entities.size(), one ? "" : "s",
                              v.box_sheet.width() * v.mm_per_sheet, v.box_sheet.height() * v.mm_per_sheet);
        f.message = fmt::format("{} stand{} in no view: {} neither driven, built from nor proved", what,
                                one ? "s" : "", one ? "it is" : "they are");
        if (arc && arc->full())
            f.numbers = {{"diameter", 2 * arc->radius * v.mm_per_sheet},
                         {"radius", arc->radius * v.mm_per_sheet}};
        f.repair = "Give it a role, or its lines to a view, under Fold";
        for (int e : v.entities) {
            f.entities.push_back(e), f.handles.push_back(in.drawing.entities[static_cast<size_t>(e)].handle);
            if (!feature) continue;
            Remedy r = removal(in, e);
            if (f.remedies.empty())
                f.remedies.push_back(std::move(r));
            else
                f.remedies.front().change.lines.push_back(std::move(r.change.lines.front()));
        }
        out.push_back(std::move(f));
    }
}

/// A view that is known to be a section tells the depth once its line is there: one cause, one finding.
void depthOfUnplaced(std::vector<Finding>& out) {
    const auto undetermined = std::ranges::find(out, "depth_undetermined", &Finding::kind);
    const auto unplaced = std::ranges::find_if(out, [](const Finding& f) {
        return f.severity == Severity::warning && (f.kind == "view_unplaced" || f.kind == "section_letters");
    });
    if (undetermined == out.end() || unplaced == out.end()) return;
    unplaced->severity = undetermined->severity;
    unplaced->symptoms.push_back(std::move(undetermined->message));
    out.erase(undetermined);
}

} // namespace

void views(const CheckInput& in, std::vector<Finding>& out) {
    depth(in, out);
    unplaced(in, out);
    unassigned(in, out);
    depthOfUnplaced(out);
    assumedLine(in, out);
    fromBehind(in, out);
    angle(in, out);
    sizes(in, out);
    scales(in, out);
    mirrored(in, out);
    onBoltCircles(in, BoltCircles::drawn, out);
    for (const Tie& t : in.views.ties) unmatched(in, t, out);
}

} // namespace prism::checking
