#include "core/proposing/sights.h"

#include <span>

namespace prism {
namespace {

int cellAt(const Ray& r, double depth) {
    return r.cells[std::upper_bound(r.breaks.begin(), r.breaks.end(), depth) - r.breaks.begin()];
}

/// A line of sight, and those of its breaks that stand for several: where the surface is among them is not
/// known exactly.
struct SightLine : Ray {
    std::vector<double> blurred;
    bool isBlurred(double at) const { return std::ranges::find(blurred, at) != blurred.end(); }
};

/// Two lines of sight close to a place on either side, and one farther off behind each: the farther ones tell
/// the slope of what is seen.
struct Beside {
    SightLine far_a, a, b, far_b;
    double apart = 0;  ///< between a line and the farther one behind it, mm
    bool clear = true; ///< nothing is drawn between these two: what is seen farther off is what is seen here
};

/// The breaks of a ray in a range.
std::span<const double> breaksIn(const Ray& r, double lo, double hi) {
    const auto first = std::lower_bound(r.breaks.begin(), r.breaks.end(), lo);
    return {first, std::upper_bound(first, r.breaks.end(), hi)};
}

/// Whether the surface that a line of sight meets at a break is met by one farther off as well, between the
/// same cells but much deeper or less deep: it is seen steeply, as a slender cone from its end.
bool goesOnSteeply(const Ray& near, double at, const Ray& far, double least, double most) {
    const auto i = static_cast<size_t>(std::ranges::lower_bound(near.breaks, at) - near.breaks.begin());
    for (size_t k = 0; k < far.breaks.size(); ++k) {
        const double off = std::abs(far.breaks[k] - at);
        if (off >= least && off <= most && far.cells[k] == near.cells[i] &&
            far.cells[k + 1] == near.cells[i + 1])
            return true;
    }
    return false;
}

/// Whether the boundary in a range of depths bends between the two lines of sight.
Bend bends(const Beside& s, double lo, double hi) {
    // A round surface turns a little between the lines of sight as well, the more the steeper it is seen.
    constexpr double kBend = 0.04, kSteepest = 12, kMuchSteeper = 60;
    const auto a = breaksIn(s.a, lo, hi), b = breaksIn(s.b, lo, hi);
    if (a.empty() || b.empty()) return Bend::no;
    if (a.size() > 1 || b.size() > 1) return Bend::maybe;
    const double reach = kSteepest * s.apart;
    const auto far_a = breaksIn(s.far_a, a[0] - reach, a[0] + reach),
               far_b = breaksIn(s.far_b, b[0] - reach, b[0] + reach);
    const bool blurred = !s.clear || s.a.isBlurred(a[0]) || s.b.isBlurred(b[0]);
    if (blurred) return Bend::maybe;
    if (far_a.empty() || far_b.empty()) {
        const double most = kMuchSteeper * s.apart;
        const bool steep_a = far_a.empty() && goesOnSteeply(s.a, a[0], s.far_a, reach, most),
                   steep_b = far_b.empty() && goesOnSteeply(s.b, b[0], s.far_b, reach, most);
        return steep_a != steep_b ? Bend::maybe : Bend::no;
    }
    bool sure = far_a.size() == 1 && far_b.size() == 1, turns = false;
    // Farther off, what is one break here may have become two: any of them may be the surface that goes on.
    for (const double in_a : far_a)
        for (const double in_b : far_b) {
            sure = sure && !s.far_a.isBlurred(in_a) && !s.far_b.isBlurred(in_b);
            const double before = a[0] - in_a, after = in_b - b[0];
            const double steep = std::hypot(std::max(std::abs(before), std::abs(after)), s.apart) / s.apart;
            const double turn = std::abs(std::atan2(before, s.apart) - std::atan2(after, s.apart));
            turns = turns || turn > kBend * steep;
        }
    if (sure) return turns ? Bend::yes : Bend::no;
    return turns || far_a.size() + far_b.size() == 2 ? Bend::maybe : Bend::no;
}

/// A line of sight without what is so short on it that two breaks are meant to be one.
SightLine withoutSlivers(const Ray& r, double least) {
    SightLine kept{{{}, {r.cells.front()}}, {}};
    for (size_t i = 0; i < r.breaks.size(); ++i) {
        const int cell = r.cells[i + 1];
        if (kept.breaks.empty() || r.breaks[i] - kept.breaks.back() > least)
            kept.breaks.push_back(r.breaks[i]), kept.cells.push_back(cell);
        else
            kept.cells.back() = cell, kept.blurred.push_back(kept.breaks.back());
    }
    return kept;
}

/// What of a line of sight lies behind the plane of a section; in front of it is air.
SightLine behind(const SightLine& r, double plane, bool from_low, double slack) {
    const auto first =
        std::lower_bound(r.breaks.begin(), r.breaks.end(), from_low ? plane + slack : plane - slack);
    const auto k = first - r.breaks.begin();
    SightLine cut;
    cut.blurred = r.blurred;
    if (from_low) {
        cut.breaks.push_back(plane), cut.cells.push_back(-1);
        cut.breaks.insert(cut.breaks.end(), first, r.breaks.end());
        cut.cells.insert(cut.cells.end(), r.cells.begin() + k, r.cells.end());
    } else {
        cut.breaks.assign(r.breaks.begin(), first),
            cut.cells.assign(r.cells.begin(), r.cells.begin() + k + 1);
        cut.breaks.push_back(plane), cut.cells.push_back(-1);
    }
    return cut;
}

/// Breaks of two lines of sight, each as one boundary: in one of them, or in both as far as they belong
/// together.
struct Boundary {
    double a = std::numeric_limits<double>::quiet_NaN(), b = a; ///< where it is; not a number where it is not
    double lo() const { return std::isnan(a) ? b : std::isnan(b) ? a : std::min(a, b); }
    double hi() const { return std::isnan(a) ? b : std::isnan(b) ? a : std::max(a, b); }
};

/// A few breaks close by each other, as boundaries. Where one line of sight has more of them than the other,
/// those that lie closest are one: what is left passes through something thin.
void pairUp(std::span<const double> a, std::span<const double> b, std::vector<Boundary>& out) {
    if (a.size() == b.size()) {
        for (size_t i = 0; i < a.size(); ++i) out.push_back({a[i], b[i]});
        return;
    }
    const auto single = [&](double x, bool of_a) {
        Boundary r;
        (of_a ? r.a : r.b) = x;
        out.push_back(r);
    };
    const bool few_a = a.size() < b.size();
    const auto few = few_a ? a : b, many = few_a ? b : a;
    size_t best = 0; // from which on the others belong to them
    double least = std::numeric_limits<double>::infinity();
    for (size_t k = 0; k + few.size() <= many.size(); ++k) {
        double off = 0;
        for (size_t i = 0; i < few.size(); ++i) off += std::abs(few[i] - many[k + i]);
        if (off < least) least = off, best = k;
    }
    for (size_t i = 0; i < many.size(); ++i)
        if (i >= best && i < best + few.size())
            out.push_back(few_a ? Boundary{few[i - best], many[i]} : Boundary{many[i], few[i - best]});
        else
            single(many[i], !few_a);
}

/// The boundaries that two lines of sight side by side meet; those of both within `slack` may be one.
std::vector<Boundary> boundariesOf(const Ray& a, const Ray& b, double slack) {
    const std::vector<double>&in_a = a.breaks, &in_b = b.breaks;
    std::vector<Boundary> r;
    size_t i = 0, k = 0;
    while (i < in_a.size() || k < in_b.size()) {
        const double first = std::min(i < in_a.size() ? in_a[i] : std::numeric_limits<double>::infinity(),
                                      k < in_b.size() ? in_b[k] : std::numeric_limits<double>::infinity());
        size_t i1 = i, k1 = k;
        while (i1 < in_a.size() && in_a[i1] - first <= slack) ++i1;
        while (k1 < in_b.size() && in_b[k1] - first <= slack) ++k1;
        pairUp(std::span(in_a).subspan(i, i1 - i), std::span(in_b).subspan(k, k1 - k), r);
        i = i1, k = k1;
    }
    return r;
}

/// The same where nothing is drawn: whatever lies within `slack` is one boundary, for what is as thin as that
/// makes no line.
std::vector<Boundary> roughBoundariesOf(const Ray& a, const Ray& b, double slack) {
    std::vector<double> all = a.breaks;
    all.insert(all.end(), b.breaks.begin(), b.breaks.end());
    std::sort(all.begin(), all.end());
    std::vector<Boundary> r;
    for (size_t i = 0; i < all.size();) {
        size_t j = i;
        while (j + 1 < all.size() && all[j + 1] - all[i] <= slack) ++j;
        r.push_back({all[i], all[j]});
        i = j + 1;
    }
    return r;
}

/// Whether a surface that goes on from one line of sight to the other is seen so steeply that its breaks lie
/// farther apart than two boundaries may: what is there cannot be told. A step does not go on farther off.
bool tooSteep(const Beside& s, double slack) {
    constexpr double kMost = 20, kGoesOn = 0.2; // of the slack; of what lies between
    const auto goesOn = [](const Ray& far, double at, double off) {
        return std::ranges::all_of(far.breaks, [&](double x) { return std::abs(x - at) > kGoesOn * off; });
    };
    const Ray &a = s.a, &b = s.b;
    for (size_t i = 0; i < a.breaks.size(); ++i)
        for (size_t k = 0; k < b.breaks.size(); ++k) {
            const double off = std::abs(a.breaks[i] - b.breaks[k]);
            if (off > slack && off < kMost * slack && a.cells[i] == b.cells[k] &&
                a.cells[i + 1] == b.cells[k + 1] && goesOn(s.far_a, a.breaks[i], off) &&
                goesOn(s.far_b, b.breaks[k], off))
                return true;
        }
    return false;
}

/// Brings the two lines of sight to common intervals.
Sight aligned(const Beside& rays, const std::vector<Boundary>& boundaries, bool fromLow) {
    Sight s;
    int ca = rays.a.cells.front(), cb = rays.b.cells.front();
    for (const Boundary& m : boundaries) {
        if (!std::isnan(m.a)) ca = cellAt(rays.a, m.hi());
        if (!std::isnan(m.b)) cb = cellAt(rays.b, m.hi());
        if (!s.a.empty() && s.a.back() == ca && s.b.back() == cb) continue;
        s.crease.push_back(bends(rays, m.lo(), m.hi()));
        s.a.push_back(ca), s.b.push_back(cb);
    }
    if (!s.a.empty() && s.a.back() == rays.a.cells.back() && s.b.back() == rays.b.cells.back())
        s.a.pop_back(), s.b.pop_back(); // behind the last boundary is air
    if (fromLow) return s;
    std::reverse(s.a.begin(), s.a.end()), std::reverse(s.b.begin(), s.b.end());
    std::reverse(s.crease.begin(), s.crease.end());
    return s;
}

std::vector<double> levelsOf(const std::vector<ViewMap>& maps, Axis axis) {
    std::vector<double> r;
    for (const ViewMap& m : maps) {
        const bool right = m.view().axes.right == axis;
        if (!right && m.view().axes.up != axis) continue;
        for (const auto& [role, c] : m.curves()) {
            const Box2 b = boxOf(c);
            r.push_back(right ? b.lo.x : b.lo.y), r.push_back(right ? b.hi.x : b.hi.y);
            if (isClosed(c, 0)) continue;
            for (Vec2 p : {startOf(c), endOf(c)}) r.push_back(right ? p.x : p.y);
        }
    }
    std::sort(r.begin(), r.end());
    const double step = oneLevel(maps);
    r.erase(std::unique(r.begin(), r.end(), [&](double a, double b) { return b - a <= step; }), r.end());
    return r;
}

/// Collects what all places of all views demand.
class Sights {
  public:
    Sights(CellModel& model, const Tolerances& t, double size, LineKinds kinds, Progress& progress)
        : model_(model), progress_(progress), kinds_(kinds),
          beside_(std::max(1.5 * t.same_model, 5e-5 * size)), least_(std::max(beside_, 2.5 * t.same_model)) {
        for (const ViewMap& m : model.maps()) any_hidden_ = any_hidden_ || m.hasHidden();
    }
    void everywhere() {
        for (size_t k = 0; k < model_.maps().size(); ++k)
            alongGrid(static_cast<int>(k)), alongCurves(static_cast<int>(k)), inPlane(static_cast<int>(k)),
                asSaid(static_cast<int>(k));
    }
    void at(const SightPlace& p) { demand(p.map, p.at, p.side, p.weight); }
    /// What they demand; nothing is kept of it.
    std::map<Sight, Demand> taken() { return std::move(all_); }
    /// Whether all places were looked at.
    bool whole() const { return looked_ < kMostPlaces; }

