#include "core/tracing/dash_rows.h"
#include "core/tracing/pieces.h"

#include <catch2/catch.hpp>
#include <random>

using namespace prism;

// Rows of traced dashes, made with known lengths and gaps: which of them are one line, of what kind, and
// where it ends.

namespace {

constexpr double kPixel = 0.1, kWidth = 0.5;

TracePiece piece(Curve shape, double width = kWidth) {
    TracePiece p;
    p.shape = std::move(shape), p.width = width;
    for (const double n = std::max(2.0, lengthOf(p.shape) / kPixel); p.points.size() <= n;)
        p.points.push_back(pointAt(p.shape, static_cast<double>(p.points.size()) / n));
    return p;
}

using Lengths = std::vector<double>;

/// Dashes of these lengths with these gaps between them (the last one again and again), from a place on in a
/// direction.
std::vector<TracePiece> row(const Lengths& lengths, const Lengths& gaps, Vec2 from = {}, double angle = 0.3) {
    std::vector<TracePiece> r;
    const Vec2 u = direction(angle);
    double at = 0;
    for (size_t i = 0; i < lengths.size(); ++i) {
        r.push_back(piece(Segment{from + at * u, from + (at + lengths[i]) * u}));
        at += lengths[i] + gaps[std::min(i, gaps.size() - 1)];
    }
    return r;
}

double whole(const Lengths& lengths, const Lengths& gaps) {
    double sum = 0;
    for (size_t i = 0; i < lengths.size(); ++i)
        sum += lengths[i] + (i + 1 < lengths.size() ? gaps[std::min(i, gaps.size() - 1)] : 0);
    return sum;
}

/// The pieces after joining, with their roles.
struct Joined {
    TracePieces t;
    std::vector<LineRole> roles;
    size_t count(LineRole r) const { return static_cast<size_t>(std::ranges::count(roles, r)); }
};
Joined joined(std::vector<TracePiece> pieces, std::vector<Vec2> joints = {}) {
    Joined r;
    r.t.pieces = std::move(pieces), r.t.joints = std::move(joints);
    r.roles = joinDashRows(r.t, kPixel);
    REQUIRE(r.roles.size() == r.t.pieces.size());
    return r;
}

/// In any order, and drawn either way.
void shuffle(std::vector<TracePiece>& pieces, unsigned seed) {
    std::mt19937 random(seed);
    std::shuffle(pieces.begin(), pieces.end(), random);
    for (TracePiece& p : pieces) {
        if (random() % 2) continue;
        p.shape = reversed(p.shape);
        std::ranges::reverse(p.points);
        std::swap(p.from, p.to);
    }
}

} // namespace

TEST_CASE("equal dashes at equal gaps are a hidden line from the first to the last, whichever way it runs") {
    for (unsigned seed = 0; seed < 12; ++seed) {
        CAPTURE(seed);
        const double angle = 0.55 * seed;
        const Lengths lengths(3 + seed % 5, 3), gaps{1};
        std::vector<TracePiece> pieces = row(lengths, gaps, {10, -4}, angle);
        size_t points = 0;
        for (const TracePiece& p : pieces) points += p.points.size();
        shuffle(pieces, seed);
        const Joined j = joined(pieces);
        REQUIRE(j.roles == std::vector{LineRole::hidden});
        const Segment s = std::get<Segment>(j.t.pieces[0].shape);
        const Vec2 first{10, -4}, last = first + whole(lengths, gaps) * direction(angle);
        CHECK(std::min(distance(s.a, first) + distance(s.b, last),
                       distance(s.a, last) + distance(s.b, first)) < 1e-6);
        CHECK(j.t.pieces[0].points.size() == points);
        CHECK(j.t.pieces[0].rms < 1e-6);
        CHECK(j.t.pieces[0].from == -1);
        CHECK(j.t.pieces[0].to == -1);
    }
}

TEST_CASE("what a row of dashes stands for is told by their lengths and gaps") {
    struct Case {
        Lengths lengths, gaps;
        LineRole role;
    };
    for (const Case& c : {Case{{3, 3, 3}, {1}, LineRole::hidden},
                          {{2, 3, 2.5}, {1}, LineRole::hidden},    // cut off at its ends
                          {{3, 4.5, 3, 3}, {1}, LineRole::hidden}, // half as long again
                          {{6, 3, 3}, {1}, LineRole::unknown},     // the first twice as long
                          {{3, 3, 6}, {1}, LineRole::unknown},
                          {{3, 3, 3, 3}, {1, 2, 1}, LineRole::hidden}, // gaps up to 1.8 times as wide
                          {{3, 3, 3, 3}, {1, 2.5, 1}, LineRole::unknown},
                          {{12, 2, 12, 2, 12}, {1}, LineRole::centre},
                          {{5, 2, 12, 2, 7}, {1}, LineRole::centre}, // cut off at its ends
                          {{10, 2, 10}, {1}, LineRole::centre},      // the shortest there is
                          {{4, 2, 10}, {1}, LineRole::unknown},
                          {{3, 12, 12, 3, 12, 3}, {1}, LineRole::unknown},     // two long ones in turn
                          {{3, 3, 1.2, 3, 3, 3, 3, 3}, {1}, LineRole::hidden}, // one of many is cut
                          {{3, 3, 1.2, 3, 1.2, 3, 1.2, 3}, {1}, LineRole::centre}}) {
        CAPTURE(c.lengths, c.gaps);
        std::vector<TracePiece> pieces = row(c.lengths, c.gaps);
        shuffle(pieces, 3);
        const Joined j = joined(pieces);
        if (c.role == LineRole::unknown) {
            CHECK(j.t.pieces.size() == c.lengths.size());
            CHECK(j.count(LineRole::unknown) == c.lengths.size());
        } else
            CHECK(j.roles == std::vector{c.role});
    }
    CHECK(joined(row({3, 3}, {1})).t.pieces.size() == 2); // two are no row
}

