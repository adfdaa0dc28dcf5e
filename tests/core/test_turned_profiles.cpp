#include "core/project/propose_for.h"
#include "core/proposing/turning.h"
#include "support/searching.h"

#include <random>

using namespace prism;
using namespace prism::test;

// Turned parts of random profiles, drawn from the side and from one end: every edge is a line across the one
// and a circle in the other, hidden where something wider stands before it.

namespace {

NoProgress g_quiet;

/// A profile of pieces along X, each from one radius to another; a bore of two radii, or none.
struct Profile {
    struct Piece {
        double length, from, to;
    };
    std::vector<Piece> pieces;
    double bore = 0, wide = 0, wide_deep = 0; ///< radii; `wide`: from the high end, so deep

    double length() const {
        double l = 0;
        for (const Piece& p : pieces) l += p.length;
        return l;
    }
    double widest() const {
        double r = 0;
        for (const Piece& p : pieces) r = std::max({r, p.from, p.to});
        return r;
    }
    double volume() const {
        double v = 0;
        for (const Piece& p : pieces)
            v += kPi * p.length * (p.from * p.from + p.from * p.to + p.to * p.to) / 3;
        v -= kPi * bore * bore * length();
        if (wide > 0) v -= kPi * (wide * wide - bore * bore) * wide_deep;
        return v;
    }
};

Profile profileOf(unsigned seed) {
    std::mt19937 random(seed);
    const auto below = [&](int n) { return static_cast<double>(random() % static_cast<unsigned>(n)); };
    Profile p;
    const int n = 2 + static_cast<int>(below(3));
    double last = -1;
    for (int i = 0; i < n; ++i) {
        double r = 14 + below(5) * 4;
        if (r == last) r += 4;
        const bool cone = below(4) == 0;
        p.pieces.push_back({8 + below(12), r, cone ? r + 6 : r});
        last = p.pieces.back().to;
    }
    if (seed % 3 != 0) p.bore = 4 + below(3);
    if (seed % 3 == 2) p.wide = p.bore + 3, p.wide_deep = 0.5 * p.pieces.back().length;
    return p;
}

/// The radii of its edges, and whether a circle of that is seen from the high end: of several the seen one is
/// drawn.
std::map<double, bool> circlesOf(const Profile& p) {
    std::map<double, bool> r;
    const auto take = [&](double radius, size_t next) {
        bool seen = true;
        for (size_t k = next; k < p.pieces.size(); ++k)
            seen = seen && std::max(p.pieces[k].from, p.pieces[k].to) <= radius + 1e-9;
        r[radius] = r[radius] || seen;
    };
    take(p.pieces.front().from, 0);
    for (size_t i = 0; i < p.pieces.size(); ++i) {
        take(p.pieces[i].to, i + 1);
        if (i + 1 < p.pieces.size()) take(p.pieces[i + 1].from, i + 1);
    }
    return r;
}

/// `upright`: the axis runs along Z and the circles are in the top view.
DxfText sheetOf(const Profile& p, bool upright) {
    const double r = p.widest(), l = p.length();
    ThreeViews t = upright ? threeViews(2 * r, 2 * r, l) : threeViews(l, 2 * r, 2 * r);
    const Axis end = upright ? Axis::z : Axis::x;
    const auto place = [&](double along, double off) {
        return upright ? Vec3{r + off, r, along} : Vec3{along, r, r + off};
    };
    const auto both = [&](double a, double off_a, double b, double off_b, const char* layer) {
        t.line(Axis::y, place(a, off_a), place(b, off_b), layer);
        t.line(Axis::y, place(a, -off_a), place(b, -off_b), layer);
    };
    const auto across = [&](double at, double radius) {
        t.line(Axis::y, place(at, -radius), place(at, radius));
    };
    double at = 0;
    across(0, p.pieces.front().from);
    for (size_t i = 0; i < p.pieces.size(); ++i) {
        const Profile::Piece& k = p.pieces[i];
        both(at, k.from, at + k.length, k.to, "OUTLINE");
        at += k.length;
        if (i + 1 == p.pieces.size()) {
            across(at, k.to);
            continue;
        }
        const double next = p.pieces[i + 1].from;
        across(at, std::max(k.to, next));
    }
    if (p.bore > 0) both(0, p.bore, l - p.wide_deep, p.bore, "HIDDEN");
    if (p.wide > 0) {
        both(l - p.wide_deep, p.wide, l, p.wide, "HIDDEN");
        t.line(Axis::y, place(l - p.wide_deep, -p.wide), place(l - p.wide_deep, p.wide), "HIDDEN");
    }
    const Vec3 centre = place(0, 0);
    for (const auto& [radius, seen] : circlesOf(p))
        t.circle(end, centre, radius, seen ? "OUTLINE" : "HIDDEN");
    if (p.bore > 0) t.circle(end, centre, p.bore);
    if (p.wide > 0) t.circle(end, centre, p.wide);
    return t.sheet;
}

} // namespace

