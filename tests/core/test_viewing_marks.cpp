#include "support/samples.h"

#include "core/views/fold_lines.h"
#include "core/views/viewing_marks.h"

#include <fstream>

using namespace prism;
using namespace prism::views;
using namespace prism::test;

namespace {

/// A sheet with marks only; what is found for the letters A, B and C.
struct Marks {
    Drawing d;
    CleanSheet s;
    explicit Marks(const std::string& dxf) : d(drawn(dxf)), s(clean(d, {})) {}
    std::vector<CuttingPlane> planes() const { return cuttingPlanes(d, s, {"A", "B", "C"}); }
};

DxfText sheet() {
    DxfText t;
    t.layer("CENTRE", "CENTER").layer("THIN", "CONTINUOUS", 8).layer("FRAME", "CONTINUOUS", 9);
    t.entities();
    t.box(0, 0, 80, 50);
    return t;
}

/// An arrow of three lines: a shaft with two barbs at its tip.
void barbed(DxfText& t, Vec2 tip, Vec2 look) {
    const Vec2 tail = tip - look * 9, side{-look.y, look.x};
    t.line(tail.x, tail.y, tip.x, tip.y, "THIN");
    for (double s : {1.0, -1.0}) {
        const Vec2 b = tip - look * 3 + side * s;
        t.line(b.x, b.y, tip.x, tip.y, "THIN");
    }
}

} // namespace

TEST_CASE("a cutting plane is found by its line and letters, and looked at where its arrows point") {
    for (Vec2 look : {Vec2{1, 0}, Vec2{-1, 0}}) {
        DxfText t = sheet();
        t.line(30, -8, 30, 58, "CENTRE");
        for (double y : {-8.0, 58.0}) barbed(t, {30, y}, look), t.text(30 - look.x * 13, y, "A");
        const auto planes = Marks(t.done()).planes();
        REQUIRE(planes.size() == 1);
        CHECK(planes[0].letter == "A");
        CHECK(std::min(planes[0].from.y, planes[0].to.y) == Approx(-8));
        CHECK(std::max(planes[0].from.y, planes[0].to.y) == Approx(58));
        REQUIRE(planes[0].look);
        CHECK(planes[0].look->x == Approx(look.x));
    }
}

TEST_CASE("two strokes stand for a cutting plane; without arrows its direction is not known") {
    DxfText t = sheet();
    t.line(30, -8, 30, -2, "THIN").line(30, 52, 30, 58, "THIN");
    t.text(34, -7, "B").text(34, 57, "B");
    const auto planes = Marks(t.done()).planes();
    REQUIRE(planes.size() == 1);
    CHECK(length(planes[0].to - planes[0].from) == Approx(66));
    CHECK_FALSE(planes[0].look);
}

TEST_CASE("an oblique cutting plane with filled arrowheads is found, and arrows that disagree tell nothing") {
    const auto with = [](bool disagree) {
        DxfText t = sheet();
        t.line(-6, -6, 62, 62, "CENTRE");
        const Vec2 look = normalized(Vec2{1, -1}), side{-look.y, look.x};
        for (Vec2 end : {Vec2{-6, -6}, Vec2{62, 62}}) {
            const Vec2 to = disagree && end.x > 0 ? -look : look, foot = end - to * 3;
            t.group(0, "SOLID").group(8, "THIN");
            t.group(10, end.x).group(20, end.y);
            t.group(11, foot.x + side.x * 0.6).group(21, foot.y + side.y * 0.6);
            t.group(12, foot.x - side.x * 0.6).group(22, foot.y - side.y * 0.6);
            t.group(13, foot.x - side.x * 0.6).group(23, foot.y - side.y * 0.6);
            t.text(end.x - look.x * 7, end.y - look.y * 7, "C");
        }
        return Marks(t.done()).planes();
    };
    const auto planes = with(false);
    REQUIRE(planes.size() == 1);
    REQUIRE(planes[0].look);
    CHECK(planes[0].look->x == Approx(std::sqrt(0.5)));
    REQUIRE(with(true).size() == 1);
    CHECK_FALSE(with(true)[0].look);
}

TEST_CASE("a stepped cutting plane stands where it begins, a crooked line is none") {
    const auto with = [](double skew) {
        DxfText t = sheet();
        t.group(0, "LWPOLYLINE")
            .group(8, "CENTRE")
            .group(100, "AcDbEntity")
            .group(100, "AcDbPolyline")
            .group(90, "4")
            .group(70, "0");
        for (Vec2 p : {Vec2{30, -8}, {30, 20}, {52, 20 + skew}, {52, 58}}) t.group(10, p.x).group(20, p.y);
        barbed(t, {30, -8}, {1, 0}), barbed(t, {52, 58}, {1, 0});
        return Marks(t.text(17, -8, "A").text(39, 58, "A").done()).planes();
    };
    REQUIRE(with(0).size() == 1);
    const CuttingPlane p = with(0)[0];
    CHECK(p.from.x == Approx(p.to.x));
    CHECK((p.from.x == Approx(30) || p.from.x == Approx(52)));
    CHECK(std::abs(p.to.y - p.from.y) == Approx(66));
    REQUIRE(p.look);
    CHECK(p.look->x == Approx(1));
    CHECK(with(9).empty());
}

TEST_CASE("letters of border zones and letters nobody asked for mark no cutting plane") {
    DxfText t = sheet();
    t.line(-100, -100, 300, -100, "FRAME").line(-100, 200, 300, 200, "FRAME");
    t.text(-98, 50, "A").text(298, 50, "A").text(0, -98, "B").text(0, 198, "B");
    t.line(30, -8, 30, 58, "CENTRE");
    t.text(30, -13, "K").text(30, 63, "K");
    CHECK(Marks(t.done()).planes().empty());
}

