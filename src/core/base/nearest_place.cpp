#include "core/base/nearest_place.h"

namespace prism {
namespace {

double squared(Vec2 d) {
    return dot(d, d);
}

double onSegment(const Segment& s, Vec2 p) {
    const Vec2 d = s.b - s.a;
    const double l2 = dot(d, d);
    return l2 > 0 ? std::clamp(dot(p - s.a, d) / l2, 0.0, 1.0) : 0;
}

double onArc(const Arc& a, Vec2 p) {
    const double angle = angleOf(p - a.centre);
    const double along = a.sweep >= 0 ? positiveAngle(angle - a.start) : positiveAngle(a.start - angle);
    if (along <= std::abs(a.sweep)) return along / std::abs(a.sweep);
    const Vec2 start = a.centre + a.radius * direction(a.start),
               end = a.centre + a.radius * direction(a.start + a.sweep);
    return distance(p, start) <= distance(p, end) ? 0 : 1;
}

} // namespace

NearestPlace::NearestPlace(Curve c) : c_(std::move(c)) {
    if (std::holds_alternative<Segment>(c_) || std::holds_alternative<Arc>(c_)) return;
    const auto* spline = std::get_if<Spline>(&c_);
    const int n = spline ? std::max(96, 8 * static_cast<int>(spline->poles.size())) : 96;
    for (int i = 0; i <= n; ++i) {
        samples_.push_back(pointAt(c_, static_cast<double>(i) / n));
        if (i > 0) apart_ = std::max(apart_, distance(samples_[samples_.size() - 2], samples_.back()));
    }
}

/// Where the distance to p is least between two parameters with one minimum between them, by golden sections
/// (Kiefer 1953).
double NearestPlace::leastBetween(Vec2 p, double lo, double hi) const {
    constexpr double kShare = 0.6180339887498949;
    constexpr int kSections = 56; // leaves 2e-12 of the stretch
    const auto away = [&](double t) { return squared(pointAt(c_, t) - p); };
    double a = hi - kShare * (hi - lo), b = lo + kShare * (hi - lo), at_a = away(a), at_b = away(b);
    for (int i = 0; i < kSections; ++i)
        if (at_a < at_b) {
            hi = b, b = a, at_b = at_a;
            a = hi - kShare * (hi - lo), at_a = away(a);
        } else {
            lo = a, a = b, at_a = at_b;
            b = lo + kShare * (hi - lo), at_b = away(b);
        }
    return 0.5 * (lo + hi);
}

double NearestPlace::operator()(Vec2 p) const {
    if (const auto* s = std::get_if<Segment>(&c_)) return onSegment(*s, p);
    if (const auto* a = std::get_if<Arc>(&c_)) return onArc(*a, p);
    // A curve that runs past itself may be nearest between two samples that are not the nearest ones.
    constexpr size_t kTried = 3;
    const size_t last = samples_.size() - 1;
    std::vector<double> d;
    d.reserve(samples_.size());
    for (Vec2 s : samples_) d.push_back(distance(s, p));
    std::vector<std::pair<double, size_t>> least;
    for (size_t i = 0; i <= last; ++i)
        if ((i == 0 || d[i] <= d[i - 1]) && (i == last || d[i] <= d[i + 1])) least.emplace_back(d[i], i);
    std::sort(least.begin(), least.end());
    double best = 0, off = std::numeric_limits<double>::infinity();
    for (size_t k = 0; k < std::min(kTried, least.size()); ++k) {
        if (least[k].first - apart_ > off) break;
        const double step = 1.0 / static_cast<double>(last), at = static_cast<double>(least[k].second) * step;
        const double t = leastBetween(p, std::max(0.0, at - step), std::min(1.0, at + step));
        if (const double here = distance(pointAt(c_, t), p); here < off) off = here, best = t;
    }
    return best;
}

bool NearestPlace::farther(Vec2 p, double than) const {
    if (samples_.empty()) return false;
    const double reach = than + apart_;
    return std::ranges::all_of(samples_, [&](Vec2 s) { return squared(s - p) > reach * reach; });
}

double nearestParameter(const Curve& c, Vec2 p) {
    if (const auto* s = std::get_if<Segment>(&c)) return onSegment(*s, p);
    if (const auto* a = std::get_if<Arc>(&c)) return onArc(*a, p);
    return NearestPlace(c)(p);
}

} // namespace prism
