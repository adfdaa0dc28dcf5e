#include "support/samples.h"

#include "core/reading/read.h"
#include "core/reading/svg_path.h"
#include "core/reading/svg_style.h"

#include <fmt/format.h>
#include <fstream>
#include <random>

using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

Drawing svgSheet(const std::string& body,
                 const std::string& root = R"(width="200mm" height="100mm" viewBox="0 0 200 100")") {
    const auto d =
        readDrawing("<svg xmlns=\"http://www.w3.org/2000/svg\" " + root + ">" + body + "</svg>", quiet);
    if (!d) FAIL(d.error().message);
    return *d;
}

const Arc& arcOf(const Entity& e, size_t i = 0) {
    return std::get<Arc>(e.curves.at(i));
}

/// A PDF of one-page content streams, written by hand.
std::string pdf(const std::vector<std::string>& pages) {
    std::string out = "%PDF-1.4\n", kids;
    std::vector<size_t> at;
    auto object = [&](const std::string& body) {
        at.push_back(out.size());
        out += std::to_string(at.size()) + " 0 obj\n" + body + "\nendobj\n";
    };
    for (size_t i = 0; i < pages.size(); ++i) kids += std::to_string(4 + 2 * i) + " 0 R ";
    object("<</Type/Catalog/Pages 2 0 R>>");
    object("<</Type/Pages/Count " + std::to_string(pages.size()) + "/Kids[" + kids + "]>>");
    object("<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>");
    for (size_t i = 0; i < pages.size(); ++i) {
        object("<</Type/Page/Parent 2 0 R/MediaBox[0 0 720 360]/Resources<</Font<</F1 3 0 R>>>>/Contents " +
               std::to_string(5 + 2 * i) + " 0 R>>");
        object("<</Length " + std::to_string(pages[i].size()) + ">>stream\n" + pages[i] + "\nendstream");
    }
    const size_t xref = out.size();
    out += "xref\n0 " + std::to_string(at.size() + 1) + "\n0000000000 65535 f \n";
    for (size_t p : at) {
        std::string n = std::to_string(p);
        out += std::string(10 - n.size(), '0') + n + " 00000 n \n";
    }
    return out + "trailer<</Size " + std::to_string(at.size() + 1) + "/Root 1 0 R>>\nstartxref\n" +
           std::to_string(xref) + "\n%%EOF\n";
}

} // namespace

TEST_CASE("shapes of an SVG lie in millimetres of paper, y up") {
    const Drawing d = svgSheet(R"X(<line x1="10" y1="20" x2="60" y2="20" stroke="black"/>
        <circle cx="50" cy="50" r="12" stroke="black" fill="none"/>
        <rect x="100" y="10" width="40" height="30" rx="5" stroke="black" fill="none"/>
        <polygon points="0,0 10,0 10,10" stroke="black"/>)X");
    REQUIRE(d.entities.size() == 4);
    const Segment& s = std::get<Segment>(d.entities[0].curves[0]);
    CHECK(distance(s.a, {10, -20}) < 1e-9);
    CHECK(distance(s.b, {60, -20}) < 1e-9);
    CHECK(arcOf(d.entities[1]).full());
    CHECK(arcOf(d.entities[1]).radius == Approx(12));
    REQUIRE(d.entities[2].curves.size() == 8); // four sides, four rounded corners
    double length = 0;
    for (const Curve& c : d.entities[2].curves) length += lengthOf(c);
    CHECK(length == Approx(2 * 30 + 2 * 20 + 2 * kPi * 5));
    CHECK(d.entities[3].curves.size() == 3);
    CHECK(d.unit_code == 4);
}

TEST_CASE("transforms, nested groups and reused parts land where they belong") {
    const Drawing d = svgSheet(R"X(<defs><g id="hole"><circle r="2"/></g></defs>
        <g transform="translate(20,30) rotate(90)" stroke="black"><line x2="10"/>
        <use href="#hole" transform="scale(2)" x="5"/></g><use href="#nothing"/>)X");
    REQUIRE(d.entities.size() == 2);
    const Segment& s = std::get<Segment>(d.entities[0].curves[0]);
    CHECK(distance(s.b, {20, -40}) < 1e-9);
    CHECK(distance(arcOf(d.entities[1]).centre, {20, -40}) < 1e-9);
    CHECK(arcOf(d.entities[1]).radius == Approx(4));
    REQUIRE(d.not_read.size() == 1);
    CHECK(d.not_read[0].reason.find("#nothing") != std::string::npos);
}

