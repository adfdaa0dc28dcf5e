#include "window/block_desk.h"

#include "app/tables/row_table.h"

#include <QPushButton>

// Every kind of step put together by hand, with a wrong click in between. The part is a block of 80 x 50 x 20
// with two circles, in front and top view.
using namespace prism;
using namespace prism::test;
using app::MainWindow;

TEST_CASE("an area, a click in another view and a key make a step; a stray click loses nothing") {
    BlockDesk d;
    d.clickSheet(Role::front, {40, 10});
    d.clickSheet(Role::top, {40, 10}); // an area of another view: not what is being picked
    d.clickSheet(Role::top, {90, 25}); // beside all views
    auto* editor = d.find<QWidget>("stepEditor");
    CHECK(editor->isVisible());
    d.clickSheet(Role::top, {40, 50}); // the back edge: how far
    CHECK(d.message() == "Adds 80000.0 mm³");
    d.clickSheet(Role::top, {20, 29}); // the upper end of a circle: where it begins
    CHECK(d.message() == "Adds 33600.0 mm³");
    d.enter();
    REQUIRE(d.steps() == 1);
    CHECK(d.last().areas.size() == 1);
    CHECK(d.last().name == "extrude 1");
    CHECK(d.volume() == Approx(80 * 20 * 21));
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.steps() == 0);
}

TEST_CASE("a box picks the areas within it, and like ones follow by a choice") {
    BlockDesk d;
    d.buildBlock();
    const auto corner = [&](Vec2 p) { return d.at(Role::top, p); };
    hands::drag(d.sheet(), corner({14, 19}), corner({26, 31})); // round the left circle
    d.waitIdle();
    d.choose("stepOperation", 1);
    d.choose("stepReach", 1);
    CHECK(d.message() == "Takes away 1005.3 mm³");
    hands::click(d.find<QPushButton>("moreAreas"));
    hands::settle(150);
    hands::key("Down"); // all of the same shape: the smaller circle on the right
    hands::key("Return");
    d.waitIdle();
    CHECK(d.message() == "Takes away 2010.6 mm³");
    hands::drag(d.sheet(), corner({14, 19}), corner({26, 31})); // not the left one after all
    d.waitIdle();
    CHECK(d.message() == "Takes away 1005.3 mm³");
    d.press("acceptStep");
    CHECK(d.volume() == Approx(kBlock - 3.14159265358979 * 16 * 20));
}

TEST_CASE("holes are made by clicks inside their circles, and changed by a note") {
    BlockDesk d;
    d.buildBlock();
    d.choose("stepKind", static_cast<int>(StepKind::hole));
    d.clickSheet(Role::top, {20, 25});
    d.clickSheet(Role::top, {60, 25});
    CHECK(d.message() == "Takes away 2010.6 mm³");
    d.clickSheet(Role::top, {20, 25}); // not that one after all
    d.choose("holeKind", 1);
    CHECK(d.message() == "The counterbore needs a depth");
    d.type("stepNumber3", "5");
    d.press("acceptStep");
    CHECK(d.volume() == Approx(kBlock - 3.14159265358979 * (49 * 5 + 16 * 15)));
    // The same hole becomes another by its note.
    auto* table = d.find<app::RowTable>("stepTable");
    hands::click(table->viewport(), table->visualRect(table->rows().index(1, 2)).center());
    d.press("editStep");
    d.type("holeNote", "dia 6 through");
    d.press("acceptStep");
    CHECK(d.volume() == Approx(kBlock - 3.14159265358979 * 9 * 20));
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.volume() == Approx(kBlock - 3.14159265358979 * (49 * 5 + 16 * 15)));
}

TEST_CASE("edges chosen in the box are rounded, and a radius without room says what works") {
    BlockDesk d;
    d.buildBlock();
    d.choose("stepKind", static_cast<int>(StepKind::fillet));
    d.clickBox({40, 0, 20});
    d.type("stepNumber0", "24");
    CHECK(d.message().find("the largest that works") != std::string::npos);
    d.type("stepNumber0", "6");
    d.press("acceptStep");
    const double taken = (1 - 3.14159265358979 / 4) * 36 * 80;
    CHECK(d.volume() == Approx(kBlock - taken));
    // All others that stand out, cut off.
    d.choose("stepKind", static_cast<int>(StepKind::chamfer));
    d.choose("stepEdges", static_cast<int>(EdgeChoice::Which::convex));
    d.type("stepNumber0", "1,5");
    d.press("acceptStep");
    CHECK(d.last().size.value == 1.5);
    CHECK(d.volume() < kBlock - taken - 200);
    CHECK(d.model().build.measure.valid);
}

TEST_CASE("a corner is cut off by a plane through three places that are chosen in the box") {
    BlockDesk d;
    d.buildBlock();
    d.choose("stepKind", static_cast<int>(StepKind::facet));
    d.clickBox({40, 0, 20});
    d.clickBox({80, 25, 20});
    CHECK_FALSE(d.find<QPushButton>("acceptStep")->isEnabled());
    d.clickBox({80, 0, 10});
    d.clickBox({80, 0, 20}); // the side that is taken
    d.press("acceptStep");
    CHECK(d.last().corners.size() == 3);
    CHECK(d.volume() == Approx(kBlock - 40.0 * 25 * 10 / 6));
    d.press("undo");
    CHECK(d.volume() == Approx(kBlock));
}

TEST_CASE("the block is hollowed out from a face that is chosen in the box") {
    BlockDesk d;
    d.buildBlock();
    d.choose("stepKind", static_cast<int>(StepKind::shell));
    d.clickBox({40, 25, 20});
    d.type("stepNumber0", "3");
    d.press("acceptStep");
    CHECK(d.volume() == Approx(kBlock - 74 * 44 * 17));
}

TEST_CASE("a chain of lines becomes a wall, and steps are mirrored and repeated") {
    BlockDesk d;
    d.buildBlock();
    d.choose("stepKind", static_cast<int>(StepKind::wall));
    d.clickSheet(Role::front, {10, 32});
    d.clickSheet(Role::front, {30, 45});
    d.type("stepNumber0", "4");
    d.press("acceptStep");
    const double wall = 4 * (25 + 40) * 50; // its middle line begins on the block
    CHECK(d.volume() == Approx(kBlock + wall));
    d.choose("stepKind", static_cast<int>(StepKind::hole));
    d.clickSheet(Role::top, {20, 25});
    d.press("acceptStep");
    const double bore = 3.14159265358979 * 16 * 20, through_wall = 3.14159265358979 * 16 * 4;
    CHECK(d.volume() == Approx(kBlock + wall - bore - through_wall));
    d.choose("stepKind", static_cast<int>(StepKind::pattern));
    auto* of = d.find<QAbstractButton>("stepOf");
    hands::click(of);
    hands::settle(150);
    for (int i = 0; i < 4; ++i) hands::key("Down"); // the whole, extrude 1, wall 1, hole 1
    hands::key("Return");
    d.waitIdle();
    CHECK(of->text().toStdString() == "1 step");
    d.type("stepNumber0", "9");
    d.press("acceptStep");
    CHECK(d.last().of == std::vector<std::string>{"hole 1"});
    CHECK(d.volume() == Approx(kBlock + wall - 2 * (bore + through_wall)));
    // The whole, once more at the other side of the block's end.
    d.choose("stepKind", static_cast<int>(StepKind::mirror));
    d.press("pickAxis");
    d.clickSheet(Role::front, {80, 12});
    d.press("acceptStep");
    CHECK(d.volume() == Approx(2 * (kBlock + wall - 2 * (bore + through_wall))));
}
