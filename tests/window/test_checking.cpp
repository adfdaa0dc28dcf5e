#include "support/samples.h"
#include "window/desk.h"

#include <QLineEdit>

using namespace prism;
using namespace prism::test;
using prism::app::MainWindow;

// The Check place: findings, their repairs, and what is left as it is.

namespace {

app::RowTable* findings(TestDesk& d) {
    d.waitIdle();
    REQUIRE(hands::waitFor([&] { return d.window.session().diagnosis() != nullptr; }, 60000));
    hands::settle(60);
    return d.find<app::RowTable>("findingTable");
}

int rowOf(app::RowTable* t, const QString& words) {
    for (int i = 0; i < t->rows().rowCount(); ++i)
        if (t->rows().cell(i, 2).text.contains(words)) return i;
    FAIL(words.toStdString());
    return -1;
}

void chooseRow(app::RowTable* t, int row) {
    hands::click(t->viewport(), t->visualRect(t->rows().index(row, 2)).center());
    hands::settle(60);
}

} // namespace

TEST_CASE("a sheet with eight slips is mended by pressing repairs, one taken back, one left as it is") {
    TestDesk d;
    d.window.open(PRISM_DEMO "/bearing-pedestal-slips.dxf");
    d.waitIdle();
    d.goTo(MainWindow::check);
    auto* table = findings(d);
    REQUIRE(table->rows().rowCount() == 8);

    chooseRow(table, rowOf(table, "2.50 mm off"));
    CHECK_FALSE(d.window.session().chosen().places.empty());
    CHECK(d.find<QLabel>("findingMessage")->text().contains("X = 14.00 and 26.00"));
    CHECK(d.find<QPushButton>("repair1")->text().contains("in the top view"));
    d.press("repair1");
    table = findings(d);
    CHECK(table->rows().rowCount() == 7);

    hands::click(d.sheet(), {40, 40}); // beside everything
    hands::key("ctrl+z");
    table = findings(d);
    CHECK(table->rows().rowCount() == 8);

    // By keyboard: the last line of the table, on to its first button, and pressed.
    chooseRow(table, 0);
    for (int i = 0; i < 8; ++i) hands::key("Down");
    CHECK(table->currentRow() == 7);
    d.find<QPushButton>("repair1")->setFocus();
    hands::key("space");
    table = findings(d);
    CHECK(table->rows().rowCount() == 7);

    const int sign = rowOf(table, "R24");
    chooseRow(table, sign);
    hands::click(d.find<QLineEdit>("findingNote"));
    hands::type("an apprentice drew it");
    d.press("acceptFinding");
    table = findings(d);
    CHECK(table->rows().rowCount() == 7);
    chooseRow(table, rowOf(table, "R24"));
    CHECK(d.find<QLabel>("findingReason")->text().contains("an apprentice drew it"));

    d.press("repairAll");
    table = findings(d);
    // The wrongly drawn line is told by the solid, which all else had to be mended for.
    if (table->rows().rowCount() == 2) {
        d.press("repairAll");
        table = findings(d);
    }
    CHECK(table->rows().rowCount() == 1);
    const QString path = QString::fromStdString(temporary("mended.uprism"));
    REQUIRE(d.window.session().save(path));
    d.window.open(path);
    table = findings(d);
    REQUIRE(table->rows().rowCount() == 1);
    chooseRow(table, 0);
    d.press("takeUpAgain");
    table = findings(d);
    REQUIRE(table->rows().rowCount() == 1);
    chooseRow(table, 0);
    d.press("repair1");
    CHECK(findings(d)->rows().rowCount() == 0);
}