TEST_CASE("a turned part of any profile comes out as one that is turned, lying or standing") {
    const unsigned seed = GENERATE(range(1u, 25u));
    CAPTURE(seed);
    const Profile p = profileOf(seed);
    const Document d = inViews(sheetOf(p, seed % 2 == 0));
    REQUIRE(d.model().figure.views.size() == 2);
    const auto found = proposeFor(d.model(), g_quiet);
    REQUIRE(found);
    CHECK(found->clean);
    CHECK(found->build.measure.volume == Approx(p.volume()).epsilon(1e-7));
    CHECK(std::ranges::count_if(found->steps, [](const Step& s) { return s.kind == StepKind::revolve; }) >=
          1);
}

TEST_CASE("a shaft with two flats at one end comes out, whatever stands before them") {
    const unsigned seed = GENERATE(1u, 2u, 3u, 6u);
    CAPTURE(seed);
    Profile p = profileOf(seed);
    p.bore = p.wide = 0;
    p.pieces.front() = {20, 18, 18};                   // the flats are on the first 12 mm of it
    if (p.pieces[1].from == 18) p.pieces[1].from += 2; // else there is no edge
    const double r = p.widest(), l = p.length(), half = 9 + seed, wide = std::sqrt(18 * 18 - half * half);
    ThreeViews t = threeViews(l, 2 * r, 2 * r);
    const auto at = [&](double x, double y, double z) { return Vec3{x, r + y, r + z}; };
    for (const double side : {-1.0, 1.0}) {
        t.line(Axis::y, at(0, 0, side * half), at(12, 0, side * half));
        t.line(Axis::y, at(12, 0, side * half), at(12, 0, side * 18));
        t.line(Axis::z, at(0, side * wide, 0), at(12, side * wide, 0));
        t.line(Axis::x, at(0, -wide, side * half), at(0, wide, side * half), "HIDDEN");
        t.line(Axis::y, at(12, 0, side * 18), at(20, 0, side * 18));
        t.line(Axis::z, at(0, side * 18, 0), at(20, side * 18, 0));
    }
    t.line(Axis::z, at(12, -wide, 0), at(12, wide, 0)), t.line(Axis::z, at(0, -18, 0), at(0, 18, 0));
    t.line(Axis::y, at(0, 0, -half), at(0, 0, half));
    double x = 20;
    for (size_t i = 1; i < p.pieces.size(); ++i) {
        const Profile::Piece& k = p.pieces[i];
        const double edge = std::max(p.pieces[i - 1].to, k.from);
        for (const double side : {-1.0, 1.0}) {
            t.line(Axis::y, at(x, 0, side * k.from), at(x + k.length, 0, side * k.to));
            t.line(Axis::z, at(x, side * k.from, 0), at(x + k.length, side * k.to, 0));
        }
        t.line(Axis::y, at(x, 0, -edge), at(x, 0, edge)), t.line(Axis::z, at(x, -edge, 0), at(x, edge, 0));
        x += k.length;
    }
    const double last = p.pieces.back().to;
    t.line(Axis::y, at(l, 0, -last), at(l, 0, last)), t.line(Axis::z, at(l, -last, 0), at(l, last, 0));
    for (const auto& [radius, seen] : circlesOf(p))
        t.circle(Axis::x, at(0, 0, 0), radius, seen ? "OUTLINE" : "HIDDEN");
    const Document d = inViews(t.sheet);
    REQUIRE(d.model().figure.views.size() == 3);
    const auto found = proposeFor(d.model(), g_quiet);
    REQUIRE(found);
    CHECK(found->clean);
    const double segment = 18 * 18 * std::acos(half / 18) - half * wide;
    CHECK(found->build.measure.volume == Approx(p.volume() - 2 * 12 * segment).epsilon(1e-7));
    bool any = false; // cutting what is turned, in one view or the other, finds it without other ways
    Searching profiles(d);
    for (const HalfProfile& k : halfProfiles(profiles.figure, profiles.maps))
        for (const bool gridded : {false, true}) {
            Searching alone(d);
            fromTurningAndCuts(alone.figure, alone.maps, k, 1, gridded, Lines::all, alone.quiet, alone.judge);
            any = any || (alone.judge.clean && alone.judge.how == std::string("turned part with cuts"));
        }
    CHECK(any);
}

