#include "app/box/box_canvas.h"
#include "app/window/main_window.h"
#include "app/window/start.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QEventLoop>

// upper-prism [FILE] [--place NAME] [--propose] [--hinge X] [--shot PICTURE]
int main(int argc, char** argv) {
    using namespace prism::app;
    QApplication app(argc, argv);
    prepare(app);
    QCommandLineParser args;
    args.setApplicationDescription("Upper Prism: from old drawings to driven solids");
    args.addHelpOption();
    args.addVersionOption();
    args.addPositionalArgument("FILE", "a drawing or a project (.uprism)");
    const QCommandLineOption place("place", "open at this place of work: sheet, views, fold, ...", "NAME");
    const QCommandLineOption propose("propose", "propose the solid after opening");
    const QCommandLineOption hinge("hinge", "how far the views are folded, 0 to 1", "X");
    const QCommandLineOption shot("shot", "write a picture of the window and quit", "PICTURE");
    args.addOptions({place, propose, hinge, shot});
    args.process(app);

    MainWindow window;
    window.show();
    if (!args.positionalArguments().isEmpty()) window.open(args.positionalArguments().first());
    if (args.isSet(propose)) window.session().propose();
    const QStringList names{"sheet", "views", "fold", "check", "build", "drive", "deliver"};
    if (const int i = names.indexOf(args.value(place)); i >= 0) window.goTo(i);
    if (args.isSet(hinge)) window.findChild<BoxCanvas*>()->setHinge(args.value(hinge).toDouble());
    if (!args.isSet(shot)) return app.exec();
    do {
        QEventLoop wait;
        QTimer::singleShot(300, &wait, &QEventLoop::quit);
        wait.exec();
    } while (!window.idle());
    return window.grab().save(args.value(shot)) ? 0 : 1;
}
