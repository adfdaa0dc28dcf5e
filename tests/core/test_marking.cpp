#include "support/samples.h"

#include "core/marking/choosing.h"
#include "core/marking/dimensioning.h"
#include "core/marking/measure.h"
#include "core/marking/reshape.h"
#include "core/marking/snaps.h"
#include "core/project/project_file.h"

#include <fstream>

using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

std::vector<bool> all(const Drawing& d) {
    return std::vector<bool>(d.entities.size(), true);
}

const Segment& seg(const Curve& c) {
    return std::get<Segment>(c);
}

} // namespace

TEST_CASE("added, removed and reshaped lines stand in the sheet, with the ids of those read kept") {
    const auto d = std::make_shared<const Drawing>(drawn(DxfText().entities().box(0, 0, 40, 30).done()));
    MarkUp m;
    CHECK(markedUp(d, m) == d);
    m.lines.push_back({MarkedLine::Kind::add, freshName(m), {Segment{{20, 0}, {20, 30}}}, LineRole::hidden});
    m.lines.push_back({MarkedLine::Kind::remove, keyOf(d->entities[1]), {}, {}});
    m.lines.push_back({MarkedLine::Kind::reshape, "+1", {Segment{{20, 0}, {20, 12}}}, {}});
    m.lines.push_back({MarkedLine::Kind::remove, "ZZ", {}, {}});
    CHECK(freshName(m) == "+2");
    std::vector<std::string> misfits;
    const auto r = markedUp(d, m, &misfits);
    REQUIRE(r->entities.size() == 5);
    CHECK(r->entities[1].curves.empty());
    CHECK(seg(r->entities[4].curves[0]).b == Vec2{20, 12});
    CHECK(misfits.size() == 1);
    const CleanSheet s = clean(*r, {});
    CHECK(s.entity_roles[4] == LineRole::hidden);
    CHECK_FALSE(s.in_use[1]);
}

TEST_CASE("an added dimension measures, counts like the sheet's own, and drives the solid's figure") {
    const std::string path = temporary("marks.dxf");
    std::ofstream(path) << DxfText().entities().box(0, 0, 40, 30).dimension(0, 0, 40, 0, 0, -12, 0).done();
    Document d = opened(path);
    Choices c = d.choices();
    AddedDimension a;
    a.kind = DimensionKind::linear, a.p13 = {40, 0}, a.p14 = {40, 30}, a.p10 = {52, 30}, a.text_at = {53, 15};
    a.angle = kPi / 2;
    c.marks.dimensions.push_back(a);
    REQUIRE(d.apply("Dimension", c, quiet));
    REQUIRE(d.model().ledger.entries.size() == 2);
    const LedgerEntry& e = d.model().ledger.entries[1];
    CHECK(e.drawn == Approx(30));
    CHECK(e.state == EntryState::drives);
    CHECK(d.model().drawing->dimensions[1].added);
    CHECK(d.model().drawing->dimensions[1].handle == "+d1");
    c.numbers[e.name].value = 36;
    REQUIRE(d.apply("Drive", c, quiet));
    double widest = 0;
    for (const ClosedArea& x : d.model().areas.now) widest = std::max(widest, x.area);
    CHECK(widest == Approx(40 * 36));
}

TEST_CASE("marks of every kind survive the project file") {
    Choices c;
    c.marks.lines.push_back({MarkedLine::Kind::add,
                             "+1",
                             {Segment{{1, 2}, {3, 4}}, Arc{{5, 6}, 7, 0.1, -2},
                              EllipseArc{{1, 1}, {4, 0}, 0.5, 0, 3}, splineThrough({{0, 0}, {5, 3}, {9, 1}})},
                             LineRole::centre});
    c.marks.lines.push_back({MarkedLine::Kind::remove, "2F", {}, LineRole::outline});
    AddedDimension a;
    a.kind = DimensionKind::angular, a.p15 = {3, 4}, a.says = 30;
    c.marks.dimensions.push_back(a);
    const auto bytes = projectBytes({"source", "x.dxf", c});
    REQUIRE(bytes);
    const auto back = readProject(*bytes);
    REQUIRE(back);
    CHECK(back->choices == c);
}

