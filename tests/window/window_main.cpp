#define CATCH_CONFIG_RUNNER
#include "app/theme/theme.h"

#include <QApplication>
#include <QTimer>
#include <catch2/catch.hpp>

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    app.setApplicationName("upper-prism");
    app.setQuitOnLastWindowClosed(false);
    prism::app::theme::apply(app);
    return Catch::Session().run(argc, argv);
}
