#include "core/views/panes.h"

namespace prism {
namespace {

double along(const Vec3& v, Axis a) {
    return dot(v, unitOf(a));
}

double& along(Vec3& v, Axis a) {
    return a == Axis::x ? v.x : a == Axis::y ? v.y : v.z;
}

/// Sine and cosine of a pane's turn, exact at the ends, so that the folded box has the part's own coordinates
/// to the last digit.
struct Turned {
    double cos, sin;
    explicit Turned(double turn)
        : cos(turn >= 1 ? 0 : std::cos(std::max(turn, 0.0) * kPi / 2)),
          sin(turn >= 1 ? 1 : std::sin(std::max(turn, 0.0) * kPi / 2)) {}
};

/// A pane that is turned about a line of another pane. `local`: own coordinates to (along the line, distance
/// from it); `away`: direction on the other pane in which it lies while flat.
PaneFrame turned(const PaneFrame& on, Vec2 foot, Vec2 line, Vec2 away, const Affine2& local, double turn) {
    const Turned t(turn);
    const Vec3 s = line.x * on.right + line.y * on.up, out = away.x * on.right + away.y * on.up,
               w = t.cos * out + t.sin * on.inward;
    return {on(foot) + local.e * s + local.f * w,
            local.a * s + local.b * w,
            local.c * s + local.d * w,
            t.cos * on.inward - t.sin * out,
            {}};
}

} // namespace

double PaneFrame::inAt(double right_of_origin) const {
    if (parts.empty()) return 0;
    const auto part = std::ranges::find_if(parts, [&](const Part& p) { return right_of_origin <= p.to; });
    return (part == parts.end() ? parts.back() : *part).in;
}

std::vector<PaneFrame::Face> PaneFrame::faces(const Box2& e) const {
    std::vector<Face> r;
    const auto strip = [&](double from, double from_in, double to, double to_in) {
        const Face f{{Vec2{from, e.lo.y}, {to, e.lo.y}, {to, e.hi.y}, {from, e.hi.y}}, {}};
        const double in[] = {from_in, to_in, to_in, from_in};
        r.push_back(f);
        for (size_t k = 0; k < 4; ++k) r.back().at[k] = inSpace(f.own[k], in[k]);
    };
    double from = e.lo.x;
    for (size_t k = 0; k + 1 < parts.size(); ++k) {
        const double to = parts[k].to;
        if (to <= e.lo.x || to >= e.hi.x) continue;
        strip(from, parts[k].in, to, parts[k].in);
        strip(to, parts[k].in, to, parts[k + 1].in);
        from = to;
    }
    strip(from, inAt(e.hi.x), e.hi.x, inAt(e.hi.x));
    return r;
}

std::vector<std::vector<Vec3>> PaneFrame::runs(const std::vector<Vec2>& chain) const {
    std::vector<std::vector<Vec3>> r;
    double depth = std::numeric_limits<double>::quiet_NaN(); // of the run at its end
    const auto run = [&](Vec2 a, Vec2 b) {
        const double in = inAt((a.x + b.x) / 2);
        if (in != depth) r.push_back({inSpace(a, in)});
        depth = in;
        r.back().push_back(inSpace(b, in));
    };
    for (size_t i = 1; i < chain.size(); ++i) {
        const Vec2 a = chain[i - 1], b = chain[i];
        std::vector<double> at; // of the steps between the two, as a share of the way
        for (size_t k = 0; k + 1 < parts.size(); ++k)
            if ((parts[k].to - a.x) * (parts[k].to - b.x) < 0)
                at.push_back((parts[k].to - a.x) / (b.x - a.x));
        std::ranges::sort(at);
        Vec2 from = a;
        for (double t : at) {
            const Vec2 step = a + (b - a) * t;
            run(from, step);
            from = step;
        }
        run(from, b);
    }
    return r;
}

/// What a principal pane hangs on, and how.
struct GlassBox::Hinge {
    Role on;
    Vec2 foot, line, away; ///< on the coordinates of `on`
    Affine2 local;
};

GlassBox::GlassBox(Convention convention, const PartBox& part, double margin,
                   const std::map<Role, double>& gaps)
    : third_(convention == Convention::third), lo_(part.lo), hi_(part.hi) {
    for (Role r : {Role::front, Role::top, Role::bottom, Role::left, Role::right, Role::rear}) {
        const auto g = gaps.find(r);
        const double gap = g == gaps.end() ? margin : g->second;
        const Axis depth = axesOf(r).depth;
        const bool viewer_low = along(lookOf(r), depth) > 0;
        if (viewer_low == third_)
            along(lo_, depth) -= gap;
        else
            along(hi_, depth) += gap;
    }
}

GlassBox::Hinge GlassBox::hingeOf(Role role) const {
    const double front = third_ ? lo_.y : hi_.y, in = third_ ? 1 : -1;
    switch (role) {
    case Role::top:
    case Role::bottom: {
        const bool above = (role == Role::top) == third_;
        return {Role::front,
                {0, above ? hi_.z : lo_.z},
                {1, 0},
                {0, above ? 1.0 : -1.0},
                {1, 0, 0, in, 0, -in * front}};
    }
    case Role::right:
    case Role::left: {
        const bool right = (role == Role::right) == third_;
        return {Role::front,
                {right ? hi_.x : lo_.x, 0},
                {0, 1},
                {right ? 1.0 : -1.0, 0},
                {0, in, 1, 0, 0, -in * front}};
    }
    default: // the rear pane
        return {third_ ? Role::right : Role::left,
                {third_ ? hi_.y : lo_.y, 0},
                {0, 1},
                {in, 0},
                {0, -1, 1, 0, 0, hi_.x}};
    }
}

PaneFrame GlassBox::pane(Role role, const Turn& turn) const {
    if (role == Role::front)
        return {{0, third_ ? lo_.y : hi_.y, 0}, {1, 0, 0}, {0, 0, 1}, {0, third_ ? 1.0 : -1.0, 0}, {}};
    const Hinge h = hingeOf(role);
    return turned(pane(h.on, turn), h.foot, h.line, h.away, h.local, turn(role));
}

Box2 GlassBox::extent(Role role) const {
    const ViewAxes a = axesOf(role);
    return {{along(lo_, a.right), along(lo_, a.up)}, {along(hi_, a.right), along(hi_, a.up)}};
}

std::optional<Segment> GlassBox::foldLine(Role role) const {
    if (role == Role::front) return std::nullopt;
    const Hinge h = hingeOf(role);
    const Affine2 back = h.local.inverse();
    const Box2 e = extent(role), on = extent(h.on);
    const auto end = [&](Vec2 corner) {
        const double s = dot(corner, h.line);
        return back({s, 0});
    };
    return e.valid() ? std::optional(Segment{end(on.lo), end(on.hi)}) : std::nullopt;
}

Segment GlassBox::hungFoldLine(const Hanging& h, Role on, double own_turn) const {
    if (!h.cuts) return {h.from, h.to};
    // The side on which the view lies while flat: nearer to its viewer in third angle.
    const Box2 e = extent(on);
    double outermost = -std::numeric_limits<double>::infinity();
    const Vec2 away = third_ ? -h.look : h.look;
    for (Vec2 c : {e.lo, {e.hi.x, e.lo.y}, e.hi, {e.lo.x, e.hi.y}})
        outermost = std::max(outermost, dot(c, away));
    const double shift = (outermost - dot(h.from, away)) * Turned(own_turn).cos;
    return {h.from + away * shift, h.to + away * shift};
}

PaneFrame GlassBox::hungPane(const Hanging& h, Role on, const Turn& turn, double own_turn) const {
    const PaneFrame at = pane(on, turn);
    if (h.flat()) { // lies on the pane of its source, a hair nearer to the viewer
        const double lift = 2e-3 * std::abs(dot(hi_ - lo_, unitOf(axesOf(on).depth)));
        return {at.origin + lift * facing(at), at.right, at.up, at.inward, {}};
    }
    // Depth is counted from the pane of `on` towards the part.
    const PaneFrame box = pane(on, 1);
    const Vec3 depth = unitOf(axesOf(on).depth);
    const double in = dot(box.inward, depth) > 0 ? 1 : -1, from = dot(box.origin, depth);
    const Vec2 away = third_ ? -h.look : h.look;
    const Vec2 foot = h.look * dot(hungFoldLine(h, on, own_turn).a, h.look);
    PaneFrame r = turned(at, foot, h.along(), away, {1, 0, 0, in, 0, -in * from}, own_turn);
    // The parts of a stepped plane leave the first one's as the pane folds.
    const double folded = (third_ ? 1 : -1) * (1 - Turned(own_turn).cos);
    for (const Segment& l : h.legs)
        r.parts.push_back(
            {std::max(dot(l.a, h.along()), dot(l.b, h.along())), folded * dot(l.a - h.from, h.look)});
    std::ranges::sort(r.parts, {}, &PaneFrame::Part::to);
    return r;
}

Vec3 standing(const Hanging& h, Role on, Vec2 own) {
    const ViewAxes a = axesOf(on);
    const Vec2 flat = h.flat() ? own : own.x * h.along() + h.look * dot(h.from, h.look);
    return flat.x * unitOf(a.right) + flat.y * unitOf(a.up) + (h.flat() ? 0 : own.y) * unitOf(a.depth);
}

} // namespace prism
