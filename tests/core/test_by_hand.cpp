#include "support/boxed_part.h"
#include "support/samples.h"

#include "core/building/steps.h"
#include "core/marking/dimensioning.h"
#include "core/marking/line_edits.h"
#include "core/views/by_hand.h"
#include "core/views/fold_lines.h"

#include <fstream>

// What a person says by pointing at the sheet, and what the choices then hold.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

struct Laid {
    BoxedPart part;
    CleanSheet sheet;
    ViewSet set;
    explicit Laid(Convention c, unsigned seed = 3)
        : part(boxedPart(seed, {c})), sheet(clean(part.drawing, {})),
          set(findViews(*sheet.drawing, sheet, {}, quiet)) {}
    const View& view(Role r) const { return *set.withRole(r); }
};

AddedDimension measuredOn(const Drawing& d, const AddedDimension& a, double expected) {
    MarkUp m;
    m.dimensions = {a};
    const auto marked = markedUp(std::make_shared<const Drawing>(d), m);
    CHECK(marked->dimensions.back().measured == Approx(expected));
    return a;
}

} // namespace

TEST_CASE("a place a little beside a view is its own, by the view's size, and a line's view wins") {
    ViewSet set;
    View small, large;
    small.id = 0, small.box_sheet = {{0, 0}, {3, 4}};
    large.id = 1, large.box_sheet = {{100, 0}, {180, 60}};
    set.views = {small, large};
    set.view_of_entity = {1, -1};
    CHECK(viewAt(set, {3.2, 2}, -1) == 0);
    CHECK(viewAt(set, {3.3, 2}, -1) == -1);
    CHECK(viewAt(set, {184.5, 30}, -1) == 1); // a twentieth of 100
    CHECK(viewAt(set, {185.5, 30}, -1) == -1);
    CHECK(viewAt(set, {1, 1}, 0) == 1);
    CHECK(viewAt(set, {1, 1}, 1) == 0);
}

TEST_CASE("two places of two views are tied along every axis that both show, and only those") {
    const Laid l(Convention::third);
    const auto tie = [&](Role a, Role b) {
        return tiesBetween(l.set, {l.view(a).key, {{0, 0}}}, {l.view(b).key, {{1, 1}}});
    };
    const auto front_top = tie(Role::front, Role::top);
    REQUIRE(front_top);
    REQUIRE(front_top->size() == 1);
    CHECK(front_top->front().axis == Axis::x);
    CHECK(tie(Role::front, Role::right)->front().axis == Axis::z);
    CHECK(tie(Role::right, Role::top)->front().axis == Axis::y);
    const auto front_rear = tie(Role::front, Role::rear);
    REQUIRE(front_rear);
    REQUIRE(front_rear->size() == 2);
    CHECK(front_rear->at(0).axis == Axis::x);
    CHECK(front_rear->at(1).axis == Axis::z);
    CHECK_FALSE(tie(Role::front, Role::front));
    CHECK_FALSE(tiesBetween(l.set, {"no such", {}}, {l.view(Role::top).key, {}}));
    CHECK(shows(Role::top, Axis::y));
    CHECK_FALSE(shows(Role::top, Axis::z));
    CHECK_FALSE(shows(Role::section, Axis::x));
}

TEST_CASE("the zero is set on both axes of the view that was pointed at") {
    const Laid l(Convention::first);
    ViewChoices c;
    setZero(c, l.view(Role::left), {7, 9});
    REQUIRE(c.zero.size() == 2);
    CHECK(c.zero.at(Axis::y).places == std::vector<Vec2>{{7, 9}});
    CHECK(c.zero.at(Axis::z).view == l.view(Role::left).key);
}

TEST_CASE("a place is in the view of its line, or of the box round it") {
    const Laid l(Convention::third);
    const View& top = l.view(Role::top);
    CHECK(viewAt(l.set, top.box_sheet.centre()) == top.id);
    CHECK(viewAt(l.set, {-1e5, 0}) == -1);
    CHECK(viewAt(l.set, {-1e5, 0}, top.entities.front()) == top.id);
}

