#include "core/tracing/placing.h"

#include <Eigen/Dense>

namespace prism {
namespace {

/// Resolution taken for pictures whose file says none or nonsense.
constexpr double kUsualDpi = 300;

double dpiOr(double dpi) {
    return dpi >= 20 && dpi <= 10000 ? dpi : kUsualDpi;
}

/// ScanPixels coordinates to steps along the level and the upright direction, y up.
Affine2 straightened(const Straightening& s) {
    const Vec2 u = direction(s.level), v = direction(s.upright + kPi / 2);
    return Affine2{u.x, u.y, v.x, v.y, 0, 0}.inverse() * Affine2::scale(1, -1);
}

struct Step {
    int length;
    Vec2 pixels; ///< along level and upright
    double mm;
};

/// The lengths that set the scale: of a part those within it; else, and of the whole, those in no part; else
/// all.
std::vector<Step> stepsFor(const PictureChoices& choices, int cut, const Affine2& straight) {
    std::vector<Step> r;
    auto take = [&](auto&& holds) {
        for (int i = 0; i < static_cast<int>(choices.lengths.size()); ++i) {
            const KnownLength& k = choices.lengths[i];
            Vec2 d = straight.linear(k.b - k.a);
            if (k.along == KnownLength::Along::level) d.y = 0;
            if (k.along == KnownLength::Along::upright) d.x = 0;
            if (k.mm > 0 && length(d) > 0 && holds(k)) r.push_back({i, d, k.mm});
        }
    };
    auto within = [](const PictureCut& c, const KnownLength& k) {
        return c.box().contains(k.a) && c.box().contains(k.b);
    };
    if (cut >= 0) take([&](const KnownLength& k) { return within(choices.cuts[cut], k); });
    if (r.empty())
        take([&](const KnownLength& k) {
            return std::ranges::none_of(choices.cuts, [&](const PictureCut& c) { return within(c, k); });
        });
    if (r.empty()) take([](const KnownLength&) { return true; });
    return r;
}

/// Scales of both axes for which the lengths fit best (Gauss-Newton), and the inverse of the normal matrix;
/// none when the lengths do not run along both.
struct BothAxes {
    double x, y;
    Eigen::Matrix2d inverse;
};
std::optional<BothAxes> fitBoth(const std::vector<Step>& steps, double x, double y) {
    Eigen::Matrix2d normal;
    for (int round = 0; round < 20; ++round) {
        normal.setZero();
        Eigen::Vector2d right = Eigen::Vector2d::Zero();
        for (const Step& s : steps) {
            const double l = std::hypot(x * s.pixels.x, y * s.pixels.y);
            const Eigen::Vector2d g(x * s.pixels.x * s.pixels.x / l, y * s.pixels.y * s.pixels.y / l);
            normal += g * g.transpose();
            right += g * (s.mm - l);
        }
        // Lengths that are all level, all upright or all at the same slant tell one number only.
        const Eigen::Vector2d own = normal.selfadjointView<Eigen::Lower>().eigenvalues();
        if (!(own[0] > 1e-3 * own[1])) return std::nullopt;
        const Eigen::Vector2d step = normal.inverse() * right;
        x += step[0], y += step[1];
        if (!(x > 0 && y > 0)) return std::nullopt;
        if (step.norm() < 1e-12 * std::hypot(x, y)) break;
    }
    return BothAxes{x, y, normal.inverse()};
}

} // namespace

bool Calibration::stretched() const {
    return stretch && std::abs(*stretch - 1) > std::max(2 * stretch_error, 5e-4);
}

Straightening straighteningOf(const ScanPixels& scan, const PictureChoices& choices) {
    return choices.straighten ? *choices.straighten : scan.askew.value_or(Straightening{});
}

KnownLength lengthBetween(const ScanPixels& scan, const PictureChoices& choices, Vec2 a, Vec2 b, double mm) {
    constexpr double nearly = 0.05;
    const Vec2 d = straightened(straighteningOf(scan, choices)).linear(b - a);
    using Along = KnownLength::Along;
    const Along along = std::abs(d.y) < nearly * std::abs(d.x)   ? Along::level
                        : std::abs(d.x) < nearly * std::abs(d.y) ? Along::upright
                                                                 : Along::aligned;
    return {a, b, mm, along};
}

Calibration calibrate(const ScanPixels& scan, const PictureChoices& choices, int cut) {
    const Straightening s = straighteningOf(scan, choices);
    const Vec2 u = direction(s.level), v = direction(s.upright + kPi / 2);
    const Affine2 paper = Affine2::scale(25.4 / dpiOr(scan.dpi_x), 25.4 / dpiOr(scan.dpi_y));
    Calibration c{length(paper(u)), length(paper(v)), {}, 0, {}, 0, false};
    const std::vector<Step> steps = stepsFor(choices, cut, straightened(s));
    if (steps.empty()) return c;
    double square = 0, product = 0;
    for (const Step& k : steps) {
        const double l = std::hypot(c.mm_x * k.pixels.x, c.mm_y * k.pixels.y);
        square += l * l, product += l * k.mm;
    }
    const double factor = product / square;
    const double pick = kPickError * std::numbers::sqrt2; // both ends
    if (const auto both = fitBoth(steps, c.mm_x * factor, c.mm_y * factor)) {
        const double ratio = both->y / both->x * c.mm_x / c.mm_y;
        const double sigma = pick * (both->x + both->y) / 2;
        const Eigen::Vector2d g(-ratio / both->x, ratio / both->y);
        c.stretch = ratio;
        c.stretch_error = sigma * std::sqrt(g.dot(both->inverse * g));
        c.corrected = choices.correct_stretch && c.stretched();
        if (c.corrected) c.mm_x = both->x, c.mm_y = both->y;
    }
    if (!c.corrected) c.mm_x *= factor, c.mm_y *= factor;
    double pixels = 0;
    for (const Step& k : steps) pixels += dot(k.pixels, k.pixels);
    c.relative_error = pick / std::sqrt(pixels);
    for (const Step& k : steps) {
        const double l = std::hypot(c.mm_x * k.pixels.x, c.mm_y * k.pixels.y);
        c.fits.push_back({k.length, length(k.pixels), l, pick * l / length(k.pixels)});
    }
    return c;
}

Result<Straightening> straightenedBy(const ScanPixels& scan, const PictureChoices& choices, Vec2 a, Vec2 b,
                                     bool level) {
    // Directions are kept as they lie in the scan, counter-clockwise.
    const double turned = std::remainder(angleOf({b.x - a.x, a.y - b.y}) - (level ? 0 : kPi / 2), kPi);
    if (std::abs(turned) > kPi / 8)
        return failure(ErrorCode::impossible,
                       level ? "that line is nowhere near level" : "that line is nowhere near upright");
    const Straightening now = straighteningOf(scan, choices);
    const double by = turned - (level ? now.level : now.upright);
    return level ? Straightening{turned, now.upright + by} : Straightening{now.level + by, turned};
}

std::vector<Picture> placed(std::shared_ptr<const ScanPixels> scan, const std::string& name,
                            const PictureChoices& choices) {
    const Affine2 straight = straightened(straighteningOf(*scan, choices));
    const bool light = choices.light_on_dark.value_or(scan->light_on_dark);
    const Box2 all{{0, 0}, {double(scan->width), double(scan->height)}};
    const Calibration whole = calibrate(*scan, choices, -1);
    // The lower left corner of the straightened scan lies in the origin.
    Box2 b;
    for (Vec2 p : {all.lo, Vec2{all.hi.x, 0}, all.hi, Vec2{0, all.hi.y}})
        b.add(Affine2::scale(whole.mm_x, whole.mm_y)(straight(p)));
    auto picture = [&](const std::string& called, const Box2& region, const Calibration& c, double apart) {
        const Affine2 sized = Affine2::scale(c.mm_x, c.mm_y) * straight;
        const Vec2 middle = region.centre();
        const Vec2 stands =
            ((Affine2::shift(-b.lo) * Affine2::scale(whole.mm_x, whole.mm_y) * straight)(middle)) * apart;
        return Picture{called,
                       scan,
                       region,
                       light,
                       Affine2::shift(stands - sized(middle)) * sized,
                       std::sqrt(c.mm_x * c.mm_y)};
    };
    if (choices.cuts.empty()) return {picture(name, all, whole, 1)};
    std::vector<Calibration> scales;
    double apart = 1;
    for (int i = 0; i < static_cast<int>(choices.cuts.size()); ++i) {
        scales.push_back(calibrate(*scan, choices, i));
        apart = std::max({apart, scales[i].mm_x / whole.mm_x, scales[i].mm_y / whole.mm_y});
    }
    std::vector<Picture> r;
    for (size_t i = 0; i < choices.cuts.size(); ++i)
        r.push_back(picture(choices.cuts[i].name, choices.cuts[i].box(), scales[i], apart));
    return r;
}

int pictureAt(const std::vector<Picture>& pictures, Vec2 sheet) {
    for (size_t i = 0; i < pictures.size(); ++i)
        if (pictures[i].region.contains(pictures[i].to_sheet.inverse()(sheet))) return static_cast<int>(i);
    return -1;
}

} // namespace prism
