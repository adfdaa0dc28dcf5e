#include "core/project/proof_findings.h"
#include "core/cleaning/stood_for.h"

#include <fmt/format.h>

namespace prism {
namespace {

constexpr size_t kMostOff = 2;      ///< causes that a solid may tell of
constexpr size_t kMostSuspects = 3; ///< lines that a solid does not show, of which one may be drawn wrongly
constexpr double kAgreeing = 8;     ///< mm of lines that must agree for each that does not
constexpr double kFarthest = 0.25;  ///< of the part's size: what stands farther off is another line

/// A line in which the solid and the sheet differ: pieces that go on in each other.
struct Off {
    const ViewProof* view = nullptr;
    LineState state = LineState::missing;
    bool hidden = false;
    int curve = -1; ///< of the figure, on the sheet
    Curve shape;
    double length = 0;
    bool told = false;
};

/// One straight line over both, when they lie on one and touch but for what a projection leaves out.
std::optional<Segment> joined(const Curve& a, const Curve& b, double tolerance) {
    constexpr double kLeftOut = 10; // times the tolerance
    const auto *s = std::get_if<Segment>(&a), *t = std::get_if<Segment>(&b);
    if (!s || !t) return std::nullopt;
    const Vec2 u = normalized(s->b - s->a);
    const auto offset = [&](Vec2 p) { return std::abs(cross(u, p - s->a)); };
    if (offset(t->a) > tolerance || offset(t->b) > tolerance) return std::nullopt;
    double lo = 0, hi = dot(u, s->b - s->a), from = dot(u, t->a - s->a), to = dot(u, t->b - s->a);
    if (from > to) std::swap(from, to);
    if (from > hi + kLeftOut * tolerance || to < lo - kLeftOut * tolerance) return std::nullopt;
    lo = std::min(lo, from), hi = std::max(hi, to);
    return Segment{s->a + lo * u, s->a + hi * u};
}

std::vector<Off> linesOff(const Proof& proof, double tolerance) {
    std::vector<Off> r;
    for (const ViewProof& v : proof.views)
        for (const ProofPiece& p : v.pieces) {
            if (p.state == LineState::matched || p.length <= tolerance) continue;
            Off now{&v, p.state, p.hidden, p.curve, p.shape, p.length};
            for (size_t i = 0; i < r.size();) {
                Off& o = r[i];
                const auto whole =
                    o.view == &v && o.state == p.state && o.hidden == p.hidden && o.curve == p.curve
                        ? joined(o.shape, now.shape, 2 * tolerance)
                        : std::nullopt;
                if (!whole) {
                    ++i;
                    continue;
                }
                now.shape = *whole, now.length = lengthOf(now.shape);
                r.erase(r.begin() + static_cast<long>(i));
                i = 0;
            }
            r.push_back(now);
        }
    // A hidden edge under a visible one is not drawn, nor is one edge twice, nor a stub of a line that is
    // lacking as a whole: where the one is lacking, the other is no second slip.
    constexpr double kStub = 0.25; // of the length
    const auto standsFor = [&](size_t one, size_t other) {
        const Off &v = r[one], &o = r[other];
        const bool covers = (o.hidden && !v.hidden) || o.length <= kStub * v.length ||
                            (o.hidden == v.hidden && one < other && o.length <= v.length);
        return one != other && covers && v.view == o.view && v.state == LineState::extra &&
               std::ranges::all_of(std::array{0.05, 0.5, 0.95}, [&](double t) {
                   return distanceTo(v.shape, pointAt(o.shape, t)) <= 2 * tolerance;
               });
    };
    std::vector<Off> each;
    for (size_t i = 0; i < r.size(); ++i) {
        bool same = false;
        for (size_t k = 0; k < r.size() && r[i].state == LineState::extra; ++k)
            same = same || standsFor(k, i);
        if (!same) each.push_back(r[i]);
    }
    return each;
}

class ProofReading {
  public:
    ProofReading(const Model& m, const BuildResult& build, const Proof& proof, const Progress& progress)
        : m_(m), build_(build), proof_(proof), progress_(progress), tolerance_(2 * m.figure.tolerances.proof),
          off_(linesOff(proof, m.figure.tolerances.proof)) {}

