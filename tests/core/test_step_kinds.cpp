#include "core/building/material.h"
#include "core/building/solid_parts.h"
#include "core/project/project_file.h"
#include "support/step_block.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <fstream>
#include <set>
#include <sstream>

// Every kind of step against closed forms. The part is a bearing block of the lens drive: 80 x 50 x 20, in
// front and top view.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

} // namespace

TEST_CASE("an extrusion reaches unequally to both sides of a mark, and past it") {
    const auto one = [](const std::string& reach) {
        return volumeOf(block(),
                        R"([{"kind": "extrude", "view": "front", "areas": [[40, 10]], )" + reach + "}]");
    };
    CHECK(
        one(R"("reach": "unequal", "from": {"mark": {"view": "top", "at": [0, 50]}}, "below": 12, "to": 5)") ==
        Approx(80 * 20 * 17));
    CHECK(one(R"("from": "outermost", "to": {"mark": {"view": "top", "at": [0, 50]}, "beyond": -8})") ==
          Approx(80 * 20 * 42));
    CHECK(one(R"("from": "outermost", "to": {"place": [40, 50, 10]})") == Approx(kBlock));
}

TEST_CASE("areas with a reach each make one step") {
    DxfText t = block();
    t.line(30, 0, 30, 20).line(50, 0, 50, 20);
    CHECK(volumeOf(t, R"([{"kind": "extrude", "view": "front", "areas": [[15, 10], [40, 10], [65, 10]],
        "tops": [10, {"mark": {"view": "top", "at": [0, 50]}}, {"value": 25}]}])") ==
          Approx(20 * (30 * 10 + 20 * 50 + 30 * 25)));
    CHECK(told(t, R"([{"kind": "extrude", "view": "front", "areas": [[15, 10], [40, 10]], "tops": [10]}])")
              .find("not every area") != std::string::npos);
}

TEST_CASE("sides that lean make a frustum") {
    const double t = std::tan(5 * kPi / 180), h = 20;
    // The integral of (80 - 2tz)(50 - 2tz) over z.
    const double volume = 4000 * h - 130 * t * h * h + 4 * t * t * h * h * h / 3;
    CHECK(volumeOf(block(), R"([{"kind": "extrude", "view": "top", "areas": [[40, 25]], "draft_deg": 5}])") ==
          Approx(volume).epsilon(1e-9));
}

TEST_CASE("an area is turned round an oblique line of the figure") {
    DxfText t;
    // A triangle of legs 30 and 40 turned round its longest side: 2 cones of radius 24 over 50.
    t.entities().line(0, 0, 40, 0).line(40, 0, 40, 30).line(40, 30, 0, 0).box(0, 60, 40, 110);
    CHECK(volumeOf(t, R"([{"kind": "revolve", "view": "front", "areas": [[30, 10]],
        "axis": {"view": "front", "at": [20, 15]}, "along_line": true}])") ==
          Approx(kPi * 24 * 24 * 50 / 3).epsilon(1e-9));
}

TEST_CASE("corners of an outline are left sharp, and rounded by a fillet with the radius of their arcs") {
    DxfText t; // a plate of 80 x 50 x 20 with two corners rounded by 6
    t.entities().box(0, 0, 80, 20).line(0, 60, 74, 60).line(80, 66, 80, 104).line(74, 110, 0, 110);
    t.line(0, 110, 0, 60).arc(74, 66, 6, 270, 0).arc(74, 104, 6, 0, 90);
    const std::string plate = R"({"kind": "extrude", "view": "top", "areas": [[40, 25]]SHARP})";
    const auto with = [&](const std::string& sharp, const std::string& more) {
        std::string s = plate;
        return "[" + s.replace(s.find("SHARP"), 5, sharp) + more + "]";
    };
    const double spandrel = (36 - kPi * 9) * 20;
    CHECK(volumeOf(t, with("", "")) == Approx(kBlock - 2 * spandrel));
    CHECK(volumeOf(t, with(R"(, "sharp": [[78.2, 48.2]])", "")) == Approx(kBlock - spandrel));
    const std::string both = R"(, "sharp": [[78.2, 48.2], [78.2, 1.8]])";
    CHECK(volumeOf(t, with(both, "")) == Approx(kBlock));
    const std::string corners =
        R"("edges": {"picks": [{"corner": {"view": "top", "at": [80, 50]}}, {"corner": {"view": "top", "at": [80, 0]}}]})";
    CHECK(volumeOf(t, with(both, R"(, {"kind": "fillet", )" + corners + "}")) ==
          Approx(kBlock - 2 * spandrel));
    // A corner that no arc rounds has no radius to take.
    CHECK(
        told(t,
             with(both,
                  R"(, {"kind": "fillet", "edges": {"picks": [{"corner": {"view": "top", "at": [0, 0]}}]}})"))
            .find("no arc rounds the corner") != std::string::npos);
}

