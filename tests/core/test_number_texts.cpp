#include "core/base/text_scanner.h"
#include "core/drawing/drawing.h"
#include "core/drawing/length_text.h"
#include "core/ledger/ledger.h"
#include "core/views/labels.h"

#include <clocale>

using namespace prism;

namespace {

Dimension said(const std::string& text, double measured = 40) {
    Dimension d;
    d.text = text, d.measured = measured;
    readDimensionText(d);
    return d;
}

} // namespace

TEST_CASE("numbers are read with a point, a comma and grouped thousands") {
    CHECK(numberIn("12.5") == 12.5);
    CHECK(numberIn(" 12,5 ") == 12.5);
    CHECK(numberIn("-0.25") == -0.25);
    CHECK(numberIn("1,234.5") == 1234.5);
    CHECK(numberIn("1.234.567,5") == 1234567.5);
    CHECK(numberIn("1e-3") == 1e-3);
    CHECK(numberIn(".5") == 0.5);
    CHECK(numberIn("1,234") == 1.234); // nothing says that it groups
    for (const char* none : {"", "-", "12 13", "1,2,3", "x", "nan", "inf", "1e999", "12mm", "--3"})
        CHECK_FALSE(numberIn(none));
    CHECK_FALSE(numberIn(std::string(400, '9')));
    CHECK_FALSE(numberIn(std::string(100000, '1')));
}

TEST_CASE("ratios, words and whole numbers are found where they stand") {
    CHECK(ratioIn("DETAIL C (2:1)", ":") == 2);
    CHECK(ratioIn("SCALE 1 : 2,5", ":/") == 0.4);
    CHECK_FALSE(ratioIn("SCALE 0:1", ":"));
    CHECK_FALSE(ratioIn("1/2", ":"));
    CHECK(findWord("ALL IN MM.", "MM") == 7);
    CHECK(findWord("HAMMER", "MM") == std::string::npos);
    TextScanner s("12x9");
    CHECK(s.whole() == 12);
    CHECK(s.take("x"));
    CHECK(s.whole() == 9);
    CHECK(s.atEnd());
    CHECK_FALSE(TextScanner("1234567890123456").whole());
    // An exponent is an e with digits; any other letter is none of the number.
    for (const auto& [text, value, rest] : std::vector<std::tuple<std::string, double, std::string>>{
             {"5x3", 5, "x3"}, {"-2e3", -2000, ""}, {"2E-3", 0.002, ""}, {"4e", 4, "e"}, {"7H7", 7, "H7"}}) {
        TextScanner n(text);
        INFO(text);
        const auto v = n.signedNumber();
        REQUIRE(v);
        CHECK(*v == Approx(value));
        CHECK(n.rest() == rest);
    }
}

TEST_CASE("parentheses round words make no reference dimension, those round the number do") {
    CHECK_FALSE(said("80 (TYP)").reference);
    CHECK_FALSE(said("4x 80 (2 SIDES)").reference);
    CHECK_FALSE(said("(2x) 80").reference);
    CHECK_FALSE(said("(TYP) 80").reference);
    CHECK(said("(80)").reference);
    CHECK(said("2x (80)").reference);
    CHECK(said("80 REF").reference);
    CHECK(said("4x 80 (2 SIDES)").count == 4);
    CHECK(said("4x 80 (2 SIDES)").value == 80);
    CHECK(said("(2x) 80").count == 2);
}

TEST_CASE("texts that are no numbers end at once and leave the measurement") {
    CHECK(said(std::string(1000, '7')).value == 40);
    CHECK(said(std::string(200000, '(')).value == 40);
    CHECK(said("+" + std::string(3000, ' ') + "1/2").value == 40); // beyond what anybody writes
    CHECK(said(std::string(50000, '1') + "/" + std::string(50000, '2')).value == 40);
    CHECK(said("25 +0.2/0.1").minus == Approx(0.1));
    CHECK(said("25 +0.2 -0.1").minus == Approx(0.1));
}

