#pragma once
#include "core/base/progress.h"
#include "core/building/solid.h"
#include "core/checking/finding.h"
#include "core/ledger/ledger.h"
#include "core/proofing/proof.h"
#include "core/reading/reading_choices.h"

#include <memory>

// The document: a source drawing and the person's recorded choices. Everything else is computed from these
// two.
namespace prism {

struct Choices {
    ReadingChoices reading;
    MarkUp marks;
    LayerChoices layers;
    RepairChoices repairs;
    ViewChoices views;
    NumberChoices numbers;
    std::vector<Step> steps;
    friend bool operator==(const Choices&, const Choices&) = default;
};

/// All that the stages leave behind. A value: never changed once computed.
struct Model {
    std::shared_ptr<const Drawing> source;  ///< as read
    std::shared_ptr<const Drawing> drawing; ///< as repaired: what all later stages work on
    CleanSheet sheet;
    ViewSet views;
    Figure drawn; ///< the figure as drawn
    Ledger drawn_ledger;
    Figure figure; ///< the figure as driven
    Ledger ledger;
    std::vector<Finding> findings;
    std::vector<ClosedArea> areas; ///< of the driven figure
    BuildResult build;
    std::optional<Proof> proof;
    std::string trouble; ///< why numbers were refused or the proof failed; empty when all is well
};

/// Computes what the choices ask for. Reuses the stages of `before` that do not depend on what changed (it
/// may be null). Numbers that clash are an error (impossible), and so is cancelling; the caller then keeps
/// what it had.
Result<std::shared_ptr<const Model>> computeModel(const std::string& source, const Choices& choices,
                                                  const std::shared_ptr<const Model>& before,
                                                  const Choices& choicesBefore, Progress& progress);

struct Reread;

/// Source, choices, history. The window and the batch door both hold one.
class Document {
  public:
    /// A drawing, read as chosen, or a project file, which holds its own choices.
    static Result<Document> open(const std::string& path, const ReadingChoices& reading, Progress& progress);
    static Result<Document> open(const std::string& path, Progress& progress) {
        return open(path, {}, progress);
    }

    const Model& model() const { return *model_; }
    const std::shared_ptr<const Model>& sharedModel() const { return model_; }
    const Choices& choices() const { return choices_; }
    const std::string& source() const { return *source_; }
    const std::string& sourceName() const { return source_name_; }
    const std::string& projectPath() const { return project_path_; }
    bool modified() const { return choices_ != saved_ || source_ != saved_source_; }

    /// Takes new choices with a model computed for them, and remembers the old ones under the label.
    void commit(std::string label, Choices next, std::shared_ptr<const Model> model);
    /// Computes and commits; on failure nothing has changed.
    Result<void> apply(std::string label, Choices next, Progress& progress);

    /// Reads a revised file under the same choices and carries the work over where it still fits; one step of
    /// the history. On failure nothing has changed.
    Result<Reread> reread(const std::string& path, Progress& progress);

    bool canUndo() const { return !undo_.empty(); }
    bool canRedo() const { return !redo_.empty(); }
    std::string undoLabel() const { return undo_.empty() ? "" : undo_.back().label; }
    std::string redoLabel() const { return redo_.empty() ? "" : redo_.back().label; }
    void undo();
    void redo();

    /// Project file: zip with the source and the choices as JSON. Atomic.
    Result<void> save(const std::string& path);

  private:
    struct Past {
        std::string label;
        std::shared_ptr<const std::string> source;
        std::string source_name;
        Choices choices;
        std::shared_ptr<const Model> model;
    };
    Past present(std::string label);
    void take(Past&& p);

    std::shared_ptr<const std::string> source_, saved_source_;
    std::string source_name_, project_path_;
    Choices choices_, saved_;
    std::shared_ptr<const Model> model_;
    std::vector<Past> undo_, redo_;
};

} // namespace prism
