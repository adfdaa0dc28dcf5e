#pragma once
#include "core/proofing/proof.h"
#include "core/proposing/facts.h"
#include "core/proposing/propose.h"
#include "core/proposing/sights.h"
#include "core/proposing/work.h"

#include <functional>

namespace prism {

/// Candidates are built and held against the sheet here, and the best one is kept.
class Judge {
  public:
    /// Of a search on the whole figure. It ends when the work is exhausted, which must outlive it. What does
    /// not keep all facts is no candidate.
    Judge(const Figure& f, const AreaSets& areas, std::vector<Fact> facts, LineKinds kinds, Effort effort,
          Work& work, Progress& progress)
        : f_(f), areas_(areas), facts_(std::move(facts)), kinds_(kinds), effort_(effort), progress_(progress),
          work_(work) {
        for (const Fact& k : facts_) known_.push_back(k.region);
    }

    /// From now on the candidates come from a figure that lacks some features; `finish` adds the steps that
    /// make them. The areas must outlive the search.
    using Finish = std::function<std::vector<Step>(std::vector<Step>)>;
    void search(const AreaSets& reduced, Finish finish);
    /// The candidates come from the whole figure again.
    void searchWhole();

    /// Called whenever something is kept that comes closer to the sheet than what was.
    void setBetter(std::function<void(const Judge&)> told) { better_ = std::move(told); }

    /// Names, builds and proves steps; keeps them when they come closer to the sheet than what is kept:
    /// whether they did. Another solid that fits as well is kept as an alternative.
    bool consider(std::vector<Step> steps, const char* how);

    /// Takes steps in the place of those that are kept, if their solid fits the sheet as well; what was kept
    /// becomes an alternative, which `differs` in words. Only once something fits.
    void prefer(std::vector<Step> steps, const std::string& differs);

    /// Takes steps that make the very solid that is kept in another way. Nothing changes where they do not.
    void restate(std::vector<Step> steps);

    /// Where the candidate considered last does not show what the sheet shows, or shows more, on these maps;
    /// empty when it was none that could be held against the sheet.
    std::vector<SightPlace> placesOff(const std::vector<ViewMap>& maps) const;
    /// Whether a search whose candidates come no nearer to the sheet may be given up: so many in a row did
    /// not.
    bool stuck() const { return not_nearer_ >= kMostNotNearer || exhausted(); }
    /// Whether what is kept differs from the sheet in a line or two: nothing that fits most lines is nearer.
    bool near() const { return missing + extra > 0 && missing + extra <= 2; }
    Work& work() { return work_; }
    /// What was said beforehand.
    const std::vector<KnownRegion>& known() const { return known_; }
    /// Whether candidates have to show as well which lines are hidden.
    LineKinds kinds() const { return kinds_; }
    Effort effort() const { return effort_; }
    bool exhausted() const { return work_.exhausted(); }
    /// Another search begins.
    void begin() { not_nearer_ = 0, nearest_ = std::numeric_limits<double>::infinity(); }

    std::vector<Step> steps;
    double off = std::numeric_limits<double>::infinity(), volume = 0;
    int tried = 0, missing = 0, extra = 0;
    std::string how;
    bool clean = false;
    std::string left_undone;
    std::vector<Alternative> others;
    BuildResult build;
    Proof proof; ///< of the solid that is kept

  private:
    std::vector<Step> whole(std::vector<Step> steps) const;
    static bool sameVolume(double a, double b);
    /// Builds and proves steps in the place of those that are kept; none where they do not fit.
    struct Fitting {
        BuildResult build;
        Proof proof;
    };
    std::optional<Fitting> fitting(const std::vector<Step>& steps);
    std::vector<std::vector<Step>> considered_;
    std::vector<ViewProof> last_; ///< of the candidate considered last
    static constexpr int kMostNotNearer = 4;
    int not_nearer_ = 0;
    double nearest_ = std::numeric_limits<double>::infinity();

    const Figure& f_;
    const AreaSets& areas_;
    std::vector<Fact> facts_;
    std::vector<KnownRegion> known_;
    LineKinds kinds_;
    Effort effort_;
    Progress& progress_;
    Work& work_;
    const AreaSets* reduced_ = nullptr;
    Finish finish_;
    std::function<void(const Judge&)> better_;
};

} // namespace prism
