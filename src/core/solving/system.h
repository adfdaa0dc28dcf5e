#pragma once
#include <array>
#include <string>
#include <vector>

// Equations over one vector of unknowns, and the solver for them. Knows nothing of drawings.
namespace prism {

struct Term {
    int variable;
    double factor;
    friend bool operator==(const Term&, const Term&) = default;
};

/// What an equation is for; decides what gives way when not all can hold.
enum class Level {
    structure, ///< how the lines hang together: never gives way
    strong,    ///< one feature seen in two views: never gives way
    number,    ///< a driving number: refused together with the others it clashes with
    weak       ///< things that merely agree as drawn: let go when the numbers say otherwise
};

enum class EquationKind {
    linear,           ///< sum of terms = value
    point_on_circle,  ///< p, centre, radius
    point_on_ellipse, ///< p, centre, half extents along both axes
    radius_square,    ///< p, centre, q: the line from p to q stands square on the radius at p (tangent there)
    collinear,        ///< p, q, r on one line
    distance,         ///< p, q at distance value
    angle,            ///< p, q, r, s: from line pq to line rs, value in radians
    along,            ///< p, a, b, and two numbers: p lies as far along the line from a to b as they differ
    foreshortened ///< a, b, and two numbers: the first is to the second as the line from a to b is long in X
};

struct Equation {
    EquationKind kind = EquationKind::linear;
    Level level = Level::structure;
    std::vector<Term> terms; ///< linear only
    std::array<int, 8> v{};  ///< variables x, y of the points in order (and the radius), for the other kinds
    double value = 0;
    double score = 0; ///< among weak ones: the stronger is kept first
    int owner = -1;   ///< what it came from, for whoever reads the outcome

    static Equation linearOf(Level level, const std::vector<Term>& terms, double value = 0);
};

/// Residual of an equation and its gradient (appended as terms). Lengths for all kinds but angle (radians).
double evaluate(const Equation& e, const std::vector<double>& x, std::vector<Term>* gradient);

/// A set of equations, written by index, that cannot all hold.
struct Clash {
    std::vector<int> equations;
};

struct SolveOutcome {
    bool converged = false;
    std::vector<double> x;
    std::vector<int> let_go;    ///< weak equations dropped
    std::vector<int> redundant; ///< equations that followed from earlier ones
    std::vector<Clash> clashes; ///< not empty: nothing was solved
    int iterations = 0;
    double worst = 0; ///< largest residual of what was to hold
};

/// Moves x as little as possible (weighted) so that all structure, strong and number equations hold, with as
/// many weak ones as agree with them, strongest first. Rank-revealing elimination at the start decides what
/// follows from what; then Newton steps of least weighted length (damped). `tolerance` is the residual that
/// counts as zero.
SolveOutcome solve(const std::vector<Equation>& equations, const std::vector<double>& start,
                   const std::vector<double>& weights, double tolerance);

/// The same for the parts of the system alone that the equations `seeds` belong to: those that hang together
/// with one of them through unknowns they share. What belongs to other parts is neither looked at nor moved.
SolveOutcome solveFrom(const std::vector<int>& seeds, const std::vector<Equation>& equations,
                       const std::vector<double>& start, const std::vector<double>& weights,
                       double tolerance);

/// Equations that hang together with one of the seeds, by index, sorted.
std::vector<int> hangingTogether(const std::vector<int>& seeds, const std::vector<Equation>& equations,
                                 size_t unknowns);
/// The unknowns that an equation is about.
std::vector<int> unknownsOf(const Equation& e);

} // namespace prism
