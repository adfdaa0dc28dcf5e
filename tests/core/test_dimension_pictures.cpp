#include "support/samples.h"

#include "core/drawing/dimension_picture.h"

// Where the strokes of a dimension lie, from places worked out by hand.
using namespace prism;
using namespace prism::test;

namespace {

Dimension of(DimensionKind kind) {
    Dimension d;
    d.kind = kind;
    d.arrow_size = 3, d.text_height = 2.5, d.text = "40";
    return d;
}

bool has(const DimensionPicture& p, Vec2 a, Vec2 b) {
    return std::ranges::any_of(p.lines, [&](const Curve& c) {
        const auto* s = std::get_if<Segment>(&c);
        return s && ((distance(s->a, a) < 1e-9 && distance(s->b, b) < 1e-9) ||
                     (distance(s->a, b) < 1e-9 && distance(s->b, a) < 1e-9));
    });
}

/// The arrow with this tip, its base's middle given.
bool hasArrow(const DimensionPicture& p, Vec2 tip, Vec2 base) {
    return std::ranges::any_of(p.arrows, [&](const auto& a) {
        return distance(a[0], tip) < 1e-9 && distance((a[1] + a[2]) * 0.5, base) < 1e-9 &&
               distance(a[1], a[2]) == Approx(1).margin(1e-9);
    });
}

} // namespace

TEST_CASE("a level dimension has its line between its arrows and extension lines with a gap") {
    Dimension d = of(DimensionKind::linear);
    d.p13 = {0, 0}, d.p14 = {40, 0}, d.p10 = {40, 10}, d.text_at = {20, 12};
    const DimensionPicture p = pictureOf(d);
    CHECK(has(p, {0, 10}, {40, 10}));
    CHECK(has(p, {0, 0.9}, {0, 11.5}));
    CHECK(has(p, {40, 0.9}, {40, 11.5}));
    CHECK(p.lines.size() == 3);
    CHECK(hasArrow(p, {0, 10}, {3, 10}));
    CHECK(hasArrow(p, {40, 10}, {37, 10}));
    CHECK(p.rotation == Approx(0).margin(1e-12));
    CHECK(p.text == "40");
    CHECK(p.text_at == Vec2{20, 12});
    CHECK(p.height == Approx(2.5));
}

TEST_CASE("an upright dimension is read from the right, whichever end comes first") {
    for (const bool turned : {false, true}) {
        Dimension d = of(DimensionKind::linear);
        d.angle = kPi / 2;
        d.p13 = {0, turned ? 40.0 : 0.0}, d.p14 = {5, turned ? 0.0 : 40.0}, d.p10 = {-12, 7},
        d.text_at = {-14, 20};
        const DimensionPicture p = pictureOf(d);
        CHECK(p.rotation == Approx(kPi / 2));
        CHECK(has(p, {-12, 0}, {-12, 40}));
        CHECK(hasArrow(p, {-12, 0}, {-12, 3}));
        CHECK(hasArrow(p, {-12, 40}, {-12, 37}));
        const double far = turned ? 0 : 40; // the end at x = 5
        CHECK(has(p, {4.1, far}, {-13.5, far}));
    }
}

TEST_CASE("narrow dimensions have their arrows outside, and the line reaches the text") {
    Dimension d = of(DimensionKind::linear);
    d.p13 = {0, 0}, d.p14 = {4, 0}, d.p10 = {0, 10}, d.text_at = {14, 11};
    const DimensionPicture p = pictureOf(d);
    CHECK(hasArrow(p, {0, 10}, {-3, 10}));
    CHECK(hasArrow(p, {4, 10}, {7, 10}));
    CHECK(has(p, {-6, 10}, {14, 10}));
    d.text_at = {2, 11};
    CHECK(has(pictureOf(d), {-6, 10}, {10, 10}));
    d.text_at = {-20, 11};
    CHECK(has(pictureOf(d), {-20, 10}, {10, 10}));
}

TEST_CASE("an aligned dimension runs along what it measures") {
    Dimension d = of(DimensionKind::aligned);
    d.p13 = {0, 0}, d.p14 = {30, 40}, d.p10 = {-8, 6}, d.text_at = {7, 26};
    const DimensionPicture p = pictureOf(d);
    CHECK(has(p, {-8, 6}, {22, 46}));
    CHECK(p.rotation == Approx(std::atan2(40, 30)));
    CHECK(hasArrow(p, {-8, 6}, {-8 + 3 * 0.6, 6 + 3 * 0.8}));
}