TEST_CASE("a section drawn by hand hangs on the view under its line and looks the way its place implies") {
    for (Convention convention : {Convention::first, Convention::third}) {
        const Laid l(convention);
        for (const View& v : l.set.views) {
            if (v.role != Role::section || !v.hanging) continue;
            // The line that the sheet itself shows, drawn by hand in both senses: hung as the sheet has it.
            // A-A lies right of all views, where first angle puts what is seen from the left: other than its
            // arrows say.
            const double as_arrows = v.letter == "A" && convention == Convention::first ? -1 : 1;
            const View& on = l.set.views[v.hanging->on];
            const Vec2 a = on.toModel().inverse()(v.hanging->from), b = on.toModel().inverse()(v.hanging->to);
            for (const auto& [from, to] : {std::pair{a, b}, std::pair{b, a}}) {
                const auto h = hungAlong(l.set, l.sheet, v, from, to);
                REQUIRE(h);
                CHECK(h->on == on.key);
                ViewChoices c;
                c.hung[v.key] = *h;
                const ViewSet again = findViews(*l.sheet.drawing, l.sheet, c, quiet);
                const View* now = again.withKey(v.key);
                REQUIRE(now);
                REQUIRE(now->hanging);
                INFO(nameOf(convention) << " " << v.name);
                CHECK(dot(now->hanging->look, v.hanging->look) == Approx(as_arrows));
                if (as_arrows > 0) CHECK(now->hanging->matched == now->hanging->levels);
                // And from the other side when that is asked for, twice being once too often.
                c.hung[v.key] = hungFromOtherSide(again, l.sheet, c, *now);
                CHECK(c.hung[v.key].turned != h->turned);
                const ViewSet round = findViews(*l.sheet.drawing, l.sheet, c, quiet);
                CHECK(dot(round.withKey(v.key)->hanging->look, v.hanging->look) == Approx(-as_arrows));
                CHECK(hungFromOtherSide(round, l.sheet, c, *round.withKey(v.key)) == *h);
            }
            // A view that nobody has hung by hand is taken as it hangs.
            ViewChoices c;
            c.hung[v.key] = hungFromOtherSide(l.set, l.sheet, c, v);
            const ViewSet round = findViews(*l.sheet.drawing, l.sheet, c, quiet);
            CHECK(dot(round.withKey(v.key)->hanging->look, v.hanging->look) == Approx(-1));
            CHECK_FALSE(hungAlong(l.set, l.sheet, v, a, a));
        }
    }
}

TEST_CASE("a fold line moved away keeps its distance, and one drawn by hand its new place") {
    const Laid l(Convention::third);
    ViewChoices c;
    const auto lines = foldLinesOf(l.set, c);
    const auto top = std::find_if(lines.begin(), lines.end(),
                                  [&](const FoldLine& f) { return l.set.views[f.view].role == Role::top; });
    REQUIRE(top != lines.end());
    moveFoldLine(c, l.set, l.sheet, *top, 3);
    CHECK(c.fold_gap.at(l.view(Role::top).key) == Approx(top->gap() + 3 * top->mm_per_sheet));
    for (const FoldLine& f : foldLinesOf(l.set, c))
        if (f.view == top->view) CHECK(dot(f.line.a - top->line.a, top->away) == Approx(3));
    for (const View& v : l.set.views) {
        if (v.role != Role::section || !v.hanging) continue;
        c.hung[v.key] = {l.set.views[v.hanging->on].key, {10, 20}, {30, 20}, false};
        const auto f =
            std::find_if(lines.begin(), lines.end(), [&](const FoldLine& x) { return x.view == v.id; });
        REQUIRE(f != lines.end());
        moveFoldLine(c, l.set, l.sheet, *f, 2);
        CHECK(distance(c.hung[v.key].from, Vec2{10, 20} + f->away * 2) < 1e-12);
        CHECK(distance(c.hung[v.key].to, Vec2{30, 20} + f->away * 2) < 1e-12);
        CHECK_FALSE(c.fold_gap.contains(v.key));
    }
}

TEST_CASE("lines of a locked view stay; others go into a view, or make one of their own") {
    const Laid l(Convention::third);
    const View &front = l.view(Role::front), &top = l.view(Role::top);
    ViewChoices c;
    c.locked.insert(top.key);
    const int a = front.entities[0], b = front.entities[1], held = top.entities[0];
    const MovableLines lines = movableLines(*l.sheet.drawing, l.set, c, {a, b, held});
    CHECK(lines.held == 1);
    REQUIRE(lines.keys.size() == 2);
    CHECK_FALSE(moveLines(c, lines.keys, top.key));
    CHECK(c.moved.empty());
    CHECK(moveLines(c, lines.keys, l.view(Role::right).key));
    CHECK(c.moved.at(keyOf(l.sheet.drawing->entities[a])) == l.view(Role::right).key);
    const std::string first = gatherView(c, {lines.keys[0]}), second = gatherView(c, {lines.keys[1]});
    CHECK(first != second);
    CHECK(c.made == std::set<std::string>{first, second});
    CHECK(c.moved.at(lines.keys[1]) == second);
}

