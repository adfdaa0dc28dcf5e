#include "support/samples.h"

#include "core/figure/rounds.h"
#include "core/project/propose_for.h"
#include "core/proposing/without_features.h"

#include <fstream>
#include <random>

using namespace prism;
using namespace prism::test;

// Holes, fillets, turned parts and sections: what proposals tell from lines before they reason over cells.

namespace {

/// A hole of a plate that is seen from above and from the front.
struct Drilled {
    enum Kind { through, blind, pointed, counterbored, countersunk } kind;
    double x, y, radius, wide, depth; ///< depth: of the hole, or of its counterbore

    double volume(double thick) const {
        const double r2 = radius * radius, w2 = wide * wide, sink = wide - radius;
        switch (kind) {
        case through:
            return kPi * r2 * thick;
        case blind:
            return kPi * r2 * depth;
        case pointed: // 120 degrees, so that the point is as high as the radius by the root of three
            return kPi * r2 * (depth + radius / std::sqrt(3.0) / 3);
        case counterbored:
            return kPi * (r2 * thick + (w2 - r2) * depth);
        case countersunk: // 90 degrees: as deep as it is wider
            return kPi * (r2 * (thick - sink) + sink * (w2 + wide * radius + r2) / 3);
        }
        return 0;
    }
    void drawFront(DxfText& t, double thick) const {
        const auto pair = [&](double r0, double z0, double r1, double z1) {
            for (double side : {-1.0, 1.0}) t.line(x + side * r0, z0, x + side * r1, z1, "HIDDEN");
        };
        const auto across = [&](double r, double z) { t.line(x - r, z, x + r, z, "HIDDEN"); };
        switch (kind) {
        case through:
            return pair(radius, 0, radius, thick);
        case blind:
            return pair(radius, thick - depth, radius, thick), across(radius, thick - depth);
        case pointed:
            pair(radius, thick - depth, radius, thick), across(radius, thick - depth);
            return pair(radius, thick - depth, 0, thick - depth - radius / std::sqrt(3.0));
        case counterbored:
            pair(radius, 0, radius, thick - depth), pair(wide, thick - depth, wide, thick);
            return across(wide, thick - depth);
        case countersunk: {
            const double bend = thick - (wide - radius);
            pair(radius, 0, radius, bend), pair(radius, bend, wide, thick);
            return across(radius, bend);
        }
        }
    }
};

/// A plate of 30 with up to six random holes in a row, apart along X, and its volume.
std::string randomPlate(std::mt19937& random, double& volume) {
    const auto within = [&](double lo, double hi) {
        return std::round(20 * std::uniform_real_distribution<double>(lo, hi)(random)) / 20;
    };
    const double thick = 30, width = 70;
    const int n = std::uniform_int_distribution<int>(1, 6)(random);
    DxfText t;
    t.entities();
    const double length = 40.0 * n;
    volume = length * width * thick;
    t.box(0, 0, length, thick).box(0, 60, length, 60 + width);
    for (int i = 0; i < n; ++i) {
        Drilled d{static_cast<Drilled::Kind>(std::uniform_int_distribution<int>(0, 4)(random)),
                  40.0 * i + within(15, 25),
                  within(15, 55),
                  within(2, 6),
                  0,
                  within(4, 15)};
        const bool shaped = d.kind == Drilled::counterbored || d.kind == Drilled::countersunk;
        if (shaped) d.wide = d.radius + within(1.5, 5);
        volume -= d.volume(thick);
        t.circle(d.x, 60 + d.y, d.radius);
        if (shaped) t.circle(d.x, 60 + d.y, d.wide);
        d.drawFront(t, thick);
    }
    t.text(length, -20, "THIRD ANGLE");
    const std::string path = temporary("holes.dxf");
    std::ofstream(path) << t.done();
    return path;
}

} // namespace

TEST_CASE("random holes of all kinds are told by their lines and come back as hole steps") {
    std::mt19937 random(31);
    NoProgress quiet;
    for (int round = 0; round < 40; ++round) {
        double volume = 0;
        const Document d = opened(randomPlate(random, volume));
        INFO("round " << round);
        const auto p = proposeFor(d.model(), quiet);
        INFO((p ? p->how : p.error().message));
        REQUIRE(p);
        CHECK(p->clean);
        CHECK(p->build.measure.volume == Approx(volume).epsilon(1e-9));
        CHECK(std::ranges::any_of(p->steps, [](const Step& s) { return s.kind == StepKind::hole; }));
    }
}

