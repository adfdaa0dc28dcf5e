#include "support/samples.h"

#include "core/reading/read.h"

using namespace prism;
using namespace prism::test;

namespace {

std::string complaint(const std::string& bytes) {
    NoProgress quiet;
    const auto d = readDrawing(bytes, quiet);
    REQUIRE_FALSE(d.has_value());
    CHECK(d.error().code == ErrorCode::unreadable);
    return d.error().message;
}

bool mentions(const std::string& text, const std::string& word) {
    return text.find(word) != std::string::npos;
}

} // namespace

TEST_CASE("lines, arcs and circles come in with their numbers, layers and handles") {
    const Drawing d = drawn(
        DxfText().entities().line(1, 2, 30, 2).circle(5, 6, 2.5, "HIDDEN").arc(0, 0, 4, 90, 180).done());
    REQUIRE(d.entities.size() == 3);
    CHECK(std::get<Segment>(d.entities[0].curves[0]) == Segment{{1, 2}, {30, 2}});
    CHECK(d.layers[d.entities[1].layer].name == "HIDDEN");
    CHECK(d.entities[1].line_type == "HIDDEN");
    const Arc& a = std::get<Arc>(d.entities[2].curves[0]);
    CHECK(distance(startOf(a), {0, 4}) < 1e-12);
    CHECK(distance(endOf(a), {-4, 0}) < 1e-12);
    CHECK(d.entities[0].handle != d.entities[1].handle);
    CHECK(d.counts.at("LINE") == 1);
}

TEST_CASE("a closed polyline with bulges gives one curve a span") {
    DxfText t;
    t.entities().group(0, "LWPOLYLINE").group(8, "OUTLINE").group(90, "4").group(70, "1");
    t.group(10, 0.0).group(20, 0.0).group(10, 20.0).group(20, 0.0).group(42, 1.0);
    t.group(10, 20.0).group(20, 10.0).group(10, 0.0).group(20, 10.0).group(42, 1.0);
    const Drawing d = drawn(t.done());
    REQUIRE(d.entities.size() == 1);
    REQUIRE(d.entities[0].curves.size() == 4);
    CHECK(std::get<Arc>(d.entities[0].curves[1]).radius == Approx(5));
    const Box2 b = d.box();
    CHECK(b.lo.x == Approx(-5));
    CHECK(b.hi.x == Approx(25));
}

TEST_CASE("blocks in blocks, scaled, turned and mirrored, land where the maps say") {
    DxfText t;
    t.block("INNER", 1, 0).line(1, 0, 3, 0).endBlock();
    t.block("OUTER", 0, 0)
        .group(0, "INSERT")
        .group(8, "OUTLINE")
        .group(2, "INNER")
        .group(10, 10.0)
        .group(20, 0.0)
        .group(41, 2.0)
        .group(42, 2.0)
        .group(50, 90.0);
    t.endBlock().entities();
    t.group(0, "INSERT")
        .group(5, "A1")
        .group(8, "OUTLINE")
        .group(2, "OUTER")
        .group(10, 100.0)
        .group(20, 50.0)
        .group(41, -1.0);
    const Drawing d = drawn(t.done());
    REQUIRE(d.entities.size() == 1);
    // Inner: from its base (1,0) 2 long, doubled and turned up: (10,0) to (10,4). Outer mirrors x, then
    // shifts.
    const Segment s = std::get<Segment>(d.entities[0].curves[0]);
    CHECK(distance(s.a, {90, 50}) < 1e-9);
    CHECK(distance(s.b, {90, 54}) < 1e-9);
    CHECK(d.entities[0].block_path.find("A1") == 0);
}

TEST_CASE("a circle in an unequally scaled block is an ellipse of the right axes") {
    DxfText t;
    t.block("B", 0, 0).circle(0, 0, 5).endBlock().entities();
    t.group(0, "INSERT")
        .group(8, "OUTLINE")
        .group(2, "B")
        .group(10, 0.0)
        .group(20, 0.0)
        .group(41, 2.0)
        .group(42, 1.0);
    const Drawing d = drawn(t.done());
    const auto& e = std::get<EllipseArc>(d.entities.at(0).curves.at(0));
    CHECK(length(e.major) == Approx(10));
    CHECK(e.ratio == Approx(0.5));
}

TEST_CASE("rows and columns of a block are all there") {
    DxfText t;
    t.block("HOLE", 0, 0).circle(0, 0, 1).endBlock().entities();
    t.group(0, "INSERT").group(8, "OUTLINE").group(2, "HOLE").group(10, 0.0).group(20, 0.0);
    t.group(70, "3").group(71, "2").group(44, 10.0).group(45, 20.0);
    const Drawing d = drawn(t.done());
    CHECK(d.entities.size() == 6);
    CHECK(d.box().hi.x == Approx(21));
    CHECK(d.box().hi.y == Approx(21));
}

TEST_CASE("a block within itself is told, not followed for ever") {
    DxfText t;
    t.block("LOOP", 0, 0)
        .line(0, 0, 1, 0)
        .group(0, "INSERT")
        .group(8, "0")
        .group(2, "LOOP")
        .group(10, 1.0)
        .group(20, 0.0);
    t.endBlock().entities().group(0, "INSERT").group(8, "0").group(2, "LOOP").group(10, 0.0).group(20, 0.0);
    const Drawing d = drawn(t.done());
    CHECK(d.entities.size() <= 33);
    REQUIRE(d.not_read.size() == 1);
    CHECK(d.not_read[0].type == "INSERT");
}

