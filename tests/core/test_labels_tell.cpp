#include "core/views/by_hand.h"
#include "core/views/fold_lines.h"
#include "support/samples.h"

using namespace prism;
using namespace prism::test;

// What labels of views tell of the angle, and on which view another one hangs.

namespace {

View view(int id, Role role, Vec2 lo, Vec2 hi, bool in_figure = true) {
    View v;
    v.id = id, v.role = role, v.key = std::to_string(id), v.in_figure = in_figure;
    v.box_sheet.add(lo), v.box_sheet.add(hi);
    return v;
}

} // namespace

TEST_CASE("where the views lie and what they are called tells the angle, if nothing else does") {
    // A front view of 80 x 40; a view of 80 x 50 above or below it, one of 50 x 40 at its right or left.
    struct Case {
        const char* label;
        Vec2 lo, hi;
        Convention angle;
    };
    for (const Case& c : {Case{"TOP VIEW", {0, 80}, {80, 130}, Convention::third},
                          {"TOP VIEW", {0, -90}, {80, -40}, Convention::first},
                          {"RIGHT VIEW", {120, 0}, {170, 40}, Convention::third},
                          {"RIGHT VIEW", {-90, 0}, {-40, 40}, Convention::first},
                          {"LEFT VIEW", {-90, 0}, {-40, 40}, Convention::third},
                          {"LEFT VIEW", {120, 0}, {170, 40}, Convention::first}}) {
        CAPTURE(c.label, c.lo.x, c.lo.y);
        DxfText t;
        t.layer("OUTLINE").entities();
        t.box(0, 0, 80, 40).text(25, -12, "FRONT VIEW");
        t.box(c.lo.x, c.lo.y, c.hi.x, c.hi.y).text(0.5 * (c.lo.x + c.hi.x) - 12, c.lo.y - 12, c.label);
        const ViewSet set = viewsOf(t);
        REQUIRE(set.views.size() == 2);
        CHECK(set.projection.convention == c.angle);
        CHECK(set.projection.laid_out == c.angle);
        const std::string role = c.label == std::string("TOP VIEW")     ? "top"
                                 : c.label == std::string("RIGHT VIEW") ? "right"
                                                                        : "left";
        CHECK(set.withRole(*roleNamed(role)));
    }
}

TEST_CASE("a line drawn for a view hangs it on the principal view nearest to the line's middle") {
    ViewSet set;
    set.views = {view(0, Role::front, {0, 0}, {80, 40}), view(1, Role::top, {0, 90}, {80, 140}),
                 view(2, Role::section, {200, 0}, {280, 40})};
    CleanSheet s;
    s.tolerances = Tolerances::forSheet(300, 300);
    for (const Convention laid_out : {Convention::first, Convention::third}) {
        set.projection.laid_out = laid_out;
        const auto on = [&](Vec2 from, Vec2 to) {
            const auto h = hungAlong(set, s, set.views[2], from, to);
            REQUIRE(h);
            CHECK(distance(h->from, from) < 1e-9);
            CHECK(distance(h->to, to) < 1e-9);
            return h->on;
        };
        CHECK(on({-10, 60}, {90, 62}) == "0");
        CHECK(on({-10, 68}, {90, 66}) == "1");
        CHECK(on({40, -20}, {40, 160}) == "1"); // its middle lies at 70
        CHECK(on({40, -30}, {40, 150}) == "0"); // at 60
        CHECK(on({120, 10}, {120, 30}) == "0");
        CHECK(on({120, 100}, {120, 120}) == "1");
        // The view lies to the right of a line that runs upwards: it is seen from there in third angle, from
        // the other side in first.
        const auto up = hungAlong(set, s, set.views[2], {40, -5}, {40, 45}),
                   down = hungAlong(set, s, set.views[2], {40, 45}, {40, -5});
        REQUIRE((up && down));
        CHECK(up->turned != down->turned);
        CHECK(up->turned == (laid_out == Convention::first));
    }
}

TEST_CASE("the rear view folds away from the side view it lies beside, the others from the front view") {
    ViewSet set;
    set.views = {view(0, Role::front, {0, 0}, {80, 40}), view(1, Role::top, {0, 60}, {80, 110}),
                 view(2, Role::right, {100, 0}, {150, 40}), view(3, Role::left, {-70, 0}, {-20, 40}),
                 view(4, Role::rear, {180, 0}, {260, 40})};
    const auto on = [&](int id) {
        for (const FoldLine& l : foldLinesOf(set, {}))
            if (l.view == id) return l.on;
        return -1;
    };
    for (const int id : {1, 2, 3}) CHECK(on(id) == 0);
    CHECK(on(4) == 2);
    set.views[4].box_sheet = Box2{{-180, 0}, {-100, 40}};
    CHECK(on(4) == 3);
    set.views[3].in_figure = false;
    CHECK(on(4) == 2);
    set.views[2].in_figure = false;
    CHECK(on(4) == 0);
    // Half way between the two, across both and a little beyond.
    for (const FoldLine& l : foldLinesOf(set, {}))
        if (l.view == 1) {
            CHECK(l.line.a.y == Approx(50));
            CHECK(l.line.b.y == Approx(50));
            CHECK(std::min(l.line.a.x, l.line.b.x) < 0);
            CHECK(std::max(l.line.a.x, l.line.b.x) > 80);
            CHECK(l.gap() == Approx(10));
            CHECK(l.away.y == Approx(1));
        }
}

TEST_CASE("sections, details and views along an arrow are called by any letter") {
    const auto lettered = [](const std::string& label) {
        DxfText t;
        t.layer("OUTLINE").entities().text(0, -60, "THIRD ANGLE");
        t.box(0, 0, 80, 40).box(0, 80, 80, 130).box(200, 0, 250, 40).text(205, -12, label);
        const ViewSet set = viewsOf(t);
        for (const View& v : set.views)
            if (!v.letter.empty()) return std::string(nameOf(v.role)) + " " + v.letter;
        return std::string();
    };
    for (const char letter : {'A', 'B', 'M', 'Y', 'Z'}) {
        const std::string l(1, letter);
        CHECK(lettered("SECTION " + l + "-" + l) == "section " + l);
        CHECK(lettered(l + " - " + l) == "section " + l);
        CHECK(lettered("DETAIL " + l) == "detail " + l);
    }
    CHECK(lettered("SECTION 1-1").empty());
    CHECK(lettered("DETAILS").empty());
    CHECK(lettered("DETAIL AB").empty());
}