  private:
    static constexpr int kMostPlaces = 200'000;

    /// A section seldom draws what is hidden, whatever the other views do.
    bool tellsHidden(const ViewMap& m) const { return m.cut() ? m.hasHidden() : any_hidden_; }

    /// The line of sight through a place of a view, from the plane on where it is a section.
    SightLine sight(int k, Vec2 p) {
        const ViewMap& m = model_.maps()[k];
        SightLine r = withoutSlivers(model_.ray(k, p), least_);
        return m.cut() ? behind(r, *m.cut(), viewerAtLowEnd(m.view()), 20 * beside_) : r;
    }

    void demand(int k, Vec2 p, Vec2 side, double weight) {
        if (progress_.cancelled() || looked_ >= kMostPlaces) return;
        ++looked_;
        const ViewMap& m = model_.maps()[k];
        const Vec2 a = p - side * beside_, b = p + side * beside_;
        const int on_a = m.areaAt(a), on_b = m.areaAt(b);
        if (on_a < 0 && on_b < 0) return;
        if (m.brokenOut(on_a) || m.brokenOut(on_b)) return; // lines there are those behind a plane
        const Vec2 far_a = p - side * (3 * beside_), far_b = p + side * (3 * beside_);
        const Beside rays{sight(k, far_a), sight(k, a), sight(k, b),
                          sight(k, far_b), 2 * beside_, m.areaAt(far_a) == on_a && m.areaAt(far_b) == on_b};
        const double slack = 20 * beside_;
        const bool low = viewerAtLowEnd(m.view());
        const LineRole line = m.lineAt(p);
        if (line == LineRole::unknown && on_a != on_b) return; // a line passes just beside the place
        const SightLineKey key = keyAt(k, p, side);
        const bool alike = kinds_ == LineKinds::alike, hidden = line == LineRole::hidden && !alike;
        if (line == LineRole::outline || line == LineRole::hidden) {
            Sight s = aligned(rays, boundariesOf(rays.a, rays.b, slack), low);
            s.seen = hidden || alike ? Seen::edge : Seen::step;
            demanded(std::move(s), weight, key);
            if (!hidden) return;
        }
        if (tooSteep(rays, slack)) return;
        Sight s = aligned(rays, roughBoundariesOf(rays.a, rays.b, slack), low);
        s.seen = !hidden && (tellsHidden(m) || alike) ? Seen::nothing : Seen::no_step;
        demanded(std::move(s), weight, key);
    }
    void demanded(Sight s, double weight, const SightLineKey& key) {
        Demand& d = all_[std::move(s)];
        d.weight += weight;
        d.lines.insert(key);
    }
    /// The line that is drawn at a place, or the level on which one would be.
    SightLineKey keyAt(int k, Vec2 p, Vec2 side) {
        const ViewMap& m = model_.maps()[static_cast<size_t>(k)];
        if (const int c = m.curveAt(p); c >= 0) return {k, SightLineKey::Kind::drawn, c};
        const bool upright = std::abs(side.x) > std::abs(side.y);
        const auto& levels = levelsAlong(upright ? m.view().axes.right : m.view().axes.up);
        const double x = upright ? p.x : p.y;
        const auto it = std::lower_bound(levels.begin(), levels.end(), x - beside_);
        return {k, upright ? SightLineKey::Kind::level_upright : SightLineKey::Kind::level_across,
                static_cast<int>(it - levels.begin())};
    }
    const std::vector<double>& levelsAlong(Axis a) {
        auto [it, isNew] = levels_.try_emplace(a);
        if (isNew) it->second = levelsOf(model_.maps(), a);
        return it->second;
    }
    void alongGrid(int k) {
        const ViewMap& m = model_.maps()[static_cast<size_t>(k)];
        const FigureView& v = m.view();
        const auto &u = levelsAlong(v.axes.right), &w = levelsAlong(v.axes.up);
        auto sweep = [&](const std::vector<double>& on, const std::vector<double>& across, bool upright) {
            for (double x : on) {
                const std::vector<double> parts =
                    partsAlong(m, upright ? v.axes.right : v.axes.up, x, across);
                for (size_t j = 0; j + 1 < parts.size(); ++j) {
                    const double gap = parts[j + 1] - parts[j], y = 0.5 * (parts[j] + parts[j + 1]);
                    if (gap < 8 * beside_) continue;
                    demand(k, upright ? Vec2{x, y} : Vec2{y, x}, upright ? Vec2{1, 0} : Vec2{0, 1}, gap);
                }
            }
        };
        sweep(u, w, true);
        sweep(w, u, false);
    }
    /// Where something may change along a level: at the levels across, and where it runs into another area.
    std::vector<double> partsAlong(const ViewMap& m, Axis fixed, double at,
                                   const std::vector<double>& across) const {
        std::vector<double> r = across;
        for (double beside : {at - beside_, at + beside_}) {
            const auto& breaks = m.scan(fixed, beside).breaks;
            r.insert(r.end(), breaks.begin(), breaks.end());
        }
        std::sort(r.begin(), r.end());
        return r;
    }
    /// Lines that run along neither axis are looked at in a few places each.
    void alongCurves(int k) {
        for (const ClosedArea& a : model_.maps()[k].areas()) {
            auto take = [&](const Loop& l) {
                for (const AreaEdge& e : l) {
                    const Vec2 t = tangentAt(e.shape, 0.5);
                    const bool straight = std::holds_alternative<Segment>(e.shape);
                    if (straight && std::min(std::abs(t.x), std::abs(t.y)) < 1e-6) continue;
                    for (double at : {0.21, 0.5, 0.77}) {
                        const Vec2 d = tangentAt(e.shape, at);
                        demand(k, pointAt(e.shape, at), {-d.y, d.x}, lengthOf(e.shape) / 3);
                    }
                }
            };
            take(a.outer);
            for (const Loop& h : a.holes) take(h);
        }
    }

