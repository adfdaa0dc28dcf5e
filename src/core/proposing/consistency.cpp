#include "core/proposing/consistency.h"

#include <cryptominisat5/cryptominisat.h>
#include <fmt/format.h>
#include <span>

namespace prism {
namespace {

using CMSat::Lit;

/// edge: a boundary on one side only, in front or behind; no_step: the same in front, whatever is behind;
/// filled, empty: what the plane of a section goes through.
enum class Seen { step, edge, nothing, no_step, filled, empty };

/// Maybe: several boundaries lie there so close together that which of them is a surface decides.
enum class Bend { no, maybe, yes };

/// What two lines of sight side by side must show. Cells front to back, the same intervals for both.
struct Sight {
    Seen seen = Seen::nothing;
    std::vector<int> a, b;
    /// By boundary, the first before the first interval: whether a surface there would have a crease between
    /// the two lines of sight, level depth but another slope.
    std::vector<Bend> crease;
    friend bool operator<(const Sight& x, const Sight& y) {
        return std::tie(x.seen, x.a, x.b, x.crease) < std::tie(y.seen, y.a, y.b, y.crease);
    }
};

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
    double apart = 0; ///< between a line and the farther one behind it, mm
};

/// The breaks of a ray in a range.
std::span<const double> breaksIn(const Ray& r, double lo, double hi) {
    const auto first = std::lower_bound(r.breaks.begin(), r.breaks.end(), lo);
    return {first, std::upper_bound(first, r.breaks.end(), hi)};
}

/// Whether the boundary in a range of depths bends between the two lines of sight.
Bend bends(const Beside& s, double lo, double hi) {
    // A round surface turns a little between the lines of sight as well, the more the steeper it is seen.
    constexpr double kBend = 0.04, kSteepest = 12;
    const auto a = breaksIn(s.a, lo, hi), b = breaksIn(s.b, lo, hi);
    if (a.empty() || b.empty()) return Bend::no;
    if (a.size() > 1 || b.size() > 1) return Bend::maybe;
    const double reach = kSteepest * s.apart;
    const auto far_a = breaksIn(s.far_a, a[0] - reach, a[0] + reach),
               far_b = breaksIn(s.far_b, b[0] - reach, b[0] + reach);
    if (far_a.size() != 1 || far_b.size() != 1) return Bend::no;
    const double before = a[0] - far_a[0], after = far_b[0] - b[0];
    const double steep = std::hypot(std::max(std::abs(before), std::abs(after)), s.apart) / s.apart;
    const double turn = std::abs(std::atan2(before, s.apart) - std::atan2(after, s.apart));
    if (turn <= kBend * steep) return Bend::no;
    const bool sure = !s.a.isBlurred(a[0]) && !s.b.isBlurred(b[0]) && !s.far_a.isBlurred(far_a[0]) &&
                      !s.far_b.isBlurred(far_b[0]);
    return sure ? Bend::yes : Bend::maybe;
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
        for (size_t k = 0; k < model.maps().size(); ++k)
            alongGrid(static_cast<int>(k)), alongCurves(static_cast<int>(k)), inPlane(static_cast<int>(k));
    }
    const std::map<Sight, double>& all() const { return all_; }
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
        if (m.areaAt(a) < 0 && m.areaAt(b) < 0) return;
        const Beside rays{sight(k, p - side * (3 * beside_)), sight(k, a), sight(k, b),
                          sight(k, p + side * (3 * beside_)), 2 * beside_};
        const double slack = 20 * beside_;
        const bool low = viewerAtLowEnd(m.view());
        const LineRole line = m.lineAt(p);
        const bool hidden = line == LineRole::hidden && kinds_ == LineKinds::told;
        if (line == LineRole::outline || hidden) {
            Sight s = aligned(rays, boundariesOf(rays.a, rays.b, slack), low);
            s.seen = hidden || kinds_ == LineKinds::alike ? Seen::edge : Seen::step;
            all_[s] += weight;
            if (!hidden) return;
        }
        Sight s = aligned(rays, roughBoundariesOf(rays.a, rays.b, slack), low);
        s.seen = !hidden && (tellsHidden(m) || kinds_ == LineKinds::alike) ? Seen::nothing : Seen::no_step;
        all_[s] += weight;
    }
    void alongGrid(int k) {
        const FigureView& v = model_.maps()[k].view();
        const auto u = levelsOf(model_.maps(), v.axes.right), w = levelsOf(model_.maps(), v.axes.up);
        auto sweep = [&](const std::vector<double>& on, const std::vector<double>& across, bool upright) {
            for (double x : on)
                for (size_t j = 0; j + 1 < across.size(); ++j) {
                    const double gap = across[j + 1] - across[j], y = 0.5 * (across[j] + across[j + 1]);
                    if (gap < 8 * beside_) continue;
                    demand(k, upright ? Vec2{x, y} : Vec2{y, x}, upright ? Vec2{1, 0} : Vec2{0, 1}, gap);
                }
        };
        sweep(u, w, true);
        sweep(w, u, false);
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
        if (!m.cut() || !m.hasHatching()) return;
        const bool low = viewerAtLowEnd(m.view());
        const auto take = [&](Vec2 p, int area, double weight) {
            if (area < 0 || progress_.cancelled() || looked_ >= kMostPlaces) return;
            ++looked_;
            const Ray r = sight(k, p);
            Sight s;
            s.seen = m.hatched(area) ? Seen::filled : Seen::empty;
            s.a = {low ? r.cells[1] : r.cells[r.cells.size() - 2]};
            all_[s] += weight;
        };
        const auto u = levelsOf(model_.maps(), m.view().axes.right),
                   w = levelsOf(model_.maps(), m.view().axes.up);
        for (size_t i = 0; i + 1 < u.size(); ++i)
            for (size_t j = 0; j + 1 < w.size(); ++j) {
                const Vec2 p{0.5 * (u[i] + u[i + 1]), 0.5 * (w[j] + w[j + 1])};
                take(p, m.areaAt(p), std::min(u[i + 1] - u[i], w[j + 1] - w[j]));
            }
        for (size_t a = 0; a < m.areas().size(); ++a)
            take(m.areas()[a].seed, static_cast<int>(a), std::sqrt(m.areas()[a].area));
    }

    CellModel& model_;
    Progress& progress_;
    LineKinds kinds_;
    double beside_;
    double least_; ///< the same edge stands so far apart in two views at most
    bool any_hidden_ = false;
    int looked_ = 0;
    std::map<Sight, double> all_;
};

} // namespace

