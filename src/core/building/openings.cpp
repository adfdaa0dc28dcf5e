#include "core/building/openings.h"

#include "core/base/box_tree.h"
#include "core/building/plane_faces.h"
#include "core/building/straight_tools.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Builder.hxx>
#include <Bnd_Box.hxx>
#include <ElSLib.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Wire.hxx>
#include <array>
#include <gp_Circ.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Lin.hxx>
#include <gp_Pln.hxx>
#include <map>
#include <memory>
#include <optional>

namespace prism::building {
namespace {

constexpr double kParallel = 1e-9; // radians

/// A body as it is seen along one direction.
struct Sight {
    gp_Ax2 frame;
    Vec2 flat(const gp_Pnt& p) const {
        return {p.XYZ().Dot(frame.XDirection().XYZ()), p.XYZ().Dot(frame.YDirection().XYZ())};
    }
    double height(const gp_Pnt& p) const { return p.XYZ().Dot(frame.Direction().XYZ()); }
    gp_Pnt at(Vec2 p, double height) const {
        return gp_Pnt(p.x * frame.XDirection().XYZ() + p.y * frame.YDirection().XYZ() +
                      height * frame.Direction().XYZ());
    }
    bool along(const gp_Dir& d) const { return d.IsParallel(frame.Direction(), kParallel); }
    bool across(const gp_Dir& d) const { return d.IsNormal(frame.Direction(), kParallel); }
};

/// The room that something takes up, in the plane of sight and along it.
struct Room {
    Box2 box;
    double low = std::numeric_limits<double>::infinity(), high = -low;
};

Room roomOf(const TopoDS_Shape& s, const Sight& sight) {
    Bnd_Box b;
    BRepBndLib::Add(s, b, false);
    std::array<double, 3> lo{}, hi{};
    b.Get(lo[0], lo[1], lo[2], hi[0], hi[1], hi[2]);
    Room r;
    for (int i = 0; i < 8; ++i) {
        const gp_Pnt p(i & 1 ? lo[0] : hi[0], i & 2 ? lo[1] : hi[1], i & 4 ? lo[2] : hi[2]);
        r.box.add(sight.flat(p));
        r.low = std::min(r.low, sight.height(p)), r.high = std::max(r.high, sight.height(p));
    }
    return r;
}

bool apartFromCircle(const Box2& box, Vec2 centre, double radius, double gap) {
    double nearest = 0, farthest = 0;
    const auto along = [&](double lo, double hi, double c) {
        const double inside = std::clamp(c, lo, hi) - c, outside = std::max(hi - c, c - lo);
        nearest += inside * inside, farthest += outside * outside;
    };
    along(box.lo.x, box.hi.x, centre.x), along(box.lo.y, box.hi.y, centre.y);
    return std::sqrt(nearest) > radius + gap || std::sqrt(farthest) < radius - gap;
}

bool apartFromLine(const Box2& box, Vec2 at, Vec2 way, double gap) {
    double lo = std::numeric_limits<double>::infinity(), hi = -lo;
    for (Vec2 p : {box.lo, box.hi, Vec2{box.lo.x, box.hi.y}, Vec2{box.hi.x, box.lo.y}}) {
        const double off = cross(way, p - at);
        lo = std::min(lo, off), hi = std::max(hi, off);
    }
    return lo > gap || hi < -gap;
}

/// A face of the body that is square to the sight, with its border.
class SquareFace {
  public:
    SquareFace(const TopoDS_Face& face, const Sight& sight)
        : face_(face), sight_(sight), edges_(edgesOf(face)), tree_(boxesOf(edges_, sight)) {
        const gp_Pln plane = BRepAdaptor_Surface(face, false).Plane();
        height_ = sight.height(plane.Location());
        faces_up_ = (plane.Axis().Direction() * sight.frame.Direction() > 0) ==
                    (plane.Direct() == (face.Orientation() != TopAbs_REVERSED));
    }
    double height() const { return height_; }
    /// Whether the material ends here for whoever goes along the sight.
    bool facesUp() const { return faces_up_; }
    /// Whether all of a box lies in the face, or nothing of it; none where its border may run through it.
    std::optional<bool> covers(const Box2& box, double gap) {
        for (int i : tree_.overlapping(box.grown(gap)))
            if (!apartFrom(edges_[static_cast<size_t>(i)], box, gap)) return std::nullopt;
        if (!inside_) inside_ = std::make_unique<BRepTopAdaptor_FClass2d>(face_, 1e-7);
        double u = 0, v = 0;
        ElSLib::Parameters(BRepAdaptor_Surface(face_, false).Plane(), sight_.at(box.centre(), height_), u, v);
        return inside_->Perform(gp_Pnt2d(u, v)) == TopAbs_IN;
    }

