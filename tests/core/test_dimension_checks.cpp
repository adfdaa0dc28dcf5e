#include "core/checking/open_sizes.h"
#include "support/samples.h"

#include <fmt/format.h>
#include <fstream>

using namespace prism;
using namespace prism::test;

// What texts of dimensions say against each other and against the drawing, in numbers; and where the
// dimensions count from that close a sheet.

namespace {

NoProgress g_quiet;

Document from(const DxfText& t) {
    const std::string path = temporary("dimension-checks.dxf");
    std::ofstream(path) << t.done();
    return opened(path);
}

std::vector<Finding> findings(const Document& d, const std::string& kind) {
    std::vector<Finding> r;
    for (const Finding& f : d.model().findings)
        if (f.kind == kind) r.push_back(f);
    return r;
}

/// Front and top view of a block of 80 x 50 x 40 with a step at X 30, 20 high; texts of the step, of what is
/// beyond it and of the whole width.
DxfText stepped(const std::string& first, const std::string& second, const std::string& whole) {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").entities().text(0, -60, "THIRD ANGLE");
    t.line(0, 0, 80, 0).line(80, 0, 80, 40).line(80, 40, 30, 40).line(30, 40, 30, 20);
    t.line(30, 20, 0, 20).line(0, 20, 0, 0);
    t.box(0, 70, 80, 120).line(30, 70, 30, 120);
    t.dimension(0, 20, 30, 40, 0, 48, 0, first).dimension(30, 40, 80, 40, 0, 48, 0, second);
    return t.dimension(0, 0, 80, 0, 0, -12, 0, whole);
}

/// A plate with a circle of diameter 30 and a corner rounded by 12, and what is written at both.
Document rounds(const std::string& across, const std::string& radius) {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").entities().text(0, -60, "THIRD ANGLE");
    t.line(0, 0, 100, 0).line(100, 0, 100, 48).arc(88, 48, 12, 0, 90).line(88, 60, 0, 60).line(0, 60, 0, 0);
    t.circle(40, 30, 15);
    t.box(0, 90, 100, 110);
    for (const double x : {25.0, 55.0}) t.line(x, 90, x, 110, "HIDDEN");
    t.line(88, 90, 88, 110, "HIDDEN");
    t.dimension(0, 0, 100, 0, 0, -12, 0)
        .dimension(0, 90, 0, 110, -12, 90, 90)
        .dimension(0, 0, 0, 60, -12, 0, 90);
    t.group(0, "DIMENSION").group(8, "OUTLINE").group(70, 3).group(1, across);
    t.group(10, 25).group(20, 30).group(15, 55).group(25, 30);
    t.group(0, "DIMENSION").group(8, "OUTLINE").group(70, 4).group(1, radius);
    t.group(10, 88).group(20, 48).group(15, 88 + 12 * std::sqrt(0.5)).group(25, 48 + 12 * std::sqrt(0.5));
    return from(t);
}

} // namespace

TEST_CASE("texts of a chain are added up, and the one that fits the drawing worst is told") {
    struct Case {
        std::string first, second, whole;
        double said, drawn, total, sum;
    };
    // Total: what the longest says. Sum: of all others.
    for (const Case& c : {Case{"30", "50", "85", 85, 80, 85, 80},
                          {"33", "50", "80", 33, 30, 80, 83},
                          {"30", "44", "80", 44, 50, 80, 74},
                          {"31", "54", "80", 54, 50, 80, 85}}) {
        CAPTURE(c.first, c.second, c.whole);
        const auto found = findings(from(stepped(c.first, c.second, c.whole)), "dimension_chain_open");
        REQUIRE(found.size() == 1);
        const Finding& f = found[0];
        CHECK(f.severity == Severity::error);
        CHECK(f.handles.size() == 3);
        CHECK(f.at_sheet.size() == 3);
        for (const auto& [name, wanted] : {std::pair{"said", c.said},
                                           {"drawn", c.drawn},
                                           {"total", c.total},
                                           {"sum", c.sum},
                                           {"difference", std::abs(c.said - c.drawn)}}) {
            CAPTURE(name);
            CHECK(f.numbers.at(name) == Approx(wanted));
        }
        REQUIRE(f.remedies.size() == 2);
        CHECK(f.remedies[0].kind == "believe_drawing");
        CHECK(f.remedies[0].reason == "with the size that is drawn the chain adds up");
        CHECK(f.remedies[1].kind == "believe_text");
        REQUIRE(f.remedies[1].change.numbers.size() == 1);
        CHECK(f.remedies[1].change.numbers.begin()->second.value == c.said);
    }
    // What rounding of each explains is no difference: 30.04 + 50.04 are 80.
    CHECK(findings(from(stepped("30.04", "50.04", "80.1")), "dimension_chain_open").empty());
}

