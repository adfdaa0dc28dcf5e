#include "core/building/hole_note.h"
#include "core/building/places.h"
#include "core/building/thread.h"
#include "core/project/project_file.h"
#include "support/step_block.h"

// Holes of every kind against closed forms, and the notes that tell them.
using namespace prism;
using namespace prism::test;

TEST_CASE("holes of every kind take away their closed forms") {
    DxfText t = block();
    t.circle(20, 85, 4).circle(60, 85, 4).circle(60, 85, 7); // two centres in the top view
    const auto cut = [&](const std::string& hole) {
        return kBlock - volumeOf(t, onBlock(R"({"kind": "hole", "view": "top", )" + hole + "}"));
    };
    const double point = std::tan(59 * kPi / 180);
    CHECK(cut(R"("centres": [[20, 25]])") == Approx(kPi * 16 * 20)); // as wide as its circle, through
    CHECK(cut(R"("centres": [[20, 25], [60, 25]])") == Approx(2 * kPi * 16 * 20));
    CHECK(cut(R"("centres": [[20, 25]], "hole": {"diameter": 6, "depth": 12})") ==
          Approx(kPi * 9 * (12 + 3 / point / 3)));
    CHECK(cut(R"("centres": [[20, 25]], "hole": {"diameter": 6, "depth": 12, "point_deg": 180})") ==
          Approx(kPi * 9 * 12));
    CHECK(cut(R"("centres": [[60, 25]], "hole": {"kind": "counterbore", "wide_depth": 5})") ==
          Approx(kPi * (49 * 5 + 16 * 15)));
    DxfText u = t;
    u.line(53, 12, 67, 12, "HIDDEN"); // the bottom of the counterbore, seen from the front
    CHECK(kBlock - volumeOf(u, onBlock(R"({"kind": "hole", "view": "top", "centres": [[60, 25]], "hole":
        {"kind": "counterbore", "wide_to": {"view": "front", "at": [53, 12]}}})")) ==
          Approx(kPi * (49 * 8 + 16 * 12)));
    CHECK(cut(R"("centres": [[60, 25]], "hole": {"kind": "spot face", "wide": 16, "wide_depth": 1})") ==
          Approx(kPi * (64 * 1 + 16 * 19)));
    // A countersink of 90 degrees from 14 to 8 is 3 deep.
    CHECK(cut(R"("centres": [[60, 25]], "hole": {"kind": "countersink"})") ==
          Approx(kPi * (3 * (49 + 28 + 16) / 3.0 + 16 * 17)));
    const double lean = std::tan(5 * kPi / 180), narrow = 4 - 20 * lean;
    CHECK(cut(R"("centres": [[20, 25]], "hole": {"kind": "tapered", "taper_deg": 10, "depth": 20,
        "point_deg": 180})") == Approx(kPi * 20 * (16 + 4 * narrow + narrow * narrow) / 3));
    CHECK(
        cut(R"("centres": [[20, 25]], "to": {"mark": {"view": "front", "at": [0, 0]}}, "hole": {"point_deg": 180})") ==
        Approx(kPi * 16 * 20));
    CHECK(cut(R"("centres": [[20, 25]], "hole": {"depth": 12, "point_deg": 180, "from_far": true})") ==
          Approx(kPi * 16 * 12));
}

TEST_CASE(
    "each wall of a counterbore is named by the circle that it was drawn as, its floor by the step alone") {
    DxfText t = block();
    t.circle(60, 85, 4).circle(60, 85, 7);
    const Document d = built(
        t,
        onBlock(
            R"({"kind": "hole", "view": "top", "centres": [[60, 25]], "hole": {"kind": "counterbore", "wide_depth": 5}})"));
    const Model& m = d.model();
    std::map<double, int> walls; // by radius of the circle that names it
    int floors = 0;
    for (const auto& names : m.build.faces)
        for (const FaceName& n : names) {
            if (n.step != 1) continue;
            if (n.part == FaceName::Part::blend) {
                CHECK(n.curve == -1);
                ++floors;
                continue;
            }
            CHECK(n.part == FaceName::Part::side);
            REQUIRE(n.curve >= 0);
            ++walls[std::get<Arc>(m.figure.curves[static_cast<size_t>(n.curve)].drawn).radius];
        }
    CHECK(walls == std::map<double, int>{{4, 1}, {7, 1}});
    CHECK(floors == 1);
}

