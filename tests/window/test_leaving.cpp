#include "window/desk.h"

#include "app/box/box_canvas.h"

#include <QMessageBox>
#include <QTemporaryDir>
#include <QTimer>

using namespace prism;
using namespace prism::test;
using app::MainWindow;

namespace {

/// Presses a button of the next message box as soon as it stands.
std::shared_ptr<bool> answerNextQuestion(const QString& button) {
    auto done = std::make_shared<bool>(false);
    auto* watch = new QTimer(qApp);
    watch->setInterval(50);
    QObject::connect(watch, &QTimer::timeout, watch, [watch, done, button] {
        auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
        if (!box) return;
        for (QAbstractButton* b : box->buttons())
            if (b->text() == button) {
                watch->deleteLater();
                watch->stop();
                *done = true;
                b->click();
                return;
            }
    });
    watch->start();
    return done;
}

void proposePulley(TestDesk& d) {
    d.window.open(PRISM_DEMO "/weight-pulley.dxf");
    d.waitIdle();
    d.goTo(MainWindow::build);
    d.press("proposeSolid");
    REQUIRE(d.model().build.ok());
}

} // namespace

TEST_CASE("leaving unsaved work asks, and staying keeps everything") {
    TestDesk d;
    proposePulley(d);
    const auto stay = answerNextQuestion("Stay here");
    d.window.close();
    CHECK(*stay);
    CHECK(d.window.isVisible());
    CHECK(d.model().build.ok());
    const auto leave = answerNextQuestion("Leave it unsaved");
    d.window.close();
    CHECK(*leave);
    CHECK_FALSE(d.window.isVisible());
}

TEST_CASE("saved work closes without a question") {
    QTemporaryDir folder;
    TestDesk d;
    proposePulley(d);
    REQUIRE(d.window.session().save(folder.filePath("pulley.uprism")));
    CHECK_FALSE(d.window.session().modified());
    d.window.close();
    CHECK_FALSE(d.window.isVisible());
}

TEST_CASE("saving into a folder that is not there says so and keeps the work") {
    TestDesk d;
    proposePulley(d);
    CHECK_FALSE(d.window.session().save("/no/such/folder/x.uprism"));
    CHECK(d.find<QLabel>("messageText")->isVisible());
    CHECK(d.find<QLabel>("messageText")->text().contains("/no/such/folder/x.uprism"));
    CHECK(d.window.session().modified());
    d.press("closeMessage");
    hands::key("ctrl+z"); // nothing left for a question at the end
    d.waitIdle();
    CHECK_FALSE(d.window.session().modified());
}

TEST_CASE("an empty window offers only what can be done") {
    TestDesk d;
    CHECK_FALSE(d.find<QAbstractButton>("saveFile")->isEnabled());
    CHECK_FALSE(d.find<QAbstractButton>("proposeSolid")->isEnabled());
    CHECK_FALSE(d.find<QAbstractButton>("undo")->isEnabled());
    CHECK(d.find<QAbstractButton>("openFile")->isEnabled());
    for (int i = 0; i < 7; ++i) d.goTo(i);
    hands::click(d.sheet(), {100, 100});
    hands::wheel(d.sheet(), {100, 100}, 2);
    auto* box = d.window.findChild<app::BoxCanvas*>();
    hands::drag(box, {100, 100}, {160, 130});
    hands::key("ctrl+e");
    CHECK_FALSE(QApplication::activeModalWidget());
}

TEST_CASE("changes made faster than they are computed all arrive, in order") {
    TestDesk d;
    proposePulley(d);
    for (int i = 1; i <= 4; ++i)
        d.window.session().change(QString("Change %1").arg(i),
                                  [i](Choices& c) { c.numbers["x1"].value = 60 + i; });
    d.waitIdle();
    CHECK(d.model().ledger.named("x1")->value == Approx(64));
    CHECK(d.window.session().undoLabel() == "Change 4");
    for (int i = 3; i >= 0; --i) {
        hands::key("ctrl+z");
        d.waitIdle();
        CHECK(d.model().ledger.named("x1")->value == Approx(60 + i));
    }
    for (int i = 0; i < 5; ++i) hands::key("ctrl+z"), d.waitIdle();
    CHECK_FALSE(d.window.session().modified());
}

TEST_CASE("pointing at a line in the box lights it up on the sheet") {
    TestDesk d;
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    auto* box = d.window.findChild<app::BoxCanvas*>();
    box->setLook(app::BoxCanvas::Look::front);
    hands::settle(60);
    int lit = 0; // a sweep across the front pane meets its lines
    for (int x = 40; x < box->width() - 40 && !lit; x += 9) {
        hands::moveTo(box->mapToGlobal(QPoint(x, box->height() / 2 + 40)));
        lit = static_cast<int>(d.window.session().pointed().entities.size());
    }
    REQUIRE(lit == 1);
    const int e = *d.window.session().pointed().entities.begin();
    CHECK(d.model().views.view_of_entity[e] >= 0);
    hands::moveTo(d.sheet()->mapToGlobal(QPoint(5, 5)));
    CHECK(d.window.session().pointed().empty());
}

TEST_CASE("everything about a number is done by key alone") {
    TestDesk d;
    d.window.open(PRISM_DEMO "/weight-pulley.dxf");
    d.waitIdle();
    hands::key("alt+6");
    auto* ledger = d.find<app::RowTable>("ledgerTable");
    ledger->setFocus();
    ledger->setCurrentIndex(ledger->rows().index(0, 3));
    hands::key("Down");
    CHECK(ledger->currentRow() == 1);
    CHECK(d.window.session().chosen().dimensions.size() == 1);
    hands::key("F2");
    hands::settle(80);
    hands::key("ctrl+a");
    hands::type("13,5");
    hands::key("Return");
    d.waitIdle();
    CHECK(d.model().ledger.entries[1].value == Approx(13.5));
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK_FALSE(d.window.session().modified());
}
