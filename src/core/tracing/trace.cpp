#include "core/tracing/trace.h"

#include "core/base/simpler_curve.h"
#include "core/tracing/dash_rows.h"
#include "core/tracing/fits.h"
#include "core/tracing/pieces.h"

#include <fmt/format.h>
#include <opencv2/imgproc.hpp>

namespace prism {
namespace {

constexpr double kLetter = 14; ///< widths of the ink that a letter is tall at most (ISO 3098-1: 10 to 14)

/// Pieces that hang together, with what they cover.
struct Component {
    Box2 box;
    std::vector<int> pieces;
    bool lettering = false, speck = false;
    double size() const { return std::max(box.width(), box.height()); }
};

std::map<int, Component> componentsOf(const TracePieces& t) {
    std::map<int, Component> r;
    for (int i = 0; i < static_cast<int>(t.pieces.size()); ++i) {
        Component& c = r[t.pieces[i].component];
        c.box.add(boxOf(t.pieces[i].shape));
        c.pieces.push_back(i);
    }
    return r;
}

/// Small things of several strokes are letters, and so is what stands in one line with them and is as small.
void findLettering(std::map<int, Component>& components, const TracePieces& t,
                   const std::vector<LineRole>& roles, double width) {
    auto plain = [&](const Component& c) {
        if (c.pieces.size() != 1) return false;
        const Curve& s = t.pieces[c.pieces[0]].shape;
        return std::holds_alternative<Segment>(s) || isClosed(s, 1e-9);
    };
    std::vector<const Component*> letters;
    for (auto& [id, c] : components) {
        const bool row = roles[c.pieces[0]] != LineRole::unknown;
        c.speck = !row && c.size() < 2.2 * width;
        c.lettering = !row && !c.speck && c.size() < kLetter * width && !plain(c);
        if (c.lettering) letters.push_back(&c);
    }
    for (auto& [id, c] : components)
        if (!c.lettering && !c.speck && roles[c.pieces[0]] == LineRole::unknown && c.size() < kLetter * width)
            c.lettering = std::ranges::any_of(letters, [&own = c](const Component* l) {
                return l->box.grown(0.6 * l->size()).overlaps(own.box) && own.size() < 1.6 * l->size();
            });
}

/// The cone of the projection symbol (ISO 5456-2) is as small as letters are: it stands level with two
/// circles round one centre, and is as wide as the larger one.
void keepSymbols(std::map<int, Component>& components, const TracePieces& t) {
    std::vector<const Arc*> rounds;
    for (const TracePiece& p : t.pieces)
        if (const auto* a = std::get_if<Arc>(&p.shape); a && a->full()) rounds.push_back(a);
    for (const Arc* large : rounds)
        for (const Arc* small : rounds) {
            const double r = large->radius;
            if (small->radius > 0.8 * r || distance(small->centre, large->centre) > 0.1 * r) continue;
            for (auto& [id, c] : components) {
                if (!c.lettering || c.pieces.size() < 4 || c.pieces.size() > 8) continue;
                const Vec2 off = c.box.centre() - large->centre;
                const double along = std::max(std::abs(off.x), std::abs(off.y)),
                             across = std::min(std::abs(off.x), std::abs(off.y));
                const double wide = std::abs(off.x) > std::abs(off.y) ? c.box.height() : c.box.width();
                if (across < 0.3 * r && along > r && along < 8 * r && std::abs(wide - 2 * r) < 0.4 * r)
                    c.lettering = false;
            }
        }
}

/// Width between thin and thick lines; 0 when there is only one kind.
double thinUpTo(const std::vector<TracedLine>& lines) {
    std::vector<std::pair<double, double>> w;
    double all = 0;
    for (const TracedLine& l : lines) {
        const double k = lengthOf(l.shape);
        w.emplace_back(l.width, k), all += k;
    }
    std::ranges::sort(w);
    // The split that leaves the least spread on both sides (Otsu 1979), if the sides differ as line groups
    // do.
    double best = 0, split = 0, low = 0, high = 0;
    double sum = 0, moment = 0, whole = 0;
    for (const auto& [x, k] : w) whole += x * k;
    for (size_t i = 0; i + 1 < w.size(); ++i) {
        sum += w[i].second, moment += w[i].first * w[i].second;
        const double a = moment / sum, b = (whole - moment) / (all - sum);
        if (const double between = sum * (all - sum) * (b - a) * (b - a); between > best)
            best = between, split = (w[i].first + w[i + 1].first) / 2, low = a, high = b;
    }
    return high > 1.45 * low ? split : 0;
}

/// Fits on a scan made smaller are good enough to tell directions and take a fraction of the time.
constexpr int kAskewSize = 3000;

struct Directions {
    std::vector<std::pair<double, double>> by_length; ///< radians, pixels

