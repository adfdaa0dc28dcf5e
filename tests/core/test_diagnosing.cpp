#include "core/project/propose_for.h"
#include "support/diagnosed.h"

#include <fstream>
#include <random>

using namespace prism;
using namespace prism::test;

// What is the cause of what the checks find, and what mends it.

namespace {

/// A sheet on which a line is drawn otherwise, or not at all.
Document redrawn(const Document& sound, const Entity& line,
                 const std::vector<std::pair<Curve, LineRole>>& instead) {
    Choices c = sound.choices();
    c.marks.lines.push_back({MarkedLine::Kind::remove, keyOf(line), {}});
    for (const auto& [curve, role] : instead) {
        MarkedLine added{MarkedLine::Kind::add, freshName(c.marks), {curve}};
        added.role = role;
        c.marks.lines.push_back(added);
    }
    Document d = sound;
    NoProgress quiet;
    REQUIRE(d.apply("Redraw", c, quiet, Stage::checks));
    return d;
}

/// A block with an upright on it and a hole through its foot, in front, top and right view; third angle. The
/// hole of the top view may stand elsewhere, and so may its dimension.
struct Pedestal {
    double hole_x = 20, hole_y = 30; ///< in the top view
    bool front_hidden = true, right_visible = true;
    double top_scale = 1;
    bool mirror_right = false;

    std::string dxf() const {
        DxfText t;
        t.layer("OUTLINE").layer("HIDDEN", "HIDDEN");
        t.entities().text(0, -60, "THIRD ANGLE");
        const auto path = [&](double x, double y, const std::vector<Vec2>& p, double s = 1) {
            for (size_t i = 0; i + 1 < p.size(); ++i)
                t.line(x + s * p[i].x, y + s * p[i].y, x + s * p[i + 1].x, y + s * p[i + 1].y);
        };
        path(0, 0, {{0, 0}, {100, 0}, {100, 16}, {90, 16}, {90, 70}, {50, 70}, {50, 16}, {0, 16}, {0, 0}});
        path(0, 0, {{50, 16}, {90, 16}});
        const char* hidden = front_hidden ? "HIDDEN" : "OUTLINE";
        t.line(14, 0, 14, 16, hidden).line(26, 0, 26, 16, "HIDDEN");
        const double x0 = 50 - 50 * top_scale, y0 = 120;
        path(x0, y0, {{0, 0}, {100, 0}, {100, 60}, {0, 60}, {0, 0}}, top_scale);
        path(x0, y0, {{50, 10}, {90, 10}, {90, 34}, {50, 34}, {50, 10}}, top_scale);
        t.circle(x0 + top_scale * hole_x, y0 + top_scale * hole_y, 6 * top_scale);
        const auto right = [&](double y) { return 160 + (mirror_right ? 60 - y : y); };
        const std::vector<Vec2> outline{{0, 0},   {60, 0},  {60, 16}, {34, 16}, {34, 70},
                                        {10, 70}, {10, 16}, {0, 16},  {0, 0}};
        for (size_t i = 0; i + 1 < outline.size(); ++i)
            t.line(right(outline[i].x), outline[i].y, right(outline[i + 1].x), outline[i + 1].y);
        t.line(right(10), 16, right(34), 16, right_visible ? "OUTLINE" : "HIDDEN");
        t.line(right(24), 0, right(24), 16, "HIDDEN").line(right(36), 0, right(36), 16, "HIDDEN");
        return t.done();
    }
};

} // namespace

