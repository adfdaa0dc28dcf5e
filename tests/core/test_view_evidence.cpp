#include "support/samples.h"

#include "core/views/labels.h"
#include "core/views/stages.h"
#include "core/views/view_plane.h"

#include <fstream>

using namespace prism;
using namespace prism::test;

namespace {

struct Found {
    Drawing drawing;
    CleanSheet sheet;
    ViewSet set;
};

Found find(const std::string& dxf, const ViewChoices& choices = {}) {
    NoProgress quiet;
    Found f{drawn(dxf), {}, {}};
    f.sheet = clean(f.drawing, {});
    f.set = findViews(f.drawing, f.sheet, choices, quiet);
    return f;
}

/// Truncated cone and circles as ISO 5456-2 draws the projection symbol; small end towards the circles or
/// not.
void symbol(DxfText& t, double x, double y, bool third) {
    const double cone = third ? x - 20 : x + 12, small = cone + 8; // towards the circles in third angle only
    t.circle(x, y, 4, "FRAME").circle(x, y, 2, "FRAME");
    const double large = cone;
    t.line(large, y - 4, large, y + 4, "FRAME").line(small, y - 2, small, y + 2, "FRAME");
    t.line(large, y - 4, small, y - 2, "FRAME").line(large, y + 4, small, y + 2, "FRAME");
}

/// A block with a sloped top in front and top view; whether the edge where the slope begins is seen or hidden
/// in the top view tells the side from which it is looked at.
std::string slopedBlock(bool topAbove, bool edgeHidden, const std::string& words = "") {
    DxfText t;
    const double y = topAbove ? 80 : -70;
    t.entities()
        .line(0, 0, 80, 0)
        .line(80, 0, 80, 20)
        .line(80, 20, 40, 40)
        .line(40, 40, 0, 40)
        .line(0, 40, 0, 0);
    t.box(0, y, 80, y + 50).line(40, y, 40, y + 50, edgeHidden ? "HIDDEN" : "OUTLINE");
    if (!words.empty()) t.text(200, 200, words);
    return t.done();
}

} // namespace

TEST_CASE("the projection symbol is read either way round") {
    for (bool third : {false, true}) {
        DxfText t;
        t.layer("FRAME");
        t.entities();
        symbol(t, 100, 50, third);
        const Drawing d = drawn(t.done());
        std::vector<int> all;
        for (const Entity& e : d.entities) all.push_back(e.id);
        const auto c = views::readSymbol(d, all);
        REQUIRE(c);
        CHECK(*c == (third ? Convention::third : Convention::first));
    }
}

TEST_CASE("a plain pair of circles is no projection symbol") {
    const Drawing d = drawn(DxfText().entities().circle(0, 0, 4).circle(0, 0, 2).line(10, -1, 10, 1).done());
    CHECK_FALSE(views::readSymbol(d, {0, 1, 2}));
}

TEST_CASE("words state the angle in the ways offices write it") {
    const std::pair<const char*, Convention> words[] = {{"THIRD ANGLE PROJECTION", Convention::third},
                                                        {"3rd angle", Convention::third},
                                                        {"FIRST-ANGLE", Convention::first},
                                                        {"1ST ANGLE PROJ.", Convention::first},
                                                        {"Method E", Convention::first}};
    for (auto [text, expected] : words) {
        INFO(text);
        const auto c = views::statedInTexts(drawn(DxfText().entities().text(0, 0, text).done()));
        REQUIRE(c);
        CHECK(*c == expected);
    }
    CHECK_FALSE(views::statedInTexts(drawn(DxfText().entities().text(0, 0, "ANGLE IRON 40 x 40").done())));
}

TEST_CASE("what is seen and what is hidden votes for the angle") {
    // The low step lies right of the high block: its edge at X = 40 is a corner of the upper contour, so it
    // is seen from above and hidden from below.
    const Found seenAbove = find(slopedBlock(true, false)), hiddenAbove = find(slopedBlock(true, true));
    CHECK(seenAbove.set.projection.votes_third > seenAbove.set.projection.votes_first);
    CHECK(hiddenAbove.set.projection.votes_first > hiddenAbove.set.projection.votes_third);
    CHECK(seenAbove.set.projection.convention == Convention::third);
    CHECK(hiddenAbove.set.projection.convention == Convention::first);
    CHECK(seenAbove.set.projection.confidence < 0.9); // a guess from geometry says that it is one
}

