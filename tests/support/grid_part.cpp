#include "support/grid_part.h"

#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <gp_Pnt.hxx>
#include <random>

namespace prism::test {

double Grid::volume() const {
    double sum = 0;
    each([&](std::array<int, 3> c) {
        double v = is(c);
        for (size_t a : {0u, 1u, 2u})
            v *= at[a][static_cast<size_t>(c[a]) + 1] - at[a][static_cast<size_t>(c[a])];
        sum += v;
    });
    return sum;
}
bool Grid::whole() const {
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
Grid carved(unsigned seed, bool few) {
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

TopoDS_Shape solidOf(const Grid& g) {
    TopoDS_Shape r;
    g.each([&](std::array<int, 3> c) {
        if (!g.is(c)) return;
        const auto corner = [&](int d) {
            const auto at = [&](size_t a) { return g.at[a][static_cast<size_t>(c[a] + d)]; };
            return gp_Pnt(at(0), at(1), at(2));
        };
        const TopoDS_Shape box = BRepPrimAPI_MakeBox(corner(0), corner(1)).Shape();
        r = r.IsNull() ? box : BRepAlgoAPI_Fuse(r, box).Shape();
    });
    ShapeUpgrade_UnifySameDomain unify(r);
    unify.Build();
    return unify.Shape();
}

std::vector<Grid> everyPartOf(const Grid& g) {
    std::vector<Grid> r(size_t{1} << g.full.size(), g);
    for (size_t n = 0; n < r.size(); ++n)
        for (size_t i = 0; i < g.full.size(); ++i) r[n].full[i] = n >> i & 1;
    return r;
}

std::set<Drawn> linesOf(const Grid& g) {
    std::set<Drawn> r;
    for (int look : {0, 1, 2}) {
        const bool from_low = look == 1; // the front view's viewer stands at Y below 0
        for (int across : {0, 1, 2}) {   // the line is square to this one
            if (across == look) continue;
            const int lengthwise = 3 - look - across;
            for (int i = 0; i <= g.count(across); ++i)
                for (int k = 0; k < g.count(lengthwise); ++k) {
                    const auto box = [&](int side, int deep) {
                        std::array<int, 3> c{};
                        c[static_cast<size_t>(across)] = i - 1 + side, c[static_cast<size_t>(lengthwise)] = k;
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
                    const auto& on = g.at[static_cast<size_t>(lengthwise)];
                    for (Vec3* p : {&d.a, &d.b})
                        put(*p, across, g.at[static_cast<size_t>(across)][static_cast<size_t>(i)]);
                    put(d.a, lengthwise, on[static_cast<size_t>(k)]),
                        put(d.b, lengthwise, on[static_cast<size_t>(k) + 1]);
                    r.insert(d);
                }
        }
    }
    return r;
}

bool everyPlaneIn(const std::set<Drawn>& lines, const Grid& g) {
    for (int axis : {0, 1, 2})
        for (const double at : g.at[static_cast<size_t>(axis)])
            if (std::ranges::none_of(lines, [&](const Drawn& p) {
                    return p.look != axis && along(p.a, axis) == at && along(p.b, axis) == at;
                }))
                return false;
    return true;
}

ThreeViews sheetOf(const Grid& g, const std::set<Drawn>& lines) {
    ThreeViews t = threeViews(g.at[0].back(), g.at[1].back(), g.at[2].back());
    for (const Drawn& d : lines) t.line(static_cast<Axis>(d.look), d.a, d.b, d.seen ? "OUTLINE" : "HIDDEN");
    return t;
}

Grid behind(const Grid& g, size_t layer) {
    Grid r;
    r.at = g.at;
    const std::vector<double>& y = g.at[1];
    r.at[1] = {0.5 * (y[layer] + y[layer + 1])};
    r.at[1].insert(r.at[1].end(), y.begin() + static_cast<long>(layer) + 1, y.end());
    r.full.resize(static_cast<size_t>(r.count(0) * r.count(1) * r.count(2)));
    r.each([&](std::array<int, 3> c) {
        r.full[r.index(c)] = g.is({c[0], c[1] + static_cast<int>(layer), c[2]});
    });
    return r;
}

namespace {

void hatch(DxfText& t, Vec2 lo, Vec2 hi) {
    t.group(0, "HATCH").group(8, "HATCHING").group(10, 0.0).group(20, 0.0).group(30, 0.0).group(2, "LINES");
    t.group(70, "0").group(71, "0").group(91, "1").group(92, "2").group(72, "0").group(73, "1").group(93,
                                                                                                      "4");
    for (const Vec2 p : {lo, Vec2{hi.x, lo.y}, hi, Vec2{lo.x, hi.y}}) t.group(10, p.x).group(20, p.y);
    t.group(97, "0").group(75, "0").group(76, "1").group(52, 45.0).group(41, 1.0).group(77, "0");
    t.group(78, "0").group(98, "0");
}

} // namespace

DxfText withSection(const Grid& g, size_t layer) {
    ThreeViews t = sheetOf(g, linesOf(g));
    const double width = t.width, x0 = t.width + t.depth + 80;
    const double at = t.on(Axis::z, {0, 0.5 * (g.at[1][layer] + g.at[1][layer + 1]), 0}).y;
    t.sheet.line(-10, at, width + 10, at, "CENTER");
    for (const double x : {-10.0, width + 10}) {
        t.sheet.line(x, at, x, at + 8, "CENTER").line(x, at + 8, x - 1, at + 5, "CENTER");
        t.sheet.line(x, at + 8, x + 1, at + 5, "CENTER").text(x < 0 ? x - 5 : x + 3, at + 1, "A");
    }
    for (const Drawn& p : linesOf(behind(g, layer)))
        if (p.look == 1 && p.seen) t.sheet.line(x0 + p.a.x, p.a.z, x0 + p.b.x, p.b.z);
    for (int x = 0; x < g.count(0); ++x)
        for (int z = 0; z < g.count(2); ++z) {
            const auto i = static_cast<size_t>(x), k = static_cast<size_t>(z);
            if (g.is({x, static_cast<int>(layer), z}))
                hatch(t.sheet, {x0 + g.at[0][i], g.at[2][k]}, {x0 + g.at[0][i + 1], g.at[2][k + 1]});
        }
    t.sheet.text(x0 + 0.4 * width, -10, "A-A");
    return t.sheet;
}

} // namespace prism::test
