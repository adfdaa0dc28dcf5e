#include "core/figure/builder.h"

namespace prism::figure {
namespace {

/// Holes of one pitch circle keep to it sooner than anything that stands level by chance.
constexpr double kScore = 45;

/// The point of a view at a place; -1 for none.
int pointAt(const Figure& f, int view, Vec2 at, double tol) {
    for (size_t i = 0; i < f.points.size(); ++i)
        if (f.points[i].view == view && distance(f.at(f.points[i], f.drawn), at) <= tol)
            return static_cast<int>(i);
    return -1;
}

/// A point stays on a circle; where it stands level or upright to the centre it stays so as well.
Equation onPitch(const Figure& f, const PitchCircle& c, int point) {
    const FigurePoint &p = f.points[static_cast<size_t>(point)], &m = f.points[static_cast<size_t>(c.centre)];
    const Vec2 d = f.at(p, f.drawn) - f.at(m, f.drawn);
    const double tol = f.tolerances.same_model;
    Equation e;
    if (std::abs(d.x) <= tol)
        e = Equation::linearOf(Level::weak, {{p.v, 1}, {m.v, -1}, {c.radius, d.y > 0 ? -1.0 : 1.0}});
    else if (std::abs(d.y) <= tol)
        e = Equation::linearOf(Level::weak, {{p.u, 1}, {m.u, -1}, {c.radius, d.x > 0 ? -1.0 : 1.0}});
    else
        e.kind = EquationKind::point_on_circle, e.v = {p.u, p.v, m.u, m.v, c.radius};
    e.level = Level::weak, e.score = kScore;
    return e;
}

/// Holes whose centres lie on a circle: one full circle for each centre.
std::map<int, int> holesOn(const Figure& f, int view, const Arc& circle, double tol) {
    std::map<int, int> r; // by centre
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        if (c.view != view || c.radius < 0 || c.p0 >= 0 || c.centre < 0) continue;
        const Vec2 at = f.at(f.points[static_cast<size_t>(c.centre)], f.drawn);
        if (std::abs(distance(at, circle.centre) - circle.radius) <= tol)
            r.emplace(c.centre, static_cast<int>(i));
    }
    return r;
}

/// Whether places stand at equal angles all round a circle, three or more of them.
bool spreadEvenly(const Figure& f, const PitchCircle& c, const std::map<int, int>& holes, double tol) {
    const Vec2 middle = f.at(f.points[static_cast<size_t>(c.centre)], f.drawn);
    std::vector<double> angles;
    for (const auto& [at, curve] : holes)
        angles.push_back(positiveAngle(angleOf(f.at(f.points[static_cast<size_t>(at)], f.drawn) - middle)));
    std::ranges::sort(angles);
    const double step = 2 * kPi / static_cast<double>(angles.size());
    for (size_t i = 1; i < angles.size(); ++i)
        if (std::abs(angles[i] - angles[i - 1] - step) * c.drawn.radius > tol) return false;
    return angles.size() >= 3;
}

/// A hole of an even row round a circle goes out and in, but not along it: equal spaces need no dimension.
Equation atItsAngle(const Figure& f, const PitchCircle& c, int point) {
    const FigurePoint &p = f.points[static_cast<size_t>(point)], &m = f.points[static_cast<size_t>(c.centre)];
    const Vec2 way = normalized(f.at(p, f.drawn) - f.at(m, f.drawn));
    Equation e = Equation::linearOf(Level::weak, {{p.u, way.y}, {m.u, -way.y}, {p.v, -way.x}, {m.v, way.x}});
    e.score = kScore;
    return e;
}

} // namespace

void findPitchCircles(const Drawing& d, const ViewSet& set, Figure& f) {
    const double tol = 4 * f.tolerances.same_model;
    for (const FigureView& v : f.views)
        for (int line : set.views[static_cast<size_t>(v.view)].centre_lines) {
            const std::vector<Curve>& curves = d.entities[static_cast<size_t>(line)].curves;
            for (size_t k = 0; k < curves.size(); ++k) {
                const Curve c = transformed(curves[k], v.to_model);
                const auto* circle = std::get_if<Arc>(&c);
                if (!circle) continue;
                const int centre = pointAt(f, v.view, circle->centre, tol);
                const auto holes = holesOn(f, v.view, *circle, tol);
                if (centre < 0 || holes.size() < 2) continue;
                PitchCircle p{v.view,  line,   static_cast<int>(k),
                              *circle, centre, static_cast<int>(f.drawn.size())};
                f.drawn.push_back(circle->radius), f.now.push_back(circle->radius);
                f.axis_of.push_back(-1);
                for (const auto& [at, curve] : holes)
                    addRelation(f, onPitch(f, p, at), RelationKind::on_circle, {curve});
                if (spreadEvenly(f, p, holes, tol))
                    for (const auto& [at, curve] : holes)
                        addRelation(f, atItsAngle(f, p, at), RelationKind::on_circle, {curve});
                f.pitch_circles.push_back(p);
            }
        }
}

} // namespace prism::figure
