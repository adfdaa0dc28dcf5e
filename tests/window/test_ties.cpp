#include "window/desk.h"

using namespace prism;
using namespace prism::test;
using app::MainWindow;

namespace {

class FoldDesk : public TestDesk {
  public:
    FoldDesk() {
        window.open(PRISM_DEMO "/roller-bracket.dxf");
        waitIdle();
        goTo(MainWindow::fold);
    }
    const ViewChoices& said() { return window.session().choices().views; }
    double right(Role r, Vec2 sheet) { return model().views.withRole(r)->toModel()(sheet).x; }
};

} // namespace

TEST_CASE(
    "two places are tied by hand; the tie shows what is left over and what it would be, and can be weighed") {
    FoldDesk d;
    // The left edge of the front view with a step of the top view 12 mm further in.
    d.press("tiePlaces");
    d.clickSheet(Role::front, {0, 0});
    d.clickSheet(Role::front, {120, 0}); // the same view: refused with a hint
    d.clickSheet(Role::top, {12, 60});
    REQUIRE(d.said().ties.size() == 1);
    CHECK(d.said().ties[0].axis == Axis::x);
    auto* table = d.find<app::RowTable>("handTies");
    CHECK(table->rows().cell(0, 3).text == "0.0000");
    CHECK(std::abs(table->rows().cell(0, 4).text.toDouble()) == Approx(12));
    auto* ties = d.find<app::RowTable>("tieTable");
    bool told = false;
    for (int row = 0; row < ties->model()->rowCount(); ++row)
        told = told || ties->rows().cell(row, 3).text == "by hand";
    CHECK(told);
    // A second one, as the views lie by themselves: both give way by half, then as they are weighed.
    d.press("tiePlaces");
    d.clickSheet(Role::front, {120, 0});
    d.clickSheet(Role::top, {108, 0}); // the right edge, which the first tie moved by 12
    REQUIRE(d.said().ties.size() == 2);
    CHECK(std::abs(d.model().views.hand_ties[0].residual) == Approx(6));
    CHECK(d.model().views.hand_ties[0].residual == Approx(-d.model().views.hand_ties[1].residual));
    hands::doubleClick(table->viewport(), table->visualRect(table->model()->index(0, 5)).center());
    hands::key("ctrl+a");
    hands::type("3");
    hands::key("Return");
    d.waitIdle();
    CHECK(d.said().ties[0].weight == 3);
    CHECK(std::abs(d.model().views.hand_ties[0].residual) == Approx(3));
    hands::key("ctrl+z"), d.waitIdle();
    hands::key("ctrl+z"), d.waitIdle();
    CHECK(d.said().ties.size() == 1);
    // The chosen one is removed; undo brings it back.
    hands::click(table->viewport(), table->visualRect(table->model()->index(0, 0)).center());
    d.press("dropTie");
    CHECK(d.said().ties.empty());
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.said().ties.size() == 1);
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.model().views.hand_ties.empty());
}

TEST_CASE("the middles of two views are tied, and an error is shared by both sides") {
    FoldDesk d;
    d.press("tieMiddles");
    d.clickSheet(Role::front, {0, 0}), d.clickSheet(Role::front, {120, 0});
    d.clickSheet(Role::top, {0, 0}), d.clickSheet(Role::top, {120, 0});
    REQUIRE(d.said().ties.size() == 1);
    CHECK(d.said().ties[0].a.places.size() == 2);
    CHECK(d.model().views.hand_ties[0].residual == Approx(0).margin(1e-9));
    CHECK(d.model().views.hand_ties[0].by_itself == Approx(0).margin(1e-9));
}

TEST_CASE("zero is picked on the sheet and a view is made to govern") {
    FoldDesk d;
    const Vec2 corner = d.model().views.withRole(Role::front)->toModel().inverse()({120, 0});
    d.press("pickZero");
    d.clickSheet(Role::front, {120, 0});
    CHECK(d.right(Role::front, corner) == Approx(0).margin(1e-9));
    hands::key("ctrl+z");
    d.waitIdle();
    CHECK(d.right(Role::front, corner) == Approx(120));
    d.choose("governsX", 1);
    d.waitIdle();
    CHECK(d.model().views.governing.at(Axis::x) == d.model().views.withRole(Role::top)->id);
}
