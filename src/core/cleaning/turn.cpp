#include "core/cleaning/workbench.h"

// A sheet that lies askew: scanned, digitised or exported at an angle.
namespace prism::cleaning {
namespace {

constexpr double kFinest = 1e-5;   ///< radians; less is not worth a repair
constexpr double kSlight = 1e-3;   ///< radians; below this, lines that are off one by one look much the same
constexpr double kBin = 2e-4;      ///< directions this close are one (radians)
constexpr double kExact = 2e-6;    ///< directions that were one before the sheet was turned (radians)
constexpr double kShare = 0.6;     ///< of the part's straight length that must agree
constexpr double kStraight = 0.15; ///< of it that must run either way, and may at most run upright already
constexpr double kQuarter = kPi / 2;

struct Direction {
    double angle, length; ///< angle folded into one quarter turn, [-pi/4, pi/4)
    bool crosswise;       ///< nearer to upright than to level
};

double folded(double angle) {
    const double a = positiveAngle(angle + kQuarter / 2);
    return a - kQuarter * std::floor(a / kQuarter) - kQuarter / 2;
}

std::vector<Direction> directionsOf(const Workbench& w) {
    std::vector<Direction> r;
    for (const Piece& p : w.pieces())
        if (const auto* s = std::get_if<Segment>(&w.curve(p)))
            if (const double l = distance(s->a, s->b); l > w.touch()) {
                const Vec2 d = s->b - s->a;
                r.push_back({folded(angleOf(d)), l, std::abs(d.y) > std::abs(d.x)});
            }
    std::sort(r.begin(), r.end(), [](const auto& a, const auto& b) { return a.angle < b.angle; });
    return r;
}

/// The direction, off the axes, that most of the straight length runs in; the longest lines say how exactly.
double askew(const std::vector<Direction>& d) {
    double total = 0, upright = 0, best = 0, angle = 0;
    for (const Direction& x : d) total += x.length, upright += std::abs(x.angle) < kFinest ? x.length : 0;
    if (upright > kStraight * total) return 0; // oblique lines on an upright sheet: hatching, a pictorial
    size_t i = 0;
    while (i < d.size()) {
        double sum = 0, weighted = 0, weights = 0;
        size_t j = i;
        for (; j < d.size() && d[j].angle - d[i].angle < kBin; ++j) {
            sum += d[j].length;
            weighted += d[j].angle * d[j].length * d[j].length;
            weights += d[j].length * d[j].length;
        }
        if (sum > best) best = sum, angle = weighted / weights;
        i = j;
    }
    if (std::abs(angle) < kSlight) {
        best = 0;
        for (const Direction& x : d) best += std::abs(x.angle - angle) <= kExact ? x.length : 0;
    }
    double along[2] = {0, 0};
    for (const Direction& x : d)
        if (std::abs(x.angle - angle) < kBin) along[x.crosswise] += x.length;
    const bool bothWays = std::min(along[0], along[1]) > kStraight * total;
    return best >= kShare * total && bothWays ? angle : 0;
}

/// Quarter turns that the texts ask for: all of them read from below or the right on an upright sheet.
double quarterTurns(const Drawing& d, double askewBy) {
    int upright = 0, turned[4] = {0, 0, 0, 0};
    for (const SheetText& t : d.texts) {
        const double off = t.rotation - askewBy;
        const int quarter = static_cast<int>(std::lround(positiveAngle(off) / kQuarter)) % 4;
        ++turned[quarter];
        upright += quarter == 0;
    }
    if (upright > 0) return 0;
    for (int q = 1; q < 4; ++q)
        if (turned[q] >= 4 && turned[q] == static_cast<int>(d.texts.size())) return q * kQuarter;
    return 0;
}

void turn(Drawing& d, const Affine2& m, double by) {
    for (Entity& e : d.entities) {
        for (Curve& c : e.curves) c = transformed(c, m);
        if (e.point) e.point = m(*e.point);
    }
    for (SheetText& t : d.texts) t.position = m(t.position), t.rotation += by;
    for (Dimension& x : d.dimensions) {
        for (Vec2* p : {&x.p10, &x.p13, &x.p14, &x.p15, &x.p16, &x.text_at}) *p = m(*p);
        x.angle += by;
    }
    for (Picture& p : d.pictures) p.to_sheet = m * p.to_sheet;
}

/// Turning leaves the last digits of what is now level or upright a little off; those are made equal.
void settle(Drawing& d, double tolerance) {
    for (Entity& e : d.entities)
        for (Curve& c : e.curves)
            if (auto* s = std::get_if<Segment>(&c)) {
                if (std::abs(s->a.y - s->b.y) <= tolerance) s->a.y = s->b.y = (s->a.y + s->b.y) / 2;
                if (std::abs(s->a.x - s->b.x) <= tolerance) s->a.x = s->b.x = (s->a.x + s->b.x) / 2;
            }
}

} // namespace

void moveOrigin(Workbench& w) {
    constexpr double far = 1e4; ///< in sizes of the sheet: nearer by, no digit that matters is lost
    const Box2 box = w.drawing().box();
    if (!box.valid() || length(box.centre()) < far * box.diagonal() || box.diagonal() == 0) return;
    // By whole units, so that round coordinates stay round.
    const Vec2 by{std::floor(box.lo.x), std::floor(box.lo.y)};
    if (!w.record("origin_moved", {}, box.lo - by, length(by))) return;
    turn(w.own(), Affine2::shift(-by), 0);
    w.sheet().to_file = w.sheet().to_file * Affine2::shift(by);
}

void turnSheet(Workbench& w) {
    const double off = askew(directionsOf(w));
    const double by = (std::abs(off) > kFinest ? off : 0) + quarterTurns(w.drawing(), off);
    if (by == 0) return;
    const Vec2 centre = w.drawing().box().centre();
    if (!w.record("sheet_turned", {}, centre, by)) return;
    const Affine2 back = Affine2::shift(centre) * Affine2::rotation(by) * Affine2::shift(-centre);
    turn(w.own(), back.inverse(), -by);
    settle(w.own(), w.sheet().tolerances.same_sheet);
    w.sheet().to_file = back;
}

} // namespace prism::cleaning
