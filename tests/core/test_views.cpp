#include "support/samples.h"

#include <random>

using namespace prism;
using namespace prism::test;

namespace {

const View* viewInBox(const ViewSet& set, const Json& box) {
    for (const View& v : set.views) {
        const double size = std::max(v.box_sheet.width(), v.box_sheet.height());
        const double off = std::max({std::abs(v.box_sheet.lo.x - box[0].get<double>()),
                                     std::abs(v.box_sheet.lo.y - box[1].get<double>()),
                                     std::abs(v.box_sheet.hi.x - box[2].get<double>()),
                                     std::abs(v.box_sheet.hi.y - box[3].get<double>())});
        if (off < 1e-4 * size) return &v;
    }
    return nullptr;
}

/// A plate with a hole, drawn as front, top and side; the side view stands right or left of the front view.
std::string plate(Vec2 frontAt, Vec2 topAt, Vec2 sideAt, const std::string& words = "") {
    DxfText t;
    t.entities();
    t.box(frontAt.x, frontAt.y, frontAt.x + 80, frontAt.y + 20);
    t.line(frontAt.x + 15, frontAt.y, frontAt.x + 15, frontAt.y + 20, "HIDDEN")
        .line(frontAt.x + 25, frontAt.y, frontAt.x + 25, frontAt.y + 20, "HIDDEN");
    t.box(topAt.x, topAt.y, topAt.x + 80, topAt.y + 50).circle(topAt.x + 20, topAt.y + 12, 5);
    t.box(sideAt.x, sideAt.y, sideAt.x + 50, sideAt.y + 20);
    if (!words.empty()) t.text(0, -60, words);
    return t.done();
}

ViewSet viewsOf(const std::string& dxf, const ViewChoices& choices = {}) {
    NoProgress quiet;
    const Drawing d = drawn(dxf);
    return findViews(d, clean(d, {}), choices, quiet);
}

} // namespace

TEST_CASE("on sheets by another program, views, roles, angle and sizes are what they are") {
    for (const Sample& s : samples()) {
        if (!s.clean()) continue;
        INFO(s.name);
        const Document doc = opened(s.path);
        const ViewSet& set = doc.model().views;
        CHECK(std::string(nameOf(set.projection.convention)) == s.truth["convention"].get<std::string>());
        CHECK(set.views.size() == s.truth["views"].size());
        for (const Json& t : s.truth["views"]) {
            const std::string role = t["role"];
            if (role == "iso") continue; // see below
            INFO(role);
            const View* v = viewInBox(set, t["bbox"]);
            REQUIRE(v);
            CHECK(std::string(nameOf(v->role)) == role);
            CHECK(v->scale == Approx(t["scale"].get<double>()).epsilon(1e-6));
            const ViewAxes a = axesOf(v->role);
            const auto size = s.truth["size"].get<std::vector<double>>();
            CHECK(v->box_sheet.width() * v->mm_per_sheet ==
                  Approx(size[static_cast<size_t>(a.right)]).epsilon(1e-6));
            CHECK(v->box_sheet.height() * v->mm_per_sheet ==
                  Approx(size[static_cast<size_t>(a.up)]).epsilon(1e-6));
        }
    }
}

TEST_CASE("a pictorial's scale is told by its lines, which are lengths of the other views") {
    int pictorials = 0, right = 0;
    for (const Sample& s : samples()) {
        for (const Json& t : s.truth["views"]) {
            if (t["role"] != "iso") continue;
            ++pictorials;
            const Document doc = opened(s.path);
            const View* v = doc.model().views.withRole(Role::pictorial);
            INFO(s.name);
            REQUIRE(v);
            const bool found = std::abs(v->scale - t["scale"].get<double>()) < 1e-3 * v->scale;
            right += found;
            if (!found)
                CHECK(v->scale_reason.find("isometric") ==
                      std::string::npos); // none is better than a wrong one
        }
    }
    CHECK(pictorials == 6);
    CHECK(right >= 5);
}

