#include "support/bracket.h"
#include "support/cover.h"
#include "support/samples.h"

#include "core/building/mesh.h"
#include "core/project/part_links.h"
#include "core/project/propose_for.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <random>

// Where the faces of a solid come from: held against where they lie.
using namespace prism;
using namespace prism::test;

namespace {

NoProgress quiet;

Document built(const char* file, const std::vector<Step>& steps) {
    Document d = opened(demo(file));
    Choices c = d.choices();
    c.steps = steps;
    REQUIRE(d.apply("Build", c, quiet));
    REQUIRE(d.model().build.ok());
    return d;
}

Document proposed(const char* file) {
    const Document d = opened(demo(file));
    const auto p = proposeFor(d.model(), quiet);
    REQUIRE(p);
    return built(file, p->steps);
}

/// Places of a face, spread over its parameters; they lie on its surface, though not all within its borders.
std::vector<Vec3> placesOf(const TopoDS_Shape& face) {
    const BRepAdaptor_Surface s(TopoDS::Face(face));
    std::vector<Vec3> r;
    for (double a : {0.1, 0.5, 0.8})
        for (double b : {0.2, 0.6, 0.9}) {
            const gp_Pnt p = s.Value(s.FirstUParameter() + a * (s.LastUParameter() - s.FirstUParameter()),
                                     s.FirstVParameter() + b * (s.LastVParameter() - s.FirstVParameter()));
            r.push_back({p.X(), p.Y(), p.Z()});
        }
    return r;
}

/// How far a place in the coordinates of a view is from what carries a curve: merged faces reach on beyond
/// it.
double offCarrier(const Curve& c, Vec2 p) {
    if (const auto* s = std::get_if<Segment>(&c)) return std::abs(cross(normalized(s->b - s->a), p - s->a));
    if (const auto* a = std::get_if<Arc>(&c)) return std::abs(distance(p, a->centre) - a->radius);
    return distanceTo(c, p);
}

/// Holds every name of every face against where the face lies.
void checkPlaces(const Document& d) {
    const Model& m = d.model();
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(m.build.shape, TopAbs_FACE, faces);
    REQUIRE(m.build.faces.size() == static_cast<size_t>(faces.Extent()));
    for (int i = 1; i <= faces.Extent(); ++i) {
        const std::vector<Vec3> places = placesOf(faces(i));
        const auto& names = m.build.faces[static_cast<size_t>(i - 1)];
        CHECK_FALSE(names.empty());
        for (const FaceName& n : names) {
            const Step& s = d.choices().steps.at(static_cast<size_t>(n.step));
            const FigureView& v = *m.figure.viewNamed(s.view);
            const ViewFrame frame = frameOf(m.figure, v, m.figure.now);
            const double tol = 1e-6 * m.figure.size;
            INFO("face " << i << " of step " << n.step << " " << s.name << ", curve " << n.curve);
            for (Vec3 p : places) {
                if (n.part != FaceName::Part::side) {
                    CHECK(n.curve == -1);
                    CHECK(std::abs(dot(p - places[0], frame.look)) < tol);
                    continue;
                }
                REQUIRE(n.curve >= 0);
                CHECK(m.figure.curves[n.curve].view == v.view);
                const Curve c = m.figure.curve(n.curve);
                Vec2 at = frame(p);
                if (s.kind == StepKind::revolve) { // about an axis in the middle of the part
                    const Vec3 middle = 0.5 * (m.build.measure.lo + m.build.measure.hi);
                    const Vec2 off = at - frame(middle);
                    const double deep = dot(p - middle, frame.look);
                    const double radius = std::hypot(s.axis_upright ? off.x : off.y, deep);
                    at = s.axis_upright ? Vec2{frame(middle).x + radius, at.y}
                                        : Vec2{at.x, frame(middle).y + radius};
                }
                CHECK(offCarrier(c, at) < tol);
            }
        }
    }
}

/// Number of the foremost face that a line meets; -1 for none.
int faceSeen(const Mesh& mesh, Vec3 from, Vec3 way) {
    const auto p = partAlong(mesh, from, way, 0);
    return p ? p->index : -1;
}

std::multiset<std::vector<FaceName>> namesOf(const Document& d) {
    return {d.model().build.faces.begin(), d.model().build.faces.end()};
}

/// A part whose numbers may be driven.
Document part(const std::string& name) {
    if (name == "bracket") return built("roller-bracket.dxf", bracketSteps());
    if (name == "cover")
        return built("worm-housing-cover.dxf", coverSteps(opened(demo("worm-housing-cover.dxf")).model()));
    return proposed("weight-pulley.dxf");
}

} // namespace

