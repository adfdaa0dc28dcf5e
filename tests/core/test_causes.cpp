#include "core/checking/finding.h"
#include "core/diagnosing/as_given.h"
#include "core/diagnosing/repairing.h"
#include "core/project/propose_for.h"
#include "support/diagnosed.h"

using namespace prism;
using namespace prism::test;

// Causes that no coordinate without a counterpart tells: outlines that do not close or are drawn hidden, bolt
// circles beside their place, what stands in no view.

namespace {

/// A block of 80 x 50 x 40 with a slot of 20 across its top, in front, top and right view; third angle.
/// Lines of the front view may be left out, or drawn hidden.
std::string slotted(const std::string& rightSide = "OUTLINE", bool rightTop = true) {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").entities().text(0, -60, "THIRD ANGLE");
    t.line(0, 0, 80, 0).line(0, 40, 0, 0).line(0, 40, 30, 40).line(30, 40, 30, 28).line(30, 28, 50, 28);
    t.line(50, 28, 50, 40).line(80, 0, 80, 40, rightSide);
    if (rightTop) t.line(50, 40, 80, 40);
    t.box(0, 80, 80, 130).line(30, 80, 30, 130).line(50, 80, 50, 130);
    t.box(120, 0, 170, 40).line(120, 28, 170, 28, "HIDDEN");
    return t.done();
}

/// A flange of 100 with a bore and four holes of 10 on a circle of 70, and the plate seen from the side.
std::string flange(Vec2 bolts, Vec2 one = {}) {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").layer("CENTRE", "CENTER").entities();
    t.circle(0, 0, 50).circle(0, 0, 15);
    for (int i = 0; i < 4; ++i) {
        const Vec2 at = Affine2::rotation(i * kPi / 2)({35, 0}) + bolts + (i == 1 ? one : Vec2{});
        t.circle(at.x, at.y, 5);
    }
    t.box(100, -50, 120, 50).line(90, 0, 130, 0, "CENTRE");
    for (double z : {-15.0, 15.0}) t.line(100, z, 120, z, "HIDDEN");
    return t.text(0, -90, "FIRST ANGLE PROJECTION").done();
}

} // namespace

TEST_CASE(
    "lines without a counterpart are supposed too many, four of a view at most, pieces of chains never") {
    NoProgress quiet;
    const auto tooMany = [&](const std::vector<double>& at, bool chained = false) {
        DxfText t;
        t.layer("HIDDEN", "HIDDEN").entities().text(0, -60, "THIRD ANGLE");
        t.box(0, 0, 80, 40).box(0, 80, 80, 130).box(120, 0, 170, 40);
        for (double x : at) t.line(x, 0, x, 40);
        if (chained) {
            t.group(0, "LWPOLYLINE").group(8, "OUTLINE").group(90, "3").group(70, "0");
            t.group(10, 25).group(20, 0).group(10, 25).group(20, 30).group(10, 0).group(20, 30);
        }
        return unmatchedLines(inputOf(drawnSheet(t.done())), quiet);
    };
    CHECK(tooMany({}).empty());
    const auto one = tooMany({65});
    REQUIRE(one.size() == 1);
    CHECK(one[0].numbers.at("length") == Approx(40));
    CHECK(distance(one[0].at_sheet.front(), {65, 20}) < 1e-6);
    REQUIRE(one[0].remedies.size() == 1);
    CHECK(one[0].remedies[0].kind == "delete_line");
    CHECK(tooMany({10, 20, 30, 40, 50, 60}).size() == 4);
    for (const Finding& f : tooMany({}, true)) CHECK(std::abs(f.at_sheet.front().x - 25) > 1);
}

TEST_CASE("a line of the outline that is drawn hidden is told, for nothing lies before an outline") {
    NoProgress quiet;
    CHECK(hiddenOutlines(inputOf(drawnSheet(slotted())), quiet).empty());
    Document d = drawnSheet(slotted("HIDDEN"));
    const auto supposed = hiddenOutlines(inputOf(d), quiet);
    REQUIRE(supposed.size() == 1);
    CHECK(supposed[0].numbers.at("length") == Approx(40));
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "line_visibility_suspect");
    CHECK(all[0]->severity == Severity::error);
    CHECK(all[0]->message == "A line of 40.00 mm of the outline of the front view is drawn hidden");
    REQUIRE(repairAll(d, {}, quiet));
    CHECK(serious(diagnosed(d)).empty());
}

