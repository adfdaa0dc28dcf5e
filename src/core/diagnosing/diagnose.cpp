#include "core/diagnosing/diagnose.h"

#include "core/diagnosing/as_given.h"
#include "core/diagnosing/trial.h"
#include "core/project/proof_findings.h"
#include "core/project/propose_for.h"

#include <fmt/format.h>

namespace prism {
namespace {

constexpr int kMostTrials = 150;       ///< of repairs, for one sheet
constexpr int kLinesOfTrials = 30'000; ///< looked at by all of them: a large sheet has fewer
constexpr int kMostCauses = 12;        ///< found by trials
constexpr int kMostDecided = 8;        ///< repairs that explain as much, between which a solid decides
constexpr double kAsMuch = 2;          ///< so much less explained still counts as that,
constexpr double kShareAsMuch = 0.15;  ///< or this share of all that was found
constexpr int kMostDrawn = 5;          ///< of these, that draw a line
constexpr int kMostAskedMore = 3;      ///< of these, with all that is known of solids
constexpr int kMostWork = 4800;        ///< for all solids that are looked for
constexpr int kMostWorkOfOne = 3000;
constexpr int kMostWorkAtFirst = 1400; ///< for a repair: that of the cause mostly has its solid by then
constexpr double kSameSize = 0.01;     ///< mm
constexpr size_t kLinesForSolid = 400; ///< of all views: beyond, no solid is looked for

constexpr const char* kSoundSo = "the sheet repaired so has a solid that shows every line";

/// Whether two findings on a sheet and on the sheet repaired are the same.
bool same(const Finding& a, const Finding& b) {
    return a.kind == b.kind && a.views == b.views && a.handles == b.handles;
}

bool holds(const std::vector<Finding>& all, const Finding& f) {
    return std::ranges::any_of(all, [&](const Finding& o) { return same(f, o); });
}

bool solidMayBeLookedFor(const Model& m) {
    size_t lines = 0;
    for (const View& v : m.views.views)
        if (v.in_figure) lines += v.entities.size();
    return !m.drawn.principalViews().empty() && m.drawn.views.size() >= 2 && lines <= kLinesForSolid;
}

class Diagnosing {
  public:
    Diagnosing(const std::string& source, const Choices& c, std::shared_ptr<const Model> m,
               Progress& progress, KnownSolids& known)
        : source_(source), choices_(c), given_(m), as_given_(*given_), now_(std::move(m)),
          progress_(progress), known_(known) {}

    Diagnosis result() {
        if (!measuredWrong()) openAsDrawn() ? lookBriefly() : lookForSolid();
        d_.sound = solid_;
        std::vector<Finding> left = now_->findings;
        if (!solid_ && settledByOneLine(left))
            solid_ = true;
        else {
            while (static_cast<int>(causes_.size()) < kMostCauses && !progress_.cancelled() && findCause()) {
            }
            left = now_->findings;
            // Cutting lines and the like did not turn with a view: of it a solid says nothing then.
            const bool turned = std::ranges::any_of(
                causes_, [](const Finding& f) { return f.remedies.front().kind == "turn_view"; });
            if (!solid_ && !turned && !progress_.cancelled()) solid_ = linesAgainstSolid(left);
        }
        if (solid_)
            std::erase_if(left, [](const Finding& f) {
                return f.kind == "feature_unmatched" && f.severity == Severity::note;
            });
        d_.findings = std::move(causes_);
        for (Finding& f : left) d_.findings.push_back(as_given_.told(std::move(f), *now_));
        for (Finding& f : d_.findings)
            if (const auto it = choices_.accepted.find(keyOf(f, given_->views));
                it != choices_.accepted.end())
                f.accepted = it->second, f.severity = Severity::note;
        std::ranges::stable_sort(d_.findings, [](const Finding& a, const Finding& b) {
            return std::tie(a.severity, a.kind) < std::tie(b.severity, b.kind);
        });
        return std::move(d_);
    }

