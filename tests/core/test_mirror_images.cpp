#include "core/checking/mirror_images.h"
#include "core/checking/view_lines.h"
#include "support/diagnosed.h"
#include "support/three_views.h"

using namespace prism;
using namespace prism::test;
using namespace prism::checking;

// Views all but a line or two of which have their mirror image.

namespace {

/// A front view of 80 x 40 with pairs of lines and circles about X 40; more is added as the case says.
struct Front {
    ThreeViews t = threeViews(80, 50, 40);
    Front() {
        line(0, 0, 80, 0), line(80, 0, 80, 40), line(80, 40, 0, 40), line(0, 40, 0, 0);
        pair(10, 0, 10, 40), pair(22, 8, 30, 16);
        t.circle(Axis::y, {18, 0, 30}, 4), t.circle(Axis::y, {62, 0, 30}, 4);
        for (const Axis look : {Axis::x, Axis::z}) {
            const Vec2 lo = t.on(look, {0, 0, 0}), hi = t.on(look, {80, 50, 40});
            t.sheet.box(lo.x, lo.y, hi.x, hi.y);
        }
    }
    void line(double x0, double z0, double x1, double z1, const char* layer = "OUTLINE") {
        t.line(Axis::y, {x0, 0, z0}, {x1, 0, z1}, layer);
    }
    void pair(double x0, double z0, double x1, double z1) {
        line(x0, z0, x1, z1), line(80 - x0, z0, 80 - x1, z1);
    }
    struct Told {
        bool upright;
        double at;
        std::vector<std::pair<Vec2, Vec2>> images;
    };
    std::vector<Told> told() const {
        const Document d = inViews(t.sheet);
        const Figure& f = d.model().figure;
        std::vector<Told> r;
        for (const FigureView& v : f.views)
            if (v.axes.depth == Axis::y) {
                const ViewLines lines(f, v.view, 1e-4);
                for (const MirrorLine& m : nearlyMirrored(v, lines, 1e-4)) {
                    Told one{m.upright, m.at, {}};
                    for (const auto& l : m.lines) one.images.emplace_back(startOf(l.image), endOf(l.image));
                    r.push_back(one);
                }
            }
        return r;
    }
};

bool same(const std::pair<Vec2, Vec2>& image, Vec2 a, Vec2 b) {
    return std::min(distance(image.first, a) + distance(image.second, b),
                    distance(image.first, b) + distance(image.second, a)) < 1e-6;
}

} // namespace

TEST_CASE("a line without its image is told with where that would be, about the view's middle") {
    CHECK(Front().told().empty()); // all have theirs
    Front one;
    one.line(30, 20, 30, 28);
    const auto told = one.told();
    REQUIRE(told.size() == 1);
    CHECK(told[0].upright);
    CHECK(told[0].at == Approx(40));
    REQUIRE(told[0].images.size() == 1);
    CHECK(same(told[0].images[0], {50, 20}, {50, 28}));
    Front two;
    two.line(30, 20, 30, 28), two.line(26, 34, 34, 34);
    const auto both = two.told();
    REQUIRE(both.size() == 1);
    REQUIRE(both[0].images.size() == 2);
    CHECK((same(both[0].images[0], {50, 20}, {50, 28}) || same(both[0].images[1], {50, 20}, {50, 28})));
    CHECK((same(both[0].images[0], {54, 34}, {46, 34}) || same(both[0].images[1], {54, 34}, {46, 34})));
    Front three = two;
    three.line(5, 5, 8, 9);
    CHECK(three.told().empty()); // a view that is not meant to be its own image
    // An image of another kind is none.
    Front kind;
    kind.line(30, 20, 30, 28), kind.line(50, 20, 50, 28, "HIDDEN");
    const auto other = kind.told();
    REQUIRE(other.size() == 1);
    CHECK(other[0].images.size() == 2);
}

TEST_CASE("a view may be its own image about a level line, and about a circle's middle") {
    ThreeViews t = threeViews(60, 60, 60);
    for (const Axis look : {Axis::x, Axis::y, Axis::z}) {
        const Vec2 lo = t.on(look, {0, 0, 0}), hi = t.on(look, {60, 60, 60});
        t.sheet.box(lo.x, lo.y, hi.x, hi.y);
    }
    for (const double z : {12.0, 48.0})
        t.line(Axis::y, {0, 0, z}, {14, 0, z}), t.line(Axis::y, {14, 0, z}, {14, 0, z < 30 ? 0.0 : 60.0});
    t.line(Axis::y, {40, 0, 8}, {60, 0, 8});
    Front f;
    f.t = t;
    const auto told = f.told();
    REQUIRE(told.size() == 1);
    CHECK_FALSE(told[0].upright);
    CHECK(told[0].at == Approx(30));
    REQUIRE(told[0].images.size() == 1);
    CHECK(same(told[0].images[0], {40, 52}, {60, 52}));
}

TEST_CASE(
    "of lines without an image beside a keyway the one is supposed that leads on from an open outline") {
    // A shaft of three steps about Y 20, a keyway on its upper side; of its lower shoulders one is lacking.
    DxfText t;
    t.layer("OUTLINE").entities().text(0, -60, "THIRD ANGLE");
    t.line(0, 0, 0, 40).line(50, 10, 50, 30).line(70, 14, 70, 26).line(90, 14, 90, 26);
    for (const double side : {-1.0, 1.0}) {
        t.line(0, 20 + side * 20, 50, 20 + side * 20).line(50, 20 + side * 10, 70, 20 + side * 10);
        t.line(70, 20 + side * 6, 90, 20 + side * 6).line(70, 20 + side * 6, 70, 20 + side * 10);
    }
    t.line(50, 30, 50, 40).box(10, 25, 30, 32);
    t.circle(150, 20, 20).circle(150, 20, 10).circle(150, 20, 6);
    const Document d = drawnSheet(t.done());
    NoProgress quiet;
    std::vector<std::pair<Vec2, Vec2>> images;
    for (const Finding& f : lackingLines(inputOf(d), quiet))
        if (f.message.find("mirror image") != std::string::npos) {
            images.emplace_back(f.at_sheet.front(), f.at_sheet.back());
            CHECK(f.message.find("10.00 mm") != std::string::npos);
            CHECK(f.numbers.at("length") == Approx(10));
        }
    REQUIRE(images.size() == 1);
    const auto [a, b] = images[0];
    CHECK(std::min(distance(a, {50, 0}), distance(b, {50, 0})) < 1e-6);
    CHECK(std::min(distance(a, {50, 10}), distance(b, {50, 10})) < 1e-6);
}
