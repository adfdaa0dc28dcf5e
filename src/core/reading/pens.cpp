#include "core/reading/pens.h"

#include <fmt/format.h>

namespace prism {
namespace {

bool same(const Pen& a, const Pen& b) {
    if (a.color != b.color || a.filled != b.filled || a.dashes.size() != b.dashes.size()) return false;
    if (std::abs(a.width - b.width) > 0.02 * std::max(a.width, b.width)) return false;
    for (size_t i = 0; i < a.dashes.size(); ++i)
        if (std::abs(a.dashes[i] - b.dashes[i]) > 0.02 * std::max(a.dashes[i], b.dashes[i])) return false;
    return true;
}

/// Dash, gap, dash ... as a pattern with negative gaps; an odd list is run through twice.
std::vector<double> patternOf(const std::vector<double>& dashes) {
    std::vector<double> r;
    const size_t n = dashes.size() % 2 ? 2 * dashes.size() : dashes.size();
    for (size_t i = 0; i < n; ++i)
        r.push_back(i % 2 ? -dashes[i % dashes.size()] : dashes[i % dashes.size()]);
    return r;
}

} // namespace

void Pens::use(const Pen& p, int entity) {
    for (Used& u : used_)
        if (same(u.pen, p)) return u.entities.push_back(entity);
    used_.push_back({p, {entity}});
}

void Pens::finish(Drawing& d) {
    double thickest = 0;
    for (const Used& u : used_)
        if (!u.pen.filled && u.pen.dashes.empty() && u.entities.size() >= 4)
            thickest = std::max(thickest, u.pen.width);
    d.line_types.push_back({"CONTINUOUS", "", {}});
    std::map<std::string, int> names;
    for (const Used& u : used_) {
        const Pen& p = u.pen;
        Layer l;
        const char* kind = p.filled                    ? "filled"
                           : !p.dashes.empty()         ? "broken"
                           : p.width < 0.75 * thickest ? "thin"
                                                       : "thick";
        l.name = fmt::format("{} {:.2f} mm {}", kind, p.width, p.color);
        if (const int n = ++names[l.name]; n > 1) l.name += fmt::format(" ({})", n);
        if (p.filled) l.hint = {LineRole::note, "filled, without an outline"};
        if (kind == std::string_view("thin"))
            l.hint = {LineRole::dimension, "a thin pen: dimensions, hatching"};
        if (kind == std::string_view("thick")) l.hint = {LineRole::outline, "the thickest pen"};
        if (!p.dashes.empty()) {
            const LineType t{fmt::format("DASHES {}", d.line_types.size()), "", patternOf(p.dashes)};
            l.line_type = t.name;
            d.line_types.push_back(t);
        }
        for (int e : u.entities) {
            d.entities[e].layer = static_cast<int>(d.layers.size());
            d.entities[e].line_type = l.line_type;
        }
        d.layers.push_back(std::move(l));
    }
    if (texts_.empty()) return;
    for (int t : texts_) d.texts[t].layer = static_cast<int>(d.layers.size());
    Layer l;
    l.name = "texts";
    d.layers.push_back(std::move(l));
}

} // namespace prism
