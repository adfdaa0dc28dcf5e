#include "core/proofing/missed_lines.h"

#include "core/base/box_tree.h"
#include "core/base/cover.h"
#include "core/building/kernel.h"
#include "core/building/line_meets.h"
#include "core/building/to_kernel.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepClass_FaceClassifier.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <ElSLib.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Circ.hxx>
#include <gp_Lin.hxx>

namespace prism {
namespace {

constexpr double kSame = 1e-4;   ///< mm; lines this close are one
constexpr double kInside = 1e-3; ///< radians; an outline nearer to a border is that border's line

/// A place between a and b at which a test turns out otherwise than at a.
double turning(double a, double b, const std::function<bool(double)>& test) {
    const bool first = test(a);
    for (int i = 0; i < 40; ++i) (test(0.5 * (a + b)) == first ? a : b) = 0.5 * (a + b);
    return 0.5 * (a + b);
}

/// Runs of a range in which a test holds, found by even steps.
std::vector<Interval> runsOf(double from, double to, const std::function<bool(double)>& test) {
    constexpr int kSteps = 64;
    std::vector<Interval> r;
    const auto at = [&](int i) { return from + (to - from) * (i + 0.5) / kSteps; };
    for (int i = 0; i < kSteps; ++i) {
        if (!test(at(i))) continue;
        int j = i;
        while (j + 1 < kSteps && test(at(j + 1))) ++j;
        // The range may begin and end a little outside, where it is that of a curve's poles.
        const double before = i == 0 ? from : at(i - 1), after = j + 1 == kSteps ? to : at(j + 1);
        r.push_back({i == 0 && test(from) ? from : turning(before, at(i), test),
                     j + 1 == kSteps && test(to) ? to : turning(at(j), after, test)});
        i = j;
    }
    return r;
}

std::vector<Box2> boxesOf(const std::vector<ProjectedLine>& lines) {
    std::vector<Box2> r;
    for (const ProjectedLine& l : lines) r.push_back(boxOf(l.shape));
    return r;
}

class MissedLines {
  public:
    MissedLines(const TopoDS_Shape& shape, Vec3 look, const std::function<Vec2(const gp_Pnt&)>& back,
                std::vector<ProjectedLine>& lines, const Progress& progress)
        : shape_(shape), look_(look), back_(back), lines_(lines), progress_(progress), count_(lines.size()),
          found_(boxesOf(lines)) {}

    void outlines() {
        for (TopExp_Explorer x(shape_, TopAbs_FACE); x.More() && !progress_.cancelled(); x.Next()) {
            const TopoDS_Face face = TopoDS::Face(x.Current());
            const BRepAdaptor_Surface s(face, false);
            if (s.GetType() != GeomAbs_Cylinder) continue;
            const gp_Cylinder k = s.Cylinder();
            const gp_Vec across = gp_Vec(k.Axis().Direction()).Crossed(gp_Vec(packed(look_)));
            if (across.Magnitude() < 1e-9) continue; // seen end on
            for (int side : {1, -1}) along(face, k, gp_Dir(across * side));
        }
    }

    /// Circles seen from the side are followed from place to place; where they turn round need not be one.
    void ends() {
        TopTools_IndexedMapOfShape edges;
        TopExp::MapShapes(shape_, TopAbs_EDGE, edges);
        for (int i = 1; i <= edges.Extent() && !progress_.cancelled(); ++i) {
            if (BRep_Tool::Degenerated(TopoDS::Edge(edges(i)))) continue;
            const BRepAdaptor_Curve c(TopoDS::Edge(edges(i)));
            if (c.GetType() != GeomAbs_Circle) continue;
            const gp_Circ k = c.Circle();
            const gp_Vec across = gp_Vec(k.Axis().Direction()).Crossed(gp_Vec(packed(look_)));
            if (across.Magnitude() < 1 - 1e-9) continue; // not from the side
            for (int side : {1, -1}) turn(c, k, gp_Dir(across * side));
        }
    }

