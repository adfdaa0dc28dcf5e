#include "core/project/project_file.h"
#include "core/project/propose_for.h"
#include "core/project/suggestion.h"
#include "support/samples.h"

#include <catch2/catch.hpp>

// What a person says beforehand of a part whose views leave something open, and lists that are completed. The
// bolt keep has two pockets behind each other, one 10 and one 20 deep; no view says which.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

double boltKeep(double near, double far) {
    return 120 * 80 * 30 - 50 * 20 * near - 50 * 28 * far - kPi * 7 * 7 * 30;
}

constexpr Vec2 kNearPocket{45, 20}, kFarPocket{45, 56}, kBolt{96, 40};

Bound atHeight(double z) {
    Bound b;
    b.kind = Bound::Kind::mark, b.mark = {Role::front, {45, z}};
    return b;
}

Step said(bool material, Vec2 area, Bound from, Bound to, const char* name = "said") {
    Step s;
    s.operation = material ? Operation::add : Operation::cut;
    s.view = Role::top, s.areas = {area}, s.from = from, s.to = to, s.name = name;
    return s;
}

Result<Proposal> proposedWith(const Document& d, std::vector<Step> facts) {
    Choices c = d.choices();
    c.facts = std::move(facts);
    return proposeFor(d.model(), c, quiet);
}

} // namespace

TEST_CASE("a fact decides between two solids that show every line") {
    const Document d = opened(demo("bolt-keep.dxf"));
    struct Case {
        Step fact;
        double near, far;
    };
    for (const Case& c : {Case{said(false, kNearPocket, atHeight(10), {}), 20, 10},
                          Case{said(true, kNearPocket, {}, atHeight(20)), 10, 20},
                          Case{said(true, kNearPocket, atHeight(10), atHeight(20)), 10, 20},
                          Case{said(false, kFarPocket, atHeight(10), atHeight(20)), 10, 20},
                          Case{said(true, kFarPocket, atHeight(0), atHeight(20)), 20, 10}}) {
        const auto p = proposedWith(d, {c.fact});
        REQUIRE(p);
        CHECK(p->clean);
        CHECK(p->build.measure.volume == Approx(boltKeep(c.near, c.far)).epsilon(1e-9));
        CHECK(p->alternatives.empty());
        CHECK(p->denied.empty());
    }
}

TEST_CASE("a fact that says what the lines say leaves both solids") {
    const Document d = opened(demo("bolt-keep.dxf"));
    Step bolt = said(false, kBolt, {}, {}, "bolt");
    bolt.reach = Reach::through;
    const auto p = proposedWith(d, {bolt, said(true, kNearPocket, {}, atHeight(10))});
    REQUIRE(p);
    CHECK(p->clean);
    REQUIRE(p->alternatives.size() == 1);
    CHECK(p->build.measure.volume + p->alternatives[0].volume ==
          Approx(boltKeep(10, 20) + boltKeep(20, 10)).epsilon(1e-9));
}

TEST_CASE("a fact against the lines of the sheet is kept, and told by its name") {
    const Document d = opened(demo("bolt-keep.dxf"));
    const auto p = proposedWith(d, {said(true, kNearPocket, {}, {}, "no pocket there")});
    REQUIRE(p);
    CHECK_FALSE(p->clean);
    CHECK(p->denied == "no pocket there");
    CHECK(p->build.measure.volume >=
          120 * 80 * 30 - 50 * 28 * 20 - kPi * 49 * 30 - 1e-3); // the near pocket is filled
}

