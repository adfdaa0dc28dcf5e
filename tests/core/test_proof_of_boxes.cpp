#include "core/proofing/proof.h"
#include "support/grid_part.h"

using namespace prism;
using namespace prism::test;

// A part of boxes held against the sheet of another one on the same grid: what is missing and what is too
// much is known piece by piece.

namespace {

/// Of the lines of one view that are wanted, those that the other part does not draw: a line drawn as a
/// hidden one is wanted of some kind, one drawn as an outline in sight.
double lacking(const std::set<Drawn>& wanted, const std::set<Drawn>& drawn, int look, bool hidden = true) {
    double sum = 0;
    for (Drawn p : wanted) {
        if (p.look != look || (!p.seen && !hidden)) continue;
        const Vec3 d = p.b - p.a;
        const bool was_seen = p.seen;
        p.seen = true;
        const bool in_sight = drawn.contains(p);
        p.seen = false;
        if (!in_sight && (was_seen || !drawn.contains(p))) sum += std::sqrt(dot(d, d));
    }
    return sum;
}

bool drawsHidden(const std::set<Drawn>& lines, int look) {
    return std::ranges::any_of(lines, [&](const Drawn& p) { return p.look == look && !p.seen; });
}

} // namespace

TEST_CASE("a part held against the sheet of another one misses and shows what lies between the two, in mm") {
    const unsigned seed = GENERATE(range(301u, 325u));
    CAPTURE(seed);
    const Grid sheet = carved(seed);
    const std::set<Drawn> drawn = linesOf(sheet);
    Grid part = sheet;
    // One more box is taken away or filled; at times none.
    if (seed % 6 != 0) part.full[seed % part.full.size()].flip();
    if (!part.whole()) return;
    const std::set<Drawn> shown = linesOf(part);
    const Document d = inViews(sheetOf(sheet, drawn).sheet);
    const Figure& f = d.model().figure;
    REQUIRE(f.views.size() == 3);
    NoProgress quiet;
    const auto proof = prove(f, solidOf(part), quiet);
    REQUIRE(proof);
    CHECK(proof->compared() == 3);
    bool clean = true;
    for (const ViewProof& v : proof->views) {
        const int look = static_cast<int>(f.viewById(v.view)->axes.depth);
        CAPTURE(look);
        const bool hidden = drawsHidden(drawn, look);
        const double missing = lacking(drawn, shown, look), extra = lacking(shown, drawn, look, hidden);
        CHECK(v.missing_length == Approx(missing).margin(1e-6));
        CHECK(v.extra_length == Approx(extra).margin(1e-6));
        CHECK(v.matched_length == Approx(lacking(drawn, {}, look) - missing).margin(1e-6));
        CHECK((v.missing > 0) == (missing > 0));
        CHECK((v.extra > 0) == (extra > 0));
        double pieces[3] = {};
        for (const ProofPiece& p : v.pieces) {
            CHECK(p.length == Approx(lengthOf(p.shape)));
            CHECK((p.curve == -1) == (p.state == LineState::extra));
            pieces[static_cast<int>(p.state)] += p.length;
        }
        CHECK(pieces[0] == Approx(v.matched_length).margin(1e-6));
        CHECK(pieces[1] == Approx(missing).margin(1e-6));
        CHECK(pieces[2] == Approx(extra).margin(1e-6));
        CHECK(v.off() == Approx(missing + extra).margin(1e-6));
        clean = clean && missing + extra == 0;
    }
    CHECK(proof->clean() == clean);
}

TEST_CASE("a section shows what lies behind its plane, and is hatched where the plane cuts the part") {
    const unsigned seed = GENERATE(range(331u, 347u));
    CAPTURE(seed);
    const Grid sheet = carved(seed);
    const size_t layer = seed % static_cast<size_t>(sheet.count(1));
    Grid part = sheet;
    // One more box is taken away or filled; at times none.
    if (seed % 5 != 0) part.full[(seed * 7) % part.full.size()].flip();
    if (!part.whole()) return;
    const Document d = inViews(withSection(sheet, layer));
    const Figure& f = d.model().figure;
    const auto view =
        std::ranges::find_if(f.views, [](const FigureView& v) { return v.shows == Shows::cut; });
    REQUIRE(view != f.views.end());
    NoProgress quiet;
    const auto proof = prove(f, solidOf(part), quiet);
    REQUIRE(proof);
    const auto v = std::ranges::find(proof->views, view->view, &ViewProof::view);
    REQUIRE(v != proof->views.end());
    const std::set<Drawn> drawn = linesOf(behind(sheet, layer)), shown = linesOf(behind(part, layer));
    const double missing = lacking(drawn, shown, 1, false), extra = lacking(shown, drawn, 1, false);
    CHECK(v->missing_length == Approx(missing).margin(1e-6));
    CHECK(v->extra_length == Approx(extra).margin(1e-6));
    CHECK(v->matched_length == Approx(lacking(drawn, {}, 1, false) - missing).margin(1e-6));
    const auto boxAt = [&](Vec2 p) {
        const auto slot = [&](size_t axis, double at) {
            return static_cast<int>(std::ranges::upper_bound(sheet.at[axis], at) - sheet.at[axis].begin()) -
                   1;
        };
        return std::array{slot(0, p.x), static_cast<int>(layer), slot(2, p.y)};
    };
    int areas = 0;
    std::vector<Vec2> off;
    for (const ClosedArea& a : d.model().areas.drawn) {
        if (a.view != view->view) continue;
        ++areas;
        if (sheet.is(boxAt(a.seed)) != part.is(boxAt(a.seed))) off.push_back(a.seed);
    }
    CHECK(v->areas == areas);
    REQUIRE(v->areas_off.size() == off.size());
    for (size_t i = 0; i < off.size(); ++i) {
        CHECK(v->areas_off[i].seed == off[i]);
        CHECK(v->areas_off[i].hatched != part.is(boxAt(off[i])));
    }
    CHECK(proof->areas_off == static_cast<int>(off.size()));
    CHECK(proof->compared() == 4);
}
