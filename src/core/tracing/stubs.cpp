#include "core/base/groups.h"
#include "core/tracing/pieces.h"

#include <map>
#include <set>

namespace prism {
namespace {

constexpr double kShort = 7;  ///< widths of the ink that a stub is long at most; an arrow head is six
constexpr double kBeside = 3; ///< widths within which two places on one line are one

/// What a group of short outline pieces hangs on.
struct Held {
    std::vector<size_t> pieces;
    std::map<int, std::set<int>> by_line; ///< the long pieces it meets, with the joints
};

bool bridges(const Held& h, const std::vector<Vec2>& joints, double width) {
    if (h.by_line.size() > 1) return true;
    for (const auto& [line, at] : h.by_line)
        for (int a : at)
            for (int b : at)
                if (distance(joints[a], joints[b]) > kBeside * width) return true;
    return false;
}

} // namespace

std::vector<size_t> stubsOf(const TracePieces& t, const std::vector<LineRole>& roles, double width) {
    std::map<int, std::vector<int>> longAt; // by joint
    std::map<int, std::vector<size_t>> shortAt;
    std::vector<size_t> small;
    for (size_t i = 0; i < t.pieces.size(); ++i) {
        const TracePiece& p = t.pieces[i];
        if (roles[i] != LineRole::outline) continue;
        const bool isShort = lengthOf(p.shape) < kShort * width && !isClosed(p.shape, 1e-9);
        if (isShort) small.push_back(i);
        for (int j : {p.from, p.to})
            if (j >= 0 && isShort)
                shortAt[j].push_back(i);
            else if (j >= 0)
                longAt[j].push_back(static_cast<int>(i));
        if (!isShort)
            for (int j : p.passes) longAt[j].push_back(static_cast<int>(i));
    }
    Groups groups(t.pieces.size());
    for (const auto& [joint, at] : shortAt)
        if (!longAt.contains(joint))
            for (size_t i : at) groups.join(static_cast<int>(at[0]), static_cast<int>(i));
    std::map<int, Held> held;
    for (size_t i : small) {
        Held& h = held[groups.find(static_cast<int>(i))];
        h.pieces.push_back(i);
        for (int j : {t.pieces[i].from, t.pieces[i].to})
            if (const auto it = longAt.find(j); it != longAt.end())
                for (int line : it->second) h.by_line[line].insert(j);
    }
    std::vector<size_t> r;
    for (const auto& [group, h] : held)
        if (!bridges(h, t.joints, width)) r.insert(r.end(), h.pieces.begin(), h.pieces.end());
    return r;
}

} // namespace prism
