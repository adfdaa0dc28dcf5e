#include "core/base/groups.h"
#include "core/cleaning/workbench.h"

// Lines and arcs that came in pieces.
namespace prism::cleaning {
namespace {

/// Whether a dimension is measured to this place: then the pieces were meant.
class Measured {
  public:
    explicit Measured(const Drawing& d) {
        for (const Dimension& x : d.dimensions)
            for (Vec2 p : {x.p10, x.p13, x.p14, x.p15}) points_.push_back(p);
        std::sort(points_.begin(), points_.end(),
                  [](Vec2 a, Vec2 b) { return std::tie(a.x, a.y) < std::tie(b.x, b.y); });
    }
    bool at(Vec2 p, double tol) const {
        auto it = std::lower_bound(points_.begin(), points_.end(), p.x - tol,
                                   [](Vec2 a, double x) { return a.x < x; });
        for (; it != points_.end() && it->x <= p.x + tol; ++it)
            if (std::abs(it->y - p.y) <= tol) return true;
        return false;
    }

  private:
    std::vector<Vec2> points_;
};

Vec2 outwards(const Curve& c, int side) {
    return side == 0 ? -tangentAt(c, 0) : tangentAt(c, 1);
}

/// Whether two curves that meet here are parts of one line or one circle.
bool oneCarrier(const Curve& a, int sideA, const Curve& b, int sideB, double tol) {
    if (a.index() != b.index()) return false;
    if (const auto* s = std::get_if<Segment>(&a)) {
        const Segment& t = std::get<Segment>(b);
        if (dot(outwards(a, sideA), outwards(b, sideB)) > 0) return false; // folded back
        const Vec2 far1 = sideA == 0 ? s->b : s->a, far2 = sideB == 0 ? t.b : t.a,
                   u = normalized(far2 - far1);
        return std::abs(cross((sideA == 0 ? s->a : s->b) - far1, u)) <= tol;
    }
    if (const auto* c = std::get_if<Arc>(&a)) {
        const Arc& d = std::get<Arc>(b);
        return distance(c->centre, d.centre) <= tol && std::abs(c->radius - d.radius) <= tol &&
               dot(outwards(a, sideA), outwards(b, sideB)) < 0;
    }
    return false;
}

Segment wholeLine(const Workbench& w, const std::vector<Piece>& pieces, const std::vector<int>& group) {
    const Segment& first = std::get<Segment>(w.curve(pieces[group.front()]));
    const Vec2 u = normalized(first.b - first.a);
    Segment r = first;
    for (int i : group) {
        const Segment& s = std::get<Segment>(w.curve(pieces[i]));
        for (Vec2 p : {s.a, s.b}) {
            if (dot(p - r.a, u) < 0) r.a = p;
            if (dot(p - r.b, u) > 0) r.b = p;
        }
    }
    return r;
}

/// The pieces cover the circle but for one gap: the arc runs from the end of the widest gap round to its
/// start.
Arc wholeArc(const Workbench& w, const std::vector<Piece>& pieces, const std::vector<int>& group) {
    const Arc& any = std::get<Arc>(w.curve(pieces[group.front()]));
    std::vector<std::pair<double, double>> turns; // start in [0, 2 pi), end
    double covered = 0;
    for (int i : group) {
        const Arc& a = std::get<Arc>(w.curve(pieces[i]));
        const double from = positiveAngle(a.sweep > 0 ? a.start : a.start + a.sweep);
        turns.push_back({from, from + std::abs(a.sweep)});
        covered += std::abs(a.sweep);
    }
    if (covered >= 2 * kPi - 1e-6) return {any.centre, any.radius, 0, 2 * kPi};
    std::sort(turns.begin(), turns.end());
    double widest = -1, start = 0, end = turns.back().second - 2 * kPi;
    for (const auto& [from, to] : turns) {
        if (from - end > widest) widest = from - end, start = from;
        end = std::max(end, to);
    }
    return {any.centre, any.radius, start, 2 * kPi - widest};
}

/// Two spans of a polyline, the second where the first ends, as one.
Curve bothSpans(const Curve& a, const Curve& b) {
    if (const auto* s = std::get_if<Segment>(&a)) return Segment{s->a, std::get<Segment>(b).b};
    Arc r = std::get<Arc>(a);
    r.sweep = std::clamp(r.sweep + std::get<Arc>(b).sweep, -2 * kPi, 2 * kPi);
    return r;
}

/// Vertices of polylines at which nothing turns and nothing else meets.
void joinSpans(Workbench& w, const Measured& measured) {
    const double tol = w.touch();
    const auto web = w.web();
    const std::vector<Piece>& pieces = web->pieces;
    std::optional<NearPieces> near; // made when first needed
    auto meets = [&](const Entity& e, size_t k, Vec2 p) {
        if (!near) near.emplace(w, pieces, tol);
        for (int other : near->near(p, tol)) {
            const Piece& o = pieces[other];
            const bool own =
                o.entity == e.id && (o.index == static_cast<int>(k) || o.index == static_cast<int>(k) + 1);
            if (!own && distanceTo(w.curve(o), p) <= tol) return true;
        }
        return false;
    };
    std::vector<std::pair<int, std::vector<Curve>>>
        joined; // done at the end: the pieces above refer to the spans
    for (const Entity& e : w.drawing().entities) {
        if (e.curves.size() < 2 || !w.isPartLine(e.id, false)) continue;
        std::vector<Curve> spans{e.curves.front()};
        std::optional<Vec2> at;
        for (size_t k = 0; k + 1 < e.curves.size(); ++k) {
            const Curve &a = spans.back(), &b = e.curves[k + 1];
            const Vec2 p = endOf(a);
            if (distance(p, startOf(b)) <= tol && oneCarrier(a, 1, b, 0, tol) && !measured.at(p, tol) &&
                !meets(e, k, p))
                at = p, spans.back() = bothSpans(a, b);
            else
                spans.push_back(b);
        }
        if (at && w.record("pieces_joined", {e.id}, *at, lengthOf(spans.front())))
            joined.push_back({e.id, std::move(spans)});
    }
    for (auto& [entity, spans] : joined) w.setCurves(entity, std::move(spans));
}

} // namespace

void joinPieces(Workbench& w) {
    const double tol = w.touch();
    const Measured measured(w.drawing());
    joinSpans(w, measured);
    const auto web = w.web();
    const std::vector<Piece>& pieces = web->pieces;
    const Nodes& nodes = web->nodes;
    auto single = [&](int p) { return w.drawing().entities[pieces[p].entity].curves.size() == 1; };
    auto layer = [&](int p) { return w.drawing().entities[pieces[p].entity].layer; };
    std::optional<NearPieces> near;                          // made when first needed
    auto passedBy = [&](std::span<const End> ends, Vec2 p) { // another line through here makes it a corner
        if (!near) near.emplace(w, pieces, tol);
        for (int other : near->near(p, tol))
            if (other != ends[0].piece && other != ends[1].piece &&
                distanceTo(w.curve(pieces[other]), p) <= tol)
                return true;
        return false;
    };
    Groups groups(pieces.size());
    bool any = false;
    for (size_t n = 0; n < nodes.size(); ++n) {
        const auto e = nodes.ends(static_cast<int>(n));
        if (e.size() != 2 || e[0].piece == e[1].piece || !single(e[0].piece) || !single(e[1].piece)) continue;
        if (w.role(pieces[e[0].piece]) != w.role(pieces[e[1].piece]) ||
            layer(e[0].piece) != layer(e[1].piece))
            continue;
        if (!oneCarrier(w.curve(pieces[e[0].piece]), e[0].side, w.curve(pieces[e[1].piece]), e[1].side, tol))
            continue;
        if (measured.at(nodes.at(static_cast<int>(n)), tol) || passedBy(e, nodes.at(static_cast<int>(n))))
            continue;
        groups.join(e[0].piece, e[1].piece);
        any = true;
    }
    if (!any) return;
    std::map<int, std::vector<int>> members;
    for (size_t i = 0; i < pieces.size(); ++i)
        members[groups.find(static_cast<int>(i))].push_back(static_cast<int>(i));
    for (const auto& [first, group] : members) {
        if (group.size() < 2) continue;
        const bool straight = std::holds_alternative<Segment>(w.curve(pieces[first]));
        const Curve whole = straight ? Curve(wholeLine(w, pieces, group)) : Curve(wholeArc(w, pieces, group));
        std::vector<int> entities;
        for (int i : group) entities.push_back(pieces[i].entity);
        if (!w.record("pieces_joined", entities, endOf(w.curve(pieces[first])), lengthOf(whole))) continue;
        w.setCurves(entities.front(), {whole});
        for (size_t i = 1; i < entities.size(); ++i) w.setAside(entities[i]);
    }
}

} // namespace prism::cleaning
