#include "window/desk.h"

#include <QClipboard>
#include <QFile>
#include <QLineEdit>
#include <QTemporaryDir>

using namespace prism;
using namespace prism::test;
using app::MainWindow;

namespace {

/// A plate 80 x 50 whose right side is missing, with a line across it that runs 20 too far.
QString openPlate(const QTemporaryDir& folder) {
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
    line(0, 0, 80, 0), line(80, 50, 0, 50), line(0, 50, 0, 0), line(30, 0, 30, 70);
    t += "0\nCIRCLE\n5\nC1\n8\nPART\n10\n55\n20\n25\n40\n8\n";
    QFile f(folder.filePath("plate.dxf"));
    REQUIRE(f.open(QIODevice::WriteOnly));
    f.write((t + "0\nENDSEC\n0\nEOF\n").toLatin1());
    return f.fileName();
}

class MarkDesk : public TestDesk {
  public:
    explicit MarkDesk(const QTemporaryDir& folder) {
        window.open(openPlate(folder));
        waitIdle();
        press("markPage");
    }
    QPoint screen(double x, double y) { return sheet()->toScreen({x, y}).toPoint(); }
    void pick(double x, double y) {
        hands::click(sheet(), screen(x, y));
        waitIdle();
    }
    const MarkUp& marks() { return window.session().choices().marks; }
    const Curve& curve(int entity) { return model().drawing->entities[entity].curves.at(0); }
    double widest() {
        double most = 0;
        for (const ClosedArea& a : model().areas.now) most = std::max(most, a.area);
        return most;
    }
};

} // namespace

TEST_CASE("a missing line is drawn from end to end by snapping, and closes the area") {
    QTemporaryDir folder;
    MarkDesk d(folder);
    d.press("markLine");
    d.pick(79.5, 0.5); // near the ends, not on them
    d.pick(79.5, 49.5);
    REQUIRE(d.marks().lines.size() == 1);
    const Segment s = std::get<Segment>(d.marks().lines[0].curves[0]);
    CHECK(distance(s.a, {80, 0}) < 1e-9);
    CHECK(distance(s.b, {80, 50}) < 1e-9);
    CHECK(d.widest() == Approx(50 * 50 - kPi * 64));
    hands::key("Escape");
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.marks().empty());
    hands::key("ctrl+shift+z");
    d.waitIdle();
    CHECK(d.marks().lines.size() == 1);
}

TEST_CASE("a line that runs too far is trimmed, one is deleted, and a wrong click is answered") {
    QTemporaryDir folder;
    MarkDesk d(folder);
    d.press("markTrim");
    d.pick(110, 30); // nothing there
    CHECK(d.marks().empty());
    d.pick(30, 62);
    REQUIRE(d.marks().lines.size() == 1);
    CHECK(distance(endOf(d.curve(3)), {30, 50}) < 1e-9);
    d.press("markDelete");
    d.pick(47, 25);
    CHECK(d.model().drawing->entities[4].curves.empty());
    hands::key("Escape");
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK_FALSE(d.model().drawing->entities[4].curves.empty());
}

TEST_CASE("missing dimensions are added, count in the ledger, and survive saving and opening") {
    QTemporaryDir folder;
    MarkDesk d(folder);
    d.press("markDistance");
    d.pick(0.3, 0.3), d.pick(79.7, 0.3), d.pick(45, 42);
    REQUIRE(d.marks().dimensions.size() == 1);
    CHECK(d.model().drawing->dimensions.at(0).measured == Approx(80));
    d.press("markDiameter");
    d.pick(63, 25), d.pick(66, 33);
    REQUIRE(d.model().ledger.entries.size() == 2);
    CHECK(d.model().ledger.entries[1].drawn == Approx(16));
    CHECK(d.model().ledger.entries[0].state == EntryState::drives);
    hands::key("Escape");
    const QString project = folder.filePath("plate.uprism");
    d.withFileDialog("ctrl+shift+s", project);
    d.window.open(project);
    d.waitIdle();
    CHECK(d.marks().dimensions.size() == 2);
    CHECK(d.model().ledger.entries.size() == 2);
}

TEST_CASE("two lines are joined in a corner and chosen lines are moved") {
    QTemporaryDir folder;
    MarkDesk d(folder);
    d.press("markLine");
    d.pick(90, 6), d.pick(90, 20);
    d.press("markCorner");
    d.pick(50, 0), d.pick(90, 15);
    CHECK(distance(endOf(d.curve(0)), {90, 0}) < 0.5);
    hands::key("Escape");
    d.pick(47, 25); // the circle
    REQUIRE(d.window.session().chosen().entities.count(4) == 1);
    d.press("markMove");
    d.pick(55, 25), d.pick(15, 25);
    CHECK(std::get<Arc>(d.curve(4)).centre.x == Approx(15).margin(0.5));
}

TEST_CASE("chosen lines are measured and the measures copied") {
    QTemporaryDir folder;
    MarkDesk d(folder);
    d.pick(63, 25);
    auto* text = d.find<QLabel>("measured");
    CHECK(text->text().contains("Radius 8.0000 mm"));
    CHECK(text->text().contains("Area 201.06"));
    d.press("copyMeasure");
    CHECK(QGuiApplication::clipboard()->text() == text->text());
}

