#include "support/bracket.h"
#include "window/block_desk.h"

#include "app/tables/row_table.h"

#include <QPushButton>

// What stands beside the build list: levels, reaches, lines that are missing, and what is suggested.
using namespace prism;
using namespace prism::test;
using app::MainWindow;

namespace {

/// The bracket of the demo with some of its steps.
class BracketDesk : public TestDesk {
  public:
    explicit BracketDesk(size_t steps) {
        window.open(PRISM_DEMO "/roller-bracket.dxf");
        waitIdle();
        window.session().change("Build", [steps](Choices& c) {
            c.steps = bracketSteps();
            c.steps.resize(steps);
        });
        waitIdle();
        goTo(MainWindow::build);
    }
    const Choices& choices() { return window.session().choices(); }
    QString page() { return find<QPushButton>("missingPage")->text(); }
};

void typeInto(TestDesk& d, app::RowTable* table, int row, int column, const char* text) {
    const QModelIndex i = table->rows().index(row, column);
    hands::doubleClick(table->viewport(), table->visualRect(i).center());
    hands::key("ctrl+a");
    hands::type(text);
    hands::key("Return");
    d.waitIdle();
}

} // namespace

TEST_CASE("a level is picked, named, reached to and driven") {
    BlockDesk d;
    d.press("levelsPage");
    auto* table = d.find<app::RowTable>("levelTable");
    d.press("newLevel");
    d.clickSheet(Role::front, {30, 45}); // the line above the block
    const auto& c = d.window.session().choices();
    REQUIRE(c.levels.size() == 1);
    CHECK(c.levels[0].name == "level1");
    CHECK_FALSE(d.find<QPushButton>("newLevel")->isChecked());
    typeInto(d, table, 0, 0, "x1");
    CHECK(c.levels[0].name == "level1"); // dimensions are called so
    CHECK(d.find<QWidget>("message")->isVisible());
    typeInto(d, table, 0, 0, "shelf");
    REQUIRE(c.levels[0].name == "shelf");
    CHECK(table->rows().cell(0, 2).text == "45 mm");
    // A step that reaches to it.
    d.clickSheet(Role::top, {5, 5});
    d.choose("toKind", 4);
    d.press("acceptStep");
    REQUIRE(d.steps() == 1);
    CHECK(d.last().to.level == "shelf");
    const double area = 80 * 50 - 3.14159265358979 * (16 + 49);
    CHECK(d.volume() == Approx(area * 45));
    CHECK(table->rows().cell(0, 3).text == "1 step");
    typeInto(d, table, 0, 2, "50");
    CHECK(d.volume() == Approx(area * 50));
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.volume() == Approx(area * 45));
    // Without it the step reaches to the line.
    hands::click(table->viewport(), table->visualRect(table->rows().index(0, 1)).center());
    d.press("removeLevel");
    CHECK(c.levels.empty());
    CHECK(d.last().to.kind == Bound::Kind::mark);
    CHECK(d.volume() == Approx(area * 45));
}

TEST_CASE("areas are given a reach each, by typing and by clicks in another view") {
    BracketDesk d(1);
    d.press("reachesPage");
    auto* table = d.find<app::RowTable>("reachTable");
    const double before = d.volume();
    d.clickSheet(Role::top, {6, 50});
    d.clickSheet(Role::top, {113, 17});
    REQUIRE(table->rows().rowCount() == 2);
    CHECK(table->rows().cell(0, 3).text == "as all");
    d.press("ownReaches");
    CHECK(table->currentRow() == 0);
    d.clickSheet(Role::front, {6, 30}); // the top of the block
    CHECK(table->rows().cell(0, 3).text == "a mark in the front view");
    CHECK(table->currentRow() == 1);
    typeInto(d, table, 1, 3, "16");
    CHECK(table->rows().cell(1, 3).text == "16");
    hands::click(d.sheet(), d.at(Role::top, {113, 50})); // one more, and not it after all
    d.waitIdle();
    CHECK(table->rows().rowCount() == 3);
    hands::settle(700); // no double click
    hands::click(d.sheet(), d.at(Role::top, {113, 50}));
    d.waitIdle();
    d.press("acceptStep");
    REQUIRE(d.choices().steps.size() == 2);
    CHECK(d.choices().steps[1].tops.size() == 2);
    // From the floor: 12 x 20 up to 30, of which 14 were there; 14 x 18 up to 16, of which 8 were.
    CHECK(d.volume() - before == Approx(12 * 20 * 16 + 14 * 18 * 8));
}

