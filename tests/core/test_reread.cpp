#include "support/bracket.h"
#include "support/samples.h"

#include "core/project/carry_over.h"
#include "core/project/project_file.h"
#include "core/project/reading_preset.h"

#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <sstream>

using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

std::string plate(double holeX, const std::string& width = "80", bool slot = false) {
    DxfText t;
    t.layer("PART").layer("SIZES").entities();
    t.box(0, 0, 80, 50, "PART").circle(holeX, 25, 6, "PART");
    if (slot) t.box(50, 20, 60, 30, "PART");
    t.dimension(0, 0, 80, 0, 0, -15, 0, width);
    return t.done();
}

std::string written(const std::string& name, const std::string& text) {
    const std::string path = temporary(name);
    std::ofstream(path) << text;
    return path;
}

/// A DXF with every handle exchanged for another, as when another program has written it again.
std::string renamedHandles(const std::string& text) {
    std::istringstream in(text);
    std::string out, code, value;
    while (std::getline(in, code) && std::getline(in, value))
        out += code + "\n" + (std::stoi(code) == 5 ? "F" + value : value) + "\n";
    return out;
}

int count(const SheetDifference& d, LineChange::Kind kind) {
    return static_cast<int>(
        std::count_if(d.lines.begin(), d.lines.end(), [&](const LineChange& c) { return c.kind == kind; }));
}

} // namespace

TEST_CASE("a sheet compared with itself has no difference") {
    const Drawing d = drawn(plate(30));
    const SheetDifference r = compareSheets(d, d);
    CHECK(r.none());
    for (const Entity& e : d.entities) CHECK(r.after_of[e.id] == e.id);
}

TEST_CASE("moved, added and removed lines and a changed dimension are told apart") {
    const Drawing before = drawn(plate(30)), after = drawn(plate(33, "82", true));
    const SheetDifference r = compareSheets(before, after);
    CHECK(count(r, LineChange::Kind::moved) == 1);
    CHECK(count(r, LineChange::Kind::added) == 4);
    CHECK(count(r, LineChange::Kind::removed) == 0);
    const auto moved = std::find_if(r.lines.begin(), r.lines.end(),
                                    [](const LineChange& c) { return c.kind == LineChange::Kind::moved; });
    CHECK(moved->by == Approx(3));
    REQUIRE(r.dimensions.size() == 1);
    CHECK(r.dimensions[0].text_before == "80");
    CHECK(r.dimensions[0].text_after == "82");
    const SheetDifference back = compareSheets(after, before);
    CHECK(count(back, LineChange::Kind::removed) == 4);
}

TEST_CASE("lines keep their partners when a program hands out all names anew") {
    Drawing before = drawn(plate(30)), after = before;
    std::reverse(after.entities.begin(), after.entities.end());
    for (size_t i = 0; i < after.entities.size(); ++i) {
        after.entities[i].id = static_cast<int>(i);
        after.entities[i].handle = fmt::format("F{}", i);
    }
    const SheetDifference r = compareSheets(before, after);
    CHECK(r.none());
    CHECK(r.after_of[0] == static_cast<int>(after.entities.size()) - 1);
}

TEST_CASE("a re-read carries the built bracket over to a revised sheet, as one step that can be undone") {
    Document d = opened(demo("roller-bracket.dxf"));
    Choices c = d.choices();
    c.steps = bracketSteps();
    c.layers.role["NOTES"] = LineRole::note;
    REQUIRE(d.apply("Role", c, quiet));
    const double volume = d.model().build.measure.volume;
    const std::string first = d.source();

    const auto r = d.reread(written("again.dxf", renamedHandles(first)), quiet);
    REQUIRE(r);
    CHECK(r->difference.none());
    CHECK(r->misfits.empty());
    CHECK(d.model().build.measure.volume == Approx(volume).epsilon(1e-9));
    CHECK(d.model().proof->clean());
    CHECK(d.choices().layers.role.at("NOTES") == LineRole::note);
    REQUIRE(d.undo(quiet));
    CHECK(d.source() == first);
    REQUIRE(d.redo(quiet));
    CHECK(d.model().build.measure.volume == Approx(volume).epsilon(1e-9));
}

TEST_CASE("edges and faces that were picked in the box go along with a revised sheet") {
    const auto sheet = [](double width) {
        DxfText t;
        t.entities().box(0, 0, width, 20).box(0, 60, width, 110);
        return t.text(140, 0, "THIRD ANGLE PROJECTION").done();
    };
    Document d = opened(written("block.dxf", sheet(80)));
    Choices c = d.choices();
    c.steps = readBuildList(R"([{"kind": "extrude", "view": "front", "areas": [[40, 10]]},
        {"kind": "fillet", "radius": 4, "edges": {"picks": [{"place": [80, 0, 10]}]}},
        {"kind": "thicken", "thickness": 3, "faces": [[80, 25, 10]]}])")
                  ->steps;
    const auto volume = [](double width) {
        return width * 50 * 20 - (1 - kPi / 4) * 16 * 20 + 3 * (50 - 4) * 20;
    };
    REQUIRE(d.apply("Build", c, quiet));
    REQUIRE(d.model().build.measure.volume == Approx(volume(80)).epsilon(1e-9));
    const auto r = d.reread(written("longer.dxf", sheet(90)), quiet);
    REQUIRE(r);
    CHECK(r->misfits.empty());
    for (const StepReport& s : d.model().build.steps) CHECK(s.ok);
    CHECK(d.model().build.measure.volume == Approx(volume(90)).epsilon(1e-9));
    CHECK(d.choices().steps[1].edges.picks[0].place->x == Approx(90));
}

