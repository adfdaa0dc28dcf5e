#include "support/bracket.h"
#include "support/ran.h"
#include "support/samples.h"

#include "core/building/solid.h"
#include "core/delivering/step_file.h"

#include <filesystem>
#include <fstream>

using namespace prism;
using namespace prism::test;

namespace {

std::string fileWith(const std::string& name, const std::string& bytes) {
    const std::string path = temporary(name);
    std::ofstream(path, std::ios::binary) << bytes;
    return path;
}

} // namespace

TEST_CASE("all sheets go through read, views and check, in the forms that are promised", "[slow]") {
    for (const Sample& s : samples()) {
        INFO(s.name);
        const Ran read = run("read --json " + quoted(s.path)), views = run("views --json " + quoted(s.path)),
                  check = run("check --json " + quoted(s.path));
        CHECK(read.status == 0);
        CHECK(views.status == 0);
        CHECK((check.status == 0 || check.status == 1));
        const Json r = read.json(), v = views.json(), c = check.json();
        for (const char* key :
             {"format", "version", "unit", "layers", "counts", "not_read", "dimensions", "cleaning"})
            CHECK(r.contains(key));
        for (const char* key : {"declared", "used", "reason"}) CHECK(r["unit"].contains(key));
        for (const char* key : {"unit", "projection", "views", "left_out", "ties"}) CHECK(v.contains(key));
        for (const Json& x : v["views"])
            for (const char* key : {"id", "role", "name", "scale", "box_sheet", "size", "entities"})
                CHECK(x.contains(key));
        bool error = false;
        for (const Json& x : c["findings"]) {
            for (const char* key :
                 {"kind", "severity", "message", "views", "handles", "at_sheet", "numbers", "repair"})
                CHECK(x.contains(key));
            error = error || x["severity"] == "error";
        }
        CHECK(check.status == (error ? 1 : 0));
    }
}

TEST_CASE("build, set, proof and export do the whole job") {
    const std::string project = temporary("b.uprism"), step = temporary("b.step");
    const Ran build = run("build --json " + quoted(demo("roller-bracket.dxf")) + " --save " +
                          quoted(project) + " -o " + quoted(step));
    INFO(build.err);
    REQUIRE(build.status == 0);
    const Json j = build.json();
    for (const char* key : {"volume", "area", "box", "valid", "steps", "proof", "ledger", "proposal"})
        CHECK(j.contains(key));
    Bracket b;
    CHECK(j["volume"].get<double>() == Approx(b.volume()).epsilon(1e-8));
    CHECK(j["proof"]["missing"] == 0);
    CHECK(j["proof"]["extra"] == 0);
    const auto solid = readStep(step);
    REQUIRE(solid);
    CHECK(measured(*solid).volume == Approx(b.volume()).epsilon(1e-8));

    const std::string changed = temporary("c.uprism");
    const Ran set =
        run("set --json " + quoted(project) + " x1=125 radius1='dia1 + 6 mm' --save " + quoted(changed));
    INFO(set.err);
    REQUIRE(set.status == 0);
    b.length = 125, b.radius = 22;
    CHECK(set.json()["volume"].get<double>() == Approx(b.volume()).epsilon(1e-8));
    CHECK(set.json()["changed"].size() == 2);
    CHECK(set.json()["proof"]["missing"] == 0);

    const Ran proof = run("proof --json " + quoted(changed));
    CHECK(proof.status == 0);
    CHECK(proof.json()["proof"]["views"].size() == 3);
    const Ran exported = run("export " + quoted(changed) + " -o " + quoted(step));
    CHECK(exported.status == 0);
    CHECK(measured(*readStep(step)).volume == Approx(b.volume()).epsilon(1e-8));
}

TEST_CASE("numbers that cannot hold are refused with status 4, and nothing is written") {
    const std::string out = temporary("never.uprism");
    const Ran r = run("set " + quoted(demo("roller-bracket.dxf")) + " x1=-5 --save " + quoted(out));
    CHECK(r.status == 4);
    CHECK(r.err.find("x1") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(out));
    CHECK(run("set " + quoted(demo("roller-bracket.dxf")) + " nosuch=5").err.find("nosuch") !=
          std::string::npos);
}

