#include "support/bracket.h"
#include "support/samples.h"

#include "core/project/picking.h"

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
