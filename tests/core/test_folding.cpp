#include "support/boxed_part.h"
#include "support/samples.h"

#include "core/views/panes.h"

#include <fstream>
#include <random>

using namespace prism;
using namespace prism::test;

namespace {

double along(const Vec3& v, Axis a) {
    return dot(v, unitOf(a));
}

constexpr Role kPrincipal[] = {Role::front, Role::top, Role::bottom, Role::left, Role::right, Role::rear};

/// The views of a made-up sheet and the glass box round its part.
struct Folded {
    BoxedPart part;
    CleanSheet sheet;
    ViewSet set;
    GlassBox box;

    Folded(unsigned seed, Convention c, bool moved = false) : Folded(boxedPart(seed, {c, moved})) {}
    explicit Folded(BoxedPart p)
        : part(std::move(p)), sheet(clean(part.drawing, {})), set(found()),
          box(part.convention, {{0, 0, 0}, part.hi - part.lo}, 15) {}
    ViewSet found() const {
        NoProgress quiet;
        return findViews(*sheet.drawing, sheet, {}, quiet);
    }
    double size() const {
        return std::max({part.hi.x - part.lo.x, part.hi.y - part.lo.y, part.hi.z - part.lo.z});
    }
    const View& viewOf(const std::vector<KnownLine>& lines) const {
        // Edges that lie one behind the other are drawn twice; the second copy is set aside.
        std::set<int> views;
        for (const KnownLine& l : lines)
            if (const int v = set.view_of_entity[l.entity]; v >= 0) views.insert(v);
        REQUIRE(views.size() == 1);
        return set.views[*views.begin()];
    }
    /// Model coordinates of the part begin at its lower corner, as lining up counts them.
    Vec3 model(Vec3 p) const { return p - part.lo; }
    Segment drawn(const KnownLine& l) const {
        return std::get<Segment>(part.drawing.entities[l.entity].curves[0]);
    }
};

double apart(Vec3 a, Vec3 b) {
    return std::sqrt(dot(a - b, a - b));
}

} // namespace

TEST_CASE("for random parts, all six principal views, an auxiliary and two sections fold to the part's own "
          "coordinates") {
    for (unsigned seed = 1; seed <= 12; ++seed)
        for (Convention c : {Convention::first, Convention::third}) {
            INFO("seed " << seed << ", " << nameOf(c) << " angle");
            const Folded f(seed, c);
            CHECK(f.set.views.size() == 9);
            const double tol = 1e-9 * f.size();
            for (Role r : kPrincipal) {
                INFO(nameOf(r));
                const auto& lines = f.part.principal.at(r);
                const View& v = f.viewOf(lines);
                REQUIRE(v.role == r);
                const PaneFrame pane = f.box.pane(r, 1);
                const ViewAxes a = axesOf(r);
                for (const KnownLine& l : lines)
                    for (auto [sheet, place] : {std::pair{f.drawn(l).a, l.a}, {f.drawn(l).b, l.b}}) {
                        const Vec3 at = pane(v.toModel()(sheet)), truth = f.model(place);
                        CHECK(std::abs(along(at, a.right) - along(truth, a.right)) < tol);
                        CHECK(std::abs(along(at, a.up) - along(truth, a.up)) < tol);
                    }
            }
            for (auto [lines, depth] :
                 {std::pair{&f.part.section_x, Axis::x}, {&f.part.section_z, Axis::z}}) {
                const View& v = f.viewOf(*lines);
                INFO(v.name);
                REQUIRE(v.role == Role::section);
                REQUIRE(v.hanging);
                CHECK(v.hanging->by == Hanging::By::cutting_plane);
                const PaneFrame pane = f.box.hungPane(
                    *v.hanging, f.set.views[v.hanging->on].role, [](Role) { return 1.0; }, 1);
                for (const KnownLine& l : *lines)
                    for (auto [sheet, place] : {std::pair{f.drawn(l).a, l.a}, {f.drawn(l).b, l.b}}) {
                        CHECK(apart(pane(v.toModel()(sheet)), f.model(place)) < tol);
                        CHECK(apart(standing(*v.hanging, f.set.views[v.hanging->on].role, v.toModel()(sheet)),
                                    f.model(place)) < tol);
                    }
            }
            const View& v = f.viewOf(f.part.auxiliary);
            REQUIRE(v.role == Role::auxiliary);
            REQUIRE(v.hanging);
            CHECK(v.hanging->by == Hanging::By::edge);
            const PaneFrame pane = f.box.hungPane(
                *v.hanging, Role::front, [](Role) { return 1.0; }, 1);
            const Vec2 u = v.hanging->along();
            const Vec3 line{u.x, 0, u.y}, look{v.hanging->look.x, 0, v.hanging->look.y};
            double nearest = 1e9, farthest = -1e9;
            for (const KnownLine& l : f.part.auxiliary)
                for (auto [sheet, place] : {std::pair{f.drawn(l).a, l.a}, {f.drawn(l).b, l.b}}) {
                    const Vec3 at = pane(v.toModel()(sheet)), truth = f.model(place);
                    CHECK(std::abs(dot(at - truth, line)) < tol);
                    CHECK(std::abs(at.y - truth.y) < tol);
                    nearest = std::min(nearest, dot(truth - at, look)),
                    farthest = std::max(farthest, dot(truth - at, look));
                }
            // The pane stands outside the part, before it in third angle and behind it in first.
            CHECK((c == Convention::third ? nearest > 0 : farthest < 0));
        }
}

