#include "core/proposing/bosses_seen.h"
#include "core/proposing/chamfers_seen.h"
#include "core/proposing/fillets_seen.h"
#include "core/proposing/lacking_holes.h"
#include "core/proposing/lying_holes.h"
#include "core/proposing/mark_bounds.h"
#include "support/three_views.h"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <gp_Ax2.hxx>

using namespace prism;
using namespace prism::test;

// Bosses, chamfers, fillets and holes that a proposal reads off the lines and off solids, by their sizes.

namespace {

constexpr std::array kAxes{Axis::x, Axis::y, Axis::z};

double& coordinateOf(Vec3& p, Axis a) {
    return a == Axis::x ? p.x : a == Axis::y ? p.y : p.z;
}
/// A place by its coordinate along an axis and the two across it, in the order of the axes.
Vec3 placeAlong(Axis along, double at, double first, double second) {
    if (along == Axis::x) return {at, first, second};
    return along == Axis::y ? Vec3{first, at, second} : Vec3{first, second, at};
}
Axis otherThan(Axis a, Axis b) {
    return static_cast<Axis>(3 - static_cast<int>(a) - static_cast<int>(b));
}
gp_Pnt point(Vec3 p) {
    return {p.x, p.y, p.z};
}
TopoDS_Shape cylinder(Axis along, Vec3 from, double radius, double height) {
    const Vec3 d = unitOf(along);
    return BRepPrimAPI_MakeCylinder(gp_Ax2(point(from), {d.x, d.y, d.z}), radius, height).Shape();
}

double chord(double radius, double off) {
    return std::sqrt(radius * radius - off * off);
}

/// A line in both views beside an axis through (c, c): from the axis and along it.
void beside(ThreeViews& t, Axis along, double centre, Vec2 a, Vec2 b, const char* layer = "OUTLINE") {
    for (const Axis look : kAxes) {
        if (look == along) continue;
        const auto at = [&](Vec2 p) {
            Vec3 r{0, 0, 0};
            coordinateOf(r, along) = p.y;
            coordinateOf(r, otherThan(look, along)) = centre + p.x;
            return r;
        };
        t.line(look, at(a), at(b), layer);
    }
}

const FigureView& viewAlong(const Document& d, Axis depth) {
    for (const FigureView& v : d.model().figure.views)
        if (v.axes.depth == depth) return v;
    FAIL("no such view");
    return d.model().figure.views.front();
}

/// A round body along an axis through (20, 20): radius 20 to 27, radius 17 from there to 30; drawn with that
/// step at its high or its low end.
Document stepped(Axis along, bool high, bool in_sight) {
    ThreeViews t =
        threeViews(along == Axis::x ? 30 : 40, along == Axis::y ? 30 : 40, along == Axis::z ? 30 : 40);
    const auto at = [&](double v) { return high ? v : 30 - v; };
    for (const double side : {-1.0, 1.0}) {
        beside(t, along, 20, {side * 20, at(0)}, {side * 20, at(27)});
        beside(t, along, 20, {side * 17, at(27)}, {side * 17, at(30)});
    }
    beside(t, along, 20, {-20, at(0)}, {20, at(0)});
    beside(t, along, 20, {-20, at(27)}, {20, at(27)});
    beside(t, along, 20, {-17, at(30)}, {17, at(30)});
    const Vec3 centre = placeAlong(along, 0, 20, 20);
    t.circle(along, centre, 20), t.circle(along, centre, 17, in_sight ? "OUTLINE" : "HIDDEN");
    return inViews(t.sheet);
}

} // namespace

