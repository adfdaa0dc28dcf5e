#include "support/bracket.h"
#include "window/desk.h"

#include "app/box/box_canvas.h"
#include "core/delivering/step_file.h"

#include <QSlider>
#include <QTemporaryDir>

using namespace prism;
using namespace prism::test;
using app::MainWindow;

namespace {

void pick(TestDesk& d, Role view, const std::vector<Vec2>& areas) {
    for (Vec2 p : areas) d.clickSheet(view, p);
}

void operation(TestDesk& d, Operation o) {
    d.choose("stepOperation", static_cast<int>(o));
}

void reachThrough(TestDesk& d) {
    d.choose("stepReach", 1);
}

void reachBetween(TestDesk& d, Role view, Vec2 from, Vec2 to) {
    d.choose("fromKind", 1);
    d.press("fromPick");
    d.clickSheet(view, from);
    d.choose("toKind", 1);
    d.press("toPick");
    d.clickSheet(view, to);
}

void buildBracket(TestDesk& d) {
    const Role f = Role::front, t = Role::top;
    d.goTo(MainWindow::build);
    pick(d, f, {{5, 7}, {40, 7}, {64, 7}, {78, 7}, {86, 7}});
    reachThrough(d);
    d.press("acceptStep");
    CHECK(d.model().build.measure.volume == Approx(60 * (92 * 14 + 28 * 8)));

    pick(d, f, {{30, 30}, {42, 62}});
    reachBetween(d, t, {27, 10}, {27, 30});
    d.press("acceptStep");
    pick(d, t, {{6, 50}});
    reachBetween(d, f, {6, 14}, {6, 30});
    d.press("acceptStep");
    pick(d, t, {{113, 17}});
    reachBetween(d, f, {100, 8}, {113, 30});
    d.press("acceptStep");

    operation(d, Operation::cut);
    pick(d, f, {{42, 62}});
    reachThrough(d);
    d.press("acceptStep");
    pick(d, t, {{78, 14}, {78, 46}});
    reachThrough(d);
    d.press("acceptStep");
    pick(d, t, {{38, 44}});
    reachThrough(d);
    d.press("acceptStep");
}

void checkProved(TestDesk& d, double volume) {
    CHECK(d.volume() == Approx(volume).epsilon(1e-8));
    REQUIRE(d.model().proof);
    CHECK(d.model().proof->missing == 0);
    CHECK(d.model().proof->extra == 0);
}

/// Middle of a dimension's text on the canvas, by what it says and the view it is in.
QPoint textAt(TestDesk& d, const std::string& text, Role view) {
    for (const LedgerEntry& e : d.model().ledger.entries)
        if (e.text == text && d.model().views.views[e.view].role == view)
            return d.sheet()->toScreen(d.shown().sheet.dimensions[e.dimension].text_at).toPoint();
    FAIL("no dimension says " << text);
    return {};
}

void retype(TestDesk& d, const std::string& text, Role view, const QString& value) {
    hands::doubleClick(d.sheet(), textAt(d, text, view));
    hands::settle(150);
    hands::key("ctrl+a");
    hands::type(value);
    hands::key("Return");
    d.waitIdle();
}

} // namespace

