#include "core/figure/builder.h"

// What merely agrees as drawn, and gives way to what the numbers say.
namespace prism::figure {
namespace {

constexpr double kSymmetric = 2; ///< score of what lies to both sides of a centre line

/// Arcs, or circles, of one view with one radius; each is tied to the next one only, for equality chains.
void equalRadii(Figure& f) {
    const double tol = f.tolerances.same_model;
    std::vector<int> round;
    for (size_t i = 0; i < f.curves.size(); ++i)
        if (f.curves[i].radius >= 0) round.push_back(static_cast<int>(i));
    auto kind = [&](int i) { return std::pair(f.curves[i].view, f.curves[i].p0 < 0); };
    auto radius = [&](int i) { return f.drawn[f.curves[i].radius]; };
    std::sort(round.begin(), round.end(), [&](int a, int b) {
        return std::tuple(kind(a), radius(a), a) < std::tuple(kind(b), radius(b), b);
    });
    for (size_t i = 0; i < round.size();) { // runs of one radius, in the order of the sheet
        size_t j = i + 1;
        while (j < round.size() && kind(round[j]) == kind(round[i]) &&
               radius(round[j]) - radius(round[i]) <= tol)
            ++j;
        std::sort(round.begin() + static_cast<long>(i), round.begin() + static_cast<long>(j));
        for (size_t k = i + 1; k < j; ++k) {
            const int a = round[k - 1], b = round[k];
            Equation e = Equation::linearOf(Level::weak, {{f.curves[a].radius, 1}, {f.curves[b].radius, -1}});
            e.score = 30; // features of one size; stronger than what stands level by chance
            if (!e.terms.empty()) addRelation(f, e, RelationKind::equal, {a, b});
        }
        i = j;
    }
}

} // namespace

/// A centre line may have lost its curves to a repair, or hold several.
std::vector<Segment> centreSegments(const Drawing& d, const View& v, const FigureView& fv) {
    std::vector<Segment> r;
    for (int line : v.centre_lines)
        for (const Curve& drawn : d.entities[line].curves)
            if (const Curve c = transformed(drawn, fv.to_model); const auto* s = std::get_if<Segment>(&c))
                r.push_back(*s);
    return r;
}

namespace {

/// Lines of a view that run askew to its axes, and parallel or square to each other as drawn, stay so: each
/// is tied to the next one only. Level and upright lines need no such relation.
void squareLines(Figure& f) {
    struct Askew {
        int view;
        double direction; ///< within a quarter turn
        int curve;
    };
    std::vector<Askew> lines;
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        const auto* s = std::get_if<Segment>(&c.drawn);
        if (!s || c.p0 < 0 || f.points[c.p0].u == f.points[c.p1].u || f.points[c.p0].v == f.points[c.p1].v)
            continue;
        lines.push_back(
            {c.view, std::fmod(positiveAngle(angleOf(s->b - s->a)), kPi / 2), static_cast<int>(i)});
    }
    std::sort(lines.begin(), lines.end(), [](const Askew& a, const Askew& b) {
        return std::tie(a.view, a.direction, a.curve) < std::tie(b.view, b.direction, b.curve);
    });
    for (size_t i = 1; i < lines.size(); ++i) {
        const Askew &a = lines[i - 1], &b = lines[i];
        const FigureCurve &ca = f.curves[a.curve], &cb = f.curves[b.curve];
        const double shorter = std::min(lengthOf(ca.drawn), lengthOf(cb.drawn));
        if (a.view != b.view || (b.direction - a.direction) * shorter > f.tolerances.same_model) continue;
        // Each of two chamfers at 45 degrees lies so by itself: that says nothing of the other.
        const bool meet = ca.p0 == cb.p0 || ca.p0 == cb.p1 || ca.p1 == cb.p0 || ca.p1 == cb.p1;
        if (!meet && std::abs(a.direction - kPi / 4) * shorter <= f.tolerances.same_model) continue;
        const FigurePoint &p = f.points[ca.p0], &q = f.points[ca.p1], &r = f.points[cb.p0],
                          &s = f.points[cb.p1];
        Equation e;
        e.kind = EquationKind::angle, e.level = Level::weak, e.score = 20;
        e.v = {p.u, p.v, q.u, q.v, r.u, r.v, s.u, s.v};
        const double drawn = evaluate(e, f.drawn, nullptr);
        e.value = std::round(drawn / (kPi / 2)) * kPi / 2;
        const bool parallel = std::abs(std::remainder(e.value, kPi)) < 0.1;
        addRelation(f, e, parallel ? RelationKind::parallel : RelationKind::perpendicular,
                    {a.curve, b.curve});
    }
}

/// A short line at 45 degrees goes on lying so: that of a chamfer, or the side of a countersink.
void halfSquareLines(Figure& f) {
    constexpr double kLongest = 0.2; // of the size of the part: a longer one lies so by chance
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        const auto* s = std::get_if<Segment>(&c.drawn);
        if (!s || c.p0 < 0) continue;
        const Vec2 d = s->b - s->a;
        if (std::abs(std::abs(d.x) - std::abs(d.y)) > f.tolerances.same_model) continue;
        if (length(d) > kLongest * f.size) continue;
        const FigurePoint &p = f.points[c.p0], &q = f.points[c.p1];
        const double sign = d.x * d.y > 0 ? -1 : 1;
        Equation e = Equation::linearOf(Level::weak, {{q.u, 1}, {p.u, -1}, {q.v, sign}, {p.v, -sign}});
        e.score = 1.5; // what stands level or in the middle counts for more
        if (!e.terms.empty()) addRelation(f, e, RelationKind::half_square, {static_cast<int>(i)});
    }
}

