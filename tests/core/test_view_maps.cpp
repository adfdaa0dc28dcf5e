#include "support/grid_part.h"

#include <random>

using namespace prism;
using namespace prism::test;

// What a view shows at a place, and along lines across it.

namespace {

/// Every answer along a line is that of its places one by one.
void scansAreItsPlaces(const ViewMap& m, unsigned seed) {
    std::mt19937 random(seed);
    const Box2& box = m.view().box;
    const auto in = [&](double lo, double hi) {
        return lo - 3 + (hi - lo + 6) * static_cast<double>(random() % 100'000) / 100'000;
    };
    const auto inside = [&](Vec2 p) { // of areas one by one
        for (size_t i = 0; i < m.areas().size(); ++i)
            if (m.areas()[i].contains(p)) return static_cast<int>(i);
        return -1;
    };
    for (int n = 0; n < 30; ++n) {
        const Vec2 p{in(box.lo.x, box.hi.x), in(box.lo.y, box.hi.y)};
        if (std::ranges::any_of(m.curves(), [&](const auto& c) { return distanceTo(c.second, p) < 1e-3; }))
            continue;
        const int here = inside(p);
        CHECK(m.areaAt(p) == here);
        CHECK(m.curveAt(p) == -1);
        CHECK(m.lineAt(p) == LineRole::unknown);
        const Scan &upright = m.scan(m.view().axes.right, p.x), &level = m.scan(m.view().axes.up, p.y);
        CHECK(upright.at(p.y) == here);
        CHECK(level.at(p.x) == here);
        for (const Scan* s : {&upright, &level}) {
            REQUIRE(s->regions.size() == s->breaks.size() + 1);
            CHECK(s->regions.front() == -1);
            CHECK(s->regions.back() == -1);
            CHECK(std::ranges::is_sorted(s->breaks));
            for (size_t i = 0; i < s->breaks.size(); ++i) {
                CHECK(s->regions[i] != s->regions[i + 1]);
                const Vec2 at = s == &upright ? Vec2{p.x, s->breaks[i]} : Vec2{s->breaks[i], p.y};
                CHECK(std::ranges::any_of(m.curves(),
                                          [&](const auto& c) { return distanceTo(c.second, at) < 1e-3; }));
            }
        }
    }
}

} // namespace

TEST_CASE("a map tells of every place its area and its line, and of a section what its plane cuts") {
    const unsigned seed = GENERATE(range(351u, 360u));
    CAPTURE(seed);
    const Grid g = carved(seed);
    const size_t layer = seed % static_cast<size_t>(g.count(1));
    const std::set<Drawn> lines = linesOf(g), shown = linesOf(behind(g, layer));
    const double plane = behind(g, layer).at[1].front(), depth = g.at[1].back();
    const Document d = inViews(withSection(g, layer));
    const auto maps = mapsOf(d);
    REQUIRE(maps.size() == 4);
    for (const ViewMap& m : maps) {
        const FigureView& v = m.view();
        const bool section = v.shows == Shows::cut;
        CAPTURE(section, v.axes.depth);
        scansAreItsPlaces(m, seed);
        bool hidden = false;
        for (const Drawn& p : section ? shown : lines) {
            if (p.look != static_cast<int>(v.axes.depth) || (section && !p.seen)) continue;
            const Vec3 q = 0.5 * (p.a + p.b);
            const Vec2 at{along(q, static_cast<int>(v.axes.right)), along(q, static_cast<int>(v.axes.up))};
            CHECK(m.lineAt(at) == (p.seen ? LineRole::outline : LineRole::hidden));
            const int c = m.curveAt(at);
            REQUIRE(c >= 0);
            CHECK(distanceTo(m.curves()[static_cast<size_t>(c)].second, at) < 1e-9);
            CHECK(m.showsCut(m.curves()[static_cast<size_t>(c)].second) == section);
            hidden = hidden || !p.seen;
        }
        CHECK(m.hasHidden() == hidden);
        CHECK(m.cut().has_value() == section);
        CHECK(m.hasHatching() == section);
        CHECK(viewerAtLowEnd(v) == (v.axes.depth == Axis::y));
        CHECK(cutsSquare(v) == section);
        if (!section) {
            CHECK_FALSE(m.unseen(-1));
            CHECK_FALSE(m.unseen(1e3));
            continue;
        }
        CHECK(*m.cut() == Approx(plane));
        // Half of a part that is cut in its middle stands for the other half.
        const bool in_middle = std::abs(plane - depth / 2) < 1e-3;
        CHECK(m.unseen(plane - 0.1) == !in_middle);
        CHECK_FALSE(m.unseen(plane + 0.1));
        for (size_t i = 0; i < m.areas().size(); ++i) {
            const Vec2 p = m.areas()[i].seed;
            const auto slot = [&](size_t axis, double at) {
                return static_cast<int>(std::ranges::upper_bound(g.at[axis], at) - g.at[axis].begin()) - 1;
            };
            CHECK(m.hatched(static_cast<int>(i)) ==
                  g.is({slot(0, p.x), static_cast<int>(layer), slot(2, p.y)}));
            CHECK_FALSE(m.localCut(static_cast<int>(i)));
            CHECK_FALSE(m.brokenOut(static_cast<int>(i)));
        }
    }
}

TEST_CASE("lines across a view with rounds and slanted lines meet its areas one after the other") {
    const unsigned seed = GENERATE(range(1u, 9u));
    CAPTURE(seed);
    const double r = 3 + 0.7 * seed;
    ThreeViews t = threeViews(90, 20, 60);
    t.sheet.line(0, 0, 90, 0)
        .line(90, 0, 90, 60 - r)
        .line(90 - r, 60, 3 * r, 60)
        .line(3 * r, 60, 0, 60 - 2 * r);
    t.sheet.line(0, 60 - 2 * r, 0, 0).arc(90 - r, 60 - r, r, 0, 90);
    t.sheet.circle(40, 25, 2 * r)
        .circle(40, 25, r)
        .line(70, 0, 80, 30, "HIDDEN")
        .line(80, 30, 90, 30, "HIDDEN");
    t.sheet.arc(15, 0, r, 0, 180).box(0, 90, 90, 110);
    const Document d = inViews(t.sheet);
    for (const ViewMap& m : mapsOf(d))
        if (m.view().axes.depth == Axis::y) {
            CHECK(m.areas().size() == 5);
            scansAreItsPlaces(m, seed);
            CHECK(m.lineAt({75, 15}) == LineRole::hidden);
            CHECK(m.lineAt({40 + r, 25}) == LineRole::outline);
            const KnownRegion known{m.view().view, {m.areas()[0]}, 0, 20, true};
            CHECK(known.contains(m.areas()[0].seed));
            CHECK_FALSE(known.contains(m.areas()[1].seed));
            const ViewMap said(d.model().figure, m.view(), d.model().areas.drawn,
                               {known, {-7, {}, 0, 1, false}});
            REQUIRE(said.known().size() == 1);
            CHECK(said.known()[0].hi == 20);
        }
}
