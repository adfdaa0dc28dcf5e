#pragma once
#include "core/building/mesh.h"
#include "core/checking/open_sizes.h"
#include "core/diagnosing/diagnose.h"
#include "core/figure/projectors.h"
#include "core/project/carry_over.h"
#include "core/project/part_links.h"
#include "core/project/propose_for.h"
#include "core/project/scan_work.h"
#include "core/project/solved_sheet.h"
#include "core/project/suggestion.h"
#include "core/reporting/report.h"

#include <QObject>
#include <QString>
#include <QTimer>

#include <deque>
#include <functional>
#include <set>
#include <thread>

// The one gateway between the window and the core. Widgets see value snapshots and signals, never the core's
// calls.
namespace prism::app {

/// What is pointed at or chosen; shared by both canvases and the tables.
struct Marked {
    std::set<int> entities;    ///< drawing entities
    std::set<int> dimensions;  ///< drawing dimensions
    std::vector<Vec2> places;  ///< sheet coordinates of evidence
    std::set<SolidPart> parts; ///< of the solid, besides those that the lines lead to
    bool empty() const { return entities.empty() && dimensions.empty() && places.empty() && parts.empty(); }
    friend bool operator==(const Marked&, const Marked&) = default;
};

/// A model ready to be shown.
struct Shown {
    std::shared_ptr<const Model> model;
    SolvedSheet sheet;
    Mesh solid;
    LastForms last_forms; ///< of steps that cannot be made any more
    Mesh lost;            ///< these, to be shown faintly
};

/// How finely solids are shown: the farthest that a chord lies from its curve, mm.
inline double fineness(const Model& m) {
    return std::max(0.02, m.figure.size * 1e-3);
}

class Session : public QObject {
    Q_OBJECT
  public:
    using Edit = std::function<void(Choices&)>;
    /// An edit of something that may be gone by the time its turn comes: false when there was nothing to
    /// change.
    using Try = std::function<bool(Choices&)>;

    explicit Session(QObject* parent = nullptr);
    ~Session() override;

    bool hasSheet() const { return shown_ != nullptr; }
    const Shown& shown() const { return *shown_; }
    const Model& model() const { return *shown_->model; }
    const Choices& choices() const { return document_->choices(); }
    QString sourceName() const;
    QString projectPath() const;
    bool modified() const { return document_ && document_->modified(); }
    bool canUndo() const { return document_ && document_->canUndo(); }
    bool canRedo() const { return document_ && document_->canRedo(); }
    QString undoLabel() const { return document_ ? QString::fromStdString(document_->undoLabel()) : ""; }
    QString redoLabel() const { return document_ ? QString::fromStdString(document_->redoLabel()) : ""; }
    /// Whether there is work at hand that was asked for, or waiting for stopped work to end.
    bool busy() const;
    /// What is wrong with the sheet as it is; null until that is known. It is looked for when the hand rests,
    /// and gives way to everything that is asked for.
    const Diagnosis* diagnosis() const { return diagnosis_.get(); }
    /// What the dimensions leave open, likewise.
    const Completeness* sizes() const { return sizes_.get(); }
    /// How dimensions that are proposed count.
    void setLaying(const LayingChoice& how);

    void open(const QString& path);
    /// Queues a change of the choices; what it leads to is computed aside, then shown. On failure nothing has
    /// changed.
    void change(const QString& label, Edit edit);
    /// The same for an edit that may find nothing left to change; then nothing happens.
    void changeIfThere(const QString& label, Try edit);
    /// Makes a repair, as a change.
    void repair(const Remedy& r);
    /// Leaves a finding as it is, with a note; or no longer.
    void accept(const Finding& f, const QString& note);
    void acceptNoLonger(const Finding& f);
    /// Reads a revised drawing under the same choices; rereadDone() tells what it brought.
    void reread(const QString& path);
    void undo();
    void redo();
    /// Saving is quick and done at once. False: failed() was emitted.
    bool save(const QString& path, bool anyway = false);
    /// Writes the solid; exported() or failed() tells of it.
    void exportStep(const QString& path);
    /// Writes what was found, decided and proved as a page, .html or .pdf; exported() or failed() tells of
    /// it.
    void writeReport(const QString& path);
    /// Looks for steps that make the solid the sheet shows. One that shows every line is taken as a change;
    /// any other is only offered: proposed().
    void propose();
    /// Adds the steps that the build list lacks; what it holds stays. Tells completedSteps().
    void completeSteps();
    /// Takes a proposal as a change.
    void take(std::shared_ptr<const Proposal> p);
    /// Takes one of the other solids that fit every line as well, as a change.
    void takeOther(const std::shared_ptr<const Proposal>& p, size_t alternative);
    /// Shows in the box how another solid that fits the sheet differs from the one proposed.
    void showOther(const std::shared_ptr<const Proposal>& p, size_t alternative);
    /// Looks for the next step on the way to the solid that the views show, or for one that makes a line of
    /// the drawing; suggested() or failed() tells of it.
    void suggest(std::optional<int> line = {});
    /// Looks aside for what the areas of a step most likely do: likely() tells, if there is anything to tell.
    /// The last request wins; none drops it.
    void lookAtAreas(std::optional<Step> begun);
    /// Computes what a step in the place `at` of the list would change, for a preview; the last request wins.
    void preview(const Step& step, size_t at);
    void clearPreview();
    /// Looks for lines in the scans of the sheet; traced() tells what was seen.
    void traceScans();
    /// Stops the work at once and drops what waits behind it. What a library is in the middle of is left to
    /// end by itself; nothing new begins before that.
    void cancel();

