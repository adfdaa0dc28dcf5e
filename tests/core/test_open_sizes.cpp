#include "core/checking/open_sizes.h"
#include "support/samples.h"

#include <fstream>
#include <random>

// What the dimensions of a sheet leave open, what they say twice, and the dimensions that close it.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress g_quiet;

Document from(const DxfText& t) {
    DxfText done = t;
    const std::string path = temporary("open.dxf");
    std::ofstream(path) << done.done();
    return opened(path);
}

Completeness sizes(const Document& d, const LayingChoice& how = {}) {
    const Model& m = d.model();
    return completenessOf({*m.drawing, m.sheet, m.views, m.drawn, m.drawn_ledger}, how, g_quiet);
}

/// Front and top view of a plate 120 x 70 x 20 with holes through it; third angle.
struct Plate {
    std::vector<std::pair<Vec2, double>> holes; ///< centre and radius
    DxfText drawn() const {
        DxfText t;
        t.layer("HIDDEN", "HIDDEN").entities().box(0, 0, 120, 20).box(0, 50, 120, 120);
        for (const auto& [c, r] : holes) {
            t.circle(c.x, 50 + c.y, r);
            for (double s : {-r, r}) t.line(c.x + s, 0, c.x + s, 20, "HIDDEN");
        }
        t.text(0, -60, "THIRD ANGLE PROJECTION");
        return t;
    }
};

/// A dimension of the plate in the top view (along X, Y) or the front view (along Z).
void along(DxfText& t, Axis axis, double from, double to) {
    if (axis == Axis::x)
        t.dimension(from, 50, to, 50, 0, 40, 0);
    else if (axis == Axis::y)
        t.dimension(0, 50 + from, 0, 50 + to, -10, 50, 90);
    else
        t.dimension(0, from, 0, to, -10, 0, 90);
}

void across(DxfText& t, const std::pair<Vec2, double>& hole) {
    t.group(0, "DIMENSION").group(8, "DIM").group(70, 3);
    t.group(10, hole.first.x - hole.second).group(20, 50 + hole.first.y);
    t.group(15, hole.first.x + hole.second).group(25, 50 + hole.first.y);
}

Document closed(const Document& d, const LayingChoice& how) {
    Document r = d;
    REQUIRE(r.apply("Close", changed(r.choices(), closingAll(sizes(r, how))), g_quiet));
    return r;
}

} // namespace

TEST_CASE("a plate without dimensions has as many open sizes as numbers make it, and one each closes it") {
    const Plate plate{{{{30, 25}, 6}, {{85, 42}, 9}}};
    const Document d = from(plate.drawn());
    const Completeness c = sizes(d);
    REQUIRE(c.open.size() == 3 + 2 * 2 + 2); // length, width, height; two centres; two diameters
    CHECK(c.twice.empty());
    CHECK(std::ranges::count(c.open, true, &OpenSize::radius) == 2);
    std::multiset<double> values;
    for (const OpenSize& o : c.open) values.insert(std::round(o.value * 1e6) / 1e6);
    CHECK(values == std::multiset<double>{12, 18, 20, 25, 30, 42, 70, 85, 120});
    for (const Laying laying : {Laying::baseline, Laying::chain, Laying::ordinate})
        for (const Datum datum : {Datum::low, Datum::high}) {
            INFO(nameOf(laying) << " from " << nameOf(datum));
            const Document whole = closed(d, {laying, {datum, datum, datum}});
            CHECK(sizes(whole).complete());
            CHECK(sizes(whole).twice.empty());
            const Ledger& l = whole.model().ledger;
            REQUIRE(l.entries.size() == 9);
            double sum = 0;
            for (const LedgerEntry& e : l.entries) {
                CHECK(e.state == EntryState::drives);
                CHECK(e.said == Approx(e.drawn));
                sum += e.value;
            }
            if (laying == Laying::chain) continue;
            // From the far ends the centres are 90 and 35 along X, 45 and 28 along Y.
            const double centres = datum == Datum::low ? 30 + 85 + 25 + 42 : 90 + 35 + 45 + 28;
            CHECK(sum == Approx(120 + 70 + 20 + 12 + 18 + centres));
        }
}

