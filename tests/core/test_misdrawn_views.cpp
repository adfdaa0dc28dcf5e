#include "core/checking/finding.h"
#include "core/checking/view_values.h"
#include "support/diagnosed.h"
#include "support/grid_part.h"

using namespace prism;
using namespace prism::test;

// Of parts of boxes one view is drawn mirrored, turned or at another scale: what is supposed of it has a
// repair that brings back the sheet as it was.

namespace {

/// What is done to one view, about its middle.
struct Misdrawn {
    int look; ///< axis of the view
    const char* kind;
    Affine2 how; ///< about the origin
    std::string repair;
};

DxfText sheet(const Grid& g, const std::optional<Misdrawn>& wrong = {}) {
    ThreeViews t = threeViews(g.at[0].back(), g.at[1].back(), g.at[2].back());
    const std::set<Drawn> lines = linesOf(g);
    for (const Drawn& d : lines) {
        const auto look = static_cast<Axis>(d.look);
        Vec2 a = t.on(look, d.a), b = t.on(look, d.b);
        if (wrong && wrong->look == d.look) {
            const Vec2 middle = 0.5 * (t.on(look, {0, 0, 0}) + t.on(look, {t.width, t.depth, t.height}));
            a = middle + wrong->how.linear(a - middle), b = middle + wrong->how.linear(b - middle);
        }
        t.sheet.line(a.x, a.y, b.x, b.y, d.seen ? "OUTLINE" : "HIDDEN");
    }
    return t.sheet;
}

} // namespace

TEST_CASE("of a view that is drawn mirrored, turned or larger, one supposition brings back the sound sheet") {
    NoProgress quiet;
    std::map<std::string, int> tried;
    for (unsigned seed = 501; seed < 521; ++seed)
        for (const int look : {0, 2})
            for (const Misdrawn& wrong : {Misdrawn{look, "view_mirrored", {-1, 0, 0, 1, 0, 0}, "mirror_view"},
                                          {look, "view_mirrored", {1, 0, 0, -1, 0, 0}, "mirror_view"},
                                          {look, "view_turned", Affine2::rotation(kPi / 2), "turn_view"},
                                          {look, "view_turned", Affine2::rotation(-kPi / 2), "turn_view"},
                                          {look, "view_turned", Affine2::rotation(kPi), "turn_view"},
                                          {look, "scale_mismatch", {1.1, 0, 0, 1.1, 0, 0}, "scale_view"},
                                          {look, "scale_mismatch", {0.8, 0, 0, 0.8, 0, 0}, "scale_view"}}) {
                CAPTURE(seed, look, wrong.kind, wrong.how.a, wrong.how.b, wrong.how.d);
                const Grid g = carved(seed);
                const Document sound = inViews(sheet(g));
                const Document d = inViews(sheet(g, wrong));
                const auto& views = d.model().figure.views;
                const auto misdrawn = std::ranges::find_if(
                    views, [&](const FigureView& v) { return static_cast<int>(v.axes.depth) == look; });
                // Some fit as they are, or are not told as views of the part at all.
                if (views.size() != 3 || misdrawn == views.end() || sound.model().figure.views.size() != 3 ||
                    sameLines(d.model().figure, sound.model().figure))
                    continue;
                bool brought_back = false;
                for (const Finding& f : misdrawnViews(inputOf(d), quiet)) {
                    if (f.views.empty() || f.views[0] != misdrawn->view || f.kind != wrong.kind) continue;
                    CHECK(f.severity == Severity::error);
                    CHECK_FALSE(f.remedies.empty());
                    for (const Remedy& r : f.remedies) {
                        CHECK(r.kind == wrong.repair);
                        Document mended = d;
                        if (!mended.apply(r.words, changed(d.choices(), r.change), quiet, Stage::figure))
                            continue;
                        brought_back = brought_back || sameLines(mended.model().figure, sound.model().figure);
                    }
                    if (wrong.repair == "scale_view") CHECK(f.numbers.at("ratio") == Approx(wrong.how.a));
                }
                // Upside down it may have a counterpart for every coordinate: only a solid would tell.
                const bool askew = std::ranges::any_of(d.model().views.ties, [&](const Tie& t) {
                    const int other = t.a == misdrawn->view ? t.b : t.a;
                    return (t.a == misdrawn->view || t.b == misdrawn->view) &&
                           !checking::unmatchedIn(inputOf(d), misdrawn->view, other, t.axis).empty();
                });
                if (wrong.how.a == -1 && wrong.how.d == -1 && !askew) continue;
                CHECK(brought_back);
                ++tried[wrong.kind];
            }
    CHECK(tried["view_mirrored"] >= 10);
    CHECK(tried["view_turned"] >= 10);
    CHECK(tried["scale_mismatch"] >= 10);
}

TEST_CASE("a sound sheet's views are supposed mirrored only where no view beside them could tell") {
    NoProgress quiet;
    const Document d = inViews(sheet(carved(501)));
    for (const Finding& f : misdrawnViews(inputOf(d), quiet)) {
        CAPTURE(f.kind, f.message);
        CHECK(f.kind != "scale_mismatch");
        if (f.kind == "convention_suspect") {
            REQUIRE(f.remedies.size() == 1);
            CHECK(f.remedies[0].change.convention == Convention::first);
            CHECK(f.message == "The sheet states third angle, but only in first angle is there a solid that "
                               "shows every line");
        }
    }
}
