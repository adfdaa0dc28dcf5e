#include "core/project/propose_for.h"
#include "core/proofing/proof.h"
#include "support/samples.h"

#include <catch2/catch.hpp>
#include <fstream>

using namespace prism;
using namespace prism::test;

namespace {

/// A plate of 100 x 60 x 40 with a blind hole of 16 and a through hole of 12 at different depths, in front
/// and top view, and the section A-A whose plane steps from one to the other.
struct Plate {
    double second = 40;      ///< Y of the through hole
    double leg = 40;         ///< Y of the second part of the plane
    bool one_by_one = false; ///< the cutting plane is drawn line by line
    std::string label = "A-A";
    bool mirrored = false; ///< the section is drawn as seen from behind its plane
    bool arrows = true;
};

void hatch(DxfText& t, const std::vector<std::vector<Vec2>>& loops) {
    t.group(0, "HATCH").group(8, "HATCHING").group(10, 0.0).group(20, 0.0).group(30, 0.0).group(2, "LINES");
    t.group(70, "0").group(71, "0").group(91, std::to_string(loops.size()));
    for (const auto& l : loops) {
        t.group(92, "2").group(72, "0").group(73, "1").group(93, std::to_string(l.size()));
        for (Vec2 p : l) t.group(10, p.x).group(20, p.y);
        t.group(97, "0");
    }
    t.group(75, "0").group(76, "1").group(52, 45.0).group(41, 1.0).group(77, "0").group(78, "0").group(98,
                                                                                                       "0");
}

std::string sheet(const Plate& p) {
    DxfText t;
    t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").layer("CENTRE", "CENTER").layer("HATCHING");
    t.entities().box(0, 0, 100, 40);
    for (double x : {17.0, 33.0}) t.line(x, 10, x, 40, "HIDDEN");
    t.line(17, 10, 33, 10, "HIDDEN");
    for (double x : {64.0, 76.0}) t.line(x, 0, x, 40, "HIDDEN");
    const double top = 80;
    t.box(0, top, 100, top + 60).circle(25, top + 20, 8).circle(70, top + p.second, 6);
    // The plane, from below the one hole to below the other, and its arrows.
    const std::vector<Vec2> plane{{-10, top + 20}, {45, top + 20}, {45, top + p.leg}, {110, top + p.leg}};
    if (p.one_by_one)
        for (size_t i = 1; i < plane.size(); ++i)
            t.line(plane[i - 1].x, plane[i - 1].y, plane[i].x, plane[i].y, "CENTRE");
    else {
        t.group(0, "LWPOLYLINE").group(8, "CENTRE").group(90, "4").group(70, "0");
        for (Vec2 q : plane) t.group(10, q.x).group(20, q.y);
    }
    for (Vec2 end : {plane.front(), plane.back()}) {
        if (p.arrows) {
            t.line(end.x, end.y, end.x, end.y + 8, "CENTRE"); // looks away from the viewer of the front view
            t.line(end.x, end.y + 8, end.x - 1, end.y + 5, "CENTRE")
                .line(end.x, end.y + 8, end.x + 1, end.y + 5, "CENTRE");
        }
        t.text(end.x + (end.x < 0 ? -6 : 3), end.y + 1, "A");
    }
    const auto at = [&](double x) { return 160 + (p.mirrored ? 100 - x : x); };
    t.box(160, 0, 260, 40).line(at(17), 10, at(17), 40).line(at(33), 10, at(33), 40);
    t.line(at(17), 10, at(33), 10).line(at(64), 0, at(64), 40).line(at(76), 0, at(76), 40);
    hatch(t, {{{at(0), 0},
               {at(64), 0},
               {at(64), 40},
               {at(33), 40},
               {at(33), 10},
               {at(17), 10},
               {at(17), 40},
               {at(0), 40}},
              {{at(76), 0}, {at(100), 0}, {at(100), 40}, {at(76), 40}}});
    t.text(200, -12, p.label).text(160, 100, "THIRD ANGLE PROJECTION");
    t.dimension(0, top, 70, top + p.second, 125, top + 10, 90);
    return t.done();
}

Document document(const Plate& p) {
    const std::string path = temporary("stepped.dxf");
    std::ofstream(path) << sheet(p);
    return opened(path);
}

/// The steps of the plate itself.
std::vector<Step> steps() {
    NoProgress quiet;
    const auto p = proposeFor(document({}).model(), quiet);
    REQUIRE(p);
    return p->steps;
}

/// The proof of the plate against a sheet.
Proof proved(Document& d) {
    NoProgress quiet;
    Choices c = d.choices();
    c.steps = steps();
    REQUIRE(d.apply("Build", c, quiet));
    REQUIRE(d.model().build.ok());
    REQUIRE(d.model().proof);
    return *d.model().proof;
}

const double kVolume = 100 * 60 * 40 - kPi * 64 * 30 - kPi * 36 * 40;

} // namespace