TEST_CASE("holes that are alike are one step, and what they explain is theirs alone") {
    DxfText t;
    t.entities().box(0, 0, 80, 20).box(0, 60, 80, 110);
    for (double x : {15.0, 40.0, 65.0}) {
        t.circle(x, 85, 4).line(x - 4, 0, x - 4, 20, "HIDDEN").line(x + 4, 0, x + 4, 20, "HIDDEN");
    }
    t.text(100, -20, "THIRD ANGLE");
    const std::string path = temporary("alike.dxf");
    std::ofstream(path) << t.done();
    const Document d = opened(path);
    const Figure& f = d.model().figure;
    std::vector<ViewMap> maps;
    for (const FigureView& v : f.views) maps.emplace_back(f, v, d.model().areas.drawn);
    const auto holes = holesSeen(f, maps);
    REQUIRE(holes.size() == 3);
    const auto steps = holeSteps(holes, 1e-3);
    REQUIRE(steps.size() == 1);
    CHECK(steps[0].places.size() == 3);
    CHECK(steps[0].reach == Reach::through);
    // A circle and two walls each; what is left are the two outlines.
    for (const HoleSeen& h : holes) CHECK(h.lines.size() == 3);
    CHECK(withoutHoles(f, holes).curves.size() == 8);
}

TEST_CASE("a hole explains a wall that is drawn visible where which lines are hidden counts for nothing") {
    DxfText t;
    t.entities().box(0, 0, 80, 20).box(0, 60, 80, 110).circle(15, 85, 4);
    t.line(11, 0, 11, 20, "HIDDEN").line(19, 0, 19, 20).text(100, -20, "THIRD ANGLE");
    const std::string path = temporary("visible-wall.dxf");
    std::ofstream(path) << t.done();
    const Document d = opened(path);
    const Figure& f = d.model().figure;
    std::vector<ViewMap> maps;
    for (const FigureView& v : f.views) maps.emplace_back(f, v, d.model().areas.drawn);
    for (const auto& [kinds, lines] : {std::pair{LineKinds::told, 2U}, std::pair{LineKinds::alike, 3U}}) {
        const auto holes = holesSeen(f, maps, kinds);
        REQUIRE(holes.size() == 1);
        CHECK(holes[0].lines.size() == lines);
    }
}

TEST_CASE("a circle without walls, and walls without a circle, are no hole") {
    DxfText t;
    t.entities().box(0, 0, 80, 20).box(0, 60, 80, 110).circle(20, 85, 4);
    t.line(50, 0, 50, 20, "HIDDEN").line(58, 0, 58, 20, "HIDDEN").text(100, -20, "THIRD ANGLE");
    const std::string path = temporary("nohole.dxf");
    std::ofstream(path) << t.done();
    const Document d = opened(path);
    const Figure& f = d.model().figure;
    std::vector<ViewMap> maps;
    for (const FigureView& v : f.views) maps.emplace_back(f, v, d.model().areas.drawn);
    CHECK(holesSeen(f, maps).empty());
}

TEST_CASE("arcs between two lines stand for a corner, and give way to it") {
    DxfText t; // a rounded plate: three corners by arcs, one cut by a chamfer
    t.entities().box(0, 0, 80, 20);
    t.line(5, 60, 80, 60).line(80, 60, 80, 105).line(75, 110, 8, 110).line(0, 102, 0, 65);
    t.arc(5, 65, 5, 180, 270).arc(75, 105, 5, 0, 90).line(8, 110, 0, 102).text(100, -20, "THIRD ANGLE");
    const std::string path = temporary("rounds.dxf");
    std::ofstream(path) << t.done();
    const Document d = opened(path);
    const Figure& f = d.model().figure;
    const auto rounds = roundsOf(f);
    REQUIRE(rounds.size() == 2);
    std::vector<Vec2> corners;
    for (const prism::Round& r : rounds) corners.push_back(cornerOf(f, r, f.drawn));
    std::ranges::sort(corners, {}, &Vec2::x);
    CHECK(distance(corners[0], {0, 0}) < 1e-9);
    CHECK(distance(corners[1], {80, 50}) < 1e-9);
    const Figure sharp = sharpened(f, rounds);
    CHECK(sharp.curves.size() == f.curves.size() - 2);
    double area = 0;
    for (const ClosedArea& a : closedAreas(sharp, sharp.drawn))
        if (f.viewById(a.view)->role() == Role::top) area += a.area;
    CHECK(area == Approx(80 * 50 - 8 * 8 / 2.0));
}

