#include "app/box/box_canvas.h"
#include "core/tracing/placing.h"
#include "window/desk.h"

#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QFile>
#include <QLineEdit>
#include <QTemporaryDir>

using namespace prism;
using namespace prism::test;
using app::MainWindow;

namespace {

/// The demo scan: turned by 1.3 degrees, stretched by 1 % upright, 150 dots an inch. Places of the sheet it
/// was made from lie at known pixels.
class ScanDesk : public TestDesk {
  public:
    ScanDesk() {
        window.open(PRISM_DEMO "/roller-bracket-scan.png");
        waitIdle();
    }
    const Picture& picture(size_t i = 0) { return model().drawing->pictures.at(i); }
    const PictureChoices& said() { return window.session().choices().reading.picture; }
    static Vec2 pixel(double x, double y) {
        const double t = 1.3 * kPi / 180, px = 150 / 25.4;
        const Vec2 origin{110.56, 1899.43}; // of the border's lower left corner
        return {origin.x + (std::cos(t) * x - std::sin(t) * y) * px,
                origin.y - (std::sin(t) * x + std::cos(t) * y) * px * 1.01};
    }
    QPoint screen(double x, double y) { return sheet()->toScreen(picture().to_sheet(pixel(x, y))).toPoint(); }
    void pick(double x, double y) {
        hands::click(sheet(), screen(x, y));
        waitIdle();
    }
    void sayLength(Vec2 a, Vec2 b, const char* mm) {
        press("twoPlaces");
        pick(a.x, a.y), pick(b.x, b.y);
        hands::type(mm); // the field waits for it
        hands::key("Return");
        waitIdle();
    }
};

} // namespace

TEST_CASE("a scan opens on its own page, laid straight as measured") {
    ScanDesk d;
    CHECK(d.find<QPushButton>("picturePage")->isChecked());
    CHECK(d.find<QPushButton>("findTraced")->isVisible());
    const Vec2 level = d.picture().to_sheet.linear(ScanDesk::pixel(100, 0) - ScanDesk::pixel(0, 0));
    const Vec2 upright = d.picture().to_sheet.linear(ScanDesk::pixel(0, 100) - ScanDesk::pixel(0, 0));
    CHECK(std::abs(level.y / level.x) < 5e-4);
    CHECK(std::abs(upright.x / upright.y) < 5e-4);
    d.press("asScanned");
    CHECK(std::abs(d.picture().to_sheet.linear({1, 0}).y) < 1e-12);
    d.press("asMeasured");
    CHECK_FALSE(d.said().straighten);
    // A drawing without a scan has no such page.
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    CHECK_FALSE(d.find<QPushButton>("picturePage")->isVisible());
    CHECK(d.find<QPushButton>("layersPage")->isChecked());
}

TEST_CASE("known lengths are picked on the ink and size both axes; undo takes them back") {
    ScanDesk d;
    d.sayLength({0, 200}, {420, 210}, "420"); // from border to border, not at one height
    REQUIRE(d.said().lengths.size() == 1);
    CHECK(d.said().lengths[0].along == KnownLength::Along::level);
    d.sayLength({200, 0}, {208, 297}, "297");
    REQUIRE(d.said().lengths.size() == 2);
    CHECK(d.said().lengths[1].along == KnownLength::Along::upright);
    const Calibration c = calibrate(*d.picture().scan, d.said(), -1);
    CHECK(c.corrected);
    CHECK(*c.stretch == Approx(1 / 1.01).epsilon(5e-4));
    // 120 mm of the part, as it now lies on the sheet.
    const Vec2 size =
        d.picture().to_sheet(ScanDesk::pixel(190, 70)) - d.picture().to_sheet(ScanDesk::pixel(70, 70));
    CHECK(size.x == Approx(120).margin(0.05));
    CHECK(size.y == Approx(0).margin(0.05));
    hands::click(d.find<QCheckBox>("correctStretch"));
    d.waitIdle();
    CHECK_FALSE(calibrate(*d.picture().scan, d.said(), -1).corrected);
    for (int i = 0; i < 3; ++i) hands::key("ctrl+z"), d.waitIdle();
    CHECK(d.said() == PictureChoices{});
}

TEST_CASE("a pick beside the scan and a length that is none are refused with words") {
    ScanDesk d;
    d.press("twoPlaces");
    hands::click(d.sheet(), QPoint(3, 3));
    d.waitIdle();
    d.pick(0, 200), d.pick(420, 200);
    hands::type("minus seven");
    hands::key("Return");
    d.waitIdle();
    CHECK(d.said().lengths.empty());
    hands::key("Escape"); // leaves the field as it is; another pick starts anew
    d.press("twoPlaces");
    CHECK_FALSE(d.find<QLineEdit>("knownLength")->isEnabled());
}

