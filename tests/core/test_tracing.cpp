#include "core/tracing/fits.h"
#include "core/tracing/follow_ink.h"
#include "core/tracing/placing.h"
#include "core/tracing/trace.h"
#include "support/paper_scan.h"

#include <catch2/catch.hpp>
#include <random>

using namespace prism;
using test::PaperScan;
using test::ScanSetting;

namespace {

NoProgress g_quiet;

/// The scan straightened as measured and sized by a length on each axis, picked half a pixel off at worst.
Picture calibrated(const PaperScan& paper, Vec2 lo, Vec2 hi) {
    auto s = std::make_shared<ScanPixels>(paper.pixels());
    measureAskew(*s, g_quiet);
    PictureChoices c;
    const Vec2 off{0.3, -0.3};
    c.lengths.push_back(lengthBetween(*s, c, paper.at(lo) + off, paper.at({hi.x, lo.y}), hi.x - lo.x));
    c.lengths.push_back(lengthBetween(*s, c, paper.at(lo), paper.at({lo.x, hi.y}) + off, hi.y - lo.y));
    return placed(s, "scan", c)[0];
}

/// Lines of the given role, longest first.
std::vector<Segment> lines(const Traced& t, LineRole role = LineRole::outline) {
    std::vector<Segment> r;
    for (const TracedLine& l : t.lines)
        if (const auto* s = std::get_if<Segment>(&l.shape); s && l.role == role) r.push_back(*s);
    std::ranges::sort(r, std::greater{}, [](const Segment& s) { return distance(s.a, s.b); });
    return r;
}

/// The same with their lower left corner at a place: a turned scan lies elsewhere on its sheet.
std::vector<Segment> from(Vec2 corner, std::vector<Segment> all) {
    Box2 box;
    for (const Segment& l : all) box.add(l.a), box.add(l.b);
    for (Segment& l : all) l = {l.a - box.lo + corner, l.b - box.lo + corner};
    return all;
}

std::vector<Arc> arcs(const Traced& t, bool full) {
    std::vector<Arc> r;
    for (const TracedLine& l : t.lines)
        if (const auto* a = std::get_if<Arc>(&l.shape); a && a->full() == full) r.push_back(*a);
    return r;
}

/// How far the nearest traced line is from the one expected; lengths and places on the sheet.
double nearest(const std::vector<Segment>& found, Vec2 a, Vec2 b) {
    double best = 1e9;
    for (const Segment& s : found)
        best = std::min({best, std::max(distance(s.a, a), distance(s.b, b)),
                         std::max(distance(s.a, b), distance(s.b, a))});
    return best;
}

} // namespace

TEST_CASE("A turned, stretched and grainy scan is traced to a tenth of a millimetre", "[scan][trace]") {
    ScanSetting s;
    s.degrees = 1.3, s.stretch = 1.01, s.grain = 8;
    PaperScan paper(s);
    paper.box({20, 20}, {120, 80});
    paper.line({20, 45}, {120, 45});
    paper.circle({50, 62}, 12);
    paper.circle({95, 62}, 6);
    const Picture p = calibrated(paper, {20, 20}, {120, 80});
    const auto t = trace(p, g_quiet);
    REQUIRE(t);
    const auto found = lines(*t);
    REQUIRE(found.size() == 5);
    const double true_length[] = {100, 100, 100, 60, 60};
    for (size_t i = 0; i < 5; ++i)
        CHECK(distance(found[i].a, found[i].b) == Approx(true_length[i]).margin(0.1));
    const auto circles = arcs(*t, true);
    REQUIRE(circles.size() == 2);
    for (const auto& [centre, radius] : {std::pair{Vec2{50, 62}, 12.0}, {Vec2{95, 62}, 6.0}}) {
        const Vec2 at = p.to_sheet(paper.at(centre));
        double off = 1e9, r = 0;
        for (const Arc& a : circles)
            if (distance(a.centre, at) < off) off = distance(a.centre, at), r = a.radius;
        CHECK(off < 0.05);
        CHECK(r == Approx(radius).margin(0.05));
    }
    CHECK(arcs(*t, false).empty());
    CHECK(t->lettering == 0);
}

