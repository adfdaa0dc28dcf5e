#include "window/desk.h"

#include <QDir>
#include <QDoubleSpinBox>
#include <QFile>
#include <QLineEdit>
#include <QStandardPaths>
#include <QTemporaryDir>

using namespace prism;
using namespace prism::test;
using app::MainWindow;

namespace {

/// A plate with a corner open by 0.3, a line drawn twice, and an end 1.2 from its corner.
QString damagedSheet(const QTemporaryDir& folder, const char* name = "damaged.dxf", double x = 80) {
    QString t = "0\nSECTION\n2\nENTITIES\n";
    int handle = 100;
    auto line = [&](double ax, double ay, double bx, double by) {
        t += QString("0\nLINE\n5\n%1\n8\nPART\n10\n%2\n20\n%3\n11\n%4\n21\n%5\n")
                 .arg(handle++, 0, 16)
                 .arg(ax)
                 .arg(ay)
                 .arg(bx)
                 .arg(by);
    };
    line(0, 0, x - 0.3, 0), line(x, 0, x, 50), line(x, 50, 0, 50), line(0, 50, 0, 0), line(x, 0, x, 50);
    line(120, 0, 160, 0), line(160, 0, 160, 50), line(160, 50, 120, 50), line(120, 50, 120, 1.2);
    QFile f(folder.filePath(name));
    REQUIRE(f.open(QIODevice::WriteOnly));
    f.write((t + "0\nENDSEC\n0\nEOF\n").toLatin1());
    return f.fileName();
}

int rowOf(app::RowTable* t, const QString& text) {
    for (int i = 0; i < t->rows().rowCount(); ++i)
        if (t->rows().cell(i, 0).text == text) return i;
    return -1;
}

void clickTick(app::RowTable* t, int row) {
    const QRect cell = t->visualRect(t->rows().index(row, 0));
    hands::click(t->viewport(), {cell.left() + 10, cell.center().y()});
}

int closed(const Model& m) {
    return static_cast<int>(std::count_if(m.sheet.repairs.begin(), m.sheet.repairs.end(),
                                          [](const Repair& r) { return r.kind == "gap_closed" && r.on; }));
}

} // namespace

TEST_CASE("repairs are seen, taken back one by one and by kind, and a wider gap is allowed") {
    QTemporaryDir folder;
    TestDesk d;
    d.window.open(damagedSheet(folder));
    d.waitIdle();
    d.press("repairsPage");
    auto* kinds = d.find<app::RowTable>("repairKinds");
    auto* list = d.find<app::RowTable>("repairList");
    CHECK(rowOf(kinds, "Loose ends") >= 0);
    CHECK(list->rows().rowCount() == 2); // both loose ends, listed at once
    CHECK(d.window.session().chosen().places.size() == 2);
    REQUIRE(closed(d.model()) == 1);

    const int gap = rowOf(kinds, "Gap closed");
    REQUIRE(gap >= 0);
    hands::click(kinds->viewport(), kinds->visualRect(kinds->rows().index(gap, 1)).center());
    d.waitIdle();
    REQUIRE(list->rows().rowCount() == 1);
    CHECK(list->rows().cell(0, 1).text == "0.300");
    clickTick(list, 0);
    d.waitIdle();
    CHECK(closed(d.model()) == 0);
    CHECK(d.model().findings.front().kind == "outline_open");
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(closed(d.model()) == 1);

    clickTick(kinds, rowOf(kinds, "Drawn twice"));
    d.waitIdle();
    CHECK(d.model().sheet.in_use[4]);
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(std::count(d.model().sheet.in_use.begin(), d.model().sheet.in_use.end(), false) == 1);

    auto* width = d.find<QDoubleSpinBox>("gapWidth");
    hands::click(width);
    hands::key("ctrl+a");
    hands::type("1.5");
    hands::key("Return");
    d.waitIdle();
    CHECK(d.model().sheet.loose_ends.empty());
    CHECK(closed(d.model()) == 2);
}

TEST_CASE("a single repair is looked at closely when it is clicked") {
    QTemporaryDir folder;
    TestDesk d;
    d.window.open(damagedSheet(folder));
    d.waitIdle();
    d.press("repairsPage");
    const double before = d.sheet()->scale();
    auto* list = d.find<app::RowTable>("repairList");
    hands::click(list->viewport(), list->visualRect(list->rows().index(0, 0)).center());
    d.waitIdle();
    CHECK(d.sheet()->scale() > 4 * before);
    const QPointF at = d.sheet()->toScreen(d.model().sheet.loose_ends[0].at);
    CHECK(QRectF(d.sheet()->rect()).contains(at));
}