TEST_CASE("a known length sets the scale of the sheet in any unit") {
    const Drawing d = drawn(DxfText().entities().line(0, 0, 3, 4).circle(20, 20, 2).done());
    CHECK(lengthOnSheet(d, {0}) == Approx(5));
    CHECK(lengthOnSheet(d, {0, 1}) == Approx(5 + 4 * kPi));
    UnitEvidence inch;
    inch.mm = 25.4;
    CHECK(*scaleByLength(5, inch, 254) == Approx(0.5));
    CHECK_FALSE(scaleByLength(0, inch, 254));
    CHECK_FALSE(scaleByLength(5, inch, 0));
    CHECK_FALSE(scaleByLength(5, inch, std::nan("")));
}

TEST_CASE("only layers with lines of the part or with dimensions stay on") {
    const Drawing d = drawn(DxfText()
                                .layer("OUTLINE")
                                .layer("FRAME")
                                .layer("HIDDEN", "HIDDEN")
                                .layer("DIM")
                                .entities()
                                .box(0, 0, 40, 30)
                                .line(5, 0, 5, 30, "HIDDEN")
                                .box(-50, -50, 200, 200, "FRAME")
                                .dimension(0, 0, 40, 0, 0, -12, 0)
                                .done());
    const auto on = partLayersOnly(d, clean(d, {}));
    CHECK(on.at("OUTLINE"));
    CHECK(on.at("HIDDEN"));
    CHECK_FALSE(on.at("FRAME"));
    CHECK(on.at(d.layers[d.dimensions[0].layer].name));
}

TEST_CASE("lines are trimmed, prolonged, joined and moved where they are pointed at") {
    // A polyline whose second side is crossed twice, and two lines that would meet.
    const Drawing d = drawn(DxfText()
                                .entities()
                                .line(0, 0, 100, 0)
                                .line(30, -5, 30, 5)
                                .line(60, -5, 60, 5)
                                .line(0, 20, 80, 20)
                                .done());
    const std::vector<bool> used(d.entities.size(), true);
    const auto cut = trimAt(d, used, {{45, 0.1}, 0}, 1e-6);
    REQUIRE(cut);
    REQUIRE(cut->size() == 1);
    REQUIRE(cut->front().second.size() == 2);
    CHECK(std::get<Segment>(cut->front().second[0]).b == Vec2{30, 0});
    CHECK(std::get<Segment>(cut->front().second[1]).a == Vec2{60, 0});
    std::vector<bool> unused = used;
    unused[1] = false;
    CHECK(std::get<Segment>(trimAt(d, unused, {{45, 0}, 0}, 1e-6)->front().second[0]).a == Vec2{60, 0});

    const auto longer = extendAt(d, used, {{60, 4}, 2}, 1e-6);
    REQUIRE(longer);
    CHECK(std::get<Segment>(longer->front().second[0]).b == Vec2{60, 20});
    CHECK_FALSE(extendAt(d, used, {{100, 0}, 0}, 1e-6));

    const auto joined = cornerAt(d, {{70, 20}, 3}, {{60, -4}, 2});
    REQUIRE(joined);
    CHECK(std::get<Segment>(joined->at(0).second[0]).a == Vec2{60, 20});
    CHECK(std::get<Segment>(joined->at(1).second[0]).a == Vec2{60, -5});
    CHECK(std::get<Segment>(joined->at(1).second[0]).b == Vec2{60, 20});
    CHECK_FALSE(cornerAt(d, {{10, 0}, 0}, {{90, 0}, 0}));

    const LineEdits moved = movedBy(d, {1, 3}, {2, 3});
    REQUIRE(moved.size() == 2);
    CHECK(std::get<Segment>(moved[1].second[0]).a == Vec2{2, 23});

    // The mark-up keeps them in the file's own coordinates; a line without curves is deleted.
    const auto marks = marksOf(d, {moved[1], {2, {}}}, Affine2::shift({100, 0}));
    REQUIRE(marks.size() == 2);
    CHECK(marks[0].kind == MarkedLine::Kind::reshape);
    CHECK(marks[0].target == keyOf(d.entities[3]));
    CHECK(std::get<Segment>(marks[0].curves[0]).a == Vec2{102, 23});
    CHECK(marks[1].kind == MarkedLine::Kind::remove);
}

