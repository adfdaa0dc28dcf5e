#include "core/solving/system.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <random>

// What the equations say at places worked out by hand, and what the solver makes of systems with known
// answers.
using namespace prism;

namespace {

Equation ofKind(EquationKind k, std::array<int, 8> v, double value = 0) {
    Equation e;
    e.kind = k, e.v = v, e.value = value;
    return e;
}

double at(const Equation& e, const std::vector<double>& x) {
    return evaluate(e, x, nullptr);
}

} // namespace

TEST_CASE("equations say by how much they fail, in mm or radians") {
    // A point at (3, 4) against a circle of radius 2 round the origin.
    CHECK(at(ofKind(EquationKind::point_on_circle, {0, 1, 2, 3, 4}), {3, 4, 0, 0, 2}) == Approx(3));
    CHECK(at(ofKind(EquationKind::point_on_circle, {0, 1, 2, 3, 4}), {3, 4, 0, 0, 7}) == Approx(-2));
    // The radius from (0, 0) to (10, 0) against a line from there to (13, 4): its part along the line.
    CHECK(at(ofKind(EquationKind::radius_square, {0, 1, 2, 3, 4, 5}), {10, 0, 0, 0, 13, 4}) == Approx(6));
    CHECK(at(ofKind(EquationKind::radius_square, {0, 1, 2, 3, 4, 5}), {10, 0, 0, 0, 10, 4}) == Approx(0));
    CHECK(at(ofKind(EquationKind::radius_square, {0, 1, 2, 3, 4, 5}), {0, 5, 0, 0, 3, 9}) == Approx(4));
    // (5, 2) beside the line from (0, 0) to (10, 0).
    CHECK(at(ofKind(EquationKind::collinear, {0, 1, 2, 3, 4, 5}), {0, 0, 5, 2, 10, 0}) == Approx(-2));
    CHECK(at(ofKind(EquationKind::collinear, {0, 1, 2, 3, 4, 5}), {0, 0, 5, -3, 20, 0}) == Approx(3));
    CHECK(at(ofKind(EquationKind::collinear, {0, 1, 2, 3, 4, 5}), {1, 1, 4, 4, 9, 9}) == Approx(0));
    CHECK(at(ofKind(EquationKind::distance, {0, 1, 2, 3}, 4), {1, 1, 4, 5}) == Approx(1));
    // From the direction of +x to that of (1, 1), wanted 30 degrees.
    const double degree = std::acos(-1.0) / 180;
    CHECK(at(ofKind(EquationKind::angle, {0, 1, 2, 3, 4, 5, 6, 7}, 30 * degree), {0, 0, 5, 0, 0, 0, 2, 2}) ==
          Approx(15 * degree));
    CHECK(at(ofKind(EquationKind::angle, {0, 1, 2, 3, 4, 5, 6, 7}, 170 * degree),
             {0, 0, 5, 0, 0, 0, -5, -1e-9}) == Approx(10 * degree)); // the short way round
    CHECK(at(Equation::linearOf(Level::number, {{0, 2}, {1, -3}}, 4), {5, 1}) == Approx(3));
    // (7, 1) lies 5 along the line from (1, 1) by (3, 4): 18 / 5 = 3.6; the numbers differ by 2.
    CHECK(at(ofKind(EquationKind::along, {0, 1, 2, 3, 4, 5, 6, 7}), {7, 1, 1, 1, 4, 5, 12, 10}) ==
          Approx(1.6));
    CHECK(at(ofKind(EquationKind::along, {0, 1, 2, 3, 4, 5, 6, 7}), {4, 5, 1, 1, 4, 5, 3, 8}) == Approx(10));
    // On an ellipse of 6 by 3 round (1, 2), and twice as far out.
    CHECK(at(ofKind(EquationKind::point_on_ellipse, {0, 1, 2, 3, 4, 5}),
             {1 + 6 * 0.6, 2 + 3 * 0.8, 1, 2, 6, 3}) == Approx(0).margin(1e-12));
    CHECK(at(ofKind(EquationKind::point_on_ellipse, {0, 1, 2, 3, 4, 5}), {13, 2, 1, 2, 6, 3}) ==
          Approx(std::sqrt(18.0)));
}

TEST_CASE("terms of one variable are taken together, and vanish when they cancel") {
    const Equation e = Equation::linearOf(Level::weak, {{4, 1}, {2, 3}, {4, 2}, {2, -3}}, 9);
    REQUIRE(e.terms.size() == 1);
    CHECK(e.terms[0].variable == 4);
    CHECK(e.terms[0].factor == 3);
    CHECK(e.value == 9);
    CHECK(e.level == Level::weak);
    CHECK(Equation::linearOf(Level::number, {{1, 1}, {1, -1}}, 0).terms.empty());
}