TEST_CASE("a box takes what lies inside, with Shift what it cuts too; more are chosen by likeness") {
    QTemporaryDir folder;
    MarkDesk d(folder);
    hands::drag(d.sheet(), d.screen(40, 10), d.screen(70, 40));
    CHECK(d.window.session().chosen().entities == std::set<int>{4});
    hands::drag(d.sheet(), d.screen(-8, 5), d.screen(70, 40));
    CHECK(d.window.session().chosen().entities == std::set<int>{4});
    d.pick(15, 0);
    hands::openList(d.find<QComboBox>("chooseMore"));
    hands::key("Down"); // the connected chain
    hands::key("Return");
    d.waitIdle();
    CHECK(d.window.session().chosen().entities == std::set<int>{0, 1, 2});
}

TEST_CASE("a lasso takes what lies inside, and left open what it crosses") {
    QTemporaryDir folder;
    MarkDesk d(folder);
    hands::dragAlong(
        d.sheet(), {d.screen(45, 15), d.screen(66, 15), d.screen(66, 36), d.screen(45, 36), d.screen(45, 16)},
        "alt");
    d.waitIdle();
    CHECK(d.window.session().chosen().entities == std::set<int>{4}); // the circle
    hands::key("Escape");
    hands::dragAlong(d.sheet(), {d.screen(20, 25), d.screen(40, 30), d.screen(50, 25)}, "alt");
    d.waitIdle();
    CHECK(d.window.session().chosen().entities == std::set<int>{3, 4});
}

TEST_CASE("marks go onto the sheet as drawn, also while a number is driven") {
    QTemporaryDir folder;
    MarkDesk d(folder);
    d.press("markLine");
    d.pick(79.5, 0.5), d.pick(79.5, 49.5);
    d.press("markDistance");
    d.pick(0.3, 0.3), d.pick(79.7, 0.3), d.pick(45, 42);
    hands::key("Escape");
    REQUIRE(d.model().ledger.entries.size() == 1);
    const std::string name = d.model().ledger.entries[0].name;
    d.window.session().change("Drive", [name](Choices& c) { c.numbers[name].value = 95; });
    d.waitIdle();
    REQUIRE(d.model().ledger.named(name)->value == Approx(95));
    const auto widestShown = [&] {
        double most = 0;
        for (const auto& l : d.sheet()->picture().lines()) most = std::max(most, l.box.hi.x);
        return most;
    };
    CHECK(widestShown() == Approx(80)); // the page of marks shows the drawing
    d.press("markLine");
    d.pick(79.6, 49.6), d.pick(55.4, 25.3); // from the drawn corner to the drawn centre
    hands::key("Escape");
    const Segment s = std::get<Segment>(d.marks().lines.back().curves[0]);
    CHECK(distance(s.a, {80, 50}) < 1e-9);
    CHECK(distance(s.b, {55, 25}) < 1e-9);
    // Elsewhere the sheet is shown as driven, and a box takes the lines where they are seen.
    d.press("layersPage");
    CHECK(widestShown() == Approx(95));
    hands::drag(d.sheet(), d.screen(87, 56), d.screen(101, -3));
    d.waitIdle();
    INFO(d.screen(87, 56).x() << " " << d.screen(87, 56).y() << " " << d.screen(101, -3).x() << " "
                              << d.screen(101, -3).y() << " of " << d.sheet()->width() << " "
                              << d.sheet()->height());
    CHECK(d.window.session().chosen().entities == std::set<int>{5});
}

TEST_CASE("what is chosen in one view is measured at the scale of that view") {
    QTemporaryDir folder;
    QFile f(folder.filePath("scaled.dxf"));
    REQUIRE(f.open(QIODevice::WriteOnly));
    QString t = "0\nSECTION\n2\nENTITIES\n";
    auto line = [&](double ax, double ay, double bx, double by) {
        t += QString("0\nLINE\n8\nPART\n10\n%1\n20\n%2\n11\n%3\n21\n%4\n").arg(ax).arg(ay).arg(bx).arg(by);
    };
    for (const auto& [x, y, w, h] :
         std::vector<std::array<double, 4>>{{0, 0, 80, 30}, {0, 60, 80, 50}, {150, 0, 60, 40}})
        line(x, y, x + w, y), line(x + w, y, x + w, y + h), line(x + w, y + h, x, y + h),
            line(x, y + h, x, y);
    t += "0\nTEXT\n8\nPART\n10\n150\n20\n-12\n40\n4\n1\nDETAIL C "
         "(4:1)\n0\nTEXT\n8\nPART\n10\n0\n20\n-40\n40\n4\n1\nTHIRD "
         "ANGLE PROJECTION\n0\nENDSEC\n0\nEOF\n";
    f.write(t.toLatin1());
    f.close();
    TestDesk d;
    d.window.open(f.fileName());
    d.waitIdle();
    d.press("markPage");
    auto* text = d.find<QLabel>("measured");
    const auto measured = [&](double x, double y) {
        hands::click(d.sheet(), d.sheet()->toScreen({x, y}).toPoint());
        d.waitIdle();
        return text->text();
    };
    CHECK(measured(40, 0).contains("80.0000 mm"));
    CHECK(measured(180, 40).contains("15.0000 mm")); // 60 on the sheet, four times as large as it is
}
