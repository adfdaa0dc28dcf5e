#include "app/box/box_scene.h"

namespace prism::app {
namespace {

QVector3D q(const Vec3& v) {
    return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
}

PartBox partBox(const Figure& f) {
    double lo[3] = {0, 0, 0}, hi[3] = {0, 0, 0};
    bool seen[3] = {false, false, false};
    for (const Mark& m : f.marks) {
        const auto k = static_cast<size_t>(m.axis);
        const double v = f.value(m.terms, f.now);
        lo[k] = seen[k] ? std::min(lo[k], v) : v, hi[k] = seen[k] ? std::max(hi[k], v) : v;
        seen[k] = true;
    }
    return {{lo[0], lo[1], lo[2]}, {hi[0], hi[1], hi[2]}};
}

} // namespace

void BoxScene::rebuild(const Shown& s, double hinge) {
    const Model& m = *s.model;
    const Figure& f = m.figure;
    panes.clear();
    const PartBox box = partBox(f);
    part = {q(box.lo), q(box.hi)};
    const double margin = 0.22 * f.size;
    lo = hi = QVector3D(0.5f * (part.first + part.second));
    for (const FigureView& v : f.views) {
        const PanePlacement place(v.role, m.views.projection.laid_out, box, margin, hinge);
        const Box2 e = place.extent();
        Pane p{v.role,
               place,
               v.to_model,
               m.views.views[v.view].box_sheet,
               {q(place(e.lo)), q(place({e.hi.x, e.lo.y})), q(place(e.hi)), q(place({e.lo.x, e.hi.y}))},
               {}};
        for (size_t i = 0; i < f.curves.size(); ++i) {
            const FigureCurve& c = f.curves[i];
            if (c.view != v.view) continue;
            const Curve now = f.curve(static_cast<int>(i));
            Line l{static_cast<int>(i), c.entity, c.role, {}};
            for (Vec2 at : sampled(now, f.size * 5e-4)) l.points.push_back(q(place(at)));
            p.lines.push_back(std::move(l));
        }
        for (const QVector3D& c : p.corners)
            for (int k = 0; k < 3; ++k) lo[k] = std::min(lo[k], c[k]), hi[k] = std::max(hi[k], c[k]);
        panes.push_back(std::move(p));
    }
}

std::optional<QVector3D> BoxScene::onPane(Vec2 sheet) const {
    for (const Pane& p : panes)
        if (p.on_sheet.grown(0.1 * p.on_sheet.diagonal()).contains(sheet))
            return q(p.place(p.to_model(sheet)));
    return std::nullopt;
}

} // namespace prism::app
