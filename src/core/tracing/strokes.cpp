#include "core/tracing/strokes.h"

#include "core/base/groups.h"

#include <opencv2/imgproc.hpp>

namespace prism {
namespace {

/// The eight neighbours, those that share a side first.
constexpr std::array<std::array<int, 2>, 8> kSteps{
    {{1, 0}, {0, 1}, {-1, 0}, {0, -1}, {1, 1}, {-1, 1}, {-1, -1}, {1, -1}}};

class Walker {
  public:
    explicit Walker(const cv::Mat1b& skeleton) {
        cv::copyMakeBorder(skeleton, m_, 1, 1, 1, 1, cv::BORDER_CONSTANT, 0);
        node_ = cv::Mat1i(m_.size(), -1);
        cv::findNonZero(m_, dark_);
        findNodes();
        for (const cv::Point& p : dark_)
            if (free(p) && isEnd(p)) walk(p, false);
        for (const cv::Point& p : dark_)
            if (free(p)) walk(p, true);
    }
    std::vector<Stroke> strokes;
    std::vector<Vec2> nodes;

  private:
    bool on(cv::Point p) const { return m_(p) != 0; }
    bool free(cv::Point p) const { return m_(p) == 255 && node_(p) < 0; }
    Vec2 place(cv::Point p) const { return {p.x - 0.5, p.y - 0.5}; }

    int leaving(cv::Point p) const {
        int n = 0;
        for (const auto& s : kSteps) n += on(p + cv::Point(s[0], s[1]));
        return n;
    }

    /// Pixels where three or more strokes meet; those that touch are one node.
    void findNodes() {
        std::vector<cv::Point> meeting;
        for (const cv::Point& p : dark_)
            if (leaving(p) >= 3) meeting.push_back(p), node_(p) = 1 << 30;
        for (const cv::Point& p : meeting) {
            if (node_(p) != 1 << 30) continue;
            const int id = static_cast<int>(nodes.size());
            std::vector<cv::Point> stack{p};
            node_(p) = id;
            Vec2 sum;
            int n = 0;
            while (!stack.empty()) {
                const cv::Point q = stack.back();
                stack.pop_back();
                sum = sum + place(q), ++n;
                for (const auto& s : kSteps)
                    if (const cv::Point r = q + cv::Point(s[0], s[1]); node_(r) == 1 << 30)
                        node_(r) = id, stack.push_back(r);
            }
            nodes.push_back(sum * (1.0 / n));
        }
    }

    int nodeBeside(cv::Point p, int other_than) const {
        for (const auto& s : kSteps)
            if (const int n = node_(p + cv::Point(s[0], s[1])); n >= 0 && n != other_than) return n;
        return -1;
    }
    bool isEnd(cv::Point p) const {
        int n = 0;
        for (const auto& s : kSteps) n += free(p + cv::Point(s[0], s[1]));
        return n <= 1 || nodeBeside(p, -1) >= 0;
    }

    void walk(cv::Point p, bool closed) {
        Stroke s;
        s.from = nodeBeside(p, -1);
        if (s.from >= 0) s.points.push_back(nodes[s.from]);
        for (bool going = true; going;) {
            m_(p) = 128; // walked
            s.points.push_back(place(p));
            going = false;
            for (const auto& d : kSteps)
                if (const cv::Point q = p + cv::Point(d[0], d[1]); free(q)) {
                    p = q, going = true;
                    break;
                }
        }
        // A stroke of a pixel or two may touch its node at both ends.
        s.to = nodeBeside(p, s.points.size() <= 4 ? s.from : -1);
        if (s.to >= 0) s.points.push_back(nodes[s.to]);
        s.closed = closed && s.from < 0 && s.to < 0 && s.points.size() > 8 &&
                   distance(s.points.front(), s.points.back()) < 2.5;
        strokes.push_back(std::move(s));
    }

