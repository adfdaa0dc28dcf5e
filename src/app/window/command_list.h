#pragma once
#include <QDialog>
#include <QLineEdit>
#include <QListWidget>

#include <functional>
#include <vector>

namespace prism::app {

struct Command {
    QString place, words, keys;
    std::function<void()> run;
    std::function<bool()> possible;
};

/// Everything the program can do, found by typing a few letters of it.
class CommandList : public QDialog {
    Q_OBJECT
  public:
    CommandList(std::vector<Command> commands, QWidget* parent);

  protected:
    bool eventFilter(QObject* o, QEvent* e) override;

  private:
    void filter(const QString& text);
    void runCurrent();

    std::vector<Command> commands_;
    QLineEdit* search_;
    QListWidget* list_;
};

} // namespace prism::app
