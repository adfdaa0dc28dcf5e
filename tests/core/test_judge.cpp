#include "core/proposing/cell_steps.h"
#include "core/proposing/consistency.h"
#include "core/proposing/judge.h"
#include "core/proposing/without_features.h"
#include "support/grid_part.h"
#include "support/searching.h"

using namespace prism;
using namespace prism::test;

// What is kept of the candidates that a search holds against the sheet.

namespace {

NoProgress g_quiet;

/// A block of 80 x 50 x 40 with a step at X 30 that is 20 high, in three views.
Grid block() {
    Grid g;
    g.at = {std::vector<double>{0, 30, 80}, {0, 50}, {0, 20, 40}};
    g.full = {true, false, true, true};
    return g;
}

constexpr double kVolume = (80 * 40 - 30 * 20) * 50;

struct Searched {
    Document d;
    Work work;
    Judge judge;
    explicit Searched(const Grid& g, int most = 0) : Searched(g, linesOf(g), most) {}
    Searched(const Grid& g, const std::set<Drawn>& lines, int most = 0, LineKinds kinds = LineKinds::told)
        : d(inViews(sheetOf(g, lines).sheet)), work(most),
          judge(d.model().figure, d.model().areas, {}, kinds, Effort::thorough, work, g_quiet) {}
    const Figure& figure() const { return d.model().figure; }
    const FigureView& along(Axis depth) const {
        for (const FigureView& v : figure().views)
            if (v.axes.depth == depth) return v;
        FAIL("no such view");
        return figure().views.front();
    }
    /// Pushes areas of a view right through the part: all, or those with a place.
    Step pushed(Axis depth, std::optional<Vec2> place = {}) const {
        Step s;
        s.kind = StepKind::extrude, s.view = along(depth).name, s.reach = Reach::through;
        for (const ClosedArea& a : d.model().areas.drawn)
            if (a.view == along(depth).view && (!place || a.contains(*place))) s.areas.push_back(a.seed);
        REQUIRE_FALSE(s.areas.empty());
        return s;
    }
};

} // namespace

TEST_CASE("of candidates the one that comes nearest to the sheet is kept, until one shows every line") {
    Searched s(block());
    Judge& judge = s.judge;
    std::vector<std::string> told;
    judge.setBetter([&](const Judge& j) { told.push_back(j.how); });
    CHECK_FALSE(judge.consider({}, "nothing"));
    CHECK(judge.tried == 0);
    // The whole box lacks the step's lines.
    CHECK(judge.consider({s.pushed(Axis::z)}, "the box"));
    CHECK(judge.tried == 1);
    CHECK_FALSE(judge.clean);
    CHECK(judge.missing > 0);
    CHECK(judge.missing == judge.proof.missing);
    CHECK(judge.extra == judge.proof.extra);
    CHECK(judge.volume == Approx(80 * 50 * 40));
    CHECK(judge.steps.size() == 1);
    CHECK_FALSE(judge.steps[0].name.empty());
    CHECK(judge.how == "the box");
    const double box_off = judge.off;
    CHECK(std::isfinite(box_off));
    // Where it is off: three places on each piece that does not match, which weigh what the pieces are long.
    const auto maps = mapsOf(s.d);
    const auto places = judge.placesOff(maps);
    double off = 0, weight = 0;
    size_t pieces = 0;
    for (const ViewProof& v : judge.proof.views)
        for (const ProofPiece& p : v.pieces)
            if (p.state != LineState::matched) off += p.length, ++pieces;
    for (const SightPlace& p : places) {
        weight += p.weight;
        CHECK(length(p.side) == Approx(1));
        const FigureView& v = maps[static_cast<size_t>(p.map)].view();
        CHECK(std::ranges::any_of(judge.proof.views, [&](const ViewProof& of) {
            return of.view == v.view && std::ranges::any_of(of.pieces, [&](const ProofPiece& piece) {
                       return piece.state != LineState::matched && distanceTo(piece.shape, p.at) < 1e-6 &&
                              std::abs(dot(tangentAt(piece.shape, 0.5), p.side)) < 1e-6;
                   });
        }));
    }
    CHECK(places.size() == 3 * pieces);
    CHECK(weight == Approx(off));
    // The same again is not tried again.
    CHECK_FALSE(judge.consider({s.pushed(Axis::z)}, "again"));
    CHECK(judge.tried == 1);
    CHECK(judge.placesOff(maps).empty());
    // A part of which the sheet shows more than it has itself is no candidate at all.
    CHECK_FALSE(judge.consider({s.pushed(Axis::x, Vec2{25, 30})}, "the upper half"));
    CHECK(judge.tried == 2);
    CHECK(judge.how == "the box");
    CHECK(judge.consider({s.pushed(Axis::y)}, "the outline pushed"));
    CHECK(judge.clean);
    CHECK(judge.missing + judge.extra == 0);
    CHECK(judge.off < box_off);
    CHECK(judge.volume == Approx(kVolume));
    CHECK(judge.build.measure.volume == Approx(kVolume));
    CHECK(judge.proof.clean());
    CHECK_FALSE(judge.near()); // nothing differs
    CHECK(told == std::vector<std::string>{"the box", "the outline pushed"});
    // What is worse does not take its place, nor what makes the same solid.
    Step cut = s.pushed(Axis::y), lower = s.pushed(Axis::x, Vec2{25, 10});
    lower.operation = Operation::add;
    CHECK_FALSE(judge.consider({cut, lower}, "in two steps"));
    CHECK(judge.others.empty());
    CHECK(judge.how == "the outline pushed");
    CHECK(s.work.done() > 0);
}

