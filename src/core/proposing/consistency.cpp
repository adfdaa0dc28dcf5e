#include "core/proposing/consistency.h"

#include "core/proposing/sights.h"

#include <cryptominisat5/cryptominisat.h>
#include <fmt/format.h>

#include <span>
#include <unordered_map>

namespace prism {

using CMSat::Lit;

struct ConsistentCells::Impl {
    Impl(CellModel& model, const Tolerances& t, double size, Lines lines, LineKinds kinds, Work& work,
         Progress& progress)
        : model(model), tolerances(t), size(size), kinds(kinds), lines(lines), work(work) {
        const auto places = static_cast<int>(placesOf(model.maps()) / kPlacesOfOne);
        // What is not within the limit is not begun.
        const bool affords = work.affords(places);
        work.spend(places);
        if (!affords) return;
        const SightsSeen sights = sightsOf(model, t, size, kinds, progress);
        if (!sights.whole) left_undone = "not every place of the views was looked at";
        solver.set_num_threads(1);
        solver.set_default_polarity(true);
        takeCells();
        air = fresh();
        demand({~air});
        addAll(sights.all, progress);
    }
    /// Gives every cell that lines of sight have met so far a variable.
    void takeCells() {
        while (variables.size() < static_cast<size_t>(model.cells())) variables.push_back(fresh());
        looked_at.resize(variables.size());
        work.metCells(cells());
    }
    int cells() const { return static_cast<int>(variables.size()); }
    void addAll(const std::map<Sight, Demand>& sights, Progress& progress) {
        size_t met = 0; // cells, by all lines of sight
        for (const auto& [s, demand] : sights) met += s.a.size() + s.b.size();
        work.spend(static_cast<int>(met / kCellsOfOne));
        if (work.exhausted()) return;
        for (const auto& [s, demand] : sights)
            if (!progress.cancelled()) add(s, demand);
    }

    /// Solves in short bouts, looking in between whether to go on, until an answer is found or so many
    /// conflicts were met. Conflicts are counted, not seconds: the answer is the same on a slow machine.
    CMSat::lbool solve(const std::vector<Lit>& assume, uint64_t most, Progress& progress) {
        constexpr uint64_t kBout = 1000;
        for (uint64_t met = 0; met < most && met_in_all < kMostConflicts && !progress.cancelled();
             met += kBout, met_in_all += kBout) {
            work.spend(met == 0 ? 1 : kWorkOfBout);
            if (work.exhausted()) return CMSat::l_Undef;
            giveToSolver();
            solver.set_max_confl(std::min(kBout, most));
            if (const auto r = solver.solve(&assume); r != CMSat::l_Undef) return r;
        }
        if (!progress.cancelled()) left_undone = fmt::format("the search ended after {} conflicts", most);
        return CMSat::l_Undef;
    }

