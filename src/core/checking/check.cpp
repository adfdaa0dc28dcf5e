#include "core/checking/finding.h"

#include <fmt/format.h>

namespace prism {

const char* nameOf(Severity s) {
    constexpr std::array names{"error", "warning", "note"};
    return names[static_cast<size_t>(s)];
}

std::vector<Finding> check(const CheckInput& in, Progress& progress) {
    std::vector<Finding> r;
    progress.report(0, "Checking the views against each other");
    checks::views(in, r);
    progress.report(0.4, "Checking the dimensions");
    checks::dimensions(in, r);
    progress.report(0.7, "Checking the outlines");
    checks::outlines(in, r);
    std::stable_sort(r.begin(), r.end(), [](const Finding& a, const Finding& b) {
        return std::tie(a.severity, a.kind) < std::tie(b.severity, b.kind);
    });
    return r;
}

namespace checks {

void outlines(const CheckInput& in, std::vector<Finding>& out) {
    std::vector<OpenEnd> open;
    closedAreas(in.figure, in.figure.drawn, &open);
    std::vector<std::pair<const OpenEnd*, size_t>> told;
    for (const OpenEnd& e : open) {
        const FigureCurve& c = in.figure.curves[e.curve];
        const bool outline = c.role == LineRole::outline;
        if (!outline || e.gap > 0.02 * in.figure.size) continue; // a hidden line may end where it likes
        const std::string& handle = in.drawing.entities[c.entity].handle;
        const auto facing = std::find_if(told.begin(), told.end(), [&](const auto& t) {
            return t.first->view == e.view && distance(t.first->at, e.at) <= 1.01 * e.gap;
        });
        if (facing != told.end()) { // the other end of a gap that is told already
            out[facing->second].entities.push_back(c.entity);
            out[facing->second].handles.push_back(handle);
            continue;
        }
        const View& v = in.views.views[e.view];
        Finding f;
        f.kind = "outline_open";
        f.severity = Severity::error;
        f.message = fmt::format("The outline of the {} view is open by {:.3f} mm", nameOf(v.role), e.gap);
        f.views = {e.view};
        f.entities = {c.entity};
        f.handles = {handle};
        f.at_sheet = {v.toModel().inverse()(e.at)};
        f.numbers["gap"] = e.gap;
        told.emplace_back(&e, out.size());
        out.push_back(std::move(f));
    }
    for (const Repair& r : in.sheet.repairs) {
        if (r.kind == "speck") continue;
        const Entity& e = in.drawing.entities[r.entities.front()];
        Finding f;
        f.kind = "duplicate_geometry";
        f.severity = Severity::note;
        f.message = r.kind == "duplicate" ? "A line is drawn twice; one copy is set aside"
                                          : "A line lies within a longer one; it is set aside";
        f.entities = r.entities;
        f.handles = {e.handle};
        f.at_sheet = {r.at};
        out.push_back(std::move(f));
    }
}

} // namespace checks
} // namespace prism
