#include "core/drawing/length_text.h"
#include "core/ledger/ledger.h"

#include <fmt/format.h>
#include <muParser.h>
#include <regex>

namespace prism {
namespace {

double millimetre(double v) {
    return v;
}
double centimetre(double v) {
    return v * 10;
}
double metre(double v) {
    return v * 1000;
}
double inch(double v) {
    return v * 25.4;
}
double degree(double v) {
    return v;
}

/// Angles are degrees in the ledger, so the trigonometric functions take and give degrees.
double sinDegrees(double v) {
    return std::sin(v * kPi / 180);
}
double cosDegrees(double v) {
    return std::cos(v * kPi / 180);
}
double tanDegrees(double v) {
    return std::tan(v * kPi / 180);
}
double atanDegrees(double v) {
    return std::atan(v) * 180 / kPi;
}

void prepare(mu::Parser& p) {
    p.DefinePostfixOprt("mm", millimetre);
    p.DefinePostfixOprt("cm", centimetre);
    p.DefinePostfixOprt("m", metre);
    p.DefinePostfixOprt("in", inch);
    p.DefinePostfixOprt("deg", degree);
    p.DefineFun("sin", sinDegrees);
    p.DefineFun("cos", cosDegrees);
    p.DefineFun("tan", tanDegrees);
    p.DefineFun("atan", atanDegrees);
}

bool plainNumber(const std::string& s) {
    static const std::regex number(R"(\s*[-+]?(\d+\.?\d*|\.\d+)([eE][-+]?\d+)?\s*)");
    return std::regex_match(s, number);
}

} // namespace

Result<double> evaluateFormula(const std::string& formula, const std::map<std::string, double>& values,
                               double plainUnit) {
    std::string text = formula;
    static const std::regex comma(
        R"((\d),(\d))"); // decimal comma: no function here takes numbers side by side
    if (text.find('(') == std::string::npos) text = std::regex_replace(text, comma, "$1.$2");
    if (const auto written = readWrittenLength(text))
        return written->value * (written->marked ? 25.4 : plainUnit);
    if (plainNumber(text)) return std::strtod(text.c_str(), nullptr) * plainUnit;
    try {
        mu::Parser p;
        prepare(p);
        std::map<std::string, double> copy = values;
        for (auto& [name, value] : copy) p.DefineVar(name, &value);
        p.SetExpr(text);
        const double v = p.Eval();
        if (!std::isfinite(v))
            return failure(ErrorCode::usage, fmt::format("\"{}\" has no finite value", formula));
        return v;
    } catch (const mu::Parser::exception_type& e) {
        return failure(ErrorCode::usage, fmt::format("\"{}\": {}", formula, e.GetMsg()));
    }
}

Result<void> takeTyped(NumberChoice& choice, const std::string& typed, double plainUnit) {
    if (!namesIn(typed).empty()) {
        choice.formula = typed;
        choice.value.reset();
        return {};
    }
    const auto v = evaluateFormula(typed, {}, plainUnit);
    if (!v) return tl::make_unexpected(v.error());
    choice.value = *v;
    choice.formula.clear();
    return {};
}

std::vector<std::string> namesIn(const std::string& formula) {
    try {
        mu::Parser p;
        prepare(p);
        p.SetExpr(formula);
        std::vector<std::string> r;
        for (const auto& [name, value] : p.GetUsedVar()) r.push_back(name);
        return r;
    } catch (const mu::Parser::exception_type&) {
        return {};
    }
}

} // namespace prism
