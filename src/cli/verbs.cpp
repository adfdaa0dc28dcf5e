#include "cli/verbs.h"

#include "cli/report.h"
#include "core/delivering/step_file.h"
#include "core/project/carry_over.h"
#include "core/project/project_file.h"
#include "core/project/reading_preset.h"
#include "core/project/scan_work.h"
#include "core/proposing/propose.h"
#include "core/reading/read.h"
#include "core/tracing/placing.h"

#include <filesystem>
#include <fmt/format.h>

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

int statusOf(const Model& m) {
    for (const Finding& f : m.findings)
        if (f.severity == Severity::error) return kFindings;
    return kDone;
}

Result<void> applyPreset(Document& d, const std::string& path) {
    const auto text = fileBytes(path);
    if (!text) return tl::make_unexpected(text.error());
    const auto p = presetFromText(*text);
    if (!p) return tl::make_unexpected(Error{p.error().code, path + ": " + p.error().message});
    return d.apply("Preset", withPreset(d.choices(), *p), g_quiet);
}

/// What the request says of a scan.
Result<ReadingChoices> readingFor(const Request& q) {
    ReadingChoices r;
    r.layout = q.layout, r.page = q.page, r.page_as_picture = q.page_as_picture;
    r.picture.correct_stretch = !q.keep_stretch;
    Vec2 a, b;
    int end = 0;
    for (const std::string& s : q.lengths) {
        NumberChoice mm;
        if (std::sscanf(s.c_str(), "%lf,%lf,%lf,%lf=%n", &a.x, &a.y, &b.x, &b.y, &end) != 4 ||
            !takeTyped(mm, s.substr(static_cast<size_t>(end)), 1) || !mm.value || *mm.value <= 0 || a == b)
            return failure(ErrorCode::usage,
                           fmt::format("--length {}: four pixel coordinates and a length are needed, as "
                                       "120,80,940,80=65",
                                       s));
        r.picture.lengths.push_back({a, b, *mm.value, {}});
    }
    for (const std::string& s : q.cuts) {
        const size_t is = s.find('=');
        if (is == std::string::npos || is == 0 ||
            std::sscanf(s.c_str() + is + 1, "%lf,%lf,%lf,%lf", &a.x, &a.y, &b.x, &b.y) != 4 || a.x == b.x ||
            a.y == b.y)
            return failure(
                ErrorCode::usage,
                fmt::format("--cut {}: a name and two corners are needed, as front=100,200,900,700", s));
        Box2 box;
        box.add(a), box.add(b);
        r.picture.cuts.push_back({s.substr(0, is), box.lo, box.hi});
    }
    return r;
}

/// Whether a length is level or upright is seen once the scan is straight.
Choices withDirections(const Document& d) {
    Choices c = d.choices();
    if (!d.model().source->pictures.empty())
        for (KnownLength& l : c.reading.picture.lengths)
            l = lengthBetween(*d.model().source->pictures[0].scan, c.reading.picture, l.a, l.b, l.mm);
    return c;
}

/// Nobody is there to accept what is seen in a scan: all of it is taken, unless lines were drawn on it
/// before.
Result<void> acceptTraced(Document& d) {
    if (d.model().source->pictures.empty() || !d.choices().marks.lines.empty()) return {};
    const auto seen = traceAll(*d.model().drawing, g_quiet);
    if (!seen) return tl::make_unexpected(seen.error());
    std::vector<TracedLine> lines;
    for (const TracedPicture& p : *seen)
        lines.insert(lines.end(), p.traced.lines.begin(), p.traced.lines.end());
    return d.apply("Lines found in the scan", withAccepted(d.model(), d.choices(), lines), g_quiet);
}

Result<void> choosePart(Document& d, int part) {
    const auto there = static_cast<int>(d.model().views.parts.size());
    if (part > there)
        return failure(ErrorCode::usage, fmt::format("--part {}: the sheet shows {} part{}", part, there,
                                                     there == 1 ? "" : "s"));
    Choices c = d.choices();
    c.views.part = part - 1;
    return d.apply("Part", c, g_quiet);
}

/// The document, with steps from a file or from a proposal when it has none and needs some.
Result<Document> opened(const Request& q, bool needsSteps) {
    const auto reading = readingFor(q);
    if (!reading) return tl::make_unexpected(reading.error());
    auto d = Document::open(q.file, *reading, g_quiet);
    if (d && !q.preset.empty())
        if (auto r = applyPreset(*d, q.preset); !r) return tl::make_unexpected(r.error());
    if (d && (!q.lengths.empty() || !q.cuts.empty()) &&
        (d->model().source->pictures.empty() || !d->projectPath().empty()))
        return failure(ErrorCode::usage, q.file + ": lengths and cuts are said of a scan; this is none");
    if (d && !q.lengths.empty())
        if (auto r = d->apply("Known lengths", withDirections(*d), g_quiet); !r)
            return tl::make_unexpected(r.error());
    if (d && !q.no_trace)
        if (auto r = acceptTraced(*d); !r) return tl::make_unexpected(r.error());
    if (d && q.part)
        if (auto r = choosePart(*d, *q.part); !r) return tl::make_unexpected(r.error());
    if (!d || !needsSteps) return d;
    Choices c = d->choices();
    if (!q.steps.empty()) {
        const auto text = fileBytes(q.steps);
        if (!text) return tl::make_unexpected(text.error());
        auto steps = readSteps(*text);
        if (!steps)
            return tl::make_unexpected(Error{steps.error().code, q.steps + ": " + steps.error().message});
        c.steps = std::move(*steps);
    } else if (c.steps.empty()) {
        const Model& m = d->model();
        auto p = propose(m.figure, centreLines(*m.drawing, m.views, m.figure), g_quiet);
        if (!p) return tl::make_unexpected(p.error());
        c.steps = std::move(p->steps);
    }
    if (auto r = d->apply("Build", c, g_quiet); !r) return tl::make_unexpected(r.error());
    return d;
}