TEST_CASE("Level and upright lines come out quite so, and rounds touch their lines", "[scan][trace]") {
    ScanSetting s;
    s.degrees = -0.8, s.grain = 5;
    PaperScan paper(s);
    // A plate with two rounded corners of radius 15.
    paper.line({20, 20}, {120, 20});
    paper.line({120, 20}, {120, 65});
    paper.arc({105, 65}, 15, 0, kPi / 2);
    paper.line({105, 80}, {35, 80});
    paper.arc({35, 65}, 15, kPi / 2, kPi / 2);
    paper.line({20, 65}, {20, 20});
    const auto t = trace(calibrated(paper, {20, 20}, {120, 80}), g_quiet);
    REQUIRE(t);
    const auto found = lines(*t);
    REQUIRE(found.size() == 4);
    for (const Segment& l : found) CHECK((l.a.x == l.b.x || l.a.y == l.b.y));
    const auto rounds = arcs(*t, false);
    REQUIRE(rounds.size() == 2);
    for (const Arc& a : rounds) {
        CHECK(a.radius == Approx(15).margin(0.1));
        CHECK(std::abs(a.sweep) == Approx(kPi / 2).margin(0.01));
        for (Vec2 end : {startOf(Curve(a)), endOf(Curve(a))}) {
            double off = 1e9;
            for (const Segment& l : found) off = std::min({off, distance(l.a, end), distance(l.b, end)});
            CHECK(off < 1e-6);
        }
    }
}

TEST_CASE("Dashes become one hidden line that reaches the outline", "[scan][trace]") {
    ScanSetting s;
    s.grain = 5;
    PaperScan paper(s);
    paper.box({20, 20}, {120, 80});
    paper.dashed({20, 50}, {120, 50}, 3, 1.5);
    paper.dashed({70, 20}, {70, 80}, 3, 1.5);
    const Picture p = calibrated(paper, {20, 20}, {120, 80});
    const auto t = trace(p, g_quiet);
    REQUIRE(t);
    const auto hidden = lines(*t, LineRole::hidden);
    REQUIRE(hidden.size() == 2);
    CHECK(nearest(hidden, p.to_sheet(paper.at({20, 50})), p.to_sheet(paper.at({120, 50}))) < 0.15);
    CHECK(nearest(hidden, p.to_sheet(paper.at({70, 20})), p.to_sheet(paper.at({70, 80}))) < 0.15);
    CHECK(lines(*t).size() == 4);
}

TEST_CASE("Thin lines are told from thick ones where both are drawn", "[scan][trace]") {
    PaperScan paper({});
    paper.box({20, 20}, {120, 60}, 0.5);
    paper.line({20, 62}, {20, 80}, 0.25);
    paper.line({120, 62}, {120, 80}, 0.25);
    paper.line({20, 75}, {120, 75}, 0.25);
    const auto t = trace(calibrated(paper, {20, 20}, {120, 60}), g_quiet);
    REQUIRE(t);
    CHECK(lines(*t).size() == 4);
    CHECK(lines(*t, LineRole::dimension).size() == 3);
}

TEST_CASE("Blueprints are traced as prints are", "[scan][trace]") {
    PaperScan paper({});
    paper.box({20, 20}, {120, 80});
    ScanPixels s = paper.pixels();
    for (auto& v : s.grey) v = static_cast<std::uint8_t>(255 - v);
    PictureChoices c;
    c.light_on_dark = true;
    const auto t = trace(placed(std::make_shared<ScanPixels>(s), "scan", c)[0], g_quiet);
    REQUIRE(t);
    CHECK(lines(*t).size() == 4);
}

TEST_CASE("Bare and stained paper shows no lines", "[scan][trace]") {
    ScanSetting s;
    s.grain = 12;
    ScanPixels pixels = PaperScan(s).pixels();
    for (int y = 0; y < pixels.height; ++y)
        for (int x = 0; x < pixels.width; ++x) { // a shadow that falls off towards one side
            auto& v = pixels.grey[static_cast<size_t>(y) * pixels.width + x];
            v = static_cast<std::uint8_t>(v * (1 - 0.5 * x / pixels.width));
        }
    const auto t = trace(placed(std::make_shared<ScanPixels>(pixels), "scan", {})[0], g_quiet);
    REQUIRE(t);
    CHECK(t->lines.empty());
}