TEST_CASE("a step at the end of a round wall, as high as it is wide, is read as a chamfer to be cut") {
    const Axis along = GENERATE(Axis::x, Axis::y, Axis::z);
    const bool high = GENERATE(false, true);
    CAPTURE(along, high);
    const Document d = stepped(along, high, high == (along != Axis::y));
    REQUIRE(d.model().figure.views.size() == 3);
    const auto at = [&](double v) { return high ? v : 30 - v; };
    const auto round = [&](double radius, double to) {
        return cylinder(along, placeAlong(along, std::min(at(0), at(to)), 20, 20), radius, to);
    };
    const TopoDS_Shape solid = BRepAlgoAPI_Fuse(round(20, 27), round(17, 30)).Shape();
    const auto found = chamfersForSteps(d.model().figure, d.model().areas, solid);
    REQUIRE(found.size() == 1);
    const ChamferForStep& c = found[0];
    CHECK(c.width == Approx(3));
    CHECK(c.radius == Approx(20));
    CHECK(c.cut.kind == StepKind::chamfer);
    CHECK(c.cut.size == StepNumber(3.0));
    CHECK(c.cut.name == "chamfer 3");
    REQUIRE_FALSE(c.cut.edges.picks.empty());
    for (const PartPick& p : c.cut.edges.picks) {
        REQUIRE(p.place);
        Vec3 place = *p.place;
        CHECK(coordinateOf(place, along) == Approx(at(30)).margin(1e-9));
        coordinateOf(place, along) = 0;
        const Vec3 off = place - placeAlong(along, 0, 20, 20);
        CHECK(std::sqrt(dot(off, off)) == Approx(20));
    }
    CHECK(c.fill.operation == Operation::add);
    CHECK(c.fill.reach == Reach::between);
    CHECK(c.fill.view == viewAlong(d, along).name);
    // Filled up and cut, the body has the volume of a cone's stump on a cylinder.
    Step body;
    body.kind = StepKind::extrude, body.view = c.fill.view, body.reach = Reach::through, body.name = "body";
    for (const ClosedArea& a : d.model().areas.drawn)
        if (a.view == viewAlong(d, along).view) body.areas.push_back(a.seed);
    Step off = c.fill;
    off.operation = Operation::cut, off.name = "step";
    NoProgress quiet;
    const auto volume = [&](const std::vector<Step>& steps) {
        const BuildResult b = build(d.model().figure, d.model().areas, steps, quiet);
        for (const StepReport& s : b.steps) CHECK(s.ok);
        return b.measure.volume;
    };
    CHECK(volume({body}) == Approx(kPi * 400 * 30));
    CHECK(volume({body, off}) == Approx(kPi * (400 * 27 + 289 * 3)));
    CHECK(volume({body, off, c.fill, c.cut}) == Approx(kPi * (400 * 27 + (400 + 340 + 289))));
}

TEST_CASE("a step that is not as high as wide, or wider than a quarter of the wall, is no chamfer") {
    const Document d = stepped(Axis::z, true, true);
    const auto found = [&](double inner, double from) {
        const TopoDS_Shape solid = BRepAlgoAPI_Fuse(cylinder(Axis::z, {20, 20, 0}, 20, from),
                                                    cylinder(Axis::z, {20, 20, 0}, inner, 30))
                                       .Shape();
        return chamfersForSteps(d.model().figure, d.model().areas, solid).size();
    };
    CHECK(found(17, 27) == 1);
    CHECK(found(17, 26) == 0);
    CHECK(found(16, 27) == 0);
    CHECK(found(13, 23) == 0); // and no marks stand there
}

