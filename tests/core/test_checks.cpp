#include "support/samples.h"

#include <fstream>

using namespace prism;
using namespace prism::test;

namespace {

std::vector<const Finding*> findings(const Model& m, const std::string& kind) {
    std::vector<const Finding*> r;
    for (const Finding& f : m.findings)
        if (f.kind == kind) r.push_back(&f);
    return r;
}

bool names(const std::vector<const Finding*>& found, const std::string& handle) {
    return std::any_of(found.begin(), found.end(), [&](const Finding* f) {
        return std::find(f->handles.begin(), f->handles.end(), handle) != f->handles.end();
    });
}

Document sheet(const std::string& dxf) {
    const std::string path = temporary("checked.dxf");
    std::ofstream(path) << dxf;
    return opened(path);
}

/// Front and top view of a plate; the top view's length and the dimension's text can be wrong.
std::string plate(double topLength, const std::string& text = "") {
    DxfText t;
    t.entities().box(0, 0, 80, 20).box(0, 60, topLength, 110).text(0, -40, "THIRD ANGLE");
    return t.dimension(0, 0, 80, 0, 0, -10, 0, text).dimension(0, 60, 0, 110, -10, 60, 90).done();
}

} // namespace

TEST_CASE("agreeing views and texts give no finding") {
    CHECK(sheet(plate(80)).model().findings.empty());
}

TEST_CASE("a wider top view is told with the difference in millimetres") {
    const Document d = sheet(plate(80.4));
    const auto f = findings(d.model(), "size_mismatch");
    REQUIRE(f.size() == 1);
    CHECK(f[0]->severity == Severity::error);
    CHECK(f[0]->numbers.at("difference") == Approx(0.4));
    CHECK(f[0]->message.find("0.40 mm") != std::string::npos);
    CHECK(f[0]->views.size() == 2);
}

TEST_CASE("a text that says something else than is drawn is told with both") {
    const Document d = sheet(plate(80, "85"));
    const auto f = findings(d.model(), "dimension_text_differs");
    REQUIRE(f.size() == 1);
    CHECK(f[0]->numbers.at("said") == 85);
    CHECK(f[0]->numbers.at("drawn") == Approx(80));
    CHECK(f[0]->handles.size() == 1);
}

TEST_CASE("a text that differs alone is the likelier to be wrong, unless what is drawn is no size one would "
          "write") {
    const auto first = [](double width, const char* text, const char* height) {
        DxfText t;
        t.entities()
            .box(0, 0, width, 20)
            .box(0, 60, width, 110)
            .box(130, 0, 180, 20)
            .text(0, -40, "THIRD ANGLE");
        t.dimension(0, 0, 0, 20, -10, 0, 90, height).dimension(130, 0, 180, 0, 130, -10, 0);
        t.dimension(130, 0, 130, 20, 120, 0, 90).dimension(0, 60, 0, 110, -10, 60, 90);
        // Along a line that no other view shows, so that only the texts speak.
        t.line(30, 5, 30 + width / 4, 5).dimension(30, 5, 30 + width / 4, 5, 0, 12, 0, text);
        const Document d = sheet(t.done());
        for (const Finding* f : findings(d.model(), "dimension_text_differs"))
            if (f->numbers.at("drawn") == Approx(width / 4)) return f->remedies.front().kind;
        return std::string();
    };
    CHECK(first(80, "23", "") == "believe_drawing");
    CHECK(first(80, "23", "27") == "believe_text");   // the drawing is not to scale elsewhere either
    CHECK(first(83.777, "23", "") == "believe_text"); // nobody would have drawn 20.944
}

TEST_CASE("the remedy of a corner that stands open is where its lines meet when prolonged, else half way") {
    const auto closedAt = [](Vec2 first, Vec2 second) {
        DxfText t;
        t.entities().line(0, 0, first.x, first.y).line(second.x, second.y, 50, 40);
        t.line(50, 40, 0, 40).line(0, 40, 0, 0);
        const Document d = sheet(t.done());
        for (const Finding& f : d.model().findings)
            for (const Remedy& r : f.remedies)
                if (r.kind == "close_gap") {
                    REQUIRE(r.change.lines.size() == 2);
                    const Vec2 to = endOf(r.change.lines[0].curves.front());
                    CHECK(distance(startOf(r.change.lines[1].curves.front()), to) < 1e-9);
                    return to;
                }
        FAIL("nothing closes it");
        return Vec2{};
    };
    CHECK(distance(closedAt({48.5, 0}, {50, 1}), {50, 0}) < 1e-9);
    CHECK(distance(closedAt({48.5, 0}, {50, 0}), {50, 0}) < 1e-9);
}

