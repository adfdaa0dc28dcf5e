#include "core/cleaning/clean_sheet.h"

#include <array>

namespace prism {
namespace {

struct Word {
    const char* word;
    LineRole role;
};

// English and German drawing-office words; the first that fits wins, so the telling ones come first.
constexpr std::array kWords{Word{"HID", LineRole::hidden},
                            Word{"DASH", LineRole::hidden},
                            Word{"VERDECKT", LineRole::hidden},
                            Word{"INVIS", LineRole::hidden},
                            Word{"CENT", LineRole::centre},
                            Word{"AXIS", LineRole::centre},
                            Word{"AXES", LineRole::centre},
                            Word{"MITTE", LineRole::centre},
                            Word{"DIM", LineRole::dimension},
                            Word{"SIZE", LineRole::dimension},
                            Word{"BEMASS", LineRole::dimension},
                            Word{"HATCH", LineRole::hatch},
                            Word{"SCHRAFF", LineRole::hatch},
                            Word{"FRAME", LineRole::border},
                            Word{"BORDER", LineRole::border},
                            Word{"TITLE", LineRole::border},
                            Word{"RAHMEN", LineRole::border},
                            Word{"CONSTR", LineRole::construction},
                            Word{"DEFPOINTS", LineRole::construction},
                            Word{"HILFS", LineRole::construction},
                            Word{"TEXT", LineRole::note},
                            Word{"NOTE", LineRole::note},
                            Word{"LABEL", LineRole::note},
                            Word{"OUTLINE", LineRole::outline},
                            Word{"VISIB", LineRole::outline},
                            Word{"SOLID", LineRole::outline},
                            Word{"CONTOUR", LineRole::outline},
                            Word{"KONTUR", LineRole::outline},
                            Word{"OBJECT", LineRole::outline},
                            Word{"PART", LineRole::outline}};

bool isLineRole(LineRole r) {
    return r == LineRole::outline || r == LineRole::hidden || r == LineRole::centre;
}

} // namespace

LineRole roleOfLayerName(const std::string& name) {
    std::string up = name;
    for (char& c : up) c = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    for (const Word& w : kWords)
        if (up.find(w.word) != std::string::npos) return w.role;
    return LineRole::unknown;
}

LineRole roleOfLineType(const Drawing& d, const std::string& name) {
    if (name.empty() || name == "CONTINUOUS") return LineRole::outline;
    const LineType* t = d.lineType(name);
    if (!t || t->pattern.empty()) {
        const LineRole byName = roleOfLayerName(name);
        return isLineRole(byName) ? byName : LineRole::outline;
    }
    double longest = 0;
    int dashes = 0, small = 0;
    for (double p : t->pattern) longest = std::max(longest, p);
    for (double p : t->pattern) {
        if (p < 0) continue;
        ++dashes;
        small += p < 0.45 * longest;
    }
    if (dashes == 0) return LineRole::outline;
    if (small == 0) return LineRole::hidden;
    return small * 2 > dashes ? LineRole::construction
                              : LineRole::centre; // two dots: the phantom line of ISO 128-2
}

std::string keyOf(const Entity& e) {
    const std::string own = e.handle.empty() ? "#" + std::to_string(e.id) : e.handle;
    return e.block_path.empty() ? own : e.block_path + "/" + own;
}

void assignRoles(const Drawing& d, const LayerChoices& choices, CleanSheet& s) {
    for (const Layer& l : d.layers) {
        const auto role = choices.role.find(l.name);
        const auto on = choices.on.find(l.name);
        s.layer_roles.push_back(role != choices.role.end() ? role->second : roleOfLayerName(l.name));
        s.layer_on.push_back(on != choices.on.end() ? on->second : l.visible);
    }
    for (const Entity& e : d.entities) {
        const bool chosen = choices.role.contains(d.layers[e.layer].name);
        LineRole r = s.layer_roles[e.layer];
        const LineRole byType = roleOfLineType(d, e.line_type);
        if (e.type == "HATCH")
            r = LineRole::hatch;
        else if (e.type == "LEADER" || e.type == "MULTILEADER")
            r = LineRole::note;
        else if (e.type == "XLINE" || e.type == "RAY")
            r = LineRole::construction;
        else if (r == LineRole::unknown)
            r = byType;
        else if (isLineRole(r) && !chosen && byType != LineRole::outline)
            r = byType;
        s.entity_roles.push_back(r);
        s.in_use.push_back(s.layer_on[e.layer]);
    }
}

} // namespace prism
