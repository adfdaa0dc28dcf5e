#include "window/block_desk.h"

#include "app/tables/row_table.h"

#include <QPushButton>

// What a person sees of trouble while building: steps that cannot be made any more, areas that do not close.
using namespace prism;
using namespace prism::test;
using app::MainWindow;

TEST_CASE("a step that fails leaves its last form in the box until it can be made again") {
    BlockDesk d;
    d.buildBlock();
    d.choose("stepKind", static_cast<int>(StepKind::hole));
    d.clickSheet(Role::top, {20, 25});
    d.press("acceptStep");
    d.choose("stepKind", static_cast<int>(StepKind::fillet));
    d.clickBox({40, 0, 20});
    d.type("stepNumber0", "6");
    d.press("acceptStep");
    const double rounded = d.volume();
    CHECK(d.shown().lost.empty());
    auto* table = d.find<app::RowTable>("stepTable");
    const auto radius = [&](const char* r) {
        hands::click(table->viewport(), table->visualRect(table->rows().index(2, 2)).center());
        d.press("editStep");
        d.type("stepNumber0", r);
        d.press("acceptStep");
    };
    radius("24"); // more than the block is high
    CHECK(d.volume() > rounded);
    CHECK_FALSE(d.shown().lost.empty());
    CHECK(d.shown().last_forms.contains("fillet 1"));
    CHECK(table->rows().cell(2, 5).tip.contains("last form"));
    // Another change, and it is still there.
    hands::click(table->viewport(), table->visualRect(table->rows().index(1, 2)).center());
    d.press("removeStep");
    CHECK(d.shown().last_forms.contains("fillet 1"));
    hands::key("ctrl+z");
    d.waitIdle();
    radius("5");
    CHECK(d.shown().lost.empty());
    CHECK(d.volume() > rounded);
}

TEST_CASE("an outline that does not quite close is shown there, and closed by a click") {
    DxfText t;
    // The lower right corner is open by 1.1 mm.
    t.entities()
        .line(0, 0, 79, 0)
        .line(80, 0.5, 80, 20)
        .line(80, 20, 0, 20)
        .line(0, 20, 0, 0)
        .box(0, 60, 80, 110);
    t.text(120, 0, "THIRD ANGLE PROJECTION");
    const std::string path = temporary("open.dxf");
    std::ofstream(path) << t.done();
    TestDesk d;
    d.window.open(QString::fromStdString(path));
    d.waitIdle();
    d.goTo(MainWindow::build);
    d.clickSheet(Role::front, {40, 10});
    CHECK_FALSE(d.find<QPushButton>("acceptStep")->isEnabled()); // no area there
    hands::moveTo(d.sheet()->mapToGlobal(d.at(Role::front, {80, 0.5})));
    hands::settle(100);
    d.clickSheet(Role::front, {80, 0.5});
    CHECK(d.window.session().undoLabel() == "Close the gap");
    d.clickSheet(Role::front, {40, 10});
    d.press("acceptStep");
    CHECK(d.volume() == Approx(80 * 50 * 20));
}