TEST_CASE("a dash goes on in the next one ahead, of its width, no farther than twelve widths of the ink") {
    CHECK(joined(row({8, 8, 8}, {5.9})).t.pieces.size() == 1);
    CHECK(joined(row({8, 8, 8}, {6.1})).t.pieces.size() == 3);
    const auto withWidth = [](double width) {
        std::vector<TracePiece> pieces = row({3, 3, 3, 3}, {1});
        pieces[1].width = width;
        return joined(pieces).t.pieces.size();
    };
    CHECK(withWidth(0.9) == 1);
    CHECK(withWidth(1.1) == 4);
    CHECK(withWidth(0.26) == 1);
    CHECK(withWidth(0.24) == 4);
    // A row that bends by less than a quarter of a right angle from one dash to the next is no straight line,
    // nor a circle, but two rows beside each other stay apart.
    std::vector<TracePiece> two = row({3, 3, 3, 3}, {1}, {0, 0}, 0), other = row({3, 3, 3}, {1}, {1, 1.5}, 0);
    two.insert(two.end(), other.begin(), other.end());
    shuffle(two, 5);
    const Joined apart = joined(two);
    CHECK(apart.roles == std::vector{LineRole::hidden, LineRole::hidden});
    for (const TracePiece& p : apart.t.pieces)
        CHECK(startOf(p.shape).y == Approx(endOf(p.shape).y).margin(1e-9));
    // Two rows that cross.
    std::vector<TracePiece> crossing = row({3, 3, 3, 3, 3}, {1}, {-9.5, 0}, 0),
                            upright = row({3, 3, 3, 3, 3}, {1}, {2, -9.5}, kPi / 2);
    crossing.insert(crossing.end(), upright.begin(), upright.end());
    shuffle(crossing, 8);
    CHECK(joined(crossing).roles == std::vector{LineRole::hidden, LineRole::hidden});
}

TEST_CASE("dashes round a circle are one arc, and one ring where they close") {
    const auto arcs = [](int n, double sweep) {
        std::vector<TracePiece> r;
        const double step = sweep / n; // three quarters of it a dash
        for (int i = 0; i < n; ++i) r.push_back(piece(Arc{{4, 7}, 12, 0.5 + i * step, 0.75 * step}));
        return r;
    };
    for (unsigned seed = 0; seed < 6; ++seed) {
        CAPTURE(seed);
        std::vector<TracePiece> ring = arcs(16, 2 * kPi), part = arcs(8, kPi);
        shuffle(ring, seed), shuffle(part, seed);
        const Joined whole = joined(ring);
        REQUIRE(whole.roles == std::vector{LineRole::hidden});
        const Arc a = std::get<Arc>(whole.t.pieces[0].shape);
        CHECK(a.full());
        CHECK(distance(a.centre, {4, 7}) < 1e-3);
        CHECK(a.radius == Approx(12).margin(1e-3));
        const Joined half = joined(part);
        REQUIRE(half.roles == std::vector{LineRole::hidden});
        const Arc b = std::get<Arc>(half.t.pieces[0].shape);
        CHECK(distance(b.centre, {4, 7}) < 1e-3);
        CHECK(std::abs(b.sweep) == Approx(kPi - 0.25 * kPi / 8).margin(1e-3));
        const Vec2 first = Vec2{4, 7} + 12 * direction(0.5);
        CHECK(std::min(distance(startOf(b), first), distance(endOf(b), first)) < 1e-3);
    }
}