struct ConsistentCells::Impl {
    Impl(CellModel& model, const Tolerances& t, double size, Lines lines, LineKinds kinds, Progress& progress)
        : lines(lines) {
        const Sights sights(model, t, size, kinds, progress);
        if (!sights.whole()) left_undone = "not every place of the views was looked at";
        cells = model.cells();
        looked_at.resize(static_cast<size_t>(cells));
        solver.set_num_threads(1);
        solver.set_default_polarity(true);
        solver.new_vars(static_cast<size_t>(cells) + 1);
        air = Lit(static_cast<uint32_t>(cells), false);
        solver.add_clause({~air});
        for (const auto& [s, weight] : sights.all())
            if (!progress.cancelled()) add(s, weight);
    }

    /// Solves in short bouts, looking in between whether to go on, until an answer is found or so many
    /// conflicts were met. Conflicts are counted, not seconds: the answer is the same on a slow machine.
    CMSat::lbool solve(const std::vector<Lit>& assume, uint64_t most, Progress& progress) {
        constexpr uint64_t kBout = 1000;
        for (uint64_t met = 0; met < most && met_in_all < kMostConflicts && !progress.cancelled();
             met += kBout, met_in_all += kBout) {
            solver.set_max_confl(std::min(kBout, most));
            if (const auto r = solver.solve(&assume); r != CMSat::l_Undef) return r;
        }
        if (!progress.cancelled()) left_undone = fmt::format("the search ended after {} conflicts", most);
        return CMSat::l_Undef;
    }

