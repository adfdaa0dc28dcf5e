#include "core/tracing/placing.h"
#include "core/tracing/trace.h"
#include "support/paper_scan.h"

#include <random>

using namespace prism;
using test::PaperScan;
using test::ScanSetting;

// Random drawings of six figures each, scanned: every line of known place comes back, and none besides.

namespace {

NoProgress g_quiet;

struct Expected {
    Curve shape; ///< mm on the paper
    LineRole role = LineRole::outline;
    bool in_pieces = false; ///< it may be traced in several
};

class Sheet {
  public:
    Sheet(const ScanSetting& s, unsigned seed) : paper(s), random_(seed) {}

    void segment(Vec2 a, Vec2 b) {
        paper.line(a, b);
        expected.push_back({Segment{a, b}});
    }
    void chain(const std::vector<Vec2>& p) {
        for (size_t i = 0; i < p.size(); ++i) segment(p[i], p[(i + 1) % p.size()]);
    }
    void arc(Vec2 c, double r, double from, double sweep) {
        paper.arc(c, r, from, sweep);
        expected.push_back({Arc{c, r, from, sweep}});
    }
    void thin(Vec2 a, Vec2 b) {
        paper.line(a, b, 0.22);
        expected.push_back({Segment{a, b}, LineRole::dimension, true});
    }
    double in(double lo, double hi) { return std::uniform_real_distribution(lo, hi)(random_); }

    /// A figure within a square of 36 mm from `o` on.
    void figure(int kind, Vec2 o) {
        const auto at = [&](double x, double y) { return o + Vec2{x, y}; };
        if (kind == 0) { // a plate with two round corners
            const double r = in(3, 10);
            segment(at(0, 0), at(36, 0)), segment(at(36, 0), at(36, 30 - r));
            arc(at(36 - r, 30 - r), r, 0, kPi / 2);
            segment(at(36 - r, 30), at(r, 30));
            arc(at(r, 30 - r), r, kPi / 2, kPi / 2);
            segment(at(0, 30 - r), at(0, 0));
        } else if (kind == 1) { // a slot, and a rim round it
            const double r = in(4, 7), far = r + in(2, 3.5);
            for (const double q : {r, far}) {
                arc(at(12, 15), q, kPi / 2, kPi), arc(at(24, 15), q, -kPi / 2, kPi);
                segment(at(12, 15 + q), at(24, 15 + q)), segment(at(12, 15 - q), at(24, 15 - q));
            }
        } else if (kind == 2) { // lines across each other at any angle
            chain({at(0, 0), at(36, 0), at(36, 34), at(0, 34)});
            const double a = in(4, 14), b = in(20, 32);
            segment(at(a, 0), at(b, 34)), segment(at(b, 0), at(a, 34));
            segment(at(0, in(4, 10)), at(36, in(4, 10)));
        } else if (kind == 3) { // rings
            double r = in(2.5, 4);
            for (int n = 0; n < 3; ++n, r += in(2, 5)) arc(at(18, 17), r, 0, 2 * kPi);
        } else if (kind == 4) { // a line that touches a hole, and one that passes close by it
            chain({at(0, 0), at(36, 0), at(36, 34), at(0, 34)});
            const double r = in(4, 8), x = in(12, 22), y = in(12, 20);
            arc(at(x, y), r, 0, 2 * kPi);
            segment(at(0, y + r), at(36, y + r)), expected.back().in_pieces = true;
            segment(at(x - r - in(2, 3), 0), at(x - r - 2, y + r)), expected.back().in_pieces = true;
        } else if (kind == 5) { // small steps
            std::vector<Vec2> p{at(0, 0), at(36, 0)};
            double x = 36, y = in(6, 10);
            for (int n = 0; n < 4; ++n) {
                p.push_back(at(x, y)), x -= in(3, 7), p.push_back(at(x, y)), y += in(3, 6);
            }
            p.push_back(at(x, y)), p.push_back(at(0, y));
            chain(p);
        } else if (kind == 6) { // chamfers, and a leader that leaves beside one
            const double c = in(1.5, 4);
            chain({at(c, 0), at(36, 0), at(36, 28), at(36 - c, 28 + c), at(0, 28 + c), at(0, c)});
            thin(at(in(8, 28), 14), at(in(8, 28), 36));
        } else { // hidden lines up to the outline and each other
            chain({at(0, 0), at(36, 0), at(36, 34), at(0, 34)});
            const double x = in(18, 30), y = in(8, 26);
            paper.dashed(at(x, 0), at(x, 34), 3, 1.2), paper.dashed(at(0, y), at(x, y), 3, 1.2);
            expected.push_back({Segment{at(x, 0), at(x, 34)}, LineRole::hidden});
            expected.push_back({Segment{at(0, y), at(x, y)}, LineRole::hidden});
        }
    }

