#include "support/samples.h"

#include "core/views/stages.h"

#include <random>

// At what scale each view is drawn, told by labels, dimensions, the title block and by how the views match.
using namespace prism;
using namespace prism::test;

namespace {

struct Chance {
    std::mt19937 random;
    double in(double lo, double hi) { return std::uniform_real_distribution(lo, hi)(random); }
};

/// Heights of a stair that falls from left to right, and where its steps begin.
struct Stair {
    std::vector<double> x{0}, z{0};
    explicit Stair(Chance& chance, int steps = 4) {
        for (int i = 0; i < steps; ++i)
            x.push_back(x.back() + chance.in(12, 31)), z.push_back(z.back() + chance.in(8, 19));
    }
    size_t steps() const { return x.size() - 1; }
    double width() const { return x.back(); }
    double height() const { return z.back(); }
    void front(DxfText& t) const {
        for (size_t i = 0; i < steps(); ++i) {
            const double top = z[steps() - i], below = z[steps() - 1 - i];
            t.line(x[i], top, x[i + 1], top).line(x[i + 1], top, x[i + 1], below);
        }
        t.line(width(), 0, 0, 0).line(0, 0, 0, height());
    }
    /// Seen from above, `depth` deep, its low left corner at `at`, enlarged; one step left out if asked.
    void top(DxfText& t, Vec2 at, double depth, double by, bool flat = false) const {
        const size_t last = flat ? steps() - 1 : steps();
        t.box(at.x, at.y, at.x + x[last] * by, at.y + depth * by);
        for (size_t i = 1; i < last; ++i) t.line(at.x + x[i] * by, at.y, at.x + x[i] * by, at.y + depth * by);
    }
    /// Seen from the right.
    void side(DxfText& t, Vec2 at, double depth, double by) const {
        t.box(at.x, at.y, at.x + depth * by, at.y + height() * by);
        for (size_t i = 1; i < steps(); ++i)
            t.line(at.x, at.y + z[i] * by, at.x + depth * by, at.y + z[i] * by);
    }
};

} // namespace

TEST_CASE("a view drawn larger or smaller than its neighbour, without a word, is told by its coordinates") {
    Chance chance{std::mt19937(3)};
    for (double by : {2.0, 0.5, 1.25, 1.0})
        for (int round = 0; round < 8; ++round) {
            const Stair stair(chance);
            const double depth = chance.in(20, 40);
            DxfText t;
            t.entities();
            stair.front(t);
            t.text(0.3 * stair.width(), -9, "FRONT VIEW");
            t.text(0, -200, "THIRD ANGLE PROJECTION");
            const bool above = round % 2;
            above ? stair.top(t, {0, stair.height() + 30}, depth, by)
                  : stair.side(t, {stair.width() + 40, 0}, depth, by);
            const ViewSet set = viewsOf(t);
            REQUIRE(set.views.size() == 2);
            const View* v = set.withRole(above ? Role::top : Role::right);
            REQUIRE(v);
            CHECK(v->scale == Approx(by));
            CHECK(v->mm_per_sheet == Approx(1 / by));
            CHECK((v->scale_reason.find("coordinates match the front view") != std::string::npos) ==
                  (by != 1));
            CHECK(set.withRole(Role::front)->scale == Approx(1));
        }
}

TEST_CASE("four coordinates tell that a view is drawn at a scale of its own, three do not") {
    Chance chance{std::mt19937(5)};
    for (int steps : {2, 3, 4})
        for (int round = 0; round < 4; ++round) {
            CAPTURE(steps, round);
            const Stair stair(chance, steps);
            DxfText t;
            t.entities();
            stair.front(t);
            t.text(0.3 * stair.width(), -9, "FRONT VIEW").text(0, -200, "THIRD ANGLE PROJECTION");
            stair.top(t, {0, stair.height() + 30}, 30, 0.5);
            const ViewSet set = viewsOf(t);
            const View* v = set.withRole(Role::top);
            REQUIRE(v);
            CHECK(v->scale == Approx(steps >= 3 ? 0.5 : 1));
        }
}

TEST_CASE("a view of slanted lines at a scale of its own is no pictorial") {
    // A wedge seen from three sides; its side view, 50 x 40, is drawn smaller or larger about its middle.
    for (double by : {0.97, 1.04, 1.0}) {
        DxfText t;
        t.entities().box(0, 0, 80, 40).box(0, 70, 80, 120);
        for (double z : {5, 12, 15}) t.line(0, z, 80, z);
        for (double y : {10, 30, 40}) t.line(0, 70 + y, 80, 70 + y);
        const auto at = [&](double y, double z) { return Vec2{145, 20} + Vec2{y - 25, z - 20} * by; };
        const std::array corners{at(0, 0), at(50, 0), at(50, 15), at(30, 40), at(0, 40)};
        for (size_t i = 0; i < corners.size(); ++i) {
            const Vec2 a = corners[i], b = corners[(i + 1) % corners.size()];
            t.line(a.x, a.y, b.x, b.y);
        }
        const Vec2 a = at(10, 5), b = at(40, 12); // a gusset on it
        t.line(a.x, a.y, b.x, b.y).line(b.x, b.y, a.x, b.y).line(a.x, b.y, a.x, a.y);
        const ViewSet set = viewsOf(t.text(0, -60, "THIRD ANGLE PROJECTION"));
        REQUIRE(set.views.size() == 3);
        const View* side = set.withRole(Role::right);
        REQUIRE(side);
        CHECK(side->scale == Approx(by));
    }
}

