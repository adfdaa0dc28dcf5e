#include "core/checking/moving.h"
#include "support/samples.h"

#include "core/views/stages.h"

using namespace prism;
using namespace prism::test;

// Where a view that is mirrored, turned or at another place on the sheet comes to lie.

namespace {

View viewOn(Vec2 lo, Vec2 hi) {
    View v;
    v.box_sheet.add(lo), v.box_sheet.add(hi);
    return v;
}

void checkTo(const Affine2& map, Vec2 from, Vec2 to) {
    CAPTURE(from.x, from.y);
    CHECK(distance(map(from), to) < 1e-9);
}

} // namespace

TEST_CASE("a view is mirrored in its own box, left to right or top to bottom") {
    const View v = viewOn({10, 20}, {50, 80});
    const Affine2 level = checking::mirroredInPlace(v, true), upright = checking::mirroredInPlace(v, false);
    checkTo(level, {10, 20}, {50, 20}), checkTo(level, {50, 80}, {10, 80}),
        checkTo(level, {12, 33}, {48, 33});
    checkTo(upright, {10, 20}, {10, 80}), checkTo(upright, {50, 80}, {50, 20}),
        checkTo(upright, {12, 33}, {12, 67});
}

TEST_CASE("a view is turned about its middle and put in line with the one beside it") {
    const View v = viewOn({10, 120}, {50, 180}), below = viewOn({30, 0}, {90, 60}),
               beside = viewOn({130, 100}, {190, 140});
    const Affine2 in_column = checking::turnedInPlace(v, below, 1),
                  in_row = checking::turnedInPlace(v, beside, -1);
    // The middle, (30, 150), goes over that of the view below, or to the height of the one beside.
    checkTo(in_column, {30, 150}, {60, 150}), checkTo(in_column, {50, 150}, {60, 170});
    checkTo(in_column, {30, 180}, {30, 150});
    checkTo(in_row, {30, 150}, {30, 120}), checkTo(in_row, {50, 150}, {30, 100});
    const Affine2 half = checking::turnedInPlace(v, below, 2);
    checkTo(half, {10, 120}, {80, 180}), checkTo(half, {50, 180}, {40, 120});
}

TEST_CASE("a view is turned by a quarter with its lower left corner where it was") {
    const View v = viewOn({10, 20}, {50, 80});
    const Affine2 left = checking::turnedAtCorner(v, 1), right = checking::turnedAtCorner(v, -1);
    checkTo(left, {10, 20}, {70, 20}), checkTo(left, {50, 20}, {70, 60}), checkTo(left, {10, 80}, {10, 20});
    checkTo(right, {10, 20}, {10, 60}), checkTo(right, {50, 20}, {10, 20}),
        checkTo(right, {10, 80}, {70, 60});
}

TEST_CASE("a projection symbol of any size is read, one whose cone does not fit its circles is none") {
    // Circles of 2 and 4 by the size, beside them a cone as long as the larger is wide.
    const auto symbol = [](double size, bool third, double small_end) {
        DxfText t;
        t.entities().circle(0, 0, 2 * size).circle(0, 0, size);
        const double from = third ? 4 * size : 8 * size, to = third ? 8 * size : 4 * size; // of its small end
        t.line(from, -small_end * size, from, small_end * size).line(to, -2 * size, to, 2 * size);
        t.line(from, small_end * size, to, 2 * size).line(from, -small_end * size, to, -2 * size);
        const Drawing d = drawn(t.done());
        std::vector<int> all;
        for (const Entity& e : d.entities) all.push_back(e.id);
        return views::readSymbol(d, all);
    };
    for (const double size : {0.3, 2.0, 40.0})
        for (const bool third : {true, false}) {
            CAPTURE(size, third);
            CHECK(symbol(size, third, 1) == (third ? Convention::third : Convention::first));
            CHECK(symbol(size, third, 1.05) ==
                  (third ? Convention::third : Convention::first)); // drawn by hand
            CHECK_FALSE(symbol(size, third, 1.4));
        }
}
