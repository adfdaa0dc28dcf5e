#include "core/reporting/report.h"

#include "core/base/files.h"
#include "core/project/solved_sheet.h"

#include <fmt/format.h>

namespace prism {
namespace {

constexpr double kWidth = 180; ///< mm between the margins of A4

std::string sentence(std::string s) {
    if (!s.empty() && s[0] >= 'a' && s[0] <= 'z') s[0] = static_cast<char>(s[0] - 'a' + 'A');
    return s;
}

std::string viewsOf(const Model& m, const std::vector<int>& views) {
    std::vector<std::string> names;
    for (int v : views) names.emplace_back(nameOf(m.views.views[static_cast<size_t>(v)].role));
    return fmt::format("{}", fmt::join(names, ", "));
}

std::string plural(size_t n, const char* one, const char* many) {
    return fmt::format("{} {}", n, n == 1 ? one : many);
}

/// Pictures as one, each to the right of the one before, their middles level.
ReportPicture inRow(std::initializer_list<ReportPicture> all) {
    ReportPicture r;
    for (const ReportPicture& p : all) r.size.y = std::max(r.size.y, p.size.y);
    for (ReportPicture p : all) {
        const Vec2 by{r.size.x, 0.5 * (r.size.y - p.size.y)};
        for (ReportPicture::Stroke& s : p.strokes) {
            for (Vec2& at : s.points) at = at + by;
            r.strokes.push_back(std::move(s));
        }
        for (ReportPicture::Word& w : p.words) {
            w.middle = w.middle + by;
            r.words.push_back(std::move(w));
        }
        r.size.x += p.size.x;
    }
    return r;
}

ReportPart sheetPart(const Model& m, const Diagnosis& found) {
    constexpr double kSolid = 52; // mm
    ReportPart p;
    p.heading = "The sheet";
    auto solid = solidPicture(m, kSolid, kSolid);
    // A sound sheet's report is one page; of a solid there is more to say.
    const double height = !found.findings.empty() ? 120 : solid ? 80 : 95;
    p.picture = sheetPicture(m, found.findings, kWidth - (solid ? kSolid : 0), height);
    if (solid) p.picture = inRow({*p.picture, *solid}), p.heading = "The sheet and its solid";
    return p;
}

ReportPart findingsPart(const Model& m, const Diagnosis& found) {
    ReportPart p;
    if (found.findings.empty()) return p;
    p.heading = "Findings";
    p.table = {{0.05, 0.11, 0.14, 0.42, 0.28}, {"", "Severity", "View", "Finding", "What mends it"}, {}};
    for (size_t i = 0; i < found.findings.size(); ++i) {
        const Finding& f = found.findings[i];
        std::string mends = f.remedies.empty() ? sentence(f.repair) : f.remedies.front().words;
        if (!f.remedies.empty() && !f.remedies.front().reason.empty())
            mends += fmt::format(" ({})", f.remedies.front().reason);
        if (f.accepted) mends = f.accepted->empty() ? "left as it is" : "left as it is: " + *f.accepted;
        std::string said = sentence(f.message);
        if (!f.symptoms.empty())
            said += fmt::format(". It also explains {}",
                                plural(f.symptoms.size(), "other finding", "other findings"));
        p.table.rows.push_back(
            {fmt::format("{}", i + 1), nameOf(f.severity), viewsOf(m, f.views), said, mends});
    }
    return p;
}

/// What was read into the sheet, decided on it and changed on it.
ReportPart decisionsPart(const Model& m) {
    ReportPart p;
    p.heading = "Decisions";
    p.table = {{0.2, 0.28, 0.52}, {"", "Taken", "Because"}, {}};
    auto& rows = p.table.rows;
    rows.push_back({"Unit", m.views.unit.used, m.views.unit.reason});
    rows.push_back({"Projection", fmt::format("{} angle", nameOf(m.views.projection.convention)),
                    m.views.projection.reason});
    for (const View& v : m.views.views) {
        if (v.role == Role::unassigned) continue;
        const std::string stands = v.hanging ? v.hanging->reason : "";
        rows.push_back(
            {sentence(v.letter.empty() ? nameOf(v.role) : fmt::format("{} {}", nameOf(v.role), v.letter)),
             fmt::format("scale {:g}", v.scale),
             stands.empty() ? v.scale_reason : fmt::format("{}; {}", v.scale_reason, stands)});
    }
    std::map<std::string, int> repairs;
    for (const Repair& r : m.sheet.repairs)
        if (r.on) ++repairs[r.kind];
    for (const auto& [kind, n] : repairs) {
        std::string words = kind;
        std::ranges::replace(words, '_', ' ');
        rows.push_back({"Repair", plural(static_cast<size_t>(n), "place", "places"), sentence(words)});
    }
    return p;
}

ReportPart doubtsPart(const Model& m, const Diagnosis& found, const Completeness& sizes) {
    ReportPart p;
    p.heading = "Remaining doubts";
    auto& say = p.paragraphs;
    if (!found.left_undone.empty()) say.push_back(sentence(found.left_undone) + ".");
    if (!sizes.left_undone.empty()) say.push_back(sentence(sizes.left_undone) + ".");
    for (const OpenSize& o : sizes.open)
        say.push_back(fmt::format("Open: {}{} in the {} view; drawn is {}{}.", o.what,
                                  o.radius ? "" : fmt::format(" along {}", nameOf(o.axis)),
                                  nameOf(m.views.views[static_cast<size_t>(o.view)].role),
                                  lengthText(o.value, m.views.unit),
                                  o.from.empty() ? "" : " from " + o.from));
    for (const GivenTwice& g : sizes.twice)
        say.push_back(fmt::format("Given twice: {} follows from {}.", g.name,
                                  g.from.empty() ? "the lines" : fmt::format("{}", fmt::join(g.from, ", "))));
    if (m.proof)
        for (const NotCompared& n : m.proof->not_compared)
            say.push_back(fmt::format("Not compared: the {} view: {}.",
                                      nameOf(m.views.views[static_cast<size_t>(n.view)].role), n.reason));
    for (const NotRead& n : m.drawing->not_read)
        say.push_back(fmt::format("Not read: {} of {}: {}.", n.count, n.type, n.reason));
    if (say.empty()) p.heading.clear();
    return p;
}

ReportPart proofPart(const Model& m) {
    ReportPart p;
    if (!m.build.ok()) return p;
    p.heading = "The solid";
    const SolidMeasure& s = m.build.measure;
    p.paragraphs.push_back(
        fmt::format("Volume {:.3f} mm\u00b3, surface {:.3f} mm\u00b2, {} faces, {} x {} x {}.", s.volume,
                    s.area, s.faces, lengthText(s.hi.x - s.lo.x, m.views.unit),
                    lengthText(s.hi.y - s.lo.y, m.views.unit), lengthText(s.hi.z - s.lo.z, m.views.unit)));
    if (!m.proof) {
        p.paragraphs.push_back(m.trouble.empty() ? "It was not held against the sheet."
                                                 : sentence(m.trouble) + ".");
        return p;
    }
    if (m.proof->proved()) {
        std::vector<std::string> lines;
        for (const ViewProof& v : m.proof->views)
            lines.push_back(fmt::format("{} {}", nameOf(v.name), v.matched));
        p.paragraphs.push_back(
            fmt::format("Proved: projected back, it shows every line of every view, and no other ({}).",
                        fmt::join(lines, ", ")));
        return p;
    }
    p.paragraphs.push_back(fmt::format("Not proved: {}; {} of {} views compared.", inWords(*m.proof),
                                       m.proof->compared(), m.proof->total()));
    p.table = {{0.4, 0.2, 0.2, 0.2}, {"View", "Matched", "Missing", "Too many"}, {}};
    for (const ViewProof& v : m.proof->views)
        p.table.rows.push_back({sentence(nameOf(v.name)), fmt::format("{}", v.matched),
                                fmt::format("{}", v.missing), fmt::format("{}", v.extra)});
    return p;
}

ReportPart ledgerPart(const Model& m) {
    ReportPart p;
    if (m.ledger.entries.empty()) return p;
    p.heading = "Numbers";
    p.table = {{0.14, 0.2, 0.2, 0.16, 0.3}, {"Name", "On the sheet", "Now", "State", ""}, {}};
    for (const LedgerEntry& e : m.ledger.entries) {
        const std::string now =
            e.angular() ? fmt::format("{:.6g}\u00b0", e.value) : lengthText(e.value, m.views.unit);
        p.table.rows.push_back(
            {e.name, e.text, now, nameOf(e.state), e.formula.empty() ? e.why : "= " + e.formula});
    }
    return p;
}

std::string verdictOf(const Model& m, const Diagnosis& found) {
    size_t errors = 0, warnings = 0;
    for (const Finding& f : found.findings)
        errors += f.severity == Severity::error, warnings += f.severity == Severity::warning;
    if (errors || warnings)
        return fmt::format("{} and {} were found.", plural(errors, "error", "errors"),
                           plural(warnings, "warning", "warnings"));
    if (found.sound || (m.proof && m.proof->proved()))
        return "Nothing is wrong: views and dimensions agree, and a solid shows every line of the sheet.";
    return "Nothing was found wrong: views and dimensions agree.";
}

} // namespace

Report reportOf(const std::string& source, const Model& m, const Diagnosis& found,
                const Completeness& sizes) {
    Report r;
    r.title = source;
    r.verdict = verdictOf(m, found);
    r.sound =
        std::ranges::none_of(found.findings, [](const Finding& f) { return f.severity != Severity::note; });
    for (ReportPart& p : std::array{sheetPart(m, found), findingsPart(m, found), doubtsPart(m, found, sizes),
                                    proofPart(m), decisionsPart(m), ledgerPart(m)})
        if (!p.heading.empty()) r.parts.push_back(std::move(p));
    return r;
}

Report joined(std::vector<Report> all) {
    if (all.size() == 1) return std::move(all.front());
    Report r;
    r.sound = true;
    for (size_t i = 0; i < all.size(); ++i) {
        const std::string part = fmt::format("Part {}", i + 1);
        r.title = all[i].title, r.sound = r.sound && all[i].sound;
        r.verdict += fmt::format("{}{}: {}", i ? " " : "", part, all[i].verdict);
        for (ReportPart& p : all[i].parts) {
            p.heading = fmt::format("{}: {}", part, p.heading);
            r.parts.push_back(std::move(p));
        }
    }
    return r;
}

Result<void> writeReport(const std::string& path, const Report& r) {
    const auto ends = [&](std::string_view with) { return path.ends_with(with); };
    if (ends(".html") || ends(".htm")) return writeAtomically(path, htmlOf(r));
    if (!ends(".pdf"))
        return failure(ErrorCode::usage, fmt::format("{}: a report is written as .html or .pdf", path));
    auto pdf = pdfOf(r);
    if (!pdf) return tl::make_unexpected(pdf.error());
    return writeAtomically(path, *pdf);
}

} // namespace prism
