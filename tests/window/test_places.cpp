#include "window/desk.h"

#include "app/box/box_canvas.h"

#include <QFile>
#include <QTemporaryDir>

using namespace prism;
using namespace prism::test;
using app::MainWindow;

namespace {

QString written(const QTemporaryDir& folder, const char* name, const QByteArray& bytes) {
    QFile f(folder.filePath(name));
    REQUIRE(f.open(QIODevice::WriteOnly));
    f.write(bytes);
    return f.fileName();
}

QByteArray demoBytes() {
    QFile f(PRISM_DEMO "/roller-bracket.dxf");
    REQUIRE(f.open(QIODevice::ReadOnly));
    return f.readAll();
}

QString cellText(app::RowTable* t, int row, int column) {
    return t->rows().cell(row, column).text;
}

} // namespace

TEST_CASE("broken files are answered in words, and the window stays usable") {
    QTemporaryDir folder;
    TestDesk d;
    auto* text = d.find<QLabel>("messageText");
    const QByteArray whole = demoBytes();
    const std::pair<QString, QString> files[] = {
        {written(folder, "empty.dxf", ""), "empty"},
        {written(folder, "cut.dxf", whole.left(whole.size() / 3)), "line"},
        {written(folder, "binary.dxf", QByteArray("\x89PNG\r\n\0\1\2", 9)), "PNG"},
        {written(folder, "words.dxf", "once upon a time\nthere was\n"), "line 1"}};
    for (const auto& [path, word] : files) {
        INFO(path.toStdString());
        d.withFileDialog("ctrl+o", path);
        REQUIRE(text->isVisible());
        CHECK(text->text().contains(word));
        CHECK(text->text().contains(path));
        d.press("closeMessage");
        CHECK_FALSE(text->isVisible());
    }
    d.withFileDialog("ctrl+o", PRISM_DEMO "/roller-bracket.dxf");
    CHECK(d.window.session().hasSheet());
    d.withFileDialog("ctrl+o", files[1].first); // what was open stays
    CHECK(d.window.session().sourceName() == "roller-bracket.dxf");
    CHECK(d.model().views.views.size() == 3);
}

TEST_CASE("a layer is switched off and on in the table, and its role is changed") {
    TestDesk d;
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    auto* layers = d.find<app::RowTable>("layerTable");
    int hidden = -1;
    for (int i = 0; i < layers->rows().rowCount(); ++i)
        if (cellText(layers, i, 0) == "HIDDEN") hidden = i;
    REQUIRE(hidden >= 0);
    const QRect cell = layers->visualRect(layers->rows().index(hidden, 0));
    hands::click(layers->viewport(), {cell.left() + 10, cell.center().y()});
    d.waitIdle();
    CHECK_FALSE(d.model().sheet.layer_on[hidden]);
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.model().sheet.layer_on[hidden]);
    d.press("partLayersOnly");
    CHECK(d.model().sheet.layer_on[hidden]);
    int off = 0;
    for (bool on : d.model().sheet.layer_on) off += !on;
    CHECK(off >= 2);
    d.press("allLayersOn");
    for (bool on : d.model().sheet.layer_on) CHECK(on);
}

TEST_CASE("lines are boxed on the sheet and put out of their view and back") {
    TestDesk d;
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    d.goTo(MainWindow::views);
    const QPoint from = d.at(Role::top, {70, 8}), to = d.at(Role::top, {86, 21});
    hands::drag(d.sheet(), from, to);
    REQUIRE(d.window.session().chosen().entities.size() >= 1);
    const int circle = [&] {
        for (int e : d.window.session().chosen().entities)
            if (d.model().drawing->entities[e].type == "CIRCLE") return e;
        return -1;
    }();
    REQUIRE(circle >= 0);
    d.choose("moveTarget", 3); // no view
    d.press("moveLines");
    CHECK(d.model().views.view_of_entity[circle] == -1);
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.model().views.view_of_entity[circle] == d.model().views.withRole(Role::top)->id);
}