TEST_CASE("the pedestal's sheet with eight slips shows exactly these eight, each once") {
    Document d = checked(demo("bearing-pedestal-slips.dxf"));
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    std::map<std::string, std::vector<const Finding*>> by;
    for (const Finding& f : found.findings) by[f.kind].push_back(&f);
    CHECK(found.findings.size() == 8);
    CHECK(std::ranges::is_sorted(found.findings, {}, [](const Finding& f) {
        return std::pair(static_cast<int>(f.severity), f.kind); // errors before warnings before notes
    }));
    for (const char* kind :
         {"position_mismatch", "dimension_text_differs", "dimension_chain_open", "dimensions_disagree",
          "dimension_sign_suspect", "outline_open", "duplicate_geometry", "line_visibility_suspect"}) {
        INFO(kind);
        REQUIRE(by[kind].size() == 1);
        CHECK_FALSE(by[kind][0]->remedies.empty());
        CHECK_FALSE(by[kind][0]->at_sheet.empty());
    }
    CHECK(by["position_mismatch"][0]->numbers.at("shift") == Approx(2.5).margin(1e-6));
    CHECK(by["dimension_text_differs"][0]->numbers.at("said") == 72);
    CHECK(by["dimension_text_differs"][0]->numbers.at("drawn") == Approx(70));
    CHECK(by["dimension_chain_open"][0]->numbers.at("difference") == Approx(2));
    CHECK(by["dimensions_disagree"][0]->numbers.at("difference") == Approx(2));
    CHECK(by["outline_open"][0]->numbers.at("gap") == Approx(0.3).margin(1e-6));
    CHECK(by["line_visibility_suspect"][0]->numbers.at("length") == Approx(24).margin(1e-3));

    SECTION("and mended it is the sound sheet") {
        const auto done = repaired(d);
        CHECK(done.size() == 8);
        const Diagnosis after = diagnosed(d);
        INFO(told(after));
        CHECK(after.findings.empty());
        CHECK(after.sound);
        const Document sound = checked(demo("bearing-pedestal.dxf"));
        CHECK(sameLines(d.model().figure, sound.model().figure));
        for (const LedgerEntry& e : sound.model().ledger.entries) {
            const LedgerEntry* mended = d.model().ledger.named(e.name);
            INFO(e.name);
            REQUIRE(mended);
            CHECK(mended->value == Approx(e.value));
            CHECK(mended->said == Approx(e.said));
        }
        NoProgress quiet;
        for (int i = 0; i < 8; ++i) REQUIRE(d.undo(quiet));
        CHECK(diagnosed(d).findings.size() == 8);
    }
    SECTION("repairs of one kind leave the others") {
        const auto done = repaired(d, {"close_gap"});
        REQUIRE(done.size() == 1);
        CHECK(done[0].kind == "close_gap");
        CHECK(diagnosed(d).findings.size() == 7);
    }
    SECTION("the text may be believed instead") {
        const Finding& f = *by["dimension_text_differs"][0];
        const auto text = std::ranges::find(f.remedies, "believe_text", &Remedy::kind);
        REQUIRE(text != f.remedies.end());
        NoProgress quiet;
        REQUIRE(d.apply("Believe the text", changed(d.choices(), text->change), quiet, Stage::checks));
        const Diagnosis after = diagnosed(d);
        INFO(told(after));
        CHECK(std::ranges::none_of(after.findings,
                                   [](const Finding& x) { return x.kind == "dimension_text_differs"; }));
        CHECK(d.model().ledger.named("z2")->value == Approx(72));
    }
    SECTION("a finding may be left as it is, and the project remembers it") {
        Choices c = d.choices();
        c.accepted[keyOf(*by["dimension_sign_suspect"][0], d.model().views)] = "drawn by an apprentice";
        NoProgress quiet;
        REQUIRE(d.apply("Leave it", c, quiet, Stage::checks));
        const std::string path = temporary("accepted.uprism");
        REQUIRE(d.save(path));
        const Document again = checked(path);
        const Diagnosis after = diagnosed(again);
        const auto left = std::ranges::find(after.findings, "dimension_sign_suspect", &Finding::kind);
        REQUIRE(left != after.findings.end());
        CHECK(left->severity == Severity::note);
        CHECK(left->accepted == "drawn by an apprentice");
        for (const auto& [finding, remedy] : firstRemedies(after))
            CHECK(finding->kind != "dimension_sign_suspect");
    }
}

