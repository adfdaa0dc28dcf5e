#include "support/samples.h"

#include "core/figure/areas.h"

using namespace prism;
using namespace prism::test;

namespace {

Figure figureOf(const std::string& dxf) {
    NoProgress quiet;
    const Drawing d = drawn(dxf);
    const CleanSheet s = clean(d, {});
    return buildFigure(*s.drawing, s, findViews(*s.drawing, s, {}, quiet));
}

double areaAt(const std::vector<ClosedArea>& areas, Vec2 p) {
    for (const ClosedArea& a : areas)
        if (a.contains(p)) return a.area;
    return 0;
}

} // namespace

TEST_CASE("areas of a plate with a hole and a crossing line add up to the closed form") {
    const Figure f =
        figureOf(DxfText().entities().box(0, 0, 80, 50).circle(20, 12, 5).line(40, 0, 40, 50).done());
    const auto areas = closedAreas(f, f.drawn);
    REQUIRE(areas.size() == 3);
    CHECK(areaAt(areas, {20, 12}) == Approx(kPi * 25));
    CHECK(areaAt(areas, {5, 40}) == Approx(40 * 50 - kPi * 25));
    CHECK(areaAt(areas, {60, 25}) == Approx(40 * 50));
}

TEST_CASE("a slot of lines and arcs has the area of its closed form") {
    const Figure f = figureOf(DxfText()
                                  .entities()
                                  .line(10, 5, 40, 5)
                                  .arc(40, 10, 5, -90, 90)
                                  .line(40, 15, 10, 15)
                                  .arc(10, 10, 5, 90, 270)
                                  .done());
    const auto areas = closedAreas(f, f.drawn);
    REQUIRE(areas.size() == 1);
    CHECK(areas[0].area == Approx(30 * 10 + kPi * 25).epsilon(1e-12));
    CHECK(areas[0].contains({20, 5})); // the view's lower left corner is the origin of its model axes
    CHECK_FALSE(areas[0].contains({0.2, 0.2}));
}

TEST_CASE("the union of neighbouring areas has one border") {
    const Figure f =
        figureOf(DxfText().entities().box(0, 0, 80, 50).line(40, 0, 40, 50).line(60, 0, 60, 50).done());
    const auto areas = closedAreas(f, f.drawn);
    REQUIRE(areas.size() == 3);
    const auto loops = unionLoops({&areas[0], &areas[1], &areas[2]});
    REQUIRE(loops.size() == 1);
    CHECK(signedArea(loops[0]) == Approx(80 * 50));
    CHECK(loops[0].size() == 4); // the joints that the inner lines made are gone
}

TEST_CASE("areas that touch in a corner keep borders of their own") {
    // A board of 3 by 3 fields, of which the diagonal is picked.
    DxfText t;
    t.entities().box(0, 0, 60, 60);
    for (double at : {20.0, 40.0}) t.line(at, 0, at, 60).line(0, at, 60, at);
    const Figure f = figureOf(t.done());
    const auto areas = closedAreas(f, f.drawn);
    REQUIRE(areas.size() == 9);
    std::vector<const ClosedArea*> diagonal;
    for (const ClosedArea& a : areas)
        if (std::abs(a.seed.x - a.seed.y) < 15) diagonal.push_back(&a);
    REQUIRE(diagonal.size() == 3);
    const auto loops = unionLoops(diagonal);
    REQUIRE(loops.size() == 3);
    for (const Loop& l : loops) {
        CHECK(l.size() == 4);
        CHECK(signedArea(l) == Approx(400));
        for (size_t i = 0; i < l.size(); ++i) CHECK(l[i].to == l[(i + 1) % l.size()].from);
    }
}

TEST_CASE("an open corner encloses nothing until it is closed") {
    auto corner = [](double gap) {
        DxfText t;
        t.entities().line(0, 0, 80, 0).line(80, 0, 80, 50).line(80, 50, 0, 50).line(0, 50, 0, gap);
        const Figure f = figureOf(t.done());
        return closedAreas(f, f.drawn);
    };
    CHECK(corner(1.5).empty());
    REQUIRE(corner(0.2).size() == 1); // within what a repair closes
    CHECK(corner(0.2)[0].area == Approx(4000));
}

TEST_CASE("areas overlapping in a cross are all found") {
    const Figure f = figureOf(DxfText().entities().box(0, 20, 60, 40).box(20, 0, 40, 60).done());
    const auto areas = closedAreas(f, f.drawn);
    CHECK(areas.size() == 5);
    for (const ClosedArea& a : areas) CHECK(a.area == Approx(400));
}

