#include "support/bracket.h"
#include "support/samples.h"
#include "support/step_block.h"

#include "core/building/step_list.h"
#include "core/project/part_links.h"
#include "core/project/preview.h"
#include "core/project/project_file.h"

#include <sstream>

using namespace prism;
using namespace prism::test;

namespace {

/// "a b c" as steps of these names; "b|" stops behind b, "c:g" belongs to group g.
std::vector<Step> listed(const std::string& text) {
    std::vector<Step> r;
    std::istringstream in(text);
    for (std::string word; in >> word;) {
        Step s;
        if (word.back() == '|') s.stop = true, word.pop_back();
        const size_t colon = word.find(':');
        s.name = word.substr(0, colon);
        if (colon != std::string::npos) s.group = word.substr(colon + 1);
        r.push_back(s);
    }
    return r;
}

std::string written(const std::vector<Step>& steps) {
    std::string r;
    for (const Step& s : steps)
        r += (r.empty() ? "" : " ") + s.name + (s.group.empty() ? "" : ":" + s.group) + (s.stop ? "|" : "");
    return r;
}

} // namespace

TEST_CASE("a list stops behind one step, and goes on from there") {
    auto s = listed("a b c d");
    CHECK(builtSteps(s) == 4);
    toggleStop(s, 1);
    CHECK(written(s) == "a b| c d");
    CHECK(builtSteps(s) == 2);
    goOnWith(s, listed("new")[0]);
    CHECK(written(s) == "a b new| c d");
    toggleStop(s, 0);
    CHECK(written(s) == "a| b new c d");
    toggleStop(s, 0);
    CHECK(written(s) == "a b new c d");
    goOnWith(s, listed("last")[0]);
    CHECK(written(s) == "a b new c d last");
    toggleStop(s, 5); // behind the last nothing is left out
    CHECK(builtSteps(s) == 6);
    CHECK(written(s) == "a b new c d last");
    CHECK(builtSteps({}) == 0);
}

TEST_CASE("steps are moved; as many as before are built, and groups are entered and left") {
    const auto moved = [](const char* list, size_t from, size_t to) {
        auto s = listed(list);
        moveStep(s, from, to);
        return written(s);
    };
    CHECK(moved("a b c d", 0, 2) == "b c a d");
    CHECK(moved("a b c d", 3, 0) == "d a b c");
    CHECK(moved("a b c d", 1, 1) == "a b c d");
    CHECK(moved("a b| c d", 3, 0) == "d a| b c");
    CHECK(moved("a b| c d", 1, 3) == "a c| d b");
    CHECK(moved("a b:g c:g d", 3, 2) == "a b:g d:g c:g");
    CHECK(moved("a b:g c:g d", 1, 3) == "a c:g d b");
    CHECK(moved("a b:g c:g d", 1, 2) == "a c:g b:g d");
    auto s = listed("a b c| d");
    removeStep(s, 2);
    CHECK(written(s) == "a b| d");
    removeStep(s, 0);
    CHECK(written(s) == "b| d");
}

TEST_CASE("a step's new name goes to the steps that speak of it") {
    auto s = listed("post post2 mirror round");
    s[2].kind = StepKind::mirror, s[2].of = {"post", "post2"};
    s[3].kind = StepKind::fillet, s[3].edges.step = "post";
    REQUIRE(renameStep(s, 0, "pillar"));
    CHECK(s[2].of == std::vector<std::string>{"pillar", "post2"});
    CHECK(s[3].edges.step == "pillar");
    CHECK_FALSE(renameStep(s, 0, "post2"));
    CHECK_FALSE(renameStep(s, 0, "  "));
    CHECK(s[0].name == "pillar");
    CHECK(renameStep(s, 0, "pillar"));
    // Two of one name: what speaks of them goes on speaking of both.
    s[1].name = "pillar", s[2].of = {"pillar"};
    REQUIRE(renameStep(s, 1, "other"));
    CHECK(s[2].of == std::vector<std::string>{"pillar", "other"});
    CHECK(s[3].edges.step == "pillar");
}

TEST_CASE("the solid of a list that stops is that of its steps up to there, kept in the file") {
    NoProgress quiet;
    Document d = opened(demo("roller-bracket.dxf"));
    Choices c = d.choices();
    c.steps = bracketSteps();
    REQUIRE(d.apply("Build", c, quiet));
    const double whole = d.model().build.measure.volume;
    for (size_t n = 1; n < c.steps.size(); ++n) {
        INFO(n);
        Choices stops = c;
        toggleStop(stops.steps, n - 1);
        Choices shorter = c;
        shorter.steps.resize(n);
        REQUIRE(d.apply("Stop", stops, quiet));
        const double stopped = d.model().build.measure.volume;
        const auto reports = d.model().build.steps;
        REQUIRE(reports.size() == c.steps.size());
        CHECK(std::ranges::count(reports, "not built: the list stops before it", &StepReport::message) ==
              static_cast<long>(c.steps.size() - n));
        // What comes next is tried on the solid as it is there.
        const auto next = previewOf(d.model(), stops.steps, n, c.steps[n], quiet);
        REQUIRE(next);
        REQUIRE(d.apply("Shorten", shorter, quiet));
        CHECK(d.model().build.measure.volume == Approx(stopped).epsilon(1e-12));
        REQUIRE(d.apply(
            "One more",
            [&] {
                Choices more = c;
                more.steps.resize(n + 1);
                return more;
            }(),
            quiet));
        CHECK(d.model().build.measure.volume == Approx(stopped + next->more - next->less).epsilon(1e-6));
    }
    Choices stops = c;
    toggleStop(stops.steps, 0);
    CHECK(stepsFromJson(toJson(stops.steps)) == stops.steps);
    toggleStop(stops.steps, 0);
    REQUIRE(d.apply("Go on", stops, quiet));
    CHECK(d.model().build.measure.volume == Approx(whole).epsilon(1e-12));
}

TEST_CASE("of a step that cannot be made any more the box keeps the form that it last had") {
    const auto with = [](double at) {
        return built(block(),
                     onBlock(fmt::format(
                         R"({{"kind": "hole", "name": "bore", "view": "top", "centres": [[{}, 25]]}})", at)));
    };
    const Document gone = with(500); // no circle there
    DxfText round = block();
    round.circle(60, 85, 6);
    const Document there =
        built(round, onBlock(R"({"kind": "hole", "name": "bore", "view": "top", "centres": [[60, 25]]})"));
    REQUIRE(there.model().build.ok());
    REQUIRE_FALSE(gone.model().build.steps.back().ok);
    const LastForms kept = lastForms(gone.model(), there.model(), {});
    REQUIRE(kept.size() == 1);
    CHECK(kept.contains("bore"));
    CHECK_FALSE(asOne(kept).IsNull());
    CHECK(lastForms(there.model(), gone.model(), kept).empty());    // it can be made again
    CHECK(lastForms(gone.model(), gone.model(), kept).size() == 1); // as it was kept before
    CHECK(lastForms(gone.model(), gone.model(), {}).empty());       // it never had one
    Model other = there.model();
    other.build.steps.back().name = "another";
    CHECK(lastForms(gone.model(), other, {}).empty());
    CHECK(asOne({}).IsNull());
}
