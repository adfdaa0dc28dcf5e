#include "support/bracket.h"
#include "support/ran.h"
#include "support/samples.h"

#include <filesystem>
#include <fmt/format.h>
#include <fstream>

using namespace prism;
using namespace prism::test;

namespace {

std::string copied(const std::string& from, const std::string& name) {
    const std::string path = temporary(name);
    std::filesystem::copy_file(from, path, std::filesystem::copy_options::overwrite_existing);
    return path;
}

} // namespace

TEST_CASE("nothing is written over what is read, and no two outputs to one place") {
    const std::string sheet = copied(demo("roller-bracket.dxf"), "own.dxf"), before = bytesOf(sheet);
    const std::string link = temporary("link.dxf");
    std::filesystem::create_symlink(sheet, link);
    for (const std::string& words :
         {"build " + sheet + " --save " + sheet, "read " + sheet + " --keep-preset " + sheet,
          "build " + sheet + " -o " + sheet, "build " + sheet + " --save " + link,
          "build " + sheet + " --save /tmp/./" +
              std::filesystem::path(sheet).lexically_relative("/tmp").string()}) {
        INFO(words);
        CHECK(run(words).status == 2);
        CHECK(bytesOf(sheet) == before);
    }
    const std::string both = temporary("both.step");
    CHECK(run("build " + sheet + " -o " + both + " --save " + both).status == 2);
    CHECK_FALSE(std::filesystem::exists(both));
    const std::string note = temporary("note.uprism");
    std::ofstream(note) << "not a project";
    CHECK(run("build " + sheet + " --save " + note).status == 4);
    CHECK(bytesOf(note) == "not a project");
}

TEST_CASE("set refuses what is no number, no arithmetic or no part any more, and writes nothing") {
    const std::string project = temporary("set.uprism");
    REQUIRE(run("build " + demo("roller-bracket.dxf") + " --save " + project).status == 0);
    const std::string saved = bytesOf(project);
    for (const char* change :
         {"x1=nan", "x1=inf", "x1=x2=5", "x1=1,2,3", "x1=", "=5", "nobody=5", "x1=1e999"}) {
        INFO(change);
        const Ran r = run("set " + project + " " + quoted(change) + " --save " + project);
        CHECK(r.status == 2);
        CHECK_FALSE(r.err.empty());
    }
    for (const char* change : {"x1=1e-320", "x1=0.0001"}) {
        INFO(change);
        CHECK(run("set " + project + " " + quoted(change) + " --save " + project).status == 4);
    }
    std::string endless = "x1=";
    endless.append(400, '9');
    CHECK(run("set " + project + " " + test::quoted(endless) + " --save " + project).status != 0);
    CHECK(bytesOf(project) == saved);
    const Ran good = run("set --json " + project + " " + quoted("x1=130 mm") + " --save " + project);
    CHECK(good.status == 0);
    CHECK(run("proof " + project).status == 0);
}

TEST_CASE("a bare number counts in the sheet's unit, a unit may be written") {
    std::optional<Sample> sheet;
    for (const Sample& s : samples())
        if (s.clean() && s.truth["drawing_units"] == "inch" && s.name != "clean04" && s.name != "clean05" &&
            s.name != "clean10" && s.name != "clean13")
            sheet = s;
    REQUIRE(sheet);
    INFO(sheet->name);
    const Json before = run("build --json " + sheet->path).json();
    std::string name;
    double value = 0;
    for (const Json& e : before["ledger"])
        if (e["state"] == "drives" && e["unit"] == "mm" && name.empty())
            name = e["name"], value = e["value"].get<double>();
    REQUIRE_FALSE(name.empty());
    const double wanted = value * 1.02;
    auto valueOf = [&](const Json& j) {
        for (const Json& e : j["ledger"])
            if (e["name"] == name) return e["value"].get<double>();
        return 0.0;
    };
    const Ran bare =
        run("set --json " + sheet->path + " " + quoted(fmt::format("{}={}", name, wanted / 25.4)));
    const Ran said = run("set --json " + sheet->path + " " + quoted(fmt::format("{}={} mm", name, wanted)));
    CHECK(valueOf(bare.json()) == Approx(wanted).epsilon(1e-9));
    CHECK(valueOf(said.json()) == Approx(wanted).epsilon(1e-9));
}

TEST_CASE("a proposal that does not explain the sheet is printed, not called done, and not written unless "
          "asked for") {
    const Sample s = sample("fault05-mirrored-side"); // no solid looks like that
    const std::string step = temporary("unproved.step");
    const Ran r = run("build --json " + s.path + " -o " + step);
    CHECK(r.status == 4);
    const Json j = r.json();
    CHECK(j["proposal"]["clean"] == false);
    CHECK(j["proof"]["missing"].get<int>() + j["proof"]["extra"].get<int>() > 0);
    CHECK(r.err.find("does not explain the sheet") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(step));
    CHECK(run("export " + s.path + " -o " + step).status == 4);
    CHECK_FALSE(std::filesystem::exists(step));
    run("build " + s.path + " --unproved -o " + step);
    CHECK(std::filesystem::exists(step));
}

