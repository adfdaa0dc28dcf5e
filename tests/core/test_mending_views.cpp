#include "core/views/stages.h"
#include "support/diagnosed.h"

using namespace prism;
using namespace prism::test;

// Whole views drawn at another scale: told once, and brought back to where they were.

namespace {

/// Draws on a sheet under a map.
struct Pen {
    DxfText& t;
    Affine2 map;
    void line(Vec2 a, Vec2 b, const char* layer = "OUTLINE") const {
        const Vec2 p = map(a), q = map(b);
        t.line(p.x, p.y, q.x, q.y, layer);
    }
    void chain(const std::vector<Vec2>& way) const {
        for (size_t i = 1; i < way.size(); ++i) line(way[i - 1], way[i]);
    }
    void box(Vec2 lo, Vec2 hi) const { chain({lo, {hi.x, lo.y}, hi, {lo.x, hi.y}, lo}); }
};

Affine2 scaledAbout(Vec2 fixed, double by) {
    return Affine2::shift(fixed) * Affine2::scale(by, by) * Affine2::shift({-fixed.x, -fixed.y});
}

/// An angle of 80 x 50 x 40 with a web of 30 and a foot of 15; third angle. What is drawn larger, and about
/// which place, is said by maps.
struct AnglePart {
    Vec2 at;
    Affine2 top, right; ///< of the views, in coordinates of the part's sheet
    bool half = false;  ///< the top view is drawn to its symmetry line only
    double w = 80, d = 50, h = 40;

    void draw(DxfText& t) const {
        const Affine2 here = Affine2::shift(at);
        Pen{t, here}.chain({{0, 0}, {w, 0}, {w, 15}, {30, 15}, {30, h}, {0, h}, {0, 0}});
        const Pen above{t, here * top};
        const double low = half ? 100 + d / 2 : 100, high = 100 + d;
        if (half) {
            above.chain({{0, low}, {0, high}, {w, high}, {w, low}});
            above.line({-4, low}, {w + 4, low}, "CENTRE");
        } else
            above.box({0, low}, {w, high});
        above.line({30, low}, {30, high});
        const Pen beside{t, here * right};
        beside.box({130, 0}, {130 + d, h});
        beside.line({130, 15}, {130 + d, 15});
    }
};

DxfText sheet() {
    DxfText t;
    t.layer("OUTLINE")
        .layer("HIDDEN", "HIDDEN")
        .layer("CENTRE", "CENTER")
        .entities()
        .text(0, -60, "THIRD ANGLE");
    return t;
}

std::string drawnOf(const std::vector<AnglePart>& parts) {
    DxfText t = sheet();
    for (const AnglePart& p : parts) p.draw(t);
    return t.done();
}

/// The one thing that is found on a sheet, which is a scale; its repair leaves the lines of another.
void mendsScale(const std::string& wrong, const std::string& right, double ratio) {
    Document d = drawnSheet(wrong);
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "scale_mismatch");
    CHECK(all[0]->numbers.at("ratio") == Approx(ratio));
    repaired(d);
    const Diagnosis after = diagnosed(d);
    INFO(told(after));
    CHECK(serious(after).empty());
    CHECK(sameLines(d.model().figure, drawnSheet(right).model().figure));
}

} // namespace

TEST_CASE("a half view at a scale of its own is mended as it is drawn, by half") {
    AnglePart p;
    p.half = true;
    const std::string right = drawnOf({p});
    CHECK(serious(diagnosed(drawnSheet(right))).empty());
    for (const double by : {1.05, 0.95})
        for (const Vec2 about : {Vec2{0, 125}, Vec2{40, 137.5}}) {
            p.top = scaledAbout(about, by);
            mendsScale(drawnOf({p}), right, by);
        }
}

TEST_CASE("a view beside one that is drawn by half finds its place at another scale") {
    // The front view, the right view by half, and above that a rear part of the top view turned to lie there:
    // here simply the sizes, of which the half is doubled.
    const Box2 half{{0, 0}, {40, 60}}, third{{-100, 0}, {-50, 60}};
    for (const double by : {0.9, 1.1})
        for (const Vec2 fixed : {Vec2{-40, 100}, Vec2{0, 125}}) {
            const Affine2 m = scaledAbout(fixed, by);
            const Box2 view{m({-40, 100}), m({40, 150})};
            const auto box = views::boxAtScaleOf({half, third}, view);
            REQUIRE(box);
            CHECK(box->lo.x == Approx(-40).margin(1e-9));
            CHECK(box->hi.x == Approx(40).margin(1e-9));
            CHECK(box->height() == Approx(50));
            CHECK(box->centre().y == Approx(view.centre().y));
        }
    // Deeper than wide by another factor: no view of these.
    CHECK_FALSE(views::boxAtScaleOf({half, third}, {{-36, 100}, {36, 160}}));
    // Off by more than the scale explains.
    CHECK_FALSE(views::boxAtScaleOf({half, third}, {{20, 100}, {92, 145}}));
}

TEST_CASE("between two parts a view at another scale goes to that which it fits, not to the nearest") {
    AnglePart one, other;
    other.at = {200, 4}, other.w = 70, other.d = 33, other.h = 51;
    const std::string right = drawnOf({one, other});
    REQUIRE(drawnSheet(right).model().views.parts.size() == 2);
    one.right = scaledAbout({155, 20}, 1.05);
    Document d = drawnSheet(drawnOf({one, other}));
    REQUIRE(d.model().views.parts.size() == 2);
    Choices c = d.choices();
    c.views.part = 0;
    NoProgress quiet;
    REQUIRE(d.apply("Part", c, quiet, Stage::checks));
    CHECK(d.model().views.views.size() == 3);
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "scale_mismatch");
    CHECK(all[0]->numbers.at("ratio") == Approx(1.05));
}