TEST_CASE("of a chain of lines the piece that is pointed at is the one that changes") {
    Drawing d = drawn(DxfText().entities().line(0, 0, 40, 0).line(20, -5, 20, 35).done());
    d.entities[0].curves = {Segment{{0, 0}, {40, 0}}, Segment{{40, 0}, {40, 30}}, Segment{{40, 30}, {0, 30}}};
    CHECK(std::get<Segment>(curveAt(d, {{39, 12}, 0})).b == Vec2{40, 30});
    const auto cut = trimAt(d, {true, true}, {{30, 30}, 0}, 1e-6);
    REQUIRE(cut);
    const auto& left = cut->front().second;
    REQUIRE(left.size() == 3);
    CHECK(std::get<Segment>(left[0]).b == Vec2{40, 0});
    CHECK(std::get<Segment>(left[2]).a == Vec2{20, 30});
    CHECK(std::get<Segment>(left[2]).b == Vec2{0, 30});
}

TEST_CASE("a distance is level above or below its places, upright beside them, or between them") {
    const Drawing d = drawn(DxfText().entities().box(0, 0, 30, 40).done());
    const Vec2 a{0, 0}, b{30, 40};
    for (double y : {60.0, -20.0}) {
        const auto level = measuredOn(d, distanceDimension(a, b, {15, y}, false), 30);
        CHECK(level.p10.y == Approx(y));
        CHECK(level.p10.x == Approx(30));
    }
    for (double x : {50.0, -20.0})
        CHECK(measuredOn(d, distanceDimension(a, b, {x, 20}, false), 40).p10.x == Approx(x));
    // Between both: the longer way of the two.
    measuredOn(d, distanceDimension(a, b, {15, 20}, false), 40);
    measuredOn(d, distanceDimension(a, {40, 30}, {15, 20}, false), 40);
    const auto aligned = measuredOn(d, distanceDimension(a, b, {-8, 6}, true), 50);
    CHECK(dot(aligned.p10 - Vec2{-8, 6}, {4, -3}) == Approx(0).margin(1e-9));
}

TEST_CASE("angles are those that their arc runs through; rounds need an arc") {
    const Drawing d = drawn(DxfText().entities().box(0, 0, 30, 40).done());
    measuredOn(d, angleDimension({0, 0}, {10, 0}, {0, 5}, {3, 3}), 90);
    measuredOn(d, angleDimension({0, 0}, {10, 0}, {0, 5}, {-3, -3}), 270);
    const Curve round = Arc{{10, 10}, 5, 0, 2 * kPi};
    const auto diameter = roundDimension(round, {30, 10}, true);
    REQUIRE(diameter);
    measuredOn(d, *diameter, 10);
    CHECK(diameter->p15 == Vec2{15, 10});
    CHECK(diameter->p10 == Vec2{5, 10});
    const auto radius = roundDimension(round, {10, 40}, false);
    REQUIRE(radius);
    measuredOn(d, *radius, 5);
    CHECK(distance(radius->p15, {10, 15}) < 1e-12);
    CHECK_FALSE(roundDimension(Segment{{0, 0}, {1, 0}}, {2, 2}, true));
}

TEST_CASE("a level distance on a sheet that lies on its side measures what the person saw") {
    // The file has the part on its side: what is level before the person is upright in the file.
    const Affine2 to_file = Affine2::rotation(kPi / 2);
    const AddedDimension seen = distanceDimension({0, 0}, {30, 40}, {15, 60}, false);
    const AddedDimension kept = transformed(seen, to_file);
    measuredOn(drawn(DxfText().entities().box(0, 0, 30, 40).done()), kept, 30);
    CHECK(distance(kept.p14, {-40, 30}) < 1e-12);
}

TEST_CASE("a step tells what it lacks; a mark in the corner of the front view is a mark") {
    Step s;
    CHECK(missingIn(s) == "no area is picked");
    s.areas = {{1, 1}};
    CHECK_FALSE(missingIn(s));
    s.to.kind = Bound::Kind::mark;
    CHECK(missingIn(s));
    s.to.mark = {Role::front, {0, 0}};
    CHECK_FALSE(missingIn(s));
    s.reach = Reach::both;
    CHECK(missingIn(s));
    s.to.kind = Bound::Kind::value;
    CHECK_FALSE(missingIn(s));
    s.from.kind = Bound::Kind::mark;
    CHECK(missingIn(s));
    s.reach = Reach::through;
    CHECK_FALSE(missingIn(s));
    s.kind = StepKind::revolve;
    CHECK(missingIn(s) == "no centre line is picked");
    s.axis = {Role::front, {0, 0}};
    CHECK_FALSE(missingIn(s));
}
