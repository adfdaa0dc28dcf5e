#include "core/checking/moving.h"
#include "core/checking/view_values.h"

#include <fmt/format.h>

// Suppositions: what another way to draw, or to take, a view as a whole would explain.
namespace prism {
namespace {

using namespace checking;

constexpr size_t kAskew = 1; ///< coordinates without counterpart that make it worth a try

double extent(const std::vector<double>& v) {
    return v.back() - v.front();
}

/// One view beside another that shows the same axis.
struct Beside {
    const View &view, &beside;
    Axis axis;
    double ratio = 1; ///< of their sizes along it
    size_t unmatched = 0;
};

std::optional<Beside> besideOf(const CheckInput& in, const Tie& t, int id) {
    const int other = t.a == id ? t.b : t.a;
    if (!in.figure.viewById(id) || !in.figure.viewById(other)) return std::nullopt;
    const auto own = valuesOf(in.figure, id, t.axis), there = valuesOf(in.figure, other, t.axis);
    if (own.size() < 2 || there.size() < 2) return std::nullopt;
    return Beside{in.views.views[static_cast<size_t>(id)], in.views.views[static_cast<size_t>(other)], t.axis,
                  extent(own) / extent(there), unmatchedIn(in, id, other, t.axis).size()};
}

bool sizesAgree(const CheckInput& in, const Beside& b) {
    return std::abs(b.ratio - 1) * in.figure.size <= 10 * in.figure.tolerances.same_model;
}

Finding ofView(const View& v, const char* kind, std::string message) {
    Finding f;
    f.kind = kind, f.severity = Severity::error, f.message = std::move(message);
    f.views = {v.id};
    f.at_sheet = {v.box_sheet.centre()};
    return f;
}

/// Whether two views lie level with each other, or above each other.
bool inLine(const Box2& a, const Box2& b) {
    return std::ranges::any_of(std::array{0, 1},
                               [&](int k) { return a.lo[k] < b.hi[k] && b.lo[k] < a.hi[k]; });
}

void turned(const CheckInput& in, const Beside& b, std::vector<Finding>& out) {
    const bool sizes = !sizesAgree(in, b);
    if (!sizes && b.unmatched < kAskew) return;
    Finding f = ofView(b.view, "view_turned",
                       fmt::format("The {} view fits the {} view only when it is turned on the sheet",
                                   nameOf(b.view.role), nameOf(b.beside.role)));
    const Box2& own = b.view.box_sheet;
    const bool square =
        std::abs(own.width() - own.height()) * b.view.mm_per_sheet <= 10 * in.figure.tolerances.same_model;
    for (const int quarters : {1, -1, 2})
        if (sizes ? quarters != 2 : quarters == 2 || square) {
            // Upside down it keeps its place. What lies neither level with the other view nor above or below
            // it does not say where it is to go.
            const Affine2 turn = quarters == 2 ? turnedInPlace(b.view, b.view, quarters)
                                 : inLine(b.view.box_sheet, b.beside.box_sheet)
                                     ? turnedInPlace(b.view, b.beside, quarters)
                                     : turnedAtCorner(b.view, quarters);
            f.remedies.push_back({"turn_view",
                                  fmt::format("Turn the {} view by {}°", nameOf(b.view.role), 90 * quarters),
                                  "", viewMoved(in, b.view, turn)});
        }
    out.push_back(std::move(f));
}

Remedy mirroring(const CheckInput& in, const View& v, bool level) {
    return {"mirror_view",
            fmt::format("Mirror the {} view {}", nameOf(v.role), level ? "left to right" : "top to bottom"),
            "", viewMoved(in, v, mirroredInPlace(v, level))};
}

void mirrored(const CheckInput& in, const Beside& b, std::vector<Finding>& out) {
    if (!sizesAgree(in, b)) return;
    const bool level = axesOf(b.view.role).right == b.axis;
    Finding f =
        ofView(b.view, "view_mirrored",
               fmt::format("The {} view fits the {} view only when it is mirrored {}", nameOf(b.view.role),
                           nameOf(b.beside.role), level ? "left to right" : "top to bottom"));
    f.remedies = {mirroring(in, b.view, level)};
    out.push_back(std::move(f));
}

/// Mirrored across an axis that no view beside it shows: only a solid tells.
void mirroredAlone(const CheckInput& in, const FigureView& v, const std::vector<Beside>& all,
                   std::vector<Finding>& out) {
    const View& view = in.views.views[static_cast<size_t>(v.view)];
    for (const bool level : {true, false}) {
        const Axis axis = level ? v.axes.right : v.axes.up;
        if (std::ranges::any_of(all, [&](const Beside& b) { return b.axis == axis; })) continue;
        Finding f = ofView(view, "view_mirrored",
                           fmt::format("The {} view fits the other views only when it is mirrored {}",
                                       nameOf(view.role), level ? "left to right" : "top to bottom"));
        f.remedies = {mirroring(in, view, level)};
        out.push_back(std::move(f));
    }
}

/// One ratio of sizes to all views beside, or to the only one.
void scaled(const CheckInput& in, const View& v, const std::vector<Beside>& all, std::vector<Finding>& out) {
    constexpr double kSameRatio = 1e-3;
    if (all.empty() || sizesAgree(in, all.front())) return;
    const double ratio = all.front().ratio;
    if (std::ranges::any_of(all, [&](const Beside& b) { return std::abs(b.ratio - ratio) > kSameRatio; }))
        return;
    Finding f = ofView(
        v, "scale_mismatch",
        fmt::format("The {} view is drawn {:.4g} times as large as the others", nameOf(v.role), ratio));
    f.numbers = {{"ratio", ratio}};
    f.remedies = {
        {"scale_view",
         fmt::format("Draw the {} view {:.6g} times as large, as the others", nameOf(v.role), 1 / ratio), "",
         viewMoved(in, v, scaledInPlace(in, v, 1 / ratio))}};
    out.push_back(std::move(f));
}

/// Whether a view has found no place among the others: none at all, or, of a section, none where it is taken.
bool placeless(const View& v) {
    return v.role == Role::unassigned ||
           ((v.role == Role::section || v.role == Role::auxiliary) && !v.hanging);
}

/// Where a view has found no place among the others, one of them may be turned: which, only trying tells, for
/// the roles follow from it.
void turnedSomewhere(const CheckInput& in, std::vector<Finding>& out) {
    const auto& views = in.views.views;
    if (std::ranges::none_of(views, placeless)) return;
    for (const View& v : views) {
        if (v.role != Role::unassigned && !isPrincipal(v.role)) continue;
        Finding f =
            ofView(v, "view_turned",
                   v.role == Role::unassigned
                       ? "A view that has no place fits the others when it is turned on the sheet"
                       : fmt::format("The views fit each other only when the one that seems to be the "
                                     "{} view is turned on the sheet",
                                     nameOf(v.role)));
        for (const int quarters : {1, -1})
            f.remedies.push_back({"turn_view", fmt::format("Turn the view by {}°", 90 * quarters), "",
                                  viewMoved(in, v, turnedAtCorner(v, quarters))});
        out.push_back(std::move(f));
    }
}

void otherAngle(const CheckInput& in, std::vector<Finding>& out) {
    const ProjectionEvidence& p = in.views.projection;
    const Convention other = p.laid_out == Convention::first ? Convention::third : Convention::first;
    Finding f;
    f.kind = "convention_suspect";
    f.severity = Severity::error;
    f.message =
        p.stated ? fmt::format("The sheet states {} angle, but only in {} angle is there a solid that shows "
                               "every line",
                               nameOf(*p.stated), nameOf(other))
                 : fmt::format("The views are taken as {} angle, but only in {} angle is there a solid that "
                               "shows every line",
                               nameOf(p.laid_out), nameOf(other));
    Change c;
    c.convention = other;
    f.remedies = {{"take_angle", fmt::format("Take the views as {} angle", nameOf(other)), "", std::move(c)}};
    out.push_back(std::move(f));
}

} // namespace

std::vector<Finding> misdrawnViews(const CheckInput& in, Progress& progress) {
    std::vector<Finding> r;
    for (const FigureView& v : in.figure.views) {
        if (!v.principal() || progress.cancelled()) continue;
        std::vector<Beside> all;
        for (const Tie& t : in.views.ties)
            if (t.a == v.view || t.b == v.view)
                if (const auto b = besideOf(in, t, v.view)) all.push_back(*b);
        if (v.role() == Role::front) continue; // the others are measured by it
        scaled(in, in.views.views[static_cast<size_t>(v.view)], all, r);
        for (const Beside& b : all) turned(in, b, r), mirrored(in, b, r);
        mirroredAlone(in, v, all, r);
    }
    turnedSomewhere(in, r);
    if (in.figure.principalViews().size() > 1) otherAngle(in, r);
    return r;
}

} // namespace prism
