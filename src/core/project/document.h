#pragma once
#include "core/base/files.h"
#include "core/project/model.h"

// The document: a source drawing, the person's recorded choices, and their history.
namespace prism {

struct Reread;

/// One state of the document that was left behind.
struct Past {
    std::string label; ///< of the step between this state and the next
    std::shared_ptr<const std::string> source;
    std::string source_name;
    Choices choices;
    std::shared_ptr<const Model> model; ///< null when it would have to be computed again
};

/// Source, choices, history. The window and the batch door both hold one.
class Document {
  public:
    /// A drawing, read as chosen, or a project file, which holds its own choices; computed as far as asked.
    static Result<Document> open(const std::string& path, const ReadingChoices& reading, Progress& progress,
                                 Stage up_to = Stage::solid);
    static Result<Document> open(const std::string& path, Progress& progress) {
        return open(path, {}, progress);
    }

    const Model& model() const { return *model_; }
    const std::shared_ptr<const Model>& sharedModel() const { return model_; }
    const Choices& choices() const { return choices_; }
    const std::shared_ptr<const std::string>& sharedSource() const { return source_; }
    const std::string& source() const { return *source_; }
    const std::string& sourceName() const { return source_name_; }
    const std::string& projectPath() const { return project_path_; }
    bool modified() const { return choices_ != saved_ || source_ != saved_source_; }

    /// Takes a model that holds more stages for the same choices.
    void complete(std::shared_ptr<const Model> model) { model_ = std::move(model); }
    /// Takes new choices with a model computed for them, and remembers the old ones under the label.
    void commit(std::string label, Choices next, std::shared_ptr<const Model> model);
    /// Computes and commits; on failure nothing has changed.
    Result<void> apply(std::string label, Choices next, Progress& progress, Stage up_to = Stage::solid,
                       const ReadyBuild& ready = {});

    /// Reads a revised file under the same choices and carries the work over where it still fits; one step of
    /// the history. On failure nothing has changed.
    Result<Reread> reread(const std::string& path, Progress& progress);

    /// What undo and redo would lead to; null for nothing. The model may be missing: only those of the last
    /// few steps are kept.
    const Past* beforeThis() const { return undo_.empty() ? nullptr : &undo_.back(); }
    const Past* afterThis() const { return redo_.empty() ? nullptr : &redo_.back(); }
    bool canUndo() const { return !undo_.empty(); }
    bool canRedo() const { return !redo_.empty(); }
    std::string undoLabel() const { return undo_.empty() ? "" : undo_.back().label; }
    std::string redoLabel() const { return redo_.empty() ? "" : redo_.back().label; }
    /// Goes there, with the model for that state.
    void undoTo(std::shared_ptr<const Model> model) { step(undo_, redo_, std::move(model)); }
    void redoTo(std::shared_ptr<const Model> model) { step(redo_, undo_, std::move(model)); }
    /// The same, computing the model again where it is missing. On failure nothing has changed.
    Result<void> undo(Progress& progress);
    Result<void> redo(Progress& progress);

    /// Project file: zip with the source and the choices as JSON. Atomic. A file that is no project is not
    /// written over, and neither, unless `anyway`, is one that somebody else has changed since it was opened
    /// or saved here (conflict).
    Result<void> save(const std::string& path, bool anyway = false);

    /// How many models of the history are kept, on each side.
    static constexpr size_t kKeptModels = 6;

  private:
    Past present(std::string label);
    void step(std::vector<Past>& from, std::vector<Past>& to, std::shared_ptr<const Model> model);

    std::shared_ptr<const std::string> source_, saved_source_;
    std::string source_name_, project_path_;
    std::optional<FileStamp> project_stamp_; ///< of the project file as last read or written here
    Choices choices_, saved_;
    std::shared_ptr<const Model> model_;
    std::vector<Past> undo_, redo_;
};

/// The model of a state of the history, computed when it is missing.
Result<std::shared_ptr<const Model>> modelOf(const Past& past, Progress& progress);

} // namespace prism
