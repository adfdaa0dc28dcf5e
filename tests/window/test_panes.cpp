#include "window/desk.h"

#include "app/box/box_canvas.h"
#include "app/session/navigation.h"
#include "support/samples.h"

#include <QKeySequenceEdit>
#include <QSlider>
#include <QTimer>

using namespace prism;
using namespace prism::test;
using app::MainWindow;
using app::Navigation;

namespace {

class CoverDesk : public TestDesk {
  public:
    CoverDesk() {
        window.open(PRISM_DEMO "/worm-housing-cover.dxf");
        waitIdle();
        goTo(MainWindow::fold);
        press("panesPage");
    }
    app::BoxCanvas* box() { return window.findChild<app::BoxCanvas*>(); }
    app::RowTable* panes() { return find<app::RowTable>("paneTable"); }
    const ViewChoices& said() { return window.session().choices().views; }
    int rowOf(Role r) {
        for (int row = 0; row < panes()->model()->rowCount(); ++row)
            if (panes()->rows().cell(row, 0).tag == r) return row;
        FAIL("no such row");
        return -1;
    }
    QRect cellOf(Role r, int column) {
        return panes()->visualRect(panes()->model()->index(rowOf(r), column));
    }
    void choosePane(Role r) { hands::click(panes()->viewport(), cellOf(r, 0).center()); }
    void tick(Role r, int column) {
        hands::click(panes()->viewport(),
                     cellOf(r, column).topLeft() + QPoint(13, cellOf(r, column).height() / 2));
        waitIdle();
    }
    void edit(Role r, int column, const QString& text) {
        hands::doubleClick(panes()->viewport(), cellOf(r, column).center());
        hands::key("ctrl+a");
        hands::type(text);
        hands::key("Return");
        waitIdle();
    }
    const app::BoxScene::Pane& pane(Role r) {
        for (const auto& p : box()->scene().panes)
            if (p.role == r && !p.spare) return p;
        FAIL("no such pane");
        return box()->scene().panes.front();
    }
    const FoldLine& foldLine(Role r) {
        for (const FoldLine& l : sheet()->foldLines().lines())
            if (model().views.views[l.view].role == r) return l;
        FAIL("no fold line");
        return sheet()->foldLines().lines().front();
    }
    QPoint on(const FoldLine& l, double share) {
        return sheet()->toScreen(l.line.a + (l.line.b - l.line.a) * share).toPoint();
    }
};

} // namespace

TEST_CASE(
    "section, auxiliary view and detail stand in the box where the sheet says, and are listed with why") {
    CoverDesk d;
    CHECK(d.panes()->model()->rowCount() == 5);
    CHECK(d.panes()
              ->rows()
              .cell(d.rowOf(Role::section), 1)
              .text.contains("Cutting plane A-A in the front view"));
    CHECK(d.panes()->rows().cell(d.rowOf(Role::auxiliary), 1).text.contains("oblique edge"));
    CHECK(d.panes()->rows().cell(d.rowOf(Role::detail), 1).text.contains("Circle C"));
    // The section stands at X = 30, square to X; the detail lies on the front pane at true size.
    for (const QVector3D& c : d.pane(Role::section).corners) CHECK(c.x() == Approx(30));
    const auto& detail = d.pane(Role::detail);
    double width = 0;
    for (const auto& l : detail.lines) width = std::max(width, static_cast<double>(l.runs.back().back().x()));
    CHECK(width == Approx(89).margin(1e-3));
    const QVector3D face = d.pane(Role::auxiliary).facing;
    CHECK(face.x() == Approx(0.6).margin(1e-6));
    CHECK(face.z() == Approx(0.8).margin(1e-6));
}