/// A stub of a level or an upright line goes along with the end of it that moves: where the seen part of a
/// line goes over into the hidden one hangs on nothing else, and the stub would be turned round.
void holdStubs(Figure& f) {
    constexpr double kLongest = 0.01, kStub = 0.4; // of the size of the part; weaker than all else
    for (const FigureCurve& c : f.curves) {
        const auto* s = std::get_if<Segment>(&c.drawn);
        if (!s || c.p0 < 0 || length(s->b - s->a) > kLongest * f.size) continue;
        const FigurePoint &p = f.points[c.p0], &q = f.points[c.p1];
        for (const auto& [from, to, along] :
             {std::tuple{p.u, q.u, s->b.x - s->a.x}, std::tuple{p.v, q.v, s->b.y - s->a.y}})
            if ((p.u == q.u || p.v == q.v) && from != to) {
                Equation e = Equation::linearOf(Level::weak, {{to, 1}, {from, -1}}, along);
                e.score = kStub;
                f.equations.push_back(std::move(e));
            }
    }
}

/// Whether what stands at two marks may be each other's mirror image: a plate's side is none of a hole's,
/// which may stand as far off by chance. Both ends of the one are those of the other.
bool mayMirror(const Mark& a, const Mark& b, double tol) {
    const auto common = std::ranges::count_if(a.others, [&](double o) {
        return std::ranges::any_of(b.others, [&](double p) { return std::abs(o - p) <= tol; });
    });
    return common >= std::ssize(a.others) || common >= std::ssize(b.others) || common >= 2;
}

/// Circles that are each other's mirror image stand level with each other as well.
void levelAcross(Figure& f, const Mark& a, const Mark& b, bool upright) {
    const FigureCurve &c = f.curves[static_cast<size_t>(a.curve)],
                      &o = f.curves[static_cast<size_t>(b.curve)];
    const bool centres =
        a.terms.size() == 1 && b.terms.size() == 1 && c.p0 < 0 && o.p0 < 0 && c.centre >= 0 && o.centre >= 0;
    if (!centres) return;
    const FigurePoint &p = f.points[c.centre], &q = f.points[o.centre];
    Equation e = Equation::linearOf(Level::weak, {{upright ? p.v : p.u, 1}, {upright ? q.v : q.u, -1}});
    e.score = kSymmetric;
    if (!e.terms.empty()) addRelation(f, e, RelationKind::symmetric, {a.curve, b.curve});
}

} // namespace