TEST_CASE("unreadable files give status 3 and a message that says what and where") {
    const std::string whole = bytesOf(demo("roller-bracket.dxf"));
    std::string noise;
    for (int i = 0; i < 5000; ++i) noise += static_cast<char>((i * 7919 + i / 3) % 256);
    const std::pair<std::string, std::string> files[] = {
        {fileWith("empty.dxf", ""), "empty"},
        {fileWith("cut.dxf", whole.substr(0, whole.size() / 3)), "line"},
        {fileWith("binary.dxf", std::string("\x89PNG\r\n\x1a\n\0\0", 10)), "PNG"},
        {fileWith("noise.dxf", noise), ""},
        {fileWith("words.dxf", "once upon a time\nthere was a file\n"), "line 1"},
        {temporary("missing.dxf"), "No such file"},
        {"/tmp", "folder"}};
    for (const auto& [path, word] : files)
        for (const char* verb : {"read", "views", "check", "build"}) {
            INFO(verb << " " << path);
            const Ran r = run(std::string(verb) + " " + quoted(path));
            CHECK(r.status == 3);
            CHECK(r.out.empty());
            CHECK(r.err.find(word) != std::string::npos);
            CHECK(r.err.find(path) != std::string::npos);
        }
}

TEST_CASE("wrong usage gives status 2") {
    CHECK(run("").status == 2);
    CHECK(run("fold x.dxf").status == 2);
    CHECK(run("read").status == 2);
    CHECK(run("set " + quoted(demo("roller-bracket.dxf")) + " x1").status == 2);
    CHECK(run("export " + quoted(demo("roller-bracket.dxf")) + " -o /tmp/x.xyz").status == 2);
    CHECK(run("--help").status == 0);
}

TEST_CASE("a sheet with one view cannot be built and says why") {
    const std::string path = fileWith("one.dxf", DxfText().entities().box(0, 0, 80, 50).done());
    const Ran r = run("build " + quoted(path));
    CHECK(r.status == 4);
    CHECK(r.err.find("deep") != std::string::npos);
}

TEST_CASE("facts and begun lists go through the batch door, and what would settle a sheet is said",
          "[slow]") {
    const std::string list = temporary("list.json"), keep = demo("bolt-keep.dxf"),
                      saved = temporary("keep.uprism");
    const auto write = [&](const char* text) { std::ofstream(list) << text; };
    const double block = 120 * 80 * 30 - kPi * 49 * 30;
    write(
        R"({"facts": [{"kind": "extrude", "name": "near pocket", "operation": "cut", "view": "top", "areas": [[45, 20]],
              "from": {"mark": {"view": "front", "at": [45, 10]}}}]})");
    const auto told = run("build " + keep + " --steps " + list + " --json --save " + saved);
    CHECK(told.status == 0);
    CHECK(told.json().at("volume").get<double>() ==
          Approx(block - 50 * 20 * 20 - 50 * 28 * 10).epsilon(1e-9));
    CHECK_FALSE(told.json().contains("alternatives"));
    CHECK(run("build " + saved + " --json").json().at("volume").get<double>() ==
          Approx(told.json().at("volume").get<double>()));
    write(
        R"({"facts": [{"kind": "extrude", "name": "none", "view": "top", "areas": [[45, 20]], "reach": "through"}]})");
    const auto against = run("build " + keep + " --steps " + list + " --json");
    CHECK(against.status == 4);
    CHECK(against.err.find("without the fact \"none\" a solid would show every line") != std::string::npos);
    write(R"([{"kind": "extrude", "name": "block", "view": "front", "reach": "through",
               "areas": [[111.5, 4.5], [44.5, 8.2], [96, 4.1], [45, 15], [45, 25]]}])");
    const auto completed = run("build " + keep + " --steps " + list + " --complete --json");
    CHECK(completed.status == 0);
    CHECK(completed.json().at("added").get<int>() >= 3);
    CHECK(completed.json().at("steps").at(0).at("name") == "block");
    CHECK(completed.json().at("proof").at("missing") == 0);
    const auto misdrawn = run("build " PRISM_TEST_DATA "/sheets/fault05-mirrored-side.dxf --json");
    CHECK(misdrawn.status == 4);
    CHECK(misdrawn.json().at("would_fit").at("repair") == "mirror_view");
    CHECK(misdrawn.err.find("one repair would leave the sheet a solid") != std::string::npos);
}