    Lit fresh() { return Lit(variables_made++, false); }
    /// One of these literals has to hold. The solver is given new variables and clauses before it solves, all
    /// at once: one by one they cost it more than solving does.
    void demand(std::initializer_list<Lit> some) { demand(std::span(some.begin(), some.size())); }
    void demand(std::span<const Lit> some) {
        waiting.insert(waiting.end(), some.begin(), some.end());
        ends.push_back(waiting.size());
    }
    void giveToSolver() {
        if (variables_made > solver.nVars()) solver.new_vars(variables_made - solver.nVars());
        std::vector<Lit> clause;
        auto from = waiting.begin();
        for (const size_t end : std::exchange(ends, {})) {
            const auto to = waiting.begin() + static_cast<long>(end);
            clause.assign(std::exchange(from, to), to);
            solver.add_clause(clause);
        }
        waiting.clear();
    }
    Lit cell(int c) const { return c < 0 ? air : variables[static_cast<size_t>(c)]; }
    /// "Material seen by now", for every interval of a line of sight; shared by all that begin alike.
    std::vector<Lit> seenBy(const std::vector<int>& cellsOnWay) {
        std::vector<Lit> r;
        for (int c : cellsOnWay) {
            const Lit before = r.empty() ? air : r.back();
            const auto [it, isNew] =
                seen_by.try_emplace(uint64_t{before.toInt()} << 32 | static_cast<uint32_t>(c));
            if (isNew) {
                const Lit now = fresh();
                it->second = now;
                demand({~now, before, cell(c)});
                demand({now, ~before});
                demand({now, ~cell(c)});
            }
            r.push_back(it->second);
        }
        return r;
    }
    void same(Lit x, Lit y, Lit unless) {
        demand({unless, ~x, y});
        demand({unless, x, ~y});
    }
    /// A literal that can hold only if x and y differ.
    Lit differing(Lit x, Lit y) {
        const Lit d = fresh();
        demand({~d, x, y});
        demand({~d, ~x, ~y});
        return d;
    }
    /// A literal that can hold only if all of these do.
    Lit together(const std::vector<Lit>& all) {
        const Lit d = fresh();
        for (const Lit l : all) demand({~d, l});
        return d;
    }
    /// A new rule, which holds unless this literal does.
    /// It may be given up only with all lines that demand it.
    Lit ruleOf(const Demand& d) {
        const Lit off = fresh();
        rule_of[off.var()] = rules.size();
        rules.push_back({off, d.weight, false, false, d.lines});
        for (const SightLineKey& l : d.lines) {
            const auto [it, isNew] = line_off.try_emplace(l);
            if (isNew) it->second = fresh(), line_of[it->second.var()] = l;
            demand({~off, it->second});
        }
        return off;
    }
    /// Solves with all lines holding but these. When that cannot be, which of the others are in the way goes
    /// to `core`; that stays empty when it was not found out.
    CMSat::lbool holding(const std::vector<SightLineKey>& but, std::vector<SightLineKey>& core,
                         Progress& progress) {
        std::vector<Lit> assume;
        for (const auto& [l, off] : line_off)
            if (std::ranges::find(but, l) == but.end()) assume.push_back(~off);
        const CMSat::lbool r = solve(assume, kConflictsOfFilling, progress);
        if (r == CMSat::l_False)
            for (const Lit l : solver.get_conflict())
                if (const auto it = line_of.find(l.var()); it != line_of.end()) core.push_back(it->second);
        return r;
    }
    void add(const Sight& s, const Demand& weight) {
        for (const auto* way : {&s.a, &s.b})
            for (int c : *way)
                if (c >= 0) looked_at[static_cast<size_t>(c)] = true;
        if (s.seen == Seen::material || s.seen == Seen::air) {
            demand({s.seen == Seen::material ? cell(s.a.front()) : ~cell(s.a.front())});
            return;
        }
        if (s.seen == Seen::filled || s.seen == Seen::empty) {
            const Lit material = cell(s.a.front()), off = ruleOf(weight);
            demand({off, s.seen == Seen::filled ? material : ~material});
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
            if (s.crease[k] == Bend::yes) demand({off, k > 0 ? fa[k - 1] : air, ~fa[k]});
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
        demand(some);
    }
    /// A line, seen or hidden: somewhere a boundary on one side only, or a crease.
    void addEdge(const Sight& s, const std::vector<Lit>& a, const std::vector<Lit>& b, Lit off) {
        std::vector<Lit> some{off};
        for (size_t i = 0; i < a.size(); ++i)
            if (a[i] != b[i]) some.push_back(differing(a[i], b[i]));
        for (size_t k = 0; k < s.crease.size(); ++k)
            if (s.crease[k] != Bend::no)
                some.push_back(differing(k > 0 ? a[k - 1] : air, k < a.size() ? a[k] : air));
        demand(some);
    }
    std::vector<Lit> wanted() const {
        std::vector<Lit> r;
        for (const Rule& k : rules)
            if (!k.ignored && !k.fixed) r.push_back(~k.off);
        return r;
    }
    /// Other choices have to fit the sheet as well as the first one did: its rules hold from now on.
    void fixRules() {
        for (Rule& k : rules)
            if (!k.ignored && !std::exchange(k.fixed, true)) demand({~k.off});
    }
    /// The material of the model just found, with every cell filled that may be: where nothing is drawn of a
    /// cavity, there is none.
    std::vector<bool> fullest(Progress& progress) {
        std::vector<bool> material(variables.size());
        auto take = [&] {
            for (int c = 0; c < cells(); ++c)
                material[c] = solver.get_model()[variables[static_cast<size_t>(c)].var()] == CMSat::l_True;
        };
        take();
        while (!progress.cancelled()) { // at least one cell more each time
            const Lit more = fresh();
            std::vector<Lit> assume = wanted(), some{~more};
            assume.push_back(more);
            for (int k = 0; k < cells(); ++k) (material[k] ? assume : some).push_back(cell(k));
            demand(some);
            const bool filled =
                some.size() > 1 && solve(assume, kConflictsOfFilling, progress) == CMSat::l_True;
            if (filled) take();
            demand({~more});
            if (!filled) break;
        }
        return material;
    }

    /// Rules that were disregarded although the rest would have allowed them hold again, the heaviest first:
    /// no shorter set of lines is then a part of what is left out.
    void takeBack(Progress& progress) {
        std::vector<Rule*> ignored;
        for (Rule& k : rules)
            if (k.ignored) ignored.push_back(&k);
        std::ranges::stable_sort(ignored, [](const Rule* a, const Rule* b) { return a->weight > b->weight; });
        for (Rule* k : ignored) {
            std::vector<Lit> assume = wanted();
            assume.push_back(~k->off);
            k->ignored = solve(assume, kConflictsOfFilling, progress) != CMSat::l_True;
        }
        solve(wanted(), kConflictsOfOneChoice, progress); // the model that is read from
    }

    struct Rule {
        Lit off;
        double weight;
        bool ignored;
        bool fixed = false;
        std::set<SightLineKey> lines;
    };
    CMSat::SATSolver solver;
    uint32_t variables_made = 0;
    std::vector<Lit> waiting; ///< clauses that the solver was not given yet, one after the other
    std::vector<size_t> ends; ///< of them
    CellModel& model;
    Tolerances tolerances;
    double size;
    LineKinds kinds;
    Lines lines;
    Work& work;
    static constexpr size_t kPlacesOfOne = 66;  ///< looked at for one unit of work
    static constexpr size_t kCellsOfOne = 1300; ///< met by lines of sight, likewise
    static constexpr int kWorkOfBout = 2;
    std::vector<Lit> variables; ///< by cell
    std::vector<bool> looked_at;
    Lit air;
    std::unordered_map<uint64_t, Lit> seen_by; ///< by what was seen before, and the cell
    std::vector<Rule> rules;
    std::map<uint32_t, size_t> rule_of; ///< by the variable that switches it off
    std::map<SightLineKey, Lit> line_off;
    std::map<uint32_t, SightLineKey> line_of;
    int disregarded = 0;
    static constexpr int kMostDisregarded = 600;
    bool found_one = false;
    uint64_t met_in_all = 0;
    std::string left_undone;
    static constexpr uint64_t kMostConflicts = 400'000, kConflictsOfOneChoice = 50'000,
                              kConflictsOfFilling = 10'000;
};

ConsistentCells::ConsistentCells(CellModel& model, const Tolerances& t, double size, Lines lines, Work& work,
                                 Progress& progress, LineKinds kinds)
    : impl_(std::make_unique<Impl>(model, t, size, lines, kinds, work, progress)) {}

const std::string& ConsistentCells::leftUndone() const {
    return impl_->left_undone;
}

void ConsistentCells::lookAt(const std::vector<SightPlace>& places, Progress& progress) {
    Impl& s = *impl_;
    const auto sights = sightsAt(s.model, s.tolerances, s.size, s.kinds, places, progress);
    s.takeCells();
    s.addAll(sights, progress);
}

ConsistentCells::~ConsistentCells() = default;

std::vector<std::vector<SightLineKey>> ConsistentCells::suspects(size_t most, Progress& progress) {
    constexpr int kMostAsked = 250;
    Impl& s = *impl_;
    std::vector<std::vector<SightLineKey>> r;
    std::vector<SightLineKey> core;
    if (s.work.exhausted()) return r;
    if (s.holding({}, core, progress) != CMSat::l_False) return r;
    int asked = 0;
    std::map<SightLineKey, std::vector<SightLineKey>> cores;
    for (const SightLineKey& l : core) {
        if (progress.cancelled() || ++asked > kMostAsked || r.size() >= most) break;
        if (s.holding({l}, cores[l], progress) == CMSat::l_True) r.push_back({l});
    }
    if (!r.empty()) return r;
    std::set<std::set<SightLineKey>> known;
    for (const auto& [l, second] : cores)
        for (const SightLineKey& k : second) {
            if (progress.cancelled() || ++asked > kMostAsked || r.size() >= most) return r;
            std::vector<SightLineKey> none;
            if (known.insert({l, k}).second && s.holding({l, k}, none, progress) == CMSat::l_True)
                r.push_back({l, k});
        }
    return r;
}

std::optional<CellChoice> ConsistentCells::without(const std::vector<SightLineKey>& lines,
                                                   Progress& progress) {
    Impl& s = *impl_;
    if (s.work.exhausted()) return std::nullopt;
    for (Impl::Rule& k : s.rules)
        k.ignored = std::ranges::all_of(
            k.lines, [&](const SightLineKey& l) { return std::ranges::find(lines, l) != lines.end(); });
    if (s.solve(s.wanted(), Impl::kConflictsOfOneChoice, progress) != CMSat::l_True) return std::nullopt;
    s.takeBack(progress);
    CellChoice r;
    r.material = s.fullest(progress);
    r.looked_at = s.looked_at;
    for (const Impl::Rule& k : s.rules) r.total += k.weight, r.ignored += k.ignored ? k.weight : 0;
    return progress.cancelled() ? std::nullopt : std::optional(r);
}

std::optional<CellChoice> ConsistentCells::next(Progress& progress) {
    Impl& s = *impl_;
    if (s.work.exhausted()) return std::nullopt;
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
    if (!std::exchange(s.found_one, true) && r.ignored > 0) {
        s.takeBack(progress);
        r.ignored = 0;
        for (const Impl::Rule& k : s.rules) r.ignored += k.ignored ? k.weight : 0;
    }
    s.fixRules();
    r.material = s.fullest(progress);
    r.looked_at = s.looked_at;
    std::vector<Lit> other;
    for (int c = 0; c < s.cells(); ++c) other.push_back(r.material[c] ? ~s.cell(c) : s.cell(c));
    s.demand(other);
    return r;
}

} // namespace prism