TEST_CASE("a hidden line that stops a gap short of a line reaches it, past what is too short to be one") {
    const auto ends = [](double beyond, double tall) {
        std::vector<TracePiece> pieces = row({3, 3, 3, 3}, {1}, {0, 0}, 0); // to 15
        pieces.push_back(piece(Segment{{15 + beyond, -20}, {15 + beyond, 20}}));
        if (tall > 0) pieces.push_back(piece(Segment{{15.4, -tall}, {15.4, tall}}));
        const Joined j = joined(pieces);
        const auto hidden = std::ranges::find(j.roles, LineRole::hidden) - j.roles.begin();
        const Segment s = std::get<Segment>(j.t.pieces[static_cast<size_t>(hidden)].shape);
        CHECK(std::min(s.a.x, s.b.x) == Approx(0).margin(1e-6)); // nothing lies before it
        return std::max(s.a.x, s.b.x);
    };
    // 1.1 gaps, and as much of a dash as ran into the line's ink: half of it, one gap at most.
    CHECK(ends(2.0, 0) == Approx(17));
    CHECK(ends(2.2, 0) == Approx(15));
    CHECK(ends(1.0, 1) == Approx(16)); // twice that long a line counts, a shorter one does not
    CHECK(ends(1.0, 3) == Approx(15.4));
}

TEST_CASE("joints at which dashes end on what they cross lie along the line, those at its ends are its own") {
    std::vector<TracePiece> pieces = row({3, 3, 3, 3}, {1}, {0, 0}, 0);
    pieces[0].from = 0, pieces[1].to = 1, pieces[2].passes = {2}, pieces[3].to = 3;
    for (unsigned seed = 0; seed < 4; ++seed) {
        std::vector<TracePiece> shuffled = pieces;
        shuffle(shuffled, seed);
        const Joined j = joined(shuffled, {{0, 0}, {7, 0}, {9, 0}, {15, 0}});
        REQUIRE(j.roles == std::vector{LineRole::hidden});
        const TracePiece& p = j.t.pieces[0];
        const bool forward = startOf(p.shape).x < endOf(p.shape).x;
        CHECK((forward ? p.from : p.to) == 0);
        CHECK((forward ? p.to : p.from) == 3);
        std::vector<int> passes = p.passes;
        std::ranges::sort(passes);
        CHECK(passes == std::vector{1, 2});
    }
}

TEST_CASE("short ends at a corner that fell into several meet in one place") {
    // Three lines whose ends stand 0.3 and 0.35 apart, less than their ink is wide: each at a joint of its
    // own.
    TracePieces t;
    t.joints = {{40, 0}, {40.3, 0.05}, {40.62, 0.1}};
    t.pieces = {piece(Segment{{0, 0}, {40, 0}}), piece(Segment{{40.3, 0.05}, {40.3, 60}}),
                piece(Segment{{40.62, 0.1}, {70, -25}})};
    t.pieces[0].to = 0, t.pieces[1].from = 1, t.pieces[2].from = 2;
    settleJoints(t, kPixel);
    const Vec2 corner = endOf(t.pieces[0].shape);
    CHECK(distance(corner, {40.3, 0}) < 0.05); // where the two longest cross
    CHECK(distance(startOf(t.pieces[1].shape), corner) < 1e-6);
    CHECK(distance(startOf(t.pieces[2].shape), corner) < 0.3);
    // Ink of another component has no part in it.
    TracePieces other = t;
    other.pieces = {piece(Segment{{0, 0}, {40, 0}}), piece(Segment{{40.3, 0.05}, {40.3, 60}}),
                    piece(Segment{{40.62, 0.1}, {70, -25}})};
    other.pieces[0].to = 0, other.pieces[1].from = 1, other.pieces[2].from = 2;
    other.pieces[2].component = 1;
    settleJoints(other, kPixel);
    CHECK(distance(startOf(other.pieces[2].shape), {40.62, 0.1}) < 1e-6);
}

TEST_CASE("a short line runs from its corner through the middle of its own ink, from either end") {
    // A chamfer from (40, 2) to the upright line at 41.2: its ink says that it rises by one to one, its ends
    // were seen a little off. The corner is that of a level and of a slanted line.
    for (const bool from_start : {true, false}) {
        CAPTURE(from_start);
        TracePieces t;
        const Vec2 corner{40, 2}, off{41.2, 3};
        t.pieces = {piece(Segment{{0, 2}, corner}), piece(Segment{corner, {20, 40}}),
                    piece(from_start ? Segment{corner, off} : Segment{off, corner}),
                    piece(Segment{off, {41.2, 40}})};
        t.pieces[2].points = {{40.3, 2.3}, {40.6, 2.6}, {40.9, 2.9}};
        aimShortLines(t, kPixel);
        const Vec2 end = from_start ? endOf(t.pieces[2].shape) : startOf(t.pieces[2].shape);
        CHECK(distance(end, {41.2, 3.2}) < 1e-6);
        CHECK(distance(from_start ? startOf(t.pieces[2].shape) : endOf(t.pieces[2].shape), corner) < 1e-9);
        CHECK(distance(startOf(t.pieces[3].shape), {41.2, 3.2}) < 1e-6);
        CHECK(distance(endOf(t.pieces[3].shape), {41.2, 40}) < 1e-9);
    }
}
