#include "core/proposing/without_features.h"
#include "support/grid_part.h"

#include <random>

using namespace prism;
using namespace prism::test;

// The figure of a sheet without what features explain.

TEST_CASE(
    "without features the figure has every line but the parts that these explain, and what closes them") {
    const unsigned seed = GENERATE(range(1u, 13u));
    CAPTURE(seed);
    std::mt19937 random(seed);
    const auto in = [&] { return static_cast<double>(random() % 1000) / 1000; };
    const Grid g = carved(seed);
    const Document d = inViews(sheetOf(g, linesOf(g)).sheet);
    const Figure& f = d.model().figure;
    std::vector<SeenLines> features(3);
    std::map<int, std::vector<std::pair<double, double>>> gone;
    for (SeenLines& s : features)
        for (int n = 0; n < 4; ++n) {
            const int curve = static_cast<int>(random() % f.curves.size());
            double from = in(), to = in();
            if (from > to) std::swap(from, to);
            if (random() % 4 == 0) from = 0;
            if (random() % 4 == 0) to = 1;
            s.lines.push_back({curve, from, to});
            gone[curve].emplace_back(from, to);
        }
    const FigureView& v = f.views.front();
    features[1].closing.push_back({v.view, {{1, 2}, {4, 6}}, LineRole::hidden, {}});
    const Figure left = without(f, features);
    const auto isGone = [&](int curve, double t) {
        const auto it = gone.find(curve);
        return it != gone.end() &&
               std::ranges::any_of(it->second, [&](const auto& p) { return t >= p.first && t <= p.second; });
    };
    // Places of every curve, close by each other: there, unless a feature explains them.
    for (size_t i = 0; i < f.curves.size(); ++i)
        for (int n = 0; n < 50; ++n) {
            const double t = (n + 0.5) / 50;
            const auto near = [&](double at) { // of where a part begins or ends
                const auto it = gone.find(static_cast<int>(i));
                return it != gone.end() && std::ranges::any_of(it->second, [&](const auto& p) {
                           return std::abs(p.first - at) < 1e-6 || std::abs(p.second - at) < 1e-6;
                       });
            };
            if (near(t)) continue;
            const Vec2 p = pointAt(f.curves[i].drawn, t);
            const auto on = [&](const FigureCurve& c) {
                return c.view == f.curves[i].view && c.role == f.curves[i].role &&
                       c.entity == f.curves[i].entity && c.index == f.curves[i].index &&
                       distanceTo(c.drawn, p) < 1e-7;
            };
            CHECK(std::ranges::any_of(left.curves, on) == !isGone(static_cast<int>(i), t));
        }
    // Every piece ends at its own points, and what closes is drawn as it should be.
    for (const FigureCurve& c : left.curves) {
        REQUIRE(c.p0 >= 0);
        CHECK(distance(left.at(left.points[static_cast<size_t>(c.p0)], left.drawn), startOf(c.drawn)) < 1e-9);
        CHECK(distance(left.at(left.points[static_cast<size_t>(c.p1)], left.drawn), endOf(c.drawn)) < 1e-9);
    }
    const FigureCurve& closing = left.curves.back();
    CHECK(closing.view == v.view);
    CHECK(closing.role == LineRole::hidden);
    CHECK(distance(startOf(closing.drawn), {1, 2}) < 1e-9);
    CHECK(distance(endOf(closing.drawn), {4, 6}) < 1e-9);
}