TEST_CASE("a hole begins where it meets the solid, and its depths count from there") {
    DxfText t = block(); // beside the hole the part is 45 high
    t.line(0, 20, 0, 45).line(0, 45, 10, 45).line(10, 45, 10, 20).circle(60, 85, 4).circle(60, 85, 7);
    const auto cut = [&](const std::string& hole) {
        return kBlock + 10 * 25 * 50 -
               volumeOf(t, R"([{"kind": "extrude", "view": "front", "areas": [[40, 10], [5, 30]]},
                   {"kind": "hole", "view": "top", "centres": [[60, 25]], )" +
                               hole + "}]");
    };
    CHECK(cut(R"("hole": {"kind": "counterbore", "wide_depth": 5})") == Approx(kPi * (49 * 5 + 16 * 15)));
    CHECK(cut(R"("hole": {"depth": 8, "point_deg": 180})") == Approx(kPi * 16 * 8));
    CHECK(cut(R"("to": {"mark": {"view": "front", "at": [0, 0]}}, "hole": {"point_deg": 180})") ==
          Approx(kPi * 16 * 20));
    CHECK(
        cut(R"("from": {"mark": {"view": "front", "at": [10, 45]}}, "hole": {"depth": 30, "point_deg": 180})") ==
        Approx(kPi * 16 * 5));
}

TEST_CASE("a hole over a narrower one begins at the face round it, though its middle meets nothing") {
    DxfText t = block(); // beside the hole the part is 45 high
    t.line(0, 20, 0, 45).line(0, 45, 10, 45).line(10, 45, 10, 20).circle(60, 85, 4).circle(60, 85, 9);
    // Depths count from the face at 20, not from the highest place of the part.
    CHECK(kBlock + 10 * 25 * 50 -
              volumeOf(t, R"([{"kind": "extrude", "view": "front", "areas": [[40, 10], [5, 30]]},
                  {"kind": "hole", "view": "top", "centres": [[60, 25]], "hole": {"diameter": 8}},
                  {"kind": "hole", "view": "top", "centres": [[60, 25]],
                   "hole": {"diameter": 18, "depth": 7, "point_deg": 180}}])") ==
          Approx(kPi * (81 * 7 + 16 * 13)));
}

TEST_CASE("holes that overlap take away what they cover together") {
    DxfText t = block();
    t.circle(30, 85, 5).circle(36, 85, 5);
    const double lens = 2 * 25 * std::acos(0.6) - 0.5 * 6 * std::sqrt(100.0 - 36); // two circles 6 apart
    CHECK(kBlock -
              volumeOf(t, onBlock(R"({"kind": "hole", "view": "top", "centres": [[30, 25], [36, 25]]})")) ==
          Approx(20 * (2 * kPi * 25 - lens)));
}

TEST_CASE("a hole says what it cannot be made of") {
    DxfText t = block();
    t.circle(20, 85, 4);
    const auto why = [&](const std::string& hole) {
        return told(t, onBlock(R"({"kind": "hole", "view": "top", )" + hole + "}"));
    };
    CHECK(why(R"("centres": [[50, 25]])").find("no circle stands there") != std::string::npos);
    CHECK(why(R"("centres": [])").find("no centre") != std::string::npos);
    CHECK(why(R"("centres": [[20, 25]], "hole": {"kind": "counterbore", "wide_depth": 5})")
              .find("no second circle") != std::string::npos);
    CHECK(why(R"("centres": [[20, 25]], "hole": {"kind": "counterbore", "wide": 6, "wide_depth": 5})")
              .find("no wider than") != std::string::npos);
    CHECK(
        why(R"("centres": [[20, 25]], "hole": {"kind": "counterbore", "wide": 12})").find("needs a depth") !=
        std::string::npos);
    CHECK(
        why(R"("centres": [[20, 25]], "hole": {"kind": "counterbore", "wide": 12, "wide_depth": 9, "depth": 6})")
            .find("deeper than the hole") != std::string::npos);
}