TEST_CASE("Random plates are traced whole, whatever the scan's turn, stretch and grain",
          "[scan][trace][property][slow]") {
    std::mt19937 random(20);
    auto number = [&](double lo, double hi) { return std::uniform_real_distribution(lo, hi)(random); };
    for (int round = 0; round < 12; ++round) {
        ScanSetting s;
        s.degrees = number(-4, 4), s.stretch = number(0.985, 1.015), s.grain = number(0, 12),
        s.seed = 100 + round;
        s.dpi = number(150, 320);
        PaperScan paper(s);
        // A stepped plate: levels and widths at least 6 mm apart.
        std::vector<Vec2> corner{{25, 25}, {120, 25}};
        double x = 120, y = 25 + number(10, 20);
        for (int k = 0; k < 3; ++k) {
            corner.push_back({x, y});
            x -= number(8, 25);
            corner.push_back({x, y});
            y += number(6, 15);
        }
        corner.push_back({x, y}), corner.push_back({25, y});
        for (size_t i = 0; i < corner.size(); ++i) paper.line(corner[i], corner[(i + 1) % corner.size()]);
        const Vec2 centre{number(35, 45), number(33, 36)};
        const double radius = number(2.5, 6);
        paper.circle(centre, radius);
        const Picture p = calibrated(paper, {25, 25}, {120, y});
        const auto t = trace(p, g_quiet);
        REQUIRE(t);
        INFO("round " << round << " turned " << s.degrees << " stretch " << s.stretch << " dpi " << s.dpi);
        const auto found = lines(*t);
        CHECK(found.size() == corner.size());
        for (size_t i = 0; i < corner.size(); ++i)
            CHECK(nearest(found, p.to_sheet(paper.at(corner[i])),
                          p.to_sheet(paper.at(corner[(i + 1) % corner.size()]))) < 0.2);
        const auto circles = arcs(*t, true);
        REQUIRE(circles.size() == 1);
        CHECK(distance(circles[0].centre, p.to_sheet(paper.at(centre))) < 0.1);
        CHECK(circles[0].radius == Approx(radius).margin(0.1));
    }
}

TEST_CASE("A pick goes to the middle of the ink under the pointer", "[scan][trace]") {
    ScanSetting s;
    s.degrees = 2, s.grain = 6;
    PaperScan paper(s);
    paper.line({20, 30}, {120, 70});
    const Picture p = placed(std::make_shared<ScanPixels>(paper.pixels()), "scan", {})[0];
    const Vec2 a = p.to_sheet(paper.at({20, 30})), b = p.to_sheet(paper.at({120, 70}));
    std::mt19937 random(4);
    for (int i = 0; i < 50; ++i) {
        const double t = std::uniform_real_distribution(0.1, 0.9)(random);
        const Vec2 near = a + (b - a) * t + direction(i) * 0.8;
        const auto on = inkNear(p, near, 1.5);
        REQUIRE(on);
        CHECK(distanceTo(Segment{a, b}, *on) < 0.03); // a quarter of a pixel
        CHECK(distance(*on, near) < 1.5);
    }
    CHECK_FALSE(inkNear(p, a + (b - a) * 0.5 + Vec2{-10, 10}, 1.5));
    CHECK_FALSE(inkNear(p, {-100, -100}, 1.5));
}

TEST_CASE("Lines and circles drawn roughly are moved onto the ink", "[scan][trace]") {
    ScanSetting s;
    s.grain = 6;
    PaperScan paper(s);
    paper.line({20, 20}, {120, 20});
    paper.line({60, 10}, {60, 60}); // crosses it
    paper.circle({90, 65}, 20);
    const Picture p = placed(std::make_shared<ScanPixels>(paper.pixels()), "scan", {})[0];
    const Vec2 a = p.to_sheet(paper.at({20, 20})), b = p.to_sheet(paper.at({120, 20}));
    const Curve line = alongInk(p, Segment{a + Vec2{0.3, 0.4}, b + Vec2{-0.2, -0.3}});
    CHECK(std::abs(startOf(line).y - a.y) < 0.02);
    CHECK(std::abs(endOf(line).y - b.y) < 0.02);
    CHECK(startOf(line).x == Approx(a.x + 0.3).margin(0.02)); // its ends stay where they were put
    const Vec2 c = p.to_sheet(paper.at({90, 65}));
    const Curve round = alongInk(p, Arc{c + Vec2{0.3, 0.2}, 20.3, 0, 2 * kPi});
    CHECK(distance(std::get<Arc>(round).centre, c) < 0.02);
    CHECK(std::get<Arc>(round).radius == Approx(20).margin(0.02));
    CHECK(std::get<Arc>(round).full());
    // An arc of it keeps its ends' directions; a hand that drew it a little smaller is corrected.
    for (const double sweep : {kPi / 2, -2.0}) {
        const Curve part = alongInk(p, Arc{c + Vec2{-0.2, 0.3}, 19.8, 0.4, sweep});
        const Arc& arc = std::get<Arc>(part);
        CHECK(distance(arc.centre, c) < 0.05);
        CHECK(arc.radius == Approx(20).margin(0.05));
        CHECK(arc.sweep == Approx(sweep).margin(0.05));
        CHECK(distance(startOf(part), c + 20 * direction(0.4)) < 0.5);
    }
    // Where there is no ink a line stays as drawn.
    const Curve away = Segment{a + Vec2{0, 8}, b + Vec2{0, 8}};
    CHECK(alongInk(p, away) == away);
}

