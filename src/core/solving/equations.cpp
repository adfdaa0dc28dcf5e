#include "core/base/geometry.h"
#include "core/solving/system.h"

namespace prism {
namespace {

class Gradient {
  public:
    explicit Gradient(std::vector<Term>* out) : out_(out) {}
    void add(int variable, double factor) {
        if (!out_ || factor == 0) return;
        for (Term& t : *out_)
            if (t.variable == variable) {
                t.factor += factor;
                return;
            }
        out_->push_back({variable, factor});
    }
    void addPoint(int vx, int vy, Vec2 factor) { add(vx, factor.x), add(vy, factor.y); }

  private:
    std::vector<Term>* out_;
};

Vec2 normal(Vec2 v) {
    return {-v.y, v.x};
}

double wrapped(double a) {
    return std::remainder(a, 2 * kPi);
}

} // namespace

Equation Equation::linearOf(Level level, const std::vector<Term>& terms, double value) {
    Equation e;
    e.level = level;
    e.value = value;
    for (const Term& t : terms) { // one term a variable, so that x - x vanishes
        bool merged = false;
        for (Term& o : e.terms)
            if (o.variable == t.variable) o.factor += t.factor, merged = true;
        if (!merged) e.terms.push_back(t);
    }
    std::erase_if(e.terms, [](const Term& t) { return t.factor == 0; });
    return e;
}

double evaluate(const Equation& e, const std::vector<double>& x, std::vector<Term>* gradient) {
    Gradient g(gradient);
    auto point = [&](int i) { return Vec2{x[e.v[2 * i]], x[e.v[2 * i + 1]]}; };
    auto give = [&](int i, Vec2 f) { g.addPoint(e.v[2 * i], e.v[2 * i + 1], f); };
    switch (e.kind) {
    case EquationKind::linear: {
        double sum = -e.value;
        for (const Term& t : e.terms) sum += t.factor * x[t.variable], g.add(t.variable, t.factor);
        return sum;
    }
    case EquationKind::point_on_circle: {
        const Vec2 d = point(0) - point(1), u = normalized(d);
        give(0, u), give(1, -u), g.add(e.v[4], -1);
        return length(d) - x[e.v[4]];
    }
    case EquationKind::point_on_ellipse: {
        // As far off as the place would be on a circle of their mean size.
        const double a = std::max(x[e.v[4]], 1e-12), b = std::max(x[e.v[5]], 1e-12), mean = std::sqrt(a * b);
        const Vec2 d = point(0) - point(1), q{d.x / a, d.y / b};
        const double r = std::max(length(q), 1e-12);
        const Vec2 by{mean * q.x / (r * a), mean * q.y / (r * b)};
        give(0, by), give(1, -by);
        g.add(e.v[4], -mean * q.x * q.x / (r * a) + 0.5 * mean / a * (r - 1));
        g.add(e.v[5], -mean * q.y * q.y / (r * b) + 0.5 * mean / b * (r - 1));
        return mean * (r - 1);
    }
    case EquationKind::radius_square: {
        const Vec2 r = point(0) - point(1), t = point(2) - point(0);
        const double l = std::max(length(t), 1e-12);
        give(0, (t - r) * (1 / l)), give(1, -t * (1 / l)), give(2, r * (1 / l));
        return dot(r, t) / l;
    }
    case EquationKind::collinear: {
        const Vec2 a = point(1) - point(0), b = point(2) - point(0);
        const double l = std::max(length(b), 1e-12);
        give(0, (normal(a) - normal(b)) * (-1 / l)), give(1, -normal(b) * (1 / l)),
            give(2, normal(a) * (1 / l));
        return cross(a, b) / l;
    }
    case EquationKind::distance: {
        const Vec2 d = point(1) - point(0), u = normalized(d);
        give(0, -u), give(1, u);
        return length(d) - e.value;
    }
    case EquationKind::angle: {
        const Vec2 a = point(1) - point(0), b = point(3) - point(2);
        const Vec2 ga = normal(a) * (1 / std::max(dot(a, a), 1e-18)),
                   gb = normal(b) * (1 / std::max(dot(b, b), 1e-18));
        give(0, ga), give(1, -ga), give(2, -gb), give(3, gb);
        return wrapped(angleOf(b) - angleOf(a) - e.value);
    }
    case EquationKind::along: {
        const Vec2 p = point(0) - point(1), b = point(2) - point(1), u = normalized(b);
        const Vec2 turned = (p - u * dot(p, u)) * (1 / std::max(length(b), 1e-12));
        give(0, u), give(1, -u - turned), give(2, turned);
        g.add(e.v[6], -1), g.add(e.v[7], 1);
        return dot(p, u) - (x[e.v[6]] - x[e.v[7]]);
    }
    case EquationKind::foreshortened: {
        const Vec2 d = point(1) - point(0);
        const double l = std::max(length(d), 1e-12), share = std::abs(d.x) / l, r = x[e.v[5]];
        const Vec2 by{-r * (d.x < 0 ? -1 : 1) * d.y * d.y / (l * l * l),
                      r * std::abs(d.x) * d.y / (l * l * l)};
        give(0, -by), give(1, by);
        g.add(e.v[4], 1), g.add(e.v[5], -share);
        return x[e.v[4]] - r * share;
    }
    }
    return 0;
}

} // namespace prism
