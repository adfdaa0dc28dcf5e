#include "core/tracing/follow_ink.h"

#include "core/base/simpler_curve.h"
#include "core/tracing/fits.h"
#include "core/tracing/strokes.h"

#include <opencv2/imgproc.hpp>

namespace prism {

std::optional<Vec2> inkNear(const Picture& picture, Vec2 at, double reach) {
    const Vec2 p = picture.to_sheet.inverse()(at);
    const double pixels = reach / picture.pixel;
    if (!picture.region.grown(pixels).contains(p) || pixels > 400) return std::nullopt;
    const Box2 part = Box2{p, p}.grown(pixels + 40); // enough to tell the paper
    const Darkness d = darknessOf(*picture.scan, part, picture.light_on_dark);
    if (d.value.cols < 8 || d.value.rows < 8) return std::nullopt;
    cv::Mat1f s;
    cv::GaussianBlur(d.value, s, {0, 0}, 1.4, 1.4, cv::BORDER_REPLICATE);
    cv::Point best(-1, -1);
    float most = 0;
    for (int y = 1; y + 1 < s.rows; ++y)
        for (int x = 1; x + 1 < s.cols; ++x) {
            const Vec2 q{x + 0.5 + d.origin.x, y + 0.5 + d.origin.y};
            const double away = distance(q, p) / std::max(pixels, 1.0);
            if (away > 1) continue;
            if (const float v = s(y, x) * static_cast<float>(1 - 0.6 * away * away); v > most)
                most = v, best = {x, y};
        }
    if (best.x < 0 || s(best) < std::max(0.12F, 3 * d.noise)) return std::nullopt;
    // Ridge by the Hessian (Steger 1998): the middle is where the slope across the line vanishes.
    auto v = [&](int dx, int dy) {
        return double(s(std::clamp(best.y + dy, 0, s.rows - 1), std::clamp(best.x + dx, 0, s.cols - 1)));
    };
    const double gxx = v(1, 0) - 2 * v(0, 0) + v(-1, 0), gyy = v(0, 1) - 2 * v(0, 0) + v(0, -1),
                 gxy = (v(1, 1) - v(-1, 1) - v(1, -1) + v(-1, -1)) / 4;
    const double turn = 0.5 * std::atan2(2 * gxy, gxx - gyy);
    Vec2 across = direction(turn); // of the larger eigenvalue; the line is dark, so the smaller one is its
    auto bend = [&](Vec2 n) { return n.x * n.x * gxx + 2 * n.x * n.y * gxy + n.y * n.y * gyy; };
    if (bend({-across.y, across.x}) < bend(across)) across = {-across.y, across.x};
    const Vec2 top{best.x + 0.5 + d.origin.x, best.y + 0.5 + d.origin.y};
    const auto mid = inkAcross(d, top, {-across.y, across.x}, 4);
    return picture.to_sheet(mid ? mid->middle : top);
}

Curve alongInk(const Picture& picture, const Curve& drawn) {
    if (std::holds_alternative<Spline>(drawn) || std::holds_alternative<EllipseArc>(drawn)) return drawn;
    const Affine2 back = picture.to_sheet.inverse();
    const double pixel = picture.pixel, l = lengthOf(drawn), reach = 6;
    Box2 part;
    for (Vec2 p : sampled(transformed(drawn, back), 0.5)) part.add(p);
    const Darkness d = darknessOf(*picture.scan, part.grown(40), picture.light_on_dark);
    if (d.value.empty() || !(l > 4 * pixel)) return drawn;
    const int n = std::clamp(static_cast<int>(l / pixel), 8, 4000);
    std::vector<Vec2> on;
    for (int i = 0; i <= n; ++i) {
        const double t = 0.03 + 0.94 * i / n;
        const Vec2 u = normalized(back.linear(tangentAt(drawn, t)));
        if (const auto x = inkAcross(d, back(pointAt(drawn, t)), u, reach))
            on.push_back(picture.to_sheet(x->middle));
    }
    if (on.size() < static_cast<size_t>(n) / 2) return drawn;
    // Ink of other lines that cross is left out, twice.
    for (int round = 0; round < 2; ++round) {
        Curve shape;
        if (std::holds_alternative<Segment>(drawn))
            shape = fitLine(on);
        else if (const auto c = fitCircleByDistance(on))
            shape = Arc{c->centre, c->radius, 0, 2 * kPi};
        else
            return drawn;
        const auto* line = std::get_if<Segment>(&shape);
        auto off = [&](Vec2 p) {
            return line ? std::abs(cross(normalized(line->b - line->a), p - line->a))
                        : std::abs(distance(p, std::get<Arc>(shape).centre) - std::get<Arc>(shape).radius);
        };
        if (round == 1) {
            if (line) {
                const Segment& s = std::get<Segment>(drawn);
                const Vec2 u = normalized(line->b - line->a);
                return Segment{line->a + u * dot(s.a - line->a, u), line->a + u * dot(s.b - line->a, u)};
            }
            Arc a = std::get<Arc>(shape);
            const Arc& was = std::get<Arc>(drawn);
            if (was.full()) return a;
            const Arc c{a.centre, a.radius, 0, 0};
            const auto bent = arcOn({c.centre, c.radius}, sampled(drawn, was.radius * 0.01), 1e30, false);
            return bent ? Curve(*bent) : drawn;
        }
        std::vector<double> all;
        for (Vec2 p : on) all.push_back(off(p));
        std::ranges::nth_element(all, all.begin() + static_cast<long>(all.size() / 2));
        const double limit = std::max(3 * all[all.size() / 2], 0.6 * pixel);
        std::erase_if(on, [&](Vec2 p) { return off(p) > limit; });
        if (on.size() < 5) return drawn;
    }
    return drawn;
}

} // namespace prism