TEST_CASE("richer parts on sheets by another program get their true volume", "[slow]") {
    NoProgress quiet;
    for (const auto& file : std::filesystem::directory_iterator(PRISM_TEST_DATA "/rich")) {
        if (file.path().extension() != ".dxf") continue;
        const std::string name = file.path().stem().string();
        INFO(name);
        std::ifstream in(file.path().parent_path() / (name + ".truth.json"));
        const Json truth = Json::parse(in);
        const bool several = truth["kind2"] == "two";
        const Json parts = several ? truth["parts"] : Json::array({truth});
        std::vector<double> volumes; // in no order that the sheet would show
        for (const Json& part : parts) volumes.push_back(part["volume"].get<double>());
        Document d = opened(file.path().string());
        for (size_t k = 0; k < parts.size(); ++k) {
            INFO("part " << k + 1);
            Choices c = d.choices();
            if (several) c.views.part = static_cast<int>(k);
            REQUIRE(d.apply("Part", c, quiet, Stage::figure));
            const auto p = proposeFor(d.model(), quiet);
            REQUIRE(p);
            CHECK(p->clean);
            const double volume = p->build.measure.volume;
            const auto truth_of_it =
                std::ranges::find_if(volumes, [&](double v) { return std::abs(volume - v) <= 5e-6 * v; });
            REQUIRE(truth_of_it != volumes.end());
            volumes.erase(truth_of_it);
        }
    }
}

TEST_CASE("seams between faces that run smoothly into each other may be drawn, hidden ones as hidden lines") {
    // The arm runs into its boss and its eye along tangents; the side view draws where it does.
    NoProgress quiet;
    const auto p = proposeFor(opened(PRISM_TEST_DATA "/parts/lever-with-seams-drawn.dxf").model(), quiet);
    REQUIRE(p);
    CHECK(p->clean);
    const double big = 18.5, small = 11, apart = 81.5, lean = std::acos((big - small) / apart),
                 x = std::cos(lean), y = std::sin(lean);
    const auto beyond = [&](double r) { return r * r * (lean - x * y); }; // of a disc, past the tangents
    const double arm =
        (big + small) * y * (apart - (big - small) * x) - beyond(big) - (kPi * small * small - beyond(small));
    CHECK(p->build.measure.volume ==
          Approx(kPi * (big * big - 6.5 * 6.5) * 19.5 + kPi * (small * small - 64) * 15 + arm * 9)
              .epsilon(1e-6));
}

TEST_CASE("a bore through what two steps add is one bore, without a seam where they meet") {
    // The walls of plate and boss are counted round their axis from different places; what the modeller keeps
    // of the one seam within the other's wall is no edge.
    NoProgress quiet;
    const auto p = proposeFor(opened(PRISM_TEST_DATA "/parts/bracket-with-side-boss.dxf").model(), quiet);
    REQUIRE(p);
    CHECK(p->clean);
    const double base = 114.5 * 88.5 * 12 - kPi * (4.5 * 4.5 + 4 * 4) * 12,
                 plate = 0.5 * (88.5 + 42.5) * 86.5 * 14.5, boss = kPi * 23 * 23 * 11,
                 bore = kPi * 10.5 * 10.5 * 25.5, rib = 0.5 * (6 + 79.5) * 37 * 14;
    CHECK(p->build.measure.volume == Approx(base + plate + boss + rib - bore).epsilon(1e-7));
}

namespace {

/// What a cylinder of radius r square to another one of radius R, their axes crossing, has beyond that one up
/// to a distance from the axis: slice by slice.
double beyondBarrel(double r, double R, double to) {
    constexpr int kSlices = 20000;
    double sum = 0;
    for (int i = 0; i < kSlices; ++i) {
        const double t = kPi * ((i + 0.5) / kSlices - 0.5), y = r * std::sin(t), half = r * std::cos(t);
        sum += 2 * half * half * (to - std::sqrt(R * R - y * y)) * kPi / kSlices;
    }
    return sum;
}

double disc(double r) {
    return kPi * r * r;
}

} // namespace