    PaperScan paper;
    std::vector<Expected> expected;

  private:
    std::mt19937 random_;
};

/// The curve as it lies on the sheet of the picture: the scan is neither turned nor stretched.
Curve onSheet(const Curve& c, const Sheet& s, const Picture& p) {
    const Vec2 zero = p.to_sheet(s.paper.at({0, 0}));
    const Vec2 one = p.to_sheet(s.paper.at({1, 0}));
    const double k = distance(zero, one);
    return transformed(c, Affine2{k, 0, 0, k, zero.x, zero.y});
}

constexpr double kOff = 0.2; ///< mm

/// Whether one curve lies on another one.
bool isOn(const Curve& c, const Curve& other, double tol) {
    return std::ranges::all_of(std::array{0.0, 0.25, 0.5, 0.75, 1.0},
                               [&](double t) { return distanceTo(other, pointAt(c, t)) < tol; });
}
bool isNear(const Curve& found, const Curve& wanted, double tol) {
    return std::abs(lengthOf(found) - lengthOf(wanted)) <= 4 * tol && isOn(found, wanted, tol) &&
           isOn(wanted, found, tol);
}

} // namespace

TEST_CASE("random figures are traced line by line, with what each stands for", "[scan][trace]") {
    const unsigned seed = GENERATE(range(1u, 25u));
    CAPTURE(seed);
    ScanSetting s;
    s.grain = seed % 2 ? 0 : 5, s.seed = seed, s.dpi = seed % 3 == 0 ? 300 : 200;
    Sheet sheet(s, seed);
    for (int k = 0; k < 6; ++k)
        sheet.figure(static_cast<int>(seed + static_cast<unsigned>(k) * (seed % 2 ? 1 : 3)) % 8,
                     {12.0 + 46 * (k % 3), 10.0 + 50 * (k / 3)});
    auto scan = std::make_shared<ScanPixels>(sheet.paper.pixels());
    const Picture p = placed(scan, "scan", {})[0];
    const auto t = trace(p, g_quiet);
    REQUIRE(t);
    std::vector<bool> used(t->lines.size(), false);
    for (const Expected& e : sheet.expected) {
        const Curve wanted = onSheet(e.shape, sheet, p);
        const Vec2 from = startOf(e.shape), to = endOf(e.shape);
        CAPTURE(from.x, from.y, to.x, to.y, lengthOf(e.shape));
        double traced = 0;
        for (size_t i = 0; i < used.size(); ++i) {
            const TracedLine& l = t->lines[i];
            const bool piece = e.in_pieces && isOn(l.shape, wanted, kOff);
            if (used[i] || !(piece || (traced == 0 && isNear(l.shape, wanted, kOff)))) continue;
            used[i] = true, traced += lengthOf(l.shape);
            CHECK(l.role == e.role);
        }
        CHECK(traced > lengthOf(wanted) - 4 * kOff);
        CHECK(traced < lengthOf(wanted) + (e.in_pieces ? 3 : 4 * kOff)); // pieces may lie on each other
    }
    for (size_t i = 0; i < used.size(); ++i) {
        const Vec2 from = startOf(t->lines[i].shape), to = endOf(t->lines[i].shape);
        CAPTURE(from.x, from.y, to.x, to.y);
        CHECK(used[i]);
    }
}