TEST_CASE("of two flanges the one without the other's holes is told, with marks that bound it") {
    // Along an axis through (30, 30): flanges of radius 30 from 0 to 8 and from 32 to 40, a pipe of radius 15
    // between them; holes of radius 4 at 22 from the axis through the first one only.
    const Axis along = GENERATE(Axis::x, Axis::y, Axis::z);
    const bool first = GENERATE(false, true);
    CAPTURE(along, first);
    ThreeViews t =
        threeViews(along == Axis::x ? 40 : 60, along == Axis::y ? 40 : 60, along == Axis::z ? 40 : 60);
    for (const double side : {-1.0, 1.0}) {
        beside(t, along, 30, {side * 30, 0}, {side * 30, 8}),
            beside(t, along, 30, {side * 30, 32}, {side * 30, 40});
        beside(t, along, 30, {side * 15, 8}, {side * 15, 32});
    }
    for (const double level : {0.0, 8.0, 32.0, 40.0}) beside(t, along, 30, {-30, level}, {30, level});
    t.circle(along, placeAlong(along, 0, 30, 30), 30);
    t.circle(along, placeAlong(along, 0, 30, 30), 15, "HIDDEN");
    for (const double side : {-1.0, 1.0}) t.circle(along, placeAlong(along, 0, 30 + side * 22, 30), 4);
    const Document d = inViews(t.sheet);
    REQUIRE(d.model().figure.views.size() == 3);
    const auto round = [&](double from, double to, double radius, double aside = 0) {
        return cylinder(along, placeAlong(along, from, 30 + aside, 30), radius, to - from);
    };
    TopoDS_Shape solid = BRepAlgoAPI_Fuse(round(0, 8, 30), round(8, 32, 15)).Shape();
    solid = BRepAlgoAPI_Fuse(solid, round(32, 40, 30)).Shape();
    for (const double side : {-22.0, 22.0})
        solid = BRepAlgoAPI_Cut(solid, first ? round(0, 8, 4, side) : round(32, 40, 4, side)).Shape();
    BuildResult b;
    b.shape = solid;
    coordinateOf(b.measure.lo, along) = 0, coordinateOf(b.measure.hi, along) = 40;
    const FigureView& v = viewAlong(d, along);
    const auto lacking = lackingHoles(d.model().figure, v, d.model().areas, b);
    REQUIRE(lacking.size() == 1);
    CHECK(lacking[0].low == Approx(first ? 32 : 0).margin(1e-9));
    CHECK(lacking[0].high == Approx(first ? 40 : 8));
    CHECK(lacking[0].holes.size() == 2);
    for (const auto& seeds : lacking[0].holes) {
        REQUIRE(seeds.size() == 1);
        CHECK(std::abs(distance(seeds[0], {30, 30}) - 22) < 4);
    }
    const auto standsAt = [&](const Bound& bound, double wanted) {
        REQUIRE(bound.kind == Bound::Kind::mark);
        const FigureView* o = d.model().figure.viewNamed(bound.mark.view);
        REQUIRE(o);
        CHECK((o->axes.right == along ? bound.mark.at.x : bound.mark.at.y) == Approx(wanted).margin(1e-6));
    };
    standsAt(lacking[0].from, lacking[0].low), standsAt(lacking[0].to, lacking[0].high);
    // With holes in both, or in none, nothing lacks.
    for (const double side : {-22.0, 22.0})
        b.shape = BRepAlgoAPI_Cut(b.shape, first ? round(32, 40, 4, side) : round(0, 8, 4, side)).Shape();
    CHECK(lackingHoles(d.model().figure, v, d.model().areas, b).empty());
}

TEST_CASE("of the marks at a depth the one nearest to a place bounds a step there") {
    // Level lines at Z 10 from X 0 to 20, and from 50 to 60, on a block of 60 x 40 x 30.
    ThreeViews t = threeViews(60, 40, 30);
    t.box();
    t.line(Axis::y, {0, 0, 10}, {20, 0, 10}), t.line(Axis::y, {20, 0, 10}, {20, 0, 30});
    t.line(Axis::y, {50, 0, 10}, {60, 0, 10}), t.line(Axis::y, {50, 0, 10}, {50, 0, 30});
    const Document d = inViews(t.sheet);
    const Figure& f = d.model().figure;
    const FigureView& top = viewAlong(d, Axis::z);
    const auto at = [&](double depth, double from, double to) {
        Box2 near;
        near.add(Vec2{from, 0}), near.add(Vec2{to, 40});
        return markAtDepth(f, top, depth, 0.01, near);
    };
    for (const auto& [from, to, lo, hi] : {std::array{2.0, 8.0, 0.0, 20.0}, {52.0, 58.0, 50.0, 60.0}}) {
        CAPTURE(from);
        const auto found = at(10, from, to);
        REQUIRE(found);
        CHECK(found->kind == Bound::Kind::mark);
        CHECK(found->mark.view == viewAlong(d, Axis::y).name);
        CHECK(found->mark.at.y == Approx(10));
        CHECK(found->mark.at.x >= lo - 1e-6);
        CHECK(found->mark.at.x <= hi + 1e-6);
    }
    CHECK_FALSE(at(10.1, 2, 8));
    CHECK_FALSE(at(9.9, 2, 8));
    CHECK(at(30, 2, 8));
    CHECK(at(0, 2, 8));
}

