#include "core/base/text_scanner.h"
#include "core/views/stages.h"

#include <set>

namespace prism::views {
namespace {

bool onlyAxisParallel(const Drawing& d, const Group& g) {
    for (int e : g.entities)
        for (const Curve& c : d.entities[e].curves) {
            const auto* s = std::get_if<Segment>(&c);
            if (!s) return false;
            const Vec2 v = s->b - s->a;
            if (std::min(std::abs(v.x), std::abs(v.y)) > 1e-6 * length(v)) return false;
        }
    return true;
}

int textsIn(const Drawing& d, const Box2& b) {
    int n = 0;
    for (const SheetText& t : d.texts) n += b.contains(t.position);
    return n;
}

/// How many texts and dimensions there are, and how many of them in a box.
std::pair<int, int> lettering(const Drawing& d, const Box2& b) {
    int in = textsIn(d, b);
    for (const Dimension& x : d.dimensions) in += b.contains(x.text_at);
    return {static_cast<int>(d.texts.size() + d.dimensions.size()), in};
}

int letters(const std::string& s) {
    return static_cast<int>(
        std::count_if(s.begin(), s.end(), [](unsigned char c) { return std::isalpha(c); }));
}

bool isTitleBlock(const Drawing& d, const CleanSheet& s, const Group& g) {
    if (!onlyAxisParallel(d, g) || g.entities.size() < 3) return false;
    for (int e : g.entities)
        if (s.entity_roles[e] == LineRole::hidden) return false;
    // Numbers alone are sizes that stand inside a view.
    return std::count_if(d.texts.begin(), d.texts.end(), [&](const SheetText& t) {
               return g.box.contains(t.position) && letters(t.content) >= 2;
           }) >= 3;
}

/// Moves the groups that fit to a LeftOut of the given name.
template <class Fits>
void moveOut(std::vector<Group>& groups, std::vector<LeftOut>& out, const char* what, Fits fits) {
    LeftOut l{what, {}};
    std::erase_if(groups, [&](const Group& g) {
        if (!fits(g)) return false;
        l.entities.insert(l.entities.end(), g.entities.begin(), g.entities.end());
        return true;
    });
    if (!l.entities.empty()) out.push_back(std::move(l));
}

/// Layers whose lines turned out to be furniture throughout lend that to their other lines.
std::set<int> furnitureLayers(const Drawing& d, const std::vector<LeftOut>& out,
                              const std::vector<Group>& groups, const CleanSheet& s) {
    std::set<int> layers, others;
    for (const LeftOut& l : out)
        for (int e : l.entities) layers.insert(d.entities[e].layer);
    for (const Group& g : groups) {
        const bool small = g.entities.size() <= 4;
        for (int e : g.entities)
            if (!small || s.entity_roles[e] == LineRole::hidden) others.insert(d.entities[e].layer);
    }
    for (int o : others) layers.erase(o);
    return layers;
}

/// Whether lines of a group could be a view: more than a hole or a stray stroke.
bool mayShowView(const Drawing& d, const Group& g) {
    size_t straight = 0;
    for (int e : g.entities)
        for (const Curve& c : d.entities[e].curves) straight += !isClosed(c, 0);
    return straight >= 3;
}

/// Whether a group is drawn as most of what lies in it is: on its layer, in its line type.
bool sameStyle(const Drawing& d, const CleanSheet& s, const Group& g, const std::vector<Group>& groups) {
    const Entity& own = d.entities[g.entities.front()];
    int same = 0, other = 0;
    for (const Group& o : groups) {
        if (&o == &g || !g.box.contains(o.box.centre())) continue;
        for (int e : o.entities)
            if (s.entity_roles[e] == LineRole::outline)
                ++(d.entities[e].layer == own.layer && d.entities[e].line_type == own.line_type ? same
                                                                                                : other);
    }
    return same > other;
}

struct SymbolParts {
    std::vector<Arc> circles;
    std::vector<Segment> lines;
};

SymbolParts partsOf(const Drawing& d, const std::vector<int>& entities) {
    SymbolParts p;
    for (int e : entities)
        for (const Curve& c : d.entities[e].curves) {
            if (auto* a = std::get_if<Arc>(&c); a && a->full())
                p.circles.push_back(*a);
            else if (auto* s = std::get_if<Segment>(&c))
                p.lines.push_back(*s);
        }
    return p;
}

/// Two concentric circles and, beside them, four lines of a truncated cone whose ends are as wide as the
/// circles.
std::optional<Convention> symbolConvention(const SymbolParts& p) {
    if (p.circles.size() < 2 || p.lines.size() < 4) return std::nullopt;
    for (size_t i = 0; i < p.circles.size(); ++i)
        for (size_t j = 0; j < p.circles.size(); ++j) {
            const Arc &large = p.circles[i], &small = p.circles[j];
            if (i == j || large.radius <= small.radius) continue;
            if (distance(large.centre, small.centre) > 0.05 * large.radius) continue;
            // The cone's two ends are the lines nearest in length to the circles' diameters.
            const Segment *largeEnd = nullptr, *smallEnd = nullptr;
            for (const Segment& s : p.lines) {
                const double l = distance(s.a, s.b);
                if (std::abs(l - 2 * large.radius) < 0.08 * l) largeEnd = &s;
                if (std::abs(l - 2 * small.radius) < 0.08 * l) smallEnd = &s;
            }
            if (!largeEnd || !smallEnd || largeEnd == smallEnd) continue;
            const Vec2 ls = (smallEnd->a + smallEnd->b) * 0.5, ll = (largeEnd->a + largeEnd->b) * 0.5;
            return distance(large.centre, ls) < distance(large.centre, ll) ? Convention::third
                                                                           : Convention::first;
        }
    return std::nullopt;
}

} // namespace

std::optional<Convention> readSymbol(const Drawing& d, const std::vector<int>& entities) {
    return symbolConvention(partsOf(d, entities));
}

std::optional<Convention> setAsideFurniture(const Drawing& d, const CleanSheet& s, std::vector<Group>& groups,
                                            std::vector<LeftOut>& out) {
    auto allBorder = [&](const Group& g) {
        return std::all_of(g.entities.begin(), g.entities.end(),
                           [&](int e) { return s.entity_roles[e] == LineRole::border; });
    };
    Box2 all;
    for (const Group& g : groups) all.add(g.box);
    const auto spans = [&](const Group& g, double share) {
        return g.box.width() >= share * all.width() && g.box.height() >= share * all.height();
    };
    constexpr double kNearlyAll = 0.8, kMost = 0.6;
    auto encloses = [&](const Group& g, double share) { // a frame goes round nearly everything
        if (!onlyAxisParallel(d, g) || g.entities.size() > 400 || !spans(g, share)) return false;
        int inside = 0, views = 0;
        for (const Group& o : groups) {
            if (&o == &g || !g.box.contains(o.box.centre()) || o.box.contains(g.box)) continue;
            ++inside;
            views += mayShowView(d, o) && o.box.diagonal() > 0.1 * g.box.diagonal();
        }
        // The outline of a plate goes round its holes, and round nothing that a view could be.
        if (views == 0 || (views == 1 && sameStyle(d, s, g, groups))) return false;
        // The outline of a plate goes round its holes as well, but its words and dimensions stand outside.
        const auto [words, wordsInside] = lettering(d, g.box);
        return words > 4 ? inside >= 1 && 10 * wordsInside >= 8 * words : inside >= 3;
    };
    bool crossed = false; // by lines of a view, which reach beyond
    for (size_t i = 0; i < groups.size(); ++i) {
        const Group& g = groups[i];
        if (!spans(g, kNearlyAll)) continue;
        auto split = frameCrossed(d, s, g);
        // With what is drawn at its inner side alone, as a title block, it is a frame all the same.
        if (!split || (split->frame.box.contains(g.box) && encloses(g, kNearlyAll))) continue;
        std::vector<Group> whole = groups;
        groups[i] = std::move(split->frame);
        std::ranges::move(split->rest, std::back_inserter(groups));
        if (encloses(groups[i], kMost))
            crossed = true;
        else
            groups = std::move(whole);
    }
    moveOut(groups, out, "border", [&](const Group& g) { return encloses(g, crossed ? kMost : kNearlyAll); });
    moveOut(groups, out, "title_block", [&](const Group& g) { return isTitleBlock(d, s, g); });
    const std::set<int> layers = furnitureLayers(d, out, groups, s);
    std::vector<int> loose;
    for (const Group& g : groups)
        if (allBorder(g) || std::all_of(g.entities.begin(), g.entities.end(),
                                        [&](int e) { return layers.contains(d.entities[e].layer); }))
            loose.insert(loose.end(), g.entities.begin(), g.entities.end());
    std::optional<Convention> symbol = readSymbol(d, loose);
    moveOut(groups, out, symbol ? "symbol" : "border", [&](const Group& g) {
        return std::all_of(g.entities.begin(), g.entities.end(),
                           [&](int e) { return allBorder(g) || layers.contains(d.entities[e].layer); });
    });
    if (symbol) return symbol;
    // A symbol drawn on the outline layer: a few groups close together, far smaller than any view.
    double largest = 0;
    for (const Group& g : groups) largest = std::max(largest, g.box.diagonal());
    constexpr size_t kMostLines = 16; // of one half, its centre lines included
    auto small = [&](const Group& g) {
        return g.entities.size() <= kMostLines && g.box.diagonal() <= 0.25 * largest;
    };
    std::vector<size_t> candidates;
    for (size_t i = 0; i < groups.size(); ++i)
        if (small(groups[i])) candidates.push_back(i);
    constexpr size_t kMostCandidates = 2000; // a sheet with more is full of small things
    if (candidates.size() > kMostCandidates) return std::nullopt;
    for (size_t i : candidates) {
        const Group& a = groups[i];
        if (partsOf(d, a.entities).circles.empty()) continue;
        std::set<size_t> near;
        std::vector<int> all;
        for (size_t j : candidates) {
            const Group& b = groups[j];
            if (distance(a.box.centre(), b.box.centre()) > 2.5 * std::max(a.box.diagonal(), b.box.diagonal()))
                continue;
            near.insert(j);
            all.insert(all.end(), b.entities.begin(), b.entities.end());
        }
        if (all.size() > 2 * kMostLines) continue;
        if (auto c = readSymbol(d, all)) {
            out.push_back({"symbol", all});
            for (auto j = near.rbegin(); j != near.rend(); ++j)
                groups.erase(groups.begin() + static_cast<long>(*j));
            return c;
        }
    }
    return std::nullopt;
}

namespace {

/// FIRST ANGLE, 1ST-ANGLE, FIRST ANGLE ..., METHOD E: one of the names of an angle, then another word behind
/// blanks or dashes.
bool says(const std::string& up, const char* name, const char* behind, bool whole) {
    for (size_t at = up.find(name); at != std::string::npos; at = up.find(name, at + 1)) {
        size_t next = at + std::string_view(name).size();
        while (next < up.size() && (up[next] == ' ' || up[next] == '-')) ++next;
        TextScanner s(std::string_view(up).substr(next));
        if (whole ? s.takeWord(behind) : s.take(behind)) return true;
    }
    return false;
}

} // namespace

std::optional<Convention> statedInTexts(const Drawing& d) {
    for (const SheetText& t : d.texts)
        if (const auto said = angleSaidIn(t)) return said;
    return std::nullopt;
}

} // namespace prism::views

namespace prism {

std::optional<Convention> angleSaidIn(const SheetText& t) {
    using views::says;
    const std::string up = capitals(std::string_view(t.content).substr(0, TextScanner::kLongest));
    if (says(up, "1ST", "ANGLE", false) || says(up, "FIRST", "ANGLE", false) || says(up, "METHOD", "E", true))
        return Convention::first;
    if (says(up, "3RD", "ANGLE", false) || says(up, "THIRD", "ANGLE", false) || says(up, "METHOD", "A", true))
        return Convention::third;
    return std::nullopt;
}

} // namespace prism