TEST_CASE("notes of holes are read as they are written on drawings") {
    const auto note = [](const char* text) {
        const auto n = readHoleNote(text);
        INFO(text);
        REQUIRE(n);
        return *n;
    };
    const HoleNote plain = note("4x dia 8 through");
    CHECK(plain.count == 4);
    CHECK(plain.shape.diameter.value == 8.0);
    CHECK(plain.through);
    const HoleNote bored = note("dia 9 counterbore dia 14 deep 5");
    CHECK(bored.count == 1);
    CHECK(bored.shape.kind == HoleKind::counterbore);
    CHECK(bored.shape.diameter.value == 9.0);
    CHECK(bored.shape.wide.value == 14.0);
    CHECK(bored.shape.wide_depth.value == 5.0);
    CHECK_FALSE(bored.shape.depth.given());
    const HoleNote tapped = note("M8 deep 16");
    CHECK(tapped.shape.thread == "M8");
    CHECK(tapped.shape.depth.value == 16.0);
    CHECK(note("M10x1 through").shape.pitch.value == 1.0);
    const HoleNote sunk = note("6 HOLES %%c5.5 CSK %%c11 90%%d");
    CHECK(sunk.count == 6);
    CHECK(sunk.shape.kind == HoleKind::countersink);
    CHECK(sunk.shape.diameter.value == 5.5);
    CHECK(sunk.shape.wide.value == 11.0);
    CHECK(sunk.shape.sink_angle == Approx(kPi / 2));
    const HoleNote signs = note("2\u00D7 \u230012,5 \u21A7 20 \u2334 \u230018 \u21A7 6");
    CHECK(signs.count == 2);
    CHECK(signs.shape.diameter.value == 12.5);
    CHECK(signs.shape.depth.value == 20.0);
    CHECK(signs.shape.wide.value == 18.0);
    CHECK(signs.shape.wide_depth.value == 6.0);
    CHECK(note("8 dia drill 12 deep").shape.depth.value == 12.0);
    CHECK_FALSE(readHoleNote("sharp corners broken 0.5"));
    CHECK_FALSE(readHoleNote("scale 1:2"));
    CHECK_FALSE(readHoleNote(""));
}

TEST_CASE("a thread without a circle is drilled to its core") {
    CHECK(threadNamed("M8", 0)->core() == Approx(6.647).margin(5e-4)); // ISO 724
    CHECK(threadNamed("M10x1", 0)->core() == Approx(8.917).margin(5e-4));
    CHECK_FALSE(threadNamed("M8.1", 0));
    CHECK_FALSE(threadNamed("8", 0));
    const double core = threadNamed("M8", 0)->core();
    CHECK(kBlock -
              volumeOf(block(),
                       onBlock(R"({"kind": "hole", "view": "top", "centres": [[50, 25]], "says": "M8 deep 16",
        "hole": {"point_deg": 180}})")) ==
          Approx(kPi * core * core / 4 * 16));
    CHECK(
        wrongField(R"([{"kind": "hole", "centres": [[1, 2]], "says": "see sheet 2"}])").find("step 1.says") !=
        std::string::npos);
}

namespace {

/// The block with the walls of a hole of diameter 6 along X, hidden in both views; they close no area.
DxfText crossed() {
    DxfText t = block();
    t.line(1, 7, 79, 7, "HIDDEN").line(1, 13, 79, 13, "HIDDEN");
    return t.line(1, 82, 79, 82, "HIDDEN").line(1, 88, 79, 88, "HIDDEN");
}

std::string lying(const std::string& more) {
    return onBlock(R"({"kind": "hole", "view": "front", "centres": [[40, 10]], )" + more + "}");
}
const std::string kAlongX = R"("axis": {"view": "top", "at": [40, 25]})";

} // namespace