TEST_CASE("every face knows the step and the curve that it was swept from") {
    for (const char* name : {"bracket", "cover", "pulley"}) {
        INFO(name);
        checkPlaces(part(name));
    }
}

TEST_CASE(
    "the bore's cylinder is named by its circle, its ends are not there, and a merged face has both names") {
    const Document d = part("bracket");
    const Model& m = d.model();
    // The bore is the sixth step: pushed through, it has no end within the part.
    int bore = -1;
    for (size_t i = 0; i < m.figure.curves.size(); ++i)
        if (const auto* a = std::get_if<Arc>(&m.figure.curves[i].drawn);
            a && a->full() && a->radius == Approx(8))
            bore = static_cast<int>(i);
    REQUIRE(bore >= 0);
    int found = 0;
    for (const auto& names : m.build.faces)
        for (const FaceName& n : names) {
            found += n.curve == bore;
            if (n.curve == bore) CHECK(names.size() == 1);
        }
    CHECK(found == 1);
    CHECK(std::ranges::any_of(m.build.faces, [](const auto& names) { return names.size() > 1; }));
}

TEST_CASE("faces keep their names through changed numbers, undo and the project file", "[slow]") {
    for (const char* name : {"bracket", "cover", "pulley"}) {
        Document d = part(name);
        const auto before = namesOf(d);
        std::mt19937 random(7);
        std::uniform_real_distribution<double> factor(0.97, 1.03);
        int driven = 0;
        for (const LedgerEntry& e : std::vector(d.model().ledger.entries)) {
            if (e.state != EntryState::drives) continue;
            INFO(name << ", " << e.name);
            Choices c = d.choices();
            c.numbers[e.name].value = e.drawn * factor(random);
            if (!d.apply("Change", c, quiet)) continue; // together with the others it may not be possible
            ++driven;
            CHECK(namesOf(d) == before);
            checkPlaces(d);
        }
        CHECK(driven >= 4);
        REQUIRE(d.undo(quiet));
        CHECK(namesOf(d) == before);
        const std::string file = temporary(std::string(name) + "-names.uprism");
        REQUIRE(d.save(file));
        CHECK(namesOf(opened(file)) == before);
    }
}

TEST_CASE("names survive two hundred edits, made one upon another", "[slow]") {
    std::mt19937 random(41);
    std::uniform_real_distribution<double> factor(0.95, 1.05), chance(0, 1);
    int edits = 0, refused = 0;
    for (const char* name : {"bracket", "cover", "pulley"}) {
        Document d = part(name);
        const auto before = namesOf(d);
        std::vector<std::string> numbers;
        for (const LedgerEntry& e : d.model().ledger.entries)
            if (e.state == EntryState::drives) numbers.push_back(e.name);
        int made = 0; // edits that can be undone without taking the steps away
        for (int round = 0; round < 67; ++round, ++edits) {
            INFO(name << ", edit " << round);
            const double what = chance(random);
            if (what < 0.15 && made > 0) {
                REQUIRE(d.undo(quiet));
                --made;
            } else if (what < 0.25 && d.canRedo()) {
                REQUIRE(d.redo(quiet));
                ++made;
            } else {
                const LedgerEntry& e = *d.model().ledger.named(numbers[random() % numbers.size()]);
                Choices c = d.choices();
                c.numbers[e.name].value = e.drawn * factor(random);
                const bool done = d.apply("Change", c, quiet).has_value();
                ++(done ? made : refused);
            }
            CHECK(d.model().build.ok());
            CHECK(namesOf(d) == before);
            checkPlaces(d);
        }
    }
    CHECK(edits == 201);
    CHECK(refused < 20);
}