TEST_CASE("a fillet that takes its radius from arcs rounds each corner as its own arc says") {
    DxfText t; // a plate of 80 x 50 x 20 with one corner rounded by 6 and one by 9
    t.entities().box(0, 0, 80, 20).line(0, 60, 74, 60).line(80, 66, 80, 101).line(71, 110, 0, 110);
    t.line(0, 110, 0, 60).arc(74, 66, 6, 270, 0).arc(71, 101, 9, 0, 90);
    CHECK(
        volumeOf(
            t,
            R"([{"kind": "extrude", "view": "top", "areas": [[40, 25]], "sharp": [[78.2, 1.8], [77.4, 47.4]]},
        {"kind": "fillet", "edges": {"picks": [{"corner": {"view": "top", "at": [80, 50]}}, {"corner": {"view": "top", "at": [80, 0]}}]}}])") ==
        Approx(kBlock - (1 - kPi / 4) * (36 + 81) * 20));
    // Without a radius and without a corner that says one nothing is rounded, and that is told.
    CHECK(told(block(), onBlock(R"({"kind": "fillet", "edges": {"which": "convex"}})"))
              .find("no radius is given") != std::string::npos);
}

TEST_CASE("edges are rounded and cut off by where they are seen end on, by place and by kind") {
    const auto taken = [](const std::string& step) { return kBlock - volumeOf(block(), onBlock(step)); };
    const double round = 1 - kPi / 4; // of the square of the radius
    CHECK(
        taken(
            R"({"kind": "fillet", "radius": 6, "edges": {"picks": [{"corner": {"view": "top", "at": [80, 50]}}]}})") ==
        Approx(round * 36 * 20));
    CHECK(taken(R"({"kind": "fillet", "radius": 3, "edges": {"picks": [{"place": [40, 0, 20]}]}})") ==
          Approx(round * 9 * 80));
    CHECK(taken(R"({"kind": "chamfer", "distance": 4, "edges": {"picks": [{"place": [40, 0, 20]}]}})") ==
          Approx(8 * 80));
    CHECK(
        taken(
            R"({"kind": "chamfer", "distance": 4, "second_distance": 2, "edges": {"picks": [{"place": [40, 0, 20]}]}})") ==
        Approx(4 * 80));
    // All twelve edges: what is left are a box, three pairs of slabs, quarter cylinders and a ball.
    const double r = 4, a = 80 - 2 * r, b = 50 - 2 * r, c = 20 - 2 * r;
    CHECK(taken(R"({"kind": "fillet", "radius": 4})") ==
          Approx(kBlock - (a * b * c + 2 * r * (a * b + b * c + a * c) + kPi * r * r * (a + b + c) +
                           4 * kPi * r * r * r / 3))
              .epsilon(1e-7));
    // The four edges round the top.
    CHECK(
        taken(R"({"kind": "chamfer", "distance": 2, "edges": {"which": "convex", "face": [40, 25, 20]}})") ==
        Approx(2 * (80 + 50) * 2 - 4.0 * 8 / 3).epsilon(1e-9));
    CHECK(
        taken(
            R"({"kind": "chamfer", "distance": 2, "edges": {"step": "block", "picks": [{"place": [40, 0, 20]}]}})") ==
        Approx(2 * 80));
    // A radius that grows from 2 to 6 along an edge of 80: the mean of the squares.
    CHECK(
        taken(
            R"({"kind": "fillet", "radius": 2, "end_radius": 6, "edges": {"picks": [{"place": [40, 0, 20]}]}})") ==
        Approx(round * 80 * (4 + 12 + 36) / 3).epsilon(0.02));
}

TEST_CASE("only edges in a corner are rounded where that is asked for") {
    DxfText t = block();
    t.line(30, 20, 30, 45).line(30, 45, 0, 45).line(0, 45, 0, 20).line(30, 60, 30, 110);
    const std::string steps =
        R"([{"kind": "extrude", "name": "block", "view": "front", "areas": [[40, 10], [15, 30]]},
        {"kind": "fillet", "radius": 5, "edges": {"which": "concave"}}])";
    CHECK(volumeOf(t, steps) == Approx(kBlock + 30 * 25 * 50 + (1 - kPi / 4) * 25 * 50));
}

