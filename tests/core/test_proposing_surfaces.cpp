#include "core/project/propose_for.h"
#include "core/proofing/proof.h"
#include "support/integral.h"
#include "support/step_block.h"

#include <catch2/catch.hpp>
#include <fstream>
#include <functional>
#include <random>

// Proposals with surfaces that no area drawn straight through has: cones, oblique planes, flats.
using namespace prism;
using namespace prism::test;

namespace {

struct Made {
    Document document;
    Proposal proposal;
};

Made proposed(const std::string& dxf) {
    const std::string path = temporary("surfaces.dxf");
    std::ofstream(path) << dxf;
    Document d = opened(path);
    NoProgress quiet;
    auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    Choices c = d.choices();
    c.steps = p->steps;
    REQUIRE(d.apply("Propose", c, quiet));
    return {std::move(d), std::move(*p)};
}

bool uses(const Made& m, StepKind kind) {
    return std::ranges::any_of(m.proposal.steps, [&](const Step& s) { return s.kind == kind; });
}

DxfText sheet() {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").layer("CENTRE", "CENTER");
    t.entities();
    return t;
}

/// A block of l x w x h of which one upper corner is cut off, a, b and c along X, Y and Z from it; front, top
/// and right view, third angle. The corner is the right one at the back or in front.
std::string cutBlock(double l, double w, double h, double a, double b, double c, bool back) {
    DxfText t = sheet();
    const double top = h + 30, side = l + 30, y = back ? w : 0, in = back ? -1 : 1;
    t.box(0, 0, l, h).box(0, top, l, top + w).box(side, 0, side + w, h);
    t.line(l - a, h, l, h - c, back ? "HIDDEN" : "OUTLINE");
    t.line(l - a, top + y, l, top + y + in * b);
    t.line(side + y + in * b, h, side + y, h - c);
    t.text(side, top, "THIRD ANGLE PROJECTION");
    return t.done();
}

/// A plate of l x w x t with a cone on it, from the radius r0 to r1 over the height c, and a bore of radius r
/// through both; front and top view.
std::string conePlate(double l, double w, double t0, double r0, double r1, double c, double r) {
    DxfText t = sheet();
    const double x = 0.45 * l, y = 0.5 * w, top = t0 + c + 30, side = l + 30;
    const auto from = [&](double at, double centre, double width) {
        t.box(at, 0, at + width, t0);
        for (double s : {-1.0, 1.0}) {
            t.line(at + centre + s * r0, t0, at + centre + s * r1, t0 + c);
            t.line(at + centre + s * r, 0, at + centre + s * r, t0 + c, "HIDDEN");
        }
        t.line(at + centre - r1, t0 + c, at + centre + r1, t0 + c);
    };
    from(0, x, l), from(side, y, w);
    t.box(0, top, l, top + w).circle(x, top + y, r0).circle(x, top + y, r1).circle(x, top + y, r);
    t.text(side, top, "THIRD ANGLE PROJECTION");
    return t.done();
}

} // namespace

TEST_CASE("blocks with a corner cut off askew are proposed exactly, with a facet", "[slow]") {
    std::mt19937 random(7);
    const auto between = [&](int lo, int hi) { return std::uniform_int_distribution(lo, hi)(random) * 0.5; };
    for (int i = 0; i < 10; ++i) {
        const double l = between(120, 200), w = between(80, 140), h = between(80, 130);
        const double a = between(20, static_cast<int>(l)), b = between(20, static_cast<int>(w)),
                     c = between(20, static_cast<int>(h));
        INFO(i << ": " << l << " x " << w << " x " << h << " less " << a << ", " << b << ", " << c);
        const Made m = proposed(cutBlock(l, w, h, a, b, c, i % 2 == 0));
        CHECK(m.document.model().build.measure.volume == Approx(l * w * h - a * b * c / 6).epsilon(1e-9));
        REQUIRE(m.document.model().proof);
        CHECK(m.document.model().proof->proved());
        CHECK(uses(m, StepKind::facet));
    }
}