TEST_CASE("a cross hole through a round body is laid by two views that show its walls unlike long") {
    // A cylinder of radius 20, 40 long, its axis at 20 and 20; a hole of radius 5 across it, through its axis
    // and 24 along it. No view looks along the hole.
    const Axis hole = GENERATE(Axis::x, Axis::z);
    CAPTURE(hole);
    const Axis body = hole == Axis::x ? Axis::z : Axis::y, third = otherThan(hole, body);
    const auto place = [&](double on_hole, double on_body, double on_third) {
        Vec3 p{};
        coordinateOf(p, hole) = on_hole, coordinateOf(p, body) = on_body, coordinateOf(p, third) = on_third;
        return p;
    };
    ThreeViews t = threeViews(40, 40, 40);
    const auto outline = [&](ThreeViews& on, Axis look) {
        const Vec2 lo = on.on(look, {0, 0, 0}), hi = on.on(look, {40, 40, 40});
        on.sheet.box(lo.x, lo.y, hi.x, hi.y);
    };
    outline(t, third);
    t.circle(body, place(20, 0, 20), 20);
    const auto walls = [&](double along, double radius) {
        const double reach = chord(20, radius);
        for (const double side : {-radius, radius}) {
            t.line(body, place(20 - reach, 0, 20 + side), place(20 + reach, 0, 20 + side), "HIDDEN");
            t.line(third, place(0, along + side, 0), place(40, along + side, 0), "HIDDEN");
        }
    };
    walls(24, 5);
    const auto in = [](const Vec2& p, const ViewAxes& axes, Axis axis) {
        return axes.right == axis ? p.x : p.y;
    };
    SECTION("one hole") {
        const Document d = inViews(t.sheet);
        const Figure& f = d.model().figure;
        REQUIRE(f.views.size() == 2);
        const auto found = lyingAxes(f, mapsOf(d));
        REQUIRE(found.size() == 1);
        const LyingAxis& a = found[0];
        CHECK(a.across.axes.depth == hole);
        // Which of two views side by side is the front view is open: the one with the circle looks along it.
        const auto circle = std::ranges::find_if(
            f.curves, [](const FigureCurve& c) { return std::holds_alternative<Arc>(c.drawn); });
        REQUIRE(circle != f.curves.end());
        const Axis round = f.viewById(circle->view)->axes.depth, flat = otherThan(hole, round);
        CHECK(in(a.centre, a.across.axes, flat) == Approx(20));
        CHECK(in(a.centre, a.across.axes, round) == Approx(24));
        REQUIRE(a.radii.size() == 1);
        CHECK(a.radii[0] == Approx(5));
        Step s;
        a.layDown(s);
        REQUIRE(s.places.size() == 1);
        for (const auto& [view, at] : {std::pair{s.view, s.places[0]}, {s.axis.view, s.axis.at}}) {
            const FigureView* shown = f.viewNamed(view);
            REQUIRE(shown);
            CHECK(in(at, shown->axes, hole) == Approx(20));
            const Axis beside = shown->axes.depth == round ? flat : round;
            CHECK(in(at, shown->axes, beside) == Approx(beside == round ? 24 : 20));
        }
        CHECK(s.axis_upright == (f.viewNamed(s.view)->axes.up == hole));
        CHECK(s.axis.view != s.view);
    }
    SECTION("a wider bore on the same axis") {
        walls(24, 7);
        const auto found = lyingAxes(inViews(t.sheet).model().figure, mapsOf(inViews(t.sheet)));
        REQUIRE(found.size() == 1);
        std::vector<double> radii = found[0].radii;
        std::ranges::sort(radii);
        REQUIRE(radii.size() == 2);
        CHECK(radii[0] == Approx(5));
        CHECK(radii[1] == Approx(7));
    }
    SECTION("another hole of the same size beside it: which pair belongs to which is open") {
        walls(8, 5);
        CHECK(lyingAxes(inViews(t.sheet).model().figure, mapsOf(inViews(t.sheet))).empty());
    }
    SECTION("walls of one length in both views may be those of a slot") {
        ThreeViews plain = threeViews(40, 40, 40);
        for (const Axis look : {body, third}) {
            outline(plain, look);
            for (const double side : {-5.0, 5.0})
                plain.line(look, place(0, 24 + side, 20 + side), place(40, 24 + side, 20 + side), "HIDDEN");
        }
        const Document d = inViews(plain.sheet);
        CHECK(lyingAxes(d.model().figure, mapsOf(d)).empty());
    }
}