TEST_CASE("a radius without room names its edge and the largest that works") {
    const std::string why =
        told(block(),
             onBlock(R"({"kind": "fillet", "radius": 24, "edges": {"picks": [{"place": [40, 0, 20]}]}})"));
    INFO(why);
    CHECK(why.find("the edge at 40, 0, 20 has no room for a radius of 24 mm") != std::string::npos);
    CHECK(why.find("the largest that works is") != std::string::npos);
    const double most = std::stod(why.substr(why.rfind("is ") + 3));
    CHECK(most > 19.5);
    CHECK(most <= 20.0);
    CHECK(told(block(),
               onBlock(R"({"kind": "fillet", "radius": 2, "edges": {"picks": [{"place": [40, 25, 10]}]}})"))
              .find("no edge at 40, 25, 10") != std::string::npos);
    // The solid is kept as it was before the step.
    const Document d =
        built(block(),
              onBlock(R"({"kind": "fillet", "radius": 24, "edges": {"picks": [{"place": [40, 0, 20]}]}})"));
    CHECK(d.model().build.measure.volume == Approx(kBlock));
}

TEST_CASE("a solid is hollowed out with faces left open, closed, and coated") {
    CHECK(volumeOf(block(), onBlock(R"({"kind": "shell", "thickness": 3, "open": [[40, 25, 20]]})")) ==
          Approx(kBlock - 74 * 44 * 17));
    CHECK(volumeOf(block(),
                   onBlock(R"({"kind": "shell", "thickness": 3, "open": [[40, 25, 20], [40, 25, 0]]})")) ==
          Approx(kBlock - 74 * 44 * 20));
    CHECK(volumeOf(block(), onBlock(R"({"kind": "shell", "thickness": 3})")) ==
          Approx(kBlock - 74 * 44 * 14));
    CHECK(
        volumeOf(block(),
                 onBlock(R"({"kind": "shell", "thickness": 3, "outward": true, "open": [[40, 25, 20]]})")) ==
        Approx(86 * 56 * 23 - kBlock));
}

TEST_CASE("an open chain of lines becomes a wall") {
    DxfText t = block();
    t.line(10, 20, 10, 45).line(10, 45, 50, 45);
    const auto wall = [&](const std::string& more) {
        return volumeOf(
            t, R"([{"kind": "wall", "view": "front", "lines": [[10, 30], [40, 45]], "thickness": 4)" + more +
                   "}]");
    };
    CHECK(wall("") == Approx(4 * (40 + 25) * 50));
    CHECK(wall(R"(, "side": [20, 40])") == Approx((4 * 40 + 4 * 25 - 16) * 50)); // on the inner side
    CHECK(wall(R"(, "side": [5, 40])") == Approx((4 * 40 + 4 * 25 + 16) * 50));
    CHECK(told(t, R"([{"kind": "wall", "view": "front", "lines": [[40, 45], [0, 10]], "thickness": 4}])")
              .find("do not follow each other") != std::string::npos);
}

TEST_CASE("a rib fills up to what it meets, a cylinder too") {
    DxfText t = block();
    // An upright of 10 x 50 x 25 on the block, and the rib's line from near its top to near the block's end.
    t.line(0, 20, 0, 45).line(0, 45, 10, 45).line(10, 45, 10, 20).line(10, 40, 60, 20);
    const std::string base = R"([{"kind": "extrude", "view": "front", "areas": [[40, 10], [5, 30]]}, )";
    CHECK(
        volumeOf(
            t,
            base +
                R"({"kind": "rib", "view": "front", "lines": [[35, 30]], "side": [15, 25], "thickness": 6}])") ==
        Approx(kBlock + 10 * 25 * 50 + 6 * 0.5 * 50 * 20));
    CHECK(
        told(
            t,
            base +
                R"({"kind": "rib", "view": "front", "lines": [[35, 30]], "side": [60, 44], "thickness": 6}])")
            .find("run out into the open") != std::string::npos);
    // Against a cylinder of radius 10 about (40, 25): the rib's plane cuts it in its outermost line, beside
    // which it goes on to the round wall.
    DxfText r;
    r.entities()
        .box(0, 0, 80, 10)
        .box(30, 10, 50, 45)
        .line(50, 40, 75, 10)
        .box(0, 60, 80, 110)
        .circle(40, 85, 10);
    const std::string round = R"([{"kind": "extrude", "view": "front", "areas": [[40, 5]]},
        {"kind": "extrude", "view": "top", "areas": [[40, 25]], "from": {"mark": {"view": "front", "at": [0, 10]}}},
        {"kind": "rib", "view": "front", "lines": [[62.5, 25]], "side": [55, 15], "thickness": 6}])";
    // Beyond the outermost line 30 * 25 / 2 * 6; behind it the integral over y of the depth to the wall times
    // the height there.
    double behind = 0;
    const int n = 20000;
    for (int i = 0; i < n; ++i) {
        const double y = -3 + 6 * (i + 0.5) / n, gap = 10 - std::sqrt(100 - y * y);
        behind += 6.0 / n * (30 * gap + 0.5 * gap * gap * 30 / 25);
    }
    CHECK(volumeOf(r, round) == Approx(80 * 50 * 10 + kPi * 100 * 35 + 6 * 375 + behind).epsilon(1e-6));
}