TEST_CASE("a sound sheet and a second look at it are silent alike") {
    const Document d = drawnSheet(Pedestal{}.dxf());
    for (int i = 0; i < 2; ++i) {
        const Diagnosis found = diagnosed(d);
        INFO(told(found));
        CHECK(found.findings.empty());
        CHECK(found.sound);
    }
}

TEST_CASE("a hole that stands elsewhere in one view is told by how much, and goes back") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> off(1.2, 6);
    const Document sound = drawnSheet(Pedestal{}.dxf());
    for (int i = 0; i < 6; ++i) {
        Pedestal p;
        const double by = (i % 2 == 0 ? 1 : -1) * off(random);
        (i < 3 ? p.hole_x : p.hole_y) += by;
        Document d = drawnSheet(p.dxf());
        const Diagnosis found = diagnosed(d);
        INFO("by " << by << "\n" << told(found));
        const auto all = serious(found);
        REQUIRE(all.size() == 1);
        CHECK(all[0]->kind == "position_mismatch");
        CHECK(all[0]->numbers.at("shift") == Approx(std::abs(by)).margin(1e-6));
        // Moved in the view that is not the front view: the other way is offered as well.
        CHECK(all[0]->remedies.size() == 2);
        repaired(d);
        CHECK(diagnosed(d).findings.empty());
        CHECK(sameLines(d.model().figure, sound.model().figure));
    }
}

TEST_CASE("a view at another scale or mirrored is one finding, and mended it is as the sound sheet") {
    const Document sound = drawnSheet(Pedestal{}.dxf());
    for (double scale : {0.9, 1.03, 1.1}) {
        Pedestal p;
        p.top_scale = scale;
        Document d = drawnSheet(p.dxf());
        const Diagnosis found = diagnosed(d);
        INFO(told(found));
        const auto all = serious(found);
        REQUIRE(all.size() == 1);
        CHECK(all[0]->kind == "scale_mismatch");
        CHECK(all[0]->numbers.at("ratio") == Approx(scale).margin(1e-6));
        repaired(d);
        CHECK(diagnosed(d).findings.empty());
        CHECK(sameLines(d.model().figure, sound.model().figure));
    }
    Pedestal p;
    p.mirror_right = true;
    Document d = drawnSheet(p.dxf());
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "view_mirrored");
    CHECK(d.model().views.views[static_cast<size_t>(all[0]->views.front())].role == Role::right);
    repaired(d);
    CHECK(diagnosed(d).findings.empty());
    CHECK(sameLines(d.model().figure, sound.model().figure));
}

TEST_CASE("a side view mirrored across an axis that no other view shows is told by the solid alone") {
    const auto sheet = [](bool mirrored) {
        DxfText t; // a guide block with a groove along its front and a rebate along its back
        t.layer("HIDDEN", "HIDDEN").entities().box(0, 0, 80, 40).line(0, 15, 80, 15).line(0, 25, 80, 25);
        t.line(0, 6, 80, 6, "HIDDEN").text(0, -20, "THIRD ANGLE");
        const auto at = [&](double y) { return mirrored ? 150 - y : 120 + y; };
        const std::vector<Vec2> outline{{0, 0},  {22, 0}, {22, 6}, {30, 6}, {30, 40},
                                        {0, 40}, {0, 25}, {8, 25}, {8, 15}, {0, 15}};
        for (size_t i = 0; i < outline.size(); ++i) {
            const Vec2 a = outline[i], b = outline[(i + 1) % outline.size()];
            t.line(at(a.x), a.y, at(b.x), b.y);
        }
        return t.done();
    };
    CHECK(serious(diagnosed(drawnSheet(sheet(false)))).empty());
    const Document d = drawnSheet(sheet(true));
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "view_mirrored");
    REQUIRE_FALSE(all[0]->remedies.empty());
    CHECK(all[0]->remedies[0].kind == "mirror_view");
}