TEST_CASE(
    "a hole that no view looks along lies in one that shows it from the side, as deep as another says") {
    const auto cut = [](const std::string& more) { return kBlock - volumeOf(crossed(), lying(more)); };
    CHECK(cut(kAlongX) == Approx(kPi * 9 * 80)); // as wide as its walls stand apart
    CHECK(cut(kAlongX + R"(, "hole": {"diameter": 8})") == Approx(kPi * 16 * 80));
    const double point = 3 / std::tan(59 * kPi / 180);
    CHECK(cut(kAlongX + R"(, "hole": {"depth": 20})") == Approx(kPi * 9 * (20 + point / 3)));
    CHECK(cut(kAlongX + R"(, "hole": {"depth": 20, "point_deg": 180, "from_far": true})") ==
          Approx(kPi * 9 * 20));
    CHECK(cut(kAlongX + R"(, "hole": {"kind": "counterbore", "wide": 12, "wide_depth": 5})") ==
          Approx(kPi * (36 * 5 + 9 * 75)));
    // Upright it is one that the top view looks along.
    CHECK(cut(R"("upright": true, "hole": {"diameter": 6}, )" + kAlongX) == Approx(kPi * 9 * 20));
    const Document d = built(crossed(), lying(kAlongX));
    CHECK(d.model().build.steps.back().what ==
          "1 hole, through, seen from the side in the front and the top view");
    CHECK(told(block(), onBlock(R"({"kind": "hole", "view": "front", "centres": [[90, 10]], )" + kAlongX +
                                "}")) == "no line runs beside the place to take the hole's width from");
    CHECK(told(crossed(),
               lying(kAlongX + R"(, "hole": {"kind": "counterbore", "wide": 5, "wide_depth": 5})")) ==
          "the counterbore of 5 mm is no wider than the hole of 6 mm");
    CHECK(told(crossed(), lying(R"("axis": {"view": "left", "at": [25, 10]})")) ==
          "there is no left view on the sheet");
    CHECK(told(crossed(), lying(R"("axis": {"view": "front", "at": [40, 10]})")) ==
          "the front view does not show how deep the hole lies in the front view");
}

TEST_CASE("a hole that lies in a view comes back from a file as it was, and goes where its walls go") {
    const Document d = built(crossed(), lying(kAlongX));
    const std::vector<Step>& steps = d.choices().steps;
    CHECK(stepsFromJson(toJson(steps)) == steps);
    CHECK(steps.back().axis == MarkRef{Role::top, {40, 25}});

    DxfText t = crossed(); // the walls 6 apart and 7 above the bottom
    t.dimension(1, 7, 1, 13, -10, 0, 90).dimension(0, 0, 1, 7, -20, 0, 90);
    Document driven = built(t, lying(kAlongX));
    Choices c = driven.choices();
    for (const LedgerEntry& e : driven.model().ledger.entries)
        c.numbers[e.name].value = e.value == Approx(6) ? 8 : 5;
    NoProgress quiet;
    REQUIRE(driven.apply("Change", c, quiet));
    CHECK(kBlock - volumeOf(driven) == Approx(kPi * 16 * 80));
}

TEST_CASE("a hole at a place without a circle goes where the corner there goes, or the sheet about it") {
    DxfText t;
    t.entities().box(0, 0, 80, 20).box(0, 60, 80, 110).line(60, 60, 60, 110).text(0, -40, "THIRD ANGLE");
    t.dimension(0, 60, 60, 60, 0, 50, 0).dimension(60, 110, 80, 110, 60, 120, 0).circle(20, 85, 4);
    const std::string path = temporary("corner.dxf");
    std::ofstream(path) << t.done();
    Document d = opened(path);
    Choices c = d.choices();
    for (const LedgerEntry& e : d.model().ledger.entries)
        if (std::abs(e.value - 60) < 1e-9) c.numbers[e.name].value = 64;
    NoProgress quiet;
    REQUIRE(d.apply("Wider", c, quiet));
    const Figure& f = d.model().figure;
    const auto top = std::ranges::find_if(f.views, [](const FigureView& v) { return v.role() == Role::top; });
    const auto at = [&](Vec2 drawn) { return building::circlesAt(f, *top, drawn); };
    CHECK(distance(at({60, 50}).centre, {64, 50}) < 1e-6);
    CHECK(at({60, 50}).circles.empty());
    CHECK(distance(at({70, 25}).centre, {74, 25}) < 1e-6); // between the two lines that moved
    CHECK(distance(at({20, 25}).centre, {20, 25}) < 1e-6);
    CHECK(at({20, 25}).circles.size() == 1);
    CHECK(building::curveNear(f, *top, {40, 20}) == -1);
    CHECK(building::curveNear(f, *top, {60, 20}) >= 0);
}