TEST_CASE("the areas of every clean sheet's views fill the outline without overlap", "[slow]") {
    for (const Sample& s : samples()) {
        if (!s.clean()) continue;
        INFO(s.name);
        const Document d = opened(s.path);
        const Figure& f = d.model().figure;
        const auto areas = closedAreas(f, f.drawn);
        for (const FigureView& v : f.views) {
            std::vector<const ClosedArea*> own;
            double sum = 0;
            for (const ClosedArea& a : areas)
                if (a.view == v.view) own.push_back(&a), sum += a.area;
            REQUIRE_FALSE(own.empty());
            for (const ClosedArea* a : own) CHECK(a->contains(a->seed));
            // Places spread over the view lie in one area at most, and in as many as the areas are large.
            constexpr int n = 60;
            int hit = 0;
            for (int i = 0; i < n; ++i)
                for (int j = 0; j < n; ++j) {
                    const Vec2 p{v.box.lo.x + (i + 0.4719) / n * v.box.width(),
                                 v.box.lo.y + (j + 0.5281) / n * v.box.height()};
                    const auto in = std::count_if(own.begin(), own.end(),
                                                  [&](const ClosedArea* a) { return a->contains(p); });
                    CHECK(in <= 1);
                    hit += in == 1;
                }
            CHECK(sum == Approx(v.box.width() * v.box.height() * hit / (n * n)).epsilon(0.03));
        }
    }
}

TEST_CASE("views share their stations and tangencies are recognised on the bracket") {
    const Document d = opened(demo("roller-bracket.dxf"));
    const Figure& f = d.model().figure;
    std::map<RelationKind, int> n;
    for (const Relation& r : f.relations) ++n[r.kind];
    for (RelationKind k : {RelationKind::coincident, RelationKind::horizontal, RelationKind::vertical,
                           RelationKind::tangent, RelationKind::station, RelationKind::on_circle})
        CHECK(n[k] > 0);
    const auto stations = stationsOf(f);
    const auto top = std::find_if(stations.begin(), stations.end(), [](const Station& s) {
        return s.axis == Axis::z && std::abs(s.value - 14) < 1e-6;
    });
    REQUIRE(top != stations.end());
    CHECK(top->views.size() == 2); // the base's top in front and right view
}

TEST_CASE("as drawn, every equation of the figure holds") {
    for (const char* file : {"roller-bracket.dxf", "weight-pulley.dxf"}) {
        const Document d = opened(demo(file));
        const Figure& f = d.model().figure;
        for (const Equation& e : f.equations)
            if (e.level != Level::weak) CHECK(std::abs(evaluate(e, f.drawn, nullptr)) < 1e-6);
    }
}

TEST_CASE("an area's seed lies within it, be the area small or large") {
    for (double size : {0.05, 1.0, 400.0}) {
        INFO(size);
        const Figure f = figureOf(DxfText()
                                      .entities()
                                      .box(0, 0, 8 * size, 5 * size)
                                      .circle(2 * size, 2 * size, size)
                                      .line(4 * size, 0, 4 * size, 5 * size)
                                      .done());
        const auto areas = closedAreas(f, f.drawn);
        REQUIRE(areas.size() == 3);
        for (const ClosedArea& a : areas) {
            CHECK(a.contains(a.seed));
            for (const ClosedArea& b : areas) CHECK((&a == &b || !b.contains(a.seed)));
        }
    }
}

TEST_CASE("ellipses along either axis have half extents of their own") {
    DxfText t;
    t.entities().box(0, 0, 100, 20).box(0, 60, 100, 120).text(140, 0, "THIRD ANGLE PROJECTION");
    const auto ellipse = [&](double x, double y, double mx, double my, double ratio) {
        t.group(0, "ELLIPSE").group(8, "OUTLINE").group(10, x).group(20, y).group(11, mx).group(21, my);
        t.group(40, ratio).group(41, 0.0).group(42, 2 * kPi);
    };
    ellipse(25, 90, 12, 0, 0.5);
    ellipse(75, 90, 0, 16, 0.25);
    const std::string path = temporary("ellipses.dxf");
    std::ofstream(path) << t.done();
    const Document d = opened(path);
    const Figure& f = d.model().figure;
    std::vector<Vec2> halves;
    for (const FigureCurve& c : f.curves)
        if (c.onEllipse()) halves.push_back({f.drawn[c.half_u], f.drawn[c.half_v]});
    REQUIRE(halves.size() == 2);
    CHECK(halves[0].x == Approx(12));
    CHECK(halves[0].y == Approx(6));
    CHECK(halves[1].x == Approx(4));
    CHECK(halves[1].y == Approx(16));
}

TEST_CASE("a place level with the middle of a circle lies within it or beside it") {
    // A full circle ends a few digits below where it begins; the places between the two are met in practice,
    // since seeds of areas stand on axes.
    for (double centre : {15.0, 0.1, 71.3}) {
        const Loop loop{{0, 0, 1, false, Arc{{centre, centre}, 11.5, 0, 2 * kPi}}};
        double y = centre;
        for (int i = 0; i < 6; ++i, y = std::nextafter(y, -1e9)) {
            CHECK(insideLoop(loop, {centre, y}));
            CHECK_FALSE(insideLoop(loop, {centre - 12.3, y}));
            CHECK_FALSE(insideLoop(loop, {centre + 12.3, y}));
        }
    }
}