TEST_CASE("labels name the view, its letter and its scale") {
    auto named = [](const char* label) {
        DxfText t;
        t.entities();
        t.box(0, 0, 120, 40), t.box(0, 60, 120, 100), t.line(30, 60, 30, 100);
        t.box(200, 0, 260, 50), t.circle(230, 25, 10);
        t.text(205, -9, label);
        return viewsOf(t.done());
    };
    const ViewSet section = named("SECTION A-A");
    REQUIRE(section.withRole(Role::section));
    CHECK(section.withRole(Role::section)->name == "SECTION A-A");
    CHECK(section.withRole(Role::section)->letter == "A");
    CHECK(section.withRole(Role::section)->scale == section.withRole(Role::front)->scale);
    const ViewSet detail = named("DETAIL C (2:1)");
    REQUIRE(detail.withRole(Role::detail));
    CHECK(detail.withRole(Role::detail)->letter == "C");
    CHECK(detail.withRole(Role::detail)->scale == Approx(2));
    CHECK(detail.withRole(Role::detail)->scale_reason == "its label");
    CHECK(named("Detail D  SCALE 5:1").withRole(Role::detail)->scale == Approx(5));
    CHECK(named("SECTION B-B 1:2").withRole(Role::section)->scale == Approx(0.5));
    REQUIRE(named("VIEW D").withRole(Role::auxiliary));
    CHECK(named("VIEW D").withRole(Role::auxiliary)->letter == "D");
    REQUIRE(named("E-E").withRole(Role::section)); // the letters alone
    CHECK_FALSE(named("VIEWED FROM ABOVE").withRole(Role::auxiliary));
}

TEST_CASE("clean sheets fold without residual, and the unit is right") {
    for (const Sample& s : samples()) {
        if (!s.clean()) continue;
        INFO(s.name);
        const Document doc = opened(s.path);
        const double mm = s.truth["drawing_units"] == "inch" ? 25.4 : 1;
        CHECK(doc.model().views.unit.mm == mm);
        for (const Tie& t : doc.model().views.ties) CHECK(t.residual < 1e-3);
    }
}

TEST_CASE("a view above the front view is the top view in third angle and the bottom view in first") {
    const std::string above = plate({0, 0}, {0, 60}, {120, 0}, "THIRD ANGLE");
    const ViewSet third = viewsOf(above);
    CHECK(third.withRole(Role::top));
    CHECK(third.withRole(Role::right));
    ViewChoices first;
    first.convention = Convention::first;
    const ViewSet set = viewsOf(above, first);
    CHECK(set.withRole(Role::bottom));
    CHECK(set.withRole(Role::left));
    CHECK(set.projection.confidence == 1);
}

TEST_CASE("the small end view of a long rail is a view, though all its hidden lines end between corners") {
    // 900 x 30 x 20 with three grooves of different depth across its underside.
    DxfText t;
    t.entities().box(0, 0, 900, 20).box(0, 60, 900, 90).box(940, 0, 970, 20);
    for (int i : {0, 1, 2}) {
        const double from = 200.0 + 200 * i, depth = 5.0 + 3 * i;
        for (double x : {from, from + 40}) t.line(x, 0, x, depth, "HIDDEN").line(x, 60, x, 90, "HIDDEN");
        t.line(from, depth, from + 40, depth, "HIDDEN").line(940, depth, 970, depth, "HIDDEN");
    }
    const ViewSet set = viewsOf(t.text(0, -60, "THIRD ANGLE PROJECTION").done());
    REQUIRE(set.views.size() == 3);
    CHECK(std::ranges::count(set.views, Role::right, &View::role) == 1);
}

TEST_CASE("a view that touches the title block stays a view") {
    DxfText t;
    t.layer("BORDER");
    t.entities().box(0, 0, 80, 20).box(0, 60, 80, 110).box(120, 0, 170, 20);
    t.box(170, -50, 260, 10, "BORDER").line(170, -20, 260, -20, "BORDER").line(170, -10, 260, -10, "BORDER");
    t.text(175, -45, "TITLE").text(175, -18, "SCALE 1:1").text(175, -8, "THIRD ANGLE");
    const ViewSet set = viewsOf(t.done());
    CHECK(set.views.size() == 3);
    CHECK(set.withRole(Role::right));
}

