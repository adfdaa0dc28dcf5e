#include "core/base/groups.h"
#include "core/solving/elimination.h"

#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>
#include <numeric>

namespace prism {
namespace {

using Sparse = Eigen::SparseMatrix<double>;

constexpr double kRough = 1e-5; ///< where the start is known no better, equations are told apart in two steps

void sortByRank(const std::vector<Equation>& eq, std::vector<int>& order) {
    std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
        if (eq[a].level != eq[b].level) return eq[a].level < eq[b].level;
        return eq[a].score > eq[b].score;
    });
}

/// How small a factor may be in the elimination, as a share of its row's largest, and still say something.
struct Least {
    double given = kRounding;    ///< in what the drawing says and in numbers
    double inferred = kRounding; ///< in what was concluded from the drawing
    double of(const Equation& e) const {
        return e.level == Level::structure || e.level == Level::number ? given : inferred;
    }
};

/// Fills the outcome's lists and returns the independent equations to be solved. Which equations make a
/// contradiction is worked out only once there is one that cannot give way: it costs far more than the rest.
std::vector<int> choose(const std::vector<Equation>& eq, const std::vector<int>& order,
                        const std::vector<double>& x, double tol, const Least& least, bool explain,
                        SolveOutcome& out) {
    Elimination elimination(explain);
    std::vector<int> kept;
    std::vector<Term> gradient;
    for (int i : order) {
        gradient.clear();
        const double f = evaluate(eq[i], x, &gradient);
        Clash clash;
        const auto verdict = elimination.add(i, gradient, -f, tol, &clash.equations, least.of(eq[i]));
        if (verdict == Elimination::Verdict::independent)
            kept.push_back(i);
        else if (verdict == Elimination::Verdict::redundant)
            out.redundant.push_back(i);
        else if (eq[i].level == Level::weak || (eq[i].level == Level::strong && least.inferred > kRounding))
            out.let_go.push_back(i);
        else {
            if (!explain) {
                out.redundant.clear(), out.let_go.clear();
                return choose(eq, order, x, tol, least, true, out);
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

/// Newton steps from `out.x` until the kept equations hold.
void settle(const std::vector<Equation>& eq, const std::vector<int>& kept, const std::vector<double>& weights,
            double tolerance, SolveOutcome& out) {
    out.worst = worstOf(eq, kept, out.x);
    constexpr int kMost = 40;
    double lambda = 1e-14;
    const Stepper stepper(eq, kept, out.x.size());
    for (int i = 0; out.worst > tolerance && i < kMost; ++i) {
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
}

/// How exactly the start is known, as a share of the smallest length that a factor of the elimination hangs
/// on: what the drawing says and what was concluded from it hold no better than this before anything is
/// solved.
double doubtOf(const std::vector<Equation>& eq, const std::vector<int>& order, const std::vector<double>& x) {
    double off = 0, smallest = 1e300;
    for (int i : order) {
        const Equation& e = eq[i];
        if (e.level == Level::structure || e.level == Level::strong)
            off = std::max(off, std::abs(evaluate(e, x, nullptr)));
        if (e.kind == EquationKind::point_on_circle) smallest = std::min(smallest, std::abs(x[e.v[4]]));
    }
    return smallest < 1e300 && smallest > 0 ? off / smallest : 0;
}

SolveOutcome solveOrdered(const std::vector<Equation>& eq, std::vector<int> order,
                          const std::vector<double>& start, const std::vector<double>& weights,
                          double tolerance) {
    SolveOutcome out;
    out.x = start;
    sortByRank(eq, order);
    // A drawing known to some hundredths of a millimetre hides that one equation follows from others: they
    // would be told apart by what is only noise, and that noise be magnified. So what hardly differs waits
    // until the others hold; then it shows whether it says anything of its own.
    const double rough = std::min(10 * doubtOf(eq, order, start), 0.05);
    if (rough > kRough) {
        SolveOutcome first;
        first.x = start;
        const auto kept = choose(eq, order, start, tolerance * 1e3, {rough, rough}, false, first);
        settle(eq, kept, weights, tolerance, first);
        if (first.converged) out.x = std::move(first.x), out.iterations = first.iterations;
    }
    const Least least = rough > kRough ? Least{kRough, rough} : Least{};
    const std::vector<int> kept = choose(eq, order, out.x, tolerance * 1e3, least, false, out);
    if (out.clashes.empty())
        settle(eq, kept, weights, tolerance, out);
    else
        out.x = start;
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
