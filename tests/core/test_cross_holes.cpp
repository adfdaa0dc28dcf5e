#include "core/building/line_meets.h"
#include "core/project/propose_for.h"
#include "support/integral.h"
#include "support/step_block.h"

#include <BRepPrimAPI_MakeBox.hxx>
#include <catch2/catch.hpp>
#include <functional>

// Holes across round parts: the outline dips where they come out, and nothing of it is straight there.
using namespace prism;
using namespace prism::test;

namespace {
/// What a hole of radius r takes off a round bar of radius R, right across its axis: twice the depth of the
/// bar over the disc, with the chord as r sin t.
double across(double r, double R) {
    return 8 * integral(0, kPi / 2, [=](double t) {
               const double c = std::cos(t), s = std::sin(t);
               return r * r * c * c * std::sqrt(R * R - r * r * s * s);
           });
}

/// A shaft of three steps, 25, 28 and 36.5 long.
constexpr double kShaft = kPi * (14.5 * 14.5 * 25 + 22.5 * 22.5 * 28 + 26.5 * 26.5 * 36.5);

Proposal proposedFor(const std::string& part) {
    const Document d = opened(PRISM_TEST_DATA "/parts/" + part);
    NoProgress quiet;
    auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    return std::move(*p);
}

std::vector<Step> holesOf(const Proposal& p) {
    std::vector<Step> r;
    for (const Step& s : p.steps)
        if (s.kind == StepKind::hole) r.push_back(s);
    return r;
}

} // namespace

TEST_CASE("a shaft with holes across it two ways is turned as if they were not there, then drilled",
          "[slow]") {
    // Each of the two views along the axis shows one hole as a circle, and where the other one comes out.
    const Proposal p = proposedFor("shaft-with-cross-holes.dxf");
    CHECK(p.clean);
    CHECK(p.proof.clean());
    CHECK(p.build.measure.volume == Approx(kShaft - across(3, 22.5) - across(7.5, 26.5)).epsilon(2e-7));
    REQUIRE(p.steps.front().kind == StepKind::revolve);
    CHECK_FALSE(p.steps.front().sharp.empty());
    const auto holes = holesOf(p);
    REQUIRE(holes.size() == 2);
    for (const Step& s : holes) CHECK(s.reach == Reach::through);
    CHECK(holes[0].view != holes[1].view);
}

TEST_CASE("a hole that crosses a shaft's bore is one hole through both walls", "[slow]") {
    const Proposal p = proposedFor("bored-shaft-with-cross-hole.dxf");
    CHECK(p.clean);
    const double bore = kPi * 4.5 * 4.5 * 89.5;
    CHECK(p.build.measure.volume == Approx(kShaft - bore - across(3, 22.5) + across(3, 4.5)).epsilon(2e-7));
    const auto holes = holesOf(p);
    REQUIRE(holes.size() == 1);
    CHECK(holes[0].reach == Reach::through);
}

TEST_CASE("a border goes straight on where a step says so, and round a dip where it does not") {
    // 80 x 20 from the front, its upper edge dips in an arc of radius 5, its middle on the edge.
    DxfText t;
    t.entities().line(0, 0, 80, 0).line(80, 0, 80, 20).line(80, 20, 45, 20).line(35, 20, 0, 20);
    t.line(0, 20, 0, 0).arc(40, 20, 5, 180, 0).box(0, 60, 80, 110);
    const std::string front = R"("view": "front", "areas": [[10, 10]])";
    CHECK(volumeOf(t, R"([{"kind": "extrude", )" + front + "}]") ==
          Approx(50 * (1600 - 12.5 * kPi)).epsilon(1e-9));
    CHECK(volumeOf(t, R"([{"kind": "extrude", "sharp": [[40, 15]], )" + front + "}]") ==
          Approx(50 * 1600).epsilon(1e-9));
    // Turned round its lower edge: a disc of radius 20, 80 thick.
    const std::string round = front + R"(, "axis": {"view": "front", "at": [40, 0]}, "along_line": true)";
    CHECK(volumeOf(t, R"([{"kind": "revolve", "sharp": [[40, 15]], )" + round + "}]") ==
          Approx(kPi * 400 * 80).epsilon(1e-9));
    CHECK(volumeOf(t, R"([{"kind": "revolve", )" + round + "}]") < kPi * 400 * 80 - 100);
}

TEST_CASE("what is turned lies as deep as the round about its axis that a view along it shows") {
    // A bar of radius 20, and beside it a block as long that makes the part deeper: from the front, and from
    // one end. A bar pushed along from the circle is the same one.
    for (const bool upright : {false, true}) {
        CAPTURE(upright);
        DxfText t;
        t.entities();
        const auto box = [&](double x0, double y0, double x1, double y1) {
            upright ? t.box(y0, x0, y1, x1) : t.box(x0, y0, x1, y1);
        };
        box(0, 0, 80, 40);
        const char* along = upright ? "top" : "right";
        upright ? t.circle(20, 140, 20) : t.circle(140, 20, 20);
        box(160, 10, 190, 30);
        const std::string at = upright ? "[20, 40]" : "[40, 20]";
        const std::string turned = R"([{"kind": "revolve", "view": "front", "areas": [)" + at +
                                   R"(], "upright": )" + (upright ? "true" : "false") +
                                   R"(, "axis": {"view": "front", "at": )" + at + "}}";
        const std::string pushed =
            std::string(R"(, {"kind": "extrude", "view": ")") + along + R"(", "areas": [[20, 20]]}])";
        CHECK(volumeOf(t, turned + pushed) == Approx(kPi * 400 * 80).epsilon(1e-9));
    }
}

TEST_CASE("a line meets a box where it goes in and out, and nowhere beyond what is looked at") {
    const TopoDS_Shape box = BRepPrimAPI_MakeBox(10, 20, 30).Shape();
    LineMeets meet(box);
    const gp_Lin across_it(gp_Pnt(-5, 4, 7), gp_Dir(1, 0, 0));
    auto at = meet(across_it, -100, 100);
    std::ranges::sort(at);
    REQUIRE(at.size() == 2);
    CHECK(at[0] == Approx(5));
    CHECK(at[1] == Approx(15));
    CHECK(meet(across_it, -100, 10).size() == 1);
    CHECK(meet(gp_Lin(gp_Pnt(-5, 40, 7), gp_Dir(1, 0, 0)), -100, 100).empty());
}
