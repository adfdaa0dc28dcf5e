#include "core/proposing/walls.h"

#include <span>

namespace prism {
namespace {

using Stretch = std::pair<double, double>;

/// Stretches joined where they overlap or touch.
std::vector<Stretch> joined(std::vector<Stretch> all, double tol) {
    std::ranges::sort(all);
    std::vector<Stretch> r;
    for (const Stretch& s : all)
        if (!r.empty() && s.first <= r.back().second + tol)
            r.back().second = std::max(r.back().second, s.second);
        else
            r.push_back(s);
    return r;
}

/// What both have in common; what is no longer than the tolerance is left out.
std::vector<Stretch> common(const std::vector<Stretch>& a, const std::vector<Stretch>& b, double tol) {
    std::vector<Stretch> r;
    for (const Stretch& s : a)
        for (const Stretch& t : b) {
            const double lo = std::max(s.first, t.first), hi = std::min(s.second, t.second);
            if (hi - lo > tol) r.emplace_back(lo, hi);
        }
    return r;
}

/// From a view's coordinates to (from the axis, along it).
Vec2 beside(Vec2 p, bool depth_right, double centre) {
    return depth_right ? Vec2{p.y - centre, p.x} : Vec2{p.x - centre, p.y};
}

Vec2 inView(Vec2 p, bool depth_right, double centre) {
    return depth_right ? Vec2{p.y, p.x + centre} : Vec2{p.x + centre, p.y};
}

} // namespace

Walls::Walls(const ViewMap& m, Axis depth, double centre, double reach)
    : map_(m), depth_right_(m.view().axes.right == depth), centre_(centre), tol_(2 * m.proof()) {
    for (const auto& [role, c] : m.curves()) {
        const auto* s = std::get_if<Segment>(&c);
        if (!s) continue;
        const Vec2 a = beside(s->a, depth_right_, centre), b = beside(s->b, depth_right_, centre);
        const bool level = std::abs(a.y - b.y) <= tol_;
        if (!level && (std::abs(a.x) > reach || std::abs(b.x) > reach)) {
            if (a.x * b.x < 0 && role == LineRole::outline) slopes_.emplace_back(a, b);
            continue;
        }
        lines_.push_back({a, b, role == LineRole::hidden || m.showsCut(c)});
    }
}

/// A stretch that both walls have, prolonged to the later of their ends where both end at one sloping line.
Stretch Walls::toSlope(Stretch both, const Stretch& low, const Stretch& high, double radius) const {
    const auto onOne = [&](double at_low, double at_high) {
        return std::abs(at_low - at_high) > tol_ && std::ranges::any_of(slopes_, [&](const auto& s) {
                   const Vec2 a = s.first, b = s.second;
                   const auto at = [&](double x) { return a.y + (b.y - a.y) * (x - a.x) / (b.x - a.x); };
                   return std::min(a.x, b.x) <= -radius + tol_ && std::max(a.x, b.x) >= radius - tol_ &&
                          std::abs(at(-radius) - at_low) <= tol_ && std::abs(at(radius) - at_high) <= tol_;
               });
    };
    if (onOne(low.first, high.first)) both.first = std::min(low.first, high.first);
    if (onOne(low.second, high.second)) both.second = std::max(low.second, high.second);
    return both;
}

std::vector<Stretch> Walls::along(double radius) const {
    std::vector<Stretch> drawn[2], seen[2], told;
    for (const Line& l : lines_) {
        if (std::abs(l.a.x - l.b.x) > tol_ || std::abs(std::abs(l.a.x) - radius) > tol_) continue;
        const auto [lo, hi] = std::minmax(l.a.y, l.b.y);
        drawn[l.a.x > 0].emplace_back(lo, hi);
        if (l.tells)
            told.emplace_back(lo, hi);
        else
            seen[l.a.x > 0].emplace_back(lo, hi);
    }
    const auto low = joined(drawn[0], tol_), high = joined(drawn[1], tol_);
    const auto outside = common(joined(seen[0], tol_), joined(seen[1], tol_), tol_);
    const auto both = joined(common(common(low, high, tol_), joined(told, tol_), tol_), tol_);
    // Another hole that runs into this one breaks its wall on one side: on the other it goes on.
    const auto goesOn = [&](const Stretch& gap) {
        return std::ranges::any_of(std::array{&low, &high}, [&](const auto* side) {
            return std::ranges::any_of(*side, [&](const Stretch& s) {
                return s.first <= gap.first + tol_ && s.second >= gap.second - tol_;
            });
        });
    };
    const auto around = [&](const std::vector<Stretch>& side, const Stretch& s) {
        return *std::ranges::find_if(
            side, [&](const Stretch& w) { return w.first <= s.first + tol_ && w.second >= s.second - tol_; });
    };
    std::vector<Stretch> r;
    for (const Stretch& common : both) {
        // A wall that comes out into sight is that of a boss, of which something in front hides a part.
        const bool boss = std::ranges::any_of(outside, [&](const Stretch& o) {
            return std::abs(o.first - common.second) <= tol_ || std::abs(o.second - common.first) <= tol_;
        });
        if (boss) continue;
        const Stretch s =
            slopes_.empty() ? common : toSlope(common, around(low, common), around(high, common), radius);
        if (!r.empty() && goesOn({r.back().second, s.first}))
            r.back().second = s.second;
        else
            r.push_back(s);
    }
    if (!map_.cut() || !map_.hasHatching()) return r;
    std::erase_if(r, [&](const Stretch& s) {
        const double middle = 0.5 * (s.first + s.second), off = 0.02 * radius;
        const auto hatched = [&](double from_axis) {
            const int area = map_.areaAt(inView({from_axis, middle}, depth_right_, centre_));
            return area >= 0 && map_.hatched(area);
        };
        return hatched(radius - off) || hatched(off - radius) ||
               !(hatched(radius + off) || hatched(-radius - off));
    });
    return r;
}

std::optional<Walls::Corner> Walls::slantFrom(Corner from, double sign) const {
    std::optional<Corner> sides[2];
    bool told = false;
    for (const Line& l : lines_)
        for (const auto& [a, b] : {std::pair{l.a, l.b}, std::pair{l.b, l.a}}) {
            if (std::abs(a.y - from.at) > tol_ || std::abs(std::abs(a.x) - from.radius) > tol_) continue;
            if ((b.y - a.y) * sign <= tol_ || std::abs(std::abs(b.x) - from.radius) <= tol_) continue;
            if (b.x * a.x < 0 && std::abs(b.x) > tol_) continue; // crosses the axis
            sides[a.x > 0] = {std::abs(b.x), b.y};
            told = told || l.tells;
        }
    if (!told || !sides[0] || !sides[1]) return std::nullopt;
    const bool same = std::abs(sides[0]->radius - sides[1]->radius) <= tol_ &&
                      std::abs(sides[0]->at - sides[1]->at) <= tol_;
    return same ? sides[0] : std::nullopt;
}

bool Walls::closedAt(double radius, double at) const {
    std::vector<Stretch> across;
    for (const Line& l : lines_)
        if (std::abs(l.a.y - at) <= tol_ && std::abs(l.b.y - at) <= tol_)
            across.push_back(std::minmax(l.a.x, l.b.x));
    for (const auto& [lo, hi] : joined(across, tol_))
        if (lo <= 0 && hi >= 0) return std::abs(lo + radius) <= tol_ && std::abs(hi - radius) <= tol_;
    return false;
}

std::vector<double> Walls::levels() const {
    std::vector<double> r;
    for (const Line& l : lines_) r.push_back(l.a.y), r.push_back(l.b.y);
    std::ranges::sort(r);
    r.erase(std::unique(r.begin(), r.end(), [&](double a, double b) { return b - a <= tol_; }), r.end());
    return r;
}

namespace {

/// Short lines that run over the edge of a mouth, which was drawn in pieces, go with it.
std::vector<int> takeScraps(const Figure& f, const ViewMap& m, Explained& e) {
    const double tol = 2 * f.tolerances.proof;
    const size_t curves = e.lines.size();
    std::vector<int> r;
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        if (c.view != m.view().view || c.role != LineRole::outline || c.p0 < 0 ||
            std::ranges::any_of(e.lines, [&](const CurvePart& p) { return p.curve == static_cast<int>(i); }))
            continue;
        // One end may lie past the end of a piece, on the next one.
        const bool scrap = std::ranges::all_of(std::array{0.0, 0.25, 0.5, 0.75, 1.0}, [&](double t) {
            return std::ranges::any_of(std::span(e.lines).first(curves), [&](const CurvePart& p) {
                const Curve& rim = f.curves[static_cast<size_t>(p.curve)].drawn;
                return !std::holds_alternative<Segment>(rim) && distanceTo(rim, pointAt(c.drawn, t)) <= tol;
            });
        });
        if (scrap) e.lines.push_back({static_cast<int>(i)}), r.push_back(static_cast<int>(i));
    }
    return r;
}

} // namespace