TEST_CASE("a stepped section is cut part by part, and proves the solid") {
    for (bool one_by_one : {false, true}) {
        INFO(one_by_one);
        Plate plate;
        plate.one_by_one = one_by_one;
        Document d = document(plate);
        const auto& views = d.model().views.views;
        const auto section = std::ranges::find(views, Role::section, &View::role);
        REQUIRE(section != views.end());
        REQUIRE(section->hanging);
        REQUIRE(section->hanging->legs.size() == 2);
        CHECK(section->hanging->legs[0].a.y == Approx(20));
        CHECK(section->hanging->legs[1].a.y == Approx(40));
        CHECK(section->hanging->legs[1].a.x == Approx(45));
        const Proof p = proved(d);
        CHECK(d.model().build.measure.volume == Approx(kVolume).epsilon(1e-9));
        INFO(inWords(p));
        CHECK(p.proved());
        const FigureView* v = d.model().figure.viewById(section->id);
        REQUIRE(v);
        const Cut cut = cutOf(d.model().figure, *v);
        REQUIRE(cut.parts.size() == 2);
        CHECK(cut.parts[0].depth == Approx(20));
        CHECK(cut.parts[1].depth == Approx(40));
        CHECK(cut.parts[0].to == Approx(45));
        CHECK(cutAt(d.model().figure, *v, {10, 5}) == Approx(20));
        CHECK(cutAt(d.model().figure, *v, {80, 5}) == Approx(40));
        for (const ViewProof& w : p.views)
            if (w.name.role == Role::section) CHECK(w.areas == 4); // two of them hatched
    }
}

TEST_CASE("a plane that steps past a hole shows no hole") {
    Plate plate;
    plate.leg = 48; // beside the hole, which ends at 46
    Document d = document(plate);
    const Proof p = proved(d);
    CHECK_FALSE(p.clean());
    for (const ViewProof& v : p.views)
        if (v.name.role == Role::section) {
            CHECK(v.missing == 2); // both sides of the hole
            REQUIRE(v.areas_off.size() == 1);
            CHECK(v.areas_off[0].area == Approx(12 * 40));
            CHECK_FALSE(v.areas_off[0].hatched);
        } else
            CHECK(v.missing + v.extra == 0);
}

TEST_CASE("a section drawn from behind its plane is told, and one drawn as it should be is not") {
    const auto told = [](const Plate& p) {
        std::vector<Finding> r;
        const Document d = document(p);
        for (const Finding& f : d.model().findings)
            if (f.kind == "view_mirrored") r.push_back(f);
        return r;
    };
    CHECK(told({}).empty());
    Plate plate;
    plate.mirrored = true;
    const auto found = told(plate);
    REQUIRE(found.size() == 1);
    CHECK(found[0].severity == Severity::error);
    CHECK(found[0].message.starts_with(
        "Section A is drawn as seen from the other side than its arrows say: 9 of its 9 "));
    CHECK(found[0].numbers.at("mirrored") > found[0].numbers.at("as_drawn"));
    plate.arrows = false; // then nothing on the sheet is contradicted
    CHECK(told(plate).empty());
}

TEST_CASE("a section whose letters stand at no line is told together with the line that has no section") {
    const auto told = [](const Plate& p) {
        std::vector<Finding> r;
        const Document d = document(p);
        for (const Finding& f : d.model().findings)
            if (f.kind == "section_letters" || f.kind == "view_unplaced") r.push_back(f);
        return r;
    };
    CHECK(told({}).empty());
    Plate plate;
    plate.label = "B-B";
    const auto found = told(plate);
    REQUIRE(found.size() == 1);
    CHECK(found[0].kind == "section_letters");
    CHECK(found[0].severity == Severity::warning);
    CHECK(found[0].message ==
          "No cutting line has the letter B of section B-B at both ends, and no section has the "
          "letters of the line A-A");
    CHECK(found[0].at_sheet.size() == 3);
}