TEST_CASE("sections that were moved, one of them turned, still stand at their cutting planes") {
    for (unsigned seed = 1; seed <= 8; ++seed)
        for (Convention c : {Convention::first, Convention::third}) {
            INFO("seed " << seed << ", " << nameOf(c) << " angle");
            const Folded f(seed, c, true);
            for (const auto* lines : {&f.part.section_x, &f.part.section_z}) {
                const View& v = f.viewOf(*lines);
                INFO(v.name);
                REQUIRE(v.hanging);
                CHECK(v.hanging->matched == v.hanging->levels);
                for (const KnownLine& l : *lines)
                    CHECK(apart(standing(*v.hanging, Role::front, v.toModel()(f.drawn(l).a)), f.model(l.a)) <
                          1e-9 * f.size());
            }
        }
}

TEST_CASE("the pane of a stepped section stands part by part where its cutting plane does") {
    for (unsigned seed = 1; seed <= 8; ++seed)
        for (Convention c : {Convention::first, Convention::third}) {
            INFO("seed " << seed << ", " << nameOf(c) << " angle");
            const Folded f(boxedPart(seed, {c, false, true}));
            const View& v = f.viewOf(f.part.section_x);
            REQUIRE(v.hanging);
            REQUIRE(v.hanging->legs.size() == 2);
            const auto paneAt = [&](double turn) {
                return f.box.hungPane(
                    *v.hanging, f.set.views[v.hanging->on].role, [&](Role) { return turn; }, turn);
            };
            const PaneFrame folded = paneAt(1), flat = paneAt(0);
            const double tol = 1e-9 * f.size(), step = f.part.steps_at_z - f.part.lo.z;
            int broken = 0;
            for (const KnownLine& l : f.part.section_x) {
                const Segment drawn = f.drawn(l), own{v.toModel()(drawn.a), v.toModel()(drawn.b)};
                const auto runs = folded.runs({own.a, own.b});
                double length = 0;
                for (const auto& run : runs) {
                    length += apart(run.front(), run.back());
                    const bool upper = (run.front().z + run.back().z) / 2 > step;
                    for (const Vec3& p : run)
                        CHECK(std::abs(p.x - (upper ? f.part.upper_cut_x : f.part.cut_x) + f.part.lo.x) <
                              tol);
                }
                CHECK(std::abs(length - apart(l.a, l.b)) < tol);
                CHECK(std::abs(runs.front().front().y - f.model(l.a).y) < tol);
                CHECK(std::abs(runs.back().back().z - f.model(l.b).z) < tol);
                const double a = f.model(l.a).z - step, b = f.model(l.b).z - step;
                CHECK(runs.size() == (a * b < 0 ? 2 : 1));
                broken += a * b < 0;
                for (Vec2 p : {own.a, own.b}) CHECK(std::abs(dot(flat(p) - flat.origin, flat.inward)) < tol);
            }
            CHECK(broken > 0);
            // Two parts and the face between them, which lies where the plane steps.
            Box2 whole;
            for (const KnownLine& l : f.part.section_x)
                whole.add(boxOf(transformed(f.drawn(l), v.toModel())));
            const auto faces = folded.faces(whole);
            REQUIRE(faces.size() == 3);
            for (const Vec3& p : faces[1].at) CHECK(std::abs(p.z - step) < tol);
            CHECK(flat.faces(whole).size() == 3);
            CHECK(folded.faces({whole.lo, whole.lo + Vec2{1e-3, 1e-3}}).size() == 1);
        }
}