TEST_CASE("edges and corners are named by the faces that meet there") {
    using Kind = SolidPart::Kind;
    for (const char* name : {"bracket", "cover", "pulley"}) {
        INFO(name);
        const Document d = part(name);
        const BuildResult& b = d.model().build;
        for (Kind kind : {Kind::face, Kind::edge, Kind::corner}) {
            const auto all = partsOf(b.shape, kind);
            CHECK((all.size() > 3 ||
                   (kind == Kind::corner && std::string(name) == "pulley"))); // it is all round
            for (const PartAt& at : all) {
                const SolidPart p = at.part;
                const auto n = nameOf(b, p);
                REQUIRE(n);
                CHECK(partNamed(b, *n) == p); // no two are called the same
                const size_t meet = at.faces.size();
                CHECK(facesAt(b.shape, p) == at.faces);
                CHECK(n->faces.size() == meet);
                CHECK((kind == Kind::face ? meet == 1 : kind == Kind::edge ? meet == 2 : meet >= 3));
            }
        }
    }
    CHECK_FALSE(nameOf(BuildResult{}, {Kind::edge, 0}));
    CHECK(partsOf({}, Kind::edge).empty());
}

TEST_CASE("the rim of a bore is found again by its name when the bore has another size") {
    using Kind = SolidPart::Kind;
    Document d = part("bracket");
    const auto radius = [&](SolidPart p) {
        const BRepAdaptor_Curve c(TopoDS::Edge(shapeOf(d.model().build.shape, p)));
        return c.GetType() == GeomAbs_Circle ? c.Circle().Radius() : 0;
    };
    std::vector<PartName> rims;
    for (const PartAt& p : partsOf(d.model().build.shape, Kind::edge))
        if (radius(p.part) == Approx(8)) rims.push_back(*nameOf(d.model().build, p.part));
    REQUIRE(rims.size() == 2);
    Choices c = d.choices();
    for (const LedgerEntry& e : d.model().ledger.entries)
        if (e.value == Approx(16) && e.kind == DimensionKind::diameter) c.numbers[e.name].value = 17.5;
    REQUIRE(c.numbers.size() == d.choices().numbers.size() + 1);
    REQUIRE(d.apply("Bore", c, quiet));
    for (const PartName& n : rims) {
        const auto now = partNamed(d.model().build, n);
        REQUIRE(now);
        CHECK(radius(*now) == Approx(8.75));
    }
}

TEST_CASE("an end of a step leads to the line that it was pushed to, and back") {
    const Document d = part("bracket");
    const Model& m = d.model();
    int ends = 0;
    for (size_t i = 0; i < m.build.faces.size(); ++i)
        for (const FaceName& n : m.build.faces[i]) {
            const Step& s = d.choices().steps[n.step];
            if (n.part != FaceName::Part::high_end || s.to.kind != Bound::Kind::mark) continue;
            ++ends;
            const int face = static_cast<int>(i);
            const FigureView& v = *m.figure.viewNamed(s.view);
            const double at = *resolveMark(m.figure, s.to.mark, v.axes.depth);
            // Some line of the view it was picked in stands there.
            const FigureView& in = *m.figure.viewNamed(s.to.mark.view);
            const std::set<int> lines = linesOf(m, faceNumber(face));
            const bool there = std::ranges::any_of(m.figure.curves, [&](const FigureCurve& c) {
                if (c.view != in.view || !lines.contains(c.entity)) return false;
                const Box2 box = boxOf(c.drawn);
                const bool right = in.axes.right == v.axes.depth;
                return std::abs((right ? box.lo.x : box.lo.y) - at) < 1e-6 ||
                       std::abs((right ? box.hi.x : box.hi.y) - at) < 1e-6;
            });
            CHECK(there);
            for (int line : lines) CHECK(facesOfLines(m, {line}).contains(face));
        }
    CHECK(ends >= 2);
}

