#include "support/bracket.h"
#include "support/samples.h"

#include "core/delivering/step_file.h"
#include "core/project/project_file.h"
#include "core/project/propose_for.h"

#include <filesystem>
#include <fstream>
#include <random>

using namespace prism;
using namespace prism::test;

namespace {

/// Choices with something in every corner.
Choices everything() {
    Choices c;
    c.layers.on["HIDDEN"] = false;
    c.layers.role["0"] = LineRole::construction;
    c.views.convention = Convention::first;
    c.views.roles["2F"] = Role::left;
    c.views.moved["3A"] = "", c.views.moved["3B"] = "2F";
    c.views.scale = 0.5, c.views.unit = "inch";
    c.numbers["x1"].value = 1.0 / 3;
    c.numbers["x1"].held = true;
    c.numbers["z2"].formula = "x1 * 2 + 1 mm";
    c.numbers["z2"].moving_side = MovingSide::second;
    c.steps = bracketSteps();
    c.steps[1].off = true, c.steps[1].name = "Auge Ø";
    c.steps[2].from = {Bound::Kind::value, {}, 4.5};
    Step turn;
    turn.kind = StepKind::revolve, turn.areas = {{1, 2}}, turn.axis = {Role::front, {3, 4}};
    turn.axis_upright = true, turn.angle = 1.25;
    c.steps.push_back(turn);
    return c;
}

} // namespace

TEST_CASE("every choice survives being written and read") {
    const Choices c = everything();
    const Choices back = choicesFromJson(nlohmann::ordered_json::parse(toJson(c).dump()));
    CHECK(back.layers == c.layers);
    CHECK(back.views == c.views);
    CHECK(back.numbers == c.numbers);
    REQUIRE(back.steps.size() == c.steps.size());
    for (size_t i = 0; i < c.steps.size(); ++i) {
        INFO(i);
        CHECK(back.steps[i].angle == Approx(c.steps[i].angle));
        Step a = back.steps[i];
        a.angle = c.steps[i].angle;
        CHECK(a == c.steps[i]);
    }
}

TEST_CASE("drawn curves of every kind and degree survive being written and read") {
    Choices c;
    const std::vector<Curve> curves{Segment{{1, 2}, {3, 4.5}}, Arc{{5, 6}, 2.5, 0.3, -1.25},
                                    EllipseArc{{7, 8}, {3, 1}, 0.4, 0.1, 2.2},
                                    Spline{1, {0, 0, 0.5, 1, 1}, {{0, 0}, {4, 1}, {9, 3}}, {}},
                                    Spline{2, {0, 0, 0, 1, 1, 1}, {{0, 0}, {4, 1}, {9, 3}}, {1, 0.5, 1}}};
    for (const Curve& k : curves)
        c.marks.lines.push_back({MarkedLine::Kind::add, "+1", {k}, LineRole::outline});
    const Choices back = choicesFromJson(nlohmann::ordered_json::parse(toJson(c).dump()));
    REQUIRE(back.marks.lines.size() == curves.size());
    for (size_t i = 0; i < curves.size(); ++i) CHECK(back.marks.lines[i].curves == std::vector{curves[i]});
}

TEST_CASE("a project holds its source byte for byte, and the same choices give the same bytes") {
    const ProjectContent p{std::string("raw\0bytes\n", 10), "sheet.dxf", everything()};
    const auto a = projectBytes(p), b = projectBytes(p);
    REQUIRE(a);
    CHECK(*a == *b);
    CHECK(isProject(*a));
    const auto back = readProject(*a);
    REQUIRE(back);
    CHECK(back->source == p.source);
    CHECK(back->source_name == "sheet.dxf");
}

TEST_CASE("damaged projects are refused in words, wherever they are damaged") {
    const auto whole = projectBytes({"source", "s.dxf", {}});
    REQUIRE(whole);
    std::mt19937 random(4);
    for (size_t n = 4; n < whole->size(); n += 11) {
        const auto r = readProject(whole->substr(0, n));
        REQUIRE_FALSE(r);
        CHECK(r.error().code == ErrorCode::unreadable);
        CHECK_FALSE(r.error().message.empty());
        std::string spoilt = *whole;
        spoilt[n] = static_cast<char>(random());
        const auto q = readProject(spoilt); // either refused or, where it does not matter, read
        if (!q) CHECK(q.error().code == ErrorCode::unreadable);
    }
}

TEST_CASE("undoing and redoing every kind of change gives the same bytes") {
    NoProgress quiet;
    Document d = opened(demo("roller-bracket.dxf"));
    const std::vector<std::pair<std::string, std::function<void(Choices&)>>> changes{
        {"Layer off", [](Choices& c) { c.layers.on["CENTRE"] = false; }},
        {"Role of a layer", [](Choices& c) { c.layers.role["TEXT"] = LineRole::construction; }},
        {"Build", [](Choices& c) { c.steps = bracketSteps(); }},
        {"Change a number", [](Choices& c) { c.numbers["x1"].value = 125; }},
        {"Formula", [](Choices& c) { c.numbers["z2"].formula = "z1 * 2"; }},
        {"Hold", [](Choices& c) { c.numbers["z1"].held = true; }},
        {"Move a step", [](Choices& c) { std::swap(c.steps[5], c.steps[6]); }},
        {"Step off", [](Choices& c) { c.steps[4].off = true; }},
        {"Angle", [](Choices& c) { c.views.convention = Convention::third; }}};
    std::vector<std::string> states{toJson(d.choices()).dump()};
    std::vector<double> volumes{d.model().build.measure.volume};
    for (const auto& [label, edit] : changes) {
        Choices c = d.choices();
        edit(c);
        INFO(label);
        REQUIRE(d.apply(label, c, quiet));
        CHECK(d.undoLabel() == label);
        states.push_back(toJson(d.choices()).dump());
        volumes.push_back(d.model().build.measure.volume);
    }
    for (size_t i = changes.size(); i-- > 0;) {
        REQUIRE(d.undo(quiet));
        CHECK(toJson(d.choices()).dump() == states[i]);
        CHECK(d.model().build.measure.volume == volumes[i]);
    }
    CHECK_FALSE(d.canUndo());
    CHECK_FALSE(d.modified());
    for (size_t i = 0; i < changes.size(); ++i) {
        CHECK(d.redoLabel() == changes[i].first);
        REQUIRE(d.redo(quiet));
        CHECK(toJson(d.choices()).dump() == states[i + 1]);
        CHECK(d.model().build.measure.volume == volumes[i + 1]);
    }
    CHECK_FALSE(d.canRedo());
}

