#include "core/building/steps.h"

#include <fmt/format.h>

namespace prism {

const char* nameOf(StepKind k) {
    constexpr std::array names{"extrude", "revolve", "hole",   "fillet", "chamfer", "shell",
                               "thicken", "lip",     "flange", "wall",   "rib",     "slope",
                               "tilt",    "facet",   "mirror", "pattern"};
    return names[static_cast<size_t>(k)];
}

const char* nameOf(Operation o) {
    constexpr std::array names{"add", "cut", "intersect"};
    return names[static_cast<size_t>(o)];
}

const char* nameOf(Reach r) {
    constexpr std::array names{"between", "through", "both", "unequal"};
    return names[static_cast<size_t>(r)];
}

const char* nameOf(HoleKind k) {
    constexpr std::array names{"plain", "counterbore", "countersink", "spot face", "tapered"};
    return names[static_cast<size_t>(k)];
}

const char* nameOf(EdgeChoice::Which w) {
    constexpr std::array names{"picked", "all", "convex", "concave"};
    return names[static_cast<size_t>(w)];
}

const char* nameOf(Repetition::Kind k) {
    constexpr std::array names{"line", "grid", "circle", "curve"};
    return names[static_cast<size_t>(k)];
}

namespace {

using Missing = std::optional<std::string>;

std::string inWords(const StepNumber& n) {
    return n.formula.empty() ? fmt::format("{:g} mm", n.value) : n.formula;
}

std::string counted(size_t n, const char* one, const char* many) {
    return fmt::format("{} {}", n, n == 1 ? one : many);
}

std::string boundText(const Bound& b, const char* outermost) {
    switch (b.kind) {
    case Bound::Kind::mark:
        return fmt::format("a mark in the {} view", nameOf(b.mark.view));
    case Bound::Kind::value:
        return inWords(b.value);
    case Bound::Kind::place:
        return "a face in the box";
    case Bound::Kind::level:
        return fmt::format("level {}", b.level);
    case Bound::Kind::outermost:
        break;
    }
    return outermost;
}

/// Whether the radius of a fillet is that of the arcs which round the corners it was picked at.
bool roundsOfCorners(const Step& s) {
    return s.kind == StepKind::fillet && s.edges.which == EdgeChoice::Which::picked &&
           !s.edges.picks.empty() &&
           std::ranges::all_of(s.edges.picks, [](const PartPick& p) { return !p.place; });
}

Missing missingInReach(const Step& s) {
    if (s.reach == Reach::through) return {};
    std::vector<const Bound*> bounds{&s.from, &s.to};
    for (const Bound& b : s.tops) bounds.push_back(&b);
    for (const Bound* b : bounds) {
        if (b->kind == Bound::Kind::mark && !b->mark.picked()) return "no mark is picked to reach to";
        if (b->kind == Bound::Kind::level && b->level.empty()) return "no level is chosen to reach to";
    }
    if (s.reach == Reach::both && s.to.kind != Bound::Kind::value)
        return "a reach to both sides needs a distance";
    if (s.reach == Reach::unequal && (s.to.kind != Bound::Kind::value || !s.below.given()))
        return "a reach to both sides needs a distance for each";
    if (!s.tops.empty() && s.tops.size() != s.areas.size()) return "not every area has a reach of its own";
    return {};
}

Missing missingInHole(const Step& s) {
    if (s.places.empty()) return "no centre is picked";
    const bool deep = s.hole.kind == HoleKind::counterbore || s.hole.kind == HoleKind::spot_face;
    if (deep && !s.hole.wide_depth.given() && !s.hole.wide_to.picked())
        return fmt::format("the {} needs a depth", nameOf(s.hole.kind));
    if (s.hole.kind == HoleKind::tapered && s.hole.taper <= 0) return "a tapered hole needs an angle";
    if (!s.hole.depth.given()) return missingInReach(s);
    return {};
}

Missing missingOnFaces(const Step& s) {
    const bool lip = s.kind == StepKind::lip, flange = s.kind == StepKind::flange;
    if (s.faces.empty()) return "no face is picked";
    if (!s.thickness.given()) return lip ? "no width is given" : "no thickness is given";
    if ((lip || flange) && !s.size.given()) return lip ? "no height is given" : "no width is given";
    if (flange && s.operation != Operation::add)
        return "a flange stands outside the solid: it can only be added";
    return {};
}

Missing missingInRepeat(const Step& s) {
    const Repetition& r = s.repeat;
    if (r.count < 1 || r.second_count < 1 || r.count * r.second_count < 2)
        return "a pattern needs two copies or more";
    const bool lines = r.kind == Repetition::Kind::line || r.kind == Repetition::Kind::grid;
    if (lines && ((r.count > 1 && !r.pitch.given()) ||
                  (r.kind == Repetition::Kind::grid && r.second_count > 1 && !r.second_pitch.given())))
        return "a pattern along a line needs a pitch";
    if (!lines && !r.at.picked()) return "no centre or curve is picked for the pattern";
    return {};
}

std::string reachText(const Step& s) {
    if (!s.tops.empty()) return ", each with a reach of its own";
    if (s.reach == Reach::through) return ", through";
    if (s.reach == Reach::both) return fmt::format(", {} both sides", inWords(s.to.value));
    if (s.reach == Reach::unequal)
        return fmt::format(", {} and {} on the sides", inWords(s.below), inWords(s.to.value));
    return fmt::format(", from {} to {}", boundText(s.from, "the near end"), boundText(s.to, "the far end"));
}

std::string holeText(const Step& s) {
    const HoleShape& h = s.hole;
    std::string r = counted(s.places.size(), "hole", "holes");
    if (h.kind != HoleKind::plain) r = fmt::format("{}, {}", r, nameOf(h.kind));
    if (!h.thread.empty()) r += " " + h.thread;
    if (h.diameter.given()) r += ", dia " + inWords(h.diameter);
    if (h.wide.given()) r += fmt::format(" and {}", inWords(h.wide));
    if (h.wide_depth.given()) r += fmt::format(" deep {}", inWords(h.wide_depth));
    if (h.wide_to.picked()) r += fmt::format(" down to a mark in the {} view", nameOf(h.wide_to.view));
    if (s.reach == Reach::through) return r + ", through";
    return r + (h.depth.given() ? ", deep " + inWords(h.depth) : ", to " + boundText(s.to, "the far end"));
}

std::string edgeText(const Step& s) {
    const EdgeChoice& e = s.edges;
    std::string r = e.which == EdgeChoice::Which::picked ? counted(e.picks.size(), "edge", "edges")
                    : e.which == EdgeChoice::Which::all  ? "all edges"
                                                         : fmt::format("all {} edges", nameOf(e.which));
    if (e.face) r += " of a face";
    if (!e.step.empty()) r += fmt::format(" of \"{}\"", e.step);
    r += s.size.given() ? (s.kind == StepKind::fillet ? ", radius " : ", by ") + inWords(s.size)
                        : ", with the radius of the arcs there";
    if (s.second_size.given())
        r += fmt::format(" {} {}", s.kind == StepKind::fillet ? "to" : "and", inWords(s.second_size));
    return r;
}

std::string ofText(const Step& s) {
    std::string r;
    for (const std::string& name : s.of) r += (r.empty() ? "\"" : ", \"") + name + "\"";
    return r.empty() ? "the whole" : r;
}

} // namespace

Missing missingIn(const Step& s) {
    switch (s.kind) {
    case StepKind::extrude:
        return s.areas.empty() ? Missing("no area is picked") : missingInReach(s);
    case StepKind::revolve:
        return s.areas.empty()    ? Missing("no area is picked")
               : !s.axis.picked() ? Missing("no centre line is picked")
                                  : Missing();
    case StepKind::hole:
        return missingInHole(s);
    case StepKind::fillet:
    case StepKind::chamfer:
        if (s.edges.which == EdgeChoice::Which::picked && s.edges.picks.empty()) return "no edge is picked";
        return s.size.given() || roundsOfCorners(s)
                   ? Missing()
                   : Missing(s.kind == StepKind::fillet ? "no radius is given" : "no distance is given");
    case StepKind::shell:
        return s.thickness.given() ? Missing() : Missing("no thickness is given");
    case StepKind::thicken:
    case StepKind::lip:
    case StepKind::flange:
        return missingOnFaces(s);
    case StepKind::tilt:
        return s.faces.empty()    ? Missing("no face is picked")
               : s.places.empty() ? Missing("no line is picked")
                                  : Missing();
    case StepKind::wall:
    case StepKind::rib:
        if (s.places.empty()) return "no line is picked";
        if (!s.thickness.given()) return "no thickness is given";
        return s.kind == StepKind::wall ? missingInReach(s) : Missing();
    case StepKind::slope:
        return s.places.empty() ? Missing("no line is picked") : missingInReach(s);
    case StepKind::facet:
        return s.corners.size() == 3 ? Missing() : Missing("a plane needs three corners");
    case StepKind::mirror:
        return s.axis.picked() ? Missing() : Missing("no plane is picked to mirror at");
    case StepKind::pattern:
        return missingInRepeat(s);
    }
    return {};
}

std::string describe(const Step& s) {
    const std::string areas =
        fmt::format("{} of the {} view", counted(s.areas.size(), "area", "areas"), nameOf(s.view));
    const std::string lines =
        fmt::format("{} of the {} view", counted(s.places.size(), "line", "lines"), nameOf(s.view));
    const std::string sharp = s.sharp.empty() ? ""
                                              : fmt::format(", {} left sharp or straight",
                                                            counted(s.sharp.size(), "place", "places"));
    switch (s.kind) {
    case StepKind::extrude:
        return areas + reachText(s) + sharp +
               (s.draft != 0 ? fmt::format(", leaning {:g}°", s.draft * 180 / kPi) : "");
    case StepKind::revolve:
        return fmt::format("{} round a {} by {:g}°{}", areas, s.axis_along_line ? "line" : "centre line",
                           s.angle * 180 / kPi, sharp);
    case StepKind::hole:
        if (lies(s))
            return fmt::format("{}, seen from the side in the {} and the {} view", holeText(s),
                               nameOf(s.view), nameOf(s.axis.view));
        return fmt::format("{} in the {} view", holeText(s), nameOf(s.view));
    case StepKind::fillet:
    case StepKind::chamfer:
        return edgeText(s);
    case StepKind::shell:
        return fmt::format("wall of {} {}, {} open", inWords(s.thickness), s.outward ? "outside" : "inside",
                           counted(s.faces.size(), "face", "faces"));
    case StepKind::thicken:
        return fmt::format("a layer of {} {} {}", inWords(s.thickness),
                           s.operation == Operation::add ? "on" : "off",
                           counted(s.faces.size(), "face", "faces"));
    case StepKind::lip:
        return fmt::format("{} wide, {} {}, along {} of {}", inWords(s.thickness), inWords(s.size),
                           s.operation == Operation::add ? "high" : "deep",
                           s.inner ? "the openings" : "the border", counted(s.faces.size(), "face", "faces"));
    case StepKind::flange:
        return fmt::format("{} wide, {} thick, {} {}", inWords(s.size), inWords(s.thickness),
                           s.inner ? "into the openings of" : "round the border of",
                           counted(s.faces.size(), "face", "faces"));
    case StepKind::tilt:
        return fmt::format("{} laid into a line of the {} view", counted(s.faces.size(), "face", "faces"),
                           nameOf(s.view));
    case StepKind::wall:
        return fmt::format("{} thick {}{}", lines, inWords(s.thickness), reachText(s));
    case StepKind::rib:
        return fmt::format("{} thick {}, up to what it meets", lines, inWords(s.thickness));
    case StepKind::slope:
        return fmt::format("one side of {}{}", lines, reachText(s));
    case StepKind::facet:
        return "all beyond a plane through three corners";
    case StepKind::mirror:
        return fmt::format("{} mirrored along {}", ofText(s), nameOf(s.across));
    case StepKind::pattern:
        return fmt::format("{} {} times, {}", ofText(s),
                           s.repeat.count *
                                   (s.repeat.kind == Repetition::Kind::grid ? s.repeat.second_count : 1) -
                               static_cast<int>(s.repeat.left_out.size()),
                           s.repeat.kind == Repetition::Kind::circle  ? "round a centre"
                           : s.repeat.kind == Repetition::Kind::curve ? "along a curve"
                                                                      : "every " + inWords(s.repeat.pitch));
    }
    return {};
}

std::vector<StepNumber*> numbersOf(Step& s) {
    std::vector<StepNumber*> r{&s.from.value,  &s.from.beyond,     &s.to.value,           &s.to.beyond,
                               &s.below,       &s.thickness,       &s.hole.diameter,      &s.hole.depth,
                               &s.hole.wide,   &s.hole.wide_depth, &s.hole.pitch,         &s.size,
                               &s.second_size, &s.repeat.pitch,    &s.repeat.second_pitch};
    for (Bound& b : s.tops) r.push_back(&b.value), r.push_back(&b.beyond);
    return r;
}

std::vector<std::pair<MarkRef*, const char*>> marksOf(Step& s) {
    std::vector<std::pair<MarkRef*, const char*>> r;
    const auto add = [&](MarkRef& m, const char* what) {
        if (m.picked()) r.emplace_back(&m, what);
    };
    const auto bound = [&](Bound& b) {
        if (b.kind == Bound::Kind::mark) add(b.mark, "the mark it reaches to");
    };
    bound(s.from), bound(s.to);
    for (Bound& b : s.tops) bound(b);
    if (s.kind == StepKind::revolve) add(s.axis, "the centre line");
    if (s.kind == StepKind::mirror) add(s.axis, "the plane it is mirrored at");
    if (s.kind == StepKind::hole) add(s.hole.wide_to, "the bottom of its counterbore");
    add(s.repeat.at, "what its pattern runs round or along");
    for (PartPick& p : s.edges.picks) add(p.corner, "an edge");
    return r;
}

std::vector<Vec3*> spacesOf(Step& s) {
    std::vector<Vec3*> r;
    const auto bound = [&](Bound& b) {
        if (b.kind == Bound::Kind::place) r.push_back(&b.place);
    };
    bound(s.from), bound(s.to);
    for (Bound& b : s.tops) bound(b);
    for (std::vector<PartPick>* picks : {&s.edges.picks, &s.faces})
        for (PartPick& p : *picks)
            if (p.place) r.push_back(&*p.place);
    if (s.edges.face) r.push_back(&*s.edges.face);
    for (Vec3& c : s.corners) r.push_back(&c);
    if (s.kind == StepKind::facet) r.push_back(&s.taken);
    return r;
}

} // namespace prism
