#include "support/cover.h"
#include "support/samples.h"

#include "core/project/solved_sheet.h"

// Sections, auxiliary views and close-ups as parts of the figure: they drive, are built from and are proved.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

Document builtCover() {
    Document d = opened(demo("worm-housing-cover.dxf"));
    Choices c = d.choices();
    c.steps = coverSteps(d.model());
    REQUIRE(d.apply("Build", c, quiet));
    return d;
}

/// The cover's numbers in the order in which the sheet states them.
const std::vector<double Cover::*> kStated{
    &Cover::pad_from,   &Cover::oil_from,  &Cover::pad_length,   &Cover::pad_y,         &Cover::oil_y,
    &Cover::pad_width,  &Cover::oil,       &Cover::pad_height,   &Cover::oil_depth,     &Cover::width,
    &Cover::bore_x,     &Cover::bore_z,    &Cover::height,       &Cover::slope_z,       &Cover::bore,
    &Cover::groove_x,   &Cover::slope_x,   &Cover::pocket_from,  &Cover::pocket_length, &Cover::depth,
    &Cover::wall_front, &Cover::wall_back, &Cover::groove_width, &Cover::groove_depth,  &Cover::pocket_floor};

void checkProof(const Model& m) {
    REQUIRE(m.proof);
    for (const ViewProof& v : m.proof->views) {
        for (const ProofPiece& p : v.pieces) {
            if (p.state == LineState::matched) continue;
            const Vec2 a = startOf(p.shape), b = endOf(p.shape);
            INFO(nameOf(v.name) << " " << nameOf(p.state) << " " << a.x << "," << a.y << " " << b.x << ","
                                << b.y << (p.hidden ? " hidden" : ""));
            CHECK(p.state == LineState::matched);
        }
        CHECK(v.areas_off.empty());
    }
    CHECK(m.proof->total() == 5);
    CHECK(m.proof->proved());
}

} // namespace

TEST_CASE("the cover is built from all its views and every one of them proves it") {
    const Document d = builtCover();
    const Model& m = d.model();
    for (const StepReport& s : m.build.steps) {
        INFO(s.name << ": " << s.message);
        CHECK(s.ok);
    }
    CHECK(m.build.measure.volume == Approx(Cover().volume()).epsilon(1e-6));
    checkProof(m);
    const auto section = std::ranges::find(m.proof->views, ViewName(Role::section, "A"), &ViewProof::name);
    REQUIRE(section != m.proof->views.end());
    CHECK(section->areas ==
          6); // the floor with both walls up to the bore, the walls above it, bore and pocket
}

TEST_CASE("every number of every view of the cover drives it, and every view follows") {
    Document d = builtCover();
    REQUIRE(d.model().ledger.entries.size() == kStated.size());
    for (size_t i = 0; i < kStated.size(); ++i) {
        const LedgerEntry e = d.model().ledger.entries[i];
        INFO(e.name << " of the " << nameOf(d.model().figure.viewById(e.view)->name) << " view, " << e.text);
        Cover changed;
        REQUIRE(e.drawn == Approx(changed.*kStated[i]));
        changed.*kStated[i] *= 1.03;
        Choices c = d.choices();
        c.numbers[e.name].value = changed.*kStated[i];
        Document driven = d;
        REQUIRE(driven.apply("Change", c, quiet));
        CHECK(driven.model().build.measure.volume == Approx(changed.volume()).epsilon(1e-6));
        checkProof(driven.model());
    }
}
