#include "core/solving/elimination.h"
#include "core/solving/system.h"

#include <Eigen/Dense>
#include <map>
#include <random>

using namespace prism;

namespace {

Equation ofKind(EquationKind k, std::array<int, 8> v, double value = 0) {
    Equation e;
    e.kind = k, e.v = v, e.value = value;
    return e;
}

} // namespace

TEST_CASE("every equation's gradient agrees with finite differences") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> any(-20, 20);
    const std::vector<Equation> all{Equation::linearOf(Level::structure, {{0, 2}, {3, -1}}, 4),
                                    ofKind(EquationKind::point_on_circle, {0, 1, 2, 3, 4}),
                                    ofKind(EquationKind::radius_square, {0, 1, 2, 3, 4, 5}),
                                    ofKind(EquationKind::collinear, {0, 1, 2, 3, 4, 5}),
                                    ofKind(EquationKind::distance, {0, 1, 2, 3}, 7),
                                    ofKind(EquationKind::angle, {0, 1, 2, 3, 4, 5, 6, 7}, 0.4),
                                    ofKind(EquationKind::along, {0, 1, 2, 3, 4, 5, 6, 7}),
                                    ofKind(EquationKind::foreshortened, {0, 1, 2, 3, 4, 5}),
                                    // The place where the own axis begins may be the end of the edge, too.
                                    ofKind(EquationKind::along, {0, 1, 2, 3, 0, 1, 6, 7}),
                                    ofKind(EquationKind::point_on_ellipse, {0, 1, 2, 3, 4, 5})};
    for (int round = 0; round < 30; ++round) {
        std::vector<double> x(8);
        for (double& v : x) v = any(random);
        for (const Equation& e : all) {
            if (e.kind == EquationKind::radius_square || e.kind == EquationKind::collinear) continue; // below
            if (e.kind == EquationKind::point_on_ellipse) // its sizes are above zero
                x[4] = 3 + std::abs(x[4]), x[5] = 3 + std::abs(x[5]);
            std::vector<Term> gradient;
            evaluate(e, x, &gradient);
            for (int v = 0; v < 8; ++v) { // those that are not among the terms must not matter
                constexpr double h = 1e-6;
                auto hi = x, lo = x;
                hi[v] += h, lo[v] -= h;
                const double difference =
                    std::remainder(evaluate(e, hi, nullptr) - evaluate(e, lo, nullptr), 6.283185307179586);
                double factor = 0;
                for (const Term& t : gradient)
                    if (t.variable == v) factor += t.factor;
                CHECK(factor == Approx(difference / (2 * h)).margin(1e-5));
            }
        }
    }
}

TEST_CASE("scaled equations have the right gradient where they hold") {
    // Their scale is left out of the gradient: it does not matter at a solution, and Newton goes there.
    const std::vector<double> x{10, 0, 0, 0, 10, 5, 0, 0};
    for (EquationKind k : {EquationKind::radius_square, EquationKind::collinear}) {
        const std::vector<double> at =
            k == EquationKind::collinear ? std::vector<double>{0, 0, 5, 5, 10, 10} : x;
        const Equation e = ofKind(k, {0, 1, 2, 3, 4, 5});
        std::vector<Term> gradient;
        CHECK(evaluate(e, at, &gradient) == Approx(0).margin(1e-12));
        for (int v = 0; v < static_cast<int>(at.size()); ++v) {
            auto hi = at, lo = at;
            hi[v] += 1e-6, lo[v] -= 1e-6;
            double factor = 0;
            for (const Term& t : gradient)
                if (t.variable == v) factor += t.factor;
            CHECK(factor ==
                  Approx((evaluate(e, hi, nullptr) - evaluate(e, lo, nullptr)) / 2e-6).margin(1e-5));
        }
    }
}

TEST_CASE("only what hangs together with a seed is solved") {
    // Two chains: 0 - 1 - 2 and 3 - 4; a third that contradicts itself, 5.
    std::vector<Equation> eq{Equation::linearOf(Level::structure, {{1, 1}, {0, -1}}, 10),
                             Equation::linearOf(Level::structure, {{2, 1}, {1, -1}}, 5),
                             Equation::linearOf(Level::structure, {{4, 1}, {3, -1}}, 7),
                             Equation::linearOf(Level::number, {{5, 1}}, 1),
                             Equation::linearOf(Level::number, {{5, 1}}, 2)};
    const std::vector<double> start{0, 0, 0, 0, 0, 0}, weights(6, 1.0);
    CHECK(hangingTogether({0}, eq, 6) == std::vector<int>{0, 1});
    CHECK(hangingTogether({2, 4}, eq, 6) == std::vector<int>{2, 3, 4});
    CHECK(hangingTogether({}, eq, 6).empty());
    const SolveOutcome o = solveFrom({1}, eq, start, weights, 1e-9);
    REQUIRE(o.converged);
    CHECK(o.x[1] - o.x[0] == Approx(10));
    CHECK(o.x[2] - o.x[1] == Approx(5));
    CHECK(o.x[3] == 0);
    CHECK(o.x[4] == 0);
    const SolveOutcome clash = solveFrom({3}, eq, start, weights, 1e-9);
    REQUIRE(clash.clashes.size() == 1);
    CHECK(clash.clashes[0].equations == std::vector<int>{3, 4});
}

