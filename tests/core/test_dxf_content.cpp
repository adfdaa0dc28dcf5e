#include "support/samples.h"

#include "core/base/text_encoding.h"
#include "core/reading/read.h"

#include <cstring>

using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

std::string sheet(const std::string& head, const std::string& entities) {
    return "0\nSECTION\n2\nHEADER\n" + head + "0\nENDSEC\n0\nSECTION\n2\nENTITIES\n" + entities +
           "0\nENDSEC\n0\nEOF\n";
}

Drawing read(const std::string& bytes, const ReadingChoices& choices = {}) {
    const auto d = readDrawing(bytes, choices, quiet);
    if (!d) FAIL(d.error().message);
    return *d;
}

std::string textSheet(const std::string& version, const std::string& page, const std::string& words) {
    return sheet("9\n$ACADVER\n1\n" + version + "\n9\n$DWGCODEPAGE\n3\n" + page + "\n",
                 "0\nTEXT\n8\n0\n10\n0\n20\n0\n40\n3\n1\n" + words + "\n");
}

/// Groups of a binary DXF with two-byte codes.
class Binary {
  public:
    Binary& text(int code, const std::string& s) { return head(code), bytes_ += s + '\0', *this; }
    Binary& real(int code, double v) { return head(code), raw(v), *this; }
    Binary& whole(int code, std::int16_t v) { return head(code), raw(v), *this; }
    std::string done() const { return std::string("Open Exch. Binary DXF\x1a", 22) + bytes_; }

  private:
    void head(int code) { raw(static_cast<std::int16_t>(code)); }
    template <class T> void raw(T v) {
        char b[sizeof v];
        std::memcpy(b, &v, sizeof v);
        bytes_.append(b, sizeof v);
    }
    std::string bytes_;
};

} // namespace

TEST_CASE("texts come in by the code page of their file, whatever its age") {
    CHECK(read(textSheet("AC1009", "ANSI_1251", "\xD0\xEE\xEB\xE8\xEA")).texts.at(0).content == "Ролик");
    CHECK(read(textSheet("AC1015", "ANSI_1252",
                         "Gr\xF6\xDF"
                         "e %%c12"))
              .texts.at(0)
              .content == "Größe Ø12");
    CHECK(read(textSheet("AC1015", "dos850", "\x94")).texts.at(0).content == "ö");
    CHECK(read(textSheet("AC1015", "ANSI_932", "\x83\x8D\x81\x5B")).texts.at(0).content == "ロー");
    CHECK(read(textSheet("AC1032", "ANSI_1252", "Größe")).texts.at(0).content == "Größe");
    CHECK(read(textSheet("AC1032", "ANSI_1252",
                         "Gr\xF6\xDF"
                         "e"))
              .texts.at(0)
              .content == "Größe"); // a careless writer
    CHECK(read(textSheet("AC1015", "NO_SUCH",
                         "\xB1"
                         "0.1"))
              .texts.at(0)
              .content == "±0.1");
    CHECK(plainText("\\M+1838D\\U+00D8", false) == "ロØ");
    CHECK(codePageNamed("ISO8859-2") == "ISO-8859-2");
}

TEST_CASE("a binary file holds what its groups say, and is answered when it is cut off") {
    Binary b;
    b.text(0, "SECTION").text(2, "ENTITIES").text(0, "LINE").text(8, "OUTLINE").text(5, "2A");
    b.real(10, 1.25).real(20, -3e-7).real(11, 1e6).real(21, 0.1).whole(62, 3);
    Binary whole = b;
    const Drawing d = read(whole.text(0, "ENDSEC").text(0, "EOF").done());
    REQUIRE(d.entities.size() == 1);
    CHECK(std::get<Segment>(d.entities[0].curves[0]) == Segment{{1.25, -3e-7}, {1e6, 0.1}});
    CHECK(d.entities[0].color == 3);
    const std::string bytes = b.done();
    for (size_t n : {bytes.size(), bytes.size() - 1, bytes.size() - 9, size_t{22}, size_t{23}}) {
        const auto cut = readDrawing(bytes.substr(0, n), quiet);
        REQUIRE_FALSE(cut);
        CHECK(cut.error().message.find("binary DXF") != std::string::npos);
    }
}

