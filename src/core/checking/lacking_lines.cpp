#include "core/base/cover.h"
#include "core/base/crossings.h"
#include "core/checking/mirror_images.h"
#include "core/checking/moving.h"
#include "core/checking/view_lines.h"
#include "core/checking/view_values.h"

#include <fmt/format.h>

// Suppositions: lines that a view may lack.
namespace prism {
namespace {

using namespace checking;

constexpr size_t kMostLines = 400;      ///< of a figure: with more, no solid could tell which line is lacking
constexpr size_t kMostEnds = 6;         ///< dead ends of a view: with more, it is drawn so
constexpr size_t kMostOfView = 12;      ///< lines supposed in one view
constexpr size_t kMostWithoutImage = 8; ///< lines of a view that is its own mirror image but for them
constexpr size_t kMostUnmatched = 4;    ///< coordinates of a neighbour that a view does not have
constexpr double kShortest = 20;        ///< times the tolerance

/// The lines of one view, in its coordinates.
class OneView {
  public:
    OneView(const CheckInput& in, const AreaSets& areas, const FigureView& v, std::vector<Finding>& out)
        : in_(in), areas_(areas), view_(v), out_(out), tolerance_(sameCoordinate(in.figure)),
          lines_(in.figure, v.view, tolerance_), dead_(deadEnds()) {}

    /// Between ends of the outline that meet nothing, and from such an end straight on to what it comes to.
    void atDeadEnds() {
        if (dead_.empty() || dead_.size() > kMostEnds) return;
        for (size_t i = 0; i < dead_.size(); ++i)
            for (size_t j = 0; j < i; ++j) open(dead_[j], dead_[i]);
        for (Vec2 e : dead_)
            for (Vec2 way : {Vec2{1, 0}, Vec2{-1, 0}, Vec2{0, 1}, Vec2{0, -1}})
                if (const auto to = next(e, way)) open(e, *to);
    }

    /// Through ends that meet nothing, between coordinates of a neighbour that nothing here answers: where a
    /// line runs smoothly into a round one there, it ends without meeting anything here.
    void throughDeadEnds(Axis axis, const std::vector<Unmatched>& between) {
        const bool level = view_.axes.right == axis;
        if (dead_.size() > kMostEnds) return;
        const auto along = [&](Vec2 p) { return level ? p.x : p.y; };
        for (size_t i = 0; i < between.size(); ++i)
            for (size_t j = 0; j < i; ++j)
                for (Vec2 e : dead_) {
                    const auto [lo, hi] = std::minmax(between[i].value, between[j].value);
                    if (along(e) <= lo + tolerance_ || along(e) >= hi - tolerance_) continue;
                    open(level ? Vec2{lo, e.y} : Vec2{e.x, lo}, level ? Vec2{hi, e.y} : Vec2{e.x, hi});
                }
    }

    /// Along a coordinate that a neighbour shows, between the lines that cross it.
    void along(const View& neighbour, Axis axis, double at) {
        const bool upright = view_.axes.right == axis;
        const std::vector<double> met = metAlong(upright, at);
        const auto place = [&](double x) { return upright ? Vec2{at, x} : Vec2{x, at}; };
        const auto lacks = [&](size_t i, size_t j) {
            for (LineRole role : {LineRole::outline, LineRole::hidden})
                propose(Segment{place(met[i]), place(met[j])}, role, "feature_unmatched", [&](double) {
                    return fmt::format(
                        "The {} view lacks a line at {} = {:.2f} mm, where the {} view shows an edge",
                        nameOf(view_.name), nameOf(axis), at, nameOf(neighbour.role));
                });
        };
        for (size_t i = 0; i + 1 < met.size(); ++i) lacks(i, i + 1);
        if (met.size() > 2) lacks(0, met.size() - 1);
    }