TEST_CASE("cones on plates are proposed exactly", "[slow]") {
    std::mt19937 random(8);
    const auto between = [&](int lo, int hi) { return std::uniform_int_distribution(lo, hi)(random) * 0.5; };
    for (int i = 0; i < 10; ++i) {
        const double l = between(160, 220), w = between(110, 150), t = between(16, 40);
        const double r0 = between(32, 50), r1 = between(16, 28), c = between(20, 80), r = between(4, 12);
        INFO(i << ": " << l << " x " << w << " x " << t << ", cone " << r0 << " to " << r1 << " over " << c);
        const Made m = proposed(conePlate(l, w, t, r0, r1, c, r));
        const double volume = l * w * t + kPi * c / 3 * (r0 * r0 + r0 * r1 + r1 * r1) - kPi * r * r * (t + c);
        CHECK(m.document.model().build.measure.volume == Approx(volume).epsilon(1e-9));
        REQUIRE(m.document.model().proof);
        CHECK(m.document.model().proof->proved());
        CHECK(uses(m, StepKind::revolve));
    }
}

TEST_CASE("a shaft with a flat is turned and kept within the view that shows the flat") {
    // Radius 13.5 over 25.5 mm and 9.5 up to 49; from 3.75 to 21.75 all above 10.5 is taken off.
    const double R = 13.5, r = 9.5, z = 10.5, half = std::sqrt(R * R - z * z);
    DxfText t = sheet();
    t.line(0, -R, 25.5, -R).line(25.5, -R, 25.5, R).line(25.5, R, 21.75, R).line(21.75, R, 21.75, z);
    t.line(21.75, z, 3.75, z).line(3.75, z, 3.75, R).line(3.75, R, 0, R).line(0, R, 0, -R);
    t.line(25.5, -r, 49, -r).line(49, -r, 49, r).line(49, r, 25.5, r);
    const double top = 60, side = 90;
    t.line(0, top - R, 25.5, top - R).line(25.5, top - R, 25.5, top + R).line(25.5, top + R, 0, top + R);
    t.line(0, top + R, 0, top - R).line(25.5, top - r, 49, top - r).line(49, top - r, 49, top + r);
    t.line(49, top + r, 25.5, top + r).box(3.75, top - half, 21.75, top + half);
    t.circle(side, 0, R).circle(side, 0, r).line(side - half, z, side + half, z, "HIDDEN");
    t.text(side, top, "THIRD ANGLE PROJECTION");
    const Made m = proposed(t.done());
    const double segment = R * R * std::acos(z / R) - z * half;
    CHECK(m.document.model().build.measure.volume ==
          Approx(kPi * R * R * 25.5 + kPi * r * r * 23.5 - segment * 18).epsilon(1e-6));
    REQUIRE(m.document.model().proof);
    CHECK(m.document.model().proof->proved());
    CHECK(uses(m, StepKind::revolve));
}

namespace {

/// The text of a sheet of the tests' own.
std::string partSheet(const std::string& name) {
    return bytesOf(PRISM_TEST_DATA "/parts/" + name);
}

} // namespace

