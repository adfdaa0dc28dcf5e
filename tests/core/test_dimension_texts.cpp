#include "core/drawing/dimension_measure.h"
#include "core/drawing/dimension_picture.h"
#include "core/drawing/drawing.h"
#include "core/drawing/kind_words.h"
#include "core/drawing/length_text.h"

using namespace prism;

namespace {

Dimension said(const std::string& text, double measured = 40) {
    Dimension d;
    d.text = text, d.measured = measured;
    readDimensionText(d);
    return d;
}

} // namespace

TEST_CASE("what the definition points measure counts times the factor of the dimension") {
    Dimension d;
    d.factor = 2, d.p13 = {10, 10}, d.p14 = {40, 50}; // 30 along, 40 across, 50 straight
    d.kind = DimensionKind::aligned;
    CHECK(measuredOf(d) == Approx(100));
    d.kind = DimensionKind::linear, d.angle = 0;
    CHECK(measuredOf(d) == Approx(60));
    d.angle = kPi / 2;
    CHECK(measuredOf(d) == Approx(80));
    d.kind = DimensionKind::radius, d.p10 = {0, 0}, d.p15 = {3, 4};
    CHECK(measuredOf(d) == Approx(10));
}

TEST_CASE("an angle is measured on the side where its arc lies, by three points or between two lines") {
    for (int round = 0; round < 200; ++round) {
        // A vertex with two rays, the second `turn` degrees on from the first; the arc lies on either side.
        const double first = 0.37 * round, turn = 5 + 170.0 * (round % 17) / 16;
        const Vec2 vertex{3.0 * round, -2.0 * round};
        const auto on = [&](double degrees, double r) {
            return vertex + r * direction(first + degrees * kPi / 180);
        };
        Dimension d;
        d.kind = DimensionKind::angular, d.three_point = true;
        d.p15 = vertex, d.p13 = on(0, 12), d.p14 = on(turn, 20);
        for (const double inside : {0.1, 0.5, 0.9}) {
            d.p10 = on(inside * turn, 9);
            CHECK(measuredOf(d) == Approx(turn));
            d.p10 = on(turn + inside * (360 - turn), 9);
            CHECK(measuredOf(d) == Approx(360 - turn));
        }
        // Two lines that cross in the vertex make four angles; the arc tells which.
        Dimension l;
        l.kind = DimensionKind::angular;
        l.p13 = on(0, 5), l.p14 = on(0, 15), l.p15 = on(turn, 5), l.p10 = on(turn, 25);
        for (const double inside : {0.2, 0.8}) {
            for (const double back : {0.0, 180.0}) {
                l.p16 = on(back + inside * turn, 7);
                CHECK(measuredOf(l) == Approx(turn));
                l.p16 = on(back + turn + inside * (180 - turn), 7);
                CHECK(measuredOf(l) == Approx(180 - turn));
            }
        }
    }
    Dimension d; // the arc's place on the second ray itself
    d.kind = DimensionKind::angular, d.three_point = true;
    d.p13 = {10, 0}, d.p14 = {0, 10}, d.p10 = {0, 5};
    CHECK(measuredOf(d) == Approx(90));
}

TEST_CASE("the value is read out of whatever stands round it") {
    CHECK(said("40").value == 40);
    CHECK(said("Ø12.5").value == 12.5);
    CHECK(said("R5,5").value == 5.5);
    CHECK(said("(80)").value == 80);
    CHECK(said("2x Ø9").value == 9);
    CHECK(said("30°").value == 30);
    CHECK(said("1 3/8\"").value == Approx(1.375));
    CHECK(said("3/4").value == Approx(0.75));
    CHECK(said(".5").value == 0.5);
}

TEST_CASE("feet, inches and fractions are one length") {
    CHECK(said("5'-4\"").value == 64);
    CHECK(said("5'-4 1/2\"").value == Approx(64.5));
    CHECK(said("2'").value == 24);
    CHECK(readWrittenLength("1 3/8\"")->value == Approx(1.375));
    CHECK(readWrittenLength("1 3/8\"")->mm == 25.4);
    CHECK_FALSE(readWrittenLength("1 3/8")->mm);
    CHECK(readWrittenLength("3/8")->value == Approx(0.375));
    CHECK(readWrittenLength("2.5\"")->value == Approx(2.5));
    CHECK(readWrittenLength("5' 4 1/2\"")->value == Approx(64.5));
    for (const char* other : {"25", "", "a/b", "1/0", "3 + 4/2", "boss/2"})
        CHECK_FALSE(readWrittenLength(other));
}