TEST_CASE("snaps find ends, middles, centres, crossings, feet and touching points, the telling ones first") {
    const Drawing d =
        drawn(DxfText().entities().line(0, 0, 40, 0).line(10, -10, 10, 30).circle(60, 20, 5).done());
    auto at = [&](Vec2 p, std::optional<Vec2> from = {}) { return snapNear(d, all(d), p, 2, from); };
    CHECK(at({0.5, 0.5}).kind == Snap::end);
    CHECK(at({0.5, 0.5}).at == Vec2{0, 0});
    CHECK(at({10.4, 0.3}).kind == Snap::crossing);
    CHECK(distance(at({10.4, 0.3}).at, {10, 0}) < 1e-9);
    CHECK(at({20.3, 0.5}).kind == Snap::middle);
    CHECK(at({60.5, 20}).kind == Snap::centre);
    CHECK(at({30, 1}).kind == Snap::on_line);
    CHECK(at({30, 5}).kind == Snap::none);
    CHECK(at({30, 5}).at == Vec2{30, 5});
    const Snapped foot = at({32, 0.4}, Vec2{33, 20});
    CHECK(foot.kind == Snap::perpendicular);
    CHECK(distance(foot.at, {33, 0}) < 1e-9);
    const Vec2 from{60, 40};
    const Vec2 touch = Vec2{60, 20} + Vec2{5 * std::sqrt(1 - 0.0625), 5 * 0.25};
    const Snapped tangent = at(touch + Vec2{0.3, 0.2}, from);
    CHECK(tangent.kind == Snap::tangent);
    CHECK(std::abs(dot(tangent.at - Vec2{60, 20}, tangent.at - from)) < 1e-9);
    // The line from the same place touches the circle on the other side as well.
    const Vec2 other = Vec2{60, 20} + Vec2{-5 * std::sqrt(1 - 0.0625), 5 * 0.25};
    const Snapped second = at(other + Vec2{-0.3, 0.2}, from);
    CHECK(second.kind == Snap::tangent);
    CHECK(distance(second.at, other) < 1e-9);
    std::vector<bool> none(d.entities.size(), false);
    CHECK(snapNear(d, none, {0, 0}, 2).kind == Snap::none);
}

TEST_CASE("a line is trimmed between its neighbours, at its end, and in the middle") {
    const Segment s{{0, 0}, {40, 0}};
    const std::vector<Curve> others{Segment{{10, -5}, {10, 5}}, Segment{{30, -5}, {30, 5}}};
    const auto middle = trimmed(s, others, {20, 0}, 1e-6);
    REQUIRE(middle);
    REQUIRE(middle->size() == 2);
    CHECK(distance(endOf((*middle)[0]), {10, 0}) < 1e-9);
    CHECK(distance(startOf((*middle)[1]), {30, 0}) < 1e-9);
    const auto end = trimmed(s, others, {38, 0}, 1e-6);
    REQUIRE(end->size() == 1);
    CHECK(distance(endOf((*end)[0]), {30, 0}) < 1e-9);
    CHECK(trimmed(s, {}, {5, 0}, 1e-6)->empty());
}

TEST_CASE("a circle is trimmed to the arc on the other side") {
    const Arc circle{{0, 0}, 10, 0, 2 * kPi};
    const std::vector<Curve> line{Segment{{-20, 0}, {20, 0}}};
    for (double y : {10.0, -10.0}) {
        const auto r = trimmed(circle, line, {0, y}, 1e-6);
        REQUIRE(r);
        REQUIRE(r->size() == 1);
        CHECK(lengthOf((*r)[0]) == Approx(10 * kPi));
        CHECK(pointAt((*r)[0], 0.5).y == Approx(-y));
    }
    CHECK_FALSE(trimmed(circle, {}, {10, 0}, 1e-6));
}

TEST_CASE("lines and arcs are extended to what lies ahead, and no farther") {
    const std::vector<Curve> wall{Segment{{50, -20}, {50, 20}}, Segment{{80, -20}, {80, 20}}};
    const auto line = extended(Segment{{0, 0}, {30, 0}}, wall, {29, 0}, 1e-6);
    REQUIRE(line);
    CHECK(distance(endOf(*line), {50, 0}) < 1e-9);
    CHECK_FALSE(extended(Segment{{0, 0}, {30, 0}}, wall, {1, 0}, 1e-6)); // nothing behind it
    const auto arc = extended(Arc{{50, 0}, 10, kPi, -kPi / 4}, wall, {43, 7}, 1e-6);
    REQUIRE(arc);
    CHECK(distance(endOf(*arc), {50, 10}) < 1e-6);
    CHECK(distance(startOf(*arc), {40, 0}) < 1e-9);
}

TEST_CASE("two lines make the corner on the sides they were picked at") {
    const auto r = cornered({{0, 0}, {40, 0}}, {5, 0}, {{30, -20}, {30, 20}}, {30, 15});
    REQUIRE(r);
    CHECK(r->first.a == Vec2{0, 0});
    CHECK(distance(r->first.b, {30, 0}) < 1e-12);
    CHECK(distance(r->second.a, {30, 0}) < 1e-12);
    CHECK(r->second.b == Vec2{30, 20});
    CHECK_FALSE(cornered({{0, 0}, {9, 0}}, {1, 0}, {{0, 5}, {9, 5}}, {1, 5}));
}