TEST_CASE("a stated angle is followed and the contradiction told in the reason") {
    const Found f = find(slopedBlock(true, true, "THIRD ANGLE"));
    CHECK(f.set.projection.convention == Convention::third);
    CHECK(f.set.projection.confidence < 0.9);
    CHECK(f.set.projection.reason.find("but") != std::string::npos);
}

TEST_CASE("nothing on the sheet tells: the guess is made with little confidence") {
    const Found f = find(DxfText().entities().box(0, 0, 80, 40).box(0, 80, 80, 130).done());
    CHECK(f.set.projection.confidence <= 0.3);
}

TEST_CASE("border, title block and stray bits are set aside under their names") {
    DxfText t;
    t.layer("BORDER");
    t.entities().box(-50, -80, 250, 180, "BORDER").box(0, 0, 80, 40).box(0, 60, 80, 110);
    t.box(150, -80, 250, -40, "BORDER").line(150, -60, 250, -60, "BORDER").line(150, -50, 250, -50, "BORDER");
    t.text(155, -75, "A").text(155, -58, "B").text(155, -48, "THIRD ANGLE").line(200, 100, 204, 100);
    const Found f = find(t.done());
    CHECK(f.set.views.size() == 2);
    int border = 0, unknown = 0;
    for (const LeftOut& l : f.set.left_out) {
        if (l.what == "border" || l.what == "title_block") border += static_cast<int>(l.entities.size());
        if (l.what == "unknown") unknown += static_cast<int>(l.entities.size());
    }
    CHECK(border == 10);
    CHECK(unknown == 1);
}

TEST_CASE("every line belongs to one view or is left out, on all sheets") {
    for (const Sample& s : samples()) {
        INFO(s.name);
        const Document d = opened(s.path);
        const Model& m = d.model();
        std::vector<int> times(m.drawing->entities.size(), 0);
        for (const View& v : m.views.views) {
            for (int e : v.entities) ++times[e];
            for (int e : v.centre_lines) ++times[e];
        }
        for (const LeftOut& l : m.views.left_out)
            for (int e : l.entities) ++times[e];
        for (const Entity& e : m.drawing->entities) {
            const LineRole r = m.sheet.entity_roles[e.id];
            const bool part = r == LineRole::outline || r == LineRole::hidden;
            CHECK(times[e.id] <= 1);
            if (part && m.sheet.in_use[e.id] && !e.curves.empty()) CHECK(times[e.id] == 1);
        }
    }
}

TEST_CASE("units come from the head, from texts, or are assumed, and say so") {
    auto unit = [](int code, const std::string& words) {
        DxfText t(code);
        t.entities();
        if (!words.empty()) t.text(0, 0, words);
        const Drawing d = drawn(t.done());
        return views::decideUnit(d, clean(d, {}), {});
    };
    CHECK(unit(4, "").used == "mm");
    CHECK(unit(1, "").used == "inch");
    CHECK(unit(1, "").mm == 25.4);
    CHECK(unit(0, "ALL DIMENSIONS IN INCHES").used == "inch");
    CHECK(unit(0, "").used == "mm");
    CHECK(unit(0, "").reason.find("assumed") != std::string::npos);
    CHECK(unit(1, "ALL SIZES MM").used == "mm"); // a sheet that says so knows better than a careless head
    CHECK(unit(1, "ALL SIZES MM").reason.find("against") != std::string::npos);
    ViewChoices c;
    c.unit = "cm";
    const Drawing d = drawn(DxfText(4).entities().done());
    CHECK(views::decideUnit(d, clean(d, {}), c).mm == 10);
}

TEST_CASE("the scale comes from dimensions, else from the title block") {
    DxfText t;
    t.entities().box(0, 0, 40, 20).box(0, 60, 40, 90).text(100, 0, "SCALE 1:2").text(100, -10, "THIRD ANGLE");
    CHECK(find(t.done()).set.sheet_scale == Approx(0.5));
    t.dimension(0, 0, 40, 0, 0, -10, 0, "80").dimension(0, 0, 0, 20, -10, 0, 90, "40");
    const Found f = find(t.done());
    CHECK(f.set.sheet_scale == Approx(0.5));
    CHECK(f.set.views[0].scale_reason.find("dimensions") != std::string::npos);
    CHECK(f.set.withRole(Role::front)->mm_per_sheet == Approx(2));
}

