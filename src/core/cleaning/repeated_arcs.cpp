#include "core/cleaning/workbench.h"

#include <map>

// Arcs and circles that were drawn more than once, wholly or over part of their length.
namespace prism::cleaning {
namespace {

/// An arc on its circle, counter-clockwise; `from` within the first turn.
struct OnCircle {
    double radius, from, to;
    int entity;
    bool whole() const { return to - from >= 2 * kPi - 1e-9; }
};

class RepeatedArcs {
  public:
    explicit RepeatedArcs(Workbench& w) : w_(w), tol_(20 * w.touch()) {}

    void run() {
        PointMerger centres(tol_);
        std::map<std::pair<int, LineRole>, std::vector<OnCircle>> byCentre;
        for (const Entity& e : w_.drawing().entities) {
            if (!w_.isPartLine(e.id) || e.curves.size() != 1) continue;
            const auto* a = std::get_if<Arc>(&e.curves[0]);
            if (!a) continue;
            const double from = a->full() ? 0 : positiveAngle(a->sweep > 0 ? a->start : a->start + a->sweep);
            byCentre[{centres.add(a->centre), w_.sheet().entity_roles[e.id]}].push_back(
                {a->radius, from, from + std::abs(a->sweep), e.id});
        }
        for (auto& [key, arcs] : byCentre) {
            std::ranges::stable_sort(arcs, {}, &OnCircle::radius);
            for (size_t i = 0, j = 0; i < arcs.size(); i = j) {
                while (j < arcs.size() && arcs[j].radius - arcs[i].radius <= tol_) ++j;
                if (j - i > 1)
                    setAsideIn({arcs.begin() + static_cast<long>(i), arcs.begin() + static_cast<long>(j)});
            }
        }
    }

  private:
    /// All on one circle, in the order in which they begin; whole circles first.
    void setAsideIn(std::vector<OnCircle> arcs) {
        std::ranges::stable_sort(arcs, [](const OnCircle& a, const OnCircle& b) {
            if (a.whole() != b.whole()) return a.whole();
            return std::pair(a.from, -a.to) < std::pair(b.from, -b.to);
        });
        std::vector<OnCircle> kept;
        for (const OnCircle& a : arcs)
            if (kept.empty() || !(kept.front().whole() ? within(a) : covers(kept.back(), a)))
                kept.push_back(a);
        // The last may run over the place where the turn begins, into the first.
        while (kept.size() > 1 && !kept.back().whole()) {
            OnCircle first = kept.front();
            first.from += 2 * kPi, first.to += 2 * kPi;
            if (!covers(kept.back(), first)) break;
            kept.erase(kept.begin());
        }
    }

    double angle(const OnCircle& a) const { return tol_ / a.radius; }

    /// Sets a part of a whole circle aside.
    bool within(const OnCircle& a) {
        if (!w_.record(a.whole() ? "duplicate" : "contained", {a.entity}, startOf(arc(a)))) return false;
        w_.setAside(a.entity);
        return true;
    }

    /// Sets an arc aside that lies on one which begins no later, the longer one of two that overlap taking
    /// its place; false when they only touch, or lie apart.
    bool covers(OnCircle& last, const OnCircle& a) {
        if (a.from > last.to - angle(a)) return false;
        const bool beyond = a.to > last.to + angle(a);
        const bool exact = std::abs(a.from - last.from) <= angle(a) && std::abs(a.to - last.to) <= angle(a);
        std::vector<int> entities{a.entity};
        if (beyond) entities.insert(entities.begin(), last.entity);
        if (!w_.record(beyond  ? "overlapping"
                       : exact ? "duplicate"
                               : "contained",
                       entities, startOf(arc(a)), beyond ? (last.to - a.from) * a.radius : 0))
            return false;
        if (beyond) {
            Arc longer = arc(last);
            last.to = a.to;
            longer.start = last.from, longer.sweep = std::min(last.to - last.from, 2 * kPi);
            if (longer.sweep > 2 * kPi - angle(a)) longer.start = 0, longer.sweep = 2 * kPi;
            w_.setCurves(last.entity, {longer});
        }
        w_.setAside(a.entity);
        return true;
    }

    Arc arc(const OnCircle& a) const { return std::get<Arc>(w_.drawing().entities[a.entity].curves[0]); }

    Workbench& w_;
    double tol_;
};

} // namespace

void setRepeatedArcsAside(Workbench& w) {
    RepeatedArcs(w).run();
}

} // namespace prism::cleaning
