#include "support/samples.h"

#include "core/building/solid.h"
#include "core/project/project_file.h"

#include <random>

// Where the bodies of single steps lie in space, whichever of the six views they come from.
using namespace prism;
using namespace prism::test;

namespace {

constexpr double X = 80, Y = 50, Z = 30, kRadius = 4;

/// Where the circle of each view stands, in model coordinates of the view.
const std::map<Role, Vec2> kCircles{{Role::front, {20, 10}},  {Role::top, {30, 15}},
                                    {Role::right, {12, 18}},  {Role::left, {40, 9}},
                                    {Role::bottom, {60, 35}}, {Role::rear, {66, 20}}};

constexpr double sizeAlong(Axis a) {
    return a == Axis::x ? X : a == Axis::y ? Y : Z;
}

/// How a view of the sheet shows the part: its corner on the sheet and what runs right and up, -1 for
/// against.
struct Laid {
    Role role;
    double ox, oy;
    Axis right, up, depth;
    int way_right, way_up;
    Vec2 at(double r, double u) const {
        return {ox + (way_right > 0 ? r : sizeAlong(right) - r), oy + (way_up > 0 ? u : sizeAlong(up) - u)};
    }
};

const std::array<Laid, 6> kLayout{{{Role::front, 0, 0, Axis::x, Axis::z, Axis::y, 1, 1},
                                   {Role::top, 0, 60, Axis::x, Axis::y, Axis::z, 1, 1},
                                   {Role::bottom, 0, -90, Axis::x, Axis::y, Axis::z, 1, -1},
                                   {Role::right, 120, 0, Axis::y, Axis::z, Axis::x, 1, 1},
                                   {Role::left, -90, 0, Axis::y, Axis::z, Axis::x, -1, 1},
                                   {Role::rear, 210, 0, Axis::x, Axis::z, Axis::y, -1, 1}}};

/// A block 80 x 50 x 30 with all six views in third angle; through it go six holes, one for each view, that
/// the view opposite and those beside it show as hidden.
Figure sixViews() {
    NoProgress quiet;
    DxfText t;
    t.entities();
    for (const Laid& v : kLayout) {
        t.box(v.ox, v.oy, v.ox + sizeAlong(v.right), v.oy + sizeAlong(v.up));
        for (const Laid& hole : kLayout) {
            const Vec2 c = kCircles.at(hole.role);
            if (hole.depth == v.depth) {
                const Vec2 at = v.at(c.x, c.y);
                t.circle(at.x, at.y, kRadius, hole.role == v.role ? "OUTLINE" : "HIDDEN");
                continue;
            }
            // The hole runs along one axis of this view; across it, it shows its two sides.
            const bool level = hole.depth == v.right;
            const Axis across = level ? v.up : v.right;
            const double middle = across == hole.right ? c.x : c.y;
            for (double side : {middle - kRadius, middle + kRadius}) {
                const Vec2 a = level ? v.at(0, side) : v.at(side, 0),
                           b = level ? v.at(sizeAlong(v.right), side) : v.at(side, sizeAlong(v.up));
                t.line(a.x, a.y, b.x, b.y, "HIDDEN");
            }
        }
    }
    t.text(0, -120, "THIRD ANGLE PROJECTION");
    const Drawing d = drawn(t.done());
    const CleanSheet s = clean(d, {});
    return buildFigure(d, s, findViews(d, s, {}, quiet));
}

struct Box3 {
    Vec3 lo, hi;
};

Box3 boxOfStep(const Figure& f, const Step& s) {
    NoProgress quiet;
    const BuildResult r = build(f, {s}, quiet);
    REQUIRE(r.steps.size() == 1);
    INFO(r.steps[0].message);
    REQUIRE(r.steps[0].ok);
    return {{r.measure.lo.x, r.measure.lo.y, r.measure.lo.z},
            {r.measure.hi.x, r.measure.hi.y, r.measure.hi.z}};
}

double along(Vec3 v, Axis a) {
    return a == Axis::x ? v.x : a == Axis::y ? v.y : v.z;
}

/// All closed areas of a view: its outline.
Step outlineOf(const Figure& f, Role role) {
    Step s;
    s.view = role;
    for (const ClosedArea& a : closedAreas(f, f.drawn))
        if (f.viewById(a.view)->role() == role) s.areas.push_back(a.seed);
    return s;
}

/// The areas within the circle of a view.
std::vector<Vec2> circleOf(const Figure& f, Role role) {
    std::vector<Vec2> r;
    for (const ClosedArea& a : closedAreas(f, f.drawn))
        if (f.viewById(a.view)->role() == role && distance(a.seed, kCircles.at(role)) < kRadius)
            r.push_back(a.seed);
    return r;
}

void checkExtent(const Box3& b, Axis a, double lo, double hi) {
    CHECK(along(b.lo, a) == Approx(lo).margin(1e-6));
    CHECK(along(b.hi, a) == Approx(hi).margin(1e-6));
}

/// A mark at a coordinate of an axis, in some view that shows it.
MarkRef markAt(const Figure& f, Axis axis, double value) {
    for (const FigureView& v : f.views) {
        if (v.axes.right == axis) return {v.name, {value, v.box.centre().y}};
        if (v.axes.up == axis) return {v.name, {v.box.centre().x, value}};
    }
    FAIL("no view shows the axis");
    return {};
}

} // namespace