TEST_CASE("radii and diameters point at their circle from within or from outside") {
    Dimension r = of(DimensionKind::radius);
    r.p10 = {10, 10}, r.p15 = {18, 16}, r.text_at = {14, 13}; // within: from the centre to the circle
    const DimensionPicture in = pictureOf(r);
    CHECK(has(in, {10, 10}, {18, 16}));
    CHECK(hasArrow(in, {18, 16}, {18 - 3 * 0.8, 16 - 3 * 0.6}));
    CHECK(in.arrows.size() == 1);
    CHECK(in.rotation == Approx(std::atan2(6, 8)));
    r.text_at = {26, 22}; // outside, along the leader
    const DimensionPicture out = pictureOf(r);
    CHECK(has(out, {18, 16}, {26, 22}));
    CHECK(hasArrow(out, {18, 16}, {18 + 3 * 0.8, 16 + 3 * 0.6}));
    r.text_at = {40, 22}; // beside it: on a level shoulder
    const DimensionPicture level = pictureOf(r);
    CHECK(level.rotation == Approx(0).margin(1e-12));
    const double along = 22 * 0.8 + 6 * 0.6;
    const Vec2 knee{18 + along * 0.8, 16 + along * 0.6};
    CHECK(has(level, {18, 16}, knee));
    CHECK(has(level, knee, {40, knee.y}));

    Dimension d = of(DimensionKind::diameter);
    d.p10 = {0, 0}, d.p15 = {20, 0}, d.text_at = {10, 1};
    const DimensionPicture across = pictureOf(d);
    CHECK(across.arrows.size() == 2);
    CHECK(hasArrow(across, {20, 0}, {17, 0}));
    CHECK(hasArrow(across, {0, 0}, {3, 0}));
    CHECK(has(across, {0, 0}, {20, 0}));
    d.text_at = {30, 1};
    const DimensionPicture beyond = pictureOf(d);
    CHECK(beyond.arrows.size() == 1);
    CHECK(has(beyond, {0, 0}, {30, 0}));
}

TEST_CASE("an angle's arc lies between its legs, on the side of the place it runs through") {
    Dimension d = of(DimensionKind::angular);
    d.p13 = {0, 0}, d.p14 = {10, 0}, d.p15 = {0, 0}, d.p10 = {0, 10}; // two lines, square to each other
    for (const auto& [through, sweep] : std::vector<std::pair<Vec2, double>>{
             {{4, 4}, kPi / 2}, {{-4, 4}, kPi / 2}, {{-4, -4}, kPi / 2}, {{4, -4}, kPi / 2}}) {
        d.p16 = through;
        const DimensionPicture p = pictureOf(d);
        const auto arc =
            std::ranges::find_if(p.lines, [](const Curve& c) { return std::holds_alternative<Arc>(c); });
        REQUIRE(arc != p.lines.end());
        const Arc& a = std::get<Arc>(*arc);
        CHECK(a.radius == Approx(std::sqrt(32)));
        CHECK(std::abs(a.sweep) == Approx(sweep));
        CHECK(distanceTo(a, through) < 1e-9);
        CHECK(p.arrows.size() == 2);
        for (const auto& arrow : p.arrows) CHECK(distance(arrow[0], a.centre) == Approx(a.radius));
    }
    Dimension three = of(DimensionKind::angular);
    three.three_point = true;
    three.p15 = {0, 0}, three.p13 = {6, 0}, three.p14 = {3, 3},
    three.p10 = {12 * std::cos(0.3), 12 * std::sin(0.3)};
    const DimensionPicture p = pictureOf(three);
    const Arc& a = std::get<Arc>(p.lines.at(0));
    CHECK(a.start == Approx(0).margin(1e-12));
    CHECK(a.sweep == Approx(kPi / 4));
    CHECK(has(p, {6.9, 0}, {13.5, 0})); // from the leg's end out to the arc and a little past
    three.p10 = {-12, 0};               // the reflex side
    CHECK(std::get<Arc>(pictureOf(three).lines.at(0)).sweep == Approx(kPi / 4 - 2 * kPi));
}