TEST_CASE("a view that shows less than its neighbour is no smaller for that") {
    Chance chance{std::mt19937(4)};
    for (int round = 0; round < 8; ++round) {
        const Stair stair(chance);
        DxfText t;
        t.entities();
        stair.front(t);
        t.text(0, -200, "THIRD ANGLE PROJECTION");
        stair.top(t, {0, stair.height() + 30}, 25, 1, true); // its last step is cut off: the others coincide
        const ViewSet set = viewsOf(t);
        REQUIRE(set.withRole(Role::top));
        CHECK(set.withRole(Role::top)->scale == Approx(1));
    }
}

TEST_CASE("the scale that most dimensions tell wins over the title block, a label over both") {
    auto sheet = [](const char* wide, const char* deep, const char* high, const char* words,
                    const char* label = "") {
        DxfText t;
        t.entities();
        t.box(0, 0, 60, 20).box(0, 60, 60, 100);
        t.dimension(0, 0, 60, 0, 0, -10, 0, wide).dimension(0, 60, 0, 100, -10, 60, 90, deep);
        t.dimension(0, 0, 0, 20, -10, 0, 90, high);
        t.text(200, -100, words);
        t.text(0, -200, "THIRD ANGLE PROJECTION");
        if (*label) t.text(25, 52, label);
        return viewsOf(t);
    };
    CHECK(sheet("120", "80", "40", "SCALE 1:5").sheet_scale == Approx(0.5));
    CHECK(sheet("120", "80", "45", "SCALE 1:5").sheet_scale == Approx(0.5)); // two of three
    CHECK(sheet("30", "20", "10", "SCALE 1:5").sheet_scale == Approx(2));
    // Two that disagree: a scale that drawings are made at (ISO 5455) wins.
    CHECK(sheet("60", "47", "26", "SCALE 1:5").sheet_scale == Approx(1));
    CHECK(sheet("600", "47", "26", "SCALE 1:5").sheet_scale == Approx(0.1));
    CHECK(sheet("51", "8", "26", "SCALE 1:5").sheet_scale == Approx(5));
    const ViewSet byLabel = sheet("60", "40", "20", "SCALE 1:5", "TOP VIEW SCALE 2:1");
    REQUIRE(byLabel.withRole(Role::top));
    CHECK(byLabel.withRole(Role::top)->scale == Approx(2));
    CHECK(byLabel.withRole(Role::top)->scale_reason == "its label");
    CHECK(byLabel.withRole(Role::front)->scale == Approx(1));
}

TEST_CASE("without dimensions the title block tells the scale, and a hand's word wins over all") {
    DxfText t;
    t.entities();
    t.box(0, 0, 60, 20).box(0, 60, 60, 100);
    const ViewSet nothing = viewsOf(t);
    CHECK(nothing.sheet_scale == 1);
    CHECK(nothing.views[0].scale_reason.find("nothing tells") == 0);
    t.text(200, -100, "SCALE 1:4");
    const ViewSet block = viewsOf(t);
    CHECK(block.sheet_scale == Approx(0.25));
    CHECK(block.views[0].scale_reason == "the title block");
    CHECK(block.views[0].mm_per_sheet == Approx(4));
    ViewChoices choices;
    choices.scale = 0.2;
    const ViewSet hand = viewsOf(t, choices);
    CHECK(hand.sheet_scale == Approx(0.2));
    CHECK(hand.views[0].scale_reason == "chosen by hand");
}

TEST_CASE("of two views in one role the first makes the figure, or the one that was chosen") {
    DxfText t;
    t.entities();
    t.box(0, 0, 60, 20).line(30, 0, 30, 20);
    t.box(0, 60, 60, 100).line(30, 60, 30, 100);
    t.box(207, 143, 267, 183).line(237, 143, 237, 183);
    t.text(0, -200, "THIRD ANGLE PROJECTION");
    const ViewSet found = viewsOf(t);
    REQUIRE(found.views.size() == 3);
    const View *top = found.withRole(Role::top), *other = nullptr;
    REQUIRE(top);
    CHECK(top->box_sheet.lo.x ==
          0); // as wide a view elsewhere on the sheet does not stand above the front view
    for (const View& v : found.views)
        if (v.box_sheet.lo.x > 150) other = &v;
    REQUIRE(other);
    ViewChoices choices;
    choices.roles[other->key] = Role::top;
    auto used = [&](const ViewChoices& c) {
        std::vector<double> at;
        for (const View& v : viewsOf(t, c).views)
            if (v.role == Role::top && v.in_figure) at.push_back(v.box_sheet.lo.x);
        return at;
    };
    CHECK(used(choices).size() == 1);
    choices.used[Role::top] = other->key;
    CHECK(used(choices) == std::vector<double>{207});
    choices.used[Role::top] = top->key;
    CHECK(used(choices) == std::vector<double>{0});
    choices.used[Role::top] = "no view of that name"; // one that is gone: as if none was chosen
    CHECK(used(choices).size() == 1);
    choices.used.clear();
    choices.used[Role::front] = other->key; // it is no front view
    CHECK(viewsOf(t, choices).withRole(Role::front)->in_figure);
}
