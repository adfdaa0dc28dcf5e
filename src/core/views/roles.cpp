#include "core/base/curve_ends.h"
#include "core/base/polygon.h"
#include "core/views/oblique.h"
#include "core/views/stages.h"

#include <fmt/format.h>

namespace prism::views {

int alignment(const Box2& a, const Box2& b, int axis) {
    const double tol = 0.02 * std::max(a.diagonal(), b.diagonal());
    const double l = std::abs(a.lo[axis] - b.lo[axis]), h = std::abs(a.hi[axis] - b.hi[axis]);
    const double apartLo = std::max(a.lo[1 - axis], b.lo[1 - axis]),
                 apartHi = std::min(a.hi[1 - axis], b.hi[1 - axis]);
    if (apartLo < apartHi) return 0; // side by side in both directions: not stacked along the other axis
    if (l < tol * 0.5 && h < tol * 0.5) return 2;
    // Centred on each other, or as long and shifted a little: but never past each other.
    const bool overlap = std::max(a.lo[axis], b.lo[axis]) < std::min(a.hi[axis], b.hi[axis]);
    return l < tol || h < tol || (overlap && std::abs(l - h) < tol * 0.1) ? 1 : 0;
}

namespace {

/// Share of the line length that runs neither across nor up, ellipses counting wholly.
double skewShare(const Drawing& d, const View& v) {
    double skew = 0, all = 0;
    for (int e : v.entities)
        for (const Curve& c : d.entities[e].curves) {
            const double l = lengthOf(c);
            all += l;
            if (auto* s = std::get_if<Segment>(&c)) {
                const Vec2 u = s->b - s->a;
                if (std::min(std::abs(u.x), std::abs(u.y)) > 1e-3 * length(u)) skew += l;
            } else if (!std::holds_alternative<Arc>(c))
                skew += l;
        }
    return all > 0 ? skew / all : 0;
}

int bestPartner(const ViewSet& set, size_t i, int axis) {
    int best = 0;
    for (size_t j = 0; j < set.views.size(); ++j)
        if (j != i && set.views[j].role == Role::unassigned)
            best = std::max(best, alignment(set.views[i].box_sheet, set.views[j].box_sheet, axis));
    return best;
}

bool onlyCircles(const Drawing& d, const View& v) {
    for (int e : v.entities)
        for (const Curve& c : d.entities[e].curves)
            if (boxOf(c).diagonal() > 0.95 * v.box_sheet.diagonal() && std::holds_alternative<Arc>(c))
                return true;
    return false;
}

/// Lines drawn by hand that end within other lines, or run into themselves: what lies on one side of them is
/// broken out (ISO 128-3). The free-form outline of a part ends where other lines do.
std::vector<const Entity*> breakLines(const Drawing& d, const View& v, double tol) {
    std::vector<const Entity*> r;
    const auto withinAnother = [&](const Entity& own, Vec2 p) {
        return std::ranges::any_of(v.entities, [&](int o) {
            return o != own.id && std::ranges::any_of(d.entities[o].curves, [&](const Curve& c) {
                       return distanceTo(c, p) <= tol && distance(startOf(c), p) > tol &&
                              distance(endOf(c), p) > tol;
                   });
        });
    };
    for (int id : v.entities) {
        const Entity& e = d.entities[id];
        if (e.curves.empty() || !drawnByHand(e.curves)) continue;
        const Vec2 from = startOf(e.curves.front()), to = endOf(e.curves.back());
        if (distance(from, to) <= tol || (withinAnother(e, from) && withinAnother(e, to))) r.push_back(&e);
    }
    return r;
}

/// Share of a view's box that is hatched, but for what is broken out: material that a cutting plane went
/// through (ISO 128-3). Told by a grid of places.
double hatchedShare(const Drawing& d, const CleanSheet& s, const View& v) {
    constexpr int n = 24;
    std::vector<const Entity*> hatches;
    const double close = 1e-3 * v.box_sheet.diagonal();
    const auto breaks = breakLines(d, v, close);
    for (const Entity& e : d.entities) {
        if (s.entity_roles[e.id] != LineRole::hatch || !s.layer_on[e.layer] || e.curves.empty()) continue;
        Box2 b;
        for (const Curve& c : e.curves) b.add(boxOf(c));
        const bool bounds = e.type == "HATCH"; // its border; single hatch lines enclose nothing
        const bool broken_out =
            std::ranges::any_of(breaks, [&](const Entity* line) { return hatchedUpTo(e, *line, close); });
        if (bounds && !broken_out && v.box_sheet.grown(close).contains(b)) hatches.push_back(&e);
    }
    if (hatches.empty()) return 0;
    std::vector<std::vector<std::vector<Vec2>>> borders;
    for (const Entity* h : hatches) {
        borders.emplace_back();
        for (const Curve& c : h->curves) borders.back().push_back(sampled(c, close));
    }
    int in = 0;
    for (int i = 0; i < n; ++i)
        for (int j = 0; j < n; ++j) {
            const Vec2 p{v.box_sheet.lo.x + (i + 0.47) / n * v.box_sheet.width(),
                         v.box_sheet.lo.y + (j + 0.53) / n * v.box_sheet.height()};
            for (const auto& border : borders) {
                bool odd = false;
                for (const auto& chain : border)
                    for (size_t k = 1; k < chain.size(); ++k)
                        if (passesRightOf(p, chain[k - 1], chain[k])) odd = !odd;
                if (odd) {
                    ++in;
                    break;
                }
            }
        }
    return static_cast<double>(in) / (n * n);
}

/// Sections that stand where a principal view would, lined up with the others: views find their roles round
/// them as round any other. By view.
std::vector<bool> fullSections(const Drawing& d, const CleanSheet& s, const ViewSet& set,
                               const std::vector<std::optional<ViewLabel>>& labels) {
    constexpr double kLeast = 0.12;
    auto called = [&](size_t i) { return labels[i] && labels[i]->role == Role::section; };
    // Where other views line up with each other they are the principal ones, and sections stand where there
    // was room.
    std::vector<size_t> others;
    for (size_t i = 0; i < set.views.size(); ++i)
        if (!called(i) && (!labels[i] || isPrincipal(labels[i]->role)) &&
            hatchedShare(d, s, set.views[i]) <= kLeast)
            others.push_back(i);
    for (size_t i : others)
        for (size_t j : others)
            if (i != j && std::max(alignment(set.views[i].box_sheet, set.views[j].box_sheet, 0),
                                   alignment(set.views[i].box_sheet, set.views[j].box_sheet, 1)) == 2)
                return std::vector<bool>(set.views.size(), false);
    std::vector<bool> r;
    for (size_t i = 0; i < set.views.size(); ++i) {
        const bool other = labels[i] && !called(i);
        const bool linedUp = std::max(bestPartner(set, i, 0), bestPartner(set, i, 1)) == 2;
        r.push_back(set.views.size() > 1 && !other &&
                    (called(i) ? linedUp : hatchedShare(d, s, set.views[i]) > kLeast));
    }
    return r;
}

/// Views that their labels call sections, details or views along an arrow lie wherever there was room: where
/// they lie tells nothing.
void setLabelledAside(ViewSet& set, const std::vector<std::optional<ViewLabel>>& labels,
                      const std::vector<bool>& inPlace) {
    for (size_t i = 0; i < set.views.size(); ++i)
        if (labels[i] && !inPlace[i] &&
            (labels[i]->role == Role::section || labels[i]->role == Role::detail ||
             labels[i]->role == Role::auxiliary))
            set.views[i].role = labels[i]->role;
}

/// The boxes of all views but one.
std::vector<Box2> boxesBut(const ViewSet& set, size_t i) {
    std::vector<Box2> r;
    for (size_t j = 0; j < set.views.size(); ++j)
        if (j != i) r.push_back(set.views[j].box_sheet);
    return r;
}

/// Whether another view is drawn square to an oblique edge of this one, as none is of a pictorial.
bool shownAskew(const Drawing& d, const ViewSet& set, const View& v) {
    return std::ranges::any_of(set.views, [&](const View& other) {
        if (other.id == v.id) return false;
        const auto source = obliqueSource(d, set, other);
        return source && source->on == v.id;
    });
}

void setPictorialsAside(const Drawing& d, ViewSet& set, const std::vector<std::optional<ViewLabel>>& labels) {
    for (size_t i = 0; i < set.views.size(); ++i) {
        View& v = set.views[i];
        const int partner = std::max(bestPartner(set, i, 0), bestPartner(set, i, 1));
        const double skew = skewShare(d, v);
        if (v.role != Role::unassigned) continue;
        if (labels[i] && isPrincipal(labels[i]->role)) continue;
        if (labels[i] && labels[i]->role == Role::pictorial)
            v.role = Role::pictorial;
        else if (skew > 0.3 && partner < 2 && set.views.size() > 1) {
            if (obliqueSource(d, set, v))
                v.role = Role::auxiliary;
            else if (!shownAskew(d, set, v) && !fitsOtherwise(boxesBut(set, i), v.box_sheet))
                v.role = Role::pictorial;
        }
    }
}

/// How usual the neighbours of a view would be if it were the front view: a top view is, a bottom view is
/// not.
double usualNeighbours(const ViewSet& set, size_t front, Convention c) {
    double sum = 0;
    for (size_t j = 0; j < set.views.size(); ++j) {
        const Box2 &b = set.views[j].box_sheet, &f = set.views[front].box_sheet;
        if (j == front || set.views[j].role != Role::unassigned || alignment(b, f, 0) == 0) continue;
        const bool above = b.centre().y > f.centre().y;
        sum += above == (c == Convention::third) ? 1.2 : -1.2;
    }
    return sum;
}

size_t chooseFront(const Drawing& d, const ViewSet& set, const std::vector<std::optional<ViewLabel>>& labels,
                   const std::vector<bool>& sections, std::optional<Convention> convention) {
    size_t best = 0;
    double bestScore = -1, largest = 0;
    for (const View& v : set.views) largest = std::max(largest, v.box_sheet.width() * v.box_sheet.height());
    const auto candidates =
        std::ranges::count_if(set.views, [](const View& v) { return v.role == Role::unassigned; });
    for (size_t i = 0; i < set.views.size(); ++i) {
        const View& v = set.views[i];
        if (v.role != Role::unassigned) continue;
        double score = 4 * bestPartner(set, i, 0) + 4 * bestPartner(set, i, 1);
        score += v.box_sheet.width() * v.box_sheet.height() / std::max(largest, 1e-12);
        if (onlyCircles(d, v)) score -= 2;
        // A section takes the front's place where there is no front view; of two views it mostly does.
        if (sections[i]) score += candidates == 2 ? 1.5 : -1.5;
        if (convention) score += usualNeighbours(set, i, *convention);
        if (labels[i] && labels[i]->role == Role::front) score += 100;
        if (score > bestScore) bestScore = score, best = i;
    }
    return best;
}

/// The front view: the one said by hand, else the likeliest, with the angle as far as it is known.
size_t frontOf(const Drawing& d, const ViewSet& set, const ViewChoices& choices,
               const std::vector<std::optional<ViewLabel>>& labels, const std::vector<bool>& sections,
               std::optional<Convention> convention) {
    for (size_t i = set.views.size(); i-- > 0;) {
        const auto chosen = choices.roles.find(set.views[i].key);
        if (chosen != choices.roles.end() && chosen->second == Role::front) return i;
    }
    return chooseFront(d, set, labels, sections, convention);
}

enum class Place { above, below, left, right, nowhere };

Place placeOf(const View& v, const View& front) {
    if (alignment(v.box_sheet, front.box_sheet, 0) > 0)
        return v.box_sheet.centre().y > front.box_sheet.centre().y ? Place::above : Place::below;
    if (alignment(v.box_sheet, front.box_sheet, 1) > 0)
        return v.box_sheet.centre().x > front.box_sheet.centre().x ? Place::right : Place::left;
    return Place::nowhere;
}

Role roleAt(Place p, Convention c) {
    const bool third = c == Convention::third;
    switch (p) {
    case Place::above:
        return third ? Role::top : Role::bottom;
    case Place::below:
        return third ? Role::bottom : Role::top;
    case Place::right:
        return third ? Role::right : Role::left;
    case Place::left:
        return third ? Role::left : Role::right;
    case Place::nowhere:
        break;
    }
    return Role::unassigned;
}

/// What speaks for either angle with one of the views as the front view.
struct AngleVotes {
    Votes lines;
    int labels_first = 0, labels_third = 0;
};

AngleVotes votesRound(const Drawing& d, const CleanSheet& s, const ViewSet& set,
                      const std::vector<std::optional<ViewLabel>>& labels, const std::vector<bool>& sections,
                      size_t front) {
    AngleVotes r;
    for (size_t i = 0; i < set.views.size(); ++i) {
        const View& v = set.views[i];
        if (i == front || v.role != Role::unassigned) continue;
        const Place p = placeOf(v, set.views[front]);
        if (p == Place::nowhere) continue;
        // A section leaves hidden lines out: it has no say.
        const Votes n = sections[i] || sections[front] ? Votes{} : hiddenLineVotes(d, s, set.views[front], v);
        r.lines.first += n.first;
        r.lines.third += n.third;
        if (!labels[i]) continue;
        r.labels_first += labels[i]->role == roleAt(p, Convention::first);
        r.labels_third += labels[i]->role == roleAt(p, Convention::third);
    }
    return r;
}

void decideConvention(ViewSet& set, const ViewChoices& choices, const AngleVotes& found) {
    ProjectionEvidence& p = set.projection;
    p.votes_first = found.lines.first, p.votes_third = found.lines.third;
    p.by_geometry.reset();
    const int lead = p.votes_third - p.votes_first;
    if (lead != 0 && std::abs(lead) * 3 >= p.votes_first + p.votes_third)
        p.by_geometry = lead > 0 ? Convention::third : Convention::first;
    const std::string votes =
        fmt::format("{} of {} hidden and inner lines fit {} angle", std::max(p.votes_first, p.votes_third),
                    p.votes_first + p.votes_third, lead > 0 ? "third" : "first");
    if (choices.convention) {
        p.convention = *choices.convention, p.confidence = 1, p.reason = "chosen by hand";
    } else if (p.stated) {
        p.convention = *p.stated;
        const bool against = p.by_geometry && *p.by_geometry != *p.stated;
        p.confidence = against ? 0.6 : p.by_geometry ? 0.99 : 0.9;
        p.reason = fmt::format("the sheet states {} angle{}", nameOf(*p.stated),
                               against         ? ", but " + votes
                               : p.by_geometry ? "; " + votes
                                               : "");
    } else if (found.labels_first != found.labels_third) {
        p.convention = found.labels_first > found.labels_third ? Convention::first : Convention::third;
        p.confidence = 0.9, p.reason = "the labels under the views stand where this angle puts them";
    } else if (p.by_geometry) {
        p.convention = *p.by_geometry;
        p.confidence = 0.8, p.reason = votes;
    } else {
        p.convention = Convention::first;
        p.confidence = 0.3, p.reason = "nothing on the sheet tells; first angle assumed";
    }
    p.laid_out = p.convention;
    // A solid cannot be built against its own hidden lines, whatever the title block says.
    const bool plain = p.by_geometry && std::min(p.votes_first, p.votes_third) == 0 && std::abs(lead) >= 3;
    if (plain && !choices.convention) p.laid_out = *p.by_geometry;
}

/// The boxes by which views find their places: of one that lines up with no other because it is drawn at a
/// scale of its own that which it would have at the scale of the others.
std::vector<Box2> placingBoxes(const ViewSet& set) {
    std::vector<Box2> r;
    for (size_t i = 0; i < set.views.size(); ++i) {
        const Box2& own = set.views[i].box_sheet;
        const bool alone = set.views[i].role == Role::unassigned && bestPartner(set, i, 0) == 0 &&
                           bestPartner(set, i, 1) == 0;
        r.push_back(alone ? boxAtScaleOf(boxesBut(set, i), own).value_or(own) : own);
    }
    return r;
}

/// Of several views with one role the chosen one, else the first, makes the figure.
void chooseUsed(const ViewChoices& choices, ViewSet& set) {
    for (View& v : set.views) {
        if (!isPrincipal(v.role)) continue;
        const auto chosen = choices.used.find(v.role);
        const bool there = chosen != choices.used.end() && std::ranges::any_of(set.views, [&](const View& o) {
                               return o.role == v.role && o.key == chosen->second;
                           });
        v.in_figure = there ? v.key == chosen->second : std::ranges::none_of(set.views, [&](const View& o) {
            return o.role == v.role && o.in_figure;
        });
    }
}

} // namespace

void assignRoles(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, ViewSet& set) {
    if (set.views.empty()) return;
    const std::vector<std::optional<ViewLabel>> labels = labelsOf(d, set.views);
    const std::vector<bool> sections = fullSections(d, s, set, labels);
    if (set.views.size() > 1) setLabelledAside(set, labels, sections);
    setPictorialsAside(d, set, labels);
    std::vector<Box2> boxes = placingBoxes(set);
    const auto swapBoxes = [&] {
        for (size_t i = 0; i < boxes.size(); ++i) std::swap(set.views[i].box_sheet, boxes[i]);
    };
    swapBoxes();
    const bool told = choices.convention || set.projection.stated;
    size_t frontAt = frontOf(d, set, choices, labels, sections,
                             choices.convention ? choices.convention : set.projection.stated);
    decideConvention(set, choices, votesRound(d, s, set, labels, sections, frontAt));
    if (!told &&
        set.projection.confidence > 0.5) { // now that the angle is known: which view has usual neighbours
        const size_t usual = frontOf(d, set, choices, labels, sections, set.projection.convention);
        if (usual != frontAt) {
            frontAt = usual;
            decideConvention(set, choices, votesRound(d, s, set, labels, sections, frontAt));
        }
    }
    const View front = set.views[frontAt];
    for (size_t i = 0; i < set.views.size(); ++i) {
        View& v = set.views[i];
        if (i == frontAt)
            v.role = Role::front;
        else if (v.role == Role::unassigned) {
            v.role = roleAt(placeOf(v, front), set.projection.laid_out);
            if (v.role == Role::unassigned)
                v.role = skewShare(d, v) > 0.3 ? Role::pictorial : Role::unassigned;
        }
        if (sections[i] && v.role != Role::unassigned) v.role = Role::section;
        if (const auto c = choices.roles.find(v.key); c != choices.roles.end()) v.role = c->second;
        v.name = labels[i] ? labels[i]->text : nameOf(v.role);
        if (const auto n = choices.names.find(v.key); n != choices.names.end()) v.name = n->second;
        if (labels[i]) v.letter = labels[i]->letter, v.label_scale = labels[i]->scale;
    }
    // Of two on one side the one that lines up less well is none; else the farther one is the rear view.
    const auto fits = [&](const View& v) {
        return std::max(alignment(v.box_sheet, front.box_sheet, 0),
                        alignment(v.box_sheet, front.box_sheet, 1));
    };
    const auto away = [&](const View& v) { return distance(v.box_sheet.centre(), front.box_sheet.centre()); };
    for (View& v : set.views) {
        if (!isPrincipal(v.role) || choices.roles.contains(v.key)) continue;
        for (const View& o : set.views) {
            if (&o == &v || o.role != v.role || fits(o) < fits(v)) continue;
            if (fits(o) > fits(v))
                v.role = Role::unassigned;
            else if (away(v) > away(o))
                v.role = v.role == Role::left || v.role == Role::right ? Role::rear : Role::unassigned;
        }
    }
    swapBoxes();
    chooseUsed(choices, set);
}

} // namespace prism::views
