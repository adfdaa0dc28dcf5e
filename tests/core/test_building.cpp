#include "support/samples.h"

#include "core/base/cover.h"
#include "core/building/material.h"
#include "core/building/mesh.h"
#include "core/building/solid.h"
#include "core/delivering/step_file.h"
#include "core/proofing/proof.h"

#include <filesystem>
#include <fstream>

using namespace prism;
using namespace prism::test;

namespace {

/// Plate 80 x 50 x 20 with a through hole of diameter 10 at (20, 12), drawn as front and top view.
Figure plate() {
    NoProgress quiet;
    DxfText t;
    t.entities().box(0, 0, 80, 20).line(15, 0, 15, 20, "HIDDEN").line(25, 0, 25, 20, "HIDDEN");
    t.box(0, 60, 80, 110).circle(20, 72, 5).text(100, -20, "THIRD ANGLE");
    const Drawing d = drawn(t.done());
    const CleanSheet s = clean(d, {});
    return buildFigure(d, s, findViews(d, s, {}, quiet));
}

Step through(Role view, std::vector<Vec2> areas, Operation o = Operation::add) {
    Step s;
    s.view = view, s.areas = std::move(areas), s.operation = o, s.reach = Reach::through;
    return s;
}

double volume(const Figure& f, const std::vector<Step>& steps) {
    NoProgress quiet;
    const BuildResult r = build(f, steps, quiet);
    for (const StepReport& s : r.steps) {
        INFO(s.message);
        CHECK(s.ok);
    }
    CHECK(r.measure.valid);
    return r.measure.volume;
}

constexpr double kPlate = 80 * 50 * 20, kHole = kPi * 25 * 20;

} // namespace

TEST_CASE("extruding through, cutting and intersecting give the closed forms") {
    const Figure f = plate();
    const Step whole = through(Role::top, {{50, 25}, {20, 12}});
    CHECK(volume(f, {whole}) == Approx(kPlate).epsilon(1e-12));
    CHECK(volume(f, {through(Role::top, {{50, 25}})}) == Approx(kPlate - kHole).epsilon(1e-9));
    CHECK(volume(f, {whole, through(Role::top, {{20, 12}}, Operation::cut)}) ==
          Approx(kPlate - kHole).epsilon(1e-9));
    CHECK(volume(f, {whole, through(Role::top, {{20, 12}}, Operation::intersect)}) ==
          Approx(kHole).epsilon(1e-9));
}

TEST_CASE("the reach may be a value, a mark in another view, or both sides of a middle") {
    const Figure f = plate();
    Step s = through(Role::top, {{50, 25}, {20, 12}});
    s.reach = Reach::between;
    s.to = {Bound::Kind::value, {}, 7};
    CHECK(volume(f, {s}) == Approx(80 * 50 * 7));
    s.to = {};
    s.from = {Bound::Kind::value, {}, 4}; // from the far end back by four
    CHECK(volume(f, {s}) == Approx(80 * 50 * 4));
    s.from = {Bound::Kind::mark, {Role::front, {40, 0}}, 0};
    s.to = {Bound::Kind::mark, {Role::front, {40, 20}}, 0};
    CHECK(volume(f, {s}) == Approx(kPlate));
    s.reach = Reach::both;
    s.from = {}, s.to = {Bound::Kind::value, {}, 6};
    CHECK(volume(f, {s}) == Approx(80 * 50 * 6));
}

TEST_CASE("a revolved area gives Pappus' volume, whole and in part") {
    const Figure f = plate();
    Step s;
    s.kind = StepKind::revolve, s.view = Role::top, s.areas = {{50, 25}, {20, 12}};
    s.axis = {Role::top, {40, 0}}; // level line along the plate's edge
    CHECK(volume(f, {s}) == Approx(kPi * 50 * 50 * 80).epsilon(1e-9));
    s.angle = kPi / 2;
    CHECK(volume(f, {s}) == Approx(kPi * 50 * 50 * 80 / 4).epsilon(1e-9));
    s.axis_upright = true, s.angle = 2 * kPi, s.axis = {Role::top, {0, 25}};
    CHECK(volume(f, {s}) == Approx(kPi * 80 * 80 * 50).epsilon(1e-9));
}

