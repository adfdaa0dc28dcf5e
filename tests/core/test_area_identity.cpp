#include "support/bracket.h"
#include "support/samples.h"

#include "core/building/solid.h"
#include "core/figure/area_identity.h"

#include <fstream>

using namespace prism;
using namespace prism::test;

namespace {

/// Every area of every view, extruded through and intersected: a build list of outlines.
std::vector<Step> outlines(const Model& m) {
    std::vector<Step> r;
    for (const FigureView& v : m.figure.views) {
        Step s;
        s.view = v.name, s.reach = Reach::through, s.name = "outline";
        s.operation = r.empty() ? Operation::add : Operation::intersect;
        for (const ClosedArea& a : m.areas.drawn)
            if (a.view == v.view) s.areas.push_back(a.seed);
        r.push_back(s);
    }
    return r;
}

double areaOf(const Model& m, const Successors& s) {
    double sum = 0;
    for (int i : s.now) sum += m.areas.now[i].area;
    return sum;
}

std::vector<int> areasOf(const Model& m, int view) {
    std::vector<int> r;
    for (size_t i = 0; i < m.areas.drawn.size(); ++i)
        if (m.areas.drawn[i].view == view) r.push_back(static_cast<int>(i));
    return r;
}

} // namespace

TEST_CASE("outlines keep all of their material when single numbers are driven", "[slow]") {
    NoProgress quiet;
    Document d = opened(demo("roller-bracket.dxf"));
    Choices c = d.choices();
    c.steps = outlines(d.model());
    REQUIRE(d.apply("Outlines", c, quiet));
    REQUIRE(d.model().build.ok());
    int tried = 0;
    for (const LedgerEntry& e : d.model().ledger.entries) {
        if (e.state != EntryState::drives) continue;
        for (double factor : {0.97, 1.025}) {
            INFO(e.name << " " << factor);
            Choices driven = c;
            driven.numbers[e.name].value = e.value * factor;
            const auto m = computeModel(d.source(), driven, d.sharedModel(), d.choices(), quiet);
            REQUIRE(m);
            ++tried;
            for (const StepReport& s : (*m)->build.steps) CHECK(s.ok);
            for (const FigureView& v : (*m)->figure.views) {
                // All areas of a view together are what its outline encloses, found independently.
                const Successors all = successorsOf((*m)->figure, (*m)->areas, areasOf(**m, v.view));
                double now = 0;
                for (const ClosedArea& a : (*m)->areas.now)
                    if (a.view == v.view) now += a.area;
                CHECK(all.vanished.empty());
                CHECK(areaOf(**m, all) == Approx(now).epsilon(1e-9));
            }
        }
    }
    CHECK(tried > 20);
}

TEST_CASE("an area that has shrunk to nothing is told, not replaced by another") {
    NoProgress quiet;
    DxfText t;
    t.entities().box(0, 0, 80, 40).circle(40, 20, 7).box(0, 60, 80, 75).text(30, -12, "FRONT VIEW");
    const std::string path = temporary("hole.dxf");
    std::ofstream(path) << t.done();
    const Document d = opened(path);
    const auto& areas = d.model().areas.drawn;
    const auto hole =
        std::ranges::find_if(areas, [](const ClosedArea& a) { return std::abs(a.area - kPi * 49) < 1e-6; });
    REQUIRE(hole != areas.end());
    const Successors same =
        successorsOf(d.model().figure, d.model().areas, {static_cast<int>(hole - areas.begin())});
    REQUIRE(same.now.size() == 1);
    CHECK(d.model().areas.now[same.now[0]].area == Approx(kPi * 49));
    Figure moved = d.model().figure; // the circle gone elsewhere, out of the view
    for (const FigureCurve& c : moved.curves)
        if (c.radius >= 0) moved.now[moved.points[c.centre].u] += 500;
    const AreaSets sets(moved);
    const Successors there = successorsOf(moved, sets, {static_cast<int>(hole - areas.begin())});
    REQUIRE(there.now.size() == 1); // it is what the circle encloses, wherever it went
    CHECK(sets.now[there.now[0]].area == Approx(kPi * 49));
}

TEST_CASE("values that turn the part inside out are refused, and the place is named") {
    NoProgress quiet;
    Document d = opened(demo("roller-bracket.dxf"));
    for (double value : {1e-320, 1e-6}) {
        Choices c = d.choices();
        c.numbers["x1"].value = value;
        const auto r = d.apply("Drive", c, quiet);
        REQUIRE_FALSE(r);
        CHECK(r.error().message.find("Nothing was changed") != std::string::npos);
    }
    CHECK(d.model().figure.now == opened(demo("roller-bracket.dxf")).model().figure.now);
}