    /// On from a level or upright line that borders no area, and across a centre line from it, between what
    /// else stands there: the outline is open although all ends meet something.
    void besideOpenLines() {
        for (const FigureCurve* c : lines_.curves()) {
            const auto* s = std::get_if<Segment>(&c->drawn);
            if (!s || c->role != LineRole::outline || bordersArea(*c)) continue;
            const bool upright = std::abs(s->a.x - s->b.x) <= tolerance_;
            if (!upright && std::abs(s->a.y - s->b.y) > tolerance_) continue;
            const double own = upright ? s->a.x : s->a.y;
            std::vector<double> levels{own};
            for (const double axis : centreLines(upright)) levels.push_back(2 * axis - own);
            for (const double at : levels) {
                const auto met = metAlong(upright, at);
                const auto place = [&](double x) { return upright ? Vec2{at, x} : Vec2{x, at}; };
                for (size_t i = 0; i + 1 < met.size(); ++i) open(place(met[i]), place(met[i + 1]), 1);
            }
        }
    }

    /// The mirror image about a centre line of what ends where an end that meets nothing has its own image.
    void imagesAtDeadEnds() {
        if (dead_.size() > kMostEnds) return;
        for (const bool upright : {true, false})
            for (const double axis : centreLines(upright)) {
                const Affine2 mirror =
                    upright ? Affine2{-1, 0, 0, 1, 2 * axis, 0} : Affine2{1, 0, 0, -1, 0, 2 * axis};
                for (const Vec2 end : dead_)
                    for (const FigureCurve* c : lines_.curves()) {
                        const Vec2 there = mirror(end);
                        if (c->p0 < 0 || (distance(startOf(c->drawn), there) > tolerance_ &&
                                          distance(endOf(c->drawn), there) > tolerance_))
                            continue;
                        const Curve image = transformed(c->drawn, mirror);
                        propose(image, c->role, "outline_open", [&](double length) {
                            return imageLacks(upright, axis, length) +
                                   ", which would meet a line that ends on nothing";
                        });
                    }
            }
    }

    /// The mirror images of a line or two, where all others of the view have theirs; of several, as beside a
    /// keyway, only those that lead on from an open line.
    void mirrorImages() {
        for (const MirrorLine& m : nearlyMirrored(view_, lines_, tolerance_, kMostWithoutImage))
            for (const WithoutImage& l : m.lines) {
                if (m.lines.size() > kFewWithoutImage && !leadsOn(l.image)) continue;
                propose(
                    l.image, l.line->role, "feature_unmatched",
                    [&](double length) { return imageLacks(m.upright, m.at, length); }, 1);
            }
    }