  private:
    /// The line up to where a circle turns round, drawn as what it goes on from.
    void turn(const BRepAdaptor_Curve& c, const gp_Circ& k, const gp_Dir& out) {
        constexpr double kNear = 0.03; // of the radius: what may be left out of it
        const double t = std::atan2(out.Dot(k.YAxis().Direction()), out.Dot(k.XAxis().Direction()));
        const double from = c.FirstParameter(), at = from + positiveAngle(t - from);
        if (at > c.LastParameter()) return;
        const Vec2 end = back_(c.Value(at)), inwards = back_(k.Location()) - end;
        const Curve whole = Segment{end, end + inwards * kNear};
        const auto gaps = uncoveredOf(whole);
        if (gaps.size() != 1 || gaps[0].from > 1e-9 || gaps[0].to > 1 - 1e-9) return;
        const Vec2 on = pointAt(whole, gaps[0].to);
        for (const auto kind : {ProjectedLine::Kind::visible, ProjectedLine::Kind::hidden})
            for (const ProjectedLine& l : lines_)
                if (l.kind == kind &&
                    (distance(startOf(l.shape), on) < kSame || distance(endOf(l.shape), on) < kSame) &&
                    std::abs(cross(normalized(tangentAt(l.shape, 0.5)), normalized(inwards))) < 1e-6) {
                    lines_.push_back({kind, Segment{on, end}});
                    return;
                }
    }

    void along(const TopoDS_Face& face, const gp_Cylinder& k, const gp_Dir& out) {
        double u0, u1, v0, v1;
        BRepTools::UVBounds(face, u0, u1, v0, v1);
        double u = std::atan2(out.Dot(k.YAxis().Direction()), out.Dot(k.XAxis().Direction()));
        u = u0 + positiveAngle(u - u0);
        if (u < u0 + kInside || u > u1 - kInside) return;
        const auto place = [&](double v) { return ElSLib::Value(u, v, k); };
        const Curve whole = Segment{back_(place(v0)), back_(place(v1))};
        // Held against the border curves themselves: chords of them end a line elsewhere.
        BRepClass_FaceClassifier within;
        const auto inside = [&](double v) {
            return std::ranges::all_of(std::array{-kInside, 0.0, kInside}, [&](double off) {
                within.Perform(face, gp_Pnt2d(u + off, v), 1e-7);
                return within.State() == TopAbs_IN;
            });
        };
        for (const Interval& gap : uncoveredOf(whole)) { // where the face is narrower, nothing is missed
            const double from = v0 + gap.from * (v1 - v0), to = v0 + gap.to * (v1 - v0);
            for (const Interval& run : runsOf(from, to, inside)) {
                if (progress_.cancelled()) return;
                const Curve c = Segment{back_(place(run.from)), back_(place(run.to))};
                if (lengthOf(c) < 100 * kSame) continue;
                const auto at = [&](double t) { return place(run.from + t * (run.to - run.from)); };
                const auto seen = [&](double t) { return isSeen(at(t), out); };
                const auto hides = [&](double t) { return !seen(t); };
                for (const Interval& i : runsOf(0, 1, seen))
                    lines_.push_back({ProjectedLine::Kind::visible, part(c, i.from, i.to)});
                for (const Interval& i : runsOf(0, 1, hides))
                    lines_.push_back({ProjectedLine::Kind::hidden, part(c, i.from, i.to)});
            }
        }
    }

    /// What of a line none of the others covers.
    std::vector<Interval> uncoveredOf(const Curve& c) const {
        const Box2 box = boxOf(c).grown(2 * kSame);
        std::vector<const Curve*> near;
        for (int i : found_.overlapping(box)) near.push_back(&lines_[static_cast<size_t>(i)].shape);
        for (size_t i = count_; i < lines_.size(); ++i) near.push_back(&lines_[i].shape); // added here
        return uncovered(c, near, kSame);
    }

    /// Whether nothing lies in front of a place, looked at just beside the surface.
    bool isSeen(const gp_Pnt& p, const gp_Dir& out) {
        if (!meet_) meet_.emplace(shape_);
        const gp_Pnt beside = p.Translated(gp_Vec(out) * kBeside);
        return (*meet_)(gp_Lin(beside, gp_Dir(packed(look_))), -RealLast(), -kBeside).empty();
    }

    static constexpr double kBeside = 1e-3; // mm
    const TopoDS_Shape& shape_;
    Vec3 look_;
    const std::function<Vec2(const gp_Pnt&)>& back_;
    std::vector<ProjectedLine>& lines_;
    const Progress& progress_;
    size_t count_; ///< of the lines that were found without this
    BoxTree found_;
    std::optional<LineMeets> meet_;
};

} // namespace

void addMissedLines(const TopoDS_Shape& shape, Vec3 look, const std::function<Vec2(const gp_Pnt&)>& back,
                    std::vector<ProjectedLine>& lines, const Progress& progress) {
    MissedLines missed(shape, look, back, lines, progress);
    missed.outlines();
    missed.ends();
}

} // namespace prism
