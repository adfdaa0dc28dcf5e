#include "app/box/box_canvas.h"
#include "support/integral.h"
#include "window/desk.h"

#include <QLineEdit>
#include <QPushButton>

using namespace prism;
using namespace prism::test;

TEST_CASE("a proposal that does not explain the sheet is only offered, and taken when a person says so") {
    TestDesk desk;
    desk.window.open(PRISM_TEST_DATA "/sheets/fault05-mirrored-side.dxf"); // no solid looks like that
    desk.waitIdle();
    desk.goTo(4);
    desk.press("proposeSolid");
    auto* message = desk.find<QWidget>("message");
    auto* accept = desk.find<QPushButton>("acceptOffer");
    REQUIRE(message->isVisible());
    CHECK(accept->isVisible());
    CHECK(desk.find<QLabel>("messageText")->text().contains("does not explain the sheet"));
    CHECK(desk.window.session().choices().steps.empty());
    desk.press("closeMessage");
    CHECK_FALSE(message->isVisible());
    CHECK(desk.window.session().choices().steps.empty());
    desk.press("proposeSolid");
    desk.press("acceptOffer");
    CHECK_FALSE(desk.window.session().choices().steps.empty());
    desk.press("undo");
    CHECK(desk.window.session().choices().steps.empty());
}

TEST_CASE("a proposal that shows every line is taken at once, and Remove pressed twice removes one step") {
    TestDesk desk;
    desk.window.open(PRISM_DEMO "/roller-bracket.dxf");
    desk.waitIdle();
    desk.goTo(4);
    desk.press("proposeSolid");
    CHECK_FALSE(desk.find<QWidget>("message")->isVisible());
    const std::vector<Step> steps = desk.window.session().choices().steps;
    REQUIRE(steps.size() > 2);
    CHECK(desk.model().proof->proved());
    auto* table = desk.find<app::RowTable>("stepTable");
    hands::click(table->viewport(), table->visualRect(table->rows().index(1, 2)).center());
    auto* remove = desk.find<QPushButton>("removeStep");
    REQUIRE(remove->isEnabled());
    remove->click(); // twice, before the first is computed
    remove->click();
    desk.waitIdle();
    const auto& left = desk.window.session().choices().steps;
    REQUIRE(left.size() == steps.size() - 1);
    CHECK(left[0] == steps[0]);
    CHECK(left[1] == steps[2]);
}

TEST_CASE("where the sheet allows two solids, the other one is a press away, and undone by another") {
    TestDesk desk;
    desk.window.open(PRISM_TEST_DATA "/parts/shaft-with-flats.dxf"); // its end is chamfered or stepped
    desk.waitIdle();
    desk.goTo(4);
    desk.press("proposeSolid");
    REQUIRE(desk.model().proof);
    CHECK(desk.model().proof->proved());
    const double chamfered = desk.model().build.measure.volume;
    REQUIRE(desk.find<QWidget>("message")->isVisible());
    const QString said = desk.find<QLabel>("messageText")->text();
    CHECK(said.contains("2 solids fit every line"));
    CHECK(said.contains("a step of 2 mm in place of the chamfer"));
    CHECK(said.contains("would tell"));
    desk.press("acceptOffer");
    CHECK_FALSE(desk.find<QWidget>("message")->isVisible());
    CHECK(desk.model().proof->proved());
    CHECK(desk.model().build.measure.volume == Approx(42897.3755)); // without what the chamfer has more
    desk.press("undo");
    CHECK(desk.model().build.measure.volume == Approx(chamfered).epsilon(1e-9));
    CHECK(chamfered == Approx(42991.4916));
    desk.press("proposeSolid"); // and kept as it is
    desk.press("closeMessage");
    CHECK(desk.model().build.measure.volume == Approx(chamfered).epsilon(1e-9));
    // Or taken by a click on what differs, as the box shows it: 2 mm of the end.
    desk.press("proposeSolid");
    REQUIRE(desk.find<QWidget>("message")->isVisible());
    auto* box = desk.window.findChild<app::BoxCanvas*>();
    box->setLook(app::BoxCanvas::Look::front);
    hands::settle(200);
    const auto [lo, hi] = box->scene().part;
    const QVector3D centre = 0.5f * (lo + hi);
    const QPoint end = box->toScreen({lo.x() + 1.2f, centre.y(), centre.z()}).toPoint(),
                 middle = box->toScreen(centre).toPoint();
    hands::click(box, middle); // beside it: nothing is taken
    desk.waitIdle();
    CHECK(desk.find<QWidget>("message")->isVisible());
    hands::click(box, end);
    desk.waitIdle();
    CHECK_FALSE(desk.find<QWidget>("message")->isVisible());
    CHECK(desk.model().build.measure.volume == Approx(42897.3755));
}