TEST_CASE("dimensions that a scaled view left behind tell where it belongs, and are no causes of their own") {
    const auto text = [](double by, Vec2 about) {
        AnglePart p;
        p.right = scaledAbout(about, by);
        DxfText t = sheet();
        p.draw(t);
        t.dimension(130, 0, 180, 0, 155, -10, 0).dimension(180, 0, 180, 15, 190, 7, 90);
        t.dimension(0, 0, 80, 0, 40, -10, 0).dimension(0, 0, 0, 40, -10, 20, 90);
        return t.done();
    };
    for (const Vec2 about : {Vec2{130, 0}, Vec2{155, 20}, Vec2{180, 40}}) {
        Document d = drawnSheet(text(1.1, about));
        const Diagnosis found = diagnosed(d);
        INFO(told(found));
        const auto all = serious(found);
        REQUIRE(all.size() == 1);
        CHECK(all[0]->kind == "scale_mismatch");
        repaired(d);
        for (const LedgerEntry& e : d.model().ledger.entries) {
            INFO(e.name << ": " << e.why);
            CHECK(e.state != EntryState::loose);
            CHECK(e.said == Approx(e.drawn));
        }
    }
}

TEST_CASE("a bent part whose end is drawn square to it is no pictorial, whatever the scale of the top view") {
    constexpr double angle = 50 * kPi / 180;
    const Vec2 u = direction(angle), n{-u.y, u.x};
    const Vec2 bend{60, 0}, tip = bend + u * 50, inner{60 - 10 * u.y + u.x * 10 * (1 - u.x) / u.y, 10};
    for (const double by : {1.0, 1.05, 0.9}) {
        DxfText t = sheet();
        Pen{t, {}}.chain({{0, 0}, bend, tip, tip + n * 10, inner, {0, 10}, {0, 0}});
        const Pen top{t, scaledAbout({0, 120}, by)};
        top.box({0, 120}, {tip.x, 160});
        for (double x : {inner.x, (tip + n * 10).x}) top.line({x, 120}, {x, 160});
        top.line({60, 120}, {60, 160}, "HIDDEN");
        const Vec2 off = bend - n * 60; // the end, drawn square to it
        Pen{t, {}}.chain({off, off + u * 50, off + u * 50 - n * 40, off - n * 40, off});
        NoProgress quiet;
        const Drawing d = drawn(t.done());
        const ViewSet set = findViews(d, clean(d, {}), {}, quiet);
        INFO(by);
        REQUIRE(set.withRole(Role::front));
        CHECK(set.withRole(Role::front)->box_sheet.hi.x == Approx(tip.x));
        CHECK_FALSE(set.withRole(Role::pictorial));
        REQUIRE(set.withRole(Role::top));
        CHECK(set.withRole(Role::top)->scale == Approx(by).epsilon(1e-6));
    }
}

TEST_CASE(
    "a half view that lacks the line to its symmetry line is known by its signs, and gets that half of it") {
    // A block of 80 x 50 x 40 with two square holes, its top view from 125 up.
    const auto block = [](bool whole, bool signs) {
        DxfText t = sheet();
        const Pen pen{t, {}};
        pen.box({0, 0}, {80, 40});
        pen.box({130, 0}, {180, 40});
        pen.chain({{0, 125}, {0, 150}, {80, 150}});
        pen.box({30, 135}, {50, 142});
        for (double x : {30, 50}) pen.line({x, 0}, {x, 40}, "HIDDEN");
        for (double y : {8, 15, 35, 42}) pen.line({130 + y, 0}, {130 + y, 40}, "HIDDEN");
        if (whole) pen.line({80, 150}, {80, 125});
        pen.line({-4, 125}, {84, 125}, "CENTRE");
        if (signs)
            for (double x : {-3.0, -2.0, 82.0, 83.0}) pen.line({x, 121}, {x, 129}, "CENTRE");
        return t.done();
    };
    CHECK(drawnSheet(block(true, false)).model().views.completed);
    CHECK_FALSE(drawnSheet(block(false, false)).model().views.completed);
    Document d = drawnSheet(block(false, true));
    REQUIRE(d.model().views.completed);
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "outline_open");
    repaired(d);
    CHECK(serious(diagnosed(d)).empty());
    CHECK(sameLines(d.model().figure, drawnSheet(block(true, true)).model().figure));
}

TEST_CASE("a view turned by a quarter stays with its part, and is no pictorial for its slanted lines") {
    const Box2 front{{0, 0}, {80, 40}}, top{{0, 100}, {80, 150}};
    const Box2 right{{130, 0}, {180, 40}}, turned{{130, 0}, {170, 50}};
    CHECK(views::fitsOtherwise({front, top}, right));
    CHECK(views::fitsOtherwise({front, top}, turned));
    CHECK_FALSE(views::fitsOtherwise({front, top}, {{130, 0}, {170, 53}}));
    // A wedge: the right view shows its slope, turned on the sheet.
    DxfText t = sheet();
    const Pen pen{t, {}};
    pen.box({0, 0}, {60, 90});
    pen.line({0, 8}, {60, 8});
    pen.box({0, 130}, {60, 180});
    pen.line({0, 176}, {60, 176});
    const auto wedge = [&](const Affine2& m) {
        Pen{t, m}.chain({{0, 0}, {50, 0}, {50, 8}, {4, 90}, {0, 90}, {0, 0}});
    };
    wedge(Affine2::shift({190, 0}) * Affine2::rotation(kPi / 2));
    const Document d = drawnSheet(t.done());
    CHECK_FALSE(d.model().views.withRole(Role::pictorial));
}