    const Marked& pointed() const { return pointed_; }
    const Marked& chosen() const { return chosen_; }
    void setPointed(Marked m);
    void setChosen(Marked m);
    /// Where what is pointed at is found again in the other views; empty for more than a few lines.
    const std::vector<Projector>& projectors() const;

    /// Lines and dimensions that carry one ledger entry.
    Marked markedOf(const LedgerEntry& e) const;
    Marked markedOf(const Finding& f) const;
    /// A part of the solid, with the lines and numbers that it comes from.
    Marked markedOf(SolidPart part) const;
    /// The parts of the solid that are lit by what is marked: its own, or the faces that its lines lead to.
    std::set<SolidPart> partsOf(const Marked& m) const;

  signals:
    void opened();
    void changed();
    /// diagnosis() is known now.
    void diagnosed();
    /// sizes() are.
    void sized();
    void failed(const QString& what, const QString& why);
    void busyChanged(bool busy, const QString& what, double fraction);
    void pointedChanged();
    void chosenChanged();
    /// What a step would add and take away; or why it cannot be made.
    void previewReady(const prism::Mesh& added, const prism::Mesh& removed, const QString& message);
    void suggested(const prism::Suggestion& s);
    /// So many steps were added to the build list; and why no more, where the goal is not reached.
    void completedSteps(int added, const QString& left_undone);
    void likely(const prism::Suggestion& s);
    void saved(const QString& path);
    void exported(const QString& path);
    void traced(const std::vector<prism::TracedPicture>& seen);
    void rereadDone(const prism::Reread& r);
    /// A proposal that does not explain the whole sheet, and waits for a person's word.
    void proposed(const std::shared_ptr<const prism::Proposal>& p);
    /// A proposal was taken that is one of several solids that show every line.
    void oneOfSeveral(const std::shared_ptr<const prism::Proposal>& p);
    /// Somebody else has changed the project file; save() with `anyway` writes over it.
    void saveConflict(const QString& path, const QString& why);
    /// Work was stopped; what was kept, in words.
    void stopped(const QString& what);

  private:
    struct Task;
    struct Growing;
    /// Shows the nearest solid that the search at work has found.
    void showGrowing();
    /// The search has ended; of one that was stopped the nearest solid is offered.
    void endGrowing(bool stopped);
    std::shared_ptr<Growing> growing_; ///< while a proposal is looked for
    using Outcome = std::function<void()>;
    void start(const QString& what, std::function<Outcome(Progress&)> work);
    void queueChange(const QString& label, Try edit, ReadyBuild ready);
    void go(bool back);
    void complete();
    /// Does next what is looked for while the hand rests.
    void lookAside();
    void startAside(const QString& what, std::function<Outcome(Progress&)> work);
    void restIfIdle();
    void startPreview();
    void startLikely();
    /// What was found aside is about another model.
    void forgetFindings() { diagnosis_.reset(), sizes_.reset(); }
    /// Stops work that nobody waits for.
    void giveWay();
    std::shared_ptr<const Shown> shownFor(const std::shared_ptr<const Model>& m) const;
    /// The solid that the views show under these choices, once it is known.
    std::shared_ptr<const Proposal> goal() const;
    void keepGoal(const Choices& c, std::shared_ptr<const Proposal> goal);
    void startNext();
    void finishTask();
    void show(std::shared_ptr<const Shown> s);

    std::unique_ptr<Document> document_;
    std::shared_ptr<const Shown> shown_;
    std::deque<std::shared_ptr<const Shown>> lately_; ///< of the last few models, for going back and forth
    std::unique_ptr<Task> task_, ending_;             ///< at work; stopped, but not at its end yet
    std::deque<std::function<void()>> waiting_;
    std::optional<std::pair<Step, size_t>> wanted_preview_;
    std::optional<Step> wanted_likely_;
    std::shared_ptr<const Proposal> goal_;
    Choices goal_of_;    ///< the choices that it hangs on
    QTimer poll_, rest_; ///< rest_: how long the hand has to rest before causes are looked for
    std::shared_ptr<const Diagnosis> diagnosis_;
    std::shared_ptr<KnownSolids> solids_ =
        std::make_shared<KnownSolids>(); ///< of this source, for its checks
    std::shared_ptr<const Completeness> sizes_;
    LayingChoice laying_;
    Marked pointed_, chosen_;
    mutable std::optional<std::vector<Projector>> projectors_; ///< of what is pointed at, once asked for
};

/// A core message as it appears in the window: the first letter large.
QString sentence(const std::string& s);

} // namespace prism::app
