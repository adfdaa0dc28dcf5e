#include "core/proposing/slanted_features.h"

#include "core/base/cover.h"

#include <set>

namespace prism {
namespace {

/// Views that look along one line, either way.
bool parallel(const FigureView& a, const FigureView& b) {
    return std::abs(std::abs(dot(a.look, b.look)) - 1) < 1e-9;
}

/// How another view shows what lies in planes square to the look of an auxiliary one.
class SeenAskew {
  public:
    SeenAskew(const Figure& f, const FigureView& face, const FigureView& other)
        : frame_(frameOf(f, face, f.drawn)), other_(frameOf(f, other, f.drawn)),
          tol_(2 * f.tolerances.proof) {
        const Vec2 origin = at({}, 0), x = at({1, 0}, 0) - origin, y = at({0, 1}, 0) - origin;
        deeper_ = at({}, 1) - origin;
        flat_ = {x.x, x.y, y.x, y.y, origin.x, origin.y};
        // A circle's edge is nearest to the viewer's left and right where its wall turns away from him.
        const Vec3 wall = cross(frame_.look, other_.look);
        aside_ = {dot(wall, frame_.right), dot(wall, frame_.up)};
    }
    /// Whether planes of the face are seen from the edge, or walls square to it from their end.
    bool edgeOn() const { return std::abs(flat_.determinant()) < 1e-3 || length(deeper_) < 1e-3; }

    /// A place of the face, so deep along its look.
    Vec2 at(Vec2 on_face, double depth) const { return other_(frame_.inSpace(on_face, depth)); }

    /// How deep a curve lies that looks like a piece of a circle on the face; none for others.
    std::optional<double> depthOf(const Curve& c, Vec2 centre, double radius) const {
        const auto* e = std::get_if<EllipseArc>(&c);
        if (!e) return std::nullopt;
        const Vec2 off = e->centre - at(centre, 0);
        const double depth = dot(off, deeper_) / dot(deeper_, deeper_);
        return showsCircle(c, centre, radius, depth) ? std::optional(depth) : std::nullopt;
    }
    bool showsCircle(const Curve& c, Vec2 centre, double radius, double depth) const {
        return std::ranges::all_of(std::array{0.0, 0.2, 0.45, 0.7, 1.0}, [&](double t) {
            const Vec2 off = onFace(pointAt(c, t), depth) - centre;
            const Vec2 there = at(centre + (radius / std::max(length(off), 1e-9)) * off, depth);
            return distance(there, pointAt(c, t)) <= tol_;
        });
    }
    /// Whether a line is the outline of a round wall between two depths.
    bool showsWall(const Curve& c, Vec2 centre, double radius, double from, double to) const {
        const auto* s = std::get_if<Segment>(&c);
        if (!s) return false;
        for (const double side : {-1.0, 1.0}) {
            const Vec2 edge = centre + side * radius * normalized(aside_);
            const Segment wall{at(edge, from), at(edge, to)};
            if (distanceTo(wall, s->a) <= tol_ && distanceTo(wall, s->b) <= tol_) return true;
        }
        return false;
    }
    /// The place of the face that is seen there.
    Vec2 onFace(Vec2 p, double depth) const { return flat_.inverse()(p - depth * deeper_); }

  private:
    ViewFrame frame_, other_;
    double tol_;
    Affine2 flat_;
    Vec2 deeper_, aside_;
};

/// The lines of a rounded corner as a view shows it, so deep.
struct RoundImage {
    double depth;
    std::vector<int> pieces; ///< figure curves
};

std::vector<RoundImage> imagesOf(const Figure& f, const FigureView& o, const SeenAskew& seen,
                                 const Arc& arc) {
    std::vector<RoundImage> images;
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const Curve& c = f.curves[i].drawn;
        if (f.curves[i].view != o.view) continue;
        const auto depth = seen.depthOf(c, arc.centre, arc.radius);
        // Other pieces of the circle are of something else.
        if (!depth || distanceTo(arc, seen.onFace(pointAt(c, 0.5), *depth)) > 2 * f.tolerances.proof)
            continue;
        auto same = std::ranges::find_if(images, [&](const RoundImage& k) {
            return std::abs(k.depth - *depth) <= 2 * f.tolerances.proof;
        });
        if (same == images.end()) same = images.insert(images.end(), RoundImage{*depth, {}});
        same->pieces.push_back(static_cast<int>(i));
    }
    return images;
}

/// Draws the line that leads on to the corner from where a rounded one begins, as far as it is not drawn.
void goOn(Figure& f, const RoundImage& image, const Segment& s) {
    const int next = *std::ranges::min_element(
        image.pieces, {}, [&](int i) { return distanceTo(f.curves[static_cast<size_t>(i)].drawn, s.a); });
    std::vector<FigureCurve> lacking;
    FigureCurve line;
    line.view = f.curves[static_cast<size_t>(next)].view;
    line.role = f.curves[static_cast<size_t>(next)].role;
    std::vector<const Curve*> drawn;
    for (const FigureCurve& c : f.curves)
        if (c.view == line.view && std::holds_alternative<Segment>(c.drawn)) drawn.push_back(&c.drawn);
    for (const Interval& gap : uncovered(s, drawn, f.tolerances.proof)) {
        const Curve piece = part(s, gap.from, gap.to);
        FigureCurve& added = lacking.emplace_back(line);
        added.drawn = piece;
        added.p0 = addPoint(f, line.view, startOf(piece)), added.p1 = addPoint(f, line.view, endOf(piece));
    }
    std::ranges::move(lacking, std::back_inserter(f.curves));
}

/// Views turned so that an auxiliary view looks along a model axis and those beside it along another: the
/// figure that they would be of a part that lies so.
class LyingFlat {
  public:
    LyingFlat(const Figure& f, const FigureView& face) : face_(frameOf(f, face, f.drawn)) {
        flat_.size = f.size, flat_.tolerances = f.tolerances;
        FigureView own = face;
        own.axes = {Axis::x, Axis::y, 1, 1, Axis::z};
        own.right = unitOf(Axis::x), own.up = unitOf(Axis::y), own.look = unitOf(Axis::z);
        own.shows = Shows::all, own.on = -1, own.square = true;
        flat_.views.push_back(own);
        take(f, face, {});
        for (const FigureView& v : f.views)
            if (v.principal() && parallel(v, *f.viewById(face.on))) takeFromSide(f, v);
    }
    const Figure& figure() const { return flat_; }

