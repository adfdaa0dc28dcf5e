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
    /// Whether all of it hangs together face by face.
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

/// A full block off which boxes are taken; every side of the whole box is still reached. `few`: of 12 boxes
/// in all, so that every part of these boxes can be drawn.
Grid carved(unsigned seed, bool few = false) {
    std::mt19937 random(seed);
    const auto below = [&](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
    for (;;) {
        Grid g;
        for (size_t a : {0u, 1u, 2u}) {
            std::vector<double>& on = g.at[a];
            on = {0};
            for (int n = few ? 2 + (a == seed % 3) : 2 + below(2); n > 0; --n)
                on.push_back(on.back() + 6 + 0.5 * below(17));
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

/// Every part that some of these boxes make.
std::vector<Grid> everyPartOf(const Grid& g) {
    std::vector<Grid> r(size_t{1} << g.full.size(), g);
    for (size_t n = 0; n < r.size(); ++n)
        for (size_t i = 0; i < g.full.size(); ++i) r[n].full[i] = n >> i & 1;
    return r;
}

double part(Vec3 p, int axis) {
    return axis == 0 ? p.x : axis == 1 ? p.y : p.z;
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

/// Whether the lines of some view end at every plane between the boxes.
bool everyPlaneIn(const std::set<Drawn>& lines, const Grid& g) {
    for (int axis : {0, 1, 2})
        for (const double at : g.at[static_cast<size_t>(axis)])
            if (std::ranges::none_of(lines, [&](const Drawn& p) {
                    return p.look != axis && part(p.a, axis) == at && part(p.b, axis) == at;
                }))
                return false;
    return true;
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

/// Leaves a line out of the sheet of a random part and looks for suspects; whether the sheet is one of no
/// part then.
bool checkSuspects(unsigned seed) {
    CAPTURE(seed);
    const Grid g = carved(seed, true);
    std::set<Drawn> lines = linesOf(g);
    // A line within the outline of its view is left out.
    const auto within = [&](const Drawn& p) {
        for (int a : {0, 1, 2})
            if (a != p.look && part(p.a, a) == part(p.b, a) &&
                (part(p.a, a) == 0 || part(p.a, a) == g.at[static_cast<size_t>(a)].back()))
                return false;
        return true;
    };
    const auto left_out = std::ranges::find_if(lines, within);
    if (left_out == lines.end()) return false;
    lines.erase(left_out);
    if (!everyPlaneIn(lines, g)) return false; // nothing would tell of boxes there
    const std::vector<Grid> every = everyPartOf(g);
    if (std::ranges::any_of(every, [&](const Grid& other) { return linesOf(other) == lines; })) return false;
    const Document d = inViews(sheetOf(g, lines).sheet);
    REQUIRE(d.model().figure.views.size() == 3);
    const auto maps = mapsOf(d);
    const auto keyOf = [&](const Drawn& p) {
        const auto k = std::ranges::find_if(
            maps, [&](const ViewMap& m) { return static_cast<int>(m.view().axes.depth) == p.look; });
        const FigureView& v = k->view();
        const auto on = [&](Vec3 q) {
            return Vec2{part(q, static_cast<int>(v.axes.right)), part(q, static_cast<int>(v.axes.up))};
        };
        const Vec2 a = on(p.a), b = on(p.b);
        SightLineKey key{static_cast<int>(k - maps.begin()), SightLineKey::Kind::drawn,
                         k->curveAt((a + b) * 0.5)};
        if (key.index >= 0) return key;
        key.kind = a.x == b.x ? SightLineKey::Kind::level_upright : SightLineKey::Kind::level_across;
        const Axis across = a.x == b.x ? v.axes.right : v.axes.up;
        const auto& on_axis = g.at[static_cast<size_t>(across)];
        key.index = static_cast<int>(std::ranges::find(on_axis, part(p.a, static_cast<int>(across))) -
                                     on_axis.begin());
        return key;
    };
    /// The lines on which what a part draws differs from the sheet.
    const auto differing = [&](const Grid& other) {
        std::vector<Drawn> off;
        const std::set<Drawn> drawn = linesOf(other);
        std::set_symmetric_difference(lines.begin(), lines.end(), drawn.begin(), drawn.end(),
                                      std::back_inserter(off));
        std::set<SightLineKey> r;
        for (const Drawn& p : off) r.insert(keyOf(p));
        return r;
    };
    std::set<std::set<SightLineKey>> wanted, of_two;
    for (const Grid& other : every) {
        const auto off = differing(other);
        if (off.size() == 1) wanted.insert(off);
        if (off.size() == 2) of_two.insert(off);
    }
    if (wanted.empty()) wanted = of_two;
    ProductCells cells(maps, true);
    Work work;
    NoProgress quiet;
    const auto consistent = [&](Lines how) {
        return ConsistentCells(cells, d.model().figure.tolerances, sizeOf(g), how, work, quiet);
    };
    CHECK_FALSE(consistent(Lines::all).next(quiet));
    ConsistentCells looked(consistent(Lines::all));
    std::set<std::set<SightLineKey>> found;
    for (const auto& suspect : looked.suspects(1000, quiet)) {
        CHECK(found.insert({suspect.begin(), suspect.end()}).second);
        const auto choice = looked.without(suspect, quiet);
        REQUIRE(choice);
        CHECK(choice->ignored > 0);
        CHECK(choice->ignored < choice->total);
        const auto off = differing(chosen(g, cells, choice->material));
        CHECK_FALSE(off.empty());
        CHECK(std::ranges::includes(std::set(suspect.begin(), suspect.end()), off));
    }
    CHECK(found == wanted);
    CHECK(looked.suspects(1, quiet).size() == std::min<size_t>(1, wanted.size()));
    ConsistentCells most = consistent(Lines::most);
    if (const auto choice = most.next(quiet)) {
        CHECK(choice->ignored > 0);
        CHECK_FALSE(differing(chosen(g, cells, choice->material)).empty());
    }
    return true;
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

TEST_CASE("the choices are all parts that draw the same lines, none left out, and the fullest comes first") {
    const unsigned seed = GENERATE(range(101u, 116u));
    const LineKinds kinds = GENERATE(LineKinds::told, LineKinds::alike);
    CAPTURE(seed, kinds);
    const Grid g = carved(seed, true);
    const std::set<Drawn> lines = linesOf(g);
    const auto asTold = [&](std::set<Drawn> all) { // or of one kind
        if (kinds == LineKinds::told) return all;
        std::set<Drawn> r;
        for (Drawn d : all) d.seen = true, r.insert(d);
        return r;
    };
    std::set<std::vector<bool>> wanted;
    for (const Grid& other : everyPartOf(g))
        if (asTold(linesOf(other)) == asTold(lines)) wanted.insert(other.full);
    const Document d = inViews(sheetOf(g, lines).sheet);
    REQUIRE(d.model().figure.views.size() == 3);
    const auto maps = mapsOf(d);
    ProductCells cells(maps, true);
    Work work;
    NoProgress quiet;
    ConsistentCells consistent(cells, d.model().figure.tolerances, sizeOf(g), Lines::all, work, quiet, kinds);
    std::set<std::vector<bool>> found;
    while (const auto choice = consistent.next(quiet)) {
        REQUIRE(found.size() < wanted.size());
        const std::vector<bool> full = chosen(g, cells, choice->material).full;
        CHECK(found.insert(full).second);
        CHECK(wanted.contains(full));
        // No other that is left has more material.
        CHECK(std::ranges::none_of(wanted, [&](const std::vector<bool>& other) {
            return !found.contains(other) &&
                   std::ranges::equal(full, other, [](bool a, bool b) { return b || !a; });
        }));
        // A cell that no line of sight tells anything of may be either way.
        CHECK(std::ranges::find(choice->looked_at, true) != choice->looked_at.end());
    }
    CHECK(found == wanted);
}

TEST_CASE("of a sheet that lacks a line, the suspects are the lines without which some part draws the rest") {
    int tried = 0;
    for (unsigned seed = 201; seed < 241; ++seed) tried += checkSuspects(seed);
    CHECK(tried >= 10);
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