TEST_CASE("an outline that does not close is closed by the line that has a solid") {
    const Diagnosis found = diagnosed(drawnSheet(slotted("OUTLINE", false)));
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "outline_open");
    CHECK(all[0]->numbers.at("length") == Approx(30));
}

TEST_CASE("a line beside which the outline is open is supposed although every end meets another") {
    // Two blocks with a web between them that has a recess in its upper edge. Right of the recess that edge
    // is lacking: both blocks and the recess are closed areas, and what is left of the web borders none.
    DxfText t;
    t.layer("OUTLINE").entities().text(0, -60, "THIRD ANGLE");
    t.box(0, 0, 20, 40).box(80, 0, 100, 40).box(40, 20, 60, 30).line(20, 10, 80, 10).line(20, 30, 40, 30);
    t.box(0, 80, 100, 110);
    for (double x : {20.0, 40.0, 60.0, 80.0}) t.line(x, 80, x, 110);
    const Document d = drawnSheet(t.done());
    NoProgress quiet;
    std::vector<double> lengths;
    for (const Finding& f : lackingLines(inputOf(d), quiet))
        if (f.kind == "outline_open" && f.numbers.at("ends") > 0) lengths.push_back(f.numbers.at("length"));
    REQUIRE_FALSE(lengths.empty());
    CHECK(std::ranges::all_of(lengths, [](double l) { return std::abs(l - 20) < 1e-9; }));
}

TEST_CASE("a line is supposed across a centre line from one beside which the outline is open") {
    // A shaft between two discs, its lower edge lacking: nothing ends there, and no coordinate tells.
    DxfText t;
    t.layer("OUTLINE").layer("CENTRE", "CENTER").entities().text(0, -60, "THIRD ANGLE");
    t.box(0, 0, 10, 50).box(90, 0, 100, 50).line(10, 40, 90, 40).line(-8, 25, 108, 25, "CENTRE");
    t.circle(160, 25, 25).circle(160, 25, 15, "HIDDEN");
    const Document d = drawnSheet(t.done());
    NoProgress quiet;
    const auto all = lackingLines(inputOf(d), quiet);
    CHECK(std::ranges::any_of(all, [](const Finding& f) {
        return f.kind == "outline_open" && std::abs(f.numbers.at("length") - 80) < 1e-9 &&
               std::abs(f.at_sheet[1].y - 10) < 1e-9;
    }));
}

TEST_CASE("a slanted line that strayed square to itself is told with how far") {
    // A wedge on a plate; the slope of the front view stands 2 mm square to itself from where it was.
    const auto sheet = [](double off) {
        const Vec2 by = off * normalized(Vec2{3, 5});
        DxfText t;
        t.layer("OUTLINE").entities().text(0, -60, "THIRD ANGLE");
        t.line(0, 0, 80, 0).line(80, 0, 80, 10).line(0, 0, 0, 40).line(0, 40, 30, 40);
        t.line(30 + by.x, 40 + by.y, 80 + by.x, 10 + by.y);
        t.box(0, 80, 80, 120).line(30, 80, 30, 120).box(120, 0, 160, 40).line(120, 10, 160, 10);
        return t.done();
    };
    CHECK(serious(diagnosed(drawnSheet(sheet(0)))).empty());
    const Diagnosis found = diagnosed(drawnSheet(sheet(-2)));
    INFO(told(found));
    const auto it = std::ranges::find(found.findings, "position_mismatch", &Finding::kind);
    REQUIRE(it != found.findings.end());
    CHECK(it->numbers.at("shift") == Approx(2));
}

