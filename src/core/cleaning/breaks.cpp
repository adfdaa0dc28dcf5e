#include "core/base/curve_ends.h"
#include "core/cleaning/workbench.h"

// Long parts are drawn shortened: a piece is left out between two break lines (ISO 128-3). The lines on both
// sides are joined, so that the view is one; its true length is what its dimension says.
namespace prism::cleaning {
namespace {

/// A line that wavers or zigzags between two ends.
struct BreakLine {
    int entity;
    Vec2 from, to;
    std::vector<Vec2> shape; ///< places along it, to tell that two are alike
};

std::optional<BreakLine> breakLineOf(const Entity& e) {
    if (!wavers(e.curves) || e.curves.size() > 12) return std::nullopt;
    BreakLine b{e.id, startOf(e.curves.front()), endOf(e.curves.back()), {}};
    if (distance(b.from, b.to) <= 0) return std::nullopt;
    double length = 0;
    for (const Curve& c : e.curves) {
        length += lengthOf(c);
        for (double t : {0.0, 0.35, 0.7}) b.shape.push_back(pointAt(c, t));
    }
    if (length > 3 * distance(b.from, b.to)) return std::nullopt;
    return b;
}

/// The shift from one break line to another like it, square to both.
std::optional<Vec2> shiftBetween(const BreakLine& a, const BreakLine& b, double tol) {
    if (a.shape.size() != b.shape.size()) return std::nullopt;
    const Vec2 t = b.from - a.from, chord = a.to - a.from;
    if (length(t) <= tol || length(t) > 1.5 * length(chord) ||
        std::abs(dot(t, chord)) > 0.02 * length(t) * length(chord))
        return std::nullopt;
    for (size_t i = 0; i < a.shape.size(); ++i)
        if (distance(a.shape[i] + t, b.shape[i]) > tol) return std::nullopt;
    return t;
}

/// A straight line that ends on a break line.
struct Broken {
    Piece piece;
    int side; ///< which of its ends
    Vec2 end;
};

std::vector<Broken> endingOn(const Workbench& w, const std::vector<Piece>& pieces, const BreakLine& b,
                             Vec2 along) {
    std::vector<Broken> r;
    for (const Piece& p : pieces) {
        const auto* s = std::get_if<Segment>(&w.curve(p));
        if (!s || p.entity == b.entity || std::abs(cross(normalized(s->b - s->a), along)) > 1e-3) continue;
        for (int side : {0, 1}) {
            const Vec2 end = side == 0 ? s->a : s->b;
            const bool on = std::ranges::any_of(w.drawing().entities[b.entity].curves, [&](const Curve& c) {
                return distanceTo(c, end) <= w.gap();
            });
            if (on) r.push_back({p, side, end});
        }
    }
    return r;
}

void close(Workbench& w, const BreakLine& a, const BreakLine& b, Vec2 shift) {
    const std::vector<Piece> pieces = w.pieces(true);
    const Vec2 along = normalized(shift);
    const std::vector<Broken> here = endingOn(w, pieces, a, along), there = endingOn(w, pieces, b, along);
    std::vector<std::pair<Broken, Broken>> pairs;
    for (const Broken& p : here)
        for (const Broken& q : there)
            if (w.role(p.piece) == w.role(q.piece) && p.piece.entity != q.piece.entity &&
                std::abs(cross(q.end - p.end, along)) <= w.gap() && dot(q.end - p.end, along) > 0)
                pairs.push_back({p, q});
    int outlines = 0;
    for (const auto& [p, q] : pairs) outlines += w.role(p.piece) == LineRole::outline;
    if (outlines < 2) return;
    std::vector<int> entities{a.entity, b.entity};
    for (const auto& [p, q] : pairs) entities.push_back(p.piece.entity), entities.push_back(q.piece.entity);
    if (!w.record("break_closed", entities, (a.from + b.to) * 0.5, length(shift))) return;
    for (const auto& [p, q] : pairs) {
        Segment s = std::get<Segment>(w.curve(p.piece));
        (p.side == 0 ? s.a : s.b) = q.end;
        w.setCurve(p.piece, s);
    }
    w.setAside(a.entity), w.setAside(b.entity);
}

} // namespace

void closeBreaks(Workbench& w) {
    constexpr size_t kMost = 64; // a sheet full of wavy lines is no sheet of broken views
    std::vector<BreakLine> lines;
    for (const Entity& e : w.drawing().entities) {
        const LineRole r = w.sheet().entity_roles[e.id];
        if (!w.sheet().in_use[e.id] || r == LineRole::border || r == LineRole::dimension ||
            r == LineRole::hatch)
            continue;
        if (auto b = breakLineOf(e)) lines.push_back(std::move(*b));
    }
    if (lines.size() > kMost) return;
    std::set<int> done;
    for (size_t i = 0; i < lines.size(); ++i)
        for (size_t j = 0; j < lines.size(); ++j)
            if (i != j && !done.contains(lines[i].entity) && !done.contains(lines[j].entity))
                if (const auto t = shiftBetween(lines[i], lines[j], w.gap());
                    t && (t->x > 0 || (t->x == 0 && t->y > 0))) {
                    const size_t before = w.sheet().repairs.size();
                    close(w, lines[i], lines[j], *t);
                    if (w.sheet().repairs.size() > before)
                        done.insert(lines[i].entity), done.insert(lines[j].entity);
                }
}

} // namespace prism::cleaning
