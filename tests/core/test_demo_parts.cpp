#include "core/project/project_file.h"
#include "support/bracket.h"
#include "support/cover.h"
#include "support/samples.h"

#include <catch2/catch.hpp>
#include <set>

// The ten parts of the demo, built from their lists of steps: against closed forms, proved in every view, and
// with every number of the sheet changed.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

struct Part {
    const char* name;
    double volume; ///< mm^3, in closed form
};

std::vector<Part> parts() {
    // A plate with rounded corners, chamfered all round: its section shrinks by t on all sides.
    const double plate =
        12 * (130 * 90 - (4 - kPi) * 144) + (23400 - 880 + 32.0 / 3 - (4 - kPi) * (1728 - 1000) / 3.0);
    return {
        {"bearing-pedestal", 140 * 60 * 16 - 8 * 10 * 60 + 60 * 24 * 54 - kPi * 144 * 24 - 2 * kPi * 36 * 16},
        {"dial-plate", plate - 4 * kPi * 16 * 14 - kPi * 100 * 9 - kPi * 256 * 5},
        {"hinge-block", 120 * 50 * 40 - kPi * 100 * 25 - kPi * 64 * 40},
        {"lamp-bracket", 90 * 40 * 6 - 0.5 * 4 * 6 * 40 + 8 * 64 * 40 - 2 * kPi * 16 * 6},
        {"oil-cup", kPi * ((36 * 36 - 32 * 32) * 40 + (52 * 52 - 32 * 32) * 5 + (52 * 52 - 49 * 49) * 2)},
        {"roller-bracket", Bracket().volume()},
        {"stair-foot",
         110 * 50 * 16 + 22 * 50 * 56 - 0.5 * 10 * 12 * 50 + 0.5 * 58 * 38 * 10 - 14 * 18 * 9 / 6.0},
        {"vent-ring", kPi * ((35 * 35 - 25 * 25) * 18 + (50 * 50 - 25 * 25) * 12 - 6 * 4.5 * 4.5 * 12)},
        {"weight-pulley", kPi * (400 * 12 + 3025 * 20 + 2304 * 12 + 400 * 16 - 81 * 52 - 196 * 8)},
        {"worm-housing-cover", Cover().volume()},
    };
}

Document builtDemo(const char* name) {
    Document d = opened(demo(std::string(name) + ".dxf"));
    const auto list = readBuildList(bytesOf(demo(std::string(name) + ".steps.json")));
    INFO(name << (list ? "" : list.error().message));
    REQUIRE(list);
    Choices c = d.choices();
    c.levels = list->levels, c.steps = list->steps;
    REQUIRE(d.apply("Build", c, quiet));
    return d;
}

bool allMade(const Model& m) {
    return m.build.ok() && std::ranges::all_of(m.build.steps, &StepReport::ok);
}

} // namespace

TEST_CASE("the ten demo parts are built by their steps, in closed form and proved in all views") {
    std::set<StepKind> used;
    for (const Part& part : parts()) {
        INFO(part.name);
        const Document d = builtDemo(part.name);
        for (const StepReport& s : d.model().build.steps) {
            INFO(s.name << ": " << s.message);
            CHECK(s.ok);
        }
        CHECK(d.model().build.measure.volume == Approx(part.volume).epsilon(1e-6));
        REQUIRE(d.model().proof);
        CHECK(d.model().proof->proved());
        for (const Step& s : d.choices().steps) used.insert(s.kind);
    }
    CHECK(used.size() == static_cast<size_t>(kLastStepKind) + 1); // every kind there is
}

TEST_CASE("every number of the demo parts drives: the solid follows, or the refusal says why", "[slow]") {
    int tried = 0, followed = 0;
    for (const Part& part : parts()) {
        const Document start = builtDemo(part.name);
        for (const LedgerEntry& e : start.model().ledger.entries) {
            if (e.state != EntryState::drives) continue;
            for (double by : {0.95, 1.05}) {
                Document d = start;
                Choices c = d.choices();
                c.numbers[e.name].value = e.value * by;
                ++tried;
                INFO(part.name << ": " << e.name << " from " << e.value << " to " << e.value * by);
                if (const auto done = d.apply("Change", c, quiet); !done) {
                    CHECK_FALSE(done.error().message.empty());
                    continue;
                }
                for (const StepReport& s : d.model().build.steps) {
                    INFO(s.name << ": " << s.message);
                    CHECK(s.ok);
                }
                CHECK(allMade(d.model()));
                const bool proved = d.model().proof && d.model().proof->clean();
                CHECK(proved);
                followed += proved;
            }
        }
    }
    CHECK(followed >= 272);
    WARN(followed << " of " << tried << " changes of a number followed by the solid");
}