TEST_CASE("a role is changed in the view table by double-click") {
    TestDesk d;
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    d.goTo(MainWindow::views);
    auto* views = d.find<app::RowTable>("viewTable");
    int right = -1;
    for (int i = 0; i < views->rows().rowCount(); ++i)
        if (cellText(views, i, 0) == "right") right = i;
    REQUIRE(right >= 0);
    hands::doubleClick(views->viewport(), views->visualRect(views->rows().index(right, 0)).center());
    hands::settle(150);
    auto* box = views->findChild<QComboBox*>();
    REQUIRE(box);
    hands::openList(box);
    hands::type("det");
    hands::key("Return");
    d.waitIdle();
    CHECK(d.model().views.withRole(Role::detail));
    CHECK_FALSE(d.model().views.withRole(Role::right));
}

TEST_CASE(
    "pointing at a dimension in the ledger lights it up on the sheet, and clashes are refused by name") {
    TestDesk d;
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    d.goTo(MainWindow::drive);
    auto* ledger = d.find<app::RowTable>("ledgerTable");
    hands::moveTo(ledger->viewport()->mapToGlobal(ledger->visualRect(ledger->rows().index(0, 1)).center()));
    CHECK(d.window.session().pointed().dimensions.size() == 1);
    hands::doubleClick(ledger->viewport(), ledger->visualRect(ledger->rows().index(0, 3)).center());
    hands::settle(120);
    hands::key("ctrl+a");
    hands::type("-4");
    hands::key("Return");
    d.waitIdle();
    auto* text = d.find<QLabel>("messageText");
    CHECK(text->isVisible());
    CHECK(text->text().contains("x1"));
    CHECK(cellText(ledger, 0, 3) == "120");
    CHECK_FALSE(d.window.session().canUndo());
}

TEST_CASE("a chosen finding shows its evidence on the sheet") {
    TestDesk d;
    d.window.open(PRISM_TEST_DATA "/sheets/fault01-dim-text-wrong.dxf");
    d.waitIdle();
    d.goTo(MainWindow::check);
    auto* findings = d.find<app::RowTable>("findingTable");
    REQUIRE(findings->rows().rowCount() >= 1);
    hands::click(findings->viewport(), findings->visualRect(findings->rows().index(0, 2)).center());
    CHECK_FALSE(d.window.session().chosen().places.empty());
    CHECK(d.window.session().chosen().dimensions.size() == 1);
}

TEST_CASE("any command is found by typing, and every place is reached by key") {
    TestDesk d;
    d.window.open(PRISM_DEMO "/weight-pulley.dxf");
    d.waitIdle();
    auto* bar = d.window.findChild<app::PathBar*>();
    for (int i = 0; i < 7; ++i) {
        hands::key(QString("alt+%1").arg(i + 1));
        CHECK(bar->current() == i);
    }
    const auto answered = hands::answerNextDialog("whole sol");
    hands::key("ctrl+space");
    REQUIRE(hands::waitFor([&] { return *answered && !QApplication::activeModalWidget(); }, 5000));
    d.waitIdle();
    CHECK(d.volume() == Approx(3.14159265358979 * 93568).epsilon(1e-8));
}

TEST_CASE("both canvases zoom at the pointer, move and fit") {
    TestDesk d;
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    auto* sheet = d.sheet();
    const double fitted = sheet->scale();
    const QPoint p(200, 150);
    const Vec2 before = sheet->toSheet(p);
    hands::wheel(sheet, p, 3);
    CHECK(sheet->scale() > fitted * 1.2);
    CHECK(distance(sheet->toSheet(p), before) < 1e-6 * 420);
    const Vec2 held = sheet->toSheet({100, 100});
    hands::drag(sheet, {100, 100}, {180, 140}, 3);
    CHECK(distance(sheet->toSheet({180, 140}), held) < 1e-6 * 420);
    hands::key("ctrl+1");
    CHECK(sheet->scale() == Approx(fitted));
    auto* box = d.window.findChild<app::BoxCanvas*>();
    const QImage still = box->grab().toImage();
    hands::drag(box, {200, 200}, {260, 220});
    CHECK(box->grab().toImage() != still);
}