  private:
    static std::vector<TopoDS_Edge> edgesOf(const TopoDS_Face& face) {
        std::vector<TopoDS_Edge> r;
        for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next()) r.push_back(TopoDS::Edge(x.Current()));
        return r;
    }
    static std::vector<Box2> boxesOf(const std::vector<TopoDS_Edge>& edges, const Sight& sight) {
        std::vector<Box2> r;
        for (const TopoDS_Edge& e : edges) r.push_back(roomOf(e, sight).box);
        return r;
    }
    bool apartFrom(const TopoDS_Edge& edge, const Box2& box, double gap) const {
        const BRepAdaptor_Curve c(edge);
        if (c.GetType() == GeomAbs_Circle)
            return apartFromCircle(box, sight_.flat(c.Circle().Location()), c.Circle().Radius(), gap);
        if (c.GetType() != GeomAbs_Line) return false;
        const Vec2 a = sight_.flat(c.Value(c.FirstParameter())), b = sight_.flat(c.Value(c.LastParameter()));
        return length(b - a) > gap && apartFromLine(box, a, normalized(b - a), gap);
    }

    TopoDS_Face face_;
    Sight sight_;
    std::vector<TopoDS_Edge> edges_;
    BoxTree tree_;
    std::unique_ptr<BRepTopAdaptor_FClass2d> inside_;
    double height_ = 0;
    bool faces_up_ = false;
};

/// Material that a tool takes away in one piece; a number below zero for an end that stays inside the body.
struct Passage {
    double from = 0, to = 0;
    int enters = -1, leaves = -1; ///< faces of the body
};

/// The faces of a body as they concern whoever goes through it in one direction.
class Seen {
  public:
    Seen(const TopTools_IndexedMapOfShape& faces, const gp_Ax2& frame, double gap)
        : faces_(faces), sight_{frame}, gap_(gap), rooms_(roomsOf(faces, sight_)), tree_(boxesOf(rooms_)) {}
    bool along(const gp_Dir& d) const { return sight_.along(d); }

    /// What a tool takes away; none when it touches something else than faces square to it.
    std::optional<std::vector<Passage>> passages(const StraightTool& t) {
        const bool same = t.frame.Direction() * sight_.frame.Direction() > 0;
        const double low = same ? t.from : -t.to, high = same ? t.to : -t.from;
        const Box2 box = roomOf(t.low, sight_).box;
        std::map<double, int> met; // faces by height
        for (int i : tree_.overlapping(box.grown(gap_))) {
            const Room& room = rooms_[static_cast<size_t>(i)];
            if (room.low > high + gap_ || room.high < low - gap_) continue;
            const BRepAdaptor_Surface surface(faceOf(i), false);
            if (surface.GetType() == GeomAbs_Plane && sight_.along(surface.Plane().Axis().Direction())) {
                SquareFace& face = squareFace(i);
                if (face.height() < low - gap_ || face.height() > high + gap_) continue;
                const auto covers = face.covers(box, gap_);
                if (!covers) return std::nullopt;
                if (!*covers) continue;
                if (std::min(std::abs(face.height() - low), std::abs(face.height() - high)) < gap_)
                    return std::nullopt;
                if (!met.emplace(face.height(), i).second) return std::nullopt;
            } else if (!passesBy(surface, box))
                return std::nullopt;
        }
        return inPieces(met, low, high);
    }

    const Sight& sight() const { return sight_; }
    TopoDS_Face faceOf(int i) const { return TopoDS::Face(faces_(i + 1)); }