TEST_CASE("each dimension taken from a full set leaves one size open, the one that it gave") {
    std::mt19937 rng(11);
    const auto some = [&](int lo, int hi) { return std::uniform_int_distribution<int>(lo, hi)(rng); };
    for (int round = 0; round < 12; ++round) {
        Plate plate;
        for (int i = 0; i < 3; ++i) // no two coordinates, and no two radii, are alike
            plate.holes.push_back(
                {{20.0 + 35 * i + some(0, 9), 14.0 + 17 * i + some(0, 7)}, 3.0 + i + 0.25 * some(0, 3)});
        struct Size {
            Axis axis;
            double from, to; ///< to: negative for a diameter of the hole numbered `from`
        };
        std::vector<Size> all{{Axis::x, 0, 120}, {Axis::y, 0, 70}, {Axis::z, 0, 20}};
        for (size_t i = 0; i < plate.holes.size(); ++i) {
            const Vec2 c = plate.holes[i].first;
            all.push_back({Axis::x, some(0, 1) ? 0.0 : 120.0, c.x});
            all.push_back({Axis::y, some(0, 1) ? 0.0 : 70.0, c.y});
            all.push_back({Axis::x, static_cast<double>(i), -1});
        }
        std::ranges::shuffle(all, rng);
        const size_t left_out = static_cast<size_t>(some(0, 4));
        DxfText t = plate.drawn();
        for (size_t i = left_out; i < all.size(); ++i)
            if (all[i].to < 0)
                across(t, plate.holes[static_cast<size_t>(all[i].from)]);
            else
                along(t, all[i].axis, all[i].from, all[i].to);
        const Document d = from(t);
        INFO("round " << round << ", " << left_out << " left out");
        const Completeness c = sizes(d);
        CHECK(c.open.size() == left_out);
        CHECK(c.twice.empty());
        for (size_t i = 0; i < left_out; ++i)
            if (all[i].to < 0)
                CHECK(std::ranges::count_if(c.open, [&](const OpenSize& o) {
                          return o.radius &&
                                 std::abs(o.at - plate.holes[static_cast<size_t>(all[i].from)].second) < 1e-9;
                      }) == 1);
    }
}

TEST_CASE("a dimension that others give is told with those that it follows from") {
    DxfText t = Plate{{{{40, 30}, 8}}}.drawn();
    along(t, Axis::x, 0, 40), along(t, Axis::x, 40, 120), along(t, Axis::x, 0, 120); // x1, x2, x3
    const Completeness c = sizes(from(t));
    REQUIRE(c.twice.size() == 1);
    CHECK(c.twice[0].name == "x3");
    CHECK(std::multiset<std::string>(c.twice[0].from.begin(), c.twice[0].from.end()) ==
          std::multiset<std::string>{"x1", "x2"});
    CHECK(c.open.size() == 4); // Y: width and centre; the height; the diameter
}

TEST_CASE("what agrees as drawn is no open size: equal holes, and those that a centre line halves") {
    // Four equal holes at the corners of a rectangle: two coordinates along each axis, one diameter.
    const Plate plate{{{{20, 15}, 5}, {{100, 15}, 5}, {{20, 55}, 5}, {{100, 55}, 5}}};
    CHECK(sizes(from(plate.drawn())).open.size() == 3 + 2 + 2 + 1);
}

TEST_CASE("a round number from elsewhere wins over one with many digits from the datum") {
    // The hole stands 26.63 from the left end but 30 from the other hole, which is dimensioned.
    DxfText t = Plate{{{{26.63, 35}, 5}, {{56.63, 35}, 9}}}.drawn();
    along(t, Axis::x, 0, 120), along(t, Axis::x, 0, 56.63);
    const Completeness c = sizes(from(t));
    const auto hole =
        std::ranges::find_if(c.open, [](const OpenSize& o) { return !o.radius && o.axis == Axis::x; });
    REQUIRE(hole != c.open.end());
    CHECK(hole->value == Approx(30));
    CHECK(hole->from == "the centre at 56.63");
    CHECK(hole->round);
    CHECK(hole->what == "the centre of the circle");
}

TEST_CASE("an open size moves alone, and what is dimensioned stays") {
    DxfText t = Plate{{{{30, 25}, 6}, {{85, 40}, 9}}}.drawn();
    along(t, Axis::x, 0, 120), along(t, Axis::y, 0, 70), along(t, Axis::x, 0, 85);
    const Document d = from(t);
    const Completeness c = sizes(d);
    const auto hole =
        std::ranges::find_if(c.open, [](const OpenSize& o) { return !o.radius && o.axis == Axis::x; });
    REQUIRE(hole != c.open.end());
    CHECK(hole->at == Approx(30));
    const Model& m = d.model();
    const auto x = movedBy(m.figure, m.ledger, *hole, 2.5);
    REQUIRE(x);
    for (size_t i = 0; i < m.figure.curves.size(); ++i) {
        const auto* a = std::get_if<Arc>(&m.figure.curves[i].drawn);
        if (!a) continue;
        const Arc now = std::get<Arc>(m.figure.curve(static_cast<int>(i), *x));
        CHECK(now.centre.x == Approx(a->centre.x + (a->radius == 6 ? 2.5 : 0)));
        CHECK(now.centre.y == Approx(a->centre.y));
        CHECK(now.radius == Approx(a->radius));
    }
    CHECK_FALSE(hole->lines.empty());
}

TEST_CASE("a figure too large to be looked at for open sizes says so, a stopped look is not whole") {
    struct Stopped final : Progress {
        void report(double, std::string_view) override {}
        bool cancelled() const override { return true; }
    } stopped;
    const Document d = from(Plate{{{{30, 25}, 6}}}.drawn());
    const Model& m = d.model();
    const CheckInput in{*m.drawing, m.sheet, m.views, m.drawn, m.drawn_ledger};
    CHECK(completenessOf(in, {}, stopped).open.size() < completenessOf(in, {}, g_quiet).open.size());
    Figure large = m.drawn;
    for (int i = 0; i < 30001; ++i) large.equations.push_back(large.equations.front());
    const Completeness c = completenessOf({*m.drawing, m.sheet, m.views, large, m.drawn_ledger}, {}, g_quiet);
    CHECK(c.open.empty());
    CHECK_FALSE(c.complete());
    CHECK(c.left_undone.find("30000") != std::string::npos);
}

