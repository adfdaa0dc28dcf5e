#pragma once
#include "core/project/model.h"

// The views and lines of a sheet as it was given. On one that is looked at as repaired they have other
// numbers.
namespace prism {

class AsGiven {
  public:
    /// The model must outlive it.
    explicit AsGiven(const Model& m);

    /// What was found on the sheet looked at as `m`, in the numbers of the sheet as given.
    Finding told(Finding f, const Model& m) const;
    /// Whether the figure of `m` shows all views that the one of `was` does: on a sheet of several parts a
    /// repair may bring another one into it.
    bool samePart(const Model& was, const Model& m) const;

  private:
    /// The entity as given; -1 for one that was not there.
    int entityOf(int e, const Model& m) const;
    /// The view as given that most lines of a view are of; -1 for none.
    int viewOf(int v, const Model& m) const;

    const Model& given_;
    std::map<std::string, int> entity_; ///< by key
};

} // namespace prism