TEST_CASE("between two dimensions that differ, the usual scale wins") {
    DxfText t;
    t.entities().box(0, 0, 80, 20).dimension(0, 0, 80, 0, 0, -10, 0, "85").dimension(0, 0, 0, 20, -10, 0, 90);
    CHECK(find(t.done()).set.sheet_scale == Approx(1));
}

TEST_CASE("a sheet far from the origin gives the same views as one at it") {
    auto sheet = [](double dx, double dy) {
        DxfText t;
        t.entities()
            .box(dx, dy, dx + 80, dy + 20)
            .box(dx, dy + 60, dx + 80, dy + 110)
            .circle(dx + 20, dy + 72, 5);
        return find(t.text(dx, dy - 40, "THIRD ANGLE").done());
    };
    const Found near = sheet(0, 0), far = sheet(4.5e6, -5.5e6);
    REQUIRE(near.set.views.size() == far.set.views.size());
    for (size_t i = 0; i < near.set.views.size(); ++i) {
        CHECK(near.set.views[i].role == far.set.views[i].role);
        CHECK(near.set.views[i].box_sheet.width() == Approx(far.set.views[i].box_sheet.width()));
    }
}

TEST_CASE("labels under views give them their roles") {
    DxfText t;
    t.entities().box(0, 0, 80, 20).box(0, 60, 80, 110).box(120, 0, 170, 20);
    t.text(20, -12, "FRONT VIEW").text(20, 48, "TOP VIEW").text(130, -12, "RIGHT VIEW");
    const Found f = find(t.done());
    CHECK(f.set.withRole(Role::front)->name == "FRONT VIEW");
    CHECK(f.set.withRole(Role::top)->name == "TOP VIEW");
    CHECK(f.set.withRole(Role::right));
    CHECK(f.set.projection.convention == Convention::third);
}

TEST_CASE("without a word or a declaration, inch marks, paper size and the file's patterns tell the unit") {
    auto used = [](DxfText t) {
        const Drawing d = drawn(t.done());
        return views::decideUnit(d, clean(d, {}), {}).used;
    };
    CHECK(used(DxfText(0).entities().box(0, 0, 4, 3).dimension(0, 0, 4, 0, 0, -1, 0, "4\"")) == "inch");
    CHECK(used(DxfText(0).layer("BORDER").entities().box(0, 0, 16.5, 10.5, "BORDER")) == "inch");
    CHECK(used(DxfText(0).layer("BORDER").entities().box(0, 0, 400, 277, "BORDER")) == "mm");
}

TEST_CASE("evidence against the unit that is used becomes a finding") {
    const std::string path = temporary("unit.dxf");
    std::ofstream(path) << DxfText(1).entities().box(0, 0, 80, 50).text(0, -20, "ALL SIZES MM").done();
    const Document d = opened(path);
    CHECK(d.model().views.unit.used == "mm");
    const auto& f = d.model().findings;
    CHECK(std::any_of(f.begin(), f.end(), [](const Finding& x) { return x.kind == "unit_suspect"; }));
}

