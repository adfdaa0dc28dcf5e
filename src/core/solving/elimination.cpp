#include "core/solving/elimination.h"

#include <algorithm>
#include <cmath>

namespace prism {
namespace {

constexpr double kNoise = 1e-10; ///< coefficients below this share of the row's largest are rounding

std::vector<Term> combined(const std::vector<Term>& a, const std::vector<Term>& b, double factor) {
    std::vector<Term> r;
    r.reserve(a.size() + b.size());
    size_t i = 0, j = 0;
    while (i < a.size() || j < b.size()) {
        if (j == b.size() || (i < a.size() && a[i].variable < b[j].variable))
            r.push_back(a[i++]);
        else if (i == a.size() || b[j].variable < a[i].variable) {
            r.push_back({b[j].variable, -factor * b[j].factor});
            ++j;
        } else {
            const double f = a[i].factor - factor * b[j].factor;
            if (std::abs(f) > kNoise * std::max(std::abs(a[i].factor), 1e-3)) r.push_back({a[i].variable, f});
            ++i, ++j;
        }
    }
    return r;
}

} // namespace

void Elimination::subtract(Row& from, const Row& what, double factor) const {
    from.terms = combined(from.terms, what.terms, factor);
    if (explain_) from.made_of = combined(from.made_of, what.made_of, factor);
    from.rhs -= factor * what.rhs;
}

/// The row less all rows that hold one of its variables as their pivot; factors below `least` are rounding.
Elimination::Row Elimination::reduced(Row row, double least) const {
    std::sort(row.terms.begin(), row.terms.end(),
              [](const Term& a, const Term& b) { return a.variable < b.variable; });
    double scale = 0;
    for (const Term& t : row.terms) scale = std::max(scale, std::abs(t.factor));
    // Earlier rows hold no pivots of rows before them, so going up in row order ends.
    for (;;) {
        int next = -1;
        double factor = 0;
        for (const Term& t : row.terms) {
            const auto it = row_of_pivot_.find(t.variable);
            if (it != row_of_pivot_.end() && (next < 0 || it->second < next))
                next = it->second, factor = t.factor;
        }
        if (next < 0) break;
        const int pivot = rows_[next].pivot;
        subtract(row, rows_[next], factor);
        std::erase_if(row.terms, [&](const Term& t) { return t.variable == pivot; });
    }
    std::erase_if(row.terms, [&](const Term& t) { return std::abs(t.factor) < least * scale; });
    return row;
}

std::vector<Term> Elimination::remainder(const std::vector<Term>& terms) const {
    std::vector<Term> r = reduced({terms, 0, -1, {}}, kRounding).terms;
    if (!r.empty())
        for (const double first = r.front().factor; Term & t : r) t.factor /= first;
    return r;
}

Elimination::Verdict Elimination::add(int id, const std::vector<Term>& terms, double rhs, double eps,
                                      std::vector<int>* involved, double least) {
    Row row = reduced({terms, rhs, -1, {{id, 1}}}, least);
    if (row.terms.empty()) {
        if (std::abs(row.rhs) <= eps) return Verdict::redundant;
        if (involved)
            for (const Term& m : row.made_of)
                if (m.variable != id && std::abs(m.factor) > 1e-9) involved->push_back(m.variable);
        return Verdict::contradiction;
    }
    const Term best = *std::max_element(row.terms.begin(), row.terms.end(), [](const Term& a, const Term& b) {
        return std::abs(a.factor) < std::abs(b.factor);
    });
    for (Term& t : row.terms) t.factor /= best.factor;
    for (Term& t : row.made_of) t.factor /= best.factor;
    row.rhs /= best.factor;
    row.pivot = best.variable;
    row_of_pivot_[row.pivot] = static_cast<int>(rows_.size());
    rows_.push_back(std::move(row));
    return Verdict::independent;
}

} // namespace prism
