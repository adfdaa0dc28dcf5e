#include "core/base/geometry.h"
#include "core/building/unify.h"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS_Face.hxx>
#include <catch2/catch.hpp>
#include <gp_Ax3.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Pln.hxx>
#include <random>
#include <unistd.h>

using namespace prism;
using namespace prism::building;

namespace {

int facesOf(const TopoDS_Shape& s) {
    TopTools_IndexedMapOfShape m;
    TopExp::MapShapes(s, TopAbs_FACE, m);
    return m.Extent();
}

double areaOf(const TopoDS_Shape& s) {
    GProp_GProps p;
    BRepGProp::SurfaceProperties(s, p);
    return p.Mass();
}

/// Pieces of a wall of radius 10 by angles and heights, joined where they meet.
TopoDS_Shape wall(const std::vector<std::array<double, 4>>& pieces) {
    BRepBuilderAPI_Sewing sew(1e-6);
    for (const auto& [from, to, low, high] : pieces)
        sew.Add(BRepBuilderAPI_MakeFace(gp_Cylinder(gp_Ax3(), 10), from, to, low, high).Face());
    sew.Perform();
    return sew.SewedShape();
}

/// A piece of such a wall whose angles count from elsewhere, and backwards.
TopoDS_Face pieceFrom(double zero, bool backwards, const std::array<double, 4>& piece) {
    const auto [from, to, low, high] = piece;
    const gp_Ax3 axes(gp_Pnt(0, 0, 0), gp_Dir(0, 0, backwards ? -1 : 1),
                      gp_Dir(std::cos(zero), std::sin(zero), 0));
    double first = backwards ? zero - to : from - zero;
    while (first < 0) first += 2 * kPi;
    return BRepBuilderAPI_MakeFace(gp_Cylinder(axes, 10), first, first + to - from, backwards ? -high : low,
                                   backwards ? -low : high)
        .Face();
}

TopoDS_Shape sewn(const std::vector<TopoDS_Face>& faces) {
    BRepBuilderAPI_Sewing sew(1e-6);
    for (const TopoDS_Face& f : faces) sew.Add(f);
    sew.Perform();
    return sew.SewedShape();
}

/// What comes of a shape; the work of the modeller cannot be stopped, so the whole test ends if it never
/// does.
TopoDS_Shape oneOf(const TopoDS_Shape& shape) {
    alarm(60);
    const TopoDS_Shape r = unified(shape, new BRepTools_History);
    alarm(0);
    return r;
}

} // namespace

TEST_CASE("pieces of a round wall that go on in each other become one face of the same area") {
    const double turn = 2 * kPi;
    for (const auto& pieces : std::vector<std::vector<std::array<double, 4>>>{
             {{0, kPi, 0, 8}, {kPi, turn, 0, 8}},
             {{0, 1, 0, 8}, {1, 2, 0, 8}, {0, 2, 8, 20}},
             {{turn, turn + 1, 0, 8}, {turn + 1, turn + 3, 0, 8}}}) {
        const TopoDS_Shape before = wall(pieces);
        double area = 0;
        for (const auto& [from, to, low, high] : pieces) area += 10 * (to - from) * (high - low);
        CHECK(facesOf(before) == static_cast<int>(pieces.size()));
        const TopoDS_Shape after = oneOf(before);
        CHECK(facesOf(after) == 1);
        CHECK(areaOf(after) == Approx(area).epsilon(1e-9));
    }
}

TEST_CASE("pieces of a round wall whose angles are a turn apart in places are left as they are") {
    BRep_Builder b;
    TopoDS_Shape pieces; // of a shaft with keyways that was joined of many bodies
    REQUIRE(BRepTools::Read(pieces, PRISM_TEST_DATA "/solids/round_faces.brep", b));
    const int faces = facesOf(pieces);
    const double area = areaOf(pieces);
    const TopoDS_Shape after = oneOf(pieces);
    CHECK(facesOf(after) == faces);
    CHECK(areaOf(after) == Approx(area).epsilon(1e-9));
}

TEST_CASE("walls that are closed become one whatever their angles count from; pieces of them only where they "
          "count alike") {
    const double turn = 2 * kPi;
    for (const bool backwards : {false, true}) {
        CAPTURE(backwards);
        const TopoDS_Shape rings =
            sewn({pieceFrom(0, false, {0, turn, 0, 8}), pieceFrom(0, backwards, {0, turn, 8, 20})});
        CHECK(facesOf(rings) == 2);
        const TopoDS_Shape one = oneOf(rings);
        CHECK(facesOf(one) == 1);
        CHECK(areaOf(one) == Approx(10 * turn * 20));
    }
    // A ring in three pieces, beside it a piece that counts backwards from elsewhere: the modeller never
    // ends.
    const TopoDS_Shape apart =
        sewn({pieceFrom(0, false, {0, 2, 0, 8}), pieceFrom(0, false, {2, 4, 0, 8}),
              pieceFrom(0, false, {4, turn, 0, 8}), pieceFrom(kPi / 2, true, {2.5, 3.5, 8, 20})});
    const TopoDS_Shape left = oneOf(apart);
    CHECK(areaOf(left) == Approx(10 * (turn * 8 + 12)));
    // Two that count from different angles, and from the same.
    const TopoDS_Shape askew = sewn({pieceFrom(0, false, {1, 2, 0, 8}), pieceFrom(1, false, {2, 3, 0, 8})});
    CHECK(facesOf(oneOf(askew)) == 2);
    const TopoDS_Shape alike = sewn({pieceFrom(1, true, {1, 2, 0, 8}), pieceFrom(1, true, {2, 3, 0, 8})});
    CHECK(facesOf(oneOf(alike)) == 1);
}