TEST_CASE("centre marks and edges between the letters are no cutting line; a centre line there is told") {
    // A plate of 100 x 60 x 20 with a hole at each end, its section below; letters A beside where the line
    // would end.
    const auto found = [](double reach, bool marks, bool shafts) {
        DxfText t;
        t.layer("CENTRE", "CENTER").entities().text(0, -60, "THIRD ANGLE PROJECTION");
        t.box(0, 80, 100, 140).circle(20, 110, 6).circle(80, 110, 6);
        t.box(0, 0, 100, 20).text(40, -14, "A-A");
        for (double x : {14, 26, 74, 86}) t.line(x, 0, x, 20);
        t.box(150, 0, 210, 20);
        if (marks)
            for (double x : {20, 80}) t.line(x - 9, 110, x + 9, 110, "CENTRE").line(x, 101, x, 119, "CENTRE");
        if (reach > 0) t.line(-reach, 110, 100 + reach, 110, "CENTRE");
        if (shafts) t.line(-reach, 110, -reach, 120).line(100 + reach, 110, 100 + reach, 120);
        t.text(-14, 124, "A").text(112, 124, "A");
        const std::string path = temporary("letters.dxf");
        std::ofstream(path) << t.done();
        const Document d = opened(path);
        std::vector<std::string> r;
        for (const Finding& f : d.model().findings)
            if (f.kind == "section_letters" || f.kind == "view_unplaced") r.push_back(f.message);
        return r;
    };
    CHECK(found(12, true, true).empty());
    CHECK(found(12, false, false).empty()); // from letter to letter
    const auto bare = found(3, false, false);
    REQUIRE(bare.size() == 1);
    CHECK(bare[0] == "No cutting line is drawn between the letters A in the top view: the centre line there "
                     "is taken for it");
    for (bool marks : {true, false}) {
        const auto none = found(0, marks, false);
        REQUIRE(none.size() == 1);
        CHECK(none[0].starts_with("No cutting line with its letter is found"));
    }
}

TEST_CASE("a section without its cutting line is one finding, and why the depth is not known") {
    // A bush of 60 by 40 with a bore of 20: its end view, and the section beside it.
    const auto told = [](bool line) {
        DxfText t;
        t.layer("CENTRE", "CENTER").layer("HATCH").entities();
        t.circle(0, 0, 30).circle(0, 0, 10).box(100, -30, 140, 30);
        for (double z : {-10.0, 10.0}) t.line(100, z, 140, z);
        if (line) t.line(0, -40, 0, 40, "CENTRE").line(0, 40, 8, 40, "CENTRE").line(0, -40, 8, -40, "CENTRE");
        if (line) t.text(2, 44, "A").text(2, -50, "A");
        t.line(90, 0, 150, 0, "CENTRE").text(105, -55, "SECTION A-A");
        const std::string path = temporary("unplaced.dxf");
        std::ofstream(path) << t.text(0, -90, "FIRST ANGLE PROJECTION").done();
        const Document d = opened(path);
        std::vector<Finding> r;
        for (const Finding& f : d.model().findings)
            if (f.severity != Severity::note) r.push_back(f);
        return r;
    };
    CHECK(told(true).empty());
    const auto found = told(false);
    REQUIRE(found.size() == 1);
    CHECK(found[0].kind == "view_unplaced");
    CHECK(found[0].severity == Severity::error);
    REQUIRE(found[0].symptoms.size() == 1);
    CHECK(found[0].symptoms[0].find("nothing says how deep the part is") != std::string::npos);
}

TEST_CASE("a stepped plane follows the hole that it is laid through") {
    NoProgress quiet;
    Document d = document({});
    Choices c = d.choices();
    c.steps = steps();
    REQUIRE(d.apply("Build", c, quiet));
    const Ledger& l = d.model().ledger;
    REQUIRE(l.entries.size() == 1);
    REQUIRE(l.entries[0].value == Approx(40));
    c.numbers[l.entries[0].name].value = 37.5;
    REQUIRE(d.apply("Drive", c, quiet));
    REQUIRE(d.model().proof);
    INFO(inWords(*d.model().proof));
    CHECK(d.model().proof->proved());
    const auto* v = d.model().figure.viewNamed({Role::section, "A"});
    REQUIRE(v);
    CHECK(cutOf(d.model().figure, *v).parts[1].depth == Approx(37.5));
    CHECK(cutOf(d.model().figure, *v).parts[0].depth == Approx(20));
}