TEST_CASE("what no longer fits after a re-read is told, and the rest goes on") {
    Document d = opened(written("plate.dxf", plate(30, "", true)));
    Choices c = d.choices();
    c.numbers[d.model().ledger.entries.at(0).name].value = 90;
    c.views.moved["NOPE"] = "";
    REQUIRE(d.apply("Numbers", c, quiet));
    DxfText bare;
    bare.layer("PART").layer("SIZES").entities().box(0, 0, 80, 50, "PART");
    const auto r = d.reread(written("bare.dxf", bare.done()), quiet);
    REQUIRE(r);
    CHECK(r->misfits.size() == 2);
    CHECK(d.choices().numbers.empty());
    CHECK(r->difference.dimensions.size() == 1);
}

TEST_CASE("a file that cannot be read leaves the document as it was") {
    Document d = opened(written("plate.dxf", plate(30)));
    const std::string before = d.source();
    CHECK_FALSE(d.reread(written("broken.dxf", "0\nSECTION\n"), quiet));
    CHECK_FALSE(d.reread("/nowhere/at/all.dxf", quiet));
    CHECK(d.source() == before);
    CHECK_FALSE(d.canUndo());
}

TEST_CASE("a preset gives a second sheet of the same office its choices, and survives its file") {
    Document d = opened(written("plate.dxf", plate(30)));
    Choices c = d.choices();
    c.layers.on["SIZES"] = false;
    c.layers.role["PART"] = LineRole::outline;
    c.repairs.gap = 0.8;
    c.repairs.kinds["straightened"] = false;
    c.views.unit = "cm";
    REQUIRE(d.apply("Choices", c, quiet));
    const ReadingPreset p = presetOf("Point drawing office", d.model(), d.choices());
    const auto back = presetFromText(presetText(p));
    REQUIRE(back);
    CHECK(*back == p);

    const Document other = opened(written("other.dxf", plate(40)));
    CHECK(likeness(p, *other.model().source) == 1);
    const Choices n = withPreset(other.choices(), *back);
    CHECK_FALSE(n.layers.on.at("SIZES"));
    CHECK(n.repairs.gap == 0.8);
    CHECK_FALSE(n.repairs.kinds.at("straightened"));
    CHECK(n.views.unit == "cm");
}

TEST_CASE("the shelf offers the preset whose layers fit, and tells of files it cannot read") {
    const std::string folder = temporary("shelf");
    const PresetShelf shelf(folder);
    CHECK(shelf.all().empty());
    ReadingPreset a, b;
    a.name = "Point / office";
    for (const Layer& l : drawn(plate(30)).layers) a.layers.push_back(l.name);
    b.name = "Yard", b.layers = {"0", "HULL", "RIB"};
    REQUIRE(shelf.keep(a));
    REQUIRE(shelf.keep(b));
    CHECK(shelf.all().size() == 2);
    REQUIRE(shelf.best(drawn(plate(30))));
    CHECK(shelf.best(drawn(plate(30)))->name == a.name);
    Drawing stranger;
    stranger.layers = {{"ELSE"}, {"0"}};
    CHECK_FALSE(shelf.best(stranger));
    std::ofstream(folder + "/torn.reading.json") << "{";
    std::vector<std::string> troubles;
    CHECK(shelf.all(&troubles).size() == 2);
    CHECK(troubles.size() == 1);
    REQUIRE(shelf.remove(a.name));
    CHECK(shelf.all().size() == 1);
    CHECK_FALSE(shelf.remove(a.name));
    std::filesystem::remove_all(folder);
}