TEST_CASE("a line of the wrong kind is told by the solid of all others, and redrawn") {
    const Document sound = drawnSheet(Pedestal{}.dxf());
    for (bool hidden : {true, false}) {
        Pedestal p;
        (hidden ? p.front_hidden : p.right_visible) = false;
        Document d = drawnSheet(p.dxf());
        const Diagnosis found = diagnosed(d);
        INFO(hidden << "\n" << told(found));
        const auto all = serious(found);
        REQUIRE(all.size() == 1);
        CHECK(all[0]->kind == "line_visibility_suspect");
        CHECK(all[0]->numbers.at("length") == Approx(hidden ? 16 : 24).margin(1e-3));
        REQUIRE(all[0]->remedies.size() == 1);
        CHECK(all[0]->remedies[0].kind == (hidden ? "draw_hidden" : "draw_visible"));
        CHECK(found.tried == 0); // the solid of all others settles it alone
        repaired(d);
        CHECK(diagnosed(d).findings.empty());
        CHECK(sameLines(d.model().figure, sound.model().figure));
    }
}

TEST_CASE("a line that nothing of another view answers to is told as too many, once, and taken off") {
    const Document sound = drawnSheet(Pedestal{}.dxf());
    const auto& entities = sound.model().drawing->entities;
    const auto hidden = std::ranges::find_if(entities, [](const Entity& e) {
        return e.curves.size() == 1 && startOf(e.curves[0]) == Vec2{14, 0};
    });
    REQUIRE(hidden != entities.end());
    for (double x : {33.0, 41.5}) {
        Document d =
            redrawn(sound, *hidden,
                    {{hidden->curves[0], LineRole::hidden}, {Segment{{x, 0}, {x, 16}}, LineRole::hidden}});
        const Diagnosis found = diagnosed(d);
        INFO("at " << x << "\n" << told(found));
        const auto all = serious(found);
        REQUIRE(all.size() == 1);
        CHECK(all[0]->kind == "feature_unmatched");
        CHECK(all[0]->numbers.at("length") == Approx(16));
        REQUIRE_FALSE(all[0]->remedies.empty());
        CHECK(all[0]->remedies[0].kind == "delete_line");
        repaired(d);
        CHECK(diagnosed(d).findings.empty());
        CHECK(sameLines(d.model().figure, sound.model().figure));
    }
}

TEST_CASE("a hidden line that strayed square to itself is told by how far, and goes back", "[slow]") {
    struct Strayed {
        const char *sheet, *handle;
        Vec2 by; ///< on the sheet
    };
    for (const Strayed& s : {Strayed{"param03", "49", {0, 1.5}}, Strayed{"param03", "49", {0, -0.4}},
                             Strayed{"param03", "49", {0, -1.5}}, // then nothing but its mirror image tells
                             Strayed{"fillet02", "60", {0, -0.11811}}}) {
        const Document sound = checked(fmt::format(PRISM_TEST_DATA "/rich/{}.dxf", s.sheet));
        const auto it = std::ranges::find(sound.model().drawing->entities, s.handle, &Entity::handle);
        REQUIRE(it != sound.model().drawing->entities.end());
        REQUIRE(it->curves.size() == 1);
        Document d =
            redrawn(sound, *it, {{transformed(it->curves[0], Affine2::shift(s.by)), LineRole::hidden}});
        const Diagnosis found = diagnosed(d);
        INFO(s.sheet << "\n" << told(found));
        const auto all = serious(found);
        REQUIRE(all.size() == 1);
        CHECK(all[0]->kind == "position_mismatch");
        const double mm = d.model().views.views[static_cast<size_t>(all[0]->views.at(0))].mm_per_sheet;
        CHECK(all[0]->numbers.at("shift") == Approx(mm * length(s.by)).margin(1e-3));
        repaired(d);
        CHECK(serious(diagnosed(d)).empty());
        CHECK(sameLines(d.model().figure, sound.model().figure));
    }
}

