#include "support/bracket.h"
#include "window/desk.h"

#include "app/tables/row_table.h"

#include <QPushButton>

// The build list as a person keeps it: names, notes, groups, order, and where it stops for now.
using namespace prism;
using namespace prism::test;
using app::MainWindow;

namespace {

class ListDesk : public TestDesk {
  public:
    ListDesk() {
        window.open(PRISM_DEMO "/roller-bracket.dxf");
        waitIdle();
        window.session().change("Build", [](Choices& c) { c.steps = bracketSteps(); });
        waitIdle();
        goTo(MainWindow::build);
    }
    const std::vector<Step>& steps() { return window.session().choices().steps; }
    app::RowTable* table() { return find<app::RowTable>("stepTable"); }
    QRect cell(int row, int column) {
        const QModelIndex i = table()->rows().index(row, column);
        table()->scrollTo(i);
        return table()->visualRect(i);
    }
    void clickRow(int row) { hands::click(table()->viewport(), cell(row, 3).center()); }
    void rename(int row, int column, const char* text) {
        hands::doubleClick(table()->viewport(), cell(row, column).center());
        hands::key("ctrl+a");
        hands::type(text);
        hands::key("Return");
        waitIdle();
    }
    QString says(int row, int column) { return table()->rows().cell(row, column).text; }
    void back() {
        hands::key("ctrl+z");
        waitIdle();
    }
};

} // namespace

TEST_CASE("steps are renamed and noted where they stand, and no two get one name") {
    ListDesk d;
    d.rename(0, 1, "foot");
    CHECK(d.steps()[0].name == "foot");
    CHECK(d.says(0, 1) == "foot");
    d.rename(1, 1, "foot");
    CHECK(d.steps()[1].name != "foot");
    CHECK(d.find<QWidget>("message")->isVisible());
    d.rename(1, 4, "as the old sheet has it");
    CHECK(d.steps()[1].note == "as the old sheet has it");
    d.back();
    CHECK(d.steps()[1].note.empty());
    CHECK(d.steps()[0].name == "foot");
}

TEST_CASE("the list stops behind a step, a new one goes there, and it is built on to its end") {
    ListDesk d;
    const double whole = d.volume();
    const size_t n = d.steps().size();
    d.clickRow(1);
    d.press("stopBehind");
    const double part = d.volume();
    CHECK(part != Approx(whole));
    CHECK(d.says(1, 5) == "stops here");
    CHECK(d.says(2, 5) == "waits");
    CHECK(d.find<QPushButton>("stopBehind")->isChecked());
    d.clickSheet(Role::top, {30, 5}); // the foot once more, as far as it goes
    CHECK(d.window.session().choices().steps.size() == n);
    hands::key("Return");
    d.waitIdle();
    REQUIRE(d.steps().size() == n + 1);
    CHECK(d.steps()[2].stop);
    CHECK(d.says(3, 5) == "waits");
    d.back();
    CHECK(d.volume() == Approx(part));
    d.clickRow(1);
    d.press("stopBehind");
    CHECK(d.volume() == Approx(whole));
    CHECK(d.says(2, 5) == "done");
}

TEST_CASE("rows are dragged to another place, and back by undo") {
    ListDesk d;
    const std::vector<Step> before = d.steps();
    const QPoint from = d.cell(0, 3).center(), to = d.cell(2, 3).center();
    hands::drag(d.table()->viewport(), from, to + QPoint(0, 8));
    d.waitIdle();
    REQUIRE(d.steps().size() == before.size());
    CHECK(d.steps()[0] == before[1]);
    CHECK(d.steps()[1] == before[2]);
    CHECK(d.steps()[2] == before[0]);
    d.back();
    CHECK(d.steps() == before);
}

TEST_CASE("steps are put in a group, which is folded, named and switched off as one") {
    ListDesk d;
    const double whole = d.volume();
    const auto group = [&](int row, int entry) {
        d.clickRow(row);
        auto* button = d.find<QPushButton>("groupStep");
        hands::click(button);
        hands::settle(150);
        for (int i = 0; i <= entry; ++i) hands::key("Down");
        hands::key("Return");
        d.waitIdle();
    };
    const int last = static_cast<int>(d.steps().size()) - 1;
    group(last, 0); // a new one
    REQUIRE(d.steps().back().group == "group 1");
    CHECK(d.says(last, 2) == "group");
    group(last - 1, 1); // the same
    REQUIRE(d.steps()[static_cast<size_t>(last) - 1].group == "group 1");
    CHECK(d.says(last - 1, 3) == "2 steps");
    d.rename(last - 1, 1, "openings");
    CHECK(d.steps().back().group == "openings");
    const QRect tick = d.cell(last - 1, 0);
    hands::click(d.table()->viewport(), {tick.left() + 10, tick.center().y()});
    d.waitIdle();
    CHECK(d.steps().back().off);
    CHECK(d.volume() > whole);
    d.back();
    CHECK(d.volume() == Approx(whole));
    hands::doubleClick(d.table()->viewport(), d.cell(last - 1, 3).center());
    d.waitIdle();
    CHECK(d.table()->rows().rowCount() == last);
    hands::doubleClick(d.table()->viewport(), d.cell(last - 1, 3).center());
    d.waitIdle();
    CHECK(d.table()->rows().rowCount() == last + 2);
}