    /// A feature of that figure as one of the whole one.
    void turnBack(SeenLines& seen, Step& step) const {
        for (CurvePart& p : seen.lines) p.curve = origin_[static_cast<size_t>(p.curve)];
        for (Closing& c : seen.closing) {
            if (const auto it = back_.find(c.view); it != back_.end())
                c.line = {it->second(c.line.a), it->second(c.line.b)};
            for (int& over : c.over) over = origin_[static_cast<size_t>(over)];
        }
        for (const auto& [mark, what] : marksOf(step))
            for (const FigureView& v : flat_.views)
                if (const auto it = back_.find(v.view); v.name == mark->view && it != back_.end())
                    mark->at = it->second(mark->at);
    }

  private:
    void takeFromSide(const Figure& f, const FigureView& v) {
        const ViewFrame frame = frameOf(f, v, f.drawn);
        const auto turned = [&](Vec2 p) {
            const Vec3 at = frame.inSpace(p, 0);
            return Vec2{face_(at).x, dot(at, face_.look)};
        };
        const Vec2 o = turned({}), x = turned({1, 0}) - o, y = turned({0, 1}) - o;
        const Affine2 turn{x.x, x.y, y.x, y.y, o.x, o.y};
        FigureView side = v;
        side.axes = {Axis::x, Axis::z, 1, 1, Axis::y};
        side.right = unitOf(Axis::x), side.up = unitOf(Axis::z);
        side.look = dot(frame.look, face_.up) < 0 ? -unitOf(Axis::y) : unitOf(Axis::y);
        flat_.views.push_back(side);
        back_[v.view] = turn.inverse();
        take(f, v, turn);
    }
    void take(const Figure& f, const FigureView& v, const Affine2& turn) {
        for (size_t i = 0; i < f.curves.size(); ++i) {
            if (f.curves[i].view != v.view) continue;
            FigureCurve c = f.curves[i];
            c.drawn = transformed(c.drawn, turn);
            c.half_u = c.half_v = -1;
            if (const auto* arc = std::get_if<Arc>(&c.drawn)) {
                c.centre = addPoint(flat_, v.view, arc->centre);
                c.radius = addRadius(arc->radius);
            } else
                c.centre = c.radius = -1;
            if (c.p0 >= 0) c.p0 = addPoint(flat_, v.view, startOf(c.drawn));
            if (c.p1 >= 0) c.p1 = addPoint(flat_, v.view, endOf(c.drawn));
            flat_.curves.push_back(std::move(c));
            origin_.push_back(static_cast<int>(i));
        }
    }

    int addRadius(double value) {
        flat_.drawn.push_back(value), flat_.now.push_back(value), flat_.weights.push_back(1);
        flat_.axis_of.push_back(-1);
        return static_cast<int>(flat_.drawn.size()) - 1;
    }

