#include "core/proofing/falsely_seen.h"
#include "core/proofing/missed_lines.h"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRep_Builder.hxx>
#include <TopoDS_Compound.hxx>
#include <catch2/catch.hpp>
#include <gp_Ax2.hxx>

using namespace prism;

// Where the modeller's search for hidden lines is mended: what it leaves out, and what it calls seen.

namespace {

using Kind = ProjectedLine::Kind;

const ViewFrame kFront{{1, 0, 0}, {0, 0, 1}, {0, 1, 0}, {}};

Vec2 inFront(const gp_Pnt& p) {
    return {p.X(), p.Z()};
}

std::vector<ProjectedLine> addedTo(std::vector<ProjectedLine> lines, const TopoDS_Shape& shape) {
    addMissedLines(shape, kFront.look, inFront, lines, NoProgress{});
    return lines;
}

/// Stretches of an upright line of the view at X, of one kind, by height.
std::vector<std::pair<double, double>> at(const std::vector<ProjectedLine>& lines, double x, Kind kind) {
    std::vector<std::pair<double, double>> r;
    for (const ProjectedLine& l : lines) {
        const Vec2 a = startOf(l.shape), b = endOf(l.shape);
        if (l.kind == kind && std::abs(a.x - x) < 1e-6 && std::abs(b.x - x) < 1e-6)
            r.push_back(std::minmax({a.y, b.y}));
    }
    std::ranges::sort(r);
    return r;
}

/// A standing cylinder whose face closes in the middle of what the viewer sees.
TopoDS_Shape standing(double radius, double height) {
    return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1), gp_Dir(0, -1, 0)), radius,
                                    height)
        .Shape();
}

TopoDS_Shape both(const TopoDS_Shape& a, const TopoDS_Shape& b) {
    TopoDS_Compound c;
    const BRep_Builder builder;
    builder.MakeCompound(c);
    builder.Add(c, a), builder.Add(c, b);
    return c;
}

void checkStretch(const std::vector<std::pair<double, double>>& found, double from, double to) {
    REQUIRE(found.size() == 1);
    CHECK(found[0].first == Approx(from).margin(1e-3));
    CHECK(found[0].second == Approx(to).margin(1e-3));
}

} // namespace

TEST_CASE("outlines of a standing pipe that were left out are added, seen outside and hidden inside") {
    const TopoDS_Shape pipe = BRepAlgoAPI_Cut(standing(10, 30), standing(6, 30)).Shape();
    const auto lines = addedTo({}, pipe);
    for (double side : {1, -1}) {
        CAPTURE(side);
        checkStretch(at(lines, 10 * side, Kind::visible), 0, 30);
        checkStretch(at(lines, 6 * side, Kind::hidden), 0, 30);
        CHECK(at(lines, 10 * side, Kind::hidden).empty());
        CHECK(at(lines, 6 * side, Kind::visible).empty());
    }
    // Those that are there already are not drawn again, and of a stretch only what lacks.
    const auto again = addedTo(lines, pipe);
    CHECK(again.size() == lines.size());
    const auto rest = addedTo({{Kind::visible, Segment{{10, 0}, {10, 12}}}}, pipe);
    const auto outer = at(rest, 10, Kind::visible);
    REQUIRE(outer.size() == 2);
    CHECK(outer[0].second == Approx(12));
    CHECK(outer[1].first == Approx(12).margin(1e-3));
    CHECK(outer[1].second == Approx(30).margin(1e-3));
}

TEST_CASE("what stands before an added outline hides as much of it as it covers") {
    const TopoDS_Shape pin = standing(10, 30);
    // The viewer looks along +Y: a wall at Y -20 stands before the pin, one at Y 20 behind it.
    const auto wall = [](double y) {
        return BRepPrimAPI_MakeBox(gp_Pnt(-30, y - 2, 5), gp_Pnt(30, y + 2, 18)).Shape();
    };
    const auto before = addedTo({}, both(pin, wall(-20)));
    for (double x : {-10.0, 10.0}) {
        checkStretch(at(before, x, Kind::hidden), 5, 18);
        const auto seen = at(before, x, Kind::visible);
        REQUIRE(seen.size() == 2);
        CHECK(seen[0].second == Approx(5).margin(1e-3));
        CHECK(seen[1].first == Approx(18).margin(1e-3));
    }
    const auto behind = addedTo({}, both(pin, wall(20)));
    for (double x : {-10.0, 10.0}) {
        checkStretch(at(behind, x, Kind::visible), 0, 30);
        CHECK(at(behind, x, Kind::hidden).empty());
    }
}

TEST_CASE("a cylinder seen end on, or half of one whose outline is its border, has nothing to add") {
    const TopoDS_Shape along =
        BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(0, 0, 0), gp_Dir(0, 1, 0)), 10, 30).Shape();
    CHECK(addedTo({}, along).empty());
    // Half of one, from X 10 over the far side to X -10: its outlines are its straight edges.
    const TopoDS_Shape half = BRepPrimAPI_MakeCylinder(10, 30, kPi).Shape();
    CHECK(addedTo({}, half).empty());
    // A quarter more shows one of them within it.
    const auto more = addedTo({}, BRepPrimAPI_MakeCylinder(10, 30, 1.25 * kPi).Shape());
    CHECK(at(more, 10, Kind::visible).empty());
    checkStretch(at(more, -10, Kind::visible), 0, 30);
}

TEST_CASE("lines that are called seen are hidden where one face runs on before them") {
    // A block of 40 x 20 x 10 with a groove across its back from X 10 to 14 and a step of 5 in its front from
    // X 30 on.
    const TopoDS_Shape whole = BRepPrimAPI_MakeBox(40, 20, 10).Shape(),
                       groove = BRepPrimAPI_MakeBox(gp_Pnt(10, 16, -1), gp_Pnt(14, 21, 11)).Shape(),
                       step = BRepPrimAPI_MakeBox(gp_Pnt(30, -1, -1), gp_Pnt(41, 5, 11)).Shape();
    const TopoDS_Shape block = BRepAlgoAPI_Cut(BRepAlgoAPI_Cut(whole, groove).Shape(), step).Shape();
    const std::vector<std::pair<double, Kind>> truth{
        {0, Kind::visible}, {10, Kind::hidden}, {14, Kind::hidden}, {30, Kind::visible}, {40, Kind::visible}};
    std::vector<ProjectedLine> lines;
    std::vector<ProofPiece> pieces;
    for (const auto& [x, kind] : truth) {
        lines.push_back({Kind::visible, Segment{{x, 0}, {x, 10}}});
        ProofPiece p;
        p.shape = Segment{{x, 0}, {x, 10}}, p.state = LineState::extra;
        pieces.push_back(p);
    }
    CHECK(hideFalselySeen(block, kFront, pieces, 2e-3, lines));
    REQUIRE(lines.size() == truth.size());
    for (size_t i = 0; i < truth.size(); ++i) CHECK(lines[i].kind == truth[i].second);
    CHECK_FALSE(hideFalselySeen(block, kFront, {pieces[0]}, 2e-3, lines));
    // Only the piece of a line that lies behind something is made hidden.
    lines = {{Kind::visible, Segment{{10, -6}, {10, 10}}}};
    CHECK(hideFalselySeen(block, kFront, pieces, 2e-3, lines));
    REQUIRE(lines.size() == 2);
    const auto hidden = std::ranges::find(lines, Kind::hidden, &ProjectedLine::kind);
    REQUIRE(hidden != lines.end());
    CHECK(lengthOf(hidden->shape) == Approx(10).margin(0.01));
}
