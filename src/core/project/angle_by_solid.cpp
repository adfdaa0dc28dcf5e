#include "core/project/angle_by_solid.h"

#include "core/proposing/propose.h"

#include <fmt/format.h>

namespace prism {
namespace {

constexpr size_t kMostLines = 400; ///< of all views together
constexpr int kMostWork = 2500;    ///< for each angle

bool mayBeTried(const ViewSet& set) {
    size_t views = 0, lines = 0;
    for (const View& v : set.views)
        if (v.in_figure) ++views, lines += v.entities.size();
    return views >= 2 && views <= 4 && lines <= kMostLines;
}

/// Whether some solid shows every line of the views laid out like this.
bool hasSolid(const Drawing& d, const CleanSheet& s, const ViewSet& set, Progress& progress) {
    const CleanSheet& whole = set.completed ? *set.completed : s;
    const Drawing& drawing = set.completed ? *whole.drawing : d;
    const Figure f = buildFigure(drawing, whole, set, progress);
    if (progress.cancelled()) return false;
    Work work(kMostWork);
    const auto p = propose(f, {Effort::exact, LineKinds::told, {}, {}}, work, progress);
    return p && p->clean;
}

} // namespace

void decideAngleBySolid(const Drawing& d, const CleanSheet& s, const ViewChoices& choices, ViewSet& set,
                        Progress& progress) {
    constexpr double kTold = 0.9; // by the sheet's own words, symbol or labels
    if (choices.convention || set.projection.stated || set.projection.confidence >= kTold || !mayBeTried(set))
        return;
    progress.report(0.35, "Trying both projection angles");
    const bool now = hasSolid(d, s, set, progress);
    ViewChoices other = choices;
    other.convention = set.projection.laid_out == Convention::first ? Convention::third : Convention::first;
    ViewSet turned = findViews(d, s, other, progress);
    const bool then = !progress.cancelled() && hasSolid(d, s, turned, progress);
    if (progress.cancelled() || now == then) return;
    if (now) { // the same angle, but known now: the front view may be another
        other.convention = set.projection.laid_out;
        turned = findViews(d, s, other, progress);
        if (progress.cancelled()) return;
    }
    turned.projection.votes_first = set.projection.votes_first;
    turned.projection.votes_third = set.projection.votes_third;
    turned.projection.by_geometry = set.projection.by_geometry;
    set = std::move(turned);
    set.projection.confidence = 0.85;
    set.projection.reason = fmt::format("only in {} angle is there a solid that shows every line",
                                        nameOf(set.projection.convention));
}

} // namespace prism