TEST_CASE("what lies beyond a line is cut away or kept alone, through the part") {
    DxfText t = block();
    t.line(50, 20, 80, 5);
    const auto sloped = [&](const std::string& operation) {
        return R"([{"kind": "extrude", "name": "block", "view": "front", "areas": [[40, 10], [75, 18]]},
            {"kind": "slope", "view": "front", "lines": [[65, 12.5]], "side": [75, 18], "reach": "through", "operation": ")" +
               operation + "\"}]";
    };
    CHECK(volumeOf(t, sloped("cut")) == Approx(kBlock - 0.5 * 30 * 15 * 50));
    CHECK(volumeOf(t, sloped("intersect")) == Approx(0.5 * 30 * 15 * 50));
    // What leaves nothing says so.
    const std::string all = onBlock(
        R"({"kind": "extrude", "operation": "cut", "view": "front", "areas": [[40, 10]], "reach": "through"})");
    CHECK(built(block(), all).model().build.steps.back().message == "nothing of the solid is left");
}

TEST_CASE("steps and the whole are mirrored and repeated") {
    DxfText t = block();
    t.circle(20, 75, 4).circle(40, 85, 3); // (20, 15) and the middle of the plate
    const std::string hole = R"({"kind": "hole", "name": "bore", "view": "top", "centres": [[20, 15]]}, )";
    const double bore = kPi * 16 * 20;
    CHECK(
        volumeOf(
            t,
            onBlock(
                hole +
                R"({"kind": "mirror", "of": ["bore"], "across": "x", "at": {"view": "front", "at": [40, 10]}})")) ==
        Approx(kBlock - 2 * bore));
    CHECK(volumeOf(
              t, onBlock(hole +
                         R"({"kind": "mirror", "across": "x", "at": {"view": "front", "at": [80, 10]}})")) ==
          Approx(2 * (kBlock - bore)));
    CHECK(
        volumeOf(
            t,
            onBlock(
                hole +
                R"({"kind": "pattern", "of": ["bore"], "along": "line", "axis": "y", "count": 2, "pitch": 20})")) ==
        Approx(kBlock - 2 * bore));
    CHECK(
        volumeOf(
            t,
            onBlock(
                hole +
                R"({"kind": "pattern", "of": ["bore"], "along": "grid", "axis": "x", "count": 3, "pitch": 20,
        "second_axis": "y", "second_count": 2, "second_pitch": 20, "left_out": [3]})")) ==
        Approx(kBlock - 5 * bore));
    CHECK(volumeOf(
              t, onBlock(
                     hole +
                     R"({"kind": "pattern", "of": ["bore"], "along": "circle", "count": 6, "left_out": [2, 5],
        "at": {"view": "top", "at": [40, 25]}})")) == Approx(kBlock - 4 * bore));
    CHECK(volumeOf(t, onBlock(hole + R"({"kind": "pattern", "of": ["bore"], "along": "curve", "count": 4,
        "at": {"view": "front", "at": [10, 20]}})")) == Approx(kBlock - 3 * bore));
    // The copy alone of a mirror, twice more; then a row and its copies once more beside it.
    CHECK(volumeOf(t, onBlock(hole + R"({"kind": "mirror", "name": "other", "of": ["bore"], "across": "x",
        "at": {"view": "front", "at": [40, 10]}}, {"kind": "pattern", "of": ["other"], "along": "line",
        "axis": "y", "count": 3, "pitch": 10})")) == Approx(kBlock - 4 * bore));
    CHECK(volumeOf(t, onBlock(hole + R"({"kind": "pattern", "name": "row", "of": ["bore"], "along": "line",
        "axis": "x", "count": 3, "pitch": 10}, {"kind": "pattern", "of": ["bore", "row"], "along": "line",
        "axis": "y", "count": 2, "pitch": 20})")) == Approx(kBlock - 6 * bore));
    CHECK(
        told(
            t,
            onBlock(
                hole +
                R"({"kind": "mirror", "of": ["no such"], "across": "x", "at": {"view": "front", "at": [40, 10]}})"))
            .find("there is no step \"no such\"") != std::string::npos);
    CHECK(
        told(
            t,
            onBlock(
                R"({"kind": "fillet", "name": "round", "radius": 2}, {"kind": "mirror", "of": ["round"], "across": "x", "at": {"view": "front", "at": [40, 10]}})"))
            .find("no body of its own") != std::string::npos);
}

TEST_CASE("a number of a step follows the sheet's numbers") {
    DxfText t = block();
    t.dimension(0, 0, 0, 20, -15, 10, 90);
    Document d = built(
        t, onBlock(
               R"({"kind": "chamfer", "distance": "x1 / 5", "edges": {"picks": [{"place": [40, 0, 20]}]}})"));
    REQUIRE(d.model().ledger.entries.size() == 1);
    const std::string name = d.model().ledger.entries[0].name;
    Choices c = d.choices();
    c.steps[1].size.formula = name + " / 5";
    REQUIRE(d.apply("Tie", c, quiet));
    CHECK(volumeOf(d) == Approx(kBlock - 0.5 * 4 * 4 * 80));
    c.numbers[name].value = 30;
    REQUIRE(d.apply("Change", c, quiet)); // the edge is found again where it has gone
    CHECK(volumeOf(d) == Approx(80 * 50 * 30 - 0.5 * 6 * 6 * 80));
    c.steps[1].size.formula = "no_such";
    REQUIRE(d.apply("Wrong", c, quiet));
    CHECK_FALSE(d.model().build.steps[1].ok);
    CHECK(d.model().build.steps[1].message.find("no_such") != std::string::npos);
}

TEST_CASE("faces that a step made in the place of edges, holes and copies are named after it") {
    DxfText t = block();
    t.circle(20, 75, 4);
    const Document d =
        built(t, onBlock(R"({"kind": "hole", "name": "bore", "view": "top", "centres": [[20, 15]]},
        {"kind": "pattern", "of": ["bore"], "axis": "x", "count": 3, "pitch": 20},
        {"kind": "fillet", "radius": 5, "edges": {"picks": [{"corner": {"view": "top", "at": [0, 0]}}]}},
        {"kind": "shell", "thickness": 2, "open": [[70, 40, 20]]})"));
    volumeOf(d);
    std::map<int, int> faces; // by step
    for (const auto& names : d.model().build.faces) {
        CHECK_FALSE(names.empty());
        for (const FaceName& n : names) ++faces[n.step];
    }
    CHECK(faces[1] >= 1);
    CHECK(faces[2] >= 2);
    CHECK(faces[3] >= 1);
    CHECK(faces[4] >= 5);
}

TEST_CASE("a list of steps is written and read without loss") {
    const std::string all = R"([
      {"kind": "extrude", "operation": "add", "view": "front", "name": "a", "areas": [[1, 2]], "reach": "unequal",
       "from": {"mark": {"view": "section A", "at": [3, 4]}, "beyond": "x1"}, "to": 5, "below": 2, "draft_deg": 3,
       "tops": [{"place": [1, 2, 3]}], "note": "n", "group": "g", "off": true},
      {"kind": "revolve", "areas": [[1, 2]], "axis": {"view": "front", "at": [0, 1]}, "along_line": true, "angle_deg": 90},
      {"kind": "hole", "view": "top", "centres": [[1, 2], [3, 4]], "hole": {"kind": "countersink", "diameter": "d1", "wide": 9,
       "sink_deg": 82, "thread": "M8", "pitch": 1.25, "depth": 16, "point_deg": 120, "from_far": true}},
      {"kind": "fillet", "radius": 3, "end_radius": 4, "edges": {"picks": [{"place": [1, 2, 3]}, {"corner": {"view": "top", "at": [1, 2]}}]}},
      {"kind": "chamfer", "distance": 1, "edges": {"which": "convex", "face": [1, 2, 3], "step": "a"}},
      {"kind": "shell", "thickness": 2, "open": [[1, 2, 3]], "outward": true},
      {"kind": "wall", "lines": [[1, 2]], "thickness": 2, "reach": "both", "to": 7},
      {"kind": "rib", "lines": [[1, 2]], "thickness": 2, "side": [4, 5]},
      {"kind": "slope", "lines": [[1, 2]], "side": [4, 5], "reach": "through"},
      {"kind": "mirror", "of": ["a"], "across": "z", "at": {"view": "front", "at": [1, 2]}},
      {"kind": "pattern", "of": ["a"], "along": "grid", "axis": "y", "count": 3, "pitch": -2, "second_axis": "z",
       "second_count": 2, "second_pitch": "x1", "left_out": [2, 4]},
      {"kind": "pattern", "along": "circle", "count": 5, "angle_deg": -180, "at": {"view": "front", "at": [1, 2]}},
      {"kind": "thicken", "operation": "cut", "thickness": 2, "faces": [[1, 2, 3], [4, 5, 6]]},
      {"kind": "lip", "width": 2, "height": "x1", "inner": true, "faces": [[1, 2, 3]]},
      {"kind": "flange", "width": 9, "thickness": 3, "faces": [[1, 2, 3]]},
      {"kind": "tilt", "view": "top", "lines": [[1, 2]], "faces": [[1, 2, 3]]}])";
    const auto list = readBuildList(all);
    INFO((list ? "" : list.error().message));
    REQUIRE(list);
    const std::vector<Step>& once = list->steps;
    REQUIRE(once.size() == 16);
    const auto again = readBuildList(toJson(once).dump());
    INFO((again ? "" : again.error().message));
    REQUIRE(again);
    for (size_t i = 0; i < once.size(); ++i) {
        INFO(i);
        CHECK(once[i] == again->steps[i]);
        CHECK_FALSE(describe(once[i]).empty());
    }
    CHECK(once[2].hole.sink_angle == Approx(82 * kPi / 180));
    CHECK(once[0].to.kind == Bound::Kind::value);
    CHECK(once[11].repeat.angle == Approx(-kPi));
}

TEST_CASE("the examples of the page on steps can be read, and show every kind") {
    std::istringstream page(bytesOf(PRISM_DEMO "/../docs/steps.md"));
    std::set<StepKind> shown;
    std::string line, block;
    bool inside = false;
    while (std::getline(page, line)) {
        if (line.starts_with("```")) {
            inside = line == "```json";
            if (inside || block.empty()) continue;
            const auto list = readBuildList(block);
            INFO(block << (list ? "" : list.error().message));
            REQUIRE(list);
            for (const Step& s : list->steps) {
                CHECK_FALSE(missingIn(s));
                shown.insert(s.kind);
            }
            block.clear();
        } else if (inside)
            block += line + "\n";
    }
    CHECK(shown.size() == static_cast<size_t>(kLastStepKind) + 1);
}

TEST_CASE("the distances of a chamfer lie on the faces that are said, else on the upper one first") {
    const auto low = [](const std::string& edges) {
        const Document d = built(
            block(), onBlock(R"({"kind": "chamfer", "distance": 2, "second_distance": 5, )" + edges + "}"));
        CHECK(volumeOf(d) == Approx(kBlock - 0.5 * 2 * 5 * 80));
        // How far down the chamfer of the upper front edge goes.
        double z = 20;
        for (const PartAt& p : partsOf(d.model().build.shape, SolidPart::Kind::corner)) {
            const Vec3 at = *placeOn(d.model().build.shape, p.part);
            if (at.y < 1 && at.z > 1) z = std::min(z, at.z);
        }
        return z;
    };
    CHECK(low(R"("edges": {"picks": [{"place": [40, 0, 20]}]})") ==
          Approx(15)); // 2 on the top, 5 down the front
    CHECK(low(R"("edges": {"picks": [{"place": [40, 0, 20]}], "face": [40, 25, 20]})") == Approx(15));
    CHECK(low(R"("edges": {"picks": [{"place": [40, 0, 20]}], "face": [40, 0, 10]})") == Approx(18));
}

TEST_CASE("a wrong field of a step is named with its step") {
    CHECK(wrongField(R"({})").find("build list.steps: is missing") != std::string::npos);
    CHECK(wrongField(R"([{"kind": "extrude", "areas": [[1, 2]]}, {"kind": "fillet", "radius": -1}])")
              .find("step 2.radius: must be above zero") != std::string::npos);
    CHECK(wrongField(R"([{"kind": "extrude", "areas": [[1, 2]], "depth": 4}])")
              .find("step 1.depth: is not known here") != std::string::npos);
    CHECK(wrongField(R"([{"kind": "extrusion"}])")
              .find("step 1.kind: must be one of: extrude, revolve, hole") != std::string::npos);
    CHECK(wrongField(R"([{"areas": []}])").find("step 1.kind: is missing") != std::string::npos);
    CHECK(wrongField(R"([{"kind": "extrude", "areas": [[1]]}])").find("step 1.areas: must be [x, y]") !=
          std::string::npos);
    CHECK(wrongField(R"([{"kind": "extrude", "areas": [[1, 1e400]]}])").find("number") != std::string::npos);
    CHECK(wrongField(R"([{"kind": "extrude", "view": "fronts"}])").find("step 1.view: names no view") !=
          std::string::npos);
    CHECK(wrongField(R"([{"kind": "hole", "centres": [[1, 2]], "hole": {"diameter": "", "width": 3}}])")
              .find("step 1.hole.diameter: must be a number in mm or a formula") != std::string::npos);
    CHECK(wrongField(R"([{"kind": "fillet", "radius": 1, "edges": {"picks": [{}]}}])")
              .find("step 1.edges.picks: needs \"place\" or \"corner\"") != std::string::npos);
    CHECK(wrongField(R"([{"kind": "rib", "lines": [[1, 2]], "thickness": 2}])")
              .find("step 1.side: is needed") != std::string::npos);
    CHECK(wrongField(R"([{"kind": "pattern", "count": 0}])").find("step 1.count: must be a whole number") !=
          std::string::npos);
    CHECK(
        wrongField(R"([{"kind": "revolve", "angle_deg": 400}])").find("step 1.angle_deg: must be an angle") !=
        std::string::npos);
}

TEST_CASE(
    "a mirror's plane goes with the mark it was put at, one of another view, or the middle of the view") {
    // A groove in the front view from 24 to 44; in the top view nothing is drawn there.
    DxfText t;
    t.layer("HIDDEN", "HIDDEN").entities();
    t.line(0, 0, 24, 0).line(24, 0, 24, 5).line(24, 5, 44, 5).line(44, 5, 44, 0).line(44, 0, 80, 0);
    t.line(80, 0, 80, 20).line(80, 20, 0, 20).line(0, 20, 0, 0).box(0, 60, 80, 110).circle(20, 85, 4);
    t.dimension(0, 20, 44, 0, 0, -12, 0)
        .dimension(24, 0, 44, 0, 0, -20, 0)
        .dimension(0, 20, 80, 20, 0, 30, 0);
    auto mirrored = [&](const char* view, double at, std::optional<double> x1, std::optional<double> x3) {
        Document d = built(t, R"([{"kind": "extrude", "view": "front", "areas": [[60, 10]]},
            {"kind": "hole", "name": "bore", "view": "top", "centres": [[20, 25]]},
            {"kind": "mirror", "of": ["bore"], "across": "x", "at": {"view": ")" +
                                  std::string(view) + R"(", "at": [)" + std::to_string(at) + ", 10]}}]");
        Choices c = d.choices();
        NoProgress quiet;
        if (x1) c.numbers["x1"].value = *x1;
        if (x3) c.numbers["x3"].value = *x3;
        if (x1 || x3) REQUIRE(d.apply("Drive", c, quiet));
        REQUIRE(d.model().build.ok());
        const Vec3 g = weightOf(d.model().build.shape, *materialNamed("test = 1000"))->centre;
        // What is missing of the block tells where the second hole is: both are as large.
        const double hole = kPi * 16 * 20, groove = 20 * 5 * 50, block = (x3 ? *x3 : 80) * 50 * 20;
        const double groove_at = (x1 ? *x1 : 44) - 10;
        CHECK(d.model().build.measure.volume == Approx(block - groove - 2 * hole).epsilon(1e-6));
        return (block * (x3 ? *x3 / 2 : 40) - groove * groove_at - hole * 20 -
                g.x * (block - groove - 2 * hole)) /
               hole;
    };
    CHECK(mirrored("front", 44, {}, {}) == Approx(68));
    CHECK(mirrored("front", 44, 42, {}) == Approx(64)); // the mark moved by 2, the image by 4
    CHECK(mirrored("top", 44, 42, {}) == Approx(64));   // the mark of another view, though this one has none
    CHECK(mirrored("top", 40, {}, {}) == Approx(60));
    CHECK(mirrored("top", 40, {}, 90) == Approx(70)); // the middle of the view stays its middle
}

TEST_CASE("areas bounded by ellipses, whole or in part and run either way, are extruded and turned exactly") {
    const auto ellipse = [](DxfText& t, Vec2 c, Vec2 major, double ratio, double from, double to) {
        t.group(0, "ELLIPSE").group(8, "OUTLINE").group(100, "AcDbEntity").group(100, "AcDbEllipse");
        t.group(10, c.x).group(20, c.y).group(11, major.x).group(21, major.y).group(40, ratio);
        t.group(41, from).group(42, to);
    };
    DxfText t = block();
    ellipse(t, {25, 85}, {15, 0}, 0.6, 0, 2 * kPi);
    CHECK(kBlock -
              volumeOf(
                  t, onBlock(
                         R"({"kind": "extrude", "view": "top", "areas": [[25, 25]], "operation": "cut"})")) ==
          Approx(kPi * 15 * 9 * 20));
    for (const double turn : {0.0, 0.4}) { // the upper half, and the same askew
        DxfText u = block();
        const Vec2 major = direction(turn) * 14.0, c{40, 85};
        ellipse(u, c, major, 0.5, 0, kPi);
        u.line(c.x - major.x, c.y - major.y, c.x + major.x, c.y + major.y);
        CHECK(
            kBlock -
                volumeOf(
                    u,
                    onBlock(
                        R"({"kind": "extrude", "view": "top", "areas": [[39.5, 27]], "operation": "cut"})")) ==
            Approx(0.5 * kPi * 14 * 7 * 20));
    }
    DxfText u = block(); // a quarter whose arc runs from the minor axis round, and cut from 14 down
    ellipse(u, {40, 85}, {0, 16}, 0.5, kPi / 2, kPi);
    u.line(40, 85, 40, 69).line(40, 85, 32, 85);
    CHECK(
        kBlock -
            volumeOf(u, onBlock(R"({"kind": "extrude", "view": "top", "areas": [[38, 20]], "operation": "cut",
              "from": {"value": 14}})")) ==
        Approx(0.25 * kPi * 16 * 8 * 14));
}

TEST_CASE("a wall follows arcs and keeps its thickness, on either side") {
    DxfText t; // a line that goes on as a quarter circle and a line again
    t.entities().box(0, 60, 100, 90).box(120, 0, 150, 60).text(0, -60, "THIRD ANGLE PROJECTION");
    t.line(0, 0, 40, 0).arc(40, 20, 20, 270, 360).line(60, 20, 60, 60).line(100, 0, 100, 60);
    const std::string chain = R"("lines": [[20, 0], [54, 6], [60, 40]], "thickness": 4)";
    const auto wall = [&](const std::string& more) {
        return volumeOf(t, fmt::format(R"([{{"kind": "wall", "view": "front", {}{}}}])", chain, more));
    };
    CHECK(wall("") == Approx(30 * (4 * 80 + 4 * 20 * kPi / 2)));
    CHECK(wall(R"(, "side": [20, 10])") == Approx(30 * (4 * 80 + (400 - 256) * kPi / 4))); // within the bend
    CHECK(wall(R"(, "side": [20, -10])") == Approx(30 * (4 * 80 + (576 - 400) * kPi / 4)));
}

TEST_CASE("an arm that runs into its boss along tangents leaves a sound solid, both as thick as they are") {
    // A boss of 46 and an eye of 16, 90 apart, and the arm between them along the tangents of both.
    const double big = 23, small = 8, apart = 90, lean = std::acos((big - small) / apart);
    const Vec2 up{std::cos(lean), std::sin(lean)};
    DxfText t;
    t.entities().circle(23, 23, big).circle(113, 23, small);
    for (const double side : {1.0, -1.0})
        t.line(23 + big * up.x, 23 + side * big * up.y, 113 + small * up.x, 23 + side * small * up.y);
    t.box(0, 60, 46, 85.5).box(105, 70, 121, 85.5).line(46, 76.5, 105, 76.5).line(46, 85.5, 105, 85.5);
    const auto beyond = [&](double r) {
        return r * r * (lean - up.x * up.y);
    }; // of a disc, past the tangents
    const double arm = (big + small) * up.y * (apart - (big - small) * up.x) - beyond(big) -
                       (kPi * small * small - beyond(small));
    const Document d = built(t, R"([
        {"kind": "extrude", "view": "front", "areas": [[23, 25]], "reach": "through"},
        {"kind": "extrude", "view": "front", "areas": [[70, 23]],
         "from": {"mark": {"view": "top", "at": [46, 16.5]}}},
        {"kind": "extrude", "view": "front", "areas": [[113, 25]],
         "from": {"mark": {"view": "top", "at": [105, 10]}}}])");
    CHECK(volumeOf(d) == Approx(kPi * big * big * 25.5 + arm * 9 + kPi * small * small * 15.5));
}

TEST_CASE("round faces that are made one leave a sound solid after every step") {
    // Where joining round faces went wrong it left its edges changed, and what was tried next was no body.
    for (const Sample& s : samples()) {
        if (s.name != "clean11") continue; // a lever: its boss, the arm, the eye
        Document d = opened(s.path);
        const auto list = readBuildList(R"([
            {"kind": "extrude", "view": "front", "areas": [[34.402, 32.636], [23, 25.098]], "reach": "through"},
            {"kind": "extrude", "view": "front", "areas": [[96.288, 23]],
             "from": {"mark": {"view": "top", "at": [46, 16.5]}}},
            {"kind": "extrude", "view": "front", "areas": [[117.234, 26.579], [113, 25.582]],
             "from": {"mark": {"view": "top", "at": [117, 10]}}}])");
        REQUIRE(list);
        const double boss = kPi * 23 * 23 * 25.5, eye = kPi * 64 * 15.5, arm = 1897.358234 * 9;
        const std::vector<double> volumes{boss, boss + arm, boss + arm + eye};
        for (size_t k = 1; k <= volumes.size(); ++k) {
            const std::vector<Step> some(list->steps.begin(), list->steps.begin() + static_cast<long>(k));
            const BuildResult b = build(d.model().figure, some, quiet);
            CHECK(b.measure.valid);
            CHECK(b.measure.volume == Approx(volumes[k - 1]).epsilon(1e-6));
        }
        return;
    }
    FAIL("the lever's sheet is not there");
}
