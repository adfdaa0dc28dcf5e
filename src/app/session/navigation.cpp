#include "app/session/navigation.h"

#include <QKeyEvent>
#include <QSettings>

namespace prism::app {
namespace {

constexpr std::array kActNames{
    "turn_left", "turn_right",    "turn_up",   "turn_down",     "move_left",   "move_right",     "move_up",
    "move_down", "nearer",        "farther",   "all",           "fold",        "unfold",         "alone",
    "next_face", "previous_face", "next_edge", "previous_edge", "next_corner", "previous_corner"};

} // namespace

Navigation& Navigation::mine() {
    static Navigation n;
    return n;
}

std::array<QKeySequence, Navigation::kActs> Navigation::usualKeys() {
    return {QKeySequence(Qt::Key_Left),
            QKeySequence(Qt::Key_Right),
            QKeySequence(Qt::Key_Up),
            QKeySequence(Qt::Key_Down),
            QKeySequence(Qt::SHIFT | Qt::Key_Left),
            QKeySequence(Qt::SHIFT | Qt::Key_Right),
            QKeySequence(Qt::SHIFT | Qt::Key_Up),
            QKeySequence(Qt::SHIFT | Qt::Key_Down),
            QKeySequence(Qt::Key_Plus),
            QKeySequence(Qt::Key_Minus),
            QKeySequence(Qt::Key_Home),
            QKeySequence(Qt::Key_BracketRight),
            QKeySequence(Qt::Key_BracketLeft),
            QKeySequence(Qt::Key_End),
            QKeySequence(Qt::Key_PageDown),
            QKeySequence(Qt::Key_PageUp),
            QKeySequence(Qt::SHIFT | Qt::Key_PageDown),
            QKeySequence(Qt::SHIFT | Qt::Key_PageUp),
            QKeySequence(Qt::ALT | Qt::Key_PageDown),
            QKeySequence(Qt::ALT | Qt::Key_PageUp)};
}

QString Navigation::nameOf(Act a) {
    switch (a) {
    case Act::turn_left:
        return tr("Turn the box left");
    case Act::turn_right:
        return tr("Turn the box right");
    case Act::turn_up:
        return tr("Tilt the box up");
    case Act::turn_down:
        return tr("Tilt the box down");
    case Act::move_left:
        return tr("Move left");
    case Act::move_right:
        return tr("Move right");
    case Act::move_up:
        return tr("Move up");
    case Act::move_down:
        return tr("Move down");
    case Act::nearer:
        return tr("Come nearer");
    case Act::farther:
        return tr("Go farther");
    case Act::all:
        return tr("Show everything");
    case Act::fold:
        return tr("Fold a little");
    case Act::unfold:
        return tr("Unfold a little");
    case Act::alone:
        return tr("Show the solid alone, and back");
    case Act::next_face:
        return tr("Choose the next face of the solid");
    case Act::previous_face:
        return tr("Choose the face before");
    case Act::next_edge:
        return tr("Choose the next edge of the solid");
    case Act::previous_edge:
        return tr("Choose the edge before");
    case Act::next_corner:
        return tr("Choose the next corner of the solid");
    case Act::previous_corner:
        return tr("Choose the corner before");
    case Act::count:
        break;
    }
    return {};
}

QString Navigation::nameOf(Drag d) {
    switch (d) {
    case Drag::left:
        return tr("Drag with the left button");
    case Drag::middle:
        return tr("Drag with the middle button");
    case Drag::right:
        return tr("Drag with the right button");
    case Drag::shift_left:
        return tr("Shift and drag with the left button");
    case Drag::ctrl_left:
        return tr("Ctrl and drag with the left button");
    case Drag::alt_left:
        return tr("Alt and drag with the left button");
    case Drag::none:
        break;
    }
    return tr("Not by dragging");
}

Navigation::Navigation() {
    const QSettings s("upper-prism", "navigation");
    const auto number = [&](const char* name, int usual, int most) {
        return std::clamp(s.value(name, usual).toInt(), 0, most);
    };
    habits_.turn =
        static_cast<Drag>(number("turn", static_cast<int>(habits_.turn), static_cast<int>(Drag::none)));
    habits_.move =
        static_cast<Drag>(number("move", static_cast<int>(habits_.move), static_cast<int>(Drag::none)));
    habits_.fingers = static_cast<Fingers>(number("fingers", 0, static_cast<int>(Fingers::zoom)));
    habits_.wheel_forward_is_nearer = s.value("wheel_forward_is_nearer", true).toBool();
    for (int i = 0; i < kActs; ++i)
        if (const QString name = QString("keys/") + kActNames[static_cast<size_t>(i)]; s.contains(name))
            habits_.keys[static_cast<size_t>(i)] =
                QKeySequence(s.value(name).toString(), QKeySequence::PortableText);
}

void Navigation::set(const Habits& h) {
    if (h == habits_) return;
    habits_ = h;
    QSettings s("upper-prism", "navigation");
    s.setValue("turn", static_cast<int>(h.turn));
    s.setValue("move", static_cast<int>(h.move));
    s.setValue("fingers", static_cast<int>(h.fingers));
    s.setValue("wheel_forward_is_nearer", h.wheel_forward_is_nearer);
    for (int i = 0; i < kActs; ++i)
        s.setValue(QString("keys/") + kActNames[static_cast<size_t>(i)],
                   h.keys[static_cast<size_t>(i)].toString(QKeySequence::PortableText));
    emit changed();
}

bool Navigation::is(Drag d, const QMouseEvent* e) {
    const auto m = e->modifiers() & (Qt::ShiftModifier | Qt::ControlModifier | Qt::AltModifier);
    switch (d) {
    case Drag::left:
        return e->button() == Qt::LeftButton && m == Qt::NoModifier;
    case Drag::middle:
        return e->button() == Qt::MiddleButton;
    case Drag::right:
        return e->button() == Qt::RightButton;
    case Drag::shift_left:
        return e->button() == Qt::LeftButton && m == Qt::ShiftModifier;
    case Drag::ctrl_left:
        return e->button() == Qt::LeftButton && m == Qt::ControlModifier;
    case Drag::alt_left:
        return e->button() == Qt::LeftButton && m == Qt::AltModifier;
    case Drag::none:
        break;
    }
    return false;
}

bool Navigation::moves(const QMouseEvent* e) const {
    return is(habits_.move, e) || (e->button() == Qt::MiddleButton && habits_.turn != Drag::middle);
}

Navigation::Act Navigation::actOf(const QKeyEvent* e) const {
    // A plus typed with shift is still a plus.
    const auto m = e->modifiers() & ~Qt::KeypadModifier;
    const QKeySequence plain(static_cast<int>(e->key())), whole(static_cast<int>(m) | e->key());
    for (int pass = 0; pass < 2; ++pass)
        for (int i = 0; i < kActs; ++i) {
            const QKeySequence& k = habits_.keys[static_cast<size_t>(i)];
            const bool sign =
                pass == 1 && e->key() >= Qt::Key_Space && e->key() < Qt::Key_A && m == Qt::ShiftModifier;
            if (!k.isEmpty() && (k == whole || (sign && k == plain))) return static_cast<Act>(i);
        }
    return Act::count;
}

} // namespace prism::app
