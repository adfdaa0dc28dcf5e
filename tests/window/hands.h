#pragma once
#include <QComboBox>
#include <QPoint>
#include <QString>
#include <QWidget>

#include <functional>
#include <memory>

// Real mouse and key events, sent through the display server as a person's hands would.
namespace prism::test::hands {

/// Lets the window take in what has happened.
void settle(int milliseconds = 30);
bool waitFor(const std::function<bool()>& happened, int milliseconds = 30000);

void moveTo(QPoint global);
void click(QWidget* w, QPoint at);
void click(QWidget* w); ///< in its middle
void doubleClick(QWidget* w, QPoint at);
void drag(QWidget* w, QPoint from, QPoint to, int button = 1);
/// With a modifier held: "alt", "ctrl" or "shift".
void dragAlong(QWidget* w, const std::vector<QPoint>& way, const QString& modifier);
void wheel(QWidget* w, QPoint at, int clicks);

/// Keys by name, as "Return", "Down" or "ctrl+shift+z".
void key(const QString& name);
void type(const QString& text);

/// Opens a list by a click, and chooses its row by keys.
void openList(QComboBox* list);
void choose(QComboBox* list, int row);

/// Acts as soon as a dialog has stood on the screen for a moment. For dialogs that keep their caller waiting:
/// call it first, then do what opens the dialog. True in the result once it is done.
std::shared_ptr<bool> inNextDialog(const std::function<void(QWidget*)>& act);
/// The same, typing a text over what the dialog's focus holds and ending with Return.
std::shared_ptr<bool> answerNextDialog(const QString& text);

} // namespace prism::test::hands