    ViewFrame face_;
    Figure flat_;
    std::vector<int> origin_;     ///< by curve of it, the one of the whole figure
    std::map<int, Affine2> back_; ///< by view that was turned
};

/// The circles in which a hole begins, widens and ends: radius and depth.
std::vector<std::pair<double, double>> rimsOf(const HoleProfile& p) {
    std::vector<std::pair<double, double>> r;
    for (const auto& m : p.mouths) r.emplace_back(m.radius, m.at);
    for (const auto& l : p.levels) r.emplace_back(l.radius, l.at);
    for (const auto& w : p.walls) r.emplace_back(w.radius, w.at), r.emplace_back(w.end_radius, w.end);
    return r;
}

/// What the views that look at a round feature askew show of it: its edges as ellipses, its walls by their
/// outlines.
void explainAskew(const Figure& f, const FigureView& face, Vec2 centre, const HoleProfile& profile,
                  SeenLines& explained) {
    const auto rims = rimsOf(profile);
    for (const FigureView& o : f.views) {
        if (!o.principal()) continue;
        const SeenAskew seen(f, face, o);
        if (seen.edgeOn()) continue;
        const auto shown = [&](const Curve& c) {
            return std::ranges::any_of(
                       rims,
                       [&](const auto& rim) { return seen.showsCircle(c, centre, rim.first, rim.second); }) ||
                   std::ranges::any_of(profile.walls, [&](const auto& w) {
                       return w.radius == w.end_radius && seen.showsWall(c, centre, w.radius, w.at, w.end);
                   });
        };
        for (size_t i = 0; i < f.curves.size(); ++i)
            if (f.curves[i].view == o.view && shown(f.curves[i].drawn))
                explained.lines.push_back({static_cast<int>(i)});
    }
}

bool onPrincipal(const Figure& f, const FigureView& v) {
    const FigureView* on = v.shows == Shows::from_askew ? f.viewById(v.on) : nullptr;
    return on && on->principal();
}

} // namespace

std::vector<Round> slantedRounds(const Figure& f) {
    std::vector<Round> r;
    if (std::ranges::any_of(f.views, [&](const FigureView& v) { return onPrincipal(f, v); })) r = roundsOf(f);
    std::erase_if(r, [&](const Round& round) {
        return !onPrincipal(f, *f.viewById(f.curves[static_cast<size_t>(round.arc)].view));
    });
    return r;
}

Figure slantsSharpened(Figure f, const Figure& whole, const std::vector<Round>& rounds) {
    std::set<int> gone;
    for (const Round& round : rounds) {
        const FigureCurve& own = whole.curves[static_cast<size_t>(round.arc)];
        const FigureView& face = *whole.viewById(own.view);
        const Vec2 corner = cornerOf(whole, round, whole.drawn);
        for (const FigureView& o : whole.views) {
            if (!o.principal()) continue;
            const SeenAskew seen(whole, face, o);
            if (seen.edgeOn()) continue;
            for (const RoundImage& image : imagesOf(f, o, seen, std::get<Arc>(own.drawn))) {
                gone.insert(image.pieces.begin(), image.pieces.end());
                for (const Vec2 end : {startOf(own.drawn), endOf(own.drawn)})
                    goOn(f, image, {seen.at(end, image.depth), seen.at(corner, image.depth)});
            }
        }
    }
    std::vector<FigureCurve> kept;
    for (size_t i = 0; i < f.curves.size(); ++i)
        if (!gone.contains(static_cast<int>(i))) kept.push_back(std::move(f.curves[i]));
    f.curves = std::move(kept);
    return f;
}

namespace {

/// Calls f(face, the figure that lies flat on it, its maps) for every auxiliary view of a slanted face.
template <class F> void forEachFace(const Figure& f, Progress& progress, F of) {
    for (const FigureView& face : f.views) {
        if (!onPrincipal(f, face)) continue;
        const LyingFlat lying(f, face);
        const AreaSets areas(lying.figure(), progress);
        std::vector<ViewMap> maps;
        for (const FigureView& v : lying.figure().views) maps.emplace_back(lying.figure(), v, areas.drawn);
        of(face, lying, maps);
    }
}

} // namespace

std::vector<HoleSeen> slantedHoles(const Figure& f, Progress& progress) {
    std::vector<HoleSeen> r;
    forEachFace(f, progress, [&](const FigureView& face, const LyingFlat& lying, const auto& maps) {
        for (HoleSeen& h : holesSeen(lying.figure(), maps)) {
            if (h.step.view != face.name || lies(h.step))
                continue; // the others are seen better in the whole figure
            lying.turnBack(h, h.step);
            explainAskew(f, face, h.step.places.front(), h.profile, h);
            r.push_back(std::move(h));
        }
    });
    return r;
}

std::vector<BossSeen> slantedBosses(const Figure& f, const AreaSets& areas, Progress& progress) {
    std::vector<BossSeen> r;
    forEachFace(f, progress, [&](const FigureView& face, const LyingFlat& lying, const auto& maps) {
        for (BossSeen& b : bossesSeen(lying.figure(), maps, areas, StandsOn::plane_face)) {
            if (b.step.view != face.name) continue;
            lying.turnBack(b.seen, b.step);
            HoleProfile wall;
            wall.walls.push_back(b.wall);
            explainAskew(f, face, b.centre, wall, b.seen);
            r.push_back(std::move(b));
        }
    });
    return r;
}

} // namespace prism