  private:
    /// Of the first view that a finding is about.
    std::optional<Role> roleOf(const Finding& f) const {
        if (f.views.empty()) return std::nullopt;
        return now_->views.views[static_cast<size_t>(f.views.front())].role;
    }

    /// What the checks say, without what a solid says and what a person accepted.
    std::vector<Finding> told(const Model& m) const {
        std::vector<Finding> r = m.findings;
        std::erase_if(r, [&](const Finding& f) {
            return f.from_proof || choices_.accepted.contains(keyOf(f, m.views));
        });
        return r;
    }

    /// Whether sizes that were measured contradict each other: no solid need be looked for then.
    bool measuredWrong() const {
        return std::ranges::any_of(now_->findings, [](const Finding& f) {
            return f.kind == "size_mismatch" || f.kind == "scale_mismatch" || f.kind == "view_mirrored";
        });
    }

    /// A solid for a sheet, the model of some choices, within what is left of the work that may be done for
    /// all of them.
    std::optional<Proposal> proposed(const Model& m, const Choices& c, Effort effort, int most,
                                     LineKinds kinds = LineKinds::told) {
        ended_early_ = false;
        if (!solidMayBeLookedFor(m) || progress_.cancelled()) return std::nullopt;
        const int limit = std::min(most, work_left_);
        if (limit <= 0) {
            d_.left_undone = "no further solid was looked for that would tell what is the cause";
            return std::nullopt;
        }
        KnownSolids::Search search{c, effort, kinds, limit};
        const KnownSolids::Outcome* o = known_.of(search);
        if (!o) {
            Work work(limit);
            auto p = proposeFor(m, {effort, kinds, {}, {}}, work, progress_);
            if (progress_.cancelled()) return std::nullopt;
            o = &known_.keep(std::move(search), {p ? std::optional(std::move(*p)) : std::nullopt, work.done(),
                                                 work.exhausted()});
        }
        work_left_ -= o->work, ended_early_ = o->exhausted;
        if (o->proposal && !o->proposal->left_undone.empty()) d_.left_undone = o->proposal->left_undone;
        return o->proposal;
    }

    /// Whether a line of an outline seems to be lacking or to be drawn hidden. Hardly a sheet like that has a
    /// solid as drawn: its repairs are tried first, before much is spent on it.
    bool openAsDrawn() {
        open_ = !outlines().hidden.empty() || std::ranges::any_of(outlines().lacking, [](const Finding& f) {
            return f.kind == "outline_open" && f.numbers.at("ends") > 0;
        });
        return open_;
    }
    void lookBriefly() {
        if (now_->proof && now_->build.ok()) return lookForSolid();
        const auto p = proposed(*now_, choices_, Effort::exact, kMostWorkAtFirst);
        solid_ = p && p->clean;
    }
    /// What may be wrong with the outlines of the sheet as it is looked at now.
    struct Outlines {
        std::vector<Finding> hidden, lacking;
    };
    const Outlines& outlines() {
        if (!outlines_) outlines_ = {hiddenOutlines(input(), progress_), lackingLines(input(), progress_)};
        return *outlines_;
    }
    CheckInput input() const {
        return {*now_->drawing, now_->sheet, now_->views, now_->drawn, now_->drawn_ledger};
    }

    /// The solid of the sheet as it is looked at now, or that which most of its lines agree on.
    void lookForSolid() {
        if (now_->proof && now_->build.ok()) {
            solid_ = now_->proof->clean();
            return;
        }
        // Where every coordinate has its counterpart a line may still be drawn as of the other kind. The
        // solid that all agree on if what is hidden does not count tells as much of a sound sheet, and more
        // of that.
        kinds_asked_ = !open_ && now_->figure.drawsHidden() && weightOf(told(*now_)) == 0;
        if (!kinds_asked_ || !lookWhateverIsHidden()) {
            nearest_.reset();
            proposal_ = proposed(*now_, choices_, Effort::quick, kMostWorkOfOne);
            solid_ = proposal_ && proposal_->clean;
            if (proposal_) nearest_.emplace(proposal_->build.shape);
        }
    }
    /// Whether that tells of the sheet with its hidden lines, too: it is sound, or nearly so.
    bool lookWhateverIsHidden() {
        proposal_ = proposed(*now_, choices_, Effort::quick, kMostWorkOfOne, LineKinds::alike);
        if (!proposal_) return false;
        nearest_.emplace(proposal_->build.shape);
        auto proof = nearest_->against(now_->figure, progress_);
        if (!proof) return false;
        solid_ = proof->clean();
        if (!solid_ && proposal_->clean &&
            findingsOfProof(*now_, proposal_->build, *proof, progress_).empty())
            return false;
        proposal_->clean = solid_, proposal_->proof = std::move(*proof);
        return true;
    }

