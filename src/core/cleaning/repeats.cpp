#include "core/cleaning/workbench.h"

#include <tuple>

namespace prism::cleaning {
namespace {

/// A straight line as an interval on its carrier, quantised so that equal carriers sort together.
struct OnCarrier {
    long long angle, offset;
    double from, to;
    Piece piece;
    auto key() const { return std::tie(angle, offset); }
};

OnCarrier onCarrier(const Segment& s, Piece piece, double tolerance) {
    Vec2 dir = normalized(s.b - s.a);
    if (dir.x < -1e-12 || (std::abs(dir.x) <= 1e-12 && dir.y < 0)) dir = -dir;
    const Vec2 n{-dir.y, dir.x};
    const double t0 = dot(s.a, dir), t1 = dot(s.b, dir);
    return {std::llround(angleOf(dir) * 1e6), std::llround(dot(s.a, n) / (tolerance * 20)), std::min(t0, t1),
            std::max(t0, t1), piece};
}

/// The line that stands for a run of overlapping ones, and whether a piece lies within it.
struct Run {
    OnCarrier line;
    double to;
};

/// Lines of one carrier that repeat each other. A line by itself is set aside; a span of a polyline is taken
/// out of it once all are known, so that the indices of the others hold until then.
class RepeatedLines {
  public:
    explicit RepeatedLines(Workbench& w) : w_(w) {
        for (const Piece& p : w.pieces(true))
            if (auto* s = std::get_if<Segment>(&w.curve(p)); s && distance(s->a, s->b) > w.touch())
                lines_.push_back(onCarrier(*s, p, w.touch()));
        std::sort(lines_.begin(), lines_.end(), [](const OnCarrier& a, const OnCarrier& b) {
            return std::make_tuple(a.angle, a.offset, a.from, -a.to, a.piece.entity, a.piece.index) <
                   std::make_tuple(b.angle, b.offset, b.from, -b.to, b.piece.entity, b.piece.index);
        });
    }

    void run() {
        const double tol = w_.touch();
        Run keep{};
        for (size_t i = 0; i < lines_.size(); ++i) {
            const OnCarrier& l = lines_[i];
            if (i == 0 || keep.line.key() != l.key() || w_.role(keep.line.piece) != w_.role(l.piece) ||
                l.from > keep.to - tol) {
                keep = {l, l.to};
                continue;
            }
            if (l.to > keep.to + tol) {
                overlap(keep, l);
                continue;
            }
            const bool exact = std::abs(l.from - keep.line.from) <= tol && std::abs(l.to - keep.to) <= tol;
            if (w_.record(kindOf(l.piece, exact ? "duplicate" : "contained"), {l.piece.entity},
                          startOf(w_.curve(l.piece))))
                takeOut(l.piece);
        }
        for (const auto& [entity, spans] : out_) {
            std::vector<Curve> rest;
            const std::vector<Curve>& all = w_.drawing().entities[entity].curves;
            for (size_t k = 0; k < all.size(); ++k)
                if (!spans.contains(static_cast<int>(k))) rest.push_back(all[k]);
            if (rest.empty())
                w_.setAside(entity);
            else
                w_.setCurves(entity, std::move(rest));
        }
    }

  private:
    bool span(Piece p) const { return w_.drawing().entities[p.entity].curves.size() > 1; }
    const char* kindOf(Piece p, const char* single) const { return span(p) ? "polyline_apart" : single; }
    void takeOut(Piece p) { out_[p.entity].insert(p.index); }

    void overlap(Run& keep, const OnCarrier& l) {
        const Segment s = std::get<Segment>(w_.curve(keep.line.piece)),
                      other = std::get<Segment>(w_.curve(l.piece));
        if (!w_.record(kindOf(l.piece, "overlapping"), {keep.line.piece.entity, l.piece.entity}, other.a,
                       keep.to - l.from))
            return;
        const Vec2 dir = normalized(s.b - s.a);
        auto beyond = [&](Vec2 p, Vec2 than) { return dot(p - than, dir) > 0; };
        Segment whole = s;
        for (Vec2 p : {other.a, other.b}) {
            if (beyond(whole.a, p)) whole.a = p;
            if (beyond(p, whole.b)) whole.b = p;
        }
        w_.setCurve(keep.line.piece, whole);
        takeOut(l.piece);
        keep.to = l.to;
    }

    Workbench& w_;
    std::vector<OnCarrier> lines_;
    std::map<int, std::set<int>> out_; ///< by entity, the spans that go
};

void repeatedArcs(Workbench& w) {
    const double tol = w.touch();
    auto q = [&](double v) { return std::llround(v / (tol * 20)); };
    std::map<std::tuple<long long, long long, long long, long long, long long, int>, int> seen;
    for (const Entity& e : w.drawing().entities) {
        if (!w.isPartLine(e.id) || e.curves.size() != 1) continue;
        const auto* a = std::get_if<Arc>(&e.curves[0]);
        if (!a) continue;
        const long long start =
            a->full() ? 0 : std::llround(positiveAngle(a->sweep > 0 ? a->start : a->start + a->sweep) * 1e6);
        const auto key = std::make_tuple(q(a->centre.x), q(a->centre.y), q(a->radius), start,
                                         std::llround(std::abs(a->sweep) * 1e6),
                                         static_cast<int>(w.sheet().entity_roles[e.id]));
        if (seen.emplace(key, e.id).second) continue;
        if (w.record("duplicate", {e.id}, a->centre)) w.setAside(e.id);
    }
}

} // namespace

void setRepeatsAside(Workbench& w) {
    RepeatedLines(w).run();
    repeatedArcs(w);
}

} // namespace prism::cleaning