    bool few() const {
        double off = 0, matched = 0;
        for (const Off& o : off_) off += o.length;
        for (const ViewProof& v : proof_.views) matched += v.matched_length;
        return off_.size() <= 2 * kMostOff && matched >= kAgreeing * off;
    }

    std::vector<Finding> findings() {
        std::vector<Finding> r;
        for (const ViewProof& v : proof_.views)
            for (const AreaOff& a : v.areas_off) r.push_back(hatching(v, a));
        for (Off& o : off_)
            if (!o.told && o.state == LineState::missing) r.push_back(ofDrawn(o));
        for (Off& o : off_)
            if (!o.told) r.push_back(lacking(o));
        // Of a view drawn in half, a line and its mirror image are one.
        std::vector<Finding> each;
        for (Finding& f : r)
            if (f.handles.empty() || std::ranges::none_of(each, [&](const Finding& o) {
                    return o.kind == f.kind && o.handles == f.handles && o.views == f.views;
                }))
                each.push_back(std::move(f));
        return each;
    }

    /// Of so many lines at most that are drawn and not shown, that each is of the other kind, hidden or not;
    /// none when there are more.
    std::vector<Finding> ofOtherKind(size_t most) const {
        std::vector<Finding> r;
        for (const Off& o : off_)
            if (o.state == LineState::missing) r.push_back(visibility(o));
        return r.size() <= most ? r : std::vector<Finding>{};
    }

  private:
    const FigureView& viewOf(const Off& o) const { return *m_.figure.viewById(o.view->view); }
    Affine2 toSheet(const Off& o) const { return ontoSheet(m_.figure, viewOf(o), m_.figure.now); }
    const Entity& entityOf(const Off& o) const {
        return m_.drawing
            ->entities[static_cast<size_t>(m_.figure.curves[static_cast<size_t>(o.curve)].entity)];
    }
    Curve inFile(const Off& o) const { return transformed(o.shape, m_.sheet.to_file * toSheet(o)); }

    Finding about(const Off& o, const char* kind, std::string message) const {
        Finding f;
        f.kind = kind, f.message = std::move(message);
        f.from_proof = true;
        f.severity = Severity::warning;
        f.views = {o.view->view};
        if (o.curve >= 0) f.entities = {entityOf(o).id}, f.handles = {entityOf(o).handle};
        for (double t : {0.0, 0.5, 1.0}) f.at_sheet.push_back(toSheet(o)(pointAt(o.shape, t)));
        f.numbers["length"] = o.length;
        if (const auto* a = std::get_if<Arc>(&o.shape)) f.numbers["radius"] = a->radius;
        return f;
    }
    /// "a line of 12.00 mm", "a circle of Ø6.00 mm", "an arc of R3.00 mm".
    static std::string called(const Off& o) {
        const auto* a = std::get_if<Arc>(&o.shape);
        return !a          ? fmt::format("a line of {:.2f} mm", o.length)
               : a->full() ? fmt::format("a circle of \u00d8{:.2f} mm", 2 * a->radius)
                           : fmt::format("an arc of R{:.2f} mm", a->radius);
    }
    static std::string begun(std::string s) {
        s.front() = 'A';
        return s;
    }

    Finding hatching(const ViewProof& v, const AreaOff& a) const {
        Finding f;
        f.from_proof = true;
        f.kind = "hatching_suspect";
        f.severity = Severity::warning;
        f.message = a.hatched ? fmt::format("An area of {:.2f} mm² of the {} view is hatched, but the solid "
                                            "that the lines make has no material there",
                                            a.area, nameOf(v.name))
                              : fmt::format("An area of {:.2f} mm² of the {} view is not hatched, but the "
                                            "solid that the lines make is cut there",
                                            a.area, nameOf(v.name));
        f.views = {v.view};
        f.at_sheet = {ontoSheet(m_.figure, *m_.figure.viewById(v.view), m_.figure.now)(a.seed)};
        f.numbers["area"] = a.area;
        return f;
    }

