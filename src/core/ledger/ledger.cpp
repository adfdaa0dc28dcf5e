#include "core/ledger/ledger.h"

#include "core/ledger/bind.h"

#include <fmt/format.h>
#include <set>

namespace prism {
namespace {

const char* stemOf(const LedgerEntry& e) {
    switch (e.kind) {
    case DimensionKind::radius:
        return "radius";
    case DimensionKind::diameter:
        return "dia";
    case DimensionKind::angular:
        return "angle";
    default:
        break;
    }
    if (!e.along_axis || !isModelAxis(e.axis)) return "length";
    return e.axis == Axis::x ? "x" : e.axis == Axis::y ? "y" : "z";
}

void nameEntries(Ledger& l) {
    std::map<std::string, int> used;
    for (LedgerEntry& e : l.entries) e.name = fmt::format("{}{}", stemOf(e), ++used[stemOf(e)]);
}

/// 1 when an angle grows with the turn from one of its lines to the other as they run, -1 when it shrinks:
/// the drawn equation may measure the supplement or the opposite turn.
double senseOf(const LedgerEntry& e) {
    const bool supplement = std::abs(std::abs(e.equation.value) * 180 / kPi - e.value) > 1e-6 * 180;
    return (e.equation.value < 0 ? -1.0 : 1.0) * (supplement ? -1 : 1);
}

/// The entry's present value from the unknowns.
double measuredIn(const LedgerEntry& e, const std::vector<double>& x) {
    const Equation& q = e.equation;
    if (q.kind == EquationKind::angle) // how far it is from its present value
        return e.value + senseOf(e) * evaluate(q, x, nullptr) * 180 / kPi;
    return evaluate(q, x, nullptr) + q.value;
}

void setValue(LedgerEntry& e, double value) {
    if (e.equation.kind == EquationKind::angle) {
        e.equation.value += senseOf(e) * (value - e.value) * kPi / 180;
    } else
        e.equation.value = value;
    e.value = value;
}

void decideStates(const Figure& f, Ledger& l) {
    std::vector<Equation> eq = f.equations;
    std::erase_if(eq, [](const Equation& e) { return e.level == Level::weak; });
    std::map<int, LedgerEntry*> byEquation;
    for (LedgerEntry& e : l.entries) {
        if (e.equation.terms.empty() && e.equation.kind == EquationKind::linear) continue;
        if (e.reference) { // never drives unless a person says so
            e.state = EntryState::reports, e.why = "in parentheses on the sheet";
            continue;
        }
        byEquation[static_cast<int>(eq.size())] = &e;
        eq.push_back(e.equation);
    }
    std::vector<int> numbers;
    for (const auto& [i, e] : byEquation) numbers.push_back(i);
    const SolveOutcome o = solveFrom(numbers, eq, f.drawn, f.weights, f.tolerance());
    for (auto& [i, e] : byEquation) e->state = EntryState::drives;
    for (int i : o.redundant)
        if (auto it = byEquation.find(i); it != byEquation.end()) {
            it->second->state = EntryState::reports;
            it->second->why = "follows from other dimensions";
        }
    for (const Clash& c : o.clashes)
        if (auto it = byEquation.find(c.equations.back()); it != byEquation.end()) {
            it->second->state = EntryState::reports;
            it->second->why = "follows from other dimensions, which differ a little as drawn";
        }
}

} // namespace

const char* nameOf(EntryState s) {
    constexpr std::array names{"drives", "reports", "loose", "held", "clashes"};
    return names[static_cast<size_t>(s)];
}

std::set<int> linesOf(const Figure& f, const LedgerEntry& e) {
    std::set<int> variables, r;
    for (const Term& t : e.equation.terms) variables.insert(t.variable);
    for (const FigureCurve& c : f.curves) {
        if (c.radius >= 0 && variables.contains(c.radius)) r.insert(c.entity);
        if (c.p0 < 0 || c.radius >= 0) continue;
        const FigurePoint &p = f.points[c.p0], &q = f.points[c.p1];
        if ((p.u == q.u && variables.contains(p.u)) || (p.v == q.v && variables.contains(p.v)))
            r.insert(c.entity);
    }
    return r;
}

const char* nameOf(MovingSide s) {
    constexpr std::array names{"either", "first", "second"};
    return names[static_cast<size_t>(s)];
}

const LedgerEntry* Ledger::named(const std::string& name) const {
    for (const LedgerEntry& e : entries)
        if (e.name == name) return &e;
    return nullptr;
}

LedgerEntry* Ledger::named(const std::string& name) {
    return const_cast<LedgerEntry*>(std::as_const(*this).named(name));
}

Ledger makeLedger(const Drawing& d, const ViewSet& set, const Figure& f) {
    Ledger l;
    l.unit_mm = set.unit.mm;
    const double extent = extentOf(d).diagonal();
    for (const View& v : set.views)
        for (int id : v.dimensions) {
            const Dimension& dim = d.dimensions[id];
            LedgerEntry e;
            e.dimension = id, e.handle = dim.handle, e.view = v.id, e.kind = dim.kind, e.text = dim.text;
            const double unit = dim.kind == DimensionKind::angular ? 1 : set.unit.mm;
            const double span = dim.factor != 0 ? dim.measured / dim.factor : dim.measured;
            e.drawn = dim.kind == DimensionKind::angular ? dim.measured : span * v.mm_per_sheet;
            e.said = dim.value * unit, e.plus = dim.plus * unit, e.minus = dim.minus * unit;
            e.value = e.drawn, e.count = dim.count, e.reference = dim.reference;
            bindDimension(extent, set, f, dim, e);
            if (e.why.empty() && e.equation.kind == EquationKind::linear && !e.equation.terms.empty()) {
                e.equation.value = 0; // what the figure really has there, to the last digit
                e.value = evaluate(e.equation, f.drawn, nullptr);
                e.equation.value = e.value;
            }
            l.entries.push_back(std::move(e));
        }
    std::sort(l.entries.begin(), l.entries.end(),
              [](const auto& a, const auto& b) { return a.dimension < b.dimension; });
    nameEntries(l);
    decideStates(f, l);
    return l;
}

namespace {

/// Values of all entries with the formulas worked out in the order of their dependence.
Result<std::map<std::string, double>> wantedValues(const Ledger& l, const NumberChoices& choices) {
    std::map<std::string, double> values;
    std::set<std::string> open, angles;
    for (const LedgerEntry& e : l.entries) {
        if (e.angular()) angles.insert(e.name);
        const auto c = choices.find(e.name);
        values[e.name] = c != choices.end() && c->second.value ? *c->second.value : e.value;
        if (c != choices.end() && !c->second.formula.empty()) open.insert(e.name);
    }
    while (!open.empty()) {
        const size_t before = open.size();
        for (auto it = open.begin(); it != open.end();) {
            const std::string& formula = choices.at(*it).formula;
            const auto names = namesIn(formula);
            const bool ready = std::none_of(names.begin(), names.end(),
                                            [&](const std::string& n) { return open.contains(n); });
            if (!ready) {
                ++it;
                continue;
            }
            const auto v = evaluateFormula(formula, values, l.plainUnit(*it), angles);
            if (!v)
                return tl::make_unexpected(
                    Error{ErrorCode::usage, fmt::format("{}: {}", *it, v.error().message)});
            values[*it] = *v;
            it = open.erase(it);
        }
        if (open.size() == before)
            return failure(ErrorCode::usage, fmt::format("the formulas of {} refer to each other in a circle",
                                                         fmt::join(open, ", ")));
    }
    return values;
}

std::string refusal(const std::vector<std::string>& names) {
    return fmt::format("These values cannot hold together: {}. Nothing was changed.", fmt::join(names, ", "));
}

struct Posed {
    std::vector<Equation> equations;
    std::vector<double> weights;
    std::map<int, int> entry_of; ///< equation to entry
    std::vector<int> changed;    ///< equations whose value is another than before
};

/// The side that is to stay is pinned and made heavy; a datum on the side that is to move lets go.
void favour(const Figure& f, const LedgerEntry& e, Posed& p) {
    if (e.moving_side == MovingSide::either || !e.along_axis) return;
    const auto& stays = e.moving_side == MovingSide::second ? e.low : e.high;
    const auto& moves = e.moving_side == MovingSide::second ? e.high : e.low;
    auto shares = [](const Equation& q, const std::vector<Term>& terms) {
        return std::any_of(q.terms.begin(), q.terms.end(), [&](const Term& a) {
            return std::any_of(terms.begin(), terms.end(),
                               [&](const Term& b) { return a.variable == b.variable; });
        });
    };
    for (Equation& q : p.equations)
        if (q.owner >= 0 && q.level == Level::weak && f.relations[q.owner].kind == RelationKind::datum &&
            f.relations[q.owner].axis == e.axis && (shares(q, moves) || !shares(q, stays)))
            q.terms.clear(); // an equation without terms says nothing
    Equation pin = Equation::linearOf(Level::weak, stays, f.value(stays, f.now));
    pin.score = kDatumScore;
    p.equations.push_back(std::move(pin));
    for (const Term& t : stays) p.weights[t.variable] *= 1e6;
}

/// The wanted values as equations; a value given to an entry that reports makes it drive as well.
Result<Posed> pose(const Figure& f, Ledger& next, const NumberChoices& choices,
                   const std::map<std::string, double>& values) {
    Posed p{f.equations, f.weights, {}, {}};
    for (bool chosen : {true, false})
        for (size_t i = 0; i < next.entries.size(); ++i) {
            LedgerEntry& e = next.entries[i];
            const auto c = choices.find(e.name);
            const bool set =
                c != choices.end() && (c->second.value || !c->second.formula.empty() || c->second.held);
            if (set != chosen) continue;
            if (c != choices.end()) e.formula = c->second.formula, e.moving_side = c->second.moving_side;
            if (set && e.state == EntryState::loose)
                return failure(ErrorCode::usage,
                               fmt::format("{} is loose and cannot drive: {}", e.name, e.why));
            if (e.state == EntryState::loose || (e.state == EntryState::reports && !set)) continue;
            if (set) e.state = c->second.held ? EntryState::held : EntryState::drives, e.why.clear();
            const bool changes = values.at(e.name) != e.value;
            if (const double v = values.at(e.name); changes) {
                if (!e.angular() && v <= 0)
                    return failure(ErrorCode::usage, fmt::format("{} must be greater than zero", e.name));
                setValue(e, v);
                favour(f, e, p);
            }
            if (changes) p.changed.push_back(static_cast<int>(p.equations.size()));
            p.entry_of[static_cast<int>(p.equations.size())] = static_cast<int>(i);
            p.equations.push_back(e.equation);
        }
    return p;
}

/// What of the figure these unknowns would turn round or make vanish: a line that runs the other way than
/// drawn, an arc without a radius. Such values ask for another part than the one drawn. Empty when all keeps
/// its shape.
std::string lostShape(const Figure& f, const std::vector<double>& x) {
    const double least = f.tolerances.same_model;
    auto tell = [&](const FigureCurve& c, const char* what) {
        const Vec2 at = pointAt(c.drawn, 0.5);
        return fmt::format("These values would {} at {:.2f}, {:.2f} of the {} view", what, at.x, at.y,
                           nameOf(f.viewById(c.view)->name));
    };
    for (size_t i = 0; i < f.curves.size(); ++i) {
        const FigureCurve& c = f.curves[i];
        if (c.radius >= 0 && x[c.radius] < least) return tell(c, "leave no radius to the arc");
        if (c.p0 < 0 || c.radius >= 0) continue;
        const Vec2 was = endOf(c.drawn) - startOf(c.drawn),
                   is = f.at(f.points[c.p1], x) - f.at(f.points[c.p0], x);
        if (length(was) <= 2 * least) continue;
        if (length(is) < least) return tell(c, "shrink to nothing the line");
        if (dot(was, is) <= 0) return tell(c, "turn round the line");
    }
    return {};
}

/// Whether settling what the digits leave open took ends of lines, or circles, away from all that is drawn in
/// their view by far more than was open: near where a line touches an arc, a thousandth may be magnified to a
/// tenth. Along a flat bow its end may go far, and so may its centre.
bool magnified(const Figure& f, const std::vector<double>& settled, double open) {
    constexpr double kMost = 30;
    const double most = std::max(f.tolerances.proof, kMost * open);
    const auto strayed = [&](int point, int view) {
        if (point < 0) return false;
        const FigurePoint& p = f.points[static_cast<size_t>(point)];
        const Vec2 is = f.at(p, settled);
        return distance(is, f.at(p, f.now)) > most &&
               std::ranges::none_of(f.curves, [&](const FigureCurve& c) {
                   return c.view == view && distanceTo(c.drawn, is) <= most;
               });
    };
    return std::ranges::any_of(f.curves, [&](const FigureCurve& c) {
        const auto r = static_cast<size_t>(c.radius);
        const bool whole = c.p0 < 0 && c.radius >= 0;
        return strayed(c.p0, c.view) || strayed(c.p1, c.view) ||
               (whole && std::abs(settled[r] - f.now[r]) > most);
    });
}

/// Agreements of so many equations are settled where the digits leave them open; on larger sheets they stay
/// as drawn.
constexpr size_t kMostSettled = 3000;

} // namespace

DriveOutcome drive(Figure& f, Ledger& ledger, const NumberChoices& choices) {
    DriveOutcome out;
    for (const auto& [name, c] : choices)
        if (!ledger.named(name)) {
            out.message = fmt::format("there is no number named {} on this sheet", name);
            return out;
        }
    const auto values = wantedValues(ledger, choices);
    if (!values) return out.message = values.error().message, out;
    Ledger next = ledger;
    const auto posed = pose(f, next, choices, *values);
    if (!posed) return out.message = posed.error().message, out;
    const bool small = f.equations.size() <= kMostSettled;
    std::vector<Equation> system = posed->equations;
    if (posed->changed.empty() && !small) // agreements by chance would tie the whole sheet together
        std::erase_if(system, [](const Equation& e) { return e.level != Level::structure; });
    std::vector<int> seeds = posed->changed;
    double widest = 0;
    for (size_t i = 0; i < system.size(); ++i) { // what the file's digits leave a little open
        const bool structure = system[i].level == Level::structure;
        if (!structure && !small) continue;
        const double open =
            structure ? f.tolerance() : std::max(f.tolerance(), 0.01 * f.tolerances.same_model);
        if (const double off = std::abs(evaluate(system[i], f.now, nullptr)); off > open)
            seeds.push_back(static_cast<int>(i)), widest = std::max(widest, off);
    }
    if (seeds.empty()) { // nothing is driven, and all is exact: the figure stays as drawn
        ledger = std::move(next);
        return out;
    }
    const SolveOutcome s = solveFrom(seeds, system, f.now, posed->weights, f.tolerance());
    const std::string lost = s.converged ? lostShape(f, s.x) : "";
    if (posed->changed.empty() &&
        (!s.clashes.empty() || !s.converged || !lost.empty() || magnified(f, s.x, widest))) {
        ledger = std::move(next); // what the sheet itself leaves open stays open
        return out;
    }
    if (!s.clashes.empty()) {
        std::set<std::string> names;
        for (const Clash& c : s.clashes)
            for (int i : c.equations)
                if (auto it = posed->entry_of.find(i); it != posed->entry_of.end())
                    names.insert(next.entries[it->second].name);
        out.clashing.assign(names.begin(), names.end());
        out.message = refusal(out.clashing);
        return out;
    }
    if (!s.converged) {
        out.message = fmt::format(
            "No shape was found with these values (largest gap {:.4g} mm). Nothing was changed.", s.worst);
        return out;
    }
    if (!lost.empty()) {
        out.message = fmt::format("{}. Nothing was changed.", lost);
        return out;
    }
    out.let_go = static_cast<int>(std::ranges::count_if(
        s.let_go, [&](int i) { return system[i].owner >= 0; })); // centres may move without a word
    f.now = s.x;
    for (LedgerEntry& e : next.entries)
        if (e.state == EntryState::reports) e.value = measuredIn(e, f.now);
    ledger = std::move(next);
    return out;
}

Result<double> valueOf(const Ledger& ledger, const std::string& formula) {
    std::map<std::string, double> values;
    std::set<std::string> angles;
    for (const LedgerEntry& e : ledger.entries) {
        values[e.name] = e.value;
        if (e.angular()) angles.insert(e.name);
    }
    return evaluateFormula(formula, values, ledger.unit_mm, angles);
}

} // namespace prism