TEST_CASE("a right triangle by its hypotenuse and one leg has the other leg of Pythagoras") {
    // (x0, x1) at the origin, (x2, 0) along x, (x2, x3) above: x2 = 12, hypotenuse 13.
    std::vector<Equation> eq{
        Equation::linearOf(Level::structure, {{0, 1}}, 0), Equation::linearOf(Level::structure, {{1, 1}}, 0),
        Equation::linearOf(Level::number, {{2, 1}}, 12), ofKind(EquationKind::distance, {0, 1, 2, 3}, 13)};
    eq[3].level = Level::number;
    for (double start : {1.0, 4.0, 30.0}) {
        const SolveOutcome o = solve(eq, {0, 0, 10, start}, {1, 1, 1, 1}, 1e-10);
        REQUIRE(o.converged);
        CHECK(o.x[2] == Approx(12));
        CHECK(o.x[3] == Approx(5));
        CHECK(o.worst <= 1e-10);
    }
    CHECK(solve(eq, {0, 0, 10, -4}, {1, 1, 1, 1}, 1e-10).x[3] == Approx(-5)); // stays on its side
}

TEST_CASE("of what may move, the lighter moves more, and what fits already stays to the last digit") {
    const std::vector<Equation> eq{Equation::linearOf(Level::number, {{1, 1}, {0, -1}}, 12)};
    const SolveOutcome even = solve(eq, {0, 10}, {1, 1}, 1e-12);
    CHECK(even.x[0] == Approx(-1));
    CHECK(even.x[1] == Approx(11));
    const SolveOutcome heavy = solve(eq, {0, 10}, {3, 1}, 1e-12);
    CHECK(heavy.x[0] == Approx(-0.5));
    CHECK(heavy.x[1] == Approx(11.5));
    const SolveOutcome fits = solve(eq, {0.1, 12.1}, {1, 1}, 1e-12);
    CHECK(fits.x == std::vector<double>{0.1, 12.1});
    CHECK(fits.iterations == 0);
}

TEST_CASE("weak equations give way to numbers, the weakest first, and the solver says which") {
    std::vector<Equation> eq{Equation::linearOf(Level::number, {{0, 1}}, 0),
                             Equation::linearOf(Level::number, {{2, 1}}, 30),
                             Equation::linearOf(Level::weak, {{1, 1}, {0, -1}}, 10),
                             Equation::linearOf(Level::weak, {{2, 1}, {1, -1}}, 10)};
    eq[2].score = 5, eq[3].score = 1;
    const SolveOutcome o = solve(eq, {0, 10, 20}, {1, 1, 1}, 1e-10);
    REQUIRE(o.converged);
    CHECK(o.let_go == std::vector<int>{3});
    CHECK(o.x[1] == Approx(10));
    eq[2].score = 1, eq[3].score = 5;
    const SolveOutcome other = solve(eq, {0, 10, 20}, {1, 1, 1}, 1e-10);
    CHECK(other.let_go == std::vector<int>{2});
    CHECK(other.x[1] == Approx(20));
}

TEST_CASE("random chains of lengths come out at their sums, from any start") {
    std::mt19937 random(8);
    std::uniform_real_distribution<double> length(1, 40), off(-5, 5);
    for (int round = 0; round < 20; ++round) {
        std::vector<Equation> eq{Equation::linearOf(Level::structure, {{0, 1}}, 7)};
        std::vector<double> sums{7}, start{7 + off(random)};
        for (int i = 1; i < 12; ++i) {
            const double l = length(random);
            eq.push_back(Equation::linearOf(Level::number, {{i, 1}, {i - 1, -1}}, l));
            sums.push_back(sums.back() + l), start.push_back(sums.back() + off(random));
        }
        eq.push_back(Equation::linearOf(Level::number, {{11, 1}, {0, -1}}, sums[11] - 7)); // says nothing new
        const SolveOutcome o = solve(eq, start, std::vector<double>(12, 1.0), 1e-10);
        REQUIRE(o.converged);
        CHECK(o.redundant == std::vector<int>{12});
        CHECK(o.clashes.empty());
        for (int i = 0; i < 12; ++i) CHECK(o.x[i] == Approx(sums[i]));
        eq.back().value += 1;
        const SolveOutcome clash = solve(eq, start, std::vector<double>(12, 1.0), 1e-10);
        REQUIRE(clash.clashes.size() == 1);
        CHECK(clash.clashes[0].equations.size() == 12); // all of the chain and its total, not the start
    }
}