TEST_CASE("a view that reaches over the frame is a view by itself, and the frame is one") {
    // A block of 90 x 40 x 25 whose top view is turned on the sheet and sticks out of the frame.
    const auto sheet = [](bool bordered) {
        DxfText t;
        t.entities();
        if (bordered) t.box(-60, -60, 200, 150).box(-50, -50, 190, 140);
        t.box(0, 0, 90, 25).line(60, 0, 60, 25).box(120, 0, 160, 25).line(120, 10, 160, 10);
        t.box(25, 70, 65, 160).line(25, 130, 65, 130).circle(40, 100, 8);
        t.box(100, -50, 190, -20).line(100, -35, 190, -35).line(140, -50, 140, -20);
        t.text(105, -48, "TITLE").text(145, -48, "SCALE 1:1").text(105, -30, "BRASS").text(145, -30, "REV A");
        return t.text(-45, -45, "THIRD ANGLE PROJECTION").done();
    };
    for (bool bordered : {false, true}) {
        const ViewSet set = viewsOf(sheet(bordered));
        std::vector<std::pair<double, double>> sizes;
        for (const View& v : set.views) sizes.emplace_back(v.box_sheet.width(), v.box_sheet.height());
        std::ranges::sort(sizes);
        const std::vector<std::pair<double, double>> drawn{{40, 25}, {40, 90}, {90, 25}};
        REQUIRE(sizes.size() == 3);
        for (size_t i = 0; i < 3; ++i) {
            CHECK(sizes[i].first == Approx(drawn[i].first));
            CHECK(sizes[i].second == Approx(drawn[i].second));
        }
        CHECK(std::ranges::count(set.left_out, "border", &LeftOut::what) == (bordered ? 1 : 0));
    }
    // The outline of a plate with lines that run over it goes round no view.
    DxfText plate;
    plate.entities().box(0, 0, 200, 120).line(-10, 60, 210, 60).circle(50, 30, 8).circle(150, 30, 8);
    plate.box(60, 70, 140, 100).box(0, 160, 200, 180);
    CHECK(viewsOf(plate.text(0, -60, "THIRD ANGLE PROJECTION").done()).views.size() == 2);
}

TEST_CASE("a view that a missing line parts in two stays one view") {
    // A shaft of 30 and 50 across; the left face of its collar is lacking, so nothing touches between them.
    DxfText t;
    t.entities().line(0, 10, 0, 40).line(0, 10, 60, 10).line(0, 40, 60, 40);
    t.line(60, 0, 110, 0).line(110, 0, 110, 50).line(110, 50, 60, 50).circle(150, 25, 25).circle(150, 25, 15);
    const ViewSet set = viewsOf(t.text(0, -60, "THIRD ANGLE PROJECTION").done());
    REQUIRE(set.views.size() == 2);
    const View* front = set.withRole(Role::front);
    REQUIRE(front);
    CHECK(front->box_sheet.width() == Approx(110));
    CHECK(set.withRole(Role::right));
}

TEST_CASE("a role said by hand holds, and lines can be put into another view or out of all") {
    const std::string dxf = plate({0, 0}, {0, 60}, {120, 0}, "THIRD ANGLE");
    ViewChoices c;
    const ViewSet before = viewsOf(dxf);
    c.roles[before.withRole(Role::right)->key] = Role::detail;
    const Drawing d = drawn(dxf);
    const auto circle = std::find_if(d.entities.begin(), d.entities.end(),
                                     [](const Entity& e) { return e.type == "CIRCLE"; });
    c.moved[keyOf(*circle)] = "";
    const ViewSet after = viewsOf(dxf, c);
    CHECK(after.withRole(Role::detail));
    CHECK_FALSE(after.withRole(Role::right));
    CHECK(after.view_of_entity[circle->id] == -1);
}

TEST_CASE("views that are blocks of their own, within another block and to another scale, are found") {
    DxfText t;
    t.block("FRONT", 0, 0)
        .box(0, 0, 80, 20)
        .line(15, 0, 15, 20, "HIDDEN")
        .line(25, 0, 25, 20, "HIDDEN")
        .endBlock();
    t.block("TOP", 0, 0).box(0, 0, 40, 25).circle(10, 6, 2.5).endBlock();
    t.block("BOTH", 0, 0);
    t.group(0, "INSERT").group(8, "0").group(2, "FRONT").group(10, 0.0).group(20, 0.0);
    t.group(0, "INSERT")
        .group(8, "0")
        .group(2, "TOP")
        .group(10, 0.0)
        .group(20, 60.0)
        .group(41, 2.0)
        .group(42, 2.0);
    t.endBlock();
    t.entities();
    t.group(0, "INSERT").group(8, "0").group(2, "BOTH").group(10, 500.0).group(20, 200.0);
    t.text(500, 150, "THIRD ANGLE");
    const ViewSet set = viewsOf(t.done());
    REQUIRE(set.views.size() == 2);
    REQUIRE(set.withRole(Role::front));
    REQUIRE(set.withRole(Role::top));
    CHECK(set.withRole(Role::front)->box_sheet.lo == Vec2{500, 200});
    CHECK(set.withRole(Role::top)->box_sheet.height() == Approx(50));
    CHECK(set.withRole(Role::top)->entities.size() == 5);
}
