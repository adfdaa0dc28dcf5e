#include "core/base/text_scanner.h"
#include "core/drawing/length_text.h"
#include "core/ledger/ledger.h"

#include <fmt/format.h>
#include <muParser.h>

namespace prism {
namespace {

/// Millimetres in one of the units that bare numbers of the expression at hand count in: the parser takes
/// plain functions only.
thread_local double t_unit = 1;

double millimetre(double v) {
    return v / t_unit;
}
double centimetre(double v) {
    return v * 10 / t_unit;
}
double metre(double v) {
    return v * 1000 / t_unit;
}
double inch(double v) {
    return v * 25.4 / t_unit;
}
double foot(double v) {
    return v * 304.8 / t_unit;
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
    p.DefinePostfixOprt("ft", foot);
    p.DefinePostfixOprt("deg", degree);
    p.DefineFun("sin", sinDegrees);
    p.DefineFun("cos", cosDegrees);
    p.DefineFun("tan", tanDegrees);
    p.DefineFun("atan", atanDegrees);
}

/// What an expression may hold besides letters, digits and blanks: plain arithmetic, nothing else.
constexpr std::string_view kSigns = "+-*/^(),;._";
constexpr size_t kLongestFormula = 1000;

/// Why a text is no formula; empty when it may be one.
std::string wrongIn(const std::string& formula) {
    if (formula.size() > kLongestFormula) return fmt::format("longer than {} characters", kLongestFormula);
    for (const char c : formula)
        if (!std::isalnum(static_cast<unsigned char>(c)) && c != ' ' &&
            kSigns.find(c) == std::string_view::npos)
            return fmt::format("\"{}\" has no place in a formula", c);
    return {};
}

/// Decimal commas made points, semicolons between the arguments of a function commas. Between the parentheses
/// of a function that takes several arguments a comma separates them, unless semicolons do.
std::string withPoints(const std::string& formula) {
    const bool semicolons = formula.find(';') != std::string::npos;
    std::vector<bool> separates{false}; // by open parenthesis
    std::string r = formula;
    for (size_t i = 0; i < r.size(); ++i) {
        if (r[i] == '(') {
            size_t from = i;
            while (from > 0 && std::isalpha(static_cast<unsigned char>(r[from - 1]))) --from;
            const std::string name = r.substr(from, i - from);
            separates.push_back(!semicolons &&
                                (name == "min" || name == "max" || name == "sum" || name == "avg"));
        } else if (r[i] == ')') {
            if (separates.size() > 1) separates.pop_back();
        } else if (r[i] == ',' && !separates.back() && i > 0 && i + 1 < r.size() &&
                   TextScanner::isDigit(r[i - 1]) && TextScanner::isDigit(r[i + 1]))
            r[i] = '.';
        else if (r[i] == ';')
            r[i] = ',';
    }
    return r;
}

} // namespace

Result<double> evaluateFormula(const std::string& formula, const std::map<std::string, double>& values,
                               double plainUnit, const std::set<std::string>& angles) {
    const auto finite = [&](double v) -> Result<double> {
        if (std::isfinite(v)) return v;
        return failure(ErrorCode::usage, fmt::format("\"{}\" has no finite value", formula.substr(0, 60)));
    };
    if (const auto v = numberIn(formula)) return finite(*v * plainUnit);
    if (const auto written = readWrittenLength(formula))
        return finite(written->value * written->mm.value_or(plainUnit));
    if (const std::string why = wrongIn(formula); !why.empty())
        return failure(ErrorCode::usage, fmt::format("\"{}\": {}", formula.substr(0, 60), why));
    try {
        mu::Parser p;
        prepare(p);
        std::map<std::string, double> copy = values;
        for (auto& [name, value] : copy) {
            if (!angles.contains(name)) value /= plainUnit;
            p.DefineVar(name, &value);
        }
        p.SetExpr(withPoints(formula));
        t_unit = plainUnit;
        int results = 0;
        const double* v = p.Eval(results);
        if (results != 1)
            return failure(ErrorCode::usage,
                           fmt::format("\"{}\": {} values where one is needed", formula, results));
        return finite(*v * plainUnit);
    } catch (const mu::Parser::exception_type& e) {
        return failure(ErrorCode::usage, fmt::format("\"{}\": {}", formula, e.GetMsg()));
    }
}

Result<void> takeTyped(NumberChoice& choice, const std::string& typed, double plainUnit) {
    if (const std::string why = wrongIn(typed); !why.empty() && !readWrittenLength(typed))
        return failure(ErrorCode::usage, fmt::format("\"{}\": {}", typed.substr(0, 60), why));
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
        p.SetExpr(withPoints(formula));
        std::vector<std::string> r;
        for (const auto& [name, value] : p.GetUsedVar()) r.push_back(name);
        return r;
    } catch (const mu::Parser::exception_type&) {
        return {};
    }
}

std::string withNames(const std::string& formula, const std::map<std::string, std::string>& names) {
    auto first = [](char c) { return TextScanner::isLetter(c) || c == '_'; };
    std::string r;
    for (size_t i = 0; i < formula.size();) {
        size_t end = i + 1;
        if (first(formula[i]))
            while (end < formula.size() && (first(formula[end]) || TextScanner::isDigit(formula[end]))) ++end;
        const std::string word = formula.substr(i, end - i);
        const auto n = names.find(word);
        r += n == names.end() ? word : n->second;
        i = end;
    }
    return r;
}

} // namespace prism
