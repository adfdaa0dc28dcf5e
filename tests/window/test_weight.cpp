#include "app/session/own_materials.h"
#include "window/desk.h"

#include <QLineEdit>
#include <QPushButton>

using namespace prism;
using namespace prism::test;
using app::MainWindow;

namespace {

void openProposed(TestDesk& d) {
    d.window.resize(1280, 800);
    d.window.open(PRISM_DEMO "/roller-bracket.dxf");
    d.waitIdle();
    d.goTo(MainWindow::build);
    d.press("proposeSolid");
    d.goTo(MainWindow::deliver);
}

void typeMaterial(TestDesk& d, const QString& text) {
    auto* line = d.find<QComboBox>("material")->lineEdit();
    hands::click(line);
    hands::key("ctrl+a");
    hands::type(text);
    hands::key("Return");
    d.waitIdle();
}

QString measured(TestDesk& d, const QString& what) {
    auto* t = d.find<app::RowTable>("measureTable");
    for (int row = 0; row < t->rows().rowCount(); ++row)
        if (t->rows().cell(row, 0).text == what) return t->rows().cell(row, 1).text;
    return {};
}

} // namespace

TEST_CASE("a material of one's own is kept for the next part, and forgotten on demand") {
    app::own_materials::forget("Bell metal");
    {
        TestDesk d;
        openProposed(d);
        CHECK(measured(d, "Mass").isEmpty());
        CHECK_FALSE(d.find<QPushButton>("forgetMaterial")->isEnabled());
        typeMaterial(d, "Bell metal 8600"); // a slip: said, and nothing is weighed
        CHECK(measured(d, "Mass").isEmpty());
        typeMaterial(d, "Bell metal = 8600");
        CHECK(measured(d, "Mass") == QString("%1 kg").arg(d.volume() * 8600e-9, 0, 'f', 4));
    }
    TestDesk d;
    openProposed(d);
    auto* list = d.find<QComboBox>("material");
    CHECK(list->findText("Bell metal") == static_cast<int>(materials().size()));
    typeMaterial(d, "bell metal"); // by name alone
    CHECK(d.window.session().choices().material == Material{"Bell metal", "", 8600});
    CHECK(measured(d, "Mass") == QString("%1 kg").arg(d.volume() * 8600e-9, 0, 'f', 4));
    d.press("forgetMaterial");
    CHECK(list->findText("Bell metal") < 0);
    CHECK_FALSE(d.find<QPushButton>("forgetMaterial")->isEnabled());
    CHECK(d.window.session().choices().material == Material{"Bell metal", "", 8600}); // the part keeps it
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(measured(d, "Mass").isEmpty());
    typeMaterial(d, "bell metal");
    CHECK(measured(d, "Mass").isEmpty());
}
