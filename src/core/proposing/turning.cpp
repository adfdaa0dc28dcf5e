#include "core/proposing/turning.h"

#include "core/proposing/cell_steps.h"

namespace prism {
namespace {

constexpr int kChoices = 8; ///< consistent choices of cells that are built and proved, at most

std::optional<EndView> endView(const Figure& f) {
    for (const FigureView* v : f.principalViews()) {
        std::optional<EndView> widest;
        for (const FigureCurve& c : f.curves) {
            const auto* a = std::get_if<Arc>(&c.drawn);
            if (!a || c.view != v->view || (widest && a->radius <= widest->radius)) continue;
            if (std::abs(a->sweep) > kPi) widest = EndView{v, a->centre, a->radius};
        }
        if (!widest) continue;
        const bool all_within = std::ranges::all_of(f.curves, [&](const FigureCurve& c) {
            if (c.view != v->view) return true;
            return std::ranges::all_of(std::array{0.0, 0.5, 1.0}, [&](double t) {
                return distance(pointAt(c.drawn, t), widest->centre) <= widest->radius + f.tolerances.proof;
            });
        });
        if (all_within) return widest;
    }
    return std::nullopt;
}

Step turned(const FigureView& profile, const HalfProfile& p, std::vector<Vec2> areas) {
    Step s;
    s.kind = StepKind::revolve;
    s.view = profile.name;
    s.areas = std::move(areas);
    s.axis_upright = p.upright;
    const Vec2 c = profile.box.centre();
    s.axis = {profile.name, p.upright ? Vec2{p.at, c.y} : Vec2{c.x, p.at}};
    s.name = "turned body";
    return s;
}

/// Places in the areas of a half profile that are material.
std::vector<Vec2> seedsOf(const ViewMap& m, const HalfProfile& p, int side,
                          const std::vector<bool>& material) {
    std::vector<Vec2> r;
    const int k = p.upright ? 0 : 1;
    for (size_t a = 0; a < material.size(); ++a) {
        const Box2& box = m.areas()[a].box;
        if (material[a] && (side > 0 ? box.hi[k] > p.at : box.lo[k] < p.at)) r.push_back(m.areas()[a].seed);
    }
    return r;
}

/// Whether a turned body reaches out of what a view shows, as one with flats does: these lie outside all
/// areas.
bool leavesOutline(TurnedCells& round, const std::vector<bool>& body, int map, const ProductCells& levels) {
    const ViewMap& m = round.maps()[static_cast<size_t>(map)];
    const auto &u = levels.levels(m.view().axes.right), &w = levels.levels(m.view().axes.up);
    for (size_t i = 0; i + 1 < u.size(); ++i)
        for (size_t k = 0; k + 1 < w.size(); ++k) {
            const Vec2 p{0.5 * (u[i] + u[i + 1]), 0.5 * (w[k] + w[k + 1])};
            if (m.areaAt(p) >= 0) continue;
            const Ray ray = round.ray(map, p);
            if (std::ranges::any_of(ray.cells, [&](int c) { return c >= 0 && body[static_cast<size_t>(c)]; }))
                return true;
        }
    return false;
}

/// Whether a view shows a full circle about a place, mm.
bool hasCircle(const Figure& f, const FigureView& v, Vec2 centre, double radius) {
    const double tol = 2 * f.tolerances.proof;
    return std::ranges::any_of(f.curves, [&](const FigureCurve& c) {
        const auto* a = std::get_if<Arc>(&c.drawn);
        return a && c.view == v.view && c.p0 < 0 && distance(a->centre, centre) <= tol &&
               std::abs(a->radius - radius) <= tol;
    });
}

} // namespace

std::vector<HalfProfile> halfProfiles(const Figure& f, const std::vector<ViewMap>& maps) {
    std::vector<HalfProfile> r;
    const auto end = endView(f);
    if (!end) return r;
    const Axis axis = end->view->axes.depth;
    const auto centre = [&](Axis a) { return end->view->axes.right == a ? end->centre.x : end->centre.y; };
    for (size_t i = 0; i < maps.size(); ++i) {
        const FigureView& v = maps[i].view();
        if (v.axes.depth == axis) continue;
        const bool upright = v.axes.up == axis;
        const double at = centre(upright ? v.axes.right : v.axes.up);
        const int k = upright ? 0 : 1; // the coordinate that is the radius
        // A traced line is known to a fraction of a pixel only, and so are both sides of the outline.
        const double low = at - end->radius - v.box.lo[k], high = at + end->radius - v.box.hi[k];
        if (std::min(std::abs(low), std::abs(high)) > 2 * f.tolerances.proof) continue;
        r.push_back({static_cast<int>(i), upright, at, centre(v.axes.depth), *end});
    }
    return r;
}

void fromTurning(const Figure& f, const std::vector<ViewMap>& maps, const std::vector<HalfProfile>& profiles,
                 Lines lines, Progress& progress, Judge& best) {
    for (const HalfProfile& p : profiles) {
        if (best.clean) return;
        const ViewMap& m = maps[static_cast<size_t>(p.map)];
        TurnedCells model(maps, p.map, p.upright, p.at, p.middle);
        ConsistentCells solver(model, f.tolerances, f.size, lines, best.work(), progress, best.kinds());
        for (int i = 0; i < kChoices && !best.clean; ++i) {
            const auto choice = solver.next(progress);
            if (!choice) break;
            const auto seeds = seedsOf(m, p, 1, choice->material);
            if (!seeds.empty()) best.consider({turned(m.view(), p, seeds)}, "turned part");
            solver.lookAt(best.placesOff(maps), progress);
        }
    }
}

void fromTurningAndCuts(const Figure& f, const std::vector<ViewMap>& maps, const HalfProfile& p, int side,
                        bool gridded, Lines lines, Progress& progress, Judge& best) {
    const ViewMap& m = maps[static_cast<size_t>(p.map)];
    TurnedCells round(maps, p.map, p.upright, p.at, p.middle, side);
    ProductCells pieces(maps, gridded), fine(maps, true);
    MetCells model(round, pieces);
    ConsistentCells solver(model, f.tolerances, f.size, lines, best.work(), progress, best.kinds());
    best.begin();
    for (int i = 0; i < kChoices && !best.clean && !best.stuck(); ++i) {
        const auto choice = solver.next(progress);
        if (!choice) return;
        std::vector<bool> body(static_cast<size_t>(round.cells()));
        for (int c = 0; c < model.cells(); ++c)
            if (choice->material[static_cast<size_t>(c)]) body[static_cast<size_t>(model.of(c).first)] = true;
        std::vector<bool> kept(static_cast<size_t>(pieces.cells())),
            gone = kept; // of the turned body, by piece
        for (int c = 0; c < model.cells(); ++c) {
            const auto [turn, piece] = model.of(c);
            if (!body[static_cast<size_t>(turn)]) continue;
            (choice->material[static_cast<size_t>(c)] ? kept : gone)[static_cast<size_t>(piece)] = true;
        }
        const auto seeds = seedsOf(m, p, side, body);
        if (seeds.empty()) continue;
        const auto pieceOf = [&](int cell) { return gridded ? cell : pieces.find(fine.areasOf(cell)); };
        const auto is = [&](const std::vector<bool>& what, int cell) {
            const int piece = pieceOf(cell);
            return piece >= 0 && piece < static_cast<int>(what.size()) && what[static_cast<size_t>(piece)];
        };
        const StepsFound cuts = cutsFor(
            f, gridded ? pieces : fine,
            [&](int c) { return is(kept, c)   ? Fill::material
                                : is(gone, c) ? Fill::air
                                              : Fill::either; },
            progress);
        if (!cuts.left_undone.empty()) best.left_undone = cuts.left_undone;
        const Step body_step = turned(m.view(), p, seeds);
        std::vector<Step> outlines;
        for (size_t k = 0; k < maps.size(); ++k)
            if (maps[k].view().principal() && leavesOutline(round, body, static_cast<int>(k), fine))
                outlines.push_back(withinOutline(maps[k].view(), maps[k].areas()));
        // Cuts that reach to the far end mostly take what lies outside an outline with them.
        for (const bool within : {false, true}) {
            if (best.clean || (within && outlines.empty())) break;
            std::vector<Step> steps{body_step};
            if (within) steps.insert(steps.end(), outlines.begin(), outlines.end());
            steps.insert(steps.end(), cuts.steps.begin(), cuts.steps.end());
            best.consider(std::move(steps), "turned part with cuts");
            solver.lookAt(best.placesOff(maps), progress);
        }
        if (choice->ignored > 0) return; // others contradict the sheet as much
    }
}

namespace {

/// The lines of a view, mirrored about an axis that runs along one of its own.
class Mirror {
  public:
    Mirror(const ViewMap& m, bool upright, double at, double tol)
        : m_(m), upright_(upright), at_(at), tol_(tol) {}
    /// Whether a line other than itself is the image of one, seen or hidden.
    bool showsImageOf(const std::pair<LineRole, Curve>& of) const {
        return std::ranges::any_of(m_.curves(), [&](const auto& c) { return &c != &of && isImage(c, of); });
    }
    /// Whether every line has its image of the same role, be it the line itself.
    bool showsAllImages() const {
        return std::ranges::all_of(m_.curves(), [&](const auto& of) {
            return std::ranges::any_of(m_.curves(),
                                       [&](const auto& c) { return c.first == of.first && isImage(c, of); });
        });
    }

