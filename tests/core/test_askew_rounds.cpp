#include "support/samples.h"

#include "core/project/propose_for.h"

using namespace prism;
using namespace prism::test;

// What is round in an auxiliary view and an ellipse in a principal one, or the other way round.

namespace {

Document proposed(const std::string& path) {
    NoProgress quiet;
    Document d = opened(path);
    auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    Choices c = d.choices();
    c.steps = p->steps;
    REQUIRE(d.apply("Propose", c, quiet, Stage::solid, {p->steps, p->build, p->proof}));
    return d;
}

/// The figure's curves of a view that are ellipses along its axes, as they now stand.
std::vector<EllipseArc> ellipsesOf(const Figure& f, const FigureView& v) {
    std::vector<EllipseArc> r;
    for (size_t i = 0; i < f.curves.size(); ++i)
        if (f.curves[i].view == v.view && f.curves[i].onEllipse())
            r.push_back(std::get<EllipseArc>(f.curve(static_cast<int>(i))));
    return r;
}

} // namespace

TEST_CASE("the rounded end of a bent plate goes along in all views when the plate changes") {
    // Drawn by another program: a plate bent up by 50 degrees, its end rounded with R13; two holes in the
    // level part and one in the slanted one. The sheet states the overall width and height.
    for (const char* name : {"x1", "z1"}) {
        INFO(name);
        NoProgress quiet;
        Document d = proposed(PRISM_TEST_DATA "/parts/bent-rounded-end.dxf");
        REQUIRE(d.model().proof);
        REQUIRE(d.model().proof->proved());
        Choices c = d.choices();
        const auto& entries = d.model().ledger.entries;
        const auto entry = std::ranges::find(entries, name, &LedgerEntry::name);
        REQUIRE(entry != entries.end());
        c.numbers[name].value = entry->value * 1.03;
        REQUIRE(d.apply("Change", c, quiet));
        REQUIRE(d.model().proof);
        CHECK(d.model().proof->proved());
        const Figure& f = d.model().figure;
        const FigureView* top = f.viewNamed({Role::top, {}});
        const FigureView* front = f.viewNamed({Role::front, {}});
        REQUIRE((top && front));
        // The slanted edge of the front view tells how much the end is foreshortened from above.
        Vec2 slanted;
        for (size_t i = 0; i < f.curves.size(); ++i)
            if (const Curve k = f.curve(static_cast<int>(i)); f.curves[i].view == front->view)
                if (const auto* s = std::get_if<Segment>(&k))
                    if (const Vec2 e = s->b - s->a;
                        std::min(std::abs(e.x), std::abs(e.y)) > 1 && length(e) > length(slanted))
                        slanted = e;
        REQUIRE(length(slanted) > 50);
        int corners = 0;
        for (const EllipseArc& e : ellipsesOf(f, *top)) {
            const Box2 whole = boxOf(Curve(EllipseArc{e.centre, e.major, e.ratio}));
            if (std::abs(whole.height() - 26) > 1e-6) continue;
            ++corners;
            CHECK(whole.width() == Approx(26 * std::abs(slanted.x) / length(slanted)).epsilon(1e-7));
        }
        CHECK(corners >= 2);
    }
}
