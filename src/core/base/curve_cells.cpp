#include "core/base/curve_cells.h"

namespace prism {

CurveCells::CurveCells(const std::vector<const Curve*>& curves, double reach) {
    constexpr double kCellsOfOne = 8; // on average
    double total = 0;
    std::vector<double> lengths;
    for (const Curve* c : curves) {
        const double l = lengthOf(*c);
        lengths.push_back(std::isfinite(l) ? l : 0);
        total += lengths.back();
    }
    const double n = static_cast<double>(std::max<size_t>(1, curves.size()));
    const double cell = std::max({4 * reach, total / (kCellsOfOne * n), 1e-12});
    auto at = [&](double v) { return std::llround(std::clamp(v / cell, -1e15, 1e15)); };
    const auto numberOf = [](long long x, long long y) {
        constexpr std::uint64_t kMiddle = 1ull << 31; // cells beside the origin come one after another
        return ((static_cast<std::uint64_t>(x) + kMiddle) << 32) + static_cast<std::uint64_t>(y) + kMiddle;
    };
    for (size_t i = 0; i < curves.size(); ++i) {
        const int pieces = static_cast<int>(std::clamp(std::ceil(lengths[i] / cell), 1.0, 1e5));
        for (int k = 0; k < pieces; ++k) {
            const Box2 b = boxOf(part(*curves[i], double(k) / pieces, double(k + 1) / pieces)).grown(reach);
            if (!b.valid()) continue;
            for (long long x = at(b.lo.x); x <= at(b.hi.x); ++x)
                for (long long y = at(b.lo.y); y <= at(b.hi.y); ++y)
                    entries_.push_back({numberOf(x, y), static_cast<int>(i)});
        }
    }
    std::sort(entries_.begin(), entries_.end());
    entries_.erase(std::unique(entries_.begin(), entries_.end()), entries_.end());
}

void CurveCells::forEachCell(const std::function<void(const std::vector<int>&)>& f) const {
    std::vector<int> here;
    for (size_t i = 0; i < entries_.size();) {
        here.clear();
        const auto cell = entries_[i].first;
        for (; i < entries_.size() && entries_[i].first == cell; ++i) here.push_back(entries_[i].second);
        f(here);
    }
}

} // namespace prism