TEST_CASE("all six views are found, and their circles stand where the part has them") {
    const Figure f = sixViews();
    REQUIRE(f.views.size() == 6);
    for (const auto& [role, at] : kCircles) {
        const FigureView* v = f.viewNamed(role);
        REQUIRE(v);
        INFO(nameOf(role));
        int found = 0;
        for (const FigureCurve& c : f.curves)
            if (c.view == v->view && c.radius >= 0 && c.role == LineRole::outline) {
                CHECK(distance(std::get<Arc>(c.drawn).centre, at) < 1e-9);
                ++found;
            }
        CHECK(found == 1);
        CHECK(v->box.width() == Approx(sizeAlong(v->axes.right)));
        CHECK(v->box.height() == Approx(sizeAlong(v->axes.up)));
    }
}

TEST_CASE("a circle drawn through from any view lies on the line of sight through it") {
    const Figure f = sixViews();
    for (const auto& [role, at] : kCircles) {
        const FigureView* v = f.viewNamed(role);
        REQUIRE(v);
        INFO(nameOf(role));
        Step s;
        s.view = role, s.areas = circleOf(f, role), s.reach = Reach::between; // from end to end of the part
        const Box3 b = boxOfStep(f, s);
        checkExtent(b, v->axes.right, at.x - kRadius, at.x + kRadius);
        checkExtent(b, v->axes.up, at.y - kRadius, at.y + kRadius);
        checkExtent(b, v->axes.depth, 0, sizeAlong(v->axes.depth));
    }
}

TEST_CASE("reaches are counted along the depth axis, whichever way the view looks") {
    const Figure f = sixViews();
    for (const auto& [role, at] : kCircles) {
        const FigureView* v = f.viewNamed(role);
        const Axis depth = v->axes.depth;
        const double whole = sizeAlong(depth);
        INFO(nameOf(role));
        Step s = outlineOf(f, role);
        s.to = {Bound::Kind::value, {}, 7};
        checkExtent(boxOfStep(f, s), depth, 0, 7);
        s = outlineOf(f, role);
        s.from = {Bound::Kind::value, {}, 4};
        checkExtent(boxOfStep(f, s), depth, whole - 4, whole);
        s = outlineOf(f, role);
        s.from = {Bound::Kind::mark, markAt(f, depth, whole), 0};
        s.to = {Bound::Kind::mark, markAt(f, depth, 0), 0}; // said the wrong way round
        checkExtent(boxOfStep(f, s), depth, 0, whole);
        s = outlineOf(f, role);
        s.reach = Reach::both;
        s.from = {Bound::Kind::mark, markAt(f, depth, 0), 0}, s.to = {Bound::Kind::value, {}, 6};
        checkExtent(boxOfStep(f, s), depth, -3, 3);
        s.from = {Bound::Kind::mark, markAt(f, depth, whole), 0};
        checkExtent(boxOfStep(f, s), depth, whole - 3, whole + 3);
        checkExtent(boxOfStep(f, s), v->axes.right, 0, sizeAlong(v->axes.right));
        checkExtent(boxOfStep(f, s), v->axes.up, 0, sizeAlong(v->axes.up));
    }
}