TEST_CASE("a search whose candidates come no nearer to the sheet is stuck, another one begins afresh") {
    Searched s(block());
    CHECK(s.judge.consider({s.pushed(Axis::z)}, "the box"));
    for (int n = 0; n < 4; ++n) {
        CHECK_FALSE(s.judge.stuck());
        CHECK_FALSE(s.judge.consider({s.pushed(Axis::z)}, "again"));
    }
    CHECK(s.judge.stuck());
    s.judge.begin();
    CHECK_FALSE(s.judge.stuck());
    CHECK_FALSE(s.judge.exhausted());
    // Once the work is done, nothing is tried.
    Searched little(block(), 1);
    little.work.spend(2);
    CHECK(little.judge.exhausted());
    CHECK(little.judge.stuck());
    CHECK_FALSE(little.judge.consider({little.pushed(Axis::y)}, "the outline"));
    CHECK(little.judge.tried == 0);
}

TEST_CASE("another solid that fits as well is kept beside the first, and may be preferred to it") {
    // Front and top view alone leave several parts open where it counts for nothing what is hidden.
    int met = 0;
    for (unsigned seed = 101; seed < 140 && met < 3; ++seed) {
        CAPTURE(seed);
        const Grid g = carved(seed, true);
        std::set<Drawn> lines = linesOf(g);
        std::erase_if(lines, [](const Drawn& p) { return p.look == 0; });
        Searched s(g, lines, 0, LineKinds::alike);
        if (s.figure().views.size() != 2) continue;
        const auto maps = mapsOf(s.d);
        ProductCells cells(maps, true);
        Work work;
        ConsistentCells consistent(cells, s.figure().tolerances, g.size(), Lines::all, work, g_quiet,
                                   LineKinds::alike);
        std::vector<std::vector<Step>> found;
        while (const auto choice = consistent.next(g_quiet))
            found.push_back(stepsFor(
                                s.figure(), cells,
                                [&](int c) {
                                    return choice->material[static_cast<size_t>(c)] ? Fill::material
                                                                                    : Fill::air;
                                },
                                g_quiet)
                                .steps);
        std::vector<double> volumes; // of those that are one solid, unlike the ones before
        std::vector<std::vector<Step>> unlike;
        for (const auto& steps : found) {
            const BuildResult b = build(s.figure(), s.d.model().areas, steps, g_quiet);
            const auto same = [&](double v) { return std::abs(v - b.measure.volume) < 1; };
            if (!b.ok() || b.measure.solids != 1 || std::ranges::any_of(volumes, same)) continue;
            volumes.push_back(b.measure.volume), unlike.push_back(steps);
        }
        if (volumes.size() < 2) continue;
        ++met;
        REQUIRE(s.judge.consider(unlike[0], "first"));
        REQUIRE(s.judge.clean);
        CHECK(s.judge.volume == Approx(volumes[0]));
        CHECK_FALSE(s.judge.consider(unlike[1], "second"));
        REQUIRE(s.judge.others.size() == 1);
        CHECK(s.judge.others[0].volume == Approx(volumes[1]));
        CHECK(s.judge.how == "first");
        // Steps that make the other solid do not state this one; what is preferred takes its place.
        s.judge.restate(unlike[1]);
        CHECK(s.judge.volume == Approx(volumes[0]));
        s.judge.prefer(unlike[1], "as is usual");
        CHECK(s.judge.volume == Approx(volumes[1]));
        CHECK(s.judge.build.measure.volume == Approx(volumes[1]));
        REQUIRE(s.judge.others.size() == 2);
        CHECK(s.judge.others[0].differs == "as is usual");
        CHECK(s.judge.others[0].volume == Approx(volumes[0]));
    }
    CHECK(met > 0);
}

TEST_CASE("what cannot be built or does not fit is not preferred") {
    Searched s(block());
    REQUIRE(s.judge.consider({s.pushed(Axis::y)}, "the outline"));
    const std::vector<Step> kept = s.judge.steps;
    s.judge.prefer({s.pushed(Axis::z)}, "the box"); // shows other lines
    CHECK(s.judge.steps == kept);
    CHECK(s.judge.others.empty());
    Step round = s.pushed(Axis::y);
    round.name = "the whole";
    s.judge.restate({round});
    CHECK(s.judge.steps.size() == 1);
    CHECK(s.judge.steps[0].name == "the whole");
    CHECK(s.judge.volume == Approx(kVolume));
}