TEST_CASE("elimination tells independent, redundant and contradicting rows apart") {
    Elimination e;
    using V = Elimination::Verdict;
    std::vector<int> involved;
    CHECK(e.add(0, {{0, 1}, {1, -1}}, 5, 1e-9, nullptr) == V::independent);
    CHECK(e.add(1, {{1, 1}, {2, -1}}, 3, 1e-9, nullptr) == V::independent);
    CHECK(e.add(2, {{0, 1}, {2, -1}}, 8, 1e-9, nullptr) == V::redundant);
    CHECK(e.add(3, {{0, 1}, {2, -1}}, 9, 1e-9, &involved) == V::contradiction);
    std::sort(involved.begin(), involved.end());
    CHECK(involved == std::vector<int>{0, 1});
}

TEST_CASE("elimination's rank is that of a dense factorisation") {
    std::mt19937 random(5);
    std::uniform_int_distribution<int> coefficient(-2, 2), variable(0, 11);
    for (int round = 0; round < 20; ++round) {
        Elimination e;
        Eigen::MatrixXd dense = Eigen::MatrixXd::Zero(14, 12);
        int independent = 0;
        for (int r = 0; r < 14; ++r) {
            std::map<int, double> row;
            for (int k = 0; k < 3; ++k) row[variable(random)] = coefficient(random);
            std::vector<Term> terms;
            for (auto [v, f] : row)
                if (f != 0) terms.push_back({v, f}), dense(r, v) = f;
            if (terms.empty()) continue;
            independent += e.add(r, terms, 0, 1e-9, nullptr) == Elimination::Verdict::independent;
        }
        CHECK(independent == Eigen::FullPivLU<Eigen::MatrixXd>(dense).rank());
    }
}

TEST_CASE("what need not move does not, and the lighter unknown gives way") {
    const std::vector<Equation> eq{Equation::linearOf(Level::number, {{1, 1}, {0, -1}}, 30)};
    const SolveOutcome o = solve(eq, {0, 20, 77}, {1e4, 1, 1}, 1e-9);
    REQUIRE(o.converged);
    CHECK(o.x[0] == Approx(0).margin(0.01));
    CHECK(o.x[1] - o.x[0] == Approx(30));
    CHECK(o.x[2] == 77);
}

TEST_CASE("the step is the weighted least-norm solution of a dense reference") {
    std::mt19937 random(8);
    std::normal_distribution<double> any;
    for (int round = 0; round < 10; ++round) {
        const int n = 9, m = 4;
        Eigen::MatrixXd a(m, n);
        Eigen::VectorXd b(m), w(n);
        std::vector<Equation> eq;
        std::vector<double> weights;
        for (int i = 0; i < n; ++i) w[i] = 0.5 + std::abs(any(random)), weights.push_back(w[i]);
        for (int r = 0; r < m; ++r) {
            std::vector<Term> terms;
            for (int i = 0; i < n; ++i) a(r, i) = any(random), terms.push_back({i, a(r, i)});
            b[r] = any(random);
            eq.push_back(Equation::linearOf(Level::number, terms, b[r]));
        }
        const SolveOutcome o = solve(eq, std::vector<double>(n, 0), weights, 1e-10);
        REQUIRE(o.converged);
        const Eigen::MatrixXd winv = w.cwiseInverse().asDiagonal();
        const Eigen::VectorXd x = winv * a.transpose() * (a * winv * a.transpose()).ldlt().solve(b);
        for (int i = 0; i < n; ++i) CHECK(o.x[i] == Approx(x[i]).margin(1e-7));
    }
}

TEST_CASE("weak agreements are let go, strongest last; numbers that clash are named") {
    std::vector<Equation> eq{Equation::linearOf(Level::number, {{0, 1}}, 5),
                             Equation::linearOf(Level::weak, {{0, 1}, {1, -1}}, 0),
                             Equation::linearOf(Level::weak, {{1, 1}}, 9)};
    eq[1].score = 1, eq[2].score = 2;
    const SolveOutcome o = solve(eq, {4, 4}, {1, 1}, 1e-9);
    REQUIRE(o.converged);
    CHECK(o.let_go == std::vector<int>{1});
    CHECK(o.x[1] == Approx(9));
    eq.push_back(Equation::linearOf(Level::number, {{0, 2}}, 11));
    const SolveOutcome clash = solve(eq, {4, 4}, {1, 1}, 1e-9);
    REQUIRE(clash.clashes.size() == 1);
    CHECK(clash.clashes[0].equations == std::vector<int>{0, 3});
}