TEST_CASE("a cut goes through every body before it and none after it") {
    const Figure f = plate();
    Step low = through(Role::top, {{50, 25}, {20, 12}}), high = low;
    low.reach = high.reach = Reach::between;
    low.to = {Bound::Kind::value, {}, 8};
    high.from = {Bound::Kind::value, {}, 5}; // the upper five of twenty; a gap stays between the two
    const Step hole = through(Role::top, {{20, 12}}, Operation::cut);
    CHECK(volume(f, {low, high, hole}) == Approx(80 * 50 * 13 - kPi * 25 * 13).epsilon(1e-9));
    CHECK(volume(f, {low, hole, high}) == Approx(80 * 50 * 13 - kPi * 25 * 8).epsilon(1e-9));
    // What nothing is left of does not stand in the way of what comes after.
    const Step all = through(Role::top, {{50, 25}, {20, 12}}, Operation::cut);
    CHECK(volume(f, {low, all, high}) == Approx(80 * 50 * 5).epsilon(1e-9));
}

TEST_CASE("a step that cannot be done says why and the others go on") {
    const Figure f = plate();
    NoProgress quiet;
    Step cut = through(Role::top, {{20, 12}}, Operation::cut), nowhere = through(Role::top, {{500, 500}}),
         noView = through(Role::left, {{1, 1}}), off = through(Role::top, {{20, 12}}, Operation::cut);
    off.off = true;
    const BuildResult r =
        build(f, {cut, through(Role::top, {{50, 25}, {20, 12}}), nowhere, noView, off}, quiet);
    CHECK_FALSE(r.steps[0].ok);
    CHECK(r.steps[0].message.find("nothing yet to cut") != std::string::npos);
    CHECK(r.steps[1].ok);
    CHECK(r.steps[2].message.find("no closed area") != std::string::npos);
    CHECK(r.steps[3].message.find("no left view") != std::string::npos);
    CHECK(r.steps[4].ok);
    CHECK(r.measure.volume == Approx(kPlate));
}

TEST_CASE("the proof of the right solid is clean; a wrong one shows what is missing and what is too much") {
    const Figure f = plate();
    NoProgress quiet;
    const auto proofOf = [&](const std::vector<Step>& steps) {
        const auto p = prove(f, build(f, steps, quiet).shape, quiet);
        REQUIRE(p);
        return *p;
    };
    CHECK(proofOf({through(Role::top, {{50, 25}})}).clean());
    const Proof noHole = proofOf({through(Role::top, {{50, 25}, {20, 12}})});
    CHECK(noHole.missing == 3); // the circle and its two hidden lines
    CHECK(noHole.extra == 0);
    double length = 0;
    for (const ViewProof& v : noHole.views) length += v.missing_length;
    CHECK(length == Approx(kPi * 10 + 40).epsilon(1e-9));
    Step low = through(Role::top, {{50, 25}});
    low.reach = Reach::between, low.to = {Bound::Kind::value, {}, 19};
    const Proof tooLow = proofOf({low});
    CHECK(tooLow.extra > 0);
    CHECK(tooLow.missing > 0);
}

TEST_CASE("what covers a line is found to its ends") {
    const Curve s = Segment{{0, 0}, {10, 0}}, a = Segment{{-1, 0}, {4, 0}}, b = Segment{{6, 0}, {11, 0}};
    const auto gaps = uncovered(s, {&a, &b}, 1e-3);
    REQUIRE(gaps.size() == 1);
    CHECK(gaps[0].from == Approx(0.4));
    CHECK(gaps[0].to == Approx(0.6));
    const Curve ring = Arc{{0, 0}, 5, 0, 2 * kPi}, half = Arc{{0, 0}, 5, 0, kPi},
                other = Arc{{0, 0}, 5, kPi, kPi};
    CHECK(uncovered(ring, {&half, &other}, 1e-3).empty());
    CHECK(uncovered(ring, {&half}, 1e-3).size() == 1);
    const Curve beside = Segment{{0, 0.1}, {10, 0.1}};
    CHECK(uncovered(s, {&beside}, 1e-3).size() == 1);
}