TEST_CASE("an entity seen from behind lies mirrored in the plane") {
    DxfText t;
    t.entities().arc(10, 0, 5, 0, 90).group(210, 0.0).group(220, 0.0).group(230, -1.0);
    const Drawing d = drawn(t.done());
    const Curve& c = d.entities.at(0).curves.at(0);
    CHECK(distance(startOf(c), {-15, 0}) < 1e-9);
    CHECK(distance(endOf(c), {-10, 5}) < 1e-9);
}

TEST_CASE("what is not understood is counted by type") {
    const Drawing d = drawn(DxfText()
                                .entities()
                                .line(0, 0, 1, 0)
                                .group(0, "REGION")
                                .group(8, "0")
                                .group(0, "REGION")
                                .group(8, "0")
                                .group(0, "WIPEOUT")
                                .group(8, "0")
                                .done());
    std::map<std::string, int> n;
    for (const NotRead& x : d.not_read) n[x.type] = x.count;
    CHECK(n["REGION"] == 2);
    CHECK(n["WIPEOUT"] == 1);
}

TEST_CASE("dimensions keep definition points, text, count and factor") {
    const Drawing d = drawn(DxfText()
                                .entities()
                                .dimension(0, 0, 40, 7, 0, 20, 0, "4x <>")
                                .dimension(0, 0, 0, 25, -8, 0, 90)
                                .done());
    REQUIRE(d.dimensions.size() == 2);
    CHECK(d.dimensions[0].measured == Approx(40));
    CHECK(d.dimensions[0].count == 4);
    CHECK(d.dimensions[0].text == "4x 40");
    CHECK(d.dimensions[1].measured == Approx(25));
    CHECK(d.dimensions[1].kind == DimensionKind::linear);
}

TEST_CASE("texts are decoded: control codes, Unicode escapes and an old code page") {
    const Drawing d = drawn(DxfText()
                                .entities()
                                .text(0, 0, "%%c20 %%p0.1 45%%d")
                                .text(0, 1, "\\U+00D8 9")
                                .text(0, 2, "H\xFClse")
                                .done());
    REQUIRE(d.texts.size() == 3);
    CHECK(d.texts[0].content == "Ø20 ±0.1 45°");
    CHECK(d.texts[1].content == "Ø 9");
    CHECK(d.texts[2].content == "Hülse");
}

TEST_CASE("a hidden layer, a frozen layer and a layer that is off are not shown") {
    DxfText t;
    t.layer("OFF", "CONTINUOUS", -3);
    const Drawing d = drawn(t.entities().line(0, 0, 1, 0, "OFF").done());
    const auto off =
        std::find_if(d.layers.begin(), d.layers.end(), [](const Layer& l) { return l.name == "OFF"; });
    REQUIRE(off != d.layers.end());
    CHECK_FALSE(off->visible);
    CHECK(off->color == 3);
}

TEST_CASE("an empty, a truncated, a binary and a random file are refused with what and where") {
    CHECK(mentions(complaint(""), "empty"));
    const std::string whole = DxfText().entities().line(0, 0, 1, 0).done();
    const std::string cut = complaint(whole.substr(0, whole.size() / 2));
    CHECK(mentions(cut, "line"));
    std::string binary = "Anybody Binary DXF\r\n\x1a", other = "\x7f\x45";
    binary.push_back('\0'), other.push_back('\0');
    CHECK(mentions(complaint(binary), "binary DXF"));
    CHECK(mentions(complaint(other + " nonsense"), "offset 2"));
    CHECK(mentions(complaint("lorem ipsum\ndolor sit\n"), "line 1"));
    CHECK(mentions(complaint("AC1032 and then bytes"), "DXF"));
    CHECK(mentions(complaint("%PDF-1.7\n"), "PDF"));
}

TEST_CASE("a file cut anywhere is either refused or read, never worse") {
    const std::string whole = DxfText()
                                  .block("B", 0, 0)
                                  .circle(0, 0, 2)
                                  .endBlock()
                                  .entities()
                                  .line(0, 0, 9, 0)
                                  .dimension(0, 0, 9, 0, 0, 5, 0)
                                  .text(1, 1, "SCALE 1:2")
                                  .done();
    NoProgress quiet;
    for (size_t n = 0; n < whole.size(); n += 7) {
        const auto d = readDrawing(whole.substr(0, n), quiet);
        if (!d) CHECK_FALSE(d.error().message.empty());
    }
}

TEST_CASE("every entity of the sheets by another program is read or listed") {
    for (const Sample& s : samples()) {
        INFO(s.name);
        const Document doc = opened(s.path);
        const Drawing& d = *doc.model().drawing;
        CHECK(d.not_read.empty());
        CHECK(d.dimensions.size() >= s.truth["dimensions"].size());
        for (const Json& t : s.truth["dimensions"]) {
            const std::string handle = t["handle"];
            INFO("dimension " << handle);
            const auto it = std::find_if(d.dimensions.begin(), d.dimensions.end(),
                                         [&](const Dimension& x) { return x.handle == handle; });
            REQUIRE(it != d.dimensions.end());
            CHECK(std::string(nameOf(it->kind)) == t["type"].get<std::string>());
            CHECK(it->measured == Approx(t["measured"].get<double>()).epsilon(1e-6));
            const std::string text = plainText(t["text"].get<std::string>(), false);
            if (text.find("[tolerance") == std::string::npos) CHECK(it->text == text);
            if (text.find("x ") != std::string::npos) CHECK(it->count == t["count"].get<int>());
        }
    }
}