TEST_CASE("holes of one size are tied in a chain, those of another stand alone") {
    DxfText t;
    t.entities().box(0, 0, 200, 80);
    const std::vector<double> radii{5, 7, 5, 5, 7, 9, 5.5};
    for (size_t i = 0; i < radii.size(); ++i) t.circle(20 + 25.0 * double(i), 20 + 5.0 * double(i), radii[i]);
    const Figure f = figureOf(t.done());
    std::vector<std::pair<double, double>> tied;
    for (const Relation& r : f.relations)
        if (r.kind == RelationKind::equal)
            tied.emplace_back(f.drawn[f.curves[r.curves[0]].radius], f.drawn[f.curves[r.curves[1]].radius]);
    CHECK(tied.size() == 3); // three of the four of 5, one of the two of 7
    for (const auto& [a, b] : tied) CHECK(a == Approx(b));
}

TEST_CASE("where an arc meets a line at its quadrant, the end stays level with the centre as it stands") {
    DxfText t; // a slot whose ends are half circles, and a corner cut by an arc that ends anywhere
    t.entities().line(10, 10, 40, 10).line(10, 30, 40, 30);
    t.arc(40, 20, 10, -90, 90).arc(10, 20, 10, 90, 270);
    const Figure slot = figureOf(t.done());
    const auto onCircle = [](const Figure& f) {
        return std::ranges::count(f.equations, EquationKind::point_on_circle, &Equation::kind);
    };
    CHECK(onCircle(slot) == 0);
    DxfText u;
    u.entities().line(0, 0, 50, 0).line(50, 0, 50, 30).line(0, 0, 0, 6);
    const double reach = std::sqrt(50.0 * 50 - 30 * 30); // an arc about (50, -20) through (50, 30)
    u.line(0, 6, 50 - reach, 10).arc(50, -20, 50, 90, positiveAngle(std::atan2(30, -reach)) * 180 / kPi);
    const Figure corner = figureOf(u.done());
    CHECK(onCircle(corner) == 1);
}

TEST_CASE(
    "the outermost places of a circle are marks, level with its middle and its sides, and no smooth joints") {
    const Document d = opened(demo("hinge-block.dxf"));
    const Figure& f = d.model().figure;
    int circles = 0;
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const auto* a = std::get_if<Arc>(&f.curves[i].drawn);
        if (!a || !a->full()) continue;
        const FigureView& v = *f.viewById(f.curves[i].view);
        ++circles;
        for (const bool right : {true, false})
            for (const double side : {-1.0, 1.0}) {
                const double at = (right ? a->centre.x : a->centre.y) + side * a->radius;
                const double middle = right ? a->centre.y : a->centre.x;
                INFO("circle of R" << a->radius << " at " << a->centre.x << ", " << a->centre.y << ", place "
                                   << at);
                // Where another line stands at the same place with the same unknowns they are one mark.
                const auto mark = std::ranges::find_if(f.marks, [&](const Mark& m) {
                    return m.view == v.view && m.axis == (right ? v.axes.right : v.axes.up) &&
                           m.terms.size() == 2 && m.terms[1].variable == f.curves[i].radius &&
                           m.terms[1].factor == side;
                });
                REQUIRE(mark != f.marks.end());
                CHECK(mark->value == Approx(at));
                CHECK_FALSE(mark->smooth);
                for (const double other : {middle, middle - a->radius, middle + a->radius})
                    CHECK(std::ranges::any_of(mark->others,
                                              [&](double o) { return std::abs(o - other) < 1e-9; }));
            }
    }
    CHECK(circles >= 2);
}

TEST_CASE("the outermost places of an ellipse along the axes are marks, seen at its middle and its ends") {
    DxfText t;
    t.entities().box(0, 0, 100, 60);
    t.group(0, "ELLIPSE").group(8, "OUTLINE");
    t.group(10, 50).group(20, 30).group(11, 30).group(21, 0).group(40, 0.5).group(41, 0).group(42, 2 * kPi);
    const Figure f = figureOf(t.done());
    const auto level = [&](Axis axis, double value) {
        const auto m = std::ranges::find_if(
            f.marks, [&](const Mark& k) { return k.axis == axis && std::abs(k.value - value) < 1e-9; });
        INFO(value);
        REQUIRE(m != f.marks.end());
        return m->others;
    };
    const FigureView& v = f.views.front();
    const auto has = [](const std::vector<double>& all, std::vector<double> expected) {
        return std::ranges::all_of(expected, [&](double e) {
            return std::ranges::any_of(all, [&](double o) { return std::abs(o - e) < 1e-9; });
        });
    };
    CHECK(has(level(v.axes.right, 100), {0, 60})); // the ends of the border's side
    CHECK(has(level(v.axes.up, 60), {0, 100}));
    for (double x : {20.0, 80.0}) CHECK(has(level(v.axes.right, x), {15, 30, 45}));
    for (double y : {15.0, 45.0}) CHECK(has(level(v.axes.up, y), {20, 50, 80}));
}