TEST_CASE("the same file gives the same bytes on every run") {
    for (const char* verb : {"read", "views", "check", "build"}) {
        const std::string words = std::string(verb) + " --json " + quoted(demo("roller-bracket.dxf"));
        CHECK(run(words).out == run(words).out);
    }
}

TEST_CASE("a preset kept from one sheet is used on another, and a wrong file is told") {
    const std::string preset = temporary("office.reading.json");
    const Ran kept =
        run("read --json --keep-preset " + quoted(preset) + " " + quoted(demo("roller-bracket.dxf")));
    CHECK(kept.status == 0);
    const Json p = Json::parse(bytesOf(preset));
    CHECK(p["sheet_layers"].size() == kept.json()["layers"].size());
    const Ran used = run("read --json --preset " + quoted(preset) + " " + quoted(demo("weight-pulley.dxf")));
    CHECK(used.status == 0);
    CHECK(run("read --preset " + quoted(demo("roller-bracket.dxf")) + " " + quoted(demo("weight-pulley.dxf")))
              .status == 3);
}

TEST_CASE("a revised sheet is re-read under the choices of a project, and the differences are listed") {
    const std::string project = temporary("bracket.uprism"), next = temporary("next.uprism");
    REQUIRE(run("build " + quoted(demo("roller-bracket.dxf")) + " --save " + quoted(project)).status == 0);
    const Ran r = run("reread --json " + quoted(project) + " " + quoted(demo("roller-bracket-revised.dxf")) +
                      " --save " + quoted(next));
    REQUIRE(r.status == 0);
    CHECK(r.json()["lines"].size() > 0);
    CHECK(r.json().contains("misfits"));
    CHECK(run("read " + quoted(next)).status == 0);
    CHECK(run("reread " + quoted(project) + " /nowhere.dxf").status == 3);
}

TEST_CASE("a layout is read by its name, and a wrong name is answered with the right ones") {
    CHECK(run("read --layout Model " + quoted(demo("roller-bracket.dxf"))).status == 0);
    const Ran wrong = run("read --layout Nowhere " + quoted(demo("roller-bracket.dxf")));
    CHECK(wrong.status == 2);
    CHECK(wrong.err.find("Model") != std::string::npos);
}

TEST_CASE("every entity is printed on demand, with what repairs made of it") {
    const Ran r = run("read --json --entities " + quoted(fileWith("gap.dxf", DxfText()
                                                                                 .entities()
                                                                                 .line(0, 0, 49.8, 0)
                                                                                 .line(50, 0, 50, 40)
                                                                                 .line(50, 40, 0, 40)
                                                                                 .line(0, 40, 0, 0)
                                                                                 .done())));
    const Json e = r.json()["entities"];
    REQUIRE(e.size() == 4);
    CHECK(e[0]["curves"][0]["b"][0] == 49.8);
    CHECK(e[0]["repaired"][0]["b"][0].get<double>() == Approx(50));
    CHECK_FALSE(e[1].contains("repaired"));
}

TEST_CASE("a hidden line drawn visible is told where all other lines agree on a solid, and no sound sheet is "
          "blamed") {
    for (const Sample& s : samples()) {
        const bool planted = s.fault() == "hidden_as_visible";
        if (!planted && s.name != "clean01" && s.name != "clean02" && s.name != "clean08" &&
            s.name != "clean12")
            continue;
        INFO(s.name);
        int told = 0;
        const Json report = run("check --json " + quoted(s.path)).json();
        for (const Json& f : report["findings"]) told += f["kind"] == "line_visibility_suspect";
        CHECK(told == (planted ? 1 : 0));
    }
}