Explained explainedBy(const HoleProfile& p, const Figure& f, const ViewMap& m, Axis depth, double centre,
                      bool drawn_seen) {
    const double tol = 2 * f.tolerances.proof;
    const bool right = m.view().axes.right == depth;
    const auto is = [&](double x, double y) { return std::abs(x - y) <= tol; };
    Explained r;
    struct Rim {
        Vec2 end;
        int curve;
    };
    std::vector<std::vector<Rim>> rims(p.mouths.size()); // ends of what is drawn of each mouth's edge
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        const bool whole = c.p0 < 0; // an ellipse, where the hole comes out of a sloping face
        if (c.view != m.view().view || (whole && std::holds_alternative<Arc>(c.drawn))) continue;
        const int id = static_cast<int>(i);
        const Vec2 a = beside(startOf(c.drawn), right, centre), b = beside(endOf(c.drawn), right, centre);
        if (!std::holds_alternative<Segment>(c.drawn)) {
            const Box2 box = boxOf(c.drawn);
            for (size_t k = 0; k < p.mouths.size(); ++k) {
                const auto& mouth = p.mouths[k];
                const Vec2 lo = beside(box.lo, right, centre), hi = beside(box.hi, right, centre);
                if (std::max(-lo.x, hi.x) > mouth.radius + tol ||
                    std::max(std::abs(lo.y - mouth.at), std::abs(hi.y - mouth.at)) > mouth.radius + tol)
                    continue;
                r.lines.push_back({id});
                if (c.role == LineRole::outline && !whole)
                    rims[k].push_back({a, id}), rims[k].push_back({b, id});
                break;
            }
            continue;
        }
        if (c.role != LineRole::hidden && !drawn_seen) continue;
        if (is(a.x, b.x)) {
            for (const auto& w : p.walls) {
                if (w.radius != w.end_radius || !is(std::abs(a.x), w.radius)) continue;
                const auto [lo, hi] = std::minmax(w.at, w.end);
                double t0 = (lo - a.y) / (b.y - a.y), t1 = (hi - a.y) / (b.y - a.y);
                if (t0 > t1) std::swap(t0, t1);
                const double slack = tol / std::max(std::abs(b.y - a.y), tol);
                t0 = t0 < slack ? 0 : t0, t1 = t1 > 1 - slack ? 1 : t1;
                if (t1 - t0 > slack) r.lines.push_back({id, t0, t1});
            }
        } else if (is(a.y, b.y)) {
            if (std::ranges::any_of(p.levels, [&](const auto& l) {
                    return is(l.at, a.y) && std::max(std::abs(a.x), std::abs(b.x)) <= l.radius + tol;
                }))
                r.lines.push_back({id});
        } else if (std::ranges::any_of(p.walls, [&](const auto& w) {
                       const auto runs = [&](Vec2 q, Vec2 s) {
                           return is(std::abs(q.x), w.radius) && is(q.y, w.at) &&
                                  is(std::abs(s.x), w.end_radius) && is(s.y, w.end);
                       };
                       return runs(a, b) || runs(b, a);
                   }))
            r.lines.push_back({id});
    }
    const std::vector<int> scraps = takeScraps(f, m, r);
    for (size_t k = 0; k < p.mouths.size(); ++k) {
        const auto& mouth = p.mouths[k];
        const auto at = [&](double side) {
            return std::ranges::find_if(rims[k],
                                        [&](const Rim& e) { return is(e.end.x, side * mouth.radius); });
        };
        const auto low = at(-1), high = at(1);
        if (low == rims[k].end() || high == rims[k].end()) continue;
        const Vec2 outside{0, 0.5 * (low->end.y + high->end.y) + mouth.out * 0.01 * mouth.radius};
        if (m.areaAt(inView(outside, right, centre)) >= 0) continue;
        Explained::Closed c{{inView(low->end, right, centre), inView(high->end, right, centre)}, scraps};
        for (const Rim& e : rims[k]) c.over.push_back(e.curve);
        r.closing.push_back(std::move(c));
    }
    return r;
}

} // namespace prism
