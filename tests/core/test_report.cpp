#include "core/project/propose_for.h"
#include "core/reporting/report.h"
#include "support/samples.h"

#include <BRepPrimAPI_MakeBox.hxx>
#include <fstream>
#include <sstream>

// What was found, decided and proved, as pages for people without the program.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress g_quiet;

Report reported(const Document& d) {
    const Model& m = d.model();
    const auto found = diagnose(d.source(), d.choices(), d.sharedModel(), g_quiet);
    REQUIRE(found);
    return reportOf(d.sourceName(), m, *found,
                    completenessOf({*m.drawing, m.sheet, m.views, m.drawn, m.drawn_ledger}, {}, g_quiet));
}

const ReportPart& part(const Report& r, const std::string& heading) {
    const auto it = std::ranges::find(r.parts, heading, &ReportPart::heading);
    INFO(heading);
    REQUIRE(it != r.parts.end());
    return *it;
}

size_t count(const std::string& in, const std::string& what) {
    size_t n = 0;
    for (size_t at = in.find(what); at != std::string::npos; at = in.find(what, at + 1)) ++n;
    return n;
}

/// Words of a page as the program's own reader finds them.
std::string wordsOn(const std::string& path) {
    std::string r;
    const Document d = opened(path);
    for (const SheetText& t : d.model().source->texts) r += t.content + " ";
    return r;
}

} // namespace

TEST_CASE("a report of a sheet with slips lists and numbers each, where it is and what mends it") {
    const Document d = opened(PRISM_DEMO "/bearing-pedestal-slips.dxf");
    const Report r = reported(d);
    CHECK_FALSE(r.sound);
    CHECK(r.verdict == "4 errors and 3 warnings were found.");
    const ReportTable& t = part(r, "Findings").table;
    REQUIRE(t.rows.size() == 8);
    double shares = 0;
    for (double s : t.shares) shares += s;
    CHECK(shares == Approx(1));
    for (const auto& row : t.rows) CHECK(row.size() == t.heads.size());
    CHECK(t.rows[1][3].find("R24") != std::string::npos);
    CHECK(t.rows[1][4].find("Believe the drawing") == 0);
    // Every number stands on the picture, the pens are those of the lines, and nothing leaves the paper.
    REQUIRE(part(r, "The sheet").picture);
    const ReportPicture& p = *part(r, "The sheet").picture;
    for (int i = 1; i <= 8; ++i)
        CHECK(std::ranges::any_of(
            p.words, [&](const auto& w) { return w.pen == Pen::marked && w.text == std::to_string(i); }));
    std::map<Pen, int> strokes;
    for (const auto& s : p.strokes) {
        ++strokes[s.pen];
        for (Vec2 at : s.points)
            CHECK((at.x >= 0 && at.y >= 0 && at.x <= p.size.x + 1e-9 && at.y <= p.size.y + 1e-9));
    }
    CHECK(strokes[Pen::outline] > 15);
    CHECK(strokes[Pen::hidden] > 5);
    CHECK(strokes[Pen::thin] > 30);
    CHECK(part(r, "Numbers").table.rows.size() == d.model().ledger.entries.size());
    CHECK(part(r, "Decisions").table.rows.size() > 4);
    CHECK(part(r, "Remaining doubts").paragraphs.size() >= 2); // given twice

    const std::string html = htmlOf(r);
    CHECK(html.find("<!DOCTYPE html>") == 0);
    CHECK(count(html, "<tr>") == count(html, "</tr>"));
    CHECK(count(html, "<path ") == p.strokes.size());
    CHECK(count(html, "class=\"marked\" font-size") >= 8);
    CHECK(html.find("http") == std::string::npos); // nothing from elsewhere
}

TEST_CASE("a sound sheet's report is one page, as PDF too, and reads as it was written") {
    const Document d = opened(PRISM_DEMO "/hinge-block.dxf");
    const Report r = reported(d);
    CHECK(r.sound);
    CHECK(r.verdict.find("Nothing is wrong") == 0);
    CHECK(std::ranges::none_of(r.parts, [](const ReportPart& p) { return p.heading == "Findings"; }));
    const std::string path = temporary("report.pdf");
    REQUIRE(writeReport(path, r));
    std::ifstream in(path, std::ios::binary);
    std::stringstream bytes;
    bytes << in.rdbuf();
    CHECK(bytes.str().starts_with("%PDF-"));
    CHECK(count(bytes.str(), "/Type /Page\n") + count(bytes.str(), "/Type /Page ") == 1);
    const std::string words = wordsOn(path);
    INFO(words);
    CHECK(words.find("Nothing is wrong: views and dimensions agree") != std::string::npos);
    CHECK(words.find("third angle") != std::string::npos);
    for (const LedgerEntry& e : d.model().ledger.entries) CHECK(words.find(e.name) != std::string::npos);
}

