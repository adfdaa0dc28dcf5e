#include "core/project/propose_for.h"
#include "support/three_views.h"

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
    struct Edge {
        double at, radius;
    };
    std::vector<Edge> edges;
    const auto across = [&](double at, double radius) {
        t.line(Axis::y, place(at, -radius), place(at, radius));
        edges.push_back({at, radius});
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
        edges.push_back({at, std::min(k.to, next)});
    }
    if (p.bore > 0) both(0, p.bore, l - p.wide_deep, p.bore, "HIDDEN");
    if (p.wide > 0) {
        both(l - p.wide_deep, p.wide, l, p.wide, "HIDDEN");
        t.line(Axis::y, place(l - p.wide_deep, -p.wide), place(l - p.wide_deep, p.wide), "HIDDEN");
    }
    // Of the circles of one radius the seen one is drawn.
    std::map<double, bool> circles;
    for (const Edge& e : edges) {
        double before = 0, from = 0;
        for (const Profile::Piece& k : p.pieces) {
            from += k.length;
            if (from > e.at + 1e-9)
                before = std::max({before, k.to, from - k.length > e.at - 1e-9 ? k.from : 0});
        }
        circles[e.radius] = circles[e.radius] || before <= e.radius + 1e-9;
    }
    const Vec3 centre = place(0, 0);
    for (const auto& [radius, seen] : circles) t.circle(end, centre, radius, seen ? "OUTLINE" : "HIDDEN");
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
