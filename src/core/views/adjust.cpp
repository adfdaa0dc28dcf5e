#include "core/views/adjust.h"

#include <Eigen/Dense>

namespace prism {

std::vector<double> adjusted(const std::vector<TieEquation>& equations, int fixed,
                             std::vector<double> start) {
    const auto n = static_cast<Eigen::Index>(start.size());
    Eigen::MatrixXd normal = Eigen::MatrixXd::Zero(n, n);
    Eigen::VectorXd right = Eigen::VectorXd::Zero(n);
    for (const TieEquation& e : equations) {
        if (e.a == e.b || !(e.weight > 0)) continue;
        const double left = start[e.b] + e.at_b - start[e.a] - e.at_a;
        normal(e.a, e.a) += e.weight, normal(e.b, e.b) += e.weight;
        normal(e.a, e.b) -= e.weight, normal(e.b, e.a) -= e.weight;
        right(e.a) += e.weight * left, right(e.b) -= e.weight * left;
    }
    if (fixed >= 0) {
        normal.row(fixed).setZero(), normal.col(fixed).setZero();
        right(fixed) = 0;
    }
    // Views are few; what is not tied down leaves the matrix without full rank, and takes the shortest step.
    const Eigen::VectorXd step = normal.completeOrthogonalDecomposition().solve(right);
    for (Eigen::Index i = 0; i < n; ++i) start[static_cast<size_t>(i)] += step(i);
    return start;
}

} // namespace prism
