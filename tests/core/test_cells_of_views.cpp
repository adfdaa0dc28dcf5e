#include "core/proposing/cell_steps.h"
#include "core/proposing/consistency.h"
#include "support/ran.h"
#include "support/three_views.h"

#include <random>

using namespace prism;
using namespace prism::test;

// Parts made of boxes on an uneven grid, drawn box by box: which boxes are material is found again from the
// lines, and steps are found that make them.

namespace {

using Places = std::array<std::vector<double>, 3>;

/// A part on a grid of boxes, by axis.
struct Grid {
    Places at; ///< where the planes between the boxes stand, from the first to the last
    std::vector<bool> full;

    int count(int axis) const { return static_cast<int>(at[static_cast<size_t>(axis)].size()) - 1; }
    size_t index(std::array<int, 3> c) const {
        return static_cast<size_t>((c[0] * count(1) + c[1]) * count(2) + c[2]);
    }
    bool is(std::array<int, 3> c) const {
        for (int a : {0, 1, 2})
            if (c[static_cast<size_t>(a)] < 0 || c[static_cast<size_t>(a)] >= count(a)) return false;
        return full[index(c)];
    }
    Vec3 middle(std::array<int, 3> c) const {
        const auto m = [&](size_t a) {
            const auto i = static_cast<size_t>(c[a]);
            return 0.5 * (at[a][i] + at[a][i + 1]);
        };
        return {m(0), m(1), m(2)};
    }
    template <class F> void each(F f) const {
        for (int x = 0; x < count(0); ++x)
            for (int y = 0; y < count(1); ++y)
                for (int z = 0; z < count(2); ++z) f(std::array{x, y, z});
    }
    double volume() const {
        double sum = 0;
        each([&](std::array<int, 3> c) {
            double v = is(c);
            for (size_t a : {0u, 1u, 2u})
                v *= at[a][static_cast<size_t>(c[a]) + 1] - at[a][static_cast<size_t>(c[a])];
            sum += v;
        });
        return sum;
    }
    /// Whether all of it hangs together face by face, and what is not part as well but for the outside.
    bool whole() const {
        std::vector<std::array<int, 3>> todo;
        std::vector<bool> met(full.size(), false);
        size_t material = 0, reached = 0;
        each([&](std::array<int, 3> c) {
            material += is(c);
            if (is(c) && todo.empty()) todo.push_back(c), met[index(c)] = true;
        });
        while (!todo.empty()) {
            const auto c = todo.back();
            todo.pop_back(), ++reached;
            for (size_t a : {0u, 1u, 2u})
                for (int d : {-1, 1}) {
                    auto n = c;
                    n[a] += d;
                    if (is(n) && !met[index(n)]) met[index(n)] = true, todo.push_back(n);
                }
        }
        return material > 0 && reached == material;
    }
};

/// A full block off which boxes at its edges are taken; every side of the whole box is still reached.
Grid carved(unsigned seed) {
    std::mt19937 random(seed);
    const auto below = [&](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
    for (;;) {
        Grid g;
        for (auto& on : g.at) {
            on = {0};
            for (int n = 2 + below(2); n > 0; --n) on.push_back(on.back() + 6 + 0.5 * below(17));
        }
        g.full.assign(static_cast<size_t>(g.count(0) * g.count(1) * g.count(2)), true);
        for (int n = 1 + below(3); n > 0; --n) {
            std::array<std::pair<int, int>, 3> range;
            for (int a : {0, 1, 2}) {
                const int lo = below(g.count(a));
                range[static_cast<size_t>(a)] = {lo, lo + 1 + below(g.count(a) - lo)};
            }
            g.each([&](std::array<int, 3> c) {
                bool in = true;
                for (size_t a : {0u, 1u, 2u}) in = in && c[a] >= range[a].first && c[a] < range[a].second;
                if (in) g.full[g.index(c)] = false;
            });
        }
        std::array<bool, 6> reached{};
        g.each([&](std::array<int, 3> c) {
            if (!g.is(c)) return;
            for (int a : {0, 1, 2}) {
                const int i = c[static_cast<size_t>(a)];
                reached[static_cast<size_t>(2 * a)] = reached[static_cast<size_t>(2 * a)] || i == 0;
                reached[static_cast<size_t>(2 * a) + 1] =
                    reached[static_cast<size_t>(2 * a) + 1] || i == g.count(a) - 1;
            }
        });
        const bool some_air = std::ranges::find(g.full, false) != g.full.end();
        if (g.whole() && some_air && std::ranges::find(reached, false) == reached.end()) return g;
    }
}

/// A piece of line between two boxes that lie beside each other as a view shows them.
struct Drawn {
    int look; ///< axis
    Vec3 a, b;
    bool seen;
    auto key() const { return std::tuple(look, seen, a.x, a.y, a.z, b.x, b.y, b.z); }
    friend bool operator<(const Drawn& p, const Drawn& q) { return p.key() < q.key(); }
    friend bool operator==(const Drawn& p, const Drawn& q) { return p.key() == q.key(); }
};

/// Every piece of line of the three views: seen where what is in front lies unlike deep on both sides, hidden
/// where only something behind that differs.
std::set<Drawn> linesOf(const Grid& g) {
    std::set<Drawn> r;
    for (int look : {0, 1, 2}) {
        const bool from_low = look == 1; // the front view's viewer stands at Y below 0
        for (int across : {0, 1, 2}) {   // the line is square to this one
            if (across == look) continue;
            const int along = 3 - look - across;
            for (int i = 0; i <= g.count(across); ++i)
                for (int k = 0; k < g.count(along); ++k) {
                    const auto box = [&](int side, int deep) {
                        std::array<int, 3> c{};
                        c[static_cast<size_t>(across)] = i - 1 + side, c[static_cast<size_t>(along)] = k;
                        c[static_cast<size_t>(look)] = from_low ? deep : g.count(look) - 1 - deep;
                        return g.is(c);
                    };
                    bool differs = false, seen = false, in_sight = true;
                    for (int deep = 0; deep < g.count(look); ++deep) {
                        if (box(0, deep) == box(1, deep)) {
                            in_sight = in_sight && !box(0, deep);
                            continue;
                        }
                        differs = true, seen = seen || in_sight;
                    }
                    if (!differs) continue;
                    Drawn d{look, {}, {}, seen};
                    const auto put = [&](Vec3& p, int axis, double v) {
                        (axis == 0 ? p.x : axis == 1 ? p.y : p.z) = v;
                    };
                    const auto& on = g.at[static_cast<size_t>(along)];
                    for (Vec3* p : {&d.a, &d.b})
                        put(*p, across, g.at[static_cast<size_t>(across)][static_cast<size_t>(i)]);
                    put(d.a, along, on[static_cast<size_t>(k)]),
                        put(d.b, along, on[static_cast<size_t>(k) + 1]);
                    r.insert(d);
                }
        }
    }
    return r;
}

ThreeViews sheetOf(const Grid& g, const std::set<Drawn>& lines) {
    ThreeViews t = threeViews(g.at[0].back(), g.at[1].back(), g.at[2].back());
    for (const Drawn& d : lines) t.line(static_cast<Axis>(d.look), d.a, d.b, d.seen ? "OUTLINE" : "HIDDEN");
    return t;
}

double sizeOf(const Grid& g) {
    return std::max({g.at[0].back(), g.at[1].back(), g.at[2].back()});
}

/// The grid with the boxes that a choice of cells makes material; none met where no line of sight passed.
Grid chosen(const Grid& g, ProductCells& cells, const std::vector<bool>& material) {
    Grid r = g;
    for (size_t k = 0; k < cells.maps().size(); ++k)
        if (cells.maps()[k].view().axes.depth == Axis::z)
            g.each([&](std::array<int, 3> c) {
                const Vec3 p = g.middle(c);
                const Ray ray = cells.ray(static_cast<int>(k), {p.x, p.y});
                const int cell = ray.cells[static_cast<size_t>(std::ranges::upper_bound(ray.breaks, p.z) -
                                                               ray.breaks.begin())];
                r.full[g.index(c)] = cell >= 0 && material[static_cast<size_t>(cell)];
            });
    return r;
}

} // namespace

TEST_CASE(
    "whatever boxes the lines leave open, each choice draws the very lines, and the part is one of them") {
    const unsigned seed = GENERATE(range(1u, 25u));
    CAPTURE(seed);
    const Grid g = carved(seed);
    const std::set<Drawn> lines = linesOf(g);
    const Document d = inViews(sheetOf(g, lines).sheet);
    REQUIRE(d.model().figure.views.size() == 3);
    const auto maps = mapsOf(d);
    ProductCells cells(maps, true);
    Work work;
    NoProgress quiet;
    ConsistentCells consistent(cells, d.model().figure.tolerances, sizeOf(g), Lines::all, work, quiet);
    constexpr int kMost = 40;
    bool found = false, all = false;
    for (int n = 0; n < kMost && !found; ++n) {
        const auto choice = consistent.next(quiet);
        if (!choice) {
            all = true;
            break;
        }
        CHECK(choice->ignored == 0);
        CHECK(choice->total > 0);
        const Grid made = chosen(g, cells, choice->material);
        CHECK(linesOf(made) == lines);
        found = made.full == g.full;
    }
    CHECK((found || !all)); // all that the lines allow, and not the part
    CHECK(consistent.leftUndone().empty());
    CHECK(work.done() > 0);
}

TEST_CASE("steps are found for whatever cells are material, and their solid is these") {
    const unsigned seed = GENERATE(range(31u, 47u));
    CAPTURE(seed);
    const Grid g = carved(seed);
    const Document d = inViews(sheetOf(g, linesOf(g)).sheet);
    REQUIRE(d.model().figure.views.size() == 3);
    const auto maps = mapsOf(d);
    ProductCells cells(maps, true);
    // Every cell once met has a box of the grid.
    std::map<int, bool> material;
    for (size_t k = 0; k < maps.size(); ++k)
        if (maps[k].view().axes.depth == Axis::z)
            g.each([&](std::array<int, 3> c) {
                const Vec3 p = g.middle(c);
                const Ray ray = cells.ray(static_cast<int>(k), {p.x, p.y});
                const auto n = std::ranges::upper_bound(ray.breaks, p.z) - ray.breaks.begin();
                if (const int cell = ray.cells[static_cast<size_t>(n)]; cell >= 0) material[cell] = g.is(c);
            });
    NoProgress quiet;
    const auto fill = [&](int cell) {
        const auto it = material.find(cell);
        return it == material.end() ? Fill::either : it->second ? Fill::material : Fill::air;
    };
    const StepsFound found = stepsFor(d.model().figure, cells, fill, quiet);
    CHECK(found.left_undone.empty());
    REQUIRE_FALSE(found.steps.empty());
    const BuildResult built = build(d.model().figure, d.model().areas, found.steps, quiet);
    for (const StepReport& s : built.steps) CHECK(s.ok);
    CHECK(built.measure.volume == Approx(g.volume()).epsilon(1e-9));
}
