#include "core/proposing/cell_steps.h"
#include "core/proposing/consistency.h"
#include "support/grid_part.h"

using namespace prism;
using namespace prism::test;

// Parts made of boxes on an uneven grid, drawn box by box: which boxes are material is found again from the
// lines, and steps are found that make them.

namespace {

NoProgress g_quiet;

/// The cells that the views of a sheet cut space into.
struct Sheet {
    Document d;
    double size;
    std::vector<ViewMap> maps{mapsOf(d)};
    ProductCells cells{maps, true};
    Work work;
    Sheet(const Grid& g, const std::set<Drawn>& lines) : Sheet(g, sheetOf(g, lines).sheet, 3) {}
    Sheet(const Grid& g, const DxfText& sheet, size_t views) : d(inViews(sheet)), size(g.size()) {
        REQUIRE(d.model().figure.views.size() == views);
    }
    ConsistentCells consistent(Lines how, LineKinds kinds = LineKinds::told) {
        return {cells, d.model().figure.tolerances, size, how, work, g_quiet, kinds};
    }
};

/// The grid with the boxes that a choice of cells makes material; none met where no line of sight passed.
/// `aside`: how far off its middle along Y a box is looked at, mm.
Grid chosen(const Grid& g, ProductCells& cells, const std::vector<bool>& material, double aside = 0) {
    Grid r = g;
    for (size_t k = 0; k < cells.maps().size(); ++k)
        if (cells.maps()[k].view().axes.depth == Axis::z)
            g.each([&](std::array<int, 3> c) {
                const Vec3 p = g.middle(c) + Vec3{0, aside, 0};
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
            if (a != p.look && along(p.a, a) == along(p.b, a) &&
                (along(p.a, a) == 0 || along(p.a, a) == g.at[static_cast<size_t>(a)].back()))
                return false;
        return true;
    };
    const auto left_out = std::ranges::find_if(lines, within);
    if (left_out == lines.end()) return false;
    lines.erase(left_out);
    if (!everyPlaneIn(lines, g)) return false; // nothing would tell of boxes there
    const std::vector<Grid> every = everyPartOf(g);
    if (std::ranges::any_of(every, [&](const Grid& other) { return linesOf(other) == lines; })) return false;
    Sheet sheet(g, lines);
    const auto& maps = sheet.maps;
    const auto keyOf = [&](const Drawn& p) {
        const auto k = std::ranges::find_if(
            maps, [&](const ViewMap& m) { return static_cast<int>(m.view().axes.depth) == p.look; });
        const FigureView& v = k->view();
        const auto on = [&](Vec3 q) {
            return Vec2{along(q, static_cast<int>(v.axes.right)), along(q, static_cast<int>(v.axes.up))};
        };
        const Vec2 a = on(p.a), b = on(p.b);
        SightLineKey key{static_cast<int>(k - maps.begin()), SightLineKey::Kind::drawn,
                         k->curveAt((a + b) * 0.5)};
        if (key.index >= 0) return key;
        key.kind = a.x == b.x ? SightLineKey::Kind::level_upright : SightLineKey::Kind::level_across;
        const Axis across = a.x == b.x ? v.axes.right : v.axes.up;
        const auto& on_axis = g.at[static_cast<size_t>(across)];
        key.index = static_cast<int>(std::ranges::find(on_axis, along(p.a, static_cast<int>(across))) -
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
    CHECK_FALSE(sheet.consistent(Lines::all).next(g_quiet));
    ConsistentCells looked = sheet.consistent(Lines::all);
    std::set<std::set<SightLineKey>> found;
    for (const auto& suspect : looked.suspects(1000, g_quiet)) {
        CHECK(found.insert({suspect.begin(), suspect.end()}).second);
        const auto choice = looked.without(suspect, g_quiet);
        REQUIRE(choice);
        CHECK(choice->ignored > 0);
        CHECK(choice->ignored < choice->total);
        const auto off = differing(chosen(g, sheet.cells, choice->material));
        CHECK_FALSE(off.empty());
        CHECK(std::ranges::includes(std::set(suspect.begin(), suspect.end()), off));
    }
    CHECK(found == wanted);
    CHECK(looked.suspects(1, g_quiet).size() == std::min<size_t>(1, wanted.size()));
    ConsistentCells most = sheet.consistent(Lines::most);
    if (const auto choice = most.next(g_quiet)) {
        CHECK(choice->ignored > 0);
        CHECK_FALSE(differing(chosen(g, sheet.cells, choice->material)).empty());
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
    Sheet sheet(g, lines);
    ConsistentCells consistent = sheet.consistent(Lines::all);
    constexpr int kMost = 40;
    bool found = false, all = false;
    for (int n = 0; n < kMost && !found; ++n) {
        const auto choice = consistent.next(g_quiet);
        if (!choice) {
            all = true;
            break;
        }
        CHECK(choice->ignored == 0);
        CHECK(choice->total > 0);
        const Grid made = chosen(g, sheet.cells, choice->material);
        CHECK(linesOf(made) == lines);
        found = made.full == g.full;
    }
    CHECK((found || !all)); // all that the lines allow, and not the part
    CHECK(consistent.leftUndone().empty());
    CHECK(sheet.work.done() > 0);
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
    Sheet sheet(g, lines);
    ConsistentCells consistent = sheet.consistent(Lines::all, kinds);
    std::set<std::vector<bool>> found;
    while (const auto choice = consistent.next(g_quiet)) {
        REQUIRE(found.size() < wanted.size());
        const std::vector<bool> full = chosen(g, sheet.cells, choice->material).full;
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

TEST_CASE(
    "with a section the choices are the parts that show the same behind its plane, cut at the same places") {
    const unsigned seed = GENERATE(range(116u, 126u));
    CAPTURE(seed);
    const Grid g = carved(seed, true);
    const size_t layer = seed % static_cast<size_t>(g.count(1));
    const auto shown = [&](const Grid& other) { // of the views, of the section, and where that is hatched
        std::set<Drawn> seen = linesOf(behind(other, layer));
        std::erase_if(seen, [](const Drawn& p) { return p.look != 1 || !p.seen; });
        std::vector<bool> cut;
        other.each([&](std::array<int, 3> c) {
            if (c[1] == static_cast<int>(layer)) cut.push_back(other.is(c));
        });
        return std::tuple(linesOf(other), seen, cut);
    };
    std::set<std::vector<bool>> wanted;
    for (const Grid& other : everyPartOf(g))
        if (shown(other) == shown(g)) wanted.insert(other.full);
    Sheet sheet(g, withSection(g, layer), 4);
    ConsistentCells consistent = sheet.consistent(Lines::all);
    std::set<std::vector<bool>> found;
    for (int n = 0; n < 40; ++n) {
        const auto choice = consistent.next(g_quiet);
        if (!choice) break;
        // The plane halves a layer: a choice may be of half boxes, which no part of the grid has.
        const Grid before = chosen(g, sheet.cells, choice->material, -1),
                   beyond = chosen(g, sheet.cells, choice->material, 1);
        CHECK(std::get<2>(shown(beyond)) == std::get<2>(shown(g)));
        if (before.full == beyond.full) found.insert(beyond.full);
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
                const int cell = ray.cells[static_cast<size_t>(n)];
                if (cell < 0) return;
                material[cell] = g.is(c);
                for (const int a : {0, 1, 2})
                    if (cells.levels(static_cast<Axis>(a)).size() == g.at[static_cast<size_t>(a)].size())
                        CHECK(cells.intervalOf(cell, static_cast<Axis>(a)) == c[static_cast<size_t>(a)]);
                const std::vector<int> areas = cells.areasOf(cell);
                REQUIRE(areas.size() == maps.size());
                for (size_t m = 0; m < maps.size(); ++m)
                    CHECK(areas[m] == maps[m].areaAt({along(p, static_cast<int>(maps[m].view().axes.right)),
                                                      along(p, static_cast<int>(maps[m].view().axes.up))}));
            });
    const auto fill = [&](int cell) {
        const auto it = material.find(cell);
        return it == material.end() ? Fill::either : it->second ? Fill::material : Fill::air;
    };
    const StepsFound found = stepsFor(d.model().figure, cells, fill, g_quiet);
    CHECK(found.left_undone.empty());
    REQUIRE_FALSE(found.steps.empty());
    const BuildResult built = build(d.model().figure, d.model().areas, found.steps, g_quiet);
    for (const StepReport& s : built.steps) CHECK(s.ok);
    CHECK(built.measure.volume == Approx(g.volume()).epsilon(1e-9));
}