    /// Hatched areas of a section are material where its plane is, the others are air (ISO 128-3).
    void inPlane(int k) {
        const ViewMap& m = model_.maps()[k];
        if (!m.hasHatching()) return;
        const bool low = viewerAtLowEnd(m.view());
        const auto take = [&](Vec2 p, int area, double weight) {
            if (area < 0 || !(m.cut() || m.localCut(area))) return;
            if (progress_.cancelled() || looked_ >= kMostPlaces) return;
            ++looked_;
            const SightLine r = sight(k, p);
            Sight s;
            s.seen = m.hatched(area) ? Seen::filled : Seen::empty;
            s.a = {m.cut() ? (low ? r.cells[1] : r.cells[r.cells.size() - 2])
                           : cellAt(r, *m.localCut(area) + (low ? beside_ : -beside_))};
            demanded(std::move(s), weight, {k, SightLineKey::Kind::hatching, 0});
        };
        const auto &u = levelsAlong(m.view().axes.right), &w = levelsAlong(m.view().axes.up);
        for (size_t i = 0; i + 1 < u.size(); ++i)
            for (size_t j = 0; j + 1 < w.size(); ++j) {
                const Vec2 p{0.5 * (u[i] + u[i + 1]), 0.5 * (w[j] + w[j + 1])};
                take(p, m.areaAt(p), std::min(u[i + 1] - u[i], w[j + 1] - w[j]));
            }
        for (size_t a = 0; a < m.areas().size(); ++a)
            take(m.areas()[a].seed, static_cast<int>(a), std::sqrt(m.areas()[a].area));
    }

