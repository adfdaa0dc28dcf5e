#include "core/diagnosing/trial.h"

namespace prism {

double weightOf(const Finding& f) {
    if (f.severity == Severity::error) return 4;
    if (f.severity == Severity::warning) return 2;
    return f.kind == "feature_unmatched" ? 1 : 0;
}

double weightOf(const std::vector<Finding>& all) {
    double sum = 0;
    for (const Finding& f : all) sum += weightOf(f);
    return sum;
}

bool triedOut(const Finding& f, const Remedy& r) {
    constexpr std::array kinds{"scale_view", "mirror_view", "turn_view",   "move_feature", "take_angle",
                               "add_line",   "move_line",   "delete_line", "draw_visible"};
    return std::ranges::find(kinds, r.kind) != kinds.end() ||
           (r.kind == "close_gap" && f.severity == Severity::error);
}

bool ofOneLine(const Remedy& r) {
    return r.kind == "add_line" || r.kind == "move_line" || r.kind == "delete_line" ||
           r.kind == "draw_visible";
}

bool toldBySolid(const Remedy& r) {
    return ofOneLine(r) || r.kind == "take_angle";
}

double unexplained(const Trial& t) {
    constexpr double kHiddenOutline = 2;
    if (t.repair().kind == "draw_visible") return t.weight - kHiddenOutline;
    const auto ends = t.finding.numbers.find("ends");
    return t.weight - (ends == t.finding.numbers.end() ? 0 : ends->second);
}

std::tuple<int, double, size_t> rank(const Trial& t) {
    constexpr int kSurest = 100; // a rule of projection says so
    const Remedy& r = t.repair();
    int settled = 0;
    for (const char* of : {"ends", "images"})
        if (const auto it = t.finding.numbers.find(of); it != t.finding.numbers.end())
            settled += static_cast<int>(it->second);
    // Of two views that differ the one with a dimension of that place is believed.
    constexpr size_t kDimensioned = 1000;
    if (r.kind == "move_feature")
        return {-settled, t.finding.numbers.at("shift"),
                kDimensioned * r.change.corrected.size() + r.change.size()};
    if (r.kind == "draw_visible") return {-kSurest, 0, 0};
    if (r.kind == "move_line" || r.kind == "add_line")
        return {settled > 0 ? -settled : 4, r.kind == "add_line" ? 1 : 0, 0};
    if (r.kind == "take_angle") return {t.model->views.projection.stated ? 1 : 0, 0, 0};
    const Role role = t.role.value_or(Role::front);
    const bool side = role == Role::left || role == Role::right || role == Role::rear;
    return {side ? 0 : role == Role::front ? 3 : 2, 0, 0};
}

} // namespace prism