TEST_CASE(
    "flats that cut a shaft's end off in the side view leave its chamfer, and the step as another answer") {
    // Of radius 13.5 up to 65 and of 9 up to 96, there with a chamfer of 2. From 0 to 22 it has flats 20
    // apart; its end is drawn narrower by 2 over a length of 2, which may be a chamfer or a step.
    const Made m = proposed(partSheet("shaft-with-flats.dxf"));
    const auto between = [](double r) { // the part of a disc between the flats
        return kPi * r * r - 2 * (r * r * std::acos(10 / r) - 10 * std::sqrt(r * r - 100));
    };
    const double rest = 20 * between(13.5) + kPi * (13.5 * 13.5 * 43 + 81 * 29 + 2 * (81 + 63 + 49) / 3.0);
    const double chamfered = integral(0, 2, [&](double x) { return between(11.5 + x); });
    CHECK(m.document.model().build.measure.volume == Approx(rest + chamfered).epsilon(1e-6));
    REQUIRE(m.document.model().proof);
    CHECK(m.document.model().proof->proved());
    CHECK(uses(m, StepKind::chamfer));
    REQUIRE(m.proposal.alternatives.size() == 1);
    CHECK(m.proposal.alternatives[0].volume == Approx(rest + 2 * between(11.5)).epsilon(1e-6));
    CHECK(m.proposal.alternatives[0].differs.find("a step of 2 mm in place of the chamfer") == 0);
    const Difference& d = m.proposal.alternatives[0].difference;
    CHECK(d.less_volume == Approx(chamfered - 2 * between(11.5)).epsilon(1e-5));
    CHECK(d.more_volume < 1e-6);
    CHECK(std::abs(d.lo.x) < 1e-6);
    CHECK(d.hi.x == Approx(2));
    // From above the flats end straight or in a curve; the front and the left view show both alike.
    CHECK(std::ranges::find(d.settled_by, "a top view") != d.settled_by.end());
    CHECK(std::ranges::find(d.settled_by, "a right view") == d.settled_by.end());
    CHECK(d.settled_by.back() == "a section at X 1");
    CHECK(inWords(d).find(" material at X 0 to 2, Y 0 to 27, Z 3.5 to 23.5 mm; ") != std::string::npos);
}

TEST_CASE("a boss on a bored barrel is proposed exactly, bored itself as well, down into the barrel's bore",
          "[slow]") {
    // Drawn by another program: a barrel of radius 22.5 and 90 long, bored 15.5, with a boss of radius 11.5
    // at 61.5 that ends 40 above the axis; on the second sheet that has a bore of 8.
    const auto above = [](double radius,
                          double barrel) { // of a cylinder from the barrel's wall up, slice by slice
        return integral(-radius, radius, [&](double y) {
            return 2 * std::sqrt(radius * radius - y * y) * (40 - std::sqrt(barrel * barrel - y * y));
        });
    };
    const double whole = kPi * (22.5 * 22.5 - 15.5 * 15.5) * 90 + above(11.5, 22.5);
    for (const auto& [file, volume] : {std::pair{"boss-on-barrel.dxf", whole},
                                       std::pair{"bored-boss-on-barrel.dxf", whole - above(8, 15.5)}}) {
        INFO(file);
        const Made m = proposed(partSheet(file));
        CHECK(m.document.model().build.measure.volume == Approx(volume).epsilon(1e-5));
        REQUIRE(m.document.model().proof);
        CHECK(m.document.model().proof->proved());
    }
}

TEST_CASE("a cone on a plate is turned and the plate drawn through, slotted as well") {
    // Drawn by another program: plates of 106.5 x 65.5 x 11 and 105.5 x 71 x 15.5, a frustum on each with a
    // cylinder above, bored through; the second one with a slot of 30 x 10, 5 deep.
    const auto frustum = [](double low, double high, double up) {
        return kPi * up * (low * low + low * high + high * high) / 3;
    };
    const double plain = 106.5 * 65.5 * 11 + frustum(24.5, 12, 40) + kPi * 144 * 7.5 - kPi * 3.5 * 3.5 * 58.5,
                 slotted = 105.5 * 71 * 15.5 + frustum(22.5, 12, 33) + kPi * 144 * 12.5 -
                           kPi * 7.5 * 7.5 * 61 - 30 * 10 * 5;
    for (const auto& [file, volume] :
         {std::pair{"cone-on-plate.dxf", plain}, std::pair{"cone-on-slotted-plate.dxf", slotted}}) {
        INFO(file);
        const Made m = proposed(partSheet(file));
        CHECK(m.document.model().build.measure.volume == Approx(volume).epsilon(1e-6));
        CHECK(uses(m, StepKind::revolve));
        CHECK(m.proposal.steps.size() <= 4);
        REQUIRE(m.document.model().proof);
        CHECK(m.document.model().proof->proved());
    }
}