TEST_CASE("a branch that the pipe hides in the view along it is a boss on its far side") {
    NoProgress quiet;
    const auto p = proposeFor(opened(PRISM_TEST_DATA "/parts/pipe-with-branch-behind.dxf").model(), quiet);
    REQUIRE(p);
    CHECK(p->clean);
    const double pipe = (disc(23) - disc(16.5)) * 80.5,
                 flanges = (disc(33.5) - disc(23) - 4 * disc(2.625)) * 19,
                 branch = beyondBarrel(17, 23, 49.5) - beyondBarrel(10.5, 16.5, 49.5);
    CHECK(p->build.measure.volume == Approx(pipe + flanges + branch).epsilon(1e-6));
    CHECK(std::ranges::any_of(p->steps,
                              [](const Step& s) { return s.name == "boss" && s.view == Role::left; }));
}

TEST_CASE("where walls meet at the place at which lines of a view touch a circle, the volume is right") {
    NoProgress quiet;
    const auto p = proposeFor(opened(PRISM_TEST_DATA "/parts/pipe-with-flanged-branch.dxf").model(), quiet);
    REQUIRE(p);
    CHECK(p->clean);
    const double pipe = (disc(22.5) - disc(15.5)) * 110.5,
                 flange = (disc(35) - disc(22.5) - 4 * disc(3.125)) * 7,
                 branch = beyondBarrel(12.5, 22.5, 48.5) - beyondBarrel(5.5, 15.5, 48.5) +
                          (disc(22) - disc(12.5)) * 8;
    CHECK(p->build.measure.volume == Approx(pipe + flange + branch).epsilon(1e-6));
}

TEST_CASE("a bracket that is where its outlines meet, rounded all along its rim, is proposed exactly") {
    // Its corner is round from above and hollow from the front: no area of a view can be added there alone.
    // The rim runs round the foot and up the wall. The volume is that of the solid which the sheet was drawn
    // from.
    NoProgress quiet;
    const auto p = proposeFor(opened(PRISM_TEST_DATA "/parts/bracket-with-round-rim.dxf").model(), quiet);
    REQUIRE(p);
    CHECK(p->clean);
    CHECK(p->build.measure.volume == Approx(89533.098).epsilon(1e-7));
    CHECK(std::ranges::any_of(p->steps, [](const Step& s) { return s.operation == Operation::intersect; }));
    CHECK(std::ranges::any_of(p->steps, [](const Step& s) { return s.kind == StepKind::fillet; }));
}

TEST_CASE("stairs of twenty steps, each with a pocket, are proposed exactly") {
    NoProgress quiet;
    constexpr int n = 20;
    constexpr double run = 20, rise = 5, wide = 60, deep = 3, long_ = run * n, high = rise * n;
    constexpr double above = high + 40, beside = long_ + 40;
    DxfText t;
    t.layer("HIDDEN", "HIDDEN").entities();
    t.line(0, 0, long_, 0).line(0, 0, 0, high).box(0, above, long_, above + wide);
    t.line(beside, 0, beside, high).line(beside + wide, 0, beside + wide, high);
    t.line(beside, 0, beside + wide, 0);
    double volume = 0;
    for (int i = 0; i < n; ++i) {
        const double x = run * i, z = high - rise * i, from = 8 + i % 7, to = wide - 8 - i % 5;
        t.line(x, z, x + run, z).line(x + run, z, x + run, z - rise).line(beside, z, beside + wide, z);
        volume += run * wide * z;
        if (i + 1 == n) continue;
        t.line(x + run, above, x + run, above + wide);
        const double in = x + 4, out = x + 14, floor = z - deep;
        volume -= (out - in) * (to - from) * deep;
        t.box(in, above + from, out, above + to);
        t.line(in, z, in, floor, "HIDDEN").line(out, z, out, floor, "HIDDEN");
        t.line(in, floor, out, floor, "HIDDEN").line(beside + from, floor, beside + to, floor, "HIDDEN");
        t.line(beside + from, z, beside + from, floor, "HIDDEN");
        t.line(beside + to, z, beside + to, floor, "HIDDEN");
    }
    const std::string path = temporary("stairs.dxf");
    std::ofstream(path) << t.text(0, -30, "THIRD ANGLE PROJECTION").done();
    const auto p = proposeFor(opened(path).model(), quiet);
    REQUIRE(p);
    CHECK(p->clean);
    CHECK(p->build.measure.faces == 7 * n - 1);
    CHECK(p->build.measure.volume == Approx(volume).epsilon(1e-9));
}
