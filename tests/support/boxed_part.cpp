#include "support/boxed_part.h"

#include <random>

namespace prism::test {
namespace {

/// The profile of the part in X and Z is extruded along Y in two lengths: a whole one in front, and a lower
/// one behind it. Between its corners 2 and 3 it slopes.
struct Maker {
    explicit Maker(unsigned seed, Convention c) : random(seed) {
        part.convention = c;
        part.drawing.layers = {{"OUTLINE"}, {"CUT", "CENTER"}};
        part.drawing.line_types = {{"CENTER", "", {12, -3, 3, -3}}};
        part.drawing.unit_code = 4;
    }

    double number(double lo, double hi) { return std::uniform_real_distribution<double>(lo, hi)(random); }

    int line(Vec2 a, Vec2 b, int layer = 0, const char* type = "LINE", const char* pattern = "CONTINUOUS") {
        Entity e;
        e.id = static_cast<int>(part.drawing.entities.size());
        e.type = type, e.handle = std::to_string(e.id + 100), e.layer = layer, e.line_type = pattern;
        e.curves = {Segment{a, b}};
        part.drawing.entities.push_back(e);
        return e.id;
    }
    void text(Vec2 at, const std::string& words) {
        part.drawing.texts.push_back({"", 0, at, 3.5, 0, 0, 0, words});
    }

