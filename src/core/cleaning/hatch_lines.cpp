#include "core/cleaning/carriers.h"
#include "core/cleaning/workbench.h"

// Hatching drawn as single lines, as old sheets have it.
namespace prism::cleaning {
namespace {

constexpr size_t kFewest = 6;     ///< lines that make a hatch
constexpr double kWidest = 8;     ///< mm on the sheet from line to line
constexpr double kUneven = 0.15;  ///< how far the distances may differ, relative
constexpr double kOblique = 0.14; ///< radians off level and upright; hatching stands askew to the outline
constexpr double kOneWay = 2e-4;  ///< radians between strokes of one hatch
constexpr double kSharedEnds =
    0.2; ///< share of ends that may meet another line's end; edges meet, hatching does not

struct Stroke {
    Lying at;
    int entity, shared; ///< ends that meet another end
};

bool oblique(double angle) {
    const double a = std::fmod(positiveAngle(angle), kPi / 2);
    return a > kOblique && a < kPi / 2 - kOblique;
}

/// The slanted strokes of the sheet by layer and direction.
std::vector<std::vector<Stroke>> strokesOf(const Workbench& w) {
    const std::vector<Piece> pieces = w.pieces();
    std::map<int, std::vector<size_t>> byLayer; // indices of pieces
    size_t all = 0;
    for (size_t i = 0; i < pieces.size(); ++i) {
        const Entity& e = w.drawing().entities[pieces[i].entity];
        const auto* s = std::get_if<Segment>(&w.curve(pieces[i]));
        if (!s || e.curves.size() != 1 || !oblique(angleOf(s->b - s->a))) continue;
        byLayer[e.layer].push_back(i), ++all;
    }
    if (all < kFewest) return {};
    const auto web = w.web(); // made of the same pieces
    const Nodes& nodes = web->nodes;
    std::vector<std::vector<Stroke>> r;
    for (const auto& [layer, on] : byLayer) {
        std::vector<Segment> lines;
        for (size_t i : on) lines.push_back(std::get<Segment>(w.curve(pieces[i])));
        for (const std::vector<Lying>& group : parallels(lines, kOneWay)) {
            std::vector<Stroke>& strokes = r.emplace_back();
            for (const Lying& l : group) {
                Stroke s{l, pieces[on[l.line]].entity, 0};
                for (int side : {0, 1})
                    s.shared += nodes.ends(nodes.node({static_cast<int>(on[l.line]), side})).size() > 1;
                strokes.push_back(s);
            }
        }
    }
    return r;
}

bool beside(const Stroke& a, const Stroke& b) {
    return a.at.from <= b.at.to && b.at.from <= a.at.to;
}

/// Strokes that follow each other at one distance.
struct Run {
    std::vector<int> strokes;
    size_t rows = 1; ///< strokes in one line count as one
};

Run runFrom(const std::vector<Stroke>& s, size_t from, const std::vector<bool>& used, double widest,
            double same) {
    Run run{{static_cast<int>(from)}};
    double step = 0;
    for (size_t i = from + 1; i < s.size(); ++i) {
        const Stroke& last = s[run.strokes.back()];
        const double d = s[i].at.offset - last.at.offset;
        if (d > widest) break;
        if (used[i]) continue;
        if (d <= same) {
            if (!beside(s[i], last))
                run.strokes.push_back(static_cast<int>(i)); // the same line beyond a hole
            continue;
        }
        if (step == 0) {
            if (!beside(s[i], last)) continue;
            step = d;
        }
        if (d < step * (1 - kUneven)) continue;
        if (d > step * (1 + kUneven)) break;
        run.strokes.push_back(static_cast<int>(i)), ++run.rows;
    }
    return run;
}

void setAsideIn(Workbench& w, const std::vector<Stroke>& strokes) {
    std::vector<bool> used(strokes.size(), false);
    for (size_t i = 0; i < strokes.size(); ++i) {
        if (used[i]) continue;
        const auto [run, rows] = runFrom(strokes, i, used, w.paper(kWidest), w.touch() * 10);
        int shared = 0;
        std::vector<int> entities;
        for (int k : run) shared += strokes[k].shared, entities.push_back(strokes[k].entity);
        if (rows < kFewest || shared > kSharedEnds * 2 * static_cast<double>(run.size())) continue;
        for (int k : run) used[k] = true;
        const Stroke& s = strokes[run[run.size() / 2]];
        if (!w.record("hatching", entities, pointAt(w.drawing().entities[s.entity].curves[0], 0.5))) continue;
        for (int e : entities) w.sheet().entity_roles[e] = LineRole::hatch;
    }
}

} // namespace

void setHatchingAside(Workbench& w) {
    for (const std::vector<Stroke>& strokes : strokesOf(w)) setAsideIn(w, strokes);
}

} // namespace prism::cleaning
