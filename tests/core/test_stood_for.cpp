#include "core/cleaning/stood_for.h"
#include "support/diagnosed.h"
#include "support/three_views.h"

using namespace prism;
using namespace prism::test;

// Lines that a repair made of several: a change of one takes along what it stands for.

namespace {

NoProgress g_quiet;

/// A block of 80 x 50 x 40 with a slot at X 30 to 50, 12 deep, in three views; lines of its front view are
/// drawn as the case says.
Document slotted(const std::function<void(ThreeViews&)>& floor) {
    ThreeViews t = threeViews(80, 50, 40);
    const auto front = [&](double x0, double z0, double x1, double z1) {
        t.line(Axis::y, {x0, 0, z0}, {x1, 0, z1});
    };
    front(0, 0, 80, 0), front(80, 0, 80, 40), front(80, 40, 50, 40), front(50, 40, 50, 28);
    front(30, 28, 30, 40), front(30, 40, 0, 40), front(0, 40, 0, 0);
    floor(t);
    t.line(Axis::z, {0, 0, 0}, {80, 0, 0}), t.line(Axis::z, {0, 50, 0}, {80, 50, 0});
    for (const double x : {0.0, 30.0, 50.0, 80.0}) t.line(Axis::z, {x, 0, 0}, {x, 50, 0});
    t.line(Axis::x, {0, 0, 0}, {0, 50, 0}), t.line(Axis::x, {0, 0, 40}, {0, 50, 40});
    t.line(Axis::x, {0, 0, 0}, {0, 0, 40}), t.line(Axis::x, {0, 50, 0}, {0, 50, 40});
    t.line(Axis::x, {0, 0, 28}, {0, 50, 28}, "HIDDEN");
    return inViews(t.sheet);
}
void floorFrom(ThreeViews& t, double from, double to, const char* layer = "OUTLINE") {
    t.line(Axis::y, {from, 0, 28}, {to, 0, 28}, layer);
}

/// The line of the repaired sheet that runs through a place.
int lineAt(const Document& d, Vec2 at) {
    const CleanSheet& s = d.model().sheet;
    for (const Entity& e : s.drawing->entities)
        if (s.in_use[static_cast<size_t>(e.id)])
            for (const Curve& c : e.curves)
                if (distanceTo(c, at) < 1e-6) return e.id;
    return -1;
}

Document edited(const Document& d, const LineEdits& edits) {
    Document r = d;
    Choices c = d.choices();
    for (const MarkedLine& m : marksOn(d.model().sheet, edits)) c.marks.lines.push_back(m);
    REQUIRE(r.apply("Edit", c, g_quiet, Stage::figure));
    return r;
}

} // namespace

TEST_CASE("a line that is deleted or moved takes along the pieces, copies and strokes that it stands for") {
    struct Case {
        const char* how;
        std::function<void(ThreeViews&)> floor;
        size_t stood_for;
    };
    for (const Case& c :
         {Case{"one line", [](ThreeViews& t) { floorFrom(t, 30, 50); }, 0},
          {"two pieces", [](ThreeViews& t) { floorFrom(t, 30, 37), floorFrom(t, 37, 50); }, 1},
          {"four pieces",
           [](ThreeViews& t) {
               for (const double x : {30.0, 34.0, 41.0, 44.0})
                   floorFrom(t, x, x == 30 ? 34 : x == 34 ? 41 : x == 41 ? 44 : 50);
           },
           3},
          {"twice", [](ThreeViews& t) { floorFrom(t, 30, 50), floorFrom(t, 50, 30); }, 1},
          {"with a part of it", [](ThreeViews& t) { floorFrom(t, 30, 50), floorFrom(t, 33, 44); }, 1},
          {"two that overlap", [](ThreeViews& t) { floorFrom(t, 30, 44), floorFrom(t, 38, 50); }, 1}}) {
        CAPTURE(c.how);
        const Document d = slotted(c.floor);
        const Vec2 at{40, 28};
        const int line = lineAt(d, at);
        REQUIRE(line >= 0);
        CHECK(stoodForBy(d.model().sheet, {line}).size() == c.stood_for);
        CHECK(lineAt(edited(d, {{line, {}}}), at) == -1);
        const Document moved = edited(d, movedBy(*d.model().sheet.drawing, {line}, {0, -5}));
        CHECK(lineAt(moved, at) == -1);
        CHECK(lineAt(moved, {40, 23}) >= 0);
        CHECK(lineAt(moved, {31, 23}) >= 0);
        CHECK(lineAt(moved, {49, 23}) >= 0);
        CHECK(lineAt(d, at) == line); // and nothing else
        const Document whole = slotted([](ThreeViews& t) { floorFrom(t, 30, 50); });
        CHECK(sameLines(moved.model().figure,
                        edited(whole, movedBy(*whole.model().sheet.drawing, {lineAt(whole, at)}, {0, -5}))
                            .model()
                            .figure));
    }
}

TEST_CASE("a hidden line drawn in strokes goes with all of them, and an arc with its chords") {
    ThreeViews t = threeViews(80, 50, 40);
    t.box();
    for (double x = 0; x < 80; x += 6) t.line(Axis::y, {x, 0, 20}, {std::min(x + 4, 80.0), 0, 20});
    const Vec2 centre = t.on(Axis::z, {40, 25, 0});
    for (int i = 0; i < 48; ++i) {
        const Vec2 a = centre + 15 * direction(2 * kPi * i / 48),
                   b = centre + 15 * direction(2 * kPi * (i + 1) / 48);
        t.sheet.line(a.x, a.y, b.x, b.y);
    }
    const Document d = inViews(t.sheet);
    for (const Vec2 at : {Vec2{2, 20}, centre + Vec2{15, 0}}) {
        const int line = lineAt(d, at);
        REQUIRE(line >= 0);
        const auto with = stoodForBy(d.model().sheet, {line});
        CHECK(with.size() >= 12);
        const Document without = edited(d, {{line, {}}});
        const CleanSheet& s = without.model().sheet;
        for (const int e : with) CHECK(s.drawing->entities[static_cast<size_t>(e)].curves.empty());
        CHECK(lineAt(without, at) == -1);
    }
}

TEST_CASE("what no repair took away is not stood for by a line") {
    const Document d = slotted([](ThreeViews& t) { floorFrom(t, 30, 37), floorFrom(t, 37, 50); });
    const CleanSheet& s = d.model().sheet;
    CHECK(stoodForBy(s, {lineAt(d, {40, 0})}).empty());
    CHECK(stoodForBy(s, {}).empty());
    std::vector<int> all;
    for (const Entity& e : s.drawing->entities)
        if (s.in_use[static_cast<size_t>(e.id)]) all.push_back(e.id);
    CHECK(stoodForBy(s, all).size() == 1);
    // Switched off, a repair does nothing that a mark would have to take along.
    Document off = d;
    Choices c = d.choices();
    c.repairs.kinds["pieces_joined"] = false;
    REQUIRE(off.apply("Repairs", c, g_quiet, Stage::figure));
    CHECK(stoodForBy(off.model().sheet, {lineAt(off, {40, 28})}).empty());
}