TEST_CASE("marks of circles' sides end a reach, wherever the circle is seen") {
    const Figure f = sixViews();
    Step s = outlineOf(f, Role::top);
    s.to = {
        Bound::Kind::mark, {Role::right, {12, 18 + kRadius}}, 0}; // the upper side of the right view's circle
    checkExtent(boxOfStep(f, s), Axis::z, 0, 18 + kRadius);
    s.to = {Bound::Kind::mark, {Role::right, {12, 18 - kRadius}}, 0};
    checkExtent(boxOfStep(f, s), Axis::z, 0, 18 - kRadius);
    s = outlineOf(f, Role::right);
    s.from = {Bound::Kind::mark, {Role::rear, {66 + kRadius, 20}}, 0};
    checkExtent(boxOfStep(f, s), Axis::x, 66 + kRadius, X);
    s.from = {Bound::Kind::mark, {Role::rear, {66 - kRadius, 20}}, 0};
    checkExtent(boxOfStep(f, s), Axis::x, 66 - kRadius, X);
}

TEST_CASE("a body turned round a line lies round that line, from every view") {
    const Figure f = sixViews();
    for (const auto& [role, at] : kCircles) {
        const FigureView* v = f.viewNamed(role);
        INFO(nameOf(role));
        for (const bool upright : {false, true}) {
            Step s;
            s.kind = StepKind::revolve, s.view = role, s.areas = circleOf(f, role), s.axis_upright = upright;
            s.axis = {role, {0, 0}}; // along the low edge
            NoProgress quiet;
            const BuildResult r = build(f, {s}, quiet);
            REQUIRE(r.ok());
            const double away = upright ? at.x : at.y, level = upright ? at.y : at.x;
            CHECK(r.measure.volume ==
                  Approx(2 * kPi * away * kPi * kRadius * kRadius).epsilon(1e-6)); // Pappus
            const Box3 b{{r.measure.lo.x, r.measure.lo.y, r.measure.lo.z},
                         {r.measure.hi.x, r.measure.hi.y, r.measure.hi.z}};
            const Axis kept = upright ? v->axes.up : v->axes.right,
                       across = upright ? v->axes.right : v->axes.up;
            checkExtent(b, kept, level - kRadius, level + kRadius);
            checkExtent(b, across, -away - kRadius, away + kRadius);
        }
    }
}

TEST_CASE("random blocks out of three views have the volume and the box of their sizes") {
    std::mt19937 random(4);
    std::uniform_real_distribution<double> size(5, 120);
    NoProgress quiet;
    for (int round = 0; round < 12; ++round) {
        const double x = size(random), y = size(random), z = size(random);
        DxfText t;
        t.entities().box(0, 0, x, z).box(0, z + 40, x, z + 40 + y).box(x + 40, 0, x + 40 + y, z);
        t.text(0, -40, "THIRD ANGLE PROJECTION");
        const Drawing d = drawn(t.done());
        const CleanSheet s = clean(d, {});
        const Figure f = buildFigure(d, s, findViews(d, s, {}, quiet));
        INFO(x << " " << y << " " << z);
        REQUIRE(f.views.size() == 3);
        std::vector<Step> steps;
        for (const FigureView& v : f.views) {
            Step one;
            one.view = v.name, one.areas = {v.box.centre()}, one.reach = Reach::through;
            one.operation = steps.empty() ? Operation::add : Operation::intersect;
            steps.push_back(one);
        }
        const BuildResult r = build(f, steps, quiet);
        REQUIRE(r.ok());
        CHECK(r.measure.volume == Approx(x * y * z));
        CHECK(r.measure.area == Approx(2 * (x * y + y * z + z * x)));
        CHECK(r.measure.faces == 6);
        CHECK(r.measure.hi.x - r.measure.lo.x == Approx(x));
        CHECK(r.measure.hi.y - r.measure.lo.y == Approx(y));
        CHECK(r.measure.hi.z - r.measure.lo.z == Approx(z));
    }
}