TEST_CASE("rounding of a text is not a difference") {
    DxfText t;
    t.entities().box(0, 0, 33.333333, 20).dimension(0, 0, 33.333333, 0, 0, -10, 0, "33.3");
    CHECK(findings(sheet(t.done()).model(), "dimension_text_differs").empty());
}

TEST_CASE("a text without places is rounded as finely as the sheet's own measurements are") {
    const auto told = [](double other) {
        DxfText t;
        t.entities().box(0, 0, 33.4, other).dimension(0, 0, 33.4, 0, 0, -10, 0, "33");
        t.dimension(0, 0, 0, other, -10, 0, 90);
        return findings(sheet(t.done()).model(), "dimension_text_differs").size();
    };
    CHECK(told(20) == 0);   // whole numbers all over
    CHECK(told(20.5) == 1); // measured to a tenth: 33.4 would be written so
}

TEST_CASE("a count that is not that of the circles drawn is told, where nothing else explains it") {
    const auto told = [](int holes, const std::vector<std::string>& texts) {
        DxfText t;
        t.entities().box(0, 0, 80, 20).box(0, 60, 80, 110).text(0, -40, "THIRD ANGLE");
        for (int i = 0; i < holes; ++i) t.circle(10 + 15 * i, 85, 4);
        for (size_t k = 0; k < texts.size(); ++k) {
            const double x = 10 + 15 * static_cast<double>(k);
            t.group(0, "DIMENSION").group(8, "OUTLINE").group(70, "3").group(1, texts[k]);
            t.group(10, x - 4).group(20, 85).group(15, x + 4).group(25, 85).group(11, x).group(21, 95);
        }
        const Document d = sheet(t.done());
        std::vector<std::pair<double, double>> r;
        for (const Finding* f : findings(d.model(), "count_differs")) {
            CHECK(f->remedies.size() == 1);
            r.emplace_back(f->numbers.at("said"), f->numbers.at("drawn"));
        }
        return r;
    };
    using Told = std::vector<std::pair<double, double>>;
    CHECK(told(4, {"4x \u00d88"}).empty());
    CHECK(told(3, {"4x \u00d88"}) == Told{{4, 3}});
    CHECK(told(5, {"4x \u00d88"}) == Told{{4, 5}});
    CHECK(told(5, {"4x \u00d88", "\u00d88"}).empty()); // the fifth has its own
    CHECK(told(2, {"4x \u00d88"}).empty());            // two and two in line
    CHECK(told(3, {"\u00d88"}).empty());               // one stands for all
}

TEST_CASE("notes for the whole sheet that contradict each other are told, and no others") {
    const auto with = [](const std::vector<std::string>& notes) {
        DxfText t;
        t.entities().box(0, 0, 80, 20).box(0, 60, 80, 110).dimension(0, 0, 80, 0, 0, -10, 0);
        double y = -40;
        for (const std::string& n : notes) t.text(0, y -= 10, n);
        return sheet(t.done());
    };
    for (const auto& notes : std::vector<std::vector<std::string>>{
             {"THIRD ANGLE PROJECTION", "Projection: 1st angle"},
             {"THIRD ANGLE", "All unmarked fillets R3", "ALL FILLETS TO BE R 2,5 mm"},
             {"THIRD ANGLE", "General radius 4", "Radii unless otherwise marked: R3"},
             {"THIRD ANGLE", "ALL CHAMFERS 1 X 45", "UNSPECIFIED CHAMFERS 1.5 X 45"}}) {
        INFO(notes.back());
        const Document d = with(notes);
        const auto f = findings(d.model(), "notes_contradict");
        REQUIRE(f.size() == 1);
        CHECK(f[0]->severity == Severity::warning);
        CHECK(f[0]->handles.size() == 2);
        CHECK(f[0]->message.find(notes.back()) != std::string::npos);
        CHECK(f[0]->at_sheet.size() == 2);
    }
    for (const auto& notes : std::vector<std::vector<std::string>>{
             {"THIRD ANGLE", "3RD ANGLE PROJECTION"},
             {"THIRD ANGLE", "ALL FILLETS R3", "ALL ROUNDS R5", "UNMARKED FILLETS R3,0"},
             {"THIRD ANGLE", "ALL SIZES MM", "ALL FILLETS SMOOTH", "FILLET R4 AT TOP ONLY",
              "ALL FILLETS R3"}}) {
        INFO(notes.back());
        CHECK(findings(with(notes).model(), "notes_contradict").empty());
    }
}