    /// A line of the sheet that the solid does not show as it is drawn.
    Finding ofDrawn(Off& o) {
        o.told = true;
        const std::string view = nameOf(o.view->name);
        if (Off* same = otherAt(o)) {
            same->told = true;
            return visibility(o);
        }
        if (!o.hidden && shownHidden(o)) return visibility(o);
        if (Off* moved = displacedTo(o)) {
            moved->told = true;
            return displaced(o, *moved);
        }
        Finding f = about(o, "feature_unmatched",
                          fmt::format("{} in the {} view is not on the solid that the other lines make",
                                      begun(called(o)), view));
        Change c;
        c.lines = {{MarkedLine::Kind::remove, keyOf(entityOf(o)), {}}};
        takeOffStoodFor(m_.sheet, {entityOf(o).id}, c.lines);
        f.remedies = {{"delete_line", "Take the line off the sheet",
                       "the other lines make a solid without it", std::move(c)}};
        return f;
    }

    Finding visibility(const Off& o) const {
        const char *is = o.hidden ? "hidden" : "visible", *should = o.hidden ? "shows" : "hides";
        Finding f =
            about(o, "line_visibility_suspect",
                  fmt::format("{} in the {} view is drawn {}, but the solid that the other lines make {} it",
                              begun(called(o)), nameOf(o.view->name), is, should));
        const LineRole role = o.hidden ? LineRole::outline : LineRole::hidden;
        f.remedies = {{o.hidden ? "draw_visible" : "draw_hidden",
                       o.hidden ? "Draw it as a visible line" : "Draw it as a hidden line",
                       "the other lines make a solid that has it so", redrawn(o, role)}};
        return f;
    }

    /// The line, or what the solid tells of of it, with another role.
    Change redrawn(const Off& o, LineRole role) const {
        Change c;
        const Entity& e = entityOf(o);
        c.lines.push_back({MarkedLine::Kind::remove, keyOf(e), {}});
        takeOffStoodFor(m_.sheet, {e.id}, c.lines);
        const LineRole was = m_.figure.curves[static_cast<size_t>(o.curve)].role;
        for (const FigureCurve& k : m_.figure.curves) {
            if (k.entity != e.id) continue;
            const bool concerned = &k == &m_.figure.curves[static_cast<size_t>(o.curve)];
            const auto* s = std::get_if<Segment>(&k.drawn);
            const auto* part = std::get_if<Segment>(&o.shape);
            const auto add = [&](const Curve& shape, LineRole as) {
                MarkedLine m{MarkedLine::Kind::add, "", {transformed(shape, m_.sheet.to_file * toSheet(o))}};
                m.role = as;
                c.lines.push_back(std::move(m));
            };
            if (!concerned || !s || !part) {
                add(k.drawn, concerned ? role : was);
                continue;
            }
            // What lies beyond on both sides stays as it was drawn.
            const Vec2 u = normalized(s->b - s->a);
            double from = dot(u, part->a - s->a), to = dot(u, part->b - s->a);
            if (from > to) std::swap(from, to);
            const double end = dot(u, s->b - s->a);
            if (from > tolerance_) add(Segment{s->a, s->a + from * u}, was);
            if (to < end - tolerance_) add(Segment{s->a + to * u, s->b}, was);
            add(Segment{from > tolerance_ ? s->a + from * u : s->a,
                        to < end - tolerance_ ? s->a + to * u : s->b},
                role);
        }
        return c;
    }

    Finding displaced(const Off& o, const Off& to) const {
        const Vec2 by = shiftBetween(o, to);
        Finding f =
            about(o, "position_mismatch",
                  fmt::format("{} in the {} view stands {:.2f} mm from where the solid has it that the "
                              "other lines make",
                              begun(called(o)), nameOf(o.view->name), length(by)));
        f.numbers["shift"] = length(by);
        Change c;
        c.lines = {{MarkedLine::Kind::reshape, keyOf(entityOf(o)), {inFile(to)}}};
        takeOffStoodFor(m_.sheet, {entityOf(o).id}, c.lines);
        f.remedies = {{"move_line", fmt::format("Move the line by {:.2f} mm", length(by)),
                       "the other lines make a solid that has it there", std::move(c)}};
        return f;
    }

