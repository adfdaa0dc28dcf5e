#include "app/places/sheet/mark_tool.h"

#include "core/cleaning/stood_for.h"
#include "core/marking/reshape.h"

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
        for (const LinePick& p : picks_) through.push_back(p.at);
        if (distance(at, through.back()) > 0) through.push_back(at);
        if (through.size() < 2) return {};
        return {through.size() > 2 ? Curve(splineThrough(through)) : Curve(Segment{through[0], through[1]})};
    }
    if (kind_ == Kind::move) {
        std::vector<Curve> r;
        for (auto& [line, moved] : movedBy(*model().drawing, session_.chosen().entities, at - a))
            r.insert(r.end(), moved.begin(), moved.end());
        return r;
    }
    if (kind_ == Kind::offset) {
        const auto c = offsetBy(curveAt(*model().drawing, picks_[0]), offset_, at);
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
    for (const LinePick& p : picks_) through.push_back(p.at);
    picks_.clear();
    if (through.size() < 3)
        emit refused(tr("A curve needs three places at least"));
    else
        add(tr("Curve added"), splineThrough(through));
    emit stepped();
}

void MarkTool::finish() {
    const Drawing& d = *model().drawing;
    const double touch = model().sheet.tolerances.touch_sheet;
    const LinePick &p = picks_.front(), &q = picks_.back();
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
        const auto c = offsetBy(curveAt(*model().drawing, p), offset_, q.at);
        return c ? add(tr("Line offset"), *c) : emit refused(sentence(c.error().message));
    }
    case Kind::trim:
        return reshape(tr("Line trimmed"), trimAt(d, model().sheet.in_use, p, touch));
    case Kind::extend:
        return reshape(tr("Line extended"), extendAt(d, model().sheet.in_use, p, touch));
    case Kind::corner:
        return reshape(tr("Lines joined in a corner"), cornerAt(d, p, q));
    case Kind::remove:
        return reshape(tr("Line deleted"), LineEdits{{p.line, {}}});
    case Kind::move:
        return reshape(tr("Lines moved"), movedBy(d, session_.chosen().entities, q.at - p.at));
    case Kind::distance:
    case Kind::aligned:
        return addDimension(distanceDimension(p.at, picks_[1].at, q.at, kind_ == Kind::aligned));
    case Kind::angle:
        return addDimension(angleDimension(p.at, picks_[1].at, picks_[2].at, q.at));
    case Kind::radius:
    case Kind::diameter:
        return addDimension(roundDimension(curveAt(d, p), q.at, kind_ == Kind::diameter));
    default:
        return;
    }
}

void MarkTool::add(const QString& label, const Curve& c) {
    const Curve inFile = transformed(ontoInk(model(), c), model().sheet.to_file);
    session_.change(label, [inFile, role = role_](Choices& choices) {
        choices.marks.lines.push_back({MarkedLine::Kind::add, freshName(choices.marks), {inFile}, role});
    });
}

void MarkTool::reshape(const QString& label, const Result<LineEdits>& edits) {
    if (!edits) return emit refused(sentence(edits.error().message));
    session_.change(label, [marks = marksOn(model().sheet, *edits)](Choices& c) {
        c.marks.lines.insert(c.marks.lines.end(), marks.begin(), marks.end());
    });
}

void MarkTool::addDimension(const Result<AddedDimension>& made) {
    if (!made) return emit refused(sentence(made.error().message));
    AddedDimension d = transformed(*made, model().sheet.to_file);
    d.says = says_;
    session_.change(tr("Dimension added"), [d](Choices& c) { c.marks.dimensions.push_back(d); });
}

} // namespace prism::app