TEST_CASE("an edge is held against each edge of the other view that has no counterpart") {
    NoProgress quiet;
    DxfText t;
    t.layer("OUTLINE").entities().text(0, -60, "THIRD ANGLE");
    t.box(0, 0, 80, 40).line(20, 0, 20, 40).box(0, 80, 80, 130).line(26, 80, 26, 130).line(33, 80, 33, 130);
    std::vector<double> shifts;
    for (const Finding& f : displacements(inputOf(drawnSheet(t.done())), false, quiet))
        if (f.message.starts_with("The edge at X = 20.00 mm in the front view"))
            shifts.push_back(f.numbers.at("shift"));
    REQUIRE(shifts.size() == 2);
    CHECK(shifts[0] == Approx(6)); // the nearest first
    CHECK(shifts[1] == Approx(13));
}

TEST_CASE("holes of a bolt circle are told beside their place, some of them or all") {
    NoProgress quiet;
    const auto moved = [&](const std::string& dxf) {
        std::vector<Finding> r;
        for (const Finding& f : displacements(inputOf(drawnSheet(dxf)), false, quiet))
            if (f.message.find("bolt circle") != std::string::npos) r.push_back(f);
        return r;
    };
    CHECK(moved(flange({})).empty());
    CHECK(moved(flange({1, 2})).empty()); // askew: no slip along one axis
    const auto all = moved(flange({0, 2.5}));
    REQUIRE(all.size() == 1);
    CHECK(all[0].numbers.at("shift") == Approx(2.5));
    CHECK(all[0].message.starts_with("4 of the 4 circles of Ø10 mm in the "));
    REQUIRE(all[0].remedies.size() == 1);
    CHECK(all[0].remedies[0].change.lines.size() == 4);
    const auto one = moved(flange({}, {-1.5, 0}));
    REQUIRE(one.size() == 1);
    CHECK(one[0].numbers.at("shift") == Approx(1.5));
    CHECK(one[0].message.starts_with("1 of the 4 circles of Ø10 mm in the "));
    CHECK(one[0].remedies[0].change.lines.size() == 1);
}

TEST_CASE("what stands in no view is told, and lines that are a feature can be taken off") {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").entities().text(0, -60, "THIRD ANGLE");
    t.box(0, 0, 80, 40).box(0, 80, 80, 130).circle(40, 105, 8);
    for (double x : {32.0, 48.0}) t.line(x, 0, x, 40, "HIDDEN");
    const std::string sound = t.done();
    CHECK(serious(diagnosed(drawnSheet(sound))).empty());
    t.circle(150, 60, 6);
    const Diagnosis found = diagnosed(drawnSheet(t.done()));
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "feature_unmatched");
    CHECK(all[0]->severity == Severity::warning);
    CHECK(all[0]->message ==
          "A circle of Ø12 mm stands in no view: it is neither driven, built from nor proved");
    CHECK(all[0]->numbers.at("diameter") == Approx(12));
    CHECK(all[0]->numbers.at("radius") == Approx(6));
    REQUIRE(all[0]->remedies.size() == 1);
    CHECK(all[0]->remedies[0].kind == "delete_line");
}

TEST_CASE("a circle that slipped out of its view is moved back to where it is dimensioned") {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").entities().text(0, -60, "THIRD ANGLE");
    t.box(0, 0, 80, 40).circle(40, 50, 5); // it was drawn at (40, 30)
    t.box(0, 80, 80, 130).box(130, 0, 180, 40);
    for (double x : {35.0, 45.0}) t.line(x, 80, x, 130, "HIDDEN");
    for (double z : {25.0, 35.0}) t.line(130, z, 180, z, "HIDDEN");
    t.group(0, "DIMENSION").group(5, "F1").group(8, "OUTLINE").group(70, "3").group(1, "<>");
    t.group(10, 35).group(20, 30).group(15, 45).group(25, 30).group(11, 60).group(21, 34);
    Document d = drawnSheet(t.done());
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "position_mismatch");
    CHECK(all[0]->numbers.at("shift") == Approx(20));
    NoProgress quiet;
    REQUIRE(repairAll(d, {}, quiet));
    CHECK(diagnosed(d).findings.empty());
    CHECK(std::ranges::any_of(d.model().drawn.curves, [&](const FigureCurve& c) {
        const auto* a = std::get_if<Arc>(&c.drawn);
        return a && a->full() && distance(a->centre, {40, 30}) < 1e-6;
    }));
}

