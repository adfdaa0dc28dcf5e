#include "core/proposing/holes_seen.h"
#include "core/proposing/without_features.h"
#include "support/ran.h"
#include "support/three_views.h"

using namespace prism;
using namespace prism::test;

// Holes drawn by their sizes and places, in every direction and from both sides, are read off the views.

namespace {

enum class Shape { through, flat, pointed, counterbored, countersunk };

double& coordinateOf(Vec3& p, Axis a) {
    return a == Axis::x ? p.x : a == Axis::y ? p.y : p.z;
}

/// A block of 80 x 60 x 40 and one hole in it of radius 5, its axis through (30, 20, 24) but along its own
/// axis: 14 deep where it is blind; widened to radius 9, 6 deep or by a right angle.
struct Block {
    ThreeViews views = threeViews(80, 60, 40);
    Axis along;
    bool high; ///< drilled from the high end of the axis
    double face() const { return high ? far() : 0; }
    double far() const { return along == Axis::x ? 80 : along == Axis::y ? 60 : 40; }
    double at(double deep) const { return high ? far() - deep : deep; }

    Vec3 place(double aside, double deep, Axis across) const {
        Vec3 p{30, 20, 24};
        coordinateOf(p, along) = at(deep);
        coordinateOf(p, across) += aside;
        return p;
    }
    /// A line of the profile in both views beside the hole: from its axis and from its face.
    void profile(Vec2 from, Vec2 to, bool both_sides = true) {
        for (const Axis look : {Axis::x, Axis::y, Axis::z}) {
            if (look == along) continue;
            const Axis across = static_cast<Axis>(3 - static_cast<int>(look) - static_cast<int>(along));
            for (const double side : {-1.0, 1.0})
                if (side > 0 || both_sides)
                    views.line(look, place(side * from.x, from.y, across), place(side * to.x, to.y, across),
                               "HIDDEN");
        }
    }
    void ring(double radius, bool seen) {
        views.circle(along, place(0, 0, Axis::x == along ? Axis::y : Axis::x), radius,
                     seen ? "OUTLINE" : "HIDDEN");
    }
    /// Whether the viewer of the circles stands where the hole begins.
    bool near() const { return high == (along != Axis::y); }
};

Block drilled(Axis along, bool high, Shape shape) {
    Block b{.along = along, .high = high};
    b.views.box();
    const bool blind = shape == Shape::flat || shape == Shape::pointed;
    const double mouth = shape == Shape::counterbored || shape == Shape::countersunk ? 9 : 5;
    b.ring(5, b.near() || !blind);
    if (mouth > 5) b.ring(mouth, b.near());
    const double begins = shape == Shape::counterbored  ? 6
                          : shape == Shape::countersunk ? 4
                                                        : 0,
                 ends = blind ? 14 : b.far();
    b.profile({5, begins}, {5, ends});
    if (shape == Shape::counterbored) b.profile({9, 0}, {9, 6}), b.profile({-9, 6}, {9, 6}, false);
    if (shape == Shape::countersunk) b.profile({9, 0}, {5, 4}), b.profile({-5, 4}, {5, 4}, false);
    if (blind) b.profile({-5, 14}, {5, 14}, false);
    if (shape == Shape::pointed) b.profile({5, 14}, {0, 17});
    return b;
}

} // namespace