TEST_CASE("a line that ends smoothly at a round body is missed though nothing ends where it began") {
    const Document sound = checked(PRISM_TEST_DATA "/sheets/clean11.dxf");
    const Figure& f = sound.model().figure;
    // The near edge of the lever's web in the top view: of its level lines the inner one of 87.5 mm.
    const FigureCurve* edge = nullptr;
    for (const FigureCurve& c : f.curves)
        if (const auto* s = std::get_if<Segment>(&c.drawn); s && f.viewById(c.view)->role() == Role::top &&
                                                            std::abs(s->a.y - s->b.y) < 1e-6 &&
                                                            std::abs(lengthOf(c.drawn) - 87.5) < 0.02)
            edge = &c;
    REQUIRE(edge);
    Document d = redrawn(sound, sound.model().drawing->entities[static_cast<size_t>(edge->entity)], {});
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->numbers.at("length") == Approx(lengthOf(edge->drawn)).margin(1e-2));
    repaired(d);
    CHECK(serious(diagnosed(d)).empty());
    CHECK(sameLines(d.model().figure, f));
}

TEST_CASE("of a sheet without a solid the one finding is named whose repair leaves it one; a sound sheet has "
          "none") {
    for (const auto& [sheet, kind] : {std::pair{"fault02-missing-line", "add_line"},
                                      {"fault03-shifted-feature", "move_feature"},
                                      {"fault05-mirrored-side", "mirror_view"},
                                      {"fault08-hidden-as-visible", "draw_hidden"}}) {
        Document d = checked(fmt::format(PRISM_TEST_DATA "/sheets/{}.dxf", sheet));
        const Diagnosis found = diagnosed(d);
        INFO(sheet << "\n" << told(found));
        CHECK_FALSE(found.sound);
        REQUIRE(found.settles);
        CHECK(found.settles->remedies.at(0).kind == kind);
        NoProgress quiet;
        REQUIRE(d.apply("Repair", changed(d.choices(), found.settles->remedies[0].change), quiet));
        const auto p = proposeFor(d.model(), quiet);
        REQUIRE(p);
        CHECK(p->clean);
    }
    for (const char* sheet : {"clean02", "fault01-dim-text-wrong"})
        CHECK_FALSE(diagnosed(checked(fmt::format(PRISM_TEST_DATA "/sheets/{}.dxf", sheet))).settles);
}

TEST_CASE("of two lines that touch a round at both sides the one that is lacking is told by the other",
          "[slow]") {
    const Document sound = checked(PRISM_TEST_DATA "/sheets/clean11.dxf");
    for (const char* handle : {"3B", "3C"}) {
        const auto it = std::ranges::find(sound.model().drawing->entities, handle, &Entity::handle);
        REQUIRE(it != sound.model().drawing->entities.end());
        Document d = redrawn(sound, *it, {});
        const Diagnosis found = diagnosed(d);
        INFO(handle << "\n" << told(found));
        const auto all = serious(found);
        REQUIRE(all.size() == 1);
        CHECK(all[0]->message.find("mirror image") != std::string::npos);
        CHECK(all[0]->numbers.at("length") == Approx(88.741).margin(1e-3));
        repaired(d);
        CHECK(serious(diagnosed(d)).empty());
        CHECK(sameLines(d.model().figure, sound.model().figure));
    }
}

