#pragma once
#include "app/places/place.h"
#include "app/window/command_list.h"

#include <QMainWindow>
#include <QProgressBar>
#include <QStackedWidget>
#include <QToolButton>

namespace prism::app {

class PathBar;
class Room;
class SheetCanvas;
class BoxCanvas;
class DrivePlace;

/// The window: path bar, sheet and box side by side, and under them the place of work.
class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    enum Where { sheet, views, fold, check, build, drive, deliver };

    MainWindow();
    Session& session() { return session_; }
    void open(const QString& path) { session_.open(path); }
    void goTo(int place);
    bool idle() const { return !session_.busy(); }

  protected:
    void closeEvent(QCloseEvent* e) override;
    void dragEnterEvent(QDragEnterEvent* e) override;
    void dropEvent(QDropEvent* e) override;

  private:
    QWidget* makeHead();
    QWidget* makeMessage();
    QWidget* makeFoot();
    void makePlaces();
    void makeCommands();
    void refresh();
    void signal(theme::Glyph sign);
    void tell(const QString& what, const QString& why);
    QString oneRepairAway() const;
    void offer(const std::shared_ptr<const Proposal>& p);
    void offerOther(const std::shared_ptr<const Proposal>& p, size_t alternative);
    void askAboutConflict(const QString& path, const QString& why);
    void askOpen();
    void askReread();
    void tellReread(const Reread& r);
    bool askSave();
    bool saveProject();
    void askExport();
    void askReport();
    bool mayLeave();
    QToolButton* headButton(const QString& name, const QString& text, const QString& tip);
    void addCommand(const QString& place, const QString& words, const QKeySequence& keys,
                    std::function<void()> run, std::function<bool()> possible = {});

    Session session_;
    PathBar* path_;
    SheetCanvas* sheet_;
    BoxCanvas* box_;
    QStackedWidget* tray_;
    Room* room_;
    std::vector<Place*> places_;
    DrivePlace* drive_ = nullptr;
    std::vector<Command> commands_;
    QWidget* message_;
    void hideMessage();
    bool shows_other_ = false;      ///< whether the box shows how another solid differs
    std::function<void()> offered_; ///< what is done when a person accepts what the message bar offers
    QPushButton *accept_, *close_;  ///< of the message bar
    QLabel *message_sign_, *message_text_, *title_, *pointed_;
    QProgressBar* progress_;
    QToolButton *open_, *reread_, *save_, *undo_, *redo_, *cancel_;
    QTimer slow_; ///< progress is shown only for work that takes a while
};

} // namespace prism::app