    std::mt19937 random;
    BoxedPart part;
};

using Edges = std::vector<std::pair<Vec3, Vec3>>;

Edges prism(const std::vector<Vec2>& profile, double y0, double y1) {
    Edges r;
    for (size_t i = 0; i < profile.size(); ++i) {
        const Vec2 p = profile[i], q = profile[(i + 1) % profile.size()];
        r.push_back({{p.x, y0, p.y}, {q.x, y0, q.y}});
        r.push_back({{p.x, y1, p.y}, {q.x, y1, q.y}});
        r.push_back({{p.x, y0, p.y}, {p.x, y1, p.y}});
    }
    return r;
}

/// Where a line crosses an extruded profile, as rectangles over y.
Edges cut(const std::vector<Vec2>& profile, double y0, double y1, bool at_x, double at) {
    std::vector<double> hits;
    for (size_t i = 0; i < profile.size(); ++i) {
        Vec2 p = profile[i], q = profile[(i + 1) % profile.size()];
        if (!at_x) std::swap(p.x, p.y), std::swap(q.x, q.y);
        if ((p.x < at) != (q.x < at)) hits.push_back(p.y + (q.y - p.y) * (at - p.x) / (q.x - p.x));
    }
    std::sort(hits.begin(), hits.end());
    Edges r;
    for (size_t i = 0; i + 1 < hits.size(); i += 2) {
        const auto place = [&](double t, double y) { return at_x ? Vec3{at, y, t} : Vec3{t, y, at}; };
        const double a = hits[i], b = hits[i + 1];
        r.push_back({place(a, y0), place(b, y0)}), r.push_back({place(b, y0), place(b, y1)});
        r.push_back({place(b, y1), place(a, y1)}), r.push_back({place(a, y1), place(a, y0)});
    }
    return r;
}

} // namespace

double BoxSizes::slopeLength() const {
    return std::hypot(width - slope_x, height - slope_z);
}

BoxedPart boxedPart(unsigned seed, Convention convention, bool moved,
                    std::optional<std::pair<double BoxSizes::*, double>> changed) {
    Maker m(seed, convention);
    BoxedPart& part = m.part;
    const bool third = convention == Convention::third;
    BoxSizes& s = part.sizes;
    s.width = m.number(80, 120), s.height = m.number(50, 70);
    const double y0 = m.number(-30, 30);
    s.front_depth = m.number(20, 30), s.back_depth = m.number(12, 20);
    const double x0 = m.number(-50, 50), z0 = m.number(-50, 50);
    s.slope_x = m.number(0.5, 0.6) * s.width, s.slope_z = m.number(0.45, 0.55) * s.height;
    s.step = m.number(0.25, 0.35) * s.height;
    // The planes of the sections stay where they are, whatever is changed.
    const double plane_x = 0.2 * s.width, plane_dx = 0.2 * s.width, plane_z = 0.1 * s.height,
                 plane_dz = 0.1 * s.height;
    if (changed) s.*changed->first = changed->second;
    const double w = s.width, h = s.height, y1 = y0 + s.front_depth, y2 = y1 + s.back_depth;
    const double sx = s.slope_x, sz = s.slope_z, step = s.step;
    const std::vector<Vec2> front{{x0, z0}, {x0 + w, z0}, {x0 + w, z0 + sz}, {x0 + sx, z0 + h}, {x0, z0 + h}},
        back{{x0, z0}, {x0 + w, z0}, {x0 + w, z0 + step}, {x0, z0 + step}};
    part.lo = {x0, y0, z0}, part.hi = {x0 + w, y2, z0 + h};
    Edges edges = prism(front, y0, y1);
    for (const auto& e : prism(back, y1, y2)) edges.push_back(e);

    const double gap = m.number(24, 32), deep = y2 - y0;
    // Sheet places of the views' lower left corners.
    const Vec2 at{m.number(300, 320), m.number(300, 320)};
    const double above = at.y + h + gap, below = at.y - gap - deep, right = at.x + w + gap,
                 left = at.x - gap - deep;
    const auto drawn = [&](Role r, Vec3 p) -> Vec2 {
        switch (r) {
        case Role::top:
            return {at.x + p.x - x0, (third ? above : below) + p.y - y0};
        case Role::bottom:
            return {at.x + p.x - x0, (third ? below : above) + y2 - p.y};
        case Role::right:
            return {(third ? right : left) + p.y - y0, at.y + p.z - z0};
        case Role::left:
            return {(third ? left : right) + y2 - p.y, at.y + p.z - z0};
        case Role::rear:
            return {right + deep + gap + x0 + w - p.x, at.y + p.z - z0};
        default:
            return {at.x + p.x - x0, at.y + p.z - z0};
        }
    };
    for (Role r : {Role::front, Role::top, Role::bottom, Role::right, Role::left, Role::rear})
        for (const auto& [a, b] : edges)
            if (const Vec2 p = drawn(r, a), q = drawn(r, b); distance(p, q) > 1e-9)
                part.principal[r].push_back({m.line(p, q), a, b});
    m.text(drawn(Role::front, {x0 + w / 2, 0, z0}) - Vec2{0, 6}, "FRONT VIEW");
    m.text({20, 20}, third ? "THIRD ANGLE PROJECTION" : "FIRST ANGLE PROJECTION");

    // The auxiliary view looks square onto the slope; it lies opposite it, far enough out to be clear of the
    // rest.
    const Vec2 u = normalized(front[3] - front[2]), out = Vec2{u.y, -u.x}; // out of the part
    const Vec2 away = third ? out : -out,
               foot = drawn(Role::front, {x0 + w, 0, z0 + sz}) + away * (third ? 190 : 330);
    const auto oblique = [&](Vec3 p) {
        const Vec2 on = drawn(Role::front, p) - drawn(Role::front, {x0 + w, 0, z0 + sz});
        return foot + u * dot(on, u) + away * (third ? p.y - y0 : y2 - p.y);
    };
    for (const auto& [a, b] : edges)
        if (const Vec2 p = oblique(a), q = oblique(b); distance(p, q) > 1e-9)
            part.auxiliary.push_back({m.line(p, q), a, b});

    // Cutting planes with arrows and letters in the front view; the arrows point left and down.
    part.cut_x = x0 + plane_x + m.number(0, 1) * plane_dx,
    part.cut_z = z0 + plane_z + m.number(0, 1) * plane_dz;
    const auto plane = [&](Vec2 a, Vec2 b, Vec2 look, const char* letter) {
        m.line(a, b, 1, "LINE", "CENTER");
        for (Vec2 end : {a, b}) {
            const int arrow = m.line(end, end - look * 8, 0, "LEADER");
            part.drawing.entities[arrow].curves = {Segment{end, end - look * 8}};
            m.text(end - look * 11, letter);
        }
    };
    plane(drawn(Role::front, {part.cut_x, 0, z0}) - Vec2{0, 9},
          drawn(Role::front, {part.cut_x, 0, z0 + h}) + Vec2{0, 9}, {-1, 0}, "A");
    plane(drawn(Role::front, {x0, 0, part.cut_z}) - Vec2{9, 0},
          drawn(Role::front, {x0 + w, 0, part.cut_z}) + Vec2{9, 0}, {0, -1}, "B");
    Edges cutX = cut(front, y0, y1, true, part.cut_x), cutZ = cut(front, y0, y1, false, part.cut_z);
    for (const auto& e : cut(back, y1, y2, true, part.cut_x)) cutX.push_back(e);
    for (const auto& e : cut(back, y1, y2, false, part.cut_z)) cutZ.push_back(e);
    // Looking left shows what a right view shows, looking down what a top view shows.
    const Vec2 placeX = moved ? Vec2{at.x - 260, at.y + 210} : Vec2{right + deep + gap + w + gap + 20, at.y},
               placeZ = moved ? Vec2{at.x - 260, at.y + 330}
                              : Vec2{at.x, third ? above + deep + gap : below - gap - deep};
    for (const auto& [a, b] : cutX) {
        const auto p = [&](Vec3 v) { return placeX + Vec2{v.y - y0, v.z - z0}; };
        part.section_x.push_back({m.line(p(a), p(b)), a, b});
    }
    for (const auto& [a, b] : cutZ) {
        const auto p = [&](Vec3 v) {
            return placeZ + (moved ? Vec2{y2 - v.y, v.x - x0} : Vec2{v.x - x0, v.y - y0});
        };
        part.section_z.push_back({m.line(p(a), p(b)), a, b});
    }
    m.text(placeX + Vec2{deep / 2, -6}, "SECTION A-A");
    m.text(placeZ + Vec2{moved ? deep / 2 : w / 2, -6}, "B-B");
    return part;
}

} // namespace prism::test