  private:
    static std::vector<Room> roomsOf(const TopTools_IndexedMapOfShape& faces, const Sight& sight) {
        std::vector<Room> r;
        for (int i = 1; i <= faces.Extent(); ++i) r.push_back(roomOf(faces(i), sight));
        return r;
    }
    static std::vector<Box2> boxesOf(const std::vector<Room>& rooms) {
        std::vector<Box2> r;
        for (const Room& room : rooms) r.push_back(room.box);
        return r;
    }
    SquareFace& squareFace(int i) { return square_.try_emplace(i, faceOf(i), sight_).first->second; }
    /// Whether a wall that is parallel to the sight, however far it goes, leaves a box alone.
    bool passesBy(const BRepAdaptor_Surface& s, const Box2& box) const {
        if (s.GetType() == GeomAbs_Cylinder && sight_.along(s.Cylinder().Axis().Direction()))
            return apartFromCircle(box, sight_.flat(s.Cylinder().Location()), s.Cylinder().Radius(), gap_);
        if (s.GetType() != GeomAbs_Plane || !sight_.across(s.Plane().Axis().Direction())) return false;
        const gp_Dir way = s.Plane().Axis().Direction().Crossed(sight_.frame.Direction());
        return apartFromLine(box, sight_.flat(s.Plane().Location()),
                             normalized(sight_.flat(gp_Pnt(way.XYZ()))), gap_);
    }
    std::optional<std::vector<Passage>> inPieces(const std::map<double, int>& met, double low, double high) {
        std::vector<Passage> r;
        if (met.empty()) return std::nullopt;
        bool within = squareFace(met.begin()->second).facesUp();
        if (within) r.push_back({low, 0, -1, -1});
        for (const auto& [height, face] : met) {
            if (squareFace(face).facesUp() != within) return std::nullopt;
            if (within)
                r.back().to = height, r.back().leaves = face;
            else
                r.push_back({height, 0, face, -1});
            within = !within;
        }
        if (within) r.back().to = high;
        return r;
    }

    const TopTools_IndexedMapOfShape& faces_;
    Sight sight_;
    double gap_;
    std::vector<Room> rooms_;
    BoxTree tree_;
    std::map<int, SquareFace> square_;
};

/// A body while its faces get other borders.
class Opening {
  public:
    explicit Opening(const TopoDS_Shape& body, FaceNames& names) : body_(body), names_(names) {
        TopExp::MapShapes(body, TopAbs_FACE, faces_);
        for (TopExp_Explorer shell(body, TopAbs_SHELL); shell.More(); shell.Next()) {
            for (TopExp_Explorer f(shell.Current(), TopAbs_FACE); f.More(); f.Next())
                shell_.emplace(faces_.FindIndex(f.Current()) - 1, shells_);
            ++shells_;
        }
    }
    const TopTools_IndexedMapOfShape& faces() const { return faces_; }

    /// Whether no piece joins two shells.
    bool canTake(const std::vector<Passage>& pieces) const {
        return std::ranges::all_of(pieces, [&](const Passage& p) {
            return p.enters < 0 || p.leaves < 0 || shell_.at(p.enters) == shell_.at(p.leaves);
        });
    }
    /// Takes a piece away.
    void take(const StraightTool& t, const Passage& p, const Sight& sight) {
        const bool same = t.frame.Direction() * sight.frame.Direction() > 0;
        const double from = same ? p.from : -p.to;
        gp_Trsf there;
        there.SetTranslation(gp_Vec(t.frame.Direction()) * (from - t.from));
        BRepBuilderAPI_Transform end(t.low, there, true);
        BRepPrimAPI_MakePrism piece(end.Shape(), gp_Vec(t.frame.Direction()) * (p.to - p.from));
        const int at = shell_.at(p.enters < 0 ? p.leaves : p.enters);
        const auto wall = [&](const TopoDS_Shape& face, const TopoDS_Face& named) {
            for (TopExp_Explorer x(piece.Shape(), TopAbs_FACE); x.More(); x.Next()) {
                if (!x.Current().IsSame(face)) continue;
                walls_[at].push_back(x.Current().Reversed());
                for (const FaceName& n : names_.of(named)) names_.add(face, n);
            }
        };
        for (const StraightTool::Wall& w : t.walls)
            for (const TopoDS_Shape& face : piece.Generated(end.ModifiedShape(w.edge))) wall(face, w.face);
        const auto close = [&](const TopoDS_Shape& face, int opens, const TopoDS_Face& named) {
            if (opens < 0) return wall(face, named);
            for (TopExp_Explorer x(piece.Shape(), TopAbs_FACE); x.More(); x.Next())
                if (x.Current().IsSame(face))
                    for (TopExp_Explorer w(x.Current(), TopAbs_WIRE); w.More(); w.Next())
                        borders_[opens].push_back(w.Current().Reversed());
        };
        close(piece.FirstShape(), same ? p.enters : p.leaves, t.low);
        close(piece.LastShape(), same ? p.leaves : p.enters, t.high);
    }

