#include "core/drawing/dimension_picture.h"

namespace prism {
namespace {

class Layout {
  public:
    explicit Layout(const Dimension& d) : d_(d) {
        p_.text_at = d.text_at;
        p_.height = d.text_height;
        p_.text = d.text;
    }
    DimensionPicture take() && { return std::move(p_); }

    void draw() {
        switch (d_.kind) {
        case DimensionKind::linear:
            return straight(direction(d_.angle));
        case DimensionKind::aligned:
            return straight(normalized(d_.p14 - d_.p13));
        case DimensionKind::radius:
            return radial(d_.p10, d_.p15, false);
        case DimensionKind::diameter:
            return radial(d_.p10, d_.p15, true);
        case DimensionKind::angular:
            return angular();
        case DimensionKind::ordinate:
            return line(d_.p13, d_.p14);
        }
    }

  private:
    void line(Vec2 a, Vec2 b) {
        if (distance(a, b) > 0) p_.lines.push_back(Segment{a, b});
    }
    void arrow(Vec2 tip, Vec2 from) {
        const Vec2 u = normalized(from - tip), n{-u.y, u.x};
        const double l = d_.arrow_size;
        p_.arrows.push_back({tip, tip + u * l + n * (l / 6), tip + u * l - n * (l / 6)});
    }
    void readable(Vec2 along) {
        double a = angleOf(along);
        if (a > kPi / 2 + 1e-9 || a <= -kPi / 2 + 1e-9) a = std::remainder(a + kPi, 2 * kPi);
        p_.rotation = a;
    }
    /// From the measured point towards the dimension line: a gap first, a little past the line at the end.
    void extension(Vec2 from, Vec2 to) {
        const Vec2 u = normalized(to - from);
        const double gap = 0.3 * d_.arrow_size, past = 0.5 * d_.arrow_size;
        if (distance(from, to) > gap) line(from + u * gap, to + u * past);
    }
    void straight(Vec2 u) {
        if (length(u) == 0) u = {1, 0};
        const Vec2 a = d_.p10 + u * dot(d_.p13 - d_.p10, u), b = d_.p10 + u * dot(d_.p14 - d_.p10, u);
        extension(d_.p13, a);
        extension(d_.p14, b);
        const Vec2 w = normalized(b - a);
        readable(w);
        const double at = dot(d_.text_at - a, w), span = distance(a, b);
        const bool outside = span < 2.5 * d_.arrow_size;
        arrow(a, outside ? a - w : b);
        arrow(b, outside ? b + w : a);
        const double tail = outside ? 2 * d_.arrow_size : 0;
        line(a + w * std::min(-tail, at), b + w * std::max(tail, at - span));
    }
    void radial(Vec2 from, Vec2 onCircle, bool across) {
        const Vec2 u = normalized(onCircle - from);
        const double at = dot(d_.text_at - onCircle, u);
        readable(u);
        const bool level = std::abs(cross(u, d_.text_at - onCircle)) > d_.text_height;
        if (level) p_.rotation = 0;
        arrow(onCircle, at > 0 ? onCircle + u : from);
        if (across && at <= 0) arrow(from, onCircle);
        line(across || at <= 0 ? from : onCircle, onCircle + u * std::max(0.0, at));
        if (level) { // text on a level shoulder beside the leader's end
            const Vec2 knee = onCircle + u * std::max(0.0, at);
            line(knee, {d_.text_at.x, knee.y});
        }
    }
    void angular() {
        Vec2 vertex = d_.p15, a = d_.p13, b = d_.p14, through = d_.p10;
        if (!d_.three_point) {
            const Vec2 u = d_.p14 - d_.p13, v = d_.p10 - d_.p15;
            const double det = cross(u, v);
            if (std::abs(det) < 1e-12 * length(u) * length(v)) return;
            vertex = d_.p13 + u * (cross(d_.p15 - d_.p13, v) / det);
            through = d_.p16;
            const Vec2 w = through - vertex;
            a = vertex + u * (cross(w, v) / det >= 0 ? 1 : -1);
            b = vertex + v * (cross(u, w) / det >= 0 ? 1 : -1);
        }
        const double radius = distance(through, vertex), from = angleOf(a - vertex);
        double sweep = positiveAngle(angleOf(b - vertex) - from);
        if (positiveAngle(angleOf(through - vertex) - from) > sweep) sweep -= 2 * kPi;
        const Arc arc{vertex, radius, from, sweep};
        p_.lines.push_back(arc);
        arrow(startOf(arc), startOf(arc) + tangentAt(arc, 0));
        arrow(endOf(arc), endOf(arc) - tangentAt(arc, 1));
        for (Vec2 end : {a, b}) {
            const Vec2 u = normalized(end - vertex);
            if (distance(end, vertex) < radius) extension(end, vertex + u * radius);
        }
        readable(tangentAt(arc, 0.5));
    }

    const Dimension& d_;
    DimensionPicture p_;
};

} // namespace

DimensionPicture pictureOf(const Dimension& d) {
    Layout l(d);
    l.draw();
    return std::move(l).take();
}

} // namespace prism
