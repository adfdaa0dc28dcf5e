#include "app/window/main_window.h"

#include "app/box/box_canvas.h"
#include "app/places/navigation_dialog.h"
#include "app/places/sheet_place.h"
#include "app/sheet/sheet_canvas.h"
#include "app/window/command_list.h"
#include "app/window/room.h"

#include <QAbstractButton>
#include <QComboBox>
#include <QShortcut>

// Everything that can be done, as entries of the searchable command list.
namespace prism::app {

void MainWindow::makeCommands() {
    const auto any = [this] { return session_.hasSheet(); };
    const auto press = [this](const char* name) {
        return [this, name] {
            if (auto* b = findChild<QAbstractButton*>(name)) b->click();
        };
    };
    const QStringList names{tr("Sheet"), tr("Views"), tr("Fold"),   tr("Check"),
                            tr("Build"), tr("Drive"), tr("Deliver")};
    for (int i = 0; i < names.size(); ++i)
        addCommand({}, tr("Go to %1").arg(names[i]), QKeySequence(Qt::ALT | (Qt::Key_1 + i)),
                   [this, i] { goTo(i); });
    addCommand({}, tr("Open a drawing or a project"), QKeySequence::Open, [this] { askOpen(); });
    addCommand(
        {}, tr("Read a revised drawing under the same choices"), QKeySequence("Ctrl+R"),
        [this] { askReread(); }, any);
    addCommand(
        {}, tr("Save the project"), QKeySequence::Save, [this] { saveProject(); }, any);
    addCommand(
        {}, tr("Save the project under another name"), QKeySequence("Ctrl+Shift+S"), [this] { askSave(); },
        any);
    addCommand(
        {}, tr("Undo"), QKeySequence::Undo, [this] { session_.undo(); },
        [this] { return session_.canUndo(); });
    addCommand(
        {}, tr("Redo"), QKeySequence("Ctrl+Shift+Z"), [this] { session_.redo(); },
        [this] { return session_.canRedo(); });
    addCommand(
        {}, tr("Fit the sheet into its canvas"), QKeySequence("Ctrl+1"), [this] { sheet_->fit(); }, any);
    addCommand(
        {}, tr("Fit the box into its canvas"), QKeySequence("Ctrl+2"), [this] { box_->fit(); }, any);
    addCommand({}, tr("The sheet alone, and back"), QKeySequence("Ctrl+Shift+1"),
               [this] { room_->fill(Room::Filled::sheet); });
    addCommand({}, tr("The box alone, and back"), QKeySequence("Ctrl+Shift+2"),
               [this] { room_->fill(Room::Filled::box); });
    addCommand({}, tr("Fold the tray away, and back"), QKeySequence("Ctrl+3"),
               [this] { room_->showTray(!room_->trayShown()); });
    addCommand(
        {}, tr("Show the solid alone, and back"), {}, [this] { box_->toggleAlone(); }, any);
    const auto page = [this, press](int n, const char* then) {
        return [this, press, n, then] {
            goTo(sheet);
            static_cast<SheetPlace*>(places_[sheet])->showPage(n);
            if (then) press(then)();
        };
    };
    addCommand(names[0], tr("All layers on"), {}, page(0, "allLayersOn"), any);
    addCommand(names[0], tr("Part lines only"), {}, page(0, "partLayersOnly"), any);
    addCommand(names[0], tr("See the repairs and loose ends"), {}, page(1, nullptr), any);
    addCommand(names[0], tr("See what was left out"), {}, page(2, nullptr), any);
    addCommand(names[0], tr("Unit, scale and layout of the sheet"), {}, page(3, nullptr), any);
    const auto scan = [this] { return session_.hasSheet() && !session_.model().drawing->pictures.empty(); };
    const auto onScan = [page](const char* button) { return page(SheetPlace::kPicture, button); };
    addCommand(names[0], tr("Lay the scan straight and size it"), {}, onScan(nullptr), scan);
    addCommand(names[0], tr("Say a known length of the scan"), {}, onScan("twoPlaces"), scan);
    addCommand(names[0], tr("Cut a view out of the scan"), {}, onScan("cutOut"), scan);
    addCommand(names[0], tr("Find lines in the scan"), {}, onScan("findTraced"), scan);
    addCommand(names[0], tr("Keep the choices as a reading preset"), {}, press("keepPreset"), any);
    addCommand(names[0], tr("Use the reading preset"), {}, press("usePreset"), any);
    addCommand(names[1], tr("Take the sheet as first angle"), {}, press("firstAngle"), any);
    addCommand(names[1], tr("Take the sheet as third angle"), {}, press("thirdAngle"), any);
    addCommand(names[1], tr("Put the chosen lines into a view"), {}, press("moveLines"), any);
    addCommand(names[0], tr("Dark or light paper"), {}, press("darkPaper"), any);
    addCommand(names[1], tr("Make the chosen lines a view of their own"), {}, press("gatherView"), any);
    const auto pane = [this, press](const char* button) {
        return [this, press, button] {
            goTo(fold);
            press("panesPage")();
            press(button)();
        };
    };
    addCommand(names[2], tr("Look square onto the chosen pane"), {}, pane("lookOnto"), any);
    addCommand(names[2], tr("Show only the chosen pane"), {}, pane("showOnlyPane"), any);
    for (const auto& [words, group] :
         {std::pair{tr("Show all panes"), 0}, std::pair{tr("Show the sides of the box only"), 1},
          std::pair{tr("Show sections and details only"), 2}})
        addCommand(
            names[2], words, {},
            [this, n = group] {
                goTo(fold);
                auto* box = findChild<QComboBox*>("paneGroup");
                box->setCurrentIndex(n);
                emit box->activated(n);
            },
            any);
    addCommand(names[2], tr("Draw where a section is cut or about which line a view folds"), {},
               pane("drawItsLine"), any);
    addCommand(names[2], tr("Turn the chosen section or auxiliary view round"), {}, pane("turnItRound"), any);
    addCommand(names[2], tr("Build with the chosen view of its role"), {}, pane("useView"), any);
    addCommand(names[2], tr("Fold one pane after another"), {}, press("oneByOne"), any);
    addCommand(names[2], tr("Projectors from what is pointed at"), {}, press("showProjectors"), any);
    addCommand({}, tr("Choose how mouse, touchpad and keys move about"), {},
               [this] { NavigationDialog(this).exec(); });
    addCommand(names[2], tr("Tie two places of two views"), {}, press("tiePlaces"), any);
    addCommand(names[2], tr("Tie the middles of two views"), {}, press("tieMiddles"), any);
    addCommand(names[2], tr("Pick where zero is"), {}, press("pickZero"), any);
    addCommand(
        names[2], tr("Lay the views flat"), {}, [this] { box_->setHinge(0); }, any);
    addCommand(
        names[2], tr("Fold the views into the box"), {}, [this] { box_->setHinge(1); }, any);
    addCommand(
        names[2], tr("Look from the corner"), {}, [this] { box_->setLook(BoxCanvas::Look::corner); }, any);
    addCommand(
        names[2], tr("Look onto the front"), {}, [this] { box_->setLook(BoxCanvas::Look::front); }, any);
    addCommand(
        names[2], tr("Look onto the top"), {}, [this] { box_->setLook(BoxCanvas::Look::top); }, any);
    addCommand(
        names[2], tr("Look onto the right side"), {}, [this] { box_->setLook(BoxCanvas::Look::right); }, any);
    const auto checking = [this, press](const char* name) {
        return [this, press, name] { goTo(check), press(name)(); };
    };
    addCommand(names[3], tr("What the dimensions leave open"), {}, checking("showSizes"), any);
    addCommand(names[3], tr("Add the dimensions that are lacking"), {}, checking("addAllDimensions"), any);
    addCommand(names[3], tr("Write a report of the check"), {}, checking("writeReport"), any);
    addCommand(names[4], tr("Propose the whole solid"), {}, press("proposeSolid"), any);
    addCommand(
        names[4], tr("Pick areas"), {}, [this, press] { goTo(build), press("pickAreas")(); }, any);
    addCommand(names[5], tr("All values as drawn"), {}, press("asDrawn"), any);
    addCommand(
        names[6], tr("Write the solid as STEP"), QKeySequence("Ctrl+E"), [this] { askExport(); }, any);
    auto* find = new QShortcut(QKeySequence("Ctrl+Space"), this);
    connect(find, &QShortcut::activated, this, [this] { CommandList(commands_, this).exec(); });
}

} // namespace prism::app
