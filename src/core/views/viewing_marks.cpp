#include "core/views/viewing_marks.h"

namespace prism::views {
namespace {

struct Letter {
    std::string letter;
    Vec2 at;
    double height;
};

/// Texts that are one of the letters; their middles. A letter that stands everywhere marks nothing.
std::vector<Letter> lettersOf(const Drawing& d, const Letters& wanted) {
    constexpr int kMost = 24;
    std::vector<Letter> r;
    std::map<std::string, int> count;
    for (const SheetText& t : d.texts) {
        const size_t first = t.content.find_first_not_of(" \t\n"), last = t.content.find_last_not_of(" \t\n");
        if (first == std::string::npos || first != last) continue;
        const std::string letter = t.content.substr(first, 1);
        if (!wanted.contains(letter)) continue;
        ++count[letter];
        const Vec2 up = direction(t.rotation + kPi / 2), right = direction(t.rotation);
        const Vec2 middle =
            t.position - right * (t.halign * 0.35 * t.height) - up * (t.valign * 0.5 * t.height);
        r.push_back({letter, middle, t.height});
    }
    std::erase_if(r, [&](const Letter& l) { return count[l.letter] > kMost; });
    return r;
}

bool isEdge(LineRole r) {
    return r == LineRole::outline || r == LineRole::hidden;
}

bool mayMark(const CleanSheet& s, const Entity& e) {
    const LineRole r = s.entity_roles[e.id];
    return s.layer_on[e.layer] && r != LineRole::border && r != LineRole::hatch;
}

/// A chain of straight lines, and the direction in which most of it runs: a stepped cutting plane has jogs.
struct Chain {
    Segment ends;
    Vec2 along;
    std::vector<Segment> legs; ///< what of it runs along, in order
    bool bare = false;         ///< a centre line at whose ends nothing else is drawn