TEST_CASE("of the planes that slanted lines may lie in, those are faces with which every line is shown") {
    // Drawn by another program: 62 x 60 x 52 with two corners cut off and a hole of radius 6 upright.
    const Made m = proposed(partSheet("two-facets.dxf"));
    CHECK(m.document.model().build.measure.volume ==
          Approx(62.0 * 60 * 52 - 13.5 * 13 * 19 / 6 - 20.5 * 14.5 * 13.5 / 6 - kPi * 36 * 52).epsilon(1e-6));
    CHECK(std::ranges::count(m.proposal.steps, StepKind::facet, &Step::kind) == 2);
    REQUIRE(m.document.model().proof);
    CHECK(m.document.model().proof->proved());
}

TEST_CASE("a plane face is known by the line in which another one ends it") {
    // Drawn by another program: 91.5 x 46 x 40 with a hole of radius 8.5, one corner cut by a plane through
    // (53.5, 0, 40), (91.5, 0, 23.5) and (91.5, 13, 40), and a second one through (63, 0, 40),
    // (91.5, 0, 27) and (91.5, 14.5, 40), which leaves only a part of the first.
    const Made m = proposed(partSheet("facets-that-meet.dxf"));
    CHECK(std::ranges::count(m.proposal.steps, StepKind::facet, &Step::kind) == 2);
    // What is beyond either plane, slice by slice of X: of the corner Y < y0, Z > z0 of both triangles.
    const auto below = [](double x, double from, double y, double z) { // of one triangle at X, its legs
        const double t = (x - from) / (91.5 - from);
        return x > from ? std::pair{t * y, t * z} : std::pair{0.0, 0.0};
    };
    const double corner = integral(53.5, 91.5, [&](double x) {
        const std::pair<double, double> one = below(x, 53.5, 13, 16.5), other = below(x, 63, 14.5, 13);
        // The larger of two triangles at every Y, Z / z + Y / y = 1 being their borders.
        const auto deep = [](const std::pair<double, double>& legs, double y) {
            return legs.first > 0 ? legs.second * std::max(0.0, 1 - y / legs.first) : 0;
        };
        return integral(0, std::max(one.first, other.first),
                        [&](double y) { return std::max(deep(one, y), deep(other, y)); });
    });
    CHECK(m.document.model().build.measure.volume ==
          Approx(91.5 * 46 * 40 - kPi * 8.5 * 8.5 * 40 - corner).epsilon(1e-5));
    REQUIRE(m.document.model().proof);
    CHECK(m.document.model().proof->proved());
}

TEST_CASE("a boss on a flanged barrel is added to the turned body", "[slow]") {
    // Drawn by another program: a barrel of radius 22 and 89 long, bored 9, a flange of radius 32 and 11.5
    // thick, and a boss of radius 13 that ends 37 above the axis. The flange hides a part of the boss.
    const Made m = proposed(partSheet("boss-on-flanged-barrel.dxf"));
    const double boss = integral(
        -13, 13, [&](double y) { return 2 * std::sqrt(169 - y * y) * (37 - std::sqrt(22.0 * 22 - y * y)); });
    CHECK(m.document.model().build.measure.volume ==
          Approx(kPi * ((22 * 22 - 81) * 89 + (32 * 32 - 22 * 22) * 11.5) + boss).epsilon(1e-6));
    REQUIRE(m.document.model().proof);
    CHECK(m.document.model().proof->proved());
    const auto step = std::ranges::find(m.proposal.steps, std::string("boss"), &Step::name);
    REQUIRE(step != m.proposal.steps.end());
    CHECK(uses(m, StepKind::revolve));
    // It begins within the body, where both have more than a rim in common.
    CHECK(step->from.beyond.value < 0);
}