TEST_CASE("a round boss on a plane face is read with its ends, and without it the block is left") {
    // A block of 60 x 60 x 60; the boss of radius 8 about (24, 26), 12 high, on its high or its low face.
    const Axis along = GENERATE(Axis::x, Axis::y, Axis::z);
    const bool high = GENERATE(false, true);
    CAPTURE(along, high);
    const double low = high ? 0 : 12; // of the block
    const auto extent = [&](Axis a) { return along == a ? 72.0 : 60.0; };
    ThreeViews t = threeViews(extent(Axis::x), extent(Axis::y), extent(Axis::z));
    const auto corner = [&](bool far) {
        return placeAlong(along, far ? low + 60 : low, far ? 60 : 0, far ? 60 : 0);
    };
    for (const Axis look : kAxes) {
        const Vec2 a = t.on(look, corner(false)), b = t.on(look, corner(true));
        t.sheet.box(a.x, a.y, b.x, b.y);
    }
    const bool near = high == (along != Axis::y);
    const Vec3 centre = placeAlong(along, 0, 24, 26);
    t.circle(along, centre, 8, near ? "OUTLINE" : "HIDDEN");
    const double root = high ? 60 : 12, end = high ? 72 : 0;
    for (const Axis look : kAxes) {
        if (look == along) continue;
        const Axis across = otherThan(look, along);
        const auto at = [&](double aside, double v) {
            Vec3 p = centre;
            coordinateOf(p, along) = v, coordinateOf(p, across) += aside;
            return p;
        };
        for (const double side : {-8.0, 8.0}) t.line(look, at(side, root), at(side, end));
        t.line(look, at(-8, end), at(8, end));
    }
    const Document d = inViews(t.sheet);
    const Figure& f = d.model().figure;
    REQUIRE(f.views.size() == 3);
    const auto maps = mapsOf(d);
    CHECK(bossesSeen(f, maps, d.model().areas, StandsOn::round_body).empty());
    const auto found = bossesSeen(f, maps, d.model().areas, StandsOn::plane_face);
    REQUIRE(found.size() == 1);
    const BossSeen& b = found[0];
    CHECK(distance(b.centre, along == Axis::z   ? Vec2{24, 26}
                             : along == Axis::y ? Vec2{24, 26}
                                                : Vec2{24, 26}) < 1e-6);
    CHECK(b.wall.radius == Approx(8));
    CHECK(b.wall.end_radius == Approx(8));
    CHECK(b.wall.at == Approx(end).margin(1e-6));
    CHECK(b.wall.end == Approx(root));
    CHECK(b.step.operation == Operation::add);
    CHECK(b.step.name == "boss");
    CHECK(b.step.view == viewAlong(d, along).name);
    CHECK(b.step.areas.size() == 1);
    const auto standsAt = [&](const Bound& bound) {
        const FigureView* o = f.viewNamed(bound.mark.view);
        REQUIRE(o);
        return o->axes.right == along ? bound.mark.at.x : bound.mark.at.y;
    };
    CHECK(standsAt(b.step.from) == Approx(std::min(root, end)).margin(1e-6));
    CHECK(standsAt(b.step.to) == Approx(std::max(root, end)).margin(1e-6));
    const Figure left = withoutBosses(f, found);
    double length = 0;
    for (const FigureCurve& c : left.curves) {
        CHECK(c.role == LineRole::outline);
        length += lengthOf(c.drawn);
    }
    CHECK(length == Approx(3 * 240));
}

