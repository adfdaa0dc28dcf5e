#include "core/base/groups.h"
#include "core/solving/elimination.h"

#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>
#include <numeric>

namespace prism {
namespace {

using Sparse = Eigen::SparseMatrix<double>;

void sortByRank(const std::vector<Equation>& eq, std::vector<int>& order) {
    std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
        if (eq[a].level != eq[b].level) return eq[a].level < eq[b].level;
        return eq[a].score > eq[b].score;
    });
}

/// Fills the outcome's lists and returns the independent equations to be solved. Which equations make a
/// contradiction is worked out only once there is one that cannot give way: it costs far more than the rest.
std::vector<int> choose(const std::vector<Equation>& eq, const std::vector<int>& order,
                        const std::vector<double>& x, double tol, bool explain, SolveOutcome& out) {
    Elimination elimination(explain);
    std::vector<int> kept;
    std::vector<Term> gradient;
    for (int i : order) {
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
            if (!explain) {
                out.redundant.clear(), out.let_go.clear();
                return choose(eq, order, x, tol, true, out);
            }
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

/// The step of least weighted length: W^-1 J^T (J W^-1 J^T + lambda)^-1 (-F). Only the unknowns of the
/// equations take part, in the order in which they occur.
class Stepper {
  public:
    Stepper(const std::vector<Equation>& eq, const std::vector<int>& kept, size_t unknowns)
        : eq_(eq), kept_(kept), column_(unknowns, -1) {
        for (int i : kept)
            for (int v : unknownsOf(eq[i]))
                if (column_[v] < 0) column_[v] = static_cast<int>(variables_.size()), variables_.push_back(v);
    }
    const std::vector<int>& variables() const { return variables_; }
    /// By place in variables().
    Eigen::VectorXd step(const std::vector<double>& x, const std::vector<double>& weights,
                         double lambda) const {
        const int m = static_cast<int>(kept_.size()), n = static_cast<int>(variables_.size());
        std::vector<Eigen::Triplet<double>> entries;
        Eigen::VectorXd f(m);
        std::vector<Term> gradient;
        for (int r = 0; r < m; ++r) {
            gradient.clear();
            f[r] = -evaluate(eq_[kept_[r]], x, &gradient);
            for (const Term& t : gradient) entries.emplace_back(r, column_[t.variable], t.factor);
        }
        Sparse j(m, n);
        j.setFromTriplets(entries.begin(), entries.end());
        Eigen::VectorXd inverse(n);
        for (int i = 0; i < n; ++i) inverse[i] = 1 / weights[variables_[i]];
        const Sparse jt = j.transpose();
        Sparse normal = j * (inverse.asDiagonal() * jt);
        for (int r = 0; r < m; ++r) normal.coeffRef(r, r) *= 1 + lambda;
        Eigen::SimplicialLDLT<Sparse> ldlt(normal);
        return inverse.asDiagonal() * (jt * ldlt.solve(f));
    }

  private:
    const std::vector<Equation>& eq_;
    const std::vector<int>& kept_;
    std::vector<int> column_, variables_;
};

std::vector<double> moved(const std::vector<double>& x, const std::vector<int>& variables,
                          const Eigen::VectorXd& dx, double f) {
    std::vector<double> r = x;
    for (size_t i = 0; i < variables.size(); ++i) r[variables[i]] += f * dx[static_cast<long>(i)];
    return r;
}

SolveOutcome solveOrdered(const std::vector<Equation>& eq, std::vector<int> order,
                          const std::vector<double>& start, const std::vector<double>& weights,
                          double tolerance) {
    SolveOutcome out;
    out.x = start;
    sortByRank(eq, order);
    const std::vector<int> kept = choose(eq, order, start, tolerance * 1e3, false, out);
    if (!out.clashes.empty()) return out;
    out.worst = worstOf(eq, kept, out.x);
    constexpr int kMost = 40;
    double lambda = 1e-14;
    const Stepper stepper(eq, kept, start.size());
    while (out.worst > tolerance && out.iterations < kMost) {
        ++out.iterations;
        const auto dx = stepper.step(out.x, weights, lambda);
        double f = 1;
        std::vector<double> next = moved(out.x, stepper.variables(), dx, f);
        double w = worstOf(eq, kept, next);
        for (; !(w < out.worst) && f > 1e-3; f /= 2)
            next = moved(out.x, stepper.variables(), dx, f / 2), w = worstOf(eq, kept, next);
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

} // namespace

std::vector<int> unknownsOf(const Equation& e) {
    std::vector<int> r;
    if (e.kind == EquationKind::linear) {
        for (const Term& t : e.terms) r.push_back(t.variable);
        return r;
    }
    const int n = e.kind == EquationKind::point_on_circle                          ? 5
                  : e.kind == EquationKind::distance                               ? 4
                  : e.kind == EquationKind::angle || e.kind == EquationKind::along ? 8
                                                                                   : 6;
    r.assign(e.v.begin(), e.v.begin() + n);
    return r;
}

std::vector<int> hangingTogether(const std::vector<int>& seeds, const std::vector<Equation>& eq,
                                 size_t unknowns) {
    Groups groups(unknowns);
    for (const Equation& e : eq) {
        const auto v = unknownsOf(e);
        for (size_t i = 1; i < v.size(); ++i) groups.join(v[0], v[i]);
    }
    std::vector<bool> wanted(unknowns, false);
    for (int i : seeds)
        for (int v : unknownsOf(eq[i])) wanted[groups.find(v)] = true;
    std::vector<int> r;
    for (size_t i = 0; i < eq.size(); ++i)
        if (const auto v = unknownsOf(eq[i]); !v.empty() && wanted[groups.find(v[0])])
            r.push_back(static_cast<int>(i));
    return r;
}

SolveOutcome solve(const std::vector<Equation>& eq, const std::vector<double>& start,
                   const std::vector<double>& weights, double tolerance) {
    std::vector<int> all(eq.size());
    std::iota(all.begin(), all.end(), 0);
    return solveOrdered(eq, std::move(all), start, weights, tolerance);
}

SolveOutcome solveFrom(const std::vector<int>& seeds, const std::vector<Equation>& eq,
                       const std::vector<double>& start, const std::vector<double>& weights,
                       double tolerance) {
    return solveOrdered(eq, hangingTogether(seeds, eq, start.size()), start, weights, tolerance);
}

} // namespace prism