    /// Mean of those near the median, and how many these are; empty when there are fewer than two.
    std::optional<double> agreed(int& count) const {
        auto v = by_length;
        std::ranges::sort(v);
        double all = 0, half = 0, median = 0, sum = 0, weight = 0;
        for (const auto& [angle, l] : v) all += l;
        for (const auto& [angle, l] : v)
            if ((half += l) >= all / 2) {
                median = angle;
                break;
            }
        count = 0;
        for (const auto& [angle, l] : v)
            if (std::abs(angle - median) < 0.006) sum += angle * l * l, weight += l * l, ++count;
        return count >= 2 ? std::optional(sum / weight) : std::nullopt;
    }
};

} // namespace

Result<Traced> trace(const Picture& picture, Progress& progress) {
    progress.report(0, "Looking for ink");
    const Darkness dark = darknessOf(*picture.scan, picture.region, picture.light_on_dark);
    Traced r;
    if (dark.value.empty()) return r;
    const cv::Mat1b ink = inkOf(dark);
    progress.report(0.3, "Following the lines");
    const Strokes strokes = strokesOf(dark, ink, progress);
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "looking for lines was cancelled");
    progress.report(0.6, "Fitting lines and arcs");
    const double pixel = picture.pixel;
    TracePieces t = piecesOf(strokes, picture.to_sheet, pixel, progress);
    const Affine2 back = picture.to_sheet.inverse();
    bridgeCrowded(t, pixel, [&](Vec2 p) { return dark.at(back(p)) > 0.4F * dark.full; });
    const std::vector<LineRole> roles = joinDashRows(t, pixel);
    if (progress.cancelled()) return failure(ErrorCode::cancelled, "looking for lines was cancelled");
    r.line_width = strokes.width * pixel;
    auto components = componentsOf(t);
    findLettering(components, t, roles, std::max(r.line_width, 2 * pixel));
    keepSymbols(components, t);
    settleJoints(t, pixel);
    std::vector<size_t> kept;
    for (size_t i = 0; i < t.pieces.size(); ++i) {
        const TracePiece& p = t.pieces[i];
        const Component& c = components.at(p.component);
        if (c.lettering) ++r.lettering;
        if (c.speck) ++r.specks;
        if (c.lettering || c.speck || !(lengthOf(p.shape) > pixel)) continue;
        kept.push_back(i);
        r.lines.push_back({p.shape, roles[i], p.width, p.rms});
    }
    const double thin = thinUpTo(r.lines);
    std::vector<LineRole> told(t.pieces.size(), LineRole::unknown);
    for (size_t k = 0; k < kept.size(); ++k) {
        LineRole& role = r.lines[k].role;
        if (role == LineRole::unknown)
            role = r.lines[k].width < thin ? LineRole::dimension : LineRole::outline;
        told[kept[k]] = role;
    }
    for (size_t i : stubsOf(t, told, std::max(r.line_width, 2 * pixel)))
        r.lines[static_cast<size_t>(std::ranges::lower_bound(kept, i) - kept.begin())].role =
            LineRole::dimension;
    return r;
}

void measureAskew(ScanPixels& scan, Progress& progress) {
    progress.report(0.5, "Measuring how the scan lies");
    const double smaller = std::max(1.0, std::max(scan.width, scan.height) / double(kAskewSize));
    ScanPixels reduced;
    const ScanPixels* seen = &scan;
    if (smaller > 1) {
        const cv::Mat1b whole(scan.height, scan.width, scan.grey.data());
        cv::Mat1b small;
        cv::resize(whole, small, {}, 1 / smaller, 1 / smaller, cv::INTER_AREA);
        reduced.width = small.cols, reduced.height = small.rows;
        reduced.grey.assign(small.begin(), small.end());
        seen = &reduced;
    }
    const Box2 all{{0, 0}, {double(seen->width), double(seen->height)}};
    const Darkness dark = darknessOf(*seen, all, scan.light_on_dark);
    if (dark.value.empty()) return;
    const Strokes strokes = strokesOf(dark, inkOf(dark), progress);
    const TracePieces t = piecesOf(strokes, Affine2::scale(1, -1), 1, progress);
    Directions level, upright;
    const double shortest = std::max(40.0, 0.02 * std::min(seen->width, seen->height));
    for (const TracePiece& p : t.pieces) {
        const auto* s = std::get_if<Segment>(&p.shape);
        if (!s || lengthOf(p.shape) < shortest) continue;
        const double a = std::remainder(angleOf(s->b - s->a), kPi);
        constexpr double most = 0.2;
        const double rise = std::remainder(a, kPi), lean = std::remainder(a - kPi / 2, kPi);
        if (std::abs(rise) < most) level.by_length.emplace_back(rise, lengthOf(p.shape));
        if (std::abs(lean) < most) upright.by_length.emplace_back(lean, lengthOf(p.shape));
    }
    const auto l = level.agreed(scan.level_lines), u = upright.agreed(scan.upright_lines);
    if ((l && u) || scan.level_lines >= 3 || scan.upright_lines >= 3)
        scan.askew = Straightening{l.value_or(u.value_or(0)), u.value_or(l.value_or(0))};
}

} // namespace prism
