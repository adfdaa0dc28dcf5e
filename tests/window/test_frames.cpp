#include "app/box/box_canvas.h"
#include "window/desk.h"

#include <QElapsedTimer>
#include <QFile>
#include <QTemporaryDir>
#include <QWheelEvent>

using namespace prism;
using namespace prism::test;

// Frame rates, in whatever rendering the display has. Not run by default, since they tell about the machine
// too: test_window "[frames]".
namespace {

/// Many small plates; five lines each.
QString openMany(const QTemporaryDir& folder, int plates, int columns) {
    QByteArray t = "0\nSECTION\n2\nENTITIES\n";
    auto line = [&](double ax, double ay, double bx, double by) {
        t += QString("0\nLINE\n8\nPART\n10\n%1\n20\n%2\n11\n%3\n21\n%4\n")
                 .arg(ax)
                 .arg(ay)
                 .arg(bx)
                 .arg(by)
                 .toLatin1();
    };
    for (int i = 0; i < plates; ++i) {
        const double x = 10 * (i % columns), y = 8 * (i / columns);
        line(x, y, x + 10, y), line(x + 10, y, x + 10, y + 8), line(x + 10, y + 8, x, y + 8),
            line(x, y + 8, x, y);
        line(x, y, x + 10, y + 8);
    }
    QFile f(folder.filePath("many.dxf"));
    REQUIRE(f.open(QIODevice::WriteOnly));
    f.write(t + "0\nENDSEC\n0\nEOF\n");
    return f.fileName();
}

double framesPerSecond(const std::function<void(int)>& step, QWidget* w) {
    constexpr int frames = 60;
    QElapsedTimer clock;
    clock.start();
    for (int i = 0; i < frames; ++i) {
        step(i);
        w->repaint();
        QCoreApplication::processEvents();
    }
    return frames * 1e3 / double(clock.elapsed());
}

void turnWheel(QWidget* w, int by) {
    const QPointF at(w->width() / 2.0, w->height() / 2.0);
    QWheelEvent e(at, w->mapToGlobal(at), {}, {0, by}, Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase,
                  false);
    QCoreApplication::sendEvent(w, &e);
}

void drag(QWidget* w, Qt::MouseButton button, QPointF from, QPointF to) {
    QMouseEvent press(QEvent::MouseButtonPress, from, w->mapToGlobal(from), button, button, Qt::NoModifier);
    QMouseEvent move(QEvent::MouseMove, to, w->mapToGlobal(to), Qt::NoButton, button, Qt::NoModifier);
    QMouseEvent release(QEvent::MouseButtonRelease, to, w->mapToGlobal(to), button, Qt::NoButton,
                        Qt::NoModifier);
    for (QEvent* e :
         {static_cast<QEvent*>(&press), static_cast<QEvent*>(&move), static_cast<QEvent*>(&release)})
        QCoreApplication::sendEvent(w, e);
}

} // namespace

TEST_CASE("100,000 lines are moved and zoomed at more than 30 frames a second", "[.][frames]") {
    QTemporaryDir folder;
    TestDesk d;
    d.window.open(openMany(folder, 20000, 200));
    d.waitIdle();
    REQUIRE(d.model().drawing->entities.size() == 100000);
    const double zoom =
        framesPerSecond([&](int i) { turnWheel(d.sheet(), i % 20 < 10 ? 60 : -60); }, d.sheet());
    const double pan = framesPerSecond(
        [&](int i) {
            drag(d.sheet(), Qt::MiddleButton, {300, 200}, {300 + (i % 2 ? 9.0 : -9.0), 203});
        },
        d.sheet());
    WARN("zoom " << zoom << ", pan " << pan << " frames a second");
    CHECK(zoom > 30);
    CHECK(pan > 30);
}

TEST_CASE("5,000 lines are folded and turned in the box at more than 25 frames a second", "[.][frames]") {
    QTemporaryDir folder;
    TestDesk d;
    d.window.open(openMany(folder, 1000, 40));
    d.waitIdle();
    REQUIRE(d.model().drawing->entities.size() == 5000);
    auto* box = d.window.findChild<app::BoxCanvas*>();
    const double fold = framesPerSecond([&](int i) { box->setHinge((i % 31) / 30.0); }, box);
    const double orbit = framesPerSecond(
        [&](int i) {
            drag(box, Qt::LeftButton, {200, 200}, {207, 200.0 + i % 3});
        },
        box);
    WARN("fold " << fold << ", orbit " << orbit << " frames a second");
    CHECK(fold > 25);
    CHECK(orbit > 25);
}
