#include "window/desk.h"

#include "support/samples.h"

#include <fstream>

using namespace prism;
using namespace prism::test;
using app::MainWindow;

namespace {

class ViewsDesk : public TestDesk {
  public:
    explicit ViewsDesk(const QString& file) {
        window.open(file);
        waitIdle();
        goTo(MainWindow::views);
    }
    app::RowTable* table() { return find<app::RowTable>("viewTable"); }
    const ViewChoices& said() { return window.session().choices().views; }
    QPoint screen(Vec2 sheet_place) { return sheet()->toScreen(sheet_place).toPoint(); }
    void edit(int row, int column, const QString& text) {
        hands::doubleClick(table()->viewport(),
                           table()->visualRect(table()->model()->index(row, column)).center());
        hands::settle(150);
        hands::key("ctrl+a");
        hands::type(text);
        hands::key("Return");
        waitIdle();
    }
};

/// Two blocks on one sheet, each with front and top view.
QString twoParts() {
    DxfText t;
    t.entities();
    t.box(0, 0, 80, 30).box(0, 60, 80, 110).line(40, 60, 40, 110).line(40, 0, 40, 30);
    t.box(200, 7, 260, 52).box(200, 80, 260, 140);
    const std::string path = temporary("two-parts.dxf");
    std::ofstream(path) << t.done();
    return QString::fromStdString(path);
}

} // namespace

TEST_CASE("lines are gathered by a box into a view of their own, named, undone, and kept in the project") {
    ViewsDesk d(PRISM_DEMO "/worm-housing-cover.dxf");
    const size_t before = d.model().views.views.size();
    // The pad within the auxiliary view.
    const Box2 box = [&] {
        for (const View& v : d.model().views.views)
            if (v.role == Role::auxiliary) return v.box_sheet;
        return Box2{};
    }();
    REQUIRE(box.valid());
    const Vec2 c = box.centre();
    d.press("gatherView"); // nothing is chosen: nothing happens
    CHECK(d.model().views.views.size() == before);
    hands::drag(d.sheet(), d.screen(c - Vec2{19.5, 19.5}), d.screen(c + Vec2{19.5, 19.5}));
    REQUIRE(d.window.session().chosen().entities.size() == 5);
    d.press("gatherView");
    REQUIRE(d.model().views.views.size() == before + 1);
    const View* made = d.model().views.withKey("made-1");
    REQUIRE(made);
    CHECK(made->entities.size() == 5);
    d.edit(made->id, 1, "LUBRICATOR PAD");
    CHECK(d.model().views.withKey("made-1")->name == "LUBRICATOR PAD");
    const QString path = QString::fromStdString(temporary("gathered.uprism"));
    d.withFileDialog("ctrl+s", path);
    hands::key("ctrl+z"), d.waitIdle();
    hands::key("ctrl+z"), d.waitIdle();
    CHECK(d.model().views.views.size() == before);
    hands::key("ctrl+shift+z"), d.waitIdle();
    CHECK(d.model().views.views.size() == before + 1);
    hands::key("ctrl+shift+z"), d.waitIdle();
    d.window.open(path);
    d.waitIdle();
    CHECK(d.model().views.withKey("made-1")->name == "LUBRICATOR PAD");
}

TEST_CASE("a sheet with several parts says so, and each has a box of its own") {
    ViewsDesk d(twoParts());
    REQUIRE(d.model().views.parts.size() == 2);
    CHECK(d.model().views.views.size() == 2);
    CHECK(d.model().figure.size == Approx(80));
    auto* part = d.find<QComboBox>("partChoice");
    REQUIRE(part->isVisible());
    hands::choose(part, 1);
    d.waitIdle();
    CHECK(d.model().views.part == 1);
    CHECK(d.model().figure.size == Approx(60));
    bool told = false;
    for (const LeftOut& l : d.model().views.left_out) told = told || l.what == "other_part";
    CHECK(told);
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.model().figure.size == Approx(80));
}

TEST_CASE("of two views with one role the one that is used can be changed") {
    ViewsDesk d(PRISM_DEMO "/worm-housing-cover.dxf");
    // The section shows the same as a front view would not; say it is one all the same.
    const std::string section = [&] {
        for (const View& v : d.model().views.views)
            if (v.role == Role::section) return v.key;
        return std::string();
    }();
    d.window.session().change("role", [section](Choices& c) { c.views.roles[section] = Role::rear; });
    d.waitIdle();
    d.window.session().change("role", [section](Choices& c) { c.views.roles[section] = Role::top; });
    d.waitIdle();
    const std::string first = d.model().views.withRole(Role::top)->key;
    CHECK(d.model().figure.viewNamed(Role::top) != nullptr);
    d.goTo(MainWindow::fold);
    d.press("panesPage");
    auto* panes = d.find<app::RowTable>("paneTable");
    int spare = -1;
    for (int row = 0; row < panes->model()->rowCount(); ++row)
        if (panes->rows().cell(row, 1).text.contains("not used")) spare = row;
    REQUIRE(spare >= 0);
    hands::click(panes->viewport(), panes->visualRect(panes->model()->index(spare, 0)).center());
    d.press("useView");
    CHECK(d.said().used.at(Role::top) != first);
    CHECK(d.model().views.withRole(Role::top)->key != first);
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.model().views.withRole(Role::top)->key == first);
}

TEST_CASE("a view is gathered by a lasso, and by a fence through its lines") {
    ViewsDesk d(PRISM_DEMO "/worm-housing-cover.dxf");
    Box2 box;
    for (const View& v : d.model().views.views)
        if (v.role == Role::auxiliary) box = v.box_sheet;
    REQUIRE(box.valid());
    const Vec2 c = box.centre();
    // Closed round the pad: what lies within.
    std::vector<QPoint> round;
    for (int i = 0; i <= 24; ++i) round.push_back(d.screen(c + direction(i * kPi / 12) * 22.0));
    hands::dragAlong(d.sheet(), round, "alt");
    CHECK(d.window.session().chosen().entities.size() == 5);
    // Left open: what it crosses, here from the middle of the hole out through hole, pad and outline.
    hands::dragAlong(
        d.sheet(),
        {d.screen(c), d.screen(c + Vec2{6, 8}), d.screen(c + Vec2{12, 16}), d.screen(c + Vec2{21, 28})},
        "alt");
    REQUIRE(d.window.session().chosen().entities.size() == 3);
    // Not while the view is locked.
    std::string key;
    for (const View& v : d.model().views.views)
        if (v.role == Role::auxiliary) key = v.key;
    const app::Marked chosen = d.window.session().chosen();
    d.window.session().change("lock", [key](Choices& ch) { ch.views.locked.insert(key); });
    d.waitIdle();
    d.window.session().setChosen(chosen);
    d.press("gatherView");
    CHECK_FALSE(d.model().views.withKey("made-1"));
    hands::key("ctrl+z");
    d.waitIdle();
    d.window.session().setChosen(chosen);
    d.press("gatherView");
    CHECK(d.model().views.withKey("made-1")->entities.size() == 3);
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK_FALSE(d.model().views.withKey("made-1"));
}
