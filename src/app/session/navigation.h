#pragma once
#include <QKeySequence>
#include <QMouseEvent>
#include <QObject>

#include <array>

namespace prism::app {

/// How a person moves about in the canvases: which drag does what, and which keys. Kept with the person's
/// settings, not with the document.
class Navigation : public QObject {
    Q_OBJECT
  public:
    enum class Drag { left, middle, right, shift_left, ctrl_left, alt_left, none };
    enum class Fingers { move, turn, zoom }; ///< two fingers over a touchpad
    enum class Act {
        turn_left,
        turn_right,
        turn_up,
        turn_down,
        move_left,
        move_right,
        move_up,
        move_down,
        nearer,
        farther,
        all,
        fold,
        unfold,
        alone,
        next_face,
        previous_face,
        next_edge,
        previous_edge,
        next_corner,
        previous_corner,
        count
    };
    static constexpr int kActs = static_cast<int>(Act::count);
    struct Habits {
        Drag turn = Drag::left, move = Drag::right;
        Fingers fingers = Fingers::move;
        bool wheel_forward_is_nearer = true;
        std::array<QKeySequence, kActs> keys = usualKeys();
        friend bool operator==(const Habits&, const Habits&) = default;
    };

    /// The one of this person, read from the settings at first use.
    static Navigation& mine();
    static std::array<QKeySequence, kActs> usualKeys();
    static QString nameOf(Act a);
    static QString nameOf(Drag d);

    const Habits& habits() const { return habits_; }
    /// Takes and keeps them.
    void set(const Habits& h);

    /// Whether a press begins a drag of this kind. The middle button always moves where it is not used to
    /// turn.
    bool turns(const QMouseEvent* e) const { return is(habits_.turn, e); }
    bool moves(const QMouseEvent* e) const;
    /// What a key press asks for; Act::count for nothing.
    Act actOf(const QKeyEvent* e) const;

  signals:
    void changed();

  private:
    Navigation();
    static bool is(Drag d, const QMouseEvent* e);
    Habits habits_;
};

} // namespace prism::app