    cv::Mat1b m_;
    cv::Mat1i node_;
    std::vector<cv::Point> dark_;
};

double lengthAlong(const std::vector<Vec2>& p) {
    double l = 0;
    for (size_t i = 1; i < p.size(); ++i) l += distance(p[i - 1], p[i]);
    return l;
}

/// Width of the ink at a stroke: twice the median distance to paper.
double widthOf(const Stroke& s, const cv::Mat1f& to_paper) {
    std::vector<float> d;
    for (Vec2 p : s.points) {
        const cv::Point q(static_cast<int>(p.x), static_cast<int>(p.y));
        if (q.x >= 0 && q.y >= 0 && q.x < to_paper.cols && q.y < to_paper.rows) d.push_back(to_paper(q));
    }
    if (d.empty()) return 1;
    const auto mid = d.begin() + static_cast<long>(d.size() / 2);
    std::nth_element(d.begin(), mid, d.end());
    return std::max(1.0, 2.0 * *mid - 1);
}

/// Nodes joined by a bridge shorter than the ink is wide become one; the bridge goes.
void joinNear(Strokes& s) {
    Groups groups(s.nodes.size());
    std::erase_if(s.strokes, [&](const Stroke& k) {
        const bool bridge = k.from >= 0 && k.to >= 0 && k.from != k.to &&
                            lengthAlong(k.points) < 1.3 * std::max(s.width, k.width);
        if (bridge) groups.join(k.from, k.to);
        return bridge;
    });
    std::vector<Vec2> sum(s.nodes.size());
    std::vector<int> n(s.nodes.size(), 0);
    for (int i = 0; i < static_cast<int>(s.nodes.size()); ++i) {
        const int g = groups.find(i);
        sum[g] = sum[g] + s.nodes[i], ++n[g];
    }
    for (int i = 0; i < static_cast<int>(s.nodes.size()); ++i)
        if (n[i]) s.nodes[i] = sum[i] * (1.0 / n[i]);
    for (Stroke& k : s.strokes) {
        if (k.from >= 0) k.from = groups.find(k.from), k.points.front() = s.nodes[k.from];
        if (k.to >= 0) k.to = groups.find(k.to), k.points.back() = s.nodes[k.to];
    }
}

void dropSpurs(Strokes& s) {
    std::erase_if(s.strokes, [&](const Stroke& k) {
        const bool spur = (k.from < 0) != (k.to < 0);
        const bool bubble = k.from >= 0 && k.from == k.to;
        const double l = lengthAlong(k.points);
        return (spur && l < 1.2 * std::max(s.width, k.width)) || (bubble && l < 3 * s.width);
    });
}

/// Moves every point to the middle of the ink across the stroke; near nodes the ink is not the stroke's own.
void centre(Stroke& s, const Darkness& d) {
    const int n = static_cast<int>(s.points.size());
    const std::vector<Vec2> raw = s.points;
    s.sure.assign(static_cast<size_t>(n), false);
    std::vector<double> along(static_cast<size_t>(n), 0);
    for (int i = 1; i < n; ++i) along[i] = along[i - 1] + distance(raw[i - 1], raw[i]);
    std::vector<double> widths;
    for (int i = 0; i < n; ++i) {
        const double clear = 0.8 * s.width + 1.5;
        if ((s.from >= 0 && along[i] < clear) || (s.to >= 0 && along[n - 1] - along[i] < clear)) continue;
        const int reach = 5;
        const int a = s.closed ? (i - reach + n) % n : std::max(0, i - reach),
                  b = s.closed ? (i + reach) % n : std::min(n - 1, i + reach);
        if (a == b) continue;
        if (const auto x = inkAcross(d, raw[i], normalized(raw[b] - raw[a]), 0.6 * s.width + 1.5))
            s.points[i] = x->middle, s.sure[i] = true, widths.push_back(x->width);
    }
    if (widths.empty()) return;
    const auto mid = widths.begin() + static_cast<long>(widths.size() / 2);
    std::ranges::nth_element(widths, mid);
    s.width = *mid;
}

} // namespace

std::optional<Across> inkAcross(const Darkness& d, Vec2 at, Vec2 along, double reach) {
    constexpr double kStep = 0.5;
    const Vec2 n{-along.y, along.x};
    const int half = static_cast<int>(std::ceil(reach / kStep)) + 2;
    std::vector<float> v(static_cast<size_t>(2 * half + 1));
    for (int i = -half; i <= half; ++i) v[i + half] = d.at(at + n * (i * kStep));
    // From the darkest place within reach outwards, as far as it stays dark.
    const int within = static_cast<int>(reach / kStep);
    int top = half;
    for (int i = half - within; i <= half + within; ++i)
        if (v[i] > v[top]) top = i;
    const float dark = v[top], floor = std::max(0.25F * dark, 2.5F * d.noise);
    if (dark < std::max(0.08F, 4 * d.noise)) return std::nullopt;
    int a = top, b = top;
    while (a > 0 && v[a - 1] > floor) --a;
    while (b + 1 < static_cast<int>(v.size()) && v[b + 1] > floor) ++b;
    double sum = 0, moment = 0, all = 0;
    for (int i = a; i <= b; ++i)
        sum += v[i] - floor * 0.5, moment += (v[i] - floor * 0.5) * (i - half), all += v[i];
    if (!(sum > 0)) return std::nullopt;
    return Across{at + n * (moment / sum * kStep), all / d.full * kStep};
}

Strokes strokesOf(const Darkness& d, const cv::Mat1b& ink, Progress& progress) {
    Strokes s;
    if (ink.empty()) return s;
    cv::Mat1f to_paper;
    cv::distanceTransform(ink, to_paper, cv::DIST_L2, 3);
    Walker w(thinned(ink, progress));
    s.strokes = std::move(w.strokes), s.nodes = std::move(w.nodes);
    std::vector<std::pair<double, double>> widths; // by width, weighted by length
    double all = 0;
    for (Stroke& k : s.strokes) {
        k.width = widthOf(k, to_paper);
        const double l = lengthAlong(k.points);
        widths.emplace_back(k.width, l), all += l;
    }
    std::ranges::sort(widths);
    double half = 0;
    for (const auto& [width, l] : widths)
        if ((half += l) >= all / 2) {
            s.width = width;
            break;
        }
    joinNear(s);
    dropSpurs(s);
    const Vec2 origin{double(d.origin.x), double(d.origin.y)};
    for (Vec2& n : s.nodes) n = n + origin;
    for (Stroke& k : s.strokes) {
        for (Vec2& p : k.points) p = p + origin;
        centre(k, d);
    }
    return s;
}

} // namespace prism