void relateByLooks(const Drawing& d, const ViewSet& set, Figure& f) {
    const double tol = f.tolerances.same_model;
    equalRadii(f);
    squareLines(f);
    halfSquareLines(f);
    holdStubs(f);
    for (const FigureView& fv : f.views)
        for (const Segment& line : centreSegments(d, set.views[fv.view], fv)) {
            const Segment* const s = &line;
            const bool vertical = std::abs(s->a.x - s->b.x) <= tol, level = std::abs(s->a.y - s->b.y) <= tol;
            if (vertical == level) continue;
            const Axis axis = vertical ? fv.axes.right : fv.axes.up;
            const double at = vertical ? s->a.x : s->a.y;
            const double lo = vertical ? std::min(s->a.y, s->b.y) : std::min(s->a.x, s->b.x);
            const double hi = vertical ? std::max(s->a.y, s->b.y) : std::max(s->a.x, s->b.x);
            // Pairs of marks at equal distance on both sides, beside the line; centred on a mark of the axis
            // if any.
            std::vector<const Mark*> near;
            const Mark* middle = nullptr;
            for (const Mark& m : f.marks) {
                if (m.view != fv.view || m.axis != axis) continue;
                if (std::abs(m.value - at) <= tol) middle = middle ? middle : &m;
                for (double o : m.others)
                    if (o >= lo - tol && o <= hi + tol) {
                        near.push_back(&m);
                        break;
                    }
            }
            std::sort(near.begin(), near.end(),
                      [](const Mark* a, const Mark* b) { return a->value < b->value; });
            const Mark *a0 = nullptr, *b0 = nullptr;
            for (const Mark* a : near) {
                if (a->value >= at - tol) break;
                for (const Mark* b : near) {
                    if (std::abs(a->value + b->value - 2 * at) > tol || !mayMirror(*a, *b, tol)) continue;
                    std::vector<Term> terms = a->terms;
                    terms.insert(terms.end(), b->terms.begin(), b->terms.end());
                    if (middle)
                        for (Term t : middle->terms) terms.push_back({t.variable, -2 * t.factor});
                    else if (a0)
                        for (const Mark* o : {a0, b0})
                            for (Term t : o->terms) terms.push_back({t.variable, -t.factor});
                    if (!middle && !a0)
                        a0 = a, b0 = b;
                    else {
                        Equation e = Equation::linearOf(Level::weak, terms);
                        e.score = kSymmetric;
                        if (!e.terms.empty())
                            addRelation(f, e, RelationKind::symmetric, {a->curve, b->curve});
                    }
                    if (a->curve >= 0 && b->curve >= 0) levelAcross(f, *a, *b, vertical);
                    break;
                }
            }
        }
}

namespace {

/// The place from which an axis is counted stays where it is: without it a change would shift the whole part
/// a little. Weak, so that a person may say that this side moves.
void pinDatum(Figure& f, Axis axis, double datum) {
    const Mark* best = nullptr;
    for (const Mark& m : f.marks)
        if (m.axis == axis && std::abs(m.value - datum) <= f.tolerances.same_model &&
            (!best || m.terms.size() < best->terms.size()))
            best = &m;
    if (!best) return;
    Equation e = Equation::linearOf(Level::weak, best->terms, f.value(best->terms, f.drawn));
    e.score = kDatumScore;
    e.owner = static_cast<int>(f.relations.size());
    f.relations.push_back({RelationKind::datum, {best->curve}, axis, datum});
    f.equations.push_back(std::move(e));
}

void hold(Figure& f, int variable, double score) {
    Equation e = Equation::linearOf(Level::weak, {{variable, 1}}, f.drawn[variable]);
    e.score = score;
    f.equations.push_back(std::move(e));
}

/// A round feature keeps its size when it is moved, and its centre when its size is changed, unless anything
/// else speaks against it. The flatter an arc, the less it tells of its radius: many are the usual arcs for
/// the curves in which round faces meet, and yield to the circles of those.
void holdRounds(Figure& f) {
    constexpr double kSize = 0.7, kPlace = 0.5;
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        if (c.radius < 0) continue;
        hold(f, c.radius, kSize);
        if (std::abs(std::get<Arc>(c.drawn).sweep) < kPi - 1e-6) continue; // a fillet's centre may move
        for (int var : {f.points[c.centre].u, f.points[c.centre].v}) hold(f, var, kPlace);
    }
}

} // namespace

void setWeights(Figure& f) {
    holdRounds(f);
    f.weights.assign(f.drawn.size(), 1);
    for (int axis = 0; axis < 3; ++axis) {
        double lo = std::numeric_limits<double>::infinity(), hi = -lo;
        for (const Mark& m : f.marks)
            if (static_cast<int>(m.axis) == axis) lo = std::min(lo, m.value), hi = std::max(hi, m.value);
        double datum = lo;
        for (const FigureCurve& c : f.curves) { // a part of revolution: its centre stays, both sides move
            if (c.radius < 0 || c.p0 >= 0) continue;
            const FigurePoint& p = f.points[c.centre];
            for (int var : {p.u, p.v})
                if (f.axis_of[var] == axis &&
                    std::abs(2 * f.drawn[var] - lo - hi) < f.tolerances.same_model &&
                    std::abs(2 * f.drawn[c.radius] - (hi - lo)) < f.tolerances.same_model)
                    datum = f.drawn[var];
        }
        pinDatum(f, static_cast<Axis>(axis), datum);
        const double reach = std::max({hi - datum, datum - lo, 1e-9});
        for (size_t i = 0; i < f.drawn.size(); ++i)
            if (f.axis_of[i] == axis)
                f.weights[i] = std::pow(10, 4 * (1 - std::abs(f.drawn[i] - datum) / reach));
    }
}

} // namespace prism::figure
