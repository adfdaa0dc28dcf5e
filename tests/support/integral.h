#pragma once
#include <functional>

namespace prism::test {

/// By Simpson's rule over so many steps, an even number.
inline double integral(double from, double to, const std::function<double(double)>& of, int steps = 4000) {
    const double h = (to - from) / steps;
    double sum = of(from) + of(to);
    for (int i = 1; i < steps; ++i) sum += (i % 2 ? 4 : 2) * of(from + i * h);
    return sum * h / 3;
}

} // namespace prism::test