TEST_CASE("hatch boundaries of every edge kind are read and set aside as hatching") {
    const Drawing d =
        read(sheet("", "0\nHATCH\n8\nPART\n91\n2\n"
                       "92\n2\n72\n1\n73\n1\n93\n2\n10\n0\n20\n0\n42\n1\n10\n10\n20\n0\n42\n1\n97\n0\n"
                       "92\n1\n93\n4\n72\n1\n10\n20\n20\n0\n11\n30\n21\n0\n"
                       "72\n2\n10\n30\n20\n5\n40\n5\n50\n270\n51\n90\n73\n1\n"
                       "72\n2\n10\n25\n20\n10\n40\n5\n50\n180\n51\n360\n73\n0\n"
                       "72\n3\n10\n20\n20\n5\n11\n0\n21\n5\n40\n0.5\n50\n0\n51\n180\n73\n1\n97\n0\n75\n0\n"));
    REQUIRE(d.entities.size() == 1);
    const auto& c = d.entities[0].curves;
    REQUIRE(c.size() == 6);
    CHECK(std::get<Arc>(c[0]).radius == Approx(5));
    CHECK(distance(endOf(c[3]), {30, 10}) < 1e-9);
    CHECK(std::get<Arc>(c[4]).sweep == Approx(-kPi)); // clockwise, angles counted the other way round
    CHECK(distance(startOf(c[4]), {20, 10}) < 1e-9);
    CHECK(std::get<EllipseArc>(c[5]).sweep == Approx(kPi));
    CHECK(clean(d, {}).entity_roles[0] == LineRole::hatch);
}

TEST_CASE("leaders, multileaders with their notes, and multilines are read") {
    const Drawing d =
        read(sheet("", "0\nLEADER\n8\n0\n72\n0\n76\n3\n10\n0\n20\n0\n10\n5\n20\n5\n10\n9\n20\n5\n"
                       "0\nMULTILEADER\n8\n0\n300\nCONTEXT_DATA{\n40\n1\n10\n0\n20\n0\n41\n2.5\n304\nR5 "
                       "TYP\n12\n20\n22\n12\n"
                       "302\nLEADER{\n10\n12\n20\n10\n11\n1\n21\n0\n40\n3\n304\nLEADER_LINE{"
                       "\n10\n2\n20\n2\n305\n}\n303\n}\n301\n}\n"
                       "0\nMLINE\n8\n0\n71\n1\n72\n2\n11\n0\n21\n0\n13\n0\n23\n1\n74\n1\n41\n2\n75\n0\n74\n1"
                       "\n41\n-2\n75\n0\n"
                       "11\n10\n21\n0\n13\n0\n23\n1\n74\n1\n41\n2\n75\n0\n74\n1\n41\n-2\n75\n0\n"));
    REQUIRE(d.entities.size() == 3);
    CHECK(d.entities[0].curves.size() == 2);
    REQUIRE(d.entities[1].curves.size() == 2); // the line and its landing
    CHECK(std::get<Segment>(d.entities[1].curves[0]) == Segment{{2, 2}, {12, 10}});
    CHECK(std::get<Segment>(d.entities[1].curves[1]) == Segment{{12, 10}, {15, 10}});
    REQUIRE(d.texts.size() == 1);
    CHECK(d.texts[0].content == "R5 TYP");
    REQUIRE(d.entities[2].curves.size() == 2);
    CHECK(std::get<Segment>(d.entities[2].curves[0]) == Segment{{0, 2}, {10, 2}});
    CHECK(clean(d, {}).entity_roles[0] == LineRole::note);
}

TEST_CASE("lines without an end are cut to the sheet and are construction") {
    const Drawing d = read(sheet(
        "", "0\nLINE\n8\n0\n10\n0\n20\n0\n11\n100\n21\n50\n"
            "0\nXLINE\n8\n0\n10\n50\n20\n20\n11\n1\n21\n0\n0\nRAY\n8\n0\n10\n50\n20\n20\n11\n0\n21\n1\n"));
    REQUIRE(d.entities.size() == 3);
    const Segment x = std::get<Segment>(d.entities[1].curves.at(0)),
                  r = std::get<Segment>(d.entities[2].curves.at(0));
    CHECK(x.a.y == 20);
    CHECK(std::abs(x.b.x - x.a.x) > 100);
    CHECK(std::abs(x.b.x - x.a.x) < 120);
    CHECK(r.a == Vec2{50, 20});
    CHECK(r.b.y > 50);
    CHECK(clean(d, {}).entity_roles[1] == LineRole::construction);
}

