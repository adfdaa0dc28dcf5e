#include "app/sheet/sheet_picture.h"

#include "app/theme/theme.h"

#include <QPainter>

namespace prism::app {
namespace {

QPointF q(Vec2 v) {
    return {v.x, v.y};
}

double widthOf(LineRole r) {
    return r == LineRole::outline ? 2.0 : r == LineRole::hidden ? 1.3 : 1.0;
}

QColor colorOf(LineRole r, const theme::Paper& paper) {
    switch (r) {
    case LineRole::outline:
    case LineRole::hidden:
        return paper.ink;
    case LineRole::centre:
        return paper.centre;
    default:
        return paper.other;
    }
}

/// Text drawn upright although the sheet's y axis runs up. `at` is the anchor; hx, vy in -1, 0, 1.
void paintText(QPainter& p, const QString& text, Vec2 at, double height, double rotation, int hx, int vy,
               const QColor& color) {
    constexpr double font = 100; // glyphs are laid out large and scaled, so that any zoom is sharp
    p.save();
    p.translate(q(at));
    p.rotate(rotation * 180 / kPi);
    p.scale(height / font * 1.32, -height / font * 1.32);
    const QFont f = theme::lettering(font);
    p.setFont(f);
    p.setPen(color);
    const QFontMetricsF m(f);
    double y = 0;
    const QStringList rows = text.split('\n');
    const double all = m.height() * static_cast<double>(rows.size() - 1);
    y = vy > 0 ? m.capHeight() : vy == 0 ? m.capHeight() / 2 - all / 2 : -all;
    for (const QString& row : rows) {
        const double w = m.horizontalAdvance(row);
        p.drawText(QPointF(hx < 0 ? 0 : hx == 0 ? -w / 2 : -w, y), row);
        y += m.height();
    }
    p.restore();
}

} // namespace

QPainterPath pathOf(const Curve& c) {
    QPainterPath path;
    path.moveTo(q(startOf(c)));
    if (auto* a = std::get_if<Arc>(&c)) {
        const QRectF r(a->centre.x - a->radius, a->centre.y - a->radius, 2 * a->radius, 2 * a->radius);
        // The path's angles run the other way because its rectangle has y down.
        path.arcTo(r, -a->start * 180 / kPi, -a->sweep * 180 / kPi);
        return path;
    }
    const auto pts = sampled(c, boxOf(c).diagonal() * 2e-4);
    for (size_t i = 1; i < pts.size(); ++i) path.lineTo(q(pts[i]));
    return path;
}

QPen dashed(QPen pen, const std::vector<double>& pattern, double scale) {
    if (pattern.size() < 2) return pen;
    QList<qreal> dashes;
    for (double d : pattern) dashes.push_back(std::max(1.0, std::abs(d) * scale) / pen.widthF());
    if (dashes.size() % 2) dashes.push_back(dashes.back());
    double whole = 0;
    for (double d : dashes) whole += d;
    if (whole * pen.widthF() < 4) return pen; // too far out to tell dashes apart
    pen.setDashPattern(dashes);
    pen.setCapStyle(Qt::FlatCap);
    return pen;
}

void SheetPicture::rebuild(const Model& m, const SolvedSheet& sheet) {
    lines_.clear(), dimensions_.clear(), dimension_boxes_.clear(), dimension_on_.clear(), patterns_.clear();
    box_ = views_box_ = {};
    for (const Entity& e : m.drawing->entities) {
        if (!m.sheet.layer_on[e.layer] || (sheet.curves[e.id].empty() && !e.point)) continue;
        Line l{e.id, m.views.view_of_entity[e.id], m.sheet.entity_roles[e.id], {}, sheet.curves[e.id],
               {},   sheet.freehand.contains(e.id)};
        if (e.point) { // a point is drawn as a small cross
            const double h = 0.004 * m.drawing->box().diagonal();
            l.curves = {Segment{*e.point - Vec2{h, 0}, *e.point + Vec2{h, 0}},
                        Segment{*e.point - Vec2{0, h}, *e.point + Vec2{0, h}}};
        }
        for (const Curve& c : l.curves) l.path.addPath(pathOf(c)), l.box.add(boxOf(c));
        box_.add(l.box);
        if (l.view >= 0) views_box_.add(l.box);
        const LineType* t = m.drawing->lineType(e.line_type);
        if (t && !t->pattern.empty() && !patterns_.contains(l.role))
            for (double d : t->pattern) patterns_[l.role].push_back(d * m.drawing->line_type_scale);
        lines_.push_back(std::move(l));
    }
    hatching_ = {};
    for (const auto& [view, strokes] : sheet.hatching)
        for (const Segment& s : strokes) hatching_.addPath(pathOf(s));
    for (const Dimension& d : sheet.dimensions) {
        dimensions_.push_back(pictureOf(d));
        Box2 b;
        for (const Curve& c : dimensions_.back().lines) b.add(boxOf(c));
        b.add(Box2{d.text_at, d.text_at}.grown(d.text_height));
        dimension_boxes_.push_back(b);
        if (views_box_.valid()) views_box_.add(b);
        dimension_on_.push_back(m.sheet.layer_on[d.layer]);
    }
}

void SheetPicture::paintViews(QPainter& p, const Model& m, double scale) const {
    for (const View& v : m.views.views) {
        Box2 b;
        for (const Line& l : lines_)
            if (l.view == v.id) b.add(l.box);
        if (!b.valid()) continue;
        b = b.grown(5 / scale);
        QColor tint = theme::tintOf(v.role);
        tint.setAlpha(56);
        p.fillRect(QRectF(q(b.lo), q(b.hi)), tint);
    }
}

void SheetPicture::paintLines(QPainter& p, double scale, const Box2& visible,
                              const theme::Paper& paper) const {
    for (LineRole role :
         {LineRole::border, LineRole::note, LineRole::hatch, LineRole::construction, LineRole::dimension,
          LineRole::unknown, LineRole::centre, LineRole::hidden, LineRole::outline}) {
        QPen pen(colorOf(role, paper), widthOf(role));
        pen.setCosmetic(true);
        if (const auto it = patterns_.find(role); it != patterns_.end() && role != LineRole::outline)
            pen = dashed(pen, it->second, scale);
        QPen thin = pen;
        thin.setWidthF(widthOf(LineRole::centre));
        for (const Line& l : lines_) {
            if (l.role != role || !l.box.overlaps(visible)) continue;
            p.setPen(l.thin ? thin : pen);
            p.drawPath(l.path);
        }
        p.setPen(pen);
        if (role == LineRole::hatch) p.drawPath(hatching_);
    }
}

void SheetPicture::paintDimension(QPainter& p, int id, double scale, const QColor& color,
                                  double width) const {
    if (id < 0 || id >= static_cast<int>(dimensions_.size()) || !dimension_on_[id]) return;
    const DimensionPicture& d = dimensions_[id];
    QPen pen(color, width);
    pen.setCosmetic(true);
    p.setPen(pen);
    p.setBrush(Qt::NoBrush);
    for (const Curve& c : d.lines) p.drawPath(pathOf(c));
    p.setBrush(color);
    for (const auto& a : d.arrows) p.drawPolygon(QPolygonF({q(a[0]), q(a[1]), q(a[2])}));
    p.setBrush(Qt::NoBrush);
    if (d.height * scale >= 3)
        paintText(p, QString::fromStdString(d.text), d.text_at, d.height, d.rotation, 0, 0, color);
}

void SheetPicture::paintTexts(QPainter& p, const Model& m, double scale, const Box2& visible,
                              const theme::Paper& paper) const {
    for (const SheetText& t : m.drawing->texts)
        if (m.sheet.layer_on[t.layer] && t.height * scale >= 3 &&
            visible.grown(t.height * 20).contains(t.position))
            paintText(p, QString::fromStdString(t.content), t.position, t.height, t.rotation, t.halign,
                      t.valign, paper.faint);
}

int SheetPicture::lineAt(Vec2 at, double within) const {
    int best = -1;
    double nearest = within;
    for (const Line& l : lines_) {
        if (!l.box.grown(within).contains(at)) continue;
        for (const Curve& c : l.curves) {
            // Part lines win over border and notes that lie as near.
            const bool part =
                l.role == LineRole::outline || l.role == LineRole::hidden || l.role == LineRole::centre;
            const double d = distanceTo(c, at) * (part ? 1 : 1.5);
            if (d < nearest) nearest = d, best = l.entity;
        }
    }
    return best;
}

int SheetPicture::dimensionAt(Vec2 at, double within) const {
    int best = -1;
    double nearest = within;
    for (size_t i = 0; i < dimensions_.size(); ++i) {
        const DimensionPicture& d = dimensions_[i];
        if (!dimension_on_[i] || !dimension_boxes_[i].grown(within + d.height * 3).contains(at)) continue;
        const Vec2 r = at - d.text_at, u = direction(d.rotation);
        const double w = 0.5 * d.height * std::max<size_t>(2, d.text.size());
        const bool inText = std::abs(dot(r, u)) < w && std::abs(cross(u, r)) < d.height;
        double away = inText ? 0 : within;
        for (const Curve& c : d.lines) away = std::min(away, distanceTo(c, at));
        if (away < nearest) nearest = away, best = static_cast<int>(i);
    }
    return best;
}

} // namespace prism::app