TEST_CASE("a face leads to its lines, numbers and step, and they lead back") {
    const Document d = part("bracket");
    const Model& m = d.model();
    int circle = -1;
    for (const FigureCurve& c : m.figure.curves)
        if (const auto* a = std::get_if<Arc>(&c.drawn); a && a->full() && a->radius == Approx(8))
            circle = c.entity;
    const std::set<int> bore = facesOfLines(m, {circle});
    REQUIRE(bore.size() == 1);
    const int face = *bore.begin();
    CHECK(linesOf(m, faceNumber(face)) == std::set<int>{circle});
    const std::set<int> numbers = numbersOf(m, faceNumber(face));
    REQUIRE(numbers.size() == 1);
    CHECK(m.drawing->dimensions[*numbers.begin()].text == "Ø16");
    // 2 pi 8 x 20: the upright is 20 deep.
    CHECK(describe(m, faceNumber(face)).starts_with("cylinder, radius 8 mm, 1005.31 mm²"));
    CHECK(describe(m, faceNumber(face)).ends_with("along a circle of the front view"));
    const int step = m.build.faces[face].front().step;
    CHECK(facesOfStep(m, step).contains(face));
    CHECK(facesOfLines(m, {}).empty());
    CHECK(linesOf(m, faceNumber(1000)).empty());
    CHECK(describe(m, faceNumber(1000)).empty());
    int all = 0;
    std::set<int> seen;
    for (size_t i = 0; i < d.choices().steps.size(); ++i)
        for (int f : facesOfStep(m, static_cast<int>(i))) seen.insert(f), ++all;
    CHECK(seen.size() == m.build.faces.size());
    CHECK(all >= static_cast<int>(seen.size()));
}

TEST_CASE("a straight line meets the foremost face of the solid, or none") {
    const Document d = part("bracket");
    const Mesh mesh = meshOf(d.model().build.shape, 0.05);
    REQUIRE(mesh.face_of.size() * 3 == mesh.corners.size());
    const auto middle_of = [&](int face) {
        Box2 xz, y;
        for (size_t t = 0; t < mesh.face_of.size(); ++t)
            if (mesh.face_of[t] == face)
                for (size_t k = 3 * t; k < 3 * t + 3; ++k)
                    xz.add(Vec2{mesh.corners[k].at[0], mesh.corners[k].at[2]}),
                        y.add(Vec2{mesh.corners[k].at[1], 0});
        return Vec3{xz.centre().x, y.centre().x, xz.centre().y};
    };
    // Seen from above in the middle of the slotless plate: its top at 14; from below: its underside.
    const int top = faceSeen(mesh, {100, 6, 500}, {0, 0, -1}),
              under = faceSeen(mesh, {100, 6, -500}, {0, 0, 1});
    REQUIRE(top >= 0);
    REQUIRE(under >= 0);
    CHECK(top != under);
    CHECK(middle_of(under).z == Approx(0).margin(1e-5));
    CHECK(middle_of(top).z == Approx(8));                   // the lower step of the base
    CHECK(faceSeen(mesh, {42, -100, 62}, {0, 1, 0}) == -1); // through the bore
    CHECK(faceSeen(mesh, {500, 500, 500}, {0, 0, -1}) == -1);
    const int front = faceSeen(mesh, {42, -100, 75}, {0, 1, 0});
    REQUIRE(front >= 0);
    CHECK(middle_of(front).y < 30);
}

TEST_CASE("faces are measured against each other by their planes and axes") {
    const Document d = part("bracket");
    const Model& m = d.model();
    const Mesh mesh = meshOf(m.build.shape, 0.05);
    const int top = faceSeen(mesh, {60, 6, 500}, {0, 0, -1}),
              under = faceSeen(mesh, {60, 6, -500}, {0, 0, 1}),
              front = faceSeen(mesh, {42, -100, 75}, {0, 1, 0}),
              side = faceSeen(mesh, {-100, 30, 5}, {1, 0, 0});
    const auto round = [&](double radius, Vec2 at) { // a hole in the top view
        for (size_t i = 0; i < m.build.faces.size(); ++i)
            for (const FaceName& n : m.build.faces[i])
                if (n.curve >= 0)
                    if (const auto* a = std::get_if<Arc>(&m.figure.curves[n.curve].drawn);
                        a && a->radius == Approx(radius) && distance(a->centre, at) < 1e-6)
                        return static_cast<int>(i);
        return -1;
    };
    const auto plates = measureBetween(m, faceNumber(top), faceNumber(under));
    REQUIRE(plates);
    CHECK(plates->apart == Approx(14));
    CHECK(plates->angle == Approx(0).margin(1e-9));
    CHECK(plates->nearest == Approx(14));
    CHECK(inWords(*plates) == "parallel, 14.0000 mm apart; nearest places 14.0000 mm apart");
    const auto square = measureBetween(m, faceNumber(front), faceNumber(side));
    REQUIRE(square);
    CHECK(square->angle == Approx(kPi / 2));
    CHECK_FALSE(square->apart);
    CHECK(inWords(*square).starts_with("at 90.0000°"));
    // The two holes of 9 stand 32 apart; their axes lie along the side's plane, 78 from it.
    const int a = round(4.5, {78, 14}), b = round(4.5, {78, 46});
    REQUIRE(a >= 0);
    REQUIRE(b >= 0);
    const auto holes = measureBetween(m, faceNumber(a), faceNumber(b));
    REQUIRE(holes);
    CHECK(holes->apart == Approx(32));
    CHECK(holes->nearest == Approx(32 - 9));
    const auto from_side = measureBetween(m, faceNumber(side), faceNumber(a));
    REQUIRE(from_side);
    CHECK(from_side->apart == Approx(78));
    CHECK(measureBetween(m, faceNumber(top), faceNumber(a))->angle ==
          Approx(kPi / 2)); // a plane and an axis square to it
    CHECK_FALSE(measureBetween(m, faceNumber(top), faceNumber(1000)));
}

