#include "core/base/box_tree.h"
#include "core/base/curve_ends.h"
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

bool isLeader(const Entity& e) {
    return e.type == "LEADER" || e.type == "MULTILEADER";
}

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

namespace {

/// What a layer holds, for layers whose name does not tell.
struct Content {
    int lines = 0, hatches = 0, leaders = 0, dimensions = 0, texts = 0;
};

std::vector<Content> contentOf(const Drawing& d) {
    std::vector<Content> c(d.layers.size());
    for (const Entity& e : d.entities)
        ++(e.type == "HATCH" ? c[e.layer].hatches : isLeader(e) ? c[e.layer].leaders : c[e.layer].lines);
    for (const Dimension& x : d.dimensions) ++c[x.layer].dimensions;
    for (const SheetText& t : d.texts) ++c[t.layer].texts;
    return c;
}

std::pair<LineRole, std::string> guessed(const Drawing& d, const Layer& l, const Content& c) {
    if (l.hint.first != LineRole::unknown) return l.hint;
    if (const LineRole r = roleOfLayerName(l.name); r != LineRole::unknown) return {r, "its name"};
    if (c.lines == 0 && c.dimensions > 0) return {LineRole::dimension, "it holds dimensions only"};
    // Leaders of notes are drawn with the dimensions, where a file has no kind of its own for them.
    if (c.lines < c.dimensions && c.dimensions >= 3)
        return {LineRole::dimension, "it holds dimensions and few lines besides"};
    if (c.lines == 0 && c.hatches > 0) return {LineRole::hatch, "it holds hatching only"};
    if (c.lines == 0 && c.texts + c.leaders > 0) return {LineRole::note, "it holds texts only"};
    if (const LineRole r = roleOfLineType(d, l.line_type); r != LineRole::outline)
        return {r, "its line type"};
    return {LineRole::unknown, "nothing tells; each line goes by its line type"};
}

} // namespace

namespace {

/// The role that all other layers of the same colour have, for a layer that nothing else tells about. Offices
/// draw each kind of thin line in a colour of its own; the colour that is everybody's default says nothing.
std::pair<LineRole, std::string> byColor(const Drawing& d, size_t layer,
                                         const std::vector<std::pair<LineRole, std::string>>& guesses) {
    constexpr int plain = 7;
    if (d.layers[layer].color == plain) return guesses[layer];
    std::pair<LineRole, std::string> r = guesses[layer];
    for (size_t i = 0; i < d.layers.size(); ++i) {
        const LineRole role = guesses[i].first;
        if (i == layer || d.layers[i].color != d.layers[layer].color || role == LineRole::unknown) continue;
        const bool thin = role == LineRole::hidden || role == LineRole::centre ||
                          role == LineRole::dimension || role == LineRole::hatch ||
                          role == LineRole::construction;
        if (!thin || (r.first != LineRole::unknown && r.first != role)) return guesses[layer];
        r = {role, "it has the colour of layer " + d.layers[i].name};
    }
    return r;
}

} // namespace

std::map<std::string, bool> partLayersOnly(const Drawing& d, const CleanSheet& s) {
    std::map<std::string, bool> on;
    for (const Layer& l : d.layers) on[l.name] = false;
    for (const Entity& e : d.entities)
        if (isLineRole(s.entity_roles[e.id])) on[d.layers[e.layer].name] = true;
    for (const Dimension& x : d.dimensions) on[d.layers[x.layer].name] = true;
    return on;
}

bool hatchedUpTo(const Entity& hatching, const Entity& line, double tolerance) {
    return std::ranges::all_of(std::array{0.2, 0.5, 0.8}, [&](double t) {
        const Vec2 p = pointAt(line.curves[line.curves.size() / 2], t);
        return std::ranges::any_of(hatching.curves,
                                   [&](const Curve& c) { return distanceTo(c, p) <= tolerance; });
    });
}

namespace {

/// Lines drawn by hand round what is broken out are thin, and often lie with other thin ones.
class RoundHatching {
  public:
    explicit RoundHatching(const Drawing& d) {
        for (const Entity& e : d.entities)
            if (e.type == "HATCH" && !e.curves.empty()) hatches_.push_back(&e), boxes_.push_back(boxOf(e));
        tree_.emplace(boxes_);
    }
    bool takes(const Entity& e) const {
        if (e.curves.empty() || !drawnByHand(e.curves)) return false;
        const Box2 box = boxOf(e);
        return std::ranges::any_of(tree_->overlapping(box), [&](int h) {
            return hatchedUpTo(*hatches_[static_cast<size_t>(h)], e, 2e-3 * box.diagonal());
        });
    }

  private:
    static Box2 boxOf(const Entity& e) {
        Box2 b;
        for (const Curve& c : e.curves) b.add(prism::boxOf(c));
        return b;
    }
    std::vector<const Entity*> hatches_;
    std::vector<Box2> boxes_;
    std::optional<BoxTree> tree_;
};

} // namespace

void assignRoles(const Drawing& d, const LayerChoices& choices, CleanSheet& s) {
    const std::vector<Content> content = contentOf(d);
    std::vector<std::pair<LineRole, std::string>> guesses;
    for (size_t i = 0; i < d.layers.size(); ++i) guesses.push_back(guessed(d, d.layers[i], content[i]));
    for (size_t i = 0; i < d.layers.size(); ++i) {
        const Layer& l = d.layers[i];
        const auto role = choices.role.find(l.name);
        const auto on = choices.on.find(l.name);
        const auto [guess, reason] =
            guesses[i].first == LineRole::unknown ? byColor(d, i, guesses) : guesses[i];
        const bool chosen = role != choices.role.end();
        s.layer_roles.push_back(chosen ? role->second : guess);
        s.layer_reasons.push_back(chosen ? "chosen by hand" : reason);
        s.layer_on.push_back(on != choices.on.end() ? on->second : l.visible);
    }
    const RoundHatching round(d);
    for (const Entity& e : d.entities) {
        const bool chosen = choices.role.contains(d.layers[e.layer].name);
        LineRole r = s.layer_roles[e.layer];
        const LineRole byType = roleOfLineType(d, e.line_type);
        if (e.type == "HATCH")
            r = LineRole::hatch;
        else if (isLeader(e))
            r = LineRole::note;
        else if (e.type == "XLINE" || e.type == "RAY")
            r = LineRole::construction;
        else if (r == LineRole::unknown || (isLineRole(r) && !chosen && byType != LineRole::outline))
            r = byType;
        if (!chosen && r == LineRole::dimension && round.takes(e)) r = LineRole::outline;
        s.entity_roles.push_back(r);
        s.in_use.push_back(s.layer_on[e.layer] && !(e.curves.empty() && !e.point));
    }
}

} // namespace prism
