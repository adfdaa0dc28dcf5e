#include "core/project/solved_sheet.h"

#include <fmt/format.h>

namespace prism {
namespace {

std::string trimmedNumber(double v, int decimals) {
    std::string s = fmt::format("{:.{}f}", v, decimals);
    if (s.find('.') != std::string::npos) {
        while (s.back() == '0') s.pop_back();
        if (s.back() == '.') s.pop_back();
    }
    return s == "-0" ? "0" : s;
}

/// The number within a shown text replaced by another: "2x Ø9" becomes "2x Ø9.18".
std::string withValue(const Dimension& d, const std::string& value) {
    size_t from = 0;
    if (d.count > 1)
        if (const size_t x = d.text.find_first_of("xX×"); x != std::string::npos) from = x + 1;
    const size_t first = d.text.find_first_of("0123456789.", from);
    if (first == std::string::npos) return value;
    const size_t last = d.text.find_first_not_of("0123456789.,", first);
    return d.text.substr(0, first) + value + (last == std::string::npos ? "" : d.text.substr(last));
}

void carryCurves(const Model& m, const View& v, const FigureView& fv, SolvedSheet& s) {
    const Warp warp(m.figure, v.id);
    const Affine2 &to = fv.to_model, back = ontoSheet(m.figure, fv, m.figure.now);
    for (int e : v.centre_lines)
        for (Curve& c : s.curves[e])
            if (auto* g = std::get_if<Segment>(&c)) c = Segment{back(warp(to(g->a))), back(warp(to(g->b)))};
    for (int id : v.dimensions) {
        Dimension& d = s.dimensions[id];
        for (Vec2* p : {&d.p10, &d.p13, &d.p14, &d.p15, &d.p16, &d.text_at}) *p = back(warp(to(*p)));
    }
}

/// Radial dimensions point at their own circle, wherever the plane round it went.
void carryRadial(const Model& m, const LedgerEntry& e, const Affine2& back, SolvedSheet& s) {
    Dimension& d = s.dimensions[e.dimension];
    const bool radial = d.kind == DimensionKind::radius || d.kind == DimensionKind::diameter;
    if (!radial || e.equation.terms.empty()) return;
    const auto carry = [&](const auto& c) {
        if (c.view != e.view || c.radius != e.equation.terms[0].variable) return false;
        const Vec2 centre = back(m.figure.at(m.figure.points[c.centre], m.figure.now));
        const double r = m.figure.now[c.radius] / m.views.views[e.view].mm_per_sheet;
        const Vec2 u = normalized(d.p15 - d.p10), shift = d.text_at - d.p15;
        d.p15 = centre + u * r;
        d.p10 = d.kind == DimensionKind::radius ? centre : centre - u * r;
        d.text_at = d.p15 + shift;
        return true;
    };
    if (std::ranges::none_of(m.figure.curves, carry))
        (void)std::ranges::any_of(m.figure.pitch_circles, carry);
}

/// Pitch circles go where the holes on them have gone.
void carryPitchCircles(const Model& m, SolvedSheet& s) {
    for (const PitchCircle& c : m.figure.pitch_circles) {
        const Affine2 back = ontoSheet(m.figure, *m.figure.viewById(c.view), m.figure.now);
        Arc now = c.drawn;
        now.centre = m.figure.at(m.figure.points[static_cast<size_t>(c.centre)], m.figure.now);
        now.radius = m.figure.now[static_cast<size_t>(c.radius)];
        s.curves[c.entity][static_cast<size_t>(c.index)] = transformed(now, back);
    }
}

/// Hatching is drawn anew where the hatched areas now are; what stood for it on the sheet gives way.
void hatch(const Model& m, SolvedSheet& s) {
    constexpr double kApart = 3; // mm on the sheet
    if (!m.has(Stage::solid) || m.figure.hatching.empty()) return;
    for (const Hatch& h : m.figure.hatching) s.curves[h.entity].clear();
    for (const ClosedArea& a : m.areas.now) {
        const FigureView& v = *m.figure.viewById(a.view);
        if (v.shows != Shows::cut && !v.principal()) continue;
        const auto was =
            std::ranges::find_if(m.areas.drawn, [&](const ClosedArea& o) { return o.bounds == a.bounds; });
        if (was == m.areas.drawn.end() || !isHatched(m.figure, *was)) continue;
        const Affine2 back = ontoSheet(m.figure, v, m.figure.now);
        const double apart = kApart * m.views.views[v.view].mm_per_sheet / m.views.unit.mm;
        for (const Segment& l : hatchLines(a, apart)) s.hatching[v.view].push_back({back(l.a), back(l.b)});
    }
}

} // namespace

std::string lengthText(double mm, const UnitEvidence& unit, int decimals) {
    return trimmedNumber(mm / unit.mm, decimals);
}

SolvedSheet sheetAsDrawn(const Model& m) {
    SolvedSheet s;
    for (const Entity& e : m.drawing->entities) s.curves.push_back(e.curves);
    s.dimensions = m.drawing->dimensions;
    for (const FigureCurve& c : m.figure.curves)
        if (c.freehand) s.freehand.insert(c.entity);
    return s;
}

std::shared_ptr<const Drawing> drawingAsShown(const Model& m, const SolvedSheet& shown) {
    const auto& entities = m.drawing->entities;
    const bool moved =
        std::ranges::any_of(entities, [&](const Entity& e) { return e.curves != shown.curves[e.id]; });
    if (!moved) return m.drawing;
    auto d = std::make_shared<Drawing>(*m.drawing);
    for (Entity& e : d->entities) e.curves = shown.curves[e.id];
    return d;
}

SolvedSheet solvedSheet(const Model& m) {
    SolvedSheet s = sheetAsDrawn(m);
    hatch(m, s);
    if (m.figure.now == m.figure.drawn) return s;
    for (const FigureView& fv : m.figure.views) carryCurves(m, m.views.views[fv.view], fv, s);
    for (size_t i = 0; i < m.figure.curves.size(); ++i) {
        const FigureCurve& c = m.figure.curves[i];
        const Affine2 back = ontoSheet(m.figure, *m.figure.viewById(c.view), m.figure.now);
        s.curves[c.entity][c.index] = transformed(m.figure.curve(static_cast<int>(i)), back);
    }
    carryPitchCircles(m, s);
    for (const LedgerEntry& e : m.ledger.entries) {
        if (e.dimension < 0) continue; // a level stands on no sheet
        const FigureView* v = m.figure.viewById(e.view);
        if (v) carryRadial(m, e, ontoSheet(m.figure, *v, m.figure.now), s);
        const double shown = e.angular() ? e.value : e.value / m.views.unit.mm;
        const double was = e.angular() ? e.drawn : e.drawn / m.views.unit.mm;
        if (std::abs(shown - was) > 1e-9 * std::max(1.0, std::abs(was)))
            s.dimensions[e.dimension].text =
                withValue(m.drawing->dimensions[e.dimension], trimmedNumber(shown, 4));
    }
    return s;
}

} // namespace prism