TEST_CASE("a boss nearly as wide as its bored barrel is added to it, and bored into it", "[slow]") {
    // Drawn by another program: a barrel of radius 27 and 84 long, bored 17.5; a boss of radius 21.5 that
    // ends 36 above the axis, with a bore of 4.5 whose wall ends at another depth in each view.
    const Made m = proposed(partSheet("wide-bored-boss-on-barrel.dxf"));
    const auto above = [](double radius, double barrel) {
        return integral(-radius, radius, [&](double y) {
            return 2 * std::sqrt(radius * radius - y * y) * (36 - std::sqrt(barrel * barrel - y * y));
        });
    };
    CHECK(m.document.model().build.measure.volume ==
          Approx(kPi * (27 * 27 - 17.5 * 17.5) * 84 + above(21.5, 27) - above(4.5, 17.5)).epsilon(1e-6));
    REQUIRE(m.document.model().proof);
    CHECK(m.document.model().proof->proved());
}

TEST_CASE("a hole that comes out of a sloping face is a hole through, and every line of it is proved") {
    // A wedge 107.5 long and 43.5 deep, 31 high up to 38.5, from there down to 13.5; a hole of radius 5
    // upright at 59.
    const Made m = proposed(partSheet("hole-in-slope.dxf"));
    const double slope = (31 - 13.5) / 69, middle = 31 - slope * (59 - 38.5);
    CHECK(m.document.model().build.measure.volume ==
          Approx((38.5 * 31 + 69 * 0.5 * (31 + 13.5)) * 43.5 - kPi * 25 * middle).epsilon(1e-6));
    CHECK(uses(m, StepKind::hole));
    REQUIRE(m.document.model().proof);
    CHECK(m.document.model().proof->proved());
}

TEST_CASE("a hole that ends in a sloping underside goes on to where that is farthest") {
    // 107.5 long and 43.5 deep; its underside rises from 0 to 17.5, its top is level at 31; a hole of
    // radius 5.
    const Made m = proposed(partSheet("hole-in-underside.dxf"));
    CHECK(m.document.model().build.measure.volume ==
          Approx(107.5 * (31 - 17.5 / 2) * 43.5 - kPi * 25 * (31 - 17.5 * 59 / 107.5)).epsilon(1e-6));
    const auto hole = std::ranges::find(m.proposal.steps, StepKind::hole, &Step::kind);
    REQUIRE(hole != m.proposal.steps.end());
    CHECK(hole->places.size() == 1); // its two circles in the top view, one of them hidden, are one
    REQUIRE(m.document.model().proof);
    CHECK(m.document.model().proof->proved());
}

TEST_CASE(
    "holes square to a slanted face are told by the auxiliary view, counterbored and blind ones as well") {
    const auto area = [](const std::vector<Vec2>& p) {
        double twice = 0;
        for (size_t i = 0; i < p.size(); ++i) twice += cross(p[i], p[(i + 1) % p.size()]);
        return 0.5 * twice;
    };
    const auto bored = [](double radius, double depth) { return kPi * radius * radius * depth; };
    // Drawn by another program: a plate 10.5 thick and 58.5 wide, bent up by 35 degrees, two holes in it and
    // a counterbored one in the arm; and a block 54 wide with a sloping top, a blind counterbored hole square
    // to that, another one upright.
    const double plate = area({{0, 0},
                               {55.5, 0},
                               {110.792763, 38.7164095},
                               {104.77021, 47.3175059},
                               {52.1893627, 10.5},
                               {0, 10.5}}) *
                             58.5 -
                         bored(3.5, 10.5) - bored(4.5, 10.5) - bored(9, 10.5) -
                         (bored(15.3, 4.2) - bored(9, 4.2)),
                 block = area({{0, 0}, {102, 0}, {102, 18}, {36.5, 50}, {0, 50}}) * 54 - bored(4, 50) -
                         bored(4, 14.5) - (bored(6.8, 5.4) - bored(4, 5.4));
    for (const auto& [file, volume] :
         {std::pair{"bent-plate.dxf", plate}, std::pair{"slanted-block.dxf", block}}) {
        INFO(file);
        const Made m = proposed(partSheet(file));
        CHECK(m.document.model().build.measure.volume == Approx(volume).epsilon(1e-6));
        CHECK(std::ranges::any_of(m.proposal.steps, [](const Step& s) {
            return s.kind == StepKind::hole && s.view.role == Role::auxiliary &&
                   s.hole.kind == HoleKind::counterbore;
        }));
        REQUIRE(m.document.model().proof);
        CHECK(m.document.model().proof->proved());
    }
}