TEST_CASE("a boss that grows out of a round body is read with the curve in which it meets that, and closed") {
    // On a body of radius 20 along X a boss of radius 8 along Z, its end 30 off the axis, above or below.
    for (const bool low : {false, true}) {
        CAPTURE(low);
        ThreeViews t = threeViews(72, 40, 50);
        const auto z = [&](double off) { return low ? 30 - off : 20 + off; };
        const double meets = std::sqrt(400.0 - 64);
        for (const Axis look : {Axis::y, Axis::z}) {
            const auto at = [&](double x, double off) {
                return look == Axis::y ? Vec3{x, 0, z(off)} : Vec3{x, 20 + off, 0};
            };
            t.line(look, at(0, -20), at(72, -20)), t.line(look, at(0, -20), at(0, 20));
            t.line(look, at(72, -20), at(72, 20));
            if (look == Axis::z) t.line(look, at(0, 20), at(72, 20));
        }
        t.line(Axis::y, {0, 0, z(20)}, {22, 0, z(20)}), t.line(Axis::y, {38, 0, z(20)}, {72, 0, z(20)});
        t.circle(Axis::x, {0, 20, z(0)}, 20), t.circle(Axis::z, {30, 20, 0}, 8, low ? "HIDDEN" : "OUTLINE");
        for (const double side : {-8.0, 8.0}) {
            t.line(Axis::y, {30 + side, 0, z(30)}, {30 + side, 0, z(20)});
            t.line(Axis::x, {0, 20 + side, z(30)}, {0, 20 + side, z(meets)});
        }
        t.line(Axis::y, {22, 0, z(30)}, {38, 0, z(30)}), t.line(Axis::x, {0, 12, z(30)}, {0, 28, z(30)});
        // The arc through its ends and its lowest place stands for the curve.
        const double dip = 20 - meets, radius = (64 + dip * dip) / (2 * dip);
        const double half = std::asin(8 / radius) * 180 / kPi, way = low ? 90 : 270;
        const Vec2 centre = t.on(Axis::y, {30, 0, z(meets + radius)});
        t.sheet.arc(centre.x, centre.y, radius, way - half, way + half);
        const Document d = inViews(t.sheet);
        const Figure& f = d.model().figure;
        REQUIRE(f.views.size() == 3);
        CHECK(bossesSeen(f, mapsOf(d), d.model().areas, StandsOn::plane_face).empty());
        const auto found = bossesSeen(f, mapsOf(d), d.model().areas);
        REQUIRE(found.size() == 1);
        const BossSeen& b = found[0];
        CHECK(distance(b.centre, {30, 20}) < 1e-6);
        CHECK(b.wall.radius == Approx(8));
        CHECK(b.wall.at == Approx(z(30)).margin(1e-6));
        CHECK(b.wall.end == Approx(z(meets)));
        CHECK(b.seen.lines.size() == 8);
        // It begins a quarter of the way below where the views see it end.
        const Bound &root = low ? b.step.to : b.step.from, &end = low ? b.step.from : b.step.to;
        CHECK(root.beyond.value == Approx((low ? 0.25 : -0.25) * dip));
        const auto standsAt = [&](const Bound& bound) {
            const FigureView* o = f.viewNamed(bound.mark.view);
            REQUIRE(o);
            return o->axes.right == Axis::z ? bound.mark.at.x : bound.mark.at.y;
        };
        CHECK(standsAt(root) == Approx(z(meets)));
        CHECK(standsAt(end) == Approx(z(30)).margin(1e-6));
        REQUIRE(b.seen.closing.size() == 1);
        CHECK(std::abs(b.seen.closing[0].line.a.y - z(20)) < 1e-6);
        CHECK(distance(b.seen.closing[0].line.a, b.seen.closing[0].line.b) == Approx(16));
        // What is left is the body: two boxes, of which one side is in three pieces, and a circle.
        const Figure left = withoutBosses(f, found);
        double length = 0;
        for (const FigureCurve& c : left.curves) length += lengthOf(c.drawn);
        CHECK(length == Approx(2 * 2 * (72 + 40) + 2 * kPi * 20));
    }
}