    void turnRound() {
        std::swap(ends.a, ends.b), along = -along;
        std::ranges::reverse(legs);
        for (Segment& l : legs) std::swap(l.a, l.b);
    }
};

/// None when a chain comes back to its start, or turns otherwise than square.
std::optional<Chain> chained(const std::vector<Segment>& parts) {
    Chain r{{parts.front().a, parts.back().b}, {}, {}};
    double longest = 0;
    for (const Segment& s : parts)
        if (const double l = length(s.b - s.a); l > longest) longest = l, r.along = (s.b - s.a) * (1 / l);
    for (const Segment& s : parts) {
        const double turn = std::abs(cross(normalized(s.b - s.a), r.along));
        if (turn > 1e-6 && turn < 1 - 1e-6) return std::nullopt;
        if (turn > 0.5) continue;
        if (!r.legs.empty() && r.legs.back().b == s.a)
            r.legs.back().b = s.b;
        else
            r.legs.push_back(s);
    }
    if (dot(r.ends.b - r.ends.a, r.along) < 0) r.along = -r.along;
    // A cutting plane goes on from leg to leg, and never back.
    if (std::ranges::any_of(r.legs, [&](const Segment& l) { return dot(l.b - l.a, r.along) < 0; }))
        return std::nullopt;
    return distance(r.ends.a, r.ends.b) > 0 ? std::optional(r) : std::nullopt;
}

/// None when the entity holds anything else.
std::optional<Chain> chainOf(const Entity& e) {
    std::vector<Segment> parts;
    for (const Curve& c : e.curves) {
        const auto* s = std::get_if<Segment>(&c);
        if (!s) return std::nullopt;
        if (s->a != s->b) parts.push_back(*s);
    }
    return parts.empty() ? std::nullopt : chained(parts);
}

struct Arrow {
    Vec2 tip, look;
};

/// A filled triangle, as arrowheads are drawn: its tip lies opposite its shortest side.
std::optional<Arrow> headOf(const Entity& e) {
    if (e.type != "SOLID" && e.type != "TRACE" && e.type != "HATCH" && e.type != "LWPOLYLINE")
        return std::nullopt;
    std::vector<Vec2> corners;
    for (const Curve& c : e.curves) {
        if (!std::holds_alternative<Segment>(c)) return std::nullopt;
        if (corners.empty() || distance(corners.back(), startOf(c)) > 0) corners.push_back(startOf(c));
    }
    if (corners.size() == 4 && distance(corners[3], corners[0]) == 0) corners.pop_back();
    if (corners.size() != 3) return std::nullopt;
    size_t shortest = 0;
    double sides[3];
    for (size_t i = 0; i < 3; ++i) {
        sides[i] = distance(corners[i], corners[(i + 1) % 3]);
        if (sides[i] < sides[shortest]) shortest = i;
    }
    const Vec2 tip = corners[(shortest + 2) % 3],
               foot = (corners[shortest] + corners[(shortest + 1) % 3]) * 0.5;
    if (sides[shortest] <= 0 || distance(tip, foot) < 1.2 * sides[shortest]) return std::nullopt;
    return Arrow{tip, normalized(tip - foot)};
}

/// All arrows of the sheet that are not those of dimensions: leaders, filled heads, and shafts with two
/// barbs.
std::vector<Arrow> arrowsOf(const Drawing& d, const CleanSheet& s) {
    std::vector<Arrow> r;
    std::vector<std::pair<Vec2, Vec2>> ends; // an end of a straight line, and its other end
    for (const Entity& e : d.entities) {
        if (!mayMark(s, e) || e.curves.empty()) continue;
        if (e.type == "LEADER" || e.type == "MULTILEADER") {
            if (const auto* shaft = std::get_if<Segment>(&e.curves.front()); shaft && shaft->a != shaft->b)
                r.push_back({shaft->a, normalized(shaft->a - shaft->b)});
        } else if (const auto head = headOf(e))
            r.push_back(*head);
        else
            for (const Curve& c : e.curves)
                if (const auto* l = std::get_if<Segment>(&c); l && l->a != l->b)
                    ends.push_back({l->a, l->b}), ends.push_back({l->b, l->a});
    }
    std::sort(ends.begin(), ends.end(), [](const auto& a, const auto& b) {
        return std::tie(a.first.x, a.first.y) < std::tie(b.first.x, b.first.y);
    });
    const double tol = std::max(s.tolerances.touch_sheet, 1e-9);
    for (size_t i = 0; i < ends.size(); ++i) {
        const Vec2 tip = ends[i].first, back = ends[i].second - tip;
        bool left = false, right = false;
        const auto barb = [&](const std::pair<Vec2, Vec2>& o) {
            if (distance(o.first, tip) > tol) return;
            const Vec2 b = o.second - tip;
            const double along = dot(normalized(b), normalized(back)),
                         side = cross(normalized(back), normalized(b));
            if (length(b) > 0.7 * length(back) || along < 0.75 || std::abs(side) < 0.05) return;
            (side > 0 ? left : right) = true;
        };
        for (size_t j = i; j-- > 0 && tip.x - ends[j].first.x <= tol;) barb(ends[j]);
        for (size_t j = i + 1; j < ends.size() && ends[j].first.x - tip.x <= tol; ++j) barb(ends[j]);
        if (left && right) r.push_back({tip, normalized(-back)});
    }
    return r;
}

/// The arrow nearest to a place that runs in a direction square to `line`, or in any when there is none.
std::optional<Arrow> arrowNear(const std::vector<Arrow>& arrows, Vec2 at, double reach,
                               std::optional<Vec2> line) {
    std::optional<Arrow> best;
    for (const Arrow& a : arrows) {
        if (line && std::abs(dot(a.look, *line)) > 0.1) continue;
        const double away = distance(a.tip, at);
        if (away < reach) reach = away, best = a;
    }
    return best;
}

/// How far from the letter what it marks may begin, in heights of the lettering: an arrow may lie between.
constexpr double kReach = 7;

/// Whether a line may be part of a cutting plane that is drawn line by line: no edge of the part.
bool mayStep(const CleanSheet& s, const Entity& e) {
    const LineRole r = s.entity_roles[e.id];
    return !isEdge(r) && r != LineRole::dimension;
}

/// Chains of single lines that begin near `from`, turn square where one ends on the next, and end near `to`.
std::vector<Chain> steppedChains(const std::vector<Segment>& lines, Vec2 from, Vec2 to, double reach,
                                 double touch) {
    constexpr size_t kMostParts = 40; // long and short strokes of a line that is drawn as a pattern, too
    std::vector<Chain> r;
    for (size_t first = 0; first < lines.size(); ++first)
        for (const Segment& begin : {lines[first], Segment{lines[first].b, lines[first].a}}) {
            if (distance(begin.a, from) > reach) continue;
            std::vector<Segment> parts{begin};
            std::vector<bool> used(lines.size(), false);
            used[first] = true;
            for (bool more = true;
                 more && parts.size() < kMostParts && distance(parts.back().b, to) >= reach;) {
                more = false;
                for (size_t k = 0; k < lines.size() && !more; ++k)
                    for (const Segment& next : {lines[k], Segment{lines[k].b, lines[k].a}})
                        if (!used[k] && distance(next.a, parts.back().b) <= touch) {
                            parts.push_back(next), used[k] = more = true;
                            break;
                        }
            }
            if (parts.size() > 2 && distance(parts.back().b, to) < reach)
                if (auto c = chained(parts)) r.push_back(std::move(*c));
        }
    return r;
}

/// Strokes through the centre of a circle are marks of that centre.
void leaveCentreMarksOut(const Drawing& d, double touch, std::vector<Segment>& strokes) {
    for (const Entity& e : d.entities)
        for (const Curve& c : e.curves)
            if (const auto* a = std::get_if<Arc>(&c))
                std::erase_if(strokes,
                              [&](const Segment& l) { return distanceTo(Curve(l), a->centre) <= touch; });
}

/// Whether a line ends before it comes past a letter that stands beside it, as a centre line does; one that
/// a letter stands at the end of has it there.
bool endsShort(const Segment& l, const Letter& at) {
    const Vec2 out = normalized(l.a - l.b), from = at.at - l.a;
    return dot(from, out) > 0.25 * at.height && std::abs(cross(out, from)) > at.height;
}

/// Whether another line ends where one does: at an edge of the part it is its corner, at a cutting line the
/// shaft of an arrow.
bool meetsAnother(const Drawing& d, const CleanSheet& s, const Entity& line, Vec2 end) {
    return std::ranges::any_of(d.entities, [&](const Entity& o) {
        if (o.id == line.id || !mayMark(s, o)) return false;
        return std::ranges::any_of(o.curves, [&](const Curve& c) {
            return distance(startOf(c), end) <= s.tolerances.touch_sheet ||
                   distance(endOf(c), end) <= s.tolerances.touch_sheet;
        });
    });
}

std::optional<Chain> lineBetween(const Drawing& d, const CleanSheet& s, const Letter& a, const Letter& b) {
    const double reach = kReach * std::max(a.height, b.height);
    std::optional<Chain> best;
    double nearest = std::numeric_limits<double>::infinity();
    std::vector<Segment> atA, atB; // short strokes at the ends only
    std::vector<Segment> single;   // parts of a stepped line, drawn one by one
    // Edges of the part lie about as near as the cutting plane: they count only where there is nothing else.
    const auto offer = [&](Chain c, LineRole role, const Entity* e = nullptr) {
        const double edge = isEdge(role) ? 8 : 1;
        Segment& l = c.ends;
        if (distance(l.a, a.at) + distance(l.b, b.at) > distance(l.b, a.at) + distance(l.a, b.at))
            c.turnRound();
        const double da = distance(l.a, a.at), db = distance(l.b, b.at);
        if (da >= reach || db >= reach || edge * (da + db) >= nearest || length(l.b - l.a) <= reach) return;
        if (e && isEdge(role) && meetsAnother(d, s, *e, l.a) && meetsAnother(d, s, *e, l.b)) return;
        c.bare =
            e && role == LineRole::centre && !meetsAnother(d, s, *e, l.a) && !meetsAnother(d, s, *e, l.b);
        nearest = edge * (da + db), best = std::move(c);
    };
    for (const Entity& e : d.entities) {
        if (!mayMark(s, e)) continue;
        const auto chain = chainOf(e);
        if (!chain) continue;
        offer(*chain, s.entity_roles[e.id], &e);
        if (mayStep(s, e) && e.curves.size() == 1) single.push_back(chain->ends);
        const Segment* ends = &chain->ends;
        if (length(ends->b - ends->a) > reach) continue;
        const Vec2 middle = (ends->a + ends->b) * 0.5;
        if (distance(middle, a.at) < reach) atA.push_back(*ends);
        if (distance(middle, b.at) < reach) atB.push_back(*ends);
    }
    if (best) return best;
    for (Chain& c : steppedChains(single, a.at, b.at, reach, s.tolerances.touch_sheet))
        offer(std::move(c), LineRole::centre);
    if (best) return best;
    for (auto* strokes : {&atA, &atB}) leaveCentreMarksOut(d, s.tolerances.touch_sheet, *strokes);
    // Strokes at both ends that lie on one line stand for the whole line.
    for (const Segment& p : atA)
        for (const Segment& q : atB) {
            const Vec2 u = normalized(p.b - p.a), v = normalized(q.b - q.a), across = q.a - p.a;
            if (std::abs(cross(u, v)) > 1e-6 ||
                std::abs(cross(u, across)) > 1e-6 * length(across) + s.tolerances.touch_sheet)
                continue;
            Segment l{p.a, q.a};
            for (Vec2 x : {p.a, p.b})
                for (Vec2 y : {q.a, q.b})
                    if (distance(x, y) > distance(l.a, l.b)) l = {x, y};
            offer({l, normalized(l.b - l.a), {l}}, LineRole::centre);
        }
    return best;
}

} // namespace

std::vector<CuttingPlane> cuttingPlanes(const Drawing& d, const CleanSheet& s, const Letters& wanted) {
    const std::vector<Letter> letters = lettersOf(d, wanted);
    const std::vector<Arrow> arrows = letters.size() < 2 ? std::vector<Arrow>{} : arrowsOf(d, s);
    std::vector<CuttingPlane> r;
    for (size_t i = 0; i < letters.size(); ++i)
        for (size_t j = i + 1; j < letters.size(); ++j) {
            const Letter &a = letters[i], &b = letters[j];
            if (a.letter != b.letter) continue;
            const auto line = lineBetween(d, s, a, b);
            if (!line) continue;
            const Vec2 u = line->along;
            const Segment& ends = line->ends;
            // A stepped one stands where it begins.
            CuttingPlane p{a.letter, ends.a, ends.a + u * dot(ends.b - ends.a, u), {}, {}};
            if (line->legs.size() > 1) {
                p.legs = line->legs, p.from = p.legs.front().a;
                p.to = p.from + u * dot(p.legs.back().b - p.from, u);
            }
            p.drawn = !line->bare || !endsShort(ends, a) || !endsShort({ends.b, ends.a}, b);
            const double reach = kReach * std::max(a.height, b.height);
            const auto one = arrowNear(arrows, ends.a, reach, u), other = arrowNear(arrows, ends.b, reach, u);
            const bool agree = !one || !other || dot(one->look, other->look) > 0;
            if (agree && (one || other)) {
                const Vec2 look = one ? one->look : other->look, square{-u.y, u.x};
                p.look = dot(look, square) > 0 ? square : -square;
            }
            r.push_back(std::move(p));
        }
    return r;
}

std::vector<StrayPlane> strayPlanes(const Drawing& d, const CleanSheet& s, const Letters& known) {
    constexpr size_t kMost = 40; // more are the marks of a grid
    Letters others;
    for (char c = 'A'; c <= 'Z'; ++c)
        if (const std::string l(1, c); !known.contains(l)) others.insert(l);
    const std::vector<Letter> letters = lettersOf(d, others);
    std::vector<StrayPlane> r;
    for (size_t i = 0; i < letters.size() && letters.size() <= kMost; ++i)
        for (size_t j = i + 1; j < letters.size(); ++j)
            if (const auto line = lineBetween(d, s, letters[i], letters[j]))
                r.push_back({letters[i].letter, letters[j].letter, line->ends.a, line->ends.b});
    return r;
}

std::vector<ViewingArrow> viewingArrows(const Drawing& d, const CleanSheet& s, const Letters& wanted) {
    const std::vector<Letter> letters = lettersOf(d, wanted);
    if (letters.empty()) return {};
    const std::vector<Arrow> arrows = arrowsOf(d, s);
    std::vector<ViewingArrow> r;
    for (const Letter& l : letters)
        if (const auto a = arrowNear(arrows, l.at, kReach * l.height, {}))
            r.push_back({l.letter, a->tip, a->look});
    return r;
}

std::vector<DetailCircle> detailCircles(const Drawing& d, const CleanSheet& s, const Letters& wanted) {
    std::vector<DetailCircle> r;
    for (const Letter& l : lettersOf(d, wanted)) {
        double nearest = 4 * l.height;
        std::optional<Arc> best;
        for (const Entity& e : d.entities) {
            if (!mayMark(s, e) || e.curves.size() != 1) continue;
            const auto* a = std::get_if<Arc>(&e.curves.front());
            if (!a || !a->full()) continue;
            const double away = std::abs(distance(a->centre, l.at) - a->radius);
            if (away < nearest) nearest = away, best = *a;
        }
        if (best) r.push_back({l.letter, *best});
    }
    return r;
}

} // namespace prism::views