TEST_CASE("layers are filtered by name and role, and only those shown are switched") {
    TestDesk d;
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    auto* table = d.find<app::RowTable>("layerTable");
    const int all = table->rows().rowCount();
    hands::click(d.find<QLineEdit>("layerFilter"));
    hands::type("hid");
    REQUIRE(table->rows().rowCount() == 1);
    d.press("allLayersOff");
    const auto& m = d.model();
    for (size_t i = 0; i < m.drawing->layers.size(); ++i)
        CHECK(m.sheet.layer_on[i] == (m.drawing->layers[i].name != "HIDDEN"));
    CHECK(table->rows().cell(0, 2).text.contains("by hand"));
    hands::key("ctrl+z");
    d.waitIdle();
    hands::click(d.find<QLineEdit>("layerFilter"));
    hands::key("ctrl+a");
    hands::key("Delete");
    CHECK(table->rows().rowCount() == all);
    d.choose("layerRoleFilter", 2); // hidden
    CHECK(table->rows().rowCount() == 1);
}

TEST_CASE("choices are kept as a preset and offered for the next sheet of the same layers") {
    QDir(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation)).removeRecursively();
    QTemporaryDir folder;
    TestDesk d;
    d.window.open(damagedSheet(folder));
    d.waitIdle();
    d.press("repairsPage");
    auto* kinds = d.find<app::RowTable>("repairKinds");
    clickTick(kinds, rowOf(kinds, "Drawn twice"));
    d.waitIdle();
    const auto answered = hands::answerNextDialog("Point office");
    hands::click(d.find<QAbstractButton>("keepPreset"));
    REQUIRE(hands::waitFor([&] { return *answered && !QApplication::activeModalWidget(); }, 10000));
    d.comeBack();
    hands::key("ctrl+z"); // the preset is kept; the choice is not what makes the next sheet follow
    d.waitIdle();
    d.window.open(damagedSheet(folder, "next.dxf", 90));
    d.waitIdle();
    auto* box = d.find<QComboBox>("presetBox");
    CHECK(box->currentText().startsWith("Point office"));
    CHECK_FALSE(d.model().sheet.in_use[4]);
    d.press("usePreset");
    CHECK(d.model().sheet.in_use[4]);
    QDir(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation)).removeRecursively();
}

TEST_CASE("a chosen line is measured and says the scale") {
    QTemporaryDir folder;
    TestDesk d;
    d.window.open(damagedSheet(folder));
    d.waitIdle();
    d.press("unitPage");
    hands::click(d.sheet(), d.sheet()->toScreen({40, 50}).toPoint());
    d.waitIdle();
    REQUIRE(d.window.session().chosen().entities.size() == 1);
    hands::click(d.find<QLineEdit>("shouldBe"));
    hands::type("160");
    hands::key("Return");
    d.waitIdle();
    CHECK(d.model().views.sheet_scale == Approx(0.5));
}

TEST_CASE("a revised drawing is re-read, its report read, and the old one taken back") {
    QTemporaryDir folder;
    TestDesk d;
    d.window.open(damagedSheet(folder));
    d.waitIdle();
    const QString revised = damagedSheet(folder, "revised.dxf", 84);
    const auto answered = hands::answerNextDialog(revised);
    hands::key("ctrl+r");
    REQUIRE(hands::waitFor(
        [&] {
            auto* w = QApplication::activeModalWidget();
            return *answered && w && w->findChild<app::RowTable*>("rereadTable");
        },
        15000));
    QWidget* report = QApplication::activeModalWidget();
    auto* table = report->findChild<app::RowTable*>("rereadTable");
    CHECK(rowOf(table, "Lines moved") >= 0);
    CHECK(d.model().source->entities[1].curves != d.window.session().model().drawing->entities[0].curves);
    hands::click(report->findChild<QAbstractButton*>("rereadBack"));
    d.comeBack();
    d.waitIdle();
    CHECK(d.window.session().sourceName() == "damaged.dxf");
    CHECK(d.model().drawing->box().hi.x == Approx(160));
    CHECK(std::get<Segment>(d.model().source->entities[1].curves[0]).a.x == Approx(80));
}