TEST_CASE("two texts for one size are told with what is drawn, and the one that fits it is believed") {
    const auto twice = [](const std::string& below, const std::string& above) {
        DxfText t;
        t.layer("OUTLINE").entities().text(0, -60, "THIRD ANGLE").box(0, 0, 80, 30).box(0, 70, 80, 120);
        t.dimension(0, 70, 0, 120, -12, 70, 90).dimension(0, 0, 0, 30, -12, 0, 90); // tell the scale
        t.dimension(0, 0, 80, 0, 0, -12, 0, below);
        return from(t.dimension(0, 120, 80, 120, 0, 130, 0, above));
    };
    for (const bool swapped : {false, true}) {
        const auto d = swapped ? twice("83", "80") : twice("80", "83");
        const auto found = findings(d, "dimensions_disagree");
        REQUIRE(found.size() == 1);
        const Finding& f = found[0];
        CHECK(f.numbers.at("first") == Approx(80));
        CHECK(f.numbers.at("second") == Approx(83));
        CHECK(f.numbers.at("drawn") == Approx(80));
        CHECK(f.numbers.at("difference") == Approx(3));
        CHECK(f.handles.size() == 2);
        CHECK(f.views.size() == 2);
        REQUIRE(f.remedies.size() == 2);
        CHECK(f.remedies[0].kind == "believe_drawing");
        CHECK(f.remedies[0].reason.ends_with("and the drawing agree"));
        CHECK(findings(d, "dimension_text_differs").empty()); // told once
    }
    // Neither fits: the one that is farther off is held to be wrong, and what is written comes first.
    const auto neither = findings(twice("81", "86"), "dimensions_disagree");
    REQUIRE(neither.size() == 1);
    CHECK(neither[0].numbers.at("first") == Approx(81));
    CHECK(neither[0].numbers.at("second") == Approx(86));
    CHECK(findings(twice("80", "80.4"), "dimensions_disagree").empty()); // 80 is rounded by half of one
    CHECK(findings(twice("80.0", "80.4"), "dimensions_disagree").size() == 1);
}

TEST_CASE("the sign of a diameter at a radius, or the reverse, is told unless the size fits so") {
    CHECK(rounds("%%c30", "R12").model().findings.empty());
    const auto across = findings(rounds("R22", "R12"), "dimension_sign_suspect");
    REQUIRE(across.size() == 1);
    CHECK(across[0].numbers.at("said") == Approx(44));
    CHECK(across[0].numbers.at("drawn") == Approx(30));
    CHECK(across[0].numbers.at("diameter") == Approx(30));
    CHECK(across[0].message.find("but a diameter of 30 mm is drawn") != std::string::npos);
    const auto radius = findings(rounds("%%c30", "%%c16"), "dimension_sign_suspect");
    REQUIRE(radius.size() == 1);
    CHECK(radius[0].numbers.at("said") == Approx(16));
    CHECK(radius[0].numbers.at("drawn") == Approx(12));
    CHECK(radius[0].numbers.at("diameter") == Approx(24));
    CHECK(radius[0].message.find("but a radius of 12 mm is drawn") != std::string::npos);
    // R15 at a circle of 30 and a diameter of 24 at a round of 12 say the same in another way.
    CHECK(findings(rounds("R15", "%%c24"), "dimension_sign_suspect").empty());
    CHECK(findings(rounds("R15", "%%c24"), "dimension_text_differs").empty());
    const auto same_number = findings(rounds("R30", "R12"), "dimension_sign_suspect");
    REQUIRE(same_number.size() == 1);
    REQUIRE_FALSE(same_number[0].remedies.empty());
    CHECK(same_number[0].remedies[0].reason == "the number is that of the drawing");
}

TEST_CASE("a text that differs is believed before the drawing, unless other views have what is drawn") {
    // The circle's walls stand in the view beside; with them taken away nothing else shows its size.
    for (const bool walls : {true, false}) {
        DxfText t;
        t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").entities().text(0, -60, "THIRD ANGLE");
        t.box(0, 0, 100, 60).circle(40, 30, 15).box(0, 90, 100, 110);
        if (walls)
            for (const double x : {25.0, 55.0}) t.line(x, 90, x, 110, "HIDDEN");
        t.dimension(0, 0, 100, 0, 0, -12, 0).dimension(0, 90, 0, 110, -12, 90, 90);
        t.dimension(0, 0, 0, 60, -12, 0, 90).dimension(0, 0, 40, 30, 0, -20, 0, "43"); // another one is wrong
        t.group(0, "DIMENSION").group(8, "OUTLINE").group(70, 3).group(1, "%%c34");
        t.group(10, 25).group(20, 30).group(15, 55).group(25, 30);
        const auto found = findings(from(t), "dimension_text_differs");
        const auto circle =
            std::ranges::find_if(found, [](const Finding& f) { return f.numbers.at("said") == 34; });
        REQUIRE(circle != found.end());
        CHECK(circle->numbers.at("drawn") == Approx(30));
        REQUIRE(circle->remedies.size() == 2);
        CHECK(circle->remedies[0].kind == (walls ? "believe_drawing" : "believe_text"));
        CHECK(circle->remedies[0].reason == (walls ? "other views have the size that is drawn"
                                                   : "what is written holds before what is drawn"));
    }
}

