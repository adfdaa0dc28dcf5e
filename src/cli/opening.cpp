#include "cli/opening.h"

#include "core/base/text_scanner.h"
#include "core/delivering/step_file.h"
#include "core/project/project_file.h"
#include "core/project/reading_preset.h"
#include "core/project/scan_work.h"
#include "core/tracing/placing.h"

#include <filesystem>
#include <fmt/format.h>

namespace prism::cli {
namespace {

NoProgress g_quiet;

Result<void> applyPreset(Document& d, const std::string& path, Stage upTo) {
    const auto text = fileBytes(path);
    if (!text) return tl::make_unexpected(text.error());
    const auto p = presetFromText(*text);
    if (!p) return tl::make_unexpected(Error{p.error().code, path + ": " + p.error().message});
    return d.apply("Preset", withPreset(d.choices(), *p), g_quiet, upTo);
}

/// Two points from "X0,Y0,X1,Y1"; what follows them is left in `s`.
std::optional<std::pair<Vec2, Vec2>> pointsIn(TextScanner& s) {
    std::array<double, 4> v{};
    for (size_t i = 0; i < v.size(); ++i) {
        // Commas separate here: the scanner is given one number at a time.
        const std::string_view rest = s.rest();
        const std::string_view one = rest.substr(0, rest.find_first_of(",="));
        const auto number = numberIn(one);
        if (!number) return std::nullopt;
        v[i] = *number;
        s.moveTo(s.position() + one.size());
        if (i + 1 < v.size() && !s.take(",")) return std::nullopt;
    }
    return std::pair{Vec2{v[0], v[1]}, Vec2{v[2], v[3]}};
}

std::optional<KnownLength> lengthIn(const std::string& text) {
    TextScanner s(text);
    const auto ends = pointsIn(s);
    if (!ends || ends->first == ends->second || !s.take("=")) return std::nullopt;
    NumberChoice mm;
    if (!takeTyped(mm, std::string(s.rest()), 1) || !mm.value || *mm.value <= 0) return std::nullopt;
    return KnownLength{ends->first, ends->second, *mm.value, {}};
}

std::optional<PictureCut> cutIn(const std::string& text) {
    const size_t is = text.find('=');
    if (is == std::string::npos || is == 0) return std::nullopt;
    TextScanner s(std::string_view(text).substr(is + 1));
    const auto corners = pointsIn(s);
    if (!corners || !s.atEnd() || corners->first.x == corners->second.x ||
        corners->first.y == corners->second.y)
        return std::nullopt;
    Box2 box;
    box.add(corners->first), box.add(corners->second);
    return PictureCut{text.substr(0, is), box.lo, box.hi};
}

/// What the request says of a scan.
Result<ReadingChoices> readingFor(const Request& q) {
    ReadingChoices r;
    r.layout = q.layout, r.page = q.page, r.page_as_picture = q.page_as_picture;
    r.picture.correct_stretch = !q.keep_stretch;
    for (const std::string& text : q.lengths) {
        const auto l = lengthIn(text);
        if (!l)
            return failure(ErrorCode::usage,
                           fmt::format("--length {}: four pixel coordinates and a length are needed, as "
                                       "120,80,940,80=65",
                                       text));
        r.picture.lengths.push_back(*l);
    }
    for (const std::string& text : q.cuts) {
        const auto c = cutIn(text);
        if (!c)
            return failure(
                ErrorCode::usage,
                fmt::format("--cut {}: a name and two corners are needed, as front=100,200,900,700", text));
        r.picture.cuts.push_back(*c);
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
Result<void> acceptTraced(Document& d, Stage upTo) {
    if (d.model().source->pictures.empty() || !d.choices().marks.lines.empty()) return {};
    const auto seen = traceAll(*d.model().drawing, g_quiet);
    if (!seen) return tl::make_unexpected(seen.error());
    std::vector<TracedLine> lines;
    for (const TracedPicture& p : *seen)
        lines.insert(lines.end(), p.traced.lines.begin(), p.traced.lines.end());
    return d.apply("Lines found in the scan", withAccepted(d.model(), d.choices(), lines), g_quiet, upTo);
}

Result<void> choosePart(Document& d, int part, Stage upTo) {
    const auto there = static_cast<int>(d.model().views.parts.size());
    if (part > there)
        return failure(ErrorCode::usage, fmt::format("--part {}: the sheet shows {} part{}", part, there,
                                                     there == 1 ? "" : "s"));
    Choices c = d.choices();
    c.views.part = part - 1;
    return d.apply("Part", c, g_quiet, upTo);
}

/// Adds the steps that the list of a document lacks; a list that lacks none stays as it is.
Result<void> complete(Opened& o) {
    const Document& d = o.document;
    const auto goal = proposeFor(d.model(), d.choices(), g_quiet);
    if (!goal) return tl::make_unexpected(goal.error());
    auto done = completed(d.model(), d.choices(), *goal, g_quiet);
    if (!done && d.model().proof && d.model().proof->clean()) return {};
    if (!done) return tl::make_unexpected(done.error());
    Choices c = d.choices();
    c.steps = done->steps;
    o.completion = std::move(*done);
    return o.document.apply("Complete the steps", c, g_quiet, Stage::solid, o.completion->built);
}

} // namespace

Result<Document> openedSheet(const Request& q, Stage upTo) {
    if (auto r = outputsApart(q); !r) return tl::make_unexpected(r.error());
    const auto reading = readingFor(q);
    if (!reading) return tl::make_unexpected(reading.error());
    auto d = Document::open(q.file, *reading, g_quiet, upTo);
    if (!d) return d;
    Result<void> r;
    if (!q.preset.empty()) r = applyPreset(*d, q.preset, upTo);
    if (r && (!q.lengths.empty() || !q.cuts.empty()) &&
        (d->model().source->pictures.empty() || !d->projectPath().empty()))
        return failure(ErrorCode::usage, q.file + ": lengths and cuts are said of a scan; this is none");
    if (r && !q.lengths.empty()) r = d->apply("Known lengths", withDirections(*d), g_quiet, upTo);
    if (r && !q.no_trace) r = acceptTraced(*d, upTo);
    if (r && q.part) r = choosePart(*d, *q.part, upTo);
    if (!r) return tl::make_unexpected(r.error());
    return d;
}

Result<Opened> openedSolid(const Request& q) {
    // A project that holds its steps is computed whole at once; for a proposal the figure is enough at first.
    auto d = openedSheet(q, Stage::figure);
    if (!d) return tl::make_unexpected(d.error());
    Opened o{std::move(*d), {}, {}};
    Choices c = o.document.choices();
    if (!q.steps.empty()) {
        const auto text = fileBytes(q.steps);
        if (!text) return tl::make_unexpected(text.error());
        auto list = readBuildList(*text);
        if (!list)
            return tl::make_unexpected(Error{list.error().code, q.steps + ": " + list.error().message});
        c.levels = std::move(list->levels), c.steps = std::move(list->steps),
        c.facts = std::move(list->facts);
    }
    if (c.steps.empty() && !q.suggest) {
        auto p = proposeFor(o.document.model(), c, g_quiet);
        if (!p) return tl::make_unexpected(p.error());
        c.steps = p->steps;
        o.proposal = std::move(*p);
    }
    if (!q.material.empty()) {
        c.material = materialNamed(q.material);
        if (!c.material) {
            std::string known;
            for (const Material& m : materials()) known += "\n  " + m.name;
            return failure(ErrorCode::usage,
                           fmt::format("--material {}: not one of the list, nor \"name = kg/m3\":{}",
                                       q.material, known));
        }
    }
    ReadyBuild ready;
    if (o.proposal) ready = {c.steps, o.proposal->build, o.proposal->proof};
    if (auto r = o.document.apply("Build", c, g_quiet, Stage::solid, ready); !r)
        return tl::make_unexpected(r.error());
    if (q.complete && !o.proposal)
        if (auto r = complete(o); !r) return tl::make_unexpected(r.error());
    return o;
}

Result<void> outputsApart(const Request& q) {
    const std::pair<const char*, const std::string*> outputs[] = {
        {"-o", &q.output}, {"--save", &q.save}, {"--keep-preset", &q.keep_preset}};
    const std::pair<const char*, const std::string*> inputs[] = {
        {"FILE", &q.file}, {"REVISED", &q.after}, {"--steps", &q.steps}, {"--preset", &q.preset}};
    for (const auto& [out, path] : outputs) {
        if (path->empty()) continue;
        for (const auto& [in, read] : inputs) {
            if (read->empty() || !sameFile(*path, *read)) continue;
            const auto bytes =
                in == std::string_view("FILE") ? fileBytes(*read) : Result<std::string>(std::string());
            if (out == std::string_view("--save") && bytes && isProject(*bytes))
                continue; // saved in its place
            return failure(ErrorCode::usage,
                           fmt::format("{} {}: would write over {}, which is read", out, *path, in));
        }
        for (const auto& [other, there] : outputs)
            if (other != out && !there->empty() && sameFile(*path, *there))
                return failure(ErrorCode::usage,
                               fmt::format("{} and {} name the same file, {}", out, other, *path));
    }
    return {};
}

Result<void> writeSolid(const Model& m, const std::string& path) {
    const std::string ending = capitals(std::filesystem::path(path).extension().string());
    if (ending != ".STEP" && ending != ".STP")
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

} // namespace prism::cli
