#include "window/hands.h"

#include <QAbstractItemView>
#include <QAbstractNativeEventFilter>
#include <QApplication>
#include <QElapsedTimer>
#include <QEventLoop>
#include <QTimer>

#include <X11/XKBlib.h>
#include <X11/Xlib.h>
#include <X11/extensions/XTest.h>
#include <X11/keysym.h>
#include <catch2/catch.hpp>
#include <xcb/xcb.h>

namespace prism::test::hands {
namespace {

Display* display() {
    static Display* d = XOpenDisplay(nullptr);
    return d;
}

/// Counts the keys and buttons that were let go and those whose letting go has come back from the display
/// server. On a slow machine that takes longer than any fixed pause.
class ComeBack : public QAbstractNativeEventFilter {
  public:
    ComeBack() { QCoreApplication::instance()->installNativeEventFilter(this); }
    bool nativeEventFilter(const QByteArray& kind, void* message, qintptr*) override {
        if (kind != "xcb_generic_event_t") return false;
        constexpr int letGoOfButton = 5; // XI_ButtonRelease of the X Input Extension 2
        const int type = static_cast<xcb_generic_event_t*>(message)->response_type & 0x7f;
        if (type == XCB_KEY_RELEASE || type == XCB_BUTTON_RELEASE ||
            (type == XCB_GE_GENERIC &&
             static_cast<xcb_ge_generic_event_t*>(message)->event_type == letGoOfButton))
            ++seen;
        return false;
    }
    long sent = 0, seen = 0;
};

ComeBack& comeBack() {
    static ComeBack c;
    return c;
}

/// Until all that was let go has come back; what goes to no window of ours never does.
void waitForAll() {
    ComeBack& c = comeBack();
    waitFor([&c] { return c.seen >= c.sent; }, 2000);
    c.seen = c.sent = 0;
    settle();
}

void button(int n, bool down) {
    if (!down) ++comeBack().sent;
    XTestFakeButtonEvent(display(), static_cast<unsigned>(n), down, 0);
    XSync(display(), False);
}

void code(KeyCode k, bool down) {
    if (!down) ++comeBack().sent;
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
    waitForAll();
}

void click(QWidget* w) {
    click(w, w->rect().center());
}

void doubleClick(QWidget* w, QPoint at) {
    moveTo(w->mapToGlobal(at));
    for (int i = 0; i < 2; ++i) button(1, true), button(1, false);
    waitForAll();
}

void drag(QWidget* w, QPoint from, QPoint to, int n) {
    moveTo(w->mapToGlobal(from));
    button(n, true);
    for (int i = 1; i <= 4; ++i) moveTo(w->mapToGlobal(from + (to - from) * i / 4));
    button(n, false);
    waitForAll();
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
    waitForAll();
}

void wheel(QWidget* w, QPoint at, int clicks) {
    moveTo(w->mapToGlobal(at));
    for (int i = 0; i < std::abs(clicks); ++i)
        button(clicks > 0 ? 4 : 5, true), button(clicks > 0 ? 4 : 5, false);
    waitForAll();
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
    waitForAll();
}

void openList(QComboBox* list) {
    const auto open = [list] { return list->view()->isVisible(); };
    // Where the list takes its time to open, the button let go over it already chooses and closes it.
    for (int attempt = 0; attempt < 3 && !open(); ++attempt) {
        click(list);
        waitFor(open, 2000);
        settle(120);
    }
    REQUIRE(open());
}

void choose(QComboBox* list, int row) {
    openList(list);
    key("Home");
    for (int i = 0; i < row; ++i) key("Down");
    CHECK(list->view()->currentIndex().row() == row);
    key("Return");
    CHECK(waitFor([list] { return !list->view()->isVisible(); }, 5000));
    CHECK(list->currentIndex() == row);
}

std::shared_ptr<bool> inNextDialog(const std::function<void(QWidget*)>& act) {
    auto* watch = new QTimer(qApp);
    watch->setInterval(50);
    auto seen = std::make_shared<int>(0);
    auto done = std::make_shared<bool>(false);
    QObject::connect(watch, &QTimer::timeout, watch, [watch, seen, done, act] {
        QWidget* dialog = QApplication::activeModalWidget();
        if (!dialog || ++*seen < 6) return;
        watch->deleteLater();
        watch->stop();
        act(dialog);
        *done = true;
    });
    watch->start();
    return done;
}

std::shared_ptr<bool> answerNextDialog(const QString& text) {
    return inNextDialog([text](QWidget*) {
        keyNow("ctrl+a");
        for (QChar c : text) press(c.unicode());
        keyNow("Return");
    });
}

void type(const QString& text) {
    for (QChar c : text) {
        press(c.unicode()); // the keysyms of Latin-1 are their code points
        settle(8);
    }
    waitForAll();
}

} // namespace prism::test::hands