TEST_CASE("a cone on a plate comes out, on whichever face it stands and in whichever way it leans") {
    const unsigned seed = GENERATE(range(1u, 5u));
    CAPTURE(seed);
    const double a = 8 + seed, b = seed % 2 ? a + 5 : a - 5,
                 high = 10 + seed; // radii at the plate and free end
    const double x = 30, y = 27;
    const bool below = seed % 3 == 0;
    ThreeViews t = threeViews(70, 50, 15 + high);
    const auto z = [&](double from_free_side) { return below ? 15 + high - from_free_side : from_free_side; };
    for (const Axis look : {Axis::x, Axis::y}) {
        const auto at = [&](double along, double up) {
            return look == Axis::x ? Vec3{0, along, z(up)} : Vec3{along, 0, z(up)};
        };
        const double c = look == Axis::x ? y : x, end = look == Axis::x ? 50 : 70;
        t.line(look, at(0, 0), at(end, 0)), t.line(look, at(0, 0), at(0, 15)),
            t.line(look, at(end, 0), at(end, 15));
        t.line(look, at(0, 15), at(end, 15)), t.line(look, at(c - b, 15 + high), at(c + b, 15 + high));
        for (const double side : {-1.0, 1.0}) t.line(look, at(c + side * a, 15), at(c + side * b, 15 + high));
    }
    const Vec2 corner = t.on(Axis::z, {0, 0, 0});
    t.sheet.box(corner.x, corner.y, corner.x + 70, corner.y + 50);
    t.circle(Axis::z, {x, y, 0}, a, below || b > a ? "HIDDEN" : "OUTLINE");
    t.circle(Axis::z, {x, y, 0}, b, below ? "HIDDEN" : "OUTLINE");
    const Document d = inViews(t.sheet);
    REQUIRE(d.model().figure.views.size() == 3);
    const auto found = proposeFor(d.model(), g_quiet);
    REQUIRE(found);
    CHECK(found->clean);
    CHECK(found->build.measure.volume ==
          Approx(70 * 50 * 15 + kPi * high * (a * a + a * b + b * b) / 3).epsilon(1e-7));
    Searching profiles(d);
    const auto bosses = bossProfiles(profiles.figure, profiles.maps);
    REQUIRE_FALSE(bosses.empty());
    bool any = false;
    for (const HalfProfile& k : bosses) {
        const ViewMap& m = profiles.maps[static_cast<size_t>(k.map)];
        CHECK(k.upright);
        CHECK(k.at == Approx(m.view().axes.right == Axis::x ? x : y));
        CHECK(k.middle == Approx(m.view().axes.right == Axis::x ? y : x));
        CHECK(sidesOf(m, k, 0.01) == std::vector{1, -1}); // the plate is no image of itself about it
        for (const auto& [side, gridded] : {std::pair{1, false}, {1, true}, {-1, false}, {-1, true}}) {
            Searching alone(d);
            fromTurnedPieces(alone.figure, alone.maps, k, side, gridded, Lines::all, alone.quiet,
                             alone.judge);
            any = any || (alone.judge.clean && alone.judge.how == std::string("areas extruded and turned"));
        }
    }
    CHECK(any);
}
