#include "core/project/document.h"

#include "core/delivering/step_file.h"
#include "core/project/carry_over.h"
#include "core/project/project_file.h"
#include "core/project/proof_findings.h"
#include "core/reading/picture_read.h"
#include "core/reading/read.h"

#include <filesystem>
#include <fmt/format.h>

namespace prism {
namespace {

/// Whether reading and cleaning give the same for both.
bool sameSheet(const Choices& a, const Choices& b) {
    return a.reading == b.reading && a.marks == b.marks && a.layers == b.layers && a.repairs == b.repairs;
}

/// Everything up to the figure and ledger as drawn.
Result<void> readStages(const std::string& source, const Choices& c, Model& m, const Model* before,
                        const Choices& was, Progress& progress) {
    if (before && c.reading == was.reading)
        m.source = before->source;
    else if (before && c.reading.sameBut(was.reading))
        m.source = std::make_shared<const Drawing>(placedAnew(*before->source, c.reading.picture));
    else {
        auto d = readDrawing(source, c.reading, progress);
        if (!d) return tl::make_unexpected(d.error());
        m.source = std::make_shared<const Drawing>(std::move(*d));
    }
    if (before && sameSheet(c, was) && c.views == was.views) {
        m.drawing = before->drawing, m.sheet = before->sheet, m.views = before->views,
        m.drawn = before->drawn, m.drawn_ledger = before->drawn_ledger;
        m.findings = before->findings;
        std::erase_if(m.findings, [](const Finding& f) { return f.from_proof; });
        return {};
    }
    progress.report(0.3, "Repairing the sheet");
    m.sheet = clean(markedUp(m.source, c.marks), c.layers, c.repairs);
    m.drawing = m.sheet.drawing;
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "cancelled");
    m.views = findViews(*m.drawing, m.sheet, c.views, progress);
    if (m.views.completed) m.sheet = *m.views.completed, m.drawing = m.sheet.drawing;
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "cancelled");
    m.drawn = buildFigure(*m.drawing, m.sheet, m.views);
    m.drawn_ledger = makeLedger(*m.drawing, m.views, m.drawn);
    m.findings = check({*m.drawing, m.sheet, m.views, m.drawn, m.drawn_ledger}, progress);
    return {};
}

void tellOfProof(Model& m) {
    std::vector<Finding> more = findingsOfProof(m);
    m.findings.insert(m.findings.end(), std::make_move_iterator(more.begin()),
                      std::make_move_iterator(more.end()));
}

Result<void> driveStage(const Choices& c, Model& m) {
    m.figure = m.drawn;
    m.ledger = m.drawn_ledger;
    NumberChoices numbers = c.numbers;
    std::erase_if(numbers, [](const auto& n) { return n.second == NumberChoice{}; });
    const DriveOutcome o = drive(m.figure, m.ledger, numbers);
    if (!o.ok() && !numbers.empty()) return failure(ErrorCode::impossible, o.message);
    if (!o.ok()) m.trouble = o.message; // the sheet as drawn contradicts itself; it is shown as drawn
    m.areas = closedAreas(m.figure, m.figure.now);
    return {};
}

} // namespace

Result<std::shared_ptr<const Model>> computeModel(const std::string& source, const Choices& c,
                                                  const std::shared_ptr<const Model>& before,
                                                  const Choices& was, Progress& progress) {
    auto m = std::make_shared<Model>();
    if (auto r = readStages(source, c, *m, before.get(), was, progress); !r)
        return tl::make_unexpected(r.error());
    const bool sameFigure = before && sameSheet(c, was) && c.views == was.views && c.numbers == was.numbers;
    if (sameFigure) {
        m->figure = before->figure, m->ledger = before->ledger, m->areas = before->areas,
        m->trouble = before->trouble;
    } else if (auto r = driveStage(c, *m); !r)
        return tl::make_unexpected(r.error());
    if (sameFigure && c.steps == was.steps) {
        m->build = before->build, m->proof = before->proof;
        tellOfProof(*m);
        return std::shared_ptr<const Model>(m);
    }
    m->build = build(m->figure, c.steps, progress);
    if (!m->build.shape.IsNull()) {
        auto p = prove(m->figure, m->build.shape, progress);
        if (p)
            m->proof = std::move(*p);
        else
            m->trouble = p.error().message;
    }
    tellOfProof(*m);
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "cancelled; nothing was changed");
    return std::shared_ptr<const Model>(m);
}

Result<Document> Document::open(const std::string& path, const ReadingChoices& reading, Progress& progress) {
    auto bytes = fileBytes(path);
    if (!bytes) return tl::make_unexpected(bytes.error());
    Document d;
    const std::string name = std::filesystem::path(path).filename().string();
    d.source_name_ = name;
    if (isProject(*bytes)) {
        auto p = readProject(*bytes);
        if (!p)
            return tl::make_unexpected(Error{p.error().code, fmt::format("{}: {}", path, p.error().message)});
        d.source_ = std::make_shared<const std::string>(std::move(p->source));
        d.source_name_ = p->source_name;
        d.choices_ = d.saved_ = std::move(p->choices);
        d.project_path_ = path;
    } else {
        d.source_ = std::make_shared<const std::string>(std::move(*bytes));
        d.choices_.reading = d.saved_.reading = reading;
    }
    d.saved_source_ = d.source_;
    auto m = computeModel(*d.source_, d.choices_, nullptr, {}, progress);
    if (!m) return tl::make_unexpected(Error{m.error().code, fmt::format("{}: {}", path, m.error().message)});
    d.model_ = std::move(*m);
    return d;
}

Document::Past Document::present(std::string label) {
    return {std::move(label), source_, source_name_, std::move(choices_), std::move(model_)};
}

void Document::take(Past&& p) {
    source_ = std::move(p.source), source_name_ = std::move(p.source_name);
    choices_ = std::move(p.choices), model_ = std::move(p.model);
}

void Document::commit(std::string label, Choices next, std::shared_ptr<const Model> model) {
    undo_.push_back(present(std::move(label)));
    redo_.clear();
    choices_ = std::move(next);
    model_ = std::move(model);
}

Result<void> Document::apply(std::string label, Choices next, Progress& progress) {
    auto m = computeModel(*source_, next, model_, choices_, progress);
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
    auto drawing = readDrawing(*bytes, choices_.reading, progress);
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
    bare.numbers.clear(), bare.steps.clear();
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
    source_name_ = std::filesystem::path(path).filename().string();
    return r;
}

void Document::undo() {
    if (undo_.empty()) return;
    Past p = std::move(undo_.back());
    undo_.pop_back();
    redo_.push_back(present(p.label));
    take(std::move(p));
}

void Document::redo() {
    if (redo_.empty()) return;
    Past p = std::move(redo_.back());
    redo_.pop_back();
    undo_.push_back(present(p.label));
    take(std::move(p));
}

Result<void> Document::save(const std::string& path) {
    auto bytes = projectBytes({*source_, source_name_, choices_});
    if (!bytes) return tl::make_unexpected(bytes.error());
    if (auto r = writeAtomically(path, *bytes); !r) return r;
    project_path_ = path;
    saved_ = choices_, saved_source_ = source_;
    return {};
}

} // namespace prism
