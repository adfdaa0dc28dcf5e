#include "core/base/ellipse_fit.h"

#include <Eigen/Dense>

namespace prism {

std::optional<EllipseArc> ellipseOn(const std::vector<Vec2>& points, double tolerance) {
    if (points.size() < 6) return std::nullopt;
    Box2 box;
    for (Vec2 p : points) box.add(p);
    const Vec2 middle = box.centre();
    const double size = std::max(box.hi.x - box.lo.x, box.hi.y - box.lo.y);
    if (!(size > 0)) return std::nullopt;
    // a x^2 + b x y + c y^2 + d x + e y = 1 about a place that the curve does not pass: the middle of its
    // box.
    const auto n = static_cast<Eigen::Index>(points.size());
    Eigen::MatrixXd rows(n, 5);
    for (Eigen::Index i = 0; i < n; ++i) {
        const Vec2 p = (1 / size) * (points[static_cast<size_t>(i)] - middle);
        rows.row(i) << p.x * p.x, p.x * p.y, p.y * p.y, p.x, p.y;
    }
    const Eigen::VectorXd k = rows.colPivHouseholderQr().solve(Eigen::VectorXd::Ones(n));
    Eigen::Matrix2d form;
    form << k[0], k[1] / 2, k[1] / 2, k[2];
    if (!(form.determinant() > 1e-12)) return std::nullopt; // no ellipse
    const Eigen::Vector2d centre = form.ldlt().solve(Eigen::Vector2d(-k[3] / 2, -k[4] / 2));
    const double level = 1 + centre.dot(form * centre);
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix2d> axes(form);
    const double least = axes.eigenvalues()[0] / level, most = axes.eigenvalues()[1] / level;
    if (!(least > 0) || !(most > 0)) return std::nullopt;
    EllipseArc r;
    r.centre = middle + size * Vec2{centre.x(), centre.y()};
    r.major = (size / std::sqrt(least)) * Vec2{axes.eigenvectors()(0, 0), axes.eigenvectors()(1, 0)};
    r.ratio = std::sqrt(least / most);
    const Vec2 minor = r.ratio * Vec2{-r.major.y, r.major.x};
    double before = 0;
    for (size_t i = 0; i < points.size(); ++i) {
        const Vec2 p = points[i] - r.centre;
        double t = std::atan2(dot(p, minor) / dot(minor, minor), dot(p, r.major) / dot(r.major, r.major));
        if (i == 0)
            r.start = t, r.sweep = 0;
        else {
            t += 2 * kPi * std::round((before - t) / (2 * kPi)); // the next turn is the nearer one
            r.sweep = t - r.start;
        }
        before = t;
        const Vec2 on = r.centre + std::cos(t) * r.major + std::sin(t) * minor;
        if (distance(on, points[i]) > tolerance) return std::nullopt;
    }
    return r;
}

} // namespace prism