    /// What the solid that most lines agree on says of the others, else the one that all agree on if what is
    /// hidden does not count; whether there is one that is near enough to say anything. A solid that was
    /// built has been asked already.
    bool linesAgainstSolid(std::vector<Finding>& out) {
        if (now_->proof && now_->build.ok())
            return std::ranges::any_of(out, [](const Finding& f) { return f.from_proof; });
        if (!proposal_) lookForSolid();
        if (solid_) return true;
        return (proposal_ && tellsOfLines(*proposal_, out)) || kindsAgainstSolid(out) || suspectRedrawn(out);
    }
    bool tellsOfLines(const Proposal& p, std::vector<Finding>& out) {
        const auto proof = prove(now_->figure, p.build.shape, progress_);
        if (!proof) return false;
        std::vector<Finding> told = findingsOfProof(*now_, p.build, *proof, progress_);
        const bool any = !told.empty();
        if (told.size() == 1) settleBy(told.front(), p, out);
        for (Finding& f : told) out.push_back(std::move(f));
        return any;
    }
    /// Whether the nearest solid shows every line once a single one is drawn otherwise: then nothing else
    /// need be tried. Where every coordinate has its counterpart the solid may be one that only hidden lines
    /// deny.
    bool settledByOneLine(std::vector<Finding>& out) {
        if (measuredWrong() || progress_.cancelled()) return false;
        if (proposal_)
            if (auto told = findingsOfProof(*now_, proposal_->build, proposal_->proof, progress_);
                told.size() == 1 && settleBy(told.front(), *proposal_, out)) {
                sayByViews(told.front());
                out.push_back(std::move(told.front()));
                return true;
            }
        return !open_ && weightOf(told(*now_)) == 0 && kindsAgainstSolid(out);
    }
    /// Whether the solid shows every line once the finding is repaired; what else was found and is not there
    /// then is a symptom of it.
    bool settleBy(Finding& f, const Proposal& p, std::vector<Finding>& found) {
        if (f.remedies.empty() || progress_.cancelled()) return false;
        const auto m = computeModel(source_, changed(choices_, f.remedies.front().change), now_, choices_,
                                    progress_, Stage::checks);
        const auto proof = m ? SeenSolid(p.build.shape).against((*m)->figure, progress_)
                             : Result<Proof>(tl::make_unexpected(m.error()));
        if (!proof || !proof->clean()) return false;
        f.remedies.front().reason = kSoundSo;
        settled(f);
        const std::vector<Finding> left = this->told(**m);
        std::erase_if(found, [&](const Finding& was) {
            if (was.from_proof || choices_.accepted.contains(keyOf(was, now_->views)) || holds(left, was))
                return false;
            if (was.kind == f.kind && was.handles == f.handles) // a check had it, and knows more of it
                f.message = was.message, f.numbers.insert(was.numbers.begin(), was.numbers.end());
            else if (was.severity != Severity::note)
                f.symptoms.push_back(was.message);
            return true;
        });
        return true;
    }
    /// A line that stands beside where a solid has it: if the views tell the same of it, in their words,
    /// which say what it was held against.
    void sayByViews(Finding& f) {
        const auto shift = f.numbers.find("shift");
        if (shift == f.numbers.end()) return;
        for (Finding& v : displacements(input(), false, progress_)) {
            const auto by = v.numbers.find("shift");
            if (v.kind != f.kind || v.handles != f.handles || by == v.numbers.end() ||
                std::abs(by->second - shift->second) > now_->figure.tolerances.proof)
                continue;
            f.message = std::move(v.message), f.views = std::move(v.views);
            f.numbers.insert(v.numbers.begin(), v.numbers.end());
            return;
        }
    }
    /// A finding whose first repair leaves the sheet a solid; of several causes none does so alone.
    void settled(const Finding& f) {
        if (!d_.sound && causes_.empty()) d_.settles = f;
    }
    /// Which lines are hidden taken for nothing.
    bool kindsAgainstSolid(std::vector<Finding>& out) {
        if (kinds_asked_ || !now_->figure.drawsHidden()) return false;
        const auto p = proposed(*now_, choices_, Effort::exact, kMostWorkOfOne, LineKinds::alike);
        return p && p->clean && tellsOfLines(*p, out);
    }

