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

void BoxScene::rebuild(const Shown& s) {
    const Model& m = *s.model;
    const Figure& f = m.figure;
    panes.clear();
    box_ = partBox(f);
    convention_ = m.views.projection.laid_out;
    margin_ = 0.22 * f.size;
    part = {q(box_.lo), q(box_.hi)};
    for (const FigureView& v : f.views) {
        Pane p{v.role,     PanePlacement(v.role, convention_, box_, margin_, 1),
               v.to_model, m.views.views[v.view].box_sheet,
               {},         {}};
        for (size_t i = 0; i < f.curves.size(); ++i) {
            const FigureCurve& c = f.curves[i];
            if (c.view != v.view) continue;
            const Curve now = f.curve(static_cast<int>(i));
            p.lines.push_back({static_cast<int>(i), c.entity, c.role, sampled(now, f.size * 5e-4), {}});
        }
        panes.push_back(std::move(p));
    }
}

void BoxScene::fold(double hinge) {
    lo = hi = QVector3D(0.5f * (part.first + part.second));
    for (Pane& p : panes) {
        p.place = PanePlacement(p.role, convention_, box_, margin_, hinge);
        const Box2 e = p.place.extent();
        p.corners = {q(p.place(e.lo)), q(p.place({e.hi.x, e.lo.y})), q(p.place(e.hi)),
                     q(p.place({e.lo.x, e.hi.y}))};
        for (Line& l : p.lines) {
            l.points.clear();
            for (Vec2 at : l.flat) l.points.push_back(q(p.place(at)));
        }
        for (const QVector3D& c : p.corners)
            for (int k = 0; k < 3; ++k) lo[k] = std::min(lo[k], c[k]), hi[k] = std::max(hi[k], c[k]);
    }
}

std::optional<QVector3D> BoxScene::onPane(Vec2 sheet) const {
    for (const Pane& p : panes)
        if (p.on_sheet.grown(0.1 * p.on_sheet.diagonal()).contains(sheet))
            return q(p.place(p.to_model(sheet)));
    return std::nullopt;
}

} // namespace prism::app
