#include "core/project/proof_findings.h"

#include <fmt/format.h>

namespace prism {
namespace {

constexpr int kMostOff = 1;   ///< lines that may be missing, and extra
constexpr int kAgreeing = 10; ///< lines that must agree for each one that is off

/// Whether the solid has a hidden edge where this piece is drawn.
bool hiddenThere(const Model& m, const FigureView& v, const Curve& piece) {
    const auto shown = shownBy(m.figure, v, m.build.shape);
    if (!shown) return false;
    const auto lines = projected(shown->shape, frameOf(m.figure, v, m.figure.now));
    if (!lines) return false;
    const double tol = 2 * m.figure.tolerances.proof;
    return std::any_of(lines->begin(), lines->end(), [&](const ProjectedLine& l) {
        if (l.kind != ProjectedLine::Kind::hidden) return false;
        for (double t : {0.2, 0.5, 0.8})
            if (distanceTo(l.shape, pointAt(piece, t)) > tol) return false;
        return true;
    });
}

Finding about(const Model& m, const ViewProof& v, const ProofPiece& p) {
    Finding f;
    f.from_proof = true;
    f.severity = Severity::warning;
    f.views = {v.view};
    if (p.curve >= 0) {
        f.entities = {m.figure.curves[p.curve].entity};
        f.handles = {m.drawing->entities[f.entities[0]].handle};
    }
    const Affine2 back = ontoSheet(m.figure, *m.figure.viewById(v.view), m.figure.now);
    for (double t : {0.0, 0.5, 1.0}) f.at_sheet.push_back(back(pointAt(p.shape, t)));
    f.numbers["length"] = p.length;
    return f;
}

} // namespace

std::vector<Finding> findingsOfProof(const Model& m) {
    std::vector<Finding> r;
    if (!m.proof || !m.build.ok() || m.proof->clean()) return r;
    const int off = m.proof->missing + m.proof->extra;
    if (m.proof->missing > kMostOff || m.proof->extra > kMostOff || m.proof->matched < kAgreeing * off)
        return r;
    for (const ViewProof& v : m.proof->views) {
        for (const AreaOff& a : v.areas_off) {
            Finding f;
            f.from_proof = true;
            f.kind = "hatching_suspect";
            f.severity = Severity::warning;
            f.message = a.hatched
                            ? fmt::format("An area of {:.2f} mm² of the {} view is hatched, but the solid "
                                          "that the lines make has no material there",
                                          a.area, nameOf(v.name))
                            : fmt::format("An area of {:.2f} mm² of the {} view is not hatched, but the "
                                          "solid that the lines make is cut there",
                                          a.area, nameOf(v.name));
            f.views = {v.view};
            f.at_sheet = {ontoSheet(m.figure, *m.figure.viewById(v.view), m.figure.now)(a.seed)};
            f.numbers["area"] = a.area;
            r.push_back(std::move(f));
        }
        for (const ProofPiece& p : v.pieces) {
            if (p.state == LineState::matched) continue;
            Finding f = about(m, v, p);
            if (p.state == LineState::missing && !p.hidden &&
                hiddenThere(m, *m.figure.viewById(v.view), p.shape)) {
                f.kind = "line_visibility_suspect";
                f.message = fmt::format(
                    "A line of {:.2f} mm in the {} view is drawn visible, but the solid that the other "
                    "lines make hides it",
                    p.length, nameOf(v.name));
                f.repair = "Draw it as a hidden line";
            } else if (p.state == LineState::extra) {
                f.kind = "feature_unmatched";
                f.message = fmt::format("The {} view lacks a line of {:.2f} mm that the solid has there",
                                        nameOf(v.name), p.length);
                f.repair = "Add the line under Mark up";
            } else
                continue;
            r.push_back(std::move(f));
        }
    }
    return r;
}

} // namespace prism