TEST_CASE("lengths may be written in any unit, whole, decimal or as a fraction") {
    auto mm = [](const std::string& s) {
        const auto l = readWrittenLength(s);
        return l && l->mm ? l->value * *l->mm : -1;
    };
    CHECK(mm("4 3/4 in") == Approx(4.75 * 25.4));
    CHECK(mm("120 mm") == 120);
    CHECK(mm("1,5 m") == 1500);
    CHECK(mm("2.5 cm") == 25);
    CHECK(mm("6 ft") == Approx(6 * 304.8));
    CHECK(mm("5' 4\"") == Approx(64 * 25.4));
    CHECK_FALSE(readWrittenLength("12 miles"));
    CHECK_FALSE(readWrittenLength("120"));
}

TEST_CASE("a formula is plain arithmetic and has one value") {
    auto value = [](const std::string& s, double unit = 1) {
        return evaluateFormula(s, {{"a", 50.8}, {"w", 30}}, unit, {"w"});
    };
    CHECK(value("(12,5 + 7,5) * 2").value() == 40);
    CHECK(value("max(1,5; 2,5)").value() == 2.5);
    CHECK(value("max(3, 2)").value() == 3);
    CHECK(value("a + 1", 25.4).value() == Approx(76.2)); // a bare number is in the sheet's unit
    CHECK(value("a + 1 mm", 25.4).value() == Approx(51.8));
    CHECK(value("a * 2", 25.4).value() == Approx(101.6));
    CHECK(value("a * sin(w)", 25.4).value() == Approx(25.4));
    CHECK(value("a * cos(w)", 25.4).value() == Approx(50.8 * std::sqrt(3) / 2));
    CHECK(value("a * tan(w + w / 2)", 25.4).value() == Approx(50.8));
    for (const char* wrong : {"1,2,3", "a=5", "a == 5", "1 ? 2 : 3", "a, a", "\"x\"", "1e308 * 10"}) {
        INFO(wrong);
        CHECK_FALSE(value(wrong));
    }
    for (const char* endless : {"1e308", "1e308 in", "1e308 + 0", "a * 1e307"}) {
        INFO(endless);
        CHECK_FALSE(value(endless, 25.4)); // finite as it is written, not in millimetres
    }
    NumberChoice c;
    CHECK_FALSE(takeTyped(c, "x2=5", 1));
    CHECK_FALSE(takeTyped(c, "1/0", 1));
    REQUIRE(takeTyped(c, "2", 25.4));
    CHECK(*c.value == Approx(50.8));
}

TEST_CASE("numbers do not hang on the machine's locale") {
    const std::string was = std::setlocale(LC_NUMERIC, nullptr);
    const bool comma =
        std::setlocale(LC_NUMERIC, "de_DE.UTF-8") != nullptr; // made for the tests; see LOCPATH
    CHECK(numberIn("12.5") == 12.5);
    CHECK(said("R5.5 ±0.05").plus == Approx(0.05));
    CHECK(evaluateFormula("a + 0.5", {{"a", 1}}).value() == 1.5);
    CHECK(views::readLabel("DETAIL C (2.5:1)")->scale == 2.5);
    std::setlocale(LC_NUMERIC, was.c_str());
    if (!comma) WARN("no locale with a decimal comma was found under LOCPATH; only the plain one was tried");
}

TEST_CASE("labels tell role, letter and scale") {
    const auto section = views::readLabel("Section B - B (1:2)");
    REQUIRE(section);
    CHECK(section->role == Role::section);
    CHECK(section->letter == "B");
    CHECK(section->scale == 0.5);
    CHECK(views::readLabel("A-A")->letter == "A");
    CHECK_FALSE(views::readLabel("A-B"));
    CHECK_FALSE(views::readLabel("AA-AA"));
    CHECK(views::readLabel("VIEW C")->role == Role::auxiliary);
    CHECK(views::readLabel("TOP VIEW")->role == Role::top);
    CHECK(views::readLabel("DETAIL D")->letter == "D");
}

TEST_CASE("every kind of blank is skipped, and nothing else") {
    TextScanner t(" \t\n\v\f\r12\r\n");
    t.skipSpaces();
    CHECK(t.position() == 6);
    CHECK(t.whole() == 12);
    t.skipSpaces();
    CHECK(t.atEnd());
    for (const char c : {'\b', '\x0e', '_', '!', '\0'}) {
        TextScanner other(std::string_view(&c, 1));
        other.skipSpaces();
        CHECK(other.position() == 0);
    }
}