TEST_CASE("a text is held against the drawing as finely as the sheet's own texts are written") {
    const auto width = [](const std::string& whole) {
        DxfText t;
        t.layer("OUTLINE").entities().text(0, -60, "THIRD ANGLE").box(0, 0, 80, 30).box(0, 70, 80, 120);
        t.dimension(0, 70, 0, 120, -12, 70, 90); // a sheet of one text would be drawn in its scale
        return findings(from(t.dimension(0, 0, 80, 0, 0, -12, 0, whole)), "dimension_text_differs");
    };
    CHECK(width("80.04").size() == 1);
    CHECK(width("80.0").empty());
    CHECK(width("80.1").size() == 1);
    CHECK(width("80.1")[0].numbers.at("difference") == Approx(0.1));
    CHECK(width("79").size() == 1);
    CHECK(width("79")[0].numbers.at("said") == Approx(79));
    CHECK(width("79")[0].numbers.at("drawn") == Approx(80));
    CHECK(width("80,0").empty()); // a comma as people write it
    CHECK(width("80,2").size() == 1);
}

TEST_CASE("a dimension that closes a size counts from where its number is likeliest") {
    // The first of two holes is dimensioned. From the left end a number with one digit after the point is
    // good enough; before one with two, a whole number from the other hole wins, but none with digits of its
    // own.
    struct Case {
        double first, at, value;
        const char* from;
    };
    for (const Case& c : {Case{37.5, 62.5, 62.5, "the left end"},
                          {37.37, 67.5, 67.5, "the left end"},
                          {38, 63, 63, "the left end"},
                          {37.37, 62.37, 25, "the centre at 37.37"},
                          {37.37, 72.12, 72.12, "the left end"},
                          {37.125, 62.375, 62.375, "the left end"}}) {
        CAPTURE(c.at);
        DxfText t;
        t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").entities().text(0, -60, "THIRD ANGLE PROJECTION");
        t.box(0, 0, 120, 20).box(0, 50, 120, 120).circle(c.first, 85, 5).circle(c.at, 85, 8);
        for (const auto& [x, r] : {std::pair{c.first, 5.0}, {c.at, 8.0}})
            for (const double side : {-r, r}) t.line(x + side, 0, x + side, 20, "HIDDEN");
        t.dimension(0, 50, 120, 50, 0, 40, 0).dimension(0, 50, c.first, 85, 0, 44, 0);
        const Document d = from(t);
        const Model& m = d.model();
        const Completeness all =
            completenessOf({*m.drawing, m.sheet, m.views, m.drawn, m.drawn_ledger}, {}, g_quiet);
        const auto hole =
            std::ranges::find_if(all.open, [](const OpenSize& o) { return !o.radius && o.axis == Axis::x; });
        REQUIRE(hole != all.open.end());
        CHECK(hole->at == Approx(c.at));
        CHECK(hole->value == Approx(c.value));
        CHECK(hole->from == c.from);
        CHECK(hole->round == (std::abs(hole->value * 10 - std::round(hole->value * 10)) < 1e-6));
    }
}

TEST_CASE("the diameter of a circle of holes drives nothing, at whatever scale the sheet is drawn") {
    for (const double scale : {1.0, 0.5, 2.0}) {
        CAPTURE(scale);
        // A flange of 160 with a bore of 40 and a circle of holes of 110, and the plate seen from the side.
        const auto on = [&](double mm) { return scale * mm; };
        const auto said = [](double mm) { return fmt::format("{:g}", mm); };
        DxfText t;
        t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").layer("CENTER", "CENTER").entities();
        t.text(0, -on(80) - 60, "THIRD ANGLE");
        t.circle(0, 0, on(80)).circle(0, 0, on(20)).circle(0, 0, on(55), "CENTER");
        const double x = on(80) + 60;
        t.box(x, -on(80), x + on(24), on(80));
        for (const double side : {-on(20), on(20)}) t.line(x, side, x + on(24), side, "HIDDEN");
        t.dimension(x, on(80), x + on(24), on(80), 0, on(80) + 15, 0, said(24));
        t.dimension(x, -on(80), x, on(80), x - 15, 0, 90, said(160));
        const auto across = [&](double mm) {
            t.group(0, "DIMENSION").group(8, "OUTLINE").group(70, 3).group(1, "%%c" + said(mm));
            t.group(10, -on(mm / 2)).group(20, 0.0).group(15, on(mm / 2)).group(25, 0.0);
        };
        across(40), across(110);
        const Document d = from(t);
        const auto loose = findings(d, "dimension_loose");
        REQUIRE(loose.size() == 1);
        CHECK(loose[0].severity == Severity::note);
        CHECK(loose[0].message.find("measures a centre line: it drives nothing") != std::string::npos);
    }
}