TEST_CASE(
    "a cross hole that no view looks along is told by its walls in two views, where it meets round ones") {
    // What a hole of radius r takes from a round body of radius R, across its axis through the middle of it.
    const auto across = [](double r, double body) {
        return integral(
            -r, r,
            [&](double y) {
                return 4 * std::sqrt(std::max(0.0, r * r - y * y)) * std::sqrt(body * body - y * y);
            },
            40000);
    };
    // Drawn by another program. A hexagon 36 across flats and 9 high on a stem of radius 11, 57.5 long; bored
    // with radius 4, and across the stem with radius 2. And a shaft of radius 15, chamfered by 1 at both ends
    // of its 82, with a groove down to 11 from 18.5 to 53.5; a flat 11 long at radius 12; bored with radius
    // 3, widened to 5.25 for 3.6; and across the groove with radius 3, as wide as the bore that it meets.
    const double screw = 2 * std::sqrt(3.0) * 18 * 18 * 9 + kPi * 121 * 57.5 - kPi * 16 * 66.5 -
                         (across(2, 11) - across(2, 4)),
                 flat = 225 * std::acos(12 / 15.0) - 12 * std::sqrt(225 - 144.0),
                 ends = 2 * kPi * (225 - (225 + 15 * 14 + 196) / 3.0), crossing = 16 * 27 / 3.0,
                 shaft = kPi * (225 * 82 - (225 - 121) * 35) - ends - 11 * flat - kPi * 9 * 82 -
                         kPi * (5.25 * 5.25 - 9) * 3.6 - (across(3, 11) - crossing);
    for (const auto& [file, volume] :
         {std::pair{"screw-with-cross-hole.dxf", screw}, {"shaft-with-unseen-cross-hole.dxf", shaft}}) {
        INFO(file);
        const Made m = proposed(partSheet(file));
        CHECK(m.document.model().build.measure.volume == Approx(volume).epsilon(1e-5));
        CHECK(std::ranges::count_if(m.proposal.steps, lies) == 1);
        REQUIRE(m.document.model().proof);
        CHECK(m.document.model().proof->proved());
    }
}

TEST_CASE("a boss that stands on a slanted face is told by the auxiliary view, with the hole through both") {
    // Drawn by another program: a plate 14.5 thick and 51.5 wide, bent up by 35 degrees, the end of its arm
    // rounded with radius 8; on the arm a boss of radius 8.8, 8.5 high, bored through with radius 4; in the
    // plate two holes.
    const double arm = length(Vec2{75, 0} - Vec2{26.2604534, 34.127798}),
                 bend = 14.5 * std::tan(kPi * 35 / 360), plate = 14.5 * (85 + arm - bend) * 51.5,
                 corners = 2 * (1 - kPi / 4) * 64 * 14.5, boss = kPi * (8.8 * 8.8 - 16) * 8.5,
                 holes = kPi * (16 + 9 + 16) * 14.5;
    const Made m = proposed(partSheet("boss-on-slope.dxf"));
    CHECK(m.document.model().build.measure.volume == Approx(plate - corners + boss - holes).epsilon(1e-6));
    CHECK(std::ranges::any_of(m.proposal.steps, [](const Step& s) {
        return s.kind == StepKind::extrude && s.operation == Operation::add && s.view.role == Role::auxiliary;
    }));
    REQUIRE(m.document.model().proof);
    CHECK(m.document.model().proof->proved());
}