    Finding lacking(Off& o) const {
        o.told = true;
        if (const int drawn = o.hidden ? -1 : drawnHidden(o); drawn >= 0) {
            Off as = o;
            as.curve = drawn, as.hidden = true;
            return visibility(as);
        }
        Finding f =
            about(o, "feature_unmatched",
                  fmt::format("The {} view lacks {} that the solid has there which the other lines make",
                              nameOf(o.view->name), called(o)));
        Change c;
        MarkedLine m{MarkedLine::Kind::add, "", {inFile(o)}};
        m.role = o.hidden ? LineRole::hidden : LineRole::outline;
        c.lines = {std::move(m)};
        f.remedies = {{"add_line", o.hidden ? "Draw the hidden line" : "Draw the line",
                       "the other lines make a solid that has it", std::move(c)}};
        return f;
    }

    /// What differs at the same place in the other way: drawn visible, but hidden on the solid, or the
    /// reverse.
    Off* otherAt(const Off& o) {
        for (Off& x : off_)
            if (!x.told && x.view == o.view && x.state == LineState::extra && x.hidden != o.hidden &&
                std::abs(x.length - o.length) <= 4 * tolerance_ && lies(x.shape, o.shape))
                return &x;
        return nullptr;
    }
    bool lies(const Curve& a, const Curve& b) const {
        for (double t : {0.1, 0.5, 0.9})
            if (distanceTo(b, pointAt(a, t)) > tolerance_) return false;
        return true;
    }

    bool shownHidden(const Off& o) const {
        const auto shown = shownBy(m_.figure, viewOf(o), build_.shape);
        if (!shown) return false;
        const auto lines = projected(shown->shape, frameOf(m_.figure, viewOf(o), m_.figure.now), progress_);
        return lines && std::ranges::any_of(*lines, [&](const ProjectedLine& l) {
                   return l.kind == ProjectedLine::Kind::hidden &&
                          std::ranges::all_of(std::array{0.2, 0.5, 0.8}, [&](double t) {
                              return distanceTo(l.shape, pointAt(o.shape, t)) <= tolerance_;
                          });
               });
    }

    /// The hidden line drawn where the solid has a visible one; -1 for none.
    int drawnHidden(const Off& o) const {
        for (size_t i = 0; i < m_.figure.curves.size(); ++i) {
            const FigureCurve& c = m_.figure.curves[i];
            if (c.view == o.view->view && c.role == LineRole::hidden &&
                lies(o.shape, m_.figure.curve(static_cast<int>(i))))
                return static_cast<int>(i);
        }
        return -1;
    }

    /// A line of the solid that is the same but for its place.
    Off* displacedTo(const Off& o) {
        for (Off& x : off_)
            if (!x.told && x.view == o.view && x.state == LineState::extra && x.hidden == o.hidden &&
                std::abs(x.length - o.length) <= 4 * tolerance_ &&
                length(shiftBetween(o, x)) <= kFarthest * m_.figure.size &&
                lies(transformed(o.shape, Affine2::shift(shiftBetween(o, x))), x.shape))
                return &x;
        return nullptr;
    }
    static Vec2 shiftBetween(const Off& from, const Off& to) {
        return pointAt(to.shape, 0.5) - pointAt(from.shape, 0.5);
    }

    const Model& m_;
    const BuildResult& build_;
    const Proof& proof_;
    const Progress& progress_;
    double tolerance_;
    std::vector<Off> off_;
};

} // namespace

std::vector<Finding> findingsOfProof(const Model& m, const Progress& progress) {
    if (!m.proof || !m.build.ok() || m.proof->clean()) return {};
    return findingsOfProof(m, m.build, *m.proof, progress);
}

std::vector<Finding> findingsOfProof(const Model& m, const BuildResult& build, const Proof& proof,
                                     const Progress& progress) {
    if (build.measure.solids != 1) return {};
    ProofReading reading(m, build, proof, progress);
    if (!reading.few()) return {};
    std::vector<Finding> r = reading.findings();
    return r.size() <= kMostOff ? r : std::vector<Finding>{};
}

std::vector<Finding> suspectsOf(const Model& m, const BuildResult& build, const Proof& proof,
                                const Progress& progress) {
    return ProofReading(m, build, proof, progress).ofOtherKind(kMostSuspects);
}

} // namespace prism