TEST_CASE("a line that a section lacks is told by the ends that it would join", "[slow]") {
    const Document sound = checked(PRISM_TEST_DATA "/rich/section01.dxf");
    const Figure& f = sound.model().figure;
    // The longest upright line of the section that is a whole entity and not at an end of it.
    const FigureCurve* step = nullptr;
    for (const FigureCurve& c : f.curves) {
        const FigureView& v = *f.viewById(c.view);
        const auto* s = std::get_if<Segment>(&c.drawn);
        if (v.shows != Shows::cut || !s || std::abs(s->a.x - s->b.x) > 1e-6) continue;
        if (std::min(s->a.x - v.box.lo.x, v.box.hi.x - s->a.x) < 1 || lengthOf(c.drawn) > 50) continue;
        if (!step || lengthOf(c.drawn) > lengthOf(step->drawn)) step = &c;
    }
    REQUIRE(step);
    const Entity& line = sound.model().drawing->entities[static_cast<size_t>(step->entity)];
    REQUIRE(line.curves.size() == 1);
    Document d = redrawn(sound, line, {});
    const Diagnosis found = diagnosed(d);
    INFO(lengthOf(step->drawn) << "\n" << told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->numbers.at("length") == Approx(lengthOf(step->drawn)).margin(1e-3));
    repaired(d);
    CHECK(serious(diagnosed(d)).empty());
}

TEST_CASE("beside a slanted plane a hidden line drawn visible is told by the nearest solid, and redrawn") {
    const Document sound = checked(PRISM_TEST_DATA "/rich/oblique01.dxf");
    const auto it = std::ranges::find(sound.model().drawing->entities, "3C", &Entity::handle);
    REQUIRE(it != sound.model().drawing->entities.end());
    REQUIRE(it->curves.size() == 1);
    Document d = redrawn(sound, *it, {{it->curves[0], LineRole::outline}});
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "line_visibility_suspect");
    CHECK(all[0]->numbers.at("length") == Approx(lengthOf(it->curves[0])).margin(1e-3));
    repaired(d);
    CHECK(serious(diagnosed(d)).empty());
    CHECK(sameLines(d.model().figure, sound.model().figure));
}

TEST_CASE("a sheet whose angle is misstated says so where only the other has a solid") {
    std::string dxf = Pedestal{}.dxf();
    dxf.replace(dxf.find("THIRD"), 5, "FIRST");
    Document d = drawnSheet(dxf);
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "convention_suspect");
    repaired(d);
    CHECK(d.choices().views.convention == Convention::third);
    CHECK(diagnosed(d).findings.empty());
}

TEST_CASE("every planted fault is told once, as what it is, with its number", "[slow]") {
    struct Expected {
        const char* kind;
        const char* number; ///< of the finding; null for none
        const char* planted;
    };
    const std::map<std::string, Expected> expected{
        {"dim_text_wrong", {"dimension_text_differs", nullptr, nullptr}},
        {"missing_line", {"feature_unmatched", nullptr, nullptr}},
        {"shifted_feature", {"position_mismatch", "shift", "shift_mm"}},
        {"wrong_scale", {"scale_mismatch", "ratio", "factor"}},
        {"mirrored_side", {"view_mirrored", nullptr, nullptr}},
        {"outline_gap", {"outline_open", "gap", "gap_model_mm"}},
        {"duplicate_lines", {"duplicate_geometry", nullptr, nullptr}},
        {"hidden_as_visible", {"line_visibility_suspect", nullptr, nullptr}},
        {"dim_chain", {"dimension_chain_open", nullptr, nullptr}},
        {"dims_disagree", {"dimensions_disagree", nullptr, nullptr}},
        {"swapped_convention", {"convention_suspect", nullptr, nullptr}},
        {"missing_view_depth", {"depth_undetermined", nullptr, nullptr}}};
    for (const Sample& s : samples()) {
        if (s.clean()) continue;
        INFO(s.name);
        Document d = checked(s.path);
        const Diagnosis found = diagnosed(d);
        INFO(told(found));
        const Expected& e = expected.at(s.fault());
        const auto it = std::ranges::find(found.findings, e.kind, &Finding::kind);
        REQUIRE(it != found.findings.end());
        if (e.number)
            CHECK(it->numbers.at(e.number) ==
                  Approx(std::abs(s.truth["fault"][e.planted].get<double>())).margin(1e-3));
        CHECK(serious(found).size() == (it->severity == Severity::note ? 0U : 1U));
        if (it->remedies.empty()) continue; // a view that is not there
        repaired(d);
        const Diagnosis after = diagnosed(d);
        INFO("left: " << told(after));
        CHECK(serious(after).empty());
    }
}