TEST_CASE("a search tells of each solid that comes nearer, the last being the one proposed", "[slow]") {
    for (const char* sheet :
         {PRISM_TEST_DATA "/sheets/clean04.dxf", PRISM_TEST_DATA "/sheets/fault05-mirrored-side.dxf"}) {
        const Document d = opened(sheet);
        std::vector<Proposal> told;
        const auto p = proposeFor(d.model(), d.choices(), quiet,
                                  [&](const Proposal& better) { told.push_back(better); });
        REQUIRE(p);
        REQUIRE_FALSE(told.empty());
        const auto off = [](const Proposal& of) {
            double sum = 0;
            for (const ViewProof& v : of.proof.views) sum += v.off();
            return sum;
        };
        for (size_t i = 0; i < told.size(); ++i) {
            CHECK(told[i].build.ok());
            CHECK_FALSE(told[i].steps.empty());
            if (i > 0) CHECK(off(told[i]) < off(told[i - 1]) + 1e-3);
        }
        CHECK(off(told.back()) == Approx(off(*p)).margin(1e-3));
        CHECK(told.back().clean == p->clean);
    }
}

TEST_CASE("what is no fact, or not there, is told by its name") {
    const Document d = opened(demo("bolt-keep.dxf"));
    const auto why = [&](const Step& s) {
        const auto p = proposedWith(d, {s});
        return p ? "taken" : p.error().message;
    };
    Step leans = said(true, kNearPocket, {}, {});
    leans.draft = 0.1;
    CHECK(why(leans) == "fact \"said\": the sides of a fact do not lean");
    Step each = said(true, kNearPocket, {}, {});
    each.tops = {atHeight(10)};
    CHECK(why(each) == "fact \"said\": a fact has one reach for all its areas");
    Step hole;
    hole.kind = StepKind::hole, hole.places = {kBolt}, hole.name = "said";
    CHECK(why(hole) ==
          "fact \"said\": a fact is areas pushed square to their view, said to be material or air");
    Step elsewhere = said(true, kNearPocket, {}, {});
    elsewhere.view = Role::left;
    CHECK(why(elsewhere) ==
          "fact \"said\": the left view does not look along an axis of the part, or is not there");
    CHECK(why(said(true, kNearPocket, atHeight(20), atHeight(20))).starts_with("fact \"said\": "));
    CHECK(why(said(true, {300, 300}, {}, {})).starts_with("fact \"said\": "));
}

TEST_CASE("facts come through a project, change nothing of the solid that is there, and may hang on levels") {
    Document d = opened(demo("bolt-keep.dxf"));
    Choices c = d.choices();
    c.levels = {{"floor", Axis::z, {Role::front, {45, 10}}}};
    Step deep = said(false, kNearPocket, {}, {}, "deep");
    deep.from.kind = Bound::Kind::level, deep.from.level = "floor";
    c.facts = {deep};
    CHECK(choicesFromJson(toJson(c)) == c);
    REQUIRE(d.apply("Say a fact", c, quiet));
    CHECK(d.model().build.shape.IsNull());
    const auto p = proposeFor(d.model(), d.choices(), quiet);
    REQUIRE(p);
    CHECK(p->build.measure.volume == Approx(boltKeep(20, 10)).epsilon(1e-9));
    renameLevelIn(c.facts, "floor", "bottom");
    CHECK(c.facts[0].from.level == "bottom");
}

TEST_CASE("a list with facts alone is read; one with what is no fact is refused, and says so") {
    const auto list = readBuildList(
        R"({"facts": [{"kind": "extrude", "operation": "cut", "view": "top", "areas": [[45, 20]]}]})");
    REQUIRE(list);
    CHECK(list->steps.empty());
    REQUIRE(list->facts.size() == 1);
    CHECK(list->facts[0].operation == Operation::cut);
    const auto hole = readBuildList(R"({"facts": [{"kind": "hole", "view": "top", "centres": [[96, 40]]}]})");
    REQUIRE_FALSE(hole);
    CHECK(hole.error().message.find("a fact is areas pushed") != std::string::npos);
}

