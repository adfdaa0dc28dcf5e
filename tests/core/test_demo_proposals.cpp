#include "support/integral.h"
#include "support/samples.h"

#include "core/checking/open_sizes.h"
#include "core/project/propose_for.h"

using namespace prism;
using namespace prism::test;

// The demo sheets that ask for more than areas drawn through, proposed from their lines alone.

namespace {

struct Made {
    Document document;
    std::vector<Alternative> alternatives;
};

Made proposed(const char* sheet) {
    NoProgress quiet;
    Document d = opened(demo(sheet));
    auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    CHECK(p->clean);
    Choices c = d.choices();
    c.steps = p->steps;
    REQUIRE(d.apply("Propose", c, quiet, Stage::solid, {p->steps, p->build, p->proof}));
    REQUIRE(d.model().proof);
    CHECK(d.model().proof->proved());
    return {std::move(d), std::move(p->alternatives)};
}

double volumeOf(const Made& m) {
    return m.document.model().build.measure.volume;
}

double stayBracket() {
    const double plate = (130 * 70 - (4 - kPi) * 12 * 12) * 15, boss = kPi * 25 * 25 * 60,
                 bore = kPi * 15 * 15 * 75, bolts = 2 * kPi * 5.5 * 5.5 * 15;
    // The rib falls by 45 over 40 from the side of the boss at X 65 to X 105; slice by slice of Y.
    const double rib = integral(-5, 5, [](double y) {
        const double l = 105 - (40 + std::sqrt(25 * 25 - y * y));
        return 45.0 / 40 * l * l / 2;
    });
    return plate + boss - bore - bolts + rib;
}

double shutterShaft() {
    const double chamfered = kPi / 3 * 2 * (13 * 13 + 13 * 15 + 15 * 15),
                 turned = kPi * (15 * 15 * (38 + 50) + 22 * 22 * 60);
    const double keyway = integral(
        -4, 4,
        [](double y) {
            return (16 + 2 * std::sqrt(std::max(0.0, 16 - y * y))) * (std::sqrt(225 - y * y) - 10);
        },
        400'000);
    const double flat = 25 * (225 * std::acos(11.0 / 15) - 11 * std::sqrt(225 - 121.0));
    const double hole = integral(
        -4, 4, [](double z) { return 4 * std::sqrt(std::max(0.0, 16 - z * z)) * std::sqrt(22 * 22 - z * z); },
        400'000);
    return chamfered + turned - keyway - flat - hole;
}

double deckChock() {
    return 110 * 70 * 55 - 24 * 17 * 70 - kPi * 8 * 8 * 70 - 45 * 45 * 33 / 6.0;
}

/// With the near and the far pocket so deep.
double boltKeep(double near, double far) {
    return 120 * 80 * 30 - 50 * 20 * near - 50 * 28 * far - kPi * 7 * 7 * 30;
}

} // namespace

TEST_CASE(
    "a rib that runs into a boss, a shaft with keyway, flat and cross hole, and an oblique cut are proposed "
    "exactly, with nothing left open") {
    for (const auto& [sheet, volume] : {std::pair{"stay-bracket.dxf", stayBracket()},
                                        {"shutter-shaft.dxf", shutterShaft()},
                                        {"deck-chock.dxf", deckChock()}}) {
        INFO(sheet);
        const Made m = proposed(sheet);
        CHECK(volumeOf(m) == Approx(volume).epsilon(1e-7));
        CHECK(m.alternatives.empty());
        for (const Finding& f : m.document.model().findings) {
            INFO(f.kind << ": " << f.message);
            CHECK(f.severity == Severity::note);
        }
        NoProgress quiet;
        const Model& model = m.document.model();
        const Completeness sizes = completenessOf(
            {*model.drawing, model.sheet, model.views, model.drawn, model.drawn_ledger}, {}, quiet);
        CHECK(sizes.open.empty());
        CHECK(sizes.twice.empty());
    }
}

TEST_CASE("of two pockets behind each other either may be the deep one: both solids are told, and what would "
          "settle it") {
    const Made m = proposed("bolt-keep.dxf");
    REQUIRE(m.alternatives.size() == 1);
    std::vector<double> volumes{volumeOf(m), m.alternatives[0].volume};
    std::ranges::sort(volumes);
    CHECK(volumes[0] == Approx(boltKeep(10, 20)).epsilon(1e-9));
    CHECK(volumes[1] == Approx(boltKeep(20, 10)).epsilon(1e-9));
    INFO(m.alternatives[0].differs);
    CHECK(m.alternatives[0].differs.find("a right view or a section at Z 15 would tell") !=
          std::string::npos);
}

TEST_CASE("every number of three of these sheets, changed by 3 %, still gives a solid that shows the sheet",
          "[slow]") {
    for (const char* sheet : {"stay-bracket.dxf", "deck-chock.dxf", "bolt-keep.dxf"}) {
        const Made m = proposed(sheet);
        int driven = 0;
        for (const LedgerEntry& e : m.document.model().ledger.entries) {
            INFO(sheet << " " << e.name);
            NoProgress quiet;
            Document d = m.document;
            Choices c = d.choices();
            c.numbers[e.name].value = e.value * 1.03;
            REQUIRE(d.apply("Change", c, quiet));
            REQUIRE(d.model().proof);
            CHECK(d.model().proof->proved());
            CHECK(d.model().build.measure.valid);
            ++driven;
        }
        CHECK(driven >= 9);
    }
}
