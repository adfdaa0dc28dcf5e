#include "core/cleaning/workbench.h"

// What is too short to be a line: strokes without length, and the little marks that scanning and conversion
// leave.
namespace prism::cleaning {
namespace {

constexpr double kSpeck = 0.3; ///< mm on the sheet; no pen draws a line as short as it is wide

double extent(const Entity& e) {
    double sum = 0;
    for (const Curve& c : e.curves) sum += lengthOf(c);
    return sum;
}

} // namespace

void setPointsAside(Workbench& w) {
    for (const Entity& e : w.drawing().entities) {
        if (!w.isPartLine(e.id) || e.curves.empty()) continue;
        const double sum = extent(e);
        if (sum <= w.touch() && w.record("speck", {e.id}, startOf(e.curves[0]), sum)) w.setAside(e.id);
    }
}

void setSpecksAside(Workbench& w) {
    const auto web = w.web();
    std::vector<size_t> small;
    for (size_t i = 0; i < web->pieces.size(); ++i) {
        const Piece p = web->pieces[i];
        if (w.drawing().entities[p.entity].curves.size() != 1) continue;
        if (lengthOf(w.curve(p)) > w.paper(kSpeck)) continue;
        const auto alone = [&](int side) {
            const int node = web->nodes.node({static_cast<int>(i), side});
            return node < 0 || web->nodes.ends(node).size() == 1; // -1: a dot drawn as a circle
        };
        if (alone(0) && alone(1)) small.push_back(i);
    }
    if (small.empty()) return;
    const NearPieces near(w, web->pieces, w.touch(), 2 * small.size());
    for (size_t i : small) {
        const Curve& c = w.curve(web->pieces[i]);
        const auto free = [&](Vec2 end) {
            return std::ranges::none_of(near.near(end, w.touch()), [&](int k) {
                return static_cast<size_t>(k) != i && distanceTo(w.curve(web->pieces[k]), end) <= w.touch();
            });
        };
        const int entity = web->pieces[i].entity;
        if (free(startOf(c)) && free(endOf(c)) && w.record("speck", {entity}, startOf(c), lengthOf(c)))
            w.setAside(entity);
    }
}

} // namespace prism::cleaning
