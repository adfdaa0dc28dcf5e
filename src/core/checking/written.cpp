#include "core/base/text_scanner.h"
#include "core/checking/about_entry.h"

#include <fmt/format.h>
#include <set>

// What is written beside a size: how many there are of it, and what it may deviate by.
namespace prism::checking {
namespace {

bool sameSize(const CheckInput& in, double a, double b) {
    return std::abs(a - b) <= 10 * in.figure.tolerances.same_model;
}

/// How many full circles of a diameter a view shows, each place counted once.
int circlesIn(const CheckInput& in, int view, double diameter) {
    std::set<std::pair<long, long>> places;
    for (const FigureCurve& c : in.figure.curves) {
        const auto* a = std::get_if<Arc>(&c.drawn);
        if (c.view != view || !a || !a->full() || !sameSize(in, 2 * a->radius, diameter)) continue;
        const double grid = 20 * in.figure.tolerances.same_model;
        places.emplace(std::lround(a->centre.x / grid), std::lround(a->centre.y / grid));
    }
    return static_cast<int>(places.size());
}

/// "4x Ø9" where five circles of 9 are drawn. Holes in line behind each other are one circle in the view that
/// looks along them, some of a kind may be seen in another view, and others may have a dimension of their
/// own: only what none of these explains is told.
void count(const CheckInput& in, const LedgerEntry& e, std::vector<Finding>& out) {
    const FigureView* v = e.view < 0 ? nullptr : in.figure.viewById(e.view);
    if (e.kind != DimensionKind::diameter || e.count < 2 || !v || !v->principal()) return;
    const int drawn = circlesIn(in, e.view, e.drawn);
    if (drawn == 0 || e.count % drawn == 0) return;
    int all = 0, said = 0;
    for (const FigureView& o : in.figure.views) all += circlesIn(in, o.view, e.drawn);
    for (const LedgerEntry& o : in.ledger.entries)
        if (o.kind == DimensionKind::diameter && sameSize(in, o.drawn, e.drawn)) said += o.count;
    if (drawn < e.count ? all >= e.count : said >= drawn) return;
    const Dimension& d = in.drawing.dimensions[static_cast<size_t>(e.dimension)];
    Dimension counted = d;
    counted.count = drawn;
    Change c;
    c.corrected = {{keyOf(d), textSaying(counted, d.value), std::nullopt}};
    Finding f = aboutEntry(in, e, "count_differs", Severity::warning,
                           fmt::format("The dimension {} says {} of {}, but {} of that size {} drawn in the "
                                       "{} view",
                                       e.name, e.count, numberOf(e, e.drawn, in), drawn,
                                       drawn == 1 ? "is" : "are", nameOf(v->role())));
    f.numbers = {{"said", e.count}, {"drawn", drawn}, {"diameter", e.drawn}};
    f.remedies = {{"believe_drawing",
                   fmt::format("Believe the drawing: {} reads {}", e.name, c.corrected[0].text.value()), "",
                   std::move(c)}};
    out.push_back(std::move(f));
}

/// The two deviations that are written one after the other behind a size, with their signs: +0.2/-0.1,
/// -0.2 -0.1, 0/-0.3. None when they are written otherwise.
std::optional<std::pair<double, double>> deviationsIn(const std::string& text) {
    const auto signedAt = [](TextScanner& s) -> std::optional<double> {
        s.skipSpaces();
        const bool above = s.take("+"), below = !above && s.take("-");
        s.skipSpaces();
        const auto v = s.number();
        return v && (above || below || *v == 0) ? std::optional(below ? -*v : *v) : std::nullopt;
    };
    bool number = false; // the size stands before them
    for (TextScanner s(text); !s.atEnd(); s.moveTo(s.position() + 1)) {
        if (s.atDigit()) number = true;
        if (!number || (s.peek() != '+' && s.peek() != '-' && s.peek() != ' ')) continue;
        TextScanner at = s;
        const auto first = signedAt(at);
        at.skipSpaces(), at.take("/");
        const auto second = first ? signedAt(at) : std::nullopt;
        if (second && (*first != 0 || *second != 0)) return std::pair(*first, *second);
    }
    return std::nullopt;
}

/// The upper deviation stands first (ISO 129-1), and something lies between them.
void deviations(const CheckInput& in, const LedgerEntry& e, std::vector<Finding>& out) {
    const auto two = deviationsIn(e.text);
    if (!two || two->first > two->second) return;
    Finding f = aboutEntry(
        in, e, "tolerance_suspect", Severity::warning,
        two->first == two->second
            ? fmt::format("The dimension {} ({}) leaves no room between its two deviations", e.name, e.text)
            : fmt::format("The dimension {} ({}) has its lower deviation where the upper one stands", e.name,
                          e.text));
    f.numbers = {{"upper", two->first}, {"lower", two->second}};
    f.repair = "Correct the text of the dimension under Sheet, or accept it as it is";
    out.push_back(std::move(f));
}

} // namespace

void written(const CheckInput& in, std::vector<Finding>& out) {
    for (const LedgerEntry& e : in.ledger.entries) count(in, e, out), deviations(in, e, out);
}

} // namespace prism::checking