TEST_CASE("a facet cuts off what lies beyond its plane, and follows the numbers") {
    const std::string facet =
        R"({"kind": "facet", "name": "corner", "corners": [[60, 0, 20], [80, 15, 20], [80, 0, 8]], "side": [80, 0, 20]})";
    CHECK(volumeOf(block(), onBlock(facet)) == Approx(kBlock - 20.0 * 15 * 12 / 6).epsilon(1e-9));
    // What is on the other side is taken when the place says so, and the corner alone is left.
    CHECK(volumeOf(block(), onBlock(R"({"kind": "facet", "corners": [[60, 0, 20], [80, 15, 20], [80, 0, 8]],
                                        "side": [0, 50, 0]})")) == Approx(20.0 * 15 * 12 / 6).epsilon(1e-9));
    // Adding on that side alone, within nothing, is an intersection with it.
    CHECK(volumeOf(block(), onBlock(R"({"kind": "facet", "operation": "intersect", "corners": [[60, 0, 20],
                                        [80, 15, 20], [80, 0, 8]], "side": [80, 0, 20]})")) ==
          Approx(20.0 * 15 * 12 / 6).epsilon(1e-9));
    CHECK(told(block(), onBlock(R"({"kind": "facet", "corners": [[60, 0, 20], [70, 0, 20], [80, 0, 20]],
                                    "side": [80, 0, 0]})")) ==
          "the three corners of the plane lie on one line");
    CHECK(told(block(), onBlock(R"({"kind": "facet", "corners": [[60, 0, 20], [80, 15, 20], [80, 0, 8]],
                                    "side": [60, 0, 20]})")) ==
          "the place that says which side is taken lies in the plane itself");
    CHECK(wrongField(R"([{"kind": "facet", "corners": [[1, 2, 3]], "side": [0, 0, 0]}])")
              .find("step 1.corners: must be three places in space") != std::string::npos);
    CHECK(wrongField(R"([{"kind": "facet", "corners": [[1, 2, 3], [2, 2, 3], [1, 3, 4]]}])")
              .find("step 1.side: is needed") != std::string::npos);
}

TEST_CASE("holes of a section that no view tells the depth of are like those in its plane") {
    // A flange of radius 40 and 10 high on a hub of 20, with four holes; the section shows two of them.
    DxfText t = sheet();
    t.layer("HATCHING");
    const double top = 90;
    t.line(-40, 0, 40, 0).line(40, 0, 40, 10).line(40, 10, 20, 10).line(20, 10, 20, 30).line(20, 30, -20, 30);
    t.line(-20, 30, -20, 10).line(-20, 10, -40, 10).line(-40, 10, -40, 0);
    for (double s : {-1.0, 1.0}) t.line(s * 26, 0, s * 26, 10).line(s * 34, 0, s * 34, 10);
    t.circle(0, top, 40).circle(0, top, 20);
    for (int i = 0; i < 4; ++i) t.circle(30 * std::cos(i * kPi / 2), top + 30 * std::sin(i * kPi / 2), 4);
    for (const auto& [a, b] : {std::pair{-40.0, -34.0}, {-26.0, 26.0}, {34.0, 40.0}}) {
        std::vector<Vec2> l{{a, 0}, {b, 0}, {b, 10}, {a, 10}};
        if (b == 26) l = {{a, 0}, {b, 0}, {b, 10}, {20, 10}, {20, 30}, {-20, 30}, {-20, 10}, {a, 10}};
        t.group(0, "HATCH")
            .group(8, "HATCHING")
            .group(10, 0.0)
            .group(20, 0.0)
            .group(30, 0.0)
            .group(2, "LINES");
        t.group(70, "0").group(71, "0").group(91, "1");
        t.group(92, "2").group(72, "0").group(73, "1").group(93, std::to_string(l.size()));
        for (Vec2 p : l) t.group(10, p.x).group(20, p.y);
        t.group(97, "0").group(75, "0").group(76, "1").group(52, 45.0).group(41, 1.0).group(77, "0");
        t.group(78, "0").group(98, "0");
    }
    t.line(-50, top, 50, top, "CENTRE");
    for (double x : {-50.0, 50.0}) {
        t.line(x, top, x, top + 7).line(x, top + 7, x - 1, top + 4).line(x, top + 7, x + 1, top + 4);
        t.text(x - 1.5, top - 6, "A");
    }
    t.text(-14, 36, "SECTION A-A").text(70, 60, "THIRD ANGLE PROJECTION");
    const Made m = proposed(t.done());
    CHECK(m.document.model().build.measure.volume ==
          Approx(kPi * 1600 * 10 + kPi * 400 * 20 - 4 * kPi * 16 * 10).epsilon(1e-9));
    const auto hole = std::ranges::find(m.proposal.steps, StepKind::hole, &Step::kind);
    REQUIRE(hole != m.proposal.steps.end());
    CHECK(hole->places.size() == 4);
}

