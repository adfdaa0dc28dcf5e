#include "core/project/part_links.h"
#include "support/bracket.h"
#include "support/samples.h"

#include "core/project/picking.h"

#include <fmt/format.h>
#include <fstream>

using namespace prism;
using namespace prism::test;

namespace {

struct Bench {
    Document document;
    explicit Bench(const char* file) : document(opened(demo(file))) {}
    const Model& model() const { return document.model(); }
    /// Sheet place of a point in a view's model coordinates, as the figure now stands.
    Vec2 sheet(Role view, Vec2 p) const { return model().figure.viewNamed(view)->to_model.inverse()(p); }
    void set(const std::string& name, double value) {
        NoProgress quiet;
        Choices c = document.choices();
        c.numbers[name].value = value;
        REQUIRE(document.apply("Change", c, quiet));
    }
};

} // namespace

TEST_CASE("a click inside an outline finds the area under it, and none beside the views") {
    const Bench b("roller-bracket.dxf");
    const ClosedArea* bore = areaAt(b.model(), b.sheet(Role::front, {42, 62}));
    REQUIRE(bore);
    CHECK(bore->area == Approx(kPi * 64));
    CHECK(areaAt(b.model(), b.sheet(Role::top, {78, 14}))->area == Approx(kPi * 4.5 * 4.5));
    CHECK_FALSE(areaAt(b.model(), b.sheet(Role::front, {-10, 5})));
    CHECK_FALSE(areaAt(b.model(), {-1000, -1000}));
}

TEST_CASE("an area picked on a driven sheet is kept by a point as drawn") {
    Bench b("roller-bracket.dxf");
    b.set("x3", 60); // the bore and its rounded end go to the right
    const ClosedArea* bore = areaAt(b.model(), b.sheet(Role::front, {60, 62}));
    REQUIRE(bore);
    CHECK(bore->area == Approx(kPi * 64));
    const Vec2 seed = seedAsDrawn(b.model(), *bore);
    CHECK(distance(seed, {42, 62}) < 8);
    Step s;
    s.view = Role::front, s.areas = {seed};
    const auto again = resolveAreas(b.model().figure, AreaSets(b.model().figure), s);
    REQUIRE(again);
    CHECK(again->areas.at(0).contains({60, 62}));
}

TEST_CASE("the mark nearest to a click is found, within reach and by its axis") {
    const Bench b("roller-bracket.dxf");
    const auto end = markNear(b.model(), b.sheet(Role::front, {120.3, 4}), 1, {});
    REQUIRE(end);
    CHECK(end->axis == Axis::x);
    CHECK(end->value == Approx(120));
    CHECK(end->ref.view == Role::front);
    CHECK_FALSE(markNear(b.model(), b.sheet(Role::front, {66, 45}), 0.5, {}));
    // Only marks that say a depth, and not in the view the step starts from.
    const auto depth = markNear(b.model(), b.sheet(Role::top, {27, 10.4}), 1, {Axis::y, Role::front});
    REQUIRE(depth);
    CHECK(depth->axis == Axis::y);
    CHECK(depth->value == Approx(10));
    CHECK_FALSE(markNear(b.model(), b.sheet(Role::top, {27, 10.4}), 1, {Axis::y, Role::top}));
    const double z = resolveMark(b.model().figure, depth->ref, Axis::y).value();
    CHECK(z == Approx(10));
}

TEST_CASE("a mark picked on a driven sheet stands for the same feature as drawn") {
    Bench b("roller-bracket.dxf");
    b.set("y6", 13); // the upright goes back by 3
    const auto face = markNear(b.model(), b.sheet(Role::top, {27, 13}), 0.5, {Axis::y, Role::front});
    REQUIRE(face);
    CHECK(face->value == Approx(13));
    CHECK(face->ref.at.y == Approx(10)); // as drawn
}

TEST_CASE("a centre line is picked before the line of the part beside it") {
    const Bench b("weight-pulley.dxf");
    const SolvedSheet now = solvedSheet(b.model());
    const auto axis = axisNear(b.model(), now, Role::front, b.sheet(Role::front, {64, 55.3}), 2);
    REQUIRE(axis);
    CHECK_FALSE(axis->upright);
    CHECK(axis->ref.at.y == Approx(55));
    CHECK(b.model().sheet.entity_roles[axis->entity] == LineRole::centre);
    const auto rim = axisNear(b.model(), now, Role::front, b.sheet(Role::front, {12.2, 100}), 2);
    REQUIRE(rim);
    CHECK(rim->upright);
    CHECK_FALSE(axisNear(b.model(), now, Role::left, b.sheet(Role::front, {64, 55}), 2));
}