TEST_CASE("a search for a solid shows the nearest one while it goes on, and keeps it when it is stopped") {
    TestDesk desk;
    desk.window.open(PRISM_TEST_DATA "/sheets/fault05-mirrored-side.dxf"); // no solid looks like that
    desk.waitIdle();
    desk.goTo(4);
    auto& session = desk.window.session();
    QStringList shown;
    QObject::connect(&session, &app::Session::previewReady,
                     [&](const Mesh& more, const Mesh&, const QString& told) {
                         if (!told.startsWith("Nearest so far")) return;
                         CHECK_FALSE(more.empty());
                         shown << told;
                     });
    session.propose();
    REQUIRE(hands::waitFor([&] { return !shown.isEmpty(); }, 30000));
    REQUIRE(session.busy());
    session.cancel();
    CHECK_FALSE(session.busy());
    CHECK(desk.find<QWidget>("message")->isVisible());
    CHECK(desk.find<QLabel>("messageText")->text().contains("The search was stopped"));
    CHECK(session.choices().steps.empty());
    desk.waitIdle();
    desk.press("acceptOffer");
    CHECK_FALSE(session.choices().steps.empty());
    CHECK(desk.model().build.ok());
    desk.press("undo");
    CHECK(session.choices().steps.empty());
}

TEST_CASE("work that is stopped leaves everything as it was, at once, and says so") {
    TestDesk desk;
    desk.window.open(PRISM_DEMO "/roller-bracket.dxf");
    desk.waitIdle();
    QString said;
    QObject::connect(&desk.window.session(), &app::Session::stopped,
                     [&](const QString& what) { said = what; });
    desk.window.session().propose();
    hands::settle(30);
    REQUIRE(desk.window.session().busy());
    desk.window.session().cancel();
    CHECK_FALSE(desk.window.session().busy());
    CHECK(said.contains("as they were before"));
    CHECK(desk.window.session().choices().steps.empty());
    desk.window.session().propose(); // begins once the other has ended
    desk.waitIdle();
    CHECK_FALSE(desk.window.session().choices().steps.empty());
}

TEST_CASE("a cross hole that no view looks along is proposed, made wider by a note and as it was again") {
    TestDesk desk;
    desk.window.open(PRISM_TEST_DATA "/parts/screw-with-cross-hole.dxf");
    desk.waitIdle();
    desk.goTo(4);
    desk.press("proposeSolid");
    REQUIRE(desk.model().proof);
    CHECK(desk.model().proof->proved());
    const double narrow = desk.volume();
    const std::vector<Step>& steps = desk.window.session().choices().steps;
    const auto hole = std::ranges::find_if(steps, lies);
    REQUIRE(hole != steps.end());
    auto* table = desk.find<app::RowTable>("stepTable");
    const int row = static_cast<int>(hole - steps.begin());
    hands::click(table->viewport(), table->visualRect(table->rows().index(row, 2)).center());
    desk.press("editStep");
    auto* note = desk.find<QLineEdit>("holeNote");
    hands::click(note, note->rect().center());
    hands::key("ctrl+a");
    hands::type("dia 5 through");
    hands::key("Tab");
    desk.waitIdle();
    desk.press("acceptStep");
    // Across the stem of radius 11, but for the bore of radius 4 that it meets.
    const auto taken = [](double r) {
        return integral(-r, r, [&](double y) {
            return 4 * std::sqrt(std::max(0.0, r * r - y * y)) *
                   (std::sqrt(121 - y * y) - std::sqrt(16 - y * y));
        });
    };
    CHECK(narrow - desk.volume() == Approx(taken(2.5) - taken(2)).epsilon(1e-4));
    CHECK_FALSE(desk.model().proof->proved()); // the sheet shows it narrower
    hands::key("ctrl+z");
    desk.waitIdle();
    CHECK(desk.volume() == Approx(narrow));
    CHECK(desk.model().proof->proved());
}
