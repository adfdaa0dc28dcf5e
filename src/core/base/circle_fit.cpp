#include "core/base/circle_fit.h"

#include <Eigen/Dense>

namespace prism {

std::optional<Circle> fitCircle(const std::vector<Vec2>& points) {
    if (points.size() < 3) return std::nullopt;
    Vec2 mean;
    double size = 0;
    for (Vec2 p : points) mean = mean + p * (1.0 / static_cast<double>(points.size()));
    for (Vec2 p : points) size = std::max(size, distance(p, mean));
    if (size == 0) return std::nullopt;
    Eigen::Matrix3d a = Eigen::Matrix3d::Zero();
    Eigen::Vector3d b = Eigen::Vector3d::Zero();
    for (Vec2 p : points) { // centred and scaled, so that far-off points keep their digits
        const Vec2 q = (p - mean) * (1 / size);
        const Eigen::Vector3d row(q.x, q.y, 1);
        a += row * row.transpose();
        b += row * dot(q, q);
    }
    const Eigen::LDLT<Eigen::Matrix3d> solver(a);
    const Eigen::Vector3d d = solver.vectorD();
    if (d.minCoeff() < 1e-13 * d.maxCoeff()) return std::nullopt;
    const Eigen::Vector3d x = solver.solve(b);
    const Vec2 c{x[0] / 2, x[1] / 2};
    const double r2 = x[2] + dot(c, c);
    if (r2 <= 0) return std::nullopt;
    return Circle{mean + c * size, std::sqrt(r2) * size};
}

} // namespace prism
