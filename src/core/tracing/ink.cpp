#include "core/tracing/ink.h"

#include <opencv2/imgproc.hpp>

namespace prism {
namespace {

cv::Rect pixelsOf(const ScanPixels& scan, const Box2& region) {
    const cv::Rect all(0, 0, scan.width, scan.height);
    const int x0 = static_cast<int>(std::floor(std::clamp(region.lo.x, 0.0, double(scan.width)))),
              y0 = static_cast<int>(std::floor(std::clamp(region.lo.y, 0.0, double(scan.height))));
    const int x1 = static_cast<int>(std::ceil(std::clamp(region.hi.x, 0.0, double(scan.width)))),
              y1 = static_cast<int>(std::ceil(std::clamp(region.hi.y, 0.0, double(scan.height))));
    return all & cv::Rect(x0, y0, x1 - x0, y1 - y0);
}

/// Value below which the given share of all pixels lies; they are sampled when there are many.
float quantile(const cv::Mat1f& m, double share, float above = -1e30F) {
    std::vector<float> v;
    const size_t step = std::max<size_t>(1, m.total() / 200000);
    for (size_t i = 0; i < m.total(); i += step)
        if (const float x = m(static_cast<int>(i / m.cols), static_cast<int>(i % m.cols)); x > above)
            v.push_back(x);
    if (v.empty()) return 0;
    const auto nth = v.begin() + static_cast<long>(share * double(v.size() - 1));
    std::nth_element(v.begin(), nth, v.end());
    return *nth;
}

/// Takes out the corners of stairs, so that a pixel on a middle line has two neighbours and no more.
void cutCorners(cv::Mat1b& m, const std::vector<cv::Point>& dark) {
    for (const cv::Point& p : dark) {
        const auto on = [&](int dx, int dy) { return m(p.y + dy, p.x + dx) != 0; };
        for (const auto& [x, y] : {std::pair{1, 1}, {1, -1}, {-1, 1}, {-1, -1}})
            if (on(x, 0) && on(0, y) && !on(-x, 0) && !on(0, -y) && !on(-x, -y)) {
                m(p) = 0;
                break;
            }
    }
}

} // namespace

float Darkness::at(Vec2 p) const {
    const double x = p.x - 0.5 - origin.x, y = p.y - 0.5 - origin.y;
    const int i = static_cast<int>(std::floor(x)), j = static_cast<int>(std::floor(y));
    if (i < 0 || j < 0 || i + 1 >= value.cols || j + 1 >= value.rows) return 0;
    const auto fx = static_cast<float>(x - i), fy = static_cast<float>(y - j);
    const float* up = value[j];
    const float* low = value[j + 1];
    return (up[i] * (1 - fx) + up[i + 1] * fx) * (1 - fy) + (low[i] * (1 - fx) + low[i + 1] * fx) * fy;
}

Darkness darknessOf(const ScanPixels& scan, const Box2& region, bool lightOnDark) {
    const cv::Rect part = pixelsOf(scan, region);
    Darkness d;
    d.origin = part.tl();
    if (part.empty()) return d;
    const cv::Mat1b whole(scan.height, scan.width, const_cast<std::uint8_t*>(scan.grey.data()));
    cv::Mat1b grey = whole(part).clone();
    if (lightOnDark) cv::bitwise_not(grey, grey);
    // The paper: the lightest round about, where lines are thin against the neighbourhood; on an eighth of
    // the pixels.
    cv::Mat1b small, paper;
    const cv::Size size(std::max(1, grey.cols / 8), std::max(1, grey.rows / 8));
    cv::resize(grey, small, size, 0, 0, cv::INTER_AREA);
    const cv::Mat round = cv::getStructuringElement(cv::MORPH_ELLIPSE, {9, 9});
    cv::morphologyEx(small, small, cv::MORPH_CLOSE, round, {-1, -1}, 1, cv::BORDER_REPLICATE);
    cv::GaussianBlur(small, small, {0, 0}, 4, 4, cv::BORDER_REPLICATE);
    cv::resize(small, paper, grey.size(), 0, 0, cv::INTER_LINEAR);
    cv::Mat1f g, w;
    grey.convertTo(g, CV_32F);
    paper.convertTo(w, CV_32F);
    d.value = (w - g) / cv::max(w, 16.F);
    // Half of the pixels at least are paper: their spread is the noise.
    const float middle = quantile(d.value, 0.5);
    d.value -= middle;
    d.noise = 1.4826F * quantile(cv::abs(d.value), 0.5);
    d.full = std::max(quantile(d.value, 0.8, std::max(7 * d.noise, 0.15F)), 0.1F);
    return d;
}

cv::Mat1b inkOf(const Darkness& d) {
    if (d.value.empty()) return {};
    cv::Mat1f smooth;
    cv::GaussianBlur(d.value, smooth, {0, 0}, 0.8, 0.8, cv::BORDER_REPLICATE);
    const float noise = 0.4F * d.noise; // what the smoothing leaves of it
    const float floor = std::max(7 * noise, 0.08F);
    const float full = quantile(smooth, 0.75, floor); // how dark well inked lines are
    const float strong = std::max(0.45F * full, floor), weak = std::max(0.3F * full, 5 * noise);
    cv::Mat1b ink = smooth > weak;
    cv::Mat1i labels;
    const int n = cv::connectedComponents(ink, labels, 8);
    std::vector<bool> keep(static_cast<size_t>(n), false);
    for (int y = 0; y < ink.rows; ++y)
        for (int x = 0; x < ink.cols; ++x)
            if (labels(y, x) && smooth(y, x) > strong) keep[static_cast<size_t>(labels(y, x))] = true;
    for (int y = 0; y < ink.rows; ++y)
        for (int x = 0; x < ink.cols; ++x)
            if (!keep[static_cast<size_t>(labels(y, x))]) ink(y, x) = 0;
    return ink;
}

cv::Mat1b thinned(cv::Mat1b ink, Progress& progress) {
    if (ink.empty()) return ink;
    // A frame of paper, so that every pixel has eight neighbours.
    cv::Mat1b m;
    cv::copyMakeBorder(ink, m, 1, 1, 1, 1, cv::BORDER_CONSTANT, 0);
    std::vector<cv::Point> dark;
    cv::findNonZero(m, dark);
    std::vector<cv::Point> gone;
    for (int round = 0, idle = 0; idle < 2 && !progress.cancelled(); ++round) {
        gone.clear();
        for (const cv::Point& p : dark) {
            const auto on = [&](int dx, int dy) { return m(p.y + dy, p.x + dx) != 0; };
            const bool p2 = on(0, -1), p3 = on(1, -1), p4 = on(1, 0), p5 = on(1, 1), p6 = on(0, 1),
                       p7 = on(-1, 1), p8 = on(-1, 0), p9 = on(-1, -1);
            const int c =
                (!p2 && (p3 || p4)) + (!p4 && (p5 || p6)) + (!p6 && (p7 || p8)) + (!p8 && (p9 || p2));
            const int n1 = (p9 || p2) + (p3 || p4) + (p5 || p6) + (p7 || p8);
            const int n2 = (p2 || p3) + (p4 || p5) + (p6 || p7) + (p8 || p9);
            const int n = std::min(n1, n2);
            const bool side = round % 2 == 0 ? (p6 || p7 || !p9) && p8 : (p2 || p3 || !p5) && p4;
            if (c == 1 && n >= 2 && n <= 3 && !side) gone.push_back(p);
        }
        idle = gone.empty() ? idle + 1 : 0;
        for (const cv::Point& p : gone) m(p) = 0;
        std::erase_if(dark, [&](const cv::Point& p) { return m(p) == 0; });
    }
    cutCorners(m, dark);
    return m(cv::Rect(1, 1, ink.cols, ink.rows)).clone();
}

} // namespace prism