TEST_CASE("a view is cut out of a scan, its lines are found and accepted in part") {
    ScanDesk d;
    d.sayLength({0, 200}, {420, 200}, "420");
    d.sayLength({200, 0}, {200, 297}, "297");
    d.press("cutOut");
    hands::drag(d.sheet(), d.screen(35, 40), d.screen(212, 170));
    d.waitIdle();
    REQUIRE(d.said().cuts.size() == 1);
    CHECK(d.said().cuts[0].name == "front");
    REQUIRE(d.model().drawing->pictures.size() == 1);
    // For the next one all of the scan is shown again.
    d.press("cutOut");
    hands::drag(d.sheet(), d.screen(35, 180), d.screen(212, 275));
    d.waitIdle();
    REQUIRE(d.said().cuts.size() == 2);
    CHECK(d.said().cuts[1].name == "top");
    hands::key("ctrl+z");
    d.waitIdle();
    d.press("findTraced");
    auto* kinds = d.find<app::RowTable>("tracedKinds");
    REQUIRE(kinds->model()->rowCount() > 2);
    auto* accept = d.find<QPushButton>("acceptTraced");
    const int all = accept->text().section(' ', 1).toInt();
    REQUIRE(all > 10);
    // A click on a line leaves it out, another one takes it in again.
    const Vec2 on = d.picture().to_sheet(ScanDesk::pixel(130, 70));
    hands::click(d.sheet(), d.sheet()->toScreen(on).toPoint());
    d.waitIdle();
    CHECK(accept->text().section(' ', 1).toInt() == all - 1);
    hands::click(d.sheet(), d.sheet()->toScreen(on).toPoint());
    d.waitIdle();
    CHECK(accept->text().section(' ', 1).toInt() == all);
    d.press("acceptTraced");
    CHECK(static_cast<int>(d.window.session().choices().marks.lines.size()) == all);
    CHECK_FALSE(accept->isEnabled());
    REQUIRE(d.model().views.views.size() >= 1);
    const Box2 box = d.model().views.views[0].box_sheet;
    CHECK(box.width() == Approx(120).margin(0.1));
    CHECK(box.height() == Approx(82).margin(0.1));
    // Saved and opened again, all of it is there.
    QTemporaryDir folder;
    const QString project = folder.filePath("scan.uprism");
    REQUIRE(d.window.session().save(project));
    d.window.open(project);
    d.waitIdle();
    CHECK(static_cast<int>(d.model().drawing->entities.size()) == all);
    CHECK(d.said().lengths.size() == 2);
}

TEST_CASE("a line and a curve are drawn over a scan and go where the ink is") {
    ScanDesk d;
    d.sayLength({0, 200}, {420, 200}, "420");
    d.sayLength({200, 0}, {200, 297}, "297");
    d.press("markPage");
    d.press("markLine");
    d.pick(75, 70), d.pick(180, 70); // the lower edge of the front view
    REQUIRE(d.window.session().choices().marks.lines.size() == 1);
    const auto line = std::get<Segment>(d.model().drawing->entities.at(0).curves[0]);
    const double y = d.picture().to_sheet(ScanDesk::pixel(120, 70)).y;
    CHECK(line.a.y == Approx(y).margin(0.03));
    CHECK(line.b.y == Approx(y).margin(0.03));
    hands::key("Escape");
    d.press("markCurve");
    d.pick(150, 200), d.pick(170, 215), d.pick(190, 195);
    hands::key("Return");
    d.waitIdle();
    REQUIRE(d.window.session().choices().marks.lines.size() == 2);
    const Curve curve = d.model().drawing->entities.at(1).curves[0];
    CHECK(std::holds_alternative<Spline>(curve));
    CHECK(distanceTo(curve, d.picture().to_sheet(ScanDesk::pixel(170, 215))) < 1);
}

TEST_CASE("the scan shows on the panes and is fitted to a reference box of the part's overall sizes") {
    ScanDesk d;
    d.press("findTraced");
    d.press("acceptTraced");
    d.goTo(MainWindow::fold);
    CHECK_FALSE(d.find<QPushButton>("fitScan")->isVisible());
    d.press("panesPage");
    REQUIRE(d.find<QPushButton>("fitScan")->isVisible());
    const auto say = [&](const char* field, const char* mm) {
        auto* f = d.find<QDoubleSpinBox>(field);
        hands::click(f);
        hands::key("ctrl+a");
        hands::type(mm);
        hands::key("Tab");
    };
    say("overallX", "120"), say("overallY", "60"), say("overallZ", "82");
    d.press("fitScan");
    CHECK(d.said().lengths.size() == 6); // two sizes in each of three views
    const View* front = d.model().views.withRole(Role::front);
    REQUIRE(front);
    CHECK(front->box_sheet.width() * front->mm_per_sheet == Approx(120).margin(0.2));
    CHECK(front->box_sheet.height() * front->mm_per_sheet == Approx(82).margin(0.2));
    const auto* box = d.window.findChild<app::BoxCanvas*>();
    const auto ink = [&] {
        hands::settle(250);
        const QImage image = d.window.findChild<app::BoxCanvas*>()->grab().toImage();
        int dark = 0;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x) dark += qGray(image.pixel(x, y)) < 200;
        return dark;
    };
    REQUIRE(box);
    const int with = ink();
    d.press("scanOnPanes");
    CHECK(ink() < with - 100);
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.said().lengths.empty());
}
