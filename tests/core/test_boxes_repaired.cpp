#include "support/diagnosed.h"
#include "support/grid_part.h"

using namespace prism;
using namespace prism::test;

// Sheets of parts of boxes on which one piece of line is drawn otherwise than it should be: whether any part
// of these boxes draws a sheet is known of all 4,096, before and after it is repaired.

namespace {

/// Every piece that a view can show between two planes of the grid, as the sheet draws it.
std::set<Drawn> drawnIn(const Figure& f, const Grid& g) {
    std::set<Drawn> r;
    Grid each = g; // a single box draws the pieces round it
    for (size_t i = 0; i < g.full.size(); ++i) {
        each.full.assign(g.full.size(), false);
        each.full[i] = true;
        for (Drawn p : linesOf(each)) {
            const auto view = std::ranges::find_if(
                f.views, [&](const FigureView& v) { return static_cast<int>(v.axes.depth) == p.look; });
            if (view == f.views.end()) continue;
            const Vec3 middle = 0.5 * (p.a + p.b);
            const Vec2 at{along(middle, static_cast<int>(view->axes.right)),
                          along(middle, static_cast<int>(view->axes.up))};
            for (const LineRole role : {LineRole::outline, LineRole::hidden})
                if (std::ranges::any_of(f.curves, [&](const FigureCurve& c) {
                        return c.view == view->view && c.role == role && distanceTo(c.drawn, at) < 1e-6;
                    })) {
                    p.seen = role == LineRole::outline;
                    r.insert(p);
                    break;
                }
        }
    }
    return r;
}

struct Misdrawn {
    Grid part;
    std::set<Drawn> sound, lines;
};

/// One piece is left out, drawn as of the other kind, or is too many.
Misdrawn misdrawn(unsigned seed) {
    Misdrawn m{carved(seed, true), {}, {}};
    m.lines = m.sound = linesOf(m.part);
    const auto within = [&](const Drawn& p) { // not along the border of its view
        for (const int a : {0, 1, 2})
            if (a != p.look && along(p.a, a) == along(p.b, a) &&
                (along(p.a, a) == 0 || along(p.a, a) == m.part.at[static_cast<size_t>(a)].back()))
                return false;
        return true;
    };
    std::vector<Drawn> inner;
    std::ranges::copy_if(m.sound, std::back_inserter(inner), within);
    REQUIRE_FALSE(inner.empty());
    Drawn p = inner[seed % inner.size()];
    m.lines.erase(p);
    if (seed % 3 == 1) p.seen = !p.seen, m.lines.insert(p);
    if (seed % 3 == 2) {
        m.lines = m.sound;
        Grid other = m.part; // a piece that a part with one more or one less box has
        other.full[seed % other.full.size()].flip();
        for (const Drawn& q : linesOf(other)) {
            Drawn unlike = q;
            unlike.seen = !q.seen;
            if (within(q) && !m.sound.contains(q) && !m.sound.contains(unlike)) {
                m.lines.insert(q);
                break;
            }
        }
    }
    return m;
}

bool someDraws(const std::vector<Grid>& every, const std::set<Drawn>& lines) {
    return std::ranges::any_of(every, [&](const Grid& g) { return g.whole() && linesOf(g) == lines; });
}

} // namespace

TEST_CASE(
    "a sheet is called sound only where some part draws it, and repaired it is one that some part draws") {
    const auto first = GENERATE(401u, 407u, 413u);
    int wrong = 0, told = 0, mended = 0;
    for (unsigned seed = first; seed < first + 6; ++seed) {
        CAPTURE(seed);
        const Misdrawn m = misdrawn(seed);
        const std::vector<Grid> every = everyPartOf(m.part);
        Document d = drawnSheet(sheetOf(m.part, m.lines).sheet.done());
        if (d.model().drawn.views.size() != 3 || drawnIn(d.model().drawn, m.part) != m.lines) continue;
        const Diagnosis found = diagnosed(d);
        CAPTURE(test::told(found));
        const bool any = someDraws(every, m.lines);
        if (found.sound) CHECK(any);
        if (any) CHECK((found.sound || serious(found).empty()));
        if (any) continue;
        ++wrong;
        told += !serious(found).empty();
        if (found.settles) {
            REQUIRE_FALSE(found.settles->remedies.empty());
            Document settled = d;
            NoProgress quiet;
            REQUIRE(settled.apply("as told", changed(d.choices(), found.settles->remedies.front().change),
                                  quiet, Stage::checks));
            CHECK(someDraws(every, drawnIn(settled.model().drawn, m.part)));
            CHECK(found.settles->remedies.front().reason.find("has a solid") != std::string::npos);
        }
        Document r = d;
        const bool changed = !repaired(r).empty();
        const bool sound = diagnosed(r).sound;
        if (sound) CHECK(someDraws(every, drawnIn(r.model().drawn, m.part)));
        mended += changed && sound;
    }
    CAPTURE(wrong, told, mended);
    CHECK(wrong >= 2);
    CHECK(told == wrong);
    CHECK(mended >= wrong - 1);
}

TEST_CASE("what is supposed to be lacking is not drawn anywhere along it, and is as long as is told") {
    int supposed = 0;
    for (unsigned seed = 402; seed < 460; seed += 3) { // one piece is left out
        CAPTURE(seed);
        const Misdrawn m = misdrawn(seed);
        const Document d = drawnSheet(sheetOf(m.part, m.lines).sheet.done());
        NoProgress quiet;
        for (const Finding& f : lackingLines(inputOf(d), quiet)) {
            ++supposed;
            CAPTURE(f.message);
            const FigureView& v = *d.model().drawn.viewById(f.views.front());
            const Segment line{v.to_model(f.at_sheet.front()), v.to_model(f.at_sheet.back())};
            CHECK(f.numbers.at("length") == Approx(distance(line.a, line.b)));
            if (f.message.find("a line of") != std::string::npos)
                CHECK(f.message.find(fmt::format("{:.2f} mm", distance(line.a, line.b))) !=
                      std::string::npos);
            for (const double t : {0.07, 0.23, 0.41, 0.59, 0.77, 0.93}) {
                const Vec2 p = pointAt(line, t);
                // Lines across may meet it; none runs along it.
                CHECK(std::ranges::none_of(d.model().drawn.curves, [&](const FigureCurve& c) {
                    return c.view == v.view && distanceTo(c.drawn, p) < 1e-6 &&
                           std::abs(cross(normalized(tangentAt(c.drawn, 0.5)), normalized(line.b - line.a))) <
                               1e-6;
                }));
            }
        }
    }
    CHECK(supposed > 20);
}