TEST_CASE("path data: every command, short forms, and arcs that are arcs") {
    const auto runs = svg::pathRuns("M10 10h20v10l-5,5-5-5H10z m50 0a5 5 0 0 1 10 0");
    REQUIRE(runs.size() == 2);
    CHECK(runs[0].closed);
    CHECK(runs[0].curves.size() == 6);
    const Arc& a = std::get<Arc>(runs[1].curves[0]);
    CHECK(distance(a.centre, {65, 10}) < 1e-9);
    CHECK(std::abs(a.sweep) == Approx(kPi));
    const auto curves = svg::pathRuns("M0 0C0 10 10 10 10 0S20-10 20 0Q25 10 30 0T40 0");
    REQUIRE(curves.size() == 1);
    REQUIRE(curves[0].curves.size() == 4);
    CHECK(distance(endOf(curves[0].curves[3]), {40, 0}) < 1e-12);
    CHECK(distance(std::get<Spline>(curves[0].curves[1]).poles[1], {10, -10}) < 1e-12); // mirrored handle
    CHECK(svg::pathRuns("M0 0 L10 0 L oops").size() == 1);                              // up to the error
    CHECK(svg::pathRuns("L10 10").empty());
    const auto flags = svg::pathRuns("M0 0a5 5 0 1110 0"); // flags without separators
    CHECK(std::abs(lengthOf(flags.at(0).curves.at(0)) - kPi * 5) < 1e-9);
}

TEST_CASE("ends and radius of an endpoint arc hold for all its flags") {
    for (const bool large : {false, true})
        for (const bool positive : {false, true}) {
            const Vec2 p{3, 4}, q{11, -2};
            const Curve c = svg::arcTo(p, q, {9, 9}, 0.4, large, positive);
            CHECK(distance(startOf(c), p) < 1e-9);
            CHECK(distance(endOf(c), q) < 1e-9);
            CHECK(std::get<Arc>(c).radius == Approx(9));
            CHECK((std::abs(std::get<Arc>(c).sweep) > kPi) == large);
            const Curve e = svg::arcTo(p, q, {12, 7}, 0.4, large, positive);
            CHECK(distance(startOf(e), p) < 1e-9);
            CHECK(distance(endOf(e), q) < 1e-9);
        }
}

TEST_CASE("cubics drawn for a circle come in as the circle") {
    const double k = 0.5522847498 * 20;
    const auto n = [](double v) { return std::to_string(v); };
    const Drawing d =
        svgSheet("<path stroke=\"black\" d=\"M70 50C70 " + n(50 + k) + " " + n(50 + k) + " 70 50 70S30 " +
                 n(50 + k) + " 30 50 " + n(50 - k) + " 30 50 30 70 " + n(50 - k) + " 70 50Z\"/>");
    REQUIRE(d.entities.size() == 1);
    REQUIRE(d.entities[0].curves.size() == 1);
    CHECK(arcOf(d.entities[0]).full());
    CHECK(arcOf(d.entities[0]).radius == Approx(20).epsilon(1e-4));
}

TEST_CASE("pens become layers with a role, dashes a line type with its pattern") {
    std::string body = "<style>.hid{stroke-dasharray:3 1.5;stroke-width:.35}</style><g stroke=\"black\">";
    for (int i = 0; i < 5; ++i)
        body += "<line y1=\"" + std::to_string(i) + "\" x2=\"9\" y2=\"0\" stroke-width=\"0.7\"/>";
    for (int i = 0; i < 5; ++i)
        body += "<line y1=\"" + std::to_string(i) + "\" x2=\"9\" y2=\"0\" style=\"stroke-width:0.25\"/>";
    const Drawing d = svgSheet(body + "<line class=\"hid\" x2=\"9\"/><text x=\"5\" y=\"6\" "
                                      "font-size=\"5\">SCALE <tspan>1:2</tspan></text></g>");
    const CleanSheet s = clean(d, {});
    CHECK(s.entity_roles[0] == LineRole::outline);
    CHECK(s.entity_roles[5] == LineRole::dimension);
    CHECK(s.entity_roles[10] == LineRole::hidden);
    CHECK(d.lineType(d.entities[10].line_type)->pattern == std::vector<double>{3, -1.5});
    REQUIRE(d.texts.size() == 1);
    CHECK(d.texts[0].content.find("1:2") != std::string::npos);
    CHECK(d.texts[0].height == Approx(3.5));
}