TEST_CASE("a person takes the bracket from the drawing to a changed solid as STEP") {
    QTemporaryDir folder;
    const QString project = folder.filePath("bracket.uprism"), step = folder.filePath("bracket.step");
    Bracket b;
    {
        TestDesk d;
        d.withFileDialog("ctrl+o", PRISM_DEMO "/roller-bracket.dxf");
        REQUIRE(d.window.session().hasSheet());
        CHECK(d.model().drawing->dimensions.size() == 25);

        // Views: the wrong angle by a slip, seen and undone.
        d.goTo(MainWindow::views);
        CHECK(d.find<app::RowTable>("viewTable")->rows().rowCount() == 3);
        d.press("firstAngle");
        CHECK(d.model().views.withRole(Role::bottom));
        hands::key("ctrl+z");
        d.waitIdle();
        CHECK(d.model().views.withRole(Role::top));

        // Fold: the hinge by key and by mouse.
        d.goTo(MainWindow::fold);
        auto* hinge = d.find<QSlider>("hingeSlider");
        auto* box = d.window.findChild<app::BoxCanvas*>();
        hands::click(hinge, {hinge->width() / 2, hinge->height() / 2});
        hands::key("Home");
        CHECK(box->hinge() == 0);
        hands::drag(hinge, {6, hinge->height() / 2}, {hinge->width() - 6, hinge->height() / 2});
        CHECK(box->hinge() > 0.95);
        hands::key("End");
        CHECK(box->hinge() == 1);
        CHECK(d.find<app::RowTable>("tieTable")->rows().rowCount() == 3);

        d.goTo(MainWindow::check);
        CHECK(d.find<app::RowTable>("findingTable")->rows().rowCount() == 0);

        buildBracket(d);
        checkProved(d, b.volume());

        // Drive: three numbers, one after another, with a comma and with a point as people write them.
        d.goTo(MainWindow::drive);
        retype(d, "120", Role::front, "131,5");
        checkProved(d, (b.length = 131.5, b.volume()));
        hands::key("ctrl+z");
        d.waitIdle();
        checkProved(d, Bracket{}.volume());
        hands::key("ctrl+shift+z");
        d.waitIdle();
        checkProved(d, b.volume());
        retype(d, "2x Ø9", Role::top, "11.2");
        checkProved(d, (b.hole = 11.2, b.volume()));
        retype(d, "R20", Role::front, "dia1 + 2 mm");
        checkProved(d, (b.radius = 18, b.volume()));

        d.withFileDialog("ctrl+s", project);
        CHECK_FALSE(d.window.session().modified());
        d.withFileDialog("ctrl+e", step);
        INFO(d.find<QLabel>("messageText")->text().toStdString()
             << " / " << d.find<QLabel>("pointedAt")->text().toStdString());
        const auto solid = readStep(step.toStdString());
        INFO((solid ? std::string() : solid.error().message));
        REQUIRE(solid);
        CHECK(measured(*solid).volume == Approx(b.volume()).epsilon(1e-8));
    }
    TestDesk again;
    again.withFileDialog("ctrl+o", project);
    checkProved(again, b.volume());
    CHECK(again.window.session().choices().steps.size() == 7);
}

TEST_CASE("the build list can be switched, reordered, edited and emptied, and all of it undone") {
    TestDesk d;
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    buildBracket(d);
    const double whole = d.volume();
    auto* table = d.find<app::RowTable>("stepTable");
    auto rowPoint = [&](int row, int column) { return table->visualRect(table->rows().index(row, column)); };
    // Untick the bore: it closes.
    const QRect tick = rowPoint(4, 0);
    table->scrollTo(table->rows().index(4, 0));
    hands::click(table->viewport(), {tick.left() + 10, rowPoint(4, 0).center().y()});
    d.waitIdle();
    CHECK(d.volume() == Approx(whole + 3.14159265358979 * 64 * 20));
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.volume() == Approx(whole));
    // Edit the second step: its far end becomes a distance.
    table->scrollTo(table->rows().index(1, 2));
    hands::click(table->viewport(), rowPoint(1, 2).center());
    d.press("editStep");
    d.choose("toKind", 2);
    auto* value = d.find<QWidget>("toValue");
    hands::doubleClick(value, value->rect().center());
    hands::key("ctrl+a");
    hands::type("15");
    hands::key("Tab");
    d.press("acceptStep");
    CHECK(d.volume() < whole);
    CHECK(d.model().build.measure.valid);
    hands::key("ctrl+z");
    d.waitIdle();
    // Moving the first cut before the material it cuts changes the solid; undo brings it back.
    table->scrollTo(table->rows().index(4, 2));
    hands::click(table->viewport(), rowPoint(4, 2).center());
    for (int i = 0; i < 4; ++i) d.press("stepUp");
    CHECK_FALSE(d.model().build.steps[0].ok); // nothing yet to cut
    for (int i = 0; i < 4; ++i) hands::key("ctrl+z"), d.waitIdle();
    CHECK(d.volume() == Approx(whole));
    hands::click(table->viewport(), rowPoint(0, 2).center());
    d.press("removeStep");
    CHECK(d.window.session().choices().steps.size() == 6);
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.volume() == Approx(whole));
}

TEST_CASE("a turned part is built round a picked centre line") {
    TestDesk d;
    d.window.open(PRISM_DEMO "/weight-pulley.dxf");
    d.waitIdle();
    d.goTo(MainWindow::build);
    d.choose("stepKind", 1);
    pick(d, Role::front, {{6, 70}, {17, 85}, {28, 85}, {39, 85}, {48, 70}});
    d.press("pickAxis");
    d.clickSheet(Role::front, {65, 55}); // the level line's end, outside the part
    d.press("acceptStep");
    CHECK(d.volume() == Approx(3.14159265358979 * 93568).epsilon(1e-8));
    CHECK(d.model().proof->clean());
}