Result<void> writeSolid(const Model& m, const std::string& path) {
    std::string ending = std::filesystem::path(path).extension().string();
    for (char& c : ending) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    if (ending != ".step" && ending != ".stp")
        return failure(ErrorCode::usage, fmt::format("{}: the ending must be .step", path));
    if (!m.build.ok()) return failure(ErrorCode::impossible, "there is no valid solid to write");
    return writeStep(m.build.shape, path);
}

Result<void> writeOutputs(const Request& q, Document& d) {
    if (!q.output.empty())
        if (auto r = writeSolid(d.model(), q.output); !r) return r;
    if (!q.save.empty())
        if (auto r = d.save(q.save); !r) return r;
    return {};
}

std::string buildError(const Model& m) {
    for (const StepReport& s : m.build.steps)
        if (!s.ok) return fmt::format("step \"{}\": {}", s.name, s.message);
    return "the solid is not valid";
}

void printSolid(const Model& m) {
    const SolidMeasure& s = m.build.measure;
    fmt::print("volume {:.6f} mm3, area {:.6f} mm2, {} faces, box {:.4f} x {:.4f} x {:.4f} mm\n", s.volume,
               s.area, s.faces, s.hi.x - s.lo.x, s.hi.y - s.lo.y, s.hi.z - s.lo.z);
    if (m.proof)
        fmt::print("proof: {} matched, {} missing, {} extra\n", m.proof->matched, m.proof->missing,
                   m.proof->extra);
}

} // namespace

int runRead(const Request& q) {
    const auto d = opened(q, false);
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

/// A solid that nearly all lines agree on tells which line does not. Where none is found soon, nothing is
/// told.
void checkByProposal(Document& d) {
    const Model& m = d.model();
    const auto p = propose(m.figure, centreLines(*m.drawing, m.views, m.figure), g_quiet, Effort::quick);
    if (!p) return;
    Choices c = d.choices();
    c.steps = p->steps;
    (void)d.apply("Check", c, g_quiet);
}

} // namespace

int runReread(const Request& q) {
    auto d = opened(q, false);
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
    const auto d = opened(q, false);
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

int runCheck(const Request& q) {
    auto d = opened(q, false);
    if (!d) return complain(d.error());
    if (d->choices().steps.empty()) checkByProposal(*d);
    const Model& m = d->model();
    if (q.json)
        print(checkReport(m));
    else
        for (const Finding& f : m.findings)
            fmt::print("{}: {} [{}]\n", nameOf(f.severity), f.message, f.kind);
    return statusOf(m);
}

int runBuild(const Request& q) {
    auto d = opened(q, true);
    if (!d) return complain(d.error());
    const Model& m = d->model();
    if (!m.build.ok()) return complain({ErrorCode::impossible, buildError(m)});
    if (auto r = writeOutputs(q, *d); !r) return complain(r.error());
    if (q.json)
        print(buildReport(m));
    else
        printSolid(m);
    return kDone;
}

int runSet(const Request& q) {
    auto d = opened(q, true);
    if (!d) return complain(d.error());
    Choices c = d->choices();
    Json changed = Json::array();
    for (const std::string& x : q.changes) {
        const size_t eq = x.find('=');
        if (eq == 0 || eq == std::string::npos)
            return complain({ErrorCode::usage, fmt::format("\"{}\": name=value was expected", x)});
        const std::string name = x.substr(0, eq), formula = x.substr(eq + 1);
        if (auto r = takeTyped(c.numbers[name], formula, 1); !r) return complain(r.error());
        changed.push_back(name);
    }
    if (auto r = d->apply("Set values", c, g_quiet); !r) return complain(r.error());
    const Model& m = d->model();
    if (!m.build.ok()) return complain({ErrorCode::impossible, buildError(m)});
    if (auto r = writeOutputs(q, *d); !r) return complain(r.error());
    Json j = buildReport(m);
    j["changed"] = changed;
    if (q.json)
        print(j);
    else
        printSolid(m);
    return kDone;
}

int runProof(const Request& q) {
    auto d = opened(q, true);
    if (!d) return complain(d.error());
    if (!d->model().proof) return complain({ErrorCode::impossible, buildError(d->model())});
    if (auto r = writeOutputs(q, *d); !r) return complain(r.error());
    if (q.json)
        print(proofReport(d->model()));
    else
        printSolid(d->model());
    return kDone;
}

int runExport(const Request& q) {
    const auto d = opened(q, true);
    if (!d) return complain(d.error());
    if (auto r = writeSolid(d->model(), q.output); !r) return complain(r.error());
    if (q.json) print({{"written", q.output}});
    return kDone;
}

} // namespace prism::cli
