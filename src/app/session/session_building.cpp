#include "app/session/session.h"

#include "core/project/preview.h"

#include "core/project/suggestion.h"
#include <mutex>

// Of the session what is done while a solid is being built: proposals, previews and suggestions.
namespace prism::app {

/// The nearest solid that a search has found so far, across threads.
struct Session::Growing {
    std::mutex mutex;
    std::shared_ptr<const Proposal> best;
    bool fresh = false; ///< not shown yet
    /// Once somebody has seen it; null when there is nothing new.
    std::shared_ptr<const Proposal> news() {
        const std::lock_guard lock(mutex);
        return std::exchange(fresh, false) ? best : nullptr;
    }
};

void Session::showGrowing() {
    const auto best = growing_ ? growing_->news() : nullptr;
    if (!best) return;
    const int open = best->missing + best->extra;
    emit previewReady(meshOf(best->build.shape, fineness(model())), {},
                      best->clean ? tr("A solid shows every line; looking on for others")
                      : open == 1 ? tr("Nearest so far: 1 line open")
                                  : tr("Nearest so far: %1 lines open").arg(open));
}

void Session::endGrowing(bool stopped) {
    const auto grown = std::exchange(growing_, nullptr);
    if (!grown) return;
    clearPreview();
    if (!stopped) return;
    std::shared_ptr<Proposal> kept;
    {
        const std::lock_guard lock(grown->mutex);
        if (grown->best) kept = std::make_shared<Proposal>(*grown->best);
    }
    if (!kept) return;
    kept->left_undone = tr("the search was stopped").toStdString();
    emit proposed(kept);
}

void Session::propose() {
    waiting_.push_back([this] {
        if (!document_) return;
        growing_ = std::make_shared<Growing>();
        start(tr("Looking for a solid"),
              [this, model = shown_->model, c = choices(),
               grown = growing_](Progress& p) -> std::function<void()> {
                  auto found = proposeFor(*model, c, p, [&](const Proposal& better) {
                      auto best = std::make_shared<const Proposal>(better);
                      const std::lock_guard lock(grown->mutex);
                      grown->best = std::move(best), grown->fresh = true;
                  });
                  if (!found)
                      return [this, e = found.error()] {
                          if (e.code == ErrorCode::cancelled)
                              emit stopped(tr("Stopped. The build list is as it was before."));
                          else
                              emit failed(tr("No solid is proposed"), sentence(e.message));
                      };
                  auto proposal = std::make_shared<const Proposal>(std::move(*found));
                  return [this, proposal] {
                      keepGoal(document_->choices(), proposal);
                      if (!proposal->clean) return emit proposed(proposal);
                      take(proposal);
                      if (!proposal->alternatives.empty()) emit oneOfSeveral(proposal);
                  };
              });
    });
    startNext();
}

void Session::take(std::shared_ptr<const Proposal> p) {
    queueChange(tr("Take the proposal"), [p](Choices& c) { return c.steps = p->steps, true; },
                {p->steps, p->build, p->proof});
}

void Session::takeOther(const std::shared_ptr<const Proposal>& p, size_t alternative) {
    change(tr("Take another solid"),
           [p, alternative](Choices& c) { c.steps = p->alternatives[alternative].steps; });
}

void Session::showOther(const std::shared_ptr<const Proposal>& p, size_t alternative) {
    waiting_.push_back([this, p, alternative] {
        start(tr("Showing what differs"),
              [this, p, alternative, fine = fineness(*shown_->model)](Progress&) -> Outcome {
                  const Difference& d = p->alternatives[alternative].difference;
                  return [this, more = meshOf(d.more, fine), less = meshOf(d.less, fine)] {
                      emit previewReady(more, less, {});
                  };
              });
    });
    startNext();
}

namespace {

/// What the solid that the views show hangs on.
Choices withoutSolid(Choices c) {
    if (c.facts.empty()) c.levels.clear(); // facts may reach to levels
    c.steps.clear(), c.material.reset(), c.accepted.clear();
    return c;
}

/// The goal, looked for where it is not known yet.
Result<std::shared_ptr<const Proposal>> goalOf(const Model& m, const Choices& c,
                                               std::shared_ptr<const Proposal> known, Progress& progress) {
    if (known) return known;
    auto found = proposeFor(m, c, progress);
    if (!found) return tl::make_unexpected(found.error());
    return std::make_shared<const Proposal>(std::move(*found));
}

} // namespace

std::shared_ptr<const Proposal> Session::goal() const {
    return goal_ && goal_of_ == withoutSolid(choices()) ? goal_ : nullptr;
}

void Session::keepGoal(const Choices& c, std::shared_ptr<const Proposal> goal) {
    goal_ = std::move(goal), goal_of_ = withoutSolid(c);
}

void Session::suggest(std::optional<int> line) {
    waiting_.push_back([this, line] {
        if (!document_ || !model().has(Stage::solid)) return;
        start(tr("Looking for the next step"),
              [this, line, model = shown_->model, c = choices(),
               known = goal()](Progress& progress) -> Outcome {
                  auto goal = goalOf(*model, c, known, progress);
                  auto s = goal ? nextStep(*model, c, **goal, line, progress)
                                : Result<Suggestion>(tl::make_unexpected(goal.error()));
                  return [this, c, goal, s] {
                      if (goal) keepGoal(c, *goal);
                      if (s)
                          emit suggested(*s);
                      else if (s.error().code != ErrorCode::cancelled)
                          emit failed(tr("No step is suggested"), sentence(s.error().message));
                  };
              });
    });
    startNext();
}

void Session::completeSteps() {
    waiting_.push_back([this] {
        if (!document_ || !model().has(Stage::solid)) return;
        start(tr("Completing the steps"),
              [this, model = shown_->model, c = choices(), known = goal()](Progress& progress) -> Outcome {
                  auto goal = goalOf(*model, c, known, progress);
                  auto done = goal ? completed(*model, c, **goal, progress)
                                   : Result<Completion>(tl::make_unexpected(goal.error()));
                  return [this, c, goal, done] {
                      if (goal) keepGoal(c, *goal);
                      if (!done) {
                          if (done.error().code == ErrorCode::cancelled)
                              emit stopped(tr("Stopped. The build list is as it was before."));
                          else
                              emit failed(tr("No step is added"), sentence(done.error().message));
                          return;
                      }
                      queueChange(
                          tr("Complete the steps"),
                          [done](Choices& now) { return now.steps = done->steps, true; }, done->built);
                      emit completedSteps(done->added, QString::fromStdString(done->left_undone));
                  };
              });
    });
    startNext();
}

void Session::lookAtAreas(std::optional<Step> begun) {
    wanted_likely_ = std::move(begun);
    if (wanted_likely_) startNext();
}

void Session::startLikely() {
    if (!wanted_likely_) return;
    startAside(tr("Looking at the areas"),
               [this, begun = *std::exchange(wanted_likely_, std::nullopt), model = shown_->model,
                c = choices(), known = goal()](Progress& progress) -> Outcome {
                   auto goal = goalOf(*model, c, known, progress);
                   if (!goal) return {};
                   auto s = likelyStep(*model, c, **goal, begun, progress);
                   return [this, c, goal = *goal, s] {
                       keepGoal(c, goal);
                       if (s && !wanted_likely_) emit likely(*s);
                   };
               });
}

void Session::startPreview() {
    const auto [step, at] = *std::exchange(wanted_preview_, std::nullopt);
    start("Preview",
          [this, step = step, at = at, model = shown_->model, steps = document_->choices().steps,
           levels = document_->choices().levels](Progress& progress) -> std::function<void()> {
              const auto p = previewOf(*model, withLevels(steps, levels), at,
                                       withLevels({step}, levels).front(), progress);
              if (!p) return [this, e = p.error()] { emit previewReady({}, {}, sentence(e.message)); };
              const double fine = fineness(*model);
              QString told = p->more <= 0 && p->less <= 0 ? tr("Changes nothing") : QString();
              if (p->more > 0) told = tr("Adds %1 mm³").arg(p->more, 0, 'f', 1);
              if (p->less > 0)
                  told += (told.isEmpty() ? tr("Takes away %1 mm³") : tr(", takes away %1 mm³"))
                              .arg(p->less, 0, 'f', 1);
              if (!p->told.empty()) told += ". " + sentence(p->told);
              return [this, told, added = meshOf(p->added, fine), removed = meshOf(p->removed, fine)] {
                  if (!wanted_preview_) emit previewReady(added, removed, told);
              };
          });
}

void Session::preview(const Step& step, size_t at) {
    wanted_preview_.emplace(step, at);
    startNext();
}

void Session::clearPreview() {
    wanted_preview_.reset();
    emit previewReady({}, {}, {});
}

} // namespace prism::app