TEST_CASE("holes behind each other are each as deep as the views that show them agree on") {
    // A plate 106 x 56 x 30 with four blind holes of one size, each with a depth of its own: in either view
    // two of them stand behind each other, with one wall as deep as the deeper.
    struct Hole {
        double x, y, floor;
    };
    const std::vector<Hole> holes{{12, 12, 5}, {12, 44, 12.5}, {94, 12, 20}, {94, 44, 17}};
    for (const bool pointed : {false, true}) {
        DxfText t = sheet();
        const double tip = pointed ? 4 / std::tan(59 * kPi / 180) : 0;
        t.box(0, 0, 106, 30).box(0, 60, 106, 116).box(140, 0, 196, 30);
        for (const Hole& h : holes) {
            t.circle(h.x, 60 + h.y, 4);
            for (double at : {h.x, 140 + h.y}) {
                for (double s : {-4.0, 4.0}) {
                    t.line(at + s, h.floor, at + s, 30, "HIDDEN");
                    if (pointed) t.line(at + s, h.floor, at, h.floor - tip, "HIDDEN");
                }
                t.line(at - 4, h.floor, at + 4, h.floor, "HIDDEN");
            }
        }
        t.text(140, 60, "THIRD ANGLE PROJECTION");
        const Made m = proposed(t.done());
        double volume = 106 * 56 * 30;
        for (const Hole& h : holes) volume -= kPi * 16 * (30 - h.floor + tip / 3);
        CHECK(m.document.model().build.measure.volume == Approx(volume).epsilon(1e-9));
        REQUIRE(m.document.model().proof);
        CHECK(m.document.model().proof->proved());
        for (const Hole& h : holes) // which is how deep, not only all together
            CHECK(std::ranges::any_of(m.proposal.steps, [&](const Step& s) {
                return s.kind == StepKind::hole && s.places.size() == 1 &&
                       distance(s.places[0], {h.x, h.y}) < 1e-6 && s.to.mark.picked() &&
                       std::abs(resolveMark(m.document.model().figure, s.to.mark, Axis::z).value() -
                                h.floor) < 1e-6;
            }));
    }
}

TEST_CASE("smooth joints and hidden outlines do not mislead what the views are") {
    // Countersinks hidden in the front and side view: their lines alone are no views, nor is the outline
    // round them a set of lines between views.
    DxfText t = sheet();
    t.box(0, 0, 100, 20).box(0, 50, 100, 110).box(130, 0, 190, 20);
    for (double x : {15.0, 85.0})
        for (double y : {15.0, 45.0}) t.circle(x, 50 + y, 3).circle(x, 50 + y, 5.5);
    for (double x : {15.0, 85.0, 145.0, 175.0})
        for (double s : {-1.0, 1.0})
            t.line(x + s * 3, 0, x + s * 3, 17.5, "HIDDEN").line(x + s * 3, 17.5, x + s * 5.5, 20, "HIDDEN");
    for (double x : {15.0, 85.0, 145.0, 175.0}) t.line(x - 3, 17.5, x + 3, 17.5, "HIDDEN");
    t.text(130, 60, "THIRD ANGLE PROJECTION");
    const Made m = proposed(t.done());
    REQUIRE(m.document.model().views.views.size() == 3);
    const double cone = kPi * 2.5 / 3 * (9 + 3 * 5.5 + 5.5 * 5.5);
    CHECK(m.document.model().build.measure.volume ==
          Approx(100 * 60 * 20 - 4 * (kPi * 9 * 17.5 + cone)).epsilon(1e-9));
}