TEST_CASE("Looking for lines can be stopped", "[scan][trace]") {
    struct Stop final : Progress {
        void report(double, std::string_view) override {}
        bool cancelled() const override { return true; }
    } stop;
    PaperScan paper({});
    paper.box({20, 20}, {120, 80});
    const auto t = trace(placed(std::make_shared<ScanPixels>(paper.pixels()), "scan", {})[0], stop);
    REQUIRE_FALSE(t);
    CHECK(t.error().code == ErrorCode::cancelled);
}

namespace {

/// The arms of an arrow head and what it stands on, with a thin pen.
void leader(PaperScan& paper, Vec2 tip, Vec2 from) {
    const Vec2 u = normalized(from - tip), n{-u.y, u.x};
    for (double side : {-0.4, 0.4}) paper.line(tip, tip + u * 3 + n * side, 0.18);
    paper.line(tip + u * 3 - n * 0.4, tip + u * 3 + n * 0.4, 0.18);
    paper.line(tip + u * 3, from, 0.18);
}

} // namespace

TEST_CASE("A line that touches a round runs up to it, and the round stays whole", "[scan][trace]") {
    for (double degrees : {0.0, -0.6}) {
        ScanSetting s;
        s.dpi = 300, s.degrees = degrees, s.grain = 3;
        PaperScan paper(s);
        // A link: two rounds of 20 and 8 whose common tangents are drawn.
        const Vec2 a{40, 50}, b{115, 50};
        const double R = 20, r = 8, lean = std::asin((R - r) / distance(a, b));
        paper.circle(a, R), paper.circle(b, r), paper.circle(a, 5);
        std::vector<std::pair<Vec2, Vec2>> tangents;
        for (double side : {1.0, -1.0}) {
            const Vec2 n{std::sin(lean), side * std::cos(lean)};
            tangents.emplace_back(a + n * R, b + n * r);
            paper.line(tangents.back().first, tangents.back().second);
        }
        paper.box({20, 12}, {120, 20});
        const auto t = trace(calibrated(paper, {20, 12}, {120, 20}), g_quiet);
        REQUIRE(t);
        INFO(degrees);
        const auto rounds = arcs(*t, true);
        REQUIRE(rounds.size() == 3);
        CHECK(arcs(*t, false).empty());
        const auto found = lines(*t);
        REQUIRE(found.size() == 6);
        for (const auto& [from, to] : tangents)
            CHECK(nearest(found, from, to) < 1.2); // along itself it is hardly told
        // Ends lie on their rounds exactly, and the lines touch them within a fraction of a pixel.
        int ends = 0;
        for (const Segment& l : found)
            for (Vec2 end : {l.a, l.b})
                for (const Arc& c : rounds)
                    if (std::abs(distance(end, c.centre) - c.radius) < 1e-9) {
                        ++ends;
                        const Vec2 u = normalized(l.b - l.a);
                        CHECK(std::abs(std::abs(cross(u, c.centre - l.a)) - c.radius) < 0.03);
                    }
        CHECK(ends == 4);
    }
}