TEST_CASE("pieces of a round wall that count from anywhere are joined or left, with the same area") {
    int tried = 0, joined = 0;
    for (unsigned seed = 1; seed <= 120; ++seed) {
        CAPTURE(seed);
        std::mt19937 random(seed);
        const auto any = [&](double lo, double hi) {
            return std::uniform_real_distribution<double>(lo, hi)(random);
        };
        const double span = random() % 3 ? 2 * kPi : any(1, 6), start = any(0, 6);
        std::vector<double> us{0, span};
        for (auto n = random() % 4; n > 0; --n) us.push_back(any(0.1, 0.9) * span);
        std::ranges::sort(us);
        const std::vector<double> vs{0, any(5, 12), any(15, 25), 30};
        const unsigned others = random() % 100;
        std::vector<TopoDS_Face> faces;
        double area = 0;
        for (size_t i = 0; i + 1 < us.size(); ++i)
            for (size_t k = 0; k + 1 < vs.size(); ++k) {
                if (random() % 5 == 0 || us[i + 1] - us[i] < 0.05) continue;
                const bool other = random() % 100 < others;
                faces.push_back(pieceFrom(other ? any(0, 6) : 0, other && random() % 2,
                                          {start + us[i], start + us[i + 1], vs[k], vs[k + 1]}));
                area += 10 * (us[i + 1] - us[i]) * (vs[k + 1] - vs[k]);
            }
        if (faces.size() < 2) continue;
        const TopoDS_Shape before = sewn(faces), after = oneOf(before);
        CHECK(areaOf(after) == Approx(area).epsilon(1e-6));
        ++tried, joined += facesOf(after) < facesOf(before);
    }
    CHECK(tried > 100);
    CHECK(joined > 20);
}

TEST_CASE("whatever pieces of a round wall meet, something of the same area comes of them") {
    std::vector<unsigned> seeds{595, 696}; // of these the modeller would look for the border for ever
    for (unsigned i = 1; i <= 150; ++i) seeds.push_back(i);
    int tried = 0;
    for (const unsigned seed : seeds) {
        CAPTURE(seed);
        std::mt19937 random(seed);
        const auto any = [&](double lo, double hi) {
            return std::uniform_real_distribution<double>(lo, hi)(random);
        };
        const auto at_random = [&](unsigned below) { return random() % below; };
        const auto across = 2 + at_random(5), along = 1 + at_random(3);
        const bool full = at_random(3) > 0;
        const double span = full ? 2 * kPi : any(1, 6), from = at_random(2) ? 0 : any(0, 6);
        std::vector<double> us{0, span}, vs{0, 30};
        for (unsigned i = 1; i < across; ++i) us.push_back(any(0.05, 0.95) * span);
        for (unsigned i = 1; i < along; ++i) vs.push_back(any(3, 27));
        if (full && at_random(2)) us.push_back(kPi);
        std::ranges::sort(us), std::ranges::sort(vs);
        const double share = any(0.6, 1), turned = at_random(2) ? 0 : any(0, 0.4);
        std::vector<std::array<double, 4>> pieces;
        double area = 0;
        for (size_t i = 0; i + 1 < us.size(); ++i)
            for (size_t k = 0; k + 1 < vs.size(); ++k) {
                const double w = us[i + 1] - us[i], h = vs[k + 1] - vs[k];
                if (any(0, 1) >= share) continue;
                const double turn = any(0, 1) < turned ? 2 * kPi : 0;
                if (w < 0.03 || h < 0.3) continue;
                pieces.push_back({from + us[i] + turn, from + us[i + 1] + turn, vs[k], vs[k + 1]});
                area += 10 * w * h;
            }
        if (pieces.empty()) continue;
        ++tried;
        CHECK(areaOf(oneOf(wall(pieces))) == Approx(area).epsilon(1e-6));
    }
    CHECK(tried > 100);
}

TEST_CASE("planes that lean against each other by less than the views tell become one sound face") {
    // A floor of 20 mm, and a ramp of as much that rises by `lean` on each millimetre.
    const auto pieces = [](double lean) {
        const gp_Ax3 flat(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1), gp_Dir(1, 0, 0)),
            ramp(gp_Pnt(0, 0, 0), gp_Dir(-lean, 0, 1), gp_Dir(1, 0, lean));
        return sewn({BRepBuilderAPI_MakeFace(gp_Pln(flat), -20, 0, 0, 10).Face(),
                     BRepBuilderAPI_MakeFace(gp_Pln(ramp), 0, 20, 0, 10).Face()});
    };
    for (const double lean : {0.0, 1e-10, 1e-8}) {
        CAPTURE(lean);
        const TopoDS_Shape before = pieces(lean), after = oneOf(before);
        CHECK(facesOf(before) == 2);
        CHECK(facesOf(after) == 1);
        CHECK(areaOf(after) == Approx(400));
        CHECK(BRepCheck_Analyzer(after).IsValid());
    }
    CHECK(facesOf(oneOf(pieces(1e-6))) == 2); // 20 nm at its end
}