TEST_CASE("findings on a sheet looked at as repaired keep the numbers of the sheet as given") {
    NoProgress quiet;
    const Document given = drawnSheet(slotted());
    const Model& was = given.model();
    // With the leftmost view taken away the others are counted anew.
    Document less = given;
    Choices c = less.choices();
    const View& top = *std::ranges::find(was.views.views, Role::top, &View::role);
    const View& right = *std::ranges::find(was.views.views, Role::right, &View::role);
    for (const View& v : was.views.views)
        if (v.role == Role::front)
            for (const int e : v.entities)
                c.marks.lines.push_back(
                    {MarkedLine::Kind::remove, keyOf(was.drawing->entities[static_cast<size_t>(e)]), {}});
    REQUIRE(less.apply("Less", c, quiet, Stage::checks));
    const Model& m = less.model();
    REQUIRE(m.views.views.size() == 2);
    const AsGiven as_given(was);
    std::vector<int> seen;
    for (const View& v : m.views.views) {
        Finding f;
        f.views = {v.id}, f.entities = {v.entities.front()};
        const Finding back = as_given.told(f, m);
        REQUIRE(back.views.size() == 1);
        REQUIRE(back.entities.size() == 1);
        CHECK(keyOf(was.drawing->entities[static_cast<size_t>(back.entities[0])]) ==
              keyOf(m.drawing->entities[static_cast<size_t>(v.entities.front())]));
        seen.push_back(back.views[0]);
    }
    std::ranges::sort(seen);
    CHECK(seen == std::vector<int>{std::min(top.id, right.id), std::max(top.id, right.id)});
    CHECK(as_given.samePart(was, was));
    CHECK_FALSE(as_given.samePart(was, m));
}

TEST_CASE("of two views that differ the one with a dimension of that place is believed") {
    // An angle whose foot is 15 high in the front view and 17 in the right one, where a single line says so.
    const auto moved = [](int dimensioned) {
        DxfText t;
        t.layer("OUTLINE").entities().text(0, -60, "THIRD ANGLE");
        t.line(0, 0, 80, 0).line(80, 0, 80, 15).line(80, 15, 30, 15).line(30, 15, 30, 40).line(30, 40, 0, 40);
        t.line(0, 40, 0, 0).box(0, 100, 80, 150).line(30, 100, 30, 150);
        t.box(130, 0, 180, 40).line(130, 17, 180, 17);
        if (dimensioned == 1) t.dimension(80, 0, 80, 15, 90, 0, 90);
        if (dimensioned == 2) t.dimension(180, 0, 180, 17, 190, 0, 90);
        const Diagnosis found = diagnosed(drawnSheet(t.done()));
        INFO(told(found));
        const auto all = serious(found);
        REQUIRE(all.size() == 1);
        CHECK(all[0]->kind == "position_mismatch");
        return all[0]->remedies.front().words;
    };
    CHECK(moved(0) == "Move it by -2.00 mm along Z in the right view"); // the fewer lines
    CHECK(moved(1) == "Move it by -2.00 mm along Z in the right view");
    CHECK(moved(2) == "Move it by +2.00 mm along Z in the front view");
}

