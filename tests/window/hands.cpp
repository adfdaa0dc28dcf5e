#include "window/hands.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QEventLoop>
#include <QTimer>

#include <X11/XKBlib.h>
#include <X11/Xlib.h>
#include <X11/extensions/XTest.h>
#include <X11/keysym.h>

namespace prism::test::hands {
namespace {

Display* display() {
    static Display* d = XOpenDisplay(nullptr);
    return d;
}

void button(int n, bool down) {
    XTestFakeButtonEvent(display(), static_cast<unsigned>(n), down, 0);
    XSync(display(), False);
}

void code(KeyCode k, bool down) {
    XTestFakeKeyEvent(display(), k, down, 0);
    XSync(display(), False);
}

KeyCode modifierCode(const QString& name) {
    const KeySym s = name == "ctrl" ? XK_Control_L : name == "shift" ? XK_Shift_L : XK_Alt_L;
    return XKeysymToKeycode(display(), s);
}

void press(KeySym s) {
    const KeyCode k = XKeysymToKeycode(display(), s);
    const bool shift =
        XkbKeycodeToKeysym(display(), k, 0, 0) != s && XkbKeycodeToKeysym(display(), k, 0, 1) == s;
    if (shift) code(modifierCode("shift"), true);
    code(k, true), code(k, false);
    if (shift) code(modifierCode("shift"), false);
}

} // namespace

void settle(int milliseconds) {
    QEventLoop wait;
    QTimer::singleShot(milliseconds, &wait, &QEventLoop::quit);
    wait.exec();
}

bool waitFor(const std::function<bool()>& happened, int milliseconds) {
    QElapsedTimer t;
    t.start();
    while (!happened() && t.elapsed() < milliseconds) settle(20);
    return happened();
}

void moveTo(QPoint p) {
    XTestFakeMotionEvent(display(), -1, p.x(), p.y(), 0);
    XSync(display(), False);
    settle();
}

void click(QWidget* w, QPoint at) {
    moveTo(w->mapToGlobal(at));
    button(1, true), button(1, false);
    settle();
}

void click(QWidget* w) {
    click(w, w->rect().center());
}

void doubleClick(QWidget* w, QPoint at) {
    moveTo(w->mapToGlobal(at));
    for (int i = 0; i < 2; ++i) button(1, true), button(1, false);
    settle();
}

void drag(QWidget* w, QPoint from, QPoint to, int n) {
    moveTo(w->mapToGlobal(from));
    button(n, true);
    for (int i = 1; i <= 4; ++i) moveTo(w->mapToGlobal(from + (to - from) * i / 4));
    button(n, false);
    settle();
}

void dragAlong(QWidget* w, const std::vector<QPoint>& way, const QString& modifier) {
    const KeyCode held = modifierCode(modifier);
    moveTo(w->mapToGlobal(way.front()));
    code(held, true);
    button(1, true);
    for (size_t i = 1; i < way.size(); ++i)
        for (int k = 1; k <= 4; ++k) moveTo(w->mapToGlobal(way[i - 1] + (way[i] - way[i - 1]) * k / 4));
    button(1, false);
    code(held, false);
    settle();
}

void wheel(QWidget* w, QPoint at, int clicks) {
    moveTo(w->mapToGlobal(at));
    for (int i = 0; i < std::abs(clicks); ++i)
        button(clicks > 0 ? 4 : 5, true), button(clicks > 0 ? 4 : 5, false);
    settle();
}

namespace {

void keyNow(const QString& name) {
    const QStringList parts = name.split('+');
    for (int i = 0; i + 1 < parts.size(); ++i) code(modifierCode(parts[i]), true);
    press(XStringToKeysym(parts.last().toLatin1().constData()));
    for (int i = static_cast<int>(parts.size()) - 2; i >= 0; --i) code(modifierCode(parts[i]), false);
}

} // namespace

void key(const QString& name) {
    keyNow(name);
    settle();
}

std::shared_ptr<bool> answerNextDialog(const QString& text) {
    auto* watch = new QTimer(qApp);
    watch->setInterval(50);
    auto seen = std::make_shared<int>(0);
    auto done = std::make_shared<bool>(false);
    QObject::connect(watch, &QTimer::timeout, watch, [watch, seen, done, text] {
        if (!QApplication::activeModalWidget() || ++*seen < 6) return;
        watch->deleteLater();
        watch->stop();
        keyNow("ctrl+a");
        for (QChar c : text) press(c.unicode());
        keyNow("Return");
        *done = true;
    });
    watch->start();
    return done;
}

void type(const QString& text) {
    for (QChar c : text) {
        press(c.unicode()); // the keysyms of Latin-1 are their code points
        settle(8);
    }
}

} // namespace prism::test::hands
