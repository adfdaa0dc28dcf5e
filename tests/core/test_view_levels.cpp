#include "core/views/levels.h"
#include "core/views/oblique.h"
#include "support/samples.h"

using namespace prism;
using namespace prism::test;
using namespace prism::views;

// Coordinates by which views are matched, and the directions of views that are drawn askew.

namespace {

void checkSame(const std::vector<double>& found, const std::vector<double>& wanted) {
    REQUIRE(found.size() == wanted.size());
    for (size_t i = 0; i < wanted.size(); ++i) CHECK(found[i] == Approx(wanted[i]).margin(1e-9));
}

/// A view of all lines of a drawing.
View viewOf(const Drawing& d, int id, Role role, const std::vector<int>& entities) {
    View v;
    v.id = id, v.role = role, v.entities = entities;
    for (const int e : entities)
        for (const Curve& c : d.entities[static_cast<size_t>(e)].curves) v.box_sheet.add(boxOf(c));
    return v;
}

std::vector<int> from(int first, int count) {
    std::vector<int> r;
    for (int i = 0; i < count; ++i) r.push_back(first + i);
    return r;
}

/// A rectangle about a centre, turned by an angle in degrees.
void turned(DxfText& t, Vec2 centre, double width, double height, double degrees) {
    const Affine2 turn = Affine2::rotation(degrees * kPi / 180);
    std::vector<Vec2> corners;
    for (const auto& [x, y] : {std::pair{-0.5, -0.5}, {0.5, -0.5}, {0.5, 0.5}, {-0.5, 0.5}})
        corners.push_back(centre + turn.linear({x * width, y * height}));
    for (size_t i = 0; i < 4; ++i) {
        const Vec2 a = corners[i], b = corners[(i + 1) % 4];
        t.line(a.x, a.y, b.x, b.y);
    }
}

} // namespace

TEST_CASE("levels are the ends, the extent and the middle of whatever is drawn, along any direction") {
    const std::vector<Curve> curves{Segment{{3, 1}, {9, 5}}, Arc{{20, 10}, 4, 0, 2 * kPi},
                                    Arc{{40, 0}, 5, 0, kPi}};
    checkSame(levelsAlong(curves, {1, 0}, 1e-6), {3, 9, 16, 20, 24, 35, 45});
    // The half circle ends at its centre's level and rises to its radius.
    checkSame(levelsAlong(curves, {0, 1}, 1e-6), {0, 1, 5, 6, 10, 14});
    checkSame(levelsAlong(curves, {0, 3}, 1e-6), {0, 1, 5, 6, 10, 14}); // of whatever length it is
    const double root = std::sqrt(0.5);
    // Square to the lower right: ends of the line at 2 and 4 times the root of a half; a circle from end to
    // end; of the half circle both ends, and where it comes nearest.
    std::vector<double> slanted{2 * root,      4 * root,      10 * root - 4, 10 * root,
                                10 * root + 4, 40 * root - 5, 35 * root,     45 * root};
    std::ranges::sort(slanted);
    checkSame(levelsAlong(curves, {1, -1}, 1e-6), slanted);
    // What lies as close as the tolerance is one level.
    checkSame(levelsAlong({Segment{{0, 0}, {10, 0}}, Segment{{0.05, 1}, {10.2, 1}}}, {1, 0}, 0.1),
              {0, 10, 10.2});
}

TEST_CASE("levels match where one of the others lies within the tolerance of where they are shifted to") {
    const std::vector<double> base{0, 10, 25, 40};
    CHECK(matches({100, 110, 125, 140}, -100, base, 0.01) == 4);
    CHECK(matches({100, 110, 126, 140}, -100, base, 0.01) == 3);
    CHECK(matches({100.02, 110, 125, 139.98}, -100, base, 0.01) == 2);
    CHECK(matches({100.02, 110, 125, 139.98}, -100, base, 0.03) == 4);
    CHECK(matches({-5, 55}, 0, base, 0.01) == 0);
    CHECK(bestShift({100, 110, 125, 140}, base, 0.01) == Approx(-100));
    // A view that lacks its low end is brought to the others by its high one, or by what lies between.
    CHECK(bestShift({105, 110, 125, 140}, base, 0.01) == Approx(-100));
    CHECK(bestShift({105, 110, 125, 137}, base, 0.01) == Approx(-100));
    CHECK(bestShift({100, 107}, {0, 30}, 0.01) == Approx(-100)); // by its low end where nothing tells
}

TEST_CASE("a view is askew by the direction of most of its length") {
    for (const double degrees : {10.0, 30.0, 45.0, 77.0, 120.0, -15.0}) {
        CAPTURE(degrees);
        DxfText t;
        t.layer("OUTLINE").entities();
        turned(t, {50, 50}, 40, 20, degrees);
        const Drawing d = drawn(t.done());
        const auto u = askewDirection(d, viewOf(d, 0, Role::auxiliary, from(0, 4)));
        REQUIRE(u);
        CHECK(length(*u) == Approx(1));
        CHECK(std::remainder(angleOf(*u) - degrees * kPi / 180, kPi / 2) == Approx(0).margin(1e-4));
    }
    const auto askew = [](const std::function<void(DxfText&)>& draw, int count) {
        DxfText t;
        t.layer("OUTLINE").entities();
        draw(t);
        const Drawing d = drawn(t.done());
        return askewDirection(d, viewOf(d, 0, Role::auxiliary, from(0, count)));
    };
    CHECK_FALSE(askew([](DxfText& t) { turned(t, {0, 0}, 40, 20, 0); }, 4));
    CHECK_FALSE(askew([](DxfText& t) { turned(t, {0, 0}, 40, 20, 90); }, 4));
    // A long line in another direction: less than six tenths run one way, or still as much.
    const auto withLine = [&](double length) {
        return askew(
            [&](DxfText& t) {
                turned(t, {0, 0}, 40, 20, 30);
                t.line(100, 0, 100 + length, 0.3 * length);
            },
            5);
    };
    CHECK(withLine(70));       // 120 of 193
    CHECK_FALSE(withLine(85)); // 120 of 209
}