TEST_CASE(
    "a hole beside its place on a pitch circle that is drawn is told, unless a dimension puts it there") {
    // The section shows none of the holes, so that a solid explains the sheet with the hole where it is
    // drawn.
    const auto sheet = [](bool pitch, Vec2 off, bool dimensioned) {
        DxfText t;
        t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").layer("CENTRE", "CENTER").entities();
        t.circle(0, 0, 50).circle(0, 0, 15);
        if (pitch) t.circle(0, 0, 35, "CENTRE");
        for (int i = 0; i < 4; ++i) {
            const Vec2 at = Affine2::rotation(kPi / 4 + i * kPi / 2)({35, 0}) + (i == 1 ? off : Vec2{});
            t.circle(at.x, at.y, 5);
            if (i == 1 && dimensioned) t.dimension(0, 0, at.x, at.y, 0, 70, 0);
        }
        t.box(100, -50, 120, 50).line(90, 0, 130, 0, "CENTRE");
        for (double z : {-15.0, 15.0}) t.line(100, z, 120, z, "HIDDEN");
        return t.text(0, -90, "FIRST ANGLE PROJECTION").done();
    };
    const auto off = [](const Document& d) {
        return std::ranges::count_if(d.model().findings, [](const Finding& f) {
            return f.kind == "position_mismatch" && f.severity == Severity::warning;
        });
    };
    CHECK(off(drawnSheet(sheet(true, {}, false))) == 0);
    CHECK(off(drawnSheet(sheet(false, {3, 0}, false))) == 0);
    CHECK(off(drawnSheet(sheet(true, {3, 0}, true))) == 0);
    Document d = drawnSheet(sheet(true, {3, 0}, false));
    REQUIRE(off(d) == 1);
    const Finding& f = *std::ranges::find(d.model().findings, "position_mismatch", &Finding::kind);
    CHECK(f.numbers.at("shift") == Approx(3));
    CHECK(f.message.starts_with("1 of the 4 circles of Ø10 mm"));
    NoProgress quiet;
    REQUIRE(d.apply("Move", changed(d.choices(), f.remedies.front().change), quiet, Stage::checks));
    CHECK(sameLines(d.model().figure, drawnSheet(sheet(true, {}, false)).model().figure));
}

TEST_CASE("an edge at a coordinate that another end answers is moved to where the view beside has its edge") {
    // Two steps with a blind hole from below that ends level with the lower one. In the left view the edge of
    // that step stands 2 too low; the ends of the hole's lines stand where it should.
    const auto sheet = [](double edge) {
        DxfText t;
        t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").entities().text(0, -60, "THIRD ANGLE");
        const std::vector<Vec2> way{{0, 0},   {90, 0},  {90, 15}, {57, 15},
                                    {57, 24}, {32, 24}, {32, 39}, {0, 39}};
        for (size_t i = 0; i < way.size(); ++i) {
            const Vec2 a = way[i], b = way[(i + 1) % way.size()];
            t.line(a.x, a.y, b.x, b.y);
        }
        t.box(0, 80, 90, 118);
        for (double x : {32, 57}) t.line(x, 80, x, 118);
        t.circle(73, 99, 5);
        t.box(-80, 0, -42, 39);
        for (double z : {24.0, edge}) t.line(-80, z, -42, z, "HIDDEN");
        for (double x : {68.0, 78.0}) t.line(x, 0, x, 15, "HIDDEN");
        for (double y : {-66.0, -56.0}) t.line(y, 0, y, 15, "HIDDEN");
        return t.done();
    };
    CHECK(serious(diagnosed(drawnSheet(sheet(15)))).empty());
    Document d = drawnSheet(sheet(13));
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "position_mismatch");
    CHECK(all[0]->numbers.at("shift") == Approx(2));
    CHECK(all[0]->message ==
          "The edge at Z = 13.00 mm in the left view stands at 15.00 mm in the front view: "
          "2.00 mm off");
    repaired(d);
    CHECK(sameLines(d.model().figure, drawnSheet(sheet(15)).model().figure));
}

TEST_CASE("a small circle in the corner beside an outline is told; a sign with a number in it is none") {
    const auto told_of = [](bool circle, bool number) {
        DxfText t;
        t.layer("OUTLINE").entities().text(0, -60, "THIRD ANGLE");
        t.line(0, 0, 80, 0).line(80, 0, 80, 15).line(80, 15, 30, 15).line(30, 15, 30, 40).line(30, 40, 0, 40);
        t.line(0, 40, 0, 0).box(0, 100, 80, 150).line(30, 100, 30, 150);
        t.box(130, 0, 180, 40).line(130, 15, 180, 15);
        if (circle) t.circle(70, 34, 1.5);
        if (number) t.text(69.4, 33.2, "3");
        return serious(diagnosed(drawnSheet(t.done()))).size();
    };
    CHECK(told_of(false, false) == 0);
    CHECK(told_of(true, false) == 1);
    CHECK(told_of(true, true) == 0);
}

