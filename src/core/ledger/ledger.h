#pragma once
#include "core/base/result.h"
#include "core/figure/figure.h"

#include <set>

// The numbers of the sheet: what each dimension measures, and what drives what.
namespace prism {

enum class EntryState {
    drives,  ///< its value is an equation of the figure
    reports, ///< it follows from others; it only shows
    loose,   ///< its definition points meet nothing of the figure
    held,    ///< drives, and may not be changed by the edit of another
    clashes  ///< its value cannot hold together with others
};
const char* nameOf(EntryState s);

/// Which end moves when a linear dimension is changed.
enum class MovingSide { either, first, second };
const char* nameOf(MovingSide s);

struct LedgerEntry {
    std::string name;   ///< letters, digits, underscore; unique
    int dimension = -1; ///< id in the drawing
    std::string handle;
    int view = -1; ///< id in the ViewSet
    DimensionKind kind = DimensionKind::linear;
    Axis axis = Axis::x;     ///< of a linear one
    bool along_axis = false; ///< linear along one model axis
    std::string text;        ///< as on the sheet
    double drawn = 0;        ///< as drawn, mm or degrees
    double said = 0;         ///< what the text says, mm or degrees
    double value = 0;        ///< now, mm or degrees
    std::string formula;     ///< empty: a plain value
    double plus = 0, minus = 0;
    int count = 1;
    bool reference = false; ///< an auxiliary dimension of the sheet: in parentheses
    EntryState state = EntryState::loose;
    std::string why; ///< for reports and loose: the reason in words
    MovingSide moving_side = MovingSide::either;
    std::vector<Term> low, high; ///< the two ends of a linear one
    Equation equation;           ///< with the present value; unit mm or radians
    bool angular() const { return kind == DimensionKind::angular; }
    const char* unit() const { return angular() ? "deg" : "mm"; }
};

/// The drawing's lines that carry a number: whose radius it is, or that lie level or upright at one of its
/// ends.
std::set<int> linesOf(const Figure& f, const LedgerEntry& e);

/// What a person decided about one number.
struct NumberChoice {
    std::optional<double> value; ///< mm or degrees
    std::string formula;         ///< wins over value
    bool held = false;
    MovingSide moving_side = MovingSide::either;
    friend bool operator==(const NumberChoice&, const NumberChoice&) = default;
};
using NumberChoices = std::map<std::string, NumberChoice>;

/// Takes what a person typed for a number: a plain value (in `plain_unit` millimetres; degrees for 1), an
/// expression with units, or a formula over other names. Usage error when it cannot be read.
Result<void> takeTyped(NumberChoice& choice, const std::string& typed, double plain_unit);

struct Ledger {
    std::vector<LedgerEntry> entries;
    double unit_mm = 1; ///< millimetres in the sheet's unit, in which a number without a unit counts
    /// What a number without a unit counts when it is written for an entry: degrees for angles.
    double plainUnit(const std::string& name) const {
        const LedgerEntry* e = named(name);
        return e && e->angular() ? 1 : unit_mm;
    }
    const LedgerEntry* named(const std::string& name) const;
    LedgerEntry* named(const std::string& name);
};

/// Binds every dimension of the views to the figure and decides which drive: in the order of the file, a
/// dimension that follows from the structure and the dimensions before it only reports.
Ledger makeLedger(const Drawing& d, const ViewSet& set, const Figure& f);

/// What a change came to.
struct DriveOutcome {
    std::vector<std::string> clashing; ///< names that cannot hold together; empty when all went well
    std::string message;               ///< in words, when it was refused
    int let_go = 0;                    ///< agreements as drawn that had to be given up
    bool ok() const { return message.empty(); }
};

/// Evaluates formulas, solves the figure with the chosen numbers and writes the values back into the ledger.
/// When the numbers clash, figure and ledger are left as they were.
DriveOutcome drive(Figure& f, Ledger& ledger, const NumberChoices& choices);

/// Value of an expression over ledger names, mm or degrees: plain arithmetic, units mm cm m in ft deg behind
/// numbers, the usual functions. A number without a unit counts in `plain_unit` (mm for 1; 25.4 for a sheet
/// in inches). `values` are mm, those of the names in `angles` degrees. Usage error when it cannot be read or
/// has no single finite value.
Result<double> evaluateFormula(const std::string& formula, const std::map<std::string, double>& values,
                               double plain_unit = 1, const std::set<std::string>& angles = {});
/// The same over the numbers of a ledger as they now are; a number without a unit is in the sheet's unit.
Result<double> valueOf(const Ledger& ledger, const std::string& formula);
/// Ledger names that occur in an expression.
std::vector<std::string> namesIn(const std::string& formula);
/// The expression with its names exchanged all at once.
std::string withNames(const std::string& formula, const std::map<std::string, std::string>& names);

} // namespace prism