TEST_CASE("a hole of every shape is read in every direction and from both sides, with its sizes") {
    const Axis along = GENERATE(Axis::x, Axis::y, Axis::z);
    const bool high = GENERATE(false, true);
    const Shape shape =
        GENERATE(Shape::through, Shape::flat, Shape::pointed, Shape::counterbored, Shape::countersunk);
    CAPTURE(along, high, shape);
    const Block b = drilled(along, high, shape);
    const Document d = inViews(b.views.sheet);
    const Figure& f = d.model().figure;
    REQUIRE(f.views.size() == 3);
    const auto holes = holesSeen(f, mapsOf(d));
    REQUIRE(holes.size() == 1);
    const HoleSeen& h = holes[0];
    const bool blind = shape == Shape::flat || shape == Shape::pointed,
               wide = shape == Shape::counterbored || shape == Shape::countersunk;
    CHECK(h.step.kind == StepKind::hole);
    CHECK(h.step.operation == Operation::cut);
    CHECK(f.viewNamed(h.step.view)->axes.depth == along);
    REQUIRE(h.step.places.size() == 1);
    const Vec2 centre = along == Axis::x ? Vec2{20, 24} : along == Axis::y ? Vec2{30, 24} : Vec2{30, 20};
    CHECK(distance(h.step.places[0], centre) < 1e-6);
    CHECK(h.step.hole.kind == (shape == Shape::counterbored  ? HoleKind::counterbore
                               : shape == Shape::countersunk ? HoleKind::countersink
                                                             : HoleKind::plain));
    CHECK((h.step.reach == Reach::through) == !blind);
    CHECK(h.step.from.kind == Bound::Kind::outermost);
    // A plain hole that goes through begins at both ends: the viewer's is the usual one.
    CHECK(h.step.hole.from_far == (shape != Shape::through && !b.near()));
    const bool from_high = shape == Shape::through ? along != Axis::y : high;
    const double face = from_high ? b.far() : 0, inner = shape == Shape::counterbored  ? b.at(6)
                                                         : shape == Shape::countersunk ? b.at(4)
                                                                                       : face;
    for (const auto& [i, wanted] :
         {std::pair{0, 5.0}, {1, wide ? 9.0 : 0.0}, {2, face}, {3, inner}, {4, blind ? b.at(14) : 0.0}})
        CHECK(h.sizes[static_cast<size_t>(i)] == Approx(wanted).margin(1e-6));
    CHECK(h.step.hole.point == Approx(shape == Shape::pointed ? 2 * std::atan2(5, 3)
                                      : shape == Shape::flat  ? kPi
                                                              : HoleShape{}.point));
    CHECK(h.step.hole.sink_angle == Approx(kPi / 2)); // what is usual where there is none
    CHECK(h.step.name == (shape == Shape::through        ? "hole"
                          : shape == Shape::counterbored ? "counterbore hole"
                          : shape == Shape::countersunk  ? "countersink hole"
                                                         : "blind hole"));
    CHECK(h.step.hole.diameter == StepNumber(0.0)); // the circles tell the sizes
    CHECK(h.step.hole.wide == StepNumber(0.0));
    CHECK_FALSE(h.open_end);
    // Without it the sheet shows the block alone.
    const Figure left = withoutHoles(f, holes);
    double length = 0;
    for (const FigureCurve& c : left.curves) {
        CHECK(c.role == LineRole::outline);
        length += lengthOf(c.drawn);
    }
    CHECK(length == Approx(2 * (80 + 40) + 2 * (80 + 60) + 2 * (60 + 40)));
}

