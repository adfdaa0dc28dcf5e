#include "app/box/box_scene.h"

namespace prism::app {
namespace {

QVector3D q(const Vec3& v) {
    return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
}

/// By what the curves themselves reach: a mark may lie outside, as the middle of a shallow arc does.
PartBox partBox(const Figure& f) {
    double lo[3] = {0, 0, 0}, hi[3] = {0, 0, 0};
    bool seen[3] = {false, false, false};
    const auto add = [&](Axis axis, double from, double to) {
        const auto k = static_cast<size_t>(axis);
        lo[k] = seen[k] ? std::min(lo[k], from) : from, hi[k] = seen[k] ? std::max(hi[k], to) : to;
        seen[k] = true;
    };
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureView& v = *f.viewById(f.curves[i].view);
        const ViewAxes& axes = v.axes;
        if (!v.square || v.shows == Shows::close_up) continue;
        const Box2 b = boxOf(f.curve(static_cast<int>(i)));
        add(axes.right, b.lo.x, b.hi.x), add(axes.up, b.lo.y, b.hi.y);
    }
    return {{lo[0], lo[1], lo[2]}, {hi[0], hi[1], hi[2]}};
}

} // namespace

void BoxScene::addPane(const Shown& s, const View& v) {
    const Model& m = *s.model;
    const Figure& f = m.figure;
    Pane p;
    p.view = v.id, p.role = v.role, p.key = v.key, p.name = QString::fromStdString(v.name);
    p.hanging = v.hanging ? std::optional(hangingNow(f, v)) : std::nullopt;
    p.to_own = p.hanging ? p.hanging->own : v.toModel(), p.on_sheet = v.box_sheet;
    p.spare = isPrincipal(v.role) && !v.in_figure;
    Box2 lines;
    const auto add = [&](int entity, LineRole role, const Curve& c) {
        const bool thin = role == LineRole::hatch || s.sheet.freehand.contains(entity);
        p.lines.push_back({entity, role, thin, sampled(c, f.size * 5e-4), {}});
        lines.add(boxOf(c));
    };
    for (int e : v.entities) // as driven
        for (const Curve& c : s.sheet.curves[static_cast<size_t>(e)])
            add(e, m.sheet.entity_roles[static_cast<size_t>(e)], transformed(c, p.to_own));
    if (const auto h = s.sheet.hatching.find(v.id); h != s.sheet.hatching.end())
        for (const Segment& l : h->second) add(-1, LineRole::hatch, transformed(l, p.to_own));
    p.extent = v.hanging ? lines.grown(0.06 * f.size) : box_->extent(v.role);
    panes.push_back(std::move(p));
}

void BoxScene::rebuild(const Shown& s, const ViewChoices& choices,
                       const std::map<std::string, PaneShow>& shows) {
    const Model& m = *s.model;
    model_ = s.model;
    panes.clear();
    const PartBox box = partBox(m.figure);
    std::map<Role, double> gaps;
    for (const View& v : m.views.views)
        if (const auto g = choices.fold_gap.find(v.key); v.in_figure && g != choices.fold_gap.end())
            gaps[v.role] = g->second;
    box_.emplace(m.views.projection.laid_out, box, 0.22 * m.figure.size, gaps);
    part = {q(box.lo), q(box.hi)};
    for (const View& v : m.views.views)
        if (isPrincipal(v.role) || v.hanging) addPane(s, v);
    std::stable_sort(panes.begin(), panes.end(),
                     [](const Pane& a, const Pane& b) { return a.role < b.role; });
    folding_ = 0;
    for (Pane& p : panes) {
        p.show.on = !p.spare;
        if (const auto it = shows.find(p.key); it != shows.end()) p.show = it->second;
        const View& v = m.views.views[p.view];
        if (p.role != Role::front && !p.spare && !(v.hanging && v.hanging->flat())) p.order = folding_++;
    }
}

double BoxScene::turnOf(const Pane& p, double hinge, bool one_by_one) const {
    return one_by_one ? std::clamp(hinge * folding_ - p.order, 0.0, 1.0) : hinge;
}

void BoxScene::fold(double hinge, bool one_by_one) {
    const auto turn = [&](Role r) {
        for (const Pane& p : panes)
            if (p.role == r && !p.spare) return turnOf(p, hinge, one_by_one);
        return hinge; // a pane that no view is drawn on, but another hangs on it
    };
    for (Pane& p : panes) {
        p.frame = p.hanging ? box_->hungPane(*p.hanging, model_->views.views[p.hanging->on].role, turn,
                                             turnOf(p, hinge, one_by_one))
                            : box_->pane(p.role, turn);
        p.facing = q(box_->facing(p.frame));
        const Box2& e = p.extent;
        p.corners = {q(p.frame(e.lo)), q(p.frame({e.hi.x, e.lo.y})), q(p.frame(e.hi)),
                     q(p.frame({e.lo.x, e.hi.y}))};
        p.faces.clear();
        for (const PaneFrame::Face& f : p.frame.faces(e))
            p.faces.push_back({q(f.at[0]), q(f.at[1]), q(f.at[2]), q(f.at[3])});
        for (Line& l : p.lines) {
            l.runs.clear();
            for (const std::vector<Vec3>& run : p.frame.runs(l.flat)) {
                l.runs.emplace_back();
                for (const Vec3& at : run) l.runs.back().push_back(q(at));
            }
        }
    }
}

const BoxScene::Pane* BoxScene::paneOf(int view) const {
    for (const Pane& p : panes)
        if (p.view == view) return &p;
    return nullptr;
}

std::optional<QVector3D> BoxScene::onPane(Vec2 sheet) const {
    for (const Pane& p : panes)
        if (p.show.on && p.on_sheet.grown(0.1 * p.on_sheet.diagonal()).contains(sheet))
            return q(p.frame(p.to_own(sheet)));
    return std::nullopt;
}

std::vector<QVector3D> BoxScene::projectorLines(const Projector& p, double hinge) const {
    std::vector<QVector3D> r;
    const Figure& f = model_->figure;
    const Pane* front = nullptr;
    Vec2 on_front;
    for (const auto& [view, at] : p.shown) {
        const Pane* pane = paneOf(view);
        if (!pane || !pane->show.on) continue;
        // A pane that hangs on another counts its places from its line, not as the figure does.
        const Vec2 own = pane->hanging ? pane->to_own(ontoSheet(f, *f.viewById(view), f.now)(at)) : at;
        if (hinge >= 1) r.push_back(q(pane->frame(own))), r.push_back(q(p.at));
        if (pane->role == Role::front) front = pane, on_front = at;
    }
    if (hinge >= 1 || !front) return r;
    for (const auto& [view, at] : p.shown) {
        const Pane* pane = paneOf(view);
        if (!pane || !pane->show.on || pane == front || pane->hanging || pane->role == Role::rear) continue;
        const auto line = box_->foldLine(pane->role);
        const Vec2 over = pointAt(*line, nearestParameter(*line, at));
        const QVector3D fold = q(pane->frame(over));
        r.insert(r.end(), {q(front->frame(on_front)), fold, fold, q(pane->frame(at))});
    }
    return r;
}

} // namespace prism::app