TEST_CASE("what is not shown or not understood is counted") {
    const Drawing d = svgSheet(
        R"X(<image width="9" height="9"/><line x2="4" stroke="black" display="none"/><path d="nonsense" stroke="black"/>)X");
    CHECK(d.entities.empty());
    CHECK(d.not_read.size() == 3);
}

TEST_CASE("broken and endless SVG is answered, not followed") {
    const auto broken = readDrawing("<svg><g></svg>", quiet);
    REQUIRE_FALSE(broken);
    CHECK(broken.error().message.find("byte") != std::string::npos);
    const Drawing loop = svgSheet(R"X(<g id="a"><use href="#a"/></g>)X");
    CHECK(loop.entities.empty());
    CHECK_FALSE(loop.not_read.empty());
}

TEST_CASE("a page of a PDF is read in millimetres, with arcs and texts") {
    const std::string page1 =
        "2 w 72 72 144 72 re S 0.5 w 72 200 m 216 200 l S BT /F1 12 Tf 300 100 Td (SCALE 1:2) Tj ET";
    const double k = 0.5522847498 * 36;
    auto n = [](double v) { return std::to_string(v) + " "; };
    const std::string page2 = n(136) + n(100) + "m " + n(136) + n(100 + k) + n(100 + k) + n(136) + n(100) +
                              n(136) + "c " + n(100 - k) + n(136) + n(64) + n(100 + k) + n(64) + n(100) +
                              "c " + n(64) + n(100 - k) + n(100 - k) + n(64) + n(100) + n(64) + "c " +
                              n(100 + k) + n(64) + n(136) + n(100 - k) + n(136) + n(100) + "c S";
    const std::string bytes = pdf({page1, page2});
    const auto d = readDrawing(bytes, quiet);
    REQUIRE(d);
    CHECK(d->format == "PDF");
    CHECK(d->layouts.size() == 2);
    Box2 box = d->box();
    CHECK(box.lo.x == Approx(25.4).epsilon(1e-4));
    CHECK(box.lo.y == Approx(25.4).epsilon(1e-4));
    CHECK(box.hi.x == Approx(76.2).epsilon(1e-4));
    REQUIRE(d->texts.size() == 1);
    CHECK(d->texts[0].content == "SCALE 1:2");
    CHECK(d->texts[0].position.x == Approx(300 / 72.0 * 25.4).epsilon(0.02));
    const auto second = readDrawing(bytes, {std::nullopt, 2}, quiet);
    REQUIRE(second);
    REQUIRE(second->entities.size() == 1);
    CHECK(arcOf(second->entities[0]).full());
    CHECK(arcOf(second->entities[0]).radius == Approx(12.7).epsilon(1e-3));
    CHECK_FALSE(readDrawing(bytes, {std::nullopt, 3}, quiet));
    CHECK_FALSE(readDrawing(bytes.substr(0, 40), quiet));
}

TEST_CASE("what lies out of all bounds is told and left out, and the rest is worked on") {
    const std::string svg = R"svg(<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">
        <rect x="10" y="10" width="40" height="20" stroke="#000"/>
        <path d="M0 0 L9e200 9e200 A1e190 1e190 0 0 1 3 4" transform="scale(1e150)" stroke="#000"/>
        <text x="1e300" y="5" transform="scale(1e60)">far</text></svg>)svg";
    const auto d = readDrawing(svg, {}, quiet);
    REQUIRE(d);
    int told = 0;
    for (const NotRead& n : d->not_read)
        told += n.reason.find("out of all bounds") != std::string::npos ? n.count : 0;
    CHECK(told == 2);
    for (const Entity& e : d->entities)
        for (const Curve& c : e.curves) CHECK(std::isfinite(lengthOf(c)));
    const CleanSheet s = prism::clean(std::make_shared<const Drawing>(*d), {}, {});
    CHECK(s.in_use.size() == d->entities.size());
    // Likewise in a DXF file, where the entity keeps its place.
    const auto far =
        readDrawing("0\nSECTION\n2\nENTITIES\n0\nLINE\n8\n0\n10\n1e300\n20\n0\n11\n5\n21\n-1e300\n"
                    "0\nLINE\n8\n0\n10\n0\n20\n0\n11\n5\n21\n0\n0\nENDSEC\n0\nEOF\n",
                    {}, quiet);
    REQUIRE(far);
    REQUIRE(far->entities.size() == 2);
    CHECK(far->entities[0].curves.empty());
    CHECK(far->entities[1].curves.size() == 1);
    REQUIRE(far->not_read.size() == 1);
    CHECK(far->not_read[0].type == "LINE");
}