TEST_CASE("step after step is suggested until no line is missing") {
    BracketDesk d(1);
    CHECK(d.page().startsWith("Missing lines ("));
    d.press("missingPage");
    auto* table = d.find<app::RowTable>("missingTable");
    int missing = table->rows().rowCount();
    CHECK(missing > 20);
    // One for a line that is chosen in the list.
    hands::click(table->viewport(), table->visualRect(table->rows().index(0, 1)).center());
    d.press("suggestForLine");
    for (int n = 0; n < 10 && missing > 0; ++n) {
        CHECK(d.find<QPushButton>("acceptStep")->isEnabled());
        d.sheet()->setFocus();
        d.press("acceptStep");
        CHECK(table->rows().rowCount() < missing);
        missing = table->rows().rowCount();
        if (missing > 0) d.press("suggestStep");
    }
    CHECK(missing == 0);
    CHECK(d.page() == "Missing lines");
    CHECK(d.model().proof->proved());
    d.press("suggestStep");
    CHECK(d.find<QWidget>("message")->isVisible()); // there is none any more
}

TEST_CASE("what an area most likely does is offered at once, and taken by one key") {
    BracketDesk d(1);
    const double before = d.volume();
    d.clickSheet(Role::top, {6, 50});
    const auto offered = [&] { return d.sheet()->hint().startsWith("Likely: add"); };
    REQUIRE(hands::waitFor(offered, 30000));
    hands::key("shift+Return");
    d.waitIdle();
    REQUIRE(d.choices().steps.size() == 2);
    CHECK(d.volume() - before == Approx(12 * 20 * 16));
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.volume() == Approx(before));
    // Once something else was said, the offer is gone.
    d.clickSheet(Role::top, {6, 50});
    REQUIRE(hands::waitFor(offered, 30000));
    d.choose("stepReach", 1);
    CHECK_FALSE(offered());
    hands::key("shift+Return");
    d.waitIdle();
    CHECK(d.choices().steps.size() == 1);
}

TEST_CASE("faces chosen in the box get a layer, a lip and a flange, and are tilted") {
    BlockDesk d;
    d.buildBlock();
    d.choose("stepKind", static_cast<int>(StepKind::thicken));
    d.clickBox({40, 25, 20});
    d.type("stepNumber0", "3");
    d.press("acceptStep");
    CHECK(d.volume() == Approx(80 * 50 * 23));
    hands::key("ctrl+z");
    d.waitIdle();
    d.choose("stepKind", static_cast<int>(StepKind::lip));
    d.clickBox({40, 25, 20});
    hands::settle(700);       // no double click
    d.clickBox({40, 25, 20}); // not it after all
    CHECK_FALSE(d.find<QPushButton>("acceptStep")->isEnabled());
    hands::settle(700);
    d.clickBox({40, 25, 20});
    d.type("stepNumber0", "4");
    d.type("stepNumber1", "5");
    d.press("acceptStep");
    CHECK(d.volume() == Approx(kBlock + (80 * 50 - 72 * 42) * 5));
    hands::key("ctrl+z");
    d.waitIdle();
    d.choose("stepKind", static_cast<int>(StepKind::flange));
    d.clickBox({40, 25, 20});
    d.type("stepNumber0", "6");
    d.type("stepNumber1", "4");
    d.press("acceptStep");
    CHECK(d.volume() == Approx(kBlock + (92 * 62 - 80 * 50) * 4));
    hands::key("ctrl+z");
    d.waitIdle();
    d.choose("stepKind", static_cast<int>(StepKind::tilt));
    d.clickBox({40, 25, 20});
    d.press("pickAxis");
    d.clickSheet(Role::front, {10, 32}); // an upright line: no tilt leads there
    CHECK(d.message().find("runs square") != std::string::npos);
    d.press("pickAxis");
    d.clickSheet(Role::front, {30, 45});
    d.press("acceptStep");
    CHECK(d.volume() == Approx(80 * 50 * 45));
}
