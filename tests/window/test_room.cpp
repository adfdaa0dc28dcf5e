#include "window/desk.h"

#include "app/box/box_canvas.h"
#include "app/window/room.h"
#include "core/project/part_links.h"

#include <QSettings>

using namespace prism;
using namespace prism::test;
using app::MainWindow;
using app::Room;

namespace {

/// The room of whoever sat here before is none of ours.
struct TidyRoom {
    TidyRoom() { QSettings("upper-prism", "room").clear(); }
    ~TidyRoom() { QSettings("upper-prism", "room").clear(); }
};

class BoxDesk : private TidyRoom, public TestDesk {
  public:
    app::BoxCanvas* box() { return window.findChild<app::BoxCanvas*>(); }
    QColor pixel(QPoint at) { return box()->grab().toImage().pixelColor(at * box()->devicePixelRatioF()); }
};

int apart(const QColor& a, const QColor& b) {
    return std::max(
        {std::abs(a.red() - b.red()), std::abs(a.green() - b.green()), std::abs(a.blue() - b.blue())});
}

} // namespace

TEST_CASE("panes between the eye and the solid step aside; one key shows the solid alone and back") {
    BoxDesk d;
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    d.goTo(MainWindow::build);
    d.press("proposeSolid");
    REQUIRE(d.model().build.ok());
    // A place on the front face of the upright, behind the front pane.
    const QPoint face = d.box()->toScreen({25, 14, 40}).toPoint();
    const QColor with = d.pixel(face);
    hands::click(d.box(), QPoint(d.box()->width() / 2, d.box()->height() - 12)); // gives it the keys
    hands::key("End");
    hands::settle(120);
    CHECK_FALSE(d.box()->showsPanes());
    CHECK(d.box()->showsSolid());
    CHECK_FALSE(d.find<QAbstractButton>("boxPanes")->isChecked());
    const QColor without = d.pixel(face);
    CHECK(apart(with, without) <= 8);
    hands::key("End");
    hands::settle(120);
    CHECK(d.box()->showsPanes());
    CHECK(d.find<QAbstractButton>("boxPanes")->isChecked());
    // By mouse, in any place of work, and the buttons under Fold follow.
    d.press("boxSolid");
    CHECK_FALSE(d.box()->showsSolid());
    CHECK(apart(d.pixel(face), with) > 8); // there is nothing to step aside for
    d.goTo(MainWindow::fold);
    CHECK_FALSE(d.find<QAbstractButton>("showSolid")->isChecked());
    d.press("showSolid");
    CHECK(d.find<QAbstractButton>("boxSolid")->isChecked());
    d.press("boxPanes");
    CHECK_FALSE(d.find<QAbstractButton>("showPanes")->isChecked());
    d.press("boxPanes");
    CHECK(d.box()->showsPanes());
}

TEST_CASE("a canvas fills the window and the tray folds away, by mouse and by key, and that is remembered") {
    {
        BoxDesk d;
        d.window.open(PRISM_DEMO "/roller-bracket.dxf");
        d.waitIdle();
        const int both = d.sheet()->width(), high = d.sheet()->height();
        d.press("fillSheet");
        CHECK(d.box()->isHidden());
        CHECK(d.sheet()->width() > 1.7 * both);
        hands::key("ctrl+shift+2");
        hands::settle(100);
        CHECK_FALSE(d.box()->isHidden());
        CHECK(d.sheet()->isHidden());
        d.press("fillBox");
        CHECK_FALSE(d.sheet()->isHidden());
        d.press("showTray");
        CHECK(d.sheet()->height() > 1.3 * high);
        hands::key("ctrl+3");
        hands::settle(100);
        CHECK(d.sheet()->height() == high);
        hands::key("ctrl+3");
        hands::key("ctrl+shift+1");
        hands::settle(100);
        CHECK(QSettings("upper-prism", "room").value("tray").toBool() == false);
        app::MainWindow again;
        again.show();
        hands::settle(100);
        CHECK(again.findChild<app::BoxCanvas*>()->isHidden());
        CHECK_FALSE(again.findChild<QAbstractButton*>("showTray")->isChecked());
    }
}

