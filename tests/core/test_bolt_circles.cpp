#include "core/checking/bolt_circles.h"
#include "support/diagnosed.h"
#include "support/samples.h"

#include <fmt/format.h>

using namespace prism;
using namespace prism::test;
using namespace prism::checking;

// Holes that slipped from their places on a bolt circle, by how many there are, which way and how far.

namespace {

/// A flange about (0, 0) with a bore of 15 and holes of radius 5 on a circle of radius 60, drawn as a centre
/// line if asked; some of the holes are moved, from the first on.
struct Flange {
    int holes = 4;
    double turned = 0; ///< of the first hole, degrees
    int moved = 0;
    Vec2 by{};
    bool pitch_circle = true, dimensioned = false;
    double radius = 5;
    int round = -1; ///< whose diameter (3) or radius (4) is dimensioned, of the first hole; -1 for none

    Vec2 place(int i) const {
        return Affine2::rotation((turned + 360.0 * i / holes) * kPi / 180)({60, 0}) +
               (i < moved ? by : Vec2{});
    }
    std::string drawn() const {
        DxfText t;
        t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").layer("CENTRE", "CENTER").entities();
        t.circle(0, 0, 80).circle(0, 0, 15);
        if (pitch_circle) t.circle(0, 0, 60, "CENTRE");
        for (int i = 0; i < holes; ++i) t.circle(place(i).x, place(i).y, radius);
        t.box(140, -80, 160, 80);
        for (double z : {-15.0, 15.0}) t.line(140, z, 160, z, "HIDDEN");
        if (dimensioned) t.dimension(0, 0, place(0).x, place(0).y, 0, -100, 0);
        if (round >= 0) {
            const Vec2 c = place(0), a = round == 3 ? c - Vec2{radius, 0} : c, b = c + Vec2{radius, 0};
            t.group(0, "DIMENSION").group(8, "OUTLINE").group(70, round);
            t.group(10, a.x)
                .group(20, a.y)
                .group(15, b.x)
                .group(25, b.y)
                .group(11, b.x + 12)
                .group(21, b.y + 9);
        }
        return t.text(0, -120, "THIRD ANGLE PROJECTION").done();
    }
};

std::vector<Finding> told(const Document& d, BoltCircles which) {
    std::vector<Finding> r;
    onBoltCircles(inputOf(d), which, r);
    return r;
}
std::vector<Finding> told(const Flange& f, BoltCircles which) {
    return told(drawnSheet(f.drawn()), which);
}

} // namespace

TEST_CASE("some holes beside their bolt circle are told with their number, the shift and its axis") {
    for (const int holes : {3, 4, 5, 6, 8, 12})
        for (const double turned : {0.0, 17.0})
            for (const int moved : {1, 2})
                for (const Vec2 by : {Vec2{2, 0}, Vec2{-0.8, 0}, Vec2{0, 1.25}, Vec2{0, -3}})
                    for (const BoltCircles which : {BoltCircles::drawn, BoltCircles::supposed}) {
                        if (holes - moved < 2) continue;
                        CAPTURE(holes, turned, moved, by.x, by.y);
                        const Document d = drawnSheet(Flange{holes, turned, moved, by}.drawn());
                        const auto found = told(d, which);
                        REQUIRE(found.size() == 1);
                        const Finding& f = found[0];
                        CHECK(f.kind == "position_mismatch");
                        CHECK(f.severity ==
                              (which == BoltCircles::drawn ? Severity::warning : Severity::error));
                        CHECK(f.numbers.at("shift") == Approx(length(by)));
                        CHECK(f.numbers.at("images") == moved);
                        REQUIRE(f.views.size() == 1);
                        const Role role = d.model().views.views[static_cast<size_t>(f.views[0])].role;
                        const ViewAxes axes = axesOf(role);
                        CHECK(f.message.starts_with(
                            fmt::format("{} of the {} circles of Ø10 mm in the {} view stand", moved, holes,
                                        nameOf(role))));
                        CHECK(f.message.find(fmt::format(" {:.2f} mm along {} from ", length(by),
                                                         nameOf(by.x != 0 ? axes.right : axes.up))) !=
                              std::string::npos);
                        CHECK(f.message.find(moved == 1 ? "stands" : "stand ") != std::string::npos);
                        REQUIRE_FALSE(f.remedies.empty());
                        CHECK(f.remedies[0].change.lines.size() == static_cast<size_t>(moved));
                    }
}

TEST_CASE("all holes of a bolt circle may stand beside the bore") {
    for (const Vec2 by : {Vec2{2.5, 0}, Vec2{0, -1.5}}) {
        const auto found = told({6, 0, 6, by}, BoltCircles::supposed);
        REQUIRE(found.size() == 1);
        CHECK(found[0].numbers.at("images") == 6);
        CHECK(found[0].numbers.at("shift") == Approx(length(by)));
        // Where the circle is drawn none of them stands on it: nothing tells that it is theirs.
        CHECK(told({6, 0, 6, by}, BoltCircles::drawn).empty());
    }
}

TEST_CASE("holes are not told that stand right, askew, far off, or where a dimension puts them") {
    for (const BoltCircles which : {BoltCircles::drawn, BoltCircles::supposed}) {
        CHECK(told({6, 0, 0, {}}, which).empty());
        CHECK(told({6, 0, 1, {1, 2}}, which).empty());    // no slip along one axis
        CHECK(told({6, 0, 1, {15.5, 0}}, which).empty()); // more than a quarter of the circle's radius
        CHECK(told({6, 0, 1, {14.5, 0}}, which).size() == 1);
        CHECK(told({2, 0, 1, {2, 0}}, which).empty()); // two are no circle
        CHECK(told({25, 0, 1, {2, 0}, true, false, 2}, which).empty());
        CHECK(told({24, 0, 1, {2, 0}, true, false, 2}, which).size() == 1);
    }
    CHECK(told({6, 0, 1, {2, 0}, false}, BoltCircles::drawn).empty()); // no circle is drawn
    CHECK(told({6, 0, 1, {2, 0}, false}, BoltCircles::supposed).size() == 1);
    CHECK(told({6, 0, 1, {2, 0}, true, true}, BoltCircles::drawn).empty());
    CHECK(told({6, 0, 1, {2, 0}, true, true}, BoltCircles::supposed).size() == 1);
}

TEST_CASE("the diameter or radius dimensioned at a hole goes with it to its place") {
    for (const int kind : {3, 4}) {
        CAPTURE(kind);
        Flange flange{6, 0, 1, {0, 2.5}};
        flange.round = kind;
        const auto found = told(flange, BoltCircles::supposed);
        REQUIRE(found.size() == 1);
        REQUIRE_FALSE(found[0].remedies.empty());
        const auto& corrected = found[0].remedies[0].change.corrected;
        REQUIRE(corrected.size() == 1);
        REQUIRE(corrected[0].lies);
        const AddedDimension& at = *corrected[0].lies;
        CHECK(distance(at.p10, kind == 3 ? Vec2{55, 0} : Vec2{60, 0}) < 1e-6);
        CHECK(distance(at.p15, {65, 0}) < 1e-6);
        CHECK(distance(at.text_at, {77, 9}) < 1e-6);
        // That of a hole which stays is left where it is.
        Flange other{6, 0, 1, {0, 2.5}};
        other.turned = 0, other.round = -1;
        CHECK(told(other, BoltCircles::supposed)[0].remedies[0].change.corrected.empty());
    }
}
