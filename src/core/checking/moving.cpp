#include "core/checking/moving.h"

#include "core/cleaning/stood_for.h"
#include "core/marking/dimensioning.h"

#include <fmt/format.h>

namespace prism::checking {
namespace {

/// Drawing entities of a view, its centre lines with them.
std::vector<const Entity*> linesOf(const CheckInput& in, const View& v) {
    std::vector<int> r = v.entities;
    r.insert(r.end(), v.centre_lines.begin(), v.centre_lines.end());
    return drawnOf(in, r);
}

/// The dimensions of a view that hang on it: what is loose is perhaps where it belongs.
std::vector<const Dimension*> dimensionsOn(const CheckInput& in, const View& v, bool loose) {
    std::vector<const Dimension*> r;
    for (const LedgerEntry& e : in.ledger.entries)
        if (e.view == v.id && (e.state == EntryState::loose) == loose)
            r.push_back(&in.changeable().dimensions[static_cast<size_t>(e.dimension)]);
    return r;
}

/// The lines of a view in its own coordinates, some of which are moved along one axis.
class Stretching {
  public:
    Stretching(const CheckInput& in, const View& v, Axis axis, const std::vector<double>& at, double by)
        : in_(in), view_(v), to_(v.toModel()), k_(axesOf(v.role).right == axis ? 0 : 1), at_(at), by_(by),
          tolerance_(4 * in.figure.tolerances.same_model) {
        std::sort(at_.begin(), at_.end());
    }

    std::optional<Change> change() {
        for (const Entity* e : drawnOf(in_, view_.entities)) take(*e);
        if (bent_) return std::nullopt;
        stretchJoined();
        moveCentreLines();
        Change c;
        for (const auto& [e, curves] : curves_)
            if (moved_.contains(e)) c.lines.push_back(reshaped(e, curves));
        takeOffStoodFor(in_.sheet, {moved_.begin(), moved_.end()}, c.lines);
        for (int d : view_.dimensions) moveDimension(in_.changeable().dimensions[static_cast<size_t>(d)], c);
        return c;
    }

  private:
    double along(Vec2 p) const { return k_ == 0 ? p.x : p.y; }
    double across(Vec2 p) const { return k_ == 0 ? p.y : p.x; }
    Vec2 step() const { return k_ == 0 ? Vec2{by_, 0} : Vec2{0, by_}; }
    bool stands(double x) const {
        const auto it = std::lower_bound(at_.begin(), at_.end(), x - tolerance_);
        return it != at_.end() && *it <= x + tolerance_;
    }
    bool stands(Vec2 p) const { return stands(along(p)); }

    void take(const Entity& e) {
        auto& curves = curves_[e.id];
        for (const Curve& c : e.curves) {
            curves.push_back(transformed(c, to_));
            moveCurve(e.id, curves.back());
        }
    }

    void moveCurve(int e, Curve& c) {
        if (auto* s = std::get_if<Segment>(&c)) {
            for (Vec2* p : {&s->a, &s->b})
                if (stands(*p)) {
                    was_.push_back(*p);
                    *p = *p + step();
                    moved_.insert(e);
                }
            return;
        }
        const bool starts = stands(startOf(c)), ends = stands(endOf(c));
        const auto* a = std::get_if<Arc>(&c);
        const Box2 b = boxOf(c);
        const bool reaches = stands(b.lo) || stands(b.hi);
        const bool whole = a && a->full() ? reaches : (starts && ends) || (reaches && !starts && !ends);
        if (!whole) {
            bent_ = bent_ || ((starts || ends) && !(a && a->full()));
            return;
        }
        if (a) centres_.push_back({a->centre, a->radius});
        if (!a || !a->full()) was_.push_back(startOf(c)), was_.push_back(endOf(c));
        c = transformed(c, Affine2::shift(step()));
        moved_.insert(e);
    }

    /// Lines that ended where something that moved as a whole did.
    void stretchJoined() {
        for (auto& [e, curves] : curves_)
            for (Curve& c : curves)
                if (auto* s = std::get_if<Segment>(&c))
                    for (Vec2* p : {&s->a, &s->b})
                        if (!stands(*p) && std::ranges::any_of(
                                               was_, [&](Vec2 q) { return distance(*p, q) <= tolerance_; })) {
                            *p = *p + step();
                            moved_.insert(e);
                        }
    }

