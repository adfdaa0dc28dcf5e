#include "support/bracket.h"
#include "support/samples.h"

#include "core/project/propose_for.h"
#include "core/proposing/cell_model.h"
#include "core/proposing/propose.h"

#include <fstream>
#include <random>

using namespace prism;
using namespace prism::test;

namespace {

Document proposed(const std::string& path) {
    NoProgress quiet;
    Document d = opened(path);
    const Model& m = d.model();
    const auto p = propose(m.figure, quiet);
    INFO((p ? std::string() : p.error().message));
    REQUIRE(p);
    Choices c = d.choices();
    c.steps = p->steps;
    REQUIRE(d.apply("Propose", c, quiet));
    return d;
}

/// Volume of a stepped part: columns over a grid, each up to its own height.
double volumeOf(const std::vector<double>& x, const std::vector<double>& y,
                const std::vector<std::vector<double>>& h) {
    double v = 0;
    for (size_t i = 0; i + 1 < x.size(); ++i)
        for (size_t j = 0; j + 1 < y.size(); ++j) v += (x[i + 1] - x[i]) * (y[j + 1] - y[j]) * h[i][j];
    return v;
}

} // namespace

TEST_CASE("the demo parts are proposed exactly") {
    const Document bracket = proposed(demo("roller-bracket.dxf"));
    CHECK(bracket.model().build.measure.volume == Approx(Bracket{}.volume()).epsilon(1e-9));
    CHECK(bracket.model().proof->clean());
    const Document pulley = proposed(demo("weight-pulley.dxf"));
    // Hub, rim with groove, hub; less the bore and the seat.
    const double closed = kPi * (20 * 20 * 12 + 55 * 55 * 32 - (55 * 55 - 48 * 48) * 12 + 20 * 20 * 16 -
                                 9 * 9 * 52 - 14 * 14 * 8);
    CHECK(pulley.model().build.measure.volume == Approx(closed).epsilon(1e-9));
    CHECK(pulley.model().proof->clean());
    REQUIRE(pulley.choices().steps.size() == 1);
    CHECK(pulley.choices().steps[0].kind == StepKind::revolve);
}

TEST_CASE("a worn sheet of the bracket, repaired, comes back with the same volume", "[slow]") {
    Document worn = proposed(demo("roller-bracket-worn.dxf"));
    CHECK(worn.model().build.measure.volume == Approx(Bracket{}.volume()).epsilon(1e-9));
    CHECK_FALSE(
        worn.model().proof->clean()); // one gap is too wide to be closed unasked, and the proof shows it
    NoProgress quiet;
    Choices c = worn.choices();
    c.repairs.gap = 1.5;
    c.steps.clear();
    REQUIRE(worn.apply("Wider gap", c, quiet));
    CHECK(worn.model().sheet.loose_ends.empty());
    const Model& m = worn.model();
    c.steps = propose(m.figure, quiet).value().steps;
    REQUIRE(worn.apply("Propose", c, quiet));
    CHECK(worn.model().proof->clean());
    CHECK(worn.model().build.measure.volume == Approx(Bracket{}.volume()).epsilon(1e-9));
}

TEST_CASE("the bracket as a mere SVG page, without layers and dimensions, comes back with the same volume") {
    const Document page = proposed(demo("roller-bracket-page.svg"));
    CHECK(page.model().source->dimensions.empty());
    CHECK(page.model().build.measure.volume == Approx(Bracket{}.volume()).epsilon(1e-6));
    CHECK(page.model().proof->clean());
}

TEST_CASE("parts of planes and cylinders on sheets by another program get their true volume", "[slow]") {
    // The truth of this one was integrated to a hundred-thousandth only: this is the shaft of 27 x 60.5 with
    // its end of 11 between flats, less the bore of 6 x 32 and the cross hole of 7.5, integrated
    // independently.
    const std::map<std::string, double> integrated{{"clean13", 37688.070960}};
    for (const Sample& s : samples()) {
        if (!s.clean()) continue;
        INFO(s.name);
        const Document d = proposed(s.path);
        const auto better = integrated.find(s.name);
        const double volume = better != integrated.end() ? better->second : s.truth["volume"].get<double>();
        CHECK(d.model().build.measure.volume == Approx(volume).epsilon(1e-7));
        CHECK(d.model().build.measure.area ==
              Approx(s.truth["area"].get<double>()).epsilon(better != integrated.end() ? 2e-5 : 1e-6));
        CHECK(d.model().proof->clean());
    }
}