TEST_CASE("build and proof say which views were compared") {
    const Json j = run("build --json " + demo("roller-bracket.dxf")).json();
    CHECK(j["proof"]["compared"] == 3);
    CHECK(j["proof"]["views_total"] == 3);
    CHECK(j["proof"]["proved"] == true);
    CHECK(j["proof"]["not_compared"].empty());
    CHECK_FALSE(j.contains("alternatives")); // one solid only shows this sheet
}

TEST_CASE("arrays beyond reason, packed drawings and wide texts are read or told") {
    DxfText t;
    t.block("B", 0, 0).line(0, 0, 1, 0).endBlock().entities().box(0, 0, 50, 50);
    std::string dxf = t.done();
    const size_t end =
        dxf.rfind("  0\nENDSEC") != std::string::npos ? dxf.rfind("  0\nENDSEC") : dxf.rfind("0\nENDSEC");
    REQUIRE(end != std::string::npos);
    dxf.insert(end, "0\nINSERT\n5\nFFF0\n8\nOUTLINE\n2\nB\n10\n0\n20\n0\n70\n5000\n71\n1\n44\n2\n45\n2\n");
    const std::string path = temporary("array.dxf");
    std::ofstream(path) << dxf;
    const Json read = run("read --json " + path).json();
    bool told = false;
    for (const Json& n : read["not_read"])
        told = told || n["reason"].get<std::string>().find("5000") != std::string::npos;
    CHECK(told);
    const std::string svg = copied(demo("roller-bracket-page.svg"), "page.svg");
    REQUIRE(std::system(("gzip -kf " + svg).c_str()) == 0);
    const Json plain = run("read --json --entities " + svg).json(),
               packed = run("read --json --entities " + svg + ".gz").json();
    CHECK(packed["entities"] == plain["entities"]);
    const std::string wide = temporary("wide.dxf");
    const std::string sheet = bytesOf(demo("roller-bracket.dxf"));
    std::string utf16 = "\xFF\xFE";
    for (const char c : sheet) utf16 += c, utf16 += '\0';
    std::ofstream(wide, std::ios::binary) << utf16;
    CHECK(run("read --json " + wide).json()["counts"] ==
          run("read --json " + demo("roller-bracket.dxf")).json()["counts"]);
}

TEST_CASE("one stray line far away leaves the views what they are") {
    std::string dxf = bytesOf(demo("roller-bracket.dxf"));
    const size_t end = dxf.rfind("ENDSEC", dxf.find("OBJECTS") == std::string::npos ? std::string::npos
                                                                                    : dxf.find("OBJECTS"));
    const size_t line = dxf.rfind("0\n", end - 1);
    const size_t at = dxf.rfind('\n', line) + 1;
    dxf.insert(at, "  0\nLINE\n  5\nFFF1\n  8\n0\n 10\n1000000\n 20\n1000000\n 11\n1000050\n 21\n1000000\n");
    const std::string path = temporary("stray.dxf");
    std::ofstream(path) << dxf;
    const Json plain = run("views --json " + demo("roller-bracket.dxf")).json(),
               stray = run("views --json " + path).json();
    REQUIRE(stray["views"].size() == plain["views"].size());
    for (size_t i = 0; i < plain["views"].size(); ++i) {
        CHECK(stray["views"][i]["role"] == plain["views"][i]["role"]);
        CHECK(stray["views"][i]["size"] == plain["views"][i]["size"]);
    }
}

TEST_CASE("a part is built from nothing by the steps that the batch door suggests") {
    const Sample sheet = sample("clean10");
    const std::string steps = temporary("suggested.json");
    Json list = Json::array();
    const auto suggested = [&] {
        std::ofstream(steps) << list.dump();
        const Ran r = run("build --json --suggest " + sheet.path + (list.empty() ? "" : " --steps " + steps));
        REQUIRE(r.status == 0);
        return r.json();
    };
    Json j = suggested();
    CHECK(j["volume"] == 0);
    int missing = std::numeric_limits<int>::max();
    while (!j["suggested"]["step"].is_null() && list.size() < 20) {
        CHECK(j["suggested"]["sure"] == true);
        list.push_back(j["suggested"]["step"]);
        const int then = j["suggested"]["missing"];
        j = suggested();
        CHECK(j["proof"]["missing"] == then); // as was said before it was made
        CHECK(then <= missing);
        missing = then;
    }
    CHECK(missing == 0);
    CHECK(j["suggested"]["reason"] == "the solid is what the views show");
    CHECK(j["volume"].get<double>() == Approx(sheet.truth["volume"].get<double>()).epsilon(1e-6));
    const std::string step = temporary("nothing.step");
    CHECK(run("build --suggest " + sheet.path + " -o " + step).status == 2); // no list, so no solid
    CHECK_FALSE(std::filesystem::exists(step));
}