TEST_CASE("folded into the box, every pane has the part's own coordinates") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> place(-500, 500), size(1, 300);
    for (int i = 0; i < 40; ++i) {
        const Vec3 lo{place(random), place(random), place(random)};
        const PartBox part{lo, {lo.x + size(random), lo.y + size(random), lo.z + size(random)}};
        const double margin = size(random), own = size(random);
        for (Convention c : {Convention::first, Convention::third}) {
            const GlassBox box(c, part, margin, {{Role::left, own}});
            for (Role r : kPrincipal) {
                const PaneFrame pane = box.pane(r, 1);
                const ViewAxes a = axesOf(r);
                const Vec2 p{place(random), place(random)};
                const Vec3 at = pane(p);
                CHECK(along(at, a.right) == Approx(p.x).epsilon(1e-12));
                CHECK(along(at, a.up) == Approx(p.y).epsilon(1e-12));
                // The pane stands a margin outside the part, on the side that the convention says.
                const double depth = along(at, a.depth), gap = r == Role::left ? own : margin;
                const bool viewerLow = r == Role::front || r == Role::left || r == Role::bottom;
                const bool low = viewerLow == (c == Convention::third);
                CHECK(depth == Approx(low ? along(part.lo, a.depth) - gap : along(part.hi, a.depth) + gap)
                                   .epsilon(1e-9));
                // Whoever sees it the right way round looks along the view's direction.
                CHECK(apart(box.facing(pane), -lookOf(r)) < 1e-12);
            }
        }
    }
}

TEST_CASE("a pane has one face over the whole of a rectangle, a stepped one a face for each part and step") {
    PaneFrame pane{{0, 0, 0}, {1, 0, 0}, {0, 0, 1}, {0, 1, 0}, {}};
    const Box2 over{{10, 3}, {50, 20}};
    const auto flat = pane.faces(over);
    REQUIRE(flat.size() == 1);
    CHECK(flat[0].own == std::array<Vec2, 4>{Vec2{10, 3}, {50, 3}, {50, 20}, {10, 20}});
    pane.parts = {{30, 5}, {50, 12}};
    const auto stepped = pane.faces(over);
    REQUIRE(stepped.size() == 3);
    CHECK(stepped[0].own[0] == Vec2{10, 3});
    CHECK(stepped[0].own[2] == Vec2{30, 20});
    CHECK(stepped[0].at[0].y == Approx(5));
    CHECK(stepped[1].at[0].y == Approx(5));
    CHECK(stepped[1].at[1].y == Approx(12));
    CHECK(stepped[2].own[0] == Vec2{30, 3});
    CHECK(stepped[2].at[0].y == Approx(12));
}

TEST_CASE("laid flat, all panes lie in the front pane's plane and stand where the sheet has them") {
    const PartBox part{{0, 0, 0}, {100, 60, 40}};
    for (Convention c : {Convention::first, Convention::third}) {
        const GlassBox box(c, part, 10);
        const double front = c == Convention::third ? -10 : 70;
        auto centre = [&](Role r) {
            const Vec3 v = box.pane(r, 0)(box.extent(r).centre());
            CHECK(v.y == Approx(front));
            return v;
        };
        const Vec3 f = centre(Role::front), t = centre(Role::top), r = centre(Role::right),
                   b = centre(Role::rear);
        const bool third = c == Convention::third;
        CHECK((t.z > f.z) == third);
        CHECK(t.x == Approx(f.x));
        CHECK((r.x > f.x) == third);
        CHECK(r.z == Approx(f.z));
        CHECK(b.z == Approx(f.z));
        CHECK(b.x > f.x);
    }
}