TEST_CASE("Arrow heads that stand on an outline are no outline", "[scan][trace]") {
    ScanSetting s;
    s.dpi = 300, s.grain = 3;
    PaperScan paper(s);
    paper.box({20, 20}, {120, 80});
    paper.circle({60, 50}, 12);
    leader(paper, Vec2{60, 50} + direction(0.9) * 12, {85, 74});
    leader(paper, Vec2{60, 50} - direction(0.2) * 12, {30, 40});
    const auto t = trace(calibrated(paper, {20, 20}, {120, 80}), g_quiet);
    REQUIRE(t);
    const auto found = lines(*t);
    CHECK(found.size() == 4); // the box alone
    for (const Segment& l : found) CHECK(distance(l.a, l.b) > 50);
    CHECK(arcs(*t, true).size() == 1);
    CHECK(lines(*t, LineRole::dimension).size() >= 2);
}

TEST_CASE("A small notch is an outline, though its sides are as short as an arrow's", "[scan][trace]") {
    ScanSetting s;
    s.dpi = 300;
    PaperScan paper(s);
    paper.line({20, 20}, {120, 20}), paper.line({120, 20}, {120, 80}), paper.line({20, 80}, {20, 20});
    paper.line({20, 80}, {60, 80}), paper.line({60, 80}, {60, 77}), paper.line({60, 77}, {63, 77});
    paper.line({63, 77}, {63, 80}), paper.line({63, 80}, {120, 80});
    leader(paper, {100, 20}, {110, 8}); // thin ink, so that widths are told
    paper.line({40, 5}, {110, 5}, 0.18);
    const auto t = trace(calibrated(paper, {20, 20}, {120, 80}), g_quiet);
    REQUIRE(t);
    const auto found = lines(*t);
    CHECK(found.size() == 8);
    CHECK(nearest(found, {60, 80}, {60, 77}) < 0.2);
    CHECK(nearest(found, {60, 77}, {63, 77}) < 0.2);
    CHECK(nearest(found, {63, 77}, {63, 80}) < 0.2);
}

TEST_CASE("A leader that runs over an outline beside its corner leaves the corner alone", "[scan][trace]") {
    for (double beside : {0.6, 1.0, 1.5}) { // mm from the corner, on its upright side
        ScanSetting s;
        s.dpi = 240, s.degrees = 0.3, s.grain = 3;
        PaperScan paper(s);
        paper.box({20, 20}, {120, 80});
        const Vec2 on{120, 80 - beside}, way = direction(0.8);
        paper.line(on - way * 25, on + way * 8, 0.18),
            paper.line(on + way * 8, on + way * 8 + Vec2{12, 0}, 0.18);
        const auto t = trace(calibrated(paper, {20, 20}, {120, 80}), g_quiet);
        REQUIRE(t);
        INFO(beside);
        const auto found = from({20, 20}, lines(*t));
        CHECK(found.size() == 4);
        CHECK(nearest(found, {20, 80}, {120, 80}) < 0.1);
        CHECK(nearest(found, {120, 20}, {120, 80}) < 0.1);
    }
}

TEST_CASE("A chamfer not much longer than the pen is wide comes out at its place", "[scan][trace]") {
    for (double degrees : {0.0, 0.7, -0.9}) {
        ScanSetting s;
        s.dpi = 300, s.degrees = degrees, s.grain = 3;
        PaperScan paper(s);
        // A round bar with a chamfered end: outline, and the edge between both.
        paper.line({21, 80}, {120, 80}), paper.line({120, 80}, {120, 20}), paper.line({120, 20}, {21, 20});
        paper.line({20, 21}, {20, 79}), paper.line({21, 20}, {21, 80});
        paper.line({20, 79}, {21, 80}), paper.line({20, 21}, {21, 20});
        paper.line({20, 5}, {120, 5}, 0.18);
        const auto t = trace(calibrated(paper, {21, 20}, {120, 80}), g_quiet);
        REQUIRE(t);
        INFO(degrees);
        const auto found = from({20, 20}, lines(*t));
        CHECK(found.size() == 7);
        CHECK(nearest(found, {20, 79}, {21, 80}) < 0.12);
        CHECK(nearest(found, {20, 21}, {21, 20}) < 0.12);
        CHECK(nearest(found, {20, 21}, {20, 79}) < 0.12);
        CHECK(nearest(found, {21, 20}, {21, 80}) < 0.12);
    }
}