TEST_CASE("an area bounded by a spline is pushed to the volume under the spline") {
    // A cubic with an inner knot over a base line, as a drawing's own curve; the area below it by Simpson's
    // rule.
    NoProgress quiet;
    DxfText t;
    const Spline spline{
        3, {0, 0, 0, 0, 0.4, 1, 1, 1, 1}, {{0, 10}, {12, 30}, {30, 38}, {55, 4}, {60, 20}}, {}};
    t.entities().line(0, 10, 0, 0).line(0, 0, 60, 0).line(60, 0, 60, 20);
    t.group(0, "SPLINE")
        .group(8, "OUTLINE")
        .group(70, "8")
        .group(71, "3")
        .group(72, "9")
        .group(73, "5")
        .group(74, "0");
    for (double k : spline.knots) t.group(40, k);
    for (Vec2 p : spline.poles) t.group(10, p.x).group(20, p.y).group(30, 0.0);
    t.box(0, 60, 60, 100).text(0, -20, "THIRD ANGLE PROJECTION");
    const Drawing d = drawn(t.done());
    const CleanSheet sheet = clean(d, {});
    const Figure f = buildFigure(*sheet.drawing, sheet, findViews(*sheet.drawing, sheet, {}, quiet));
    Step s;
    s.view = Role::front, s.areas = {{5, 5}}, s.reach = Reach::through;
    const BuildResult b = build(f, {s}, quiet);
    REQUIRE(b.ok());
    double area = 0;
    constexpr int n = 20000;
    Vec2 before = pointAt(spline, 0);
    for (int i = 1; i <= n; ++i) {
        const Vec2 now = pointAt(spline, double(i) / n);
        area += (now.x - before.x) * (now.y + before.y) / 2, before = now;
    }
    CHECK(b.measure.volume == Approx(area * 40).epsilon(1e-6));
}

TEST_CASE("a centre line that nothing stands on is the middle of what its view shows") {
    NoProgress quiet;
    DxfText t;
    t.entities()
        .box(0, 0, 80, 40)
        .line(20, 0, 20, 40)
        .box(0, 70, 80, 110)
        .text(0, -20, "THIRD ANGLE PROJECTION");
    const Drawing d = drawn(t.done());
    const CleanSheet sheet = clean(d, {});
    Figure f = buildFigure(*sheet.drawing, sheet, findViews(*sheet.drawing, sheet, {}, quiet));
    const FigureView& front = *f.viewNamed(Role::front);
    CHECK(resolveCentre(f, front, {5, 20}, Axis::z) == Approx(20));
    for (size_t i = 0; i < f.now.size(); ++i) // the upper edge rises by 4
        if (f.axis_of[i] == static_cast<int>(Axis::z) && f.drawn[i] > 30) f.now[i] += 4;
    CHECK(resolveCentre(f, front, {5, 20}, Axis::z) == Approx(22));
}

TEST_CASE("two rings that run into each other are as much as both less what they share; a radius does not "
          "change along "
          "the curve in which they meet") {
    // The rim of a pulley, and the same turned about another line: the wall of the rim and that of the turned
    // ring meet right where the drawn circle is touched by other lines.
    const Document d = opened(demo("weight-pulley.dxf"));
    NoProgress quiet;
    const auto list = readBuildList(R"([
        {"kind": "extrude", "view": "right", "areas": [[55, 107.62]], "to": {"value": 54.83023}},
        {"kind": "revolve", "view": "right", "areas": [[55, 107.62]], "axis": {"view": "front", "at": [52, 35]},
         "angle_deg": 213.2232},
        {"kind": "fillet", "edges": {"which": "concave"}, "radius": 6, "end_radius": 5}])");
    REQUIRE(list);
    const Figure& f = d.model().figure;
    const auto volume = [&](std::vector<Step> steps) {
        const BuildResult b = build(f, steps, quiet);
        REQUIRE(b.ok());
        return b.measure.volume;
    };
    const std::vector<Step>& s = list->steps;
    Step shared = s[1];
    shared.operation = Operation::intersect;
    const double rim = volume({s[0]}), ring = volume({s[1]});
    CHECK(rim == Approx(kPi * (55 * 55 - 48 * 48) * 54.83023).epsilon(1e-9));
    CHECK(volume({s[0], s[1]}) == Approx(rim + ring - volume({s[0], shared})).epsilon(1e-5));

    const BuildResult b = build(f, s, quiet);
    REQUIRE(b.steps.size() == 3);
    CHECK_FALSE(b.steps[2].ok);
    CHECK(b.steps[2].message.find("neither straight nor an arc: along it the radius cannot change") !=
          std::string::npos);
}
