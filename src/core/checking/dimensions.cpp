#include "core/checking/finding.h"
#include "core/solving/elimination.h"

#include <fmt/format.h>

namespace prism::checking {
namespace {

/// Half of the last place that the text shows: what rounding explains.
double roundingOf(const LedgerEntry& e, double unit) {
    const size_t dot = e.text.find_first_of(".,");
    int decimals = 0;
    if (dot != std::string::npos)
        while (dot + 1 + decimals < e.text.size() &&
               isdigit(static_cast<unsigned char>(e.text[dot + 1 + decimals])))
            ++decimals;
    return 0.5001 * std::pow(10.0, -decimals) * (e.angular() ? 1 : unit);
}

Finding aboutEntry(const CheckInput& in, const LedgerEntry& e, const char* kind, Severity s,
                   std::string message) {
    Finding f;
    f.kind = kind, f.severity = s, f.message = std::move(message);
    f.views = {e.view};
    f.handles = {e.handle};
    f.at_sheet = {in.drawing.dimensions[e.dimension].text_at};
    return f;
}

bool differs(const CheckInput& in, const LedgerEntry& e) {
    return std::abs(e.said - e.drawn) >
           roundingOf(e, in.views.unit.mm) + 10 * in.figure.tolerances.same_model;
}

/// The texts taken as equations: what contradicts what. One other involved: the same size said twice; more: a
/// chain.
void chains(const CheckInput& in, std::vector<Finding>& out) {
    Elimination rows;
    int id = 0;
    for (const Equation& e : in.figure.equations)
        if (e.level != Level::weak && e.kind == EquationKind::linear) rows.add(--id, e.terms, 0, 1, nullptr);
    const auto& entries = in.ledger.entries;
    for (size_t i = 0; i < entries.size(); ++i) {
        const LedgerEntry& e = entries[i];
        if (e.equation.kind != EquationKind::linear || e.equation.terms.empty()) continue;
        std::vector<int> involved;
        const double rounding = 3 * roundingOf(e, in.views.unit.mm) + 0.01;
        if (rows.add(static_cast<int>(i), e.equation.terms, e.said - e.drawn, rounding, &involved) !=
            Elimination::Verdict::contradiction)
            continue;
        std::vector<std::string> names{e.name}, texts{fmt::format("{} ({})", e.name, e.text)};
        Finding f = aboutEntry(in, e, "dimension_chain_open", Severity::error, {});
        for (int k : involved)
            if (k >= 0) {
                texts.push_back(fmt::format("{} ({})", entries[k].name, entries[k].text));
                f.handles.push_back(entries[k].handle);
                f.views.push_back(entries[k].view);
                f.at_sheet.push_back(in.drawing.dimensions[entries[k].dimension].text_at);
            }
        if (f.handles.size() == 2) f.kind = "dimensions_disagree";
        f.message = f.handles.size() == 2
                        ? fmt::format("The same size has two texts: {}", fmt::join(texts, " and "))
                        : fmt::format("The texts of a chain do not add up: {}", fmt::join(texts, ", "));
        out.push_back(std::move(f));
    }
}

/// Whether a dimension reaches over a break where the view is drawn shortened, and says more than is drawn.
bool overBreak(const CheckInput& in, const LedgerEntry& e) {
    const Dimension& d = in.drawing.dimensions[e.dimension];
    if (e.said <= e.drawn || (d.kind != DimensionKind::linear && d.kind != DimensionKind::aligned))
        return false;
    const Vec2 along = d.kind == DimensionKind::linear ? direction(d.angle) : normalized(d.p14 - d.p13);
    const double lo = std::min(dot(d.p13, along), dot(d.p14, along)),
                 hi = std::max(dot(d.p13, along), dot(d.p14, along));
    return std::ranges::any_of(in.sheet.repairs, [&](const Repair& r) {
        if (r.kind != "break_closed" || !r.on || r.entities.size() < 3) return false;
        const int view = in.views.view_of_entity[r.entities[2]];
        const double at = dot(r.at, along);
        return view == e.view && at > lo && at < hi;
    });
}

Finding textDiffers(const CheckInput& in, const LedgerEntry& e) {
    const double drawn = e.angular() ? e.drawn : e.drawn / in.views.unit.mm;
    const auto unit = e.angular() ? std::string("°") : in.views.unit.used;
    Finding f;
    if (overBreak(in, e)) {
        f = aboutEntry(
            in, e, "drawn_shortened", Severity::note,
            fmt::format("The view is shortened by a break: the dimension {} says {}, {:.3f} {} is drawn",
                        e.name, e.text, drawn, unit));
        f.repair = fmt::format("set {} to {} under Drive: the figure and the solid take the true length",
                               e.name, e.text);
    } else
        f = aboutEntry(
            in, e, "dimension_text_differs", Severity::error,
            fmt::format("The dimension {} says {} but {:.3f} {} is drawn", e.name, e.text, drawn, unit));
    f.numbers = {{"said", e.said}, {"drawn", e.drawn}};
    return f;
}

/// Whether a dimension without a line of the part measures a circle that is drawn as a centre line, as that
/// on which the holes of a flange lie.
bool ofCentreCircle(const CheckInput& in, const LedgerEntry& e) {
    const bool across = e.kind == DimensionKind::diameter;
    if ((!across && e.kind != DimensionKind::radius) || e.view < 0) return false;
    const View& v = in.views.views[static_cast<size_t>(e.view)];
    const double radius = across ? 0.5 * e.drawn : e.drawn;
    return std::ranges::any_of(v.centre_lines, [&](int line) {
        return std::ranges::any_of(in.drawing.entities[static_cast<size_t>(line)].curves,
                                   [&](const Curve& c) {
                                       const auto* a = std::get_if<Arc>(&c);
                                       return a && std::abs(a->radius * v.mm_per_sheet - radius) <=
                                                       10 * in.figure.tolerances.same_model;
                                   });
    });
}

Finding looseDimension(const CheckInput& in, const LedgerEntry& e) {
    if (ofCentreCircle(in, e))
        return aboutEntry(
            in, e, "dimension_loose", Severity::note,
            fmt::format("The dimension {} ({}) measures a centre line: it drives nothing", e.name, e.text));
    return aboutEntry(in, e, "dimension_loose", Severity::warning,
                      fmt::format("The dimension {} ({}) is loose: {}", e.name, e.text, e.why));
}

} // namespace

void dimensions(const CheckInput& in, std::vector<Finding>& out) {
    for (const LedgerEntry& e : in.ledger.entries) {
        if (differs(in, e)) out.push_back(textDiffers(in, e));
        if (e.state == EntryState::loose) out.push_back(looseDimension(in, e));
    }
    chains(in, out);
}

} // namespace prism::checking