TEST_CASE("A scan goes through the batch door with its known lengths", "[cli][scan][slow]") {
    const std::string scan = std::string(PRISM_DEMO) + "/roller-bracket-scan.png";
    // The border is 420 by 297 mm; its corners lie at these pixels.
    const std::string lengths =
        " --length 110.56,1899.43,2590.23,1842.59=420 --length 110.56,1899.43,70.77,128.41=297";
    const Ran r = run("read " + scan + lengths + " --json");
    REQUIRE(r.status == 0);
    const Json j = Json::parse(r.out);
    CHECK(j["format"] == "PNG");
    CHECK(j["unit"]["used"] == "mm");
    REQUIRE(j["pictures"].size() == 1);
    const Json& p = j["pictures"][0];
    CHECK(p["stretch"].get<double>() == Approx(1 / 1.01).epsilon(5e-4));
    CHECK(p["corrected"] == true);
    CHECK(p["askew_degrees"][0].get<double>() == Approx(1.313).margin(0.01));
    CHECK(p["lengths"][0]["said"] == 420.0);
    CHECK(p["lengths"][0]["found"].get<double>() == Approx(420).margin(0.1));

    const Ran v = run("views " + scan + lengths + " --json");
    REQUIRE(v.status == 0);
    std::map<std::string, std::vector<double>> size;
    const Json views = v.json()["views"];
    for (const Json& view : views) size[view["role"]] = view["size"].get<std::vector<double>>();
    // As the part was drawn: 120 by 60 by 82 mm. Nothing that can be read in the scan tells the angle, so the
    // view above may be taken for either.
    const std::string above = size.contains("top") ? "top" : "bottom";
    CHECK(size.at("front").at(0) == Approx(120).margin(0.1));
    CHECK(size.at("front").at(1) == Approx(82).margin(0.1));
    CHECK(size.at(above).at(0) == Approx(120).margin(0.1));
    CHECK(size.at(above).at(1) == Approx(60).margin(0.1));

    // Cut out and called by their names, the views tell the angle.
    const Ran named =
        run("views " + scan + lengths + " --cut front=330,850,1420,1680 --cut top=330,230,1420,830 --json");
    REQUIRE(named.status == 0);
    CHECK(named.json()["projection"]["convention"] == "third");
    CHECK(named.json()["views"].size() == 2);

    const Ran bare = run("read " + scan + " --no-trace --json");
    REQUIRE(bare.status == 0);
    CHECK(Json::parse(bare.out)["layers"][0]["entities"] == 0);
}

TEST_CASE("Lengths and cuts that make no sense are wrong usage", "[cli][scan]") {
    const std::string scan = std::string(PRISM_DEMO) + "/roller-bracket-scan.png";
    for (const char* bad :
         {" --length 1,2,3=40", " --length 1,2,3,4=", " --length 1,2,3,4=-7", " --length 5,5,5,5=10",
          " --cut =1,2,3,4", " --cut front=1,2,3", " --cut front"}) {
        const Ran r = run("read " + scan + bad);
        CHECK(r.status == 2);
        CHECK_FALSE(r.err.empty());
    }
    CHECK(run("read " + quoted(demo("roller-bracket.dxf")) + " --length 1,2,30,4=5").status == 2);
}