TEST_CASE(
    "a check after a change that leaves the figure as it is looks for no solid again, and finds the same") {
    Document d = drawnSheet(slotted("HIDDEN"));
    NoProgress quiet;
    KnownSolids known;
    const auto look = [&] {
        auto r = diagnose(d.source(), d.choices(), d.sharedModel(), quiet, &known);
        REQUIRE(r);
        return std::move(*r);
    };
    const Diagnosis first = look();
    REQUIRE(known.asked() > 0);
    CHECK(known.known() == 0);
    const int asked = known.asked();
    // A finding that is left as it is changes what is tried, the figure not.
    Choices c = d.choices();
    c.accepted["something else"] = "a note";
    REQUIRE(d.apply("Leave it", c, quiet, Stage::checks));
    const Diagnosis again = look();
    CHECK(known.asked() == 2 * asked);
    CHECK(known.known() == asked);
    CHECK(told(again) == told(first));
    CHECK(again.tried == first.tried);
    CHECK(again.left_undone == first.left_undone);
    // Another figure is another question; an earlier one brought back is known.
    REQUIRE(repairAll(d, {}, quiet, &known));
    const int before = known.known();
    look();
    CHECK(known.known() == before + 1); // the last look of the repairs was at this sheet
    REQUIRE(d.undo(quiet));
    const int now = known.known();
    const Diagnosis back = look();
    CHECK(known.known() == now + asked);
    CHECK(told(back) == told(first));
}

TEST_CASE(
    "a line that two others would end on is supposed beside them; of more ends no more than two count") {
    // A slot whose floor in the end view was drawn 3 above the ends of its sides.
    const auto sheet = [](double floor) {
        DxfText t;
        t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").entities().text(0, -60, "THIRD ANGLE");
        t.box(0, 0, 80, 40).line(0, 25, 80, 25, "HIDDEN").box(0, 80, 80, 130);
        for (double y : {95.0, 115.0}) t.line(0, y, 80, y);
        t.line(120, 0, 170, 0).line(170, 0, 170, 40).line(170, 40, 155, 40).line(155, 40, 155, 25);
        t.line(135, floor, 155, floor).line(135, 25, 135, 40).line(135, 40, 120, 40).line(120, 40, 120, 0);
        return t.done();
    };
    NoProgress quiet;
    const auto supposed = [&](const Document& d) {
        std::vector<Finding> r;
        for (Finding& f : strayedLines(inputOf(d), quiet))
            if (f.message.find("others end on nothing") != std::string::npos) r.push_back(std::move(f));
        return r;
    };
    CHECK(supposed(drawnSheet(sheet(25))).empty());
    Document d = drawnSheet(sheet(28));
    const auto found = supposed(d);
    REQUIRE(found.size() == 1);
    CHECK(found[0].numbers.at("shift") == Approx(3));
    CHECK(found[0].numbers.at("ends") == 2);
    REQUIRE(d.apply("Move", changed(d.choices(), found[0].remedies.front().change), quiet, Stage::checks));
    CHECK(sameLines(d.model().figure, drawnSheet(sheet(25)).model().figure));
}

TEST_CASE("a chamfer that is lacking is supposed as the image of the one across the centre line") {
    // A shaft with a slot in its upper side only, so that most lines have no image.
    DxfText t;
    t.layer("OUTLINE").layer("CENTRE", "CENTER").entities().text(0, -60, "THIRD ANGLE");
    t.line(0, 3, 0, 37).line(0, 37, 3, 40).line(3, 40, 80, 40).line(80, 40, 80, 0).line(80, 0, 3, 0);
    t.line(3, 0, 3, 40).line(-5, 20, 85, 20, "CENTRE").line(30, 32, 60, 32).line(30, 32, 30, 40);
    t.line(60, 32, 60, 40).circle(120, 20, 20).circle(120, 20, 17);
    NoProgress quiet;
    const auto lacking = lackingLines(inputOf(drawnSheet(t.done())), quiet);
    const auto image = std::ranges::find_if(lacking, [](const Finding& f) {
        return f.message.find("which would meet a line that ends on nothing") != std::string::npos;
    });
    REQUIRE(image != lacking.end());
    CHECK(image->numbers.at("length") == Approx(3 * std::sqrt(2.0)));
    REQUIRE(image->at_sheet.size() == 3);
    CHECK(std::min(distance(image->at_sheet[0], {0, 3}), distance(image->at_sheet[2], {0, 3})) < 1e-6);
}