TEST_CASE("STEP read back has the same volume, area and faces, and no half file is ever left") {
    const Figure f = plate();
    NoProgress quiet;
    const BuildResult r = build(f, {through(Role::top, {{50, 25}})}, quiet);
    const std::string path = temporary("plate.step");
    REQUIRE(writeStep(r.shape, path));
    const auto back = readStep(path);
    REQUIRE(back);
    const SolidMeasure m = measured(*back);
    CHECK(m.volume == Approx(r.measure.volume).epsilon(1e-9));
    CHECK(m.area == Approx(r.measure.area).epsilon(1e-9));
    CHECK(m.faces == 7);
    const std::string nowhere = temporary("no-such-folder") + "/x.step";
    const auto fails = writeStep(r.shape, nowhere);
    REQUIRE_FALSE(fails);
    CHECK_FALSE(std::filesystem::exists(nowhere));
    const std::string empty = temporary("nothing.step");
    const auto nothing = writeStep(TopoDS_Shape(), empty);
    REQUIRE_FALSE(nothing);
    CHECK(nothing.error().message.find("nothing.step") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(empty));
    std::ofstream(path) << "not step";
    CHECK_FALSE(readStep(path));
}

TEST_CASE("the mesh of a solid encloses nearly its volume and its normals point out") {
    const Figure f = plate();
    NoProgress quiet;
    const BuildResult r = build(f, {through(Role::top, {{50, 25}})}, quiet);
    const Mesh m = meshOf(r.shape, 0.01);
    REQUIRE(m.corners.size() % 3 == 0);
    double volume = 0;
    for (size_t i = 0; i < m.corners.size(); i += 3) {
        const auto &a = m.corners[i].at, &b = m.corners[i + 1].at, &c = m.corners[i + 2].at;
        const double n[3] = {double(b[1] - a[1]) * (c[2] - a[2]) - double(b[2] - a[2]) * (c[1] - a[1]),
                             double(b[2] - a[2]) * (c[0] - a[0]) - double(b[0] - a[0]) * (c[2] - a[2]),
                             double(b[0] - a[0]) * (c[1] - a[1]) - double(b[1] - a[1]) * (c[0] - a[0])};
        volume += (a[0] * n[0] + a[1] * n[1] + a[2] * n[2]) / 6;
        const auto& out = m.corners[i].normal;
        CHECK(n[0] * out[0] + n[1] * out[1] + n[2] * out[2] > 0);
    }
    CHECK(volume == Approx(r.measure.volume).epsilon(1e-3));
    CHECK(m.edges.size() == 12 + 2); // a box and the hole's two rims; its seam is no edge
    CHECK(meshOf({}, 0.1).empty());
}

TEST_CASE("a plate is weighed: mass, centre of gravity and moments of inertia of the closed form") {
    const Figure f = plate(); // 80 x 50 x 20 with a bore of 10 at (20, 12)
    NoProgress quiet;
    const BuildResult b = build(f, {through(Role::top, {{50, 25}, {20, 12}})}, quiet);
    const auto steel = materialNamed("steel s235jr");
    REQUIRE(steel);
    CHECK(steel->standard == "EN 10025-2");
    const auto w = weightOf(b.shape, *steel);
    REQUIRE(w);
    const double mass = 80 * 50 * 20 * 7850e-9;
    CHECK(w->mass == Approx(mass));
    CHECK(w->centre.x == Approx(40));
    CHECK(w->centre.y == Approx(25));
    CHECK(w->inertia[0][0] == Approx(mass * (50 * 50 + 20 * 20) / 12));
    CHECK(w->inertia[1][1] == Approx(mass * (80 * 80 + 20 * 20) / 12));
    CHECK(w->inertia[2][2] == Approx(mass * (80 * 80 + 50 * 50) / 12));
    CHECK(std::abs(w->inertia[0][1]) < 1e-9 * w->inertia[0][0]);
    CHECK(materialNamed("Bell metal = 8600")->density == 8600);
    CHECK_FALSE(materialNamed("Bell metal = -1"));
    CHECK_FALSE(materialNamed("unobtainium"));
    CHECK_FALSE(weightOf({}, *steel));
}