TEST_CASE("a paper layout shows the model through its viewport, clipped and to scale") {
    const std::string bytes = sheet("", "0\nLINE\n5\nA1\n8\n0\n10\n0\n20\n0\n11\n80\n21\n0\n"
                                        "0\nLINE\n5\nA2\n8\n0\n10\n500\n20\n0\n11\n600\n21\n0\n"
                                        "0\nLINE\n5\nB1\n8\nFRAME\n67\n1\n10\n0\n20\n0\n11\n297\n21\n0\n"
                                        "0\nDIMENSION\n5\nD1\n8\nDIM\n67\n1\n70\n0\n10\n110\n20\n90\n11\n110"
                                        "\n21\n90\n13\n100\n23\n100\n14\n120\n24\n100\n"
                                        "0\nVIEWPORT\n5\nV1\n8\n0\n67\n1\n68\n1\n69\n2\n10\n110\n20\n100\n40"
                                        "\n100\n41\n50\n12\n40\n22\n0\n45\n100\n");
    const Drawing d = read(bytes);
    CHECK(d.layout == "Layout"); // dimensions are on the paper only
    REQUIRE(d.entities.size() == 2);
    CHECK(std::get<Segment>(d.entities[0].curves[0]).b.x == 297);
    const Segment s =
        std::get<Segment>(d.entities[1].curves[0]); // at half size, 40 in the model's x in the middle
    CHECK(distance(s.a, {90, 100}) < 1e-9);
    CHECK(distance(s.b, {130, 100}) < 1e-9);
    CHECK(d.entities[1].block_path == "viewport V1");
    CHECK(d.dimensions.size() == 1);
    REQUIRE(d.not_read.size() == 1);
    CHECK(d.not_read[0].reason.find("window of a paper layout") != std::string::npos);

    const Drawing model = read(bytes, {"Model", 1});
    CHECK(model.entities.size() == 2);
    CHECK(model.dimensions.empty());
    CHECK(model.not_read.size() == 2); // the frame and the dimension, told with their layout
    CHECK_FALSE(readDrawing(bytes, {"Elsewhere", 1}, quiet));
}

TEST_CASE("a line that leaves a viewport is cut at its window") {
    const Drawing d = read(
        sheet("", "0\nLINE\n8\n0\n10\n-100\n20\n0\n11\n100\n21\n0\n0\nCIRCLE\n8\n0\n10\n25\n20\n0\n40\n10\n"
                  "0\nVIEWPORT\n5\nV1\n8\n0\n67\n1\n68\n1\n69\n2\n10\n0\n20\n0\n40\n50\n41\n50\n12\n0\n22\n0"
                  "\n45\n50\n"),
        {"Layout", 1});
    REQUIRE(d.entities.size() == 2);
    CHECK(lengthOf(d.entities[0].curves.at(0)) == Approx(50));
    REQUIRE(d.entities[1].curves.size() == 1);
    CHECK(lengthOf(d.entities[1].curves[0]) == Approx(10 * kPi));
    CHECK(pointAt(d.entities[1].curves[0], 0.5).x == Approx(15));
}

TEST_CASE("a closed format is known by its first bytes, with what to ask for instead") {
    const auto d = readDrawing(std::string("AC1027\0\0", 8), quiet);
    REQUIRE_FALSE(d);
    CHECK(d.error().code == ErrorCode::unreadable);
    CHECK(d.error().message.find("DXF") != std::string::npos);
}

TEST_CASE("views that lie on several paper layouts are read side by side when all layouts are wanted") {
    test::DxfText t;
    t.block("*Paper_Space0", 0, 0).box(0, 60, 80, 110).endBlock();
    t.entities();
    for (const auto& [a, b] : {std::pair{Vec2{0, 0}, Vec2{80, 0}},
                               {Vec2{80, 0}, Vec2{80, 30}},
                               {Vec2{80, 30}, Vec2{0, 30}},
                               {Vec2{0, 30}, Vec2{0, 0}}})
        t.group(0, "LINE")
            .group(8, "OUTLINE")
            .group(67, "1")
            .group(10, a.x)
            .group(20, a.y)
            .group(11, b.x)
            .group(21, b.y);
    const std::string bytes = t.done();
    const Drawing one = read(bytes);
    CHECK(one.entities.size() == 4);
    REQUIRE(one.layouts.size() == 4);
    CHECK(one.layouts.back() == kAllLayouts);
    CHECK(one.not_read.size() == 1);
    const Drawing all = read(bytes, {kAllLayouts, 1});
    CHECK(all.layout == kAllLayouts);
    REQUIRE(all.entities.size() == 8);
    CHECK(all.not_read.empty());
    Box2 first, second;
    for (int i = 0; i < 4; ++i)
        first.add(boxOf(all.entities[i].curves[0])), second.add(boxOf(all.entities[i + 4].curves[0]));
    CHECK(first.width() == Approx(80));
    CHECK(second.width() == Approx(80));
    CHECK(second.lo.x == Approx(first.hi.x + 8));
    CHECK(second.lo.y == Approx(60));
    // A drawing without two layouts has nothing to put side by side.
    CHECK_FALSE(
        readDrawing(sheet("", "0\nLINE\n8\n0\n10\n0\n20\n0\n11\n80\n21\n0\n"), {kAllLayouts, 1}, quiet));
}