TEST_CASE("rounds of one radius in two views may be fillets, and round the edges of a sharp solid") {
    // A block of 60 x 40 x 30 with its edges along X and Z at the front rounded by 6 seen from the side and
    // from above; and a corner of the front view rounded by 9, which no other view shows.
    ThreeViews t = threeViews(60, 40, 30);
    const auto line = [&](Axis look, Vec3 a, Vec3 b) { t.line(look, a, b); };
    const auto arc = [&](Axis look, Vec3 c, double r, double from, double to) {
        const Vec2 at = t.on(look, c);
        t.sheet.arc(at.x, at.y, r, from, to);
    };
    // From the right: the edge at Y 0, Z 30 is round.
    line(Axis::x, {0, 0, 0}, {0, 40, 0}), line(Axis::x, {0, 40, 0}, {0, 40, 30});
    line(Axis::x, {0, 40, 30}, {0, 6, 30}), line(Axis::x, {0, 0, 24}, {0, 0, 0});
    arc(Axis::x, {0, 6, 24}, 6, 90, 180);
    // From above: the edge at X 0, Y 40 is round.
    line(Axis::z, {0, 0, 0}, {60, 0, 0}), line(Axis::z, {60, 0, 0}, {60, 40, 0});
    line(Axis::z, {60, 40, 0}, {6, 40, 0}), line(Axis::z, {0, 34, 0}, {0, 0, 0});
    arc(Axis::z, {6, 34, 0}, 6, 90, 180);
    // From the front: the edge at X 60, Z 0 is round, by 9.
    line(Axis::y, {0, 0, 0}, {51, 0, 0}), line(Axis::y, {60, 0, 9}, {60, 0, 30});
    line(Axis::y, {60, 0, 30}, {0, 0, 30}), line(Axis::y, {0, 0, 30}, {0, 0, 0});
    arc(Axis::y, {51, 0, 9}, 9, 270, 360);
    const Document d = inViews(t.sheet);
    const Figure& f = d.model().figure;
    REQUIRE(f.views.size() == 3);
    const auto choices = filletChoices(f);
    REQUIRE(choices.size() == 1);
    CHECK(choices[0].size() == 2);
    for (const auto& r : choices[0])
        CHECK(std::get<Arc>(f.curves[static_cast<size_t>(r.arc)].drawn).radius == Approx(6));
    Step body;
    body.kind = StepKind::extrude, body.view = viewAlong(d, Axis::y).name, body.reach = Reach::through;
    body.name = "body";
    for (const ClosedArea& a : d.model().areas.drawn)
        if (a.view == viewAlong(d, Axis::y).view) body.areas.push_back(a.seed);
    NoProgress quiet;
    const auto steps = withFillets(f, d.model().areas, {body}, choices[0], quiet);
    REQUIRE(steps.size() == 2);
    CHECK(steps[0].sharp.empty()); // the corner of its own outline is no fillet
    CHECK(steps[1].kind == StepKind::fillet);
    CHECK(steps[1].name == "fillets R6");
    CHECK(steps[1].edges.picks.size() == 2);
    const BuildResult built = build(f, d.model().areas, steps, quiet);
    for (const StepReport& s : built.steps) CHECK(s.ok);
    // What a round takes off a sharp edge is (1 - pi/4) of the square of its radius; where the two meet at
    // no corner, nothing is taken twice.
    const double off = 1 - kPi / 4;
    CHECK(built.measure.volume == Approx(60 * 40 * 30 - off * (81 * 40 + 36 * 60 + 36 * 30)).epsilon(1e-9));
}