  private:
    std::vector<Vec2> deadEnds() const {
        std::vector<Vec2> r;
        for (const FigureCurve* c : lines_.curves()) {
            if (c->role != LineRole::outline || c->p0 < 0) continue;
            for (Vec2 p : {startOf(c->drawn), endOf(c->drawn)})
                if (lines_.isDead(p, *c)) r.push_back(p);
        }
        return r;
    }
    /// Where centre lines of the view stand that run upright, or level.
    std::vector<double> centreLines(bool upright) const {
        const View& v = in_.views.views[static_cast<size_t>(view_.view)];
        std::vector<double> r;
        for (const int e : v.centre_lines)
            for (const Curve& c : in_.drawing.entities[static_cast<size_t>(e)].curves) {
                const Curve here = transformed(c, view_.to_model);
                const auto* s = std::get_if<Segment>(&here);
                if (!s) continue;
                const Vec2 v = s->b - s->a;
                if (std::abs(upright ? v.x : v.y) <= tolerance_) r.push_back(upright ? s->a.x : s->a.y);
            }
        return r;
    }
    bool bordersArea(const FigureCurve& c) const {
        const auto index = static_cast<int>(&c - in_.figure.curves.data());
        return std::ranges::any_of(areas_.drawn, [&](const ClosedArea& a) {
            return a.view == view_.view && std::ranges::binary_search(a.bounds, index);
        });
    }
    /// Whether a curve ends where an outline does that borders no area.
    bool leadsOn(const Curve& image) const {
        return std::ranges::any_of(lines_.curves(), [&](const FigureCurve* c) {
            if (c->role != LineRole::outline || c->p0 < 0 || bordersArea(*c)) return false;
            for (const Vec2 p : {startOf(c->drawn), endOf(c->drawn)})
                for (const Vec2 q : {startOf(image), endOf(image)})
                    if (distance(p, q) <= tolerance_) return true;
            return false;
        });
    }
    /// What of a supposed line is not drawn; none where that is nothing, or several pieces.
    std::optional<Curve> undrawn(const Curve& line) const {
        std::vector<const Curve*> drawn;
        for (const FigureCurve* c : lines_.curves()) drawn.push_back(&c->drawn);
        const auto gaps = uncovered(line, drawn, tolerance_);
        if (gaps.size() != 1) return std::nullopt;
        return part(line, gaps[0].from, gaps[0].to);
    }
    /// Where the lines of the view meet a level or upright one from end to end of it.
    std::vector<double> metAlong(bool upright, double at) const {
        const Box2& b = view_.box;
        const Curve chord =
            upright ? Segment{{at, b.lo.y}, {at, b.hi.y}} : Segment{{b.lo.x, at}, {b.hi.x, at}};
        std::vector<double> met;
        for (const FigureCurve* c : lines_.curves())
            for (Vec2 p : crossings(chord, c->drawn, tolerance_)) met.push_back(upright ? p.y : p.x);
        std::ranges::sort(met);
        met.erase(
            std::unique(met.begin(), met.end(), [&](double x, double y) { return y - x <= tolerance_; }),
            met.end());
        return met;
    }
    /// How many ends that meet nothing would meet a line.
    std::ptrdiff_t endsOn(const Curve& s) const {
        return std::ranges::count_if(dead_, [&](Vec2 e) { return distanceTo(s, e) <= tolerance_; });
    }
    std::optional<Vec2> next(Vec2 from, Vec2 way) const {
        const double far = view_.box.width() + view_.box.height();
        const Curve ray = Segment{from + (kShortest * tolerance_) * way, from + far * way};
        std::optional<Vec2> nearest;
        for (const FigureCurve* c : lines_.curves()) {
            if (lines_.touches(from + (0.5 * kShortest * tolerance_) * way, *c))
                return std::nullopt; // drawn already
            for (Vec2 p : crossings(ray, c->drawn, tolerance_))
                if (!nearest || distance(from, p) < distance(from, *nearest)) nearest = p;
        }
        return nearest;
    }
    std::string imageLacks(bool upright, double axis, double length) const {
        return fmt::format("The {} view lacks the mirror image of a line of {:.2f} mm about {} = {:.2f} mm",
                           nameOf(view_.name), length, nameOf(upright ? view_.axes.right : view_.axes.up),
                           axis);
    }
    /// `lines`: how many that border no area may do so then.
    void open(Vec2 a, Vec2 b, int lines = 0) {
        // Within an area that closes without it, it is an edge that is lacking.
        const bool within = std::ranges::any_of(areas_.drawn, [&](const ClosedArea& x) {
            return x.view == view_.view && x.contains(0.5 * (a + b));
        });
        const auto told = [&](double length) {
            return within ? fmt::format("The {} view lacks a line of {:.2f} mm that the other views ask for",
                                        nameOf(view_.name), length)
                          : fmt::format("The outline of the {} view is open: a line of {:.2f} mm is lacking",
                                        nameOf(view_.name), length);
        };
        propose(Segment{a, b}, LineRole::outline, within ? "feature_unmatched" : "outline_open", told, 0,
                within ? 0 : lines);
    }
    /// Of a line across a view that is drawn by half only what lies on that half: the rest is added with it.
    Curve withinDrawn(const Curve& line) const {
        const auto* s = std::get_if<Segment>(&line);
        if (!s || !in_.sheet.without_halves) return line;
        Box2 half;
        for (const Entity* e : drawnOf(in_, in_.views.views[static_cast<size_t>(view_.view)].entities))
            for (const Curve& c : e->curves) half.add(boxOf(transformed(c, view_.to_model)));
        const auto clamped = [&](Vec2 p) {
            return Vec2{std::clamp(p.x, half.lo.x, half.hi.x), std::clamp(p.y, half.lo.y, half.hi.y)};
        };
        const Segment r{clamped(s->a), clamped(s->b)};
        return length(r.b - r.a) > tolerance_ ? r : *s;
    }
    /// `told`: what is said of a line of some length, mm. `images`: how many lines have their mirror image
    /// then; `lines`: how many may border an area.
    void propose(const Curve& supposed, LineRole role, const char* kind,
                 const std::function<std::string(double)>& told, int images = 0, int lines = 0) {
        if (lengthOf(supposed) < kShortest * tolerance_ || ++proposed_ > kMostOfView) return;
        const std::optional<Curve> lacking = undrawn(supposed);
        if (!lacking || lengthOf(*lacking) < kShortest * tolerance_) return;
        const Curve& line = *lacking;
        const Vec2 middle = pointAt(line, 0.5);
        Finding f;
        f.kind = kind, f.severity = Severity::error, f.message = told(lengthOf(line));
        f.views = {view_.view};
        const Affine2 back = view_.to_model.inverse();
        f.at_sheet = {back(startOf(line)), back(middle), back(endOf(line))};
        f.numbers = {{"length", lengthOf(line)}, {"ends", static_cast<double>(endsOn(line) + lines)}};
        if (images > 0) f.numbers["images"] = images;
        MarkedLine added{MarkedLine::Kind::add,
                         "",
                         {transformed(transformed(withinDrawn(line), back), in_.sheet.to_file)}};
        added.role = role;
        Change c;
        c.lines = {std::move(added)};
        f.remedies = {{"add_line", role == LineRole::hidden ? "Draw the hidden line" : "Draw the line", "",
                       std::move(c)}};
        out_.push_back(std::move(f));
    }