TEST_CASE("offsets lie on the side pointed to, arcs pass through their three places") {
    CHECK(seg(*offsetBy(Segment{{0, 0}, {10, 0}}, 3, {5, -1})).a == Vec2{0, -3});
    CHECK(std::get<Arc>(*offsetBy(Arc{{0, 0}, 10, 0, 2}, 3, {0, 0})).radius == 7);
    CHECK_FALSE(offsetBy(Arc{{0, 0}, 2, 0, 2}, 3, {0, 0}));
    for (Vec2 b : {Vec2{0, 10}, Vec2{0, -10}}) {
        const auto a = arcThrough({10, 0}, b, {-10, 0});
        REQUIRE(a);
        CHECK(length(a->centre) < 1e-9);
        CHECK(distance(pointAt(*a, 0.5), b) < 1e-9);
        CHECK(distance(endOf(*a), {-10, 0}) < 1e-9);
    }
    CHECK_FALSE(arcThrough({0, 0}, {1, 0}, {2, 0}));
}

TEST_CASE("lengths, radii, angles, distances and areas are measured") {
    const Drawing d = drawn(DxfText()
                                .entities()
                                .box(0, 0, 40, 30)
                                .circle(10, 10, 4)
                                .circle(30, 20, 4)
                                .line(0, 60, 40, 100)
                                .done());
    const Measured chain = measured(d, {0, 1, 2, 3}, 1e-6);
    CHECK(chain.length == Approx(140));
    CHECK(chain.area.value() == Approx(1200));
    CHECK(chain.across->x == Approx(40));
    const Measured circle = measured(d, {4}, 1e-6);
    CHECK(circle.radius.value() == Approx(4));
    CHECK(circle.area.value() == Approx(16 * kPi));
    CHECK(measured(d, {4, 5}, 1e-6).apart.value() == Approx(std::hypot(20, 10)));
    CHECK(measured(d, {0, 2}, 1e-6).apart.value() == Approx(30));
    CHECK(measured(d, {0, 6}, 1e-6).angle.value() == Approx(kPi / 4));
    CHECK_FALSE(measured(d, {0, 1, 2}, 1e-6).area);
    CHECK(measured(d, {}, 1e-6).lines == 0);
}

TEST_CASE("a fence chooses the lines that it crosses, and no others") {
    Drawing d;
    auto add = [&](const Curve& c) {
        Entity e;
        e.id = static_cast<int>(d.entities.size());
        e.curves = {c};
        d.entities.push_back(e);
    };
    add(Segment{{0, 0}, {0, 10}}), add(Segment{{5, 0}, {5, 10}}), add(Segment{{5, 20}, {5, 30}});
    add(Arc{{12, 5}, 3, 0, 2 * kPi}), add(Segment{{20, 0}, {20, 10}});
    const std::vector<bool> all(5, true);
    CHECK(chooseCrossed(d, all, {{-1, 5}, {6, 6}, {10, 5}}) == std::set<int>{0, 1, 3});
    CHECK(chooseCrossed(d, {true, false, true, true, true}, {{-1, 5}, {6, 6}}) == std::set<int>{0});
    CHECK(chooseCrossed(d, all, {{11, 5}, {13, 5}}).empty()); // wholly within the circle
}

TEST_CASE("what is trimmed away at an end or in the middle leaves just the rest") {
    const Curve line = Segment{{0, 0}, {100, 0}};
    const std::vector<Curve> cutters{Segment{{30, -5}, {30, 5}}, Segment{{70, -5}, {70, 5}}};
    const auto first = trimmed(line, cutters, {10, 0}, 1e-6), middle = trimmed(line, cutters, {50, 0}, 1e-6),
               last = trimmed(line, cutters, {90, 0}, 1e-6);
    REQUIRE(first);
    REQUIRE(middle);
    REQUIRE(last);
    CHECK(*first == std::vector<Curve>{Segment{{30, 0}, {100, 0}}});
    CHECK(*middle == std::vector<Curve>{Segment{{0, 0}, {30, 0}}, Segment{{70, 0}, {100, 0}}});
    CHECK(*last == std::vector<Curve>{Segment{{0, 0}, {70, 0}}});
    const Curve circle = Arc{{0, 0}, 10, 0, 2 * kPi};
    const std::vector<Curve> cross{Segment{{-20, 0}, {20, 0}}};
    const auto lower = trimmed(circle, cross, {0, 10}, 1e-6);
    REQUIRE(lower);
    REQUIRE(lower->size() == 1);
    CHECK(lengthOf((*lower)[0]) == Approx(10 * kPi));
    CHECK(distanceTo((*lower)[0], {0, -10}) < 1e-9);
    CHECK(distanceTo((*lower)[0], {0, 10}) > 5);
    // A closed spline, whose seam lies within what stays or within what goes.
    std::vector<Vec2> round;
    for (int i = 0; i <= 16; ++i) round.push_back(direction(2 * kPi * i / 16) * 10);
    const Curve ring = splineThrough(round);
    for (Vec2 at : {Vec2{0, 10}, Vec2{0, -10}}) {
        const auto kept = trimmed(ring, {Segment{{-20, 1}, {20, 1}}}, at, 1e-6);
        REQUIRE(kept);
        double sum = 0;
        for (const Curve& c : *kept) {
            sum += lengthOf(c);
            CHECK(distanceTo(c, at) > 5);
        }
        const double upper = 10 * (kPi - 2 * std::asin(0.1));
        CHECK(sum == Approx(at.y > 0 ? 20 * kPi - upper : upper).epsilon(0.01));
    }
}

