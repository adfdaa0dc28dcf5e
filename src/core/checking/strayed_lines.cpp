#include "core/base/crossings.h"
#include "core/checking/finding.h"
#include "core/checking/mirror_images.h"
#include "core/checking/view_lines.h"
#include "core/checking/view_values.h"
#include "core/cleaning/stood_for.h"

#include <fmt/format.h>

// Suppositions: lines that end on nothing and would meet others elsewhere, that others would end on
// elsewhere, or that would be the mirror image of another line elsewhere.
namespace prism {
namespace {

using namespace checking;

constexpr size_t kMostDead = 16;  ///< dead ends of a view: with more, it is drawn so
constexpr size_t kMostOfView = 4; ///< moves tried in one view
constexpr int kBothEnds = 2;
constexpr double kAsLong = 0.3;    ///< share by which a line and the image of another may differ in length
constexpr double kFarthest = 0.25; ///< of the size of the part: what stands farther off is another line

/// A line moved square to itself.
struct Move {
    const FigureCurve* line;
    Vec2 by;
    int met;       ///< dead ends of the view that meet something then, or lines that have their mirror image
    Segment there; ///< where it is then
    bool as_image = false; ///< as the mirror image of another line
    bool to_ends = false;  ///< its own ends meet others where it stands
};

class Straying {
  public:
    Straying(const CheckInput& in, const FigureView& v)
        : in_(in), view_(v), tolerance_(sameCoordinate(in.figure)), lines_(in.figure, v.view, tolerance_) {
        for (const FigureCurve* c : lines_.curves())
            if (c->p0 >= 0)
                for (Vec2 p : {startOf(c->drawn), endOf(c->drawn)})
                    if (lines_.isDead(p, *c)) dead_.emplace_back(c, p);
    }

    std::vector<Finding> findings() const {
        std::vector<Finding> r;
        if (dead_.size() > kMostDead) return r;
        std::vector<Move> moves;
        for (const FigureCurve* c : lines_.curves()) {
            const auto* s = std::get_if<Segment>(&c->drawn);
            if (s && standsAlone(*c)) gather(*c, *s, moves);
        }
        std::ranges::stable_sort(moves, [](const Move& a, const Move& b) {
            return a.met != b.met ? a.met > b.met : length(a.by) < length(b.by);
        });
        if (moves.size() > kMostOfView) moves.resize(kMostOfView);
        asImages(moves);
        for (const Move& m : moves) r.push_back(finding(m));
        return r;
    }

  private:
    /// Where two lines have no mirror image: moves that make one the image of the other.
    void asImages(std::vector<Move>& moves) const {
        for (const MirrorLine& m : nearlyMirrored(view_, lines_, tolerance_)) {
            if (m.lines.size() != 2 || m.lines[0].line->role != m.lines[1].line->role) continue;
            for (const auto& [of, other] :
                 {std::pair{m.lines[0], m.lines[1]}, std::pair{m.lines[1], m.lines[0]}}) {
                const auto *s = std::get_if<Segment>(&of.line->drawn),
                           *to = std::get_if<Segment>(&other.image);
                if (!s || !to || !standsAlone(*of.line)) continue;
                // Its ends may have been drawn to what it meets where it stands.
                const Vec2 along = normalized(s->b - s->a), across{-along.y, along.x};
                const double off = dot(to->a - s->a, across), off_end = dot(to->b - s->a, across);
                const double ratio = lengthOf(other.image) / lengthOf(of.line->drawn);
                if (std::abs(off - off_end) <= tolerance_ && std::abs(off) > tolerance_ &&
                    std::abs(off) <= kFarthest * in_.figure.size && std::abs(ratio - 1) <= kAsLong)
                    moves.push_back({of.line, off * across, 2, *to, true});
            }
        }
    }
    /// Whether a line is drawn by itself, not as a piece of a chain.
    bool standsAlone(const FigureCurve& c) const {
        return in_.drawing.entities[static_cast<size_t>(c.entity)].curves.size() == 1;
    }
    /// Moves square to a line that leave no end of it dead.
    void gather(const FigureCurve& c, const Segment& s, std::vector<Move>& moves) const {
        if (distance(s.a, s.b) <= tolerance_) return;
        const Vec2 along = normalized(s.b - s.a), across{-along.y, along.x};
        const double farthest = kFarthest * in_.figure.size;
        const bool dead = std::ranges::any_of(dead_, [&](const auto& d) { return d.first == &c; });
        std::vector<double> by;
        if (!dead) // only to where others end
            for (const auto& [line, end] : dead_) by.push_back(dot(end - s.a, across));
        for (Vec2 e : {s.a, s.b}) {
            if (!dead) break;
            const Curve way = Segment{e - farthest * across, e + farthest * across};
            for (const FigureCurve* o : lines_.curves()) {
                if (o == &c) continue;
                for (Vec2 p : {startOf(o->drawn), endOf(o->drawn)})
                    if (o->p0 >= 0 && std::abs(dot(p - e, along)) <= tolerance_)
                        by.push_back(dot(p - e, across));
                for (Vec2 p : crossings(way, o->drawn, tolerance_)) by.push_back(dot(p - e, across));
            }
        }
        std::ranges::sort(by);
        double last = std::numeric_limits<double>::quiet_NaN();
        for (double d : by) {
            if (std::abs(d) <= tolerance_ || std::abs(d) > farthest || std::abs(d - last) <= tolerance_)
                continue;
            last = d;
            // Of ends that only await another line, as where one is lacking, no more than two speak for a
            // move.
            const int all = meets(c, s, d * across), met = dead ? all : std::min(all, kBothEnds);
            if (met >= (dead ? 1 : kBothEnds))
                moves.push_back({&c, d * across, met, {s.a + d * across, s.b + d * across}, false, !dead});
        }
    }