TEST_CASE("what was said of views goes along with a revised sheet: names, fold lines, hung views, and ties "
          "with their lines") {
    const auto cover = [](double shift) {
        DxfText t;
        t.entities();
        t.box(0, 0, 80, 30)
            .box(0 + shift, 60, 80 + shift, 110)
            .line(20 + shift, 60, 20 + shift, 110)
            .line(20, 0, 20, 30);
        t.box(150, 0, 200, 30).text(175, -8, "A-A").text(36, -8, "FRONT VIEW").text(36, 115, "TOP VIEW");
        return t.done();
    };
    Document d = opened(written("cover.dxf", cover(0)));
    const ViewSet& set = d.model().views;
    const auto key = [&](Role r) {
        for (const View& v : d.model().views.views)
            if (v.role == r) return v.key;
        return std::string();
    };
    Choices c = d.choices();
    const std::string front = key(Role::front), top = key(Role::top), section = key(Role::section);
    REQUIRE_FALSE(section.empty());
    CHECK_FALSE(set.withKey(section)->hanging); // no cutting plane is drawn
    c.views.ties.push_back({Axis::x, {front, {{20, 0}}}, {top, {{20, 60}}}, 1});
    c.views.hung[section] = {front, {80, 0}, {80, 30}, false};
    c.views.names[section] = "SECTION AT THE END";
    c.views.fold_gap[top] = 11;
    c.views.locked.insert(top);
    std::string line;
    for (const Entity& e : d.model().drawing->entities)
        if (d.model().views.view_of_entity[e.id] == d.model().views.withRole(Role::top)->id) line = keyOf(e);
    c.views.made.insert("made-1");
    c.views.moved[line] = "made-1";
    REQUIRE(d.apply("said", c, quiet));
    REQUIRE(d.model().views.withKey(section)->hanging);
    CHECK(d.model().views.withKey(section)->hanging->from.x == Approx(80));
    const auto r = d.reread(written("cover-b.dxf", cover(3)), quiet);
    REQUIRE(r);
    CHECK(r->misfits.empty());
    const ViewChoices& now = d.choices().views;
    REQUIRE(now.ties.size() == 1);
    CHECK(now.ties[0].a.places[0] == Vec2{20, 0});
    CHECK(now.ties[0].b.places[0] == Vec2{23, 60}); // its line went
    CHECK(now.hung.size() == 1);
    CHECK(now.names.begin()->second == "SECTION AT THE END");
    CHECK(now.fold_gap.begin()->second == 11);
    CHECK(now.locked.size() == 1);
    CHECK(now.moved.begin()->second == "made-1");
    CHECK(d.model().views.withKey("made-1"));
    CHECK(d.model().views.hand_ties[0].residual == Approx(0).margin(1e-9));
}

TEST_CASE("formulas, roles, governing views and zeros go along with a sheet whose names are all new") {
    DxfText t;
    t.entities().box(0, 0, 80, 30).line(20, 0, 20, 30).box(0, 60, 80, 110).line(20, 60, 20, 110);
    t.dimension(0, 0, 80, 0, 0, -12, 0)
        .dimension(0, 0, 20, 0, 0, -20, 0)
        .dimension(0, 60, 0, 110, -10, 0, 90);
    t.text(0, -60, "THIRD ANGLE PROJECTION");
    Document d = opened(written("names.dxf", t.done()));
    const auto key = [&](Role r) { return d.model().views.withRole(r)->key; };
    Choices c = d.choices();
    c.numbers["x1"].formula = "x2 * 5 - 10 mm";
    c.numbers["x2"].value = 22;
    c.views.roles[key(Role::top)] = Role::top;
    c.views.used[Role::top] = key(Role::top);
    c.views.governing[Axis::x] = key(Role::front);
    c.views.zero[Axis::x] = {key(Role::top), {{20, 60}}};
    REQUIRE(d.apply("said", c, quiet));
    // The same sheet by another program, with a dimension more in front of the others.
    DxfText u;
    u.entities().dimension(0, 0, 0, 30, -20, 0, 90);
    u.box(0, 0, 80, 30).line(20, 0, 20, 30).box(0, 60, 80, 110).line(20, 60, 20, 110);
    u.dimension(0, 0, 20, 0, 0, -20, 0)
        .dimension(0, 0, 80, 0, 0, -12, 0)
        .dimension(0, 60, 0, 110, -10, 0, 90);
    u.text(0, -60, "THIRD ANGLE PROJECTION");
    const auto r = d.reread(written("renamed.dxf", renamedHandles(u.done())), quiet);
    REQUIRE(r);
    CHECK(r->misfits.empty());
    const Choices& now = d.choices();
    // x1 and x2 have changed places.
    CHECK(now.numbers.at("x2").formula == "x1 * 5 - 10 mm");
    CHECK(now.numbers.at("x1").value == 22);
    CHECK(d.model().ledger.named("x2")->value == Approx(100));
    CHECK(now.views.roles.at(key(Role::top)) == Role::top);
    CHECK(now.views.used.at(Role::top) == key(Role::top));
    CHECK(now.views.governing.at(Axis::x) == key(Role::front));
    CHECK(now.views.zero.at(Axis::x).view == key(Role::top));
    CHECK(now.views.zero.at(Axis::x).places.at(0) == Vec2{20, 60});
    // A sheet without the top view: what was said of it is told to be gone.
    DxfText bare;
    bare.entities().box(0, 0, 80, 30).line(20, 0, 20, 30).dimension(0, 0, 80, 0, 0, -12, 0);
    const auto less = d.reread(written("less.dxf", bare.done()), quiet);
    REQUIRE(less);
    CHECK(d.choices().views.roles.empty());
    CHECK(d.choices().views.used.empty());
    CHECK(d.choices().views.zero.empty());
    CHECK(less->misfits.size() >= 2);
    CHECK(d.choices().numbers.empty()); // a formula over a number that is gone cannot be kept
}
