#include "core/reporting/report.h"
#include "support/samples.h"

#include <sstream>

// Where things stand on the pages of a report, as they are read back from the written file, mm from the lower
// left corner of an A4 page.
using namespace prism;
using namespace prism::test;

namespace {

constexpr double kWidth = 210, kHeight = 297, kMargin = 15;

struct Page {
    std::vector<SheetText> texts;
    std::vector<Box2> lines;
    const SheetText& word(const std::string& s) const {
        const auto it = std::ranges::find(texts, s, &SheetText::content);
        INFO(s);
        REQUIRE(it != texts.end());
        return *it;
    }
};

Page pageOf(const Report& r, int number = 1) {
    const std::string path = temporary("pages.pdf");
    REQUIRE(writeReport(path, r));
    NoProgress quiet;
    ReadingChoices how;
    how.page = number;
    const auto d = Document::open(path, how, quiet, Stage::views);
    REQUIRE(d);
    Page p;
    p.texts = d->model().source->texts;
    for (const Entity& e : d->model().source->entities)
        for (const Curve& c : e.curves) p.lines.push_back(boxOf(c));
    return p;
}

/// A cross of two lines with a word in it, on a picture of its own.
ReportPicture picture() {
    ReportPicture p;
    p.size = {60, 40};
    p.strokes.push_back({{{0, 0}, {60, 40}}, Pen::outline});
    p.strokes.push_back({{{10, 5}, {10, 35}}, Pen::thin});
    p.words.push_back({{30, 8}, 3, 0, "middle", Pen::marked});
    return p;
}

Report report() {
    Report r;
    r.title = "Title", r.verdict = "Verdict";
    r.parts.push_back({"Heading",
                       {"Paragraph"},
                       picture(),
                       {{0.25, 0.35, 0.4}, {"A", "B", "C"}, {{"a", "b", "c"}, {"d", "e", "f"}}}});
    return r;
}

bool near(double a, double b, double by = 0.2) {
    return std::abs(a - b) < by;
}

} // namespace

TEST_CASE("everything of a report stands within the margins, one below the other and at its own size") {
    const Page p = pageOf(report());
    for (const SheetText& t : p.texts) {
        INFO(t.content << " at " << t.position.x << ", " << t.position.y);
        CHECK(t.position.x > kMargin - 1);
        CHECK(t.position.x < kWidth - kMargin);
        CHECK(t.position.y > kMargin - 1);
        CHECK(t.position.y < kHeight - kMargin + 1);
    }
    for (const Box2& b : p.lines) {
        CHECK(b.lo.x > kMargin - 0.2);
        CHECK(b.hi.x < kWidth - kMargin + 0.2);
    }
    const std::vector<std::string> order{"Title", "Verdict", "Heading", "Paragraph", "middle", "A", "a", "d"};
    for (size_t i = 1; i < order.size(); ++i) {
        const SheetText &above = p.word(order[i - 1]), &below = p.word(order[i]);
        INFO(order[i - 1] << " above " << order[i]);
        CHECK(above.position.y - below.position.y > 0.9 * below.height);
    }
    // Text begins at the left margin; 16 points are 5.6 mm, 9 points are 3.2 mm.
    for (const char* s : {"Title", "Verdict", "Heading", "Paragraph", "A", "a"})
        CHECK(near(p.word(s).position.x, kMargin, 1));
    CHECK(kHeight - kMargin - p.word("Title").position.y < 8);
    CHECK(p.word("Title").position.y - p.word("Paragraph").position.y < 45);
    // Columns share the width between the margins.
    for (const auto& [s, share] : {std::pair{"B", 0.25}, {"C", 0.6}, {"e", 0.25}, {"f", 0.6}})
        CHECK(near(p.word(s).position.x, kMargin + share * (kWidth - 2 * kMargin), 1));
    CHECK(near(p.word("e").position.y, p.word("d").position.y, 0.5));
}

TEST_CASE("a picture of a report has its size in millimetres, its words are where they belong") {
    const Page p = pageOf(report());
    const auto of = [&](double width, double height) {
        const auto it = std::ranges::find_if(
            p.lines, [&](const Box2& b) { return near(b.width(), width) && near(b.height(), height); });
        REQUIRE(it != p.lines.end());
        return *it;
    };
    const Box2 across = of(60, 40), upright = of(0, 30), rule = of(kWidth - 2 * kMargin, 0);
    CHECK(near(across.lo.x, kMargin));
    CHECK(near(upright.lo.x, across.lo.x + 10));
    CHECK(near(upright.lo.y, across.lo.y + 5));
    CHECK(rule.lo.y > across.hi.y);
    CHECK(rule.lo.y < p.word("Heading").position.y);
    CHECK(p.word("Paragraph").position.y > across.hi.y - 1);
    CHECK(p.word("A").position.y < across.lo.y + 1);
    CHECK(p.word("Paragraph").position.y - p.word("A").position.y < 40 + 15); // no hole between
    const SheetText& word = p.word("middle");
    CHECK(near(word.position.y, across.lo.y + 8, 2.5));
    // Half of it lies before its middle: six letters of 3 mm are 5 to 15 mm wide.
    CHECK(word.position.x < across.lo.x + 30 - 2.5);
    CHECK(word.position.x > across.lo.x + 30 - 7.5);
}

