#include "core/checking/closing_dimensions.h"

#include "core/marking/dimensioning.h"

#include <fmt/format.h>

namespace prism {
namespace {

constexpr double kBetweenLines = 2.8; ///< of dimensions beside each other, heights of their numbers

/// Digits after the point that a number needs, up to four.
int digitsOf(double x) {
    double scale = 1;
    for (int d = 0; d < 4; ++d, scale *= 10)
        if (std::abs(x * scale - std::round(x * scale)) < 1e-4 * scale) return d;
    return 4;
}

/// What speaks against a number: people choose round ones.
double unlikely(double x) {
    switch (digitsOf(x)) {
    case 0:
        return std::fmod(std::round(x), 5) == 0 ? 0 : 0.4;
    case 1:
        return 1.5;
    case 2:
        return 4;
    default:
        return 7;
    }
}

} // namespace

void closeRound(const CheckInput& in, OpenSize& o, const FigureCurve& c) {
    const FigureView& v = *in.figure.viewById(c.view);
    const Curve on_sheet = transformed(c.drawn, v.to_model.inverse());
    const Arc& a = std::get<Arc>(on_sheet);
    const Vec2 out = a.full() ? direction(kPi / 4) : normalized(pointAt(on_sheet, 0.5) - a.centre);
    if (const auto d = roundDimension(on_sheet, a.centre + 1.4 * a.radius * out, a.full()))
        o.closes = transformed(*d, in.sheet.to_file);
    o.value = (a.full() ? 2 : 1) * std::get<Arc>(c.drawn).radius;
    o.round = digitsOf(o.value / in.views.unit.mm) <= 1;
    o.places = {pointAt(on_sheet, 0.5)};
}

ClosingDimensions::ClosingDimensions(const CheckInput& in, const LayingChoice& how) : in_(in), how_(how) {
    if (!in.drawing.dimensions.empty()) letter_ = in.drawing.dimensions.front().text_height;
}

double ClosingDimensions::datumOf(const OpenSize& o, bool right) const {
    const FigureView& v = *in_.figure.viewById(o.view);
    double lo = right ? v.box.lo.x : v.box.lo.y, hi = right ? v.box.hi.x : v.box.hi.y;
    if (!v.square) return lo;
    for (const Mark& m : in_.figure.marks)
        if (m.axis == o.axis) lo = std::min(lo, m.value), hi = std::max(hi, m.value);
    const Datum d = how_.datum[static_cast<size_t>(o.axis)];
    return d == Datum::low ? lo : d == Datum::high ? hi : 0.5 * (lo + hi);
}

std::string ClosingDimensions::wordsFor(const OpenSize& o, bool right, double value) const {
    const FigureView& v = *in_.figure.viewById(o.view);
    const double lo = right ? v.box.lo.x : v.box.lo.y, hi = right ? v.box.hi.x : v.box.hi.y,
                 tol = 4 * in_.figure.tolerances.same_model;
    constexpr std::array ends{std::pair{"the left end", "the right end"},
                              std::pair{"the front end", "the rear end"},
                              std::pair{"the lower end", "the upper end"}};
    const auto& of_axis = ends[static_cast<size_t>(o.axis)];
    if (v.square && std::abs(value - lo) <= tol) return of_axis.first;
    if (v.square && std::abs(value - hi) <= tol) return of_axis.second;
    const bool centre = std::ranges::any_of(in_.figure.curves, [&](const FigureCurve& c) {
        const auto* a = std::get_if<Arc>(&c.drawn);
        return a && a->full() && c.view == o.view &&
               std::abs((right ? a->centre.x : a->centre.y) - value) <= tol;
    });
    return fmt::format("the {} at {:.6g}", centre ? "centre" : "line", value / in_.views.unit.mm);
}

std::vector<ClosingDimensions::Place>
ClosingDimensions::placesToCountFrom(const OpenSize& o, bool right,
                                     const std::function<bool(int)>& known) const {
    const Figure& f = in_.figure;
    const double tol = 4 * f.tolerances.same_model, datum = datumOf(o, right);
    std::vector<Place> r;
    for (const bool all : {false, true}) { // in a view of which nothing is known, from what is there
        for (const FigureCurve& c : f.curves)
            for (const int p : {c.p0, c.p1, c.centre}) {
                if (p < 0 || c.view != o.view || c.freehand) continue;
                const FigurePoint& q = f.points[static_cast<size_t>(p)];
                const Vec2 at = f.at(q, f.drawn);
                const double value = right ? at.x : at.y;
                if (std::abs(value - o.at) <= tol || !(all || known(right ? q.u : q.v))) continue;
                r.push_back({at, value, 0});
            }
        if (!r.empty()) break;
    }
    std::ranges::stable_sort(r, {}, [&](const Place& p) { return std::abs(p.value - o.at); });
    int steps = -1;
    double last = std::numeric_limits<double>::quiet_NaN();
    for (Place& p : r) {
        if (!(std::abs(p.value - last) <= tol)) ++steps, last = p.value;
        p.cost = unlikely(std::abs(p.value - o.at) / in_.views.unit.mm);
        const bool at_datum = std::abs(p.value - datum) <= tol;
        if (how_.laying == Laying::chain)
            p.cost += 0.8 * steps;
        else if (!at_datum)
            p.cost += 3 + std::abs(p.value - datum) / f.size;
    }
    return r;
}

double ClosingDimensions::room(int view, Vec2 out) const {
    const Vec2 side{-out.y, out.x};
    const auto extent = [](const Box2& b, Vec2 way) {
        const double at = dot(b.centre(), way),
                     half = 0.5 * (std::abs(b.width() * way.x) + std::abs(b.height() * way.y));
        return std::pair{at - half, at + half};
    };
    const Box2& own = in_.views.views[static_cast<size_t>(view)].box_sheet;
    double least = std::numeric_limits<double>::infinity();
    for (const View& o : in_.views.views) {
        if (o.id == view || !o.box_sheet.valid()) continue;
        const auto mine = extent(own, side), its = extent(o.box_sheet, side);
        const double gap = extent(o.box_sheet, out).first - extent(own, out).second;
        if (its.first < mine.second && mine.first < its.second && gap > -0.5 * letter_)
            least = std::min(least, gap);
    }
    return least;
}

ClosingDimensions::Beside& ClosingDimensions::beside(int view, bool right) {
    const auto [it, fresh] = beside_.try_emplace({view, right});
    Beside& b = it->second;
    if (!fresh) return b;
    const FigureView& v = *in_.figure.viewById(view);
    const Affine2 back = v.to_model.inverse();
    b.along = normalized(back.linear(right ? Vec2{1, 0} : Vec2{0, 1}));
    b.out = {-b.along.y, b.along.x};
    if (b.out.x + b.out.y > 0) b.out = -b.out; // below the view or at its left, if there is as much room
    if (room(view, -b.out) > room(view, b.out)) b.out = -b.out;
    b.first = -std::numeric_limits<double>::infinity();
    for (const double x : {v.box.lo.x, v.box.hi.x})
        for (const double y : {v.box.lo.y, v.box.hi.y}) b.first = std::max(b.first, dot(back({x, y}), b.out));
    for (int id : in_.views.views[static_cast<size_t>(view)].dimensions) {
        const Dimension& d = in_.drawing.dimensions[static_cast<size_t>(id)];
        if (d.kind == DimensionKind::linear && std::abs(cross(direction(d.angle), b.along)) < 1e-6)
            b.first = std::max(b.first, dot(d.p10, b.out));
    }
    b.first += kBetweenLines * letter_;
    return b;
}

void ClosingDimensions::close(OpenSize& o, size_t index, bool right, Vec2 point,
                              const std::function<bool(int)>& known) {
    const auto places = placesToCountFrom(o, right, known);
    if (places.empty()) return;
    const double least = std::ranges::min_element(places, {}, &Place::cost)->cost;
    const Place* from = nullptr; // of those that count alike, the one that lies nearest across
    for (const Place& p : places)
        if (p.cost <= least + 1e-9)
            if (!from || std::abs(right ? p.at.y - point.y : p.at.x - point.x) <
                             std::abs(right ? from->at.y - point.y : from->at.x - point.x))
                from = &p;
    o.value = std::abs(from->value - o.at);
    o.round = digitsOf(o.value / in_.views.unit.mm) <= 1;
    o.from = wordsFor(o, right, from->value);
    const Affine2 back = in_.figure.viewById(o.view)->to_model.inverse();
    closed_.push_back({index, right, back(from->at), back(point)});
}

AddedDimension ClosingDimensions::placed(const OpenSize& o, Beside& b, Vec2 start, Vec2 to) const {
    AddedDimension d;
    if (how_.laying == Laying::ordinate && in_.figure.viewById(o.view)->square) {
        d.kind = DimensionKind::ordinate, d.angle = std::abs(b.along.x) > std::abs(b.along.y) ? 0 : kPi / 2;
        d.p10 = start, d.p13 = to;
        d.p14 = d.text_at = to + (b.first - dot(to, b.out)) * b.out;
        return d;
    }
    const auto own = std::minmax({dot(to, b.along), dot(start, b.along)});
    const auto free = [&](const auto& line) {
        return std::ranges::none_of(
            line, [&](const auto& s) { return own.first < s.second - 1e-9 && own.second > s.first + 1e-9; });
    };
    auto line = std::ranges::find_if(b.taken, free);
    if (line == b.taken.end()) b.taken.emplace_back(), line = b.taken.end() - 1;
    line->push_back(own);
    const double out = b.first + kBetweenLines * letter_ * static_cast<double>(line - b.taken.begin());
    d.kind = DimensionKind::linear, d.angle = angleOf(b.along);
    d.p13 = start, d.p14 = to;
    d.p10 = to + (out - dot(to, b.out)) * b.out;
    d.text_at = 0.5 * (d.p10 + start + (out - dot(start, b.out)) * b.out);
    return d;
}

void ClosingDimensions::lay(std::vector<OpenSize>& all) {
    std::ranges::stable_sort(closed_, {}, [&](const Closed& c) { return all[c.index].value; });
    for (const Closed& c : closed_) {
        OpenSize& o = all[c.index];
        o.closes = transformed(placed(o, beside(o.view, c.right), c.start, c.to), in_.sheet.to_file);
    }
}

} // namespace prism