TEST_CASE("a finished list that is against a fact says so, with the fact's name and place") {
    Document d = opened(demo("bolt-keep.dxf"));
    const auto p = proposedWith(d, {said(true, kNearPocket, {}, atHeight(20), "shallow")}); // 10 deep
    REQUIRE(p);
    Choices c = d.choices();
    c.steps = p->steps;
    c.facts = {said(true, kNearPocket, {}, atHeight(20), "shallow"), said(false, kBolt, {}, {}, "bolt")};
    c.facts[1].reach = Reach::through;
    const auto told = [&] {
        REQUIRE(d.apply("Build", c, quiet));
        std::vector<Finding> r;
        for (const Finding& f : d.model().findings)
            if (f.kind == "fact_not_kept") r.push_back(f);
        return r;
    };
    CHECK(told().empty());
    c.facts = {said(false, kNearPocket, atHeight(10), {}, "deep")};
    const auto against = told();
    REQUIRE(against.size() == 1);
    CHECK(against[0].message ==
          "The solid shows every line of the sheet but fills what the fact \"deep\" says is air");
    CHECK(against[0].views == std::vector{d.model().figure.viewNamed(Role::top)->view});
    CHECK(against[0].at_sheet.size() == 1);
    c.facts = {said(true, kFarPocket, atHeight(10), {}, "shallow as well")};
    const auto lacks = told();
    REQUIRE(lacks.size() == 1);
    CHECK(lacks[0].message == "The solid shows every line of the sheet but lacks what the fact \"shallow as "
                              "well\" says is material");
    // Before the last step it is only not there yet.
    c.steps.pop_back();
    CHECK(told().empty());
}

TEST_CASE("a list completed towards a solid that does not show every line says so") {
    Document d = opened(PRISM_TEST_DATA "/sheets/fault08-hidden-as-visible.dxf");
    const auto goal = proposeFor(d.model(), quiet);
    REQUIRE(goal);
    REQUIRE_FALSE(goal->clean);
    Choices c = d.choices();
    c.steps = {goal->steps.front()};
    REQUIRE(d.apply("Begin", c, quiet));
    const auto done = completed(d.model(), d.choices(), *goal, quiet);
    REQUIRE(done);
    CHECK(done->added >= 1);
    CHECK_FALSE(done->left_undone.empty());
}

TEST_CASE("a list that was begun is completed to the solid that is nearest to it; its steps stay", "[slow]") {
    for (const auto& [floor, near, far] : {std::tuple{10.0, 20.0, 10.0}, {20.0, 10.0, 20.0}}) {
        Document d = opened(demo("bolt-keep.dxf"));
        Choices c = d.choices();
        Step base;
        base.view = Role::front, base.name = "block", base.reach = Reach::through;
        for (const ClosedArea& a : AreaSets(d.model().figure).drawn)
            if (a.view == d.model().figure.viewNamed(Role::front)->view) base.areas.push_back(a.seed);
        c.steps = {base, said(false, kNearPocket, atHeight(floor), {}, "near pocket")};
        REQUIRE(d.apply("Begin", c, quiet));
        const auto goal = proposeFor(d.model(), d.choices(), quiet);
        REQUIRE(goal);
        const auto done = completed(d.model(), d.choices(), *goal, quiet);
        REQUIRE(done);
        CHECK(done->added == 2); // the other pocket and the hole
        CHECK(done->missing == 0);
        CHECK(done->left_undone.empty());
        REQUIRE(done->steps.size() == 4);
        CHECK(done->built.steps == done->steps);
        CHECK(done->built.build.measure.volume == Approx(boltKeep(near, far)).epsilon(1e-9));
        CHECK(std::vector(done->steps.begin(), done->steps.begin() + 2) == c.steps);
        Choices all = c;
        all.steps = done->steps;
        REQUIRE(d.apply("Complete", all, quiet));
        CHECK(d.model().proof->proved());
        CHECK(d.model().build.measure.volume == Approx(boltKeep(near, far)).epsilon(1e-9));
        CHECK_FALSE(completed(d.model(), d.choices(), *goal, quiet));
    }
}
