#include "support/boxed_part.h"

#include <random>

namespace prism::test {
namespace {

/// A high part with a slope in front, and a lower block behind it.
struct Maker {
    explicit Maker(unsigned seed, Convention c) : random(seed) {
        part.convention = c;
        part.drawing.layers = {{"OUTLINE"}, {"CUT", "CENTER"}, {"HATCHING"}};
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
    void hatch(const std::vector<Vec2>& corners) {
        const int id = line(corners[0], corners[1], 2, "HATCH");
        std::vector<Curve>& border = part.drawing.entities[id].curves;
        border.clear();
        for (size_t i = 0; i < corners.size(); ++i)
            border.push_back(Segment{corners[i], corners[(i + 1) % corners.size()]});
    }
    void text(Vec2 at, const std::string& words) {
        part.drawing.texts.push_back({"", 0, at, 3.5, 0, 0, 0, words});
    }

    std::mt19937 random;
    BoxedPart part;
};

using Edges = std::vector<std::pair<Vec3, Vec3>>;

/// All edges of the block whose front corner is at `o`; where the lower block is flush there is none.
Edges edgesOf(const BoxSizes& s, Vec3 o) {
    const double x0 = o.x, x1 = o.x + s.width, y0 = o.y, y1 = y0 + s.front_depth, y2 = y1 + s.back_depth;
    const double z0 = o.z, zs = z0 + s.step, xt = x0 + s.slope_x, zt = z0 + s.slope_z, z1 = z0 + s.height;
    const auto along_y = [](double x, double z, double a, double b) {
        return std::pair{Vec3{x, a, z}, Vec3{x, b, z}};
    };
    const auto across = [](double y, Vec2 a, Vec2 b) {
        return std::pair{Vec3{a.x, y, a.y}, Vec3{b.x, y, b.y}};
    };
    Edges r{along_y(x0, z0, y0, y2), along_y(x1, z0, y0, y2), along_y(x0, zs, y1, y2),
            along_y(x1, zs, y1, y2), along_y(x1, zt, y0, y1), along_y(xt, z1, y0, y1),
            along_y(x0, z1, y0, y1)};
    for (double y : {y0, y1}) {
        const double foot = y == y0 ? z0 : zs;
        r.push_back(across(y, {x0, foot}, {x1, foot})), r.push_back(across(y, {x1, foot}, {x1, zt}));
        r.push_back(across(y, {x1, zt}, {xt, z1})), r.push_back(across(y, {xt, z1}, {x0, z1}));
        r.push_back(across(y, {x0, z1}, {x0, foot}));
    }
    const std::array<Vec2, 4> rear{Vec2{x0, z0}, {x1, z0}, {x1, zs}, {x0, zs}};
    for (size_t i = 0; i < 4; ++i) r.push_back(across(y2, rear[i], rear[(i + 1) % 4]));
    return r;
}

} // namespace

double BoxSizes::slopeLength() const {
    return std::hypot(width - slope_x, height - slope_z);
}

BoxedPart boxedPart(unsigned seed, const BoxLayout& layout,
                    std::optional<std::pair<double BoxSizes::*, double>> changed) {
    const bool moved = layout.moved, third = layout.convention == Convention::third;
    Maker m(seed, layout.convention);
    BoxedPart& part = m.part;
    BoxSizes& s = part.sizes;
    s.width = m.number(80, 120), s.height = m.number(50, 70);
    const double y0 = m.number(-30, 30);
    s.front_depth = m.number(20, 30), s.back_depth = m.number(12, 20);
    const double x0 = m.number(-50, 50), z0 = m.number(-50, 50);
    s.slope_x = m.number(0.5, 0.6) * s.width, s.slope_z = m.number(0.45, 0.55) * s.height;
    s.step = m.number(0.25, 0.35) * s.height;
    // The planes of the sections stay where they are, whatever is changed: B-B cuts the high part alone.
    const double plane_x = 0.2 * s.width, plane_dx = 0.2 * s.width, plane_z = 0.37 * s.height,
                 plane_dz = 0.06 * s.height, half_way = 0.6 * s.height;
    if (changed) s.*changed->first = changed->second;
    const double w = s.width, h = s.height, y1 = y0 + s.front_depth, y2 = y1 + s.back_depth;
    const double sx = s.slope_x, sz = s.slope_z, step = s.step;
    part.lo = {x0, y0, z0}, part.hi = {x0 + w, y2, z0 + h};
    part.volume = w * step * (y2 - y0) + (w * h - 0.5 * (w - sx) * (h - sz) - w * step) * (y1 - y0);
    const Edges edges = edgesOf(s, part.lo);

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
    const Vec2 u = normalized({sx - w, h - sz}), out = Vec2{u.y, -u.x}; // out of the part
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
    const auto plane = [&](const std::vector<Vec2>& places, Vec2 look, const char* letter) {
        for (size_t i = 1; i < places.size(); ++i) m.line(places[i - 1], places[i], 1, "LINE", "CENTER");
        for (Vec2 end : {places.front(), places.back()}) {
            const int arrow = m.line(end, end - look * 8, 0, "LEADER");
            part.drawing.entities[arrow].curves = {Segment{end, end - look * 8}};
            m.text(end - look * 11, letter);
        }
    };
    const double second_x = layout.stepped ? x0 + 0.45 * plane_x / 0.2 : part.cut_x;
    part.upper_cut_x = second_x, part.steps_at_z = z0 + half_way;
    std::vector<Vec2> places_x{drawn(Role::front, {part.cut_x, 0, z0}) - Vec2{0, 9},
                               drawn(Role::front, {second_x, 0, z0 + h}) + Vec2{0, 9}};
    if (layout.stepped)
        places_x.insert(places_x.begin() + 1, {drawn(Role::front, {part.cut_x, 0, z0 + half_way}),
                                               drawn(Role::front, {second_x, 0, z0 + half_way})});
    plane(places_x, {-1, 0}, "A");
    plane({drawn(Role::front, {x0, 0, part.cut_z}) - Vec2{9, 0},
           drawn(Role::front, {x0 + w, 0, part.cut_z}) + Vec2{9, 0}},
          {0, -1}, "B");
    // Looking left shows what a right view shows, looking down what a top view shows.
    const Vec2 placeX = moved ? Vec2{at.x - 260, at.y + 210} : Vec2{right + deep + gap + w + gap + 20, at.y},
               placeZ = moved ? Vec2{at.x - 260, at.y + 330}
                              : Vec2{at.x, third ? above + deep + gap : below - gap - deep};
    const auto sectionX = [&](Vec2 p) { return placeX + p - Vec2{y0, z0}; }; // of (Y, Z)
    const std::vector<Vec2> corners{{y0, z0},        {y2, z0},     {y2, z0 + step},
                                    {y1, z0 + step}, {y1, z0 + h}, {y0, z0 + h}};
    std::vector<Vec2> cut_faces;
    for (size_t i = 0; i < corners.size(); ++i) {
        const Vec2 p = corners[i], q = corners[(i + 1) % corners.size()];
        part.section_x.push_back(
            {m.line(sectionX(p), sectionX(q)), {part.cut_x, p.x, p.y}, {part.cut_x, q.x, q.y}});
        cut_faces.push_back(sectionX(p));
    }
    m.hatch(cut_faces);
    // The lower block lies behind the plane of B-B.
    const auto sectionZ = [&](Vec2 p) { // of (X, Y)
        return placeZ + (moved ? Vec2{y2 - p.y, p.x - x0} : p - Vec2{x0, y0});
    };
    const double x1 = x0 + w;
    const auto lineZ = [&](Vec2 p, Vec2 q) {
        part.section_z.push_back(
            {m.line(sectionZ(p), sectionZ(q)), {p.x, p.y, part.cut_z}, {q.x, q.y, part.cut_z}});
    };
    for (double y : {y0, y1, y2}) lineZ({x0, y}, {x1, y});
    for (double x : {x0, x1}) lineZ({x, y0}, {x, y2});
    m.hatch({sectionZ({x0, y0}), sectionZ({x1, y0}), sectionZ({x1, y1}), sectionZ({x0, y1})});
    m.text(placeX + Vec2{deep / 2, -6}, "SECTION A-A");
    m.text(placeZ + Vec2{moved ? deep / 2 : w / 2, -6}, "B-B");
    return part;
}

} // namespace prism::test
