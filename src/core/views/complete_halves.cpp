#include "core/drawing/dimension_measure.h"
#include "core/views/stages.h"

#include <algorithm>

// A symmetrical part may be drawn to its symmetry line only (ISO 128-3): outlines end at a centre line, or
// run a little past it. The other half is added to the repaired sheet, as a repair that can be switched off.
namespace prism::views {
namespace {

constexpr double kPast = 0.06; ///< share of a view by which outlines may run past the symmetry line

/// A symmetry line along a side of a view: coordinate `at` along sheet axis `axis`; the drawn half lies on
/// the side of `sign`.
struct SymmetryLine {
    int axis;
    double at;
    double sign;
    int centre_line; ///< entity
};

Vec2 mirrored(Vec2 p, const SymmetryLine& l) {
    return l.axis == 0 ? Vec2{2 * l.at - p.x, p.y} : Vec2{p.x, 2 * l.at - p.y};
}
Affine2 mirrorOf(const SymmetryLine& l) {
    return l.axis == 0 ? Affine2{-1, 0, 0, 1, 2 * l.at, 0} : Affine2{1, 0, 0, -1, 0, 2 * l.at};
}

/// The part of a curve on the drawn side; none when nothing of it is there.
std::optional<Curve> trimmed(const Curve& c, const SymmetryLine& l, double tol) {
    const auto side = [&](Vec2 p) { return l.sign * (p[l.axis] - l.at); };
    const double a = side(startOf(c)), b = side(endOf(c));
    if (a >= -tol && b >= -tol) return c;
    const auto* s = std::get_if<Segment>(&c);
    if (!s || (a <= tol && b <= tol)) return std::nullopt;
    const double t = a / (a - b);
    const Vec2 p = s->a + (s->b - s->a) * t;
    return a > 0 ? Segment{s->a, p} : Segment{p, s->b};
}

class Completion {
  public:
    Completion(const Drawing& d, const CleanSheet& s, ViewSet& set)
        : d_(d), s_(s), set_(set), tol_(4 * s.tolerances.touch_sheet) {}

    void run() {
        for (View& v : set_.views)
            if (v.role != Role::pictorial && v.role != Role::detail)
                if (const auto line = symmetryLineOf(v)) complete(v, *line);
        if (!sheet_) return;
        sheet_->without_halves = sheet_->drawing;
        sheet_->drawing = drawing_;
        sheet_->nodes = nodesOf(*drawing_, sheet_->in_use, s_.tolerances.placeOnSheet());
        set_.completed = sheet_;
    }

  private:
    std::optional<SymmetryLine> symmetryLineOf(const View& v) const {
        for (int e : v.centre_lines)
            for (const Curve& c : d_.entities[e].curves) {
                const auto* s = std::get_if<Segment>(&c);
                if (!s) continue;
                for (int axis : {0, 1}) {
                    if (std::abs(s->a[axis] - s->b[axis]) > tol_) continue;
                    const Box2& b = v.box_sheet;
                    const double along = axis == 0 ? b.height() : b.width(),
                                 across = axis == 0 ? b.width() : b.height();
                    if (lengthOf(c) < 0.9 * along) continue;
                    const double at = s->a[axis];
                    for (double sign : {1.0, -1.0}) {
                        const double past = sign * (at - (sign > 0 ? b.lo[axis] : b.hi[axis]));
                        const SymmetryLine line{axis, at, sign, e};
                        if (past > -tol_ && past < kPast * across && endsThere(v, line, kPast * across))
                            return line;
                    }
                }
            }
        return std::nullopt;
    }

    /// Whether outlines end at the line and nothing runs along it: a view with an edge there is whole.
    bool endsThere(const View& v, const SymmetryLine& l, double reach) const {
        int open = 0;
        for (int e : v.entities)
            for (const Curve& c : d_.entities[e].curves) {
                if (isClosed(c, 0) && std::abs(boxOf(c).centre()[l.axis] - l.at) < 0.4 * boxOf(c).width())
                    return false;
                const double a = std::abs(startOf(c)[l.axis] - l.at), b = std::abs(endOf(c)[l.axis] - l.at);
                if (std::holds_alternative<Segment>(c) && a < reach && b < reach && lengthOf(c) > 2 * reach)
                    return false;
                if (s_.entity_roles[e] != LineRole::outline) continue;
                for (Vec2 p : {startOf(c), endOf(c)})
                    if (std::abs(p[l.axis] - l.at) < reach && !meets(v, e, p)) ++open;
            }
        // Two short strokes across each end of a symmetry line say it, too (ISO 128-3).
        return open >= 2 || (open == 1 && hasSigns(l));
    }
    /// Whether each end of a symmetry line has two strokes across it.
    bool hasSigns(const SymmetryLine& l) const {
        constexpr double kLongest = 0.15, kNear = 0.15; // of the line
        const auto* line = std::get_if<Segment>(&d_.entities[l.centre_line].curves.front());
        if (!line) return false;
        const double size = lengthOf(Curve(*line));
        int at[2] = {0, 0};
        for (const Entity& e : d_.entities) {
            const auto* s = e.curves.size() == 1 ? std::get_if<Segment>(&e.curves.front()) : nullptr;
            if (!s || std::abs(s->a[1 - l.axis] - s->b[1 - l.axis]) > tol_) continue;
            const double half = 0.5 * lengthOf(Curve(*s));
            const Vec2 middle = 0.5 * (s->a + s->b);
            if (half > kLongest * size || std::abs(middle[l.axis] - l.at) > 0.2 * half + tol_) continue;
            for (int end : {0, 1}) at[end] += distance(middle, end == 0 ? line->a : line->b) <= kNear * size;
        }
        return at[0] == 2 && at[1] == 2;
    }
    bool meets(const View& v, int entity, Vec2 p) const {
        for (int o : v.entities)
            for (const Curve& c : d_.entities[o].curves)
                if (o != entity && distanceTo(c, p) <= tol_) return true;
        return false;
    }