TEST_CASE("a sound sheet's report is one page with its solid, too, which stands beside the sheet") {
    Document d = opened(PRISM_DEMO "/stay-bracket.dxf");
    const double alone = part(reported(d), "The sheet").picture->size.x;
    const auto p = proposeFor(d.model(), g_quiet);
    REQUIRE(p);
    Choices c = d.choices();
    c.steps = p->steps;
    REQUIRE(d.apply("Build", c, g_quiet));
    const Report r = reported(d);
    const ReportPicture& both = *part(r, "The sheet and its solid").picture;
    CHECK(both.size.x == Approx(alone));
    int beside = 0; // lines right of the sheet
    for (const auto& s : both.strokes) {
        const bool solid = s.points.front().x > both.size.x - 52;
        beside += solid;
        for (Vec2 at : s.points) {
            CHECK(at.x > 0);
            CHECK(at.x < both.size.x);
            CHECK(at.y > 0);
            CHECK(at.y < both.size.y);
            CHECK((at.x > both.size.x - 52) == solid);
        }
    }
    CHECK(beside > 15);
    const std::string path = temporary("with-solid.pdf");
    REQUIRE(writeReport(path, r));
    std::ifstream in(path, std::ios::binary);
    std::stringstream bytes;
    bytes << in.rdbuf();
    CHECK(count(bytes.str(), "/Type /Page\n") + count(bytes.str(), "/Type /Page ") == 1);
}

TEST_CASE("a report shows the solid as it is, isometric") {
    // A block of 60 x 40 x 25: three faces are seen, with nine edges; across the paper they run at 30
    // degrees.
    Model m = opened(PRISM_DEMO "/stay-bracket.dxf").model();
    CHECK_FALSE(solidPicture(m, 180, 42)); // nothing is built yet
    const TopoDS_Shape box = BRepPrimAPI_MakeBox(60.0, 40.0, 25.0).Shape();
    m.build.shape = box, m.build.measure = measured(box);
    const auto p = solidPicture(m, 180, 42);
    REQUIRE(p);
    CHECK(p->size.y == Approx(42));
    const auto drawn = std::ranges::count(p->strokes, Pen::outline, &ReportPicture::Stroke::pen);
    CHECK(drawn == 9);
    std::map<double, double> longest; // by direction, degrees
    for (const auto& s : p->strokes) {
        const Vec2 along = s.points.back() - s.points.front();
        double angle = std::round(std::atan2(along.y, along.x) * 180 / kPi);
        if (angle <= -90) angle += 180;
        if (angle > 90) angle -= 180;
        longest[angle] = std::max(longest[angle], length(along));
    }
    REQUIRE(longest.size() == 3);
    CHECK(longest.at(-30) / longest.at(30) == Approx(60 / 40.0)); // X comes nearer, Y goes away
    CHECK(longest.at(90) / longest.at(30) == Approx(25 / 40.0));
}

TEST_CASE("what is written into a page cannot break it, and other endings are refused") {
    Report r;
    r.title = "a <b> & \"c\".dxf", r.verdict = "1 < 2";
    r.parts.push_back({"Words", {"x > y & z"}, {}, {}});
    const std::string html = htmlOf(r);
    CHECK(html.find("a &lt;b&gt; &amp; &quot;c&quot;.dxf") != std::string::npos);
    CHECK(html.find("x &gt; y &amp; z") != std::string::npos);
    CHECK(html.find("<b>") == std::string::npos);
    // The page counts downwards: a word 8 above the lower edge of a picture of 40 is 32 below the upper one.
    ReportPicture picture;
    picture.size = {60, 40};
    picture.words.push_back({{30, 8}, 3, 0, "here", Pen::marked});
    Report drawn;
    drawn.parts.push_back({"Picture", {}, picture, {}});
    CHECK(htmlOf(drawn).find("translate(30.000 32.000)") != std::string::npos);
    const auto refused = writeReport(temporary("report.txt"), r);
    REQUIRE_FALSE(refused);
    CHECK(refused.error().code == ErrorCode::usage);
    // A table longer than a page goes on on the next one, and long words do not hang the line breaks.
    ReportTable t{{0.5, 0.5}, {"A", "B"}, {}};
    for (int i = 0; i < 120; ++i) t.rows.push_back({std::string(200, 'w'), "some words in a row that wrap"});
    r.parts.push_back({"Table", {}, {}, t});
    const auto pdf = pdfOf(r);
    REQUIRE(pdf);
    CHECK(count(*pdf, "/Type /Page\n") + count(*pdf, "/Type /Page ") > 2);
    // Two parts of a sheet: both are there, each under its number.
    const Report both = joined({r, r});
    CHECK(both.parts.size() == 2 * r.parts.size());
    CHECK(both.parts.front().heading == "Part 1: Words");
    CHECK(both.verdict == "Part 1: 1 < 2 Part 2: 1 < 2");
    CHECK(joined({r}).parts.front().heading == "Words");
}