TEST_CASE("panes are hidden, seen from outside only, made fainter and looked at square on") {
    CoverDesk d;
    d.tick(Role::top, 2);
    CHECK_FALSE(d.pane(Role::top).show.on);
    d.tick(Role::top, 2);
    CHECK(d.pane(Role::top).show.on);
    d.edit(Role::front, 4, "40");
    CHECK(d.pane(Role::front).show.opacity == Approx(0.4));
    d.edit(Role::front, 4, "far too much");
    CHECK(d.pane(Role::front).show.opacity == Approx(0.4));
    d.choosePane(Role::section);
    d.press("showOnlyPane");
    for (const auto& p : d.box()->scene().panes) CHECK(p.show.on == (p.role == Role::section));
    d.choose("paneGroup", 2);
    for (const auto& p : d.box()->scene().panes) CHECK(p.show.on == !isPrincipal(p.role));
    d.choose("paneGroup", 1);
    for (const auto& p : d.box()->scene().panes) CHECK(p.show.on == isPrincipal(p.role));
    d.choose("paneGroup", 0);
    for (const auto& p : d.box()->scene().panes) CHECK(p.show.on);
    // Square onto the section, which is looked at to the left; then by a double-click in the box onto the
    // front pane.
    d.press("lookOnto");
    CHECK(d.box()->camera().azimuth == Approx(90).margin(0.01));
    CHECK(d.box()->camera().elevation == Approx(0).margin(0.01));
    // Every pane is seen with its own way up, askew ones too.
    for (const auto& p : d.box()->scene().panes) {
        d.box()->lookOnto(p.view);
        const QPointF up = d.box()->toScreen(p.corners[3]) - d.box()->toScreen(p.corners[0]);
        CHECK(std::abs(up.x()) < 0.5);
        CHECK(up.y() < -20);
    }
    d.press("lookCorner");
    const auto& front = d.pane(Role::front);
    hands::doubleClick(d.box(),
                       d.box()->toScreen(0.9f * front.corners[0] + 0.1f * front.corners[2]).toPoint());
    d.waitIdle();
    CHECK(d.box()->camera().azimuth == Approx(0).margin(0.01));
    // By keyboard: the table's rows, Return looks.
    d.choosePane(Role::front);
    hands::key("Down");
    hands::key("Return");
    d.waitIdle();
    CHECK(d.box()->camera().elevation == Approx(90).margin(0.01));
}

TEST_CASE("a pane seen from its outside only vanishes when it is looked at from behind") {
    CoverDesk d;
    const auto inkIn = [&] {
        hands::moveTo(d.window.mapToGlobal(QPoint(300, 10))); // nothing is pointed at
        hands::settle(250);
        const QImage image = d.box()->grab().toImage();
        int dark = 0;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x) dark += qGray(image.pixel(x, y)) < 90;
        return dark;
    };
    d.choosePane(Role::front);
    d.press("showOnlyPane");
    d.press("lookFront");
    const int seen = inkIn();
    hands::doubleClick(d.panes()->viewport(), d.cellOf(Role::front, 3).center());
    hands::settle(150);
    hands::key("Home");
    hands::key("Return");
    d.waitIdle();
    REQUIRE(d.pane(Role::front).show.side == app::PaneSide::outside);
    CHECK(inkIn() > 0.9 * seen);
    d.box()->setFocus();
    for (int i = 0; i < 30; ++i) hands::key("Left"); // half a turn
    CHECK(inkIn() < 0.3 * seen);
}

TEST_CASE("a fold line is dragged: the pane stands farther out; locked it stays; undo brings it back") {
    CoverDesk d;
    const float before = d.pane(Role::top).corners[0].z();
    const double gap = d.foldLine(Role::top).gap();
    const QPoint from = d.on(d.foldLine(Role::top), 0.75);
    hands::drag(d.sheet(), from, from + QPoint(0, -18));
    d.waitIdle();
    REQUIRE(d.said().fold_gap.size() == 1);
    const double now = d.said().fold_gap.begin()->second;
    CHECK(now == Approx(gap + 18 / d.sheet()->scale()).margin(1.0 / d.sheet()->scale()));
    CHECK(d.pane(Role::top).corners[0].z() == Approx(60 + now).margin(1e-3));
    CHECK(d.foldLine(Role::top).gap() == Approx(now));
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.pane(Role::top).corners[0].z() == Approx(before));
    d.tick(Role::top, 5);
    CHECK(d.said().locked.size() == 1);
    const QPoint again = d.on(d.foldLine(Role::top), 0.75);
    hands::drag(d.sheet(), again, again + QPoint(0, -18));
    d.waitIdle();
    CHECK(d.said().fold_gap.empty());
    // The fold line of the auxiliary view is oblique and moves square to itself.
    const FoldLine oblique = d.foldLine(Role::auxiliary);
    const QPoint there = d.on(oblique, 0.4);
    hands::drag(d.sheet(), there, there + QPoint(12, -16));
    d.waitIdle();
    CHECK(d.foldLine(Role::auxiliary).gap() ==
          Approx(oblique.gap() + 20 / d.sheet()->scale()).margin(1.0 / d.sheet()->scale()));
}

