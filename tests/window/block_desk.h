#pragma once
#include "support/samples.h"
#include "window/desk.h"

#include "app/box/box_canvas.h"

#include <QLineEdit>
#include <fstream>

namespace prism::test {

inline constexpr double kBlock = 80 * 50 * 20;

/// A block of 80 x 50 x 20 with two circles and two lines above it, in front and top view, in the place
/// Build.
class BlockDesk : public TestDesk {
  public:
    BlockDesk() {
        DxfText t;
        t.entities()
            .box(0, 0, 80, 20)
            .box(0, 60, 80, 110)
            .circle(20, 85, 4)
            .circle(60, 85, 4)
            .circle(60, 85, 7);
        t.line(10, 20, 10, 45).line(10, 45, 50, 45).text(120, 0, "THIRD ANGLE PROJECTION");
        const std::string path = temporary("block.dxf");
        std::ofstream(path) << t.done();
        window.open(QString::fromStdString(path));
        waitIdle();
        goTo(app::MainWindow::build);
    }
    size_t steps() { return window.session().choices().steps.size(); }
    const Step& last() { return window.session().choices().steps.back(); }
    void enter() {
        hands::key("Return");
        waitIdle();
    }
    /// The block: its area in the front view, from end to end.
    void buildBlock() {
        clickSheet(Role::front, {40, 10});
        enter();
        REQUIRE(steps() == 1);
        REQUIRE(volume() == Approx(kBlock));
    }
    void type(const char* field, const char* text) {
        auto* f = find<QLineEdit>(field);
        hands::click(f, f->rect().center());
        hands::key("ctrl+a");
        hands::type(text);
        hands::key("Tab");
        waitIdle();
    }
    void clickBox(Vec3 place) {
        auto* box = window.findChild<app::BoxCanvas*>();
        const QPoint at = box->toScreen({static_cast<float>(place.x), static_cast<float>(place.y),
                                         static_cast<float>(place.z)})
                              .toPoint();
        hands::moveTo(box->mapToGlobal(at));
        hands::settle(80);
        hands::click(box, at);
        waitIdle();
    }
    /// What the step editor says once the preview of what was chosen last is there.
    std::string message() {
        waitIdle();
        hands::settle(300); // a preview begins when nothing was changed for a moment
        waitIdle();
        for (QLabel* l : find<QWidget>("stepEditor")->findChildren<QLabel*>("quiet"))
            return l->text().toStdString();
        return {};
    }
};

} // namespace prism::test