TEST_CASE("texts stand by whichever of their points and corners the file names") {
    struct Stands {
        int h, v;           // groups 72 and 73
        double x;           // of the point that counts: the first is at 3, the second at 8
        int halign, valign; // -1 left or foot, 0 middle, 1 right or head
    };
    // Left, centre, right, aligned, middle, fit; foot of the letters, below them, half their height, their
    // head.
    for (const Stands& t : {Stands{0, 0, 3, -1, -1},
                            {1, 0, 8, 0, -1},
                            {2, 0, 8, 1, -1},
                            {3, 0, 3, -1, -1},
                            {4, 0, 8, 0, 0},
                            {5, 0, 3, -1, -1},
                            {0, 1, 8, -1, -1},
                            {0, 2, 8, -1, 0},
                            {0, 3, 8, -1, 1},
                            {2, 2, 8, 1, 0},
                            {1, 3, 8, 0, 1},
                            {2, 1, 8, 1, -1}}) {
        CAPTURE(t.h, t.v);
        const Drawing d =
            read(sheet("", "0\nTEXT\n8\n0\n10\n3\n20\n4\n11\n8\n21\n9\n40\n-2.5\n50\n30\n1\nA\n72\n" +
                               std::to_string(t.h) + "\n73\n" + std::to_string(t.v) + "\n"));
        REQUIRE(d.texts.size() == 1);
        CHECK(d.texts[0].position == Vec2{t.x, t.x + 1});
        CHECK(d.texts[0].halign == t.halign);
        CHECK(d.texts[0].valign == t.valign);
        CHECK(d.texts[0].height == 2.5);
        CHECK(d.texts[0].rotation == Approx(kPi / 6));
    }
    // Attachment of a paragraph: rows from the head down, columns from the left.
    for (int attach = 1; attach <= 9; ++attach) {
        const Drawing d = read(sheet("", "0\nMTEXT\n8\n0\n10\n3\n20\n4\n40\n2\n1\nA\n71\n" +
                                             std::to_string(attach) + "\n11\n0\n21\n1\n"));
        REQUIRE(d.texts.size() == 1);
        CHECK(d.texts[0].halign == (attach - 1) % 3 - 1);
        CHECK(d.texts[0].valign == 1 - (attach - 1) / 3);
        CHECK(d.texts[0].rotation == Approx(kPi / 2));
    }
}

TEST_CASE(
    "a spline of the first degree is the chain of its poles, one of the second the parabola they make") {
    const auto splineOf = [](int degree, const std::vector<double>& knots, const std::vector<Vec2>& poles,
                             const std::vector<double>& weights = {}) {
        std::string e = fmt::format("0\nSPLINE\n8\n0\n71\n{}\n", degree);
        for (double k : knots) e += fmt::format("40\n{}\n", k);
        for (double w : weights) e += fmt::format("41\n{}\n", w);
        for (Vec2 p : poles) e += fmt::format("10\n{}\n20\n{}\n", p.x, p.y);
        return read(sheet("", e)).entities.at(0).curves;
    };
    double length = 0;
    for (const Curve& c : splineOf(1, {0, 0, 1, 2, 2}, {{0, 0}, {30, 40}, {30, 100}})) length += lengthOf(c);
    CHECK(length == Approx(50 + 60).epsilon(1e-6));
    const auto bowed = splineOf(2, {0, 0, 0, 1, 1, 1}, {{0, 0}, {10, 20}, {20, 0}});
    REQUIRE(bowed.size() == 1);
    CHECK(distance(pointAt(bowed[0], 0.5), {10, 10}) < 1e-9);
    // With weights a quarter of a circle; with fewer weights than poles they are none.
    const std::vector<Vec2> corner{{10, 0}, {10, 10}, {0, 10}};
    const auto round = splineOf(2, {0, 0, 0, 1, 1, 1}, corner, {1, std::sqrt(0.5), 1});
    REQUIRE(round.size() == 1);
    for (double t : {0.2, 0.5, 0.9}) CHECK(distance(pointAt(round[0], t), {0, 0}) == Approx(10));
    const auto plain = splineOf(2, {0, 0, 0, 1, 1, 1}, corner, {1, std::sqrt(0.5)});
    REQUIRE(plain.size() == 1);
    CHECK(distance(pointAt(plain[0], 0.5), {7.5, 7.5}) < 1e-9);
}
