#include "core/marking/line_edits.h"

#include "core/marking/reshape.h"

namespace prism {
namespace {

size_t indexAt(const Drawing& d, const LinePick& p) {
    const auto& curves = d.entities[p.line].curves;
    size_t best = 0;
    for (size_t i = 1; i < curves.size(); ++i)
        if (distanceTo(curves[i], p.at) < distanceTo(curves[best], p.at)) best = i;
    return best;
}

/// All curves of the sheet but this one.
std::vector<Curve> others(const Drawing& d, const std::vector<bool>& in_use, int line, size_t curve) {
    std::vector<Curve> r;
    for (const Entity& e : d.entities) {
        if (!in_use[e.id]) continue;
        for (size_t i = 0; i < e.curves.size(); ++i)
            if (e.id != line || i != curve) r.push_back(e.curves[i]);
    }
    return r;
}

std::vector<Curve> withCurve(const Drawing& d, int line, size_t index, const std::vector<Curve>& now) {
    std::vector<Curve> r = d.entities[line].curves;
    r.insert(r.erase(r.begin() + static_cast<long>(index)), now.begin(), now.end());
    return r;
}

} // namespace

const Curve& curveAt(const Drawing& d, const LinePick& p) {
    return d.entities[p.line].curves[indexAt(d, p)];
}

Result<LineEdits> trimAt(const Drawing& d, const std::vector<bool>& in_use, const LinePick& p,
                         double tolerance) {
    const size_t i = indexAt(d, p);
    return trimmed(curveAt(d, p), others(d, in_use, p.line, i), p.at, tolerance)
        .map([&](const std::vector<Curve>& left) {
            return LineEdits{{p.line, withCurve(d, p.line, i, left)}};
        });
}

Result<LineEdits> extendAt(const Drawing& d, const std::vector<bool>& in_use, const LinePick& p,
                           double tolerance) {
    const size_t i = indexAt(d, p);
    return extended(curveAt(d, p), others(d, in_use, p.line, i), p.at, tolerance)
        .map([&](const Curve& longer) {
            return LineEdits{{p.line, withCurve(d, p.line, i, {longer})}};
        });
}

Result<LineEdits> cornerAt(const Drawing& d, const LinePick& p, const LinePick& q) {
    const auto* a = std::get_if<Segment>(&curveAt(d, p));
    const auto* b = std::get_if<Segment>(&curveAt(d, q));
    if (!a || !b || p.line == q.line)
        return failure(ErrorCode::impossible, "two different straight lines are needed");
    return cornered(*a, p.at, *b, q.at).map([&](const std::pair<Segment, Segment>& r) {
        return LineEdits{{p.line, withCurve(d, p.line, indexAt(d, p), {r.first})},
                         {q.line, withCurve(d, q.line, indexAt(d, q), {r.second})}};
    });
}

LineEdits movedBy(const Drawing& d, const std::set<int>& lines, Vec2 by) {
    LineEdits r;
    for (int line : lines) {
        std::vector<Curve> moved;
        for (const Curve& c : d.entities[line].curves) moved.push_back(transformed(c, Affine2::shift(by)));
        r.emplace_back(line, std::move(moved));
    }
    return r;
}

std::vector<MarkedLine> marksOf(const Drawing& d, const LineEdits& edits, const Affine2& to_file) {
    std::vector<MarkedLine> r;
    for (const auto& [line, curves] : edits) {
        MarkedLine m{curves.empty() ? MarkedLine::Kind::remove : MarkedLine::Kind::reshape,
                     keyOf(d.entities[line]),
                     {},
                     LineRole::outline};
        for (const Curve& c : curves) m.curves.push_back(transformed(c, to_file));
        r.push_back(std::move(m));
    }
    return r;
}

} // namespace prism