TEST_CASE("an arrow with a letter and a circle with a letter say where a view and a detail are taken") {
    DxfText t = sheet();
    t.group(0, "LEADER").group(8, "THIN").group(71, "1").group(72, "0").group(76, "2");
    t.group(10, 84.0).group(20, 25.0).group(10, 98.0).group(20, 25.0);
    t.text(101, 27, "B");
    t.circle(20, 20, 7, "THIN").circle(60, 20, 7, "THIN");
    t.text(28, 12, "C");
    const Marks m(t.done());
    const auto arrows = viewingArrows(m.d, m.s, {"B"});
    REQUIRE(arrows.size() == 1);
    CHECK(arrows[0].tip == Vec2{84, 25});
    CHECK(arrows[0].look == Vec2{-1, 0});
    const auto circles = detailCircles(m.d, m.s, {"C"});
    REQUIRE(circles.size() == 1);
    CHECK(circles[0].circle.centre == Vec2{20, 20});
}

TEST_CASE("a view along an arrow folds about a line square to it, and several parallel sections stand at "
          "their own lines") {
    DxfText t;
    t.layer("CENTRE", "CENTER").layer("THIN", "CONTINUOUS", 8);
    t.entities();
    t.text(0, -60, "THIRD ANGLE");
    // A step block 80 x 50 x 30 with a ledge: front, top, two sections and the view along an arrow from the
    // left.
    t.line(0, 0, 80, 0)
        .line(80, 0, 80, 12)
        .line(80, 12, 50, 12)
        .line(50, 12, 50, 30)
        .line(50, 30, 0, 30)
        .line(0, 30, 0, 0);
    t.box(0, 60, 80, 110).line(50, 60, 50, 110);
    t.text(36, -8, "FRONT VIEW").text(36, 115, "TOP VIEW");
    for (auto [x, letter] : {std::pair{20.0, "A"}, std::pair{65.0, "B"}}) {
        t.line(x, -4, x, 36, "CENTRE");
        for (double y : {-4.0, 36.0}) barbed(t, {x, y}, {-1, 0}), t.text(x + 13, y, letter);
    }
    t.box(150, 0, 200, 30).text(175, -8, "A-A");
    t.box(230, 0, 280, 12).text(255, -8, "B-B");
    barbed(t, {-10, 15}, {1, 0});
    t.text(-23, 15, "C");
    t.box(-120, 0, -70, 30).line(-120, 12, -70, 12).text(-95, -8, "VIEW C");
    const std::string path = temporary("marked.dxf");
    std::ofstream(path) << t.done();
    const Document doc = opened(path);
    const ViewSet& set = doc.model().views;
    std::map<std::string, const View*> by_name;
    for (const View& v : set.views) by_name[v.name] = &v;
    for (auto [name, x] : {std::pair{"A-A", 20.0}, std::pair{"B-B", 65.0}}) {
        INFO(name);
        REQUIRE(by_name[name]);
        REQUIRE(by_name[name]->hanging);
        CHECK(by_name[name]->hanging->from.x == Approx(x));
        CHECK(by_name[name]->hanging->look.x == Approx(-1));
        CHECK(by_name[name]->hanging->matched == by_name[name]->hanging->levels);
    }
    REQUIRE(by_name["VIEW C"]);
    REQUIRE(by_name["VIEW C"]->hanging);
    const Hanging& c = *by_name["VIEW C"]->hanging;
    CHECK(c.by == Hanging::By::arrow);
    CHECK(c.look.x == Approx(1));
    CHECK(c.gap > 0);
    // That of a principal view runs between the two, square to the way from one to the other.
    for (const FoldLine& l : foldLinesOf(set, {})) {
        const View &v = set.views[static_cast<size_t>(l.view)], &on = set.views[static_cast<size_t>(l.on)];
        if (v.role != Role::top) continue;
        CHECK(l.away.x == 0);
        CHECK(dot(v.box_sheet.centre() - on.box_sheet.centre(), l.away) > 0);
        CHECK(l.line.a.y == Approx(l.line.b.y));
    }
    for (const FoldLine& l : foldLinesOf(set, {})) {
        const View& v = set.views[static_cast<size_t>(l.view)];
        const Vec2 along = l.line.b - l.line.a;
        INFO(v.name);
        CHECK(length(l.away) == Approx(1));
        CHECK(std::abs(dot(along, l.away)) < 1e-9 * length(along));
        CHECK(dot(v.box_sheet.centre() - l.line.a, l.away) > 0); // towards the view, wherever it was put
    }
    // One fold line for the top view and one for each of these; the arrow's is upright and outside the part.
    const auto lines = foldLinesOf(set, {});
    CHECK(lines.size() == 4);
    for (const FoldLine& l : lines) {
        if (l.view != by_name["VIEW C"]->id) continue;
        CHECK(l.line.a.x == Approx(l.line.b.x));
        CHECK(l.line.a.x < 0);
        CHECK(l.gap() == Approx(c.gap));
        ViewChoices moved;
        moved.fold_gap[by_name["VIEW C"]->key] = 7;
        NoProgress quiet;
        const ViewSet after = findViews(*doc.model().drawing, doc.model().sheet, moved, quiet);
        for (const FoldLine& m : foldLinesOf(after, moved))
            if (m.view == l.view) CHECK(m.gap() == Approx(7));
    }
}
