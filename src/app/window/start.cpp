#include "app/window/start.h"

#include "app/theme/theme.h"

#include <QApplication>
#include <clocale>

namespace prism::app {

void prepare(QApplication& app) {
    std::setlocale(LC_NUMERIC, "C");
    app.setApplicationName("upper-prism");
    app.setApplicationVersion("0.1.0");
    theme::apply(app);
}

} // namespace prism::app
