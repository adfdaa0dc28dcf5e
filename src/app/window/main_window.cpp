#include "app/window/main_window.h"

#include "app/box/box_canvas.h"
#include "app/places/build_place.h"
#include "app/places/check_place.h"
#include "app/places/deliver_place.h"
#include "app/places/drive_place.h"
#include "app/places/fold_place.h"
#include "app/places/sheet_place.h"
#include "app/places/views_place.h"
#include "app/sheet/sheet_canvas.h"
#include "app/window/ask_file.h"
#include "app/window/path_bar.h"
#include "app/window/reread_report.h"
#include "app/window/room.h"

#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QFileInfo>
#include <QMessageBox>
#include <QMimeData>
#include <QShortcut>
#include <QSplitter>
#include <QVBoxLayout>

namespace prism::app {
MainWindow::MainWindow() {
    setWindowTitle("Upper Prism");
    setAcceptDrops(true);
    resize(1280, 800);
    auto* desk = new QWidget(this);
    desk->setObjectName("desk");
    auto* all = new QVBoxLayout(desk);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(0);
    path_ = new PathBar(desk);
    sheet_ = new SheetCanvas(session_, desk);
    box_ = new BoxCanvas(session_, desk);
    tray_ = new QStackedWidget(desk);
    tray_->setObjectName("tray");
    room_ = new Room(*sheet_, *box_, *tray_, this);
    auto* canvases = new QSplitter(Qt::Horizontal, desk);
    canvases->addWidget(sheet_);
    canvases->addWidget(box_);
    canvases->setSizes({660, 620});
    canvases->setHandleWidth(5);
    canvases->setChildrenCollapsible(false);
    auto* upDown = new QSplitter(Qt::Vertical, desk);
    upDown->addWidget(canvases);
    upDown->addWidget(tray_);
    upDown->setSizes({410, 262});
    upDown->setStretchFactor(0, 1);
    upDown->setHandleWidth(5);
    upDown->setChildrenCollapsible(false);
    all->addWidget(makeHead());
    all->addWidget(path_);
    all->addWidget(makeMessage());
    all->addWidget(upDown, 1);
    all->addWidget(makeFoot());
    setCentralWidget(desk);
    makePlaces();
    makeCommands();

    connect(path_, &PathBar::placeChosen, this, &MainWindow::goTo);
    connect(sheet_, &SheetCanvas::pointedAt, pointed_, &QLabel::setText);
    connect(box_, &BoxCanvas::pointedAt, pointed_, &QLabel::setText);
    connect(sheet_, &SheetCanvas::dimensionActivated, this, [this](int d) {
        goTo(drive);
        drive_->editDimension(d);
    });
    connect(&session_, &Session::opened, this, &MainWindow::hideMessage);
    connect(&session_, &Session::changed, this, &MainWindow::refresh);
    connect(&session_, &Session::saved, this, &MainWindow::refresh);
    connect(&session_, &Session::rereadDone, this, &MainWindow::tellReread);
    connect(&session_, &Session::failed, this, &MainWindow::tell);
    connect(&session_, &Session::proposed, this, &MainWindow::offer);
    connect(&session_, &Session::oneOfSeveral, this,
            [this](const std::shared_ptr<const Proposal>& p) { offerOther(p, 0); });
    connect(box_, &BoxCanvas::changeTaken, this, [this] {
        if (shows_other_) accept_->click();
    });
    connect(&session_, &Session::saveConflict, this, &MainWindow::askAboutConflict);
    connect(&session_, &Session::exported, this,
            [this](const QString& f) { pointed_->setText(tr("Written: %1").arg(f)); });
    connect(&session_, &Session::completedSteps, this, [this](int added, const QString& left) {
        const QString done = tr("%1 added").arg(counted(added, tr("step"), tr("steps")));
        if (!left.isEmpty()) return tell(done, tr("The solid is not yet what the views show: %1.").arg(left));
        pointed_->setText(tr("%1; the list is complete").arg(done));
    });
    connect(&session_, &Session::stopped, this, [this](const QString& what) { pointed_->setText(what); });
    slow_.setSingleShot(true);
    slow_.setInterval(350);
    connect(&slow_, &QTimer::timeout, this, [this] { progress_->show(), cancel_->show(); });
    connect(&session_, &Session::busyChanged, this, [this](bool busy, const QString& what, double fraction) {
        if (!busy) {
            slow_.stop();
            progress_->hide(), cancel_->hide();
            return;
        }
        progress_->setValue(static_cast<int>(fraction * 100));
        progress_->setFormat(what + " %p %");
        if (!slow_.isActive() && !progress_->isVisible()) slow_.start();
    });
    refresh();
    goTo(sheet);
}

QToolButton* MainWindow::headButton(const QString& name, const QString& text, const QString& tip) {
    auto* b = new QToolButton(this);
    b->setObjectName(name);
    b->setText(text);
    b->setToolTip(tip);
    return b;
}

QWidget* MainWindow::makeHead() {
    auto* head = new QWidget(this);
    head->setObjectName("card");
    head->setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(head);
    row->setContentsMargins(14, 6, 14, 2);
    row->setSpacing(6);
    title_ = new QLabel(head);
    title_->setObjectName("lead");
    open_ = headButton("openFile", tr("Open a drawing…"),
                       tr("A DXF, SVG or PDF drawing, a scan, or a project (Ctrl+O)"));
    save_ = headButton("saveFile", tr("Save"), tr("Save the project (Ctrl+S)"));
    reread_ = headButton("rereadFile", tr("Re-read…"),
                         tr("Read a revised drawing under the same choices and carry the work over"));
    undo_ = headButton("undo", tr("Undo"), {});
    redo_ = headButton("redo", tr("Redo"), {});
    auto* find = headButton("findCommand", tr("Find a command"), tr("Everything by name (Ctrl+Space)"));
    connect(open_, &QToolButton::clicked, this, &MainWindow::askOpen);
    connect(save_, &QToolButton::clicked, this, &MainWindow::saveProject);
    connect(reread_, &QToolButton::clicked, this, &MainWindow::askReread);
    connect(undo_, &QToolButton::clicked, &session_, &Session::undo);
    connect(redo_, &QToolButton::clicked, &session_, &Session::redo);
    connect(find, &QToolButton::clicked, this, [this] { CommandList(commands_, this).exec(); });
    row->addWidget(title_, 1);
    for (QToolButton* b : {open_, reread_, save_, undo_, redo_, find}) row->addWidget(b);
    return head;
}

QWidget* MainWindow::makeMessage() {
    message_ = new QWidget(this);
    message_->setObjectName("message");
    message_->setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(message_);
    row->setContentsMargins(14, 6, 14, 6);
    message_sign_ = new QLabel(message_);
    message_text_ = new QLabel(message_);
    message_text_->setObjectName("messageText");
    message_text_->setWordWrap(true);
    message_text_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    auto* close = new QPushButton(tr("Understood"), message_);
    close->setObjectName("closeMessage");
    connect(close, &QPushButton::clicked, this, &MainWindow::hideMessage);
    accept_ = new QPushButton(message_);
    accept_->setObjectName("acceptOffer");
    connect(accept_, &QPushButton::clicked, this, [this] {
        hideMessage();
        if (const auto accepted = std::exchange(offered_, {})) accepted();
    });
    accept_->hide();
    close_ = close;
    row->addWidget(message_sign_);
    row->addWidget(message_text_, 1);
    row->addWidget(accept_);
    row->addWidget(close);
    message_->hide();
    return message_;
}

QWidget* MainWindow::makeFoot() {
    auto* foot = new QWidget(this);
    foot->setObjectName("desk");
    foot->setAttribute(Qt::WA_StyledBackground);
    foot->setFixedHeight(26);
    auto* row = new QHBoxLayout(foot);
    row->setContentsMargins(14, 2, 14, 2);
    pointed_ = new QLabel(foot);
    pointed_->setObjectName("pointedAt");
    progress_ = new QProgressBar(foot);
    progress_->setFixedSize(320, 18);
    cancel_ = headButton("cancelWork", tr("Stop"), tr("Stop the work; nothing is changed"));
    cancel_->setFixedHeight(20);
    cancel_->setStyleSheet("padding: 0 8px; min-height: 14px;");
    connect(cancel_, &QToolButton::clicked, &session_, &Session::cancel);
    row->addWidget(pointed_, 1);
    row->addWidget(progress_);
    row->addWidget(cancel_);
    row->addWidget(room_->trayButton());
    progress_->hide(), cancel_->hide();
    return foot;
}

void MainWindow::makePlaces() {
    const Desk desk{session_, *sheet_, *box_};
    drive_ = new DrivePlace(desk, this);
    auto* checkPlace = new CheckPlace(desk, this);
    connect(checkPlace, &CheckPlace::reportWanted, this, &MainWindow::askReport);
    auto* deliverPlace = new DeliverPlace(desk, this);
    connect(deliverPlace, &DeliverPlace::exportWanted, this, &MainWindow::askExport);
    connect(deliverPlace, &DeliverPlace::saveWanted, this, &MainWindow::askSave);
    places_ = {new SheetPlace(desk, this),
               new ViewsPlace(desk, this),
               new FoldPlace(desk, this),
               checkPlace,
               new BuildPlace(desk, this),
               drive_,
               deliverPlace};
    for (Place* p : places_) tray_->addWidget(p);
    connect(&session_, &Session::diagnosed, this, &MainWindow::refresh);
    path_->setPlaces(
        {tr("Sheet"), tr("Views"), tr("Fold"), tr("Check"), tr("Build"), tr("Drive"), tr("Deliver")});
}

void MainWindow::addCommand(const QString& place, const QString& words, const QKeySequence& keys,
                            std::function<void()> run, std::function<bool()> possible) {
    if (!keys.isEmpty()) {
        auto* s = new QShortcut(keys, this);
        connect(s, &QShortcut::activated, this, [run, possible] {
            if (!possible || possible()) run();
        });
    }
    commands_.push_back(
        {place, words, keys.toString(QKeySequence::NativeText), std::move(run), std::move(possible)});
}

void MainWindow::goTo(int place) {
    static_cast<Place*>(tray_->currentWidget())->leave();
    tray_->setCurrentIndex(place);
    path_->setCurrent(place);
    sheet_->setShowProof(place >= build);
    sheet_->setFitWholeSheet(place == sheet);
    places_[static_cast<size_t>(place)]->enter();
}

void MainWindow::refresh() {
    std::vector<PlaceState> states;
    for (const Place* p : places_) states.push_back(p->state());
    path_->setStates(states);
    const bool any = session_.hasSheet();
    title_->setText(any ? session_.sourceName() + (session_.modified() ? tr("  (not saved)") : QString())
                        : tr("Upper Prism"));
    setWindowTitle(any ? session_.sourceName() + " · Upper Prism" : QString("Upper Prism"));
    save_->setEnabled(any), reread_->setEnabled(any);
    tray_->setEnabled(any);
    undo_->setEnabled(session_.canUndo()), redo_->setEnabled(session_.canRedo());
    undo_->setToolTip(session_.canUndo() ? tr("Undo: %1 (Ctrl+Z)").arg(session_.undoLabel())
                                         : tr("Nothing to undo"));
    redo_->setToolTip(session_.canRedo() ? tr("Redo: %1 (Ctrl+Shift+Z)").arg(session_.redoLabel())
                                         : tr("Nothing to redo"));
}

/// What went wrong is told in red, what is only to be known in blue.
void MainWindow::signal(theme::Glyph sign) {
    const bool wrong = sign == theme::Glyph::error;
    message_->setStyleSheet(QString("QWidget#message { background: %1; border-bottom: 1px solid %2; }")
                                .arg(wrong ? "#fbe9e2" : "#e3eef0", wrong ? "#c23f1d" : "#1f6678"));
    message_sign_->setPixmap(theme::icon(sign).pixmap(18, 18));
}

void MainWindow::tell(const QString& what, const QString& why) {
    if (std::exchange(shows_other_, false)) session_.clearPreview();
    signal(theme::Glyph::error);
    message_text_->setText(QString("<b>%1.</b> %2").arg(what.toHtmlEscaped(), why.toHtmlEscaped()));
    accept_->hide();
    close_->setText(tr("Understood"));
    message_->show();
}

void MainWindow::hideMessage() {
    message_->hide();
    if (std::exchange(shows_other_, false)) session_.clearPreview();
}

/// What the checks know of a sheet that no solid explains: the one repair that would leave it one.
QString MainWindow::oneRepairAway() const {
    const Diagnosis* d = session_.diagnosis();
    return d && d->settles ? tr(" Check has one repair that would leave the sheet a solid: %1.")
                                 .arg(sentence(d->settles->message))
                           : QString();
}

/// A proposal that does not explain the whole sheet is not taken unasked.
void MainWindow::offer(const std::shared_ptr<const Proposal>& p) {
    const int off = p->missing + p->extra;
    if (p->clean)
        tell(tr("The search was stopped"),
             tr("A solid was found that shows every line of the sheet; whether it "
                "is the only one was not looked at to the end."));
    else
        tell(tr("The best solid found does not explain the sheet"),
             tr("It lacks %1 of the sheet and has %2 too many. Found by: %3.%4%5")
                     .arg(counted(p->missing, tr("line"), tr("lines")),
                          counted(p->extra, tr("line"), tr("lines")), QString::fromStdString(p->how),
                          p->left_undone.empty() ? QString() : " " + sentence(p->left_undone) + ".",
                          p->denied.empty() ? QString()
                                            : tr(" Without the fact \"%1\" a solid would show every line.")
                                                  .arg(QString::fromStdString(p->denied))) +
                 oneRepairAway());
    offered_ = [this, p] { session_.take(p); };
    accept_->setText(p->clean ? tr("Take it")
                              : tr("Take it with %1 open").arg(counted(off, tr("line"), tr("lines"))));
    close_->setText(tr("Leave the build list as it is"));
    accept_->show();
}

/// Where the sheet allows several solids, the most usual one is taken, and the others are a press away.
void MainWindow::offerOther(const std::shared_ptr<const Proposal>& p, size_t alternative) {
    const size_t all = p->alternatives.size();
    const int number = static_cast<int>(alternative) + 2;
    tell(tr("%1 fit every line of the sheet")
             .arg(counted(static_cast<int>(all) + 1, tr("solid"), tr("solids"))),
         tr("%1 %2. The box shows it: click it there to take it.")
             .arg(all > 1 ? tr("Number %1 has").arg(number) : tr("The other one has"),
                  QString::fromStdString(p->alternatives[alternative].differs)));
    session_.showOther(p, alternative);
    shows_other_ = true;
    signal(theme::Glyph::note);
    offered_ = [this, p, alternative, all] {
        session_.takeOther(p, alternative);
        if (alternative + 1 < all) offerOther(p, alternative + 1);
    };
    accept_->setText(all > 1 ? tr("Take number %1").arg(number) : tr("Take the other one"));
    close_->setText(tr("Keep what stands"));
    accept_->show();
}

void MainWindow::askAboutConflict(const QString& path, const QString& why) {
    QMessageBox ask(QMessageBox::Warning, tr("The project has been changed elsewhere"), why,
                    QMessageBox::NoButton, this);
    const auto* other = ask.addButton(tr("Save under another name"), QMessageBox::AcceptRole);
    const auto* over = ask.addButton(tr("Save over it"), QMessageBox::DestructiveRole);
    ask.addButton(tr("Do not save"), QMessageBox::RejectRole);
    ask.exec();
    if (ask.clickedButton() == other) askSave();
    if (ask.clickedButton() == over) session_.save(path, true);
}

void MainWindow::askOpen() {
    if (!mayLeave()) return;
    const QString f = askFile(this, QFileDialog::AcceptOpen, tr("Open a drawing or a project"), QString(),
                              tr("Drawings and projects (*.dxf *.DXF *.svg *.pdf *.png *.jpg *.jpeg *.tif "
                                 "*.tiff *.uprism);;All files (*)"),
                              {});
    if (!f.isEmpty()) open(f);
}

void MainWindow::askReread() {
    if (!session_.hasSheet()) return;
    const QString f =
        askFile(this, QFileDialog::AcceptOpen, tr("Read a revised drawing"), QString(),
                tr("Drawings (*.dxf *.DXF *.svg *.pdf *.png *.jpg *.jpeg *.tif *.tiff);;All files (*)"), {});
    if (!f.isEmpty()) session_.reread(f);
}

void MainWindow::tellReread(const Reread& r) {
    if (r.difference.none() && r.misfits.empty())
        return pointed_->setText(tr("The drawing was read again; nothing in it has changed."));
    auto* report = new RereadReport(r, session_, this);
    report->setAttribute(Qt::WA_DeleteOnClose);
    report->open();
}

bool MainWindow::saveProject() {
    if (!session_.hasSheet()) return false;
    return session_.projectPath().isEmpty() ? askSave() : session_.save(session_.projectPath());
}

bool MainWindow::askSave() {
    if (!session_.hasSheet()) return false;
    const QString name = session_.projectPath().isEmpty()
                             ? QFileInfo(session_.sourceName()).completeBaseName() + ".uprism"
                             : session_.projectPath();
    const QString f = askFile(this, QFileDialog::AcceptSave, tr("Save the project"), name,
                              tr("Upper Prism projects (*.uprism)"), "uprism");
    return !f.isEmpty() && session_.save(f);
}

void MainWindow::askExport() {
    if (!session_.hasSheet()) return;
    const QString name = QFileInfo(session_.sourceName()).completeBaseName() + ".step";
    const QString f = askFile(this, QFileDialog::AcceptSave, tr("Write the solid as STEP"), name,
                              tr("STEP (*.step *.stp)"), "step");
    if (!f.isEmpty()) session_.exportStep(f);
}

void MainWindow::askReport() {
    if (!session_.hasSheet()) return;
    const QString name = QFileInfo(session_.sourceName()).completeBaseName() + ".html";
    const QString f = askFile(this, QFileDialog::AcceptSave, tr("Write a report"), name,
                              tr("Report as HTML (*.html);;Report as PDF (*.pdf)"), "html");
    if (!f.isEmpty()) session_.writeReport(f);
}

bool MainWindow::mayLeave() {
    if (!session_.hasSheet() || !session_.modified()) return true;
    QMessageBox ask(QMessageBox::Question, tr("Save the work first?"),
                    tr("The work on %1 is not saved.").arg(session_.sourceName()), QMessageBox::NoButton,
                    this);
    const auto* save = ask.addButton(tr("Save it"), QMessageBox::AcceptRole);
    const auto* drop = ask.addButton(tr("Leave it unsaved"), QMessageBox::DestructiveRole);
    ask.addButton(tr("Stay here"), QMessageBox::RejectRole);
    ask.exec();
    if (ask.clickedButton() == save) return saveProject();
    return ask.clickedButton() == drop;
}

void MainWindow::closeEvent(QCloseEvent* e) {
    if (mayLeave())
        e->accept();
    else
        e->ignore();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* e) {
    if (e->mimeData()->hasUrls()) e->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* e) {
    const auto urls = e->mimeData()->urls();
    if (!urls.isEmpty() && urls.first().isLocalFile() && mayLeave()) open(urls.first().toLocalFile());
}

} // namespace prism::app
