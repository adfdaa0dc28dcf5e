#include "support/paper_scan.h"

#include <random>

namespace prism::test {

PaperScan::PaperScan(const ScanSetting& s)
    : s_(s), width_(static_cast<int>(s.width / 25.4 * s.dpi)),
      height_(static_cast<int>(s.height / 25.4 * s.dpi * s.stretch)),
      ink_(static_cast<size_t>(width_) * height_, 0) {}

Vec2 PaperScan::at(Vec2 mm) const {
    const double t = s_.degrees * kPi / 180, px = s_.dpi / 25.4;
    const double x = mm.x - s_.width / 2, y = mm.y - s_.height / 2;
    return {width_ / 2.0 + (std::cos(t) * x - std::sin(t) * y) * px,
            height_ / 2.0 - (std::sin(t) * x + std::cos(t) * y) * px * s_.stretch};
}

void PaperScan::line(Vec2 p, Vec2 q, double pen) {
    const Vec2 a = at(p), b = at(q);
    const double r = pen / 2 / 25.4 * s_.dpi;
    const Vec2 d = b - a;
    const double square = std::max(dot(d, d), 1e-12);
    for (int y = std::max(0, int(std::min(a.y, b.y) - r - 1)); y < height_ && y < std::max(a.y, b.y) + r + 1;
         ++y)
        for (int x = std::max(0, int(std::min(a.x, b.x) - r - 1));
             x < width_ && x < std::max(a.x, b.x) + r + 1; ++x) {
            const Vec2 m{x + 0.5, y + 0.5};
            const double t = std::clamp(dot(m - a, d) / square, 0.0, 1.0);
            double& ink = ink_[static_cast<size_t>(y) * width_ + x];
            ink = std::max(ink, std::clamp(r + 0.5 - distance(m, a + d * t), 0.0, 1.0));
        }
}

void PaperScan::dashed(Vec2 a, Vec2 b, double dash, double gap, double pen) {
    const Vec2 u = normalized(b - a);
    const double l = distance(a, b);
    for (double t = 0; t < l; t += dash + gap) line(a + u * t, a + u * std::min(t + dash, l), pen);
}

void PaperScan::arc(Vec2 c, double radius, double from, double sweep, double pen) {
    const int n = std::max(12, int(std::abs(sweep) * radius / 0.15));
    for (int i = 0; i < n; ++i)
        line(c + direction(from + sweep * i / n) * radius, c + direction(from + sweep * (i + 1) / n) * radius,
             pen);
}

void PaperScan::box(Vec2 lo, Vec2 hi, double pen) {
    const Vec2 c[] = {lo, {hi.x, lo.y}, hi, {lo.x, hi.y}};
    for (int i = 0; i < 4; ++i) line(c[i], c[(i + 1) % 4], pen);
}

ScanPixels PaperScan::pixels() const {
    ScanPixels p;
    p.width = width_, p.height = height_;
    p.dpi_x = p.dpi_y = s_.dpi;
    std::mt19937 engine(s_.seed);
    std::normal_distribution<double> grain(0, std::max(s_.grain, 1e-9));
    for (double ink : ink_)
        p.grey.push_back(static_cast<std::uint8_t>(std::clamp(228 - 165 * ink + grain(engine), 0.0, 255.0)));
    return p;
}

} // namespace prism::test
