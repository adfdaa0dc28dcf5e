#include "core/solving/elimination.h"

#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>
#include <numeric>

namespace prism {
namespace {

using Sparse = Eigen::SparseMatrix<double>;

std::vector<int> inOrder(const std::vector<Equation>& eq) {
    std::vector<int> order(eq.size());
    std::iota(order.begin(), order.end(), 0);
    std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
        if (eq[a].level != eq[b].level) return eq[a].level < eq[b].level;
        return eq[a].score > eq[b].score;
    });
    return order;
}

/// Fills the outcome's lists and returns the independent equations to be solved.
std::vector<int> choose(const std::vector<Equation>& eq, const std::vector<double>& x, double tol,
                        SolveOutcome& out) {
    Elimination elimination;
    std::vector<int> kept;
    std::vector<Term> gradient;
    for (int i : inOrder(eq)) {
        gradient.clear();
        const double f = evaluate(eq[i], x, &gradient);
        Clash clash;
        const auto verdict = elimination.add(i, gradient, -f, tol, &clash.equations);
        if (verdict == Elimination::Verdict::independent)
            kept.push_back(i);
        else if (verdict == Elimination::Verdict::redundant)
            out.redundant.push_back(i);
        else if (eq[i].level == Level::weak)
            out.let_go.push_back(i);
        else {
            clash.equations.push_back(i);
            out.clashes.push_back(std::move(clash));
        }
    }
    return kept;
}

double worstOf(const std::vector<Equation>& eq, const std::vector<int>& which, const std::vector<double>& x) {
    double w = 0;
    for (int i : which) w = std::max(w, std::abs(evaluate(eq[i], x, nullptr)));
    return w;
}

/// The step of least weighted length: W^-1 J^T (J W^-1 J^T + lambda)^-1 (-F).
std::vector<double> step(const std::vector<Equation>& eq, const std::vector<int>& kept,
                         const std::vector<double>& x, const std::vector<double>& weights, double lambda) {
    const int m = static_cast<int>(kept.size()), n = static_cast<int>(x.size());
    std::vector<Eigen::Triplet<double>> entries;
    Eigen::VectorXd f(m);
    std::vector<Term> gradient;
    for (int r = 0; r < m; ++r) {
        gradient.clear();
        f[r] = -evaluate(eq[kept[r]], x, &gradient);
        for (const Term& t : gradient) entries.emplace_back(r, t.variable, t.factor);
    }
    Sparse j(m, n);
    j.setFromTriplets(entries.begin(), entries.end());
    Eigen::VectorXd inverse(n);
    for (int i = 0; i < n; ++i) inverse[i] = 1 / weights[i];
    const Sparse jt = j.transpose();
    Sparse normal = j * (inverse.asDiagonal() * jt);
    for (int r = 0; r < m; ++r) normal.coeffRef(r, r) *= 1 + lambda;
    Eigen::SimplicialLDLT<Sparse> ldlt(normal);
    const Eigen::VectorXd dx = inverse.asDiagonal() * (jt * ldlt.solve(f));
    return {dx.data(), dx.data() + n};
}

std::vector<double> moved(const std::vector<double>& x, const std::vector<double>& dx, double f) {
    std::vector<double> r = x;
    for (size_t i = 0; i < x.size(); ++i) r[i] += f * dx[i];
    return r;
}

} // namespace

SolveOutcome solve(const std::vector<Equation>& eq, const std::vector<double>& start,
                   const std::vector<double>& weights, double tolerance) {
    SolveOutcome out;
    out.x = start;
    const std::vector<int> kept = choose(eq, start, tolerance * 1e3, out);
    if (!out.clashes.empty()) return out;
    out.worst = worstOf(eq, kept, out.x);
    constexpr int kMost = 40;
    double lambda = 1e-14;
    while (out.worst > tolerance && out.iterations < kMost) {
        ++out.iterations;
        const auto dx = step(eq, kept, out.x, weights, lambda);
        double f = 1;
        std::vector<double> next = moved(out.x, dx, f);
        double w = worstOf(eq, kept, next);
        for (; !(w < out.worst) && f > 1e-3; f /= 2)
            next = moved(out.x, dx, f / 2), w = worstOf(eq, kept, next);
        if (!(w < out.worst)) {
            if (out.worst < tolerance * 10) break; // at the limit of the digits
            lambda = lambda * 100;
            if (lambda > 1) break;
            continue;
        }
        out.x = std::move(next);
        out.worst = w;
    }
    out.converged = out.worst <= tolerance * 10;
    return out;
}

} // namespace prism
