#include "core/project/document.h"

#include "core/base/text_encoding.h"
#include "core/building/kernel.h"
#include "core/project/carry_over.h"
#include "core/project/project_file.h"
#include "core/reading/read.h"

#include <filesystem>
#include <fmt/format.h>

namespace prism {
namespace {

/// The last part of a path. Names of files need not be in UTF-8; what goes into a project is.
std::string fileName(const std::string& path) {
    const std::string name = std::filesystem::path(path).filename().string();
    return isUtf8(name) ? name : utf8From(name, "CP1252");
}

/// Models are large: those farther back than a few steps are computed again when somebody goes back there.
void forgetFarModels(std::vector<Past>& history) {
    if (history.size() > Document::kKeptModels)
        history[history.size() - Document::kKeptModels - 1].model.reset();
}

} // namespace

Result<Document> Document::open(const std::string& path, const ReadingChoices& reading, Progress& progress,
                                Stage upTo) {
    auto bytes = fileBytes(path);
    if (!bytes) return tl::make_unexpected(bytes.error());
    Document d;
    d.source_name_ = fileName(path);
    if (isProject(*bytes)) {
        auto p = guarded<ProjectContent>([&] { return readProject(*bytes); });
        if (!p)
            return tl::make_unexpected(Error{p.error().code, fmt::format("{}: {}", path, p.error().message)});
        d.source_ = std::make_shared<const std::string>(std::move(p->source));
        d.source_name_ = p->source_name;
        d.choices_ = d.saved_ = std::move(p->choices);
        d.project_path_ = path;
        d.project_stamp_ = stampOf(*bytes);
    } else {
        d.source_ = std::make_shared<const std::string>(std::move(*bytes));
        d.choices_.reading = d.saved_.reading = reading;
    }
    d.saved_source_ = d.source_;
    auto m = computeModel(*d.source_, d.choices_, nullptr, {}, progress, upTo);
    if (!m) return tl::make_unexpected(Error{m.error().code, fmt::format("{}: {}", path, m.error().message)});
    d.model_ = std::move(*m);
    return d;
}

Past Document::present(std::string label) {
    return {std::move(label), source_, source_name_, std::move(choices_), std::move(model_)};
}

void Document::commit(std::string label, Choices next, std::shared_ptr<const Model> model) {
    undo_.push_back(present(std::move(label)));
    forgetFarModels(undo_);
    redo_.clear();
    choices_ = std::move(next);
    model_ = std::move(model);
}

Result<void> Document::apply(std::string label, Choices next, Progress& progress, Stage upTo,
                             const ReadyBuild& ready) {
    auto m = computeModel(*source_, next, model_, choices_, progress, upTo, ready);
    if (!m) return tl::make_unexpected(m.error());
    commit(std::move(label), std::move(next), std::move(*m));
    return {};
}

Result<Reread> Document::reread(const std::string& path, Progress& progress) {
    auto bytes = fileBytes(path);
    if (!bytes) return tl::make_unexpected(bytes.error());
    if (isProject(*bytes))
        return failure(ErrorCode::usage,
                       fmt::format("{}: is a project; a drawing is needed to re-read", path));
    auto drawing = guarded<Drawing>([&] { return readDrawing(*bytes, choices_.reading, progress); });
    if (!drawing)
        return tl::make_unexpected(
            Error{drawing.error().code, fmt::format("{}: {}", path, drawing.error().message)});
    Reread r;
    r.difference = compareSheets(*model_->source, *drawing);
    // First without what hangs on names, to learn the new names; then with everything carried over.
    Choices bare = choices_;
    bare.marks = carriedMarks(choices_.marks, *model_->source, *drawing, r.difference, r.misfits);
    bare.views.roles.clear(), bare.views.moved.clear();
    bare.views.ties.clear(), bare.views.governing.clear(), bare.views.zero.clear();
    bare.views.names.clear(), bare.views.used.clear(), bare.views.hung.clear();
    bare.views.fold_gap.clear(), bare.views.locked.clear();
    bare.numbers.clear(), bare.levels.clear(), bare.steps.clear();
    auto read = computeModel(*bytes, bare, nullptr, {}, progress);
    if (!read) return tl::make_unexpected(read.error());
    Choices carried = carriedOver(choices_, *model_, **read, r.difference, bare.marks, r.misfits);
    auto m = computeModel(*bytes, carried, *read, bare, progress);
    if (!m && m.error().code != ErrorCode::cancelled) { // numbers that no longer hold together
        r.misfits.push_back(m.error().message);
        carried.numbers.clear();
        m = computeModel(*bytes, carried, *read, bare, progress);
    }
    if (!m) return tl::make_unexpected(m.error());
    for (const StepReport& s : (*m)->build.steps)
        if (!s.ok) r.misfits.push_back(fmt::format("Step \"{}\": {}", s.name, s.message));
    commit("Re-read the drawing", std::move(carried), std::move(*m));
    source_ = std::make_shared<const std::string>(std::move(*bytes));
    source_name_ = fileName(path);
    return r;
}

Result<std::shared_ptr<const Model>> modelOf(const Past& past, Progress& progress) {
    if (past.model) return past.model;
    return computeModel(*past.source, past.choices, nullptr, {}, progress);
}

void Document::step(std::vector<Past>& from, std::vector<Past>& to, std::shared_ptr<const Model> model) {
    if (from.empty()) return;
    Past p = std::move(from.back());
    from.pop_back();
    to.push_back(present(p.label));
    forgetFarModels(to);
    source_ = std::move(p.source), source_name_ = std::move(p.source_name);
    choices_ = std::move(p.choices), model_ = std::move(model);
}

Result<void> Document::undo(Progress& progress) {
    if (undo_.empty()) return {};
    auto m = modelOf(undo_.back(), progress);
    if (!m) return tl::make_unexpected(m.error());
    undoTo(std::move(*m));
    return {};
}

Result<void> Document::redo(Progress& progress) {
    if (redo_.empty()) return {};
    auto m = modelOf(redo_.back(), progress);
    if (!m) return tl::make_unexpected(m.error());
    redoTo(std::move(*m));
    return {};
}

Result<void> Document::save(const std::string& path, bool anyway) {
    auto bytes = guarded<std::string>([&] { return projectBytes({*source_, source_name_, choices_}); });
    if (!bytes) return tl::make_unexpected(bytes.error());
    const auto there = fileBytes(path);
    if (there && !there->empty() && !isProject(*there))
        return failure(ErrorCode::impossible,
                       fmt::format("{}: is there and is no project; nothing was written over it", path));
    const bool own = !project_path_.empty() && sameFile(path, project_path_);
    std::optional<std::optional<FileStamp>> expected;
    if (own && !anyway && there) expected = project_stamp_;
    if (auto r = writeAtomically(path, *bytes, expected); !r) return r;
    project_path_ = path;
    project_stamp_ = stampOf(*bytes);
    saved_ = choices_, saved_source_ = source_;
    return {};
}

} // namespace prism
