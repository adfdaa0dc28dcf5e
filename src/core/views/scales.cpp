#include "core/views/stages.h"

#include "core/base/text_scanner.h"

#include <fmt/format.h>

namespace prism::views {
namespace {

std::optional<double> scaleInTexts(const Drawing& d) {
    for (const SheetText& t : d.texts) {
        const std::string up = capitals(t.content);
        const size_t at = up.find("SCALE");
        if (at == std::string::npos) continue;
        if (const auto scale = ratioIn(std::string_view(up).substr(at), ":/")) return scale;
    }
    return std::nullopt;
}

/// Sheet length that a dimension spans, 0 for angles.
double spanOf(const Dimension& d) {
    return d.kind == DimensionKind::angular || d.factor == 0 ? 0 : d.measured / d.factor;
}

std::vector<double> ratiosOf(const Drawing& d, const std::vector<int>& dims) {
    std::vector<double> r;
    for (int i : dims)
        if (const double span = spanOf(d.dimensions[i]); span > 0 && d.dimensions[i].value > 0)
            r.push_back(span / d.dimensions[i].value);
    std::sort(r.begin(), r.end());
    return r;
}

/// Whether a ratio is one that drawings are made at (ISO 5455).
bool usualScale(double r) {
    for (double base : {1.0, 2.0, 5.0})
        for (double ten : {1.0, 10.0, 100.0})
            if (std::abs(r - base * ten) < 1e-3 * r || std::abs(1 / r - base * ten) < 1e-3 / r) return true;
    return false;
}

/// The value that most of a sorted list agree on, with how many do; among equals a usual scale.
std::pair<double, int> majority(const std::vector<double>& sorted) {
    std::pair<double, int> best{1, 0};
    for (size_t i = 0; i < sorted.size(); ++i) {
        size_t j = i;
        while (j < sorted.size() && sorted[j] <= sorted[i] * (1 + 1e-3)) ++j;
        const std::pair<double, int> here{sorted[i + (j - i) / 2], static_cast<int>(j - i)};
        const bool nicer = here.second == best.second && usualScale(here.first) && !usualScale(best.first);
        if (here.second > best.second || nicer) best = here;
    }
    return best;
}

/// The view that all the points are nearest to; -1 when that is one of another part.
int nearestView(const ViewSet& set, std::initializer_list<Vec2> points) {
    const auto away = [&](const Box2& b) {
        double far = 0;
        for (Vec2 p : points)
            far = std::max(far,
                           distance(p, {std::clamp(p.x, b.lo.x, b.hi.x), std::clamp(p.y, b.lo.y, b.hi.y)}));
        return far;
    };
    int best = -1;
    double nearest = std::numeric_limits<double>::infinity();
    for (const View& v : set.views)
        if (const double far = away(v.box_sheet); far < nearest) nearest = far, best = v.id;
    for (size_t i = 0; i < set.parts.size(); ++i)
        if (static_cast<int>(i) != set.part)
            for (const Box2& b : set.parts[i].each)
                if (away(b) < nearest) return -1;
    return best;
}

int viewOfDimension(const ViewSet& set, const Dimension& d) {
    switch (d.kind) {
    case DimensionKind::radius:
    case DimensionKind::diameter:
        return nearestView(set, {d.p15, (d.p10 + d.p15) * 0.5});
    case DimensionKind::angular:
        return nearestView(set, {d.p13, d.p14});
    case DimensionKind::ordinate:
        return nearestView(set, {d.p13});
    default:
        return nearestView(set, {d.p13, d.p14});
    }
}

void giveAnnotation(const Drawing& d, const CleanSheet& s, ViewSet& set) {
    for (const Dimension& dim : d.dimensions)
        if (s.layer_on[dim.layer])
            if (const int v = viewOfDimension(set, dim); v >= 0) set.views[v].dimensions.push_back(dim.id);
    for (const Entity& e : d.entities) {
        if (s.entity_roles[e.id] != LineRole::centre || !s.in_use[e.id] || e.curves.empty()) continue;
        if (set.view_of_entity[e.id] >= 0) continue;
        const Vec2 mid = pointAt(e.curves[0], 0.5);
        for (View& v : set.views)
            if (v.box_sheet.grown(0.02 * v.box_sheet.diagonal()).contains(mid)) {
                v.centre_lines.push_back(e.id);
                set.view_of_entity[e.id] = v.id;
                break;
            }
    }
}

} // namespace

void decideScales(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, ViewSet& set) {
    giveAnnotation(d, s, set);
    std::vector<int> all;
    for (const View& v : set.views) all.insert(all.end(), v.dimensions.begin(), v.dimensions.end());
    const auto [byDimensions, votes] = majority(ratiosOf(d, all));
    const auto byText = scaleInTexts(d);
    std::string reason;
    if (choices.scale)
        set.sheet_scale = *choices.scale, reason = "chosen by hand";
    else if (votes > 0)
        set.sheet_scale = byDimensions, reason = fmt::format("{} dimensions of the sheet", votes);
    else if (byText)
        set.sheet_scale = *byText, reason = "the title block";
    else
        set.sheet_scale = 1, reason = "nothing tells; full size assumed";
    for (View& v : set.views) {
        v.scale = set.sheet_scale;
        v.scale_reason = reason;
        const auto [own, n] = majority(ratiosOf(d, v.dimensions));
        // A scale said by hand is that of the sheet: what a view says of itself, a detail at 4:1, still
        // stands, as much larger or smaller than the rest as it was without.
        const double byHand = choices.scale && votes > 0 ? set.sheet_scale / byDimensions : 1;
        if (n >= 2 && 2 * n > static_cast<int>(v.dimensions.size()) &&
            std::abs(own * byHand - set.sheet_scale) > 1e-3 * set.sheet_scale) {
            v.scale = own * byHand;
            v.scale_reason = fmt::format("{} dimensions in this view", n);
        }
        if (v.label_scale) v.scale = *v.label_scale, v.scale_reason = "its label";
        v.mm_per_sheet = set.unit.mm / v.scale;
    }
}

} // namespace prism::views
