#include "core/project/model.h"

#include "core/building/kernel.h"
#include "core/project/angle_by_solid.h"
#include "core/project/facts_kept.h"
#include "core/project/proof_findings.h"
#include "core/project/same_figure.h"
#include "core/reading/picture_read.h"
#include "core/reading/read.h"

namespace prism {
namespace {

tl::unexpected<Error> stopped() {
    return failure(ErrorCode::cancelled, "stopped; nothing was changed");
}

/// What of an earlier model still holds under the new choices.
struct Kept {
    const Model* model = nullptr;
    bool source = false, views = false, figure = false, solid = false;
    Kept(const Model* before, const Choices& c, const Choices& was) : model(before) {
        if (!before) return;
        source = c.reading == was.reading;
        views = sameViews(c, was);
        figure = sameFigure(c, was);
        solid = figure && c.steps == was.steps;
    }
    bool has(bool same, Stage s) const { return same && model->has(s); }
};

Result<void> readSheet(const std::string& source, const Choices& c, const Choices& was, const Kept& kept,
                       Model& m, Progress& progress) {
    if (kept.source)
        m.source = kept.model->source;
    else if (kept.model && c.reading.sameBut(was.reading))
        m.source = std::make_shared<const Drawing>(placedAnew(*kept.model->source, c.reading.picture));
    else {
        auto d = readDrawing(source, c.reading, progress);
        if (!d) return tl::make_unexpected(d.error());
        m.source = std::make_shared<const Drawing>(std::move(*d));
    }
    return {};
}

Result<void> findSheetViews(const Choices& c, const Kept& kept, Model& m, Progress& progress) {
    if (kept.has(kept.views, Stage::views)) {
        m.drawing = kept.model->drawing, m.sheet = kept.model->sheet, m.views = kept.model->views;
        return {};
    }
    progress.report(0.3, "Repairing the sheet");
    m.sheet = clean(markedUp(m.source, c.marks), c.layers, c.repairs, progress);
    m.drawing = m.sheet.drawing;
    if (progress.cancelled()) return stopped();
    m.views = findViews(*m.drawing, m.sheet, c.views, progress);
    if (!progress.cancelled()) decideAngleBySolid(*m.drawing, m.sheet, c.views, m.views, progress);
    if (m.views.completed) m.sheet = *m.views.completed, m.drawing = m.sheet.drawing;
    return progress.cancelled() ? stopped() : Result<void>{};
}

Result<void> makeFigure(const Choices& c, const Kept& kept, Model& m, Progress& progress) {
    if (kept.has(kept.views, Stage::figure))
        m.drawn = kept.model->drawn, m.drawn_ledger = kept.model->drawn_ledger;
    else {
        progress.report(0.4, "Putting the views together");
        m.drawn = buildFigure(*m.drawing, m.sheet, m.views, progress);
        if (progress.cancelled()) return stopped();
        m.drawn_ledger = makeLedger(*m.drawing, m.views, m.drawn);
    }
    if (kept.has(kept.figure, Stage::figure)) {
        m.figure = kept.model->figure, m.ledger = kept.model->ledger;
        return {};
    }
    m.figure = m.drawn, m.ledger = m.drawn_ledger;
    addLevels(m.ledger, m.drawn, c.levels);
    NumberChoices numbers = c.numbers;
    std::erase_if(numbers, [](const auto& n) { return n.second == NumberChoice{}; });
    const DriveOutcome o = drive(m.figure, m.ledger, numbers);
    if (!o.ok()) return failure(ErrorCode::impossible, o.message);
    return progress.cancelled() ? stopped() : Result<void>{};
}

Result<void> checkSheet(const Kept& kept, Model& m, Progress& progress) {
    if (kept.has(kept.views, Stage::checks))
        m.checked = kept.model->checked;
    else
        m.checked = check({*m.drawing, m.sheet, m.views, m.drawn, m.drawn_ledger}, progress);
    m.findings = m.checked;
    // A number set to what its text says is what the sheet says.
    std::erase_if(m.findings, [&](const Finding& f) {
        return std::ranges::any_of(f.remedies, [&](const Remedy& r) {
            return !r.change.numbers.empty() && std::ranges::all_of(r.change.numbers, [&](const auto& n) {
                const LedgerEntry* e = m.ledger.named(n.first);
                return e && n.second.value && std::abs(e->value - *n.second.value) <= m.figure.tolerance();
            });
        });
    });
    return progress.cancelled() ? stopped() : Result<void>{};
}

Result<void> makeSolid(const Choices& c, const Kept& kept, const ReadyBuild& ready, Model& m,
                       Progress& progress) {
    const bool sameSolid = kept.has(kept.solid, Stage::solid);
    if (kept.has(kept.figure, Stage::solid))
        m.areas = kept.model->areas;
    else {
        progress.report(0.5, "Finding the closed areas");
        m.areas = AreaSets(m.figure, progress);
    }
    if (progress.cancelled()) return stopped();
    if (sameSolid)
        m.build = kept.model->build, m.proof = kept.model->proof, m.trouble = kept.model->trouble;
    else {
        const bool built = kept.figure && ready.build.ok() && ready.steps == c.steps;
        m.build = built
                      ? ready.build
                      : build(m.figure, m.areas, withLevels(c.steps, c.levels), progress, numbersIn(m.ledger),
                              kept.figure && kept.model->has(Stage::solid) ? &kept.model->build : nullptr);
        if (!m.build.shape.IsNull() && !progress.cancelled()) {
            auto p = built && ready.proof ? ofTheSheet(*ready.proof, m.figure, m.views)
                                          : prove(m.figure, m.views, m.build.shape, progress);
            if (p)
                m.proof = std::move(*p);
            else
                m.trouble = p.error().message;
        }
        if (progress.cancelled()) return stopped();
    }
    for (Finding& f : findingsOfProof(m, progress)) m.findings.push_back(std::move(f));
    if (progress.cancelled()) return stopped();
    if (auto f = factNotKept(m, c)) m.findings.push_back(std::move(*f));
    return {};
}

Result<std::shared_ptr<const Model>> computed(const std::string& source, const Choices& c, const Kept& kept,
                                              const Choices& was, Progress& progress, Stage upTo,
                                              const ReadyBuild& ready) {
    auto m = std::make_shared<Model>();
    m->reached = upTo;
    Result<void> r = readSheet(source, c, was, kept, *m, progress);
    if (r) r = findSheetViews(c, kept, *m, progress);
    if (r && upTo >= Stage::figure) r = makeFigure(c, kept, *m, progress);
    if (r && upTo >= Stage::checks) r = checkSheet(kept, *m, progress);
    if (r && upTo >= Stage::solid) r = makeSolid(c, kept, ready, *m, progress);
    if (!r) return tl::make_unexpected(r.error());
    return std::shared_ptr<const Model>(m);
}

} // namespace

Choices changed(Choices c, const Change& by) {
    for (MarkedLine l : by.lines) {
        if (l.kind == MarkedLine::Kind::add) l.target = freshName(c.marks);
        c.marks.lines.push_back(std::move(l));
    }
    c.marks.corrected.insert(c.marks.corrected.end(), by.corrected.begin(), by.corrected.end());
    c.marks.dimensions.insert(c.marks.dimensions.end(), by.dimensions.begin(), by.dimensions.end());
    for (const auto& [name, n] : by.numbers) c.numbers[name] = n;
    if (by.convention) c.views.convention = by.convention;
    return c;
}

NumberSource numbersIn(const Ledger& ledger) {
    return [&ledger](const std::string& formula) { return valueOf(ledger, formula); };
}

bool sameViews(const Choices& a, const Choices& b) {
    return a.reading == b.reading && a.marks == b.marks && a.layers == b.layers && a.repairs == b.repairs &&
           a.views == b.views;
}

bool sameFigure(const Choices& a, const Choices& b) {
    return sameViews(a, b) && a.numbers == b.numbers && a.levels == b.levels;
}

Result<std::shared_ptr<const Model>> computeModel(const std::string& source, const Choices& c,
                                                  const std::shared_ptr<const Model>& before,
                                                  const Choices& was, Progress& progress, Stage upTo,
                                                  const ReadyBuild& ready) {
    return guarded<std::shared_ptr<const Model>>(
        [&] { return computed(source, c, Kept(before.get(), c, was), was, progress, upTo, ready); });
}

} // namespace prism