TEST_CASE("a cutting plane is drawn by hand, looked at from the other side, saved and opened again") {
    CoverDesk d;
    d.choosePane(Role::section);
    d.press("drawItsLine");
    hands::key("Escape"); // thought better of it
    d.waitIdle();
    CHECK(d.said().hung.empty());
    d.choosePane(Role::section);
    d.press("drawItsLine");
    const View& front = *d.model().views.withRole(Role::front);
    d.clickSheet(Role::front, {100, 0}); // an upright line through the right edge
    d.clickSheet(Role::front, {100, 30});
    REQUIRE(d.said().hung.size() == 1);
    CHECK(d.said().hung.begin()->second.on == front.key);
    for (const QVector3D& c : d.pane(Role::section).corners) CHECK(c.x() == Approx(100).margin(1e-3));
    CHECK(d.pane(Role::section).facing.x() == Approx(1)); // as laid out: seen from the right
    d.choosePane(Role::section);
    d.press("turnItRound");
    CHECK(d.pane(Role::section).facing.x() == Approx(-1));
    const QString path = QString::fromStdString(temporary("panes.uprism"));
    d.withFileDialog("ctrl+s", path);
    d.window.open(path);
    d.waitIdle();
    CHECK(d.said().hung.size() == 1);
    CHECK(d.pane(Role::section).facing.x() == Approx(-1));
}

TEST_CASE("pointing at a line draws projectors to its counterparts, and panes fold one after another") {
    CoverDesk d;
    // The left end of the pocket's floor in the front view: two corners in the top view.
    hands::moveTo(d.sheet()->mapToGlobal(d.at(Role::front, {22, 20})));
    hands::settle(80);
    const auto& found = d.window.session().projectors();
    REQUIRE(found.size() == 4);
    for (const Projector& p : found) {
        CHECK((p.at.x == Approx(15) || p.at.x == Approx(45)));
        CHECK((p.at.y == Approx(10) || p.at.y == Approx(40)));
        CHECK(p.at.z == Approx(20));
    }
    const auto ground = [&](bool on) {
        auto* b = d.find<QPushButton>("showProjectors");
        if (b->isChecked() != on) hands::click(b);
        hands::moveTo(d.sheet()->mapToGlobal(d.at(Role::front, {22, 20})));
        hands::settle(250);
        const QImage image = d.box()->grab().toImage();
        int red = 0;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x) {
                const QColor c = image.pixelColor(x, y);
                red += c.red() > 150 && c.green() < 110 && c.blue() < 90;
            }
        return red;
    };
    CHECK(ground(true) > 50);
    CHECK(ground(false) < 5);
    d.press("oneByOne");
    auto* slider = d.find<QSlider>("hingeSlider");
    slider->setFocus();
    hands::key("Home");
    d.waitIdle();
    const float flat = d.pane(Role::section).corners[0].x();
    // Three panes fold: after a third of the way the top pane stands, the others still lie flat.
    slider->setValue(334);
    d.waitIdle();
    CHECK(d.pane(Role::top).facing.z() == Approx(1).margin(1e-5));
    CHECK(d.pane(Role::section).corners[0].x() == Approx(flat).margin(0.2));
    CHECK(d.pane(Role::section).facing.y() == Approx(-1).margin(1e-3));
    hands::key("End");
    d.waitIdle();
    CHECK(d.pane(Role::section).facing.x() == Approx(1).margin(1e-5));
}

