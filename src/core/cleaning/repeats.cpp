#include "core/cleaning/carriers.h"
#include "core/cleaning/workbench.h"

#include <map>

namespace prism::cleaning {
namespace {

constexpr double kOneWay =
    2e-5; ///< radians between lines drawn for one; the digits of a file turn short ones

/// A straight line as an interval on its carrier.
struct OnCarrier {
    double from, to;
    Piece piece;
};

/// The line that stands for a run of overlapping ones, and whether a piece lies within it.
struct Run {
    OnCarrier line;
    double to;
};

/// Lines of one carrier that repeat each other. A line by itself is set aside; a span of a polyline is taken
/// out of it once all are known, so that the indices of the others hold until then.
class RepeatedLines {
  public:
    explicit RepeatedLines(Workbench& w) : w_(w) {}

    void run() {
        std::vector<Segment> lines;
        std::vector<Piece> pieces;
        for (const Piece& p : w_.pieces(true))
            if (auto* s = std::get_if<Segment>(&w_.curve(p)); s && distance(s->a, s->b) > w_.touch())
                lines.push_back(*s), pieces.push_back(p);
        for (const std::vector<Lying>& group : parallels(lines, kOneWay))
            for (const std::vector<Lying>& carrier : carriers(group, 20 * w_.touch())) {
                std::map<LineRole, std::vector<OnCarrier>>
                    byRole; // a hidden line over an edge repeats nothing
                for (const Lying& l : carrier)
                    byRole[w_.role(pieces[l.line])].push_back({l.from, l.to, pieces[l.line]});
                for (const auto& [role, row] : byRole) setAsideIn(row);
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
    void setAsideIn(const std::vector<OnCarrier>& row) {
        const double tol = w_.touch();
        Run keep{};
        for (size_t i = 0; i < row.size(); ++i) {
            const OnCarrier& l = row[i];
            if (i == 0 || l.from > keep.to - tol) {
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
    }

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
    std::map<int, std::set<int>> out_; ///< by entity, the spans that go
};

} // namespace

void setRepeatedLinesAside(Workbench& w) {
    RepeatedLines(w).run();
}

} // namespace prism::cleaning