    TopoDS_Shape done() const {
        BRep_Builder b;
        std::vector<TopoDS_Shape> solids;
        int shell = 0;
        for (TopExp_Explorer s(body_, TopAbs_SOLID); s.More(); s.Next()) {
            TopoDS_Solid solid;
            b.MakeSolid(solid);
            for (TopExp_Explorer x(s.Current(), TopAbs_SHELL); x.More(); x.Next())
                b.Add(solid, shellOf(x.Current(), shell++));
            solids.push_back(solid);
        }
        return together(solids);
    }

  private:
    TopoDS_Shell shellOf(const TopoDS_Shape& shell, int number) const {
        BRep_Builder b;
        TopoDS_Shell r;
        b.MakeShell(r);
        for (TopExp_Explorer f(shell, TopAbs_FACE); f.More(); f.Next()) {
            const auto added = borders_.find(faces_.FindIndex(f.Current()) - 1);
            b.Add(r, added == borders_.end() ? f.Current() : withBorders(f.Current(), added->second));
        }
        if (const auto w = walls_.find(number); w != walls_.end())
            for (const TopoDS_Shape& wall : w->second) b.Add(r, wall);
        r.Closed(true);
        return r;
    }
    /// The face with further borders; these as they are to run in the solid.
    TopoDS_Shape withBorders(const TopoDS_Shape& face, const std::vector<TopoDS_Shape>& borders) const {
        BRep_Builder b;
        const TopoDS_Shape straight = face.Oriented(TopAbs_FORWARD);
        TopoDS_Shape r = straight.EmptyCopied();
        for (TopoDS_Iterator w(straight); w.More(); w.Next()) b.Add(r, w.Value());
        const bool back = face.Orientation() == TopAbs_REVERSED;
        for (const TopoDS_Shape& w : borders) b.Add(r, back ? w.Reversed() : w);
        r.Orientation(face.Orientation());
        for (const FaceName& n : names_.of(face)) names_.add(r, n);
        return r;
    }

    const TopoDS_Shape& body_;
    FaceNames& names_;
    TopTools_IndexedMapOfShape faces_;
    std::map<int, int> shell_; ///< by face
    int shells_ = 0;
    std::map<int, std::vector<TopoDS_Shape>> borders_; ///< new ones, by face
    std::map<int, std::vector<TopoDS_Shape>> walls_;   ///< new ones, by shell
};

} // namespace

Opened opened(const TopoDS_Shape& body, const std::vector<TopoDS_Shape>& tools, double size,
              FaceNames& names) {
    const double gap = 1e-5 * size;
    Opened r{body, {}};
    Opening opening(body, names);
    std::vector<std::unique_ptr<Seen>> ways;
    const auto seenAlong = [&](const StraightTool& t) -> Seen& {
        for (auto& w : ways)
            if (w->along(t.frame.Direction())) return *w;
        return *ways.emplace_back(std::make_unique<Seen>(opening.faces(), t.frame, gap));
    };
    bool any = false;
    for (const TopoDS_Shape& tool : tools) {
        bool done = false;
        for (const StraightTool& t : straightTools(tool)) {
            Seen& seen = seenAlong(t);
            const auto pieces = seen.passages(t);
            if (!pieces || !opening.canTake(*pieces)) continue;
            for (const Passage& p : *pieces) opening.take(t, p, seen.sight());
            done = any = true;
            break;
        }
        if (!done) r.left.push_back(tool);
    }
    if (any) r.body = opening.done();
    return r;
}

} // namespace prism::building