    Lit fresh() {
        solver.new_var();
        return Lit(solver.nVars() - 1, false);
    }
    Lit cell(int c) const { return c < 0 ? air : Lit(static_cast<uint32_t>(c), false); }
    /// "Material seen by now", for every interval of a line of sight; shared by all that begin alike.
    std::vector<Lit> seenBy(const std::vector<int>& cellsOnWay) {
        std::vector<Lit> r;
        std::vector<int> way;
        for (int c : cellsOnWay) {
            way.push_back(c);
            const auto [it, isNew] = seen_by.try_emplace(way);
            if (isNew) {
                const Lit before = r.empty() ? air : r.back(), now = fresh();
                it->second = now;
                solver.add_clause({~now, before, cell(c)});
                solver.add_clause({now, ~before});
                solver.add_clause({now, ~cell(c)});
            }
            r.push_back(it->second);
        }
        return r;
    }
    void same(Lit x, Lit y, Lit unless) {
        solver.add_clause({unless, ~x, y});
        solver.add_clause({unless, x, ~y});
    }
    /// A literal that can hold only if x and y differ.
    Lit differing(Lit x, Lit y) {
        const Lit d = fresh();
        solver.add_clause({~d, x, y});
        solver.add_clause({~d, ~x, ~y});
        return d;
    }
    /// A literal that can hold only if all of these do.
    Lit together(const std::vector<Lit>& all) {
        const Lit d = fresh();
        for (const Lit l : all) solver.add_clause({~d, l});
        return d;
    }
    /// A new rule, which holds unless this literal does.
    Lit ruleOf(double weight) {
        const Lit off = fresh();
        rule_of[off.var()] = rules.size();
        rules.push_back({off, weight, false});
        return off;
    }
    void add(const Sight& s, double weight) {
        for (const auto* way : {&s.a, &s.b})
            for (int c : *way)
                if (c >= 0) looked_at[static_cast<size_t>(c)] = true;
        if (s.seen == Seen::filled || s.seen == Seen::empty) {
            const Lit material = cell(s.a.front()), off = ruleOf(weight);
            solver.add_clause({off, s.seen == Seen::filled ? material : ~material});
            return;
        }
        const bool bends = std::ranges::find(s.crease, Bend::yes) != s.crease.end();
        if ((s.seen == Seen::nothing || s.seen == Seen::no_step) && s.a == s.b && !bends) return;
        const Lit off = ruleOf(weight);
        std::vector<Lit> a, b;
        for (int c : s.a) a.push_back(cell(c));
        for (int c : s.b) b.push_back(cell(c));
        const auto fa = seenBy(s.a), fb = seenBy(s.b);
        if (s.seen == Seen::step) return addStep(s, fa, fb, off);
        if (s.seen == Seen::edge) return addEdge(s, a, b, off);
        for (size_t i = 0; i < fa.size(); ++i) same(fa[i], fb[i], off);
        for (size_t k = 0; k < fa.size(); ++k) // a crease in front would be seen
            if (s.crease[k] == Bend::yes) solver.add_clause({off, k > 0 ? fa[k - 1] : air, ~fa[k]});
        if (s.seen == Seen::no_step) return;
        for (size_t i = 0; i < a.size(); ++i) same(a[i], b[i], off);
        for (size_t k = 0; k < s.crease.size(); ++k)
            if (s.crease[k] == Bend::yes) same(k > 0 ? a[k - 1] : air, k < a.size() ? a[k] : air, off);
    }
    /// An outline: another depth on the two sides, or a crease in what is in front.
    void addStep(const Sight& s, const std::vector<Lit>& fa, const std::vector<Lit>& fb, Lit off) {
        std::vector<Lit> some{off};
        for (size_t i = 0; i < fa.size(); ++i) {
            if (fa[i] != fb[i]) some.push_back(differing(fa[i], fb[i]));
            if (s.crease[i] != Bend::no)
                some.push_back(
                    together({i > 0 ? ~fa[i - 1] : ~air, fa[i], i > 0 ? ~fb[i - 1] : ~air, fb[i]}));
        }
        solver.add_clause(some);
    }
    /// A line, seen or hidden: somewhere a boundary on one side only, or a crease.
    void addEdge(const Sight& s, const std::vector<Lit>& a, const std::vector<Lit>& b, Lit off) {
        std::vector<Lit> some{off};
        for (size_t i = 0; i < a.size(); ++i)
            if (a[i] != b[i]) some.push_back(differing(a[i], b[i]));
        for (size_t k = 0; k < s.crease.size(); ++k)
            if (s.crease[k] != Bend::no)
                some.push_back(differing(k > 0 ? a[k - 1] : air, k < a.size() ? a[k] : air));
        solver.add_clause(some);
    }
    std::vector<Lit> wanted() const {
        std::vector<Lit> r;
        for (const Rule& k : rules)
            if (!k.ignored) r.push_back(~k.off);
        return r;
    }
    /// The material of the model just found, with every cell filled that may be: where nothing is drawn of a
    /// cavity, there is none.
    std::vector<bool> fullest(Progress& progress) {
        std::vector<bool> material(static_cast<size_t>(cells));
        auto take = [&] {
            for (int c = 0; c < cells; ++c)
                material[c] = solver.get_model()[static_cast<size_t>(c)] == CMSat::l_True;
        };
        take();
        for (int c = 0; c < cells && !progress.cancelled(); ++c) {
            if (material[c]) continue;
            std::vector<Lit> assume = wanted();
            for (int k = 0; k < cells; ++k)
                if (material[k] || k == c) assume.push_back(cell(k));
            if (solve(assume, kConflictsOfOneCell, progress) == CMSat::l_True) take();
        }
        return material;
    }