    void complete(View& v, const SymmetryLine& l) {
        Repair r{"half_completed", v.entities, v.box_sheet.centre(), 0, "half_completed:" + v.key, true};
        r.on = isOn(s_.repair_choices, r.kind, r.key);
        if (!sheet_) {
            sheet_ = std::make_shared<CleanSheet>(s_);
            drawing_ = std::make_shared<Drawing>(d_);
        }
        const bool on = r.on;
        sheet_->repairs.push_back(std::move(r));
        if (!on) return;
        const std::vector<int> entities = v.entities, centres = v.centre_lines;
        for (int e : entities) mirrorEntity(v, e, l, v.entities);
        for (int e : centres)
            if (e != l.centre_line) mirrorEntity(v, e, l, v.centre_lines);
        std::erase_if(sheet_->loose_ends, [&](const LooseEnd& x) {
            return set_.view_of_entity[x.entity] == v.id &&
                   std::abs(x.at[l.axis] - l.at) < kPast * v.box_sheet.diagonal();
        });
        for (int i : v.dimensions) mirrorDimension(drawing_->dimensions[i], l);
        v.box_sheet = {};
        for (int e : v.entities)
            for (const Curve& c : drawing_->entities[e].curves) v.box_sheet.add(boxOf(c));
    }

    /// Curves that cross the line square to it, or circles about a place on it, become whole ones; of the
    /// others a copy stands on the other side.
    void mirrorEntity(const View& v, int id, const SymmetryLine& l, std::vector<int>& members) {
        std::vector<Curve> own, other;
        for (const Curve& c : d_.entities[id].curves) {
            const auto drawn = trimmed(c, l, tol_);
            if (!drawn) continue;
            if (const auto whole = throughLine(*drawn, l))
                own.push_back(*whole);
            else
                own.push_back(*drawn), other.push_back(transformed(*drawn, mirrorOf(l)));
        }
        drawing_->entities[id].curves = std::move(own);
        if (other.empty()) return;
        Entity copy = drawing_->entities[id];
        copy.id = static_cast<int>(drawing_->entities.size());
        copy.block_path += "/other half";
        copy.curves = std::move(other);
        members.push_back(copy.id);
        drawing_->entities.push_back(std::move(copy));
        sheet_->entity_roles.push_back(sheet_->entity_roles[id]);
        sheet_->in_use.push_back(true);
        set_.view_of_entity.push_back(v.id);
    }

    std::optional<Curve> throughLine(const Curve& c, const SymmetryLine& l) const {
        const auto at = [&](Vec2 p) { return std::abs(p[l.axis] - l.at) <= tol_; };
        if (const auto* s = std::get_if<Segment>(&c)) {
            if (std::abs(s->a[1 - l.axis] - s->b[1 - l.axis]) > tol_) return std::nullopt;
            if (at(s->a)) return Segment{mirrored(s->b, l), s->b};
            if (at(s->b)) return Segment{s->a, mirrored(s->a, l)};
        } else if (const auto* a = std::get_if<Arc>(&c); a && !a->full() && at(a->centre)) {
            const bool starts = at(startOf(c)), ends = at(endOf(c));
            if (!starts && !ends) return std::nullopt;
            Arc whole = *a;
            if (!ends) whole.start -= a->sweep;
            whole.sweep = std::clamp(2 * a->sweep, -2 * kPi, 2 * kPi);
            return whole;
        }
        return std::nullopt;
    }

    /// A dimension drawn with one arrow only, from beyond the line, says the whole size.
    void mirrorDimension(Dimension& d, const SymmetryLine& l) const {
        if (d.kind != DimensionKind::linear && d.kind != DimensionKind::aligned) return;
        const double p = l.sign * (d.p13[l.axis] - l.at), q = l.sign * (d.p14[l.axis] - l.at);
        Vec2 &far = p > q ? d.p13 : d.p14, &cut = p > q ? d.p14 : d.p13;
        const double whole = 2 * std::max(p, q) * d.factor;
        if (std::max(p, q) <= tol_ || std::min(p, q) > 0.6 * std::max(p, q)) return;
        if (std::abs(d.value - whole) > 1e-3 * whole || std::abs(d.value - d.measured) < 1e-6 * whole) return;
        cut = mirrored(far, l);
        d.measured = measuredOf(d);
    }

    const Drawing& d_;
    const CleanSheet& s_;
    ViewSet& set_;
    double tol_;
    std::shared_ptr<Drawing> drawing_;
    std::shared_ptr<CleanSheet> sheet_;
};

} // namespace

void completeHalves(const Drawing& d, const CleanSheet& s, ViewSet& set) {
    Completion(d, s, set).run();
}

} // namespace prism::views