TEST_CASE(
    "a hole that ends at the wall of a bore goes on to its axis, whether or not a view shows that end on") {
    // A bore of radius 8 right through the block, its axis through (30, 20, 24), and square to it a hole of
    // radius 5 that runs into it, from either side. Without a view of its circle its walls are told by their
    // unlike length.
    const Axis bore = GENERATE(Axis::x, Axis::y, Axis::z), along = GENERATE(Axis::x, Axis::y, Axis::z);
    const bool high = GENERATE(false, true), end_on = GENERATE(false, true);
    if (bore == along || (bore == Axis::y && !end_on)) return; // without a front view nothing folds
    CAPTURE(bore, along, high, end_on);
    const Axis third = static_cast<Axis>(3 - static_cast<int>(bore) - static_cast<int>(along));
    Block b{.along = along, .high = high};
    const Vec3 far{80, 60, 40}, middle{30, 20, 24};
    const auto place = [&](double on_hole, double on_bore, double aside) {
        Vec3 p{};
        coordinateOf(p, along) = on_hole, coordinateOf(p, bore) = on_bore, coordinateOf(p, third) = aside;
        return p;
    };
    Vec3 m = middle, f = far;
    const double axis = coordinateOf(m, along), at = coordinateOf(m, bore), off = coordinateOf(m, third),
                 face = high ? coordinateOf(f, along) : 0, way = high ? 1 : -1;
    for (const Axis look : {Axis::x, Axis::y, Axis::z}) {
        if (look == bore && !end_on) continue;
        const Vec2 lo = b.views.on(look, {0, 0, 0}), hi = b.views.on(look, far);
        b.views.sheet.box(lo.x, lo.y, hi.x, hi.y);
        for (const double side : {-1.0, 1.0}) {
            if (look != bore) { // along the wall of the bore
                const Vec3 across = look == third ? place(8 * side, 0, 0) : place(0, 0, 8 * side);
                const double out = look == along && !end_on ? 2 : 0; // as out of a round body
                b.views.line(look, place(axis, out, off) + across,
                             place(axis, coordinateOf(f, bore) - out, off) + across, "HIDDEN");
            }
            if (look == third)
                b.views.line(look, place(face, at + 5 * side, off), place(axis + 8 * way, at + 5 * side, off),
                             "HIDDEN");
            if (look == bore)
                b.views.line(look, place(face, at, off + 5 * side),
                             place(axis + std::sqrt(39.0) * way, at, off + 5 * side), "HIDDEN");
        }
    }
    if (end_on) b.views.circle(bore, middle, 8);
    b.ring(5, b.near());
    const Document d = inViews(b.views.sheet);
    const Figure& figure = d.model().figure;
    REQUIRE(figure.views.size() == (end_on ? 3u : 2u));
    const auto holes = holesSeen(figure, mapsOf(d));
    REQUIRE(holes.size() == 2);
    const HoleSeen &wide = holes[holes[0].sizes[0] < 6], &narrow = holes[holes[0].sizes[0] > 6];
    CHECK(wide.sizes[0] == Approx(8));
    CHECK(wide.step.reach == Reach::through);
    CHECK(narrow.sizes[0] == Approx(5));
    CHECK(narrow.step.reach == Reach::between);
    CHECK(narrow.sizes[2] == Approx(face).margin(1e-6));
    CHECK(narrow.sizes[4] == Approx(axis));
    CHECK(narrow.into == (&wide - holes.data()));
    CHECK(narrow.step.name == "hole");
    const Bound& to = narrow.step.to;
    REQUIRE(to.kind == Bound::Kind::mark);
    const ViewAxes& axes = figure.viewNamed(to.mark.view)->axes;
    REQUIRE((axes.right == along || axes.up == along));
    CHECK((axes.right == along ? to.mark.at.x : to.mark.at.y) == Approx(axis));
    const Figure left = withoutHoles(figure, holes);
    for (const FigureCurve& c : left.curves) CHECK(c.role == LineRole::outline);
    CHECK(left.curves.size() == (end_on ? 12u : 8u));
}

TEST_CASE("a hole out of a round body begins where it comes out farthest, in whichever view that is seen") {
    // A cylinder of radius 20, 60 long, its axis at 20 and 20; a blind hole of radius 5 square to it, 24 from
    // its low end, 14 deep from where it comes out first.
    for (const auto& [body, hole] : {std::pair{Axis::x, Axis::z},
                                     {Axis::x, Axis::y},
                                     {Axis::z, Axis::y},
                                     {Axis::z, Axis::x},
                                     {Axis::y, Axis::z},
                                     {Axis::y, Axis::x}})
        for (const bool high : {false, true}) {
            CAPTURE(body, hole, high);
            const auto third = static_cast<Axis>(3 - static_cast<int>(body) - static_cast<int>(hole));
            const auto extent = [&, body = body](Axis a) { return a == body ? 60.0 : 40.0; };
            ThreeViews t = threeViews(extent(Axis::x), extent(Axis::y), extent(Axis::z));
            const auto place = [&, body = body, hole = hole](double on_hole, double on_body,
                                                             double on_third) {
                Vec3 p{};
                coordinateOf(p, hole) = high ? 40 - on_hole : on_hole;
                coordinateOf(p, body) = on_body, coordinateOf(p, third) = on_third;
                return p;
            };
            for (const Axis look : {hole, third}) {
                const Vec2 lo = t.on(look, {0, 0, 0}),
                           hi = t.on(look, {extent(Axis::x), extent(Axis::y), extent(Axis::z)});
                t.sheet.box(lo.x, lo.y, hi.x, hi.y);
            }
            t.circle(body, place(20, 0, 20), 20);
            const bool near = high == (hole != Axis::y);
            t.circle(hole, place(0, 24, 20), 5, near ? "OUTLINE" : "HIDDEN");
            const double late = 20 - std::sqrt(400.0 - 25); // beside its middle it comes out later
            for (const double side : {-5.0, 5.0}) {
                t.line(body, place(late, 0, 20 + side), place(14, 0, 20 + side), "HIDDEN");
                t.line(third, place(0, 24 + side, 0), place(14, 24 + side, 0), "HIDDEN");
            }
            t.line(body, place(14, 0, 15), place(14, 0, 25), "HIDDEN");
            t.line(third, place(14, 19, 0), place(14, 29, 0), "HIDDEN");
            const Document d = inViews(t.sheet);
            REQUIRE(d.model().figure.views.size() == 3);
            const auto holes = holesSeen(d.model().figure, mapsOf(d));
            REQUIRE(holes.size() == 1);
            const auto at = [&](double deep) { return high ? 40 - deep : deep; };
            CHECK(holes[0].sizes[0] == Approx(5));
            CHECK(holes[0].sizes[2] == Approx(at(0)).margin(1e-6));
            CHECK(holes[0].sizes[4] == Approx(at(14)));
            CHECK(holes[0].step.from.kind == Bound::Kind::outermost);
            CHECK(holes[0].step.reach == Reach::between);
            CHECK(holes[0].step.hole.from_far != near);
            CHECK(holes[0].step.hole.point == Approx(kPi));
        }
}

