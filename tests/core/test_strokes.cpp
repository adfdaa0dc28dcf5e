#include "core/base/curve.h"
#include "core/tracing/strokes.h"

#include <catch2/catch.hpp>
#include <set>

using namespace prism;

// Ink of lines of known place and width, taken apart into its middle lines.

namespace {

NoProgress g_quiet;

/// Lines and circles drawn with a pen so many pixels wide, smooth at its edge.
struct Paper {
    std::vector<Curve> lines;
    double pen = 5;

    double away(Vec2 p) const {
        double least = 1e9;
        for (const Curve& c : lines) least = std::min(least, distanceTo(c, p));
        return least;
    }
    /// Whether a line ends so near that its ink is round there.
    bool nearEnd(Vec2 p) const {
        return std::ranges::any_of(lines, [&](const Curve& c) {
            return !isClosed(c, 0) && std::min(distance(p, startOf(c)), distance(p, endOf(c))) < pen;
        });
    }
    Darkness darkness() const {
        Darkness d;
        d.value = cv::Mat1f(160, 200, 0.0F);
        for (int y = 0; y < d.value.rows; ++y)
            for (int x = 0; x < d.value.cols; ++x)
                d.value(y, x) =
                    static_cast<float>(std::clamp(0.5 + 0.5 * pen - away({x + 0.5, y + 0.5}), 0.0, 1.0));
        d.noise = 0.01F;
        return d;
    }
    Strokes strokes() const {
        const Darkness d = darkness();
        Strokes s = strokesOf(d, inkOf(d), g_quiet);
        CHECK(s.width == Approx(pen).margin(0.7)); // what lies at the edge counts by how dark it is
        for (const Stroke& one : s.strokes) {
            CHECK(one.points.size() == one.sure.size());
            CHECK(one.from < static_cast<int>(s.nodes.size()));
            CHECK(one.to < static_cast<int>(s.nodes.size()));
            size_t sure = 0;
            for (size_t i = 0; i < one.points.size(); ++i) {
                if (!one.sure[i]) continue;
                ++sure;
                if (!nearEnd(one.points[i])) CHECK(away(one.points[i]) < 0.3);
            }
            CHECK(2 * sure > one.points.size());
        }
        return s;
    }
};

Segment line(Vec2 a, Vec2 b) {
    return {a, b};
}
Arc ring(Vec2 c, double r) {
    return {c, r, 0, 2 * kPi};
}
/// How many ends are at a node, and how many are free.
std::pair<int, int> ends(const Strokes& s) {
    std::pair<int, int> r;
    for (const Stroke& one : s.strokes)
        if (!one.closed)
            for (const int n : {one.from, one.to}) ++(n >= 0 ? r.first : r.second);
    return r;
}

} // namespace

TEST_CASE("a ring is one closed stroke on the middle of its ink, at whatever place and width") {
    for (const double pen : {3.0, 5.0, 8.0})
        for (const Vec2 c : {Vec2{100, 80}, Vec2{71.3, 66.7}}) {
            const Strokes s = Paper{{ring(c, 40)}, pen}.strokes();
            REQUIRE(s.strokes.size() == 1);
            CHECK(s.strokes[0].closed);
            CHECK(s.strokes[0].from == -1);
            CHECK(s.strokes[0].to == -1);
            CHECK(s.nodes.empty());
            CHECK(s.strokes[0].width == Approx(pen).margin(0.7));
            CHECK(s.strokes[0].points.size() > 200); // a pixel apart
        }
}

TEST_CASE("strokes end at the nodes where ink meets, or free") {
    struct Case {
        const char* what;
        std::vector<Curve> lines;
        size_t strokes, nodes;
        int at_nodes, free;
    };
    for (const Case& c :
         {Case{"a line", {line({20, 30}, {170, 90})}, 1, 0, 0, 2},
          {"two beside each other", {line({20, 30}, {170, 30}), line({20, 50}, {170, 50})}, 2, 0, 0, 4},
          {"a corner", {line({20, 30}, {150, 30}), line({150, 30}, {150, 140})}, 1, 0, 0, 2},
          {"a T", {line({20, 60}, {180, 60}), line({90, 60}, {90, 140})}, 3, 1, 3, 3},
          {"a cross", {line({20, 80}, {180, 80}), line({100, 20}, {100, 140})}, 4, 1, 4, 4},
          {"a slanted cross", {line({20, 30}, {180, 130}), line({30, 140}, {150, 15})}, 4, 1, 4, 4},
          {"a ring on a stick", {ring({60, 80}, 35), line({95, 80}, {190, 80})}, 2, 1, 3, 1},
          {"a ring with a line across", {ring({100, 80}, 45), line({20, 80}, {180, 80})}, 5, 2, 8, 2}}) {
        CAPTURE(c.what);
        const Strokes s = Paper{c.lines, 5}.strokes();
        CHECK(s.strokes.size() == c.strokes);
        std::set<int> nodes;
        for (const Stroke& one : s.strokes) nodes.insert({one.from, one.to});
        nodes.erase(-1);
        CHECK(nodes.size() == c.nodes);
        CHECK(ends(s) == std::pair(c.at_nodes, c.free));
        for (const Stroke& one : s.strokes) CHECK_FALSE(one.closed);
        // Every line's length is there again, but for what lies within a pen's width of a node or a free end.
        double drawn = 0, found = 0;
        for (const Curve& l : c.lines) drawn += lengthOf(l);
        for (const Stroke& one : s.strokes)
            for (size_t i = 1; i < one.points.size(); ++i)
                found += distance(one.points[i - 1], one.points[i]);
        CHECK(found == Approx(drawn).margin(3.0 * (c.at_nodes + c.free)));
    }
}

TEST_CASE("the middle of the ink is found across it, with its width, where there is some within reach") {
    for (const double turn : {0.0, 0.4, 1.1, kPi / 2, 2.5}) {
        CAPTURE(turn);
        const Vec2 u = direction(turn), n{-u.y, u.x}, c{100, 80};
        const Paper paper{{line(c - 45 * u, c + 45 * u)}, 5};
        const Darkness d = paper.darkness();
        for (const double off : {-3.0, -0.4, 0.0, 1.7, 3.0}) {
            const auto across = inkAcross(d, c + off * n, u, 6);
            REQUIRE(across);
            CHECK(distance(across->middle, c) < 0.08);
            CHECK(across->width == Approx(5).margin(0.3));
        }
        CHECK_FALSE(inkAcross(d, c + 20 * n, u, 6));
    }
}

TEST_CASE("between pixels the darkness is in between, and beyond the picture there is none") {
    Darkness d;
    d.value = cv::Mat1f(3, 4, 1.0F);
    d.value(1, 2) = 3;
    d.origin = {10, 20};
    CHECK(d.at({11.5, 21.5}) == Approx(1));
    CHECK(d.at({12.5, 21.5}) == Approx(3));
    CHECK(d.at({12.25, 21.5}) == Approx(2.5));
    CHECK(d.at({12.25, 21.75}) == Approx(1 + 0.75 * 0.75 * 2));
    for (const Vec2 outside : {Vec2{9, 21.5}, {12, 19}, {14.2, 21.5}, {12, 23.2}, {9, 19}, {15, 25}})
        CHECK(d.at(outside) == 0);
}