TEST_CASE("saved and opened again, the work is the same") {
    NoProgress quiet;
    Document d = opened(demo("roller-bracket.dxf"));
    Choices c = d.choices();
    c.steps = bracketSteps();
    c.numbers["x1"].value = 131;
    REQUIRE(d.apply("Build", c, quiet));
    CHECK(d.modified());
    const std::string path = temporary("bracket.uprism");
    REQUIRE(d.save(path));
    CHECK_FALSE(d.modified());
    const Document e = opened(path);
    CHECK(e.choices() == d.choices());
    CHECK(e.source() == bytesOf(demo("roller-bracket.dxf")));
    CHECK(e.sourceName() == "roller-bracket.dxf");
    CHECK(e.model().build.measure.volume == d.model().build.measure.volume);
    CHECK(e.model().proof->clean());
}

TEST_CASE("a save that cannot be done leaves the old file whole") {
    const std::string path = temporary("kept.txt");
    REQUIRE(writeAtomically(path, "first"));
    REQUIRE(writeAtomically(path, "second"));
    CHECK(bytesOf(path) == "second");
    CHECK_FALSE(writeAtomically(path + "/under-a-file", "third"));
    CHECK(bytesOf(path) == "second");
    for (const auto& f : std::filesystem::directory_iterator(std::filesystem::path(path).parent_path()))
        CHECK(f.path().string().find("kept.txt.part") == std::string::npos);
}

TEST_CASE("a refused change leaves choices and model untouched") {
    NoProgress quiet;
    Document d = opened(demo("roller-bracket.dxf"));
    const auto model = d.sharedModel();
    Choices c = d.choices();
    c.numbers["x1"].formula = "nonsense +";
    REQUIRE_FALSE(d.apply("Bad", c, quiet));
    CHECK(d.sharedModel() == model);
    CHECK(d.choices() == Choices{});
    CHECK_FALSE(d.canUndo());
}

TEST_CASE("stages that a change does not reach are taken over, not computed again") {
    NoProgress quiet;
    Document d = opened(demo("roller-bracket.dxf"));
    Choices c = d.choices();
    c.steps = bracketSteps();
    REQUIRE(d.apply("Build", c, quiet));
    const auto shape = d.model().build.shape;
    Choices same = d.choices();
    const auto m = computeModel(d.source(), same, d.sharedModel(), d.choices(), quiet);
    REQUIRE(m);
    CHECK((*m)->build.shape.IsSame(shape));
}

TEST_CASE("computing a sheet twice gives the same steps and numbers", "[slow]") {
    NoProgress quiet;
    for (const char* name : {"clean02", "fault03-shifted-feature"}) {
        const Document a = opened(sample(name).path), b = opened(sample(name).path);
        REQUIRE(a.model().findings.size() == b.model().findings.size());
        for (size_t i = 0; i < a.model().findings.size(); ++i)
            CHECK(a.model().findings[i].message == b.model().findings[i].message);
        CHECK(a.model().figure.drawn == b.model().figure.drawn);
        CHECK(a.model().areas.now.size() == b.model().areas.now.size());
        const auto p = proposeFor(a.model(), quiet), q = proposeFor(b.model(), quiet);
        REQUIRE(p);
        REQUIRE(q);
        REQUIRE_FALSE(p->steps.empty());
        CHECK(p->steps == q->steps);
        CHECK(p->build.measure.volume == q->build.measure.volume);
    }
}

TEST_CASE("where the sheet is silent, the angle in which there is a solid is taken, and the reason says so") {
    // Front view, and above it a view that shows the step's edge: from above in third angle.
    for (const bool above : {true, false}) {
        DxfText t;
        const double y = above ? 60 : -90;
        t.entities().line(0, 0, 80, 0).line(80, 0, 80, 12).line(80, 12, 50, 12).line(50, 12, 50, 30);
        t.line(50, 30, 0, 30).line(0, 30, 0, 0);
        t.box(0, y, 80, y + 40).line(50, y, 50, y + 40).circle(20, y + 20, 6);
        t.line(14, 12, 14, 30, "HIDDEN").line(26, 12, 26, 30, "HIDDEN").line(14, 12, 26, 12, "HIDDEN");
        const std::string path = temporary("silent.dxf");
        std::ofstream(path) << t.done();
        const Document d = opened(path);
        const ViewSet& set = d.model().views;
        CHECK(set.projection.convention == (above ? Convention::third : Convention::first));
        CHECK(set.projection.reason.find("only in") == 0);
        CHECK(set.projection.confidence == Approx(0.85));
        REQUIRE(set.withRole(Role::top));
        CHECK(set.withRole(Role::top)->box_sheet.lo.y == Approx(y));
    }
}