TEST_CASE("the boss on the slope is built from the auxiliary view, its height picked in the front view") {
    BoxDesk d;
    d.window.open(PRISM_DEMO "/worm-housing-cover.dxf");
    d.waitIdle();
    d.goTo(MainWindow::build);
    // The view counts down the slope: its pad from 24 to 50, and from 13 to 37 across.
    d.clickSheet(Role::auxiliary, {27, 16});
    d.clickSheet(Role::auxiliary, {37, 25}); // the bore within it
    d.choose("fromKind", 1);
    d.press("fromPick");
    d.clickSheet(Role::front, {92.2, 39.6}); // the corner of the pad
    d.choose("toKind", 1);
    d.press("toPick");
    d.clickSheet(Role::front, {90.4, 37.2}); // its foot
    d.press("acceptStep");
    REQUIRE(d.window.session().choices().steps.size() == 1);
    CHECK(d.window.session().choices().steps[0].view == ViewName(Role::auxiliary));
    CHECK(d.volume() == Approx(26 * 24 * 3));
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.window.session().choices().steps.empty());
}

TEST_CASE("a face pointed at in the box lights its line on the sheet, and the line its face") {
    BoxDesk d;
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    d.goTo(MainWindow::build);
    d.press("proposeSolid");
    REQUIRE(d.model().build.ok());
    // The bore: the circle of 16 in the front view.
    int circle = -1;
    for (const FigureCurve& c : d.model().figure.curves)
        if (const auto* a = std::get_if<Arc>(&c.drawn); a && a->full() && a->radius == Approx(8))
            circle = c.entity;
    REQUIRE(circle >= 0);
    const std::set<int> bore = facesOfLines(d.model(), {circle});
    REQUIRE(bore.size() == 1);
    // A piece of it that can be seen through its mouth.
    const Mesh& mesh = d.shown().solid;
    const QVector3D into = d.box()->camera().into();
    // Not so near to its rim that the rim would be met, mm.
    const double clear = 7.0 * static_cast<double>(d.box()->camera().height) / d.box()->height();
    std::optional<QPoint> seen;
    for (size_t t = 0; t < mesh.face_of.size() && !seen; ++t) {
        if (mesh.face_of[t] != *bore.begin()) continue;
        QVector3D at;
        for (size_t k = 3 * t; k < 3 * t + 3; ++k)
            at += QVector3D(mesh.corners[k].at[0], mesh.corners[k].at[1], mesh.corners[k].at[2]) / 3;
        const QVector3D from = at - 1000 * into;
        if (partAlong(mesh, {from.x(), from.y(), from.z()}, {into.x(), into.y(), into.z()}, clear) ==
            faceNumber(*bore.begin()))
            seen = d.box()->toScreen(at).toPoint();
    }
    REQUIRE(seen);
    hands::moveTo(d.box()->mapToGlobal(*seen));
    hands::settle(150);
    const app::Marked& pointed = d.window.session().pointed();
    const std::set<SolidPart> bore_face{faceNumber(*bore.begin())};
    CHECK(pointed.parts == bore_face);
    CHECK(pointed.entities == std::set<int>{circle});
    REQUIRE(pointed.dimensions.size() == 1);
    CHECK(d.model().drawing->dimensions[*pointed.dimensions.begin()].text == "Ø16");
    const QString told = d.find<QLabel>("pointedAt")->text();
    INFO(told.toStdString());
    CHECK(told.contains("Cylinder, radius 8 mm"));
    CHECK(told.contains("a circle of the front view"));
    // A click chooses it, and it stays lit while the pointer is elsewhere.
    hands::click(d.box(), *seen);
    // With one chosen, how another lies to it is told.
    const QPoint front = d.box()->toScreen({25, 14, 30}).toPoint();
    hands::moveTo(d.box()->mapToGlobal(front));
    hands::settle(100);
    CHECK(d.find<QLabel>("pointedAt")->text().contains("To the chosen one: "));
    hands::dragAlong(d.box(), {front, front}, "ctrl");
    hands::settle(100);
    CHECK(d.window.session().chosen().parts.size() == 2);
    hands::click(d.box(), *seen);
    hands::moveTo(d.window.mapToGlobal(QPoint(600, 20)));
    hands::settle(100);
    CHECK(d.window.session().chosen().parts == bore_face);
    const QColor lit = d.pixel(*seen);
    hands::click(d.box(), QPoint(6, d.box()->height() - 6)); // beside everything
    hands::moveTo(d.window.mapToGlobal(QPoint(600, 20)));
    hands::settle(100);
    CHECK(d.window.session().chosen().empty());
    // From face to face by key.
    const int faces = static_cast<int>(d.model().build.faces.size());
    hands::key("Next");
    hands::settle(60);
    CHECK(d.window.session().chosen().parts == std::set{faceNumber(0)});
    hands::key("Prior");
    hands::settle(60);
    CHECK(d.window.session().chosen().parts == std::set{faceNumber(faces - 1)});
    CHECK_FALSE(d.find<QLabel>("pointedAt")->text().isEmpty());
    // Edges and corners likewise, and by the pointer: the corner of the base plate that is nearest to the
    // viewer.
    hands::key("shift+Next");
    hands::settle(60);
    REQUIRE(d.window.session().chosen().parts.size() == 1);
    CHECK(d.window.session().chosen().parts.begin()->kind == SolidPart::Kind::edge);
    CHECK(d.find<QLabel>("pointedAt")->text().contains("edge, "));
    hands::key("alt+Prior");
    hands::settle(60);
    CHECK(d.window.session().chosen().parts.begin()->kind == SolidPart::Kind::corner);
    const QPoint corner = d.box()->toScreen({0, 0, 0}).toPoint();
    hands::moveTo(d.box()->mapToGlobal(corner));
    hands::settle(100);
    REQUIRE(d.window.session().pointed().parts.size() == 1);
    CHECK(d.window.session().pointed().parts.begin()->kind == SolidPart::Kind::corner);
    CHECK(d.find<QLabel>("pointedAt")
              ->text()
              .startsWith("Corner, at 0.0000, 0.0000, 0.0000, where 3 faces meet"));
    const QPoint edge = d.box()->toScreen({25, 0, 0}).toPoint();
    hands::moveTo(d.box()->mapToGlobal(edge));
    hands::settle(100);
    REQUIRE(d.window.session().pointed().parts.size() == 1);
    CHECK(d.window.session().pointed().parts.begin()->kind == SolidPart::Kind::edge);
    CHECK(d.find<QLabel>("pointedAt")->text().startsWith("Straight edge, "));
    hands::click(d.box(), QPoint(6, d.box()->height() - 6));
    hands::moveTo(d.window.mapToGlobal(QPoint(600, 20)));
    hands::settle(100);
    const QColor plain = d.pixel(*seen);
    CHECK(apart(lit, plain) > 20);
    // The other way: its circle on the sheet.
    d.goTo(MainWindow::drive);
    hands::moveTo(d.sheet()->mapToGlobal(d.at(Role::front, {42 + 8 * 0.7071, 62 + 8 * 0.7071})));
    hands::settle(150);
    CHECK(d.window.session().pointed().entities == std::set<int>{circle});
    CHECK(d.window.session().partsOf(d.window.session().pointed()) == bore_face);
    CHECK(apart(d.pixel(*seen), plain) > 12);
}