    /// A line that the nearest solid does not show, if drawn as of the other kind it leaves the sheet one.
    bool suspectRedrawn(std::vector<Finding>& out) {
        if (!proposal_) return false;
        for (Finding& f : suspectsOf(*now_, proposal_->build, proposal_->proof, progress_)) {
            const Choices redrawn = changed(choices_, f.remedies.front().change);
            const auto m = computeModel(source_, redrawn, now_, choices_, progress_, Stage::checks);
            const auto p = m ? proposed(**m, redrawn, Effort::exact, kMostWorkOfOne) : std::nullopt;
            if (!p || !p->clean) continue;
            f.remedies.front().reason = kSoundSo;
            settled(f);
            out.push_back(std::move(f));
            return true;
        }
        return false;
    }

    /// The repair that explains most of what is found, if any does; the sheet is looked at as repaired from
    /// then on.
    bool findCause() {
        std::vector<Trial> trials;
        // Where nothing was found only a solid could tell that something is wrong.
        if (weightOf(told(*now_)) == 0 && !solidMayBeLookedFor(*now_)) return false;
        for (const Finding& f : told(*now_)) tryOut(f, false, trials);
        const CheckInput in = input();
        for (const Finding& f : displacements(in, solid_, progress_)) tryOut(f, true, trials);
        if (!solid_) {
            for (const Finding& f : outlines().hidden) tryOut(f, true, trials);
            for (const Finding& f : misdrawnViews(in, progress_)) tryOut(f, true, trials);
            for (const Finding& f : strayedLines(in, progress_)) tryOut(f, true, trials);
            for (const Finding& f : outlines().lacking) tryOut(f, true, trials);
            for (const Finding& f : unmatchedLines(in, progress_)) tryOut(f, true, trials);
        }
        if (trials.empty() || progress_.cancelled()) return false;
        // What is drawn was hardly drawn for nothing: it is taken away last.
        const auto takesAway = [](const Trial& t) { return t.repair().kind == "delete_line"; };
        std::ranges::stable_sort(trials, {}, [&](const Trial& t) {
            return std::tuple(unexplained(t), takesAway(t), t.supposed, rank(t));
        });
        const auto chosen = solid_ ? firstSound(trials) : decided(trials);
        if (chosen == trials.end()) return false;
        take(std::move(*chosen));
        return true;
    }

