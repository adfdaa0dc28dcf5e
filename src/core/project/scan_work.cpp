#include "core/project/scan_work.h"

#include "core/marking/dimensioning.h"
#include "core/marking/snaps.h"
#include "core/tracing/follow_ink.h"
#include "core/tracing/placing.h"

namespace prism {
namespace {

/// Maps that stretch one way by less than this keep a circle a circle: what was traced on a scan that proves
/// to be stretched was round on paper.
constexpr double kNearlyEven = 0.08;

double unevenness(const Affine2& m) {
    const double p = m.a * m.a + m.b * m.b, q = m.c * m.c + m.d * m.d, r = m.a * m.c + m.b * m.d;
    const double mean = (p + q) / 2, half = std::hypot((p - q) / 2, r);
    return mean > 0 ? std::sqrt((mean + half) / std::max(mean - half, 1e-12 * mean)) - 1 : 0;
}

Curve moved(const Curve& c, const Affine2& m) {
    const auto* a = std::get_if<Arc>(&c);
    if (!a || m.keepsCircles() || unevenness(m) > kNearlyEven) return transformed(c, m);
    Arc r{m(a->centre), a->radius * std::sqrt(std::abs(m.determinant())), a->start, a->sweep};
    if (a->full()) return r;
    const Vec2 from = m(startOf(c)) - r.centre, to = m(endOf(c)) - r.centre;
    const double turn = a->sweep * (m.determinant() < 0 ? -1 : 1);
    r.start = angleOf(from);
    r.sweep = turn > 0 ? positiveAngle(angleOf(to) - r.start) : -positiveAngle(r.start - angleOf(to));
    return r;
}

} // namespace

Choices withPicturePlaced(const Model& m, const Choices& c, const PictureChoices& next) {
    Choices r = c;
    r.reading.picture = next;
    const std::vector<Picture>& was = m.source->pictures;
    if (was.empty()) return r;
    const std::vector<Picture> now = placed(was[0].scan, was[0].name, next);
    // The map for a place: off the picture it was on, and onto the one that now shows those pixels.
    auto mapAt = [&](Vec2 p) {
        const int i = std::max(0, pictureAt(was, p));
        const Vec2 pixel = was[i].to_sheet.inverse()(p);
        size_t k = 0;
        while (k + 1 < now.size() && !now[k].region.contains(pixel)) ++k;
        return now[k].to_sheet * was[i].to_sheet.inverse();
    };
    for (MarkedLine& l : r.marks.lines) {
        Box2 b;
        for (const Curve& k : l.curves) b.add(boxOf(k));
        if (!b.valid()) continue;
        const Affine2 map = mapAt(b.centre());
        for (Curve& k : l.curves) k = moved(k, map);
    }
    for (AddedDimension& d : r.marks.dimensions) d = transformed(d, mapAt(d.p13 == Vec2{} ? d.p15 : d.p13));
    return r;
}

Result<std::vector<TracedPicture>> traceAll(const Drawing& d, Progress& progress) {
    std::vector<TracedPicture> r;
    for (int i = 0; i < static_cast<int>(d.pictures.size()); ++i) {
        auto t = trace(d.pictures[i], progress);
        if (!t) return tl::make_unexpected(t.error());
        r.push_back({i, std::move(*t)});
    }
    return r;
}

Choices withAccepted(const Model& m, const Choices& c, const std::vector<TracedLine>& lines) {
    Choices r = c;
    long long next = freshNumber(r.marks);
    for (const TracedLine& l : lines)
        r.marks.lines.push_back(
            {MarkedLine::Kind::add, nameOfAdded(next++), {transformed(l.shape, m.sheet.to_file)}, l.role});
    return r;
}

Curve ontoInk(const Model& m, const Curve& c) {
    const std::vector<Picture>& pictures = m.drawing->pictures;
    const int picture = pictureAt(pictures, pointAt(c, 0.5));
    if (picture < 0) return c;
    Curve on = alongInk(pictures[picture], c);
    if (auto* s = std::get_if<Segment>(&on)) {
        const Segment& drawn = std::get<Segment>(c);
        for (auto [now, put] : {std::pair{&s->a, drawn.a}, std::pair{&s->b, drawn.b}}) {
            const Snap k = snapNear(*m.drawing, m.sheet.in_use, put, 1e-6 * pictures[picture].pixel).kind;
            if (k != Snap::none && k != Snap::on_line) *now = put;
        }
    }
    return on;
}

Choices withOverallSizes(const Model& m, const Choices& choices, Vec3 size) {
    PictureChoices next = choices.reading.picture;
    std::vector<KnownLength>& lengths = next.lengths;
    lengths.clear();
    for (const View& v : m.views.views) {
        const int picture = pictureAt(m.drawing->pictures, v.box_sheet.centre());
        if (!v.in_figure || picture < 0) continue;
        const Affine2 back = m.drawing->pictures[picture].to_sheet.inverse();
        const ViewAxes axes = axesOf(v.role);
        const Box2& b = v.box_sheet;
        const Vec2 middle = b.centre();
        if (const double mm = dot(size, unitOf(axes.right)); mm > 0)
            lengths.push_back({back({b.lo.x, middle.y}), back({b.hi.x, middle.y}), mm * v.scale,
                               KnownLength::Along::level});
        if (const double mm = dot(size, unitOf(axes.up)); mm > 0)
            lengths.push_back({back({middle.x, b.lo.y}), back({middle.x, b.hi.y}), mm * v.scale,
                               KnownLength::Along::upright});
    }
    return withPicturePlaced(m, choices, next);
}

} // namespace prism
