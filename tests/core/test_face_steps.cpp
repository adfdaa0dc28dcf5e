#include "support/step_block.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>

// Steps that begin with faces of the solid, on the block of 80 x 50 x 20, against closed forms.
using namespace prism;
using namespace prism::test;

namespace {

DxfText bored() {
    DxfText t = block();
    t.circle(40, 85, 10).line(30, 0, 30, 20, "HIDDEN").line(50, 0, 50, 20, "HIDDEN");
    return t;
}

/// The block, bored where the sheet says so, and one step more.
std::string onTop(const std::string& step) {
    return R"([{"kind": "extrude", "view": "top", "areas": [[5, 5]], "to": {"mark": {"view": "front",
               "at": [80, 20]}}}, )" +
           step + "]";
}

double added(const DxfText& t, const std::string& step, bool hole = false) {
    return volumeOf(t, onTop(step)) - (kBlock - (hole ? kPi * 100 * 20 : 0));
}

} // namespace

TEST_CASE("a layer is put on faces or taken off them") {
    CHECK(added(block(), R"({"kind": "thicken", "thickness": 3, "faces": [[40, 25, 20]]})") ==
          Approx(80 * 50 * 3));
    CHECK(added(block(),
                R"({"kind": "thicken", "operation": "cut", "thickness": 3, "faces": [[40, 25, 20]]})") ==
          Approx(-80 * 50 * 3));
    // Two faces that meet: their layers meet in a sharp corner.
    CHECK(added(block(), R"({"kind": "thicken", "thickness": 3, "faces": [[40, 25, 20], [80, 25, 10]]})") ==
          Approx(80 * 50 * 3 + 50 * 20 * 3 + 50 * 3 * 3));
    // Two that do not.
    CHECK(added(block(), R"({"kind": "thicken", "thickness": 3, "faces": [[0, 25, 10], [80, 25, 10]]})") ==
          Approx(2 * 50 * 20 * 3));
    // A sleeve in a bore, and a wider bore.
    CHECK(added(bored(), R"({"kind": "thicken", "thickness": 2, "faces": [[30, 25, 10]]})", true) ==
          Approx(kPi * (100 - 64) * 20).epsilon(1e-9));
    CHECK(added(bored(),
                R"({"kind": "thicken", "operation": "cut", "thickness": 2, "faces": [[30, 25, 10]]})",
                true) == Approx(-kPi * (144 - 100) * 20).epsilon(1e-9));
    // Only a layer is left.
    CHECK(volumeOf(block(), onTop(R"({"kind": "thicken", "operation": "intersect", "thickness": 4,
        "faces": [[40, 25, 0]]})")) == Approx(80 * 50 * 4));
}

TEST_CASE("a lip rises along the border of a face, or is cut in along it") {
    const double ring = 80 * 50 - 72 * 42;
    CHECK(added(block(), R"({"kind": "lip", "width": 4, "height": 5, "faces": [[40, 25, 20]]})") ==
          Approx(ring * 5));
    CHECK(added(block(),
                R"({"kind": "lip", "operation": "cut", "width": 4, "height": 5, "faces": [[40, 25, 20]]})") ==
          Approx(-ring * 5));
    CHECK(
        added(block(), R"({"kind": "lip", "width": 4, "height": 5, "faces": [[40, 25, 0], [40, 25, 20]]})") ==
        Approx(2 * ring * 5));
    CHECK(added(bored(), R"({"kind": "lip", "width": 3, "height": 2, "inner": true, "faces": [[5, 5, 20]]})",
                true) == Approx(kPi * (169 - 100) * 2).epsilon(1e-9));
    // Where the face is narrower than the lip, it stands on the face alone.
    CHECK(added(bored(), R"({"kind": "lip", "width": 18, "height": 2, "inner": true, "faces": [[5, 5, 20]]})",
                true) > 0);
    CHECK(told(block(), onTop(R"({"kind": "lip", "width": 30, "height": 5, "faces": [[40, 25, 20]]})"))
              .find("no lip of 30 mm fits") != std::string::npos);
    CHECK(told(block(),
               onTop(R"({"kind": "lip", "width": 3, "height": 5, "inner": true, "faces": [[40, 25, 20]]})"))
              .find("no opening") != std::string::npos);
}

TEST_CASE("a flange stands out round a face and ends flush with it") {
    const Document d =
        built(block(), onTop(R"({"kind": "flange", "width": 6, "thickness": 4, "faces": [[40, 25, 20]]})"));
    CHECK(volumeOf(d) == Approx(kBlock + (92 * 62 - 80 * 50) * 4));
    const SolidMeasure& m = d.model().build.measure;
    CHECK(m.lo.x == Approx(-6));
    CHECK(m.hi.y == Approx(56));
    CHECK(m.hi.z == Approx(20));
    CHECK(added(bored(),
                R"({"kind": "flange", "width": 3, "thickness": 4, "inner": true, "faces": [[5, 5, 20]]})",
                true) == Approx(kPi * (100 - 49) * 4).epsilon(1e-9));
    CHECK(told(bored(), onTop(R"({"kind": "flange", "width": 3, "thickness": 4,
                                           "faces": [[30, 25, 10]]})"))
              .find("needs plane faces") != std::string::npos);
    CHECK(told(block(), onTop(R"({"kind": "flange", "operation": "cut", "width": 3, "thickness": 4,
                                    "faces": [[40, 25, 20]]})"))
              .find("can only be added") != std::string::npos);
}

TEST_CASE("a round face has lips and flanges as any other") {
    const auto onPin = [](const std::string& step) {
        return volumeOf(
                   bored(),
                   R"([{"kind": "extrude", "view": "top", "areas": [[40, 25]], "to": {"mark": {"view": "front",
               "at": [80, 20]}}}, )" +
                       step + "]") -
               kPi * 100 * 20;
    };
    CHECK(onPin(R"({"kind": "flange", "width": 5, "thickness": 4, "faces": [[40, 25, 20]]})") ==
          Approx(kPi * (225 - 100) * 4).epsilon(1e-9));
    CHECK(onPin(R"({"kind": "lip", "width": 3, "height": 2, "faces": [[40, 25, 20]]})") ==
          Approx(kPi * (100 - 49) * 2).epsilon(1e-9));
    CHECK(told(bored(), R"([{"kind": "extrude", "view": "top", "areas": [[40, 25]]},
        {"kind": "lip", "width": 15, "height": 2, "faces": [[40, 25, 20]]}])")
              .find("no lip of 15 mm fits") != std::string::npos);
    CHECK(onPin(R"({"kind": "thicken", "thickness": 3, "faces": [[40, 25, 20]]})") ==
          Approx(kPi * 100 * 3).epsilon(1e-9));
}