TEST_CASE("a fold line stays put while its pane turns") {
    for (Convention c : {Convention::first, Convention::third}) {
        const GlassBox box(c, {{0, 0, 0}, {100, 60, 40}}, 10);
        CHECK_FALSE(box.foldLine(Role::front));
        for (Role r : {Role::top, Role::bottom, Role::left, Role::right}) {
            const Segment line = *box.foldLine(r);
            const Vec3 a = box.pane(r, 0)(line.a), b = box.pane(r, 0)(line.b);
            CHECK(apart(a, b) > 40);
            for (double hinge : {0.3, 0.7, 1.0}) {
                CHECK(apart(box.pane(r, hinge)(line.a), a) < 1e-9);
                CHECK(apart(box.pane(r, hinge)(line.b), b) < 1e-9);
            }
        }
    }
}

TEST_CASE("panes can be folded one after another: the rear pane moves with the one it hangs on") {
    const GlassBox box(Convention::third, {{0, 0, 0}, {100, 60, 40}}, 10);
    const auto rightOnly = [](Role r) { return r == Role::right ? 1.0 : 0.0; };
    const PaneFrame right = box.pane(Role::right, rightOnly), rear = box.pane(Role::rear, rightOnly);
    // Still in the plane of the right pane, beyond it.
    CHECK(rear({50, 20}).x == Approx(right({30, 20}).x));
    CHECK(rear({50, 20}).y > right({60, 20}).y);
    CHECK(box.pane(Role::top, rightOnly)({50, 30}).y == Approx(box.pane(Role::front, 0)({50, 30}).y));
}

TEST_CASE(
    "a view drawn to its symmetry line is completed, and its dimension of one arrow says the whole size") {
    // A flanged bush: the front view is whole, the top view shows one half of it, to a centre line.
    DxfText t;
    t.layer("HIDDEN", "HIDDEN").layer("CENTRE", "CENTER");
    t.entities();
    t.line(0, 0, 80, 0).line(80, 0, 80, 12).line(80, 12, 60, 12).line(60, 12, 60, 40).line(60, 40, 20, 40);
    t.line(20, 40, 20, 12).line(20, 12, 0, 12).line(0, 12, 0, 0);
    t.line(20, 12, 60, 12);
    t.arc(40, 80, 40, 0, 180).arc(40, 80, 20, 0, 180).arc(40, 80, 8, 0, 180).circle(40, 110, 3);
    t.circle(12, 92, 2);
    t.line(-4, 80, 84, 80, "CENTRE");
    t.line(32, 0, 32, 40, "HIDDEN").line(48, 0, 48, 40, "HIDDEN");
    t.text(20, -20, "THIRD ANGLE").text(30, -8, "FRONT VIEW");
    const std::string path = temporary("half.dxf");
    std::ofstream(path) << t.done();
    Document d = opened(path);
    const auto told = [&] {
        int n = 0;
        for (const Repair& r : d.model().sheet.repairs) n += r.kind == "half_completed" && r.on;
        return n;
    };
    CHECK(told() == 1);
    const View* top = d.model().views.withRole(Role::top);
    REQUIRE(top);
    CHECK(top->box_sheet.height() * top->mm_per_sheet == Approx(80));
    CHECK(top->entities.size() == 7); // three whole circles, two small ones twice
    int full = 0;
    for (int e : top->entities) full += std::get<Arc>(d.model().drawing->entities[e].curves[0]).full();
    CHECK(full == 7);
    CHECK(d.model().figure.viewNamed(Role::top)->box.height() == Approx(80));
    // Switched off, the sheet is as it was drawn; a whole view is never touched.
    Choices c = d.choices();
    c.repairs.kinds["half_completed"] = false;
    NoProgress quiet;
    REQUIRE(d.apply("off", c, quiet));
    CHECK(told() == 0);
    CHECK(d.model().views.withRole(Role::top)->entities.size() == 5);
    for (const Sample& s : samples()) {
        const Document other = opened(s.path);
        for (const Repair& r : other.model().sheet.repairs) CHECK(r.kind != "half_completed");
    }
}