    /// Centre lines of circles, and those midway between two lines that moved.
    void moveCentreLines() {
        for (const Entity* e : drawnOf(in_, view_.centre_lines)) {
            std::vector<Curve> curves;
            bool moves = false;
            for (const Curve& c : e->curves) {
                curves.push_back(transformed(c, to_));
                moves = moves || isCentreLine(curves.back());
            }
            if (!moves) continue;
            for (Curve& c : curves) c = transformed(c, Affine2::shift(step()));
            curves_[e->id] = curves;
            moved_.insert(e->id);
        }
    }
    bool isCentreLine(const Curve& c) const {
        const auto* s = std::get_if<Segment>(&c);
        if (!s) return false;
        const Vec2 middle = 0.5 * (s->a + s->b);
        for (const auto& [centre, radius] : centres_)
            if (distance(middle, centre) <= tolerance_ && distance(s->a, s->b) <= 4 * radius) return true;
        if (std::abs(along(s->a) - along(s->b)) > tolerance_) return false;
        for (size_t i = 1; i < at_.size(); ++i)
            if (std::abs(along(s->a) - 0.5 * (at_[i - 1] + at_[i])) <= tolerance_) return true;
        return false;
    }

    MarkedLine reshaped(int e, const std::vector<Curve>& curves) const {
        MarkedLine m{MarkedLine::Kind::reshape, keyOf(in_.changeable().entities[static_cast<size_t>(e)]), {}};
        const Affine2 back = in_.sheet.to_file * to_.inverse();
        for (const Curve& c : curves) m.curves.push_back(transformed(c, back));
        return m;
    }

    void moveDimension(const Dimension& d, Change& c) const {
        AddedDimension a = placeOf(d);
        const Vec2 onSheet = to_.inverse().linear(step());
        bool moves = false;
        const auto shift = [&](Vec2& p) { p = p + onSheet, moves = true; };
        if (d.kind == DimensionKind::radius || d.kind == DimensionKind::diameter) {
            const Vec2 centre = to_(d.kind == DimensionKind::radius ? d.p10 : 0.5 * (d.p10 + d.p15));
            if (std::ranges::any_of(centres_,
                                    [&](const auto& x) { return distance(x.first, centre) <= tolerance_; }))
                for (Vec2* p : {&a.p10, &a.p15, &a.text_at}) shift(*p);
        } else
            for (Vec2* p : {&a.p13, &a.p14})
                if (const Vec2 at = to_(*p); stands(at) || std::ranges::any_of(centres_, [&](const auto& x) {
                                                 return distance(x.first, at) <= tolerance_;
                                             }))
                    shift(*p);
        if (!moves) return;
        c.corrected.push_back({keyOf(d), std::nullopt, transformed(a, in_.sheet.to_file)});
    }

