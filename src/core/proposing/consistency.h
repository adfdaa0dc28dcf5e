#pragma once
#include "core/base/progress.h"
#include "core/proposing/cell_model.h"
#include "core/proposing/sights.h"
#include "core/proposing/work.h"

namespace prism {

/// Which cells are material, and how much of the sheet had to be disregarded for it.
struct CellChoice {
    std::vector<bool> material;
    std::vector<bool> looked_at; ///< whether a line of sight that tells something passes through it
    double ignored = 0;          ///< mm of line of sight pairs that could not be satisfied
    double total = 0;            ///< mm of all of them
};

/// How much of the sheet a choice has to explain.
enum class Lines {
    all, ///< every place that was looked at
    most ///< where they contradict each other, the shortest lines in the way are disregarded
};

/// Finds materials of the cells for which every drawn line, and every place without a line, is as the views
/// show it. Two lines of sight close by on both sides of a place see a step in depth where an outline is
/// drawn, the same front but something different behind it where a hidden line is drawn, and no difference
/// where nothing is drawn. These are clauses over the cells for a satisfiability solver; where the sheet
/// contradicts itself, the shortest lines in the way are disregarded.
class ConsistentCells {
  public:
    /// `kinds` alike: a drawn line stands for an edge, seen or hidden. What it takes is added to `work`,
    /// which must outlive it; once that is exhausted there is no choice any more.
    ConsistentCells(CellModel& model, const Tolerances& tolerances, double size, Lines lines, Work& work,
                    Progress& progress, LineKinds kinds = LineKinds::told);
    ~ConsistentCells();
    /// The next choice, different from those before; empty when there is none or it was cancelled.
    std::optional<CellChoice> next(Progress& progress);
    /// The smallest sets of lines, of one or two, without which the rest of the sheet is consistent; each
    /// line a drawn one or a level where one may be missing. At most so many. (Reiter 1987: minimal diagnoses
    /// from conflicts.)
    std::vector<std::vector<SightLineKey>> suspects(size_t most, Progress& progress);
    /// The choice that holds against all lines but these, and against these as far as it can.
    std::optional<CellChoice> without(const std::vector<SightLineKey>& lines, Progress& progress);
    /// Looks at further places, where a choice did not show what the sheet shows: the choices that follow do.
    void lookAt(const std::vector<SightPlace>& places, Progress& progress);
    /// What a budget kept from being looked at, in words; empty for nothing.
    const std::string& leftUndone() const;

  private:
    struct Impl;
    std::unique_ptr<Impl> impl_;
};

} // namespace prism