TEST_CASE("the edge that an auxiliary view was drawn square to is the longest one opposite it") {
    DxfText t;
    t.layer("OUTLINE").entities();
    // A front view with an edge that rises by 30 degrees, 40 long; a shorter one beside it.
    const Vec2 rise = direction(kPi / 6), across{-rise.y, rise.x};
    t.line(0, 0, 60, 0).line(60, 0, 60, 10);
    t.line(60, 10, 60 - 40 * rise.x, 10 + 40 * rise.y); // falls to the right: another direction
    t.line(10, 10, 10 + 40 * rise.x, 10 + 40 * rise.y);
    t.line(5, 30, 5 + 12 * rise.x, 30 + 12 * rise.y);
    const Vec2 middle = Vec2{10, 10} + 20 * rise + 60 * across;
    turned(t, middle, 40, 15, 30);
    const Drawing d = drawn(t.done());
    ViewSet set;
    set.views = {viewOf(d, 0, Role::front, from(0, 5)), viewOf(d, 1, Role::auxiliary, from(5, 4))};
    const auto source = obliqueSource(d, set, set.views[1]);
    REQUIRE(source);
    CHECK(source->on == 0);
    CHECK(std::abs(cross(source->edge, rise)) == Approx(0).margin(1e-6));
    CHECK(length(source->edge) == Approx(1));
    // Of two views the one with the longer edge is meant; a pictorial never is.
    ViewSet pictorial = set;
    pictorial.views[0].role = Role::pictorial;
    CHECK_FALSE(obliqueSource(d, pictorial, pictorial.views[1]));
    // A view far along the edge lies opposite none.
    DxfText far;
    far.layer("OUTLINE").entities();
    far.line(10, 10, 10 + 40 * rise.x, 10 + 40 * rise.y);
    const Vec2 away = Vec2{10, 10} + 120 * rise + 60 * across;
    turned(far, away, 40, 15, 30);
    const Drawing e = drawn(far.done());
    ViewSet alone;
    alone.views = {viewOf(e, 0, Role::front, from(0, 1)), viewOf(e, 1, Role::auxiliary, from(1, 4))};
    CHECK_FALSE(obliqueSource(e, alone, alone.views[1]));
}

TEST_CASE("each principal view looks at the part from its own side, and shows two axes without mirroring") {
    const std::map<Role, Vec3> looks{{Role::front, {0, 1, 0}},  {Role::rear, {0, -1, 0}},
                                     {Role::top, {0, 0, -1}},   {Role::bottom, {0, 0, 1}},
                                     {Role::right, {-1, 0, 0}}, {Role::left, {1, 0, 0}}};
    for (const auto& [role, look] : looks) {
        CAPTURE(nameOf(role));
        const Vec3 l = lookOf(role);
        CHECK(dot(l, look) == Approx(1));
        CHECK(dot(l, l) == Approx(1));
        const ViewAxes a = axesOf(role);
        CHECK(std::abs(dot(unitOf(a.depth), look)) == Approx(1));
        // Right, up and towards the viewer make a right-handed system.
        const Vec3 right = a.right_sign * unitOf(a.right), up = a.up_sign * unitOf(a.up);
        CHECK(dot(cross(right, up), look) == Approx(-1));
        CHECK(roleNamed(nameOf(role)) == role);
        CHECK(isPrincipal(role));
        const auto named = viewNamed(std::string(nameOf(role)) + " B");
        REQUIRE(named);
        CHECK(named->role == role);
        CHECK(named->letter == "B");
    }
    CHECK_FALSE(isPrincipal(Role::section));
    CHECK_FALSE(roleNamed("side"));
    CHECK_FALSE(viewNamed("side A"));
    CHECK(viewNamed("front")->letter.empty());
}

TEST_CASE("a view is as large as its lines are in mm, one drawn askew along its own axes") {
    for (const double degrees : {0.0, 25.0, 45.0, 110.0})
        for (const double mm_per_sheet : {1.0, 2.0, 0.25}) {
            CAPTURE(degrees, mm_per_sheet);
            DxfText t;
            t.layer("OUTLINE").entities();
            turned(t, {70, 30}, 40, 20, degrees);
            const Drawing d = drawn(t.done());
            View v = viewOf(d, 0, Role::auxiliary, from(0, 4));
            v.mm_per_sheet = mm_per_sheet;
            if (degrees != 0) {
                const Affine2 back = Affine2::rotation(-degrees * kPi / 180);
                v.hanging.emplace();
                v.hanging->own = {back.a * mm_per_sheet,
                                  back.b * mm_per_sheet,
                                  back.c * mm_per_sheet,
                                  back.d * mm_per_sheet,
                                  7,
                                  -3};
            }
            const Vec2 size = sizeOf(d, v);
            CHECK(size.x == Approx(40 * mm_per_sheet).epsilon(1e-4));
            CHECK(size.y == Approx(20 * mm_per_sheet).epsilon(1e-4));
        }
}