TEST_CASE("deviations the wrong way round, or that leave no room, are told") {
    const auto told = [](const std::string& text) {
        const Document d = sheet(plate(80, text));
        const auto f = findings(d.model(), "tolerance_suspect");
        return f.empty() ? std::pair(0., 0.)
                         : std::pair(f[0]->numbers.at("upper"), f[0]->numbers.at("lower"));
    };
    for (const char* fine : {"80", "80 +0.2/-0.1", "80 +0.3 +0.1", "80 0/-0.2", "80 +0.2 0", "80 -0.1/-0.4",
                             "80 \u00b10.1", "(80)", "3 1/8", "80 +0.2/0.1"}) {
        INFO(fine);
        CHECK(told(fine) == std::pair(0., 0.));
    }
    CHECK(told("80 -0.1/+0.2") == std::pair(-0.1, 0.2));
    CHECK(told("80 +0.1 +0.3") == std::pair(0.1, 0.3));
    CHECK(told("80 -0.4 / -0.1") == std::pair(-0.4, -0.1));
    CHECK(told("80 +0.1 +0.1") == std::pair(0.1, 0.1));
}

TEST_CASE("planted faults are found where they are") {
    const std::pair<const char*, const char*> expected[] = {
        {"fault01-dim-text-wrong", "dimension_text_differs"},
        {"fault09-dim-chain", "dimension_chain_open"},
        {"fault06-outline-gap", "outline_open"},
        {"fault07-duplicate-lines", "duplicate_geometry"}};
    for (auto [name, kind] : expected) {
        INFO(name);
        const Sample s = sample(name);
        const Document d = opened(s.path);
        const auto found = findings(d.model(), kind);
        REQUIRE_FALSE(found.empty());
        bool named = false;
        for (const Json& h : s.truth["fault"]["handles"]) named = named || names(found, h.get<std::string>());
        CHECK(named);
    }
}

TEST_CASE("sheets with one view mirrored, scaled, shifted or of the other angle say so") {
    CHECK_FALSE(
        findings(opened(sample("fault03-shifted-feature").path).model(), "feature_unmatched").empty());
    const Document wrong_scale = opened(sample("fault04-wrong-scale").path); // the findings live in it
    const auto scaled = findings(wrong_scale.model(), "scale_mismatch");
    REQUIRE(scaled.size() == 1);
    CHECK(scaled[0]->numbers.at("ratio") ==
          Approx(sample("fault04-wrong-scale").truth["fault"]["factor"].get<double>()).epsilon(1e-3));
    CHECK_FALSE(findings(opened(sample("fault05-mirrored-side").path).model(), "view_mirrored").empty());
    CHECK_FALSE(
        findings(opened(sample("fault11-swapped-convention").path).model(), "convention_suspect").empty());
    CHECK_FALSE(
        findings(opened(sample("fault12-missing-view-depth").path).model(), "depth_undetermined").empty());
}

TEST_CASE("the gap of an open outline is measured to the hundredth") {
    const Sample s = sample("fault06-outline-gap");
    const Document d = opened(s.path);
    const auto found = findings(d.model(), "outline_open");
    REQUIRE_FALSE(found.empty());
    CHECK(found[0]->numbers.at("gap") == Approx(s.truth["fault"]["gap_model_mm"].get<double>()).margin(1e-4));
    const Vec2 at = found[0]->at_sheet.at(0);
    const auto p = s.truth["fault"]["points_sheet"][0].get<std::vector<double>>();
    CHECK(distance(at, {p[0], p[1]}) < 0.5);
}