TEST_CASE("faces and edges are listed, a row lights its part, and a part chosen in the box its row") {
    BoxDesk d;
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    d.goTo(MainWindow::build);
    auto* table = d.find<app::RowTable>("partTable");
    d.press("partsPage");
    CHECK(table->rows().rowCount() == 0); // no solid yet
    d.press("proposeSolid");
    REQUIRE(d.model().build.ok());
    const TopoDS_Shape& solid = d.model().build.shape;
    const auto faces = partsOf(solid, SolidPart::Kind::face), edges = partsOf(solid, SolidPart::Kind::edge);
    REQUIRE(table->rows().rowCount() == static_cast<int>(faces.size() + edges.size()));
    int bore = -1;
    for (size_t i = 0; i < faces.size(); ++i)
        if (table->rows().cell(static_cast<int>(i), 1).text.startsWith("radius 8 mm, 1005.31 mm²"))
            bore = static_cast<int>(i);
    REQUIRE(bore >= 0);
    CHECK(table->rows().cell(bore, 0).text == "Cylinder");
    CHECK(table->rows().cell(bore, 2).text.contains("a circle of the front view"));
    table->scrollTo(table->rows().index(bore, 0));
    hands::click(table->viewport(), table->visualRect(table->rows().index(bore, 0)).center());
    hands::settle(100);
    const app::Marked& chosen = d.window.session().chosen();
    CHECK(chosen.parts == std::set{faceNumber(bore)});
    CHECK(chosen.entities.size() == 1);
    hands::key("Down");
    hands::settle(60);
    CHECK(chosen.parts != std::set{faceNumber(bore)});
    CHECK(chosen.parts.size() == 1);
    // The other way: by key in the box.
    d.box()->setFocus();
    hands::key("shift+Next");
    hands::settle(60);
    REQUIRE(chosen.parts.size() == 1);
    CHECK(chosen.parts.begin()->kind == SolidPart::Kind::edge);
    CHECK(table->currentRow() == static_cast<int>(faces.size()));
    d.press("stepsPage");
    CHECK(d.find<app::RowTable>("stepTable")->isVisible());
    CHECK_FALSE(table->isVisible());
}