TEST_CASE("keys and drags for moving about are set by the person; two things on one key are refused") {
    CoverDesk d;
    const auto usual = Navigation::Habits{};
    Navigation::mine().set(usual);
    const float before = d.box()->camera().azimuth;
    const auto done = hands::inNextDialog([](QWidget* dialog) {
        auto* turn = dialog->findChild<QComboBox*>("turnDrag");
        hands::choose(turn, 2); // the right button, which moves
        auto* take = dialog->findChild<QPushButton*>("takeNavigation");
        CHECK_FALSE(take->isEnabled());
        auto* move = dialog->findChild<QComboBox*>("moveDrag");
        hands::choose(move, 0); // the left one
        CHECK(take->isEnabled());
        auto* key = dialog->findChild<QKeySequenceEdit*>("key0");
        hands::click(key);
        hands::key("Right"); // already turns right
        hands::settle(1300);
        CHECK_FALSE(take->isEnabled());
        CHECK_FALSE(dialog->findChild<QLabel*>("navigationTrouble")->text().isEmpty());
        hands::click(key);
        hands::key("k");
        hands::settle(1300);
        CHECK(take->isEnabled());
        hands::click(take);
    });
    hands::click(d.find<QPushButton>("navigationKeys"));
    REQUIRE(hands::waitFor([&] { return *done && !QApplication::activeModalWidget(); }, 15000));
    d.comeBack();
    CHECK(Navigation::mine().habits().turn == Navigation::Drag::right);
    d.box()->setFocus();
    hands::key("k");
    CHECK(d.box()->camera().azimuth == Approx(before - 6).margin(0.01));
    const QPoint middle = d.box()->rect().center();
    hands::drag(d.box(), middle, middle + QPoint(40, 0), 3);
    d.waitIdle();
    CHECK(d.box()->camera().azimuth == Approx(before - 6 - 18).margin(1.5));
    const QVector3D centre = d.box()->camera().centre;
    hands::drag(d.box(), middle, middle + QPoint(40, 0));
    CHECK((d.box()->camera().centre - centre).length() > 1);
    Navigation::mine().set(usual);
}

TEST_CASE("what is pointed at on one canvas is lit on the other within one frame") {
    CoverDesk d;
    for (Vec2 at : {Vec2{22, 20}, Vec2{0, 30}, Vec2{80, 45}, Vec2{50, 0}}) {
        hands::moveTo(d.sheet()->mapToGlobal(QPoint(5, 5)));
        hands::settle(120);
        const QImage before = d.box()->grab().toImage();
        hands::moveTo(d.sheet()->mapToGlobal(d.at(Role::front, at)));
        REQUIRE(hands::waitFor([&] { return !d.window.session().pointed().empty(); }, 2000));
        // The signal has marked both canvases for painting: nothing but one painting lies between.
        CHECK(before != d.box()->grab().toImage());
    }
}

TEST_CASE("the box is turned, moved and zoomed by mouse and by keys, and shown whole again") {
    CoverDesk d;
    Navigation::mine().set({});
    const QPoint middle = d.box()->rect().center();
    const app::Camera before = d.box()->camera();
    hands::drag(d.box(), middle, middle + QPoint(60, 0));
    CHECK(std::abs(d.box()->camera().azimuth - before.azimuth) > 15);
    const QVector3D centre = d.box()->camera().centre;
    hands::drag(d.box(), middle, middle + QPoint(0, 50), 3);
    CHECK((d.box()->camera().centre - centre).length() > 5);
    // What is under the pointer stays there while zooming.
    const QVector3D corner = d.pane(Role::top).corners[2];
    const QPoint there = d.box()->toScreen(corner).toPoint();
    const float height = d.box()->camera().height;
    hands::wheel(d.box(), there, 3);
    CHECK(d.box()->camera().height < 0.8f * height);
    CHECK((d.box()->toScreen(corner) - there).manhattanLength() < 4);
    d.box()->setFocus();
    hands::key("minus");
    CHECK(d.box()->camera().height > 0.9f * height * 0.5f);
    const QVector3D moved = d.box()->camera().centre;
    hands::key("shift+Left");
    CHECK((d.box()->camera().centre - moved).length() > 1);
    hands::key("bracketleft");
    CHECK(d.box()->hinge() == Approx(0.95));
    hands::key("Home");
    for (const auto& p : d.box()->scene().panes)
        for (const QVector3D& c : p.corners) CHECK(d.box()->rect().contains(d.box()->toScreen(c).toPoint()));
    // The sheet moves and zooms likewise.
    const QPoint place = d.at(Role::front, {50, 30});
    hands::drag(d.sheet(), d.sheet()->rect().center(), d.sheet()->rect().center() + QPoint(30, 20), 3);
    CHECK((d.at(Role::front, {50, 30}) - place - QPoint(30, 20)).manhattanLength() < 4);
    const double scale = d.sheet()->scale();
    hands::wheel(d.sheet(), d.at(Role::front, {50, 30}), 2);
    CHECK(d.sheet()->scale() > 1.2 * scale);
    d.sheet()->setFocus();
    hands::key("Home");
    CHECK((d.at(Role::front, {50, 30}) - place).manhattanLength() < 4);
}