TEST_CASE("lengths are written in fractions and read back the same") {
    CHECK(writeFraction(1.375, 6, false) == "1 3/8");
    CHECK(writeFraction(64.5, 4, true) == "5'-4 1/2\"");
    CHECK(writeFraction(0.375, 6, false) == "3/8");
    CHECK(writeFraction(3, 6, false) == "3");
    for (int i = 1; i < 400; ++i)
        CHECK(readWrittenLength(writeFraction(i / 16.0, 4, true))->value == Approx(i / 16.0));
}

TEST_CASE("counts, tolerances and parentheses are kept apart from the value") {
    const Dimension a = said("6x Ø8 ±0.05");
    CHECK(a.count == 6);
    CHECK(a.value == 8);
    CHECK(a.plus == Approx(0.05));
    CHECK(a.minus == Approx(0.05));
    const Dimension b = said("25 +0.2/-0.1");
    CHECK(b.value == 25);
    CHECK(b.plus == Approx(0.2));
    CHECK(b.minus == Approx(0.1));
    CHECK(said("(80)").reference);
    CHECK_FALSE(said("80").reference);
    CHECK_FALSE(said("80").has_tolerance);
}

TEST_CASE("a text without a number leaves the measurement") {
    CHECK(said("SEE NOTE", 17).value == 17);
}

TEST_CASE("formatting codes vanish and stacked fractions stay readable") {
    CHECK(plainText("{\\fArial|b0;25} \\S+0.2^-0.1;", true) == "25  +0.2/-0.1");
    CHECK(plainText("A\\PB", true) == "A\nB");
    CHECK(plainText("\\\\", true) == "\\");
    CHECK(plainText("%%c%%%", false) == "Ø%");
    CHECK(plainText("%%", false) == "%%");
}

TEST_CASE("a linear dimension is laid out between its extension lines") {
    Dimension d;
    d.p13 = {0, 0}, d.p14 = {50, 10}, d.p10 = {0, 30}, d.text_at = {25, 31}, d.angle = 0, d.text = "50";
    const DimensionPicture p = pictureOf(d);
    REQUIRE(p.arrows.size() == 2);
    CHECK(distance(p.arrows[0][0], {0, 30}) < 1e-9);
    CHECK(distance(p.arrows[1][0], {50, 30}) < 1e-9);
    Box2 b;
    for (const Curve& c : p.lines) b.add(boxOf(c));
    CHECK(b.hi.y > 30); // extension lines pass the dimension line a little
    CHECK(b.lo.y > 0);  // and keep a gap to the part
}

TEST_CASE("a narrow dimension has its arrows outside") {
    Dimension d;
    d.p13 = {0, 0}, d.p14 = {2, 0}, d.p10 = {0, 10}, d.text_at = {1, 11};
    const DimensionPicture p = pictureOf(d);
    CHECK(p.arrows[0][1].x < 0);
    CHECK(p.arrows[1][1].x > 2);
}

TEST_CASE("texts of steep dimensions read from the right") {
    Dimension d;
    d.kind = DimensionKind::linear, d.angle = kPi / 2;
    d.p13 = {0, 40}, d.p14 = {0, 0}, d.p10 = {-10, 0}, d.text_at = {-11, 20};
    CHECK(pictureOf(d).rotation == Approx(kPi / 2));
}

TEST_CASE("an angle's arc lies on the side of its point") {
    Dimension d;
    d.kind = DimensionKind::angular, d.three_point = true;
    d.p15 = {0, 0}, d.p13 = {10, 0}, d.p14 = {0, 10}, d.p10 = {14, 14};
    const DimensionPicture p = pictureOf(d);
    const Arc& a = std::get<Arc>(p.lines.at(0));
    CHECK(std::abs(a.sweep) == Approx(kPi / 2));
    d.p10 = {-14, -14};
    CHECK(std::abs(std::get<Arc>(pictureOf(d).lines.at(0)).sweep) == Approx(1.5 * kPi));
}

TEST_CASE("kinds of drawn things are told in the trade's words") {
    CHECK(inWords("LWPOLYLINE") == "chain of lines");
    CHECK(inWords("MULTILEADER") == "note with leader");
    CHECK(inWords("SOME_NEW_THING") == "some new thing");
}