    using Trials = std::vector<Trial>;
    bool givesSolid(const Trial& t, Effort effort, int most = kMostWorkOfOne) {
        const auto p = proposed(*t.model, t.choices, effort, most);
        return p && p->clean;
    }
    /// On a sheet with a solid: the first that explains something and leaves it one.
    Trials::iterator firstSound(Trials& trials) {
        const double before = weightOf(told(*now_));
        const auto end = trials.begin() + std::min<long>(std::ssize(trials), kMostDecided);
        const auto it = std::find_if(trials.begin(), end, [&](const Trial& t) {
            return t.weight < before && givesSolid(t, Effort::quick);
        });
        solidFound_ = it != end;
        return it == end ? trials.end() : it;
    }
    /// Whether the solid that most lines of the sheet agree on shows every line of the one repaired.
    bool givesNearest(const Trial& t) {
        if (progress_.cancelled()) return false;
        const auto proof = nearest_->against(t.model->figure, progress_);
        return proof && proof->clean();
    }
    /// Whether the nearest solid differs from the sheet in so little that it tells which lines are wrong:
    /// that is more than a likelihood.
    bool nearestTells() const {
        return proposal_ && !findingsOfProof(*now_, proposal_->build, proposal_->proof, progress_).empty();
    }
    /// On a sheet without a solid: the first that gives it one, else one that explains much.
    Trials::iterator decided(Trials& trials) {
        const double least = unexplained(trials.front()),
                     as_much = std::max(kAsMuch, kShareAsMuch * weightOf(told(*now_)));
        std::vector<Trials::iterator> asked, further;
        int drawn = 0;
        for (auto it = trials.begin(); it != trials.end(); ++it) {
            const Remedy& r = it->repair();
            // Where a single line explains less than others do, a solid for it may be there by chance.
            if (unexplained(*it) <= least + as_much && (r.kind != "add_line" || drawn++ < kMostDrawn))
                asked.push_back(it);
            else if (!ofOneLine(r))
                further.push_back(it);
        }
        const auto first = [&](const std::vector<Trials::iterator>& of, int most, const auto& has) {
            const auto end = of.begin() + std::min<long>(std::ssize(of), most);
            const auto it = std::find_if(of.begin(), end, [&](Trials::iterator t) { return has(*t); });
            solid_ = solidFound_ = it != end;
            return it == end ? trials.end() : *it;
        };
        // The nearest solid is known already: among lines that explain most it decides at once. Of a feature
        // that stands elsewhere in two views it has taken the place in one of them by chance.
        const auto byNearest = [&] {
            if (!nearest_ || proposal_->build.measure.solids != 1) return trials.end();
            return first(asked, static_cast<int>(asked.size()), [&](const Trial& t) {
                return unexplained(t) <= least && ofOneLine(t.repair()) && givesNearest(t);
            });
        };
        if (const auto it = byNearest(); it != trials.end()) return it;
        std::vector<Trials::iterator> longer; // those that a little work was not enough for
        if (const auto it = first(asked, kMostDecided,
                                  [&](Trial& t) {
                                      const bool gives = givesSolid(t, Effort::exact, kMostWorkAtFirst);
                                      if (ended_early_)
                                          longer.push_back(trials.begin() + (&t - trials.data()));
                                      return gives;
                                  });
            solidFound_)
            return it;
        for (const auto& [of, most, effort] : {std::tuple{&longer, kMostDecided, Effort::exact},
                                               std::tuple{&asked, kMostAskedMore, Effort::quick},
                                               std::tuple{&further, kMostAskedMore, Effort::exact}})
            if (const auto it =
                    first(*of, most, [&, with = effort](const Trial& t) { return givesSolid(t, with); });
                solidFound_)
                return it;
        if (open_ && !proposal_) { // nothing was looked for but a solid of all lines
            lookForSolid();
            if (solid_) {
                d_.sound = causes_.empty();
                return trials.end();
            }
            if (const auto it = byNearest(); it != trials.end()) return it;
        }
        if (nearestTells()) return trials.end();
        return std::ranges::find_if(trials, [&](const Trial& t) { return likely(t); });
    }

    int mostTrials() const {
        const int lines = std::max(1, static_cast<int>(now_->drawn.curves.size()));
        return std::clamp(kLinesOfTrials / lines, 4, kMostTrials);
    }

