#include "core/project/carry_over.h"
#include "core/project/levels.h"
#include "core/project/project_file.h"
#include "support/step_block.h"

#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <fstream>

// Levels: named places along an axis that steps reach to. The part is a block of 80 x 50 x 20 with a shoulder
// 12 above its floor, from 30 on.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

DxfText shoulder() {
    DxfText t;
    t.layer("HIDDEN", "HIDDEN").entities();
    t.line(0, 0, 80, 0).line(80, 0, 80, 12).line(80, 12, 30, 12).line(30, 12, 30, 20).line(30, 20, 0, 20);
    t.line(0, 20, 0, 0).box(0, 60, 80, 110).line(30, 60, 30, 110);
    return t;
}

const std::string kLevels =
    R"("levels": [{"name": "shelf", "axis": "z", "at": {"view": "front", "at": [80, 12]}}], )";
const std::string kSteps = R"("steps": [
    {"kind": "extrude", "name": "low", "view": "top", "areas": [[10, 25], [60, 25]], "to": {"level": "shelf"}},
    {"kind": "extrude", "name": "high", "view": "top", "areas": [[10, 25]], "from": {"level": "shelf"}}])";

std::string list() {
    return "{" + kLevels + kSteps + "}";
}
constexpr double kVolume = 80 * 50 * 12 + 30 * 50 * 8;

} // namespace

TEST_CASE("steps reach to a level, which is a number of the ledger") {
    Document d = built(shoulder(), list());
    CHECK(volumeOf(d) == Approx(kVolume));
    const LedgerEntry* e = d.model().ledger.named("shelf");
    REQUIRE(e);
    CHECK(e->value == Approx(12));
    CHECK(e->state == EntryState::reports);
    CHECK_FALSE(d.model().drawn_ledger.named("shelf")); // no dimension of the sheet

    Choices c = d.choices();
    c.numbers["shelf"].value = 15;
    REQUIRE(d.apply("Higher", c, quiet));
    CHECK(d.model().ledger.named("shelf")->state == EntryState::drives);
    CHECK(d.model().ledger.named("shelf")->value == Approx(15));
    // The line of the shoulder has gone up; the top has stayed.
    CHECK(volumeOf(d) == Approx(80 * 50 * 15 + 30 * 50 * 5));

    // A formula of a step may speak of it.
    c.steps[1].to.kind = Bound::Kind::value, c.steps[1].to.value = {0, "shelf / 3"};
    REQUIRE(d.apply("By formula", c, quiet));
    CHECK(volumeOf(d) == Approx(80 * 50 * 15 + 30 * 50 * 5));
}

TEST_CASE("a level comes through a project file, and its name through a change of it") {
    Document d = built(shoulder(), list());
    Choices c = d.choices();
    c.numbers["shelf"].value = 15;
    c.steps[1].to.kind = Bound::Kind::value, c.steps[1].to.value = {0, "shelf / 3"};
    CHECK(choicesFromJson(toJson(c)) == c);
    renameLevel(c.levels, c.steps, c.numbers, "shelf", "seat");
    CHECK(c.levels.front().name == "seat");
    CHECK(c.steps[0].to.level == "seat");
    CHECK(c.steps[1].to.value.formula == "seat / 3");
    CHECK(c.numbers.at("seat").value == 15.0);
    CHECK_FALSE(c.numbers.contains("shelf"));
    REQUIRE(d.apply("Another name", c, quiet));
    CHECK(volumeOf(d) == Approx(80 * 50 * 15 + 30 * 50 * 5));
}

TEST_CASE("a step whose level is gone says so, or keeps the mark") {
    Document d = built(shoulder(), list());
    Choices c = d.choices();
    const PartLevel shelf = c.levels.front();
    c.levels.clear();
    REQUIRE(d.apply("Without it", c, quiet));
    CHECK_FALSE(d.model().build.steps[0].ok);
    CHECK(d.model().build.steps[0].message == "there is no level named shelf");
    dropLevel(c.steps, shelf);
    REQUIRE(d.apply("Marks instead", c, quiet));
    CHECK(volumeOf(d) == Approx(kVolume));
}

TEST_CASE("names of levels are names of numbers, and nobody else's") {
    Document d = built(shoulder(), list());
    const Ledger& l = d.model().ledger;
    CHECK_FALSE(wrongInName("floor_2", l));
    CHECK(wrongInName("shelf", l)); // taken
    CHECK(wrongInName("x7", l));    // a dimension may come to be called so
    CHECK(wrongInName("two words", l));
    CHECK(wrongInName("2nd", l));
    CHECK(wrongInName("", l));
    CHECK(freshLevelName(l) == "level1");
}

TEST_CASE("a wrong field of a level is named") {
    CHECK(wrongField(R"({"levels": [{"name": "a b", "at": {"view": "front", "at": [0, 0]}}], "steps": []})")
              .find("level 1.name") != std::string::npos);
    CHECK(wrongField(R"({"levels": [{"name": "a"}], "steps": []})").find("level 1.at: is needed") !=
          std::string::npos);
    CHECK(wrongField(R"({"levels": [], "steps": [], "sets": []})").find("build list.sets: is not known") !=
          std::string::npos);
    // A view that does not show the axis.
    const Document d = built(shoulder(), R"({"levels": [{"name": "deep", "axis": "y", "at": {"view": "front",
        "at": [80, 12]}}], "steps": [{"kind": "extrude", "view": "front", "areas": [[10, 5]], "to": {"level": "deep"}}]})");
    CHECK_FALSE(d.model().build.steps[0].ok);
    CHECK(d.model().ledger.named("deep")->state == EntryState::loose);
}

TEST_CASE("levels go where their lines go when the sheet is read again") {
    Document d = built(shoulder(), list());
    const std::string path = temporary("raised.dxf");
    // The same sheet with the shoulder at 14.
    DxfText r;
    r.layer("HIDDEN", "HIDDEN").entities();
    r.line(0, 0, 80, 0).line(80, 0, 80, 14).line(80, 14, 30, 14).line(30, 14, 30, 20).line(30, 20, 0, 20);
    r.line(0, 20, 0, 0).box(0, 60, 80, 110).line(30, 60, 30, 110);
    std::ofstream(path) << r.text(120, 0, "THIRD ANGLE PROJECTION").done();
    const auto again = d.reread(path, quiet);
    REQUIRE(again);
    CHECK(again->misfits.empty());
    CHECK(d.choices().levels.front().mark.at.y == Approx(14));
    CHECK(volumeOf(d) == Approx(80 * 50 * 14 + 30 * 50 * 6));
}