TEST_CASE("a line of sight through a plate with a hole passes the cells it should") {
    NoProgress quiet;
    DxfText t;
    t.entities().box(0, 0, 80, 20).line(15, 0, 15, 20, "HIDDEN").line(25, 0, 25, 20, "HIDDEN");
    t.box(0, 60, 80, 110).circle(20, 72, 5).text(100, -20, "THIRD ANGLE");
    const Drawing d = drawn(t.done());
    const CleanSheet s = clean(d, {});
    const Figure f = buildFigure(d, s, findViews(d, s, {}, quiet));
    const auto areas = closedAreas(f, f.drawn);
    std::vector<ViewMap> maps;
    for (const FigureView& v : f.views) maps.emplace_back(f, v, areas);
    ProductCells model(maps, false);
    const int front = maps[0].view().role() == Role::front ? 0 : 1;
    const Ray through = model.ray(front, {20, 10}), beside = model.ray(front, {60, 10}),
              past = model.ray(front, {90, 10});
    // Air, plate, hole, plate, air.
    REQUIRE(through.cells.size() == 5);
    CHECK(through.cells.front() == -1);
    CHECK(through.cells[1] == through.cells[3]);
    CHECK(through.cells[2] != through.cells[1]);
    CHECK(through.breaks[1] == Approx(7));
    CHECK(through.breaks[2] == Approx(17));
    CHECK(beside.cells.size() == 3);
    CHECK(past.cells == std::vector<int>{-1});
}

TEST_CASE("one view alone is refused, and a proposal can be stopped") {
    NoProgress quiet;
    const std::string path = temporary("one.dxf");
    std::ofstream(path) << DxfText().entities().box(0, 0, 80, 50).circle(20, 12, 5).done();
    const Document d = opened(path);
    const auto p = propose(d.model().figure, quiet);
    REQUIRE_FALSE(p);
    CHECK(p.error().code == ErrorCode::impossible);
    struct Stopped final : Progress {
        void report(double, std::string_view) override {}
        bool cancelled() const override { return true; }
    } stopped;
    const Document b = opened(demo("roller-bracket.dxf"));
    const auto q = propose(b.model().figure, stopped);
    REQUIRE_FALSE(q);
    CHECK(q.error().code == ErrorCode::cancelled);
}

TEST_CASE("random staircases, drawn in three views with all their lines, come back with their volume",
          "[slow]") {
    // Heights fall along X and Y, so that every edge is seen from front, top and right and nothing is hidden.
    std::mt19937 random(21);
    std::uniform_real_distribution<double> step(6, 30);
    for (int round = 0; round < 12; ++round) {
        const size_t nx = 2 + round % 2, ny = 2 + (round / 2) % 2;
        std::vector<double> x{0}, y{0};
        for (size_t i = 0; i < nx; ++i) x.push_back(x.back() + step(random));
        for (size_t j = 0; j < ny; ++j) y.push_back(y.back() + step(random));
        // Height of column (i, j): highest at the back left, one more step for each column nearer to it.
        std::vector<double> drop{0};
        for (size_t k = 0; k < nx + ny; ++k) drop.push_back(drop.back() + step(random));
        std::vector<std::vector<double>> h(nx, std::vector<double>(ny));
        for (size_t i = 0; i < nx; ++i)
            for (size_t j = 0; j < ny; ++j) h[i][j] = drop[1 + (nx - 1 - i) + j];
        const double top = drop[nx + ny - 1], X = x.back(), Y = y.back();
        DxfText t;
        t.entities();
        auto upright = [&](double ox, double oz, double at, double z0, double z1) {
            t.line(ox + at, oz + z0, ox + at, oz + z1);
        };
        // Front (X, Z), from -Y: at every X the highest column of each strip, seen over the lower ones before
        // it.
        for (size_t i = 0; i < nx; ++i) {
            for (size_t j = 0; j < ny; ++j) t.line(x[i], h[i][j], x[i + 1], h[i][j]);
            t.line(x[i], 0, x[i + 1], 0);
            if (i > 0) upright(0, 0, x[i], h[i][0], h[i - 1][ny - 1]);
        }
        upright(0, 0, 0, 0, top), upright(0, 0, X, 0, h[nx - 1][ny - 1]);
        const double topAt = top + 40, rightAt = X + 40;
        for (double a : x) t.line(a, topAt, a, topAt + Y);
        for (double b : y) t.line(0, topAt + b, X, topAt + b);
        // Right (Y, Z), from +X.
        for (size_t j = 0; j < ny; ++j) {
            for (size_t i = 0; i < nx; ++i) t.line(rightAt + y[j], h[i][j], rightAt + y[j + 1], h[i][j]);
            t.line(rightAt + y[j], 0, rightAt + y[j + 1], 0);
            if (j > 0) upright(rightAt, 0, y[j], h[nx - 1][j - 1], h[0][j]);
        }
        upright(rightAt, 0, 0, 0, h[0][0]), upright(rightAt, 0, Y, 0, top);
        t.text(0, -40, "THIRD ANGLE");
        const std::string path = temporary("stairs.dxf");
        std::ofstream(path) << t.done();
        INFO("round " << round);
        const Document d = proposed(path);
        const double drawnVolume = volumeOf(x, y, h), found = d.model().build.measure.volume;
        CHECK(d.model().proof->clean());
        if (nx == 2 || ny == 2)
            CHECK(found == Approx(drawnVolume).epsilon(1e-6));
        else // the middle column may be higher without any view showing it: none is taken away that need not
             // be
            CHECK(found > drawnVolume * (1 - 1e-9));
    }
}
