#include "core/figure/areas.h"
#include "core/proposing/judge.h"
#include "core/proposing/usual_choices.h"
#include "support/searching.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <fstream>
#include <numbers>

// Of several solids that fit every line the one that people mean.
using namespace prism;
using namespace prism::test;

namespace {

constexpr double kHole = std::numbers::pi * 16 * 10; ///< mm³, of one plate

/// Two plates of 60 x 60 x 10, one 40 above the other, on a block of 36 x 36 whose corners stand in the way
/// of the holes of diameter 8, 10 from the plates' corners. Front, top and right view; `lower`: the walls of
/// the lower plate's holes are drawn.
Document twoPlates(bool lower) {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN");
    t.entities();
    for (double o : {0.0, 90.0}) {
        t.box(o, 0, o + 60, 10).box(o, 50, o + 60, 60);
        for (double x : {12.0, 48.0}) t.line(o + x, 10, o + x, 50);
        for (double x : {6.0, 14.0, 46.0, 54.0}) {
            t.line(o + x, 50, o + x, 60, "HIDDEN");
            if (lower) t.line(o + x, 0, o + x, 10, "HIDDEN");
        }
    }
    t.box(0, 90, 60, 150);
    const double end = 10 + std::sqrt(12.0); // where the block's edges leave a circle
    for (double v : {12.0, 48.0}) {
        t.line(end, 90 + v, 60 - end, 90 + v, "HIDDEN").line(v, 90 + end, v, 150 - end, "HIDDEN");
        for (auto [a, b] : {std::pair{12.0, end}, {60 - end, 48.0}})
            t.line(a, 90 + v, b, 90 + v).line(v, 90 + a, v, 90 + b);
    }
    for (double x : {10.0, 50.0})
        for (double y : {100.0, 140.0}) t.circle(x, y, 4);
    t.text(90, 90, "THIRD ANGLE PROJECTION");
    const std::string path = temporary("plates.dxf");
    std::ofstream(path) << t.done();
    return opened(path);
}

Step drawnThrough(const Figure& f, Operation operation, std::vector<Vec2> areas, double from, double to) {
    Step s;
    s.kind = StepKind::extrude, s.operation = operation, s.view = f.views.front().name;
    for (const FigureView& v : f.views)
        if (v.role() == Role::top) s.view = v.name;
    s.areas = std::move(areas);
    s.from.kind = s.to.kind = Bound::Kind::place;
    s.from.place = {30, 30, from}, s.to.place = {30, 30, to};
    return s;
}

/// The plates and the block, the upper plate with all holes and the lower one with those at these places.
std::vector<Step> plates(const Figure& f, const AreaSets& areas, const std::vector<Vec2>& lower) {
    std::vector<Vec2> all, block, upper_holes, lower_holes;
    const auto in = [](const std::vector<Vec2>& centres, Vec2 p) {
        return std::ranges::any_of(centres, [&](Vec2 c) { return distance(c, p) < 4; });
    };
    for (const ClosedArea& a : areas.drawn) {
        if (f.viewById(a.view)->role() != Role::top) continue;
        all.push_back(a.seed);
        if (a.seed.x > 12 && a.seed.x < 48 && a.seed.y > 12 && a.seed.y < 48) block.push_back(a.seed);
        if (in({{10, 10}, {50, 10}, {10, 50}, {50, 50}}, a.seed)) upper_holes.push_back(a.seed);
        if (in(lower, a.seed)) lower_holes.push_back(a.seed);
    }
    std::vector<Step> steps{
        drawnThrough(f, Operation::add, all, 0, 10), drawnThrough(f, Operation::add, all, 50, 60),
        drawnThrough(f, Operation::add, block, 10, 50), drawnThrough(f, Operation::cut, upper_holes, 50, 60)};
    if (!lower_holes.empty()) steps.push_back(drawnThrough(f, Operation::cut, lower_holes, 0, 10));
    return steps;
}

struct Preferred {
    bool clean;
    double before, after;
    std::vector<Alternative> others;
};

Preferred preferred(bool lower_drawn, const std::vector<Vec2>& lower) {
    const Document d = twoPlates(lower_drawn);
    const Figure& f = d.model().figure;
    NoProgress quiet;
    const AreaSets areas(f, quiet);
    Work work;
    Judge best(f, areas, {}, LineKinds::told, Effort::thorough, work, quiet);
    best.consider(plates(f, areas, lower), "by hand");
    const double before = best.volume;
    preferUsual(f, areas, best);
    return {best.clean, before, best.volume, best.others};
}

} // namespace

TEST_CASE("holes that lines of others stand for are where those of the same axis are") {
    const double plates = 2 * 36000 + 36 * 36 * 40 - 4 * kHole;
    for (const std::vector<Vec2>& lower :
         {std::vector<Vec2>{{10, 10}, {50, 50}}, {{50, 10}, {10, 50}}, {{10, 10}, {50, 50}, {50, 10}}}) {
        const Preferred p = preferred(true, lower);
        REQUIRE(p.clean);
        CHECK(p.before == Approx(plates - static_cast<double>(lower.size()) * kHole));
        CHECK(p.after == Approx(plates - 4 * kHole));
        REQUIRE(p.others.size() == 1);
        CHECK(p.others.front().volume == Approx(p.before));
    }
}