TEST_CASE("edges and corners are measured, too") {
    using Kind = SolidPart::Kind;
    const Document d = part("bracket");
    const Model& m = d.model();
    const Mesh mesh = meshOf(m.build.shape, 0.05);
    // The base plate's lower edge at the front, its corner at the origin, and the top of the lower step.
    const auto edge = partAlong(mesh, {60, -100, 0}, {0, 1, 0}, 0.5),
               corner = partAlong(mesh, {0, -100, 0}, {0, 1, 0}, 0.5);
    const int under = faceSeen(mesh, {60, 6, -500}, {0, 0, 1}),
              top = faceSeen(mesh, {60, 6, 500}, {0, 0, -1});
    REQUIRE(edge);
    REQUIRE(corner);
    CHECK(edge->kind == Kind::edge);
    CHECK(corner->kind == Kind::corner);
    CHECK(describe(m, *corner) == "corner, at 0.0000, 0.0000, 0.0000, where 3 faces meet");
    CHECK(describe(m, *edge).starts_with("straight edge, "));
    CHECK(describe(m, *edge).ends_with("between plane and plane"));
    const auto above = measureBetween(m, *edge, faceNumber(top));
    REQUIRE(above);
    CHECK(above->apart == Approx(14));
    CHECK(above->angle == Approx(0).margin(1e-9));
    const auto over = measureBetween(m, *corner, faceNumber(top));
    REQUIRE(over);
    CHECK(over->apart == Approx(14));
    CHECK_FALSE(over->angle);
    CHECK(inWords(*over).starts_with("14.0000 mm square to it; nearest places "));
    CHECK(measureBetween(m, *corner, *edge)->apart == Approx(0).margin(1e-9));
    CHECK(measureBetween(m, *corner, faceNumber(under))->nearest == Approx(0).margin(1e-9));
    // Behind a face no edge is met, and beside the part nothing is.
    const auto covered = partAlong(mesh, {60, 6, 500}, {0, 0, -1}, 0.5);
    REQUIRE(covered);
    CHECK(covered->kind == Kind::face);
    CHECK_FALSE(partAlong(mesh, {500, 500, 500}, {0, 0, -1}, 0.5));
}

TEST_CASE("the edges that are shown run from corner to corner") {
    const Document d = part("bracket");
    const Mesh mesh = meshOf(d.model().build.shape, 0.05);
    REQUIRE(mesh.edges.size() == mesh.edge_of.size());
    std::set<std::array<float, 3>> corners;
    for (const auto& [p, index] : mesh.points)
        corners.insert({static_cast<float>(p.x), static_cast<float>(p.y), static_cast<float>(p.z)});
    int open = 0;
    for (const auto& chain : mesh.edges) {
        REQUIRE(chain.size() >= 2);
        if (chain.front() == chain.back()) continue; // a circle
        ++open;
        for (const auto& end : {chain.front(), chain.back()})
            CHECK(std::ranges::any_of(corners, [&](const auto& c) {
                return std::hypot(c[0] - end[0], c[1] - end[1], c[2] - end[2]) < 1e-4f;
            }));
    }
    CHECK(open > 20);
}