TEST_CASE(
    "a corrected dimension says and measures what it was corrected to, and keeps its sign and tolerance") {
    DxfText t;
    t.entities().box(0, 0, 80, 20).dimension(0, 0, 80, 0, 0, -10, 0, "4x 85 +0.2/-0.1");
    const Drawing d = drawn(t.done());
    REQUIRE(d.dimensions.size() == 1);
    CHECK(textSaying(d.dimensions[0], 80) == "4x 80 +0.2/-0.1");
    MarkUp m;
    m.corrected.push_back({keyOf(d.dimensions[0]), textSaying(d.dimensions[0], 80), std::nullopt});
    const auto source = std::make_shared<const Drawing>(d);
    std::vector<std::string> misfits;
    const auto mended = markedUp(source, m, &misfits);
    CHECK(misfits.empty());
    CHECK(mended->dimensions[0].value == 80);
    CHECK(mended->dimensions[0].count == 4);
    CHECK(mended->dimensions[0].plus == 0.2);
    CHECK(mended->dimensions[0].minus == 0.1);
    CHECK(source->dimensions[0].value == 85);
    AddedDimension lies = placeOf(d.dimensions[0]);
    lies.p14 = {75, 0};
    m.corrected = {{keyOf(d.dimensions[0]), std::nullopt, lies}};
    CHECK(markedUp(source, m)->dimensions[0].measured == Approx(75));
    CHECK(markedUp(source, m)->dimensions[0].value == 85); // its text stays
    m.corrected = {{"nowhere", "3", std::nullopt}};
    (void)markedUp(source, m, &misfits);
    CHECK(misfits.size() == 1);
}

TEST_CASE("a text takes another number in the sheet's own way of writing") {
    DxfText t;
    t.entities().dimension(0, 0, 30.25, 0, 0, -10, 0, "(30,5)");
    const Drawing d = drawn(t.done());
    CHECK(textSaying(d.dimensions.at(0), 30.25) == "(30,25)");
    Dimension radius = d.dimensions[0];
    radius.kind = DimensionKind::radius, radius.text = "R12.5", radius.reference = false;
    CHECK(textSaying(radius, 7) == "R7");
    radius.kind = DimensionKind::angular, radius.text = "30°";
    CHECK(textSaying(radius, 45.5) == "45.5°");
}

TEST_CASE(
    "an aligned dimension runs along what it measures, its line through the place that was pointed at") {
    const Vec2 a{10, 20}, b{40, 60}, along{0.6, 0.8}, across{-0.8, 0.6};
    const AddedDimension d = distanceDimension(a, b, b + 12 * across + 7 * along, true);
    CHECK(d.kind == DimensionKind::aligned);
    CHECK(distance(d.p13, a) < 1e-12);
    CHECK(distance(d.p14, b) < 1e-12);
    CHECK(distance(d.p10, b + 12 * across) < 1e-9);
    const AddedDimension level = distanceDimension(a, b, {25, 90}, false),
                         upright = distanceDimension(a, b, {70, 40}, false);
    CHECK(level.angle == 0);
    CHECK(distance(level.p10, {40, 90}) < 1e-9);
    CHECK(upright.angle == Approx(kPi / 2));
    CHECK(distance(upright.p10, {70, 60}) < 1e-9);
}

TEST_CASE("a dimension measures level or upright by the side of its places on which its line stands") {
    const auto angle = [](Vec2 a, Vec2 b, Vec2 line) { return distanceDimension(a, b, line, false).angle; };
    CHECK(angle({0, 0}, {30, 10}, {15, 25}) == 0);
    CHECK(angle({0, 0}, {30, 10}, {45, 5}) == Approx(kPi / 2));
    // Between the places what is longer counts; of two alike the upright one.
    CHECK(angle({0, 0}, {30, 10}, {15, 5}) == 0);
    CHECK(angle({0, 0}, {10, 30}, {5, 15}) == Approx(kPi / 2));
    CHECK(angle({0, 0}, {10, 10}, {5, 5}) == Approx(kPi / 2));
}