TEST_CASE(
    "views joined by projection lines of another colour are told apart; a part with a web is not torn") {
    const auto sheet = [](bool projected) {
        DxfText t;
        t.layer("THIN", "CONTINUOUS", 8);
        t.entities();
        t.box(0, 0, 80, 30).box(0, 60, 80, 110).box(120, 0, 170, 30);
        t.box(10, 5, 30, 25).box(10, 70, 30, 90);
        if (projected) {
            for (double x : {0.0, 80.0, 10.0}) t.line(x, 30, x, 60, "THIN");
            for (double y : {0.0, 30.0}) t.line(80, y, 120, y, "THIN");
            t.line(10, 25, 10, 30, "THIN"); // from the pocket to the edge: one view only
        }
        return find(t.text(10, -10, "THIRD ANGLE").done());
    };
    CHECK(sheet(false).set.views.size() == 3);
    const Found f = sheet(true);
    REQUIRE(f.set.views.size() == 3);
    CHECK(f.set.withRole(Role::top));
    CHECK(f.set.withRole(Role::right));
    CHECK(f.set.withRole(Role::front)->entities.size() == 9); // the short line is its own
    size_t projection = 0;
    for (const LeftOut& l : f.set.left_out) projection += l.what == "projection" ? l.entities.size() : 0;
    CHECK(projection == 5);
    // Two flanges and the web between them, in another colour: the flanges are open without it.
    DxfText w;
    w.layer("RED", "CONTINUOUS", 1);
    w.entities();
    w.line(0, 0, 20, 0).line(20, 0, 20, 10).line(20, 30, 20, 40).line(20, 40, 0, 40).line(0, 40, 0, 0);
    w.line(60, 0, 80, 0).line(80, 0, 80, 40).line(80, 40, 60, 40).line(60, 40, 60, 30).line(60, 10, 60, 0);
    w.line(20, 10, 60, 10, "RED").line(20, 30, 60, 30, "RED");
    CHECK(find(w.done()).set.views.size() == 1);
    // Rims within a view, joined by hidden lines that touch its outline nowhere: all of them are its own.
    DxfText r;
    r.layer("HIDDEN", "HIDDEN");
    r.entities();
    r.box(0, 0, 80, 40);
    for (double x : {10.0, 50.0}) r.box(x, 10, x + 20, 30);
    for (double y : {15.0, 25.0}) r.line(30, y, 50, y, "HIDDEN");
    const Found one = find(r.done());
    REQUIRE(one.set.views.size() == 1);
    CHECK(one.set.views[0].entities.size() == 14);
}

TEST_CASE("a label stands above or below its view, as far off as the view is large") {
    const auto labelled = [](const Box2& box, Vec2 at) {
        View v;
        v.box_sheet = box;
        Drawing d;
        d.texts.push_back({"", 0, at, 3.5, 0, 0, 0, "TOP VIEW"});
        return views::labelsOf(d, {v})[0].has_value();
    };
    const Box2 wide{{0, 0}, {200, 20}}, tall{{0, 0}, {20, 200}}; // 0.35 of 200, and 12
    for (const Box2& box : {wide, tall}) {
        const double x = box.centre().x;
        CHECK(labelled(box, {x, box.lo.y - 80}));
        CHECK(labelled(box, {x, box.hi.y + 80}));
        CHECK_FALSE(labelled(box, {x, box.lo.y - 84}));
        CHECK_FALSE(labelled(box, {x, box.hi.y + 84}));
        CHECK(labelled(box, {box.hi.x + 6, box.lo.y - 5}));       // a little beside it
        CHECK_FALSE(labelled(box, {box.hi.x + 8, box.lo.y - 5})); // beside it
        CHECK_FALSE(labelled(box, box.centre()));                 // within it: a word on the part
    }
    // Of two views the nearer one, of two words the nearer one.
    View low, high;
    low.box_sheet = {{0, 0}, {100, 50}}, high.box_sheet = {{0, 90}, {100, 140}};
    Drawing d;
    d.texts.push_back({"", 0, {50, 58}, 3.5, 0, 0, 0, "FRONT VIEW"});
    d.texts.push_back({"", 0, {50, 83}, 3.5, 0, 0, 0, "TOP VIEW"});
    d.texts.push_back({"", 0, {50, 152}, 3.5, 0, 0, 0, "BOTTOM VIEW"});
    const auto labels = views::labelsOf(d, {low, high});
    REQUIRE(labels[0]);
    REQUIRE(labels[1]);
    CHECK(labels[0]->role == Role::front);
    CHECK(labels[1]->role == Role::top);
    // All stand below their views, one of them nearer to the view under it.
    Drawing below;
    below.texts.push_back({"", 0, {50, -32}, 3.5, 0, 0, 0, "TOP VIEW"});
    below.texts.push_back({"", 0, {50, 64}, 3.5, 0, 0, 0, "FRONT VIEW"});
    const auto under = views::labelsOf(below, {low, high});
    REQUIRE(under[0]);
    REQUIRE(under[1]);
    CHECK(under[0]->role == Role::top);
    CHECK(under[1]->role == Role::front);
}

TEST_CASE("views are named by role and letter, and found by that name") {
    for (const ViewName& n :
         {ViewName(Role::front), ViewName(Role::section, "A"), ViewName(Role::detail, "C2")})
        CHECK(viewNamed(nameOf(n)) == n);
    CHECK(nameOf(ViewName(Role::section, "B")) == "section B");
    CHECK_FALSE(viewNamed("sideways"));
    CHECK_FALSE(viewNamed(""));
}

