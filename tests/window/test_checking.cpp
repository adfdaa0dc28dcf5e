#include "support/samples.h"
#include "window/desk.h"

#include <QComboBox>
#include <QLineEdit>
#include <filesystem>

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

namespace {

app::RowTable* sizes(TestDesk& d) {
    d.waitIdle();
    REQUIRE(hands::waitFor([&] { return d.window.session().sizes() != nullptr; }, 60000));
    hands::settle(60);
    return d.find<app::RowTable>("sizeTable");
}

void take(QComboBox* box, const QString& word) {
    box->setFocus();
    for (int i = 0; i < box->count() && box->currentText() != word; ++i) hands::key("Up");
    for (int i = 0; i < box->count() && box->currentText() != word; ++i) hands::key("Down");
    CHECK(box->currentText() == word);
    hands::settle(60);
}

} // namespace

TEST_CASE("what the dimensions leave open moves on the sheet, and is closed one by one or all at once") {
    TestDesk d;
    d.window.open(PRISM_TEST_DATA "/sheets/clean01.dxf");
    d.waitIdle();
    d.goTo(MainWindow::check);
    auto* table = sizes(d);
    const auto open = [&] { return static_cast<int>(d.window.session().sizes()->open.size()); };
    const auto numbers = [&] { return d.window.session().model().ledger.entries.size(); };
    const int first = open();
    const size_t before = numbers();
    REQUIRE(first > 4);
    d.press("showSizes");
    CHECK(table->isVisible());
    CHECK_FALSE(d.find<QPushButton>("repairAll")->isVisible());
    CHECK(table->rows().rowCount() == first + static_cast<int>(d.window.session().sizes()->twice.size()));
    CHECK_FALSE(d.find<QPushButton>("addDimension")->isEnabled()); // nothing is chosen yet

    chooseRow(table, 1);
    CHECK_FALSE(d.window.session().chosen().entities.empty());
    // It moves: the sheet does not look the same for long.
    const QImage one = d.sheet()->grab().toImage();
    CHECK(hands::waitFor([&] { return d.sheet()->grab().toImage() != one; }, 3000));
    hands::click(d.sheet(), {40, 40}); // beside everything
    chooseRow(table, 1);
    d.press("addDimension");
    table = sizes(d);
    CHECK(open() == first - 1);
    CHECK(numbers() == before + 1);
    hands::key("ctrl+z");
    table = sizes(d);
    CHECK(open() == first);

    take(d.find<QComboBox>("laying"), "Chain");
    take(d.find<QComboBox>("datumX"), "X from right");
    table = sizes(d);
    CHECK(std::ranges::any_of(d.window.session().sizes()->open,
                              [](const OpenSize& o) { return o.from == "the right end"; }));
    d.press("addAllDimensions");
    table = sizes(d);
    CHECK(open() == 0);
    CHECK(numbers() == before + static_cast<size_t>(first));
    CHECK(d.find<QPushButton>("showSizes")->text() == "Open sizes");
    REQUIRE(hands::waitFor([&] { return d.window.session().diagnosis() != nullptr; }, 60000));
    hands::settle(60);
    CHECK(d.find<QPushButton>("writeReport")->isEnabled());
    const std::string page = temporary("checked.html");
    d.window.session().writeReport(QString::fromStdString(page));
    CHECK(hands::waitFor([&] { return std::filesystem::exists(page); }, 10000));
    d.waitIdle();
    d.press("showFindings");
    CHECK(d.find<app::RowTable>("findingTable")->isVisible());
    CHECK_FALSE(table->isVisible());

    // Kept with the project.
    const std::string path = temporary("dimensioned.uprism");
    REQUIRE(d.window.session().save(QString::fromStdString(path)));
    d.window.open(QString::fromStdString(path));
    sizes(d);
    CHECK(open() == 0);
}