TEST_CASE("a face is laid into the plane of a line") {
    const auto tilted = [](double left, double right) {
        DxfText t = block();
        t.line(0, left, 80, right);
        return built(
            t, onTop(fmt::format(
                   R"({{"kind": "tilt", "view": "front", "lines": [[10, {}]], "faces": [[40, 25, 20]]}})",
                   left + (right - left) / 8)));
    };
    CHECK(volumeOf(tilted(14, 20)) == Approx(kBlock - 0.5 * 80 * 6 * 50));
    CHECK(volumeOf(tilted(8, 14)) == Approx(kBlock - 0.5 * 80 * (12 + 6) * 50));
    // And once more at the other side: a roof. What two wedges share is taken once.
    DxfText slanted = block();
    slanted.line(0, 14, 80, 20);
    CHECK(
        volumeOf(slanted, onTop(R"({"kind": "tilt", "name": "slant", "view": "front", "lines": [[10, 14.75]],
                       "faces": [[40, 25, 20]]}, {"kind": "mirror", "of": ["slant"], "across": "x",
                       "at": {"view": "front", "at": [40, 10]}})")) == Approx(kBlock - 50 * 360));
    // Put on at one end, taken off at the other.
    const Document both = tilted(26, 14);
    CHECK(volumeOf(both) == Approx(kBlock));
    CHECK(both.model().build.measure.hi.z == Approx(26));
    CHECK(both.model().build.measure.faces == 6);
    DxfText square = block();
    square.line(30, 0, 30, 20);
    CHECK(told(square,
               onTop(R"({"kind": "tilt", "view": "front", "lines": [[30, 10]], "faces": [[10, 25, 20]]})"))
              .find("runs square") != std::string::npos);
    CHECK(told(block(),
               onTop(R"({"kind": "tilt", "view": "front", "lines": [[40, 20]], "faces": [[40, 25, 20]]})"))
              .find("lies in the plane of the line already") != std::string::npos);
}

TEST_CASE("what a step on faces needs is asked for in words") {
    const auto asks = [](const std::string& step, const char* what) {
        CHECK(told(block(), onTop(step)).find(what) != std::string::npos);
    };
    asks(R"({"kind": "thicken", "thickness": 3})", "no face is picked");
    asks(R"({"kind": "thicken", "faces": [[40, 25, 20]]})", "no thickness is given");
    asks(R"({"kind": "lip", "height": 3, "faces": [[40, 25, 20]]})", "no width is given");
    asks(R"({"kind": "lip", "width": 3, "faces": [[40, 25, 20]]})", "no height is given");
    asks(R"({"kind": "flange", "thickness": 3, "faces": [[40, 25, 20]]})", "no width is given");
    asks(R"({"kind": "tilt", "faces": [[40, 25, 20]]})", "no line is picked");
    asks(R"({"kind": "thicken", "thickness": 3, "faces": [[40, 25, 90]]})", "no face at");
    CHECK(wrongField(R"([{"kind": "lip", "thickness": 3, "faces": []}])")
              .find("step 1.thickness: is not known") != std::string::npos);
}