TEST_CASE("a centre line without a mark on it stays in the middle when the part is driven") {
    // A turned pin drawn without any corner on its axis.
    DxfText t;
    t.entities().box(0, 0, 60, 20).line(-5, 10, 65, 10, "CENTRE");
    t.box(0, 0, 60, 20)
        .circle(100, 10, 10)
        .dimension(100, 0, 100, 20, 120, 0, 90)
        .text(0, -40, "THIRD ANGLE");
    const std::string path = temporary("pin.dxf");
    std::ofstream(path) << t.done();
    Document d = opened(path);
    NoProgress quiet;
    Step s;
    s.kind = StepKind::revolve, s.areas = {{30, 15}}, s.axis = {Role::front, {30, 10}};
    Choices c = d.choices();
    c.steps = {s};
    REQUIRE(d.apply("Build", c, quiet));
    CHECK(d.model().build.measure.volume == Approx(kPi * 100 * 60).epsilon(1e-9));
    REQUIRE(d.model().ledger.entries.size() == 1);
    c.numbers[d.model().ledger.entries[0].name].value = 26;
    REQUIRE(d.apply("Change", c, quiet));
    CHECK(d.model().build.measure.volume == Approx(kPi * 13 * 13 * 60).epsilon(1e-9));
    CHECK(d.model().proof->clean());
}

TEST_CASE("lines, circles and places are picked where they now are, and kept as drawn") {
    Bench b("roller-bracket.dxf");
    const auto edge = lineNear(b.model(), b.sheet(Role::front, {120.2, 4}), 1);
    REQUIRE(edge);
    CHECK(edge->ref.view == Role::front);
    CHECK(distance(edge->ref.at, {120, 4}) < 1e-6);
    CHECK(boxOf(b.model().drawing->entities[static_cast<size_t>(edge->entity)].curves.at(0)).width() ==
          Approx(0).margin(1e-9));
    CHECK_FALSE(lineNear(b.model(), b.sheet(Role::front, {66, 45}), 0.5));
    CHECK(isOnPart(b.model(), b.sheet(Role::front, {120.2, 4}), 0.5));
    CHECK_FALSE(isOnPart(b.model(), b.sheet(Role::front, {121.2, 4}), 0.5));
    CHECK(isOnPart(b.model(), b.sheet(Role::front, {42.1, 62.1}), 0.5)); // the centre of the bore
    const auto bore = circleRound(b.model(), b.sheet(Role::front, {45, 60}));
    REQUIRE(bore);
    CHECK(distance(bore->at, {42, 62}) < 1e-6);
    CHECK_FALSE(circleRound(b.model(), b.sheet(Role::front, {45, 75})));
    CHECK(placeIn(b.model(), b.sheet(Role::top, {30, 40}))->view == Role::top);
    CHECK_FALSE(placeIn(b.model(), {-1000, -1000}));
    b.set("x3", 60); // the bore and its rounded end go 18 to the right
    CHECK_FALSE(circleRound(b.model(), b.sheet(Role::front, {42, 62})));
    const auto moved = circleRound(b.model(), b.sheet(Role::front, {63, 60}));
    REQUIRE(moved);
    CHECK(distance(moved->at, {42, 62}) < 1e-6);
    const auto rim = lineNear(b.model(), b.sheet(Role::front, {60, 70.1}), 1);
    REQUIRE(rim);
    CHECK(distance(rim->ref.at, {42, 70}) < 1e-6);
    const auto place = placeIn(b.model(), b.sheet(Role::front, {60, 62}));
    REQUIRE(place);
    CHECK(distance(place->at, {42, 62}) < 1e-4);
}

