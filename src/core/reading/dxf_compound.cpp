#include "core/reading/dxf_file.h"

// Entities made of several curves: hatch boundaries, leaders, multilines.
namespace prism::dxf {
namespace {

constexpr double kDegree = kPi / 180;

/// Walks the groups of a record in order.
class Walk {
  public:
    explicit Walk(std::span<const Tag> tags) : tags_(tags) {}
    bool atEnd() const { return at_ >= tags_.size(); }
    int code() const { return atEnd() ? -1 : tags_[at_].code; }
    /// Goes on to the next group of this code; false when there is none.
    bool seek(int code) {
        while (!atEnd() && tags_[at_].code != code) ++at_;
        return !atEnd();
    }
    /// Value of the group here when it has this code, else the default; moves on only in the first case.
    double take(int code, double otherwise = 0) {
        if (this->code() != code) return otherwise;
        return toNumber(tags_[at_++].value);
    }
    int takeInt(int code, int otherwise = 0) { return static_cast<int>(take(code, otherwise)); }
    Vec2 point(int code) {
        const double x = take(code);
        return {x, take(code + 10)};
    }

  private:
    std::span<const Tag> tags_;
    size_t at_ = 0;
};

void polylinePath(Walk& w, std::vector<Curve>& out) {
    const bool bulges = w.takeInt(72) != 0, closed = w.takeInt(73, 1) != 0;
    const int n = w.takeInt(93);
    std::vector<std::pair<Vec2, double>> v;
    for (int i = 0; i < n && w.code() == 10; ++i) {
        const Vec2 p = w.point(10);
        v.push_back({p, bulges ? w.take(42) : 0});
    }
    for (size_t i = 0; i + (closed ? 0 : 1) < v.size(); ++i) {
        const auto& next = v[(i + 1) % v.size()];
        if (!(v[i].first == next.first)) out.push_back(fromBulge(v[i].first, next.first, v[i].second));
    }
}

struct Turn {
    double start, sweep;
};

/// Start and end angles of a boundary edge; clockwise ones are counted the other way round.
Turn turnOf(Walk& w, double unit) {
    const double a = w.take(50) * unit, b = w.take(51) * unit;
    const bool counterClockwise = w.takeInt(73, 1) != 0;
    double sweep = std::abs(b - a) >= 2 * kPi - 1e-9 ? 2 * kPi : positiveAngle(b - a);
    if (sweep == 0) sweep = 2 * kPi;
    return counterClockwise ? Turn{a, sweep} : Turn{-a, -sweep};
}

void splineEdge(Walk& w, std::vector<Curve>& out) {
    Spline s;
    s.degree = std::clamp(w.takeInt(94, 3), 1, 25);
    w.takeInt(73), w.takeInt(74);
    const int knots = w.takeInt(95), poles = w.takeInt(96);
    for (int i = 0; i < knots && w.code() == 40; ++i) s.knots.push_back(w.take(40));
    for (int i = 0; i < poles && w.code() == 10; ++i) {
        s.poles.push_back(w.point(10));
        if (w.code() == 42) s.weights.push_back(w.take(42));
    }
    if (s.weights.size() != s.poles.size()) s.weights.clear();
    if (soundSpline(s)) out.push_back(std::move(s));
}

void edgePath(Walk& w, std::vector<Curve>& out) {
    const int n = w.takeInt(93);
    for (int i = 0; i < n && w.seek(72); ++i) {
        switch (w.takeInt(72)) {
        case 1: {
            const Vec2 a = w.point(10);
            out.push_back(Segment{a, w.point(11)});
            break;
        }
        case 2: {
            const Vec2 c = w.point(10);
            const double r = w.take(40);
            const Turn t = turnOf(w, kDegree);
            out.push_back(Arc{c, std::abs(r), t.start, t.sweep});
            break;
        }
        case 3: {
            const Vec2 c = w.point(10), major = w.point(11);
            const double ratio = w.take(40, 1);
            const Turn t = turnOf(w, kDegree);
            out.push_back(EllipseArc{c, major, ratio, t.start, t.sweep});
            break;
        }
        case 4:
            splineEdge(w, out);
            break;
        default:
            break;
        }
    }
}

void chainInto(const std::vector<Vec2>& p, std::vector<Curve>& out) {
    for (size_t i = 0; i + 1 < p.size(); ++i)
        if (!(p[i] == p[i + 1])) out.push_back(Segment{p[i], p[i + 1]});
}

/// Leader lines stand within nested braces of the context data; each may end in a short landing.
std::vector<Curve> multileaderLines(const Record& r) {
    std::vector<Curve> out;
    std::vector<Vec2> line;
    Vec2 last, dogleg;
    double landing = 0;
    int inLeader = 0, inLine = 0;
    for (const Tag& t : r.tags) {
        if (t.code == 302 && t.value.find("LEADER{") != std::string_view::npos)
            inLeader = 1, landing = 0;
        else if (t.code == 304 && t.value.find("LEADER_LINE{") != std::string_view::npos)
            inLine = 1, line.clear();
        else if (t.code == 305 && inLine) {
            inLine = 0;
            line.push_back(last);
            chainInto(line, out);
        } else if (t.code == 303 && inLeader) {
            inLeader = 0;
            if (landing > 0) chainInto({last, last + dogleg * landing}, out);
        } else if (inLine && t.code == 10)
            line.push_back({toNumber(t.value), 0});
        else if (inLine && t.code == 20 && !line.empty())
            line.back().y = toNumber(t.value);
        else if (inLeader && !inLine) {
            if (t.code == 10) last.x = toNumber(t.value);
            if (t.code == 20) last.y = toNumber(t.value);
            if (t.code == 11) dogleg.x = toNumber(t.value);
            if (t.code == 21) dogleg.y = toNumber(t.value);
            if (t.code == 40) landing = toNumber(t.value);
        }
    }
    return out;
}

} // namespace

std::vector<Curve> hatchBoundaries(const Record& r) {
    std::vector<Curve> out;
    Walk w(r.tags);
    if (!w.seek(91)) return out;
    const int paths = w.takeInt(91);
    for (int i = 0; i < paths && w.seek(92); ++i) {
        if (w.takeInt(92) & 2)
            polylinePath(w, out);
        else
            edgePath(w, out);
    }
    return out;
}

std::vector<Curve> leaderLines(const Record& r) {
    if (r.type != "LEADER") return multileaderLines(r);
    std::vector<Vec2> p;
    for (const Tag& t : r.tags) {
        if (t.code == 10) p.push_back({toNumber(t.value), 0});
        if (t.code == 20 && !p.empty()) p.back().y = toNumber(t.value);
    }
    std::vector<Curve> out;
    if (r.integer(72) == 1 && p.size() > 2)
        out.push_back(splineThrough(p));
    else
        chainInto(p, out);
    return out;
}

std::vector<Curve> parallelLines(const Record& r) {
    std::vector<std::vector<Vec2>> lines; // by element
    Vec2 vertex, miter;
    size_t element = 0;
    bool first = false;
    for (const Tag& t : r.tags) {
        const double n = toNumber(t.value);
        if (t.code == 11) vertex.x = n, element = 0;
        if (t.code == 21) vertex.y = n;
        if (t.code == 13) miter.x = n;
        if (t.code == 23) miter.y = n;
        if (t.code == 74) first = true;
        if (t.code != 41 || !first) continue; // the first number after 74 is the offset along the miter
        first = false;
        if (lines.size() <= element) lines.emplace_back();
        lines[element++].push_back(vertex + miter * n);
    }
    std::vector<Curve> out;
    for (auto& l : lines) {
        if ((r.integer(71) & 2) && l.size() > 2) l.push_back(l.front());
        chainInto(l, out);
    }
    return out;
}

} // namespace prism::dxf