TEST_CASE("the step to which a page's coordinates were rounded is found, on a page of any height") {
    const auto page = [](double step, double height) { // coordinates in points, rounded to the step
        std::string content;
        std::mt19937 random(5);
        std::uniform_real_distribution<double> any(10, 300);
        for (int i = 0; i < 40; ++i) {
            double v[4];
            for (double& x : v) x = step > 0 ? std::round(any(random) / step) * step : any(random);
            content +=
                fmt::format("1 0 0 1 0 {:.6f} cm {:.6f} {:.6f} m {:.6f} {:.6f} l S 1 0 0 1 0 {:.6f} cm\n",
                            height, v[0], v[1], v[2], v[3], -height);
        }
        const auto d = readDrawing(pdf({content}), quiet);
        if (!d) FAIL(d.error().message);
        REQUIRE(d->entities.size() == 40);
        return d->resolution;
    };
    constexpr double kPoint = 25.4 / 72;
    for (double height : {0.0, 0.889764}) {
        CHECK(page(0.1, height) == Approx(0.1 * kPoint));
        CHECK(page(0.01, height) == Approx(0.01 * kPoint));
        CHECK(page(1.0 / 256, height) == Approx(kPoint / 256));
        CHECK(page(0.001, height) == Approx(0.001 * kPoint));
        CHECK(page(0, height) < 0.001 * kPoint);
    }
}

TEST_CASE("a drawing within a drawing is scaled to its own box, in the middle unless it may be stretched") {
    // 40 x 20 of the sheet for a box of 10 x 10: by 2, in the middle of the longer side.
    const auto circle = [](const std::string& more) {
        const Drawing d =
            svgSheet("<svg x=\"30\" y=\"50\" width=\"40\" height=\"20\" viewBox=\"100 200 10 10\"" + more +
                     "><line x1=\"100\" y1=\"200\" x2=\"110\" y2=\"210\" stroke=\"black\"/></svg>");
        return std::get<Segment>(d.entities.at(0).curves.at(0));
    };
    const Segment plain = circle(""), wide = circle(" preserveAspectRatio=\"none\"");
    CHECK(distance(plain.a, {40, -50}) < 1e-9); // y counts upwards from the upper edge
    CHECK(distance(plain.b, {60, -70}) < 1e-9);
    CHECK(distance(wide.a, {30, -50}) < 1e-9);
    CHECK(distance(wide.b, {70, -70}) < 1e-9);
}

TEST_CASE("a box without height is none: the drawing keeps its own units") {
    const auto line = [](const std::string& box) {
        const Drawing d = svgSheet("<line x1=\"10\" y1=\"20\" x2=\"60\" y2=\"70\" stroke=\"black\"/>",
                                   "width=\"200mm\" height=\"100mm\"" + box);
        return std::get<Segment>(d.entities.at(0).curves.at(0));
    };
    const Segment plain = line("");
    for (const char* box : {" viewBox=\"0 0 100 0\"", " viewBox=\"0 0 0 100\"", " viewBox=\"0 0 -5 100\""}) {
        INFO(box);
        CHECK(distance(line(box).a, plain.a) < 1e-9);
        CHECK(distance(line(box).b, plain.b) < 1e-9);
    }
}

TEST_CASE("rules of a style sheet are told apart without a blank between them") {
    const auto rules = svg::rulesIn(".a{stroke:red;stroke-width:2}.b,#c{stroke:blue}line { fill : none }");
    REQUIRE(rules.size() == 4);
    CHECK(rules.at(".a").at("stroke") == "red");
    CHECK(rules.at(".a").at("stroke-width") == "2");
    CHECK(rules.at(".b").at("stroke") == "blue");
    CHECK(rules.at("#c").at("stroke") == "blue");
    CHECK(rules.at("line").at("fill") == "none");
    CHECK(svg::rulesIn(".a{stroke:red").empty()); // not closed
}
