#include "cli/opening.h"
#include "cli/report.h"
#include "core/building/kernel.h"
#include "core/project/carry_over.h"
#include "core/project/facts_kept.h"
#include "core/project/project_file.h"
#include "core/project/reading_preset.h"

#include <filesystem>
#include <fmt/format.h>
#include <sstream>

namespace prism::cli {
namespace {

NoProgress g_quiet;

int complain(const Error& e) {
    fmt::print(stderr, "upper-prism-cli: {}\n", e.message);
    switch (e.code) {
    case ErrorCode::unreadable:
        return kUnreadable;
    case ErrorCode::usage:
        return kUsage;
    default:
        return kImpossible;
    }
}

void print(const Json& j) {
    fmt::print("{}\n", j.dump(2, ' ', false, Json::error_handler_t::replace));
}

int statusOf(const std::vector<Checked>& checked) {
    for (const Checked& c : checked)
        for (const Finding& f : c.found.findings)
            if (f.severity == Severity::error) return kFindings;
    return kDone;
}

/// Why the solid is none to go on with; empty when it is.
std::string buildTrouble(const Model& m) {
    for (size_t i = 0; i < m.build.steps.size(); ++i)
        if (const StepReport& s = m.build.steps[i]; !s.ok)
            return fmt::format("step {}{}: {}", i + 1, s.name.empty() ? "" : fmt::format(" \"{}\"", s.name),
                               s.message);
    return m.build.ok() ? "" : "the solid is not valid";
}

void printSolid(const Model& m) {
    const SolidMeasure& s = m.build.measure;
    fmt::print("volume {:.6f} mm3, area {:.6f} mm2, {} faces, box {:.4f} x {:.4f} x {:.4f} mm\n", s.volume,
               s.area, s.faces, s.hi.x - s.lo.x, s.hi.y - s.lo.y, s.hi.z - s.lo.z);
    if (!m.proof) return;
    fmt::print("proof: {} matched, {} missing, {} extra; {} of {} views compared\n", m.proof->matched,
               m.proof->missing, m.proof->extra, m.proof->compared(), m.proof->total());
    for (const NotCompared& n : m.proof->not_compared)
        fmt::print("not compared: {} view: {}\n", nameOf(m.views.views[n.view].role), n.reason);
}

/// The step to take next, as the solid tells that the views determine.
Result<Suggestion> suggestedAfter(const Document& d) {
    const auto goal = proposeFor(d.model(), d.choices(), g_quiet);
    return goal ? nextStep(d.model(), d.choices(), *goal, {}, g_quiet)
                : Result<Suggestion>(tl::make_unexpected(goal.error()));
}

void printSuggestion(const Result<Suggestion>& s) {
    if (!s)
        fmt::print("no step is suggested: {}\n", s.error().message);
    else
        fmt::print("suggested{}: {}; {} lines missing after it\n{}\n", s->sure ? "" : ", as a guess",
                   s->step.name, s->missing, toJson(std::vector{s->step}).front().dump());
}

/// Of a sheet that no proposal explains: what one repair would leave it a solid.
std::optional<Finding> oneRepairFrom(const Document& d) {
    Choices c = d.choices();
    c.steps.clear();
    const auto m = computeModel(d.source(), c, d.sharedModel(), d.choices(), g_quiet, Stage::checks);
    if (!m) return std::nullopt;
    const auto found = diagnose(d.source(), c, *m, g_quiet);
    return found ? found->settles : std::nullopt;
}

/// Lines in which solid and sheet differ.
int off(const Model& m) {
    return m.proof ? m.proof->missing + m.proof->extra : std::numeric_limits<int>::max();
}

/// Prints what was made. What is not in order is written only when that was asked for, and is not called
/// done.
int deliver(const Request& q, Document& d, const Json& j, const std::string& trouble) {
    if (trouble.empty() || q.unproved)
        if (auto r = writeOutputs(q, d); !r) return complain(r.error());
    if (q.json)
        print(j);
    else
        printSolid(d.model());
    return trouble.empty() ? kDone : complain({ErrorCode::impossible, trouble});
}

} // namespace

int runRead(const Request& q) {
    const auto d = openedSheet(q, Stage::views);
    if (!d) return complain(d.error());
    const Model& m = d->model();
    if (!q.keep_preset.empty()) {
        const std::string name = std::filesystem::path(q.keep_preset).stem().stem().string();
        if (auto r = writeAtomically(q.keep_preset, presetText(presetOf(name, m, d->choices()))); !r)
            return complain(r.error());
    }
    if (q.json) {
        Json j = readReport(m, d->choices());
        if (q.entities) j.update(entitiesReport(m));
        return print(j), kDone;
    }
    fmt::print("{} {}: {} lines, {} dimensions, {} texts, unit {} ({})\n", m.drawing->format,
               m.drawing->version, m.drawing->entities.size(), m.drawing->dimensions.size(),
               m.drawing->texts.size(), m.views.unit.used, m.views.unit.reason);
    for (const NotRead& n : m.drawing->not_read)
        fmt::print("not read: {} {} ({})\n", n.count, n.type, n.reason);
    return kDone;
}

namespace {

std::set<std::string> repairsNamed(const std::string& list) {
    std::set<std::string> r;
    std::istringstream words(list);
    for (std::string w; std::getline(words, w, ',');)
        if (w != "all") r.insert(w);
    return r;
}

} // namespace

int runReread(const Request& q) {
    auto d = openedSheet(q, Stage::solid);
    if (!d) return complain(d.error());
    const auto before = d->model().source;
    const auto r = d->reread(q.after, g_quiet);
    if (!r) return complain(r.error());
    if (!q.save.empty())
        if (auto s = d->save(q.save); !s) return complain(s.error());
    if (q.json)
        print(rereadReport(*r, *before, *d->model().source));
    else
        fmt::print("{} lines and {} dimensions differ; {} choices no longer fit\n",
                   r->difference.lines.size(), r->difference.dimensions.size(), r->misfits.size());
    return kDone;
}

int runViews(const Request& q) {
    const auto d = openedSheet(q, Stage::views);
    if (!d) return complain(d.error());
    const Model& m = d->model();
    if (q.json) return print(viewsReport(m)), kDone;
    fmt::print("{} angle: {}\n", nameOf(m.views.projection.convention), m.views.projection.reason);
    for (const View& v : m.views.views) {
        const Vec2 size = sizeOf(*m.drawing, v);
        fmt::print("{} {:<10} {:.4f} x {:.4f} mm, scale {:g}, {} lines{}\n", v.tag(), nameOf(v.role), size.x,
                   size.y, v.scale, v.entities.size(), v.hanging ? "; " + v.hanging->reason : "");
    }
    if (m.views.parts.size() > 1)
        fmt::print("part {} of {} on the sheet; --part chooses another\n", m.views.part + 1,
                   m.views.parts.size());
    return kDone;
}

namespace {

/// How many parts are looked at: all of the sheet where none was chosen, else the one that is worked on.
int partsAtWork(const Request& q, const Document& d) {
    return q.part || d.choices().views.part
               ? 1
               : static_cast<int>(std::max<size_t>(1, d.model().views.parts.size()));
}

/// Repairs part after part; the one that was worked on is so again in the end.
Result<std::vector<Repaired>> repairedParts(const Request& q, Document& d, KnownSolids& solids) {
    std::vector<Repaired> all;
    const auto before = d.choices().views.part;
    const auto turnTo = [&](std::optional<int> part) {
        Choices c = d.choices();
        c.views.part = part;
        return d.apply("Another part", c, g_quiet, Stage::checks);
    };
    const int parts = partsAtWork(q, d);
    for (int part = 0; part < parts; ++part) {
        if (parts > 1)
            if (auto r = turnTo(part); !r) return tl::make_unexpected(r.error());
        auto done = repairAll(d, repairsNamed(q.repair), g_quiet, &solids);
        if (!done) return done;
        for (Repaired& r : *done) all.push_back(std::move(r));
    }
    if (parts > 1)
        if (auto r = turnTo(before); !r) return tl::make_unexpected(r.error());
    return all;
}

CheckInput asDrawn(const Model& m) {
    return {*m.drawing, m.sheet, m.views, m.drawn, m.drawn_ledger};
}

template <class Enum> bool takeNamed(const std::string& word, Enum last, Enum& out) {
    for (int i = 0; i <= static_cast<int>(last); ++i)
        if (nameOf(static_cast<Enum>(i)) == word) return out = static_cast<Enum>(i), true;
    return false;
}

Result<LayingChoice> layingOf(const Request& q) {
    LayingChoice c;
    if (!q.laying.empty() && !takeNamed(q.laying, kLastLaying, c.laying))
        return failure(
            ErrorCode::usage,
            fmt::format("--add-dimensions {}: baseline, chain or ordinate was expected", q.laying));
    if (q.datum.size() != 1 && q.datum.size() != 3 && !q.datum.empty())
        return failure(ErrorCode::usage, "--datum: one word or three, for X, Y and Z, were expected");
    for (size_t axis = 0; axis < 3 && !q.datum.empty(); ++axis)
        if (const std::string& word = q.datum[q.datum.size() == 1 ? 0 : axis];
            !takeNamed(word, kLastDatum, c.datum[axis]))
            return failure(ErrorCode::usage,
                           fmt::format("--datum {}: low, high or middle was expected", word));
    return c;
}

/// Adds the dimensions that the part at work lacks.
Result<void> complete(Document& d, const LayingChoice& how) {
    const Change closing = closingAll(completenessOf(asDrawn(d.model()), how, g_quiet));
    return closing.empty() ? Result<void>{}
                           : d.apply("Add the dimensions that are lacking", changed(d.choices(), closing),
                                     g_quiet, Stage::checks);
}

Result<std::vector<Checked>> checkedParts(const Request& q, const LayingChoice& how, const Document& d,
                                          KnownSolids& solids) {
    std::vector<Checked> r;
    const int parts = partsAtWork(q, d);
    const bool each = parts > 1;
    for (int part = 0; part < parts; ++part) {
        Choices c = d.choices();
        std::shared_ptr<const Model> m = d.sharedModel();
        if (each && part != m->views.part) {
            c.views.part = part, c.steps.clear();
            auto other = computeModel(d.source(), c, m, d.choices(), g_quiet, Stage::checks);
            if (!other) return tl::make_unexpected(other.error());
            m = std::move(*other);
        }
        auto found = diagnose(d.source(), c, m, g_quiet, &solids);
        if (!found) return tl::make_unexpected(found.error());
        r.push_back({m, std::move(*found), completenessOf(asDrawn(*m), how, g_quiet)});
    }
    return r;
}

void printOpen(const Checked& c) {
    const double unit = c.model->views.unit.mm;
    for (const OpenSize& o : c.sizes.open) {
        const char* const view = nameOf(c.model->views.views[static_cast<size_t>(o.view)].role);
        fmt::print("open: {}{} in the {} view; {:.6g} {}{}\n", o.what,
                   o.radius ? "" : fmt::format(" along {}", nameOf(o.axis)), view, o.value / unit,
                   c.model->views.unit.used, o.from.empty() ? "" : " from " + o.from);
    }
    for (const GivenTwice& g : c.sizes.twice)
        fmt::print("twice: {} follows from {}\n", g.name,
                   g.from.empty() ? "the lines alone" : fmt::format("{}", fmt::join(g.from, ", ")));
}

} // namespace

int runCheck(const Request& q) {
    const auto how = layingOf(q);
    if (!how) return complain(how.error());
    auto d = openedSheet(q, Stage::checks);
    if (!d) return complain(d.error());
    if (!d->choices().steps.empty())
        if (auto r = d->apply("Check", d->choices(), g_quiet); !r) return complain(r.error());
    KnownSolids solids;
    std::vector<Repaired> repaired;
    if (!q.repair.empty()) {
        auto r = repairedParts(q, *d, solids);
        if (!r) return complain(r.error());
        repaired = std::move(*r);
    }
    if (!q.laying.empty())
        if (auto r = complete(*d, *how); !r) return complain(r.error());
    const auto checked = checkedParts(q, *how, *d, solids);
    if (!checked) return complain(checked.error());
    if (!q.save.empty())
        if (auto r = d->save(q.save); !r) return complain(r.error());
    if (!q.report.empty()) {
        std::vector<Report> pages;
        for (const Checked& c : *checked)
            pages.push_back(reportOf(d->sourceName(), *c.model, c.found, c.sizes));
        if (auto r = writeReport(q.report, joined(std::move(pages))); !r) return complain(r.error());
    }
    if (q.json)
        print(checkReport(*checked, repaired));
    else {
        for (const Repaired& r : repaired) fmt::print("repaired: {} [{}]\n", r.words, r.kind);
        for (const Checked& c : *checked) {
            for (const Finding& f : c.found.findings)
                fmt::print("{}: {} [{}]\n", nameOf(f.severity), f.message, f.kind);
            printOpen(c);
        }
    }
    return statusOf(*checked);
}

int runBuild(const Request& q) {
    auto o = openedSolid(q);
    if (!o) return complain(o.error());
    const Model& m = o->document.model();
    const bool begun = !o->document.choices().steps.empty();
    if (!m.build.ok() && (begun || !q.suggest)) return complain({ErrorCode::impossible, buildTrouble(m)});
    if (q.suggest && !begun && !(q.output.empty() && q.save.empty()))
        return complain(
            {ErrorCode::usage, "--suggest: there are no steps yet, so there is nothing to write"});
    std::string trouble = begun ? buildTrouble(m) : std::string();
    if (trouble.empty() && o->proposal && !m.proof)
        trouble = "the proposal could not be proved: " + m.trouble;
    else if (trouble.empty() && o->proposal && !m.proof->clean())
        trouble = fmt::format("the best proposal does not explain the sheet: {}{}", inWords(*m.proof),
                              o->proposal->denied.empty()
                                  ? ""
                                  : fmt::format("; without the fact \"{}\" a solid would show every line",
                                                o->proposal->denied));
    else if (trouble.empty() && o->completion && !o->completion->left_undone.empty())
        trouble = fmt::format("{} steps were added, then no more: {}", o->completion->added,
                              o->completion->left_undone);
    if (trouble.empty())
        if (const auto against = factNotKept(m, o->document.choices())) trouble = against->message;
    std::optional<Finding> would_fit;
    const bool asked = o->proposal && o->proposal->denied.empty(); // a fact that is denied is the cause
    if (asked && m.proof && !m.proof->clean()) would_fit = oneRepairFrom(o->document);
    if (would_fit)
        trouble += fmt::format("; one repair would leave the sheet a solid: {} ({})", would_fit->message,
                               would_fit->remedies.front().words);
    Json j = buildReport(m, o->document.choices().material, o->proposal, would_fit);
    if (o->completion) j["added"] = o->completion->added;
    std::optional<Result<Suggestion>> next;
    if (q.suggest) next = suggestedAfter(o->document), j["suggested"] = suggestionReport(*next);
    const int status = deliver(q, o->document, j, trouble);
    if (next && !q.json) printSuggestion(*next);
    return status;
}

int runSet(const Request& q) {
    auto o = openedSolid(q);
    if (!o) return complain(o.error());
    Document& d = o->document;
    const int before = off(d.model());
    Choices c = d.choices();
    Json changed = Json::array();
    for (const std::string& x : q.changes) {
        const size_t eq = x.find('=');
        if (eq == 0 || eq == std::string::npos)
            return complain({ErrorCode::usage, fmt::format("\"{}\": name=value was expected", x)});
        const std::string name = x.substr(0, eq), formula = x.substr(eq + 1);
        if (!d.model().ledger.named(name))
            return complain({ErrorCode::usage,
                             fmt::format("\"{}\": there is no number named {} on this sheet", x, name)});
        if (auto r = takeTyped(c.numbers[name], formula, d.model().ledger.plainUnit(name)); !r)
            return complain(r.error());
        for (const std::string& used : namesIn(c.numbers[name].formula))
            if (!d.model().ledger.named(used))
                return complain({ErrorCode::usage,
                                 fmt::format("\"{}\": there is no number named {} on this sheet", x, used)});
        changed.push_back(name);
    }
    if (auto r = d.apply("Set values", c, g_quiet); !r) return complain(r.error());
    const Model& m = d.model();
    if (!m.build.ok()) return complain({ErrorCode::impossible, buildTrouble(m)});
    std::string trouble = buildTrouble(m);
    if (trouble.empty() && off(m) > before)
        trouble = m.proof ? fmt::format("with these values the solid is no longer what the sheet shows: {}",
                                        inWords(*m.proof))
                          : "the solid with these values could not be proved: " + m.trouble;
    Json j = buildReport(m, o->document.choices().material, o->proposal);
    j["changed"] = changed;
    return deliver(q, d, j, trouble);
}

int runProof(const Request& q) {
    auto o = openedSolid(q);
    if (!o) return complain(o.error());
    const Model& m = o->document.model();
    if (!m.proof) {
        const std::string why = buildTrouble(m);
        return complain({ErrorCode::impossible, why.empty() ? m.trouble : why});
    }
    if (auto r = writeOutputs(q, o->document); !r) return complain(r.error());
    if (q.json)
        print(proofReport(m));
    else
        printSolid(m);
    return kDone;
}

int runExport(const Request& q) {
    const auto o = openedSolid(q);
    if (!o) return complain(o.error());
    const Model& m = o->document.model();
    const std::string trouble =
        o->proposal && (!m.proof || !m.proof->clean()) && !q.unproved
            ? "the best proposal does not explain the sheet; --unproved writes it all the same"
            : buildTrouble(m);
    if (!trouble.empty()) return complain({ErrorCode::impossible, trouble});
    if (auto r = writeSolid(m, q.output); !r) return complain(r.error());
    if (q.json) print({{"written", q.output}});
    return kDone;
}

int runGuarded(const Request& q) {
    int status = kImpossible;
    if (const auto e = thrownBy([&] { status = q.run(q); })) return complain(*e);
    return status;
}

} // namespace prism::cli