TEST_CASE("views tells where sections, auxiliary views and details stand in space") {
    const Ran r = run("views --json " + quoted(demo("worm-housing-cover.dxf")));
    REQUIRE(r.status == 0);
    const Json j = r.json();
    CHECK(j["part"] == 1);
    REQUIRE(j["parts"].size() == 1);
    CHECK(j["parts"][0]["views"] == 5);
    std::map<std::string, Json> by_role;
    for (const Json& v : j["views"]) by_role[v["role"]] = v;
    CHECK(by_role["front"]["stands"].is_null());
    CHECK(by_role["front"]["in_figure"] == true);
    const auto at = [](const Json& v, double x, double y, int k) {
        return v["stands"]["origin"][k].get<double>() + x * v["stands"]["right"][k].get<double>() +
               y * v["stands"]["up"][k].get<double>();
    };
    // The section is cut at X = 30 and looked at to the left; its lower left corner is that of the part.
    const Json& section = by_role["section"];
    CHECK(section["in_figure"] == false);
    CHECK(section["stands"]["by"] == "cutting_plane");
    CHECK(section["stands"]["look"] == Json::array({-1.0, 0.0, 0.0}));
    const double x0 = section["box_sheet"][0], y0 = section["box_sheet"][1];
    CHECK(at(section, x0, y0, 0) == Approx(30));
    CHECK(at(section, x0, y0, 1) == Approx(0).margin(1e-9));
    CHECK(at(section, x0 + 50, y0 + 60, 1) == Approx(50));
    CHECK(at(section, x0 + 50, y0 + 60, 2) == Approx(60));
    CHECK(section["stands"]["matched"] == section["stands"]["levels"]);
    // The detail is four times as large as what it shows, and lies over it.
    const Json& detail = by_role["detail"];
    CHECK(detail["scale"] == 4.0);
    CHECK(at(detail, detail["box_sheet"][0], detail["box_sheet"][1], 0) == Approx(73));
    CHECK(at(detail, detail["box_sheet"][2], detail["box_sheet"][1], 0) == Approx(89));
    // The auxiliary view is square to the slope, whose normal is (0.6, 0, 0.8).
    const Json& look = by_role["auxiliary"]["stands"]["look"];
    CHECK(look[0].get<double>() == Approx(-0.6));
    CHECK(look[2].get<double>() == Approx(-0.8));
    CHECK(by_role["auxiliary"]["size"][0].get<double>() == Approx(50)); // up the slope
    CHECK(by_role["auxiliary"]["size"][1].get<double>() == Approx(50)); // deep
    CHECK(by_role["auxiliary"]["stands"]["residual"].get<double>() < 1e-6);
}

TEST_CASE("of several parts on one sheet one is worked on at a time") {
    DxfText t;
    t.entities();
    t.box(0, 0, 80, 30).box(0, 60, 80, 110);
    t.box(200, 7, 260, 52).box(200, 80, 260, 140);
    const std::string file = quoted(fileWith("two-parts.dxf", t.done()));
    const Json first = run("views --json " + file).json(),
               second = run("views --json --part 2 " + file).json();
    CHECK(first["parts"].size() == 2);
    CHECK(first["part"] == 1);
    CHECK(second["part"] == 2);
    CHECK(first["views"].size() == 2);
    CHECK(second["views"][0]["size"][0] == 60.0);
    const Ran none = run("views --part 3 " + file);
    CHECK(none.status == 2);
    CHECK(none.err.find("2 parts") != std::string::npos);
    // Each is built by itself.
    CHECK(run("build --json --part 2 " + file).json()["box"][3].get<double>() == Approx(60));
}

TEST_CASE("check tells what is open, adds the dimensions that are lacking, and writes a report") {
    const std::string sheet = quoted(PRISM_TEST_DATA "/sheets/clean01.dxf");
    const Json before = run("check --json " + sheet).json()["completeness"];
    REQUIRE(before["open"].size() > 4);
    for (const Json& o : before["open"])
        for (const char* key : {"what", "view", "at_mm", "value_mm", "round", "at_sheet"})
            CHECK(o.contains(key));
    const std::string project = temporary("complete.uprism"), page = temporary("check.html"),
                      pdf = temporary("check.pdf");
    const Ran added =
        run("check --json " + sheet + " --add-dimensions chain --datum low,high,middle --save " +
            quoted(project) + " --report " + quoted(page));
    INFO(added.err);
    REQUIRE(added.status == 0);
    CHECK(added.json()["completeness"]["open"].empty());
    CHECK(std::filesystem::file_size(page) > 2000);
    const Ran again = run("check --json " + quoted(project) + " --report " + quoted(pdf));
    CHECK(again.json()["completeness"]["open"].empty());
    CHECK(std::filesystem::file_size(pdf) > 2000);
    const Ran said = run("check " + sheet);
    CHECK(said.out.find("open: the diameter of the circle in the front view; 8.5 mm") != std::string::npos);
    for (const char* wrong :
         {" --add-dimensions tidy", " --datum left", " --datum low,high", " --report x.txt"})
        CHECK(run("check " + sheet + wrong).status == 2);
}