    /// How many dead ends of the view a move takes away; 0 when an end of the line is still dead, or when the
    /// line would lie on another one.
    int meets(const FigureCurve& c, const Segment& s, Vec2 by) const {
        FigureCurve moved = c;
        moved.drawn = Segment{s.a + by, s.b + by};
        const auto met = [&](Vec2 p) {
            return std::ranges::any_of(
                lines_.curves(), [&](const FigureCurve* o) { return o != &c && lines_.touches(p, *o); });
        };
        if (!met(s.a + by) || !met(s.b + by) || met(pointAt(moved.drawn, 0.37))) return 0;
        int r = 0;
        for (const auto& [line, end] : dead_) r += line == &c || lines_.touches(end, moved);
        return r;
    }

    Finding finding(const Move& m) const {
        const Entity& e = in_.drawing.entities[static_cast<size_t>(m.line->entity)];
        const Affine2 back = view_.to_model.inverse();
        const Curve there = transformed(m.there, back);
        const double far = length(m.by);
        Finding f;
        f.kind = "position_mismatch";
        f.severity = Severity::error;
        f.views = {view_.view};
        f.entities = {e.id}, f.handles = {e.handle};
        f.at_sheet = {back(pointAt(m.line->drawn, 0.5))};
        f.numbers = {{"shift", far},
                     {"length", lengthOf(m.line->drawn)},
                     {m.as_image ? "images" : "ends", double(m.met)}};
        const double is_long = lengthOf(m.line->drawn);
        f.message =
            m.as_image
                ? fmt::format("A line of {:.2f} mm in the {} view stands {:.2f} mm from where it would be "
                              "the mirror image of another",
                              is_long, nameOf(view_.name), far)
            : m.to_ends
                ? fmt::format("A line of {:.2f} mm in the {} view stands {:.2f} mm from where {} others "
                              "end on nothing",
                              is_long, nameOf(view_.name), far, m.met)
                : fmt::format("A line of {:.2f} mm in the {} view ends on nothing: it stands {:.2f} mm "
                              "from where others end that it would meet",
                              is_long, nameOf(view_.name), far);
        Change c;
        c.lines = {{MarkedLine::Kind::reshape, keyOf(e), {transformed(there, in_.sheet.to_file)}}};
        takeOffStoodFor(in_.sheet, {e.id}, c.lines);
        f.remedies = {{"move_line", fmt::format("Move the line by {:.2f} mm", far), "", std::move(c)}};
        return f;
    }

    const CheckInput& in_;
    const FigureView& view_;
    double tolerance_;
    ViewLines lines_;
    std::vector<std::pair<const FigureCurve*, Vec2>> dead_;
};

} // namespace

std::vector<Finding> strayedLines(const CheckInput& in, Progress& progress) {
    std::vector<Finding> r;
    for (const FigureView& v : in.figure.views) {
        if ((!v.principal() && v.shows != Shows::cut) || progress.cancelled()) continue;
        for (Finding& f : Straying(in, v).findings()) r.push_back(std::move(f));
    }
    return r;
}

} // namespace prism