TEST_CASE("a section along an oblique plane is cut there, hatching included") {
    // The plane runs through both holes of the plate. Behind it, the corner of the plate reaches a little
    // further.
    const Vec2 first{25, 20}, second{75, 45}, u = normalized(second - first), begin{0, 7.5}, end{100, 57.5};
    const auto along = [&](Vec2 p) { return dot(p - begin, u); };
    const double whole = along(end), corner = along({100, 60});
    for (bool upright : {false, true}) {
        INFO(upright);
        DxfText t;
        t.layer("OUTLINE").layer("HIDDEN", "HIDDEN").layer("CENTRE", "CENTER").layer("HATCHING");
        t.entities().box(0, 0, 100, 40);
        for (double x : {17.0, 33.0}) t.line(x, 10, x, 40, "HIDDEN");
        t.line(17, 10, 33, 10, "HIDDEN");
        for (double x : {69.0, 81.0}) t.line(x, 0, x, 40, "HIDDEN");
        const Vec2 top{0, 80};
        t.box(0, 80, 100, 140).circle(25, 100, 8).circle(75, 125, 6);
        const Vec2 a = top + begin - u * 12, b = top + end + u * 12, look{-u.y, u.x};
        t.line(a.x, a.y, b.x, b.y, "CENTRE");
        for (Vec2 e : {a, b}) {
            const Vec2 tip = e + look * 8;
            t.line(e.x, e.y, tip.x, tip.y, "CENTRE");
            for (double side : {-1.0, 1.0}) {
                const Vec2 barb = tip - look * 3 + u * side;
                t.line(tip.x, tip.y, barb.x, barb.y, "CENTRE");
            }
            const Vec2 letter = e - look * 5;
            t.text(letter.x, letter.y, "A");
        }
        // Upright elsewhere, or where a view in this direction lies in third angle: before the line.
        const Vec2 origin = upright ? Vec2{200, 20} : top + begin - look * 190,
                   right = upright ? Vec2{1, 0} : u, up = upright ? Vec2{0, 1} : look;
        const auto at = [&](double s, double z) { return origin + right * s + up * z; };
        const auto draw = [&](double s0, double z0, double s1, double z1) {
            const Vec2 p = at(s0, z0), q = at(s1, z1);
            t.line(p.x, p.y, q.x, q.y);
        };
        const double p0 = along(first) - 8, p1 = along(first) + 8, q0 = along(second) - 6,
                     q1 = along(second) + 6;
        draw(0, 0, corner, 0), draw(0, 40, corner, 40), draw(0, 0, 0, 40), draw(whole, 0, whole, 40);
        draw(corner, 0, corner, 40), draw(p0, 10, p0, 40), draw(p1, 10, p1, 40), draw(p0, 10, p1, 10);
        draw(q0, 0, q0, 40), draw(q1, 0, q1, 40);
        hatch(t,
              {{at(0, 0), at(q0, 0), at(q0, 40), at(p1, 40), at(p1, 10), at(p0, 10), at(p0, 40), at(0, 40)},
               {at(q1, 0), at(whole, 0), at(whole, 40), at(q1, 40)}});
        const Vec2 label = at(40, -14); // in a corner of the box that the oblique view leaves empty
        t.text(label.x, label.y, "A-A").text(300, 150, "THIRD ANGLE PROJECTION");
        const std::string path = temporary("oblique-section.dxf");
        std::ofstream(path) << t.done();
        Document d = opened(path);
        const auto* v = d.model().figure.viewNamed({Role::section, "A"});
        REQUIRE(v);
        CHECK_FALSE(v->square);
        NoProgress quiet;
        Choices c = d.choices();
        const auto p = proposeFor(d.model(), quiet);
        REQUIRE(p);
        c.steps = p->steps;
        REQUIRE(d.apply("Build", c, quiet));
        CHECK(d.model().build.measure.volume == Approx(kVolume).epsilon(1e-9));
        REQUIRE(d.model().proof);
        INFO(inWords(*d.model().proof));
        CHECK(d.model().proof->proved());
        for (const ViewProof& w : d.model().proof->views)
            if (w.name.role == Role::section) CHECK(w.areas == 5);
    }
}