TEST_CASE("A dashed ring is hidden though its first and its last dash are one", "[scan][trace]") {
    ScanSetting s;
    s.dpi = 300, s.grain = 3;
    PaperScan paper(s);
    paper.box({20, 20}, {120, 80});
    const Vec2 c{70, 50};
    const double r = 19.75, dash = 3 / r, period = 4.5 / r;
    paper.circle(c, r + 1);
    for (double a = 0; a < 2 * kPi; a += period) paper.arc(c, r, a, std::min(dash, 2 * kPi - a), 0.25);
    paper.arc(c, r, -0.12, 0.12, 0.25); // runs into the first
    const auto t = trace(calibrated(paper, {20, 20}, {120, 80}), g_quiet);
    REQUIRE(t);
    int rings = 0;
    for (const TracedLine& l : t->lines)
        if (const auto* a = std::get_if<Arc>(&l.shape); a && a->full() && l.role == LineRole::hidden) {
            ++rings;
            CHECK(a->radius == Approx(r).margin(0.05));
        }
    CHECK(rings == 1);
}

TEST_CASE("The projection symbol's cone is kept, letters of its size are not", "[scan][trace]") {
    ScanSetting s;
    s.dpi = 300;
    PaperScan paper(s);
    paper.box({20, 40}, {120, 90});
    const Vec2 c{40, 20};
    paper.circle(c, 3.2, 0.35), paper.circle(c, 1.6, 0.35);
    paper.line(c + Vec2{8, -1.6}, c + Vec2{8, 1.6}, 0.35),
        paper.line(c + Vec2{15, -3.2}, c + Vec2{15, 3.2}, 0.35);
    paper.line(c + Vec2{8, 1.6}, c + Vec2{15, 3.2}, 0.35),
        paper.line(c + Vec2{8, -1.6}, c + Vec2{15, -3.2}, 0.35);
    // A letter as tall, and as many strokes, but far from any pair of circles.
    const Vec2 e{100, 20};
    paper.line(e, e + Vec2{0, 5}, 0.35), paper.line(e, e + Vec2{3, 0}, 0.35);
    paper.line(e + Vec2{0, 2.5}, e + Vec2{2.5, 2.5}, 0.35), paper.line(e + Vec2{0, 5}, e + Vec2{3, 5}, 0.35);
    const auto t = trace(calibrated(paper, {20, 40}, {120, 90}), g_quiet);
    REQUIRE(t);
    CHECK(arcs(*t, true).size() == 2);
    int cone = 0, letter = 0;
    for (const TracedLine& l : t->lines) {
        const Vec2 mid = pointAt(l.shape, 0.5);
        cone += std::holds_alternative<Segment>(l.shape) && distance(mid, c + Vec2{11.5, 0}) < 5;
        letter += distance(mid, e + Vec2{1.5, 2.5}) < 4;
    }
    CHECK(cone == 4);
    CHECK(letter == 0);
}

TEST_CASE("the bow of an arc is how far it rises over its chord, and no more than over a diameter") {
    CHECK(bowOf({{0, 0}, 10, 0.3, kPi / 2}) == Approx(10 - 10 / std::sqrt(2.0)));
    CHECK(bowOf({{0, 0}, 10, 0.3, -kPi / 2}) == Approx(10 - 10 / std::sqrt(2.0)));
    CHECK(bowOf({{5, 5}, 10, 0, kPi}) == Approx(10));
    CHECK(bowOf({{5, 5}, 10, 0, 1.5 * kPi}) == Approx(10));
    CHECK(bowOf({{5, 5}, 10, 0, 2 * kPi}) == Approx(10));
}

TEST_CASE("A hidden line that ends in a gap reaches the outline, and no shorter line in its way",
          "[scan][trace]") {
    ScanSetting s;
    s.dpi = 300, s.grain = 3;
    PaperScan paper(s);
    paper.box({20, 20}, {120, 80});
    paper.dashed({20, 50}, {118.6, 50}, 3, 1.5); // the pattern ends before the outline
    const auto t = trace(calibrated(paper, {20, 20}, {120, 80}), g_quiet);
    REQUIRE(t);
    const auto hidden = lines(*t, LineRole::hidden);
    REQUIRE(hidden.size() == 1);
    CHECK(std::max(hidden[0].a.x, hidden[0].b.x) == Approx(120).margin(0.05));
    CHECK(std::min(hidden[0].a.x, hidden[0].b.x) == Approx(20).margin(0.05));
}