TEST_CASE("holes of one kind are one step; what differs in anything has one of its own") {
    const auto hole = [](double x) {
        HoleSeen h;
        h.step.kind = StepKind::hole, h.step.places = {{x, 0}}, h.step.name = "hole";
        h.sizes = {5, 9, 40, 34, 10};
        return h;
    };
    const auto steps = [&](const std::function<void(HoleSeen&)>& change) {
        HoleSeen other = hole(30);
        change(other);
        return holeSteps({hole(10), hole(20), other}, 0.01);
    };
    const auto same = steps([](HoleSeen&) {});
    REQUIRE(same.size() == 1);
    CHECK(same[0].places == std::vector<Vec2>{{10, 0}, {20, 0}, {30, 0}});
    CHECK(steps([](HoleSeen& h) { h.sizes[3] += 0.009; }).size() == 1);
    CHECK(steps([](HoleSeen& h) { h.step.hole.point += 5e-4; }).size() == 1);
    for (size_t i = 0; i < 5; ++i) CHECK(steps([&](HoleSeen& h) { h.sizes[i] += 0.011; }).size() == 2);
    for (const auto& change : std::vector<std::function<void(HoleSeen&)>>{
             [](HoleSeen& h) { h.step.view = Role::right; },
             [](HoleSeen& h) { h.step.reach = Reach::through; },
             [](HoleSeen& h) { h.step.name = "blind hole"; },
             [](HoleSeen& h) { h.step.from.kind = Bound::Kind::mark; },
             [](HoleSeen& h) { h.step.hole.from_far = true; },
             [](HoleSeen& h) { h.step.hole.diameter = 8.0; }, [](HoleSeen& h) { h.step.hole.wide = 18.0; },
             [](HoleSeen& h) { h.step.hole.sink_angle += 0.01; },
             [](HoleSeen& h) { h.step.hole.point -= 0.01; },
             [](HoleSeen& h) {
                 h.step.axis = {Role::top, {1, 2}};
             }}) {
        const auto r = steps(change);
        REQUIRE(r.size() == 2);
        CHECK(r[0].places.size() == 2);
        CHECK(r[1].places == std::vector<Vec2>{{30, 0}});
    }
}

TEST_CASE("circles between which others stand say their sizes themselves") {
    // In the middle of a block a hole of radius 5 and a boss's rim of radius 3 about the same axis, which is
    // no hole: the smallest circle is not the hole's.
    Block b = drilled(Axis::z, true, Shape::through);
    b.ring(3, true);
    const Document d = inViews(b.views.sheet);
    const auto holes = holesSeen(d.model().figure, mapsOf(d));
    REQUIRE(holes.size() == 1);
    CHECK(holes[0].sizes[0] == Approx(5));
    CHECK(holes[0].step.hole.diameter == StepNumber(10.0));
    // Of a counterbore the next circle is its own, unless one stands between.
    Block wide = drilled(Axis::z, true, Shape::counterbored);
    wide.ring(7, true);
    const Document e = inViews(wide.views.sheet);
    const auto bored = holesSeen(e.model().figure, mapsOf(e));
    REQUIRE(bored.size() == 1);
    CHECK(bored[0].step.hole.diameter == StepNumber(0.0));
    CHECK(bored[0].step.hole.wide == StepNumber(18.0));
}