TEST_CASE("an ordinate is its leader alone, lines that run alongside have no angle") {
    Dimension o = of(DimensionKind::ordinate);
    o.p13 = {5, 5}, o.p14 = {5, 30};
    const DimensionPicture p = pictureOf(o);
    CHECK(p.lines.size() == 1);
    CHECK(has(p, {5, 5}, {5, 30}));
    CHECK(p.arrows.empty());
    Dimension d = of(DimensionKind::angular);
    d.p13 = {0, 0}, d.p14 = {10, 0}, d.p15 = {0, 5}, d.p10 = {10, 5}, d.p16 = {5, 2};
    CHECK(pictureOf(d).lines.empty());
}

TEST_CASE("the picture of a dimension turns and moves with its places") {
    std::vector<Dimension> all;
    Dimension d = of(DimensionKind::linear);
    d.p13 = {0, 0}, d.p14 = {40, 12}, d.p10 = {40, 30}, d.text_at = {22, 31}, d.angle = 0;
    all.push_back(d);
    d.p14 = {4, 12}, d.text_at = {14, 31}; // narrow: arrows outside
    all.push_back(d);
    d = of(DimensionKind::aligned);
    d.p13 = {0, 0}, d.p14 = {30, 40}, d.p10 = {22, 46}, d.text_at = {8, 26};
    all.push_back(d);
    d = of(DimensionKind::diameter);
    d.p10 = {-10, 0}, d.p15 = {10, 0}, d.text_at = {0, 0.5};
    all.push_back(d);
    d.text_at = {25, 0.5}; // beyond the circle
    all.push_back(d);
    d = of(DimensionKind::radius);
    d.p10 = {0, 0}, d.p15 = {6, 8}, d.text_at = {3, 4};
    all.push_back(d);
    d = of(DimensionKind::angular);
    d.three_point = true, d.p15 = {0, 0}, d.p13 = {20, 0}, d.p14 = {5, 15}, d.p10 = {24, 14};
    all.push_back(d);
    d.three_point = false, d.p13 = {5, 0}, d.p14 = {30, 0}, d.p15 = {4, 4}, d.p10 = {20, 20},
    d.p16 = {-30, 6};
    all.push_back(d);
    d = of(DimensionKind::ordinate);
    d.p13 = {0, 0}, d.p14 = {20, 9};
    all.push_back(d);
    for (size_t i = 0; i < all.size(); ++i)
        for (double turn : {0.4, 1.9, 3.5, 5.6}) {
            const Affine2 m = Affine2::shift({120, -45}) * Affine2::rotation(turn);
            Dimension moved = all[i];
            for (Vec2* p : {&moved.p10, &moved.p13, &moved.p14, &moved.p15, &moved.p16, &moved.text_at})
                *p = m(*p);
            moved.angle += turn;
            const DimensionPicture a = pictureOf(all[i]), b = pictureOf(moved);
            INFO(i << " turned by " << turn);
            REQUIRE(a.lines.size() == b.lines.size());
            for (size_t k = 0; k < a.lines.size(); ++k)
                for (double t : {0.0, 0.4, 1.0})
                    CHECK(std::ranges::any_of(b.lines, [&](const Curve& c) {
                        return distanceTo(c, m(pointAt(a.lines[k], t))) < 1e-9;
                    }));
            REQUIRE(a.arrows.size() == b.arrows.size());
            for (const auto& arrow : a.arrows)
                CHECK(std::ranges::any_of(b.arrows, [&](const auto& o) {
                    return distance(o[0], m(arrow[0])) < 1e-9 &&
                           distance(0.5 * (o[1] + o[2]), m(0.5 * (arrow[1] + arrow[2]))) < 1e-9;
                }));
            CHECK(distance(b.text_at, m(a.text_at)) < 1e-9);
            // Readable from below or from the right, along the turned line.
            CHECK(b.rotation > -kPi / 2 + 1e-10);
            CHECK(b.rotation <= kPi / 2 + 1e-8);
            if (all[i].kind != DimensionKind::ordinate)
                CHECK(std::abs(std::sin(b.rotation - a.rotation - turn)) < 1e-9);
        }
}
