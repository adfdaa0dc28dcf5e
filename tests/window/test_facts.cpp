#include "app/places/step_editor.h"
#include "window/desk.h"

#include <QMenu>
#include <QPushButton>

using namespace prism;
using namespace prism::test;

// The bolt keep has two pockets, one 10 and one 20 deep; no view says which is the deep one.

namespace {

class KeepDesk : public TestDesk {
  public:
    KeepDesk() {
        window.open(PRISM_DEMO "/bolt-keep.dxf");
        waitIdle();
        goTo(4);
    }
    const Choices& choices() { return window.session().choices(); }
    /// The near pocket down to 20 mm, as far as the shallow floor in the front view.
    void pickNearPocket() {
        clickSheet(Role::top, {45, 20});
        clickSheet(Role::front, {45, 20});
        REQUIRE(find<QPushButton>("acceptStep")->isEnabled());
    }
    /// Opens the menu of facts and takes an entry of it.
    void say(int entry) {
        hands::click(find<QPushButton>("sayFact"));
        hands::settle(200);
        for (int i = 0; i <= entry; ++i) hands::key("Down");
        hands::key("Return");
        waitIdle();
    }
    bool messageOpen() { return find<QWidget>("message")->isVisible(); }
};

double boltKeep(double near, double far) {
    return 120 * 80 * 30 - 50 * 20 * near - 50 * 28 * far - kPi * 7 * 7 * 30;
}

} // namespace

TEST_CASE("what is known of the part is said as a fact, and the proposal keeps it") {
    KeepDesk d;
    CHECK_FALSE(d.find<QPushButton>("sayFact")->isVisible()); // nothing is picked
    d.pickNearPocket();
    d.say(0); // there is material below the shallow floor
    REQUIRE(d.choices().facts.size() == 1);
    CHECK(d.choices().facts[0].operation == Operation::add);
    CHECK(d.choices().steps.empty());
    CHECK(d.find<QPushButton>("factsPage")->text() == "Facts (1)");
    auto* table = d.find<app::RowTable>("factTable");
    REQUIRE(table->isVisible());
    CHECK(table->rows().cell(0, 1).text == "material");
    d.press("proposeSolid");
    CHECK_FALSE(d.messageOpen()); // there is one solid only
    CHECK(d.volume() == Approx(boltKeep(10, 20)).epsilon(1e-9));
    d.press("undo");
    CHECK(d.choices().steps.empty());
    d.press("undo");
    CHECK(d.choices().facts.empty());
    CHECK(d.find<QPushButton>("factsPage")->text() == "Facts");
    d.press("redo");
    REQUIRE(d.choices().facts.size() == 1);
    // Removed, both solids fit again.
    hands::click(table->viewport(), table->visualRect(table->rows().index(0, 2)).center());
    hands::settle(100);
    d.press("removeFact");
    CHECK(d.choices().facts.empty());
    d.press("proposeSolid");
    CHECK(d.messageOpen());
}

TEST_CASE("a fact against the lines is named when the proposal does not explain the sheet") {
    KeepDesk d;
    d.clickSheet(Role::top, {45, 20});
    d.choose("stepReach", 1);
    d.say(0); // the pocket is said to be filled
    REQUIRE(d.choices().facts.size() == 1);
    d.press("proposeSolid");
    REQUIRE(d.messageOpen());
    INFO(d.find<QLabel>("messageText")->text().toStdString());
    CHECK(d.find<QLabel>("messageText")->text().contains("Without the fact &quot;fact 1&quot;"));
    CHECK(d.choices().steps.empty());
}

TEST_CASE("a begun list is completed by one press, its steps stay, and one undo takes the added ones back") {
    KeepDesk d;
    CHECK_FALSE(d.find<QPushButton>("completeSteps")->isEnabled());
    d.clickSheet(Role::front, {5, 5});
    for (Vec2 p : {Vec2{45, 5}, Vec2{45, 15}, Vec2{45, 25}, Vec2{80, 5}, Vec2{115, 5}, Vec2{96, 5}})
        if (std::ranges::none_of(d.find<app::StepEditor>("stepEditor")->step().areas,
                                 [&](Vec2 seed) { return distance(seed, p) < 1e-9; }))
            d.clickSheet(Role::front, p);
    d.press("acceptStep");
    REQUIRE(d.choices().steps.size() == 1);
    const Step base = d.choices().steps[0];
    d.press("completeSteps");
    CHECK(d.choices().steps.size() > 2);
    CHECK(d.choices().steps[0] == base);
    CHECK(d.model().proof->proved());
    d.press("undo");
    CHECK(d.choices().steps.size() == 1);
    d.press("redo");
    d.press("completeSteps"); // nothing is lacking
    CHECK(d.messageOpen());
}