TEST_CASE("a candidate without some features is made of the areas that the whole sheet has in their place") {
    // A plate with a round hole: without it there is one area, of the sheet the plate and the disc.
    ThreeViews t = threeViews(80, 50, 20);
    t.box();
    t.circle(Axis::z, {30, 20, 0}, 8);
    for (const double x : {22, 38}) t.line(Axis::y, {x, 0, 0}, {x, 0, 20}, "HIDDEN");
    for (const double y : {12, 28}) t.line(Axis::x, {0, y, 0}, {0, y, 20}, "HIDDEN");
    const Document d = inViews(t.sheet);
    Searching search(d);
    const Figure& f = search.figure;
    Judge& judge = search.judge;
    const auto holes = holesSeen(f, search.maps);
    REQUIRE(holes.size() == 1);
    const AreaSets reduced(without(f, {holes[0]}), g_quiet);
    std::vector<Step> asked;
    judge.search(reduced, [&](std::vector<Step> steps) {
        asked = steps;
        steps.push_back(holes[0].step);
        return steps;
    });
    const auto pushed = [&](const AreaSets& areas, Axis depth) {
        Step s;
        s.kind = StepKind::extrude, s.reach = Reach::through;
        for (const FigureView& v : f.views)
            if (v.axes.depth == depth) s.view = v.name;
        for (const ClosedArea& a : areas.drawn)
            if (a.view == f.viewNamed(s.view)->view) s.areas.push_back(a.seed);
        return s;
    };
    REQUIRE(pushed(reduced, Axis::z).areas.size() == 1);
    CHECK(judge.consider({pushed(reduced, Axis::z)}, "drilled"));
    CHECK(judge.clean);
    CHECK(judge.volume == Approx(20 * (80 * 50 - 64 * kPi)));
    REQUIRE(asked.size() == 1);
    CHECK(asked[0].areas.size() == 2);
    CHECK(asked[0].areas == pushed(d.model().areas, Axis::z).areas);
    // From now on the steps are taken as they are, and nothing is added.
    asked.clear();
    judge.searchWhole();
    CHECK_FALSE(judge.consider({pushed(d.model().areas, Axis::y)}, "the outline"));
    CHECK(asked.empty());
}

TEST_CASE("an area of the sheet that grows out of the body by much is not taken for the body") {
    // A bar right across a plate, drawn as one outline with it from the front.
    for (const double high : {1.0, 12.0}) {
        CAPTURE(high);
        Grid g;
        g.at = {std::vector<double>{0, 30, 50, 80}, {0, 50}, {0, 20, 20 + high}};
        g.full = {true, false, true, true, true, false};
        Searched s(g);
        const Figure& f = s.figure();
        const FigureView& front = s.along(Axis::y);
        const AreaSets reduced(without(f, {SeenLines{{}, {{front.view, {{30, 20}, {50, 20}}}}}}), g_quiet);
        Step body = s.pushed(Axis::y);
        body.areas.clear();
        for (const ClosedArea& a : reduced.drawn)
            if (a.view == front.view && a.contains({10, 10})) body.areas = {a.seed};
        REQUIRE(body.areas.size() == 1);
        std::vector<Step> made;
        s.judge.search(reduced, [&](std::vector<Step> steps) { return made = steps; });
        CHECK(s.judge.consider({body}, "the body") == (high < 2));
        REQUIRE(made.size() == 1);
        CHECK(made[0].areas.size() == (high < 2 ? 1u : 0u));
        if (high < 2) CHECK(s.judge.volume == Approx(50 * (80 * 20 + 20 * high)));
    }
}

TEST_CASE("a solid of very many round areas is not built, and that is told") {
    ThreeViews t = threeViews(80, 50, 20);
    t.box();
    t.circle(Axis::z, {30, 20, 0}, 8);
    const Document d = inViews(t.sheet);
    Searching s(d);
    Step disc;
    disc.kind = StepKind::extrude, disc.reach = Reach::through;
    for (const ViewMap& m : s.maps)
        for (const ClosedArea& a : m.areas())
            if (m.view().axes.depth == Axis::z && a.box.width() < 20)
                disc.view = m.view().name, disc.areas = {a.seed};
    REQUIRE_FALSE(disc.areas.empty());
    CHECK_FALSE(s.judge.consider(std::vector(15, disc), "of very many"));
    CHECK(s.judge.tried == 0);
    CHECK(s.judge.left_undone.find("round areas") != std::string::npos);
    s.judge.consider({disc}, "of one");
    CHECK(s.judge.tried == 1);
}