    /// What a person has said of the areas of a view.
    void asSaid(int k) {
        const ViewMap& m = model_.maps()[static_cast<size_t>(k)];
        const auto take = [&](const KnownRegion& said, const ClosedArea& of, Vec2 p) {
            if (progress_.cancelled() || looked_ >= kMostPlaces) return;
            // In a figure without its holes an area reaches farther than the air that was said of one.
            constexpr double kSame = 1.001;
            const int here = m.areaAt(p);
            if (!said.material && here >= 0 && m.areas()[static_cast<size_t>(here)].area > kSame * of.area)
                return;
            ++looked_;
            const Ray r = model_.ray(k, p);
            for (size_t i = 0; i < r.cells.size(); ++i) {
                const double lo = i == 0 ? said.lo : std::max(said.lo, r.breaks[i - 1]),
                             hi = i == r.breaks.size() ? said.hi : std::min(said.hi, r.breaks[i]);
                if (hi - lo <= least_) continue;
                Sight s;
                s.seen = said.material ? Seen::material : Seen::air, s.a = {r.cells[i]};
                demanded(std::move(s), 0, {k, SightLineKey::Kind::hatching, 0});
            }
        };
        if (m.known().empty()) return;
        const auto &u = levelsAlong(m.view().axes.right), &w = levelsAlong(m.view().axes.up);
        for (const KnownRegion& said : m.known())
            for (const ClosedArea& a : said.areas) {
                take(said, a, a.seed);
                for (size_t i = 0; i + 1 < u.size(); ++i)
                    for (size_t j = 0; j + 1 < w.size(); ++j)
                        if (const Vec2 p{0.5 * (u[i] + u[i + 1]), 0.5 * (w[j] + w[j + 1])}; a.contains(p))
                            take(said, a, p);
            }
    }

    CellModel& model_;
    Progress& progress_;
    LineKinds kinds_;
    double beside_;
    double least_; ///< the same edge stands so far apart in two views at most
    bool any_hidden_ = false;
    int looked_ = 0;
    std::map<Sight, Demand> all_;
    std::map<Axis, std::vector<double>> levels_;
};

} // namespace

size_t placesOf(const std::vector<ViewMap>& maps) {
    size_t n = 0;
    for (const ViewMap& m : maps)
        n += 2 * levelsOf(maps, m.view().axes.right).size() * levelsOf(maps, m.view().axes.up).size();
    return n;
}

SightsSeen sightsOf(CellModel& model, const Tolerances& t, double size, LineKinds kinds, Progress& progress) {
    Sights sights(model, t, size, kinds, progress);
    sights.everywhere();
    return {sights.taken(), sights.whole()};
}

std::map<Sight, Demand> sightsAt(CellModel& model, const Tolerances& t, double size, LineKinds kinds,
                                 const std::vector<SightPlace>& places, Progress& progress) {
    Sights sights(model, t, size, kinds, progress);
    for (const SightPlace& p : places) sights.at(p);
    return sights.taken();
}

} // namespace prism