    void tryOut(const Finding& f, bool supposed, Trials& trials) {
        const double before = weightOf(told(*now_));
        for (size_t k = 0; k < f.remedies.size(); ++k) {
            if (!triedOut(f, f.remedies[k]) || progress_.cancelled()) continue;
            const Change& change = f.remedies[k].change;
            if (std::ranges::any_of(trials, [&](const Trial& t) { return t.repair().change == change; }))
                continue;
            if (supposed && toldBySolid(f.remedies[k]) && !solidMayBeLookedFor(*now_)) continue;
            if (d_.tried >= mostTrials()) {
                d_.left_undone =
                    fmt::format("the search for causes ended after {} repairs were tried", d_.tried);
                return;
            }
            ++d_.tried;
            progress_.report(0.5, "Looking for the cause");
            Trial t{f, k, supposed, roleOf(f), changed(choices_, change), nullptr, 0};
            auto m = computeModel(source_, t.choices, now_, choices_, progress_, Stage::checks);
            if (!m) continue;
            // What takes a view out of the box explains nothing: it is only not asked any more. Nor does what
            // brings another part of the sheet into it.
            if ((*m)->drawn.views.size() < now_->drawn.views.size() || !as_given_.samePart(*now_, **m))
                continue;
            t.model = std::move(*m), t.weight = weightOf(told(*t.model));
            // What a supposition does not explain by itself a solid may.
            if (supposed ? t.weight <= before : t.weight < before && !holds(told(*t.model), f))
                trials.push_back(std::move(t));
        }
    }

    /// Without a solid that decides, a supposition has to explain what a check found, or several coordinates
    /// in both views.
    bool likely(const Trial& t) const {
        constexpr double kSeveral = 4;
        const double explained = weightOf(told(*now_)) - t.weight;
        return t.supposed ? !toldBySolid(t.repair()) && explained >= kSeveral : explained > 0;
    }

    void take(Trial t) {
        Finding f = std::move(t.finding);
        std::rotate(f.remedies.begin(), f.remedies.begin() + static_cast<long>(t.remedy),
                    f.remedies.begin() + static_cast<long>(t.remedy) + 1);
        Remedy& r = f.remedies.front();
        if (solidFound_)
            r.reason = kSoundSo;
        else if (r.reason.empty())
            r.reason = "it explains more of what was found than any other repair";
        for (const Finding& was : told(*now_)) {
            if (holds(told(*t.model), was) || same(was, f)) continue;
            if (was.severity != Severity::note) f.symptoms.push_back(was.message);
            // What a view as a whole does is told by the kind that was found by measuring.
            if (t.supposed && was.kind == "size_mismatch" && f.kind == "position_mismatch" &&
                std::abs(was.numbers.at("difference") - f.numbers.at("shift")) <= kSameSize)
                f.kind = was.kind, f.message = was.message,
                f.numbers.insert(was.numbers.begin(), was.numbers.end());
        }
        if (t.supposed && !solidFound_) f.severity = Severity::warning;
        if (solidFound_) settled(f);
        causes_.push_back(as_given_.told(std::move(f), *now_));
        choices_ = std::move(t.choices), now_ = std::move(t.model);
        proposal_.reset(), nearest_.reset(), outlines_.reset(), open_ = kinds_asked_ = false;
    }

    const std::string& source_;
    Choices choices_;
    std::shared_ptr<const Model> given_;
    AsGiven as_given_;
    std::shared_ptr<const Model> now_; ///< as it is looked at
    Progress& progress_;
    KnownSolids& known_;
    Diagnosis d_;
    std::vector<Finding> causes_;
    std::optional<Proposal> proposal_; ///< of the sheet as it is looked at now
    std::optional<SeenSolid> nearest_; ///< its solid
    int work_left_ = kMostWork;
    std::optional<Outlines> outlines_;
    bool ended_early_ = false; ///< whether the last search for a solid did for want of work
    bool open_ = false;        ///< whether the sheet seems to be without a solid as drawn
    bool kinds_asked_ = false; ///< whether a solid was looked for that all lines agree on if none is hidden
    bool solid_ = false;       ///< whether the sheet as it is looked at now has one
    bool solidFound_ = false;  ///< whether the last cause was decided by one
};

} // namespace

Result<Diagnosis> diagnose(const std::string& source, const Choices& c, const std::shared_ptr<const Model>& m,
                           Progress& progress, KnownSolids* known) {
    KnownSolids none;
    Diagnosis d = Diagnosing(source, c, m, progress, known ? *known : none).result();
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "the check was stopped");
    return d;
}

} // namespace prism
