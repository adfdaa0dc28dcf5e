#include "core/figure/figure.h"

namespace prism {

const char* nameOf(RelationKind k) {
    constexpr std::array names{"coincident",    "horizontal",    "vertical",     "concentric", "tangent",
                               "on line",       "on circle",     "equal",        "symmetric",  "parallel",
                               "perpendicular", "at 45 degrees", "same station", "centred",    "datum"};
    return names[static_cast<size_t>(k)];
}

const FigureView* Figure::viewById(int view) const {
    for (const FigureView& v : views)
        if (v.view == view) return &v;
    return nullptr;
}

bool Figure::drawsHidden() const {
    return std::ranges::any_of(curves, [](const FigureCurve& c) { return c.role == LineRole::hidden; });
}

const FigureView* Figure::viewNamed(const ViewName& n) const {
    for (const FigureView& v : views)
        if (v.name == n) return &v;
    return nullptr;
}

std::vector<const FigureView*> Figure::principalViews() const {
    std::vector<const FigureView*> r;
    for (const FigureView& v : views)
        if (v.principal()) r.push_back(&v);
    return r;
}

double Figure::value(const std::vector<Term>& terms, const std::vector<double>& x) const {
    double sum = 0;
    for (const Term& t : terms) sum += t.factor * x[t.variable];
    return sum;
}

namespace {

/// Free curves follow their ends: scaled where the ends are apart, shifted where they are not.
Curve carried(const Curve& c, Vec2 a0, Vec2 b0, Vec2 a1, Vec2 b1) {
    auto factor = [](double d0, double d1) { return std::abs(d0) > 1e-9 ? d1 / d0 : 1.0; };
    const double sx = factor(b0.x - a0.x, b1.x - a1.x), sy = factor(b0.y - a0.y, b1.y - a1.y);
    return transformed(c, {sx, 0, 0, sy, a1.x - sx * a0.x, a1.y - sy * a0.y});
}

} // namespace

Curve Figure::ellipse(const FigureCurve& c, const std::vector<double>& x) const {
    EllipseArc r = std::get<EllipseArc>(c.drawn);
    const bool along = std::abs(r.major.x) > std::abs(r.major.y);
    const double major = x[along ? c.half_u : c.half_v], minor = x[along ? c.half_v : c.half_u];
    r.centre = at(points[c.centre], x);
    r.major = normalized(r.major) * major, r.ratio = minor / major;
    if (c.p0 >= 0) {
        const Vec2 u = normalized(r.major), v{-u.y, u.x};
        const auto parameter = [&](int point) {
            const Vec2 d = at(points[point], x) - r.centre;
            return std::atan2(dot(d, v) / minor, dot(d, u) / major);
        };
        const double sweep = r.sweep; // changes continuously from what was drawn
        r.start = parameter(c.p0);
        r.sweep = sweep + std::remainder(parameter(c.p1) - r.start - sweep, 2 * kPi);
    }
    if (r.ratio <= 1) return r;
    // What was the shorter axis has become the longer one.
    r.major = Vec2{-r.major.y, r.major.x} * r.ratio, r.ratio = 1 / r.ratio, r.start -= kPi / 2;
    return r;
}

Curve Figure::curve(int i, const std::vector<double>& x) const {
    const FigureCurve& c = curves[i];
    if (std::holds_alternative<Segment>(c.drawn)) return Segment{at(points[c.p0], x), at(points[c.p1], x)};
    if (const auto* a = std::get_if<Arc>(&c.drawn)) {
        const Vec2 centre = at(points[c.centre], x);
        Arc r = *a;
        r.centre = centre;
        r.radius = x[c.radius];
        if (c.p0 < 0) return r;
        const double start = angleOf(at(points[c.p0], x) - centre),
                     end = angleOf(at(points[c.p1], x) - centre);
        r.start = start;
        // The sweep changes continuously from what was drawn.
        r.sweep = a->sweep + std::remainder(end - start - a->sweep, 2 * kPi);
        return r;
    }
    if (c.onEllipse()) return ellipse(c, x);
    if (c.p0 < 0) return c.drawn;
    return carried(c.drawn, at(points[c.p0], drawn), at(points[c.p1], drawn), at(points[c.p0], x),
                   at(points[c.p1], x));
}

std::vector<Station> stationsOf(const Figure& f) {
    std::vector<int> order;
    for (size_t i = 0; i < f.axis_of.size(); ++i)
        if (f.axis_of[i] >= 0 && f.axis_of[i] < kModelAxes) order.push_back(static_cast<int>(i));
    std::sort(order.begin(), order.end(), [&](int a, int b) {
        return std::tie(f.axis_of[a], f.now[a], a) < std::tie(f.axis_of[b], f.now[b], b);
    });
    std::map<int, std::vector<int>> viewsOf;
    for (const FigurePoint& p : f.points) viewsOf[p.u].push_back(p.view), viewsOf[p.v].push_back(p.view);
    std::vector<Station> r;
    for (int i : order) {
        if (!viewsOf.contains(i)) continue;
        const auto axis = static_cast<Axis>(f.axis_of[i]);
        if (r.empty() || r.back().axis != axis || f.now[i] - r.back().value > f.tolerances.same_model)
            r.push_back({axis, f.now[i], {}, {}});
        r.back().variables.push_back(i);
        for (int v : viewsOf[i])
            if (std::find(r.back().views.begin(), r.back().views.end(), v) == r.back().views.end())
                r.back().views.push_back(v);
    }
    return r;
}

namespace {

/// By how much the direction of an auxiliary view has turned in the plane of the view it hangs on, radians.
double turnOf(const Figure& f, const FigureView& v, const std::vector<double>& x) {
    if (v.from < 0) return 0;
    const auto direction = [&](const std::vector<double>& values) {
        return f.at(f.points[v.to], values) - f.at(f.points[v.from], values);
    };
    const Vec2 was = direction(f.drawn), is = direction(x);
    return std::atan2(cross(was, is), dot(was, is));
}

} // namespace

ViewFrame frameOf(const Figure& f, const FigureView& v, const std::vector<double>& x) {
    ViewFrame r{v.right, v.up, v.look, {}};
    if (v.square) return r;
    const ViewAxes& on = f.viewById(v.on)->axes;
    const double turn = turnOf(f, v, x);
    const auto turned = [&](Vec3 d) {
        const Vec2 in{dot(d, unitOf(on.right)), dot(d, unitOf(on.up))}, c = direction(turn);
        return (in.x * c.x - in.y * c.y) * unitOf(on.right) + (in.x * c.y + in.y * c.x) * unitOf(on.up);
    };
    r.right = turned(r.right), r.look = turned(r.look);
    if (v.from < 0) return r;
    const FigurePoint& a = f.points[v.from];
    const Vec2 at = f.at(a, x);
    r.shift.x =
        x[f.shadows.at({v.view, v.from})] - dot(at.x * unitOf(on.right) + at.y * unitOf(on.up), r.right);
    return r;
}

Affine2 ontoSheet(const Figure& f, const FigureView& v, const std::vector<double>& x) {
    const Affine2 back = v.to_model.inverse();
    if (v.square || v.from < 0) return back;
    // Turned on the sheet about the place where its own axis begins, as the view it hangs on is turned.
    const Affine2& on = f.viewById(v.on)->to_model;
    const double turn = turnOf(f, v, x) * (on.determinant() < 0 ? -1 : 1);
    const Vec2 pivot = back({x[f.shadows.at({v.view, v.from})], v.box.centre().y});
    return Affine2::shift(pivot) * Affine2::rotation(turn) * Affine2::shift(-pivot) * back;
}

Warp::Warp(const Figure& f, int view) {
    for (const Mark& m : f.marks) {
        if (m.view != view) continue;
        const ViewAxes& axes = f.viewById(view)->axes;
        if (m.axis == axes.right || m.axis == axes.up)
            (m.axis == axes.right ? u_ : v_).emplace_back(m.value, f.value(m.terms, f.now));
    }
    for (auto* s : {&u_, &v_}) {
        std::sort(s->begin(), s->end());
        s->erase(std::unique(s->begin(), s->end(), [](auto& a, auto& b) { return b.first - a.first < 1e-6; }),
                 s->end());
    }
}

Hanging hangingNow(const Figure& f, const View& v) {
    Hanging h = *v.hanging;
    const FigureView* fv = f.viewById(v.id);
    if (!fv || f.now == f.drawn) return h;
    const Warp on(f, h.on);
    if (h.flat()) {
        const Vec2 shift = on((h.from + h.to) * 0.5) - (h.from + h.to) * 0.5;
        h.from = h.from + shift, h.to = h.to + shift;
        return h;
    }
    const double turn = turnOf(f, *fv, f.now);
    h.look = Affine2::rotation(turn).linear(h.look);
    if (fv->square || fv->from < 0) {
        h.from = on(h.from), h.to = on(h.to);
        for (Segment& l : h.legs) l = {on(l.a), on(l.b)};
        return h;
    }
    const FigurePoint& pivot = f.points[fv->from];
    const Vec2 was = f.at(pivot, f.drawn), is = f.at(pivot, f.now);
    for (Vec2* p : {&h.from, &h.to}) *p = is + Affine2::rotation(turn).linear(*p - was);
    h.own = Affine2::shift(-frameOf(f, *fv, f.now).shift) * ontoSheet(f, *fv, f.now).inverse();
    return h;
}

namespace {

double carry(const std::vector<std::pair<double, double>>& s, double x) {
    if (s.empty()) return x;
    if (x <= s.front().first) return x + s.front().second - s.front().first;
    if (x >= s.back().first) return x + s.back().second - s.back().first;
    const auto hi = std::lower_bound(s.begin(), s.end(), std::make_pair(x, -1e300));
    const auto lo = hi - 1;
    const double t = (x - lo->first) / (hi->first - lo->first);
    return lo->second + t * (hi->second - lo->second);
}

} // namespace

Vec2 Warp::operator()(Vec2 p) const {
    return {carry(u_, p.x), carry(v_, p.y)};
}

} // namespace prism