TEST_CASE("a plate whose holes no line shows stays whole behind one that has them") {
    const Preferred p = preferred(false, {});
    REQUIRE(p.clean);
    CHECK(p.after == Approx(2 * 36000 + 36 * 36 * 40 - 4 * kHole));
    CHECK(p.others.empty());
}

TEST_CASE("round cuts from both sides that leave a piece no line shows are one through the part") {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN");
    t.entities()
        .box(0, 0, 60, 20)
        .box(0, 60, 60, 110)
        .circle(30, 85, 4)
        .circle(10, 70, 3)
        .text(0, -40, "THIRD ANGLE");
    for (double x : {26.0, 34.0, 7.0, 13.0}) t.line(x, 0, x, 20, "HIDDEN");
    const std::string path = temporary("facing.dxf");
    std::ofstream(path) << t.done();
    const Document d = opened(path);
    const Figure& f = d.model().figure;
    NoProgress quiet;
    const AreaSets areas(f, quiet);
    std::vector<Vec2> all, hole, second;
    for (const ClosedArea& a : areas.drawn) {
        if (f.viewById(a.view)->role() != Role::top) continue;
        all.push_back(a.seed);
        if (distance(a.seed, {30, 25}) < 4) hole.push_back(a.seed);
        if (distance(a.seed, {10, 10}) < 3) second.push_back(a.seed);
    }
    REQUIRE(hole.size() == 1);
    REQUIRE(second.size() == 1);
    Step first = drawnThrough(f, Operation::cut, hole, 0, 8),
         other = drawnThrough(f, Operation::cut, hole, 12, 0);
    first.from = {}, other.to = {};
    Step third = first, fourth = other;
    third.areas = fourth.areas = second;
    Work work;
    Judge best(f, areas, {}, LineKinds::told, Effort::thorough, work, quiet);
    best.consider({drawnThrough(f, Operation::add, all, 0, 20), first, other, third, fourth}, "by hand");
    REQUIRE_FALSE(best.steps.empty());
    CHECK_FALSE(best.clean);
    joinFacingCuts(f, areas, best);
    CHECK(best.clean);
    CHECK(best.steps.size() == 2);
    CHECK(best.volume == Approx(60 * 50 * 20 - std::numbers::pi * (16 + 9) * 20));
}

TEST_CASE("a round cut whose depth no line tells goes through, one that a line ends stays as deep") {
    // A plate of 80 x 50 x 20 with a circle of radius 8; hidden lines are not drawn, or say 12 deep.
    for (const bool told : {false, true}) {
        CAPTURE(told);
        ThreeViews t = threeViews(80, 50, 20);
        t.box();
        t.circle(Axis::z, {30, 20, 0}, 8);
        if (told)
            for (const Axis look : {Axis::x, Axis::y}) {
                const double c = look == Axis::y ? 30 : 20;
                const auto at = [&](double aside, double z) {
                    return look == Axis::y ? Vec3{c + aside, 0, z} : Vec3{0, c + aside, z};
                };
                for (const double side : {-8.0, 8.0}) t.line(look, at(side, 8), at(side, 20), "HIDDEN");
                t.line(look, at(-8, 8), at(8, 8), "HIDDEN");
            }
        const Document d = inViews(t.sheet);
        Searching s(d);
        Step base, cut;
        base.kind = cut.kind = StepKind::extrude, base.reach = Reach::through;
        for (const ViewMap& m : s.maps)
            if (m.view().axes.depth == Axis::z) base.view = cut.view = m.view().name;
        for (const ClosedArea& a : d.model().areas.drawn)
            if (a.view == s.figure.viewNamed(base.view)->view) {
                base.areas.push_back(a.seed);
                if (a.box.width() < 20) cut.areas = {a.seed};
            }
        cut.operation = Operation::cut, cut.reach = Reach::between, cut.from.kind = Bound::Kind::place;
        cut.from.place = {30, 20, 8};
        REQUIRE(s.judge.consider({base, cut}, "as said"));
        REQUIRE(s.judge.clean);
        preferUsual(s.figure, d.model().areas, s.judge);
        CHECK(s.judge.clean);
        CHECK(s.judge.volume == Approx(80 * 50 * 20 - 64 * kPi * (told ? 12 : 20)));
        REQUIRE(s.judge.steps.size() == 2);
        CHECK((s.judge.steps[1].reach == Reach::through) != told);
        REQUIRE(s.judge.others.size() == (told ? 0u : 1u));
        if (told) continue;
        CHECK(s.judge.others[0].differs == "1 round cut to a depth in place of through");
        CHECK(s.judge.others[0].volume == Approx(80 * 50 * 20 - 64 * kPi * 12));
    }
}
