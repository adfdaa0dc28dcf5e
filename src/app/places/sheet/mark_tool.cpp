#include "app/places/sheet/mark_tool.h"

#include "core/marking/reshape.h"
#include "core/marking/snaps.h"
#include "core/tracing/follow_ink.h"
#include "core/tracing/placing.h"

namespace prism::app {
namespace {

/// What each pick is for, in the order of the picks.
QStringList stepsOf(MarkTool::Kind k) {
    using K = MarkTool::Kind;
    switch (k) {
    case K::line:
        return {MarkTool::tr("Pick where the line starts"), MarkTool::tr("Pick where it ends")};
    case K::arc:
        return {MarkTool::tr("Pick where the arc starts"), MarkTool::tr("Pick a place it passes"),
                MarkTool::tr("Pick where it ends")};
    case K::circle:
        return {MarkTool::tr("Pick the centre of the circle"), MarkTool::tr("Pick a place on the circle")};
    case K::curve:
        return {MarkTool::tr("Pick where the curve starts"),
                MarkTool::tr("Pick places along it; Enter, or the last place again, ends it")};
    case K::trim:
        return {MarkTool::tr("Click the part of a line that is too much")};
    case K::extend:
        return {MarkTool::tr("Click a line near the end that is too short")};
    case K::corner:
        return {MarkTool::tr("Click the first line, on the side that stays"),
                MarkTool::tr("Click the second line, on the side that stays")};
    case K::offset:
        return {MarkTool::tr("Click the line to offset"),
                MarkTool::tr("Click the side where the new line goes")};
    case K::move:
        return {MarkTool::tr("Pick the place to move the chosen lines by"),
                MarkTool::tr("Pick where it goes")};
    case K::remove:
        return {MarkTool::tr("Click a line that is not part of the sheet")};
    case K::distance:
    case K::aligned:
        return {MarkTool::tr("Pick the first place"), MarkTool::tr("Pick the second place"),
                MarkTool::tr("Pick where the dimension line runs")};
    case K::radius:
    case K::diameter:
        return {MarkTool::tr("Click the arc or circle"), MarkTool::tr("Pick where its number stands")};
    case K::angle:
        return {MarkTool::tr("Pick the vertex"), MarkTool::tr("Pick a place on the first side"),
                MarkTool::tr("Pick a place on the second side"),
                MarkTool::tr("Pick where the dimension arc runs")};
    case K::none:
        break;
    }
    return {};
}

} // namespace

void MarkTool::start(Kind k) {
    kind_ = k;
    picks_.clear();
    if (k == Kind::move && session_.hasSheet() && session_.chosen().entities.empty()) {
        kind_ = Kind::none;
        emit refused(tr("Choose the lines to move first, on the sheet"));
    }
    emit stepped();
}

int MarkTool::wanted() const {
    return static_cast<int>(stepsOf(kind_).size());
}

bool MarkTool::wantsPlace() const {
    switch (kind_) {
    case Kind::trim:
    case Kind::extend:
    case Kind::corner:
    case Kind::remove:
        return false;
    case Kind::offset:
    case Kind::radius:
    case Kind::diameter:
        return !picks_.empty();
    default:
        return kind_ != Kind::none;
    }
}

QString MarkTool::hint() const {
    const QStringList steps = stepsOf(kind_);
    const int n = kind_ == Kind::curve ? std::min<int>(1, static_cast<int>(picks_.size()))
                                       : static_cast<int>(picks_.size());
    return n < steps.size() ? steps[n] + tr(" (Esc leaves)") : QString();
}

std::optional<Vec2> MarkTool::from() const {
    return picks_.empty() ? std::nullopt : std::optional(picks_.back().at);
}

std::vector<Curve> MarkTool::ghost(Vec2 at) const {
    if (picks_.empty()) return {};
    const Vec2 a = picks_[0].at;
    if (kind_ == Kind::circle) return {Arc{a, distance(a, at), 0, 2 * kPi}};
    if (kind_ == Kind::arc && picks_.size() == 2) {
        const auto arc = arcThrough(a, picks_[1].at, at);
        return arc ? std::vector<Curve>{*arc} : std::vector<Curve>{};
    }
    if (kind_ == Kind::curve) {
        std::vector<Vec2> through;
        for (const Pick& p : picks_) through.push_back(p.at);
        if (distance(at, through.back()) > 0) through.push_back(at);
        if (through.size() < 2) return {};
        return {through.size() > 2 ? Curve(splineThrough(through)) : Curve(Segment{through[0], through[1]})};
    }
    if (kind_ == Kind::move) {
        std::vector<Curve> r;
        for (int e : session_.chosen().entities)
            for (const Curve& c : model().drawing->entities[e].curves)
                r.push_back(transformed(c, Affine2::shift(at - a)));
        return r;
    }
    if (kind_ == Kind::offset) {
        const auto c =
            offsetBy(model().drawing->entities[picks_[0].entity].curves[curveAt(picks_[0])], offset_, at);
        return c ? std::vector<Curve>{*c} : std::vector<Curve>{};
    }
    if (at == a) return {};
    return {Segment{picks_.back().at, at}};
}

void MarkTool::pick(Vec2 at, int entity) {
    if (kind_ == Kind::none) return;
    if (!wantsPlace() && entity < 0) return emit refused(tr("No line lies there"));
    if (!picks_.empty() && wantsPlace() && kind_ != Kind::offset && distance(at, picks_.back().at) == 0)
        return kind_ == Kind::curve ? endCurve() : void();
    picks_.push_back({at, entity});
    if (kind_ != Kind::curve && static_cast<int>(picks_.size()) == wanted()) {
        finish();
        picks_.clear();
    }
    emit stepped();
}

void MarkTool::endCurve() {
    if (kind_ != Kind::curve || picks_.empty()) return;
    std::vector<Vec2> through;
    for (const Pick& p : picks_) through.push_back(p.at);
    picks_.clear();
    if (through.size() < 3)
        emit refused(tr("A curve needs three places at least"));
    else
        add(tr("Curve added"), splineThrough(through));
    emit stepped();
}

/// On a scan a line goes where its ink runs; an end that was put on another line's end stays there.
Curve MarkTool::ontoInk(const Curve& c) const {
    const std::vector<Picture>& pictures = model().drawing->pictures;
    const int picture = pictureAt(pictures, pointAt(c, 0.5));
    if (picture < 0) return c;
    Curve on = alongInk(pictures[picture], c);
    if (auto* s = std::get_if<Segment>(&on)) {
        const Segment& drawn = std::get<Segment>(c);
        for (auto [now, put] : {std::pair{&s->a, drawn.a}, std::pair{&s->b, drawn.b}}) {
            const Snap k =
                snapNear(*model().drawing, model().sheet.in_use, put, 1e-6 * pictures[picture].pixel).kind;
            if (k != Snap::none && k != Snap::on_line) *now = put;
        }
    }
    return on;
}

void MarkTool::finish() {
    const Pick &p = picks_.front(), &q = picks_.back();
    switch (kind_) {
    case Kind::line:
        return add(tr("Line added"), Segment{p.at, q.at});
    case Kind::circle:
        return add(tr("Circle added"), Arc{p.at, distance(p.at, q.at), 0, 2 * kPi});
    case Kind::arc: {
        const auto a = arcThrough(p.at, picks_[1].at, q.at);
        return a ? add(tr("Arc added"), *a) : emit refused(sentence(a.error().message));
    }
    case Kind::offset: {
        const auto c = offsetBy(model().drawing->entities[p.entity].curves[curveAt(p)], offset_, q.at);
        return c ? add(tr("Line offset"), *c) : emit refused(sentence(c.error().message));
    }
    case Kind::trim:
        return trim(p);
    case Kind::extend:
        return extend(p);
    case Kind::corner:
        return corner();
    case Kind::remove:
        return reshape(tr("Line deleted"), {{p.entity, {}}});
    case Kind::move: {
        std::vector<std::pair<int, std::vector<Curve>>> lines;
        for (int e : session_.chosen().entities) {
            std::vector<Curve> moved;
            for (const Curve& c : model().drawing->entities[e].curves)
                moved.push_back(transformed(c, Affine2::shift(q.at - p.at)));
            lines.emplace_back(e, std::move(moved));
        }
        return reshape(tr("Lines moved"), std::move(lines));
    }
    default:
        return addDimension();
    }
}

void MarkTool::add(const QString& label, const Curve& c) {
    const Curve inFile = transformed(ontoInk(c), model().sheet.to_file);
    session_.change(label, [inFile, role = role_](Choices& choices) {
        choices.marks.lines.push_back({MarkedLine::Kind::add, freshName(choices.marks), {inFile}, role});
    });
}

void MarkTool::reshape(const QString& label, std::vector<std::pair<int, std::vector<Curve>>> lines) {
    std::vector<MarkedLine> marks;
    for (auto& [entity, curves] : lines) {
        MarkedLine m{curves.empty() ? MarkedLine::Kind::remove : MarkedLine::Kind::reshape,
                     keyOf(model().drawing->entities[entity]),
                     {},
                     role_};
        for (const Curve& c : curves) m.curves.push_back(transformed(c, model().sheet.to_file));
        marks.push_back(std::move(m));
    }
    session_.change(label, [marks](Choices& c) {
        c.marks.lines.insert(c.marks.lines.end(), marks.begin(), marks.end());
    });
}

size_t MarkTool::curveAt(const Pick& p) const {
    const auto& curves = model().drawing->entities[p.entity].curves;
    size_t best = 0;
    for (size_t i = 1; i < curves.size(); ++i)
        if (distanceTo(curves[i], p.at) < distanceTo(curves[best], p.at)) best = i;
    return best;
}

std::vector<Curve> MarkTool::othersNear(int entity, size_t curve) const {
    std::vector<Curve> r;
    for (const Entity& e : model().drawing->entities) {
        if (!model().sheet.in_use[e.id]) continue;
        for (size_t i = 0; i < e.curves.size(); ++i)
            if (e.id != entity || i != curve) r.push_back(e.curves[i]);
    }
    return r;
}

std::vector<Curve> MarkTool::withCurve(int entity, size_t index, std::vector<Curve> now) const {
    std::vector<Curve> r = model().drawing->entities[entity].curves;
    r.erase(r.begin() + static_cast<long>(index));
    r.insert(r.begin() + static_cast<long>(index), now.begin(), now.end());
    return r;
}

void MarkTool::trim(const Pick& p) {
    const size_t i = curveAt(p);
    const Curve& c = model().drawing->entities[p.entity].curves[i];
    const auto left = trimmed(c, othersNear(p.entity, i), p.at, model().sheet.tolerances.touch_sheet);
    if (!left) return emit refused(sentence(left.error().message));
    reshape(tr("Line trimmed"), {{p.entity, withCurve(p.entity, i, *left)}});
}

void MarkTool::extend(const Pick& p) {
    const size_t i = curveAt(p);
    const Curve& c = model().drawing->entities[p.entity].curves[i];
    const auto longer = extended(c, othersNear(p.entity, i), p.at, model().sheet.tolerances.touch_sheet);
    if (!longer) return emit refused(sentence(longer.error().message));
    reshape(tr("Line extended"), {{p.entity, withCurve(p.entity, i, {*longer})}});
}

void MarkTool::corner() {
    const Pick &p = picks_[0], &q = picks_[1];
    const size_t i = curveAt(p), j = curveAt(q);
    const auto* a = std::get_if<Segment>(&model().drawing->entities[p.entity].curves[i]);
    const auto* b = std::get_if<Segment>(&model().drawing->entities[q.entity].curves[j]);
    if (!a || !b || p.entity == q.entity) return emit refused(tr("Two different straight lines are needed"));
    const auto r = cornered(*a, p.at, *b, q.at);
    if (!r) return emit refused(sentence(r.error().message));
    reshape(tr("Lines joined in a corner"), {{p.entity, withCurve(p.entity, i, {r->first})},
                                             {q.entity, withCurve(q.entity, j, {r->second})}});
}

void MarkTool::addDimension() {
    const Affine2& m = model().sheet.to_file;
    AddedDimension d;
    const Vec2 last = picks_.back().at;
    d.text_at = m(last);
    d.says = says_;
    if (kind_ == Kind::distance || kind_ == Kind::aligned) {
        const Vec2 a = picks_[0].at, b = picks_[1].at;
        d.kind = kind_ == Kind::aligned ? DimensionKind::aligned : DimensionKind::linear;
        // The line runs level when it is placed above or below both places, upright when beside them.
        const double above = std::max({last.y - std::max(a.y, b.y), std::min(a.y, b.y) - last.y, 0.0});
        const double beside = std::max({last.x - std::max(a.x, b.x), std::min(a.x, b.x) - last.x, 0.0});
        const bool level = above == beside ? std::abs(a.x - b.x) > std::abs(a.y - b.y) : above > beside;
        d.angle = level ? 0 : kPi / 2;
        d.p13 = m(a), d.p14 = m(b);
        const Vec2 u = kind_ == Kind::aligned ? normalized(b - a) : direction(d.angle);
        d.p10 = m(b + Vec2{-u.y, u.x} * dot(last - b, {-u.y, u.x}));
    } else if (kind_ == Kind::angle) {
        d.kind = DimensionKind::angular;
        d.p15 = m(picks_[0].at), d.p13 = m(picks_[1].at), d.p14 = m(picks_[2].at), d.p10 = m(last);
    } else {
        const auto* a =
            std::get_if<Arc>(&model().drawing->entities[picks_[0].entity].curves[curveAt(picks_[0])]);
        if (!a) return emit refused(tr("An arc or a circle is needed"));
        const Vec2 out = normalized(last - a->centre) * a->radius;
        d.kind = kind_ == Kind::radius ? DimensionKind::radius : DimensionKind::diameter;
        d.p15 = m(a->centre + out);
        d.p10 = m(kind_ == Kind::radius ? a->centre : a->centre - out);
    }
    session_.change(tr("Dimension added"), [d](Choices& c) { c.marks.dimensions.push_back(d); });
}

} // namespace prism::app