    const CheckInput& in_;
    const AreaSets& areas_;
    const FigureView& view_;
    std::vector<Finding>& out_;
    double tolerance_;
    ViewLines lines_;
    std::vector<Vec2> dead_;
    size_t proposed_ = 0;
};

} // namespace

std::vector<Finding> lackingLines(const CheckInput& in, Progress& progress) {
    std::vector<Finding> r;
    if (in.figure.curves.size() > kMostLines) return r;
    const AreaSets areas(in.figure, progress);
    for (const FigureView& v : in.figure.views) {
        if ((!v.principal() && v.shows != Shows::cut) || progress.cancelled()) continue;
        OneView view(in, areas, v, r);
        struct Lacking {
            const View* neighbour;
            Axis axis;
            std::vector<Unmatched> values;
        };
        std::vector<Lacking> lacking;
        for (const Tie& t : in.views.ties) {
            if (t.a != v.view && t.b != v.view) continue;
            const int other = t.a == v.view ? t.b : t.a;
            auto values = unmatchedIn(in, other, v.view, t.axis);
            if (values.size() <= kMostUnmatched)
                lacking.push_back({&in.views.views[static_cast<size_t>(other)], t.axis, std::move(values)});
        }
        for (const Lacking& l : lacking) view.throughDeadEnds(l.axis, l.values);
        view.atDeadEnds();
        view.imagesAtDeadEnds();
        view.mirrorImages();
        view.besideOpenLines();
        for (const Lacking& l : lacking)
            for (const Unmatched& u : l.values) view.along(*l.neighbour, l.axis, u.value);
    }
    return r;
}

} // namespace prism
