#include "core/project/propose_for.h"
#include "core/proposing/oblique_planes.h"
#include "support/searching.h"

#include <random>

using namespace prism;
using namespace prism::test;

// Blocks off which planes askew to all views cut corners: each view shows such a plane as one line from edge
// to edge, seen where the corner is on the viewer's side.

namespace {

NoProgress g_quiet;

struct CutBlock {
    Vec3 size;
    struct Corner {
        std::array<bool, 3> high; ///< by axis, on which side of the block
        Vec3 off;                 ///< how far along the edges it is cut
    };
    std::vector<Corner> corners;

    Vec3 at(const Corner& c) const {
        return {c.high[0] ? size.x : 0, c.high[1] ? size.y : 0, c.high[2] ? size.z : 0};
    }
    /// Where the plane meets the edges, by axis.
    std::array<Vec3, 3> ends(const Corner& c) const {
        const Vec3 p = at(c);
        const auto inwards = [&](size_t a, double by) { return c.high[a] ? -by : by; };
        return {p + Vec3{inwards(0, c.off.x), 0, 0}, p + Vec3{0, inwards(1, c.off.y), 0},
                p + Vec3{0, 0, inwards(2, c.off.z)}};
    }
    double volume() const {
        double v = size.x * size.y * size.z;
        for (const Corner& c : corners) v -= c.off.x * c.off.y * c.off.z / 6;
        return v;
    }
    DxfText sheet() const {
        ThreeViews t = threeViews(size.x, size.y, size.z);
        t.box();
        for (const Corner& c : corners) {
            const auto e = ends(c);
            // The viewers stand at high X and Z, and at low Y.
            t.line(Axis::x, e[1], e[2], c.high[0] ? "OUTLINE" : "HIDDEN");
            t.line(Axis::y, e[0], e[2], c.high[1] ? "HIDDEN" : "OUTLINE");
            t.line(Axis::z, e[0], e[1], c.high[2] ? "OUTLINE" : "HIDDEN");
        }
        return t.sheet;
    }
};

CutBlock blockOf(unsigned seed, bool two) {
    std::mt19937 random(seed);
    const auto in = [&](double lo, double hi) {
        return lo + 0.5 * std::floor(2 * (hi - lo) * static_cast<double>(random() % 1000) / 1000);
    };
    CutBlock b{{in(40, 70), in(40, 70), in(40, 70)}, {}};
    for (unsigned n = 0; n <= two; ++n) {
        const unsigned bits = n == 0 ? seed % 8 : (seed % 8) ^ (7 - seed % 3);
        // None meets the other along an edge.
        b.corners.push_back(
            {{(bits & 1) != 0, (bits & 2) != 0, (bits & 4) != 0}, {in(8, 18), in(8, 18), in(8, 18)}});
    }
    return b;
}

/// Whether a plane is that of a corner.
bool isOf(const ObliquePlane& p, const std::array<Vec3, 3>& ends) {
    return std::ranges::all_of(ends, [&](Vec3 e) { return std::abs(p.beyond(e)) < 1e-6; });
}

} // namespace

TEST_CASE("the plane of each corner that is cut off is told, and every place lies on its side of it") {
    const unsigned seed = GENERATE(range(1u, 17u));
    CAPTURE(seed);
    const CutBlock b = blockOf(seed, seed > 8);
    const Document d = inViews(b.sheet());
    const auto maps = mapsOf(d);
    REQUIRE(maps.size() == 3);
    const auto planes = obliquePlanes(d.model().figure, maps);
    for (const auto& c : b.corners) {
        const auto e = b.ends(c);
        const auto found = std::ranges::find_if(planes, [&](const ObliquePlane& p) { return isOf(p, e); });
        REQUIRE(found != planes.end());
        CHECK(found->confirmed);
        CHECK(dot(found->normal, found->normal) == Approx(1));
        for (const Vec3 corner : found->corners)
            CHECK(std::ranges::any_of(e, [&](Vec3 q) { return dot(q - corner, q - corner) < 1e-9; }));
    }
    // On every line of sight the cells tell on which side of which plane a place is.
    PlaneCells cells(maps, planes);
    std::mt19937 random(seed);
    for (int n = 0; n < 40; ++n) {
        const auto in = [&](double most) { return most * static_cast<double>(1 + random() % 98) / 99.5; };
        const Vec3 p{in(b.size.x), in(b.size.y), in(b.size.z)};
        unsigned sides = 0;
        for (size_t k = 0; k < planes.size(); ++k)
            if (planes[k].beyond(p) > 0) sides |= 1U << k;
        for (size_t k = 0; k < maps.size(); ++k) {
            const ViewAxes& a = maps[k].view().axes;
            const auto on = [&](Axis x) { return x == Axis::x ? p.x : x == Axis::y ? p.y : p.z; };
            const Ray ray = cells.ray(static_cast<int>(k), {on(a.right), on(a.up)});
            REQUIRE(ray.cells.size() == ray.breaks.size() + 1);
            const auto at = std::ranges::upper_bound(ray.breaks, on(a.depth)) - ray.breaks.begin();
            CHECK(cells.sidesOf(ray.cells[static_cast<size_t>(at)]) == sides);
            // What all corners leave is one cell of its own.
            std::vector<std::pair<ObliquePlane, int>> faces;
            bool kept = true;
            const Vec3 middle = 0.5 * b.size;
            for (const ObliquePlane& plane : planes) {
                const bool air_beyond = plane.beyond(middle) < 0;
                faces.emplace_back(plane, air_beyond ? 1 : -1);
                kept = kept && (plane.beyond(p) > 0) != air_beyond;
            }
            BoundedCell inside(maps, faces);
            const Ray in_it = inside.ray(static_cast<int>(k), {on(a.right), on(a.up)});
            const auto there = std::ranges::upper_bound(in_it.breaks, on(a.depth)) - in_it.breaks.begin();
            CHECK((in_it.cells[static_cast<size_t>(there)] == 0) == kept);
        }
    }
}

TEST_CASE("a block with corners cut off comes out, whichever they are") {
    const unsigned seed = GENERATE(range(1u, 13u));
    CAPTURE(seed);
    const CutBlock b = blockOf(seed, seed > 8);
    const Document d = inViews(b.sheet());
    const auto p = proposeFor(d.model(), g_quiet);
    REQUIRE(p);
    CHECK(p->clean);
    CHECK(p->build.measure.volume == Approx(b.volume()).epsilon(1e-7));
    CHECK(std::ranges::count_if(p->steps, [](const Step& s) { return s.kind == StepKind::facet; }) ==
          static_cast<long>(b.corners.size()));
    // Planes that cut away what lies beyond them find it alone.
    Searching alone(d);
    fromFacets(alone.figure, alone.maps, obliquePlanes(alone.figure, alone.maps), false, Lines::all,
               alone.quiet, alone.judge);
    CHECK(alone.judge.clean);
    CHECK(alone.judge.volume == Approx(b.volume()).epsilon(1e-7));
    CHECK(alone.judge.how == "material cut by oblique planes");
}