TEST_CASE("what does not fit goes on at the top of the next page, a heading with what follows it") {
    Report r;
    r.title = "Title", r.verdict = "Verdict";
    std::vector<std::string> lines;
    for (int i = 0; i < 58; ++i) lines.push_back(fmt::format("line {}", i));
    r.parts.push_back({"First", lines, {}, {}});
    r.parts.push_back({"Second", {"after"}, picture(), {}});
    const Page one = pageOf(r, 1), two = pageOf(r, 2);
    const auto holds = [](const Page& p, const std::string& s) {
        return std::ranges::find(p.texts, s, &SheetText::content) != p.texts.end();
    };
    for (const std::string& s : lines) {
        INFO(s);
        CHECK(holds(one, s) != holds(two, s));
    }
    CHECK(holds(one, "line 0"));
    CHECK(holds(two, "Second"));
    CHECK(holds(two, "after"));
    double lowest = kHeight, highest = 0;
    for (const SheetText& t : one.texts) lowest = std::min(lowest, t.position.y);
    for (const SheetText& t : two.texts) highest = std::max(highest, t.position.y);
    CHECK(lowest > kMargin - 1);
    CHECK(lowest < kMargin + 30); // the page is used
    CHECK(highest > kHeight - kMargin - 8);
}

TEST_CASE("rows of a table that wrap go on at the next page whole") {
    Report r;
    r.title = "Title", r.verdict = "Verdict";
    ReportTable t{{0.2, 0.8}, {"No.", "What"}, {}};
    for (int i = 0; i < 25; ++i) {
        std::string words;
        for (int k = 0; k < 40; ++k) words += fmt::format("w{}-{} ", i, k); // three lines or so
        t.rows.push_back({fmt::format("row {}", i), words});
    }
    r.parts.push_back({"Table", {}, {}, t});
    r.parts.push_back({"After", {}, picture(), {}}); // a page of words alone would be read as a scan
    std::map<std::string, int> page_of;              // by word
    for (int page : {1, 2}) {
        const Page read = pageOf(r, page);
        double below = kHeight;
        for (const SheetText& text : read.texts) {
            below = std::min(below, text.position.y);
            std::istringstream words(text.content);
            for (std::string w; words >> w;) page_of.emplace(w, page);
        }
        CHECK(below > kMargin - 1);
    }
    int second = 0;
    for (int i = 0; i < 25; ++i) {
        const auto first = page_of.find(fmt::format("w{}-0", i)),
                   last = page_of.find(fmt::format("w{}-39", i));
        INFO(i);
        REQUIRE(first != page_of.end());
        REQUIRE(last != page_of.end());
        CHECK(first->second == last->second);
        second += first->second == 2;
    }
    CHECK(second > 5);
}

TEST_CASE("the verdict of a report counts errors and warnings apart and leaves notes out") {
    NoProgress quiet;
    const Document d = opened(demo("hinge-block.dxf"));
    const Model& m = d.model();
    const Completeness sizes =
        completenessOf({*m.drawing, m.sheet, m.views, m.drawn, m.drawn_ledger}, {}, quiet);
    const auto said = [&](int errors, int warnings, int notes) {
        Diagnosis found;
        for (const auto& [severity, n] :
             {std::pair{Severity::error, errors}, {Severity::warning, warnings}, {Severity::note, notes}})
            for (int i = 0; i < n; ++i) {
                Finding f;
                f.kind = "size_mismatch", f.severity = severity, f.message = "something";
                found.findings.push_back(f);
            }
        return reportOf("a.dxf", m, found, sizes);
    };
    CHECK(said(2, 1, 3).verdict == "2 errors and 1 warning were found.");
    CHECK(said(1, 0, 0).verdict == "1 error and 0 warnings were found.");
    CHECK(said(0, 2, 5).verdict == "0 errors and 2 warnings were found.");
    CHECK(said(0, 0, 4).verdict.find("othing") != std::string::npos);
    CHECK_FALSE(said(1, 0, 0).sound);
    CHECK_FALSE(said(0, 1, 0).sound);
    CHECK(said(0, 0, 4).sound);
}

TEST_CASE("the picture of a sheet keeps its shape, and rings stand where findings are") {
    const Document d = opened(demo("hinge-block.dxf"));
    const Model& m = d.model();
    // Two places of the sheet: what lies between them on paper tells the scale.
    Box2 views;
    for (const View& v : m.views.views) views.add(v.box_sheet);
    Finding low, high;
    low.at_sheet = {views.lo}, high.at_sheet = {views.hi};
    const ReportPicture p = sheetPicture(m, {low, high}, 180, 120);
    CHECK(p.size.x == Approx(180));
    CHECK(p.size.y <= 120 + 1e-9);
    std::vector<Box2> rings;
    for (const auto& s : p.strokes)
        if (s.pen == Pen::marked) {
            Box2 b;
            for (Vec2 q : s.points) b.add(q);
            rings.push_back(b);
        }
    REQUIRE(rings.size() == 2);
    for (const Box2& b : rings) CHECK(b.width() == Approx(5.2).epsilon(0.01));
    const Vec2 apart = rings[1].centre() - rings[0].centre();
    CHECK(apart.x / views.width() == Approx(apart.y / views.height()).epsilon(1e-6));
    const double scale = apart.x / views.width();
    // A line of the sheet is as long as it is, at that scale.
    double longest = 0, drawn = 0;
    for (const View& v : m.views.views)
        longest = std::max(longest, std::max(v.box_sheet.width(), v.box_sheet.height()));
    for (const auto& s : p.strokes)
        if (s.pen == Pen::outline)
            for (Vec2 q : s.points) drawn = std::max(drawn, distance(q, s.points.front()));
    CHECK(drawn == Approx(scale * longest).epsilon(0.01));
    const auto number = [&](const std::string& s) {
        const auto it =
            std::ranges::find_if(p.words, [&](const auto& w) { return w.pen == Pen::marked && w.text == s; });
        REQUIRE(it != p.words.end());
        return it->middle;
    };
    CHECK(distance(number("1"), rings[0].centre()) < 6);
    CHECK(distance(number("2"), rings[1].centre()) < 6);
    CHECK(distance(number("1"), rings[0].centre()) > 2.6);
}