TEST_CASE("of circles in each other the smallest round the place is meant") {
    DxfText t;
    t.entities().box(0, 0, 60, 40).circle(30, 20, 15).circle(30, 20, 6).circle(38, 20, 2);
    t.box(0, 60, 60, 80).text(0, -40, "THIRD ANGLE");
    const std::string path = temporary("rings.dxf");
    std::ofstream(path) << t.done();
    const Document d = opened(path);
    const Affine2 sheet = d.model().figure.viewNamed(Role::front)->to_model.inverse();
    const Vec2 centre = circleRound(d.model(), sheet({30, 20}))->at;
    CHECK(circleRound(d.model(), sheet({33, 21}))->at == centre);
    CHECK(distance(circleRound(d.model(), sheet({38.5, 20}))->at, centre + Vec2{8, 0}) < 1e-9);
    CHECK(circleRound(d.model(), sheet({41, 20}))->at == centre);
    CHECK_FALSE(circleRound(d.model(), sheet({47, 20})));
    CHECK(circleRound(d.model(), sheet({45, 20}))->at == centre); // on the line itself
}

TEST_CASE("parts of the solid are told by kind, size and where they come from, and named for steps") {
    DxfText t; // a turned plug: a cylinder, a cone, a rounded end and a groove of half a torus
    t.layer("CENTRE", "CENTER").entities();
    t.line(0, 10, 20, 10)
        .line(20, 10, 30, 6)
        .line(30, 6, 40, 6)
        .arc(40, 0, 6, 0, 90)
        .line(-5, 0, 55, 0, "CENTRE");
    t.line(0, 0, 0, 10).line(0, 0, 46, 0);
    t.circle(-40, 0, 10).text(0, -60, "THIRD ANGLE");
    const std::string path = temporary("plug.dxf");
    std::ofstream(path) << t.done();
    Document d = opened(path);
    NoProgress quiet;
    Step s;
    s.kind = StepKind::revolve, s.areas = {{10, 5}}, s.axis = {Role::front, {25, 0}}, s.name = "plug";
    Choices c = d.choices();
    c.steps = {s};
    REQUIRE(d.apply("Build", c, quiet));
    REQUIRE(d.model().build.ok());
    CHECK(d.model().build.measure.volume ==
          Approx(kPi * (100 * 20 + 10 * (100 + 60 + 36) / 3.0 + 36 * 10 + 2 * 216 / 3.0)));
    std::map<std::string, PartRow> faces;
    for (const PartRow& r : rowsOf(d.model(), SolidPart::Kind::face)) {
        faces[r.kind + r.size.substr(0, 8)] = r;
        CHECK(r.from.find("step 1 \"plug\"") == 0);
        const auto pick = pickOf(d.model(), r.part);
        REQUIRE(pick);
        REQUIRE(pick->place); // the place lies on the face: no nearer and no farther
        const auto again = pickOf(d.model(), r.part);
        CHECK(again == pick);
    }
    REQUIRE(faces.size() == 5);
    int cylinders = 0;
    for (const auto& [key, r] : faces) {
        if (r.kind == "cylinder" && r.size.find("radius 10 mm") == 0) {
            ++cylinders;
            CHECK(r.size == fmt::format("radius 10 mm, {:.2f} mm²", 2 * kPi * 10 * 20));
            CHECK(r.from == "step 1 \"plug\", along a line of the front view");
        }
        if (r.kind == "cylinder" && r.size.find("radius 6 mm") == 0) ++cylinders;
        if (r.kind == "sphere") {
            CHECK(r.size == fmt::format("radius 6 mm, {:.2f} mm²", 2 * kPi * 36));
            CHECK(r.from == "step 1 \"plug\", along an arc of the front view");
        }
        if (r.kind == "cone") // its angle, and the slant height times the mean circumference
            CHECK(r.size == fmt::format("{:.6g}°, {:.2f} mm²", 2 * std::atan(0.4) * 180 / kPi,
                                        kPi * 16 * std::hypot(10, 4)));
    }
    CHECK(cylinders == 2);
    const std::vector<PartRow> edges = rowsOf(d.model(), SolidPart::Kind::edge);
    CHECK(std::ranges::count_if(edges, [](const PartRow& r) { return r.kind == "circular edge"; }) == 4);
    CHECK(std::ranges::any_of(edges, [](const PartRow& r) {
        return r.kind == "circular edge" && r.size == fmt::format("radius 10 mm, {:.2f} mm long", 20 * kPi) &&
               r.from == "between plane and cylinder";
    }));
    CHECK_FALSE(pickOf(d.model(), {SolidPart::Kind::face, 99}));
}
