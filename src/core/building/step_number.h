#pragma once
#include <string>

namespace prism {

/// A number of a step, mm: a value, or a formula over names of the ledger that gives the value whenever the
/// solid is built ("r1", "bore + 2 mm").
struct StepNumber {
    double value = 0;
    std::string formula;
    StepNumber(double v = 0) : value(v) {}
    StepNumber(double v, std::string f) : value(v), formula(std::move(f)) {}
    operator double() const { return value; }
    /// Whether it says anything; zero stands for "as the figure has it".
    bool given() const { return value != 0 || !formula.empty(); }
    friend bool operator==(const StepNumber&, const StepNumber&) = default;
};

} // namespace prism