TEST_CASE("the revised demo sheet shows its three faults, each once") {
    const Document d = opened(demo("roller-bracket-revised.dxf"));
    REQUIRE(findings(d.model(), "size_mismatch").size() == 1);
    CHECK(findings(d.model(), "size_mismatch")[0]->numbers.at("difference") == Approx(0.4));
    REQUIRE(findings(d.model(), "dimension_text_differs").size() == 1);
    REQUIRE(findings(d.model(), "outline_open").size() == 1);
    CHECK(findings(d.model(), "outline_open")[0]->numbers.at("gap") == Approx(0.3));
    CHECK(findings(d.model(), "outline_open")[0]->handles.size() == 2);
}

TEST_CASE("a dimension that meets nothing is loose, and the finding says why") {
    DxfText t;
    t.entities().box(0, 0, 80, 20).dimension(0, 0, 55, 9, 0, -10, 0);
    const Document d = sheet(t.done());
    REQUIRE(d.model().ledger.entries.size() == 1);
    CHECK(d.model().ledger.entries[0].state == EntryState::loose);
    CHECK(findings(d.model(), "dimension_loose").size() == 1);
}

TEST_CASE("where a line runs smoothly into an arc, the neighbour view needs no line") {
    const Document d = opened(demo("roller-bracket.dxf"));
    CHECK(findings(d.model(), "feature_unmatched").empty());
}

TEST_CASE("clean sheets raise no error") {
    for (const Sample& s : samples()) {
        if (!s.clean()) continue;
        INFO(s.name);
        const Document d = opened(s.path); // kept while its findings are looked at
        for (const Finding& f : d.model().findings) CHECK(f.severity != Severity::error);
    }
}

TEST_CASE(
    "a hole that a view must show is told once; where nothing hidden is drawn its sides are mere notes") {
    const auto of = [](bool hidden) {
        DxfText t;
        t.entities().box(0, 0, 80, 40).circle(30, 25, 6).box(0, 70, 80, 120).line(30, 70, 30, 120);
        if (hidden) t.line(10, 70, 10, 120, "HIDDEN");
        return sheet(t.text(0, -30, "FIRST ANGLE PROJECTION").done());
    };
    for (bool hidden : {true, false}) {
        const Document d = of(hidden);
        const View* round = nullptr; // the view with the circle
        for (const View& v : d.model().views.views)
            if (v.box_sheet.contains(Vec2{30, 25})) round = &v;
        REQUIRE(round);
        std::vector<const Finding*> found;
        for (const Finding* f : findings(d.model(), "feature_unmatched"))
            if (f->views.front() == round->id && f->message.find("ircle") != std::string::npos)
                found.push_back(f);
        INFO(hidden);
        if (!hidden) {
            std::set<double> at;
            for (const Finding* f : found) {
                CHECK(f->severity == Severity::note);
                at.insert(std::round(f->numbers.at("at") * 1e6) / 1e6);
            }
            CHECK(at == std::set<double>{24, 36}); // its sides; its middle is drawn there
            continue;
        }
        REQUIRE_FALSE(found.empty());
        CHECK(found[0]->message.find("Ø12 mm") != std::string::npos);
        CHECK(found[0]->numbers.contains("at"));
    }
}

TEST_CASE("lines deny the stated angle only where all of them agree") {
    const Document d = opened(sample("clean04").path);
    const Model& m = d.model();
    const auto suspected = [&](int first, int third) {
        ViewSet set = m.views;
        set.projection.stated = set.projection.convention = Convention::first;
        set.projection.by_geometry = Convention::third;
        set.projection.votes_first = first, set.projection.votes_third = third;
        std::vector<Finding> found;
        checking::views({*m.drawing, m.sheet, set, m.drawn, m.drawn_ledger}, found);
        return std::ranges::count(found, "convention_suspect", &Finding::kind);
    };
    CHECK(suspected(0, 3) == 1);
    CHECK(suspected(0, 2) == 0); // too few to tell
    CHECK(suspected(1, 6) == 0);
}
