#include "core/project/propose_for.h"
#include "core/proposing/mirrored_steps.h"
#include "support/samples.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <fstream>

// Steps that are images of others, and holes that face each other.
using namespace prism;
using namespace prism::test;

namespace {

Proposal proposed(const Document& d) {
    NoProgress quiet;
    auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    REQUIRE(p->clean);
    return *p;
}

std::vector<std::string> names(const std::vector<Step>& steps) {
    std::vector<std::string> r;
    for (const Step& s : steps) r.push_back(s.name);
    return r;
}

using Names = std::vector<std::string>;

} // namespace

TEST_CASE("the hole through both arms of a fork is one hole; arms with numbers of their own stay two") {
    const Sample fork = sample("clean12");
    const Proposal p = proposed(opened(fork.path));
    CHECK(names(p.steps) == Names{"base", "lug", "lug 2", "hole"});
    CHECK(p.steps[3].reach == Reach::through);
    CHECK(p.build.measure.volume == Approx(fork.truth["volume"].get<double>()).epsilon(1e-8));
    CHECK(p.alternatives.empty()); // the same solid, made in another way
}

TEST_CASE("arms that the numbers of the sheet keep alike are one and its image") {
    // The same fork without the numbers along Y that tell each arm's place.
    const Document d = opened(sample("clean12").path);
    NoProgress quiet;
    Model m = d.model();
    std::erase_if(m.ledger.entries, [](const LedgerEntry& e) { return e.name.starts_with("y"); });
    const auto p = proposeFor(m, quiet);
    REQUIRE(p);
    CHECK(names(p->steps) == Names{"base", "lug", "lug mirrored", "hole"});
    const Step& mirror = p->steps[2];
    CHECK(mirror.kind == StepKind::mirror);
    CHECK(mirror.across == Axis::y);
    CHECK(mirror.of == Names{"lug"});
    CHECK(p->build.measure.volume == Approx(sample("clean12").truth["volume"].get<double>()).epsilon(1e-8));
    CHECK(p->proof.clean());
}

TEST_CASE("steps become images only about a line of the sheet, and neighbours share one mirror") {
    const Document d = opened(sample("clean12").path);
    const Figure& f = d.model().figure;
    const AreaSets areas(f);
    const std::vector<Step> steps = proposed(d).steps;
    // Both arms, written out.
    Step arm = steps[1], other = arm;
    other.name = "other arm";
    other.from = {Bound::Kind::mark, {Role::top, {50.8, 35.56}}}, other.to = {};
    const std::vector<Step> plain{steps[0], arm, other};
    const auto found = withMirrors(f, areas.drawn, plain);
    REQUIRE(found.size() == 3);
    CHECK(found[2].kind == StepKind::mirror);
    CHECK(found[2].name == "lug mirrored");
    NoProgress quiet;
    CHECK(build(f, found, quiet).measure.volume ==
          Approx(build(f, plain, quiet).measure.volume).epsilon(1e-9));

    // Two parts of each arm share a mirror, whichever stands first.
    REQUIRE(arm.areas.size() == 2);
    Step near = arm, far = arm, near_image = other, far_image = other;
    near.areas = near_image.areas = {arm.areas[0]}, far.areas = far_image.areas = {arm.areas[1]};
    near.name = "near", far.name = "far", near_image.name = "near image", far_image.name = "far image";
    for (const auto& list : {std::vector<Step>{steps[0], near, near_image, far, far_image},
                             std::vector<Step>{steps[0], near, far, far_image, near_image}}) {
        const auto shared = withMirrors(f, areas.drawn, list);
        REQUIRE(shared.size() == 4);
        CHECK(shared[3].of.size() == 2);
        CHECK(build(f, shared, quiet).measure.volume ==
              Approx(build(f, plain, quiet).measure.volume).epsilon(1e-9));
    }

    // A cut between them keeps them apart from each other's place; one that is spoken of stays itself.
    const Step& hole = steps[3];
    const auto kept = withMirrors(f, areas.drawn, {steps[0], near, near_image, hole, far, far_image});
    REQUIRE(kept.size() == 6);
    CHECK(names(kept) == Names{"base", "near", "near mirrored", "hole", "far", "far mirrored"});
    Step fillet;
    fillet.kind = StepKind::fillet, fillet.edges.step = "other arm", fillet.name = "fillet";
    CHECK(withMirrors(f, areas.drawn, {steps[0], arm, other, fillet})[2].kind == StepKind::extrude);
    // Not as deep, or of the other kind: no image.
    Step short_one = other, cut = other;
    short_one.from.beyond = 1.0, cut.operation = Operation::cut;
    CHECK(withMirrors(f, areas.drawn, {steps[0], arm, short_one})[2].kind == StepKind::extrude);
    CHECK(withMirrors(f, areas.drawn, {steps[0], arm, cut})[2].kind == StepKind::extrude);
    // Without the lines of the sheet that say so there is no image either.
    Figure untold = f;
    std::erase_if(untold.relations, [](const Relation& r) { return r.kind == RelationKind::symmetric; });
    CHECK(withMirrors(untold, areas.drawn, plain) == plain);
}

TEST_CASE("steps beside each other are images only where they are as high") {
    // Two blocks on a plate, 20 mm high, and a centre line between them.
    DxfText t;
    t.layer("OUTLINE").layer("CENTER", "CENTER").entities().text(0, -60, "THIRD ANGLE");
    t.box(0, 0, 80, 10).box(0, 60, 80, 100).line(40, -5, 40, 40, "CENTER").line(40, 55, 40, 105, "CENTER");
    for (const double x : {5.0, 65.0}) t.box(x, 10, x + 10, 30).box(x, 70, x + 10, 90);
    const std::string path = temporary("beside.dxf");
    std::ofstream(path) << t.done();
    const Document d = opened(path);
    const Figure& f = d.model().figure;
    const auto block = [&](Vec2 seed, double low, double high) {
        Step s;
        s.kind = StepKind::extrude, s.operation = Operation::add, s.reach = Reach::between;
        s.view.role = Role::top, s.name = fmt::format("block at {}", seed.x);
        s.from.kind = s.to.kind = Bound::Kind::place;
        s.from.place = {40, 20, low}, s.to.place = {40, 20, high};
        for (const ClosedArea& a : d.model().areas.drawn)
            if (a.view == f.viewNamed(s.view)->view && a.contains(seed)) s.areas = {a.seed};
        REQUIRE_FALSE(s.areas.empty());
        return s;
    };
    const Step left = block({10, 20}, 10, 30);
    const auto mirrored = withMirrors(f, d.model().areas.drawn, {left, block({70, 20}, 10, 30)});
    REQUIRE(mirrored.size() == 2);
    CHECK(mirrored[1].kind == StepKind::mirror);
    CHECK(mirrored[1].across == Axis::x);
    for (const auto& [low, high] : {std::pair{10.0, 20.0}, {0.0, 30.0}, {10.0, 10.0 + 1e-2}})
        CHECK(withMirrors(f, d.model().areas.drawn, {left, block({70, 20}, low, high)})[1].kind ==
              StepKind::extrude);
}