TEST_CASE("curved equations converge to places where they hold") {
    // Two circles' common tangent point and a distance: solved, then checked by plain geometry.
    const std::vector<Equation> eq{ofKind(EquationKind::point_on_circle, {0, 1, 2, 3, 4}),
                                   ofKind(EquationKind::distance, {0, 1, 5, 6}, 12)};
    const SolveOutcome o = solve(eq, {9, 1, 0, 0, 10, 20, 0}, std::vector<double>(7, 1), 1e-10);
    REQUIRE(o.converged);
    CHECK(std::hypot(o.x[0] - o.x[2], o.x[1] - o.x[3]) == Approx(o.x[4]));
    CHECK(std::hypot(o.x[0] - o.x[5], o.x[1] - o.x[6]) == Approx(12));
}

TEST_CASE("a rough drawing is not pulled apart where one equation follows from others") {
    // The rounded end of a turned body, seen in two views alike: centre and end along the axis are shared,
    // the radius and the height of the end are the same in both. So the second circle says nothing new, which
    // a drawing known to a hundredth does not show.
    enum { xc, xe, y, ye, r, z, ze, q, h, unknowns };
    const std::vector<double> exact{59.5, 75.521952, 23.25, 30.25, 17.5, 40, 47, 17.5, 7};
    REQUIRE(std::hypot(exact[xe] - exact[xc], 7.0) == Approx(17.5).margin(2e-2));
    const std::vector<Equation> eq{ofKind(EquationKind::point_on_circle, {xe, ye, xc, y, r}),
                                   ofKind(EquationKind::point_on_circle, {xe, ze, xc, z, q}),
                                   Equation::linearOf(Level::strong, {{ye, 1}, {y, -1}, {h, -1}}),
                                   Equation::linearOf(Level::strong, {{ze, 1}, {z, -1}, {h, -1}}),
                                   Equation::linearOf(Level::strong, {{r, 1}, {q, -1}})};
    std::mt19937 random(11);
    std::normal_distribution<double> off(0, 0.01);
    for (int round = 0; round < 60; ++round) {
        std::vector<double> start = exact;
        for (double& v : start) v += off(random);
        const SolveOutcome o = solve(eq, start, std::vector<double>(unknowns, 1.0), 1e-9);
        INFO(round);
        REQUIRE(o.converged);
        for (const Equation& e : eq) CHECK(std::abs(evaluate(e, o.x, nullptr)) < 1e-7);
        for (int v = 0; v < unknowns; ++v) CHECK(std::abs(o.x[v] - start[v]) < 0.08);
    }
}

TEST_CASE("numbers that clash are refused on a rough drawing as on an exact one") {
    // A circle and a point on it that misses it by some hundredths; its radius is given twice, differently.
    const std::vector<Equation> eq{ofKind(EquationKind::point_on_circle, {0, 1, 2, 3, 4}),
                                   Equation::linearOf(Level::number, {{4, 1}}, 10),
                                   Equation::linearOf(Level::number, {{4, 1}}, 12)};
    for (double off : {0.0, 0.03}) {
        INFO(off);
        const SolveOutcome o = solve(eq, {10 + off, 0, 0, 0, 10}, std::vector<double>(5, 1.0), 1e-9);
        REQUIRE(o.clashes.size() == 1);
        CHECK(o.clashes[0].equations == std::vector<int>{1, 2});
        CHECK(o.x[4] == 10); // nothing was solved
    }
}

TEST_CASE("what the rows before leave of a row tells whether two say the same") {
    Elimination rows;
    rows.add(1, {{0, 1}, {1, -1}}, 0, 1e-9, nullptr); // x0 = x1
    rows.add(2, {{2, 1}, {3, -1}}, 0, 1e-9, nullptr); // x2 = x3
    const auto a = rows.remainder({{2, 1}, {0, -1}}), b = rows.remainder({{3, -1}, {1, 1}}),
               other = rows.remainder({{3, 1}, {4, -1}});
    REQUIRE(a.size() == 2);
    CHECK(a == b); // the sense does not count
    CHECK(a.front().factor == 1);
    CHECK(other != a);
    CHECK(rows.remainder({{0, 2}, {1, -2}}).empty());
    // Asking leaves the rows as they were.
    CHECK(rows.add(3, {{0, 1}, {1, -1}}, 0, 1e-9, nullptr) == Elimination::Verdict::redundant);
    CHECK(rows.add(4, {{2, 1}, {0, -1}}, 0, 1e-9, nullptr) == Elimination::Verdict::independent);
}
