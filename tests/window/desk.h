#pragma once
#include "app/sheet/sheet_canvas.h"
#include "app/tables/row_table.h"
#include "app/window/main_window.h"
#include "app/window/path_bar.h"
#include "window/hands.h"

#include <QApplication>
#include <QLabel>
#include <catch2/catch.hpp>

// The window under test with short names for what a person does in it.
namespace prism::test {

class TestDesk {
  public:
    TestDesk() {
        window.move(0, 0);
        window.show();
        comeBack();
    }
    const app::Shown& shown() { return window.session().shown(); }
    const Model& model() { return window.session().model(); }
    double volume() { return model().build.measure.volume; }
    app::SheetCanvas* sheet() { return window.findChild<app::SheetCanvas*>(); }
    template <class W> W* find(const char* name) {
        W* w = window.findChild<W*>(name);
        INFO(name);
        REQUIRE(w);
        return w;
    }
    void waitIdle() {
        REQUIRE(hands::waitFor([this] { return window.idle(); }, 60000));
        hands::settle(60);
    }
    void press(const char* name) {
        hands::click(find<QAbstractButton>(name));
        waitIdle();
    }
    void goTo(int place) {
        auto* bar = window.findChild<app::PathBar*>();
        hands::click(bar, bar->placeRect(place).center());
        CHECK(bar->current() == place);
    }
    /// Without a window manager nobody hands the keyboard back when a dialog closes.
    void comeBack() {
        window.activateWindow();
        REQUIRE(hands::waitFor([this] { return window.isActiveWindow(); }, 5000));
        hands::settle(100);
    }
    /// Does what opens a file dialog and types a path into it.
    void withFileDialog(const QString& keys, const QString& path) {
        const auto answered = hands::answerNextDialog(path);
        hands::key(keys);
        REQUIRE(hands::waitFor([&] { return *answered && !QApplication::activeModalWidget(); }, 10000));
        comeBack();
        waitIdle();
    }
    void choose(const char* combo, int index) { hands::choose(find<QComboBox>(combo), index); }
    /// Screen place on the sheet canvas of a point in a view's model coordinates as drawn.
    QPoint at(Role view, Vec2 model_point) {
        const FigureView* v = model().drawn.viewNamed(view);
        REQUIRE(v);
        return sheet()->toScreen(v->to_model.inverse()(model_point)).toPoint();
    }
    void clickSheet(Role view, Vec2 p) {
        hands::click(sheet(), at(view, p));
        waitIdle();
    }

    app::MainWindow window;
};

} // namespace prism::test