  private:
    Vec2 image(Vec2 p) const { return upright_ ? Vec2{2 * at_ - p.x, p.y} : Vec2{p.x, 2 * at_ - p.y}; }
    bool isImage(const std::pair<LineRole, Curve>& c, const std::pair<LineRole, Curve>& of) const {
        const auto near = [&](Vec2 p, Vec2 q) { return distance(p, q) <= tol_; };
        const Vec2 a = image(startOf(of.second)), b = image(endOf(of.second)), p = startOf(c.second),
                   q = endOf(c.second);
        const auto *circle = std::get_if<Arc>(&c.second), *other = std::get_if<Arc>(&of.second);
        if (circle && other && circle->full() && other->full())
            return near(circle->centre, image(other->centre)) &&
                   std::abs(circle->radius - other->radius) <= tol_;
        return ((near(p, a) && near(q, b)) || (near(p, b) && near(q, a))) &&
               near(pointAt(c.second, 0.5), image(pointAt(of.second, 0.5)));
    }
    const ViewMap& m_;
    bool upright_;
    double at_, tol_;
};

/// Whether a view shows lines that lean or bend in a mirrored pair about an axis, as a cone does.
bool leansOnBothSides(const ViewMap& m, bool upright, double at, double tol) {
    const auto leans = [&](const Curve& c) {
        if (const auto* a = std::get_if<Arc>(&c)) return !a->full();
        const auto* s = std::get_if<Segment>(&c);
        return s && std::min(std::abs(s->a.x - s->b.x), std::abs(s->a.y - s->b.y)) > 4 * tol;
    };
    const Mirror mirror(m, upright, at, tol);
    return std::ranges::any_of(m.curves(),
                               [&](const auto& c) { return leans(c.second) && mirror.showsImageOf(c); });
}

} // namespace

std::vector<HalfProfile> bossProfiles(const Figure& f, const std::vector<ViewMap>& maps) {
    constexpr size_t kMost = 4;
    const double tol = 2 * f.tolerances.proof;
    std::vector<HalfProfile> r;
    for (const FigureView* v : f.principalViews()) {
        std::vector<EndView> ends;
        for (const FigureCurve& c : f.curves) {
            const auto* a = std::get_if<Arc>(&c.drawn);
            if (!a || c.view != v->view || std::abs(a->sweep) <= kPi) continue;
            const bool known = std::ranges::any_of(
                ends, [&](const EndView& e) { return distance(e.centre, a->centre) <= tol; });
            if (!known) ends.push_back({v, a->centre, a->radius});
        }
        for (const EndView& end : ends)
            for (size_t i = 0; i < maps.size() && r.size() < kMost; ++i) {
                const FigureView& o = maps[i].view();
                if (o.axes.depth == v->axes.depth) continue;
                const bool upright = o.axes.up == v->axes.depth;
                const auto centre = [&](Axis a) { return v->axes.right == a ? end.centre.x : end.centre.y; };
                const double at = centre(upright ? o.axes.right : o.axes.up);
                if (!leansOnBothSides(maps[i], upright, at, tol)) continue;
                r.push_back({static_cast<int>(i), upright, at, centre(o.axes.depth), end});
                break; // one view of it is enough
            }
    }
    return r;
}

std::vector<int> sidesOf(const ViewMap& m, const HalfProfile& p, double tol) {
    if (Mirror(m, p.upright, p.at, tol).showsAllImages()) return {1};
    return {1, -1};
}

void fromTurnedPieces(const Figure& f, const std::vector<ViewMap>& maps, const HalfProfile& p, int side,
                      bool gridded, Lines lines, Progress& progress, Judge& best) {
    const ViewMap& m = maps[static_cast<size_t>(p.map)];
    TurnedCells round(maps, p.map, p.upright, p.at, p.middle, side);
    ProductCells pieces(maps, gridded), fine(maps, true);
    MetCells model(round, pieces, MetCells::First::divides);
    ConsistentCells solver(model, f.tolerances, f.size, lines, best.work(), progress, best.kinds());
    best.begin();
    for (int i = 0; i < kChoices && !best.clean && !best.stuck(); ++i) {
        const auto choice = solver.next(progress);
        if (!choice) return;
        const auto material = [&](int c) { return choice->material[static_cast<size_t>(c)]; };
        // Turned are the areas that are material all the way round.
        std::vector<bool> body(static_cast<size_t>(round.cells())), broken = body;
        for (int c = 0; c < model.cells(); ++c)
            if (const int t = model.of(c).first; t >= 0)
                (material(c) ? body : broken)[static_cast<size_t>(t)] = true;
        for (int t = 0; t < round.cells(); ++t)
            if (broken[static_cast<size_t>(t)] || model.reachesOut(t)) body[static_cast<size_t>(t)] = false;
        const auto seeds = seedsOf(m, p, side, body);
        if (seeds.empty()) return; // nothing turned: that is for the cells alone
        // The rest is for areas drawn through. Mostly there is nothing else where a turned area is seen: what
        // lines of sight leave open beside a cone is air.
        for (const bool beside : {false, true}) {
            if (best.clean) break;
            std::vector<Fill> fills(static_cast<size_t>(pieces.cells()), Fill::either);
            for (int c = 0; c < model.cells(); ++c) {
                const auto [t, piece] = model.of(c);
                const int own = pieces.areasOf(piece)[static_cast<size_t>(p.map)];
                if (t >= 0 && body[static_cast<size_t>(t)]) continue;
                const bool open = beside || own < 0 || !body[static_cast<size_t>(own)];
                take(fills[static_cast<size_t>(piece)], open && material(c),
                     choice->looked_at[static_cast<size_t>(c)]);
            }
            StepsFound found = stepsForPieces(f, pieces, gridded, fine, fills, progress);
            if (!found.left_undone.empty()) best.left_undone = found.left_undone;
            found.steps.push_back(turned(m.view(), p, seeds));
            best.consider(std::move(found.steps), "areas extruded and turned");
            solver.lookAt(best.placesOff(maps), progress);
        }
        if (choice->ignored > 0) return; // others contradict the sheet as much
    }
}

void fromSections(const Figure& f, const AreaSets& areas, const std::vector<ViewMap>& maps,
                  const std::vector<HalfProfile>& profiles, Judge& best) {
    for (const HalfProfile& p : profiles) {
        const FigureView& v = maps[static_cast<size_t>(p.map)].view();
        if (v.shows != Shows::cut || best.clean) continue;
        const int k = p.upright ? 0 : 1; // the coordinate that is the radius
        std::vector<Vec2> hatched, filled;
        for (const ClosedArea& a : areas.drawn) {
            if (a.view != v.view || a.box.lo[k] < p.at - f.tolerances.proof) continue;
            if (isHatched(f, a))
                hatched.push_back(a.seed);
            else if (!hasCircle(f, *p.end.view, p.end.centre, a.box.lo[k] - p.at) &&
                     !hasCircle(f, *p.end.view, p.end.centre, a.box.hi[k] - p.at))
                filled.push_back(a.seed);
        }
        if (hatched.empty()) continue;
        best.consider({turned(v, p, hatched)}, "turned from the section");
        if (filled.empty() || best.clean) continue;
        filled.insert(filled.end(), hatched.begin(), hatched.end());
        best.consider({turned(v, p, filled)}, "turned from the section");
    }
}

} // namespace prism
