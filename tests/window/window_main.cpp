#define CATCH_CONFIG_RUNNER
#include "app/window/start.h"

#include <QApplication>
#include <QStandardPaths>
#include <QTimer>
#include <catch2/catch.hpp>

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    QStandardPaths::setTestModeEnabled(true); // presets of the person at the machine are none of ours
    app.setQuitOnLastWindowClosed(false);
    prism::app::prepare(app);
    return Catch::Session().run(argc, argv);
}