    const CheckInput& in_;
    const View& view_;
    Affine2 to_;
    int k_;
    std::vector<double> at_;
    double by_, tolerance_;
    std::map<int, std::vector<Curve>> curves_;
    std::set<int> moved_;
    std::vector<Vec2> was_;
    std::vector<std::pair<Vec2, double>> centres_; ///< of what moved as a whole, with the radius
    bool bent_ = false;
};

/// The corner or the middle of a view, or of a side, about which a map has to be for its loose dimensions to
/// meet it; none where they do so about none.
template <class MapAbout>
std::optional<Vec2> whereDimensionsHang(const CheckInput& in, const View& v, const MapAbout& mapAbout) {
    std::vector<Vec2> wanted, there;
    for (const Dimension* d : dimensionsOn(in, v, true))
        for (const NamedPlace& p : placesOf(*d)) wanted.push_back(p.at);
    if (wanted.empty()) return std::nullopt;
    Box2 box;
    for (const Entity* e : drawnOf(in, v.entities))
        for (const Curve& c : e->curves) {
            box.add(boxOf(c));
            there.push_back(startOf(c)), there.push_back(endOf(c));
            if (const auto* a = std::get_if<Arc>(&c)) there.push_back(a->centre);
        }
    std::optional<Vec2> best;
    long most = 0;
    const double tolerance = 4 * in.figure.tolerances.same_model / v.mm_per_sheet;
    for (const double x : {box.centre().x, box.lo.x, box.hi.x})
        for (const double y : {box.centre().y, box.lo.y, box.hi.y}) {
            const Affine2 map = mapAbout(Vec2{x, y});
            const long met = std::ranges::count_if(wanted, [&](Vec2 w) {
                return std::ranges::any_of(there, [&](Vec2 p) { return distance(map(p), w) <= tolerance; });
            });
            if (met > most) most = met, best = Vec2{x, y};
        }
    return best;
}

} // namespace

std::vector<const Entity*> drawnOf(const CheckInput& in, const std::vector<int>& entities) {
    const auto& all = in.changeable().entities;
    std::vector<const Entity*> r;
    for (const int e : entities)
        if (e < std::ssize(all)) r.push_back(&all[static_cast<size_t>(e)]);
    return r;
}
Change viewMoved(const CheckInput& in, const View& v, const Affine2& map) {
    Change c;
    const Affine2 toFile = in.sheet.to_file * map;
    std::vector<int> lines;
    for (const Entity* x : linesOf(in, v)) {
        MarkedLine m{MarkedLine::Kind::reshape, keyOf(*x), {}};
        for (const Curve& k : x->curves) m.curves.push_back(transformed(k, toFile));
        c.lines.push_back(std::move(m));
        lines.push_back(x->id);
    }
    takeOffStoodFor(in.sheet, lines, c.lines);
    for (const Dimension* d : dimensionsOn(in, v, false))
        c.corrected.push_back({keyOf(*d), std::nullopt, transformed(placeOf(*d), toFile)});
    return c;
}

Affine2 scaledInPlace(const CheckInput& in, const View& v, double by) {
    const auto about = [by](Vec2 fixed) {
        return Affine2::shift(fixed) * Affine2::scale(by, by) * Affine2::shift({-fixed.x, -fixed.y});
    };
    if (const auto fixed = whereDimensionsHang(in, v, about)) return about(*fixed);
    Vec2 fixed = v.box_sheet.centre();
    for (const Tie& t : in.views.ties) {
        if (t.a != v.id && t.b != v.id) continue;
        const View& other = in.views.views[static_cast<size_t>(t.a == v.id ? t.b : t.a)];
        const Box2 &own = v.box_sheet, &beside = other.box_sheet;
        const int k =
            std::abs(own.centre().x - beside.centre().x) < std::abs(own.centre().y - beside.centre().y) ? 0
                                                                                                        : 1;
        const double slack = 1e-3 * (own.hi[k] - own.lo[k]);
        const double to = std::abs(own.lo[k] - beside.lo[k]) <= slack   ? own.lo[k]
                          : std::abs(own.hi[k] - beside.hi[k]) <= slack ? own.hi[k]
                                                                        : own.centre()[k];
        (k == 0 ? fixed.x : fixed.y) = to;
    }
    return about(fixed);
}

Affine2 mirroredInPlace(const View& v, bool level) {
    const Vec2 c = v.box_sheet.centre();
    return Affine2::shift(c) * Affine2::scale(level ? -1 : 1, level ? 1 : -1) * Affine2::shift({-c.x, -c.y});
}

Affine2 turnedInPlace(const View& v, const View& beside, int quarters) {
    const Vec2 c = v.box_sheet.centre(), o = beside.box_sheet.centre();
    const bool inColumn = std::abs(c.x - o.x) < std::abs(c.y - o.y);
    const Vec2 to = inColumn ? Vec2{o.x, c.y} : Vec2{c.x, o.y};
    return Affine2::shift(to) * Affine2::rotation(quarters * kPi / 2) * Affine2::shift({-c.x, -c.y});
}

Affine2 turnedAtCorner(const View& v, int quarter) {
    const Box2& b = v.box_sheet;
    const Vec2 lands = quarter > 0 ? b.lo + Vec2{b.height(), 0} : b.lo + Vec2{0, b.width()};
    return Affine2::shift(lands) * Affine2::rotation(quarter * kPi / 2) * Affine2::shift({-b.lo.x, -b.lo.y});
}

std::vector<NamedPlace> placesOf(const Dimension& d) {
    switch (d.kind) {
    case DimensionKind::diameter:
        return {{0.5 * (d.p10 + d.p15), 0.5 * distance(d.p10, d.p15)}};
    case DimensionKind::radius:
        return {{d.p10, distance(d.p10, d.p15)}};
    case DimensionKind::linear:
    case DimensionKind::aligned:
        return {{d.p13}, {d.p14}};
    default:
        return {};
    }
}

std::optional<Change> featureMoved(const CheckInput& in, const View& v, Axis axis,
                                   const std::vector<double>& at, double by) {
    return Stretching(in, v, axis, at, by).change();
}

void offerMove(const CheckInput& in, const View& v, Axis axis, const std::vector<double>& at, double by,
               Finding& f) {
    const auto change = featureMoved(in, v, axis, at, by);
    if (!change || change->empty()) return;
    f.remedies.push_back({"move_feature",
                          fmt::format("Move {} by {:+.2f} mm along {} in the {} view",
                                      at.size() > 2 ? "all of it" : "it", by, nameOf(axis), nameOf(v.role)),
                          "", *change});
    for (const MarkedLine& l : change->lines)
        for (const int e : v.entities) {
            const Entity& x = in.drawing.entities[static_cast<size_t>(e)];
            if (keyOf(x) != l.target || std::ranges::find(f.entities, e) != f.entities.end()) continue;
            f.entities.push_back(e), f.handles.push_back(x.handle);
            f.at_sheet.push_back(boxOf(x.curves.front()).centre());
        }
}

} // namespace prism::checking