    struct Rule {
        Lit off;
        double weight;
        bool ignored;
    };
    CMSat::SATSolver solver;
    Lines lines;
    int cells = 0;
    std::vector<bool> looked_at;
    Lit air;
    std::map<std::vector<int>, Lit> seen_by;
    std::vector<Rule> rules;
    std::map<uint32_t, size_t> rule_of; ///< by the variable that switches it off
    int disregarded = 0;
    static constexpr int kMostDisregarded = 600;
    bool found_one = false;
    uint64_t met_in_all = 0;
    std::string left_undone;
    static constexpr uint64_t kMostConflicts = 400'000, kConflictsOfOneChoice = 50'000,
                              kConflictsOfOneCell = 2'000;
};

ConsistentCells::ConsistentCells(CellModel& model, const Tolerances& t, double size, Lines lines,
                                 Progress& progress, LineKinds kinds)
    : impl_(std::make_unique<Impl>(model, t, size, lines, kinds, progress)) {}

const std::string& ConsistentCells::leftUndone() const {
    return impl_->left_undone;
}

ConsistentCells::~ConsistentCells() = default;

std::optional<CellChoice> ConsistentCells::next(Progress& progress) {
    Impl& s = *impl_;
    CellChoice r;
    for (const Impl::Rule& k : s.rules) r.total += k.weight;
    for (;;) {
        if (progress.cancelled()) return std::nullopt;
        r.ignored = 0;
        for (const Impl::Rule& k : s.rules) r.ignored += k.ignored ? k.weight : 0;
        const std::vector<Lit> wanted = s.wanted();
        if (r.ignored > 0.3 * r.total) return std::nullopt;
        if (++s.disregarded > Impl::kMostDisregarded) {
            s.left_undone = "the lines of the sheet contradict each other in too many places";
            return std::nullopt;
        }
        const CMSat::lbool found = s.solve(wanted, Impl::kConflictsOfOneChoice, progress);
        if (found == CMSat::l_True) break;
        // Another choice has to fit the sheet as well as the first one did.
        if (found == CMSat::l_Undef || s.found_one || s.solver.get_conflict().empty()) return std::nullopt;
        if (s.lines == Lines::all) return std::nullopt;
        Impl::Rule* least = nullptr;
        for (const Lit l : s.solver.get_conflict()) {
            const auto it = s.rule_of.find(l.var());
            if (it == s.rule_of.end() || s.rules[it->second].off != l) continue;
            Impl::Rule& k = s.rules[it->second];
            if (!least || k.weight < least->weight) least = &k;
        }
        if (!least) return std::nullopt;
        least->ignored = true;
    }
    s.found_one = true;
    r.material = s.fullest(progress);
    r.looked_at = s.looked_at;
    std::vector<Lit> other;
    for (int c = 0; c < s.cells; ++c) other.push_back(Lit(static_cast<uint32_t>(c), r.material[c]));
    s.solver.add_clause(other);
    return r;
}

} // namespace prism