TEST_CASE("a size that nothing in its view can be counted from gets no dimension") {
    Completeness c = sizes(from(Plate{{{{30, 25}, 6}}}.drawn()));
    const size_t all = c.open.size();
    REQUIRE(closingAll(c).dimensions.size() == all);
    c.open.back().closes = {}, c.open.back().value = 0; // as it is left when no place was found
    CHECK(closingAll(c).dimensions.size() == all - 1);
    CHECK_FALSE(c.complete());
}

TEST_CASE(
    "dimensions that close a sheet stand beside their view, apart from each other and from other views") {
    const Plate plate{{{{30, 25}, 6}, {{85, 42}, 9}}};
    for (const double gap : {30.0, 4.0, 90.0}) { // between the views; the least is too narrow for a dimension
        DxfText t;
        t.layer("HIDDEN", "HIDDEN").entities().box(0, 0, 120, 20).box(0, 20 + gap, 120, 90 + gap);
        for (const auto& [c, r] : plate.holes) {
            t.circle(c.x, 20 + gap + c.y, r);
            for (double s : {-r, r}) t.line(c.x + s, 0, c.x + s, 20, "HIDDEN");
        }
        const Document d = from(t.text(0, -60, "THIRD ANGLE PROJECTION"));
        const auto& views = d.model().views.views;
        REQUIRE(views.size() == 2);
        struct Laid {
            int view;
            bool upright;
            double at, from, to; ///< across and along its line
        };
        std::vector<Laid> laid;
        for (const OpenSize& o : sizes(d, {Laying::baseline, {}}).open) {
            const AddedDimension& n = o.closes;
            INFO(o.what << " of " << o.value << ", views " << gap << " apart");
            if (o.radius) {
                // From one side of the circle to the other, its text beside it, no farther off than its size.
                const Vec2 centre = 0.5 * (n.p10 + n.p15);
                CHECK(distance(n.p10, n.p15) == Approx(o.value));
                CHECK(distance(n.text_at, centre) > o.value / 2);
                CHECK(distance(n.text_at, centre) < o.value);
                continue;
            }
            const bool upright = std::abs(std::sin(n.angle)) > 0.5;
            CHECK(std::abs((n.p14 - n.p13)[upright ? 1 : 0]) == Approx(o.value));
            for (const View& v : views) {
                CHECK_FALSE(v.box_sheet.contains(n.p10));
                CHECK_FALSE(v.box_sheet.contains(n.text_at));
            }
            const int along = upright ? 1 : 0;
            CHECK(n.text_at[along] == Approx(0.5 * (n.p13[along] + n.p14[along])));
            CHECK(n.text_at[1 - along] == Approx(n.p10[1 - along]));
            laid.push_back({o.view, upright, n.p10[1 - along], std::min(n.p13[along], n.p14[along]),
                            std::max(n.p13[along], n.p14[along])});
            // Beside its own view, not beyond the next one.
            const Box2& own = views[static_cast<size_t>(o.view)].box_sheet;
            CHECK(own.grown(60).contains(n.p10));
        }
        REQUIRE(laid.size() == 7);
        for (size_t i = 0; i < laid.size(); ++i)
            for (size_t k = 0; k < i; ++k)
                if (const Laid& a = laid[i], &b = laid[k]; a.view == b.view && a.upright == b.upright &&
                                                           a.from < b.to - 1e-6 && b.from < a.to - 1e-6)
                    CHECK(std::abs(a.at - b.at) > 3);
    }
}

TEST_CASE("holes spread evenly round their circle need no dimension but that of the circle") {
    CHECK(sizes(opened(demo("vent-ring.dxf"))).complete());
    // Five of them at equal angles, none level with the middle but one; then one that stands elsewhere.
    for (const double astray : {0.0, 0.3}) {
        DxfText t;
        t.layer("CENTER", "CENTER").entities().circle(100, 100, 60).circle(100, 100, 40, "CENTER");
        for (int k = 0; k < 5; ++k) {
            const Vec2 at = Vec2{100, 100} + 40 * direction(2 * kPi * (k + (k == 2 ? astray : 0)) / 5);
            t.circle(at.x, at.y, 4);
        }
        across(t, {{100, 50}, 60}), across(t, {{100, 50}, 40}), across(t, {{140, 50}, 4});
        t.box(40, 0, 160, 12).dimension(40, 0, 40, 12, 30, 0, 90);
        const Completeness c = sizes(from(t.text(0, -60, "THIRD ANGLE PROJECTION")));
        INFO(c.open.size() << " open" << (c.open.empty() ? "" : ": " + c.open[0].what));
        CHECK(c.open.empty() == (astray == 0));
    }
}
