#include "app/session/session.h"

#include "core/building/kernel.h"
#include "core/delivering/step_file.h"
#include "core/project/part_links.h"
#include "core/project/preview.h"

#include <atomic>
#include <mutex>

namespace prism::app {
namespace {

/// Progress across threads: written by the worker, read by the window's timer.
class SharedProgress final : public Progress {
  public:
    void report(double fraction, std::string_view what) override {
        const std::lock_guard lock(mutex_);
        fraction_ = fraction, what_ = what;
    }
    bool cancelled() const override { return cancelled_; }
    void cancel() { cancelled_ = true; }
    std::pair<double, std::string> state() const {
        const std::lock_guard lock(mutex_);
        return {fraction_, what_};
    }

  private:
    mutable std::mutex mutex_;
    double fraction_ = 0;
    std::string what_;
    std::atomic<bool> cancelled_ = false;
};

std::shared_ptr<const Shown> shownOf(std::shared_ptr<const Model> m, const Shown* before = nullptr) {
    auto s = std::make_shared<Shown>();
    const double fine = fineness(*m);
    s->sheet = solvedSheet(*m);
    s->solid = meshOf(m->build.shape, fine);
    if (before) s->last_forms = lastForms(*m, *before->model, before->last_forms);
    s->lost = meshOf(asOne(s->last_forms), fine);
    s->model = std::move(m);
    return s;
}

} // namespace

/// Work on a thread of its own. It returns what the window has to do with the outcome.
struct Session::Task {
    QString what;
    SharedProgress progress;
    bool aside = false; ///< nobody waits for it
    std::function<void()> outcome;
    std::atomic<bool> done = false;
    std::thread thread;
};

Session::Session(QObject* parent) : QObject(parent) {
    poll_.setInterval(15);
    connect(&poll_, &QTimer::timeout, this, [this] {
        if (ending_ && ending_->done) {
            ending_->thread.join();
            ending_.reset();
            if (!task_) poll_.stop();
            startNext();
            return restIfIdle();
        }
        if (!task_) return;
        if (task_->done) return finishTask();
        if (task_->aside) return;
        showGrowing();
        const auto [fraction, what] = task_->progress.state();
        emit busyChanged(true, what.empty() ? task_->what : QString::fromStdString(what), fraction);
    });
    rest_.setInterval(250);
    rest_.setSingleShot(true);
    connect(&rest_, &QTimer::timeout, this, &Session::lookAside);
}

bool Session::busy() const {
    return (task_ && !task_->aside) || (ending_ && !waiting_.empty());
}

Session::~Session() {
    for (Task* t : {task_.get(), ending_.get()})
        if (t) t->progress.cancel(), t->thread.join();
}

void Session::start(const QString& what, std::function<Outcome(Progress&)> work) {
    task_ = std::make_unique<Task>();
    task_->what = what;
    Task* t = task_.get();
    t->thread = std::thread([this, t, what, work = std::move(work)] {
        // Whatever a library throws is told like any other failure: unsaved work goes on.
        if (const auto e = thrownBy([&] { t->outcome = work(t->progress); }))
            t->outcome = [this, what, why = e->message] { emit failed(what, sentence(why)); };
        t->done = true;
    });
    emit busyChanged(true, what, 0);
    poll_.start();
}

void Session::finishTask() {
    task_->thread.join();
    const auto outcome = std::move(task_->outcome);
    const bool aside = task_->aside;
    task_.reset();
    poll_.stop();
    endGrowing(false);
    if (outcome) outcome();
    startNext();
    if (!task_ && !aside) emit busyChanged(false, {}, 1);
    restIfIdle();
}

void Session::restIfIdle() {
    if (!task_ && shown_ && (!diagnosis_ || !sizes_)) rest_.start();
}

void Session::giveWay() {
    if (!task_ || !task_->aside) return;
    task_->progress.cancel();
    ending_ = std::move(task_);
}

void Session::startAside(const QString& what, std::function<Outcome(Progress&)> work) {
    start(what, std::move(work));
    task_->aside = true;
    emit busyChanged(false, {}, 1);
}

void Session::lookAside() {
    if (task_ || ending_ || !waiting_.empty() || !shown_ || !model().has(Stage::checks)) return;
    if (!sizes_)
        return startAside(tr("Looking for open sizes"),
                          [this, model = shown_->model, how = laying_](Progress& progress) -> Outcome {
                              auto found = completenessOf({*model->drawing, model->sheet, model->views,
                                                           model->drawn, model->drawn_ledger},
                                                          how, progress);
                              if (progress.cancelled()) return {};
                              return [this, c = std::make_shared<const Completeness>(std::move(found))] {
                                  sizes_ = c;
                                  emit sized();
                              };
                          });
    if (diagnosis_) return;
    startAside(tr("Looking for causes"),
               [this, model = shown_->model, choices = document_->choices(),
                source = document_->sharedSource(), solids = solids_](Progress& progress) -> Outcome {
                   auto found = prism::diagnose(*source, choices, model, progress, solids.get());
                   if (!found) return {};
                   return [this, d = std::make_shared<const Diagnosis>(std::move(*found))] {
                       diagnosis_ = d;
                       emit diagnosed();
                   };
               });
}

void Session::setLaying(const LayingChoice& how) {
    laying_ = how;
    giveWay();
    sizes_.reset();
    emit sized();
    restIfIdle();
}

void Session::startNext() {
    if (!waiting_.empty() || wanted_preview_ || wanted_likely_) giveWay();
    while (!task_ && !ending_ && !waiting_.empty()) {
        const auto next = std::move(waiting_.front());
        waiting_.pop_front();
        next();
    }
    if (task_ || ending_ || !shown_ || !model().has(Stage::solid)) return;
    if (!wanted_preview_) return startLikely();
    startPreview();
}

void Session::show(std::shared_ptr<const Shown> s) {
    constexpr size_t kKept = Document::kKeptModels;
    if (shown_) lately_.push_back(shown_);
    if (lately_.size() > kKept) lately_.pop_front();
    shown_ = std::move(s);
    pointed_ = {}, chosen_ = {};
    projectors_.reset();
    forgetFindings();
    emit changed();
    rest_.start();
}

QString Session::sourceName() const {
    return document_ ? QString::fromStdString(document_->sourceName()) : QString();
}

QString Session::projectPath() const {
    return document_ ? QString::fromStdString(document_->projectPath()) : QString();
}

void Session::open(const QString& path) {
    waiting_.push_back([this, path] {
        start("Reading " + path, [this, path](Progress& progress) -> std::function<void()> {
            // First what there is to see of the sheet; the rest follows while people look at it.
            auto d = Document::open(path.toStdString(), {}, progress, Stage::views);
            if (!d)
                return [this, e = d.error()] {
                    if (e.code != ErrorCode::cancelled)
                        emit failed(tr("The file could not be opened"), sentence(e.message));
                };
            auto doc = std::make_shared<Document>(std::move(*d));
            auto s = shownOf(doc->sharedModel());
            return [this, doc, s] {
                document_ = std::make_unique<Document>(std::move(*doc));
                solids_ = std::make_shared<KnownSolids>();
                lately_.clear();
                emit previewReady({}, {}, {});
                shown_ = s;
                pointed_ = {}, chosen_ = {};
                projectors_.reset();
                forgetFindings();
                emit opened();
                emit changed();
                waiting_.push_front([this] { complete(); });
            };
        });
    });
    startNext();
}

/// Computes what of the model is still missing.
void Session::complete() {
    if (!document_ || document_->model().has(Stage::solid)) return;
    start(tr("Putting the views together"),
          [this, model = document_->sharedModel(), choices = document_->choices(),
           source = document_->sharedSource()](Progress& progress) -> Outcome {
              auto m = computeModel(*source, choices, model, choices, progress);
              if (!m)
                  return [this, e = m.error()] {
                      if (e.code == ErrorCode::cancelled)
                          emit stopped(tr(
                              "Stopped. The sheet and its views are kept; the checks and the solid are not "
                              "computed."));
                      else
                          emit failed(tr("The views could not be put together"), sentence(e.message));
                  };
              auto s = shownOf(*m);
              return [this, s] {
                  document_->complete(s->model);
                  shown_ = s;
                  projectors_.reset();
                  forgetFindings();
                  emit changed();
              };
          });
}

void Session::change(const QString& label, Edit edit) {
    queueChange(label, [edit = std::move(edit)](Choices& c) { return edit(c), true; }, {});
}

void Session::changeIfThere(const QString& label, Try edit) {
    queueChange(label, std::move(edit), {});
}

void Session::queueChange(const QString& label, Try edit, ReadyBuild ready) {
    waiting_.push_back([this, label, edit = std::move(edit), ready = std::move(ready)] {
        if (!document_) return;
        Choices next = document_->choices();
        // Widgets fall back to what holds.
        if (!edit(next) || next == document_->choices()) return emit changed();
        start(label,
              [this, label, next, ready, before = shown_, model = document_->sharedModel(),
               was = document_->choices(),
               source = document_->sharedSource()](Progress& progress) mutable -> Outcome {
                  auto m = computeModel(*source, next, model, was, progress, Stage::solid, ready);
                  if (!m)
                      return [this, label, e = m.error()] {
                          emit changed();
                          if (e.code == ErrorCode::cancelled)
                              emit stopped(tr("Stopped: %1. Everything is as it was before.").arg(label));
                          else
                              emit failed(label, sentence(e.message));
                      };
                  auto s = shownOf(*m, before.get());
                  return [this, label, next, s] {
                      document_->commit(label.toStdString(), next, s->model);
                      show(s);
                  };
              });
    });
    startNext();
}

void Session::repair(const Remedy& r) {
    change(QString::fromStdString(r.words), [r](Choices& c) { c = prism::changed(std::move(c), r.change); });
}

void Session::accept(const Finding& f, const QString& note) {
    change(tr("Leave a finding as it is"),
           [key = keyOf(f, model().views), note](Choices& c) { c.accepted[key] = note.toStdString(); });
}

void Session::acceptNoLonger(const Finding& f) {
    change(tr("Take up a finding again"),
           [key = keyOf(f, model().views)](Choices& c) { c.accepted.erase(key); });
}

void Session::traceScans() {
    waiting_.push_back([this] {
        if (!shown_) return;
        start(tr("Looking for lines in the scan"),
              [this, model = shown_->model](Progress& progress) -> std::function<void()> {
                  auto seen = traceAll(*model->drawing, progress);
                  if (!seen)
                      return [this, e = seen.error()] {
                          if (e.code != ErrorCode::cancelled)
                              emit failed(tr("The lines could not be found"), sentence(e.message));
                      };
                  return [this, seen = std::move(*seen)] { emit traced(seen); };
              });
    });
    startNext();
}

void Session::reread(const QString& path) {
    waiting_.push_back([this, path] {
        if (!document_) return;
        start(tr("Reading %1").arg(path),
              [this, path, copy = *document_](Progress& progress) mutable -> std::function<void()> {
                  auto r = copy.reread(path.toStdString(), progress);
                  if (!r)
                      return [this, e = r.error()] {
                          if (e.code != ErrorCode::cancelled)
                              emit failed(tr("The drawing could not be read again"), sentence(e.message));
                      };
                  auto s = shownOf(copy.sharedModel());
                  return [this, r = std::move(*r), s, doc = std::make_shared<Document>(std::move(copy))] {
                      document_ = std::make_unique<Document>(std::move(*doc));
                      solids_ = std::make_shared<KnownSolids>();
                      show(s);
                      emit rereadDone(r);
                  };
              });
    });
    startNext();
}

void Session::undo() {
    go(true);
}

void Session::redo() {
    go(false);
}

std::shared_ptr<const Shown> Session::shownFor(const std::shared_ptr<const Model>& m) const {
    for (const auto& s : lately_)
        if (m && s->model == m) return s;
    return nullptr;
}

/// One step back or forth in the history; what is not kept any more is computed again.
void Session::go(bool back) {
    waiting_.push_back([this, back] {
        const Past* to = !document_ ? nullptr : back ? document_->beforeThis() : document_->afterThis();
        if (!to) return;
        auto arrive = [this, back](const std::shared_ptr<const Shown>& s) {
            back ? document_->undoTo(s->model) : document_->redoTo(s->model);
            show(s);
        };
        if (const auto s = shownFor(to->model)) return arrive(s);
        start(back ? tr("Undo") : tr("Redo"), [this, arrive, past = *to](Progress& progress) -> Outcome {
            auto m = modelOf(past, progress);
            if (!m)
                return [this, e = m.error()] {
                    if (e.code == ErrorCode::cancelled)
                        emit stopped(tr("Stopped. Everything is as it was before."));
                    else
                        emit failed(tr("That state could not be computed again"), sentence(e.message));
                };
            auto s = shownOf(*m);
            return [arrive, s] { arrive(s); };
        });
    });
    startNext();
}

bool Session::save(const QString& path, bool anyway) {
    if (!document_) return false;
    Result<void> r;
    if (const auto e = thrownBy([&] { r = document_->save(path.toStdString(), anyway); }))
        r = tl::make_unexpected(*e);
    if (!r && r.error().code == ErrorCode::conflict)
        return emit saveConflict(path, sentence(r.error().message)), false;
    if (!r) {
        emit failed(tr("The project could not be saved"), sentence(r.error().message));
        return false;
    }
    emit saved(path);
    return true;
}

void Session::writeReport(const QString& path) {
    waiting_.push_back([this, path] {
        if (!document_ || !diagnosis_ || !sizes_)
            return emit failed(tr("Nothing was written"),
                               tr("The causes of what was found are still being looked for."));
        start(tr("Writing the report"),
              [this, path, name = document_->sourceName(), model = shown_->model, found = diagnosis_,
               sizes = sizes_](Progress&) -> Outcome {
                  const auto r =
                      prism::writeReport(path.toStdString(), reportOf(name, *model, *found, *sizes));
                  if (!r)
                      return [this, e = r.error()] {
                          emit failed(tr("The report could not be written"), sentence(e.message));
                      };
                  return [this, path] { emit exported(path); };
              });
    });
    startNext();
}

void Session::exportStep(const QString& path) {
    waiting_.push_back([this, path] {
        if (!document_ || !model().build.ok())
            return emit failed(
                tr("Nothing was written"),
                tr("There is no valid solid yet. Build one first, or look at the steps that failed."));
        start(tr("Writing the solid"), [this, path, shape = model().build.shape](Progress&) -> Outcome {
            const auto r = writeStep(shape, path.toStdString());
            if (!r)
                return [this, e = r.error()] {
                    emit failed(tr("The solid could not be written"), sentence(e.message));
                };
            return [this, path] { emit exported(path); };
        });
    });
    startNext();
}

void Session::cancel() {
    waiting_.clear();
    wanted_preview_.reset(), wanted_likely_.reset();
    if (task_ && task_->aside) return giveWay();
    if (!task_) return;
    task_->progress.cancel();
    const QString what = task_->what;
    ending_ = std::move(task_);
    emit busyChanged(false, {}, 1);
    emit changed();
    emit stopped(document_ ? tr("Stopped: %1. The sheet and all choices are as they were before.").arg(what)
                           : tr("Stopped: %1.").arg(what));
    endGrowing(true);
}

void Session::setPointed(Marked m) {
    if (m == pointed_) return;
    pointed_ = std::move(m);
    projectors_.reset();
    emit pointedChanged();
}

const std::vector<Projector>& Session::projectors() const {
    constexpr size_t kMostLines = 3;
    if (projectors_) return *projectors_;
    projectors_.emplace();
    const Figure& f = model().figure;
    if (!pointed_.entities.empty() && pointed_.entities.size() <= kMostLines)
        for (size_t i = 0; i < f.curves.size(); ++i)
            if (pointed_.entities.contains(f.curves[i].entity))
                for (Projector& p : projectorsOf(f, static_cast<int>(i)))
                    projectors_->push_back(std::move(p));
    return *projectors_;
}

void Session::setChosen(Marked m) {
    if (m == chosen_) return;
    chosen_ = std::move(m);
    emit chosenChanged();
}

Marked Session::markedOf(const LedgerEntry& e) const {
    Marked m;
    if (e.dimension >= 0) m.dimensions.insert(e.dimension);
    m.entities = linesOf(model().figure, e);
    return m;
}

Marked Session::markedOf(const Finding& f) const {
    Marked m;
    m.places = f.at_sheet;
    m.entities.insert(f.entities.begin(), f.entities.end());
    for (const std::string& h : f.handles)
        for (const Dimension& d : model().drawing->dimensions)
            if (d.handle == h) m.dimensions.insert(d.id);
    return m;
}

Marked Session::markedOf(SolidPart part) const {
    Marked m;
    m.parts = {part};
    m.entities = linesOf(model(), part);
    m.dimensions = numbersOf(model(), part);
    return m;
}

std::set<SolidPart> Session::partsOf(const Marked& m) const {
    if (!m.parts.empty()) return m.parts;
    std::set<SolidPart> r;
    for (int face : facesOfLines(model(), m.entities)) r.insert(faceNumber(face));
    return r;
}

QString sentence(const std::string& s) {
    QString q = QString::fromStdString(s);
    if (!q.isEmpty()) q[0] = q[0].toUpper();
    return q;
}

} // namespace prism::app