TEST_CASE("sound sheets are silent", "[slow]") {
    for (const Sample& s : samples()) {
        if (!s.clean()) continue;
        INFO(s.name);
        const Diagnosis found = diagnosed(checked(s.path));
        INFO(told(found));
        CHECK(serious(found).empty());
    }
}

TEST_CASE("a check that is stopped says nothing") {
    struct Stopped final : Progress {
        void report(double, std::string_view) override {}
        bool cancelled() const override { return true; }
    } stopped;
    const Document d = drawnSheet(Pedestal{}.dxf());
    const auto r = diagnose(d.source(), d.choices(), d.sharedModel(), stopped);
    REQUIRE_FALSE(r);
    CHECK(r.error().code == ErrorCode::cancelled);
}

namespace {

/// A stepped block of 100 x 60 with a bore: a section along it in the place of the front view, the top view
/// and the right one, which may be turned on the sheet.
std::string sectionedBlock(bool turned) {
    DxfText t;
    t.layer("HIDDEN", "HIDDEN").layer("CENTER", "CENTER").entities();
    t.line(0, 0, 100, 0).line(100, 0, 100, 20).line(100, 20, 60, 20).line(60, 20, 60, 40).line(60, 40, 0, 40);
    t.line(0, 40, 0, 0).line(20, 0, 20, 40).line(40, 0, 40, 40).text(40, -14, "A-A");
    t.box(0, 80, 100, 140).line(60, 80, 60, 140).circle(30, 110, 10);
    t.line(-12, 110, 112, 110, "CENTER").line(-12, 110, -12, 118).line(112, 110, 112, 118);
    t.text(-20, 114, "A").text(115, 114, "A");
    const auto right = [&](double y0, double z0, double y1, double z1, const char* layer = "0") {
        const Vec2 a = turned ? Vec2{190 - z0, y0} : Vec2{150 + y0, z0},
                   b = turned ? Vec2{190 - z1, y1} : Vec2{150 + y1, z1};
        t.line(a.x, a.y, b.x, b.y, layer);
    };
    right(0, 0, 60, 0), right(60, 0, 60, 40), right(60, 40, 0, 40), right(0, 40, 0, 0), right(0, 20, 60, 20);
    for (double y : {20, 40}) right(y, 0, y, 40, "HIDDEN");
    return t.text(0, -40, "THIRD ANGLE PROJECTION").done();
}

} // namespace

TEST_CASE("a view beside a section that is turned on the sheet is told as that, and turned back") {
    CHECK(serious(diagnosed(drawnSheet(sectionedBlock(false)))).empty());
    Document d = drawnSheet(sectionedBlock(true));
    const Diagnosis found = diagnosed(d);
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "view_turned");
    CHECK(repaired(d).size() == 1);
    CHECK(serious(diagnosed(d)).empty());
    CHECK(sameLines(d.model().figure, drawnSheet(sectionedBlock(false)).model().figure));
}

TEST_CASE("a hidden line drawn visible is told on a part that only an oblique plane explains") {
    std::string sheet = bytesOf(demo("deck-chock.dxf"));
    // The floor of the slot in the right view, from (260, 128) to (330, 128).
    const size_t x = sheet.find("260.0\n 20\n128.0\n 30\n0.0\n 11\n330.0\n 21\n128.0");
    REQUIRE(x != std::string::npos);
    const size_t layer = sheet.rfind("HIDDEN", x);
    REQUIRE(x - layer < 60);
    sheet.replace(layer, 6, "OUTLINE");
    const Diagnosis found = diagnosed(drawnSheet(sheet));
    INFO(told(found));
    const auto all = serious(found);
    REQUIRE(all.size() == 1);
    CHECK(all[0]->kind == "line_visibility_suspect");
    REQUIRE_FALSE(all[0]->at_sheet.empty());
    CHECK(all[0]->at_sheet[0].y == Approx(128));
}