TEST_CASE("the plane of a view that hangs on another counts along the axes it shows") {
    ViewSet set;
    set.views.resize(2);
    View &front = set.views[0], &hung = set.views[1];
    front.role = Role::front, front.in_figure = true, front.offset = {-10, -20};
    hung.id = 1, hung.role = Role::section;
    CHECK_FALSE(planeOf(set, hung)); // it hangs nowhere
    // Cut along an upright line of the front view and looked at to the left: along the line upwards is
    // against `along`, which runs left of the look; deep into the front view is Y.
    Hanging h;
    h.on = 0, h.by = Hanging::By::cutting_plane, h.cuts = true, h.look = {-1, 0};
    // On the sheet: Y to the right from 300, Z up from 20.
    h.own = {0, 1, -1, 0, 20, -300}; // (x, y) -> (along = -Z = 20 - y, deep = Y = x - 300)
    hung.hanging = h;
    const auto p = planeOf(set, hung);
    REQUIRE(p);
    CHECK(p->square);
    CHECK(p->axes.right == Axis::y);
    CHECK(p->axes.up == Axis::z);
    CHECK(p->axes.depth == Axis::x);
    CHECK(p->axes.right_sign == 1);
    CHECK(p->axes.up_sign == 1);
    CHECK(distance(p->to_model({312, 25}), {12, 5}) < 1e-12);
    CHECK(p->look == Vec3{-1, 0, 0});
    // Turned on the sheet so that Z runs to the right.
    hung.hanging->own = Affine2{0, 1, -1, 0, 20, -300} * Affine2{0, 1, 1, 0, 0, 0};
    const auto turned = planeOf(set, hung);
    REQUIRE(turned);
    CHECK(turned->axes.right == Axis::z);
    CHECK(turned->axes.up == Axis::y);
    CHECK(distance(turned->to_model({25, 312}), {5, 12}) < 1e-12);
    // Askew: an axis of its own along the line, and the one through the front view.
    hung.role = Role::auxiliary;
    hung.hanging->look = {-0.6, -0.8};
    const auto askew = planeOf(set, hung);
    REQUIRE(askew);
    CHECK_FALSE(askew->square);
    CHECK_FALSE(isModelAxis(askew->axes.right));
    CHECK(askew->axes.up == Axis::y);
    CHECK(askew->right == Vec3{0.8, 0, -0.6});
    CHECK(askew->look == Vec3{-0.6, 0, -0.8});
    front.in_figure = false; // what it hangs on is not used
    CHECK_FALSE(planeOf(set, hung));
}

TEST_CASE("views line up by both ends, by one, by their middle, or not at all") {
    const auto box = [](double lo, double hi, double from, double to) { return Box2{{lo, from}, {hi, to}}; };
    const Box2 front = box(0, 100, 0, 40);
    const auto above = [&](double lo, double hi) { return box(lo, hi, 60, 110); };
    const auto both = [&](const Box2& o, int axis) {
        CHECK(views::alignment(front, o, axis) == views::alignment(o, front, axis));
        // The same with the axes exchanged.
        const auto turned = [](const Box2& b) { return Box2{{b.lo.y, b.lo.x}, {b.hi.y, b.hi.x}}; };
        CHECK(views::alignment(turned(front), turned(o), 1 - axis) == views::alignment(front, o, axis));
        return views::alignment(front, o, axis);
    };
    CHECK(both(above(0, 100), 0) == 2);
    CHECK(both(above(0.5, 99.4), 0) == 2);
    CHECK(both(above(0, 60), 0) == 1);   // one end
    CHECK(both(above(35, 100), 0) == 1); // the other
    CHECK(both(above(30, 70), 0) == 1);  // the middle
    CHECK(both(above(30, 80), 0) == 0);
    CHECK(both(above(110, 150), 0) == 0);
    CHECK(both(above(120, 220), 0) == 0); // as long, but past each other
    CHECK(both(above(0, 100), 1) == 0);
    CHECK(both(box(130, 170, 0, 40), 1) == 2);
    CHECK(both(box(130, 170, 0, 40), 0) == 0);
    CHECK(both(box(0, 100, 20, 60), 0) == 0); // one over the other: not beside
}
