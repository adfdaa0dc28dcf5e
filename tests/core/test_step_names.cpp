#include "core/project/propose_for.h"
#include "core/proposing/step_names.h"
#include "support/samples.h"

#include <catch2/catch.hpp>
#include <set>

// What the steps of a proposal are called.
using namespace prism;
using namespace prism::test;

namespace {

std::vector<std::string> namesOf(const std::string& sheet) {
    NoProgress quiet;
    const Document d = opened(sheet);
    const auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    std::vector<std::string> r;
    for (const Step& s : p->steps) r.push_back(s.name);
    REQUIRE(p->build.steps.size() == r.size());
    for (size_t i = 0; i < r.size(); ++i) CHECK(p->build.steps[i].name == r[i]);
    CHECK(std::set<std::string>(r.begin(), r.end()).size() == r.size()); // each its own
    return r;
}

using Names = std::vector<std::string>;

} // namespace

TEST_CASE("steps of a proposal are called what they are, and no two alike") {
    CHECK(namesOf(demo("stay-bracket.dxf")) == Names{"base", "boss", "rib", "block"});
    CHECK(namesOf(demo("deck-chock.dxf")) == Names{"base", "oblique cut", "hole"});
    const Names keep = namesOf(demo("bolt-keep.dxf"));
    CHECK(keep.front() == "base");
    CHECK(keep.back() == "hole");
}

TEST_CASE("what areas are called follows from their border and their reach") {
    const Document d = opened(demo("bolt-keep.dxf"));
    const Figure& f = d.model().figure;
    const AreaSets areas(f);
    const auto named = [&](Operation o, Role view, std::vector<Vec2> places, bool whole) {
        Step base, s;
        base.name = "base";
        s.operation = o, s.view = view, s.reach = whole ? Reach::through : Reach::between;
        for (Vec2 p : places)
            for (const ClosedArea& a : areas.drawn)
                if (a.view == f.viewNamed(view)->view && a.contains(p)) s.areas.push_back(a.seed);
        REQUIRE(s.areas.size() == places.size());
        std::vector<Step> steps{base, s, s};
        nameSteps(f, areas.drawn, steps);
        CHECK(steps[0].name == "base");
        CHECK(steps[2].name == steps[1].name + " 2");
        return steps[1].name;
    };
    const Vec2 near{45, 20}, bolt{96, 40}, ring{5, 5};
    CHECK(named(Operation::cut, Role::top, {near}, false) == "pocket");
    CHECK(named(Operation::cut, Role::top, {near}, true) == "opening");
    CHECK(named(Operation::cut, Role::top, {bolt}, true) == "bore");
    CHECK(named(Operation::cut, Role::top, {bolt}, false) == "blind bore");
    CHECK(named(Operation::add, Role::top, {bolt}, false) == "boss");
    CHECK(named(Operation::add, Role::top, {near}, false) == "block");
    CHECK(named(Operation::cut, Role::front, {{45, 25}}, false) == "notch");
    CHECK(named(Operation::cut, Role::front, {{45, 15}}, false) == "pocket");
    // With the bolt's circle inside it is the ring's outer border that counts: from side to side, and open.
    CHECK(named(Operation::cut, Role::top, {ring, bolt}, false) == "slot");
    CHECK(named(Operation::intersect, Role::top, {ring}, true) == "top outline");
    // A list that was named and became shorter has no gaps in its numbers.
    std::vector<Step> shorter(3);
    for (Step& s : shorter) s.kind = StepKind::hole;
    shorter[0].name = "blind hole", shorter[1].name = "blind hole 3", shorter[2].name = "fillets R4";
    nameSteps(f, areas.drawn, shorter);
    CHECK(shorter[1].name == "blind hole 2");
    CHECK(shorter[2].name == "fillets R4");
    std::vector<Step> own(1);
    own[0].name = "what a person calls it";
    nameSteps(f, areas.drawn, own);
    CHECK(own[0].name == "what a person calls it");
}
